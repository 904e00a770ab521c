#include "demo/standins/foreign/scan.h"

#include <meshoptimizer.h>
#include <tbb/parallel_for.h>

#include <random>

#include "demo/standins/foreign/surface.h"

namespace veld::foreign {

const char* device_name(Device device) {
    constexpr const char* names[] = {"sculpt", "structured light", "photographs", "laser"};
    return names[static_cast<int>(device)];
}
const char* cut_name(Cut cut) {
    constexpr const char* names[] = {"bust", "neck", "forehead", "face only", "half"};
    return names[static_cast<int>(cut)];
}

ScanOptions scan_options(unsigned seed) {
    std::mt19937 random(seed * 40503u + 5);
    const auto draw = [&] { return std::uniform_real_distribution<>()(random); };
    ScanOptions out;
    out.device = static_cast<Device>(static_cast<int>(draw() * 4));
    const double cut = draw(), fine = draw();
    out.cut = cut < 0.62   ? Cut::Bust
              : cut < 0.76 ? Cut::Neck
              : cut < 0.84 ? Cut::Forehead
              : cut < 0.94 ? Cut::FaceOnly
                           : Cut::Half;
    // mostly 50,000 to 400,000; now and then very few or very many
    if (fine < 0.1) {
        out.triangles = static_cast<std::size_t>(1500 * std::pow(6, draw()));
    } else if (fine < 0.8) {
        out.cell_mm = 0.8, out.triangles = static_cast<std::size_t>(30000 * std::pow(10, draw()));
    } else if (fine < 0.95) {
        out.cell_mm = 0.7;
    } else {
        out.cell_mm = 0.42;
    }
    out.coloured = draw() < 0.5;
    return out;
}

namespace {

bool kept(Cut cut, const Vec3& p) {
    switch (cut) {
        case Cut::Bust:
            return p.y() > -205 - 0.1 * p.z();
        case Cut::Neck:
            return p.y() > -132 - 0.25 * p.z();
        case Cut::Forehead:
            return p.y() > -190 && p.y() < 46 + 0.1 * p.z();
        case Cut::FaceOnly:
            return p.y() > -128 && p.y() < 62 && p.z() > 18 + 0.1 * std::abs(p.y());
        case Cut::Half:
            return p.y() > -170 && p.x() > -14;
    }
    return true;
}

// What is measured wrong along the normal, mm.
double measured_off(Device device, const Vec3& p, const Vec3& normal, std::mt19937& random) {
    const double noise = std::normal_distribution<>()(random);
    switch (device) {
        case Device::Sculpt:
            return 0;
        case Device::Light:
            return 0.09 * std::sin(2 * M_PI * (p.y() + 0.25 * p.x()) / 3.1) + 0.05 * noise;
        case Device::Photos:
            return 0.28 * std::sin(0.21 * p.x() + 1) * std::sin(0.18 * p.y()) * std::sin(0.25 * p.z()) + 0.06 * noise;
        case Device::Laser: {
            const double row = std::floor(p.y() / 0.8);
            return 0.12 * std::sin(row * 12.9898) + (0.06 + 0.2 * (1 - std::abs(normal.z()))) * noise;
        }
    }
    return 0;
}

Mesh keep_triangles(const Points& positions, const std::vector<Triangle>& triangles) {
    Mesh out;
    VertexIndices to(positions.size(), kNone);
    for (const Triangle& t : triangles) {
        for (const Index v : t) {
            if (to[v] == kNone) to[v] = out.vertex_count(), out.positions.push_back(positions[v]);
            out.corner_vertex.push_back(to[v]);
        }
        out.face_start.push_back(static_cast<Index>(out.corner_vertex.size()));
    }
    return out;
}

std::vector<Triangle> simplified(const Points& positions, std::vector<Triangle> triangles, std::size_t wanted) {
    if (wanted == 0 || triangles.size() <= wanted) return triangles;
    std::vector<float> places;
    for (const Vec3& p : positions) {
        for (int k = 0; k < 3; ++k) places.push_back(static_cast<float>(p[k]));
    }
    std::vector<unsigned> in, out(3 * triangles.size());
    for (const Triangle& t : triangles) in.insert(in.end(), t.begin(), t.end());
    const std::size_t n = meshopt_simplify(out.data(), in.data(), in.size(), places.data(), positions.size(),
                                           3 * sizeof(float), 3 * wanted, 1.0f, 0, nullptr);
    triangles.clear();
    for (std::size_t i = 0; i + 2 < n; i += 3) triangles.push_back({out[i], out[i + 1], out[i + 2]});
    return triangles;
}

// A laser and the light of a projector do not reach everywhere.
bool reached(Device device, const Vec3& middle, const Vec3& normal, const Head& head) {
    if (device == Device::Laser) return normal.y() > -0.88 && (std::abs(middle.x()) < 10 || normal.y() < 0.97);
    if (device != Device::Light) return true;
    // the light stands in front, left and right: deep folds stay dark
    for (const Vec3& from : {Vec3(0, 0.1, 1), Vec3(0.9, 0.1, 0.5), Vec3(-0.9, 0.1, 0.5), Vec3(0, 0.3, -1)}) {
        const Vec3 way = from.normalized();
        if (normal.dot(way) < 0.12) continue;
        bool free = true;
        for (double t = 2.5; t < 40 && free; t *= 1.5) free = head.all(middle + t * way) > 0.3;
        if (free) return true;
    }
    return false;
}

Similarity random_frame(unsigned seed) {
    std::mt19937 random(seed * 7919u + 3);
    std::normal_distribution<> normal;
    Similarity out;
    out.rotation = Eigen::Quaterniond(normal(random), normal(random), normal(random), normal(random))
                       .normalized()
                       .toRotationMatrix();
    constexpr double units[] = {1, 0.1, 0.001, 1 / 25.4};
    out.scale = units[std::uniform_int_distribution<>(0, 3)(random)];
    out.translation = out.scale * 300 * Vec3(normal(random), normal(random), normal(random));
    return out;
}

}  // namespace

Scan make_scan(const Head& head, const ScanOptions& options) {
    const Form& f = head.form();
    Box box;
    box.add(Vec3(-235, -290, -165)), box.add(Vec3(235, 175, 190));
    const double cell = options.device == Device::Photos ? std::max(options.cell_mm, 1.1) : options.cell_mm;
    Mesh whole =
        iso_surface([&](const Vec3& p) { return head.all(p); }, box, cell, options.device == Device::Photos ? 1 : 0);
    Triangulation t = triangulate(whole);
    const auto normal_of = [&](const Triangle& c) {
        return (whole.positions[c[1]] - whole.positions[c[0]])
            .cross(whole.positions[c[2]] - whole.positions[c[0]])
            .normalized();
    };
    std::vector<std::uint8_t> keep(t.triangles.size(), 0);
    tbb::parallel_for(std::size_t{0}, t.triangles.size(), [&](std::size_t i) {
        const Triangle& c = t.triangles[i];
        const Vec3 middle = (whole.positions[c[0]] + whole.positions[c[1]] + whole.positions[c[2]]) / 3;
        keep[i] = kept(options.cut, middle) && reached(options.device, middle, normal_of(c), head);
    });
    Points normals(whole.positions.size(), Vec3::Zero());
    std::vector<Triangle> triangles;
    for (std::size_t i = 0; i < t.triangles.size(); ++i) {
        for (const Index v : t.triangles[i]) normals[v] += normal_of(t.triangles[i]);
        if (keep[i]) triangles.push_back(t.triangles[i]);
    }
    std::mt19937 random(f.seed * 31u + 11);
    Points measured = whole.positions;
    for (std::size_t v = 0; v < measured.size(); ++v) {
        const Vec3 n = normals[v].normalized();
        measured[v] += measured_off(options.device, measured[v], n, random) * n;
    }
    Scan out;
    out.mesh = keep_triangles(measured, simplified(measured, std::move(triangles), options.triangles));
    for (const Vec3& p : out.mesh.positions) out.stuff.push_back(head.stuff_at(p));
    if (options.coloured) {
        for (const Vec3& p : out.mesh.positions) {
            const auto c = head.colour_at(p);
            const auto byte = [&](std::size_t k) { return static_cast<std::uint8_t>(std::clamp(c[k], 0.0, 255.0)); };
            out.mesh.colours.push_back({byte(0), byte(1), byte(2), 255});
        }
    }
    if (options.any_frame) out.from_head = random_frame(f.seed);
    for (Vec3& p : out.mesh.positions) p = out.from_head(p);
    for (const auto& [name, p] : head.points()) {
        out.points[name] = out.from_head(p);
        out.covered[name] = head.covered(p) || !kept(options.cut, p);
    }
    for (const auto& [name, line] : head.curves()) {
        for (const Vec3& p : line) out.curves[name].push_back(out.from_head(p));
    }
    return out;
}

}  // namespace veld::foreign
