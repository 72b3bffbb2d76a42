#pragma once
#include "app/readings/reading_table.hpp"

class QTextDocument;

namespace undisona {

/// A table with words above it as pages of paper.
std::unique_ptr<QTextDocument> pagesOf(const QString& title, const QString& words, const ReadingTable&);

/// The same as the bytes of a PDF file, A4.
std::string pdfOf(const QString& title, const QString& words, const ReadingTable&);

/// Asks for a printer, and prints it there.
void printTable(QWidget* parent, const QString& title, const QString& words, const ReadingTable&);

} // namespace undisona
