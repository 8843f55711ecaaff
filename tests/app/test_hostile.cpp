// What comes from others, and what happens to the file, seen from the window.
#include "app/driven.h"
#include "app/frame/loss_plot.h"
#include "core/says.h"
#include "core/units/render.h"
#include "files/job_export.h"
#include "files/plan_drawing.h"
#include <QAbstractButton>
#include <QApplication>
#include <QComboBox>
#include <QFileDialog>
#include <QFileInfo>
#include <QLabel>
#include <QLineEdit>
#include <QListView>
#include <QMenu>
#include <QProcess>
#include <QPushButton>
#include <QScrollArea>
#include <QSignalSpy>
#include <QTimer>
#include <QToolTip>
#include <csignal>
#include <unistd.h>

using namespace burin;

class TestHostile : public Driven {
    Q_OBJECT
public:
    TestHostile() : Driven(surveyStage) {}

private:
    static QString trap(int i) {
        static const char* const forms[] = {"<img src=\"/dev/zero\">", "<b>PASS</b>",
                                            "<a href='x'>y</a>", "&lt;i&gt;&amp;",
                                            "<table><tr><td>z"};
        return QStringLiteral("%1 %2").arg(QLatin1String(forms[i % 5])).arg(i);
    }
    /// A job with markup in every text people or files put into it.
    static Job trapped() {
        int i = 0;
        const auto next = [&] { return trap(i++).toStdString(); };
        Job job;
        job.info.name = next();
        Floor floor;
        floor.id = "f";
        floor.name = next();
        job.floors = {floor};
        job.rooms = {Room{"r", "<b>", next(), 0, 0, "f", {{1, 1}, {9, 1}, {9, 9}, {1, 9}}}};
        Place panel;
        panel.id = "p";
        panel.name = next();
        panel.kind = PlaceKind::Panel;
        panel.floorId = "f";
        panel.at = {2, 2};
        Place outlet = panel;
        outlet.id = "o";
        outlet.kind = PlaceKind::Outlet;
        outlet.name = next();
        outlet.at = {8, 8};
        job.places = {panel, outlet};
        Pathway tray;
        tray.id = "t";
        tray.name = next();
        tray.floorId = "f";
        tray.points = {{2, 3}, {8, 3}};
        job.pathways = {tray};
        MainsRoute mains;
        mains.id = "m";
        mains.name = next();
        mains.floorId = "f";
        mains.points = {{2, 3.01}, {8, 3.01}};
        job.mains = {mains};
        Surface wall;
        wall.id = "w";
        wall.name = next();
        wall.floorId = "f";
        wall.points = {{5, 1}, {5, 9}};
        wall.fireMinutes = 60;
        wall.closesOn = "2026-11-26";
        job.surfaces = {wall};
        Photograph photo;
        photo.id = "ph";
        photo.hash = std::string(64, 'a');
        photo.name = next();
        photo.work = next();
        photo.note = next();
        photo.floorId = "f";
        photo.at = PlanPoint{4, 4};
        job.photographs = {photo};
        for (const char* service : {"10g", "tv", "rs485"}) {
            Run run;
            run.id = service;
            run.roomId = "r";
            run.label = next();
            run.serviceId = service;
            run.cableId = std::string(service) == "tv" ? "coax-s6" : "cat6a-utp";
            run.near.text = next();
            run.far.text = next();
            run.note = next();
            run.stretches = {{next(), 30, 20, 0}};
            run.near.placeId = "p";
            run.far.placeId = "o";
            job.runs.push_back(run);
        }
        Measurement m;
        m.id = "me";
        m.runId = "10g";
        m.fileName = next();
        m.fileHash = std::string(64, 'b');
        m.note = next();
        m.entry = 1;
        job.measurements = {m};
        Distribution d;
        d.id = "d";
        d.name = next();
        d.serviceId = "tv";
        d.headLevel = 74;
        DistributionPart part;
        part.id = "x";
        part.name = next();
        part.runId = "tv";
        part.unit.part = TreePart::Outlet;
        d.parts = {part};
        job.distributions = {d};
        BusChain bus;
        bus.id = "b";
        bus.name = next();
        BusDevice first;
        first.name = next();
        BusDevice second;
        second.name = next();
        second.runId = "rs485";
        bus.devices = {first, second};
        job.buses = {bus};
        return job;
    }
    void startTrapped() {
        start();
        {
            auto made = JobStore::create(path(), trapped(), {}, trap(99).toStdString(), "t");
            QVERIFY2(made.has_value(), made ? "" : render(made.error(), {}).c_str());
        }
        session().store().open(path());
        SOON_VERIFY(session().hasJob());
        SOON_COMPARE(session().findings().size(), job().runs.size());
    }
    /// Everything that would show markup as markup.
    void lookForMarkup(const char* where) {
        for (const auto* label : app_->window->findChildren<QLabel*>()) {
            const QString text = english(label->text());
            const bool plain = label->textFormat() == Qt::PlainText;
            if (!label->isVisible() && label->testAttribute(Qt::WA_WState_Polished) == false)
                continue;
            // Where we set text in bold ourselves, what is others' is escaped.
            QVERIFY2(plain || (label->textFormat() == Qt::RichText && !text.contains("<img") &&
                               !text.contains("<a href") && !text.contains("<table") &&
                               !text.contains("<b>PASS")),
                     qPrintable(QStringLiteral("%1: %2").arg(QLatin1String(where), text)));
        }
    }
    QString said_;
    void listen() {
        said_.clear();
        connect(&session(), &Session::message, this,
                [this](const QString& text, bool) { said_ += english(text) + QLatin1Char('\n'); });
    }

private slots:
    void initTestCase() {
        QVERIFY(loadFaces(QStringLiteral(BURIN_SOURCE "/assets/fonts")));
        Theme::instance().setDark(false); // as the program looks
    }
    void cleanup() { app_.reset(); }

