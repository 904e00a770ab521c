#pragma once
// Shapes of the base as views display them: subdivided for the eye, coloured, in a skin.
#include <map>
#include <memory>
#include <optional>
#include <vector>

#include "app/scene/openness_baker.h"
#include "app/session.h"
#include "app/views/display_mesh.h"
#include "core/mesh/subdivide.h"

namespace veld {

struct FitRecord;

struct ShownShape {
    std::shared_ptr<DisplayMesh> mesh;
    int level = -1;
    std::shared_ptr<const void> shown;  // whose positions it holds, for who packs it only when they are others

    // of BaseShapes
    std::weak_ptr<const BaseKit> kit;    // a shape that nobody looks at keeps no closed project alive
    std::optional<double> without_body;  // mm of neck band
    std::map<int, qint64> wears;         // in place of the kit's pictures: QImage::cacheKey()
};

class BaseShapes {
 public:
    BaseShapes(Session& session, OpennessBaker& baker) : s_(session), baker_(baker) {}

    // values: null, or per vertex of the base; coloured: their colours.
    using ColourOf = std::function<std::vector<Colour>(const std::vector<float>&)>;
    struct How {
        int level = 0;  // subdivisions for the eye
        // at level 0: what lies below the neck is left out, with this neck band in mm
        std::optional<double> without_body = {};
        const std::vector<float>* values = nullptr;
        ColourOf coloured = {};
    };
    void show(ShownShape& shape, const Points& positions, const How& how);
    void show(ShownShape& shape, const Points& positions) { show(shape, positions, How{}); }
    // The skin of the fit's subject, else again the kit's. amounts: of the kit's expressions that the shape is in.
    using Amounts = std::map<std::string, double>;
    void wear_skin(ShownShape& shape, const FitRecord* fit, const Amounts& amounts = {});
    // Pictures by which of the kit's they stand for; empty: the subject has no skin, or none is ready.
    std::function<std::map<int, QImage>(const FitRecord&, const Amounts&)> worn_by;
    // The open project went away.
    void forget() { levels_.clear(), levels_of_.reset(), packed_ = {}; }

 private:
    std::shared_ptr<const Subdivided> level(int n);
    // A fine figure takes long to pack (its light version for motion above all): done once, and copied for each view.
    std::shared_ptr<DisplayMesh> fine_mesh(int n, const Subdivided& fine);

    void bake(const ShownShape& shape, const Points& positions, std::shared_ptr<const Subdivided> fine);

    Session& s_;
    OpennessBaker& baker_;
    std::map<int, std::shared_ptr<const Subdivided>> levels_;
    std::shared_ptr<const BaseKit> levels_of_;
    std::pair<int, std::shared_ptr<const DisplayMesh>> packed_;  // of the level that was asked for last
};

}  // namespace veld
