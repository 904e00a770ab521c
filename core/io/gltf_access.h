#pragma once
// What glTF's accessors hold, checked against the buffers they lie in; for the readers in this folder only.
#include <cstring>
#include <limits>
#include <optional>

#include "core/base/types.h"

#define TINYGLTF_NO_STB_IMAGE
#define TINYGLTF_NO_STB_IMAGE_WRITE
#pragma GCC diagnostic push
#pragma GCC diagnostic ignored "-Wall"
#pragma GCC diagnostic ignored "-Wextra"
#include <tiny_gltf.h>
#pragma GCC diagnostic pop

namespace veld {

// A view into an accessor whose every element lies inside its buffer.
struct AccessorView {
    const unsigned char* data = nullptr;
    std::size_t stride = 0, count = 0;
    int component = 0, width = 0, type = 0;
    bool normalized = false;

    // vectors of so many numbers; a matrix of as many is none
    bool is_vector(int wanted) const {
        return width == wanted && (type == TINYGLTF_TYPE_SCALAR || type == TINYGLTF_TYPE_VEC2 ||
                                   type == TINYGLTF_TYPE_VEC3 || type == TINYGLTF_TYPE_VEC4);
    }
    bool is_index() const {
        return is_vector(1) && (component == TINYGLTF_COMPONENT_TYPE_UNSIGNED_BYTE ||
                                component == TINYGLTF_COMPONENT_TYPE_UNSIGNED_SHORT ||
                                component == TINYGLTF_COMPONENT_TYPE_UNSIGNED_INT);
    }

    double value(std::size_t i, int k) const {
        const unsigned char* p = data + i * stride;
        const auto as = [&]<class T>(T) {
            T v;
            std::memcpy(&v, p + sizeof(T) * static_cast<std::size_t>(k), sizeof(T));
            const double scale = normalized ? static_cast<double>(std::numeric_limits<T>::max()) : 1.0;
            return static_cast<double>(v) / scale;
        };
        switch (component) {
            case TINYGLTF_COMPONENT_TYPE_BYTE:
                return as(std::int8_t{});
            case TINYGLTF_COMPONENT_TYPE_UNSIGNED_BYTE:
                return as(std::uint8_t{});
            case TINYGLTF_COMPONENT_TYPE_SHORT:
                return as(std::int16_t{});
            case TINYGLTF_COMPONENT_TYPE_UNSIGNED_SHORT:
                return as(std::uint16_t{});
            case TINYGLTF_COMPONENT_TYPE_UNSIGNED_INT:
                return as(std::uint32_t{});
            case TINYGLTF_COMPONENT_TYPE_FLOAT: {
                float v;
                std::memcpy(&v, p + 4 * static_cast<std::size_t>(k), 4);
                return v;
            }
            default:
                return 0;
        }
    }
};

class GltfAccess {
 public:
    explicit GltfAccess(const tinygltf::Model& model) : model_(model) {}

    // None: out of range, sparse, or not all of it is there.
    std::optional<AccessorView> view(int accessor) const;
    // count elements of a buffer view, all of them inside its buffer.
    std::optional<AccessorView> range(int buffer_view, std::size_t offset, std::size_t count, int component,
                                      int type) const;
    // Three numbers each, dense or sparse; false: they are not `out.size()`, or not all there.
    bool vectors(int accessor, Points& out) const;

 private:
    bool add_sparse(const tinygltf::Accessor& a, Points& out) const;
    const tinygltf::Model& model_;
};

// Of a node against its parent.
Eigen::Affine3d node_transform(const tinygltf::Node& node);

}  // namespace veld
