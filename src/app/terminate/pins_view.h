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
    void showPins(Wiring wiring);
    [[nodiscard]] QSize sizeHint() const override;
    [[nodiscard]] QSize minimumSizeHint() const override { return sizeHint(); }

protected:
    void paintEvent(QPaintEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;

private:
    [[nodiscard]] double cell() const;
    std::vector<PinRow> rows_;
};

} // namespace burin
