#include "core/shapes/joined_faces.hpp"
#include "core/statement/read_groups.hpp"
#include "core/statement/statement_reader.hpp"

namespace undisona {

namespace {

class SizeReader : StatementReader {
public:
    using StatementReader::StatementReader;

    void read(const Model& model)
    {
        readEach(*this, model, Group::ask,
                 {{"sheet-mesh", &SizeReader::fineness},
                  {"solid-elements", &SizeReader::solidElements},
                  {"size-at", &SizeReader::sizeAt}});
    }

private:
    void fineness()
    {
        const std::string word = sentence_->text("fineness");
        structure_.discretised.sheetSizes = word == "coarse" ? 1.6 : word == "fine" ? 2.0 / 3.0 : 1.0;
    }

    void sizeAt()
    {
        const Picked picked = where("where");
        LocalSize local{sentence_->number("size"),
                        picked.edges,
                        {},
                        sentence_->id,
                        picked.faces,
                        picked.members,
                        picked.sheets,
                        picked.solids};
        for (const int face : picked.faces)
            for (const auto& loop : structure_.frame.faces->faces[static_cast<std::size_t>(face)].loops)
                for (const auto& use : loop)
                    local.edges.push_back(use.edge);
        std::sort(local.edges.begin(), local.edges.end());
        local.edges.erase(std::unique(local.edges.begin(), local.edges.end()), local.edges.end());
        for (const int point : picked.points)
            local.places.push_back(structure_.frame.points[static_cast<std::size_t>(point)].place);
        structure_.localSizes.push_back(std::move(local));
    }

    void solidElements()
    {
        const Picked picked = where("what");
        const std::string word = sentence_->text("elements");
        for (const int solid : picked.solids) {
            auto& own = structure_.solids[static_cast<std::size_t>(solid)];
            own.elements = word == "tetrahedra"       ? BodyElements::tetrahedra
                           : word == "20-node bricks" ? BodyElements::bricks20
                           : word == "8-node bricks"  ? BodyElements::bricks8
                                                      : BodyElements::byShape;
            own.through = sentence_->has("through") ? sentence_->count("through") : 0;
            own.elementsSentence = sentence_->id;
        }
    }
};

} // namespace

void readSizes(const Model& model, Structure& structure, Findings& findings)
{
    SizeReader(structure, findings).read(model);
}

} // namespace undisona
