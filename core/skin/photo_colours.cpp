#include "core/skin/photo_colours.h"

#include <tbb/parallel_for.h>

#include <algorithm>
#include <cmath>

#include "core/linalg/statistics.h"
#include "core/mesh/topology.h"
#include "core/photo/seen.h"
#include "core/skin/heal.h"
#include "core/skin/light.h"
#include "core/skin/log_colour.h"
#include "core/skin/smooth_colours.h"
#include "core/spatial/openness.h"

namespace veld {
namespace {

constexpr double kLeastCosineSeen = 0.2;
constexpr double kSharpness = 5;       // the exponent by which the best photograph wins
constexpr double kLeastWeight = 0.03;  // about 70 degrees off; below it no photograph shows the place
constexpr int kSoftRounds = 3;         // by which weights fade towards what is not seen
constexpr double kMostStep = 1.2;      // of a logarithm between two photographs
constexpr int kWholeRounds = 12, kCalmRounds = 4;
constexpr std::size_t kLeastShared = 30;  // vertices that two photographs show
constexpr double kLiftedMm = 0.3;         // off the surface, where rays to a lamp begin
constexpr double kBurnt = 0.96, kBlack = 0.003;

// Weights fall off towards vertices without one, and never rise.
void soften(std::vector<float>& weight, const Adjacency& ways) {
    for (int round = 0; round < kSoftRounds; ++round) {
        std::vector<float> next = weight;
        for (Index v = 0; v < weight.size(); ++v) {
            float sum = weight[v], count = 1;
            for (const Index* w = ways.begin(v); w != ways.end(v); ++w) sum += weight[*w], ++count;
            next[v] = std::min(weight[v], sum / count);
        }
        weight = std::move(next);
    }
}

}  // namespace

std::vector<SkinPhoto> skin_photos(const std::vector<LookedAt>& looked,
                                   const std::vector<std::optional<PhotoCamera>>& cameras) {
    std::vector<SkinPhoto> out;
    for (std::size_t i = 0; i < looked.size() && i < cameras.size(); ++i) {
        if (!cameras[i]) continue;
        out.push_back({&looked[i].photo.pixels, *cameras[i], {}});
        for (std::size_t s = 0; looked[i].found && s < looked[i].found->samples.size(); ++s)
            out.back().on_skin.push_back(looked[i].found->samples[s].pixel);
    }
    return out;
}

Vec3 PhotoColours::seen_colour(const One& one, const Vec3& place) {
    return linear_between(*one.photo.pixels, one.photo.camera.project(place), false);
}

void PhotoColours::weigh(const BaseKit& kit, const Points& shape) {
    std::vector<PhotoCamera> cameras;
    for (const One& one : photos_) cameras.push_back(one.photo.camera);
    const std::vector<std::uint32_t> visible = visible_in(kit, shape, cameras);
    const Adjacency ways = vertex_neighbours(base_->triangles, static_cast<Index>(shape.size()));
    const Vec3 middle = kit.landmarks.contains("sellion") ? kit.landmarks.at("sellion").at(shape) : Vec3(Vec3::Zero());
    double sharpest = 0;
    for (const PhotoCamera& camera : cameras) sharpest = std::max(sharpest, camera.pixels_per_mm(middle));
    tbb::parallel_for(std::size_t{0}, photos_.size(), [&](std::size_t k) {
        One& one = photos_[k];
        const PhotoCamera& camera = one.photo.camera;
        const EdgePicture picture = edge_picture(*one.photo.pixels, camera.pixels_per_mm(middle));
        VertexMask sees(shape.size(), 0);
        for (std::size_t v = 0; v < sees.size(); ++v) sees[v] = static_cast<char>((visible[v] >> k) & 1u);
        const VertexMask shows = skin_shown(kit, shape, camera, sees, picture, skin_tone(picture, one.photo.on_skin));
        one.weight.assign(shape.size(), 0);
        for (std::size_t v = 0; v < shape.size(); ++v) {
            if (!shows[v]) continue;
            const double cosine = -base_->normals[v].dot(camera.towards(shape[v]));
            const double straight = (cosine - kLeastCosineSeen) / (1 - kLeastCosineSeen);
            if (straight <= 0) continue;
            double value = straight * straight * std::sqrt(camera.pixels_per_mm(shape[v]) / sharpest);
            const Vec3 colour = seen_colour(one, shape[v]);
            if (colour.maxCoeff() > kBurnt || colour.maxCoeff() < kBlack) value *= 0.1;
            one.weight[v] = static_cast<float>(value);
        }
        soften(one.weight, ways);
    });
}

Vec3 PhotoColours::cleaned(const One& one, Index t, const Vec3& shares, double shadow, double shine) const {
    Vec3 out = seen_colour(one, base_->place(t, shares));
    if (one.shadow) out = one.shadow->without(out, t, shares, shadow);
    if (one.shine) out = one.shine->without(out, t, shares, shine);
    return out;
}

void PhotoColours::see_all(One& one, double shadow, double shine) const {
    one.seen.assign(base_->positions.size(), Vec3::Zero());
    for (Index v = 0; v < one.seen.size(); ++v) {
        if (at_vertex_[v].triangle != kNone)
            one.seen[v] = cleaned(one, at_vertex_[v].triangle, at_vertex_[v].shares, shadow, shine);
    }
}

Status PhotoColours::find_shadow(One& one, const std::vector<float>& open, const SurfaceQuery& query,
                                 std::optional<Lamp>& lamp, const Progress& progress) const {
    const std::size_t count = base_->positions.size();
    ShotColours shot{std::vector<std::optional<Vec3>>(count), open, std::vector<float>(count, 1),
                     std::vector<double>(one.weight.begin(), one.weight.end())};
    std::vector<LitPlace> places;
    VertexIndices of;
    for (Index v = 0; v < count; ++v) {
        if (one.weight[v] <= 0) continue;
        shot.log[v] = log_colour(one.seen[v]);
        places.push_back({one.seen[v], base_->normals[v], open[v], one.weight[v]});
        of.push_back(v);
    }
    const auto sees = [&](std::size_t i, const Vec3& towards) {
        return !query.first_hit(base_->positions[of[i]] + kLiftedMm * base_->normals[of[i]], towards);
    };
    lamp = find_lamp(places, sees, progress);
    if (!lamp) return Done{};
    for (std::size_t i = 0; i < of.size(); ++i)
        shot.sees_lamp[of[i]] = base_->normals[of[i]].dot(lamp->towards) <= 0 || sees(i, lamp->towards) ? 1.0f : 0.0f;
    auto found = CastShadow::find(*base_, shot, *lamp);
    if (!found) return found.error();
    one.shadow = std::move(*found);
    return Done{};
}

Status PhotoColours::take_light_out(const std::vector<float>& open, const SurfaceQuery& query,
                                    const Progress& progress) {
    double all = 0;
    for (One& one : photos_) {
        std::optional<Lamp> lamp;
        if (auto ok = find_shadow(one, open, query, lamp, progress); !ok) return ok;
        if (progress.is_cancelled()) return Error{ErrorCode::Cancelled, "Cancelled; nothing was changed."};
        see_all(one, 1, 0);
        std::vector<LitPlace> places;
        double weight = 0;
        for (std::size_t v = 0; v < one.weight.size(); ++v) {
            if (one.weight[v] <= 0) continue;
            places.push_back({one.seen[v], base_->normals[v], open[v], one.weight[v]});
            weight += one.weight[v];
        }
        const SkinLight lit = SkinLight::of(places, lamp);
        if (!lit.known()) continue;
        darkest_ += weight * lit.darkest(), lightest_ += weight * lit.lightest(), all += weight;
        for (std::size_t v = 0; v < one.change.size(); ++v) one.change[v] = lit.light(base_->normals[v], open[v]);
        if (shine_out_ > 0) {
            std::vector<std::optional<Vec3>> logs(one.seen.size());
            for (std::size_t v = 0; v < logs.size(); ++v) {
                if (one.weight[v] > 0) logs[v] = log_colour(one.seen[v]);
            }
            auto found = Shine::find(*base_, logs, one.change);
            if (!found) return found.error();
            one.shine = std::move(*found);
        }
        for (Vec3& change : one.change) change *= -light_out_;
        shadow_ += weight * (one.shadow ? one.shadow->share() : 0);
        shine_ += weight * (one.shine ? one.shine->share() : 0);
    }
    if (all > 0) darkest_ /= all, lightest_ /= all, shadow_ /= all, shine_ /= all;
    return Done{};
}

// First each as a whole: one factor for each photograph brings them nearest to their mean. What is left between them
// in places goes on over the surface as a membrane.
Status PhotoColours::level() {
    if (photos_.size() < 2) return Done{};
    const std::size_t count = base_->positions.size();
    std::vector<Points> logs(photos_.size(), Points(count, Vec3::Zero()));
    std::vector<double> total(count, 0);
    std::vector<int> seen_by(count, 0);
    for (std::size_t k = 0; k < photos_.size(); ++k) {
        const One& one = photos_[k];
        for (std::size_t v = 0; v < count; ++v) {
            if (one.weight[v] <= 0) continue;
            logs[k][v] = log_colour(one.seen[v]) + one.change[v];
            total[v] += one.weight[v], ++seen_by[v];
        }
    }
    const auto mean_of = [&](std::size_t v) {
        Vec3 sum = Vec3::Zero();
        for (std::size_t k = 0; k < photos_.size(); ++k) sum += photos_[k].weight[v] * logs[k][v];
        return Vec3(sum / total[v]);
    };
    const auto step_of = [&](std::size_t k, std::size_t v) {
        return Vec3((mean_of(v) - logs[k][v]).cwiseMax(-kMostStep).cwiseMin(kMostStep));
    };
    for (int round = 0; round < kWholeRounds; ++round) {
        for (std::size_t k = 0; k < photos_.size(); ++k) {
            std::vector<double> steps[3];
            for (std::size_t v = 0; v < count; ++v) {
                if (photos_[k].weight[v] <= 0 || seen_by[v] < 2) continue;
                const Vec3 step = step_of(k, v);
                for (std::size_t c = 0; c < 3; ++c) steps[c].push_back(step[static_cast<Eigen::Index>(c)]);
            }
            if (steps[0].size() < kLeastShared) continue;
            const Vec3 whole(median(steps[0]), median(steps[1]), median(steps[2]));
            for (std::size_t v = 0; v < count; ++v) {
                photos_[k].change[v] += whole;
                if (photos_[k].weight[v] > 0) logs[k][v] += whole;
            }
        }
    }
    const Adjacency ways = vertex_neighbours(base_->triangles, static_cast<Index>(count));
    for (std::size_t k = 0; k < photos_.size(); ++k) {
        One& one = photos_[k];
        Points way(count, Vec3::Zero());
        std::vector<std::uint8_t> known(count, 0);
        for (std::size_t v = 0; v < count; ++v) {
            if (one.weight[v] > 0 && seen_by[v] > 1) known[v] = 1, way[v] = step_of(k, v);
        }
        if (std::none_of(known.begin(), known.end(), [](std::uint8_t is) { return is; })) continue;
        // single places disagree by a freckle that lies a pixel beside itself
        for (int round = 0; round < kCalmRounds; ++round) {
            const Points before = way;
            for (Index v = 0; v < count; ++v) {
                if (!known[v]) continue;
                int others = 1;
                for (const Index* w = ways.begin(v); w != ways.end(v); ++w) {
                    if (known[*w]) way[v] += before[*w], ++others;
                }
                way[v] /= others;
            }
        }
        if (auto ok = membrane(base_->triangles, known, {{&way}}); !ok) return ok;
        for (std::size_t v = 0; v < count; ++v) one.change[v] += way[v];
    }
    return Done{};
}

Result<PhotoColours> PhotoColours::make(const BaseKit& kit, const BakeSurface& base,
                                        const std::vector<SkinPhoto>& photos, double light_out, double shine_out,
                                        const Progress& progress) {
    if (photos.empty())
        return Error{ErrorCode::BadInput, "There is no photograph whose camera is known; make the head first."};
    if (base.level != 0) return Error{ErrorCode::BadInput, "Photographs are baked for the base as it is."};
    PhotoColours out;
    out.base_ = &base, out.light_out_ = light_out, out.shine_out_ = shine_out;
    out.at_vertex_.resize(base.positions.size());
    for (Index t = 0; t < base.triangles.size(); ++t) {
        for (int k = 0; k < 3; ++k)
            out.at_vertex_[base.triangles[t][static_cast<std::size_t>(k)]] = {t, Vec3::Unit(k)};
    }
    for (const SkinPhoto& photo : photos) {
        out.photos_.push_back({photo, {}});
        out.photos_.back().change.assign(base.positions.size(), Vec3::Zero());
        out.see_all(out.photos_.back(), 0, 0);
    }
    progress.say(0.03, "Looking which photograph sees what");
    out.weigh(kit, base.positions);
    if (light_out > 0 || shine_out > 0) {
        const SurfaceQuery query(base.positions, base.triangles);
        const std::vector<float> open = openness_of(base.positions, base.normals, base.triangles, query, {}, progress);
        if (open.empty()) return Error{ErrorCode::Cancelled, "Cancelled; nothing was changed."};
        progress.say(0.1, "Taking the light out of the photographs");
        if (auto ok = out.take_light_out(open, query, progress); !ok) return ok.error();
        for (One& one : out.photos_) out.see_all(one, light_out, shine_out);
    }
    if (auto ok = out.level(); !ok) return ok.error();
    return out;
}

double PhotoColours::weight_at(const One& one, Index t, const Vec3& shares) const {
    const Triangle& c = base_->triangles[t];
    return shares[0] * one.weight[c[0]] + shares[1] * one.weight[c[1]] + shares[2] * one.weight[c[2]];
}

bool PhotoColours::shows(Index t, const Vec3& shares) const {
    return std::any_of(photos_.begin(), photos_.end(),
                       [&](const One& one) { return weight_at(one, t, shares) >= kLeastWeight; });
}

std::optional<Vec3> PhotoColours::at(Index t, const Vec3& shares) const {
    const Triangle& c = base_->triangles[t];
    Vec3 sum = Vec3::Zero();
    double total = 0;
    for (const One& one : photos_) {
        const double weight = weight_at(one, t, shares);
        if (weight < kLeastWeight) continue;
        const Vec3 change = shares[0] * one.change[c[0]] + shares[1] * one.change[c[1]] + shares[2] * one.change[c[2]];
        const double say = std::pow(weight, kSharpness);
        sum += say * cleaned(one, t, shares, light_out_, shine_out_).cwiseProduct(change.array().exp().matrix());
        total += say;
    }
    if (total <= 0) return {};
    return Vec3((sum / total).cwiseMin(1.0));
}

Result<BakeReport> bake_photos(const BaseKit& kit, const Points& shape, const std::vector<SkinPhoto>& photos,
                               const BakeSettings& settings, const std::function<Status(BakedTile&&)>& take,
                               const Progress& progress) {
    const auto base = bake_surface(kit, shape);
    if (!base) return base.error();
    const auto colours = PhotoColours::make(kit, *base, photos, settings.light_out, settings.shine_out, progress);
    if (!colours) return colours.error();
    BakeSource source;
    source.photos = &*colours;
    return bake(*base, kit.mesh, source, settings, take, progress);
}

}  // namespace veld
