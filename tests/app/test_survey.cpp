#include "app/driven.h"
#include "core/job/job_json.h"
#include "core/lookup.h"
#include "large_site.h"
#include <QElapsedTimer>
#include <QSignalSpy>

using namespace burin;

/// Drives the Survey stage: what is drawn, dragged and typed there, and what then stands in the
/// job.
class TestSurvey : public Driven {
    Q_OBJECT
public:
    TestSurvey() : Driven(0) {}

private:
    int actions_ = 0; ///< clicks, drags and typed entries

    PlanView* plan() { return app_->survey->plan(); }
    QPoint at(double x, double y) { return plan()->pixelOf({x, y}).toPoint(); }
    void click(double x, double y) {
        ++actions_;
        QTest::mouseMove(plan(), at(x, y));
        QTest::mouseClick(plan(), Qt::LeftButton, {}, at(x, y));
    }
    void drag(double x, double y, double toX, double toY) {
        ++actions_;
        QTest::mousePress(plan(), Qt::LeftButton, {}, at(x, y));
        QMouseEvent half(QEvent::MouseMove, QPointF(at((x + toX) / 2, (y + toY) / 2)),
                         plan()->mapToGlobal(QPointF(at((x + toX) / 2, (y + toY) / 2))),
                         Qt::NoButton, Qt::LeftButton, Qt::NoModifier);
        QApplication::sendEvent(plan(), &half);
        QMouseEvent whole(QEvent::MouseMove, QPointF(at(toX, toY)),
                          plan()->mapToGlobal(QPointF(at(toX, toY))), Qt::NoButton, Qt::LeftButton,
                          Qt::NoModifier);
        QApplication::sendEvent(plan(), &whole);
        QTest::mouseRelease(plan(), Qt::LeftButton, {}, at(toX, toY));
    }
    void tool(const char* name) {
        ++actions_;
        QTest::mouseClick(find<QToolButton>((std::string("tool ") + name).c_str()), Qt::LeftButton);
    }
    void key(int key, Qt::KeyboardModifiers modifiers = {}) {
        QTest::keyClick(plan(), static_cast<Qt::Key>(key), modifiers);
    }
    void preset(const char* name) {
        ++actions_;
        auto* box = find<QComboBox>("preset");
        const int index = box->findText(QLatin1String(name));
        QVERIFY2(index >= 0, name);
        box->setCurrentIndex(index);
        emit box->activated(index);
    }
    void answer(const char* text) {
        ++actions_;
        auto* field = find<QLineEdit>("planAnswer");
        SOON_VERIFY(field->isVisible());
        QTest::keyClicks(field, QString::fromUtf8(text));
        QTest::keyClick(field, Qt::Key_Return);
    }
    /// A number typed into the room schedule.
    void schedule(int row, int column, const char* text) {
        ++actions_;
        auto* table = find<QTableView>("schedule");
        const QModelIndex index = table->model()->index(row, column);
        table->setCurrentIndex(index);
        table->edit(index);
        auto* editor = table->findChild<QLineEdit*>();
        QVERIFY(editor != nullptr);
        editor->selectAll();
        QTest::keyClicks(editor, QString::fromUtf8(text));
        QTest::keyClick(editor, Qt::Key_Return);
    }
    void waitForRuns(std::size_t count) { SOON_COMPARE(job().runs.size(), count); }
    void newFloor() {
        ++actions_;
        QTest::mouseClick(find<QPushButton>("newFloor"), Qt::LeftButton);
        SOON_COMPARE(job().floors.size(), 1U);
        QCoreApplication::processEvents();
    }
    /// A floor with a panel, a tray and one room of two runs.
    void startSmall() {
        startEmpty();
        newFloor();
        tool("head end");
        click(2, 10);
        SOON_COMPARE(job().places.size(), 1U);
        tool("pathway");
        click(2, 10);
        click(22, 10);
        key(Qt::Key_Return);
        SOON_COMPARE(job().pathways.size(), 1U);
        tool("room");
        drag(10, 4, 20, 9);
        answer("SL Sail loft");
        SOON_VERIFY(!job().rooms.empty() && job().rooms[0].name == "Sail loft");
        schedule(0, 1, "2");
        waitForRuns(2);
        key(Qt::Key_Escape);
        tool("choose");
    }

private slots:
    void initTestCase() {
        QVERIFY(Theme::loadFonts(QStringLiteral(BURIN_SOURCE "/assets/fonts")));
        Theme::instance().setDark(false);
    }
    void cleanup() { app_.reset(); }

