#include "app/stations/skin/skin_words.h"

#include <QCoreApplication>

namespace veld {
namespace {

struct SkinWords {
    Q_DECLARE_TR_FUNCTIONS(SkinWords)
};

}  // namespace

QString look_word(SkinLook look) {
    switch (look) {
        case SkinLook::Skin:
            return SkinWords::tr("All layers");
        case SkinLook::Layer:
            return SkinWords::tr("The selected layer alone");
        case SkinLook::Origin:
            return SkinWords::tr("Where it comes from");
        case SkinLook::Checker:
            return SkinWords::tr("Squares");
        case SkinLook::Relief:
            return SkinWords::tr("Relief on clay");
        case SkinLook::SkinInRelief:
            return SkinWords::tr("All layers in relief");
        case SkinLook::Heights:
            return SkinWords::tr("Displacement");
        case SkinLook::Occlusion:
            return SkinWords::tr("Occlusion");
        case SkinLook::Curvature:
            return SkinWords::tr("Curvature");
        case SkinLook::Cavity:
            return SkinWords::tr("Cavity");
    }
    return {};
}

QString blend_word(LayerBlend blend) {
    switch (blend) {
        case LayerBlend::Over:
            return SkinWords::tr("Over");
        case LayerBlend::Multiply:
            return SkinWords::tr("Multiply");
        case LayerBlend::Screen:
            return SkinWords::tr("Screen");
        case LayerBlend::SoftLight:
            return SkinWords::tr("Soft light");
        case LayerBlend::Tone:
            return SkinWords::tr("Only its hue");
        case LayerBlend::Light:
            return SkinWords::tr("Only its lightness");
    }
    return {};
}

QString brush_word(SkinBrush brush) {
    switch (brush) {
        case SkinBrush::Paint:
            return SkinWords::tr("Paint");
        case SkinBrush::Smooth:
            return SkinWords::tr("Smooth");
        case SkinBrush::Sharpen:
            return SkinWords::tr("Sharpen");
        case SkinBrush::Clone:
            return SkinWords::tr("Clone");
        case SkinBrush::Heal:
            return SkinWords::tr("Heal");
        case SkinBrush::Mirror:
            return SkinWords::tr("From the other side");
        case SkinBrush::Erase:
            return SkinWords::tr("Erase");
        case SkinBrush::Restore:
            return SkinWords::tr("Bring back");
    }
    return {};
}

QString brush_tip(SkinBrush brush) {
    switch (brush) {
        case SkinBrush::Paint:
            return SkinWords::tr("Paints with the colour. Alt and click picks one from the skin.");
        case SkinBrush::Smooth:
            return SkinWords::tr("Evens out what is there.");
        case SkinBrush::Sharpen:
            return SkinWords::tr("Brings out what is there.");
        case SkinBrush::Clone:
            return SkinWords::tr("Copies another place of the skin. Alt and click says which.");
        case SkinBrush::Heal:
            return SkinWords::tr("Copies another place in the tone that is here. Alt and click says which.");
        case SkinBrush::Mirror:
            return SkinWords::tr("Copies what the other half shows.");
        case SkinBrush::Erase:
            return SkinWords::tr("Lets the layers below the selected one show through.");
        case SkinBrush::Restore:
            return SkinWords::tr("Brings back what was erased from the selected layer.");
    }
    return {};
}

QString map_word(SkinMap map) {
    switch (map) {
        case SkinMap::Colour:
            return SkinWords::tr("Colours");
        case SkinMap::Normal:
            return SkinWords::tr("Normals");
        case SkinMap::Displacement:
            return SkinWords::tr("Displacement");
        case SkinMap::Occlusion:
            return SkinWords::tr("Occlusion");
        case SkinMap::Curvature:
            return SkinWords::tr("Curvature");
        case SkinMap::Cavity:
            return SkinWords::tr("Cavity");
        case SkinMap::Parts:
            return SkinWords::tr("Mask of parts");
        case SkinMap::Regions:
            return SkinWords::tr("Mask of regions");
    }
    return {};
}

QString format_word(MapFormat format) {
    switch (format) {
        case MapFormat::Png8:
            return SkinWords::tr("PNG, 8 bits");
        case MapFormat::Png16:
            return SkinWords::tr("PNG, 16 bits");
        case MapFormat::Tiff8:
            return SkinWords::tr("TIFF, 8 bits");
        case MapFormat::Tiff16:
            return SkinWords::tr("TIFF, 16 bits");
        case MapFormat::Tiff32:
            return SkinWords::tr("TIFF, 32 bits");
        case MapFormat::Exr16:
            return SkinWords::tr("EXR, 16 bits");
        case MapFormat::Exr32:
            return SkinWords::tr("EXR, 32 bits");
    }
    return {};
}

}  // namespace veld
