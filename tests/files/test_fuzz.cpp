#include "core/describe/json_reader.h"
#include "core/edit/edit.h"
#include "core/units/render.h"
#include "files/measured_file.h"
#include <QElapsedTimer>
#include <QTest>
#include <fstream>
#include <functional>
#include <random>
#include <sstream>

using namespace burin;

namespace {

constexpr int rounds = 10000;

std::string demoJob() {
    std::ifstream in(BURIN_SOURCE "/demo/kittiwake.json");
    std::stringstream out;
    out << in.rdbuf();
    // The whole demo is a megabyte; its job without the files keeps the rounds quick.
    const auto parsed = parseJson(out.str(), "demo");
    return parsed ? (*parsed)["job"].dump(1) : std::string();
}

/// A text a few random steps away from one that is good, or plain noise.
std::string mutated(const std::vector<std::string>& seeds, std::mt19937& random) {
    const auto upTo = [&](std::size_t n) {
        return std::uniform_int_distribution<std::size_t>(0, n)(random);
    };
    static const std::string spice = "0123456789.,;-+eE# !\n\r\t\"[]{}:\\()jSsRMADBI\xff\x80";
    if (upTo(19) == 0) {
        std::string noise(upTo(300), ' ');
        for (char& c : noise)
            c = static_cast<char>(upTo(255));
        return noise;
    }
    std::string text = seeds[upTo(seeds.size() - 1)];
    for (auto steps = 1 + upTo(7); steps > 0 && !text.empty(); --steps) {
        const auto at = upTo(text.size() - 1);
        switch (upTo(5)) {
        case 0:
            text[at] = spice[upTo(spice.size() - 1)];
            break;
        case 1:
            text.erase(at, 1 + upTo(20));
            break;
        case 2:
            text.insert(at, text.substr(upTo(text.size() - 1), upTo(60)));
            break;
        case 3:
            text.resize(at);
            break;
        case 4:
            text.insert(at, upTo(1) == 0 ? "1e308" : "-99999999999999999999");
            break;
        default:
            text[at] = static_cast<char>(upTo(255));
        }
    }
    return text;
}

/// Every round is read or refused with a cause and a cure, in time.
void run(const std::vector<std::string>& seeds,
         const std::function<std::optional<Fault>(const std::string&)>& read) {
    std::mt19937 random(20261123);
    int refused = 0;
    QElapsedTimer clock;
    for (int i = 0; i < rounds; ++i) {
        const std::string text = mutated(seeds, random);
        clock.start();
        if (const auto fault = read(text)) {
            ++refused;
            QVERIFY2(!fault->what.empty() && !fault->cure.empty() && !fault->where.empty(),
                     render(*fault, {}).c_str());
        }
        QVERIFY2(clock.elapsed() < 2000, text.c_str());
    }
    QVERIFY2(refused > rounds / 10 && refused < rounds, qPrintable(QString::number(refused)));
}

template <typename T> std::optional<Fault> faultOf(const Outcome<T>& outcome) {
    return outcome ? std::nullopt : std::optional(outcome.error());
}

} // namespace

class TestFuzz : public QObject {
    Q_OBJECT
private slots:
    void touchstone() {
        const std::vector<std::string> seeds{
            "! c\n# MHz S DB R 50\n1 -1 0 -2 1 -3 2 -4 3\n2 -1 0 -2 1 -3 2 -4 3\n1 0.5 0 134 0.1\n",
            "# Hz S RI R 75\n1e6 0.1 0.2 0.3 0.4\n 0.5 0.6 0.7 0.8\n2e6 1 2 3 4 5 6 7 8\n"};
        run(seeds, [](const std::string& text) {
            const auto outcome = readTouchstone(text, "x.s2p");
            if (!outcome && outcome.error().line == 0)
                return std::optional(Fault{}); // a refusal without its line
            if (outcome && outcome->sweep->s.size() != 4 * outcome->sweep->frequencyMhz.size())
                return std::optional(Fault{});
            return faultOf(outcome);
        });
    }
    void csv() {
        run({"Frequency (MHz),IL 1-2 (dB),NEXT 1-2/3-6\n1,2.5,70\n2,3.5,65\n3,4,60\n",
             "f [GHz];IL;\"R;L\"\n0,1;2,5;3\n0,2;3;4\n", "freq_Hz\tx\n1000000\t1\n2000000\t2\n"},
            [](const std::string& text) { return faultOf(readCsv(text, "x.csv")); });
    }
    void jobJson() {
        const std::string demo = demoJob();
        QVERIFY(demo.size() > 1000);
        run({demo.substr(0, 400), demo}, [](const std::string& text) {
            const auto json = parseJson(text, "x.json");
            if (!json)
                return faultOf(json);
            return faultOf(readJob(*json, "x.json", 5));
        });
    }
    void cable() {
        run({R"({"id":"u","name":"n","kind":"coax","centreConductor":"","k0Db":{"value":0.4,"source":"s"},)"
             R"("k1Db":{"value":0.6,"source":"s"},"k2Db":{"value":0.001,"source":"s"},)"
             R"("topMhz":{"value":1000,"source":"s"},"impedanceOhm":{"value":75,"source":"s"},)"
             R"("nvp":{"value":0.83,"source":"s"},"conductorOhmPerKm":{"value":22,"source":"s"}})"},
            [](const std::string& text) { return faultOf(readCable(text, "x")); });
    }
};

QTEST_GUILESS_MAIN(TestFuzz)
#include "test_fuzz.moc"
