#include "core/edit/removal.h"
#include "core/edit/system_edit.h"
#include "core/units/render.h"
#include "files/job_export.h"
#include "files/picture_folder.h"
#include <QDir>
#include <QFile>
#include <QProcess>
#include <QSqlDatabase>
#include <QSqlQuery>
#include <QTemporaryDir>
#include <QTest>
#include <random>
#include <sys/wait.h>
#include <unistd.h>

using namespace burin;

namespace {

Run someRun(const char* label) {
    Run run;
    run.id = label;
    run.label = label;
    run.roomId = "r";
    run.cableId = "cat6a-utp";
    run.serviceId = "10g";
    run.stretches = {{"tray", 20.25, 31, 4}, {"drop", 3.5, 20, 0}};
    run.cords = {{End::Near, "cat6a-utp", 3, true}};
    run.connections = {{End::Near, "conn-cat6a", 0}, {End::Inline, "conn-cat6a", 7.125}};
    run.headLevel = 70;
    deriveOwned(run);
    return run;
}

Edit addRun(const char* label) {
    return {std::string("add ") + label, {put<Run>(std::nullopt, someRun(label))}};
}

QByteArray bytesOf(const QString& path) {
    QFile file(path);
    return file.open(QIODevice::ReadOnly) ? file.readAll() : QByteArray("unreadable");
}

} // namespace

class TestJobStore : public QObject {
    Q_OBJECT
    std::unique_ptr<QTemporaryDir> folder_;
    QString path_;

    std::unique_ptr<JobStore> open(Access access = Access::ReadWrite) {
        auto store = JobStore::open(path_, access);
        if (!store)
            QTest::qFail(render(store.error(), {}).c_str(), __FILE__, __LINE__);
        return store ? std::move(*store) : nullptr;
    }
    std::string refusal(Access access = Access::ReadWrite) {
        const QByteArray before = bytesOf(path_);
        auto store = JobStore::open(path_, access);
        if (store) {
            QTest::qFail("it was opened", __FILE__, __LINE__);
            return {};
        }
        if (bytesOf(path_) != before)
            QTest::qFail("the file was touched", __FILE__, __LINE__);
        if (store.error().cure.empty())
            QTest::qFail("no cure is given", __FILE__, __LINE__);
        return render(store.error(), {});
    }

