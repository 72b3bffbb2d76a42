#include "core/numerics/workers.hpp"

#include <utility>

namespace undisona {

Workers::Workers(int count)
{
    for (int which = 1; which < count; ++which)
        threads_.emplace_back([this, which] { wait(which); });
}

Workers::~Workers()
{
    {
        const std::lock_guard lock(mutex_);
        leaving_ = true;
    }
    begin_.notify_all();
    for (auto& thread : threads_)
        thread.join();
}

void Workers::run(const std::function<void(int)>& work)
{
    if (threads_.empty()) return work(0);
    {
        const std::lock_guard lock(mutex_);
        work_ = &work;
        busy_ = static_cast<int>(threads_.size());
        ++round_;
    }
    begin_.notify_all();
    guarded(work, 0);
    std::unique_lock lock(mutex_);
    end_.wait(lock, [this] { return busy_ == 0; });
    if (failure_) std::rethrow_exception(std::exchange(failure_, nullptr));
}

void Workers::guarded(const std::function<void(int)>& work, int which)
{
    try {
        work(which);
    } catch (...) {
        const std::lock_guard lock(mutex_);
        if (!failure_) failure_ = std::current_exception();
    }
}

void Workers::wait(int which)
{
    std::uint64_t seen = 0;
    while (true) {
        const std::function<void(int)>* work = nullptr;
        {
            std::unique_lock lock(mutex_);
            begin_.wait(lock, [&] { return leaving_ || round_ != seen; });
            if (leaving_) return;
            seen = round_;
            work = work_;
        }
        guarded(*work, which);
        const std::lock_guard lock(mutex_);
        if (--busy_ == 0) end_.notify_one();
    }
}

} // namespace undisona
