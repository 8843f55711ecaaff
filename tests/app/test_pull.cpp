#include "app/driven.h"
#include "app/pull/pull_stage.h"
#include "core/base/lookup.h"
#include "files/job_export.h"
#include <QDragEnterEvent>
#include <QJsonArray>
#include <QJsonDocument>
#include <QJsonObject>
#include <QMimeData>

using namespace burin;

/// Drives the Pull stage: boxes, marks and pulls by mouse and keyboard, and what then stands in the
/// job.
class TestPull : public Driven {
    Q_OBJECT
public:
    TestPull() : Driven(pullStage) {}

private:
    static QJsonArray point(double x, double y) { return {x, y}; }

    /// A tray of 40 m with a panel at its foot and rooms along it, `count` runs from it.
    QString surveyed(int count) {
        QJsonArray rooms;
        QJsonArray places;
        QJsonArray runs;
        const auto place = [](const QString& id, const QString& kind, double x, int ports) {
            return QJsonObject{{"id", id},       {"name", id},     {"kind", kind},
                               {"floorId", "g"}, {"roomId", ""},   {"at", point(x, 5)},
                               {"heightM", 0.3}, {"ports", ports}, {"access", "easy"}};
        };
        places.append(place(QStringLiteral("panel"), QStringLiteral("panel"), 0, 48));
        for (int i = 0; i < count; ++i) {
            const QString letters = QStringLiteral("R%1").arg(i / 6);
            if (i % 6 == 0)
                rooms.append(QJsonObject{{"id", letters},
                                         {"letters", letters},
                                         {"name", letters},
                                         {"tape", i / 6},
                                         {"order", i / 6}});
            const QString label = QStringLiteral("%1-D%2").arg(letters).arg(i % 6 + 1);
            places.append(place(label, QStringLiteral("outlet"), 20 + 5 * (i / 6), 1));
            runs.append(QJsonObject{{"id", label},
                                    {"roomId", letters},
                                    {"label", label},
                                    {"order", i},
                                    {"serviceId", "1g"},
                                    {"cableId", "cat6-utp"},
                                    {"nearEnd", ""},
                                    {"farEnd", ""},
                                    {"stretches", QJsonArray()},
                                    {"cords", QJsonArray()},
                                    {"connections", QJsonArray()},
                                    {"followsPlan", true},
                                    {"nearPlaceId", "panel"},
                                    {"nearPort", i + 1},
                                    {"farPlaceId", label}});
        }
        const QJsonObject floor{{"id", "g"},         {"name", "g"},     {"order", 0},
                                {"elevationM", 0.0}, {"ceilingM", 2.7}, {"voidM", 0.5},
                                {"widthM", 60.0},    {"depthM", 20.0}};
        const QJsonObject tray{{"id", "t"},
                               {"name", "tray"},
                               {"kind", "tray"},
                               {"floorId", "g"},
                               {"points", QJsonArray{point(0, 5), point(40, 5)}},
                               {"heightM", 2.8},
                               {"temperatureC", 20.0}};
        Job fresh;
        QJsonObject job{
            {"info", QJsonDocument::fromJson(QByteArray::fromStdString(toJson(fresh.info).dump()))
                         .object()}};
        job["rooms"] = rooms;
        job["places"] = places;
        job["runs"] = runs;
        job["floors"] = QJsonArray{floor};
        job["pathways"] = QJsonArray{tray};
        for (const char* empty : {"measurements", "cables"})
            job[QLatin1String(empty)] = QJsonArray();
        const QString file = folder_.filePath(QStringLiteral("surveyed.json"));
        QFile out(file);
        if (!out.open(QIODevice::WriteOnly))
            qFatal("no file");
        out.write(QJsonDocument(QJsonObject{{"format", "burin-job"},
                                            {"version", formatVersion},
                                            {"job", job},
                                            {"files", QJsonArray()}})
                      .toJson());
        return file;
    }
    [[nodiscard]] const PullPlan& plan() { return session().jobFindings()->pulls; }
    void addBox(const char* line) {
        auto* field = find<QLineEdit>("newBox");
        const auto before = job().boxes.size();
        field->setFocus();
        QTest::keyClicks(field, QLatin1String(line));
        QTest::keyClick(field, Qt::Key_Return);
        SOON_COMPARE(job().boxes.size(), before + 1);
        SOON_COMPARE(plan().boxes.size() >= job().boxes.size(), true);
    }
    /// A box, and the first `count` runs pulled from it one after the other.
    void addBoxAndPull(int count) {
        Box box;
        box.id = box.name = "A1";
        box.cableId = "cat6-utp";
        Changes changes = put<Box>(std::nullopt, box);
        for (int i = 0; i < count; ++i) {
            Run run = session().pending().runs[std::size_t(i)];
            run.piece = {"A1", 10 + 200 * i, 160 + 200 * i, std::nullopt, "2026-11-26"};
            changes.push_back(
                put(std::optional(session().pending().runs[std::size_t(i)]), std::optional(run)));
        }
        session().commit({"pulled", changes});
        QVERIFY2(session().pending().runs.front().piece.isPulled(),
                 qPrintable(english(find<QLabel>("message")->text())));
        SOON_VERIFY(job().runs.front().piece.isPulled());
    }
    SheetField* field(const char* which, const std::string& label) {
        return find<SheetField>((std::string(which) + " " + label).c_str());
    }
    /// Every box of the job is in the plan, and none that is not.
    [[nodiscard]] bool planFollowed() {
        return std::all_of(plan().boxes.begin(), plan().boxes.end(),
                           [this](const PullBox& box) { return byId(job().boxes, box.id); }) &&
               plan().boxes.size() == job().boxes.size();
    }
    /// Types a mark and Enter, once its box is known.
    void typeMark(SheetField* field, const QString& text) {
        SOON_VERIFY(field->isEnabled());
        field->setFocus();
        field->selectAll();
        QTest::keyClicks(field, text);
        QTest::keyClick(field, Qt::Key_Return);
    }
    void chooseRun(const char* label) {
        session().select(job().runLabelled(label)->id, {});
        SOON_VERIFY(app_->window->findChild<SheetField*>(QStringLiteral("start ") +
                                                         QLatin1String(label)) != nullptr);
    }
    static QString digits(int mark) {
        return QStringLiteral("%1").arg(mark, 4, 10, QLatin1Char('0'));
    }

private slots:
    void twentyFourRunsByKeyboardInUnderEightyActions() {
        startFrom(surveyed(24));
        int actions = 0;
        auto* window = app_->window.get();
        const auto press = [&](Qt::Key key, Qt::KeyboardModifiers with = Qt::NoModifier) {
            QWidget* focus = QApplication::focusWidget();
            QTest::keyClick(focus != nullptr ? focus : window, key, with);
            ++actions;
        };
        window->showStage(surveyStage);
        press(Qt::Key_3, Qt::ControlModifier);
        SOON_COMPARE(window->stage(), int(pullStage));
        press(Qt::Key_B, Qt::ControlModifier);
        // Four boxes, a line each.
        for (int i = 1; i <= 4; ++i) {
            QVERIFY(QApplication::focusWidget() == find<QLineEdit>("newBox"));
            QTest::keyClicks(QApplication::focusWidget(),
                             QStringLiteral("A%1 cat6-utp 305 m 0%1%1%1").arg(i));
            press(Qt::Key_Return);
            SOON_COMPARE(job().boxes.size(), std::size_t(i));
        }
        SOON_VERIFY(planFollowed());
        QCOMPARE(plan().boxes.size(), 4U); // none is to be bought
        SOON_COMPARE(session().pending().boxes.size(), 4U);
        session().select(plan().pulls.front().runs.front().runId, {});
        press(Qt::Key_M, Qt::ControlModifier);
        for (int typed = 0; typed < 48; ++typed) {
            SOON_VERIFY(qobject_cast<SheetField*>(QApplication::focusWidget()) != nullptr);
            auto* now = static_cast<SheetField*>(QApplication::focusWidget());
            QVERIFY2(english(now->text()).isEmpty(),
                     qPrintable(QStringLiteral("%1: %2").arg(typed).arg(now->objectName())));
            // What is on the jacket is what the plan expects.
            SOON_VERIFY(!now->placeholderText().isEmpty());
            QTest::keyClicks(now, now->placeholderText());
            press(Qt::Key_Return);
            const auto marks = [&] {
                int out = 0;
                for (const auto& run : job().runs)
                    out +=
                        int(run.piece.startMark.has_value()) + int(run.piece.endMark.has_value());
                return out;
            };
            SOON_COMPARE(marks(), typed + 1);
            SOON_COMPARE(
                session().jobFindings()->pulled.size(),
                std::size_t(std::count_if(job().runs.begin(), job().runs.end(),
                                          [](const Run& run) { return run.piece.isPulled(); })));
        }
        QCOMPARE(plan().there(), 24U);
        for (const auto& check : session().jobFindings()->pulled)
            QVERIFY(!check.isShort());
        QVERIFY2(actions < 80, qPrintable(QString::number(actions)));
        qInfo("%d actions, digits aside", actions);
    }

