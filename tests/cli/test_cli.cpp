#include <QElapsedTimer>
#include <QFile>
#include <QJsonArray>
#include <QJsonDocument>
#include <QJsonObject>
#include <QProcess>
#include <QTemporaryDir>
#include <QTest>
#include <cmath>
#include <sys/stat.h>

class TestCli : public QObject {
    Q_OBJECT
    QByteArray error_;
    int exit_ = -1;

    QJsonObject run(const QString& words) { return run(words.split(QLatin1Char(' '))); }
    QJsonObject run(const QStringList& words) {
        QProcess process;
        process.start(QStringLiteral(BURIN_BIN "/burin-cli"), words);
        process.waitForFinished();
        exit_ = process.exitCode();
        error_ = process.readAllStandardError();
        return QJsonDocument::fromJson(process.readAllStandardOutput()).object();
    }
    QString demo() {
        const QString path = folder_.filePath(QStringLiteral("demo.burin"));
        if (!QFile::exists(path))
            run({QStringLiteral("import"), QStringLiteral(BURIN_SOURCE "/demo/kittiwake.json"),
                 path});
        return path;
    }
    QTemporaryDir folder_;

private slots:
    void loss() {
        const auto out = run(QStringLiteral("loss --cable cat6-utp --length 100m --at 100,250"));
        QCOMPARE(exit_, 0);
        const auto points = out[QLatin1String("points")].toArray();
        QCOMPARE(points[0].toObject()[QLatin1String("frequencyMhz")].toDouble(), 100.0);
        QVERIFY(qAbs(points[0].toObject()[QLatin1String("lossDb")].toDouble() - 19.80) < 1e-9);
        const auto feet =
            run(QStringLiteral("loss --cable cat6-utp --length 328.084ft --cord cat6-utp:3m:26awg "
                               "--connection conn-cat6:2 --at 100"));
        const double expected = 19.80 * (1 + 0.03 * 1.5) + 0.4;
        QVERIFY(qAbs(feet[QLatin1String("points")]
                         .toArray()[0]
                         .toObject()[QLatin1String("lossDb")]
                         .toDouble() -
                     expected) < 1e-4);
    }
    void limitByClassOrCategory() {
        for (const char* name : {"EA", "cat6a", "6A"}) {
            const auto out =
                run(QStringLiteral(
                        "limit --set iso --class %1 --link channel --parameter next --at 500")
                        .arg(QLatin1String(name)));
            const auto point = out[QLatin1String("points")].toArray()[0].toObject();
            QVERIFY(qAbs(point[QLatin1String("limit")].toDouble() - 27.887) < 0.001);
            QCOMPARE(point[QLatin1String("unit")].toString(), QStringLiteral("dB"));
        }
        run(QStringLiteral("limit --set iso --class C --link channel --parameter ps-next --at 5"));
        QCOMPARE(exit_, 3);
        QVERIFY(error_.contains("no limit in the catalogue"));
    }
    void reach() {
        const auto out = run(QStringLiteral("reach --cable cat6-utp --service 10g --neighbours 6"));
        QCOMPARE(out[QLatin1String("channelM")].toDouble(), 37.0);
        QCOMPARE(out[QLatin1String("reachM")].toDouble(), 27.0);
        QCOMPARE(out[QLatin1String("boundBy")].toString(), QStringLiteral("bundle"));
        QVERIFY(out[QLatin1String("atMhz")].isNull());
        // Jacks where nothing is said: no couplers, blocks or plugs.
        const auto jacks = run(QStringLiteral("reach --cable cat6a-utp --service 10g"));
        QCOMPARE(jacks[QLatin1String("reachM")].toDouble(), 90.0);
    }
    void lists() {
        QCOMPARE(run(QStringLiteral("cables"))[QLatin1String("cables")].toArray().size(), 47);
        QCOMPARE(run(QStringLiteral("services"))[QLatin1String("services")].toArray().size(), 41);
        QVERIFY(run(QStringLiteral("connections"))[QLatin1String("connections")].toArray().size() >=
                18);
        QVERIFY(run(QStringLiteral("limits"))[QLatin1String("limits")].toArray().size() > 100);
    }
    void wrongUseAndBadInput() {
        run(QStringLiteral("loss --cable cat6-utp"));
        QCOMPARE(exit_, 2);
        run(QStringLiteral("nonsense"));
        QCOMPARE(exit_, 2);
        run(QStringLiteral("loss --cable cat99 --length 1m --at 1"));
        QCOMPARE(exit_, 3);
        QVERIFY(error_.contains("cat99"));
        run(QStringLiteral("loss --cable cat6-utp --length -4m --at 1"));
        QVERIFY(exit_ == 2 || exit_ == 3);
        run(QStringLiteral("loss --cable cat6-utp --length 1m --at 0"));
        QCOMPARE(exit_, 3);
        run(QStringLiteral("read /nowhere.s2p"));
        QCOMPARE(exit_, 3);
        run(QStringLiteral("findings /nowhere.burin"));
        QCOMPARE(exit_, 3);
        QVERIFY(error_.contains("no such file"));
    }
    void figuresThatCannotBeAreRefused_data() {
        QTest::addColumn<QString>("words");
        QTest::addColumn<QByteArray>("said");
        const auto row = [](const char* words, const char* said) {
            QTest::newRow(words) << QString::fromUtf8(words) << QByteArray(said);
        };
        row("feedline --cable coax-rg213 --length 30 --mhz 145 --watt 25 --temperature nan",
            "--temperature wants a number from -60 to 200 °C, not “nan”");
        row("warmth --cable cat6a-utp --cables 24 --ampere nan",
            "--ampere wants a number from 0 to 100 A");
        row("warmth --cable cat6a-utp --cables 24 --ampere 1 --ambient -1e9", "--ambient wants");
        row("supply --volts inf --awg 24 --load a:1m:1A",
            "--volts wants a number from 0.1 to 1000 V");
        row("supply --volts 12 --tolerance 0.5.5 --awg 24 --load a:1m:1A",
            "--tolerance wants a number from 0 to 50 %");
        row("supply --volts 12 --tolerance 51 --awg 24 --load a:1m:1A", "from 0 to 50 %");
        row("supply --volts 12 --awg 24 --load a:1m:-1A", "--load wants");
        row("reach --cable coax-s6 --service tv --head-level 1e300", "--head-level wants");
        row("reach --cable coax-rg213 --service feedline --loss-budget 3 --band-from 200 --band-to "
            "100",
            "--band-to lies below");
        row("loss --cable cat6-utp --length 1m --at 1e99", "no frequency");
        row("limit --class EA --parameter unbalance --loop -1", "--loop wants");
        row("connectors --cable coax-s6 --mhz 0", "--mhz wants");
        row("echo x.s1p --velocity 1.01", "--velocity wants a number from 0.01 to 1,");
    }
    void figuresThatCannotBeAreRefused() {
        QFETCH(QString, words);
        QFETCH(QByteArray, said);
        run(words);
        QVERIFY2(exit_ == 2 || exit_ == 3, error_.constData());
        QVERIFY2(error_.contains(said), error_.constData());
    }
    void whereTheAnswerGoes() {
        const auto shell = [&](const QString& command) {
            QProcess process;
            process.start(QStringLiteral("/bin/sh"), {QStringLiteral("-c"), command});
            process.waitForFinished();
            error_ = process.readAllStandardError();
            exit_ = process.exitCode();
            return process.readAllStandardOutput();
        };
        const QString cli = QStringLiteral(BURIN_BIN "/burin-cli ");
        shell(cli + QStringLiteral("cables >/dev/full"));
        QCOMPARE(exit_, 3);
        QVERIFY(error_.contains("does not take the answer"));
        const QByteArray streamed =
            shell(cli + QStringLiteral("export %1 /dev/stdout").arg(demo()));
        QCOMPARE(exit_, 0);
        QCOMPARE(QJsonDocument::fromJson(streamed).object()[QLatin1String("format")].toString(),
                 QStringLiteral("burin-job"));
        QVERIFY(error_.contains("\"exported\"")); // beside it, not in it
        shell(cli + QStringLiteral("export %1 /dev/stdout >/dev/full").arg(demo()));
        QCOMPARE(exit_, 3);
    }
    void nothingIsWrittenOverItsInput() {
        const QString job = demo();
        QFile file(job);
        QVERIFY(file.open(QIODevice::ReadOnly));
        const QByteArray before = file.readAll();
        file.close();
        for (const QStringList& words :
             {QStringList{"export", job, job}, QStringList{"plan", job, "--svg", job},
              QStringList{"export", job, job + "-journal"},
              QStringList{"export", job, folder_.path()}, QStringList{"export", job, "/dev/null"},
              QStringList{"import", job, job}}) {
            run(words);
            QVERIFY2(exit_ == 3, qPrintable(words.join(' ')));
            QVERIFY(!error_.isEmpty());
        }
        QVERIFY(file.open(QIODevice::ReadOnly));
        QCOMPARE(file.readAll(), before);
        QVERIFY(!QFile::exists(job + "-journal"));
        QFile chain(folder_.filePath("chain.json"));
        QVERIFY(chain.open(QIODevice::WriteOnly));
        chain.write(
            R"({"referenceOhm":75,"parts":[{"kind":"line","cable":"coax-s6","lengthM":30}]})");
        chain.close();
        run(QStringList{"network", chain.fileName(), "--out", chain.fileName()});
        QCOMPARE(exit_, 3);
        QVERIFY(error_.contains("made from"));
    }
    void whatNeverEndsIsNotRead() {
        const QString pipe = folder_.filePath("pipe");
        if (!QFile::exists(pipe))
            QCOMPARE(::mkfifo(QFile::encodeName(pipe), 0600), 0);
        for (const QString& endless : {pipe, QStringLiteral("/dev/zero"), folder_.path()})
            for (const QStringList& words :
                 {QStringList{"read", endless}, QStringList{"findings", endless},
                  QStringList{"import", endless, folder_.filePath("new.burin")},
                  QStringList{"tree", endless}, QStringList{"bus", endless},
                  QStringList{"picture", endless, "--out", folder_.filePath("out.png")},
                  QStringList{"compare", demo(), "--run", "SL-D01", "--file", endless}}) {
                QElapsedTimer clock;
                clock.start();
                run(words);
                QVERIFY2(exit_ == 3, qPrintable(words.join(' ')));
                QVERIFY2(clock.elapsed() < 5000, qPrintable(words.join(' ')));
                QVERIFY2(error_.contains("pipe") || error_.contains("device") ||
                             error_.contains("folder"),
                         error_.constData());
            }
        QVERIFY(!QFile::exists(folder_.filePath("new.burin")));
    }
    void aByteOfAnotherEncodingDoesNotEndTheFindings() {
        QFile csv(folder_.filePath("latin.csv"));
        QVERIFY(csv.open(QIODevice::WriteOnly));
        csv.write("Frequency (MHz);D\xe4mpfung 1-2 (dB)\n1;2,0\n100;15,0\n");
        csv.close();
        const auto out = run(QStringList{"read", csv.fileName()});
        QCOMPARE(exit_, 0);
        QVERIFY(out[QLatin1String("points")].toArray()[0].toObject().contains(
            QString::fromUtf8("Dämpfung 1-2 (dB)")));
        QVERIFY(out[QLatin1String("notes")].toArray()[0].toString().contains("Latin-1"));
    }
    void publishedCheckValues_data() {
        QTest::addColumn<QString>("words");
        QTest::addColumn<double>("value");
        QTest::addColumn<double>("within");
        const auto row = [](const char* set, const char* name, const char* link,
                            const char* parameter, const char* at, double value,
                            double within = 0.1) {
            const QString words =
                QStringLiteral("limit --set %1 --class %2 --link %3 --parameter "
                               "%4 --at %5")
                    .arg(QLatin1String(set), QLatin1String(name), QLatin1String(link),
                         QLatin1String(parameter), QLatin1String(at));
            QTest::newRow(qPrintable(words)) << words << value << within;
        };
        row("iso", "D", "channel", "insertion-loss", "16", 9.1);
        row("iso", "D", "channel", "insertion-loss", "100", 24.0);
        row("iso", "E", "channel", "insertion-loss", "100", 21.7);
        row("iso", "E", "channel", "insertion-loss", "250", 35.9);
        row("iso", "E", "permanent", "insertion-loss", "250", 30.7);
        row("iso", "EA", "channel", "insertion-loss", "500", 49.3);
        row("iso", "EA", "permanent", "insertion-loss", "500", 42.1);
        row("iso", "F", "channel", "insertion-loss", "600", 54.6);
        row("iso", "FA", "channel", "insertion-loss", "1000", 67.6);
        row("iso", "D", "channel", "next", "100", 30.1);
        row("iso", "D", "channel", "ps-next", "100", 27.1);
        row("iso", "D", "permanent", "next", "100", 32.3);
        row("iso", "E", "channel", "next", "250", 33.1);
        row("iso", "E", "channel", "ps-next", "250", 30.2);
        row("iso", "E", "permanent", "next", "250", 35.3);
        row("iso", "EA", "channel", "next", "500", 27.9);
        row("iso", "EA", "permanent", "next", "500", 29.2);
        row("iso", "F", "channel", "next", "600", 51.2);
        row("iso", "FA", "channel", "next", "1000", 47.9);
        row("iso", "D", "channel", "acr-f", "100", 17.4);
        row("iso", "E", "channel", "acr-f", "250", 15.3);
        row("iso", "F", "channel", "acr-f", "600", 31.3);
        row("iso", "FA", "channel", "acr-f", "1000", 27.4);
        row("iso", "D", "channel", "return-loss", "100", 10.0);
        row("iso", "E", "channel", "return-loss", "250", 8.0);
        row("iso", "E", "permanent", "return-loss", "250", 10.0);
        row("iso", "EA", "channel", "delay", "100", 0.548, 0.005);
        row("iso", "D", "channel", "loop-resistance", "1", 25, 1e-9);
        row("iso", "F", "permanent", "skew", "100", 26, 1e-9);
        row("tia", "cat6", "channel", "insertion-loss", "100", 21.3);
        row("tia", "cat6", "channel", "insertion-loss", "250", 36.0);
        row("tia", "cat6", "permanent", "insertion-loss", "100", 18.6);
        row("tia", "cat6", "permanent", "insertion-loss", "250", 31.1);
        // At other frequencies, worked by hand: 1.05·(1.82·8 + 0.0169·64 + 0.25/8) + 4·0.02·8.
        row("iso", "E", "channel", "insertion-loss", "64", 17.0965, 1e-3);
        // 24 − 5·log 31.6228 = 16.5.
        row("iso", "EA", "channel", "return-loss", "31.622777", 16.5, 1e-3);
        // 0.9·(0.534 + 0.036/2) + 3·0.0025.
        row("iso", "E", "permanent", "delay", "4", 0.5043, 1e-4);
    }
    void publishedCheckValues() {
        QFETCH(QString, words);
        QFETCH(double, value);
        QFETCH(double, within);
        const auto point = run(words)[QLatin1String("points")].toArray()[0].toObject();
        QCOMPARE(exit_, 0);
        const double limit = point[QLatin1String("limit")].toDouble();
        QVERIFY2(qAbs(limit - value) <= within, qPrintable(QString::number(limit)));
        QVERIFY(!point[QLatin1String("unit")].toString().isEmpty());
    }
    void readSpeaksOfEveryTrace() {
        const QString csv = folder_.filePath(QStringLiteral("r.csv"));
        QFile out(csv);
        QVERIFY(out.open(QIODevice::WriteOnly));
        out.write("Frequency (MHz);IL 1-2 (dB);NEXT 1-2/3-6\n1;2,5;70\n2;3,5;65,25\n");
        out.close();
        const auto table = run({QStringLiteral("read"), csv});
        QCOMPARE(exit_, 0);
        QCOMPARE(table[QLatin1String("kind")].toString(), QStringLiteral("csv"));
        const auto row = table[QLatin1String("points")].toArray()[1].toObject();
        QCOMPARE(row[QLatin1String("frequencyMhz")].toDouble(), 2.0);
        QCOMPARE(row[QLatin1String("NEXT 1-2/3-6")].toDouble(), 65.25);

        const QString s2p = folder_.filePath(QStringLiteral("r.s2p"));
        QFile sweep(s2p);
        QVERIFY(sweep.open(QIODevice::WriteOnly));
        sweep.write("# GHz S MA R 75\n0.5 0.1 0 0.5 -90 0.4 90 0 0\n");
        sweep.close();
        const auto read = run({QStringLiteral("read"), s2p});
        QCOMPARE(read[QLatin1String("ports")].toInt(), 2);
        QCOMPARE(read[QLatin1String("referenceOhm")].toArray()[0].toDouble(), 75.0);
        const auto point = read[QLatin1String("points")].toArray()[0].toObject();
        QCOMPARE(point[QLatin1String("frequencyMhz")].toDouble(), 500.0);
        const auto s21 = point[QLatin1String("s21")].toObject();
        QVERIFY(qAbs(s21[QLatin1String("db")].toDouble() + 6.0206) < 1e-4);
        QVERIFY(qAbs(s21[QLatin1String("degrees")].toDouble() + 90) < 1e-9);
        QVERIFY(point[QLatin1String("s22")].toObject()[QLatin1String("db")].isNull());
    }
    void readRefusesWithLineAndColumn() {
        const QString bad = folder_.filePath(QStringLiteral("bad.s1p"));
        QFile out(bad);
        QVERIFY(out.open(QIODevice::WriteOnly));
        out.write("# MHz S RI\n1 0 0\n2 0 oops\n");
        out.close();
        run({QStringLiteral("read"), bad});
        QCOMPARE(exit_, 3);
        QVERIFY2(error_.contains(":3:5:") && error_.contains("oops"), error_.constData());
        const QString noUnit = folder_.filePath(QStringLiteral("nounit.csv"));
        QFile csv(noUnit);
        QVERIFY(csv.open(QIODevice::WriteOnly));
        csv.write("frequency,IL\n1,2\n");
        csv.close();
        run({QStringLiteral("read"), noUnit});
        QCOMPARE(exit_, 3);
        run({QStringLiteral("read"), noUnit, QStringLiteral("--frequency-unit"),
             QStringLiteral("kHz")});
        QCOMPARE(exit_, 0);
    }
    void reachTakesWhatItNeeds() {
        const auto tv = run(QStringLiteral("reach --cable coax-s6 --service tv"));
        QVERIFY(tv[QLatin1String("reachM")].isNull());
        QCOMPARE(tv[QLatin1String("boundBy")].toString(), QStringLiteral("head-level-unknown"));
        const auto level =
            run(QStringLiteral("reach --cable coax-s6 --service tv --head-level 70"));
        QVERIFY(level[QLatin1String("reachM")].toDouble() > 50);
        QCOMPARE(level[QLatin1String("boundBy")].toString(), QStringLiteral("level"));
        const auto line = run(QStringLiteral(
            "reach --cable coax-ll10 --service feedline --loss-budget 2 --band-to 162"));
        QVERIFY(qAbs(line[QLatin1String("atMhz")].toDouble() - 162) < 1e-9);
        const auto worked =
            run(QStringLiteral("reach --cable cat6a-utp --service 10g --temperature 45 --working"));
        const auto working = worked[QLatin1String("working")].toObject();
        QVERIFY(!working[QLatin1String("formula")].toString().isEmpty());
        QVERIFY(working[QLatin1String("inputs")].toArray().size() >= 4);
        run(QStringLiteral("reach --cable cat6-utp --service nonsense"));
        QCOMPARE(exit_, 3);
        run(QStringLiteral("reach --cable cat6-utp --service 10g --school mine"));
        QCOMPARE(exit_, 2);
    }
    void findingsOfOneRunAreWhole() {
        const auto out = run({QStringLiteral("findings"), demo(), QStringLiteral("--run"),
                              QStringLiteral("FD-D01")});
        const auto runs = out[QLatin1String("runs")].toArray();
        QCOMPARE(runs.size(), 1);
        const auto one = runs[0].toObject();
        for (const char* key : {"lengthM", "channelM", "state", "service", "class", "outlook",
                                "reach", "parts", "services", "cures", "measurements"})
            QVERIFY2(one.contains(QLatin1String(key)), key);
        const auto tests = one[QLatin1String("measurements")].toArray();
        QCOMPARE(tests.size(), 2);
        QVERIFY(tests[0].toObject()[QLatin1String("superseded")].toBool());
        QVERIFY(!tests[1].toObject()[QLatin1String("superseded")].toBool());
        QCOMPARE(tests[0].toObject()[QLatin1String("class")].toObject()[QLatin1String("state")],
                 QStringLiteral("fail"));
        run({QStringLiteral("findings"), demo(), QStringLiteral("--run"), QStringLiteral("XX")});
        QCOMPARE(exit_, 3);
        QVERIFY(error_.contains("XX"));
    }
    void badImportMakesNoJob() {
        const QString json = folder_.filePath(QStringLiteral("bad.json"));
        QFile out(json);
        QVERIFY(out.open(QIODevice::WriteOnly));
        out.write("{\"format\": \"burin-job\", \"version\": 1, \"job\": {}, \"files\": []}");
        out.close();
        const QString job = folder_.filePath(QStringLiteral("never.burin"));
        run({QStringLiteral("import"), json, job});
        QCOMPARE(exit_, 3);
        QVERIFY2(error_.contains("info is missing"), error_.constData());
        QVERIFY(!QFile::exists(job));
    }
    void demoFindings() {
        const auto out = run({QStringLiteral("findings"), demo()});
        QCOMPARE(exit_, 0);
        QHash<QString, QString> states;
        QHash<QString, QString> outlooks;
        for (const auto& value : out[QLatin1String("runs")].toArray()) {
            const auto one = value.toObject();
            states[one[QLatin1String("label")].toString()] = one[QLatin1String("state")].toString();
            outlooks[one[QLatin1String("label")].toString()] =
                one[QLatin1String("outlook")].toString();
        }
        QVERIFY(states.size() >= 12);
        QCOMPARE(states[QStringLiteral("SL-D01")], QStringLiteral("pass"));
        QCOMPARE(states[QStringLiteral("MS-D02")], QStringLiteral("marginal-good"));
        QCOMPARE(states[QStringLiteral("MS-D01")], QStringLiteral("pass"));
        QCOMPARE(outlooks[QStringLiteral("MS-D01")], QStringLiteral("holds"));
        QCOMPARE(outlooks[QStringLiteral("SL-D03")], QStringLiteral("fails"));
        // One length is typed otherwise than its way, and nobody else's.
        int typed = 0;
        for (const auto& value : out[QLatin1String("site")].toArray())
            typed +=
                value.toObject()[QLatin1String("matter")].toString() == QLatin1String("length");
        QCOMPARE(typed, 1);
        const auto coverage = out[QLatin1String("coverage")].toObject();
        QCOMPARE(coverage[QLatin1String("untested")].toInt(), 9);
        QCOMPARE(coverage[QLatin1String("marginalGood")].toInt(), 1);
        QCOMPARE(coverage[QLatin1String("fail")].toInt(), 3);
        QCOMPARE(states[QStringLiteral("SO-D01")], QStringLiteral("fail"));
        QCOMPARE(states[QStringLiteral("SL-C01")], QStringLiteral("pass"));
        QCOMPARE(states[QStringLiteral("SL-D02")], QStringLiteral("fail"));
        QCOMPARE(states[QStringLiteral("SL-D03")], QStringLiteral("untested"));
    }
    void compareAFile() {
        const auto out = run({QStringLiteral("compare"), demo(), QStringLiteral("--run"),
                              QStringLiteral("SL-D03"), QStringLiteral("--file"),
                              QStringLiteral(BURIN_SOURCE "/demo/measured/SO-D01.csv")});
        QCOMPARE(exit_, 0);
        QCOMPARE(out[QLatin1String("service")].toObject()[QLatin1String("state")].toString(),
                 QStringLiteral("fail"));
        QVERIFY(out[QLatin1String("excess")].toObject().contains(QLatin1String("excessDb")));
        run({QStringLiteral("compare"), demo(), QStringLiteral("--run"), QStringLiteral("XX"),
             QStringLiteral("--file"), QStringLiteral("y.csv")});
        QCOMPARE(exit_, 3);
    }
    void exportImportIsStable() {
        const QString a = folder_.filePath(QStringLiteral("a.json"));
        const QString b = folder_.filePath(QStringLiteral("b.json"));
        const QString job = folder_.filePath(QStringLiteral("again.burin"));
        run({QStringLiteral("export"), demo(), a});
        QCOMPARE(exit_, 0);
        run({QStringLiteral("import"), a, job});
        QCOMPARE(exit_, 0);
        run({QStringLiteral("export"), job, b});
        QFile one(a);
        QFile two(b);
        QVERIFY(one.open(QIODevice::ReadOnly) && two.open(QIODevice::ReadOnly));
        QCOMPARE(one.readAll(), two.readAll());
        run({QStringLiteral("import"), a, job});
        QCOMPARE(exit_, 3);
    }

