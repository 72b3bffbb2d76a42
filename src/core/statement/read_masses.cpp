#include "core/statement/read_groups.hpp"

#include "core/base/alike_findings.hpp"
#include "core/model/bore.hpp"
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
                  {"weight", &MassReader::weight},
                  {"carried", &MassReader::carried},
                  {"loads", &MassReader::loads},
                  {"contents", &MassReader::contents},
                  {"lining", &MassReader::lining},
                  {"weighed", &MassReader::weighed}});
        readEach(*this, model, Group::addedMass, {{"one-body", &MassReader::oneBody}}); // of all that was said
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

    void weighed()
    {
        Weighed said{{},
                     sentence_->number("mass"),
                     sentence_->has("source") ? sentence_->text("source") : "",
                     sentence_->id,
                     sentence_->text("what")};
        if (sentence_->text("what") != "everything") {
            const Picked picked = where("what");
            for (const Target target : everyTarget)
                for (const int at : picked.of(target))
                    said.what.emplace_back(target, at);
            if (said.what.empty()) return;
        }
        structure_.weighed.push_back(std::move(said));
    }

    void coating()
    {
        const double perArea = sentence_->number("thickness") * sentence_->number("density");
        const bool both = sentence_->has("sides") && sentence_->text("sides") == "both sides";
        const Picked picked = where("where");
        for (const int member : picked.members)
            attach(Attachment::Effect::mass, Target::member, member,
                   sentence_->number("density") * layerRound(sectionOf(member), sentence_->number("thickness")));
        for (const int sheet : picked.sheets)
            attach(Attachment::Effect::mass, Target::sheet, sheet, both ? 2.0 * perArea : perArea);
        for (const int face : picked.faces)
            attach(Attachment::Effect::mass, Target::face, face, perArea);
    }

    const Section& sectionOf(int member) const
    {
        return *structure_.frame.members[static_cast<std::size_t>(member)].section;
    }

    /// Calls `take` with each of the pipes that are meant and its bore; says which of them have none.
    void eachBore(const std::function<void(int member, const Bore&)>& take)
    {
        std::set<std::string> without;
        for (const int member : where("where").members) {
            if (const auto bore = boreOf(sectionOf(member)))
                take(member, *bore);
            else
                without.insert(sectionOf(member).text);
        }
        if (!without.empty())
            complain(fmt::format("there is no bore in {}", someOf({without.begin(), without.end()})),
                     "Name members that are tubes or boxes.");
    }

    /// It moves with the wall across the pipe and slides along it.
    void contents()
    {
        const double density = sentence_->number("density"),
                     share = sentence_->has("share") ? sentence_->number("share") : 1.0;
        eachBore([&](int member, const Bore& bore) {
            const Eigen::Vector3d along =
                structure_.frame.direction(structure_.frame.members[static_cast<std::size_t>(member)]);
            structure_.attachments.push_back(
                {Target::member, member, Attachment::Effect::mass,
                 density * share * bore.area * (Eigen::Matrix3d::Identity() - along * along.transpose()), sentence_->id,
                 true});
        });
    }

    void oneBody()
    {
        const Picked picked = where("what");
        const auto at = points("point");
        if (picked.size() == 0 || at.empty()) return;
        if (at.size() != 1)
            return complain(fmt::format("one body stands at one point, and {} are named", at.size()),
                            "Name one; a joint makes one in the middle of others.");
        const std::set<int> members(picked.members.begin(), picked.members.end()),
            stand(picked.points.begin(), picked.points.end());
        const auto isOf = [&](const Attachment& attached) {
            return attached.effect == Attachment::Effect::mass && attached.over == Target::member &&
                   members.contains(attached.at);
        };
        const auto standsThere = [&](const PointMass& mass) { return stand.contains(mass.point); };
        Body body;
        std::string partly; // what acts in some directions alone
        for (const int member : members)
            body.add(ofMember(member));
        for (const auto& attached : structure_.attachments) {
            if (!isOf(attached)) continue;
            const double each = attached.perExtent();
            if (!attached.tensor.isApprox(each * Eigen::Matrix3d::Identity(), 1e-9)) partly = attached.sentence;
            const auto [middle, way, length] = lineOf(attached.at);
            body.add({each * length, middle, ofLine(each * length, length, way)});
        }
        for (const auto& mass : structure_.pointMasses) {
            if (!standsThere(mass)) continue;
            if (mass.acts != Mask3{true, true, true}) partly = mass.sentence;
            body.add({mass.mass, placeOf(mass.point) + mass.centre, mass.inertia});
        }
        if (!partly.empty()) // a finding where it is said
            findings_.push_back(errorAt(partly, "this mass acts in some directions alone and is to be part of one body",
                                        "Leave it out of what stands as one body, or let it act in every direction."));
        if (!(body.mass > 0.0))
            return complain("there is no mass in what is named",
                            "Name members that have one, or points on which it stands.");
        for (const int member : members)
            structure_.members[static_cast<std::size_t>(member)].massFactor = 0.0;
        std::erase_if(structure_.attachments, isOf);
        std::erase_if(structure_.pointMasses, standsThere);
        const Eigen::Vector3d centre = body.moment / body.mass;
        structure_.pointMasses.push_back({.point = at[0],
                                          .mass = body.mass,
                                          .centre = centre - placeOf(at[0]),
                                          .inertia = body.aboutOrigin - aboutOrigin(body.mass, centre),
                                          .sentence = sentence_->id});
    }

    /// Masses as one: kg, kg m, kg m2 about the origin.
    struct Body {
        struct Part {
            double mass;
            Eigen::Vector3d centre;
            Eigen::Matrix3d inertia; ///< about its own centre
        };
        double mass = 0.0;
        Eigen::Vector3d moment = Eigen::Vector3d::Zero();
        Eigen::Matrix3d aboutOrigin = Eigen::Matrix3d::Zero();

        void add(const Part& part)
        {
            mass += part.mass;
            moment += part.mass * part.centre;
            aboutOrigin += part.inertia + MassReader::aboutOrigin(part.mass, part.centre);
        }
    };
    /// Of a mass in one place.
    static Eigen::Matrix3d aboutOrigin(double mass, const Eigen::Vector3d& place)
    {
        return mass * (place.squaredNorm() * Eigen::Matrix3d::Identity() - place * place.transpose());
    }
    /// Of a mass along a line, about its middle.
    static Eigen::Matrix3d ofLine(double mass, double length, const Eigen::Vector3d& way)
    {
        return mass * length * length / 12.0 * (Eigen::Matrix3d::Identity() - way * way.transpose());
    }
    Eigen::Vector3d placeOf(int point) const { return structure_.frame.points[static_cast<std::size_t>(point)].place; }
    /// Middle, way and length of a member's own line, beside its points where it is.
    std::tuple<Eigen::Vector3d, Eigen::Vector3d, double> lineOf(int member) const
    {
        const FrameMember& own = structure_.frame.members[static_cast<std::size_t>(member)];
        const auto& offset = structure_.members[static_cast<std::size_t>(member)].offset;
        const Eigen::Vector3d from = placeOf(own.from) + offset[0], to = placeOf(own.to) + offset[1];
        return {(from + to) / 2.0, (to - from).normalized(), (to - from).norm()};
    }
    /// Of its own material, the section's inertia included.
    Body::Part ofMember(int member) const
    {
        const FrameMember& own = structure_.frame.members[static_cast<std::size_t>(member)];
        const MemberProperties& made = structure_.members[static_cast<std::size_t>(member)];
        if (!made.material) return {0.0, Eigen::Vector3d::Zero(), Eigen::Matrix3d::Zero()};
        const auto [middle, way, length] = lineOf(member);
        const double perArea = made.density() * length, mass = perArea * own.section->area;
        Eigen::Matrix3d axes;
        axes.col(0) = way;
        axes.col(2) = (own.zAxis - own.zAxis.dot(way) * way).normalized();
        axes.col(1) = axes.col(2).cross(way);
        Eigen::Matrix3d section = Eigen::Matrix3d::Zero();
        section(0, 0) = own.section->iy + own.section->iz;
        section(1, 1) = own.section->iy;
        section(2, 2) = own.section->iz;
        section(1, 2) = section(2, 1) = -own.section->iyz;
        return {mass, middle, ofLine(mass, length, way) + perArea * axes * section * axes.transpose()};
    }

    void lining()
    {
        const double thickness = sentence_->number("thickness");
        eachBore([&](int member, const Bore& bore) {
            if (thickness > bore.least)
                complain(fmt::format("{} has no room for such a lining", sectionOf(member).text),
                         "Make it thinner than half of the bore.");
            attach(Attachment::Effect::mass, Target::member, member,
                   sentence_->number("density") * bore.lining(thickness));
        });
    }

    /// A line each, as if it stood in a sentence of its own.
    void loads()
    {
        const Sentence& list = *sentence_;
        for (const Row& row : *list.table("rows").rows) {
            Sentence line = newSentence(*kindNamed("weight"), list.id)
                                .with("where", textOf(row[0]))
                                .with("load", std::get<Quantity>(row[1]))
                                .with("share", std::get<Quantity>(row[2]));
            for (const char* key : {"g", "only"})
                if (list.has(key)) line = line.with(key, list.value(key));
            sentence_ = &line;
            weight();
        }
        sentence_ = &list;
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
        PointMass mass{.point = 0, .mass = said.number("mass"), .acts = translations("only"), .sentence = said.id};
        if (sharing == "shared over") mass.mass /= double(picked.size());
        if (!readInertia(mass)) return;
        for (const int point : picked) {
            mass.point = point;
            structure_.pointMasses.push_back(mass);
        }
    }

    /// Its centre and its rotary inertia, as they are said; false where no body has such.
    bool readInertia(PointMass& mass)
    {
        const Sentence& said = *sentence_;
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
                            "Check the products of inertia."),
                   false;
        if (principal[2] > (principal[0] + principal[1]) * (1.0 + 1e-9))
            findings_.push_back(
                warningAt(said.id, "no real body has these inertias: the largest is more than the other two together",
                          "Check them; the program uses them as they are."));
        const Eigen::Matrix3d frame = axes();
        mass.inertia = frame * own * frame.transpose();
        return true;
    }

    /// A mass on a point of its own in the middle of what carries it.
    void carried()
    {
        const int point = structure_.frame.pointNamed(sentence_->text("name"));
        if (point < 0) return;
        carryBy(point, where("where"), sentence_->text("how") == "as one rigid body");
        PointMass mass{
            .point = point, .mass = sentence_->number("mass"), .acts = translations("only"), .sentence = sentence_->id};
        if (readInertia(mass)) structure_.pointMasses.push_back(mass);
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
        else if (body == "ring about z") // of outer and inner diameter and height
            inertia = mass * Eigen::Vector3d((square.x() + square.y()) / 16.0 + square.z() / 12.0,
                                             (square.x() + square.y()) / 16.0 + square.z() / 12.0,
                                             (square.x() + square.y()) / 8.0);
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
