#pragma once
#include "core/connector/card.h"
#include <string>
#include <vector>

namespace burin {

/// A piece of an end as it lies ready for its connector, along the cable from where it was cut.
struct ShapePart {
    enum class Of {
        Centre,
        Dielectric,
        Foil, ///< on the dielectric
        Braid,
        FoldedBraid, ///< back over the jacket
        Tube,        ///< a corrugated outer conductor
        Fanned,      ///< pairs untwisted to their slots
        Twisted,     ///< pairs as they lie
        Straight,    ///< conductors side by side
        Bare,        ///< a conductor without its insulation
        Insulation,
        Jacket
    };
    Of of = Of::Jacket;
    double fromMm = 0, toMm = 0; ///< from the cut end
    double acrossMm = 0;         ///< its diameter; of what lies side by side the width
    bool toScale = true;         ///< its length and diameter are known; else it is drawn by guess
    [[nodiscard]] bool operator==(const ShapePart&) const = default;
};
/// A length with where it lies in the drawing.
struct ShapeDimension {
    const CardCut* cut = nullptr;
    double fromMm = 0, toMm = 0;
};
struct EndShape {
    std::vector<ShapePart> parts; ///< inner ones first
    std::vector<ShapeDimension> dimensions;
    double lengthMm = 0, acrossMm = 0;
    [[nodiscard]] bool toScale() const;
};

/// The end of that card on its cable, as it must look. A length between two figures is drawn
/// midway, one that has only a most at its most; one that only the part's sheet has is drawn as
/// long as its diameter, not to scale.
EndShape findShape(const CardFinding& card);

/// What must not be seen at an end of coax: a strand of the braid across the dielectric to the
/// centre, and a nick where the blade met the centre. mm from the cut end.
struct EndFlaws {
    double strandFromMm = 0, strandToMm = 0; ///< over the dielectric, braid last
    double nickMm = 0;                       ///< on the centre
    double dielectricMm = 0, centreMm = 0;   ///< diameters
};
std::optional<EndFlaws> findFlaws(const EndShape& shape);

/// The end once its connector is on, in section: how far the centre stands out beyond the nut's
/// face, with the dielectric flush with the post's. None: the card proves itself in other ways.
struct EndSection {
    double leastMm = 0, mostMm = 0;                      ///< of the centre beyond the nut's face
    double centreMm = 0, dielectricMm = 0, jacketMm = 0; ///< diameters
};
std::optional<EndSection> findSection(const CardFinding& card);

} // namespace burin
