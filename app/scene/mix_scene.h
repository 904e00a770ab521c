#pragma once
// The mix of the bank's morphs, or another shape of the base in its place.
#include <QCoreApplication>

#include "app/scene/scene.h"

namespace veld {

class MixScene {
    Q_DECLARE_TR_FUNCTIONS(MixScene)
 public:
    explicit MixScene(Scene& scene) : scene_(scene) {}

    // base and mix
    std::vector<ViewId> views() const;
    // colours: one per vertex of the base, or none
    Pane mix(const std::vector<Colour>& colours = {});
    Pane shape(const Points& positions, const QString& title, const std::vector<Colour>& colours, int level = 0);

 private:
    Scene& scene_;
    ShownShape shown_;
};

}  // namespace veld
