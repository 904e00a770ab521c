#pragma once
// Skin: the scan, the base in the shape of its fit wearing the subject's skin, and the skin's tiles.
#include "app/scene/base_shapes.h"
#include "app/stations/skin/skin_brush_controller.h"
#include "app/stations/skin/worn_mesh.h"
#include "app/stations/station_page.h"

namespace veld {

class SkinPanel;

class SkinStation : public StationPage {
    Q_OBJECT
 public:
    explicit SkinStation(const StationContext& context);
    QWidget* panel() override;
    QString figures() const override;
    void entered() override;
    void left() override;
    void before_showing() override;
    std::vector<ViewId> shown() override;
    std::vector<ViewId> offered() override;
    Pane pane(ViewId which) override;
    PhotoPane photo_pane() override;
    Framing home() override;
    std::string framed() override;
    void stroke_begun(ViewId which, const Ray& ray, double pressure, Qt::KeyboardModifiers keys) override;
    void stroke_moved(ViewId which, const Ray& ray, double pressure) override;
    void stroke_ended(ViewId which) override;
    void photo_stroke_begun(const QPointF& pixel, double pressure, Qt::KeyboardModifiers keys) override;
    void photo_stroke_moved(const QPointF& pixel, double pressure) override;
    void photo_stroke_ended() override;

    SkinBrushController& brushes() { return brushes_; }

 private:
    int level() const;
    void add_wipe(Pane& out);
    void follow_photo();
    void show_painted(const QString& tile, const QRect& where, const QImage& part);
    Vec2 on_tile(const QPointF& pixel) const;

    SkinController& skins_;
    SkinBrushController brushes_;
    SkinPanel* panel_;
    ShownShape plain_;  // until the skin is composed
    WornMesh worn_, against_;
    int through_ = -1;  // the photograph that the camera was last set to
    QImage uv_;         // the tile's, while a stroke changes it
};

}  // namespace veld
