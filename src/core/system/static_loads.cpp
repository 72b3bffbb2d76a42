#include "core/system/static_loads.hpp"

#include "core/elements/inertia_force.hpp"
#include "core/elements/surface_piece.hpp"
#include "core/numerics/blas_threads.hpp"
#include "core/numerics/workers.hpp"
#include "core/system/own_motions.hpp"
#include "core/system/spread.hpp"

#include <functional>

namespace undisona {

namespace {

class Loading {
public:
    Loading(const Structure& structure, const FrameMesh& mesh, const System& system)
        : structure_(structure), mesh_(mesh), system_(system), states_(Eigen::Index(structure.staticStates.size()))
    {
        const auto none = [&](Eigen::Index rows) { return Eigen::MatrixXd(Eigen::MatrixXd::Zero(rows, states_)); };
        loads_.forces = none(system.size());
        loads_.onElement.resize(mesh.elements.size());
        loads_.sheetStrain = loads_.sheetBend = none(Eigen::Index(structure.sheets.size()));
        loads_.solidStrain = none(Eigen::Index(structure.solids.size()));
        loads_.totals = none(6);
    }

    StaticLoads take(std::optional<Load::Kind> only)
    {
        for (std::size_t at = 0; at < structure_.loads.size(); ++at) {
            if (only && structure_.loads[at].kind != *only) continue;
            factors_.resize(states_);
            for (Eigen::Index state = 0; state < states_; ++state)
                factors_[state] = structure_.staticStates[static_cast<std::size_t>(state)].factors[at];
            if (!factors_.isZero(0.0)) add(structure_.loads[at]);
        }
        expand();
        return std::move(loads_);
    }

private:
    void add(const Load& load)
    {
        switch (load.kind) {
        case Load::Kind::weight:
            return pull(load.vector);
        case Load::Kind::force:
            return load.over == Target::point ? atPoint(load.at, load.vector, Eigen::Vector3d::Zero())
                                              : spreadOver(load.over, load.at, load.vector);
        case Load::Kind::moment:
            return atPoint(load.at, Eigen::Vector3d::Zero(), load.vector);
        case Load::Kind::pressure:
            return load.over == Target::sheet ? pressSheet(load.at, load.amount) : pressFace(load.at, load.amount);
        case Load::Kind::pretension:
            return tighten(load.at, load.amount);
        case Load::Kind::warming:
            return warm(load);
        case Load::Kind::spin:
            return swing(load);
        case Load::Kind::shift: // of the supports: what it takes is not known before
            return;
        }
    }

    void atPoint(int node, const Eigen::Vector3d& force, const Eigen::Vector3d& moment)
    {
        Vector6 both;
        both << force, moment;
        onNode(node, both);
    }

    void onNode(int node, const Vector6& load)
    {
        const NodeMotion& motion = system_.motions.nodes[static_cast<std::size_t>(node)];
        onUnknowns(motion.unknowns, motion.basis.transpose() * load);
        total(load.head<3>(), load.tail<3>(), mesh_.nodes[static_cast<std::size_t>(node)].place);
    }

    void onUnknowns(const std::vector<int>& unknowns, const Eigen::VectorXd& forces)
    {
        for (std::size_t at = 0; at < unknowns.size(); ++at)
            loads_.forces.row(unknowns[at]) += forces[Eigen::Index(at)] * factors_;
    }

    void total(const Eigen::Vector3d& force, const Eigen::Vector3d& moment, const Eigen::Vector3d& place)
    {
        loads_.totals.topRows<3>() += force * factors_;
        loads_.totals.bottomRows<3>() += (moment + place.cross(force)) * factors_;
    }

    /// A vector at each place, m/s2 or m.
    using Field = std::function<Eigen::Vector3d(const Eigen::Vector3d& place)>;

