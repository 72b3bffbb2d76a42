#include "core/modal/shape_name.hpp"

#include "core/modal/carried_mass.hpp"
#include "core/modal/part_shape.hpp"

#include <fmt/format.h>

#include <set>

namespace undisona {

namespace {

constexpr const char* ordinals[] = {"first", "second",  "third",  "fourth", "fifth",
                                    "sixth", "seventh", "eighth", "ninth",  "tenth"};

const char* ordinal(int number)
{
    return number >= 1 && number <= 10 ? ordinals[number - 1] : "higher";
}

constexpr const char* axes[3] = {"x", "y", "z"};

/// Whether every slice moves along the axis about alike: the whole sways that way, and is not stretched.
bool shiftsAlike(const Profile& profile, int axis)
{
    double least = 1e300, most = 0.0;
    for (const auto& mean : profile.mean) {
        if (mean[axis] * profile.mean.front()[axis] < 0.0) return false;
        least = std::min(least, std::abs(mean[axis]));
        most = std::max(most, std::abs(mean[axis]));
    }
    return least > 0.5 * most;
}

/// The axis about which slices along it turn; of what is slender its length alone. What leans, floor by floor, moves
/// one way across the axis and turns nothing.
std::optional<int> twistingAxis(const MassPoints& points, const Motions& motion, const Eigen::Vector3d& shares)
{
    std::optional<int> most;
    double turning = points.slender ? 0.5 : 0.65;
    Eigen::Vector3d reach = Eigen::Vector3d::Zero();
    for (std::size_t at = 0; at < points.mass.size(); ++at)
        reach += points.mass[at] * (points.place[at] - points.centre).cwiseAbs2();
    for (int axis = 0; axis < 3; ++axis) {
        if (points.slender && axis != points.longAxis) continue;
        const int one = (axis + 1) % 3, other = (axis + 2) % 3; // a turn moves one by how far the other reaches
        const double both = std::max(reach[one] + reach[other], 1e-300);
        const bool leans =
            !points.slender && (shares[one] < 0.4 * reach[other] / both || shares[other] < 0.4 * reach[one] / both);
        if (leans) continue;
        if (const double own = profileOf(points, motion, axis).turning; own > turning) {
            turning = own;
            most = axis;
        }
    }
    return most;
}

/// Sums over the members of the parts of the strain energy, and what springs, beds and elastic supports have.
struct Strained {
    double axial = 0.0, twisting = 0.0, bending = 0.0, springs = 0.0;
};
Strained strainedParts(const Energies& energies, Eigen::Index mode)
{
    Strained sums;
    for (std::size_t at = 0; at < energies.rows.size(); ++at) {
        const auto row = static_cast<Eigen::Index>(at);
        switch (energies.rows[at].kind) {
        case PartKind::member:
            sums.axial += energies.axial(row, mode);
            sums.twisting += energies.twisting(row, mode);
            sums.bending += energies.bending(row, mode);
            break;
        case PartKind::tension: // which bends a wire back as its own stiffness does a beam
            if (energies.rows[at].of == OwnerKind::member) sums.bending += energies.strain(row, mode);
            break;
        case PartKind::spring:
        case PartKind::support:
        case PartKind::bed:
            sums.springs += energies.strain(row, mode);
            break;
        default:
            break;
        }
    }
    return sums;
}

/// A body that moves as a whole on its springs.
std::string onSprings(const Vector6& shares)
{
    int which = 0;
    shares.maxCoeff(&which);
    if (which == 2) return "bouncing in z";
    if (which < 3) return fmt::format("shifting in {}", axes[which]);
    return fmt::format("{} about {}", which == 5 ? "turning" : "rocking", axes[which - 3]);
}

/// The axes along which most of the motion is: "z", or "x and y".
std::string along(const Eigen::Vector3d& shares)
{
    int main = 0;
    if (shares.maxCoeff(&main) > 0.6) return axes[main];
    std::string all;
    for (int axis = 0; axis < 3; ++axis)
        if (shares[axis] > 0.25) all += (all.empty() ? "" : " and ") + std::string(axes[axis]);
    return all.empty() ? axes[main] : all;
}

std::string rigidName(const Vector6& shares)
{
    int which = 0;
    shares.maxCoeff(&which);
    return which < 3 ? fmt::format("shifting in {}", axes[which]) : fmt::format("turning about {}", axes[which - 3]);
}

/// "most at a": the point that moves most, or the part that does where its places move more than every point.
std::string mostMoved(const Frame& frame, const FrameMesh& mesh, const Motions& motion)
{
    const auto size = [&](int node) { return motion[static_cast<std::size_t>(node)].head<3>().norm(); };
    std::string words;
    double most = 0.0;
    for (std::size_t at = 0; at < frame.points.size(); ++at)
        if (size(static_cast<int>(at)) > most) {
            most = size(static_cast<int>(at));
            words = "most at " + frame.points[at].name;
        }
    constexpr double clearly = 1.01; // a point of the part itself is said before the part
    const auto look = [&](const auto& nodes, std::size_t count, int part) {
        for (std::size_t node = 0; node < count; ++node)
            if (size(nodes[node]) > clearly * most) {
                most = size(nodes[node]);
                words = "most of all " + frame.partName(part);
            }
    };
    for (const auto& shell : mesh.shells)
        look(shell.nodes, shell.corners(), shell.sheet);
    for (const auto& solid : mesh.solids)
        look(solid.nodes, solid.count(), frame.partOfSolid(solid.solid));
    return words.empty() ? "nothing moves with it" : words;
}

/// The names of the modes of one solution, made in their order.
class Namer {
public:
    Namer(const Structure& structure, const FrameMesh& mesh, const System& system, const Extraction& extraction,
          const Energies& energies)
        : structure_(structure), frame_(structure.frame), mesh_(mesh), system_(system), extraction_(extraction),
          energies_(energies), points_(massPoints(structure, mesh))
    {
    }

