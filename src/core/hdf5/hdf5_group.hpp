#pragma once
#include "core/base/progress.hpp"

#include <cstdint>
#include <functional>
#include <memory>
#include <stdexcept>
#include <string>
#include <type_traits>
#include <vector>

namespace undisona {

/// What is wrong with a file in HDF5, or with what is looked for in it.
struct Hdf5Error : std::runtime_error {
    using std::runtime_error::runtime_error;
};

/// How a number lies in memory.
enum class NumberKind { u8, i32, i64, u64, f32, f64 };

template <class T>
constexpr NumberKind numberKind()
{
    static_assert(std::is_arithmetic_v<T>);
    if constexpr (std::is_same_v<T, float>)
        return NumberKind::f32;
    else if constexpr (std::is_floating_point_v<T>)
        return NumberKind::f64;
    else if constexpr (sizeof(T) == 1)
        return NumberKind::u8;
    else if constexpr (sizeof(T) == 4)
        return NumberKind::i32;
    else
        return std::is_signed_v<T> ? NumberKind::i64 : NumberKind::u64;
}

/// A group of a file in HDF5 1.10, with values and groups by their names. A file is open while one of its groups is.
/// Every function throws Hdf5Error where the file does not have what is asked of it.
class Hdf5Group {
public:
    /// Of a new file, or of what lay there before it. A long write ends with Hdf5Error when the progress is stopped.
    static Hdf5Group created(const std::string& path, const Progress* progress = nullptr);
    static Hdf5Group opened(const std::string& path);
    /// Whether the file begins as such a one does.
    static bool isOne(const std::string& path);

    Hdf5Group group(const std::string& name) const;
    Hdf5Group newGroup(const std::string& name) const;
    bool has(const std::string& name) const;
    std::vector<std::string> names() const;                               ///< of all that is in it, by the alphabet
    void copyFrom(const Hdf5Group& other, const std::string& name) const; ///< a group of another file, whole

    void writeTexts(const std::string& name, const std::vector<std::string>&) const;
    void writeText(const std::string& name, const std::string&) const;
    std::vector<std::string> texts(const std::string& name) const; ///< one, where it is no list

    /// Numbers as they lie in memory: the last dimension runs fastest; none: a number alone.
    void write(const std::string& name, NumberKind, const void* from,
               const std::vector<std::uint64_t>& dimensions) const;
    /// A matrix that lies by its columns; rows x columns in the file, a large one so that a column is read at once.
    void writeColumns(const std::string& name, NumberKind, const void* from, std::uint64_t rows,
                      std::uint64_t columns) const;
    /// Numbers of which those of the first dimension are made one after the other: `fill` puts the next ones where it
    /// is told.
    void writeSlices(const std::string& name, NumberKind, const std::vector<std::uint64_t>& dimensions,
                     const std::function<void(std::uint64_t which, void* to)>& fill) const;
    std::vector<std::uint64_t> dimensions(const std::string& name) const;
    /// All of them; `to` has room for as many as the dimensions say.
    void read(const std::string& name, NumberKind, void* to) const;
    void readColumns(const std::string& name, NumberKind, void* to, std::uint64_t rows, std::uint64_t columns) const;

    // Attributes: what is seen of a group without what is in it.
    void say(const std::string& name, const std::string& text) const;
    void say(const std::string& name, std::int64_t number) const;
    std::string said(const std::string& name) const;
    std::int64_t number(const std::string& name) const;

    /// Writes what is not yet in the file.
    void flush() const;

private:
    class Handle;
    std::shared_ptr<Handle> file_, group_;
    const Progress* progress_ = nullptr;
};

} // namespace undisona