    void aToneTiesEachRunToItsPort() {
        startFrom(surveyed(4));
        auto* line = app_->window->findChild<QWidget*>(QStringLiteral("toneLine"));
        QVERIFY(line != nullptr);
        app_->window->showStage(testStage);
        session().select("R0-D1", {});
        QVERIFY(!line->isVisible()); // its number is on it
        addBoxAndPull(3);
        JobInfo rule = job().info;
        rule.pull.marking = MarkingSchool::ToneAndProbe;
        session().commit({"rule", put(std::optional(job().info), std::optional(rule))});
        SOON_VERIFY(line->isVisible());
        QVERIFY(
            english(find<QLabel>("toneSaid")->text()).contains(QStringLiteral("not told apart")));
        auto* at = find<SheetField>("toneAt");
        QTest::keyClick(app_->window.get(), Qt::Key_M, Qt::ControlModifier);
        SOON_VERIFY(at->hasFocus());
        QCOMPARE(english(at->text()), QStringLiteral("panel port 1"));
        // Another's port is taken over, Enter goes on; one alone keeps what it says.
        QTest::keyClicks(at, QStringLiteral("3"));
        QTest::keyClick(at, Qt::Key_Return);
        SOON_COMPARE(job().run("R0-D1")->near.port, 3);
        QCOMPARE(job().run("R0-D3")->near.port, 1);
        QCOMPARE(session().currentId(), std::string("R0-D2"));
        QVERIFY(at->hasFocus());
        SOON_COMPARE(english(at->text()), QStringLiteral("panel port 2"));
        // A port that is known to be another's, and one there is not.
        for (const auto& [typed, said] : {std::pair("3", "R0-D1 ends"), std::pair("49", "1 to 48"),
                                          std::pair("port of the cook", "has no port")}) {
            at->selectAll();
            QTest::keyClicks(at, QLatin1String(typed));
            QTest::keyClick(at, Qt::Key_Return);
            QVERIFY2(english(find<QLabel>("message")->text()).contains(QLatin1String(said)),
                     qPrintable(english(find<QLabel>("message")->text())));
            QCOMPARE(english(at->text()), QLatin1String(typed));
        }
        QVERIFY(job().run("R0-D2")->piece.tonedOn.empty());
        at->selectAll();
        QTest::keyClicks(at, QStringLiteral("panel port 2"));
        QTest::keyClick(at, Qt::Key_Return);
        SOON_VERIFY(!job().run("R0-D2")->piece.tonedOn.empty());
        QCOMPARE(session().currentId(), std::string("R0-D3"));
        // The fourth is not pulled: nothing is heard on it.
        SOON_COMPARE(english(at->text()), QStringLiteral("panel port 1"));
        QTest::mouseClick(find<QPushButton>("toldApart"), Qt::LeftButton);
        SOON_VERIFY(find<QPushButton>("toneAgain")->isVisible());
        QVERIFY(
            english(find<QLabel>("toneSaid")->text()).contains(QStringLiteral("was told apart")));
        QVERIFY(!at->isVisible());
        QTest::mouseClick(find<QPushButton>("toneAgain"), Qt::LeftButton);
        SOON_VERIFY(job().run("R0-D3")->piece.tonedOn.empty());
        SOON_VERIFY(at->isVisible());
        session().select("R0-D4", {});
        SOON_VERIFY(!line->isVisible());
    }

