#include "core/fit/lids.h"

#include <cmath>

#include "core/linalg/fit_similarity.h"

namespace veld {
namespace {

constexpr const char* kBlink = "blink";
constexpr double kShutOpening = 0.09, kHalfOpening = 0.24;  // of an eye's width; people's open eyes have 0.28 to 0.5
constexpr int kSteps = 20;

Vec3 blink_way(const BaseKit& kit, Index v) { return kit.expressions.at(kBlink)[v] - kit.mesh.positions[v]; }

// Whose lid a vertex belongs to; the blink of one eye does not reach the other.
bool of_left(const BaseKit& kit, Index v) { return kit.mesh.positions[v].x() > 0; }

}  // namespace

std::optional<Similarity> eye_seat(const BaseKit& kit, const KitEye& eye, const Points& shape) {
    const KitPart* part = kit.part(eye.part);
    if (!part || part->vertices.empty()) return {};
    Points from, to;
    for (const Index v : part->vertices) from.push_back(kit.mesh.positions[v]), to.push_back(shape[v]);
    const auto moved = fit_similarity(from, to);
    return moved ? std::optional(*moved) : std::nullopt;
}

bool can_blink(const BaseKit& kit) { return kit.expressions.contains(kBlink); }

Points move_lids(const BaseKit& kit, const Points& positions, const LidsShut& by) {
    Points out = positions;
    if (!can_blink(kit)) return out;
    for (const KitEye& eye : kit.eyes) {
        const bool left = eye.centre.x() > 0;
        const auto moved = eye_seat(kit, eye, positions);
        if (!moved || by[left] == 0) continue;
        for (Index v = 0; v < out.size(); ++v) {
            if (of_left(kit, v) == left) out[v] += by[left] * (moved->scale * (moved->rotation * blink_way(kit, v)));
        }
    }
    return out;
}

std::optional<double> eye_opening(const std::map<std::string, Vec3>& marked, bool left) {
    const std::string side = left ? "_l" : "_r";
    Vec3 p[4];
    const char* names[] = {"palpebrale_superius", "palpebrale_inferius", "endocanthion", "exocanthion"};
    for (std::size_t k = 0; k < 4; ++k) {
        const auto at = marked.find(names[k] + side);
        if (at == marked.end()) return {};
        p[k] = at->second;
    }
    const Vec3 across = p[3] - p[2];
    if (across.norm() < 1e-9) return {};
    // the gap alone: a point that slid along its lid does not open the eye
    const Vec3 gap = p[0] - p[1], along = across.normalized();
    return (gap - gap.dot(along) * along).norm() / across.norm();
}

LidsShut lids_of(const BaseKit& kit, const std::map<std::string, SurfacePoint>& base_points,
                 const std::map<std::string, Vec3>& marked) {
    LidsShut out{0, 0};
    if (!can_blink(kit)) return out;
    for (const bool left : {false, true}) {
        const auto wanted = eye_opening(marked, left);
        if (!wanted || lid_state(*wanted) == LidState::Open) continue;
        double least = 1e9;
        for (int i = 0; i <= kSteps; ++i) {
            const double share = static_cast<double>(i) / kSteps;
            const Points at = move_lids(kit, kit.mesh.positions, {share, share});
            std::map<std::string, Vec3> base;
            for (const auto& [name, place] : base_points) base[name] = place.at(at);
            const auto opening = eye_opening(base, left);
            if (opening && std::abs(*opening - *wanted) < least)
                least = std::abs(*opening - *wanted), out[left] = share;
        }
    }
    return out;
}

const char* lid_state_name(LidState state) {
    static const char* const names[] = {"open", "half", "shut"};
    return names[static_cast<int>(state)];
}

LidState lid_state(double opening) {
    return opening < kShutOpening ? LidState::Shut : opening < kHalfOpening ? LidState::Half : LidState::Open;
}

}  // namespace veld
