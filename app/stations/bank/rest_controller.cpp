#include "app/stations/bank/rest_controller.h"

#include <algorithm>

#include "app/scene/joint_marks.h"
#include "core/base/cache.h"
#include "core/rig/joint_range.h"
#include "core/rig/rest_poses.h"
#include "core/spatial/surface_query.h"

namespace veld {
namespace {

std::uint64_t hash_of(const std::optional<Points>& shape) {
    CacheKey hash;
    if (shape) hash.mix(shape->data(), shape->size() * sizeof(Vec3));
    return hash.value();
}

}  // namespace

RestController::RestController(Session& session, BankController& bank, QObject* parent)
    : QObject(parent), s_(session), bank_(bank) {
    connect(&s_, &Session::project_changed, this, [this] { kit_.reset(), refresh(); });
    connect(&s_, &Session::changed, this, &RestController::refresh);
    connect(&bank_, &BankController::page_changed, this, &RestController::refresh);
}

// What is shown is made again when it is next asked for; another kit has another skeleton.
void RestController::refresh() {
    if (kit_ != s_.state().kit) {
        kit_ = s_.state().kit;
        stock_.clear();
        joint_ = -1;
        if (kit_) stock_ = stock_poses(kit_->joints);
    }
    take_work();
    as_it_stands_.reset(), rest_.reset();
    for (auto& shape : shapes_) shape.reset();
    emit changed();
}

// A pose that was found in another shape is not this one's.
void RestController::take_work() {
    found_.reset();
    pose_ = kit_ ? rest_pose(kit_->joints) : Pose();
    const auto& work = s_.state().rest_work;
    if (!work || !kit_ || work->pose.turns.size() != kit_->joints.size()) return;
    if (work->found && work->shape != hash_of(bank_.shape_of(from_))) return;
    pose_ = work->pose;
    if (work->found) found_ = work;
}

void RestController::put(const QString& label, RestWork work, const std::string& merge) {
    ProjectState next = s_.state();
    next.rest_work = std::make_shared<const RestWork>(std::move(work));
    s_.change(label, std::move(next), merge);
}

RestWork RestController::now() const {
    RestWork out = found_ ? *found_ : RestWork();
    out.pose = pose_;
    return out;
}

void RestController::set_from(From from) {
    if (from == from_) return;
    from_ = from;
    refresh();
}

bool RestController::can_pose() const { return kit_ && !kit_->joints.empty() && bank_.shape_of(from_).has_value(); }

void RestController::find() {
    const auto shape = bank_.shape_of(from_);
    if (!shape || !kit_) return;
    s_.jobs().start<FoundPose>(
        {JobKind::Check, tr("Finding the pose"), {}, true},
        [kit = kit_, shape = *shape](const Progress&) { return find_pose(*kit, shape); },
        [this, kit = kit_, shape](Result<FoundPose>&& found) {
            if (kit != kit_ || bank_.shape_of(from_) != shape) return;
            if (!found) return s_.report(found.error());
            joint_ = found->turned.empty() ? -1 : static_cast<int>(found->turned.front());
            put(tr("Find the pose"),
                {std::move(found->pose), true, hash_of(shape), std::move(found->turned), found->left_mm});
        });
}

void RestController::clear() {
    if (!kit_ || !s_.state().rest_work) return;
    ProjectState next = s_.state();
    next.rest_work = nullptr;
    s_.change(tr("No pose to take out"), std::move(next));
}

void RestController::set_arms(const std::string& name) {
    if (!kit_) return;
    const auto poses = arm_poses(kit_->joints);
    const auto pose = poses.find(name);
    if (pose == poses.end()) return;
    RestWork work = now();
    for (std::size_t j = 0; j < kit_->joints.size(); ++j) {
        const std::string& joint = kit_->joints[j].name;
        if (joint.starts_with("upper_arm") || joint.starts_with("forearm")) work.pose.turns[j] = pose->second.turns[j];
    }
    put(tr("Arms from %1").arg(QString::fromStdString(name)), std::move(work));
}

bool RestController::any_turn() const {
    return !pose_.move.isZero() || std::any_of(pose_.turns.begin(), pose_.turns.end(),
                                               [](const Mat3& turn) { return !turn.isIdentity(1e-9); });
}

void RestController::select(int joint) {
    if (joint == joint_) return;
    joint_ = joint;
    emit changed();
}

void RestController::select_under(const Ray& ray) {
    if (!can_pose()) return;
    const SurfaceQuery query(shape(0), kit_->triangulation.triangles);
    const SurfaceHit hit = query.first_front_hit(ray.origin, ray.direction);
    if (!hit) return;
    const Index v = kit_->triangulation.triangles[hit.triangle][0];
    std::size_t most = 0;
    for (std::size_t k = 1; k < 4; ++k)
        if (kit_->weights.weight[v][k] > kit_->weights.weight[v][most]) most = k;
    select(static_cast<int>(kit_->weights.joint[v][most]));
}

Vec3 RestController::degrees(int joint) const {
    if (joint < 0 || joint >= static_cast<int>(pose_.turns.size())) return Vec3::Zero();
    return degrees_of_turn(pose_.turns[static_cast<std::size_t>(joint)]);
}

void RestController::turn(int joint, const Vec3& degrees) {
    if (!kit_ || joint < 0 || joint >= static_cast<int>(pose_.turns.size())) return;
    RestWork work = now();
    work.pose.turns[static_cast<std::size_t>(joint)] = turn_by_degrees(degrees);
    if (const int other = alike_ ? other_side(kit_->joints, joint) : -1; other >= 0)
        work.pose.turns[static_cast<std::size_t>(other)] = turn_by_degrees({degrees.x(), -degrees.y(), -degrees.z()});
    const std::string& name = kit_->joints[static_cast<std::size_t>(joint)].name;
    put(tr("Turn %1").arg(joint_text(name)), std::move(work), "rest turn " + name);
}

void RestController::set_view(std::size_t which, int pose) {
    views_[which] = pose;
    shapes_[which].reset();
    emit changed();
}

const Points& RestController::rest() {
    if (!as_it_stands_) as_it_stands_ = bank_.shape_of(from_).value_or(kit_->mesh.positions);
    if (!rest_) {
        Pose pose = pose_;
        if (!found_) pose.move = place_of_pose(*kit_, *as_it_stands_, pose);  // turned by hand alone
        auto without = any_turn() ? without_pose(*kit_, *as_it_stands_, pose) : Result<Points>(*as_it_stands_);
        rest_ = without ? std::move(*without) : *as_it_stands_;
    }
    return *rest_;
}

const Points& RestController::shape(std::size_t view) {
    if (shapes_[view]) return *shapes_[view];
    const Points& at_rest = rest();
    const int pose = views_[view];
    shapes_[view] = pose == -2 ? *as_it_stands_ : at_rest;
    if (pose >= 0 && pose < static_cast<int>(stock_.size())) {
        auto posed = in_pose(*kit_, at_rest, stock_[static_cast<std::size_t>(pose)].pose);
        if (posed) shapes_[view] = std::move(*posed);
    }
    return *shapes_[view];
}

void RestController::use_as_rest(const QString& name) {
    if (!can_pose()) return;
    auto morph = make_morph(*kit_, rest(), name.toStdString());
    if (!morph) return s_.report(morph.error());
    morph->origin = "Its pose taken out";
    if (from_ == From::Fit && s_.state().fit())
        morph->origin = "From " + s_.state().fit()->name + ", its pose taken out";
    // the mix that it was made from is in it: it stands alone
    ProjectState next = s_.state();
    if (from_ == From::Mix) {
        for (BankEntry& e : next.bank) e.amount = 0, e.muted = e.solo = false;
        next.region_mix.clear();
        next.between.reset();
    }
    add_morph(next, std::move(*morph), 1);
    next.rest_work = nullptr;
    s_.change(tr("Use as rest pose: %1").arg(name), std::move(next));
}

}  // namespace veld