    void wrongMarksStayWhereTheyAreTypedAndSayWhy() {
        startFrom(surveyed(2));
        addBox("A1 cat6-utp 305 m 0100");
        addBox("A2 cat6-utp 305 m, 1 m marks down, 0900");
        chooseRun("R0-D1");
        const std::string box = plan().pullOf("R0-D1")->run("R0-D1")->boxId;
        const bool up = job().boxes.front().id == box;
        const int start = up ? 100 : 900;
        const int length = up ? 94 : 29;
        typeMark(field("start", "R0-D1"), digits(start));
        SOON_VERIFY(job().run("R0-D1")->piece.startMark.has_value());
        auto* end = field("end", "R0-D1");
        typeMark(end, QStringLiteral("12x"));
        QVERIFY(end->isModified());
        QVERIFY(english(find<QLabel>("message")->text()).contains(QStringLiteral("is no mark")));
        typeMark(end, digits(up ? start - 50 : start + 50));
        QVERIFY(end->isModified());
        QVERIFY2(
            english(find<QLabel>("message")->text()).contains(QStringLiteral("this box counts")),
            qPrintable(english(find<QLabel>("message")->text())));
        QVERIFY(!job().run("R0-D1")->piece.endMark);
        typeMark(end, digits(up ? start + length : start - length));
        SOON_VERIFY(job().run("R0-D1")->piece.endMark.has_value());
        // The length by its marks is everywhere at once.
        const double pulled = up ? length * 0.3048 : length;
        SOON_COMPARE(job().run("R0-D1")->lengthM(), pulled - 0.6);
        app_->window->showStage(budgetStage);
        QCOMPARE(session().currentFinding()->lengthM, pulled - 0.6);
    }

