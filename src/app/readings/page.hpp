#pragma once
#include "app/readings/page_label.hpp"
#include "app/readings/reading_table.hpp"
#include "app/session/session.hpp"
#include "app/session/theme.hpp"
#include "core/base/number_text.hpp"

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
        stale_ = new PageLabel({12, 6, 8, 2}, this);
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

/// A page of several parts, one of them seen at a time.
class PartedPage : public Page {
    Q_OBJECT
public:
    using Page::Page;
    void showPart(int part) { which_->setCurrentIndex(part); }

protected:
    /// A bar under which the parts stand, in their order; `name` is that of the bar for tests.
    void makeParts(const QString& name, const std::vector<std::pair<QString, QWidget*>>& parts)
    {
        which_ = new QTabBar(this);
        which_->setObjectName(name);
        which_->setAccessibleName(tr("Parts of the page"));
        which_->setDrawBase(false);
        which_->setExpanding(false);
        auto* column = static_cast<QBoxLayout*>(layout());
        column->addWidget(which_);
        for (const auto& [title, part] : parts) {
            if (!parts_.empty()) part->hide();
            parts_.push_back(part);
            column->addWidget(part, 1);
            which_->addTab(title);
        }
        connect(which_, &QTabBar::currentChanged, this, [this](int at) {
            for (std::size_t part = 0; part < parts_.size(); ++part)
                parts_[part]->setVisible(static_cast<int>(part) == at);
            fillPart(at);
        });
    }
    virtual void fillPart(int part) = 0; ///< one that comes into view
    int shownPart() const { return which_->currentIndex(); }
    /// Widgets below each other, the first of a stretch takes what is left.
    QWidget* stacked(const std::vector<std::pair<QWidget*, int>>& widgets)
    {
        auto* part = new QWidget(this);
        auto* inside = new QVBoxLayout(part);
        inside->setContentsMargins(0, 0, 0, 0);
        inside->setSpacing(0);
        for (const auto& [widget, stretch] : widgets)
            inside->addWidget(widget, stretch);
        return part;
    }

    QTabBar* which_ = nullptr;

private:
    std::vector<QWidget*> parts_;
};

/// Words with marks of their own, over several lines.
inline QLabel* richLabel(const char* name, QWidget* parent)
{
    auto* label = new PageLabel({12, 10, 8, 4}, parent);
    label->setTextFormat(Qt::RichText);
    label->setObjectName(name);
    label->setWordWrap(true);
    return label;
}

} // namespace undisona
