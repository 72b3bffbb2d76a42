// The window: from the start of the process to the first drawn frame of the demo, frames a second of moving modes,
// and an edit among two hundred sentences. Needs a display; on software OpenGL the processor draws.
#include "app/ledger/ledger_view.hpp"
#include "core/surface/member_surface.hpp"
#include "app/scene/scene_view.hpp"
#include "app/session/painted_items.hpp"
#include "app/session/plain_labels.hpp"
#include "app/session/theme.hpp"
#include "app/window/main_window.hpp"
#include "tests/gui/dense_plate.hpp"
#include "tests/gui/home_of_its_own.hpp"

#include <QApplication>
#include <QElapsedTimer>
#include <QFile>

#include <fmt/format.h>

#include <unistd.h>

using namespace undisona;

namespace {

/// Seconds since this process began, to a hundredth.
double sinceStart()
{
    QFile stat("/proc/self/stat"), up("/proc/uptime");
    if (!stat.open(QIODevice::ReadOnly) || !up.open(QIODevice::ReadOnly)) return -1.0;
    const QByteArray text = stat.readAll();
    const auto fields = text.mid(text.lastIndexOf(')') + 2).split(' ');
    return up.readAll().split(' ')[0].toDouble() - fields[19].toDouble() / double(sysconf(_SC_CLK_TCK));
}

void waitFor(const std::function<bool()>& condition)
{
    while (!condition())
        QApplication::processEvents(QEventLoop::WaitForMoreEvents, 20);
}

void solveIt(MainWindow& window)
{
    window.session().solve();
    waitFor([&] { return !window.session().solving() && window.session().live().solution; });
}

void framesPerSecond(MainWindow& window, const char* what)
{
    auto& canvas = window.scene().canvas();
    const auto& solution = *window.session().live().solution;
    const int pieces = solution.mesh.elements.size() > 4000 ? 1 : solution.mesh.elements.size() > 1200 ? 2 : 4;
    const auto surface = memberSurface(*solution.structure, solution.mesh, true, pieces);
    window.session().showMode(0, static_cast<int>(std::min<std::size_t>(4, solution.modes.size())));
    int frames = 0;
    const auto counter = QObject::connect(&canvas, &SceneCanvas::shown, [&] { ++frames; });
    canvas.play(true);
    QElapsedTimer clock;
    clock.start();
    waitFor([&] { return clock.elapsed() > 1000; });
    frames = 0;
    clock.restart();
    waitFor([&] { return clock.elapsed() > 4000; });
    fmt::print("{:<44} {:6.1f} frames a second, {} triangles, {}x{} pixels\n", what,
               1e3 * frames / double(clock.elapsed()), surface.lines ? 0 : surface.cells.size() / 3, canvas.width(),
               canvas.height());
    canvas.play(false);
    QObject::disconnect(counter);
}

/// A plate of so many elements with a mode as it is in books, in motion: whole, and as it is drawn then.
void denseSheet(MainWindow& window, int elements)
{
    QElapsedTimer clock;
    clock.start();
    openDensePlate(window.session(), elements);
    auto& canvas = window.scene().canvas();
    int frames = 0;
    const auto counter = QObject::connect(&canvas, &SceneCanvas::shown, [&] { ++frames; });
    canvas.play(false);
    canvas.frameAll();
    canvas.draw();
    waitFor([&] { return frames > 0; });
    const double first = double(clock.elapsed());
    clock.restart();
    frames = 0;
    while (frames < 5) { // still ones, one after the other
        canvas.setPhase(0.1 * frames);
        const int before = frames;
        waitFor([&] { return frames > before; });
    }
    const double whole = double(frames) / double(clock.elapsed());
    const std::size_t triangles = canvas.trianglesDrawn();
    canvas.play(true);
    clock.restart();
    waitFor([&] { return clock.elapsed() > 1000; });
    frames = 0;
    clock.restart();
    waitFor([&] { return clock.elapsed() > 4000; });
    fmt::print("{:<44} {:6.1f} frames a second whole, {:.1f} in motion with {}; {:.1f} s to the first\n",
               fmt::format("a plate of {} triangles", triangles), 1e3 * whole, 1e3 * frames / double(clock.elapsed()),
               canvas.trianglesDrawn(), first / 1e3);
    canvas.play(false);
    QObject::disconnect(counter);
}

/// Whether a widget has been painted since.
struct PaintSeen : QObject {
    explicit PaintSeen(QWidget* of) : of_(of) { of->installEventFilter(this); }
    ~PaintSeen() override { of_->removeEventFilter(this); }
    bool eventFilter(QObject*, QEvent* event) override
    {
        painted = painted || event->type() == QEvent::Paint;
        return false;
    }
    bool painted = false;

private:
    QWidget* of_;
};

void manySentences(MainWindow& window)
{
    Model model = window.session().model();
    for (int at = 0; at < 200; ++at)
        model = model.inserted(
            newSentence(*kindNamed("mass"), "box" + std::to_string(at)).with("points", std::string("Mast.3.1")));
    window.session().changeModel("many", model);
    window.session().stop();
    constexpr int edits = 20;
    const auto& canvas = window.scene().canvas();
    double words = 0.0, all = 0.0;
    for (int at = 0; at < edits; ++at) {
        while (canvas.drawsSoon())
            QApplication::processEvents(QEventLoop::AllEvents, 5);
        QApplication::processEvents();
        PaintSeen seen(window.ledger().viewport());
        QElapsedTimer clock;
        clock.start();
        const auto said = window.session().model().sentence("box150");
        window.session().replaceSentence("edit", said->with("mass", quantityIn(1.0 + at, QuantityKind::mass, "kg")));
        window.session().stop();
        while (!seen.painted)
            QApplication::processEvents(QEventLoop::AllEvents, 5);
        words += double(clock.nsecsElapsed()) / 1e6;
        while (canvas.drawsSoon())
            QApplication::processEvents(QEventLoop::AllEvents, 5);
        QApplication::processEvents();
        all += double(clock.nsecsElapsed()) / 1e6;
    }
    fmt::print("{:<44} {:6.1f} ms (aim 50); with the scene {:.1f} ms\n", "an edit among 200 sentences, its words",
               words / edits, all / edits);
}

/// The ramp flap alone, and with three states beside it.
void states(MainWindow& window)
{
    auto document = readDocumentFile(std::string(EXAMPLES) + "/ramp-flap.undisona.json", WrongWords::kept);
    document->takes.clear();
    Session& session = window.session();
    session.start(*document, {});
    const auto secondsFor = [&](const Model& model) {
        session.stop();
        waitFor([&] { return !session.running(); });
        QElapsedTimer clock;
        clock.start();
        session.changeModel("states", model);
        session.solve();
        waitFor([&] {
            return !session.running() && std::all_of(session.staves().begin(), session.staves().end(),
                                                     [](const Stave& stave) { return stave.solution && !stave.stale; });
        });
        return double(clock.elapsed()) / 1000.0;
    };
    const double alone = secondsFor(session.model());
    const auto& solution = session.live().solution;
    const MovedPart carried(*solution, PointMass{0, 40.0});
    QElapsedTimer clock;
    clock.start();
    const int places = std::min(500, static_cast<int>(solution->mesh.nodes.size()));
    for (int node = 0; node < places; ++node)
        carried.at(node);
    fmt::print("{:<44} {:6.0f} places a second, of {} modes\n", "a mass carried over the ramp flap",
               1000.0 * places / double(std::max<qint64>(1, clock.elapsed())), solution->modes.size());
    Model model = session.model();
    int number = 0;
    for (const char* without : {"deck covering", "fender strip", "deck covering, fender strip"}) {
        const std::string name = "state" + std::to_string(++number);
        model = model.inserted(
            newSentence(*kindNamed("state"), name).with("name", name).with("without", std::string(without)));
    }
    const double all = secondsFor(model);
    fmt::print("{:<44} {:6.2f} times one alone, which takes {:.1f} s\n", "the ramp flap in four states", all / alone,
               alone);
}

} // namespace

