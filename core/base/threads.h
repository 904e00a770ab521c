#pragma once
// How many threads loops inside one piece of work may take.

namespace veld {

// From now on, for all work; 0: as many as the machine has. Results do not depend on it.
void limit_threads(int most);
// What it has, at least 1.
int machine_threads();

}  // namespace veld
