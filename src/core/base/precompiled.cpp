#include "core/base/precompiled.hpp"
