#pragma once
#include <QByteArray>
#include <QString>
#include <QtGlobal>
#include <algorithm>
#include <random>

namespace burin {

/// How many rounds: a few of them in every run of the tests, all with BURIN_TRIALS=all, as
/// scripts/trials.sh sets it.
inline int rounds(int all, int few) {
    return qEnvironmentVariable("BURIN_TRIALS") == QLatin1String("all") ? all : few;
}

/// The same draws every time; another number tries others (BURIN_TRIALS_SEED).
inline std::mt19937 trialDice() {
    bool given = false;
    const int seed = qEnvironmentVariableIntValue("BURIN_TRIALS_SEED", &given);
    return std::mt19937(given ? static_cast<unsigned>(seed) : 20261125U);
}

inline std::size_t upTo(std::mt19937& dice, std::size_t most) {
    return std::uniform_int_distribution<std::size_t>(0, most)(dice);
}

template <typename List> const auto& oneOf(std::mt19937& dice, const List& list) {
    return list[upTo(dice, std::size(list) - 1)];
}

/// A few random steps away from what it was.
inline void mutate(std::mt19937& dice, QByteArray& bytes) {
    for (auto steps = 1 + upTo(dice, 7); steps > 0 && !bytes.isEmpty(); --steps) {
        const auto at =
            static_cast<qsizetype>(upTo(dice, static_cast<std::size_t>(bytes.size() - 1)));
        switch (upTo(dice, 5)) {
        case 0:
            bytes[at] = static_cast<char>(upTo(dice, 255));
            break;
        case 1:
            bytes.remove(at, static_cast<qsizetype>(1 + upTo(dice, 40)));
            break;
        case 2:
            bytes.insert(at, bytes.mid(static_cast<qsizetype>(
                                           upTo(dice, static_cast<std::size_t>(bytes.size() - 1))),
                                       static_cast<qsizetype>(upTo(dice, 80))));
            break;
        case 3:
            if (upTo(dice, 3) == 0)
                bytes.truncate(at);
            break;
        case 4:
            bytes.insert(at, upTo(dice, 1) == 0 ? "1e308" : "-99999999999999999999");
            break;
        default:
            bytes[at] = static_cast<char>(bytes[at] ^ (1 << upTo(dice, 7)));
        }
    }
}

} // namespace burin