    /// A copy of a job an older Burin made, looked at: that does not change it.
    static void lookAt(const char* fixture, const QString& copy, Job* out) {
        const QString from =
            QStringLiteral(BURIN_SOURCE "/tests/fixtures/") + QLatin1String(fixture);
        QVERIFY(QFile::copy(from, copy));
        QFile::setPermissions(copy, QFile::ReadOwner | QFile::WriteOwner);
        const QByteArray bytes = bytesOf(copy);
        {
            auto store = JobStore::open(copy, Access::ReadOnly);
            QVERIFY2(store.has_value(), store ? "" : render(store.error(), {}).c_str());
            *out = (*store)->job();
        }
        QCOMPARE(bytesOf(copy), bytes);
        // Reading leaves nothing beside it either.
        const QFileInfo info(copy);
        QCOMPARE(info.dir().entryList({info.fileName() + QLatin1Char('*')}, QDir::Files),
                 QStringList{info.fileName()});
    }

private slots:
    void init() {
        folder_ = std::make_unique<QTemporaryDir>();
        path_ = folder_->filePath(QStringLiteral("job.burin"));
        auto store = JobStore::create(path_, "Test");
        QVERIFY(store.has_value());
        QVERIFY(
            (*store)
                ->commit({"room", {put<Room>(std::nullopt, Room{"r", "SL", "Sail loft", 0, 0})}},
                         "t")
                .has_value());
        QVERIFY((*store)->commit(addRun("SL-D01"), "t").has_value());
    }
    void comesBackAsItWas() {
        Job before;
        {
            auto store = open();
            Job job = store->job();
            JobInfo info = job.info;
            info.limitSet = LimitSet::Tia;
            info.accuracy.lengthM = 0.25;
            Measurement m;
            m.id = "m";
            m.runId = "SL-D01";
            m.tester.loopOhm = 9.25;
            QVERIFY(store
                        ->commit({"more",
                                  {put(std::optional(job.info), std::optional(info)),
                                   put<Measurement>(std::nullopt, m)}},
                                 "t")
                        .has_value());
            before = store->job();
        }
        QCOMPARE(open()->job() == before, true);
    }
    void undoAndRedoAfterARestart() {
        { QVERIFY(open()->commit(addRun("SL-D02"), "t").has_value()); }
        {
            auto store = open();
            QCOMPARE(store->undoTitle(), std::string("add SL-D02"));
            QVERIFY(*store->undo());
            QVERIFY(store->job().runLabelled("SL-D02") == nullptr);
        }
        {
            auto store = open();
            QVERIFY(store->job().runLabelled("SL-D02") == nullptr);
            QCOMPARE(store->redoTitle(), std::string("add SL-D02"));
            QVERIFY(*store->redo());
            QCOMPARE(*store->job().runLabelled("SL-D02") == someRun("SL-D02"), true);
            QVERIFY(!*store->redo());
            QVERIFY(*store->undo());
            QVERIFY(*store->undo());
            QVERIFY(*store->redo());
            QVERIFY(store->job().runLabelled("SL-D01") != nullptr);
            // A new edit drops what could have been done again.
            QVERIFY(store->commit(addRun("SL-D09"), "t").has_value());
            QVERIFY(!*store->redo());
            QCOMPARE(store->log()->front().title, std::string("add SL-D09"));
            QVERIFY(!store->log()->front().at.empty());
        }
    }
    void refusedEditLeavesAllAsItWas() {
        auto store = open();
        const Job before = store->job();
        QVERIFY(!store->commit(addRun("SL-D01"), "t").has_value());
        QCOMPARE(store->job() == before, true);
        QCOMPARE(store->log()->size(), 3U);
    }
    void officeCanQuery() {
        open().reset();
        {
            auto db =
                QSqlDatabase::addDatabase(QStringLiteral("QSQLITE"), QStringLiteral("office"));
            db.setDatabaseName(path_);
            QVERIFY(db.open());
            QSqlQuery query(db);
            QVERIFY(query.exec(QStringLiteral("SELECT label, SUM(length_m) FROM run JOIN "
                                              "run_stretch ON run.id = run_id GROUP BY label")));
            QVERIFY(query.next());
            QCOMPARE(query.value(1).toDouble(), 23.75);
        }
        QSqlDatabase::removeDatabase(QStringLiteral("office"));
    }
    void newerFile() {
        QProcess sql;
        open().reset();
        QFile file(path_);
        QVERIFY(file.open(QIODevice::ReadWrite));
        file.seek(60); // user_version, big-endian
        file.write(QByteArray("\0\0\0\x63", 4));
        file.close();
        const auto text = refusal();
        QVERIFY2(text.find("newer Burin") != std::string::npos, text.c_str());
    }
    void distributionsAndBusesAreKept() {
        const Run feed = someRun("SL-D01");
        Distribution d = newDistribution(feed);
        d.serviceId = "catv";
        d.headOutputs = 4;
        d = withPartAhead(d, d.parts[0].id, *parseTreeUnit("amplifier 18 slope 4 return 2"));
        deriveOwned(d);
        Run reader = someRun("SL-R01");
        BusChain bus = newBus({}, reader);
        bus.supplyV = 13.6;
        bus.supplyAwg = 18;
        bus.devices[1].mostV = 15;
        deriveOwned(bus);
        Job kept;
        {
            auto store = open();
            QVERIFY(store->commit({"reader", {put<Run>(std::nullopt, reader)}}, "t", {}));
            QVERIFY(store->commit({"hang", {put<Distribution>(std::nullopt, d)}}, "t", {}));
            QVERIFY(store->commit({"wire", {put<BusChain>(std::nullopt, bus)}}, "t", {}));
            kept = store->job();
            QVERIFY(kept.distributions.front() == d);
            QVERIFY(kept.buses.front() == bus);
            // A run goes with its place, as one edit, and comes back with it.
            QVERIFY(store->commit({"remove", removalOf(kept, reader.id)}, "t", {}));
            QVERIFY(store->job().buses.empty());
            QVERIFY(*store->undo());
            QVERIFY(store->job() == kept);
        }
        auto store = open();
        QVERIFY(store->job() == kept);
        QVERIFY(store->sound());
        // What would leave a part without its run is refused, and the file stays as it was.
        QVERIFY(
            !store->commit({"cut", {put(std::optional(reader), std::optional<Run>{})}}, "t", {}));
        QVERIFY(store->job() == kept);
    }
    void fileOfTheFirstVersion() {
        // Made by the first Burin that had jobs; see tests/fixtures/README.md.
        const QString old = folder_->filePath(QStringLiteral("old.burin"));
        Job before;
        lookAt("job-v1.burin", old, &before);
        QCOMPARE(before.runs.size(), std::size_t(2));
        QCOMPARE(before.measurements.size(), std::size_t(1));
        QCOMPARE(before.runLabelled("RF-A01")->powerW.value_or(0), 25.0);
        Run run = *before.runLabelled("SL-D02");
        {
            auto store = JobStore::open(old, Access::ReadWrite);
            QVERIFY2(store.has_value(), store ? "" : render(store.error(), {}).c_str());
            QVERIFY((*store)->job() == before);
            QVERIFY((*store)->sound());
            Run powered = run;
            powered.poweredType = 2;
            powered.stretches[0].around = Surroundings::Conduit;
            QVERIFY((*store)->commit({"power", {put(std::optional(run), std::optional(powered))}},
                                     "t", {}));
            run = powered;
        }
        auto store = JobStore::open(old, Access::ReadWrite);
        QVERIFY(store.has_value());
        QVERIFY(*(*store)->job().run(run.id) == run);
        QVERIFY(*(*store)->undo());
        QVERIFY(*(*store)->undo()); // an edit the first version logged
        QCOMPARE((*store)->job().runs.size(), std::size_t(0));
        QVERIFY(*(*store)->redo());
        QVERIFY((*store)->job() == before);
    }
    void fileOfTheSecondVersion() {
        const QString old = folder_->filePath(QStringLiteral("two.burin"));
        Job before;
        lookAt("job-v2.burin", old, &before);
        QCOMPARE(before.runs.size(), std::size_t(6));
        QCOMPARE(before.buses.size(), std::size_t(1));
        QVERIFY(before.info.survey == SurveyRules{});
        Floor floor;
        floor.id = "f";
        floor.name = "Ground floor";
        {
            auto store = JobStore::open(old, Access::ReadWrite);
            QVERIFY2(store.has_value(), store ? "" : render(store.error(), {}).c_str());
            QVERIFY((*store)->job() == before);
            QVERIFY((*store)->commit({"floor", {put(std::optional<Floor>{}, std::optional(floor))}},
                                     "t", {}));
        }
        auto store = JobStore::open(old, Access::ReadWrite);
        QVERIFY(store.has_value());
        QVERIFY((*store)->job().floors.at(0) == floor);
        QVERIFY(*(*store)->undo());
        QVERIFY((*store)->job() == before);
    }
    void fileOfTheThirdVersionAndTheLogBesideIt() {
        const QString fixtures = QStringLiteral(BURIN_SOURCE "/tests/fixtures/job-v3.burin");
        const QString old = folder_->filePath(QStringLiteral("three.burin"));
        for (const char* suffix : {"", "-wal"}) {
            QVERIFY(QFile::copy(fixtures + QLatin1String(suffix), old + QLatin1String(suffix)));
            QFile::setPermissions(old + QLatin1String(suffix),
                                  QFile::ReadOwner | QFile::WriteOwner);
        }
        const auto beside = [&] {
            return QDir(folder_->path()).entryList({QStringLiteral("three.burin*")}, QDir::Files);
        };
        const QStringList both{"three.burin", "three.burin-wal"};
        Job before;
        {
            auto store = JobStore::open(old, Access::ReadOnly);
            QVERIFY2(store.has_value(), store ? "" : render(store.error(), {}).c_str());
            before = (*store)->job();
            QCOMPARE(before.runs.size(), std::size_t(3));
        }
        QCOMPARE(beside(), both); // looking at it left nothing
        {
            auto store = JobStore::open(old, Access::ReadWrite);
            QVERIFY2(store.has_value(), store ? "" : render(store.error(), {}).c_str());
            QVERIFY((*store)->job() == before);
            QVERIFY((*store)->sound());
            QCOMPARE(beside(), QStringList{"three.burin"}); // from now on the file alone is the job
            // It was killed with an edit taken back: that is still to be done again, and all the
            // others can be taken back.
            QVERIFY(*(*store)->redo());
            QVERIFY(!((*store)->job() == before));
            QVERIFY(*(*store)->undo());
            QVERIFY((*store)->job() == before);
            while (*(*store)->undo()) {
            }
            QVERIFY((*store)->job().runs.empty());
            for (int i = 0; i < 7; ++i)
                QVERIFY(*(*store)->redo());
            QVERIFY((*store)->job() == before);
        }
        QVERIFY((*JobStore::open(old, Access::ReadOnly))->job() == before);
    }
    void fileOfTheSeventhVersion() {
        const QString old = folder_->filePath(QStringLiteral("seven.burin"));
        Job before;
        lookAt("job-v7.burin", old, &before);
        auto opened = JobStore::open(old, Access::ReadWrite);
        QVERIFY2(opened.has_value(), opened ? "" : render(opened.error(), {}).c_str());
        auto& store = **opened;
        QVERIFY(store.job() == before);
        QCOMPARE(before.runLabelled("SL-D01")->note, std::string("by version 7"));
        QVERIFY(before.runLabelled("SL-D01")->piece.isPulled());
        QVERIFY(before.tools.empty() && before.terminations.empty() && before.cards.empty());
        // What was done there can be taken back here, and what is new kept beside it.
        HandTool tool;
        tool.id = tool.name = "S1";
        Termination end;
        end.id = "e";
        end.runId = before.runLabelled("SL-D01")->id;
        end.stripToolId = tool.id;
        end.entry = 1;
        Changes changes = put<HandTool>(std::nullopt, tool);
        changes.push_back(put<Termination>(std::nullopt, end));
        QVERIFY(store.commit({"end", changes}, "t").has_value());
        for (int i = 0; i < 3; ++i)
            QVERIFY(*store.undo());
        QVERIFY(!store.job().runLabelled("SL-D01")->piece.isPulled());
        QVERIFY(store.job().tools.empty());
        for (int i = 0; i < 3; ++i)
            QVERIFY(*store.redo());
        QCOMPARE(store.job().terminations.size(), std::size_t(1));
        QVERIFY(store.job().runLabelled("SL-D01")->piece.isPulled());
    }
    void fileOfTheEighthVersion() {
        const QString old = folder_->filePath(QStringLiteral("eight.burin"));
        Job before;
        lookAt("job-v8.burin", old, &before);
        auto opened = JobStore::open(old, Access::ReadWrite);
        QVERIFY2(opened.has_value(), opened ? "" : render(opened.error(), {}).c_str());
        auto& store = **opened;
        QVERIFY(store.job() == before);
        const Run run = *before.runLabelled("SL-D01");
        QCOMPARE(run.note, std::string("by version 8"));
        QVERIFY(run.piece.isPulled() && run.piece.tonedOn.empty());
        QCOMPARE(before.terminations.size(), std::size_t(1));
        // What was done there can be taken back here, and what is new kept beside it.
        Run toned = run;
        toned.piece.tonedOn = "2026-11-27";
        JobInfo dear = before.info;
        dear.survey.cablePrices = {{"cat6-utp", 0.7}};
        Changes changes = put(std::optional(run), std::optional(toned));
        changes.push_back(put(std::optional(before.info), std::optional(dear)));
        QVERIFY(store.commit({"tone", changes}, "t").has_value());
        for (int i = 0; i < 3; ++i)
            QVERIFY(*store.undo());
        QVERIFY(store.job().terminations.empty() && store.job().tools.empty());
        for (int i = 0; i < 3; ++i)
            QVERIFY(*store.redo());
        QCOMPARE(store.job().terminations.size(), std::size_t(1));
        QCOMPARE(store.job().runLabelled("SL-D01")->piece.tonedOn, std::string("2026-11-27"));
        QCOMPARE(store.job().info.survey.perMetreOf("cat6-utp"), 0.7);
    }
    void fileOfTheSixthVersion() {
        const QString old = folder_->filePath(QStringLiteral("six.burin"));
        Job before;
        lookAt("job-v6.burin", old, &before);
        auto opened = JobStore::open(old, Access::ReadWrite);
        QVERIFY2(opened.has_value(), opened ? "" : render(opened.error(), {}).c_str());
        auto& store = **opened;
        QVERIFY(store.job() == before);
        QCOMPARE(before.runLabelled("SL-D01")->note, std::string("by version 6"));
        QCOMPARE(before.runLabelled("SL-D01")->near.port, 5);
        QVERIFY(before.boxes.empty() && !before.runLabelled("SL-D01")->piece.isPulled());
        // What was done there can be taken back here, and what is new kept beside it.
        Box box;
        box.id = box.name = "A1";
        QVERIFY(store.commit({"box", {put<Box>(std::nullopt, box)}}, "t").has_value());
        for (int i = 0; i < 3; ++i)
            QVERIFY(*store.undo());
        QVERIFY(store.job().runLabelled("SL-D01")->note != "by version 6");
        QVERIFY(store.job().boxes.empty());
        for (int i = 0; i < 3; ++i)
            QVERIFY(*store.redo());
        QCOMPARE(store.job().boxes.size(), std::size_t(1));
        QCOMPARE(store.job().runLabelled("SL-D01")->near.port, 5);
    }
    void fileOfTheFifthVersion() {
        const QString old = folder_->filePath(QStringLiteral("five.burin"));
        Job before;
        lookAt("job-v5.burin", old, &before);
        auto opened = JobStore::open(old, Access::ReadWrite);
        QVERIFY2(opened.has_value(), opened ? "" : render(opened.error(), {}).c_str());
        auto& store = **opened;
        QVERIFY(store.job() == before);
        // Every row that is owned has an id now, and what was taken back last can be done again.
        QVERIFY(!before.runLabelled("SL-D01")->connections.front().id.empty());
        QCOMPARE(store.redoTitle(), std::string("left coiled"));
        QVERIFY(*store.redo());
        QVERIFY(store.job().runLabelled("SL-D01")->leftCoiled);
        int steps = 0;
        while (*store.undo())
            ++steps;
        QCOMPARE(steps, 5); // what had been overtaken is not among them
        QVERIFY(store.job().runLabelled("SL-D01")->note.empty());
        QCOMPARE(store.job().runs.size(), before.runs.size() + 1);
        while (*store.redo()) {
        }
        QVERIFY(*store.undo());
        QVERIFY(store.job() == before);
    }
    void aLogOfAnotherJobIsNotReadIntoThisOne() {
        const QString job = folder_->filePath(QStringLiteral("mixed.burin"));
        QVERIFY(QFile::copy(QStringLiteral(BURIN_SOURCE "/tests/fixtures/job-v2.burin"), job));
        QVERIFY(QFile::copy(QStringLiteral(BURIN_SOURCE "/tests/fixtures/job-v3.burin-wal"),
                            job + QStringLiteral("-wal")));
        for (const QString& path : {job, job + QStringLiteral("-wal")})
            QFile::setPermissions(path, QFile::ReadOwner | QFile::WriteOwner);
        const QByteArray before = bytesOf(job);
        for (const auto access : {Access::ReadOnly, Access::ReadWrite}) {
            const auto store = JobStore::open(job, access);
            QVERIFY(!store.has_value());
            QVERIFY2(render(store.error(), {}).find("-wal") != std::string::npos,
                     render(store.error(), {}).c_str());
            QCOMPARE(bytesOf(job), before);
        }
        // As the message says.
        QVERIFY(QFile::rename(job + QStringLiteral("-wal"), folder_->filePath("kept-aside")));
        QVERIFY(JobStore::open(job, Access::ReadWrite).has_value());
    }
    void picturesLieBesideTheJob() {
        auto store = open();
        const Attachment file = attach("plan.PNG", std::string("bytes of a picture"));
        Floor floor;
        floor.id = "f";
        floor.name = "Ground floor";
        floor.picture = FloorPicture{file.hash, file.name, 0, 100, 50, 0.1, {}};
        QVERIFY(store->commit({"floor", {put(std::optional<Floor>{}, std::optional(floor))}}, "t",
                              {file}));
        const auto path = picturePath(store->path(), file.hash);
        QVERIFY2(path.has_value(), path ? "" : render(path.error(), {}).c_str());
        QVERIFY(path->endsWith(QStringLiteral(".png")));
        QCOMPARE(bytesOf(*path), QByteArray("bytes of a picture"));
        // The export carries it; the import puts it beside the new job.
        const std::string text = exportJob(*store)->text;
        const QString copy = folder_->filePath(QStringLiteral("copy.burin"));
        auto other = importJob(text, "x", copy, "t");
        QVERIFY2(other.has_value(), other ? "" : render(other.error(), {}).c_str());
        QVERIFY(picturePath(copy, file.hash).has_value());
        QCOMPARE(exportJob(**other)->text, text);
        // One that was changed is not shown as what it was.
        QFile changed(*path);
        QVERIFY(changed.open(QIODevice::WriteOnly) && changed.write("other") == 5);
        changed.close();
        const auto refused = picturePath(store->path(), file.hash);
        QVERIFY(!refused && render(refused.error().what, {}).find("not what was brought in") !=
                                std::string::npos);
        QVERIFY(changed.remove());
        QVERIFY(!picturePath(store->path(), file.hash).has_value());
        QCOMPARE(store->job().floors.size(), std::size_t(1)); // the plan still works
    }
    void truncatedFile() {
        open().reset();
        QFile::resize(path_, QFile(path_).size() / 2);
        const auto text = refusal();
        QVERIFY2(text.find("cut short") != std::string::npos, text.c_str());
    }
    void damagedFile() {
        open().reset();
        QFile file(path_);
        QVERIFY(file.open(QIODevice::ReadWrite));
        for (qint64 at = 5000; at < file.size(); at += 997) {
            file.seek(at);
            file.write(QByteArray(200, '\x5a'));
        }
        file.close();
        QVERIFY(!refusal().empty());
    }
    void foreignFiles() {
        for (const QByteArray& content :
             {QByteArray(), QByteArray("hello"), QByteArray(5000, 'x')}) {
            QFile file(path_);
            QVERIFY(file.open(QIODevice::WriteOnly | QIODevice::Truncate));
            file.write(content);
            file.close();
            QVERIFY(!refusal().empty());
        }
        QFile::remove(path_);
        {
            auto db = QSqlDatabase::addDatabase(QStringLiteral("QSQLITE"), QStringLiteral("other"));
            db.setDatabaseName(path_);
            QVERIFY(db.open());
            QSqlQuery query(db);
            QVERIFY(query.exec(QStringLiteral("CREATE TABLE x (y)")));
        }
        QSqlDatabase::removeDatabase(QStringLiteral("other"));
        QVERIFY(refusal().find("something else") != std::string::npos);
        path_ = folder_->filePath(QStringLiteral("none.burin"));
        QVERIFY(!JobStore::open(path_, Access::ReadWrite).has_value());
        QVERIFY(!QFile::exists(path_));
    }
    void secondBurin() {
        auto first = open();
        const auto text = refusal();
        QVERIFY2(text.find("another Burin") != std::string::npos, text.c_str());
        auto reader = open(Access::ReadOnly);
        QCOMPARE(reader->job() == first->job(), true);
    }
    void readOnlyFolder() {
        open().reset();
        QFile::setPermissions(folder_->path(), QFile::ReadOwner | QFile::ExeOwner);
        if (::geteuid() == 0) {
            // Root may write anywhere: ask as somebody else, in a process of its own.
            QFile::setPermissions(folder_->path(), QFile::ReadOwner | QFile::ExeOwner |
                                                       QFile::ReadGroup | QFile::ExeGroup |
                                                       QFile::ReadOther | QFile::ExeOther);
            const pid_t child = ::fork();
            if (child == 0) {
                if (::setuid(65534) != 0)
                    ::_exit(9);
                auto store = JobStore::open(path_, Access::ReadWrite);
                ::_exit(store ? 1
                        : render(store.error().what, {}).find("may not be written") !=
                                std::string::npos
                            ? 0
                            : 2);
            }
            int status = 0;
            ::waitpid(child, &status, 0);
            QCOMPARE(status, 0);
        } else {
            QVERIFY(refusal().find("may not be written") != std::string::npos);
        }
        QFile::setPermissions(folder_->path(),
                              QFile::ReadOwner | QFile::WriteOwner | QFile::ExeOwner);
    }
    void fullDisk() {
        auto store = open();
        const Job before = store->job();
        store->limitPages(1);
        const auto full =
            store->commit(addRun("SL-D02"), "t", {attach("big", std::string(4000000, 'x'))});
        QVERIFY(!full.has_value());
        QVERIFY2(render(full.error().what, {}).find("full") != std::string::npos,
                 render(full.error(), {}).c_str());
        QCOMPARE(store->job() == before, true);
        store->limitPages(1000000);
        QVERIFY(store->commit(addRun("SL-D02"), "t").has_value());
        QVERIFY(store->sound());
    }
    void everyRandomEditIsOnDiskAsInMemory() {
        // Sixty edits, the file opened anew after each few: what was read is what was edited.
        std::mt19937 random(20261123);
        const auto upTo = [&](int most) {
            return std::uniform_int_distribution<int>(0, most)(random);
        };
        auto store = open();
        for (int i = 0; i < 60; ++i) {
            const Job job = store->job();
            Edit edit{"edit " + std::to_string(i), {}};
            const auto& any =
                job.runs[static_cast<std::size_t>(upTo(static_cast<int>(job.runs.size()) - 1))];
            switch (upTo(3)) {
            case 0: {
                Run more = someRun(("N-" + std::to_string(i)).c_str());
                more.order = upTo(9);
                more.lossBudgetDb = upTo(40) / 8.0;
                more.leftCoiled = upTo(1) == 1;
                edit.changes.push_back(put<Run>(std::nullopt, more));
                break;
            }
            case 1: {
                Run after = withLength(any, upTo(1000) / 7.0);
                after.note = std::string("note ") + std::to_string(i) + " Ω \"'; DROP TABLE run";
                edit.changes.push_back(put(std::optional(any), std::optional(after)));
                break;
            }
            case 2: {
                Measurement m;
                m.id = "m" + std::to_string(i);
                m.runId = any.id;
                m.takenAt = std::to_string(upTo(9));
                m.tester.wireMap = WireMap{};
                m.tester.wireMap->farPin[static_cast<std::size_t>(upTo(7))] = 0;
                edit.changes.push_back(put<Measurement>(std::nullopt, m));
                break;
            }
            default: {
                JobInfo info = job.info;
                info.name += "é";
                info.accuracy.lossShare = upTo(100) / 300.0;
                edit.changes.push_back(put(std::optional(job.info), std::optional(info)));
            }
            }
            QVERIFY(store->commit(edit, "t").has_value());
            if (i % 5 == 4) {
                const Job kept = store->job();
                store.reset();
                store = open();
                QCOMPARE(store->job() == kept, true);
            }
        }
        // And all the way back, over restarts.
        int steps = 0;
        for (;; ++steps) {
            const auto undone = store->undo();
            QVERIFY2(undone.has_value(), undone ? "" : render(undone.error(), {}).c_str());
            if (!*undone)
                break;
            if (steps % 20 == 10) {
                store.reset();
                store = open();
            }
        }
        QCOMPARE(steps, 62);
        QVERIFY(store->job().runs.empty() && store->job().rooms.empty());
        while (*store->redo()) {
        }
        QVERIFY(store->sound());
        QVERIFY(store->job().runs.size() > 5);
    }
    void attachmentsAreKeptOnceAndWhole() {
        const std::string bytes("a\0b\xff\n", 5);
        auto store = open();
        const auto a = attach("one.csv", bytes);
        const auto b = attach("two.csv", bytes);
        QCOMPARE(a.hash, b.hash);
        QCOMPARE(a.hash.size(), 64U);
        for (const auto* label : {"SL-D05", "SL-D06"})
            QVERIFY(store->commit(addRun(label), "t", {a, b}).has_value());
        QCOMPARE(store->attachments()->files.size(), 1U);
        QCOMPARE(*store->attachment(a.hash), bytes);
        const auto none = store->attachment("00");
        QVERIFY(!none.has_value());
        QVERIFY(!none.error().cure.empty());
    }
    void removingARunTakesItsTestsAndUndoBringsThemBack() {
        auto store = open();
        Measurement m;
        m.id = "m";
        m.runId = "SL-D01";
        QVERIFY(store->commit({"test", {put<Measurement>(std::nullopt, m)}}, "t").has_value());
        const Job full = store->job();
        // The run alone cannot go: a test would be left without one.
        QVERIFY(
            !store
                 ->commit({"remove", {put(std::optional(full.runs[0]), std::optional<Run>{})}}, "t")
                 .has_value());
        QVERIFY(store
                    ->commit({"remove",
                              {put(std::optional(m), std::optional<Measurement>{}),
                               put(std::optional(full.runs[0]), std::optional<Run>{})}},
                             "t")
                    .has_value());
        QVERIFY(store->job().runs.empty());
        QVERIFY(*store->undo());
        QCOMPARE(store->job() == full, true);
    }
    void createNeverWritesOver() {
        const QByteArray before = bytesOf(path_);
        const auto again = JobStore::create(path_, "Other");
        QVERIFY(!again.has_value());
        QVERIFY(render(again.error().what, {}).find("already") != std::string::npos);
        QCOMPARE(bytesOf(path_), before);
        QVERIFY(!JobStore::create(folder_->filePath(QStringLiteral("no/such/folder/x.burin")), "x")
                     .has_value());
    }
    void logTellsWhoWhenAndWhat() {
        auto store = open();
        QVERIFY(store->commit(addRun("SL-D07"), "second fixer").has_value());
        QVERIFY(*store->undo("rigger"));
        const auto log = *store->log();
        QCOMPARE(log.size(), 5U);
        QCOMPARE(log[0].title, std::string("add SL-D07"));
        QCOMPARE(log[0].who, std::string("rigger"));
        QCOMPARE(log[1].who, std::string("second fixer"));
        QVERIFY(log[0].what == LogEntry::What::TakenBack);
        QVERIFY(log[1].what == LogEntry::What::Done);
        QVERIFY(log[0].id != log[1].id);
        QCOMPARE(store->log(1)->size(), 1U);
    }
    void readerSeesWhatTheWriterCommitted() {
        auto writer = open();
        for (int i = 0; i < 5; ++i) {
            QVERIFY(writer->commit(addRun(("W-" + std::to_string(i)).c_str()), "t").has_value());
            auto reader = open(Access::ReadOnly);
            QCOMPARE(reader->job() == writer->job(), true);
        }
    }
    void exportIsByteStable() {
        std::string first;
        {
            auto store = open();
            Measurement m;
            m.id = "m";
            m.runId = "SL-D01";
            const auto file = attach("a.csv", std::string("\0\xff,x\n", 5));
            m.fileHash = file.hash;
            QVERIFY(
                store->commit({"m", {put<Measurement>(std::nullopt, m)}}, "t", {file}).has_value());
            first = exportJob(*store)->text;
        }
        const QString other = folder_->filePath(QStringLiteral("other.burin"));
        auto again = importJob(first, "first.json", other, "t");
        QVERIFY2(again.has_value(), again ? "" : render(again.error(), {}).c_str());
        QCOMPARE(exportJob(**again)->text, first);
        // Written over is nothing; a bad text makes no file.
        QVERIFY(!importJob(first, "first.json", other, "t").has_value());
        const QString third = folder_->filePath(QStringLiteral("third.burin"));
        std::string newer = first;
        const std::string version = "\"version\": ";
        newer.replace(newer.find(version + std::to_string(formatVersion)), version.size() + 1,
                      version + std::to_string(formatVersion + 1));
        QVERIFY(!importJob(newer, "newer.json", third, "t").has_value());
        std::string broken = first;
        broken.replace(broken.find("\"base64\": \""), 14, "\"base64\": \"AAA");
        QVERIFY(!importJob(broken, "broken.json", third, "t").has_value());
        QVERIFY(!QFile::exists(third));
    }
};

QTEST_GUILESS_MAIN(TestJobStore)
#include "test_job_store.moc"
