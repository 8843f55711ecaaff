#include "core/pull/box_exact.h"
#include <algorithm>
#include <glpk.h>
#include <map>
#include <memory>
#include <set>

namespace burin {
namespace {

constexpr double tolerance = 1e-9;

/// The cables of one kind and the boxes they may come from, as a whole-number programme: which box
/// each comes from, with as few opened as can be.
class OneCable {
public:
    OneCable(const BoxPlan& plan, const std::vector<WantsBox>& cables,
             const std::vector<BoxAtHand>& atHand, const BoxPlanRules& rules, const std::string& id)
        : cables_(cables) {
        for (std::size_t i = 0; i < cables.size(); ++i)
            if (cables[i].cableId == id && plan.boxOf[i]) {
                mine_.push_back(i);
                wanted_.push_back(cables[i]);
                if (!cables[i].colour.empty())
                    colours_.insert(cables[i].colour);
            }
        std::set<std::size_t> used;
        for (const std::size_t i : mine_)
            used.insert(*plan.boxOf[i]);
        for (std::size_t b = 0; b < atHand.size() + plan.added.size(); ++b) {
            const BoxAtHand& box = b < atHand.size() ? atHand[b] : plan.added[b - atHand.size()];
            const bool isNew = b >= atHand.size();
            if (box.cableId != id || (isNew && !used.contains(b)))
                continue;
            boxes_.push_back({b, isNew ? rules.newBoxM : box.leftM, !box.begun, isNew});
            if (!box.colour.empty() && !isNew)
                colours_.insert(box.colour);
            opened_ += !box.begun && used.contains(b) ? 1 : 0;
        }
        least_ = leastOpened(wanted_, atHand, rules);
    }
    [[nodiscard]] std::size_t opened() const { return opened_; }
    [[nodiscard]] std::size_t least() const { return least_; }
    [[nodiscard]] bool isSmall(const ExactEffort& effort) const {
        return colours_.size() < 2 && mine_.size() * boxes_.size() <= effort.mostBinaries;
    }
    /// Sets `least`, and where fewer will do, `opened` and the box of each cable.
    void solve(int mostNodes, std::vector<std::optional<std::size_t>>& boxOf) {
        const std::unique_ptr<glp_prob, decltype(&glp_delete_prob)> made(glp_create_prob(),
                                                                         &glp_delete_prob);
        problem_ = made.get();
        glp_set_obj_dir(problem_, GLP_MIN);
        addColumns();
        addRows();
        glp_load_matrix(problem_, static_cast<int>(values_.size()) - 1, rows_.data(),
                        columns_.data(), values_.data());
        struct Count {
            int left;
            bool stopped;
        } count{mostNodes, false};
        glp_iocp how;
        glp_init_iocp(&how);
        how.msg_lev = GLP_MSG_OFF;
        how.presolve = GLP_ON;
        how.cb_info = &count;
        how.cb_func = [](glp_tree* tree, void* info) {
            auto* counted = static_cast<Count*>(info);
            if (glp_ios_reason(tree) == GLP_ISELECT && counted->left-- <= 0) {
                counted->stopped = true;
                glp_ios_terminate(tree);
            }
        };
        const int ended = glp_intopt(problem_, &how);
        if (ended == GLP_ENOPFS || (ended == 0 && glp_mip_status(problem_) == GLP_NOFEAS)) {
            least_ = opened_; // one fewer was asked for
            return;
        }
        const int status = glp_mip_status(problem_);
        if (status != GLP_OPT && status != GLP_FEAS)
            return;
        std::set<std::size_t> now;
        for (std::size_t i = 0; i < mine_.size(); ++i)
            for (std::size_t b = 0; b < boxes_.size(); ++b)
                if (glp_mip_col_val(problem_, takes(i, b)) > 0.5) {
                    boxOf[mine_[i]] = boxes_[b].at;
                    if (boxes_[b].fresh)
                        now.insert(b);
                }
        opened_ = now.size();
        if (status == GLP_OPT && !count.stopped)
            least_ = std::max(least_, opened_);
    }

private:
    struct Open {
        std::size_t at = 0; ///< of the plan
        double leftM = 0;
        bool fresh = false, isNew = false;
    };
    [[nodiscard]] int takes(std::size_t cable, std::size_t box) const {
        return static_cast<int>(cable * boxes_.size() + box) + 1;
    }
    [[nodiscard]] int opens(std::size_t box) const {
        return static_cast<int>(mine_.size() * boxes_.size() + box) + 1;
    }
    void addColumns() {
        glp_add_cols(problem_, static_cast<int>((mine_.size() + 1) * boxes_.size()));
        for (std::size_t b = 0; b < boxes_.size(); ++b) {
            glp_set_col_kind(problem_, opens(b), GLP_BV);
            glp_set_obj_coef(problem_, opens(b), boxes_[b].fresh ? 1 : 0);
            for (std::size_t i = 0; i < mine_.size(); ++i) {
                glp_set_col_kind(problem_, takes(i, b), GLP_BV);
                const auto& fixed = cables_[mine_[i]].fixed;
                if (fixed)
                    glp_set_col_bnds(problem_, takes(i, b), GLP_FX, *fixed == boxes_[b].at ? 1 : 0,
                                     0);
            }
        }
    }
    void row(int bounds, double low, double high, const std::vector<std::pair<int, double>>& of) {
        const int at = glp_add_rows(problem_, 1);
        glp_set_row_bnds(problem_, at, bounds, low, high);
        for (const auto& [column, value] : of) {
            rows_.push_back(at);
            columns_.push_back(column);
            values_.push_back(value);
        }
    }
    void addRows() {
        std::map<std::size_t, std::vector<std::size_t>> groups;
        for (std::size_t i = 0; i < mine_.size(); ++i) {
            std::vector<std::pair<int, double>> one;
            for (std::size_t b = 0; b < boxes_.size(); ++b)
                one.emplace_back(takes(i, b), 1);
            row(GLP_FX, 1, 1, one);
            groups[cables_[mine_[i]].group].push_back(i);
        }
        std::vector<std::pair<int, double>> fewer;
        std::size_t before = boxes_.size();
        for (std::size_t b = 0; b < boxes_.size(); ++b) {
            std::vector<std::pair<int, double>> length{{opens(b), -boxes_[b].leftM - tolerance}};
            for (std::size_t i = 0; i < mine_.size(); ++i)
                length.emplace_back(takes(i, b), cables_[mine_[i]].lengthM);
            row(GLP_UP, 0, 0, length);
            for (const auto& [group, members] : groups) {
                std::vector<std::pair<int, double>> apart{{opens(b), -1}};
                for (const std::size_t i : members)
                    apart.emplace_back(takes(i, b), 1);
                row(GLP_UP, 0, 0, apart);
            }
            if (boxes_[b].fresh)
                fewer.emplace_back(opens(b), 1);
            // New boxes are alike: they are opened from the first on.
            if (boxes_[b].isNew && before < boxes_.size())
                row(GLP_UP, 0, 0, {{opens(b), 1}, {opens(before), -1}});
            if (boxes_[b].isNew)
                before = b;
        }
        row(GLP_UP, 0, static_cast<double>(opened_) - 1, fewer);
    }

