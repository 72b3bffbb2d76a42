#include "core/modal/modal_stress.hpp"

#include "core/modal/plane_strains.hpp"
#include "core/numerics/blas_threads.hpp"
#include "core/numerics/workers.hpp"
#include "core/pencil/hertz.hpp"
#include "core/system/layers_of.hpp"

#include <fmt/format.h>

namespace undisona {

namespace {

/// Of stresses xx yy zz xy yz zx.
Stress stressOf(const Vector6& s)
{
    Eigen::Matrix3d tensor;
    tensor << s[0], s[3], s[5], s[3], s[1], s[4], s[5], s[4], s[2];
    const Eigen::Vector3d principal =
        Eigen::SelfAdjointEigenSolver<Eigen::Matrix3d>(tensor, Eigen::EigenvaluesOnly).eigenvalues();
    const double one = s[0] - s[1], two = s[1] - s[2], three = s[2] - s[0];
    return {std::sqrt((one * one + two * two + three * three) / 2.0 + 3.0 * s.tail<3>().squaredNorm()), principal[2],
            principal[0]};
}

/// Of stresses xx yy xy in a plane.
Stress stressOf(const Eigen::Vector3d& s)
{
    Vector6 all;
    all << s[0], s[1], 0.0, s[2], 0.0, 0.0;
    return stressOf(all);
}

/// Takes what is larger; whether the equivalent one was.
bool take(Stress& most, const Stress& other)
{
    const bool larger = other.equivalent > most.equivalent;
    most.equivalent = std::max(most.equivalent, other.equivalent);
    most.greatest = std::max(most.greatest, other.greatest);
    most.least = std::min(most.least, other.least);
    return larger;
}

/// Values at a piece's places drawn out to its corners, corners x columns; `parts`: the part each corner has in each
/// place. Where there are fewer places than corners, the flattest field through them.
Eigen::MatrixXd drawnOut(const Eigen::MatrixXd& parts, const Eigen::MatrixXd& values)
{
    return parts.completeOrthogonalDecomposition().solve(values);
}

/// Strains of pieces at their corners, and their mean over the pieces of one owner at each node.
class CornerStrains {
public:
    /// Of each piece its owner and the nodes at its corners.
    CornerStrains(const std::vector<std::pair<int, std::vector<int>>>& pieces)
        : own_(pieces.size()), rows_(pieces.size())
    {
        std::map<std::array<int, 2>, Eigen::Index> known;
        for (std::size_t at = 0; at < pieces.size(); ++at)
            for (const int node : pieces[at].second) {
                const std::array<int, 2> place{pieces[at].first, node};
                const auto [row, isNew] = known.emplace(place, static_cast<Eigen::Index>(places_.size()));
                if (isNew) places_.push_back(place);
                rows_[at].push_back(row->second);
                ++corners_;
            }
    }

    const std::vector<std::array<int, 2>>& places() const { return places_; } ///< owner, node
    std::size_t corners() const { return corners_; }                          ///< of all pieces
    std::size_t cornersOf(std::size_t piece) const { return rows_[piece].size(); }
    Eigen::Index placeOf(std::size_t piece, std::size_t corner) const { return rows_[piece][corner]; }

