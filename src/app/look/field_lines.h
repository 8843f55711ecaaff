#pragma once
#include <QGridLayout>
#include <QHBoxLayout>
#include <QLabel>

namespace burin {

/// The fields of a sheet along lines, as they are read, each behind its label. The first labels of
/// the lines stand under each other; what is hidden takes no room.
class FieldLines : public QGridLayout {
public:
    explicit FieldLines(QWidget* parent);
    QHBoxLayout* line(int row);
    /// The label, whose buddy is the field; nullptr where `label` is empty: the field belongs to
    /// the one before it.
    QLabel* add(const QString& label, QWidget* field, int row, int stretch = 0);
    /// As wide as the lines, under them.
    void addBelow(QWidget* widget);
};

} // namespace burin
