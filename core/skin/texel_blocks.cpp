#include "core/skin/texel_blocks.h"

#include <algorithm>
#include <cstring>

#include "core/skin/colour_of.h"

namespace veld {

void TexelRect::grow(int x, int y) {
    if (empty()) {
        *this = {x, y, x + 1, y + 1};
        return;
    }
    left = std::min(left, x), top = std::min(top, y), right = std::max(right, x + 1), bottom = std::max(bottom, y + 1);
}

void TexelRect::grow(const TexelRect& other) {
    if (other.empty()) return;
    grow(other.left, other.top);
    grow(other.right - 1, other.bottom - 1);
}

TexelRect TexelRect::within(int size) const {
    return {std::max(0, left), std::max(0, top), std::min(size, right), std::min(size, bottom)};
}

TexelBlocks::TexelBlocks(int size, Texel fill)
    : size_(size),
      across_((size + kSide - 1) / kSide),
      fill_(fill),
      blocks_(static_cast<std::size_t>(across_) * static_cast<std::size_t>(across_)) {}

TexelBlocks TexelBlocks::of(const Pixels& pixels, Texel fill) {
    TexelBlocks out(std::min(pixels.width, pixels.height), fill);
    for (int y = 0; y < out.size_; ++y) {
        for (int x = 0; x < out.size_; ++x) {
            Texel texel;
            const std::size_t i =
                static_cast<std::size_t>(y) * static_cast<std::size_t>(pixels.width) + static_cast<std::size_t>(x);
            std::memcpy(texel.data(), &pixels.rgba[4 * i], 4);
            if (texel != fill) out.set(x, y, texel);
        }
    }
    return out;
}

bool TexelBlocks::blank() const {
    return std::all_of(blocks_.begin(), blocks_.end(), [&](const auto& block) {
        return !block || std::all_of(block->begin(), block->end(), [&](const Texel& t) { return t == fill_; });
    });
}

TexelBlocks::Block& TexelBlocks::own(std::size_t slot) {
    std::shared_ptr<Block>& block = blocks_[slot];
    if (!block) {
        block = std::make_shared<Block>();
        block->fill(fill_);
    } else if (block.use_count() > 1) {
        block = std::make_shared<Block>(*block);
    }
    return *block;
}

void TexelBlocks::set(int x, int y, const Texel& value) { own(slot(x, y))[inside(x, y)] = value; }

void TexelBlocks::prepare(const TexelRect& part) {
    const TexelRect r = part.within(size_);
    if (r.empty()) return;
    for (int y = r.top / kSide; y <= (r.bottom - 1) / kSide; ++y) {
        for (int x = r.left / kSide; x <= (r.right - 1) / kSide; ++x) own(slot(x * kSide, y * kSide));
    }
}

Pixels TexelBlocks::pixels() const {
    Pixels out;
    out.width = out.height = size_;
    out.rgba.resize(std::size_t{4} * static_cast<std::size_t>(size_) * static_cast<std::size_t>(size_));
    for (int y = 0; y < size_; ++y) {
        for (int x = 0; x < size_; ++x) {
            const Texel texel = at(x, y);
            std::memcpy(&out.rgba[4 * (static_cast<std::size_t>(y) * static_cast<std::size_t>(size_) +
                                       static_cast<std::size_t>(x))],
                        texel.data(), 4);
        }
    }
    return out;
}

TexelBlocks TexelBlocks::resized(int size) const {
    TexelBlocks out(size, fill_);
    const double step = static_cast<double>(size_) / size;
    for (int y = 0; y < size; ++y) {
        for (int x = 0; x < size; ++x) {
            const double sx = std::clamp((x + 0.5) * step - 0.5, 0.0, size_ - 1.0),
                         sy = std::clamp((y + 0.5) * step - 0.5, 0.0, size_ - 1.0);
            const int i = static_cast<int>(sx), j = static_cast<int>(sy), i1 = std::min(i + 1, size_ - 1),
                      j1 = std::min(j + 1, size_ - 1);
            const double u = sx - i, v = sy - j;
            const Texel a = at(i, j), b = at(i1, j), c = at(i, j1), d = at(i1, j1);
            Texel texel;
            for (std::size_t k = 0; k < 4; ++k)
                texel[k] = static_cast<std::uint8_t>(
                    std::lround((1 - v) * ((1 - u) * a[k] + u * b[k]) + v * ((1 - u) * c[k] + u * d[k])));
            if (texel != fill_) out.set(x, y, texel);
        }
    }
    return out;
}

std::vector<std::uint32_t> TexelBlocks::used() const {
    std::vector<std::uint32_t> out;
    for (std::size_t i = 0; i < blocks_.size(); ++i) {
        if (blocks_[i]) out.push_back(static_cast<std::uint32_t>(i));
    }
    return out;
}

std::vector<std::uint8_t> TexelBlocks::bytes() const {
    std::vector<std::uint8_t> out;
    for (const auto& block : blocks_) {
        if (!block) continue;
        const auto* from = block->front().data();
        out.insert(out.end(), from, from + sizeof(Block));
    }
    return out;
}

bool TexelBlocks::read(int size, Texel fill, const std::vector<std::uint32_t>& used,
                       const std::vector<std::uint8_t>& bytes) {
    if (size < 1 || size > 16384 || bytes.size() != used.size() * sizeof(Block)) return false;
    TexelBlocks out(size, fill);
    for (std::size_t i = 0; i < used.size(); ++i) {
        if (used[i] >= out.blocks_.size()) return false;
        std::memcpy(out.own(used[i]).data(), &bytes[i * sizeof(Block)], sizeof(Block));
    }
    *this = std::move(out);
    return true;
}

}  // namespace veld
