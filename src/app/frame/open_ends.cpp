#include "app/frame/open_ends.h"
#include "app/frame/panel.h"
#include "app/frame/said.h"
#include "app/look/painters.h"
#include "app/look/theme.h"
#include "core/history/decide.h"
#include <QDateTime>
#include <QHBoxLayout>
#include <QLocale>
#include <QScrollArea>

namespace burin {
namespace {

/// "rigger, 26 Nov 10:00".
QString whoAndWhen(const Claim& claim) {
    const auto at = QDateTime::fromString(q(claim.at), Qt::ISODateWithMs);
    const QString who = claim.who.empty() ? OpenEnds::tr("somebody") : q(claim.who);
    return at.isValid()
               ? OpenEnds::tr("%1, %2").arg(
                     who, QLocale().toString(at.toLocalTime(), QStringLiteral("d MMM HH:mm")))
               : who;
}

} // namespace

int openEndsOf(const Session& session) {
    if (!session.hasJob())
        return 0;
    const auto found = session.jobFindings();
    return static_cast<int>(session.job().conflicts.size() + (found ? found->clashes.size() : 0));
}

OpenEnds::OpenEnds(Session& session, QWidget* parent)
    : QDialog(parent), session_(session), scroll_(new QScrollArea(this)) {
    setAttribute(Qt::WA_DeleteOnClose);
    setObjectName(QStringLiteral("openEnds"));
    setWindowTitle(tr("To decide"));
    auto* layout = new QVBoxLayout(this);
    scroll_->setWidgetResizable(true);
    scroll_->setFrameShape(QFrame::NoFrame);
    layout->addWidget(scroll_);
    auto* close = new QPushButton(tr("Close"), this);
    auto* line = new QHBoxLayout;
    line->addStretch();
    line->addWidget(close);
    layout->addLayout(line);
    connect(close, &QPushButton::clicked, this, &QDialog::close);
    connect(&session_, &Session::jobChanged, this, [this] { showAll(); });
    connect(&session_, &Session::findingsChanged, this, [this] { showAll(); });
    connect(&session_, &Session::unitsChanged, this, [this] { showAll(); });
    resize(Theme::instance().px(640), Theme::instance().px(440));
    showAll();
}

void OpenEnds::showAll() {
    if (body_ != nullptr)
        body_->deleteLater();
    body_ = new QWidget(this);
    auto* list = new QVBoxLayout(body_);
    list->setSpacing(8);
    auto* head = words(Voice::Text, body_);
    list->addWidget(head);
    if (session_.hasJob()) {
        const Job& job = session_.pending();
        for (const auto& conflict : job.conflicts)
            addConflict(list, conflict);
        if (const auto found = session_.jobFindings())
            for (const auto& clash : found->clashes)
                addClash(list, clash);
        head->setText(
            openEndsOf(session_) == 0
                ? tr("Nothing is left to decide.")
                : tr("Two copies changed the same thing, or what they made does not go together. "
                     "Nothing was lost: choose what holds. Typing the field elsewhere decides it "
                     "too, and Ctrl+Z takes a decision back."));
    }
    list->addStretch();
    scroll_->setWidget(body_);
}

void OpenEnds::addConflict(QVBoxLayout* list, const Conflict& conflict) {
    const Job& job = session_.pending();
    auto* panel = new Panel(begun(burin::said(subjectOf(job, conflict), session_)), body_);
    panel->setTone(Panel::Tone::Marginal);
    const auto said = [&](const std::string& json) {
        return burin::said(claimed(job, session_.catalogue(), conflict, json), session_);
    };
    if (!conflict.field.empty()) {
        auto* was = words(Voice::Small, panel);
        was->setText(tr("before: %1").arg(said(conflict.base)));
        panel->body()->addWidget(was);
    }
    for (std::size_t i = 0; i < conflict.claims.size(); ++i) {
        auto* line = new QHBoxLayout;
        auto* choose = new QPushButton(said(conflict.claims[i].value), panel);
        choose->setObjectName(QStringLiteral("claim"));
        auto* by = words(Voice::Small, panel);
        by->setText(stands(job, conflict, i)
                        ? tr("%1 · stands meanwhile").arg(whoAndWhen(conflict.claims[i]))
                        : whoAndWhen(conflict.claims[i]));
        line->addWidget(choose);
        line->addWidget(by, 1);
        panel->body()->addLayout(line);
        connect(choose, &QPushButton::clicked, this, [this, conflict, i] {
            const auto edit = decide(session_.pending(), conflict, i);
            if (edit)
                session_.commit(*edit);
            else
                emit session_.message(burin::said(edit.error(), session_), true);
        });
    }
    list->addWidget(panel);
}

void OpenEnds::addClash(QVBoxLayout* list, const Clash& clash) {
    auto* panel = new Panel(begun(said(clash.fault.where, session_)), body_);
    panel->setTone(Panel::Tone::Bad);
    auto* text = words(Voice::Text, panel);
    text->setText(begun(said(whatToDo(clash.fault), session_)) + QLatin1Char('.'));
    panel->body()->addWidget(text);
    list->addWidget(panel);
    if (clash.runId.empty())
        return;
    auto* go = new QPushButton(tr("Go to the run"), panel);
    go->setObjectName(QStringLiteral("goToRun"));
    auto* line = new QHBoxLayout;
    line->addWidget(go);
    line->addStretch();
    panel->body()->addLayout(line);
    connect(go, &QPushButton::clicked, this, [this, id = clash.runId] { session_.select(id, {}); });
}

} // namespace burin
