#pragma once
#include "app/session/session.hpp"
#include "core/assess/moved_mass.hpp"

namespace undisona {

/// A mass that is carried over the structure by hand: what each place would make of the frequencies, and the model with
/// it put down there.
class DraggedMass {
public:
    /// The mass that one sentence puts on that point alone, of the live model and its modes. Nothing where there is
    /// none, or where the modes are not of the model as it is.
    static std::unique_ptr<DraggedMass> at(const Session&, int point);
    static bool isAt(const Session&, int point); ///< whether there is one

    int from() const { return mass_.point; }
    int node() const { return node_; } ///< of the solution's mesh, where it is now
    const Solution& solution() const { return *solution_; }
    double kilograms() const { return mass_.mass; }

    QuickModes carriedTo(int node);
    /// The name of the point there, or its coordinates.
    std::string placeName() const;
    /// With the mass on the point that is there, or on a new one.
    Model putDown(const Model&) const;

private:
    DraggedMass(std::shared_ptr<const Solution>, const PointMass&);
    std::shared_ptr<const Solution> solution_;
    PointMass mass_;
    MovedMass quick_;
    int node_;
};

} // namespace undisona
