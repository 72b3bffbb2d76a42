#pragma once
#include <QString>

namespace undisona {

/// What the program does in place of opening its window when it is called with --report.
struct ReportCommand {
    QString model, take, to;
    QString modes;   ///< that are pictured; empty: those worth it
    QString without; ///< parts, with commas
    QString side = "corner";
};

/// Solves the model and its takes and writes the report. Says what went wrong on standard error.
/// @return 0; 1 where the model or the report could not be made
int runReportCommand(const ReportCommand&);

} // namespace undisona
