#include "app/survey/plan_draft.h"
#include "core/base/lookup.h"
#include "core/units/render.h"
#include <QTest>

using namespace burin;

/// What drawing and moving on the plan come to, without a widget.
class TestPlanDraft : public QObject {
    Q_OBJECT
    Job job_;
    Catalogue catalogue_;

    PlanPoint snap(double x, double y, std::optional<PlanPoint> from = std::nullopt,
                   bool square = false) {
        return snapped(job_, "g", {x, y}, 0.4, from, square);
    }
    std::string hit(double x, double y, const std::string& chosen = {}) {
        return hitAt(job_, "g", {x, y}, 0.4, chosen).id;
    }
    Job with(const Changes& changes) {
        auto out = apply(job_, {"test", changes});
        if (!out)
            qFatal("%s", render(out.error(), {}).c_str());
        return *out;
    }
    Drawn draw(Tool tool, const std::vector<PlanPoint>& points) {
        PlanTools tools;
        tools.tool = tool;
        return drawn(job_, catalogue_, tools, "g", points);
    }

private slots:
    void initTestCase() {
        auto loaded = loadCatalogue(BURIN_CATALOGUE);
        QVERIFY(loaded.has_value());
        catalogue_ = *loaded;
    }
    void init() {
        job_ = {};
        Floor floor;
        floor.id = "g";
        floor.name = "Ground floor";
        job_.floors = {floor};
        job_.rooms = {Room{"r", "SL", "Sail loft", 0, 0, "g", {{2, 2}, {8, 2}, {8, 6}, {2, 6}}}};
        Pathway tray;
        tray.id = "t";
        tray.name = "tray";
        tray.floorId = "g";
        tray.points = {{1, 8}, {20, 8}};
        job_.pathways = {tray};
        Place outlet;
        outlet.id = "o";
        outlet.name = "outlet 1";
        outlet.floorId = "g";
        outlet.roomId = "r";
        outlet.at = {5, 2};
        job_.places = {outlet};
        Surface wall;
        wall.id = "w";
        wall.name = "wall";
        wall.floorId = "g";
        wall.points = {{8, 0}, {8, 12}};
        job_.surfaces = {wall};
    }

    void pointsSnapToCornersThenWallsThenTheGrid() {
        QCOMPARE(snap(2.2, 2.1), (PlanPoint{2, 2}));       // a corner
        QCOMPARE(snap(5.04, 2.3), (PlanPoint{5, 2}));      // a wall; the other measure on the grid
        QCOMPARE(snap(12.34, 7.75), (PlanPoint{12.3, 8})); // the tray
        QCOMPARE(snap(14.26, 4.44), (PlanPoint{14.3, 4.4}));
        // Square from a point: level or upright, whatever is nearer.
        const PlanPoint from{14.07, 4};
        QCOMPARE(snap(14.5, 6.2, from, true), (PlanPoint{14.07, 6.2}));
        QCOMPARE(snap(18.33, 4.5, from, true), (PlanPoint{18.3, 4}));
        // Square onto the tray: where the upright line meets it.
        QCOMPARE(snap(14.2, 7.8, from, true), (PlanPoint{14.07, 8}));
    }

    void theNearestThingUnderThePointerIsHit() {
        QCOMPARE(hit(5.1, 2.1), std::string("o")); // a place before the wall it stands at
        QCOMPARE(hit(12, 8.2), std::string("t"));
        QCOMPARE(hit(8.1, 10), std::string("w"));
        QCOMPARE(hit(4, 4), std::string("r")); // inside a room
        QCOMPARE(hit(18, 3), std::string());
        const Hit corner = hitAt(job_, "g", {20.1, 8.1}, 0.4, "t");
        QCOMPARE(corner.id, std::string("t"));
        QCOMPARE(corner.corner, 1);
        QCOMPARE(hitAt(job_, "g", {20.1, 8.1}, 0.4, {}).corner, -1); // only of what is chosen
        QCOMPARE(hit(4, 4).empty(), false);
        QVERIFY(hitAt(job_, "other", {4, 4}, 0.4, {}).id.empty());
        QCOMPARE(placeAt(job_, "g", {5.2, 2}, 0.4)->id, std::string("o"));
        QVERIFY(placeAt(job_, "g", {5.2, 2}, 0.1) == nullptr);
    }

    void thingsAreReadFromTopToBottom() {
        const std::vector<std::string> wanted{"w", "r", "o", "t"};
        QCOMPARE(thingsOn(job_, "g"), wanted);
        QVERIFY(thingsOn(job_, "other").empty());
    }

