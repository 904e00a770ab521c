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

void Bench::show_stroke(const std::vector<Index>& moved) {
    if (!result_shape_.mesh) return;
    if (result_shape_.level != 0) {
        // strokes are shown on the base mesh itself: it is what they move
        show_shape(result_shape_, touch_.positions(), nullptr, 0);
        result_->set_layers({{result_shape_.mesh, {}, theme::kClay, Shading::Clay, wire_, 1}});
    }
    result_shape_.mesh->move_vertices(touch_.positions(), moved);
    if (look_.colours == Colouring::Distance) {
        std::vector<Colour> colours;
        for (const float d : touch_.distances()) colours.push_back(colour_of(d));
        result_shape_.mesh->recolour(moved, colours);
    }
    result_shape_.shown = nullptr;  // what is kept is packed anew when the stroke ends
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
