#include "app/frame/key_page.h"
#include "app/frame/panel.h"
#include "app/look/painters.h"
#include "app/look/theme.h"
#include "files/data_folder.h"
#include <QCoreApplication>
#include <QDialog>
#include <QDir>
#include <QGridLayout>
#include <QHBoxLayout>
#include <functional>

namespace burin {
namespace {

/// A drawing as it is met on the screens.
class Sample : public QWidget {
public:
    using Draw = std::function<void(QPainter&, const QRectF&)>;
    Sample(Draw draw, QWidget* parent) : QWidget(parent), draw_(std::move(draw)) {
        setFixedSize(Theme::instance().px(64), Theme::instance().px(22));
    }

protected:
    void paintEvent(QPaintEvent*) override {
        QPainter p(this);
        p.setRenderHint(QPainter::Antialiasing);
        draw_(p, QRectF(rect()).adjusted(2, 3, -2, -3));
    }

private:
    Draw draw_;
};

struct Meaning {
    Sample::Draw draw;
    QString says;
};

QList<Meaning> meanings() {
    const auto state = [](State s) {
        return [s](QPainter& p, const QRectF& box) { drawState(p, box, s); };
    };
    const auto outlook = [](Outlook o) {
        return [o](QPainter& p, const QRectF& box) { drawOutlook(p, box, o); };
    };
    const auto tokens = []() -> const Tokens& { return Theme::instance().tokens(); };
    return {
        {state(State::Pass), QObject::tr("measured: passes")},
        {state(State::MarginalGood),
         QObject::tr("measured: passes by less than the tester may be off")},
        {state(State::MarginalBad),
         QObject::tr("measured: fails by less than the tester may be off")},
        {state(State::Fail), QObject::tr("measured: fails")},
        {state(State::Untested), QObject::tr("nothing measured that proves it")},
        {outlook(Outlook::Holds), QObject::tr("predicted: holds. No prediction is a pass")},
        {outlook(Outlook::Tight), QObject::tr("predicted: tight")},
        {outlook(Outlook::Fails), QObject::tr("predicted: does not hold")},
        {[](QPainter& p, const QRectF& box) { drawShareBar(p, box, 0.62, 0.7); },
         QObject::tr("copper: loss predicted, as a share of its limit; blue: measured; the line: "
                     "the limit")},
        {[](QPainter& p, const QRectF& box) { drawTape(p, box, 2); },
         QObject::tr("the tape of a room, as it is wound around the ends of its cables")},
        {[tokens](QPainter& p, const QRectF& box) { p.fillRect(box, hatch(tokens().rust)); },
         QObject::tr("where a value must not lie; on the strip: something is wrong along there")},
        {[tokens](QPainter& p, const QRectF& box) { p.fillRect(box, hatch(tokens().ochre)); },
         QObject::tr("on the strip: to be looked at along there")},
        {[tokens](QPainter& p, const QRectF& box) {
             p.setPen(QPen(tokens().rust, 2));
             p.drawEllipse(box.center(), box.height() / 2, box.height() / 2);
         },
         QObject::tr("on the plan: something is wrong there; a click says what")},
        {[tokens](QPainter& p, const QRectF& box) {
             p.setPen(QPen(tokens().ink, 1.5));
             p.setBrush(tokens().plate);
             p.drawRect(
                 QRectF(box.center() - QPointF(9, box.height() / 2), QSizeF(18, box.height())));
             p.drawEllipse(box.center(), 4, 4);
         },
         QObject::tr("on the plan: a photograph was taken there")}};
}

QWidget* picturesWidget(QWidget* parent) {
    auto* out = new Panel(QObject::tr("What the pictures mean"), parent);
    auto* grid = new QGridLayout;
    grid->setColumnStretch(1, 1);
    int row = 0;
    for (const auto& meaning : meanings()) {
        auto* words = burin::words(Voice::Text, out);
        words->setText(meaning.says);
        grid->addWidget(new Sample(meaning.draw, out), row, 0, Qt::AlignTop);
        grid->addWidget(words, row++, 1);
    }
    out->body()->addLayout(grid);
    out->body()->addStretch();
    return out;
}

QWidget* keysWidget(const QString& title, const QList<KeyHelp>& keys, QWidget* parent) {
    auto* out = new Panel(title, parent);
    auto* grid = new QGridLayout;
    grid->setColumnStretch(1, 1);
    grid->setHorizontalSpacing(12);
    int row = 0;
    for (const auto& one : keys) {
        auto* key = words(Voice::Bold, out);
        key->setWordWrap(false);
        key->setText(one.keys);
        auto* does = words(Voice::Text, out);
        does->setText(one.does);
        grid->addWidget(key, row, 0, Qt::AlignTop);
        grid->addWidget(does, row++, 1);
    }
    out->body()->addLayout(grid);
    out->body()->addStretch();
    return out;
}

/// Where the manual lies: beside an installed program, or in the tree it was built from.
QString manualText() {
    const QDir data(QString::fromStdString(dataFolder()));
    const QString there = QDir::cleanPath(data.filePath(QStringLiteral("../doc/burin")));
    return QDir(there).exists()
               ? QObject::tr("The manual: %1").arg(there)
               : QObject::tr("The manual: README.md and docs in the folder it was built from");
}

} // namespace

void showKeyPage(QWidget* parent, const QString& stage, const QList<KeyHelp>& ofStage,
                 const QList<KeyHelp>& ofWindow) {
    auto* page = new QDialog(parent);
    page->setAttribute(Qt::WA_DeleteOnClose);
    page->setObjectName(QStringLiteral("keyPage"));
    page->setWindowTitle(QObject::tr("Pictures and keys"));
    auto* inside = new QWidget(page);
    auto* columns = new QHBoxLayout(inside);
    columns->setContentsMargins(0, 0, 0, 0);
    auto* keys = new QVBoxLayout;
    keys->addWidget(keysWidget(stage, ofStage, inside));
    keys->addWidget(keysWidget(QObject::tr("Everywhere"), ofWindow, inside), 1);
    columns->addWidget(picturesWidget(inside), 1);
    columns->addLayout(keys, 1);
    auto* about = words(Voice::Small, page);
    about->setTextInteractionFlags(Qt::TextSelectableByMouse);
    about->setText(QObject::tr("Burin %1. Free software under the GNU General Public License, "
                               "version 3 or later; it comes without any warranty. %2")
                       .arg(QCoreApplication::applicationVersion(), manualText()));
    auto* close = new QPushButton(QObject::tr("Close"), page);
    QObject::connect(close, &QPushButton::clicked, page, &QDialog::close);
    auto* foot = new QHBoxLayout;
    foot->addWidget(about, 1);
    foot->addWidget(close);
    auto* layout = new QVBoxLayout(page);
    layout->addWidget(scrolled(inside, page), 1);
    layout->addLayout(foot);
    page->resize(Theme::instance().px(960), Theme::instance().px(740));
    page->show();
}

} // namespace burin
