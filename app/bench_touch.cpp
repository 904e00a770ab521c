// The bench while touching up: strokes on the fit, shown as they are made.
#include <cmath>

#include "app/bench.h"
#include "app/theme.h"

namespace veld {

void Bench::connect_touching() {
    connect(result_, &Viewport::stroke_begun, &touch_, &TouchController::begin_stroke);
    connect(result_, &Viewport::stroke_moved, &touch_, &TouchController::move_stroke);
    connect(result_, &Viewport::stroke_ended, &touch_, &TouchController::end_stroke);
    connect(&touch_, &TouchController::stroked, this, &Bench::show_stroke);
    connect(&touch_, &TouchController::changed, this, [this] {
        if (station_ == Station::Touch) refresh_result();
    });
}

Colour Bench::colour_of_distance(float mm) const {
    const QColor c = std::isnan(mm) ? QColor(0x6a, 0x63, 0x5a) : theme::distance_colour(mm / worst_mm_);
    return {static_cast<std::uint8_t>(c.red()), static_cast<std::uint8_t>(c.green()), static_cast<std::uint8_t>(c.blue()), 255};
}

void Bench::show_stroke(const std::vector<Index>& moved) {
    if (!result_mesh_) return;
    result_mesh_->move_vertices(touch_.positions(), moved);
    if (distance_) {
        std::vector<Colour> colours;
        for (const float d : touch_.distances()) colours.push_back(colour_of_distance(d));
        result_mesh_->recolour(moved, colours);
    }
    result_shown_ = nullptr;   // what is kept is packed anew when the stroke ends
    result_->redraw_quickly();
}

void Bench::look_at_fit(Index vertex) {
    const FitRecord* fit = s_.state().fit();
    if (!fit || vertex >= fit->positions->size()) return;
    constexpr double kAroundMm = 14;
    const Vec3 normal = vertex_normals(*fit->positions, s_.state().kit->triangulation.triangles)[vertex];
    Camera c = camera_.camera();
    c.yaw = std::atan2(normal.x(), normal.z()) * 180 / M_PI;
    c.pitch = std::clamp(std::asin(std::clamp(normal.y(), -1.0, 1.0)) * 180 / M_PI, -70.0, 70.0);
    c.frame((*fit->positions)[vertex], kAroundMm);
    camera_.set(c);
}

}  // namespace veld
