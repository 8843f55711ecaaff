#include "app/frame/run_sheet.h"
#include "app/look/field_lines.h"
#include "app/look/language.h"
#include "app/look/painters.h"
#include "app/look/theme.h"
#include "core/edit/typed_field.h"
#include "core/job/ports.h"
#include "core/pull/stock.h"
#include "core/units/units.h"
#include <set>

namespace burin {
namespace {

/// Choices of power beyond this are classes of devices, those below types of ports.
constexpr int classesFrom = 100;
/// The width of a field that takes what the others of its line leave.
constexpr int widest = 0;
constexpr int leastOfWidest = 90; // px

/// The connection at the ends of a run; empty: none, or several.
std::string connectionOf(const Run& run) {
    std::set<std::string> out;
    for (const auto& connection : run.connections)
        if (connection.end != End::Inline)
            out.insert(connection.connectionId);
    return out.size() == 1 ? *out.begin() : std::string();
}

} // namespace

RunSheet::RunSheet(Session& session, QWidget* parent)
    : QWidget(parent), session_(session), lines_(new FieldLines(this)) {
    service_ = addChoice(tr("Carries"), "service", 0);
    cable_ = addChoice(tr("Cable"), "cable", 0);
    length_ = addField(tr("Length"), tr("61.5, 61.5 m, 201 ft, 3' 6\""), "length", 84, 0);
    powerType_ = addChoice(tr("Power"), "powerType", 0);
    extra_ = addField(tr("Level"), {}, "extra", 72, 0); // no run has both
    ends_ = addField(tr("From → to"),
                     tr("Panel A port 07 → bench wall, left jack; on the plan a port will do: "
                        "port 7 → jack 2"),
                     "ends", widest, 1);
    nearCord_ = addField(tr("Cords"), tr("Cord at the near end; 0 for none"), "nearCord", 60, 1);
    farCord_ = addField({}, tr("Cord at the far end; 0 for none"), "farCord", 60, 1,
                        tr("Cord at the far end"));
    connector_ = addChoice(tr("Connections"), "connector", 1);
    connector_->setSizePolicy(QSizePolicy::Preferred, QSizePolicy::Fixed);
    counts_ = addField({}, tr("How many connections at the near and far end: 1+1"), "counts", 44, 1,
                       tr("Connections at near and far end"));
    way_ = addField(tr("Way"),
                    tr("Stretches from the near end: riser 12 m; tray 34 m 31 °C 23 "
                       "beside; wall drop 15.5 m"),
                    "way", widest, 2);
    band_ = addField(tr("MHz"), tr("Lowest and highest frequency: 156-162"), "band", 120, 3);
    power_ = addField(tr("Power, W"), tr("What the radio sends into the line"), "power", 72, 3);
    ratio_ =
        addField(tr("SWR"), tr("Standing-wave ratio of the aerial, 1 or more"), "ratio", 72, 3);
    lines_->line(3)->addStretch(1);
    powerTypeLabel_ = labelOf(powerType_);
    powerType_->setToolTip(tr("Power over the data pairs: it warms the bundle, and must arrive"));
    powerType_->addItem(tr("none"), 0);
    for (int type = 1; type <= 4; ++type)
        if (const auto known = poweredType(type))
            powerType_->addItem(tr("type %1, %2").arg(type).arg(figure(formatWatt(known->sourceW))),
                                type);
    // What a device says it is, where nobody knows the port's type.
    for (int deviceClass = 1; deviceClass <= 8; ++deviceClass)
        if (const auto known = poweredClass(deviceClass))
            powerType_->addItem(
                tr("class %1, %2").arg(deviceClass).arg(figure(formatWatt(known->deviceW))),
                classesFrom + deviceClass);
    extras_ = {extra_, labelOf(extra_)};
    for (QWidget* field : std::initializer_list<QWidget*>{band_, power_, ratio_}) {
        bands_.push_back(field);
        bands_.push_back(labelOf(field));
    }
    // Until a run has them they take no room from the window.
    for (const auto& some : {extras_, bands_, {powerType_, powerTypeLabel_}})
        for (QWidget* widget : some)
            widget->hide();

    connect(service_, &QComboBox::activated, this, [this] {
        const std::string id = service_->currentData().toString().toStdString();
        session_.changeSelected(QStringLiteral("set service"),
                                [&](Run& run) { run.serviceId = id; });
    });
    connect(cable_, &QComboBox::activated, this, [this] {
        const std::string id = cable_->currentData().toString().toStdString();
        const Cable* now = session_.catalogue().cable(id);
        session_.changeSelected(QStringLiteral("set cable"), [&](Run& run) {
            const Cable* old = session_.catalogue().cable(run.cableId);
            run.cableId = id;
            // Another kind of cable cannot keep the other's cords and plugs.
            if (old == nullptr || now == nullptr || old->kind != now->kind)
                fitOut(run, session_.catalogue());
        });
    });
    connect(connector_, &QComboBox::activated, this, [this] { keepConnector(); });
    connect(length_, &QLineEdit::textEdited, this, [this](const QString& t) { previewLength(t); });
    connect(length_, &SheetField::typed, this, &RunSheet::keepLength);
    connect(way_, &SheetField::typed, this, &RunSheet::keepWay);
    connect(nearCord_, &SheetField::typed, this, [this] { keepCord(nearCord_, End::Near); });
    connect(farCord_, &SheetField::typed, this, [this] { keepCord(farCord_, End::Far); });
    connect(counts_, &SheetField::typed, this, &RunSheet::keepCounts);
    connect(extra_, &SheetField::typed, this, [this] {
        const bool level = serviceOf() != nullptr && serviceOf()->levelWindow.has_value();
        keepField(extra_, level ? "headLevel" : "lossBudgetDb");
    });
    connect(band_, &SheetField::typed, this, &RunSheet::keepBand);
    connect(power_, &SheetField::typed, this, [this] { keepField(power_, "powerW"); });
    connect(ratio_, &SheetField::typed, this, [this] { keepField(ratio_, "loadRatio"); });
    connect(powerType_, &QComboBox::activated, this, [this] {
        const int chosen = powerType_->currentData().toInt();
        const bool byClass = chosen > classesFrom;
        session_.changeSelected(QStringLiteral("power"), [&](Run& run) {
            run.poweredType = chosen > 0 && !byClass ? std::optional(chosen) : std::nullopt;
            run.poweredClass = byClass ? std::optional(chosen - classesFrom) : std::nullopt;
        });
    });
    connect(ends_, &SheetField::typed, this, &RunSheet::keepEnds);
    for (auto signal : {&Session::selectionChanged, &Session::jobChanged, &Session::unitsChanged})
        connect(&session, signal, this, [this] { show(); });
    connect(&session, &Session::previewChanged, this, [this] {
        if (!length_->isModified() && session_.shown() != nullptr)
            length_->showText(figure(formatLength(session_.shown()->lengthM(), session_.units())));
    });
}

SheetField* RunSheet::addField(const QString& text, const QString& tip, const char* name, int width,
                               int row, const QString& called) {
    auto* field =
        new SheetField(session_, text.isEmpty() ? called : text, QLatin1String(name), this);
    field->setToolTip(tip);
    if (width == widest)
        field->keepWidth(leastOfWidest, SheetField::Width::AtLeast);
    else
        field->keepWidth(width, SheetField::Width::Exact);
    lines_->add(text, field, row);
    return field;
}

QLabel* RunSheet::labelOf(const QWidget* field) const {
    for (auto* label : findChildren<QLabel*>())
        if (label->buddy() == field)
            return label;
    return nullptr;
}

Choice* RunSheet::addChoice(const QString& text, const char* name, int row) {
    auto* choice = new Choice(this);
    choice->setObjectName(QLatin1String(name));
    choice->setAccessibleName(text);
    choice->setPlaceholderText(tr("several"));
    lines_->add(text, choice, row);
    return choice;
}

template <typename Get> QString RunSheet::common(Get get) const {
    std::set<QString> values;
    for (const auto& id : session_.selected())
        if (const Run* run = session_.job().run(id))
            values.insert(get(*run));
    return values.size() == 1 ? *values.begin() : QString();
}

void RunSheet::fillChoices() {
    if (filledFrom_ == &session_.catalogue())
        return;
    filledFrom_ = &session_.catalogue();
    service_->clear();
    for (const auto& s : session_.catalogue().services)
        service_->addItem(q(s.name), q(s.id));
    cable_->clear();
    for (const auto& c : session_.catalogue().cables)
        cable_->addItem(q(c.name), q(c.id));
    connector_->clear();
    for (const auto& c : session_.catalogue().connections)
        connector_->addItem(q(c.name), q(c.id));
}

void RunSheet::show() {
    const bool any = session_.hasJob() && session_.current() != nullptr;
    setEnabled(any);
    if (!any || showing_)
        return;
    showing_ = true;
    fillChoices();
    const auto units = session_.units();
    const bool sameRuns = shownFor_ == session_.selected();
    shownFor_ = session_.selected();
    const auto of = sameRuns ? SheetField::Of::TheSame : SheetField::Of::Another;
    const auto set = [of](SheetField* field, const QString& text) {
        field->showText(text, of);
        field->setPlaceholderText(text.isEmpty() ? tr("several") : QString());
    };
    const auto choose = [](QComboBox* box, const QString& id, bool none = false) {
        box->setPlaceholderText(none ? tr("none") : tr("several"));
        box->setCurrentIndex(id.isEmpty() ? -1 : box->findData(id));
    };
    choose(service_, common([](const Run& r) { return q(r.serviceId); }));
    choose(cable_, common([](const Run& r) { return q(r.cableId); }));
    const QString plugs = common([](const Run& r) {
        return QString::number(connectionsAt(r, End::Near) + connectionsAt(r, End::Far));
    });
    choose(connector_, common([](const Run& r) { return q(connectionOf(r)); }),
           plugs == QStringLiteral("0"));
    set(length_, common([&](const Run& r) { return figure(formatLength(r.lengthM(), units)); }));
    set(way_, common([&](const Run& r) { return q(wayText(r.stretches, units)); }));
    set(nearCord_,
        common([&](const Run& r) { return figure(formatLength(cordsAtM(r, End::Near), units)); }));
    set(farCord_,
        common([&](const Run& r) { return figure(formatLength(cordsAtM(r, End::Far), units)); }));
    set(counts_, common([&](const Run& r) {
            return QStringLiteral("%1+%2")
                .arg(connectionsAt(r, End::Near))
                .arg(connectionsAt(r, End::Far));
        }));
    set(ends_, common([this](const Run& r) {
            const auto ends = fromTo(session_.job(), r);
            return ends.empty() ? QStringLiteral(" ") : q(ends);
        }));
    showExtras(*session_.current(), of);
    showing_ = false;
}

const Service* RunSheet::serviceOf() const {
    const Run* run = session_.hasJob() ? session_.current() : nullptr;
    return run == nullptr ? nullptr : session_.catalogue().service(run->serviceId);
}

void RunSheet::showExtras(const Run& run, SheetField::Of of) {
    const Service* service = serviceOf();
    const bool level = service != nullptr && service->levelWindow.has_value();
    const bool budget = service != nullptr && service->lossBudget;
    // A port that negotiates a rate may send power as well.
    const bool powered = service != nullptr && service->bitRateMbit > 0;
    for (QWidget* w : std::initializer_list<QWidget*>{powerType_, powerTypeLabel_})
        w->setVisible(powered);
    powerType_->setCurrentIndex(powerType_->findData(
        run.poweredClass ? classesFrom + *run.poweredClass : run.poweredType.value_or(0)));
    for (auto* w : extras_)
        w->setVisible(level || budget);
    for (auto* w : bands_)
        w->setVisible(budget);
    if (!level && !budget)
        return;
    auto* label = static_cast<QLabel*>(extras_[1]);
    const bool fed = level && session_.job().distributionOf(run.id) != nullptr;
    label->setText(!level ? tr("Loss ≤, dB")
                   : fed  ? tr("At port, %1").arg(q(service->levelWindow->unit))
                          : tr("At head, %1").arg(q(service->levelWindow->unit)));
    extra_->setToolTip(!level ? tr("Loss this line may have, dB")
                       : fed
                           ? tr("Level where this run starts: a test of it alone is judged by it")
                           : tr("Level at the head end, in %1").arg(q(service->levelWindow->unit)));
    const auto& value = level ? run.headLevel : run.lossBudgetDb;
    extra_->showText(value ? figure(formatFixed(*value, 1)) : QString(), of);
    const auto typed = [&](const char* name, const std::optional<double>& number) {
        return number ? asTyped(*tableOf(Kind::Run).field(name), *number, session_.units())
                      : QString();
    };
    band_->showText(run.bandToMhz
                        ? typed("bandFromMhz", run.bandFromMhz ? run.bandFromMhz : run.bandToMhz) +
                              QLatin1Char('-') + typed("bandToMhz", run.bandToMhz)
                        : QString(),
                    of);
    power_->showText(typed("powerW", run.powerW), of);
    ratio_->showText(typed("loadRatio", run.loadRatio), of);
}

void RunSheet::previewLength(const QString& text) {
    if (length_->saysTheSame())
        return session_.dropPreview();
    const auto length = parseLengthM(text.toStdString(), session_.units());
    if (length && session_.current() != nullptr && session_.selected().size() == 1 &&
        !fixedByMarks(*session_.current()))
        session_.preview(withLength(*session_.current(), *length));
}

void RunSheet::keepLength() {
    const auto length = parseLengthM(length_->text().toStdString(), session_.units());
    if (!length) {
        session_.dropPreview();
        return length_->refuse(length.error());
    }
    for (const auto& id : session_.selected())
        if (const Run* run = session_.pending().run(id))
            if (const auto fixed = fixedByMarks(*run)) {
                session_.dropPreview();
                return length_->refuse(*fixed);
            }
    session_.changeSelected(QStringLiteral("length"),
                            [&](Run& run) { run = withLength(session_.toType(run), *length); });
}

void RunSheet::keepWay() {
    const auto way = parseWay(way_->text().toStdString(), session_.units());
    if (!way)
        return way_->refuse(way.error());
    session_.changeSelected(QStringLiteral("way"), [&](Run& run) {
        run = session_.toType(run);
        run.stretches = retypedWay(*way, run.stretches, session_.units());
        run.followsPlan = false;
    });
}

void RunSheet::keepCord(SheetField* field, End end) {
    const auto length = parseLengthM(field->text().toStdString(), session_.units());
    if (!length)
        return field->refuse(length.error());
    session_.changeSelected(QStringLiteral("cord"),
                            [&](Run& run) { run = withCord(run, end, *length); });
}

void RunSheet::keepConnector() {
    const std::string id = connector_->currentData().toString().toStdString();
    session_.changeSelected(QStringLiteral("connections"), [&](Run& run) {
        const bool none = connectionsAt(run, End::Near) + connectionsAt(run, End::Far) == 0;
        run = none ? withConnections(withConnections(run, End::Near, 1, id), End::Far, 1, id)
                   : withConnector(run, id);
    });
}

void RunSheet::keepCounts() {
    const QStringList parts = counts_->text().split(QLatin1Char('+'));
    bool good = parts.size() == 2;
    bool farGood = good;
    const int nearCount = good ? parts[0].trimmed().toInt(&good) : 0;
    const int farCount = farGood ? parts[1].trimmed().toInt(&farGood) : 0;
    const auto refuse = [this](const Sentence& what, const Sentence& cure) {
        counts_->refuse({alone(asTerm("connections")), 0, 0, what, cure});
    };
    if (!good || !farGood || nearCount < 0 || farCount < 0 || nearCount > 20 || farCount > 20)
        return refuse(sentence({"typed.no-counts", "“{0}” is no pair of counts"},
                               counts_->text().toStdString()),
                      {"cure.type-counts", "Type how many at each end: 1+1"});
    // What a run gets more of, or what is usual where it has none yet.
    const auto moreOf = [this](const Run& run) {
        for (const auto& connection : run.connections)
            if (connection.end != End::Inline)
                return connection.connectionId;
        const Cable* cable = session_.catalogue().cable(run.cableId);
        const Connection* usual =
            cable == nullptr ? nullptr : usualConnection(session_.catalogue(), *cable);
        return usual == nullptr ? std::string() : usual->id;
    };
    for (const auto& id : session_.selected())
        if (const Run* run = session_.pending().run(id))
            if (nearCount + farCount > 0 && moreOf(*run).empty())
                return refuse(sentence({"typed.no-connector", "{0} has no connector yet"},
                                       asText(run->label)),
                              {"cure.choose-connector", "Choose one first"});
    session_.changeSelected(QStringLiteral("connections"), [&](Run& run) {
        const std::string id = moreOf(run);
        run =
            withConnections(withConnections(run, End::Near, nearCount, id), End::Far, farCount, id);
    });
}

void RunSheet::keepEnds() {
    const QStringList parts = ends_->text().split(QStringLiteral("→"));
    session_.changeSelected(QStringLiteral("ends"), [&](Run& run) {
        const Job& job = session_.pending();
        run.near = typedEnd(job, run.near, parts.value(0).toStdString());
        run.far = typedEnd(job, run.far, parts.value(1).toStdString());
    });
}

/// A field of the run that is a figure, as its description has it.
void RunSheet::keepField(SheetField* field, const char* name) {
    const std::string called = field->accessibleName().toStdString();
    const auto value = readTyped(*tableOf(Kind::Run).field(name), field->text().toStdString(),
                                 session_.units(), called);
    if (!value)
        return field->refuse(value.error());
    // Of several runs those that it means something to.
    std::vector<std::string> ids;
    for (const auto& id : session_.selected()) {
        const Run* run = session_.pending().run(id);
        const Service* service =
            run == nullptr ? nullptr : session_.catalogue().service(run->serviceId);
        if (service != nullptr && (field != extra_ || service->levelWindow.has_value() ==
                                                          (std::string_view(name) == "headLevel")))
            ids.push_back(id);
    }
    session_.commit(setField(session_.pending(), Kind::Run, ids, name, *value));
}

void RunSheet::keepBand() {
    std::optional<double> from;
    std::optional<double> to;
    if (!band_->text().trimmed().isEmpty()) {
        const QStringList ends = band_->text().split(QLatin1Char('-'));
        const auto a = parseNumber(ends.first().toStdString(), "band");
        const auto b = parseNumber(ends.last().toStdString(), "band");
        const Field& lowest = *tableOf(Kind::Run).field("bandFromMhz");
        if (!a || !b || *a < lowest.least || *b > lowest.most || *b < *a)
            return band_->refuse(
                {alone(asTerm("band")),
                 0,
                 0,
                 sentence({"typed.no-band", "“{0}” is no band"}, band_->text().toStdString()),
                 {"cure.type-band", "Type lowest and highest MHz: 156-162"}});
        from = *a;
        to = *b;
    }
    session_.changeSelected(QStringLiteral("band"), [&](Run& run) {
        run.bandFromMhz = from;
        run.bandToMhz = to;
    });
}

} // namespace burin
