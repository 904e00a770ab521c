#include "app/stations/gather/gather_panel.h"

#include <QBuffer>
#include <QLocale>
#include <QScrollArea>

#include "app/ask.h"
#include "app/core_words.h"
#include "app/flow_row.h"
#include "app/lengths.h"
#include "app/theme.h"
#include "app/widgets.h"
#include "core/project/inbox.h"
#include "core/project/sources.h"
#include "core/project/things.h"

namespace veld {

GatherPanel::GatherPanel(Session& session, TidyController& tidy, QWidget* parent)
    : QWidget(parent), s_(session), tidy_(tidy) {
    auto* column = panel_column(this);
    column->addWidget(text_label(tr("Gather"), "title"));
    auto* load = button(
        tr("Add a source…"), "gather_load",
        tr("Read a scan or sculpt into this subject: OBJ, PLY, STL, GLB, glTF, zip; folders can be dropped"), true);
    connect(load, &QPushButton::clicked, this, &GatherPanel::ask_for_sources);
    column->addWidget(load);
    build_inbox(column);
    auto* area = new QScrollArea;
    area->setWidgetResizable(true);
    area->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    about_ = new QWidget;
    build_about(new QVBoxLayout(about_));
    area->setWidget(about_);
    column->addWidget(area, 1);
    connect(&s_, &Session::shown_anew, this, [this] {
        if (surveyed_) start_survey();
    });
    connect(&s_, &Session::changed, this, &GatherPanel::refresh);
    connect(&s_, &Session::busy_changed, this, &GatherPanel::refresh);
    connect(&s_, &Session::inbox_changed, this, &GatherPanel::refresh_inbox);
    connect(&s_, &Session::busy_changed, this, &GatherPanel::refresh_inbox);
    refresh();
}

void GatherPanel::build_inbox(QBoxLayout* column) {
    auto* choose =
        button(tr("Inbox…"), "gather_inbox",
               tr("A folder that a phone or a capture rig delivers into; complete deliveries are offered here"));
    connect(choose, &QPushButton::clicked, this, &GatherPanel::ask_for_inbox);
    inbox_ = text_label({}, "dim");
    auto* inbox_row = row({inbox_, choose});
    inbox_row->setStretch(0, 1);
    column->addLayout(inbox_row);
    auto* deliveries = new QVBoxLayout;
    deliveries->setSpacing(4);
    deliveries_ = deliveries;
    column->addLayout(deliveries);
    photos_ = text_label({}, "plain");
    column->addWidget(photos_);
}

void GatherPanel::build_about(QBoxLayout* inner) {
    inner->setContentsMargins(0, 0, 6, 0);
    inner->setSpacing(6);
    title_ = text_label({}, "section");
    inner->addWidget(title_);
    changed_ = text_label(tr("The file on disk is newer than what was read."), "plain");
    redo_ = button(tr("Reload and redo the steps"), "gather_redo",
                   tr("Reads the new file and repeats everything done to the old one"), true);
    connect(redo_, &QPushButton::clicked, &tidy_, &TidyController::redo_from_file);
    inner->addWidget(changed_);
    inner->addWidget(redo_);
    unit_ = new QComboBox;
    unit_->setObjectName("gather_unit");
    for (const Unit u : kAllUnits) unit_->addItem(tr("Unit: %1").arg(unit_name(u)));
    up_ = new QComboBox;
    up_->setObjectName("gather_up");
    for (UpAxis u : {UpAxis::PlusX, UpAxis::MinusX, UpAxis::PlusY, UpAxis::MinusY, UpAxis::PlusZ, UpAxis::MinusZ})
        up_->addItem(tr("Up: %1").arg(up_axis_name(u)));
    connect(unit_, &QComboBox::activated, this, &GatherPanel::set_frame);
    connect(up_, &QComboBox::activated, this, &GatherPanel::set_frame);
    unit_reason_ = text_label({}, "dim");
    up_reason_ = text_label({}, "dim");
    inner->addLayout(row({unit_, up_}));
    inner->addWidget(unit_reason_);
    inner->addWidget(up_reason_);
    facts_ = text_label({}, "plain");
    facts_->setTextInteractionFlags(Qt::TextSelectableByMouse);
    inner->addWidget(facts_);
    auto* list = new QVBoxLayout;
    list->setSpacing(4);
    findings_ = list;
    inner->addLayout(list);
    repair_ = button(tr("Repair common faults"), "gather_repair", core_word(tool_info(Tool::Repair).what));
    connect(repair_, &QPushButton::clicked, this, [this] { tidy_.run({Tool::Repair, {}, {}}, false); });
    inner->addWidget(repair_);
    notes_ = text_label({}, "dim");
    inner->addWidget(notes_);
    auto* remove_button = button(tr("Remove this source"), "gather_remove",
                                 tr("Removes the source from the subject; undo brings it back"));
    connect(remove_button, &QPushButton::clicked, this, &GatherPanel::remove);
    inner->addWidget(remove_button);
    inner->addStretch();
}

void GatherPanel::ask_for_inbox() {
    if (!s_.has_kit()) return;
    if (!s_.state().inbox.empty()) return s_.set_inbox({});
    const QString folder = s_.files().folder(this, tr("Inbox: the folder that is watched"));
    if (!folder.isEmpty()) s_.set_inbox(folder);
}

void GatherPanel::refresh_inbox() {
    while (QLayoutItem* old = deliveries_->takeAt(0)) {
        if (old->widget()) old->widget()->hide(), old->widget()->deleteLater();
        delete old;
    }
    for (const Delivery& d : s_.deliveries()) {
        auto* box = new QWidget;
        auto* inside = new QVBoxLayout(box);
        inside->setContentsMargins(0, 2, 0, 2);
        inside->setSpacing(3);
        const QString name = QString::fromStdString(d.name),
                      what = d.kind == DeliveryKind::Photos
                                 ? tr("%1, %n photograph(s)", nullptr, static_cast<int>(d.files.size())).arg(name)
                                 : name;
        inside->addWidget(text_label(
            d.complete ? tr("In the inbox: %1").arg(what)
                       : tr("%1 is arriving; waiting for %2.").arg(what, QString::fromStdString(d.waiting_for)),
            d.complete ? "ask" : "dim"));
        if (d.complete) {
            auto* take = button(tr("Import"), "inbox_take", {}, true);
            auto* leave = button(tr("Not now"), "inbox_leave");
            take->setEnabled(!s_.busy());
            connect(take, &QPushButton::clicked, this, [this, path = d.path] { s_.take_delivery(path); });
            connect(leave, &QPushButton::clicked, this, [this, path = d.path] { s_.dismiss_delivery(path); });
            inside->addLayout(flow({leave, take}));
        }
        deliveries_->addWidget(box);
    }
}

void GatherPanel::show_photos() {
    std::vector<std::shared_ptr<const std::vector<Image>>> now;
    if (const Subject* subject = s_.state().current()) {
        for (const PhotoSet& set : subject->photo_sets) now.push_back(set.photos);
    }
    photos_->setVisible(!now.empty());
    if (now == shown_photos_) return;
    shown_photos_ = now;
    QString pictures;
    for (const auto& set : now) {
        for (const Image& image : *set) {
            const QImage small = QImage::fromData(image.bytes.data(), static_cast<int>(image.bytes.size()))
                                     .scaledToHeight(84, Qt::SmoothTransformation);
            QByteArray png;
            QBuffer buffer(&png);
            small.save(&buffer, "PNG");
            pictures += QString("<img src='data:image/png;base64,%1'> ").arg(QString::fromLatin1(png.toBase64()));
        }
    }
    photos_->setText(pictures);
}

void GatherPanel::refresh() {
    const std::string& folder = s_.state().inbox;
    inbox_->setText(folder.empty() ? tr("No inbox is watched.")
                                   : tr("Watching %1").arg(QString::fromStdString(folder)));
    findChild<QPushButton*>("gather_inbox")->setText(folder.empty() ? tr("Inbox…") : tr("Stop"));
    show_photos();
    const Source* source = s_.state().source();
    about_->setVisible(source != nullptr);
    if (!source) {
        surveyed_.reset();
        return;
    }
    filling_ = true;
    title_->setText(QString::fromStdString(source->name));
    unit_->setCurrentIndex(static_cast<int>(source->shown_unit));
    up_->setCurrentIndex(static_cast<int>(source->up));
    filling_ = false;
    unit_reason_->setText(tr("Unit: %1.").arg(QString::fromStdString(source->unit_reason)));
    up_reason_->setText(tr("Axis: %1.").arg(QString::fromStdString(source->up_reason)));
    const bool replaced = file_changed(*source);
    changed_->setVisible(replaced), redo_->setVisible(replaced);
    for (QWidget* w : std::initializer_list<QWidget*>{unit_, up_, repair_, redo_}) w->setEnabled(!s_.busy());
    QStringList notes;
    for (const std::string& note : source->notes) notes << QString::fromStdString(note);
    for (const std::string& said : source->recipe_said) notes << QString::fromStdString(said);
    notes_->setText(notes.join("\n"));
    notes_->setVisible(!notes.isEmpty());
    if (surveyed_ != source->mesh) start_survey();
}

void GatherPanel::start_survey() {
    const Source* source = s_.state().source();
    surveyed_ = source->mesh;
    facts_->setText(tr("Inspecting the mesh…"));
    s_.jobs().cancel(survey_);
    survey_ = s_.jobs().start<Survey>(
        {JobKind::Survey, tr("Inspecting the mesh"), s_.subject(), true},
        [mesh = source->mesh, frame = source->upright](const Progress& progress) -> Result<Survey> {
            return survey(*mesh, frame, progress);
        },
        [this, of = source->mesh](Result<Survey>&& done) {
            // of what is shown now: another mesh has a survey of its own under way
            if (done && s_.state().source() && of == s_.state().source()->mesh) show_survey(*done);
        });
}

void GatherPanel::show_survey(const Survey& t) {
    const auto line = [&](const QString& what, const QString& value) {
        return QString("<tr><td style='color:%1; padding-right:10px'>%2</td><td align='right'>%3</td></tr>")
            .arg(theme::ink().dim.name(), what, value);
    };
    const auto count = [&](std::size_t x) { return QLocale(QLocale::English).toString(static_cast<qulonglong>(x)); };
    QString text = "<table>";
    text += line(tr("triangles"), count(t.triangles));
    text += line(
        tr("size, %1").arg(length_name()),
        QString("%1 × %2 × %3")
            .arg(length_number(t.size_mm.x(), 0), length_number(t.size_mm.y(), 0), length_number(t.size_mm.z(), 0)));
    text += line(tr("median edge length, %1").arg(length_name()), length_number(t.edge_mm, 2));
    text += line(tr("textures"), count(t.textures) + (t.uv ? tr(", UV") : QString()) +
                                     (t.colours ? tr(", vertex colours") : QString()));
    text += line(tr("small components"), count(t.topology.components));
    text += line(tr("open borders"), count(t.topology.holes));
    facts_->setText(text + "</table>");
    while (QLayoutItem* old = findings_->takeAt(0)) {
        if (old->widget()) old->widget()->hide(), old->widget()->deleteLater();  // it may be the one that was clicked
        delete old;
    }
    bool repairable = false;
    for (const Finding& f : t.findings) {
        static constexpr const char* kSign[] = {"·", "○", "▲"};
        auto* label =
            text_label(QString::fromUtf8(kSign[static_cast<int>(f.weight)]) + "  " + QString::fromStdString(f.text),
                       f.weight == Weight::Problem ? "warning"
                       : f.weight == Weight::Note  ? "plain"
                                                   : "dim");
        if (f.repaired_by) {
            repairable |= *f.repaired_by == Tool::Repair || *f.repaired_by == Tool::Outward;
            label->setText(label->text() + QString(" <a href='%1' style='color:%2'>%3</a>")
                                               .arg(static_cast<int>(*f.repaired_by))
                                               .arg(theme::ink().accent.name(), tr(tool_info(*f.repaired_by).label)));
            connect(label, &QLabel::linkActivated, this,
                    [this](const QString& link) { emit repair_with(static_cast<Tool>(link.toInt())); });
        }
        findings_->addWidget(label);
    }
    repair_->setVisible(repairable);
}

void GatherPanel::set_frame() {
    ProjectState next = s_.state();
    if (filling_ || !next.source()) return;
    Source& source = next.current()->sources.back();
    const auto unit = static_cast<Unit>(unit_->currentIndex());
    const auto up = static_cast<UpAxis>(up_->currentIndex());
    if (unit == source.shown_unit && up == source.up) return;
    veld::set_frame(source, unit == source.shown_unit ? source.unit : unit, up, *next.kit);
    s_.change(tr("Change unit or axis"), std::move(next));
}

void GatherPanel::remove() {
    ProjectState next = s_.state();
    if (!next.source()) return;
    const QString name = QString::fromStdString(next.source()->name);
    remove_thing(next, next.source()->id);
    s_.change(tr("Remove %1").arg(name), std::move(next));
}

}  // namespace veld
