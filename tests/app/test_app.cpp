#include "app/budget/feedline_view.h"
#include "app/driven.h"
#include "app/frame/recent_jobs.h"
#include "core/says.h"
#include "core/units/render.h"
#include "files/job_export.h"
#include <QApplication>
#include <QComboBox>
#include <QDialog>
#include <QDragEnterEvent>
#include <QDropEvent>
#include <QElapsedTimer>
#include <QFileDialog>
#include <QMimeData>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QShortcut>
#include <QSignalSpy>

using namespace burin;

/// Tells how long one event held the screen's thread: what comes between two events is served.
class TimedApplication : public QApplication {
public:
    using QApplication::QApplication;
    bool notify(QObject* receiver, QEvent* event) override {
        if (depth_++ > 0) {
            const bool done = QApplication::notify(receiver, event);
            --depth_;
            return done;
        }
        QElapsedTimer clock;
        clock.start();
        const bool done = QApplication::notify(receiver, event);
        longestMs = std::max(longestMs, static_cast<double>(clock.nsecsElapsed()) / 1e6);
        --depth_;
        return done;
    }
    double longestMs = 0;

private:
    int depth_ = 0;
};

/// Drives the real widgets: what is typed, pressed, dragged and dropped, and what then stands in
/// the job file. Runs offscreen, and in a real window where a display is given.
class TestApp : public Driven {
    Q_OBJECT
public:
    TestApp() : Driven(budgetStage) {}

private:
    const Run& run(const char* label) { return *job().runLabelled(label); }
    /// What would hold instead, once it is looked for and shown.
    QPushButton* cureNamed(const char* word) {
        QPushButton* found = nullptr;
        const auto look = [&] {
            for (auto* button : find<QWidget>("cures")->findChildren<QPushButton*>())
                if (found == nullptr && button->isVisible() && button->isEnabled() &&
                    english(button->text()).contains(QLatin1String(word), Qt::CaseInsensitive))
                    found = button;
            return found != nullptr;
        };
        if (!QTest::qWaitFor(look, 30000))
            qFatal("no cure says %s", word);
        return found;
    }
    /// A margin stands behind the name.
    void choosePlotted(const char* name) {
        auto* box = find<QComboBox>("plotted");
        for (int i = 0; i < box->count(); ++i)
            if (english(box->itemText(i)).startsWith(QLatin1String(name)))
                return choose(box, english(box->itemText(i)));
    }
    void choose(QComboBox* box, const QString& text) {
        SOON_VERIFY(choiceIn(box, text) >= 0);
        const int index = choiceIn(box, text);
        box->setCurrentIndex(index);
        emit box->activated(index);
    }
    void type(QLineEdit* field, const char* text) {
        field->setFocus();
        field->selectAll();
        QTest::keyClicks(field, QString::fromUtf8(text));
        QTest::keyClick(field, Qt::Key_Return);
    }
    void add(const char* line) {
        const auto before = job().runs.size();
        type(find<QLineEdit>("addRun"), line);
        SOON_COMPARE(job().runs.size(), before + 1);
    }
    void choose(const char* label) { session().select(run(label).id, {}); }

private slots:
    void initTestCase() {
        QVERIFY(loadFaces(QStringLiteral(BURIN_SOURCE "/assets/fonts")));
        Theme::instance().setDark(false);
    }
    void cleanup() { app_.reset(); }

    void emptyJobSaysWhatToDo() {
        startEmpty();
        QVERIFY(find<QLabel>("firstSteps")->isVisible());
        QVERIFY(
            english(find<QLabel>("goOnText")->text()).contains(QStringLiteral("SL-D01 61.5 m")));
        QTest::keyClick(app_->window.get(), Qt::Key_Insert);
        add("SL-D01 61.5 m cat6a-utp 10g");
        QVERIFY(!find<QLabel>("firstSteps")->isVisible());
        QCOMPARE(session().current()->label, std::string("SL-D01"));
        QCOMPARE(job().rooms.size(), 1U);
    }

    /// No job, three runs typed, their verdicts, one taken back, and the job opened again from the
    /// recent ones: by keyboard alone, digits and letters aside.
    void theFirstHourInUnderFifteenActions() {
        start();
        auto* window = app_->window.get();
        int actions = 0;
        const auto press = [&](Qt::Key key, Qt::KeyboardModifiers with = Qt::NoModifier) {
            QWidget* focus = QApplication::focusWidget();
            QTest::keyClick(focus != nullptr ? focus : window, key, with);
            ++actions;
        };
        QVERIFY(find<QPushButton>("begin")->isVisible());
        const QString file = path();
        QTimer::singleShot(0, this, [&] {
            auto* dialog = qobject_cast<QFileDialog*>(QApplication::activeModalWidget());
            QVERIFY(dialog != nullptr);
            dialog->findChild<QLineEdit*>(QStringLiteral("fileNameEdit"))->setText(file);
            QMetaObject::invokeMethod(dialog, "accept");
            ++actions;
        });
        press(Qt::Key_N, Qt::ControlModifier);
        SOON_VERIFY(session().hasJob());
        // The stage that was chosen does not hide the ways to begin.
        QVERIFY(find<QPushButton>("goOn")->isVisible());
        press(Qt::Key_Insert);
        for (const char* line : {"OF-C01 30 m", "OF-R01 20 m", "OF-D01 61.5 m"}) {
            QTest::keyClicks(QApplication::focusWidget(), QLatin1String(line));
            const auto before = job().runs.size();
            press(Qt::Key_Return);
            SOON_COMPARE(job().runs.size(), before + 1);
        }
        SOON_COMPARE(session().findings().size(), std::size_t(3));
        for (const char* label : {"OF-C01", "OF-R01", "OF-D01"})
            QVERIFY(session().finding(run(label).id) != nullptr);
        QCOMPARE(run("OF-R01").serviceId, std::string("rs485"));
        QCOMPARE(session().finding(run("OF-D01").id)->outlook, Outlook::Holds);
        press(Qt::Key_Z, Qt::ControlModifier);
        SOON_COMPARE(job().runs.size(), std::size_t(2));
        // Tomorrow.
        app_.reset();
        --count_; // the same settings and the same file
        start();
        QVERIFY(!session().hasJob());
        press(Qt::Key_O, Qt::ControlModifier | Qt::ShiftModifier);
        SOON_VERIFY(session().hasJob());
        QCOMPARE(job().runs.size(), std::size_t(2));
        QCOMPARE(session().snapshot().path, QFileInfo(file).canonicalFilePath());
        QVERIFY2(actions < 15, qPrintable(QString::number(actions)));
        qInfo("%d actions", actions);
    }

