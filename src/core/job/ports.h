#pragma once
#include "core/job/job.h"
#include <map>
#include <set>

namespace burin {

/// What a port of a place is called with it: "panel A port 7", "block 1 pair 4", "outlet 3, jack
/// 2", or by its name "outlet 3, left jack". Port 0, and a place whose ports are not told apart:
/// the place alone.
std::string portWords(const Place& place, int port);

/// Which port of `place` an end there is on. One that was typed before ends had port numbers is
/// told by its text, "panel A port 07". 0: none that is known.
int portOf(const Place& place, const RunEnd& end);

/// What an end is called: its own text, where that is more than another port's name, else its place
/// and port; empty: nobody has said.
std::string endName(const Job& job, const RunEnd& end);
/// The same where its place stands above it, and is not said again: "port 7", "left jack",
/// "output 3" of what is typed "multiswitch output 3"; empty where its ports are not told apart.
std::string endNameAtPlace(const Job& job, const RunEnd& end);
/// "panel A port 7 → outlet 3, jack 2"; empty where neither end is called anything.
std::string fromTo(const Job& job, const Run& run);

/// Gives ends of runs ports that no run is on, each once.
class PortFinder {
public:
    explicit PortFinder(const Job& job) : job_(job) {}
    /// An end on a place, at its lowest free port, which is taken then; at none where all are taken
    /// or its ports are not told apart. The place need not be in the job yet.
    RunEnd on(const Place& place);
    /// The run between the same places, on ports of its own.
    void moveToFree(Run& run);

private:
    const Job& job_;
    std::map<std::string, std::set<int>> taken_; ///< by place
};

/// The end as typed anew: a port of its place by what it is called or by its number alone
/// ("port 7", "jack 2", "7"), anything else as its text; empty leaves it to its place and port.
RunEnd typedEnd(const Job& job, RunEnd end, std::string_view text);

} // namespace burin
