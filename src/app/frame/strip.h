#pragma once
#include "app/frame/session.h"
#include <QWidget>

namespace burin {

/// The selected run drawn to length, near end at the left, with what the stage asks below it on
/// the same scale. The far end of the fixed cable can be dragged, or moved with Ctrl and the
/// arrow keys; Escape lets it go.
class Strip : public QWidget {
    Q_OBJECT
public:
    enum class Below { RunningLoss, Force, MeasuredLength };
    explicit Strip(Session& session, QWidget* parent = nullptr);
    void setBelow(Below below);
    [[nodiscard]] QSize sizeHint() const override;
    /// Where the far end of the fixed cable is drawn.
    [[nodiscard]] double farEndX() const { return farX_; }

protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;

private:
    [[nodiscard]] double xOf(double metres) const;
    void paintLink(QPainter& painter, const Run& run, double y);
    void paintScale(QPainter& painter, double y) const;
    void paintMatters(QPainter& painter, const Run& run, double y) const;
    void paintRunningLoss(QPainter& painter, const RunFinding& finding, double top,
                          double bottom) const;
    void paintMeasuredLength(QPainter& painter, const RunFinding& finding, double y) const;
    /// Which mark of its box lies at which corner.
    void paintMarks(QPainter& painter, const Run& run, double y) const;
    [[nodiscard]] QString forceWords(const Run& run) const;
    void paintForce(QPainter& painter, const Run& run, double top, double bottom) const;
    void keep();
    void pull(double fixedM);

    Session& session_;
    Below below_ = Below::RunningLoss;
    double totalM_ = 1, nearM_ = 0; ///< of the whole channel; of the cords at the near end
    double farX_ = 0;
    bool dragging_ = false;
    double dragScaleM_ = 0; ///< the scale stands still while dragging
    double pressX_ = 0, pressM_ = 0;
};

} // namespace burin
