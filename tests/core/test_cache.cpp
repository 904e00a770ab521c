// What is kept on disk because it costs time to make again: the cache's folder, its limit, what it never touches.
#include <catch2/catch.hpp>
#include <cmath>
#include <cstring>
#include <filesystem>

#include "core/base/cache.h"
#include "core/mesh/mesh.h"
#include "core/spatial/openness.h"
#include "core/spatial/surface_query.h"
#include "tests/support/broken_mesh.h"
#include "tests/support/scratch.h"

using namespace veld;

namespace {

// The cache lies here until the end of the test.
struct CacheHere {
    Scratch scratch;
    std::string folder = scratch / "cache";
    explicit CacheHere(std::uint64_t most = kUsualCacheBytes) { set_cache(folder, most); }
    ~CacheHere() { set_cache({}, kUsualCacheBytes); }
    std::string path(const std::string& name) const { return folder + "/" + name; }
};

std::string named(int number, const char* kind = "shade") {
    CacheKey key;
    key.mix(&number, sizeof number);
    return key.file(kind, "bin");
}

bool kept(const std::string& name) { return from_cache(name).has_value(); }

// Used that long ago.
void age(const std::string& path, int hours) {
    std::filesystem::last_write_time(path, std::filesystem::file_time_type::clock::now() - std::chrono::hours(hours));
}

}  // namespace

TEST_CASE("Cache: a key depends on every byte and on their order, and names a file") {
    CacheKey one, other, empty;
    one.mix("ab", 2);
    other.mix("ba", 2);
    CHECK(one.file("face", "json") != other.file("face", "json"));
    CHECK(empty.file("face", "json") == "face-cbf29ce484222325.json");  // FNV-1a's offset basis
    CacheKey known;
    known.mix("foobar", 6);
    CHECK(known.file("x", "y") == "x-85944171f73967e8.y");  // the authors' test vector
}

TEST_CASE("Cache: what goes in comes out, until it is emptied; nothing else in its folder is touched") {
    const CacheHere cache;
    CHECK(cache_folder() == cache.folder);
    CHECK(cache_bytes() == 0);
    CHECK_FALSE(kept(named(1)));
    into_cache(named(1), "twelve bytes");
    into_cache(named(2), std::string("\0\1\2", 3));
    REQUIRE(kept(named(1)));
    CHECK(from_cache(named(1))->view() == "twelve bytes");
    CHECK(from_cache(named(2))->view() == std::string_view("\0\1\2", 3));
    CHECK(cache_bytes() == 15);

    for (const char* theirs : {"notes.txt", "shade-1234.bin", "shade-xxxxxxxxxxxxxxxx.bin", "-0123456789abcdef.bin"})
        REQUIRE(write_file(cache.path(theirs), "mine"));
    std::filesystem::create_directory(cache.path("folder-0123456789abcdef.bin"));
    CHECK(cache_bytes() == 15);
    empty_cache();
    CHECK(cache_bytes() == 0);
    CHECK_FALSE(kept(named(1)));
    CHECK(std::filesystem::exists(cache.path("notes.txt")));
    CHECK(std::distance(std::filesystem::directory_iterator(cache.folder), {}) == 5);
}

TEST_CASE("Cache: beyond its limit, what was not used for longest goes first") {
    const CacheHere cache(3000);
    const std::string thousand(1000, 'x');
    for (int i = 0; i < 3; ++i) {
        into_cache(named(i), thousand);
        age(cache.path(named(i)), 10 - i);
    }
    SECTION("a use counts") {
        REQUIRE(kept(named(0)));  // the oldest, used just now
        into_cache(named(3), thousand);
        CHECK(kept(named(0)));
        CHECK_FALSE(kept(named(1)));
        CHECK(kept(named(2)));
        CHECK(kept(named(3)));
    }
    SECTION("a smaller limit holds at once") {
        set_cache(cache.folder, 1500);
        CHECK_FALSE(kept(named(0)));
        CHECK_FALSE(kept(named(1)));
        CHECK(kept(named(2)));
    }
    SECTION("what is larger than the whole cache is not kept, and pushes nothing out") {
        into_cache(named(4), std::string(4000, 'x'));
        CHECK_FALSE(kept(named(4)));
        CHECK(cache_bytes() == 3000);
    }
    SECTION("none") {
        set_cache(cache.folder, 0);
        CHECK(cache_bytes() == 0);
        into_cache(named(5), "x");
        CHECK_FALSE(kept(named(5)));
    }
}

TEST_CASE("Cache: without a place for it everything is made again, and nothing fails") {
    const CacheHere cache;
    set_cache("/proc/no such folder", kUsualCacheBytes);
    into_cache(named(1), "x");
    CHECK_FALSE(kept(named(1)));
    CHECK(cache_bytes() == 0);
    empty_cache();
}

TEST_CASE("Openness from the cache: the same numbers; a damaged file or another shape is baked") {
    const CacheHere cache;
    Mesh ball = sphere(16, 40);
    const std::vector<Triangle> triangles = triangulate(ball).triangles;
    const auto bake = [&] {
        const SurfaceQuery query(ball.positions, triangles);
        return kept_openness_of(ball.positions, vertex_normals(ball.positions, triangles), triangles, query, {}, {});
    };
    const std::vector<float> first = bake();
    REQUIRE(first.size() == ball.positions.size());
    REQUIRE(cache_bytes() == first.size() * sizeof(float));
    const std::string file = std::filesystem::directory_iterator(cache.folder)->path().string();

    // what lies there is what is given back
    std::vector<float> marked = first;
    marked[7] = 0.125f;
    const std::string_view bytes(reinterpret_cast<const char*>(marked.data()), marked.size() * sizeof(float));
    REQUIRE(write_file(file, bytes));
    CHECK(bake() == marked);

    REQUIRE(write_file(file, bytes.substr(4)));  // cut off
    CHECK(bake() == first);
    marked[7] = std::nanf("");
    REQUIRE(write_file(file, {reinterpret_cast<const char*>(marked.data()), marked.size() * sizeof(float)}));
    CHECK(bake() == first);

    ball.positions[0] *= 1.01;
    bake();
    CHECK(std::distance(std::filesystem::directory_iterator(cache.folder), {}) == 2);
}
