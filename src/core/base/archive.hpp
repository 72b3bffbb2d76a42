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
// `fields` that names its members, found by its argument:
//
//     inline auto fields(Mode& of) { return named("number lambda name", of.number, of.lambda, of.name); }
//
// The same list serves whatever else is to be done with each member (studies/answer_json.hpp).
//
//     ByteWriter out;
//     out.put(mode);
//     ByteReader in(out.bytes());
//     in.get(copy); // throws ArchiveError where the bytes end too early or cannot be meant

struct ArchiveError : std::runtime_error {
    using std::runtime_error::runtime_error;
};

/// Words, one a member; as many as there are members, or it does not compile.
template <std::size_t n>
struct FieldNames {
    std::array<std::string_view, n> names{};

    consteval FieldNames(const char* text)
    {
        std::string_view rest = text;
        for (std::size_t at = 0; at < n; ++at) {
            const std::size_t end = rest.find(' ');
            if (rest.empty() || (end == rest.npos) != (at + 1 == n)) throw "as many names as members, a blank between";
            names[at] = rest.substr(0, end);
            rest.remove_prefix(at + 1 == n ? rest.size() : end + 1);
        }
    }
};
template <class... T>
struct NamedFields {
    std::array<std::string_view, sizeof...(T)> names;
    std::tuple<T&...> values;
};
template <class... T>
NamedFields<T...> named(std::type_identity_t<FieldNames<sizeof...(T)>> names, T&... values)
{
    return {names.names, std::tie(values...)};
}

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
    template <class T>
    void put(const std::optional<T>& value)
    {
        put(value.has_value());
        if (value) put(*value);
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
        std::apply([this](const auto&... each) { (this->put(each), ...); }, fields(const_cast<T&>(value)).values);
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
    template <class T>
    void get(std::optional<T>& value)
    {
        bool there = false;
        get(there);
        value.reset();
        if (there) get(value.emplace());
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
        std::apply([this](auto&... each) { (this->get(each), ...); }, fields(value).values);
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

/// Stands for a value of any type while members are counted.
struct Anything {
    template <class T>
    operator T() const; // never called
};

/// How many members an aggregate has: as many values as it can begin with.
template <class T, class... Values>
consteval std::size_t memberCount()
{
    if constexpr (requires { T{Values{}..., Anything{}}; })
        return memberCount<T, Values..., Anything>();
    else
        return sizeof...(Values);
}

/// Whether the fields of each are all that it has: `static_assert(allNamed<Mode>())` beside them, or a member that is
/// added later would be left behind without a word.
template <class... T>
consteval bool allNamed()
{
    return ((std::tuple_size_v<decltype(fields(std::declval<T&>()).values)> == memberCount<T>()) && ...);
}

template <class T>
std::string bytesOf(const T& value)
{
    ByteWriter out;
    out.put(value);
    return out.bytes();
}

/// Throws ArchiveError where the bytes are not those of one such value.
template <class T>
T valueFrom(std::string_view bytes)
{
    T value;
    ByteReader in(bytes);
    in.get(value);
    if (!in.atEnd()) throw ArchiveError("a message is longer than what it says");
    return value;
}

} // namespace undisona
