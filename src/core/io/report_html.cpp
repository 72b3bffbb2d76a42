#include "core/io/base64.hpp"
#include "core/io/report.hpp"

#include <fmt/format.h>

namespace undisona {

namespace {

constexpr const char* style = R"(<style>
body { font: 15px/1.45 system-ui, "DejaVu Sans", sans-serif; color: #20262B; background: #FBFAF8; max-width: 60rem; margin: 2rem auto; padding: 0 1rem; }
h1 { font-size: 1.7rem; margin: 0; } h2 { font-size: 1.2rem; margin: 2.2rem 0 .6rem; border-bottom: 1px solid #DCDAD4; padding-bottom: .2rem; }
.sub, figcaption, .under { color: #6C747A; } .under { margin: .9rem 0 .2rem; }
ul { margin: .2rem 0 .8rem; padding-left: 1.2rem; }
table { border-collapse: collapse; width: 100%; margin: .4rem 0 .8rem; font-size: .88rem; font-variant-numeric: tabular-nums; }
th { text-align: left; color: #6C747A; font-weight: 600; border-bottom: 1px solid #6C747A; }
th, td { padding: .2rem .5rem; vertical-align: top; } td { border-bottom: 1px solid #EAE8E3; } .r { text-align: right; white-space: nowrap; }
.pairs { display: grid; grid-template-columns: 1fr 1fr; gap: 0 1rem; }
figure { margin: 1rem 0; break-inside: avoid; } img { max-width: 100%; border: 1px solid #DCDAD4; }
tr { break-inside: avoid; } @media print { body { background: white; margin: 0; max-width: none; font-size: 11px; } }
</style>)";

class HtmlWriter {
public:
    HtmlWriter(const std::map<std::string, std::string>& pictures, bool onPaper) : pictures_(pictures), paper_(onPaper)
    {
    }

    std::string write(const Report& report)
    {
        out_ = "<!DOCTYPE html>\n<html lang=\"en\"><head><meta charset=\"utf-8\"><title>" + inHtml(report.title) +
               "</title>\n" + (paper_ ? "" : style) + "</head><body>\n<h1>" + inHtml(report.title) +
               "</h1>\n<p class=\"sub\">" + inHtml(report.subtitle) + "</p>\n";
        for (std::size_t at = 0; at < report.blocks.size();) {
            std::size_t end = at; // pictures in a row stand side by side
            while (end < report.blocks.size() && report.blocks[end].kind == ReportBlock::Kind::picture)
                ++end;
            if (end - at > 1)
                addPairs(report.blocks.begin() + static_cast<long>(at), report.blocks.begin() + static_cast<long>(end));
            else
                add(report.blocks[at]);
            at = std::max(end, at + 1);
        }
        return out_ + "</body></html>\n";
    }

private:
    void add(const ReportBlock& block)
    {
        using Kind = ReportBlock::Kind;
        switch (block.kind) {
        case Kind::heading:
            out_ += "<h2>" + inHtml(block.text) + "</h2>\n";
            break;
        case Kind::text:
            out_ += "<p>" + inHtml(block.text) + "</p>\n";
            break;
        case Kind::lines:
            if (!block.text.empty())
                out_ += paper_ ? "<p><b>" + inHtml(block.text) + "</b></p>\n"
                               : "<p class=\"under\">" + inHtml(block.text) + "</p>\n";
            out_ += "<ul>\n";
            for (const auto& line : block.lines)
                out_ += "<li>" + inHtml(line) + "</li>\n";
            out_ += "</ul>\n";
            break;
        case Kind::table:
            addTable(block);
            break;
        case Kind::picture:
            addPicture(block, 590);
        }
    }

    using Blocks = std::vector<ReportBlock>::const_iterator;
    void addPairs(Blocks first, const Blocks& last)
    {
        out_ += paper_ ? "<table width=\"100%\" cellpadding=\"4\">\n" : "<div class=\"pairs\">\n";
        for (int column = 0; first != last; ++first, column = 1 - column) {
            if (paper_) out_ += column == 0 ? "<tr><td width=\"50%\">" : "<td width=\"50%\">";
            addPicture(*first, 290);
            if (paper_) out_ += column == 1 || first + 1 == last ? "</td></tr>\n" : "</td>";
        }
        out_ += paper_ ? "</table>\n" : "</div>\n";
    }

    void addTable(const ReportBlock& block)
    {
        out_ += paper_ ? "<table width=\"100%\" border=\"1\" cellspacing=\"0\" cellpadding=\"3\" "
                         "style=\"border-collapse: collapse; border-color: #888888\"><thead><tr>"
                       : "<table><thead><tr>";
        const auto right = [&](std::size_t column) {
            return column < block.heads.size() && block.heads[column].starts_with(">")
                       ? paper_ ? " align=\"right\"" : " class=\"r\""
                   : paper_ ? " align=\"left\""
                            : "";
        };
        for (std::size_t column = 0; column < block.heads.size(); ++column) {
            const std::string& head = block.heads[column];
            out_ += fmt::format("<th{}>{}</th>", right(column), inHtml(head.starts_with(">") ? head.substr(1) : head));
        }
        out_ += "</tr></thead><tbody>\n";
        for (const auto& row : block.rows) {
            out_ += "<tr>";
            for (std::size_t column = 0; column < row.size(); ++column)
                out_ += fmt::format("<td{}>{}</td>", right(column), inHtml(row[column]));
            out_ += "</tr>\n";
        }
        out_ += "</tbody></table>\n";
    }

    void addPicture(const ReportBlock& block, int width)
    {
        const auto found = pictures_.find(block.picture);
        if (found == pictures_.end()) {
            out_ += "<p>" + inHtml(block.text) + "</p>\n";
            return;
        }
        // On paper the page's own pictures by their names.
        if (paper_)
            out_ += fmt::format("<p><img src=\"{}\" width=\"{}\"></p>\n<p>{}</p>\n", inHtml(block.picture), width,
                                inHtml(block.text));
        else
            out_ +=
                fmt::format("<figure><img alt=\"{0}\" src=\"data:image/png;base64,{1}\"><figcaption>{0}</figcaption>"
                            "</figure>\n",
                            inHtml(block.text), base64(found->second));
    }

    const std::map<std::string, std::string>& pictures_;
    bool paper_;
    std::string out_;
};

} // namespace

std::string reportHtml(const Report& report, const std::map<std::string, std::string>& pictures, bool onPaper)
{
    return HtmlWriter(pictures, onPaper).write(report);
}

} // namespace undisona
