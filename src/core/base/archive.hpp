#pragma once
#include <Eigen/Dense>

#include <array>
#include <cstdint>
#include <cstring>
#include <map>
#include <optional>
#include <stdexcept>
#include <string>
#include <tuple>
#include <type_traits>
#include <vector>

namespace undisona {

// Values as bytes, between two processes of the same program on the same machine. A struct takes part by a function
// `fields` that ties its members, found by its argument:
//
//     inline auto fields(Mode& mode) { return std::tie(mode.number, mode.lambda, mode.name); }
//
//     ByteWriter out;
//     out.put(mode);
//     ByteReader in(out.bytes());
//     in.get(copy); // throws ArchiveError where the bytes end too early or cannot be meant

struct ArchiveError : std::runtime_error {
    using std::runtime_error::runtime_error;
};

template <class T>
concept Plain = std::is_arithmetic_v<T> || std::is_enum_v<T>;
template <class T>
concept Dense = std::is_base_of_v<Eigen::PlainObjectBase<T>, T>;
template <class T>
concept Tied = requires(T& value)
{
    fields(value);
};

class ByteWriter {
public:
    const std::string& bytes() const { return bytes_; }

    template <Plain T>
    void put(const T& value)
    {
        raw(&value, sizeof value);
    }
    template <Dense T>
    void put(const T& matrix)
    {
        put(static_cast<std::int64_t>(matrix.rows()));
        put(static_cast<std::int64_t>(matrix.cols()));
        raw(matrix.data(), static_cast<std::size_t>(matrix.size()) * sizeof(typename T::Scalar));
    }
    void put(const std::string& text)
    {
        put(static_cast<std::uint64_t>(text.size()));
        raw(text.data(), text.size());
    }
    template <class T>
    void put(const std::vector<T>& values)
    {
        put(static_cast<std::uint64_t>(values.size()));
        for (const T& value : values)
            put(value);
    }
    template <class T, std::size_t n>
    void put(const std::array<T, n>& values)
    {
        for (const T& value : values)
            put(value);
    }
    template <class Key, class T>
    void put(const std::map<Key, T>& values)
    {
        put(static_cast<std::uint64_t>(values.size()));
        for (const auto& [key, value] : values) {
            put(key);
            put(value);
        }
    }
    template <Tied T>
    void put(const T& value)
    {
        std::apply([this](const auto&... each) { (put(each), ...); }, fields(const_cast<T&>(value)));
    }

private:
    void raw(const void* from, std::size_t size) { bytes_.append(static_cast<const char*>(from), size); }
    std::string bytes_;
};

class ByteReader {
public:
    explicit ByteReader(std::string_view bytes) : bytes_(bytes) {}
    bool atEnd() const { return at_ == bytes_.size(); }

    template <Plain T>
    void get(T& value)
    {
        raw(&value, sizeof value);
    }
    template <Dense T>
    void get(T& matrix)
    {
        std::int64_t rows = 0, columns = 0;
        get(rows);
        get(columns);
        const std::size_t left = (bytes_.size() - at_) / sizeof(typename T::Scalar);
        if (rows < 0 || columns < 0 || (columns > 0 && static_cast<std::size_t>(rows) > left / std::size_t(columns)))
            throw ArchiveError("a matrix is larger than the message it came in");
        if ((T::RowsAtCompileTime != Eigen::Dynamic && rows != T::RowsAtCompileTime) ||
            (T::ColsAtCompileTime != Eigen::Dynamic && columns != T::ColsAtCompileTime))
            throw ArchiveError("a matrix has another size than it should");
        matrix.resize(rows, columns);
        raw(matrix.data(), static_cast<std::size_t>(matrix.size()) * sizeof(typename T::Scalar));
    }
    void get(std::string& text)
    {
        text.resize(count());
        raw(text.data(), text.size());
    }
    template <class T>
    void get(std::vector<T>& values)
    {
        values.resize(count());
        for (T& value : values)
            get(value);
    }
    template <class T, std::size_t n>
    void get(std::array<T, n>& values)
    {
        for (T& value : values)
            get(value);
    }
    template <class Key, class T>
    void get(std::map<Key, T>& values)
    {
        values.clear();
        for (std::size_t left = count(); left > 0; --left) {
            Key key;
            get(key);
            get(values[key]);
        }
    }
    template <Tied T>
    void get(T& value)
    {
        std::apply([this](auto&... each) { (get(each), ...); }, fields(value));
    }

private:
    /// Of things that take a byte each at least.
    std::size_t count()
    {
        std::uint64_t size = 0;
        get(size);
        if (size > bytes_.size() - at_) throw ArchiveError("a list is longer than the message it came in");
        return size;
    }
    void raw(void* to, std::size_t size)
    {
        if (size > bytes_.size() - at_) throw ArchiveError("the message ends too early");
        if (size > 0) std::memcpy(to, bytes_.data() + at_, size);
        at_ += size;
    }
    std::string_view bytes_;
    std::size_t at_ = 0;
};

} // namespace undisona
