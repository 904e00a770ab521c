// Reading speed against the unavoidable: the same bytes through a bare std::from_chars loop (OBJ),
// a raw read plus copy (PLY). Ratios are within one run; the machine is noisy.
#include <benchmark/benchmark.h>

#include <malloc.h>

#include <charconv>
#include <cmath>
#include <cstring>
#include <filesystem>

#include "core/base/file.h"
#include "core/io/obj.h"
#include "core/io/ply.h"

using namespace veld;

namespace {

// 500,000 triangles with v, vt, vn, as scanners write them.
Mesh big_sheet() {
    Mesh m;
    const int n = 500;
    for (int j = 0; j <= n; ++j) {
        for (int i = 0; i <= n; ++i) {
            const double x = 0.731 * i, y = 0.613 * j;
            m.positions.emplace_back(x, y, 10 * std::sin(0.05 * x) * std::cos(0.04 * y));
            m.uvs.emplace_back(i / double(n), j / double(n));
            m.normals.push_back(Vec3(std::sin(0.05 * x), std::cos(0.04 * y), 2).normalized());
        }
    }
    const auto at = [&](int i, int j) { return static_cast<Index>(j * (n + 1) + i); };
    for (int j = 0; j < n; ++j) {
        for (int i = 0; i < n; ++i) {
            for (Index v : {at(i, j), at(i + 1, j), at(i + 1, j + 1), at(i, j), at(i + 1, j + 1), at(i, j + 1)}) {
                m.corner_vertex.push_back(v), m.corner_uv.push_back(v), m.corner_normal.push_back(v);
                if (m.corner_vertex.size() % 3 == 0)
                    m.face_start.push_back(static_cast<Index>(m.corner_vertex.size()));
            }
        }
    }
    for (auto* list : {&m.positions, &m.normals}) {
        for (Vec3& p : *list) p = (p * 1e6).array().round() / 1e6;  // six decimals, as exporters print
    }
    for (Vec2& p : m.uvs) p = (p * 1e6).array().round() / 1e6;
    return m;
}

std::string path(const char* name) { return (std::filesystem::temp_directory_path() / name).string(); }

void write_files() {
    static const bool once = [] {
        const Mesh m = big_sheet();
        (void)write_obj(path("veldstone-bench.obj"), m);
        // float rows and int lists, as scanners write them
        std::string ply = "ply\nformat binary_little_endian 1.0\nelement vertex " + std::to_string(m.vertex_count()) +
                          "\nproperty float x\nproperty float y\nproperty float z\nproperty uchar red\nproperty uchar "
                          "green\nproperty uchar blue\nelement face " +
                          std::to_string(m.face_count()) + "\nproperty list uchar int vertex_indices\nend_header\n";
        for (const Vec3& p : m.positions) {
            const Eigen::Vector3f f = p.cast<float>();
            ply.append(reinterpret_cast<const char*>(f.data()), 12).append("\x10\x20\x30", 3);
        }
        for (Index f = 0; f < m.face_count(); ++f) {
            ply.push_back(3);
            ply.append(reinterpret_cast<const char*>(&m.corner_vertex[m.face_start[f]]), 12);
        }
        (void)write_file(path("veldstone-bench.ply"), ply);
        return true;
    }();
    (void)once;
}

void set_rate(benchmark::State& state, const char* file) {
    state.SetBytesProcessed(static_cast<std::int64_t>(state.iterations() * std::filesystem::file_size(path(file))));
}

void BM_obj_bare_from_chars(benchmark::State& state) {
    write_files();
    for (auto _ : state) {
        const auto bytes = read_file(path("veldstone-bench.obj"));
        const char *p = bytes->data.get(), *end = p + bytes->size;
        std::vector<double> numbers;
        numbers.reserve(bytes->size / 8);
        while (p < end) {
            const unsigned char c = static_cast<unsigned char>(*p);
            if ((c >= '0' && c <= '9') || c == '-') {
                double v = 0;
                p = std::from_chars(p, end, v).ptr;
                numbers.push_back(v);
            } else {
                ++p;
            }
        }
        benchmark::DoNotOptimize(numbers.data());
    }
    set_rate(state, "veldstone-bench.obj");
}

void BM_obj_read(benchmark::State& state) {
    write_files();
    for (auto _ : state) benchmark::DoNotOptimize(read_obj(path("veldstone-bench.obj")));
    set_rate(state, "veldstone-bench.obj");
}

void BM_ply_raw_read_and_copy(benchmark::State& state) {
    write_files();
    for (auto _ : state) {
        const auto bytes = read_file(path("veldstone-bench.ply"));
        std::vector<char> copy(bytes->data.get(), bytes->data.get() + bytes->size);
        benchmark::DoNotOptimize(copy.data());
    }
    set_rate(state, "veldstone-bench.ply");
}

void BM_ply_read(benchmark::State& state) {
    write_files();
    for (auto _ : state) benchmark::DoNotOptimize(read_ply(path("veldstone-bench.ply")));
    set_rate(state, "veldstone-bench.ply");
}

BENCHMARK(BM_obj_bare_from_chars)->Unit(benchmark::kMillisecond)->Repetitions(5)->ReportAggregatesOnly();
BENCHMARK(BM_obj_read)->Unit(benchmark::kMillisecond)->Repetitions(5)->ReportAggregatesOnly();
BENCHMARK(BM_ply_raw_read_and_copy)->Unit(benchmark::kMillisecond)->Repetitions(5)->ReportAggregatesOnly();
BENCHMARK(BM_ply_read)->Unit(benchmark::kMillisecond)->Repetitions(5)->ReportAggregatesOnly();

}  // namespace

// Every buffer is fresh from the system, as it is when a program opens a file: without this the C
// library would keep the smaller case's pages from one iteration to the next, and not the larger one's.
int main(int argc, char** argv) {
    ::mallopt(M_MMAP_THRESHOLD, 1 << 17);
    benchmark::Initialize(&argc, argv);
    benchmark::RunSpecifiedBenchmarks();
}
