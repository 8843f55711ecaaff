#include "core/base/lookup.h"
#include "core/units/render.h"
#include "files/job_store.h"
#include "files/picture.h"
#include "files/picture_folder.h"
#include "files/picture_words.h"
#include "files/plan_drawing.h"
#include "files/taken_paper.h"
#include <QBuffer>
#include <QDir>
#include <QGuiApplication>
#include <QPdfWriter>
#include <QSvgGenerator>
#include <QTemporaryDir>
#include <QTest>

using namespace burin;

/// Pictures of floors and photographs: read, scaled, dated, refused, kept beside the job; and the
/// drawing that goes over them.
class TestPictures : public QObject {
    Q_OBJECT
    QTemporaryDir folder_;

    QString write(const QString& name, const QByteArray& bytes) {
        const QString path = folder_.filePath(name);
        QFile file(path);
        if (!file.open(QIODevice::WriteOnly) || file.write(bytes) != bytes.size())
            qFatal("cannot write %s", qPrintable(path));
        return path;
    }
    static QByteArray coded(const QImage& image, const char* format) {
        QByteArray out;
        QBuffer buffer(&out);
        buffer.open(QIODevice::WriteOnly);
        image.save(&buffer, format);
        return out;
    }
    static QImage grey(int width, int height) {
        QImage out(width, height, QImage::Format_RGB32);
        out.fill(Qt::gray);
        return out;
    }
    /// A JPEG with a camera's block in it: one entry, the day and time in the main directory.
    static QByteArray dated(const QByteArray& jpeg, const QByteArray& when) {
        const QByteArray text = when + '\0';
        QByteArray tiff("II*\0\x08\0\0\0", 8);
        tiff += QByteArray("\x01\0", 2) + QByteArray("\x32\x01\x02\0", 4); // one, date, text
        tiff += static_cast<char>(text.size());
        tiff += QByteArray("\0\0\0\x1a\0\0\0\0\0\0\0", 11); // where it stands; no more directories
        tiff += text;
        const QByteArray block = QByteArray("Exif\0\0", 6) + tiff;
        const auto size = static_cast<quint16>(block.size() + 2);
        QByteArray marker("\xff\xe1", 2);
        marker += static_cast<char>(size >> 8U);
        marker += static_cast<char>(size & 0xffU);
        return jpeg.left(2) + marker + block + jpeg.mid(2);
    }
    static Outcome<Picture> readHere(const QString& path, int page = 0) {
        QFile file(path);
        if (!file.open(QIODevice::ReadOnly))
            qFatal("cannot read %s", qPrintable(path));
        return readPicture(file.readAll(), path.toStdString(), page, 500);
    }
    std::string refusal(const QString& path, int page = 0) {
        const auto read = readPictureFileApart(path.toStdString(), page, 500);
        return read ? std::string() : render(read.error(), {});
    }

    static bool kept(const QString& job, const Attachment& picture) {
        NewPictures pictures(job);
        const bool good = pictures.keep(picture).has_value();
        pictures.stay();
        return good;
    }

private slots:
    void rasterPicturesAreScaledToTheirLongerSide() {
        const auto small = readHere(write("a.png", coded(grey(300, 200), "PNG")));
        QVERIFY(small.has_value());
        QCOMPARE(small->image.size(), QSize(300, 200));
        QVERIFY(!small->scaled);
        const auto wide = readHere(write("b.png", coded(grey(2000, 100), "PNG")));
        QVERIFY(wide.has_value());
        QCOMPARE(wide->image.size(), QSize(500, 25));
        QCOMPARE(wide->fullWidth, 2000);
        QVERIFY(wide->scaled);
        // Told by its content, whatever its name says.
        const auto jpeg = readHere(write("c.png", coded(grey(100, 700), "JPG")));
        QVERIFY(jpeg.has_value());
        QCOMPARE(jpeg->image.height(), 500);
    }

    void theCamerasDayIsRead_data() {
        QTest::addColumn<QByteArray>("when");
        QTest::addColumn<QString>("day");
        QTest::newRow("a day") << QByteArray("2026:11:19 08:30:00") << "2026-11-19";
        QTest::newRow("never set") << QByteArray("0000:00:00 00:00:00") << "";
        QTest::newRow("no day") << QByteArray("yesterday, about noon") << "";
        QTest::newRow("short") << QByteArray("2026") << "";
    }
    void theCamerasDayIsRead() {
        QFETCH(QByteArray, when);
        QFETCH(QString, day);
        const QByteArray plain = coded(grey(80, 60), "JPG");
        const auto read = readHere(write("camera.jpg", dated(plain, when)));
        QVERIFY(read.has_value());
        QCOMPARE(QString::fromStdString(read->takenOn), day);
        QVERIFY(readHere(write("plain.jpg", plain))->takenOn.empty());
        // A block that is cut off is no reason to refuse the picture.
        QByteArray cut = dated(plain, when);
        cut[2 + 4 + 6 + 18] = '\x7f'; // the text is said to stand far away
        QVERIFY(readHere(write("cut.jpg", cut)).has_value());
    }

