#include "app/stations/bank/exchange_tab.h"

#include <QFileInfo>
#include <QFormLayout>
#include <QHeaderView>
#include <QMenu>
#include <QSplitter>

#include "app/ask.h"
#include "app/flow_row.h"
#include "app/lengths.h"
#include "app/theme.h"
#include "app/widgets.h"

namespace veld {
namespace {

constexpr UpAxis kUps[] = {UpAxis::PlusY,  UpAxis::PlusZ,  UpAxis::PlusX,
                           UpAxis::MinusY, UpAxis::MinusZ, UpAxis::MinusX};

}  // namespace

ExchangeTab::ExchangeTab(Session& session, BankController& bank, ExchangeController& exchange, QWidget* parent)
    : QWidget(parent), s_(session), bank_(bank), exchange_(exchange) {
    auto* column = panel_column(this);
    column->setContentsMargins(0, 8, 6, 0);
    out_ = build_out();
    column->addWidget(out_);
    column->addWidget(build_back(), 1);
    connect(&s_, &Session::changed, this, &ExchangeTab::refresh);
    connect(&exchange_, &ExchangeController::changed, this, &ExchangeTab::refresh);
}

QWidget* ExchangeTab::build_out() {
    auto* out = new QWidget;
    auto* column = new QVBoxLayout(out);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(5);
    folder_ = new PathLabel;
    auto* choose =
        button(tr("Folder…"), "exchange_folder", tr("What is sent goes there; what comes back there is noticed"));
    connect(choose, &QPushButton::clicked, this, [this] {
        const QString folder = s_.files().folder(this, tr("Exchange folder"), exchange_.folder());
        if (!folder.isEmpty()) exchange_.set_folder(folder);
    });
    auto* top = row({folder_, choose});
    top->setStretch(0, 1);
    column->addLayout(top);
    scope_ = new QComboBox;
    scope_->setObjectName("exchange_scope");
    scope_->addItems({tr("whole base"), tr("head"), tr("a part"), tr("a region")});
    of_ = new QComboBox;
    of_->setObjectName("exchange_of");
    of_->setAccessibleName(tr("What is sent"));
    connect(scope_, &QComboBox::activated, this, &ExchangeTab::refresh_out);
    level_ = new QComboBox;
    level_->setObjectName("exchange_level");
    level_->addItems({tr("base level"), tr("subdivided once"), tr("subdivided twice")});
    column->addLayout(row({scope_, level_}));
    column->addWidget(of_);
    unit_ = new QComboBox;
    for (const Unit u : kAllUnits) unit_->addItem(unit_name(u));
    unit_->setObjectName("exchange_unit");
    unit_->setToolTip(tr("Unit of the file"));
    up_ = new QComboBox;
    for (const UpAxis u : kUps) up_->addItem(tr("%1 up").arg(up_axis_name(u)));
    up_->setObjectName("exchange_up");
    without_ = new QToolButton;
    without_->setObjectName("exchange_without");
    without_->setAccessibleName(tr("Without these shapes"));
    without_->setPopupMode(QToolButton::InstantPopup);
    without_->setProperty("role", "mode");
    without_->setStyleSheet("QToolButton::menu-indicator { image: none; }");
    without_->setMenu(new QMenu(without_));
    without_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed);
    column->addLayout(row({unit_, up_}));
    column->addWidget(without_);
    pose_ = new QComboBox;
    pose_->setObjectName("exchange_pose");
    pose_->setToolTip(tr("Pose; it is taken out again when the mesh comes back"));
    mix_ = new QCheckBox(tr("with the mix"));
    mix_->setObjectName("exchange_mix");
    mix_->setToolTip(
        tr("With the bank's sliders as they are. This is remembered and subtracted from what comes back."));
    column->addLayout(row({pose_, mix_}));
    for_ = new QComboBox;
    for_->setObjectName("exchange_for");
    for_->setToolTip(tr("What the return is meant for"));
    column->addWidget(for_);
    file_ = new QLineEdit("base");
    file_->setObjectName("exchange_file");
    file_->setAccessibleName(tr("File name"));
    kind_ = new QComboBox;
    kind_->setObjectName("exchange_kind");
    kind_->addItems({".obj", ".ply", ".glb"});
    kind_->setFixedWidth(64);
    auto* go = button(tr("Send"), "exchange_send", tr("Writes the file, and beside it what was sent"), true);
    connect(go, &QPushButton::clicked, this, &ExchangeTab::send);
    auto* last = row({file_, kind_, go});
    last->setStretch(0, 1);
    column->addLayout(last);
    return out;
}

