#include "core/coax/feedline.h"
#include "core/units/units.h"
#include <algorithm>
#include <cmath>

namespace burin {

Outcome<FeedlineFinding> findFeedline(const FeedlineQuestion& q, const Catalogue& catalogue) {
    if (!(q.frequencyMhz > 0))
        return refuse("feedline",
                      {"feedline.frequency-not-above", "its frequency is not above 0 MHz"},
                      {"cure.give-band-carries", "Give the band it carries"});
    if (!(q.powerW > 0))
        return refuse("feedline", {"feedline.power-not-above", "its power is not above 0 W"},
                      {"cure.give-radio-sends", "Give what the radio sends"});
    if (!(q.loadRatio >= 1))
        return refuse(
            "feedline",
            sentence({"feedline.standing-wave-ratio", "a standing-wave ratio of {0} cannot be"},
                     asNumber(q.loadRatio, 2)),
            {"cure.give-more-perfect", "Give 1 or more; 1 is a perfect match"});
    FeedlineFinding out;
    out.matchedLossDb = linkLoss(q.link, catalogue, q.frequencyMhz).totalDb();
    const double a = std::pow(10, out.matchedLossDb / 10);
    const double gamma = (q.loadRatio - 1) / (q.loadRatio + 1);
    const double square = gamma * gamma;
    out.lossDb = 10 * std::log10((a * a - square) / (a * (1 - square)));
    out.powerAtAerialW = q.powerW * std::pow(10, -out.lossDb / 10);
    const double seen = gamma / a;
    out.radioRatio = (1 + seen) / (1 - seen);
    const double atRadioV = std::sqrt(2 * q.powerW * q.impedanceOhm * out.radioRatio);
    const double atAerialV = std::sqrt(2 * out.powerAtAerialW * q.impedanceOhm * q.loadRatio);
    out.peakV = std::max(atRadioV, atAerialV);
    if (q.withstandV) {
        const double worst = std::max(q.loadRatio, out.radioRatio);
        const auto vouched = [&](double v) { return v * v / (2 * q.impedanceOhm) / worst; };
        out.vouchedHalvedW = vouched(*q.withstandV / 2);
        out.vouchedFullW = vouched(*q.withstandV);
    }
    return out;
}

std::vector<FeedlineChange> feedlineChanges(const FeedlineQuestion& q, const Catalogue& catalogue) {
    std::vector<FeedlineChange> out;
    const auto now = findFeedline(q, catalogue);
    if (!now)
        return out;
    const auto consider = [&](const FeedlineQuestion& other, std::string what, std::string id) {
        const auto then = findFeedline(other, catalogue);
        const double saved = then ? now->lossDb - then->lossDb : 0;
        if (saved > 0.005)
            out.push_back({std::move(what), std::move(id), saved, then->powerAtAerialW,
                           then->powerAtAerialW / now->powerAtAerialW - 1});
    };
    for (const auto& cable : catalogue.cables) {
        if (cable.kind != CableKind::Coax || cable.impedanceOhm.value != q.impedanceOhm ||
            q.frequencyMhz > cable.topMhz.value || cable.id == q.link.cable->id)
            continue;
        FeedlineQuestion other = q;
        other.link.cable = &cable;
        consider(other, cable.name, cable.id);
    }
    std::sort(out.begin(), out.end(),
              [](const auto& x, const auto& y) { return x.savedDb > y.savedDb; });
    FeedlineQuestion shorter = q;
    for (auto& stretch : shorter.link.stretches)
        stretch.lengthM *= 0.9;
    consider(shorter, "a tenth shorter", "");
    return out;
}

std::vector<FeedlinePoint> alongFeedline(const FeedlineQuestion& q, const FeedlineFinding& finding,
                                         int points) {
    std::vector<FeedlinePoint> out;
    if (points < 2)
        return out;
    const double endM = q.link.fixedLengthM() + q.link.cordLengthM();
    const double gamma = (q.loadRatio - 1) / (q.loadRatio + 1);
    // Forward power falls by the matched loss, what comes back falls again on its way.
    const double a = std::pow(10, finding.matchedLossDb / 10);
    const double forward = q.powerW / (1 - gamma * gamma / (a * a));
    for (int i = 0; i < points; ++i) {
        const double share = static_cast<double>(i) / (points - 1);
        const double here = std::pow(a, share);
        const double back = gamma * std::pow(a, share - 1);
        out.push_back({endM * share, forward / here * (1 - back * back), (1 + back) / (1 - back)});
    }
    return out;
}

} // namespace burin
