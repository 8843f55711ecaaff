#include "app/budget/system_sheet.h"
#include "app/frame/panel.h"
#include "app/frame/said.h"
#include "app/look/painters.h"
#include "app/look/theme.h"
#include "core/base/lookup.h"
#include "core/edit/system_edit.h"
#include "core/edit/typed_field.h"
#include "core/job/row_at.h"
#include "core/units/units.h"
#include <QAbstractItemView>
#include <utility>

namespace burin {
namespace {

/// Lines of the sheet. A run is part of a distribution or of a bus, and shows the lines of one.
enum SystemLine { atPlace, ofHead, ofHeadMore, ofDevice, ofSupply };
constexpr int figureWidth = 50; // px, of five figures
constexpr int partWidth = 80;   // px
/// A field of words takes what those of figures leave.
constexpr int figureShare = 1, wordShare = 3;

} // namespace

SystemSheet::SystemSheet(Session& session, QWidget* parent)
    : QWidget(parent), session_(session), lines_(new FieldLines(this)), place_(new Choice(this)),
      part_(new SheetField(session, {}, QStringLiteral("part"), this)),
      proposal_(words(Voice::Small, this)) {
    place_->setObjectName(QStringLiteral("place"));
    part_->keepWidth(partWidth, SheetField::Width::AtLeast);
    part_->setPlaceholderText(tr("splitter 4, tap 14"));
    part_->setToolTip(tr("splitter 4, tap 14, amplifier 20, multiswitch 8"));
    proposal_->setObjectName(QStringLiteral("proposal"));
    placeLabel_ = lines_->add(tr("Hangs on"), place_, atPlace, wordShare);
    partLabel_ = lines_->add(tr("Put ahead"), part_, atPlace, wordShare);
    addDistributionFields();
    addBusFields();
    proposal_->setSizePolicy(QSizePolicy::Preferred, QSizePolicy::Minimum);
    lines_->addBelow(proposal_);
    connect(place_, &QComboBox::activated, this, [this] { placeChosen(); });
    connect(part_, &SheetField::typed, this, [this] { keepPart(); });
}

SystemSheet::Field& SystemSheet::addField(burin::Kind of, const char* name, const QString& text,
                                          const QString& tip, const char* objectName, int row,
                                          double scale) {
    Field& field = fields_.emplace_back();
    field.of = of;
    field.name = name;
    field.as = {scale, 1};
    field.edit = new SheetField(session_, text, QLatin1String(objectName), this);
    field.edit->setToolTip(tip);
    field.edit->keepWidth(figureWidth, SheetField::Width::AtLeast);
    field.label = lines_->add(text, field.edit, row, figureShare);
    connect(field.edit, &SheetField::typed, this,
            [this, &field](const QString& entered) { keep(field, entered); });
    return field;
}

void SystemSheet::addDistributionFields() {
    const auto add = [&](const char* name, const QString& text, const QString& tip,
                         const char* objectName, std::optional<bool> satellite = std::nullopt,
                         SystemLine line = ofHead) -> Field& {
        Field& field = addField(burin::Kind::Distribution, name, text, tip, objectName, line);
        field.satellite = satellite;
        return field;
    };
    headLabel_ = add("headLevel", tr("Head"), tr("Level at the head at the bottom of the band"),
                     "headLevelOf")
                     .label;
    add("slopeDb", tr("Slope, dB"), tr("Added to the head's level at the top of the band"),
        "slope");
    add("channels", tr("Channels"), tr("Carried at once: they lower what an amplifier may give"),
        "channels", false);
    add("headOutputs", tr("Head outputs"),
        tr("How many cables the head can feed; 0 for as many as are used"), "headOutputs", true);
    add("headAmpere", tr("Head takes, A"), tr("What the head draws from a receiver"), "headAmpere",
        true, ofHeadMore);
    const QString noise =
        tr("Carrier to noise at the head; empty: what a source of its kind gives");
    add("headCarrierToNoiseDb", tr("C/N, dB"), noise, "headNoise", false);
    add("headCarrierToNoiseDb", tr("C/N, dB"), noise, "headNoiseSatellite", true, ofHeadMore);
}

void SystemSheet::addBusFields() {
    constexpr double milli = 1000;
    constexpr double percent = 100;
    const auto device = burin::Kind::Device;
    const auto bus = burin::Kind::Bus;
    addField(device, "stubM", tr("Stub"), tr("From the chain to the device, same cable"), "stub",
             atPlace);
    addField(device, "terminatorOhm", tr("Terminator, Ω"),
             tr("Across the bus at this device; empty for none"), "terminator", atPlace);
    addField(device, "ampere", tr("Takes, mA"),
             tr("Peak current of the device, from the bus's supply"), "takes", ofDevice, milli);
    addField(device, "strikeAmpere", tr("Strike, mA"),
             tr("Current of a strike fed by the same pair"), "strike", ofDevice, milli);
    addField(device, "leastV", tr("Needs, V"), tr("Least volts of the device"), "needs", ofDevice);
    addField(device, "mostV", tr("Bears, V"), tr("Most volts of the device; empty when not known"),
             "bears", ofDevice);
    addField(bus, "supplyV", tr("Supply, V"), tr("0 where every device has a supply of its own"),
             "supply", ofSupply);
    addField(bus, "supplyToleranceShare", tr("± %"), tr("How far the supply may be off"),
             "supplyTolerance", ofSupply, percent);
    addField(bus, "supplyPairs", tr("Pairs"), tr("Of the cable, in parallel for the supply"),
             "supplyPairs", ofSupply);
    addField(bus, "bitRateKbit", tr("kbit/s"), tr("Bit rate of the bus"), "bitRate", ofSupply);
}

/// Of what the field is shown; empty: of nothing now.
std::string SystemSheet::idFor(const Field& field) const {
    if (field.of == burin::Kind::Distribution)
        return distribution() == nullptr ? std::string() : distribution()->id;
    const BusChain* b = bus();
    if (b == nullptr)
        return {};
    return field.of == burin::Kind::Bus ? b->id : b->devices[*b->deviceAt(session_.currentId())].id;
}

const Distribution* SystemSheet::distribution() const {
    return session_.hasJob() ? session_.pending().distributionOf(session_.currentId()) : nullptr;
}
const BusChain* SystemSheet::bus() const {
    return session_.hasJob() ? session_.pending().busOf(session_.currentId()) : nullptr;
}

template <typename System>
void SystemSheet::commit(const QString& title, const System* before, std::optional<System> after) {
    if (before == nullptr ? !after : after && *after == *before)
        return;
    const std::optional<System> was =
        before == nullptr ? std::nullopt : std::optional<System>(*before);
    const QString name = q(after ? after->name : was->name);
    session_.commit({(title + QLatin1Char(' ') + name).toStdString(), {put(was, after)}});
}

void SystemSheet::keep(const Field& field, const QString& text) {
    const std::string called = field.label->text().toStdString();
    const auto value = readTyped(*tableOf(field.of).field(field.name), text.toStdString(),
                                 session_.units(), called, field.as);
    if (!value)
        return field.edit->refuse(value.error());
    session_.commit(setField(session_.pending(), field.of, {idFor(field)}, field.name, *value));
}

void SystemSheet::setPart(int part) {
    chosen_ = part;
    showPart();
}

void SystemSheet::refresh() {
    const Run* run = session_.current();
    const Service* service =
        run != nullptr ? session_.catalogue().service(run->serviceId) : nullptr;
    kind_ = service == nullptr     ? Kind::None
            : service->bus         ? Kind::Bus
            : service->distributed ? Kind::Distribution
                                   : Kind::None;
    if (kind_ == Kind::None)
        return;
    const bool sameRun = std::exchange(shownFor_, session_.currentId()) == session_.currentId();
    const bool in = kind_ == Kind::Bus ? bus() != nullptr : distribution() != nullptr;
    for (const auto& field : fields_)
        if (!in || isOf(field) != kind_) {
            field.label->hide();
            field.edit->hide();
        }
    for (const auto& field : fields_) {
        const bool used =
            in && isOf(field) == kind_ &&
            field.satellite.value_or(service->oneReceiverACable) == service->oneReceiverACable;
        field.label->setVisible(used);
        field.edit->setVisible(used);
        if (used)
            field.edit->showText(
                asTyped(*tableOf(field.of).field(field.name),
                        valueAt(session_.pending(), field.of, idFor(field), field.name),
                        session_.units(), field.as),
                sameRun ? SheetField::Of::TheSame : SheetField::Of::Another);
    }
    if (service->levelWindow)
        headLabel_->setText(tr("Head, %1").arg(q(service->levelWindow->unit)));
    placeLabel_->setText(kind_ == Kind::Bus ? tr("Comes after") : tr("Hangs on"));
    place_->setAccessibleName(placeLabel_->text());
    // A finding that comes in must not empty the list under the hand that chooses from it.
    if (!place_->view()->isVisible())
        fillPlaces();
    showPart();
    showProposal();
}

void SystemSheet::fillPlaces() {
    place_->clear();
    const Run& run = *session_.current();
    const Job& job = session_.pending();
    const auto add = [&](const QString& text, const std::string& system, const std::string& place,
                         bool tapPort = false) {
        place_->addItem(text, QStringList{q(system), q(place), tapPort ? u"tap"_qs : QString()});
    };
    int now = 0;
    if (kind_ == Kind::Distribution) {
        const Distribution* mine = distribution();
        add(mine == nullptr ? tr("nothing yet") : tr("nothing: take it out"), "", "");
        for (const auto& d : job.distributions) {
            if (d.serviceId != run.serviceId)
                continue;
            add(tr("head of %1").arg(q(d.name)), d.id, "");
            const DistributionPart* own = d.fedBy(run.id);
            if (own != nullptr && own->from.empty())
                now = place_->count() - 1;
            for (const auto& part : d.parts) {
                if (part.unit.part == TreePart::Outlet || (own != nullptr && part.id == own->id))
                    continue;
                const bool tap = part.unit.part == TreePart::Tap;
                const bool mineHere = own != nullptr && own->from == part.id;
                add(tap ? tr("%1, its way through").arg(q(part.name)) : q(part.name), d.id,
                    part.id);
                if (mineHere && !(tap && own->fromTap))
                    now = place_->count() - 1;
                if (!tap)
                    continue;
                add(tr("%1, its tap port").arg(q(part.name)), d.id, part.id, true);
                if (mineHere && own->fromTap)
                    now = place_->count() - 1;
            }
        }
        add(tr("the head of a new distribution"), "new", "");
    } else {
        add(bus() == nullptr ? tr("nothing yet") : tr("nothing: take it out"), "", "");
        for (const auto& b : job.buses) {
            const auto own = b.deviceAt(run.id);
            for (std::size_t i = 0; i < b.devices.size(); ++i) {
                if (own && i == *own)
                    continue;
                add(q(b.devices[i].name), b.id, std::to_string(i));
                if (own && i + 1 == *own)
                    now = place_->count() - 1;
            }
        }
        add(tr("the controller of a new bus"), "new", "");
    }
    place_->setCurrentIndex(now);
}

void SystemSheet::placeChosen() {
    const QStringList chosen = place_->currentData().toStringList();
    const std::string system = chosen.value(0).toStdString();
    const std::string place = chosen.value(1).toStdString();
    if (kind_ == Kind::Distribution)
        hang(system, place, !chosen.value(2).isEmpty());
    else
        goOn(system, place.empty() ? 0 : static_cast<std::size_t>(std::stoul(place)));
}

void SystemSheet::hang(const std::string& id, const std::string& from, bool fromTap) {
    const Run& run = *session_.current();
    const Distribution* mine = distribution();
    if (id.empty()) {
        if (mine != nullptr)
            commit(QStringLiteral("take %1 out of").arg(q(run.label)), mine,
                   withoutRun(*mine, run.id));
        return;
    }
    Edit edit{"hang " + run.label, {}};
    if (mine != nullptr && mine->id != id)
        edit.changes.push_back(put(std::optional(*mine), withoutRun(*mine, run.id)));
    if (id == "new") {
        edit.changes.push_back(
            put(std::optional<Distribution>{}, std::optional(newDistribution(run))));
    } else if (const Distribution* target = byId(session_.pending().distributions, id)) {
        edit.changes.push_back(
            put(std::optional(*target), std::optional(hungOn(*target, run, from, fromTap))));
    }
    session_.commit(edit);
}

void SystemSheet::goOn(const std::string& id, std::size_t after) {
    const Run& run = *session_.current();
    const BusChain* mine = bus();
    if (id.empty()) {
        if (mine != nullptr)
            commit(QStringLiteral("take %1 off").arg(q(run.label)), mine,
                   withoutRun(*mine, run.id));
        return;
    }
    Edit edit{"wire " + run.label, {}};
    if (mine != nullptr && mine->id != id)
        edit.changes.push_back(put(std::optional(*mine), withoutRun(*mine, run.id)));
    if (id == "new")
        edit.changes.push_back(
            put(std::optional<BusChain>{}, std::optional(newBus(session_.pending(), run))));
    else if (const BusChain* target = byId(session_.pending().buses, id))
        edit.changes.push_back(
            put(std::optional(*target),
                std::optional(goingOn(*target, session_.pending(), run, after))));
    session_.commit(edit);
}

void SystemSheet::showPart() {
    const Distribution* d = kind_ == Kind::Distribution ? distribution() : nullptr;
    partLabel_->setVisible(d != nullptr);
    part_->setVisible(d != nullptr);
    if (d == nullptr || (part_->hasFocus() && part_->isModified()))
        return;
    const bool known = chosen_ >= 0 && chosen_ < static_cast<int>(d->parts.size());
    const DistributionPart* part =
        known ? &d->parts[static_cast<std::size_t>(chosen_)] : d->fedBy(session_.currentId());
    const bool outlet = part == nullptr || part->unit.part == TreePart::Outlet;
    partLabel_->setText(outlet ? tr("Put ahead") : tr("Is"));
    part_->setAccessibleName(outlet ? tr("Part to put ahead of the outlet")
                                    : tr("What %1 is").arg(q(part->name)));
    part_->setToolTip(
        outlet ? tr("splitter 4, tap 14, amplifier 20 slope 6, multiswitch 8, pad 6, equaliser 9, "
                    "dc-block, surge-arrester")
               : tr("Change it, or empty it to take the part out"));
    part_->showText(outlet ? QString() : q(treeUnitText(part->unit)), SheetField::Of::Another);
}

void SystemSheet::keepPart() {
    const Distribution* d = distribution();
    if (d == nullptr)
        return;
    const bool known = chosen_ >= 0 && chosen_ < static_cast<int>(d->parts.size());
    const DistributionPart* part =
        known ? &d->parts[static_cast<std::size_t>(chosen_)] : d->fedBy(session_.currentId());
    if (part == nullptr)
        return;
    const bool outlet = part->unit.part == TreePart::Outlet;
    const std::string text = part_->text().trimmed().toStdString();
    if (text.empty()) {
        if (outlet)
            return;
        auto after = withoutPart(*d, part->id);
        if (!after)
            return part_->refuse(after.error());
        commit(QStringLiteral("take out %1 of").arg(q(part->name)), d, std::move(*after));
        return;
    }
    const auto unit = parseTreeUnit(text);
    if (!unit)
        return part_->refuse(unit.error());
    if (outlet) {
        commit(QStringLiteral("put %1 in").arg(q(text)), d,
               std::optional(withPartAhead(*d, part->id, *unit)));
        return;
    }
    Distribution after = *d;
    after.parts[static_cast<std::size_t>(part - d->parts.data())].unit = *unit;
    commit(QStringLiteral("change %1 of").arg(q(part->name)), d, std::optional(after));
}

/// What would cure it stands among what would hold instead; that nothing does, here.
void SystemSheet::showProposal() {
    const auto findings = session_.jobFindings();
    const Distribution* d = kind_ == Kind::Distribution ? distribution() : nullptr;
    const DistributionFinding* f =
        findings && d != nullptr ? findings->distribution(d->id) : nullptr;
    const bool shown =
        f != nullptr && f->fits(*d) && !f->good && f->proposal && !f->proposal->possible;
    proposal_->setVisible(shown);
    if (shown)
        proposal_->setText(
            tr("Nothing cures it by itself: %1").arg(said(f->proposal->reason, session_)));
}

} // namespace burin
