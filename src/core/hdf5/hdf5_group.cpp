#include "core/hdf5/hdf5_group.hpp"

#include <hdf5.h>

#include <algorithm>
#include <array>

namespace undisona {

/// An object of the library that is closed in any case.
class Hdf5Group::Handle {
public:
    using Close = herr_t (*)(hid_t);
    Handle(hid_t id, Close close, const std::string& otherwise) : id_(id), close_(close)
    {
        if (id < 0) throw Hdf5Error(otherwise);
    }
    Handle(const Handle&) = delete;
    Handle& operator=(const Handle&) = delete;
    ~Handle()
    {
        if (id_ >= 0) close_(id_);
    }
    operator hid_t() const { return id_; }

private:
    hid_t id_;
    Close close_;
};

namespace {

constexpr std::uint64_t smallCount = 1 << 14; // numbers of a matrix beyond which each column lies in pieces of its own

/// Errors are told by what the functions answer, not on the standard error.
void beQuiet()
{
    H5Eset_auto2(H5E_DEFAULT, nullptr, nullptr);
}

hid_t typeOf(NumberKind kind)
{
    switch (kind) {
    case NumberKind::u8:
        return H5T_NATIVE_UINT8;
    case NumberKind::i32:
        return H5T_NATIVE_INT32;
    case NumberKind::i64:
        return H5T_NATIVE_INT64;
    case NumberKind::u64:
        return H5T_NATIVE_UINT64;
    case NumberKind::f32:
        return H5T_NATIVE_FLOAT;
    case NumberKind::f64:
        return H5T_NATIVE_DOUBLE;
    }
    throw Hdf5Error("no such kind of number");
}

void must(herr_t answer, const std::string& otherwise)
{
    if (answer < 0) throw Hdf5Error(otherwise);
}

/// How files are opened: without locks, which not every file system has; a file is replaced as a whole, never changed.
hid_t withoutLocks()
{
    const hid_t access = H5Pcreate(H5P_FILE_ACCESS);
    H5Pset_file_locking(access, false, true);
    return access;
}

std::string cannotWrite(const std::string& name)
{
    return "\"" + name + "\" cannot be written";
}
std::string cannotRead(const std::string& name)
{
    return "\"" + name + "\" is not there or cannot be read";
}

} // namespace

Hdf5Group Hdf5Group::created(const std::string& path, const Progress* progress)
{
    beQuiet();
    Hdf5Group group;
    group.progress_ = progress;
    const Handle access(withoutLocks(), H5Pclose, "the file cannot be made");
    group.file_ = std::make_shared<Handle>(H5Fcreate(path.c_str(), H5F_ACC_TRUNC, H5P_DEFAULT, access), H5Fclose,
                                           "the file cannot be made");
    group.group_ = std::make_shared<Handle>(H5Gopen2(*group.file_, "/", H5P_DEFAULT), H5Gclose, cannotRead("/"));
    return group;
}

Hdf5Group Hdf5Group::opened(const std::string& path)
{
    beQuiet();
    Hdf5Group group;
    const Handle access(withoutLocks(), H5Pclose, "the file cannot be opened");
    group.file_ = std::make_shared<Handle>(H5Fopen(path.c_str(), H5F_ACC_RDONLY, access), H5Fclose,
                                           "it is no HDF5 file, or only part of one");
    group.group_ = std::make_shared<Handle>(H5Gopen2(*group.file_, "/", H5P_DEFAULT), H5Gclose, cannotRead("/"));
    return group;
}

bool Hdf5Group::isOne(const std::string& path)
{
    beQuiet();
    return H5Fis_hdf5(path.c_str()) > 0;
}

Hdf5Group Hdf5Group::group(const std::string& name) const
{
    Hdf5Group child(*this);
    child.group_ = std::make_shared<Handle>(H5Gopen2(*group_, name.c_str(), H5P_DEFAULT), H5Gclose, cannotRead(name));
    return child;
}

Hdf5Group Hdf5Group::newGroup(const std::string& name) const
{
    Hdf5Group child(*this);
    child.group_ = std::make_shared<Handle>(H5Gcreate2(*group_, name.c_str(), H5P_DEFAULT, H5P_DEFAULT, H5P_DEFAULT),
                                            H5Gclose, cannotWrite(name));
    return child;
}

bool Hdf5Group::has(const std::string& name) const
{
    return H5Lexists(*group_, name.c_str(), H5P_DEFAULT) > 0;
}

std::vector<std::string> Hdf5Group::names() const
{
    H5G_info_t info{};
    must(H5Gget_info(*group_, &info), "what is in a group cannot be read");
    std::vector<std::string> names;
    for (hsize_t at = 0; at < info.nlinks; ++at) {
        const auto nameAt = [&](char* to, std::size_t room) {
            return H5Lget_name_by_idx(*group_, ".", H5_INDEX_NAME, H5_ITER_INC, at, to, room, H5P_DEFAULT);
        };
        const auto length = nameAt(nullptr, 0);
        if (length < 0) throw Hdf5Error("what is in a group cannot be read");
        std::string name(static_cast<std::size_t>(length), ' ');
        if (nameAt(name.data(), name.size() + 1) < 0) throw Hdf5Error("what is in a group cannot be read");
        names.push_back(std::move(name));
    }
    return names;
}

void Hdf5Group::copyFrom(const Hdf5Group& other, const std::string& name) const
{
    must(H5Ocopy(*other.group_, name.c_str(), *group_, name.c_str(), H5P_DEFAULT, H5P_DEFAULT), cannotWrite(name));
}

namespace {

/// Texts of any length, in UTF-8.
template <class Handle>
Handle textType()
{
    const hid_t type = H5Tcopy(H5T_C_S1);
    H5Tset_size(type, H5T_VARIABLE);
    H5Tset_cset(type, H5T_CSET_UTF8);
    return Handle(type, H5Tclose, "texts cannot be written");
}

} // namespace

void Hdf5Group::writeTexts(const std::string& name, const std::vector<std::string>& texts) const
{
    const auto type = textType<Handle>();
    const hsize_t count = texts.size();
    const Handle space(H5Screate_simple(1, &count, nullptr), H5Sclose, cannotWrite(name));
    const Handle set(H5Dcreate2(*group_, name.c_str(), type, space, H5P_DEFAULT, H5P_DEFAULT, H5P_DEFAULT), H5Dclose,
                     cannotWrite(name));
    if (texts.empty()) return;
    std::vector<const char*> all;
    for (const auto& text : texts)
        all.push_back(text.c_str());
    must(H5Dwrite(set, type, H5S_ALL, H5S_ALL, H5P_DEFAULT, all.data()), cannotWrite(name));
}

void Hdf5Group::writeText(const std::string& name, const std::string& text) const
{
    const auto type = textType<Handle>();
    const Handle space(H5Screate(H5S_SCALAR), H5Sclose, cannotWrite(name));
    const Handle set(H5Dcreate2(*group_, name.c_str(), type, space, H5P_DEFAULT, H5P_DEFAULT, H5P_DEFAULT), H5Dclose,
                     cannotWrite(name));
    const char* only = text.c_str();
    must(H5Dwrite(set, type, H5S_ALL, H5S_ALL, H5P_DEFAULT, &only), cannotWrite(name));
}

std::vector<std::string> Hdf5Group::texts(const std::string& name) const
{
    const Handle set(H5Dopen2(*group_, name.c_str(), H5P_DEFAULT), H5Dclose, cannotRead(name));
    const Handle its(H5Dget_type(set), H5Tclose, cannotRead(name));
    if (H5Tis_variable_str(its) <= 0) throw Hdf5Error("\"" + name + "\" should be text");
    const Handle space(H5Dget_space(set), H5Sclose, cannotRead(name));
    const auto count = H5Sget_simple_extent_npoints(space);
    if (count < 0 || static_cast<hsize_t>(count) * 16 > H5Dget_storage_size(set) + 16)
        throw Hdf5Error(cannotRead(name));
    std::vector<std::string> texts;
    if (count == 0) return texts;
    const auto type = textType<Handle>();
    std::vector<char*> all(static_cast<std::size_t>(count), nullptr);
    must(H5Dread(set, type, H5S_ALL, H5S_ALL, H5P_DEFAULT, all.data()), cannotRead(name));
    for (const char* text : all)
        texts.emplace_back(text ? text : "");
    H5Dvlen_reclaim(type, space, H5P_DEFAULT, all.data());
    return texts;
}

void Hdf5Group::write(const std::string& name, NumberKind kind, const void* from,
                      const std::vector<std::uint64_t>& dimensions) const
{
    if (progress_ && progress_->stopped()) throw Hdf5Error("writing was stopped");
    const std::vector<hsize_t> sizes(dimensions.begin(), dimensions.end());
    const Handle space(sizes.empty() ? H5Screate(H5S_SCALAR)
                                     : H5Screate_simple(static_cast<int>(sizes.size()), sizes.data(), nullptr),
                       H5Sclose, cannotWrite(name));
    const Handle set(H5Dcreate2(*group_, name.c_str(), typeOf(kind), space, H5P_DEFAULT, H5P_DEFAULT, H5P_DEFAULT),
                     H5Dclose, cannotWrite(name));
    if (H5Sget_simple_extent_npoints(space) > 0)
        must(H5Dwrite(set, typeOf(kind), H5S_ALL, H5S_ALL, H5P_DEFAULT, from), cannotWrite(name));
}

void Hdf5Group::writeColumns(const std::string& name, NumberKind kind, const void* from, std::uint64_t rows,
                             std::uint64_t columns) const
{
    const std::array<hsize_t, 2> sizes{rows, columns};
    const Handle space(H5Screate_simple(2, sizes.data(), nullptr), H5Sclose, cannotWrite(name));
    const Handle how(H5Pcreate(H5P_DATASET_CREATE), H5Pclose, cannotWrite(name));
    if (rows * columns > smallCount) {
        constexpr hsize_t most = 1 << 20;
        const std::array<hsize_t, 2> chunk{std::min<hsize_t>(rows, most), 1};
        must(H5Pset_chunk(how, 2, chunk.data()), cannotWrite(name));
    }
    const Handle set(H5Dcreate2(*group_, name.c_str(), typeOf(kind), space, H5P_DEFAULT, how, H5P_DEFAULT), H5Dclose,
                     cannotWrite(name));
    const std::size_t step = rows * H5Tget_size(typeOf(kind));
    const std::array<hsize_t, 2> one{rows, 1};
    const Handle column(H5Screate_simple(2, one.data(), nullptr), H5Sclose, cannotWrite(name));
    for (hsize_t at = 0; rows > 0 && at < columns; ++at) {
        if (progress_ && progress_->stopped()) throw Hdf5Error("writing was stopped");
        const std::array<hsize_t, 2> start{0, at};
        must(H5Sselect_hyperslab(space, H5S_SELECT_SET, start.data(), nullptr, one.data(), nullptr), cannotWrite(name));
        must(H5Dwrite(set, typeOf(kind), column, space, H5P_DEFAULT, static_cast<const char*>(from) + at * step),
             cannotWrite(name));
    }
}

void Hdf5Group::writeSlices(const std::string& name, NumberKind kind, const std::vector<std::uint64_t>& dimensions,
                            const std::function<void(std::uint64_t which, void* to)>& fill) const
{
    const std::vector<hsize_t> sizes(dimensions.begin(), dimensions.end());
    std::vector<hsize_t> one(sizes), start(sizes.size(), 0);
    one[0] = 1;
    std::size_t bytes = H5Tget_size(typeOf(kind));
    for (const hsize_t size : one)
        bytes *= size;
    const int rank = static_cast<int>(sizes.size());
    const Handle space(H5Screate_simple(rank, sizes.data(), nullptr), H5Sclose, cannotWrite(name));
    const Handle slice(H5Screate_simple(rank, one.data(), nullptr), H5Sclose, cannotWrite(name));
    const Handle set(H5Dcreate2(*group_, name.c_str(), typeOf(kind), space, H5P_DEFAULT, H5P_DEFAULT, H5P_DEFAULT),
                     H5Dclose, cannotWrite(name));
    std::vector<char> numbers(bytes);
    for (hsize_t at = 0; bytes > 0 && at < sizes[0]; ++at) {
        if (progress_ && progress_->stopped()) throw Hdf5Error("writing was stopped");
        fill(at, numbers.data());
        start[0] = at;
        must(H5Sselect_hyperslab(space, H5S_SELECT_SET, start.data(), nullptr, one.data(), nullptr), cannotWrite(name));
        must(H5Dwrite(set, typeOf(kind), slice, space, H5P_DEFAULT, numbers.data()), cannotWrite(name));
    }
}

std::vector<std::uint64_t> Hdf5Group::dimensions(const std::string& name) const
{
    const Handle set(H5Dopen2(*group_, name.c_str(), H5P_DEFAULT), H5Dclose, cannotRead(name));
    const Handle space(H5Dget_space(set), H5Sclose, cannotRead(name));
    const int rank = H5Sget_simple_extent_ndims(space);
    if (rank < 0) throw Hdf5Error(cannotRead(name));
    std::vector<hsize_t> sizes(static_cast<std::size_t>(rank));
    if (rank > 0) must(H5Sget_simple_extent_dims(space, sizes.data(), nullptr), cannotRead(name));
    // Nothing is believed to be larger than what lies in the file: none of it is packed.
    const Handle its(H5Dget_type(set), H5Tclose, cannotRead(name));
    hsize_t bytes = H5Tget_size(its);
    for (const hsize_t size : sizes)
        if (size > 0 && __builtin_mul_overflow(bytes, size, &bytes)) throw Hdf5Error(cannotRead(name));
    if (!std::count(sizes.begin(), sizes.end(), hsize_t(0)) && H5Dget_storage_size(set) < bytes)
        throw Hdf5Error("\"" + name + "\" is not whole");
    return {sizes.begin(), sizes.end()};
}

void Hdf5Group::read(const std::string& name, NumberKind kind, void* to) const
{
    const Handle set(H5Dopen2(*group_, name.c_str(), H5P_DEFAULT), H5Dclose, cannotRead(name));
    const Handle space(H5Dget_space(set), H5Sclose, cannotRead(name));
    if (H5Sget_simple_extent_npoints(space) == 0) return;
    must(H5Dread(set, typeOf(kind), H5S_ALL, H5S_ALL, H5P_DEFAULT, to), cannotRead(name));
}

void Hdf5Group::readColumns(const std::string& name, NumberKind kind, void* to, std::uint64_t rows,
                            std::uint64_t columns) const
{
    const Handle set(H5Dopen2(*group_, name.c_str(), H5P_DEFAULT), H5Dclose, cannotRead(name));
    const Handle space(H5Dget_space(set), H5Sclose, cannotRead(name));
    const std::size_t step = rows * H5Tget_size(typeOf(kind));
    const std::array<hsize_t, 2> one{rows, 1};
    const Handle column(H5Screate_simple(2, one.data(), nullptr), H5Sclose, cannotRead(name));
    for (hsize_t at = 0; rows > 0 && at < columns; ++at) {
        const std::array<hsize_t, 2> start{0, at};
        must(H5Sselect_hyperslab(space, H5S_SELECT_SET, start.data(), nullptr, one.data(), nullptr), cannotRead(name));
        must(H5Dread(set, typeOf(kind), column, space, H5P_DEFAULT, static_cast<char*>(to) + at * step),
             cannotRead(name));
    }
}

void Hdf5Group::say(const std::string& name, const std::string& text) const
{
    const auto type = textType<Handle>();
    const Handle space(H5Screate(H5S_SCALAR), H5Sclose, cannotWrite(name));
    const Handle attribute(H5Acreate2(*group_, name.c_str(), type, space, H5P_DEFAULT, H5P_DEFAULT), H5Aclose,
                           cannotWrite(name));
    const char* only = text.c_str();
    must(H5Awrite(attribute, type, &only), cannotWrite(name));
}

void Hdf5Group::say(const std::string& name, std::int64_t number) const
{
    const Handle space(H5Screate(H5S_SCALAR), H5Sclose, cannotWrite(name));
    const Handle attribute(H5Acreate2(*group_, name.c_str(), H5T_NATIVE_INT64, space, H5P_DEFAULT, H5P_DEFAULT),
                           H5Aclose, cannotWrite(name));
    must(H5Awrite(attribute, H5T_NATIVE_INT64, &number), cannotWrite(name));
}

std::string Hdf5Group::said(const std::string& name) const
{
    const Handle attribute(H5Aopen(*group_, name.c_str(), H5P_DEFAULT), H5Aclose, cannotRead(name));
    const Handle its(H5Aget_type(attribute), H5Tclose, cannotRead(name));
    if (H5Tis_variable_str(its) <= 0) throw Hdf5Error("\"" + name + "\" should be text");
    const auto type = textType<Handle>();
    const Handle space(H5Aget_space(attribute), H5Sclose, cannotRead(name));
    if (H5Sget_simple_extent_npoints(space) != 1) throw Hdf5Error(cannotRead(name));
    char* text = nullptr;
    must(H5Aread(attribute, type, &text), cannotRead(name));
    std::string said = text ? text : "";
    H5Dvlen_reclaim(type, space, H5P_DEFAULT, &text);
    return said;
}

std::int64_t Hdf5Group::number(const std::string& name) const
{
    const Handle attribute(H5Aopen(*group_, name.c_str(), H5P_DEFAULT), H5Aclose, cannotRead(name));
    const Handle space(H5Aget_space(attribute), H5Sclose, cannotRead(name));
    if (H5Sget_simple_extent_npoints(space) != 1) throw Hdf5Error(cannotRead(name));
    std::int64_t number = 0;
    must(H5Aread(attribute, H5T_NATIVE_INT64, &number), cannotRead(name));
    return number;
}

void Hdf5Group::flush() const
{
    must(H5Fflush(*file_, H5F_SCOPE_GLOBAL), "the file cannot be written to its end");
}

} // namespace undisona
