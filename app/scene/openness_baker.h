#pragma once
// How open what is displayed lies, baked in the background when a shape rests. Until then a display keeps what it had.
#include <QObject>
#include <QTimer>
#include <functional>
#include <map>
#include <memory>
#include <vector>

#include "app/session.h"
#include "app/views/display_mesh.h"

namespace veld {

struct PreparedSource;

// What is baked of a shape. Empty openness: cancelled.
struct Baked {
    std::vector<float> open;  // per vertex of what the display shows
    GroundShadow ground;      // of a figure
};

class OpennessBaker : public QObject {
    Q_OBJECT
 public:
    explicit OpennessBaker(Session& session);

    // make: on a worker thread. At once, or when nothing was asked for this display for a moment (a slider, a live
    // fit).
    using Make = std::function<Baked(const Progress&)>;
    void ask(const std::shared_ptr<DisplayMesh>& display, bool at_rest, Make make);
    // Off: what is asked for waits until it is on again.
    void set_on(bool on);

 signals:
    void baked();

 private:
    struct Wanted {
        std::weak_ptr<DisplayMesh> display;
        Make make;
        JobId job = 0;  // that makes it; 0: it waits
    };
    void start();
    void run(const DisplayMesh* key);

    Session& s_;
    std::map<const DisplayMesh*, Wanted> wanted_;
    QTimer rest_;
    bool on_ = true;
};

// Of a source. mm: one millimetre in its own unit.
Baked bake_source(const PreparedSource& source, double mm, const Progress& progress);
// Of a shape of the base, per vertex of it.
Baked bake_base(const BaseKit& kit, const Points& positions, const Progress& progress);

}  // namespace veld
