#pragma once
#include "core/base/progress.hpp"

#include <QString>

#include <functional>

namespace undisona {

/// Does work on another thread while the window lives on: at once where it is quick, else under a dialog that says what
/// is being done and can stop it. False where it was stopped. The work looks at the progress, as building a structure
/// does by itself (StopScope).
bool doneBeside(const QString& words, const std::function<void(const Progress&)>& work);

} // namespace undisona
