#pragma once
// What a mesh is made of: its connected pieces, and what each of them may be by its form and its names.
#include <string>

#include "core/mesh/mesh.h"

namespace veld {

std::string small_letters(std::string text);

struct SphereFit {
    Vec3 centre = Vec3::Zero();
    double radius = 0, rms = 0;  // rms: distance of the points from the sphere
};
// Least squares, linear in centre and radius [Coope 1993]. At least four points that are not on one plane; else a
// radius of 0.
SphereFit fit_sphere(const Points& points);

struct Piece {
    FaceIndices faces;       // ascending
    VertexIndices vertices;  // ascending
    std::string words;       // names of its groups and materials, in small letters
    double area = 0;
    Box box;
};
// By faces that share vertices; the largest area first.
std::vector<Piece> find_pieces(const Mesh& mesh);

}  // namespace veld
