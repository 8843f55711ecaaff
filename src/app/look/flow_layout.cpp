#include "app/look/flow_layout.h"

namespace burin {

FlowLayout::FlowLayout(int spacing) {
    setContentsMargins(0, 0, 0, 0);
    setSpacing(spacing);
}
FlowLayout::~FlowLayout() {
    qDeleteAll(items_);
}
void FlowLayout::addItem(QLayoutItem* item) {
    items_ << item;
}
int FlowLayout::count() const {
    return static_cast<int>(items_.size());
}
QLayoutItem* FlowLayout::itemAt(int index) const {
    return items_.value(index);
}
QLayoutItem* FlowLayout::takeAt(int index) {
    return index >= 0 && index < items_.size() ? items_.takeAt(index) : nullptr;
}
int FlowLayout::heightForWidth(int width) const {
    return arrange({0, 0, width, 0}, false);
}

QSize FlowLayout::sizeHint() const {
    QSize out;
    for (const auto* item : items_)
        if (!item->isEmpty())
            out = {out.width() + (out.isEmpty() ? 0 : spacing()) + item->sizeHint().width(),
                   std::max(out.height(), item->sizeHint().height())};
    return out;
}

QSize FlowLayout::minimumSize() const {
    QSize out;
    for (const auto* item : items_)
        if (!item->isEmpty())
            out = out.expandedTo(item->sizeHint());
    return out;
}

void FlowLayout::setGeometry(const QRect& place) {
    QLayout::setGeometry(place);
    arrange(place, true);
}

int FlowLayout::arrange(const QRect& place, bool put) const {
    QPoint at = place.topLeft();
    int line = 0;                                      // how high the one begun is
    std::vector<std::pair<QLayoutItem*, QRect>> begun; // on it
    const auto finish = [&] {
        // What is lower stands in the middle, beside what is higher.
        for (auto& [item, box] : begun)
            if (put)
                item->setGeometry(box.translated(0, (line - box.height()) / 2));
        begun.clear();
    };
    for (auto* item : items_) {
        if (item->isEmpty())
            continue;
        const QSize size = item->sizeHint().boundedTo(QSize(place.width(), QLAYOUTSIZE_MAX));
        if (at.x() > place.x() && at.x() + size.width() > place.x() + place.width()) {
            finish();
            at = {place.x(), at.y() + line + spacing() / 2};
            line = 0;
        }
        begun.emplace_back(item, QRect(at, size));
        at.rx() += size.width() + spacing();
        line = std::max(line, size.height());
    }
    finish();
    return at.y() + line - place.y();
}

} // namespace burin
