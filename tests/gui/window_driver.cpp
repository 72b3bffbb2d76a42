#include "tests/gui/window_driver.hpp"

#include "app/scene/gl_picture.hpp"

#include "app/scene/scene_view.hpp"

#include <QAbstractNativeEventFilter>
#include <QApplication>
#include <QElapsedTimer>
#include <QFile>
#include <QLineEdit>
#include <QMenu>
#include <QTemporaryDir>
#include <QTest>

#include <xcb/xcb.h>

// X11 last: it defines words such as None and Bool.
#include <X11/XKBlib.h>
#include <X11/Xlib.h>
#include <X11/extensions/XTest.h>
#include <X11/keysym.h>

namespace undisona {

namespace {

Display* display()
{
    static Display* opened = XOpenDisplay(nullptr);
    return opened;
}

void key(KeySym symbol, bool down)
{
    XTestFakeKeyEvent(display(), XKeysymToKeycode(display(), symbol), down ? True : False, CurrentTime);
    XSync(display(), False);
}

/// Sees a word come back that was sent through the X server: what was sent before it has then arrived.
class Echo : public QAbstractNativeEventFilter {
public:
    Echo() { qApp->installNativeEventFilter(this); }

    void send(WId window)
    {
        XEvent event{};
        event.xclient.type = ClientMessage;
        event.xclient.window = window;
        event.xclient.message_type = word_;
        event.xclient.format = 32;
        event.xclient.data.l[0] = ++sent_;
        XSendEvent(display(), window, False, NoEventMask, &event);
        XSync(display(), False);
    }
    bool back() const { return heard_ == sent_; }

    bool nativeEventFilter(const QByteArray&, void* message, qintptr*) override
    {
        const auto* event = static_cast<const xcb_generic_event_t*>(message);
        if ((event->response_type & 0x7f) != XCB_CLIENT_MESSAGE) return false;
        const auto* said = reinterpret_cast<const xcb_client_message_event_t*>(event);
        if (said->type != word_) return false;
        heard_ = said->data.data32[0];
        return true;
    }

private:
    Atom word_ = XInternAtom(display(), "UNDISONA_ECHO", False);
    std::uint32_t sent_ = 0, heard_ = 0;
};

/// Counts what changes how the window looks, apart from the moving shape.
class Changes : public QObject {
public:
    Changes() { qApp->installEventFilter(this); }
    ~Changes() override { qApp->removeEventFilter(this); }
    int count = 0;

