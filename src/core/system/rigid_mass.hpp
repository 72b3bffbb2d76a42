#pragma once
#include "core/elements/member.hpp"
#include "core/system/motion_map.hpp"

#include <functional>

namespace undisona {

/// The mass that one sentence brings, counted once, and what it weighs in rigid motions of the whole.
struct SentenceMass {
    double mass = 0.0;                                ///< kg
    Eigen::Vector3d moment = Eigen::Vector3d::Zero(); ///< sum of mass times place, kg m
    Matrix6 rigid = Matrix6::Zero();                  ///< r' M r over all unknowns, about the origin
    double added = 0.0;                               ///< kg of it, beside what parts are made of
    Eigen::Vector3d addedMoment = Eigen::Vector3d::Zero();

    double material() const { return mass - added; }
    /// As mass that is added.
    SentenceMass asAdded() const { return {mass, moment, rigid, mass, moment}; }
    SentenceMass& operator+=(const SentenceMass& more)
    {
        added += more.added;
        addedMoment += more.addedMoment;
        mass += more.mass;
        moment += more.moment;
        rigid += more.rigid;
        return *this;
    }
};

/// What the mass stands on: of members, sheets and solids, or of points; edges and faces count with their part.
using MassOwner = std::pair<Target, int>;

/// Every piece of mass with the sentence that it comes from, members' own under the Shape sentence that made them; each
/// once.
void eachMass(const Structure&, const FrameMesh&,
              const std::function<void(const std::string& sentence, MassOwner, const SentenceMass&)>& take);

/// The same by sentence id.
std::map<std::string, SentenceMass> massBySentence(const Structure&, const FrameMesh&);

/// A rigid mass matrix about another point.
Matrix6 movedTo(const Matrix6& aboutOrigin, const Eigen::Vector3d& point);

/// The sum over sentences: mass, centre and inertia about the centre.
struct MassSummary {
    double mass = 0.0;
    Eigen::Vector3d centre = Eigen::Vector3d::Zero();
    Matrix6 aboutOrigin = Matrix6::Zero();
    std::map<std::string, SentenceMass> bySentence;
    std::map<MassOwner, double> byOwner; ///< kg
    Findings problems{};                 ///< parts that could not be meshed for it, and so are not counted
};
MassSummary massSummary(const Structure&, const FrameMesh&);

/// The same on a coarse mesh, for the totals that are always in view; nothing is solved.
MassSummary massSummary(const Structure&);

} // namespace undisona
