#pragma once
#include "core/base/fault.h"
#include "core/base/ids.h"
#include "core/catalogue/catalogue.h"
#include "core/job/ends.h"
#include "core/job/stock.h"
#include "core/job/system.h"
#include "core/plan/plan.h"
#include <algorithm>
#include <array>
#include <optional>
#include <string>
#include <vector>

namespace burin {

/// How far the instrument may be off, unless its certificate says otherwise.
struct Accuracy {
    double lossDb = 0.5, lossShare = 0.02;
    double crosstalkDb = 1.5;      ///< NEXT and ACR-F up to 100 MHz
    double crosstalkAtTopDb = 3.0; ///< at the top of the limit, rising in between
    double returnLossDb = 1.5;
    double lengthM = 0.5, lengthShare = 0.01;
    double resistanceOhm = 0.3, resistanceShare = 0.01;
    double delayNs = 10;
    bool operator==(const Accuracy&) const = default;
};

/// What holds for the whole job. There is exactly one; its id is "job".
struct JobInfo {
    std::string id = "job";
    std::string name;
    LimitSet limitSet = LimitSet::Iso;
    BundleSchool school = BundleSchool::Guideline;
    bool wiringA = false; ///< T568A; else T568B
    Accuracy accuracy;
    SurveyRules survey;
    PullRules pull;
    bool operator==(const JobInfo&) const = default;
};

struct Room {
    std::string id;
    std::string letters; ///< "SL"
    std::string name;    ///< "Sail loft"
    int tape = 0;        ///< which of the room tapes, 0…9
    int order = 0;
    std::string floorId{};            ///< empty: not on the plan
    std::vector<PlanPoint> outline{}; ///< its corners, in turn
    bool operator==(const Room&) const = default;
};

struct RunCord {
    End end = End::Near;
    std::string cableId;
    double lengthM = 0;
    bool awg26 = false;
    std::string id{};
    double order = 0; ///< those of a run stand in this order
    bool operator==(const RunCord&) const = default;
};
struct RunConnection {
    End end = End::Near;
    std::string connectionId;
    double atM = 0;        ///< inline couplers: metres of fixed cable from the near end
    bool outdoors = false; ///< where weather reaches it
    std::string id{};
    double order = 0;
    bool operator==(const RunConnection&) const = default;
};
/// A part of the way with one warmth and one company of other cables.
struct RunStretch {
    std::string name;
    double lengthM = 0;
    double temperatureC = 20;
    int neighbours = 0; ///< other cables alongside
    Surroundings around = Surroundings::FreeAir;
    std::string id{}; ///< empty until it is kept
    double order = 0; ///< those of a run stand in this order
    bool operator==(const RunStretch&) const = default;
};

/// One end of a run. What it is called is told by `endName`; its cord and connections are those of
/// the run at that end, how hard it is to reach is its place's.
struct RunEnd {
    std::string text; ///< what people call it: "bench wall, left jack"; empty: its place and port
    std::string placeId{}; ///< where it stands on the plan; empty: not drawn
    int port = 0;          ///< of that place, from 1; 0: none that is known
    bool operator==(const RunEnd&) const = default;
};

/// One cable between any two ends. The fixed cable is the sum of its stretches, near end first.
/// Where the run follows the plan its stretches are laid by the plan (`laidJob`); those kept with
/// it are what was typed, and count again when it follows no more.
struct Run {
    std::string id;
    std::string roomId;
    std::string label; ///< "SL-D03", unique in the job
    int order = 0;
    std::string serviceId;
    std::string cableId;
    RunEnd near, far;
    std::vector<RunStretch> stretches;
    std::vector<RunCord> cords;
    std::vector<RunConnection> connections;
    std::optional<double> headLevel; ///< in the unit of the service's level window
    std::optional<double> lossBudgetDb, bandFromMhz, bandToMhz;
    std::optional<double> powerW;    ///< into a feedline
    std::optional<double> loadRatio; ///< standing-wave ratio of its aerial, 1 or more
    std::optional<int> poweredType;  ///< power over the data pairs, type 1 … 4
    std::optional<int> poweredClass; ///< or by the class 1 … 8 of its device, which leads
    bool perDirection = false;       ///< leased circuit: a cable of its own for each direction
    bool leftCoiled = false;
    std::string note;
    bool followsPlan = false; ///< the plan gives its stretches
    std::vector<Via> vias;    ///< its way leads through these, from the near end
    Jacket jacket = Jacket::Unknown;
    std::string pullId{}; ///< it is pulled with the others of that pull; empty: as it is planned
    PulledPiece piece{};
    bool operator==(const Run&) const = default;

