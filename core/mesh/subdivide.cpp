#include "core/mesh/subdivide.h"

#include <opensubdiv/far/primvarRefiner.h>
#include <opensubdiv/far/stencilTableFactory.h>
#include <opensubdiv/far/topologyDescriptor.h>
#include <tbb/parallel_for.h>

namespace veld {
namespace {

namespace Far = OpenSubdiv::Far;
namespace Sdc = OpenSubdiv::Sdc;

std::unique_ptr<Far::TopologyRefiner> make_refiner(const Mesh& base, int level) {
    std::vector<int> sizes(base.face_count()), corners(base.corner_vertex.begin(), base.corner_vertex.end());
    for (Index f = 0; f < base.face_count(); ++f) sizes[f] = static_cast<int>(base.face_size(f));
    std::vector<int> uv_corners(base.corner_uv.begin(), base.corner_uv.end());
    Far::TopologyDescriptor::FVarChannel uv;
    uv.numValues = static_cast<int>(base.uvs.size()), uv.valueIndices = uv_corners.data();
    Far::TopologyDescriptor d;
    d.numVertices = static_cast<int>(base.vertex_count());
    d.numFaces = static_cast<int>(base.face_count());
    d.numVertsPerFace = sizes.data();
    d.vertIndicesPerFace = corners.data();
    const bool uvs = !base.uvs.empty() &&
                     std::find(base.corner_uv.begin(), base.corner_uv.end(), kNone) == base.corner_uv.end() &&
                     !base.corner_uv.empty();
    if (uvs) d.numFVarChannels = 1, d.fvarChannels = &uv;
    Sdc::Options options;
    options.SetVtxBoundaryInterpolation(Sdc::Options::VTX_BOUNDARY_EDGE_ONLY);
    options.SetFVarLinearInterpolation(Sdc::Options::FVAR_LINEAR_ALL);
    using Factory = Far::TopologyRefinerFactory<Far::TopologyDescriptor>;
    std::unique_ptr<Far::TopologyRefiner> out(Factory::Create(d, Factory::Options(Sdc::SCHEME_CATMARK, options)));
    if (out) out->RefineUniform(Far::TopologyRefiner::UniformOptions(level));
    return out;
}

struct Uv {
    double u = 0, v = 0;
    void Clear() { u = v = 0; }
    void AddWithWeight(const Uv& o, float w) { u += w * o.u, v += w * o.v; }
};

// Which face of the base each refined face came from.
std::vector<Index> base_faces(const Far::TopologyRefiner& refiner, int level) {
    std::vector<Index> out(static_cast<std::size_t>(refiner.GetLevel(0).GetNumFaces()));
    for (Index f = 0; f < out.size(); ++f) out[f] = f;
    for (int l = 1; l <= level; ++l) {
        const Far::TopologyLevel& to = refiner.GetLevel(l);
        std::vector<Index> next(static_cast<std::size_t>(to.GetNumFaces()));
        for (int f = 0; f < to.GetNumFaces(); ++f)
            next[static_cast<std::size_t>(f)] = out[static_cast<std::size_t>(to.GetFaceParentFace(f))];
        out = std::move(next);
    }
    return out;
}

}  // namespace

// Stencils in double precision: what is shown next to a base of metres keeps its hundredths of a millimetre.
struct Subdivided::Inside {
    std::vector<Index> start{0}, vertex;
    std::vector<double> weight;
};

Subdivided::Subdivided() : inside_(std::make_unique<Inside>()) {}
Subdivided::~Subdivided() = default;

Result<std::shared_ptr<const Subdivided>> Subdivided::make(const Mesh& base, int level) {
    if (level < 1 || level > kMostLevels)
        return Error{ErrorCode::BadInput, "A mesh is subdivided 1 to " + std::to_string(kMostLevels) + " times, not " +
                                              std::to_string(level) + " times."};
    if (auto ok = check_mesh(base, "The mesh to subdivide"); !ok) return ok.error();
    const auto refiner = make_refiner(base, level);
    if (!refiner)
        return Error{ErrorCode::BadInput,
                     "The mesh cannot be subdivided: its faces do not join into a surface. Run Repair on it first."};
    std::shared_ptr<Subdivided> out(new Subdivided);
    Far::StencilTableFactoryReal<double>::Options options;
    options.generateIntermediateLevels = false, options.generateOffsets = true;
    const std::unique_ptr<const Far::StencilTableReal<double>> table(
        Far::StencilTableFactoryReal<double>::Create(*refiner, options));
    Inside& in = *out->inside_;
    for (int s = 0; s < table->GetNumStencils(); ++s) {
        const auto stencil = table->GetStencil(s);
        for (int k = 0; k < stencil.GetSize(); ++k) {
            in.vertex.push_back(static_cast<Index>(stencil.GetVertexIndices()[k]));
            in.weight.push_back(stencil.GetWeights()[k]);
        }
        in.start.push_back(static_cast<Index>(in.vertex.size()));
    }
    const Far::TopologyLevel& last = refiner->GetLevel(level);
    Mesh& mesh = out->mesh_;
    const bool uvs = refiner->GetNumFVarChannels() > 0;
    for (int f = 0; f < last.GetNumFaces(); ++f) {
        const auto corners = last.GetFaceVertices(f);
        for (int k = 0; k < corners.size(); ++k) mesh.corner_vertex.push_back(static_cast<Index>(corners[k]));
        if (uvs) {
            const auto places = last.GetFaceFVarValues(f, 0);
            for (int k = 0; k < places.size(); ++k) mesh.corner_uv.push_back(static_cast<Index>(places[k]));
        }
        mesh.face_start.push_back(static_cast<Index>(mesh.corner_vertex.size()));
    }
    if (uvs) {
        std::vector<Uv> values;
        for (const Vec2& p : base.uvs) values.push_back({p.x(), p.y()});
        for (int l = 1; l <= level; ++l) {
            std::vector<Uv> next(static_cast<std::size_t>(refiner->GetLevel(l).GetNumFVarValues(0)));
            Uv* to = next.data();
            Far::PrimvarRefiner(*refiner).InterpolateFaceVarying(l, values.data(), to, 0);
            values = std::move(next);
        }
        for (const Uv& p : values) mesh.uvs.emplace_back(p.u, p.v);
    }
    const std::vector<Index> origin = base_faces(*refiner, level);
    for (const Index f : origin) {
        if (!base.face_group.empty()) mesh.face_group.push_back(base.face_group[f]);
        if (!base.face_material.empty()) mesh.face_material.push_back(base.face_material[f]);
    }
    mesh.group_names = base.group_names, mesh.materials = base.materials,
    mesh.material_libraries = base.material_libraries, mesh.images = base.images;
    mesh.positions = out->positions(base.positions);
    return std::shared_ptr<const Subdivided>(out);
}

Points Subdivided::positions(const Points& base) const {
    const Inside& in = *inside_;
    Points out(in.start.size() - 1, Vec3::Zero());
    tbb::parallel_for(std::size_t{0}, out.size(), [&](std::size_t v) {
        for (Index k = in.start[v]; k < in.start[v + 1]; ++k) out[v] += in.weight[k] * base[in.vertex[k]];
    });
    return out;
}

Subdivided::Row Subdivided::row(std::size_t v) const {
    const Inside& in = *inside_;
    return {in.vertex.data() + in.start[v], in.weight.data() + in.start[v], in.start[v + 1] - in.start[v]};
}

std::vector<float> Subdivided::values(const std::vector<float>& base) const {
    const Inside& in = *inside_;
    std::vector<float> out(in.start.size() - 1, 0);
    for (std::size_t v = 0; v < out.size(); ++v) {
        double sum = 0;
        for (Index k = in.start[v]; k < in.start[v + 1]; ++k) {
            if (in.weight[k] != 0) sum += in.weight[k] * static_cast<double>(base[in.vertex[k]]);
        }
        out[v] = static_cast<float>(sum);
    }
    return out;
}

}  // namespace veld
