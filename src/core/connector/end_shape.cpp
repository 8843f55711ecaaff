#include "core/connector/end_shape.h"
#include <algorithm>
#include <cmath>

namespace burin {
namespace {

using Of = ShapePart::Of;

constexpr double jacketShownMm = 22; ///< of what goes on behind
constexpr double braidMm = 0.6;      ///< folded back it is so thick

std::optional<double> drawnMm(const CardCut& cut) {
    if (cut.leastMm && cut.mostMm)
        return (*cut.leastMm + *cut.mostMm) / 2;
    return cut.mostMm ? cut.mostMm : cut.leastMm;
}

class Shaper {
public:
    explicit Shaper(const CardFinding& card) : card_(card), cable_(*card.cable) {
        acrossMm_ = cable_.diameterMm ? cable_.diameterMm->value : 6;
    }
    EndShape make() {
        if (cable_.kind == CableKind::Coax)
            coax();
        else
            pairs();
        out_.acrossMm = 0;
        for (const auto& part : out_.parts) {
            out_.lengthMm = std::max(out_.lengthMm, part.toMm);
            out_.acrossMm = std::max(out_.acrossMm, part.acrossMm);
        }
        return std::move(out_);
    }

private:
    struct Length {
        double mm = 0;
        bool known = true;
        const CardCut* cut = nullptr;
    };
    /// That length of the card, or one by guess; 0 where the card has none of it.
    [[nodiscard]] Length lengthOf(CutOf of, double guessMm) const {
        for (const auto& cut : card_.card->cuts)
            if (cut.of == of) {
                const auto mm = drawnMm(cut);
                return {mm.value_or(guessMm), mm.has_value(), &cut};
            }
        return {};
    }
    void add(Of of, double from, double to, double across, bool known = true) {
        if (to > from)
            out_.parts.push_back({of, from, to, across, known});
    }
    void dimension(const Length& length, double from, double to) {
        if (length.cut != nullptr)
            out_.dimensions.push_back({length.cut, from, to});
    }
    /// The jacket, from there on.
    void jacketFrom(double edge, bool known) {
        add(Of::Jacket, edge, edge + jacketShownMm, acrossMm_,
            known && cable_.diameterMm.has_value());
    }

    void coax() {
        const bool tube = !cable_.shields.empty() && cable_.shields.back() == Shield::Corrugated;
        const double centreMm = cable_.centreMm ? cable_.centreMm->value : acrossMm_ * 0.15;
        const double innerMm = cable_.dielectricMm ? cable_.dielectricMm->value : acrossMm_ * 0.68;
        const Length centre = lengthOf(CutOf::Centre, acrossMm_);
        const Length inner = lengthOf(CutOf::Dielectric, acrossMm_);
        const Length braid = lengthOf(CutOf::Braid, acrossMm_);
        const Length jacket = lengthOf(CutOf::Jacket, 0);
        const bool folded = braid.cut != nullptr && braid.cut->folded;
        const bool known = centre.known && inner.known && braid.known;
        add(Of::Centre, 0, centre.mm, centreMm, centre.known && cable_.centreMm.has_value());
        dimension(centre, 0, centre.mm);
        double at = centre.mm;
        const bool foil = !cable_.shields.empty() && cable_.shields.front() == Shield::Foil;
        add(foil && folded ? Of::Foil : Of::Dielectric, at, at + inner.mm, innerMm,
            inner.known && cable_.dielectricMm.has_value());
        dimension(inner, at, at + inner.mm);
        at += inner.mm;
        if (folded) {
            jacketFrom(at, known);
            add(Of::FoldedBraid, at, at + braid.mm, acrossMm_ + 2 * braidMm, braid.known);
            dimension(braid, at, at + braid.mm);
        } else {
            add(tube ? Of::Tube : Of::Braid, at, at + braid.mm,
                tube ? acrossMm_ * 0.9 : innerMm + 2 * braidMm, braid.known);
            dimension(braid, at, at + braid.mm);
            at += braid.mm;
            jacketFrom(at, known);
        }
        if (jacket.cut != nullptr)
            dimension(jacket, 0, jacket.known ? jacket.mm : at);
    }