QWidget* ExchangeTab::build_back() {
    back_ = new QWidget;
    auto* column = new QVBoxLayout(back_);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(5);
    auto* check = button(tr("Check a file…"), "exchange_check", tr("Any mesh that should be the base"));
    connect(check, &QPushButton::clicked, this, [this] {
        const QString path = s_.files().open(this, tr("Mesh that came back"), exchange_.folder(),
                                             tr("Meshes (*.obj *.ply *.stl *.glb *.gltf);;All files (*)"));
        if (!path.isEmpty()) exchange_.check(path);
    });
    auto* head = row({text_label(tr("Returned"), "section"), check});
    head->setStretch(0, 1);
    column->addLayout(head);
    empty_ = text_label(tr("Nothing yet. What is saved into the folder appears here."), "dim");
    column->addWidget(empty_);
    came_ = new QListWidget;
    came_->setObjectName("exchange_came");
    came_->setMaximumHeight(64);
    connect(came_, &QListWidget::itemClicked, this,
            [this](QListWidgetItem* item) { exchange_.choose(static_cast<std::size_t>(came_->row(item))); });
    column->addWidget(came_);
    state_ = text_label({}, "ask");
    column->addWidget(state_);
    steps_ = new QTreeWidget;
    steps_->setObjectName("exchange_steps");
    steps_->setAccessibleName(tr("What was found"));
    steps_->setHeaderHidden(true);
    steps_->setRootIsDecorated(false);
    steps_->setIndentation(0);
    steps_->setWordWrap(true);
    steps_->setMinimumHeight(70);
    column->addWidget(steps_, 1);
    connect(steps_, &QTreeWidget::itemChanged, this, [this](QTreeWidgetItem* item) {
        if (filling_) return;
        // the new check rebuilds the list: not while the item is still changing
        const std::string leftover = item->data(0, Qt::UserRole).toString().toStdString();
        const bool out = item->checkState(0) == Qt::Checked;
        QMetaObject::invokeMethod(
            this, [this, leftover, out] { exchange_.take_out(leftover, out); }, Qt::QueuedConnection);
    });
    why_ = text_label({}, "dim");
    column->addWidget(why_);
    connect(steps_, &QTreeWidget::currentItemChanged, this,
            [this](QTreeWidgetItem* item) { why_->setText(item ? item->toolTip(0) : QString()); });
    question_ = new QWidget;
    auto* asked = new QVBoxLayout(question_);
    asked->setContentsMargins(0, 0, 0, 0);
    question_text_ = text_label({}, "ask");
    question_text_->setObjectName("exchange_question");
    asked->addWidget(question_text_);
    answer_take_ = button(tr("Take it out"), "exchange_answer_take",
                          tr("It was an accident: the shape goes back to the size and place it was sent in"), true);
    auto* leave = button(tr("It is meant"), "exchange_answer_leave", tr("It stays as it is"));
    connect(answer_take_, &QPushButton::clicked, this, [this] { exchange_.answer(ReturnAnswer::Take); });
    connect(leave, &QPushButton::clicked, this, [this] { exchange_.answer(ReturnAnswer::Leave); });
    asked->addLayout(flow({answer_take_, leave}));
    column->addWidget(question_);
    keep_sent_ = new QCheckBox(tr("Keep the morphs it was sent with"));
    keep_sent_->setObjectName("exchange_keep_sent");
    connect(keep_sent_, &QCheckBox::clicked, this, [this](bool on) {
        exchange_.options.subtract_sent = !on;
        exchange_.check_again();
    });
    column->addWidget(keep_sent_);
    seat_ = new QComboBox;
    seat_->setObjectName("exchange_seat");
    seat_->addItems({tr("head as it is"), tr("head to the neck"), tr("neck to the head")});
    connect(seat_, &QComboBox::activated, this, [this](int i) {
        exchange_.options.seat = static_cast<Seat>(i);
        exchange_.check_again();
    });
    fade_ = new LengthBox("exchange_fade", 1, 300, 1, 0, {});
    fade_->setAccessibleName(tr("Fade over"));
    fade_->setPrefix(tr("over "));
    fade_->setValue(exchange_.options.seat_fade_mm);
    connect(fade_, &QDoubleSpinBox::valueChanged, this, [this](double v) {
        exchange_.options.seat_fade_mm = v;
        exchange_.check_again();
    });
    seat_row_ = new QWidget;
    auto* seat_line = row({seat_, fade_});
    seat_line->setContentsMargins(0, 0, 0, 0);
    seat_row_->setLayout(seat_line);
    column->addWidget(seat_row_);
    parts_ = new QComboBox;
    parts_->setObjectName("exchange_parts");
    parts_->addItems({tr("eyes, teeth as they came"), tr("eyes, teeth follow the skin"), tr("eyes, teeth stay")});
    connect(parts_, &QComboBox::activated, this, [this](int i) {
        exchange_.parts = static_cast<PartsChoice>(i);
        exchange_.check_again();
    });
    noise_ =
        new LengthBox("exchange_noise", 0, 1, 0.001, 3, tr("What moved by less goes back to exactly where it was"));
    noise_->setPrefix(tr("snap below noise of  "));
    noise_->setValue(exchange_.options.noise_mm);
    connect(noise_, &QDoubleSpinBox::valueChanged, this, [this](double v) {
        exchange_.options.noise_mm = v;
        exchange_.check_again();
    });
    column->addWidget(parts_);
    column->addWidget(noise_);
    name_ = new QLineEdit;
    name_->setObjectName("exchange_name");
    name_->setPlaceholderText(tr("Name of the morph"));
    column->addWidget(name_);
    keep_ = button(tr("New morph"), "exchange_keep", {}, true);
    connect(keep_, &QPushButton::clicked, this, [this] { keep(false); });
    update_ = button(tr("Update"), "exchange_update", tr("Its slider stays where it is"));
    connect(update_, &QPushButton::clicked, this, [this] { keep(true); });
    source_ = button(tr("Use as a source"), "exchange_source", tr("The base is fitted to it, as to a scan"), true);
    connect(source_, &QPushButton::clicked, this, [this] { exchange_.take_as_source(); });
    drop_ = button(tr("Discard"), "exchange_drop", tr("The return is not wanted; the file stays where it is"));
    connect(drop_, &QPushButton::clicked, &exchange_, &ExchangeController::dismiss);
    column->addLayout(flow({keep_, update_, source_, drop_}));
    filler_ = new QWidget;  // takes the room of the steps while there are none
    column->addWidget(filler_, 1);
    return back_;
}

