#include "app/window/about.h"

#include <QTextBrowser>
#include <QVBoxLayout>

#include "app/theme.h"
#include "app/widgets.h"

namespace veld {
namespace {

struct ThirdParty {
    const char *name, *what, *licence;
};
// Ships: lies in the program itself. The rest are Debian's packages.
constexpr ThirdParty kShips[] = {
    {"Lato", QT_TRANSLATE_NOOP("About", "typeface, by Łukasz Dziedzic"), "OFL-1.1"},
    {"Face networks", QT_TRANSLATE_NOOP("About", "finding faces, landmarks and irises in pictures"), "Apache-2.0"}};
constexpr ThirdParty kUsed[] = {
    {"Qt 6", QT_TRANSLATE_NOOP("About", "window"), "LGPL-3.0"},
    {"Eigen", QT_TRANSLATE_NOOP("About", "linear algebra"), "MPL-2.0"},
    {"SuiteSparse", QT_TRANSLATE_NOOP("About", "sparse systems (CHOLMOD, supernodal: GPL)"), "GPL-2.0-or-later"},
    {"OpenBLAS", QT_TRANSLATE_NOOP("About", "dense linear algebra"), "BSD-3-Clause"},
    {"oneTBB", QT_TRANSLATE_NOOP("About", "threads"), "Apache-2.0"},
    {"Embree 3", QT_TRANSLATE_NOOP("About", "rays and closest points"), "Apache-2.0"},
    {"OpenSubdiv", QT_TRANSLATE_NOOP("About", "subdivision surfaces"), "Apache-2.0"},
    {"CGAL", QT_TRANSLATE_NOOP("About", "holes of meshes"), "GPL-3.0-or-later"},
    {"Ceres Solver", QT_TRANSLATE_NOOP("About", "cameras of photographs"), "BSD-3-Clause"},
    {"OpenCV", QT_TRANSLATE_NOOP("About", "networks and pictures"), "Apache-2.0"},
    {"meshoptimizer", QT_TRANSLATE_NOOP("About", "light versions of large meshes"), "MIT"},
    {"tinygltf, assimp, libzip", QT_TRANSLATE_NOOP("About", "files of meshes"), "MIT, BSD-3-Clause"},
    {"libjpeg-turbo, libpng, libtiff, libheif", QT_TRANSLATE_NOOP("About", "files of pictures"),
     "IJG, libpng, libtiff, LGPL-3.0"},
    {"SQLite, nlohmann-json, CLI11", QT_TRANSLATE_NOOP("About", "projects and commands"),
     "public domain, MIT, BSD-3-Clause"}};

QString table(const ThirdParty* first, std::size_t count) {
    QString out = "<table>";
    for (std::size_t i = 0; i < count; ++i)
        out += QString(
                   "<tr><td style='padding-right:16px'>%1</td><td style='padding-right:16px; color:%4'>%2</td>"
                   "<td style='color:%4'>%3</td></tr>")
                   .arg(QString::fromUtf8(first[i].name), QCoreApplication::translate("About", first[i].what),
                        first[i].licence, theme::ink().dim.name());
    return out + "</table>";
}

}  // namespace

About::About(QWidget* parent) : QDialog(parent) {
    setObjectName("about");
    setWindowTitle(tr("About Veldstone"));
    resize(620, 560);
    auto* column = new QVBoxLayout(this);
    auto* text = new QTextBrowser;
    text->setObjectName("about_text");
    text->setAccessibleName(tr("About Veldstone"));
    text->setHtml(
        tr("<h2>Veldstone %1</h2><p>Conforms photographs, scans and sculpts onto a fixed-topology base mesh.</p>"
           "<p>Free software under the GNU General Public License, version 3 or later. It comes without any "
           "warranty.</p>")
            .arg(VELDSTONE_VERSION) +
        tr("<h3>Ships with the program</h3>") + table(kShips, std::size(kShips)) + tr("<h3>Libraries</h3>") +
        table(kUsed, std::size(kUsed)));
    column->addWidget(text);
    auto* done = button(tr("Close"), "about_close", {}, true);
    connect(done, &QPushButton::clicked, this, &QDialog::accept);
    column->addWidget(done, 0, Qt::AlignRight);
}

}  // namespace veld
