#pragma once
// What test_fit, test_fit_parts share.
#include <catch2/catch.hpp>

#include <cmath>
#include <random>

#include "core/base/file.h"
#include "core/fit/articulate.h"
#include "core/fit/denoise.h"
#include "core/fit/faults.h"
#include "core/fit/fit.h"
#include "core/fit/follow.h"
#include "core/fit/settings_text.h"
#include "core/io/mesh_file.h"
#include "core/kit/kit_surface.h"
#include "core/linalg/fit_similarity.h"
#include "core/project/fits.h"
#include "core/project/store.h"
#include "demo/standins/made_up_person.h"
#include "tests/support/demo_kit.h"
#include "tests/support/small_meshes.h"

using namespace veld;

namespace {

struct Demo {
    MeshFile scan;
    LandmarkSet marks;
};
inline const Demo& ottoline() {
    static const Demo demo_data = [] {
        Demo d;
        d.scan = std::move(*read_mesh(demo("subjects/ottoline/ottoline_scan.glb")));
        d.marks = std::move(read_landmarks(demo("subjects/ottoline/ottoline_landmarks.json"))->set);
        return d;
    }();
    return demo_data;
}

inline FitInput demo_input() {
    return {demo_kit().get(), {}, &ottoline().scan.mesh, ottoline().marks, Unit::Metre, {}};
}

// With settings as they come; made once.
inline const FitResult& demo_fit() {
    static const FitResult fit = [] {
        auto made = run_fit(demo_input(), {});
        if (!made) throw std::runtime_error(made.error().message);
        return std::move(*made);
    }();
    return fit;
}

inline double face_to_truth(const FitResult& fit) {
    const auto bytes = read_file(demo("subjects/ottoline/ottoline_truth.scan_space_m.f32"));
    const auto* truth = reinterpret_cast<const float*>(bytes->data.get());
    const Points placed = in_source_frame(fit);
    double sum = 0;
    const auto& face = demo_kit()->region("face");
    for (Index v : face) sum += 1000 * (placed[v] - Vec3(truth[3 * v], truth[3 * v + 1], truth[3 * v + 2])).norm();
    return sum / static_cast<double>(face.size());
}

}  // namespace
