#pragma once
#include "app/session/session.hpp"
#include "core/assess/moved_part.hpp"

namespace undisona {

/// A mass or a spring to ground that is carried over the structure by hand: what each place would make of the
/// frequencies, and the model with it put down there.
class DraggedPart {
public:
    /// The mass, or else the springs, that one sentence puts on that point alone, of the live model and its modes.
    /// Nothing where there is none, or where the modes are not of the model as it is.
    static std::unique_ptr<DraggedPart> at(const Session&, int point);
    static bool isAt(const Session&, int point); ///< whether there is one

    int from() const { return from_; } ///< the point where it was
    int node() const { return node_; } ///< of the solution's mesh, where it is now
    const Solution& solution() const { return *solution_; }
    /// "85 kg", or "springs".
    QString words(const DisplayUnits&) const;

    QuickModes carriedTo(int node);
    /// The name of the point there, or its coordinates.
    std::string placeName() const;
    /// With it on the point that is there, or on a new one.
    Model putDown(const Model&) const;

private:
    struct Held {
        const PointMass* mass = nullptr;
        const Hold* springs = nullptr;
        operator bool() const { return mass || springs; }
    };
    static Held heldBy(const Session&, int point);
    DraggedPart(std::shared_ptr<const Solution>, const Held&, int point);
    std::shared_ptr<const Solution> solution_;
    Held held_; ///< of the solution's structure
    MovedPart quick_;
    int from_, node_;
};

} // namespace undisona
