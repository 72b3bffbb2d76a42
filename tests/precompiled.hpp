// Headers that nearly every test of the core reads.
#pragma once
#include "core/modal/precompiled.hpp"
#include "tests/said_model.hpp"

#include <gmock/gmock.h>
