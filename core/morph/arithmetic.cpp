#include "core/morph/arithmetic.h"

#include "core/morph/joint_moves.h"

#include <cmath>

#include "core/base/smoothstep.h"

namespace veld {
namespace {

constexpr double kCancelledMm = 1e-12;  // what is left of two equal differences

Status fits(const BaseKit& kit, const Morph& m) {
    if (m.topology == kit.topology_key) return Done{};
    return Error{ErrorCode::BadInput, "The morph '" + m.name + "' belongs to another base mesh."};
}

std::string amount_text(double amount) {
    char text[32];
    std::snprintf(text, sizeof text, "%g", amount);
    return text;
}

Morph sparse(const BaseKit& kit, const Points& full, const std::string& name) {
    Morph out;
    out.name = name;
    out.topology = kit.topology_key;
    for (Index v = 0; v < full.size(); ++v) {
        if (full[v].norm() < kCancelledMm) continue;
        out.index.push_back(v);
        out.delta.push_back(full[v]);
    }
    return out;
}

void inherit(const Morph& from, Morph& to) {
    to.kind = from.kind, to.group = from.group, to.tag = from.tag, to.low = from.low, to.high = from.high;
}

}  // namespace

Result<Morph> sum_morphs(const BaseKit& kit, const std::vector<MorphAmount>& terms, const std::string& name) {
    if (name.empty()) return Error{ErrorCode::BadInput, "A morph needs a name."};
    Points full(kit.mesh.positions.size(), Vec3::Zero());
    Vec3 root = Vec3::Zero();
    std::map<std::string, Vec3> fixed;  // what one of them fixes is fixed in the sum
    std::string origin;
    const Morph* first = nullptr;
    for (const MorphAmount& t : terms) {
        if (auto ok = fits(kit, *t.morph); !ok) return ok.error();
        if (t.amount == 0) continue;
        if (!first) first = t.morph;
        for (std::size_t i = 0; i < t.morph->index.size(); ++i)
            full[t.morph->index[i]] += t.amount * t.morph->delta[i];
        root += t.amount * t.morph->root;
        for (const auto& [joint, unused] : t.morph->joints) fixed[joint].setZero();
        origin += (origin.empty() ? "" : " + ") + amount_text(t.amount) + " x " + t.morph->name;
    }
    if (!first) return Error{ErrorCode::BadInput, "There is nothing to add up: every amount is 0."};
    Morph out = sparse(kit, full, name);
    inherit(*first, out);
    out.low = 0, out.high = 1;
    out.root = root;
    out.origin = origin;
    for (const MorphAmount& t : terms) {
        if (t.amount == 0 || fixed.empty()) continue;
        const Points moves = joint_moves(kit, *t.morph);
        for (std::size_t j = 0; j < moves.size(); ++j) {
            if (const auto at = fixed.find(kit.joints[j].name); at != fixed.end()) at->second += t.amount * moves[j];
        }
    }
    out.joints = std::move(fixed);
    return out;
}

Result<Morph> mirrored_morph(const BaseKit& kit, const Morph& morph, const std::string& name) {
    if (auto ok = fits(kit, morph); !ok) return ok.error();
    Points full(kit.mesh.positions.size(), Vec3::Zero());
    const auto mirrored = [](const Vec3& d) { return Vec3(-d.x(), d.y(), d.z()); };
    for (std::size_t i = 0; i < morph.index.size(); ++i) full[kit.mirror[morph.index[i]]] = mirrored(morph.delta[i]);
    Morph out = sparse(kit, full, name);
    inherit(morph, out);
    out.root = mirrored(morph.root);
    for (const auto& [joint, move] : morph.joints) {
        const std::string other = other_side(joint);
        out.joints[other.empty() ? joint : other] = mirrored(move);
    }
    for (MorphDriver driver : morph.drivers) {
        const std::string other = other_side(driver.joint);
        if (!other.empty()) driver.joint = other;
        driver.turn = Vec3(driver.turn.x(), -driver.turn.y(), -driver.turn.z());  // of an axis, not of a place
        out.drivers.push_back(driver);
    }
    out.origin = morph.name + ", sides exchanged";
    return out;
}

double left_share(double x, double soft) {
    if (soft <= 0) return x > 0 ? 1 : x < 0 ? 0 : 0.5;
    return smoothstep(0.5 + 0.5 * x / soft);
}

Morph masked_morph(const Morph& morph, const std::vector<double>& weight) {
    Morph out = morph;
    out.index.clear(), out.delta.clear();
    out.joints.clear();  // a share of a move is told by its shape
    for (std::size_t i = 0; i < morph.index.size(); ++i) {
        const double w = weight[morph.index[i]];
        if (w == 0) continue;
        out.index.push_back(morph.index[i]);
        out.delta.push_back(w * morph.delta[i]);
    }
    return out;
}

Result<Morph> half_morph(const BaseKit& kit, const Morph& morph, Side side, double soft_mm, const std::string& name) {
    if (auto ok = fits(kit, morph); !ok) return ok.error();
    if (name.empty()) return Error{ErrorCode::BadInput, "A morph needs a name."};
    if (!(soft_mm >= 0)) return Error{ErrorCode::BadInput, "The soft middle must be 0 mm or more."};
    std::vector<double> left(kit.mesh.positions.size());
    for (std::size_t v = 0; v < left.size(); ++v) left[v] = left_share(kit.mesh.positions[v].x(), soft_mm);
    Morph out = masked_morph(morph, left);
    if (side == Side::Right) {
        // what the left half leaves, so that both add up to the last bit
        Points full(left.size(), Vec3::Zero());
        for (std::size_t i = 0; i < morph.index.size(); ++i) full[morph.index[i]] = morph.delta[i];
        for (std::size_t i = 0; i < out.index.size(); ++i) full[out.index[i]] -= out.delta[i];
        out = sparse(kit, full, name);
        inherit(morph, out);
    }
    out.name = name;
    out.root = 0.5 * morph.root;
    out.figures.clear();
    out.origin = morph.name + (side == Side::Left ? ", left half" : ", right half");
    return out;
}

Result<Morph> symmetric_morph(const BaseKit& kit, const Morph& morph, Side from, double soft_mm,
                              const std::string& name) {
    const auto half = half_morph(kit, morph, from, soft_mm, name);
    if (!half) return half.error();
    const auto other = mirrored_morph(kit, *half, name);
    if (!other) return other.error();
    auto out = sum_morphs(kit, {{&*half, 1.0}, {&*other, 1.0}}, name);
    if (!out) return out.error();
    inherit(morph, *out);
    out->origin = morph.name + (from == Side::Left ? ", left side on both" : ", right side on both");
    return out;
}

}  // namespace veld
