#pragma once
#include <Eigen/Dense>

#include <vector>

namespace undisona {

/// How large elements may be at each place: as small as stated at the sources, growing evenly away from them.
class SizeField {
public:
    /// By how much an element may be larger than one that is its own size nearer.
    static constexpr double growth = 0.45;
    struct Source {
        Eigen::Vector3d place; ///< m
        double size;           ///< m, > 0
        double growth = SizeField::growth; ///< at least as much
    };

    SizeField() = default;
    explicit SizeField(std::vector<Source>);

    bool empty() const { return sources_.empty(); }
    const std::vector<Source>& sources() const { return sources_; }
    /// min(largest, min over sources of size + their growth * distance).
    double at(const Eigen::Vector3d& place, double largest) const;

private:
    struct Branch {
        std::size_t begin, end;
        int left = -1, right = -1; ///< -1: a leaf
        Eigen::Vector3d low, high;
        double least; ///< of its sources' sizes
    };
    int branch(std::size_t begin, std::size_t end);
    void search(int branch, const Eigen::Vector3d& place, double& best) const;

    std::vector<Source> sources_;
    std::vector<Branch> branches_; ///< the first one holds all
};

} // namespace undisona
