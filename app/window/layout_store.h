#pragma once
// How somebody has laid out the window: kept for the machine, and for each project that was open meanwhile. What a
// project does not say, the machine says.
#include <QObject>
#include <QVariant>

namespace veld {

class LayoutStore : public QObject {
    Q_OBJECT
 public:
    using QObject::QObject;

    // The project's file; empty: it has none yet. Who keeps something here is told to take it up anew.
    void set_project(const QString& path);
    QVariant value(const QString& key, const QVariant& otherwise = {}) const;
    void set(const QString& key, const QVariant& value);

 signals:
    void changed();

 private:
    QString project_;  // where its own are kept; empty: nowhere
};

}  // namespace veld
