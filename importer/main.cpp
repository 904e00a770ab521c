// veldstone-importer FILE BYTES: reads FILE with a general library and writes the mesh to standard output, with at
// most BYTES of memory. Started by the program (core/io/general_import.h), not by people.
#include <sys/resource.h>

#include <cstdio>
#include <cstdlib>
#include <new>

#include "core/io/general_import.h"
#include "importer/assimp_read.h"

namespace {

// A sanitizer reserves terabytes of addresses: there the parent's watch over what is really used has to do.
#if defined(__SANITIZE_ADDRESS__) || defined(__SANITIZE_THREAD__)
constexpr bool kLimitAddresses = false;
#else
constexpr bool kLimitAddresses = true;
#endif
constexpr rlim_t kOwnBytes = rlim_t{512} << 20;  // program and libraries

void write_out(const std::string& answer) {
    std::fwrite(answer.data(), 1, answer.size(), stdout);
    std::fflush(stdout);
}

}  // namespace

int main(int argc, char** argv) {
    if (argc != 3) {
        std::fprintf(stderr, "usage: veldstone-importer FILE BYTES\n");
        return 2;
    }
    const rlim_t bytes = std::strtoull(argv[2], nullptr, 10) + kOwnBytes;
    const rlimit limit{bytes, bytes}, no_core{0, 0};
    if (kLimitAddresses) setrlimit(RLIMIT_AS, &limit);
    setrlimit(RLIMIT_CORE, &no_core);
    const std::string path = argv[1];
    const veld::Error too_large{veld::ErrorCode::Limit,
                                "'" + path +
                                    "' asks for more memory than a file of its size should: it is damaged, or "
                                    "promises more than it holds. Export it again as OBJ, PLY or GLB."};
    try {
        const auto file = veld::read_by_assimp(path);
        write_out(file ? veld::import_answer(*file) : veld::import_answer(file.error()));
    } catch (const std::bad_alloc&) {
        write_out(veld::import_answer(too_large));
    } catch (const std::exception& e) {
        write_out(veld::import_answer(veld::Error{
            veld::ErrorCode::BadFile, "'" + path + "' cannot be read: " + e.what() + ". Export it as OBJ or GLB."}));
    }
    std::_Exit(0);  // what the library holds goes with the process
}
