#include "app/session/painted_items.hpp"
#include "app/session/plain_labels.hpp"
#include "app/session/theme.hpp"
#include "tests/gui/home_of_its_own.hpp"
#include "tests/gui/screen_of_its_own.hpp"

#include <QAccessible>
#include <QApplication>
#include <QStandardPaths>

#include <gtest/gtest.h>

int main(int argc, char** argv)
{
    testing::InitGoogleTest(&argc, argv);
    const undisona::HomeOfItsOwn home;
    if (testing::GTEST_FLAG(list_tests)) return RUN_ALL_TESTS();
    const undisona::ScreenOfItsOwn screen;
    QApplication app(argc, argv);
    QApplication::setApplicationName("undisona");
    undisona::installPaintedItems();
    undisona::installPlainLabels();
    QAccessible::setActive(true);
    undisona::Theme::set(false);
    return RUN_ALL_TESTS();
}
