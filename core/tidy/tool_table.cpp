#include "core/tidy/tools.h"

namespace veld {

const std::vector<ToolInfo>& tool_table() {
    constexpr double kFar = 1e6;
    const auto place = [](const char* name, const char* label) { return ToolParameter{name, label, " mm", 0, -kFar, kFar, 2, "", nullptr}; };
    static const std::vector<ToolInfo> table = {
        {Tool::Straighten, "straighten", "Straighten", "Recognises the head or figure and puts it upright, facing front.", NeedsSelection::No, {}},
        {Tool::FacePoints, "face_points", "By eyes and nose", "Upright by three picked points: right eye, left eye, nose tip.", NeedsSelection::No,
         {place("rx", "right eye x"), place("ry", "right eye y"), place("rz", "right eye z"), place("lx", "left eye x"), place("ly", "left eye y"), place("lz", "left eye z"), place("nx", "nose x"), place("ny", "nose y"), place("nz", "nose z")}},
        {Tool::FloorPoints, "floor_points", "By the floor", "Level by two picked points of the floor.", NeedsSelection::No,
         {place("ax", "first x"), place("ay", "first y"), place("az", "first z"), place("bx", "second x"), place("by", "second y"), place("bz", "second z")}},
        {Tool::Turn, "turn", "Turn", "Turns the source about its middle.", NeedsSelection::No,
         {{"x", "nod", "°", 0, -360, 360, 1, "About the axis through the ears", nullptr}, {"y", "turn", "°", 0, -360, 360, 1, "About the upright axis", nullptr}, {"z", "tilt", "°", 0, -360, 360, 1, "About the axis of view from the front", nullptr}}},
        {Tool::Move, "move", "Move", "Moves the source.", NeedsSelection::No, {place("x", "to its left"), place("y", "up"), place("z", "forward")}},
        {Tool::Floor, "floor", "Set on the floor", "Lowest point to the floor, middle over the origin.", NeedsSelection::No, {}},
        {Tool::Mend, "mend", "Mend the usual", "Safe repairs in one step: seam vertices joined (UVs stay), broken and repeated faces out, edges with many faces cut apart, shells turned outward.", NeedsSelection::No, {}},
        {Tool::Weld, "weld", "Weld", "Joins vertices that lie close together; texture seams stay.", NeedsSelection::No, {{"distance", "within", " mm", 0.05, 0, 50, 3, "Vertices nearer than this become one", nullptr}}},
        {Tool::Pieces, "pieces", "Loose pieces", "Takes out what is not joined to the subject.", NeedsSelection::No,
         {{"keep", "keep", "", 1, 0, 1, 0, "", "only the largest|all but small ones"}, {"share", "smaller than", " %", 2, 0, 100, 2, "Of the largest piece's area", nullptr}, {"size", "or shorter than", " mm", 0, 0, 5000, 1, "Longest side of the piece", nullptr}}},
        {Tool::Cut, "cut", "Cut by a plane", "What lies in front of the plane stays.", NeedsSelection::No,
         {place("x", "x"), place("y", "y"), place("z", "z"), {"nx", "keeps x", "", 0, -1, 1, 3, "", nullptr}, {"ny", "keeps y", "", 1, -1, 1, 3, "", nullptr}, {"nz", "keeps z", "", 0, -1, 1, 3, "", nullptr}}},
        {Tool::Delete, "delete", "Delete the selection", "Takes the chosen faces out.", NeedsSelection::Yes, {}},
        {Tool::Spikes, "spikes", "Remove spikes", "Puts points back that stand out alone.", NeedsSelection::Optional, {{"factor", "stands out", " times", 8, 2, 100, 1, "Times the usual unevenness", nullptr}}},
        {Tool::Fill, "fill", "Fill holes", "Closes holes up to a size; with a selection, only those that touch it.", NeedsSelection::Optional,
         {{"largest", "up to", " mm", 60, 0, 5000, 1, "Diagonal of the largest hole to fill", nullptr}, {"form", "form", "", 0, 0, 1, 0, "", "continues the curvature|flat"}}},
        {Tool::Smooth, "smooth", "Smooth", "Evens out noise and keeps the volume; the whole or a selection.", NeedsSelection::Optional,
         {{"rounds", "rounds", "", 10, 1, 500, 0, "", nullptr}, {"strength", "strength", " %", 100, 0, 100, 0, "", nullptr}}},
        {Tool::Flatten, "flatten", "Flatten bumps", "Lays the chosen area on the smoothest surface that its rim holds: beard, curls, buttons.", NeedsSelection::Yes, {{"strength", "strength", " %", 100, 0, 100, 0, "", nullptr}}},
        {Tool::Reduce, "reduce", "Reduce", "Fewer triangles; form, seams and textures stay.", NeedsSelection::No, {{"triangles", "to", " triangles", 200000, 4, 50000000, 0, "", nullptr}}},
        {Tool::Remesh, "remesh", "Remesh", "Even triangles of one size; the texture is taken over.", NeedsSelection::No, {{"edge", "edge length", " mm", 2, 0.05, 100, 2, "", nullptr}}},
        {Tool::Flip, "flip", "Flip", "Turns faces around, all or the chosen ones.", NeedsSelection::Optional, {}},
        {Tool::Outward, "outward", "Turn outward", "Shells that are inside out are turned back.", NeedsSelection::No, {}},
        {Tool::Normals, "normals", "Recompute normals", "Smooth normals for whatever reads the mesh next.", NeedsSelection::No, {}},
        {Tool::Ignore, "ignore", "Ignore", "The fit never goes to ignored areas: hair, glasses, collar, stand.", NeedsSelection::Yes, {{"match", "selection", "", 0, 0, 1, 0, "", "is ignored|is matched again"}}},
    };
    return table;
}

}  // namespace veld
