#include "files/job_tables.h"
#include "core/job/job_json.h"
#include "core/job/system_json.h"
#include "core/site/plan_json.h"
#include <QSqlError>
#include <QSqlQuery>
#include <QVariant>
#include <algorithm>
#include <array>
#include <initializer_list>
#include <set>

namespace burin {
namespace {

/// How a value of the job's JSON stands in a column.
enum class As { Text, Number, Flag, JsonText };

struct Column {
    const char* key;    ///< of the JSON
    const char* column; ///< of the table
    As as;
    int since = 1; ///< format version
};
struct Table {
    const char* name;
    std::vector<Column> columns;
    int since = 1;
};

const Table jobTable{"job",
                     {{"id", "id", As::Text},
                      {"name", "name", As::Text},
                      {"limitSet", "limit_set", As::Text},
                      {"bundleSchool", "bundle_school", As::Text},
                      {"wiring", "wiring", As::Text},
                      {"accuracy", "accuracy_json", As::JsonText},
                      {"survey", "survey_json", As::JsonText, 3}}};
const Table roomTable{"room",
                      {{"id", "id", As::Text},
                       {"letters", "letters", As::Text},
                       {"name", "name", As::Text},
                       {"tape", "tape", As::Number},
                       {"order", "shown_order", As::Number},
                       {"floorId", "floor_id", As::Text, 3},
                       {"outline", "outline_json", As::JsonText, 3}}};
const Table runTable{"run",
                     {{"id", "id", As::Text},
                      {"roomId", "room_id", As::Text},
                      {"label", "label", As::Text},
                      {"order", "shown_order", As::Number},
                      {"serviceId", "service_id", As::Text},
                      {"cableId", "cable_id", As::Text},
                      {"nearEnd", "near_end", As::Text},
                      {"farEnd", "far_end", As::Text},
                      {"headLevel", "head_level", As::Number},
                      {"lossBudgetDb", "loss_budget_db", As::Number},
                      {"bandFromMhz", "band_from_mhz", As::Number},
                      {"bandToMhz", "band_to_mhz", As::Number},
                      {"powerW", "power_w", As::Number},
                      {"loadRatio", "load_ratio", As::Number},
                      {"poweredType", "powered_type", As::Number, 2},
                      {"poweredClass", "powered_class", As::Number, 5},
                      {"perDirection", "per_direction", As::Flag, 2},
                      {"leftCoiled", "left_coiled", As::Flag},
                      {"note", "note", As::Text},
                      {"nearPlaceId", "near_place_id", As::Text, 3},
                      {"farPlaceId", "far_place_id", As::Text, 3},
                      {"followsPlan", "follows_plan", As::Flag, 3},
                      {"vias", "vias_json", As::JsonText, 3},
                      {"jacket", "jacket", As::Text, 3}}};
const Table stretchTable{"run_stretch",
                         {{"name", "name", As::Text},
                          {"lengthM", "length_m", As::Number},
                          {"temperatureC", "temperature_c", As::Number},
                          {"neighbours", "neighbours", As::Number},
                          {"around", "around", As::Text, 2}}};
const Table cordTable{"run_cord",
                      {{"end", "end", As::Text},
                       {"cableId", "cable_id", As::Text},
                       {"lengthM", "length_m", As::Number},
                       {"awg26", "awg26", As::Flag}}};
const Table connectionTable{"run_connection",
                            {{"end", "end", As::Text},
                             {"connectionId", "connection_id", As::Text},
                             {"atM", "at_m", As::Number},
                             {"outdoors", "outdoors", As::Flag, 2}}};
const Table measurementTable{"measurement",
                             {{"id", "id", As::Text},
                              {"runId", "run_id", As::Text},
                              {"takenAt", "taken_at", As::Text},
                              {"link", "link", As::Text},
                              {"pair", "pair", As::Text},
                              {"fileName", "file_name", As::Text},
                              {"fileHash", "file_hash", As::Text},
                              {"frequencyUnit", "frequency_unit", As::Text},
                              {"columns", "columns", As::Text},
                              {"portOrder", "port_order", As::Text},
                              {"tester", "tester_json", As::JsonText},
                              {"note", "note", As::Text},
                              {"entry", "entry", As::Number, 4},
                              {"confirmed", "confirmed", As::Flag, 4}}};
const Table cableTable{"user_cable",
                       {{"id", "id", As::Text}, {"figures", "figures_json", As::JsonText}}};
const Table distributionTable{"distribution",
                              {{"id", "id", As::Text},
                               {"name", "name", As::Text},
                               {"serviceId", "service_id", As::Text},
                               {"headLevel", "head_level", As::Number},
                               {"slopeDb", "slope_db", As::Number},
                               {"headCarrierToNoiseDb", "head_carrier_to_noise_db", As::Number, 5},
                               {"channels", "channels", As::Number},
                               {"headOutputs", "head_outputs", As::Number},
                               {"headAmpere", "head_ampere", As::Number},
                               {"parts", "parts_json", As::JsonText}},
                              2};
const Table busTable{"bus",
                     {{"id", "id", As::Text},
                      {"name", "name", As::Text},
                      {"riseNs", "rise_ns", As::Number},
                      {"bitRateKbit", "bit_rate_kbit", As::Number},
                      {"supplyV", "supply_v", As::Number},
                      {"supplyToleranceShare", "supply_tolerance_share", As::Number},
                      {"supplyPairs", "supply_pairs", As::Number},
                      {"supplyAwg", "supply_awg", As::Number},
                      {"devices", "devices_json", As::JsonText}},
                     2};

const Table floorTable{"floor",
                       {{"id", "id", As::Text},
                        {"name", "name", As::Text},
                        {"order", "shown_order", As::Number},
                        {"elevationM", "elevation_m", As::Number},
                        {"ceilingM", "ceiling_m", As::Number},
                        {"voidM", "void_m", As::Number},
                        {"widthM", "width_m", As::Number},
                        {"depthM", "depth_m", As::Number},
                        {"picture", "picture_json", As::JsonText}},
                       3};
const Table placeTable{"place",
                       {{"id", "id", As::Text},
                        {"name", "name", As::Text},
                        {"kind", "kind", As::Text},
                        {"floorId", "floor_id", As::Text},
                        {"roomId", "room_id", As::Text},
                        {"at", "at_json", As::JsonText},
                        {"heightM", "height_m", As::Number},
                        {"ports", "ports", As::Number},
                        {"access", "access", As::Text}},
                       3};
const Table pathwayTable{"pathway",
                         {{"id", "id", As::Text},
                          {"name", "name", As::Text},
                          {"kind", "kind", As::Text},
                          {"floorId", "floor_id", As::Text},
                          {"toFloorId", "to_floor_id", As::Text},
                          {"points", "points_json", As::JsonText},
                          {"heightM", "height_m", As::Number},
                          {"temperatureC", "temperature_c", As::Number},
                          {"around", "around", As::Text},
                          {"boreMm", "bore_mm", As::Number},
                          {"perHook", "per_hook", As::Number},
                          {"supportM", "support_m", As::Number},
                          {"cornerRadiusMm", "corner_radius_mm", As::Number}},
                         3};
const Table mainsTable{"mains",
                       {{"id", "id", As::Text},
                        {"name", "name", As::Text},
                        {"kind", "kind", As::Text},
                        {"floorId", "floor_id", As::Text},
                        {"points", "points_json", As::JsonText},
                        {"heightM", "height_m", As::Number},
                        {"kva", "kva", As::Number},
                        {"enclosed", "enclosed", As::Flag}},
                       3};
const Table surfaceTable{"surface",
                         {{"id", "id", As::Text},
                          {"name", "name", As::Text},
                          {"kind", "kind", As::Text},
                          {"floorId", "floor_id", As::Text},
                          {"roomId", "room_id", As::Text},
                          {"points", "points_json", As::JsonText},
                          {"fireMinutes", "fire_minutes", As::Number},
                          {"closesOn", "closes_on", As::Text}},
                         3};
const Table photographTable{"photograph",
                            {{"id", "id", As::Text},
                             {"hash", "hash", As::Text},
                             {"name", "name", As::Text},
                             {"takenOn", "taken_on", As::Text},
                             {"work", "work", As::Text},
                             {"floorId", "floor_id", As::Text},
                             {"at", "at_json", As::JsonText},
                             {"roomId", "room_id", As::Text},
                             {"runId", "run_id", As::Text},
                             {"surfaceId", "surface_id", As::Text},
                             {"note", "note", As::Text}},
                            3};

struct Child {
    const char* key;
    const Table* table;
};
const std::array<Child, 3> runChildren{
    {{"stretches", &stretchTable}, {"cords", &cordTable}, {"connections", &connectionTable}}};

QVariant toSql(const Json& json, const Column& column) {
    const auto it = json.find(column.key);
    if (it == json.end())
        return {};
    switch (column.as) {
    case As::Text:
        return QString::fromStdString(it->get<std::string>());
    case As::Number:
        return it->is_number_integer() ? QVariant(it->get<qlonglong>())
                                       : QVariant(it->get<double>());
    case As::Flag:
        return it->get<bool>() ? 1 : 0;
    case As::JsonText:
        return QString::fromStdString(it->dump());
    }
    return {};
}

Json rowToJson(const QSqlQuery& query, const Table& table, int first, int version,
               const std::string& where) {
    Json out = Json::object();
    int position = first;
    for (const auto& column : table.columns) {
        if (column.since > version)
            continue;
        const QVariant value = query.value(position++);
        if (value.isNull())
            continue;
        switch (column.as) {
        case As::Text:
            out[column.key] = value.toString().toStdString();
            break;
        case As::Number:
            if (value.typeId() == QMetaType::LongLong)
                out[column.key] = value.toLongLong();
            else
                out[column.key] = value.toDouble();
            break;
        case As::Flag:
            out[column.key] = value.toInt() != 0;
            break;
        case As::JsonText:
            try {
                out[column.key] = Json::parse(value.toString().toStdString());
            } catch (const Json::exception&) {
                throw SqlFailed{where + ": column " + table.name + "." + column.column +
                                " holds no JSON"};
            }
            break;
        }
    }
    return out;
}

QString columnList(const Table& table, int version = jobFormatVersion) {
    QStringList names;
    for (const auto& column : table.columns)
        if (column.since <= version)
            names << QStringLiteral("\"%1\"").arg(QLatin1String(column.column));
    return names.join(QStringLiteral(", "));
}

/// What writes the rows of a table, put together once.
struct RowSql {
    QString insert, remove;
};
const RowSql& rowSql(const Table& table, const char* owner) {
    static thread_local std::map<const Table*, RowSql> made;
    RowSql& out = made[&table];
    if (out.insert.isEmpty()) {
        QStringList marks;
        for (std::size_t i = 0; i < table.columns.size() + (owner != nullptr ? 2 : 0); ++i)
            marks << QStringLiteral("?");
        out.insert =
            QStringLiteral("INSERT INTO \"%1\" (%2%3) VALUES (%4)")
                .arg(QLatin1String(table.name),
                     owner == nullptr ? QString()
                                      : QLatin1String(owner) + QStringLiteral(", position, "),
                     columnList(table), marks.join(QLatin1Char(',')));
        out.remove =
            QStringLiteral("DELETE FROM \"%1\" WHERE %2 = ?")
                .arg(QLatin1String(table.name), QLatin1String(owner == nullptr ? "id" : owner));
    }
    return out;
}
constexpr const char* childOwner = "run_id";

QVariantList rowValues(const Table& table, const Json& json, QVariantList first = {}) {
    for (const auto& column : table.columns)
        first << toSql(json, column);
    return first;
}

/// The tables in the order of the kinds.
const std::array<const Table*, jobKinds.size()> tablesOfKinds{
    &jobTable,          &roomTable,    &runTable,       &measurementTable, &cableTable,
    &distributionTable, &busTable,     &floorTable,     &placeTable,       &pathwayTable,
    &mainsTable,        &surfaceTable, &photographTable};
const Table& tableOf(std::string_view kind) {
    const auto it = std::find(jobKinds.begin(), jobKinds.end(), kind);
    return *tablesOfKinds[static_cast<std::size_t>(it - jobKinds.begin())];
}

struct RowWriter {
    Statements& sql;