    /// Corners x columns; of different pieces by any thread.
    void put(std::size_t piece, Eigen::MatrixXd strains) { own_[piece] = std::move(strains); }
    void average()
    {
        mean_.setZero(static_cast<Eigen::Index>(places_.size()), own_.empty() ? 0 : own_[0].cols());
        Eigen::VectorXd count = Eigen::VectorXd::Zero(mean_.rows());
        for (std::size_t at = 0; at < own_.size(); ++at)
            for (std::size_t corner = 0; corner < rows_[at].size(); ++corner) {
                mean_.row(rows_[at][corner]) += own_[at].row(static_cast<Eigen::Index>(corner));
                count[rows_[at][corner]] += 1.0;
            }
        mean_.array().colwise() /= count.array();
    }
    auto own(std::size_t piece, std::size_t corner) const { return own_[piece].row(static_cast<Eigen::Index>(corner)); }
    auto mean(std::size_t piece, std::size_t corner) const { return mean_.row(rows_[piece][corner]); }

private:
    std::vector<Eigen::MatrixXd> own_;
    std::vector<std::vector<Eigen::Index>> rows_;
    std::vector<std::array<int, 2>> places_;
    Eigen::MatrixXd mean_; ///< places x columns
    std::size_t corners_ = 0;
};

/// Stresses of all modes, part by part.
class StressReader {
public:
    StressReader(const Structure& structure, const FrameMesh& mesh, const System& system, const Eigen::MatrixXd& shapes,
                 Progress& progress)
        : structure_(structure), frame_(structure.frame), mesh_(mesh), system_(system), shapes_(shapes),
          progress_(progress), modes_(shapes.cols()), lambda_(Eigen::VectorXd::Zero(shapes.cols()))
    {
    }
    /// Motions that inertia makes at these eigenvalues, (rad/s)2.
    void vibrate(Eigen::VectorXd lambda) { lambda_ = std::move(lambda); }
    /// Motions that these loads make, a column a state, with what members carry so (12 elements x states).
    void load(const StaticLoads& loads, const Eigen::MatrixXd& ends)
    {
        loads_ = &loads;
        ends_ = &ends;
    }

    StressReading read()
    {
        progress_.stage("stresses");
        for (int mode = 0; mode < modes_; ++mode)
            reading_.modes.push_back({mode + 1, {}});
        constexpr std::size_t most = 40'000'000; // figures
        std::size_t nodes = 0;
        for (const auto& shell : mesh_.shells)
            nodes += shell.corners();
        for (const auto& solid : mesh_.solids)
            nodes += solid.count();
        keeps_ = nodes * static_cast<std::size_t>(modes_) < most;
        if (keeps_) reading_.atEnds.setZero(2 * static_cast<Eigen::Index>(mesh_.elements.size()), modes_);
        useBlasThreads(1); // its threads would spin beside ours
        members();
        if (!progress_.stopped()) sheets();
        if (!progress_.stopped()) solids();
        for (auto& mode : reading_.modes)
            std::stable_sort(mode.parts.begin(), mode.parts.end(),
                             [](const auto& a, const auto& b) { return a.most.equivalent > b.most.equivalent; });
        return std::move(reading_);
    }

private:
    /// End forces of elements; of each the largest along its member.
    void members()
    {
        std::vector<std::vector<PartStress>> list(static_cast<std::size_t>(modes_));
        for (auto& of : list)
            for (std::size_t at = 0; at < frame_.members.size(); ++at)
                of.push_back({.of = OwnerKind::member,
                              .owner = static_cast<int>(at),
                              .name = frame_.members[at].name,
                              .sentence = frame_.members[at].sentence});
        std::vector<Eigen::Matrix3d> spread(frame_.members.size(), Eigen::Matrix3d::Zero()); // kg/m, global
        for (const auto& attachment : structure_.attachments)
            if (attachment.effect == Attachment::Effect::mass && attachment.over == Target::member)
                spread[static_cast<std::size_t>(attachment.at)] += attachment.tensor;
        for (std::size_t at = 0; at < mesh_.elements.size(); ++at) {
            const auto member = static_cast<std::size_t>(mesh_.elements[at].member);
            const auto& equations = system_.elements[at];
            const MemberElement& element = equations.element;
            const Eigen::Matrix3d added = equations.axes.transpose() * spread[member] * equations.axes;
            const Matrix12 stiff = stiffness(element), mass = consistentMass(element) + alongLength(element, added);
            const Eigen::MatrixXd own = equations.toOwn * shapes_(equations.unknowns, Eigen::all);
            const Section& section = *frame_.members[member].section;
            const double poisson = structure_.members[member].material->poisson;
            for (Eigen::Index mode = 0; mode < modes_; ++mode) {
                Vector12 force = stiff * own.col(mode) - lambda_[mode] * (mass * own.col(mode));
                if (ends_) force = ends_->block<12, 1>(12 * static_cast<Eigen::Index>(at), mode);
                PartStress& part = list[static_cast<std::size_t>(mode)][member];
                for (int end = 0; end < 2; ++end) {
                    const double sign = end == 0 ? -1.0 : 1.0;
                    const Vector6 f = sign * force.segment<6>(6 * end);
                    const SectionForces here{f[0], {f[1], f[2]}, f[3], {f[4], f[5]}};
                    takeLargest(part.forces, here);
                    const auto stress = largestStress(section, here, poisson);
                    part.known = stress.has_value();
                    if (!stress) continue;
                    if (take(part.most, *stress))
                        part.place = mesh_.end(mesh_.elements[at], static_cast<std::size_t>(end));
                    if (keeps_)
                        reading_.atEnds(2 * static_cast<Eigen::Index>(at) + end, mode) =
                            static_cast<float>(stress->equivalent);
                }
            }
        }
        for (std::size_t mode = 0; mode < list.size(); ++mode)
            for (auto& part : list[mode])
                reading_.modes[mode].parts.push_back(std::move(part));
    }

