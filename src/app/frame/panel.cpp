#include "app/frame/panel.h"
#include "app/look/manners.h"
#include "app/look/theme.h"
#include <QEvent>
#include <QPainter>

namespace burin {

namespace {

QLabel* dressed(QLabel* label, Voice voice) {
    label->setTextFormat(Qt::PlainText);
    const auto dress = [label, voice] {
        const auto& theme = Theme::instance();
        label->setFont(voice == Voice::Headline ? theme.headline()
                       : voice == Voice::Bold   ? theme.bold()
                       : voice == Voice::Small  ? theme.small()
                                                : theme.text());
        label->setStyleSheet(voice == Voice::Small
                                 ? QStringLiteral("color: %1;").arg(theme.tokens().ink2.name())
                                 : QString());
    };
    dress();
    QObject::connect(&Theme::instance(), &Theme::changed, label, dress);
    return label;
}

} // namespace

QLabel* words(Voice voice, QWidget* parent) {
    auto* label = dressed(new QLabel(parent), voice);
    label->setWordWrap(true);
    return label;
}

OneLine::OneLine(Voice voice, QWidget* parent) : QLabel(parent), voice_(voice) {
    dressed(this, voice);
}

QSize OneLine::minimumSizeHint() const {
    return {Theme::instance().px(60), QLabel::minimumSizeHint().height()};
}

void OneLine::paintEvent(QPaintEvent*) {
    QPainter p(this);
    const Tokens& t = Theme::instance().tokens();
    p.setPen(voice_ == Voice::Small ? t.ink2 : t.ink);
    p.drawText(contentsRect(), Qt::AlignLeft | Qt::AlignVCenter,
               fontMetrics().elidedText(text(), Qt::ElideRight, contentsRect().width()));
}

QPushButton* link(const QString& text, QWidget* parent) {
    auto* button = new QPushButton(asWritten(text), parent);
    button->setFlat(true);
    button->setCursor(Qt::PointingHandCursor);
    button->setSizePolicy(QSizePolicy::Maximum, QSizePolicy::Fixed);
    return button;
}

namespace {

/// A scroll area gives texts that wrap all the height they would like, whatever there is.
class SqueezedArea : public QScrollArea {
public:
    using QScrollArea::QScrollArea;

protected:
    void resizeEvent(QResizeEvent* event) override {
        QScrollArea::resizeEvent(event);
        fit();
    }
    bool eventFilter(QObject* object, QEvent* event) override {
        const bool done = QScrollArea::eventFilter(object, event);
        if (object == widget() && event->type() == QEvent::LayoutRequest)
            fit();
        return done;
    }

private:
    void fit() {
        if (widget() == nullptr)
            return;
        QLayout* column = widget()->layout();
        setMinimumWidth(column->totalMinimumSize().width());
        const int width = viewport()->width();
        widget()->resize(width,
                         std::max(viewport()->height(), column->minimumHeightForWidth(width)));
    }
};

QScrollArea* plain(QScrollArea* scroll, QWidget* widget) {
    scroll->setFrameShape(QFrame::NoFrame);
    scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    scroll->viewport()->setAutoFillBackground(false);
    scroll->setWidget(widget);
    widget->setAutoFillBackground(false);
    return scroll;
}

} // namespace

QScrollArea* scrolled(QWidget* widget, QWidget* parent) {
    auto* scroll = plain(new QScrollArea(parent), widget);
    scroll->setWidgetResizable(true);
    return scroll;
}
QScrollArea* squeezed(QWidget* column, QWidget* parent) {
    return plain(new SqueezedArea(parent), column);
}

Panel::Panel(const QString& title, QWidget* parent)
    : QWidget(parent), title_(words(Voice::Bold, this)), head_(new QHBoxLayout),
      body_(new QVBoxLayout) {
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(12, 8, 12, 8);
    layout->setSpacing(4);
    title_->setText(title);
    title_->setVisible(!title.isEmpty());
    head_->setSpacing(12);
    head_->addWidget(title_, 1);
    layout->addLayout(head_);
    layout->addLayout(body_, 1);
    body_->setSpacing(4);
    connect(&Theme::instance(), &Theme::changed, this, qOverload<>(&QWidget::update));
}

void Panel::setTitle(const QString& title) {
    title_->setText(title);
    title_->setVisible(!title.isEmpty());
}

void Panel::addToTitle(QWidget* widget) {
    head_->addWidget(widget);
}

void Panel::setTone(Tone tone) {
    tone_ = tone;
    update();
}

void Panel::paintEvent(QPaintEvent*) {
    const Tokens& t = Theme::instance().tokens();
    QPainter p(this);
    const QColor fill = tone_ == Tone::Good       ? t.verdigrisSoft
                        : tone_ == Tone::Bad      ? t.rustSoft
                        : tone_ == Tone::Marginal ? t.ochreSoft
                                                  : t.plate;
    p.setPen(QPen(tone_ == Tone::Bad ? t.rust : t.rule, 1));
    p.setBrush(fill);
    p.drawRect(rect().adjusted(0, 0, -1, -1));
}

void empty(QLayout& layout) {
    while (QLayoutItem* item = layout.takeAt(0)) {
        if (QWidget* widget = item->widget()) {
            widget->hide();
            widget->deleteLater();
        } else if (QLayout* inner = item->layout()) {
            empty(*inner);
        }
        delete item;
    }
}

} // namespace burin