    void aRoomMovesWithItsOutletsAndACornerAlone() {
        const Job moved = with(movedBy(job_, "r", -1, 1, 0.5));
        QCOMPARE(moved.rooms[0].outline[0], (PlanPoint{3, 2.5}));
        QCOMPARE(moved.places[0].at, (PlanPoint{6, 2.5}));
        const Job corner = with(movedBy(job_, "r", 2, 1, 0));
        QCOMPARE(corner.rooms[0].outline[2], (PlanPoint{9, 6}));
        QCOMPARE(corner.rooms[0].outline[1], (PlanPoint{8, 2}));
        QCOMPARE(corner.places[0].at, (PlanPoint{5, 2}));
        // A place that leaves its room is of the next one, or of none.
        const Job away = with(movedBy(job_, "o", -1, 10, 0));
        QVERIFY(away.places[0].roomId.empty());
        QVERIFY(movedBy(job_, "no such thing", -1, 1, 1).empty());
    }

    void aPieceIsSplitWhereItIsNearest() {
        const Job split = with(splitAt(job_, "t", {7, 8.3}));
        QCOMPARE(split.pathways[0].points.size(), 3U);
        QCOMPARE(split.pathways[0].points[1], (PlanPoint{7, 8}));
        // The last wall of a room, from its last corner to its first.
        const Job room = with(splitAt(job_, "r", {2, 4}));
        QCOMPARE(room.rooms[0].outline.size(), 5U);
        QCOMPARE(room.rooms[0].outline[4], (PlanPoint{2, 4}));
        QVERIFY(splitAt(job_, "t", {1, 8}).empty()); // a corner is there already
        QVERIFY(splitAt(job_, "o", {5, 2}).empty());
    }

    void whatIsDrawnIsMade() {
        const Job room = with(draw(Tool::Room, {{10, 2}, {14, 6}}).edit.changes);
        QCOMPARE(room.rooms.size(), 2U);
        QCOMPARE(areaM2(room.rooms[1].outline), 16.0);
        QVERIFY(draw(Tool::Room, {{10, 2}, {10.1, 2.1}}).edit.changes.empty()); // a slip
        const Drawn outlet = draw(Tool::Outlet, {{7, 2}});
        const Job placed = with(outlet.edit.changes);
        const Place* place = byId(placed.places, outlet.id);
        QVERIFY(place != nullptr);
        QCOMPARE(place->roomId, std::string("r"));
        QCOMPARE(place->ports, 2);
        const Drawn panel = draw(Tool::HeadEnd, {{1, 9}});
        QCOMPARE(byId(with(panel.edit.changes).places, panel.id)->name, std::string("Panel A"));
        QVERIFY(draw(Tool::Pathway, {{1, 9}}).edit.changes.empty()); // one point is no way
        const Drawn way = draw(Tool::Pathway, {{1, 9}, {4, 9}});
        const Pathway* tray = byId(with(way.edit.changes).pathways, way.id);
        QVERIFY(std::abs(tray->heightM - 2.8) < 1e-9); // 0.1 m above the ceiling of 2.7 m
        const Drawn mains = draw(Tool::Mains, {{1, 9}, {4, 9}});
        QCOMPARE(byId(with(mains.edit.changes).mains, mains.id)->kva, 1.4);
        QVERIFY(draw(Tool::Wall, {{1, 9}}).edit.changes.empty());
        // A room drawn around an outlet takes it in.
        job_.places[0].roomId.clear();
        job_.places[0].at = {12, 4};
        const Drawn around = draw(Tool::Room, {{10, 2}, {14, 6}});
        QCOMPARE(with(around.edit.changes).places[0].roomId, around.id);
    }

    void roomsAreNamedByLettersAndName_data() {
        QTest::addColumn<QString>("typed");
        QTest::addColumn<QString>("letters");
        QTest::addColumn<QString>("name");
        QTest::newRow("both") << "MS Machine shop"
                              << "MS"
                              << "Machine shop";
        QTest::newRow("a name") << "Chart room"
                                << "CR"
                                << "Chart room";
        QTest::newRow("a word") << "  cellar  "
                                << "CE"
                                << "cellar";
        QTest::newRow("number") << "R12 Store"
                                << "R12"
                                << "Store";
        QTest::newRow("small") << "slip office"
                               << "SO"
                               << "slip office";
    }
    void roomsAreNamedByLettersAndName() {
        QFETCH(QString, typed);
        QFETCH(QString, letters);
        QFETCH(QString, name);
        const auto edit = namedRoom(job_, "r", typed.toStdString());
        QVERIFY2(edit.has_value(), edit ? "" : render(edit.error(), {}).c_str());
        const Job named = with(edit->changes);
        QCOMPARE(QString::fromStdString(named.rooms[0].letters), letters);
        QCOMPARE(QString::fromStdString(named.rooms[0].name), name);
    }

