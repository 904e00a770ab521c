// base-standin: somebody else's base mesh from a seed, and the truth about it.
// usage: base-standin KIT OUT.obj|.ply|.glb SEED [--bust] [--triangles] [--edge MM] [--asymmetric] [--skin-only]
// [--graded] [--rigged] [--uvs]
#include <cstdio>
#include <cstring>
#include <string>

#include "core/base/file.h"
#include "core/base/json.h"
#include "core/io/mesh_write.h"
#include "demo/standins/made_up_base.h"

using namespace veld;

namespace {

Json point_json(const Vec3& p) { return {p.x(), p.y(), p.z()}; }

std::string truth_text(const MadeUpBase& made) {
    Json json;
    for (const auto& [name, p] : made.landmarks) json["landmarks"][name] = point_json(made.from_mm(p));
    for (const Joint& j : made.joints) json["joints"][j.name] = point_json(made.from_mm(j.position));
    json["parts"] = made.part_of;
    for (const Index v : made.partner) json["partner"].push_back(v == kNone ? Json(nullptr) : Json(v));
    for (const auto& [name, region] : made.regions) {
        for (Index v = 0; v < region.size(); ++v) {
            if (region[v]) json["regions"][name].push_back(v);
        }
    }
    return json.dump();
}

}  // namespace

int main(int argc, char** argv) {
    if (argc < 4) {
        std::fprintf(stderr,
                     "usage: base-standin KIT OUT.obj|.ply|.glb SEED [--bust] [--triangles] [--edge MM] "
                     "[--asymmetric] [--skin-only] [--graded] [--rigged] [--uvs]\n");
        return 2;
    }
    BaseOptions o;
    bool rigged = false;  // GLB with joints, weights and expressions of its own
    o.seed = static_cast<unsigned>(std::atoi(argv[3]));
    for (int i = 4; i < argc; ++i) {
        const std::string word = argv[i];
        if (word == "--bust") o.figure = false;
        if (word == "--triangles") o.quads = false;
        if (word == "--asymmetric") o.symmetric = false;
        if (word == "--skin-only") o.parts = false;
        if (word == "--graded") o.graded = true;
        if (word == "--uvs") o.uvs = true;
        rigged |= word == "--rigged";
        if (word == "--edge" && i + 1 < argc) o.edge_mm = std::atof(argv[++i]);
    }
    const auto kit = read_base_kit(argv[1]);
    if (!kit) return std::fprintf(stderr, "%s\n", kit.error().message.c_str()), 1;
    const MadeUpBase made = make_base(*kit, o);
    const std::string out = argv[2];
    if (rigged) {
        if (auto ok = write_file(out, rigged_glb(made, rig_of(made))); !ok)
            return std::fprintf(stderr, "%s\n", ok.error().message.c_str()), 1;
    } else if (auto ok = write_mesh(out, made.mesh, millimetres(o.unit) / 1000, "a made-up base"); !ok)
        return std::fprintf(stderr, "%s\n", ok.error().message.c_str()), 1;
    if (auto ok = write_file(out + ".truth.json", truth_text(made)); !ok)
        return std::fprintf(stderr, "%s\n", ok.error().message.c_str()), 1;
    std::printf("%s: %zu vertices, %u faces\n", out.c_str(), made.mesh.positions.size(), made.mesh.face_count());
    return 0;
}
