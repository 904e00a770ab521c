#pragma once
// Words that core gives the window - landmarks, regions, tools and their numbers - in the window's language.
#include <QString>
#include <string>
#include <vector>

namespace veld {

// As it is when no translation knows it: a landmark or region of one's own.
QString core_word(const std::string& english);
// All that translations know of; a test holds the list against core's tables.
const std::vector<std::string>& core_words();

}  // namespace veld
