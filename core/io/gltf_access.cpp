#include "core/io/gltf_access.h"

namespace veld {

std::optional<AccessorView> GltfAccess::view(int accessor) const {
    if (accessor < 0 || accessor >= static_cast<int>(model_.accessors.size())) return std::nullopt;
    const tinygltf::Accessor& a = model_.accessors[static_cast<std::size_t>(accessor)];
    if (a.sparse.isSparse) return std::nullopt;
    auto out = range(a.bufferView, a.byteOffset, a.count, a.componentType, a.type);
    if (out) out->normalized = a.normalized;
    return out;
}

std::optional<AccessorView> GltfAccess::range(int buffer_view, std::size_t offset, std::size_t count, int component,
                                              int type) const {
    if (buffer_view < 0 || buffer_view >= static_cast<int>(model_.bufferViews.size())) return std::nullopt;
    const tinygltf::BufferView& bv = model_.bufferViews[static_cast<std::size_t>(buffer_view)];
    if (bv.buffer < 0 || bv.buffer >= static_cast<int>(model_.buffers.size())) return std::nullopt;
    const auto& data = model_.buffers[static_cast<std::size_t>(bv.buffer)].data;
    const int component_size = tinygltf::GetComponentSizeInBytes(static_cast<std::uint32_t>(component));
    const int width = tinygltf::GetNumComponentsInType(static_cast<std::uint32_t>(type));
    if (component_size <= 0 || width <= 0) return std::nullopt;
    AccessorView out;
    const std::size_t element = static_cast<std::size_t>(component_size) * static_cast<std::size_t>(width);
    out.stride = bv.byteStride ? bv.byteStride : element;
    out.count = count;
    out.component = component;
    out.width = width;
    out.type = type;
    const std::size_t begin = bv.byteOffset + offset;
    if (bv.byteOffset > data.size() || offset > data.size() || begin > data.size()) return std::nullopt;
    if (out.count > 0 && (out.count - 1 > (data.size() - begin) / std::max<std::size_t>(out.stride, 1) ||
                          (out.count - 1) * out.stride + element > data.size() - begin)) {
        return std::nullopt;
    }
    out.data = data.data() + begin;
    return out;
}

bool GltfAccess::add_sparse(const tinygltf::Accessor& a, Points& out) const {
    if (a.sparse.count < 0) return false;
    const auto count = static_cast<std::size_t>(a.sparse.count);
    const auto which = range(a.sparse.indices.bufferView, static_cast<std::size_t>(a.sparse.indices.byteOffset), count,
                             a.sparse.indices.componentType, TINYGLTF_TYPE_SCALAR);
    const auto values = range(a.sparse.values.bufferView, static_cast<std::size_t>(a.sparse.values.byteOffset), count,
                              a.componentType, a.type);
    if (!which || !which->is_index() || !values || !values->is_vector(3)) return false;
    for (std::size_t i = 0; i < count; ++i) {
        const double at = which->value(i, 0);
        if (!(at >= 0 && at < static_cast<double>(out.size()))) return false;
        for (int k = 0; k < 3; ++k) out[static_cast<std::size_t>(at)][k] = values->value(i, k);
    }
    return true;
}

bool GltfAccess::vectors(int accessor, Points& out) const {
    if (accessor < 0 || accessor >= static_cast<int>(model_.accessors.size())) return false;
    const tinygltf::Accessor& a = model_.accessors[static_cast<std::size_t>(accessor)];
    if (a.count != out.size() || a.type != TINYGLTF_TYPE_VEC3) return false;
    std::fill(out.begin(), out.end(), Vec3::Zero());
    if (a.bufferView >= 0) {
        const auto dense = range(a.bufferView, a.byteOffset, a.count, a.componentType, a.type);
        if (!dense) return false;
        for (std::size_t i = 0; i < out.size(); ++i)
            out[i] = Vec3(dense->value(i, 0), dense->value(i, 1), dense->value(i, 2));
    }
    return !a.sparse.isSparse || add_sparse(a, out);
}

Eigen::Affine3d node_transform(const tinygltf::Node& n) {
    Eigen::Affine3d out = Eigen::Affine3d::Identity();
    if (n.matrix.size() == 16) {
        out.matrix() = Eigen::Map<const Eigen::Matrix4d>(n.matrix.data());
        return out;
    }
    if (n.translation.size() == 3) out.translate(Vec3(n.translation[0], n.translation[1], n.translation[2]));
    if (n.rotation.size() == 4) {
        out.rotate(Eigen::Quaterniond(n.rotation[3], n.rotation[0], n.rotation[1], n.rotation[2]).normalized());
    }
    if (n.scale.size() == 3) out.scale(Vec3(n.scale[0], n.scale[1], n.scale[2]));
    return out;
}

}  // namespace veld
