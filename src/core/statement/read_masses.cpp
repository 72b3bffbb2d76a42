#include "core/statement/read_groups.hpp"
#include "core/statement/statement_reader.hpp"
#include "core/units/unit.hpp"

#include <fmt/format.h>

namespace undisona {

namespace {

class MassReader : StatementReader {
public:
    using StatementReader::StatementReader;

    void read(const Model& model)
    {
        readEach(*this, model, Group::addedMass,
                 {{"mass", &MassReader::pointMass},
                  {"mass-spread", &MassReader::spreadEvenly},
                  {"coating", &MassReader::coating},
                  {"weight", &MassReader::weight}});
    }

private:
    void spreadEvenly() { spread(Attachment::Effect::mass, sentence_->number("mass"), translations("only")); }

    /// A load of which what points down is mass.
    void weight()
    {
        constexpr double sideways = 0.01; // of its length points down
        const Eigen::Vector3d way =
            sentence_->has("direction") ? asVector(sentence_->vector("direction")) : -Eigen::Vector3d::UnitZ();
        const double down = -way.z() / way.norm();
        if (!std::isfinite(down)) return complain("the load has no direction", "Give one, such as 0, 0, -1.");
        if (std::abs(down) < sideways)
            return complain("a load that points sideways is no weight and has no mass",
                            "Leave wind, pressure and thrust out: they do not change natural frequencies here.");
        if (down < 0.0)
            return complain("this load points up, and nothing that stands there does",
                            "Turn its direction round; z points up.");
        const double g = sentence_->has("g") ? sentence_->number("g") : standardGravity;
        const double counted = sentence_->has("share") ? sentence_->number("share") : 1.0;
        spread(Attachment::Effect::mass, counted * down * sentence_->number("load") / g, translations("only"));
    }

    void coating()
    {
        const double perArea = sentence_->number("thickness") * sentence_->number("density");
        const bool both = sentence_->has("sides") && sentence_->text("sides") == "both sides";
        const Picked picked = where("where");
        for (const int member : picked.members)
            attach(Attachment::Effect::mass, Target::member, member,
                   perArea * structure_.frame.members[static_cast<std::size_t>(member)].section->perimeter);
        for (const int sheet : picked.sheets)
            attach(Attachment::Effect::mass, Target::sheet, sheet, both ? 2.0 * perArea : perArea);
        for (const int face : picked.faces)
            attach(Attachment::Effect::mass, Target::face, face, perArea);
    }

    void pointMass()
    {
        const Sentence& said = *sentence_;
        const auto picked = points("points");
        if (picked.empty()) return;
        const std::string sharing = said.text("sharing");
        if (sharing == "on" && picked.size() > 1)
            return complain(fmt::format("one mass is on {} points", picked.size()),
                            "Say whether it is \"on each of\" them or \"shared over\" them.");
        PointMass mass{0, said.number("mass"), {}, {}, translations("only"), said.id};
        if (sharing == "shared over") mass.mass /= double(picked.size());
        if (said.has("centre")) mass.centre = asVector(said.vector("centre"));
        Eigen::Matrix3d own = Eigen::Matrix3d::Zero();
        if (said.has("body") || said.has("size")) own += bodyInertia(mass.mass);
        if (said.has("inertia")) own.diagonal() += asVector(said.vector("inertia"));
        if (said.has("products")) {
            const auto xyz = said.vector("products");
            own(0, 1) = own(1, 0) = -xyz[0];
            own(0, 2) = own(2, 0) = -xyz[1];
            own(1, 2) = own(2, 1) = -xyz[2];
        }
        const Eigen::Vector3d principal =
            Eigen::SelfAdjointEigenSolver<Eigen::Matrix3d>(own, Eigen::EigenvaluesOnly).eigenvalues();
        if (principal[0] < -1e-12 * std::abs(principal[2]))
            return complain("these inertias belong to no real body: one principal inertia is negative",
                            "Check the products of inertia.");
        if (principal[2] > (principal[0] + principal[1]) * (1.0 + 1e-9))
            findings_.push_back(
                warningAt(said.id, "no real body has these inertias: the largest is more than the other two together",
                          "Check them; the program uses them as they are."));
        const Eigen::Matrix3d frame = axes();
        mass.inertia = frame * own * frame.transpose();
        for (const int point : picked) {
            mass.point = point;
            structure_.pointMasses.push_back(mass);
        }
    }

    Eigen::Matrix3d bodyInertia(double mass)
    {
        const Eigen::Vector3d size =
            sentence_->has("size") ? asVector(sentence_->vector("size")) : Eigen::Vector3d(0.3, 0.3, 0.3);
        const std::string body = sentence_->has("body") ? sentence_->text("body") : "box";
        const Eigen::Vector3d square = size.cwiseProduct(size);
        Eigen::Vector3d inertia;
        if (body == "ball")
            inertia = Eigen::Vector3d::Constant(mass * square.x() / 10.0);
        else if (body == "cylinder along z")
            inertia = mass * Eigen::Vector3d(square.x() / 16 + square.z() / 12, square.x() / 16 + square.z() / 12,
                                             square.x() / 8);
        else
            inertia = mass / 12.0 *
                      Eigen::Vector3d(square.y() + square.z(), square.x() + square.z(), square.x() + square.y());
        return inertia.asDiagonal();
    }
};

} // namespace

void readMasses(const Model& model, Structure& structure, Findings& findings)
{
    MassReader(structure, findings).read(model);
}

} // namespace undisona
