#pragma once
#include "app/frame/panel.h"
#include "app/frame/session.h"
#include <QAbstractTableModel>
#include <QTableView>

namespace burin {

/// What each room gets: how many runs of each kind, typed in place, and how long they are.
class ScheduleModel : public QAbstractTableModel {
    Q_OBJECT
public:
    explicit ScheduleModel(Session& session, QObject* parent);
    enum Column { RoomName, Data, Coax, Reader, Other, Lengths, Columns };
    void rebuild();
    [[nodiscard]] int rowOf(const std::string& roomId) const;

    [[nodiscard]] int rowCount(const QModelIndex& parent = {}) const override;
    [[nodiscard]] int columnCount(const QModelIndex& parent = {}) const override;
    [[nodiscard]] QVariant data(const QModelIndex& index, int role) const override;
    [[nodiscard]] QVariant headerData(int section, Qt::Orientation orientation,
                                      int role) const override;
    [[nodiscard]] Qt::ItemFlags flags(const QModelIndex& index) const override;
    /// "3", "3 1g", "2 voice": a number and, if another than usual, a service.
    bool setData(const QModelIndex& index, const QVariant& value, int role) override;

private:
    struct Row {
        std::string roomId;
        QString name, lengths;
        std::array<int, 4> counts{}; ///< data, coax, reader, other
    };
    Session& session_;
    std::vector<Row> rows_;
};

class ScheduleView : public Panel {
    Q_OBJECT
public:
    explicit ScheduleView(Session& session, QWidget* parent = nullptr);
    /// So much that all names and figures of the table are whole, px.
    [[nodiscard]] int wantedWidth() const;
    void refresh();
    void showRoom(const std::string& roomId);

signals:
    void fitted(); ///< to its rows and words

private:
    void fitHeight();
    Session& session_;
    ScheduleModel* model_;
    QTableView* table_;
};

} // namespace burin
