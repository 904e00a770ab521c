// A random user of the real window, several seeds side by side, each on a screen of its own.
//
//   random_user --seeds 2 --seconds 150            new seeds, printed; exit 0 when every one lived
//   random_user --seed 42 --seconds 60             that one
//   random_user --replay FILE [--actions N] ...    what was recorded, or its first N actions
//
// A failure (crash, hang, work that never ends, undo that does not lead back) prints its seed, where it was recorded,
// and the shortest beginning of it that still fails.
#include <execinfo.h>
#include <pthread.h>
#include <signal.h>
#include <unistd.h>

#include <QApplication>
#include <QCommandLineParser>
#include <QDir>
#include <QFile>
#include <QProcess>
#include <QStandardPaths>
#include <QTextStream>
#include <cstdio>
#include <random>
#include <thread>

#include "app/theme.h"
#include "core/fit/fit.h"
#include "core/io/gather.h"
#include "core/morph/morph.h"
#include "core/project/fits.h"
#include "core/project/sources.h"
#include "core/project/store.h"
#include "tests/random/random_user.h"
#include "tests/support/demo_kit.h"

namespace veld {
namespace {

constexpr int kHangs = 70, kFails = 71;
pthread_t g_interface_thread;
std::atomic<bool> g_over{false};

void say_where(int signal) {
    void* frames[64];
    std::fprintf(stderr, "signal %d at action %d\n", signal, g_user_action.load());
    backtrace_symbols_fd(frames, backtrace(frames, 64), 2);
    if (signal == SIGUSR1) _exit(kHangs);
    ::signal(signal, SIG_DFL);
    raise(signal);
}

double seconds_of_interface_thread() {
    clockid_t clock;
    timespec t{};
    if (pthread_getcpuclockid(g_interface_thread, &clock) == 0) clock_gettime(clock, &t);
    return static_cast<double>(t.tv_sec) + 1e-9 * static_cast<double>(t.tv_nsec);
}

// The interface thread must show a sign of life; when it does not, it says where it is. On a busy machine it may wait
// for a processor: what it computed itself counts, or four times as long by the clock.
void watch(double hang_seconds) {
    long long seen = 0;
    double computed = 0;
    while (!g_over) {
        std::this_thread::sleep_for(std::chrono::milliseconds(100));
        if (g_alive_ms == 0) continue;
        if (g_alive_ms != seen) seen = g_alive_ms, computed = seconds_of_interface_thread();
        const double silent = static_cast<double>(now_ms() - seen) / 1000,
                     busy = seconds_of_interface_thread() - computed;
        if (silent < hang_seconds || (busy < 0.8 * hang_seconds && silent < 4 * hang_seconds)) continue;
        std::fprintf(stderr, "no sign of life for %.1f s, of which it computed %.1f s\n", silent, busy);
        pthread_kill(g_interface_thread, SIGUSR1);
        return;
    }
}

// Three people as the demo has them, one of them marked and fitted; fits are quick, so that their results arrive while
// one clicks.
void make_project(const std::string& path, const std::string& kit_folder, std::uint64_t seed) {
    // a copy of the demo's kit: what is corrected in it may be saved
    auto read = read_base_kit(kit_folder);
    if (!read) return;
    const auto kit = std::make_shared<const BaseKit>(std::move(*read));
    ProjectState s = new_project(kit);
    Gathered scan = gather(demo("subjects/ottoline/ottoline_scan.glb")),
             figure = gather(demo("subjects/bram/bram_scan.ply"));
    Source head = make_source(std::move(scan.meshes.front()), *kit);
    head.landmarks = std::move(read_landmarks(demo("subjects/ottoline/ottoline_landmarks.json"))->set);
    FitSettings quick;
    quick.levels = 3, quick.iterations = 1;
    auto fit = run_fit({kit.get(), {}, head.mesh.get(), head.landmarks, head.unit, quick}, {});
    s.subjects.push_back({"Ottoline", {head}, {}});
    if (fit) add_fit(s.subjects.back(), make_record(*kit, std::move(*fit), head, {}, nullptr));
    s.subjects.push_back({"Bram", {make_source(std::move(figure.meshes.front()), *kit)}, {}});
    s.subjects.push_back({"Juniper",
                          {},
                          {},
                          {*read_photos("portraits", {demo("subjects/juniper/juniper_front.jpg"),
                                                      demo("subjects/juniper/juniper_side.jpg")})}});
    for (const auto& [name, shape] : kit->expressions)
        s.bank.push_back({std::make_shared<Morph>(*make_morph(*kit, shape, name)), 0.0});
    if (seed % 4 != 0) s.settings = quick;
    (void)save_project(path, s);
}

RandomUserOptions options_of(const QCommandLineParser& in, const QString& folder) {
    RandomUserOptions o;
    o.seed = in.value("seed").toULongLong();
    o.seconds = in.value("seconds").toDouble();
    if (in.isSet("actions")) o.actions = in.value("actions").toInt();
    o.replay = in.value("replay"), o.record = in.value("record");
    o.folder = folder;
    o.kit = folder + "/kit";
    std::error_code failed;
    std::filesystem::copy(demo("kit"), o.kit.toStdString(), std::filesystem::copy_options::recursive, failed);
    for (const char* file : {"/cube.obj", "/broken.obj", "/broken.png"}) o.drops << folder + file;
    std::ofstream(o.drops[0].toStdString())
        << "v 0 0 0\nv 100 0 0\nv 0 100 0\nv 0 0 100\nf 1 3 2\nf 1 2 4\nf 1 4 3\nf 2 3 4\n";
    std::ofstream(o.drops[1].toStdString()) << "v 0 0\nf 1 2 3\n";
    std::ofstream(o.drops[2].toStdString()) << "no picture";
    for (const char* file : {"subjects/ottoline/ottoline_scan.glb", "subjects/juniper/juniper_three_quarter.jpg",
                             "subjects/ottoline/ottoline_landmarks.json", "returns/warden_clean.obj"})
        o.drops << QString::fromStdString(demo(file));
    if (!in.isSet("empty")) {
        o.project = folder + "/demo.veldstone";
        make_project(o.project.toStdString(), o.kit.toStdString(), o.seed);
    }
    return o;
}

int drive(int argc, char** argv, const QCommandLineParser& in) {
    theme::prepare();
    QStandardPaths::setTestModeEnabled(true);
    QApplication app(argc, argv);
    QApplication::setOrganizationName("VeldstoneTest"), QApplication::setApplicationName("VeldstoneTest");
    QApplication::setQuitOnLastWindowClosed(false);
    theme::apply(app);
    g_interface_thread = pthread_self();
    for (const int s : {SIGSEGV, SIGABRT, SIGBUS, SIGFPE, SIGUSR1}) ::signal(s, say_where);
    std::thread watcher(watch, in.value("hang").toDouble());
    Scratch scratch;
    RandomUser user(options_of(in, QString::fromStdString(scratch / "")));
    const QString trouble = user.run();
    g_over = true;
    watcher.join();
    std::printf("%d actions, %d changes\n", user.actions_done(), user.changes());
    if (trouble.isEmpty()) return 0;
    std::fprintf(stderr, "%s\n", qPrintable(trouble));
    return kFails;
}

// --- the other side: starts such users and looks after them

struct Run {
    std::uint64_t seed = 0;
    bool empty = false;
    QString record;
    std::unique_ptr<QProcess> process;
};

QStringList arguments_of(const QCommandLineParser& in, const Run& run) {
    QStringList out{"--drive",           "--seed", QString::number(run.seed), "--seconds",
                    in.value("seconds"), "--hang", in.value("hang")};
    if (run.empty) out << "--empty";
    return out;
}

std::unique_ptr<QProcess> start(const QStringList& arguments) {
    auto out = std::make_unique<QProcess>();
    out->setProcessChannelMode(QProcess::MergedChannels);
    const QString screen = QString(VELDSTONE_SOURCE) + "/tests/support/own_screen";
    out->start(screen, QStringList{QString::fromStdString(std::filesystem::read_symlink("/proc/self/exe").string())} +
                           arguments);
    return out;
}

bool fails(const QCommandLineParser& in, const Run& run, int actions) {
    auto again =
        start(arguments_of(in, run) + QStringList{"--replay", run.record, "--actions", QString::number(actions)});
    const bool ended = again->waitForFinished(static_cast<int>(1000 * (2 * in.value("seconds").toDouble() + 120)));
    return !ended || again->exitStatus() != QProcess::NormalExit || again->exitCode() != 0;
}

// The shortest beginning that still fails, by bisection: what fails with n actions is taken to fail with more.
int shortest_failing(const QCommandLineParser& in, const Run& run, int actions) {
    if (!fails(in, run, actions)) return -1;
    int good = 0, bad = actions;
    while (bad - good > 1 && bad - good > bad / 50) {
        const int middle = (good + bad) / 2;
        (fails(in, run, middle) ? bad : good) = middle;
    }
    return bad;
}

int count_lines(const QString& file) {
    QFile in(file);
    return in.open(QIODevice::ReadOnly) ? static_cast<int>(in.readAll().count('\n')) : 0;
}

// How long one may take, ms: the way back to the beginning, and work that is waited for, come after the clicks. Who is
// patient with signs of life (a sanitized build) is so with all of it.
int most_ms(const QCommandLineParser& in) {
    return static_cast<int>(1000 * (in.value("seconds").toDouble() + 36 * in.value("hang").toDouble()));
}

int look_after(const QCommandLineParser& in) {
    QTextStream say(stdout);
    std::random_device random;
    const QString kept = in.value("keep").isEmpty() ? QDir::tempPath() : in.value("keep");
    QDir().mkpath(kept);
    const int seeds = in.isSet("seed") ? 1 : in.value("seeds").toInt();
    int failed = 0, begun = 0;
    std::vector<Run> runs;
    while (begun < seeds || !runs.empty()) {
        while (begun < seeds && static_cast<int>(runs.size()) < in.value("side-by-side").toInt()) {
            Run run;
            run.seed = in.isSet("seed") ? in.value("seed").toULongLong() : random() % 1000000000u;
            run.empty = in.isSet("empty") || (!in.isSet("seed") && begun % 2 == 1);
            run.record = QString("%1/random_user_%2.txt").arg(kept).arg(run.seed);
            say << "seed " << run.seed << (run.empty ? " (no project)" : " (demo project)") << Qt::endl;
            run.process = start(arguments_of(in, run) + QStringList{"--record", run.record});
            runs.push_back(std::move(run));
            ++begun;
        }
        Run& run = runs.front();
        const bool ended = run.process->waitForFinished(most_ms(in));
        const QString told = QString::fromLocal8Bit(run.process->readAll());
        if (!ended) run.process->kill();
        const bool lived = ended && run.process->exitStatus() == QProcess::NormalExit && run.process->exitCode() == 0;
        say << "seed " << run.seed << ": "
            << (lived ? "lived, " + told.trimmed().section('\n', -1)
                      : QString("FAILED, %1 actions").arg(count_lines(run.record)))
            << Qt::endl;
        if (lived) {
            QFile::remove(run.record);
        } else {
            ++failed;
            say << told << Qt::endl << "recorded in " << run.record << Qt::endl;
            if (!in.isSet("no-shortening")) {
                const int n = shortest_failing(in, run, count_lines(run.record));
                if (n > 0)
                    say << "still fails with its first " << n << " actions: random_user --drive --seed " << run.seed
                        << (run.empty ? " --empty" : "") << " --replay " << run.record << " --actions " << n
                        << Qt::endl;
                else
                    say << "did not fail when it was replayed" << Qt::endl;
            }
        }
        runs.erase(runs.begin());
    }
    say << seeds - failed << " passed, " << failed << " failed" << Qt::endl;
    return failed == 0 ? 0 : 1;
}

}  // namespace
}  // namespace veld

int main(int argc, char** argv) {
    QCommandLineParser in;
    in.addOptions({{"drive", "Be the user"},
                   {"seed", "", "N", "1"},
                   {"seeds", "", "N", "2"},
                   {"seconds", "", "S", "60"},
                   {"actions", "", "N"},
                   {"empty", "Without a project"},
                   {"replay", "", "FILE"},
                   {"record", "", "FILE"},
                   {"hang", "Seconds without a sign of life", "S", "5"},
                   {"side-by-side", "", "N", "2"},
                   {"keep", "Where failures are recorded", "FOLDER"},
                   {"no-shortening", ""}});
    QStringList arguments;
    for (int i = 0; i < argc; ++i) arguments << QString::fromLocal8Bit(argv[i]);
    if (!in.parse(arguments)) {
        std::fprintf(stderr, "%s\n", qPrintable(in.errorText()));
        return 2;
    }
    if (in.isSet("drive")) return veld::drive(argc, argv, in);
    QCoreApplication app(argc, argv);
    return veld::look_after(in);
}
