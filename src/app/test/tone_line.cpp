#include "app/test/tone_line.h"
#include "app/frame/said.h"
#include "app/look/painters.h"
#include "core/edit/tone_edit.h"
#include "core/job/ports.h"
#include "core/pull/stock.h"
#include "core/units/render.h"
#include <QHBoxLayout>
#include <QShortcut>

namespace burin {

ToneLine::ToneLine(Session& session, QWidget* parent)
    : Panel({}, parent), session_(session), said_(words(Voice::Text, this)),
      left_(words(Voice::Small, this)),
      at_(new SheetField(session, tr("Port where its tone is heard"), QStringLiteral("toneAt"),
                         this)),
      keep_(new QPushButton(tr("Told apart"), this)), again_(link(tr("tone it again"), this)) {
    setObjectName(QStringLiteral("toneLine"));
    said_->setObjectName(QStringLiteral("toneSaid"));
    left_->setWordWrap(false);
    keep_->setObjectName(QStringLiteral("toldApart"));
    again_->setObjectName(QStringLiteral("toneAgain"));
    auto* row = new QHBoxLayout;
    row->addWidget(said_, 1);
    for (QWidget* widget : {static_cast<QWidget*>(at_), static_cast<QWidget*>(keep_),
                            static_cast<QWidget*>(again_), static_cast<QWidget*>(left_)})
        row->addWidget(widget);
    body()->addLayout(row);
    at_->setToolTip(tr("Port of the panel where its tone is heard: a number, or what the port is "
                       "called; Enter (Ctrl+M)"));
    connect(new QShortcut(QKeySequence(QStringLiteral("Ctrl+M")), this), &QShortcut::activated, at_,
            [this] {
                at_->setFocus(Qt::ShortcutFocusReason);
                at_->selectAll();
            });
    connect(at_, &QLineEdit::returnPressed, this, &ToneLine::keep);
    connect(keep_, &QPushButton::clicked, this, &ToneLine::keep);
    connect(again_, &QPushButton::clicked, this, [this] {
        if (const Run* run = session_.pending().run(runId_))
            session_.commit(untonedEdit(*run));
    });
    hide();
}

void ToneLine::showRun() {
    const Run* run = session_.current();
    const bool known = run == nullptr || isToldApart(session_.job(), *run);
    const bool toned = run != nullptr && known && !run->piece.tonedOn.empty();
    const bool waits = run != nullptr && !known && hasMarks(*run);
    setVisible(toned || waits);
    if (!toned && !waits)
        return;
    for (QWidget* widget : {static_cast<QWidget*>(at_), static_cast<QWidget*>(keep_)})
        widget->setVisible(waits);
    again_->setVisible(toned);
    setTone(waits ? Tone::Marginal : Tone::Plain);
    const QString label = q(run->label);
    const QString near = q(endName(session_.job(), run->near));
    said_->setText(
        toned ? tr("%1 was told apart by its tone on %2, at %3.")
                    .arg(label, said(asDay(run->piece.tonedOn), session_), near)
              : tr("%1 is pulled and not told apart. Put the tone on its far end; it is heard at")
                    .arg(label));
    const std::size_t left = leftToTone(session_.job());
    left_->setText(left == 0 ? tr("all are told apart")
                             : tr("%n left to tell apart", "", int(left)));
    at_->showText(near, runId_ == run->id ? SheetField::Of::TheSame : SheetField::Of::Another);
    runId_ = run->id;
}

void ToneLine::keep() {
    const Job& job = session_.pending();
    const Run* run = job.run(runId_);
    if (run == nullptr || !at_->isVisible())
        return;
    const auto edit = tonedEdit(job, *run, at_->text().trimmed().toStdString(), session_.today());
    if (!edit)
        return at_->refuse(edit.error());
    session_.commit(*edit);
    if (const Run* next = nextToTone(session_.pending(), runId_)) {
        session_.select(next->id, {next->id});
        at_->setFocus(Qt::OtherFocusReason);
        at_->selectAll();
    }
}

} // namespace burin
