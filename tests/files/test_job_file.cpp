#include "core/units/render.h"
#include "files/failing_sqlite.h"
#include "files/job_export.h"
#include "files/picture_folder.h"
#include "files/system_call.h"
#include <QDir>
#include <QFile>
#include <QFileInfo>
#include <QSqlDatabase>
#include <QSqlError>
#include <QSqlQuery>
#include <QTemporaryDir>
#include <QTest>
#include <fcntl.h>
#include <sys/mount.h>
#include <sys/stat.h>
#include <sys/wait.h>
#include <unistd.h>

using namespace burin;

namespace {

Edit addRoom(const std::string& id) {
    return {"add " + id, {put<Room>(std::nullopt, Room{id, id, "Room " + id, 0, 0})}};
}

QByteArray bytesOf(const QString& path) {
    QFile file(path);
    return file.open(QIODevice::ReadOnly) ? file.readAll() : QByteArray("unreadable");
}

bool has(const Fault& fault, const char* words) {
    return render(fault, {}).find(words) != std::string::npos;
}

} // namespace

/// What may happen to a job's file while it is open and while it is not: links, sync tools, full
/// and read-only disks, altered bytes. Nothing kept is lost, nothing altered is served, and it is
/// said.
class TestJobFile : public QObject {
    Q_OBJECT
    std::unique_ptr<QTemporaryDir> folder_;
    QString path_;

    QString at(const QString& name) { return folder_->filePath(name); }
    std::unique_ptr<JobStore> open(const QString& path, Access access = Access::ReadWrite) {
        auto store = JobStore::open(path, access);
        if (!store)
            QTest::qFail(render(store.error(), {}).c_str(), __FILE__, __LINE__);
        return store ? std::move(*store) : nullptr;
    }
    QStringList names() {
        return QDir(folder_->path())
            .entryList(QDir::AllEntries | QDir::Hidden | QDir::NoDotAndDotDot);
    }
    /// Runs one statement on the file behind Burin's back.
    void tamper(const QString& sql, const QVariantList& values = {}) {
        {
            auto db =
                QSqlDatabase::addDatabase(QStringLiteral("QSQLITE"), QStringLiteral("tamper"));
            db.setDatabaseName(path_);
            QVERIFY(db.open());
            QSqlQuery query(db);
            QVERIFY(query.prepare(sql));
            for (const auto& value : values)
                query.addBindValue(value);
            QVERIFY2(query.exec(), qPrintable(query.lastError().text()));
        }
        QSqlDatabase::removeDatabase(QStringLiteral("tamper"));
    }
    void copyHoldsEverything(JobStore& store, const QString& name, bool withLog) {
        const auto saved = store.saveCopy(at(name));
        QVERIFY2(saved.has_value(), saved ? "" : render(saved.error(), {}).c_str());
        auto copy = open(at(name));
        QVERIFY(copy->job() == store.job());
        QCOMPARE(copy->undoTitle().empty(), !withLog);
        QVERIFY(copy->commit(addRoom("after"), "t").has_value());
    }

private slots:
    void init() {
        folder_ = std::make_unique<QTemporaryDir>();
        path_ = at("job.burin");
        auto store = JobStore::create(path_, "Test");
        QVERIFY2(store.has_value(), store ? "" : render(store.error(), {}).c_str());
        QVERIFY((*store)->commit(addRoom("r"), "t").has_value());
        const auto file = attach("a.csv", "MHz,IL 1-2\n1,2\n");
        Run run;
        run.id = run.label = "R";
        run.roomId = "r";
        run.stretches = {{"tray", 10, 20, 0}};
        Measurement m;
        m.id = "m";
        m.runId = "R";
        m.fileName = file.name;
        m.fileHash = file.hash;
        m.entry = 1;
        QVERIFY(
            (*store)
                ->commit({"test", {put<Run>(std::nullopt, run), put<Measurement>(std::nullopt, m)}},
                         "t", {file})
                .has_value());
    }

