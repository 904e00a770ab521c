#include "core/io/ply.h"

#include <algorithm>
#include <bit>
#include <cmath>
#include <cstring>
#include <sstream>

#include "core/base/file.h"
#include "core/io/text_scan.h"

namespace veld {
namespace {

enum class Type { I8, U8, I16, U16, I32, U32, F32, F64 };

struct Property {
    std::string name;
    Type type = Type::F32;
    bool is_list = false;
    Type count_type = Type::U8;
};

struct Element {
    std::string name;
    std::uint64_t count = 0;
    std::vector<Property> properties;
};

struct Header {
    PlyEncoding encoding = PlyEncoding::Ascii;
    std::vector<Element> elements;
    std::size_t size = 0;
};

std::size_t size_of(Type t) {
    constexpr std::size_t sizes[] = {1, 1, 2, 2, 4, 4, 4, 8};
    return sizes[static_cast<int>(t)];
}

bool type_from(const std::string& name, Type& out) {
    static constexpr std::pair<const char*, Type> names[] = {
        {"char", Type::I8},   {"int8", Type::I8},     {"uchar", Type::U8},   {"uint8", Type::U8},
        {"short", Type::I16}, {"int16", Type::I16},   {"ushort", Type::U16}, {"uint16", Type::U16},
        {"int", Type::I32},   {"int32", Type::I32},   {"uint", Type::U32},   {"uint32", Type::U32},
        {"float", Type::F32}, {"float32", Type::F32}, {"double", Type::F64}, {"float64", Type::F64}};
    for (const auto& [n, t] : names) {
        if (name == n) {
            out = t;
            return true;
        }
    }
    return false;
}

template <class T>
T load(const char* p, bool swap) {
    std::array<char, sizeof(T)> raw;
    std::memcpy(raw.data(), p, sizeof(T));
    if (swap) std::reverse(raw.begin(), raw.end());
    return std::bit_cast<T>(raw);
}

double load_as_double(const char* p, Type t, bool swap) {
    switch (t) {
        case Type::I8:
            return load<std::int8_t>(p, swap);
        case Type::U8:
            return load<std::uint8_t>(p, swap);
        case Type::I16:
            return load<std::int16_t>(p, swap);
        case Type::U16:
            return load<std::uint16_t>(p, swap);
        case Type::I32:
            return load<std::int32_t>(p, swap);
        case Type::U32:
            return load<std::uint32_t>(p, swap);
        case Type::F32:
            return load<float>(p, swap);
        case Type::F64:
            return load<double>(p, swap);
    }
    return 0;
}

Error bad_ply(const std::string& path, const std::string& why) {
    return {ErrorCode::BadFile, "'" + path + "': " + why};
}

Result<Header> parse_header(std::string_view bytes, const std::string& path) {
    Header header;
    std::size_t at = 0;
    int line_count = 0;
    bool format_seen = false;
    for (;;) {
        const std::size_t stop = bytes.find('\n', at);
        if (stop == std::string_view::npos || stop - at > 4096 || ++line_count > 1000) {
            return bad_ply(path, "the PLY header does not end. The file is damaged or cut short.");
        }
        std::istringstream words{std::string(bytes.substr(at, stop - at))};
        at = stop + 1;
        const std::string place = "header line " + std::to_string(line_count) + ": ";
        std::string key;
        words >> key;
        if (line_count == 1) {
            if (key != "ply") return bad_ply(path, "does not begin with 'ply', so it is not a PLY file.");
            continue;
        }
        if (key == "end_header") break;
        if (key == "format") {
            std::string kind;
            words >> kind;
            format_seen = true;
            if (kind == "ascii")
                header.encoding = PlyEncoding::Ascii;
            else if (kind == "binary_little_endian")
                header.encoding = PlyEncoding::LittleEndian;
            else if (kind == "binary_big_endian")
                header.encoding = PlyEncoding::BigEndian;
            else
                return bad_ply(path, place + "unknown encoding '" + kind + "'.");
        } else if (key == "element") {
            Element e;
            if (!(words >> e.name >> e.count)) return bad_ply(path, place + "an element without a count.");
            header.elements.push_back(e);
        } else if (key == "property") {
            if (header.elements.empty()) return bad_ply(path, place + "a property before any element.");
            Property p;
            std::string type, count_type;
            words >> type;
            if (type == "list") {
                p.is_list = true;
                words >> count_type >> type;
                if (!type_from(count_type, p.count_type))
                    return bad_ply(path, place + "unknown type '" + count_type + "'.");
            }
            if (!type_from(type, p.type) || !(words >> p.name))
                return bad_ply(path, place + "unknown property '" + type + "'.");
            header.elements.back().properties.push_back(p);
        }
    }
    if (!format_seen) return bad_ply(path, "the PLY header names no encoding.");
    header.size = at;
    return header;
}

// One reader for the two encodings: next() gives the next number of the given type.
class BodyReader {
 public:
    BodyReader(std::string_view bytes, const Header& header)
        : p_(bytes.data() + header.size),
          end_(bytes.data() + bytes.size()),
          ascii_(header.encoding == PlyEncoding::Ascii),
          swap_(header.encoding == PlyEncoding::BigEndian) {}

