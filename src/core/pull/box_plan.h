#pragma once
#include <cstddef>
#include <optional>
#include <string>
#include <vector>

namespace burin {

/// A cable that wants a box.
struct WantsBox {
    std::string cableId, colour; ///< of the jacket; empty: any
    double lengthM = 0;
    std::size_t group = 0;            ///< in the order they are pulled; no two of one come out of
                                      ///< one box
    std::optional<std::size_t> fixed; ///< somebody said which box
};
/// A box at hand.
struct BoxAtHand {
    std::string cableId, colour;
    double leftM = 0;
    bool begun = false; ///< something was pulled from it already
};
struct BoxPlanRules {
    double newBoxM = 305; ///< what a new box holds
    double scrapM = 15;   ///< a rest shorter than this is of no use
};

/// Which box each cable comes from.
struct BoxPlan {
    /// A place among the boxes at hand, and behind those among the new ones; none: it is longer
    /// than any box.
    std::vector<std::optional<std::size_t>> boxOf;
    std::vector<BoxAtHand> added; ///< new boxes, as they come
    std::size_t opened = 0;       ///< boxes that nothing was pulled from before
    /// No plan opens fewer: what all cables of a kind want beyond what begun boxes hold, in full
    /// boxes, and its largest group beyond the begun boxes there are.
    std::size_t lowerBound = 0;
    double scrapM = 0; ///< rests of the boxes pulled from that are of no use
    [[nodiscard]] bool provenLeast() const { return opened == lowerBound; }
};

/// No plan for these opens fewer boxes.
std::size_t leastOpened(const std::vector<WantsBox>& cables, const std::vector<BoxAtHand>& atHand,
                        const BoxPlanRules& rules);

/// Chooses boxes so that none runs short, then as few are opened as can be, then as little is left
/// that is of no use. Best fit, longest first, begun boxes before fresh ones, then tried again in
/// other orders until the lower bound is met, 8 to 40 times, the oftener the fewer cables there
/// are: not proven least where it is not. Deterministic. O(cables · boxes) a time.
BoxPlan planBoxes(const std::vector<WantsBox>& cables, const std::vector<BoxAtHand>& atHand,
                  const BoxPlanRules& rules);
/// The plan with other boxes: those that are not needed any more are not there, fresh ones are
/// taken in the order they are needed.
BoxPlan replanned(const BoxPlan& plan, std::vector<std::optional<std::size_t>> boxOf,
                  const std::vector<WantsBox>& cables, const std::vector<BoxAtHand>& atHand,
                  const BoxPlanRules& rules);

} // namespace burin
