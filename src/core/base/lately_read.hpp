#pragma once
#include <filesystem>
#include <list>
#include <memory>
#include <mutex>
#include <optional>
#include <string>

namespace undisona {

/// What the last few files held, until they change on the disk. Safe from several threads, one of which reads at a
/// time.
template <class File>
class LatelyRead {
public:
    explicit LatelyRead(std::size_t most) : most_(most) {}

    /// The file as it is known, or as `read` finds it, which gives a pointer and whether it may be kept. Nothing where
    /// there is no such file.
    template <class Read>
    std::shared_ptr<const File> at(const std::string& path, const Read& read)
    {
        const std::lock_guard lock(mutex_);
        std::error_code error;
        const auto changed = std::filesystem::last_write_time(path, error);
        const auto size = error ? 0 : std::filesystem::file_size(path, error);
        if (error) return nullptr;
        for (auto entry = entries_.begin(); entry != entries_.end(); ++entry)
            if (entry->path == path && entry->changed == changed && entry->size == size) {
                entries_.splice(entries_.begin(), entries_, entry);
                return entries_.front().file;
            }
        auto [file, keep] = read();
        if (!keep) return file;
        entries_.push_front({path, changed, size, file});
        if (entries_.size() > most_) entries_.pop_back();
        return file;
    }

private:
    struct Entry {
        std::string path;
        std::filesystem::file_time_type changed;
        std::uintmax_t size;
        std::shared_ptr<const File> file;
    };
    std::size_t most_;
    std::mutex mutex_;
    std::list<Entry> entries_;
};

} // namespace undisona
