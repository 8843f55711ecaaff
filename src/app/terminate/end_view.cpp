#include "app/terminate/end_view.h"
#include "app/look/painters.h"
#include "app/look/theme.h"
#include "app/terminate/screen_scale.h"
#include "files/end_drawing.h"
#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>

namespace burin {
namespace {

constexpr double mostEnlarged = 8, leastEnlarged = 0.5;

EndColours coloursOf(const Tokens& t) {
    return {t.ink, t.ink2, t.copper,   t.plate, t.rule, Theme::instance().dark() ? t.rule : t.ink2,
            1,     t.rust, t.verdigris};
}

} // namespace

EndView::EndView(QWidget* parent) : QWidget(parent) {
    setObjectName(QStringLiteral("endView"));
    setAccessibleName(tr("The end as it must look"));
    setFocusPolicy(Qt::StrongFocus);
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Expanding);
    connect(&Theme::instance(), &Theme::changed, this, [this] {
        updateGeometry();
        update();
    });
}

void EndView::showEnd(const EndFinding& end, const std::shared_ptr<const Catalogue>& catalogue) {
    catalogue_ = catalogue;
    shape_ = findShape(end.card);
    section_ = findSection(end.card);
    QStringList texts;
    for (const auto& d : shape_.dimensions)
        texts << wordsOf(d);
    setAccessibleDescription(texts.join(QStringLiteral("; ")));
    updateGeometry();
    update();
    emit scaleChanged();
}

void EndView::setTrueSize(bool trueSize) {
    trueSize_ = trueSize;
    update();
    emit scaleChanged();
}

void EndView::calibrate() {
    card_ = known().pxPerMm;
    setFocus();
    update();
    emit scaleChanged();
}

bool EndView::measured() const {
    return known().measured;
}

const EndView::Known& EndView::known() const {
    if (const QScreen* now = screen(); now != known_.screen && now != nullptr)
        known_ = {now, screen_scale::pxPerMm(*now),
                  screen_scale::measuredPxPerMm(*now).has_value()};
    return known_;
}

double EndView::fittingPxPerMm(bool section) const {
    const auto& theme = Theme::instance();
    const double margin = theme.px(40);
    // Beside it the section, as wide as it is at that scale or as its words are.
    const double drawn = section ? sectionMm : 0;
    const double beside = section ? sectionWidePx(0) : 0;
    const double words = wordsWidePx();
    const double room = width() - margin;
    const double wide = std::min(
        {room / (shape_.lengthMm + drawn), (room - beside) / shape_.lengthMm,
         (room - words) / (dimensionedMm() + drawn), (room - words - beside) / dimensionedMm()});
    const double high = (height() - theme.px(12) - wordsPx()) / shape_.acrossMm;
    // The section is as high around the same middle, its words under it.
    const double line = QFontMetricsF(theme.small()).height() * dimensionPitch;
    const double under = section ? (height() - theme.px(8) - (sectionLines + 1.5) * line) /
                                       ((shape_.acrossMm + sectionAcrossMm) / 2)
                                 : high;
    return std::min({wide, high, under});
}

bool EndView::showsSection() const {
    if (!section_ || shape_.parts.empty())
        return false;
    const double life = known().pxPerMm;
    if (!trueSize_)
        return fittingPxPerMm(true) >= life * leastEnlarged;
    return rightPx(life, true) + Theme::instance().px(8) <= width() - sectionWidePx(life);
}

double EndView::drawnPxPerMm() const {
    const double life = known().pxPerMm;
    if (trueSize_ || shape_.parts.empty())
        return life;
    return std::clamp(fittingPxPerMm(showsSection()), life * leastEnlarged, life * mostEnlarged);
}

double EndView::rightPx(double px, bool section) const {
    const double margin = Theme::instance().px(20);
    const double wide = endSize(shape_, px).width();
    const double left = std::max(margin, (width() - (section ? sectionWidePx(px) : 0) - wide) / 2);
    // Far enough to the right for the words, which stand at the left of their lines.
    return std::max(left + wide, margin + wordsWidePx() + dimensionedMm() * px);
}

double EndView::enlarged() const {
    return drawnPxPerMm() / known().pxPerMm;
}

double EndView::wordsPx() const {
    const double line = QFontMetricsF(Theme::instance().small()).height() * dimensionPitch;
    return (static_cast<double>(shape_.dimensions.size()) + (findFlaws(shape_) ? 1.5 : 0.5)) * line;
}
double EndView::sectionWidePx(double px) const {
    const auto& theme = Theme::instance();
    return section_ ? sectionWide(QFontMetricsF(theme.small()), *section_, px) + theme.px(8) : 0;
}

