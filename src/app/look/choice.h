#pragma once
#include <QComboBox>

namespace burin {

/// One of a list: as wide as what is chosen needs where there is room, and whole under the pointer
/// where there is not.
class Choice : public QComboBox {
public:
    explicit Choice(QWidget* parent);
    [[nodiscard]] QSize sizeHint() const override;

protected:
    bool event(QEvent* event) override;

private:
    [[nodiscard]] int needed() const; ///< px of width
};

} // namespace burin
