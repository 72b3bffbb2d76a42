#include "core/modal/contacts.hpp"

#include "core/modal/pencil_of.hpp"

#include <fmt/format.h>

namespace undisona {

namespace {

/// How a point moves beside what pushes it, on the unknowns of both.
struct RelativeMotion {
    std::vector<int> unknowns; ///< each once
    Eigen::Matrix3Xd basis;
};

RelativeMotion relativeMotionOf(const System& system, const Contact& contact)
{
    RelativeMotion relative;
    const auto take = [&](int point, double sign) {
        const NodeMotion& motion = system.motions.nodes[static_cast<std::size_t>(point)];
        for (std::size_t which = 0; which < motion.unknowns.size(); ++which) {
            const auto known = std::find(relative.unknowns.begin(), relative.unknowns.end(), motion.unknowns[which]);
            const auto at = known - relative.unknowns.begin();
            if (known == relative.unknowns.end()) {
                relative.unknowns.push_back(motion.unknowns[which]);
                relative.basis.conservativeResize(Eigen::NoChange, at + 1);
                relative.basis.col(at).setZero();
            }
            relative.basis.col(at) += sign * motion.basis.topRows<3>().col(static_cast<Eigen::Index>(which));
        }
    };
    take(contact.point, 1.0);
    if (contact.other >= 0) take(contact.other, -1.0);
    return relative;
}

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

PushRow pushRowOf(const System& system, const Contact& contact, const Eigen::Vector3d& along)
{
    RelativeMotion relative = relativeMotionOf(system, contact);
    return {std::move(relative.unknowns), along.transpose() * relative.basis};
}

/// Of a contact that holds sideways by friction: two directions across the one in which it pushes.
struct Friction {
    std::size_t contact;
    std::array<Eigen::Vector3d, 2> along;
    double coefficient;
};

std::vector<Friction> frictionsOf(const Structure& structure)
{
    std::vector<Friction> all;
    for (std::size_t at = 0; at < structure.contacts.size(); ++at)
        if (const Contact& contact = structure.contacts[at]; contact.friction > 0.0) {
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
    Bearing(const std::vector<Contact>& contacts, const std::vector<Friction>& frictions,
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
            auto& state = told[frictions_[which].contact];
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
        int changed = -1;
        for (std::size_t which = 0; which < frictions_.size() && (changed < 0 || !oneByOne); ++which) {
            const Friction& friction = frictions_[which];
            const ContactState& contact = states_[friction.contact];
            auto& way = slides_[which];
            const auto turn = [&](std::optional<Eigen::Vector2d> to) {
                way = std::move(to);
                changed = static_cast<int>(friction.contact);
            };
            if (!contact.bears) {
                way.reset();
            } else if (!way) {
                const Eigen::Vector2d held = heldBy(which);
                if (held.norm() > (1.0 + within) * friction.coefficient * std::max(contact.force, 0.0) &&
                    held.norm() > 1e-9 * length_ * springs_[friction.contact])
                    turn(held.normalized());
            } else if (const Eigen::Vector2d slid = slidBy(which); slid.norm() > 1e-9 * length_) {
                const Eigen::Vector2d against = -slid.normalized();
                if (against.dot(*way) < 0.0)
                    turn(std::nullopt);
                else if ((against - *way).norm() > within)
                    turn((against + *way).normalized());
            }
        }
        return changed;
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
            const auto pushes = static_cast<Eigen::Index>(frictions_[which].contact);
            const double spring = springs_[static_cast<std::size_t>(at)];
            if (!states_[frictions_[which].contact].bears || !(spring > 0.0)) {
                putNothing(at, spring);
            } else if (!slides_[which]) {
                left.row(at) = spring * byForces_.row(at);
                right[at] = -spring * byLoads_[at];
            } else {
                const double share = frictions_[which].coefficient * (*slides_[which])[(at - contacts) % 2];
                const double own = springs_[frictions_[which].contact];
                putNothing(at, spring);
                left.row(at) += share * own * byForces_.row(pushes);
                left(at, pushes) -= share;
                right[at] -= share * own * byLoads_[pushes];
            }
        }
        for (Eigen::Index at = 0; at < contacts; ++at) {
            const auto index = static_cast<std::size_t>(at);
            const Contact& contact = contacts_[index];
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
        forces_ = left.completeOrthogonalDecomposition().solve(right);
        isSolved_ = (left * forces_ - right).norm() <= 1e-7 * std::max(right.norm(), forces_.norm());
        moved_ = byLoads_ + byForces_ * forces_;
        for (Eigen::Index at = 0; at < contacts; ++at) {
            auto& state = states_[static_cast<std::size_t>(at)];
            state.gap = moved_[at] + gaps_[static_cast<std::size_t>(at)];
            state.force = forces_[at] - springs_[static_cast<std::size_t>(at)] * moved_[at];
        }
    }

    const std::vector<Contact>& contacts_;
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

} // namespace

Result<RestingStates> restingStates(const Structure& structure, const System& system, const Eigen::MatrixXd& forces,
                                    const std::vector<std::string>& names, Progress& progress)
{
    std::vector<PushRow> rows; // of contacts, then of frictions
    std::vector<double> springs;
    const auto push = [&](const Contact& contact, const Eigen::Vector3d& along) {
        rows.push_back(pushRowOf(system, contact, along));
        springs.push_back(stiffnessAt(system, rows.back()));
    };
    for (const auto& contact : structure.contacts)
        push(contact, contact.pushes);
    const double stiffest = springs.empty() ? 0.0 : *std::max_element(springs.begin(), springs.end());
    const double usual = stiffest > 0.0 ? stiffest : 1.0; // any holds as well
    for (std::size_t at = 0; at < structure.contacts.size(); ++at) {
        const Contact& contact = structure.contacts[at];
        const bool moves = rows[at].weights.size() > 0 && !rows[at].weights.isZero(1e-12);
        if (!(springs[at] > 0.0) && moves) springs[at] = usual;
        if (!(springs[at] > 0.0) && !(contact.shifts && !moves)) // a support that nothing leans on shifts by itself
            return errorAt(contact.sentence,
                           fmt::format("{} cannot move the way it is pushed there",
                                       structure.frame.points[static_cast<std::size_t>(contact.point)].name),
                           "Another support holds it; leave one of them out.");
    }
    const std::vector<Friction> frictions = frictionsOf(structure);
    for (const auto& friction : frictions)
        for (const auto& along : friction.along) {
            push(structure.contacts[friction.contact], along);
            if (!(springs.back() > 0.0) && !rows.back().weights.isZero(1e-12)) springs.back() = usual;
        }
    const auto contacts = static_cast<Eigen::Index>(rows.size());
    std::optional<System> sprung;
    if (contacts > 0) {
        sprung = system;
        sprung->stiffness = withSprings(system, rows, springs);
    }
    const auto place = RestingPlace::of(sprung ? *sprung : system, progress);
    if (!place) return place.findings();
    progress.stage("rest");
    Eigen::MatrixXd all = Eigen::MatrixXd::Zero(system.size(), forces.cols() + contacts);
    all.leftCols(forces.cols()) = forces;
    std::vector<std::string> called = names;
    for (Eigen::Index at = 0; at < contacts; ++at) {
        rows[static_cast<std::size_t>(at)].add(1.0, all.col(forces.cols() + at));
        called.push_back(names.empty() ? "" : names.front());
    }
    const auto moved = place->motions(all, called);
    if (!moved) return moved.findings();
    RestingStates states{moved->leftCols(forces.cols())};
    if (contacts == 0) {
        states.contacts.resize(static_cast<std::size_t>(forces.cols()));
        states.passes.assign(static_cast<std::size_t>(forces.cols()), 0);
        return states;
    }
    const auto byForce = moved->rightCols(contacts);
    Eigen::MatrixXd byForces(contacts, contacts), byLoads(contacts, forces.cols());
    for (Eigen::Index at = 0; at < contacts; ++at) {
        const PushRow& row = rows[static_cast<std::size_t>(at)];
        for (Eigen::Index other = 0; other < contacts; ++other)
            byForces(at, other) = row.times(byForce.col(other));
        for (Eigen::Index state = 0; state < forces.cols(); ++state)
            byLoads(at, state) = row.times(states.motions.col(state));
    }
    for (Eigen::Index state = 0; state < forces.cols(); ++state) {
        const std::string& name = names[static_cast<std::size_t>(state)];
        const auto stated = statedIn(structure, name);
        const auto gaps = gapsIn(structure, name);
        Bearing settling(structure.contacts, frictions, springs, stated, gaps, byLoads.col(state), byForces);
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
            const Contact& contact = structure.contacts[static_cast<std::size_t>(turning)];
            return errorAt(contact.sentence,
                           fmt::format("the state \"{}\" does not settle: {} bears and lifts off{} for ever", name,
                                       structure.frame.points[static_cast<std::size_t>(contact.point)].name,
                                       contact.friction > 0.0 ? ", or holds and slides," : ""),
                           "Give it a stiffness, or hold something beside it.");
        }
        if (!settling.isSolved()) return noRest();
        states.motions.col(state) += byForce * settling.forces();
        states.contacts.push_back(settling.states());
        // What only its springs kept from moving has no place of rest.
        Eigen::MatrixXd left = forces.col(state) + contactForces(structure, system, states.contacts.back());
        const double size = left.norm();
        left -= matricesOf(system).stiffnessTimes(states.motions.col(state));
        system.apart.balance(left);
        constexpr double within = 1e-6, rounding = 1e-10; // where nothing is left but what supports are shifted by
        const double most =
            std::max(within * std::max(size, forces.col(state).norm()), rounding * settling.forces().norm());
        if (!(left.norm() <= most)) return noRest();
        states.passes.push_back(settling.passes());
    }
    return states;
}

Eigen::VectorXd contactForces(const Structure& structure, const System& system, const std::vector<ContactState>& states)
{
    Eigen::VectorXd forces = Eigen::VectorXd::Zero(system.size());
    for (std::size_t at = 0; at < states.size(); ++at) {
        const Contact& contact = structure.contacts[at];
        pushRowOf(system, contact, states[at].force * contact.pushes + states[at].sideways).add(1.0, forces);
    }
    return forces;
}

std::vector<CarriedLoad> carriedByContacts(const Structure& structure, const std::vector<ContactState>& states)
{
    std::vector<CarriedLoad> carried;
    for (std::size_t at = 0; at < states.size(); ++at) {
        const Contact& contact = structure.contacts[at];
        if (!states[at].bears || contact.other >= 0) continue;
        const FramePoint& point = structure.frame.points[static_cast<std::size_t>(contact.point)];
        carried.push_back({contact.sentence, point.name, states[at].force * contact.pushes + states[at].sideways,
                           Eigen::Vector3d::Zero(), point.place});
    }
    return carried;
}

std::vector<ContactState> contactsUnasked(const Structure& structure)
{
    std::vector<ContactState> states;
    for (const auto& contact : structure.contacts)
        states.push_back({contact.stated.value_or(contact.gap == 0.0)});
    return states;
}

void addContacts(System& system, const Structure& structure, const std::vector<ContactState>& states)
{
    constexpr double asGoodAsRigid = 1e5;
    SparseAssembler more(system.size());
    std::vector<Part> parts;
    for (std::size_t at = 0; at < structure.contacts.size(); ++at) {
        const Contact& contact = structure.contacts[at];
        if (!states[at].bears) continue;
        const RelativeMotion motion = relativeMotionOf(system, contact);
        if (motion.unknowns.empty()) continue;
        const PushRow row = pushRowOf(system, contact, contact.pushes);
        const double grip = states[at].slides ? 0.0 : contact.grip;
        const double along = contact.stiffness > 0.0 ? contact.stiffness : asGoodAsRigid * stiffnessAt(system, row);
        const Eigen::Matrix3d tensor =
            along * contact.pushes * contact.pushes.transpose() +
            grip * (Eigen::Matrix3d::Identity() - contact.pushes * contact.pushes.transpose());
        Part part{contact.other < 0 ? PartKind::support : PartKind::spring,
                  contact.sentence,
                  OwnerKind::point,
                  contact.point,
                  motion.unknowns,
                  motion.basis.transpose() * tensor * motion.basis};
        more.add(part.unknowns, part.stiffness);
        parts.push_back(std::move(part));
    }
    if (parts.empty()) return;
    system.stiffness = sum(system.stiffness, 1.0, more.finish());
    for (auto& part : parts)
        system.parts.push_back(std::move(part));
}

} // namespace undisona
