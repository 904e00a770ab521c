#pragma once
// Mark: what clicks, drags and keys on landmarks do to the document.
#include <QObject>

#include "app/session.h"
#include "app/viewport/camera.h"

namespace veld {

class MarkController : public QObject {
    Q_OBJECT
   public:
    explicit MarkController(Session& session, QObject* parent = nullptr) : QObject(parent), s_(session) {}

    // The order in which points are asked for: ten that make a good start, then the core, then the rest.
    const std::vector<std::string>& order() const;
    std::vector<std::string> known_points() const;   // order() plus the project's own points

    void click_source(const Ray& ray);               // sets the selected point, then asks for the next
    void click_base(const Ray& ray);                 // a new point of the project's own
    void drag_source(const std::string& name, const Ray& ray);
    void drag_base(const std::string& name, const Ray& ray);
    void end_drag() { s_.document().seal(); }
    void select_next(int step);                      // along known_points()
    void select_next_missing();
    void erase_selected();
    void mirror_selected();
    void mirror_all_missing();
    void swap_sides();
    Status read(const QString& path);
    Status write(const QString& path) const;

    // Residual of each marked point after placing by all of them, mm; empty below three points.
    std::map<std::string, double> residuals() const;
    QString plain(const std::string& name) const;

   private:
    bool source_hit(const Ray& ray, Vec3& out) const;
    void set_point(const std::string& name, const Vec3& p, const QString& label, const std::string& merge);

    Session& s_;
};

}  // namespace veld
