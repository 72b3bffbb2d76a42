#pragma once
#include "core/model/model.hpp"
#include "core/system/rigid_mass.hpp"

namespace undisona {

/// Where every kilogram comes from: one row a sentence that brings mass, and one for each that was weighed.
struct MassBook {
    struct Row {
        enum class Kind { material, added, weighed } kind;
        std::string what; ///< "Motor", "420 kg at Base.2: gearbox"
        double mass;      ///< kg, as the model has it; once, in however many directions it acts
        Eigen::Vector3d centre;
        std::optional<double> said; ///< kg, what the scale says
        std::string source;         ///< who says so
        std::string sentence;
    };
    std::vector<Row> rows;                             ///< material, then added, each in the model's order; weighed
    double material = 0.0, added = 0.0;                ///< kg
    Eigen::Vector3d centre = Eigen::Vector3d::Zero();  ///< of all, m
    Eigen::Matrix3d inertia = Eigen::Matrix3d::Zero(); ///< about that, kg m2
    Eigen::Vector3d acting = Eigen::Vector3d::Zero();  ///< along x, y, z, kg
    std::optional<double> weighed;                     ///< kg, of everything

    double total() const { return material + added; }
};
MassBook massBook(const Structure&, const Model&, const MassSummary&);

} // namespace undisona
