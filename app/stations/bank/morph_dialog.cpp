#include "app/stations/bank/morph_dialog.h"

#include <QDialogButtonBox>
#include <QFormLayout>

#include "app/ask.h"
#include "app/lengths.h"
#include "app/stations/bank/morph_list.h"
#include "app/widgets.h"
#include "core/base/file.h"

namespace veld {

QComboBox* kind_box() {
    auto* out = new QComboBox;
    for (const char* name : {"Whole", "Head", "Body", "Region", "Expression", "Fix"}) out->addItem(QObject::tr(name));
    return out;
}

MorphDialog::MorphDialog(Session& session, BankController& bank, MorphId id, QWidget* parent)
    : QDialog(parent), s_(session), bank_(bank), id_(id) {
    const Morph& m = *s_.state().bank[static_cast<std::size_t>(morph_place(s_.state(), id))].morph;
    setWindowTitle(tr("Properties of %1").arg(QString::fromStdString(m.name)));
    auto* form = new QFormLayout(this);
    form->setLabelAlignment(Qt::AlignLeft);
    name_ = new QLineEdit(QString::fromStdString(m.name));
    group_ = new QLineEdit(QString::fromStdString(m.group));
    group_->setPlaceholderText(tr("heads/marsh"));
    kind_ = kind_box();
    kind_->setCurrentIndex(static_cast<int>(m.kind));
    tag_ = new QComboBox;
    for (int t = 0; t <= kMorphTags; ++t) tag_->addItem(QIcon(tag_picture(t, 14)), tag_name(t));
    tag_->setCurrentIndex(m.tag);
    const auto number_box = [](double value) {
        auto* out = new QDoubleSpinBox;
        out->setRange(-10, 10);
        out->setDecimals(3);
        out->setSingleStep(0.1);
        out->setValue(value);
        return out;
    };
    low_ = number_box(m.low), high_ = number_box(m.high), usual_ = number_box(m.usual);
    note_ = new QPlainTextEdit(QString::fromStdString(m.note));
    note_->setFixedHeight(64);
    form->addRow(tr("Name"), name_);
    form->addRow(tr("Group"), group_);
    form->addRow(tr("Kind"), kind_);
    form->addRow(tr("Tag"), tag_);
    low_->setObjectName("morph_low"), high_->setObjectName("morph_high"), name_->setObjectName("morph_name");
    form->addRow(tr("Slider"), row({low_, new QLabel(tr("to")), high_}));
    form->addRow(tr("Usual amount"), usual_);
    form->addRow(tr("Note"), note_);
    double most = 0;
    for (const Vec3& d : m.delta) most = std::max(most, d.norm());
    QString facts =
        tr("%n vertex(es) move, at most %1.", nullptr, static_cast<int>(m.index.size())).arg(length_text(most, 2));
    if (!m.root.isZero(0)) facts += " " + tr("Lifts the whole figure by %1.").arg(length_text(m.root.y(), 2));
    if (!m.origin.empty()) facts += " " + QString::fromStdString(m.origin) + ".";
    form->addRow(text_label(facts, "dim"));
    const BankEntry& entry = s_.state().bank[static_cast<std::size_t>(morph_place(s_.state(), id))];
    if (!m.drivers.empty())
        form->addRow(
            text_label(tr("Mixed in by itself with %1.").arg(QString::fromStdString(driver_names(m.drivers))), "dim"));
    if (entry.sheet) {
        auto* sheet = button(tr("Proof sheet…"), "morph_sheet", tr("The picture of its proofs, as a PNG file"));
        connect(sheet, &QPushButton::clicked, this, [this, png = entry.sheet, name = m.name] {
            const QString path = s_.files().save(
                this, tr("Proof sheet"), s_.files().last_folder() + "/" + QString::fromStdString(name) + " proofs.png",
                tr("Pictures (*.png)"));
            if (path.isEmpty()) return;
            s_.files().remember_folder_of(path);
            if (auto ok = write_file(path.toStdString(), *png); !ok) s_.report(ok.error());
        });
        form->addRow(sheet);
    }
    trouble_ = text_label({}, "warning");
    trouble_->setObjectName("morph_trouble");
    trouble_->hide();
    form->addRow(trouble_);
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Ok | QDialogButtonBox::Cancel);
    connect(buttons, &QDialogButtonBox::accepted, this, &MorphDialog::accept);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    form->addRow(buttons);
    resize(380, sizeHint().height());
}

void MorphDialog::accept() {
    const auto refuse = [&](const QString& why, QWidget* at) {
        trouble_->setText("⚠ " + why);
        trouble_->show();
        at->setFocus();
    };
    const QString name = name_->text().trimmed();
    if (name.isEmpty()) return refuse(tr("A morph needs a name."), name_);
    if (low_->value() >= high_->value())
        return refuse(tr("The slider's lower limit (%1) must be below its upper one (%2).")
                          .arg(low_->value())
                          .arg(high_->value()),
                      low_);
    ProjectState next = s_.state();
    if (const int place = morph_place(next, id_); place >= 0) {
        const auto at = static_cast<std::size_t>(place);
        Morph m = *next.bank[at].morph;
        m.group = group_->text().trimmed().toStdString();
        m.kind = static_cast<MorphKind>(kind_->currentIndex());
        m.tag = tag_->currentIndex();
        m.low = low_->value(), m.high = high_->value(), m.usual = usual_->value();
        m.note = note_->toPlainText().toStdString();
        next.bank[at].morph = std::make_shared<Morph>(std::move(m));
        rename_morph(next, at, name.toStdString());
        s_.change(tr("Properties of %1").arg(name), std::move(next));
    }
    QDialog::accept();
}

}  // namespace veld
