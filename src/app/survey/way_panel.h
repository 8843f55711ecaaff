#pragma once
#include "app/frame/panel.h"
#include "app/frame/session.h"
#include "core/finding/cable_choice.h"
#include <QLineEdit>

namespace burin {

/// The selected run's way: what its length is made of, what jacket it asks for, whether it follows
/// the plan, and which cables its way and service allow.
class WayPanel : public Panel {
    Q_OBJECT
public:
    explicit WayPanel(Session& session, QWidget* parent = nullptr);
    void refresh();

private:
    void showChoices();
    void showChoice(const CableChoice& choice);
    void take(const CableChoice& choice, int scope);
    void readPrint();
    QLabel *parts_, *total_, *jacket_, *print_;
    QPushButton *follow_, *straight_, *coiled_, *working_;
    QWidget* choices_;
    QVBoxLayout* choiceList_;
    QLineEdit* printed_;
    Session& session_;
    std::string shownFor_, choicesFor_;
    std::string whyOf_; ///< the cable whose reasons are told
};

/// What the plan finds, the worst first, those of the selected run before others.
class MattersPanel : public QWidget {
    Q_OBJECT
public:
    explicit MattersPanel(Session& session, QWidget* parent = nullptr);
    void refresh();
    /// That finding comes first, until another does.
    void lead(const SiteFinding& finding);
    [[nodiscard]] QWidget* first() const {
        return first_ != nullptr ? first_ : list_->parentWidget();
    }

signals:
    void wanted(const burin::SiteFinding& finding); ///< to be looked at on the plan

private:
    Session& session_;
    QVBoxLayout* list_;
    QWidget* first_ = nullptr;
    Sentence leading_; ///< reason of the finding that was asked for
};

/// Walls and ceilings by the date they close, with what behind them is not seen or proven.
class ClosingPanel : public Panel {
    Q_OBJECT
public:
    explicit ClosingPanel(Session& session, QWidget* parent = nullptr);
    void refresh();

private:
    Session& session_;
    QLabel* text_;
};

} // namespace burin
