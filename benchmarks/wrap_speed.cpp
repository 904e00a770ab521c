// The wrap of a head on a scan of about 200,000 triangles, against the work that nothing can spare
// it: as many factorisations, solves and closest-point queries, run alone.
#include <benchmark/benchmark.h>

#include "core/fit/fit.h"
#include "core/kit/kit_surface.h"
#include "demo/standins/made_up_person.h"

using namespace veld;

namespace {

struct Setting {
    BaseKit kit;
    SyntheticSubject subject;
    FitResult fit;
    int rounds = 0;
};

const Setting& setting() {
    static const Setting* made = [] {
        auto* s = new Setting;
        s->kit = std::move(*read_base_kit(std::string(VELDSTONE_SOURCE) + "/demo/kit"));
        SubjectOptions options;
        options.lowest_y = 1330;  // with the shoulders: about 200,000 triangles
        s->subject = make_subject(s->kit, options);
        s->fit = std::move(*run_fit({&s->kit, {}, &s->subject.scan, s->subject.landmarks, {}, {}}, {}));
        s->rounds = s->fit.times.rounds;
        return s;
    }();
    return *made;
}

void BM_wrap(benchmark::State& state) {
    const Setting& s = setting();
    double wrap = 0;
    for (auto _ : state) {
        const auto fit = run_fit({&s.kit, {}, &s.subject.scan, s.subject.landmarks, {}, {}}, {});
        wrap = fit->figures.seconds.at("wrap");
        state.SetIterationTime(wrap);
    }
    state.counters["triangles"] = s.subject.scan.face_count();
    state.counters["rounds"] = s.rounds;
}

void BM_unavoidable(benchmark::State& state) {
    const Setting& s = setting();
    const FaceIndices faces = skin_faces(s.kit);
    VertexMask active(s.kit.mesh.positions.size(), 0);
    const auto fade = head_fade(s.kit, 55);
    for (std::size_t v = 0; v < active.size(); ++v) active[v] = fade[v] > 0;
    SurfaceEnergy energy(make_stencil(s.kit.mesh, faces, active), s.kit.mesh.positions, {});
    Points rhs;
    energy.assemble(5, 0.75, s.kit.mesh.positions, rhs);
    for (Index u = 0; u < rhs.size(); ++u) energy.solver().values()[energy.solver().slot(u, u)] += 1;
    const SourceSurface source = prepare_source(s.subject.scan, s.fit.placement.source_to_kit);
    for (auto _ : state) {
        for (int round = 0; round < s.rounds; ++round) {
            (void)energy.solver().factor();
            benchmark::DoNotOptimize(energy.solver().solve(rhs));
            for (Index u = 0; u < rhs.size(); ++u)
                benchmark::DoNotOptimize(source.closest(s.fit.positions[energy.stencil().vertex[u]], 20, nullptr));
        }
    }
    state.counters["vertices"] = static_cast<double>(rhs.size());
}

BENCHMARK(BM_unavoidable)->Unit(benchmark::kMillisecond)->Iterations(3)->UseRealTime();
BENCHMARK(BM_wrap)->Unit(benchmark::kMillisecond)->Iterations(3)->UseManualTime();

}  // namespace

BENCHMARK_MAIN();
