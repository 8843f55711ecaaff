#pragma once
#include "app/frame/session.h"
#include <QAbstractListModel>
#include <QListView>
#include <QStyledItemDelegate>

namespace burin {

/// Rows of the list of pulls: a heading for each date that closes something, then its pulls.
class PullsModel : public QAbstractListModel {
    Q_OBJECT
public:
    explicit PullsModel(Session& session, QObject* parent);
    struct Row {
        QString heading; ///< empty: a pull
        int pull = -1;   ///< of the plan
    };
    [[nodiscard]] const Row& row(int index) const { return rows_[static_cast<std::size_t>(index)]; }
    /// The row of the pull that run is in; −1: none.
    [[nodiscard]] int rowOf(std::string_view runId) const;
    void rebuild();

    [[nodiscard]] int rowCount(const QModelIndex& parent = {}) const override;
    [[nodiscard]] QVariant data(const QModelIndex& index, int role) const override;
    [[nodiscard]] Qt::ItemFlags flags(const QModelIndex& index) const override;

private:
    Session& session_;
    std::vector<Row> rows_;
};

class PullsDelegate : public QStyledItemDelegate {
    Q_OBJECT
public:
    PullsDelegate(Session& session, QObject* parent)
        : QStyledItemDelegate(parent), session_(session) {}
    void paint(QPainter* painter, const QStyleOptionViewItem& option,
               const QModelIndex& index) const override;
    [[nodiscard]] QSize sizeHint(const QStyleOptionViewItem& option,
                                 const QModelIndex& index) const override;

private:
    Session& session_;
};

/// The pulls in the order they are done; the chosen one is that of the chosen run. Alt with Up or
/// Down does it earlier or later, with Left or Right puts the chosen run into the one before or
/// behind.
class PullList : public QListView {
    Q_OBJECT
public:
    explicit PullList(Session& session, QWidget* parent = nullptr);
    /// After the plan or the selection changed.
    void showPlan();

signals:
    /// The chosen pull is to be done so many places earlier (−1) or later (1).
    void moved(int by);
    /// The chosen run is to go with the pull before (−1) or behind (1).
    void runMoved(int by);
    /// The chosen pull's marks are to be typed.
    void opened();

protected:
    void keyPressEvent(QKeyEvent* event) override;

private:
    void choose(const QModelIndex& index);
    Session& session_;
    PullsModel* model_;
    bool showing_ = false;
};

} // namespace burin
