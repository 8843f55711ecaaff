#pragma once
#include "app/frame/session.h"
#include "app/survey/plan_draft.h"
#include "files/plan_drawing.h"
#include <QLineEdit>
#include <QPixmap>
#include <QWidget>

namespace burin {

/// A floor to draw on. Mouse, touchpad and keys do the same: a crosshair goes with the pointer or
/// the arrow keys, Space or a click sets a point, a typed length goes on from the last one, Enter
/// ends, Escape gives up, Delete takes away.
class PlanView : public QWidget {
    Q_OBJECT
public:
    explicit PlanView(Session& session, QWidget* parent = nullptr);
    void setTool(Tool tool);
    [[nodiscard]] const PlanTools& tools() const { return tools_; }
    void setPresets(const PlanTools& presets); ///< its tool stays
    [[nodiscard]] const std::string& floorId() const { return floorId_; }
    void setFloor(const std::string& id);
    [[nodiscard]] const std::string& chosenId() const { return chosenId_; }
    void choose(const std::string& id);
    void setPicture(const QImage& picture);
    void fit();
    /// On the widget, for tests and for marks.
    [[nodiscard]] QPointF pixelOf(const PlanPoint& p) const { return scale_.px(p); }
    [[nodiscard]] PlanPoint pointOf(const QPointF& p) const { return scale_.at(p); }
    [[nodiscard]] bool drawing() const { return !points_.empty() || !joinFrom_.empty(); }
    [[nodiscard]] QSize sizeHint() const override { return {600, 400}; }
    /// All it ever says to do next.
    static QStringList hints();

signals:
    void chosen();
    void toolChanged();
    void said(const QString& text); ///< what to do next
    void resized();
    void photographWanted(const burin::PlanPoint& at);
    void findingWanted(const burin::SiteFinding& finding); ///< its mark was clicked

protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void mouseDoubleClickEvent(QMouseEvent* event) override;
    void wheelEvent(QWheelEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;
    bool event(QEvent* event) override;

private:
    [[nodiscard]] const Job& shownJob() const;
    [[nodiscard]] double reachM() const; ///< how near the pointer must come
    [[nodiscard]] std::optional<PlanPoint> last() const;
    void redraw(); ///< all of it, where `update` draws what follows the pointer
    void zoom(double factor, const QPointF& about);
    void pointTo(PlanPoint p, Qt::KeyboardModifiers modifiers);
    void setPoint();
    void joinPlace();
    void finish();
    void giveUp();
    void askFor(const QString& what, const QPointF& at);
    void takeAnswer();
    void applyTyped();
    bool typed(const QKeyEvent& event);
    bool keyMoves(const QKeyEvent& event);
    bool keyDoes(const QKeyEvent& event);
    bool keyPicks(const QKeyEvent& event);
    void chooseNext(int step);
    void removeChosen();
    void split();
    void beginDrag();
    void drag();
    void endDrag();
    void dragVia();
    void drawInstead(Changes changes);
    [[nodiscard]] const SiteFinding* markUnder(const QPointF& px) const;
    [[nodiscard]] std::optional<std::size_t> viaUnder(const PlanPoint& p) const;
    void hint();
    static QString hintOf(Tool tool, bool begun, bool chosen);
    void paintFirstSteps(QPainter& painter) const;
    void paintDraft(QPainter& painter);

    Session& session_;
    QLineEdit* answer_;
    PlanTools tools_;
    PlanScale scale_;
    bool fitted_ = true; ///< follows the size of the widget until zoomed
    QImage picture_;
    std::string floorId_, chosenId_, askedFor_;
    PlanPoint cursor_;
    std::vector<PlanPoint> points_; ///< of the drawing under way
    QString typed_;
    std::string joinFrom_; ///< the place a run is drawn from; on any floor

    enum class Grip { None, Press, Thing, Via, Pan, Box };
    Grip grip_ = Grip::None;
    int corner_ = -1;
    std::string pressedOn_; ///< what lies under the way that was taken hold of
    PlanPoint pressed_;
    QPointF pressedPx_;
    std::optional<Job> draft_; ///< the job as it would be, while something is dragged
    Changes dragged_;          ///< from the job as kept to the draft
    std::optional<RunRoute> draftRoute_;
    std::size_t via_ = 0;
    bool movesMany_ = false; ///< a room is dragged, and its outlets with it
    QPixmap under_;          ///< all but what is chosen, as drawn
    bool waiting_ = false;   ///< the draft stays until the edit is kept
};

} // namespace burin