    void theFileAloneIsTheJob() {
        auto store = open(path_);
        for (int i = 0; i < 5; ++i) {
            QVERIFY(store->commit(addRoom("n" + std::to_string(i)), "t").has_value());
            const QString copy = at("copy%1.burin").arg(i);
            QVERIFY(QFile::copy(path_, copy));
            QVERIFY(open(copy, Access::ReadOnly)->job() == store->job());
            QVERIFY(QFile::remove(copy));
            QCOMPARE(names(), QStringList{"job.burin"}); // no log, no index, no lock
        }
    }
    void oneWindowByWhateverName() {
        QVERIFY(QFile::link(path_, at("link.burin")));
        QVERIFY(::link(QFile::encodeName(path_), QFile::encodeName(at("hard.burin"))) == 0);
        for (const char* first : {"job.burin", "link.burin", "hard.burin"}) {
            auto one = open(at(first));
            for (const char* second : {"job.burin", "link.burin", "hard.burin"}) {
                const auto two = JobStore::open(at(second), Access::ReadWrite);
                QVERIFY(!two.has_value());
                QVERIFY2(has(two.error(), "open in another Burin"),
                         render(two.error(), {}).c_str());
                QVERIFY2(has(two.error(), std::to_string(::getpid()).c_str()),
                         render(two.error(), {}).c_str());
                QVERIFY(open(at(second), Access::ReadOnly)->job() == one->job());
            }
        }
        // A link keeps its pictures beside the job itself.
        QCOMPARE(open(at("link.burin"))->path(), QFileInfo(path_).canonicalFilePath());
    }
    void aPlantedLinkIsNotFollowed() {
        QFile precious(at("precious"));
        QVERIFY(precious.open(QIODevice::WriteOnly) && precious.write("mine") == 4);
        precious.close();
        for (const char* name : {"new.burin.lock", "new.burin", "new.burin-journal"}) {
            QVERIFY(QFile::link(at("precious"), at(name)));
            auto made = JobStore::create(at("new.burin"), "New");
            if (made)
                QVERIFY((*made)->commit(addRoom("x"), "t").has_value());
            made = refuse({});
            QCOMPARE(bytesOf(at("precious")), QByteArray("mine"));
            QFile::remove(at(name));
            QFile::remove(at("new.burin"));
        }
        QVERIFY(QFile::link(at("nowhere"), at("dangling.burin")));
        QVERIFY(!JobStore::create(at("dangling.burin"), "New").has_value());
        QVERIFY(!QFile::exists(at("nowhere")));
    }

