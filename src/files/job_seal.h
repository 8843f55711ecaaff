#pragma once
#include "core/job/edit.h"
#include <QByteArray>
#include <map>
#include <string>

namespace burin {

/// What tells a job from one whose bytes were altered on the disk, since SQLite looks at the shape
/// of its pages and not at the figures in them: for each kind, the exclusive-or of the first 16
/// bytes of the SHA-256 of every thing's JSON. An edit changes it by its own things alone.
class JobSeal {
public:
    static JobSeal of(const Job& job);
    void take(const Edit& edit);
    /// The tally of a kind as 32 hexadecimal digits; noughts for one without things.
    [[nodiscard]] QByteArray hex(std::string_view kind) const;

private:
    void mix(std::string_view kind, const QByteArray& seal);
    std::map<std::string, QByteArray, std::less<>> tallies_;
};

/// The seal of a line of the logbook.
QByteArray sealOfLogLine(const std::string& who, const std::string& title,
                         const std::string& editJson);

} // namespace burin
