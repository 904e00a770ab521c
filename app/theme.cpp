#include "app/theme.h"

#include <QApplication>
#include <QFile>
#include <QFont>
#include <QFontDatabase>
#include <QIconEngine>
#include <QPainter>
#include <QPalette>
#include <QPixmapCache>
#include <QStyleFactory>
#include <QSurfaceFormat>
#include <QSvgRenderer>
#include <algorithm>

#include "app/colour_maps.h"

namespace veld::theme {
namespace {

constexpr double kTextPoints = 9.75;

const char* kStyleSheet = R"(
QWidget { color: #ece5d8; background: #302c28; selection-background-color: #6b5326; selection-color: #f6f0e4; }
QMainWindow, QSplitter { background: #26231f; }
QSplitter::handle { background: #26231f; }
QLabel, QCheckBox, QRadioButton { background: transparent; }
QLabel[role="title"] { font-size: 11.25pt; font-weight: 600; color: #f3ecdf; }
QLabel[role="headline"] { font-size: 16.5pt; font-weight: 600; color: #f3ecdf; }
#start_page, #start_page > QWidget { background: #26231f; }
QPushButton[role="link"] { background: transparent; border: none; color: #e3c58c; text-align: left; padding: 3px 0; }
QPushButton[role="link"]:hover { color: #f3ecdf; }
QLabel[role="section"] { font-weight: 600; color: #cfc4b3; padding-top: 6px; }
QLabel[role="dim"] { color: #aba193; }
QLabel[role="warning"] { color: #f0c987; }
QToolButton[role="mode"] { background: #3b3631; border: 1px solid #4b453e; border-radius: 3px; padding: 4px 4px; }
QToolButton[role="mode"]:hover { border-color: #7d7264; }
QToolButton[role="mode"]:checked { background: #5a4a2c; border-color: #d09a3c; color: #f3ecdf; }
QTabWidget::pane { border: none; border-top: 1px solid #4b453e; }
QTabBar { background: transparent; }
QTabBar::tab { background: transparent; color: #b9af9f; padding: 5px 10px; border: none; border-bottom: 2px solid transparent; }
QTabBar::tab:selected { color: #f3ecdf; border-bottom: 2px solid #d09a3c; }
QTabBar::tab:hover { color: #f3ecdf; }
QLabel[role="ask"] { background: #3b3631; border-left: 3px solid #d09a3c; padding: 7px 8px; }
QPushButton { background: #3f3a34; border: 1px solid #544d45; border-radius: 3px; padding: 5px 7px; }
QPushButton:hover { background: #4a443d; }
QPushButton:pressed { background: #322e29; }
QPushButton:disabled { color: #7d756a; background: #35312c; border-color: #433d37; }
QPushButton[role="primary"] { background: #d09a3c; color: #221c10; border-color: #d09a3c; font-weight: 600; }
QPushButton[role="primary"]:hover { background: #dcaa51; }
QPushButton[role="primary"]:disabled { background: #5c5140; color: #a2937a; border-color: #5c5140; }
QPushButton:focus, QLineEdit:focus, QDoubleSpinBox:focus, QComboBox:focus, QSlider:focus, QTreeWidget:focus, QListWidget:focus { border: 1px solid #d09a3c; }
QToolButton { background: transparent; border: 1px solid transparent; border-radius: 3px; padding: 4px; }
QToolButton:hover { background: #3f3a34; }
QToolButton:checked { background: #46402f; border-color: #7a6233; }
#rail, #tools, #tools > QWidget { background: #26231f; }
QToolButton[role="station"] { padding: 5px 0 3px 0; border-radius: 0; border: none; border-left: 3px solid transparent; border-right: 3px solid transparent; color: #b9af9f; }
QToolButton[role="station"]:hover { color: #f3ecdf; background: #302c28; }
QToolButton[role="station"]:checked { color: #f3ecdf; border-left: 3px solid #d09a3c; background: #35312c; }
QToolButton[role="section"] { text-align: left; font-weight: 600; padding: 5px 4px; border: none; border-radius: 0; background: #383430; color: #cfc4b3; }
QToolButton[role="section"]:hover { color: #f3ecdf; background: #403b36; }
QToolButton[role="section"]:checked { color: #f3ecdf; background: #383430; border-left: 3px solid #d09a3c; }
QToolButton[role="header"] { padding: 1px; border: none; }
QToolButton[role="header"]:hover { background: rgba(236, 229, 216, 40); }
QToolButton[role="header"]::menu-indicator { image: none; }
QToolButton[role="next"] { text-align: left; border: none; border-top: 1px solid #4b453e; border-radius: 0; padding: 7px 12px; color: #e3c58c; background: #302c28; }
QToolButton[role="next"]:hover { background: #3b3631; color: #f3ecdf; }
QToolButton[role="small"] { padding: 0; }
QStatusBar { background: #26231f; } QStatusBar::item { border: none; } QStatusBar QLabel { font-size: 9pt; }
QToolButton::menu-indicator { image: none; }
QToolButton:focus { border: 1px solid #d09a3c; }
QLineEdit, QDoubleSpinBox, QSpinBox, QComboBox { background: #26231f; border: 1px solid #4b453e; border-radius: 3px; padding: 3px 6px; min-height: 20px; }
QLineEdit:disabled, QDoubleSpinBox:disabled, QSpinBox:disabled, QComboBox:disabled, QCheckBox:disabled { color: #7d756a; }
QAbstractSpinBox { padding-right: 16px; }
QAbstractSpinBox::up-button { subcontrol-origin: border; subcontrol-position: top right; width: 15px; border: none; image: url(:/icons/up.svg); }
QAbstractSpinBox::down-button { subcontrol-origin: border; subcontrol-position: bottom right; width: 15px; border: none; image: url(:/icons/down.svg); }
QComboBox::drop-down { border: none; width: 18px; } QComboBox::down-arrow { image: url(:/icons/down.svg); width: 11px; height: 11px; }
QComboBox QAbstractItemView { background: #26231f; border: 1px solid #4b453e; }
QTreeWidget, QListWidget, QTableWidget { background: #2a2723; border: 1px solid #3d3832; alternate-background-color: #2e2a26; outline: none; }
QTreeWidget::item, QListWidget::item { padding: 2px 2px; }
QTreeWidget::item:selected, QListWidget::item:selected, QTableWidget::item:selected { background: #54452a; color: #f6f0e4; }
QHeaderView::section { background: #302c28; color: #aba193; border: none; border-bottom: 1px solid #4b453e; padding: 3px 6px; }
QProgressBar { background: #26231f; border: 1px solid #4b453e; border-radius: 3px; text-align: center; min-height: 18px; }
QProgressBar::chunk { background: #8a6a2e; }
QSlider::groove:horizontal { height: 4px; background: #26231f; border-radius: 2px; }
QSlider::sub-page:horizontal { background: #8a6a2e; border-radius: 2px; }
QSlider::handle:horizontal { background: #ece5d8; width: 9px; margin: -6px 0; border-radius: 2px; }
QSlider::handle:horizontal:disabled { background: #7d756a; }
QMenuBar { background: #26231f; } QMenuBar::item { padding: 7px 9px; background: transparent; } QMenuBar::item:selected { background: #3f3a34; }
QMenu { background: #35312c; border: 1px solid #4b453e; } QMenu::item { padding: 5px 24px; } QMenu::item:selected { background: #54452a; }
QMenu::item:disabled { color: #7d756a; }
QMenu::separator { height: 1px; background: #4b453e; margin: 4px 8px; }
QToolTip { background: #ece5d8; color: #26231f; border: none; padding: 4px; }
QScrollBar:vertical { background: #2a2723; width: 10px; } QScrollBar::handle:vertical { background: #544d45; border-radius: 4px; min-height: 24px; margin: 1px; }
QScrollBar:horizontal { background: #2a2723; height: 10px; } QScrollBar::handle:horizontal { background: #544d45; border-radius: 4px; min-width: 24px; margin: 1px; }
QScrollBar::add-line, QScrollBar::sub-line { width: 0; height: 0; } QScrollBar::add-page, QScrollBar::sub-page { background: transparent; }
QScrollArea { border: none; }
QCheckBox::indicator, QTreeView::indicator { width: 13px; height: 13px; border: 1px solid #655d53; background: #26231f; border-radius: 2px; }
QCheckBox::indicator:checked, QTreeView::indicator:checked { background: #d09a3c; border-color: #d09a3c; image: url(:/icons/tick.svg); }
)";

}  // namespace

void prepare() {
    QSurfaceFormat format;
    format.setVersion(3, 3);
    format.setProfile(QSurfaceFormat::CoreProfile);
    format.setDepthBufferSize(24);
    QSurfaceFormat::setDefaultFormat(format);
    QApplication::setAttribute(Qt::AA_ShareOpenGLContexts);
}

namespace {

Tone current_tone = Tone::Dark;

// Greys of the style sheet turned over in lightness, warmth kept; accents that text is written in are darkened, areas
// of accent stay.
QString in_light(QString css) {
    static const std::pair<const char*, const char*> accents[] = {
        {"#e3c58c", "#70480a"}, {"#f0c987", "#70480a"}, {"#6b5326", "#e0c48e"}, {"#54452a", "#ecd9b3"},
        {"#46402f", "#ecdfc4"}, {"#5a4a2c", "#ecd9b3"}, {"#5c5140", "#cbb78e"}, {"#a2937a", "#6e6047"},
        {"#7a6233", "#b08434"}, {"#8a6a2e", "#c79a4a"}, {"#d09a3c", "#c08a2c"}, {"#dcaa51", "#d09a3c"},
        {"#221c10", "#221c10"}};
    QString out;
    for (qsizetype i = 0; i < css.size(); ++i) {
        if (css[i] != '#' || i + 7 > css.size() || !QColor::isValidColorName(css.mid(i, 7))) {
            out += css[i];
            continue;
        }
        const QString hex = css.mid(i, 7);
        i += 6;
        const auto accent = std::find_if(std::begin(accents), std::end(accents),
                                         [&](const auto& one) { return hex == QLatin1String(one.first); });
        if (accent != std::end(accents)) {
            out += QLatin1String(accent->second);
            continue;
        }
        OkLab c = oklab(QColor(hex));
        c[0] = std::clamp(1.155 - c[0], 0.23, 0.95);
        out += from_oklab(c).name();
    }
    return out.replace("icons/down.svg", "icons/down_dark.svg").replace("icons/up.svg", "icons/up_dark.svg");
}

// Drawn when it is asked for, so that it takes the colour of the look that holds then.
class SvgIcon : public QIconEngine {
 public:
    SvgIcon(QString name, QColor Ink::*of, const QColor& fixed) : name_(std::move(name)), of_(of), fixed_(fixed) {}

    QIconEngine* clone() const override { return new SvgIcon(name_, of_, fixed_); }

    QPixmap pixmap(const QSize& size, QIcon::Mode mode, QIcon::State) override {
        QColor colour = of_ ? ink().*of_ : fixed_;
        if (mode == QIcon::Disabled) colour.setAlphaF(kDisabled);
        const QString key = QString("veldstone/%1/%2/%3x%4")
                                .arg(name_, colour.name(QColor::HexArgb))
                                .arg(size.width())
                                .arg(size.height());
        QPixmap out;
        if (QPixmapCache::find(key, &out)) return out;
        QFile file(":/icons/" + name_ + ".svg");
        if (!file.open(QIODevice::ReadOnly)) return {};
        QSvgRenderer renderer(file.readAll().replace("currentColor", colour.name().toUtf8()));
        out = QPixmap(size);
        out.fill(Qt::transparent);
        QPainter painter(&out);
        painter.setOpacity(colour.alphaF());
        renderer.render(&painter);
        painter.end();
        QPixmapCache::insert(key, out);
        return out;
    }

    void paint(QPainter* painter, const QRect& rect, QIcon::Mode mode, QIcon::State state) override {
        const qreal ratio = painter->device() ? painter->device()->devicePixelRatio() : 1;
        painter->drawPixmap(rect, pixmap((QSizeF(rect.size()) * ratio).toSize(), mode, state));
    }

    QSize actualSize(const QSize& size, QIcon::Mode, QIcon::State) override { return size; }
    bool isNull() override { return !QFile::exists(":/icons/" + name_ + ".svg"); }

 private:
    static constexpr float kDisabled = 0.4f;
    QString name_;
    QColor Ink::*of_;
    QColor fixed_;
};

}  // namespace

const Ink& ink_of(Tone tone) {
    static const Ink dark{kText, kDim, kOchre, kTeal.lighter(130), kPanel, {0x8f, 0xc4, 0xbd}, {0xe0, 0xae, 0x55}};
    static const Ink light{QColor(0x27, 0x22, 0x1c), QColor(0x5a, 0x51, 0x46), QColor(0x80, 0x52, 0x0a),
                           QColor(0x14, 0x5f, 0x58), QColor(0xdf, 0xd9, 0xcf), QColor(0x14, 0x5f, 0x58),
                           QColor(0x80, 0x52, 0x0a)};
    return tone == Tone::Dark ? dark : light;
}

const Ink& ink() { return ink_of(current_tone); }

void apply(QApplication& app, Tone tone, double text_scale) {
    current_tone = tone;
    for (const char* file : {"Lato-Regular", "Lato-Semibold", "Lato-Bold"})
        QFontDatabase::addApplicationFont(QString(":/fonts/%1.ttf").arg(file));
    QFont font("Lato");
    font.setPointSizeF(kTextPoints * text_scale);
    app.setFont(font);
    app.setStyle(QStyleFactory::create("Fusion"));
    const bool dark = tone == Tone::Dark;
    const Ink& with = ink();
    const QColor field = dark ? kBackground : QColor(0xf0, 0xec, 0xe4);
    QPalette palette;
    palette.setColor(QPalette::Window, with.panel);
    palette.setColor(QPalette::WindowText, with.text);
    palette.setColor(QPalette::Base, field);
    palette.setColor(QPalette::AlternateBase, with.panel);
    palette.setColor(QPalette::Text, with.text);
    palette.setColor(QPalette::Button, dark ? kRaised : QColor(0xd2, 0xcb, 0xbf));
    palette.setColor(QPalette::ButtonText, with.text);
    palette.setColor(QPalette::Highlight, kOchre);
    palette.setColor(QPalette::HighlightedText, kBackground);
    palette.setColor(QPalette::PlaceholderText, with.dim);
    palette.setColor(QPalette::Link, with.accent);
    app.setPalette(palette);
    QString css = QString::fromUtf8(kStyleSheet);
    // sizes in points grow with the text
    for (const double points : {16.5, 11.25, 9.0})
        css.replace(QString("%1pt").arg(points), QString("%1pt").arg(points * text_scale));
    app.setStyleSheet(dark ? css : in_light(css));
}

QIcon icon(const QString& name, QColor Ink::*of) { return QIcon(new SvgIcon(name, of, {})); }

QIcon icon(const QString& name, const QColor& colour) { return QIcon(new SvgIcon(name, nullptr, colour)); }

}  // namespace veld::theme