void ExchangeTab::showEvent(QShowEvent* event) {
    QWidget::showEvent(event);
    refresh();
}

void ExchangeTab::refresh() {
    if (!isVisible() || !s_.has_kit()) return;
    refresh_out();
    refresh_back();
}

void ExchangeTab::refresh_out() {
    const ProjectState& state = s_.state();
    const QString folder = exchange_.folder();
    folder_->setText(folder.isEmpty() ? tr("Save the project, or select a folder.") : folder);
    folder_->setToolTip(folder);
    const auto fill = [](QComboBox* box, const QStringList& names, const QList<QVariant>& data) {
        QStringList there;
        for (int i = 0; i < box->count(); ++i) there << box->itemText(i);
        if (there == names) return;
        const QString selected = box->currentText();
        box->clear();
        for (int i = 0; i < names.size(); ++i) box->addItem(names[i], data.value(i));
        box->setCurrentIndex(std::max(0, box->findText(selected)));
    };
    const SendScope scope = kSendScopes[scope_->currentIndex()];
    QStringList names;
    if (scope == SendScope::Part) {
        for (const KitPart& p : state.kit->parts) names << QString::fromStdString(p.name);
    } else if (scope == SendScope::Region) {
        for (const auto& [name, vertices] : state.kit->regions) names << QString::fromStdString(name);
    }
    fill(of_, names, {});
    of_->setVisible(!names.isEmpty());
    QStringList poses{tr("at rest")};
    QList<QVariant> fits{qulonglong{0}};
    if (state.current()) {
        for (const FitRecord& f : state.current()->fits) {
            if (f.pose)
                poses << tr("as %1 stands").arg(QString::fromStdString(f.name)), fits << qulonglong{f.id.value};
        }
    }
    fill(pose_, poses, fits);
    QStringList meant{tr("for a new morph")};
    QList<QVariant> morphs{QString()};
    for (const BankEntry& e : state.bank)
        meant << tr("for %1").arg(QString::fromStdString(e.morph->name)),
            morphs << QString::fromStdString(e.morph->name);
    fill(for_, meant, morphs);
    for_->setVisible(meant.size() > 1);
    mix_->setEnabled(!state.bank.empty());
    if (parts_of_ != state.kit) {
        parts_of_ = state.kit;
        without_->menu()->clear();
        for (const KitPart& p : state.kit->parts) {
            QAction* a = without_->menu()->addAction(QString::fromStdString(p.name));
            a->setCheckable(true);
            a->setChecked(true);
            connect(a, &QAction::toggled, this, &ExchangeTab::refresh_out);
        }
    }
    int on = 0;
    for (const QAction* a : without_->menu()->actions()) on += a->isChecked();
    without_->setText(on == without_->menu()->actions().size() ? tr("all parts") : tr("%1 parts").arg(on));
    without_->setToolTip(tr("Which parts go out"));
}

