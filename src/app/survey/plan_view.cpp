#include "app/survey/plan_view.h"
#include "app/frame/said.h"
#include "app/look/language.h"
#include "app/look/painters.h"
#include "app/look/theme.h"
#include "core/base/lookup.h"
#include <QPainter>
#include <cmath>

namespace burin {
namespace {

PlanStyle styleNow() {
    const Theme& theme = Theme::instance();
    const Tokens& t = theme.tokens();
    PlanStyle out{t.plate,       t.rule,       t.ink,         t.ink2,  t.copper,
                  t.copperSoft,  t.rust,       t.rustSoft,    t.ochre, t.verdigris,
                  theme.small(), theme.bold(), theme.scale(), drawTape};
    return out;
}

} // namespace

PlanView::PlanView(Session& session, QWidget* parent)
    : QWidget(parent), session_(session), answer_(new QLineEdit(this)) {
    setFocusPolicy(Qt::StrongFocus);
    setMouseTracking(true);
    setObjectName(QStringLiteral("plan"));
    setAccessibleName(tr("Plan of the floor"));
    setAccessibleDescription(
        tr("Arrow keys move the crosshair, Space sets a point, Enter ends, Escape gives up, N goes "
           "to the next thing, Delete removes it, plus and minus zoom"));
    answer_->hide();
    answer_->setObjectName(QStringLiteral("planAnswer"));
    answer_->setAccessibleName(tr("Answer"));
    connect(answer_, &QLineEdit::returnPressed, this, [this] { takeAnswer(); });
    connect(&session, &Session::jobChanged, this, [this] {
        if (waiting_ || !session_.hasJob()) {
            draft_.reset();
            draftRoute_.reset();
            waiting_ = false;
        }
        if (fitted_)
            fit();
        redraw();
    });
    connect(&session, &Session::selectionChanged, this, [this] { update(); });
    connect(&session, &Session::unitsChanged, this, [this] { redraw(); });
    connect(&Theme::instance(), &Theme::changed, this, [this] { redraw(); });
}

const Job& PlanView::shownJob() const {
    return draft_ ? *draft_ : session_.job();
}

double PlanView::reachM() const {
    return Theme::instance().px(9) / scale_.pxPerM;
}

std::optional<PlanPoint> PlanView::last() const {
    return points_.empty() ? std::nullopt : std::optional(points_.back());
}

void PlanView::setFloor(const std::string& id) {
    if (id == floorId_)
        return;
    const std::string from = joinFrom_; // a run may go from floor to floor
    giveUp();
    joinFrom_ = from;
    floorId_ = id;
    chosenId_.clear();
    fit();
    emit chosen();
}

void PlanView::setPicture(const QImage& picture) {
    picture_ = picture;
    redraw();
}

void PlanView::setTool(Tool tool) {
    giveUp();
    tools_.tool = tool;
    setCursor(tool == Tool::Choose ? Qt::ArrowCursor : Qt::CrossCursor);
    emit toolChanged();
    hint();
    update();
}

void PlanView::setPresets(const PlanTools& presets) {
    const Tool now = tools_.tool;
    tools_ = presets;
    tools_.tool = now;
    hint();
}

void PlanView::choose(const std::string& id) {
    chosenId_ = id;
    emit chosen();
    hint();
    redraw();
}

void PlanView::hint() {
    emit said(hintOf(tools_.tool, drawing(), !chosenId_.empty()));
}

QString PlanView::hintOf(Tool tool, bool begun, bool chosen) {
    switch (tool) {
    case Tool::Choose:
        return chosen ? tr("Drag it or its corners; S splits the piece under the crosshair, Delete "
                           "takes it away.")
                      : tr("Click chooses, drag moves; drag the dashed way to lead the run "
                           "elsewhere.");
    case Tool::Scale:
        return begun ? tr("Now the other end of the distance you know.")
                     : tr("Click two points whose distance you know, then type it.");
    case Tool::Room:
        return begun ? tr("Click the opposite corner, or type its size: 8.2 x 4 m.")
                     : tr("Drag a room from corner to corner, then type its letters and name.");
    case Tool::Pathway:
    case Tool::Mains:
    case Tool::Wall:
        return begun ? tr("Next point, or a typed length; Shift keeps it square, Enter or a double "
                          "click ends it.")
                     : tr("Click where it starts.");
    case Tool::HeadEnd:
    case Tool::Outlet:
    case Tool::Device:
        return tr("Click where it stands.");
    case Tool::Run:
        return begun ? tr("Click the place it goes to; it may be on another floor.")
                     : tr("Click the place it starts from: a head end, an outlet, a device.");
    case Tool::Photo:
        break;
    }
    return tr("Click the place the photograph shows.");
}

QStringList PlanView::hints() {
    QStringList out;
    for (const bool yes : {false, true})
        for (int tool = 0; tool <= static_cast<int>(Tool::Photo); ++tool)
            out << hintOf(static_cast<Tool>(tool), yes, yes);
    return out;
}

void PlanView::redraw() {
    under_ = {};
    update();
}

void PlanView::fit() {
    fitted_ = true;
    if (session_.hasJob())
        scale_ = fitted(shownJob(), floorId_, QRectF(rect()));
    redraw();
}

void PlanView::zoom(double factor, const QPointF& about) {
    const PlanPoint at = scale_.at(about);
    scale_.pxPerM = std::clamp(scale_.pxPerM * factor, 0.2, 2000.0);
    scale_.origin += about - scale_.px(at);
    fitted_ = false;
    redraw();
}

void PlanView::resizeEvent(QResizeEvent* event) {
    QWidget::resizeEvent(event);
    under_ = {};
    if (fitted_)
        fit();
    emit resized();
}

void PlanView::pointTo(PlanPoint p, Qt::KeyboardModifiers modifiers) {
    if (tools_.tool == Tool::Run && session_.hasJob()) {
        if (const Place* place = placeAt(shownJob(), floorId_, p, 2 * reachM()))
            p = place->at;
    } else if (tools_.tool != Tool::Choose && session_.hasJob())
        p = snapped(shownJob(), floorId_, p, reachM(), last(),
                    (modifiers & Qt::ShiftModifier) != 0);
    cursor_ = p;
    update();
}

void PlanView::setPoint() {
    if (!session_.hasJob() || floorId_.empty())
        return;
    if (tools_.tool == Tool::Choose) {
        choose(hitAt(shownJob(), floorId_, cursor_, reachM(), chosenId_).id);
        return;
    }
    if (tools_.tool == Tool::Photo) {
        emit photographWanted(cursor_);
        return;
    }
    if (tools_.tool == Tool::Run) {
        joinPlace();
        return;
    }
    if (!points_.empty() && distanceM(points_.back(), cursor_) < 1e-6)
        return;
    points_.push_back(cursor_);
    typed_.clear();
    const std::size_t whole = burin::pointsOf(tools_.tool, tools_, session_.catalogue());
    if (whole > 0 && points_.size() >= whole)
        finish();
    else
        hint();
    update();
}

/// The first place is kept, the second makes the run.
void PlanView::joinPlace() {
    const Place* place = placeAt(session_.pending(), floorId_, cursor_, 2 * reachM());
    if (place == nullptr) {
        emit session_.message(tr("Nothing stands here: a run goes from place to place. Set an "
                                 "outlet (O), a device (D) or a head end (H) first."),
                              true);
        return;
    }
    if (joinFrom_.empty()) {
        joinFrom_ = place->id;
    } else {
        const auto& kinds = session_.catalogue().site.kinds;
        const auto edit = joined(session_.pending(), session_.catalogue(), joinFrom_, place->id,
                                 kinds[tools_.run].id);
        if (!edit) {
            emit session_.message(burin::said(edit.error(), session_), true);
            return;
        }
        joinFrom_.clear();
        session_.commitAndSelect(*edit);
    }
    hint();
    update();
}

void PlanView::finish() {
    if (points_.empty() || !session_.hasJob())
        return;
    if (tools_.tool == Tool::Scale) {
        if (points_.size() == 2)
            askFor(tr("distance, for example 8.2 m"), scale_.px(points_.back()));
        return;
    }
    const Drawn made = drawn(session_.pending(), session_.catalogue(), tools_, floorId_, points_);
    const QPointF at = scale_.px(points_.front());
    points_.clear();
    typed_.clear();
    if (!made.edit.changes.empty()) {
        chosenId_ = made.id;
        session_.commit(made.edit);
        emit chosen();
        if (tools_.tool == Tool::Room)
            askFor(tr("letters and name: SL Sail loft"), at + QPointF(12, 12));
    }
    hint();
    redraw();
}

void PlanView::giveUp() {
    points_.clear();
    typed_.clear();
    joinFrom_.clear();
    answer_->hide();
    if (grip_ != Grip::None && draft_) {
        draft_.reset();
        draftRoute_.reset();
        session_.dropPreview();
    }
    grip_ = Grip::None;
    hint();
    redraw();
}

void PlanView::askFor(const QString& what, const QPointF& at) {
    askedFor_ = tools_.tool == Tool::Scale ? std::string() : chosenId_;
    answer_->setPlaceholderText(what);
    answer_->clear();
    const int wide = Theme::instance().px(220);
    const int high = answer_->sizeHint().height();
    answer_->setGeometry(std::clamp(static_cast<int>(at.x()), 4, std::max(4, width() - wide - 4)),
                         std::clamp(static_cast<int>(at.y()), 4, std::max(4, height() - high - 4)),
                         wide, high);
    answer_->show();
    answer_->setFocus();
}

void PlanView::takeAnswer() {
    const std::string text = answer_->text().toStdString();
    if (askedFor_.empty()) {
        const auto length = parseLengthM(text, session_.units());
        const double now = points_.size() == 2 ? distanceM(points_[0], points_[1]) : 0;
        auto edit = !length ? Outcome<Edit>(refuse(length.error()))
                            : rescaled(session_.pending(), floorId_, now > 0 ? *length / now : 0);
        if (!edit) {
            emit session_.message(burin::said(edit.error(), session_), true);
            return;
        }
        points_.clear();
        session_.commit(*edit);
        setTool(Tool::Choose);
    } else {
        const auto edit = namedRoom(session_.pending(), askedFor_, text);
        if (!edit) {
            emit session_.message(burin::said(edit.error(), session_), true);
            return;
        }
        session_.commit(*edit);
    }
    answer_->hide();
    setFocus();
}

void PlanView::paintEvent(QPaintEvent*) {
    QPainter p(this);
    const Tokens& t = Theme::instance().tokens();
    p.fillRect(rect(), t.paper);
    if (!session_.hasJob())
        return;
    if (shownJob().floors.empty()) {
        paintFirstSteps(p);
        return;
    }
    PlanContent content;
    content.job = &shownJob();
    content.plan = session_.site().get();
    content.floorId = floorId_;
    content.runId = session_.currentId();
    content.route = draftRoute_ ? &*draftRoute_ : nullptr;
    content.picture = picture_;
    content.chosenId = chosenId_;
    content.units = session_.units();
    if (draft_ && movesMany_) {
        drawPlan(p, content, scale_, styleNow(), QRectF(rect()));
    } else {
        // A thousand outlets take their time: all but what is chosen, and the way, is drawn once.
        if (under_.isNull()) {
            content.part = PlanContent::Part::AllButChosen;
            under_ = QPixmap(size() * devicePixelRatioF());
            under_.setDevicePixelRatio(devicePixelRatioF());
            under_.fill(t.paper);
            QPainter once(&under_);
            drawPlan(once, content, scale_, styleNow(), QRectF(rect()));
        }
        p.drawPixmap(0, 0, under_);
        content.part = PlanContent::Part::ChosenAndWay;
        drawPlan(p, content, scale_, styleNow(), QRectF(rect()));
    }
    paintDraft(p);
    p.setPen(QPen(hasFocus() ? t.copper : t.rule, 1));
    p.setBrush(Qt::NoBrush);
    p.drawRect(rect().adjusted(0, 0, -1, -1));
}

void PlanView::paintFirstSteps(QPainter& p) const {
    const auto& theme = Theme::instance();
    const QString steps = tr(
        "new floor, above: bare paper.   Or drop a picture of the plan here: PNG, JPEG, SVG, PDF.\n"
        "Z   scale: two points, and the distance between them\n"
        "R   rooms: drag from corner to corner, then letters and a name\n"
        "H   head end: where the runs come together\n"
        "W   pathways: tray, hooks, conduit, shaft\n"
        "M   power: what cable must keep away from\n"
        "U   runs from one place to another\n"
        "Then type at the right how many runs each room gets.\n\n"
        "Without a plan: type a run at the bottom left, SL-D01 61.5 m cat6a-utp 10g.");
    p.setFont(theme.text());
    p.setPen(theme.tokens().ink2);
    p.drawText(QRectF(rect()).adjusted(24, 24, -24, -24),
               Qt::AlignLeft | Qt::AlignVCenter | Qt::TextWordWrap, steps);
}

void PlanView::paintDraft(QPainter& p) {
    const auto& theme = Theme::instance();
    const Tokens& t = theme.tokens();
    p.setRenderHint(QPainter::Antialiasing);
    const QPointF at = scale_.px(cursor_);
    if (hasFocus() || tools_.tool != Tool::Choose) {
        p.setPen(QPen(t.copper, 1));
        const double r = theme.px(8);
        p.drawLine(at - QPointF(r, 0), at + QPointF(r, 0));
        p.drawLine(at - QPointF(0, r), at + QPointF(0, r));
    }
    p.setPen(QPen(t.copper, 2, Qt::DashLine));
    p.setBrush(Qt::NoBrush);
    if (const Place* from = byId(shownJob().places, joinFrom_);
        from != nullptr && from->floorId == floorId_)
        p.drawLine(scale_.px(from->at), at);
    if (points_.empty())
        return;
    const double away = distanceM(points_.back(), cursor_);
    QString metres = figure(formatLength(away, session_.units(), 2));
    if (tools_.tool == Tool::Room) {
        p.drawRect(QRectF(scale_.px(points_.front()), at).normalized());
        metres = tr("%1 × %2").arg(
            figure(formatLength(std::abs(cursor_.xM - points_[0].xM), session_.units(), 2)),
            figure(formatLength(std::abs(cursor_.yM - points_[0].yM), session_.units(), 2)));
    } else {
        QPolygonF line;
        for (const auto& point : points_)
            line << scale_.px(point);
        if (!answer_->isVisible())
            line << at;
        p.drawPolyline(line);
        if (points_.size() > 1)
            metres +=
                tr(", in all %1")
                    .arg(figure(formatLength(lengthOfM(points_) + away, session_.units(), 2)));
    }
    if (!typed_.isEmpty())
        metres = tr("%1 ⏎").arg(typed_);
    p.setFont(theme.figures(12));
    const double wide = p.fontMetrics().horizontalAdvance(metres) + theme.px(8);
    QRectF box(at + QPointF(theme.px(12), -theme.px(28)), QSizeF(wide, theme.px(20)));
    if (box.right() > width())
        box.moveRight(at.x() - theme.px(8));
    if (box.top() < 0)
        box.moveTop(at.y() + theme.px(10));
    p.fillRect(box, t.plate);
    p.setPen(t.ink);
    p.drawText(box, Qt::AlignCenter, metres);
}

} // namespace burin
