#pragma once
#include <QRectF>
#include <algorithm>
#include <cmath>
#include <unordered_map>
#include <vector>

namespace burin {

/// Where words and places stand on the paper, by rows of it.
class TakenPaper {
public:
    void take(const QRectF& box) {
        eachRow(box, [&](std::vector<QRectF>& row) {
            row.push_back(box);
            return true;
        });
    }
    [[nodiscard]] bool isFree(const QRectF& box) {
        return eachRow(box, [&](const std::vector<QRectF>& row) {
            return std::none_of(row.begin(), row.end(),
                                [&](const QRectF& other) { return other.intersects(box); });
        });
    }

private:
    static constexpr double rowPx = 16;
    bool eachRow(const QRectF& box, const auto& visit) {
        const auto last = static_cast<int>(std::floor(box.bottom() / rowPx));
        for (auto i = static_cast<int>(std::floor(box.top() / rowPx)); i <= last; ++i)
            if (!visit(rows_[i]))
                return false;
        return true;
    }
    std::unordered_map<int, std::vector<QRectF>> rows_;
};

} // namespace burin
