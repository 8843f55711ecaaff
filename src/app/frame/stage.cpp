#include "app/frame/stage.h"
#include <utility>

namespace burin {

Stage::Stage(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    soon_.setSingleShot(true);
    connect(&soon_, &QTimer::timeout, this, [this] { refresh(0); });
}

void Stage::stale(unsigned parts) {
    stale_ |= parts;
    if (isVisible())
        soon_.start(0);
}

void Stage::refresh(unsigned parts) {
    stale_ |= parts;
    if (isVisible() && session_.hasJob())
        showParts(std::exchange(stale_, 0));
}

void Stage::showEvent(QShowEvent* event) {
    QWidget::showEvent(event);
    refresh(everything);
}

} // namespace burin
