#include "app/look/theme.h"
#include "files/faces.h"
#include <QApplication>
#include <QPalette>
#include <algorithm>
#include <cmath>

namespace burin {

const Tokens& lightTokens() {
    static const Tokens tokens{
        QColor(0xF5, 0xF1, 0xE8), QColor(0xFC, 0xFA, 0xF5), QColor(0xD9, 0xD1, 0xC1),
        QColor(0x1E, 0x2B, 0x33), QColor(0x5B, 0x67, 0x70), QColor(0xA9, 0x54, 0x2A),
        QColor(0xE9, 0xCD, 0xB9), QColor(0x2F, 0x5D, 0x8C), QColor(0x2B, 0x7A, 0x68),
        QColor(0xCF, 0xE5, 0xDD), QColor(0x9E, 0x2B, 0x2F), QColor(0xF0, 0xD3, 0xCF),
        QColor(0x7F, 0x56, 0x00), QColor(0xF3, 0xE3, 0xB8)};
    return tokens;
}

const Tokens& darkTokens() {
    static const Tokens tokens{
        QColor(0x15, 0x1B, 0x1F), QColor(0x1D, 0x25, 0x2A), QColor(0x3A, 0x45, 0x4B),
        QColor(0xEC, 0xE6, 0xD8), QColor(0xA9, 0xB2, 0xB5), QColor(0xE0, 0x92, 0x64),
        QColor(0x5A, 0x3A, 0x28), QColor(0x8A, 0xB8, 0xE6), QColor(0x6C, 0xC0, 0xA9),
        QColor(0x22, 0x45, 0x3C), QColor(0xF0, 0x8C, 0x88), QColor(0x57, 0x2A, 0x2B),
        QColor(0xE2, 0xB9, 0x58), QColor(0x4C, 0x3C, 0x14)};
    return tokens;
}

double contrast(const QColor& a, const QColor& b) {
    const auto luminance = [](const QColor& c) {
        const auto linear = [](double v) {
            return v <= 0.04045 ? v / 12.92 : std::pow((v + 0.055) / 1.055, 2.4);
        };
        return 0.2126 * linear(c.redF()) + 0.7152 * linear(c.greenF()) + 0.0722 * linear(c.blueF());
    };
    const double x = luminance(a);
    const double y = luminance(b);
    return (std::max(x, y) + 0.05) / (std::min(x, y) + 0.05);
}

Theme& Theme::instance() {
    static Theme theme;
    return theme;
}

void Theme::setDark(bool dark) {
    dark_ = dark;
    apply();
}

void Theme::setScale(double scale) {
    scale_ = std::clamp(scale, 0.8, 2.0);
    apply();
}

QFont Theme::body(int size, bool bold) const {
    return faceOf(px(size), bold);
}

void Theme::apply() {
    const Tokens& t = tokens();
    QPalette palette;
    palette.setColor(QPalette::Window, t.paper);
    palette.setColor(QPalette::Base, t.plate);
    palette.setColor(QPalette::AlternateBase, t.paper);
    palette.setColor(QPalette::Text, t.ink);
    palette.setColor(QPalette::WindowText, t.ink);
    palette.setColor(QPalette::Button, t.plate);
    palette.setColor(QPalette::ButtonText, t.ink);
    palette.setColor(QPalette::ToolTipBase, t.plate);
    palette.setColor(QPalette::ToolTipText, t.ink);
    palette.setColor(QPalette::PlaceholderText, t.ink2);
    palette.setColor(QPalette::Highlight, t.copperSoft);
    palette.setColor(QPalette::HighlightedText, t.ink);
    palette.setColor(QPalette::Link, t.copper);
    palette.setColor(QPalette::Disabled, QPalette::Text, t.ink2);
    palette.setColor(QPalette::Disabled, QPalette::ButtonText, t.ink2);
    QApplication::setPalette(palette);
    QApplication::setFont(text());
    const QString sheet = QStringLiteral(
        "QWidget { color: %1; }"
        "QLineEdit, QComboBox, QPlainTextEdit, QTextBrowser { background: %2; border: 1px solid %3;"
        " padding: %6px; selection-background-color: %5; selection-color: %1; }"
        "QLineEdit:focus, QComboBox:focus, QPushButton:focus, QToolButton:focus,"
        " QPlainTextEdit:focus, QListView:focus { border: 1px solid %4; }"
        "QComboBox QAbstractItemView { background: %2; color: %1; selection-background-color: %5;"
        " selection-color: %1; border: 1px solid %3; }"
        "QPushButton, QToolButton { background: %2; border: 1px solid %3; padding: %6px %7px; }"
        "QPushButton:hover, QToolButton:hover { border-color: %4; }"
        "QPushButton:pressed, QPushButton:checked, QToolButton:checked { background: %5; }"
        "QComboBox::drop-down { border: none; width: %8px; }"
        "QComboBox::down-arrow { image: url(:/look/down.png); width: 9px; height: 6px; }"
        "QToolButton::menu-indicator { image: none; }"
        "QPushButton[flat=\"true\"] { background: transparent; border: none; color: %4;"
        " text-decoration: underline; padding: 0px; text-align: left; }"
        "QPushButton[flat=\"true\"]:focus { border: 1px dotted %4; }"
        "QPushButton:disabled, QToolButton:disabled { color: %9; text-decoration: none; }"
        "QPushButton[holds=\"true\"]:disabled { color: %1; text-decoration: none; }"
        "QPushButton[holds=\"false\"] { color: %9; text-decoration: none; }"
        "QMenu { background: %2; border: 1px solid %3; } QMenu::item { padding: %6px %8px; }"
        "QMenu::item:selected { background: %5; } QMenu::separator { height: 1px; background: %3; }"
        "QToolTip { background: %2; color: %1; border: 1px solid %3; }"
        "QScrollBar:vertical { background: transparent; width: %7px; }"
        "QScrollBar::handle:vertical { background: %3; min-height: 24px; }"
        "QScrollBar::add-line, QScrollBar::sub-line { height: 0; }"
        "QScrollArea, QListView { border: none; background: transparent; }");
    qApp->setStyleSheet(
        sheet.arg(t.ink.name(), t.plate.name(), t.rule.name(), t.copper.name(), t.copperSoft.name())
            .arg(px(4))
            .arg(px(8))
            .arg(px(24))
            .arg(t.ink2.name()));
    emit changed();
}

} // namespace burin