    /// What is made of each of so many pieces, by several threads.
    template <class Make>
    static auto ofEach(std::size_t pieces, const Make& make)
    {
        useBlasThreads(1); // its threads would spin beside ours
        std::vector<decltype(make(std::size_t{}))> all(pieces);
        Workers(threadsForPieces(pieces)).forEach(pieces, [&](std::size_t at) { all[at] = make(at); });
        return all;
    }

    /// What the mass of members and sheet makes of a field; `acts` limits and weighs its directions, global ones.
    void onMembersAndSheet(const Field& field, const std::optional<Eigen::Matrix3d>& acts)
    {
        const auto in = [&](const Eigen::Matrix3d& axes) -> std::optional<Eigen::Matrix3d> {
            if (!acts) return std::nullopt;
            return Eigen::Matrix3d(axes.transpose() * *acts * axes);
        };
        for (std::size_t at = 0; at < mesh_.elements.size(); ++at) {
            MemberElement element = system_.elements[at].element;
            element.acts = in(system_.elements[at].axes);
            onMember(at, consistentMass(element) * ofMember(at, field));
        }
        const auto forces = ofEach(mesh_.shells.size(), [&](std::size_t at) -> Eigen::VectorXd {
            ShellElement element = system_.shells[at].element;
            element.acts = in(system_.shells[at].axes);
            return element.acts ? Eigen::VectorXd(consistentMass(element) * ofShell(at, field))
                                : inertiaForce(element, ofShell(at, field));
        });
        for (std::size_t at = 0; at < forces.size(); ++at)
            onShell(at, forces[at]);
    }

    /// Gravity, m/s2, on all mass, whichever way it acts in the modes.
    void pull(const Eigen::Vector3d& gravity)
    {
        onMembersAndSheet(evenly(gravity), std::nullopt);
        const auto ofSolids = ofEach(mesh_.solids.size(), [&](std::size_t at) -> Eigen::MatrixXd {
            const SolidElement& element = system_.solids[at];
            return element.density * nodeVolumes(element) * gravity.transpose();
        });
        for (std::size_t at = 0; at < ofSolids.size(); ++at)
            onNodes(mesh_.solids[at], ofSolids[at]);
        for (const auto& attached : structure_.attachments)
            if (attached.effect == Attachment::Effect::mass)
                spreadOver(attached.over, attached.at, attached.perExtent() * gravity);
        for (const auto& mass : structure_.pointMasses)
            onMass(mass, mass.mass * gravity);
    }

    /// Outwards on all mass, by its distance from the axis.
    void swing(const Load& load)
    {
        const Eigen::Matrix3d across = spinTensor(load);
        const Field outwards = [&](const Eigen::Vector3d& place) { return Eigen::Vector3d(place - load.place); };
        onMembersAndSheet(outwards, across);
        for (std::size_t at = 0; at < mesh_.solids.size(); ++at) {
            SolidElement element = system_.solids[at];
            element.acts = across;
            Eigen::VectorXd own(element.unknowns());
            for (std::size_t node = 0; node < element.node.size(); ++node)
                own.segment<3>(3 * Eigen::Index(node)) = outwards(element.node[node]);
            const Eigen::VectorXd forces = consistentMass(element) * own;
            onNodes(mesh_.solids[at],
                    Eigen::Map<const Eigen::MatrixXd>(forces.data(), 3, forces.size() / 3).transpose());
        }
        for (Attachment attached : structure_.attachments) {
            if (attached.effect != Attachment::Effect::mass) continue;
            attached.tensor = attached.perExtent() * across;
            spread(attached, outwards);
        }
        for (const auto& mass : structure_.pointMasses)
            onMass(mass, mass.mass * across *
                             outwards(mesh_.nodes[static_cast<std::size_t>(mass.point)].place + mass.centre));
    }

    static Field evenly(const Eigen::Vector3d& along)
    {
        return [along](const Eigen::Vector3d&) { return along; };
    }

    void onMass(const PointMass& mass, const Eigen::Vector3d& force)
    {
        atPoint(mass.point, force, mass.centre.cross(force));
    }

