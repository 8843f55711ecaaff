#pragma once
#include "app/frame/sheet_field.h"
#include <QComboBox>
#include <QGridLayout>
#include <QLabel>

namespace burin {

/// The marks of the chosen pull, typed as they are read off the jackets: Enter goes down the
/// starts, then down the ends, then on to the next pull.
class MarksEntry : public QWidget {
    Q_OBJECT
public:
    explicit MarksEntry(Session& session, QWidget* parent = nullptr);
    /// After the job, its findings or the selection changed.
    void showPull();
    /// The first mark that is not there yet.
    void focusFirst();

signals:
    /// All of it is typed: on to the next.
    void finished();

protected:
    /// A run is drawn by its name.
    bool eventFilter(QObject* watched, QEvent* event) override;

private:
    struct Row {
        std::string runId;
        QLabel *run, *planned, *came;
        QComboBox* box;
        SheetField *start, *end;
    };
    struct Typing {
        std::string runId;
        bool end = false;
        QString text;
    };
    [[nodiscard]] std::optional<Typing> beingTyped() const;
    void goOnTyping(const Typing& typing);
    [[nodiscard]] const PullFinding* pull() const;
    void makeRows();
    void fillRow(std::size_t index, const PullFinding& pull);
    void keep(std::size_t index);
    void chooseBox(std::size_t index, int choice);
    void goOn(std::size_t index, bool end);
    [[nodiscard]] std::optional<int> markIn(SheetField* field, const std::string& boxId, bool* bad);

    Session& session_;
    QGridLayout* grid_;
    QList<QWidget*> heads_;
    std::vector<Row> rows_;
    std::vector<std::string> runIds_; ///< of the rows
    QPoint pressedAt_;
};

} // namespace burin
