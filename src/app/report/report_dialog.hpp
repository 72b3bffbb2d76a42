#pragma once
#include "app/report/report_pictures.hpp"

#include <QDialog>

class QCheckBox;
class QLabel;
class QLineEdit;
class QPushButton;
class QTextBrowser;
class QTextDocument;

namespace undisona {

/// What is found, as pages that another engineer can check: which parts stand in them, seen before they are written.
class ReportDialog : public QDialog {
    Q_OBJECT
public:
    /// Of the shown stave; modes as the scene sees them.
    ReportDialog(Session&, const SceneCanvas& seen, QWidget* parent);
    void write(const QString& path);

private:
    void renew();
    void preview(const Report&);
    void askPath(const QString& ending);
    Session& session_;
    const QString stave_; ///< id
    std::vector<QCheckBox*> parts_;
    QLineEdit* modes_;
    QLabel* words_;
    QPushButton *html_, *pdf_;
    QTextBrowser* preview_;
    Report report_; ///< as it is seen
    std::unique_ptr<QTextDocument> pages_;
    std::unique_ptr<ReportPictures> pictures_;
    std::shared_ptr<const Solution> of_; ///< that is reported
    QTimer soon_;
};

} // namespace undisona
