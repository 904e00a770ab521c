// A stand-in for a capturing device: delivers raw scans or portraits of made-up people into a folder.
#include <CLI/CLI.hpp>
#include <cmath>
#include <cstdio>
#include <filesystem>
#include <nlohmann/json.hpp>
#include <random>
#include <thread>

#include "core/base/file.h"
#include "core/io/glb_write.h"
#include "core/io/obj.h"
#include "core/io/ply.h"
#include "demo/standins/made_up_person.h"
#include "demo/standins/picture_of.h"

using namespace veld;

namespace {

struct Options {
    std::string kit, out, what = "scan", format = "obj";
    unsigned seed = 1;
    int pause_ms = 400, density = 4;
    std::vector<std::string> defects{"holes", "components", "noise", "tilt"};
    bool has(const char* name) const { return std::find(defects.begin(), defects.end(), name) != defects.end(); }
};

// A tripod's plate and pole under the chin, joined to nothing.
void add_stand(Mesh& scan, const Similarity& scan_from_mm, const Vec3& under) {
    const Index first = scan.vertex_count();
    constexpr int n = 48;
    for (int ring = 0; ring < 4; ++ring) {
        const double r = ring < 2 ? 90 : 14, y = ring == 0 ? -10 : ring == 3 ? 60 : 0;
        for (int i = 0; i < n; ++i)
            scan.positions.push_back(
                scan_from_mm(under + Vec3(r * std::cos(2 * M_PI * i / n), y, r * std::sin(2 * M_PI * i / n))));
    }
    for (Index ring = 0; ring < 3; ++ring) {
        for (Index i = 0; i < n; ++i) {
            const Index a = first + ring * n + i, b = first + ring * n + (i + 1) % n;
            for (const Triangle& t : {Triangle{a, a + n, b + n}, Triangle{a, b + n, b}}) {
                scan.corner_vertex.insert(scan.corner_vertex.end(), t.begin(), t.end());
                scan.face_start.push_back(static_cast<Index>(scan.corner_vertex.size()));
            }
        }
    }
}

void spoil(Mesh& scan, const Options& o, std::mt19937& random) {
    if (o.has("spikes")) {
        for (int i = 0; i < 25; ++i) {
            Vec3& p = scan.positions[random() % scan.positions.size()];
            p += 0.12 * bounding_box(scan.positions).size().norm() *
                 Vec3(std::sin(i), std::cos(2 * i), std::sin(3 * i));
        }
    }
    if (o.has("flipped")) {
        for (Index f = 0; f < scan.face_count(); ++f)
            std::swap(scan.corner_vertex[scan.face_start[f]], scan.corner_vertex[scan.face_start[f] + 1]);
    }
    if (o.has("seams")) {  // every fortieth corner gets a vertex of its own
        for (std::size_t c = 0; c < scan.corner_vertex.size(); c += 40) {
            const Index v = scan.corner_vertex[c];
            scan.corner_vertex[c] = scan.vertex_count();
            scan.positions.push_back(Vec3(scan.positions[v]));
            if (!scan.colours.empty()) scan.colours.push_back(Colour(scan.colours[v]));
            if (!scan.uvs.empty()) scan.uvs.push_back(Vec2(scan.uvs[v]));
        }
    }
}

// Devices write as they go: half of the bytes, a while, the rest.
Status deliver(const std::string& path, const std::string& bytes, int pause_ms) {
    FILE* out = std::fopen(path.c_str(), "wb");
    if (!out) return Error{ErrorCode::Io, "'" + path + "' cannot be written."};
    const std::size_t half = bytes.size() / 2;
    bool ok = std::fwrite(bytes.data(), 1, half, out) == half && std::fflush(out) == 0;
    std::this_thread::sleep_for(std::chrono::milliseconds(pause_ms));
    ok = ok && std::fwrite(bytes.data() + half, 1, bytes.size() - half, out) == bytes.size() - half;
    ok = std::fclose(out) == 0 && ok;
    std::this_thread::sleep_for(std::chrono::milliseconds(pause_ms));
    if (!ok) return Error{ErrorCode::Io, "'" + path + "' cannot be written; is the disk full?"};
    std::printf("%s\n", path.c_str());
    std::fflush(stdout);
    return Done{};
}

std::string bytes_of(const Pixels& pixels) {
    const std::vector<std::uint8_t> png = encode_png(pixels);
    return {png.begin(), png.end()};
}

Status deliver_scan(const BaseKit& kit, const Options& o, const std::string& name) {
    SubjectOptions subject;
    subject.seed = o.seed, subject.subdivisions = o.density;
    subject.holes = o.has("holes"), subject.stray_parts = (o.has("components") || o.has("crumbs")),
    subject.noise_mm = o.has("noise") ? 0.1 : 0;
    SyntheticSubject s = make_subject(kit, subject);
    const std::vector<Colour> colours = skin_colours(kit, s.surface_on_base_mm);
    std::vector<Vec2> uv;
    const Pixels texture = unwrap_on_cylinder(s.surface_mm, s.surface_triangles, colours, Vec3(0, 0, 0), 1024, uv);
    Similarity place = s.scan_from_mm;
    Mesh scan = std::move(s.scan);
    if (!o.has("tilt")) {
        const Similarity level{place.scale, Mat3::Identity(), Vec3::Zero()};
        for (Vec3& p : scan.positions) p = level(place.inverse()(p));
        place = level;
    }
    scan.colours = colours;
    scan.colours.resize(scan.positions.size(), Colour{120, 118, 112, 255});
    if (o.has("stand")) add_stand(scan, place, Vec3(0, subject.lowest_y - 90, 20));
    scan.colours.resize(scan.positions.size(), Colour{60, 60, 64, 255});
    scan.uvs = uv;
    scan.uvs.resize(scan.positions.size(), Vec2(0.01, 0.01));
    std::mt19937 random(o.seed);
    spoil(scan, o, random);
    scan.corner_uv = scan.corner_vertex;
    if (o.format == "ply")
        return deliver(o.out + "/" + name + ".ply", ply_bytes(scan, PlyEncoding::LittleEndian), o.pause_ms);
    const std::string png = bytes_of(texture);
    scan.materials.resize(1);
    scan.materials[0].name = "skin", scan.materials[0].image_path = name + ".png", scan.materials[0].image = 0;
    scan.images.push_back({name + ".png", "image/png", {png.begin(), png.end()}});
    scan.face_material.assign(scan.face_count(), 0);
    if (o.format == "glb") {
        GlbModel model;
        model.name = name, model.mesh = &scan, model.metres_per_unit = 0.01;
        return deliver(o.out + "/" + name + ".glb", glb_bytes(model), o.pause_ms);
    }
    scan.colours.clear();
    scan.material_libraries = {name + ".mtl"};
    // as many devices do: the mesh first, what it needs afterwards
    if (auto ok = deliver(o.out + "/" + name + ".obj", obj_text(scan), o.pause_ms); !ok) return ok;
    if (auto ok =
            deliver(o.out + "/" + name + ".mtl", "newmtl skin\nKd 0.8 0.8 0.8\nmap_Kd " + name + ".png\n", o.pause_ms);
        !ok)
        return ok;
    return deliver(o.out + "/" + name + ".png", png, o.pause_ms);
}

Status deliver_photos(const BaseKit& kit, const Options& o, const std::string& name) {
    SubjectOptions subject;
    subject.seed = o.seed, subject.subdivisions = o.density, subject.holes = subject.stray_parts = false,
    subject.noise_mm = 0;
    const SyntheticSubject s = make_subject(kit, subject);
    const std::vector<Colour> colours = skin_colours(kit, s.surface_on_base_mm);
    const std::string folder = o.out + "/" + name;
    std::error_code failed;
    std::filesystem::create_directories(folder, failed);
    static constexpr std::pair<const char*, double> views[] = {{"front", 0}, {"three_quarter", 40}, {"side", 90}};
    for (const auto& [view, yaw] : views) {
        Portrait how;
        how.yaw = yaw;
        how.target = kit.landmarks.at("sellion").at(s.truth_mm) - Vec3(0, 30, 60);
        if (auto ok = deliver(folder + "/" + view + ".png",
                              bytes_of(take_portrait(s.surface_mm, s.surface_triangles, colours, how)), o.pause_ms);
            !ok)
            return ok;
    }
    return Done{};
}

}  // namespace