    bool eventFilter(QObject* target, QEvent* event) override
    {
        switch (event->type()) {
        case QEvent::LayoutRequest:
        case QEvent::Show:
        case QEvent::Hide:
        case QEvent::Resize:
        case QEvent::WindowActivate:
            ++count;
            break;
        case QEvent::Paint:
            count += inScene(target) ? 0 : 1;
            break;
        default:
            break;
        }
        return false;
    }

private:
    static bool inScene(const QObject* target)
    {
        while (target && !qobject_cast<const SceneView*>(target))
            target = target->parent();
        return target != nullptr;
    }
};

void walk(QAccessibleInterface* node, std::vector<WindowDriver::Item>& items, int depth)
{
    if (!node || !node->isValid() || depth > 24 || node->state().invisible) return;
    const QString name = node->text(QAccessible::Name);
    QString value = node->text(QAccessible::Value);
    if (value.isEmpty()) value = node->text(QAccessible::Description);
    if (!name.isEmpty()) items.push_back({name, value, node->rect()});
    for (int at = 0, count = node->childCount(); at < count; ++at)
        walk(node->child(at), items, depth + 1);
}

} // namespace

WindowDriver::WindowDriver(QSize size)
{
    window_ = std::make_unique<MainWindow>();
    window_->move(0, 0);
    window_->resize(size);
    window_->show();
    EXPECT_TRUE(QTest::qWaitForWindowExposed(window_.get(), 10000));
    window_->activateWindow();
    calm();
}

void WindowDriver::crash()
{
    while (session().solving()) {
        session().stop();
        QTest::qWait(20);
    }
    window_.reset();
}

WindowDriver::~WindowDriver()
{
    if (!window_) return;
    while (session().isOpen() && session().solving()) {
        session().stop();
        QTest::qWait(20);
    }
    session().start({}, {}); // nothing unsaved, so that closing asks nothing
    window_->close();
    calm();
}

/// What a failure is understood by: the sentences, whether something is solved, what is in front.
std::string WindowDriver::shown()
{
    if (!window_ || !session().isOpen()) return " no document";
    std::string text = session().solving() ? " a run" : " no run";
    if (const QWidget* front = QApplication::activeModalWidget())
        text += ", in front " + front->objectName().toStdString();
    if (const QWidget* popup = QApplication::activePopupWidget())
        text += ", popped up " + popup->objectName().toStdString();
    if (const QWidget* focus = QApplication::focusWidget()) {
        text += ", keys go to " + focus->accessibleName().toStdString();
        if (const auto* line = qobject_cast<const QLineEdit*>(focus))
            text += " with \"" + line->text().toStdString() + "\"";
    }
    for (const auto& one : items())
        if (one.name.startsWith("sentence ")) text += "\n  " + one.value.toStdString();
    for (const auto& finding : session().findings())
        text += "\n  " + finding.what;
    return text;
}

bool WindowDriver::until(const std::function<bool()>& condition, const char* what, double seconds)
{
    QElapsedTimer clock;
    clock.start();
    while (!condition()) {
        if (clock.elapsed() > 1000 * seconds) {
            ADD_FAILURE() << "waited in vain for " << what << "; the window shows" << shown();
            return false;
        }
        QTest::qWait(15);
    }
    return true;
}

/// What a window manager does, and the bare X server of the tests does not: the front window has the keys, by the word
/// of the server too, which lets go of those that it sends to a window that is gone.
bool WindowDriver::frontHasTheKeys()
{
    if (QApplication::activePopupWidget()) return true;
    QWidget* front = QApplication::activeModalWidget() ? QApplication::activeModalWidget() : window_.get();
    if (!front->isVisible()) return true;
    Window focus = 0;
    int revertsTo = 0;
    XGetInputFocus(display(), &focus, &revertsTo);
    if (QApplication::activeWindow() == front && focus == front->winId()) return true;
    front->activateWindow();
    return false;
}

/// A dialog that went while nobody looked has left the keys to nothing.
void WindowDriver::listens()
{
    until([this] { return frontHasTheKeys(); }, "the front window to have the keys", 30.0);
}

void WindowDriver::calm()
{
    static Echo echo;
    Changes changes;
    echo.send(window_->winId());
    until([] { return echo.back(); }, "the input to arrive");
    // Painting goes on while something moves or is hovered: not for ever.
    for (int still = 0, rounds = 0; still < 2 && rounds < 20; ++rounds) {
        const int before = changes.count;
        QTest::qWait(5);
        still = changes.count == before && frontHasTheKeys() ? still + 1 : 0;
    }
    const auto pictures = window_->findChildren<GlPicture*>();
    until(
        [&] {
            return std::none_of(pictures.begin(), pictures.end(),
                                [](const GlPicture* one) { return one->isVisible() && one->drawsSoon(); });
        },
        "the scene to follow");
    QTest::qWait(1); // painted
    listens();
}

void WindowDriver::openExample(const char* name)
{
    ASSERT_TRUE(window_->openFile(QString(EXAMPLES) + "/" + name + ".undisona.json", true));
    solved();
}

void WindowDriver::openExample(const char* name, const std::vector<std::pair<QByteArray, QByteArray>>& instead)
{
    QFile example(QString(EXAMPLES) + "/" + name + ".undisona.json");
    ASSERT_TRUE(example.open(QIODevice::ReadOnly));
    QByteArray text = example.readAll();
    for (const auto& [said, other] : instead) {
        ASSERT_TRUE(text.contains(said)) << said.toStdString();
        text.replace(said, other);
    }
    const QTemporaryDir folder;
    QFile file(folder.filePath("example.undisona.json"));
    ASSERT_TRUE(file.open(QIODevice::WriteOnly));
    file.write(text);
    file.close();
    ASSERT_TRUE(window_->openFile(file.fileName(), true));
    solved();
}

void WindowDriver::solved()
{
    until([this] { return !session().solving() && session().live().solution && !session().live().stale; }, "the modes",
          120.0);
    calm();
}

void WindowDriver::moveTo(const QPoint& place)
{
    const QPoint real = place * window_->devicePixelRatioF();
    XTestFakeMotionEvent(display(), -1, real.x(), real.y(), CurrentTime);
    XSync(display(), False);
    calm();
}

void WindowDriver::click(const QPoint& place)
{
    moveTo(place);
    XTestFakeButtonEvent(display(), 1, True, CurrentTime);
    XSync(display(), False);
    calm();
    XTestFakeButtonEvent(display(), 1, False, CurrentTime);
    XSync(display(), False);
    calm();
}

void WindowDriver::click(const QString& name, const QString& value)
{
    const auto place = [&]() -> std::optional<QPoint> {
        for (const auto& item : items())
            if (item.name == name && (value.isEmpty() || item.value == value)) return item.bounds.center();
        return std::nullopt;
    };
    // What is found out in the background may lay things out anew while the pointer is on its way.
    auto at = place();
    for (int time = 0; at && time < 5; ++time) {
        moveTo(*at);
        const auto then = place();
        if (then == at) return click(*at);
        at = then;
    }
    ADD_FAILURE() << "nothing on the screen is called " << name.toStdString() << (at ? ", or it does not stay" : "");
}

void WindowDriver::drag(const QPoint& from, const QPoint& to)
{
    moveTo(from);
    XTestFakeButtonEvent(display(), 1, True, CurrentTime);
    XSync(display(), False);
    for (int step = 1; step <= 12; ++step)
        moveTo(from + (to - from) * step / 12);
    XTestFakeButtonEvent(display(), 1, False, CurrentTime);
    XSync(display(), False);
    calm();
}

void WindowDriver::wheel(const QPoint& place, int notches)
{
    moveTo(place);
    for (int at = 0; at < std::abs(notches); ++at) {
        XTestFakeButtonEvent(display(), notches > 0 ? 4 : 5, True, CurrentTime);
        XTestFakeButtonEvent(display(), notches > 0 ? 4 : 5, False, CurrentTime);
        XSync(display(), False);
        calm();
    }
}

void WindowDriver::press(const char* name, std::initializer_list<const char*> with)
{
    listens();
    for (const char* modifier : with)
        key(XStringToKeysym(modifier), true);
    const KeySym symbol = XStringToKeysym(name);
    EXPECT_NE(symbol, 0u) << name;
    key(symbol, true);
    key(symbol, false);
    for (const char* modifier : with)
        key(XStringToKeysym(modifier), false);
    calm();
}

void WindowDriver::type(const QString& text)
{
    listens();
    for (const QChar letter : text) {
        const KeySym symbol = letter == ' ' ? KeySym(XK_space) : KeySym(letter.unicode());
        const KeyCode code = XKeysymToKeycode(display(), symbol);
        const bool shifted = XkbKeycodeToKeysym(display(), code, 0, 0) != symbol;
        if (shifted) key(XK_Shift_L, true);
        XTestFakeKeyEvent(display(), code, True, CurrentTime);
        XTestFakeKeyEvent(display(), code, False, CurrentTime);
        XSync(display(), False);
        if (shifted) key(XK_Shift_L, false);
    }
    calm();
}

void WindowDriver::addSentence(const char* digit, const char* title)
{
    press(digit, {"Control_L"});
    until([] { return QApplication::activeModalWidget() != nullptr; }, "the chooser");
    type(title);
    press("Return");
}

std::vector<WindowDriver::Item> WindowDriver::items()
{
    std::vector<Item> found;
    QWidget* top = QApplication::activePopupWidget()   ? QApplication::activePopupWidget()
                   : QApplication::activeModalWidget() ? QApplication::activeModalWidget()
                                                       : window_.get();
    walk(QAccessible::queryAccessibleInterface(top), found, 0);
    return found;
}

std::optional<WindowDriver::Item> WindowDriver::item(const QString& name)
{
    for (const auto& one : items())
        if (one.name == name) return one;
    return std::nullopt;
}

QString WindowDriver::valueOf(const QString& name)
{
    const auto found = item(name);
    EXPECT_TRUE(found) << "nothing on the screen is called " << name.toStdString();
    return found ? found->value : QString();
}

} // namespace undisona
