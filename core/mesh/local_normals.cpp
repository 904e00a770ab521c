#include "core/mesh/local_normals.h"

#include <algorithm>

namespace veld {

VertexIndices renew_normals(const Points& positions, const std::vector<Triangle>& triangles,
                            const Adjacency& triangles_of, const VertexIndices& moved, Points& normals) {
    VertexIndices around = moved;
    for (const Index v : moved) {
        for (const Index* t = triangles_of.begin(v); t != triangles_of.end(v); ++t)
            around.insert(around.end(), triangles[*t].begin(), triangles[*t].end());
    }
    std::sort(around.begin(), around.end());
    around.erase(std::unique(around.begin(), around.end()), around.end());
    for (const Index v : around) {
        Vec3 sum = Vec3::Zero();
        for (const Index* t = triangles_of.begin(v); t != triangles_of.end(v); ++t) {
            const Triangle& c = triangles[*t];
            sum += (positions[c[1]] - positions[c[0]]).cross(positions[c[2]] - positions[c[0]]);
        }
        normals[v] = sum.norm() > 0 ? sum.normalized() : Vec3(Vec3::Zero());
    }
    return around;
}

}  // namespace veld