    void pairs() {
        const double wireMm = acrossMm_ / 6;
        const Length jacket = lengthOf(CutOf::Jacket, 4 * acrossMm_);
        const Length untwist = lengthOf(CutOf::Untwist, acrossMm_);
        const Length wires = lengthOf(CutOf::Conductors, acrossMm_);
        if (card_.connection->fit && card_.connection->fit->series == "screw terminal") {
            add(Of::Bare, 0, wires.mm, wireMm * 0.6, wires.known);
            dimension(wires, 0, wires.mm);
            add(Of::Insulation, wires.mm, wires.mm + 2 * acrossMm_, wireMm, false);
            jacketFrom(wires.mm + 2 * acrossMm_, false);
            return;
        }
        if (wires.cut != nullptr) {
            add(Of::Straight, 0, wires.mm, 8 * wireMm, wires.known);
            dimension(wires, 0, wires.mm);
            jacketFrom(wires.mm, wires.known);
            return;
        }
        add(Of::Fanned, 0, untwist.mm, acrossMm_ * 1.6, untwist.known);
        dimension(untwist, 0, untwist.mm);
        const double edge = std::max(jacket.mm, untwist.mm + acrossMm_);
        add(Of::Twisted, untwist.mm, edge, acrossMm_, jacket.known);
        dimension(jacket, 0, edge);
        jacketFrom(edge, jacket.known);
    }

    const CardFinding& card_;
    const Cable& cable_;
    double acrossMm_ = 0;
    EndShape out_;
};

} // namespace

bool EndShape::toScale() const {
    return std::all_of(parts.begin(), parts.end(), [](const ShapePart& p) { return p.toScale; });
}

EndShape findShape(const CardFinding& card) {
    return card.card == nullptr || card.cable == nullptr ? EndShape{} : Shaper(card).make();
}

std::optional<EndFlaws> findFlaws(const EndShape& shape) {
    const auto part = [&](std::initializer_list<Of> kinds) {
        const auto it = std::find_if(shape.parts.begin(), shape.parts.end(), [&](const auto& p) {
            return std::find(kinds.begin(), kinds.end(), p.of) != kinds.end();
        });
        return it == shape.parts.end() ? nullptr : &*it;
    };
    const ShapePart* centre = part({Of::Centre});
    const ShapePart* inner = part({Of::Dielectric, Of::Foil});
    if (centre == nullptr || inner == nullptr || part({Of::Braid, Of::FoldedBraid}) == nullptr)
        return std::nullopt;
    constexpr double beside = 0.6; // of the blade
    return EndFlaws{centre->toMm, inner->toMm, std::max(0.0, centre->toMm - beside),
                    inner->acrossMm, centre->acrossMm};
}

std::optional<EndSection> findSection(const CardFinding& card) {
    if (card.card == nullptr || card.cable == nullptr || !card.cable->centreMm ||
        !card.cable->dielectricMm || !card.cable->diameterMm)
        return std::nullopt;
    const auto& proofs = card.card->proofs;
    const auto pin = std::find_if(proofs.begin(), proofs.end(), [](const CardProof& proof) {
        return proof.id == "pin" && proof.leastMm && proof.mostMm;
    });
    const bool flush = std::any_of(proofs.begin(), proofs.end(),
                                   [](const CardProof& proof) { return proof.id == "flush"; });
    if (pin == proofs.end() || !flush)
        return std::nullopt;
    return EndSection{*pin->leastMm, *pin->mostMm, card.cable->centreMm->value,
                      card.cable->dielectricMm->value, card.cable->diameterMm->value};
}

} // namespace burin
