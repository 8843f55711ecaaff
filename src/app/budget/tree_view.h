#pragma once
#include "app/frame/session.h"
#include <QWidget>

namespace burin {

/// A distribution from head to outlets: how the parts hang on one another, and beside each its
/// level from the low to the high end of the band against the outlet's window. A click or the arrow
/// keys choose a part; one that a run feeds is that run. Paints what core/finding/system_finding.h
/// found.
class TreeView : public QWidget {
    Q_OBJECT
public:
    explicit TreeView(Session& session, QWidget* parent = nullptr);
    [[nodiscard]] QSize sizeHint() const override;
    [[nodiscard]] QSize minimumSizeHint() const override { return sizeHint(); }

    /// Nullptr while the run shown is in none, or it could not be computed.
    void setFinding(const Distribution* distribution,
                    std::shared_ptr<const DistributionFinding> finding);
    /// Index of the part chosen, −1 for the head.
    [[nodiscard]] int chosen() const { return chosen_; }
    void choose(int part);
    /// Where the part chosen is drawn.
    [[nodiscard]] QRect chosenRect() const;

    /// True while there is something to show.
    [[nodiscard]] bool answers() const { return finding_ != nullptr; }

signals:
    void partChosen();

protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void focusInEvent(QFocusEvent* event) override;
    void focusOutEvent(QFocusEvent* event) override;

private:
    struct Row {
        int part = -1; ///< −1: the head
        int depth = 0;
        bool last = false; ///< of its siblings
    };
    void layOut();
    void addRows(int parent, int depth);
    void paintRow(QPainter& painter, const Row& row, double top, double scaleLeft) const;
    void paintLevel(QPainter& painter, const Row& row, double top, double scaleLeft) const;
    void paintScale(QPainter& painter, double scaleLeft) const;
    [[nodiscard]] double levelX(double dbuv, double scaleLeft) const;
    [[nodiscard]] int rowOf(int part) const;
    [[nodiscard]] double rowHeight() const;
    [[nodiscard]] QString wordsOf(int part) const;

    Session& session_;
    std::optional<Distribution> distribution_;
    std::shared_ptr<const DistributionFinding> finding_;
    std::vector<Row> rows_;
    int chosen_ = -1;
    std::string shownFor_;
    double lowest_ = 0, highest_ = 100;
};

} // namespace burin