    void aScaledPlanWithTwentyRunsInUnderSixtyActions() {
        startEmpty();
        actions_ = 0;
        newFloor();
        tool("scale");
        click(5, 5);
        click(15, 5);
        answer("12 m"); // what was 10 m on bare paper is 12
        SOON_VERIFY(qAbs(job().floors[0].widthM - 36) < 1e-9);
        QCoreApplication::processEvents();
        tool("room");
        const char* names[] = {"FD Front desk",  "SL Sail loft",  "MS Machine shop",
                               "SO Slip office", "CR Chart room", "PR Plant room"};
        for (int i = 0; i < 6; ++i) {
            const double x = 2 + 11 * (i % 3);
            const double y = i < 3 ? 2 : 14;
            drag(x, y, x + 10, y + 8);
            answer(names[i]);
            SOON_COMPARE(job().rooms.size(), static_cast<std::size_t>(i + 1));
            SOON_VERIFY(job().rooms.back().letters == std::string(names[i]).substr(0, 2));
        }
        tool("head end");
        click(28, 16);
        SOON_COMPARE(job().places.size(), 1U);
        tool("pathway");
        click(3, 12);
        click(28, 12);
        click(28, 16);
        key(Qt::Key_Return);
        ++actions_;
        SOON_COMPARE(job().pathways.size(), 1U);
        QCOMPARE(job().pathways[0].points.size(), 3U);
        tool("power");
        preset("feeder");
        click(8, 12.1);
        click(18, 12.1);
        key(Qt::Key_Return);
        ++actions_;
        SOON_COMPARE(job().mains.size(), 1U);
        const char* counts[] = {"4", "4", "4", "3", "3", "2"};
        std::size_t runs = 0;
        for (int i = 0; i < 6; ++i) {
            schedule(i, 1, counts[i]);
            waitForRuns(runs += static_cast<std::size_t>(counts[i][0] - '0'));
        }
        QCOMPARE(job().runs.size(), 20U);
        SOON_COMPARE(session().findings().size(), 20U);
        for (const auto& run : job().runs) {
            QVERIFY(run.followsPlan);
            QVERIFY2(run.lengthM() > 4, run.label.c_str());
            QVERIFY(session().finding(run.id)->outlook == Outlook::Holds);
        }
        // The feeder lies 100 mm from the tray: found, and said where.
        QVERIFY(std::any_of(
            session().site()->findings.begin(), session().site()->findings.end(),
            [](const SiteFinding& f) { return f.matter == SiteMatter::Separation && f.bad; }));
        qInfo("%d actions", actions_);
        QVERIFY2(actions_ < 60, qPrintable(QString::number(actions_)));
    }

    void everythingIsUndoneAndRedone() {
        startSmall();
        std::vector<Job> states{session().pending()};
        int steps = 0;
        while (!session().snapshot().undoTitle.isEmpty()) {
            const QString before = session().snapshot().undoTitle;
            QSignalSpy spy(&session(), &Session::jobChanged);
            session().undo();
            SOON_VERIFY(!spy.isEmpty());
            states.push_back(session().pending());
            ++steps;
        }
        QVERIFY(job().floors.empty() && job().rooms.empty() && job().runs.empty());
        for (int i = steps - 1; i >= 0; --i) {
            QSignalSpy spy(&session(), &Session::jobChanged);
            session().redo();
            SOON_VERIFY(!spy.isEmpty());
            QVERIFY(session().pending() == states[static_cast<std::size_t>(i)]);
        }
    }

