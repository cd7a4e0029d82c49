# SPDX-License-Identifier: Apache-2.0
# One test binary per room, made of the room's *_test.cpp, and each of its cases a test of CTest.
find_package(Catch2 2 REQUIRED)
include(Catch)

add_library(lumvet_test_support INTERFACE)
target_include_directories(lumvet_test_support INTERFACE ${PROJECT_SOURCE_DIR}/src ${PROJECT_SOURCE_DIR})
target_link_libraries(lumvet_test_support INTERFACE lumvet_flags lumvet::core lumvet::page lumvet::sign OpenSSL::Crypto Catch2::Catch2WithMain)
# Tests are built more often than they run.
target_compile_options(lumvet_test_support INTERFACE $<$<CONFIG:Release>:-O1>)
target_compile_definitions(lumvet_test_support INTERFACE
  LUMVET_SOURCE_DIR="${PROJECT_SOURCE_DIR}" LUMVET_BINARY_DIR="${CMAKE_BINARY_DIR}")

# Compiled once; what every test begins with.
add_library(lumvet_test_header OBJECT ${PROJECT_SOURCE_DIR}/tests/support/precompiled.cpp)
target_link_libraries(lumvet_test_header PUBLIC lumvet_test_support)
# The same code model as executables have by themselves, or the precompiled header would not fit.
set_target_properties(lumvet_test_header PROPERTIES POSITION_INDEPENDENT_CODE OFF)
target_precompile_headers(lumvet_test_header PRIVATE ${PROJECT_SOURCE_DIR}/tests/support/catch.h)

function(lumvet_test name)
  add_executable(${name} ${ARGN})
  target_link_libraries(${name} PRIVATE lumvet_test_support)
  target_precompile_headers(${name} REUSE_FROM lumvet_test_header)
  set_target_properties(${name} PROPERTIES POSITION_INDEPENDENT_CODE OFF)
  catch_discover_tests(${name} TEST_PREFIX "${name}: " PROPERTIES TIMEOUT 1800)
endfunction()

foreach(room base io geometry crypto objects filters security file document linear save assemble edit
             fonts color images raster draw appearance content render text compose annotate forms exchange redact compare sign)
  file(GLOB room_tests CONFIGURE_DEPENDS ${PROJECT_SOURCE_DIR}/src/${room}/*_test.cpp)
  if(room_tests)
    lumvet_test(test-${room} ${room_tests})
  endif()
endforeach()

# The image codecs are held against the encoders of others.
target_link_libraries(test-images PRIVATE PkgConfig::tiff PkgConfig::openjpeg JPEG::JPEG)
target_link_libraries(test-color PRIVATE PkgConfig::lcms2)
target_link_libraries(test-compose PRIVATE nlohmann_json::nlohmann_json)
target_link_libraries(test-redact PRIVATE ZLIB::ZLIB)
target_link_libraries(test-sign PRIVATE lumvet-standins)
target_link_libraries(test-render PRIVATE PkgConfig::lcms2 PkgConfig::tiff)
target_link_libraries(test-raster PRIVATE PkgConfig::tiff PkgConfig::webp JPEG::JPEG)
