#pragma once
// Languages of the window. What core says (errors, names of landmarks and regions) is English in all of them.
#include <QString>
#include <vector>

class QApplication;

namespace veld {

struct Language {
    QString code;  // ISO 639: "de"
    QString name;  // in itself
};
// English, and those whose file (veldstone_CODE.qm) lies beside the program.
std::vector<Language> languages();

// What is made from now on speaks it, numbers included; empty: the machine's language where there is a file for it.
void speak(QApplication& app, const QString& code);

}  // namespace veld
