#pragma once
#include "core/history/log.h"
#include "files/job_tables.h"
#include <QByteArray>
#include <map>

namespace burin {

/// What tells a job from one whose bytes were altered on the disk, since SQLite looks at the shape
/// of its pages and not at the figures in them: for each kind, the exclusive-or of the first 16
/// bytes of the BLAKE2b-160 of every row's JSON, with the rows it owns. An edit changes it by its
/// own rows alone.
class JobSeal {
public:
    /// Of a job's rows as that version of the format writes them.
    static JobSeal of(const Job& job, int version = formatVersion);
    void take(const RowChanges& rows);
    /// A line of the log; once more takes it out again.
    void takeLine(const std::string& line);
    /// The tally of a kind as 32 hexadecimal digits; noughts for one without rows.
    [[nodiscard]] QByteArray hex(std::string_view kind) const;

private:
    void mix(std::string_view kind, const QByteArray& seal);
    std::map<std::string, QByteArray, std::less<>> tallies_;
};
/// The kind of the log's lines in the seal.
inline constexpr std::string_view logKind = "log";

/// The first 16 bytes of the BLAKE2b-160 of these texts, each ended by a nought, as hex.
QByteArray sealOfTexts(std::initializer_list<std::string_view> texts);

/// The seal in the job's own table. These throw SqlFailed.
void createSealTable(QSqlDatabase& db);
/// Writes the seal of the kinds that rows touched and of the log; of all without rows.
void writeSeal(QSqlDatabase& db, const JobSeal& seal, const RowChanges* rows = nullptr);
/// Refused where a kind of that version, or the log, is not as the job's seal has it.
Outcome<bool> checkSeal(QSqlDatabase& db, const JobSeal& seal, int version,
                        const std::string& where);

} // namespace burin