    /// A row for each node of a solid's piece.
    void onNodes(const MeshSolid& solid, const Eigen::MatrixXd& forces)
    {
        for (std::size_t node = 0; node < solid.count(); ++node)
            onNode(solid.nodes[node], shifted(forces.row(Eigen::Index(node)).transpose()));
    }

    static Vector6 shifted(const Eigen::Vector3d& force)
    {
        Vector6 both;
        both << force, Eigen::Vector3d::Zero();
        return both;
    }

    /// So much per m, m2 or m3 of one thing.
    void spreadOver(Target over, int at, const Eigen::Vector3d& perExtent)
    {
        if (over == Target::edge) return alongEdge(at, perExtent);
        spread({over, at, Attachment::Effect::mass, Eigen::Matrix3d::Identity(), {}}, evenly(perExtent));
    }

    /// What is spread over one thing makes forces of a field.
    void spread(const Attachment& one, const Field& field)
    {
        eachPiece(structure_, mesh_, one, [&](const SpreadPiece& piece) {
            if (piece.element >= 0) {
                const auto which = static_cast<std::size_t>(piece.element);
                return onMember(which, piece.matrix * ofMember(which, field));
            }
            if (piece.shell >= 0) {
                const auto which = static_cast<std::size_t>(piece.shell);
                return onShell(which, piece.matrix * ofShell(which, field));
            }
            Eigen::VectorXd own(3 * Eigen::Index(piece.nodes.size()));
            for (std::size_t node = 0; node < piece.nodes.size(); ++node)
                own.segment<3>(3 * Eigen::Index(node)) =
                    field(mesh_.nodes[static_cast<std::size_t>(piece.nodes[node])].place);
            const Eigen::VectorXd forces = piece.matrix * own;
            for (std::size_t node = 0; node < piece.nodes.size(); ++node)
                onNode(piece.nodes[node], shifted(forces.segment<3>(3 * Eigen::Index(node))));
        });
    }

    /// Sheet bulges between its corners as they turn, so that an even force turns the ends of each piece too, as it
    /// does those of a beam: along a row of equal pieces that cancels but at the last.
    void alongEdge(int edge, const Eigen::Vector3d& perLength)
    {
        for (const auto& [first, second, length] : mesh_.piecesOfEdge(structure_, edge)) {
            const Eigen::Vector3d along = mesh_.nodes[static_cast<std::size_t>(second)].place -
                                          mesh_.nodes[static_cast<std::size_t>(first)].place;
            const Eigen::Vector3d turning = length / 12.0 * along.cross(perLength);
            for (const int node : {first, second}) {
                Vector6 load;
                load << length / 2.0 * perLength, node == first ? turning : Eigen::Vector3d(-turning);
                onNode(node, load);
            }
        }
    }

    /// The own motions of an element's ends that a field has there, without turns.
    Vector12 ofMember(std::size_t at, const Field& field) const
    {
        Vector12 own = Vector12::Zero();
        for (int end = 0; end < 2; ++end)
            own.segment<3>(6 * end) = system_.elements[at].axes.transpose() * field(mesh_.end(mesh_.elements[at], end));
        return own;
    }
    Eigen::VectorXd ofShell(std::size_t at, const Field& field) const
    {
        const ShellEquations& own = system_.shells[at];
        Eigen::VectorXd motion = Eigen::VectorXd::Zero(own.element.unknowns());
        for (std::size_t corner = 0; corner < mesh_.shells[at].corners(); ++corner)
            motion.segment<3>(6 * Eigen::Index(corner)) = own.axes.transpose() * field(placeOf(at, corner));
        return motion;
    }
    /// Of a corner of a piece of sheet, on its middle face.
    Eigen::Vector3d placeOf(std::size_t shell, std::size_t corner) const
    {
        const ShellEquations& own = system_.shells[shell];
        return mesh_.nodes[static_cast<std::size_t>(mesh_.shells[shell].nodes[corner])].place +
               own.arms[corner] * own.axes.col(2);
    }

