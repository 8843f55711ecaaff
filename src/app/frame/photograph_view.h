#pragma once
#include "app/frame/picture_loader.h"
#include "app/frame/session.h"
#include <QLabel>
#include <QPushButton>

namespace burin {

/// The chosen photograph, small; a click shows it large over another widget, a second puts it away.
class PhotographView : public QWidget {
    Q_OBJECT
public:
    /// `name` is what its parts are called by: "photograph", "photographLarge", "photographSaid".
    PhotographView(Session& session, const QString& name, QWidget* over, QWidget* parent = nullptr);
    /// Hidden where `id` is no photograph of the job.
    void show(const std::string& id);

private:
    void take(const LoadedPicture& picture);
    void enlarge();
    Session& session_;
    QWidget* over_;
    PictureLoader* loader_;
    QPushButton *small_, *large_;
    QLabel* said_;
    QImage image_;
    std::string shown_; ///< hash of the picture
};

} // namespace burin
