#pragma once
#include "app/frame/panel.h"
#include "app/survey/item_lines.h"
#include <QGridLayout>

namespace burin {

/// What a thing on the plan is, edited in place; the floor itself where nothing is chosen.
class ItemSheet : public Panel {
    Q_OBJECT
public:
    explicit ItemSheet(Session& session, QWidget* parent = nullptr);
    void show(const std::string& floorId, const std::string& chosenId);

private:
    Session& session_;
    void showEnds();
    void tie(bool far);
    void makeRows();
    std::optional<Fault> keep(std::size_t row, const QString& text);
    QGridLayout* grid_;
    QPushButton *near_, *far_; ///< the selected run ends at the chosen place
    std::string floorId_, chosenId_;
    std::vector<SheetLine> lines_;
    QString shown_; ///< which rows are there
};

} // namespace burin