    /// A row that is the same before and after is left alone: an edit of a thousand lengths
    /// touches a thousand stretches and no run.
    void write(std::string_view kind, const std::string& id, const Json* before,
               const Json* after) const {
        const Table& table = tableOf(kind);
        if (&table == &runTable)
            for (const auto& child : runChildren)
                writeChildren(child, id, before, after);
        if (before != nullptr && after != nullptr && sameRow(table, *before, *after))
            return;
        const RowSql& row = rowSql(table, nullptr);
        if (before != nullptr)
            sql.run(row.remove, {QString::fromStdString(id)});
        if (after != nullptr)
            sql.run(row.insert, rowValues(table, *after));
    }

private:
    static bool sameRow(const Table& table, const Json& a, const Json& b) {
        return std::all_of(table.columns.begin(), table.columns.end(), [&](const Column& column) {
            const auto in = a.find(column.key);
            const auto out = b.find(column.key);
            return (in == a.end()) == (out == b.end()) && (in == a.end() || *in == *out);
        });
    }
    void writeChildren(const Child& child, const std::string& id, const Json* before,
                       const Json* after) const {
        if (before != nullptr && after != nullptr && (*before)[child.key] == (*after)[child.key])
            return;
        const QString run = QString::fromStdString(id);
        const RowSql& rows = rowSql(*child.table, childOwner);
        if (before != nullptr && !(*before)[child.key].empty())
            sql.run(rows.remove, {run});
        if (after == nullptr)
            return;
        int position = 0;
        for (const auto& row : (*after)[child.key])
            sql.run(rows.insert, rowValues(*child.table, row, {run, position++}));
    }
};

Json readAll(QSqlDatabase& db, const Table& table, int version, const std::string& where) {
    Json out = Json::array();
    if (table.since > version)
        return out;
    QSqlQuery query = runSql(db, QStringLiteral("SELECT %1 FROM \"%2\" ORDER BY id")
                                     .arg(columnList(table, version), QLatin1String(table.name)));
    while (query.next())
        out.push_back(rowToJson(query, table, 0, version, where));
    return out;
}

void readChildren(QSqlDatabase& db, Json& runs, int version, const std::string& where) {
    std::map<std::string, Json*> byId;
    for (auto& run : runs) {
        for (const auto& child : runChildren)
            run[child.key] = Json::array();
        byId[run["id"].get<std::string>()] = &run;
    }
    for (const auto& child : runChildren) {
        QSqlQuery query = runSql(
            db, QStringLiteral("SELECT run_id, %1 FROM \"%2\" ORDER BY run_id, position")
                    .arg(columnList(*child.table, version), QLatin1String(child.table->name)));
        while (query.next()) {
            const auto it = byId.find(query.value(0).toString().toStdString());
            if (it == byId.end())
                throw SqlFailed{where + ": a row of " + child.table->name + " has no run"};
            (*it->second)[child.key].push_back(rowToJson(query, *child.table, 1, version, where));
        }
    }
}

} // namespace

void writeChanges(QSqlDatabase& db, const WrittenEdit& edit) {
    Statements sql(db);
    const RowWriter writer{sql};
    for (const auto& change : edit)
        writer.write(change.kind, change.id, change.before.is_null() ? nullptr : &change.before,
                     change.after.is_null() ? nullptr : &change.after);
}

void writeJob(QSqlDatabase& db, const Job& job) {
    Statements sql(db);
    const RowWriter writer{sql};
    everyThing(job, [&]<typename T>(const T& thing) {
        const Json row = toJson(thing);
        writer.write(jobKinds[AnyChange(Change<T>{}).index()], thing.id, nullptr, &row);
    });
}

Outcome<Job> readTables(QSqlDatabase& db, int version, const std::string& where) {
    Json job;
    const Json info = readAll(db, jobTable, version, where);
    if (info.size() != 1)
        return refuse(where, "it holds " + std::to_string(info.size()) + " jobs instead of one",
                      "Restore it from a copy");
    job["info"] = info[0];
    job["rooms"] = readAll(db, roomTable, version, where);
    Json runs = readAll(db, runTable, version, where);
    readChildren(db, runs, version, where);
    job["runs"] = std::move(runs);
    job["measurements"] = readAll(db, measurementTable, version, where);
    job["cables"] = readAll(db, cableTable, version, where);
    job["distributions"] = readAll(db, distributionTable, version, where);
    job["buses"] = readAll(db, busTable, version, where);
    job["floors"] = readAll(db, floorTable, version, where);
    job["places"] = readAll(db, placeTable, version, where);
    job["pathways"] = readAll(db, pathwayTable, version, where);
    job["mains"] = readAll(db, mainsTable, version, where);
    job["surfaces"] = readAll(db, surfaceTable, version, where);
    job["photographs"] = readAll(db, photographTable, version, where);
    return readJob(job, where);
}

} // namespace burin
