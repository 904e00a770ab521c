// A range of motion measured, against the queries that it cannot do without: skin that cuts itself, of the shape and
// of the base, in each of its frames. Best of some runs, both in turn. Usage: build/release/bin/proof_speed KIT_FOLDER
// SHAPE MOTION.bvh [FRAMES]
#include <tbb/parallel_for.h>

#include <chrono>
#include <cstdio>

#include "core/io/mesh_file.h"
#include "core/kit/kit_surface.h"
#include "core/proof/prove.h"
#include "core/rig/bvh.h"
#include "core/spatial/self_intersections.h"

using namespace veld;

namespace {

constexpr int kRuns = 3;

template <class Work>
double seconds(Work work) {
    const auto start = std::chrono::steady_clock::now();
    work();
    return std::chrono::duration<double>(std::chrono::steady_clock::now() - start).count();
}

// That many frames, evenly over the motion.
Result<Proof> frames_of(const BaseKit& kit, const char* file, std::size_t count) {
    const auto motion = read_bvh(file);
    if (!motion) return motion.error();
    const auto poses = motion_on(*motion, kit.joints);
    if (!poses) return poses.error();
    Proof out{"motion", ProofKind::Motion, {}};
    for (std::size_t i = 0; i < count; ++i) out.stops.push_back({(*poses)[i * poses->size() / count], {}});
    return out;
}

int run(const BaseKit& kit, const Points& shape, const Proof& proof) {
    const auto bench = ProofBench::make(kit, shape, {proof}, {});
    if (!bench) return std::printf("%s\n", bench.error().message.c_str()), 1;
    std::vector<Points> posed;
    for (const ProofStop& stop : proof.stops) {
        posed.push_back(bench->shape.at(stop, Skinning::Linear));
        posed.push_back(bench->base.at(stop, Skinning::Linear));
    }
    double whole = 1e9, queries = 1e9;
    std::size_t rows = 0, cuts = 0;
    for (int i = 0; i < kRuns; ++i) {
        whole = std::min(whole, seconds([&] { rows = prove(*bench, {proof}, Skinning::Linear, {})->rows.size(); }));
        queries = std::min(queries, seconds([&] {
                               std::vector<std::size_t> found(posed.size());
                               tbb::parallel_for(std::size_t{0}, posed.size(), [&](std::size_t k) {
                                   found[k] = self_intersections(posed[k], skin_triangles(kit)).size();
                               });
                               cuts = found.back();
                           }));
    }
    std::printf(
        "%zu frames of %zu vertices: measured in %.2f s (%zu figures), their queries alone %.2f s (%zu): %.2f x\n",
        proof.stops.size(), shape.size(), whole, rows, queries, cuts, whole / queries);
    return 0;
}

}  // namespace

int main(int argc, char** argv) {
    if (argc < 4) return std::printf("usage: proof_speed KIT_FOLDER SHAPE MOTION.bvh [FRAMES]\n"), 2;
    const auto kit = read_base_kit(argv[1]);
    if (!kit) return std::printf("%s\n", kit.error().message.c_str()), 1;
    const auto shape = read_mesh(argv[2]);
    if (!shape) return std::printf("%s\n", shape.error().message.c_str()), 1;
    const int frames = argc > 4 ? std::atoi(argv[4]) : 30;
    if (shape->mesh.positions.size() != kit->mesh.positions.size() || frames < 1)
        return std::printf("the shape is none of the kit's base, or there are no frames\n"), 1;
    const auto proof = frames_of(*kit, argv[3], static_cast<std::size_t>(frames));
    if (!proof) return std::printf("%s\n", proof.error().message.c_str()), 1;
    return run(*kit, shape->mesh.positions, *proof);
}