    void name(Mode& mode, const Participation& participation)
    {
        at_ = static_cast<Eigen::Index>(mode.number) - 1;
        motion_.clear();
        for (std::size_t node = 0; node < mesh_.nodes.size(); ++node)
            motion_.push_back(system_.motionOf(static_cast<int>(node), extraction_.shapes.col(at_)));
        if (mode.rigid) {
            mode.motion = mode.name = rigidName(rigidShares(points_, motion_));
            return;
        }
        if (mode.mechanism) {
            mode.motion = mode.name = "loose, " + mostMoved(frame_, mesh_, motion_);
            return;
        }
        strained_ = strainedParts(energies_, at_);
        twists_ = strained_.twisting > 0.5;
        moving_ = movingPart(structure_, points_, energies_, motion_, at_, twists_);
        mode.motion = motionInWords();
        mode.part = moving_.isWhole() ? "" : (moving_.mostly ? "mostly " : "") + moving_.words;
        mode.name = mode.part.empty() ? mode.motion : mode.part + ": " + mode.motion;
        tellTwin(mode);
        tellAgain(mode);
        readCarried(mode, participation, points_, motion_, moving_);
    }

private:
    std::string motionInWords()
    {
        if (const std::string words = onSpringsInWords(); !words.empty()) return words;
        if (moving_.betweenJoints)
            return twists_ ? "twisting between their joints"
                           : fmt::format("bending in {} between their joints", along(shares()));
        if (!moving_.members.empty()) return ofMembers();
        const std::vector<int> parts = moving_.isWhole() ? allParts() : moving_.parts;
        if (!parts.empty())
            if (const std::string words = ofParts(parts); !words.empty()) return words;
        return ofAll();
    }

    Eigen::Vector3d shares() const { return directionShares(points_, motion_); }

    std::string counted(const std::string& kind)
    {
        return fmt::format("{} {}", ordinal(++used_[moving_.words + kind]), kind);
    }

    /// The one part there is, which moves with whatever is at it.
    std::vector<int> allParts() const
    {
        std::vector<int> parts;
        for (int part = 0; part < static_cast<int>(frame_.parts()); ++part)
            if (const int solid = part - static_cast<int>(frame_.sheets.size());
                solid < 0 || !frame_.solids[static_cast<std::size_t>(solid)].spent)
                parts.push_back(part);
        return parts.size() == 1 ? parts : std::vector<int>();
    }

    /// What moves as a body while springs, or other parts, have the strain.
    std::string onSpringsInWords()
    {
        if (strained_.springs > 0.7) {
            if (const Vector6 rigid = rigidShares(movingOf(points_, motion_), motion_); rigid.sum() > 0.8)
                return counted(onSprings(rigid));
        }
        if (moving_.parts.empty()) return {};
        double own = 0.0;
        std::set<int> nodes;
        for (const int part : moving_.parts) {
            own += strainOf(part);
            nodes.merge(nodesOf(part));
        }
        if (own > 0.3) return {};
        const Vector6 rigid = rigidShares(only(points_, nodes), motion_);
        return rigid.sum() > 0.9 ? counted(onSprings(rigid)) : std::string();
    }

