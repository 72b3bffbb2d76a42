#include "core/modal/contacts.hpp"

#include "core/modal/contact_places.hpp"
#include "core/modal/pencil_of.hpp"
#include "core/system/own_motions.hpp"

#include <fmt/format.h>

namespace undisona {

namespace {

/// The way a contact pushes, as a row on the unknowns.
struct PushRow {
    std::vector<int> unknowns;
    Eigen::RowVectorXd weights;

    double times(const Eigen::Ref<const Eigen::VectorXd>& u) const { return weights.dot(u(unknowns).transpose()); }
    void add(double force, Eigen::Ref<Eigen::VectorXd> to) const
    {
        for (std::size_t at = 0; at < unknowns.size(); ++at)
            to[unknowns[at]] += force * weights[static_cast<Eigen::Index>(at)];
    }
};

PushRow pushRowOf(const ContactPlace& place, const Eigen::Vector3d& along)
{
    return {place.unknowns, along.transpose() * place.basis};
}

/// Of a place that holds sideways by friction: two directions across the one in which it pushes.
struct Friction {
    std::size_t place;
    std::array<Eigen::Vector3d, 2> along;
    double coefficient;
};

std::vector<Friction> frictionsOf(const Structure& structure, const std::vector<ContactPlace>& places)
{
    std::vector<Friction> all;
    for (std::size_t at = 0; at < places.size(); ++at)
        if (const Contact& contact = structure.contacts[places[at].contact]; contact.friction > 0.0) {
            const Eigen::Vector3d one = contact.pushes.unitOrthogonal();
            all.push_back({at, {one, contact.pushes.cross(one)}, contact.friction});
        }
    return all;
}

/// How stiff what it pushes is, about: N/m.
double stiffnessAt(const System& system, const PushRow& row)
{
    double sum = 0.0;
    for (std::size_t at = 0; at < row.unknowns.size(); ++at)
        sum += std::pow(row.weights[static_cast<Eigen::Index>(at)], 2) * system.stiffness.diagonal(row.unknowns[at]);
    return sum;
}

SparseSymmetric withSprings(const System& system, const std::vector<PushRow>& rows, const std::vector<double>& springs)
{
    SparseAssembler more(system.size());
    for (std::size_t at = 0; at < rows.size(); ++at)
        more.add(rows[at].unknowns, springs[at] * rows[at].weights.transpose() * rows[at].weights);
    return sum(system.stiffness, 1.0, more.finish());
}

/// Which of the contacts are stated to bear or not to, in a state of that name.
std::vector<std::optional<bool>> statedIn(const Structure& structure, const std::string& name)
{
    std::vector<std::optional<bool>> stated;
    for (const auto& contact : structure.contacts)
        stated.push_back(contact.stated);
    for (const auto& state : structure.staticStates)
        if (state.name == name)
            for (const auto& [contact, bears] : state.bears)
                stated[static_cast<std::size_t>(contact)] = bears;
    return stated;
}

/// What is to be closed at each in a state of that name, m: less than nothing where a support is shifted that way.
std::vector<double> gapsIn(const Structure& structure, const std::string& name)
{
    std::vector<double> gaps;
    for (const auto& contact : structure.contacts)
        gaps.push_back(contact.gap);
    for (const auto& state : structure.staticStates)
        for (std::size_t at = 0; at < structure.loads.size() && state.name == name; ++at) {
            const Load& load = structure.loads[at];
            for (std::size_t contact = 0; contact < gaps.size() && load.kind == Load::Kind::shift; ++contact)
                if (const Contact& own = structure.contacts[contact]; own.shifts && own.point == load.at)
                    gaps[contact] -= state.factors[at] * load.vector.dot(own.pushes);
        }
    return gaps;
}

/// Which of the contacts bear in one state, and which slide: small equations in the forces that the contacts put in
/// beside their springs, first along each contact's way, then along both ways of each friction.
class Bearing {
public:
    /// How the contacts move along their ways, by the loads alone and by each force.
    Bearing(const std::vector<ContactPlace>& contacts, const std::vector<Friction>& frictions,
            const std::vector<double>& springs, const std::vector<std::optional<bool>>& stated,
            const std::vector<double>& gaps, Eigen::VectorXd byLoads, const Eigen::MatrixXd& byForces)
        : contacts_(contacts), frictions_(frictions), springs_(springs), stated_(stated), gaps_(gaps),
          byLoads_(std::move(byLoads)), byForces_(byForces), states_(contacts.size()), slides_(frictions.size())
    {
        for (std::size_t at = 0; at < contacts.size(); ++at)
            states_[at].bears = stated[at].value_or(gaps[at] == 0.0);
    }