    [[nodiscard]] double lengthM() const;
    /// Most other cables beside it anywhere along the way.
    [[nodiscard]] int neighbours() const;
};

/// The same run with another length: the last stretch takes up the difference, and when it runs
/// out, the one before it.
Run withLength(Run run, double lengthM);
/// The same run with cords of that length together at one end: one of them, or none at 0 m.
Run withCord(Run run, End end, double lengthM);
/// The same run with so many connections at one end: those it has stay, the last ones go, and more
/// are as the last there is, or `connectionId` where there is none.
Run withConnections(Run run, End end, int count, const std::string& connectionId);
/// The same run with that connection wherever it has one at an end; couplers on its way stay.
Run withConnector(Run run, const std::string& connectionId);

/// Far pin found at each near pin 1…8 and the shield.
struct WireMap {
    /// 1…8: the far pin; 0: open.
    std::array<int, 8> farPin{1, 2, 3, 4, 5, 6, 7, 8};
    /// Pins of the same letter touch each other; ' ': none.
    std::array<char, 8> shortGroup{' ', ' ', ' ', ' ', ' ', ' ', ' ', ' '};
    std::optional<bool> shieldWhole; ///< none: no shield, or not looked at
    bool operator==(const WireMap&) const = default;
};

/// What a plain tester showed, typed in.
struct TesterAnswer {
    std::optional<WireMap> wireMap;
    std::optional<double> lengthM;
    std::optional<double> loopOhm;
    std::optional<double> negotiatedMbit;
    bool operator==(const TesterAnswer&) const = default;
};

enum class PortOrder { AcrossThenFar, SideBySide };
inline constexpr auto portOrderWords = wordsOf<PortOrder>("across-then-far", "side-by-side");

/// What one measured file or typed answer is of. Numbers in the file are not kept here: the file
/// itself is, byte for byte, and what it means is a finding.
struct Measurement {
    std::string id;
    std::string runId;
    std::string takenAt; ///< ISO 8601, with its offset from UTC ("…+01:00", "…Z")
    LinkKind link = LinkKind::Channel;
    std::string pair; ///< "1-2"; empty: coax, or the file names its pairs
    std::string fileName;
    std::string fileHash;      ///< SHA-256 of the bytes, in hex; empty: typed answer
    std::string frequencyUnit; ///< CSV whose header does not give it: "MHz"; else empty
    std::string columns;       ///< CSV: meanings given by hand, one a column, separated by ';'
    /// Which entry of the job it is, from 1: the later one stands. 0: of a job or export before
    /// version 4, which goes before all that have one, by its time.
    int entry = 0;
    /// Four-port sweeps: how ports lie; none: told from the strongest way through.
    std::optional<PortOrder> portOrder;
    TesterAnswer tester;
    std::string note;
    /// Somebody said that this is the run's own although its loss looks like another's.
    bool confirmed = false;
    bool operator==(const Measurement&) const = default;
};

/// The entry number of the next measurement, or termination, of a job.
template <typename Row> int nextEntry(const std::vector<Row>& rows) {
    int last = 0;
    for (const auto& row : rows)
        last = std::max(last, row.entry);
    return last + 1;
}

/// Under which key the file of a measurement is found once read.
std::string fileKey(const Measurement& measurement);

/// A cable the user made from datasheet points. `json` is in the form of cables.json.
struct UserCable {
    std::string id;
    std::string json;
    bool operator==(const UserCable&) const = default;
};

/// Length of the cords at one end of a run, m.
double cordsAtM(const Run& run, End end);
/// How many connections one end of a run has.
int connectionsAt(const Run& run, End end);

/// What one of two copies of the job made of something that the other changed as well.
struct Claim {
    std::string value;   ///< of the field, as JSON; of a row: "removed" or "changed"
    std::string who, at; ///< the time in UTC
    bool operator==(const Claim&) const = default;
};
/// Something that two copies of the job changed, each in its own way, found when they were joined.
/// One of the claims stands meanwhile; it is here until somebody has decided.
struct Conflict {
    std::string id;
    std::string kind, rowId; ///< of the row
    std::string field;       ///< "note"; empty: the row went in one copy and was changed in another
    std::string base;        ///< what the field was before, as JSON; of a row empty
    std::vector<Claim> claims;
    bool operator==(const Conflict&) const = default;
};

/// Everything people entered. Lists are in the order they are shown.
struct Job {
    JobInfo info;
    std::vector<Room> rooms;
    std::vector<Run> runs;
    std::vector<Measurement> measurements;
    std::vector<UserCable> cables;
    std::vector<Distribution> distributions;
    std::vector<BusChain> buses;
    std::vector<Floor> floors;
    std::vector<Place> places;
    std::vector<Pathway> pathways;
    std::vector<MainsRoute> mains;
    std::vector<Surface> surfaces;
    std::vector<Photograph> photographs;
    std::vector<Box> boxes;
    std::vector<Pull> pulls;
    std::vector<HandTool> tools;
    std::vector<Termination> terminations;
    std::vector<UserCard> cards;
    std::vector<Conflict> conflicts;
    bool operator==(const Job&) const = default;

    /// What was measured lies there.
    [[nodiscard]] bool isMeasured(std::string_view runId) const;
    [[nodiscard]] const Run* run(std::string_view id) const;
    [[nodiscard]] const Run* runLabelled(std::string_view label) const;
    [[nodiscard]] const Room* room(std::string_view id) const;
    /// The distribution one of whose parts that run feeds, or nullptr.
    [[nodiscard]] const Distribution* distributionOf(std::string_view runId) const;
    [[nodiscard]] const BusChain* busOf(std::string_view runId) const;
};

/// The catalogue with the job's own cables, cards and prices over it; one that cannot be read is
/// left out and reported.
Catalogue catalogueOf(const Catalogue& shipped, const Job& job, std::vector<Fault>* faults);
/// True where two jobs have the same over it. An empty one has nothing.
bool haveOneCatalogue(const Job& a, const Job& b);

} // namespace burin
