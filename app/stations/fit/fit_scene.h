#pragma once
// A fit in the views, for every station that shows one: over or beside what it is held against, in colours, cut, and
// live while it is being made.
#include "app/colour_maps.h"
#include "app/scene/scene.h"
#include "app/stations/fit/photo_scene.h"
#include "app/work/jobs.h"
#include "core/base/plane.h"

namespace veld {

struct FitRecord;

class FitScene : public QObject {
    Q_OBJECT
 public:
    FitScene(Scene& scene, ViewSet& views, PhotoController& photos);

    // --- for the stations' panes
    void before_showing();
    bool shows() const { return s_.state().fit() || live(); }
    Pane result(bool hold_shape = false);  // hold_shape: a stroke is changing it
    Pane beside();  // the base, or what the fit is held against when both stand beside each other
    Pane source();
    void left();  // another station comes
    PhotoScene& photos() { return photo_scene_; }
    const Look& look() const { return scene_.look; }

    // --- for strokes on it
    ShownShape& shape() { return shape_; }
    bool live() const { return live_ || (photo_live_ && !s_.state().fit()); }

    void look_changed();
    void take_cut();             // the plane of Cut::AsSeen: through the middle of the view, facing the camera
    void look_at(Index vertex);  // close, face on

 private:
    void connect_session();
    void connect_photos();
    void show_live(const Points& positions);
    void show_photo_live(const Points& positions);
    void pack_again() { shape_.shown = nullptr; }
    void pack(const FitRecord& fit, bool coloured);
    BaseShapes::How how(const std::vector<float>* values, int level) const;
    std::vector<float> values_of(const FitRecord& fit);
    void colour_source();
    const Points* other_shape() const;  // what the fit is held against, but the source; null
    QString other_name() const;
    std::vector<Layer> layers(const FitRecord* fit, bool coloured);
    std::optional<Layer> below(const FitRecord* fit);
    std::optional<Plane> cut_plane() const;
    void show_cut(const Plane& plane, const FitRecord* fit, Pane& out) const;  // its lines and their key
    QString title(const FitRecord* fit) const;
    bool from_source() const { return source_coloured_ && !live(); }

    // Distances from the source to a fit. Those of a large source take a while: they come from the background.
    struct SourceDistances {
        struct Of {
            std::shared_ptr<const Points> fit;
            std::shared_ptr<const Mesh> source;
            bool operator==(const Of&) const = default;
        };
        Of of;                  // what they are the distances of
        std::vector<float> mm;  // per vertex of what is shown of the source
        Of asked;               // what is being computed, by which job
        JobId job = 0;
    };
    void ask_source_distances(const FitRecord& fit, const SourceDistances::Of& of);

    Session& s_;
    Scene& scene_;
    ViewSet& views_;
    PhotoController& photos_;
    PhotoScene photo_scene_;
    ShownShape shape_, other_;
    bool live_ = false, photo_live_ = false, source_coloured_ = false;
    SourceDistances distances_;
    // What the source's colours were made of: a large one is not coloured anew for every refresh.
    struct SourceColours {
        SourceDistances::Of of;
        double worst = 0;
        ColourVision by = ColourVision::Usual;
        bool operator==(const SourceColours&) const = default;
    };
    SourceColours coloured_;
    Plane seen_cut_;
};

}  // namespace veld
