#include <assimp/postprocess.h>
#include <assimp/scene.h>

#include <algorithm>
#include <assimp/Importer.hpp>
#include <exception>
#include <new>
#include <stdexcept>

#include "core/base/file.h"
#include "importer/assimp_read.h"

namespace veld {
namespace {

void take_materials(const aiScene& scene, const std::string& folder, MeshFile& file) {
    Mesh& mesh = file.mesh;
    for (unsigned i = 0; i < scene.mNumMaterials; ++i) {
        Material m;
        aiString text;
        aiColor3D colour(0.8f, 0.8f, 0.8f);
        if (scene.mMaterials[i]->Get(AI_MATKEY_NAME, text) == AI_SUCCESS) m.name = text.C_Str();
        if (scene.mMaterials[i]->Get(AI_MATKEY_COLOR_DIFFUSE, colour) == AI_SUCCESS)
            m.colour = {colour.r, colour.g, colour.b};
        if (scene.mMaterials[i]->GetTexture(aiTextureType_DIFFUSE, 0, &text) == AI_SUCCESS) {
            m.image_path = text.C_Str();
            std::replace(m.image_path.begin(), m.image_path.end(), '\\', '/');
            const aiTexture* inside = scene.GetEmbeddedTexture(text.C_Str());
            const std::string kind = inside ? std::string(".") + inside->achFormatHint : lower_extension(m.image_path);
            const bool known = kind == ".jpg" || kind == ".jpeg" || kind == ".png";
            if (inside && known && inside->mHeight == 0) {
                const auto* bytes = reinterpret_cast<const std::uint8_t*>(inside->pcData);
                mesh.images.push_back({file_name(m.image_path),
                                       kind == ".png" ? "image/png" : "image/jpeg",
                                       {bytes, bytes + inside->mWidth}});
                m.image = static_cast<int>(mesh.images.size()) - 1;
            } else if (known) {
                if (auto bytes = read_file(folder + "/" + m.image_path)) {
                    mesh.images.push_back({m.image_path,
                                           kind == ".png" ? "image/png" : "image/jpeg",
                                           {bytes->view().begin(), bytes->view().end()}});
                    m.image = static_cast<int>(mesh.images.size()) - 1;
                } else {
                    file.notes.push_back("The texture '" + m.image_path + "' was not found beside the mesh.");
                }
            }
        }
        mesh.materials.push_back(std::move(m));
    }
}

void take_node(const aiScene& scene, const aiNode& node, const aiMatrix4x4& above, Mesh& mesh) {
    const aiMatrix4x4 place = above * node.mTransformation;
    for (unsigned i = 0; i < node.mNumMeshes; ++i) {
        const aiMesh& part = *scene.mMeshes[node.mMeshes[i]];
        const Index first = mesh.vertex_count(), first_uv = static_cast<Index>(mesh.uvs.size());
        const Index group = static_cast<Index>(mesh.group_names.size());
        mesh.group_names.push_back(part.mName.length ? part.mName.C_Str() : node.mName.C_Str());
        for (unsigned v = 0; v < part.mNumVertices; ++v) {
            const aiVector3D p = place * part.mVertices[v];
            mesh.positions.emplace_back(p.x, p.y, p.z);
            if (part.HasTextureCoords(0))
                mesh.uvs.emplace_back(part.mTextureCoords[0][v].x, part.mTextureCoords[0][v].y);
        }
        for (unsigned f = 0; f < part.mNumFaces; ++f) {
            if (part.mFaces[f].mNumIndices < 3) continue;
            for (unsigned k = 0; k < part.mFaces[f].mNumIndices; ++k) {
                mesh.corner_vertex.push_back(first + part.mFaces[f].mIndices[k]);
                mesh.corner_uv.push_back(part.HasTextureCoords(0) ? first_uv + part.mFaces[f].mIndices[k] : kNone);
            }
            mesh.face_start.push_back(static_cast<Index>(mesh.corner_vertex.size()));
            mesh.face_group.push_back(group);
            mesh.face_material.push_back(part.mMaterialIndex < mesh.materials.size() ? part.mMaterialIndex : kNone);
        }
    }
    for (unsigned i = 0; i < node.mNumChildren; ++i) take_node(scene, *node.mChildren[i], place, mesh);
}

}  // namespace

Result<MeshFile> read_by_assimp(const std::string& path) {
    Assimp::Importer importer;
    const aiScene* scene = importer.ReadFile(path, aiProcess_JoinIdenticalVertices | aiProcess_ValidateDataStructure);
    if (!scene && importer.GetException()) {  // no memory is not "damaged": whoever started us says so
        try {
            std::rethrow_exception(importer.GetException());
        } catch (const std::bad_alloc&) {
            throw;
        } catch (const std::length_error&) {
            throw std::bad_alloc();
        } catch (...) {
        }
    }
    if (!scene || !scene->mRootNode)
        return Error{ErrorCode::BadFile,
                     "'" + path + "' cannot be read: " + importer.GetErrorString() + ". Export it as OBJ or GLB."};
    MeshFile out;
    take_materials(*scene, folder_of(path), out);
    take_node(*scene, *scene->mRootNode, {}, out.mesh);
    if (out.mesh.uvs.empty()) out.mesh.corner_uv.clear();
    out.notes.push_back("Read by a general importer: vertex order may differ from the program that wrote it.");
    return out;
}

}  // namespace veld
