#include "core/photo/outline.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <opencv2/imgproc.hpp>

#include "core/fit/fit.h"
#include "core/kit/kit_surface.h"

namespace veld {
namespace {

constexpr double kBehindMm = 12;     // an outline stands before something farther away than this
constexpr double kNowhereMm = 200;   // farther than any other part of a head
constexpr double kLeastStep = 0.05;  // of the full range
constexpr double kSecondBest = 0.8;
constexpr double kClearMm = 48, kClearEvery = 4,
                 kClearShare = 0.6;  // how far beyond an outline nothing else may begin

Eigen::Vector2d chroma(const Vec3& c) {
    const Vec3 l = (c.array() + 0.02).log();
    return {l.x() - l.y(), l.z() - l.y()};
}

Sight sight_across(const ContourPoint& p, const Vec2& pixel, double sigma) {
    return {p.place, pixel, sigma, p.outward};
}

}  // namespace

OutlineSurface outline_surface(const BaseKit& kit) {
    OutlineSurface out;
    const std::vector<double> fade = head_fade(kit, 55);
    out.weight.assign(kit.mesh.positions.size(), 0);
    for (const Index v : kit.region("head_skin")) out.weight[v] = static_cast<float>(fade[v] >= 0.999);
    for (const char* name : {"neck", "socket_l", "socket_r", "mouth_inner", "nostril_inside"}) {
        for (const Index v : kit.region(name)) out.weight[v] = 0;
    }
    const KitPart& skin = *kit.part("skin");
    std::map<std::array<Index, 2>, std::array<Index, 2>> edges;
    for (std::size_t t = 0; t < kit.triangulation.triangles.size(); ++t) {
        const Index face = kit.triangulation.triangle_face[t];
        if (!skin.has_face(face)) continue;
        const Triangle& c = kit.triangulation.triangles[t];
        if (!(fade[c[0]] > 0) && !(fade[c[1]] > 0) && !(fade[c[2]] > 0)) continue;
        const auto id = static_cast<Index>(out.triangles.size());
        out.triangles.push_back(c);
        for (std::size_t k = 0; k < 3; ++k) {
            const std::array<Index, 2> key{std::min(c[k], c[(k + 1) % 3]), std::max(c[k], c[(k + 1) % 3])};
            const auto [at, fresh] = edges.try_emplace(key, std::array<Index, 2>{id, kNone});
            if (!fresh) at->second[1] = id;
        }
    }
    for (const auto& [edge, sides] : edges) {
        if (sides[1] == kNone || out.weight[edge[0]] <= 0 || out.weight[edge[1]] <= 0) continue;
        out.edges.push_back(edge), out.sides.push_back(sides);
    }
    return out;
}

std::vector<ContourPoint> contour(const OutlineSurface& surface, const Points& shape, const PhotoCamera& camera,
                                  double spacing_mm) {
    std::vector<char> facing(surface.triangles.size());
    for (std::size_t t = 0; t < facing.size(); ++t) {
        const Triangle& c = surface.triangles[t];
        facing[t] = (shape[c[1]] - shape[c[0]]).cross(shape[c[2]] - shape[c[0]]).dot(camera.towards(shape[c[0]])) < 0;
    }
    const SurfaceQuery query(shape, surface.triangles);
    std::vector<ContourPoint> out;
    std::map<std::array<int, 3>, char> taken;
    for (std::size_t e = 0; e < surface.edges.size(); ++e) {
        const auto [one, two] = surface.sides[e];
        if (facing[one] == facing[two]) continue;
        const auto [a, b] = surface.edges[e];
        const Vec3 p = 0.5 * (shape[a] + shape[b]);
        const std::array<int, 3> cell{static_cast<int>(std::floor(p.x() / spacing_mm)),
                                      static_cast<int>(std::floor(p.y() / spacing_mm)),
                                      static_cast<int>(std::floor(p.z() / spacing_mm))};
        if (taken.contains(cell)) continue;
        const Triangle& t = surface.triangles[facing[one] ? one : two];
        const Triangle& other = surface.triangles[facing[one] ? two : one];
        const auto normal = [&](const Triangle& c) {
            return Vec3((shape[c[1]] - shape[c[0]]).cross(shape[c[2]] - shape[c[0]]).normalized());
        };
        const Vec3 n = (normal(t) + normal(other)).normalized();
        // a fold inwards has the same signs and is no outline
        const Vec3 third = [&] {
            for (const Index v : other) {
                if (v != a && v != b) return shape[v];
            }
            return p;
        }();
        if (normal(t).dot(third - p) > 0) continue;
        ContourPoint point;
        const std::size_t i = static_cast<std::size_t>(std::find(t.begin(), t.end(), a) - t.begin()),
                          j = static_cast<std::size_t>(std::find(t.begin(), t.end(), b) - t.begin());
        point.place.vertices = t;
        point.place.weights = {0, 0, 0};
        point.place.weights[i] = 0.5, point.place.weights[j] = 0.5;
        point.pixel = camera.project(p);
        point.outward = camera.project(p + n) - point.pixel;
        if (point.outward.norm() < 1e-6) continue;
        point.outward.normalize();
        const Vec3 towards = camera.towards(p), start = p + 1.0 * n - 600 * towards;
        const SurfaceHit hit = query.first_hit(start, towards);
        const double depth = 600 * towards.norm();
        const double at = hit ? (hit.position - start).norm() : 1e9;
        if (at < depth - 1.5) continue;  // something of the head stands before it
        point.behind_mm = at - depth;
        if (point.behind_mm < kBehindMm) continue;
        taken[cell] = 1;
        out.push_back(point);
    }
    return out;
}

EdgePicture edge_picture(const Pixels& photo, double pixels_per_mm) {
    EdgePicture out;
    out.shrunk = std::min(1.0, 2.5 / std::max(pixels_per_mm, 1e-6));  // two and a half pixels a millimetre are enough
    const cv::Mat rgba(photo.height, photo.width, CV_8UC4, const_cast<std::uint8_t*>(photo.rgba.data()));
    cv::Mat small, real;
    cv::resize(rgba, small, cv::Size(), out.shrunk, out.shrunk, cv::INTER_AREA);
    cv::cvtColor(small, small, cv::COLOR_RGBA2RGB);
    small.convertTo(real, CV_32FC3, 1 / 255.0);
    cv::GaussianBlur(real, real, cv::Size(), 0.8);
    out.width = real.cols, out.height = real.rows;
    out.rgb.assign(reinterpret_cast<const float*>(real.datastart), reinterpret_cast<const float*>(real.dataend));
    return out;
}

Vec3 EdgePicture::colour(const Vec2& pixel) const {
    const double x = std::clamp(pixel.x() * shrunk - 0.5, 0.0, width - 1.001),
                 y = std::clamp(pixel.y() * shrunk - 0.5, 0.0, height - 1.001);
    const int i = static_cast<int>(x), j = static_cast<int>(y);
    const double u = x - i, v = y - j;
    const auto at = [&](int a, int b) {
        const float* c =
            &rgb[3 * (static_cast<std::size_t>(b) * static_cast<std::size_t>(width) + static_cast<std::size_t>(a))];
        return Vec3(c[0], c[1], c[2]);
    };
    const int i1 = std::min(i + 1, width - 1), j1 = std::min(j + 1, height - 1);
    return (1 - v) * ((1 - u) * at(i, j) + u * at(i1, j)) + v * ((1 - u) * at(i, j1) + u * at(i1, j1));
}

bool SkinTone::skin(const Vec3& rgb) const {
    if (!known) return true;
    const Eigen::Vector2d d = chroma(rgb) - mean;
    return rgb.y() > darkest && d.dot(inverse_scatter * d) < 3.5 * 3.5;
}

SkinTone skin_tone(const EdgePicture& picture, const std::vector<Vec2>& on_skin) {
    SkinTone out;
    std::vector<Eigen::Vector2d> tones;
    std::vector<double> green;
    for (const Vec2& p : on_skin) {
        const Vec3 c = picture.colour(p);
        tones.push_back(chroma(c)), green.push_back(c.y());
    }
    if (tones.size() < 20) return out;
    // middle and scatter of the inner half: lips, brows and eyes are among them
    for (int k = 0; k < 2; ++k) {
        std::vector<double> one;
        for (const auto& t : tones) one.push_back(t[k]);
        std::nth_element(one.begin(), one.begin() + static_cast<std::ptrdiff_t>(one.size() / 2), one.end());
        out.mean[k] = one[one.size() / 2];
    }
    std::sort(tones.begin(), tones.end(), [&](const auto& a, const auto& b) {
        return (a - out.mean).squaredNorm() < (b - out.mean).squaredNorm();
    });
    tones.resize(std::max<std::size_t>(10, tones.size() * 3 / 4));
    Eigen::Matrix2d scatter = 4e-4 * Eigen::Matrix2d::Identity();
    for (const auto& t : tones)
        scatter += (t - out.mean) * (t - out.mean).transpose() / static_cast<double>(tones.size());
    out.inverse_scatter = scatter.inverse();
    std::nth_element(green.begin(), green.begin() + static_cast<std::ptrdiff_t>(green.size() / 2), green.end());
    out.darkest = 0.2 * green[green.size() / 2];
    out.known = true;
    return out;
}

std::vector<Sight> outline_sights(const std::vector<ContourPoint>& points, const EdgePicture& picture,
                                  const SkinTone& tone, const PhotoCamera& camera, const Points& shape,
                                  double reach_mm, bool hair) {
    std::vector<Sight> out;
    for (const ContourPoint& p : points) {
        const double scale = camera.pixels_per_mm(p.place.at(shape)), step = 0.5 * scale;
        const int reach = static_cast<int>(std::ceil(reach_mm / 0.5)), window = 4;
        std::vector<Vec3> along;
        for (int i = -reach - window; i <= reach + window; ++i)
            along.push_back(picture.colour(p.pixel + i * step * p.outward));
        std::vector<double> score;
        const auto mean = [&](int from) {  // of `window` samples
            Vec3 sum = Vec3::Zero();
            for (int i = 0; i < window; ++i) sum += along[static_cast<std::size_t>(from + i)];
            return Vec3(sum / window);
        };
        for (int i = window; i <= window + 2 * reach; ++i) {
            const Vec3 inside = mean(i - window), outside = mean(i + 1);
            const double off = (i - window - reach) * 0.5 / reach_mm;
            const double size = (inside - outside).norm();
            score.push_back(tone.skin(inside) ? size * std::exp(-0.5 * off * off) : 0);
        }
        const auto best = std::max_element(score.begin(), score.end()) - score.begin();
        const double most = score[static_cast<std::size_t>(best)];
        if (most < kLeastStep || best == 0 || best + 1 == static_cast<std::ptrdiff_t>(score.size())) continue;
        double second = 0;
        for (std::ptrdiff_t i = 0; i < static_cast<std::ptrdiff_t>(score.size()); ++i) {
            if (std::abs(i - best) > 2 * window) second = std::max(second, score[static_cast<std::size_t>(i)]);
        }
        if (second > kSecondBest * most) continue;
        // beyond a head's outline lies what stands behind it. Where something else begins soon, the step was skin
        // against hair or a collar, and hair against the wall comes later
        if (hair && p.behind_mm > kNowhereMm) {
            const Vec3 just = mean(static_cast<int>(best) + window + 1);
            const Vec2 edge = p.pixel + (static_cast<double>(best) - reach) * step * p.outward;
            double other = 0;
            for (double mm = 4; mm <= kClearMm; mm += kClearEvery) {
                const Vec2 at = edge + mm * scale * p.outward;
                if (at.x() < 0 || at.y() < 0 || at.x() > picture.width / picture.shrunk ||
                    at.y() > picture.height / picture.shrunk)
                    break;
                other = std::max(other, (picture.colour(at) - just).norm());
            }
            if (other > kClearShare * most) continue;
        }
        // the step's middle between samples
        const double a = score[static_cast<std::size_t>(best - 1)], c = score[static_cast<std::size_t>(best + 1)];
        const double bend = a - 2 * most + c, shift = bend < 0 ? std::clamp(0.5 * (a - c) / bend, -0.5, 0.5) : 0;
        const double off = (static_cast<double>(best - reach) + shift) * step;
        out.push_back(sight_across(p, p.pixel + off * p.outward, 1.2 * scale));
    }
    return out;
}

std::vector<Sight> drawn_outline_sights(const std::vector<ContourPoint>& points, const std::vector<Vec2>& line,
                                        const PhotoCamera& camera, const Points& shape, double reach_mm) {
    std::vector<Sight> out;
    for (const ContourPoint& p : points) {
        const double scale = camera.pixels_per_mm(p.place.at(shape));
        double best = reach_mm * scale;
        std::optional<Vec2> at;
        for (std::size_t i = 0; i + 1 < line.size(); ++i) {
            // where the contour's normal meets the line
            const Vec2 d = line[i + 1] - line[i], to = line[i] - p.pixel;
            const double cross = p.outward.x() * d.y() - p.outward.y() * d.x();
            if (std::abs(cross) < 0.5 * d.norm()) continue;  // the line runs another way
            const double s = (to.x() * d.y() - to.y() * d.x()) / cross,
                         u = (to.x() * p.outward.y() - to.y() * p.outward.x()) / cross;
            if (u < 0 || u > 1 || std::abs(s) > best) continue;
            best = std::abs(s), at = p.pixel + s * p.outward;
        }
        if (at) out.push_back(sight_across(p, *at, 0.7 * scale));
    }
    return out;
}

}  // namespace veld