    /// The first that opens and closes, or holds and slides, for ever; or -1.
    int settle()
    {
        constexpr int mostAtOnce = 60, mostByOne = 400;
        for (passes_ = 1; passes_ <= mostAtOnce + mostByOne; ++passes_) {
            solve();
            std::vector<std::size_t> wrong;
            double worst = 0.0;
            std::size_t worstAt = 0;
            double length = std::max(byLoads_.cwiseAbs().maxCoeff(), 1e-300);
            for (const double gap : gaps_)
                length = std::max(length, -gap); // what supports are shifted by
            length_ = length;
            for (std::size_t at = 0; at < contacts_.size(); ++at) {
                const double off = states_[at].bears ? -states_[at].force / springs_[at] : -states_[at].gap;
                if (!(off > 1e-9 * length) || stated_[at]) continue;
                wrong.push_back(at);
                if (off > worst) {
                    worst = off;
                    worstAt = at;
                }
            }
            if (wrong.empty()) {
                const int changed = slideOrHold(passes_ > mostAtOnce);
                if (changed < 0) return -1;
                last_ = changed;
                continue;
            }
            if (passes_ > mostAtOnce) wrong = {worstAt}; // one after the other, where all at once go round
            for (const std::size_t at : wrong)
                states_[at].bears = !states_[at].bears;
            last_ = static_cast<int>(wrong.front());
        }
        return last_;
    }

    const Eigen::VectorXd& forces() const { return forces_; } ///< beside the springs, N
    std::vector<ContactState> states() const
    {
        auto told = states_;
        for (auto& state : told)
            (state.bears ? state.gap : state.force) = 0.0;
        for (std::size_t which = 0; which < frictions_.size(); ++which) {
            auto& state = told[frictions_[which].place];
            if (!state.bears) continue;
            const Eigen::Vector2d held = heldBy(which);
            state.sideways = held[0] * frictions_[which].along[0] + held[1] * frictions_[which].along[1];
            state.slides = slides_[which].has_value();
        }
        return told;
    }
    int passes() const { return passes_; }
    bool isSolved() const { return isSolved_; } ///< else nothing but its springs keeps something from moving
    bool isLooseWhereAllLiftOff() const
    {
        const auto count = static_cast<Eigen::Index>(springs_.size());
        const Eigen::VectorXd springs = Eigen::Map<const Eigen::VectorXd>(springs_.data(), count);
        const Eigen::MatrixXd left = Eigen::MatrixXd::Identity(count, count) - springs.asDiagonal() * byForces_;
        const Eigen::ColPivHouseholderQR<Eigen::MatrixXd> factor(left);
        return std::abs(factor.matrixR()(count - 1, count - 1)) < 1e-5; // beside the one of a contact that is alone
    }

private:
    Eigen::Index rowOf(std::size_t friction) const
    {
        return static_cast<Eigen::Index>(contacts_.size() + 2 * friction);
    }
    /// How far a contact has moved sideways, m, and what holds it that way, N.
    Eigen::Vector2d slidBy(std::size_t friction) const { return moved_.segment<2>(rowOf(friction)); }
    Eigen::Vector2d heldBy(std::size_t friction) const
    {
        const Eigen::Index row = rowOf(friction);
        Eigen::Vector2d held = forces_.segment<2>(row);
        for (Eigen::Index way = 0; way < 2; ++way)
            held[way] -= springs_[static_cast<std::size_t>(row + way)] * moved_[row + way];
        return held;
    }

