#include "app/work/mailbox.h"

#include <QCoreApplication>
#include <QEvent>

namespace veld {
namespace {

QEvent::Type letter_came() {
    static const auto type = static_cast<QEvent::Type>(QEvent::registerEventType());
    return type;
}

}  // namespace

void Mailbox::post(Letter letter) {
    {
        const std::lock_guard lock(mutex_);
        letters_.push_back(std::move(letter));
    }
    QCoreApplication::postEvent(this, new QEvent(letter_came()));
}

bool Mailbox::event(QEvent* event) {
    if (event->type() != letter_came()) return QObject::event(event);
    Letter letter;
    {
        const std::lock_guard lock(mutex_);
        if (letters_.empty()) return true;
        letter = std::move(letters_.front());
        letters_.pop_front();
    }
    letter();
    return true;
}

}  // namespace veld
