#pragma once
#include "core/pencil/certificate.hpp"

#include <nlohmann/json_fwd.hpp>

namespace undisona {

/// The words, then the figures line by line, for a terminal.
std::string certificateText(const Certificate&);

nlohmann::ordered_json certificateJson(const Certificate&, const RunRecord&);

} // namespace undisona
