#pragma once
#include "core/connector/pins.h"
#include <QWidget>

namespace burin {

/// Pins from the left as one stands before them, each with its wire: drawn, and named, since
/// colours are told apart by their names alone in a dark plant room.
class PinsView : public QWidget {
    Q_OBJECT
public:
    explicit PinsView(QWidget* parent = nullptr);
    /// `used`: the pairs the service lays wires for, "4-5"; empty: all of them.
    void showPins(Wiring wiring, const std::vector<std::string>& used);
    [[nodiscard]] QSize sizeHint() const override;
    [[nodiscard]] QSize minimumSizeHint() const override { return sizeHint(); }

protected:
    void paintEvent(QPaintEvent* event) override;

private:
    std::vector<PinRow> rows_;
    std::vector<std::string> used_;
};

} // namespace burin
