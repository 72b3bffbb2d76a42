#pragma once
#include <cstdint>
#include <functional>
#include <list>
#include <mutex>

namespace undisona {

/// All that is kept of earlier work so that it need not be done again: shapes, faces, meshes, factors. What was used
/// longest ago goes first where all of it would take more than a stated part of the machine's memory. A result never
/// depends on what is kept. Safe from several threads.
class KeptStore {
public:
    /// The one of this process, for a quarter of the machine's memory.
    static KeptStore& ofProcess();
    explicit KeptStore(double mostMegabytes) : most_(mostMegabytes) {}

    using Ticket = std::uint64_t;
    /// Of something of that size; `drop` gives it back, from whatever thread keeps the next thing. It must not call the
    /// store.
    Ticket keep(double megabytes, std::function<void()> drop);
    void use(Ticket);                      ///< it was looked up
    void resize(Ticket, double megabytes); ///< it has grown, or shrunk
    void forget(Ticket);                   ///< it is gone
    double megabytes() const;
    double most() const { return most_; }

private:
    struct Entry {
        Ticket ticket;
        double megabytes;
        std::function<void()> drop;
    };
    void makeRoom(Ticket besides);

    const double most_;
    mutable std::mutex mutex_;
    std::list<Entry> entries_; ///< the latest first
    Ticket last_ = 0;
};

} // namespace undisona
