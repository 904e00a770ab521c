#include "app/scene/openness_baker.h"

#include <algorithm>

#include "app/prepared_source.h"
#include "core/kit/base_kit.h"
#include "core/kit/kit_surface.h"
#include "core/spatial/openness.h"
#include "core/spatial/surface_query.h"

namespace veld {
namespace {

constexpr int kRestMs = 350;
constexpr std::size_t kMostRays = 3'000'000;  // of a source
constexpr int kLeastRays = 14;
constexpr double kStandsMm = 1000, kShadowMm = 350;  // what stands on the ground; how far its shadow reaches

}  // namespace

OpennessBaker::OpennessBaker(Session& session) : s_(session) {
    rest_.setSingleShot(true);
    rest_.setInterval(kRestMs);
    connect(&rest_, &QTimer::timeout, this, &OpennessBaker::start);
    connect(&s_, &Session::project_changed, this, [this] { wanted_.clear(); });  // its jobs were dropped
}

void OpennessBaker::ask(const std::shared_ptr<DisplayMesh>& display, bool at_rest, Make make) {
    std::erase_if(wanted_, [](const auto& one) { return one.second.display.expired(); });
    Wanted& wanted = wanted_[display.get()];
    if (wanted.job) s_.jobs().cancel(std::exchange(wanted.job, 0));
    wanted.display = display;
    wanted.make = std::move(make);
    if (!on_) return;
    at_rest ? rest_.start() : run(display.get());
}

void OpennessBaker::set_on(bool on) {
    on_ = on;
    if (on) return start();
    rest_.stop();
    for (auto& [key, wanted] : wanted_) {
        if (wanted.job) s_.jobs().cancel(std::exchange(wanted.job, 0));
    }
}

void OpennessBaker::start() {
    std::vector<const DisplayMesh*> all;
    for (const auto& [key, wanted] : wanted_) {
        if (!wanted.job) all.push_back(key);
    }
    for (const DisplayMesh* key : all) run(key);
}

void OpennessBaker::run(const DisplayMesh* key) {
    Wanted& wanted = wanted_.at(key);
    const auto display = wanted.display;
    auto job = std::make_shared<JobId>();
    *job = s_.jobs().start<Baked>(
        {JobKind::Shade, tr("Shading"), s_.subject(), true},
        [make = wanted.make](const Progress& progress) -> Result<Baked> {
            Baked out = make(progress);
            if (out.open.empty()) return Error{ErrorCode::Cancelled, "Cancelled."};
            return out;
        },
        [this, key, display, job](Result<Baked>&& made) {
            const auto mesh = display.lock();
            const auto at = wanted_.find(key);
            if (!made || !mesh || at == wanted_.end() || at->second.job != *job) return;  // another shape by now
            wanted_.erase(at);
            mesh->set_openness(made->open);
            mesh->set_ground(std::move(made->ground));
            emit baked();
        });
    wanted_.at(key).job = *job;
}

Baked bake_source(const PreparedSource& source, double mm, const Progress& progress) {
    const Points& x = source.shown().positions;
    OpennessSettings settings;
    settings.reach_mm *= mm;
    settings.lift_mm *= mm;
    settings.rays =
        std::clamp(static_cast<int>(kMostRays / std::max<std::size_t>(x.size(), 1)), kLeastRays, settings.rays);
    Baked out{kept_openness_of(x, vertex_normals(x, source.triangulation.triangles), source.triangulation.triangles,
                               *source.query, settings, progress),
              {}};
    const Box box = bounding_box(x);
    if (box.size().y() > kStandsMm * mm) out.ground = ground_shadow(*source.query, box, kShadowMm * mm, progress);
    return out;
}

Baked bake_base(const BaseKit& kit, const Points& positions, const Progress& progress) {
    const std::vector<Triangle>& solid = solid_triangles(kit);
    const SurfaceQuery surface(positions, solid);
    Baked out{openness_of(positions, vertex_normals(positions, kit.triangulation.triangles),
                          kit.triangulation.triangles, surface, {}, progress),
              {}};
    const Box box = bounding_box(positions);
    if (box.size().y() > kStandsMm) out.ground = ground_shadow(surface, box, kShadowMm, progress);
    return out;
}

}  // namespace veld
