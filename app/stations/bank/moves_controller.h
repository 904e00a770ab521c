#pragma once
// Where morphs take the joints: looked at on the mix, moved by hand, fixed to a morph.
#include <QObject>

#include "app/session.h"
#include "app/views/pane.h"

namespace veld {

class MovesController : public QObject {
    Q_OBJECT
 public:
    explicit MovesController(Session& session, QObject* parent = nullptr);

    bool has_joints() const;
    // --- the morph whose moves are shown; null: the bank is empty
    const BankEntry* entry() const;
    void choose(MorphId morph);
    double in_mix() const;  // how much of it the mix shows: 0 while it is muted, or another is heard alone
    Vec3 move(const std::string& joint) const;  // at amount 1, mm
    bool fixed(const std::string& joint) const;
    bool any_fixed() const;

    const std::string& selected() const { return selected_; }
    void select(const std::string& joint);
    bool alike() const { return alike_; }
    void set_alike(bool on) { alike_ = on; }

    // The joint's move is fixed: as it is given, or all as the shape tells them now.
    void set_move(const std::string& joint, const Vec3& mm, bool dragging);
    void fix_all();
    void release(const std::string& joint);  // told by the shape again
    void release_all();

    // --- in the views: the base's joints, and the mix's
    void add_marks(ViewId view, const Camera& camera, Marks& out) const;
    bool press(const std::string& marker);
    void drag(const Ray& ray);  // of the chosen morph, as far as its slider lets it be seen
    void end_drag() { s_.document().seal(); }

 signals:
    void changed();

 private:
    void edit(const QString& label, const std::function<void(Morph&)>& change, const std::string& merge = {});
    const std::vector<Joint>& mixed() const;

    Session& s_;
    std::optional<MorphId> chosen_;
    std::string selected_;
    bool alike_ = true;
    // kept while what they are made of is the same
    mutable std::shared_ptr<const Morph> moves_of_;
    mutable Points moves_;
    mutable std::optional<std::vector<Joint>> mixed_;
};

}  // namespace veld
