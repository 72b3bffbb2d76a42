#pragma once
#include "core/io/report.hpp"

#include <memory>

class QTextDocument;

namespace undisona {

/// A report as pages of paper, A4.
std::unique_ptr<QTextDocument> pagesOf(const Report&, const std::map<std::string, std::string>& pictures);
std::string pdfOf(const Report&, const std::map<std::string, std::string>& pictures);

} // namespace undisona
