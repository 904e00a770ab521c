#include "cli/amounts.h"

#include <cmath>
#include <cstdlib>

#include "core/exchange/own_order.h"
#include "core/morph/morph_file.h"

namespace veld::cli {

std::pair<std::string, std::string> parted(const std::string& text) {
    const std::size_t at = text.find('=');
    if (at == std::string::npos || at == 0) return {};
    return {text.substr(0, at), text.substr(at + 1)};
}
namespace {

bool split_amount(const std::string& text, std::string& path, double& amount) {
    const std::size_t at = text.rfind('=');
    path = text.substr(0, at);
    if (at == std::string::npos) return true;
    const char* begin = text.c_str() + at + 1;
    char* end = nullptr;
    amount = std::strtod(begin, &end);
    return end != begin && *end == 0 && std::isfinite(amount);
}

}  // namespace

Result<std::vector<MorphAmount>> read_amounts(const BaseKit& kit, const std::vector<std::string>& texts, double usual,
                                              std::vector<Morph>& morphs) {
    morphs.resize(texts.size());
    std::vector<MorphAmount> out;
    for (std::size_t i = 0; i < texts.size(); ++i) {
        std::string path;
        double amount = usual;
        if (!split_amount(texts[i], path, amount))
            return Error{ErrorCode::BadInput, "'" + texts[i] + "': the amount after '=' is no number."};
        auto morph = read_morph(path, kit);
        if (!morph) return morph.error();
        morphs[i] = std::move(*morph);
        out.push_back({&morphs[i], amount});
    }
    return out;
}

Result<Points> shape_or_mix(const BaseKit& kit, const std::string& shape, const std::vector<std::string>& texts) {
    if (shape.empty() == texts.empty()) return Error{ErrorCode::BadInput, "Say --shape or --morph, and not both."};
    if (!shape.empty()) return read_base_shape(kit, shape);
    std::vector<Morph> morphs;
    const auto amounts = read_amounts(kit, texts, 1, morphs);
    if (!amounts) return amounts.error();
    return mix_morphs(kit.mesh.positions, *amounts);
}

}  // namespace veld::cli
