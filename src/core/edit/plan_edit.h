#pragma once
#include "core/edit/edit.h"

namespace burin {

/// Everything drawn on a floor, and what lies under it, larger by `factor`: the scale set anew.
/// What was drawn stays where it is on the picture; heights stay as they are.
Outcome<Edit> rescaled(const Job& job, const std::string& floorId, double factor);

/// The changes that take something off the plan together with what cannot stand without it. A run
/// that loses an end keeps the length `laid` gives it and follows the plan no more.
Changes removalOfPlace(const Job& job, const Job& laid, const std::string& placeId);
Changes removalOfFloor(const Job& job, const Job& laid, const std::string& floorId);
/// The day the ceiling or underfloor of a room, or with an empty `roomId` of the whole floor, is
/// closed; an empty date takes it back. Refused: neither ceiling nor underfloor, or no such floor.
Outcome<Edit> closedOn(const Job& job, SurfaceKind kind, const std::string& floorId,
                       const std::string& roomId, const std::string& date);
/// The ceiling or underfloor of a room or floor; nullptr while none is named.
const Surface* surfaceOf(const Job& job, SurfaceKind kind, const std::string& floorId,
                         const std::string& roomId);
/// A room without runs goes; one with runs is only taken off the plan.
Changes removalOfRoom(const Job& job, const std::string& roomId);

/// A label after the job's pattern: {room} letters of the room, {kind} letter of the kind, {n},
/// {nn} or {nnn} a number of so many digits.
std::string labelOf(const std::string& pattern, const std::string& room, const std::string& kind,
                    int number);
/// Refused: a pattern without a number, or with neither room nor kind.
Outcome<bool> checkLabelPattern(const std::string& pattern);
/// Every run named anew after `pattern`, numbers from 1 within each room and kind.
Outcome<Edit> relabelled(const Job& job, const Catalogue& catalogue, const std::string& pattern);

/// Makes or removes runs so that a room has `count` of a kind (of catalogue/site.json). New ones
/// follow the plan, take a free port of an outlet of their kind or a new outlet at the room's
/// walls, and come from the nearest head end of their kind; door readers from the reader before.
/// `serviceId` may be empty: the kind's usual. Refused: a room not drawn, no head end, or a removal
/// that would lose a test.
Outcome<Edit> scheduled(const Job& job, const Catalogue& catalogue, const std::string& roomId,
                        const std::string& kindId, int count, const std::string& serviceId = {});
/// One run of a kind between any two places: a trunk, a reader after a reader, a camera. It follows
/// the plan, is of the far end's room (else the near end's), and starts at a head end where one of
/// the two is. Refused: one and the same place, or neither in a room.
Outcome<Edit> joined(const Job& job, const Catalogue& catalogue, const std::string& nearPlaceId,
                     const std::string& farPlaceId, const std::string& kindId);
/// How many runs of a kind a room has.
int scheduledCount(const Job& job, const Catalogue& catalogue, const std::string& roomId,
                   const std::string& kindId);

} // namespace burin
