#include "core/modal/modal_stress.hpp"

#include "core/modal/plane_strains.hpp"
#include "core/modal/strain_samples.hpp"
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

/// Strains of pieces at their corners, and the smoother ones that those of one owner come to at each node.
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
                if (isNew) {
                    places_.push_back(place);
                    firstAt_.emplace_back(at, rows_[at].size());
                }
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
    /// `smoothAt`: the row of a piece's corner in the smoother field.
    template <class SmoothAt>
    void smooth(Workers& workers, const SmoothAt& smoothAt)
    {
        smooth_.resize(static_cast<Eigen::Index>(places_.size()), own_.empty() ? 0 : own_[0].cols());
        workers.forEach(places_.size(), [&](std::size_t place) {
            smooth_.row(static_cast<Eigen::Index>(place)) = smoothAt(firstAt_[place].first, firstAt_[place].second);
        });
    }
    auto own(std::size_t piece, std::size_t corner) const { return own_[piece].row(static_cast<Eigen::Index>(corner)); }
    auto smooth(std::size_t piece, std::size_t corner) const { return smooth_.row(rows_[piece][corner]); }

private:
    std::vector<Eigen::MatrixXd> own_;
    std::vector<std::vector<Eigen::Index>> rows_;
    std::vector<std::array<int, 2>> places_;
    std::vector<std::pair<std::size_t, std::size_t>> firstAt_; ///< by place a piece and its corner there
    Eigen::MatrixXd smooth_;                                   ///< places x columns
    std::size_t corners_ = 0;
};

