#include "app/budget/system_sheet.h"
#include "app/frame/panel.h"
#include "app/look/painters.h"
#include "app/look/theme.h"
#include "core/job/system_edit.h"
#include "core/lookup.h"
#include "core/units/units.h"
#include <QAbstractItemView>

namespace burin {
namespace {

QString plain(double value) {
    return QString::number(value, 'g', 6);
}

} // namespace

SystemSheet::SystemSheet(Session& session, QWidget* parent)
    : QWidget(parent), session_(session), grid_(new QGridLayout(this)),
      placeLabel_(new QLabel(this)), place_(new QComboBox(this)), partLabel_(new QLabel(this)),
      part_(new QLineEdit(this)), proposal_(words(Voice::Small, this)),
      adopt_(link(tr("Adopt"), this)) {
    grid_->setContentsMargins(0, 0, 0, 0);
    grid_->setHorizontalSpacing(8);
    grid_->setVerticalSpacing(4);
    place_->setObjectName(QStringLiteral("place"));
    place_->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    place_->setMinimumContentsLength(6);
    placeLabel_->setBuddy(place_);
    part_->setObjectName(QStringLiteral("part"));
    part_->setMinimumWidth(80);
    part_->setPlaceholderText(tr("splitter 4, tap 14, amplifier 20, multiswitch 8"));
    partLabel_->setBuddy(part_);
    adopt_->setObjectName(QStringLiteral("adoptProposal"));
    proposal_->setObjectName(QStringLiteral("proposal"));
    grid_->addWidget(placeLabel_, 0, 0);
    grid_->addWidget(place_, 0, 1, 1, 3);
    grid_->addWidget(partLabel_, 0, 4);
    grid_->addWidget(part_, 0, 5, 1, 3);
    addDistributionFields();
    addBusFields();
    proposal_->setSizePolicy(QSizePolicy::Preferred, QSizePolicy::Minimum);
    grid_->addWidget(proposal_, 3, 0, 1, 7);
    grid_->addWidget(adopt_, 3, 7);
    for (const int column : {1, 3, 5, 7})
        grid_->setColumnStretch(column, 1);
    connect(place_, &QComboBox::activated, this, [this] { placeChosen(); });
    connect(part_, &QLineEdit::editingFinished, this, [this] { keepPart(); });
    connect(adopt_, &QPushButton::clicked, this, [this] { adopt(); });
}

SystemSheet::Field& SystemSheet::addField(Kind kind, const QString& text, const QString& tip,
                                          const char* name, int row, int column, double least,
                                          double most) {
    Field& field = fields_.emplace_back();
    field.kind = kind;
    field.least = least;
    field.most = most;
    field.label = new QLabel(text, this);
    field.edit = new QLineEdit(this);
    field.edit->setObjectName(QLatin1String(name));
    field.edit->setAccessibleName(text);
    field.edit->setToolTip(tip);
    field.edit->setMinimumWidth(32);
    field.label->setBuddy(field.edit);
    grid_->addWidget(field.label, row, column);
    grid_->addWidget(field.edit, row, column + 1);
    connect(field.edit, &QLineEdit::editingFinished, this, [this, &field] { keep(field); });
    return field;
}

void SystemSheet::addDistributionFields() {
    const auto add = [&](const QString& text, const QString& tip, const char* name, int column,
                         double least, double most, auto member,
                         std::optional<bool> satellite = std::nullopt, int row = 1) {
        Field& field = addField(Kind::Distribution, text, tip, name, row, column, least, most);
        field.satellite = satellite;
        field.get = [this, member]() -> std::optional<double> {
            const Distribution* d = distribution();
            if (d == nullptr)
                return std::nullopt;
            if constexpr (std::is_same_v<std::decay_t<decltype(d->*member)>, std::optional<double>>)
                return d->*member;
            else
                return std::optional<double>(d->*member);
        };
        field.set = [this, member, text](std::optional<double> value) {
            change(tr("%1 of").arg(text.toLower()), [&](Distribution& d) {
                using Value = std::decay_t<decltype(d.*member)>;
                if constexpr (std::is_same_v<Value, std::optional<double>>)
                    d.*member = value;
                else
                    d.*member = static_cast<Value>(value.value_or(0));
            });
        };
    };
    add(tr("Head"), tr("Level at the head at the bottom of the band"), "headLevelOf", 0, -60, 140,
        &Distribution::headLevel);
    headLabel_ = fields_.back().label;
    add(tr("Slope, dB"), tr("Added to the head's level at the top of the band"), "slope", 2, -40,
        40, &Distribution::slopeDb);
    add(tr("Channels"), tr("Carried at once: they lower what an amplifier may give"), "channels", 4,
        1, 10000, &Distribution::channels, false);
    add(tr("Head outputs"), tr("How many cables the head can feed; 0 for as many as are used"),
        "headOutputs", 4, 0, 64, &Distribution::headOutputs, true);
    add(tr("Head takes, A"), tr("What the head draws from a receiver"), "headAmpere", 6, 0, 5,
        &Distribution::headAmpere, true);
    const auto noise = [&](int row, int column, bool satellite) {
        add(tr("C/N, dB"),
            tr("Carrier to noise at the head; empty: what a source of its kind gives"),
            satellite ? "headNoiseSatellite" : "headNoise", column, 0, 150,
            &Distribution::headCarrierToNoiseDb, satellite, row);
    };
    noise(1, 6, false);
    noise(2, 0, true);
}

void SystemSheet::addBusFields() {
    const auto device = [this]() -> const BusDevice* {
        const BusChain* b = bus();
        return b == nullptr ? nullptr : &b->devices[*b->deviceAt(session_.currentId())];
    };
    const auto ofDevice = [&](const QString& text, const QString& tip, const char* name, int row,
                              int column, double most, double scale, auto member) -> Field& {
        Field& field = addField(Kind::Bus, text, tip, name, row, column, 0, most);
        field.get = [device, member, scale]() -> std::optional<double> {
            const BusDevice* d = device();
            if (d == nullptr)
                return std::nullopt;
            if constexpr (std::is_same_v<std::decay_t<decltype(d->*member)>, double>)
                return d->*member * scale;
            else
                return d->*member ? std::optional(*(d->*member) * scale) : std::nullopt;
        };
        field.set = [this, member, scale, text](std::optional<double> value) {
            change(tr("%1 of").arg(text.toLower()), [&](BusChain& b) {
                auto& target = b.devices[*b.deviceAt(session_.currentId())].*member;
                if constexpr (std::is_same_v<std::decay_t<decltype(target)>, double>)
                    target = value.value_or(0) / scale;
                else
                    target = value ? std::optional(*value / scale) : std::nullopt;
            });
        };
        return field;
    };
    const auto ofBus = [&](const QString& text, const QString& tip, const char* name, int row,
                           int column, double least, double most, double scale, auto member) {
        Field& field = addField(Kind::Bus, text, tip, name, row, column, least, most);
        field.get = [this, member, scale]() -> std::optional<double> {
            const BusChain* b = bus();
            return b == nullptr ? std::nullopt : std::optional<double>(b->*member * scale);
        };
        field.set = [this, member, scale, text](std::optional<double> value) {
            change(tr("%1 of").arg(text.toLower()), [&](BusChain& b) {
                b.*member =
                    static_cast<std::decay_t<decltype(b.*member)>>(value.value_or(0) / scale);
            });
        };
    };
    ofDevice(tr("Stub"), tr("From the chain to the device, same cable"), "stub", 0, 4, 1000, 1,
             &BusDevice::stubM)
        .length = true;
    ofDevice(tr("Terminator, Ω"), tr("Across the bus at this device; empty for none"), "terminator",
             0, 6, 10000, 1, &BusDevice::terminatorOhm)
        .least = 1;
    ofDevice(tr("Takes, mA"), tr("Peak current of the device, from the bus's supply"), "takes", 1,
             0, 10000, 1000, &BusDevice::ampere);
    ofDevice(tr("Strike, mA"), tr("Current of a strike fed by the same pair"), "strike", 1, 2,
             10000, 1000, &BusDevice::strikeAmpere);
    ofDevice(tr("Needs, V"), tr("Least volts of the device"), "needs", 1, 4, 100, 1,
             &BusDevice::leastV);
    ofDevice(tr("Bears, V"), tr("Most volts of the device; empty when not known"), "bears", 1, 6,
             100, 1, &BusDevice::mostV);
    ofBus(tr("Supply, V"), tr("0 where every device has a supply of its own"), "supply", 2, 0, 0,
          100, 1, &BusChain::supplyV);
    ofBus(tr("± %"), tr("How far the supply may be off"), "supplyTolerance", 2, 2, 0, 50, 100,
          &BusChain::supplyToleranceShare);
    ofBus(tr("Pairs"), tr("Of the cable, in parallel for the supply"), "supplyPairs", 2, 4, 1, 100,
          1, &BusChain::supplyPairs);
    ofBus(tr("kbit/s"), tr("Bit rate of the bus"), "bitRate", 2, 6, 0.1, 100000, 1,
          &BusChain::bitRateKbit);
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

void SystemSheet::change(const QString& title, const std::function<void(Distribution&)>& change) {
    if (const Distribution* d = distribution()) {
        Distribution after = *d;
        change(after);
        commit(title, d, std::optional(after));
    }
}

void SystemSheet::change(const QString& title, const std::function<void(BusChain&)>& change) {
    if (const BusChain* b = bus()) {
        BusChain after = *b;
        change(after);
        commit(title, b, std::optional(after));
    }
}

void SystemSheet::refused(QLineEdit* edit, const Fault& fault) {
    edit->setStyleSheet(
        QStringLiteral("border: 1px solid %1;").arg(Theme::instance().tokens().rust.name()));
    emit session_.message(q(fault.text()), true);
}

void SystemSheet::keep(const Field& field) {
    if (!field.edit->isModified())
        return;
    const std::string text = field.edit->text().trimmed().toStdString();
    std::optional<double> value;
    if (!text.empty()) {
        const auto read = field.length ? parseLengthM(text, session_.units())
                                       : parseNumber(text, field.label->text().toStdString());
        if (!read)
            return refused(field.edit, read.error());
        if (*read < field.least || *read > field.most)
            return refused(field.edit,
                           {field.label->text().toStdString(), 0, 0, "“" + text + "” cannot be",
                            "Type " + plain(field.least).toStdString() + " to " +
                                plain(field.most).toStdString()});
        value = *read;
    }
    field.edit->setModified(false);
    field.set(value);
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
    const bool in = kind_ == Kind::Bus ? bus() != nullptr : distribution() != nullptr;
    for (const auto& field : fields_)
        if (!in || field.kind != kind_) {
            field.label->hide();
            field.edit->hide();
        }
    for (const auto& field : fields_) {
        const bool used =
            in && field.kind == kind_ &&
            field.satellite.value_or(service->oneReceiverACable) == service->oneReceiverACable;
        field.label->setVisible(used);
        field.edit->setVisible(used);
        if (!used || (field.edit->hasFocus() && field.edit->isModified()))
            continue;
        const auto value = field.get();
        field.edit->setText(!value         ? QString()
                            : field.length ? q(formatLength(*value, session_.units()))
                                           : plain(*value));
        field.edit->setModified(false);
        field.edit->setStyleSheet({});
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
            commit(tr("take %1 out of").arg(q(run.label)), mine, withoutRun(*mine, run.id));
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
            commit(tr("take %1 off").arg(q(run.label)), mine, withoutRun(*mine, run.id));
        return;
    }
    Edit edit{"wire " + run.label, {}};
    if (mine != nullptr && mine->id != id)
        edit.changes.push_back(put(std::optional(*mine), withoutRun(*mine, run.id)));
    if (id == "new")
        edit.changes.push_back(put(std::optional<BusChain>{}, std::optional(newBus(run))));
    else if (const BusChain* target = byId(session_.pending().buses, id))
        edit.changes.push_back(
            put(std::optional(*target), std::optional(goingOn(*target, run, after))));
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
    part_->setText(outlet ? QString() : q(treeUnitText(part->unit)));
    part_->setModified(false);
    part_->setStyleSheet({});
}

void SystemSheet::keepPart() {
    const Distribution* d = distribution();
    if (!part_->isModified() || d == nullptr)
        return;
    const bool known = chosen_ >= 0 && chosen_ < static_cast<int>(d->parts.size());
    const DistributionPart* part =
        known ? &d->parts[static_cast<std::size_t>(chosen_)] : d->fedBy(session_.currentId());
    if (part == nullptr)
        return;
    const bool outlet = part->unit.part == TreePart::Outlet;
    const std::string text = part_->text().trimmed().toStdString();
    if (text.empty()) {
        part_->setModified(false);
        if (outlet)
            return;
        auto after = withoutPart(*d, part->id);
        if (!after)
            return refused(part_, after.error());
        commit(tr("take out %1 of").arg(q(part->name)), d, std::move(*after));
        return;
    }
    const auto unit = parseTreeUnit(text);
    if (!unit)
        return refused(part_, unit.error());
    part_->setModified(false);
    if (outlet) {
        commit(tr("put %1 in").arg(q(text)), d, std::optional(withPartAhead(*d, part->id, *unit)));
        return;
    }
    Distribution after = *d;
    after.parts[static_cast<std::size_t>(part - d->parts.data())].unit = *unit;
    commit(tr("change %1 of").arg(q(part->name)), d, std::optional(after));
}

void SystemSheet::showProposal() {
    const auto findings = session_.jobFindings();
    const Distribution* d = kind_ == Kind::Distribution ? distribution() : nullptr;
    const DistributionFinding* f =
        findings && d != nullptr ? findings->distribution(d->id) : nullptr;
    const bool shown = f != nullptr && f->fits(*d) && !f->good && f->proposal;
    proposal_->setVisible(shown);
    adopt_->setVisible(shown && f->proposal->possible);
    if (shown)
        proposal_->setText(
            f->proposal->possible
                ? tr("Would hold: %1").arg(inUnits(f->proposal->reason, session_))
                : tr("Nothing cures it by itself: %1").arg(inUnits(f->proposal->reason, session_)));
}

void SystemSheet::adopt() {
    const auto findings = session_.jobFindings();
    const Distribution* d = distribution();
    const DistributionFinding* f =
        findings && d != nullptr ? findings->distribution(d->id) : nullptr;
    // Of the job as it is kept: what the plan lays is no part of an edit.
    if (f != nullptr && f->proposal && f->proposal->possible && f->fits(*d))
        session_.commit(adoption(session_.pending(), *d, *f->proposal, f->tree));
}

} // namespace burin
