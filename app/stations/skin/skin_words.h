#pragma once
// What skins' maps, blends, brushes and formats are called.
#include <QString>

#include "app/stations/skin/shown_skin.h"
#include "core/skin/bake.h"
#include "core/skin/paint.h"

namespace veld {

QString look_word(SkinLook look);
QString blend_word(LayerBlend blend);
QString brush_word(SkinBrush brush);
QString brush_tip(SkinBrush brush);
QString map_word(SkinMap map);
QString format_word(MapFormat format);

}  // namespace veld
