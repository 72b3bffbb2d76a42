#include "core/modal/precompiled.hpp"
