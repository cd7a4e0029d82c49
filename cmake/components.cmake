# SPDX-License-Identifier: Apache-2.0
# The library as components: each a target lumvet::<name>, made of the rooms under src/.

find_package(PkgConfig REQUIRED)
find_package(Threads REQUIRED)
find_package(ZLIB REQUIRED)
find_package(OpenSSL REQUIRED COMPONENTS Crypto)
pkg_check_modules(libdeflate REQUIRED IMPORTED_TARGET libdeflate)
find_package(ICU REQUIRED COMPONENTS uc i18n)
find_package(pugixml REQUIRED)
find_package(Freetype REQUIRED)
find_package(Fontconfig REQUIRED)
find_package(JPEG REQUIRED)
pkg_check_modules(openjpeg REQUIRED IMPORTED_TARGET libopenjp2)
pkg_check_modules(jbig2dec REQUIRED IMPORTED_TARGET jbig2dec)
find_package(PNG REQUIRED)
pkg_check_modules(lcms2 REQUIRED IMPORTED_TARGET lcms2)
pkg_check_modules(tiff REQUIRED IMPORTED_TARGET libtiff-4)
pkg_check_modules(harfbuzz REQUIRED IMPORTED_TARGET harfbuzz harfbuzz-subset)
pkg_check_modules(cmark REQUIRED IMPORTED_TARGET libcmark)
find_package(nlohmann_json REQUIRED)
pkg_check_modules(p11kit REQUIRED IMPORTED_TARGET p11-kit-1)
pkg_check_modules(webp REQUIRED IMPORTED_TARGET libwebp libwebpmux)

configure_file(${PROJECT_SOURCE_DIR}/cmake/version.h.in ${PROJECT_BINARY_DIR}/include/lumvet/version.h
               @ONLY)

# Files of one room that are compiled as one, which is several times as quick.
function(lumvet_unite room)
  if(NOT LUMVET_UNITY)
    return()
  endif()
  set(most_files 16)
  set(index 0)
  foreach(source IN LISTS ARGN)
    math(EXPR group "${index} / ${most_files}")
    math(EXPR index "${index} + 1")
    set_source_files_properties(${source} PROPERTIES UNITY_GROUP ${room}-${group})
  endforeach()
endfunction()

# What a shared library exports: the symbols of cmake/symbols/<name>.txt for everybody, and those of
# <name>-private.txt, under a version of their own, for the other library of the same version.
# tools/list_symbols.sh makes the lists; a test holds them against what is built.
function(lumvet_export name)
  set(map ${CMAKE_BINARY_DIR}/lumvet-${name}.map)
  set(version ${PROJECT_VERSION_MAJOR}.${PROJECT_VERSION_MINOR})
  set(text "")
  foreach(list IN ITEMS ${name} ${name}-private)
    set(file ${PROJECT_SOURCE_DIR}/cmake/symbols/${list}.txt)
    if(NOT EXISTS ${file})
      continue()
    endif()
    set_property(DIRECTORY APPEND PROPERTY CMAKE_CONFIGURE_DEPENDS ${file})
    file(STRINGS ${file} symbols)
    string(REPLACE "${name}" "LUMVET" node "${list}")
    string(TOUPPER "${node}" node)
    string(REPLACE "-" "_" node "${node}")
    string(APPEND text "${node}_${version} {\n  global:\n    extern \"C++\" {\n")
    foreach(symbol IN LISTS symbols)
      string(APPEND text "      \"${symbol}\";\n")
      # As linkers print it.
      string(REPLACE "std::basic_istream<char, std::char_traits<char> >" "std::istream" short
             "${symbol}")
      if(NOT short STREQUAL symbol)
        string(APPEND text "      \"${short}\";\n")
      endif()
    endforeach()
    string(APPEND text "    };\n")
    if(list STREQUAL name)
      string(APPEND text "  local:\n    *;\n")
    endif()
    string(APPEND text "};\n")
  endforeach()
  file(CONFIGURE OUTPUT ${map} CONTENT "${text}" @ONLY)
  target_link_options(lumvet-${name} PRIVATE -Wl,--version-script=${map} -Wl,--no-undefined)
  set_target_properties(lumvet-${name} PROPERTIES LINK_DEPENDS ${map})
  if(EXISTS ${PROJECT_SOURCE_DIR}/cmake/symbols/${name}-private.txt)
    # The list decides what is seen, and within the library nobody can take another's place.
    set_target_properties(lumvet-${name} PROPERTIES CXX_VISIBILITY_PRESET default)
    target_compile_options(lumvet-${name} PRIVATE -fno-semantic-interposition)
  endif()
endfunction()

# Read once for each library and the tool.
set(LUMVET_PRECOMPILED <algorithm> <array> <cmath> <filesystem> <functional> <map> <memory> <mutex> <optional>
    <set> <string> <unordered_map> <variant> <vector>)

