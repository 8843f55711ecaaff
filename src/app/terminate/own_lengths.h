#pragma once
#include "app/frame/panel.h"
#include "app/frame/session.h"
#include "core/catalogue/end_card.h"
#include <QLineEdit>
#include <QVBoxLayout>
#include <QWidget>

namespace burin {

/// The lengths of a card as the part's own sheet has them, typed over the catalogue's.
class OwnLengths : public QWidget {
    Q_OBJECT
public:
    explicit OwnLengths(Session& session, QWidget* parent = nullptr);
    /// Offers the lengths of that card, for that connection.
    void open(const EndCard& card, const std::string& connectionId);

signals:
    void closed();

protected:
    void keyPressEvent(QKeyEvent* event) override;

private:
    void keep();
    void dropOwn();
    Session& session_;
    QVBoxLayout* rows_;
    QLabel* head_;
    QLineEdit* source_;
    QPushButton *keep_, *drop_;
    EndCard card_;
    std::string connectionId_;
    std::vector<QLineEdit*> cuts_, proofs_; ///< nullptr: a proof that is seen
};

} // namespace burin
