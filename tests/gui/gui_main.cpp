#include "app/scene/scene_canvas.hpp"
#include "app/session/painted_items.hpp"
#include "app/session/theme.hpp"

#include <QAccessible>
#include <QApplication>
#include <QStandardPaths>
#include <QTemporaryDir>

#include <gtest/gtest.h>

int main(int argc, char** argv)
{
    testing::InitGoogleTest(&argc, argv);
    // A home of its own, so that no setting of the person's plays a part.
    QTemporaryDir home;
    for (const char* name : {"XDG_CONFIG_HOME", "XDG_DATA_HOME", "XDG_CACHE_HOME"})
        qputenv(name, home.path().toUtf8());
    if (testing::GTEST_FLAG(list_tests)) return RUN_ALL_TESTS();
    undisona::useSceneSurface();
    QApplication app(argc, argv);
    QApplication::setApplicationName("undisona");
    undisona::installPaintedItems();
    QAccessible::setActive(true);
    undisona::Theme::set(false);
    return RUN_ALL_TESTS();
}