    void changedWhileOpen_data() {
        QTest::addColumn<QString>("how");
        QTest::addColumn<QByteArray>("said");
        QTest::addColumn<bool>("withLog");
        QTest::newRow("removed") << "remove" << QByteArray("moved or removed") << true;
        QTest::newRow("renamed") << "rename" << QByteArray("moved or removed") << true;
        QTest::newRow("replaced") << "replace" << QByteArray("another file was put") << true;
        QTest::newRow("replaced by itself") << "same" << QByteArray("another file was put") << true;
        QTest::newRow("cut short") << "truncate" << QByteArray("cut short") << false;
        QTest::newRow("emptied") << "empty" << QByteArray("cut short") << false;
        QTest::newRow("written into") << "edit" << QByteArray("another program changed") << false;
    }
    void changedWhileOpen() {
        QFETCH(QString, how);
        QFETCH(QByteArray, said);
        QFETCH(bool, withLog);
        auto store = open(path_);
        const Job before = store->job();
        QVERIFY(store->isOnDisk().has_value());
        if (how == "remove")
            QVERIFY(QFile::remove(path_));
        else if (how == "rename")
            QVERIFY(QFile::rename(path_, at("elsewhere.burin")));
        else if (how == "replace" || how == "same") {
            QVERIFY(how == "same" ? QFile::copy(path_, at("new"))
                                  : JobStore::create(at("new"), "Other").has_value());
            QVERIFY(::rename(QFile::encodeName(at("new")), QFile::encodeName(path_)) == 0);
        } else if (how == "truncate")
            QVERIFY(QFile::resize(path_, QFileInfo(path_).size() / 2));
        else if (how == "empty")
            QVERIFY(QFile::resize(path_, 0));
        else
            tamper("UPDATE job SET name = 'Theirs'");
        const QByteArray theirs = bytesOf(path_);
        for (const auto& refused :
             {store->commit(addRoom("late"), "t"), store->undo(), store->isOnDisk()}) {
            QVERIFY(!refused.has_value());
            QVERIFY2(has(refused.error(), said.constData()), render(refused.error(), {}).c_str());
            QVERIFY(has(refused.error(), "Save a copy"));
        }
        QVERIFY(store->job() == before);
        QCOMPARE(bytesOf(path_), theirs); // nothing more is written there
        copyHoldsEverything(*store, "copy.burin", withLog);
        store.reset();
        QCOMPARE(bytesOf(path_), theirs);
        QVERIFY(!names().contains("job.burin-wal") && !names().contains("job.burin-journal"));
    }
    void theOneThatTookItsPlaceIsItsOwn() {
        auto first = open(path_);
        QVERIFY(QFile::copy(path_, at("new")));
        QVERIFY(::rename(QFile::encodeName(at("new")), QFile::encodeName(path_)) == 0);
        auto second = open(path_);
        QVERIFY(second->commit(addRoom("two"), "t").has_value());
        QVERIFY(!first->commit(addRoom("one"), "t").has_value());
        first.reset();
        QVERIFY(second->commit(addRoom("three"), "t").has_value());
        const Job expected = second->job();
        second.reset();
        QVERIFY(open(path_)->job() == expected);
    }
    void onAMediumForReadingAlone() {
        if (::geteuid() != 0)
            QSKIP("only root may mount one");
        const QByteArray folder = QFile::encodeName(at("medium"));
        QDir().mkpath(at("medium"));
        if (::mount("none", folder.constData(), "tmpfs", 0, "size=4m") != 0)
            QSKIP("no file system can be mounted here");
        const QString job = at("medium/a job?&#.burin");
        QVERIFY(QFile::copy(path_, job));
        // One kept by an older Burin, with a log, too.
        const QString old = at("medium/old.burin");
        QVERIFY(QFile::copy(BURIN_SOURCE "/tests/fixtures/job-v2.burin", old));
        QVERIFY(::mount("none", folder.constData(), "tmpfs", MS_REMOUNT | MS_RDONLY, "") == 0);
        QString said;
        {
            const auto reader = JobStore::open(job, Access::ReadOnly);
            const auto writer = JobStore::open(job, Access::ReadWrite);
            const auto older = JobStore::open(old, Access::ReadOnly);
            if (!reader || (*reader)->job().rooms.size() != 1)
                said = "it was not read: " +
                       QString::fromStdString(reader ? "" : render(reader.error(), {}));
            else if (!older)
                said = QString::fromStdString(render(older.error(), {}));
            else if ((*reader)->commit(addRoom("x"), "t"))
                said = "it took an edit";
            else if (const auto copy = (*reader)->saveCopy(at("copied.burin")); !copy)
                said = QString::fromStdString(render(copy.error(), {}));
            else if (writer || !has(writer.error(), "may not be written"))
                said = "it was opened for writing";
        }
        const auto left = QDir(at("medium")).entryList(QDir::Files | QDir::Hidden).size();
        ::umount(folder.constData());
        QVERIFY2(said.isEmpty(), qPrintable(said));
        QCOMPARE(left, 2);
        QVERIFY(open(at("copied.burin"))->commit(addRoom("x"), "t").has_value());
    }
    void namesThatSQLiteWouldTakeForAddresses() {
        const QString was = QDir::currentPath();
        QVERIFY(QDir::setCurrent(folder_->path()));
        const bool made = JobStore::create("file:x.burin", "X").has_value();
        const bool read = JobStore::open("file:x.burin", Access::ReadOnly).has_value();
        QDir::setCurrent(was);
        QVERIFY(made && read);
        QVERIFY(names().contains("file:x.burin"));
    }

