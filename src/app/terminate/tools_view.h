#pragma once
#include "app/frame/session.h"
#include <QLineEdit>
#include <QVBoxLayout>
#include <QWidget>

namespace burin {

/// The job's tools: what is due, what they made and spoiled; a new one from a typed line.
class ToolsView : public QWidget {
    Q_OBJECT
public:
    explicit ToolsView(Session& session, QWidget* parent = nullptr);
    void showTools();
    void focusLine() { line_->setFocus(Qt::OtherFocusReason); }

signals:
    /// Back to the card.
    void closed();

protected:
    void keyPressEvent(QKeyEvent* event) override;

private:
    void keep();
    void typeOver(const std::string& toolId);
    void addTool(const ToolFinding& found);
    Session& session_;
    QVBoxLayout* tools_;
    QLineEdit* line_;
    std::string typedOver_; ///< the tool that is typed over; empty: a new one
};

} // namespace burin
