#include "files/job_store.h"
#include <QProcess>
#include <QRandomGenerator>
#include <QTemporaryDir>
#include <QTest>

using namespace burin;

/// Two hundred times an editing session is killed at a random moment: the file opens, is sound, and
/// holds at least every edit that was acknowledged, and none by halves.
class TestKill : public QObject {
    Q_OBJECT
private slots:
    void twoHundredKills() {
        QTemporaryDir folder;
        const QString path = folder.filePath(QStringLiteral("job.burin"));
        {
            auto store = JobStore::create(path, "kill");
            QVERIFY(store.has_value());
            Run run;
            run.id = "0";
            run.label = "A";
            run.order = -1;
            run.roomId = "r";
            run.note = "0";
            QVERIFY((*store)
                        ->commit({"start",
                                  {put<Room>(std::nullopt, Room{"r", "R", "R", 0, 0}),
                                   put<Run>(std::nullopt, run)}},
                                 "test")
                        .has_value());
        }
        QRandomGenerator random(20261123);
        int last = 0;
        int edits = 0;
        for (int i = 0; i < 200; ++i) {
            QProcess session;
            session.start(QStringLiteral(BURIN_BIN "/edit_session"), {path});
            QVERIFY(session.waitForStarted());
            // From before the file is open to many edits later.
            session.waitForFinished(static_cast<int>(random.bounded(5, 120)));
            session.kill();
            QVERIFY(session.waitForFinished());
            QVERIFY2(session.exitStatus() == QProcess::CrashExit,
                     session.readAllStandardError().constData());
            int acknowledged = last;
            const auto lines = session.readAllStandardOutput().split('\n');
            for (qsizetype k = 0; k + 1 < lines.size(); ++k)
                acknowledged = lines[k].split(' ').first().toInt();
            auto store = JobStore::open(path, Access::ReadWrite);
            QVERIFY2(store.has_value(), store ? "" : store.error().text().c_str());
            QVERIFY((*store)->sound());
            const Job& job = (*store)->job();
            const int kept = std::stoi(job.runs.front().note);
            QVERIFY2(
                kept >= acknowledged && kept <= acknowledged + 1,
                qPrintable(QStringLiteral("kept %1, acknowledged %2").arg(kept).arg(acknowledged)));
            QVERIFY((*store)
                        ->attachment(attach("f", "bytes " + std::to_string(kept)).hash)
                        .has_value() ||
                    kept == 0);
            edits += kept - last;
            last = kept;
        }
        QVERIFY2(edits > 200, qPrintable(QString::number(edits)));
        qInfo("200 kills, %d edits kept", edits);
    }
};

QTEST_GUILESS_MAIN(TestKill)
#include "test_kill.moc"
