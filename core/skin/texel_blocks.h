#pragma once
// Texels of a square picture in blocks that copies share until one of them is written to: a copy of a painted layer is
// cheap, and undo keeps only the blocks that a stroke changed.
#include <array>
#include <cstdint>
#include <memory>
#include <vector>

#include "core/io/image.h"

namespace veld {

// Texels from `left` to before `right`, rows from the top.
struct TexelRect {
    int left = 0, top = 0, right = 0, bottom = 0;
    bool empty() const { return right <= left || bottom <= top; }
    void grow(int x, int y);            // so that it holds that texel
    void grow(const TexelRect& other);  // and all of another
    TexelRect within(int size) const;   // what of it lies in a square picture
};

class TexelBlocks {
 public:
    static constexpr int kSide = 128;
    using Texel = std::array<std::uint8_t, 4>;

    TexelBlocks() = default;
    // size: texels a side, all of them `fill`
    explicit TexelBlocks(int size, Texel fill = {0, 0, 0, 0});
    // Of a square picture; blocks in which all is `fill` take no room.
    static TexelBlocks of(const Pixels& pixels, Texel fill = {0, 0, 0, 0});

    int size() const { return size_; }
    bool blank() const;  // is every texel what it was filled with?
    Texel at(int x, int y) const {
        const auto& block = blocks_[slot(x, y)];
        return block ? (*block)[inside(x, y)] : fill_;
    }
    void set(int x, int y, const Texel& value);
    // Blocks are made one's own beforehand, so that several threads can set texels of this part at once.
    void prepare(const TexelRect& part);

    Pixels pixels() const;
    // At another size, by the texels in between (linear).
    TexelBlocks resized(int size) const;

    // For files: which blocks hold something, and their texels one after the other.
    std::vector<std::uint32_t> used() const;
    std::vector<std::uint8_t> bytes() const;
    // False: these do not belong together.
    bool read(int size, Texel fill, const std::vector<std::uint32_t>& used, const std::vector<std::uint8_t>& bytes);
    const Texel& fill() const { return fill_; }

 private:
    using Block = std::array<Texel, kSide * kSide>;
    std::size_t slot(int x, int y) const {
        return static_cast<std::size_t>(y / kSide) * static_cast<std::size_t>(across_) +
               static_cast<std::size_t>(x / kSide);
    }
    static std::size_t inside(int x, int y) {
        return static_cast<std::size_t>(y % kSide) * kSide + static_cast<std::size_t>(x % kSide);
    }
    Block& own(std::size_t slot);

    int size_ = 0, across_ = 0;
    Texel fill_{};
    std::vector<std::shared_ptr<Block>> blocks_;  // null: all `fill_`
};

}  // namespace veld