    void networkIsWrittenAndItsEchoFound() {
        const QString chain = folder_.filePath(QStringLiteral("chain.json"));
        const QString sweep = folder_.filePath(QStringLiteral("chain.s2p"));
        QFile file(chain);
        QVERIFY(file.open(QIODevice::WriteOnly));
        file.write(R"({"referenceOhm": 50, "parts": [
            {"kind": "line", "cable": "coax-ll10", "lengthM": 23.4},
            {"kind": "series", "ohm": 10}, {"kind": "line", "cable": "coax-ll10", "lengthM": 20}]})");
        file.close();
        run({QStringLiteral("network"), chain, QStringLiteral("--from"), QStringLiteral("1"),
             QStringLiteral("--to"), QStringLiteral("500"), QStringLiteral("--points"),
             QStringLiteral("500"), QStringLiteral("--out"), sweep});
        QCOMPARE(exit_, 0);
        const auto out = run(
            {QStringLiteral("echo"), sweep, QStringLiteral("--velocity"), QStringLiteral("0.85")});
        QCOMPARE(exit_, 0);
        double nearest = 1e9;
        for (const auto& peak : out[QLatin1String("peaks")].toArray()) {
            const double at = peak.toObject()[QLatin1String("distanceM")].toDouble();
            if (qAbs(at - 23.4) < qAbs(nearest - 23.4))
                nearest = at;
        }
        QVERIFY2(qAbs(nearest - 23.4) < 0.1, qPrintable(QString::number(nearest)));
        QFile bad(chain);
        QVERIFY(bad.open(QIODevice::WriteOnly));
        bad.write(R"({"referenceOhm": 50, "parts": [{"kind": "line", "cable": "coax-ll10"}]})");
        bad.close();
        run({QStringLiteral("network"), chain, QStringLiteral("--out"), sweep});
        QCOMPARE(exit_, 3);
        QVERIFY(error_.contains("lengthM is missing"));
    }
    void supplyCheckValues() {
        const auto volts = [&](const char* words) {
            return run(QLatin1String(words))[QLatin1String("points")]
                .toArray()[0]
                .toObject()[QLatin1String("volt")]
                .toDouble();
        };
        QVERIFY(qAbs(volts("supply --volts 13.6 --awg 22 --load reader:90m:0.25A") - 11.22) <
                0.005);
        QVERIFY(qAbs(volts("supply --volts 13.6 --awg 24 --pairs 2 --load reader:90m:0.25A") -
                     11.71) < 0.006);
        run(QStringLiteral("supply --volts 12 --awg 22 --load reader:90m"));
        QCOMPARE(exit_, 2);
    }
    void examplesOfTheDocumentationRun() {
        const QString examples = QStringLiteral(BURIN_SOURCE "/docs/examples/");
        const QString csv = folder_.filePath(QStringLiteral("waves.csv"));
        const auto bus = run({QStringLiteral("bus"), examples + QStringLiteral("bus.json"),
                              QStringLiteral("--out"), csv});
        QCOMPARE(exit_, 0);
        QCOMPARE(bus[QLatin1String("points")].toArray().size(), 3);
        QVERIFY(!bus[QLatin1String("notes")].toArray().isEmpty());
        QFile waves(csv);
        QVERIFY(waves.open(QIODevice::ReadOnly));
        QVERIFY(waves.readLine().startsWith("timeNs,controller V,"));
        const auto tree = run({QStringLiteral("tree"), examples + QStringLiteral("tree.json"),
                               QStringLiteral("--propose")});
        QCOMPARE(exit_, 0);
        QCOMPARE(tree[QLatin1String("points")].toArray().size(), 4);
        QVERIFY(tree.contains(QLatin1String("proposal")));
        run({QStringLiteral("network"), examples + QStringLiteral("chain.json"),
             QStringLiteral("--out"), folder_.filePath(QStringLiteral("f.s2p"))});
        QCOMPARE(exit_, 0);
        const auto line =
            run(QStringLiteral("feedline --cable coax-ll10 --length 28m --connection "
                               "n:2 --mhz 156.8 --watt 25 --swr 1.6 --withstand 1000"));
        const double power = line[QLatin1String("powerAtAerialW")].toDouble();
        const double loss = line[QLatin1String("lossDb")].toDouble();
        QVERIFY(qAbs(power - 25 * std::pow(10, -loss / 10)) < 1e-9);
        const auto warm = run(QStringLiteral(
            "warmth --cable cat6a-utp --cables 48 --ampere 1.73 --pairs 4 --ambient 30"));
        QVERIFY(warm[QLatin1String("estimate")].toBool());
        QVERIFY(warm[QLatin1String("riseC")].toDouble() > 2);
    }
    void connectorsRankedWithReasons() {
        const auto out = run(QStringLiteral("connectors --cable coax-s6 --mhz 2150"));
        QCOMPARE(exit_, 0);
        const auto choices = out[QLatin1String("choices")].toArray();
        const auto first = choices.first().toObject();
        QCOMPARE(first[QLatin1String("connection")].toString(), QStringLiteral("f-compression"));
        QVERIFY(first[QLatin1String("fits")].toBool());
        QVERIFY(qAbs(first[QLatin1String("lossDb")].toDouble() - 0.1 * std::sqrt(2.15)) < 1e-9);
        // Those that do not fit say what speaks against them, and stand behind those that do.
        bool fits = true;
        for (const auto& value : choices) {
            const auto choice = value.toObject();
            QVERIFY(fits || !choice[QLatin1String("fits")].toBool());
            fits = choice[QLatin1String("fits")].toBool();
            QVERIFY(!choice[QLatin1String("why")].toString().isEmpty());
        }
        QVERIFY(!fits);
        const auto thick = run(QStringLiteral("connectors --cable coax-s11-quad --mhz 862"));
        QCOMPARE(thick[QLatin1String("choices")]
                     .toArray()
                     .first()
                     .toObject()[QLatin1String("connection")]
                     .toString(),
                 QStringLiteral("f-compression-11"));
        run(QStringLiteral("connectors --cable nothing"));
        QCOMPARE(exit_, 3);
        QVERIFY(error_.contains("nothing"));
        run(QStringLiteral("connectors --cable coax-s6 --mhz -3"));
        QCOMPARE(exit_, 2);
    }
    void findingsOfTheDemosSystems() {
        const auto all = run({QStringLiteral("findings"), demo()});
        QCOMPARE(exit_, 0);
        QCOMPARE(all[QLatin1String("distributions")].toArray().size(), 2);
        const auto buses = all[QLatin1String("buses")].toArray();
        QCOMPARE(buses.size(), 1);
        const auto points = buses[0].toObject()[QLatin1String("points")].toArray();
        QCOMPARE(points.size(), 4);
        QVERIFY(!points[3].toObject()[QLatin1String("reasons")].toArray().isEmpty());
        QVERIFY(!buses[0].toObject()[QLatin1String("cures")].toArray().isEmpty());
        // One run alone: its own system and no other, and the same verdict.
        const auto one = run({QStringLiteral("findings"), demo(), QStringLiteral("--run"),
                              QStringLiteral("SO-C01")});
        QCOMPARE(one[QLatin1String("buses")].toArray().size(), 0);
        const auto distributions = one[QLatin1String("distributions")].toArray();
        QCOMPARE(distributions.size(), 1);
        const auto television = distributions[0].toObject();
        QVERIFY(!television[QLatin1String("good")].toBool());
        QVERIFY(
            television[QLatin1String("proposal")].toObject()[QLatin1String("possible")].toBool());
        const auto run1 = one[QLatin1String("runs")].toArray()[0].toObject();
        QCOMPARE(run1[QLatin1String("outlook")].toString(), QStringLiteral("fails"));
        for (const auto& value : all[QLatin1String("runs")].toArray())
            if (value.toObject()[QLatin1String("label")] == run1[QLatin1String("label")])
                QCOMPARE(value.toObject()[QLatin1String("outlookReason")],
                         run1[QLatin1String("outlookReason")]);
    }
    void aTreesWayBackAndSharingAreJudged() {
        const QString path = folder_.filePath(QStringLiteral("back.json"));
        const auto write = [&](const char* text) {
            QFile file(path);
            QVERIFY(file.open(QIODevice::WriteOnly));
            file.write(text);
        };
        write(R"({"levelDbuv": 80, "fromMhz": 950, "toMhz": 2150, "leastDbuv": 47, "mostDbuv": 77,
            "oneReceiverACable": true, "nodes": [
            {"id": "S", "part": "splitter", "ways": 2},
            {"id": "A", "from": "S", "part": "outlet", "cable": "coax-s6", "lengthM": 20},
            {"id": "B", "from": "S", "part": "outlet", "cable": "coax-s6", "lengthM": 20}]})");
        const auto shared = run({QStringLiteral("tree"), path});
        QCOMPARE(exit_, 0);
        QVERIFY(shared[QLatin1String("points")]
                    .toArray()[1]
                    .toObject()[QLatin1String("reason")]
                    .toString()
                    .contains(QStringLiteral("shares one output")));
        write(R"({"levelDbuv": 80, "fromMhz": 108, "toMhz": 1002, "leastDbuv": 52, "mostDbuv": 72,
            "returnPath": {"fromMhz": 5, "toMhz": 85, "mostLossDb": 12}, "nodes": [
            {"id": "A", "part": "outlet", "cable": "coax-s6", "lengthM": 200}]})");
        const auto back = run({QStringLiteral("tree"), path});
        const auto point = back[QLatin1String("points")].toArray()[0].toObject();
        // 200 m of 0.4608 + 0.6428·√85 + 0.00073·85 dB per 100 m.
        QVERIFY(qAbs(point[QLatin1String("returnPathLossDb")].toDouble() -
                     2 * (0.4608 + 0.6428 * std::sqrt(85.0) + 0.00073 * 85)) < 1e-9);
        QVERIFY(
            point[QLatin1String("reason")].toString().contains(QStringLiteral("on the way back")));
    }

    void endsAndToolsAreTold() {
        QTemporaryDir folder;
        const QString job = folder.filePath(QStringLiteral("demo.burin"));
        run({QStringLiteral("import"), QStringLiteral(BURIN_SOURCE "/demo/kittiwake.json"), job});
        const auto on = [&](const char* command, QStringList more = {}) {
            return run(QStringList{QLatin1String(command), job, QStringLiteral("--on"),
                                   QStringLiteral("2026-11-25")} +
                       more);
        };
        const auto all = on("ends");
        QCOMPARE(exit_, 0);
        QCOMPARE(all[QLatin1String("wanted")].toInt(), 76);
        int left = 0;
        QStringList again;
        for (const auto& place : all[QLatin1String("places")].toArray()) {
            left += place.toObject()[QLatin1String("left")].toInt();
            for (const auto& end : place.toObject()[QLatin1String("ends")].toArray())
                if (end.toObject()[QLatin1String("state")] == QLatin1String("again")) {
                    again << end.toObject()[QLatin1String("run")].toString();
                    QVERIFY(end.toObject()[QLatin1String("says")].toArray()[0].toString().contains(
                        QStringLiteral("3.9 mm")));
                }
        }
        QCOMPARE(left, 76 - all[QLatin1String("made")].toInt());
        QCOMPARE(again, QStringList{QStringLiteral("SO-C01")});
        const auto shelf =
            on("ends", {QStringLiteral("--place"), QStringLiteral("splitter shelf")});
        QCOMPARE(shelf[QLatin1String("places")].toArray().size(), 1);
        on("ends", {QStringLiteral("--place"), QStringLiteral("attic")});
        QCOMPARE(exit_, 3);
        QVERIFY(error_.contains("Name one of"));
        run({QStringLiteral("tools"), job, QStringLiteral("--on"), QStringLiteral("soon")});
        QCOMPARE(exit_, 3);
        const auto punch = on("tools")[QLatin1String("tools")].toArray()[2].toObject();
        QCOMPARE(punch[QLatin1String("name")].toString(), QStringLiteral("P1"));
        QCOMPARE(punch[QLatin1String("blades")].toObject()[QLatin1String("state")].toString(),
                 QStringLiteral("soon"));
        QCOMPARE(punch[QLatin1String("spoiled")].toInt(), 1);
        // The materials know what is left to make.
        double f = -1;
        for (const auto& line :
             run({QStringLiteral("materials"), job})[QLatin1String("lines")].toArray())
            if (line.toObject()[QLatin1String("id")] == QLatin1String("f-compression"))
                f = line.toObject()[QLatin1String("needed")].toDouble();
        QCOMPARE(f, 4.0); // both of RF-C02, both of SO-C01
    }
    void pullsAreTheReferencesCheckValues() {
        const auto newton = [this](const QString& text, const char* key) {
            return run(text.split(u' '))[QLatin1String(key)].toDouble();
        };
        const QString way = QStringLiteral("tension --weight 4.2 --cables 6 --part 20m --bend 90 "
                                           "--part 20m --bend 90 --part 10m --friction %1%2");
        const QString dry = way.arg(QStringLiteral("0.5"), QString());
        QVERIFY(qAbs(newton(dry, "forwardN") - 185.5) < 0.05);
        QVERIFY(qAbs(newton(dry, "backwardN") - 138.4) < 0.05);
        QVERIFY(
            qAbs(newton(way.arg(QStringLiteral("0.5"), QStringLiteral(" --drag 5")), "forwardN") -
                 329.8) < 0.05);
        const QString wet = way.arg(QStringLiteral("0.25"), QString());
        QVERIFY(qAbs(newton(wet, "forwardN") - 51.6) < 0.05);
        QVERIFY(qAbs(newton(wet, "backwardN") - 44.2) < 0.05);
        const QString up = QStringLiteral("tension --weight 5.2 --part 12m --rise 12 --bend 90 "
                                          "--part 20m");
        QVERIFY(qAbs(newton(up, "forwardN") - 18.5) < 0.05);
        // Refused where the way makes none.
        for (const char* wrong :
             {"tension --weight 5.2", "tension --weight 5.2 --rise 3 --part 4m",
              "tension --weight 5.2 --part 4m --rise 5", "tension --weight 5.2 --bend 400",
              "tension --weight 0 --part 4m", "tension --weight 5.2 --bend 90 --rise 1"}) {
            run(QString::fromLatin1(wrong).split(u' '));
            QVERIFY2(exit_ == 2, wrong);
        }
        run({QStringLiteral("tension"), QStringLiteral("--weight"), QStringLiteral("5.2"),
             QStringLiteral("--part"), QStringLiteral("far")});
        QCOMPARE(exit_, 3);
    }

    void copiesAreMergedAndEdited() {
        const auto file = [&](const char* name, const QJsonDocument& edits) {
            const QString path = folder_.filePath(QString::fromLatin1(name));
            QFile out(path);
            const QByteArray text = edits.toJson();
            return out.open(QIODevice::WriteOnly) && out.write(text) == text.size() ? path
                                                                                    : QString();
        };
        const auto set = [](const char* label, const char* field, const char* value) {
            return QJsonObject{{QStringLiteral("op"), QStringLiteral("set")},
                               {QStringLiteral("kind"), QStringLiteral("run")},
                               {QStringLiteral("label"), QString::fromLatin1(label)},
                               {QStringLiteral("field"), QString::fromLatin1(field)},
                               {QStringLiteral("value"), QString::fromLatin1(value)}};
        };
        const auto edit = [](const char* title, const QJsonArray& changes) {
            return QJsonObject{{QStringLiteral("title"), QString::fromLatin1(title)},
                               {QStringLiteral("changes"), changes}};
        };
        const QString mine = folder_.filePath(QStringLiteral("mine.burin"));
        const QString theirs = folder_.filePath(QStringLiteral("theirs.burin"));
        QVERIFY(QFile::copy(demo(), mine) && QFile::copy(demo(), theirs));
        const QString my =
            file("my.json", QJsonDocument(edit("mine", {set("SL-D01", "nearEnd", "Panel A port 10"),
                                                        set("SL-D03", "note", "pulled")})));
        const QString their =
            file("their.json",
                 QJsonDocument(QJsonArray{edit("theirs", {set("SL-D01", "farEnd", "bench, right")}),
                                          edit("note", {set("SL-D03", "note", "pull again")})}));
        const QByteArray before = [&] {
            QFile in(mine);
            return in.open(QIODevice::ReadOnly) ? in.readAll() : QByteArray();
        }();
        auto out = run({QStringLiteral("edit"), mine, my, QStringLiteral("--dry-run")});
        QCOMPARE(exit_, 0);
        QCOMPARE(out[QLatin1String("changes")].toArray().size(), 2);
        QCOMPARE(out[QLatin1String("changes")]
                     .toArray()[1]
                     .toObject()[QLatin1String("after")]
                     .toString(),
                 QStringLiteral("pulled"));
        QFile untouched(mine);
        QVERIFY(untouched.open(QIODevice::ReadOnly) && untouched.readAll() == before);
        run({QStringLiteral("edit"), mine, my});
        QCOMPARE(exit_, 0);
        run({QStringLiteral("edit"), theirs, their});
        QCOMPARE(exit_, 0);
        const QString merged = folder_.filePath(QStringLiteral("merged.burin"));
        out = run({QStringLiteral("merge"), mine, theirs, merged});
        QCOMPARE(exit_, 0);
        QCOMPARE(out[QLatin1String("merged")].toInt(), 2);
        const auto conflicts = out[QLatin1String("conflicts")].toArray();
        QCOMPARE(conflicts.size(), 1);
        const auto conflict = conflicts[0].toObject();
        QCOMPARE(conflict[QLatin1String("field")].toString(), QStringLiteral("note"));
        QVERIFY(conflict[QLatin1String("base")].isNull());
        QCOMPARE(conflict[QLatin1String("mine")].toString(), QStringLiteral("pulled"));
        QCOMPARE(conflict[QLatin1String("theirs")].toString(), QStringLiteral("pull again"));
        QCOMPARE(
            run({QStringLiteral("findings"), merged})[QLatin1String("conflicts")].toArray().size(),
            1);
        // Nothing is written over; another job, and a list one of whose edits is wrong, are
        // refused.
        run({QStringLiteral("merge"), mine, theirs, merged});
        QCOMPARE(exit_, 3);
        run({QStringLiteral("merge"), mine,
             QStringLiteral(BURIN_SOURCE "/tests/fixtures/job-v5.burin"),
             folder_.filePath(QStringLiteral("none.burin"))});
        QCOMPARE(exit_, 3);
        QVERIFY(!QFile::exists(folder_.filePath(QStringLiteral("none.burin"))));
        const QString bad =
            file("bad.json", QJsonDocument(QJsonArray{edit("a", {set("SL-D01", "note", "x")}),
                                                      edit("b", {set("NO-D01", "note", "x")})}));
        run({QStringLiteral("edit"), mine, bad});
        QCOMPARE(exit_, 3);
        QVERIFY(error_.contains("edit 2") && error_.contains("NO-D01"));
        out = run({QStringLiteral("edit"), mine, my, QStringLiteral("--dry-run")});
        QVERIFY(!out[QLatin1String("changes")].toArray()[0].toObject().isEmpty());
        const auto form = run({QStringLiteral("format")});
        QCOMPARE(form[QLatin1String("version")].toInt(), 9);
        QCOMPARE(form[QLatin1String("kinds")].toArray().size(), 24);
    }
};
QTEST_GUILESS_MAIN(TestCli)
#include "test_cli.moc"