    void markupIsShownAsItIs() {
        startTrapped();
        for (int stage = 0; stage < stageCount; ++stage) {
            app_->window->showStage(stage);
            for (const auto& run : job().runs) {
                session().select(run.id, {});
                QTest::qWait(50);
                lookForMarkup(
                    qPrintable(QStringLiteral("stage %1, %2").arg(stage).arg(run.id.c_str())));
            }
        }
        emit session().message(trap(0), true);
        QTest::qWait(20);
        lookForMarkup("message");
        // A tip is a label of its own; it is made as it is shown.
        QToolTip::showText(app_->window->mapToGlobal(QPoint(50, 50)), trap(0), app_->window.get());
        QTest::qWait(20);
        int tips = 0;
        for (auto* widget : QApplication::topLevelWidgets())
            if (auto* tip = qobject_cast<QLabel*>(widget); tip != nullptr && tip->isVisible()) {
                QCOMPARE(tip->textFormat(), Qt::PlainText);
                ++tips;
            }
        QCOMPARE(tips, 1);
        QToolTip::hideText();
    }
    void markupInWhatIsWritten() {
        startTrapped();
        const QString svg = folder_.filePath(QStringLiteral("plan.svg"));
        QProcess cli;
        cli.start(QStringLiteral(BURIN_BIN "/burin-cli"), {"plan", path(), "--svg", svg});
        QVERIFY(cli.waitForFinished() && cli.exitCode() == 0);
        QFile file(svg);
        QVERIFY(file.open(QIODevice::ReadOnly));
        const QByteArray drawn = file.readAll();
        for (const char* form : {"<img", "<b>", "<a href", "<table"})
            QVERIFY2(!drawn.contains(form), form);
        QVERIFY(drawn.contains("&lt;")); // the names are there, as text
        const auto store = JobStore::open(path(), Access::ReadOnly);
        const auto exported = exportJob(**store);
        QVERIFY(exported.has_value());
        QVERIFY(exported->text.find("<img src=\\\"/dev/zero\\\"> 0") != std::string::npos);
    }
    void keysOfNamesAreNotShortcuts() {
        startEmpty();
        listen();
        QVERIFY(session().addRun(QStringLiteral("R&D-01 20 m cat6a-utp 10g")));
        SOON_COMPARE(job().runs.size(), 1U);
        bool found = false;
        for (const auto* action : app_->window->actions())
            found = found || english(action->text()) == QStringLiteral("Undo: add R&&D-01");
        QVERIFY(found);
    }

