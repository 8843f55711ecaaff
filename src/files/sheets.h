#pragma once
#include "core/describe/words.h"
#include "files/paper.h"
#include "files/qt_text.h"
#include <QObject>
#include <QStringList>
#include <vector>

namespace burin {

/// A piece of ordinary paper.
enum class PaperSize { A4, Letter };
inline constexpr auto paperSizeWords = wordsOf<PaperSize>("a4", "letter");

inline constexpr double marginMm = 14;

/// Pages with a head and a number, filled from the top.
class Sheets {
public:
    Sheets(PaperSize size, const QString& title, const std::string& jobName)
        : paper_(size == PaperSize::A4 ? 210 : 215.9, size == PaperSize::A4 ? 297 : 279.4, title),
          title_(title), job_(q(jobName)) {
        head();
    }
    Paper& paper() { return paper_; }
    [[nodiscard]] double width() const { return paper_.widthMm() - 2 * marginMm; }
    [[nodiscard]] double y() const { return y_; }
    void down(double mm) { y_ += mm; }
    /// A new page where so much does not fit this one any more.
    void need(double mm) {
        if (y_ + mm <= paper_.heightMm() - marginMm)
            return;
        paper_.newPage();
        head();
    }
    void words(const QString& text, double points, Paper::Weight weight = Paper::Weight::Plain) {
        need(paper_.wordsHighMm(width(), text, points, weight) + 1);
        y_ += paper_.words(marginMm, y_, width(), text, points, weight) + 1;
    }
    /// The same with a box before it to tick.
    void item(const QString& text, double points) {
        constexpr double tickMm = 3.5;
        const double high = paper_.wordsHighMm(width() - 2 * tickMm, text, points);
        need(high + 1.5);
        paper_.box({marginMm, y_ + 0.5, tickMm, tickMm}, 0.3);
        paper_.words(marginMm + 2 * tickMm, y_, width() - 2 * tickMm, text, points);
        y_ += high + 1.5;
    }
    std::string bytes() { return paper_.bytes(); }

private:
    void head() {
        y_ = marginMm;
        paper_.line({marginMm, y_, width() * 0.7, 7}, title_, 15, Paper::Weight::Bold);
        paper_.line({marginMm + width() * 0.7, y_, width() * 0.3, 7},
                    (job_.isEmpty() ? QString() : job_ + QStringLiteral(" · ")) +
                        QObject::tr("page %1").arg(paper_.pages()),
                    9, Paper::Weight::Plain, Qt::AlignRight | Qt::AlignVCenter);
        y_ += 9;
        paper_.rule(marginMm, y_, marginMm + width(), y_, 0.4);
        y_ += 3;
    }
    Paper paper_;
    QString title_, job_;
    double y_ = 0;
};

/// Columns of a table, as shares of the width.
struct Columns {
    std::vector<double> shares;
    [[nodiscard]] QRectF cell(const Sheets& sheets, std::size_t column, double high) const {
        double from = 0;
        for (std::size_t i = 0; i < column; ++i)
            from += shares[i];
        return {marginMm + from * sheets.width(), sheets.y(), shares[column] * sheets.width() - 2,
                high};
    }
};

inline void row(Sheets& sheets, const Columns& columns, const QStringList& texts, double points,
                double high, Paper::Weight weight = Paper::Weight::Plain) {
    for (int i = 0; i < texts.size(); ++i)
        sheets.paper().line(columns.cell(sheets, static_cast<std::size_t>(i), high), texts[i],
                            points, weight);
}

} // namespace burin
