#pragma once
// What went out to another program, as data: the options it was sent with, and what a return is compared with.
#include <memory>
#include <optional>
#include <string>
#include <utility>
#include <vector>

#include "core/base/units.h"
#include "core/rig/rig.h"

namespace veld {

enum class SendScope { Whole, Head, Part, Region };
inline constexpr SendScope kSendScopes[] = {SendScope::Whole, SendScope::Head, SendScope::Part, SendScope::Region};
const char* send_scope_name(SendScope scope);
std::optional<SendScope> send_scope_from_name(const std::string& name);

// What of the base goes out, and how it stands.
struct SendOptions {
    SendScope scope = SendScope::Whole;  // Head: the head's skin and what is in it
    std::string of;                      // the part's or region's name
    int level = 0;                       // Catmull-Clark subdivisions, 0 to 2
    std::vector<std::string> parts_off;
    Unit unit = Unit::Millimetre;  // GLB is metres, Y up, whatever is said here
    UpAxis up = UpAxis::PlusY;
    std::optional<Pose> pose;  // empty: at rest
    bool operator==(const SendOptions&) const = default;
};

struct SentFile {
    std::string file;  // path
    std::string topology;
    SendOptions options;
    std::vector<std::pair<std::string, double>> morphs;  // that were on, by name
    std::string morph;                                   // the bank morph that a return is meant for; empty: a new one
    std::shared_ptr<const Points>
        shape;          // of the base with these morphs, at rest, mm; null: the base itself. Not in the sidecar
    std::string stamp;  // of the file as it was written; the project's
};

}  // namespace veld
