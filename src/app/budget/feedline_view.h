#pragma once
#include "app/frame/session.h"
#include "core/finding/feedline_finding.h"
#include <QWidget>

namespace burin {

/// A feedline between radio and aerial: power passing and standing wave along the line, what
/// arrives, the volts on it, and what a better cable is worth. Paints what core/coax/feedline.h
/// computed.
class FeedlineView : public QWidget {
    Q_OBJECT
public:
    explicit FeedlineView(Session& session, QWidget* parent = nullptr);
    [[nodiscard]] QSize sizeHint() const override;
    /// True when the run shown is a feedline whose band and power are known.
    [[nodiscard]] bool answers() const { return question_.has_value(); }
    [[nodiscard]] Working working() const;
    /// What stands beside the curves, a sentence a line.
    [[nodiscard]] QStringList sentences() const;

protected:
    void paintEvent(QPaintEvent* event) override;

private:
    void take();
    Session& session_;
    std::optional<FeedlineQuestion> question_;
    FeedlineFinding finding_;
    std::vector<FeedlinePoint> along_;
    std::vector<FeedlineChange> changes_;
};

} // namespace burin
