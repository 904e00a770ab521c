#pragma once
// Base: the kit that the project works on. What it holds and can do, what people correct in it, kits made from base
// meshes, morphs brought from other bases. Corrections are changes of the document; the kit's folder has them when
// save() was asked for.
#include <QObject>

#include "app/session.h"
#include "app/views/camera.h"
#include "app/weight_brush.h"
#include "core/kit_making/carry_morphs.h"
#include "core/kit_making/check_kit.h"
#include "core/kit_making/make_kit.h"
#include "core/kit_making/reduced.h"

namespace veld {

class BaseController : public QObject {
    Q_OBJECT
 public:
    enum class Page { Kit, Parts, Landmarks, Regions, Joints, Expressions, Reduced, Bring, New };
    explicit BaseController(Session& session, QObject* parent = nullptr);

    void set_page(Page page);
    Page page() const { return page_; }

    // --- the kit
    const std::vector<KitAbility>& abilities();  // as it is now, with what was changed
    bool is_changed() const;                     // and not in its folder
    Status save();
    Status save_as(const QString& folder);

    void share(const QString& zip);                          // the kit's folder as one file
    void unpack(const QString& zip, const QString& folder);  // a kit that was shared; kit_made() when it is there
    // A made-up head fitted onto the kit; kept until the kit changes.
    void try_out();
    bool trying() const { return trying_ != 0; }
    const KitTrial* trial() const { return trial_of_ == s_.state().kit ? trial_.get() : nullptr; }

    // --- parts
    const std::string& part() const { return part_; }
    void select_part(const std::string& name);
    // The piece under a ray: what it is, when the kit is made again. False: nothing is there.
    bool select_piece(const Ray& ray);
    const VertexIndices& piece() const { return piece_; }
    void tell_piece(const std::string& part);
    void set_rule(const std::string& part, PartRule rule);
    std::size_t told() const { return told_.size(); }  // pieces that wait for the kit to be made again

    // --- landmarks: all of the base, those first that nobody has looked at
    std::vector<std::pair<std::string, double>> landmarks() const;  // name, how far it may be off in mm; 0: no doubt
    void drag(const std::string& name, const Ray& ray);
    void end_drag() { s_.document().seal(); }
    void is_right(const std::string& name);  // as it is
    void are_right_within(double mm);        // all whose doubt is smaller
    QString plain(const std::string& name) const;

    // --- regions; besides the kit's: the vertices without a partner, and the neck ring
    static constexpr const char* kUnpaired = " unpaired";
    static constexpr const char* kNeckRing = " neck ring";
    void select_region(const std::string& name);
    const std::string& region() const { return region_; }
    std::vector<float> region_weights() const;  // per vertex 0..1; empty: none is selected
    bool can_paint() const;
    void set_painting(bool on);
    bool painting() const { return painting_ && can_paint() && (page_ == Page::Regions || page_ == Page::Joints); }
    double radius_mm = 10;
    bool mirrored = true;
    void begin_stroke(const Ray& ray, Qt::KeyboardModifiers keys);
    void move_stroke(const Ray& ray);
    void end_stroke();

    // --- joints
    void select_joint(const std::string& name);
    const std::string& joint() const { return joint_; }
    std::vector<float> joint_weights() const;
    void set_role(const std::string& role, const std::string& name);  // of the file's joints; empty: nobody

    // The skin that tells where the joint is, shown instead of what follows it; painted by the strokes above.
    void show_tie(bool on);
    bool shows_tie() const { return shows_tie_; }
    bool tied_by_hand() const;
    void untie();  // as the skin weights say again; mirrored: on both sides

    void select_pose(const std::string& name);  // a rest pose of the kit; empty: none
    const std::string& pose() const { return pose_; }
    std::optional<Points> posed() const;  // the base in it

    // --- reduced versions
    void add_reduced(const QString& path);  // under the file's name
    void remove_reduced(const std::string& name);
    void select_reduced(const std::string& name);
    const std::string& reduced() const { return reduced_; }
    // As selected, read from its file; null: none, or it is not ready yet.
    std::shared_ptr<const ReducedMesh> shown_reduced() const {
        return reduced_of_ == s_.state().kit ? reduced_mesh_ : nullptr;
    }

    // --- expressions
    void select_expression(const std::string& name);
    const std::string& expression() const { return expression_; }

    // --- kits from meshes
    // Into that folder; where something is in it, into one beside it.
    void make(const KitRecipe& recipe, const QString& wanted);
    void make_again();  // from the kit's own file, with what was corrected
    bool making() const { return making_ != 0; }
    // What was said of the kit that was made last, one line each; empty: none was made since the program began.
    const QStringList& report() const { return report_; }
    const std::string& report_folder() const { return report_folder_; }

    // --- from another base
    void bring_project(const QString& path);
    void bring_files(const QString& kit, const QStringList& paths);
    bool bringing() const { return bringing_ != 0; }
    const std::shared_ptr<const CarriedBank>& brought() const { return brought_; }
    void show_brought(int at);  // -1: none
    const CarriedMorph* shown_brought() const;

 signals:
    void changed();  // what is looked at, not the document
    void page_changed();
    void kit_made(QString folder);

 private:
    void forget();
    bool paint(const Ray& ray);
    void read_reduced();
    std::vector<float> tie_shares() const;
    void tie_to_painted();
    bool change_kit(const QString& label, ProjectState&& next, const std::string& merge = {});
    void start_bringing(const QString& title, std::function<Result<CarriedBank>(const Progress&)> work);

    Session& s_;
    Page page_ = Page::Kit;
    std::vector<KitAbility> abilities_;
    std::shared_ptr<const BaseKit> abilities_of_;
    std::size_t abilities_at_ = 0;
    std::string part_, region_, joint_, pose_, reduced_, expression_, report_folder_;
    VertexIndices piece_;
    std::map<Index, std::string> told_;  // vertex of the base -> part
    bool painting_ = false, stroking_ = false, erasing_ = false, shows_tie_ = false;
    std::vector<float> painted_;
    WeightBrush brush_;
    QStringList report_;
    std::shared_ptr<const CarriedBank> brought_;
    int shown_brought_ = -1;
    std::shared_ptr<const ReducedMesh> reduced_mesh_;
    std::shared_ptr<const BaseKit> reduced_of_;
    std::shared_ptr<const KitTrial> trial_;
    std::shared_ptr<const BaseKit> trial_of_;
    JobId making_ = 0, bringing_ = 0, trying_ = 0;
};

// What is to be said of a kit that was made.
QStringList report_lines(const MadeKit& made);

}  // namespace veld