SendOptions ExchangeTab::send_options() const {
    SendOptions o;
    o.scope = kSendScopes[scope_->currentIndex()];
    o.of = of_->currentText().toStdString();
    if (o.scope == SendScope::Whole || o.scope == SendScope::Head) o.of.clear();
    o.level = level_->currentIndex();
    o.unit = kAllUnits[unit_->currentIndex()], o.up = kUps[up_->currentIndex()];
    for (const QAction* a : without_->menu()->actions()) {
        if (!a->isChecked()) o.parts_off.push_back(a->text().toStdString());
    }
    if (const FitRecord* f = find_fit(s_.state(), FitId{pose_->currentData().toULongLong()})) o.pose = f->pose;
    return o;
}

void ExchangeTab::send() {
    QString file = file_->text().trimmed();
    if (file.isEmpty()) file = "base";
    exchange_.send(QFileInfo(file).completeBaseName() + kind_->currentText(), send_options(), mix_->isChecked(),
                   for_->currentData().toString().toStdString());
}

void ExchangeTab::show_steps(const ReturnCheck* result) {
    steps_->clear();
    if (!result) return;
    for (const ReturnStep& step : result->steps) {
        auto* item = new QTreeWidgetItem(steps_);
        item->setText(0, QString::fromStdString(step.what));
        for (const Leftover& l : result->leftovers) {
            if (step.topic != ReturnTopic::Leftover || step.name != l.name) continue;
            item->setData(0, Qt::UserRole, QString::fromStdString(l.name));
            item->setText(0, tr("Subtract %1 × %2").arg(l.amount, 0, 'f', 3).arg(QString::fromStdString(l.name)));
            item->setFlags(item->flags() | Qt::ItemIsUserCheckable);
            item->setCheckState(0, step.repaired ? Qt::Checked : Qt::Unchecked);
        }
        item->setToolTip(0, QString::fromStdString(step.why));
        // done: a tick; only said: a triangle, as everywhere; what can be ticked needs no sign
        if (!item->data(0, Qt::UserRole).isValid())
            item->setIcon(
                0, step.repaired ? theme::icon("done", &theme::Ink::fine) : theme::icon("warn", &theme::Ink::doubt));
    }
    steps_->setCurrentItem(steps_->topLevelItem(0));
}

