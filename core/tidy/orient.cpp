#include "core/tidy/orient.h"

#include <algorithm>
#include <cmath>

#include "core/base/file.h"
#include "core/base/number_text.h"
#include "core/mesh/mesh.h"
#include "core/tidy/subject_kind.h"

namespace veld {
namespace {

constexpr double kSpanOfHeight = 0.7;   // a figure is at least this tall against the span of its arms
constexpr double kSmallFigureMm = 800;  // of what its proportions make likely, but not sure

// What it is says how large it may be; of the units that make it so, the usual ones come first.
void guess_unit(const Points& positions, FrameGuess& out) {
    const SubjectGuess subject = guess_subject(positions);
    const double tallest = bounding_box(positions).size().maxCoeff();
    struct Sizes {
        SubjectKind kind;
        double low, high;
    };
    const Sizes figure{SubjectKind::Figure, 1350, 2250},
        head{subject.kind == SubjectKind::Bust ? SubjectKind::Bust : SubjectKind::Head, 200, 900};
    const Sizes small_or_large{SubjectKind::Figure, 800, 2800}, any{subject.kind, 120, 2800};
    // a form that leaves doubt (a tall hat, a child with a large head) is first tried in the units that most files
    // have
    struct Trial {
        Sizes sizes;
        bool common_units = false;
    };
    std::vector<Trial> tried;
    if (subject.kind != SubjectKind::Figure)
        tried = {{head}, {figure}, {any}};
    else if (subject.sure)
        tried = {{figure}, {small_or_large}};
    else
        tried = {{figure, true}, {head, true}, {figure}, {head}, {small_or_large}, {any}};
    for (const auto& [sizes, common_units] : tried) {
        for (const Unit u : kAllUnits) {
            const double mm = tallest * millimetres(u);
            // heads in feet or decimetres are not met with
            const bool unusual = (u == Unit::Decimetre || u == Unit::Foot) && sizes.kind != SubjectKind::Figure;
            if (common_units && u != Unit::Millimetre && u != Unit::Centimetre && u != Unit::Metre) continue;
            if (unusual || mm < sizes.low || mm > sizes.high) continue;
            out.unit = u;
            out.unit_reason =
                number_text(tallest) + " " + unit_name(u) + " is the size of " + subject_words(sizes.kind);
            if (sizes.kind == SubjectKind::Figure && subject.sure)
                out.unit_reason += ", and that is what its proportions say";
            return;
        }
    }
    const double usual = subject.kind == SubjectKind::Figure ? 1700 : 300;
    const auto away = [&](Unit u) { return std::abs(std::log(tallest * millimetres(u) / usual)); };
    out.unit = *std::min_element(std::begin(kAllUnits), std::end(kAllUnits),
                                 [&](Unit a, Unit b) { return away(a) < away(b); });
    out.unit_reason =
        std::string("no unit gives the size of ") + subject_words(subject.kind) + ", which it looks like; check it";
}

// The axis along which a figure stands. With its arms level its span is as long as its height, but most of its skin
// lies along the trunk and the legs.
int height_axis(const Mesh& mesh, const Vec3& size) {
    const Points& x = mesh.positions;
    double sum = 0;
    Vec3 mean = Vec3::Zero(), square = Vec3::Zero();
    for (const Triangle& t : triangulate(mesh).triangles) {
        const double area = (x[t[1]] - x[t[0]]).cross(x[t[2]] - x[t[0]]).norm();
        const Vec3 middle = (x[t[0]] + x[t[1]] + x[t[2]]) / 3;
        sum += area, mean += area * middle, square += area * middle.cwiseProduct(middle);
    }
    int longest = 0, out = 0;
    size.maxCoeff(&longest);
    if (!(sum > 0)) return longest;
    const Vec3 spread = square / sum - (mean / sum).cwiseProduct(mean / sum);
    out = longest;
    for (int k = 0; k < 3; ++k)
        if (size[k] > kSpanOfHeight * size[longest] && spread[k] > spread[out]) out = k;
    return out;
}

}  // namespace

FrameGuess guess_frame(const Mesh& mesh, const std::string& path, const LandmarkSet& landmarks) {
    FrameGuess out;
    const Vec3 size = bounding_box(mesh.positions).size();
    const std::string kind = lower_extension(path);
    const bool gltf = kind == ".glb" || kind == ".gltf";
    if (gltf) {
        out.unit = Unit::Metre;
        out.unit_reason = "glTF is always in metres";
    } else if (landmarks.unit) {
        out.unit = *landmarks.unit;
        out.unit_reason = "its landmark file says so";
    } else {
        guess_unit(mesh.positions, out);
    }
    int longest = 0;
    for (int k = 1; k < 3; ++k) {
        if (size[k] > size[longest]) longest = k;
    }
    const auto chin = landmarks.points.find("gnathion"), root = landmarks.points.find("sellion");
    if (chin != landmarks.points.end() && root != landmarks.points.end()) {
        const Vec3 up = root->second - chin->second;
        int axis = 0;
        for (int k = 1; k < 3; ++k) {
            if (std::abs(up[k]) > std::abs(up[axis])) axis = k;
        }
        out.up = static_cast<UpAxis>(2 * axis + (up[axis] < 0));
        out.up_reason = "from its landmarks, chin to nose root";
    } else if (gltf) {
        out.up_reason = "glTF has Y up";
    } else if (is_figure(mesh.positions, millimetres(out.unit))) {
        out.up = static_cast<UpAxis>(2 * height_axis(mesh, size));
        out.up_reason = "most of a figure lies along its height";
    } else if (longest == 2 && size.z() > 1.25 * size.y()) {
        out.up = UpAxis::PlusZ;
        out.up_reason = "it is longest along Z";
    } else {
        out.up_reason = "most files have Y up";
    }
    return out;
}

bool is_figure(const Points& positions, double mm_per_unit) {
    const SubjectGuess subject = guess_subject(positions);
    if (subject.kind == SubjectKind::Figure && subject.sure) return true;
    const double mm = bounding_box(positions).size().maxCoeff() * mm_per_unit;
    return mm > (subject.kind == SubjectKind::Figure ? kSmallFigureMm : kFigureMm);
}

Similarity rough_upright(const Mesh& mesh, Unit unit, UpAxis up, double top_mm) {
    Similarity out;
    out.scale = millimetres(unit);
    out.rotation = rotation_to_y_up(up);
    Box box;
    for (const Vec3& p : mesh.positions) box.add(out(p));
    if (box.empty()) return out;
    const double lift = is_figure(mesh.positions, out.scale) ? -box.low.y() : top_mm - box.high.y();
    out.translation = Vec3(-box.centre().x(), lift, -box.centre().z());
    return out;
}

Result<Similarity> level_by_floor(const Similarity& now, const Vec3& a, const Vec3& b) {
    const Vec3 p = now(a), q = now(b), d = q - p, flat(d.x(), 0, d.z());
    if (flat.norm() < 1)
        return Error{ErrorCode::DegenerateInput,
                     "The two points of the floor lie over one another. Pick one under each foot."};
    Similarity turn;
    turn.rotation = Eigen::Quaterniond::FromTwoVectors(d, flat).toRotationMatrix();
    turn.translation = p - turn.rotation * p - p.y() * Vec3::UnitY();
    return turn * now;
}

Mesh upright_copy(const Mesh& mesh, const Similarity& to_upright) {
    Mesh out = mesh;
    for (Vec3& p : out.positions) p = to_upright(p);
    out.normals.clear(), out.corner_normal.clear();
    return out;
}

Similarity turned(const Similarity& now, const Vec3& about, const Vec3& degrees) {
    Similarity turn;
    for (int k = 0; k < 3; ++k)
        turn.rotation = Eigen::AngleAxisd(degrees[k] * M_PI / 180, Vec3::Unit(k)).toRotationMatrix() * turn.rotation;
    turn.translation = about - turn.rotation * about;
    return turn * now;
}

Similarity moved(const Similarity& now, const Vec3& by_mm) {
    Similarity out = now;
    out.translation += by_mm;
    return out;
}

Similarity on_the_floor(const Mesh& mesh, const Similarity& now) {
    Box box;
    for (const Vec3& p : mesh.positions) box.add(now(p));
    return box.empty() ? now : moved(now, Vec3(-box.centre().x(), -box.low.y(), -box.centre().z()));
}

}  // namespace veld
