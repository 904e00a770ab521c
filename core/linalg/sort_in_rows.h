#pragma once
// Entries of sparse rows put in order: by counting into rows, then each short row on its own. Several times
// quicker than one sort over everything.
#include <algorithm>
#include <cstddef>
#include <vector>

namespace veld {

// row(entry) < rows; less orders entries of one row.
template <class Entry, class Row, class Less>
void sort_in_rows(std::vector<Entry>& list, std::size_t rows, Row row, Less less) {
    std::vector<std::size_t> start(rows + 1, 0);
    for (const Entry& e : list) ++start[row(e) + 1];
    for (std::size_t r = 0; r < rows; ++r) start[r + 1] += start[r];
    std::vector<Entry> sorted(list.size());
    std::vector<std::size_t> next(start.begin(), start.end() - 1);
    for (const Entry& e : list) sorted[next[row(e)]++] = e;
    for (std::size_t r = 0; r < rows; ++r)
        std::sort(sorted.begin() + static_cast<std::ptrdiff_t>(start[r]),
                  sorted.begin() + static_cast<std::ptrdiff_t>(start[r + 1]), less);
    list = std::move(sorted);
}

}  // namespace veld
