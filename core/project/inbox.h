#pragma once
// A watched folder: what a phone or a capture rig delivers, file by file, is offered once it is whole.
//
// Nobody tells when a delivery is over, so three things must hold: no file of it has changed for a
// while, none carries the ending of an unfinished transfer, and what its files name (material library,
// textures, buffers) is there too.
#include <cstdint>
#include <map>
#include <set>
#include <string>
#include <vector>

namespace veld {

enum class DeliveryKind { Scan, Photos };

struct Delivery {
    DeliveryKind kind = DeliveryKind::Scan;
    std::string name;                // "capture_7.obj"; folder name of a photo set
    std::string path;                // the mesh or archive; the folder of a photo set
    std::vector<std::string> files;  // photos, sorted
    bool complete = false;
    std::string waiting_for;  // in plain words, when not complete
    std::string stamp;        // changes when a file of it does
};

class Inbox {
 public:
    explicit Inbox(std::string folder, std::int64_t quiet_ms = 1500)
        : folder_(std::move(folder)), quiet_ms_(quiet_ms) {}

    const std::string& folder() const { return folder_; }
    // Looks into the folder (and one level of folders in it). now_ms: any clock that runs evenly.
    // Call it about once a second. Deliveries whose stamp was taken or dismissed are left out.
    std::vector<Delivery> look(std::int64_t now_ms);
    void forget(const Delivery& delivery) { done_.insert(delivery.stamp); }

 private:
    struct Seen {
        std::string stamp;
        std::int64_t since = 0;
    };
    bool settled(const std::string& file, std::int64_t now_ms, std::string& stamp);
    void look_at_mesh(const std::string& path, std::int64_t now_ms, std::vector<Delivery>& out);
    void look_at_photos(const std::string& folder, const std::vector<std::string>& files, std::int64_t now_ms,
                        std::vector<Delivery>& out);

    std::string folder_;
    std::int64_t quiet_ms_;
    std::map<std::string, Seen> seen_;
    std::set<std::string> done_;
};

}  // namespace veld