    void aJobThatIsTakenAwayIsSaidAtOnce() {
        startDemo();
        listen();
        QVERIFY(QFile::remove(path()));
        // No edit is made: it is said all the same.
        SOON_VERIFY(said_.contains(QStringLiteral("moved or removed")));
        // Nothing on the screen says otherwise.
        const auto promises = [&](const char* words) {
            const auto labels = app_->window->findChildren<QLabel*>();
            return std::any_of(labels.begin(), labels.end(), [&](const QLabel* label) {
                return english(label->text()).contains(QLatin1String(words));
            });
        };
        SOON_VERIFY(promises("no change is kept any more"));
        QVERIFY(!promises("every change is kept"));
        const Job before = job();
        session().renameRun(job().runs.front().id, QStringLiteral("LATE"));
        SOON_VERIFY(said_.count(QStringLiteral("moved or removed")) >= 2);
        SOON_VERIFY(session().pending() == *session().snapshot().kept);
        QVERIFY(job() == before);
        QVERIFY(!QFile::exists(path()));
        // The way out holds everything, and the window can go on in it.
        const QString copy = folder_.filePath(QStringLiteral("saved.burin"));
        QTimer::singleShot(0, this, [&] {
            auto* dialog = qobject_cast<QFileDialog*>(QApplication::activeModalWidget());
            QVERIFY(dialog != nullptr);
            dialog->findChild<QLineEdit*>(QStringLiteral("fileNameEdit"))->setText(copy);
            QMetaObject::invokeMethod(dialog, "accept");
        });
        QTest::keyClick(app_->window.get(), Qt::Key_S, Qt::ControlModifier | Qt::ShiftModifier);
        SOON_VERIFY(said_.contains(QStringLiteral("copied to")));
        session().store().open(copy);
        SOON_COMPARE(session().snapshot().path, QFileInfo(copy).canonicalFilePath());
        QVERIFY(job() == before);
        session().renameRun(job().runs.front().id, QStringLiteral("GOES-ON"));
        SOON_VERIFY(job().runLabelled("GOES-ON") != nullptr);
        QVERIFY(promises("every change is kept"));
    }
    void aJobThatTookItsPlaceIsOpenedByItsName() {
        startDemo();
        listen();
        const QString other = folder_.filePath(QStringLiteral("other.burin"));
        QVERIFY(JobStore::create(other, "Other").has_value());
        QVERIFY(::rename(QFile::encodeName(other), QFile::encodeName(path())) == 0);
        SOON_VERIFY(said_.contains(QStringLiteral("another file was put")));
        session().store().open(path());
        SOON_COMPARE(QString::fromStdString(job().info.name), QStringLiteral("Other"));
    }
    void whatTookItsPlaceAndIsNoJobLeavesTheWayOut() {
        startDemo();
        listen();
        const Job before = *session().snapshot().kept;
        QFile file(path());
        QVERIFY(file.open(QIODevice::WriteOnly) && file.write("no job") == 6); // the same inode
        file.close();
        SOON_VERIFY(said_.contains(QStringLiteral("cut short")));
        said_.clear();
        session().store().open(path());
        SOON_VERIFY(said_.contains(QStringLiteral("no job of Burin's")));
        // An edit is still refused aloud, and the copy still holds the job.
        said_.clear();
        session().renameRun(job().runs.front().id, QStringLiteral("LATE"));
        SOON_VERIFY(said_.contains(QStringLiteral("cut short")));
        const QString copy = folder_.filePath(QStringLiteral("way-out.burin"));
        session().store().saveCopy(copy);
        SOON_VERIFY(QFile::exists(copy));
        SOON_VERIFY(said_.contains(QStringLiteral("copied to")));
        QVERIFY((*JobStore::open(copy, Access::ReadOnly))->job() == before);
    }
    void twoWindowsByALink() {
        startDemo();
        const QString link = folder_.filePath(QStringLiteral("link.burin"));
        QVERIFY(QFile::link(path(), link));
        auto catalogue = loadCatalogue(BURIN_CATALOGUE);
        Session second(*catalogue);
        QString said;
        connect(&second, &Session::message, this, [&](const QString& text, bool) { said += text; });
        second.store().open(link);
        SOON_VERIFY(english(said).contains(QStringLiteral("open in another Burin")));
        QVERIFY(!second.hasJob());
    }
    void exportOntoAFullDiskIsNotDone() {
        startDemo();
        listen();
        session().store().exportJson(QStringLiteral("/dev/full"));
        SOON_VERIFY(said_.contains(QStringLiteral("not a plain file")));
        session().store().exportJson(path());
        SOON_VERIFY(said_.contains(QStringLiteral("made from")));
        QVERIFY(!said_.contains(QStringLiteral("exported to")));
        const QString out = folder_.filePath(QStringLiteral("out.json"));
        session().store().exportJson(out);
        SOON_VERIFY(said_.contains(QStringLiteral("exported to")));
        QVERIFY(QFileInfo(out).size() > 1000);
    }
    void aDamagedTestLeavesItsRunUntested() {
        startDemo();
        const auto before = session().finding(run("SL-D01").id)->state();
        QVERIFY(before == State::Pass);
        const QString file = path();
        app_.reset();
        QProcess tamper;
        tamper.start(QStringLiteral("python3"),
                     {"-c",
                      "import sqlite3,sys\nd=sqlite3.connect(sys.argv[1])\n"
                      "d.execute('update attachment set bytes=bytes||x\\'0a\\'')\nd.commit()",
                      file});
        QVERIFY(tamper.waitForFinished() && tamper.exitCode() == 0);
        start();
        session().store().open(file);
        SOON_VERIFY(session().hasJob());
        SOON_COMPARE(session().findings().size(), job().runs.size());
        const RunFinding* finding = session().finding(run("SL-D01").id);
        QCOMPARE(finding->serviceState, State::Untested);
        QCOMPARE(finding->classState, State::Untested);
        QVERIFY(finding->measurements.front().fault.has_value());
        QVERIFY(english(finding->serviceReason).find("damaged") != std::string::npos);
    }

