#pragma once
// A mesh of the same surface whose density follows what there is to show, as artists build.
#include <functional>

#include "core/mesh/mesh.h"

namespace veld {

// Triangles with edges of about edge_at(middle of the old face): each stretch of equal length is meshed by itself
// [Botsch & Kobbelt 2004] (CGAL). Open borders keep their course.
Mesh graded_mesh(const Mesh& mesh, const std::function<double(const Vec3&)>& edge_at);

}  // namespace veld
