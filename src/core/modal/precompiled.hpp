// Headers that nearly every file reads from here up.
#pragma once
#include "core/base/precompiled.hpp"

#include "core/modal/solve.hpp"
#include "core/model/document_io.hpp"