    void onMember(std::size_t at, const Vector12& own)
    {
        inMember(at, own);
        const Eigen::Matrix3d& axes = system_.elements[at].axes;
        for (int end = 0; end < 2; ++end)
            total(axes * own.segment<3>(6 * end), axes * own.segment<3>(6 * end + 3),
                  mesh_.end(mesh_.elements[at], end));
    }
    /// Without a part in what acts from outside.
    void inMember(std::size_t at, const Vector12& own)
    {
        const ElementEquations& equations = system_.elements[at];
        onUnknowns(equations.unknowns, equations.toOwn.transpose() * own);
        Eigen::MatrixXd& sum = loads_.onElement[at];
        if (sum.size() == 0) sum.setZero(12, states_);
        sum += own * factors_;
    }

    void onShell(std::size_t at, const Eigen::VectorXd& own)
    {
        inShell(at, own);
        const ShellEquations& equations = system_.shells[at];
        const MeshShell& shell = mesh_.shells[at];
        for (std::size_t corner = 0; corner < shell.corners(); ++corner) {
            const auto row = 6 * Eigen::Index(corner);
            total(equations.axes * own.segment<3>(row), equations.axes * own.segment<3>(row + 3), placeOf(at, corner));
        }
    }
    void inShell(std::size_t at, const Eigen::VectorXd& own)
    {
        const ShellEquations& equations = system_.shells[at];
        for (std::size_t corner = 0; corner < mesh_.shells[at].corners(); ++corner) {
            const NodeMotion& motion = system_.motions.nodes[static_cast<std::size_t>(mesh_.shells[at].nodes[corner])];
            const auto row = 6 * Eigen::Index(corner);
            const Eigen::Vector3d arm = equations.arms[corner] * equations.axes.col(2);
            Vector6 load; // of the node, to which the corner is fixed by the arm
            load.head<3>() = equations.axes * own.segment<3>(row);
            load.tail<3>() = equations.axes * own.segment<3>(row + 3) + arm.cross(Eigen::Vector3d(load.head<3>()));
            onUnknowns(motion.unknowns, motion.basis.transpose() * load);
        }
    }

    void pressSheet(int sheet, double pressure)
    {
        for (std::size_t at = 0; at < mesh_.shells.size(); ++at) {
            const MeshShell& shell = mesh_.shells[at];
            if (shell.sheet != sheet) continue;
            const ShellEquations& own = system_.shells[at];
            const double weight = mesh_.weight[static_cast<std::size_t>(shell.face)];
            onShell(at, overArea(own.element, weight * Eigen::Matrix3d::Identity()) *
                            ofShell(at, evenly(-pressure * own.axes.col(2))));
        }
    }

    void pressFace(int face, double pressure)
    {
        for (const auto& piece : mesh_.outer) {
            if (piece.face != face) continue;
            std::vector<int> nodes(piece.corners.begin(), piece.corners.begin() + long(piece.count()));
            if (piece.curved())
                nodes.insert(nodes.end(), piece.middles.begin(), piece.middles.begin() + long(piece.count()));
            std::vector<Eigen::Vector3d> forces(nodes.size(), Eigen::Vector3d::Zero());
            for (const auto& [r, s, weight] : piece.count() == 3 ? plane::triangleRule() : plane::squareRule(3)) {
                const auto shapes = surfaceShapes(nodes.size(), r, s);
                Eigen::Vector3d byR = Eigen::Vector3d::Zero(), byS = byR;
                for (std::size_t node = 0; node < nodes.size(); ++node) {
                    const Eigen::Vector3d& place = mesh_.nodes[static_cast<std::size_t>(nodes[node])].place;
                    byR += shapes[node].r * place;
                    byS += shapes[node].s * place;
                }
                const Eigen::Vector3d outwards = byR.cross(byS);
                for (std::size_t node = 0; node < nodes.size(); ++node)
                    forces[node] -= pressure * weight * shapes[node].value * outwards;
            }
            for (std::size_t node = 0; node < nodes.size(); ++node)
                onNode(nodes[node], shifted(forces[node]));
        }
    }

