#pragma once
// Strokes on a skin, on the model or on its UVs.
#include "app/stations/skin/skin_controller.h"
#include "app/views/camera.h"

namespace veld {

class SkinBrushController : public QObject {
    Q_OBJECT
 public:
    SkinBrushController(Session& session, SkinController& skins, QObject* parent = nullptr);

    SkinBrushSettings brush;
    void set_brush(SkinBrush kind);
    void set_size(double mm);
    void set_colour(const QColor& colour);
    bool brushing() const { return brushing_; }
    void set_brushing(bool on);
    // Why strokes cannot be made now, or what is to be done first; empty: they can.
    QString why_not() const;

    // Held with Alt: the colour, or what Clone and Heal take from, is picked there.
    void begin(const Ray& ray, double pressure, Qt::KeyboardModifiers keys);
    void move(const Ray& ray, double pressure);
    void begin_on_tile(const Vec2& at, double pressure, Qt::KeyboardModifiers keys);  // 0..1 from the upper left
    void move_on_tile(const Vec2& at, double pressure);
    void end();
    void drop();  // as if it had not begun
    bool stroking() const { return stroke_.has_value(); }
    // Where Clone and Heal take from.
    std::optional<Vec3> source() const;

 signals:
    void changed();
    // A part of a tile is other than it was.
    void painted(const QString& tile, const QRect& where, const QImage& part);

 private:
    struct Stroke {
        std::shared_ptr<ShownSkin> on;
        SkinBrushSettings used;
        LayerId layer;
        bool fresh = false;  // the layer comes with this stroke
        SkinLayer target;
        std::unique_ptr<SkinStroke> stroke;
        std::map<std::string, Pixels> live;
        SkinSpot last;
    };
    void begin_at(const SkinSpot& place, double pressure, Qt::KeyboardModifiers keys);
    void dab(const SkinSpot& place, double pressure);
    void pick(const SkinSpot& place);
    void show(const std::map<std::string, TexelRect>& touched);

    Session& s_;
    SkinController& skins_;
    bool brushing_ = false;
    std::optional<Stroke> stroke_;
    SkinSpot source_;
    std::shared_ptr<const PaintSurface> source_on_;
};

}  // namespace veld
