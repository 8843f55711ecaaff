#pragma once
#include "app/frame/session.h"
#include <QComboBox>
#include <QGridLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
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
        QLineEdit* edit = nullptr;
        Kind kind = Kind::None;
        std::function<std::optional<double>()> get;
        std::function<void(std::optional<double>)> set;
        double least = 0, most = 0;
        bool length = false;           ///< in the units shown
        std::optional<bool> satellite; ///< of satellite alone, or of everything else
    };
    Field& addField(Kind kind, const QString& text, const QString& tip, const char* name, int row,
                    int column, double least, double most);
    void addDistributionFields();
    void addBusFields();
    void keep(const Field& field);
    void refused(QLineEdit* edit, const Fault& fault);
    void fillPlaces();
    void placeChosen();
    void hang(const std::string& distributionId, const std::string& from, bool fromTap);
    void goOn(const std::string& busId, std::size_t after);
    void showPart();
    void keepPart();
    void showProposal();
    void adopt();

    [[nodiscard]] const Distribution* distribution() const;
    [[nodiscard]] const BusChain* bus() const;
    void change(const QString& title, const std::function<void(Distribution&)>& change);
    void change(const QString& title, const std::function<void(BusChain&)>& change);
    template <typename System>
    void commit(const QString& title, const System* before, std::optional<System> after);

    Session& session_;
    QGridLayout* grid_;
    QLabel* headLabel_ = nullptr;
    QLabel* placeLabel_;
    QComboBox* place_;
    QLabel* partLabel_;
    QLineEdit* part_;
    QLabel* proposal_;
    QPushButton* adopt_;
    std::list<Field> fields_;
    Kind kind_ = Kind::None;
    int chosen_ = -1;
};

} // namespace burin