    /// Lets those slide that hold more than friction does, and those hold that it would push on; a contact of what
    /// changed, or -1.
    int slideOrHold(bool oneByOne)
    {
        constexpr double within = 1e-7; // of the force and of the direction
        struct Wrong {
            std::size_t which;
            double by;                         ///< as a share
            std::optional<Eigen::Vector2d> to; ///< the way that friction holds it; none: it holds
        };
        std::vector<Wrong> flips, turns;
        for (std::size_t which = 0; which < frictions_.size(); ++which) {
            const Friction& friction = frictions_[which];
            const ContactState& contact = states_[friction.place];
            const auto& way = slides_[which];
            const double most = friction.coefficient * std::max(contact.force, 0.0);
            if (!contact.bears) {
                slides_[which].reset();
            } else if (!way) {
                const Eigen::Vector2d held = heldBy(which);
                if (held.norm() > (1.0 + within) * most && held.norm() > 1e-9 * length_ * springs_[friction.place])
                    flips.push_back({which, held.norm() - most, held.normalized()});
            } else if (const Eigen::Vector2d slid = slidBy(which); slid.norm() > 1e-9 * length_) {
                const Eigen::Vector2d against = -slid.normalized();
                if (against.dot(*way) < 0.0)
                    flips.push_back({which, springs_[friction.place] * slid.norm(), std::nullopt});
                else if ((against - *way).norm() > within)
                    turns.push_back({which, 0.0, (against + *way).normalized()});
            }
        }
        if (oneByOne && !flips.empty()) {
            const auto worst = std::max_element(flips.begin(), flips.end(),
                                                [](const Wrong& a, const Wrong& b) { return a.by < b.by; });
            flips = {*worst};
            turns.clear();
        }
        for (const auto* all : {&turns, &flips})
            for (const Wrong& one : *all)
                slides_[one.which] = one.to;
        if (!flips.empty()) return static_cast<int>(frictions_[flips.front().which].place);
        return turns.empty() ? -1 : static_cast<int>(frictions_[turns.front().which].place);
    }

    /// d = byLoads + byForces m, with m = (what the contact pushes) + spring d: nothing of an open one; of one that
    /// bears d = -gap, or push = -stiffness (d + gap); sideways d = 0, or what holds = friction push along its way.
    void solve()
    {
        const auto contacts = static_cast<Eigen::Index>(contacts_.size());
        const auto count = static_cast<Eigen::Index>(springs_.size());
        Eigen::MatrixXd left = Eigen::MatrixXd::Zero(count, count);
        Eigen::VectorXd right(count);
        const auto putNothing = [&](Eigen::Index at, double spring) {
            left.row(at) = -spring * byForces_.row(at);
            left(at, at) += 1.0;
            right[at] = spring * byLoads_[at];
        };
        for (Eigen::Index at = contacts; at < count; ++at) {
            const auto which = static_cast<std::size_t>(at - contacts) / 2;
            const auto pushes = static_cast<Eigen::Index>(frictions_[which].place);
            const double spring = springs_[static_cast<std::size_t>(at)];
            if (!states_[frictions_[which].place].bears || !(spring > 0.0)) {
                putNothing(at, spring);
            } else if (!slides_[which]) {
                left.row(at) = spring * byForces_.row(at);
                right[at] = -spring * byLoads_[at];
            } else {
                const double share = frictions_[which].coefficient * (*slides_[which])[(at - contacts) % 2];
                const double own = springs_[frictions_[which].place];
                putNothing(at, spring);
                left.row(at) += share * own * byForces_.row(pushes);
                left(at, pushes) -= share;
                right[at] -= share * own * byLoads_[pushes];
            }
        }
        for (Eigen::Index at = 0; at < contacts; ++at) {
            const auto index = static_cast<std::size_t>(at);
            const ContactPlace& contact = contacts_[index];
            const double spring = springs_[index];
            if (!states_[index].bears || contact.stiffness > 0.0) {
                const double own = states_[index].bears ? spring - contact.stiffness : spring;
                left.row(at) = -own * byForces_.row(at);
                left(at, at) += 1.0;
                right[at] = own * byLoads_[at] - (states_[index].bears ? contact.stiffness * gaps_[index] : 0.0);
            } else { // scaled to forces, as the others are
                left.row(at) = spring * byForces_.row(at);
                right[at] = -spring * (gaps_[index] + byLoads_[at]);
            }
        }
        const auto solvedWith = [&](Eigen::VectorXd forces) {
            forces_ = std::move(forces);
            constexpr double unheld = 1e11; // times what loads push with: only rounding holds it
            isSolved_ = (left * forces_ - right).norm() <= 1e-7 * std::max(right.norm(), forces_.norm()) &&
                        forces_.norm() <= unheld * right.norm();
            return isSolved_;
        };
        constexpr Eigen::Index few = 200; // of which the least forces are found where they are open
        if (count <= few || !solvedWith(left.partialPivLu().solve(right)))
            solvedWith(left.completeOrthogonalDecomposition().solve(right));
        moved_ = byLoads_ + byForces_ * forces_;
        for (Eigen::Index at = 0; at < contacts; ++at) {
            auto& state = states_[static_cast<std::size_t>(at)];
            state.gap = moved_[at] + gaps_[static_cast<std::size_t>(at)];
            state.force = forces_[at] - springs_[static_cast<std::size_t>(at)] * moved_[at];
        }
    }

