#pragma once
#include "app/frame/session.h"
#include <QWidget>

namespace burin {

/// A reader bus: one edge as every device sees it, the one chosen in copper, against the receivers'
/// threshold and the bit; under it the chain, a line a device, with what it settles at, when, and
/// its volts. Paints what core/finding/system_finding.h found.
class BusView : public QWidget {
    Q_OBJECT
public:
    explicit BusView(Session& session, QWidget* parent = nullptr);
    [[nodiscard]] QSize sizeHint() const override;
    [[nodiscard]] QSize minimumSizeHint() const override;

    /// None while the run shown is in no bus, or it could not be computed.
    void setFinding(const BusChain* chain, std::shared_ptr<const BusChainFinding> finding);
    /// Index of the device chosen.
    [[nodiscard]] int chosen() const { return chosen_; }
    void choose(int device);

    /// True while there is something to show.
    [[nodiscard]] bool answers() const { return finding_ != nullptr; }

signals:
    void deviceChosen();

protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;

private:
    [[nodiscard]] double tableTop() const;
    [[nodiscard]] double windowNs() const;
    void paintWaves(QPainter& painter) const;
    void paintRows(QPainter& painter) const;

    Session& session_;
    std::optional<BusChain> chain_;
    std::shared_ptr<const BusChainFinding> finding_;
    int chosen_ = 0;
};

} // namespace burin
