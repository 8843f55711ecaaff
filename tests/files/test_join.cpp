#include "core/catalogue/catalogue.h"
#include "core/edit/clashes.h"
#include "core/edit/pull_edit.h"
#include "core/random_job.h"
#include "core/units/render.h"
#include "files/failing_sqlite.h"
#include "files/job_export.h"
#include "files/picture_folder.h"
#include <QDir>
#include <QFile>
#include <QTemporaryDir>
#include <QTest>
#include <set>

using namespace burin;

namespace {

std::string figures() {
    static const std::string text = [] {
        auto catalogue = loadCatalogue(BURIN_CATALOGUE);
        return catalogue ? writeCable(*catalogue->cable("coax-s6")) : std::string();
    }();
    return text;
}

} // namespace

/// Copies of a job as files: what each holds is on the disk as in memory, they are joined with all
/// their files, and whatever fails on the way leaves them as they were.
class TestJoin : public QObject {
    Q_OBJECT
    std::unique_ptr<QTemporaryDir> folder_;

    QString at(const QString& name) { return folder_->filePath(name); }
    std::unique_ptr<JobStore> open(const QString& name, Access access = Access::ReadWrite) {
        auto store = JobStore::open(at(name), access);
        if (!store)
            QTest::qFail(render(store.error(), {}).c_str(), __FILE__, __LINE__);
        return store ? std::move(*store) : nullptr;
    }
    void copyFile(const QString& from, const QString& to) {
        QFile::remove(at(to));
        QVERIFY(QFile::copy(from, at(to)));
        QFile::setPermissions(at(to), QFile::ReadOwner | QFile::WriteOwner);
    }
    template <typename Change> void editRun(JobStore& store, Change change) {
        const Run before = store.job().runs.front();
        Run after = before;
        change(after);
        const auto done =
            store.commit({"edit", {put(std::optional(before), std::optional(after))}}, "t");
        QVERIFY2(done.has_value(), done ? "" : render(done.error(), {}).c_str());
    }

