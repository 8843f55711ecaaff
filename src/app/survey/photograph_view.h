#pragma once
#include "app/frame/picture_loader.h"
#include "app/frame/session.h"
#include <QLabel>
#include <QPushButton>

namespace burin {

/// The chosen photograph, small beside the plan; a click shows it large over the plan, and another
/// puts it away.
class PhotographView : public QWidget {
    Q_OBJECT
public:
    PhotographView(Session& session, QWidget* plan, QWidget* parent = nullptr);
    /// Hidden where `id` is no photograph of the job.
    void show(const std::string& id);

private:
    void take(const LoadedPicture& picture);
    void enlarge();
    Session& session_;
    QWidget* plan_;
    PictureLoader* loader_;
    QPushButton *small_, *large_;
    QLabel* said_;
    QImage image_;
    std::string shown_; ///< hash of the picture
};

} // namespace burin
