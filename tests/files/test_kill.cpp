#include "core/units/render.h"
#include "files/job_store.h"
#include "files/picture_folder.h"
#include "trials/trials.h"
#include <QElapsedTimer>
#include <QProcess>
#include <QRandomGenerator>
#include <QTemporaryDir>
#include <QTest>
#include <QThread>
#include <set>

using namespace burin;

/// Two hundred times, a thousand with BURIN_TRIALS=all, an editing session is killed at a random
/// moment: the file opens, is sound, and
/// holds at least every edit that was acknowledged, and none by halves: runs, plan and pictures.
class TestKill : public QObject {
    Q_OBJECT
    static void begin(const QString& path) {
        auto store = JobStore::create(path, "kill");
        QVERIFY(store.has_value());
        Run run;
        run.id = "0";
        run.label = "A";
        run.order = -1;
        run.roomId = "r";
        run.note = "0";
        run.far.placeId = "o";
        Floor floor;
        floor.id = "f";
        Box box;
        box.id = "b";
        box.heldM = 1e6; // every mark there can be
        Place outlet;
        outlet.id = "o";
        outlet.floorId = "f";
        QVERIFY((*store)
                    ->commit({"start",
                              {put<Room>(std::nullopt, Room{"r", "R", "R", 0, 0}),
                               put<Floor>(std::nullopt, floor), put<Box>(std::nullopt, box),
                               put<Place>(std::nullopt, outlet), put<Run>(std::nullopt, run)}},
                             "test")
                    .has_value());
    }

private slots:
    void aReaderBesideAWriterSeesWholeEdits() {
        QTemporaryDir folder;
        const QString path = folder.filePath(QStringLiteral("job.burin"));
        begin(path);
        QProcess session;
        session.start(QStringLiteral(BURIN_BIN "/edit_session"), {path});
        QVERIFY(session.waitForStarted() && session.waitForReadyRead(60000));
        std::set<int> seen;
        for (int i = 0; i < 60; ++i) {
            auto reader = JobStore::open(path, Access::ReadOnly);
            // A machine with much else to do may not come to it: that is said, and no damage.
            while (!reader && reader.error().code() == jobIsBusy.key)
                reader = JobStore::open(path, Access::ReadOnly);
            QVERIFY2(reader.has_value(), reader ? "" : render(reader.error(), {}).c_str());
            const Job& job = (*reader)->job();
            // The note and the place were written by one edit.
            const int note = std::stoi(job.runs.front().note);
            QCOMPARE(job.places.back().at.xM, static_cast<double>(note));
            QCOMPARE(job.runs.front().piece.startMark.value_or(0), note % 9000);
            QCOMPARE(nextEntry(job.terminations) - 1, note);
            seen.insert(note);
        }
        QCOMPARE(session.state(), QProcess::Running); // and the writer was not stopped by them
        session.kill();
        session.waitForFinished();
        QVERIFY2(seen.size() > 10, qPrintable(QString::number(seen.size())));
    }
    void killedAtRandomMoments() {
        const int kills = rounds(1000, 200);
        QTemporaryDir folder;
        const QString path = folder.filePath(QStringLiteral("job.burin"));
        begin(path);
        QRandomGenerator random(20261123);
        int last = 0;
        int edits = 0;
        int slowestMs = 20;
        for (int i = 0; i < kills; ++i) {
            QByteArray heard;
            QProcess session;
            session.start(QStringLiteral(BURIN_BIN "/edit_session"), {path});
            QVERIFY(session.waitForStarted());
            // From before the file is open to some edits later, however slow the machine: after so
            // many edits as were said, and a moment that may fall into the next.
            QElapsedTimer clock;
            clock.start();
            int said = static_cast<int>(random.bounded(4));
            if (said == 0)
                session.waitForFinished(static_cast<int>(random.bounded(slowestMs)));
            while (said-- > 0) {
                QVERIFY(session.canReadLine() || session.waitForReadyRead(60000));
                heard += session.readLine();
                slowestMs = std::max(slowestMs, static_cast<int>(clock.restart()));
            }
            QThread::usleep(random.bounded(4000));
            session.kill();
            QVERIFY(session.waitForFinished());
            QVERIFY2(session.exitStatus() == QProcess::CrashExit,
                     session.readAllStandardError().constData());
            int acknowledged = last;
            const auto lines = (heard + session.readAllStandardOutput()).split('\n');
            for (qsizetype k = 0; k + 1 < lines.size(); ++k)
                acknowledged = lines[k].split(' ').first().toInt();
            auto store = JobStore::open(path, Access::ReadWrite);
            QVERIFY2(store.has_value(), store ? "" : render(store.error(), {}).c_str());
            QVERIFY((*store)->sound());
            const Job& job = (*store)->job();
            const int kept = std::stoi(job.runs.front().note);
            QVERIFY2(
                kept >= acknowledged && kept <= acknowledged + 1,
                qPrintable(QStringLiteral("kept %1, acknowledged %2").arg(kept).arg(acknowledged)));
            // The file of the last edit is whole, in the job or, pinned to the plan, beside it.
            const std::string hash = attach("f", "bytes " + std::to_string(kept)).hash;
            QVERIFY(kept == 0 || (*store)->attachment(hash).has_value() ||
                    picturePath(path, hash).has_value());
            QCOMPARE(job.places.back().at.xM, static_cast<double>(kept));
            QCOMPARE(job.runs.front().piece.startMark.value_or(0), kept % 9000);
            QCOMPARE(job.terminations.size(), static_cast<std::size_t>(kept));
            for (const auto& photo : job.photographs) {
                const auto picture = picturePath(path, photo.hash);
                QVERIFY2(picture.has_value(), picture ? "" : render(picture.error(), {}).c_str());
            }
            edits += kept - last;
            last = kept;
        }
        QVERIFY2(edits > 200, qPrintable(QString::number(edits)));
        qInfo("%d kills, %d edits kept, slowest %d ms", kills, edits, slowestMs);
    }
};

QTEST_GUILESS_MAIN(TestKill)
#include "test_kill.moc"