double EndView::wordsWidePx() const {
    const QFontMetricsF metrics(Theme::instance().small());
    double out = 0;
    for (const auto& d : shape_.dimensions)
        out = std::max(out, metrics.horizontalAdvance(wordsOf(d)));
    return out;
}
double EndView::dimensionedMm() const {
    double out = 1;
    for (const auto& d : shape_.dimensions)
        out = std::max(out, d.toMm);
    return out;
}

QSize EndView::sizeHint() const {
    return {Theme::instance().px(600), minimumSizeHint().height()};
}
QSize EndView::minimumSizeHint() const {
    const auto& theme = Theme::instance();
    return {theme.px(320), theme.px(12 + 44) + static_cast<int>(wordsPx())};
}

void EndView::paintEvent(QPaintEvent*) {
    const auto& theme = Theme::instance();
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    p.setFont(theme.small());
    if (card_)
        return paintCard(p);
    if (shape_.parts.empty())
        return;
    const double px = drawnPxPerMm();
    const bool section = showsSection();
    const double middle = theme.px(8) + flawsHigh(p, shape_) + endSize(shape_, px).height() / 2;
    const EndColours colours = coloursOf(theme.tokens());
    drawEnd(p, shape_, QPointF(rightPx(px, section), middle), px, colours);
    if (section)
        drawSection(p, *section_, QPointF(width() - sectionWidePx(px) + theme.px(8), middle), px,
                    colours);
}

QRectF EndView::cardBox() const {
    const double px = card_.value_or(0);
    const auto margin = static_cast<double>(Theme::instance().px(16));
    return {margin, margin, screen_scale::cardWidthMm * px, screen_scale::cardHeightMm * px};
}

void EndView::paintCard(QPainter& p) const {
    const auto& theme = Theme::instance();
    const Tokens& t = theme.tokens();
    const QRectF box = cardBox();
    constexpr double cornerMm = 3.18;
    p.setPen(QPen(t.copper, 1.5));
    p.setBrush(t.copperSoft);
    p.drawRoundedRect(box, cornerMm * *card_, cornerMm * *card_);
    p.setPen(t.ink);
    const QRectF beside(box.right() + theme.px(16), box.top(), width() - box.right() - theme.px(28),
                        height() - box.top());
    p.setFont(theme.text());
    p.drawText(beside, Qt::TextWordWrap,
               tr("Hold a bank card against the screen. Make this outline as wide: drag its right "
                  "edge, or + and −, the arrows for a hair. Enter keeps it, Escape leaves it."));
}

void EndView::stretch(double pxPerMm) {
    constexpr double least = 1, most = 40;
    card_ = std::clamp(pxPerMm, least, most);
    update();
}

void EndView::endCalibration(bool keep) {
    if (keep && screen() != nullptr && screen_scale::keep(*screen(), *card_))
        trueSize_ = true;
    known_ = {};
    card_.reset();
    update();
    emit scaleChanged();
}

void EndView::keyPressEvent(QKeyEvent* event) {
    if (!card_)
        return QWidget::keyPressEvent(event);
    // A pixel of the card's width, or eight.
    const double pixel = 1 / screen_scale::cardWidthMm;
    switch (event->key()) {
    case Qt::Key_Return:
    case Qt::Key_Enter:
        return endCalibration(true);
    case Qt::Key_Escape:
        return endCalibration(false);
    case Qt::Key_Plus:
    case Qt::Key_Equal:
        return stretch(*card_ + 8 * pixel);
    case Qt::Key_Minus:
        return stretch(*card_ - 8 * pixel);
    case Qt::Key_Right:
        return stretch(*card_ + pixel / 2);
    case Qt::Key_Left:
        return stretch(*card_ - pixel / 2);
    default:
        QWidget::keyPressEvent(event);
    }
}

/// The card takes its keys before the window's shortcuts do.
bool EndView::event(QEvent* event) {
    if (card_ && event->type() == QEvent::ShortcutOverride) {
        event->accept();
        return true;
    }
    if (event->type() == QEvent::FocusOut && card_)
        endCalibration(false);
    return QWidget::event(event);
}

void EndView::mousePressEvent(QMouseEvent* event) {
    dragging_ =
        card_ && std::abs(event->position().x() - cardBox().right()) < Theme::instance().px(16);
}
void EndView::mouseMoveEvent(QMouseEvent* event) {
    if (dragging_ && card_)
        stretch((event->position().x() - cardBox().left()) / screen_scale::cardWidthMm);
}
void EndView::mouseReleaseEvent(QMouseEvent*) {
    dragging_ = false;
}

void EndView::resizeEvent(QResizeEvent* event) {
    QWidget::resizeEvent(event);
    emit scaleChanged();
}

} // namespace burin
