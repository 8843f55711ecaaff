#include "files/job_tables.h"
#include <QSqlQuery>
#include <QVariant>
#include <algorithm>
#include <map>
#include <unordered_map>

namespace burin {
namespace {

QString quoted(const std::string& name) {
    return QLatin1Char('"') + QString::fromStdString(name) + QLatin1Char('"');
}
QString columnOf(const Field& field) {
    return quoted(field.column());
}
/// "runId" of a stretch: run_id.
QString ownerColumn(const Table& table) {
    Field field;
    field.name = table.ownerKey;
    return columnOf(field);
}

const char* typeOf(const Field& field) {
    switch (field.shape) {
    case Shape::Number:
        return "REAL";
    case Shape::Whole:
    case Shape::Flag:
        return "INTEGER";
    case Shape::Text:
    case Shape::Word:
    case Shape::Nested:
    case Shape::Children:
        break;
    }
    return "TEXT";
}

/// Whether that version kept owned rows as JSON among their owner's columns.
bool ownedAsJson(const Table& owner, int version) {
    return version < 6 && owner.kind != Kind::Run;
}
/// The fields that stand in columns of their own.
std::vector<const Field*> columnsOf(const Table& table, int version = formatVersion) {
    std::vector<const Field*> out;
    for (const auto& field : table.fields)
        if (field.since <= version &&
            (field.shape != Shape::Children || ownedAsJson(table, version)))
            out.push_back(&field);
    return out;
}
QString nameOf(const Field& field) {
    return field.shape == Shape::Children ? quoted(field.name + "_json") : columnOf(field);
}

QVariant toSql(const Field& field, const Json& value) {
    if (value.is_null())
        return {};
    switch (field.shape) {
    case Shape::Text:
    case Shape::Word:
        return QString::fromStdString(value.get<std::string>());
    case Shape::Number:
        return value.get<double>();
    case Shape::Whole:
        return value.get<qlonglong>();
    case Shape::Flag:
        return value.get<bool>() ? 1 : 0;
    case Shape::Nested:
    case Shape::Children:
        return QString::fromStdString(value.dump());
    }
    return {};
}

[[noreturn]] void broken(const Table& table, const Field& field, const std::string& where,
                         const char* what) {
    throw SqlFailed{where + ": column " + table.sql + "." + field.column() + what};
}
/// Puts what a column holds into a row, which has nothing of it yet.
void take(const Table& table, const Field& field, const QVariant& value, Json& row,
          const std::string& where) {
    if (value.isNull())
        return;
    const auto put = [&](Json held) {
        row.get_ref<Json::object_t&>().emplace_back(field.name, std::move(held));
    };
    const int type = value.typeId();
    const bool number = type == QMetaType::LongLong || type == QMetaType::Double;
    switch (field.shape) {
    case Shape::Text:
    case Shape::Word:
        put(value.toString().toStdString());
        return;
    case Shape::Number:
        if (!number)
            broken(table, field, where, " holds no number");
        put(value.toDouble());
        return;
    case Shape::Whole:
    case Shape::Flag:
        if (type != QMetaType::LongLong)
            broken(table, field, where, " holds no whole number");
        put(field.shape == Shape::Flag ? Json(value.toLongLong() != 0) : Json(value.toLongLong()));
        return;
    case Shape::Nested:
    case Shape::Children: {
        Json json = Json::parse(value.toString().toStdString(), nullptr, false);
        if (json.is_discarded() || (field.flat && !json.is_object()))
            broken(table, field, where, " holds no JSON");
        if (field.flat)
            row.update(json);
        else
            put(std::move(json));
        return;
    }
    }
}

/// The statements that write a table's rows, put together once.
struct RowSql {
    std::vector<const Field*> columns;
    QString insert, remove;
    explicit RowSql(const Table& table) : columns(columnsOf(table)) {
        QStringList names;
        QStringList marks;
        if (table.owner)
            names << ownerColumn(table);
        for (const auto* field : columns)
            names << columnOf(*field);
        for (qsizetype i = 0; i < names.size(); ++i)
            marks << QStringLiteral("?");
        insert = QStringLiteral("INSERT INTO %1 (%2) VALUES (%3)")
                     .arg(quoted(table.sql), names.join(QStringLiteral(", ")),
                          marks.join(QLatin1Char(',')));
        remove = QStringLiteral("DELETE FROM %1 WHERE id = ?").arg(quoted(table.sql));
    }
    static const RowSql& of(const Table& table) {
        static thread_local std::map<Kind, RowSql> made;
        return made.try_emplace(table.kind, table).first->second;
    }
};

class RowWriter {
public:
    explicit RowWriter(QSqlDatabase& db) : sql_(db) {}

