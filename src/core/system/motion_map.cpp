#include "core/system/motion_map.hpp"

#include "core/system/body_motion.hpp"
#include "core/system/elimination.hpp"
#include "core/system/used_directions.hpp"

#include <numeric>

namespace undisona {

namespace {

class MotionMapper {
public:
    MotionMapper(const Structure& structure, const FrameMesh& mesh)
        : structure_(structure), mesh_(mesh), relations_(relationsOf(structure, mesh)),
          points_(structure.frame.points.size())
    {
    }

    MotionMap mapped()
    {
        for (const auto& [sentence, joins] : relations_.joins)
            said_[sentence] = joins;
        map_.problems = std::move(relations_.problems);
        bodies();
        supports();
        idle();
        nodes();
        ends();
        name();
        eliminate();
        for (const auto& [sentence, count] : said_)
            if (count[0] > 0 && count[0] == count[1]) map_.vain.push_back(sentence);
        return std::move(map_);
    }

private:
    std::size_t leaderOf(int motion) const
    {
        return static_cast<std::size_t>(relations_.leader[static_cast<std::size_t>(motion)]);
    }
    const Eigen::Vector3d& placeOf(std::size_t node) const { return mesh_.nodes[node].place; }

    /// Of the points that something touches; nodes inside parts have one where something holds or leads them.
    void bodies()
    {
        std::vector<char> used(points_, 0); // a point that nothing touches has no unknowns
        const auto use = [&](int node) {
            if (node >= 0 && static_cast<std::size_t>(node) < points_) used[static_cast<std::size_t>(node)] = 1;
        };
        for (const auto& member : structure_.frame.members)
            for (const int point : {member.from, member.to})
                use(point);
        for (const auto& mass : structure_.pointMasses)
            use(mass.point);
        for (const auto& spring : structure_.springs)
            for (const int point : {spring.from, spring.to})
                use(point);
        for (const auto& contact : structure_.contacts)
            if (contact.other >= 0)
                for (const int point : {contact.point, contact.other})
                    use(point);
        for (const auto& shell : mesh_.shells)
            for (const int node : shell.nodes)
                use(node);
        for (const auto& solid : mesh_.solids)
            for (std::size_t node = 0; node < solid.count(); ++node)
                use(solid.nodes[node]);
        for (const auto& row : relations_.rows)
            if (row.terms.size() > 1)
                for (const auto& term : row.terms)
                    use(term.motion);
        std::vector<char> leads(mesh_.nodes.size(), 0);
        for (std::size_t node = 0; node < mesh_.nodes.size(); ++node)
            if (node < points_ ? used[node] != 0 : leaderOf(static_cast<int>(node)) != node)
                leads[leaderOf(static_cast<int>(node))] = 1;
        for (std::size_t node = 0; node < mesh_.nodes.size(); ++node)
            if (leads[node]) addBody(node);
    }

    Body& addBody(std::size_t node)
    {
        return bodies_
            .try_emplace(node, Body{placeOf(node), node < points_ ? structure_.frame.points[node].name : "",
                                    relations_.turns[node] != 0})
            .first->second;
    }

    /// What is said of one body alone is its support; the rest stands between bodies.
    void supports()
    {
        for (const auto& row : relations_.rows) {
            const std::size_t leader = leaderOf(row.terms.front().motion);
            if (std::any_of(row.terms.begin(), row.terms.end(),
                            [&](const auto& term) { return leaderOf(term.motion) != leader; })) {
                between_.push_back(&row);
                continue;
            }
            if (row.terms.size() > 1) { // between places of one body, which do not part
                ++said_[row.sentence][0];
                ++said_[row.sentence][1];
                continue;
            }
            const auto node = static_cast<std::size_t>(row.terms.front().motion);
            if (leader < points_ && !bodies_.contains(leader)) continue;
            Body& body = addBody(leader);
            body.rows.push_back(carry(placeOf(node) - body.reference).transpose() * row.terms.front().row);
            body.axes.push_back(row.axes);
        }
    }

