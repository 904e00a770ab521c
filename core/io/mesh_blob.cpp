#include "core/io/mesh_blob.h"

#include <cstring>

namespace veld {
namespace {

constexpr std::uint32_t kBlobVersion = 2;  // 2: UDIM tiles

struct Writer {
    std::string out;
    void bytes(const void* data, std::size_t size) { out.append(static_cast<const char*>(data), size); }
    void number(std::uint64_t n) { bytes(&n, 8); }
    void text(const std::string& s) {
        number(s.size());
        bytes(s.data(), s.size());
    }
    template <class T>
    void array(const std::vector<T>& v) {
        number(v.size());
        if (!v.empty()) bytes(v.data(), v.size() * sizeof(T));
    }
};

struct Reader {
    std::string_view in;
    bool ok = true;
    bool bytes(void* data, std::size_t size) {
        if (!ok || size > in.size()) return ok = false;
        if (size) std::memcpy(data, in.data(), size);
        in.remove_prefix(size);
        return true;
    }
    std::uint64_t number() {
        std::uint64_t n = 0;
        bytes(&n, 8);
        return n;
    }
    std::string text() {
        const std::uint64_t n = number();
        if (!ok || n > in.size()) return ok = false, "";
        std::string s(in.substr(0, n));
        in.remove_prefix(n);
        return s;
    }
    template <class T>
    void array(std::vector<T>& v) {
        const std::uint64_t n = number();
        if (!ok || n > in.size() / sizeof(T)) {
            ok = false;
            return;
        }
        v.resize(n);
        bytes(v.data(), n * sizeof(T));
    }
};

}  // namespace

std::string mesh_to_blob(const Mesh& m) {
    Writer w;
    w.bytes(&kBlobVersion, 4);
    w.array(m.positions), w.array(m.face_start), w.array(m.corner_vertex);
    w.array(m.uvs), w.array(m.corner_uv), w.array(m.normals), w.array(m.corner_normal), w.array(m.colours);
    w.array(m.face_group), w.array(m.face_material);
    w.number(m.group_names.size());
    for (const auto& name : m.group_names) w.text(name);
    w.number(m.material_libraries.size());
    for (const auto& name : m.material_libraries) w.text(name);
    w.number(m.materials.size());
    for (const Material& a : m.materials) {
        w.text(a.name), w.text(a.image_path);
        w.bytes(a.colour.data(), 24);
        w.number(static_cast<std::uint64_t>(a.image + 1));
        w.number(a.tiles.size());
        for (const auto& [tile, image] : a.tiles)
            w.number(static_cast<std::uint64_t>(tile)), w.number(static_cast<std::uint64_t>(image));
    }
    w.number(m.images.size());
    for (const Image& i : m.images) w.text(i.name), w.text(i.mime), w.array(i.bytes);
    return std::move(w.out);
}

Result<Mesh> mesh_from_blob(std::string_view bytes) {
    Reader r{bytes};
    Mesh m;
    std::uint32_t version = 0;
    r.bytes(&version, 4);
    r.array(m.positions), r.array(m.face_start), r.array(m.corner_vertex);
    r.array(m.uvs), r.array(m.corner_uv), r.array(m.normals), r.array(m.corner_normal), r.array(m.colours);
    r.array(m.face_group), r.array(m.face_material);
    for (std::uint64_t n = r.number(); r.ok && n > 0; --n) m.group_names.push_back(r.text());
    for (std::uint64_t n = r.number(); r.ok && n > 0; --n) m.material_libraries.push_back(r.text());
    for (std::uint64_t n = r.number(); r.ok && n > 0; --n) {
        Material a;
        a.name = r.text(), a.image_path = r.text();
        r.bytes(a.colour.data(), 24);
        a.image = static_cast<int>(r.number()) - 1;
        for (std::uint64_t t = version >= 2 ? r.number() : 0; r.ok && t > 0; --t) {
            const int tile = static_cast<int>(r.number());
            a.tiles.emplace_back(tile, static_cast<int>(r.number()));
        }
        m.materials.push_back(a);
    }
    for (std::uint64_t n = r.number(); r.ok && n > 0; --n) {
        Image i;
        i.name = r.text(), i.mime = r.text();
        r.array(i.bytes);
        m.images.push_back(std::move(i));
    }
    if (!r.ok || version < 1 || version > kBlobVersion || m.face_start.empty())
        return Error{ErrorCode::BadFile, "a stored mesh is damaged."};
    for (const Material& a : m.materials) {
        bool known = a.image >= -1 && a.image < static_cast<int>(m.images.size());
        for (const auto& [tile, image] : a.tiles)
            known = known && image >= 0 && image < static_cast<int>(m.images.size());
        if (!known) return Error{ErrorCode::BadFile, "a stored mesh is damaged."};
    }
    if (auto ok = check_mesh(m, "a stored mesh"); !ok) return ok.error();
    return m;
}

}  // namespace veld
