#include "files/job_tables.h"

namespace burin {
namespace {

const char* const schema[] = {
    "CREATE TABLE job (id TEXT PRIMARY KEY, name TEXT NOT NULL, limit_set TEXT NOT NULL,"
    " bundle_school TEXT NOT NULL, wiring TEXT NOT NULL, accuracy_json TEXT NOT NULL)",
    "CREATE TABLE room (id TEXT PRIMARY KEY, letters TEXT NOT NULL, name TEXT NOT NULL,"
    " tape INTEGER NOT NULL, shown_order INTEGER NOT NULL)",
    "CREATE TABLE run (id TEXT PRIMARY KEY, room_id TEXT NOT NULL, label TEXT NOT NULL,"
    " shown_order INTEGER NOT NULL, service_id TEXT NOT NULL, cable_id TEXT NOT NULL,"
    " near_end TEXT NOT NULL, far_end TEXT NOT NULL, head_level REAL, loss_budget_db REAL,"
    " band_from_mhz REAL, band_to_mhz REAL, power_w REAL, load_ratio REAL, left_coiled INTEGER, "
    "note TEXT)",
    "CREATE TABLE run_stretch (run_id TEXT NOT NULL, position INTEGER NOT NULL,"
    " name TEXT NOT NULL, length_m REAL NOT NULL, temperature_c REAL NOT NULL,"
    " neighbours INTEGER NOT NULL, PRIMARY KEY (run_id, position)) WITHOUT ROWID",
    "CREATE TABLE run_cord (run_id TEXT NOT NULL, position INTEGER NOT NULL, \"end\" TEXT NOT NULL,"
    " cable_id TEXT NOT NULL, length_m REAL NOT NULL, awg26 INTEGER,"
    " PRIMARY KEY (run_id, position)) WITHOUT ROWID",
    "CREATE TABLE run_connection (run_id TEXT NOT NULL, position INTEGER NOT NULL,"
    " \"end\" TEXT NOT NULL, connection_id TEXT NOT NULL, at_m REAL,"
    " PRIMARY KEY (run_id, position)) WITHOUT ROWID",
    "CREATE TABLE measurement (id TEXT PRIMARY KEY, run_id TEXT NOT NULL, taken_at TEXT NOT NULL,"
    " link TEXT NOT NULL, pair TEXT, file_name TEXT, file_hash TEXT, frequency_unit TEXT,"
    " columns TEXT, port_order TEXT, tester_json TEXT NOT NULL, note TEXT)",
    "CREATE TABLE user_cable (id TEXT PRIMARY KEY, figures_json TEXT NOT NULL)",
    "CREATE TABLE attachment (hash TEXT PRIMARY KEY, name TEXT NOT NULL, bytes BLOB NOT NULL)",
    "CREATE TABLE edit_log (sequence INTEGER PRIMARY KEY AUTOINCREMENT, at TEXT NOT NULL,"
    " who TEXT NOT NULL, title TEXT NOT NULL, state TEXT NOT NULL, edit_json TEXT NOT NULL)",
    "CREATE INDEX edit_log_state ON edit_log (state, sequence)",
};

/// What each later version added. A new job is made of the first version's tables and all of these,
/// so that it cannot differ from one brought up to date.
struct Step {
    int version;
    const char* statement;
};
const Step steps[] = {
    {2, "ALTER TABLE run ADD COLUMN powered_type INTEGER"},
    {2, "ALTER TABLE run ADD COLUMN per_direction INTEGER"},
    {2, "ALTER TABLE run_stretch ADD COLUMN around TEXT"},
    {2, "ALTER TABLE run_connection ADD COLUMN outdoors INTEGER"},
    {2, "CREATE TABLE distribution (id TEXT PRIMARY KEY, name TEXT NOT NULL,"
        " service_id TEXT NOT NULL, head_level REAL NOT NULL, slope_db REAL NOT NULL,"
        " channels INTEGER NOT NULL, head_outputs INTEGER NOT NULL, head_ampere REAL NOT NULL,"
        " parts_json TEXT NOT NULL)"},
    {2, "CREATE TABLE bus (id TEXT PRIMARY KEY, name TEXT NOT NULL, rise_ns REAL NOT NULL,"
        " bit_rate_kbit REAL NOT NULL, supply_v REAL NOT NULL,"
        " supply_tolerance_share REAL NOT NULL, supply_pairs INTEGER NOT NULL, supply_awg REAL,"
        " devices_json TEXT NOT NULL)"},
    {3, "ALTER TABLE job ADD COLUMN survey_json TEXT"},
    {3, "ALTER TABLE room ADD COLUMN floor_id TEXT"},
    {3, "ALTER TABLE room ADD COLUMN outline_json TEXT"},
    {3, "ALTER TABLE run ADD COLUMN near_place_id TEXT"},
    {3, "ALTER TABLE run ADD COLUMN far_place_id TEXT"},
    {3, "ALTER TABLE run ADD COLUMN follows_plan INTEGER"},
    {3, "ALTER TABLE run ADD COLUMN vias_json TEXT"},
    {3, "ALTER TABLE run ADD COLUMN jacket TEXT"},
    {3, "CREATE TABLE floor (id TEXT PRIMARY KEY, name TEXT NOT NULL, shown_order INTEGER NOT NULL,"
        " elevation_m REAL NOT NULL, ceiling_m REAL NOT NULL, void_m REAL NOT NULL,"
        " width_m REAL NOT NULL, depth_m REAL NOT NULL, picture_json TEXT)"},
    {3, "CREATE TABLE place (id TEXT PRIMARY KEY, name TEXT NOT NULL, kind TEXT NOT NULL,"
        " floor_id TEXT NOT NULL, room_id TEXT NOT NULL, at_json TEXT NOT NULL,"
        " height_m REAL NOT NULL, ports INTEGER NOT NULL, access TEXT NOT NULL)"},
    {3, "CREATE TABLE pathway (id TEXT PRIMARY KEY, name TEXT NOT NULL, kind TEXT NOT NULL,"
        " floor_id TEXT NOT NULL, to_floor_id TEXT, points_json TEXT NOT NULL,"
        " height_m REAL NOT NULL, temperature_c REAL NOT NULL, around TEXT, bore_mm REAL,"
        " per_hook INTEGER, support_m REAL, corner_radius_mm REAL)"},
    {3, "CREATE TABLE mains (id TEXT PRIMARY KEY, name TEXT NOT NULL, kind TEXT NOT NULL,"
        " floor_id TEXT NOT NULL, points_json TEXT NOT NULL, height_m REAL NOT NULL,"
        " kva REAL NOT NULL, enclosed INTEGER NOT NULL)"},
    {3, "CREATE TABLE surface (id TEXT PRIMARY KEY, name TEXT NOT NULL, kind TEXT NOT NULL,"
        " floor_id TEXT NOT NULL, room_id TEXT NOT NULL, points_json TEXT NOT NULL,"
        " fire_minutes INTEGER NOT NULL, closes_on TEXT)"},
    {3, "CREATE TABLE photograph (id TEXT PRIMARY KEY, hash TEXT NOT NULL, name TEXT NOT NULL,"
        " taken_on TEXT, work TEXT, floor_id TEXT, at_json TEXT, room_id TEXT, run_id TEXT,"
        " surface_id TEXT, note TEXT)"},
    {4, "ALTER TABLE measurement ADD COLUMN entry INTEGER"},
    {4, "ALTER TABLE measurement ADD COLUMN confirmed INTEGER"},
    {4, "ALTER TABLE edit_log ADD COLUMN seal TEXT"},
    // The state of a line changes, its edit never does: apart, a large one is not written anew.
    {4, "CREATE TABLE edit_body (sequence INTEGER PRIMARY KEY, edit_json TEXT NOT NULL)"},
    {4, "INSERT INTO edit_body SELECT sequence, edit_json FROM edit_log"},
    {4, "ALTER TABLE edit_log DROP COLUMN edit_json"},
    {4, "CREATE TABLE seal (kind TEXT PRIMARY KEY, tally TEXT NOT NULL)"},
    {5, "ALTER TABLE distribution ADD COLUMN head_carrier_to_noise_db REAL"},
    {5, "ALTER TABLE run ADD COLUMN powered_class INTEGER"},
};

/// Lines of the logbook from before version 4 have no seal.
void sealLog(QSqlDatabase& db) {
    Statements sql(db);
    QSqlQuery lines =
        runSql(db, QStringLiteral("SELECT sequence, who, title, edit_json FROM edit_log "
                                  "JOIN edit_body USING (sequence)"));
    std::vector<std::pair<qlonglong, QByteArray>> seals;
    while (lines.next())
        seals.emplace_back(lines.value(0).toLongLong(),
                           sealOfLogLine(lines.value(1).toString().toStdString(),
                                         lines.value(2).toString().toStdString(),
                                         lines.value(3).toString().toStdString()));
    for (const auto& [sequence, seal] : seals)
        sql.run(QStringLiteral("UPDATE edit_log SET seal = ? WHERE sequence = ?"),
                {QString::fromLatin1(seal), sequence});
}

} // namespace

void createTables(QSqlDatabase& db) {
    for (const char* statement : schema)
        runSql(db, QString::fromLatin1(statement));
    runSql(db, QStringLiteral("PRAGMA application_id = %1").arg(jobApplicationId));
    bringUpToDate(db, 1);
}

void bringUpToDate(QSqlDatabase& db, int version) {
    for (const Step& step : steps)
        if (step.version > version)
            runSql(db, QString::fromLatin1(step.statement));
    if (version < 4)
        sealLog(db);
    runSql(db, QStringLiteral("PRAGMA user_version = %1").arg(jobFormatVersion));
}

} // namespace burin
