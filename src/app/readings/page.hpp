#pragma once
#include "app/readings/reading_table.hpp"
#include "app/session/session.hpp"
#include "app/session/theme.hpp"
#include "core/base/number_text.hpp"

#include <QLabel>
#include <QTabBar>
#include <QVBoxLayout>

namespace undisona {

/// A page of the Readings: fills itself from the session when it is seen.
class Page : public QWidget {
    Q_OBJECT
public:
    Page(Session& session, QWidget* parent) : QWidget(parent), session_(session)
    {
        auto* layout = new QVBoxLayout(this);
        layout->setContentsMargins(0, 0, 0, 0);
        layout->setSpacing(0);
        setAutoFillBackground(true);
        setBackgroundRole(QPalette::Base);
        stale_ = new QLabel(this);
        stale_->setContentsMargins(12, 6, 8, 2);
        stale_->setObjectName("staleLabel");
        layout->addWidget(stale_);
        for (const auto signal : {&Session::stavesChanged, &Session::derivedChanged})
            connect(&session_, signal, this, &Page::renew);
        connect(&session_, &Session::selectionChanged, this, &Page::follow);
    }
    /// Fills the page if it is seen; else when it comes into view.
    void renew()
    {
        filledFor_ = nullptr;
        dirty_ = true;
        follow();
    }

signals:
    void sentenceWanted(const std::string& id);

protected:
    virtual void fill() = 0;
    virtual void select() {}
    void showEvent(QShowEvent*) override { follow(); }
    void follow()
    {
        if (!isVisible()) {
            dirty_ = true;
            return;
        }
        if (dirty_ || filledFor_ != &session_.shown() || filledSolution_ != session_.shown().solution) {
            dirty_ = false;
            filledFor_ = &session_.shown();
            filledSolution_ = session_.shown().solution;
            stale_->setStyleSheet(QString("color: %1").arg(Theme::now().amber.name()));
            stale_->setText(session_.shown().stale ? tr("▲ before your last change") : QString());
            stale_->setVisible(session_.shown().stale);
            fill();
        }
        select();
    }
    const Solution* solution() const { return session_.shown().solution.get(); }
    ReadingTable::Cell number(double value, int digits = 4, const QColor& colour = {}) const
    {
        return ReadingTable::number(value, digits, colour);
    }
    ReadingTable::Cell percent(double share, const QColor& colour) const
    {
        if (share < 0.005) return {"·", share, Theme::now().quiet, false, true, {}};
        return {QString::number(100.0 * share, 'f', 0), share, colour, share >= 0.1, true, {}};
    }
    /// Whether bodies of bricks can be why modes have no estimate of their mesh error; otherwise a stop is.
    static bool hasBricks(const Solution& of)
    {
        return std::any_of(of.mesh.solids.begin(), of.mesh.solids.end(),
                           [](const MeshSolid& piece) { return piece.kind != SolidKind::tetrahedron10; });
    }
    QColor faintIf(bool faint) const { return faint ? Theme::now().quiet : QColor(); }

    Session& session_;
    QLabel* stale_;

private:
    bool dirty_ = true;
    const Stave* filledFor_ = nullptr;
    std::shared_ptr<const Solution> filledSolution_;
};

class ModesPage : public Page {
    Q_OBJECT
public:
    ModesPage(Session&, QWidget* parent);
    ReadingTable& table() { return *table_; }

private:
    void fill() override;
    void select() override;
    ReadingTable* table_;
    QLabel* proof_;
};

class Plot;

class MassPage : public Page {
    Q_OBJECT
public:
    MassPage(Session&, QWidget* parent);

private:
    void fill() override;
    void fillSoFar();
    void select() override;
    QLabel *words_, *remark_;
    Plot* plot_;
    ReadingTable* table_;
};

class ClashesPage : public Page {
    Q_OBJECT
public:
    ClashesPage(Session&, QWidget* parent);

private:
    void fill() override;
    void select() override;
    void explain();
    void fillSpeedPlot();
    ReadingTable* table_;
    QLabel *head_, *why_;
    Plot* plot_;
};

class EnergyPage : public Page {
    Q_OBJECT
public:
    EnergyPage(Session&, QWidget* parent);

signals:
    void paintWanted();

private:
    void fill() override {}
    void select() override;
    QLabel* words_;
    ReadingTable* table_;
    std::vector<EnergyRow> rows_;
};

class ComparePage : public Page {
    Q_OBJECT
public:
    ComparePage(Session&, QWidget* parent);

private:
    void fill() override;
    void fillIntervals();
    void select() override;
    QLabel* words_;
    ReadingTable* table_;
};

class SettlingView;

/// How sheet and solids are meshed: sizes, the histogram of shapes, the worst elements; and how the frequencies settle
/// on other meshes.
class MeshPage : public Page {
    Q_OBJECT
public:
    MeshPage(Session&, QWidget* parent);
    void showSettling() { which_->setCurrentIndex(1); }

private:
    void fill() override;
    void select() override;
    QLabel* words_;
    QTabBar* which_;
    QWidget* elements_;
    SettlingView* settling_;
    Plot* plot_;
    ReadingTable* table_;
};

class ChecksPage : public Page {
    Q_OBJECT
public:
    ChecksPage(Session&, QWidget* parent);

private:
    void fill() override;
    void offer(const Finding*); ///< buttons for what would mend it; for none, the first finding that can be mended
    ReadingTable* table_;
    QWidget* cures_;
    std::vector<Cure> offered_;
    QLabel* figures_ = nullptr;
    QLabel* words_;
    Findings shownFindings_;
};

} // namespace undisona