    void theEndInGreyFollowsTheStartThatWasRead() {
        startFrom(surveyed(1));
        addBox("A1 cat6-utp 305 m, 1 m marks up, 0100");
        chooseRun("R0-D1");
        auto* end = field("end", "R0-D1");
        SOON_VERIFY(!end->placeholderText().isEmpty());
        const int planned = end->placeholderText().toInt();
        typeMark(field("start", "R0-D1"), QStringLiteral("0107"));
        SOON_VERIFY(job().run("R0-D1")->piece.startMark.has_value());
        // Until the plan has read it nothing is expected there.
        QVERIFY(end->placeholderText() != digits(planned));
        SOON_COMPARE(end->placeholderText(), digits(planned + 7));
    }

    void tooShortIsSaidWithWhatWouldDo() {
        startFrom(surveyed(1));
        addBox("A1 cat6-utp 305 m, 1 m marks up, 0100");
        chooseRun("R0-D1");
        const double need = session().site()->route("R0-D1")->linkM;
        typeMark(field("start", "R0-D1"), QStringLiteral("0100"));
        SOON_VERIFY(job().run("R0-D1")->piece.startMark.has_value());
        typeMark(field("end", "R0-D1"), digits(100 + int(need) - 1));
        SOON_VERIFY(session().jobFindings()->pulledFor("R0-D1") != nullptr);
        SOON_VERIFY(
            english(find<QLabel>("pullCounts")->text()).contains(QStringLiteral("1 short")));
        QVERIFY(
            english(find<QLabel>("shortSaid")->text()).contains(QStringLiteral("Reaches, with")));
        QVERIFY2(english(find<QLabel>("shortCures")->text()).contains(QStringLiteral("Leave ")),
                 qPrintable(english(find<QLabel>("shortCures")->text())));
    }

