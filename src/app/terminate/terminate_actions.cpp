#include "app/frame/file_dialog.h"
#include "app/frame/save_dialog.h"
#include "app/terminate/terminate_stage.h"
#include "core/base/ids.h"
#include "core/base/lookup.h"
#include "files/end_print.h"
#include <QFileInfo>

namespace burin {

void TerminateStage::turnTo(bool far) {
    far_ = far;
    refresh();
}

MadeWith TerminateStage::with() const {
    return {session_.today(), who_->text().trimmed().toStdString(),
            strip_->currentData().toString().toStdString(),
            close_->currentData().toString().toStdString()};
}

void TerminateStage::commit(const Edit& edit) {
    if (!edit.changes.empty())
        session_.commit(edit);
}

void TerminateStage::made() {
    const auto ends = list_->endsToMake();
    if (ends.empty()) {
        emit session_.message(tr("Nothing that is chosen is left to make."), false);
        return;
    }
    commit(madeEnds(session_.pending(), session_.catalogue(), ends, with()));
    list_->goOn();
}

void TerminateStage::spoiled() {
    const auto ends = list_->chosenEnds();
    if (ends.size() != 1) {
        emit session_.message(tr("Choose the one end that was spoiled."), true);
        return;
    }
    commit(spoiledEnd(session_.pending(), session_.catalogue(), ends.front(), with()));
}

void TerminateStage::unmade() {
    const Edit edit = unmadeEnds(session_.pending(), list_->chosenEnds());
    if (edit.changes.empty())
        emit session_.message(tr("Nothing is written down of it: a run that was measured has its "
                                 "ends made."),
                              false);
    commit(edit);
}

void TerminateStage::askPhotograph() {
    const QString file = askFile(this, session_, Ask::Open, tr("Photograph of the chosen ends"),
                                 tr("Pictures (*.png *.jpg *.jpeg)"));
    if (!file.isEmpty())
        bringPhotographs({file});
}

void TerminateStage::bringPhotographs(const QStringList& files) {
    std::vector<EndAt> ends = list_->chosenEnds();
    std::erase_if(ends,
                  [&](const EndAt& at) { return !lastMade(session_.pending(), at).standing(); });
    if (ends.empty()) {
        emit session_.message(tr("Nothing that is chosen is made yet: a photograph shows what is "
                                 "made."),
                              true);
        return;
    }
    if (files.size() > 1) {
        emit session_.message(tr("One photograph shows an end: bring one of them."), true);
        return;
    }
    photographs_->read(files.front(), 0, 64, [this, ends](const LoadedPicture& picture) {
        if (!picture.fault.isEmpty()) {
            emit session_.message(picture.fault, true);
            return;
        }
        Photograph photo;
        photo.id = newId();
        photo.hash = picture.file.hash;
        photo.name = picture.file.name;
        photo.work = "ends made";
        photo.takenOn = picture.takenOn.empty() ? session_.today() : picture.takenOn;
        session_.commit(photographedEnds(session_.pending(), ends, photo), {picture.file});
        emit session_.message(
            tr("%1 shows %n end(s).", nullptr, static_cast<int>(ends.size())).arg(q(photo.name)),
            false);
    });
}

void TerminateStage::openOwn() {
    const Run* run = session_.current();
    if (run == nullptr)
        return;
    const EndFinding found = findEnd(*run, end(), session_.catalogue());
    if (found.card.card == nullptr)
        return;
    pages_->setCurrentWidget(ownLengths_);
    ownLengths_->open(*found.card.card, found.card.connection->id);
}

void TerminateStage::adopt(int index) {
    const Run* run = session_.pending().run(session_.currentId());
    if (run == nullptr || index < 0)
        return;
    const Edit edit = adoptedConnector(session_.pending(), session_.catalogue(), run->id, end(),
                                       connector_->itemData(index).toString().toStdString());
    if (!edit.changes.empty())
        session_.commit(edit);
}

void TerminateStage::adoptAlike(Alike where) {
    const Run* run = session_.pending().run(session_.currentId());
    const QString id = connector_->currentData().toString();
    if (run == nullptr || id.isEmpty())
        return;
    const Edit edit = adoptedAlike(session_.pending(), session_.catalogue(), run->id, end(),
                                   id.toStdString(), where);
    if (edit.changes.empty())
        emit session_.message(tr("All such ends have it already."), false);
    else
        session_.commit(edit);
}

void TerminateStage::print() {
    const Run* run = session_.current();
    if (run == nullptr)
        return;
    const auto kind = [&](const QString& filter, PaperSize paper) {
        return SaveKind{filter, QStringLiteral("pdf"),
                        [snapshot = session_.snapshot(), id = run->id, end = end(),
                         units = session_.units(), paper] {
                            const Run* of = snapshot.job->run(id);
                            return cardPdf(findEnd(*of, end, *snapshot.catalogue).card,
                                           snapshot.job->info.name, units, paper);
                        }};
    };
    saveAs(this, session_, tr("Print the card at its true size"),
           onPaperSizes(session_, kind(tr("PDF, A4 (*.pdf)"), PaperSize::A4),
                        kind(tr("PDF, Letter (*.pdf)"), PaperSize::Letter)));
}

QList<KeyHelp> TerminateStage::keys() const {
    return {{tr("Space"), tr("in the list: made; on a place, all that are left of it")},
            {tr("X"), tr("a try that was spoiled")},
            {tr("Backspace"), tr("not made after all")},
            {tr("P"), tr("a photograph of what is chosen")},
            {tr("Ctrl+E"), tr("the other end of the run")},
            {tr("Left, Right, Plus, Minus, Enter"),
             tr("while the screen is measured: longer, shorter, kept")}};
}

} // namespace burin
