#pragma once
#include "app/frame/session.h"
#include <QAbstractListModel>
#include <QLineEdit>
#include <QListView>
#include <QStyledItemDelegate>

namespace burin {

/// Rows of the runs list: a heading a room, then its runs, filtered by what is typed.
class RunsModel : public QAbstractListModel {
    Q_OBJECT
public:
    explicit RunsModel(Session& session, QObject* parent);
    struct Row {
        std::string roomId, runId; ///< runId empty: a heading
        int runs = 0;
    };
    [[nodiscard]] const Row& row(int index) const { return rows_[static_cast<std::size_t>(index)]; }
    [[nodiscard]] int rowOf(const std::string& runId) const;
    void setFilter(const QString& text);
    void rebuild();

    [[nodiscard]] int rowCount(const QModelIndex& parent = {}) const override;
    [[nodiscard]] QVariant data(const QModelIndex& index, int role) const override;
    [[nodiscard]] Qt::ItemFlags flags(const QModelIndex& index) const override;
    bool setData(const QModelIndex& index, const QVariant& value, int role) override;

private:
    Session& session_;
    QString filter_;
    std::vector<Row> rows_;
};

class RunsDelegate : public QStyledItemDelegate {
    Q_OBJECT
public:
    RunsDelegate(Session& session, QObject* parent)
        : QStyledItemDelegate(parent), session_(session) {}
    void paint(QPainter* painter, const QStyleOptionViewItem& option,
               const QModelIndex& index) const override;
    [[nodiscard]] QSize sizeHint(const QStyleOptionViewItem& option,
                                 const QModelIndex& index) const override;
    /// What has been typed stays: findings that come in meanwhile refresh the row, not the words.
    void setEditorData(QWidget* editor, const QModelIndex& index) const override;
    void updateEditorGeometry(QWidget* editor, const QStyleOptionViewItem& option,
                              const QModelIndex& index) const override;

private:
    Session& session_;
};

/// The runs at the left, on every stage: find, list, add.
class RunsPanel : public QWidget {
    Q_OBJECT
public:
    explicit RunsPanel(Session& session, QWidget* parent = nullptr);
    /// Narrower where the window is, as far as bar and state can still be read.
    [[nodiscard]] QSize sizeHint() const override;
    [[nodiscard]] QSize minimumSizeHint() const override;
    void focusFind() { find_->setFocus(); }
    void focusAdd() { add_->setFocus(); }
    void focusList() { list_->setFocus(); }

signals:
    void filesDropped(const QString& runId, const QStringList& files);

protected:
    bool eventFilter(QObject* watched, QEvent* event) override;

private:
    void takeSelection();
    void showSelection();
    bool keyPressed(int key, Qt::KeyboardModifiers modifiers);
    Session& session_;
    RunsModel* model_;
    QLineEdit* find_;
    QListView* list_;
    QLineEdit* add_;
    bool showing_ = false;
};

} // namespace burin
