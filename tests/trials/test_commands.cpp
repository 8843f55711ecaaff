// Odd command lines: an answer of real figures, or a refusal that says why; never a crash or a
// hang, and nothing written but what was asked for.
#include "trials/trials.h"
#include <QDir>
#include <QElapsedTimer>
#include <QFile>
#include <QJsonArray>
#include <QJsonDocument>
#include <QJsonObject>
#include <QProcess>
#include <QSet>
#include <QTemporaryDir>
#include <QTest>
#include <sys/stat.h>

using namespace burin;

namespace {

struct Command {
    const char* words;   ///< with what it needs
    const char* options; ///< that it takes
};
const Command commands[] = {
    {"loss --cable cat6-utp --length 60 --at 100",
     "--cable --length --at --temperature --cord --connection"},
    {"limit --class EA --parameter next --at 100", "--set --class --link --parameter --at --loop"},
    {"reach --cable cat6a-utp --service 10g", "--cable --service --neighbours --head-level "
                                              "--loss-budget --band-from --band-to --temperature"},
    {"reach --cable coax-s6 --service tv --head-level 75",
     "--head-level --temperature --connection"},
    {"supply --volts 12 --awg 24 --load reader:60m:0.2A",
     "--volts --tolerance --awg --pairs --temperature --least --load"},
    {"warmth --cable cat6a-utp --cables 24 --ampere 0.5",
     "--cable --cables --ampere --pairs --ambient --around"},
    {"feedline --cable coax-rg213 --length 30 --mhz 145 --watt 25",
     "--cable --length --mhz --watt --swr --withstand --temperature --connection"},
    {"connectors --cable coax-s6", "--cable --mhz --outdoors"},
    {"read ../in.csv", "--frequency-unit"},
    {"echo ../in.s1p --velocity 0.8", "--velocity --cable --port --trace"},
    {"findings ../job.burin", "--run"},
    {"compare ../job.burin --run SL-D01 --file ../in.csv",
     "--run --file --link --pair --frequency-unit"},
    {"network ../chain.json --out out.s2p", "--from --to --points --out"},
    {"export ../job.burin out.json", ""},
    {"plan ../job.burin --svg out.svg", "--svg --floor --run"},
    {"jacket CAT6-UTP-23AWG", ""},
    {"import ../small.json out.burin", ""}};

const char* const oddities[] = {"nan",
                                "inf",
                                "-inf",
                                "1e308",
                                "-1e308",
                                "1e-308",
                                "-1",
                                "0",
                                "-0",
                                "1e9",
                                "0x10",
                                "1,5",
                                "1.5.5",
                                "",
                                " ",
                                "--",
                                "-",
                                "-h",
                                "\xff\xfe",
                                "../in.csv",
                                "../pipe",
                                "/dev/zero",
                                "/dev/full",
                                "..",
                                "99999999999999999999",
                                "cat6-utp",
                                "cat6-utp:3",
                                "cat6-utp:-3",
                                "cat6-utp:3m:99awg",
                                "conn-cat6:-1",
                                "conn-cat6:1e9",
                                "a:b:c",
                                "reader:0:0A",
                                "reader:nan:1A",
                                "reader:10m:-1W",
                                "reader:10m:1e300W",
                                "1,2,3",
                                "1,,2",
                                ",",
                                "0,1",
                                "1e99",
                                "EA",
                                "10g",
                                "tv",
                                "\"quoted\"",
                                "%s%n",
                                "<b>",
                                "'",
                                "µ",
                                "../job.burin",
                                "../job.burin-journal",
                                "out.s2p",
                                "./",
                                "1 2",
                                "61.5 m",
                                "3' 6\"",
                                "-40",
                                "451"};

/// Keys whose null is an answer, as docs/cli.md says.
const QSet<QString> mayBeNull{"limit",  "db",       "ports",    "referenceOhm", "atMhz",
                              "reachM", "channelM", "marginDb", "marginAtMhz"};

QString badFigure(const QJsonValue& value, const QString& key) {
    if (value.isNull() && !mayBeNull.contains(key))
        return key + " is null";
    if (value.isDouble() && !(qAbs(value.toDouble()) < 1e15))
        return key + " is " + QString::number(value.toDouble());
    if (value.isArray())
        for (const auto& part : value.toArray())
            if (const QString bad = badFigure(part, key); !bad.isEmpty())
                return bad;
    if (value.isObject()) {
        const auto object = value.toObject();
        for (auto it = object.begin(); it != object.end(); ++it)
            if (const QString bad = badFigure(it.value(), it.key()); !bad.isEmpty())
                return bad;
    }
    return {};
}

} // namespace

class TestTrialsOfCommands : public QObject {
    Q_OBJECT
    QTemporaryDir folder_;

