#include "core/photo/profile.h"

#include <tbb/parallel_for.h>

#include <algorithm>
#include <cmath>
#include <opencv2/imgproc.hpp>

#include "core/kit/kit_surface.h"
#include "core/photo/likeness.h"
#include "core/photo/seen.h"

namespace veld {
namespace {

constexpr int kSearchPixels = 128;  // the longer side of the picture that is searched
constexpr double kForeheadMm = 38;  // above the root of the nose: hair may hang as low
constexpr double kHeadMm = 250, kLeastShare = 0.22, kMostShare = 1.0, kLarger = 1.08;  // a head's share of the height
constexpr double kFullStep = 0.10;  // a step of this much is as good an edge as any
constexpr double kAgainst = 0.6;    // an edge that runs across counts against
constexpr std::size_t kFollowed = 8;
constexpr double kInsideMm = 8, kHoldMm = 5, kSideSigma = 4;  // degrees: a portrait from the side is meant as one
constexpr double kAlike = 0.38, kAlone = 0.06, kLikeMm = 2.5;
constexpr double kOffWeighs = 0.4, kAskewWeighs = 0.01, kLeastYaw = 62;
// The search's own score tells sides from other pictures better than how its edges could be followed: made-up sides
// and the demo's 3.72 at least, fronts, three-quarters, walls and shelves 3.46 at most (bench photo_accuracy
// --believe).
constexpr double kScoreTells = 4, kBelieved = 3.6;
constexpr double kOnOutlineMm = 2.5, kInsideShare = 0.2, kMostMm = 15,
                 kEdgeMm = 3.5;  // how far off a mark may be: on the outline, and for each mm inside

// A place of the outline on the base, seen from one side by a parallel camera of one pixel a millimetre.
struct Template {
    double yaw = 0;
    std::vector<Vec2> at, outward;  // from the middle of the head
};

Mat3 turned(double yaw, double roll) {
    const double a = yaw * M_PI / 180, c = roll * M_PI / 180;
    const Vec3 back(std::sin(a), 0, std::cos(a)), right(std::cos(a), 0, -std::sin(a));
    Mat3 turn;
    turn.row(0) = right, turn.row(1) = right.cross(back), turn.row(2) = -back;
    return Eigen::AngleAxisd(c, Vec3::UnitZ()).toRotationMatrix() * turn;
}

Vec3 middle_of(const BaseKit& kit) { return kit.landmarks.at("sellion").at(kit.mesh.positions) + Vec3(0, -30, -70); }

// The part of an outline that is a face's profile: in front, from the forehead to the throat.
bool of_profile(const BaseKit& kit, const Points& shape, const PhotoCamera& camera, const ContourPoint& p) {
    const Vec3 front = camera.turn * Vec3::UnitZ();
    const double y = p.place.at(shape).y(), top = kit.landmarks.at("sellion").at(shape).y() + kForeheadMm,
                 low = kit.landmarks.at("gnathion").at(shape).y() - 12;
    return p.behind_mm > 150 && y < top && y > low && p.outward.dot(Vec2(front.x(), front.y()).normalized()) > -0.2;
}

std::vector<Template> templates(const BaseKit& kit, const OutlineSurface& surface) {
    std::vector<Template> out;
    const Points& shape = kit.mesh.positions;
    for (const double yaw : {-104, -90, -76, 76, 90, 104}) {
        PhotoCamera camera;
        camera.parallel = true, camera.focal = 1;
        camera.turn = turned(yaw, 0), camera.move = -camera.turn * middle_of(kit);
        Template t;
        t.yaw = yaw;
        for (const ContourPoint& p : contour(surface, shape, camera, 5)) {
            if (of_profile(kit, shape, camera, p)) t.at.push_back(p.pixel), t.outward.push_back(p.outward);
        }
        if (t.at.size() >= 12) out.push_back(std::move(t));
    }
    return out;
}

// The strongest channel's step at each pixel, as a direction no longer than 1.
struct Edges {
    int width = 0, height = 0;
    double shrunk = 1;
    std::vector<Eigen::Vector2f> step;
};

Edges edges_of(const Pixels& photo) {
    Edges out;
    out.shrunk = std::min(1.0, static_cast<double>(kSearchPixels) / std::max(photo.width, photo.height));
    const cv::Mat rgba(photo.height, photo.width, CV_8UC4, const_cast<std::uint8_t*>(photo.rgba.data()));
    cv::Mat small, real, dx, dy;
    cv::resize(rgba, small, cv::Size(), out.shrunk, out.shrunk, cv::INTER_AREA);
    cv::cvtColor(small, small, cv::COLOR_RGBA2RGB);
    small.convertTo(real, CV_32FC3, 1 / 255.0);
    cv::GaussianBlur(real, real, cv::Size(), 0.7);
    cv::Sobel(real, dx, CV_32F, 1, 0, 3, 0.25), cv::Sobel(real, dy, CV_32F, 0, 1, 3, 0.25);
    out.width = real.cols, out.height = real.rows;
    for (int y = 0; y < real.rows; ++y) {
        for (int x = 0; x < real.cols; ++x) {
            Eigen::Vector2f best = Eigen::Vector2f::Zero();
            for (int c = 0; c < 3; ++c) {
                const Eigen::Vector2f g(dx.at<cv::Vec3f>(y, x)[c], dy.at<cv::Vec3f>(y, x)[c]);
                if (g.squaredNorm() > best.squaredNorm()) best = g;
            }
            const float size = best.norm();
            out.step.push_back(size > kFullStep ? Eigen::Vector2f(best / size)
                                                : Eigen::Vector2f(best / static_cast<float>(kFullStep)));
        }
    }
    return out;
}

struct Place {
    double score = -1, yaw = 0, roll = 0, scale = 1;  // scale: pixels of the photograph for a millimetre
    Vec2 at = Vec2::Zero();                           // of the head's middle, in the photograph
};

// The best place for one template at one size and lean.
Place best_place(const Edges& edges, const Template& t, double scale, double roll) {
    Place out;
    const Eigen::Rotation2Dd lean(roll * M_PI / 180);
    std::vector<Eigen::Vector2i> at;
    std::vector<Eigen::Vector2f> normal;
    Eigen::Vector2i low(1 << 20, 1 << 20), high(-(1 << 20), -(1 << 20));
    for (std::size_t i = 0; i < t.at.size(); ++i) {
        const Vec2 p = scale * (lean * t.at[i]);
        const Eigen::Vector2i pixel(static_cast<int>(std::floor(p.x())), static_cast<int>(std::floor(p.y())));
        if (!at.empty() && at.back() == pixel) continue;  // finer than the picture
        at.push_back(pixel), normal.push_back((lean * t.outward[i]).cast<float>());
        low = low.cwiseMin(pixel), high = high.cwiseMax(pixel);
    }
    if (at.size() < 10) return out;
    for (int y = -low.y(); y < edges.height - high.y(); ++y) {
        for (int x = -low.x(); x < edges.width - high.x(); ++x) {
            float sum = 0;
            for (std::size_t i = 0; i < at.size(); ++i) {
                const Eigen::Vector2f& g =
                    edges.step[static_cast<std::size_t>(y + at[i].y()) * static_cast<std::size_t>(edges.width) +
                               static_cast<std::size_t>(x + at[i].x())];
                sum += std::abs(g.dot(normal[i])) -
                       static_cast<float>(kAgainst) * std::abs(g.x() * normal[i].y() - g.y() * normal[i].x());
            }
            const double score = sum / static_cast<double>(at.size());
            if (score > out.score)
                out = {score, t.yaw, roll, scale / edges.shrunk, Vec2(x + 0.5, y + 0.5) / edges.shrunk};
        }
    }
    return out;
}

// The few best places; fewer than all were tried when it is cancelled.
std::vector<Place> search(const Edges& edges, const std::vector<Template>& all, const Progress& progress) {
    struct Trial {
        double scale, roll;
    };
    std::vector<Trial> trials;
    for (double share = kLeastShare; share <= kMostShare; share *= kLarger) {
        for (int roll = -20; roll <= 20; roll += 5)
            trials.push_back({share * edges.height / kHeadMm, static_cast<double>(roll)});
    }
    std::vector<Place> found;
    for (const Template& t : all) {
        if (progress.is_cancelled()) break;
        const std::size_t before = found.size();
        found.resize(before + trials.size());
        tbb::parallel_for(std::size_t{0}, trials.size(), [&](std::size_t i) {
            found[before + i] = best_place(edges, t, trials[i].scale, trials[i].roll);
        });
    }
    std::stable_sort(found.begin(), found.end(), [](const Place& a, const Place& b) { return a.score > b.score; });
    std::vector<Place> out;
    for (const Place& p : found) {
        const bool known = std::any_of(out.begin(), out.end(), [&](const Place& o) {
            return o.yaw * p.yaw > 0 && (o.at - p.at).norm() < 25 * p.scale &&
                   std::abs(std::log(o.scale / p.scale)) < 0.12;
        });
        if (!known) out.push_back(p);
        if (out.size() >= kFollowed) break;
    }
    return out;
}

PhotoCamera camera_at(const BaseKit& kit, const Photo& photo, const Place& p) {
    PhotoCamera out;
    out.width = photo.pixels.width, out.height = photo.pixels.height, out.centre = 0.5 * Vec2(out.width, out.height);
    out.focal = focal_pixels(photo.focal_35mm > 0 ? photo.focal_35mm : kUsualLens, out.width, out.height);
    out.turn = turned(p.yaw, p.roll);
    const Vec2 d = (p.at - out.centre) / p.scale;
    out.move = Vec3(d.x(), d.y(), out.focal / p.scale) - out.turn * middle_of(kit);
    return out;
}

// One candidate, followed along its edges.
struct Followed {
    PhotoCamera camera;
    Points shape;
    Eigen::VectorXd z;
    std::map<std::string, Vec2> inside;  // landmarks that were found by their looks
    double score = 0;                    // of the search
    double share = 0, rms_mm = 1e9;      // of the profile that lies on an edge; how far off what does
    // which of several
    double quality() const {
        const double yaw = std::abs(head_turn(camera).yaw);
        return yaw < kLeastYaw || yaw > 180 - kLeastYaw
                   ? 0
                   : score + share - kOffWeighs * rms_mm - kAskewWeighs * std::max(0.0, std::abs(yaw - 90) - 5);
    }
    bool believed() const { return quality() > 0 && quality() + (kScoreTells - 1) * score > kBelieved; }
};

struct Follower {
    const BaseKit& kit;
    const Photo& photo;
    const OutlineSurface& surface;
    const ShapeSpace& space;

