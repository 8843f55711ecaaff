#pragma once
#include "app/frame/session.h"
#include "core/edit/clashes.h"
#include <QDialog>

class QScrollArea;
class QVBoxLayout;

namespace burin {

/// How many conflicts a job has, and clashes as last found.
int openEndsOf(const Session& session);

/// What is left to decide: what two copies of the job changed each in its own way, a button for
/// each of what they made of it; and what cannot both be, with the run it is about.
class OpenEnds : public QDialog {
    Q_OBJECT
public:
    OpenEnds(Session& session, QWidget* parent);

private:
    void showAll();
    void addConflict(QVBoxLayout* list, const Conflict& conflict);
    void addClash(QVBoxLayout* list, const Clash& clash);
    Session& session_;
    QWidget* body_ = nullptr;
    QScrollArea* scroll_;
};

} // namespace burin
