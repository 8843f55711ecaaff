#pragma once
#include "app/frame/panel.h"
#include "app/frame/session.h"
#include <array>

namespace burin {

/// What is shown where there is nothing yet: the ways to begin, side by side, one click each.
class Beginnings : public QWidget {
    Q_OBJECT
public:
    explicit Beginnings(Session& session, QWidget* parent = nullptr);
    /// After a job was opened, or none is.
    void showBeginnings();

signals:
    void newJob();
    void openJob();
    void reopen(const QString& path);
    void drawSite();
    void typeRuns();
    void openSample();

private:
    /// One way: what it is, what comes of it, and the button that takes it.
    struct Way {
        Panel* panel;
        QLabel* text;
        QPushButton* button;
        QVBoxLayout* more;
    };
    Way way(const char* name);

    Session& session_;
    QLabel *head_, *first_;
    Way begin_, goOn_, sample_;
};

} // namespace burin
