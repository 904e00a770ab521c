#include "app/window/start_page.h"

#include <QCoreApplication>
#include <QDir>
#include <QFileInfo>
#include <QPushButton>

#include "app/widgets.h"
#include "app/window/guide_window.h"

namespace veld {
namespace {

constexpr int kPictureWide = 214, kWaysWidth = 260;
constexpr std::size_t kShownRecent = 5;

}  // namespace

QString demo_folder() {
    QDir up(QCoreApplication::applicationDirPath());
    for (int level = 0; level < 4; ++level) {
        if (QFileInfo::exists(up.filePath("demo/kit/figure.json"))) return up.absoluteFilePath("demo");
        if (!up.cdUp()) break;
    }
    return {};
}

StartPage::StartPage(QWidget* parent) : QWidget(parent) {
    setObjectName("start_page");
    setAttribute(Qt::WA_StyledBackground);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(28, 24, 28, 24);
    column->setSpacing(20);
    column->addStretch(2);
    auto* title = text_label(tr("Scans, sculpts and photographs onto your base mesh"), "headline");
    column->addWidget(title);
    column->addWidget(build_pictures());
    column->addWidget(build_ways());
    column->addStretch(3);
}

QWidget* StartPage::build_pictures() {
    load_guide();
    const std::tuple<const char*, QString, QString> steps[] = {
        {"mark-doubts", tr("Mark"), tr("Landmarks are found; the unsure ones come first.")},
        {"fit-wire", tr("Fit"), tr("The base wraps onto the scan; figures say how close.")},
        {"bank", tr("Bank"), tr("Morph targets are mixed, checked and sent out.")}};
    auto* all = new QWidget;
    all->setSizePolicy(QSizePolicy::Preferred, QSizePolicy::Maximum);
    auto* across = new QHBoxLayout(all);
    across->setContentsMargins(0, 0, 0, 0);
    across->setSpacing(16);
    for (const auto& [file, name, what] : steps) {
        auto* one = new QVBoxLayout;
        const QPixmap picture(QString(":/guide/screenshots/%1.png").arg(file));
        auto* shown = new QLabel;
        if (!picture.isNull()) shown->setPixmap(picture.scaledToWidth(kPictureWide, Qt::SmoothTransformation));
        shown->setAccessibleName(name);
        one->addWidget(shown);
        one->addWidget(text_label(name, "section"));
        auto* words = text_label(what, "dim");
        words->setMaximumWidth(kPictureWide);
        one->addWidget(words);
        across->addLayout(one);
    }
    across->addStretch();
    return all;
}

QWidget* StartPage::build_ways() {
    auto* all = new QWidget;
    all->setSizePolicy(QSizePolicy::Preferred, QSizePolicy::Maximum);
    auto* across = new QHBoxLayout(all);
    across->setContentsMargins(0, 0, 0, 0);
    across->setSpacing(40);
    auto* ways = new QVBoxLayout;
    auto* demo = button(tr("Open the demo"), "start_demo", tr("A base figure and three made-up people"), true);
    demo->setVisible(!demo_folder().isEmpty());
    auto* fresh = button(tr("New from a base kit…"), "start_new", tr("A new project for your base mesh"));
    auto* make = button(tr("Make a kit from your mesh…"), "start_make_kit",
                        tr("Your base mesh becomes a kit: landmarks, parts, regions and joints are found"));
    auto* open = button(tr("Open a project…"), "start_open");
    connect(make, &QPushButton::clicked, this, &StartPage::make_kit_wanted);
    connect(demo, &QPushButton::clicked, this, &StartPage::demo_wanted);
    connect(fresh, &QPushButton::clicked, this, &StartPage::new_wanted);
    connect(open, &QPushButton::clicked, this, &StartPage::open_wanted);
    for (QPushButton* b : {demo, make, fresh, open}) {
        b->setFixedWidth(kWaysWidth);
        ways->addWidget(b);
    }
    ways->setSpacing(8);
    ways->addStretch(1);
    across->addLayout(ways);
    recent_ = new QVBoxLayout;
    across->addLayout(recent_);
    across->addStretch();
    return all;
}

void StartPage::set_recent(const QStringList& paths) {
    while (QLayoutItem* old = recent_->takeAt(0)) {
        if (old->widget()) old->widget()->hide(), old->widget()->deleteLater();  // it may be the one that was clicked
        delete old;
    }
    std::size_t shown = 0;
    for (const QString& path : paths) {
        if (!QFileInfo::exists(path) || ++shown > kShownRecent) continue;
        if (shown == 1) recent_->addWidget(text_label(tr("Recent"), "section"));
        auto* b = button(QFileInfo(path).completeBaseName(), "start_recent", QDir::toNativeSeparators(path));
        b->setProperty("role", "link");
        connect(b, &QPushButton::clicked, this, [this, path] { emit recent_wanted(path); });
        recent_->addWidget(b);
    }
    recent_->addStretch(1);
}

}  // namespace veld