    void writeEveryField(const QString& path) {
        RandomEditor editor(11, figures());
        auto store = open("mine.burin");
        for (int round = 0; round < 5; ++round)
            for (std::size_t k = 1; k < kindCount; ++k)
                for (int tries = 0; tries < 9; ++tries)
                    if (const auto row = editor.row(store->job(), static_cast<Kind>(k), true))
                        if (store->commit({"row", {Changes{*row}}}, "t"))
                            break;
        for (int i = 0; i < 400; ++i)
            if (const auto change = editor.set(store->job(), Kind::Job, "job"))
                QVERIFY(store->commit({"set", {Changes{*change}}}, "t"));
        QFile file(path);
        QVERIFY(file.open(QIODevice::WriteOnly));
        file.write(QByteArray::fromStdString(exportJob(*store)->text));
    }

private slots:
    void init() {
        folder_ = std::make_unique<QTemporaryDir>();
        auto made = JobStore::create(at("mine.burin"), "Kittiwake Wharf");
        QVERIFY(made.has_value());
        Run run;
        run.id = "run";
        run.label = "SL-D01";
        run.roomId = "r";
        run.stretches = {{"tray", 40, 20, 0}};
        QVERIFY((*made)->commit({"room", {put<Room>(std::nullopt, Room{"r", "SL", "Sail loft"})}},
                                "t"));
        QVERIFY((*made)->commit({"run", {put<Run>(std::nullopt, run)}}, "t"));
    }
    /// A photograph here, a test there; an end here, the other there.
    void filesAndPicturesComeAlong() {
        copyFile(at("mine.burin"), "theirs.burin");
        auto mine = open("mine.burin");
        {
            auto theirs = open("theirs.burin");
            const auto file = attach("a.csv", "MHz,IL 1-2\n1,2\n");
            Measurement m;
            m.id = "m";
            m.runId = "run";
            m.fileName = file.name;
            m.fileHash = file.hash;
            m.entry = 1;
            QVERIFY(theirs->commit({"test", {put<Measurement>(std::nullopt, m)}}, "them", {file}));
            const auto picture = attach("wall.png", "bytes of a picture");
            Photograph photo;
            photo.id = "p";
            photo.hash = picture.hash;
            photo.name = picture.name;
            QVERIFY(theirs->commit({"photo", {put<Photograph>(std::nullopt, photo)}}, "them",
                                   {picture}));
            editRun(*theirs, [](Run& r) { r.far.text = "bench, left"; });
        }
        editRun(*mine, [](Run& r) { r.near.text = "Panel A 7"; });
        const Job before = mine->job();
        const auto theirs = open("theirs.burin", Access::ReadOnly);
        auto report = mine->join(*theirs, "t");
        QVERIFY2(report.has_value(), report ? "" : render(report.error(), {}).c_str());
        QCOMPARE(report->steps, 3U);
        QVERIFY(mine->job().conflicts.empty() && report->missing.empty());
        const Job joined = mine->job();
        QCOMPARE(joined.runs[0].near.text, std::string("Panel A 7"));
        QCOMPARE(joined.runs[0].far.text, std::string("bench, left"));
        QVERIFY(mine->attachment(joined.measurements.at(0).fileHash).has_value());
        QVERIFY(picturePath(at("mine.burin"), joined.photographs.at(0).hash).has_value());
        const auto log = *mine->log();
        QVERIFY(log[0].what == LogEntry::What::Joined && !log[0].brought);
        QVERIFY(log[1].brought && log[1].who == "t" && log[2].who == "them");
        // Once more brings nothing; undo is one step; all of it is on the disk.
        QCOMPARE(mine->join(*theirs, "t")->steps, 0U);
        QVERIFY(*mine->undo("t"));
        QVERIFY(mine->job() == before);
        mine.reset();
        mine = open("mine.burin");
        QVERIFY(mine->job() == before);
        QVERIFY(*mine->redo("t"));
        QVERIFY(mine->job() == joined);
        QVERIFY(mine->sound());
        // The other way round comes to the same job.
        auto other = open("theirs.burin");
        copyFile(at("mine.burin"), "again.burin");
        QVERIFY(other->join(*open("again.burin", Access::ReadOnly), "t").has_value());
        QCOMPARE(toJson(other->job()).dump(), toJson(joined).dump());
    }
    void anotherJobIsRefused() {
        auto mine = open("mine.burin");
        const Job before = mine->job();
        auto other = JobStore::create(at("other.burin"), "Kittiwake Wharf");
        const auto report = mine->join(**other, "t");
        QVERIFY(!report.has_value());
        QVERIFY(render(report.error(), {}).find("another job") != std::string::npos);
        QVERIFY(mine->job() == before);
    }
    /// Marks of two pulls, each typed on a laptop of its own.
    void marksOfTwoPullsJoin() {
        {
            auto mine = open("mine.burin");
            Box box;
            box.id = box.name = "A1";
            box.cableId = "cat6-utp";
            box.freeMark = 100;
            Run other = mine->job().runs.front();
            other.id = "other";
            other.label = "SL-D02";
            for (auto& stretch : other.stretches)
                stretch.id.clear();
            QVERIFY(mine->commit({"box", {put<Box>(std::nullopt, box)}}, "t"));
            QVERIFY(mine->commit({"run", {put<Run>(std::nullopt, other)}}, "t"));
        }
        copyFile(at("mine.burin"), "theirs.burin");
        auto mine = open("mine.burin");
        auto theirs = open("theirs.burin");
        const auto type = [](JobStore& store, const std::string& run, TypedMarks marks) {
            const Edit edit =
                markedEdit(store.job(), {store.job().run(run)->pullId, {run}, {"A1"}}, run, marks);
            const auto done = store.commit(edit, "t");
            QVERIFY2(done.has_value(), done ? "" : render(done.error(), {}).c_str());
        };
        type(*mine, "run", {"A1", 100, std::nullopt, ""});
        type(*theirs, "other", {"A1", 240, 380, "2026-11-26"});
        type(*mine, "run", {"A1", 100, 238, "2026-11-26"});
        const auto report = mine->join(*theirs, "t");
        QVERIFY2(report.has_value(), report ? "" : render(report.error(), {}).c_str());
        QVERIFY(mine->job().conflicts.empty());
        QVERIFY(clashesOf(mine->job()).empty());
        QCOMPARE(mine->job().pulls.size(), std::size_t(2));
        QCOMPARE(*mine->job().run("run")->piece.endMark, 238);
        QCOMPARE(*mine->job().run("other")->piece.endMark, 380);
        // Two that cannot both be are left, and found.
        type(*mine, "run", {"A1", std::nullopt, std::nullopt, ""});
        type(*theirs, "run", {"A1", 100, 200, ""});
        type(*mine, "run", {"A1", 400, 520, ""});
        QVERIFY(mine->join(*theirs, "t").has_value());
        QVERIFY(!mine->job().conflicts.empty());
    }
    void copiesMadeBeforeTheUpgradeStillJoin_data() {
        QTest::addColumn<QString>("fixture");
        for (const char* name : {"job-v1", "job-v2", "job-v3", "job-v4", "job-v5", "job-v6"})
            QTest::newRow(name)
                << QStringLiteral(BURIN_SOURCE "/tests/fixtures/%1.burin").arg(QLatin1String(name));
    }
    void copiesMadeBeforeTheUpgradeStillJoin() {
        QFETCH(QString, fixture);
        for (const char* suffix : {"", "-wal"}) {
            const QString part = fixture + QLatin1String(suffix);
            if (!QFile::exists(part))
                continue;
            copyFile(part, QStringLiteral("a.burin") + QLatin1String(suffix));
            copyFile(part, QStringLiteral("b.burin") + QLatin1String(suffix));
        }
        auto a = open("a.burin");
        auto b = open("b.burin");
        QVERIFY(a->job() == b->job());
        QVERIFY(a->log()->size() == b->log()->size() && !a->log()->empty());
        editRun(*a, [](Run& r) { r.near.text = "here"; });
        editRun(*b, [](Run& r) { r.far.text = "there"; });
        editRun(*b, [](Run& r) { r.stretches.push_back({"drop", 4, 20, 0}); });
        const auto report = a->join(*b, "t");
        QVERIFY2(report.has_value(), report ? "" : render(report.error(), {}).c_str());
        QCOMPARE(report->steps, 2U);
        QVERIFY(a->job().conflicts.empty());
        QCOMPARE(a->job().runs.front().near.text, std::string("here"));
        QCOMPARE(a->job().runs.front().far.text, std::string("there"));
        QCOMPARE(a->job().runs.front().lengthM(), b->job().runs.front().lengthM());
    }
    /// Every kind with every field: what is in memory is on the disk, through edits, steps back and
    /// forth, joining, and an export.
    void everyRowOfEveryKindIsOnTheDisk() {
        for (unsigned seed = 1; seed <= 4; ++seed) {
            RandomEditor editor(seed, figures());
            copyFile(at("mine.burin"), "a.burin");
            auto a = open("a.burin");
            for (int i = 0; i < 120; ++i) {
                const int what = editor.upTo(9);
                if (what == 0)
                    QVERIFY(a->undo("t").has_value());
                else if (what == 1)
                    QVERIFY(a->redo("t").has_value());
                else
                    QVERIFY(a->commit(editor.next(a->job()), "t").has_value());
                if (i == 60) {
                    a.reset();
                    copyFile(at("a.burin"), "b.burin");
                    a = open("a.burin");
                }
            }
            auto b = open("b.burin");
            for (int i = 0; i < 30; ++i)
                QVERIFY(b->commit(editor.next(b->job()), "t").has_value());
            const auto report = a->join(*b, "t");
            QVERIFY2(report.has_value(), report ? "" : render(report.error(), {}).c_str());
            const Job kept = a->job();
            a.reset();
            auto again = open("a.burin", Access::ReadOnly);
            QVERIFY2(again->job() == kept, qPrintable(QString::number(seed)));
            const auto text = exportJob(*again)->text;
            QFile::remove(at("c.burin"));
            auto imported = importJob(text, "x.json", at("c.burin"), "t");
            QVERIFY2(imported.has_value(), imported ? "" : render(imported.error(), {}).c_str());
            const std::string was = toJson(kept).dump();
            const std::string is = toJson((*imported)->job()).dump();
            const auto at = std::size_t(
                std::mismatch(was.begin(), was.end(), is.begin(), is.end()).first - was.begin());
            QVERIFY2((*imported)->job() == kept,
                     (was.substr(at < 80 ? 0 : at - 80, 200) + "\nand not\n" +
                      is.substr(at < 80 ? 0 : at - 80, 200))
                         .c_str());
        }
    }
    /// One full row of a kind, alone: no field may be lost between memory, disk and export.
    void noFieldIsLost() {
        RandomEditor editor(7, figures());
        std::set<Kind> seen;
        for (int round = 0; round < 40; ++round) {
            auto store = open("mine.burin");
            for (std::size_t k = 1; k + 1 < kindCount; ++k) {
                const auto kind = static_cast<Kind>(k);
                const auto row = editor.row(store->job(), kind, true);
                if (!row || !store->commit({"row", {Changes{*row}}}, "t"))
                    continue;
                seen.insert(kind);
                const Json json = objectOf(tableOf(kind).fields,
                                           rowAt(store->job(), kind, row->id).row, Owned::Without);
                for (const auto& field : tableOf(kind).fields)
                    QVERIFY2(field.shape == Shape::Children || field.flat ||
                                 json.contains(field.name) || field.name == "atM" ||
                                 (!field.refers.empty() && round == 0) || field.name == "wiring",
                             (std::string(tableOf(kind).name()) + "." + field.name).c_str());
            }
            const Job kept = store->job();
            store.reset();
            QVERIFY(open("mine.burin", Access::ReadOnly)->job() == kept);
        }
        QCOMPARE(seen.size(), kindCount - 2); // all but the job's own row and conflicts
    }
    /// An export that has every field of every kind, made once: what is lost on any way, or not
    /// known any more, is missed.
    void everyFieldOfAnExportComesBack() {
        const QString path = QStringLiteral(BURIN_SOURCE "/tests/fixtures/every-field.json");
        if (qEnvironmentVariableIsSet("BURIN_WRITE_FIXTURE"))
            writeEveryField(path);
        QFile file(path);
        QVERIFY(file.open(QIODevice::ReadOnly));
        const std::string text = file.readAll().toStdString();
        for (std::size_t k = 0; k < kindCount; ++k)
            for (const auto& field : tableOf(static_cast<Kind>(k)).fields)
                QVERIFY2(field.flat || text.find('"' + field.name + '"') != std::string::npos,
                         field.name.c_str());
        auto made = importJob(text, "every-field.json", at("every.burin"), "t");
        QVERIFY2(made.has_value(), made ? "" : render(made.error(), {}).c_str());
        made = refuse({});
        const auto store = open("every.burin", Access::ReadOnly);
        QVERIFY(store != nullptr);
        QVERIFY2(exportJob(*store)->text == text, "the export is not what was imported");
    }
    void everyCallOfJoiningMayFail() {
        const FailingSQLite sqlite;
        copyFile(at("mine.burin"), "theirs.burin");
        {
            auto theirs = open("theirs.burin");
            editRun(*theirs, [](Run& r) { r.note = "theirs"; });
            auto mine = open("mine.burin");
            editRun(*mine, [](Run& r) { r.note = "mine"; });
        }
        QVERIFY(QFile::rename(at("mine.burin"), at("kept.burin")));
        int failed = 0;
        bool reached = true;
        for (int nth = 1; reached; ++nth) {
            copyFile(at("kept.burin"), "mine.burin");
            QFile::remove(at("mine.burin-journal"));
            auto mine = open("mine.burin");
            const auto theirs = open("theirs.burin", Access::ReadOnly);
            const Job before = mine->job();
            const auto report =
                FailingSQLite::during(nth, reached, [&] { return mine->join(*theirs, "t"); });
            const Job after = mine->job();
            QVERIFY(report ? after.conflicts.size() == 1 : after == before);
            mine.reset();
            auto again = open("mine.burin");
            QVERIFY2(again->job() == after || (!report && again->job().conflicts.size() == 1),
                     qPrintable(QString::number(nth)));
            QVERIFY(again->sound());
            failed += report ? 0 : 1;
        }
        QVERIFY2(failed >= 4, qPrintable(QString::number(failed)));
    }
    void everyCallOfTakingBackMayFail() {
        const FailingSQLite sqlite;
        auto store = open("mine.burin");
        editRun(*store, [](Run& r) { r.note = "twice"; });
        const Job edited = store->job();
        QVERIFY(*store->undo("t"));
        const Job before = store->job();
        int failed = 0;
        bool reached = true;
        for (int nth = 1; reached; ++nth) {
            // Back and forth: each of them fails once in each of its calls.
            const bool back = store->job() == edited;
            const auto done = FailingSQLite::during(
                nth, reached, [&] { return back ? store->undo("t") : store->redo("t"); });
            QVERIFY(store->job() == (back == done.has_value() ? before : edited));
            QVERIFY(open("mine.burin", Access::ReadOnly)->job() == store->job());
            failed += done ? 0 : 1;
            if (done && !back)
                QVERIFY(*store->undo("t"));
        }
        QVERIFY2(failed >= 4, qPrintable(QString::number(failed)));
        QVERIFY(store->sound());
    }
    /// Opening a job of an older Burin writes all of it anew: it is the old file or the new one.
    void everyCallOfAnUpgradeMayFail() {
        const FailingSQLite sqlite;
        const QString fixture = QStringLiteral(BURIN_SOURCE "/tests/fixtures/job-v5.burin");
        copyFile(fixture, "old.burin");
        const Job job = open("old.burin", Access::ReadOnly)->job();
        int failed = 0;
        bool reached = true;
        for (int nth = 1; reached; ++nth) {
            copyFile(fixture, "old.burin");
            QFile::remove(at("old.burin-journal"));
            auto store = FailingSQLite::during(
                nth, reached, [&] { return JobStore::open(at("old.burin"), Access::ReadWrite); });
            failed += store ? 0 : 1;
            store = refuse({});
            auto again = open("old.burin");
            QVERIFY2(again != nullptr && again->job() == job, qPrintable(QString::number(nth)));
            QVERIFY(again->undo("t").has_value());
        }
        QVERIFY2(failed >= 4, qPrintable(QString::number(failed)));
    }
};

QTEST_GUILESS_MAIN(TestJoin)
#include "test_join.moc"
