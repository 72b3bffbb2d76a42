#include "core/model/material.hpp"

#include <map>

namespace undisona {

namespace {

/// By temperature, 1e-6/K: the codes that the figures beside them come from (EN 1993-1-1 3.2.6, EN 10088-1 annex E,
/// EN 1999-1-1 3.2.5, EN 1992-1-1 3.1.3, EN 572-1), else the mid of Ashby's range.
const std::map<std::string_view, double>& expansions()
{
    static const std::map<std::string_view, double> all{
        {"structural steel", 12},
        {"stainless steel 1.4301", 16},
        {"stainless steel 1.4401", 16},
        {"duplex steel 1.4462", 13},
        {"aluminium alloy 6082", 23},
        {"aluminium alloy 5083", 23},
        {"aluminium alloy 7020", 23},
        {"copper", 17},
        {"brass", 19},
        {"bronze", 18},
        {"titanium alloy", 9},
        {"grey cast iron", 10},
        {"nodular cast iron", 12.5},
        {"magnesium alloy", 26},
        {"concrete C20/25", 10},
        {"concrete C25/30", 10},
        {"concrete C30/37", 10},
        {"concrete C40/50", 10},
        {"concrete C50/60", 10},
        {"softwood C24", 5},
        {"glued laminated timber GL24h", 5},
        {"oak D30", 5},
        {"glass", 9},
        {"polyamide PA6", 80},
        {"polyethylene HDPE", 200},
        {"polypropylene PP", 150},
        {"rigid PVC", 70},
        {"acrylic PMMA", 70},
        {"polycarbonate PC", 68},
        {"ABS", 90},
        {"glass fibre laminate", 12},
        {"natural rubber, 50 Shore A", 220},
        {"neoprene, 60 Shore A", 200},
    };
    return all;
}

} // namespace

const std::vector<Material>& materialLibrary()
{
    // Damping: material alone, low stress; joints add more (Bachmann et al., Vibration Problems in
    // Structures, 1995, app. C; Lazan, Damping of Materials and Members, 1968).
    static const std::string steel = "EN 1993-1-1:2005, 3.2.6; density EN 1991-1-1:2002, table A.4";
    static const std::string stainless = "EN 10088-1:2005, table E.1";
    static const std::string aluminium = "EN 1999-1-1:2007, 3.2.5";
    static const std::string concrete = "EN 1992-1-1:2004, table 3.1 (Ecm); density EN 1991-1-1:2002, table A.1";
    static const std::string timber = "EN 338:2016, mean values along the grain";
    static const std::string handbook = "Gere and Goodno, Mechanics of Materials, 2009, app. H, mid of range";
    static const std::string plastics = "Ashby, Materials Selection in Mechanical Design, 2011, app. A, mid of range";
    static const std::vector<Material> library{
        {"structural steel", 210e9, 0.3, 7850, 0.001, steel},
        {"stainless steel 1.4301", 200e9, 0.3, 7900, 0.001, stainless},
        {"stainless steel 1.4401", 200e9, 0.3, 8000, 0.001, stainless},
        {"duplex steel 1.4462", 200e9, 0.3, 7800, 0.001, stainless},
        {"aluminium alloy 6082", 70e9, 0.3, 2700, 0.0005, aluminium},
        {"aluminium alloy 5083", 70e9, 0.3, 2660, 0.0005, aluminium + "; density EN 573-3"},
        {"aluminium alloy 7020", 70e9, 0.3, 2780, 0.0005, aluminium + "; density EN 573-3"},
        {"copper", 117e9, 0.34, 8940, 0.001, handbook},
        {"brass", 103e9, 0.34, 8500, 0.001, handbook},
        {"bronze", 110e9, 0.34, 8500, 0.001, handbook},
        {"titanium alloy", 114e9, 0.33, 4430, 0.0005, handbook},
        {"grey cast iron", 110e9, 0.26, 7200, 0.006, "EN 1561:2011, annex A (EN-GJL-250)"},
        {"nodular cast iron", 169e9, 0.275, 7100, 0.002, "EN 1563:2018, annex (EN-GJS-400)"},
        {"magnesium alloy", 45e9, 0.35, 1800, 0.002, handbook},
        {"concrete C20/25", 30e9, 0.2, 2500, 0.008, concrete},
        {"concrete C25/30", 31e9, 0.2, 2500, 0.008, concrete},
        {"concrete C30/37", 33e9, 0.2, 2500, 0.008, concrete},
        {"concrete C40/50", 35e9, 0.2, 2500, 0.008, concrete},
        {"concrete C50/60", 37e9, 0.2, 2500, 0.008, concrete},
        {"softwood C24", 11e9, 0.35, 420, 0.008, timber},
        {"glued laminated timber GL24h", 11.5e9, 0.35, 420, 0.008, "EN 14080:2013, table 5"},
        {"oak D30", 11e9, 0.35, 640, 0.008, timber},
        {"glass", 70e9, 0.23, 2500, 0.001, "EN 572-1:2012"},
        {"polyamide PA6", 2.8e9, 0.39, 1140, 0.015, plastics},
        {"polyethylene HDPE", 0.9e9, 0.42, 955, 0.02, plastics},
        {"polypropylene PP", 1.4e9, 0.4, 905, 0.02, plastics},
        {"rigid PVC", 3.0e9, 0.38, 1400, 0.015, plastics},
        {"acrylic PMMA", 3.0e9, 0.38, 1190, 0.02, plastics},
        {"polycarbonate PC", 2.3e9, 0.38, 1200, 0.015, plastics},
        {"ABS", 2.2e9, 0.39, 1050, 0.015, plastics},
        {"glass fibre laminate", 18e9, 0.3, 1850, 0.006, plastics},
        {"natural rubber, 50 Shore A", 2.2e6, 0.4995, 1100, 0.03,
         "Lindley, Engineering Design with Natural Rubber, 1974 (small strain)"},
        {"neoprene, 60 Shore A", 3.6e6, 0.4995, 1250, 0.05,
         "Lindley, Engineering Design with Natural Rubber, 1974 (small strain)"},
    };
    static const std::vector<Material> expanding = [] {
        std::vector<Material> all = library;
        for (auto& material : all)
            material.expansion = 1e-6 * expansions().at(material.name);
        return all;
    }();
    return expanding;
}

std::optional<Material> libraryMaterial(std::string_view name)
{
    for (const auto& material : materialLibrary())
        if (material.name == name) return material;
    return std::nullopt;
}

} // namespace undisona
