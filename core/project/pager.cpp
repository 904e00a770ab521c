#include "core/project/pager.h"

#include <unistd.h>
#include <cstdlib>
#include <filesystem>
#include <set>

#include "core/base/file.h"
#include "core/io/mesh_blob.h"

namespace veld {

// A file that goes with the last state that may need it.
struct PagedMesh {
    std::string path;
    std::weak_ptr<const Mesh> back;  // once it was read again
    ~PagedMesh() {
        std::error_code ignored;
        std::filesystem::remove(path, ignored);
    }
};

std::size_t bytes_of(const Mesh& m) {
    std::size_t images = 0;
    for (const Image& i : m.images) images += i.bytes.size();
    return m.positions.size() * sizeof(Vec3) + m.uvs.size() * sizeof(Vec2) + m.normals.size() * sizeof(Vec3) +
           m.colours.size() * sizeof(Colour) + images +
           sizeof(Index) * (m.face_start.size() + m.corner_vertex.size() + m.corner_uv.size() +
                            m.corner_normal.size() + m.face_group.size() + m.face_material.size());
}

std::shared_ptr<PagedMesh> Pager::write(const std::shared_ptr<const Mesh>& mesh) {
    files_.remove_if([](const Kept& k) { return k.file.use_count() == 1 && k.mesh.expired(); });
    for (const Kept& k : files_) {
        if (k.mesh.lock() == mesh) return k.file;
    }
    std::error_code failed;
    std::string path = (std::filesystem::temp_directory_path(failed) / "veldstone-undo-XXXXXX").string();
    const int handle = ::mkstemp(path.data());
    if (handle < 0) return nullptr;
    ::close(handle);
    auto file = std::make_shared<PagedMesh>();
    file->path = path;
    if (!write_file(path, mesh_to_blob(*mesh))) return nullptr;
    files_.push_back({mesh, file});
    return file;
}

void Pager::page_out(const std::vector<ProjectState*>& old_states, const ProjectState& current) {
    std::set<const Mesh*> needed, counted;
    for (const Subject& subject : current.subjects) {
        for (const Source& s : subject.sources) needed.insert(s.mesh.get());
    }
    std::size_t held = 0;
    for (ProjectState* state : old_states) {
        for (const Subject& subject : state->subjects) {
            for (const Source& s : subject.sources) {
                if (s.mesh && !needed.contains(s.mesh.get()) && counted.insert(s.mesh.get()).second)
                    held += bytes_of(*s.mesh);
            }
        }
    }
    for (ProjectState* state : old_states) {
        for (Subject& subject : state->subjects) {
            for (Source& s : subject.sources) {
                if (held <= budget_) return;
                if (!s.mesh || needed.contains(s.mesh.get())) continue;
                auto file = write(s.mesh);
                if (!file) return;  // the disk is full: memory has to do
                if (counted.erase(s.mesh.get())) held -= std::min(held, bytes_of(*s.mesh));
                // every state that shares it lets go together
                const std::shared_ptr<const Mesh> gone = s.mesh;
                for (ProjectState* other : old_states) {
                    for (Subject& their : other->subjects) {
                        for (Source& t : their.sources) {
                            if (t.mesh == gone) t.mesh.reset(), t.paged = file;
                        }
                    }
                }
            }
        }
    }
}

bool Pager::page_in(ProjectState& state) {
    for (Subject& subject : state.subjects) {
        for (Source& s : subject.sources) {
            if (s.mesh) continue;
            if (!s.paged) return false;
            if ((s.mesh = s.paged->back.lock())) continue;
            auto bytes = read_file(s.paged->path);
            if (!bytes) return false;
            auto mesh = mesh_from_blob(bytes->view());
            if (!mesh) return false;
            auto back = std::make_shared<Mesh>(std::move(*mesh));
            s.paged->back = back;
            s.mesh = back;
            files_.push_back({back, s.paged});  // need not be written twice
        }
    }
    return true;
}

}  // namespace veld
