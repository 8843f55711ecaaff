#include "core/job/text_limits.h"
#include <algorithm>

namespace burin {
namespace {

std::size_t characters(std::string_view text) {
    return static_cast<std::size_t>(std::count_if(text.begin(), text.end(), [](char c) {
        return (static_cast<unsigned char>(c) & 0xC0U) != 0x80U;
    }));
}

/// Looks at one text after the other and keeps the first that is too long.
struct Check {
    std::string where;
    Outcome<bool> result = true;

    void text(const char* field, const std::string& value, std::size_t most) {
        // Bytes are at least as many as characters: nearly always nothing has to be counted.
        if (!result || value.size() <= most)
            return;
        if (const std::size_t have = characters(value); have > most)
            result = refuse(where,
                            std::string(field) + " is " + std::to_string(have) +
                                " characters long, more than " + std::to_string(most),
                            "Shorten it");
    }
    void names(std::initializer_list<std::pair<const char*, const std::string*>> fields) {
        for (const auto& [field, value] : fields)
            text(field, *value, longestName);
    }
    void note(const std::string& value) { text("note", value, longestNote); }

    void operator()(const JobInfo& t) {
        names({{"id", &t.id},
               {"name", &t.name},
               {"labels", &t.survey.labels},
               {"currency", &t.survey.currency}});
    }
    void operator()(const Room& t) {
        names({{"id", &t.id}, {"letters", &t.letters}, {"name", &t.name}, {"floorId", &t.floorId}});
    }
    void operator()(const Run& t) {
        names({{"id", &t.id},
               {"roomId", &t.roomId},
               {"label", &t.label},
               {"serviceId", &t.serviceId},
               {"cableId", &t.cableId},
               {"nearEnd", &t.nearEnd},
               {"farEnd", &t.farEnd},
               {"nearPlaceId", &t.nearPlaceId},
               {"farPlaceId", &t.farPlaceId}});
        note(t.note);
        for (const auto& s : t.stretches)
            text("name of a stretch", s.name, longestName);
        for (const auto& c : t.cords)
            text("cable of a cord", c.cableId, longestName);
        for (const auto& c : t.connections)
            text("connection", c.connectionId, longestName);
    }
    void operator()(const Measurement& t) {
        names({{"id", &t.id},
               {"runId", &t.runId},
               {"takenAt", &t.takenAt},
               {"pair", &t.pair},
               {"fileHash", &t.fileHash},
               {"frequencyUnit", &t.frequencyUnit}});
        text("fileName", t.fileName, longestName * 2);
        text("columns", t.columns, longestTable);
        note(t.note);
    }
    void operator()(const UserCable& t) {
        names({{"id", &t.id}});
        text("figures", t.json, longestTable);
    }
    void operator()(const Distribution& t) {
        names({{"id", &t.id}, {"name", &t.name}, {"serviceId", &t.serviceId}});
        for (const auto& p : t.parts)
            names({{"id of a part", &p.id},
                   {"name of a part", &p.name},
                   {"from of a part", &p.from},
                   {"run of a part", &p.runId}});
    }
    void operator()(const BusChain& t) {
        names({{"id", &t.id}, {"name", &t.name}});
        for (const auto& d : t.devices)
            names({{"name of a device", &d.name}, {"run of a device", &d.runId}});
    }
    void operator()(const Floor& t) {
        names({{"id", &t.id}, {"name", &t.name}});
        if (t.picture) {
            names({{"hash of the picture", &t.picture->hash}});
            text("name of the picture", t.picture->name, longestName * 2);
        }
    }
    void operator()(const Place& t) {
        names({{"id", &t.id}, {"name", &t.name}, {"floorId", &t.floorId}, {"roomId", &t.roomId}});
    }
    void operator()(const Pathway& t) {
        names({{"id", &t.id},
               {"name", &t.name},
               {"floorId", &t.floorId},
               {"toFloorId", &t.toFloorId}});
    }
    void operator()(const MainsRoute& t) {
        names({{"id", &t.id}, {"name", &t.name}, {"floorId", &t.floorId}});
    }
    void operator()(const Surface& t) {
        names({{"id", &t.id},
               {"name", &t.name},
               {"floorId", &t.floorId},
               {"roomId", &t.roomId},
               {"closesOn", &t.closesOn}});
    }
    void operator()(const Photograph& t) {
        names({{"id", &t.id},
               {"hash", &t.hash},
               {"takenOn", &t.takenOn},
               {"work", &t.work},
               {"floorId", &t.floorId},
               {"roomId", &t.roomId},
               {"runId", &t.runId},
               {"surfaceId", &t.surfaceId}});
        text("name", t.name, longestName * 2);
        note(t.note);
    }
};

std::string nameOf(const Run& run) {
    return run.label;
}
std::string nameOf(const Measurement& m) {
    return m.fileName;
}
std::string nameOf(const UserCable& cable) {
    return cable.id;
}
template <typename T> std::string nameOf(const T& thing) {
    return thing.name;
}

} // namespace

Outcome<bool> checkTexts(const AnyChange& change) {
    return std::visit(
        [&](const auto& c) -> Outcome<bool> {
            if (!c.after)
                return true;
            Check check;
            // The name itself may be what is too long.
            check.where = std::string(kindOf(change)) + " " + nameOf(*c.after).substr(0, 40);
            while (!check.where.empty() &&
                   (static_cast<unsigned char>(check.where.back()) & 0x80U) != 0)
                check.where.pop_back(); // not in the middle of a character
            check(*c.after);
            return check.result;
        },
        change);
}

} // namespace burin