    static void takeLargest(SectionForces& most, const SectionForces& one)
    {
        const auto larger = [](double& a, double b) {
            if (std::abs(b) > std::abs(a)) a = b;
        };
        larger(most.axial, one.axial);
        larger(most.twisting, one.twisting);
        for (std::size_t axis = 0; axis < 2; ++axis) {
            larger(most.shear[axis], one.shear[axis]);
            larger(most.bending[axis], one.bending[axis]);
        }
    }

    void sheets()
    {
        std::vector<std::pair<int, std::vector<int>>> corners;
        for (const auto& shell : mesh_.shells)
            corners.emplace_back(
                shell.face,
                std::vector<int>(shell.nodes.begin(), shell.nodes.begin() + static_cast<long>(shell.corners())));
        std::vector<ShellEquations> pieces(mesh_.shells.size());
        Workers(threadsForPieces(pieces.size())).forEach(pieces.size(), [&](std::size_t at) {
            pieces[at] = shellOf(structure_, mesh_, mesh_.shells[at]);
        });
        CornerStrains strains(corners);
        std::vector<Eigen::Vector3d> normals(strains.places().size(), Eigen::Vector3d::Zero());
        for (std::size_t at = 0; at < pieces.size(); ++at)
            for (std::size_t corner = 0; corner < strains.cornersOf(at); ++corner)
                normals[static_cast<std::size_t>(strains.placeOf(at, corner))] += pieces[at].axes.col(2);
        // Flat pieces of a curved sheet lean against each other; their strains are the same where they are tilted into
        // its tangent.
        std::vector<std::vector<Eigen::Matrix3d>> tilted(pieces.size());
        for (std::size_t at = 0; at < pieces.size(); ++at)
            for (std::size_t corner = 0; corner < strains.cornersOf(at); ++corner)
                tilted[at].push_back(
                    Eigen::Quaterniond::FromTwoVectors(pieces[at].axes.col(2),
                                                       normals[static_cast<std::size_t>(strains.placeOf(at, corner))])
                        .toRotationMatrix() *
                    pieces[at].axes);
        const auto stressAt = [&](std::size_t at, std::size_t corner, const auto& row, Eigen::Index mode) {
            return ofSheet(pieces[at], tilted[at][corner], mesh_.shells[at].sheet, corner,
                           row.template segment<12>(12 * mode).transpose());
        };
        read(std::move(strains), OwnerKind::sheet, 12, stressAt,
             [&](std::size_t at, const auto& shapes, Eigen::Index first) {
                 const MeshShell& shell = mesh_.shells[at];
                 const ShellElement& element = pieces[at].element;
                 const ShellPlaces places = coarsePlaces(element);
                 const auto own = strainsAt(element, insideOf(element), system_.ownMotion(shell, pieces[at], shapes),
                                            places.parameters);
                 const auto count = static_cast<Eigen::Index>(own.size());
                 Eigen::MatrixXd values(count, 6 * shapes.cols()); // membrane and curvature, in the plane
                 for (std::size_t place = 0; place < own.size(); ++place) {
                     ShellStrains elastic = own[place];
                     if (loads_) {
                         const auto some = Eigen::seqN(first, shapes.cols());
                         elastic.membrane.topRows<2>().rowwise() -= loads_->sheetStrain(shell.sheet, some);
                         elastic.curvature.topRows<2>().rowwise() -=
                             loads_->sheetBend(shell.sheet, some) / places.thickness[place];
                     }
                     for (Eigen::Index mode = 0; mode < shapes.cols(); ++mode)
                         values.block(static_cast<Eigen::Index>(place), 6 * mode, 1, 6)
                             << elastic.membrane.col(mode).transpose(),
                             elastic.curvature.col(mode).transpose();
                 }
                 const Eigen::MatrixXd plane = drawnOut(places.corners, values);
                 Eigen::MatrixXd all(plane.rows(), 12 * shapes.cols());
                 for (Eigen::Index corner = 0; corner < plane.rows(); ++corner) {
                     const auto turn = planeToGlobal(tilted[at][static_cast<std::size_t>(corner)]);
                     for (Eigen::Index part = 0; part < 2 * shapes.cols(); ++part)
                         all.block(corner, 6 * part, 1, 6) =
                             (turn * plane.block(corner, 3 * part, 1, 3).transpose()).transpose();
                 }
                 return all;
             });
    }

