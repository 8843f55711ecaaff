// Pictures under the floor, and photographs pinned to it.
#include "app/frame/file_dialog.h"
#include "app/look/painters.h"
#include "app/survey/survey_stage.h"
#include "core/base/lookup.h"
#include <QDateTime>
#include <QDropEvent>
#include <QFileInfo>
#include <QMimeData>

namespace burin {

void SurveyStage::askPicture() {
    if (!session_.hasJob())
        return;
    const QString path = askFile(this, session_, Ask::Open, tr("Picture of the floor"),
                                 tr("Plans (*.png *.jpg *.jpeg *.svg *.pdf)"));
    if (!path.isEmpty())
        bringPicture(path);
}

void SurveyStage::bringPicture(const QString& path, int page) {
    if (!session_.hasJob())
        return;
    if (session_.pending().floors.empty())
        addFloor();
    emit session_.message(tr("Reading %1…").arg(QFileInfo(path).fileName()), false);
    loader_->drop();
    loader_->read(path, page, PictureLoader::mostPx,
                  [this, page, floorId = plan_->floorId()](const LoadedPicture& picture) {
                      takePicture(picture, page, floorId);
                  });
}

void SurveyStage::takePicture(const LoadedPicture& read, int page, const std::string& floorId) {
    const Floor* floor = byId(session_.pending().floors, floorId);
    if (floor == nullptr || !read.fault.isEmpty()) {
        emit session_.message(floor == nullptr ? tr("the floor is gone") : read.fault, true);
        return;
    }
    Floor after = *floor;
    FloorPicture picture;
    picture.hash = read.file.hash;
    picture.name = read.file.name;
    picture.page = page;
    picture.widthPx = read.image.width();
    picture.heightPx = read.image.height();
    picture.metresPerPixel = floor->widthM / read.image.width();
    after.depthM = picture.metresPerPixel * read.image.height();
    after.picture = picture;
    shownPicture_ = picture.hash + std::to_string(page);
    plan_->setPicture(read.image);
    showPages(read.pages, page);
    session_.commit(
        {"picture of " + floor->name, {put(std::optional(*floor), std::optional(after))}},
        {read.file});
    QString text = tr("Now its scale: two points, and the distance between them (Z).");
    if (read.scaled)
        text += tr(" It was large, and is shown at %1 px.").arg(PictureLoader::mostPx);
    if (read.pages > 1)
        text += tr(" It has %1 pages; another is taken above.").arg(read.pages);
    if (!read.note.isEmpty())
        text += tr(" Not all of it is shown: %1.").arg(read.note);
    emit session_.message(text, false);
    plan_->setTool(Tool::Scale);
}

void SurveyStage::turnTo(int page) {
    const Floor* floor = byId(session_.pending().floors, plan_->floorId());
    if (floor == nullptr || !floor->picture || floor->picture->page == page)
        return;
    loader_->drop();
    loader_->readKept(session_.snapshot().path, floor->picture->hash, page, PictureLoader::mostPx,
                      [this, page, id = floor->id](const LoadedPicture& read) {
                          const Floor* now = byId(session_.pending().floors, id);
                          if (now == nullptr || !now->picture || !read.fault.isEmpty()) {
                              // What lies there, and the page it is, are shown again.
                              shownPicture_.clear();
                              showPicture();
                              emit session_.message(read.fault.isEmpty() ? tr("the floor is gone")
                                                                         : read.fault,
                                                    true);
                              return;
                          }
                          Floor after = *now;
                          after.picture->page = page;
                          after.picture->widthPx = read.image.width();
                          after.picture->heightPx = read.image.height();
                          session_.commit({"page of the plan of " + now->name,
                                           {put(std::optional(*now), std::optional(after))}});
                      });
}

void SurveyStage::showPages(int pages, int page) {
    const QSignalBlocker quiet(page_);
    page_->setRange(1, std::max(1, pages));
    page_->setPrefix(tr("page "));
    page_->setSuffix(tr(" of %1").arg(pages));
    page_->setValue(page + 1);
    page_->setVisible(pages > 1);
}

void SurveyStage::showPicture() {
    const Floor* floor = byId(session_.job().floors, plan_->floorId());
    const std::string wanted = floor == nullptr || !floor->picture
                                   ? std::string()
                                   : floor->picture->hash + std::to_string(floor->picture->page);
    if (wanted == shownPicture_)
        return;
    shownPicture_ = wanted;
    plan_->setPicture({});
    if (wanted.empty()) {
        showPages(0, 0);
        return;
    }
    loader_->readKept(session_.snapshot().path, floor->picture->hash, floor->picture->page,
                      PictureLoader::mostPx,
                      [this, wanted, page = floor->picture->page](const LoadedPicture& picture) {
                          if (wanted != shownPicture_)
                              return;
                          plan_->setPicture(picture.image);
                          showPages(picture.pages, page);
                          if (!picture.fault.isEmpty())
                              emit session_.message(picture.fault, true);
                      });
}

void SurveyStage::pinPhotographs(const QStringList& paths, const PlanPoint& at) {
    if (!session_.hasJob() || paths.isEmpty())
        return;
    auto pins = std::make_shared<Pins>();
    pins->left = paths.size();
    pins->floorId = plan_->floorId();
    pins->at = at;
    emit session_.message(tr("Reading %n photograph(s)…", nullptr, static_cast<int>(paths.size())),
                          false);
    for (const auto& path : paths)
        photographs_->read(path, 0, 64, [this, pins](const LoadedPicture& picture) {
            if (picture.fault.isEmpty())
                pins->good.push_back(picture);
            else
                pins->faults << picture.fault;
            if (--pins->left == 0)
                takePhotographs(*pins);
        });
}

void SurveyStage::takePhotographs(const Pins& pins) {
    const Job& job = session_.pending();
    Edit edit{"pin photographs", {}};
    std::vector<Attachment> files;
    QStringList days;
    for (const auto& picture : pins.good) {
        Photograph photo = photographAt(job, pins.floorId, pins.at, session_.current());
        photo.hash = picture.file.hash;
        photo.name = picture.file.name;
        photo.takenOn = picture.takenOn;
        if (photo.takenOn.empty())
            photo.takenOn =
                QFileInfo(picture.path).lastModified().date().toString(Qt::ISODate).toStdString();
        days << (picture.takenOn.empty() ? tr("%1 by the file's date").arg(q(photo.takenOn))
                                         : tr("%1 by the camera").arg(q(photo.takenOn)));
        files.push_back(picture.file);
        edit.changes.push_back(put(std::optional<Photograph>{}, std::optional(photo)));
    }
    session_.commit(edit, std::move(files));
    if (!edit.changes.empty()) {
        plan_->setTool(Tool::Choose);
        plan_->choose(edit.changes.front().id);
    }
    days.removeDuplicates();
    if (!pins.faults.isEmpty())
        emit session_.message(pins.faults.join(QLatin1Char('\n')), true);
    else
        emit session_.message(tr("%1 pinned, taken %2. Say at the right what it shows.")
                                  .arg(static_cast<int>(pins.good.size()))
                                  .arg(days.join(QStringLiteral(", "))),
                              false);
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