    void tighten(int member, double force)
    {
        Vector12 own = Vector12::Zero();
        own[0] = force;
        own[6] = -force;
        for (int at = mesh_.firstElement[static_cast<std::size_t>(member)];
             at < mesh_.firstElement[static_cast<std::size_t>(member) + 1]; ++at)
            inMember(static_cast<std::size_t>(at), own);
    }

    void warm(const Load& load)
    {
        const auto index = static_cast<std::size_t>(load.at);
        const auto row = Eigen::Index(load.at);
        if (load.over == Target::member) {
            const double strain = structure_.members[index].material->expansion * load.amount;
            for (int at = mesh_.firstElement[index]; at < mesh_.firstElement[index + 1]; ++at) {
                const auto which = static_cast<std::size_t>(at);
                Vector12 own = Vector12::Zero();
                own[6] = system_.elements[which].element.axial * strain;
                own[0] = -own[6];
                inMember(which, own);
            }
        } else if (load.over == Target::sheet) {
            const double expansion = structure_.sheets[index].material->expansion;
            loads_.sheetStrain.row(row) += expansion * load.amount * factors_;
            loads_.sheetBend.row(row) += expansion * load.across * factors_;
        } else {
            loads_.solidStrain.row(row) += structure_.solids[index].material->expansion * load.amount * factors_;
        }
    }

    /// The forces that do the work of strains by temperature, of all states at once.
    void expand()
    {
        const auto putOn = [&](const std::vector<int>& unknowns, const Eigen::MatrixXd& forces) {
            for (std::size_t at = 0; at < unknowns.size(); ++at)
                loads_.forces.row(unknowns[at]) += forces.row(Eigen::Index(at));
        };
        if (!loads_.sheetStrain.isZero(0.0) || !loads_.sheetBend.isZero(0.0))
            for (std::size_t at = 0; at < mesh_.shells.size(); ++at) {
                const Eigen::Index sheet = mesh_.shells[at].sheet;
                const auto& own = system_.shells[at];
                const auto [evenly, across] = expansionForces(own.element);
                const OwnMotions motions = ownMotions(system_.motions, own);
                putOn(motions.unknowns, motions.toOwn.transpose() * (evenly * loads_.sheetStrain.row(sheet) +
                                                                     across * loads_.sheetBend.row(sheet)));
            }
        if (!loads_.solidStrain.isZero(0.0))
            for (std::size_t at = 0; at < mesh_.solids.size(); ++at) {
                const MeshSolid& solid = mesh_.solids[at];
                const Eigen::VectorXd own = expansionForces(system_.solids[at]);
                for (std::size_t node = 0; node < solid.count(); ++node) {
                    const NodeMotion& motion = system_.motions.nodes[static_cast<std::size_t>(solid.nodes[node])];
                    putOn(motion.unknowns,
                          motion.basis.topRows<3>().transpose() *
                              (own.segment<3>(3 * Eigen::Index(node)) * loads_.solidStrain.row(solid.solid)));
                }
            }
    }

    const Structure& structure_;
    const FrameMesh& mesh_;
    const System& system_;
    Eigen::Index states_;
    Eigen::RowVectorXd factors_; ///< of the load at hand, by state
    StaticLoads loads_;
};

} // namespace

Eigen::Matrix3d spinTensor(const Load& load)
{
    return load.amount * load.amount * (Eigen::Matrix3d::Identity() - load.vector * load.vector.transpose());
}

StaticLoads staticLoadsOf(const Structure& structure, const FrameMesh& mesh, const System& system,
                          std::optional<Load::Kind> only)
{
    return Loading(structure, mesh, system).take(only);
}

} // namespace undisona