    void waysToBeginAreOneClickEach() {
        start();
        QVERIFY(find<QLabel>("firstSteps")->isVisible());
        noteRecentJob(folder_.filePath(QStringLiteral("gone.burin")));
        session().store().create(path(), QStringLiteral("Test"));
        SOON_VERIFY(session().hasJob());
        auto* survey = app_->survey;
        QVERIFY(!survey->isVisible());
        QTest::mouseClick(find<QPushButton>("begin"), Qt::LeftButton);
        QVERIFY(survey->isVisible());
        // What is among the recent ones and gone is said.
        QTest::keyClick(app_->window.get(), Qt::Key_O, Qt::ControlModifier | Qt::ShiftModifier);
        SOON_VERIFY(find<QLabel>("message")->isVisible());
        QVERIFY(english(find<QLabel>("message")->text()).contains(QStringLiteral("gone.burin")));
        QCOMPARE(recentJobs().front(), session().snapshot().path);
        QVERIFY(recentJobs().size() <= 8);
    }

    void theSampleIsACopyBesideTheLastJob() {
        start();
        noteRecentJob(folder_.filePath(QStringLiteral("a.burin"))); // so that its folder is taken
        qputenv("BURIN_DATA", BURIN_BIN "/../share/burin");
        for (const char* name : {"Kittiwake Wharf", "Kittiwake Wharf 2"}) {
            emit app_->window->findChild<Beginnings*>()->openSample();
            const QString file = folder_.filePath(QLatin1String(name) + QStringLiteral(".burin"));
            SOON_VERIFY(session().hasJob() && session().snapshot().path == file);
            QVERIFY(job().runs.size() > 30);
        }
    }

    void lettersWithANameNameTheirRoom() {
        startEmpty();
        add("OF-D01 61.5 m");
        type(find<QLineEdit>("addRun"), "OF Office");
        SOON_COMPARE(job().rooms.front().name, std::string("Office"));
        QCOMPARE(job().runs.size(), std::size_t(1));
        QVERIFY(english(find<QLineEdit>("addRun")->text()).isEmpty());
    }

    void budgetPlotsWhatElseIsExpected() {
        startEmpty();
        add("SL-D01 61.5 m cat6a-utp 10g");
        SOON_COMPARE(session().findings().size(), std::size_t(1));
        auto* box = find<QComboBox>("plotted");
        SOON_VERIFY(box->isVisible());
        auto* plot = app_->budget->findChild<LossPlot*>();
        QCOMPARE(english(plot->content().title), QStringLiteral("Insertion loss"));
        QTest::keyClick(app_->window.get(), Qt::Key_P, Qt::ControlModifier);
        QVERIFY(box->hasFocus());
        if (languageSpoken() == QLatin1String("en"))
            QTest::keyClicks(box, QStringLiteral("NEXT"));
        else // no keyboard has its letters
            choosePlotted("NEXT");
        const Expected expected = expectedOf(job(), run("SL-D01"), session().catalogue());
        const ExpectedResult* worst = expected.result(Parameter::Next);
        QVERIFY(worst != nullptr && expected.trace(Parameter::Next) != nullptr);
        const PlotContent& shown = plot->content();
        QCOMPARE(english(shown.title), QStringLiteral("NEXT"));
        QCOMPARE(shown.curves.size(), qsizetype(2));
        QCOMPARE(shown.curves[0].kind, PlotContent::Kind::Limit);
        QCOMPARE(shown.curves[1].y.size(),
                 qsizetype(expected.trace(Parameter::Next)->value.size()));
        QCOMPARE(shown.markMhz, worst->atMhz);
        QVERIFY(!shown.limitIsUpper && !shown.lossDown);
        QVERIFY(english(find<QLabel>("plotBinding")->text()).contains(QStringLiteral("no proof")));
        // It stays with the next run, where it can; coax has loss alone.
        add("SL-D02 20 m");
        SOON_COMPARE(english(plot->content().title), QStringLiteral("NEXT"));
        add("SL-C01 30 m");
        SOON_COMPARE(english(plot->content().title), QStringLiteral("Insertion loss"));
        QVERIFY(!box->isVisible());
        choose("SL-D02");
        SOON_COMPARE(english(plot->content().title), QStringLiteral("NEXT"));
        // Where something else binds, the plot of loss says so.
        add("SL-D03 60 m cat6a-utp 1g");
        QTest::qWait(QApplication::keyboardInputInterval() + 50); // a new word
        if (languageSpoken() == QLatin1String("en"))
            QTest::keyClicks(box, QStringLiteral("Ins"));
        else
            choosePlotted("Insertion loss");
        SOON_VERIFY(
            english(find<QLabel>("plotBinding")->text()).contains(QStringLiteral("does not bind")));
        QVERIFY(!find<QLabel>("plotBinding")->toolTip().isEmpty());
    }

    /// A shortcut that the page of keys does not tell is found by nobody.
    void everyShortcutIsOnThePageOfKeys() {
        startDemo();
        for (int stage = 0; stage < stageCount; ++stage) {
            app_->window->showStage(stage);
            QTest::keyClick(app_->window.get(), Qt::Key_F1);
            auto* page = app_->window->findChild<QDialog*>(QStringLiteral("keyPage"));
            QVERIFY(page != nullptr && page->isVisible());
            QString text;
            for (const auto* label : page->findChildren<QLabel*>())
                text += english(label->text()) + QLatin1Char('\n');
            const auto told = [&](const QKeySequence& key) {
                const QString said = key.toString();
                return said.isEmpty() || said == QStringLiteral("Esc") || text.contains(said) ||
                       (said.startsWith(QStringLiteral("Ctrl+")) && said.size() == 6 &&
                        said[5].isDigit() && text.contains(QStringLiteral("Ctrl+1 to")));
            };
            for (const auto* shortcut : app_->window->findChildren<QShortcut*>()) {
                bool hidden = false;
                for (const QObject* o = shortcut; o != nullptr; o = o->parent())
                    if (const auto* other = qobject_cast<const Stage*>(o))
                        hidden = !other->isVisible();
                QVERIFY2(hidden || told(shortcut->key()), qPrintable(shortcut->key().toString()));
            }
            for (const auto* action : app_->window->actions())
                QVERIFY2(told(action->shortcut()), qPrintable(english(action->text())));
            for (const auto* button : app_->window->findChildren<QAbstractButton*>())
                QVERIFY2(!button->isVisible() || told(button->shortcut()),
                         qPrintable(english(button->text())));
            QVERIFY(text.contains(QStringLiteral("General Public License")));
            page->close();
            delete page;
        }
    }

