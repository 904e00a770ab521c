#pragma once
// The open project and its history. Every change goes through apply(), so undo is never forgotten.
#include <functional>
#include <memory>

#include "core/project/state.h"

namespace veld {

class Pager;

class Document {
 public:
    explicit Document(ProjectState state = {});
    // pager: keeps old states' meshes on disk, within its budget
    Document(ProjectState state, std::unique_ptr<Pager> pager);
    ~Document();
    Document(Document&&) noexcept;
    Document& operator=(Document&&) noexcept;

    const ProjectState& state() const { return steps_[at_].state; }

    // label: what the user did, for the undo menu ("Move nose tip"). Changes with the same non-empty
    // merge key that follow one another become one step (a slider's drag).
    void apply(const std::string& label, ProjectState next, const std::string& merge_key = {});
    // Something that belongs to the present step and was not known when it was made (figures). No step of
    // its own; what was undone can still be redone.
    void amend(ProjectState state);
    // ends merging: the next change is a step of its own
    void seal() { sealed_ = true; }
    // would the next change with this key become part of the last one?
    bool is_merging(const std::string& merge_key) const { return !sealed_ && steps_[at_].merge_key == merge_key; }

    bool can_undo() const { return at_ > 0; }
    bool can_redo() const { return at_ + 1 < steps_.size(); }
    std::string undo_label() const { return can_undo() ? steps_[at_].label : ""; }
    std::string redo_label() const { return can_redo() ? steps_[at_ + 1].label : ""; }
    void undo();
    void redo();
    // the whole history, first step "" (the state that was opened), and where we are in it
    std::vector<std::string> labels() const;
    std::size_t position() const { return at_; }
    void go_to(std::size_t position);

    // another project, without history
    void reset(ProjectState state);
    bool is_modified() const { return steps_[at_].serial != saved_serial_; }
    void mark_saved() { mark_saved(steps_[at_].serial); }
    // a state that was present when the save began; the present one may be another by now
    void mark_saved(std::size_t serial) { saved_serial_ = serial; }
    // grows with every state that ever was; tells autosave whether there is something new
    std::size_t serial() const { return steps_[at_].serial; }

    std::function<void()> changed;  // after every change, undo and redo included
    std::function<void()> lost;     // a state of the past could not be read back; the document is as it was

 private:
    struct Step {
        std::string label, merge_key;
        ProjectState state;
        std::size_t serial = 0;
    };
    void tell() {
        if (changed) changed();
    }
    // brings the state at `position` back from the disk; false: it cannot be shown any more
    bool arrive(std::size_t position);
    void page_out();

    std::vector<Step> steps_;
    std::unique_ptr<Pager> pager_;
    std::size_t at_ = 0, next_serial_ = 0, saved_serial_ = 0;
    bool sealed_ = true;
};

}  // namespace veld
