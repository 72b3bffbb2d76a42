// The scene's colours, laid anew when the mode, the colouring or what is lit changes.
#include "app/scene/colour_map.hpp"
#include "app/scene/scene_pipeline.hpp"
#include "app/session/theme.hpp"

namespace undisona {

/// Of the mode and the colouring in view; kept, as colours are also laid anew when the mouse moves.
const ModeShares& SceneCanvas::shares()
{
    const auto stresses = look_.colouring == Colouring::stress ? session_.stressesOf(drawn_) : nullptr;
    const std::tuple wanted{drawn_, modeShown(), look_.colouring, stresses};
    if (!drawn_)
        shares_ = {std::vector<double>(structure_->frame.members.size(), 0.0),
                   std::vector<double>(structure_->frame.parts(), 0.0),
                   {},
                   {}};
    else if (sharesOf_ != wanted)
        shares_ = modeShares(*drawn_, modeShown(), look_.colouring, pipeline_->partSurface, pipeline_->surface,
                             stresses.get());
    sharesOf_ = wanted;
    return shares_;
}

const ToldApart* SceneCanvas::kindsShown()
{
    const auto by = toldBy(look_.colouring);
    if (!by || !structure_) return nullptr;
    const std::tuple wanted{structure_, *by, session_.units().name()};
    if (kindsOf_ != wanted) kinds_ = toldApart(*structure_, *by, session_.units());
    kindsOf_ = wanted;
    return &kinds_;
}

namespace {

QColor colourOf(const std::optional<Eigen::Vector3d>& stated, const QColor& otherwise)
{
    if (!stated) return otherwise;
    return QColor::fromRgbF(static_cast<float>(stated->x()), static_cast<float>(stated->y()),
                            static_cast<float>(stated->z()));
}

} // namespace

void SceneCanvas::recolour()
{
    colourDirty_ = false;
    auto& p = *pipeline_;
    const Theme& theme = Theme::now();
    const bool stale = staveShown().stale;
    const QColor plain = theme.dark ? QColor("#8A9298") : QColor("#7B858C");
    std::vector<bool> lit(structure_->frame.members.size(), false);
    for (const int member : session_.spotlight().members)
        if (member >= 0 && static_cast<std::size_t>(member) < lit.size()) lit[static_cast<std::size_t>(member)] = true;
    if (hoveredMember_ >= 0 && static_cast<std::size_t>(hoveredMember_) < lit.size())
        lit[static_cast<std::size_t>(hoveredMember_)] = true;
    double most = p.motions.cols() > 0 ? std::max(1e-300, p.motions.topRows<3>().colwise().norm().maxCoeff()) : 1e-300;
    for (const auto& motion : p.nodeMotions)
        most = std::max(most, motion.head<3>().norm());
    const ModeShares& figures = shares();
    const bool byShare = look_.colouring == Colouring::energy || look_.colouring == Colouring::energyDensity ||
                         look_.colouring == Colouring::stress || look_.colouring == Colouring::meshError ||
                         look_.colouring == Colouring::massSlope || look_.colouring == Colouring::springSlope ||
                         look_.colouring == Colouring::elementSize;
    const ToldApart* kinds = kindsShown();
    const QColor none = theme.dark ? QColor("#4A5055") : QColor("#C9CED2"); // of what has no such kind
    const auto kindOf = [&](const std::vector<int>& of, std::size_t at) {
        return of[at] < 0 ? none : kindColour(of[at], theme.dark);
    };
    const auto shown = [&](const Vector6& motion, double share, bool spot, const QColor& ownColour) {
        QColor colour = ownColour;
        if (drawn_ && look_.colouring != Colouring::plain && !kinds) {
            if (look_.colouring == Colouring::size)
                colour = sizeColour(motion.head<3>().norm() / most, theme.dark);
            else if (byShare)
                colour = sizeColour(share / figures.most, theme.dark);
            else
                colour = signedColour(motion[static_cast<int>(look_.colouring) - static_cast<int>(Colouring::x)] / most,
                                      theme.dark);
        }
        if (stale) { // faint: not of this model
            const QColor ground = theme.sceneTop;
            colour = QColor((colour.red() + 2 * ground.red()) / 3, (colour.green() + 2 * ground.green()) / 3,
                            (colour.blue() + 2 * ground.blue()) / 3);
        }
        if (spot) colour = drawn_ && look_.colouring != Colouring::plain ? QColor("#E08A00") : theme.accent;
        return colour;
    };
    for (std::size_t vertex = 0; vertex < p.surface.station.size(); ++vertex) {
        const auto member = static_cast<std::size_t>(p.surface.memberOfVertex[vertex]);
        const int station = p.surface.station[vertex];
        p.members().setColour(static_cast<vtkIdType>(vertex),
                              shown(p.motions.col(station), figures.along(static_cast<std::size_t>(station), member),
                                    lit[member], kinds ? kindOf(kinds->ofMembers, member) : plain));
    }
    p.members().changed();
    std::vector<bool> litParts(structure_->frame.parts(), false);
    for (const int part : session_.spotlight().parts)
        if (part >= 0 && static_cast<std::size_t>(part) < litParts.size())
            litParts[static_cast<std::size_t>(part)] = true;
    if (hoveredPart_ >= 0 && static_cast<std::size_t>(hoveredPart_) < litParts.size())
        litParts[static_cast<std::size_t>(hoveredPart_)] = true;
    std::vector<QColor> ownColours; // as their files have them
    for (const auto& sheet : structure_->frame.sheets)
        ownColours.push_back(colourOf(sheet.colour, plain));
    for (const auto& solid : structure_->frame.solids)
        ownColours.push_back(colourOf(solid.colour, plain));
    const Vector6 still = Vector6::Zero();
    for (std::size_t vertex = 0; vertex < p.partSurface.node.size(); ++vertex) {
        const auto sheet = static_cast<std::size_t>(p.partSurface.part[vertex]);
        const Vector6& motion =
            p.nodeMotions.empty() ? still : p.nodeMotions[static_cast<std::size_t>(p.partSurface.node[vertex])];
        const int face = p.partSurface.coloured[vertex];
        const QColor own = kinds ? kindOf(kinds->ofParts, sheet)
                           : face < 0
                               ? ownColours[sheet]
                               : colourOf(structure_->frame.faces->faces[static_cast<std::size_t>(face)].colour, plain);
        p.sheets.setColour(static_cast<vtkIdType>(vertex),
                           shown(motion, figures.at(vertex, sheet), litParts[sheet], own));
    }
    p.sheets.changed();
    for (std::size_t at = 0; at < p.thin.vertex.size(); ++at) {
        const unsigned char* from = p.sheets.colour->GetPointer(3 * p.thin.vertex[at]);
        std::copy(from, from + 3, p.thinSheets.colour->GetPointer(3 * static_cast<vtkIdType>(at)));
    }
    if (!p.thin.vertex.empty()) p.thinSheets.changed();
}

} // namespace undisona
