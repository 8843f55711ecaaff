#pragma once
#include "core/base/fault.h"
#include "core/catalogue/costs.h"
#include "core/catalogue/end_card.h"
#include "core/catalogue/limit.h"
#include "core/catalogue/site_rules.h"
#include "core/catalogue/work.h"
#include <optional>
#include <span>
#include <string>
#include <vector>

namespace burin {

/// One number of the catalogue with where it comes from. The unit is in the name of what holds it.
struct Figure {
    double value = 0;
    std::string source; ///< a sentence, fit to be shown
    bool operator==(const Figure&) const = default;
};

enum class CableKind { Balanced, Coax };
/// Category of balanced parts, in rising order: comparing two tells which is the lower. None: made
/// for a bus or the like, and of no class.
enum class Category { None, Cat3, Cat5, Cat5e, Cat6, Cat6A, Cat7, Cat7A, Cat8 };
enum class Screen { None, Overall, Pairs };

/// "Cat 6A"; "no category".
std::string categoryName(Category category);
std::optional<Category> categoryFromKey(std::string_view key); ///< "6A"
std::string_view categoryKey(Category category);

/// A layer of coax between its dielectric and its jacket. Corrugated: a tube of copper.
enum class Shield { Foil, Braid, Corrugated };
inline constexpr auto shieldWords = wordsOf<Shield>("foil", "braid", "corrugated");

/// Attenuation per 100 m at 20 °C, f in MHz: k0 + k1·√f + k2·f + k3/√f dB. Balanced cable has no
/// k0, coax no k3.
struct AttenuationTerms {
    Figure k0Db, k1Db, k2Db, k3Db;
    bool operator==(const AttenuationTerms&) const = default;
};

struct Cable {
    std::string id;
    std::string name;
    CableKind kind = CableKind::Balanced;
    Category category = Category::Cat6; ///< balanced only
    Screen screen = Screen::None;       ///< balanced only
    AttenuationTerms attenuation;
    Figure topMhz; ///< beyond it a figure is an extrapolation
    Figure impedanceOhm;
    Figure nvp;                                ///< velocity as a share of c0
    Figure conductorOhmPerKm;                  ///< one conductor, or the centre, at 20 °C
    std::optional<Figure> shieldOhmPerKm;      ///< coax
    std::optional<Figure> solidCopperOhmPerKm; ///< coax sold with either centre
    std::optional<Figure> conductorAwg;
    std::optional<Figure> diameterMm;
    std::optional<Figure> massKgPer100m;
    std::optional<Figure> pullN; ///< most it may be pulled with; none: its own sheet says
    std::string centreConductor;
    std::optional<Figure> centreMm;     ///< coax: diameter of the centre conductor
    std::optional<Figure> dielectricMm; ///< coax: over its dielectric
    std::vector<Shield> shields;        ///< coax, from inside; empty: not known
    std::optional<Figure> supplyAwg;    ///< composite: conductors for supply beside the data pair
    bool stranded = false;
    bool userDefined = false; ///< lives in the job, not in the catalogue
    /// Services it is proposed for, by id; none: whatever its kind and figures allow. Empty: it is
    /// known and judged, and never proposed (legacy cable, cords).
    std::optional<std::vector<std::string>> proposedFor;
    bool operator==(const Cable&) const = default;

