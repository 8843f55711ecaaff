// Reads one picture from standard input, locked in, and writes it as PNG to standard output behind
// a line of JSON. Started by files/picture_apart.cpp with PAGE MOST_PX SECONDS.
#include "files/data_folder.h"
#include "files/picture.h"
#include "files/picture_words.h"
#include "picture/sandbox.h"
#include <QBuffer>
#include <QFile>
#include <QFontDatabase>
#include <QGuiApplication>
#include <QImageReader>
#include <QJsonDocument>
#include <QJsonObject>
#include <QPainter>
#include <filesystem>
#include <unistd.h>

namespace {

QByteArray readAll() {
    QByteArray out;
    QByteArray part(1 << 20, Qt::Uninitialized);
    for (;;) {
        const auto got = ::read(STDIN_FILENO, part.data(), static_cast<std::size_t>(part.size()));
        if (got <= 0 || static_cast<std::size_t>(out.size()) > burin::longestPicture)
            return out;
        out.append(part.constData(), got);
    }
}

/// Writes what there is to say and ends: what a library does on its way out may need what is
/// locked.
[[noreturn]] void answer(const QJsonObject& said, const QByteArray& png, int code) {
    const QByteArray line = QJsonDocument(said).toJson(QJsonDocument::Compact) + '\n';
    for (QByteArrayView left : {QByteArrayView(line), QByteArrayView(png)})
        while (!left.isEmpty()) {
            const auto done =
                ::write(STDOUT_FILENO, left.data(), static_cast<std::size_t>(left.size()));
            if (done <= 0)
                ::_exit(code + 1);
            left = left.sliced(done);
        }
    ::_exit(code);
}

[[noreturn]] void refusal(const burin::Sentence& what, const burin::Sentence& cure) {
    answer({{QStringLiteral("what"), burin::pictureWords::toJson(what)},
            {QStringLiteral("cure"), burin::pictureWords::toJson(cure)}},
           {}, 3);
}

/// dataFolder(), which asks the application, for before there is one.
std::string dataBesideProgram() {
    const QByteArray given = qgetenv("BURIN_DATA");
    if (!given.isEmpty())
        return given.toStdString();
    std::error_code error;
    return std::filesystem::read_symlink("/proc/self/exe", error).parent_path().string() +
           "/../share/burin";
}

/// Opens while it may be done what drawing will need: plug-ins, our fonts, the system's list.
void warmUp(bool pdf) {
    QImageReader::supportedImageFormats();
    QImage image(64, 64, QImage::Format_ARGB32_Premultiplied);
    image.fill(Qt::white);
    for (const char* face : {"B612-Regular.otf", "B612-Bold.otf"}) {
        QFile file(QString::fromStdString(burin::dataFolder()) + QStringLiteral("/fonts/") +
                   QLatin1String(face));
        if (file.open(QIODevice::ReadOnly))
            QFontDatabase::addApplicationFontFromData(file.readAll());
    }
    QPainter painter(&image);
    for (const char* family : {"B612", "sans-serif"})
        for (const bool bold : {false, true}) {
            QFont font(QString::fromLatin1(family));
            font.setBold(bold);
            painter.setFont(font);
            painter.drawText(4, 32, QStringLiteral("aµΩ"));
        }
    painter.end();
    if (pdf) {
        // A page with a word in a font it does not bring: lists the system's fonts.
        const QByteArray page =
            "%PDF-1.4\n1 0 obj<</Type/Catalog/Pages 2 0 R>>endobj\n2 0 obj<</Type/Pages/Kids[3 0 "
            "R]/Count 1>>endobj\n3 0 obj<</Type/Page/Parent 2 0 R/MediaBox[0 0 50 "
            "50]/Contents 4 0 R/Resources<</Font<</F 5 0 R>>>>>>endobj\n4 0 "
            "obj<</Length 34>>stream\nBT /F 12 Tf 5 20 Td (word) Tj ET  \nendstream endobj\n5 0 "
            "obj<</Type/Font/Subtype/Type1/BaseFont/Helvetica>>endobj\ntrailer<</Root 1 0 R>>\n";
        if (!burin::readPicture(page, "warm-up", 0, 64))
            qWarning("the fonts of the system are not known");
    }
}

} // namespace

int main(int argc, char** argv) {
    using namespace burin;
    if (argc != 4)
        return 2;
    const int page = std::atoi(argv[1]);
    const int most = std::atoi(argv[2]);
    const int seconds = std::atoi(argv[3]);
    if (page < 0 || most < 1 || most > 16384 || seconds < 1)
        return 2;
    const QByteArray bytes = readAll();
    const bool pdf = bytes.left(1024).contains("%PDF-");
    qputenv("QT_QPA_PLATFORM", "offscreen");
    // A drawing's words are set in our fonts; a page's in its own, else in the system's.
    if (!pdf)
        qputenv("FONTCONFIG_FILE", (dataBesideProgram() + "/fonts/none.conf").c_str());
    const QGuiApplication qt(argc, argv);
    warmUp(pdf);
    const Locked locked = lockIn(pdf ? Sandbox::Fonts : Sandbox::Closed, seconds);
    if (locked == Locked::Not)
        refusal(sentence(pictureWords::notLocked), sentence(pictureWords::useSeccomp));
    const auto read = readPicture(bytes, "", page, most);
    if (!read)
        refusal(read.error().what, read.error().cure);
    QByteArray png;
    QBuffer buffer(&png);
    buffer.open(QIODevice::WriteOnly);
    if (!read->image.save(&buffer, "PNG", 60))
        refusal(sentence(pictureWords::notWritten), sentence(pictureWords::tryAnother));
    Sentence note = read->note;
    if (pdf && locked != Locked::Fonts)
        note = sentence(pictureWords::fontsLeftOut);
    answer({{QStringLiteral("fullWidth"), read->fullWidth},
            {QStringLiteral("fullHeight"), read->fullHeight},
            {QStringLiteral("pages"), read->pages},
            {QStringLiteral("scaled"), read->scaled},
            {QStringLiteral("takenOn"), QString::fromStdString(read->takenOn)},
            {QStringLiteral("note"), pictureWords::toJson(note)}},
           png, 0);
}