int main(int argc, char** argv)
{
    const HomeOfItsOwn home;
    QApplication app(argc, argv);
    installPaintedItems();
    installPlainLabels();
    Theme::set(false);
    MainWindow window;
    bool drew = false;
    QObject::connect(&window.scene().canvas(), &SceneCanvas::shown, [&] { drew = true; });
    window.show();
    window.openFile(QString(EXAMPLES) + "/radar-mast.undisona.json", true);
    drew = false;
    waitFor([&] { return drew; });
    fmt::print("{:<44} {:6.0f} ms\n", "from process start to the demo's first frame", 1e3 * sinceStart());
    solveIt(window);
    fmt::print("{:<44} {:6.0f} ms\n", "and to its modes", 1e3 * sinceStart());
    framesPerSecond(window, "the mast in motion");
    manySentences(window);

    Sentence frame = newSentence(*kindNamed("frame"), "house").with("columns", std::string("tube 100x5 mm"));
    for (const char* key : {"bays-x", "bays-y", "storeys"})
        frame = frame.with(key, 9L);
    Document document;
    document.model = Model()
                         .inserted(frame)
                         .inserted(newSentence(*kindNamed("material"), "steel"))
                         .inserted(newSentence(*kindNamed("hold"), "feet").with("where", std::string("feet of Frame")))
                         .inserted(newSentence(*kindNamed("lowest"), "ask").with("count", 6L));
    window.session().start(document, {});
    solveIt(window);
    framesPerSecond(window, "a frame of true sections in motion");
    states(window);
    denseSheet(window, 25000);
    denseSheet(window, 250000);
    window.session().discardChanges();
    return 0;
}
