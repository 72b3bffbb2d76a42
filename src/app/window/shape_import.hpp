#pragma once
#include "core/geometry/shape_file.hpp"

#include <QObject>
#include <QString>

#include <memory>
#include <thread>

namespace undisona {

/// Reads a file of shapes beside the window, which stays usable; says when it is done, and deletes itself then.
class ShapeImport : public QObject {
    Q_OBJECT
public:
    ShapeImport(const QString& path, QWidget* window);
    ~ShapeImport() override;

signals:
    void done(std::shared_ptr<const undisona::ShapeFile> file, const QString& path);

private:
    std::shared_ptr<Progress> progress_ = std::make_shared<Progress>();
    std::thread thread_;
};

} // namespace undisona
