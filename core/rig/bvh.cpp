#include "core/rig/bvh.h"

#include <Eigen/Geometry>
#include <algorithm>
#include <cctype>
#include <charconv>
#include <cmath>
#include <cstdio>

#include "core/base/file.h"

namespace veld {
namespace {

constexpr std::size_t kMostJoints = 2000, kMostNumbers = 200'000'000;
constexpr std::size_t kLeastKnown = 4;  // joints known by name; with fewer it is no figure

enum class Channel { X, Y, Z, TurnX, TurnY, TurnZ };

// Words of the text, with the line that each stands in.
class Words {
 public:
    Words(std::string_view text, std::string what) : text_(text), what_(std::move(what)) {}
    std::string_view next() {
        while (at_ < text_.size() && std::isspace(static_cast<unsigned char>(text_[at_])))
            line_ += text_[at_++] == '\n';
        const std::size_t first = at_;
        while (at_ < text_.size() && !std::isspace(static_cast<unsigned char>(text_[at_]))) ++at_;
        return text_.substr(first, at_ - first);
    }
    bool number(double& out) {
        const std::string_view word = next();
        const auto [end, error] = std::from_chars(word.data(), word.data() + word.size(), out);
        return error == std::errc() && end == word.data() + word.size() && std::isfinite(out);
    }
    Error bad(const std::string& why) const {
        return {ErrorCode::BadFile, what_ + ", line " + std::to_string(line_) + ": " + why};
    }

 private:
    std::string_view text_;
    std::string what_;
    std::size_t at_ = 0, line_ = 1;
};

class BvhReader {
 public:
    BvhReader(std::string_view text, const std::string& what) : words_(text, what) {}

    Result<Motion> run() {
        if (words_.next() != "HIERARCHY") return words_.bad("is no BVH file: it does not begin with HIERARCHY.");
        if (words_.next() != "ROOT") return words_.bad("a ROOT is missing.");
        if (auto ok = joint(-1); !ok) return ok.error();
        if (words_.next() != "MOTION") return words_.bad("MOTION is missing; it may be cut short.");
        return frames();
    }

 private:
    // After its word: name, offset, channels, children.
    Status joint(int parent) {
        Joint joint;
        joint.name = std::string(words_.next());
        joint.parent = parent;
        if (out_.joints.size() >= kMostJoints) return words_.bad("has too many joints.");
        if (words_.next() != "{") return words_.bad("a { is missing after '" + joint.name + "'.");
        const int self = static_cast<int>(out_.joints.size());
        out_.joints.push_back(joint), channels_.emplace_back();
        for (;;) {
            const std::string_view word = words_.next();
            Vec3 offset;
            if (word == "}") return Done{};
            if (word == "OFFSET") {
                if (!vector(offset)) return words_.bad("an OFFSET needs three numbers.");
                const Vec3 from =
                    parent < 0 ? Vec3(Vec3::Zero()) : out_.joints[static_cast<std::size_t>(parent)].position;
                out_.joints[static_cast<std::size_t>(self)].position = from + offset;
            } else if (word == "CHANNELS") {
                if (auto ok = channels(channels_[static_cast<std::size_t>(self)]); !ok) return ok;
            } else if (word == "JOINT") {
                if (auto ok = this->joint(self); !ok) return ok;
            } else if (word == "End") {
                words_.next(), words_.next();  // Site {
                if (words_.next() != "OFFSET" || !vector(offset) || words_.next() != "}")
                    return words_.bad("an End Site needs an OFFSET of three numbers.");
            } else {
                return words_.bad("'" + std::string(word) + "' is not expected here; it may be cut short.");
            }
        }
    }
    bool vector(Vec3& out) { return words_.number(out[0]) && words_.number(out[1]) && words_.number(out[2]); }
    Status channels(std::vector<Channel>& out) {
        double count = 0;
        if (!words_.number(count) || count < 0 || count > 6) return words_.bad("CHANNELS needs a count from 0 to 6.");
        constexpr std::string_view kNames[] = {"Xposition", "Yposition", "Zposition",
                                               "Xrotation", "Yrotation", "Zrotation"};
        for (int i = 0; i < static_cast<int>(count); ++i) {
            const std::string_view word = words_.next();
            const auto* at = std::find(std::begin(kNames), std::end(kNames), word);
            if (at == std::end(kNames)) return words_.bad("'" + std::string(word) + "' is no channel.");
            out.push_back(static_cast<Channel>(at - std::begin(kNames)));
        }
        return Done{};
    }
    Result<Motion> frames() {
        double count = 0;
        std::size_t numbers = 0;
        for (const auto& c : channels_) numbers += c.size();
        if (words_.next() != "Frames:" || !words_.number(count) || count < 1 ||
            count * static_cast<double>(std::max<std::size_t>(1, numbers)) > kMostNumbers)
            return words_.bad("'Frames:' needs a count of at least 1.");
        if (words_.next() != "Frame" || words_.next() != "Time:" || !words_.number(out_.frame_seconds) ||
            !(out_.frame_seconds > 0))
            return words_.bad("'Frame Time:' needs seconds above 0.");
        for (int f = 0; f < static_cast<int>(count); ++f) {
            std::vector<Mat3> turns;
            for (const auto& channels : channels_) {
                Mat3 turn = Mat3::Identity();
                for (const Channel c : channels) {
                    double value = 0;
                    if (!words_.number(value))
                        return words_.bad("frame " + std::to_string(f + 1) + " is cut short, or holds no number.");
                    if (c < Channel::TurnX) continue;
                    const int axis = static_cast<int>(c) - static_cast<int>(Channel::TurnX);
                    turn = turn * Eigen::AngleAxisd(value * M_PI / 180, Vec3::Unit(axis)).toRotationMatrix();
                }
                turns.push_back(turn);
            }
            out_.turns.push_back(std::move(turns));
        }
        return std::move(out_);
    }