# The sources of some rooms.
function(lumvet_sources out)
  set(sources)
  foreach(room IN LISTS ARGN)
    file(GLOB room_sources CONFIGURE_DEPENDS ${PROJECT_SOURCE_DIR}/src/${room}/*.cpp)
    list(FILTER room_sources EXCLUDE REGEX "_(test|bench)\\.cpp$")
    list(APPEND sources ${room_sources})
  endforeach()
  set(${out} ${sources} PARENT_SCOPE)
endfunction()

# How all sources are compiled, by the target that they are of.
function(lumvet_compile target)
  set_target_properties(${target} PROPERTIES LUMVET_WATCHED ON)
  target_include_directories(${target}
    PUBLIC $<BUILD_INTERFACE:${PROJECT_SOURCE_DIR}/include>
           $<BUILD_INTERFACE:${PROJECT_BINARY_DIR}/include> $<INSTALL_INTERFACE:include>
    PRIVATE ${PROJECT_SOURCE_DIR}/src)
  target_compile_features(${target} PUBLIC cxx_std_20)
  target_precompile_headers(${target} PRIVATE ${LUMVET_PRECOMPILED})
  target_link_libraries(${target} PRIVATE $<BUILD_INTERFACE:lumvet_flags> PUBLIC Threads::Threads)
endfunction()

# Most of what is done here is bound by memory and by the libraries below it; optimizing further doubles
# the time of building it and gains nothing that was measured.
function(lumvet_component name)
  foreach(room IN LISTS ARGN)
    lumvet_sources(room_sources ${room})
    lumvet_unite(${room} ${room_sources})
  endforeach()
  lumvet_sources(sources ${ARGN})
  add_library(lumvet-${name} ${sources})
  add_library(lumvet::${name} ALIAS lumvet-${name})
  set_target_properties(lumvet-${name} PROPERTIES EXPORT_NAME ${name} UNITY_BUILD ${LUMVET_UNITY}
                        UNITY_BUILD_MODE GROUP VERSION ${PROJECT_VERSION}
                        SOVERSION ${PROJECT_VERSION_MAJOR}.${PROJECT_VERSION_MINOR})
  lumvet_compile(lumvet-${name})
  target_compile_options(lumvet-${name} PRIVATE $<$<CONFIG:Release>:-O2>)
  if(BUILD_SHARED_LIBS)
    lumvet_export(${name})
  endif()
endfunction()

# Rooms with innermost loops, which become part of a component: optimized further, and each file by
# itself, since what an optimizer does there should not follow from neighbors. Those that only call what
# loops are compiled together all the same.
set(LUMVET_WITHOUT_LOOPS
  color/calibrated color/profile color/color_space
  images/codec images/image images/image_facts images/jbig2 images/sample_reader images/stored_image images/whole_samples
  raster/image_writer raster/jpeg_encoder raster/pnm_encoder raster/raster raster/screen_profile raster/tiff_encoder raster/webp_encoder
  render/blank_page render/highlight render/page_images render/placed_images render/thumbnail)
function(lumvet_loops name)
  lumvet_sources(sources ${ARGN})
  add_library(lumvet-${name}-loops OBJECT ${sources})
  set_target_properties(lumvet-${name}-loops PROPERTIES UNITY_BUILD ${LUMVET_UNITY} UNITY_BUILD_MODE GROUP)
  foreach(room IN LISTS ARGN)
    set(together ${LUMVET_WITHOUT_LOOPS})
    list(FILTER together INCLUDE REGEX "^${room}/")
    list(TRANSFORM together REPLACE "(.+)" "${PROJECT_SOURCE_DIR}/src/\\1.cpp")
    lumvet_unite(${room} ${together})
  endforeach()
  lumvet_compile(lumvet-${name}-loops)
  get_target_property(visibility lumvet-${name} CXX_VISIBILITY_PRESET)
  get_target_property(options lumvet-${name} COMPILE_OPTIONS)
  set_target_properties(lumvet-${name}-loops PROPERTIES CXX_VISIBILITY_PRESET ${visibility})
  target_compile_options(lumvet-${name}-loops PRIVATE ${options} $<$<CONFIG:Release>:-O3>)
  target_sources(lumvet-${name} PRIVATE $<TARGET_OBJECTS:lumvet-${name}-loops>)
endfunction()

lumvet_component(core base io geometry crypto objects filters security file document linear save assemble edit)
target_link_libraries(lumvet-core PRIVATE PkgConfig::libdeflate ZLIB::ZLIB OpenSSL::Crypto ICU::uc
  pugixml::pugixml)

lumvet_component(page fonts draw appearance content text compose annotate forms exchange redact compare)
lumvet_loops(page color images raster render)
set(page_packages Freetype::Freetype Fontconfig::Fontconfig JPEG::JPEG PNG::PNG ZLIB::ZLIB PkgConfig::libdeflate PkgConfig::openjpeg
    PkgConfig::jbig2dec PkgConfig::lcms2 PkgConfig::tiff PkgConfig::webp PkgConfig::harfbuzz ICU::i18n ICU::uc
    PkgConfig::cmark hyphen pugixml::pugixml $<BUILD_INTERFACE:nlohmann_json::nlohmann_json>)
target_link_libraries(lumvet-page PUBLIC lumvet::core PRIVATE ${page_packages})
target_link_libraries(lumvet-page-loops PRIVATE lumvet::core ${page_packages})
# Gradients, blend modes and short edges are reckoned in vectors of numbers, of which nobody asks
# afterwards what went wrong; which is nothing that the precompiled header knows of.
set_source_files_properties(${PROJECT_SOURCE_DIR}/src/color/shading.cpp
  ${PROJECT_SOURCE_DIR}/src/color/blend_mode.cpp ${PROJECT_SOURCE_DIR}/src/raster/short_edges.cpp
  PROPERTIES COMPILE_OPTIONS "-fno-math-errno;-fno-trapping-math" SKIP_PRECOMPILE_HEADERS ON)

# Signatures made and judged.
lumvet_component(sign sign)
target_link_libraries(lumvet-sign PUBLIC lumvet::page PRIVATE OpenSSL::Crypto PkgConfig::p11kit ICU::uc)
