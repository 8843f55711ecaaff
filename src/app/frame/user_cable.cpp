#include "app/frame/user_cable.h"
#include "app/frame/panel.h"
#include "app/look/language.h"
#include "app/look/painters.h"
#include "app/look/theme.h"
#include "files/spoken.h"
#include <QFormLayout>
#include <sstream>

namespace burin {

UserCableWindow::UserCableWindow(Session& session, QWidget* parent)
    : QDialog(parent), session_(session), name_(new QLineEdit(this)),
      ohm_(new QLineEdit(QStringLiteral("75"), this)), nvp_(new QLineEdit(figure("0.83"), this)),
      loop_(new QLineEdit(QStringLiteral("22"), this)), like_(new QComboBox(this)),
      points_(new QPlainTextEdit(this)), fit_(words(Voice::Text, this)),
      keep_(new QPushButton(tr("Keep in this job"), this)) {
    setAttribute(Qt::WA_DeleteOnClose);
    setWindowTitle(tr("Cable from its datasheet"));
    auto* form = new QFormLayout(this);
    like_->addItem(tr("coax"));
    for (const char* key : {"5e", "6", "6A", "7", "7A", "8"})
        like_->addItem(tr("twisted pair, Cat %1").arg(QLatin1String(key)), QLatin1String(key));
    points_->setPlaceholderText(tr("100  6.5\n500  14.9\n1000  21.4"));
    points_->setAccessibleName(tr("Datasheet points"));
    form->addRow(tr("Name"), name_);
    form->addRow(tr("Kind"), like_);
    form->addRow(tr("Impedance, Ω"), ohm_);
    form->addRow(tr("Velocity, of c"), nvp_);
    form->addRow(tr("Conductor, Ω per km"), loop_);
    form->addRow(tr("MHz and dB per 100 m, a line each"), points_);
    form->addRow(fit_);
    form->addRow(keep_);
    connect(points_, &QPlainTextEdit::textChanged, this, [this] { refresh(); });
    connect(keep_, &QPushButton::clicked, this, [this] { keep(); });
    refresh();
}

Outcome<std::vector<DatasheetPoint>> UserCableWindow::points() const {
    std::vector<DatasheetPoint> out;
    std::stringstream text(points_->toPlainText().toStdString());
    int number = 0;
    for (std::string line; std::getline(text, line);) {
        ++number;
        std::stringstream words(line);
        std::string f;
        std::string db;
        std::string more;
        if (!(words >> f))
            continue;
        words >> db >> more;
        const auto a = parseNumber(f, "MHz");
        const auto b = parseNumber(db, "dB per 100 m");
        if (!a || !b || !more.empty())
            return refuse(
                Fault{alone(asTerm("datasheet points")),
                      number,
                      1,
                      sentence({"datasheet.no-pair-numbers", "“{0}” is no pair of numbers"}, line),
                      {"cure.type-mhz-db", "Type MHz and dB per 100 m"}});
        out.push_back({*a, *b});
    }
    return out;
}

void UserCableWindow::refresh() {
    const auto list = points();
    keep_->setEnabled(false);
    if (!list) {
        fit_->setText(said(list.error()));
        return;
    }
    const auto fit = fitAttenuation(*list);
    if (!fit) {
        fit_->setText(said(whatToDo(fit.error())));
        return;
    }
    fit_->setText(tr("α = %1 + %2·√f + %3·f dB per 100 m; farthest point off by %4 %")
                      .arg(fit->k0Db, 0, 'g', 4)
                      .arg(fit->k1Db, 0, 'g', 4)
                      .arg(fit->k2Db, 0, 'g', 3)
                      .arg(fit->worstRelativeError * 100, 0, 'f', 1));
    keep_->setEnabled(true);
}

void UserCableWindow::keep() {
    const auto list = points();
    const auto fit = list ? fitAttenuation(*list) : Outcome<AttenuationFit>(refuse(list.error()));
    const auto ohm = parseNumber(ohm_->text().toStdString(), "impedance");
    const auto nvp = parseNumber(nvp_->text().toStdString(), "velocity");
    const auto loop = parseNumber(loop_->text().toStdString(), "conductor");
    if (!fit || !ohm || !nvp || !loop || name_->text().trimmed().isEmpty()) {
        fit_->setText(tr("Give a name, and numbers in every field."));
        return;
    }
    Cable cable;
    const std::string source = "The user's datasheet points, fitted";
    cable.id = "user-" + newId();
    cable.name = name_->text().trimmed().toStdString();
    const QString category = like_->currentData().toString();
    cable.kind = category.isEmpty() ? CableKind::Coax : CableKind::Balanced;
    if (!category.isEmpty())
        cable.category = *categoryFromKey(category.toStdString());
    // A pair has no constant term in its formula: what the fit put there goes to k3 as nothing.
    if (cable.kind == CableKind::Balanced && fit->k0Db > 0) {
        fit_->setText(tr("The fit wants a constant part (%1 dB), which the formula of a pair does "
                         "not have: add points at low frequency.")
                          .arg(fit->k0Db, 0, 'f', 2));
        return;
    }
    cable.attenuation = {
        {fit->k0Db, source}, {fit->k1Db, source}, {fit->k2Db, source}, {0, source}};
    double top = 0;
    for (const auto& p : *list)
        top = std::max(top, p.frequencyMhz);
    cable.topMhz = {top, "The highest datasheet point"};
    cable.impedanceOhm = {*ohm, source};
    cable.nvp = {*nvp, source};
    cable.conductorOhmPerKm = {*loop, source};
    const UserCable user{cable.id, writeCable(cable)};
    if (auto good = readCable(user.json, cable.name); !good) {
        fit_->setText(said(good.error()));
        return;
    }
    session_.commit(
        {"cable " + cable.name, {put(std::optional<UserCable>{}, std::optional(user))}});
    close();
}

} // namespace burin
