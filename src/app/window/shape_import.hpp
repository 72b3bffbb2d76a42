#pragma once
#include "core/geometry/shape_file.hpp"

#include <QObject>
#include <QStringList>

#include <memory>
#include <thread>

namespace undisona {

/// Reads files of shapes beside the window, which stays alive; says when it is done, and deletes itself then. What was
/// read is kept, so that the next who asks for it waits no more.
class ShapeImport : public QObject {
    Q_OBJECT
public:
    ShapeImport(const QStringList& paths, QWidget* window);
    ~ShapeImport() override;
    bool stopped() const { return progress_->stopped(); }

signals:
    void done();

private:
    std::shared_ptr<Progress> progress_ = std::make_shared<Progress>();
    std::thread thread_;
};

} // namespace undisona
