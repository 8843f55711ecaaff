#pragma once
#include "files/job_store.h"
#include <QImage>
#include <QObject>
#include <QThreadPool>
#include <atomic>
#include <functional>
#include <memory>

namespace burin {

/// A picture as read, or why it was not.
struct LoadedPicture {
    QString path, fault; ///< fault is empty when all went well
    QImage image;
    int pages = 1;
    bool scaled = false; ///< it was larger than asked for
    std::string takenOn; ///< the camera's date; empty: it says none
    QString note;        ///< what was left out of it; empty: nothing
    Attachment file;     ///< its name and bytes; empty of one kept beside the job
};

/// Reads pictures one after the other, off the screen's thread and each in a process of its own
/// (burin-picture): a file that is huge, damaged or made to do harm stops that process, and the
/// plan goes on. `then` is called on the screen's thread.
class PictureLoader : public QObject {
    Q_OBJECT
public:
    using Then = std::function<void(const LoadedPicture&)>;
    explicit PictureLoader(QObject* parent = nullptr);
    ~PictureLoader() override;
    static constexpr int mostPx = 4096;
    /// A new one, with its bytes; scaled down to `sidePx` on the longer side.
    void read(const QString& path, int page, int sidePx, Then then);
    /// One kept beside the job.
    void readKept(const QString& jobPath, const std::string& hash, int page, int sidePx, Then then);
    /// Ends what is under way and forgets what waits; its `then` is not called.
    void drop();

private:
    struct Wanted;
    static void readFile(LoadedPicture& out, const Wanted& wanted,
                         const std::function<bool()>& stop);
    void start(const Wanted& wanted, Then then);
    QThreadPool pool_;
    std::shared_ptr<std::atomic<int>> generation_ = std::make_shared<std::atomic<int>>(0);
};

} // namespace burin