    void aFileOfAnotherRunIsAskedAbout() {
        startDemo();
        // The file of a run half as long, brought in for SL-D03.
        const Run target = run("SL-D03");
        QString file;
        for (const auto& m : job().measurements) {
            const Run* of = job().run(m.runId);
            if (m.fileName.ends_with(".csv") && of->lengthM() < 0.6 * target.lengthM() &&
                session().finding(of->id)->state() == State::Pass)
                file = QStringLiteral(BURIN_SOURCE "/demo/measured/") +
                       QString::fromStdString(m.fileName);
        }
        QVERIFY(!file.isEmpty());
        app_->window->showStage(testStage);
        session().select(target.id, {});
        const auto count = job().measurements.size();
        session().bringIn(target.id, {file}, LinkKind::Channel, {});
        SOON_COMPARE(job().measurements.size(), count + 1);
        SOON_VERIFY(!session().finding(target.id)->measurements.empty());
        QVERIFY(english(session().finding(target.id)->measurements.back().asked)
                    .find("this run is 61.7 m") != std::string::npos);
        QCOMPARE(session().finding(target.id)->serviceState, State::Untested);
        auto* ours = find<QPushButton>("itIsThisRun");
        QVERIFY(ours->isVisible());
        QTest::mouseClick(ours, Qt::LeftButton);
        SOON_VERIFY(job().measurements.back().confirmed);
        SOON_VERIFY(!ours->isVisible());
        session().undo();
        SOON_VERIFY(!job().measurements.back().confirmed);
    }
    void ctrlZAfterAddingARunTakesTheRunBack() {
        startEmpty();
        auto* add = find<QLineEdit>("addRun");
        add->setFocus();
        QTest::keyClicks(add, QStringLiteral("SL-D01 61.5 m cat6a-utp 10g"));
        QTest::keyClick(add, Qt::Key_Return);
        SOON_COMPARE(job().runs.size(), 1U);
        QCOMPARE(QApplication::focusWidget(), add);
        QTest::keyClick(add, Qt::Key_Z, Qt::ControlModifier);
        SOON_COMPARE(job().runs.size(), 0U);
        // While something is being typed, it takes back the typing.
        QTest::keyClicks(add, QStringLiteral("SL"));
        QTest::keyClick(add, Qt::Key_Z, Qt::ControlModifier);
        QVERIFY(english(add->text()) != QStringLiteral("SL"));
    }
    void aTypedLengthCounts() {
        startDemo();
        const auto follows = std::find_if(job().runs.begin(), job().runs.end(),
                                          [](const Run& r) { return r.followsPlan; });
        QVERIFY(follows != job().runs.end());
        const std::string letters = job().room(follows->roomId)->letters;
        QVERIFY(session().addRun(QString::fromStdString(letters + "-D90 10 m cat6a-utp 10g")));
        SOON_VERIFY(job().runLabelled(letters + "-D90") != nullptr);
        QCOMPARE(job().runLabelled(letters + "-D90")->lengthM(), 10.0);
    }
    void duplicatesAreTitledByWhatTheyAreOf() {
        startDemo();
        const std::string label = job().runs[3].label;
        const auto count = job().runs.size();
        for (int i = 0; i < 20; ++i) {
            session().select(job().runLabelled(label)->id, {});
            session().duplicateSelected();
            SOON_COMPARE(job().runs.size(), count + i + 1);
            QCOMPARE(session().snapshot().undoTitle,
                     QStringLiteral("duplicate ") + QString::fromStdString(label));
        }
    }
    void everythingWorksOnASmallScreen_data() {
        QTest::addColumn<bool>("imperial");
        QTest::newRow("metric") << false;
        QTest::newRow("imperial") << true;
    }
    void everythingWorksOnASmallScreen() {
        QFETCH(bool, imperial);
        startDemo();
        if (imperial)
            session().setUnits(UnitSystem::Imperial);
        const QSize small(1100, 650);
        QStringList large;
        for (int stage = 0; stage < stageCount; ++stage) {
            app_->window->showStage(stage);
            for (const char* label : {"SL-D01", "SO-C01", "SO-R01", "RF-A01", "FD-D02"}) {
                session().select(run(label).id, {});
                QTest::qWait(30);
                app_->window->resize(small);
                // Texts wrap, and what stands around them follows, one event after the other.
                const bool fits = QTest::qWaitFor(
                    [&] {
                        const QSize now = app_->window->minimumSizeHint();
                        return now.width() <= small.width() && now.height() <= small.height();
                    },
                    1000);
                const QSize least = app_->window->minimumSizeHint();
                // A plot that is there can be read.
                for (const auto* plot : app_->window->findChildren<LossPlot*>())
                    if (plot->isVisibleTo(app_->window.get()) &&
                        plot->height() < Theme::instance().px(140))
                        large << QStringLiteral("stage %1, %2: a plot %3 px high")
                                     .arg(stage)
                                     .arg(QLatin1String(label))
                                     .arg(plot->height());
                if (!fits)
                    large << QStringLiteral("stage %1, %2: %3 × %4")
                                 .arg(stage)
                                 .arg(QLatin1String(label))
                                 .arg(least.width())
                                 .arg(least.height());
            }
        }
        QVERIFY2(large.isEmpty(), qPrintable(large.join(QStringLiteral("; "))));
        QCOMPARE(app_->window->size(), small);
    }
    void askedToEndItEndsProperly_data() {
        QTest::addColumn<int>("signal");
        QTest::newRow("SIGTERM") << SIGTERM;
        QTest::newRow("SIGINT") << SIGINT;
        QTest::newRow("SIGHUP") << SIGHUP;
    }
    void askedToEndItEndsProperly() {
        QFETCH(int, signal);
        const QString file = folder_.filePath(QStringLiteral("ends%1.burin").arg(signal));
        QVERIFY(JobStore::create(file, "Ends").has_value());
        QProcess program;
        program.setStandardErrorFile(QProcess::nullDevice());
        program.start(QStringLiteral(BURIN_BIN "/burin"), {file});
        QVERIFY(program.waitForStarted());
        // Once it has the job, nobody else can.
        bool held = false;
        for (int i = 0; i < 200 && !held; ++i) {
            QTest::qWait(50);
            held = !JobStore::open(file, Access::ReadWrite).has_value();
        }
        QVERIFY(held);
        ::kill(static_cast<pid_t>(program.processId()), signal);
        QVERIFY(program.waitForFinished(20000));
        QCOMPARE(program.exitStatus(), QProcess::NormalExit);
        QCOMPARE(program.exitCode(), 0);
        QVERIFY(JobStore::open(file, Access::ReadWrite).has_value());
        const QFileInfo info(file);
        QCOMPARE(info.dir().entryList({info.fileName() + QLatin1Char('*')}).size(), 1);
    }

private:
    const Run& run(const char* label) {
        const Run* found = job().runLabelled(label);
        if (found == nullptr)
            qFatal("no run %s", label);
        return *found;
    }
};

int main(int argc, char** argv) {
    prepareFonts(BURIN_BIN "/burin");
    QApplication::setStyle(QStringLiteral("Fusion"));
    QApplication qt(argc, argv);
    TestHostile test;
    return QTest::qExec(&test, argc, argv);
}

#include "test_hostile.moc"
