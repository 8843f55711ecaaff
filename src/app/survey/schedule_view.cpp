#include "app/survey/schedule_view.h"
#include "app/frame/said.h"
#include "app/look/language.h"
#include "app/look/painters.h"
#include "app/look/theme.h"
#include "core/edit/plan_edit.h"
#include <QHeaderView>

namespace burin {
namespace {

constexpr std::array<const char*, 4> kinds{"data", "coax", "reader", ""};

} // namespace

ScheduleModel::ScheduleModel(Session& session, QObject* parent)
    : QAbstractTableModel(parent), session_(session) {}

void ScheduleModel::rebuild() {
    std::vector<Row> rows;
    if (session_.hasJob()) {
        const Job& job = session_.job();
        std::map<std::string, std::size_t> byRoom;
        std::map<std::string, std::pair<double, double>> range;
        for (const auto& room : job.rooms) {
            byRoom[room.id] = rows.size();
            rows.push_back({room.id, q(room.letters + " " + room.name), {}, {}});
        }
        for (const auto& run : job.runs) {
            const RunKind* kind = session_.catalogue().site.kindOf(run.serviceId);
            std::size_t column = 3;
            for (std::size_t i = 0; i < 3 && kind != nullptr; ++i)
                if (kind->id == kinds[i])
                    column = i;
            ++rows[byRoom.at(run.roomId)].counts[column];
            const double length = run.lengthM();
            auto [it, first] = range.try_emplace(run.roomId, length, length);
            it->second.first = std::min(it->second.first, length);
            it->second.second = std::max(it->second.second, length);
        }
        const bool metric = session_.units() == UnitSystem::Metric;
        for (auto& row : rows)
            if (const auto it = range.find(row.roomId); it != range.end()) {
                const double unit = metric ? 1 : metresPerFoot;
                const QString low = figure(formatFixed(it->second.first / unit, 0));
                const QString high = figure(formatFixed(it->second.second / unit, 0));
                row.lengths = low == high ? low : low + QStringLiteral(" / ") + high;
            }
    }
    const bool same = rows.size() == rows_.size();
    if (!same)
        beginResetModel();
    rows_ = std::move(rows);
    if (!same) {
        endResetModel();
    } else if (!rows_.empty()) {
        emit dataChanged(index(0, 0), index(rowCount() - 1, Columns - 1));
    }
    emit headerDataChanged(Qt::Horizontal, 0, Columns - 1);
}

int ScheduleModel::rowOf(const std::string& roomId) const {
    for (std::size_t i = 0; i < rows_.size(); ++i)
        if (rows_[i].roomId == roomId)
            return static_cast<int>(i);
    return -1;
}

int ScheduleModel::rowCount(const QModelIndex& parent) const {
    return parent.isValid() ? 0 : static_cast<int>(rows_.size());
}

int ScheduleModel::columnCount(const QModelIndex& parent) const {
    return parent.isValid() ? 0 : Columns;
}

QVariant ScheduleModel::headerData(int section, Qt::Orientation orientation, int role) const {
    if (orientation == Qt::Horizontal && role == Qt::TextAlignmentRole && section == RoomName)
        return static_cast<int>(Qt::AlignLeft | Qt::AlignVCenter);
    if (orientation != Qt::Horizontal || role != Qt::DisplayRole)
        return {};
    const QString unit = session_.units() == UnitSystem::Metric ? tr("m") : tr("ft");
    // What the rows are stands over the table; the names have little room as it is.
    return QStringList{{}, tr("data"), tr("coax"), tr("reader"), tr("other"), unit}.value(section);
}

QVariant ScheduleModel::data(const QModelIndex& index, int role) const {
    if (!index.isValid())
        return {};
    const Row& row = rows_[static_cast<std::size_t>(index.row())];
    const int column = index.column();
    if (role == Qt::TextAlignmentRole)
        return static_cast<int>((column == RoomName ? Qt::AlignLeft : Qt::AlignRight) |
                                Qt::AlignVCenter);
    if (role == Qt::ToolTipRole && column >= Data && column <= Other)
        return column == Other ? tr("A number and a service: 2 voice, 1 sdi-2970, 1 feedline, 1 t1")
                               : tr("A number, and a service where it is another than usual: 3 1g");
    if (role == Qt::ToolTipRole && column == RoomName)
        return row.name;
    if (role != Qt::DisplayRole && role != Qt::EditRole)
        return {};
    if (column == RoomName) {
        const Room* room = role == Qt::EditRole ? session_.job().room(row.roomId) : nullptr;
        return room != nullptr ? q(room->name) : row.name;
    }
    if (column == Lengths)
        return row.lengths;
    const int count = row.counts[static_cast<std::size_t>(column - Data)];
    return count == 0 && role == Qt::DisplayRole ? QString() : QString::number(count);
}

Qt::ItemFlags ScheduleModel::flags(const QModelIndex& index) const {
    Qt::ItemFlags out = Qt::ItemIsEnabled | Qt::ItemIsSelectable;
    if (index.column() != Lengths)
        out |= Qt::ItemIsEditable;
    return out;
}

bool ScheduleModel::setData(const QModelIndex& index, const QVariant& value, int role) {
    if (role != Qt::EditRole || !session_.hasJob())
        return false;
    const std::string roomId = rows_[static_cast<std::size_t>(index.row())].roomId;
    const QString text = value.toString().trimmed();
    if (index.column() == RoomName) {
        session_.renameRoom(roomId, text);
        return true;
    }
    const auto say = [&](const Fault& fault) {
        emit session_.message(said(fault, session_), true);
        return false;
    };
    bool number = false;
    const int count = text.section(u' ', 0, 0).toInt(&number);
    const std::string service = text.section(u' ', 1).trimmed().toStdString();
    if (!number)
        return say(
            {alone(asTerm("schedule")),
             0,
             0,
             sentence({"schedule.no-number", "“{0}” is no number of runs"}, text.toStdString()),
             {"cure.type-number-of-runs", "Type a number, and if you like a service: 3 1g"}});
    const auto& site = session_.catalogue().site;
    std::string kindId = kinds[static_cast<std::size_t>(index.column() - Data)];
    if (!service.empty()) {
        const RunKind* kind = site.kindOf(service);
        if (kind == nullptr || (!kindId.empty() && kind->id != kindId))
            return say(
                {alone(asTerm("schedule")),
                 0,
                 0,
                 sentence({"schedule.no-service", "“{0}” is no service of this column"}, service),
                 {"cure.name-service", "Name one by its key, for example 1g, sat-if, voice"}});
        kindId = kind->id;
    }
    if (kindId.empty()) {
        // A bare number under “other” goes for the one kind the room has of it.
        for (const auto& run : session_.pending().runs)
            if (const RunKind* kind = site.kindOf(run.serviceId);
                run.roomId == roomId && kind != nullptr && kind->id != "data" &&
                kind->id != "coax" && kind->id != "reader")
                kindId = kind->id;
        if (kindId.empty())
            return say({alone(asTerm("schedule")),
                        0,
                        0,
                        {"schedule.no-kind", "which kind is not told"},
                        {"cure.type-number-and-service",
                         "Type a number and a service: 2 voice, 1 sdi-2970"}});
    }
    const auto edit =
        scheduled(session_.pending(), session_.catalogue(), roomId, kindId, count, service);
    if (!edit)
        return say(edit.error());
    session_.commit(*edit);
    return true;
}

ScheduleView::ScheduleView(Session& session, QWidget* parent)
    : Panel(tr("What each room gets"), parent), session_(session),
      model_(new ScheduleModel(session, this)), table_(new QTableView(this)) {
    table_->setModel(model_);
    table_->setObjectName(QStringLiteral("schedule"));
    table_->setAccessibleName(tr("What each room gets"));
    table_->verticalHeader()->hide();
    table_->setShowGrid(false);
    table_->setFrameShape(QFrame::NoFrame);
    table_->setSelectionMode(QAbstractItemView::SingleSelection);
    table_->setEditTriggers(QAbstractItemView::AnyKeyPressed | QAbstractItemView::DoubleClicked |
                            QAbstractItemView::EditKeyPressed | QAbstractItemView::SelectedClicked);
    table_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    auto* header = table_->horizontalHeader();
    header->setSectionResizeMode(QHeaderView::Fixed);
    header->setSectionResizeMode(ScheduleModel::RoomName, QHeaderView::Stretch);
    header->setHighlightSections(false);
    header->setDefaultAlignment(Qt::AlignRight | Qt::AlignVCenter);
    header->setMinimumSectionSize(8);
    table_->setWordWrap(false);
    table_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed);
    body()->addWidget(table_);
    // Words are longer in one language than in another.
    const auto headWidth = [this](int column) {
        const auto& theme = Theme::instance();
        return QFontMetrics(theme.small())
                   .horizontalAdvance(
                       model_->headerData(column, Qt::Horizontal, Qt::DisplayRole).toString()) +
               theme.px(5);
    };
    const auto dress = [this, headWidth] {
        const auto& theme = Theme::instance();
        table_->setStyleSheet(
            QStringLiteral("QTableView, QHeaderView::section { font-size: %1px; } "
                           "QHeaderView::section { padding: 2px 2px; border: none; "
                           "background: %2; color: %3; }")
                .arg(theme.px(12))
                .arg(theme.tokens().plate.name(), theme.tokens().ink2.name()));
        table_->verticalHeader()->setMinimumSectionSize(theme.px(20));
        table_->verticalHeader()->setDefaultSectionSize(theme.px(20));
        // Feet have a digit more.
        const std::array<int, 5> widths{29, 32, 41, 36,
                                        session_.units() == UnitSystem::Metric ? 66 : 74};
        for (std::size_t i = 0; i < widths.size(); ++i)
            table_->setColumnWidth(
                static_cast<int>(i) + 1,
                std::max(theme.px(widths[i]), headWidth(static_cast<int>(i) + 1)));
        fitHeight();
    };
    connect(&Theme::instance(), &Theme::changed, this, dress);
    connect(&session, &Session::unitsChanged, this, dress);
    connect(model_, &QAbstractItemModel::modelReset, this, [this] { fitHeight(); });
    dress();
}

int ScheduleView::wantedWidth() const {
    const auto& theme = Theme::instance();
    int out = 0;
    for (int row = 0; row < model_->rowCount(); ++row)
        out = std::max(
            out, QFontMetrics(theme.small())
                     .horizontalAdvance(model_->index(row, 0).data(Qt::DisplayRole).toString()));
    out += theme.px(14);
    for (int column = 1; column < model_->columnCount(); ++column)
        out += table_->columnWidth(column);
    return out + contentsMargins().left() + contentsMargins().right() + theme.px(24);
}

void ScheduleView::refresh() {
    model_->rebuild();
}

void ScheduleView::fitHeight() {
    const int rows = std::clamp(model_->rowCount(), 1, 8);
    const auto& theme = Theme::instance();
    table_->setFixedHeight(theme.px(20) * rows + table_->horizontalHeader()->sizeHint().height() +
                           theme.px(4));
    emit fitted();
}

void ScheduleView::showRoom(const std::string& roomId) {
    if (const int row = model_->rowOf(roomId); row >= 0)
        table_->setCurrentIndex(model_->index(row, ScheduleModel::Data));
}

} // namespace burin
