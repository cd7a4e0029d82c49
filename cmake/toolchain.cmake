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
  # Less collecting of garbage, for which a compiler takes up to a gigabyte: a tenth of the time.
  target_compile_options(lumvet_flags INTERFACE -fpch-preprocess --param=ggc-min-heapsize=400000)
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
# What is looked for is in the library, whose targets are LUMVET_WATCHED. What stands around it, tests
# and the tool, is compiled without optimizing and watched for its memory alone: a quarter of the time.
set(is_watched $<BOOL:$<TARGET_PROPERTY:LUMVET_WATCHED>>)
if(LUMVET_SANITIZE)
  string(REPLACE ",undefined" "" LUMVET_SANITIZE_AROUND "${LUMVET_SANITIZE}")
  target_compile_options(lumvet_flags INTERFACE
    $<${is_watched}:-fsanitize=${LUMVET_SANITIZE}>
    $<$<NOT:${is_watched}>:-fsanitize=${LUMVET_SANITIZE_AROUND}> $<$<NOT:${is_watched}>:-O0>
    -fno-omit-frame-pointer -fno-sanitize-recover=all)
  target_link_options(lumvet_flags INTERFACE -fsanitize=${LUMVET_SANITIZE})
  # Dozens of large programs are linked: by this one in a fifth of the time.
  find_program(LUMVET_LLD ld.lld PATHS /usr/lib/llvm-14/bin)
  if(LUMVET_LLD AND CMAKE_CXX_COMPILER_ID MATCHES "Clang")
    target_link_options(lumvet_flags INTERFACE -fuse-ld=lld)
  endif()
endif()
if(LUMVET_FUZZ)
  if(LUMVET_FUZZ_TRACE)
    target_compile_options(lumvet_flags INTERFACE $<${is_watched}:-fsanitize=fuzzer-no-link>)
  else()
    target_compile_options(lumvet_flags INTERFACE
      $<${is_watched}:-fsanitize-coverage=inline-8bit-counters,pc-table>)
  endif()
endif()
