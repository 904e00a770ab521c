#pragma once
// The base's landmarks and guide curves as views mark them, for every station that shows them.
#include <functional>
#include <set>

#include "app/session.h"
#include "app/views/pane.h"

namespace veld {

struct BaseMarks {
    std::vector<std::string> points, curves;  // which of the project's
    std::set<std::string> unsure;             // drawn so
    std::function<QString(const std::string&)> plain;
};
Marks base_marks(const Session& session, const BaseMarks& which, const Camera& camera);

// Is this place of a surface seen from the camera, or hidden behind it?
bool in_sight(const Camera& camera, const SurfaceQuery& query, const Similarity& to_view, const Vec3& p);
// Drawn when it is selected, or most of it can be seen.
void add_line(Marks& out, GuideLine&& line, std::size_t in_sight);
QColor faint(QColor colour, int alpha);
extern const QColor kUnsureColour;

// Where a landmark or curve is on the base, how much around it is looked at, and which way its skin faces.
struct BasePlace {
    Framing framing;
    Vec3 normal = Vec3::UnitZ();
};
std::optional<BasePlace> place_on_base(const ProjectState& state, const std::string& name);
// The same of a region as a shape of the base has it. Ears are looked at from their side.
std::optional<BasePlace> place_of_region(const BaseKit& kit, const Points& shape, const std::string& region);
// The camera at that place; one that would see it from behind looks face on.
void look_at_place(const BasePlace& place, Camera& camera);

}  // namespace veld
