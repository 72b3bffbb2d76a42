#pragma once
#include "core/base/archive.hpp"
#include "core/hdf5/hdf5_group.hpp"

#include <concepts>

namespace undisona {

// Any value with fields (base/archive.hpp) in an HDF5 file, each member under its name, and back:
//
//     number, truth           a number alone
//     word of a kind          its word, as text
//     matrix                  rows x columns; a single column one dimension
//     list of numbers, texts  one dimension
//     list of alike things    a group that has a list of each member, and "count"
//     any other list          a group of "0", "1", ... and "count"
//     texts to values         a group of "names" and "values"
//     what is not there       nothing

/// A kind of things whose words are told by wordOf; beyond the last kind they are empty.
template <class T>
concept Kinds = std::is_enum_v<T> && requires(T value)
{
    {
        wordOf(value)
        } -> std::convertible_to<std::string_view>;
};

template <class T>
concept Number = std::is_arithmetic_v<T>;
template <class T>
concept Fixed = Dense<T> && T::SizeAtCompileTime != Eigen::Dynamic;

class Hdf5Writer {
public:
    explicit Hdf5Writer(Hdf5Group group) : group_(std::move(group)) {}

    template <Number T>
    void put(const std::string& name, const T& value) const
    {
        group_.write(name, numberKind<T>(), &value, {});
    }
    template <Kinds T>
    void put(const std::string& name, const T& value) const
    {
        group_.writeText(name, std::string(std::string_view(wordOf(value))));
    }
    void put(const std::string& name, const std::string& text) const { group_.writeText(name, text); }
    template <Dense T>
    void put(const std::string& name, const T& matrix) const
    {
        constexpr NumberKind kind = numberKind<typename T::Scalar>();
        const auto rows = static_cast<std::uint64_t>(matrix.rows()),
                   columns = static_cast<std::uint64_t>(matrix.cols());
        if constexpr (T::ColsAtCompileTime == 1)
            group_.write(name, kind, matrix.data(), {rows});
        else
            group_.writeColumns(name, kind, matrix.data(), rows, columns);
    }
    template <class T>
    void put(const std::string& name, const std::optional<T>& value) const
    {
        if (value) put(name, *value);
    }
    template <class T>
    void put(const std::string& name, const std::map<std::string, T>& values) const
    {
        const Hdf5Writer inside(group_.newGroup(name));
        std::vector<std::string> names;
        std::vector<T> list;
        for (const auto& [key, value] : values) {
            names.push_back(key);
            list.push_back(value);
        }
        inside.put("names", names);
        inside.put("values", list);
    }
    template <class T, std::size_t n>
    void put(const std::string& name, const std::array<T, n>& values) const
    {
        put(name, std::vector<T>(values.begin(), values.end()));
    }
    template <class T>
    void put(const std::string& name, const std::vector<T>& list) const
    {
        const std::uint64_t count = list.size();
        if constexpr (std::is_same_v<T, bool>) {
            const std::vector<std::uint8_t> bits(list.begin(), list.end());
            group_.write(name, NumberKind::u8, bits.data(), {count});
        } else if constexpr (Number<T>) {
            group_.write(name, numberKind<T>(), list.data(), {count});
        } else if constexpr (std::is_same_v<T, std::string>) {
            group_.writeTexts(name, list);
        } else if constexpr (Kinds<T>) {
            std::vector<std::string> words;
            for (const T& value : list)
                words.emplace_back(std::string_view(wordOf(value)));
            group_.writeTexts(name, words);
        } else if constexpr (Fixed<T>) {
            std::vector<typename T::Scalar> flat;
            for (const T& value : list)
                flat.insert(flat.end(), value.data(), value.data() + value.size());
            group_.write(name, numberKind<typename T::Scalar>(), flat.data(),
                         {count, std::uint64_t(T::SizeAtCompileTime)});
        } else if constexpr (requires {
                                 typename T::value_type;
                                 std::tuple_size<T>::value;
                             }) {
            putArrays(name, list);
        } else {
            const Hdf5Writer inside(group_.newGroup(name));
            inside.group_.say("count", static_cast<std::int64_t>(count));
            if constexpr (Tied<T>)
                inside.putMembers(list);
            else
                for (std::size_t at = 0; at < list.size(); ++at)
                    inside.put(std::to_string(at), list[at]);
        }
    }
    template <Tied T>
    void put(const std::string& name, const T& value) const
    {
        const Hdf5Writer inside(group_.newGroup(name));
        const auto members = fields(const_cast<T&>(value));
        std::apply(
            [&](const auto&... each) {
                std::size_t at = 0;
                (inside.put(std::string(members.names[at++]), each), ...);
            },
            members.values);
    }

private:
    template <class T, std::size_t n>
    void putArrays(const std::string& name, const std::vector<std::array<T, n>>& list) const
    {
        static_assert(Number<T>);
        using Flat = std::conditional_t<std::is_same_v<T, bool>, std::uint8_t, T>;
        std::vector<Flat> flat;
        for (const auto& values : list)
            flat.insert(flat.end(), values.begin(), values.end());
        group_.write(name, numberKind<T>(), flat.data(), {std::uint64_t(list.size()), std::uint64_t(n)});
    }
    /// A list of each member.
    template <class T>
    void putMembers(const std::vector<T>& list) const
    {
        T some{};
        const auto members = fields(some);
        [&]<std::size_t... at>(std::index_sequence<at...>)
        {
            (
                [&] {
                    std::vector<std::remove_cvref_t<decltype(std::get<at>(members.values))>> column;
                    for (const T& value : list)
                        column.push_back(std::get<at>(fields(const_cast<T&>(value)).values));
                    put(std::string(members.names[at]), column);
                }(),
                ...);
        }
        (std::make_index_sequence<std::tuple_size_v<decltype(members.values)>>());
    }

