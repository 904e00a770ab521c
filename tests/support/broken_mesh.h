#pragma once
// Meshes with everything that scans and exports do wrong, from a seed.
#include <random>

#include "tests/support/small_meshes.h"

namespace veld {

using Rng = std::mt19937;

// Latitude-longitude ball of n rings, triangles at the poles, outward.
inline Mesh sphere(int n, double radius) {
    Mesh m;
    const int around = 2 * n;
    for (int j = 1; j < n; ++j) {
        for (int i = 0; i < around; ++i) {
            const double t = M_PI * j / n, p = 2 * M_PI * i / around;
            m.positions.emplace_back(radius * std::sin(t) * std::cos(p), radius * std::sin(t) * std::sin(p),
                                     radius * std::cos(t));
        }
    }
    const Index top = m.vertex_count(), bottom = top + 1;
    m.positions.emplace_back(0, 0, radius);
    m.positions.emplace_back(0, 0, -radius);
    const auto at = [&](int j, int i) { return static_cast<Index>((j - 1) * around + i % around); };
    for (int i = 0; i < around; ++i) {
        add_face(m, {top, at(1, i), at(1, i + 1)});
        for (int j = 1; j + 1 < n; ++j) {
            add_face(m, {at(j, i), at(j + 1, i), at(j + 1, i + 1)});
            add_face(m, {at(j, i), at(j + 1, i + 1), at(j, i + 1)});
        }
        add_face(m, {at(n - 1, i), bottom, at(n - 1, i + 1)});
    }
    return m;
}

inline void append_sheet(Mesh& m, int n, double size, const Vec3& at) {
    const Mesh s = sheet(n, size, [](double, double) { return 0.0; });
    const Index first = m.vertex_count();
    for (const Vec3& p : s.positions) m.positions.push_back(p + at);
    for (Index f = 0; f < s.face_count(); ++f) {
        for (Index c = s.face_start[f]; c < s.face_start[f + 1]; ++c)
            m.corner_vertex.push_back(first + s.corner_vertex[c]);
        m.face_start.push_back(static_cast<Index>(m.corner_vertex.size()));
    }
}

// A unit cube whose faces share no vertex, each with its own chart.
inline Mesh seamed_cube() {
    const Mesh whole = cube();
    Mesh m;
    for (Index f = 0; f < 6; ++f) {
        for (Index k = 0; k < 4; ++k) {
            m.corner_vertex.push_back(m.vertex_count());
            m.corner_uv.push_back(m.vertex_count());
            m.positions.push_back(whole.positions[whole.corner_vertex[4 * f + k]]);
            m.uvs.emplace_back(f / 6.0 + (k == 1 || k == 2) / 6.0, k > 1);
        }
        m.face_start.push_back(static_cast<Index>(m.corner_vertex.size()));
    }
    return m;
}

// A ball of 240 with holes, small components, seams, flipped and repeated faces, slivers, spikes, fins, UVs and
// colours.
inline Mesh broken_scan(Rng& rng) {
    std::uniform_real_distribution<double> u(0, 1);
    const auto pick = [&](std::size_t n) { return static_cast<Index>(rng() % n); };
    const Mesh whole = sphere(6 + static_cast<int>(rng() % 10), 120);
    Mesh m;
    m.positions = whole.positions;
    m.materials.resize(2);
    m.group_names = {"one", "two"};
    const bool uv = rng() % 2, colours = rng() % 2, kinds = rng() % 2;
    for (Index f = 0; f < whole.face_count(); ++f) {
        if (u(rng) < 0.04) continue;  // holes
        Triangle t{whole.corner_vertex[3 * f], whole.corner_vertex[3 * f + 1], whole.corner_vertex[3 * f + 2]};
        if (u(rng) < 0.03) std::swap(t[0], t[1]);                // turned
        if (u(rng) < 0.02) t[2] = t[1];                          // folded
        if (u(rng) < 0.02) t[2] = pick(whole.positions.size());  // a fin across
        for (Index& v : t) {
            if (u(rng) < 0.05) m.positions.push_back(m.positions[v]), v = m.vertex_count() - 1;  // seams
        }
        for (int repeat = u(rng) < 0.02 ? 2 : 1; repeat > 0; --repeat) add_face(m, {t[0], t[1], t[2]});
    }
    add_face(m, {0, 1, 1});
    append_sheet(m, 1 + static_cast<int>(rng() % 2), 3, Vec3(150 * u(rng), 10, 130));
    for (int i = 0; i < 4; ++i) m.positions[pick(m.positions.size())] *= 1 + 2 * u(rng);  // spikes
    m.positions.emplace_back(1, 2, 3);                                                    // unused
    if (uv) {
        for (const Vec3& p : m.positions) m.uvs.emplace_back(p.x() / 300 + 0.5, p.y() / 300 + 0.5);
        m.corner_uv = m.corner_vertex;
        for (Index& c : m.corner_uv) {
            if (u(rng) < 0.01) c = kNone;
        }
    }
    if (colours) {
        for (std::size_t v = 0; v < m.positions.size(); ++v)
            m.colours.push_back({static_cast<std::uint8_t>(rng()), 100, static_cast<std::uint8_t>(v), 255});
    }
    if (kinds) {
        for (Index f = 0; f < m.face_count(); ++f)
            m.face_group.push_back(rng() % 5 ? rng() % 2 : kNone), m.face_material.push_back(rng() % 2);
    }
    return m;
}

}  // namespace veld
