#pragma once
#include <QTemporaryDir>

namespace undisona {

/// Settings, data and cache in a folder that goes with the program, so that nothing of the person's plays a part.
/// Make one before the QApplication.
class HomeOfItsOwn {
public:
    HomeOfItsOwn()
    {
        for (const char* name : {"XDG_CONFIG_HOME", "XDG_DATA_HOME", "XDG_CACHE_HOME"})
            qputenv(name, folder_.path().toUtf8());
    }

private:
    QTemporaryDir folder_;
};

} // namespace undisona