/// What flat pieces that lean against each other say across the normal they have between them belongs into the sides
/// they lean to: strains of a sheet have nothing across it. Six of a tensor each.
void layDown(Eigen::RowVectorXd& strains, const Eigen::Vector3d& n, const Eigen::Matrix3d& leaning)
{
    if (leaning.trace() < 1e-10) return;
    const Eigen::Matrix3d sides = leaning / leaning.trace();
    Eigen::Matrix<double, 1, 6> across, along;
    across << n.x() * n.x(), n.y() * n.y(), n.z() * n.z(), 2 * n.x() * n.y(), 2 * n.y() * n.z(), 2 * n.z() * n.x();
    along << sides(0, 0), sides(1, 1), sides(2, 2), sides(0, 1), sides(1, 2), sides(2, 0);
    for (Eigen::Index first = 0; first < strains.size(); first += 6)
        strains.segment<6>(first) += strains.segment<6>(first).dot(across) * along;
}

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
        const std::vector<ShellEquations>& pieces = system_.shells;
        if (pieces.empty()) return;
        std::vector<std::pair<int, std::vector<int>>> corners;
        for (const auto& shell : mesh_.shells)
            corners.emplace_back(
                shell.face,
                std::vector<int>(shell.nodes.begin(), shell.nodes.begin() + static_cast<long>(shell.corners())));
        Workers workers(threadsForPieces(pieces.size()));
        RecoveredStrains membrane(sheetSamples(mesh_, system_, true), workers),
            bending(sheetSamples(mesh_, system_, false), workers);
        std::vector<RecoveredStrains::Values> ofMembrane(pieces.size()), ofBending(pieces.size());
        CornerStrains strains(corners);
        std::vector<Eigen::Vector3d> normals(strains.places().size(), Eigen::Vector3d::Zero());
        for (std::size_t at = 0; at < pieces.size(); ++at)
            for (std::size_t corner = 0; corner < strains.cornersOf(at); ++corner)
                normals[static_cast<std::size_t>(strains.placeOf(at, corner))] += pieces[at].axes.col(2);
        // How the pieces round a place lean, and to which sides.
        std::vector<Eigen::Matrix3d> leaning(normals.size(), Eigen::Matrix3d::Zero());
        for (auto& normal : normals)
            normal.normalize();
        for (std::size_t at = 0; at < pieces.size(); ++at)
            for (std::size_t corner = 0; corner < strains.cornersOf(at); ++corner) {
                const auto place = static_cast<std::size_t>(strains.placeOf(at, corner));
                const Eigen::Vector3d n = pieces[at].axes.col(2), off = n - n.dot(normals[place]) * normals[place];
                leaning[place] += off * off.transpose();
            }
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
            const Vector6 along = row.template segment<6>(6 * mode).transpose(),
                          curved = row.template segment<6>(row.size() / 2 + 6 * mode).transpose();
            return ofSheet(pieces[at], tilted[at][corner], mesh_.shells[at].sheet, corner, along, curved);
        };
        std::vector<ShellInside> insides(pieces.size());
        workers.forEach(pieces.size(), [&](std::size_t at) { insides[at] = insideOf(pieces[at].element); });
        const auto strainsOf = [&](std::size_t at, const ShellPlaces& places, const Eigen::MatrixXd& motions) {
            return strainsAt(pieces[at].element, insides[at], motions, places.parameters);
        };
        // A mode's three strains of a place beside the next mode's, places x 3 modes, less what loads strain freely.
        const auto stretched = [&](int sheet, const std::vector<ShellStrains>& own, Eigen::Index first) {
            const Eigen::Index modes = own[0].membrane.cols();
            Eigen::MatrixXd rows(Eigen::Index(own.size()), 3 * modes);
            for (std::size_t place = 0; place < own.size(); ++place) {
                auto strain = own[place].membrane;
                if (loads_) strain.topRows<2>().rowwise() -= loads_->sheetStrain(sheet, Eigen::seqN(first, modes));
                rows.row(Eigen::Index(place)) = strain.reshaped().transpose();
            }
            return rows;
        };
        const auto bent = [&](int sheet, const std::vector<ShellStrains>& own, const ShellPlaces& places,
                              Eigen::Index first) {
            const Eigen::Index modes = own[0].curvature.cols();
            Eigen::MatrixXd rows(Eigen::Index(own.size()), 3 * modes);
            for (std::size_t place = 0; place < own.size(); ++place) {
                auto strain = own[place].curvature;
                if (loads_)
                    strain.topRows<2>().rowwise() -=
                        loads_->sheetBend(sheet, Eigen::seqN(first, modes)) / places.thickness[place];
                rows.row(Eigen::Index(place)) = strain.reshaped().transpose();
            }
            return rows;
        };
        // Each three of them as six in global axes.
        const auto globally = [](const Eigen::Matrix<double, 6, 3>& turn, const auto& rows) {
            Eigen::MatrixXd all(rows.rows(), 2 * rows.cols());
            for (Eigen::Index part = 0; part < rows.cols() / 3; ++part)
                all.middleCols<6>(6 * part) = rows.template middleCols<3>(3 * part) * turn.transpose();
            return all;
        };
        read(
            strains, OwnerKind::sheet, 12, workers, stressAt,
            [&](std::size_t at, const auto& shapes, Eigen::Index first) {
                const MeshShell& shell = mesh_.shells[at];
                const Eigen::MatrixXd motions = system_.ownMotion(shell, pieces[at], shapes);
                const ShellPlaces coarse = coarsePlaces(pieces[at].element), middle = middlePlace(pieces[at].element);
                const auto own = strainsOf(at, coarse, motions);
                const Eigen::MatrixXd membranes = stretched(shell.sheet, own, first),
                                      curvatures = bent(shell.sheet, own, coarse, first);
                const auto turn = planeToGlobal(pieces[at].axes);
                ofMembrane[at].at = globally(turn, membranes);
                ofBending[at].at = globally(turn, bent(shell.sheet, strainsOf(at, middle, motions), middle, first));
                if (bending.wantsMorePlaces(at)) ofBending[at].more = globally(turn, curvatures);
                const Eigen::MatrixXd membranesOut = drawnOut(coarse.corners, membranes),
                                      curvaturesOut = drawnOut(coarse.corners, curvatures);
                Eigen::MatrixXd all(membranesOut.rows(), 12 * shapes.cols());
                for (Eigen::Index corner = 0; corner < all.rows(); ++corner) {
                    const auto here = planeToGlobal(tilted[at][static_cast<std::size_t>(corner)]);
                    all.row(corner) << globally(here, membranesOut.row(corner)),
                        globally(here, curvaturesOut.row(corner));
                }
                return all;
            },
            [&] {
                membrane.fit(ofMembrane, workers);
                bending.fit(ofBending, workers);
            },
            [&](std::size_t at, std::size_t corner) {
                const auto node = static_cast<std::size_t>(mesh_.shells[at].nodes[corner]);
                const auto which = static_cast<std::size_t>(strains.placeOf(at, corner));
                const Eigen::Vector3d& place = mesh_.nodes[node].place;
                const Eigen::RowVectorXd membranes = membrane.atCorner(at, corner, place);
                Eigen::RowVectorXd all(2 * membranes.size());
                all << membranes, bending.atCorner(at, corner, place);
                layDown(all, normals[which], leaning[which]);
                return all;
            });
    }

    struct Here {
        Stress stress;
        std::string_view where{};
    };

    /// At both faces of each layer; the strain is told in axes that are tilted as the piece's own are.
    Here ofSheet(const ShellEquations& piece, const Eigen::Matrix3d& axes, int sheet, std::size_t corner,
                 const Vector6& stretching, const Vector6& bending) const
    {
        const auto turn = globalToPlane(axes);
        const Eigen::Vector3d membrane = turn * stretching, curvature = turn * bending;
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
        if (mesh_.solids.empty()) return;
        std::vector<std::pair<int, std::vector<int>>> corners;
        for (const auto& solid : mesh_.solids) {
            const auto count = static_cast<long>(cornersOf(solid.kind));
            corners.emplace_back(-1 - solid.solid, std::vector<int>(solid.nodes.begin(), solid.nodes.begin() + count));
        }
        CornerStrains strains(corners);
        Workers workers(threadsForPieces(mesh_.solids.size()));
        RecoveredStrains fitted(solidSamples(mesh_, system_), workers);
        std::vector<RecoveredStrains::Values> ofPieces(mesh_.solids.size());
        std::vector<Eigen::Matrix<double, 6, 6>> elasticity(mesh_.solids.size());
        const auto stressAt = [&](std::size_t at, std::size_t, const auto& row, Eigen::Index mode) {
            return Here{stressOf(Vector6(elasticity[at] * row.template segment<6>(6 * mode).transpose()))};
        };
        read(
            strains, OwnerKind::solid, 6, workers, stressAt,
            [&](std::size_t at, const auto& shapes, Eigen::Index first) {
                const MeshSolid& solid = mesh_.solids[at];
                const SolidElement& element = system_.solids[at];
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
                ofPieces[at].at = values;
                return drawnOut(places.corners, values);
            },
            [&] { fitted.fit(ofPieces, workers); },
            [&](std::size_t at, std::size_t corner) {
                const auto node = static_cast<std::size_t>(mesh_.solids[at].nodes[corner]);
                return fitted.atCorner(at, corner, mesh_.nodes[node].place);
            });
    }

    /// The largest by part of what `stressAt` makes of the smoother strains, and the field of it: of some modes at a
    /// time, as the pieces' strains take room. `cornersOf` makes a piece's own strains at its corners, `fit` the
    /// smoother field of all, `smoothAt` reads it at a corner.
    template <class StressAt, class StrainsAtCorners, class Fit, class SmoothAt>
    void read(CornerStrains& strains, OwnerKind kind, Eigen::Index each, Workers& workers, const StressAt& stressAt,
              const StrainsAtCorners& cornersOf, const Fit& fit, const SmoothAt& smoothAt)
    {
        const bool ofSheet = kind == OwnerKind::sheet;
        const std::size_t pieces = ofSheet ? mesh_.shells.size() : mesh_.solids.size();
        const Eigen::Index before = reading_.atPlaces.rows();
        if (keeps_) {
            reading_.places.insert(reading_.places.end(), strains.places().begin(), strains.places().end());
            reading_.atPlaces.conservativeResize(static_cast<Eigen::Index>(reading_.places.size()), modes_);
            reading_.atPlaces.bottomRows(reading_.atPlaces.rows() - before).setZero();
        }
        constexpr double room = 4e8; // bytes
        const auto some = static_cast<Eigen::Index>(
            std::clamp(room / (8.0 * double(each) * double(strains.corners())), 1.0, double(modes_)));
        for (Eigen::Index first = 0; first < modes_ && !progress_.stopped(); first += some) {
            const Eigen::Index count = std::min(some, modes_ - first);
            const Eigen::MatrixXd shapes = shapes_.middleCols(first, count);
            workers.forEach(pieces, [&](std::size_t at) { strains.put(at, cornersOf(at, shapes, first)); });
            fit();
            strains.smooth(workers, smoothAt);
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
                const Here here = stressAt(at, corner, strains.smooth(at, corner), column);
                const Eigen::Index place = strains.placeOf(at, corner);
                if (take(part.most, here.stress)) {
                    const int node = strains.places()[static_cast<std::size_t>(place)][1];
                    part.place = mesh_.nodes[static_cast<std::size_t>(node)].place;
                    part.where = here.where;
                    mostIn[owner] = at;
                }
                if (!keeps_) continue;
                float& value = reading_.atPlaces(firstPlace + place, mode);
                value = std::max(value, static_cast<float>(here.stress.equivalent));
            }
        }
        for (const auto& [owner, at] : mostIn)
            for (std::size_t corner = 0; corner < strains.cornersOf(at); ++corner) {
                const double own = stressAt(at, corner, strains.own(at, corner), column).stress.equivalent,
                             smooth = stressAt(at, corner, strains.smooth(at, corner), column).stress.equivalent;
                parts[owner].jump = std::max(parts[owner].jump, std::abs(own - smooth) / parts[owner].most.equivalent);
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

Eigen::VectorXd equivalentAtNodes(const FrameMesh& mesh, const StressReading& fields, Eigen::Index mode)
{
    Eigen::VectorXd stress = Eigen::VectorXd::Zero(static_cast<Eigen::Index>(mesh.nodes.size()));
    const auto take = [&](int node, double value) {
        if (node >= 0) stress[node] = std::max(stress[node], value);
    };
    if (mode < fields.atPlaces.cols())
        for (std::size_t at = 0; at < fields.places.size(); ++at)
            take(fields.places[at][1], double(fields.atPlaces(static_cast<Eigen::Index>(at), mode)));
    for (const auto& solid : mesh.solids) { // between their corners
        const auto sides = sidesOf(solid.kind);
        const std::size_t corners = cornersOf(solid.kind);
        for (std::size_t side = 0; side < sides.size() && solid.count() > corners; ++side)
            take(solid.nodes[corners + side], (stress[solid.nodes[static_cast<std::size_t>(sides[side][0])]] +
                                               stress[solid.nodes[static_cast<std::size_t>(sides[side][1])]]) /
                                                  2.0);
    }
    if (mode < fields.atEnds.cols())
        for (std::size_t at = 0; at < mesh.elements.size(); ++at)
            for (int end = 0; end < 2; ++end)
                take(mesh.elements[at].nodes[static_cast<std::size_t>(end)],
                     double(fields.atEnds(2 * static_cast<Eigen::Index>(at) + end, mode)));
    return stress;
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
