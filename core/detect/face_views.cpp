#include "core/detect/face_views.h"

#include <algorithm>
#include <cmath>

namespace veld {
namespace {

// Pixels between the lips: the middle three of each edge. Lifted onto the surface they would lie in the throat.
double lip_gap(const FaceMesh& face) {
    double sum = 0;
    for (std::size_t i = 3; i < 6; ++i)
        sum += face.points[static_cast<std::size_t>(kLowerInnerLip[i])].y() -
               face.points[static_cast<std::size_t>(kUpperInnerLip[i])].y();
    return sum / 3;
}

constexpr int kRightLids[] = {246, 161, 160, 159, 158, 157, 173, 7, 163, 144, 145, 153, 154, 155};
constexpr int kLeftLids[] = {466, 388, 387, 386, 385, 384, 398, 249, 390, 373, 374, 380, 381, 382};
constexpr int kLidPoints = 16;  // of an eye's own points, the first

}  // namespace

bool one_of(std::span<const int> points, int point) {
    return std::find(points.begin(), points.end(), point) != points.end();
}

bool of_left_eye(int point) {
    return point >= kFacePoints ? point >= kFacePoints + kEyePoints : one_of(kLeftLids, point);
}

bool on_lid(int point) {
    if (point >= kFacePoints) return (point - kFacePoints) % kEyePoints < kLidPoints;
    return one_of(kRightLids, point) || one_of(kLeftLids, point);
}

std::vector<FaceView> face_views(bool coloured) {
    std::vector<FaceView> out;
    for (const double yaw : {0.0, -20.0, 20.0, -40.0, 40.0}) out.push_back({yaw, 0, Skin::Clay, std::abs(yaw) < 30});
    for (const double yaw : {0.0, -20.0, 20.0}) {
        for (const double pitch : {-15.0, 15.0}) out.push_back({yaw, pitch, Skin::Clay, false});
    }
    if (!coloured) return out;
    for (const double yaw : {0.0, -20.0, 20.0, -40.0, 40.0})
        out.push_back({yaw, 0, Skin::Colours, std::abs(yaw) < 30});
    return out;
}

int evaluations_of(const std::vector<FaceView>& views) {
    int out = 0;
    for (const FaceView& view : views) out += view.eyes ? 3 : 1;
    return out;
}

FacePlace face_place(const BaseKit& kit) {
    Box box;
    for (const char* name :
         {"sellion", "gnathion", "exocanthion_l", "exocanthion_r", "zygion_l", "zygion_r", "pronasale"}) {
        if (const auto at = kit.landmarks.find(name); at != kit.landmarks.end())
            box.add(at->second.at(kit.mesh.positions));
    }
    FacePlace out;
    if (box.empty()) return out;
    // from the brows down to the chin is two thirds of a face; a crop is one and a half times the face
    out.radius = 0.75 * 1.5 * box.size().y();
    out.centre = box.centre() + Vec3(0, 0.12 * box.size().y(), -0.1 * box.size().z());
    return out;
}

std::vector<SeenView> see_face(FaceNetwork& network, const SurfaceLook& look, const FacePlace& place,
                               const std::vector<FaceView>& views, const Progress& progress) {
    std::vector<SeenView> out;
    for (std::size_t i = 0; i < views.size(); ++i) {
        if (progress.is_cancelled()) return out;
        const FaceView& view = views[i];
        ViewCamera camera = portrait_camera(place.centre, place.radius, view.yaw, view.pitch);
        camera.size = view.eyes ? 384 : 192;  // an eye is an eighth of a face
        const Pixels picture = draw_view(look, camera, view.skin, view.eyes ? 1 : 2);
        const double side = camera.size;
        const FaceMesh face = network.mesh(picture, {Vec2(0.5 * side, 0.5 * side), side, 0});
        SeenView seen{view, face.sure, {}, 0};
        if (face.sure > kFaceGate) {
            seen.points.resize(kSeenPoints);
            const auto put = [&](std::size_t at, const Vec2& pixel) {
                if (const auto hit = lift(look, camera, pixel, 72, 1.2 * side / 192)) seen.points[at] = hit->position;
            };
            for (std::size_t p = 0; p < kFacePoints; ++p) put(p, face.points[p]);
            seen.lip_gap = 2 * camera.radius / side * lip_gap(face);
            for (int eye = 0; view.eyes && eye < 2; ++eye) {
                const std::vector<Vec2> points = network.eye(picture, eye_crop(face, eye == 1), eye == 1);
                for (std::size_t p = 0; p < kEyePoints; ++p)
                    put(kFacePoints + static_cast<std::size_t>(eye) * kEyePoints + p, points[p]);
            }
        }
        out.push_back(std::move(seen));
        progress.say(static_cast<double>(i + 1) / static_cast<double>(views.size()), "Looking at the face");
    }
    return out;
}

std::optional<Middle> middle_of(const std::vector<Vec3>& points) {
    if (points.empty()) return {};
    Vec3 m = Vec3::Zero();
    for (const Vec3& p : points) m += p / static_cast<double>(points.size());
    for (int round = 0; round < 30; ++round) {
        Vec3 sum = Vec3::Zero();
        double total = 0;
        for (const Vec3& p : points) {
            const double w = 1 / std::max((p - m).norm(), 1e-3);
            sum += w * p, total += w;
        }
        m = sum / total;
    }
    double sum = 0;
    for (const Vec3& p : points) sum += (p - m).squaredNorm();
    return Middle{m, std::sqrt(sum / static_cast<double>(points.size()))};
}

SurfaceLook look_at_base(const BaseKit& kit, bool colours) {
    VertexMask lashes(kit.mesh.positions.size(), 0);
    for (const KitPart& part : kit.parts) {
        if (part.name.starts_with("lash")) {
            for (Index v : part.vertices) lashes[v] = 1;
        }
    }
    return look_at_surface(kit.mesh, {}, &lashes, colours);
}

Result<FaceReference> face_reference(FaceNetwork& network, const BaseKit& kit) {
    FaceReference out;
    out.place = face_place(kit);
    const SurfaceLook look = look_at_base(kit);
    out.views = see_face(network, look, out.place, face_views(true));
    out.mean.resize(kSeenPoints);
    out.spread_mm.assign(kSeenPoints, 1e9);
    std::size_t faces = 0;
    for (const SeenView& v : out.views) faces += !v.points.empty();
    if (faces < out.views.size() / 2)
        return Error{
            ErrorCode::BadInput,
            "The face network sees no face on the base mesh; landmarks of scans cannot be found with this kit."};
    for (std::size_t p = 0; p < kSeenPoints; ++p) {
        std::vector<Vec3> places;
        for (const SeenView& v : out.views) {
            if (!v.points.empty() && v.points[p]) places.push_back(*v.points[p]);
        }
        if (const auto m = middle_of(places); m && places.size() >= 3)
            out.mean[p] = m->place, out.spread_mm[p] = m->spread;
    }
    return out;
}

}  // namespace veld
