#include "core/units/render.h"
#include "files/job_store.h"
#include "files/system_call.h"
#include "files/whole_file.h"
#include <QDir>
#include <QFile>
#include <QTemporaryDir>
#include <QTest>
#include <fcntl.h>
#include <sys/mount.h>
#include <sys/stat.h>
#include <unistd.h>

using namespace burin;

namespace {

QByteArray bytesOf(const QString& path) {
    QFile file(path);
    return file.open(QIODevice::ReadOnly) ? file.readAll() : QByteArray("unreadable");
}

/// Fails the n-th call to the system from now on, of all that write.
class FailNth {
public:
    FailNth(int nth, int error) {
        detail::failCall = [this, nth, error](const char* call) {
            if (++seen_ != nth)
                return 0;
            failed_ = call;
            return error;
        };
    }
    ~FailNth() { detail::failCall = nullptr; }
    FailNth(const FailNth&) = delete;
    FailNth& operator=(const FailNth&) = delete;
    [[nodiscard]] QByteArray failed() const { return failed_; }

private:
    int seen_ = 0;
    QByteArray failed_;
};

} // namespace

/// A file is written whole or not at all, and what is said of it is true.
class TestWholeFile : public QObject {
    Q_OBJECT
    std::unique_ptr<QTemporaryDir> folder_;
    QString at(const QString& name) { return folder_->filePath(name); }
    void put(const QString& name, const QByteArray& bytes) {
        QFile file(at(name));
        QVERIFY(file.open(QIODevice::WriteOnly) && file.write(bytes) == bytes.size());
    }
    std::string refusal(const QString& name, const std::vector<std::string>& inputs = {}) {
        const auto done = writeWholeFile(at(name).toStdString(), "new", inputs);
        if (!done && done.error().cure.empty())
            QTest::qFail("no cure is given", __FILE__, __LINE__);
        return done ? std::string() : render(done.error(), {});
    }
    QStringList names() {
        return QDir(folder_->path())
            .entryList(QDir::AllEntries | QDir::Hidden | QDir::System | QDir::NoDotAndDotDot);
    }

private slots:
    void init() { folder_ = std::make_unique<QTemporaryDir>(); }

