#include "app/survey/survey_stage.h"
#include "app/frame/file_dialog.h"
#include "app/frame/said.h"
#include "app/look/flow_layout.h"
#include "app/look/language.h"
#include "app/look/painters.h"
#include "app/look/theme.h"
#include "core/base/lookup.h"
#include "core/job/run_length.h"

namespace burin {
namespace {

struct ToolWord {
    Tool tool;
    const char* word;
    const char* key;
};
constexpr std::array<ToolWord, 11> toolWords{
    {{Tool::Choose, QT_TRANSLATE_NOOP("burin::SurveyStage", "choose"), "C"},
     {Tool::Scale, QT_TRANSLATE_NOOP("burin::SurveyStage", "scale"), "Z"},
     {Tool::Room, QT_TRANSLATE_NOOP("burin::SurveyStage", "room"), "R"},
     {Tool::HeadEnd, QT_TRANSLATE_NOOP("burin::SurveyStage", "head end"), "H"},
     {Tool::Outlet, QT_TRANSLATE_NOOP("burin::SurveyStage", "outlet"), "O"},
     {Tool::Device, QT_TRANSLATE_NOOP("burin::SurveyStage", "device"), "D"},
     {Tool::Pathway, QT_TRANSLATE_NOOP("burin::SurveyStage", "pathway"), "W"},
     {Tool::Mains, QT_TRANSLATE_NOOP("burin::SurveyStage", "power"), "M"},
     {Tool::Wall, QT_TRANSLATE_NOOP("burin::SurveyStage", "wall"), "L"},
     {Tool::Run, QT_TRANSLATE_NOOP("burin::SurveyStage", "run"), "U"},
     {Tool::Photo, QT_TRANSLATE_NOOP("burin::SurveyStage", "photo"), "P"}}};

} // namespace

SurveyStage::SurveyStage(Session& session, QWidget* parent)
    : Stage(session, parent), headline_(words(Voice::Headline, this)),
      said_(words(Voice::Small, this)), floors_(new QComboBox(this)), preset_(new QComboBox(this)),
      page_(new QSpinBox(this)), plan_(new PlanView(session, this)),
      sheet_(new ItemSheet(session, this)), floorSheet_(new ItemSheet(session, this)),
      rules_(new ItemSheet(session, this)), schedule_(new ScheduleView(session, this)),
      way_(new WayPanel(session, this)), matters_(new MattersPanel(session, this)),
      closing_(new ClosingPanel(session, this)),
      photograph_(new PhotographView(session, QStringLiteral("photograph"), plan_, this)),
      loader_(new PictureLoader(this)), photographs_(new PictureLoader(this)) {
    setAcceptDrops(true);
    auto* all = new QVBoxLayout(this);
    all->setContentsMargins(16, 8, 16, 8);
    all->setSpacing(4);
    all->addWidget(makeHead());
    all->addWidget(makeTools());
    auto* row = new QHBoxLayout;
    row->setSpacing(12);
    auto* left = new QVBoxLayout;
    left->setSpacing(4);
    plan_->setMinimumSize(300, 200);
    left->addWidget(plan_, 1);
    said_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed);
    said_->setAlignment(Qt::AlignLeft | Qt::AlignTop);
    said_->setObjectName(QStringLiteral("planHint"));
    left->addWidget(said_);
    row->addLayout(left, 1);
    row->addWidget(makeSide());
    all->addLayout(row, 1);

