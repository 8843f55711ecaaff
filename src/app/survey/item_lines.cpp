#include "app/survey/item_lines.h"
#include "app/look/painters.h"
#include "app/survey/plan_draft.h"
#include "core/lookup.h"
#include <QDate>

namespace burin {
namespace {

/// Puts what `read` makes of a text into a copy of the thing, as one edit.
template <typename T, typename Read, typename Put>
auto field(const T& thing, const char* what, Read read, Put put_) {
    return [thing, what, read, put_](const QString& text) -> Outcome<Edit> {
        auto value = read(text);
        if (!value)
            return refuse(value.error());
        T after = thing;
        put_(after, *value);
        if (after == thing)
            return Edit{what, {}};
        return Edit{std::string(what), {put(std::optional(thing), std::optional(after))}};
    };
}

auto asMetres(UnitSystem units) {
    return [units](const QString& text) { return parseLengthM(text.toStdString(), units); };
}
/// Heights may lie below the floor.
auto asHeight(UnitSystem units) {
    return [units](const QString& text) -> Outcome<double> {
        QString plain = text.trimmed();
        const bool below = plain.startsWith(u'-') || plain.startsWith(QChar(0x2212));
        if (below)
            plain.remove(0, 1);
        auto out = parseLengthM(plain.trimmed().toStdString(), units);
        if (out && below)
            *out = -*out;
        return out;
    };
}
auto asWarmth(UnitSystem units) {
    return [units](const QString& text) { return parseTemperatureC(text.toStdString(), units); };
}

Outcome<std::string> asText(const QString& text) {
    return text.trimmed().toStdString();
}
Outcome<double> asNumber(const QString& text) {
    return parseNumber(text.trimmed().toStdString(), "the number");
}
Outcome<int> asCount(const QString& text) {
    const auto number = parseNumber(text.trimmed().toStdString(), "the number");
    if (!number)
        return refuse(number.error());
    if (*number < 0 || *number > 100000)
        return refuse("number", "“" + text.toStdString() + "” makes no sense", "Type 0 or more");
    return static_cast<int>(*number);
}
/// Millimetres; empty is none.
Outcome<std::optional<double>> asMm(const QString& text) {
    QString typed = text.trimmed();
    if (typed.isEmpty())
        return std::optional<double>();
    bool bare = false;
    typed.toDouble(&bare);
    const auto metres = parseLengthM((bare ? typed + QStringLiteral(" mm") : typed).toStdString());
    if (!metres)
        return refuse(metres.error());
    return std::optional<double>(*metres * 1000);
}
Outcome<std::string> asDate(const QString& text) {
    const QString typed = text.trimmed();
    if (!typed.isEmpty() && !QDate::fromString(typed, Qt::ISODate).isValid())
        return refuse("date", "“" + typed.toStdString() + "” is no date",
                      "Write year-month-day: 2026-11-26");
    return typed.toStdString();
}

QString mmText(const std::optional<double>& mm) {
    return mm ? q(formatFixed(*mm, 0)) + QStringLiteral(" mm") : QString();
}

/// One of a list of words, by its place in the list.
auto oneOf(const QStringList& words) {
    return [words](const QString& text) -> Outcome<int> {
        return static_cast<int>(std::max<qsizetype>(0, words.indexOf(text)));
    };
}

/// How each value of an enumeration is called on the screen.
template <typename E, std::size_t N>
QStringList shownWords(const Words<E, N>&, std::string_view (*shown)(E)) {
    QStringList out;
    for (std::size_t i = 0; i < N; ++i)
        out << q(std::string(shown(static_cast<E>(i))));
    return out;
}
QStringList placeWords() {
    return shownWords(placeKindWords, placeWord);
}
QStringList accessChoices() {
    return shownWords(accessWords, accessWord);
}
QStringList pathwayWords() {
    return shownWords(pathwayKindWords, pathwayWord);
}

/// A choice among things of the job by their names, the first of none.
struct Named {
    QStringList names{QObject::tr("none")};
    std::vector<std::string> ids{{}};
    void add(const std::string& id, const std::string& name) {
        if (std::find(ids.begin(), ids.end(), id) != ids.end())
            return;
        ids.push_back(id);
        names << q(name);
    }
    [[nodiscard]] QString nameOf(const std::string& id) const {
        const auto it = std::find(ids.begin(), ids.end(), id);
        return it == ids.end() ? names.front() : names[it - ids.begin()];
    }
    [[nodiscard]] auto reader() const {
        return [*this](const QString& text) -> Outcome<std::string> {
            return ids[static_cast<std::size_t>(std::max<qsizetype>(0, names.indexOf(text)))];
        };
    }
};

/// The day what lies above a ceiling or under a floor is seen no more.
SheetLine closingLine(const Session& session, const QString& label, SurfaceKind kind,
                      const std::string& floorId, const std::string& roomId) {
    const Session* now = &session;
    const Surface* surface = surfaceOf(session.pending(), kind, floorId, roomId);
    return {label,
            surface != nullptr ? q(surface->closesOn) : QString(),
            {},
            [now, kind, floorId, roomId](const QString& text) -> Outcome<Edit> {
                const auto date = asDate(text);
                if (!date)
                    return refuse(date.error());
                return closedOn(now->pending(), kind, floorId, roomId, *date);
            },
            QObject::tr("year-month-day")};
}

std::vector<SheetLine> linesOf(const Floor& floor, const Session& session, UnitSystem units) {
    const Catalogue& catalogue = session.catalogue();
    const auto m = [&](double metres) { return q(formatLength(metres, units, 2)); };
    QStringList voids;
    QString now = m(floor.voidM);
    for (const auto& preset : catalogue.site.voids) {
        voids << q(preset.name) + QStringLiteral(", ") + m(preset.voidM);
        if (std::abs(preset.voidM - floor.voidM) < 1e-9)
            now = voids.back();
    }
    if (!voids.contains(now))
        voids << now;
    const auto voidOf = [voids, catalogue = &catalogue,
                         at = floor.voidM](const QString& text) -> Outcome<double> {
        const auto index = voids.indexOf(text);
        return index >= 0 && index < static_cast<qsizetype>(catalogue->site.voids.size())
                   ? catalogue->site.voids[static_cast<std::size_t>(index)].voidM
                   : at;
    };
    std::vector<SheetLine> out{
        {QObject::tr("name"),
         q(floor.name),
         {},
         field(floor, "name of a floor", asText, [](Floor& f, const auto& v) { f.name = v; })},
        {QObject::tr("ceiling at"),
         m(floor.ceilingM),
         {},
         field(floor, "ceiling height", asMetres(units),
               [](Floor& f, double v) { f.ceilingM = v; })},
        {QObject::tr("void above"), now, voids,
         field(floor, "void height", voidOf, [](Floor& f, double v) { f.voidM = v; })},
        {QObject::tr("floor at"),
         m(floor.elevationM),
         {},
         field(floor, "height of a floor", asHeight(units),
               [](Floor& f, double v) { f.elevationM = v; })},
        {QObject::tr("wide"),
         m(floor.widthM),
         {},
         field(floor, "width of a floor", asMetres(units),
               [](Floor& f, double v) { f.widthM = v; })},
        {QObject::tr("deep"),
         m(floor.depthM),
         {},
         field(floor, "depth of a floor", asMetres(units),
               [](Floor& f, double v) { f.depthM = v; })},
        closingLine(session, QObject::tr("ceilings close"), SurfaceKind::Ceiling, floor.id, {}),
        closingLine(session, QObject::tr("floors close"), SurfaceKind::Underfloor, floor.id, {})};
    return out;
}

std::vector<SheetLine> linesOf(const Place& place, UnitSystem units) {
    std::vector<SheetLine> out{
        {QObject::tr("name"),
         q(place.name),
         {},
         field(place, "name of a place", asText, [](Place& p, const auto& v) { p.name = v; })},
        {QObject::tr("is"), placeWords()[static_cast<int>(place.kind)], placeWords(),
         field(place, "kind of a place", oneOf(placeWords()),
               [](Place& p, int v) { p.kind = static_cast<PlaceKind>(v); })},
        {QObject::tr("height"),
         q(formatLength(place.heightM, units, 2)),
         {},
         field(place, "height of a place", asHeight(units),
               [](Place& p, double v) { p.heightM = v; })},
        {QObject::tr("ports"),
         QString::number(place.ports),
         {},
         field(place, "ports of a place", asCount, [](Place& p, int v) { p.ports = v; })},
        {QObject::tr("to reach it"), accessChoices()[static_cast<int>(place.access)],
         accessChoices(),
         field(place, "how hard a place is to reach", oneOf(accessChoices()),
               [](Place& p, int v) { p.access = static_cast<EndAccess>(v); })}};
    return out;
}

std::vector<SheetLine> linesOf(const Pathway& way, const Session& session, UnitSystem units) {
    std::vector<SheetLine> out{
        {QObject::tr("name"),
         q(way.name),
         {},
         field(way, "name of a pathway", asText, [](Pathway& p, const auto& v) { p.name = v; })},
        {QObject::tr("is"), pathwayWords()[static_cast<int>(way.kind)], pathwayWords(),
         field(way, "kind of a pathway", oneOf(pathwayWords()),
               [](Pathway& p, int v) { p.kind = static_cast<PathwayKind>(v); })},
        {QObject::tr("warmth"),
         q(formatTemperature(way.temperatureC, units)),
         {},
         field(way, "warmth of a pathway", asWarmth(units),
               [](Pathway& p, double v) { p.temperatureC = v; })}};
    if (way.kind != PathwayKind::Shaft)
        out.push_back({QObject::tr("height"),
                       q(formatLength(way.heightM, units, 2)),
                       {},
                       field(way, "height of a pathway", asHeight(units),
                             [](Pathway& p, double v) { p.heightM = v; })});
    if (way.kind == PathwayKind::Shaft) {
        Named floors;
        for (const auto& floor : session.pending().floors)
            if (floor.id != way.floorId)
                floors.add(floor.id, floor.name);
        out.push_back({QObject::tr("goes to"), floors.nameOf(way.toFloorId), floors.names,
                       field(way, "floor a shaft goes to", floors.reader(),
                             [](Pathway& p, const auto& v) { p.toFloorId = v; })});
    }
    if (isClosed(way.kind))
        out.push_back({QObject::tr("inside bore"),
                       mmText(way.boreMm),
                       {},
                       field(way, "bore of a pathway", asMm,
                             [](Pathway& p, const auto& v) { p.boreMm = v; })});
    if (way.kind == PathwayKind::Hooks || way.kind == PathwayKind::Plenum) {
        out.push_back({QObject::tr("cables a hook"),
                       QString::number(way.perHook.value_or(50)),
                       {},
                       field(way, "capacity of hooks", asCount,
                             [](Pathway& p, int v) { p.perHook = std::max(1, v); })});
        out.push_back({QObject::tr("hooks every"),
                       q(formatLength(way.supportM.value_or(1.5), units, 2)),
                       {},
                       field(way, "spacing of hooks", asMetres(units),
                             [](Pathway& p, double v) { p.supportM = std::max(0.01, v); })});
    }
    if (way.kind != PathwayKind::Shaft)
        out.push_back({QObject::tr("corner radius"),
                       mmText(way.cornerRadiusMm),
                       {},
                       field(way, "corner radius of a pathway", asMm,
                             [](Pathway& p, const auto& v) { p.cornerRadiusMm = v; })});
    return out;
}

std::vector<SheetLine> linesOf(const MainsRoute& mains, UnitSystem units) {
    const QStringList yesNo{QObject::tr("no"), QObject::tr("yes")};
    return {
        {QObject::tr("name"),
         q(mains.name),
         {},
         field(mains, "name of mains", asText, [](MainsRoute& p, const auto& v) { p.name = v; })},
        {QObject::tr("kVA"),
         q(formatFixed(mains.kva, 1)),
         {},
         field(mains, "power of mains", asNumber,
               [](MainsRoute& p, double v) { p.kva = std::max(0.0, v); })},
        {QObject::tr("height"),
         q(formatLength(mains.heightM, units, 2)),
         {},
         field(mains, "height of mains", asHeight(units),
               [](MainsRoute& p, double v) { p.heightM = v; })},
        {QObject::tr("in earthed metal"), yesNo[mains.enclosed ? 1 : 0], yesNo,
         field(mains, "enclosure of mains", oneOf(yesNo),
               [](MainsRoute& p, int v) { p.enclosed = v == 1; })}};
}

std::vector<SheetLine> linesOf(const Surface& surface) {
    const QStringList kinds{QObject::tr("wall"), QObject::tr("ceiling"), QObject::tr("floor")};
    return {
        {QObject::tr("name"),
         q(surface.name),
         {},
         field(surface, "name of a wall", asText, [](Surface& p, const auto& v) { p.name = v; })},
        {QObject::tr("holds fire, min"),
         QString::number(surface.fireMinutes),
         {},
         field(surface, "fire rating", asCount, [](Surface& p, int v) { p.fireMinutes = v; })},
        {QObject::tr("closes on"),
         q(surface.closesOn),
         {},
         field(surface, "closing date", asDate,
               [](Surface& p, const auto& v) { p.closesOn = v; })}};
}

std::vector<SheetLine> linesOf(const Photograph& photo, const Session& session) {
    const Job& job = session.pending();
    QStringList stages{QObject::tr("none"),           QObject::tr("before work"),
                       QObject::tr("pulled"),         QObject::tr("before closing"),
                       QObject::tr("ends made"),      QObject::tr("fire stop"),
                       QObject::tr("after a repair"), QObject::tr("finished")};
    const QString stage = photo.work.empty() ? stages.front() : q(photo.work);
    if (!stages.contains(stage))
        stages << stage;
    const auto stageOf = [none = stages.front()](const QString& text) -> Outcome<std::string> {
        return text == none ? std::string() : text.toStdString();
    };
    Named surfaces;
    for (const auto& surface : job.surfaces)
        if (surface.floorId == photo.floorId)
            surfaces.add(surface.id, surface.name);
    // Of all runs the one selected is meant, or the one it is of already.
    Named runs;
    for (const auto& id : {photo.runId, session.currentId()})
        if (const Run* run = job.run(id))
            runs.add(run->id, run->label);
    return {
        {QObject::tr("taken on"),
         q(photo.takenOn),
         {},
         field(photo, "date of a photograph", asDate,
               [](Photograph& p, const auto& v) { p.takenOn = v; })},
        {QObject::tr("shows"), stage, stages,
         field(photo, "stage of work", stageOf, [](Photograph& p, const auto& v) { p.work = v; })},
        {QObject::tr("behind"), surfaces.nameOf(photo.surfaceId), surfaces.names,
         field(photo, "what a photograph is of", surfaces.reader(),
               [](Photograph& p, const auto& v) { p.surfaceId = v; })},
        {QObject::tr("of run"), runs.nameOf(photo.runId), runs.names,
         field(photo, "run of a photograph", runs.reader(),
               [](Photograph& p, const auto& v) { p.runId = v; })},
        {QObject::tr("note"),
         q(photo.note),
         {},
         field(photo, "note of a photograph", asText,
               [](Photograph& p, const auto& v) { p.note = v; })}};
}

std::vector<SheetLine> linesOf(const Room& room, const Session& session, UnitSystem units) {
    const std::string id = room.id;
    const Session* now = &session;
    const double area = areaM2(room.outline);
    const QString size =
        units == UnitSystem::Metric
            ? q(formatFixed(area, 1)) + QStringLiteral(" m²")
            : q(formatFixed(area / (metresPerFoot * metresPerFoot), 0)) + QStringLiteral(" ft²");
    return {
        {QObject::tr("room of %1").arg(size),
         q(room.letters + " " + room.name),
         {},
         [id, now](const QString& text) {
             return namedRoom(now->pending(), id, text.toStdString());
         }},
        closingLine(session, QObject::tr("ceiling closes"), SurfaceKind::Ceiling, room.floorId, id),
        closingLine(session, QObject::tr("floor closes"), SurfaceKind::Underfloor, room.floorId,
                    id)};
}

} // namespace

std::vector<SheetLine> linesFor(const Session& session, const std::string& floorId,
                                const std::string& id, QString* title) {
    const Job& job = session.pending();
    const UnitSystem units = session.units();
    if (const Room* room = job.room(id)) {
        *title = q(room->name);
        return linesOf(*room, session, units);
    }
    if (const Place* place = byId(job.places, id)) {
        *title = q(place->name);
        return linesOf(*place, units);
    }
    if (const Pathway* way = byId(job.pathways, id)) {
        const double length = lengthOfM(way->points);
        *title = q(way->name) +
                 (length > 0 ? QStringLiteral(", ") + q(formatLength(length, units)) : QString());
        return linesOf(*way, session, units);
    }
    if (const MainsRoute* mains = byId(job.mains, id)) {
        *title = q(mains->name);
        return linesOf(*mains, units);
    }
    if (const Surface* surface = byId(job.surfaces, id)) {
        *title = q(surface->name);
        return linesOf(*surface);
    }
    if (const Photograph* photo = byId(job.photographs, id)) {
        *title = QObject::tr("Photograph %1").arg(q(photo->name));
        return linesOf(*photo, session);
    }
    if (const Floor* floor = byId(job.floors, floorId)) {
        *title = QObject::tr("This floor");
        return linesOf(*floor, session, units);
    }
    return {};
}

} // namespace burin
