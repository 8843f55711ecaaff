#include "app/survey/item_lines.h"
#include "app/frame/sheet_field.h"
#include "app/look/language.h"
#include "app/look/painters.h"
#include "app/survey/plan_draft.h"
#include "core/base/lookup.h"
#include "core/edit/rule_text.h"
#include "core/edit/typed_field.h"
#include "core/job/row_at.h"

namespace burin {
namespace {

/// A thing of the plan and how its fields become rows of the sheet. What a row keeps is put into
/// the job as it is then: it may have been dragged since its rows were shown.
class Lines {
public:
    Lines(const Session& session, Kind kind, std::string id)
        : session_(&session), kind_(kind), id_(std::move(id)) {}

    /// Typed, by the field's own description.
    SheetLine typed(const char* name, const QString& label, const QString& hint = {},
                    const TypedAs& as = {}) const {
        const Field* field = typedField(kind_, name);
        const Json now = valueAt(session_->pending(), kind_, id_, name);
        SheetLine out;
        out.name = name;
        out.label = label;
        out.value = asTyped(*field, now, session_->units(), as);
        out.keep = [line = *this, name, label, field, as](const QString& text) -> Outcome<Edit> {
            auto value = readTyped(*field, text.toStdString(), line.session_->units(),
                                   label.toStdString(), as);
            if (!value)
                return refuse(value.error());
            return line.set(name, *value);
        };
        out.hint = hint;
        return out;
    }
    /// One of a few, by how the screen calls each; kept are `values`.
    SheetLine chosen(const char* name, const QString& label, const QStringList& words,
                     std::vector<Json> values) const {
        Json now = valueAt(session_->pending(), kind_, id_, name);
        auto it = std::find(values.begin(), values.end(), now);
        if (it == values.end())
            it = values.begin();
        return {name, label, words[it - values.begin()], words,
                [line = *this, name, words,
                 values = std::move(values)](const QString& text) -> Outcome<Edit> {
                    const auto at = std::max<qsizetype>(0, words.indexOf(text));
                    return line.set(name, values[static_cast<std::size_t>(at)]);
                }};
    }
    /// One of the words of an enumeration.
    SheetLine word(const char* name, const QString& label, const QStringList& words) const {
        std::vector<Json> values;
        for (const auto kept : typedField(kind_, name)->words)
            values.emplace_back(std::string(kept));
        return chosen(name, label, words, std::move(values));
    }

private:
    [[nodiscard]] Edit set(const char* name, const Json& value) const {
        return setField(session_->pending(), kind_, {id_}, name, value);
    }