    /// What of a point's motion has neither stiffness nor mass is held: nothing comes of it.
    void idle()
    {
        const std::function<std::size_t(std::size_t)> leader = [this](std::size_t node) {
            return leaderOf(static_cast<int>(node));
        };
        auto usedBy = usedDirections(structure_, mesh_, leader);
        for (const Relation* row : between_)
            for (const auto& term : row->terms) {
                if (static_cast<std::size_t>(term.motion) >= mesh_.nodes.size()) continue;
                const std::size_t body = leaderOf(term.motion);
                if (body >= points_) continue;
                const Vector6 way =
                    carry(placeOf(static_cast<std::size_t>(term.motion)) - placeOf(body)).transpose() * term.row;
                // An end that follows in one way alone is no use of it: whether its member's is, was looked at. Nor is
                // that a point follows many: what nothing else does to it needs no unknown.
                if (row->sentence.empty() || (row->ofMany && &term == &row->terms.front())) continue;
                usedBy.try_emplace(body, UsedDirections::Zero()).first->second +=
                    way * way.transpose() / std::max(way.squaredNorm(), 1e-300);
            }
        for (auto& [index, body] : bodies_) {
            if (index >= points_) continue; // nodes of sheet and solids
            UsedDirections ways = UsedDirections::Zero();
            if (const auto known = usedBy.find(index); known != usedBy.end()) ways = known->second;
            for (const auto& row : body.rows)
                ways += row * row.transpose() / std::max(row.squaredNorm(), 1e-300);
            if (!body.turns) ways.bottomRightCorner<3, 3>() += Eigen::Matrix3d::Identity();
            const Eigen::SelfAdjointEigenSolver<UsedDirections> eigen(ways);
            if (eigen.eigenvalues()[0] > 1e-9) continue;
            if (std::none_of(between_.begin(), between_.end(), [&](const Relation* row) {
                    return row->ofMany && leaderOf(row->terms.front().motion) == index;
                }))
                map_.idle.push_back(body.name);
            for (int at = 0; at < 6 && eigen.eigenvalues()[at] <= 1e-9; ++at) {
                body.rows.push_back(eigen.eigenvectors().col(at));
                body.axes.push_back(Eigen::Matrix3d::Identity());
                idle_[index].push_back(eigen.eigenvectors().col(at));
            }
        }
    }

    void nodes()
    {
        map_.body.assign(relations_.leader.begin(), relations_.leader.begin() + long(mesh_.nodes.size()));
        std::map<std::size_t, NodeMotion> ofBody;
        for (const auto& [index, body] : bodies_)
            ofBody.emplace(index, motionOf(body, map_));
        map_.nodes.resize(mesh_.nodes.size());
        for (std::size_t at = 0; at < mesh_.nodes.size(); ++at) {
            NodeMotion& motion = map_.nodes[at];
            const std::size_t leader = leaderOf(static_cast<int>(at));
            if (const auto body = ofBody.find(leader); body != ofBody.end()) {
                motion = body->second;
                if (leader == at) continue;
                const Matrix6 move = carry(placeOf(at) - bodies_.at(leader).reference);
                motion.basis = carried(move, motion.basis);
                motion.heldBasis = carried(move, motion.heldBasis);
            } else if (at >= points_) {
                const bool turns = relations_.turns[at] != 0;
                for (int direction = 0; direction < (turns ? 6 : 3); ++direction)
                    motion.unknowns.push_back(map_.add(unknownOf(Body{placeOf(at), ""}, Vector6::Unit(direction))));
                motion.basis = Matrix6::Identity().leftCols(turns ? 6 : 3);
            } else {
                motion.basis.resize(6, 0);
            }
        }
    }

    /// What cancels but for rounding is nothing, as the shift of a held place that its body turns about.
    static Matrix6X carried(const Matrix6& move, const Matrix6X& basis)
    {
        const Matrix6X moved = move * basis, terms = move.cwiseAbs() * basis.cwiseAbs();
        return (moved.array().abs() < 1e-13 * terms.array()).select(0.0, moved);
    }

    void ends()
    {
        map_.endOf = std::move(relations_.endOf);
        for (const OwnEnd& end : relations_.ends) {
            const std::string& name = structure_.frame.members[static_cast<std::size_t>(end.member)].name;
            map_.ends.push_back({motionOf(Body{end.place, name, true, true, {}, {end.axes}}, map_), end.axes});
        }
    }

    /// Inner nodes are named after what they are in.
    void name()
    {
        const auto give = [&](int node, const std::string& name) {
            if (node < static_cast<int>(points_)) return;
            for (const int unknown : map_.nodes[static_cast<std::size_t>(node)].unknowns)
                if (auto& where = map_.unknowns[static_cast<std::size_t>(unknown)].where;
                    leaderOf(node) == static_cast<std::size_t>(node))
                    where = name;
        };
        for (const auto& element : mesh_.elements)
            for (const int node : element.nodes)
                give(node, structure_.frame.members[static_cast<std::size_t>(element.member)].name);
        for (const auto& solid : mesh_.solids)
            for (std::size_t at = 0; at < solid.count(); ++at)
                give(solid.nodes[at], structure_.frame.solids[static_cast<std::size_t>(solid.solid)].name);
        for (const auto& shell : mesh_.shells)
            for (const int node : shell.nodes)
                give(node, structure_.frame.sheets[static_cast<std::size_t>(shell.sheet)].name);
    }

    NodeMotion& motionAt(int motion)
    {
        const auto at = static_cast<std::size_t>(motion);
        return at < map_.nodes.size() ? map_.nodes[at] : map_.ends[at - map_.nodes.size()].motion;
    }

