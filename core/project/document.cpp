#include "core/project/document.h"

#include "core/project/pager.h"

namespace veld {

constexpr std::size_t kMostSteps = 400;

Document::Document(ProjectState state) : Document(std::move(state), std::make_unique<Pager>()) {}

Document::Document(ProjectState state, std::unique_ptr<Pager> pager) : pager_(std::move(pager)) {
    reset(std::move(state));
}

Document::~Document() = default;
Document::Document(Document&&) noexcept = default;
Document& Document::operator=(Document&&) noexcept = default;

void Document::apply(const std::string& label, ProjectState next, const std::string& merge_key) {
    steps_.resize(at_ + 1);
    const bool merge = !sealed_ && !merge_key.empty() && at_ > 0 && steps_[at_].merge_key == merge_key;
    if (merge) {
        steps_[at_].state = std::move(next);
        steps_[at_].serial = ++next_serial_;
    } else {
        steps_.push_back({label, merge_key, std::move(next), ++next_serial_});
        if (steps_.size() > kMostSteps) steps_.erase(steps_.begin());
        at_ = steps_.size() - 1;
    }
    sealed_ = false;
    page_out();
    tell();
}

void Document::amend(ProjectState state) {
    steps_[at_].state = std::move(state);
    steps_[at_].serial = ++next_serial_;
    tell();
}

void Document::page_out() {
    std::vector<ProjectState*> others;
    for (std::size_t i = 0; i < steps_.size(); ++i) {
        if (i != at_) others.push_back(&steps_[i].state);
    }
    pager_->page_out(others, steps_[at_].state);
}

bool Document::arrive(std::size_t position) {
    if (!pager_->page_in(steps_[position].state)) {
        if (lost) lost();
        return false;
    }
    at_ = position;
    sealed_ = true;
    page_out();
    tell();
    return true;
}

void Document::undo() {
    if (can_undo()) arrive(at_ - 1);
}

void Document::redo() {
    if (can_redo()) arrive(at_ + 1);
}

std::vector<std::string> Document::labels() const {
    std::vector<std::string> out;
    for (const Step& step : steps_) out.push_back(step.label);
    return out;
}

void Document::go_to(std::size_t position) {
    if (position < steps_.size() && position != at_) arrive(position);
}

void Document::reset(ProjectState state) {
    steps_.clear();
    steps_.push_back({"", "", std::move(state), ++next_serial_});
    at_ = 0;
    sealed_ = true;
    saved_serial_ = next_serial_;
    tell();
}

}  // namespace veld
