#pragma once
// What is wrong in a proof put right: by itself, by brush, or by less of the shape; kept in the bank as a correction
// that the pose or expression brings in.
#include "app/stations/prove/prove_controller.h"
#include "app/views/camera.h"
#include "core/proof/mend.h"
#include "core/touchup/brush.h"

namespace veld {

class MendController : public QObject {
    Q_OBJECT
 public:
    MendController(Session& session, ProveController& prove, QObject* parent = nullptr);

    bool can_mend() const { return prove_.ready() && !mending(); }
    void mend(Mend what);  // in the background
    bool mending() const { return mending_ != 0; }
    // Less of the shape in that region of the kit: share 0..1 of its difference from the base goes.
    void reduce(const std::string& region, double share);
    const QString& said() const { return said_; }  // of the last one

    // --- by brush, in the proof as it is seen
    BrushSettings brush;
    void set_brush(Brush kind);
    void set_size(double mm);
    void set_brushing(bool on);
    bool brushing() const { return brushing_; }
    void begin_stroke(const Ray& ray, double pressure, Qt::KeyboardModifiers keys);
    void move_stroke(const Ray& ray, double pressure);
    void end_stroke();
    void drop_stroke();
    bool stroking() const { return stroke_.has_value(); }
    const Points& positions() const { return stroke_->now; }  // while a stroke runs

 signals:
    void changed();
    void stroked(const veld::VertexIndices& moved);

 private:
    struct Stroke {
        std::shared_ptr<const ProofBench> bench;
        ProofStop stop;
        BrushSettings used;
        Points start, now;
        std::vector<Touched> reached;
        TouchPlace place;
    };
    void touch(double pressure);
    void report();
    bool keep(const QString& label, const ProofBench& bench, const ProofStop& stop, const Points& ways);

    Session& s_;
    ProveController& prove_;
    JobId mending_ = 0;
    QString said_;
    bool brushing_ = false;
    std::shared_ptr<const BaseKit> kit_;
    std::shared_ptr<const TouchBase> touch_;
    std::optional<Stroke> stroke_;
};

}  // namespace veld
