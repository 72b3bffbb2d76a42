#pragma once
#include <condition_variable>
#include <exception>
#include <functional>
#include <mutex>
#include <thread>
#include <vector>

namespace undisona {

/// Threads that wait for work. run(f) calls f(0) here and f(1) ... f(count-1) on the others, and returns when all
/// have ended. What one of them throws is thrown on from there, the first if there are several.
class Workers {
public:
    explicit Workers(int count);
    ~Workers();
    Workers(const Workers&) = delete;
    Workers& operator=(const Workers&) = delete;

    int count() const { return static_cast<int>(threads_.size()) + 1; }
    void run(const std::function<void(int)>& work);
    /// Calls work(at) for each of so many, a run of them by thread.
    template <class Work>
    void forEach(std::size_t count, const Work& work)
    {
        const auto hands = static_cast<std::size_t>(this->count());
        run([&](int hand) {
            const auto own = static_cast<std::size_t>(hand);
            for (std::size_t at = count * own / hands; at < count * (own + 1) / hands; ++at)
                work(at);
        });
    }

private:
    void wait(int which);
    void guarded(const std::function<void(int)>& work, int which);

    std::vector<std::thread> threads_;
    std::mutex mutex_;
    std::condition_variable begin_, end_;
    const std::function<void(int)>* work_ = nullptr;
    std::uint64_t round_ = 0;
    int busy_ = 0;
    std::exception_ptr failure_;
    bool leaving_ = false;
};

} // namespace undisona
