#include "files/paper.h"
#include "files/faces.h"
#include <QFontMetricsF>
#include <QPageLayout>
#include <QPageSize>

namespace burin {
namespace {

constexpr int dotsPerInch = 600;
constexpr double dotsPerMm = dotsPerInch / 25.4;
constexpr double smallestPoints = 2.5;

QBuffer* opened(QBuffer& buffer) {
    buffer.open(QIODevice::WriteOnly);
    return &buffer;
}

} // namespace

Paper::Paper(double widthMm, double heightMm, const QString& title)
    : widthMm_(widthMm), heightMm_(heightMm), writer_(opened(buffer_)) {
    writer_.setResolution(dotsPerInch);
    writer_.setTitle(title);
    writer_.setCreator(QStringLiteral("Burin"));
    const QPageSize size(QSizeF(widthMm, heightMm), QPageSize::Millimeter, {},
                         QPageSize::ExactMatch);
    writer_.setPageLayout(
        QPageLayout(size, QPageLayout::Portrait, QMarginsF(0, 0, 0, 0), QPageLayout::Millimeter));
    painter_.begin(&writer_);
}

Paper::~Paper() {
    if (painter_.isActive())
        painter_.end();
}

void Paper::newPage() {
    writer_.newPage();
    ++pages_;
}

QFont Paper::font(double points, Weight weight) const {
    return faceOf(std::max(1, qRound(points / 72 * dotsPerInch)), weight == Weight::Bold);
}

double Paper::pxPerMm() const {
    return dotsPerMm;
}

void Paper::setFont(double points, Weight weight) {
    painter_.setFont(font(points, weight));
}

QRectF Paper::px(const QRectF& mm) const {
    return {mm.x() * dotsPerMm, mm.y() * dotsPerMm, mm.width() * dotsPerMm,
            mm.height() * dotsPerMm};
}

double Paper::wideMm(const QString& text, double points, Weight weight) const {
    return QFontMetricsF(font(points, weight)).horizontalAdvance(text) / dotsPerMm;
}

void Paper::line(const QRectF& boxMm, const QString& text, double points, Weight weight,
                 Qt::Alignment align, double least) {
    double size = points;
    while (size > least && wideMm(text, size, weight) > boxMm.width())
        size -= 0.25;
    int flags = int(align) | Qt::TextDontClip;
    const auto holds = [&] {
        const QRectF all =
            QFontMetricsF(font(size, weight))
                .boundingRect(px(boxMm), flags | Qt::TextWrapAnywhere | Qt::TextWordWrap, text);
        return all.width() <= px(boxMm).width() + 1 && all.height() <= px(boxMm).height() + 1;
    };
    if (wideMm(text, size, weight) > boxMm.width()) {
        flags |= Qt::TextWordWrap;
        while (size > smallestPoints && !holds())
            size -= 0.25;
        if (!holds())
            flags |= Qt::TextWrapAnywhere;
    }
    painter_.setFont(font(size, weight));
    painter_.drawText(px(boxMm), flags, text);
}

double Paper::wordsHighMm(double widthMm, const QString& text, double points, Weight weight) const {
    const QRectF box(0, 0, widthMm * dotsPerMm, 1e7);
    return QFontMetricsF(font(points, weight)).boundingRect(box, Qt::TextWordWrap, text).height() /
           dotsPerMm;
}

double Paper::words(double xMm, double yMm, double widthMm, const QString& text, double points,
                    Weight weight) {
    const double high = wordsHighMm(widthMm, text, points, weight);
    painter_.setFont(font(points, weight));
    painter_.drawText(px({xMm, yMm, widthMm, high + 1}),
                      Qt::TextWordWrap | Qt::AlignLeft | Qt::AlignTop | Qt::TextDontClip, text);
    return high;
}

void Paper::rule(double xMm, double yMm, double toXMm, double toYMm, double thickMm) {
    painter_.setPen(QPen(Qt::black, thickMm * dotsPerMm));
    painter_.drawLine(QPointF(xMm, yMm) * dotsPerMm, QPointF(toXMm, toYMm) * dotsPerMm);
}

void Paper::box(const QRectF& boxMm, double thickMm) {
    painter_.setPen(QPen(Qt::black, thickMm * dotsPerMm));
    painter_.setBrush(Qt::NoBrush);
    painter_.drawRect(px(boxMm));
}

void Paper::fill(const QRectF& boxMm) {
    painter_.fillRect(px(boxMm), Qt::black);
}

std::string Paper::bytes() {
    painter_.end();
    buffer_.close();
    return buffer_.data().toStdString();
}

} // namespace burin
