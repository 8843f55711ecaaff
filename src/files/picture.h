#pragma once
#include "core/fault.h"
#include <QImage>

namespace burin {

struct Picture {
    QImage image;
    int fullWidth = 0, fullHeight = 0; ///< of the file, px; a PDF's and SVG's are of the image
    int pages = 1;
    bool scaled = false;
    std::string takenOn; ///< the camera's date, "2026-11-23"; empty: it says none
};

/// Reads a PNG, JPEG, SVG or a page of a PDF, told by its content; one larger than `mostPx` on a
/// side is scaled down to it. Refused: another kind, a damaged file, no such page, and raster
/// pictures of over 400 million pixels. Call it in a process of its own (burin-cli picture) for
/// files from others: what it cannot take then stops that process and no more.
Outcome<Picture> readPicture(const QString& path, int page, int mostPx);

} // namespace burin
