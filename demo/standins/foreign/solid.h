#pragma once
// The head of a Form as an implicit solid, with what covers it, and where its landmarks truly are.
#include <map>
#include <string>

#include "demo/standins/foreign/form.h"
#include "demo/standins/foreign/sdf.h"

namespace veld::foreign {

enum class Stuff : std::uint8_t { Skin, Eye, Teeth, Tongue, Hair, Cloth, Hard };  // Hard: glasses, helmet, horns

class Ear {
 public:
    Ear(const EarForm& form, double side_x);
    double distance(const Vec3& p) const;  // p on the left side
    void hollow(const Vec3& p, double& d) const;
    Vec3 place(double back, double up, double out = 0) const;  // in shares of its length, mm outwards
    std::map<std::string, Vec3> points() const;
    Points rim() const;  // outer edge, from its root above the tragus to the lobe
    Points antihelix() const { return fold_.points; }
    double reach() const { return 0.8 * form_.length; }
    Vec3 middle() const { return place(0.28, 0); }

 private:
    EarForm form_;
    Vec3 origin_, back_, up_, out_;
    Rod helix_, fold_, crus_;
    Points lobe_;     // its edge
    Points outline_;  // flat, in mm of the ear's plane
};

class Head {
 public:
    explicit Head(const Form& form);
    double skin(const Vec3& p) const;   // with eyes, teeth and tongue
    double cover(const Vec3& p) const;  // 1e3 where nothing covers
    double all(const Vec3& p) const { return std::min(skin(p), cover(p)); }
    Stuff stuff_at(const Vec3& p) const;
    std::array<double, 3> colour_at(const Vec3& p) const;  // 0..255
    const Form& form() const { return form_; }

    // Landmarks and curves on the skin by the scheme's names; of the kinds that this head defines sharply.
    std::map<std::string, Vec3> points() const;
    std::map<std::string, Points> curves() const;
    // The nearest place of the skin, by following the distance.
    Vec3 onto_skin(Vec3 p, const Vec3& along = Vec3::Zero()) const;
    bool covered(const Vec3& on_skin) const { return cover(on_skin) < -0.3; }

 private:
    Vec3 wobbled(const Vec3& p) const;
    Vec3 unwobbled(const Vec3& p) const;
    double face(const Vec3& m) const;
    double nose(const Vec3& m) const;
    void lips(const Vec3& m, double& d) const;
    void openings(const Vec3& m, double& d) const;
    double inside(const Vec3& m) const;  // eyeballs, teeth, tongue
    double lid_edge(double x, bool upper) const;
    double lip_gap(double x, bool upper) const;
    Vec3 lip_place(double x, bool upper, double border) const;
    Vec3 jaw(const Vec3& p, double share = 1) const;  // turned with the open jaw
    double hair(const Vec3& p, const Vec3& m) const;
    double worn(const Vec3& p, const Vec3& m) const;
    std::map<std::string, Vec3> profile() const;
    void add_eyes(std::map<std::string, Vec3>& out) const;
    double front(double y, double x = 0) const;  // z of the skin there
    Vec3 in_slit(const Vec3& bottom) const;
    Vec3 under_wing(const Vec3& from) const;

    Form form_;
    Ear ear_;
    Vec3 eye_;
    Rod upper_lip_, lower_lip_, upper_edge_, lower_edge_, brow_;
    double corner_x_ = 25, corner_y_ = -69, corner_z_ = 90;
};

}  // namespace veld::foreign