    [[nodiscard]] bool isProposedFor(std::string_view serviceId) const;
};

enum class Weather { Indoors, Booted, Sealed }; ///< what a connector bears, rising
std::string_view weatherKey(Weather weather);
enum class Conductors { Solid, Stranded, Both };

/// What a connector grips and asks for. Ranges from least to most.
struct ConnectorFit {
    std::string series; ///< "F"
    std::string school; ///< "compression"
    std::vector<double> impedancesOhm;
    double jacketLeastMm = 0, jacketMostMm = 0;
    double conductorLeastMm = 0, conductorMostMm = 0;
    Conductors conductors = Conductors::Both;
    Weather weather = Weather::Indoors;
    double minutes = 0; ///< to make one end
    std::string tools, joint, source;
};

struct Connection {
    std::string id;
    std::string name;
    CableKind kind = CableKind::Balanced;
    Category category = Category::Cat6;
    bool screened = false;              ///< takes up the cable's screen all round; balanced
    Figure flatDb, perSqrtMhzDb;        ///< balanced: flat + perSqrt·√f
    Figure at1GhzDb;                    ///< coax: a·√(f/1000)
    std::optional<Figure> ceilingMhz;   ///< coax
    std::optional<Figure> impedanceOhm; ///< none: matched to its cable
    std::optional<Figure> electricalMm;
    std::optional<ConnectorFit> fit;
};

/// Schools for 10 Gbit/s on Cat 6.
enum class BundleSchool { Guideline, Cautious, None };
inline constexpr auto bundleSchoolWords = wordsOf<BundleSchool>("guideline", "cautious", "none");

struct BundleStep {
    BundleSchool school = BundleSchool::Guideline;
    std::optional<int> maxNeighbours; ///< none: any number
    double channelM = 0;
};
struct LossRule {
    double fromMhz = 0, toMhz = 0, maxDb = 0;
};
struct ReturnLossRule {
    double fromMhz = 0, toMhz = 0, minDb = 0;
};
struct LevelWindow {
    std::string unit;
    double min = 0, max = 0;
    double fromMhz = 0, toMhz = 0;
};

/// Carrier to noise, dB, in the service's bandwidth.
struct NoiseRule {
    double bandwidthMhz = 8;
    double leastDb = 0;  ///< at an outlet
    double sourceDb = 0; ///< what a source of this kind gives, where nobody knows better
};

/// What a wire of some resistance takes from a load: 20·log((load + loop)/load) dB, no more than so
/// much.
struct LoopRule {
    double loadOhm = 0, maxDb = 0;
    /// Loop resistance that takes just that.
    [[nodiscard]] double mostOhm() const;
};

/// What a run is asked to carry, and every rule by which it is judged.
struct Service {
    std::string id;
    std::string name;
    std::string source;
    std::vector<CableKind> kinds;
    int pairs = 0;                     ///< 0: coax
    std::vector<std::string> pinPairs; ///< pairs of the eight-way jack it uses: "1-2"
    double bitRateMbit = 0;            ///< what a port negotiates; 0: none
    std::optional<Category> needsCategory;
    std::string belowCategoryNote;
    std::string limitClassIso, limitClassTia; ///< empty: no class limit judges it
    double limitTopMhz = 0;
    std::optional<double> maxChannelM;
    std::string beyondNote;
    std::optional<Category> bundleCategory;
    std::vector<BundleStep> bundleSteps;
    std::string bundleBeyond;
    std::vector<double> impedancesOhm;                      ///< empty: any
    std::optional<double> sharedCableM, cablePerDirectionM; ///< leased circuits on plain pairs
    std::vector<LossRule> lossRules;
    std::vector<ReturnLossRule> returnLossRules;
    std::optional<LevelWindow> levelWindow;
    std::optional<NoiseRule> noise;
    std::optional<LoopRule> loopRule;
    bool bus = false;               ///< readers in a chain
    bool distributed = false;       ///< one head, many outlets
    bool oneReceiverACable = false; ///< a receiver's volts choose what its output carries
    bool lossBudget = false;        ///< the run carries the user's own loss budget and band
    bool aerial = false;            ///< comes from an aerial or a dish
    double mostSwr = 0;             ///< at the radio, over the run's band; 0: no rule
    std::string noReachNote;        ///< why no reach can be given
};

struct TemperatureRule {
    Figure unscreenedPerDegreeTo40, unscreenedPerDegreeTo60, screenedPerDegreeTo60;
    Figure copperPerDegree, ratedC;
};
struct CordRule {
    Figure stranded24AwgFactor, stranded26AwgFactor;
};

/// Crosstalk of balanced parts of one category. Cable at 100 MHz and 100 m, falling 15 dB (NEXT)
/// and 20 dB (ACR-F) a decade; connections at 1 MHz, falling by their own slope a decade.
struct CrosstalkRule {
    Category category = Category::Cat6;
    Figure nextDb, psNextDb, acrFDb, psAcrFDb;
    Figure connectionNextDb, connectionPsNextDb, connectionNextSlopeDb;
    Figure connectionAcrFDb, connectionPsAcrFDb, connectionAcrFSlopeDb;
    Figure skewNsPer100m, connectionSkewNs; ///< most between any two pairs
};

struct Catalogue {
    std::vector<Cable> cables;
    std::vector<Connection> connections;
    std::vector<Service> services;
    std::vector<Limit> limits;
    TemperatureRule temperature;
    CordRule cord;
    std::vector<CrosstalkRule> crosstalk; ///< categories without one have no figure
    SiteRules site;
    Costs costs;
    WorkRules work;
    std::vector<LabelSheet> labels;
    std::vector<EndCard> cards; ///< of making ends, the more particular first

    [[nodiscard]] const Cable* cable(std::string_view id) const;
    [[nodiscard]] const Connection* connection(std::string_view id) const;
    [[nodiscard]] const Service* service(std::string_view id) const;
    /// The limit, or nullptr: "no limit in the catalogue".
    [[nodiscard]] const Limit* limit(LimitSet set, std::string_view className, LinkKind link,
                                     Parameter parameter) const;
    /// The catalogue with a user's cables laid over it; one of the same id replaces.
    [[nodiscard]] Catalogue with(std::span<const Cable> cables) const;
};

/// What is put on the ends of such a cable where nobody says otherwise: a jack of its category and
/// screen, a screw terminal for a bus, a connector of its impedance that grips it. None: nothing in
/// the catalogue does.
const Connection* usualConnection(const Catalogue& catalogue, const Cable& cable);

/// Class (ISO) or category (TIA) a balanced part of this category is built for; empty where the
/// set has none in the catalogue.
std::string className(LimitSet set, Category category);

/// Reads cables.json, connections.json, limits.json, services.json, site.json, costs.json,
/// work.json, labels.json and terminations.json from `folder`. Every key is checked: an unknown or
/// missing one, a wrong unit, a value out of range is refused with file, line where known, key and
/// cure.
Outcome<Catalogue> loadCatalogue(const std::string& folder);
/// As loadCatalogue, from texts (for tests and for checks before saving), without work, labels and
/// cards.
Outcome<Catalogue> readCatalogue(std::string_view cables, std::string_view connections,
                                 std::string_view limits, std::string_view services,
                                 std::string_view site, std::string_view costs);

/// One cable as JSON text in the form of cables.json, and back: how a user's cable is kept.
std::string writeCable(const Cable& cable);
Outcome<Cable> readCable(std::string_view json, const std::string& where);

} // namespace burin
