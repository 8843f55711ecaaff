#include "files/picture.h"
#include <QDate>
#include <QFile>
#include <QImageReader>
#include <QPainter>
#include <QSvgRenderer>
#include <libexif/exif-data.h>
#include <memory>
#include <poppler-qt6.h>

namespace burin {
namespace {

constexpr qint64 mostBytes = 200LL << 20U;
constexpr double mostPixels = 4e8;
constexpr int mostMegabytes = 1700; // that many pixels of four bytes

tl::unexpected<Fault> no(const QString& path, const std::string& what, const std::string& cure) {
    return refuse(path.toStdString(), what, cure);
}

QSize within(QSizeF size, int mostPx) {
    const double longest = std::max(size.width(), size.height());
    return (size * (mostPx / longest)).toSize().expandedTo({1, 1});
}

/// The day the camera wrote into the picture; empty where it wrote none that is a day.
std::string takenOn(const QString& path) {
    const std::unique_ptr<ExifData, decltype(&exif_data_unref)> data(
        exif_data_new_from_file(path.toLocal8Bit().constData()), &exif_data_unref);
    if (!data)
        return {};
    const ExifEntry* entry =
        exif_content_get_entry(data->ifd[EXIF_IFD_EXIF], EXIF_TAG_DATE_TIME_ORIGINAL);
    if (entry == nullptr)
        entry = exif_content_get_entry(data->ifd[EXIF_IFD_0], EXIF_TAG_DATE_TIME);
    if (entry == nullptr || entry->format != EXIF_FORMAT_ASCII || entry->size < 10)
        return {};
    const QString day = QString::fromLatin1(reinterpret_cast<const char*>(entry->data), 10);
    return QDate::fromString(day, QStringLiteral("yyyy:MM:dd")).toString(Qt::ISODate).toStdString();
}

Outcome<Picture> readRaster(const QString& path, int mostPx) {
    QImageReader::setAllocationLimit(mostMegabytes);
    QImageReader reader(path);
    reader.setAutoTransform(true);
    Picture out;
    const QSize size = reader.size();
    out.fullWidth = size.width();
    out.fullHeight = size.height();
    if (size.isEmpty())
        return no(path, "the picture is damaged: " + reader.errorString().toStdString(),
                  "Save it again from where it came");
    const double pixels = double(size.width()) * size.height();
    const int bits = QImage::toPixelFormat(reader.imageFormat()).bitsPerPixel();
    if (pixels > mostPixels || pixels * bits / 8 > mostMegabytes * 1e6)
        return no(path,
                  "the picture is " + std::to_string(size.width()) + " × " +
                      std::to_string(size.height()) + " px, more than can be read",
                  "Save it smaller: 4000 px on the longer side are plenty");
    out.scaled = std::max(size.width(), size.height()) > mostPx;
    if (out.scaled)
        reader.setScaledSize(within(size, mostPx));
    out.image = reader.read();
    if (out.image.isNull())
        return no(path, "the picture is damaged: " + reader.errorString().toStdString(),
                  "Save it again from where it came");
    out.takenOn = takenOn(path);
    return out;
}

Outcome<Picture> readSvg(const QString& path, const QByteArray& bytes, int mostPx) {
    QSvgRenderer renderer;
    if (!renderer.load(bytes) || renderer.defaultSize().isEmpty())
        return no(path, "the SVG is damaged or has no size", "Save it again as plain SVG");
    Picture out;
    out.image = QImage(within(renderer.defaultSize(), mostPx), QImage::Format_ARGB32_Premultiplied);
    out.image.fill(Qt::white);
    QPainter painter(&out.image);
    renderer.render(&painter);
    out.fullWidth = out.image.width();
    out.fullHeight = out.image.height();
    return out;
}

Outcome<Picture> readPdf(const QString& path, const QByteArray& bytes, int page, int mostPx) {
    const std::unique_ptr<Poppler::Document> document = Poppler::Document::loadFromData(bytes);
    if (!document)
        return no(path, "the PDF is damaged", "Save it again from where it came");
    if (document->isLocked())
        return no(path, "the PDF is locked with a password", "Save it again without a password");
    Picture out;
    out.pages = document->numPages();
    const std::unique_ptr<Poppler::Page> sheet(page < out.pages ? document->page(page) : nullptr);
    if (!sheet || sheet->pageSizeF().isEmpty())
        return no(path,
                  "there is no page " + std::to_string(page + 1) + "; it has " +
                      std::to_string(out.pages),
                  "Name a page that is there");
    document->setRenderHint(Poppler::Document::Antialiasing);
    document->setRenderHint(Poppler::Document::TextAntialiasing);
    const QSizeF points = sheet->pageSizeF(); // 72 an inch
    const double dpi = 72 * mostPx / std::max(points.width(), points.height());
    out.image = sheet->renderToImage(dpi, dpi);
    if (out.image.isNull())
        return no(path, "the page cannot be drawn", "Save it again as PDF or as a picture");
    out.fullWidth = out.image.width();
    out.fullHeight = out.image.height();
    return out;
}

} // namespace

Outcome<Picture> readPicture(const QString& path, int page, int mostPx) {
    QFile file(path);
    if (!file.open(QIODevice::ReadOnly))
        return no(path, "there is no such picture, or it may not be read", "Check its name");
    if (file.size() > mostBytes)
        return no(path, "the file is over 200 MB", "Save it smaller");
    const QByteArray head = file.read(1024);
    if (head.startsWith("\x89PNG") || head.startsWith("\xff\xd8\xff"))
        return readRaster(path, mostPx);
    file.seek(0);
    if (head.contains("%PDF-"))
        return readPdf(path, file.readAll(), page, mostPx);
    if (head.contains("<svg") || head.contains("<?xml"))
        return readSvg(path, file.readAll(), mostPx);
    return no(path, "this is neither PNG, JPEG, SVG nor PDF", "Save the plan as one of these");
}

} // namespace burin