    void runsByKeyboardAlone() {
        startEmpty();
        add("SL-D01 61.5 m cat6a-utp 10g");
        auto* list = find<QListView>("runs");
        list->setFocus();
        QTest::keyClick(list, Qt::Key_D, Qt::ControlModifier);
        SOON_COMPARE(job().runs.size(), 2U);
        QCOMPARE(session().current()->label, std::string("SL-D02"));
        QTest::keyClick(list, Qt::Key_Up);
        QCOMPARE(session().current()->label, std::string("SL-D01"));
        QTest::keyClick(list, Qt::Key_F2);
        auto* editor = list->findChild<QLineEdit*>();
        QVERIFY(editor != nullptr);
        editor->selectAll();
        QTest::keyClicks(editor, QStringLiteral("SL-X9"));
        emit session().findingsChanged(); // findings that come in meanwhile leave the words alone
        QTest::keyClick(editor, Qt::Key_Return);
        SOON_VERIFY(job().runLabelled("SL-X9") != nullptr);
        QTest::keyClick(list, Qt::Key_Delete);
        SOON_COMPARE(job().runs.size(), 1U);
        session().undo();
        SOON_COMPARE(job().runs.size(), 2U);
    }

    void fieldsEditTheRunAndUndo() {
        startEmpty();
        add("SL-D01 61.5 m cat6-utp 10g");
        type(find<QLineEdit>("length"), "201 ft");
        SOON_VERIFY(qAbs(run("SL-D01").lengthM() - 61.2648) < 1e-9);
        type(find<QLineEdit>("way"), "riser 12 m; tray 34 m 31 °C 23 beside");
        SOON_COMPARE(run("SL-D01").stretches.size(), 2U);
        QCOMPARE(run("SL-D01").neighbours(), 23);
        type(find<QLineEdit>("nearCord"), "5");
        SOON_COMPARE(cordsAtM(run("SL-D01"), End::Near), 5.0);
        type(find<QLineEdit>("counts"), "2+1");
        SOON_COMPARE(run("SL-D01").connections.size(), 3U);
        session().undo();
        SOON_COMPARE(run("SL-D01").connections.size(), 2U);
        session().undo();
        session().undo();
        session().undo();
        SOON_VERIFY(qAbs(run("SL-D01").lengthM() - 61.5) < 1e-9);
    }

    void whatIsNotTypedStays() {
        startEmpty();
        add("SL-D01 61.5 m cat6-utp 10g");
        // A jack near, a plug far where the weather reaches it, and a coupler on the way.
        Run made = run("SL-D01");
        made.connections = {{End::Near, "conn-cat6", 0, false},
                            {End::Inline, "coupler-cat6", 20, false},
                            {End::Far, "plug-cat6", 0, true}};
        session().commit({"made", put(std::optional(run("SL-D01")), std::optional(made))});
        SOON_COMPARE(run("SL-D01").connections.size(), 3U);
        const auto before = run("SL-D01").connections;
        auto* connector = find<QComboBox>("connector");
        SOON_COMPARE(connector->currentIndex(), -1);
        QCOMPARE(english(connector->placeholderText()), QStringLiteral("several"));
        type(find<QLineEdit>("counts"), "1+2");
        SOON_COMPARE(run("SL-D01").connections.size(), 4U);
        for (std::size_t i = 0; i < before.size(); ++i)
            QVERIFY(run("SL-D01").connections[i] == before[i]);
        QCOMPARE(run("SL-D01").connections[3].connectionId, std::string("plug-cat6"));
        QVERIFY(run("SL-D01").connections[3].outdoors);
        choose(connector,
               english(connector->itemText(connector->findData(QStringLiteral("conn-cat6a")))));
        SOON_COMPARE(run("SL-D01").connections[2].connectionId, std::string("conn-cat6a"));
        QCOMPARE(run("SL-D01").connections[0].id, before[0].id);
        QCOMPARE(run("SL-D01").connections[1].connectionId, std::string("coupler-cat6"));
        QVERIFY(run("SL-D01").connections[2].outdoors);
        type(find<QLineEdit>("counts"), "2+");
        QCOMPARE(english(find<QLineEdit>("counts")->text()), QStringLiteral("2+"));
        QCOMPARE(run("SL-D01").connections.size(), 4U);
        // Of a way, what reads as it did is what it was.
        type(find<QLineEdit>("way"), "\"Store 3 m\" 12 m; tray 34 m");
        SOON_COMPARE(run("SL-D01").stretches.size(), 2U);
        const auto way = run("SL-D01").stretches;
        QCOMPARE(way[0].name, std::string("Store 3 m"));
        session().setUnits(UnitSystem::Imperial);
        const QString shown = english(find<QLineEdit>("way")->text());
        QCOMPARE(shown, QStringLiteral("\"Store 3 m\" 39.37 ft; tray 111.55 ft"));
        type(find<QLineEdit>("way"), "\"Store 3 m\" 39.37 ft; tray 100 ft");
        SOON_VERIFY(qAbs(run("SL-D01").stretches[1].lengthM - 30.48) < 1e-9);
        QVERIFY(run("SL-D01").stretches[0] == way[0]);
        QCOMPARE(run("SL-D01").stretches[1].id, way[1].id);
    }

    void badEntryIsRefusedAloud() {
        startEmpty();
        add("SL-D01 61.5 m");
        type(find<QLineEdit>("length"), "12 parsecs");
        auto* message = find<QLabel>("message");
        QVERIFY(message->isVisible());
        QVERIFY(english(message->text()).contains(QStringLiteral("12 parsecs")));
        QCOMPARE(run("SL-D01").lengthM(), 61.5);
        type(find<QLineEdit>("addRun"), "SL-D01 5 m");
        QVERIFY(english(message->text()).contains(QStringLiteral("SL-D02")));
        QCOMPARE(english(find<QLineEdit>("addRun")->text()), QStringLiteral("SL-D01 5 m"));
    }

    void cableOnTwelveRunsIsOneEdit() {
        startEmpty();
        for (int i = 1; i <= 12; ++i)
            add(qPrintable(
                QStringLiteral("SL-D%1 40 m cat6-utp 1g").arg(i, 2, 10, QLatin1Char('0'))));
        auto* list = find<QListView>("runs");
        list->setFocus();
        QTest::keyClick(list, Qt::Key_A, Qt::ControlModifier);
        QCOMPARE(session().selected().size(), 12U);
        auto* cable = find<QComboBox>("cable");
        cable->setFocus();
        const int wanted = cable->findData(QStringLiteral("cat6a-utp"));
        while (cable->currentIndex() < wanted)
            QTest::keyClick(cable, Qt::Key_Down);
        SOON_VERIFY(std::all_of(job().runs.begin(), job().runs.end(),
                                [](const Run& r) { return r.cableId == "cat6a-utp"; }));
        QVERIFY(session().snapshot().undoTitle.contains(QStringLiteral("12 runs")));
    }

