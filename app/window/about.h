#pragma once
// What the program is, under which licence, and what of others ships with it or is used.
#include <QDialog>

namespace veld {

class About : public QDialog {
    Q_OBJECT
 public:
    explicit About(QWidget* parent);
};

}  // namespace veld
