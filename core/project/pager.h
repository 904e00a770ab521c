#pragma once
// Old states' heavy meshes wait on the disk, so that undo over a scan of millions of triangles does
// not fill the memory.
//
// Meshes are shared between states and never change; one that no state within reach needs is written
// to a temporary file once and read back when undo arrives at it. When the disk refuses, it stays.
#include <list>
#include <memory>

#include "core/project/state.h"

namespace veld {

class Pager {
 public:
    explicit Pager(std::size_t budget_bytes = 500u << 20) : budget_(budget_bytes) {}

    // Writes out what `old_states` hold beyond the budget; the earliest first. Meshes that `current`
    // uses stay. Only the sources' `mesh` pointers change: they become null.
    void page_out(const std::vector<ProjectState*>& old_states, const ProjectState& current);
    // Brings every mesh of `state` back. false: a file is gone or damaged; the state cannot be shown.
    bool page_in(ProjectState& state);

    std::size_t files() const { return files_.size(); }

 private:
    struct Kept {
        std::weak_ptr<const Mesh> mesh;
        std::shared_ptr<PagedMesh> file;
    };
    std::shared_ptr<PagedMesh> write(const std::shared_ptr<const Mesh>& mesh);

    std::size_t budget_;
    std::list<Kept> files_;
};

std::size_t bytes_of(const Mesh& mesh);

}  // namespace veld
