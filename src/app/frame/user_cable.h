#pragma once
#include "app/frame/session.h"
#include <QComboBox>
#include <QDialog>
#include <QLabel>
#include <QLineEdit>
#include <QPlainTextEdit>
#include <QPushButton>

namespace burin {

/// A cable of the user's own from datasheet points: typed pairs of MHz and dB per 100 m, the fit
/// and its residual shown while typing.
class UserCableWindow : public QDialog {
    Q_OBJECT
public:
    explicit UserCableWindow(Session& session, QWidget* parent);

private:
    void refresh();
    void keep();
    [[nodiscard]] Outcome<std::vector<DatasheetPoint>> points() const;
    Session& session_;
    QLineEdit *name_, *ohm_, *nvp_, *loop_;
    QComboBox* like_;
    QPlainTextEdit* points_;
    QLabel* fit_;
    QPushButton* keep_;
};

} // namespace burin
