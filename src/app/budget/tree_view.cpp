#include "app/budget/tree_view.h"
#include "app/look/language.h"
#include "app/look/painters.h"
#include "app/look/theme.h"
#include "core/edit/system_edit.h"
#include "core/units/units.h"
#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <algorithm>
#include <cmath>

namespace burin {
namespace {

constexpr double leastRow = 24, mostRow = 40, indent = 18, head = 24;
constexpr double figuresWidth = 184;

} // namespace

TreeView::TreeView(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    setObjectName(QStringLiteral("treeView"));
    setAccessibleName(tr("Levels of the distribution"));
    setFocusPolicy(Qt::StrongFocus);
    connect(&session, &Session::unitsChanged, this, [this] { update(); });
}

QSize TreeView::sizeHint() const {
    const auto& theme = Theme::instance();
    return {420, theme.px(head + leastRow * static_cast<double>(rows_.size()) + 8)};
}

void TreeView::setFinding(const Distribution* distribution,
                          std::shared_ptr<const DistributionFinding> finding) {
    // A part added a moment ago is in the job, not yet in what was found: its level follows.
    const bool fits = distribution != nullptr && finding != nullptr && finding->fits(*distribution);
    distribution_ = fits ? std::optional(*distribution) : std::nullopt;
    finding_ = fits ? std::move(finding) : nullptr;
    layOut();
    if (fits && shownFor_ != session_.currentId()) {
        // Another run: its own part is the one chosen.
        shownFor_ = session_.currentId();
        const DistributionPart* own = distribution_->fedBy(shownFor_);
        chosen_ = own == nullptr ? -1 : static_cast<int>(own - distribution_->parts.data());
        emit partChosen();
    }
    updateGeometry();
    update();
}

void TreeView::addRows(int parent, int depth) {
    const auto& parts = distribution_->parts;
    const std::string from = parent < 0 ? "" : parts[static_cast<std::size_t>(parent)].id;
    std::vector<int> children;
    for (std::size_t i = 0; i < parts.size(); ++i)
        if (parts[i].from == from)
            children.push_back(static_cast<int>(i));
    for (const int child : children) {
        rows_.push_back({child, depth, child == children.back()});
        addRows(child, depth + 1);
    }
}

void TreeView::layOut() {
    rows_.clear();
    if (!distribution_)
        return;
    rows_.push_back({-1, 0, true});
    addRows(-1, 1);
    if (chosen_ >= static_cast<int>(distribution_->parts.size()))
        chosen_ = -1;
    const Tree& tree = finding_->tree;
    const bool window = !tree.mostBetweenDb;
    lowest_ = window ? tree.least : tree.levelDb;
    highest_ =
        std::max(window ? tree.most : tree.levelDb, tree.levelDb + std::max(0.0, tree.slopeDb));
    for (const auto& point : finding_->levels.points) {
        lowest_ = std::min(lowest_, point.leastDb);
        highest_ = std::max(highest_, point.mostDb);
    }
    lowest_ = 5 * std::floor((lowest_ - 3) / 5);
    highest_ = 5 * std::ceil((highest_ + 3) / 5);
}

/// A few parts spread over the room there is, many are scrolled.
double TreeView::rowHeight() const {
    const auto& theme = Theme::instance();
    const double room = (height() - theme.px(head + 8)) /
                        static_cast<double>(std::max<std::size_t>(1, rows_.size()));
    return std::clamp(room, 1.0 * theme.px(leastRow), 1.0 * theme.px(mostRow));
}

int TreeView::rowOf(int part) const {
    const auto it =
        std::find_if(rows_.begin(), rows_.end(), [&](const Row& row) { return row.part == part; });
    return it == rows_.end() ? -1 : static_cast<int>(it - rows_.begin());
}

void TreeView::choose(int part) {
    if (!distribution_ || rowOf(part) < 0)
        return;
    chosen_ = part;
    if (part >= 0) {
        const auto& runId = distribution_->parts[static_cast<std::size_t>(part)].runId;
        if (!runId.empty() && runId != session_.currentId())
            session_.select(runId, {});
    }
    setAccessibleDescription(wordsOf(part));
    update();
    emit partChosen();
}

QRect TreeView::chosenRect() const {
    return QRectF(0, Theme::instance().px(head) + rowHeight() * std::max(0, rowOf(chosen_)),
                  width(), rowHeight())
        .toAlignedRect();
}

QString TreeView::wordsOf(int part) const {
    if (!finding_)
        return {};
    if (part < 0)
        return tr("head");
    const auto at = static_cast<std::size_t>(part);
    const auto& node = finding_->tree.nodes[at];
    const auto decibels = [&](double db) {
        return tr("%1, %2 dB").arg(q(node.id), figure(formatFixed(db, 0)));
    };
    switch (node.unit.part) {
    case TreePart::Tap:
        return decibels(node.unit.tapDb);
    case TreePart::Amplifier:
        return decibels(node.unit.gainDb);
    case TreePart::Pad:
        return decibels(node.unit.throughDb);
    case TreePart::Equaliser:
        return decibels(node.unit.slopeDb);
    case TreePart::Splitter:
    case TreePart::Multiswitch:
        return tr("%1, %2 ways").arg(q(node.id)).arg(node.unit.ways);
    case TreePart::Outlet:
    case TreePart::DcBlock:
    case TreePart::SurgeArrester:
        break;
    }
    return q(node.id);
}

double TreeView::levelX(double dbuv, double scaleLeft) const {
    const double right = width() - Theme::instance().px(figuresWidth);
    return scaleLeft + (right - scaleLeft) * (dbuv - lowest_) / (highest_ - lowest_);
}

void TreeView::paintScale(QPainter& p, double left) const {
    const auto& theme = Theme::instance();
    const Tokens& t = theme.tokens();
    const Tree& tree = finding_->tree;
    const double top = theme.px(head);
    const double bottom = top + rowHeight() * static_cast<double>(rows_.size());
    const double right = levelX(highest_, left);
    if (!tree.mostBetweenDb) {
        // Where an outlet must not lie is hatched.
        const double least = levelX(tree.least, left);
        const double most = levelX(tree.most, left);
        p.fillRect(QRectF(left, top, std::max(0.0, least - left), bottom - top), hatch(t.rule));
        p.fillRect(QRectF(most, top, std::max(0.0, right - most), bottom - top), hatch(t.rule));
        p.setPen(QPen(t.ink, 1.4));
        for (const double x : {least, most})
            p.drawLine(QPointF(x, top), QPointF(x, bottom));
    }
    p.setFont(theme.small());
    p.setPen(t.ink2);
    const double step = highest_ - lowest_ > 60 ? 20 : 10;
    for (double level = step * std::ceil(lowest_ / step); level <= highest_; level += step) {
        const double x = levelX(level, left);
        p.setPen(QPen(t.rule, 1));
        p.drawLine(QPointF(x, top), QPointF(x, bottom));
        p.setPen(t.ink2);
        p.drawText(QRectF(x - theme.px(30), 0, theme.px(60), theme.px(head - 2)), Qt::AlignCenter,
                   figure(formatFixed(level - finding_->unitOffsetDb, 0)));
    }
    // The two ends of each bar, named over their columns of figures.
    const double middle = theme.px(head / 2 - 1);
    const double low = right + theme.px(24);
    const double high = right + theme.px(78);
    p.setPen(Qt::NoPen);
    p.setBrush(t.copper);
    p.drawEllipse(QPointF(low + theme.px(3.5), middle), theme.px(3.5), theme.px(3.5));
    p.setPen(QPen(t.copper, 2));
    p.drawLine(QPointF(high, middle - theme.px(5)), QPointF(high, middle + theme.px(5)));
    p.setPen(t.ink2);
    p.drawText(QPointF(low + theme.px(11), middle + theme.px(4)),
               figure(formatFixed(tree.fromMhz, 0)));
    p.drawText(QPointF(high + theme.px(6), middle + theme.px(4)), figure(formatMhz(tree.toMhz)));
    p.drawText(QRectF(0, 0, left - theme.px(34), theme.px(head - 2)),
               Qt::AlignVCenter | Qt::AlignRight, q(finding_->unit));
}

void TreeView::paintLevel(QPainter& p, const Row& row, double top, double left) const {
    const auto& theme = Theme::instance();
    const Tokens& t = theme.tokens();
    const Tree& tree = finding_->tree;
    double low = tree.levelDb;
    double high = tree.levelDb + tree.slopeDb;
    bool good = true;
    if (row.part >= 0) {
        const auto& point = finding_->levels.points[static_cast<std::size_t>(row.part)];
        low = point.lowDb;
        high = point.highDb;
        good = point.good;
    }
    const double middle = top + rowHeight() / 2;
    const double a = levelX(low, left);
    const double b = levelX(high, left);
    // From the low end of the band, a dot, to the high end, a bar across.
    p.setPen(QPen(good ? t.copper : t.rust, 3));
    p.drawLine(QPointF(a, middle), QPointF(b, middle));
    p.setBrush(good ? t.copper : t.rust);
    p.setPen(Qt::NoPen);
    p.drawEllipse(QPointF(a, middle), theme.px(3.5), theme.px(3.5));
    p.setPen(QPen(good ? t.copper : t.rust, 2));
    p.drawLine(QPointF(b, middle - theme.px(6)), QPointF(b, middle + theme.px(6)));
    const double right = levelX(highest_, left);
    p.setFont(theme.figures(12));
    p.setPen(good ? t.ink : t.rust);
    const double offset = finding_->unitOffsetDb;
    p.drawText(QRectF(right + theme.px(24), top, theme.px(48), rowHeight()), Qt::AlignVCenter,
               figure(formatFixed(low - offset, 1)));
    p.drawText(QRectF(right + theme.px(78), top, theme.px(48), rowHeight()), Qt::AlignVCenter,
               figure(formatFixed(high - offset, 1)));
    if (row.part >= 0)
        drawOutlook(p,
                    QRectF(width() - theme.px(40), top + rowHeight() / 2 - theme.px(7),
                           theme.px(32), theme.px(14)),
                    good ? Outlook::Holds : Outlook::Fails);
}

void TreeView::paintRow(QPainter& p, const Row& row, double top, double left) const {
    const auto& theme = Theme::instance();
    const Tokens& t = theme.tokens();
    const double height = rowHeight();
    const bool current =
        row.part >= 0 && !distribution_->parts[static_cast<std::size_t>(row.part)].runId.empty() &&
        distribution_->parts[static_cast<std::size_t>(row.part)].runId == session_.currentId();
    if (row.part == chosen_)
        p.fillRect(QRectF(0, top, left - theme.px(6), height), current ? t.copperSoft : t.rule);
    else if (current)
        p.fillRect(QRectF(0, top, left - theme.px(6), height), t.copperSoft);
    const double x = theme.px(6 + indent * row.depth);
    const double middle = top + height / 2;
    if (row.depth > 0) {
        // The cable comes down from the part above and turns in.
        p.setPen(QPen(t.copper, 1.4));
        const double stem = x - theme.px(indent - 6);
        int above = rowOf(row.part) - 1;
        while (above > 0 && rows_[static_cast<std::size_t>(above)].depth > row.depth)
            --above;
        const double from =
            theme.px(head) + rowHeight() * (above + 0.5) +
            (rows_[static_cast<std::size_t>(above)].depth < row.depth ? theme.px(7) : 0);
        p.drawLine(QPointF(stem, from), QPointF(stem, middle));
        p.drawLine(QPointF(stem, middle), QPointF(x - theme.px(2), middle));
    }
    p.setFont(current ? theme.bold() : theme.text());
    p.setPen(t.ink);
    const double wide = left - theme.px(10) - x;
    const QString text = wordsOf(row.part);
    p.drawText(QRectF(x, top, wide, height), Qt::AlignVCenter, elided(p, text, wide));
    if (row.part < 0)
        return;
    const auto& feed = finding_->tree.nodes[static_cast<std::size_t>(row.part)].feed;
    if (feed.cable == nullptr)
        return;
    const double used = p.fontMetrics().horizontalAdvance(text) + theme.px(8);
    p.setFont(theme.small());
    p.setPen(t.ink2);
    // Its length, and the cable's name where all of that has room.
    const QString length =
        figure(formatLength(feed.fixedLengthM() + feed.cordLengthM(), session_.units()));
    for (const auto& cable : {tr("%1 %2").arg(length, q(feed.cable->name)), length})
        if (p.fontMetrics().horizontalAdvance(cable) <= wide - used) {
            p.drawText(QRectF(x + used, top, wide - used, height), Qt::AlignVCenter, cable);
            break;
        }
}

void TreeView::paintEvent(QPaintEvent* event) {
    if (!finding_)
        return;
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const auto& theme = Theme::instance();
    const double left = width() * 0.42;
    paintScale(p, left);
    double top = theme.px(head);
    for (const auto& row : rows_) {
        const QRectF box(0, top, width(), rowHeight());
        if (box.intersects(event->rect())) {
            paintRow(p, row, top, left);
            paintLevel(p, row, top, left);
        }
        top += rowHeight();
    }
    if (hasFocus()) {
        p.setPen(QPen(theme.tokens().ink, 1, Qt::DotLine));
        p.setBrush(Qt::NoBrush);
        p.drawRect(QRectF(0.5, theme.px(head) + rowHeight() * rowOf(chosen_) + 0.5,
                          left - theme.px(7), rowHeight() - 1));
    }
}

void TreeView::mousePressEvent(QMouseEvent* event) {
    const auto& theme = Theme::instance();
    const auto row =
        static_cast<int>(std::floor((event->position().y() - theme.px(head)) / rowHeight()));
    if (row >= 0 && row < static_cast<int>(rows_.size()))
        choose(rows_[static_cast<std::size_t>(row)].part);
}

void TreeView::keyPressEvent(QKeyEvent* event) {
    const int row = rowOf(chosen_);
    const int step = event->key() == Qt::Key_Down ? 1 : event->key() == Qt::Key_Up ? -1 : 0;
    if (step == 0 || row < 0) {
        QWidget::keyPressEvent(event);
        return;
    }
    const int next = std::clamp(row + step, 0, static_cast<int>(rows_.size()) - 1);
    choose(rows_[static_cast<std::size_t>(next)].part);
}

void TreeView::focusInEvent(QFocusEvent* event) {
    QWidget::focusInEvent(event);
    update();
}

void TreeView::focusOutEvent(QFocusEvent* event) {
    QWidget::focusOutEvent(event);
    update();
}

} // namespace burin
