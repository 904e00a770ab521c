#pragma once
// `veldstone --picture FILE --view NAME`: the window in a given station, with the work done that it
// needs, as a PNG. Used for the documentation and where there is no screen.
#include <QStringList>

#include "app/main_window.h"

namespace veld {

QStringList picture_views();
// Blocks until the picture is written; false with a message on stderr.
// at: a landmark to come close to; may be empty.
bool take_picture(MainWindow& window, const QString& view, const QString& file, const QString& at = {});

}  // namespace veld
