#pragma once
#include <QBuffer>
#include <QFont>
#include <QPainter>
#include <QPdfWriter>
#include <string>

namespace burin {

/// A PDF that is drawn in millimetres from the top left corner of each page.
class Paper {
public:
    /// Pages of that size, in mm, without margins of their own.
    Paper(double widthMm, double heightMm, const QString& title);
    Paper(const Paper&) = delete;
    Paper& operator=(const Paper&) = delete;
    ~Paper();

    [[nodiscard]] double widthMm() const { return widthMm_; }
    [[nodiscard]] double heightMm() const { return heightMm_; }
    void newPage();
    [[nodiscard]] int pages() const { return pages_; }

    enum class Weight { Plain, Bold };
    /// How wide a text is, in mm, at a size in points.
    [[nodiscard]] double wideMm(const QString& text, double points, Weight weight) const;
    /// One line in a box, at the size given or as much smaller as it takes to fit, down to `least`
    /// points; then it goes on in further lines, and what the box does not hold makes those smaller
    /// still. Nothing is cut off.
    void line(const QRectF& boxMm, const QString& text, double points,
              Weight weight = Weight::Plain, Qt::Alignment align = Qt::AlignLeft | Qt::AlignVCenter,
              double least = 5);
    /// Words that wrap; returns how high they stand.
    double words(double xMm, double yMm, double widthMm, const QString& text, double points,
                 Weight weight = Weight::Plain);
    [[nodiscard]] double wordsHighMm(double widthMm, const QString& text, double points,
                                     Weight weight = Weight::Plain) const;
    void rule(double xMm, double yMm, double toXMm, double toYMm, double thickMm = 0.2);
    void box(const QRectF& boxMm, double thickMm = 0.2);
    void fill(const QRectF& boxMm);

    /// For what is more than lines and words; a pen of 0 is a hair.
    [[nodiscard]] QPainter& painter() { return painter_; }
    [[nodiscard]] double pxPerMm() const;
    void setFont(double points, Weight weight = Weight::Plain);

    /// Ends it: the bytes of the PDF.
    [[nodiscard]] std::string bytes();

private:
    [[nodiscard]] QFont font(double points, Weight weight) const;
    [[nodiscard]] QRectF px(const QRectF& boxMm) const;

    double widthMm_, heightMm_;
    int pages_ = 1;
    QBuffer buffer_;
    QPdfWriter writer_;
    QPainter painter_;
};

} // namespace burin