void ExchangeTab::refresh_back() {
    filling_ = true;
    QStringList names, there;
    for (const Delivery& d : exchange_.returns())
        names << QString::fromStdString(d.name) + (d.complete ? QString() : tr("  (still being written)"));
    for (int i = 0; i < came_->count(); ++i) there << came_->item(i)->text();
    if (names != there) {
        came_->clear();
        came_->addItems(names);
    }
    for (int i = 0; i < came_->count(); ++i) {
        if (QString::fromStdString(exchange_.returns()[static_cast<std::size_t>(i)].path) == exchange_.looked_at())
            came_->setCurrentRow(i);
    }
    came_->setVisible(!names.isEmpty());
    const bool looking = !exchange_.looked_at().isEmpty();
    out_->setVisible(!looking);  // one thing at a time
    empty_->setVisible(names.isEmpty() && !looking);
    const ReturnCheck* result = exchange_.result();
    const bool relative = result && result->relative && !exchange_.checking();
    show_steps(exchange_.checking() ? nullptr : result);
    state_->setVisible(looking);
    const QString file = QFileInfo(exchange_.looked_at()).fileName();
    if (exchange_.checking())
        state_->setText(tr("Checking %1…").arg(file));
    else if (!exchange_.trouble().isEmpty())
        state_->setText(exchange_.trouble());
    else if (result && !result->relative)
        state_->setText(tr("%1 is another mesh. It can be a source, and the base is fitted to it.").arg(file));
    else if (result)
        state_->setText(result->steps.empty()
                            ? tr("%1 is the base's own mesh, in its order, unit and place.").arg(file)
                        : exchange_.memory() ? tr("%1, known from when it was sent.").arg(file)
                                             : tr("%1 is the base, with differences:").arg(file));
    const bool asks = relative && result->question.has_value();  // nothing else can be decided before
    steps_->setVisible(looking && !asks && steps_->topLevelItemCount() > 0);
    keep_sent_->setVisible(relative && exchange_.memory() && !exchange_.memory()->morphs.empty());
    keep_sent_->setChecked(!exchange_.options.subtract_sent);
    const bool head_alone = relative && std::any_of(result->steps.begin(), result->steps.end(),
                                                    [](const ReturnStep& s) { return s.topic == ReturnTopic::Neck; });
    seat_row_->setVisible(head_alone);
    seat_->setCurrentIndex(static_cast<int>(exchange_.options.seat));
    fade_->setEnabled(exchange_.options.seat != Seat::AsItLies);
    parts_->setVisible(relative && !asks);
    noise_->setVisible(relative && !asks);
    why_->setVisible(looking && !asks && steps_->topLevelItemCount() > 0);
    parts_->setCurrentIndex(static_cast<int>(exchange_.parts));
    name_->setVisible(relative && !asks);
    if (looking && name_->property("of").toString() != exchange_.looked_at()) {
        name_->setProperty("of", exchange_.looked_at());
        name_->setText(QFileInfo(exchange_.looked_at()).completeBaseName());
    }
    keep_->setVisible(relative && !asks);
    question_->setVisible(asks);
    filler_->setVisible(asks);
    if (asks) question_text_->setText(QString::fromStdString(result->question->what + ". " + result->question->why));
    answer_take_->setVisible(asks && result->question->explained);
    const bool known = relative && !asks && !result->morph.empty() && find_morph(s_.state(), result->morph) >= 0;
    update_->setVisible(known);
    if (known)
        update_->setText(
            tr("Update %1")
                .arg(update_->fontMetrics().elidedText(QString::fromStdString(result->morph), Qt::ElideRight, 80)));
    source_->setVisible(looking && !relative && !exchange_.checking() && exchange_.trouble().isEmpty());
    drop_->setVisible(looking);
    filling_ = false;
}

void ExchangeTab::keep(bool update) {
    const ReturnCheck* result = exchange_.result();
    if (!result) return;
    const QString name = name_->text().trimmed().isEmpty() ? QFileInfo(exchange_.looked_at()).completeBaseName()
                                                           : name_->text().trimmed();
    if (exchange_.keep(name, update ? result->morph : std::string())) bank_.set_page(BankController::Page::Mix);
}

}  // namespace veld