    void cureIsOneClickAndUndoable() {
        startDemo();
        choose("SL-D03");
        QVERIFY(english(find<QLabel>("budgetAnswer")->text())
                    .startsWith(QStringLiteral("Will not hold")));
        // Where it lies is among them once the plan was made anew beside the screen; cheapest
        // first. Each is taken and taken back.
        SOON_VERIFY(session().curesAreIn());
        auto buttons = find<QWidget>("cures")->findChildren<QPushButton*>();
        QVERIFY(buttons.size() > 3 && buttons[1]->isVisible());
        QCOMPARE(english(buttons[0]->text()), QStringLiteral("The shortest way"));
        QVERIFY(!run("SL-D03").vias.empty());
        for (const int k : {0, 1}) {
            SOON_VERIFY(session().curesAreIn() && buttons[k]->isVisible());
            QTest::mouseClick(buttons[k], Qt::LeftButton);
            SOON_VERIFY(english(find<QLabel>("budgetAnswer")->text())
                            .startsWith(QStringLiteral("Predicted to hold")));
            // What was offered before it is offered no more.
            QVERIFY(session().curesAreIn());
            const auto& left = session().currentFinding()->cures;
            QVERIFY(std::none_of(left.begin(), left.end(),
                                 [](const Cure& c) { return c.of == CureOf::Way; }));
            QCOMPARE(run("SL-D03").vias.empty(), k == 0);
            QCOMPARE(run("SL-D03").cableId == "cat6-utp", k == 0);
            session().undo();
            SOON_VERIFY(english(find<QLabel>("budgetAnswer")->text())
                            .startsWith(QStringLiteral("Will not hold")));
            QVERIFY(!run("SL-D03").vias.empty());
            QCOMPARE(run("SL-D03").cableId, std::string("cat6-utp"));
        }
    }

    void twoCopiesAreJoinedAndDecidedOn() {
        startEmpty();
        add("SL-D01 40 m cat6-utp 1g");
        SOON_COMPARE(job().runs.size(), std::size_t(1));
        const QString other = folder_.filePath(QStringLiteral("other.burin"));
        session().store().saveCopy(other);
        SOON_VERIFY(QFile::exists(other));
        auto* decide = find<QPushButton>("decide");
        QVERIFY(!decide->isVisible());
        {
            auto store = JobStore::open(other, Access::ReadWrite);
            QVERIFY2(store.has_value(), store ? "" : render(store.error(), {}).c_str());
            const Run before = (*store)->job().runs[0];
            Run after = before;
            after.note = "theirs";
            after.far.text = "bench, left";
            QVERIFY((*store)->commit({"note", {put(std::optional(before), std::optional(after))}},
                                     "second fixer"));
        }
        Run after = job().runs[0];
        after.note = "mine";
        session().commit({"note", {put(std::optional(job().runs[0]), std::optional(after))}});
        SOON_COMPARE(job().runs[0].note, std::string("mine"));
        session().store().joinCopy(other);
        SOON_COMPARE(job().conflicts.size(), std::size_t(1));
        QCOMPARE(job().runs[0].far.text, std::string("bench, left"));
        QVERIFY(decide->isVisible() && english(decide->text()).startsWith(QLatin1Char('1')));
        QTest::mouseClick(decide, Qt::LeftButton);
        auto* window = app_->window->findChild<QDialog*>(QStringLiteral("openEnds"));
        QVERIFY(window != nullptr && window->isVisible());
        const QString wanted =
            job().runs[0].note == "mine" ? QStringLiteral("theirs") : QStringLiteral("mine");
        for (auto* claim : window->findChildren<QPushButton*>(QStringLiteral("claim")))
            if (english(claim->text()).contains(wanted)) {
                QTest::mouseClick(claim, Qt::LeftButton);
                break;
            }
        SOON_VERIFY(job().conflicts.empty());
        QCOMPARE(job().runs[0].note, wanted.toStdString());
        QVERIFY(!decide->isVisible());
        session().undo();
        SOON_COMPARE(job().conflicts.size(), std::size_t(1));
        QVERIFY(decide->isVisible());
        window->close();
        // A copy of another job is refused aloud.
        session().store().joinCopy(QStringLiteral(BURIN_SOURCE "/tests/fixtures/job-v5.burin"));
        SOON_VERIFY(
            english(find<QLabel>("message")->text()).contains(QStringLiteral("another job")));
    }

    void workingCanBeCopied() {
        startDemo();
        choose("SL-D01");
        QTest::mouseClick(find<QPushButton>("showReachWorking"), Qt::LeftButton);
        auto* window = app_->window->findChild<QDialog*>(QStringLiteral("working"));
        QVERIFY(window != nullptr);
        const QString text = english(window->findChild<QPlainTextEdit*>()->toPlainText());
        QVERIFY(text.contains(QStringLiteral("Formula")) &&
                text.contains(QStringLiteral("IEEE 802.3")));
        window->close();
    }

    void lengthIsDraggedOnTheStrip() {
        startDemo();
        choose("SL-D01");
        auto* strip = find<Strip>("strip");
        strip->grab();
        const double before = run("SL-D01").lengthM();
        const int y = Theme::instance().px(54);
        const QPoint end(static_cast<int>(strip->farEndX()), y);
        QTest::mousePress(strip, Qt::LeftButton, {}, end);
        auto* timed = static_cast<TimedApplication*>(qApp);
        double median = 1e9;
        // The bound is asked of the calmest of three drags: other work on the machine slows the
        // rest.
        for (int drag = 0; drag < 3 && median >= 16; ++drag) {
            std::vector<double> steps;
            for (int i = 1; i <= 40; ++i) {
                timed->longestMs = 0;
                QMouseEvent move(QEvent::MouseMove, end + QPoint(-i * 4, 0),
                                 strip->mapToGlobal(end), Qt::NoButton, Qt::LeftButton,
                                 Qt::NoModifier);
                QApplication::sendEvent(strip, &move);
                QApplication::processEvents();
                steps.push_back(timed->longestMs);
            }
            // Of each step, the event that held the screen's thread longest.
            std::sort(steps.begin(), steps.end());
            median = std::min(median, steps[steps.size() / 2]);
            qInfo("an event of a drag: median %.1f ms, nine in ten under %.1f ms, slowest %.1f ms",
                  steps[steps.size() / 2], steps[steps.size() * 9 / 10], steps.back());
        }
#ifndef __SANITIZE_ADDRESS__
        QVERIFY2(median < 16, qPrintable(QString::number(median)));
#endif
        QVERIFY(session().previewing());
        QCOMPARE(run("SL-D01").lengthM(), before);
        QTest::mouseRelease(strip, Qt::LeftButton, {}, end + QPoint(-160, 0));
        SOON_VERIFY(run("SL-D01").lengthM() < before - 1);
        session().undo();
        SOON_COMPARE(run("SL-D01").lengthM(), before);
    }

