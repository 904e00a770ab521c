#pragma once
// What test_bank, test_morph_files share.
#include <catch2/catch.hpp>

#include <cmath>
#include <filesystem>
#include <random>

#include "core/base/file.h"
#include "core/exchange/export.h"
#include "core/exchange/return_check.h"
#include "core/io/obj.h"
#include "core/linalg/fit_similarity.h"
#include "core/morph/arithmetic.h"
#include "core/morph/head_seat.h"
#include "core/morph/share.h"
#include "core/project/bank.h"
#include "core/project/store.h"
#include "tests/support/apart.h"
#include "tests/support/demo_kit.h"

using namespace veld;

namespace {

inline const BaseKit& kit() { return *demo_kit(); }

// A smooth shape of the whole figure, from a seed.
inline Points waved(unsigned seed, double mm = 6) {
    std::mt19937 random(seed);
    std::uniform_real_distribution<double> any(0.5, 1.5);
    const double a = any(random), b = any(random), c = any(random);
    Points out = kit().mesh.positions;
    for (Vec3& p : out)
        p += mm * Vec3(std::sin(a * p.y() / 90), std::cos(b * p.x() / 70), std::sin(c * p.z() / 80 + a));
    return out;
}

inline Morph whole(const std::string& name, unsigned seed) { return *make_morph(kit(), waved(seed), name, 0); }

inline Points demo_shape(const std::string& name) {
    return std::move(read_mesh(demo("returns/" + name + ".obj"))->mesh.positions);
}

}  // namespace
