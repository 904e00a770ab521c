#include "core/detect/find_face.h"

#include <Eigen/Eigenvalues>
#include <algorithm>
#include <cmath>

#include "core/linalg/fit_similarity.h"
#include "core/linalg/statistics.h"

namespace veld {
namespace {

constexpr int kSheet = 256, kAcross = 3, kTile = kSheet / kAcross;  // pictures on one detector input
constexpr int kCloser = 384;                                        // pixels of a confirming picture
constexpr double kSteadySpreadMm = 3.0;
constexpr std::size_t kFewCameras = 18;  // are looked at in the source's colours as well where no face was seen
constexpr std::size_t kMostConfirmed = 8, kMostTurned = 5;
constexpr double kOffCosts = 0.06, kLooksRightMm = 5, kLooksLikeMm = 8;
constexpr int kMostEvaluations = 60;  // of the search and of the views that come after it

// The networks, as often as they may still be asked.
struct Looker {
    FaceNetwork& network;
    int most;  // of network.evaluations()
    bool room(int evaluations) const { return network.evaluations() + evaluations <= most; }
};

struct Proposal {
    ViewCamera camera;  // aimed at the face, which is upright in it
    double score = 0;
    Skin skin = Skin::Clay;  // in which it was seen
};

bool by_score(const Proposal& a, const Proposal& b) { return a.score > b.score; }

ViewCamera aimed(const ViewCamera& from, const FaceBox& box) {
    ViewCamera out = from;
    const double k = 2 * from.radius / from.size;
    const FaceCrop crop = crop_of(box);
    out.target = from.target +
                 from.axes * Vec3(k * (crop.centre.x() - 0.5 * from.size), k * (0.5 * from.size - crop.centre.y()), 0);
    out.radius = 0.5 * k * crop.side;
    // the crop's turned square becomes an upright picture; y counts downwards there
    out.axes = from.axes * Eigen::AngleAxisd(-crop.angle, Vec3::UnitZ()).toRotationMatrix();
    out.distance = from.distance;
    out.size = kCloser;
    return out;
}

// Draws the cameras' views side by side, nine at a time, and has the detector look at the sheets.
std::vector<Proposal> propose(const Looker& looker, const SurfaceLook& look, const std::vector<ViewCamera>& cameras,
                              Skin skin, const Progress& progress) {
    std::vector<Proposal> out;
    const std::size_t each = kAcross * kAcross;
    for (std::size_t first = 0; first < cameras.size() && looker.room(1) && !progress.is_cancelled(); first += each) {
        Pixels sheet{kSheet, kSheet, VertexMask(std::size_t{4} * kSheet * kSheet, 40)};
        const std::size_t count = std::min(each, cameras.size() - first);
        for (std::size_t i = 0; i < count; ++i) {
            ViewCamera camera = cameras[first + i];
            camera.size = kTile;
            const Pixels tile = draw_view(look, camera, skin, 2);
            for (int y = 0; y < kTile; ++y) {
                const auto to = 4 * (static_cast<std::size_t>(static_cast<int>(i) / kAcross * kTile + y) * kSheet +
                                     (i % kAcross) * kTile);
                std::copy_n(&tile.rgba[static_cast<std::size_t>(4 * y * kTile)], 4 * kTile, &sheet.rgba[to]);
            }
        }
        for (FaceBox box : looker.network.detect(sheet, 0.25)) {
            const int column = static_cast<int>(box.centre.x()) / kTile,
                      row = static_cast<int>(box.centre.y()) / kTile;
            const std::size_t i = static_cast<std::size_t>(row * kAcross + column);
            if (column < 0 || column >= kAcross || row < 0 || i >= count) continue;
            ViewCamera camera = cameras[first + i];
            camera.size = kTile;
            for (Vec2* p : {&box.centre, &box.right_eye, &box.left_eye, &box.nose, &box.mouth})
                *p -= kTile * Vec2(column, row);
            out.push_back({aimed(camera, box), box.score, skin});
        }
        progress.say(static_cast<double>(first) / static_cast<double>(cameras.size()), "Looking for the face");
    }
    std::stable_sort(out.begin(), out.end(), by_score);
    return out;
}

SeenFace lifted(const SurfaceLook& look, const ViewCamera& camera, const FaceMesh& face) {
    SeenFace out(kSeenPoints);
    for (std::size_t p = 0; p < kFacePoints; ++p) {
        if (const auto hit = lift(look, camera, face.points[p], 75, 1.5)) out[p] = hit->position;
    }
    return out;
}

struct Confirmed {
    double sure = 0;
    Similarity to_kit;
    double off = 0;  // mm, median: how far what is seen lies from the base's own face, laid over it
    double worth() const { return sure - kOffCosts * off; }
};

double off_base(const SeenFace& seen, const FaceReference& reference, const Similarity& to_kit) {
    std::vector<double> off;
    for (std::size_t p = 0; p < kFacePoints; ++p) {
        if (seen[p] && reference.mean[p]) off.push_back((to_kit(*seen[p]) - *reference.mean[p]).norm());
    }
    return median(std::move(off));
}

// Looks closer; nothing when the mesh network says that it is no face.
std::optional<Confirmed> confirm(const Looker& looker, const SurfaceLook& look, const ViewCamera& camera, Skin skin,
                                 const FaceReference& reference) {
    if (!looker.room(1)) return {};
    const Pixels picture = draw_view(look, camera, skin, 1);
    const double side = camera.size;
    const FaceMesh face = looker.network.mesh(picture, {Vec2(0.5 * side, 0.5 * side), side, 0});
    if (face.sure < 0.5) return {};
    const SeenFace seen = lifted(look, camera, face);
    const auto to_kit = face_to_kit(seen, reference);
    if (!to_kit) return {};
    return Confirmed{face.sure, *to_kit, off_base(seen, reference, *to_kit)};
}

// The camera in the surface's frame that sees the face as the base's own is seen from the front.
ViewCamera frontal(const Similarity& to_kit, const FacePlace& place) {
    ViewCamera camera = portrait_camera(place.centre, place.radius, 0, 0);
    const Similarity back = to_kit.inverse();
    camera.target = back(camera.target);
    camera.axes = back.rotation;
    camera.radius *= back.scale, camera.distance *= back.scale;
    camera.size = kCloser;
    return camera;
}

// A proposal looked at from a little around: which side sees it best, the detector knows better than the mesh network,
// which wants faces nearly from the front.
Proposal turned_to(const Looker& looker, const SurfaceLook& look, const Proposal& from) {
    std::vector<ViewCamera> around;
    for (const double pitch : {0.0, -24.0, 24.0}) {
        for (const double yaw : {0.0, -24.0, 24.0}) {
            ViewCamera camera = from.camera;
            const double d = M_PI / 180;
            camera.axes = camera.axes *
                          (Eigen::AngleAxisd(yaw * d, Vec3::UnitY()) * Eigen::AngleAxisd(-pitch * d, Vec3::UnitX()))
                              .toRotationMatrix();
            camera.radius *= 1.25;
            around.push_back(camera);
        }
    }
    const std::vector<Proposal> found = propose(looker, look, around, from.skin, {});
    return found.empty() ? from : found.front();
}

std::optional<Confirmed> best_of(const Looker& looker, const SurfaceLook& look, const FaceReference& reference,
                                 const std::vector<Proposal>& proposals) {
    std::optional<Confirmed> best;
    for (std::size_t i = 0; i < proposals.size() && i < kMostConfirmed; ++i) {
        if (!looker.room(1)) break;
        const Skin skin = proposals[i].skin;
        auto c = confirm(looker, look, proposals[i].camera, skin, reference);
        if (!c && i < kMostTurned)
            c = confirm(looker, look, turned_to(looker, look, proposals[i]).camera, skin, reference);
        // step by step to the front; a step that loses the face does not count
        for (int step = 0; c && step < 3; ++step) {
            const auto next = confirm(looker, look, frontal(c->to_kit, reference.place), skin, reference);
            if (!next) {
                if (step == 0) c.reset();
                break;
            }
            c = next;
        }
        if (c && (!best || c->worth() > best->worth())) best = c;
        if (best && best->sure > 0.97 && best->off < kLooksRightMm) break;
    }
    if (!best || best->sure < kFaceGate) return {};
    return best;
}

// Cameras all around an axis, the axis upright in the picture.
void add_ring(std::vector<ViewCamera>& out, const Vec3& target, double radius, const Mat3& base, int count) {
    for (int i = 0; i < count; ++i) {
        // the front first, then alternately to both sides
        const double yaw = (i % 2 ? 1 : -1) * ((i + 1) / 2) * 360.0 / count;
        ViewCamera camera = portrait_camera(target, radius, yaw, 0);
        camera.axes = base * camera.axes;
        out.push_back(camera);
    }
}

std::vector<ViewCamera> every_attitude(const Vec3& target, double radius) {
    std::vector<ViewCamera> out;
    for (int x = -1; x <= 1; ++x) {
        for (int y = -1; y <= 1; ++y) {
            for (int z = -1; z <= 1; ++z) {
                if (!x && !y && !z) continue;
                const Mat3 look =
                    Eigen::Quaterniond::FromTwoVectors(Vec3::UnitZ(), Vec3(x, y, z).normalized()).toRotationMatrix();
                for (const double roll : {0.0, 90.0, 180.0, 270.0}) {
                    ViewCamera camera = portrait_camera(target, radius, 0, 0, roll);
                    camera.axes = look * camera.axes;
                    out.push_back(camera);
                }
            }
        }
    }
    return out;
}

// Both ends of an elongated surface, each taken for the top: a figure may lie or stand on its head.
std::vector<ViewCamera> both_ends(const SurfaceLook& look, const Vec3& middle) {
    Mat3 spread = Mat3::Zero();
    for (const Vec3& p : look.surface.positions) spread += (p - middle) * (p - middle).transpose();
    const Eigen::SelfAdjointEigenSolver<Mat3> axes(spread);
    if (axes.eigenvalues()[2] < 3.0 * axes.eigenvalues()[1]) return {};
    const Vec3 along = axes.eigenvectors().col(2);
    double low = 1e300, high = -1e300;
    for (const Vec3& p : look.surface.positions)
        low = std::min(low, along.dot(p - middle)), high = std::max(high, along.dot(p - middle));
    std::vector<ViewCamera> out;
    for (const bool top : {true, false}) {
        const Vec3 up = top ? along : Vec3(-along);
        const Vec3 target = middle + (top ? high : -low) * up - 0.07 * (high - low) * up;
        add_ring(out, target, 0.11 * (high - low),
                 Eigen::Quaterniond::FromTwoVectors(Vec3::UnitY(), up).toRotationMatrix(), 8);
    }
    return out;
}

}  // namespace

Result<Similarity> face_to_kit(const SeenFace& seen, const FaceReference& reference) {
    Points from, to;
    for (std::size_t p = 0; p < kFacePoints; ++p) {
        if (!seen[p] || !reference.mean[p] || reference.spread_mm[p] > kSteadySpreadMm) continue;
        from.push_back(*seen[p]);
        to.push_back(*reference.mean[p]);
    }
    if (from.size() < 60) return Error{ErrorCode::DegenerateInput, "Too few points of the face lie on the surface."};
    return fit_similarity(from, to);
}

Result<FoundFace> find_face(FaceNetwork& network, const SurfaceLook& look, const FaceReference& reference,
                            const Progress& progress) {
    Box box;
    for (const Triangle& t : look.surface.triangles) {
        for (Index v : t) box.add(look.surface.positions[v]);
    }
    if (box.empty()) return Error{ErrorCode::DegenerateInput, "The source has no surface to look at."};
    const Vec3 middle = box.centre(), size = box.size();
    std::vector<std::vector<ViewCamera>> searches(3);
    if (size.y() > 1.8 * size.z()) {  // a figure, or a bust on a pole: the head is at the top
        add_ring(searches[0], Vec3(middle.x(), box.high.y() - 0.08 * size.y(), middle.z()), 0.13 * size.y(),
                 Mat3::Identity(), 9);
    }
    add_ring(searches[0], middle, 0.4 * size.norm(), Mat3::Identity(), 9);
    searches[1] = both_ends(look, middle);
    searches[2] = every_attitude(middle, 0.42 * size.norm());
    const int views = evaluations_of(face_views(look.coloured));
    const Looker looker{network, network.evaluations() + kMostEvaluations - views};
    std::optional<Confirmed> best;
    for (const auto& cameras : searches) {
        if (progress.is_cancelled()) return Error{ErrorCode::Cancelled, "Cancelled."};
        const auto found = best_of(looker, look, reference, propose(looker, look, cameras, Skin::Clay, progress));
        if (found && (!best || found->worth() > best->worth())) best = found;
        // a source's own colours show what its form does not, wrong faces too: one that looks like the base's counts
        if (!best && look.coloured && cameras.size() <= kFewCameras) {
            const auto in_colours =
                best_of(looker, look, reference, propose(looker, look, cameras, Skin::Colours, progress));
            if (in_colours && in_colours->off < kLooksRightMm) best = in_colours;
        }
        // a wrong one can be as sure as a right one, but it does not look like the base
        if (best && best->off < kLooksLikeMm) break;
    }
    if (best) return FoundFace{best->to_kit, best->sure};
    return Error{ErrorCode::NotFound,
                 "No face was found on this source from any side. It may be turned inside out, cut off, or covered; "
                 "mark the ten landmarks of the minimal set by hand."};
}

}  // namespace veld
