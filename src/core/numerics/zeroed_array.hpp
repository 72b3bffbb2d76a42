#pragma once
#include <cstddef>
#include <memory>

namespace undisona {

/// Many numbers, all zero, from the system's own pages: nothing is written to make them so, and large ones lie on large
/// pages, which reading a factor from end to end is a sixth faster from. `get()` is null where the memory is not enough,
/// and for an empty one.
class ZeroedArray {
public:
    ZeroedArray() = default;
    explicit ZeroedArray(std::size_t count);

    double* get() const { return data_.get(); }
    explicit operator bool() const { return data_ != nullptr; }

private:
    struct Release {
        std::size_t bytes; ///< of pages; 0 for one from the heap
        void operator()(double* data) const;
    };
    std::unique_ptr<double, Release> data_;
};

} // namespace undisona
