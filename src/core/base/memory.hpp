#pragma once
#include "core/base/finding.hpp"

namespace undisona {

double machineMegabytes();   ///< physical memory
double availableMegabytes(); ///< what this process can take now without others being put out, or passing its limit
double peakMegabytes();      ///< the most that this process has held, since that was forgotten
void forgetPeakMemory();     ///< counts it anew from what is held now, where the kernel lets one
double heldMegabytes();      ///< what it holds now

/// No more memory than this beside what this process has now: beyond it std::bad_alloc.
void limitMemory(double megabytes);

/// Hands back to the system what the program has freed, which it otherwise keeps for what comes next.
void giveBackFreed();

/// What is said where std::bad_alloc ends a run.
Finding memoryRanOut();

} // namespace undisona
