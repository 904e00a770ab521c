#include "core/detect/find_ear.h"

#include <tbb/parallel_for.h>

#include <Eigen/Cholesky>
#include <cmath>
#include <set>

#include "core/detect/ear_model.h"
#include "core/detect/side_relief.h"
#include "core/kit/kit_surface.h"
#include "core/linalg/statistics.h"

namespace veld {
namespace {

constexpr double kEarReachMm = 9, kLiesMm = 2.5;  // of a match; a place this near counts 0.6
constexpr double kFacesAlike = 0.5;               // cosine
constexpr double kSideways = 0.85;                // facing outwards like the side of a head: tells little
constexpr std::size_t kSamples = 130, kRelief = 160, kTried = 240, kRefined = 8;
constexpr double kEarWindowMm = 54;
constexpr double kRimPull = 2;  // of a clear edge, against 1 for the surface
constexpr int kRimRounds = 3;
constexpr double kEarStep = 1e-3;  // of a spread, for derivatives
constexpr std::size_t kFollowed = 3;
constexpr double kFirstReachMm = 14, kLastReachMm = 5;
constexpr double kWindowMm = 14, kWindowReachMm = 6, kWindowFitMm = 1.2;
constexpr double kSeenFromTheSide = 0.1, kWindowPrior = 0.002;  // cosine; of the worth (at most 1) for each mm^2
constexpr int kWindowRounds = 12;
constexpr double kElsewhereMm = 12;  // between the middles of two ears that are not one
constexpr double kBesideMm = 11;     // mm from the ear: what stands out farther off is something else

const EarNumbers kEarSpread = ear_spread();
constexpr double kEarPrior = 0.2,
                 kEarEase = 0.6;  // mm^2 that one spread may cost; of the reach, where a match counts a quarter

struct EarPose {
    EarNumbers number = EarNumbers::Zero();
    double lies = 0, covers = 0, off = 0;
    double worth() const { return lies * covers; }
};

class EarFinder {
 public:
    EarFinder(const BaseKit& kit, const EarAxes& axes, const VertexIndices& vertices, const SourceSurface& surface,
              SideRelief relief, const std::vector<SurfacePoint>& rim)
        : kit_(kit),
          axes_(axes),
          vertices_(vertices),
          surface_(surface),
          relief_(std::move(relief)),
          model_(kit, axes, vertices) {
        make_samples();
        for (const SurfacePoint& at : rim) rim_.push_back(model_.place(at));
    }
    std::vector<EarPose> starts(const Progress& progress) const;
    void refine(EarPose& pose, const std::vector<RimPoint>& rim = {}) const;
    std::vector<RimPoint> follow_rim(const EarPose& pose) const;
    void judge(EarPose& pose) const;
    Points places(const EarPose& pose) const;
    Vec3 window(const EarPose& pose, const SurfacePoint& on_base) const;
    RimView view(const EarPose& pose) const;

 private:
    struct Laid {
        Points places, normals;
    };
    struct Pull {
        EarPlace place;
        Vec3 normal;
        double off, weight;
    };
    void make_samples();
    Vec3 placed(const EarNumbers& x, const EarPlace& at) const { return model_.placed(x, at); }
    static Vec3 normal(const EarModel::Ear& ear, const EarPlace& at, const Vec3& way) {
        return (ear(at.moved(0.5 * way)) - ear(at)).normalized();
    }
    Laid laid(const EarNumbers& x) const;
    double covered(const Laid& ear, std::vector<Pull>* pulls, double reach) const;
    std::vector<Pull> pulls(const EarNumbers& x, double reach) const;
    void pull_to_rim(const EarNumbers& x, const std::vector<RimPoint>& rim, std::vector<Pull>& out) const;

