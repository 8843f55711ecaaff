#include "core/says.h"
#include "core/units/render.h"
#include "files/measured_file.h"
#include "files/short_number.h"
#include "files/text_cursor.h"
#include <QElapsedTimer>
#include <QTest>
#include <cmath>

using namespace burin;

namespace {

MeasuredFile good(const char* text, const char* name) {
    auto out = readMeasuredFile(text, name);
    if (!out) {
        QTest::qFail(render(out.error(), {}).c_str(), __FILE__, __LINE__);
        return {};
    }
    return *out;
}

Fault bad(std::string_view text, const char* name) {
    auto out = readMeasuredFile(text, name);
    if (out) {
        QTest::qFail("it was read", __FILE__, __LINE__);
        return {};
    }
    return out.error();
}

} // namespace

class TestReaders : public QObject {
    Q_OBJECT
private slots:
    void touchstoneFormats() {
        const auto ma = good("# Hz S MA R 75\n1e8 0.5 90\n", "a.s1p");
        QCOMPARE(ma.sweep->frequencyMhz[0], 100.0);
        QCOMPARE(ma.sweep->referenceOhm[0], 75.0);
        QVERIFY(std::abs(ma.sweep->s[0] - std::complex<double>(0, 0.5)) < 1e-12);
        const auto db = good("# khz s db\n1000 -20 180 ! end\n", "a.S1P");
        QVERIFY(std::abs(db.sweep->s[0] + 0.1) < 1e-12);
        const auto ri = good("! c\n# GHZ S RI R 50\r\n1 1 2\r2 3 4\n", "a.s1p");
        QCOMPARE(ri.sweep->frequencyMhz.size(), 2U);
        QCOMPARE(ri.sweep->s[1], std::complex<double>(3, 4));
    }
    void encodings() {
        const auto utf16 = [](const char16_t* text, bool little) {
            QByteArray out(little ? "\xff\xfe" : "\xfe\xff");
            for (; *text != 0; ++text) {
                const char low = static_cast<char>(*text & 0xffU);
                const char high = static_cast<char>(*text >> 8U);
                out += little ? low : high;
                out += little ? high : low;
            }
            return out.toStdString();
        };
        for (const bool little : {true, false}) {
            const auto file = readMeasuredFile(utf16(u"f (MHz),µ\n1,2\n", little), "a.csv");
            QVERIFY(file.has_value());
            QCOMPARE(file->table->columns[0].header, std::string("µ"));
            QVERIFY(english(file->notes.front()).find("UTF-16") != std::string::npos);
        }
        const auto latin = readMeasuredFile("f (MHz),\xb5\n1,2\n", "a.csv");
        QVERIFY(latin.has_value());
        QCOMPARE(latin->table->columns[0].header, std::string("µ"));
        QVERIFY(good("f (MHz),µ\n1,2\n", "a.csv").notes.empty());
        QVERIFY(!bad("\xff\xfe\x00\xd8", "a.csv").cure.empty()); // half of a pair
        // In a comment of a sweep it does no harm.
        QCOMPARE(good("! D\xe4mpfung\n# MHz S RI\n1 1 2\n", "a.s1p").sweep->s.size(), 1U);
        QVERIFY(QString::fromStdString(render(bad("# MHz S RI\n1 \xe4 2\n", "a.s1p"), {}))
                    .contains("ä"));
    }
    void limitsAreStatedAndLinear() {
        QElapsedTimer clock;
        const auto said = [](const std::string& text, const char* name) {
            const auto out = readMeasuredFile(text, name);
            return out ? std::string() : render(out.error(), {});
        };
        std::string columns = "f (MHz)";
        for (int i = 0; i < 100000; ++i)
            columns += ",c";
        QVERIFY(said(columns + "\n", "a.csv").find("columns, more than 1000") != std::string::npos);
        QVERIFY(said(std::string(3 << 20, 'x'), "a.csv").find("over 1 MiB") != std::string::npos);
        QVERIFY(said(std::string((64 << 20) + 1, ' '), "a.csv").find("larger than 64 MiB") !=
                std::string::npos);
        std::string line = "# MHz S RI R 50\n";
        for (int i = 0; i < 400000; ++i)
            line += std::to_string(i) + " 0.1 0.2 ";
        QVERIFY(said(line, "a.s1p").find("over 1 MiB") != std::string::npos);
        // Lines that end in carriage returns alone: each is looked at once, so that twice as many
        // take twice as long, whatever else the machine does.
        const auto rows = [](int count) {
            std::string out = "f (MHz),IL\r";
            for (int i = 1; i <= count; ++i)
                out += std::to_string(i) + ",2\r";
            return out;
        };
        const auto milliseconds = [&](int count) {
            const std::string text = rows(count);
            clock.start();
            const auto read = readMeasuredFile(text, "a.csv");
            const auto took = static_cast<double>(std::max<qint64>(1, clock.elapsed()));
            return read && read->table->frequencyMhz.size() == std::size_t(count) ? took : -1;
        };
        const double tenth = milliseconds(90000);
        const double whole = milliseconds(900000);
        QVERIFY(tenth > 0 && whole > 0);
        QVERIFY2(whole < 40 * tenth + 200,
                 qPrintable(QStringLiteral("%1 and %2 ms").arg(tenth).arg(whole)));
        QVERIFY(said(rows(1000001), "a.csv").find("over 1000000 rows") != std::string::npos);
    }
    void twoPortsAreByColumns() {
        const auto f = good("# MHz S RI\n1 11 0 21 0 12 0 22 0\n", "a.s2p");
        QCOMPARE(f.sweep->at(0, 0, 1).real(), 12.0);
        QCOMPARE(f.sweep->at(0, 1, 0).real(), 21.0);
    }
    void fourPortsAcrossOddLineBreaks() {
        const auto f =
            good("# MHz S RI\n1 1 0 2 0 3 0 4 0 5 0\n6 0 7 0 8 0 9 0\n\n10 0 11 0 12 0 13 0 "
                 "14 0 15 0 16\n0\n",
                 "a.s4p");
        QCOMPARE(f.sweep->at(0, 1, 0).real(), 5.0);
        QCOMPARE(f.sweep->at(0, 3, 3).real(), 16.0);
    }
    void noiseIsSkippedWithANote() {
        const auto f = good(
            "# GHz S RI\n1 0 0 1 0 1 0 0 0\n2 0 0 1 0 1 0 0 0\n1 0.5 0 134 0.1\n2 1 0 134 0.1\n",
            "a.s2p");
        QCOMPARE(f.sweep->frequencyMhz.size(), 2U);
        QCOMPARE(f.notes.size(), 1U);
        QVERIFY(english(f.notes[0]).find("line 4") != std::string::npos);
    }
    void longFilesKeepTheirPlaces() {
        for (const char* format : {"MA", "DB", "RI"}) {
            std::string text = std::string("# MHz S ") + format + " R 50\n";
            std::string byWords = text; // a comment in every row keeps it off the short way
            for (int k = 0; k < 20000; ++k) {
                std::string row = std::to_string(k + 1);
                for (int i = 0; i < 8; ++i)
                    row += (i == 4 && k % 7 == 0 ? "\r\n " : " ") +
                           std::to_string(0.001 * ((k * 7 + i * 13) % 997));
                byWords += row + " ! note\n";
                text += row + (k % 100 == 0 ? " ! note\n" : "\n");
            }
            const auto fast = readTouchstone(text, "a.s2p");
            const auto slow = readTouchstone(byWords + "1 0 0 0 0\n", "a.s2p"); // ends in noise
            QVERIFY(fast.has_value() && slow.has_value());
            QCOMPARE(fast->sweep->frequencyMhz.size(), 20000U);
            QCOMPARE(fast->sweep->frequencyMhz, slow->sweep->frequencyMhz);
            QVERIFY(fast->sweep->s == slow->sweep->s);
            QCOMPARE(slow->notes.size(), 1U);
            const auto broken = readTouchstone(text + "30000 1 x\n", "a.s2p");
            QVERIFY(!broken.has_value());
            QCOMPARE(broken.error().line, 20002 + 2858);
            QCOMPARE(broken.error().column, 9);
        }
    }
    void shortNumbersAreExact() {
        const auto scan = [](const char* text, double& value) {
            const std::string padded = text + std::string(shortNumberRoom, ' ');
            const char* end = scanShortNumber(padded.data(), value);
            return end == nullptr ? 0 : end - padded.data();
        };
        double value = 0;
        for (const char* text :
             {"0", "-0.1", "1e22", "9.99999833e-05", "123456789012345", "0.000999997333", "+2.5E+3",
              "1.", ".5", "12345678", "123456789.123456", "0.12345678", "0.12345678901234"}) {
            QCOMPARE(scan(text, value), std::ptrdiff_t(std::strlen(text)));
            QCOMPARE(value, std::strtod(text, nullptr));
        }
        for (const char* text : {"", "x", "1x", "1e", "1.2.3", "-", "1234567890123456789", "1e99",
                                 "nan", "1e222", "0.1234567890123456", "0.12345678901234567"})
            QVERIFY2(scan(text, value) == 0, text);
    }
    void complexReferenceIsKept() {
        const auto f = good("# GHz S RI R (50+5j)\n1 0 0\n", "a.s1p");
        QCOMPARE(f.sweep->referenceReactanceOhm, 5.0);
    }
    void touchstoneFaultsHavePlaces() {
        Fault f = bad("# MHz S RI\n1 0 x\n", "a.s1p");
        QCOMPARE(f.line, 2);
        QCOMPARE(f.column, 5);
        f = bad("# MHz S RI\n1 0 0 1\n", "a.s2p");
        QCOMPARE(f.line, 2);
        QVERIFY(render(f.what, {}).find("4 of 9") != std::string::npos);
        f = bad("# MHz Z RI\n1 0 0\n", "a.s1p");
        QCOMPARE(f.column, 7);
        QVERIFY(render(bad("[Version] 2.0\n", "a.s2p").what, {}).find("Touchstone 2") !=
                std::string::npos);
        QVERIFY(render(bad("# MHz S RI\n2 0 0\n1 0 0\n", "a.s1p").what, {}).find("does not rise") !=
                std::string::npos);
        QVERIFY(render(bad("# MHz S RI R -50\n1 0 0\n", "a.s1p").what, {}).find("above 0") !=
                std::string::npos);
        QVERIFY(!bad("", "a.s1p").cure.empty());
        QVERIFY(!bad("# MHz S RI\n1 nan 0\n", "a.s1p").cure.empty());
        QVERIFY(!bad(std::string_view("a\0b", 3), "a.s1p").cure.empty());
    }
    void writtenIsReadBack() {
        NetworkSweep s{3, {1, 2.5}, {}, {50, 50, 50}};
        for (int i = 0; i < 18; ++i)
            s.s.emplace_back(0.1 * i, -0.01 * i);
        const auto again = readTouchstone(writeTouchstone(s, "two\nlines"), "x.s3p");
        QVERIFY(again.has_value());
        QCOMPARE(again->sweep->s.size(), s.s.size());
        for (std::size_t i = 0; i < s.s.size(); ++i)
            QVERIFY(std::abs(again->sweep->s[i] - s.s[i]) < 1e-9);
    }
    void csvSeparatorsAndCommas() {
        const auto comma =
            good("# made\nFrequency (MHz),IL 1-2 (dB),\"RL, far\"\n1,2.5,3\n2,4,5\n", "a.csv");
        QCOMPARE(comma.table->columns.size(), 2U);
        QCOMPARE(comma.table->columns[1].header, std::string("RL, far"));
        QCOMPARE(comma.table->columns[0].unit, std::string("dB"));
        const auto semicolon = good("f [GHz];IL 1-2\n0,1;2,5\n0,2;-3,5\n", "a.csv");
        QCOMPARE(semicolon.table->frequencyMhz[1], 200.0);
        QCOMPARE(semicolon.table->columns[0].values[1], -3.5);
        const auto tab = good("freq_Hz\tx\n1000000\t1\n", "a.txt");
        QCOMPARE(tab.table->frequencyMhz[0], 1.0);
    }
    void csvUnitIsAskedFor() {
        QVERIFY(render(bad("frequency,IL\n1,2\n", "a.csv").what, {}).find("unit of frequency") !=
                std::string::npos);
        const auto given = readMeasuredFile("frequency,IL\n1,2\n", "a.csv", "GHz");
        QVERIFY(given.has_value());
        QCOMPARE(given->table->frequencyMhz[0], 1000.0);
    }
    void csvFaultsHavePlaces() {
        Fault f = bad("f (MHz),IL\n1,2\n2,x\n", "a.csv");
        QCOMPARE(f.line, 3);
        QCOMPARE(f.column, 3);
        f = bad("f (MHz),IL\n1,5,2\n", "a.csv");
        QCOMPARE(f.line, 2);
        QVERIFY(render(f.cure, {}).find("comma") != std::string::npos);
        QCOMPARE(bad("f (MHz),IL\n2,2\n1,2\n", "a.csv").line, 3);
        QVERIFY(!bad("1,2\n", "a.csv").cure.empty());
        QVERIFY(!bad("", "a.csv").cure.empty());
        QVERIFY(!bad("just words\n", "a.csv").cure.empty());
        QVERIFY(!bad("f (MHz),IL\n", "a.csv").cure.empty());
    }
};

QTEST_GUILESS_MAIN(TestReaders)
#include "test_readers.moc"
