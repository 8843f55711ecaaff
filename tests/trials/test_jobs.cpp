// Jobs with altered bytes and mutated imports: refused, or the very same; nothing half, nothing
// left.
#include "core/units/render.h"
#include "files/job_export.h"
#include "files/text_cursor.h"
#include "trials/trials.h"
#include <QDir>
#include <QElapsedTimer>
#include <QFile>
#include <QTemporaryDir>
#include <QTest>

using namespace burin;

class TestTrialsOfJobs : public QObject {
    Q_OBJECT
    QTemporaryDir folder_;
    std::string demo_;

    QString at(const QString& name) { return folder_.filePath(name); }
    static QByteArray bytesOf(const QString& path) {
        QFile file(path);
        return file.open(QIODevice::ReadOnly) ? file.readAll() : QByteArray();
    }
    static void write(const QString& path, const QByteArray& bytes) {
        QFile file(path);
        if (!file.open(QIODevice::WriteOnly) || file.write(bytes) != bytes.size())
            qFatal("cannot write %s", qPrintable(path));
    }

private slots:
    void initTestCase() {
        const auto text = readWholeFile(BURIN_SOURCE "/demo/kittiwake.json");
        QVERIFY(text.has_value());
        demo_ = *text;
    }

    void alteredBytes() {
        auto dice = trialDice();
        const QString path = at("good.burin");
        {
            auto made = importJob(demo_, "demo", path, "t");
            QVERIFY2(made.has_value(), made ? "" : render(made.error(), {}).c_str());
            // A logbook, so that undo has something to read.
            for (int i = 0; i < 30; ++i) {
                Run after = (*made)->job().runs[static_cast<std::size_t>(i)];
                after.note = "looked at " + std::to_string(i);
                QVERIFY(
                    (*made)
                        ->commit(
                            {"note",
                             {put(std::optional((*made)->job().runs[static_cast<std::size_t>(i)]),
                                  std::optional(after))}},
                            "t")
                        .has_value());
            }
        }
        const QByteArray good = bytesOf(path);
        Job whole;
        std::map<std::string, std::string> files;
        Job before;
        {
            auto store = JobStore::open(path, Access::ReadWrite);
            QVERIFY(store.has_value());
            whole = (*store)->job();
            const auto kept = (*store)->attachments();
            for (const auto& a : kept->files)
                files[a.hash] = a.bytes;
            QVERIFY(*(*store)->undo());
            before = (*store)->job();
        }
        int refused = 0;
        int served = 0;
        int undone = 0;
        const QString bad = at("bad.burin");
        const int most = rounds(2000, 150);
        for (int i = 0; i < most; ++i) {
            QByteArray bytes = good;
            const auto flips = 1 + upTo(dice, 5);
            for (std::size_t k = 0; k < flips; ++k) {
                // Half of them where the figures lie thickest, at the beginning.
                const auto span =
                    static_cast<std::size_t>(bytes.size()) / (upTo(dice, 1) == 0 ? 4 : 1);
                const auto place = static_cast<qsizetype>(upTo(dice, span - 1));
                if (upTo(dice, 9) == 0)
                    bytes.replace(place, 64, QByteArray(64, '\0'));
                else
                    bytes[place] = static_cast<char>(bytes[place] ^ (1 << upTo(dice, 7)));
            }
            bytes.truncate(good.size());
            write(bad, bytes);
            QElapsedTimer clock;
            clock.start();
            const bool writing = i % 4 == 0;
            auto store = JobStore::open(bad, writing ? Access::ReadWrite : Access::ReadOnly);
            if (!store) {
                ++refused;
                QVERIFY(!store.error().what.empty() && !store.error().cure.empty());
                QCOMPARE(bytesOf(bad), bytes); // refused, it is as it was
            } else {
                ++served;
                QVERIFY2((*store)->job() == whole, qPrintable(QString::number(i)));
                for (const auto& m : whole.measurements) {
                    if (m.fileHash.empty())
                        continue;
                    const auto file = (*store)->attachment(m.fileHash);
                    QVERIFY(!file || *file == files[m.fileHash]);
                }
                if (const auto all = (*store)->attachments())
                    QVERIFY(all->files.size() + all->missing.size() <= files.size() + 1);
                if (writing) {
                    const auto done = (*store)->undo();
                    undone += done && *done ? 1 : 0;
                    if (done && *done)
                        QVERIFY((*store)->job() == before);
                    else
                        QVERIFY((*store)->job() == whole);
                }
            }
            QVERIFY2(clock.elapsed() < 5000, qPrintable(QString::number(i)));
            store = refuse({});
            QFile::remove(bad);
            QFile::remove(bad + "-journal");
        }
        qInfo("%d altered: %d refused, %d served whole, %d undone", most, refused, served, undone);
        QVERIFY(refused > most / 10 && served > most / 20 && undone > 0);
    }

    void mutatedImports() {
        auto dice = trialDice();
        const QByteArray whole = QByteArray::fromStdString(demo_);
        // Most rounds go to a small job: in the demo a few bytes are mostly a measured file's.
        const QByteArray small = [&] {
            Job job;
            job.info.name = "Small";
            job.rooms = {Room{"r", "SL", "Sail loft", 0, 0}};
            Run run;
            run.id = "a";
            run.label = "SL-D01";
            run.roomId = "r";
            run.stretches = {{"tray", 20.25, 31, 4}};
            job.runs = {run};
            Measurement m;
            m.id = "m";
            m.runId = "a";
            m.entry = 1;
            job.measurements = {m};
            auto store = JobStore::create(at("small.burin"), job, {attach("a.csv", "MHz,x\n1,2\n")},
                                          "t", "t");
            return store ? QByteArray::fromStdString(exportJob(**store)->text) : QByteArray();
        }();
        QVERIFY(!small.isEmpty());
        QFile::remove(at("small.burin"));
        QFile::remove(at("good.burin"));
        QVERIFY(QDir(folder_.path()).isEmpty());
        int made = 0;
        int refused = 0;
        const int most = rounds(5000, 300);
        for (int i = 0; i < most; ++i) {
            QByteArray text = i % 10 == 0 ? whole : small;
            mutate(dice, text);
            QElapsedTimer clock;
            clock.start();
            const QString path = at("import.burin");
            auto store = importJob({text.constData(), static_cast<std::size_t>(text.size())},
                                   "import.json", path, "t");
            if (store) {
                ++made;
                const Job job = (*store)->job();
                store = refuse({});
                const auto again = JobStore::open(path, Access::ReadWrite);
                QVERIFY2(again.has_value(), again ? "" : render(again.error(), {}).c_str());
                QVERIFY((*again)->job() == job);
                QVERIFY(QFile::remove(path));
                QDir(at("import.pictures")).removeRecursively();
            } else {
                ++refused;
                const Fault fault = store.error();
                QVERIFY2(!fault.where.empty() && !fault.what.empty() && !fault.cure.empty(),
                         render(fault, {}).c_str());
            }
            const QStringList left =
                QDir(folder_.path())
                    .entryList(QDir::AllEntries | QDir::Hidden | QDir::NoDotAndDotDot);
            QVERIFY2(left.isEmpty(), qPrintable(left.join(' ')));
            QVERIFY2(clock.elapsed() < 5000, text.left(200).constData());
        }
        qInfo("%d imports: %d made, %d refused", most, made, refused);
        QVERIFY(made > most / 50 && refused > most / 10);
    }
};

QTEST_GUILESS_MAIN(TestTrialsOfJobs)
#include "test_jobs.moc"