    connect(plan_, &PlanView::said, said_, &QLabel::setText);
    // Room for the longest from the first: the plan must not move under the pointer.
    connect(plan_, &PlanView::resized, said_, [this] {
        int high = 0;
        for (const auto& hint : PlanView::hints())
            high = std::max(
                high, said_->fontMetrics()
                          .boundingRect(QRect(0, 0, plan_->width(), 0), Qt::TextWordWrap, hint)
                          .height());
        said_->setFixedHeight(high);
    });
    connect(plan_, &PlanView::toolChanged, this, [this] { showTool(); });
    connect(plan_, &PlanView::chosen, this, [this] {
        showSheets();
        if (session_.hasJob() && session_.job().room(plan_->chosenId()) != nullptr)
            schedule_->showRoom(plan_->chosenId());
    });
    connect(plan_, &PlanView::photographWanted, this, [this](const PlanPoint& at) {
        const QStringList files = askFiles(this, session_, Ask::OpenSeveral, tr("Photographs"),
                                           tr("Pictures (*.jpg *.jpeg *.png)"));
        if (!files.isEmpty())
            pinPhotographs(files, at);
    });
    connect(matters_, &MattersPanel::wanted, this, [this](const SiteFinding& f) {
        if (!f.floorId.empty())
            plan_->setFloor(f.floorId);
        plan_->choose(!f.pathwayId.empty() ? f.pathwayId : f.mainsId);
        showFloors();
    });
    connect(plan_, &PlanView::findingWanted, this, [this](const SiteFinding& f) {
        matters_->lead(f);
        // Once its panel has been laid out.
        QTimer::singleShot(0, this,
                           [this] { side_->ensureWidgetVisible(matters_->first(), 0, 0); });
    });
    connect(&session, &Session::jobChanged, this,
            [this] { stale(PlanPart | RunPart | ProofPart); });
    connect(&session, &Session::unitsChanged, this, [this] { stale(PlanPart | RunPart); });
    connect(&session, &Session::findingsChanged, this, [this] { stale(ProofPart); });
    connect(&session, &Session::previewChanged, this, [this] {
        if (isVisible())
            way_->refresh(); // at once: it follows the pointer
        else
            stale(RunPart);
    });
    connect(&session, &Session::jobOpened, this, [this] {
        loader_->drop();
        photographs_->drop();
        shownPicture_.clear();
        floorFor_.clear();
        plan_->setFloor({});
        stale(PlanPart | RunPart | ProofPart);
        showRunsFloor();
    });
    connect(&session, &Session::selectionChanged, this, [this] {
        stale(RunPart);
        showRunsFloor();
    });
    showTool();
}

/// The floor on which the selected run ends, unless its way can be seen on this one.
void SurveyStage::showRunsFloor() {
    // Once for each run: afterwards the floor is the user's to choose.
    if (std::exchange(floorFor_, session_.currentId()) == session_.currentId())
        return;
    const Run* run = session_.hasJob() ? session_.current() : nullptr;
    const RunRoute* route = run == nullptr ? nullptr : session_.site()->route(run->id);
    if (route == nullptr || route->legs.empty() || plan_->drawing())
        return;
    if (std::none_of(route->legs.begin(), route->legs.end(),
                     [&](const RouteLeg& leg) { return leg.floorId == plan_->floorId(); })) {
        plan_->setFloor(route->legs.back().floorId);
        stale(PlanPart);
    }
}

QWidget* SurveyStage::makeHead() {
    auto* head = new QWidget(this);
    auto* layout = new QHBoxLayout(head);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(8);
    headline_->setObjectName(QStringLiteral("surveyHeadline"));
    layout->addWidget(headline_, 1);
    floors_->setObjectName(QStringLiteral("floors"));
    floors_->setAccessibleName(tr("Floor"));
    floors_->setSizeAdjustPolicy(QComboBox::AdjustToContents);
    connect(floors_, &QComboBox::activated, this, [this](int index) {
        if (index >= 0 && index < static_cast<int>(shownFloors_.size()))
            plan_->setFloor(shownFloors_[static_cast<std::size_t>(index)]);
        showPicture();
    });
    layout->addWidget(floors_);
    auto* floor = link(tr("new floor"), head);
    floor->setObjectName(QStringLiteral("newFloor"));
    connect(floor, &QPushButton::clicked, this, [this] { addFloor(); });
    auto* picture = link(tr("picture…"), head);
    picture->setObjectName(QStringLiteral("bringPicture"));
    connect(picture, &QPushButton::clicked, this, [this] { askPicture(); });
    layout->addWidget(floor);
    layout->addWidget(picture);
    page_->setObjectName(QStringLiteral("page"));
    page_->setAccessibleName(tr("Page of the plan"));
    page_->setKeyboardTracking(false);
    page_->hide();
    connect(page_, &QSpinBox::valueChanged, this, [this](int page) { turnTo(page - 1); });
    layout->addWidget(page_);
    auto* rules = new QToolButton(head);
    rules->setText(tr("Rules"));
    rules->setObjectName(QStringLiteral("surveyRules"));
    rules->setToolTip(tr("How this job measures, keeps apart, names and prices"));
    rules->setCheckable(true);
    connect(rules, &QToolButton::toggled, this, [this](bool wanted) {
        rulesWanted_ = wanted;
        showSheets();
        if (wanted)
            QTimer::singleShot(0, this, [this] { side_->ensureWidgetVisible(rules_, 0, 0); });
    });
    layout->addWidget(rules);
    return head;
}

