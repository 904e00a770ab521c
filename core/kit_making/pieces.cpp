#include "core/kit_making/pieces.h"

#include <Eigen/Dense>
#include <algorithm>
#include <set>

#include "core/mesh/edges.h"

namespace veld {
std::string small_letters(std::string text) {
    for (char& c : text) c = static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
    return text;
}

SphereFit fit_sphere(const Points& points) {
    SphereFit out;
    if (points.size() < 4) return out;
    // |p|^2 = 2 c . p + (r^2 - |c|^2), about the middle of the points
    Vec3 middle = Vec3::Zero();
    for (const Vec3& p : points) middle += p;
    middle /= static_cast<double>(points.size());
    Eigen::Matrix4d a = Eigen::Matrix4d::Zero();
    Eigen::Vector4d b = Eigen::Vector4d::Zero();
    for (const Vec3& p : points) {
        const Vec3 q = p - middle;
        const Eigen::Vector4d row(2 * q.x(), 2 * q.y(), 2 * q.z(), 1);
        a += row * row.transpose();
        b += q.squaredNorm() * row;
    }
    const Eigen::FullPivLU<Eigen::Matrix4d> solver(a);
    if (solver.rank() < 4) return out;
    const Eigen::Vector4d x = solver.solve(b);
    const double squared = x[3] + x.head<3>().squaredNorm();
    if (!(squared > 0)) return out;
    out.centre = middle + x.head<3>();
    out.radius = std::sqrt(squared);
    double sum = 0;
    for (const Vec3& p : points) sum += std::pow((p - out.centre).norm() - out.radius, 2);
    out.rms = std::sqrt(sum / static_cast<double>(points.size()));
    return out;
}

std::vector<Piece> find_pieces(const Mesh& mesh) {
    Index count = 0;
    const std::vector<Index> piece_of = face_components(mesh, {}, &count);
    std::vector<Piece> out(count);
    std::vector<std::set<std::string>> words(count);
    for (Index f = 0; f < mesh.face_count(); ++f) {
        Piece& piece = out[piece_of[f]];
        piece.faces.push_back(f);
        piece.area += face_normal(mesh, f).norm();
        for (Index c = mesh.face_start[f]; c < mesh.face_start[f + 1]; ++c)
            piece.vertices.push_back(mesh.corner_vertex[c]);
        if (!mesh.face_group.empty() && mesh.face_group[f] != kNone)
            words[piece_of[f]].insert(small_letters(mesh.group_names[mesh.face_group[f]]));
        if (!mesh.face_material.empty() && mesh.face_material[f] != kNone)
            words[piece_of[f]].insert(small_letters(mesh.materials[mesh.face_material[f]].name));
    }
    for (Index i = 0; i < count; ++i) {
        Piece& piece = out[i];
        std::sort(piece.vertices.begin(), piece.vertices.end());
        piece.vertices.erase(std::unique(piece.vertices.begin(), piece.vertices.end()), piece.vertices.end());
        for (const Index v : piece.vertices) piece.box.add(mesh.positions[v]);
        for (const std::string& word : words[i]) piece.words += (piece.words.empty() ? "" : " ") + word;
    }
    std::stable_sort(out.begin(), out.end(), [](const Piece& a, const Piece& b) { return a.area > b.area; });
    return out;
}

}  // namespace veld