    Words words_;
    Motion out_;
    std::vector<std::vector<Channel>> channels_;
};

// Letters and figures alone, small, without what stands before a colon; a side of "left" or "l" goes to the end.
std::string plain_name(std::string name) {
    if (const auto colon = name.rfind(':'); colon != std::string::npos) name = name.substr(colon + 1);
    std::string side, out;
    for (const char c : name)
        if (std::isalnum(static_cast<unsigned char>(c)))
            out += static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
    const auto parted = [&](const std::string& word, const char* is) {
        if (out.starts_with(word))
            out = out.substr(word.size());
        else if (out.ends_with(word))
            out = out.substr(0, out.size() - word.size());
        else
            return false;
        side = is;
        return true;
    };
    const bool marked = name.starts_with("l_") || name.starts_with("L_") || name.ends_with("_l") ||
                        name.ends_with("_L") || name.ends_with(".L");
    const bool marked_right = name.starts_with("r_") || name.starts_with("R_") || name.ends_with("_r") ||
                              name.ends_with("_R") || name.ends_with(".R");
    if (!parted("left", "_l") && !parted("right", "_r")) {
        const bool small = name.size() > 1 && std::islower(static_cast<unsigned char>(name[0])) &&
                           std::isupper(static_cast<unsigned char>(name[1]));  // lThigh
        if (marked || (small && name[0] == 'l')) parted("l", "_l");
        if (marked_right || (small && name[0] == 'r')) parted("r", "_r");
    }
    return out + side;
}

// The usual words for the joints of a figure.
std::string usual_name(const std::string& plain) {
    static const std::vector<std::pair<std::string, std::vector<std::string>>> kWords = {
        {"pelvis", {"pelvis", "hips", "hip", "root"}},
        {"spine1", {"spine1", "spine", "abdomen", "lowerback"}},
        {"spine2", {"spine2", "chest"}},
        {"spine3", {"spine3", "upperchest", "thorax"}},
        {"clavicle", {"clavicle", "shoulder", "collar"}},
        {"upperarm", {"upperarm", "arm", "shldr"}},
        {"forearm", {"forearm", "lowerarm"}},
        {"hand", {"hand", "wrist"}},
        {"thigh", {"thigh", "upleg", "upperleg"}},
        {"shin", {"shin", "leg", "lowerleg", "calf"}},
        {"foot", {"foot", "ankle"}},
        {"toe", {"toe", "toebase", "ball"}},
    };
    const std::size_t side = plain.ends_with("_l") || plain.ends_with("_r") ? plain.size() - 2 : plain.size();
    const std::string word = plain.substr(0, side);
    for (const auto& [name, words] : kWords)
        if (std::find(words.begin(), words.end(), word) != words.end()) return name + plain.substr(side);
    return plain;
}

// From a joint to the next one that both skeletons have; zero: there is none.
Vec3 bone(const std::vector<Joint>& joints, std::size_t from, std::size_t to) {
    return joints[to].position - joints[from].position;
}

// About the upright axis: the motion's left becomes ours.
Mat3 facing(const Motion& motion, const std::vector<Joint>& joints, const std::vector<int>& known) {
    Vec3 side = Vec3::Zero();
    for (std::size_t j = 0; j < joints.size(); ++j) {
        if (known[j] < 0) continue;
        const Vec3& at = motion.joints[static_cast<std::size_t>(known[j])].position;
        if (joints[j].name.ends_with("_l")) side += at;
        if (joints[j].name.ends_with("_r")) side -= at;
    }
    if (!(std::hypot(side.x(), side.z()) > 1e-9)) return Mat3::Identity();
    return Eigen::AngleAxisd(std::atan2(side.z(), side.x()), Vec3::UnitY()).toRotationMatrix();
}

}  // namespace

Result<Motion> bvh_from(std::string_view text, const std::string& what) { return BvhReader(text, what).run(); }

Result<Motion> read_bvh(const std::string& path) {
    auto bytes = read_file(path);
    if (!bytes) return bytes.error();
    return bvh_from(bytes->view(), "'" + path + "'");
}

std::string bvh_text(const Motion& motion) {
    std::string out = "HIERARCHY\n";
    std::vector<std::size_t> order;
    const auto line = [&](int depth, const std::string& text) {
        out += std::string(static_cast<std::size_t>(depth), '\t') + text + "\n";
    };
    const auto offset = [](const Vec3& v) {
        char text[100];
        std::snprintf(text, sizeof text, "OFFSET %.4f %.4f %.4f", v.x(), v.y(), v.z());
        return std::string(text);
    };
    const auto write = [&](const auto& self, std::size_t j, int depth) -> void {
        const Joint& joint = motion.joints[j];
        order.push_back(j);
        line(depth, (joint.parent < 0 ? "ROOT " : "JOINT ") + joint.name);
        line(depth, "{");
        const Vec3 from =
            joint.parent < 0 ? Vec3(Vec3::Zero()) : motion.joints[static_cast<std::size_t>(joint.parent)].position;
        line(depth + 1, offset(joint.position - from));
        line(depth + 1, "CHANNELS 3 Zrotation Xrotation Yrotation");
        bool any = false;
        for (std::size_t c = j + 1; c < motion.joints.size(); ++c)
            if (motion.joints[c].parent == static_cast<int>(j)) any = true, self(self, c, depth + 1);
        if (!any) {
            line(depth + 1, "End Site"), line(depth + 1, "{");
            line(depth + 2, offset(Vec3::Zero())), line(depth + 1, "}");
        }
        line(depth, "}");
    };
    if (!motion.joints.empty()) write(write, 0, 0);
    char text[120];
    std::snprintf(text, sizeof text, "MOTION\nFrames: %zu\nFrame Time: %.6f\n", motion.turns.size(),
                  motion.frame_seconds);
    out += text;
    for (const auto& frame : motion.turns) {
        for (std::size_t i = 0; i < order.size(); ++i) {
            const Vec3 angles = frame[order[i]].eulerAngles(2, 0, 1) * 180 / M_PI;
            std::snprintf(text, sizeof text, "%s%.4f %.4f %.4f", i ? " " : "", angles[0], angles[1], angles[2]);
            out += text;
        }
        out += "\n";
    }
    return out;
}

std::vector<int> joints_by_name(const Motion& motion, const std::vector<Joint>& joints) {
    std::vector<std::string> theirs;
    for (const Joint& j : motion.joints) theirs.push_back(usual_name(plain_name(j.name)));
    std::vector<int> out;
    for (const Joint& j : joints) {
        const auto at = std::find(theirs.begin(), theirs.end(), usual_name(plain_name(j.name)));
        out.push_back(at == theirs.end() ? -1 : static_cast<int>(at - theirs.begin()));
    }
    return out;
}

Result<std::vector<Pose>> motion_on(const Motion& motion, const std::vector<Joint>& joints) {
    const std::vector<int> known = joints_by_name(motion, joints);
    if (static_cast<std::size_t>(std::count_if(known.begin(), known.end(), [](int k) { return k >= 0; })) <
        kLeastKnown)
        return Error{ErrorCode::BadInput,
                     "The motion's joints have names that are not known; wanted are such as hips, spine, neck, head, "
                     "left arm, left forearm, left hand, left thigh, left shin, left foot."};
    const Mat3 face = facing(motion, joints, known);
    // how far each bone at rest points otherwise than the motion's
    std::vector<Mat3> rest(joints.size(), Mat3::Identity());
    for (std::size_t j = 0; j < joints.size(); ++j) {
        if (joints[j].parent >= 0) rest[j] = rest[static_cast<std::size_t>(joints[j].parent)];
        if (known[j] < 0) continue;
        for (std::size_t c = j + 1; c < joints.size(); ++c) {
            if (joints[c].parent != static_cast<int>(j) || known[c] < 0) continue;
            const Vec3 mine = bone(joints, j, c),
                       theirs = face * bone(motion.joints, static_cast<std::size_t>(known[j]),
                                            static_cast<std::size_t>(known[c]));
            if (mine.norm() > 1e-6 && theirs.norm() > 1e-9)
                rest[j] = Eigen::Quaterniond::FromTwoVectors(mine, theirs).toRotationMatrix();
            break;
        }
    }
    std::vector<Pose> out;
    for (const auto& turns : motion.turns) {
        std::vector<Mat3> theirs(motion.joints.size()), ours(joints.size());
        for (std::size_t b = 0; b < theirs.size(); ++b) {
            const int up = motion.joints[b].parent;
            theirs[b] = up < 0 ? turns[b] : Mat3(theirs[static_cast<std::size_t>(up)] * turns[b]);
        }
        Pose pose = rest_pose(joints);
        for (std::size_t j = 0; j < joints.size(); ++j) {
            const Mat3 up =
                joints[j].parent < 0 ? Mat3(Mat3::Identity()) : ours[static_cast<std::size_t>(joints[j].parent)];
            ours[j] = up;
            if (known[j] >= 0)
                ours[j] = face * theirs[static_cast<std::size_t>(known[j])] * face.transpose() * rest[j];
            pose.turns[j] = up.transpose() * ours[j];
        }
        out.push_back(std::move(pose));
    }
    return out;
}

}  // namespace veld
