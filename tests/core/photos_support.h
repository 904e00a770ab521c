#pragma once
// What test_photos, test_photo_hand share.
#include <catch2/catch.hpp>

#include <cstring>
#include <random>

#include "core/base/file.h"
#include "core/io/exif.h"
#include "core/linalg/statistics.h"
#include "core/photo/by_hand.h"
#include "core/photo/look_at_photos.h"
#include "core/photo/seen.h"
#include "core/project/fits.h"
#include "core/project/photo_heads.h"
#include "core/project/records/photo_record.h"
#include "core/project/store.h"
#include "core/skin/blend_skins.h"
#include "core/touchup/layer.h"
#include "demo/standins/sitting.h"
#include "tests/support/demo_kit.h"
#include "tests/support/scratch.h"
#include "tests/support/sitters.h"

using namespace veld;

namespace {

inline const PhotoHead& three_photos() {
    static const PhotoHead fit = *fit_photos(input_of(sitter(3)), {});
    return fit;
}

inline PhotoCamera some_camera(bool parallel) {
    Portrait how;
    how.yaw = 33, how.pitch = 7, how.roll = -4, how.target = Vec3(0, 1600, 40), how.distance = 900;
    PhotoCamera c = camera_of(how);
    if (parallel) c.parallel = true, c.focal = 2.5;
    return c;
}

}  // namespace
