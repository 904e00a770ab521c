// Outlines drawn by hand on a photograph.
#include "app/stations/fit/photo_controller.h"
#include "app/stations/mark/mark_controller.h"

namespace veld {
namespace {

bool is_outline(const std::string& name) { return name.starts_with("outline"); }

double distance_to(const Vec2& p, const Vec2& a, const Vec2& b) {
    const Vec2 d = b - a;
    const double u = d.squaredNorm() > 0 ? std::clamp((p - a).dot(d) / d.squaredNorm(), 0.0, 1.0) : 0;
    return (a + u * d - p).norm();
}

}  // namespace

// The current photograph's marks in a copy of the project; null: there is no photograph.
PhotoMarks* PhotoController::edited_marks(ProjectState& next) {
    if (!set()) return nullptr;
    PhotoSet* of = find_photo_set(next, set()->id);
    if (!of || photo_ < 0 || photo_ >= static_cast<int>(of->photos->size())) return nullptr;
    of->marks.resize(std::max(of->marks.size(), of->photos->size()));
    PhotoMarks& marks = of->marks[static_cast<std::size_t>(photo_)];
    if (marks.width == 0) marks.width = picture(photo_).width(), marks.height = picture(photo_).height();
    return &marks;
}

const PhotoMarks* PhotoController::marks() const {
    return set() && static_cast<std::size_t>(photo_) < set()->marks.size()
               ? &set()->marks[static_cast<std::size_t>(photo_)]
               : nullptr;
}

void PhotoController::set_drawing(bool on) {
    drawn_.clear();
    if (on && set()) {
        std::vector<std::string> taken;
        if (marks()) {
            for (const auto& [name, line] : marks()->curves) taken.push_back(name);
        }
        drawn_ = free_name("outline", taken);
    }
    emit changed();
}

void PhotoController::click(const QPointF& pixel, double reach) {
    if (!drawing()) return;
    ProjectState next = s_.state();
    PhotoMarks* marks = edited_marks(next);
    if (!marks) return;
    const Vec2 p(pixel.x(), pixel.y());
    std::vector<Vec2>* into = nullptr;
    std::size_t before = 0;
    for (auto& [name, line] : marks->curves) {
        for (std::size_t i = 0; is_outline(name) && i + 1 < line.size(); ++i) {
            if (const double d = distance_to(p, line[i], line[i + 1]); d < reach)
                reach = d, into = &line, before = i + 1;
        }
    }
    if (into) {
        into->insert(into->begin() + static_cast<std::ptrdiff_t>(before), p);
        return s_.change(tr("Add a point to an outline"), std::move(next));
    }
    marks->curves[drawn_].push_back(p);
    marks->trust[drawn_] = {};
    s_.change(tr("Draw an outline"), std::move(next));
}

std::vector<std::pair<std::string, QPointF>> PhotoController::outline_handles() const {
    std::vector<std::pair<std::string, QPointF>> out;
    if (!drawing() || !marks()) return out;
    for (const auto& [name, line] : marks()->curves) {
        for (std::size_t i = 0; is_outline(name) && i < line.size(); ++i)
            out.emplace_back(handle_name(name, i), QPointF(line[i].x(), line[i].y()));
    }
    return out;
}

void PhotoController::drag_outline(const std::string& handle, const QPointF& pixel) {
    std::string name;
    const auto i = handle_of(handle, name);
    ProjectState next = s_.state();
    PhotoMarks* marks = edited_marks(next);
    if (!drawing() || !i || !marks || !marks->curves.contains(name) || *i >= marks->curves[name].size()) return;
    marks->curves[name][*i] = Vec2(pixel.x(), pixel.y());
    s_.change(tr("Move a point of an outline"), std::move(next),
              "outline " + handle + " " + std::to_string(outline_drag_));
}

void PhotoController::remove_outline_point(const std::string& handle) {
    std::string name;
    const auto i = handle_of(handle, name);
    ProjectState next = s_.state();
    PhotoMarks* marks = edited_marks(next);
    if (!drawing() || !i || !marks || !marks->curves.contains(name) || *i >= marks->curves[name].size()) return;
    std::vector<Vec2>& line = marks->curves[name];
    line.erase(line.begin() + static_cast<std::ptrdiff_t>(*i));
    if (line.empty()) marks->curves.erase(name), marks->trust.erase(name);
    s_.change(tr("Remove a point from an outline"), std::move(next));
}

bool PhotoController::has_outline() const {
    return marks() && std::any_of(marks()->curves.begin(), marks()->curves.end(),
                                  [](const auto& c) { return is_outline(c.first); });
}

void PhotoController::forget_outlines() {
    if (!has_outline()) return;
    ProjectState next = s_.state();
    PhotoMarks* marks = edited_marks(next);
    std::erase_if(marks->curves, [](const auto& c) { return is_outline(c.first); });
    std::erase_if(marks->trust, [](const auto& c) { return is_outline(c.first); });
    drawn_.clear();
    s_.change(tr("Remove the drawn outline"), std::move(next));
}

}  // namespace veld
