#pragma once
#include <QLabel>
#include <QPushButton>
#include <QScrollArea>
#include <QVBoxLayout>
#include <QWidget>

namespace burin {

/// A plate with a thin rule around it and a title.
class Panel : public QWidget {
    Q_OBJECT
public:
    explicit Panel(const QString& title, QWidget* parent = nullptr);
    [[nodiscard]] QVBoxLayout* body() const { return body_; }
    void setTitle(const QString& title);
    /// Stands at the right of its title.
    void addToTitle(QWidget* widget);
    enum class Tone { Plain, Good, Bad, Marginal };
    void setTone(Tone tone);

protected:
    void paintEvent(QPaintEvent* event) override;

private:
    QLabel* title_;
    QHBoxLayout* head_;
    QVBoxLayout* body_;
    Tone tone_ = Tone::Plain;
};

/// Words that wrap, in the size and weight asked for; they follow the theme.
enum class Voice { Headline, Bold, Text, Small };
QLabel* words(Voice voice, QWidget* parent);
/// One line, cut with an ellipsis where its place is too narrow.
class OneLine : public QLabel {
    Q_OBJECT
public:
    OneLine(Voice voice, QWidget* parent);
    [[nodiscard]] QSize minimumSizeHint() const override;

protected:
    void paintEvent(QPaintEvent* event) override;

private:
    Voice voice_;
};
/// A word that does something, underlined.
QPushButton* link(const QString& text, QWidget* parent);

/// Takes everything out of a layout, and what lies in layouts within it: hidden at once, gone once
/// nobody is in the middle of it.
void empty(QLayout& layout);

/// The widget in an area that scrolls up and down and paints nothing of its own.
QScrollArea* scrolled(QWidget* widget, QWidget* parent);
/// The same for a column of panels: it is squeezed as far as they bear before it is scrolled.
QScrollArea* squeezed(QWidget* column, QWidget* parent);

} // namespace burin