    const std::vector<ContactPlace>& contacts_;
    const std::vector<Friction>& frictions_;
    const std::vector<double>& springs_;             ///< of contacts, then of both ways of each friction
    const std::vector<std::optional<bool>>& stated_; ///< beside them
    const std::vector<double>& gaps_;                ///< in this state
    Eigen::VectorXd byLoads_;
    const Eigen::MatrixXd& byForces_;
    std::vector<ContactState> states_;
    std::vector<std::optional<Eigen::Vector2d>> slides_; ///< the way that friction holds each that slides
    Eigen::VectorXd forces_, moved_;
    bool isSolved_ = false;
    double length_ = 0.0; ///< of the largest motion, m
    int passes_ = 0, last_ = -1;
};

/// What places push with in a state, on the unknowns of their equations.
Eigen::VectorXd forcesAt(const std::vector<ContactPlace>& places, const Structure& structure, Eigen::Index unknowns,
                         const std::vector<ContactState>& states)
{
    Eigen::VectorXd forces = Eigen::VectorXd::Zero(unknowns);
    for (std::size_t at = 0; at < states.size(); ++at) {
        const Contact& contact = structure.contacts[places[at].contact];
        pushRowOf(places[at], states[at].force * contact.pushes + states[at].sideways).add(1.0, forces);
    }
    return forces;
}

} // namespace

Result<RestingStates> restingStates(const Structure& structure, const FrameMesh& mesh, const System& system,
                                    const Eigen::MatrixXd& forces, const std::vector<std::string>& names,
                                    Progress& progress)
{
    const std::vector<ContactPlace> places = contactPlaces(structure, mesh, system);
    std::vector<PushRow> rows; // of places, then of frictions
    std::vector<double> springs;
    const auto push = [&](const ContactPlace& place, const Eigen::Vector3d& along) {
        rows.push_back(pushRowOf(place, along));
        springs.push_back(stiffnessAt(system, rows.back()));
    };
    const auto contactOf = [&](std::size_t place) -> const Contact& {
        return structure.contacts[places[place].contact];
    };
    for (std::size_t at = 0; at < places.size(); ++at)
        push(places[at], contactOf(at).pushes);
    const double stiffest = springs.empty() ? 0.0 : *std::max_element(springs.begin(), springs.end());
    const double usual = stiffest > 0.0 ? stiffest : 1.0; // any holds as well
    for (std::size_t at = 0; at < places.size(); ++at) {
        const Contact& contact = contactOf(at);
        const bool moves = rows[at].weights.size() > 0 && !rows[at].weights.isZero(1e-12);
        if (!(springs[at] > 0.0) && moves) springs[at] = usual;
        // A support that nothing leans on shifts by itself, and a piece of something may be held otherwise.
        if (!(springs[at] > 0.0) && !((contact.shifts || contact.over) && !moves))
            return errorAt(contact.sentence, fmt::format("{} cannot move the way it is pushed there", contact.name),
                           "Another support holds it; leave one of them out.");
    }
    const std::vector<Friction> frictions = frictionsOf(structure, places);
    for (const auto& friction : frictions)
        for (const auto& along : friction.along) {
            push(places[friction.place], along);
            if (!(springs.back() > 0.0) && !rows.back().weights.isZero(1e-12)) springs.back() = usual;
        }
    const auto count = static_cast<Eigen::Index>(rows.size());
    constexpr Eigen::Index most = 4000;
    if (count > most)
        return errorAt(contactOf(0).sentence,
                       fmt::format("what bears on one side alone does so at {} places, and {} can be settled",
                                   places.size(), most),
                       "Make elements larger there, or let less of it bear.");
    std::optional<System> sprung;
    if (count > 0) {
        sprung = system;
        sprung->stiffness = withSprings(system, rows, springs);
    }
    const auto resting = RestingPlace::of(sprung ? *sprung : system, progress);
    if (!resting) return resting.findings();
    progress.stage("rest");
    const auto moved = resting->motions(forces, names);
    if (!moved) return moved.findings();
    RestingStates states{*moved};
    if (count == 0) {
        states.contacts.resize(static_cast<std::size_t>(forces.cols()));
        states.passes.assign(static_cast<std::size_t>(forces.cols()), 0);
        return states;
    }
    Eigen::MatrixXd byForces(count, count), byLoads(count, forces.cols());
    constexpr Eigen::Index atOnce = 64; // so that motions of all are never held together
    for (Eigen::Index first = 0; first < count; first += atOnce) {
        if (progress.stopped()) return warningAt({}, "stopped before the structure had come to rest");
        const Eigen::Index some = std::min(atOnce, count - first);
        Eigen::MatrixXd unit = Eigen::MatrixXd::Zero(system.size(), some);
        for (Eigen::Index at = 0; at < some; ++at)
            rows[static_cast<std::size_t>(first + at)].add(1.0, unit.col(at));
        const auto by = resting->motions(
            unit, std::vector<std::string>(static_cast<std::size_t>(some), names.empty() ? "" : names.front()));
        if (!by) return by.findings();
        for (Eigen::Index at = 0; at < count; ++at)
            for (Eigen::Index column = 0; column < some; ++column)
                byForces(at, first + column) = rows[static_cast<std::size_t>(at)].times(by->col(column));
    }
    for (Eigen::Index at = 0; at < count; ++at)
        for (Eigen::Index state = 0; state < forces.cols(); ++state)
            byLoads(at, state) = rows[static_cast<std::size_t>(at)].times(states.motions.col(state));
    for (Eigen::Index state = 0; state < forces.cols(); ++state) {
        const std::string& name = names[static_cast<std::size_t>(state)];
        const auto ofContacts = statedIn(structure, name);
        const auto gapsOfContacts = gapsIn(structure, name);
        std::vector<std::optional<bool>> stated;
        std::vector<double> gaps;
        for (const auto& place : places) {
            stated.push_back(ofContacts[place.contact]);
            gaps.push_back(gapsOfContacts[place.contact]);
        }
        Bearing settling(places, frictions, springs, stated, gaps, byLoads.col(state), byForces);
        const int turning = settling.settle();
        const auto noRest = [&] {
            return errorAt(
                {},
                fmt::format("the state \"{}\" has no place of rest: what lifts off or slides is held by nothing else",
                            name),
                "Hold it, or press it on.");
        };
        if (turning >= 0) {
            if (settling.isLooseWhereAllLiftOff()) return noRest();
            const Contact& contact = contactOf(static_cast<std::size_t>(turning));
            return errorAt(contact.sentence,
                           fmt::format("the state \"{}\" does not settle: {} bears and lifts off{} for ever", name,
                                       contact.name, contact.friction > 0.0 ? ", or holds and slides," : ""),
                           "Give it a stiffness, or hold something beside it.");
        }
        if (!settling.isSolved()) return noRest();
        Eigen::MatrixXd pushed = forces.col(state);
        for (Eigen::Index at = 0; at < count; ++at)
            rows[static_cast<std::size_t>(at)].add(settling.forces()[at], pushed.col(0));
        const auto rests = resting->motions(pushed, {name});
        if (!rests) return rests.findings();
        states.motions.col(state) = *rests;
        states.contacts.push_back(settling.states());
        // What only its springs kept from moving has no place of rest.
        Eigen::MatrixXd left = forces.col(state) + forcesAt(places, structure, system.size(), states.contacts.back());
        const double size = left.norm();
        left -= matricesOf(system).stiffnessTimes(states.motions.col(state));
        system.apart.balance(left);
        constexpr double within = 1e-6, rounding = 1e-10; // where nothing is left but what supports are shifted by
        const double allowed =
            std::max(within * std::max(size, forces.col(state).norm()), rounding * settling.forces().norm());
        if (!(left.norm() <= allowed)) return noRest();
        states.passes.push_back(settling.passes());
    }
    return states;
}

Eigen::VectorXd contactForces(const Structure& structure, const FrameMesh& mesh, const System& system,
                              const std::vector<ContactState>& states)
{
    return forcesAt(contactPlaces(structure, mesh, system), structure, system.size(), states);
}

std::vector<BearingPlaces> bearingPlaces(const Structure& structure, const FrameMesh& mesh, const System& system,
                                         const std::vector<ContactState>& states)
{
    std::vector<BearingPlaces> all(structure.contacts.size());
    const auto places = contactPlaces(structure, mesh, system);
    std::vector<Eigen::Vector3d> middles(all.size(), Eigen::Vector3d::Zero());
    std::vector<long> sliding(all.size(), 0);
    for (std::size_t at = 0; at < states.size(); ++at) {
        BearingPlaces& own = all[places[at].contact];
        const ContactState& state = states[at];
        ++own.places;
        own.bearing += state.bears;
        own.force += state.force;
        own.gap = std::max(own.gap, state.gap);
        if (own.places == 1) own.leastGap = state.gap;
        own.leastGap = std::min(own.leastGap, state.gap);
        own.sideways += state.sideways;
        sliding[places[at].contact] += state.slides;
        middles[places[at].contact] += places[at].share * places[at].at;
    }
    for (std::size_t which = 0; which < all.size(); ++which) {
        all[which].at = middles[which];
        all[which].slides = sliding[which] > 0 && sliding[which] == all[which].bearing;
    }
    for (std::size_t at = 0; at < states.size(); ++at) {
        BearingPlaces& own = all[places[at].contact];
        const Eigen::Vector3d force =
            states[at].force * structure.contacts[places[at].contact].pushes + states[at].sideways;
        own.moment += (places[at].at - own.at).cross(force);
    }
    return all;
}

std::vector<CarriedLoad> carriedByContacts(const Structure& structure, const std::vector<BearingPlaces>& all)
{
    std::vector<CarriedLoad> carried;
    for (std::size_t which = 0; which < all.size(); ++which) {
        const Contact& contact = structure.contacts[which];
        if (all[which].bearing == 0 || contact.other >= 0) continue;
        carried.push_back({contact.sentence, contact.name, all[which].force * contact.pushes + all[which].sideways,
                           all[which].moment, all[which].at});
    }
    return carried;
}

std::vector<bool> bearUnasked(const Structure& structure)
{
    std::vector<bool> bear;
    for (const auto& contact : structure.contacts)
        bear.push_back(contact.stated.value_or(contact.gap == 0.0));
    return bear;
}

std::vector<ContactState> contactsUnasked(const Structure& structure, const FrameMesh& mesh, const System& system)
{
    std::vector<ContactState> states;
    if (structure.contacts.empty()) return states;
    const std::vector<bool> bear = bearUnasked(structure);
    for (const auto& place : contactPlaces(structure, mesh, system))
        states.push_back({bear[place.contact]});
    return states;
}

void addContacts(System& system, const Structure& structure, const FrameMesh& mesh,
                 const std::vector<ContactState>& states)
{
    constexpr double asGoodAsRigid = 1e5;
    SparseAssembler more(system.size());
    std::vector<Part> parts;
    if (structure.contacts.empty()) return;
    const auto places = contactPlaces(structure, mesh, system);
    for (std::size_t at = 0; at < places.size(); ++at) {
        const ContactPlace& place = places[at];
        const Contact& contact = structure.contacts[place.contact];
        if (!states[at].bears || place.unknowns.empty()) continue;
        const double grip = states[at].slides ? 0.0 : contact.grip * place.share;
        const double along = place.stiffness > 0.0
                                 ? place.stiffness
                                 : asGoodAsRigid * stiffnessAt(system, pushRowOf(place, contact.pushes));
        const Eigen::Matrix3d tensor =
            along * contact.pushes * contact.pushes.transpose() +
            grip * (Eigen::Matrix3d::Identity() - contact.pushes * contact.pushes.transpose());
        const auto [of, owner] =
            contact.over
                ? ownerOf(structure,
                          {contact.over->first, contact.over->second, Attachment::Effect::stiffness, tensor, {}})
                : std::pair(OwnerKind::point, contact.point);
        Part part{contact.other < 0 ? PartKind::support : PartKind::spring,
                  contact.sentence,
                  of,
                  owner,
                  place.unknowns,
                  place.basis.transpose() * tensor * place.basis};
        more.add(part.unknowns, part.stiffness);
        parts.push_back(std::move(part));
    }
    if (parts.empty()) return;
    system.stiffness = sum(system.stiffness, 1.0, more.finish());
    for (auto& part : parts)
        system.parts.push_back(std::move(part));
}

} // namespace undisona
