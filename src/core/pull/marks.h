#pragma once
#include "core/base/fault.h"
#include <string_view>
#include <vector>

namespace burin {

enum class MarkUnit { Feet, Metres };

/// What a box or reel has printed on its cable, and what has been pulled from it.
struct MarkedBox {
    MarkUnit unit = MarkUnit::Feet;
    double spacing = 2; ///< between marks, in that unit
    bool up = true;     ///< the marks rise as cable comes out
    int freeEnd = 0;    ///< the mark at its free end when it came
    double heldM = 0;   ///< what it held then
    /// Pieces pulled since, in turn, by the marks at both ends of each.
    struct Pulled {
        int start = 0, end = 0;
    };
    std::vector<Pulled> pulled{};
};

/// Marks are four figures, and begin anew behind 9999.
inline constexpr int marksAround = 10000;

/// A mark as it is printed: `0412`, `0612 FT`, `188M`. Refused: anything else, and a unit that is
/// not the box's.
Outcome<int> readMark(std::string_view text, MarkUnit unit);

/// A length between two marks, good to one spacing at each end.
struct MarkedLength {
    double lengthM = 0;
    double doubtM = 0; ///< it may be so much more or less
};

/// What is left in a box by its marks, m: nothing is less than nothing.
double leftM(const MarkedBox& box);
/// The mark at the free end of what is left.
int freeEndNow(const MarkedBox& box);

/// The length of a piece pulled from where the box now ends, or from behind a piece that was thrown
/// away, by the marks at its start and its end. Refused, with both marks named: one mark twice,
/// marks that run against the box's way of counting, a start that lies in what was pulled already,
/// more than the box still held.
Outcome<MarkedLength> pulledLength(const MarkedBox& box, int start, int end);

} // namespace burin
