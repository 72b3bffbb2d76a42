#include "core/base/kept_store.hpp"

#include "core/base/memory.hpp"

namespace undisona {

KeptStore& KeptStore::ofProcess()
{
    static KeptStore store(machineMegabytes() / 4.0);
    return store;
}

KeptStore::Ticket KeptStore::keep(double megabytes, std::function<void()> drop)
{
    Ticket ticket = 0;
    {
        const std::lock_guard lock(mutex_);
        ticket = ++last_;
        entries_.push_front({ticket, megabytes, std::move(drop)});
    }
    makeRoom(ticket);
    return ticket;
}

void KeptStore::use(Ticket ticket)
{
    const std::lock_guard lock(mutex_);
    for (auto entry = entries_.begin(); entry != entries_.end(); ++entry)
        if (entry->ticket == ticket) return entries_.splice(entries_.begin(), entries_, entry);
}

void KeptStore::resize(Ticket ticket, double megabytes)
{
    {
        const std::lock_guard lock(mutex_);
        for (auto& entry : entries_)
            if (entry.ticket == ticket) entry.megabytes = megabytes;
    }
    makeRoom(ticket);
}

void KeptStore::forget(Ticket ticket)
{
    const std::lock_guard lock(mutex_);
    entries_.remove_if([&](const Entry& entry) { return entry.ticket == ticket; });
}

double KeptStore::megabytes() const
{
    const std::lock_guard lock(mutex_);
    double sum = 0.0;
    for (const auto& entry : entries_)
        sum += entry.megabytes;
    return sum;
}

/// Drops are called without the lock: what they give back has locks of its own.
void KeptStore::makeRoom(Ticket besides)
{
    std::list<Entry> gone;
    {
        const std::lock_guard lock(mutex_);
        double sum = 0.0;
        for (const auto& entry : entries_)
            sum += entry.megabytes;
        for (auto entry = entries_.end(); sum > most_ && entry != entries_.begin();) {
            --entry;
            if (entry->ticket == besides) continue; // the latest may be as large as it is
            sum -= entry->megabytes;
            const auto last = entry++;
            gone.splice(gone.end(), entries_, last);
        }
    }
    for (const auto& entry : gone)
        entry.drop();
}

} // namespace undisona
