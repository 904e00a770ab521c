#include "core/detect/network_data.h"

// The assembler puts the files into the library as they are: nothing to find at run time.
#define VELD_INCLUDE_FILE(symbol, path)                                              \
    asm(".section .rodata\n.balign 16\n" #symbol ":\n.incbin \"" path "\"\n" #symbol \
        "_end:\n"                                                                    \
        ".byte 0\n.previous\n");                                                     \
    extern "C" const char symbol[], symbol##_end[];

VELD_INCLUDE_FILE(veldstone_network_detector, VELDSTONE_NETWORKS "/detector.onnx")
VELD_INCLUDE_FILE(veldstone_network_mesh, VELDSTONE_NETWORKS "/mesh.onnx")
VELD_INCLUDE_FILE(veldstone_network_iris, VELDSTONE_NETWORKS "/iris.onnx")

namespace veld {

std::string_view detector_network() {
    return {veldstone_network_detector,
            static_cast<std::size_t>(veldstone_network_detector_end - veldstone_network_detector)};
}
std::string_view mesh_network() {
    return {veldstone_network_mesh, static_cast<std::size_t>(veldstone_network_mesh_end - veldstone_network_mesh)};
}
std::string_view iris_network() {
    return {veldstone_network_iris, static_cast<std::size_t>(veldstone_network_iris_end - veldstone_network_iris)};
}

}  // namespace veld
