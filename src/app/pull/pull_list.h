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
    /// A pull is told by its first run: ids of pulls that nobody put together change with the plan.
    [[nodiscard]] QMimeData* mimeData(const QModelIndexList& indexes) const override;
    [[nodiscard]] QStringList mimeTypes() const override;

private:
    Session& session_;
    std::vector<Row> rows_;
};

/// What is dragged onto the list: the id of a run, or of the first run of a whole pull.
inline constexpr char draggedRun[] = "application/x-burin-run";
inline constexpr char draggedPull[] = "application/x-burin-pull";

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
/// behind. By mouse a pull is drawn between two others, or onto one that it is to go with, and a
/// run (from its marks) onto the pull it is to go with.
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
    /// That run is to go with the pull of the other.
    void runDropped(const QString& runId, const QString& ofPull);
    /// The pull of that run is to go together with the pull of the other.
    void pullDropped(const QString& runId, const QString& ofPull);
    /// … or to be done before it, or after it.
    void pullPlaced(const QString& runId, const QString& ofPull, bool after);

protected:
    void keyPressEvent(QKeyEvent* event) override;
    void startDrag(Qt::DropActions actions) override;
    void dragEnterEvent(QDragEnterEvent* event) override;
    void dragMoveEvent(QDragMoveEvent* event) override;
    void dragLeaveEvent(QDragLeaveEvent* event) override;
    void dropEvent(QDropEvent* event) override;
    void paintEvent(QPaintEvent* event) override;

private:
    enum class Where { Before, Into, After };
    struct Landing {
        int row = -1;
        Where where = Where::Into;
        bool operator==(const Landing&) const = default;
    };
    /// Where that would come to lie; none: it cannot lie there.
    [[nodiscard]] std::optional<Landing> landing(const QDropEvent& event) const;
    [[nodiscard]] const PullFinding* pullAt(int row) const;
    void land(std::optional<Landing> where);
    void choose(const QModelIndex& index);
    Session& session_;
    PullsModel* model_;
    std::optional<Landing> landing_; ///< of what is dragged now
    bool showing_ = false;
};

} // namespace burin
