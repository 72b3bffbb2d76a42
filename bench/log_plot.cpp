#include "bench/log_plot.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <map>

namespace {

constexpr double width = 430, height = 330, left = 62, right = 14, top = 34, bottom = 46, step = 18;
const char* const colours[] = {"#1b6ca8", "#c4572a", "#3f8f4f", "#8a4fa3", "#b8860b", "#5b6770", "#c2417c"};
const char* const dashes[] = {"", "7,3", "2,3", "9,3,2,3"};

struct Axis {
    double low = 1e300, high = -1e300; // powers of ten
    void take(double value)
    {
        low = std::min(low, std::log10(value));
        high = std::max(high, std::log10(value));
    }
    void round()
    {
        low = std::floor(low + 1e-9);
        high = std::max(std::ceil(high - 1e-9), low + 1.0);
    }
    double share(double value) const { return (std::log10(value) - low) / (high - low); }
};

std::string power(int exponent)
{
    return exponent >= 0 ? fmt::format("{:.0f}", std::pow(10.0, exponent))
                         : fmt::format("{:.{}f}", std::pow(10.0, exponent), -exponent);
}

} // namespace

std::string svgOf(const std::vector<LogPlot>& plots)
{
    std::map<std::string, std::size_t> names;
    std::vector<std::string> order;
    for (const auto& plot : plots)
        for (const auto& line : plot.lines)
            if (names.emplace(line.name, order.size()).second) order.push_back(line.name);
    const double under = step * std::ceil(double(order.size()) / 3.0) + 14;
    std::string svg = fmt::format("<svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"0 0 {0} {1}\" width=\"{0}\" "
                                  "height=\"{1}\" font-family=\"sans-serif\" font-size=\"12\" fill=\"#222\">\n<rect "
                                  "width=\"100%\" height=\"100%\" fill=\"#fff\"/>\n",
                                  width * double(plots.size()), height + under);
    const auto styleOf = [&](const std::string& name) {
        const std::size_t at = names.at(name);
        return fmt::format("stroke=\"{}\" stroke-dasharray=\"{}\" stroke-width=\"2\" fill=\"none\"", colours[at % 7],
                           dashes[at % 4]);
    };
    for (std::size_t which = 0; which < plots.size(); ++which) {
        const LogPlot& plot = plots[which];
        Axis x, y;
        for (const auto& line : plot.lines)
            for (const auto& [a, b] : line.points) {
                x.take(a);
                y.take(b);
            }
        x.round();
        y.round();
        const double w = width - left - right, h = height - top - bottom;
        const auto across = [&](double value) { return left + w * x.share(value); };
        const auto up = [&](double value) { return top + h * (1.0 - y.share(value)); };
        svg +=
            fmt::format("<g transform=\"translate({} 0)\">\n<text x=\"{}\" y=\"18\" font-weight=\"bold\">{}</text>\n",
                        width * double(which), left, plot.title);
        for (int exponent = int(x.low); exponent <= int(x.high); ++exponent) {
            const double at = across(std::pow(10.0, exponent));
            svg += fmt::format("<line x1=\"{0:.1f}\" x2=\"{0:.1f}\" y1=\"{1}\" y2=\"{2}\" stroke=\"#ddd\"/><text "
                               "x=\"{0:.1f}\" y=\"{3}\" text-anchor=\"middle\">{4}</text>\n",
                               at, top, top + h, top + h + 16, power(exponent));
        }
        for (int exponent = int(y.low); exponent <= int(y.high); ++exponent) {
            const double at = up(std::pow(10.0, exponent));
            svg += fmt::format("<line y1=\"{0:.1f}\" y2=\"{0:.1f}\" x1=\"{1}\" x2=\"{2}\" stroke=\"#ddd\"/><text "
                               "x=\"{3}\" y=\"{4:.1f}\" text-anchor=\"end\">{5}</text>\n",
                               at, left, left + w, left - 6, at + 4, power(exponent));
        }
        svg += fmt::format("<text x=\"{}\" y=\"{}\" text-anchor=\"middle\">{}</text>\n", left + w / 2, height - 10,
                           plot.across);
        svg += fmt::format("<text transform=\"translate(14 {}) rotate(-90)\" text-anchor=\"middle\">{}</text>\n",
                           top + h / 2, plot.up);
        for (const auto& line : plot.lines) {
            std::string points;
            for (const auto& [a, b] : line.points)
                points += fmt::format("{:.1f},{:.1f} ", across(a), up(b));
            svg += fmt::format("<polyline points=\"{}\" {}/>\n", points, styleOf(line.name));
            for (const auto& [a, b] : line.points)
                svg += fmt::format("<circle cx=\"{:.1f}\" cy=\"{:.1f}\" r=\"3\" fill=\"{}\"/>\n", across(a), up(b),
                                   colours[names.at(line.name) % 7]);
        }
        svg += "</g>\n";
    }
    for (std::size_t at = 0; at < order.size(); ++at) {
        const double x = left + double(at % 3) * 270.0, y = height + 12 + step * double(at / 3);
        svg += fmt::format("<line x1=\"{}\" x2=\"{}\" y1=\"{}\" y2=\"{}\" {}/><text x=\"{}\" y=\"{}\">{}</text>\n", x,
                           x + 34, y, y, styleOf(order[at]), x + 42, y + 4, order[at]);
    }
    return svg + "</svg>\n";
}