    struct Here {
        Stress stress;
        std::string_view where{};
    };

    /// At both faces of each layer; the strain is told in axes that are tilted as the piece's own are.
    Here ofSheet(const ShellEquations& piece, const Eigen::Matrix3d& axes, int sheet, std::size_t corner,
                 const Eigen::Matrix<double, 12, 1>& strain) const
    {
        const auto turn = globalToPlane(axes);
        const Eigen::Vector3d membrane = turn * strain.head<6>(), curvature = turn * strain.tail<6>();
        const double thickness = piece.element.thickness[corner];
        const auto layers = layersOf(structure_, piece, sheet);
        Here most;
        for (std::size_t layer = 0; layer < layers.size(); ++layer)
            for (const double height : {layers[layer].from, layers[layer].to}) {
                const Eigen::Vector3d own = membrane + height * thickness * curvature;
                if (take(most.stress, stressOf(Eigen::Vector3d(layers[layer].plane * own))))
                    most.where = height > 0.0 ? "above" : "below";
            }
        return most;
    }

    void solids()
    {
        std::vector<std::pair<int, std::vector<int>>> corners;
        for (const auto& solid : mesh_.solids) {
            const auto count = static_cast<long>(cornersOf(solid.kind));
            corners.emplace_back(-1 - solid.solid, std::vector<int>(solid.nodes.begin(), solid.nodes.begin() + count));
        }
        std::vector<Eigen::Matrix<double, 6, 6>> elasticity(mesh_.solids.size());
        const auto stressAt = [&](std::size_t at, std::size_t, const auto& row, Eigen::Index mode) {
            return Here{stressOf(Vector6(elasticity[at] * row.template segment<6>(6 * mode).transpose()))};
        };
        read(CornerStrains(corners), OwnerKind::solid, 6, stressAt,
             [&](std::size_t at, const auto& shapes, Eigen::Index first) {
                 const MeshSolid& solid = mesh_.solids[at];
                 const SolidElement element = solidOf(structure_, mesh_, solid);
                 elasticity[at] = elasticityOf(element);
                 const SolidPlaces places = bestPlaces(element);
                 Eigen::MatrixXd own = strainsAt(element, system_.ownMotion(solid, shapes), places.parameters);
                 for (Eigen::Index row = 0; loads_ && row < own.rows(); ++row)
                     if (row % 6 < 3)
                         own.row(row) -= loads_->solidStrain(solid.solid, Eigen::seqN(first, shapes.cols()));
                 const auto count = static_cast<Eigen::Index>(places.parameters.size());
                 Eigen::MatrixXd values(count, 6 * shapes.cols());
                 for (Eigen::Index place = 0; place < count; ++place)
                     for (Eigen::Index mode = 0; mode < shapes.cols(); ++mode)
                         values.block(place, 6 * mode, 1, 6) = own.block(6 * place, mode, 6, 1).transpose();
                 return drawnOut(places.corners, values);
             });
    }