    void anOutletIsDraggedAndItsRunFollows() {
        startSmall();
        const Run run = job().runs[0];
        const Place* place = byId(job().places, run.farPlaceId);
        QVERIFY(place != nullptr);
        const PlanPoint from = place->at;
        const double before = job().run(run.id)->lengthM();
        drag(from.xM, from.yM, from.xM, from.yM + 3);
        SOON_VERIFY(qAbs(byId(job().places, run.farPlaceId)->at.yM - from.yM - 3) < 0.15);
        const double after = job().run(run.id)->lengthM();
        QVERIFY2(qAbs(qAbs(after - before) - 3) < 0.35,
                 qPrintable(QString::number(after - before)));
        // The strip and Budget show the same length.
        QVERIFY(qAbs(session().finding(run.id)->lengthM - after) < 1e-9);
    }

    void anotherWayByDraggingAndBackAgain() {
        startSmall();
        tool("pathway");
        click(6, 10);
        click(6, 16);
        click(18, 16);
        click(18, 10);
        key(Qt::Key_Return);
        SOON_COMPARE(job().pathways.size(), 2U);
        tool("choose");
        key(Qt::Key_Escape);
        const Run run = job().runs[0];
        session().select(run.id, {});
        const double before = job().run(run.id)->lengthM();
        drag(8, 10, 12, 16);
        // The first pathway is chosen by the press when nothing of the way lies there; here it
        // does.
        SOON_VERIFY(!job().run(run.id)->vias.empty() ||
                    job().pathways[0].points.front().yM != 10.0);
        if (!job().run(run.id)->vias.empty()) {
            QVERIFY(job().run(run.id)->lengthM() > before + 5);
            QTest::mouseClick(find<QPushButton>("straight"), Qt::LeftButton);
            SOON_VERIFY(job().run(run.id)->vias.empty());
            QVERIFY(qAbs(job().run(run.id)->lengthM() - before) < 1e-9);
        }
    }

    void keyboardAloneDrawsAndMoves() {
        startEmpty();
        auto* floor = find<QPushButton>("newFloor");
        floor->setFocus();
        QTest::keyClick(floor, Qt::Key_Space);
        SOON_COMPARE(job().floors.size(), 1U);
        plan()->setFocus();
        key(Qt::Key_R); // a room of 6 by 4 m at the crosshair
        for (int i = 0; i < 4; ++i) {
            key(Qt::Key_Right);
            key(Qt::Key_Down);
        }
        key(Qt::Key_Space);
        QTest::keyClicks(plan(), QStringLiteral("6 x 4 m"));
        key(Qt::Key_Return);
        SOON_COMPARE(job().rooms.size(), 1U);
        QVERIFY(qAbs(areaM2(job().rooms[0].outline) - 24) < 1e-6);
        answer("CR Chart room");
        SOON_COMPARE(job().rooms[0].letters, std::string("CR"));
        key(Qt::Key_W); // a tray, then exactly 12.5 m to the right
        key(Qt::Key_Space);
        key(Qt::Key_Right);
        QTest::keyClicks(plan(), QStringLiteral("12.5 m"));
        key(Qt::Key_Return);
        key(Qt::Key_Return);
        SOON_COMPARE(job().pathways.size(), 1U);
        QVERIFY(qAbs(lengthOfM(job().pathways[0].points) - 12.5) < 1e-6);
        key(Qt::Key_C);
        key(Qt::Key_Escape);
        key(Qt::Key_N);
        while (plan()->chosenId() != job().pathways[0].id)
            key(Qt::Key_N);
        const PlanPoint was = job().pathways[0].points[0];
        key(Qt::Key_Down, Qt::AltModifier);
        SOON_VERIFY(qAbs(job().pathways[0].points[0].yM - was.yM - 0.5) < 1e-9);
        key(Qt::Key_Right);
        key(Qt::Key_Right);
        key(Qt::Key_S);
        SOON_COMPARE(job().pathways[0].points.size(), 3U);
        key(Qt::Key_Delete);
        SOON_VERIFY(job().pathways.empty());
        session().undo();
        SOON_COMPARE(job().pathways.size(), 1U);
    }

