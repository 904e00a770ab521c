#include "app/region_names.h"

#include <QCoreApplication>

namespace veld {
namespace {

QString tr(const char* text) { return QCoreApplication::translate("Regions", text); }

}  // namespace

QString plain_region(const std::string& name) {
    QString out = QString::fromStdString(name);
    const bool left = out.endsWith("_l"), right = out.endsWith("_r");
    if (left || right) out.chop(2);
    if (out == "lid") out = tr("lids");
    if (out == "socket") out = tr("eye socket");
    if (out == "hand_all") out = tr("hand with fingers");
    if (out.startsWith("finger_")) out = out.mid(7) + tr(" finger");
    if (out == "thumb finger") out = tr("thumb");
    out.replace('_', ' ');
    if (left) return tr("Left ") + out;
    if (right) return tr("Right ") + out;
    return out.left(1).toUpper() + out.mid(1);
}

}  // namespace veld
