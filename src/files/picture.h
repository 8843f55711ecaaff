#pragma once
#include "core/base/fault.h"
#include <QImage>
#include <functional>

namespace burin {

struct Picture {
    QImage image;
    int fullWidth = 0, fullHeight = 0; ///< of the file, px; a PDF's and SVG's are of the image
    int pages = 1;
    bool scaled = false;
    std::string takenOn; ///< the camera's date, "2026-11-23"; empty: it says none
    Sentence note;       ///< what was left out of it; empty: nothing
};

inline constexpr std::size_t longestPicture = 200U << 20U;

/// Reads a PNG, JPEG, SVG or a page of a PDF, told by its content; one larger than `mostPx` on a
/// side is scaled down to it. Refused: another kind, a damaged file, no such page, and raster
/// pictures of over 400 million pixels. What an SVG wants from elsewhere is left out, and noted.
/// For bytes from others use `readPictureApart`: this runs the libraries that read them right here.
Outcome<Picture> readPicture(const QByteArray& bytes, const std::string& name, int page,
                             int mostPx);

struct PictureLimits {
    int seconds = 30; ///< by the clock
    std::function<bool()> stop = [] { return false; };
};
/// The same, by a process of its own (burin-picture) that gets the bytes by a pipe and may open and
/// connect to nothing: whatever the file makes of it, that process ends and this one says so.
Outcome<Picture> readPictureApart(const QByteArray& bytes, const std::string& name, int page,
                                  int mostPx, const PictureLimits& limits = {});
/// The file's bytes, then the same. Refused: no such file, a folder, a pipe, over 200 MiB.
Outcome<Picture> readPictureFileApart(const std::string& path, int page, int mostPx,
                                      const PictureLimits& limits = {});

} // namespace burin