    void pullsAreMovedJoinedAndLetGo() {
        startFrom(surveyed(12));
        addBox("A1 cat6-utp 305 m 0100");
        addBox("A2 cat6-utp 305 m 0100");
        SOON_COMPARE(plan().pulls.size(), 6U);
        chooseRun("R0-D1");
        const std::string second = plan().pulls[1].runs[0].runId;
        QTest::mouseClick(find<QPushButton>("joinNext"), Qt::LeftButton);
        SOON_COMPARE(plan().pulls.size(), 5U);
        SOON_COMPARE(plan().pullOf("R0-D1")->runs.size(), 4U);
        QVERIFY(plan().pullOf("R0-D1")->run(second) != nullptr);
        QTest::mouseClick(find<QPushButton>("alone"), Qt::LeftButton);
        SOON_COMPARE(plan().pullOf("R0-D1")->runs.size(), 1U);
        QCOMPARE(plan().pulls.size(), 6U);
        // The last one is done first.
        chooseRun("R1-D6");
        auto* list = find<PullList>("pulls");
        list->setFocus();
        for (int i = 5; i > 0; --i) {
            SOON_VERIFY(plan().pulls[std::size_t(i)].run("R1-D6") != nullptr);
            QTest::keyClick(list, Qt::Key_Up, Qt::AltModifier);
            SOON_VERIFY(plan().pulls[std::size_t(i - 1)].run("R1-D6") != nullptr);
        }
        // A run goes with the pull behind.
        const std::string with = plan().pulls[1].runs[0].runId;
        QTest::keyClick(list, Qt::Key_Right, Qt::AltModifier);
        SOON_VERIFY(plan().pullOf("R1-D6")->run(with) != nullptr);
        QVERIFY(plan().pullOf("R1-D6")->run("R1-D5") == nullptr);
        session().undo();
        SOON_VERIFY(plan().pullOf("R1-D6")->run("R1-D5") != nullptr);
        QTest::mouseClick(find<QPushButton>("otherEnd"), Qt::LeftButton);
        SOON_VERIFY(plan().pullOf("R1-D6")->boxesAt == BoxesAt::Far);
        SOON_VERIFY(find<QPushButton>("planAnew")->isVisible());
        QTest::mouseClick(find<QPushButton>("planAnew"), Qt::LeftButton);
        SOON_VERIFY(!plan().pullOf("R1-D6")->byHand);
        // One step back each.
        session().undo();
        SOON_VERIFY(plan().pullOf("R1-D6")->byHand);
    }

