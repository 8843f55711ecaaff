// The plan by mouse and touchpad.
#include "app/look/painters.h"
#include "app/look/theme.h"
#include "app/survey/plan_view.h"
#include "core/base/lookup.h"
#include <QMouseEvent>
#include <QNativeGestureEvent>
#include <cmath>

namespace burin {

void PlanView::mousePressEvent(QMouseEvent* event) {
    setFocus();
    pressedPx_ = event->position();
    if (event->button() == Qt::MiddleButton || event->button() == Qt::RightButton) {
        grip_ = Grip::Pan;
        return;
    }
    if (event->button() != Qt::LeftButton || !session_.hasJob())
        return;
    pointTo(scale_.at(event->position()), event->modifiers());
    pressed_ = cursor_;
    if (tools_.tool == Tool::Room && points_.empty()) {
        points_.push_back(cursor_);
        grip_ = Grip::Box;
        return;
    }
    if (tools_.tool != Tool::Choose) {
        setPoint();
        return;
    }
    const Hit hit = hitAt(shownJob(), floorId_, cursor_, reachM(), chosenId_);
    // A way lies on its pathways: dragged there it is led elsewhere, unless the pathway was chosen
    // before; a click chooses the pathway.
    const bool placed = byId(session_.job().places, hit.id) != nullptr;
    if (hit.corner < 0 && !placed && (hit.id.empty() || hit.id != chosenId_) && viaUnder(cursor_)) {
        grip_ = Grip::Via;
        pressedOn_ = hit.id;
        return;
    }
    choose(hit.id);
    corner_ = hit.corner;
    // Clicking a place shows its run in the list too.
    for (const auto& run : session_.job().runs)
        if (!hit.id.empty() && run.far.placeId == hit.id) {
            session_.select(run.id, {});
            break;
        }
    grip_ = hit.id.empty() ? Grip::Pan : Grip::Press;
}

void PlanView::mouseMoveEvent(QMouseEvent* event) {
    const bool far = (event->position() - pressedPx_).manhattanLength() > 5;
    if (grip_ == Grip::Pan) {
        scale_.origin += event->position() - pressedPx_;
        pressedPx_ = event->position();
        fitted_ = false;
        redraw();
        return;
    }
    pointTo(scale_.at(event->position()), event->modifiers());
    if (grip_ == Grip::Press && far && (event->buttons() & Qt::LeftButton) != 0)
        beginDrag();
    if (grip_ == Grip::Via && far && !draft_) {
        draft_ = session_.pending();
        dragged_.clear();
        movesMany_ = false;
    }
    if (grip_ == Grip::Thing)
        drag();
    else if (grip_ == Grip::Via && draft_)
        dragVia();
}

/// The finding whose mark is nearest, within its ring.
const SiteFinding* PlanView::markUnder(const QPointF& px) const {
    const SiteFinding* out = nullptr;
    double least = Theme::instance().px(11);
    for (const auto& f : session_.site()->findings) {
        if (f.floorId != floorId_ || f.matter == SiteMatter::Jacket)
            continue;
        const QPointF off = scale_.px(markOf(f)) - px;
        if (std::hypot(off.x(), off.y()) < least) {
            least = std::hypot(off.x(), off.y());
            out = &f;
        }
    }
    return out;
}

void PlanView::mouseReleaseEvent(QMouseEvent* event) {
    const Grip grip = std::exchange(grip_, Grip::None);
    // A click on a mark asks what is wrong there.
    const bool stayed = (event->position() - pressedPx_).manhattanLength() <= 5;
    if (tools_.tool == Tool::Choose && event->button() == Qt::LeftButton && stayed && !draft_ &&
        session_.hasJob())
        if (const SiteFinding* finding = markUnder(event->position())) {
            emit findingWanted(*finding);
            update();
            return;
        }
    if (grip == Grip::Box) {
        pointTo(scale_.at(event->position()), event->modifiers());
        if ((event->position() - pressedPx_).manhattanLength() > 8)
            setPoint();
        else
            hint(); // a click: the opposite corner is clicked or typed
    } else if ((grip == Grip::Thing || grip == Grip::Via) && draft_) {
        endDrag();
    } else if (grip == Grip::Via) {
        choose(pressedOn_);
    }
    update();
}

void PlanView::mouseDoubleClickEvent(QMouseEvent* event) {
    if (tools_.tool == Tool::Choose) {
        pointTo(scale_.at(event->position()), event->modifiers());
        if (session_.hasJob() && !chosenId_.empty())
            split();
    } else if (!points_.empty()) {
        finish();
    }
}

void PlanView::wheelEvent(QWheelEvent* event) {
    // A touchpad pans with two fingers and zooms with Ctrl; a wheel zooms.
    const bool pad = !event->pixelDelta().isNull() && event->phase() != Qt::NoScrollPhase;
    if (pad && (event->modifiers() & Qt::ControlModifier) == 0) {
        scale_.origin += event->pixelDelta();
        fitted_ = false;
        redraw();
    } else {
        zoom(std::pow(1.0015, event->angleDelta().y()), event->position());
    }
    event->accept();
}

bool PlanView::event(QEvent* event) {
    if (event->type() == QEvent::NativeGesture) {
        auto* gesture = static_cast<QNativeGestureEvent*>(event);
        if (gesture->gestureType() == Qt::ZoomNativeGesture) {
            zoom(1 + gesture->value(), gesture->position());
            return true;
        }
    }
    return QWidget::event(event);
}

} // namespace burin