    void write(const QString& name, const QByteArray& bytes) {
        QFile file(folder_.filePath(name));
        QVERIFY(file.open(QIODevice::WriteOnly) && file.write(bytes) == bytes.size());
    }
    static QByteArray bytesOf(const QString& path) {
        QFile file(path);
        return file.open(QIODevice::ReadOnly) ? file.readAll() : QByteArray();
    }

private slots:
    void initTestCase() {
        write("in.csv", "Frequency (MHz),IL 1-2 (dB),RL 1-2 (dB)\n1,2,20\n100,18,15\n250,30,12\n");
        QByteArray sweep("# MHz S RI R 75\n");
        for (int f = 1; f <= 64; ++f)
            sweep += QByteArray::number(f) + " 0.1 0.05\n";
        write("in.s1p", sweep);
        write("chain.json",
              R"({"referenceOhm":75,"parts":[{"kind":"line","cable":"coax-s6","lengthM":30}]})");
        QProcess import;
        import.start(BURIN_BIN "/burin-cli", {"import", BURIN_SOURCE "/demo/kittiwake.json",
                                              folder_.filePath("job.burin")});
        QVERIFY(import.waitForFinished() && import.exitCode() == 0);
        QVERIFY(QFile::copy(BURIN_SOURCE "/demo/kittiwake.json", folder_.filePath("small.json")));
        QVERIFY(::mkfifo(QFile::encodeName(folder_.filePath("pipe")), 0600) == 0);
        QVERIFY(QDir().mkpath(folder_.filePath("here")));
    }
    void oddCommandLines() {
        auto dice = trialDice();
        const QStringList around = QDir(folder_.path()).entryList(QDir::AllEntries | QDir::System);
        const QByteArray job = bytesOf(folder_.filePath("job.burin"));
        int answered = 0;
        int refused = 0;
        const int most = rounds(2000, 250);
        for (int i = 0; i < most; ++i) {
            const Command& command = oneOf(dice, commands);
            QStringList words = QString::fromUtf8(command.words).split(' ');
            const QStringList options =
                QString::fromUtf8(command.options).split(' ', Qt::SkipEmptyParts);
            for (auto odd = upTo(dice, 3); odd > 0; --odd) {
                const QString oddity = QString::fromLatin1(oneOf(dice, oddities));
                if (!options.isEmpty() && upTo(dice, 2) > 0) {
                    const QString option = oneOf(dice, options);
                    const auto has = words.indexOf(option);
                    if (has >= 0 && has + 1 < words.size())
                        words[has + 1] = oddity;
                    else
                        words << option << oddity;
                } else {
                    words[static_cast<qsizetype>(
                        1 + upTo(dice, static_cast<std::size_t>(words.size() - 2)))] = oddity;
                }
            }
            const QString line = words.join(' ');
            const QDir here(folder_.filePath("here"));
            QProcess process;
            process.setWorkingDirectory(here.path());
            QElapsedTimer clock;
            clock.start();
            process.start(BURIN_BIN "/burin-cli", words);
            process.closeWriteChannel();
            QVERIFY2(process.waitForFinished(20000), qPrintable(line));
            QVERIFY2(process.exitStatus() == QProcess::NormalExit, qPrintable(line));
            const int code = process.exitCode();
            QVERIFY2(code == 0 || code == 2 || code == 3, qPrintable(line));
            const QByteArray out = process.readAllStandardOutput();
            const QByteArray error = process.readAllStandardError();
            if (code == 0 && !out.startsWith("Burin") && !out.contains("Usage")) {
                const auto json = QJsonDocument::fromJson(out);
                QVERIFY2(json.isObject() || error.contains('{'),
                         qPrintable(line + "\n" + out.left(200)));
                const QString bad = badFigure(json.object(), {});
                QVERIFY2(bad.isEmpty(), qPrintable(line + ": " + bad));
                ++answered;
            } else if (code != 0) {
                QVERIFY2(error.contains("burin-cli: ") && error.size() > 20,
                         qPrintable(line + error));
                QVERIFY2(!error.contains("exception") && !error.contains("std::"),
                         error.constData());
                ++refused;
            }
            for (const auto& name : here.entryList(QDir::Files | QDir::Hidden))
                QFile::remove(here.filePath(name));
            QVERIFY2(here.isEmpty(), qPrintable(line));
            QCOMPARE(QDir(folder_.path()).entryList(QDir::AllEntries | QDir::System), around);
            if (i % 50 == 0)
                QVERIFY2(bytesOf(folder_.filePath("job.burin")) == job, qPrintable(line));
        }
        QVERIFY(bytesOf(folder_.filePath("job.burin")) == job);
        qInfo("%d command lines: %d answered, %d refused", most, answered, refused);
        QVERIFY(answered > most / 20 && refused > most / 4);
    }
};

QTEST_GUILESS_MAIN(TestTrialsOfCommands)
#include "test_commands.moc"
