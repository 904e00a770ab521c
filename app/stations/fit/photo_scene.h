#pragma once
// Heads from photographs in the views: the photograph with its marks beside where the head has them, and the head as
// the photograph's own camera sees it.
#include "app/scene/scene.h"
#include "app/stations/fit/photo_controller.h"
#include "app/views/view_set.h"

namespace veld {

class PhotoScene : public QObject {
    Q_OBJECT
 public:
    PhotoScene(Scene& scene, ViewSet& views, PhotoController& photos);

    bool on() const { return photos_.shows_photos(); }  // photographs instead of a scan
    // The camera becomes the photograph's own, or leaves it. Call before the result is shown.
    void follow_camera();
    // What of the base is shown then: without the body, which no photograph shaped; mm of neck band.
    std::optional<double> without_body() const;
    Backdrop backdrop();
    PhotoPane pane() const;
    Marks marks() const;

 signals:
    void left();  // a fixed view or framing left the photograph

 private:
    void add_points(Marks& out, const PhotoMarks& marks) const;
    void add_curves(Marks& out, const PhotoMarks& marks) const;

    Session& s_;
    ViewSet& views_;
    PhotoController& photos_;
    int through_ = -1;  // the photograph that the camera was last set to
};

}  // namespace veld