    double strainOf(int part) const
    {
        double sum = 0.0;
        for (std::size_t row = 0; row < energies_.rows.size(); ++row) {
            const auto& of = energies_.rows[row];
            if ((of.kind == PartKind::sheet && of.owner == part) ||
                (of.kind == PartKind::solid && frame_.partOfSolid(of.owner) == part))
                sum += energies_.strain(static_cast<Eigen::Index>(row), at_);
        }
        return sum;
    }

    std::set<int> nodesOf(int part) const
    {
        std::set<int> nodes;
        for (const auto& shell : mesh_.shells)
            if (shell.sheet == part)
                nodes.insert(shell.nodes.begin(), shell.nodes.begin() + static_cast<long>(shell.corners()));
        for (const auto& solid : mesh_.solids)
            if (frame_.partOfSolid(solid.solid) == part)
                nodes.insert(solid.nodes.begin(), solid.nodes.begin() + static_cast<long>(solid.count()));
        return nodes;
    }

    /// A few members by themselves: how often each waves between its ends, and whether they do so in step.
    std::string ofMembers()
    {
        const std::string kind = twists_                 ? "twisting"
                                 : strained_.axial > 0.5 ? "axial"
                                                         : "bending in " + along(shares());
        const std::vector<int> liveliest = alikeLively();
        if (!standAlone(liveliest)) return counted(kind);
        const auto first = waveOf(liveliest[0]);
        std::string words = fmt::format("{} {}", ordinal(changesOf(first) + 1), kind);
        if (liveliest.size() < 2) return words;
        std::size_t with = 1;
        for (std::size_t at = 1; at < liveliest.size(); ++at)
            with += inStep(first, waveOf(liveliest[at]), liveliest[0], liveliest[at]);
        if (with == liveliest.size()) return words + ", in step";
        if (liveliest.size() == 2) return words + ", against each other";
        return words + fmt::format(", {} against {}", with, liveliest.size() - with);
    }

    /// Of the members that move those with a share that shows.
    std::vector<int> alikeLively() const
    {
        const auto shares = kineticOfMembers(energies_, at_);
        std::vector<int> lively;
        for (const auto& [share, member] : shares)
            if (share > 0.2 * shares[0].first) lively.push_back(member);
        std::sort(lively.begin() + 1, lively.end());
        return lively;
    }

    /// Whether each of them waves by itself: where two meet, their joint rests.
    bool standAlone(const std::vector<int>& members) const
    {
        double most = 0.0;
        for (const auto& node : motion_)
            most = std::max(most, node.head<3>().norm());
        std::map<int, int> ends; // by point
        for (const int member : members)
            for (const int point : {frame_.members[static_cast<std::size_t>(member)].from,
                                    frame_.members[static_cast<std::size_t>(member)].to})
                if (++ends[point] > 1 && motion_[static_cast<std::size_t>(point)].head<3>().norm() > 0.2 * most)
                    return false;
        return true;
    }

    /// The motion of a member's nodes from its first end to its last, that of both ends taken off in proportion.
    std::vector<Eigen::Vector3d> waveOf(int member) const
    {
        const auto& own = frame_.members[static_cast<std::size_t>(member)];
        const Eigen::Vector3d start = frame_.points[static_cast<std::size_t>(own.from)].place,
                              way = frame_.direction(own);
        std::map<double, Eigen::Vector3d> along;
        for (const auto& element : mesh_.elements)
            if (element.member == member)
                for (const int node : element.nodes) {
                    const auto at = static_cast<std::size_t>(node);
                    along[std::round(1e6 * way.dot(mesh_.nodes[at].place - start))] =
                        twists_ ? Eigen::Vector3d(motion_[at].tail<3>().dot(way) * way)
                                : Eigen::Vector3d(motion_[at].head<3>());
                }
        std::vector<Eigen::Vector3d> wave;
        for (const auto& [place, moves] : along)
            wave.push_back(moves);
        return wave;
    }

    /// Changes of sign along it, in the direction in which it moves most.
    static int changesOf(const std::vector<Eigen::Vector3d>& wave)
    {
        const auto most = std::max_element(wave.begin(), wave.end(),
                                           [](const auto& a, const auto& b) { return a.norm() < b.norm(); });
        int changes = 0;
        double last = 0.0;
        for (const auto& moves : wave) {
            const double value = moves.dot(most->normalized());
            if (std::abs(value) < most->norm() / 15.0) continue;
            changes += last * value < 0.0;
            last = value;
        }
        return changes;
    }

