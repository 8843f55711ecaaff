#pragma once
#include <QPaintDevice>
#include <QPaintEngine>
#include <QStringList>
#include <QWidget>

namespace burin {

/// Every piece of text that widgets paint, as it is painted: what a style elided is elided here
/// too.
class PaintedWords : public QPaintDevice {
public:
    /// What the widget and all in it that can be seen paint.
    static QStringList of(QWidget& widget) {
        PaintedWords device(widget.size());
        widget.render(&device);
        return device.engine_.words;
    }

    [[nodiscard]] QPaintEngine* paintEngine() const override { return &engine_; }

protected:
    int metric(PaintDeviceMetric metric) const override {
        switch (metric) {
        case PdmWidth:
            return size_.width();
        case PdmHeight:
            return size_.height();
        case PdmWidthMM:
            return size_.width() / 4;
        case PdmHeightMM:
            return size_.height() / 4;
        case PdmDpiX:
        case PdmDpiY:
        case PdmPhysicalDpiX:
        case PdmPhysicalDpiY:
            return 96;
        case PdmDepth:
            return 32;
        case PdmNumColors:
            return 1 << 24;
        case PdmDevicePixelRatio:
            return 1;
        case PdmDevicePixelRatioScaled:
            return int(devicePixelRatioFScale());
        }
        return 0;
    }

private:
    class Engine : public QPaintEngine {
    public:
        Engine() : QPaintEngine(AllFeatures) {}
        bool begin(QPaintDevice* /*device*/) override { return true; }
        bool end() override { return true; }
        void updateState(const QPaintEngineState& /*state*/) override {}
        void drawPixmap(const QRectF& /*to*/, const QPixmap& /*what*/,
                        const QRectF& /*from*/) override {}
        void drawPath(const QPainterPath& /*path*/) override {}
        void drawPolygon(const QPointF* /*points*/, int /*count*/,
                         PolygonDrawMode /*mode*/) override {}
        void drawTextItem(const QPointF& at, const QTextItem& item) override {
            // A letter that another font has is an item of its own, and goes on where the last
            // ended.
            if (!words.isEmpty() && qAbs(at.y() - next_.y()) < 0.5 &&
                qAbs(at.x() - next_.x()) < 0.5)
                words.last() += item.text();
            else
                words << item.text();
            next_ = {at.x() + item.width(), at.y()};
        }
        [[nodiscard]] Type type() const override { return User; }
        QStringList words;

    private:
        QPointF next_;
    };

    explicit PaintedWords(QSize size) : size_(size) {}
    mutable Engine engine_;
    QSize size_;
};

} // namespace burin
