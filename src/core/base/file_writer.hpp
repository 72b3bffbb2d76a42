#pragma once
#include "core/base/finding.hpp"

#include <functional>
#include <string_view>

namespace undisona {

/// What a writer may do with what is there already.
struct WriteRules {
    std::vector<std::string> inputs{}; ///< files that the same run reads: none of them is written
    bool overProtection = false;       ///< also over a file that is marked as not to be written
};

/// The one way a file is written: whole, or not at all. What was there stays as it is until the new bytes lie flushed
/// beside it under a name that nobody can know before; then the new file takes its place, with the mode and the owner
/// of the old one. A link is followed to the file it leads to and stays a link. A device or a pipe is written into and
/// never replaced. A finding says why nothing was written.
std::optional<Finding> writeWholeFile(const std::string& path, std::string_view bytes, const WriteRules& = {});

/// The same of a file that other code writes by its name: `fill` is told the name of an empty one, and answers why it
/// could not. Into plain files alone.
std::optional<Finding> writeWholeFile(const std::string& path,
                                      const std::function<std::optional<Finding>(const std::string& beside)>& fill,
                                      const WriteRules& = {});

/// Whether both names lead to one file that is there.
bool sameFile(const std::string& path, const std::string& other);

/// Whether a file is there that its mode, or the system, protects from being written.
bool isWriteProtected(const std::string& path);

/// Flushes and closes standard output; a finding where it did not take everything, as on a full disk.
std::optional<Finding> closeStandardOutput();

} // namespace undisona
