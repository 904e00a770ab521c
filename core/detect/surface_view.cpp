#include "core/detect/surface_view.h"

#include <tbb/parallel_for.h>
#include <cmath>
#include <optional>

#include "core/mesh/topology.h"

namespace veld {
namespace {

constexpr double kDistanceInRadii = 7;  // a portrait lens
constexpr double kAmbient = 0.15, kClayAlbedo = 0.8;
constexpr std::uint8_t kBackground = 40;

}  // namespace

Vec3 colour_at(const SurfaceLook& look, const SurfaceHit& hit) {
    const auto colour = look.coloured ? look.colour.at(*look.mesh, look.triangulation,
                                                       look.surface.origin[hit.triangle], hit.barycentric)
                                      : std::nullopt;
    return colour.value_or(Vec3::Constant(kClayAlbedo));
}

Vec3 ViewCamera::direction(const Vec2& pixel) const {
    const double k = 2 * radius / size;
    return axes * Vec3((pixel.x() - 0.5 * size) * k, (0.5 * size - pixel.y()) * k, -distance);
}

Vec2 ViewCamera::project(const Vec3& p) const {
    const Vec3 q = axes.transpose() * (p - target);
    const double k = 0.5 * size / radius * distance / (distance - q.z());
    return {0.5 * size + k * q.x(), 0.5 * size - k * q.y()};
}

ViewCamera portrait_camera(const Vec3& target, double radius, double yaw, double pitch, double roll) {
    const double d = M_PI / 180;
    ViewCamera camera;
    camera.target = target;
    camera.radius = radius;
    camera.distance = kDistanceInRadii * radius;
    camera.axes = (Eigen::AngleAxisd(yaw * d, Vec3::UnitY()) * Eigen::AngleAxisd(-pitch * d, Vec3::UnitX()) *
                   Eigen::AngleAxisd(roll * d, Vec3::UnitZ()))
                      .toRotationMatrix();
    return camera;
}

SurfaceLook look_at_surface(const Mesh& mesh, const Similarity& to_frame, const VertexMask* ignored, bool colours) {
    SurfaceLook out;
    out.mesh = &mesh;
    out.surface = prepare_source(mesh, to_frame, ignored, 0.02, true);
    out.triangulation = triangulate(mesh);
    out.normals = seamless_normals(out.surface.positions, out.surface.triangles, same_place(out.surface.positions));
    if (!colours) return out;
    out.colour = SurfaceColour(mesh);
    out.coloured = out.colour.any();
    return out;
}

SurfaceLook moved_look(SurfaceLook&& look, const Similarity& by) {
    SurfaceLook out = std::move(look);
    for (Vec3& p : out.surface.positions) p = by(p);
    for (Vec3& n : out.normals) n = by.rotation * n;
    out.surface.query = std::make_unique<SurfaceQuery>(out.surface.positions, out.surface.triangles);
    return out;
}

Pixels draw_view(const SurfaceLook& look, const ViewCamera& camera, Skin skin, int samples) {
    struct Light {
        Vec3 towards;
        double strength;
    };
    const Light lights[] = {{camera.axes * Vec3(0.6, 0.7, 0.65).normalized(), 0.5},
                            {camera.axes * Vec3(-0.6, 0.7, 0.65).normalized(), 0.5},
                            {camera.axes * Vec3(0, -0.3, 1).normalized(), 0.22}};
    Pixels out;
    out.width = out.height = camera.size;
    out.rgba.assign(std::size_t{4} * static_cast<std::size_t>(camera.size * camera.size), 255);
    const Vec3 eye = camera.eye();
    tbb::parallel_for(0, camera.size, [&](int y) {
        for (int x = 0; x < camera.size; ++x) {
            Vec3 sum = Vec3::Zero();
            for (int s = 0; s < samples * samples; ++s) {
                const Vec2 pixel(x + (s % samples + 0.5) / samples, y + (s / samples + 0.5) / samples);
                const SurfaceHit hit = look.surface.query->first_front_hit(eye, camera.direction(pixel));
                if (!hit) {
                    sum += Vec3::Constant(kBackground);
                    continue;
                }
                Vec3 n = Vec3::Zero();
                for (std::size_t k = 0; k < 3; ++k)
                    n += hit.barycentric[k] * look.normals[look.surface.triangles[hit.triangle][k]];
                n.normalize();
                double light = kAmbient;
                for (const Light& l : lights) light += l.strength * std::max(0.0, n.dot(l.towards));
                sum += (255 * light * (skin == Skin::Clay ? Vec3(Vec3::Constant(kClayAlbedo)) : colour_at(look, hit)))
                           .cwiseMin(255.0);
            }
            sum /= samples * samples;
            std::uint8_t* to = &out.rgba[4 * static_cast<std::size_t>(y * camera.size + x)];
            for (int k = 0; k < 3; ++k) to[k] = static_cast<std::uint8_t>(sum[k] + 0.5);
        }
    });
    return out;
}

std::optional<SurfaceHit> lift(const SurfaceLook& look, const ViewCamera& camera, const Vec2& pixel,
                               double grazing_degrees, double steady_pixels) {
    const Vec3 eye = camera.eye(), d = camera.direction(pixel);
    const SurfaceHit hit = look.surface.query->first_front_hit(eye, d);
    if (!hit) return {};
    const double pixel_size = 2 * camera.radius / camera.size;
    Vec3 n = Vec3::Zero();
    for (std::size_t k = 0; k < 3; ++k)
        n += hit.barycentric[k] * look.normals[look.surface.triangles[hit.triangle][k]];
    if (n.normalized().dot(-d.normalized()) < std::cos(grazing_degrees * M_PI / 180)) return {};
    for (int k = 0; k < 4; ++k) {
        const Vec2 beside = pixel + steady_pixels * Vec2(k == 0 ? 1 : k == 1 ? -1 : 0, k == 2 ? 1 : k == 3 ? -1 : 0);
        const SurfaceHit other = look.surface.query->first_front_hit(eye, camera.direction(beside));
        if (!other || std::abs(other.distance - hit.distance) > 6 * steady_pixels * pixel_size) return {};
    }
    return hit;
}

}  // namespace veld