    void previewIsDroppedByEscape() {
        startDemo();
        choose("SL-D01");
        auto* strip = find<Strip>("strip");
        const double before = run("SL-D01").lengthM();
        strip->setFocus();
        QTest::keyClick(strip, Qt::Key_Right, Qt::ControlModifier);
        QVERIFY(session().previewing());
        QVERIFY(session().currentFinding()->lengthM > before);
        QTest::keyClick(strip, Qt::Key_Escape);
        QVERIFY(!session().previewing());
        QTest::keyClick(strip, Qt::Key_Right, Qt::ControlModifier);
        QTest::keyClick(strip, Qt::Key_Return);
        SOON_COMPARE(run("SL-D01").lengthM(), before + 0.5);
    }

    void fileDroppedOnTheStageIsJudged() {
        startDemo();
        choose("SL-D03");
        app_->window->showStage(testStage);
        QMimeData data;
        data.setUrls(
            {QUrl::fromLocalFile(QStringLiteral(BURIN_SOURCE "/demo/measured/SO-D01.csv"))});
        QDragEnterEvent enter({50, 50}, Qt::CopyAction, &data, Qt::LeftButton, {});
        QApplication::sendEvent(app_->test, &enter);
        QVERIFY(enter.isAccepted());
        QDropEvent drop({50, 50}, Qt::CopyAction, &data, Qt::LeftButton, {});
        QApplication::sendEvent(app_->test, &drop);
        SOON_COMPARE(session().currentFinding()->measurements.size(), 1U);
        QVERIFY(english(find<QLabel>("testFinding")->text())
                    .startsWith(QStringLiteral("SL-D03 fails")));
        QVERIFY(!find<MarginBars>("margins")->rows().empty());
    }

    void unitOfAFileIsAskedFor() {
        startDemo();
        choose("RF-A01");
        app_->window->showStage(testStage);
        const QString file = folder_.filePath(QStringLiteral("nounit.csv"));
        {
            QFile out(file);
            QVERIFY(out.open(QIODevice::WriteOnly));
            out.write("frequency;IL\n150;1,2\n160;1,3\n");
        }
        const auto before = session().currentFinding()->measurements.size();
        session().bringIn(session().currentId(), {file}, LinkKind::Channel, {});
        for (auto* button : app_->test->findChildren<QPushButton*>())
            if (english(button->text()) == QStringLiteral("MHz"))
                QTest::mouseClick(button, Qt::LeftButton);
        SOON_COMPARE(session().currentFinding()->measurements.size(), before + 1);
        QCOMPARE(session().currentFinding()->measurements.back().traces.front().frequencyMhz[0],
                 150.0);
    }

    void testerIsTypedByKeyboard() {
        startDemo();
        choose("SL-D03");
        app_->window->showStage(testStage);
        auto* pins = find<QLineEdit>("pins");
        pins->setFocus();
        QTest::keyClicks(pins, QStringLiteral("1234-678"));
        QTest::keyClick(pins, Qt::Key_Tab);
        QTest::keyClicks(find<QLineEdit>("metres"), QStringLiteral("67 m"));
        QTest::keyClick(find<QLineEdit>("metres"), Qt::Key_Return);
        SOON_COMPARE(session().currentFinding()->measurements.size(), 1U);
        QCOMPARE(english(find<QLabel>("testFinding")->text()),
                 QStringLiteral("SL-D03 fails: 5 open"));
        QVERIFY(english(pins->text()).isEmpty());
        QTest::keyClicks(pins, QStringLiteral("12345678 s"));
        QTest::keyClick(pins, Qt::Key_Return);
        SOON_COMPARE(session().currentFinding()->measurements.size(), 2U);
        QCOMPARE(english(find<QLabel>("testFinding")->text()),
                 QStringLiteral("SL-D03 is not proven yet"));
    }

    void cordsAndConnectionsMoveTheMargin() {
        startDemo();
        choose("SL-D01");
        const double before = session().currentFinding()->predictedShare;
        type(find<QLineEdit>("nearCord"), "20 m");
        SOON_COMPARE(cordsAtM(run("SL-D01"), End::Near), 20.0);
        // 17 m more of stranded cord on 42 m of cable and 6 m of cord: 1.2 · 17 / (42 + 1.2 · 6) =
        // 0.41 more cable loss, on a share of 0.47 whose connections stay.
        const double rise = session().currentFinding()->predictedShare / before;
        QVERIFY2(rise > 1.35 && rise < 1.43, qPrintable(QString::number(rise)));
        type(find<QLineEdit>("counts"), "3+3");
        SOON_COMPARE(run("SL-D01").connections.size(), 6U);
        QCOMPARE(session().currentFinding()->parts.size(), 4U);
        type(find<QLineEdit>("nearCord"), "0");
        SOON_COMPARE(run("SL-D01").cords.size(), 1U);
    }

    void aCoaxAsksForItsLevel() {
        startEmpty();
        add("SL-C01 30 m coax-s6 tv");
        auto* level = find<QLineEdit>("extra");
        QVERIFY(level->isVisible());
        QCOMPARE(english(find<QLabel>("budgetAnswer")->text()), QStringLiteral("Not answered yet"));
        type(level, "70");
        SOON_COMPARE(run("SL-C01").headLevel.value_or(0), 70.0);
        QVERIFY(
            english(find<QLabel>("budgetAnswer")->text()).startsWith(QStringLiteral("Predicted")));
        type(level, "95");
        SOON_COMPARE(run("SL-C01").headLevel.value_or(0), 95.0);
        QVERIFY(
            english(find<QLabel>("budgetAnswer")->text()).contains(QStringLiteral("too short")));
        add("SL-D01 30 m cat6a-utp 10g");
        QVERIFY(!level->isVisible());
    }