    void write(const Table& table, const std::string& ownerId, const Json& before,
               const Json& after) {
        const bool goes = after.is_null();
        const Json& either = goes ? before : after;
        const QString id = QString::fromStdString(either.at("id").get<std::string>());
        const RowSql& row = RowSql::of(table);
        if (goes)
            sql_.run(row.remove, {id});
        else if (before.is_null())
            insert(table, row, ownerId, after);
        else
            update(table, row, id, before, after);
        for (const auto& field : table.fields)
            if (field.shape == Shape::Children)
                writeOwned(field, either.at("id").get<std::string>(), before, after);
    }

private:
    void insert(const Table& table, const RowSql& row, const std::string& ownerId,
                const Json& after) {
        QVariantList values;
        if (table.owner)
            values << QString::fromStdString(ownerId);
        for (const auto* field : row.columns)
            values << toSql(*field, valueIn(table, *field, after));
        sql_.run(row.insert, values);
    }
    /// Whether two rows differ in nothing but the rows they own: the keys of both stand in the
    /// order of the fields.
    static bool sameColumns(const Table& table, const Json& a, const Json& b) {
        const auto owned = [&](const std::string& key) {
            return std::any_of(table.fields.begin(), table.fields.end(), [&](const Field& f) {
                return f.shape == Shape::Children && f.name == key;
            });
        };
        auto one = a.begin();
        auto other = b.begin();
        for (; one != a.end() && other != b.end(); ++one, ++other)
            if (one.key() != other.key() ||
                (*one != *other && !(one->is_array() && owned(one.key()))))
                return false;
        return one == a.end() && other == b.end();
    }
    /// Only the columns that differ.
    void update(const Table& table, const RowSql& row, const QString& id, const Json& before,
                const Json& after) {
        if (sameColumns(table, before, after))
            return;
        QStringList sets;
        QVariantList values;
        for (const auto* field : row.columns) {
            const Json value = valueIn(table, *field, after);
            if (value == valueIn(table, *field, before))
                continue;
            sets << columnOf(*field) + QStringLiteral(" = ?");
            values << toSql(*field, value);
        }
        if (sets.isEmpty())
            return;
        values << id;
        sql_.run(QStringLiteral("UPDATE %1 SET %2 WHERE id = ?")
                     .arg(quoted(table.sql), sets.join(QStringLiteral(", "))),
                 values);
    }
    void writeOwned(const Field& list, const std::string& ownerId, const Json& before,
                    const Json& after) {
        static const Json none = Json::array();
        const Json& was = before.is_null() ? none : before.at(list.name);
        const Json& is = after.is_null() ? none : after.at(list.name);
        if (was == is)
            return;
        const Table& table = tableOf(*kindWords.find(list.owns));
        const auto in = [](const Json& rows, const Json& row) {
            const auto it = std::find_if(rows.begin(), rows.end(), [&](const Json& other) {
                return other.at("id") == row.at("id");
            });
            return it == rows.end() ? Json() : *it;
        };
        for (const auto& row : was)
            if (in(is, row).is_null())
                write(table, ownerId, row, Json());
        for (const auto& row : is)
            if (const Json old = in(was, row); old != row)
                write(table, ownerId, old, row);
    }

