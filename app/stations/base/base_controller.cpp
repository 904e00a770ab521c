#include "app/stations/base/base_controller.h"

#include <algorithm>

#include "app/core_words.h"
#include "app/lengths.h"
#include "app/region_names.h"
#include "core/kit/write_kit.h"
#include "core/kit_making/edit_kit.h"
#include "core/kit_making/pieces.h"
#include "core/landmark/surface_pick.h"

namespace veld {
namespace {

constexpr float kInside = 0.5f;  // a vertex belongs to a region from this weight on

}  // namespace

BaseController::BaseController(Session& session, QObject* parent) : QObject(parent), s_(session) {
    connect(&s_, &Session::project_changed, this, &BaseController::forget);
    connect(&s_, &Session::changed, this, [this] {
        if (page_ == Page::Reduced) read_reduced();
    });
}

void BaseController::forget() {
    part_.clear(), region_.clear(), joint_.clear(), pose_.clear(), reduced_.clear(), expression_.clear();
    piece_.clear(), told_.clear(), painted_.clear();
    painting_ = stroking_ = shows_tie_ = false;
    trial_.reset(), trial_of_.reset(), reduced_mesh_.reset(), reduced_of_.reset();
    making_ = bringing_ = trying_ = 0;  // what ran for the old project is never heard of again
    brought_.reset(), shown_brought_ = -1;
    emit changed();
}

void BaseController::set_page(Page page) {
    if (page == page_) return;
    page_ = page;
    emit page_changed();
    emit changed();
}

const std::vector<KitAbility>& BaseController::abilities() {
    const std::size_t now = s_.document().serial();
    if (!s_.has_kit()) abilities_.clear(), abilities_of_.reset();
    if (s_.has_kit() && (abilities_of_ != s_.state().kit || abilities_at_ != now)) {
        abilities_of_ = s_.state().kit, abilities_at_ = now;
        abilities_ = check_kit(kit_with_changes(s_.state()));
    }
    return abilities_;
}

bool BaseController::is_changed() const { return kit_is_changed(s_.state()); }

Status BaseController::save() {
    auto kit = std::make_shared<BaseKit>(kit_with_changes(s_.state()));
    if (auto ok = update_base_kit(*kit); !ok) return ok;
    kit->reduced = reduced_in_folder(*kit);
    ProjectState next = s_.state();
    next.kit = std::move(kit), next.kit_edits = {};
    s_.change(tr("Save the kit"), std::move(next));
    return Done{};
}

Status BaseController::save_as(const QString& folder) {
    auto kit = std::make_shared<BaseKit>(kit_with_changes(s_.state()));
    if (auto ok = copy_base_kit(*kit, folder.toStdString()); !ok) return ok;
    kit->folder = folder.toStdString();
    kit->reduced = reduced_in_folder(*kit);
    ProjectState next = s_.state();
    next.kit = std::move(kit), next.kit_edits = {};
    s_.change(tr("Save the kit elsewhere"), std::move(next));
    return Done{};
}

// The kit in the state is the one that the edits make.
bool BaseController::change_kit(const QString& label, ProjectState&& next, const std::string& merge) {
    auto kit = edited_kit(*s_.state().kit, next.kit_edits);
    if (!kit) return s_.report(kit.error()), false;
    next.kit = std::make_shared<BaseKit>(std::move(*kit));
    s_.change(label, std::move(next), merge);
    return true;
}

void BaseController::select_part(const std::string& name) {
    part_ = name;
    piece_.clear();
    emit changed();
}

bool BaseController::select_piece(const Ray& ray) {
    if (!s_.has_kit() || !s_.base_query()) return false;
    const SurfaceHit hit = s_.base_query()->first_hit(ray.origin, ray.direction);
    if (!hit) return false;
    const BaseKit& kit = *s_.state().kit;
    const Index vertex = kit.triangulation.triangles[hit.triangle][0];
    for (Piece& piece : find_pieces(kit.mesh)) {
        if (!std::binary_search(piece.vertices.begin(), piece.vertices.end(), vertex)) continue;
        piece_ = std::move(piece.vertices);
        break;
    }
    for (const KitPart& part : kit.parts) {
        if (std::binary_search(part.vertices.begin(), part.vertices.end(), vertex)) part_ = part.name;
    }
    emit changed();
    return true;
}

void BaseController::tell_piece(const std::string& part) {
    if (piece_.empty()) return;
    told_[piece_.front()] = part;
    emit changed();
}

std::vector<std::pair<std::string, double>> BaseController::landmarks() const {
    std::vector<std::pair<std::string, double>> out;
    if (!s_.has_kit()) return out;
    const std::map<std::string, double> doubts = open_doubts(s_.state());
    const auto doubt = [&](const std::string& name) {
        const auto at = doubts.find(name);
        return at == doubts.end() ? 0 : at->second;
    };
    for (const auto& [name, place] : s_.state().base_points) out.emplace_back(name, doubt(name));
    for (const auto& [name, line] : s_.state().base_curves) out.emplace_back(name, doubt(name));
    std::stable_sort(out.begin(), out.end(), [](const auto& a, const auto& b) { return a.second > b.second; });
    return out;
}

void BaseController::drag(const std::string& name, const Ray& ray) {
    if (!s_.base_query() || !s_.state().base_points.contains(name)) return;
    const SurfaceHit hit = s_.base_query()->first_hit(ray.origin, ray.direction);
    if (!hit) return;
    ProjectState next = s_.state();
    next.base_points[name] = surface_point(next.kit->triangulation, hit);
    s_.change(tr("Move %1 on the base").arg(plain(name)), std::move(next), "drag base " + name);
}

void BaseController::is_right(const std::string& name) {
    if (!s_.has_kit() || !s_.state().kit->doubts.contains(name)) return;
    ProjectState next = s_.state();
    next.kit_edits.looked_at.insert(name);
    change_kit(tr("%1 is right").arg(plain(name)), std::move(next));
}

void BaseController::are_right_within(double mm) {
    if (!s_.has_kit()) return;
    ProjectState next = s_.state();
    for (const auto& [name, off] : open_doubts(next)) {
        if (off <= mm) next.kit_edits.looked_at.insert(name);
    }
    if (next.kit_edits != s_.state().kit_edits)
        change_kit(tr("Landmarks within %1 are right").arg(length_text(mm, 1)), std::move(next));
}

QString BaseController::plain(const std::string& name) const { return core_word(landmark_scheme().plain(name)); }

void BaseController::select_region(const std::string& name) {
    region_ = name;
    painted_.clear();
    emit changed();
}

bool BaseController::can_paint() const {
    if (page_ == Page::Joints) return s_.has_kit() && shows_tie_ && !joint_.empty();
    return s_.has_kit() && s_.state().kit->regions.contains(region_) && !s_.state().kit->part(region_);
}

std::vector<float> BaseController::region_weights() const {
    if (stroking_) return painted_;
    if (!s_.has_kit() || region_.empty()) return {};
    const BaseKit& kit = *s_.state().kit;
    std::vector<float> out(kit.mesh.positions.size(), 0);
    const VertexIndices& inside = region_ == kUnpaired   ? kit.unpaired
                                  : region_ == kNeckRing ? kit.neck_ring
                                                         : kit.region(region_);
    for (const Index v : inside) out[v] = 1;
    return out;
}

void BaseController::set_painting(bool on) {
    painting_ = on;
    emit changed();
}

bool BaseController::paint(const Ray& ray) {
    const bool there = brush_.paint(s_.state().kit, ray, radius_mm, erasing_, mirrored, painted_);
    if (there) emit changed();
    return there;
}

void BaseController::begin_stroke(const Ray& ray, Qt::KeyboardModifiers keys) {
    if (!painting()) return;
    painted_ = page_ == Page::Joints ? tie_shares() : region_weights();
    stroking_ = true;
    erasing_ = keys.testFlag(Qt::ControlModifier);
    paint(ray);
}

void BaseController::move_stroke(const Ray& ray) {
    if (stroking_) paint(ray);
}

void BaseController::end_stroke() {
    if (!std::exchange(stroking_, false) || !can_paint()) return;
    if (page_ == Page::Joints) return tie_to_painted();
    ProjectState next = s_.state();
    VertexIndices inside;
    for (Index v = 0; v < painted_.size(); ++v) {
        if (painted_[v] >= kInside) inside.push_back(v);
    }
    if (inside == next.kit->region(region_)) return void(emit changed());
    next.kit_edits.regions[region_] = std::move(inside);
    const QString name = plain_region(region_);
    change_kit(erasing_ ? tr("Take from the region %1").arg(name) : tr("Add to the region %1").arg(name),
               std::move(next));
}

void BaseController::set_rule(const std::string& part, PartRule rule) {
    const KitPart* now = s_.has_kit() ? s_.state().kit->part(part) : nullptr;
    if (!now || now->rule() == rule) return;
    ProjectState next = s_.state();
    next.kit_edits.rules[part] = part_rule_name(rule);
    if (!change_kit(tr("What %1 goes with").arg(plain_region(part)), std::move(next))) emit changed();
}

void BaseController::select_expression(const std::string& name) {
    expression_ = name;
    emit changed();
}

void BaseController::show_brought(int at) {
    shown_brought_ = at;
    emit changed();
}

const CarriedMorph* BaseController::shown_brought() const {
    if (!brought_ || shown_brought_ < 0 || shown_brought_ >= static_cast<int>(brought_->morphs.size())) return nullptr;
    return &brought_->morphs[static_cast<std::size_t>(shown_brought_)];
}

}  // namespace veld
