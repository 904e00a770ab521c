#include "core/photo/likeness.h"

#include <algorithm>
#include <cmath>
#include <functional>
#include <opencv2/imgproc.hpp>

#include "core/kit/kit_surface.h"
#include "core/mesh/topology.h"

namespace veld {
namespace {

constexpr double kStepMm = 1, kBlurMm = 1.2;
constexpr int kMostTexture = 1024;
constexpr double kApartMm = 5;  // a second best is elsewhere when it is this far away
constexpr double kFaint = 0.5;  // of the middling step: fainter ones count little

// A square around a place, one value a millimetre.
cv::Mat square(int half, const std::function<Vec3(const Vec2& mm)>& colour) {
    cv::Mat out(2 * half + 1, 2 * half + 1, CV_32FC3);
    for (int y = -half; y <= half; ++y) {
        for (int x = -half; x <= half; ++x) {
            const Vec3 c = colour(kStepMm * Vec2(x, y));
            out.at<cv::Vec3f>(y + half, x + half) = {static_cast<float>(c.x()), static_cast<float>(c.y()),
                                                     static_cast<float>(c.z())};
        }
    }
    cv::GaussianBlur(out, out, cv::Size(), kBlurMm / kStepMm);
    return out;
}

// Twice the edge's angle as a vector, as long as the edge is clear.
cv::Mat directions(const cv::Mat& colours) {
    cv::Mat dx, dy, out(colours.size(), CV_32FC2);
    cv::Sobel(colours, dx, CV_32F, 1, 0), cv::Sobel(colours, dy, CV_32F, 0, 1);
    std::vector<float> sizes;
    for (int y = 0; y < colours.rows; ++y) {
        for (int x = 0; x < colours.cols; ++x) {
            cv::Vec2f best(0, 0);
            for (int c = 0; c < 3; ++c) {
                const cv::Vec2f g(dx.at<cv::Vec3f>(y, x)[c], dy.at<cv::Vec3f>(y, x)[c]);
                if (g.dot(g) > best.dot(best)) best = g;
            }
            out.at<cv::Vec2f>(y, x) = best;
            sizes.push_back(std::sqrt(best.dot(best)));
        }
    }
    std::nth_element(sizes.begin(), sizes.begin() + static_cast<std::ptrdiff_t>(sizes.size() * 3 / 4), sizes.end());
    const float faint = std::max(static_cast<float>(kFaint) * sizes[sizes.size() * 3 / 4], 1e-4f);
    for (auto at = out.begin<cv::Vec2f>(); at != out.end<cv::Vec2f>(); ++at) {
        const float size = std::sqrt((*at).dot(*at));
        const float a = size > 0 ? (*at)[0] / size : 0, b = size > 0 ? (*at)[1] / size : 0,
                    weight = size * size / (size * size + faint * faint);
        *at = {weight * (a * a - b * b), weight * 2 * a * b};
    }
    return out;
}

struct Best {
    int x = 0, y = 0;
    double match = -1, second = -1;
};

Best slide(const cv::Mat& pattern, const cv::Mat& over) {
    cv::Mat score;
    cv::matchTemplate(over, pattern, score, cv::TM_CCORR_NORMED);
    Best out;
    for (int y = 0; y < score.rows; ++y) {
        for (int x = 0; x < score.cols; ++x) {
            if (score.at<float>(y, x) > out.match) out = {x, y, score.at<float>(y, x), -1};
        }
    }
    for (int y = 0; y < score.rows; ++y) {
        for (int x = 0; x < score.cols; ++x) {
            if (std::hypot(x - out.x, y - out.y) * kStepMm > kApartMm)
                out.second = std::max(out.second, static_cast<double>(score.at<float>(y, x)));
        }
    }
    out.x -= score.cols / 2, out.y -= score.rows / 2;
    return out;
}

}  // namespace

Likeness::Likeness(const BaseKit& kit)
    : kit_(kit), colour_(kit.mesh, kMostTexture), solid_(solid_triangles(kit)), fan_(solid_fans(kit)) {}

std::vector<FeatureFound> Likeness::find(const std::vector<Feature>& features, const Points& shape,
                                         const PhotoCamera& camera, const EdgePicture& picture) const {
    const SurfaceQuery query(shape, solid_);
    const Points normals = vertex_normals(shape, solid_);
    std::vector<FeatureFound> out;
    for (const Feature& f : features) {
        Vec3 middle = Vec3::Zero();
        for (const std::string& name : f.names)
            middle += kit_.landmarks.at(name).at(shape) / static_cast<double>(f.names.size());
        const Vec2 at = camera.project(middle);
        const double scale = camera.pixels_per_mm(middle);
        const auto drawn = [&](const Vec2& mm) {
            const PixelRay ray = ray_through(camera, at + scale * mm);
            const SurfaceHit hit = query.first_front_hit(ray.origin, ray.direction);
            if (!hit) return Vec3(0.7, 0.7, 0.7);
            Vec3 n = Vec3::Zero();
            for (std::size_t k = 0; k < 3; ++k) n += hit.barycentric[k] * normals[solid_[hit.triangle][k]];
            const auto skin = colour_.at(kit_.mesh, kit_.triangulation, fan_[hit.triangle], hit.barycentric);
            return Vec3((0.35 + 0.65 * std::abs(n.normalized().dot(ray.direction))) *
                        skin.value_or(Vec3(0.7, 0.6, 0.55)));
        };
        const int half = static_cast<int>(f.half_mm / kStepMm), reach = static_cast<int>(f.reach_mm / kStepMm);
        const cv::Mat pattern = directions(square(half, drawn));
        const cv::Mat over =
            directions(square(half + reach, [&](const Vec2& mm) { return picture.colour(at + scale * mm); }));
        const Best best = slide(pattern, over);
        out.push_back({f, kStepMm * scale * Vec2(best.x, best.y), best.match, best.second});
    }
    return out;
}

}  // namespace veld
