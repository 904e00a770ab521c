#pragma once
// How a kit's folder is read; for the files of this folder only.
#include <cmath>

#include "core/base/json.h"
#include "core/kit/base_kit.h"

namespace veld {

// Every reader below adds to `why` (empty: all well) so that the message names the place.
class KitReader {
 public:
    KitReader(std::string file, Json json) : file_(std::move(file)), json_(std::move(json)) {}

    Result<BaseKit> run();

 private:
    bool fail(const std::string& why) {
        if (why_.empty()) why_ = why;
        return false;
    }
    bool joint_list(const Json& list, std::vector<Joint>& out);
    bool number(const Json& j, const std::string& where, double& out) {
        if (!j.is_number() || !std::isfinite(j.get<double>())) return fail(where + " is not a number.");
        out = j.get<double>();
        return true;
    }
    bool index(const Json& j, std::size_t count, const std::string& where, Index& out) {
        if (!j.is_number_unsigned() || j.get<std::uint64_t>() >= count) {
            return fail(where + ": index " + j.dump() + " is outside 0.." + std::to_string(count - 1) + ".");
        }
        out = j.get<Index>();
        return true;
    }
    bool indices(const Json& j, std::size_t count, const std::string& where, std::vector<Index>& out);
    bool point(const Json& j, const std::string& where, Vec3& out);
    bool place(const Json& j, const std::string& where, SurfacePoint& out);
    const Json* member(const char* name, bool required);

    bool mesh();
    bool parts();
    bool regions();
    bool landmarks();
    bool own_landmarks();
    bool mirror();
    bool joints();
    bool weights();
    bool joint_ties();
    bool eyes();
    bool expressions();
    bool head();
    bool share_weights();
    bool known_heads();
    bool original();
    bool own_rig();
    bool rest_poses();
    bool reduced();
    bool doubts();

    std::string file_, folder_, why_;
    Json json_;
    BaseKit kit_;
    std::vector<Index> vertex_face_;
};

}  // namespace veld
