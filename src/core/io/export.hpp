#pragma once
#include "core/assess/clash.hpp"
#include "core/assess/mass_book.hpp"
#include "core/assess/settling.hpp"
#include "core/units/display.hpp"

#include <map>
#include <string>

namespace undisona {

/// The whole solution as JSON with full-precision numbers; the keys are listed in docs/file-formats.md. With shapes:
/// the values of every unknown in each mode, the nodes' places, and their motions.
std::string solutionJson(const Solution&, const ClashReading&, bool shapes);

/// "1284 kg at 0, 0, 1.2 m": the mass and its centre.
std::string massWords(const MassSummary&, const DisplayUnits&);

/// One mode a row: number, Hz, period, fractions, errors, name; below, what tells them apart. For people; numbers
/// rounded, in a document's units. Folded, without the rows of local modes but those that meet an excitation.
std::string solutionTable(const Solution&, const ClashReading&, const DisplayUnits& = DisplayUnits(),
                          bool foldLocal = false);

/// Comma-separated with a header and full precision (RFC 4180).
std::string solutionCsv(const Solution&);

/// Frequencies on meshes from coarse to fine and what they settle at, one mode a row; rounded, or full precision with
/// commas (RFC 4180).
std::string settlingTable(const Solution&, const Settling&);
std::string settlingCsv(const Solution&, const Settling&);

/// Where every kilogram comes from, one sentence a row: for people, or full precision with commas (RFC 4180).
std::string massBookTable(const MassBook&, const DisplayUnits& = DisplayUnits());
std::string massBookCsv(const MassBook&);

/// Nodal motions of every mode: one row a node and mode (RFC 4180).
std::string shapesCsv(const Solution&);

/// Unstructured VTK XML (lines), one vector field of translations and one of rotations a mode.
std::string solutionVtu(const Solution&);

/// Matrix Market coordinate format, real symmetric, lower triangle (Boisvert, Pozo and Remington 1996).
std::string matrixMarket(const SparseSymmetric&, const std::string& comment);

/// Reads a real symmetric pair's half: coordinate format, "symmetric" (either triangle) or "general" if it is symmetric
/// to 1e-12 of its largest entry. A finding names file and line for anything else: no number, an index out of range, a
/// file cut short, another format.
Result<SparseSymmetric> readMatrixMarket(const std::string& path);

/// Modes of a bare pair, with their certificate.
std::string pairTable(const Extraction&);
std::string pairCsv(const Extraction&);
/// With the seconds by stage.
std::string pairJson(const Extraction&, const std::map<std::string, double>& timings);

/// K as the sum of what stands on it: less what was lent to the pivots of points that follow many (System::apart).
SparseSymmetric exportedStiffness(const System&);

/// The relations that are kept apart from K and M, as the columns of U: Matrix Market, real general, unknowns x
/// relations. A motion q fulfils U' q = 0.
std::string relationsMarket(const System&);

/// The mass M_fs between the free unknowns (rows) and the held ones (columns): Matrix Market, real general. The loads
/// of a moving base are M_ff r_f + M_fs r_s.
std::string heldMassMarket(const System&);

/// What each row of the exported matrices is: row, where, kind u or r, direction, coordinates, and its value in the six
/// unit motions of the base about the origin. Of the held unknowns, the columns of M_held.
std::string unknownsCsv(const std::vector<Unknown>&);

} // namespace undisona
