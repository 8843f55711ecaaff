#include "app/frame/said.h"
#include "app/look/choice.h"
#include "app/look/flow_layout.h"
#include "app/look/language.h"
#include "app/look/painters.h"
#include "app/look/theme.h"
#include "app/test/test_stage.h"
#include <QHBoxLayout>
#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <cmath>
#include <numbers>

namespace burin {

PairsView::PairsView(const Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    setAccessibleName(tr("Pairs, end to end"));
    connect(&Theme::instance(), &Theme::changed, this, qOverload<>(&QWidget::update));
}

void PairsView::setWires(const WireFinding* wires) {
    wires_ = wires == nullptr ? std::nullopt : std::optional(*wires);
    setVisible(wires_.has_value());
    setAccessibleDescription(!wires           ? QString()
                             : wires->whole() ? tr("whole")
                                              : said(wires->firstFault(), session_));
    updateGeometry();
    update();
}

QSize PairsView::sizeHint() const {
    return {210, Theme::instance().px(4 * 34 + 18)};
}

void PairsView::paintEvent(QPaintEvent*) {
    if (!wires_)
        return;
    const auto& theme = Theme::instance();
    const Tokens& t = theme.tokens();
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const double left = theme.px(44);
    const double right = width() - theme.px(8);
    double y = 0;
    for (const auto& pair : wires_->pairs) {
        const bool good = pair.state == PairState::Whole;
        p.setFont(theme.small());
        p.setPen(t.ink);
        p.drawText(QRectF(0, y, left, theme.px(20)), Qt::AlignVCenter, q(pair.pair));
        const double middle = y + theme.px(10);
        const double end = pair.state == PairState::Open ? right - theme.px(24) : right;
        for (const int side : {1, -1}) {
            // Of an open pair the conductor that is whole goes on to the end.
            const double to = side == 1 && !pair.bothOpen ? right : end;
            QPainterPath path;
            for (double x = left; x <= to; x += 2) {
                const double phase = (x - left) / theme.px(36) * 2 * std::numbers::pi;
                const double h = side * theme.px(5) * std::sin(phase);
                if (x == left)
                    path.moveTo(x, middle + h);
                else
                    path.lineTo(x, middle + h);
            }
            p.setBrush(Qt::NoBrush);
            p.setPen(QPen(good ? (side == 1 ? t.ink : t.ink2) : t.rust, 2));
            p.drawPath(path);
        }
        p.setPen(QPen(t.rust, 2));
        if (pair.state == PairState::Open)
            p.drawLine(QPointF(end + 4, middle - 8), QPointF(end + 4, middle + 8));
        p.setPen(good ? t.ink2 : t.rust);
        p.drawText(QRectF(left, y + theme.px(17), right - left, theme.px(16)), Qt::AlignRight,
                   said(pair.said, session_));
        y += theme.px(34);
    }
    p.setPen(t.ink2);
    if (wires_->shieldWhole)
        p.drawText(QRectF(0, y, right, theme.px(16)), Qt::AlignLeft,
                   *wires_->shieldWhole ? tr("shield whole") : tr("shield open"));
}

MarginBars::MarginBars(QWidget* parent) : QWidget(parent) {
    setFocusPolicy(Qt::StrongFocus);
    setObjectName(QStringLiteral("margins"));
    setAccessibleName(tr("Margin by parameter"));
    connect(&Theme::instance(), &Theme::changed, this, [this] {
        updateGeometry();
        update();
    });
}

void MarginBars::setRows(std::vector<Row> rows, const QString& empty) {
    rows_ = std::move(rows);
    empty_ = empty;
    chosen_ = std::min(chosen_, std::max(0, static_cast<int>(rows_.size()) - 1));
    updateGeometry();
    update();
}

QSize MarginBars::sizeHint() const {
    const int rows = std::max(2, static_cast<int>(rows_.size()));
    return {360, Theme::instance().px(24) * rows + Theme::instance().px(18)};
}

void MarginBars::paintEvent(QPaintEvent*) {
    const auto& theme = Theme::instance();
    const Tokens& t = theme.tokens();
    QPainter p(this);
    p.setFont(theme.small());
    p.setPen(t.ink2);
    if (rows_.empty()) {
        p.drawText(rect(), Qt::AlignTop | Qt::TextWordWrap, empty_);
        return;
    }
    const double row = theme.px(24);
    const double names = theme.px(112);
    const double figures = theme.px(208);
    const double left = names;
    const double right = width() - figures;
    const double zero = left + (right - left) * 0.35;
    // Bars show margin in units of the instrument's accuracy: dB, µs and Ω share one scale.
    const auto x = [&](double margin, double accuracy) {
        const double steps = std::clamp(margin / std::max(accuracy, 1e-9), -3.5, 6.5);
        return zero + steps * (right - left) / 10;
    };
    const double band = (right - left) / 10;
    p.fillRect(QRectF(zero - band, 0, 2 * band, row * static_cast<double>(rows_.size())),
               t.ochreSoft);
    double y = 0;
    for (std::size_t i = 0; i < rows_.size(); ++i) {
        const auto& r = rows_[i].result;
        if (static_cast<int>(i) == chosen_) {
            p.setPen(QPen(hasFocus() ? t.copper : t.rule, 1));
            p.setBrush(Qt::NoBrush);
            p.drawRect(QRectF(0, y + 1, width() - 1, row - 3));
        }
        p.setPen(t.ink);
        p.setFont(theme.small());
        p.drawText(QRectF(4, y, names, row), Qt::AlignVCenter, term(parameterName(r.parameter)));
        if (r.points == 0) {
            p.setPen(t.ink2);
            p.drawText(QRectF(zero, y, width() - zero, row), Qt::AlignVCenter,
                       tr("for information only"));
            y += row;
            continue;
        }
        const double to = x(r.marginWorst, r.accuracy);
        const QRectF bar(std::min(zero, to), y + row * 0.28, std::abs(to - zero), row * 0.44);
        p.fillRect(bar, stateColour(r.state));
        if (rows_[i].before) {
            p.setPen(QPen(t.blue, 2));
            const double was = x(*rows_[i].before, r.accuracy);
            p.drawLine(QPointF(was, y + 3), QPointF(was, y + row - 3));
        }
        const int places = r.unit == "µs" ? 3 : 1;
        p.setFont(theme.figures(12));
        p.setPen(t.ink);
        QString text = figure(formatFixed(std::abs(r.marginWorst), places) + " " + r.unit) +
                       (r.marginWorst < 0 ? tr(" over") : tr(" spare"));
        if (r.parameter != Parameter::LoopResistance)
            text += QStringLiteral(" ") + figure(formatMhz(r.atMhz));
        p.drawText(QRectF(right, y, figures - 6, row), Qt::AlignVCenter | Qt::AlignRight, text);
        y += row;
    }
    p.setPen(QPen(t.ink, 1.5));
    p.drawLine(QPointF(zero, 0), QPointF(zero, y));
    p.setFont(theme.small());
    p.setPen(t.ink2);
    p.drawText(QRectF(0, y, width() - 6, theme.px(17)), Qt::AlignRight | Qt::AlignVCenter,
               tr("shaded: inside the instrument's accuracy; blue: the test before"));
}

void MarginBars::mousePressEvent(QMouseEvent* event) {
    const int row = static_cast<int>(event->position().y()) / Theme::instance().px(24);
    if (row < 0 || row >= static_cast<int>(rows_.size()))
        return;
    chosen_ = row;
    update();
    emit rowChosen(row);
}

void MarginBars::keyPressEvent(QKeyEvent* event) {
    const int step = event->key() == Qt::Key_Up ? -1 : event->key() == Qt::Key_Down ? 1 : 0;
    const int next = chosen_ + step;
    if (step == 0 || next < 0 || next >= static_cast<int>(rows_.size()))
        return QWidget::keyPressEvent(event);
    chosen_ = next;
    update();
    emit rowChosen(next);
}

QLineEdit* TesterEntry::field(const QString& name, const QString& tip, const char* id, int width) {
    auto* label = new QLabel(name, this);
    auto* edit = new QLineEdit(this);
    edit->setObjectName(QLatin1String(id));
    edit->setAccessibleName(name);
    edit->setToolTip(tip);
    edit->setPlaceholderText(tip.section(QLatin1Char('|'), 0, 0));
    const auto size = [edit, width] { edit->setFixedWidth(Theme::instance().px(width)); };
    connect(&Theme::instance(), &Theme::changed, edit, size);
    size();
    // Each with its word, on the next line where there is no room.
    auto* both = new QWidget(this);
    auto* line = new QHBoxLayout(both);
    line->setContentsMargins(0, 0, 0, 0);
    line->setSpacing(6);
    line->addWidget(label);
    line->addWidget(edit);
    layout()->addWidget(both);
    connect(edit, &QLineEdit::returnPressed, this, [this] { keep(); });
    return edit;
}

TesterEntry::TesterEntry(Session& session, QWidget* parent)
    : QWidget(parent), session_(session), link_(new Choice(this)), pair_(new Choice(this)) {
    auto* line = new FlowLayout(8);
    setLayout(line);
    auto* open = new QPushButton(tr("Open a file…"), this);
    open->setToolTip(tr("Touchstone or CSV; or drop it on the run (Ctrl+T)"));
    open->setShortcut(QKeySequence(QStringLiteral("Ctrl+T")));
    line->addWidget(open);
    connect(open, &QPushButton::clicked, this, &TesterEntry::openFiles);
    link_->addItem(tr("channel"), 0);
    link_->addItem(tr("permanent link"), 1);
    link_->setAccessibleName(tr("What was measured"));
    link_->setObjectName(QStringLiteral("linkKind"));
    line->addWidget(link_);
    pair_->addItem(tr("all pairs"), QString());
    for (const char* pair : {"1-2", "3-6", "4-5", "7-8"})
        pair_->addItem(tr("pair %1").arg(QLatin1String(pair)), QLatin1String(pair));
    pair_->setAccessibleName(tr("Which pair a sweep is of"));
    pair_->setObjectName(QStringLiteral("pair"));
    line->addWidget(pair_);
    pins_ = field(tr("or pins"), QStringLiteral("12345678 s"), "pins", 108);
    pins_->setToolTip(tr("Far pin of 1 to 8 in order, - for open, the same letter a to d for pins "
                         "that touch; then s or - for the shield"));
    metres_ = field(tr("length"), figure("61.5 m"), "metres", 68);
    ohms_ = field(tr("loop"), figure("9.2 Ω"), "ohms", 62);
    speed_ = field(tr("port"), QStringLiteral("1000"), "speed", 56);
    speed_->setToolTip(tr("Negotiated speed in Mbit/s"));
    auto* keepButton = new QPushButton(tr("Keep"), this);
    keepButton->setToolTip(tr("Enter in any of the fields does the same"));
    line->addWidget(keepButton);
    connect(keepButton, &QPushButton::clicked, this, [this] { keep(); });
}

void TesterEntry::focusPins() {
    pins_->setFocus();
}
LinkKind TesterEntry::linkKind() const {
    return link_->currentIndex() == 1 ? LinkKind::Permanent : LinkKind::Channel;
}
QString TesterEntry::pair() const {
    return pair_->currentData().toString();
}

void TesterEntry::keep() {
    TesterAnswer answer;
    const auto refused = [&](QLineEdit* field, const Fault& fault) {
        field->setFocus();
        emit session_.message(said(fault, session_), true);
    };
    const auto number = [&](QLineEdit* field, const char* unit) -> Outcome<std::optional<double>> {
        QString text = field->text().trimmed();
        if (text.endsWith(QLatin1String(unit)))
            text.chop(static_cast<int>(QLatin1String(unit).size()));
        if (text.endsWith(QStringLiteral("Ω")))
            text.chop(1);
        if (text.isEmpty())
            return std::optional<double>{};
        auto value = parseNumber(text.toStdString(), field->objectName().toStdString());
        if (!value)
            return refuse(value.error());
        if (*value < 0)
            return refuse(field->objectName().toStdString(),
                          {"typed.value-below", "a value below 0"},
                          {"cure.type-again", "Type it again"});
        return std::optional(*value);
    };
    if (!pins_->text().trimmed().isEmpty()) {
        auto map = parseWireMap(pins_->text().toStdString());
        if (!map)
            return refused(pins_, map.error());
        answer.wireMap = *map;
    }
    if (!metres_->text().trimmed().isEmpty()) {
        const auto length = parseLengthM(metres_->text().toStdString(), session_.units());
        if (!length)
            return refused(metres_, length.error());
        answer.lengthM = *length;
    }
    const auto ohms = number(ohms_, "ohm");
    if (!ohms)
        return refused(ohms_, ohms.error());
    answer.loopOhm = *ohms;
    const auto speed = number(speed_, "Mbit/s");
    if (!speed)
        return refused(speed_, speed.error());
    answer.negotiatedMbit = *speed;
    if (answer == TesterAnswer{}) {
        emit session_.message(tr("Nothing was typed: give at least the pins"), true);
        return;
    }
    session_.typeTester(session_.currentId(), linkKind(), answer);
    for (auto* field : {pins_, metres_, ohms_, speed_})
        field->clear();
    pins_->setFocus();
}

} // namespace burin