    /// What is drawn onto the list comes down where it is let go: on a pull, or between two.
    void drawnByMouse() {
        startFrom(surveyed(12));
        addBox("A1 cat6-utp 305 m 0100");
        addBox("A2 cat6-utp 305 m 0100");
        SOON_COMPARE(plan().pulls.size(), 6U);
        auto* list = find<PullList>("pulls");
        const auto first = [&](std::size_t pull) { return plan().pulls[pull].runs[0].runId; };
        const auto rowOf = [&](const std::string& runId) {
            const auto* model = static_cast<const PullsModel*>(list->model());
            list->scrollTo(model->index(model->rowOf(runId)));
            return list->visualRect(model->index(model->rowOf(runId)));
        };
        /// Onto the pull of `onto`, so far down it.
        const auto drop = [&](const char* what, const std::string& id, const std::string& onto,
                              double down) {
            const QRect box = rowOf(onto);
            const QPointF at(box.center().x(), box.top() + down * box.height());
            QMimeData dragged;
            dragged.setData(QLatin1String(what), QByteArray::fromStdString(id));
            QDragEnterEvent enter(at.toPoint(), Qt::CopyAction, &dragged, Qt::LeftButton, {});
            QApplication::sendEvent(list->viewport(), &enter);
            QDragMoveEvent move(at.toPoint(), Qt::CopyAction, &dragged, Qt::LeftButton, {});
            QApplication::sendEvent(list->viewport(), &move);
            QDropEvent dropped(at, Qt::CopyAction, &dragged, Qt::LeftButton, {});
            QApplication::sendEvent(list->viewport(), &dropped);
            return move.isAccepted();
        };
        const std::string moved = plan().pulls[0].runs[1].runId;
        const std::string other = first(3);
        QVERIFY(!drop(draggedRun, moved, first(0), 0.5)); // it is in there already
        QVERIFY(drop(draggedRun, moved, other, 0.5));
        SOON_VERIFY(plan().pullOf(moved)->run(other) != nullptr);
        session().undo();
        SOON_VERIFY(plan().pullOf(moved)->run(other) == nullptr);
        // A pull before the first, and after the last.
        const std::string last = first(5);
        QVERIFY(drop(draggedPull, last, first(0), 0.1));
        SOON_VERIFY(plan().pulls[0].run(last) != nullptr);
        QVERIFY(drop(draggedPull, last, first(5), 0.9));
        SOON_VERIFY(plan().pulls[5].run(last) != nullptr);
        // Onto another it goes with it.
        const std::string with = first(2);
        QVERIFY(drop(draggedPull, last, with, 0.5));
        SOON_COMPARE(plan().pulls.size(), 5U);
        QVERIFY(plan().pullOf(last)->run(with) != nullptr);
        // What is pulled stays: nothing comes down on it, and it goes nowhere.
        chooseRun("R0-D1");
        for (const auto& run : std::vector<PulledRun>(plan().pullOf("R0-D1")->runs)) {
            typeMark(field("start", run.runId), QStringLiteral("0100"));
            SOON_VERIFY(job().run(run.runId)->piece.startMark.has_value());
            typeMark(field("end", run.runId), QStringLiteral("0190"));
            SOON_VERIFY(job().run(run.runId)->piece.endMark.has_value());
        }
        SOON_VERIFY(plan().pullOf("R0-D1")->state == PullState::Pulled);
        QVERIFY(!drop(draggedRun, last, "R0-D1", 0.5));
        QVERIFY(drop(draggedRun, "R0-D1", last, 0.5));
        QVERIFY(
            english(find<QLabel>("message")->text()).contains(QStringLiteral("pulled already")));
        QVERIFY(plan().pullOf(last)->run("R0-D1") == nullptr);
    }

    void demoTellsItsStory() {
        startDemo();
        SOON_VERIFY(session().jobFindings() != nullptr);
        session().select(job().runLabelled("SL-D03")->id, {});
        SOON_VERIFY(english(find<QLabel>("pullHead")->text())
                        .contains(QStringLiteral("before sail loft wall")));
        QCOMPARE(plan().pullOf(job().runLabelled("SL-D03")->id)->state, PullState::Begun);
        const auto* check = session().jobFindings()->pulledFor(job().runLabelled("CR-T01")->id);
        QVERIFY(check != nullptr);
        QVERIFY(check->isShort() && !check->reaches);
        QVERIFY(std::abs(check->lacksM - 0.4) < 0.01);
        QCOMPARE(int(check->end), int(End::Far));
        const auto* mistyped = session().jobFindings()->pulledFor(job().runLabelled("FD-V01")->id);
        QVERIFY(mistyped != nullptr && mistyped->farFromPlan);
        QVERIFY(session().jobFindings()->clashes.empty());
    }

    void boxesThatCannotBeAreRefused() {
        startFrom(surveyed(1));
        auto* line = find<QLineEdit>("newBox");
        line->setFocus();
        QTest::keyClicks(line, QStringLiteral("A1 cat6-utp 305 m"));
        QTest::keyClick(line, Qt::Key_Return);
        QVERIFY(english(find<QLabel>("message")->text())
                    .contains(QStringLiteral("free end is missing")));
        QCOMPARE(english(line->text()), QStringLiteral("A1 cat6-utp 305 m"));
        QVERIFY(job().boxes.empty());
    }
};

int main(int argc, char** argv) {
    prepareFonts(BURIN_BIN "/burin");
    QApplication application(argc, argv);
    loadFaces(QStringLiteral(BURIN_SOURCE "/assets/fonts"));
    TestPull test;
    return QTest::qExec(&test, argc, argv);
}

#include "test_pull.moc"