    void pagesOfAPdfAndDrawings() {
        const QString path = folder_.filePath("two.pdf");
        {
            QPdfWriter writer(path);
            writer.setPageSize(QPageSize(QPageSize::A4));
            QPainter painter(&writer);
            painter.fillRect(QRect(0, 0, 4000, 4000), Qt::black);
            writer.newPage();
            painter.drawLine(0, 0, 100, 100);
        }
        const auto first = readHere(path);
        QVERIFY2(first.has_value(), first ? "" : render(first.error(), {}).c_str());
        QCOMPARE(first->pages, 2);
        QCOMPARE(std::max(first->image.width(), first->image.height()), 500);
        const auto second = readHere(path, 1);
        QVERIFY(second.has_value());
        QVERIFY(first->image != second->image);
        QVERIFY2(refusal(path, 2).find("no page 3; it has 2") != std::string::npos,
                 refusal(path, 2).c_str());
        const QString svg = folder_.filePath("plan.svg");
        {
            QSvgGenerator writer;
            writer.setFileName(svg);
            writer.setViewBox(QRect(0, 0, 400, 100));
            QPainter painter(&writer);
            painter.fillRect(QRect(0, 0, 400, 100), Qt::red);
        }
        const auto drawing = readHere(svg);
        QVERIFY(drawing.has_value());
        QCOMPARE(drawing->image.size(), QSize(500, 125)); // drawn as large as it may be
        QCOMPARE(drawing->image.pixelColor(250, 60), QColor(Qt::red));
    }

    void badOnesAreRefusedWithTheCure() {
        const QByteArray png = coded(grey(300, 200), "PNG");
        QVERIFY(refusal(write("cut.png", png.left(png.size() / 2))).find("damaged") !=
                std::string::npos);
        QVERIFY(refusal(write("text.png", "hello")).find("neither") != std::string::npos);
        QVERIFY(refusal(write("bad.svg", "<svg><rect")).find("damaged") != std::string::npos);
        const std::string pdf = refusal(write("bad.pdf", "%PDF-1.4 nothing"));
        QVERIFY(pdf.find("damaged") != std::string::npos);
        QVERIFY2(pdf.find("password") == std::string::npos, pdf.c_str());
        QVERIFY(refusal(folder_.filePath("none.png")).find("no such file") != std::string::npos);
        // Of 20,000 by 32,000 px its header alone is enough.
        QByteArray huge("\x89PNG\r\n\x1a\n\x00\x00\x00\x0dIHDR\x00\x00\x4e\x20\x00\x00\x7d\x00"
                        "\x08\x02\x00\x00\x00\xf2\x35\x6b\x97\x00\x00\x00\x10IDAT",
                        41);
        QVERIFY(refusal(write("huge.png", huge)).find("20000 × 32000 px") != std::string::npos);
    }

    /// Between the reader's process and ours goes a key with figures, and nothing else is shown.
    void whatTheReaderSaysCrossesByItsKey() {
        for (const auto& wording : pictureWords::all) {
            const Sentence said = sentence(wording, asCount(1), "3.2 \"x\" {0}");
            QCOMPARE(render(pictureWords::fromJson(pictureWords::toJson(said)), {}),
                     render(said, {}));
        }
        QVERIFY(pictureWords::fromJson({{QStringLiteral("key"), QStringLiteral("other")}}).empty());
        QVERIFY(pictureWords::fromJson({}).empty());
    }
    void deepPicturesTooLargeToHoldAreSaidToBe() {
        // 16,000 by 16,000 px of eight bytes each, whatever lies in it.
        QByteArray deep("\x89PNG\r\n\x1a\n\x00\x00\x00\x0dIHDR\x00\x00\x3e\x80\x00\x00\x3e\x80"
                        "\x10\x06\x00\x00\x00\x11\xee\x03\x9d"
                        "\x00\x00\x00\x10IDAT",
                        41);
        const std::string said = refusal(write("deep.png", deep));
        QVERIFY2(said.find("more than can be read") != std::string::npos, said.c_str());
    }

