#include "files/picture.h"
#include "files/picture_words.h"
#include "files/svg_clean.h"
#include <QBuffer>
#include <QDate>
#include <QImageReader>
#include <QPainter>
#include <QSvgRenderer>
#include <libexif/exif-data.h>
#include <memory>
#include <poppler-qt6.h>

namespace burin {
namespace {

constexpr double mostPixels = 4e8;
constexpr int mostMegabytes = 1700; // that many pixels of four bytes

tl::unexpected<Fault> no(const std::string& name, Sentence what, const Wording& cure) {
    return refuse(name, std::move(what), sentence(cure));
}

QSize within(QSizeF size, int mostPx) {
    const double longest = std::max(size.width(), size.height());
    return (size * (mostPx / longest)).toSize().expandedTo({1, 1});
}

/// The day the camera wrote into the picture; empty where it wrote none that is a day.
std::string takenOn(const QByteArray& bytes) {
    const std::unique_ptr<ExifData, decltype(&exif_data_unref)> data(
        exif_data_new_from_data(reinterpret_cast<const unsigned char*>(bytes.constData()),
                                static_cast<unsigned>(bytes.size())),
        &exif_data_unref);
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

Outcome<Picture> readRaster(const std::string& path, const QByteArray& bytes, int mostPx) {
    QImageReader::setAllocationLimit(mostMegabytes);
    QBuffer buffer;
    buffer.setData(bytes);
    buffer.open(QIODevice::ReadOnly);
    QImageReader reader(&buffer);
    reader.setAutoTransform(true);
    Picture out;
    const QSize size = reader.size();
    out.fullWidth = size.width();
    out.fullHeight = size.height();
    if (size.isEmpty())
        return no(path, sentence(pictureWords::damaged, reader.errorString().toStdString()),
                  pictureWords::saveAgain);
    const double pixels = double(size.width()) * size.height();
    const int bits = QImage::toPixelFormat(reader.imageFormat()).bitsPerPixel();
    if (pixels > mostPixels || pixels * bits / 8 > mostMegabytes * 1e6)
        return no(path,
                  sentence(pictureWords::tooLarge, asCount(size.width()), asCount(size.height())),
                  pictureWords::saveSmaller);
    out.scaled = std::max(size.width(), size.height()) > mostPx;
    if (out.scaled)
        reader.setScaledSize(within(size, mostPx));
    out.image = reader.read();
    if (out.image.isNull())
        return no(path, sentence(pictureWords::damaged, reader.errorString().toStdString()),
                  pictureWords::saveAgain);
    out.takenOn = takenOn(bytes);
    return out;
}

Outcome<Picture> readSvg(const std::string& path, const QByteArray& bytes, int mostPx) {
    const auto clean = cleanSvg(bytes);
    QSvgRenderer renderer;
    if (!clean || !renderer.load(clean->bytes) || renderer.defaultSize().isEmpty())
        return no(path, sentence(pictureWords::svgDamaged), pictureWords::savePlainSvg);
    Picture out;
    out.note = clean->note;
    out.image = QImage(within(renderer.defaultSize(), mostPx), QImage::Format_ARGB32_Premultiplied);
    out.image.fill(Qt::white);
    QPainter painter(&out.image);
    renderer.render(&painter);
    out.fullWidth = out.image.width();
    out.fullHeight = out.image.height();
    return out;
}

Outcome<Picture> readPdf(const std::string& path, const QByteArray& bytes, int page, int mostPx) {
    const std::unique_ptr<Poppler::Document> document = Poppler::Document::loadFromData(bytes);
    if (!document)
        return no(path, sentence(pictureWords::pdfDamaged), pictureWords::saveAgain);
    if (document->isLocked())
        return no(path, sentence(pictureWords::pdfLocked), pictureWords::saveUnlocked);
    Picture out;
    out.pages = document->numPages();
    const std::unique_ptr<Poppler::Page> sheet(page < out.pages ? document->page(page) : nullptr);
    if (!sheet || sheet->pageSizeF().isEmpty())
        return no(path, sentence(pictureWords::noPage, asCount(page + 1), asCount(out.pages)),
                  pictureWords::namePage);
    document->setRenderHint(Poppler::Document::Antialiasing);
    document->setRenderHint(Poppler::Document::TextAntialiasing);
    const QSizeF points = sheet->pageSizeF(); // 72 an inch
    const double dpi = 72 * mostPx / std::max(points.width(), points.height());
    out.image = sheet->renderToImage(dpi, dpi);
    if (out.image.isNull())
        return no(path, sentence(pictureWords::notDrawn), pictureWords::saveAsPicture);
    out.fullWidth = out.image.width();
    out.fullHeight = out.image.height();
    return out;
}

} // namespace

Outcome<Picture> readPicture(const QByteArray& bytes, const std::string& name, int page,
                             int mostPx) {
    if (static_cast<std::size_t>(bytes.size()) > longestPicture)
        return no(name, sentence(pictureWords::tooLong), pictureWords::saveShorter);
    const QByteArray head = bytes.left(1024);
    if (head.startsWith("\x89PNG") || head.startsWith("\xff\xd8\xff"))
        return readRaster(name, bytes, mostPx);
    if (head.contains("%PDF-"))
        return readPdf(name, bytes, page, mostPx);
    if (head.contains("<svg") || head.contains("<?xml"))
        return readSvg(name, bytes, mostPx);
    return no(name, sentence(pictureWords::otherKind), pictureWords::saveAsOne);
}

} // namespace burin
