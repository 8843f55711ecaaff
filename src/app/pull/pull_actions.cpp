#include "app/frame/working_view.h"
#include "app/look/painters.h"
#include "app/pull/pull_stage.h"
#include "app/pull/pull_words.h"
#include "core/base/lookup.h"
#include "core/edit/apply.h"
#include "files/pull_print.h"
#include "files/whole_file.h"
#include <QApplication>
#include <QFileDialog>
#include <QHBoxLayout>
#include <QPointer>
#include <QThreadPool>

/// What is done in the Pull stage; what it shows is in pull_stage.cpp.
namespace burin {

void PullStage::commit(const Outcome<Edit>& edit) {
    if (!edit)
        emit session_.message(q(edit.error().text()), true);
    else
        session_.commit(*edit);
}

/// A new box, or the one that is typed over.
void PullStage::keepBox() {
    const std::string text = newBox_->text().toStdString();
    Outcome<Edit> edit = Edit{};
    if (boxId_.empty()) {
        const auto box = readBox(text, session_.pending(), session_.catalogue());
        edit = box ? Outcome<Edit>(Edit{"add box " + box->name,
                                        put(std::optional<Box>(), std::optional(*box))})
                   : Outcome<Edit>(refuse(box.error()));
    } else {
        edit = retypedBox(text, boxId_, session_.pending(), session_.catalogue());
    }
    if (edit)
        if (const auto tried = apply(session_.pending(), *edit); !tried)
            edit = refuse(tried.error());
    if (!edit) {
        emit session_.message(q(edit.error().text()), true);
        if (edit.error().column > 0)
            newBox_->setCursorPosition(edit.error().column - 1);
        return;
    }
    session_.commit(*edit);
    newBox_->clear();
    boxId_.clear();
}

void PullStage::typeOver(const QString& boxId) {
    if (const Box* box = byId(session_.pending().boxes, boxId.toStdString())) {
        boxId_ = box->id;
        newBox_->setText(q(boxText(*box)));
        newBox_->setFocus(Qt::OtherFocusReason);
    }
}

QWidget* PullStage::makePrints() {
    auto* row = new QWidget(this);
    auto* links = new QHBoxLayout(row);
    links->setContentsMargins(0, 0, 0, 0);
    links->setSpacing(12);
    const auto add = [&](const QString& text, const char* name, auto slot) {
        auto* button = link(text, this);
        button->setObjectName(QLatin1String(name));
        connect(button, &QPushButton::clicked, this, slot);
        links->addWidget(button);
    };
    // Drawn beside the screen, of the job and its plan as they are now.
    add(tr("print list"), "printList", [this] {
        print(tr("list to work down"), [snapshot = session_.snapshot(), units = session_.units(),
                                        all = session_.jobFindings()] {
            return pullListPdf(*snapshot.job, all->pulls, *snapshot.site, units, PaperSize::A4);
        });
    });
    add(tr("labels"), "printLabels", [this] {
        const auto labels = endLabels(session_.job());
        if (labels.empty())
            return emit session_.message(
                tr("This job numbers nothing while pulling: see its rules beside the plan."), true);
        print(tr("labels"), [labels, snapshot = session_.snapshot()] {
            return labelsPdf(labels, snapshot.catalogue->labels.front(), snapshot.job->info.name);
        });
    });
    add(tr("materials"), "materials", [this] { showMaterials(); });
    add(tr("days"), "printDays", [this] {
        print(tr("days"), [snapshot = session_.snapshot(), all = session_.jobFindings()] {
            return daysPdf(all->days, *snapshot.job, all->pulls, PaperSize::A4);
        });
    });
    links->addStretch(1);
    return row;
}

/// Asks where to, and writes a whole PDF or none.
void PullStage::print(const QString& what, const std::function<std::string()>& bytes) {
    if (plan() == nullptr)
        return;
    QFileDialog dialog(this, tr("Print %1 as PDF").arg(what), {}, tr("PDF (*.pdf)"));
    dialog.setOption(QFileDialog::DontUseNativeDialog);
    dialog.setAcceptMode(QFileDialog::AcceptSave);
    dialog.setDefaultSuffix(QStringLiteral("pdf"));
    if (dialog.exec() != QDialog::Accepted || dialog.selectedFiles().isEmpty())
        return;
    const QString path = dialog.selectedFiles().front();
    const std::string job = session_.snapshot().path.toStdString();
    QThreadPool::globalInstance()->start([session = QPointer<Session>(&session_), path, job,
                                          bytes] {
        QString said = tr("printed to %1").arg(path);
        bool bad = false;
        try {
            if (const auto written = writeWholeFile(path.toStdString(), bytes(), {job}); !written) {
                said = q(written.error().text());
                bad = true;
            }
        } catch (const std::exception& unforeseen) {
            said = tr("That was not printed: %1").arg(QString::fromUtf8(unforeseen.what()));
            bad = true;
        }
        QMetaObject::invokeMethod(qApp, [session, said, bad] {
            if (session)
                emit session->message(said, bad);
        });
    });
}

void PullStage::showMaterials() {
    if (plan() == nullptr)
        return;
    QString text;
    for (const auto& line :
         findMaterials(session_.job(), session_.catalogue(), *session_.site(), *plan())) {
        const auto amount = [&](double value) {
            return line.metres ? q(formatLength(value, session_.units(), 0))
                               : q(formatFixed(std::ceil(value), 0));
        };
        text += tr("%1: %2 needed").arg(q(line.name), amount(line.needed));
        if (line.waste > 0)
            text += tr(", %1 waste").arg(amount(line.waste));
        if (line.atHand > 0)
            text += tr(", %1 at hand").arg(amount(line.atHand));
        if (line.boxes > 0)
            text += tr(", %1 to buy")
                        .arg(line.boxes == 1 ? tr("1 box") : tr("%1 boxes").arg(line.boxes));
        else if (line.toBuy > 0)
            text += tr(", %1 to buy").arg(amount(line.toBuy));
        if (line.price && *line.price > 0)
            text += tr(", %1 %2").arg(q(formatFixed(*line.price, 2)),
                                      q(session_.job().info.survey.currency));
        text += QLatin1Char('\n');
    }
    showText(this, tr("Materials still wanted"), text);
}

void PullStage::change(const QString& title, const std::function<void(Pull&)>& change) {
    if (pull() != nullptr)
        session_.commit(changedPull(session_.pending(), pullOf(*pull(), session_.pending()),
                                    title.toStdString(), change));
}

void PullStage::move(int by) {
    const PullPlan* now = plan();
    const PullFinding* chosen = pull();
    if (chosen == nullptr)
        return;
    const auto at = static_cast<int>(chosen - now->pulls.data());
    const int to = at + by;
    if (to < 0 || to >= static_cast<int>(now->pulls.size()))
        return;
    std::vector<PullOf> order;
    for (int i = 0; i <= std::max(at, to); ++i) {
        const int from = i == to ? at : i == at ? to : i;
        const PullFinding& one = now->pulls[static_cast<std::size_t>(from)];
        if (one.state == PullState::Planned)
            order.push_back(pullOf(one, session_.pending()));
    }
    session_.commit(orderedPulls(session_.pending(), order));
}

void PullStage::moveRun(int by) {
    const PullPlan* now = plan();
    const PullFinding* chosen = pull();
    if (chosen == nullptr)
        return;
    const auto to = chosen - now->pulls.data() + by;
    if (to >= 0 && to < static_cast<std::ptrdiff_t>(now->pulls.size()))
        commit(movedToPull(session_.pending(), session_.currentId(),
                           pullOf(now->pulls[static_cast<std::size_t>(to)], session_.pending())));
}

void PullStage::join() {
    const PullPlan* now = plan();
    const PullFinding* chosen = pull();
    if (chosen == nullptr || chosen == &now->pulls.back())
        return;
    commit(joinedPulls(session_.pending(), pullOf(*chosen, session_.pending()),
                       pullOf(*(chosen + 1), session_.pending())));
}

void PullStage::nextPull() {
    const PullPlan* now = plan();
    const PullFinding* chosen = pull();
    for (const auto& one : now->pulls)
        if (&one != chosen && one.state != PullState::Pulled && !one.runs.empty()) {
            std::vector<std::string> all;
            for (const auto& run : one.runs)
                all.push_back(run.runId);
            goingOn_ = true;
            session_.select(all.front(), all);
            return;
        }
}

} // namespace burin