    // where the search has the head, give or take: keeps what an outline says nothing of
    void hold(SolveView& view, const PhotoCamera& start, double scale) const {
        for (const char* name :
             {"exocanthion_l", "exocanthion_r", "cheilion_l", "cheilion_r", "tragion_l", "tragion_r", "gnathion"}) {
            const auto place = kit.landmarks.find(name);
            if (place != kit.landmarks.end())
                view.sights.push_back(
                    {place->second, start.project(place->second.at(kit.mesh.positions)), kHoldMm * scale, {}});
        }
    }
    Followed operator()(const Place& place) const {
        Followed out;
        // which of the sides the search fitted best says less than that a portrait from the side is meant as one
        Place straight = place;
        straight.yaw = std::copysign(90, place.yaw);
        const PhotoCamera start = camera_at(kit, photo, straight);
        out.camera = start, out.shape = kit.mesh.positions, out.score = place.score;
        const EdgePicture picture = edge_picture(photo.pixels, place.scale);
        Eigen::VectorXd& z = out.z;
        static constexpr double reach[] = {22, 16, 12, 9, 6, 5};
        for (int round = 0; round < 6; ++round) {
            SolveView view;
            view.sights = edges(picture, place.scale, reach[round], out);
            if (round == 5 || view.sights.size() < 8) break;
            hold(view, start, place.scale);
            if (round == 2) z.setZero(std::min<Eigen::Index>(space.count(), space.known + 90));
            if (!solve(std::move(view), out)) break;
        }
        return out;
    }
    // Edges along the profile, and how good they are.
    std::vector<Sight> edges(const EdgePicture& picture, double scale, double reach_mm, Followed& f) const {
        std::vector<ContourPoint> points;
        for (const ContourPoint& p : contour(surface, f.shape, f.camera, 3)) {
            if (of_profile(kit, f.shape, f.camera, p)) points.push_back(p);
        }
        std::vector<Vec2> skin;
        for (const ContourPoint& p : points) {
            for (const double mm : {kInsideMm, 2 * kInsideMm}) skin.push_back(p.pixel - mm * scale * p.outward);
        }
        auto sights = outline_sights(points, picture, skin_tone(picture, skin), f.camera, f.shape, reach_mm, false);
        f.share = points.empty() ? 0 : static_cast<double>(sights.size()) / static_cast<double>(points.size());
        double squares = 0;
        for (const Sight& s : sights) {
            const double mm = s.across->dot(f.camera.project(s.place.at(f.shape)) - s.pixel) /
                              f.camera.pixels_per_mm(s.place.at(f.shape));
            squares += mm * mm;
        }
        f.rms_mm = sights.empty() ? 1e9 : std::sqrt(squares / static_cast<double>(sights.size()));
        return sights;
    }
    bool solve(SolveView view, Followed& f) const {
        SolveProblem p;
        p.base = &kit.mesh.positions, p.space = &space, p.iterations = 8, p.z = f.z;
        view.camera = f.camera, view.focal_fixed = true;
        view.expected_yaw = std::copysign(90, head_turn(f.camera).yaw), view.yaw_sigma = kSideSigma;
        p.views.push_back(std::move(view));
        auto solved = solve_photos(p, {});
        if (!solved) return false;
        f.camera = solved->cameras.front(), f.z = solved->z;
        if (f.z.size() > 0) f.shape = space.shape(kit.mesh.positions, f.z);
        return true;
    }
    // What lies inside the outline: eye, nostril and mouth by their looks. They tell how far the head is turned.
    void look_inside(Followed& f) const {
        const Likeness likeness(kit);
        const double scale = f.camera.pixels_per_mm(middle_of(kit));
        const EdgePicture picture = edge_picture(photo.pixels, scale);
        for (int round = 0; round < 3; ++round) {
            f.inside.clear();
            SolveView view;
            view.sights = edges(picture, scale, 5, f);
            for (const FeatureFound& found : likeness.find(features(f), f.shape, f.camera, picture)) {
                if (found.match < kAlike || found.match - found.second < kAlone) continue;
                for (const std::string& name : found.feature.names) {
                    f.inside[name] = f.camera.project(kit.landmarks.at(name).at(f.shape)) + found.shift;
                    view.sights.push_back({kit.landmarks.at(name), f.inside[name], kLikeMm * scale, {}});
                }
            }
            if (f.inside.empty() || !solve(std::move(view), f)) return;
        }
    }
    std::vector<Feature> features(const Followed& f) const {
        const auto visible = visible_in(kit, f.shape, {f.camera});
        const char* side = head_turn(f.camera).yaw > 0 ? "_l" : "_r";
        std::vector<Feature> out;
        for (const auto& [region, half, reach] :
             {std::tuple{"eye", 17.0, 9.0}, {"nose", 15.0, 7.0}, {"mouth", 15.0, 8.0}}) {
            Feature feature{region, {}, half, reach};
            for (const auto& [name, place] : kit.landmarks) {
                const SchemePoint* p = landmark_scheme().point(name);
                const bool shown = std::all_of(place.vertices.begin(), place.vertices.end(),
                                               [&](Index v) { return visible[v] != 0; });
                if (p && p->region == region && name.ends_with(side) && shown) feature.names.push_back(name);
            }
            if (!feature.names.empty()) out.push_back(std::move(feature));
        }
        return out;
    }
};

PhotoDetection marks_of(const BaseKit& kit, const Photo& photo, const OutlineSurface& surface, const Followed& f) {
    PhotoDetection out;
    const HeadTurn turn = head_turn(f.camera);
    out.by_outline = true, out.camera = f.camera, out.yaw = turn.yaw, out.pitch = turn.pitch, out.roll = turn.roll,
    out.pixels_per_mm = f.camera.pixels_per_mm(kit.landmarks.at("sellion").at(f.shape));
    out.faces.push_back({f.camera.project(middle_of(kit)), kHeadMm * out.pixels_per_mm, f.share});
    out.sure = std::clamp(f.share, 0.0, 1.0);
    out.marks.width = photo.pixels.width, out.marks.height = photo.pixels.height;
    std::vector<Vec2> line;
    for (const ContourPoint& p : contour(surface, f.shape, f.camera, 3)) {
        if (of_profile(kit, f.shape, f.camera, p)) line.push_back(p.pixel);
    }
    const std::vector<Triangle>& solid = solid_triangles(kit);
    const SurfaceQuery query(f.shape, solid);
    for (const auto& [name, place] : kit.landmarks) {
        if (!marked_on_photos(name)) continue;
        const Vec3 p = place.at(f.shape);
        const Vec2 pixel = f.camera.project(p);
        double away = 1e9;  // from the outline
        for (const Vec2& q : line) away = std::min(away, (q - pixel).norm() / f.camera.pixels_per_mm(p));
        // a place on the outline itself is at a right angle to the view, and seen all the same
        if (away > kEdgeMm && !seen_from(f.camera, query, p, kEdgeMm)) {
            out.left_out[name] = "turned away from the camera";
            continue;
        }
        out.marks.points[name] = pixel;
        Trust& t = out.marks.trust[name];
        t.origin = Origin::Found;
        const auto alike = f.inside.find(name);
        const double off = alike != f.inside.end() ? kLikeMm : std::min(kMostMm, kOnOutlineMm + kInsideShare * away);
        if (alike != f.inside.end()) out.marks.points[name] = alike->second;
        t.expected_mm = f.camera.pixels_per_mm(p) * off;  // pixels, on photographs
    }
    return out;
}

Error cancelled() { return {ErrorCode::Cancelled, "Cancelled; nothing was changed."}; }

}  // namespace

Result<PhotoDetection> find_profile(const BaseKit& kit, const Photo& photo, const ShapeSpace* space,
                                    const Progress& progress) {
    if (!kit.landmarks.contains("sellion") || !kit.landmarks.contains("gnathion") || photo.pixels.width < 48 ||
        photo.pixels.height < 48)
        return no_face_in(photo);
    const OutlineSurface surface = outline_surface(kit);
    const auto places = search(edges_of(photo.pixels), templates(kit, surface), progress);
    if (progress.is_cancelled()) return cancelled();
    std::optional<ShapeSpace> own;
    if (!space) {
        auto made = make_shape_space(kit, {});
        if (!made) return made.error();
        own = std::move(*made);
    }
    const Follower follow{kit, photo, surface, space ? *space : *own};
    std::vector<Followed> all(places.size());
    tbb::parallel_for(std::size_t{0}, places.size(), [&](std::size_t i) { all[i] = follow(places[i]); });
    if (progress.is_cancelled()) return cancelled();
    const Followed* best = nullptr;
    for (const Followed& f : all) {
        if (!best || f.quality() > best->quality()) best = &f;
    }
    if (!best || !best->believed()) return no_face_in(photo);
    Followed whole = *best;
    follow.look_inside(whole);
    if (progress.is_cancelled()) return cancelled();
    return marks_of(kit, photo, surface, whole);
}

Result<PhotoDetection> find_on_photo(FaceNetwork& network, const BaseKit& kit, const Photo& photo,
                                     const FaceReference* reference, std::size_t which, const ShapeSpace* space,
                                     const Progress& progress) {
    auto found = detect_on_photo(network, kit, photo, reference, which);
    if (progress.is_cancelled()) return cancelled();
    if (found || found.error().code != ErrorCode::NotFound || which > 0) return found;
    return find_profile(kit, photo, space, progress);
}

}  // namespace veld
