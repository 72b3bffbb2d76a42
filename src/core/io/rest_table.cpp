#include "core/io/rest_table.hpp"

#include "core/base/number_text.hpp"
#include "core/io/csv_text.hpp"
#include "core/io/stress_table.hpp"
#include "core/studies/rest.hpp"

#include <fmt/format.h>
#include <nlohmann/json.hpp>

namespace undisona {

namespace {

std::string three(const Eigen::Vector3d& values, QuantityKind kind, const DisplayUnits& units)
{
    const double largest = values.cwiseAbs().maxCoeff();
    const auto one = [&](int axis) {
        return fmt::format("{:.4g}", std::abs(values[axis]) < 1e-9 * largest ? 0.0 : units.value(values[axis], kind));
    };
    return fmt::format("{}, {}, {} {}", one(0), one(1), one(2), units.unit(kind));
}

/// The first factor of the loads as they are, and of them turned round; 0: none.
std::pair<double, double> nearest(const RestState& state)
{
    std::pair<double, double> first{0.0, 0.0};
    for (const double factor : state.buckles) {
        double& own = factor > 0.0 ? first.first : first.second;
        if (own == 0.0) own = factor;
    }
    return first;
}

} // namespace

const PartStress* nearestToStrength(const RestState& state)
{
    const auto most = std::max_element(state.parts.begin(), state.parts.end(),
                                       [](const auto& a, const auto& b) { return a.share() < b.share(); });
    return most == state.parts.end() || !(most->bears > 0.0) ? nullptr : &*most;
}

std::string carrierName(const Model& model, const CarriedLoad& load)
{
    if (!load.point.empty()) return load.point;
    if (const auto said = model.sentence(load.sentence))
        for (const auto& field : said->kind->fields)
            if (!field.targets.none() && said->has(field.key)) return said->text(field.key);
    return load.sentence;
}

std::string contactName(const RestContact& contact)
{
    if (contact.places > 1 && contact.bears)
        return fmt::format("{}, {} of {} places", contact.point, contact.bearing, contact.places);
    return contact.against.empty() ? contact.point : contact.point + " against " + contact.against;
}

std::string contactRemark(const RestContact& contact)
{
    if (!contact.stated) return contact.slides ? ", sliding" : "";
    if (contact.bears && contact.force < 0.0) return ", as said: it would open";
    if (!contact.bears && contact.gap < 0.0) return ", as said: it would bear";
    return ", as said";
}

std::string bucklingWords(const RestState& state)
{
    const auto [own, turned] = nearest(state);
    if (own == 0.0 && turned == 0.0 && !std::isfinite(state.bucklesKnown)) return "never: nothing presses";
    const std::string round = turned < 0.0 ? fmt::format("at {:.4g} times it turned round", -turned) : std::string();
    const std::string first = own > 0.0 ? fmt::format("at {:.4g} times the state", own)
                              : std::isfinite(state.bucklesKnown)
                                  ? fmt::format("not below {:.3g} times the state", state.bucklesKnown)
                                  : std::string("not by more of it");
    return first + (round.empty() ? "" : ", and " + round);
}

std::string restWords(const RestState& state, const DisplayUnits& units)
{
    const auto length = [&](double si) { return amplitudeText(si, QuantityKind::length, units); };
    std::string words =
        fmt::format("loads: {}; about the origin {}\nmoves: {} at most, at {} ({})\n",
                    three(state.force, QuantityKind::force, units), three(state.moment, QuantityKind::moment, units),
                    length(state.moves), placeIn(units, state.at), state.where);
    words += state.unbalanced < 1e-6
                 ? "supports carry all of it\n"
                 : fmt::format("supports carry what differs from the loads by {:.2g} %: stiffnesses "
                               "lie far apart\n",
                               100.0 * state.unbalanced);
    if (const PartStress* most = nearestToStrength(state))
        words += fmt::format("{}: {:.3g} % of what its material bears{}\n", most->name, 100.0 * most->share(),
                             most->share() > 1.0 ? ", which is too much" : "");
    return words;
}

std::string restTable(const Model& model, const RestState& state, const DisplayUnits& units)
{
    std::string out = fmt::format("state {}\n{}", state.name, restWords(state, units));
    if (state.bucklesKnown > 0.0) out += fmt::format("buckles: {}\n", bucklingWords(state));
    std::size_t width = 10;
    for (const auto& load : state.carried)
        width = std::max(width, carrierName(model, load).size());
    for (const auto& contact : state.contacts)
        width = std::max(width, contactName(contact).size());
    const double force = state.force.norm(), moment = state.moment.norm();
    if (!state.carried.empty())
        out += fmt::format("\n{:<{}} {:>11} {:>11} {:>11} {:>11} {:>11} {:>11}  {}, {}\n", "carried by", width, "x",
                           "y", "z", "about x", "about y", "about z", units.unit(QuantityKind::force),
                           units.unit(QuantityKind::moment));
    for (const auto& load : state.carried) {
        out += fmt::format("{:<{}}", carrierName(model, load), width);
        for (int axis = 0; axis < 3; ++axis)
            out += std::abs(load.force[axis]) < 1e-9 * force
                       ? fmt::format(" {:>11}", ".")
                       : fmt::format(" {:>11.4g}", units.value(load.force[axis], QuantityKind::force));
        for (int axis = 0; axis < 3; ++axis)
            out += std::abs(load.moment[axis]) <= 1e-9 * moment
                       ? fmt::format(" {:>11}", ".")
                       : fmt::format(" {:>11.4g}", units.value(load.moment[axis], QuantityKind::moment));
        out += "\n";
    }
    if (!state.contacts.empty())
        out += fmt::format("\n{:<{}} {:>8} {:>11} {:>11}  {}, {}; settled in {} pass{}\n", "on one side alone", width,
                           "", "force", "gap", units.unit(QuantityKind::force), units.unit(QuantityKind::length),
                           state.passes, state.passes == 1 ? "" : "es");
    for (const auto& contact : state.contacts)
        out += fmt::format("{:<{}} {:>8} {:>11.4g} {:>11.4g}{}\n", contactName(contact), width,
                           contact.slides  ? "slides"
                           : contact.bears ? "bears"
                                           : "open",
                           units.value(contact.force, QuantityKind::force),
                           units.value(contact.gap, QuantityKind::length), contactRemark(contact));
    return out + partTable(state.parts, 1.0, units);
}

std::string restCsv(const Model& model, const RestState& state)
{
    std::string out = "carried_by,sentence,x_n,y_n,z_n,about_x_nm,about_y_nm,about_z_nm,at_x_m,at_y_m,at_z_m\r\n";
    for (const auto& load : state.carried) {
        out += fmt::format("{},{}", csvText(carrierName(model, load)), csvText(load.sentence));
        for (const auto& three : {load.force, load.moment, load.place})
            for (const double figure : three)
                out += "," + shortest(figure);
        out += "\r\n";
    }
    return out + "\r\n" + partCsv(state.parts, 1.0);
}

Result<RestPlaces> restPlaces(const Model& model, const RestAnswer& answer, const std::vector<std::string>& points)
{
    const auto shapes = restAsShapes(model, answer, false);
    if (!shapes) return shapes.findings();
    const Solution& solution = **shapes;
    RestPlaces places;
    for (std::size_t state = 0; state < answer.found.states.size(); ++state) {
        const Eigen::VectorXd stress =
            equivalentAtNodes(solution.mesh, answer.found.fields, static_cast<Eigen::Index>(state));
        auto& own = places[answer.found.states[state].name];
        for (const auto& point : points) {
            const int at = solution.structure->frame.pointNamed(point);
            if (at < 0)
                return errorAt({}, fmt::format("there is no point called \"{}\"", point), "Name a point of the model.");
            own.push_back({point, solution.mesh.nodes[static_cast<std::size_t>(at)].place, solution.motion(at, state),
                           stress[at]});
        }
    }
    return places;
}

std::string placesTable(const RestPlaces& places, const std::string& state, const DisplayUnits& units)
{
    const auto own = places.find(state);
    if (own == places.end()) return "";
    std::size_t width = 8;
    for (const auto& place : own->second)
        width = std::max(width, place.point.size());
    std::string out = fmt::format("\n{:<{}} {:>11} {:>11} {:>11} {:>11} {:>11} {:>11} {:>11}  {}, rad, {}\n",
                                  "at point", width, "x", "y", "z", "about x", "about y", "about z", "equivalent",
                                  units.unit(QuantityKind::length), units.unit(QuantityKind::stress));
    for (const auto& place : own->second) {
        out += fmt::format("{:<{}}", place.point, width);
        for (int axis = 0; axis < 6; ++axis)
            out += fmt::format(" {:>11.4g}",
                               axis < 3 ? units.value(place.moves[axis], QuantityKind::length) : place.moves[axis]);
        out += place.stress > 0.0 ? fmt::format(" {:>11.4g}\n", units.value(place.stress, QuantityKind::stress))
                                  : fmt::format(" {:>11}\n", ".");
    }
    return out;
}

std::string restJson(const std::vector<RestState>& states, const RestPlaces& places)
{
    Json list = jsonOf(states);
    for (std::size_t state = 0; state < states.size(); ++state)
        if (const auto own = places.find(states[state].name); own != places.end())
            for (const auto& place : own->second)
                list[state]["at_points"].push_back({{"point", place.point},
                                                    {"place_m", {place.place.x(), place.place.y(), place.place.z()}},
                                                    {"moves_m", {place.moves[0], place.moves[1], place.moves[2]}},
                                                    {"turns_rad", {place.moves[3], place.moves[4], place.moves[5]}},
                                                    {"equivalent_pa", place.stress}});
    return Json{{"states", list}}.dump(2) + "\n";
}

std::string bucklingTable(const std::vector<RestState>& states)
{
    std::string out;
    for (const auto& state : states) {
        out += fmt::format("state {}: buckles {}\n", state.name, bucklingWords(state));
        for (std::size_t at = 0; at < state.buckles.size(); ++at)
            out += fmt::format("{:>4} {:>12.6g}\n", at + 1, state.buckles[at]);
    }
    return out;
}

std::string bucklingCsv(const std::vector<RestState>& states)
{
    std::string out = "state,number,factor\r\n";
    for (const auto& state : states)
        for (std::size_t at = 0; at < state.buckles.size(); ++at)
            out += fmt::format("{},{},{}\r\n", csvText(state.name), at + 1, shortest(state.buckles[at]));
    return out;
}

std::string bucklingJson(const std::vector<RestState>& states)
{
    Json list = Json::array();
    for (const auto& state : states)
        list.push_back({{"name", state.name}, {"factors", jsonOf(state.buckles)}});
    return Json{{"states", list}}.dump(2) + "\n";
}

} // namespace undisona
