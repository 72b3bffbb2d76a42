#include "core/statement/read_groups.hpp"
#include "core/statement/statement_reader.hpp"

#include <fmt/format.h>

namespace undisona {

namespace {

class SupportReader : StatementReader {
public:
    using StatementReader::StatementReader;

    void read(const Model& model)
    {
        readEach(*this, model, Group::supports,
                 {{"hold", &SupportReader::held},
                  {"ground-spring", &SupportReader::onSprings},
                  {"bed", &SupportReader::bed<Over::member>},
                  {"bed-under", &SupportReader::bed<Over::sheet>},
                  {"bed-faces", &SupportReader::bed<Over::face>},
                  {"bed-along-edges", &SupportReader::bed<Over::edge>}});
    }

private:
    void held() { hold(true); }
    void onSprings() { hold(false); }

    using Over = Attachment::Over;
    /// Stiffness per length or per area along the directions named.
    template <Over over>
    void bed()
    {
        attach(Attachment::Effect::stiffness, over, picked(over), sentence_->number("stiffness"),
               translations("directions"));
    }

    void hold(bool mayBeRigid)
    {
        Hold hold{0, axes(), {}, sixStiffnesses(), sentence_->id};
        for (std::size_t direction = 0; direction < 6; ++direction)
            hold.rigid[direction] = mayBeRigid &&
                                    sentence_->directions("directions").has(static_cast<int>(direction)) &&
                                    hold.elastic[direction] == 0.0;
        if (!mayBeRigid && hold.elastic == std::array<double, 6>{})
            return complain("the springs to ground have no stiffness yet", "Add one, such as \"1 kN/mm along z\".");
        const Picked picked = pointsAndEdges("points");
        if (picked.edges.size() + picked.faces.size() > 0 && hold.elastic != std::array<double, 6>{})
            return complain("springs to ground stand on points, not on edges or faces",
                            "Name points, or leave the springs out.");
        for (const int point : picked.indices) {
            hold.point = point;
            structure_.holds.push_back(hold);
        }
        hold.point = -1;
        for (const int edge : picked.edges) {
            hold.edge = edge;
            structure_.holds.push_back(hold);
        }
        hold.edge = -1;
        for (const int face : picked.faces) {
            hold.face = face;
            structure_.holds.push_back(hold);
        }
    }
};

} // namespace

void readSupports(const Model& model, Structure& structure, Findings& findings)
{
    SupportReader(structure, findings).read(model);
}

} // namespace undisona
