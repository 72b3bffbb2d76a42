#pragma once

namespace undisona {

/// The engine as a process of its own: reads messages (messages.hpp) from one file descriptor and writes its answers to
/// another, until the first ends, and with it the process. One run at a time; what runs leave behind serves the next.
/// No more memory than the limit is taken for runs, in megabytes; 0: what the machine gives.
int serveEngine(int in, int out, double memoryLimit);

} // namespace undisona
