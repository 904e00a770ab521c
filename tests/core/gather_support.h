#pragma once
// What test_gather, test_stand share.
#include <catch2/catch.hpp>

#include <zip.h>
#include <thread>

#include "core/io/gather.h"
#include "core/io/general_import.h"
#include "core/io/mesh_write.h"
#include "core/io/surface_colour.h"
#include "core/linalg/fit_similarity.h"
#include "core/project/inbox.h"
#include "core/project/sources.h"
#include "core/project/store.h"
#include "core/tidy/straighten.h"
#include "core/tidy/subject_kind.h"
#include "core/tidy/tools.h"
#include "demo/standins/made_up_person.h"
#include "tests/support/broken_mesh.h"
#include "tests/support/demo_kit.h"

using namespace veld;

namespace {

inline void write_zip(const std::string& path, const std::vector<std::pair<std::string, std::string>>& files) {
    int code = 0;
    zip_t* zip = zip_open(path.c_str(), ZIP_CREATE | ZIP_TRUNCATE, &code);
    REQUIRE(zip);
    for (const auto& [name, bytes] : files)
        REQUIRE(zip_file_add(zip, name.c_str(), zip_source_buffer(zip, bytes.data(), bytes.size(), 0), 0) >= 0);
    REQUIRE(zip_close(zip) == 0);
}

inline std::string png_of(std::uint8_t red) {
    Pixels p{2, 2, {}};
    for (int i = 0; i < 4; ++i) p.rgba.insert(p.rgba.end(), {red, 10, 20, 255});
    const auto bytes = encode_png(p);
    return {bytes.begin(), bytes.end()};
}

[[maybe_unused]] const char* kTwoTiles =
    "mtllib two.mtl\nv 0 0 0\nv 1 0 0\nv 1 1 0\nv 0 1 0\nvt 0.1 0.1\nvt 0.9 0.1\nvt 0.9 0.9\nvt 1.1 0.1\nvt 1.9 "
    "0.1\nvt 1.9 0.9\n"
    "usemtl skin\nf 1/1 2/2 3/3\nf 1/4 3/5 4/6\n";

inline double degrees_between(const Vec3& a, const Vec3& b) {
    return std::acos(std::clamp(a.normalized().dot(b.normalized()), -1.0, 1.0)) * 180 / M_PI;
}

}  // namespace