    void everyCallMayFail() {
        for (const int error : {ENOSPC, EIO, EDQUOT}) {
            QStringList failed;
            for (int nth = 1;; ++nth) {
                put("a", "old");
                bool good = false;
                QByteArray call;
                {
                    const FailNth fails(nth, error);
                    const auto done =
                        writeWholeFile(at("a").toStdString(), std::string(300000, 'n'));
                    good = done.has_value();
                    call = fails.failed();
                    if (!good && error != EIO && call != "fsync")
                        QVERIFY(render(done.error().what, {}).find("full") != std::string::npos);
                }
                if (call.isEmpty()) {
                    QVERIFY(good);
                    break;
                }
                failed << QString::fromLatin1(call);
                QVERIFY2(!good, call.constData());
                // Before the new file is in its place the old one is whole; after, the new one.
                const QByteArray now = bytesOf(at("a"));
                QVERIFY(now == "old" || now == QByteArray(300000, 'n'));
                QVERIFY2(now == "old" || failed.count("fsync") == 2, call.constData());
                QCOMPARE(names(), QStringList{"a"});
            }
            QCOMPARE(failed, (QStringList{"open", "write", "fsync", "close", "rename", "fsync"}));
            QCOMPARE(bytesOf(at("a")), QByteArray(300000, 'n'));
        }
    }
    void aFullDiskIsSaid() {
        if (::geteuid() != 0)
            QSKIP("only root may mount a small file system");
        const QByteArray folder = QFile::encodeName(at("small"));
        QDir().mkpath(at("small"));
        if (::mount("none", folder.constData(), "tmpfs", 0, "size=64k") != 0)
            QSKIP("no file system can be mounted here");
        put("small/job.json", "old");
        const auto done =
            writeWholeFile(at("small/job.json").toStdString(), std::string(200000, 'n'));
        const QByteArray kept = bytesOf(at("small/job.json"));
        const auto left = QDir(at("small")).entryList(QDir::Files | QDir::Hidden);
        ::umount(folder.constData());
        QVERIFY(!done.has_value());
        QVERIFY2(render(done.error().what, {}).find("full") != std::string::npos,
                 render(done.error(), {}).c_str());
        QCOMPARE(kept, QByteArray("old"));
        QCOMPARE(left, QStringList{"job.json"});
    }
    void neverOverWhatItIsMadeFrom() {
        put("in.json", "old");
        QVERIFY(QFile::link(at("in.json"), at("link.json")));
        QVERIFY(::link(QFile::encodeName(at("in.json")), QFile::encodeName(at("hard.json"))) == 0);
        const std::string in = at("in.json").toStdString();
        for (const char* name : {"in.json", "link.json", "hard.json", "./in.json"})
            QVERIFY2(refusal(name, {in}).find("made from") != std::string::npos, name);
        QCOMPARE(bytesOf(at("in.json")), QByteArray("old"));
        // By a name that leads there too.
        QVERIFY(refusal("in.json", {at("hard.json").toStdString()}).find("made from") !=
                std::string::npos);
    }
    void neverOverAJob() {
        QVERIFY(JobStore::create(at("job.burin"), "Job").has_value());
        const QByteArray before = bytesOf(at("job.burin"));
        QVERIFY(QFile::link(at("job.burin"), at("other.json")));
        QVERIFY(refusal("job.burin").find("a job of Burin's") != std::string::npos);
        QVERIFY(refusal("other.json").find("a job of Burin's") != std::string::npos);
        QCOMPARE(bytesOf(at("job.burin")), before);
        // SQLite would take a file of such a name for edits that were cut off.
        for (const char* name : {"job.burin-journal", "job.burin-wal", "job.burin-shm"}) {
            QVERIFY(refusal(name).find("part of the job") != std::string::npos);
            QVERIFY(!JobStore::create(at(name), "Job").has_value());
            QVERIFY(!QFile::exists(at(name)));
        }
    }
    void onlyPlainFiles() {
        QVERIFY(QDir().mkpath(at("folder")));
        QVERIFY(::mkfifo(QFile::encodeName(at("pipe")), 0600) == 0);
        QVERIFY(QFile::link(at("nothing"), at("dangling")));
        QVERIFY(QFile::link(QStringLiteral("/dev/null"), at("device")));
        QVERIFY(refusal("folder").find("folder") != std::string::npos);
        QVERIFY(refusal("pipe").find("not a plain file") != std::string::npos);
        QVERIFY(refusal("dangling").find("link to nothing") != std::string::npos);
        QVERIFY(refusal("device").find("not a plain file") != std::string::npos);
        QVERIFY(refusal("no/such/folder").find("no such folder") != std::string::npos);
        QVERIFY(refusal(QString(300, QLatin1Char('n'))).find("too long") != std::string::npos);
        QVERIFY(!writeWholeFile("", "x").has_value());
        struct stat null {};
        QVERIFY(::stat("/dev/null", &null) == 0 && S_ISCHR(null.st_mode));
        QVERIFY(!QFile::exists(at("nothing")));
    }
    void aLinkIsFollowedAndTheModeStays() {
        put("real", "old");
        QVERIFY(QFile::setPermissions(at("real"), QFile::ReadOwner | QFile::WriteOwner));
        QVERIFY(QFile::link(at("real"), at("link")));
        QVERIFY(writeWholeFile(at("link").toStdString(), "new").has_value());
        QCOMPARE(bytesOf(at("real")), QByteArray("new"));
        QVERIFY(QFileInfo(at("link")).isSymLink());
        struct stat info {};
        QVERIFY(::stat(QFile::encodeName(at("real")), &info) == 0);
        QCOMPARE(info.st_mode & 0777U, 0600U);
        QVERIFY(writeWholeFile(at("fresh").toStdString(), "").has_value());
        QCOMPARE(bytesOf(at("fresh")), QByteArray());
        QCOMPARE(names().size(), 3);
    }
};

QTEST_GUILESS_MAIN(TestWholeFile)
#include "test_whole_file.moc"