    const std::vector<WantsBox>& cables_;
    std::vector<std::size_t> mine_;
    std::vector<WantsBox> wanted_;
    std::set<std::string> colours_;
    std::vector<Open> boxes_;
    std::size_t opened_ = 0, least_ = 0;
    glp_prob* problem_ = nullptr;
    std::vector<int> rows_{0}, columns_{0}; ///< the library counts from 1
    std::vector<double> values_{0};
};

} // namespace

BoxPlan fewestBoxes(BoxPlan plan, const std::vector<WantsBox>& cables,
                    const std::vector<BoxAtHand>& atHand, const BoxPlanRules& rules,
                    const ExactEffort& effort) {
    if (plan.provenLeast())
        return plan;
    std::set<std::string> kinds;
    for (const auto& cable : cables)
        kinds.insert(cable.cableId);
    auto boxOf = plan.boxOf;
    std::size_t least = 0;
    for (const auto& id : kinds) {
        OneCable kind(plan, cables, atHand, rules, id);
        if (kind.opened() > kind.least() && kind.isSmall(effort))
            kind.solve(effort.mostNodes, boxOf);
        least += kind.least();
    }
    glp_free_env(); // it keeps memory for each thread that ever asked
    plan.lowerBound = std::max(plan.lowerBound, least);
    if (boxOf == plan.boxOf)
        return plan;
    return replanned(plan, std::move(boxOf), cables, atHand, rules);
}

} // namespace burin