    /// The largest by part of what `stressAt` makes of the mean strains, and the field of it: of some modes at a time,
    /// as the pieces' strains take room. `cornersOf` makes a piece's strains at its corners.
    template <class StressAt, class StrainsAtCorners>
    void read(CornerStrains strains, OwnerKind kind, Eigen::Index each, const StressAt& stressAt,
              const StrainsAtCorners& cornersOf)
    {
        const bool ofSheet = kind == OwnerKind::sheet;
        const std::size_t pieces = ofSheet ? mesh_.shells.size() : mesh_.solids.size();
        if (pieces == 0) return;
        const Eigen::Index before = reading_.atPlaces.rows();
        if (keeps_) {
            reading_.places.insert(reading_.places.end(), strains.places().begin(), strains.places().end());
            reading_.atPlaces.conservativeResize(static_cast<Eigen::Index>(reading_.places.size()), modes_);
            reading_.atPlaces.bottomRows(reading_.atPlaces.rows() - before).setZero();
        }
        constexpr double room = 4e8; // bytes
        const auto some = static_cast<Eigen::Index>(
            std::clamp(room / (8.0 * double(each) * double(strains.corners())), 1.0, double(modes_)));
        Workers workers(threadsForPieces(pieces));
        for (Eigen::Index first = 0; first < modes_ && !progress_.stopped(); first += some) {
            const Eigen::Index count = std::min(some, modes_ - first);
            const Eigen::MatrixXd shapes = shapes_.middleCols(first, count);
            workers.forEach(pieces, [&](std::size_t at) { strains.put(at, cornersOf(at, shapes, first)); });
            strains.average();
            for (Eigen::Index mode = 0; mode < count; ++mode)
                readMode(strains, kind, stressAt, mode, first + mode, before);
            progress_.fraction(double(first + count) / double(modes_));
        }
    }

    template <class StressAt>
    void readMode(const CornerStrains& strains, OwnerKind kind, const StressAt& stressAt, Eigen::Index column,
                  Eigen::Index mode, Eigen::Index firstPlace)
    {
        const bool ofSheet = kind == OwnerKind::sheet;
        const std::size_t pieces = ofSheet ? mesh_.shells.size() : mesh_.solids.size();
        std::map<int, PartStress> parts;
        std::map<int, std::size_t> mostIn; // the piece where it is largest
        for (std::size_t at = 0; at < pieces; ++at) {
            const int owner = ofSheet ? mesh_.shells[at].sheet : mesh_.solids[at].solid;
            PartStress& part = parts[owner];
            for (std::size_t corner = 0; corner < strains.cornersOf(at); ++corner) {
                const Here mean = stressAt(at, corner, strains.mean(at, corner), column);
                const Eigen::Index place = strains.placeOf(at, corner);
                if (take(part.most, mean.stress)) {
                    const int node = strains.places()[static_cast<std::size_t>(place)][1];
                    part.place = mesh_.nodes[static_cast<std::size_t>(node)].place;
                    part.where = mean.where;
                    mostIn[owner] = at;
                }
                if (!keeps_) continue;
                float& value = reading_.atPlaces(firstPlace + place, mode);
                value = std::max(value, static_cast<float>(mean.stress.equivalent));
            }
        }
        for (const auto& [owner, at] : mostIn)
            for (std::size_t corner = 0; corner < strains.cornersOf(at); ++corner) {
                const double own = stressAt(at, corner, strains.own(at, corner), column).stress.equivalent,
                             mean = stressAt(at, corner, strains.mean(at, corner), column).stress.equivalent;
                parts[owner].jump = std::max(parts[owner].jump, std::abs(own - mean) / parts[owner].most.equivalent);
            }
        for (auto& [owner, part] : parts) {
            part.of = kind;
            part.owner = owner;
            const int which = ofSheet ? owner : frame_.partOfSolid(owner);
            part.name = frame_.partName(which);
            part.sentence = frame_.partSentence(which);
            reading_.modes[static_cast<std::size_t>(mode)].parts.push_back(std::move(part));
        }
    }