    void aDiskThatFillsWhileOpen() {
        if (::geteuid() != 0)
            QSKIP("only root may mount a small file system");
        const QByteArray folder = QFile::encodeName(at("small"));
        QDir().mkpath(at("small"));
        if (::mount("none", folder.constData(), "tmpfs", 0, "size=400k") != 0)
            QSKIP("no file system can be mounted here");
        QString said = "never full";
        {
            auto store = JobStore::create(at("small/job.burin"), "Small");
            QVERIFY(store.has_value());
            for (int i = 0; i < 400; ++i) {
                const Job before = (*store)->job();
                const auto done = (*store)->commit(addRoom("room " + std::to_string(i)), "t",
                                                   {attach("f", std::string(3000 + i, 'x'))});
                if (done)
                    continue;
                said = QString::fromStdString(render(done.error(), {}));
                if (!((*store)->job() == before) || !(*store)->sound())
                    said = "the job is not as it was";
                break;
            }
            const Job kept = (*store)->job();
            store = refuse({});
            auto again = JobStore::open(at("small/job.burin"), Access::ReadOnly);
            if (!again || !((*again)->job() == kept))
                said = "it does not come back";
        }
        ::umount(folder.constData());
        QVERIFY2(said.contains("full"), qPrintable(said));
    }
    void everyCallOfSQLiteMayFail() {
        const FailingSQLite sqlite;
        int failed = 0;
        bool reached = true;
        for (int nth = 1; reached; ++nth) {
            const QString path = at("calls.burin");
            QFile::remove(path);
            QFile::remove(path + "-journal");
            auto store = JobStore::create(path, "Calls");
            QVERIFY(store.has_value());
            const Job before = (*store)->job();
            const auto done = FailingSQLite::during(nth, reached, [&] {
                return (*store)->commit(addRoom("r"), "t", {attach("f", "bytes")});
            });
            const Job after = (*store)->job();
            QCOMPARE(after.rooms.size(), done ? 1U : 0U);
            store = refuse({});
            auto again = open(path);
            // What was said to be kept is; what failed is there whole or not at all.
            QVERIFY2(again->job() == after || (!done && again->job().rooms.size() == 1),
                     qPrintable(QString::number(nth)));
            QVERIFY(again->sound());
            failed += done ? 0 : 1;
        }
        QVERIFY2(failed >= 4, qPrintable(QString::number(failed)));
    }
    void everyCallOfANewJobMayFail() {
        const FailingSQLite sqlite;
        const Job job = open(path_)->job();
        const auto file = attach("a.csv", "MHz,IL 1-2\n1,2\n");
        int failed = 0;
        bool reached = true;
        for (int nth = 1; reached; ++nth) {
            auto made = FailingSQLite::during(nth, reached, [&] {
                return JobStore::create(at("new.burin"), job, {file}, "made", "t");
            });
            if (made) {
                made = refuse({});
                QVERIFY(open(at("new.burin"))->job() == job);
                QVERIFY(QFile::remove(at("new.burin")));
            } else {
                ++failed;
                QVERIFY(!made.error().cure.empty());
                QCOMPARE(names(), QStringList{"job.burin"});
            }
            QFile::remove(at("new.burin-journal"));
        }
        QVERIFY2(failed >= 4, qPrintable(QString::number(failed)));
    }
    void everyCallOfACopyMayFail() {
        const FailingSQLite sqlite;
        auto store = open(path_);
        int failed = 0;
        bool reached = true;
        for (int nth = 1; reached; ++nth) {
            const auto saved = FailingSQLite::during(
                nth, reached, [&] { return store->saveCopy(at("copy.burin")); });
            if (saved) {
                QVERIFY(open(at("copy.burin"))->job() == store->job());
                QVERIFY(QFile::remove(at("copy.burin")));
            } else {
                ++failed;
                QCOMPARE(names(), QStringList{"job.burin"});
            }
            QVERIFY(store->isOnDisk().has_value());
        }
        QVERIFY2(failed >= 1, qPrintable(QString::number(failed)));
    }
    void madeReadOnlyWhileOpen() {
        if (::geteuid() != 0)
            QSKIP("asked as somebody else, which only root can become");
        // Root may write anywhere: ask as somebody else, in a process of its own.
        QVERIFY(::chown(QFile::encodeName(folder_->path()), 65534, 65534) == 0);
        QVERIFY(::chown(QFile::encodeName(path_), 65534, 65534) == 0);
        const pid_t child = ::fork();
        if (child == 0) {
            if (::setgid(65534) != 0 || ::setuid(65534) != 0)
                ::_exit(9);
            auto store = JobStore::open(path_, Access::ReadWrite);
            if (!store)
                ::_exit(8);
            ::chmod(QFile::encodeName(path_), 0444);
            const auto done = (*store)->commit(addRoom("late"), "t");
            ::_exit(done ? 1 : has(done.error(), "may not be written any more") ? 0 : 2);
        }
        int status = 0;
        ::waitpid(child, &status, 0);
        QCOMPARE(status, 0);
    }
    void everyCallOfAPictureMayFail() {
        Floor floor;
        floor.id = "f";
        const Attachment picture = attach("plan.png", "bytes of a picture");
        floor.picture = FloorPicture{picture.hash, picture.name, 0, 100, 50, 0.1, {}};
        int failed = 0;
        for (int nth = 1; nth < 50; ++nth) {
            auto store = open(path_);
            int seen = 0;
            detail::failCall = [&](const char*) { return ++seen == nth ? ENOSPC : 0; };
            const auto done =
                store->commit({"floor", {put<Floor>(std::nullopt, floor)}}, "t", {picture});
            detail::failCall = nullptr;
            if (done) {
                QVERIFY(picturePath(path_, picture.hash).has_value());
                break;
            }
            ++failed;
            QVERIFY(store->job().floors.empty());
            QVERIFY(has(done.error(), "full") || has(done.error(), "did not confirm"));
        }
        QCOMPARE(failed, 6);
        // An edit that is refused takes no picture along.
        auto store = open(path_);
        const Attachment other = attach("other.png", "other bytes");
        floor.picture->hash = other.hash;
        QVERIFY(!store->commit({"floor", {put<Floor>(std::nullopt, floor)}}, "t", {other}));
        QVERIFY(!picturePath(path_, other.hash).has_value());
    }

