#pragma once
// Lights in which a shape is read, as a studio would set them. They stand with the camera: turning the subject moves
// light over it, as turning a head in the hand does.
#include <QPointF>
#include <QString>
#include <QVector3D>
#include <vector>

namespace veld {

enum class StudioLight { Soft, RakeLeft, RakeRight, Below, Rim, Silhouette, ByHand };

// In the eye's frame (right, up, towards the eye), colours linear.
struct Lights {
    QVector3D key, key_colour;  // direction to the lamp, unit
    QVector3D fill, fill_colour;
    QVector3D ambient;  // from everywhere, most from above
    QVector3D rim;      // along the outline
    float wrap = 0;     // how far a soft key reaches around, 0..1
    float gloss = 0;    // of clay
    float hollows = 1;  // how much darker what lies closed in is, 0..1
    bool flat = false;  // one dark colour: the outline alone counts
};

// by_hand: where the lamp of ByHand stands, -1..1 to the right and upwards.
Lights lights_of(StudioLight light, const QPointF& by_hand = {});

}  // namespace veld
