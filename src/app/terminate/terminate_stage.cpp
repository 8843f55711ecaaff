#include "app/terminate/terminate_stage.h"
#include "app/frame/user_settings.h"
#include "app/look/choice.h"
#include "app/look/flow_layout.h"
#include "app/look/theme.h"
#include <QHBoxLayout>
#include <QShortcut>

namespace burin {

TerminateStage::TerminateStage(Session& session, QWidget* parent)
    : Stage(session, parent), headline_(words(Voice::Headline, this)),
      which_(words(Voice::Small, this)), nearEnd_(link({}, this)), farEnd_(link({}, this)),
      connector_(new Choice(this)), alike_(link(tr("on all alike"), this)),
      inRoom_(link(tr("in this room"), this)), view_(new EndView(this)),
      scale_(words(Voice::Small, this)), trueSize_(link({}, this)), calibrate_(link({}, this)),
      print_(link(tr("print at true size"), this)),
      own_(link(tr("lengths of the part's sheet"), this)), pins_(new PinsView(this)),
      pinsSaid_(words(Voice::Small, this)), first_(words(Voice::Bold, this)),
      fit_(words(Voice::Text, this)), steps_{new QVBoxLayout, new QVBoxLayout},
      said_(words(Voice::Text, this)), schools_(words(Voice::Small, this)),
      tools_(words(Voice::Small, this)), care_(words(Voice::Text, this)),
      checks_(new EndChecks(this)), carePanel_(new Panel({}, this)),
      pages_(new QStackedWidget(this)), toolsView_(new ToolsView(session, this)),
      ownLengths_(new OwnLengths(session, this)), list_(new EndList(session, this)),
      counts_(words(Voice::Bold, this)), due_(words(Voice::Small, this)),
      made_(link(tr("made"), this)), spoiled_(link(tr("spoiled"), this)),
      unmade_(link(tr("not made"), this)), bring_(link(tr("photo"), this)),
      openTools_(link(tr("tools"), this)), who_(new QLineEdit(this)), strip_(new Choice(this)),
      close_(new Choice(this)), photographs_(new PictureLoader(this)),
      photograph_(new PhotographView(session, QStringLiteral("endPicture"), pages_, this)),
      record_(words(Voice::Small, this)) {
    headline_->setObjectName(QStringLiteral("endHead"));
    auto* head = new QHBoxLayout;
    head->setSpacing(12);
    head->addWidget(headline_, 1);
    for (QWidget* widget : std::initializer_list<QWidget*>{nearEnd_, farEnd_, which_})
        head->addWidget(widget);
    which_->setWordWrap(false);
    auto* below = new QHBoxLayout;
    below->setSpacing(12);
    below->addWidget(makeList());
    pages_->addWidget(makeCard());
    pages_->addWidget(toolsView_);
    pages_->addWidget(ownLengths_);
    below->addWidget(pages_, 1);
    auto* all = new QVBoxLayout(this);
    all->setContentsMargins(16, 12, 16, 12);
    all->setSpacing(8);
    all->addLayout(head);
    all->addLayout(below, 1);
    nearEnd_->setObjectName(QStringLiteral("nearEnd"));
    farEnd_->setObjectName(QStringLiteral("farEnd"));
    connect(nearEnd_, &QPushButton::clicked, this, [this] { turnTo(false); });
    connect(farEnd_, &QPushButton::clicked, this, [this] { turnTo(true); });
    connect(new QShortcut(QKeySequence(QStringLiteral("Ctrl+E")), this), &QShortcut::activated,
            this, [this] { turnTo(!far_); });
    connect(&session, &Session::unitsChanged, this, [this] { refresh(); });
    connect(&session, &Session::selectionChanged, this, [this] {
        // What is typed of a card is of the end it was begun for.
        if (pages_->currentWidget() == ownLengths_)
            pages_->setCurrentIndex(0);
        refresh();
    });
    connect(&session, &Session::jobChanged, this, [this] { stale(); });
    connect(&session, &Session::findingsChanged, this, [this] { stale(); });
    const auto back = [this] { pages_->setCurrentIndex(0); };
    connect(toolsView_, &ToolsView::closed, this, back);
    connect(ownLengths_, &OwnLengths::closed, this, back);
    connect(openTools_, &QPushButton::clicked, this, [this] {
        pages_->setCurrentWidget(toolsView_);
        toolsView_->showTools();
        toolsView_->focusLine();
    });
    connect(own_, &QPushButton::clicked, this, &TerminateStage::openOwn);
    connect(&Theme::instance(), &Theme::changed, this, [this] { fitWidths(); });
    fitWidths();
}

/// As wide as their words are at the size that was chosen.
void TerminateStage::fitWidths() {
    listPanel_->setFixedWidth(Theme::instance().px(240));
    scale_->setFixedWidth(Theme::instance().px(172));
}

/// On a small screen the names of the wires come before how one stands before them, which is then
/// under the pointer.
bool TerminateStage::hasRoom() const {
    return height() > Theme::instance().px(520);
}

void TerminateStage::resizeEvent(QResizeEvent* event) {
    Stage::resizeEvent(event);
    pinsSaid_->setVisible(!pins_->isHidden() && hasRoom());
}

QWidget* TerminateStage::makeList() {
    auto* panel = listPanel_ = new Panel({}, this);
    counts_->setObjectName(QStringLiteral("endCounts"));
    due_->setObjectName(QStringLiteral("toolsDue"));
    panel->body()->setSpacing(6);
    panel->body()->addWidget(counts_);
    panel->body()->addWidget(list_, 1);
    const std::tuple<QPushButton*, const char*, QString> does[] = {
        {made_, "endMade",
         tr("What is chosen is made (Space); on a place, all that is left of it")},
        {spoiled_, "endSpoiled", tr("A try is spoiled and cut off (X)")},
        {unmade_, "endUnmade", tr("It is not made after all (Backspace)")},
        {bring_, "endPhotograph", tr("A photograph shows it (P, or drop it on the list)")}};
    auto* line = new FlowLayout;
    for (const auto& [button, name, tip] : does) {
        button->setObjectName(QLatin1String(name));
        button->setToolTip(tip);
        line->addWidget(button);
    }
    panel->body()->addLayout(line);
    who_->setObjectName(QStringLiteral("madeBy"));
    who_->setAccessibleName(tr("Who makes them"));
    who_->setPlaceholderText(tr("who: second fixer"));
    who_->setText(UserSettings().value(QStringLiteral("madeBy")).toString());
    connect(who_, &QLineEdit::editingFinished, this,
            [this] { UserSettings().setValue(QStringLiteral("madeBy"), who_->text().trimmed()); });
    strip_->setObjectName(QStringLiteral("stripTool"));
    strip_->setAccessibleName(tr("Tool that cuts and strips"));
    close_->setObjectName(QStringLiteral("closeTool"));
    close_->setAccessibleName(tr("Tool that closes the connector"));
    panel->body()->addWidget(who_);
    panel->body()->addWidget(strip_);
    panel->body()->addWidget(close_);
    auto* last = new QHBoxLayout;
    last->setSpacing(8);
    openTools_->setObjectName(QStringLiteral("openTools"));
    last->addWidget(due_, 1);
    last->addWidget(openTools_);
    panel->body()->addLayout(last);
    connect(list_, &EndList::endChosen, this, [this](const QString& runId, bool far) {
        far_ = far;
        const std::string id = runId.toStdString();
        if (id == session_.currentId())
            refresh();
        else
            session_.select(id, {id});
    });
    connect(list_, &EndList::madeAsked, this, &TerminateStage::made);
    connect(list_, &EndList::spoiledAsked, this, &TerminateStage::spoiled);
    connect(list_, &EndList::unmadeAsked, this, &TerminateStage::unmade);
    connect(list_, &EndList::photographAsked, this, &TerminateStage::askPhotograph);
    connect(list_, &EndList::photographsDropped, this, &TerminateStage::bringPhotographs);
    connect(list_, &EndList::activated, this, [this] { checks_->enter(); });
    connect(made_, &QPushButton::clicked, this, &TerminateStage::made);
    connect(spoiled_, &QPushButton::clicked, this, &TerminateStage::spoiled);
    connect(unmade_, &QPushButton::clicked, this, &TerminateStage::unmade);
    connect(bring_, &QPushButton::clicked, this, &TerminateStage::askPhotograph);
    return panel;
}

QWidget* TerminateStage::makeCard() {
    connector_->setObjectName(QStringLiteral("endConnector"));
    connector_->setSizePolicy(QSizePolicy::Preferred, QSizePolicy::Fixed);
    connector_->setAccessibleName(tr("Connector of this end"));
    alike_->setObjectName(QStringLiteral("alikeConnector"));
    alike_->setToolTip(tr("That end of every run with this cable, where there is a connector of "
                          "the same series, or none yet"));
    auto* choice = new FlowLayout(12);
    choice->addWidget(connector_);
    choice->addWidget(alike_);
    choice->addWidget(inRoom_);
    auto* below = new QHBoxLayout;
    below->setSpacing(12);
    below->addWidget(makeSteps(), 8);
    below->addWidget(makeProofs(), 5);
    auto* page = new QWidget(this);
    card_ = new QVBoxLayout(page);
    card_->setContentsMargins(0, 0, 0, 0);
    card_->setSpacing(8);
    card_->addLayout(choice);
    card_->addWidget(makeDrawing());
    card_->addLayout(below);
    // Never under the edge of what is scrolled.
    carePanel_->setTone(Panel::Tone::Marginal);
    carePanel_->body()->addWidget(care_);
    card_->addWidget(carePanel_);
    connect(connector_, &QComboBox::activated, this, &TerminateStage::adopt);
    inRoom_->setObjectName(QStringLiteral("roomConnector"));
    inRoom_->setToolTip(tr("The same, but only of the runs of this room"));
    connect(alike_, &QPushButton::clicked, this, [this] { adoptAlike(Alike::InJob); });
    connect(inRoom_, &QPushButton::clicked, this, [this] { adoptAlike(Alike::InRoom); });
    print_->setObjectName(QStringLiteral("printCard"));
    own_->setObjectName(QStringLiteral("ownLengths"));
    connect(print_, &QPushButton::clicked, this, &TerminateStage::print);
    return page;
}

QWidget* TerminateStage::makeDrawing() {
    auto* panel = new Panel({}, this);
    auto* inside = new QWidget(this);
    auto* beside = new QVBoxLayout(inside);
    beside->setContentsMargins(0, 0, 0, 0);
    beside->setSpacing(4);
    beside->addWidget(scale_);
    for (auto* button : {trueSize_, calibrate_, own_, print_})
        beside->addWidget(button, 0, Qt::AlignLeft);
    beside->addStretch(1);
    auto* drawn = new QHBoxLayout;
    drawn->setSpacing(12);
    drawn->addWidget(view_, 1);
    // On a small screen they are scrolled; they stood in each other's way.
    beside_ = scrolled(inside, this);
    beside_->setSizePolicy(QSizePolicy::Fixed, QSizePolicy::Ignored);
    beside_->setMinimumHeight(20);
    drawn->addWidget(beside_);
    trueSize_->setObjectName(QStringLiteral("trueSize"));
    calibrate_->setObjectName(QStringLiteral("calibrate"));
    scale_->setObjectName(QStringLiteral("endScale"));
    panel->body()->addLayout(drawn, 1);
    panel->body()->addWidget(pins_);
    panel->body()->addWidget(pinsSaid_);
    connect(view_, &EndView::scaleChanged, this, &TerminateStage::showScale);
    connect(trueSize_, &QPushButton::clicked, this,
            [this] { view_->setTrueSize(!view_->trueSize()); });
    connect(calibrate_, &QPushButton::clicked, view_, &EndView::calibrate);
    return panel;
}

QWidget* TerminateStage::makeSteps() {
    auto* panel = new Panel({}, this);
    auto* inside = new QWidget(this);
    auto* lines = new QVBoxLayout(inside);
    lines->setContentsMargins(0, 0, 0, 0);
    lines->setSpacing(6);
    first_->setObjectName(QStringLiteral("endFirst"));
    auto* columns = new QHBoxLayout;
    columns->setSpacing(16);
    for (auto* column : steps_) {
        column->setSpacing(4);
        columns->addLayout(column, 1);
    }
    lines->addLayout(columns);
    lines->addStretch(1);
    auto* scroll = scrolled(inside, this);
    scroll->setMinimumHeight(40);
    panel->body()->addWidget(first_);
    panel->body()->addWidget(scroll, 1);
    return panel;
}

QWidget* TerminateStage::makeProofs() {
    auto* panel = new Panel(tr("What proves it"), this);
    auto* inside = new QWidget(this);
    auto* lines = new QVBoxLayout(inside);
    lines->setContentsMargins(0, 0, 0, 0);
    lines->setSpacing(6);
    fit_->setObjectName(QStringLiteral("endFit"));
    said_->setObjectName(QStringLiteral("endSaid"));
    record_->setObjectName(QStringLiteral("endRecord"));
    lines->addWidget(fit_);
    lines->addWidget(record_);
    lines->addWidget(said_);
    lines->addWidget(checks_);
    lines->addWidget(photograph_);
    lines->addWidget(schools_);
    lines->addWidget(tools_);
    connect(checks_, &EndChecks::checked, this,
            [this](const QString& proofId, const std::optional<EndCheck>& found) {
                commit(checkedEnd(session_.pending(), {session_.currentId(), end()},
                                  proofId.toStdString(), found));
            });
    connect(checks_, &EndChecks::refused, this,
            [this](const QString& why) { emit session_.message(why, true); });
    lines->addStretch(1);
    auto* scroll = scrolled(inside, this);
    scroll->setMinimumHeight(40);
    panel->body()->addWidget(scroll, 1);
    return panel;
}

} // namespace burin
