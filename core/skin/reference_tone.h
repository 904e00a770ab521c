#pragma once
// What a face looks like in any picture: the tone that a skin can be brought to.
#include "core/base/progress.h"
#include "core/kit/base_kit.h"

namespace veld {

// The mean colour of the face's skin, with the light that the picture was taken in. Fails with BadFile on a picture
// that cannot be read, NotFound where no face is in it, Cancelled.
Result<Colour> reference_tone(const BaseKit& kit, const Image& picture, const Progress& progress);

}  // namespace veld
