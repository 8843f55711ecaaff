#include "app/pull/pull_stage.h"
#include "app/frame/said.h"
#include "app/frame/working_view.h"
#include "app/look/flow_layout.h"
#include "app/look/painters.h"
#include "app/look/theme.h"
#include "app/pull/pull_words.h"

#include <QHBoxLayout>
#include <QShortcut>

namespace burin {
namespace {

constexpr int mostCures = 3;

} // namespace

PullStage::PullStage(Session& session, QWidget* parent)
    : Stage(session, parent), headline_(words(Voice::Headline, this)),
      counts_(words(Voice::Small, this)), force_(words(Voice::Text, this)),
      notes_(words(Voice::Small, this)), cautions_(words(Voice::Small, this)),
      short_(words(Voice::Text, this)), cures_(words(Voice::Small, this)),
      boxes_(words(Voice::Small, this)), left_(words(Voice::Small, this)),
      sheet_(new Panel(tr("Pull"), this)), list_(new PullList(session, this)),
      bars_(new BoxBars(session, this)), newBox_(new QLineEdit(this)),
      marks_(new MarksEntry(session, this)), working_(link(tr("Working"), this)),
      boxWorking_(link(tr("why so many boxes"), this)), otherEnd_(link({}, this)),
      lubricate_(link({}, this)), grip_(link({}, this)), alone_(link(tr("pull it alone"), this)),
      join_(link(tr("join with the next"), this)), release_(link(tr("plan anew"), this)),
      late_(words(Voice::Small, this)) {
    headline_->setObjectName(QStringLiteral("pullHead"));
    counts_->setObjectName(QStringLiteral("pullCounts"));
    counts_->setWordWrap(false);
    short_->setObjectName(QStringLiteral("shortSaid"));
    cures_->setObjectName(QStringLiteral("shortCures"));
    auto* head = new QHBoxLayout;
    head->addWidget(headline_, 1);
    head->addWidget(counts_);
    auto* pulls = new Panel(tr("Pulls, in the order they are done"), this);
    pulls->body()->addWidget(list_, 1);
    pulls->body()->addWidget(late_);
    pulls->body()->addWidget(left_);
    pulls->body()->addWidget(makePrints());
    pulls->setFixedWidth(Theme::instance().px(320));
    connect(&Theme::instance(), &Theme::changed, pulls,
            [pulls] { pulls->setFixedWidth(Theme::instance().px(320)); });
    auto* right = new QVBoxLayout;
    right->setSpacing(8);
    right->addWidget(makeBoxes(), 4);
    right->addWidget(makeSheet(), 5);
    auto* row = new QHBoxLayout;
    row->setSpacing(12);
    row->addWidget(pulls);
    row->addLayout(right, 1);
    auto* all = new QVBoxLayout(this);
    all->setContentsMargins(16, 12, 16, 12);
    all->setSpacing(8);
    all->addLayout(head);
    all->addLayout(row, 1);
    connect(list_, &PullList::moved, this, &PullStage::move);
    connect(list_, &PullList::runMoved, this, &PullStage::moveRun);
    connect(list_, &PullList::runDropped, this, &PullStage::moveRunTo);
    connect(list_, &PullList::pullDropped, this, &PullStage::joinBy);
    connect(list_, &PullList::pullPlaced, this, &PullStage::placeBy);
    connect(list_, &PullList::opened, marks_, &MarksEntry::focusFirst);
    const auto on = [this](const QString& keys, auto slot) {
        connect(new QShortcut(QKeySequence(keys), this), &QShortcut::activated, this, slot);
    };
    on(QStringLiteral("Ctrl+M"), [this] { marks_->focusFirst(); });
    on(QStringLiteral("Ctrl+B"), [this] { newBox_->setFocus(Qt::ShortcutFocusReason); });
    list_->setToolTip(
        tr("Enter or Ctrl+M types its marks; Alt+Up and Alt+Down do it earlier or later; Alt+Left "
           "and Alt+Right put the chosen run into the pull before or behind. By mouse: draw a pull "
           "between two others, or onto one to go with it; draw a run onto it by its name"));
    connect(marks_, &MarksEntry::finished, this, &PullStage::nextPull);
    for (auto signal : {&Session::selectionChanged, &Session::unitsChanged})
        connect(&session, signal, this, [this] { refresh(); });
    for (auto signal : {&Session::jobChanged, &Session::findingsChanged})
        connect(&session, signal, this, [this] { stale(); });
    connect(&Theme::instance(), &Theme::changed, this, [this] { stale(); });
}

QWidget* PullStage::makeBoxes() {
    auto* panel = new Panel({}, this);
    auto* title = words(Voice::Bold, this);
    title->setText(tr("Boxes and reels"));
    title->setWordWrap(false);
    boxes_->setAlignment(Qt::AlignRight | Qt::AlignVCenter);
    newBox_->setObjectName(QStringLiteral("newBox"));
    newBox_->setAccessibleName(tr("Add a box or reel"));
    newBox_->setPlaceholderText(tr("Add: A1 cat6-utp blue 305 m, 2 ft marks up, 0412"));
    newBox_->setToolTip(
        tr("Name, cable, colour, what it holds, its marks, and the mark at its free "
           "end now (Ctrl+B). Or its name, the word print, and what its jacket says"));
    connect(bars_, &BoxBars::chosen, this, &PullStage::typeOver);
    connect(newBox_, &QLineEdit::returnPressed, this, &PullStage::keepBox);
    auto* line = new QHBoxLayout;
    line->setSpacing(12);
    line->addWidget(title);
    line->addWidget(boxes_, 1);
    line->addWidget(boxWorking_);
    boxWorking_->setObjectName(QStringLiteral("boxWorking"));
    connect(boxWorking_, &QPushButton::clicked, this, [this] {
        if (plan() != nullptr)
            showWorking(session_, this, boxesWorking(*plan(), session_.job()));
    });
    panel->body()->addLayout(line);
    panel->body()->addWidget(scrolled(bars_, this), 1);
    panel->body()->addWidget(newBox_);
    return panel;
}

QWidget* PullStage::makeSheet() {
    auto* inside = new QWidget(this);
    auto* lines = new QVBoxLayout(inside);
    lines->setContentsMargins(0, 0, 0, 0);
    lines->setSpacing(6);
    lines->addWidget(marks_);
    auto* links = new FlowLayout(12);
    for (auto* button : {otherEnd_, lubricate_, grip_, alone_, join_, release_})
        links->addWidget(button);
    lines->addLayout(links);
    for (auto* label : {short_, cures_})
        lines->addWidget(label);
    auto* forceLine = new QHBoxLayout;
    forceLine->addWidget(force_, 1);
    forceLine->addWidget(working_, 0, Qt::AlignTop);
    lines->addLayout(forceLine);
    lines->addWidget(notes_);
    lines->addWidget(cautions_);
    lines->addStretch(1);
    sheet_->body()->addWidget(scrolled(inside, this), 1);
    working_->setObjectName(QStringLiteral("pullWorking"));
    otherEnd_->setObjectName(QStringLiteral("otherEnd"));
    lubricate_->setObjectName(QStringLiteral("lubricate"));
    grip_->setObjectName(QStringLiteral("grip"));
    alone_->setObjectName(QStringLiteral("alone"));
    join_->setObjectName(QStringLiteral("joinNext"));
    release_->setObjectName(QStringLiteral("planAnew"));
    alone_->setToolTip(tr("The chosen run, by itself"));
    release_->setToolTip(tr("Nobody has put it together any more"));
    connect(working_, &QPushButton::clicked, this, [this] {
        if (pull() != nullptr)
            showWorking(session_, this, pullWorking(*pull(), session_.job()));
    });
    connect(otherEnd_, &QPushButton::clicked, this, [this] {
        const bool far = pull() != nullptr && pull()->boxesAt == BoxesAt::Far;
        change(QStringLiteral("end the boxes stand at"),
               [far](Pull& row) { row.boxesAt = far ? BoxesAt::Near : BoxesAt::Far; });
    });
    connect(lubricate_, &QPushButton::clicked, this, [this] {
        change(QStringLiteral("lubricant"), [](Pull& row) { row.lubricated = !row.lubricated; });
    });
    connect(grip_, &QPushButton::clicked, this, [this] {
        change(QStringLiteral("grip"), [](Pull& row) {
            row.grip = row.grip == Grip::OverAll ? Grip::ByOne : Grip::OverAll;
        });
    });
    connect(alone_, &QPushButton::clicked, this,
            [this] { commit(movedToPull(session_.pending(), session_.currentId(), {})); });
    connect(join_, &QPushButton::clicked, this, &PullStage::join);
    connect(release_, &QPushButton::clicked, this, [this] {
        if (pull() != nullptr)
            commit(releasedPull(session_.pending(), pullOf(*pull(), session_.pending())));
    });
    return sheet_;
}

const PullPlan* PullStage::plan() const {
    const auto findings = session_.jobFindings();
    return findings && session_.hasJob() ? &findings->pulls : nullptr;
}

const PullFinding* PullStage::pull() const {
    return plan() == nullptr ? nullptr : plan()->pullOf(session_.currentId());
}

void PullStage::showParts(unsigned) {
    if (plan() == nullptr)
        return;
    list_->showPlan();
    marks_->showPull();
    showHead();
    showSheet();
    showCures();
    if (std::exchange(goingOn_, false))
        marks_->focusFirst();
}

void PullStage::showHead() {
    const PullPlan& now = *plan();
    const auto findings = session_.jobFindings();
    int pulled = 0;
    int unmarked = 0;
    int all = 0;
    for (const auto& one : now.pulls)
        for (const auto& run : one.runs) {
            ++all;
            pulled += run.there ? 1 : 0;
            unmarked += run.there && !run.pulledM ? 1 : 0;
        }
    int lacking = 0;
    for (const auto& check : findings->pulled)
        lacking += check.isShort() ? 1 : 0;
    QString counts = tr("%1 of %2 runs pulled").arg(pulled).arg(all);
    if (unmarked > 0)
        counts += tr(", %1 without marks").arg(unmarked);
    if (lacking > 0)
        counts += tr(" · %1 short").arg(lacking);
    counts_->setText(counts);
    const PullFinding* chosen = pull();
    if (chosen == nullptr) {
        headline_->setText(all == 0 ? tr("Nothing to pull yet: no run has a length and a cable")
                                    : tr("Nothing is planned for this run"));
    } else {
        const auto at = static_cast<int>(chosen - now.pulls.data()) + 1;
        const QString what = tr("Pull %1 of %2: %3")
                                 .arg(at)
                                 .arg(now.pulls.size())
                                 .arg(fromTo(*chosen, session_.job()));
        headline_->setText(chosen->closesOn.empty() || chosen->state == PullState::Pulled
                               ? what
                               : tr("%1, before %2 closes").arg(what, q(chosen->closesName)));
    }
    std::size_t fresh = 0;
    for (const auto& box : now.boxes)
        fresh += box.isNew ? 1 : 0;
    QString boxes = now.boxes.empty() ? tr("No box is on the list: type the first one below")
                                      : tr("pulled solid, planned outlined, scrap hatched");
    if (fresh > 0)
        boxes += fresh == 1 ? tr(" · 1 to buy") : tr(" · %1 to buy").arg(fresh);
    boxes_->setText(boxes);
    QStringList left;
    for (const auto& one : now.left)
        if (const Run* run = session_.job().run(one.runId)) {
            const QString why = one.why == NotPulled::Why::NoLength  ? tr("no length")
                                : one.why == NotPulled::Why::NoCable ? tr("no cable")
                                : one.why == NotPulled::Why::TooLong
                                    ? tr("longer than a box")
                                    : tr("two cables: make it two runs");
            left << tr("%1 (%2)").arg(q(run->label), why);
        }
    QStringList aside;
    if (!left.isEmpty())
        aside << tr("Not planned: %1").arg(left.join(tr(", ")));
    if (!findings->days.pace.said.empty())
        aside << said(findings->days.pace.said, session_) + QLatin1Char('.');
    left_->setText(aside.join(QLatin1Char('\n')));
    left_->setVisible(!aside.isEmpty());
    QStringList late;
    for (const auto& one : findings->days.late) {
        QString text = tr("%1 closes %2, done %3.")
                           .arg(q(one.closesName), dayText(one.closesOn), dayText(one.doneOn));
        for (const auto& cure : one.cures)
            text += QLatin1Char(' ') + said(cure, session_) + QLatin1Char('.');
        late << text;
    }
    late_->setText(late.join(QLatin1Char(' ')));
    late_->setStyleSheet(QStringLiteral("color: %1;").arg(Theme::instance().tokens().rust.name()));
    late_->setVisible(!late.isEmpty());
}

void PullStage::showSheet() {
    const PullFinding* chosen = pull();
    sheet_->setVisible(chosen != nullptr);
    if (chosen == nullptr)
        return;
    const auto count = chosen->runs.size();
    sheet_->setTitle(count == 1 ? tr("One cable") : tr("%1 cables, from a box each").arg(count));
    const auto newton = [&](double force) { return said(asNewton(force), session_); };
    if (chosen->nearN && chosen->farN) {
        const bool far = chosen->boxesAt == BoxesAt::Far;
        QString text = tr("Force at most %1 this way, %2 from the other end")
                           .arg(newton(far ? *chosen->farN : *chosen->nearN),
                                newton(far ? *chosen->nearN : *chosen->farN));
        text += chosen->limitN ? tr(", of %1").arg(newton(*chosen->limitN))
                               : tr("; what they bear is in the cable's own sheet");
        if (!chosen->breaks.empty() && chosen->brokenN)
            text += tr(". Broken as below: %1").arg(newton(*chosen->brokenN));
        force_->setText(text + QLatin1Char('.'));
    } else {
        force_->setText(tr("No force can be told."));
    }
    working_->setVisible(chosen->nearN.has_value());
    QStringList notes;
    QStringList cautions;
    for (const auto& note : pullNotes(*chosen, session_.job(), *session_.site()))
        (note.caution ? cautions : notes) << said(note.what, session_);
    notes_->setText(notes.join(QStringLiteral(". ")) +
                    (notes.isEmpty() ? QString() : QStringLiteral(".")));
    notes_->setVisible(!notes.isEmpty());
    cautions_->setText(tr("Care. %1.").arg(cautions.join(QStringLiteral(". "))));
    cautions_->setStyleSheet(
        QStringLiteral("color: %1;").arg(Theme::instance().tokens().ochre.name()));
    cautions_->setVisible(!cautions.isEmpty());
    otherEnd_->setText(tr("boxes at the other end"));
    lubricate_->setText(chosen->lubricated ? tr("pull dry") : tr("lubricate"));
    grip_->setText(chosen->grip == Grip::OverAll ? tr("grip by one") : tr("grip over all"));
    const bool open = chosen->state != PullState::Pulled;
    for (auto* button : {otherEnd_, lubricate_, join_})
        button->setVisible(open);
    const bool closed = std::any_of(chosen->way.begin(), chosen->way.end(),
                                    [](const PullPart& part) { return part.closed; });
    lubricate_->setVisible(open && closed);
    grip_->setVisible(open && count > 1);
    const PulledRun* current = chosen->run(session_.currentId());
    alone_->setVisible(count > 1 && current != nullptr && !current->there);
    join_->setVisible(chosen->state == PullState::Planned && chosen != &plan()->pulls.back());
    release_->setVisible(chosen->byHand && open);
}

/// What came out short, and what would do.
void PullStage::showCures() {
    const PullFinding* chosen = pull();
    const auto findings = session_.jobFindings();
    QStringList lines;
    QStringList cures;
    bool bad = false;
    for (std::size_t i = 0; chosen != nullptr && i < chosen->runs.size(); ++i) {
        const PulledCheck* check = findings->pulledFor(chosen->runs[i].runId);
        const Run* run = session_.job().run(chosen->runs[i].runId);
        if (check == nullptr || run == nullptr)
            continue;
        const RunFinding* finding = session_.finding(run->id);
        for (const auto& sentence : saidOf(*check, session_.job()))
            lines << tr("%1: %2").arg(q(run->label), said(sentence, session_));
        bad = bad || (check->isShort() && !check->reaches);
        // Too long for its service, where the plan would have held.
        if (finding != nullptr && finding->reach.reachM && check->needM &&
            !finding->reach.holds(check->linkM) && finding->reach.holds(*check->needM))
            lines << tr("%1 came out longer than it may be: %2")
                         .arg(q(run->label), said(finding->outlookReason, session_));
        if (check->isShort() && cures.isEmpty())
            for (std::size_t k = 0; k < check->cures.size() && k < mostCures; ++k)
                cures << tr("%1 (%2)").arg(said(check->cures[k].what, session_),
                                           said(check->cures[k].cost.said(), session_));
    }
    short_->setText(lines.join(QStringLiteral(". ")));
    short_->setVisible(!lines.isEmpty());
    const Tokens& t = Theme::instance().tokens();
    short_->setStyleSheet(QStringLiteral("color: %1;").arg((bad ? t.rust : t.ochre).name()));
    cures_->setText(tr("What would do, cheapest first: %1.").arg(cures.join(QStringLiteral("; "))));
    cures_->setVisible(!cures.isEmpty());
}

} // namespace burin
