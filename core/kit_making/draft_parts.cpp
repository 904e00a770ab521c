#include "core/kit_making/draft_parts.h"

#include <algorithm>
#include <numeric>

#include "core/spatial/nearest_points.h"

namespace veld {
namespace {

constexpr double kAlsoSkin = 0.25;                        // of the largest piece's area
constexpr double kAlike = 0.7, kBeside = 0.8;             // of sizes: another body, and side by side
constexpr double kBallRms = 0.06;                         // of its radius
constexpr double kBallWidth = 1.3;                        // of its radius, across its second longest side
constexpr double kPieceReachMm = 12, kPartMm = 7;         // of a piece from the model's part, in the model's size
constexpr double kEdgeMm = 3, kBrowMm = 10, kNailMm = 6;  // of a piece from lids' edge, brow line, finger
constexpr double kEdgePieceMm = 50, kBrowPieceMm = 70, kNailPieceMm = 25;  // how large such a piece is at most
constexpr const char* kOrder[] = {"skin",   "eye_l",  "eye_r",    "teeth_upper", "teeth_lower", "tongue",
                                  "lash_l", "lash_r", "lid_edge", "brows",       "nails",       "other"};

Points points_of(const Mesh& mesh, const VertexIndices& vertices) {
    Points out;
    for (const Index v : vertices) out.push_back(mesh.positions[v]);
    return out;
}

// A ball or a good part of one: a strip of lashes lies on a sphere too, but is narrow.
bool is_ball(const Points& points) {
    const SphereFit fit = fit_sphere(points);
    if (!(fit.radius > 0) || fit.rms > kBallRms * fit.radius) return false;
    Vec3 size = bounding_box(points).size();
    std::sort(size.data(), size.data() + 3);
    return size[1] > kBallWidth * fit.radius;
}

std::string named_by_word(const std::string& words, const std::map<std::string, std::string>& by_word) {
    for (const auto& [word, part] : by_word) {
        if (words.find(small_letters(word)) != std::string::npos) return part;
    }
    return {};
}

// Where the model's strips and nails would be: along its lids and brows, and on the skin of its fingers.
struct PlacesOfSmallThings {
    Points lids, brows, fingers;  // as the model lies on the base
    PlacesOfSmallThings(const BaseKit& model, const LaidModel& laid) {
        for (const auto& [name, curve] : model.curves) {
            Points* to = name.find("_lid") != std::string::npos ? &lids : name.starts_with("brow") ? &brows : nullptr;
            if (!to) continue;
            for (const SurfacePoint& p : curve) to->push_back(p.at(laid.positions));
        }
        for (const auto& [name, region] : model.regions) {
            if (!name.starts_with("finger_")) continue;
            for (const Index v : region) fingers.push_back(laid.positions[v]);
        }
    }
};

double mean_distance(const Points& from, const Points& to) {
    double sum = 0;
    for (const Vec3& p : from) {
        double least = 1e300;
        for (const Vec3& q : to) least = std::min(least, (p - q).squaredNorm());
        sum += std::sqrt(least);
    }
    return from.empty() || to.empty() ? 1e300 : sum / static_cast<double>(from.size());
}

// What is no part of the model: a strip along the lids, brows, nails; else "other".
std::string small_thing(const Points& piece, const PlacesOfSmallThings& places, double size) {
    const double across = bounding_box(piece).size().norm();
    if (across < kEdgePieceMm * size && mean_distance(piece, places.lids) < kEdgeMm * size) return "lid_edge";
    if (across < kBrowPieceMm * size && mean_distance(piece, places.brows) < kBrowMm * size) return "brows";
    if (across < kNailPieceMm * size && mean_distance(piece, places.fingers) < kNailMm * size) return "nails";
    return "other";
}

}  // namespace

VertexMask DraftParts::not_skin(std::size_t vertices) const {
    VertexMask out(vertices, 1);
    for (const std::size_t i : skin) {
        for (const Index v : pieces[i].vertices) out[v] = 0;
    }
    return out;
}

DraftParts draft_parts(const Mesh& mesh) {
    DraftParts out;
    out.pieces = find_pieces(mesh);
    out.name.resize(out.pieces.size());
    out.off_mm.resize(out.pieces.size(), 0);
    if (out.pieces.empty() || !(out.pieces.front().area > 0)) return out;
    const Piece& largest = out.pieces.front();
    for (std::size_t i = 0; i < out.pieces.size(); ++i) {
        const Piece& piece = out.pieces[i];
        if (piece.area < kAlsoSkin * largest.area || (i > 0 && is_ball(points_of(mesh, piece.vertices)))) continue;
        // another body stands beside the first and is about as large; a head stands over its body
        const Vec3 apart = (piece.box.centre() - largest.box.centre()).cwiseAbs();
        const Vec3 here = piece.box.size(), there = largest.box.size();
        const bool alike =
            (here.array() > kAlike * there.array()).all() && (there.array() > kAlike * here.array()).all();
        const bool beside =
            apart.x() > 0.5 * kBeside * (here.x() + there.x()) || apart.z() > 0.5 * kBeside * (here.z() + there.z());
        out.several |= i > 0 && alike && beside;
        out.skin.push_back(i);
        out.name[i] = "skin";
    }
    return out;
}

void name_told_pieces(const std::map<Index, std::string>& by_vertex, const std::map<std::string, std::string>& by_word,
                      DraftParts& parts) {
    for (std::size_t i = 0; i < parts.pieces.size(); ++i) {
        std::string told = named_by_word(parts.pieces[i].words, by_word);
        for (const auto& [vertex, part] : by_vertex) {
            if (std::binary_search(parts.pieces[i].vertices.begin(), parts.pieces[i].vertices.end(), vertex))
                told = part;
        }
        if (told.empty()) continue;
        parts.name[i] = told;
        const auto at = std::find(parts.skin.begin(), parts.skin.end(), i);
        if (told == "skin" && at == parts.skin.end()) parts.skin.push_back(i);
        if (told != "skin" && at != parts.skin.end()) parts.skin.erase(at);
    }
}

void name_pieces(const BaseKit& model, const LaidModel& laid, const Mesh& mesh, DraftParts& parts) {
    const double size = laid.to_base.scale;
    std::vector<Points> model_part;
    std::vector<std::string> names;
    for (const KitPart& part : model.parts) {
        if (part.name == "skin") continue;
        names.push_back(part.name);
        model_part.emplace_back();
        for (const Index v : part.vertices) model_part.back().push_back(laid.positions[v]);
    }
    std::vector<NearestPoints> near;
    for (const Points& points : model_part) near.emplace_back(points, kPieceReachMm * size);
    const PlacesOfSmallThings small(model, laid);
    for (std::size_t i = 0; i < parts.pieces.size(); ++i) {
        if (!parts.name[i].empty()) continue;
        const Piece& piece = parts.pieces[i];
        const bool ball = is_ball(points_of(mesh, piece.vertices));
        double least = kPartMm * size;
        for (std::size_t p = 0; p < names.size(); ++p) {
            const bool eye = names[p].starts_with("eye_");
            if (eye != ball) continue;
            double sum = 0;
            for (const Index v : piece.vertices) {
                const Index at = near[p].nearest(mesh.positions[v]);
                sum += at == kNone ? kPieceReachMm * size : (model_part[p][at] - mesh.positions[v]).norm();
            }
            sum /= static_cast<double>(piece.vertices.size());
            if (sum < least) least = sum, parts.name[i] = names[p], parts.off_mm[i] = sum / size;
        }
        if (parts.name[i].empty()) parts.name[i] = small_thing(points_of(mesh, piece.vertices), small, size);
    }
}

Mesh in_order_of_parts(const Mesh& mesh, const DraftParts& parts, std::vector<KitPart>& out,
                       std::vector<MadePart>& report) {
    std::vector<std::size_t> order;  // of pieces
    std::vector<std::string> names(std::begin(kOrder), std::end(kOrder));
    for (const std::string& name : parts.name) {
        if (std::find(names.begin(), names.end(), name) == names.end()) names.push_back(name);
    }
    Mesh sorted = mesh;
    sorted.face_start.assign(1, 0);
    sorted.corner_vertex.clear(), sorted.corner_uv.clear(), sorted.corner_normal.clear();
    sorted.face_group.clear(), sorted.face_material.clear();
    for (const std::string& name : names) {
        KitPart part;
        part.name = name;
        part.first_face = sorted.face_count();
        MadePart made{name, 0, 0, 0};
        FaceIndices faces;
        for (std::size_t i = 0; i < parts.pieces.size(); ++i) {
            if (parts.name[i] != name) continue;
            const Piece& piece = parts.pieces[i];
            faces.insert(faces.end(), piece.faces.begin(), piece.faces.end());
            part.vertices.insert(part.vertices.end(), piece.vertices.begin(), piece.vertices.end());
            ++made.pieces;
            made.off_mm = std::max(made.off_mm, parts.off_mm[i]);
        }
        if (faces.empty()) continue;
        std::sort(faces.begin(), faces.end());
        for (const Index f : faces) {
            for (Index c = mesh.face_start[f]; c < mesh.face_start[f + 1]; ++c) {
                sorted.corner_vertex.push_back(mesh.corner_vertex[c]);
                if (!mesh.corner_uv.empty()) sorted.corner_uv.push_back(mesh.corner_uv[c]);
                if (!mesh.corner_normal.empty()) sorted.corner_normal.push_back(mesh.corner_normal[c]);
            }
            sorted.face_start.push_back(static_cast<Index>(sorted.corner_vertex.size()));
            if (!mesh.face_group.empty()) sorted.face_group.push_back(mesh.face_group[f]);
            if (!mesh.face_material.empty()) sorted.face_material.push_back(mesh.face_material[f]);
        }
        part.face_count = static_cast<Index>(faces.size());
        std::sort(part.vertices.begin(), part.vertices.end());
        made.vertices = part.vertices.size();
        out.push_back(std::move(part));
        report.push_back(made);
    }
    return sorted;
}

std::vector<KitEye> eyes_of(const BaseKit& kit) {
    std::vector<KitEye> out;
    for (const char* name : {"eye_l", "eye_r"}) {
        const KitPart* part = kit.part(name);
        if (!part) continue;
        const SphereFit fit = fit_sphere(points_of(kit.mesh, part->vertices));
        if (fit.radius > 0) out.push_back({fit.centre, fit.radius, name});
    }
    return out;
}

void follow_part_joints(const BaseKit& model, BaseKit& kit) {
    Points skin;
    for (const Index v : kit.part("skin")->vertices) skin.push_back(kit.mesh.positions[v]);
    const NearestPoints near(skin, 60);
    for (const KitPart& part : kit.parts) {
        if (part.name == "skin") continue;
        const KitPart* known = model.part(part.name);
        std::vector<double> sum(model.joints.size(), 0);
        if (known) {
            for (const Index v : known->vertices) {
                for (std::size_t k = 0; k < 4; ++k) sum[model.weights.joint[v][k]] += model.weights.weight[v][k];
            }
        }
        const auto most = std::max_element(sum.begin(), sum.end());
        for (const Index v : part.vertices) {
            auto& joint = kit.weights.joint[v];
            auto& weight = kit.weights.weight[v];
            if (known) {
                joint = {static_cast<std::uint16_t>(most - sum.begin()), 0, 0, 0};
                weight = {1, 0, 0, 0};
            } else if (const Index at = near.nearest(kit.mesh.positions[v]); at != kNone) {
                const Index on = kit.part("skin")->vertices[at];
                joint = kit.weights.joint[on], weight = kit.weights.weight[on];
            }
        }
    }
}

}  // namespace veld
