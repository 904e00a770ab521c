#include "app/region_names.h"

#include <QCoreApplication>
#include <algorithm>

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

std::vector<std::string> skin_regions(const BaseKit& kit) {
    VertexMask skin(kit.mesh.positions.size(), 0), head(skin);
    for (const Index v : kit.part("skin")->vertices) skin[v] = 1;
    for (const Index v : kit.region("head_skin")) head[v] = 1;
    std::vector<std::string> out;
    for (const auto& [name, region] : kit.regions) {
        if (!region.empty() && skin[region.front()] && name != "head_skin" && name != "body_skin") out.push_back(name);
    }
    std::stable_partition(out.begin(), out.end(),
                          [&](const std::string& name) { return head[kit.region(name).front()]; });
    return out;
}

}  // namespace veld
