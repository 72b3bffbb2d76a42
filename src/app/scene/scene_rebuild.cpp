// The scene's shapes, made anew when the model, the mode or the look changes.
#include "app/scene/scene_pipeline.hpp"
#include "app/scene/symbols.hpp"
#include "app/session/theme.hpp"
#include "core/shapes/joined_faces.hpp"
#include "core/system/line_joint.hpp"
#include "core/system/surface_joint.hpp"

namespace undisona {

namespace {

constexpr double greatest = 0.085; // of the structure's size: how far the most moving point goes at amplitude 1

/// Of cells of so many vertices, those whose first vertex is wanted.
std::vector<std::int64_t> cellsThat(const std::vector<std::int64_t>& cells, int size,
                                    const std::function<bool(std::int64_t)>& wanted)
{
    std::vector<std::int64_t> some;
    for (std::size_t at = 0; at + static_cast<std::size_t>(size) <= cells.size(); at += static_cast<std::size_t>(size))
        if (wanted(cells[at]))
            some.insert(some.end(), cells.begin() + static_cast<long>(at),
                        cells.begin() + static_cast<long>(at) + size);
    return some;
}

} // namespace

void SceneCanvas::rebuild()
{
    auto& p = *pipeline_;
    dirty_ = false;
    colourDirty_ = true;
    const Stave& stave = staveShown();
    const auto* state = restSeen();
    drawn_ = !mode() || placing() ? nullptr
             : state              ? state->shapes
                                  : stave.solution; // new points belong to the live model
    structure_ = drawn_ ? drawn_->structure : session_.structurePtr();
    if (!drawn_ && !stave.id.isEmpty() && !stave.solution) structure_ = session_.structurePtr();
    const auto made = [](const auto& part) { return part.material != nullptr; };
    const bool drawable = std::all_of(structure_->members.begin(), structure_->members.end(), made) &&
                          std::all_of(structure_->sheets.begin(), structure_->sheets.end(), made) &&
                          std::all_of(structure_->solids.begin(), structure_->solids.end(), made);
    Structure plain; // a shape without materials can be drawn all the same
    const Structure* shape = structure_.get();
    if (!drawable) {
        plain = *structure_;
        for (auto& member : plain.members)
            if (!member.material) member.material = std::make_shared<const Material>(materialLibrary().front());
        for (auto& solid : plain.solids)
            if (!solid.material) solid.material = std::make_shared<const Material>(materialLibrary().front());
        for (auto& sheet : plain.sheets)
            if (!sheet.material) sheet.material = std::make_shared<const Material>(materialLibrary().front());
        shape = &plain;
    }
    mesh_ = drawn_ ? std::shared_ptr<const FrameMesh>(drawn_, &drawn_->mesh)
                   : std::make_shared<const FrameMesh>(coarseMesh(*shape));
    const FrameMesh& mesh = *mesh_;
    const auto elements = mesh.elements.size();
    const int pieces = !drawn_ ? 1 : elements > 4000 ? 1 : elements > 1200 ? 2 : 4;
    widest_ = 0.0;
    for (const auto& member : shape->frame.members)
        for (const auto& [y, z] : member.section->outline)
            widest_ = std::max(widest_, 2.0 * std::hypot(y, z));
    thin_ = tooThin();
    leastDrawn_ = leastSeen();
    p.surface = memberSurface(*shape, mesh, look_.sections && !thin_, pieces, leastDrawn_);
    p.sections.actor->SetVisibility(!p.surface.lines);
    p.centreLines.actor->SetVisibility(p.surface.lines);
    const std::vector<std::int64_t> none;
    p.memberCells = p.surface.cells;
    const int cell = p.surface.lines ? 2 : 3;
    const auto shownCells = cellsThat(p.memberCells, cell, [&](std::int64_t vertex) {
        return seen(shape->frame
                        .members[static_cast<std::size_t>(p.surface.memberOfVertex[static_cast<std::size_t>(vertex)])]
                        .name) == Seen::whole;
    });
    p.members().setPlaces(p.surface.place, p.surface.arm, p.surface.lines ? none : shownCells,
                          p.surface.lines ? shownCells : none);
    p.members().actor->GetProperty()->SetLineWidth(static_cast<float>((thin_ ? 1.4 : 2.2) * devicePixelRatioF()));

    const double span = std::max(structure_->frame.span(), 1e-6);
    p.scale = 0.0;
    p.nodeMotions.clear();
    p.motions.setZero(6, static_cast<Eigen::Index>(p.surface.stations.size()));
    if (drawn_) {
        p.motions = stationMotions(p.surface, *drawn_, static_cast<std::size_t>(modeShown() - 1));
        double most = p.motions.cols() > 0 ? p.motions.topRows<3>().colwise().norm().maxCoeff() : 0.0;
        const double turnMost = p.motions.cols() > 0 ? p.motions.bottomRows<3>().colwise().norm().maxCoeff() : 0.0;
        for (std::size_t node = 0; node < mesh.nodes.size() && hasFaces(mesh); ++node) {
            p.nodeMotions.push_back(drawn_->motion(static_cast<int>(node), static_cast<std::size_t>(modeShown() - 1)));
            most = std::max(most, p.nodeMotions.back().head<3>().norm());
        }
        if (most > 0.0) p.scale = greatest * look_.amplitude * span / most;
        if (turnMost > 0.0 && !hasFaces(mesh))
            p.scale =
                most > 0.0 ? std::min(p.scale, 0.9 * look_.amplitude / turnMost) : 0.4 * look_.amplitude / turnMost;
        for (std::size_t vertex = 0; vertex < p.surface.station.size(); ++vertex)
            p.members().setMotion(static_cast<vtkIdType>(vertex), p.scale * p.motions.col(p.surface.station[vertex]));
    }

    rebuildSheets(*shape);
    rebuildGhosts(*shape);
    MemberSurface rest = memberSurface(*shape, mesh, false, 1);
    for (const auto& nodes : mesh.edgeNodes)
        for (std::size_t at = 0; at < nodes.size(); ++at) {
            const auto vertex = static_cast<std::int64_t>(rest.place.size() / 3);
            const Eigen::Vector3d place = mesh.nodes[static_cast<std::size_t>(nodes[at])].place - p.surface.origin;
            for (int axis = 0; axis < 3; ++axis) {
                rest.place.push_back(static_cast<float>(place[axis]));
                rest.arm.push_back(0.0f);
            }
            if (at > 0) rest.cells.insert(rest.cells.end(), {vertex - 1, vertex});
        }
    p.outline.setPlaces(rest.place, rest.arm, {}, rest.cells);
    const QColor faint = Theme::now().dark ? QColor("#5A6167") : QColor("#B9BDBF");
    for (vtkIdType vertex = 0; vertex < p.outline.colour->GetNumberOfTuples(); ++vertex)
        p.outline.setColour(vertex, faint);
    p.outline.actor->GetProperty()->SetLineWidth(static_cast<float>(devicePixelRatioF()));
    p.outline.actor->SetVisibility(look_.outline && drawn_ != nullptr);
    p.outline.changed();

    rebuildSymbols();
    setBackground(p.renderer);
    if (!framed_ && !structure_->frame.empty()) frameAll();
}

const Structure* SceneCanvas::draftHere() const
{
    const auto& draft = session_.draft();
    if (!draft || fixed_ || !mesh_) return nullptr;
    const auto same = [&](const Structure& other) { // no other shape is drawn
        return other.frame.points.size() == draft->structure.frame.points.size() &&
               other.frame.members.size() == draft->structure.frame.members.size() &&
               other.frame.parts() == draft->structure.frame.parts() &&
               (!other.frame.faces || !draft->structure.frame.faces ||
                other.frame.faces->edges.size() == draft->structure.frame.faces->edges.size());
    };
    return structure_ && same(*structure_) ? &draft->structure : nullptr;
}

void SceneCanvas::readDraft()
{
    if (const Structure* draft = draftHere()) {
        QStringList words;
        for (const auto& joint : draft->surfaceJoints) {
            if (!joint.hasLines()) {
                words << QString::fromStdString(meetingOf(*draft, *mesh_, joint).what);
                continue;
            }
            Findings said;
            const LinesOnSurface on(*draft, *mesh_, joint, said);
            if (!said.empty())
                words << QString::fromStdString(said.front().what);
            else
                words << tr("%1 nodes and %2 sections follow it").arg(on.nodes.size()).arg(on.outlines.size());
        }
        session_.tellOfDraft(words.join("; "));
    }
    if (!dirty_ && mesh_) rebuildSymbols();
    update();
}

void SceneCanvas::rebuildSymbols()
{
    auto& p = *pipeline_;
    const FrameMesh& mesh = *mesh_;
    auto symbols = symbolsOf(*structure_, mesh, symbolSize());
    if (const auto* rest = restSeen(); rest && rest->factor == 0.0) // what is open fades, what slides stands out
        for (auto& symbol : symbols)
            for (const auto& contact : rest->state.contacts) {
                const auto node = static_cast<std::size_t>(symbol.node);
                if (symbol.sentence != contact.sentence ||
                    (node < structure_->frame.points.size() && structure_->frame.points[node].name != contact.point))
                    continue;
                if (!contact.bears) symbol.colour = Theme::now().hairline;
                if (contact.slides || (contact.bears && contact.bearing < contact.places))
                    symbol.colour = Theme::now().amber;
            }
    if (const Structure* draft = draftHere()) { // in place of what the sentence says by now
        std::erase_if(symbols, [&](const Symbol& one) { return one.sentence == session_.draft()->sentence.id; });
        for (auto& symbol : symbolsOf(*draft, mesh, symbolSize())) {
            symbol.colour = Theme::now().accent;
            symbols.push_back(std::move(symbol));
        }
    }
    for (const bool solid : {true, false}) {
        MovingShape& drawnShape = solid ? p.symbols : p.symbolLines;
        std::vector<float> places, arms;
        std::vector<std::int64_t> cells;
        std::vector<std::pair<int, QColor>> owners;
        for (const auto& symbol : symbols) {
            const auto& own = solid ? symbol.triangles : symbol.lines;
            if (own.empty()) continue;
            const auto first = static_cast<std::int64_t>(places.size() / 3);
            const Eigen::Vector3d base = mesh.nodes[static_cast<std::size_t>(symbol.node)].place - p.surface.origin;
            for (std::size_t at = 0; at < symbol.place.size(); ++at) {
                places.push_back(symbol.place[at] + static_cast<float>(base[static_cast<Eigen::Index>(at % 3)]));
                arms.push_back(symbol.place[at]);
            }
            owners.insert(owners.end(), symbol.place.size() / 3, {symbol.node, symbol.colour});
            for (const auto id : own)
                cells.push_back(first + id);
        }
        drawnShape.setPlaces(places, arms, solid ? cells : std::vector<std::int64_t>{},
                             solid ? std::vector<std::int64_t>{} : cells);
        for (std::size_t vertex = 0; vertex < owners.size(); ++vertex) {
            drawnShape.setColour(static_cast<vtkIdType>(vertex), owners[vertex].second);
            if (drawn_)
                drawnShape.setMotion(
                    static_cast<vtkIdType>(vertex),
                    p.scale * drawn_->motion(owners[vertex].first, static_cast<std::size_t>(modeShown() - 1)));
        }
        drawnShape.actor->SetVisibility(look_.symbols && !owners.empty());
        drawnShape.actor->GetProperty()->SetLineWidth(static_cast<float>(1.6 * devicePixelRatioF()));
        drawnShape.changed();
    }
}

namespace {

double middlingSide(const PartSurface& surface)
{
    std::vector<double> sides;
    const auto place = [&](std::int64_t vertex) {
        const auto* at = &surface.place[3 * static_cast<std::size_t>(vertex)];
        return Eigen::Vector3d(at[0], at[1], at[2]);
    };
    for (std::size_t at = 0; at + 1 < surface.meshLines.size(); at += 2)
        sides.push_back((place(surface.meshLines[at]) - place(surface.meshLines[at + 1])).norm());
    if (sides.empty()) return 0.0;
    const auto middle = sides.begin() + static_cast<std::ptrdiff_t>(sides.size() / 2);
    std::nth_element(sides.begin(), middle, sides.end());
    return *middle;
}

} // namespace

void SceneCanvas::fadeMeshLines()
{
    constexpr double gone = 1.2, full = 4.0; // pixels
    const double pixels = side_ / camera_.scale(size());
    const double share = std::clamp((pixels - gone) / (full - gone), 0.0, 1.0);
    auto& actor = pipeline_->meshLines.actor;
    actor->SetVisibility(look_.meshLines && mesh_ && hasFaces(*mesh_) && share > 0.0);
    actor->GetProperty()->SetOpacity(share);
}

void SceneCanvas::rebuildSheets(const Structure& shape)
{
    sharesOf_ = {}; // by the vertices made here
    auto& p = *pipeline_;
    p.sheets.actor->SetVisibility(hasFaces(*mesh_));
    p.meshLines.actor->SetVisibility(look_.meshLines && hasFaces(*mesh_));
    p.nodeLines.actor->SetVisibility(look_.nodeLines && !p.nodeMotions.empty());
    p.partSurface = {};
    p.thin = {};
    if (!hasFaces(*mesh_)) return;
    p.partSurface = partSurface(shape, *mesh_, p.surface.origin, look_.sections);
    const PartSurface& surface = p.partSurface;
    const auto whole = [&](std::int64_t vertex) {
        return seen(shape.frame.partName(surface.part[static_cast<std::size_t>(vertex)])) == Seen::whole;
    };
    const auto triangles = cellsThat(surface.triangles, 3, whole);
    p.sheets.setPlaces(surface.place, surface.arm, triangles, {});
    thinOut(triangles);
    std::vector<float> outside = surface.place;
    for (std::size_t at = 0; at < outside.size(); ++at)
        outside[at] += surface.lineArm[at] - surface.arm[at];
    p.meshLines.setPlaces(outside, surface.lineArm, {}, cellsThat(surface.meshLines, 2, whole));
    const bool dark = Theme::now().dark;
    const QColor line = dark ? QColor("#33383D") : QColor("#A9A4B2");
    for (std::size_t vertex = 0; vertex < surface.node.size(); ++vertex) {
        const auto at = static_cast<vtkIdType>(vertex);
        p.meshLines.setColour(at, line);
        if (p.nodeMotions.empty()) continue;
        const Vector6 motion = p.scale * p.nodeMotions[static_cast<std::size_t>(surface.node[vertex])];
        p.sheets.setMotion(at, motion);
        p.meshLines.setMotion(at, motion);
    }
    p.meshLines.actor->GetProperty()->SetLineWidth(static_cast<float>(devicePixelRatioF()));
    p.meshLines.changed();
    side_ = middlingSide(surface);
    if (p.nodeMotions.empty() || !look_.nodeLines) return;
    const NodeLines lines = nodeLines(shape, *mesh_, p.surface.origin, p.nodeMotions);
    p.nodeLines.setPlaces(lines.place, lines.arm, {}, cellsThat(lines.lines, 2, [&](std::int64_t vertex) {
                              return seen(shape.frame.partName(lines.part[static_cast<std::size_t>(vertex)])) ==
                                     Seen::whole;
                          }));
    for (std::size_t vertex = 0; vertex < lines.nodes.size(); ++vertex) {
        const auto& [from, to] = lines.nodes[vertex];
        const Vector6 motion = p.scale * ((1.0 - lines.share[vertex]) * p.nodeMotions[static_cast<std::size_t>(from)] +
                                          lines.share[vertex] * p.nodeMotions[static_cast<std::size_t>(to)]);
        p.nodeLines.setMotion(static_cast<vtkIdType>(vertex), motion);
        p.nodeLines.setColour(static_cast<vtkIdType>(vertex), Theme::now().ink);
    }
    p.nodeLines.actor->GetProperty()->SetLineWidth(static_cast<float>(2.0 * devicePixelRatioF()));
    p.nodeLines.changed();
}

void SceneCanvas::thinOut(const std::vector<std::int64_t>& triangles)
{
    constexpr std::size_t many = 60000, few = 30000;
    auto& p = *pipeline_;
    if (triangles.size() / 3 < many) return;
    p.thin = thinned(p.partSurface, triangles, few);
    std::vector<float> place, arm;
    for (const auto vertex : p.thin.vertex)
        for (std::size_t k = 3 * static_cast<std::size_t>(vertex); k < 3 * static_cast<std::size_t>(vertex) + 3; ++k) {
            place.push_back(p.partSurface.place[k]);
            arm.push_back(p.partSurface.arm[k]);
        }
    p.thinSheets.setPlaces(place, arm, p.thin.triangles, {});
    if (p.nodeMotions.empty()) return;
    for (std::size_t at = 0; at < p.thin.vertex.size(); ++at) {
        const int node = p.partSurface.node[static_cast<std::size_t>(p.thin.vertex[at])];
        p.thinSheets.setMotion(static_cast<vtkIdType>(at), p.scale * p.nodeMotions[static_cast<std::size_t>(node)]);
    }
}

/// Sheets and members that are faded stand in one shape, which lets what is behind it through.
void SceneCanvas::rebuildGhosts(const Structure& shape)
{
    auto& p = *pipeline_;
    p.ghosts.actor->SetVisibility(!look_.faded.empty());
    if (look_.faded.empty()) return;
    const PartSurface& sheets = p.partSurface;
    std::vector<float> place = sheets.place, arm = sheets.arm;
    std::vector<std::int64_t> triangles = cellsThat(sheets.triangles, 3, [&](std::int64_t vertex) {
        return seen(shape.frame.partName(sheets.part[static_cast<std::size_t>(vertex)])) == Seen::faded;
    });
    const auto first = static_cast<std::int64_t>(place.size() / 3);
    const int size = p.surface.lines ? 2 : 3;
    auto own = cellsThat(p.memberCells, size, [&](std::int64_t vertex) {
        const auto member = static_cast<std::size_t>(p.surface.memberOfVertex[static_cast<std::size_t>(vertex)]);
        return seen(shape.frame.members[member].name) == Seen::faded;
    });
    for (auto& vertex : own)
        vertex += first;
    place.insert(place.end(), p.surface.place.begin(), p.surface.place.end());
    arm.insert(arm.end(), p.surface.arm.begin(), p.surface.arm.end());
    if (!p.surface.lines) triangles.insert(triangles.end(), own.begin(), own.end());
    p.ghosts.setPlaces(place, arm, triangles, p.surface.lines ? own : std::vector<std::int64_t>{});
    const QColor grey = Theme::now().dark ? QColor("#9AA2A8") : QColor("#6B757C");
    for (vtkIdType vertex = 0; vertex < static_cast<vtkIdType>(place.size() / 3); ++vertex) {
        p.ghosts.setColour(vertex, grey);
        if (!drawn_) continue;
        if (vertex < first)
            p.ghosts.setMotion(
                vertex,
                p.scale * p.nodeMotions[static_cast<std::size_t>(sheets.node[static_cast<std::size_t>(vertex)])]);
        else
            p.ghosts.setMotion(vertex,
                               p.scale * p.motions.col(p.surface.station[static_cast<std::size_t>(vertex - first)]));
    }
    p.ghosts.changed();
}

} // namespace undisona
