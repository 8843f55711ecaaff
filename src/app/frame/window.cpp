#include "app/frame/window.h"
#include "app/frame/open_ends.h"
#include "app/frame/panel.h"
#include "app/frame/recent_jobs.h"
#include "app/frame/user_cable.h"
#include "app/look/manners.h"
#include "app/look/painters.h"
#include "app/look/theme.h"
#include "files/data_folder.h"
#include <QCloseEvent>
#include <QDir>
#include <QFileInfo>
#include <QHBoxLayout>
#include <QInputDialog>
#include <QMenu>
#include <QSplitter>

namespace burin {

Window::Window(Session& session, const std::function<QList<StageView>(QWidget*)>& makeStages)
    : session_(session), title_(new OneLine(Voice::Bold, this)),
      path_(new OneLine(Voice::Small, this)), message_(words(Voice::Text, this)),
      units_(new QToolButton(this)), dark_(new QToolButton(this)), menu_(new QToolButton(this)),
      decide_(link({}, this)), runs_(new RunsPanel(session, this)),
      stack_(new QStackedWidget(this)), beginnings_(new Beginnings(session, this)),
      strip_(new Strip(session, this)) {
    setWindowTitle(tr("Burin"));
    stages_ = makeStages(this);
    QStringList names;
    for (const auto& stage : stages_) {
        names << stage.name;
        stack_->addWidget(stage.widget);
    }
    line_ = new StageLine(names, this);
    stack_->addWidget(beginnings_);
    message_->setObjectName(QStringLiteral("message"));
    message_->setContentsMargins(16, 6, 16, 6);
    message_->hide();
    message_->installEventFilter(this);
    stack_->installEventFilter(this);
    fade_.setSingleShot(true);
    connect(&fade_, &QTimer::timeout, message_, &QWidget::hide);

    auto* middle = new QWidget(this);
    auto* row = new QHBoxLayout(middle);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(0);
    row->addWidget(runs_);
    row->addWidget(stack_, 1);
    auto* all = new QWidget(this);
    auto* column = new QVBoxLayout(all);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(0);
    column->addWidget(makeHead());
    column->addWidget(middle, 1);
    column->addWidget(strip_);
    strip_->setSizePolicy(QSizePolicy::Preferred, QSizePolicy::Fixed);
    setCentralWidget(all);
    makeShortcuts();

    connect(line_, &StageLine::chosen, this, &Window::showStage);
    connect(beginnings_, &Beginnings::newJob, this, [this] { newJob(); });
    connect(beginnings_, &Beginnings::openJob, this, [this] { openJob(); });
    connect(beginnings_, &Beginnings::openSample, this, [this] { openSample(); });
    connect(beginnings_, &Beginnings::drawSite, this, [this] { drawSite(); });
    connect(beginnings_, &Beginnings::typeRuns, runs_, &RunsPanel::focusAdd);
    connect(beginnings_, &Beginnings::reopen, this,
            [this](const QString& path) { session_.store().open(path); });
    connect(runs_, &RunsPanel::filesDropped, this, &Window::filesDropped);
    connect(&session, &Session::jobChanged, this, [this] { showJob(); });
    connect(&session.store(), &StoreThread::fileLost, this, [this] { showJob(); });
    connect(&session, &Session::jobOpened, this, [this] {
        if (remembers_)
            noteRecentJob(session_.snapshot().path);
        beginning_ = session_.job().runs.empty() && session_.job().floors.empty();
        showJob();
        if (session_.job().runs.empty() && !stages_[line_->current()].worksEmpty)
            runs_->focusAdd();
        else
            runs_->focusList();
    });
    connect(&session, &Session::findingsChanged, this, [this] { showDone(); });
    connect(&session, &Session::message, this, &Window::showMessage);
    showStage(0);
    showJob();
    resize(1280, 800);
}

QWidget* Window::makeHead() {
    auto* head = new QWidget(this);
    auto* layout = new QHBoxLayout(head);
    layout->setContentsMargins(16, 4, 16, 4);
    auto* names = new QVBoxLayout;
    names->setSpacing(0);
    names->addWidget(title_);
    names->addWidget(path_);
    layout->addLayout(names);
    layout->addSpacing(24);
    layout->addWidget(line_);
    layout->addStretch(1);
    const auto showUnits = [this] {
        units_->setText(session_.units() == UnitSystem::Metric ? tr("m · °C") : tr("ft · °F"));
    };
    showUnits();
    units_->setToolTip(tr("Metric or imperial (Ctrl+U)"));
    units_->setShortcut(QKeySequence(QStringLiteral("Ctrl+U")));
    units_->setObjectName(QStringLiteral("units"));
    connect(units_, &QToolButton::clicked, this, [this, showUnits] {
        const bool metric = session_.units() == UnitSystem::Metric;
        session_.setUnits(metric ? UnitSystem::Imperial : UnitSystem::Metric);
        showUnits();
    });
    dark_->setText(Theme::instance().dark() ? tr("Light") : tr("Dark"));
    dark_->setToolTip(tr("Dark or light (Ctrl+L)"));
    dark_->setShortcut(QKeySequence(QStringLiteral("Ctrl+L")));
    connect(dark_, &QToolButton::clicked, this,
            [] { Theme::instance().setDark(!Theme::instance().dark()); });
    connect(&Theme::instance(), &Theme::changed, dark_, [this] {
        dark_->setText(Theme::instance().dark() ? tr("Light") : tr("Dark"));
        showJob();
    });
    decide_->setObjectName(QStringLiteral("decide"));
    connect(decide_, &QPushButton::clicked, this, [this] { showOpenEnds(); });
    layout->addWidget(decide_);
    menu_->setText(tr("Job"));
    menu_->setObjectName(QStringLiteral("jobMenu"));
    menu_->setPopupMode(QToolButton::InstantPopup);
    makeMenu(menu_);
    for (auto* button : {units_, dark_, menu_})
        layout->addWidget(button);
    return head;
}

void Window::showStage(int index) {
    beginning_ = false;
    line_->setCurrent(index);
    strip_->setBelow(stages_[index].below);
    showJob();
}

void Window::showJob() {
    const bool job = session_.hasJob();
    const bool runs = job && !session_.job().runs.empty();
    title_->setText(
        job ? (session_.job().info.name.empty() ? tr("Unnamed job") : q(session_.job().info.name))
            : tr("Burin"));
    title_->setToolTip(title_->text());
    const QString file = QFileInfo(session_.snapshot().path).fileName();
    kept_ = !job                  ? QStringList{tr("no job is open")}
            : session_.fileLost() ? QStringList{tr("%1 · no change is kept any more").arg(file),
                                                tr("no change is kept any more")}
            : session_.snapshot().readOnly
                ? QStringList{tr("%1 · for reading alone").arg(file), tr("for reading alone")}
                : QStringList{tr("%1 · every change is kept").arg(file), file};
    path_->setToolTip(job ? kept_.front() + QLatin1Char('\n') + session_.snapshot().path
                          : QString());
    showOpen();
    runs_->setEnabled(job);
    strip_->setVisible(runs);
    beginning_ = beginning_ && job && !runs && session_.job().floors.empty();
    if (runs || (job && !beginning_ && stages_[line_->current()].worksEmpty)) {
        stack_->setCurrentWidget(stages_[line_->current()].widget);
    } else {
        beginnings_->showBeginnings();
        stack_->setCurrentWidget(beginnings_);
    }
    const auto& s = session_.snapshot();
    undo_->setEnabled(job && !s.readOnly && !s.undoTitle.isEmpty());
    undo_->setText(s.undoTitle.isEmpty() ? tr("Undo") : tr("Undo: %1").arg(asWritten(s.undoTitle)));
    redo_->setEnabled(job && !s.readOnly && !s.redoTitle.isEmpty());
    redo_->setText(s.redoTitle.isEmpty() ? tr("Redo") : tr("Redo: %1").arg(asWritten(s.redoTitle)));
    // What was refused has been seen once something else was done.
    if (job && message_->isVisible() && !fade_.isActive())
        fade_.start(6000);
}

/// A long name gives way to the stages.
void Window::fitTitle() {
    int others = line_->sizeHint().width() + Theme::instance().px(24 + 2 * 16);
    for (const QWidget* button :
         {static_cast<const QWidget*>(decide_), static_cast<const QWidget*>(units_),
          static_cast<const QWidget*>(dark_), static_cast<const QWidget*>(menu_)})
        if (!button->isHidden())
            others += button->sizeHint().width() + Theme::instance().px(8);
    const int room = std::max(Theme::instance().px(60), width() - others);
    for (QLabel* label : {title_, path_})
        label->setMaximumWidth(room);
    const bool whole = path_->fontMetrics().horizontalAdvance(kept_.value(0)) <= room;
    path_->setText(whole ? kept_.value(0) : kept_.value(kept_.size() - 1));
}

/// What is left to decide, at the top right while there is something.
void Window::showOpen() {
    const int open = openEndsOf(session_);
    decide_->setText(tr("%1 to decide").arg(open));
    decide_->setVisible(open > 0);
    fitTitle();
}

void Window::showDone() {
    showOpen();
    const Coverage c = coverageOf(session_.job(), session_.findings());
    const double count = std::max(1, c.runs);
    const auto pulled = static_cast<double>(session_.jobFindings()->pulls.there());
    const EndPlan& ends = session_.jobFindings()->ends;
    const double ended =
        static_cast<double>(ends.made()) / std::max(1.0, static_cast<double>(ends.wanted()));
    QList<double> shares{c.planned / count, c.predicted / count, pulled / count, ended,
                         c.proven() / count};
    shares.resize(stages_.size());
    line_->setDone(shares);
}

void Window::showMessage(const QString& text, bool bad) {
    const Tokens& t = Theme::instance().tokens();
    message_->setText(text);
    message_->setStyleSheet(QStringLiteral("background: %1; color: %2;")
                                .arg((bad ? t.rustSoft : t.verdigrisSoft).name(), t.ink.name()));
    message_->setToolTip(tr("A click puts it away"));
    // What went well is read in passing; what was refused stays until something else is done.
    if (bad)
        fade_.stop();
    else
        fade_.start(8000);
    message_->show();
    placeMessage();
}

/// Over the foot of the stage: nothing moves under the pointer because something is said.
void Window::placeMessage() {
    const int wide = stack_->width();
    const int high = std::min(message_->heightForWidth(wide), stack_->height() / 2);
    message_->setGeometry(
        QRect(stack_->mapTo(this, QPoint(0, stack_->height() - high)), QSize(wide, high)));
    message_->raise();
}

bool Window::eventFilter(QObject* watched, QEvent* event) {
    if (watched == message_ && event->type() == QEvent::MouseButtonPress)
        message_->hide();
    if (watched == stack_ && event->type() == QEvent::Resize) {
        fitTitle();
        if (message_->isVisible())
            placeMessage();
    }
    return QMainWindow::eventFilter(watched, event);
}

QString Window::askJob(Ask what, const QString& title) {
    return askFile(this, session_, what, title, tr("Burin jobs (*.burin)"),
                   QStringLiteral("burin"));
}

void Window::newJob() {
    const QString path = askJob(Ask::Save, tr("New job"));
    if (!path.isEmpty())
        session_.store().create(path, QFileInfo(path).completeBaseName());
}

void Window::openJob() {
    const QString path = askJob(Ask::Open, tr("Open a job"));
    if (!path.isEmpty())
        session_.store().open(path);
}

/// A copy of it among the user's documents, under a name that no file has.
void Window::openSample() {
    const QDir folder(folderForFiles(session_));
    QString path;
    for (int i = 1; path.isEmpty() || QFileInfo::exists(path); ++i)
        path = folder.filePath(i == 1 ? QStringLiteral("Kittiwake Wharf.burin")
                                      : QStringLiteral("Kittiwake Wharf %1.burin").arg(i));
    session_.store().importJson(
        QString::fromStdString(dataFolder()) + QStringLiteral("/demo/kittiwake.json"), path);
}

void Window::drawSite() {
    for (int i = 0; i < stages_.size(); ++i)
        if (stages_[i].worksEmpty)
            return showStage(i);
}

void Window::fillRecent(QMenu* menu) {
    menu->clear();
    for (const auto& path : recentJobs()) {
        auto* action = menu->addAction(QFileInfo(path).completeBaseName(), this,
                                       [this, path] { session_.store().open(path); });
        action->setToolTip(path);
        action->setEnabled(!session_.hasJob() || path != session_.snapshot().path);
    }
    menu->setToolTipsVisible(true);
    if (menu->isEmpty())
        menu->addAction(tr("none yet"))->setEnabled(false);
}

void Window::reopenLast() {
    for (const auto& path : recentJobs())
        if (!session_.hasJob() || path != session_.snapshot().path)
            return session_.store().open(path);
    showMessage(tr("No other job was open here yet."), false);
}

void Window::saveCopy() {
    if (!session_.hasJob())
        return;
    const QString path = askJob(Ask::Save, tr("Save a copy"));
    if (!path.isEmpty())
        session_.store().saveCopy(path);
}

void Window::joinCopy() {
    if (!session_.hasJob())
        return;
    const QString path = askJob(Ask::Open, tr("Merge a copy of this job"));
    if (!path.isEmpty())
        session_.store().joinCopy(path);
}

void Window::showOpenEnds() {
    auto* window = new OpenEnds(session_, this);
    window->show(); // beside the work: a field may be looked at, or typed
}

void Window::exportJob() {
    if (!session_.hasJob())
        return;
    const QString path = askFile(this, session_, Ask::Save, tr("Export"), tr("JSON (*.json)"),
                                 QStringLiteral("json"));
    if (!path.isEmpty())
        session_.store().exportJson(path);
}

void Window::importJob() {
    const QString from = askFile(this, session_, Ask::Open, tr("Import"), tr("JSON (*.json)"));
    if (from.isEmpty())
        return;
    const QString path = askJob(Ask::Save, tr("New job for it"));
    if (!path.isEmpty())
        session_.store().importJson(from, path);
}

void Window::changeInfo(const QString& title, const std::function<void(JobInfo&)>& change) {
    if (!session_.hasJob())
        return;
    JobInfo after = session_.pending().info;
    change(after);
    if (!(after == session_.pending().info))
        session_.commit({title.toStdString(),
                         {put(std::optional(session_.pending().info), std::optional(after))}});
}

void Window::addUserCable() {
    if (!session_.hasJob())
        return;
    auto* window = new UserCableWindow(session_, this);
    window->show();
}

void Window::takePlaceOf(const Window& old) {
    remembers_ = old.remembers_;
    setGeometry(old.geometry());
    setWindowState(old.windowState());
    showStage(old.line_->current());
    beginning_ = old.beginning_;
    showJob();
    setVisible(old.isVisible());
}

void Window::closeEvent(QCloseEvent* event) {
    session_.dropPreview();
    event->accept();
}

} // namespace burin