    const Session* session_;
    Kind kind_;
    std::string id_;
};

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
    std::vector<Json> ids{Json()};
    void add(const std::string& id, const std::string& name) {
        if (std::find(ids.begin(), ids.end(), Json(id)) != ids.end())
            return;
        ids.emplace_back(id);
        names << q(name);
    }
};

/// The day what lies above a ceiling or under a floor is seen no more.
SheetLine closingLine(const Session& session, const QString& label, SurfaceKind kind,
                      const std::string& floorId, const std::string& roomId) {
    const Session* now = &session;
    const Surface* surface = surfaceOf(session.pending(), kind, floorId, roomId);
    return {kind == SurfaceKind::Ceiling ? "ceilingCloses" : "floorCloses",
            label,
            surface != nullptr ? q(surface->closesOn) : QString(),
            {},
            [now, kind, floorId, roomId](const QString& text) {
                return closedOn(now->pending(), kind, floorId, roomId,
                                text.trimmed().toStdString());
            },
            QObject::tr("year-month-day")};
}

std::vector<SheetLine> linesOf(const Floor& floor, const Session& session) {
    const Lines lines(session, Kind::Floor, floor.id);
    const auto m = [&](double metres) { return figure(formatLength(metres, session.units(), 2)); };
    QStringList voids;
    std::vector<Json> heights;
    for (const auto& preset : session.catalogue().site.voids) {
        voids << term(preset.name) + QStringLiteral(", ") + m(preset.voidM);
        heights.emplace_back(preset.voidM);
    }
    if (std::find(heights.begin(), heights.end(), Json(floor.voidM)) == heights.end()) {
        voids << m(floor.voidM);
        heights.emplace_back(floor.voidM);
    }
    return {
        lines.typed("name", QObject::tr("name")),
        lines.typed("ceilingM", QObject::tr("ceiling at")),
        lines.chosen("voidM", QObject::tr("void above"), voids, std::move(heights)),
        lines.typed("elevationM", QObject::tr("floor at")),
        lines.typed("widthM", QObject::tr("wide")),
        lines.typed("depthM", QObject::tr("deep")),
        closingLine(session, QObject::tr("ceilings close"), SurfaceKind::Ceiling, floor.id, {}),
        closingLine(session, QObject::tr("floors close"), SurfaceKind::Underfloor, floor.id, {})};
}

std::vector<SheetLine> linesOf(const Place& place, const Session& session) {
    const Lines lines(session, Kind::Place, place.id);
    std::vector<SheetLine> out{lines.typed("name", QObject::tr("name")),
                               lines.word("kind", QObject::tr("is"), placeWords()),
                               lines.typed("heightM", QObject::tr("height")),
                               lines.typed("ports", QObject::tr("ports"))};
    if (place.ports > 1)
        out.push_back(lines.typed("portNames", QObject::tr("ports called"),
                                  QObject::tr("left jack, right jack")));
    out.push_back(lines.word("access", QObject::tr("to reach it"), accessChoices()));
    return out;
}

std::vector<SheetLine> linesOf(const Pathway& way, const Session& session) {
    const Lines lines(session, Kind::Pathway, way.id);
    std::vector<SheetLine> out{lines.typed("name", QObject::tr("name")),
                               lines.word("kind", QObject::tr("is"), pathwayWords()),
                               lines.typed("temperatureC", QObject::tr("warmth"))};
    if (way.kind != PathwayKind::Shaft)
        out.push_back(lines.typed("heightM", QObject::tr("height")));
    if (way.kind == PathwayKind::Shaft) {
        Named floors;
        for (const auto& floor : session.pending().floors)
            if (floor.id != way.floorId)
                floors.add(floor.id, floor.name);
        out.push_back(
            lines.chosen("toFloorId", QObject::tr("goes to"), floors.names, std::move(floors.ids)));
    }
    if (isClosed(way.kind))
        out.push_back(lines.typed("boreMm", QObject::tr("inside bore")));
    if (way.kind == PathwayKind::Hooks || way.kind == PathwayKind::Plenum) {
        const auto& usual = session.catalogue().site.hooks;
        out.push_back(lines.typed("perHook", QObject::tr("cables a hook"),
                                  QObject::tr("%1 as usual").arg(usual.perHook)));
        out.push_back(
            lines.typed("supportM", QObject::tr("hooks every"),
                        QObject::tr("%1 as usual")
                            .arg(figure(formatLength(usual.supportM, session.units(), 2)))));
    }
    if (way.kind != PathwayKind::Shaft)
        out.push_back(lines.typed("cornerRadiusMm", QObject::tr("corner radius")));
    return out;
}

std::vector<SheetLine> linesOf(const MainsRoute& mains, const Session& session) {
    const Lines lines(session, Kind::Mains, mains.id);
    return {lines.typed("name", QObject::tr("name")), lines.typed("kva", QObject::tr("kVA")),
            lines.typed("heightM", QObject::tr("height")),
            lines.chosen("enclosed", QObject::tr("in earthed metal"),
                         {QObject::tr("no"), QObject::tr("yes")}, {false, true})};
}

std::vector<SheetLine> linesOf(const Surface& surface, const Session& session) {
    const Lines lines(session, Kind::Surface, surface.id);
    return {lines.typed("name", QObject::tr("name")),
            lines.typed("fireMinutes", QObject::tr("holds fire, min")),
            lines.typed("closesOn", QObject::tr("closes on"), QObject::tr("year-month-day"))};
}

std::vector<SheetLine> linesOf(const Photograph& photo, const Session& session) {
    const Lines lines(session, Kind::Photograph, photo.id);
    const Job& job = session.pending();
    // Kept as they are here, in whatever language they are shown.
    QStringList stages{QObject::tr("none")};
    std::vector<Json> works{Json()};
    for (const char* work :
         {QT_TRANSLATE_NOOP("QObject", "before work"), QT_TRANSLATE_NOOP("QObject", "pulled"),
          QT_TRANSLATE_NOOP("QObject", "before closing"), QT_TRANSLATE_NOOP("QObject", "ends made"),
          QT_TRANSLATE_NOOP("QObject", "fire stop"), QT_TRANSLATE_NOOP("QObject", "after a repair"),
          QT_TRANSLATE_NOOP("QObject", "finished")}) {
        stages << QObject::tr(work);
        works.emplace_back(work);
    }
    if (!photo.work.empty() &&
        std::find(works.begin(), works.end(), Json(photo.work)) == works.end()) {
        stages << q(photo.work);
        works.emplace_back(photo.work);
    }
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
        lines.typed("takenOn", QObject::tr("taken on"), QObject::tr("year-month-day")),
        lines.chosen("work", QObject::tr("shows"), stages, std::move(works)),
        lines.chosen("surfaceId", QObject::tr("behind"), surfaces.names, std::move(surfaces.ids)),
        lines.chosen("runId", QObject::tr("of run"), runs.names, std::move(runs.ids)),
        lines.typed("note", QObject::tr("note"))};
}

