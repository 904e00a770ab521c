#include "core/spatial/section.h"

#include <algorithm>
#include <map>

namespace veld {
namespace {

using EdgeKey = std::pair<Index, Index>;  // a < b

struct Piece {
    EdgeKey ends[2];
    bool used = false;
};

}  // namespace

std::vector<Points> section(const Points& positions, const std::vector<Triangle>& triangles, const Plane& plane) {
    std::vector<Piece> pieces;
    std::map<EdgeKey, std::vector<std::size_t>> at;
    for (const Triangle& t : triangles) {
        Piece piece;
        int crossed = 0;
        for (std::size_t k = 0; k < 3; ++k) {
            const Index a = std::min(t[k], t[(k + 1) % 3]), b = std::max(t[k], t[(k + 1) % 3]);
            if ((plane.side(positions[a]) >= 0) != (plane.side(positions[b]) >= 0) && crossed < 2)
                piece.ends[crossed++] = {a, b};
        }
        if (crossed < 2) continue;
        for (const EdgeKey& e : piece.ends) at[e].push_back(pieces.size());
        pieces.push_back(piece);
    }
    const auto place = [&](const EdgeKey& e) {
        const double da = plane.side(positions[e.first]), db = plane.side(positions[e.second]);
        return Vec3(positions[e.first] + (da / (da - db)) * (positions[e.second] - positions[e.first]));
    };
    // from one end as far as it goes
    const auto walk = [&](EdgeKey end, Points& line) {
        for (bool on = true; on;) {
            on = false;
            for (const std::size_t i : at[end]) {
                if (pieces[i].used) continue;
                pieces[i].used = true;
                end = pieces[i].ends[0] == end ? pieces[i].ends[1] : pieces[i].ends[0];
                line.push_back(place(end));
                on = true;
                break;
            }
        }
    };
    std::vector<Points> out;
    for (Piece& start : pieces) {
        if (start.used) continue;
        start.used = true;
        Points forth{place(start.ends[1])}, back{place(start.ends[0])};
        walk(start.ends[1], forth);
        walk(start.ends[0], back);
        std::reverse(back.begin(), back.end());
        back.insert(back.end(), forth.begin(), forth.end());
        out.push_back(std::move(back));
    }
    return out;
}

std::vector<Points> section(const Points& positions, const std::vector<Triangle>& triangles, const Plane& plane,
                            const Similarity& to_plane) {
    const Similarity back = to_plane.inverse();
    const Plane own = Plane::through(back(plane.offset * plane.normal), back.rotation * plane.normal);
    std::vector<Points> out = section(positions, triangles, own);
    for (Points& line : out) {
        for (Vec3& p : line) p = to_plane(p);
    }
    return out;
}

}  // namespace veld
