#include "core/io/stl.h"

#include <strings.h>
#include <cmath>
#include <cstring>

#include "core/base/file.h"
#include "core/io/text_scan.h"
#include "core/mesh/topology.h"

namespace veld {
namespace {

// corners: three per triangle
MeshFile from_corners(const Points& corners) {
    MeshFile file;
    Mesh& mesh = file.mesh;
    const std::vector<Index> place = same_place(corners);
    std::vector<Index> vertex(corners.size(), kNone);
    for (std::size_t c = 0; c < corners.size(); ++c) {
        Index& v = vertex[place[c]];
        if (v == kNone) {
            v = mesh.vertex_count();
            mesh.positions.push_back(corners[c]);
        }
        mesh.corner_vertex.push_back(v);
        if (c % 3 == 2) mesh.face_start.push_back(static_cast<Index>(c + 1));
    }
    return file;
}

Error not_finite(const std::string& path, std::size_t triangle) {
    return {ErrorCode::BadFile, "'" + path + "', triangle " + std::to_string(triangle) +
                                    ": a coordinate is not a finite number. Export the mesh again."};
}

// Some writers use capitals.
bool begins_with(std::string_view text, std::string_view word) {
    return text.size() >= word.size() && ::strncasecmp(text.data(), word.data(), word.size()) == 0;
}

Result<MeshFile> parse_ascii(std::string_view text, const std::string& path) {
    Points corners;
    const char* p = text.data();
    const char* end = p + text.size();
    while (p < end) {
        while (p < end && (is_space(*p) || *p == '\n')) ++p;
        const std::string_view left(p, static_cast<std::size_t>(end - p));
        if (!begins_with(left, "vertex")) {
            const void* at = p < end ? std::memchr(p, '\n', static_cast<std::size_t>(end - p)) : nullptr;
            p = at ? static_cast<const char*>(at) + 1 : end;
            continue;
        }
        p += 6;
        Vec3 v;
        for (int k = 0; k < 3; ++k) {
            while (p < end && is_space(*p)) ++p;
            if (!scan_double(p, end, v[k])) {
                return Error{ErrorCode::BadFile, "'" + path + "', line " + std::to_string(line_number(text, p)) +
                                                     ": a vertex needs three numbers."};
            }
        }
        if (!v.allFinite()) return not_finite(path, corners.size() / 3);
        corners.push_back(v);
    }
    if (corners.size() % 3 != 0) {
        return Error{ErrorCode::BadFile, "'" + path + "': the last triangle is incomplete; the file is cut short."};
    }
    return from_corners(corners);
}

}  // namespace

Result<MeshFile> parse_stl(std::string_view bytes, const std::string& path) {
    std::uint32_t count = 0;
    if (bytes.size() >= 84) std::memcpy(&count, bytes.data() + 80, 4);
    const std::size_t needed = 84 + 50 * std::size_t{count};
    const bool binary =
        bytes.size() >= 84 && needed <= bytes.size() && (needed == bytes.size() || !begins_with(bytes, "solid"));
    if (!binary && begins_with(bytes, "solid")) return parse_ascii(bytes, path);
    if (!binary) {
        return Error{ErrorCode::BadFile, "'" + path + "': promises " + std::to_string(count) +
                                             " triangles but is too short for them. The file is cut short or no STL."};
    }
    Points corners;
    corners.reserve(std::size_t{count} * 3);
    for (std::size_t t = 0; t < count; ++t) {
        float values[9];
        std::memcpy(values, bytes.data() + 84 + 50 * t + 12, sizeof values);
        for (int k = 0; k < 3; ++k) {
            corners.emplace_back(values[3 * k], values[3 * k + 1], values[3 * k + 2]);
            if (!corners.back().allFinite()) return not_finite(path, t);
        }
    }
    return from_corners(corners);
}

Result<MeshFile> read_stl(const std::string& path) {
    auto bytes = read_file(path);
    if (!bytes) return bytes.error();
    return parse_stl(bytes->view(), path);
}

std::string stl_bytes(const Mesh& mesh) {
    const Triangulation tri = triangulate(mesh);
    std::string out(84, '\0');
    const auto count = static_cast<std::uint32_t>(tri.triangles.size());
    std::memcpy(out.data() + 80, &count, 4);
    for (const Triangle& t : tri.triangles) {
        const Vec3 &a = mesh.positions[t[0]], &b = mesh.positions[t[1]], &c = mesh.positions[t[2]];
        const Vec3 n = (b - a).cross(c - a).stableNormalized();
        for (const Vec3* v : {&n, &a, &b, &c}) {
            const Eigen::Vector3f f = v->cast<float>();
            out.append(reinterpret_cast<const char*>(f.data()), 12);
        }
        out.append(2, '\0');
    }
    return out;
}

}  // namespace veld