    /// Whether two members move the same way where each moves most, whichever way each was drawn.
    bool inStep(const std::vector<Eigen::Vector3d>& a, const std::vector<Eigen::Vector3d>& b, int one, int other) const
    {
        const bool reversed = frame_.direction(frame_.members[static_cast<std::size_t>(one)])
                                  .dot(frame_.direction(frame_.members[static_cast<std::size_t>(other)])) < 0.0;
        double sum = 0.0;
        for (std::size_t at = 0; at < a.size(); ++at) {
            const auto beside = at * (b.size() - 1) / std::max<std::size_t>(a.size() - 1, 1);
            sum += a[at].dot(b[reversed ? b.size() - 1 - beside : beside]);
        }
        return sum > 0.0;
    }

    /// Sheets or solids whose form has names for its shapes: one name where all have the same.
    std::string ofParts(const std::vector<int>& parts)
    {
        std::vector<Eigen::Vector3d> shifts;
        for (const auto& node : motion_)
            shifts.push_back(node.head<3>());
        std::vector<std::string> words;
        for (const int part : parts) {
            auto known = formed_.find(part);
            if (known == formed_.end()) known = formed_.emplace(part, formedPart(frame_, mesh_, part)).first;
            words.push_back(known->second ? partShape(*known->second, mesh_, shifts) : std::string());
        }
        if (words[0].empty()) return {};
        const bool alike = std::all_of(words.begin(), words.end(), [&](const auto& own) { return own == words[0]; });
        if (parts.size() == 1) turned_ = formed_[parts[0]]->form.kind != PartForm::Kind::rectangle;
        return alike ? words[0] : fmt::format("{}, most on {}", words[0], frame_.partName(parts[0]));
    }

    std::string ofAll()
    {
        const Eigen::Vector3d shares = this->shares();
        int main = 0;
        shares.maxCoeff(&main);
        const Profile profile = profileOf(points_, motion_, points_.longAxis);
        const auto turnsAbout = twistingAxis(points_, motion_, shares);
        // Of members their strain says whether they are stretched; of others that hardly anything moves across.
        const bool ofMembers = strained_.axial + strained_.bending + strained_.twisting > 0.5;
        const bool stretched = main == points_.longAxis && points_.slender && !shiftsAlike(profile, main) &&
                               (ofMembers ? strained_.bending < 0.5 : shares[main] > 0.85);
        const char* verb = points_.slender && !(main == points_.longAxis && !stretched) ? "bending" : "swaying";
        if (twists_) return counted("twisting");
        if (turnsAbout)
            return counted(points_.slender ? "twisting" : fmt::format("twisting about {}", axes[*turnsAbout]));
        if (stretched) return counted("axial");
        return counted(fmt::format("{} in {}", verb, along(shares)));
    }

    /// The same shape turned about its axis; a coarse mesh parts their frequencies.
    void tellTwin(Mode& mode)
    {
        constexpr double alike = 0.05;
        if (!std::exchange(turned_, false)) return;
        const auto [first, isNew] = round_.try_emplace(mode.name, mode.frequency);
        if (isNew || mode.frequency >= (1.0 + alike) * first->second) return;
        mode.motion += " (twin)";
        mode.name += " (twin)";
    }

    /// No two modes have one name.
    void tellAgain(Mode& mode)
    {
        const int times = ++times_[mode.name];
        if (times == 1) return;
        mode.motion += fmt::format(" ({})", times);
        mode.name += fmt::format(" ({})", times);
    }

    const Structure& structure_;
    const Frame& frame_;
    const FrameMesh& mesh_;
    const System& system_;
    const Extraction& extraction_;
    const Energies& energies_;
    const MassPoints points_;
    std::map<std::string, int> used_;
    std::map<std::string, int> times_; ///< of each name
    std::map<int, std::optional<FormedPart>> formed_;
    std::map<std::string, double> round_; ///< Hz, of the first mode of each name

    // Of the mode at hand.
    Eigen::Index at_ = 0;
    Motions motion_;
    Strained strained_;
    MovingPart moving_;
    bool twists_ = false, turned_ = false;
};

} // namespace

void nameShapes(const Structure& structure, const FrameMesh& mesh, const System& system, const Extraction& extraction,
                const Energies& energies, const Participation& participation, std::vector<Mode>& modes)
{
    Namer namer(structure, mesh, system, extraction, energies);
    for (auto& mode : modes)
        namer.name(mode, participation);
    markThatMatter(participation, modes);
}

int orderTold(std::string_view motion)
{
    for (int at = 0; at < 10; ++at)
        if (motion.starts_with(std::string(ordinals[at]) + " ")) return at + 1;
    return 0;
}

} // namespace undisona