    Elimination::Row rowOf(const std::vector<Relation::Term>& terms)
    {
        Elimination::Row row;
        for (std::size_t at = 0; at < terms.size(); ++at) {
            const NodeMotion& motion = motionAt(terms[at].motion);
            const Eigen::RowVectorXd weights = terms[at].row.transpose() * motion.basis,
                                     held = terms[at].row.transpose() * motion.heldBasis;
            for (Eigen::Index k = 0; k < weights.size(); ++k)
                row.free[motion.unknowns[static_cast<std::size_t>(k)]] += weights[k];
            for (Eigen::Index k = 0; k < held.size(); ++k)
                row.held[motion.held[static_cast<std::size_t>(k)]] += held[k];
            if (at == 0) row.following = motion.unknowns;
        }
        return row;
    }

    /// The large relations of a body that follows many: combined so that none names what it has no unknown for because
    /// nothing else wants it, and brought to what the small ones have left.
    void keepApart(std::size_t body, const std::vector<const Relation*>& rows, Elimination& elimination)
    {
        const auto count = static_cast<Eigen::Index>(rows.size());
        Eigen::MatrixXd combined = Eigen::MatrixXd::Identity(count, count); // columns: combinations of rows
        if (const auto idle = idle_.find(body); idle != idle_.end()) {
            Eigen::MatrixXd named(static_cast<Eigen::Index>(idle->second.size()), count);
            for (Eigen::Index row = 0; row < count; ++row) {
                const auto& first = rows[static_cast<std::size_t>(row)]->terms.front();
                const Matrix6 move = carry(placeOf(static_cast<std::size_t>(first.motion)) - placeOf(body));
                for (Eigen::Index way = 0; way < named.rows(); ++way)
                    named(way, row) = first.row.dot(move * idle->second[static_cast<std::size_t>(way)]);
            }
            const Eigen::FullPivLU<Eigen::MatrixXd> lu(named);
            combined = lu.rank() == 0 ? combined : Eigen::MatrixXd(lu.kernel());
            if (lu.rank() == count) return; // nothing of it is wanted
        }
        for (Eigen::Index column = 0; column < combined.cols(); ++column) {
            Elimination::Row sum;
            for (Eigen::Index row = 0; row < count; ++row) {
                if (combined(row, column) == 0.0) continue;
                Elimination::Row own = rowOf(rows[static_cast<std::size_t>(row)]->terms);
                for (const auto& [unknown, weight] : own.free)
                    sum.free[unknown] += combined(row, column) * weight;
                sum.following = std::move(own.following);
            }
            sum = elimination.reduced(std::move(sum));
            int follower = -1;
            for (const int unknown : sum.following)
                if (sum.free.contains(unknown) &&
                    (follower < 0 || std::abs(sum.free.at(unknown)) > std::abs(sum.free.at(follower))))
                    follower = unknown;
            if (follower < 0 && !sum.free.empty()) follower = sum.free.begin()->first; // it is held: they are too
            if (follower >= 0) {
                map_.apart.push_back({follower, std::move(sum.free)});
                apartOf_.push_back(rows.front()->sentence);
            }
        }
    }

    /// Of the relations apart those that follow from others, by Cholesky's factor of their products.
    void dropRepeated()
    {
        const auto product = [](const WeightedSum& a, const WeightedSum& b) {
            double sum = 0.0;
            for (const auto& [unknown, weight] : a)
                if (const auto other = b.find(unknown); other != b.end()) sum += weight * other->second;
            return sum;
        };
        std::vector<MotionMap::Apart> kept;
        Eigen::MatrixXd factor(0, 0);
        for (std::size_t at = 0; at < map_.apart.size(); ++at) {
            auto& count = said_[apartOf_[at]];
            ++count[0];
            const auto size = static_cast<Eigen::Index>(kept.size());
            Eigen::VectorXd row(size);
            for (Eigen::Index k = 0; k < size; ++k)
                row[k] = product(map_.apart[at].weights, kept[static_cast<std::size_t>(k)].weights);
            const double own = product(map_.apart[at].weights, map_.apart[at].weights);
            factor.triangularView<Eigen::Lower>().solveInPlace(row);
            const double rest = own - row.squaredNorm();
            if (!(rest > 1e-10 * own)) {
                ++count[1];
                continue;
            }
            factor.conservativeResize(size + 1, size + 1);
            factor.col(size).setZero();
            factor.row(size) << row.transpose(), std::sqrt(rest);
            kept.push_back(std::move(map_.apart[at]));
        }
        map_.apart = std::move(kept);
    }

