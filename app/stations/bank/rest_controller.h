#pragma once
// A pose that is still in a shape: found, turned by hand, looked at in stock poses, and taken out for good. What it is
// so far is the document's (ProjectState::rest_work): each turn can be undone.
#include <QObject>

#include "app/stations/bank/bank_controller.h"
#include "core/fit/find_pose.h"
#include "core/rig/stock_poses.h"

namespace veld {

class RestController : public QObject {
    Q_OBJECT
 public:
    RestController(Session& session, BankController& bank, QObject* parent = nullptr);

    using From = BankController::From;
    From from() const { return from_; }
    void set_from(From from);
    bool can_pose() const;  // there is a shape, and the kit has joints

    // --- the pose that is to go
    void find();   // in the background
    void clear();  // none again
    // Both arms as in "A" or "T" of the base: what stands so is at rest afterwards.
    void set_arms(const std::string& pose);
    const Pose& pose() const { return pose_; }
    // As found by the program, in the shape that is asked for; null: nobody did, or hands are at work.
    const RestWork* found() const { return found_.get(); }
    bool any_turn() const;
    int joint() const { return joint_; }
    void select(int joint);
    void select_under(const Ray& ray);  // of the view that shows the shape at rest
    // The joint's turn as degrees about the base's X, Y and Z, in that order.
    Vec3 degrees(int joint) const;
    void turn(int joint, const Vec3& degrees);  // of the other side too, mirrored, while alike() is on
    void end_turn() { s_.document().seal(); }   // what is turned next is a step of its own
    bool alike() const { return alike_; }
    void set_alike(bool on) { alike_ = on; }

    // --- what is looked at: the shape at rest, and that in stock poses
    static constexpr std::size_t kViews = 3;
    const std::vector<StockPose>& stock() const { return stock_; }
    // -1: at rest; -2: as it stands; else of stock()
    int view(std::size_t which) const { return views_[which]; }
    void set_view(std::size_t which, int pose);
    const Points& shape(std::size_t view);

    // The shape at rest as a morph.
    void use_as_rest(const QString& name);

 signals:
    void changed();

 private:
    void refresh();
    void take_work();
    void put(const QString& label, RestWork work, const std::string& merge = {});
    RestWork now() const;  // what turns begin with
    const Points& rest();

    Session& s_;
    BankController& bank_;
    From from_ = From::Mix;
    Pose pose_;
    std::shared_ptr<const RestWork> found_;
    int joint_ = -1;
    bool alike_ = true;
    std::shared_ptr<const BaseKit> kit_;  // whose pose it is
    std::vector<StockPose> stock_;
    std::array<int, kViews> views_{-1, 2, 3};
    std::optional<Points> as_it_stands_, rest_;
    std::array<std::optional<Points>, kViews> shapes_;
};

}  // namespace veld