    Hdf5Group group_;
};

/// Throws Hdf5Error where something is missing or of another size or kind.
class Hdf5Reader {
public:
    explicit Hdf5Reader(Hdf5Group group) : group_(std::move(group)) {}

    template <Number T>
    void get(const std::string& name, T& value) const
    {
        if (!group_.dimensions(name).empty()) throw Hdf5Error("\"" + name + "\" should be one number");
        group_.read(name, numberKind<T>(), &value);
    }
    template <Kinds T>
    void get(const std::string& name, T& value) const
    {
        std::string word;
        get(name, word);
        value = kindOf<T>(word);
    }
    void get(const std::string& name, std::string& text) const
    {
        auto texts = group_.texts(name);
        if (texts.size() != 1) throw Hdf5Error("\"" + name + "\" should be one text");
        text = std::move(texts[0]);
    }
    template <Dense T>
    void get(const std::string& name, T& matrix) const
    {
        constexpr NumberKind kind = numberKind<typename T::Scalar>();
        constexpr bool alone = T::ColsAtCompileTime == 1;
        auto size = group_.dimensions(name);
        if (alone) size.push_back(1);
        if (size.size() != 2 ||
            (T::RowsAtCompileTime != Eigen::Dynamic && size[0] != std::uint64_t(T::RowsAtCompileTime)) ||
            (T::ColsAtCompileTime != Eigen::Dynamic && size[1] != std::uint64_t(T::ColsAtCompileTime)))
            throw Hdf5Error("\"" + name + "\" is of another size");
        matrix.resize(static_cast<Eigen::Index>(size[0]), static_cast<Eigen::Index>(size[1]));
        if constexpr (alone)
            group_.read(name, kind, matrix.data());
        else
            group_.readColumns(name, kind, matrix.data(), size[0], size[1]);
    }
    template <class T>
    void get(const std::string& name, std::optional<T>& value) const
    {
        value.reset();
        if (group_.has(name)) get(name, value.emplace());
    }
    template <class T>
    void get(const std::string& name, std::map<std::string, T>& values) const
    {
        const Hdf5Reader inside(group_.group(name));
        std::vector<std::string> names;
        std::vector<T> list;
        inside.get("names", names);
        inside.get("values", list);
        if (names.size() != list.size()) throw Hdf5Error("\"" + name + "\" has not as many values as names");
        values.clear();
        for (std::size_t at = 0; at < names.size(); ++at)
            values[names[at]] = list[at];
    }
    template <class T, std::size_t n>
    void get(const std::string& name, std::array<T, n>& values) const
    {
        std::vector<T> list;
        get(name, list);
        if (list.size() != n) throw Hdf5Error("\"" + name + "\" is of another size");
        std::copy(list.begin(), list.end(), values.begin());
    }
    template <class T>
    void get(const std::string& name, std::vector<T>& list) const
    {
        if constexpr (std::is_same_v<T, bool>) {
            const auto bits = numbers<std::uint8_t>(name, 1);
            list.assign(bits.begin(), bits.end());
        } else if constexpr (Number<T>) {
            list = numbers<T>(name, 1);
        } else if constexpr (std::is_same_v<T, std::string>) {
            list = group_.texts(name);
        } else if constexpr (Kinds<T>) {
            list.clear();
            for (const auto& word : group_.texts(name))
                list.push_back(kindOf<T>(word));
        } else if constexpr (Fixed<T>) {
            const auto flat = numbers<typename T::Scalar>(name, T::SizeAtCompileTime);
            list.resize(flat.size() / T::SizeAtCompileTime);
            for (std::size_t at = 0; at < list.size(); ++at)
                std::copy_n(flat.begin() + static_cast<long>(at * T::SizeAtCompileTime), T::SizeAtCompileTime,
                            list[at].data());
        } else if constexpr (requires {
                                 typename T::value_type;
                                 std::tuple_size<T>::value;
                             }) {
            getArrays(name, list);
        } else {
            const Hdf5Reader inside(group_.group(name));
            const auto count = inside.group_.number("count");
            list.clear();
            if constexpr (Tied<T>)
                inside.getMembers(count, list);
            else
                for (std::int64_t at = 0; at < count; ++at)
                    inside.get(std::to_string(at), list.emplace_back());
        }
    }
    template <Tied T>
    void get(const std::string& name, T& value) const
    {
        const Hdf5Reader inside(group_.group(name));
        auto members = fields(value);
        std::apply(
            [&](auto&... each) {
                std::size_t at = 0;
                (inside.get(std::string(members.names[at++]), each), ...);
            },
            members.values);
    }

private:
    template <class T>
    static T kindOf(const std::string& word)
    {
        for (int at = 0; !wordOf(static_cast<T>(at)).empty(); ++at)
            if (wordOf(static_cast<T>(at)) == word) return static_cast<T>(at);
        throw Hdf5Error("nothing is known of the kind \"" + word + "\"");
    }
    /// A list of so many numbers each.
    template <class T>
    std::vector<T> numbers(const std::string& name, std::uint64_t each) const
    {
        const auto size = group_.dimensions(name);
        if (size.size() != (each == 1 ? 1 : 2) || (each > 1 && size[1] != each))
            throw Hdf5Error("\"" + name + "\" is of another size");
        std::vector<T> list(size[0] * each);
        group_.read(name, numberKind<T>(), list.data());
        return list;
    }
    template <class T, std::size_t n>
    void getArrays(const std::string& name, std::vector<std::array<T, n>>& list) const
    {
        using Flat = std::conditional_t<std::is_same_v<T, bool>, std::uint8_t, T>;
        const auto flat = numbers<Flat>(name, n);
        list.resize(flat.size() / n);
        for (std::size_t at = 0; at < flat.size(); ++at)
            list[at / n][at % n] = static_cast<T>(flat[at]);
    }
    template <class T>
    void getMembers(std::int64_t count, std::vector<T>& list) const
    {
        T some{};
        const auto members = fields(some);
        [&]<std::size_t... at>(std::index_sequence<at...>)
        {
            (
                [&] {
                    std::vector<std::remove_cvref_t<decltype(std::get<at>(members.values))>> column;
                    const std::string name(members.names[at]);
                    get(name, column);
                    if (static_cast<std::int64_t>(column.size()) != count)
                        throw Hdf5Error("\"" + name + "\" is of another length than what stands beside it");
                    list.resize(column.size());
                    for (std::size_t row = 0; row < column.size(); ++row)
                        std::get<at>(fields(list[row]).values) = column[row];
                }(),
                ...);
        }
        (std::make_index_sequence<std::tuple_size_v<decltype(members.values)>>());
    }

    Hdf5Group group_;
};

} // namespace undisona
