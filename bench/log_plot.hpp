#pragma once
#include <string>
#include <utility>
#include <vector>

/// A picture of lines over two logarithmic axes, as SVG.
struct LogPlot {
    std::string title, across, up; ///< what is measured along the axes
    struct Line {
        std::string name;
        std::vector<std::pair<double, double>> points; ///< both above 0
    };
    std::vector<Line> lines;
};

/// Plots beside each other, with one list of names under them. Lines of one name have one colour.
std::string svgOf(const std::vector<LogPlot>&);
