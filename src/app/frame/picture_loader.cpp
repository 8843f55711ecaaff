#include "app/frame/picture_loader.h"
#include "app/look/painters.h"
#include "files/picture.h"
#include "files/picture_folder.h"
#include "files/spoken.h"
#include "files/text_cursor.h"
#include <QFileInfo>

namespace burin {

struct PictureLoader::Wanted {
    QString path;    ///< of a new one
    QString jobPath; ///< of the job that keeps it
    std::string hash;
    int page = 0, mostPx = 0;
};

/// Its bytes, read once: what is kept is what was looked at.
void PictureLoader::readFile(LoadedPicture& out, const Wanted& wanted,
                             const std::function<bool()>& stop) {
    try {
        auto bytes = readWholeFile(out.path.toStdString(), longestPicture);
        if (!bytes) {
            out.fault = said(bytes.error());
            return;
        }
        PictureLimits limits;
        limits.stop = stop;
        const auto read =
            readPictureApart(QByteArray::fromRawData(bytes->data(), qsizetype(bytes->size())),
                             out.path.toStdString(), wanted.page, wanted.mostPx, limits);
        if (!read) {
            out.fault = said(read.error());
            return;
        }
        out.image = read->image;
        out.pages = read->pages;
        out.scaled = read->scaled;
        out.takenOn = read->takenOn;
        out.note = said(read->note);
        if (!wanted.path.isEmpty())
            out.file = attach(QFileInfo(wanted.path).fileName().toStdString(), std::move(*bytes));
    } catch (const std::exception& unforeseen) {
        out.fault =
            tr("%1: it could not be read: %2").arg(out.path, QString::fromUtf8(unforeseen.what()));
    }
}

PictureLoader::PictureLoader(QObject* parent) : QObject(parent) {
    pool_.setMaxThreadCount(1);
}

PictureLoader::~PictureLoader() {
    drop();
    pool_.waitForDone();
}

void PictureLoader::drop() {
    ++*generation_;
    pool_.clear();
}

void PictureLoader::read(const QString& path, int page, int sidePx, Then then) {
    start({path, {}, {}, page, sidePx}, std::move(then));
}

void PictureLoader::readKept(const QString& jobPath, const std::string& hash, int page, int sidePx,
                             Then then) {
    start({{}, jobPath, hash, page, sidePx}, std::move(then));
}

void PictureLoader::start(const Wanted& wanted, Then then) {
    pool_.start([this, wanted, then = std::move(then), mine = generation_->load(),
                 generation = generation_] {
        const auto stop = [&] { return *generation != mine; };
        LoadedPicture out;
        out.path = wanted.path;
        if (wanted.path.isEmpty()) {
            if (const auto kept = picturePath(wanted.jobPath, wanted.hash))
                out.path = *kept;
            else
                out.fault = said(kept.error());
        }
        if (out.fault.isEmpty())
            readFile(out, wanted, stop);
        if (stop())
            return;
        QMetaObject::invokeMethod(this, [out = std::move(out), then, mine, generation] {
            if (*generation == mine)
                then(out);
        });
    });
}

} // namespace burin
