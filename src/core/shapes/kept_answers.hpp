#pragma once
#include "core/base/kept_store.hpp"

#include <atomic>
#include <list>
#include <mutex>
#include <optional>
#include <utility>
#include <vector>

namespace undisona {

/// What was computed lately, by every number it followed from: the last few of a kind, as long as the process has room
/// for them beside all else that it keeps (KeptStore). Safe from several threads.
template <class Answer>
class KeptAnswers {
public:
    /// `megabytes` tells about how large one is; without it they count as small.
    explicit KeptAnswers(
        std::size_t most, double (*megabytes)(const Answer&) = [](const Answer&) { return 0.01; })
        : most_(most), megabytes_(megabytes)
    {
    }

    std::optional<Answer> find(const std::vector<double>& key)
    {
        const std::lock_guard lock(mutex_);
        for (auto at = kept_.begin(); at != kept_.end(); ++at)
            if (at->key == key) {
                kept_.splice(kept_.begin(), kept_, at);
                KeptStore::ofProcess().use(at->ticket);
                return at->answer;
            }
        return std::nullopt;
    }
    void keep(std::vector<double> key, Answer answer)
    {
        auto& store = KeptStore::ofProcess();
        const std::uint64_t own = numbers_.fetch_add(1) + 1;
        const double size = megabytes_(answer);
        {
            const std::lock_guard lock(mutex_);
            kept_.push_front({std::move(key), std::move(answer), own, 0});
            if (kept_.size() > most_) {
                store.forget(kept_.back().ticket);
                kept_.pop_back();
            }
        }
        const auto ticket = store.keep(size, [this, own] { // which may drop others, of this kind too
            const std::lock_guard lock(mutex_);
            kept_.remove_if([&](const Kept& one) { return one.number == own; });
        });
        const std::lock_guard lock(mutex_);
        for (auto& one : kept_)
            if (one.number == own) one.ticket = ticket;
    }

private:
    struct Kept {
        std::vector<double> key;
        Answer answer;
        std::uint64_t number;
        KeptStore::Ticket ticket;
    };
    std::size_t most_;
    double (*megabytes_)(const Answer&);
    std::atomic<std::uint64_t> numbers_ = 0;
    std::mutex mutex_;
    std::list<Kept> kept_;
};

} // namespace undisona