    void aFeedlineAsksForBudgetAndBand() {
        startEmpty();
        add("RF-A01 28 m coax-ll10 feedline");
        type(find<QLineEdit>("extra"), "2");
        type(find<QLineEdit>("band"), "156-162.5");
        SOON_COMPARE(run("RF-A01").bandToMhz.value_or(0), 162.5);
        QCOMPARE(run("RF-A01").lossBudgetDb.value_or(0), 2.0);
        QVERIFY(
            english(find<QLabel>("budgetAnswer")->text()).startsWith(QStringLiteral("Predicted")));
        type(find<QLineEdit>("power"), "25");
        type(find<QLineEdit>("ratio"), "1.6");
        SOON_COMPARE(run("RF-A01").loadRatio.value_or(0), 1.6);
        QCOMPARE(run("RF-A01").powerW.value_or(0), 25.0);
        auto* view = app_->window->findChild<FeedlineView*>();
        QVERIFY(view->isVisible());
        QVERIFY2(english(view->sentences().first()).contains(QStringLiteral("of 25.0 W reach")),
                 qPrintable(view->sentences().first()));
        QVERIFY(english(view->working()).find("standing wave L") != std::string::npos);
        type(find<QLineEdit>("ratio"), "0.5");
        QVERIFY(english(find<QLabel>("message")->text()).contains(QStringLiteral("0.5")));
        QCOMPARE(run("RF-A01").loadRatio.value_or(0), 1.6);
        type(find<QLineEdit>("band"), "162-156");
        QVERIFY(english(find<QLabel>("message")->text()).contains(QStringLiteral("162-156")));
        QCOMPARE(run("RF-A01").bandToMhz.value_or(0), 162.5);
    }

    void anotherKindOfCableBringsItsOwnPlugs() {
        startEmpty();
        add("SL-C01 30 m cat6a-utp 10g");
        auto* cable = find<QComboBox>("cable");
        cable->setFocus();
        const int wanted = cable->findData(QStringLiteral("coax-s6"));
        while (cable->currentIndex() < wanted)
            QTest::keyClick(cable, Qt::Key_Down);
        SOON_COMPARE(run("SL-C01").cableId, std::string("coax-s6"));
        SOON_COMPARE(run("SL-C01").connections.front().connectionId, std::string("f-compression"));
        QVERIFY(run("SL-C01").cords.empty());
        QVERIFY(english(find<QLabel>("budgetAnswer")->text()).contains(QStringLiteral("not hold")));
    }

    void typedFeetStayFeet() {
        startEmpty();
        QTest::mouseClick(find<QToolButton>("units"), Qt::LeftButton);
        add("SL-D01 200 cat6a-utp 10g");
        QVERIFY(qAbs(run("SL-D01").lengthM() - 60.96) < 1e-9);
        type(find<QLineEdit>("length"), "100");
        SOON_VERIFY(qAbs(run("SL-D01").lengthM() - 30.48) < 1e-9);
        type(find<QLineEdit>("length"), "10 m");
        SOON_VERIFY(qAbs(run("SL-D01").lengthM() - 10) < 1e-9);
    }

    void removedTestIsUntestedAgain() {
        startDemo();
        choose("SL-D01");
        app_->window->showStage(testStage);
        QCOMPARE(english(find<QLabel>("testFinding")->text()), QStringLiteral("SL-D01 passes"));
        QPushButton* remove = nullptr;
        for (auto* button : app_->test->findChildren<QPushButton*>())
            if (english(button->text()) == QStringLiteral("remove"))
                remove = button;
        QVERIFY(remove != nullptr);
        QTest::mouseClick(remove, Qt::LeftButton);
        SOON_COMPARE(english(find<QLabel>("testFinding")->text()),
                     QStringLiteral("SL-D01 is untested"));
        session().undo();
        SOON_COMPARE(english(find<QLabel>("testFinding")->text()), QStringLiteral("SL-D01 passes"));
    }

    void bothJudgementsCanBeLookedAt() {
        startDemo();
        choose("FD-D01");
        app_->window->showStage(testStage);
        auto* margins = find<MarginBars>("margins");
        const auto serviceRows = margins->rows();
        QVERIFY(!serviceRows.empty());
        for (auto* button : app_->test->findChildren<QPushButton*>())
            if (english(button->text()) == QStringLiteral("its class"))
                QTest::mouseClick(button, Qt::LeftButton);
        QVERIFY(margins->rows().front().result.against != serviceRows.front().result.against);
        QVERIFY(margins->rows().front().before.has_value());
    }

    void aBadFileIsRefusedWithItsPlace() {
        startDemo();
        choose("SL-D03");
        const QString file = folder_.filePath(QStringLiteral("bad.csv"));
        {
            QFile out(file);
            QVERIFY(out.open(QIODevice::WriteOnly));
            out.write("f (MHz),IL 1-2\n1,2\n2,x\n");
        }
        session().bringIn(session().currentId(), {file}, LinkKind::Channel, {});
        auto* message = find<QLabel>("message");
        QVERIFY(message->isVisible());
        QVERIFY2(english(message->text()).contains(QStringLiteral("bad.csv:3:3")),
                 qPrintable(english(message->text())));
        QVERIFY(session().currentFinding()->measurements.empty());
    }

    void stagesByKeyboard() {
        startDemo();
        QTest::keyClick(app_->window.get(), Qt::Key_3, Qt::ControlModifier);
        SOON_COMPARE(app_->window->stage(), int(pullStage));
        QTest::keyClick(app_->window.get(), Qt::Key_4, Qt::ControlModifier);
        SOON_COMPARE(app_->window->stage(), int(terminateStage));
        QTest::keyClick(app_->window.get(), Qt::Key_5, Qt::ControlModifier);
        SOON_COMPARE(app_->window->stage(), int(testStage));
        QTest::keyClick(app_->window.get(), Qt::Key_1, Qt::ControlModifier);
        SOON_COMPARE(app_->window->stage(), 0);
    }

    void roomIsRenamedInPlace() {
        startEmpty();
        add("SL-D01 20 m");
        session().renameRoom(job().rooms[0].id, QStringLiteral("Sail loft"));
        SOON_COMPARE(job().rooms[0].name, std::string("Sail loft"));
        QCOMPARE(find<QListView>("runs")->model()->index(0, 0).data().toString(),
                 QStringLiteral("Sail loft"));
    }

    void coverageSaysWhatIsUntested() {
        startDemo();
        app_->window->showStage(testStage);
        const Coverage c = coverageOf(job(), session().findings());
        QVERIFY(c.untested > 0);
        QVERIFY(english(find<QLabel>("coverage")->text())
                    .contains(QStringLiteral("%1 untested").arg(c.untested)));
    }

