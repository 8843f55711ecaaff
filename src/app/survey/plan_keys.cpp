// The plan by keys alone.
#include "app/frame/said.h"
#include "app/look/painters.h"
#include "app/survey/plan_view.h"
#include <QKeyEvent>
#include <cmath>
#include <map>

namespace burin {

/// The typed length from the last point on: towards the crosshair, or a room's two sides.
void PlanView::applyTyped() {
    const QStringList parts = typed_.split(u'x', Qt::SkipEmptyParts);
    std::vector<double> lengths;
    for (const auto& part : parts) {
        const auto length = parseLengthM(part.trimmed().toStdString(), session_.units());
        if (!length) {
            emit session_.message(burin::said(length.error(), session_), true);
            typed_.clear();
            update();
            return;
        }
        lengths.push_back(*length);
    }
    typed_.clear();
    if (lengths.empty() || points_.empty())
        return;
    const PlanPoint from = points_.back();
    double dx = cursor_.xM - from.xM;
    double dy = cursor_.yM - from.yM;
    if (tools_.tool == Tool::Room && lengths.size() == 2) {
        cursor_ = {from.xM + (dx < 0 ? -lengths[0] : lengths[0]),
                   from.yM + (dy < 0 ? -lengths[1] : lengths[1])};
    } else {
        const double now = std::hypot(dx, dy);
        if (now < 1e-9)
            dx = 1;
        else {
            dx /= now;
            dy /= now;
        }
        cursor_ = {from.xM + dx * lengths[0], from.yM + dy * lengths[0]};
    }
    setPoint();
}

void PlanView::chooseNext(int step) {
    const auto all = thingsOn(shownJob(), floorId_);
    if (all.empty())
        return;
    const auto it = std::find(all.begin(), all.end(), chosenId_);
    const auto count = static_cast<int>(all.size());
    const int index = it == all.end() ? (step > 0 ? 0 : count - 1)
                                      : (static_cast<int>(it - all.begin()) + step + count) % count;
    choose(all[static_cast<std::size_t>(index)]);
    withPoints(shownJob(), chosenId_, [this](std::vector<PlanPoint>& points) {
        if (!points.empty())
            cursor_ = points.front();
    });
}

void PlanView::removeChosen() {
    auto changes = removalOfThing(session_.pending(), session_.job(), chosenId_);
    if (changes.empty())
        return;
    chosenId_.clear();
    session_.commit({"take off the plan", std::move(changes)});
    emit chosen();
    emit session_.message(tr("taken off the plan: Ctrl+Z brings it back"), false);
}

void PlanView::split() {
    session_.commit({"split", splitAt(session_.pending(), chosenId_, cursor_)});
}

bool PlanView::typed(const QKeyEvent& event) {
    if (points_.empty() || (event.modifiers() & Qt::ControlModifier) != 0)
        return false;
    const QString text = event.text();
    if (event.key() == Qt::Key_Backspace) {
        if (!typed_.isEmpty())
            typed_.chop(1);
        else
            points_.pop_back();
        return true;
    }
    static const QString digits = QStringLiteral("0123456789.,'\"/");
    static const QString units = QStringLiteral("mfticnx ");
    if (text.size() != 1 || (!digits.contains(text) && (typed_.isEmpty() || !units.contains(text))))
        return false;
    typed_ += text;
    return true;
}

bool PlanView::keyMoves(const QKeyEvent& event) {
    const int dx = event.key() == Qt::Key_Left ? -1 : event.key() == Qt::Key_Right ? 1 : 0;
    const int dy = event.key() == Qt::Key_Up ? -1 : event.key() == Qt::Key_Down ? 1 : 0;
    if (dx == 0 && dy == 0)
        return false;
    const bool fine = (event.modifiers() & Qt::ControlModifier) != 0;
    const bool move = (event.modifiers() & Qt::AltModifier) != 0;
    const double step = fine ? 0.1 : (event.modifiers() & Qt::ShiftModifier) != 0 ? 5 : 0.5;
    if (move && !chosenId_.empty()) {
        session_.commit(
            {"move on the plan", movedBy(session_.pending(), chosenId_, -1, dx * step, dy * step)});
        return true;
    }
    cursor_.xM += dx * step;
    cursor_.yM += dy * step;
    under_ = {}; // the crosshair stays in sight
    const QPointF at = scale_.px(cursor_);
    const QRectF inner = QRectF(rect()).adjusted(20, 20, -20, -20);
    scale_.origin -=
        QPointF(std::max(0.0, at.x() - inner.right()) - std::max(0.0, inner.left() - at.x()),
                std::max(0.0, at.y() - inner.bottom()) - std::max(0.0, inner.top() - at.y()));
    return true;
}

/// Letters take a tool, while nothing is being drawn.
bool PlanView::keyPicks(const QKeyEvent& event) {
    static const std::map<int, Tool> tools{
        {Qt::Key_C, Tool::Choose},  {Qt::Key_Z, Tool::Scale},  {Qt::Key_R, Tool::Room},
        {Qt::Key_H, Tool::HeadEnd}, {Qt::Key_O, Tool::Outlet}, {Qt::Key_D, Tool::Device},
        {Qt::Key_W, Tool::Pathway}, {Qt::Key_M, Tool::Mains},  {Qt::Key_L, Tool::Wall},
        {Qt::Key_U, Tool::Run},     {Qt::Key_P, Tool::Photo}};
    const auto it = tools.find(event.key());
    if (it == tools.end() || drawing() || floorId_.empty() ||
        (event.modifiers() & ~Qt::ShiftModifier) != 0)
        return false;
    setTool(it->second);
    return true;
}

bool PlanView::keyDoes(const QKeyEvent& event) {
    const QPointF middle = QRectF(rect()).center();
    switch (event.key()) {
    case Qt::Key_Space:
        setPoint();
        return true;
    case Qt::Key_Return:
    case Qt::Key_Enter:
        if (!typed_.isEmpty())
            applyTyped();
        else
            finish();
        return true;
    case Qt::Key_Escape:
        if (!drawing() && grip_ == Grip::None && tools_.tool != Tool::Choose)
            setTool(Tool::Choose);
        else if (!drawing() && grip_ == Grip::None)
            choose({});
        else
            giveUp();
        return true;
    case Qt::Key_Delete:
        removeChosen();
        return true;
    case Qt::Key_Plus:
    case Qt::Key_Equal:
    case Qt::Key_PageUp:
        zoom(1.25, middle);
        return true;
    case Qt::Key_Minus:
    case Qt::Key_PageDown:
        zoom(0.8, middle);
        return true;
    case Qt::Key_Home:
        fit();
        return true;
    case Qt::Key_N:
        chooseNext((event.modifiers() & Qt::ShiftModifier) != 0 ? -1 : 1);
        return true;
    case Qt::Key_S:
        split();
        return true;
    default:
        return false;
    }
}

void PlanView::keyPressEvent(QKeyEvent* event) {
    if (!session_.hasJob() ||
        (!typed(*event) && !keyMoves(*event) && !keyDoes(*event) && !keyPicks(*event)))
        QWidget::keyPressEvent(event);
    update();
}

} // namespace burin
