#pragma once
#include "app/frame/session.h"
#include "core/finding/end_finding.h"
#include <QWidget>

namespace burin {

/// An end as it must look before its connector goes on: as large as there is room for, or as long
/// as it is once the screen was measured against a bank card.
class EndView : public QWidget {
    Q_OBJECT
public:
    explicit EndView(QWidget* parent = nullptr);
    /// `catalogue` is the one the finding was made from.
    void showEnd(const EndFinding& end, const std::shared_ptr<const Catalogue>& catalogue);
    void setTrueSize(bool trueSize);
    [[nodiscard]] bool trueSize() const { return trueSize_; }
    /// Shows a bank card's outline to be made as wide as a card held against the screen: by the
    /// arrow keys, + and −, or by its edge; Enter keeps it, Escape leaves it.
    void calibrate();
    [[nodiscard]] bool calibrating() const { return card_.has_value(); }
    /// As it is drawn now: pixels a millimetre, and how much larger than life.
    [[nodiscard]] double drawnPxPerMm() const;
    /// Whether there is room for the section beside it.
    [[nodiscard]] bool showsSection() const;
    /// Where the end's tip is, and where the section begins.
    [[nodiscard]] double tipPx() const { return rightPx(drawnPxPerMm(), showsSection()); }
    [[nodiscard]] double sectionPx() const { return width() - sectionWidePx(drawnPxPerMm()); }
    [[nodiscard]] double enlarged() const;
    /// Somebody measured this screen.
    [[nodiscard]] bool measured() const;

    /// All its lengths are known.
    [[nodiscard]] bool toScale() const { return shape_.toScale(); }

    [[nodiscard]] QSize sizeHint() const override;
    [[nodiscard]] QSize minimumSizeHint() const override;

signals:
    /// Its scale is another, or is being measured.
    void scaleChanged();

protected:
    void paintEvent(QPaintEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;
    bool event(QEvent* event) override;

private:
    [[nodiscard]] QRectF cardBox() const;
    /// How high the lines of the lengths are, below the drawing.
    [[nodiscard]] double wordsPx() const;
    [[nodiscard]] double wordsWidePx() const;
    /// How wide the section is at that scale, with the room before it.
    [[nodiscard]] double sectionWidePx(double px) const;
    /// The scale at which it fits, with the section beside it or without.
    [[nodiscard]] double fittingPxPerMm(bool section) const;
    /// Where its tip is at that scale.
    [[nodiscard]] double rightPx(double px, bool section) const;
    /// How far from the cut end the lengths go.
    [[nodiscard]] double dimensionedMm() const;
    void paintCard(QPainter& painter) const;
    void stretch(double pxPerMm);
    void endCalibration(bool keep);

    EndShape shape_;
    std::optional<EndSection> section_;          ///< with the connector on
    std::shared_ptr<const Catalogue> catalogue_; ///< what the shape points into
    bool trueSize_ = false;
    std::optional<double> card_; ///< px a mm while it is measured
    bool dragging_ = false;
    /// What is kept of a screen, read when another shows it.
    struct Known {
        const QScreen* screen = nullptr;
        double pxPerMm = 96 / 25.4;
        bool measured = false;
    };
    [[nodiscard]] const Known& known() const;
    mutable Known known_;
};

} // namespace burin
