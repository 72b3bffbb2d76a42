// Headers that nearly every file of the window reads.
#pragma once
#include "core/modal/precompiled.hpp"

#include <QAction>
#include <QColor>
#include <QFontMetricsF>
#include <QLabel>
#include <QPainter>
#include <QPainterPath>
#include <QString>
#include <QVBoxLayout>
#include <QWidget>
