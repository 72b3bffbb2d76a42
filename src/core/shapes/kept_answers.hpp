#pragma once
#include <list>
#include <mutex>
#include <optional>
#include <utility>
#include <vector>

namespace undisona {

/// What was computed lately, by every number it followed from. Safe from several threads.
template <class Answer>
class KeptAnswers {
public:
    explicit KeptAnswers(std::size_t most) : most_(most) {}

    std::optional<Answer> find(const std::vector<double>& key)
    {
        const std::lock_guard lock(mutex_);
        for (auto at = kept_.begin(); at != kept_.end(); ++at)
            if (at->first == key) {
                kept_.splice(kept_.begin(), kept_, at);
                return kept_.front().second;
            }
        return std::nullopt;
    }
    void keep(std::vector<double> key, Answer answer)
    {
        const std::lock_guard lock(mutex_);
        kept_.emplace_front(std::move(key), std::move(answer));
        if (kept_.size() > most_) kept_.pop_back();
    }

private:
    std::size_t most_;
    std::mutex mutex_;
    std::list<std::pair<std::vector<double>, Answer>> kept_;
};

} // namespace undisona