    void unitsSwitchEverywhereAtOnce() {
        startDemo();
        choose("SL-D02");
        QCOMPARE(english(find<QLineEdit>("length")->text()), QStringLiteral("61.7 m"));
        QTest::mouseClick(find<QToolButton>("units"), Qt::LeftButton);
        QCOMPARE(english(find<QLineEdit>("length")->text()), QStringLiteral("202.4 ft"));
        QVERIFY(english(find<QLineEdit>("way")->text()).contains(QStringLiteral("88 °F")) ||
                english(find<QLineEdit>("way")->text()).contains(QStringLiteral("87.8 °F")));
        QVERIFY(english(find<QLabel>("budgetAnswer")->text()).contains(QStringLiteral("ft")));
    }

    void findingARunByTyping() {
        startDemo();
        auto* field = find<QLineEdit>("find");
        field->setFocus();
        QTest::keyClicks(field, QStringLiteral("lathe"));
        QCOMPARE(find<QListView>("runs")->model()->rowCount(), 2); // the room and MS-D01
    }

    void aDistributionIsBuiltAndMended() {
        startEmpty();
        auto* add = find<QLineEdit>("addRun");
        for (const char* line : {"SL-C01 20m coax-s6 tv", "SL-C02 95m coax-s6 tv"}) {
            type(add, line);
            QTest::keyClick(add, Qt::Key_Return);
        }
        SOON_COMPARE(job().runs.size(), 2U);
        SOON_VERIFY(session().current() != nullptr && session().current()->label == "SL-C02");
        auto* place = find<QComboBox>("place");
        SOON_VERIFY(place->isVisible());
        // The second run starts a distribution, the first joins it behind the splitter put ahead.
        choose(place, QStringLiteral("the head of a new distribution"));
        SOON_COMPARE(job().distributions.size(), 1U);
        auto* part = find<QLineEdit>("part");
        type(part, "splitter 4");
        QTest::keyClick(part, Qt::Key_Return);
        SOON_COMPARE(job().distributions.front().parts.size(), 2U);
        session().select(job().runLabelled("SL-C01")->id, {});
        choose(place, QStringLiteral("splitter 1"));
        SOON_COMPARE(job().distributions.front().parts.size(), 3U);
        auto* level = find<QLineEdit>("headLevelOf");
        type(level, "64");
        QTest::keyClick(level, Qt::Key_Return);
        SOON_COMPARE(job().distributions.front().headLevel, 64.0);
        session().select(job().runLabelled("SL-C02")->id, {});
        const auto outlook = [&] {
            const RunFinding* f = session().finding(session().currentId());
            return f != nullptr ? f->outlook : Outlook::Unknown;
        };
        SOON_COMPARE(outlook(), Outlook::Fails);
        SOON_VERIFY(find<QWidget>("treeView")->isVisible());
        SOON_VERIFY(english(find<QLabel>("budgetAnswer")->text()) ==
                    QStringLiteral("Will not hold"));
        QTest::mouseClick(cureNamed("amplifier"), Qt::LeftButton);
        SOON_COMPARE(outlook(), Outlook::Holds);
        SOON_COMPARE(job().distributions.front().parts.size(), 4U);
        session().undo();
        SOON_COMPARE(job().distributions.front().parts.size(), 3U);
        // A tap has two ways on: the outlet takes the one that is said.
        type(part, "tap 10");
        QTest::keyClick(part, Qt::Key_Return);
        SOON_COMPARE(job().distributions.front().parts.size(), 4U);
        const auto onTapPort = [&] {
            return job().distributions.front().fedBy(session().currentId())->fromTap;
        };
        QVERIFY(onTapPort());
        choose(place, QStringLiteral("tap 1, its way through"));
        SOON_VERIFY(!onTapPort());
        SOON_COMPARE(english(place->currentText()), QStringLiteral("tap 1, its way through"));
        session().undo();
        session().undo();
        SOON_COMPARE(job().distributions.front().parts.size(), 3U);
        // Nonsense is refused where it was typed, and nothing is lost.
        type(part, "splitter 99");
        QTest::keyClick(part, Qt::Key_Return);
        SOON_VERIFY(!part->styleSheet().isEmpty());
        QCOMPARE(job().distributions.front().parts.size(), 3U);
        // Removing a run takes it out of the distribution in the same edit.
        session().select(job().runLabelled("SL-C01")->id, {});
        session().removeSelected();
        SOON_COMPARE(job().distributions.front().parts.size(), 2U);
        session().undo();
        SOON_COMPARE(job().distributions.front().parts.size(), 3U);
    }

    void aProposalForRunsOnThePlanIsAdopted() {
        startDemo();
        choose("SO-C01");
        QTest::mouseClick(cureNamed("Series 11"), Qt::LeftButton);
        SOON_COMPARE(run("SO-C01").cableId, std::string("coax-s11"));
        QCOMPARE(run("SO-C01").connections.front().connectionId, std::string("f-compression-11"));
        SOON_COMPARE(english(find<QLabel>("budgetAnswer")->text()),
                     QStringLiteral("Predicted to hold"));
        QTest::keyClick(app_->window.get(), Qt::Key_Z, Qt::ControlModifier);
        SOON_COMPARE(run("SO-C01").cableId, std::string("coax-s6"));
    }

    void powerOverTheCableWarmsItsBundle() {
        startEmpty();
        auto* add = find<QLineEdit>("addRun");
        type(add, "SL-D01 60m cat6a-utp 10g");
        QTest::keyClick(add, Qt::Key_Return);
        SOON_COMPARE(job().runs.size(), 1U);
        auto* way = find<QLineEdit>("way");
        type(way, "loft 60 m 48 °C 99 beside in insulation");
        QTest::keyClick(way, Qt::Key_Return);
        SOON_COMPARE(job().runs.front().neighbours(), 99);
        auto* answer = find<QLabel>("budgetAnswer");
        SOON_VERIFY(english(answer->text()).startsWith(QStringLiteral("Predicted to hold")));
        auto* power = find<QComboBox>("powerType");
        QVERIFY(power->isVisible());
        choose(power, QStringLiteral("type 4, 90 W"));
        SOON_COMPARE(job().runs.front().poweredType.value_or(0), 4);
        SOON_COMPARE(english(answer->text()), QStringLiteral("Will not hold"));
        QVERIFY(english(find<QLabel>("budgetReason")->text())
                    .contains(QStringLiteral("bundle of 100")));
        session().undo();
        SOON_VERIFY(english(answer->text()).startsWith(QStringLiteral("Predicted to hold")));
        QVERIFY(find<QPushButton>("compareConnectors")->isVisible());
        QVERIFY(find<QPushButton>("showExpected")->isVisible());
    }

