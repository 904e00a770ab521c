#include "core/skin/texels.h"

#include <cmath>

#include "core/spatial/surface_query.h"

namespace veld {
namespace {

constexpr int kMostCrossings = 8;
constexpr double kOnEdge = 1e-9;

double cross2(const Vec2& a, const Vec2& b) { return a.x() * b.y() - a.y() * b.x(); }

// Shares of a triangle's corners at a point of its plane; false: the triangle has no area.
bool shares_at(const Vec2& a, const Vec2& b, const Vec2& c, const Vec2& p, Vec3& out) {
    const double area = cross2(b - a, c - a);
    if (area == 0) return false;
    out[1] = cross2(p - a, c - a) / area, out[2] = cross2(b - a, p - a) / area;
    out[0] = 1 - out[1] - out[2];
    return true;
}

// The place of a triangle that is closest to one of its plane.
Vec3 within(const BakeSurface& s, Index t, const Vec3& shares) {
    if (shares.minCoeff() >= 0) return shares;
    const Triangle& c = s.triangles[t];
    const SurfaceHit hit =
        closest_on_triangle(s.place(t, shares), s.positions[c[0]], s.positions[c[1]], s.positions[c[2]]);
    return Vec3(hit.barycentric[0], hit.barycentric[1], hit.barycentric[2]);
}

// What lies beyond edge k of a triangle, laid flat into its plane: the same place in shares of the neighbour's
// corners.
bool unfold(const BakeSurface& s, Index& t, Vec3& shares, std::size_t k) {
    const Index mate = s.mate[t][k];
    if (mate == kNone) return false;
    const Index next = mate / 3, e = mate % 3;
    const Vec3& a = s.positions[s.triangles[t][k]];
    const Vec3& b = s.positions[s.triangles[t][(k + 1) % 3]];
    const Vec3& apex = s.positions[s.triangles[next][(e + 2) % 3]];
    const Vec3 edge = b - a;
    const double length2 = edge.squaredNorm();
    if (!(length2 > 0)) return false;
    const Vec3 at = s.place(t, shares);
    const double along = (at - a).dot(edge) / length2, off = ((at - a) - along * edge).norm();
    const double apex_along = (apex - a).dot(edge) / length2, height = ((apex - a) - apex_along * edge).norm();
    if (!(height > 0)) return false;
    Vec3 out;
    out[(e + 2) % 3] = off / height;
    const double on_edge = along - apex_along * off / height;  // share of b among what is left for a and b
    const bool same_way = s.triangles[next][e] == s.triangles[t][k];
    out[same_way ? (e + 1) % 3 : e] = on_edge;
    out[same_way ? e : (e + 1) % 3] = 1 - out[(e + 2) % 3] - on_edge;
    t = next, shares = out;
    return true;
}

}  // namespace

bool continues(const BakeSurface& s, Index t, std::size_t k) {
    const Index mate = s.mate[t][k];
    if (mate == kNone) return false;
    const Index other = mate / 3, e = mate % 3;
    const bool same_way = s.triangles[other][e] == s.triangles[t][k];
    return s.uv[t][k] == s.uv[other][same_way ? e : (e + 1) % 3] &&
           s.uv[t][(k + 1) % 3] == s.uv[other][same_way ? (e + 1) % 3 : e];
}

TexelRows::TexelRows(const BakeSurface& surface, const UvTile& tile, int size, int samples, double beyond)
    : surface_(surface), size_(size), samples_(samples), wide_(size * samples), beyond_(beyond * samples) {
    origin_ = Vec2((tile.number - 1001) % 10, (tile.number - 1001) / 10);
    const auto buckets = static_cast<std::size_t>((wide_ + kBucket - 1) / kBucket);
    triangles_.resize(buckets), borders_.resize(buckets);
    const auto into = [&](double low, double high, auto& lists, const auto& what) {
        const int first = std::max(0, static_cast<int>(std::floor(low)) / kBucket),
                  last = std::min(static_cast<int>(buckets) - 1, static_cast<int>(std::floor(high)) / kBucket);
        for (int b = first; b <= last && high >= 0; ++b) lists[static_cast<std::size_t>(b)].push_back(what);
    };
    for (const Index t : tile.triangles) {
        const double y[3] = {at(t, 0).y(), at(t, 1).y(), at(t, 2).y()};
        into(std::min({y[0], y[1], y[2]}) - 1, std::max({y[0], y[1], y[2]}) + 1, triangles_, t);
        for (std::uint8_t k = 0; k < 3 && beyond_ > 0; ++k) {
            if (continues(surface, t, k)) continue;
            const double a = y[k], b = y[(k + 1) % 3];
            into(std::min(a, b) - beyond_ - 1, std::max(a, b) + beyond_ + 1, borders_, BorderEdge{t, k});
        }
    }
}

Vec2 TexelRows::at(Index t, std::size_t corner) const {
    const Vec2 p = surface_.uv[t][corner] - origin_;
    return Vec2(p.x() * wide_, (1 - p.y()) * wide_);
}

void TexelRows::fill(Index t, int first, int lines, std::vector<TexelPlace>& out) const {
    const Vec2 a = at(t, 0), b = at(t, 1), c = at(t, 2);
    const int y0 = std::max(first, static_cast<int>(std::floor(std::min({a.y(), b.y(), c.y()}) - 0.5))),
              y1 = std::min(first + lines - 1, static_cast<int>(std::ceil(std::max({a.y(), b.y(), c.y()}) - 0.5)));
    const int x0 = std::max(0, static_cast<int>(std::floor(std::min({a.x(), b.x(), c.x()}) - 0.5))),
              x1 = std::min(wide_ - 1, static_cast<int>(std::ceil(std::max({a.x(), b.x(), c.x()}) - 0.5)));
    const double area = cross2(b - a, c - a);
    if (area == 0) return;
    for (int y = y0; y <= y1; ++y) {
        TexelPlace* row = &out[static_cast<std::size_t>(y - first) * static_cast<std::size_t>(wide_)];
        for (int x = x0; x <= x1; ++x) {
            if (row[x].triangle != kNone) continue;
            const Vec2 p(x + 0.5, y + 0.5);
            const double v = cross2(p - a, c - a) / area, w = cross2(b - a, p - a) / area, u = 1 - v - w;
            if (u < -kOnEdge || v < -kOnEdge || w < -kOnEdge) continue;
            row[x].triangle = row[x].shown_by = t;
            row[x].shares = row[x].shown_shares = Vec3(u, v, w);
        }
    }
}

void TexelRows::continue_beyond(const BorderEdge& border, int first, int lines, std::vector<TexelPlace>& out,
                                std::vector<float>& distance) const {
    const Index t = border.triangle;
    const std::size_t k = border.edge;
    const Vec2 a = at(t, k), b = at(t, (k + 1) % 3), edge = b - a;
    const double length2 = edge.squaredNorm();
    if (!(length2 > 0)) return;
    const int y0 = std::max(first, static_cast<int>(std::floor(std::min(a.y(), b.y()) - beyond_))),
              y1 = std::min(first + lines - 1, static_cast<int>(std::ceil(std::max(a.y(), b.y()) + beyond_)));
    const int x0 = std::max(0, static_cast<int>(std::floor(std::min(a.x(), b.x()) - beyond_))),
              x1 = std::min(wide_ - 1, static_cast<int>(std::ceil(std::max(a.x(), b.x()) + beyond_)));
    for (int y = y0; y <= y1; ++y) {
        for (int x = x0; x <= x1; ++x) {
            const auto i =
                static_cast<std::size_t>(y - first) * static_cast<std::size_t>(wide_) + static_cast<std::size_t>(x);
            TexelPlace& place = out[i];
            if (place.triangle != kNone && distance[i] < 0) continue;  // inside an island
            const Vec2 p(x + 0.5, y + 0.5);
            const double along = std::clamp((p - a).dot(edge) / length2, 0.0, 1.0);
            const auto off = static_cast<float>((p - a - along * edge).norm());
            if (off > beyond_ || (place.triangle != kNone && off >= distance[i])) continue;
            Vec3 shares;
            if (!shares_at(at(t, 0), at(t, 1), at(t, 2), p, shares)) continue;
            place.shown_by = t, place.shown_shares = within(surface_, t, shares);
            place.beyond = true;
            Index on = t;
            std::size_t through = k;
            for (int n = 0; n < kMostCrossings && unfold(surface_, on, shares, through); ++n) {
                Eigen::Index least = 0;
                if (shares.minCoeff(&least) >= 0) break;
                through = static_cast<std::size_t>((least + 1) % 3);  // the edge across from that corner
            }
            place.triangle = on, place.shares = within(surface_, on, shares);
            distance[i] = off;
        }
    }
}

void TexelRows::rows(int first, int count, std::vector<TexelPlace>& out) const {
    const int line = first * samples_, lines = count * samples_;
    out.assign(static_cast<std::size_t>(lines) * static_cast<std::size_t>(wide_), TexelPlace{});
    const auto from = static_cast<std::size_t>(line / kBucket),
               to = std::min(triangles_.size() - 1, static_cast<std::size_t>((line + lines - 1) / kBucket));
    for (std::size_t b = from; b <= to; ++b) {
        for (const Index t : triangles_[b]) fill(t, line, lines, out);
    }
    if (!(beyond_ > 0)) return;
    std::vector<float> distance(out.size(), -1);
    for (std::size_t b = from; b <= to; ++b) {
        for (const BorderEdge& edge : borders_[b]) continue_beyond(edge, line, lines, out, distance);
    }
}

std::vector<std::uint8_t> claimed_texels(const BakeSurface& s, const UvTile& tile, int size) {
    std::vector<std::uint8_t> out(static_cast<std::size_t>(size) * static_cast<std::size_t>(size), 0);
    const Vec2 origin((tile.number - 1001) % 10, (tile.number - 1001) / 10);
    for (const Index t : tile.triangles) {
        Vec2 c[3];
        for (std::size_t k = 0; k < 3; ++k) {
            const Vec2 p = s.uv[t][k] - origin;
            c[k] = Vec2(p.x() * size, (1 - p.y()) * size);
        }
        const int y0 = std::max(0, static_cast<int>(std::floor(std::min({c[0].y(), c[1].y(), c[2].y()}) - 0.5))),
                  y1 = std::min(size - 1, static_cast<int>(std::ceil(std::max({c[0].y(), c[1].y(), c[2].y()})))),
                  x0 = std::max(0, static_cast<int>(std::floor(std::min({c[0].x(), c[1].x(), c[2].x()}) - 0.5))),
                  x1 = std::min(size - 1, static_cast<int>(std::ceil(std::max({c[0].x(), c[1].x(), c[2].x()}))));
        for (int y = y0; y <= y1; ++y) {
            for (int x = x0; x <= x1; ++x) {
                Vec3 shares;
                // strictly inside: neighbours that share an edge do not claim one texel both
                if (!shares_at(c[0], c[1], c[2], Vec2(x + 0.5, y + 0.5), shares) || shares.minCoeff() <= 1e-6)
                    continue;
                std::uint8_t& n =
                    out[static_cast<std::size_t>(y) * static_cast<std::size_t>(size) + static_cast<std::size_t>(x)];
                n = static_cast<std::uint8_t>(std::min(n + 1, 255));
            }
        }
    }
    return out;
}

}  // namespace veld
