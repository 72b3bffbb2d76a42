#pragma once
#include "core/assess/by_hand.hpp"
#include "core/assess/clash.hpp"
#include "core/modal/modal_stress.hpp"
#include "core/modal/rest.hpp"
#include "core/remedy/tolerated_modes.hpp"
#include "core/units/display.hpp"

#include <set>

namespace undisona {

/// A piece of a report, whatever it is written as.
struct ReportBlock {
    enum class Kind { heading, text, lines, table, picture } kind;
    std::string text;                 ///< of a picture what stands below it
    std::vector<std::string> lines{}; ///< of a list
    std::vector<std::string> heads{}; ///< of a table; those that begin with ">" stand to the right, without it
    std::vector<std::vector<std::string>> rows{}; ///< cells
    std::string picture{};                        ///< its key: "score", "mode-3"
};
struct Report {
    std::string title, subtitle;
    std::vector<ReportBlock> blocks;

    std::vector<std::string> pictures() const; ///< the keys that it wants
};

/// What a report may say, in its order.
enum class ReportPart { verdict, model, mass, rest, modes, shapes, clashes, tolerances, takes, proof, findings };
inline constexpr std::array<ReportPart, 11> everyReportPart{
    ReportPart::verdict, ReportPart::model,  ReportPart::mass,    ReportPart::rest,
    ReportPart::modes,   ReportPart::shapes, ReportPart::clashes, ReportPart::tolerances,
    ReportPart::takes,   ReportPart::proof,  ReportPart::findings};
/// "the model in its own words", ...
std::string wordsOf(ReportPart);
/// One word for the command line: "model", ...
std::string_view keyOf(ReportPart);

/// What it is written from: one model of a document, as it is or a take or a state, with its modes.
struct ReportSource {
    const Document& document;
    std::string take; ///< name; empty: the live model
    const Model& model;
    const Solution& solution;
    const std::vector<Excitation>& excitations;
    const ClashReading& clashes;
    const Findings& findings; ///< notes too
    struct Beside {
        std::string name;
        const Model& model;
        const Solution* solution; ///< null where it is not solved
    };
    std::vector<Beside> beside{}; ///< takes and states
    const ToleratedModes* tolerances = nullptr;
    const HandReading* byHand = nullptr;
    const Rest* rest = nullptr; ///< its static states
};

struct ReportOrder {
    std::set<ReportPart> without{};
    std::vector<int> modes{}; ///< that are pictured; empty: `modesWorthAPicture`
};

/// Those that meet an excitation, then those that matter along x, y or z, the lowest first; at most so many.
std::vector<int> modesWorthAPicture(const Solution&, const ClashReading&, std::size_t most = 8);

/// The same for the same model every time: no date, no duration.
Report reportOf(const ReportSource&, const ReportOrder&);

/// One file of HTML that needs no other, or, for pages of paper, plain enough for those; `pictures` are PNG by key.
std::string reportHtml(const Report&, const std::map<std::string, std::string>& pictures, bool onPaper = false);

} // namespace undisona
