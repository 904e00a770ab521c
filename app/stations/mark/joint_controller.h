#pragma once
// Joints of a figure on its source: shown, dragged, and found again from where a hand left one.
#include <QObject>

#include "app/session.h"
#include "app/views/camera.h"
#include "app/views/pane.h"

namespace veld {

class JointController : public QObject {
    Q_OBJECT
 public:
    explicit JointController(Session& session, QObject* parent = nullptr);

    bool known() const;  // the source has joints
    bool shown() const { return shown_ && known(); }
    bool wanted() const { return shown_; }
    void show(bool on);
    bool can_find() const;  // there is a figure's face on the source, and the kit has joints
    void find_anew();       // all of them, also those that were placed by hand

    // Markers and bones in the source's view; fingers only where they are seen large enough.
    void add_marks(const Camera& camera, Marks& out) const;
    // Whether the marker is a joint's; it is selected then.
    bool press(const std::string& marker);
    void drag(const Ray& ray);  // the pressed one, at the depth where it is
    void release();             // the others follow, in the background
    void deselect();
    const std::string& selected() const { return selected_; }
    bool by_hand(const std::string& joint) const;
    void give_back();  // the selected one is looked for again

 signals:
    void changed();

 private:
    const Source* source() const { return s_.state().source(); }

    Session& s_;
    bool shown_ = true, dragged_ = false;
    std::string selected_;
};

}  // namespace veld
