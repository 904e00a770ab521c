#pragma once
// The bytes of data/face-network/*.onnx.
#include <string_view>

namespace veld {

std::string_view detector_network();
std::string_view mesh_network();
std::string_view iris_network();

}  // namespace veld
