#pragma once

namespace undisona {

double machineMegabytes();   ///< physical memory
double availableMegabytes(); ///< what a process can take now without others being put out
double peakMegabytes();      ///< the most that this process has held

} // namespace undisona