QWidget* SurveyStage::makeTools() {
    auto* bar = new QWidget(this);
    const auto dress = [bar] {
        bar->setStyleSheet(QStringLiteral("QToolButton { padding: %1px %2px; }")
                               .arg(Theme::instance().px(4))
                               .arg(Theme::instance().px(4)));
    };
    connect(&Theme::instance(), &Theme::changed, bar, dress);
    dress();
    auto* row = new QHBoxLayout(bar);
    row->setContentsMargins(0, 0, 0, 0);
    auto* layout = new FlowLayout(2);
    row->addLayout(layout, 1);
    for (const ToolWord& tool : toolWords) {
        auto* button = new QToolButton(bar);
        button->setText(tr(tool.word));
        button->setCheckable(true);
        button->setAutoRaise(true);
        button->setToolTip(tr("%1 (%2 on the plan)").arg(tr(tool.word), QLatin1String(tool.key)));
        button->setObjectName(QStringLiteral("tool ") + QLatin1String(tool.word));
        connect(button, &QToolButton::clicked, this, [this, tool] {
            plan_->setTool(tool.tool);
            plan_->setFocus();
        });
        layout->addWidget(button);
        tools_ << button;
    }
    preset_->setObjectName(QStringLiteral("preset"));
    preset_->setAccessibleName(tr("Which"));
    preset_->setSizeAdjustPolicy(QComboBox::AdjustToContents);
    connect(preset_, &QComboBox::activated, this, [this](int index) {
        PlanTools now = plan_->tools();
        const auto at = static_cast<std::size_t>(index);
        if (now.tool == Tool::HeadEnd)
            now.head = static_cast<PlaceKind>(index);
        else if (now.tool == Tool::Pathway)
            now.pathway = at;
        else if (now.tool == Tool::Mains)
            now.mains = at;
        else
            now.run = at;
        plan_->setPresets(now);
        plan_->setFocus();
    });
    layout->addWidget(preset_);
    auto* fit = link(tr("fit"), bar);
    fit->setToolTip(tr("The whole floor (Home on the plan)"));
    connect(fit, &QPushButton::clicked, this, [this] { plan_->fit(); });
    row->addWidget(fit);
    return bar;
}

QWidget* SurveyStage::makeSide() {
    auto* inner = new QWidget;
    auto* column = new QVBoxLayout(inner);
    column->setContentsMargins(0, 0, 4, 0);
    column->setSpacing(8);
    // A thing that is chosen comes first; the floor itself last, since it is seldom changed.
    column->addWidget(rules_);
    column->addWidget(photograph_);
    column->addWidget(sheet_);
    column->addWidget(schedule_);
    column->addWidget(way_);
    column->addWidget(matters_);
    column->addWidget(closing_);
    column->addWidget(floorSheet_);
    column->addStretch(1);
    side_ = new QScrollArea(this);
    side_->setWidget(inner);
    side_->setWidgetResizable(true);
    side_->setFrameShape(QFrame::NoFrame);
    side_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    side_->setFocusPolicy(Qt::NoFocus);
    // Names of rooms are whole, in a language with longer words as well.
    const auto size = [this] {
        const auto& theme = Theme::instance();
        side_->setFixedWidth(
            std::clamp(schedule_->wantedWidth() + theme.px(28), theme.px(356), theme.px(420)));
    };
    connect(&Theme::instance(), &Theme::changed, side_, size);
    connect(schedule_, &ScheduleView::fitted, side_, size);
    size();
    return side_;
}

void SurveyStage::showParts(unsigned parts) {
    if ((parts & PlanPart) != 0) {
        showFloors();
        showHeadline();
        showPicture();
        schedule_->refresh();
    }
    if ((parts & (PlanPart | RunPart)) != 0)
        showSheets(); // a photograph can be tied to the run that is selected
    if ((parts & RunPart) != 0) {
        way_->refresh();
        matters_->refresh();
    }
    if ((parts & ProofPart) != 0)
        closing_->refresh();
}

void SurveyStage::showSheets() {
    photograph_->show(plan_->chosenId());
    sheet_->show({}, plan_->chosenId());
    floorSheet_->show(plan_->floorId(), {});
    if (rulesWanted_ && session_.hasJob())
        rules_->show({}, session_.job().info.id);
    else
        rules_->hide();
}

