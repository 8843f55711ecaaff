#pragma once
#include "app/frame/sheet_field.h"
#include "app/look/choice.h"
#include "app/look/field_lines.h"
#include "core/edit/typed_field.h"
#include <list>

namespace burin {

/// Where a run stands in its distribution or on its bus, and the figures of that place: what it
/// hangs on, the part ahead of it, the head; or the device before it, the device's own figures, the
/// supply. Every entry is an edit.
class SystemSheet : public QWidget {
    Q_OBJECT
public:
    explicit SystemSheet(Session& session, QWidget* parent = nullptr);

    enum class Kind { None, Distribution, Bus };
    /// What the run shown may be part of, by its service.
    [[nodiscard]] Kind kind() const { return kind_; }
    /// Index of the part chosen in the picture, −1 for none.
    void setPart(int part);
    void refresh();

private:
    struct Field {
        QLabel* label = nullptr;
        SheetField* edit = nullptr;
        burin::Kind of = burin::Kind::Bus;
        const char* name = ""; ///< of the field of that kind
        TypedAs as;
        std::optional<bool> satellite; ///< of satellite alone, or of everything else
    };
    Field& addField(burin::Kind of, const char* name, const QString& text, const QString& tip,
                    const char* objectName, int row, double scale = 1);
    void addDistributionFields();
    void addBusFields();
    [[nodiscard]] std::string idFor(const Field& field) const;
    [[nodiscard]] static Kind isOf(const Field& field) {
        return field.of == burin::Kind::Distribution ? Kind::Distribution : Kind::Bus;
    }
    void keep(const Field& field, const QString& text);
    void fillPlaces();
    void placeChosen();
    void hang(const std::string& distributionId, const std::string& from, bool fromTap);
    void goOn(const std::string& busId, std::size_t after);
    void showPart();
    void keepPart();
    void showProposal();

    [[nodiscard]] const Distribution* distribution() const;
    [[nodiscard]] const BusChain* bus() const;
    template <typename System>
    void commit(const QString& title, const System* before, std::optional<System> after);

    Session& session_;
    FieldLines* lines_;
    QLabel* headLabel_ = nullptr;
    QLabel* placeLabel_;
    Choice* place_;
    QLabel* partLabel_;
    SheetField* part_;
    QLabel* proposal_;
    std::list<Field> fields_;
    Kind kind_ = Kind::None;
    int chosen_ = -1;
    std::string shownFor_; ///< the run it shows
};

} // namespace burin