    void typedLengthStopsFollowingAndFollowsAgain() {
        startSmall();
        const Run run = job().runs[0];
        session().select(run.id, {});
        const double planned = job().run(run.id)->lengthM();
        app_->window->showStage(1);
        auto* length = find<QLineEdit>("length");
        length->setFocus();
        length->selectAll();
        QTest::keyClicks(length, QStringLiteral("50 m"));
        QTest::keyClick(length, Qt::Key_Return);
        SOON_VERIFY(!job().run(run.id)->followsPlan);
        QVERIFY(qAbs(job().run(run.id)->lengthM() - 50) < 1e-9);
        app_->window->showStage(0);
        QTest::mouseClick(find<QPushButton>("follow"), Qt::LeftButton);
        SOON_VERIFY(job().run(run.id)->followsPlan);
        QVERIFY(qAbs(job().run(run.id)->lengthM() - planned) < 1e-9);
    }

    void cableTakenForTheRunTheRoomAndAllAlike() {
        startDemo();
        const Run run = *job().runLabelled("FD-D02");
        session().select(run.id, {});
        QTest::mouseClick(find<QPushButton>("take cat5e-utp 2"), Qt::LeftButton);
        SOON_VERIFY(job().runLabelled("SO-D02")->cableId == "cat5e-utp");
        QCOMPARE(job().runLabelled("SO-D02")->jacket, Jacket::Riser);
        QCOMPARE(job().runLabelled("SL-D04")->cableId, std::string("cat6a-utp")); // not alike
        auto* print = find<QLineEdit>("jacketPrint");
        QTest::keyClicks(print, QStringLiteral("24 AWG 4PR CAT 5E U/UTP CMR 0412 FT"));
        QTest::keyClick(print, Qt::Key_Return);
        bool said = false;
        for (const auto* label : find<QWidget>("wayPanel")->findChildren<QLabel*>())
            said = said || label->text().contains(QStringLiteral("It is the cable planned"));
        QVERIFY(said);
    }

    void aPictureUnderThePlanAndBadOnesRefused() {
        startEmpty();
        const QString good = folder_.filePath(QStringLiteral("plan.png"));
        QImage image(800, 400, QImage::Format_RGB32);
        image.fill(Qt::white);
        QVERIFY(image.save(good));
        app_->survey->bringPicture(good);
        SOON_VERIFY(!job().floors.empty() && job().floors[0].picture.has_value());
        QCOMPARE(job().floors[0].picture->widthPx, 800.0);
        // The original may go: the copy beside the job is what counts.
        QVERIFY(QFile::remove(good));
        const QString kept =
            folder_.filePath(QStringLiteral("job%1.pictures/%2.png")
                                 .arg(count_)
                                 .arg(QString::fromStdString(job().floors[0].picture->hash)));
        QVERIFY2(QFile::exists(kept), qPrintable(kept));
        const auto refused = [&](const QString& name, const QByteArray& bytes, const char* word) {
            const QString path = folder_.filePath(name);
            QFile file(path);
            QVERIFY(file.open(QIODevice::WriteOnly) && file.write(bytes) == bytes.size());
            file.close();
            auto* message = find<QLabel>("message");
            message->clear();
            app_->survey->bringPicture(path);
            SOON_VERIFY(message->text().contains(QLatin1String(word)));
            QCOMPARE(job().floors[0].picture->widthPx, 800.0); // the plan is as it was
        };
        refused(QStringLiteral("cut.png"), QByteArray("\x89PNG\r\n\x1a\n and no more"), "damaged");
        refused(QStringLiteral("text.png"), "hello", "neither");
        refused(QStringLiteral("bad.pdf"), "%PDF-1.4 nothing", "damaged");
        refused(QStringLiteral("bad.svg"), "<svg><rect", "damaged");
        // 20,000 px wide: a header alone says so, and it is not even begun.
        QByteArray huge("\x89PNG\r\n\x1a\n\x00\x00\x00\x0dIHDR\x00\x00\x4e\x20\x00\x00\x7d\x00"
                        "\x08\x02\x00\x00\x00"
                        "\xf2\x35\x6b\x97\x00\x00\x00\x10IDAT",
                        41);
        refused(QStringLiteral("huge.png"), huge, "px");
        // A plan whose picture has gone still works, and says so.
        QVERIFY(QFile::remove(kept));
        session().store().create(folder_.filePath(QStringLiteral("other.burin")),
                                 QStringLiteral("Other"));
        SOON_VERIFY(job().floors.empty());
        session().store().open(path());
        SOON_VERIFY(!job().floors.empty());
        SOON_VERIFY(find<QLabel>("message")->text().contains(QStringLiteral("missing")));
    }

