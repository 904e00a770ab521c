#pragma once
// The bench: base, source and fit (or mix) side by side, with one camera for all.
#include <QSplitter>
#include <QVariantAnimation>
#include <QWidget>

#include "app/look.h"
#include "app/station.h"
#include "app/stations/bank/bank_controller.h"
#include "app/stations/fit/photo_controller.h"
#include "app/stations/fit/region_controller.h"
#include "app/stations/mark/mark_controller.h"
#include "app/stations/tidy/tidy_controller.h"
#include "app/stations/touch/touch_controller.h"
#include "app/views/photo_view.h"
#include "app/views/viewport.h"
#include "core/base/similarity.h"
#include "core/mesh/subdivide.h"

namespace veld {

class Bench : public QWidget {
    Q_OBJECT
 public:
    Bench(Session& session, MarkController& mark, TidyController& tidy, TouchController& touch,
          RegionController& regions, BankController& bank, PhotoController& photos, QWidget* parent = nullptr);

    void set_station(Station station);
    void set_look(const Look& look);
    void take_cut();  // the plane of Cut::AsSeen: through the middle of the view, facing the camera
    // base_opacity: the base laid over the source; highlight: faces shown as selected besides the selection
    void set_tidy_look(double base_opacity, const FaceMask& highlight);
    void set_shading(Shading shading);
    void set_wire(bool on);
    void set_smooth_edges(bool on);  // off: for machines without a graphics card
    void frame_head();
    // all of what is worked on: the source, else the base's head; whatever flight was under way ends
    void show_subject();
    bool source_is_figure() const;
    void look_at_fit(Index vertex);  // close, face on
    void frame_selection();          // the selected landmark, else the head
    // marking: the camera stays where it is when another point is asked for; a glass at the pointer
    void hold_camera(bool on) {
        hold_camera_ = on;
        if (on) flight_.stop();
    }
    void set_loupe(bool on);
    bool has_loupe() const { return loupe_; }
    PhotoView* photo_view() { return photo_; }
    CameraLink& camera() { return camera_; }
    Viewport* base_view() { return base_; }
    Viewport* source_view() { return source_; }
    Viewport* result_view() { return result_; }

 private:
    void refresh();
    void refresh_source();
    void refresh_markers();
    void connect_marking();
    void arrow(int right, int up, Qt::KeyboardModifiers keys);
    void press_marker(const std::string& name, Qt::KeyboardModifiers keys);
    void fly_to_selected();
    void refresh_photo();
    void mark_photo();
    QString mark_prompt() const;
    Marker marker_of(const std::string& name) const;
    void mark_base(std::vector<Marker>& markers, std::vector<GuideLine>& lines) const;
    void mark_source(std::vector<Marker>& markers, std::vector<GuideLine>& lines) const;
    void mark_picked(std::vector<Marker>& markers) const;
    void connect_gestures();
    void refresh_base();
    void refresh_result();
    // A shape of the base as it is displayed: at the level of the look, or as the base mesh has it.
    struct Shape {
        std::shared_ptr<DisplayMesh> mesh;
        int level = -1;
        std::shared_ptr<const void> shown;  // whose positions it holds
        std::shared_ptr<const void> skin;   // which one it wears; null: the kit's
        bool head_only = false;             // without the body, which no photograph shaped
    };
    const std::shared_ptr<const Subdivided>& level(int n);
    // values: null, or per vertex of the base for the colours of the look
    void show_shape(Shape& shape, const Points& positions, const std::vector<float>* values, int level);
    void show_mix();
    bool show_share(std::vector<Layer>& layers);
    void connect_bank();
    const Points* other_shape() const;  // what the fit is held against, but the source; null
    QString other_name() const;
    std::vector<float> values_of(const FitRecord& fit);
    std::vector<Colour> colours_of(const std::vector<float>& values) const;
    void colour_source(const FitRecord* fit);
    std::optional<Plane> cut_plane() const;
    void draw_cut(const Plane& plane, const FitRecord* fit);
    void connect_regions();
    void connect_photos();
    void refresh_photo_camera();
    void show_photo_live(const std::shared_ptr<Points>& positions);
    void mark_reprojections();
    void show_again();
    bool photo_station() const {
        return (station_ == Station::Fit || station_ == Station::Touch) && photos_.shows_photos();
    }
    std::shared_ptr<DisplayMesh> head_display() const;  // of the base, without what lies below the neck
    void wear_skin(Shape& shape, const FitRecord* fit);
    void connect_touching();
    void show_stroke(const std::vector<Index>& moved);
    Colour colour_of(float value) const;
    void show_live(const std::shared_ptr<Points>& positions);
    bool visible_from_camera(const SurfaceQuery& query, const Similarity& to_view, const Vec3& p) const;

    Session& s_;
    MarkController& mark_;
    TidyController& tidy_;
    TouchController& touch_;
    RegionController& regions_;
    BankController& bank_;
    PhotoController& photos_;
    CameraLink camera_;
    QSplitter* splitter_;
    Viewport *base_, *source_, *result_;
    PhotoView* photo_;
    struct ShownPhoto {
        std::shared_ptr<const std::vector<Image>> of;
        std::size_t photo = 0;
        bool operator==(const ShownPhoto&) const = default;
    };
    ShownPhoto photo_shown_;
    ShownPhoto photo_to_show() const;
    bool hold_camera_ = false, loupe_ = false, pressed_marker_ = false;
    QVariantAnimation flight_;
    Station station_ = Station::Gather;
    Shading shading_ = Shading::Clay;
    bool wire_ = false, live_ = false;
    Look look_;
    Shape result_shape_, other_shape_, region_shape_;
    std::map<int, std::shared_ptr<const Subdivided>> levels_;  // of the kit
    int shown_through_ = -1;                                   // the photograph that the camera was last set to
    bool photo_live_ = false;
    int worn_ = -1;  // which of the kit's pictures a skin stands for
    bool source_coloured_ = false;
    struct SourceDistances {  // from the source to a fit
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
    void ask_source_distances(const FitRecord& fit, const std::shared_ptr<const PreparedSource>& prepared,
                              const SourceDistances::Of& of);
    SourceDistances source_distances_;
    Plane seen_cut_;
    int shown_views_ = 0;
    double base_opacity_ = 0;
    FaceMask highlight_;
    // what the source's display is marked with
    std::shared_ptr<const void> marked_;
    VertexMask marked_selected_, marked_ignored_;
    std::shared_ptr<const BaseKit> framed_kit_;
    std::string framed_source_;  // which source the camera was last set for
};

}  // namespace veld
