#pragma once
#include <QStyledItemDelegate>
#include <QTableWidget>

namespace undisona {

/// A table to read and copy: sorts by number where there are numbers, copies as tab-separated text, exports
/// as comma-separated text.
class ReadingTable : public QTableWidget {
    Q_OBJECT
public:
    explicit ReadingTable(QWidget* parent = nullptr);

    struct Cell {
        QString text;
        QVariant sortBy; ///< a number where the text is rounded; empty sorts by text
        QColor colour;   ///< invalid for ink
        bool bold = false;
        bool numeric = false; ///< aligned to the right
        QString tip;
    };
    static Cell number(double value, int digits, const QColor& colour = {}); ///< rounded to so many digits
    void setHeads(const QStringList& heads);
    /// The last columns, which are of the least use, are left out where there is no room; what they say of a row stands
    /// in its tooltip, and how many there are in the head of the last one that is seen.
    void foldLastColumns();
    /// A column whose words may be cut short, to so many pixels, before others are left out.
    void cutShort(int column, int least);
    /// Rows as high as their wrapped words need, with room for the frame of a chosen one.
    void fitRows();
    /// Replaces all rows; `keys` name the rows for selection.
    void setRows(const std::vector<std::vector<Cell>>& rows, const std::vector<int>& keys);
    void selectKey(int key);
    int keyOfRow(int row) const;
    QString asText(QChar separator) const;
    void copy() const;
    /// What stands above it on paper.
    void setPrinted(const QString& title, const QString& words = {});
    QString save(const QString& path) const; ///< as its ending says; what became of it, in words
    void print();

signals:
    void keyChosen(int key);
    void keyActivated(int key);
    void told(const QString& message);

protected:
    void keyPressEvent(QKeyEvent*) override;
    void resizeEvent(QResizeEvent*) override;
    void contextMenuEvent(QContextMenuEvent*) override;

private:
    void fold();
    bool filling_ = false, descending_ = false, folds_ = false;
    QStringList heads_;
    std::vector<int> natural_; ///< widths of the columns
    int cut_ = -1, cutTo_ = 0; ///< the column that may be cut short
    int sortedBy_ = -1;
    QString title_, words_;
};

} // namespace undisona
