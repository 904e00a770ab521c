#pragma once
// A foreign head as a scanner or a sculptor would hand it over, with what is true of it.
#include "core/base/similarity.h"
#include "core/mesh/mesh.h"
#include "demo/standins/foreign/solid.h"

namespace veld::foreign {

enum class Device { Sculpt, Light, Photos, Laser };  // clean, ripples, fused folds, rows
enum class Cut { Bust, Neck, Forehead, FaceOnly, Half };
const char* device_name(Device device);
const char* cut_name(Cut cut);

struct ScanOptions {
    Device device = Device::Sculpt;
    Cut cut = Cut::Bust;
    double cell_mm = 1.0;                     // of the iso-surface
    std::size_t triangles = 0;                // simplified to about so many; 0: as it comes
    bool coloured = false, any_frame = true;  // any attitude and unit
};
// By seed, in the proportions that a studio might see.
ScanOptions scan_options(unsigned seed);

struct Scan {
    Mesh mesh;                           // in its own frame
    std::vector<Stuff> stuff;            // per vertex
    Similarity from_head;                // mm of the head -> mesh
    std::map<std::string, Vec3> points;  // truth, in the mesh's frame, of what the scan has
    std::map<std::string, Points> curves;
    std::map<std::string, bool> covered;  // by point: under hair, cloth or cut away
};
Scan make_scan(const Head& head, const ScanOptions& options);

}  // namespace veld::foreign
