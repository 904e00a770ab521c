#pragma once
// What several stations show in the same way, and the choices above and below the views that all of them follow.
#include <QCoreApplication>

#include "app/scene/base_shapes.h"
#include "app/scene/look.h"
#include "app/scene/source_scene.h"
#include "app/session.h"
#include "app/views/pane.h"

namespace veld {

class Scene {
    Q_DECLARE_TR_FUNCTIONS(Scene)
 public:
    explicit Scene(Session& session) : session(session), baker(session), shapes(session, baker), source(session) {}

    Session& session;
    Shading shading = Shading::Clay;
    bool wire = false;
    Look look;
    OpennessBaker baker;
    BaseShapes shapes;
    SourceScene source;

    // Asks for the shading of base and source where it is not made yet.
    void bake();
    // the base as it is
    Pane base_pane() const;
    // The base's head, or all of it when bodies are fitted.
    Framing head_framing() const;
    // The selected landmark on the base; radius 0: there is none.
    Framing selection_framing() const;

 private:
    std::weak_ptr<DisplayMesh> baked_base_, baked_source_;
};

}  // namespace veld