    void photographsArePinnedAndSeen() {
        startDemo();
        const auto* closing = find<QWidget>("closing");
        const auto text = [&] {
            QString out;
            for (const auto* label : closing->findChildren<QLabel*>())
                out += label->text();
            return out;
        };
        QVERIFY2(text().contains(QStringLiteral("sail loft wall: no photograph")),
                 qPrintable(text()));
        const QString file = folder_.filePath(QStringLiteral("wall.jpg"));
        QImage image(64, 48, QImage::Format_RGB32);
        image.fill(Qt::gray);
        QVERIFY(image.save(file));
        app_->survey->pinPhotographs({file}, {10, 17.8});
        SOON_COMPARE(job().photographs.size(), 1U);
        const Photograph& photo = job().photographs[0];
        QCOMPARE(job().room(photo.roomId)->letters, std::string("SL"));
        QVERIFY(!photo.surfaceId.empty());
        QCOMPARE(photo.takenOn.size(), 10U);
        SOON_VERIFY(!text().contains(QStringLiteral("sail loft wall: no photograph")));
    }

    void aThousandOutletsAndOneFollowsThePointer() {
        const QString file = folder_.filePath(QStringLiteral("large.json"));
        QFile out(file);
        QVERIFY(out.open(QIODevice::WriteOnly));
        Json whole = {{"format", "burin-job"}, {"version", 3}, {"files", Json::array()}};
        whole["job"] = toJson(largeSite());
        out.write(QByteArray::fromStdString(whole.dump()));
        out.close();
        startFrom(file);
        const Run run = *job().runLabelled("R150-2");
        session().select(run.id, {});
        const PlanPoint from = byId(job().places, run.farPlaceId)->at;
        const double before = job().run(run.id)->lengthM();
        std::vector<double> times;
        QTest::mousePress(plan(), Qt::LeftButton, {}, at(from.xM, from.yM));
        for (int step = 1; step <= 80; ++step) {
            const QPointF to = at(from.xM, from.yM + step * 0.05);
            QMouseEvent move(QEvent::MouseMove, to, plan()->mapToGlobal(to), Qt::NoButton,
                             Qt::LeftButton, Qt::NoModifier);
            QElapsedTimer clock;
            clock.start();
            QApplication::sendEvent(plan(), &move);
            plan()->repaint();
            times.push_back(static_cast<double>(clock.nsecsElapsed()) / 1e6);
        }
        QSignalSpy fresh(&session(), &Session::findingsChanged);
        QElapsedTimer clock;
        clock.start();
        QTest::mouseRelease(plan(), Qt::LeftButton, {}, at(from.xM, from.yM + 3));
        while (fresh.isEmpty() && clock.elapsed() < 30000)
            QCoreApplication::processEvents();
        const auto all = clock.elapsed();
        QVERIFY(!fresh.isEmpty());
        QVERIFY(qAbs(job().run(run.id)->lengthM() - before) > 1);
        std::sort(times.begin(), times.end());
        qInfo("one move: median %.1f ms, nine in ten %.1f ms, slowest %.1f ms; all fresh %lld ms "
              "after letting go, disk and all",
              times[times.size() / 2], times[times.size() * 9 / 10], times.back(),
              static_cast<long long>(all));
        QVERIFY2(times[times.size() / 2] < 16, "a move takes longer than a frame");
    }

    void floorsAreMeasuredAndRulesChangeEveryLength() {
        startSmall();
        const double before = job().runs[0].lengthM();
        JobInfo info = session().pending().info;
        JobInfo measured = info;
        measured.survey.spare = SpareSchool::Measured;
        session().commit({"spare", {put(std::optional(info), std::optional(measured))}});
        SOON_VERIFY(qAbs(before - job().runs[0].lengthM() - 3.3) < 1e-9);
    }
};

int main(int argc, char** argv) {
    prepareFonts({});
    QApplication::setStyle(QStringLiteral("Fusion"));
    QApplication app(argc, argv);
    TestSurvey test;
    return QTest::qExec(&test, argc, argv);
}

#include "test_survey.moc"
