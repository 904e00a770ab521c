#include "core/skin/paint.h"

#include <tbb/parallel_for.h>

#include <algorithm>
#include <cmath>
#include <set>

#include "core/base/smoothstep.h"
#include "core/skin/colour_of.h"
#include "core/skin/texels.h"

namespace veld {
namespace {

constexpr double kBeyondBorder = 3;    // texels past an island's border that are painted too
constexpr double kLeastFacing = -0.2;  // cosine between normals: a dab does not go round an edge
constexpr int kMeanTexels = 4;         // around a texel, for smoothing
constexpr double kSharper = 0.8;
constexpr double kDarkTone = 0.02;
constexpr double kFacesIt = 0.2;  // cosine between a place's normal and what is closest to it
constexpr int kMostWalked = 24;   // over the surface, towards a place
constexpr double kOnEdgeShare = 1e-9;
constexpr std::size_t kFoundInTurn = 256;  // texels that one thread finds one after the other
constexpr double kMostStepMm = 0.5;        // by which the next texel's place is farther off the surface
constexpr int kRing = 24;                  // places that a healing dab's tone is told by

constexpr std::pair<SkinBrush, const char*> kBrushNames[] = {
    {SkinBrush::Paint, "paint"}, {SkinBrush::Smooth, "smooth"},  {SkinBrush::Sharpen, "sharpen"},
    {SkinBrush::Clone, "clone"}, {SkinBrush::Heal, "heal"},      {SkinBrush::Mirror, "mirror"},
    {SkinBrush::Erase, "erase"}, {SkinBrush::Restore, "restore"}};

// Columns: to the side, up, outwards; the same on all of a figure but where it faces straight up.
Mat3 upright_frame(const Vec3& normal) {
    const Vec3 n = normal.normalized();
    Vec3 up = Vec3::UnitY() - n.y() * n;
    if (up.squaredNorm() < 1e-3) up = Vec3::UnitZ() - n.z() * n;
    up.normalize();
    Mat3 out;
    out << up.cross(n), up, n;
    return out;
}

double falloff(double share, double hardness) {
    if (share >= 1) return 0;
    const double h = std::min(hardness, 0.95);
    return share <= h ? 1 : 1 - smoothstep((share - h) / (1 - h));
}

}  // namespace

const char* skin_brush_name(SkinBrush brush) {
    for (const auto& [b, name] : kBrushNames) {
        if (b == brush) return name;
    }
    return "";
}

// --- the surface

PaintSurface::PaintSurface(BakeSurface surface)
    : surface_(std::move(surface)),
      query_(surface_.positions, surface_.triangles),
      tile_(surface_.triangles.size(), 0),
      other_(mirrored_triangles(surface_)) {
    for (std::size_t i = 0; i < surface_.tiles.size(); ++i) {
        for (const Index t : surface_.tiles[i].triangles) tile_[t] = static_cast<std::uint16_t>(i);
    }
}

SkinSpot PaintSurface::hit(const Vec3& from, const Vec3& direction) const {
    const SurfaceHit hit = query_.first_front_hit(from, direction);
    return hit ? SkinSpot{hit.triangle, Vec3(hit.barycentric[0], hit.barycentric[1], hit.barycentric[2])} : SkinSpot{};
}

SkinSpot PaintSurface::closest(const Vec3& place, const Vec3& normal) const {
    const FacingFilter facing{normal, kFacesIt};
    SurfaceHit hit = query_.closest(place, 1e4, &facing);
    if (!hit) hit = query_.closest(place, 1e4);
    return hit ? SkinSpot{hit.triangle, Vec3(hit.barycentric[0], hit.barycentric[1], hit.barycentric[2])} : SkinSpot{};
}

SkinSpot PaintSurface::closest_from(const Vec3& place, const Vec3& normal, Index t, double within) const {
    const auto on = [&](Index triangle) {
        const Triangle& c = surface_.triangles[triangle];
        return closest_on_triangle(place, surface_.positions[c[0]], surface_.positions[c[1]],
                                   surface_.positions[c[2]]);
    };
    SurfaceHit best = on(t);
    for (int step = 0; step < kMostWalked; ++step) {
        const Vec3 shares(best.barycentric[0], best.barycentric[1], best.barycentric[2]);
        bool edge[3];  // edge k: opposite to corner k + 2
        for (std::size_t k = 0; k < 3; ++k) edge[k] = shares[static_cast<Eigen::Index>((k + 2) % 3)] <= kOnEdgeShare;
        const int borders = edge[0] + edge[1] + edge[2];
        const Index mate = surface_.mate[t][edge[0] ? 0 : edge[1] ? 1 : 2];
        if (borders > 1 || (borders == 1 && mate == kNone)) break;  // at a corner any of those around may be nearer
        const SurfaceHit beyond = borders == 1 ? on(mate / 3) : SurfaceHit{};
        if (borders == 1 && beyond.distance < best.distance) {
            best = beyond, t = mate / 3;
            continue;
        }
        const Vec3 faces = surface_.normal(t, Vec3::Constant(1.0 / 3));
        if (faces.dot(normal) <= kFacesIt * faces.norm() || best.distance > within) break;
        return {t, shares};
    }
    return closest(place, normal);
}

SkinSpot PaintSurface::other_side(const SkinSpot& place) const {
    if (place.triangle == kNone || other_.empty()) return {};
    return mirrored_place(surface_, other_[place.triangle], place.shares);
}

Vec2 PaintSurface::in_tile(const SkinSpot& place) const {
    const auto& uv = surface_.uv[place.triangle];
    const UvTile& tile = tile_of(place.triangle);
    const Vec2 at = place.shares[0] * uv[0] + place.shares[1] * uv[1] + place.shares[2] * uv[2];
    const int number = tile.number - 1001;
    return {at.x() - number % 10, 1 - (at.y() - number / 10)};
}

SkinSpot PaintSurface::at(const UvTile& tile, const Vec2& wanted) const {
    const int number = tile.number - 1001;
    const Vec2 p(wanted.x() + number % 10, 1 - wanted.y() + number / 10);
    for (const Index t : tile.triangles) {
        const auto& c = surface_.uv[t];
        const auto cross = [&](const Vec2& a, const Vec2& b) {
            return (a.x() - p.x()) * (b.y() - p.y()) - (b.x() - p.x()) * (a.y() - p.y());
        };
        const double u = cross(c[1], c[2]), v = cross(c[2], c[0]), w = cross(c[0], c[1]), all = u + v + w;
        if (std::abs(all) < 1e-14 || u / all < 0 || v / all < 0 || w / all < 0) continue;
        return {t, Vec3(u, v, w) / all};
    }
    return {};
}

std::vector<Index> PaintSurface::around(const SkinSpot& place, double radius) const {
    const Vec3 centre = surface_.place(place.triangle, place.shares);
    const Vec3 normal = surface_.normal(place.triangle, place.shares).normalized();
    const std::size_t part = surface_.part[place.triangle];
    std::set<Index> seen{place.triangle};
    std::vector<Index> out{place.triangle};
    for (std::size_t i = 0; i < out.size(); ++i) {
        const Triangle& c = surface_.triangles[out[i]];
        for (std::size_t k = 0; k < 3; ++k) {
            // the edge comes within the radius
            const Vec3 a = surface_.positions[c[k]], b = surface_.positions[c[(k + 1) % 3]], along = b - a;
            const double share = std::clamp((centre - a).dot(along) / std::max(1e-12, along.squaredNorm()), 0.0, 1.0);
            if ((a + share * along - centre).norm() > radius) continue;
            const Index mate = surface_.mate[out[i]][k];
            if (mate == kNone || !seen.insert(mate / 3).second) continue;
            const Index t = mate / 3;
            if (surface_.part[t] != part ||
                surface_.normal(t, Vec3::Constant(1.0 / 3)).normalized().dot(normal) < kLeastFacing)
                continue;
            out.push_back(t);
        }
    }
    return out;
}

// --- a stroke

SkinStroke::SkinStroke(const PaintSurface& surface, const SkinBrushSettings& settings, SeenTiles seen,
                       const SkinLayer& layer, int size, SkinSpot from, SkinSpot start)
    : surface_(surface), settings_(settings), seen_(std::move(seen)), layer_(layer.tiles), size_(size), from_(from) {
    const BakeSurface& s = surface_.surface();
    if (start.triangle == kNone || from.triangle == kNone) return;
    start_ = s.place(start.triangle, start.shares), source_ = s.place(from.triangle, from.shares);
    turn_ = upright_frame(s.normal(from.triangle, from.shares)) *
            upright_frame(s.normal(start.triangle, start.shares)).transpose();
}

SkinSpot SkinStroke::source_of(const SkinSpot& place, Near& near) const {
    if (settings_.brush == SkinBrush::Mirror) return surface_.other_side(place);
    if (from_.triangle == kNone) return {};
    const BakeSurface& s = surface_.surface();
    const Vec3 there = source_ + turn_ * (s.place(place.triangle, place.shares) - start_);
    const Vec3 normal = turn_ * s.normal(place.triangle, place.shares).normalized();
    const SkinSpot out = near.triangle == kNone
                             ? surface_.closest(there, normal)
                             : surface_.closest_from(there, normal, near.triangle, near.off + kMostStepMm);
    if (out.triangle != kNone) near = {out.triangle, (s.place(out.triangle, out.shares) - there).norm()};
    return out;
}

Vec3 SkinStroke::seen_at(const SkinSpot& place) const {
    const Pixels& pixels = *seen_.at(surface_.tile_of(place.triangle).name);
    const Vec2 at = surface_.in_tile(place);
    return colour_of(pixels, Vec2(at.x() * pixels.width, at.y() * pixels.height)) / 255;
}

Vec3 SkinStroke::mean_around(const std::string& tile, int x, int y) const {
    const Pixels& p = *seen_.at(tile);
    Vec3 sum = Vec3::Zero();
    double all = 0;
    for (int j = std::max(0, y - kMeanTexels); j <= std::min(p.height - 1, y + kMeanTexels); ++j) {
        for (int i = std::max(0, x - kMeanTexels); i <= std::min(p.width - 1, x + kMeanTexels); ++i) {
            const int far = (i - x) * (i - x) + (j - y) * (j - y);
            if (far > kMeanTexels * kMeanTexels) continue;
            const std::uint8_t* q = &p.rgba[4 * (static_cast<std::size_t>(j) * static_cast<std::size_t>(p.width) +
                                                 static_cast<std::size_t>(i))];
            sum += Vec3(q[0], q[1], q[2]), all += 1;
        }
    }
    return sum / (255 * std::max(1.0, all));
}

Vec3 SkinStroke::wanted(const std::string& tile, const Touch& touch) const {
    const Pixels& p = *seen_.at(tile);
    const std::uint8_t* q = &p.rgba[4 * (static_cast<std::size_t>(touch.y) * static_cast<std::size_t>(p.width) +
                                         static_cast<std::size_t>(touch.x))];
    const Vec3 here = Vec3(q[0], q[1], q[2]) / 255;
    switch (settings_.brush) {
        case SkinBrush::Paint:
            return Vec3(settings_.colour.r, settings_.colour.g, settings_.colour.b) / 255;
        case SkinBrush::Smooth:
            return mean_around(tile, touch.x, touch.y);
        case SkinBrush::Sharpen:
            return here + kSharper * (here - mean_around(tile, touch.x, touch.y));
        case SkinBrush::Clone:
        case SkinBrush::Heal:
        case SkinBrush::Mirror: {
            const TexelBlocks::Texel t = elsewhere_.at(tile).at(touch.x, touch.y);
            const Vec3 found = Vec3(t[0], t[1], t[2]) / 255;
            return settings_.brush == SkinBrush::Heal ? Vec3(found.cwiseProduct(tone_)) : found;
        }
        case SkinBrush::Erase:
        case SkinBrush::Restore:
            break;
    }
    return here;
}

void SkinStroke::find_elsewhere(const std::string& tile, const std::vector<Touch>& touches) {
    TexelBlocks& known = elsewhere_.try_emplace(tile, size_).first->second;
    const Pixels& p = *seen_.at(tile);
    std::vector<const Touch*> fresh;
    for (const Touch& touch : touches) {
        if (known.at(touch.x, touch.y)[3] == 0) fresh.push_back(&touch);
    }
    std::vector<TexelBlocks::Texel> found(fresh.size());
    const auto find = [&](std::size_t i, Near& near) {
        const SkinSpot there = source_of(fresh[i]->place, near);
        if (there.triangle == kNone) {  // what is here
            const std::size_t at = 4 * (static_cast<std::size_t>(fresh[i]->y) * static_cast<std::size_t>(p.width) +
                                        static_cast<std::size_t>(fresh[i]->x));
            found[i] = {p.rgba[at], p.rgba[at + 1], p.rgba[at + 2], 255};
            return;
        }
        const Vec3 colour = 255 * seen_at(there);
        for (std::size_t k = 0; k < 3; ++k)
            found[i][k] = static_cast<std::uint8_t>(std::lround(colour[static_cast<Eigen::Index>(k)]));
        found[i][3] = 255;
    };
    // texels follow each other on the surface, so that each is found from the one before
    tbb::parallel_for(tbb::blocked_range<std::size_t>(0, fresh.size(), kFoundInTurn), [&](const auto& range) {
        Near near;
        for (std::size_t i = range.begin(); i < range.end(); ++i) find(i, near);
    });
    for (std::size_t i = 0; i < fresh.size(); ++i) known.set(fresh[i]->x, fresh[i]->y, found[i]);
}

TexelBlocks::Texel SkinStroke::result(const std::string& tile, const Touch& touch, double coverage) const {
    TexelBlocks::Texel out = before_.at(tile).at(touch.x, touch.y);
    if (on_mask(settings_.brush)) {
        const double to = settings_.brush == SkinBrush::Erase ? 0 : 255;
        out[0] = static_cast<std::uint8_t>(std::lround((1 - coverage) * out[0] + coverage * to));
        return out;
    }
    const Vec3 colour = wanted(tile, touch).cwiseMax(0).cwiseMin(1);
    const double a = out[3] / 255.0, all = coverage + a * (1 - coverage);
    if (all <= 0) return out;
    for (std::size_t k = 0; k < 3; ++k)
        out[k] = static_cast<std::uint8_t>(
            std::lround((255 * coverage * colour[static_cast<Eigen::Index>(k)] + a * (1 - coverage) * out[k]) / all));
    out[3] = static_cast<std::uint8_t>(std::lround(255 * all));
    return out;
}

// Texels of a triangle, and those past its island's border, that the dab reaches.
std::vector<SkinStroke::Touch> SkinStroke::touched(Index t, const Vec3& centre, double strength) const {
    std::vector<Touch> out;
    const BakeSurface& s = surface_.surface();
    Vec2 c[3];
    bool border[3];
    for (std::size_t k = 0; k < 3; ++k) {
        Vec3 corner = Vec3::Zero();
        corner[static_cast<Eigen::Index>(k)] = 1;
        c[k] = size_ * surface_.in_tile({t, corner});
        border[k] = !continues(s, t, k);
    }
    const auto cross = [](const Vec2& a, const Vec2& b) { return a.x() * b.y() - a.y() * b.x(); };
    const double area = cross(c[1] - c[0], c[2] - c[0]);
    if (std::abs(area) < 1e-9) return out;
    double past[3];  // share by which a place may lie past the edge that is opposite to a corner
    for (std::size_t k = 0; k < 3; ++k)
        past[k] =
            border[(k + 1) % 3] ? kBeyondBorder * (c[(k + 2) % 3] - c[(k + 1) % 3]).norm() / std::abs(area) : 1e-9;
    const auto bounds = [&](int axis) {
        const double low = std::min({c[0][axis], c[1][axis], c[2][axis]}),
                     high = std::max({c[0][axis], c[1][axis], c[2][axis]});
        return std::pair(std::max(0, static_cast<int>(low - kBeyondBorder)),
                         std::min(size_ - 1, static_cast<int>(high + kBeyondBorder)));
    };
    const auto [left, right] = bounds(0);
    const auto [top, bottom] = bounds(1);
    for (int y = top; y <= bottom; ++y) {
        for (int x = left; x <= right; ++x) {
            const Vec2 p(x + 0.5, y + 0.5);
            const Vec3 shares(cross(c[1] - p, c[2] - p) / area, cross(c[2] - p, c[0] - p) / area,
                              cross(c[0] - p, c[1] - p) / area);
            if (shares[0] < -past[0] || shares[1] < -past[1] || shares[2] < -past[2]) continue;
            Vec3 inside = shares.cwiseMax(0);
            inside /= inside.sum();
            const double share =
                strength * falloff((s.place(t, inside) - centre).norm() / settings_.radius_mm, settings_.hardness);
            if (share > 0) out.push_back({x, y, share, {t, inside}});
        }
    }
    return out;
}

// How what is around the dab differs from what is around the place it takes from.
void SkinStroke::find_tone(const SkinSpot& place) {
    const BakeSurface& s = surface_.surface();
    const Vec3 centre = s.place(place.triangle, place.shares);
    const Vec3 normal = s.normal(place.triangle, place.shares).normalized();
    const Mat3 frame = upright_frame(normal);
    Vec3 here = Vec3::Zero(), there = Vec3::Zero();
    int count = 0;
    for (int i = 0; i < kRing; ++i) {
        Near near;
        const double angle = 2 * M_PI * i / kRing;
        const Vec3 at =
            centre + 1.15 * settings_.radius_mm * (std::cos(angle) * frame.col(0) + std::sin(angle) * frame.col(1));
        const SkinSpot ring = surface_.closest(at, normal);
        if (ring.triangle == kNone) continue;
        const SkinSpot source = source_of(ring, near);
        if (source.triangle == kNone) continue;
        here += seen_at(ring), there += seen_at(source), ++count;
    }
    if (count > 0)
        tone_ = (here / count + Vec3::Constant(kDarkTone)).cwiseQuotient(there / count + Vec3::Constant(kDarkTone));
}

std::map<std::string, TexelRect> SkinStroke::dab(const SkinSpot& place, double pressure) {
    std::map<std::string, TexelRect> out;
    if (place.triangle == kNone) return out;
    if (settings_.brush == SkinBrush::Heal) find_tone(place);
    const Vec3 centre = surface_.surface().place(place.triangle, place.shares);
    std::map<std::string, std::vector<Touch>> of_tile;
    for (const Index t : surface_.around(place, settings_.radius_mm)) {
        auto& list = of_tile[surface_.tile_of(t).name];
        const std::vector<Touch> more = touched(t, centre, settings_.strength * pressure);
        list.insert(list.end(), more.begin(), more.end());
    }
    for (auto& [tile, list] : of_tile) {
        if (list.empty()) continue;
        if (!before_.contains(tile)) {
            const LayerTile& was = layer_[tile];
            const auto& kept = on_mask(settings_.brush) ? was.mask : was.paint;
            before_[tile] = !kept ? TexelBlocks(size_, on_mask(settings_.brush) ? TexelBlocks::Texel{255, 0, 0, 0}
                                                                                : TexelBlocks::Texel{0, 0, 0, 0})
                            : kept->size() == size_ ? *kept
                                                    : kept->resized(size_);
            now_[tile] = before_[tile];
            coverage_[tile] = TexelBlocks(size_);
        }
        // a texel past a border may be another triangle's as well: the strongest counts, and comes once
        TexelBlocks& coverage = coverage_[tile];
        std::vector<Touch> stronger;
        for (const Touch& touch : list) {
            const auto wanted = static_cast<std::uint8_t>(std::lround(255 * touch.share));
            if (wanted <= coverage.at(touch.x, touch.y)[0]) continue;
            coverage.set(touch.x, touch.y, {wanted, 0, 0, 0});
            stronger.push_back(touch);
            out[tile].grow(touch.x, touch.y);
        }
        if (settings_.brush == SkinBrush::Clone || settings_.brush == SkinBrush::Heal ||
            settings_.brush == SkinBrush::Mirror)
            find_elsewhere(tile, stronger);
        std::vector<TexelBlocks::Texel> texels(stronger.size());
        tbb::parallel_for(std::size_t{0}, stronger.size(), [&](std::size_t i) {
            texels[i] = result(tile, stronger[i], coverage.at(stronger[i].x, stronger[i].y)[0] / 255.0);
        });
        for (std::size_t i = 0; i < stronger.size(); ++i) now_[tile].set(stronger[i].x, stronger[i].y, texels[i]);
    }
    return out;
}

}  // namespace veld