    bool next(Type t, double& out) {
        if (!ascii_) {
            if (static_cast<std::size_t>(end_ - p_) < size_of(t)) return false;
            out = load_as_double(p_, t, swap_);
            p_ += size_of(t);
            return true;
        }
        while (p_ < end_ && (is_space(*p_) || *p_ == '\n')) ++p_;
        return scan_double(p_, end_, out);
    }
    std::size_t left() const { return static_cast<std::size_t>(end_ - p_); }
    const char* here() const { return p_; }
    void advance(std::size_t n) { p_ += n; }
    bool ascii() const { return ascii_; }
    bool swap() const { return swap_; }

 private:
    const char* p_;
    const char* end_;
    bool ascii_, swap_;
};

struct VertexLayout {
    std::array<int, 3> position{-1, -1, -1};
    std::array<int, 4> colour{-1, -1, -1, -1};
    bool has_list = false;
    std::size_t stride = 0;
    std::vector<std::size_t> offsets;
};

VertexLayout vertex_layout(const Element& e) {
    VertexLayout layout;
    static constexpr const char* xyz[] = {"x", "y", "z"};
    static constexpr const char* rgba[] = {"red", "green", "blue", "alpha"};
    for (int i = 0; i < static_cast<int>(e.properties.size()); ++i) {
        const Property& p = e.properties[i];
        layout.has_list |= p.is_list;
        layout.offsets.push_back(layout.stride);
        layout.stride += size_of(p.type);
        for (int k = 0; k < 3; ++k) {
            if (p.name == xyz[k]) layout.position[k] = i;
        }
        for (int k = 0; k < 4; ++k) {
            if (p.name == rgba[k]) layout.colour[k] = i;
        }
    }
    return layout;
}

std::uint8_t colour_byte(double value, Type t) {
    if (t == Type::F32 || t == Type::F64) value *= 255.0;
    return std::isfinite(value) ? static_cast<std::uint8_t>(std::clamp(value, 0.0, 255.0)) : 255;
}

template <bool Swap>
void append_float_rows(const char* row, std::size_t stride, const std::array<std::size_t, 3>& at, std::uint64_t count,
                       Points& out) {
    // reserve and append: resize would write every byte twice
    out.reserve(count);
    prefer_large_pages(out.data(), count * sizeof(Vec3));
    for (std::uint64_t v = 0; v < count; ++v, row += stride) {
        out.emplace_back(load<float>(row + at[0], Swap), load<float>(row + at[1], Swap),
                         load<float>(row + at[2], Swap));
    }
}

// Fixed rows with float positions and byte colours: what scanners write, read at memory speed.
bool read_vertices_fast(const Element& e, const VertexLayout& layout, BodyReader& body, Mesh& mesh) {
    for (int k : layout.position) {
        if (e.properties[k].type != Type::F32) return false;
    }
    const bool colours = layout.colour[0] >= 0 && layout.colour[1] >= 0 && layout.colour[2] >= 0;
    if (colours) {
        for (int k = 0; k < 3; ++k) {
            if (e.properties[layout.colour[k]].type != Type::U8) return false;
        }
    }
    const std::array<std::size_t, 3> at{layout.offsets[layout.position[0]], layout.offsets[layout.position[1]],
                                        layout.offsets[layout.position[2]]};
    if (body.swap())
        append_float_rows<true>(body.here(), layout.stride, at, e.count, mesh.positions);
    else
        append_float_rows<false>(body.here(), layout.stride, at, e.count, mesh.positions);
    if (colours) {
        mesh.colours.reserve(e.count);
        const char* row = body.here();
        const std::size_t r = layout.offsets[layout.colour[0]], g = layout.offsets[layout.colour[1]],
                          b = layout.offsets[layout.colour[2]];
        for (std::uint64_t v = 0; v < e.count; ++v, row += layout.stride) {
            mesh.colours.push_back({static_cast<std::uint8_t>(row[r]), static_cast<std::uint8_t>(row[g]),
                                    static_cast<std::uint8_t>(row[b]), 255});
        }
    }
    body.advance(e.count * layout.stride);
    return true;
}

Status read_vertices(const Element& e, BodyReader& body, Mesh& mesh, const std::string& path) {
    const VertexLayout layout = vertex_layout(e);
    for (int k : layout.position) {
        if (k < 0) return bad_ply(path, "the vertices have no x, y and z.");
    }
    // a count that the file cannot hold must not reserve memory for itself
    const std::size_t least = body.ascii() ? 2 * e.properties.size() : layout.stride;
    if (!layout.has_list && e.count > (body.left() + 1) / std::max<std::size_t>(least, 1)) {
        return bad_ply(path,
                       "promises " + std::to_string(e.count) + " vertices but ends before. The file is cut short.");
    }
    if (!body.ascii() && !layout.has_list && read_vertices_fast(e, layout, body, mesh)) return Done{};
    const bool colours = layout.colour[0] >= 0 && layout.colour[1] >= 0 && layout.colour[2] >= 0;
    std::vector<double> row(e.properties.size());
    for (std::uint64_t v = 0; v < e.count; ++v) {
        const auto cut = [&] {
            return bad_ply(path, "vertex " + std::to_string(v) + ": the file ends or holds no number here.");
        };
        for (std::size_t k = 0; k < row.size(); ++k) {
            const Property& p = e.properties[k];
            double count = 1;
            if (p.is_list && !body.next(p.count_type, count)) return cut();
            if (p.is_list && !(count >= 0 && count <= 1e9)) return cut();
            for (std::uint64_t i = 0; i < static_cast<std::uint64_t>(count); ++i) {
                if (!body.next(p.type, row[k])) return cut();
            }
        }
        mesh.positions.emplace_back(row[layout.position[0]], row[layout.position[1]], row[layout.position[2]]);
        if (colours) {
            Colour c;
            c.r = colour_byte(row[layout.colour[0]], e.properties[layout.colour[0]].type);
            c.g = colour_byte(row[layout.colour[1]], e.properties[layout.colour[1]].type);
            c.b = colour_byte(row[layout.colour[2]], e.properties[layout.colour[2]].type);
            if (layout.colour[3] >= 0) c.a = colour_byte(row[layout.colour[3]], e.properties[layout.colour[3]].type);
            mesh.colours.push_back(c);
        }
    }
    return Done{};
}

// `uchar n, int x n` and nothing else, all triangles: the usual case. Stops at the first face that
// is not a triangle; the general reader goes on from there.
std::uint64_t read_triangles_fast(const Element& e, BodyReader& body, Mesh& mesh) {
    const bool plain = !body.ascii() && e.properties.size() == 1 && e.properties[0].is_list &&
                       e.properties[0].count_type == Type::U8 && size_of(e.properties[0].type) == 4 &&
                       e.properties[0].type != Type::F32;
    if (!plain) return 0;
    const std::uint64_t possible = std::min<std::uint64_t>(e.count, body.left() / 13);
    const bool swap = body.swap();
    mesh.corner_vertex.reserve(possible * 3);
    prefer_large_pages(mesh.corner_vertex.data(), possible * 12);
    mesh.corner_vertex.resize(possible * 3);
    const char* row = body.here();
    std::uint64_t f = 0;
    for (; f < possible && row[0] == 3; ++f, row += 13) std::memcpy(&mesh.corner_vertex[f * 3], row + 1, 12);
    mesh.corner_vertex.resize(f * 3);
    if (swap) {
        for (Index& v : mesh.corner_vertex) v = __builtin_bswap32(v);
    }
    mesh.face_start.reserve(possible + 1);
    for (std::uint64_t i = 1; i <= f; ++i) mesh.face_start.push_back(static_cast<Index>(3 * i));
    body.advance(f * 13);
    return f;
}

Status read_faces(const Element& e, BodyReader& body, MeshFile& file, const std::string& path) {
    Mesh& mesh = file.mesh;
    std::size_t dropped = 0;
    if (e.properties.empty()) return Done{};  // a count without content would only be counted through
    for (std::uint64_t f = read_triangles_fast(e, body, mesh); f < e.count; ++f) {
        for (const Property& p : e.properties) {
            const auto cut = [&] {
                return bad_ply(path, "face " + std::to_string(f) + ": the file ends or holds no number here.");
            };
            double count = 1, value = 0;
            if (p.is_list && !body.next(p.count_type, count)) return cut();
            if (!(count >= 0 && count <= 1e6)) return cut();
            const bool corners = p.is_list && (p.name == "vertex_indices" || p.name == "vertex_index");
            for (int i = 0; i < static_cast<int>(count); ++i) {
                if (!body.next(p.type, value)) return cut();
                if (corners)
                    mesh.corner_vertex.push_back(value >= 0 && value < 4294967295.0 ? static_cast<Index>(value)
                                                                                    : kNone);
            }
            if (!corners) continue;
            if (count >= 3) {
                mesh.face_start.push_back(static_cast<Index>(mesh.corner_vertex.size()));
            } else {
                mesh.corner_vertex.resize(mesh.face_start.back());
                ++dropped;
            }
        }
    }
    if (dropped > 0)
        file.notes.push_back(std::to_string(dropped) + " faces with fewer than three corners were left out.");
    return Done{};
}

Status skip_element(const Element& e, BodyReader& body, const std::string& path) {
    for (std::uint64_t i = 0; i < e.count; ++i) {
        if (e.properties.empty()) break;
        for (const Property& p : e.properties) {
            double count = 1, value = 0;
            if (p.is_list && !body.next(p.count_type, count)) return bad_ply(path, "ends inside '" + e.name + "'.");
            if (!(count >= 0 && count <= 1e9))
                return bad_ply(path, "a list in '" + e.name + "' has an impossible length.");
            for (std::uint64_t k = 0; k < static_cast<std::uint64_t>(count); ++k) {
                if (!body.next(p.type, value)) return bad_ply(path, "ends inside '" + e.name + "'.");
            }
        }
    }
    return Done{};
}

}  // namespace

Result<MeshFile> parse_ply(std::string_view bytes, const std::string& path) {
    auto header = parse_header(bytes, path);
    if (!header) return header.error();
    MeshFile file;
    BodyReader body(bytes, *header);
    for (const Element& e : header->elements) {
        Status ok = e.name == "vertex" ? read_vertices(e, body, file.mesh, path)
                    : e.name == "face" ? read_faces(e, body, file, path)
                                       : skip_element(e, body, path);
        if (!ok) return ok.error();
    }
    return file;
}

Result<MeshFile> read_ply(const std::string& path) {
    auto bytes = read_file(path);
    if (!bytes) return bytes.error();
    return parse_ply(bytes->view(), path);
}

namespace {

template <class T>
void put(std::string& out, T value, bool swap) {
    auto raw = std::bit_cast<std::array<char, sizeof(T)>>(value);
    if (swap) std::reverse(raw.begin(), raw.end());
    out.append(raw.data(), raw.size());
}

}  // namespace

std::string ply_bytes(const Mesh& mesh, PlyEncoding encoding) {
    const bool ascii = encoding == PlyEncoding::Ascii, swap = encoding == PlyEncoding::BigEndian;
    const bool colours = !mesh.colours.empty();
    std::string out = "ply\nformat ";
    out += ascii ? "ascii" : swap ? "binary_big_endian" : "binary_little_endian";
    out += " 1.0\nelement vertex " + std::to_string(mesh.vertex_count()) +
           "\nproperty double x\nproperty double y\nproperty double z\n";
    if (colours) out += "property uchar red\nproperty uchar green\nproperty uchar blue\n";
    out +=
        "element face " + std::to_string(mesh.face_count()) + "\nproperty list uchar int vertex_indices\nend_header\n";
    for (std::size_t v = 0; v < mesh.positions.size(); ++v) {
        for (int k = 0; k < 3; ++k) {
            if (ascii)
                append_double(out, mesh.positions[v][k]), out += ' ';
            else
                put(out, mesh.positions[v][k], swap);
        }
        if (colours) {
            const Colour& c = mesh.colours[v];
            for (std::uint8_t x : {c.r, c.g, c.b}) {
                if (ascii)
                    append_int(out, x), out += ' ';
                else
                    put(out, x, swap);
            }
        }
        if (ascii) out.back() = '\n';
    }
    for (Index f = 0; f < mesh.face_count(); ++f) {
        if (ascii)
            append_int(out, mesh.face_size(f));
        else
            put(out, static_cast<std::uint8_t>(mesh.face_size(f)), swap);
        for (Index c = mesh.face_start[f]; c < mesh.face_start[f + 1]; ++c) {
            if (ascii)
                out += ' ', append_int(out, mesh.corner_vertex[c]);
            else
                put(out, mesh.corner_vertex[c], swap);
        }
        if (ascii) out += '\n';
    }
    return out;
}

}  // namespace veld
