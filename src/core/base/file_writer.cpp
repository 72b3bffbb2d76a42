#include "core/base/file_writer.hpp"

#include <fmt/format.h>

#include <cerrno>
#include <cstdio>
#include <cstring>
#include <filesystem>
#include <iostream>
#include <random>

#include <fcntl.h>
#include <sys/stat.h>
#include <unistd.h>

namespace undisona {

namespace {

/// A file descriptor that is closed in any case.
class Opened {
public:
    explicit Opened(int descriptor) : descriptor_(descriptor) {}
    Opened(const Opened&) = delete;
    Opened& operator=(const Opened&) = delete;
    ~Opened() { close(); }
    explicit operator bool() const { return descriptor_ >= 0; }
    int get() const { return descriptor_; }
    bool close()
    {
        const int descriptor = std::exchange(descriptor_, -1);
        return descriptor < 0 || ::close(descriptor) == 0;
    }
    bool put(std::string_view bytes) const
    {
        while (!bytes.empty()) {
            const auto size = ::write(descriptor_, bytes.data(), bytes.size());
            if (size < 0 && errno == EINTR) continue;
            if (size < 0) return false;
            bytes.remove_prefix(static_cast<std::size_t>(size));
        }
        return true;
    }

private:
    int descriptor_;
};

Finding notWritten(const std::string& path, int error)
{
    std::string what = "this file cannot be written: ", remedy;
    switch (error) {
    case ENOSPC:
    case EDQUOT:
        what += "the disk is full";
        remedy = "Make room, or write it elsewhere.";
        break;
    case ENOENT:
    case ENOTDIR:
        what += "its folder does not exist";
        remedy = "Make the folder, or name another.";
        break;
    case EISDIR:
        what += "it is a folder";
        remedy = "Name a file.";
        break;
    case EACCES:
    case EPERM:
    case EROFS:
        what += "writing there is not allowed";
        remedy = "Write it elsewhere, or change who may write there.";
        break;
    case EFBIG:
        what += "it is larger than files may be there";
        remedy = "Write it elsewhere.";
        break;
    case ELOOP:
        what += "its links lead round in a circle";
        remedy = "Name the file itself.";
        break;
    case 0:
        what += "it ended before all was written";
        break;
    default:
        what += std::strerror(error);
        remedy = "Write it elsewhere.";
    }
    return {Severity::error, what, remedy + " What was there is as it was.", {}, path};
}

/// The file that the name leads to, link by link, be it there or not.
std::optional<std::filesystem::path> target(std::filesystem::path path)
{
    std::error_code error;
    for (int link = 0; link < 40; ++link) {
        if (!std::filesystem::is_symlink(std::filesystem::symlink_status(path, error))) return path;
        const auto to = std::filesystem::read_symlink(path, error);
        if (error) return std::nullopt;
        path = to.is_absolute() ? to : path.parent_path() / to;
    }
    return std::nullopt;
}

std::string unguessable()
{
    std::random_device entropy;
    return fmt::format("{:08x}{:08x}{:08x}", entropy(), entropy(), entropy());
}

std::optional<Finding> writeInto(const std::string& path, std::string_view bytes)
{
    Opened file(::open(path.c_str(), O_WRONLY | O_CLOEXEC));
    if (!file || !file.put(bytes) || !file.close()) return notWritten(path, errno);
    return std::nullopt;
}

} // namespace

bool sameFile(const std::string& path, const std::string& other)
{
    struct stat one {
    }, two{};
    return ::stat(path.c_str(), &one) == 0 && ::stat(other.c_str(), &two) == 0 && one.st_dev == two.st_dev &&
           one.st_ino == two.st_ino;
}

bool isWriteProtected(const std::string& path)
{
    struct stat there {};
    if (::stat(path.c_str(), &there) != 0) return false;
    return (there.st_mode & 0222) == 0 || ::access(path.c_str(), W_OK) != 0;
}

namespace {

/// What lies in one file into another that is there, which becomes as long.
bool copyOver(const std::string& from, const std::string& to)
{
    const Opened source(::open(from.c_str(), O_RDONLY | O_CLOEXEC));
    Opened target(::open(to.c_str(), O_WRONLY | O_CLOEXEC));
    if (!source || !target) return false;
    std::string piece(1 << 16, '\0');
    off_t length = 0;
    while (true) {
        const auto size = ::read(source.get(), piece.data(), piece.size());
        if (size < 0 && errno == EINTR) continue;
        if (size < 0) return false;
        if (size == 0) break;
        if (!target.put(std::string_view(piece).substr(0, static_cast<std::size_t>(size)))) return false;
        length += size;
    }
    return ::ftruncate(target.get(), length) == 0 && target.close();
}

/// Fills a file beside the one with the name, empty and open at first, and puts it in that one's place; `intoPipes`
/// writes into what is no plain file.
std::optional<Finding>
writeWhole(const std::string& path, const WriteRules& rules,
           const std::function<std::optional<Finding>(const Opened&, const std::string& beside)>& fill,
           const std::function<std::optional<Finding>(const std::string&)>& intoPipes)
{
    for (const auto& input : rules.inputs)
        if (sameFile(path, input))
            return Finding{Severity::error,
                           "this file is read by the same run and would be lost",
                           "Give another name to write to.",
                           {},
                           path};
    if (path.empty()) return notWritten(path, ENOENT);
    const auto led = target(path);
    if (!led) return notWritten(path, ELOOP);
    const std::string place = led->string();
    struct stat there {};
    const bool exists = ::stat(place.c_str(), &there) == 0;
    if (exists && S_ISDIR(there.st_mode)) return notWritten(path, EISDIR);
    if (exists && !S_ISREG(there.st_mode)) return intoPipes(place);
    if (exists && !rules.overProtection && isWriteProtected(place))
        return Finding{Severity::error,
                       "this file is protected from being written",
                       "Write it elsewhere, or take the protection off.",
                       {},
                       path};

    const auto folder = led->has_parent_path() ? led->parent_path() : std::filesystem::path(".");
    const std::string beside =
        (folder / ("." + led->filename().string().substr(0, 100) + "." + unguessable())).string();
    Opened file(::open(beside.c_str(), O_WRONLY | O_CREAT | O_EXCL | O_NOFOLLOW | O_CLOEXEC, 0666));
    if (!file) return notWritten(path, errno);
    const auto failed = [&](int error) {
        ::unlink(beside.c_str());
        return notWritten(path, error);
    };
    if (auto problem = fill(file, beside)) {
        ::unlink(beside.c_str());
        return problem;
    }
    const bool othersFile =
        exists && there.st_uid != ::geteuid() && ::fchown(file.get(), there.st_uid, there.st_gid) != 0;
    if (exists && !othersFile) {
        if (there.st_gid != ::getegid() && ::fchown(file.get(), static_cast<uid_t>(-1), there.st_gid) != 0)
            errno = 0; // a group that is not ours stays behind; who may read it is said by the mode
        if (::fchmod(file.get(), there.st_mode & 07777) != 0) return failed(errno);
    }
    if (::fsync(file.get()) != 0 || !file.close()) return failed(errno);
    if (othersFile) { // to stay theirs, it is written where it lies; the copy goes when that has succeeded
        if (!copyOver(beside, place)) {
            auto problem = notWritten(path, errno);
            problem.remedy = "What should stand there lies whole in " + beside + ".";
            return problem;
        }
        ::unlink(beside.c_str());
        return std::nullopt;
    }
    if (::rename(beside.c_str(), place.c_str()) != 0) return failed(errno);
    if (Opened directory(::open(folder.c_str(), O_RDONLY | O_DIRECTORY | O_CLOEXEC)); directory)
        ::fsync(directory.get()); // the name too; not every file system can
    return std::nullopt;
}

} // namespace

std::optional<Finding> writeWholeFile(const std::string& path, std::string_view bytes, const WriteRules& rules)
{
    return writeWhole(
        path, rules,
        [&](const Opened& file, const std::string&) -> std::optional<Finding> {
            if (!file.put(bytes)) return notWritten(path, errno);
            return std::nullopt;
        },
        [&](const std::string& pipe) { return writeInto(pipe, bytes); });
}

std::optional<Finding> writeWholeFile(const std::string& path,
                                      const std::function<std::optional<Finding>(const std::string& beside)>& fill,
                                      const WriteRules& rules)
{
    return writeWhole(
        path, rules, [&](const Opened&, const std::string& beside) { return fill(beside); },
        [&](const std::string&) {
            return Finding{
                Severity::error, "this is no plain file, as one of this kind must be", "Name a file.", {}, path};
        });
}

std::optional<Finding> closeStandardOutput()
{
    std::cout.flush();
    const bool whole = std::cout.good() && std::fflush(stdout) == 0;
    const int error = errno;
    if (whole && ::close(STDOUT_FILENO) == 0) return std::nullopt;
    Finding finding = notWritten("standard output", whole ? errno : error);
    finding.remedy = "What was written there is cut short.";
    return finding;
}

} // namespace undisona