int main(int argc, char** argv) {
    CLI::App app(
        "Delivers a raw scan or portraits of a made-up person into a folder, file by file, as a phone or a rig does.");
    Options o;
    app.add_option("--kit", o.kit, "Folder of the base kit")->required();
    app.add_option("--out", o.out, "Folder to deliver into")->required();
    app.add_option("--what", o.what, "scan or photos")->check(CLI::IsMember({"scan", "photos"}));
    app.add_option("--format", o.format, "obj (with texture), ply (vertex colours) or glb")
        ->check(CLI::IsMember({"obj", "ply", "glb"}));
    app.add_option("--seed", o.seed, "Another number, another person");
    app.add_option("--density", o.density, "Triangles: 4 is about 150,000, 12 about 1.3 million")
        ->check(CLI::Range(1, 30));
    app.add_option("--pause", o.pause_ms, "Milliseconds between pieces of a delivery")->check(CLI::Range(0, 60000));
    app.add_option("--defects", o.defects, "holes components noise tilt stand spikes flipped seams, or none")
        ->delimiter(',');
    CLI11_PARSE(app, argc, argv);
    const auto kit = read_base_kit(o.kit);
    std::error_code failed;
    std::filesystem::create_directories(o.out, failed);
    const std::string name = (o.what == "photos" ? "portraits_" : "capture_") + std::to_string(o.seed);
    const Status ok = !kit                 ? Status(kit.error())
                      : o.what == "photos" ? deliver_photos(*kit, o, name)
                                           : deliver_scan(*kit, o, name);
    if (!ok) std::fprintf(stderr, "%s\n", ok.error().message.c_str());
    return ok ? 0 : 1;
}
