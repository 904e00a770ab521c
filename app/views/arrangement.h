#pragma once
// Which views are seen beside one another: at most four, each of one of the things that a client can show.
#include <QString>
#include <vector>

#include "app/views/pane.h"

namespace veld {

constexpr std::size_t kMostViews = 4;

struct ViewSeat {
    ViewId shows = ViewId::Base;
    bool own_camera = false;    // else the one that views share
    double yaw = 0, pitch = 0;  // degrees; where its own camera looks from at first
    bool operator==(const ViewSeat&) const = default;
};

// From left to right; four: two rows of two. Empty: as the client says.
using Arrangement = std::vector<ViewSeat>;

// So many views of what there is: each thing once, then the last mesh again from the side, three-quarter and behind,
// each with a camera of its own.
Arrangement arrange(const std::vector<ViewId>& things, std::size_t count);
// What of it can be seen when only these things can be shown, a photograph at most once.
Arrangement those_of(const Arrangement& all, const std::vector<ViewId>& things);

// For the settings. Text that is none of these: empty.
QString to_text(const Arrangement& all);
Arrangement arrangement_of(const QString& text);

}  // namespace veld
