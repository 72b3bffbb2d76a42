#include "core/statement/warmed.hpp"

#include "core/elements/laminate.hpp"

namespace undisona {

namespace {

/// With each part of a structure, and how much warmer it is.
template <class Structures, class Use>
void eachPart(Structures& structure, const Warmth& warmth, const Use& use)
{
    const auto all = [&](auto& parts, const std::vector<double>& by) {
        for (std::size_t at = 0; at < parts.size(); ++at)
            use(parts[at], by[at]);
    };
    all(structure.members, warmth.members);
    all(structure.sheets, warmth.sheets);
    all(structure.solids, warmth.solids);
}

bool changes(const Material& material, double warmer)
{
    if (!material.layers) return keptStiffness(material, warmer) != 1.0;
    return std::any_of(material.layers->begin(), material.layers->end(),
                       [&](const Ply& ply) { return changes(ply.material, warmer); });
}

} // namespace

double keptStiffness(const Material& material, double warmer)
{
    if (material.keeps.empty()) return 1.0;
    std::map<double, double> shares{{0.0, 1.0}};
    for (const auto& [by, share] : material.keeps)
        shares[by] = share;
    const auto above = shares.lower_bound(warmer);
    if (above == shares.end()) return shares.rbegin()->second;
    if (above == shares.begin()) return above->second;
    const auto below = std::prev(above);
    const double along = (warmer - below->first) / (above->first - below->first);
    return below->second + along * (above->second - below->second);
}

Material warmedBy(const Material& material, double warmer)
{
    Material warmed = material;
    if (material.layers) {
        std::vector<Ply> plies = *material.layers;
        for (Ply& ply : plies)
            ply.material = warmedBy(ply.material, warmer);
        warmed = layeredMaterial(material.name, std::move(plies));
        warmed.expansion = material.expansion;
        return warmed;
    }
    const double share = keptStiffness(material, warmer);
    warmed.modulus *= share;
    if (warmed.grain)
        for (double* modulus : {&warmed.grain->across, &warmed.grain->shear, &warmed.grain->rolling})
            *modulus *= share;
    return warmed;
}

Warmth warmthIn(const Structure& structure, Eigen::Index state)
{
    Warmth warmth{std::vector<double>(structure.members.size(), 0.0), std::vector<double>(structure.sheets.size(), 0.0),
                  std::vector<double>(structure.solids.size(), 0.0)};
    if (state < 0) return warmth;
    const auto& factors = structure.staticStates[static_cast<std::size_t>(state)].factors;
    for (std::size_t at = 0; at < structure.loads.size(); ++at) {
        const Load& load = structure.loads[at];
        if (load.kind != Load::Kind::warming) continue;
        auto& parts = load.over == Target::member  ? warmth.members
                      : load.over == Target::sheet ? warmth.sheets
                                                   : warmth.solids;
        parts[static_cast<std::size_t>(load.at)] += factors[at] * load.amount;
    }
    return warmth;
}

bool softens(const Structure& structure, Eigen::Index state)
{
    bool any = false;
    eachPart(structure, warmthIn(structure, state), [&](const MadeOf& part, double warmer) {
        const auto& material = part.cold ? part.cold : part.material;
        any = any || (material && changes(*material, warmer));
    });
    return any;
}

std::map<std::string, double> warmerThanStated(const Structure& structure)
{
    std::map<std::string, double> beyond;
    for (std::size_t state = 0; state < structure.staticStates.size(); ++state)
        eachPart(structure, warmthIn(structure, static_cast<Eigen::Index>(state)),
                 [&](const MadeOf& part, double warmer) {
                     if (!part.material || part.material->keeps.empty()) return;
                     const auto& keeps = part.material->keeps;
                     const auto [least, most] = std::minmax_element(keeps.begin(), keeps.end());
                     if (warmer <= std::max(most->first, 0.0) && (warmer >= least->first || least->first >= 0.0))
                         return;
                     double& own = beyond[part.material->name];
                     if (std::abs(warmer) > std::abs(own)) own = warmer;
                 });
    return beyond;
}

void warm(Structure& structure, Eigen::Index state)
{
    eachPart(structure, warmthIn(structure, state), [](MadeOf& part, double warmer) {
        if (part.cold) part.material = std::exchange(part.cold, nullptr);
        if (!part.material || !changes(*part.material, warmer)) return;
        part.cold = part.material;
        part.material = std::make_shared<const Material>(warmedBy(*part.cold, warmer));
    });
}

} // namespace undisona