void SurveyStage::showFloors() {
    if (!session_.hasJob())
        return;
    const Job& job = session_.job();
    std::vector<std::string> ids;
    QStringList names;
    for (const auto& floor : job.floors) {
        ids.push_back(floor.id);
        names << q(floor.name);
    }
    const bool there = byId(job.floors, plan_->floorId()) != nullptr;
    if (!there)
        plan_->setFloor(ids.empty() ? std::string() : ids.front());
    QStringList now;
    for (int i = 0; i < floors_->count(); ++i)
        now << floors_->itemText(i);
    if (ids != shownFloors_ || names != now) {
        shownFloors_ = ids;
        floors_->clear();
        floors_->addItems(names);
    }
    const auto it = std::find(ids.begin(), ids.end(), plan_->floorId());
    floors_->setCurrentIndex(it == ids.end() ? -1 : static_cast<int>(it - ids.begin()));
    floors_->setVisible(!ids.empty());
    for (auto* tool : tools_)
        tool->setEnabled(!ids.empty());
}

void SurveyStage::showHeadline() {
    const Job& job = session_.job();
    if (job.floors.empty()) {
        headline_->setText(tr("Where do the runs go?"));
        return;
    }
    int bad = 0;
    const SiteFinding* worst = nullptr;
    for (const auto& f : session_.site()->findings)
        if (f.bad) {
            ++bad;
            if (worst == nullptr)
                worst = &f;
        }
    const auto follow = std::count_if(job.runs.begin(), job.runs.end(), [](const Run& r) {
        return lengthFrom(r) == LengthFrom::Plan;
    });
    if (worst != nullptr)
        headline_->setText(bad == 1 ? said(worst->title, session_)
                                    : tr("%1; %2 more to mend on the plan")
                                          .arg(said(worst->title, session_))
                                          .arg(bad - 1));
    else if (follow > 0)
        headline_->setText(tr("The plan measures %1 of %2 runs")
                               .arg(follow)
                               .arg(static_cast<int>(job.runs.size())));
    else
        headline_->setText(tr("Which rooms get what, and which way do the runs go?"));
}

void SurveyStage::showTool() {
    const Tool now = plan_->tools().tool;
    for (std::size_t i = 0; i < toolWords.size(); ++i)
        tools_[static_cast<qsizetype>(i)]->setChecked(toolWords[i].tool == now);
    QStringList names;
    int current = 0;
    if (now == Tool::HeadEnd) {
        for (int i = 0; i < static_cast<int>(PlaceKind::Outlet); ++i)
            names << term(placeWord(static_cast<PlaceKind>(i)));
        current = static_cast<int>(plan_->tools().head);
    } else if (now == Tool::Pathway && session_.hasJob()) {
        for (const auto& preset : session_.catalogue().site.pathways)
            names << q(preset.pathway.name);
        current = static_cast<int>(plan_->tools().pathway);
    } else if (now == Tool::Mains && session_.hasJob()) {
        for (const auto& preset : session_.catalogue().site.mains)
            names << q(preset.route.name);
        current = static_cast<int>(plan_->tools().mains);
    } else if (now == Tool::Run && session_.hasJob()) {
        for (const auto& kind : session_.catalogue().site.kinds)
            names << q(kind.name);
        current = static_cast<int>(plan_->tools().run);
    }
    preset_->clear();
    preset_->addItems(names);
    preset_->setCurrentIndex(current);
    preset_->setVisible(!names.isEmpty());
}

void SurveyStage::addFloor() {
    if (!session_.hasJob())
        return;
    const Drawn floor = addedFloor(session_.pending());
    session_.commit(floor.edit);
    plan_->setFloor(floor.id);
    plan_->setFocus();
}

QList<KeyHelp> SurveyStage::keys() const {
    return {
        {tr("R, H, O, D"), tr("draw a room, a head end, outlets, a device")},
        {tr("W, M, L"), tr("draw a way for cables, mains, a wall")},
        {tr("U"), tr("a run between two places")},
        {tr("P, Z"), tr("a photograph; the scale of the picture")},
        {tr("Space, Enter"), tr("a corner at the crosshair; done. A length typed goes that far")},
        {tr("Arrows"), tr("move the crosshair; with Ctrl finer, with Shift faster")},
        {tr("N, Shift+N"), tr("choose the next thing, the one before; C, Esc: choose again")},
        {tr("Alt+arrows"), tr("move what is chosen; Delete: take it away; S: a corner more")},
        {tr("Plus, Minus, Home"), tr("nearer, further, all of the floor")}};
}

} // namespace burin
