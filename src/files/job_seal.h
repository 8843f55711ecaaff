#pragma once
#include "core/job/job_json.h"
#include "files/sql.h"
#include <QByteArray>
#include <map>
#include <string>
#include <vector>

namespace burin {

/// A change with its JSON made once: what is written, sealed and logged is the same text.
struct WrittenChange { // NOLINT(bugprone-exception-escape): the JSON library's own move
    std::string_view kind;
    std::string id;
    Json before, after; ///< null: there is none
    std::string beforeText, afterText;
};
using WrittenEdit = std::vector<WrittenChange>;

WrittenEdit written(const Edit& edit);
/// The same from the JSON of an edit that was read from it, done or taken back.
WrittenEdit written(Json editJson, bool takenBack);
/// The edit's JSON, as toJson(edit).dump() gives it.
std::string logText(const std::string& title, const WrittenEdit& changes);

/// What tells a job from one whose bytes were altered on the disk, since SQLite looks at the shape
/// of its pages and not at the figures in them: for each kind, the exclusive-or of the first 16
/// bytes of the BLAKE2b-160 of every thing's JSON. An edit changes it by its own things alone.
class JobSeal {
public:
    static JobSeal of(const Job& job);
    void take(const WrittenEdit& edit);
    /// A line of the logbook came into a state, or left it.
    void takeLine(qint64 sequence, std::string_view state);
    /// The tally of a kind as 32 hexadecimal digits; noughts for one without things.
    [[nodiscard]] QByteArray hex(std::string_view kind) const;

private:
    void mix(std::string_view kind, const QByteArray& seal);
    std::map<std::string, QByteArray, std::less<>> tallies_;
};
/// The kind of the logbook's lines in the seal.
inline constexpr std::string_view logKind = "log";

/// The seal of a line of the logbook.
QByteArray sealOfLogLine(const std::string& who, const std::string& title,
                         const std::string& editJson);

/// The seal in the job's own table. These throw SqlFailed.

/// Writes the seal of the kinds an edit touched and of the logbook; of all without an edit.
void writeSeal(QSqlDatabase& db, const JobSeal& seal, const WrittenEdit* edit = nullptr);
/// The seal of a job and of the logbook's lines in the tables.
JobSeal sealOf(QSqlDatabase& db, const Job& job);
/// Refused where a kind of things, or the logbook, is not as the job's seal has it.
Outcome<bool> checkSeal(QSqlDatabase& db, const JobSeal& seal, const std::string& where);

} // namespace burin
