// Headers that nearly every test of the window reads.
#pragma once
#include "app/precompiled.hpp"
#include "tests/gui/window_driver.hpp"
