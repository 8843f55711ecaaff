#pragma once
#include "core/base/fault.h"
#include "core/job/stock.h"
#include <string_view>
#include <vector>

namespace burin {

/// Marks are four figures, and begin anew behind 9999.
inline constexpr int marksAround = 10000;

/// A mark as it is printed: `0412`, `0612 FT`, `188M`. Refused: anything else, and a unit that is
/// not the box's.
Outcome<int> readMark(std::string_view text, MarkUnit unit);
/// "0412": as it is printed.
std::string markText(int mark);

/// A piece of a box's cable, by the marks at its two ends.
struct MarkedPiece {
    int start = 0, end = 0;
    bool operator==(const MarkedPiece&) const = default;
};

/// Metres of a box's cable between its end as it came and a mark, the way it counts.
double markAtM(const Box& box, int mark);
/// The mark that lies so many metres from there, to the nearest whole one.
int markAt(const Box& box, double metres);
/// One spacing of its marks, m: a reading may be off by so much.
double spacingM(const Box& box);
/// From the start to the end of a piece, the way the box counts, m.
double lengthM(const Box& box, const MarkedPiece& piece);

/// What is left in a box behind the last of the pieces pulled from it, m: nothing is less than
/// nothing. Pieces may stand in any order; what lies between them is not there any more either.
double leftM(const Box& box, const std::vector<MarkedPiece>& pulled);
/// The mark at the free end of what is left.
int freeMark(const Box& box, const std::vector<MarkedPiece>& pulled);

/// A length between two marks, good to one spacing at each end.
struct MarkedLength {
    double lengthM = 0;
    double doubtM = 0; ///< it may be so much more or less
};
/// The length of a piece by its marks, beside those pulled from the same box already. Refused, with
/// both marks named: one mark twice, marks that run against the box's way of counting, marks that
/// its cable never had, a piece that lies in one pulled already, more than the box held.
Outcome<MarkedLength> pulledLength(const Box& box, const std::vector<MarkedPiece>& pulled,
                                   const MarkedPiece& piece);

} // namespace burin
