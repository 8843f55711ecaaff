// Pictures made to do harm: every form of a link out of an SVG, and mutated bytes of every kind.
#include "core/units/render.h"
#include "files/picture.h"
#include "files/svg_clean.h"
#include "trials/trials.h"
#include <QBuffer>
#include <QElapsedTimer>
#include <QFile>
#include <QGuiApplication>
#include <QImage>
#include <QPainter>
#include <QPdfWriter>
#include <QTemporaryDir>
#include <QTest>
#include <sys/stat.h>

using namespace burin;

namespace {

constexpr QRgb secret = 0xffff00ff; ///< the colour of what must not be seen

QByteArray coded(const QImage& image, const char* format) {
    QByteArray out;
    QBuffer buffer(&out);
    buffer.open(QIODevice::WriteOnly);
    image.save(&buffer, format);
    return out;
}

bool shows(const QImage& image, QRgb colour) {
    for (int y = 0; y < image.height(); y += 2)
        for (int x = 0; x < image.width(); x += 2)
            if (image.pixel(x, y) == colour)
                return true;
    return false;
}

} // namespace

class TestHostilePictures : public QObject {
    Q_OBJECT
    QTemporaryDir folder_;
    QByteArray png_, jpeg_, svg_, pdf_;

    static QByteArray drawing(const QByteArray& inside, const QByteArray& before = {}) {
        return before +
               "<svg xmlns='http://www.w3.org/2000/svg' xmlns:xlink='http://www.w3.org/1999/xlink' "
               "width='100' height='100'>" +
               inside + "<rect x='80' y='80' width='10' height='10' fill='#00ff00'/></svg>";
    }

private slots:
    void initTestCase() {
        QImage magenta(40, 40, QImage::Format_RGB32);
        magenta.fill(secret);
        png_ = coded(magenta, "PNG");
        QImage grey(60, 40, QImage::Format_RGB32);
        grey.fill(Qt::gray);
        jpeg_ = coded(grey, "JPG");
        svg_ = drawing("<g transform='scale(2)'><path d='M0 0L10 10'/><text>room</text></g>");
        QBuffer buffer(&pdf_);
        buffer.open(QIODevice::WriteOnly);
        QPdfWriter writer(&buffer);
        QPainter painter(&writer);
        painter.drawLine(0, 0, 1000, 1000);
        painter.end();
        QFile file(folder_.filePath("secret.png"));
        QVERIFY(file.open(QIODevice::WriteOnly) && file.write(png_) > 0);
        file.close();
        QFile svg(folder_.filePath("secret.svg"));
        QVERIFY(svg.open(QIODevice::WriteOnly) &&
                svg.write(drawing("<rect width='100' height='100' fill='#ff00ff'/>")) > 0);
        svg.close();
        QFile css(folder_.filePath("secret.css"));
        QVERIFY(css.open(QIODevice::WriteOnly) && css.write("rect { fill: #ff00ff }") > 0);
        css.close();
        QVERIFY(::mkfifo(QFile::encodeName(folder_.filePath("pipe")), 0600) == 0);
    }