    /// Relations between bodies bring unknowns to others, which alone are left.
    void eliminate()
    {
        if (between_.empty()) return;
        Elimination elimination;
        std::map<std::size_t, std::vector<const Relation*>> large; // by the body that follows
        for (const Relation* relation : between_) {
            if (relation->ofMany) {
                large[leaderOf(relation->terms.front().motion)].push_back(relation);
                continue;
            }
            auto& count = said_[relation->sentence];
            ++count[0];
            if (!elimination.take(rowOf(relation->terms))) ++count[1];
        }
        said_.erase(""); // joints of members to their own points
        for (const auto& [body, rows] : large)
            keepApart(body, rows, elimination);
        dropRepeated();

        const auto& followers = elimination.followers();
        std::vector<int> place(map_.unknowns.size());
        std::vector<Unknown> left;
        for (std::size_t at = 0; at < place.size(); ++at) {
            const bool follows = followers.contains(static_cast<int>(at));
            place[at] = follows ? -1 : static_cast<int>(left.size());
            if (!follows) left.push_back(std::move(map_.unknowns[at]));
        }
        map_.unknowns = std::move(left);
        for (auto& apart : map_.apart) {
            apart.follower = place[static_cast<std::size_t>(apart.follower)];
            WeightedSum weights;
            for (const auto& [unknown, weight] : apart.weights)
                weights.emplace(place[static_cast<std::size_t>(unknown)], weight);
            apart.weights = std::move(weights);
        }
        for (auto& node : map_.nodes)
            bring(node, followers, place);
        for (auto& end : map_.ends)
            bring(end.motion, followers, place);
    }

    /// A motion in terms of what is left.
    static void bring(NodeMotion& motion, const std::map<int, Elimination::Followed>& followers,
                      const std::vector<int>& place)
    {
        const auto isLeft = [&](int unknown) { return place[static_cast<std::size_t>(unknown)] >= 0; };
        if (!std::all_of(motion.unknowns.begin(), motion.unknowns.end(), isLeft)) {
            std::map<int, Sum> free, held; // columns
            const auto add = [](std::map<int, Sum>& sums, int unknown, const Vector6& column) {
                auto& sum = sums.try_emplace(unknown).first->second;
                sum.column += column;
                sum.terms = sum.terms.cwiseMax(column.cwiseAbs());
            };
            for (std::size_t at = 0; at < motion.held.size(); ++at)
                add(held, motion.held[at], motion.heldBasis.col(static_cast<Eigen::Index>(at)));
            for (std::size_t at = 0; at < motion.unknowns.size(); ++at) {
                const Vector6 column = motion.basis.col(static_cast<Eigen::Index>(at));
                if (isLeft(motion.unknowns[at])) {
                    add(free, motion.unknowns[at], column);
                    continue;
                }
                const auto& followed = followers.at(motion.unknowns[at]);
                for (const auto& [unknown, weight] : followed.free)
                    add(free, unknown, weight * column);
                for (const auto& [unknown, weight] : followed.held)
                    add(held, unknown, weight * column);
            }
            fill(motion.basis, motion.unknowns, free);
            fill(motion.heldBasis, motion.held, held);
        }
        for (int& unknown : motion.unknowns)
            unknown = place[static_cast<std::size_t>(unknown)];
    }

    struct Sum {
        Vector6 column = Vector6::Zero(), terms = Vector6::Zero(); ///< terms: the largest of each entry
    };
    /// What cancels but for rounding is nothing: a mass that it moves by would count as one that moves.
    static void fill(Matrix6X& basis, std::vector<int>& unknowns, const std::map<int, Sum>& columns)
    {
        basis.resize(6, static_cast<Eigen::Index>(columns.size()));
        unknowns.clear();
        for (const auto& [unknown, sum] : columns) {
            const Vector6 column = (sum.column.array().abs() < 1e-12 * sum.terms.array()).select(0.0, sum.column);
            if (column.isZero(0.0)) continue;
            basis.col(static_cast<Eigen::Index>(unknowns.size())) = column;
            unknowns.push_back(unknown);
        }
        basis.conservativeResize(Eigen::NoChange, static_cast<Eigen::Index>(unknowns.size()));
    }

    const Structure& structure_;
    const FrameMesh& mesh_;
    Relations relations_;
    std::size_t points_;
    std::map<std::size_t, Body> bodies_; ///< by the node that leads
    std::vector<const Relation*> between_;
    std::vector<std::string> apartOf_;                 ///< sentences, beside the relations apart
    std::map<std::size_t, std::vector<Vector6>> idle_; ///< by body: motions that nothing wants
    std::map<std::string, std::array<int, 2>> said_;   ///< by sentence: how many relations, and how many in vain
    MotionMap map_;
};

} // namespace

MotionMap mapMotions(const Structure& structure, const FrameMesh& mesh)
{
    return MotionMapper(structure, mesh).mapped();
}

} // namespace undisona
