#include "app/readings/readings_view.hpp"
#include "tests/gui/window_driver.hpp"

#include <QApplication>
#include <QLabel>
#include <QPushButton>
#include <QTabBar>

using namespace undisona;

namespace {

struct Text {
    QString words;
    QRect bounds;
};

/// Visible texts: labels and buttons, words of sentences, numbers of tabs.
std::vector<Text> visibleTexts(WindowDriver& driver)
{
    std::vector<Text> texts;
    auto& window = driver.window();
    const auto add = [&](const QWidget* widget, const QString& words) {
        if (!widget->isVisible() || words.isEmpty() || widget->visibleRegion().isEmpty()) return;
        texts.push_back({words, QRect(widget->mapToGlobal(widget->visibleRegion().boundingRect().topLeft()),
                                      widget->visibleRegion().boundingRect().size())});
    };
    for (const auto* label : window.findChildren<QLabel*>())
        add(label, label->text());
    for (const auto* button : window.findChildren<QPushButton*>())
        add(button, button->text());
    for (const auto& item : driver.items())
        if (item.name.startsWith("word ") || item.name.startsWith("group ")) texts.push_back({item.value, item.bounds});
    return texts;
}

void expectNoOverlap(WindowDriver& driver, const char* where)
{
    const auto texts = visibleTexts(driver);
    EXPECT_GT(texts.size(), 25u);
    for (std::size_t a = 0; a < texts.size(); ++a)
        for (std::size_t b = a + 1; b < texts.size(); ++b) {
            const QRect common = texts[a].bounds.intersected(texts[b].bounds);
            EXPECT_FALSE(common.width() > 1 && common.height() > 3)
                << where << ": \"" << texts[a].words.toStdString() << "\" and \"" << texts[b].words.toStdString()
                << "\" overlap";
        }
}

} // namespace

TEST(Layout, NoTwoTextsOverlapAtAnyRoom)
{
    for (const QSize pixels : {QSize(1280, 800), QSize(1900, 1060)}) {
        WindowDriver driver(pixels / qApp->devicePixelRatio());
        driver.openExample("radar-mast");
        for (const char* page : {"modes", "mass", "clashes", "energy", "compare", "checks"}) {
            driver.window().readings().showPage(page);
            driver.calm();
            expectNoOverlap(driver, page);
        }
    }
}
