#pragma once
#include <QColor>
#include <QFont>
#include <QObject>
#include <cmath>

namespace burin {

/// The colours of one set; the names say what they mean, not what they look like.
struct Tokens {
    QColor paper, plate, rule, ink, ink2;
    QColor copper, copperSoft;       ///< planned, predicted
    QColor blue;                     ///< measured
    QColor verdigris, verdigrisSoft; ///< good
    QColor rust, rustSoft;           ///< bad
    QColor ochre, ochreSoft;         ///< marginal
};
const Tokens& lightTokens();
const Tokens& darkTokens();

/// Contrast ratio of two colours after WCAG 2, 1 to 21.
double contrast(const QColor& a, const QColor& b);

/// Which set is shown and how large; one for the application.
class Theme : public QObject {
    Q_OBJECT
public:
    static Theme& instance();
    [[nodiscard]] const Tokens& tokens() const { return dark_ ? darkTokens() : lightTokens(); }
    [[nodiscard]] bool dark() const { return dark_; }
    void setDark(bool dark);
    [[nodiscard]] double scale() const { return scale_; }
    /// 0.8 to 2; all sizes follow.
    void setScale(double scale);
    /// Pixels for a size of the grid at scale 1.
    [[nodiscard]] int px(double size) const { return static_cast<int>(std::lround(size * scale_)); }

    [[nodiscard]] QFont small() const { return body(12); }
    [[nodiscard]] QFont text() const { return body(14); }
    [[nodiscard]] QFont bold() const { return body(14, true); }
    [[nodiscard]] QFont headline() const { return body(17, true); }
    [[nodiscard]] QFont figures(int size = 14) const { return body(size, false); }

signals:
    void changed();

private:
    Theme() = default;
    [[nodiscard]] QFont body(int size, bool bold = false) const;
    void apply();
    bool dark_ = false;
    double scale_ = 1;
};

} // namespace burin
