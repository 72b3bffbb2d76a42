#include "core/modal/contact_places.hpp"

#include "core/system/own_motions.hpp"
#include "core/system/spread.hpp"

namespace undisona {

namespace {

ContactPlace placeOfPoint(const Structure& structure, const System& system, std::size_t which)
{
    const Contact& contact = structure.contacts[which];
    ContactPlace place{which};
    place.stiffness = contact.stiffness;
    place.at = structure.frame.points[static_cast<std::size_t>(contact.point)].place;
    const auto take = [&](int point, double sign) {
        const NodeMotion& motion = system.motions.nodes[static_cast<std::size_t>(point)];
        for (std::size_t at = 0; at < motion.unknowns.size(); ++at) {
            const auto known = std::find(place.unknowns.begin(), place.unknowns.end(), motion.unknowns[at]);
            const auto column = known - place.unknowns.begin();
            if (known == place.unknowns.end()) {
                place.unknowns.push_back(motion.unknowns[at]);
                place.basis.conservativeResize(Eigen::NoChange, column + 1);
                place.basis.col(column).setZero();
            }
            place.basis.col(column) += sign * motion.basis.topRows<3>().col(static_cast<Eigen::Index>(at));
        }
    };
    take(contact.point, 1.0);
    if (contact.other >= 0) take(contact.other, -1.0);
    return place;
}

/// The mean of each piece's interpolation does the work of an even pressure on it, whatever element it is of, and is
/// what may be pressed without any corner pulling.
void addPieces(const Structure& structure, const FrameMesh& mesh, const System& system, std::size_t which,
               std::vector<ContactPlace>& places)
{
    const Contact& contact = structure.contacts[which];
    const std::size_t first = places.size();
    double all = 0.0;
    // Of stiffness, which is never lumped.
    const Attachment evenly{contact.over->first, contact.over->second, Attachment::Effect::stiffness,
                            Eigen::Matrix3d::Identity(), contact.sentence};
    eachPiece(structure, mesh, evenly, [&](const SpreadPiece& piece) {
        const OwnMotions own = ownMotions(system, piece);
        const auto rows = piece.matrix.rows();
        Eigen::MatrixXd shifts = Eigen::MatrixXd::Zero(rows, 3); // of the whole piece along x, y, z
        const bool turns = piece.element >= 0 || piece.shell >= 0;
        const Eigen::Matrix3d axes =
            piece.element >= 0 ? Eigen::Matrix3d(system.elements[static_cast<std::size_t>(piece.element)].axes)
            : piece.shell >= 0 ? Eigen::Matrix3d(system.shells[static_cast<std::size_t>(piece.shell)].axes)
                               : Eigen::Matrix3d::Identity();
        for (Eigen::Index row = 0; row < rows; row += turns ? 6 : 3)
            shifts.middleRows<3>(row) = axes.transpose();
        ContactPlace place{which, own.unknowns};
        place.basis = shifts.transpose() * piece.matrix * own.toOwn / piece.amount;
        place.share = piece.amount;
        place.at = piece.moment / piece.amount;
        all += piece.amount;
        places.push_back(std::move(place));
    });
    for (std::size_t at = first; at < places.size(); ++at) {
        ContactPlace& place = places[at];
        place.stiffness = contact.stiffness * (contact.perExtent ? place.share : place.share / all);
        place.share /= all;
    }
}

} // namespace

std::vector<ContactPlace> contactPlaces(const Structure& structure, const FrameMesh& mesh, const System& system)
{
    std::vector<ContactPlace> places;
    for (std::size_t which = 0; which < structure.contacts.size(); ++which)
        if (structure.contacts[which].over)
            addPieces(structure, mesh, system, which, places);
        else
            places.push_back(placeOfPoint(structure, system, which));
    return places;
}

} // namespace undisona
