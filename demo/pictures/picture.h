#pragma once
// The window in a given station, with the work done that it needs, as a PNG: for the documentation.
#include <QStringList>

#include "app/window/main_window.h"

namespace veld {

QStringList picture_views();
// Blocks until the picture is written; false with a message on stderr.
// at: a landmark to come close to; may be empty.
bool take_picture(MainWindow& window, const QString& view, const QString& file, const QString& at = {});

}  // namespace veld