    void aFailedImportLeavesNothing() {
        std::string text = exportJob(*open(path_))->text;
        const auto broken = [&](const char* what, const char* by) {
            std::string out = text;
            const auto found = out.find(what);
            return found == std::string::npos ? std::string()
                                              : out.replace(found, strlen(what), by);
        };
        for (const std::string& bad :
             {broken("\"id\": \"job\"", "\"id\": \"my-job\""),
              broken("\"roomId\": \"r\"", "\"roomId\": \"q\""),
              broken("\"burin-job\"", "\"other\""), broken("\"label\": \"R\"", "\"label\": \"\""),
              broken("\"hash\": \"", "\"hash\": \"0"), std::string("{"), std::string()}) {
            const auto made = importJob(bad, "bad.json", at("made.burin"), "t");
            QVERIFY(!made.has_value());
            QVERIFY(!made.error().cure.empty());
            QCOMPARE(names(), QStringList{"job.burin"});
        }
        QVERIFY(has(
            importJob(broken("\"id\": \"job\"", "\"id\": \"my-job\""), "x", at("y"), "t").error(),
            "my-job"));
        // Nor does one the disk has no room for, with pictures.
        int seen = 0;
        detail::failCall = [&](const char* call) {
            return std::string_view(call) == "rename" && ++seen == 2 ? ENOSPC : 0;
        };
        Job job;
        std::vector<Attachment> files;
        for (const char* name : {"one.png", "two.png"}) {
            files.push_back(attach(name, name));
            Floor floor;
            floor.id = name;
            floor.picture = FloorPicture{files.back().hash, name, 0, 100, 50, 0.1, {}};
            job.floors.push_back(floor);
        }
        const auto made = JobStore::create(at("made.burin"), job, files, "import", "t");
        detail::failCall = nullptr;
        QVERIFY(!made.has_value());
        QCOMPARE(names(), QStringList{"job.burin"});
        const auto good = importJob(text, "good.json", at("made.burin"), "t");
        QVERIFY(good.has_value());
        QVERIFY((*good)->undoTitle().empty()); // the job begins with it
        QCOMPARE((*good)->log()->size(), 1U);
    }

