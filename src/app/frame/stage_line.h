#pragma once
#include <QStringList>
#include <QWidget>

namespace burin {

/// The stages along the top: one cable, a plug for each stage that is built, filled with copper as
/// far as the work has come.
class StageLine : public QWidget {
    Q_OBJECT
public:
    explicit StageLine(QStringList names, QWidget* parent = nullptr);
    void setCurrent(int index);
    [[nodiscard]] int current() const { return current_; }
    /// How much of each stage is done, 0 to 1.
    void setDone(const QList<double>& shares);
    [[nodiscard]] QSize sizeHint() const override;
    [[nodiscard]] QSize minimumSizeHint() const override;

signals:
    void chosen(int index);

protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;

private:
    [[nodiscard]] QRectF plug(int index) const;
    [[nodiscard]] double plugWidth() const;
    QStringList names_;
    QList<double> done_;
    int current_ = 0;
};

} // namespace burin
