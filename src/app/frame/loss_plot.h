#pragma once
#include "core/measure/judge.h"
#include <QString>
#include <QVector>
#include <QWidget>

class QCustomPlot;

namespace burin {

/// What a plot shows: plain numbers, already computed.
struct PlotContent {
    enum class Kind { Limit, Predicted, Measured };
    struct Curve {
        Kind kind = Kind::Predicted;
        QString name;
        QVector<double> x, y;
    };
    QString unit = QStringLiteral("dB"), title;
    bool lossDown = true;     ///< losses: 0 at the top, forbidden below the limit
    bool limitIsUpper = true; ///< values must stay below the limit
    QVector<Curve> curves;
    QVector<double> bandX, bandLow, bandHigh;     ///< the prediction's band
    double markMhz = 0, markFrom = 0, markTo = 0; ///< the margin that counts; 0: none
    QString markText;
    bool quick = false; ///< while a length is tried out: drawn coarser, to keep up
};

/// A limit as a curve.
PlotContent::Curve limitCurve(const JudgeLine& line, const QString& name);

/// Values over frequency: limit, prediction with its band, measurement.
class LossPlot : public QWidget {
    Q_OBJECT
public:
    explicit LossPlot(QWidget* parent = nullptr);
    void setContent(const PlotContent& content);
    [[nodiscard]] const PlotContent& content() const { return content_; }

protected:
    void resizeEvent(QResizeEvent* event) override;

private:
    void rebuild();
    void addCurve(const PlotContent::Curve& curve, double bottom);
    void setAxes(double& lowest, double& highest);
    QCustomPlot* plot_;
    PlotContent content_;
};

} // namespace burin
