#include "app/stations/bank/moves_controller.h"

#include <algorithm>

#include "app/scene/joint_marks.h"
#include "core/kit/base_kit.h"
#include "core/landmark/landmarks.h"
#include "core/morph/joint_moves.h"
#include "core/project/bank.h"

namespace veld {
namespace {

constexpr double kLeastAmount = 0.05;  // of a slider, for a drag to be seen

std::size_t number_of(const BaseKit& kit, const std::string& joint) {
    const auto at =
        std::find_if(kit.joints.begin(), kit.joints.end(), [&](const Joint& j) { return j.name == joint; });
    return static_cast<std::size_t>(at - kit.joints.begin());
}

}  // namespace

MovesController::MovesController(Session& session, QObject* parent) : QObject(parent), s_(session) {
    connect(&s_, &Session::project_changed, this, [this] { chosen_.reset(), selected_.clear(); });
    connect(&s_, &Session::changed, this, [this] {
        mixed_.reset();
        emit changed();
    });
}

bool MovesController::has_joints() const { return s_.has_kit() && !s_.state().kit->joints.empty(); }

const BankEntry* MovesController::entry() const {
    const std::vector<BankEntry>& bank = s_.state().bank;
    for (const BankEntry& e : bank)
        if (chosen_ && e.id == *chosen_) return &e;
    const auto on = std::find_if(bank.begin(), bank.end(), [](const BankEntry& e) { return e.amount != 0; });
    return on != bank.end() ? &*on : bank.empty() ? nullptr : &bank.front();
}

void MovesController::choose(MorphId morph) {
    chosen_ = morph;
    emit changed();
}

double MovesController::in_mix() const {
    const BankEntry* of = entry();
    for (const MorphAmount& a : s_.state().amounts())
        if (of && a.morph == of->morph.get()) return a.amount;
    return 0;
}

Vec3 MovesController::move(const std::string& joint) const {
    const BankEntry* of = entry();
    if (!of || !has_joints()) return Vec3::Zero();
    if (moves_of_ != of->morph) moves_of_ = of->morph, moves_ = joint_moves(*s_.state().kit, *of->morph);
    const std::size_t j = number_of(*s_.state().kit, joint);
    return j < moves_.size() ? moves_[j] : Vec3(Vec3::Zero());
}

bool MovesController::fixed(const std::string& joint) const {
    return entry() && entry()->morph->joints.contains(joint);
}
bool MovesController::any_fixed() const { return entry() && !entry()->morph->joints.empty(); }

void MovesController::select(const std::string& joint) {
    if (joint == selected_) return;
    selected_ = joint;
    emit changed();
}

void MovesController::edit(const QString& label, const std::function<void(Morph&)>& change, const std::string& merge) {
    const BankEntry* of = entry();
    if (!of || !has_joints()) return;
    ProjectState next = s_.state();
    for (BankEntry& e : next.bank) {
        if (e.id != of->id) continue;
        auto morph = std::make_shared<Morph>(*e.morph);
        change(*morph);
        e.morph = morph;
    }
    chosen_ = of->id;
    s_.change(label.arg(QString::fromStdString(of->morph->name)), std::move(next), merge);
}

void MovesController::set_move(const std::string& joint, const Vec3& mm, bool dragging) {
    const std::string other = alike_ ? other_side(joint) : std::string();
    const bool both = !other.empty() && number_of(*s_.state().kit, other) < s_.state().kit->joints.size();
    edit(
        tr("Move the joint %1 of %2").arg(joint_text(joint)),
        [&](Morph& morph) {
            morph.joints[joint] = mm;
            if (both) morph.joints[other] = Vec3(-mm.x(), mm.y(), mm.z());
        },
        dragging ? "drag joint of morph " + joint : std::string());
}

void MovesController::fix_all() {
    edit(tr("Fix the joints of %1"), [this](Morph& morph) { fix_joints(*s_.state().kit, morph); });
}

void MovesController::release(const std::string& joint) {
    const std::string other = alike_ ? other_side(joint) : std::string();
    edit(tr("Release the joint %1 of %2").arg(joint_text(joint)), [&](Morph& morph) {
        morph.joints.erase(joint);
        morph.joints.erase(other);
    });
}

void MovesController::release_all() {
    edit(tr("Release the joints of %1"), [](Morph& morph) { morph.joints.clear(); });
}

const std::vector<Joint>& MovesController::mixed() const {
    const ProjectState& state = s_.state();
    if (!mixed_) mixed_ = joints_with_fixed(*state.kit, mixed_shape(state), state.amounts());
    return *mixed_;
}

void MovesController::add_marks(ViewId view, const Camera& camera, Marks& out) const {
    if (!has_joints() || (view != ViewId::Base && view != ViewId::Result)) return;
    const std::vector<Joint>& joints = view == ViewId::Base ? s_.state().kit->joints : mixed();
    const auto place = [&](std::size_t j) { return std::optional(joints[j].position); };
    const auto by_hand = [&](const std::string& joint) { return view == ViewId::Result && fixed(joint); };
    add_joint_marks({joints, place, by_hand, selected_}, camera, out);
}

bool MovesController::press(const std::string& marker) {
    const std::string joint = joint_of_marker(marker);
    if (!joint.empty()) select(joint);
    return !joint.empty();
}

void MovesController::drag(const Ray& ray) {
    const double amount = in_mix();
    if (selected_.empty() || !has_joints() || std::abs(amount) < kLeastAmount) return;
    const std::size_t j = number_of(*s_.state().kit, selected_);
    if (j >= mixed().size()) return;
    const Vec3 now = mixed()[j].position;
    set_move(selected_, move(selected_) + (dragged_to(ray, now) - now) / amount, true);
}

}  // namespace veld