    Statements sql_;
};

/// All rows of a table, with their owners' ids where they have owners.
template <typename See>
void readRows(QSqlDatabase& db, const Table& table, int version, const std::string& where,
              See see) {
    const auto columns = columnsOf(table, version);
    QStringList names;
    if (table.owner)
        names << ownerColumn(table);
    for (const auto* field : columns)
        names << nameOf(*field);
    const char* order = !table.owner ? "id" : version < 6 ? "run_id, position" : "id";
    QSqlQuery query = runSql(
        db, QStringLiteral("SELECT %1 FROM %2 ORDER BY %3")
                .arg(names.join(QStringLiteral(", ")), quoted(table.sql), QLatin1String(order)));
    while (query.next()) {
        Json row = objectFor(table.fields.size());
        int at = 0;
        const std::string owner =
            table.owner ? query.value(at++).toString().toStdString() : std::string();
        for (const auto* field : columns)
            take(table, *field, query.value(at++), row, where);
        see(owner, std::move(row));
    }
}

/// The rows of a kind with those that they own.
Json readList(QSqlDatabase& db, const Table& table, int version, const std::string& where) {
    Json out = Json::array();
    if (table.since > version)
        return out;
    readRows(db, table, version, where,
             [&](const std::string&, Json row) { out.push_back(std::move(row)); });
    if (ownedAsJson(table, version))
        return out;
    std::unordered_map<std::string, Json*> byId;
    for (auto& row : out)
        byId[row.at("id").get<std::string>()] = &row;
    for (const auto& field : table.fields) {
        if (field.shape != Shape::Children)
            continue;
        for (auto& row : out)
            row[field.name] = Json::array();
        const Table& owned = tableOf(*kindWords.find(field.owns));
        readRows(db, owned, version, where, [&](const std::string& owner, Json row) {
            const auto it = byId.find(owner);
            if (it == byId.end())
                throw SqlFailed{where + ": a row of " + owned.sql + " has no " +
                                std::string(table.name())};
            (*it->second)[field.name].push_back(std::move(row));
        });
    }
    return out;
}

template <typename See> void everyTable(See see) {
    for (std::size_t k = 0; k < kindCount; ++k)
        see(tableOf(static_cast<Kind>(k)));
}

} // namespace

RowChanges rowChanges(const Touched& touched, const Job& job) {
    RowChanges out;
    const auto add = [&](Kind kind, const std::string& id, Json before, Json after) {
        RowChange row{kind, id, std::move(before), std::move(after), {}, {}};
        if (!row.before.is_null())
            row.beforeText = row.before.dump();
        if (!row.after.is_null())
            row.afterText = row.after.dump();
        if (row.beforeText != row.afterText)
            out.push_back(std::move(row));
    };
    if (touched.info)
        add(Kind::Job, job.info.id, toJson(*touched.info), toJson(job.info));
    everyList<JobLists>([&]<typename L>(L) {
        const auto& rows = touched.of<L>();
        const IdFinder<typename L::Type> now(job.*L::list, rows.size());
        for (const auto& seen : rows)
            add(L::kind, seen.id, seen.before ? toJson(*seen.before) : Json(),
                seen.stays ? toJson(*now.find(seen.id)) : Json());
    });
    return out;
}

void createTables(QSqlDatabase& db) {
    everyTable([&](const Table& table) {
        QStringList columns;
        for (const auto* field : columnsOf(table)) {
            QString column = columnOf(*field) + QLatin1Char(' ') + QLatin1String(typeOf(*field));
            if (field->name == "id")
                column += QStringLiteral(" PRIMARY KEY NOT NULL");
            else if (!field->mayLack)
                column += QStringLiteral(" NOT NULL");
            columns << column;
        }
        if (table.owner)
            columns << ownerColumn(table) + QStringLiteral(" TEXT NOT NULL");
        runSql(db, QStringLiteral("CREATE TABLE %1 (%2)")
                       .arg(quoted(table.sql), columns.join(QStringLiteral(", "))));
    });
}

void dropTables(QSqlDatabase& db, int version) {
    everyTable([&](const Table& table) {
        const bool there = table.since <= version && (!table.owner || version >= 6 ||
                                                      !ownedAsJson(tableOf(*table.owner), version));
        if (there)
            runSql(db, QStringLiteral("DROP TABLE %1").arg(quoted(table.sql)));
    });
}

void writeRows(QSqlDatabase& db, const RowChanges& rows) {
    RowWriter writer(db);
    for (const auto& row : rows)
        writer.write(tableOf(row.kind), {}, row.before, row.after);
}

void writeJob(QSqlDatabase& db, const Job& job) {
    RowWriter writer(db);
    writer.write(tableOf(Kind::Job), {}, Json(), toJson(job.info));
    everyList<JobLists>([&]<typename L>(L) {
        for (const auto& row : job.*L::list)
            writer.write(tableOf(L::kind), {}, Json(), toJson(row));
    });
}

Outcome<Job> readTables(QSqlDatabase& db, int version, const std::string& where,
                        const std::function<void(const Job&)>& asKept) {
    Json job = objectFor(kindCount);
    const Json info = readList(db, tableOf(Kind::Job), version, where);
    if (info.size() != 1)
        return refuse(where,
                      sentence({"job.holds-jobs-instead", "it holds {0} jobs instead of one"},
                               asCount(info.size())),
                      {"cure.restore-copy", "Restore it from a copy"});
    job[tableOf(Kind::Job).list] = info[0];
    everyList<JobLists>([&]<typename L>(L) {
        job[tableOf(L::kind).list] = readList(db, tableOf(L::kind), version, where);
    });
    return readJob(job, where, version, asKept);
}

} // namespace burin
