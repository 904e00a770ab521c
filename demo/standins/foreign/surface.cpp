#include "demo/standins/foreign/surface.h"

#include <openvdb/openvdb.h>
#include <openvdb/tools/LevelSetFilter.h>
#include <openvdb/tools/MeshToVolume.h>
#include <openvdb/tools/SignedFloodFill.h>
#include <openvdb/tools/VolumeToMesh.h>
#include <tbb/parallel_for.h>

namespace veld::foreign {

namespace {

constexpr int kSide = 8;        // of a leaf
constexpr double kSlack = 1.5;  // distances are estimates

using Leaf = openvdb::FloatTree::LeafNodeType;

// Eight pieces; those far from the surface get their side's value and no more.
void fill(Leaf& leaf, const std::function<double(const Vec3&)>& distance, double cell, double band) {
    const double half = 0.5 * std::sqrt(3.0) * kSide / 2 * cell;
    for (int piece = 0; piece < 8; ++piece) {
        const openvdb::Coord from =
            leaf.origin() + openvdb::Coord(piece & 1 ? 4 : 0, piece & 2 ? 4 : 0, piece & 4 ? 4 : 0);
        const double middle = distance(cell * (Vec3(from.x(), from.y(), from.z()) + Vec3::Constant(1.5)));
        const bool near = std::abs(middle) < kSlack * (half + band);
        for (int i = 0; i < 64; ++i) {
            const openvdb::Coord c = from + openvdb::Coord(i & 3, (i >> 2) & 3, i >> 4);
            const double d = near ? distance(cell * Vec3(c.x(), c.y(), c.z())) : middle;
            const float value = static_cast<float>(std::clamp(d, -band, band));
            if (near && std::abs(d) < band)
                leaf.setValueOn(c, value);
            else
                leaf.setValueOff(c, value);
        }
    }
}

Mesh mesh_of(const openvdb::FloatGrid& grid) {
    std::vector<openvdb::Vec3s> points;
    std::vector<openvdb::Vec4I> quads;
    openvdb::tools::volumeToMesh(grid, points, quads);
    Mesh out;
    for (const auto& p : points) out.positions.push_back(Vec3(p.x(), p.y(), p.z()));
    out.face_start.assign(1, 0);
    for (const auto& q : quads) {
        // its quads wind inwards
        for (const int k : {3, 2, 1, 0}) out.corner_vertex.push_back(q[k]);
        out.face_start.push_back(static_cast<Index>(out.corner_vertex.size()));
    }
    return out;
}

}  // namespace

Mesh iso_surface(const std::function<double(const Vec3&)>& distance, const Box& box, double cell, int smooth_cells) {
    openvdb::initialize();
    const double band = (smooth_cells > 0 ? 4 : 2) * cell;
    auto grid = openvdb::FloatGrid::create(static_cast<float>(band));
    grid->setGridClass(openvdb::GRID_LEVEL_SET);
    grid->setTransform(openvdb::math::Transform::createLinearTransform(cell));
    const double step = kSide * cell;
    const Eigen::Vector3i low = (box.low / step).array().floor().cast<int>(),
                          high = (box.high / step).array().ceil().cast<int>();
    const double half = 0.5 * std::sqrt(3.0) * step;
    tbb::enumerable_thread_specific<std::vector<Leaf*>> made;
    tbb::parallel_for(low.x(), high.x(), [&](int bx) {
        for (int by = low.y(); by < high.y(); ++by) {
            for (int bz = low.z(); bz < high.z(); ++bz) {
                const Vec3 corner = step * Vec3(bx, by, bz);
                if (std::abs(distance(corner + 0.5 * step * Vec3::Ones())) > kSlack * (half + band)) continue;
                auto* leaf = new Leaf(openvdb::Coord(kSide * bx, kSide * by, kSide * bz), static_cast<float>(band));
                fill(*leaf, distance, cell, band);
                made.local().push_back(leaf);
            }
        }
    });
    for (auto& list : made) {
        for (auto* leaf : list) grid->tree().addLeaf(leaf);
    }
    openvdb::tools::signedFloodFill(grid->tree());
    if (smooth_cells > 0) {
        openvdb::tools::LevelSetFilter<openvdb::FloatGrid> filter(*grid);
        filter.offset(static_cast<float>(-0.35 * cell * smooth_cells));
        filter.gaussian(smooth_cells);
        filter.offset(static_cast<float>(0.35 * cell * smooth_cells));
    }
    return mesh_of(*grid);
}

Mesh voxelised(const Points& positions, const std::vector<Triangle>& triangles, double cell) {
    openvdb::initialize();
    const auto transform = openvdb::math::Transform::createLinearTransform(cell);
    std::vector<openvdb::Vec3s> points;
    for (const Vec3& p : positions) points.emplace_back(transform->worldToIndex(openvdb::Vec3d(p.x(), p.y(), p.z())));
    std::vector<openvdb::Vec3I> faces;
    for (const Triangle& t : triangles) faces.emplace_back(t[0], t[1], t[2]);
    const openvdb::tools::QuadAndTriangleDataAdapter<openvdb::Vec3s, openvdb::Vec3I> mesh(points, faces);
    const auto grid = openvdb::tools::meshToVolume<openvdb::FloatGrid>(mesh, *transform);
    return mesh_of(*grid);
}

}  // namespace veld::foreign
