#pragma once
// Entries of a box that follow what there is: they are replaced only when they are others, so that an open list stays.
#include <QComboBox>
#include <QVariant>

namespace veld {

struct BoxEntry {
    QString text;
    QVariant data = {};
    QIcon icon = {};
};

inline void fill_box(QComboBox* box, const QList<BoxEntry>& entries, int current) {
    bool same = box->count() == entries.size();
    for (int i = 0; same && i < box->count(); ++i)
        same = box->itemText(i) == entries[i].text && box->itemData(i) == entries[i].data &&
               entries[i].icon.isNull() && box->itemIcon(i).isNull();
    if (!same) {
        box->clear();
        for (const BoxEntry& e : entries) box->addItem(e.icon, e.text, e.data);
    }
    box->setCurrentIndex(current);
}

}  // namespace veld
