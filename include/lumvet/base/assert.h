// SPDX-License-Identifier: Apache-2.0
// Mistakes of the caller that no file can bring about, such as asking a failed call for its value:
// a program built for debugging (without NDEBUG) says what is wrong and ends; any other goes on
// with what the function promises.
#pragma once

#include <cstdio>
#include <cstdlib>

#ifdef NDEBUG
#define LUMVET_ASSERT(condition, words) static_cast<void>(0)
#else
#define LUMVET_ASSERT(condition, words) \
  (static_cast<bool>(condition)         \
       ? static_cast<void>(0)           \
       : (static_cast<void>(std::fprintf(stderr, "lumvet: %s\n", words)), std::abort()))
#endif
