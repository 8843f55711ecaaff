#include "app/frame/photograph_view.h"
#include "app/frame/panel.h"
#include "app/look/theme.h"
#include "core/base/lookup.h"
#include <QShortcut>
#include <QVBoxLayout>

namespace burin {
namespace {

constexpr int mostPx = 1600; ///< enough for a window full

QPushButton* pictureButton(const QString& name, QWidget* parent) {
    auto* out = new QPushButton(parent);
    out->setFlat(true);
    out->setAccessibleName(name);
    out->setToolTip(name);
    out->hide();
    return out;
}

void fill(QPushButton* button, const QImage& image, const QSize& box) {
    const qreal ratio = button->devicePixelRatioF();
    QPixmap pixmap = QPixmap::fromImage(image.scaled(
        (QSizeF(box) * ratio).toSize(), Qt::KeepAspectRatio, Qt::SmoothTransformation));
    pixmap.setDevicePixelRatio(ratio);
    button->setIcon(pixmap);
    button->setIconSize((QSizeF(pixmap.size()) / ratio).toSize());
}

} // namespace

PhotographView::PhotographView(Session& session, const QString& name, QWidget* over,
                               QWidget* parent)
    : QWidget(parent), session_(session), over_(over), loader_(new PictureLoader(this)),
      small_(pictureButton(tr("Show the photograph large"), this)),
      large_(pictureButton(tr("Put the photograph away"), over)), said_(words(Voice::Small, this)) {
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->addWidget(small_, 0, Qt::AlignLeft);
    layout->addWidget(said_);
    small_->setObjectName(name);
    large_->setObjectName(name + QStringLiteral("Large"));
    said_->setObjectName(name + QStringLiteral("Said"));
    connect(small_, &QPushButton::clicked, this, [this] { enlarge(); });
    const auto away = [this] {
        large_->hide();
        over_->setFocus();
    };
    connect(large_, &QPushButton::clicked, this, away);
    auto* escape = new QShortcut(QKeySequence(Qt::Key_Escape), large_);
    escape->setContext(Qt::WidgetShortcut);
    connect(escape, &QShortcut::activated, this, away);
    hide();
}

void PhotographView::show(const std::string& id) {
    const Photograph* photo = session_.hasJob() ? byId(session_.job().photographs, id) : nullptr;
    const std::string hash = photo != nullptr ? photo->hash : std::string();
    setVisible(photo != nullptr);
    if (hash == shown_)
        return;
    shown_ = hash;
    loader_->drop();
    small_->hide();
    large_->hide();
    image_ = {};
    if (photo == nullptr)
        return;
    said_->setText(tr("reading the photograph…"));
    said_->show();
    loader_->readKept(session_.snapshot().path, hash, 0, mostPx,
                      [this](const LoadedPicture& picture) { take(picture); });
}

void PhotographView::take(const LoadedPicture& picture) {
    image_ = picture.image;
    said_->setText(picture.fault);
    said_->setVisible(!picture.fault.isEmpty());
    small_->setVisible(picture.fault.isEmpty());
    if (picture.fault.isEmpty()) {
        const auto& theme = Theme::instance();
        fill(small_, image_, QSize(theme.px(311), theme.px(233)));
    }
}

void PhotographView::enlarge() {
    large_->setStyleSheet(
        QStringLiteral("QPushButton { border: none; background: %1; text-align: center; }")
            .arg(Theme::instance().tokens().paper.name()));
    large_->setGeometry(over_->rect());
    fill(large_, image_, over_->size() - QSize(16, 16));
    large_->show();
    large_->raise();
    large_->setFocus();
}

} // namespace burin
