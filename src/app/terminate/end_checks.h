#pragma once
#include "app/frame/session.h"
#include "core/catalogue/end_card.h"
#include <QCheckBox>
#include <QLineEdit>
#include <QVBoxLayout>
#include <QWidget>

namespace burin {

/// What proves an end: to tick where it is seen, to type where it is measured. Until the end is
/// made there is nothing to prove, and it is read alone.
class EndChecks : public QWidget {
    Q_OBJECT
public:
    explicit EndChecks(QWidget* parent = nullptr);
    /// `made` nullptr: not made, or cut off.
    void showChecks(const EndCard* card, const Termination* made, UnitSystem units);
    /// Puts the cursor into the first that is not answered; false: all are.
    bool enter();

signals:
    /// What was found of that proof; none: nobody looked.
    void checked(const QString& proofId, const std::optional<burin::EndCheck>& found);
    /// What was typed is no length.
    void refused(const QString& why);

private:
    void addLine(const CardProof& proof, const EndCheck* found, bool made);
    void type(QLineEdit* field, const std::string& proofId);

    QVBoxLayout* lines_;
    std::vector<CardProof> shown_; ///< proofs, kept as long as they are the same
    std::string of_;               ///< what they are of
    UnitSystem units_ = UnitSystem::Metric;
    std::vector<QWidget*> answers_;
};

} // namespace burin
