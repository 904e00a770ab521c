#include "core/detect/photo_face.h"
#include "core/detect/reference_store.h"

#include <Eigen/Dense>
#include <algorithm>
#include <cmath>
#include <cstring>

#include "core/base/file.h"
#include "core/detect/doubt.h"
#include "core/io/exif.h"
#include "core/kit/lips.h"
#include "core/linalg/smooth_map.h"

namespace veld {
namespace {

constexpr double kOtherShape = 0.03;  // of the logarithm of long by short side

// EXIF's eight orientations: where the upright picture's pixel is in the stored one. out: its size.
template <class Value>
std::vector<Value> turned(const std::vector<Value>& rgba, const Pixels& in, const Pixels& out, int orientation) {
    const bool across = orientation >= 5;
    std::vector<Value> values(rgba.size());
    for (int y = 0; y < out.height && !rgba.empty(); ++y) {
        for (int x = 0; x < out.width; ++x) {
            int u = across ? y : x, v = across ? x : y;
            if (orientation == 2 || orientation == 3 || orientation == 7 || orientation == 8) u = in.width - 1 - u;
            if (orientation == 3 || orientation == 4 || orientation == 6 || orientation == 7) v = in.height - 1 - v;
            std::memcpy(&values[4 * (static_cast<std::size_t>(y) * static_cast<std::size_t>(out.width) +
                                     static_cast<std::size_t>(x))],
                        &rgba[4 * (static_cast<std::size_t>(v) * static_cast<std::size_t>(in.width) +
                                   static_cast<std::size_t>(u))],
                        4 * sizeof(Value));
        }
    }
    return values;
}

Pixels turned_upright(Pixels in, int orientation) {
    if (orientation == 1) return in;
    Pixels out;
    const bool across = orientation >= 5;
    out.width = across ? in.height : in.width, out.height = across ? in.width : in.height;
    out.rgba = turned(in.rgba, in, out, orientation);
    out.rgba16 = turned(in.rgba16, in, out, orientation);
    return out;
}

struct Seen2D {
    FaceMesh face;
    std::vector<Vec2> eyes[2];  // right, left
};

Seen2D look_twice(FaceNetwork& network, const Pixels& picture, const FaceCrop& crop) {
    Seen2D out;
    out.face = network.mesh(picture, crop);
    if (out.face.sure < kFaceGate) return out;
    const FaceMesh again = network.mesh(picture, crop_of(out.face));
    if (again.sure >= out.face.sure - 0.05) out.face = again;
    for (int eye = 0; eye < 2; ++eye) out.eyes[eye] = network.eye(picture, eye_crop(out.face, eye == 1), eye == 1);
    return out;
}

// Rows of a scaled rotation: picture x and -y from the base's places [weak perspective].
struct WeakPose {
    Mat3 turn = Mat3::Identity();  // base -> camera: x right, y up, z to the camera
    double pixels_per_mm = 1;
    double yaw = 0, pitch = 0, roll = 0;  // degrees, as portrait_camera takes them
};

std::optional<WeakPose> weak_pose(const FaceMesh& face, const FaceReference& reference) {
    std::vector<std::pair<Vec3, Vec2>> pairs;
    Vec3 m3 = Vec3::Zero();
    Vec2 m2 = Vec2::Zero();
    for (std::size_t p = 0; p < kFacePoints; ++p) {
        if (!reference.mean[p] || reference.spread_mm[p] > 3) continue;
        pairs.emplace_back(*reference.mean[p], Vec2(face.points[p].x(), -face.points[p].y()));
        m3 += pairs.back().first, m2 += pairs.back().second;
    }
    if (pairs.size() < 60) return {};
    m3 /= static_cast<double>(pairs.size()), m2 /= static_cast<double>(pairs.size());
    Mat3 a = Mat3::Zero();
    Eigen::Matrix<double, 2, 3> b = Eigen::Matrix<double, 2, 3>::Zero();
    for (const auto& [x, y] : pairs) a += (x - m3) * (x - m3).transpose(), b += (y - m2) * (x - m3).transpose();
    const Eigen::Matrix<double, 2, 3> rows = b * a.inverse();
    WeakPose out;
    out.pixels_per_mm = 0.5 * (rows.row(0).norm() + rows.row(1).norm());
    Mat3 r;
    r.row(0) = rows.row(0).normalized(), r.row(1) = rows.row(1).normalized();
    r.row(2) = r.row(0).cross(r.row(1)).normalized();
    const Eigen::JacobiSVD<Mat3> svd(r, Eigen::ComputeFullU | Eigen::ComputeFullV);
    out.turn = svd.matrixU() * svd.matrixV().transpose();
    const Vec3 back = out.turn.row(2).transpose();  // from the face to the camera
    out.yaw = std::atan2(back.x(), back.z()) * 180 / M_PI;
    out.pitch = std::asin(std::clamp(back.y(), -1.0, 1.0)) * 180 / M_PI;
    return out;
}

// The base from the photo's side, and where everything of it is in that picture.
struct BaseView {
    ViewCamera camera;
    Seen2D seen;
    const SurfaceLook& look;
    Vec3 with_depth(const Vec2& pixel, double depth) const { return {pixel.x(), pixel.y(), depth}; }
    // in pixels: towards the camera
    double depth_of(const Vec3& p) const {
        return (camera.axes.transpose() * (p - camera.target)).z() * camera.size / (2 * camera.radius);
    }
    SurfaceHit under(const Vec2& pixel) const {
        return look.surface.query->first_front_hit(camera.eye(), camera.direction(pixel));
    }
    bool visible(const Vec3& p) const {
        const SurfaceHit hit = look.surface.query->first_front_hit(camera.eye(), p - camera.eye());
        return !hit || hit.distance > (p - camera.eye()).norm() - 2.5;
    }
};

// skin that the camera sees at a good angle, and no jump in depth
bool faces_camera(const BaseView& base, const SurfaceHit& hit) {
    const Triangle& t = base.look.surface.triangles[hit.triangle];
    const Points& x = base.look.surface.positions;
    return (x[t[1]] - x[t[0]])
               .cross(x[t[2]] - x[t[0]])
               .normalized()
               .dot((base.camera.eye() - hit.position).normalized()) > 0.35;
}

std::vector<std::pair<PhotoFace, Seen2D>> confirmed_faces(FaceNetwork& network, const Photo& photo) {
    std::vector<std::pair<PhotoFace, Seen2D>> out;
    const auto boxes = network.detect(photo.pixels, 0.3);
    for (std::size_t i = 0; i < boxes.size() && i < 6; ++i) {
        Seen2D seen = look_twice(network, photo.pixels, crop_of(boxes[i]));
        if (seen.face.sure < kFaceGate) continue;
        // two boxes of one face end at the same points
        const Vec2 nose = seen.face.points[1];
        const double size = crop_of(seen.face).side / 1.5;
        if (std::any_of(out.begin(), out.end(), [&](const auto& o) {
                return (o.second.face.points[1] - nose).norm() < 0.3 * std::max(size, o.first.size);
            }))
            continue;
        out.emplace_back(PhotoFace{crop_of(seen.face).centre, size, seen.face.sure}, std::move(seen));
    }
    std::stable_sort(out.begin(), out.end(), [](const auto& a, const auto& b) { return a.first.size > b.first.size; });
    return out;
}

// From the network's points on both pictures to marks and samples; false when it sees no face on the base's.
bool carry(FaceNetwork& network, const BaseKit& kit, const Seen2D& seen, BaseView base, double scale,
           PhotoDetection& out) {
    const Points& shape = kit.mesh.positions;
    base.camera.size = 384;
    base.seen = look_twice(network, draw_view(base.look, base.camera, Skin::Clay, 1), {Vec2(192, 192), 384, 0});
    if (base.seen.face.sure < kFaceGate) return false;
    Points from, to;
    const auto pair = [&](const Vec2& b, const Vec2& p) {
        const SurfaceHit hit = base.under(b);
        const double depth = hit ? base.depth_of(hit.position) : 0;
        from.push_back(base.with_depth(b, depth)), to.push_back(base.with_depth(p, depth));
        return hit;
    };
    const double base_mm = 2 * base.camera.radius / base.camera.size;  // a pixel of the base's picture
    for (std::size_t p = 0; p < kFacePoints; ++p) {
        const SurfaceHit hit = pair(base.seen.face.points[p], seen.face.points[p]);
        if (!hit || !faces_camera(base, hit)) continue;
        SurfacePoint place{kNone,
                           base.look.surface.triangles[hit.triangle],
                           {hit.barycentric[0], hit.barycentric[1], hit.barycentric[2]}};
        out.samples.push_back(
            {place, seen.face.points[p], seen.face.depth[p] / scale - base.seen.face.depth[p] * base_mm});
    }
    for (std::size_t eye = 0; eye < 2; ++eye) {
        for (std::size_t p = 0; p < base.seen.eyes[eye].size(); ++p) pair(base.seen.eyes[eye][p], seen.eyes[eye][p]);
    }
    const SmoothMap map(from, to);
    const auto carried = [&](const Vec3& p) {
        return Vec2(map(base.with_depth(base.camera.project(p), base.depth_of(p))).head<2>());
    };
    const auto trust = [&](const Vec3& p, const std::string& region) {
        Trust t;
        t.origin = Origin::Found;
        double nearest = 1e9;
        for (const Vec3& f : from)
            nearest = std::min(nearest, (f - base.with_depth(base.camera.project(p), base.depth_of(p))).norm());
        const double away = nearest * 2 * base.camera.radius / base.camera.size;  // mm on the base
        t.expected_mm = scale * (1.5 * usual_error(region) + 0.35 * std::max(0.0, away - 5));
        return t;
    };
    for (const auto& [name, place] : kit.landmarks) {
        if (!marked_on_photos(name)) continue;
        const Vec3 p = place.at(shape);
        if (!base.visible(p)) {
            out.left_out[name] = "turned away from the camera";
            continue;
        }
        const SchemePoint* scheme = landmark_scheme().point(name);
        out.marks.points[name] = carried(p);
        // hair decides where the hairline is, and no network follows it
        out.marks.trust[name] = trust(p, name == "trichion" ? "skull" : scheme ? scheme->region : "");
        const int eye = name == "pupil_r" ? 0 : name == "pupil_l" ? 1 : -1;
        if (eye >= 0) out.marks.points[name] = seen.eyes[eye][71];
    }
    for (const auto& [name, curve] : kit.curves) {
        if (!marked_on_photos(name)) continue;
        std::vector<Vec2> line;
        const SchemeCurve* scheme = landmark_scheme().curve(name);
        Trust t;
        for (const SurfacePoint& place : curve) {
            const Vec3 p = place.at(shape);
            if (!base.visible(p)) continue;
            line.push_back(carried(p));
            t = trust(p, scheme ? scheme->region : "");
        }
        if (line.size() < std::max<std::size_t>(2, curve.size() / 3)) {
            out.left_out[name] = "turned away from the camera";
            continue;
        }
        out.marks.curves[name] = std::move(line);
        out.marks.trust[name] = t;
    }
    return true;
}

}  // namespace

bool marked_on_photos(const std::string& name) {
    if (!in_point_set(name, PointSet::Head)) return false;
    if (name == kInnerLips[0] || name == kInnerLips[1]) return false;  // they are the mouth line on the base
    const SchemePoint* p = landmark_scheme().point(name);
    return !p || (p->region != "skull" && name != "cervicale");
}

Result<Photo> decode_photo(const Image& encoded, PixelBits bits) {
    auto pixels = decode_image(encoded, bits);
    if (!pixels) return pixels.error();
    const Exif exif = read_exif(encoded.bytes);
    Photo out{encoded.name, turned_upright(std::move(*pixels), exif.orientation), exif.focal_35mm, false};
    if (exif.width > 0 && exif.height > 0) {
        // some programs turn the pixels and leave the note
        const double was = static_cast<double>(std::max(exif.width, exif.height)) / std::min(exif.width, exif.height);
        const double is = static_cast<double>(std::max(out.pixels.width, out.pixels.height)) /
                          std::min(out.pixels.width, out.pixels.height);
        out.cut = std::abs(std::log(is / was)) > kOtherShape;
        if (out.cut) out.focal_35mm = 0;
    }
    return out;
}

Result<Photo> read_photo(const std::string& path) {
    auto bytes = read_file(path);
    if (!bytes) return bytes.error();
    Image image;
    image.name = file_name(path);
    const auto view = bytes->view();
    image.bytes.assign(view.begin(), view.end());
    return decode_photo(image);
}

std::vector<PhotoFace> faces_on_photo(FaceNetwork& network, const Photo& photo) {
    std::vector<PhotoFace> out;
    for (const auto& [face, seen] : confirmed_faces(network, photo)) out.push_back(face);
    return out;
}

Error no_face_in(const Photo& photo) {
    return {ErrorCode::NotFound, "No face was found in '" + photo.name +
                                     "'. It may be too small, too dark or turned away; mark the landmarks by hand."};
}

Result<PhotoDetection> detect_on_photo(FaceNetwork& network, const BaseKit& kit, const Photo& photo,
                                       const FaceReference* given, std::size_t which) {
    const int before = network.evaluations();
    auto confirmed = confirmed_faces(network, photo);
    if (confirmed.empty()) return no_face_in(photo);
    if (which >= confirmed.size())
        return Error{ErrorCode::NotFound, "'" + photo.name + "' shows " + std::to_string(confirmed.size()) +
                                              " face(s); there is no number " + std::to_string(which + 1) + "."};
    const Seen2D seen = std::move(confirmed[which].second);
    std::optional<FaceReference> own;
    if (!given) {
        auto made = kept_face_reference(network, kit);
        if (!made) return made.error();
        own = std::move(*made);
    }
    const FaceReference& reference = given ? *given : *own;
    const auto pose = weak_pose(seen.face, reference);
    if (!pose) return no_face_in(photo);

    PhotoDetection out;
    out.yaw = pose->yaw, out.pitch = pose->pitch, out.pixels_per_mm = pose->pixels_per_mm, out.sure = seen.face.sure;
    for (const auto& [face, of] : confirmed) out.faces.push_back(face);
    out.marks.width = photo.pixels.width, out.marks.height = photo.pixels.height;
    ViewCamera camera = portrait_camera(reference.place.centre, reference.place.radius, pose->yaw, pose->pitch);
    const SurfaceLook look = look_at_base(kit, false);
    if (!carry(network, kit, seen, {camera, {}, look}, pose->pixels_per_mm, out)) return no_face_in(photo);
    out.evaluations = network.evaluations() - before;
    return out;
}

int merge_found(const PhotoDetection& found, PhotoMarks& into) {
    int put = 0;
    into.width = found.marks.width, into.height = found.marks.height;
    const auto free = [&](const std::string& name) {
        const bool there = into.points.contains(name) || into.curves.contains(name);
        return !there || !kept_by_hand(into.trust_of(name));
    };
    for (const auto& [name, p] : found.marks.points) {
        if (free(name)) into.points[name] = p, into.trust[name] = found.marks.trust_of(name), ++put;
    }
    for (const auto& [name, line] : found.marks.curves) {
        if (free(name)) into.curves[name] = line, into.trust[name] = found.marks.trust_of(name), ++put;
    }
    return put;
}

}  // namespace veld
