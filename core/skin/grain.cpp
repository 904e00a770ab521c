#include "core/skin/grain.h"

#include <tbb/parallel_for.h>

#include <algorithm>
#include <cmath>
#include <random>

#include "core/linalg/statistics.h"

namespace veld {
namespace {

constexpr double kReachMm = 7;    // of a patch from its middle
constexpr double kApartMm = 4.5;  // of patches' middles on the surface
constexpr int kMostSide = 96;     // texels of a patch
constexpr std::size_t kMostPatches = 48, kLeastPatches = 4, kTried = 400;
constexpr double kMostMissing = 0.02;  // of a patch
constexpr double kRough = 1.8;         // times the usual contrast: a feature, no grain
constexpr double kMostOff = 4;         // deviations: beyond, a hair or a mole
constexpr double kFacing = 0.3;        // cosine between a spot's normal and that of a place it covers
constexpr std::size_t kMostSpots = 400'000;

double unit(std::mt19937& random) { return static_cast<double>(random()) / 4294967296.0; }

void frame_at(const Vec3& normal, double turn, Vec3& along, Vec3& across) {
    const Vec3 other = std::abs(normal.x()) < 0.7 ? Vec3::UnitX() : Vec3::UnitY();
    const Vec3 u = normal.cross(other).normalized(), v = normal.cross(u);
    along = std::cos(turn) * u + std::sin(turn) * v, across = normal.cross(along);
}

double contrast(const std::vector<Eigen::Vector3f>& texels) {
    double sum = 0;
    for (const Eigen::Vector3f& t : texels) sum += static_cast<double>(t.mean() * t.mean());
    return std::sqrt(sum / static_cast<double>(texels.size()));
}

// Without a mean, and without what stands out of it.
void even_out(std::vector<Eigen::Vector3f>& texels) {
    for (int axis = 0; axis < 3; ++axis) {
        std::vector<double> values;
        for (const Eigen::Vector3f& t : texels) values.push_back(static_cast<double>(t[axis]));
        const double middle = median(values);
        for (double& v : values) v = std::abs(v - middle);
        const double most = kMostOff * 1.4826 * median(std::move(values));
        double mean = 0;
        for (Eigen::Vector3f& t : texels) {
            t[axis] = static_cast<float>(std::clamp(static_cast<double>(t[axis]) - middle, -most, most));
            mean += static_cast<double>(t[axis]) / static_cast<double>(texels.size());
        }
        for (Eigen::Vector3f& t : texels) t[axis] -= static_cast<float>(mean);
    }
}

}  // namespace

std::unique_ptr<SkinGrain> SkinGrain::make(const BakeSurface& surface, const std::vector<Index>& from,
                                           const VertexMask& onto, const Detail& detail, double texel_mm) {
    std::unique_ptr<SkinGrain> out(new SkinGrain);
    out->surface_ = &surface;
    out->side_ = std::clamp(static_cast<int>(std::ceil(2 * kReachMm / std::max(texel_mm, 1e-3))), 8, kMostSide);
    out->step_ = 2 * kReachMm / out->side_;
    out->find_patches(from, detail);
    if (out->patches_.size() < kLeastPatches) return nullptr;
    out->scatter(onto);
    return out;
}

std::optional<SkinGrain::Patch> SkinGrain::take(const SurfaceQuery& query, Index vertex, const Detail& detail) const {
    const Vec3 &middle = surface_->positions[vertex], &normal = surface_->normals[vertex];
    Vec3 along, across;
    frame_at(normal, 0, along, across);
    Patch out;
    out.texels.assign(static_cast<std::size_t>(side_) * static_cast<std::size_t>(side_), Eigen::Vector3f::Zero());
    std::size_t missing = 0;
    const auto most = static_cast<std::size_t>(kMostMissing * static_cast<double>(out.texels.size()));
    const FacingFilter facing{normal, kFacing};
    for (int y = 0; y < side_; ++y) {
        for (int x = 0; x < side_; ++x) {
            const double u = (x + 0.5) * step_ - kReachMm, v = (y + 0.5) * step_ - kReachMm;
            if (u * u + v * v > kReachMm * kReachMm) continue;
            const SurfaceHit hit = query.closest(middle + u * along + v * across, kReachMm, &facing);
            std::optional<Vec3> off;
            if (hit) off = detail({hit.triangle, Vec3(hit.barycentric[0], hit.barycentric[1], hit.barycentric[2])});
            if (!off && ++missing > most) return {};
            if (off) out.texels[static_cast<std::size_t>(y * side_ + x)] = off->cast<float>();
        }
    }
    even_out(out.texels);
    return out;
}

void SkinGrain::find_patches(const std::vector<Index>& from, const Detail& detail) {
    if (from.empty()) return;
    const SurfaceQuery query(surface_->positions, surface_->triangles);
    std::mt19937 random(11);
    std::vector<Index> tried;
    for (std::size_t i = 0; i < std::min(kTried, from.size()); ++i)
        tried.push_back(from[std::min(from.size() - 1,
                                      static_cast<std::size_t>(unit(random) * static_cast<double>(from.size())))]);
    std::vector<std::optional<Patch>> taken(tried.size());
    tbb::parallel_for(std::size_t{0}, tried.size(), [&](std::size_t i) { taken[i] = take(query, tried[i], detail); });
    std::vector<double> contrasts;
    for (const auto& p : taken) {
        if (p) contrasts.push_back(contrast(p->texels));
    }
    if (contrasts.empty()) return;
    const double usual = median(contrasts);
    for (auto& p : taken) {
        if (p && patches_.size() < kMostPatches && contrast(p->texels) <= kRough * usual)
            patches_.push_back(std::move(*p));
    }
}

std::uint64_t SkinGrain::cell(const Vec3& p, int dx, int dy, int dz) const {
    const auto at = [](double x, int d) {
        return static_cast<std::uint64_t>(static_cast<std::int64_t>(std::floor(x / kReachMm)) + d + (1 << 20)) &
               0x1fffffu;
    };
    return at(p.x(), dx) << 42u | at(p.y(), dy) << 21u | at(p.z(), dz);
}

// Places thrown at random that lie no nearer to each other than kApartMm [Cook 1986, dart throwing].
void SkinGrain::scatter(const VertexMask& onto) {
    const BakeSurface& s = *surface_;
    std::mt19937 random(23);
    const double per_mm2 = 4 / (kApartMm * kApartMm);
    for (Index t = 0; t < s.triangles.size() && spots_.size() < kMostSpots; ++t) {
        const Triangle& c = s.triangles[t];
        if (s.part[t] != 0 || !(onto[c[0]] || onto[c[1]] || onto[c[2]])) continue;
        const double area =
            0.5 * (s.positions[c[1]] - s.positions[c[0]]).cross(s.positions[c[2]] - s.positions[c[0]]).norm();
        const int darts = static_cast<int>(std::floor(per_mm2 * area + unit(random)));
        for (int i = 0; i < darts; ++i) {
            double a = unit(random), b = unit(random);
            if (a + b > 1) a = 1 - a, b = 1 - b;
            const Vec3 shares(1 - a - b, a, b), place = s.place(t, shares);
            bool free = true;
            for (int k = 0; k < 27 && free; ++k) {
                const auto at = cells_.find(cell(place, k % 3 - 1, k / 3 % 3 - 1, k / 9 - 1));
                if (at == cells_.end()) continue;
                free = std::none_of(at->second.begin(), at->second.end(), [&](std::uint32_t spot) {
                    return (spots_[spot].place - place).squaredNorm() < kApartMm * kApartMm;
                });
            }
            if (!free) continue;
            Spot spot;
            spot.place = place, spot.normal = s.normal(t, shares).normalized();
            frame_at(spot.normal, 2 * M_PI * unit(random), spot.along, spot.across);
            spot.patch = static_cast<std::uint32_t>(random() % patches_.size());
            cells_[cell(place, 0, 0, 0)].push_back(static_cast<std::uint32_t>(spots_.size()));
            spots_.push_back(spot);
        }
    }
}

Vec3 SkinGrain::at(Index triangle, const Vec3& shares) const {
    const Vec3 place = surface_->place(triangle, shares), normal = surface_->normal(triangle, shares).normalized();
    Eigen::Vector3f sum = Eigen::Vector3f::Zero();
    double squares = 0;
    for (int k = 0; k < 27; ++k) {
        const auto here = cells_.find(cell(place, k % 3 - 1, k / 3 % 3 - 1, k / 9 - 1));
        if (here == cells_.end()) continue;
        for (const std::uint32_t i : here->second) {
            const Spot& spot = spots_[i];
            const Vec3 d = place - spot.place;
            const double far = d.squaredNorm() / (kReachMm * kReachMm);
            if (far >= 1 || normal.dot(spot.normal) < kFacing) continue;
            const double x = (d.dot(spot.along) + kReachMm) / step_ - 0.5,
                         y = (d.dot(spot.across) + kReachMm) / step_ - 0.5;
            const int left = std::clamp(static_cast<int>(std::floor(x)), 0, side_ - 2),
                      top = std::clamp(static_cast<int>(std::floor(y)), 0, side_ - 2);
            const auto fx = static_cast<float>(std::clamp(x - left, 0.0, 1.0)),
                       fy = static_cast<float>(std::clamp(y - top, 0.0, 1.0));
            const Eigen::Vector3f* row = &patches_[spot.patch].texels[static_cast<std::size_t>(top * side_ + left)];
            const double weight = (1 - far) * (1 - far);
            sum += static_cast<float>(weight) *
                   ((1 - fy) * ((1 - fx) * row[0] + fx * row[1]) + fy * ((1 - fx) * row[side_] + fx * row[side_ + 1]));
            squares += weight * weight;
        }
    }
    if (!(squares > 0)) return Vec3::Zero();
    return sum.cast<double>() / std::sqrt(squares);
}

}  // namespace veld
