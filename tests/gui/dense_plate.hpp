#pragma once
#include "app/session/session.hpp"

#include <cmath>
#include <numbers>

namespace undisona {

/// Opens a plate of so many elements with a mode as it is in books: nothing is solved.
inline void openDensePlate(Session& session, int elements)
{
    Document document;
    document.model = Model()
                         .inserted(newSentence(*kindNamed("plate"), "plate")
                                       .with("length", quantityIn(1.0, QuantityKind::length, "m"))
                                       .with("width", quantityIn(1.0, QuantityKind::length, "m")))
                         .inserted(newSentence(*kindNamed("material"), "steel"));
    session.start(document, {});
    session.stop();
    auto solution = std::make_shared<Solution>();
    solution->key = solveKey(document.model);
    solution->structure = session.structurePtr();
    solution->mesh = meshOf(*solution->structure, {}, {{1.0 / std::sqrt(double(elements))}});
    solution->system = std::make_shared<const System>(kinematicsOf(*solution->structure, solution->mesh));
    solution->shapes.setZero(solution->system->size(), 1);
    for (Eigen::Index at = 0; at < solution->system->size(); ++at) {
        const Unknown& unknown = solution->system->motions.unknowns[static_cast<std::size_t>(at)];
        if (!unknown.rotation && std::abs(unknown.direction.z()) > 0.5)
            solution->shapes(at, 0) = std::sin(3.0 * std::numbers::pi * unknown.place.x()) *
                                      std::sin(2.0 * std::numbers::pi * unknown.place.y());
    }
    Mode mode;
    mode.number = mode.group = 1;
    mode.frequency = 10.0;
    mode.lambda = std::pow(2.0 * std::numbers::pi * mode.frequency, 2);
    solution->modes.push_back(mode);
    session.adopt(solution);
}

} // namespace undisona