    void aRoomWithTheLettersOfAnotherIsRefusedOrBecomesIt() {
        job_.rooms.push_back(
            Room{"s", "R1", "Room 1", 1, 1, "g", {{10, 2}, {14, 2}, {14, 6}, {10, 6}}});
        const auto refused = namedRoom(job_, "s", "SL Spar loft");
        QVERIFY(!refused.has_value());
        QVERIFY(render(refused.error().what, {}).find("Sail loft") != std::string::npos);
        QVERIFY(!namedRoom(job_, "s", "   ").has_value());
        // One that was only typed so far gets the outline, and what stood in it.
        job_.rooms[0].outline.clear();
        job_.rooms[0].floorId.clear();
        job_.places[0].roomId = "s";
        const Job joinedJob = with(namedRoom(job_, "s", "SL")->changes);
        QCOMPARE(joinedJob.rooms.size(), 1U);
        QCOMPARE(joinedJob.rooms[0].id, std::string("r"));
        QCOMPARE(joinedJob.rooms[0].outline.size(), 4U);
        QCOMPARE(joinedJob.places[0].roomId, std::string("r"));
    }

    void photographsKnowWhatTheyShow() {
        // At the wall that stands 0.6 m away, not the one 3 m away.
        const Photograph wall = photographAt(job_, "g", {7.4, 4}, nullptr);
        QCOMPARE(wall.surfaceId, std::string("w"));
        QCOMPARE(wall.roomId, std::string("r"));
        QVERIFY(photographAt(job_, "g", {4, 4}, nullptr).surfaceId.empty());
        // In the middle of a room whose ceiling is to close: of that.
        job_ = with(closedOn(job_, SurfaceKind::Ceiling, "g", "r", "2026-12-01")->changes);
        QCOMPARE(photographAt(job_, "g", {4, 4}, nullptr).surfaceId,
                 surfaceOf(job_, SurfaceKind::Ceiling, "g", "r")->id);
        Run run;
        run.id = "run";
        run.far.placeId = "o";
        const Photograph end = photographAt(job_, "g", {5.1, 2.1}, &run);
        QCOMPARE(end.runId, std::string("run"));
        QVERIFY(end.surfaceId.empty());
        run.far.placeId = "another";
        QVERIFY(photographAt(job_, "g", {5.1, 2.1}, &run).runId.empty());
    }

    void whatIsTakenAwayTakesAlongWhatCannotStand() {
        Run run;
        run.id = "run";
        run.roomId = "r";
        run.label = "SL-D01";
        run.far.placeId = "o";
        run.stretches = {{"tray", 12, 20, 0}};
        job_.runs = {run};
        const auto removed = [&](const std::string& id) {
            return with(removalOfThing(job_, job_, id));
        };
        QVERIFY(removed("o").runs[0].far.placeId.empty());
        QCOMPARE(removed("o").runs[0].lengthM(), 12.0);
        QVERIFY(removed("t").pathways.empty());
        QVERIFY(removed("w").surfaces.empty());
        const Job room = removed("r"); // it has a run: it only leaves the plan
        QCOMPARE(room.rooms.size(), 1U);
        QVERIFY(room.rooms[0].outline.empty());
        QVERIFY(removalOfThing(job_, job_, "nothing").empty());
    }

    void floorsStandOnTheOneBelow() {
        Pathway shaft;
        shaft.id = "s";
        shaft.kind = PathwayKind::Shaft;
        shaft.floorId = "g";
        shaft.points = {{1, 1}};
        job_.pathways.push_back(shaft);
        const Drawn made = addedFloor(job_);
        const Job two = with(made.edit.changes);
        const Floor above = *byId(two.floors, made.id);
        QCOMPARE(byId(two.pathways, "s")->toFloorId, made.id); // it went nowhere before
        QCOMPARE(byId(two.pathways, "t")->toFloorId, std::string());
        QCOMPARE(above.name, std::string("First floor"));
        QVERIFY(std::abs(above.elevationM - (2.7 + 0.5 + 0.3)) < 1e-9);
        QCOMPARE(above.widthM, job_.floors[0].widthM);
        const Drawn first = addedFloor({});
        QCOMPARE(first.edit.changes.size(), 1U);
        QCOMPARE(first.edit.changes[0].after.at("name").get<std::string>(),
                 std::string("Ground floor"));
    }
};

QTEST_GUILESS_MAIN(TestPlanDraft)
#include "test_plan_draft.moc"