    void aBusIsWiredAndItsVoltsMended() {
        startEmpty();
        auto* add = find<QLineEdit>("addRun");
        for (const char* line : {"SL-R01 60m bus-120 rs485", "SL-R02 70m bus-120 rs485"}) {
            type(add, line);
            QTest::keyClick(add, Qt::Key_Return);
        }
        SOON_COMPARE(job().runs.size(), 2U);
        const auto go = [&](const char* label) {
            session().select(job().runLabelled(label)->id, {});
        };
        auto* place = find<QComboBox>("place");
        go("SL-R01");
        choose(place, QStringLiteral("the controller of a new bus"));
        SOON_COMPARE(job().buses.size(), 1U);
        go("SL-R02");
        choose(place, QStringLiteral("SL-R01"));
        SOON_COMPARE(job().buses.front().devices.size(), 3U);
        const auto enter = [&](const char* field, const char* text) {
            auto* edit = find<QLineEdit>(field);
            type(edit, text);
            QTest::keyClick(edit, Qt::Key_Return);
        };
        enter("terminator", "120");
        SOON_COMPARE(job().buses.front().devices[2].terminatorOhm.value_or(0), 120.0);
        enter("takes", "250");
        SOON_COMPARE(job().buses.front().devices[2].ampere, 0.25);
        enter("needs", "11");
        SOON_COMPARE(job().buses.front().devices[2].leastV, 11.0);
        enter("supply", "13.6");
        SOON_COMPARE(job().buses.front().supplyV, 13.6);
        // 0.25 A over 130 m of 22 AWG leaves 10.16 V.
        auto* reason = find<QLabel>("budgetReason");
        SOON_VERIFY(english(reason->text())
                        .startsWith(QStringLiteral("10.16 V arrive, 11.00 V are needed")));
        // By a click on what would hold, and undone; then typed.
        QTest::mouseClick(cureNamed("2 pairs in parallel"), Qt::LeftButton);
        SOON_COMPARE(english(find<QLabel>("budgetAnswer")->text()),
                     QStringLiteral("Predicted to hold"));
        QCOMPARE(job().buses.front().supplyPairs, 2);
        session().undo();
        SOON_COMPARE(job().buses.front().supplyPairs, 1);
        enter("supplyPairs", "2");
        SOON_COMPARE(english(find<QLabel>("budgetAnswer")->text()),
                     QStringLiteral("Predicted to hold"));
        QVERIFY(find<QWidget>("busView")->isVisible());
        // Arrow keys walk along the bus, and the run list follows.
        auto* view = find<QWidget>("busView");
        view->setFocus();
        QTest::keyClick(view, Qt::Key_Up);
        SOON_COMPARE(session().current()->label, std::string("SL-R01"));
        QTest::mouseClick(find<QPushButton>("insteadOfPicture"), Qt::LeftButton);
        QVERIFY(!view->isVisible());
        // A length tried out has no verdict of the bus yet, and says so; kept, it has.
        auto* length = find<QLineEdit>("length");
        type(length, "90 m");
        QVERIFY(english(reason->text()).contains(QStringLiteral("follow once the length is kept")));
        QTest::keyClick(length, Qt::Key_Return);
        SOON_VERIFY(
            english(reason->text()).startsWith(QStringLiteral("Settles at"), Qt::CaseInsensitive));
    }

    void fitsTheSmallScreen() {
        startDemo();
        app_->window->resize(1280, 800);
        for (int stage = 0; stage < stageCount; ++stage) {
            app_->window->showStage(stage);
            for (const auto& each : job().runs) {
                session().select(each.id, {});
                // What is hidden or shown reaches the window's own layout by posted events.
                QCoreApplication::processEvents();
                const QSize least = app_->window->minimumSizeHint();
                QCOMPARE(app_->window->height(), 800); // and it did not grow on the way
                QVERIFY2(
                    least.width() <= 1280 && least.height() <= 800,
                    qPrintable(QStringLiteral("%1: %2x%3, survey %7, budget %4, test %5, entry %6")
                                   .arg(QString::fromStdString(each.label))
                                   .arg(least.width())
                                   .arg(least.height())
                                   .arg(app_->budget->minimumSizeHint().width())
                                   .arg(app_->test->minimumSizeHint().width())
                                   .arg(app_->test->entry()->minimumSizeHint().width())
                                   .arg(app_->survey->minimumSizeHint().width())));
            }
        }
    }

    void everyFieldHasAName() {
        startDemo();
        for (auto* widget : app_->window->findChildren<QWidget*>()) {
            if (widget->focusPolicy() == Qt::NoFocus || !widget->isVisible())
                continue;
            const auto* button = qobject_cast<QAbstractButton*>(widget);
            const bool named = !english(widget->accessibleName()).isEmpty() ||
                               (button && !english(button->text()).isEmpty());
            const bool inner = qobject_cast<QLineEdit*>(widget) == nullptr &&
                               qobject_cast<QComboBox*>(widget) == nullptr && button == nullptr;
            QVERIFY2(named || inner, qPrintable(widget->objectName() +
                                                QLatin1String(widget->metaObject()->className())));
        }
    }

    void textStandsOutInBothSets() {
        for (const Tokens* t : {&lightTokens(), &darkTokens()}) {
            for (const QColor& text :
                 {t->ink, t->ink2, t->copper, t->blue, t->verdigris, t->rust, t->ochre})
                for (const QColor& ground : {t->paper, t->plate})
                    QVERIFY2(contrast(text, ground) >= 4.5,
                             qPrintable(text.name() + QLatin1String(" on ") + ground.name()));
            for (const QColor& ground :
                 {t->copperSoft, t->verdigrisSoft, t->rustSoft, t->ochreSoft})
                QVERIFY2(contrast(t->ink, ground) >= 4.5, qPrintable(ground.name()));
        }
    }

    void whatWasShownIsOnDisk() {
        startEmpty();
        add("SL-D01 61.5 m");
        type(find<QLineEdit>("length"), "33 m");
        SOON_COMPARE(run("SL-D01").lengthM(), 33.0);
        auto reader = JobStore::open(path(), Access::ReadOnly);
        QVERIFY(reader.has_value());
        QCOMPARE((*reader)->job() == job(), true);
    }
};

int main(int argc, char** argv) {
    TimedApplication application(argc, argv);
    TestApp test;
    QTEST_SET_MAIN_SOURCE_PATH
    return QTest::qExec(&test, argc, argv);
}
#include "test_app.moc"
