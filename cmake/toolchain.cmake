# SPDX-License-Identifier: Apache-2.0
# Warnings, sanitizers and the compiler cache, for this project's own targets.

find_program(CCACHE_PROGRAM ccache)
if(CCACHE_PROGRAM AND PROJECT_IS_TOP_LEVEL AND NOT CMAKE_CXX_COMPILER_LAUNCHER)
  # Precompiled headers need the sloppiness, says ccache's manual.
  set(CMAKE_CXX_COMPILER_LAUNCHER ${CMAKE_COMMAND} -E env
      CCACHE_BASEDIR=${CMAKE_SOURCE_DIR} CCACHE_NOHASHDIR=1
      CCACHE_SLOPPINESS=pch_defines,time_macros,include_file_mtime,include_file_ctime
      ${CCACHE_PROGRAM})
endif()

add_library(lumvet_flags INTERFACE)
target_compile_options(lumvet_flags INTERFACE -Wall -Wextra -Wconversion)
if(CMAKE_CXX_COMPILER_ID MATCHES "Clang")
  # Here -Wconversion means signs as well, which g++ leaves out for C++.
  target_compile_options(lumvet_flags INTERFACE -Wno-sign-conversion)
elseif(CMAKE_CXX_COMPILER_ID STREQUAL "GNU")
  target_compile_options(lumvet_flags INTERFACE -fpch-preprocess)
  # False alarms of g++ 12 inside std::variant, vector and string.
  target_compile_options(lumvet_flags INTERFACE -Wno-maybe-uninitialized -Wno-stringop-overflow
                         -Wno-array-bounds -Wno-restrict -Wno-free-nonheap-object)
  # Of private types in files that are compiled together with others.
  target_compile_options(lumvet_flags INTERFACE -Wno-subobject-linkage)
endif()
# Drawing gives the same bytes everywhere: no fused multiply-add where the source has two steps.
target_compile_options(lumvet_flags INTERFACE -ffp-contract=off)
if(LUMVET_WERROR)
  target_compile_options(lumvet_flags INTERFACE -Werror)
endif()
if(LUMVET_SANITIZE)
  target_compile_options(lumvet_flags INTERFACE -fsanitize=${LUMVET_SANITIZE}
                         -fno-omit-frame-pointer -fno-sanitize-recover=all)
  target_link_options(lumvet_flags INTERFACE -fsanitize=${LUMVET_SANITIZE})
endif()
if(LUMVET_FUZZ)
  target_compile_options(lumvet_flags INTERFACE -fsanitize=fuzzer-no-link)
endif()
