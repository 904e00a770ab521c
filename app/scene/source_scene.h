#pragma once
// The source as views display it, in every station alike.
#include <QCoreApplication>
#include <memory>

#include "app/session.h"
#include "app/views/pane.h"

namespace veld {

struct PreparedSource;

class SourceScene {
    Q_DECLARE_TR_FUNCTIONS(SourceScene)
 public:
    explicit SourceScene(Session& session) : s_(session) {}

    struct How {
        Shading shading = Shading::Clay;
        bool wire = false;
        FaceMask selected = {};  // of the source's own faces; empty: none
        bool coloured = false;   // as colour() said
    };
    // title, hint, busy and the source's layer, when there is one
    Pane pane(const How& how);
    // One colour per vertex of what is shown of the source; empty: back to the file's own.
    void colour(const std::vector<Colour>& colours);
    Box box() const;  // of the source in the view's frame; empty: none
    bool is_figure() const;
    Framing subject_framing() const;  // all of the source; radius 0: there is none

 private:
    void mark(const PreparedSource& shown, const Source& from, const FaceMask& selected);

    Session& s_;
    std::weak_ptr<DisplayMesh> coloured_;
    // what the source's display is marked with
    std::weak_ptr<DisplayMesh> marked_;
    VertexMask marked_selected_, marked_ignored_;
};

}  // namespace veld
