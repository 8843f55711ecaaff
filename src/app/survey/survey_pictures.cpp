// Pictures under the floor, and photographs pinned to it.
#include "app/look/painters.h"
#include "app/survey/survey_stage.h"
#include "core/lookup.h"
#include "files/picture_folder.h"
#include "files/text_cursor.h"
#include <QDateTime>
#include <QDropEvent>
#include <QFileDialog>
#include <QFileInfo>
#include <QMimeData>

namespace burin {

void SurveyStage::askPicture() {
    if (!session_.hasJob())
        return;
    QFileDialog dialog(this, tr("Picture of the floor"), {},
                       tr("Plans (*.png *.jpg *.jpeg *.svg *.pdf)"));
    dialog.setOption(QFileDialog::DontUseNativeDialog);
    dialog.setFileMode(QFileDialog::ExistingFile);
    if (dialog.exec() == QDialog::Accepted)
        bringPicture(dialog.selectedFiles().value(0));
}

void SurveyStage::bringPicture(const QString& path, int page) {
    if (!session_.hasJob())
        return;
    if (session_.pending().floors.empty())
        addFloor();
    bringing_ = true;
    bringingTo_ = plan_->floorId();
    bringingPage_ = page;
    loader_->read(path, page);
}

void SurveyStage::takePicture(const QString& path, const QImage& image, int pages, bool scaled) {
    if (!bringing_) {
        plan_->setPicture(image);
        return;
    }
    bringing_ = false;
    const Floor* floor = byId(session_.pending().floors, bringingTo_);
    auto bytes = readWholeFile(path.toStdString());
    if (floor == nullptr || !bytes) {
        emit session_.message(bytes ? tr("the floor is gone") : q(bytes.error().text()), true);
        return;
    }
    const Attachment file = attach(QFileInfo(path).fileName().toStdString(), std::move(*bytes));
    Floor after = *floor;
    FloorPicture picture;
    picture.hash = file.hash;
    picture.name = file.name;
    picture.page = bringingPage_;
    picture.widthPx = image.width();
    picture.heightPx = image.height();
    picture.metresPerPixel = floor->widthM / image.width();
    after.depthM = picture.metresPerPixel * image.height();
    after.picture = picture;
    shownPicture_ = picture.hash + std::to_string(picture.page);
    plan_->setPicture(image);
    session_.commit(
        {"picture of " + floor->name, {put(std::optional(*floor), std::optional(after))}}, {file});
    QString text = tr("Now its scale: two points, and the distance between them (Z).");
    if (scaled)
        text += tr(" It was large, and is shown at %1 px.").arg(PictureLoader::mostPx);
    if (pages > 1)
        text += tr(" Page %1 of %2.").arg(bringingPage_ + 1).arg(pages);
    emit session_.message(text, false);
    plan_->setTool(Tool::Scale);
}

void SurveyStage::showPicture() {
    const Floor* floor = byId(session_.job().floors, plan_->floorId());
    const std::string wanted = floor == nullptr || !floor->picture
                                   ? std::string()
                                   : floor->picture->hash + std::to_string(floor->picture->page);
    if (wanted == shownPicture_ || bringing_)
        return;
    shownPicture_ = wanted;
    plan_->setPicture({});
    if (wanted.empty())
        return;
    const auto path = picturePath(session_.snapshot().path, floor->picture->hash);
    if (path)
        loader_->read(*path, floor->picture->page);
    else
        emit session_.message(q(path.error().text()), true);
}

void SurveyStage::pinPhotographs(const QStringList& paths, const PlanPoint& at) {
    if (!session_.hasJob())
        return;
    Edit edit{"pin photographs", {}};
    std::vector<Attachment> files;
    for (const auto& path : paths) {
        auto bytes = readWholeFile(path.toStdString());
        if (!bytes) {
            emit session_.message(q(bytes.error().text()), true);
            continue;
        }
        files.push_back(attach(QFileInfo(path).fileName().toStdString(), std::move(*bytes)));
        Photograph photo;
        photo.id = newId();
        photo.hash = files.back().hash;
        photo.name = files.back().name;
        photo.takenOn = QFileInfo(path).lastModified().date().toString(Qt::ISODate).toStdString();
        photo.floorId = plan_->floorId();
        photo.at = at;
        photo.roomId = roomAt(session_.pending(), photo.floorId, at);
        for (const auto& surface : session_.pending().surfaces) {
            double away = 1;
            if (surface.floorId == photo.floorId && surface.points.size() > 1)
                nearestAlongM(surface.points, at, &away);
            if (away < 1)
                photo.surfaceId = surface.id;
        }
        edit.changes.push_back(put(std::optional<Photograph>{}, std::optional(photo)));
    }
    session_.commit(edit, std::move(files));
}

void SurveyStage::dragEnterEvent(QDragEnterEvent* event) {
    if (event->mimeData()->hasUrls() && session_.hasJob())
        event->acceptProposedAction();
}

void SurveyStage::dropEvent(QDropEvent* event) {
    QStringList files;
    for (const auto& url : event->mimeData()->urls())
        if (url.isLocalFile())
            files << url.toLocalFile();
    if (files.isEmpty() || !session_.hasJob())
        return;
    event->acceptProposedAction();
    const Floor* floor = byId(session_.job().floors, plan_->floorId());
    // Onto a floor without a picture the first is its plan; else they are photographs of the place.
    if (floor == nullptr || !floor->picture)
        bringPicture(files.front());
    else
        pinPhotographs(files, plan_->pointOf(plan_->mapFrom(this, event->position().toPoint())));
}

} // namespace burin