std::vector<SheetLine> linesOf(const Room& room, const Session& session) {
    const UnitSystem units = session.units();
    const std::string id = room.id;
    const Session* now = &session;
    const double area = areaM2(room.outline);
    const QString size = units == UnitSystem::Metric
                             ? figure(formatFixed(area, 1)) + QStringLiteral(" m²")
                             : figure(formatFixed(area / (metresPerFoot * metresPerFoot), 0)) +
                                   QStringLiteral(" ft²");
    return {
        {"room",
         QObject::tr("room of %1").arg(size),
         q(room.letters + " " + room.name),
         {},
         [id, now](const QString& text) {
             return namedRoom(now->pending(), id, text.toStdString());
         }},
        closingLine(session, QObject::tr("ceiling closes"), SurfaceKind::Ceiling, room.floorId, id),
        closingLine(session, QObject::tr("floor closes"), SurfaceKind::Underfloor, room.floorId,
                    id)};
}

SheetLine told(SheetLine line, const QString& tip) {
    line.tip = tip;
    return line;
}

/// How this job measures, keeps apart, names and prices.
std::vector<SheetLine> rulesOf(const Session& session) {
    const Lines lines(session, Kind::Job, session.pending().info.id);
    const Session* now = &session;
    const TypedAs percent{100, 2};
    SheetLine labels;
    labels.name = "labels";
    labels.label = QObject::tr("labels");
    labels.value = q(session.pending().info.survey.labels);
    SheetLine colours;
    colours.name = "jacketColours";
    colours.label = QObject::tr("jackets");
    colours.value = q(coloursText(session.pending(), session.catalogue()));
    colours.keep = [now](const QString& text) {
        return jacketColours(text.trimmed().toStdString(), now->pending(), now->catalogue());
    };
    SheetLine prices;
    prices.name = "cablePrices";
    prices.label = QObject::tr("of these cables");
    prices.value = q(pricesText(session.pending()));
    prices.keep = [now](const QString& text) {
        return cablePrices(text.trimmed().toStdString(), now->pending(), now->catalogue());
    };
    labels.keep = [now](const QString& text) {
        return relabelled(now->pending(), now->catalogue(), text.trimmed().toStdString());
    };
    return {
        told(lines.word("survey.spare", QObject::tr("spare"),
                        {QObject::tr("pull long"), QObject::tr("as measured")}),
             QObject::tr(
                 "Pull long: dressing, loops and a share of the way beyond it, by policy. As "
                 "measured: the way, and an allowance at each end")),
        lines.typed("survey.rackM", QObject::tr("dressing at a head end")),
        lines.typed("survey.outletM", QObject::tr("loop in a box")),
        lines.typed("survey.coilM", QObject::tr("coil outdoors")),
        told(lines.typed("survey.routeShare", QObject::tr("beyond the way, %"), {}, percent),
             QObject::tr("Pulled long: so much more than the way drawn")),
        told(lines.typed("survey.allowanceM", QObject::tr("allowance at an end")),
             QObject::tr("As measured: so much more at each end")),
        told(lines.word("survey.separation", QObject::tr("from mains"),
                        {QObject::tr("table by kVA"), QObject::tr("house practice")}),
             QObject::tr("The planning table by kVA, or house practice: 75 to 150 mm from branch "
                         "circuits")),
        told(lines.chosen("survey.coaxHalf", QObject::tr("coax and mains"),
                          {QObject::tr("as unscreened"), QObject::tr("half as critical")},
                          {false, true}),
             QObject::tr("Whether coax keeps as far from mains as an unscreened cable, or half")),
        told(lines.word("survey.jackets", QObject::tr("plenum jackets"),
                        {QObject::tr("in moved air"), QObject::tr("everywhere")}),
             QObject::tr("Where air is moved, or everywhere indoors")),
        told(std::move(labels),
             QObject::tr(
                 "Names all runs anew: {room} letters, {kind} letter, {n} {nn} {nnn} number")),
        told(lines.typed("survey.cablePerM", QObject::tr("cable, a metre")),
             QObject::tr("Price of a metre of cable")),
        told(std::move(prices),
             QObject::tr("Cables whose metre costs other than that, parted by commas: cat6-utp "
                         "0.55, coax-s6 0.48")),
        told(lines.typed("survey.hourPrice", QObject::tr("work, an hour")),
             QObject::tr("Price of an hour of work")),
        lines.typed("survey.currency", QObject::tr("currency")),
        lines.typed("survey.repullHours", QObject::tr("hours to pull again")),
        told(lines.word("pull.marking", QObject::tr("while pulling"),
                        {QObject::tr("number both ends"), QObject::tr("tone out later")}),
             QObject::tr("Numbers on both ends while pulling, or none, and each cable found with "
                         "tone and probe afterwards")),
        told(lines.typed("pull.atOnce", QObject::tr("pulled at once")),
             QObject::tr("Most cables pulled together")),
        lines.typed("pull.newBoxM", QObject::tr("a new box holds")),
        told(lines.typed("pull.scrapM", QObject::tr("scrap under")),
             QObject::tr("A rest in a box shorter than this is of no use")),
        told(lines.typed("pull.cutM", QObject::tr("cut off at an end")),
             QObject::tr("When an end is made; it is not part of the link")),
        told(lines.typed("pull.dragN", QObject::tr("drag of a box, N")),
             QObject::tr("What it takes to turn a box or reel")),
        lines.typed("pull.crew", QObject::tr("people")),
        lines.typed("pull.hoursADay", QObject::tr("hours a day")),
        told(lines.typed("pull.startsOn", QObject::tr("work starts on")),
             QObject::tr("Year-month-day; empty: today")),
        told(std::move(colours), QObject::tr("Kind of run and colour of its jacket, parted by "
                                             "commas: data blue, television black"))};
}

} // namespace

