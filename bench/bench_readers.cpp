// Writes a 10,000-point .s4p when told to, or reads one and prints the seconds of the best of five.
#include "files/measured_file.h"
#include "files/text_cursor.h"
#include <chrono>
#include <cmath>
#include <cstdio>
#include <fstream>
#include <string_view>

int main(int argc, char** argv) {
    using namespace burin;
    if (argc != 3)
        return 2;
    const std::string path = argv[2];
    if (std::string_view(argv[1]) == "make") {
        NetworkSweep s{4, {}, {}, {50, 50, 50, 50}};
        for (int k = 0; k < 10000; ++k) {
            s.frequencyMhz.push_back(1 + 0.05 * k);
            for (int i = 0; i < 16; ++i)
                s.s.push_back(std::polar(0.05 * (i + 1), 0.001 * k * i));
        }
        std::ofstream(path) << writeTouchstone(s, "bench");
        return 0;
    }
    double best = 1e9;
    for (int i = 0; i < 5; ++i) {
        const auto start = std::chrono::steady_clock::now();
        const auto bytes = readWholeFile(path);
        const auto file =
            bytes ? readTouchstone(*bytes, path) : Outcome<MeasuredFile>(refuse(bytes.error()));
        const std::chrono::duration<double> took = std::chrono::steady_clock::now() - start;
        if (!file || file->sweep->frequencyMhz.size() != 10000)
            return 3;
        best = std::min(best, took.count());
    }
    std::printf("%.6f\n", best);
    return 0;
}
