#pragma once
#include "app/frame/sheet_field.h"
#include "app/look/choice.h"
#include <QLabel>

namespace burin {
class FieldLines;

/// What a run is made of, edited in place: service, cable, length, way, cords, connections. With
/// several runs selected an entry goes to all of them. Enter or leaving a field keeps it.
class RunSheet : public QWidget {
    Q_OBJECT
public:
    explicit RunSheet(Session& session, QWidget* parent = nullptr);
    void focusLength() {
        length_->setFocus();
        length_->selectAll();
    }

private:
    /// Without a label it belongs to the field before it, and is `called` so.
    SheetField* addField(const QString& label, const QString& tip, const char* name, int width,
                         int row, const QString& called = {});
    Choice* addChoice(const QString& label, const char* name, int row);
    [[nodiscard]] QLabel* labelOf(const QWidget* field) const;
    void show();
    [[nodiscard]] const Service* serviceOf() const; ///< of the run shown; nullptr: none
    void showExtras(const Run& run, SheetField::Of of);
    void fillChoices();
    void keepLength();
    void previewLength(const QString& text);
    void keepWay();
    void keepCord(SheetField* field, End end);
    void keepConnector();
    void keepCounts();
    void keepEnds();
    void keepField(SheetField* field, const char* name);
    void keepBand();
    /// The value if all selected runs agree, else "several".
    template <typename Get> QString common(Get get) const;

    Session& session_;
    FieldLines* lines_;
    Choice *service_, *cable_, *connector_, *powerType_;
    QLabel* powerTypeLabel_ = nullptr;
    SheetField *length_, *way_, *nearCord_, *farCord_, *counts_, *ends_, *extra_, *band_, *power_,
        *ratio_;
    std::vector<QWidget*> extras_, bands_;
    const Catalogue* filledFrom_ = nullptr;
    std::vector<std::string> shownFor_;
    bool showing_ = false;
};

} // namespace burin