    void nothingOutsideIsDrawn() {
        const QByteArray folder = QFile::encodeName(folder_.path());
        QList<QByteArray> links;
        for (const QByteArray& name :
             {folder + "/secret.png", folder + "/secret.svg", folder + "/pipe",
              QByteArray("/etc/passwd"), QByteArray("/dev/zero")})
            links << name << "file://" + name << "file:" + name << "FILE://" + name
                  << "\n " + name + " "
                  << "file://localhost" + name << "file:///./" + name << "..%2f" + name
                  << "&#47;" + name.mid(1);
        links << "secret.png"
              << "./secret.png"
              << "http://localhost/x.png"
              << "//localhost/x.png"
              << "ftp://localhost/x.png"
              << "qrc:/x.png"
              << ":/look/down.png"
              << "data:image/svg+xml;base64," +
                     drawing("<image href='" + folder + "/secret.png' width='90' height='90'/>")
                         .toBase64()
              << "data:text/html,x"
              << "data:,x"
              << "javascript:1"
              << "secret.svg#a";
        QList<QByteArray> files;
        for (const auto& link : links) {
            for (const char* key : {"href", "xlink:href", "xlink:HREF", "src"})
                files << drawing("<image " + QByteArray(key) + "='" + link +
                                 "' width='90' height='90'/>");
            files << drawing("<use xlink:href='" + link + "'/>")
                  << drawing("<a xlink:href='" + link + "'><rect width='9' height='9'/></a>")
                  << drawing("<rect width='90' height='90' fill='url(" + link + ")'/>")
                  << drawing("<rect width='90' height='90' style='fill:url(\"" + link + "\")'/>")
                  << drawing("<style>@import url(" + link +
                             ");</style><rect width='90' height='90'/>")
                  << drawing("<style>@import '" + link + "';</style>")
                  << drawing("<font-face><font-face-src><font-face-uri xlink:href='" + link +
                             "'/></font-face-src></font-face>")
                  << drawing("<rect width='90' height='90'/>",
                             "<?xml-stylesheet type='text/css' href='" + link + "'?>")
                  << drawing("<text>&x;</text>",
                             "<!DOCTYPE svg [<!ENTITY x SYSTEM '" + link + "'>]>")
                  << drawing("<xi:include xmlns:xi='http://www.w3.org/2001/XInclude' href='" +
                             link + "'/>")
                  << drawing("<g xml:base='" + link +
                             "'><image href='secret.png' width='90' height='90'/></g>");
        }
        const int step = rounds(1, static_cast<int>(files.size()) / 60);
        int read = 0;
        for (qsizetype i = 0; i < files.size(); i += step) {
            PictureLimits limits;
            limits.seconds = 10;
            const auto picture = readPictureApart(files[i], "x.svg", 0, 100, limits);
            if (!picture)
                continue; // refused is well too
            ++read;
            QVERIFY2(!shows(picture->image, secret), files[i].constData());
            QVERIFY2(shows(picture->image, 0xff00ff00), files[i].constData());
        }
        qInfo("%d links out, %d of the drawings read without them", int(files.size() / step), read);
        QVERIFY(read > 20);
    }
    void whatIsCarriedInsideIsDrawn() {
        const auto own = readPictureApart(drawing("<image xlink:href='data:image/png;base64," +
                                                  png_.toBase64() + "' width='60' height='60'/>"),
                                          "x.svg", 0, 100);
        QVERIFY2(own.has_value(), own ? "" : render(own.error(), {}).c_str());
        QVERIFY(shows(own->image, secret));
        QVERIFY(own->note.empty());
        const auto part = readPictureApart(
            drawing("<defs><linearGradient id='g'><stop offset='0' stop-color='#ff00ff'/>"
                    "</linearGradient></defs><rect width='60' height='60' fill='url(#g)'/>"),
            "x.svg", 0, 100);
        QVERIFY(part.has_value() && shows(part->image, secret));
        const auto linked = readPictureApart(
            drawing("<image href='/etc/passwd' width='9' height='9'/>"), "x.svg", 0, 100);
        QVERIFY(linked.has_value());
        QVERIFY2(render(linked->note, {}).find("1 link") != std::string::npos,
                 render(linked->note, {}).c_str());
        // Words are drawn, in a font that was there before the door was closed.
        const auto words =
            readPictureApart(drawing("<text x='5' y='60' font-size='60' font-family='Whatever' "
                                     "fill='#ff00ff'>WW</text>"),
                             "x.svg", 0, 400);
        QVERIFY(words.has_value());
        QVERIFY(shows(words->image, secret));
    }
    void wordsOfAPageInFontsOfTheSystem() {
        const QByteArray page =
            "%PDF-1.4\n1 0 obj<</Type/Catalog/Pages 2 0 R>>endobj\n2 0 obj<</Type/Pages/Kids[3 0 "
            "R]/Count 1>>endobj\n3 0 obj<</Type/Page/Parent 2 0 R/MediaBox[0 0 200 200]/Contents 4 "
            "0 "
            "R/Resources<</Font<</F 5 0 R>>>>>>endobj\n4 0 obj<</Length 44>>stream\nBT /F 72 Tf 5 "
            "60 "
            "Td (WWW) Tj ET               \nendstream endobj\n5 0 "
            "obj<</Type/Font/Subtype/Type1/BaseFont/Times-Bold>>endobj\ntrailer<</Root 1 0 R>>\n";
        const auto picture = readPictureApart(page, "x.pdf", 0, 200);
        QVERIFY2(picture.has_value(), picture ? "" : render(picture.error(), {}).c_str());
        QVERIFY(!picture->note.empty() || shows(picture->image, 0xff000000));
    }
    void slowOnesAreEndedAndSaid() {
        // A hundred thousand parts used ten thousand times.
        QByteArray inside = "<defs><g id='a'>" +
                            QByteArray("<circle r='40' stroke='red'/>").repeated(3000) +
                            "</g><g id='b'>" + QByteArray("<use href='#a'/>").repeated(300) +
                            "</g></defs>" + QByteArray("<use href='#b'/>").repeated(300);
        PictureLimits limits;
        limits.seconds = 2;
        QElapsedTimer clock;
        clock.start();
        const auto picture = readPictureApart(drawing(inside), "slow.svg", 0, 2000, limits);
        QVERIFY(clock.elapsed() < 8000);
        QVERIFY(!picture.has_value());
        QVERIFY2(render(picture.error(), {}).find("more than 2 s") != std::string::npos,
                 render(picture.error(), {}).c_str());
        // And on being told to stop.
        PictureLimits stopped;
        stopped.stop = [&] { return clock.elapsed() > 300; };
        clock.restart();
        QVERIFY(!readPictureApart(drawing(inside), "slow.svg", 0, 2000, stopped).has_value());
        QVERIFY(clock.elapsed() < 5000);
    }
    void entitiesAndDepth() {
        QByteArray bomb = "<!DOCTYPE svg [<!ENTITY a 'aaaaaaaaaaaaaaaaaaaa'>";
        for (char c = 'b'; c < 'k'; ++c)
            bomb += QByteArray("<!ENTITY ") + c + " '" +
                    QByteArray(QByteArray("&") + char(c - 1) + ";").repeated(10) + "'>";
        bomb += "]><svg width='10' height='10'><text>&j;</text></svg>";
        QVERIFY(!cleanSvg(bomb).has_value());
        QVERIFY(!cleanSvg(QByteArray("<g>").repeated(5000) + QByteArray("</g>").repeated(5000)));
        QVERIFY(!readPictureApart(bomb, "bomb.svg", 0, 100).has_value());
    }
    void onlyPlainFiles() {
        for (const char* name : {"pipe", "none.png", "."}) {
            const auto picture = readPictureFileApart(folder_.filePath(name).toStdString(), 0, 100);
            QVERIFY(!picture.has_value());
            QVERIFY(!picture.error().cure.empty());
        }
        QVERIFY(!readPictureFileApart("/dev/zero", 0, 100).has_value());
    }
    void mutatedBytes() {
        auto dice = trialDice();
        int read = 0;
        int refused = 0;
        const int most = rounds(1000, 60);
        const QList<QByteArray> seeds{png_, jpeg_, svg_, pdf_};
        for (int i = 0; i < most; ++i) {
            QByteArray bytes = seeds[i % 4];
            mutate(dice, bytes);
            QElapsedTimer clock;
            clock.start();
            const auto picture = readPictureApart(bytes, "x", 0, 300);
            QVERIFY(clock.elapsed() < 33000);
            if (picture) {
                ++read;
                QVERIFY(!picture->image.isNull() && picture->image.width() <= 300);
            } else {
                ++refused;
                QVERIFY(!picture.error().what.empty() && !picture.error().cure.empty());
            }
        }
        qInfo("%d pictures: %d read, %d refused", most, read, refused);
        QVERIFY(read > most / 20 && refused > most / 10);
    }
};

int main(int argc, char** argv) {
    QGuiApplication app(argc, argv);
    TestHostilePictures test;
    return QTest::qExec(&test, argc, argv);
}

#include "test_hostile_pictures.moc"
