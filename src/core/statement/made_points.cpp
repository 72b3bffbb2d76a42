#include "core/statement/made_points.hpp"

#include "core/model/meant_targets.hpp"
#include "core/shapes/joined_faces.hpp"
#include "core/statement/statement_reader.hpp"

#include <fmt/format.h>

namespace undisona {

namespace {

/// A sum of places by what they stand for.
struct WeighedPlace {
    double weight = 0.0;
    Eigen::Vector3d moment = Eigen::Vector3d::Zero();

    void add(double more, const Eigen::Vector3d& place)
    {
        weight += more;
        moment += more * place;
    }
};

class PointMaker : StatementReader {
public:
    using StatementReader::StatementReader;

    void read(const Model& model)
    {
        readEach(*this, model, Group::joints, {{"centre", &PointMaker::make}});
        readEach(*this, model, Group::addedMass, {{"carried", &PointMaker::make}});
        Frame& frame = structure_.frame;
        if (!frame.faces || frame.faces->vertexOfPoint.size() == frame.points.size()) return;
        const auto faces = std::make_shared<JoinedFaces>(*frame.faces);
        faces->vertexOfPoint.resize(frame.points.size(), -1);
        frame.faces = faces;
    }

private:
    void make()
    {
        const std::string name = sentence_->text("name");
        const Picked picked = where("where");
        if (picked.size() == 0) return;
        std::set<int> dimensions;
        for (const Target target : everyTarget)
            if (!picked.of(target).empty()) dimensions.insert(dimensionsOf(target));
        if (dimensions.size() > 1)
            return complain(
                fmt::format("{} are named together, which have no middle in common", wordsOf(picked.kinds(), "and")),
                "Name points, or edges and members, or faces and sheets.");
        if (structure_.frame.pointNamed(name) >= 0)
            return complain(fmt::format("there is a point called \"{}\" already", name), "Give one another name.");
        WeighedPlace middle;
        for (const Target target : everyTarget)
            for (const int at : picked.of(target))
                addTo(middle, target, at);
        if (middle.weight > 0.0)
            structure_.frame.points.push_back({name, middle.moment / middle.weight, sentence_->id, true});
    }

    void addTo(WeighedPlace& middle, Target target, int at) const
    {
        const Frame& frame = structure_.frame;
        const auto index = static_cast<std::size_t>(at);
        switch (target) {
        case Target::point:
            return middle.add(1.0, frame.points[index].place);
        case Target::member: {
            const FrameMember& member = frame.members[index];
            return middle.add(frame.length(member), (frame.points[static_cast<std::size_t>(member.from)].place +
                                                     frame.points[static_cast<std::size_t>(member.to)].place) /
                                                        2.0);
        }
        case Target::edge: {
            const auto& along = frame.faces->edges[index].along;
            for (std::size_t place = 1; place < along.size(); ++place)
                middle.add((along[place] - along[place - 1]).norm(), (along[place] + along[place - 1]) / 2.0);
            return;
        }
        case Target::face:
            return addFace(middle, at);
        case Target::sheet:
        case Target::solid:
            for (std::size_t face = 0; face < frame.faces->faces.size(); ++face) {
                const JoinedFace& own = frame.faces->faces[face];
                if (target == Target::sheet ? own.sheet == at
                                            : std::find(own.solids.begin(), own.solids.end(), at) != own.solids.end())
                    addFace(middle, static_cast<int>(face));
            }
        }
    }

    void addFace(WeighedPlace& middle, int face) const
    {
        const JoinedFaces& faces = *structure_.frame.faces;
        middle.add(faces.faces[static_cast<std::size_t>(face)].area, faces.centroid(face));
    }
};

} // namespace

void makePoints(const Model& model, Structure& structure, Findings& findings)
{
    PointMaker(structure, findings).read(model);
}

} // namespace undisona
