#pragma once
#include "app/frame/session.h"
#include <QWidget>

namespace burin {

/// The boxes, each a bar on one metre scale: what was pulled is solid, what is planned outlined,
/// scrap hatched; the chosen pull stands out.
class BoxBars : public QWidget {
    Q_OBJECT
public:
    explicit BoxBars(Session& session, QWidget* parent = nullptr);
    [[nodiscard]] QSize sizeHint() const override;
    [[nodiscard]] QSize minimumSizeHint() const override { return {300, sizeHint().height()}; }

signals:
    /// A box was asked for by name, to be typed over.
    void chosen(const QString& boxId);

protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;

private:
    [[nodiscard]] const PullPlan* plan() const;
    Session& session_;
};

} // namespace burin
