#pragma once
#include "app/frame/key_page.h"
#include "app/frame/session.h"
#include <QTimer>
#include <QWidget>

namespace burin {

/// A stage of the work, one screen of it. What changed while it was hidden is caught up with when
/// it is shown.
class Stage : public QWidget {
    Q_OBJECT
public:
    Stage(Session& session, QWidget* parent);
    /// Its keys, for the page that tells them all.
    [[nodiscard]] virtual QList<KeyHelp> keys() const = 0;

protected:
    static constexpr unsigned everything = ~0U;
    /// Shows what the job is now in those of its parts. Called while it is seen and there is a job.
    virtual void showParts(unsigned parts) = 0;
    /// Those parts are out of date: shown anew once for all that happens now.
    void stale(unsigned parts = everything);
    /// The same at once: it follows the pointer, or a key.
    void refresh(unsigned parts = everything);
    void showEvent(QShowEvent* event) override;

    Session& session_;

private:
    QTimer soon_;
    unsigned stale_ = everything;
};

} // namespace burin