    const BaseKit& kit_;
    const EarAxes axes_;
    const VertexIndices& vertices_;
    const SourceSurface& surface_;
    SideRelief relief_;
    const EarModel model_;
    std::vector<EarPlace> sample_, rim_;  // of the ear; of the base's curve
    Points sample_normal_;                // in the ear's axes
    std::vector<double> weight_;          // add up to 1
};

void EarFinder::make_samples() {
    const std::set<Index> in(vertices_.begin(), vertices_.end());
    Points normals(kit_.mesh.positions.size(), Vec3::Zero());
    const Points& p = kit_.mesh.positions;
    for (const Triangle& t : kit_.triangulation.triangles) {
        if (!in.contains(t[0]) || !in.contains(t[1]) || !in.contains(t[2])) continue;
        for (const Index v : t) normals[v] += (p[t[1]] - p[t[0]]).cross(p[t[2]] - p[t[0]]);
    }
    const std::size_t step = std::max<std::size_t>(1, vertices_.size() / kSamples);
    double sum = 0;
    for (std::size_t i = 0; i < vertices_.size(); i += step) {
        if (normals[vertices_[i]].isZero()) continue;
        const Vec3 n = normals[vertices_[i]].normalized();
        sample_.push_back(model_.place(vertices_[i]));
        sample_normal_.push_back(axes_.turned(n));
        weight_.push_back(n.dot(axes_.out) > kSideways ? 0.4 : 1.0);
        sum += weight_.back();
    }
    for (double& w : weight_) w /= sum;
    // the relief by as many places as are needed
    SideRelief fewer;
    const std::size_t every = std::max<std::size_t>(1, relief_.places.size() / kRelief);
    for (std::size_t i = 0; i < relief_.places.size(); i += every) {
        fewer.places.push_back(relief_.places[i]), fewer.normals.push_back(relief_.normals[i]);
        fewer.height.push_back(relief_.height[i]);
    }
    relief_ = std::move(fewer);
}

EarFinder::Laid EarFinder::laid(const EarNumbers& x) const {
    Laid out;
    const EarModel::Ear ear = model_.ear(x);
    for (std::size_t i = 0; i < sample_.size(); ++i) {
        out.places.push_back(ear(sample_[i]));
        out.normals.push_back(normal(ear, sample_[i], sample_normal_[i]));
    }
    return out;
}

// How much of what stands out near the ear lies on it.
double EarFinder::covered(const Laid& ear, std::vector<Pull>* pulls, double reach) const {
    double all = 0, near = 0;
    for (std::size_t s = 0; s < relief_.places.size(); ++s) {
        double best = 1e9, any = 1e9;
        std::size_t at = 0;
        for (std::size_t i = 0; i < ear.places.size(); ++i) {
            const double d2 = (relief_.places[s] - ear.places[i]).squaredNorm();
            any = std::min(any, d2);
            if (d2 < best && relief_.normals[s].dot(ear.normals[i]) > kFacesAlike) best = d2, at = i;
        }
        if (any > kBesideMm * kBesideMm) continue;
        const double d = std::sqrt(best);
        const double off = best < 1e8 ? std::abs(relief_.normals[s].dot(relief_.places[s] - ear.places[at])) : 1e9;
        ++all;
        if (d < 9) near += std::exp(-0.5 * off * off / (kLiesMm * kLiesMm));
        if (pulls && d < 1.4 * reach)
            pulls->push_back(
                {sample_[at], relief_.normals[s], relief_.normals[s].dot(relief_.places[s] - ear.places[at]), 1});
    }
    return near / std::max(all, 0.12 * static_cast<double>(kRelief));
}

void EarFinder::judge(EarPose& pose) const {
    const Laid ear = laid(pose.number);
    std::vector<double> off;
    pose.lies = 0;
    for (std::size_t i = 0; i < ear.places.size(); ++i) {
        const FacingFilter facing{ear.normals[i], kFacesAlike};
        const SurfaceHit hit = surface_.closest(ear.places[i], kEarReachMm, &facing);
        if (!hit) continue;
        pose.lies += weight_[i] * std::exp(-0.5 * hit.distance * hit.distance / (kLiesMm * kLiesMm));
        off.push_back(hit.distance);
    }
    pose.off = quantile(std::move(off), 0.5);
    pose.covers = covered(ear, nullptr, 0);
}

std::vector<EarPose> EarFinder::starts(const Progress& progress) const {
    std::vector<EarPose> tries;
    for (const double off : {-0.15, 0.2, 0.55}) {
        for (const double size : {-0.2, 0.0, 0.2}) {
            for (const double lean : {-0.25, 0.05, 0.35}) {
                for (double up = -21; up <= 21; up += 7) {
                    for (double back = -24; back <= 24; back += 8) {
                        for (const double out : {-8.0, 0.0}) {
                            EarPose pose;
                            pose.number[kOff] = off, pose.number[kSize] = size, pose.number[kTurnZ] = -lean;
                            pose.number.segment<3>(kMoveX) = Vec3(back, up, out);
                            tries.push_back(pose);
                        }
                    }
                }
            }
        }
    }
    // cheap first: what stands out; then with the surface
    tbb::parallel_for(std::size_t{0}, tries.size(), [&](std::size_t i) {
        if (!progress.is_cancelled()) tries[i].covers = covered(laid(tries[i].number), nullptr, 0);
    });
    const auto by_cover = [](const EarPose& a, const EarPose& b) { return a.covers > b.covers; };
    std::stable_sort(tries.begin(), tries.end(), by_cover);
    tries.resize(std::min(tries.size(), kTried));
    tbb::parallel_for(std::size_t{0}, tries.size(), [&](std::size_t i) {
        if (!progress.is_cancelled()) judge(tries[i]);
    });
    std::stable_sort(tries.begin(), tries.end(),
                     [](const EarPose& a, const EarPose& b) { return a.worth() > b.worth(); });
    std::vector<EarPose> out;
    for (const EarPose& t : tries) {
        bool near = false;
        for (const EarPose& k : out)
            near |= (k.number - t.number).cwiseQuotient(kEarSpread).segment<8>(1).cwiseAbs().maxCoeff() < 1.2;
        if (!near) out.push_back(t);
        if (out.size() == kRefined) break;
    }
    return out;
}

std::vector<EarFinder::Pull> EarFinder::pulls(const EarNumbers& x, double reach) const {
    const Laid ear = laid(x);
    std::vector<Pull> out;
    covered(ear, &out, reach);
    double sum = 0;
    for (Pull& p : out) p.weight = geman_mcclure(p.off, kEarEase * reach), sum += 1;
    for (Pull& p : out) p.weight /= std::max(sum, 20.0);
    for (std::size_t i = 0; i < ear.places.size(); ++i) {
        const FacingFilter facing{ear.normals[i], kFacesAlike};
        const SurfaceHit hit = surface_.closest(ear.places[i], reach, &facing);
        if (!hit) continue;
        const Vec3& n = surface_.query->triangle_normals()[hit.triangle];
        out.push_back({sample_[i], n, n.dot(hit.position - ear.places[i]),
                       weight_[i] * geman_mcclure(hit.distance, kEarEase * reach)});
    }
    return out;
}

// The clear places of the edge draw the base's rim, wherever along it.
void EarFinder::pull_to_rim(const EarNumbers& x, const std::vector<RimPoint>& rim, std::vector<Pull>& out) const {
    Points laid;
    for (const EarPlace& p : rim_) laid.push_back(placed(x, p));
    double clear = 0;
    for (const RimPoint& r : rim) clear += r.clear;
    for (const RimPoint& r : rim) {
        if (r.clear < 0.3) continue;
        double best = 1e18, along = 0;
        std::size_t at = 0;
        for (std::size_t i = 0; i + 1 < laid.size(); ++i) {
            const Vec3 d = laid[i + 1] - laid[i];
            const double t = std::clamp((r.place - laid[i]).dot(d) / std::max(1e-9, d.squaredNorm()), 0.0, 1.0);
            const double d2 = (laid[i] + t * d - r.place).squaredNorm();
            if (d2 < best) best = d2, at = i, along = t;
        }
        const EarPlace place = between(rim_[at], rim_[at + 1], along);
        const Vec3 off = r.place - placed(x, place);
        if (off.norm() > 1e-6)
            out.push_back({place, off.normalized(), off.norm(), kRimPull * r.clear / std::max(clear, 6.0)});
    }
}

std::vector<RimPoint> EarFinder::follow_rim(const EarPose& pose) const {
    Points guess;
    for (const EarPlace& p : rim_) guess.push_back(placed(pose.number, p));
    return trace_rim(surface_, view(pose), guess);
}

void EarFinder::refine(EarPose& pose, const std::vector<RimPoint>& rim) const {
    for (int round = 0; round < 26; ++round) {
        const double reach = kFirstReachMm * std::pow(kLastReachMm / kFirstReachMm, std::min(1.0, round / 18.0));
        const EarNumbers x = pose.number;
        Eigen::Matrix<double, kEarNumbers, kEarNumbers> a = Eigen::Matrix<double, kEarNumbers, kEarNumbers>::Zero();
        EarNumbers b = EarNumbers::Zero();
        std::vector<Pull> all = pulls(x, reach);
        pull_to_rim(x, rim, all);
        const EarModel::Ear now = model_.ear(x);
        std::vector<EarModel::Ear> moved;
        for (int k = 0; k < kEarNumbers; ++k) {
            EarNumbers other = x;
            other[k] += kEarStep * kEarSpread[k];
            moved.push_back(model_.ear(other));
        }
        for (const Pull& pull : all) {
            const Vec3 at = now(pull.place);
            EarNumbers row;
            for (int k = 0; k < kEarNumbers; ++k)
                row[k] =
                    pull.normal.dot(moved[static_cast<std::size_t>(k)](pull.place) - at) / (kEarStep * kEarSpread[k]);
            a += pull.weight * row * row.transpose(), b += pull.weight * pull.off * row;
        }
        for (int k = 0; k < kEarNumbers; ++k) {
            const double hold = kEarPrior / (kEarSpread[k] * kEarSpread[k]);
            a(k, k) += hold, b[k] -= hold * x[k];
        }
        const EarNumbers step = a.ldlt().solve(b);
        pose.number += step;
        if (step.cwiseQuotient(kEarSpread).norm() < 2e-3) break;
    }
    judge(pose);
}

Points EarFinder::places(const EarPose& pose) const {
    Points out;
    for (const Index v : vertices_) out.push_back(placed(pose.number, model_.place(v)));
    return out;
}

// Where a place of the base is by the form around it alone: the ear says about where, but not how the tragus lies in
// it; nor do the forms, which are of the ear.
Vec3 EarFinder::window(const EarPose& pose, const SurfacePoint& on_base) const {
    Points places, normals;
    const Vec3 middle = on_base.at(kit_.mesh.positions);
    const Points& of_kit = kit_normals(kit_);
    const EarModel::Ear ear = model_.ear(pose.number);
    for (const Index v : kit_.part("skin")->vertices) {
        const Vec3& p = kit_.mesh.positions[v];
        if ((p - middle).norm() > kWindowMm || of_kit[v].dot(axes_.out) < kSeenFromTheSide) continue;
        const EarPlace at = model_.place(v).bare();
        places.push_back(ear(at));
        normals.push_back(normal(ear, at, axes_.turned(of_kit[v])));
    }
    Vec3 best = Vec3::Zero();
    double most = -1e9;
    for (const double up : {-9.0, -4.5, 0.0, 4.5, 9.0}) {
        for (const double back : {-5.0, 0.0, 5.0}) {
            Vec3 move = up * axes_.up + back * axes_.back;
            double worth = 0;
            for (int round = 0; round < kWindowRounds; ++round) {
                Mat3 a = 1e-3 * Mat3::Identity();
                Vec3 b = Vec3::Zero();
                worth = 0;
                for (std::size_t i = 0; i < places.size(); ++i) {
                    const FacingFilter facing{normals[i], kFacesAlike};
                    const Vec3 p = places[i] + move;
                    const SurfaceHit hit = surface_.closest(p, kWindowReachMm, &facing);
                    if (!hit) continue;
                    const Vec3& n = surface_.query->triangle_normals()[hit.triangle];
                    const double w = geman_mcclure(hit.distance, kWindowFitMm);
                    a += w * n * n.transpose(), b += w * n.dot(hit.position - p) * n;
                    worth += std::exp(-0.5 * hit.distance * hit.distance / (kWindowFitMm * kWindowFitMm));
                }
                const Vec3 step = a.ldlt().solve(b);
                move += step;
                if (step.norm() < 0.01) break;
            }
            worth = worth / static_cast<double>(std::max<std::size_t>(1, places.size())) -
                    kWindowPrior * move.squaredNorm();
            if (worth > most) most = worth, best = move;
        }
    }
    return placed(pose.number, model_.place(on_base).bare()) + best;
}

// Along the ear as it lies there.
RimView EarFinder::view(const EarPose& pose) const {
    const double l = axes_.length;
    const auto at = [&](const Vec3& local) { return placed(pose.number, EarPlace{}.moved(local)); };
    RimView out;
    out.middle = at(Vec3(0.26 * l, 0.02 * l, 4));
    out.up = (at(Vec3(0.26 * l, 0.3 * l, 4)) - out.middle).normalized();
    const Vec3 back = at(Vec3(0.45 * l, 0.02 * l, 4)) - out.middle;
    out.back = (back - back.dot(out.up) * out.up).normalized();
    out.out = out.back.cross(out.up);
    if (out.out.dot(axes_.out) < 0) out.out = -out.out;
    return out;
}

}  // namespace

std::optional<FoundEar> find_ear(const BaseKit& kit, const std::map<std::string, SurfacePoint>& base_points,
                                 const std::string& side, const SourceSurface& surface, const Progress& progress) {
    const VertexIndices& vertices = kit.region("ear_" + side);
    const auto axes = ear_axes(kit, base_points, side);
    const auto curve = kit.curves.find("ear_rim_" + side);
    if (vertices.size() < 30 || curve == kit.curves.end() || !axes || surface.triangles.empty()) return {};
    const Vec3 about = axes->root + 0.25 * axes->length * axes->back;
    const EarFinder finder(kit, *axes, vertices, surface,
                           side_relief(surface, about, side == "l" ? 1 : -1, kEarWindowMm), curve->second);
    std::vector<EarPose> kept = finder.starts(progress);
    if (kept.empty() || progress.is_cancelled()) return {};
    tbb::parallel_for(std::size_t{0}, kept.size(), [&](std::size_t i) { finder.refine(kept[i]); });
    std::stable_sort(kept.begin(), kept.end(),
                     [](const EarPose& a, const EarPose& b) { return a.worth() > b.worth(); });
    // which of the first few is an ear, its edge tells
    struct Followed {
        EarPose pose;
        std::vector<RimPoint> rim;
        double clear = 0, worth = 0;
    };
    std::vector<Followed> followed(std::min<std::size_t>(kFollowed, kept.size()));
    tbb::parallel_for(std::size_t{0}, followed.size(), [&](std::size_t i) {
        Followed& f = followed[i];
        f.pose = kept[i], f.rim = finder.follow_rim(f.pose);
        for (int round = 0; round < kRimRounds && !progress.is_cancelled(); ++round) {
            finder.refine(f.pose, f.rim);
            f.rim = finder.follow_rim(f.pose);
        }
        for (const RimPoint& p : f.rim) f.clear += p.clear / static_cast<double>(f.rim.size());
        f.worth = f.pose.worth() * (0.5 + f.clear);
    });
    const auto first = std::max_element(followed.begin(), followed.end(),
                                        [](const Followed& a, const Followed& b) { return a.worth < b.worth; });
    const EarPose best = first->pose;
    double rival = 0;
    const Vec3 middle = finder.view(best).middle;
    for (const EarPose& other : kept) {
        if ((finder.view(other).middle - middle).norm() > kElsewhereMm) rival = std::max(rival, other.worth());
    }
    FoundEar out;
    out.vertices = vertices, out.places = finder.places(best), out.rim = std::move(first->rim),
    out.clear = first->clear;
    out.lies = best.lies, out.covers = best.covers, out.off_mm = best.off;
    out.tragion = finder.window(best, base_points.at("tragion_" + side));
    out.rival = std::min(1.0, rival / std::max(1e-9, best.worth()));
    return out;
}

}  // namespace veld
