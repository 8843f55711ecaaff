#include "app/pull/pull_words.h"
#include "app/look/language.h"
#include "app/look/painters.h"
#include "core/base/lookup.h"
#include "core/job/ports.h"
#include <QDate>
#include <QLocale>
#include <set>

namespace burin {
namespace {

/// Where an end is, in as few words as tell it: its room, else its place, else what it is called.
QString whereOf(const Job& job, const Run& run, const RunEnd& end, bool head) {
    const Place* place = byId(job.places, end.placeId);
    const Room* room = place != nullptr ? job.room(place->roomId) : nullptr;
    if (room == nullptr && !head)
        room = job.room(run.roomId);
    if (room != nullptr)
        return q(room->name);
    if (place != nullptr && !place->name.empty())
        return q(place->name);
    const QString name = q(endName(job, end));
    return name.isEmpty() ? QObject::tr("not said where") : name;
}
QString together(const std::vector<QString>& places) {
    if (places.size() == 1)
        return places.front();
    if (places.size() == 2)
        return QObject::tr("%1 and %2").arg(places[0], places[1]);
    return QObject::tr("%1 places").arg(places.size());
}
void addOnce(std::vector<QString>& list, const QString& text) {
    if (std::find(list.begin(), list.end(), text) == list.end())
        list.push_back(text);
}

} // namespace

PullOf pullOf(const PullFinding& pull, const Job& job) {
    PullOf out;
    out.id = pull.byHand ? pull.id : std::string();
    for (const auto& run : pull.runs) {
        out.runIds.push_back(run.runId);
        out.boxIds.push_back(byId(job.boxes, run.boxId) == nullptr ? std::string() : run.boxId);
    }
    return out;
}

QString fromTo(const PullFinding& pull, const Job& job) {
    std::vector<QString> from;
    std::vector<QString> to;
    for (const auto& one : pull.runs)
        if (const Run* run = job.run(one.runId)) {
            addOnce(from, whereOf(job, *run, run->near, true));
            addOnce(to, whereOf(job, *run, run->far, false));
        }
    if (from.empty())
        return {};
    return pull.boxesAt == BoxesAt::Far ? QObject::tr("%1 → %2").arg(together(to), together(from))
                                        : QObject::tr("%1 → %2").arg(together(from), together(to));
}

QString labelsOf(const PullFinding& pull, const Job& job) {
    QStringList out;
    QString before;
    for (const auto& one : pull.runs)
        if (const Run* run = job.run(one.runId)) {
            const QString label = q(run->label);
            const auto dash = label.indexOf(QLatin1Char('-'));
            const QString stem = dash > 0 ? label.left(dash + 1) : QString();
            out << (!stem.isEmpty() && stem == before ? label.mid(dash + 1) : label);
            before = stem;
        }
    return out.join(QLatin1Char(' '));
}

QString lengthsOf(const PullFinding& pull, UnitSystem units) {
    double least = 1e12;
    double most = 0;
    for (const auto& run : pull.runs) {
        const double length = run.pulledM.value_or(run.plannedM);
        least = std::min(least, length);
        most = std::max(most, length);
    }
    const auto text = [&](double metres) { return figure(formatLength(metres, units, 0)); };
    const QString count =
        pull.runs.size() == 1 ? QString() : QStringLiteral("%1 × ").arg(pull.runs.size());
    if (text(least) == text(most))
        return count + text(most);
    return count + QObject::tr("%1 to %2").arg(text(least), text(most));
}

QString boxName(const PullBox& box) {
    return box.isNew ? QObject::tr("new %1").arg(q(box.id.substr(box.id.find('-') + 1)))
                     : q(box.name);
}

QString boxesOf(const PullFinding& pull, const PullPlan& plan) {
    QStringList out;
    int fresh = 0;
    for (const auto& run : pull.runs) {
        const PullBox* box = plan.box(run.boxId);
        if (box != nullptr && box->isNew)
            ++fresh;
        else
            out << (box == nullptr ? QObject::tr("no box holds it") : boxName(*box));
    }
    if (fresh > 0)
        out << (fresh == 1 ? QObject::tr("a new box") : QObject::tr("%1 new boxes").arg(fresh));
    return out.join(QStringLiteral(", "));
}

QString dayText(const std::string& date) {
    const QDate day = QDate::fromString(q(date), Qt::ISODate);
    return day.isValid() ? QLocale().toString(day, QStringLiteral("ddd d MMMM")) : q(date);
}

QString markOf(int mark, const Job& job, const std::string& boxId) {
    const Box* box = byId(job.boxes, boxId);
    const QString unit = box == nullptr
                             ? QString()
                             : QLatin1Char(' ') + q(std::string(markUnitWords[box->markUnit]));
    return q(markText(mark)) + unit;
}

} // namespace burin