    void alteredFiguresAreNotServed_data() {
        QTest::addColumn<QString>("sql");
        QTest::newRow("length") << "UPDATE run_stretch SET length_m = 10.5";
        QTest::newRow("label") << "UPDATE run SET label = 'S'";
        QTest::newRow("a run less") << "DELETE FROM run_stretch";
        QTest::newRow("a test less") << "DELETE FROM measurement";
        QTest::newRow("limits") << "UPDATE job SET limit_set = 'tia'";
        QTest::newRow("accuracy")
            << "UPDATE job SET accuracy_json = replace(accuracy_json, '0.5', '0.6')";
        QTest::newRow("a room more") << "INSERT INTO room VALUES ('q', 'Q', 'Q', 0, 0, NULL, NULL)";
        QTest::newRow("seal") << "DELETE FROM seal WHERE kind = 'run'";
        QTest::newRow("no seals") << "DROP TABLE seal";
        QTest::newRow("no log") << "DROP TABLE edit_log";
        QTest::newRow("whose line") << "UPDATE edit_log SET merged_by = 'x' WHERE sequence = 2";
        QTest::newRow("a line's seal") << "UPDATE edit_log SET seal = 'x' WHERE sequence = 2";
        QTest::newRow("a line's edit gone") << "DELETE FROM edit_body WHERE sequence = 2";
        QTest::newRow("a line less") << "DELETE FROM edit_log WHERE sequence = 2";
        QTest::newRow("no edits") << "DROP TABLE edit_body";
        QTest::newRow("no files") << "DROP TABLE attachment";
        QTest::newRow("no runs") << "DROP TABLE run";
        QTest::newRow("a stray row") << "UPDATE run_stretch SET run_id = 'gone'";
    }
    void alteredFiguresAreNotServed() {
        QFETCH(QString, sql);
        tamper(sql);
        for (const auto access : {Access::ReadOnly, Access::ReadWrite}) {
            const auto store = JobStore::open(path_, access);
            QVERIFY(!store.has_value());
            QVERIFY2(has(store.error(), "Restore it from a copy"),
                     render(store.error(), {}).c_str());
        }
    }
    void aDamagedMeasuredFileIsNamed() {
        tamper("UPDATE attachment SET bytes = replace(bytes, '2', '9')");
        auto store = open(path_);
        const auto& m = store->job().measurements.front();
        const auto file = readMeasurementFile(*store, m);
        QVERIFY(!file.has_value());
        QVERIFY2(has(file.error(), "damaged"), render(file.error(), {}).c_str());
        const auto exported = exportJob(*store);
        QVERIFY(exported.has_value());
        QCOMPARE(exported->missing.size(), 1U);
        QVERIFY(has(exported->missing.front(), "a.csv"));
        const auto saved = store->saveCopy(at("copy.burin"));
        QVERIFY(saved.has_value() && saved->size() == 1);
    }
    void aBrokenLineOfTheLogIsSaid_data() {
        QTest::addColumn<QString>("sql");
        QTest::newRow("no JSON") << "UPDATE edit_body SET edit_json = '{' WHERE sequence = 3";
        QTest::newRow("altered")
            << "UPDATE edit_body SET edit_json = replace(edit_json, '10.0', '11.0')";
        QTest::newRow("other time") << "UPDATE edit_log SET at = '1999-01-01T00:00:00.000Z'";
        QTest::newRow("empty") << "UPDATE edit_body SET edit_json = ''";
    }
    void aBrokenLineOfTheLogIsSaid() {
        QFETCH(QString, sql);
        tamper(sql);
        auto store = open(path_);
        const Job before = store->job();
        const auto undone = store->undo();
        QVERIFY(!undone.has_value());
        QVERIFY2(has(undone.error(), "logbook"), render(undone.error(), {}).c_str());
        QVERIFY(store->job() == before);
        QVERIFY(store->commit(addRoom("on"), "t").has_value()); // work goes on
    }
    void aTableThatGoesWhileOpenEndsInAMessage() {
        auto store = open(path_);
        QVERIFY(QFile::resize(path_, 5000));
        // Nothing or what it was: never a half of it.
        QVERIFY(store->undoTitle().empty() || store->undoTitle() == "test");
        const auto exported = exportJob(*store);
        const auto log = store->log();
        const auto undone = store->undo();
        QVERIFY(!exported.has_value() || !exported->missing.empty());
        QVERIFY(!undone.has_value());
        QVERIFY(!log.has_value() || !log->empty());
        QVERIFY(!store->attachment("x").has_value());
    }
    void theOrderOfTestsIsThatOfTheirEntry() {
        auto store = open(path_);
        const auto add = [&](const char* id, const char* when, int entry) {
            Measurement m;
            m.id = id;
            m.runId = "R";
            m.takenAt = when;
            m.entry = entry;
            QVERIFY(store->commit({"m", {put<Measurement>(std::nullopt, m)}}, "t").has_value());
        };
        add("repair", "2026-11-25T09:30:00Z", 3);
        add("fault", "2026-11-25T10:00:00+01:00", 2);
        add("older", "2026-11-25T12:00:00+03:00", 0);
        add("old", "2026-11-25T08:00:00Z", 0);
        std::string order;
        for (const auto& m : store->job().measurements)
            order += m.id + " ";
        QCOMPARE(order, std::string("old older m fault repair "));
        store.reset();
        std::string again;
        store = open(path_);
        for (const auto& m : store->job().measurements)
            again += m.id + " ";
        QCOMPARE(again, order);
    }
};

QTEST_GUILESS_MAIN(TestJobFile)
#include "test_job_file.moc"
