#pragma once
#include <QLayout>

namespace burin {

/// Widgets side by side from the left, each as wide as it asks for, on as many lines as that takes:
/// links whose words are longer in another language go on below, and are not cut.
class FlowLayout : public QLayout {
public:
    explicit FlowLayout(int spacing = 8);
    ~FlowLayout() override;

    void addItem(QLayoutItem* item) override;
    [[nodiscard]] int count() const override;
    [[nodiscard]] QLayoutItem* itemAt(int index) const override;
    QLayoutItem* takeAt(int index) override;
    [[nodiscard]] Qt::Orientations expandingDirections() const override { return {}; }
    [[nodiscard]] bool hasHeightForWidth() const override { return true; }
    [[nodiscard]] int heightForWidth(int width) const override;
    [[nodiscard]] QSize sizeHint() const override;
    [[nodiscard]] QSize minimumSize() const override;
    void setGeometry(const QRect& place) override;

private:
    int arrange(const QRect& place, bool put) const; ///< how high it gets
    QList<QLayoutItem*> items_;
};

} // namespace burin
