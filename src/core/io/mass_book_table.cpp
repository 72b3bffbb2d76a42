#include "core/base/number_text.hpp"
#include "core/io/csv_text.hpp"
#include "core/io/export.hpp"

#include <fmt/format.h>

namespace undisona {

namespace {

const char* nameOf(MassBook::Row::Kind kind)
{
    switch (kind) {
    case MassBook::Row::Kind::material:
        return "material";
    case MassBook::Row::Kind::added:
        return "added";
    case MassBook::Row::Kind::weighed:
        break;
    }
    return "weighed";
}

/// Of the scale's figure, by how much the model is heavier, per cent.
double offPercent(const MassBook::Row& row)
{
    return 100.0 * (row.mass / *row.said - 1.0);
}

} // namespace

std::string massBookTable(const MassBook& book, const DisplayUnits& units)
{
    const auto mass = [&](double kg) { return rounded(units.value(kg, QuantityKind::mass), 5); };
    const auto centre = [&](const Eigen::Vector3d& place) {
        std::string text;
        for (int axis = 0; axis < 3; ++axis)
            text += fmt::format(" {:>9}", rounded(units.value(place[axis], QuantityKind::length), 4));
        return text;
    };
    const std::string unit = units.unit(QuantityKind::mass), length = units.unit(QuantityKind::length);
    std::string out = fmt::format("{:>10} {:>6} {:>9} {:>9} {:>9}  {:>10} {:>7}  where from\n", unit, "%",
                                  "x " + length, "y", "z", "scale", "off %");
    for (const auto& row : book.rows) {
        const bool weighed = row.kind == MassBook::Row::Kind::weighed;
        out += fmt::format("{:>10} {:>6}{}  {:>10} {:>7}  {}\n", mass(row.mass),
                           weighed ? "." : rounded(100.0 * row.mass / book.total(), 3),
                           weighed ? fmt::format(" {:>9} {:>9} {:>9}", ".", ".", ".") : centre(row.centre),
                           weighed ? mass(*row.said) : ".", weighed ? rounded(offPercent(row), 2) : ".",
                           row.source.empty() ? row.what : row.what + ", by " + row.source);
    }
    out += fmt::format("{:>10} {:>6}{}  {:>10} {:>7}  in all, {} of material and {} added\n", mass(book.total()), "100",
                       centre(book.centre), ".", ".", units.text(book.material, QuantityKind::mass),
                       units.text(book.added, QuantityKind::mass));
    return out;
}

std::string massBookCsv(const MassBook& book)
{
    std::string out = "kind,sentence,where_from,mass_kg,x_m,y_m,z_m,weighed_kg,by\r\n";
    for (const auto& row : book.rows) {
        const bool weighed = row.kind == MassBook::Row::Kind::weighed;
        out +=
            fmt::format("{},{},{},{},", nameOf(row.kind), csvText(row.sentence), csvText(row.what), shortest(row.mass));
        out += weighed ? ",,," + shortest(*row.said)
                       : fmt::format("{},{},{},", shortest(row.centre.x()), shortest(row.centre.y()),
                                     shortest(row.centre.z()));
        out += "," + csvText(row.source) + "\r\n";
    }
    return out;
}

} // namespace undisona