    void picturesAreKeptByContentAndMissedByName() {
        const QString job = folder_.filePath("kept.burin");
        const Attachment one = attach("Wall west.JPG", "bytes of a photograph");
        QVERIFY(kept(job, one));
        QVERIFY(kept(job, one)); // twice is once
        const auto path = picturePath(job, one.hash);
        QVERIFY(path.has_value());
        QCOMPARE(*path,
                 folder_.filePath("kept.pictures/%1.jpg").arg(QString::fromStdString(one.hash)));
        QCOMPARE(QDir(folder_.filePath("kept.pictures")).entryList(QDir::Files).size(), 1);
        const Attachment odd = attach("../../etc/evil.p/ng", "other bytes");
        QVERIFY(kept(job, odd));
        QCOMPARE(QFileInfo(*picturePath(job, odd.hash)).dir(), QFileInfo(*path).dir());
        Job named;
        Photograph photo;
        photo.id = "a";
        photo.hash = one.hash;
        photo.name = one.name;
        named.photographs = {photo, photo};
        named.photographs[1].hash = "0123456789abcdef0123456789abcdef";
        const auto there = picturesOf(job, named);
        QCOMPARE(there.files.size(), 1U); // the one that is gone is named, not made up
        QCOMPARE(there.files[0].bytes, one.bytes);
        QCOMPARE(there.missing.size(), 1U);
        QVERIFY(render(there.missing[0], {}).find("missing") != std::string::npos);
        const auto gone = picturePath(job, named.photographs[1].hash);
        QVERIFY(!gone.has_value());
        QVERIFY(render(gone.error(), {}).find("missing") != std::string::npos);
        write("kept.pictures/" + QFileInfo(*path).fileName(), "not what it was");
        QVERIFY(render(picturePath(job, one.hash).error(), {}).find("not what was brought in") !=
                std::string::npos);
    }

    void whatIsTakenIsKnownAcrossRows() {
        TakenPaper paper;
        QVERIFY(paper.isFree(QRectF(0, 0, 50, 10)));
        paper.take(QRectF(10, -20, 20, 60)); // over several rows, some above the paper
        for (double y = -35; y <= 55; y += 1) {
            const QRectF box(25, y, 30, 5);
            QCOMPARE(paper.isFree(box), !box.intersects(QRectF(10, -20, 20, 60)));
            QVERIFY(paper.isFree(QRectF(31, y, 30, 5)));
        }
    }

    void aPlanIsDrawnWholeOrInTwoParts() {
        Job job;
        Floor floor;
        floor.id = "g";
        floor.widthM = 20;
        floor.depthM = 10;
        job.floors = {floor};
        job.rooms = {Room{"r", "SL", "Sail loft", 0, 0, "g", {{1, 1}, {9, 1}, {9, 9}, {1, 9}}}};
        Place outlet;
        outlet.id = "o";
        outlet.floorId = "g";
        outlet.at = {15, 5};
        job.places = {outlet};
        const auto draw = [&](PlanContent::Part part) {
            PlanContent content;
            content.job = &job;
            content.floorId = "g";
            content.chosenId = "o";
            content.part = part;
            PlanStyle style;
            style.plate = Qt::white;
            style.rule = Qt::lightGray;
            style.ink = Qt::black;
            style.copper = Qt::red;
            style.small = style.bold = QFont();
            QImage out(400, 200, QImage::Format_RGB32);
            out.fill(Qt::blue);
            QPainter painter(&out);
            const PlanScale scale = fitted(job, "g", QRectF(out.rect()));
            drawPlan(painter, content, scale, style, QRectF(out.rect()));
            return std::pair(out, scale);
        };
        const auto [whole, scale] = draw(PlanContent::Part::Whole);
        const QPoint at = (scale.px({15, 5}) - QPointF(5, 0)).toPoint(); // the plate's edge
        const QPoint room = scale.px({5, 9}).toPoint();
        QVERIFY(whole.pixelColor(at).red() > 200 && whole.pixelColor(at).green() < 100);
        const auto [without, scale2] = draw(PlanContent::Part::AllButChosen);
        QVERIFY(without.pixelColor(at).green() > 150);
        QCOMPARE(without.pixelColor(room), whole.pixelColor(room));
        const auto [chosen, scale3] = draw(PlanContent::Part::ChosenAndWay);
        QCOMPARE(chosen.pixelColor(at), whole.pixelColor(at));
        QCOMPARE(chosen.pixelColor(room), QColor(Qt::blue)); // nothing else, not even the paper
        // What is drawn beside the floor is fitted in as well.
        job.places[0].at = {-5, 14};
        const PlanScale wider = fitted(job, "g", QRectF(0, 0, 400, 200));
        QVERIFY(QRectF(0, 0, 400, 200).contains(wider.px({-5, 14})));
        QVERIFY(QRectF(0, 0, 400, 200).contains(wider.px({20, 0})));
        // There and back on the paper.
        const PlanPoint back = scale.at(scale.px({3.25, 7.5}));
        QVERIFY(std::abs(back.xM - 3.25) < 1e-9 && std::abs(back.yM - 7.5) < 1e-9);
    }
};

int main(int argc, char** argv) {
    QGuiApplication app(argc, argv);
    TestPictures test;
    return QTest::qExec(&test, argc, argv);
}

#include "test_pictures.moc"