std::vector<SheetLine> linesFor(const Session& session, const std::string& floorId,
                                const std::string& id, QString* title) {
    const Job& job = session.pending();
    if (id == job.info.id) {
        *title = QObject::tr("Rules of this job");
        return rulesOf(session);
    }
    if (const Room* room = job.room(id)) {
        *title = q(room->name);
        return linesOf(*room, session);
    }
    if (const Place* place = byId(job.places, id)) {
        *title = q(place->name);
        return linesOf(*place, session);
    }
    if (const Pathway* way = byId(job.pathways, id)) {
        const double length = lengthOfM(way->points);
        *title = q(way->name) +
                 (length > 0 ? QStringLiteral(", ") + figure(formatLength(length, session.units()))
                             : QString());
        return linesOf(*way, session);
    }
    if (const MainsRoute* mains = byId(job.mains, id)) {
        *title = q(mains->name);
        return linesOf(*mains, session);
    }
    if (const Surface* surface = byId(job.surfaces, id)) {
        *title = q(surface->name);
        return linesOf(*surface, session);
    }
    if (const Photograph* photo = byId(job.photographs, id)) {
        *title = QObject::tr("Photograph %1").arg(q(photo->name));
        return linesOf(*photo, session);
    }
    if (const Floor* floor = byId(job.floors, floorId)) {
        *title = QObject::tr("This floor");
        return linesOf(*floor, session);
    }
    return {};
}

} // namespace burin
