#include "app/accessible.h"

#include <QAbstractButton>
#include <QAbstractItemView>
#include <QAbstractSpinBox>
#include <QComboBox>
#include <QGridLayout>
#include <QLabel>
#include <QLineEdit>
#include <QSlider>

namespace veld {
namespace {

bool wants_name(const QWidget* w) {
    if (const auto* b = qobject_cast<const QAbstractButton*>(w)) return b->text().isEmpty();
    return qobject_cast<const QComboBox*>(w) || qobject_cast<const QAbstractSpinBox*>(w) ||
           qobject_cast<const QSlider*>(w) || qobject_cast<const QAbstractItemView*>(w) ||
           qobject_cast<const QLineEdit*>(w);
}

// "Vertical field of view; the subject keeps its size (Ctrl+wheel)" -> "Vertical field of view"
QString first_words(const QString& tip) {
    return tip.section(';', 0, 0).section('(', 0, 0).section('.', 0, 0).trimmed();
}

QString label_before(const QWidget* w) {
    const QLayout* layout = w->parentWidget() ? w->parentWidget()->layout() : nullptr;
    QString last;
    const auto look = [&](const auto& self, const QLayout* in) -> bool {
        for (int i = 0; in && i < in->count(); ++i) {
            if (self(self, in->itemAt(i)->layout())) return true;
            QWidget* one = in->itemAt(i)->widget();
            if (one == w) return true;
            if (const auto* label = qobject_cast<const QLabel*>(one)) last = label->text();
        }
        return false;
    };
    return look(look, layout) && !last.startsWith('<') ? last : QString();
}

}  // namespace

void name_controls(QWidget* root) {
    for (QWidget* w : root->findChildren<QWidget*>()) {
        if (!w->accessibleName().isEmpty() || !wants_name(w) || w->objectName().startsWith("qt_")) continue;
        QString name = first_words(w->toolTip());
        if (const auto* line = qobject_cast<const QLineEdit*>(w); line && name.isEmpty())
            name = line->placeholderText();
        if (name.isEmpty()) name = label_before(w);
        w->setAccessibleName(name);
    }
}

}  // namespace veld
