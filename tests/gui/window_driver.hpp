#pragma once
#include "app/window/main_window.hpp"

#include <QAccessible>
#include <QRect>
#include <QString>

#include <gtest/gtest.h>

#include <functional>

namespace undisona {

/// Drives the real window as a person does: input goes through the X server (XTEST) to places on the screen,
/// and what is on the screen is read from the accessibility tree.
class WindowDriver {
public:
    explicit WindowDriver(QSize size = {1280, 800});
    ~WindowDriver();

    MainWindow& window() { return *window_; }
    Session& session() { return window_->session(); }

    /// Runs the event loop until the condition holds; fails the test after `seconds`.
    bool until(const std::function<bool()>& condition, const char* what, double seconds = 60.0);
    /// Runs the event loop until all input so far has arrived and has been answered: nothing waits to be laid out
    /// or painted, but the moving shape.
    void calm();
    /// The window is gone without having been asked anything, as after a crash.
    void crash();
    void openExample(const char* name);
    /// With other texts in its file for some, so that it solves sooner; each is there.
    void openExample(const char* name, const std::vector<std::pair<QByteArray, QByteArray>>& instead);
    void solved(); ///< waits until the live model has its modes

    // Input through the X server, at places on the screen.
    void click(const QPoint& place);
    void click(const QString& item, const QString& value = {}); ///< an accessible item by name
    void drag(const QPoint& from, const QPoint& to);
    void moveTo(const QPoint& place);
    void wheel(const QPoint& place, int notches);
    void press(const char* key, std::initializer_list<const char*> with = {});
    /// By its words, into the group with that digit.
    void addSentence(const char* digit, const char* title);
    void type(const QString& text);

    struct Item {
        QString name, value;
        QRect bounds; ///< on the screen
    };
    /// Every visible accessible item under the window or its open dialog.
    std::vector<Item> items();
    std::optional<Item> item(const QString& name);
    QString valueOf(const QString& name);

private:
    bool frontHasTheKeys();
    void listens();
    std::string shown();
    std::unique_ptr<MainWindow> window_;
};

} // namespace undisona
