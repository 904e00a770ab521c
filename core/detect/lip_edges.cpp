#include "core/detect/lip_edges.h"

#include <algorithm>
#include <cmath>

namespace veld {
namespace {

constexpr double kProfileStepMm = 0.4, kProfileFromMm = 40;  // rays begin so far before the face
constexpr double kMostJumpMm = 6;                            // between neighbours: a hole, or what hangs before it
constexpr int kProfileSmooth = 2;                            // rounds, against a scanner's noise
constexpr double kLipRowMm = 0.35, kDeepMouthMm = 12;
constexpr double kBehindLipsMm = 3.5, kDeepInMouthMm = 45, kInsideOpeningMm = 0.5;
constexpr double kLeastFullMm = 0.5, kLeastGrooveMm = 0.5;

// How far p stands before the chord from a to b, in the plane of the profile.
double before_chord(const Vec3& p, const Vec3& a, const Vec3& b) {
    const double y = b.y() - a.y(), z = b.z() - a.z(), length = std::hypot(y, z);
    if (length < 1e-9) return 0;
    return ((p.z() - a.z()) * y - (p.y() - a.y()) * z) / length * (y < 0 ? -1 : 1);
}

std::size_t farthest(const Points& line, std::size_t from, std::size_t to, double sign) {
    std::size_t best = from;
    double most = -1e18;
    for (std::size_t i = from; i <= to; ++i) {
        const double d = sign * before_chord(line[i], line[from], line[to]);
        if (d > most) most = d, best = i;
    }
    return best;
}

void smooth_line(Points& line) {
    for (int round = 0; round < kProfileSmooth; ++round) {
        Points out = line;
        for (std::size_t i = 1; i + 1 < line.size(); ++i)
            out[i] = 0.25 * line[i - 1] + 0.5 * line[i] + 0.25 * line[i + 1];
        line = std::move(out);
    }
}

// The place of a line at that x; nothing beside it.
std::optional<Vec3> across(const Points& line, double x) {
    for (std::size_t i = 0; i + 1 < line.size(); ++i) {
        const double a = line[i].x(), b = line[i + 1].x();
        if ((x < a) == (x < b) || a == b) continue;
        return line[i] + (x - a) / (b - a) * (line[i + 1] - line[i]);
    }
    return {};
}

}  // namespace

std::optional<Vec3> groove_beside_lip(const SurfaceQuery& surface, const Vec3& from, const Vec3& to) {
    const int steps = static_cast<int>(std::ceil((to - from).head<2>().norm() / kProfileStepMm));
    if (steps < 12) return {};
    Points line;
    for (int i = 0; i <= steps; ++i) {
        const Vec3 at = from + static_cast<double>(i) / steps * (to - from);
        const SurfaceHit hit = surface.first_front_hit(at + kProfileFromMm * Vec3::UnitZ(), -Vec3::UnitZ());
        if (!hit || hit.distance > 2 * kProfileFromMm) return {};
        if (i > 2 && std::abs(hit.position.z() - line.back().z()) > kMostJumpMm) return {};
        line.push_back(hit.position);
    }
    smooth_line(line);
    const std::size_t last = line.size() - 1;
    std::size_t full = 0, groove = last / 2;
    for (int round = 0; round < 4; ++round) {
        full = farthest(line, 0, groove, 1);
        groove = farthest(line, full, last, -1);
    }
    const double full_mm = before_chord(line[full], line[0], line[groove]),
                 groove_mm = -before_chord(line[groove], line[full], line[last]);
    if (full_mm < kLeastFullMm || groove_mm < kLeastGrooveMm) return {};
    return line[groove];
}

std::optional<Edge> follow_lip(const SurfaceQuery& surface, const Points& guess, bool upper) {
    std::vector<std::vector<double>> heights;
    const auto seen = [&](const Vec3& p, int row) {
        const Vec3 from = p + Vec3(0, row * kLipRowMm, kProfileFromMm);
        return surface.first_front_hit(from, -Vec3::UnitZ());
    };
    for (const Vec3& p : guess) {
        heights.emplace_back();
        for (int r = -kEdgeRows / 2; r <= kEdgeRows / 2; ++r) {
            const SurfaceHit hit = seen(p, r);
            heights.back().push_back(hit ? std::max(hit.position.z() - p.z(), -kDeepMouthMm) : -kDeepMouthMm);
        }
    }
    auto edge = follow_edge(heights, upper ? 1 : -1);
    if (!edge) return {};
    Edge out{{}, std::move(*edge)};
    for (std::size_t i = 0; i < guess.size(); ++i) {
        const SurfaceHit hit = seen(guess[i], out.edge.aside[i] + (upper ? 1 : -1));
        out.line.push_back(hit && std::abs(hit.position.z() - guess[i].z()) < kMostJumpMm ? hit.position : guess[i]);
    }
    return out;
}

VertexMask seen_between_lips(const Points& positions, const Points& upper, const Points& lower) {
    VertexMask out(positions.size(), 0);
    if (upper.size() < 2 || lower.size() < 2) return out;
    for (std::size_t v = 0; v < positions.size(); ++v) {
        const Vec3& p = positions[v];
        const auto above = across(upper, p.x()), below = across(lower, p.x());
        if (!above || !below) continue;
        const double wide = above->y() - below->y(), share = (p.y() - below->y()) / std::max(1e-9, wide);
        if (p.y() > above->y() - kInsideOpeningMm || p.y() < below->y() + kInsideOpeningMm) continue;
        const double behind = below->z() + share * (above->z() - below->z()) - p.z();
        out[v] = behind > kBehindLipsMm && behind < kDeepInMouthMm;
    }
    return out;
}

}  // namespace veld
