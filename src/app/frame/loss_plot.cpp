#include "app/frame/loss_plot.h"
#include "app/look/painters.h"
#include "app/look/theme.h"
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>
#include <qcustomplot.h>

namespace burin {
namespace {

/// No more points than a screen shows: the extremes of each small step of frequency.
void thin(QVector<double>& x, QVector<double>& y, int most) {
    if (x.size() <= most)
        return;
    QVector<double> tx;
    QVector<double> ty;
    const double step = 2.0 * static_cast<double>(x.size()) / most;
    for (double i = 0; i < static_cast<double>(x.size()); i += step) {
        const auto a = static_cast<qsizetype>(i);
        const auto b = std::min(x.size(), static_cast<qsizetype>(i + step));
        const auto [low, high] = std::minmax_element(y.begin() + a, y.begin() + b);
        auto first = low - y.begin();
        auto second = high - y.begin();
        if (first > second)
            std::swap(first, second);
        tx << x[first];
        ty << y[first];
        if (second != first) {
            tx << x[second];
            ty << y[second];
        }
    }
    x = tx;
    y = ty;
}

} // namespace

LossPlot::LossPlot(QWidget* parent) : QWidget(parent), plot_(new QCustomPlot(this)) {
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->addWidget(plot_);
    setMinimumHeight(70);
    setAccessibleName(tr("Plot over frequency"));
    plot_->setAttribute(Qt::WA_TransparentForMouseEvents);
    connect(&Theme::instance(), &Theme::changed, this, [this] { rebuild(); });
}

void LossPlot::setContent(const PlotContent& content) {
    content_ = content;
    QStringList names;
    for (const auto& curve : content.curves)
        names << curve.name;
    setAccessibleDescription(content.title + QStringLiteral(": ") +
                             names.join(QStringLiteral(", ")) + QStringLiteral(". ") +
                             content.markText);
    rebuild();
}

void LossPlot::resizeEvent(QResizeEvent* event) {
    QWidget::resizeEvent(event);
    // The names keep their distance in pixels, not in shares of the plot.
    rebuild();
}

void LossPlot::setAxes(double& lowest, double& highest) {
    const auto& theme = Theme::instance();
    const Tokens& t = theme.tokens();
    double from = 1e12;
    double to = 0;
    lowest = 0;
    highest = 1;
    for (const auto& curve : content_.curves)
        for (qsizetype i = 0; i < curve.x.size(); ++i) {
            if (std::isnan(curve.y[i]) || curve.x[i] <= 0)
                continue;
            from = std::min(from, curve.x[i]);
            to = std::max(to, curve.x[i]);
            lowest = std::min(lowest, curve.y[i]);
            highest = std::max(highest, curve.y[i]);
        }
    if (to <= from) {
        from = 1;
        to = 100;
    }
    highest = std::min(highest * 1.06, 150.0);
    plot_->xAxis->setScaleType(QCPAxis::stLogarithmic);
    const QSharedPointer<QCPAxisTickerText> ticker(new QCPAxisTickerText);
    for (const double f : {1.0, 2.0, 5.0, 10.0, 20.0, 50.0, 100.0, 250.0, 500.0, 1000.0, 2000.0})
        if (f >= from * 0.99 && f <= to * 1.01)
            ticker->addTick(f, QString::number(f));
    plot_->xAxis->setTicker(ticker);
    plot_->xAxis->setRange(from, to);
    plot_->yAxis->setRange(lowest, highest);
    plot_->yAxis->setRangeReversed(content_.lossDown);
    plot_->xAxis->setLabel(tr("MHz"));
    plot_->yAxis->setLabel(content_.unit);
    for (QCPAxis* axis : {plot_->xAxis, plot_->yAxis}) {
        axis->setBasePen(QPen(t.rule, 1));
        axis->setTickPen(QPen(t.rule, 1));
        axis->setSubTickPen(Qt::NoPen);
        axis->grid()->setPen(QPen(t.rule, 1));
        axis->grid()->setZeroLinePen(QPen(t.rule, 1));
        axis->setTickLabelColor(t.ink2);
        axis->setTickLabelFont(theme.small());
        axis->setLabelFont(theme.small());
        axis->setLabelColor(t.ink2);
        axis->setLabelPadding(2);
    }
}

void LossPlot::addCurve(const PlotContent::Curve& curve, double forbiddenEdge) {
    const auto& theme = Theme::instance();
    const Tokens& t = theme.tokens();
    auto* graph = plot_->addGraph();
    QVector<double> x = curve.x;
    QVector<double> y = curve.y;
    thin(x, y, content_.quick ? 150 : 400);
    graph->setData(x, y, true);
    switch (curve.kind) {
    case PlotContent::Kind::Limit: {
        graph->setPen(QPen(t.ink, 1.6));
        // Hatched from the limit to the edge of the plot on the forbidden side.
        auto* edge = plot_->addGraph();
        edge->setPen(Qt::NoPen);
        QVector<double> edgeX;
        QVector<double> edgeY;
        for (qsizetype i = 0; i < x.size(); ++i)
            if (!std::isnan(y[i])) {
                edgeX << x[i];
                edgeY << forbiddenEdge;
            }
        edge->setData(edgeX, edgeY, true);
        graph->setBrush(hatch(t.rule));
        graph->setChannelFillGraph(edge);
        break;
    }
    case PlotContent::Kind::Predicted:
        graph->setPen(QPen(t.copper, 2));
        break;
    case PlotContent::Kind::Measured:
        graph->setPen(QPen(t.blue, 1.3));
        break;
    }
}

void LossPlot::rebuild() {
    const auto& theme = Theme::instance();
    const Tokens& t = theme.tokens();
    plot_->setNotAntialiasedElements(content_.quick ? QCP::aeAll : QCP::aeFills);
    plot_->clearItems();
    plot_->clearGraphs();
    plot_->setBackground(QBrush(t.plate));
    double lowest = 0;
    double highest = 1;
    setAxes(lowest, highest);
    if (!content_.bandX.isEmpty()) {
        auto* low = plot_->addGraph();
        low->setData(content_.bandX, content_.bandLow, true);
        low->setPen(Qt::NoPen);
        auto* high = plot_->addGraph();
        high->setData(content_.bandX, content_.bandHigh, true);
        high->setPen(Qt::NoPen);
        high->setBrush(QBrush(t.copperSoft));
        high->setChannelFillGraph(low);
    }
    for (const auto& curve : content_.curves)
        addCurve(curve, content_.limitIsUpper ? highest : lowest);
    // Names stand in the free corner, in the colour of their line, so that no key is needed.
    double line = 0;
    // What must stay above its limit leaves room under it, as losses drawn downwards do.
    const bool below = content_.lossDown || !content_.limitIsUpper;
    const double lineShare = theme.px(19) / std::max(60.0, plot_->height() - theme.px(52) * 1.0);
    QStringList said;
    for (const auto& curve : content_.curves) {
        if (curve.name.isEmpty() || said.contains(curve.name))
            continue;
        said << curve.name;
        auto* text = new QCPItemText(plot_);
        text->position->setType(QCPItemPosition::ptAxisRectRatio);
        text->position->setCoords(0.03, below ? 0.95 - line : 0.05 + line);
        text->setPositionAlignment(Qt::AlignLeft | (below ? Qt::AlignBottom : Qt::AlignTop));
        text->setText(curve.name);
        text->setFont(theme.small());
        text->setPadding(QMargins(3, 1, 3, 1));
        text->setBrush(QBrush(t.plate));
        text->setColor(curve.kind == PlotContent::Kind::Limit       ? t.ink
                       : curve.kind == PlotContent::Kind::Predicted ? t.copper
                                                                    : t.blue);
        line += lineShare;
    }
    if (content_.markMhz > 0) {
        auto* mark = new QCPItemLine(plot_);
        mark->start->setCoords(content_.markMhz, content_.markFrom);
        mark->end->setCoords(content_.markMhz, content_.markTo);
        mark->setPen(QPen(t.ink, 1.5));
        mark->setHead(QCPLineEnding::esBar);
        mark->setTail(QCPLineEnding::esBar);
        auto* text = new QCPItemText(plot_);
        // Values fall towards high frequencies on every plot: the upper right corner is free.
        text->position->setType(QCPItemPosition::ptAxisRectRatio);
        text->position->setCoords(0.985, 0.03);
        text->setPositionAlignment(Qt::AlignRight | Qt::AlignTop);
        text->setText(content_.markText);
        text->setFont(theme.bold());
        text->setColor(t.ink);
        text->setBrush(QBrush(t.plate));
        text->setPadding(QMargins(6, 1, 6, 1));
    }
    plot_->replot(QCustomPlot::rpQueuedReplot);
}

PlotContent::Curve limitCurve(const JudgeLine& line, const QString& name) {
    constexpr int steps = 200;
    PlotContent::Curve curve{PlotContent::Kind::Limit, QObject::tr("limit, %1").arg(name), {}, {}};
    const double from = std::max(line.limit.fromMhz(), 0.01);
    const double to = line.limit.toMhz();
    for (int i = 0; i <= steps; ++i) {
        const double x =
            i == steps ? to : from * std::pow(to / from, static_cast<double>(i) / steps);
        if (const auto limit = line.limit.at(x)) {
            curve.x << x;
            curve.y << *limit;
        }
    }
    return curve;
}

} // namespace burin
