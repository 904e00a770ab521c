#include "app/region_names.h"

#include "app/core_words.h"

namespace veld {

QString plain_region(const std::string& name) {
    QString out = QString::fromStdString(name);
    const bool left = out.endsWith("_l"), right = out.endsWith("_r");
    if (left || right) out.chop(2);
    if (out == "lid") out = "lids";
    if (out == "socket") out = "eye socket";
    if (out == "hand_all") out = "hand with fingers";
    if (out.startsWith("finger_")) out = out.mid(7) + " finger";
    if (out == "thumb finger") out = "thumb";
    out.replace('_', ' ');
    out = left ? "Left " + out : right ? "Right " + out : out.left(1).toUpper() + out.mid(1);
    return core_word(out.toStdString());  // whole: other languages put it together in other ways
}

}  // namespace veld
