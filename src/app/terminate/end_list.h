#pragma once
#include "app/frame/session.h"
#include "core/edit/end_edit.h"
#include <QAbstractListModel>
#include <QListView>
#include <QStyledItemDelegate>

namespace burin {

/// Rows of the list of ends: a line for each place one stands at, then its ends.
class EndsModel : public QAbstractListModel {
    Q_OBJECT
public:
    explicit EndsModel(Session& session, QObject* parent);
    struct Row {
        std::size_t place = 0; ///< of the plan of ends
        int end = -1;          ///< of the place; −1: the place itself
    };
    [[nodiscard]] const Row& row(int index) const { return rows_[static_cast<std::size_t>(index)]; }
    [[nodiscard]] const EndPlace* place(int index) const;
    /// nullptr: the row is a place.
    [[nodiscard]] const EndWork* end(int index) const;
    /// The row of that end; −1: it is none.
    [[nodiscard]] int rowOf(const EndAt& at) const;
    /// "Panel A", or what ends without a place are called.
    [[nodiscard]] QString nameOf(const EndPlace& place) const;
    /// True: rows came or went; else they stay, and so does what is chosen.
    bool rebuild();

    [[nodiscard]] int rowCount(const QModelIndex& parent = {}) const override;
    [[nodiscard]] QVariant data(const QModelIndex& index, int role) const override;
    [[nodiscard]] Qt::ItemFlags flags(const QModelIndex& index) const override;

private:
    Session& session_;
    std::shared_ptr<const JobFindings> findings_; ///< that the rows point into
    std::vector<Row> rows_;
    std::vector<std::string> keys_; ///< what each row is of
};

class EndsDelegate : public QStyledItemDelegate {
    Q_OBJECT
public:
    EndsDelegate(Session& session, QObject* parent)
        : QStyledItemDelegate(parent), session_(session) {}
    void paint(QPainter* painter, const QStyleOptionViewItem& option,
               const QModelIndex& index) const override;
    [[nodiscard]] QSize sizeHint(const QStyleOptionViewItem& option,
                                 const QModelIndex& index) const override;

private:
    Session& session_;
};

/// The ends by place, as one stands there. Space says that what is chosen is made, X that a try is
/// spoiled, Backspace that it is not made after all, P brings a photograph, which may be dropped on
/// the list as well. On the line of a place they mean all of it: Space those that are left,
/// and once none is, those that nobody has written down; Backspace and photographs those that are
/// made.
class EndList : public QListView {
    Q_OBJECT
public:
    explicit EndList(Session& session, QWidget* parent = nullptr);
    /// After the plan of ends or the selection changed; `far` is which end of the run is shown.
    void showPlan(bool far);
    [[nodiscard]] std::vector<EndAt> chosenEnds() const;
    /// Of the chosen, those that are left; where none is, those of which nobody said who made them.
    [[nodiscard]] std::vector<EndAt> endsToMake() const;
    /// One place is chosen, and nothing else.
    [[nodiscard]] const EndPlace* chosenPlace() const;
    /// Goes on to the next end that is left, from the chosen one.
    void goOn();

signals:
    /// That end is to be shown.
    void endChosen(const QString& runId, bool far);
    void madeAsked();
    void spoiledAsked();
    void unmadeAsked();
    void photographAsked();
    void photographsDropped(const QStringList& files);

protected:
    void keyPressEvent(QKeyEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;
    void dragEnterEvent(QDragEnterEvent* event) override;
    void dragMoveEvent(QDragMoveEvent* event) override;
    void dropEvent(QDropEvent* event) override;

private:
    void choose();
    /// Of the chosen ends those that are wanted, each once.
    template <typename Wanted> [[nodiscard]] std::vector<EndAt> chosenOf(Wanted wanted) const;
    Session& session_;
    EndsModel* model_;
    bool showing_ = false;
    EndAt shown_; ///< whose card is shown
};

} // namespace burin