    const Structure& structure_;
    const Frame& frame_;
    const FrameMesh& mesh_;
    const System& system_;
    const Eigen::MatrixXd& shapes_;
    Progress& progress_;
    Eigen::Index modes_;
    Eigen::VectorXd lambda_;
    const StaticLoads* loads_ = nullptr;
    const Eigen::MatrixXd* ends_ = nullptr;
    bool keeps_ = true; ///< fields
    StressReading reading_;
};

} // namespace

StressReading stressReading(const Solution& solution, Progress& progress)
{
    Eigen::VectorXd lambda(solution.shapes.cols());
    for (Eigen::Index mode = 0; mode < lambda.size(); ++mode)
        lambda[mode] = solution.modes[static_cast<std::size_t>(mode)].lambda;
    StressReader reader(*solution.structure, solution.mesh, *solution.system, solution.shapes, progress);
    reader.vibrate(std::move(lambda));
    StressReading reading = reader.read();
    for (std::size_t mode = 0; mode < reading.modes.size(); ++mode)
        if (solution.modes[mode].rigid || solution.modes[mode].mechanism) reading.modes[mode].parts.clear();
    return reading;
}

StressReading stressReading(const Structure& structure, const FrameMesh& mesh, const System& system,
                            const StaticLoads& loads, const Eigen::MatrixXd& motions, const Eigen::MatrixXd& ends,
                            Progress& progress)
{
    StressReader reader(structure, mesh, system, motions, progress);
    reader.load(loads, ends);
    return reader.read();
}

Result<ScaledMode> scaled(const Solution& solution, const ModalStress& stress, const ModalScale& scale)
{
    const auto index = static_cast<std::size_t>(stress.mode - 1);
    const double omega = std::sqrt(std::max(0.0, solution.modes[index].lambda));
    ScaledMode unit;
    for (std::size_t node = 0; node < solution.mesh.nodes.size(); ++node) {
        const double size = solution.motion(static_cast<int>(node), index).head<3>().norm();
        if (size <= unit.displacement * (1.0 + 1e-9)) continue;
        unit.displacement = size;
        unit.place = solution.mesh.nodes[node].place;
    }
    unit.atPoint = scale.point < 0 ? unit.displacement : solution.motion(scale.point, index).head<3>().norm();
    for (const auto& part : stress.parts)
        unit.stress = std::max(unit.stress, part.most.equivalent);
    if (!(omega > 0.0))
        return errorAt({}, fmt::format("mode {} strains nothing: it has neither energy nor stress", stress.mode),
                       "Take a mode above 0 Hz.");
    using By = ModalScale::By;
    const double own = scale.by == By::displacement   ? unit.atPoint
                       : scale.by == By::velocity     ? omega * unit.atPoint
                       : scale.by == By::acceleration ? omega * omega * unit.atPoint
                       : scale.by == By::energy       ? omega * omega / 2.0
                                                      : unit.stress;
    if (!(own > 0.0) || (scale.point >= 0 && unit.atPoint < 1e-9 * unit.displacement))
        return errorAt(
            {},
            scale.by == By::stress
                ? fmt::format("no stress is known in mode {}", stress.mode)
                : fmt::format("{} does not move in mode {}",
                              scale.point >= 0
                                  ? solution.structure->frame.points[static_cast<std::size_t>(scale.point)].name
                                  : "the structure",
                              stress.mode),
            "Name another place, or the largest motion.");
    ScaledMode all = unit;
    all.factor = scale.by == By::energy ? std::sqrt(scale.value / own) : scale.value / own;
    all.displacement *= all.factor;
    all.atPoint *= all.factor;
    all.velocity = omega * all.displacement;
    all.acceleration = omega * all.velocity;
    all.energy = omega * omega * all.factor * all.factor / 2.0;
    all.stress *= all.factor;
    return all;
}

} // namespace undisona
