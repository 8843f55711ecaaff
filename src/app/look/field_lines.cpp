#include "app/look/field_lines.h"

namespace burin {
namespace {

constexpr int fieldGap = 6; // px, fields of a line
constexpr int lineGap = 4;  // px, lines

} // namespace

FieldLines::FieldLines(QWidget* parent) : QGridLayout(parent) {
    setContentsMargins(0, 0, 0, 0);
    setHorizontalSpacing(fieldGap);
    setVerticalSpacing(lineGap);
    setColumnStretch(1, 1);
}

QHBoxLayout* FieldLines::line(int row) {
    if (itemAtPosition(row, 1) == nullptr) {
        auto* fresh = new QHBoxLayout;
        fresh->setSpacing(fieldGap);
        addLayout(fresh, row, 1);
    }
    return static_cast<QHBoxLayout*>(itemAtPosition(row, 1)->layout());
}

QLabel* FieldLines::add(const QString& text, QWidget* field, int row, int stretch) {
    QHBoxLayout* to = line(row);
    QLabel* label = nullptr;
    if (!text.isEmpty()) {
        label = new QLabel(text, parentWidget());
        label->setBuddy(field);
        if (to->count() == 0)
            addWidget(label, row, 0);
        else
            to->addWidget(label);
    }
    to->addWidget(field, stretch);
    return label;
}

void FieldLines::addBelow(QWidget* widget) {
    addWidget(widget, rowCount(), 0, 1, 2);
}

} // namespace burin
