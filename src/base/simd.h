// SPDX-License-Identifier: Apache-2.0
// Functions whose loops are compiled twice where that is possible, for the vectors that all
// machines of the kind have and for those that most have. Their arithmetic gives the same in both.
#pragma once

#if defined(__x86_64__) && defined(__GNUC__) && !defined(__clang__) && \
    !defined(__SANITIZE_ADDRESS__) && !defined(__SANITIZE_THREAD__)
#define LUMVET_WIDE __attribute__((target_clones("default", "avx2")))
#else
#define LUMVET_WIDE
#endif

// What goes into such a function whole, so that it is compiled as that is.
#define LUMVET_INSIDE inline __attribute__((always_inline))
