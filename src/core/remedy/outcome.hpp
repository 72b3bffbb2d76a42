#pragma once
#include "core/remedy/candidate.hpp"

namespace undisona {

/// What a change comes to.
struct Outcome {
    bool stands = false;       ///< there are modes at all
    std::vector<double> hertz; ///< as many as there were modes
    bool reaches = false;
    double missing = 0.0; ///< how far it is from the goal, a share of the frequency; of clear summed over the clashes
    std::size_t farthest = 0; ///< the mode, from 0, that has farthest to go
    double after = 0.0;       ///< Hz, of that one
    std::vector<SideEffect> sideEffects;
};

/// Judges changes by a goal, in one basis: which modes of the changed structure are those that were to move, whether
/// they are where they are wanted, and which others an excitation meets now.
class Judge {
public:
    Judge(const RemedyCase&, const ModifiedModes&, const std::vector<Excitation>&);
    Outcome of(const Added&) const;

private:
    struct Meeting {
        std::size_t excitation;
        double order;
        std::size_t mode; ///< from 0, of the structure as it is: the one whose shape it has most of
        bool operator==(const Meeting& other) const
        {
            return excitation == other.excitation && order == other.order && mode == other.mode;
        }
    };
    struct Met {
        Meeting meeting;
        double hertz, deep; ///< deep: how much of the margin is missing, a share of the excitation's frequency
    };
    std::vector<Met> metBy(const ModifiedModes::Changed&) const;
    std::vector<double> strengths(const ModifiedModes::Changed&, const Excitation&) const;
    std::size_t origin(const ModifiedModes::Changed&, Eigen::Index mode) const;

    const RemedyCase& case_;
    const ModifiedModes& in_;
    const std::vector<Excitation>& excitations_;
    Eigen::MatrixXd drive_; ///< the base's loads in the basis, size x 6
    std::map<int, Eigen::MatrixXd> atPoint_;
    std::vector<Met> before_;
};

/// A band's name as it is said of it: "Generator x 2".
std::string orderWords(const Excitation&, double order);

} // namespace undisona
