# SPDX-License-Identifier: Apache-2.0
# The shared libraries, built quickly, installed into a clean prefix and used by strangers; and what
# they export, held against the lists in cmake/symbols.
set(build ${BUILD}/shared)
set(prefix ${build}/prefix)
set(here ${CMAKE_CURRENT_LIST_DIR})

include(${here}/run_command.cmake)

run(${CMAKE_COMMAND} -S ${SOURCE} -B ${build} -G Ninja -DBUILD_SHARED_LIBS=ON -DCMAKE_BUILD_TYPE=None
    -DCMAKE_CXX_FLAGS=-O0 -DLUMVET_TOOL=OFF -DLUMVET_EXAMPLES=OFF -DLUMVET_TESTS=OFF
    -DCMAKE_INSTALL_LIBDIR=lib)
run(${CMAKE_COMMAND} --build ${build} -j 2)
file(REMOVE_RECURSE ${prefix})
run(${CMAKE_COMMAND} --install ${build} --prefix ${prefix})

string(REGEX MATCH "^[0-9]+\\.[0-9]+" soversion ${VERSION})
foreach(component core page sign)
  set(library ${prefix}/lib/liblumvet-${component}.so)
  run(readelf -d ${library})
  if(NOT output MATCHES "SONAME.*liblumvet-${component}\\.so\\.${soversion}\\]")
    message(FATAL_ERROR "${library} is not versioned: ${output}")
  endif()
  # Every symbol that it defines for others is in a list, and every listed one is there.
  run(sh -c "export LC_ALL=C && nm -D --defined-only ${library} | grep -v ' A ' | awk '{print $3}' | sed 's/@.*//' | c++filt | sort -u > ${build}/${component}.found && cat ${SOURCE}/cmake/symbols/${component}*.txt | sort -u > ${build}/${component}.listed && diff ${build}/${component}.listed ${build}/${component}.found")
endforeach()

set(ENV{LD_LIBRARY_PATH} ${prefix}/lib)
set(ENV{PKG_CONFIG_PATH} ${prefix}/lib/pkgconfig)
foreach(component core page sign)
  run(${CMAKE_COMMAND} -S ${here} -B ${build}/uses-${component} -G Ninja -DCOMPONENT=${component}
      -DCMAKE_PREFIX_PATH=${prefix})
  run(${CMAKE_COMMAND} --build ${build}/uses-${component})
  run(${build}/uses-${component}/uses_${component} ${SOURCE}/demo/producers/notice.pdf)
  if(NOT output MATCHES "1 page")
    message(FATAL_ERROR "uses_${component} said: ${output}")
  endif()
  run(sh -c "c++ -std=c++20 ${here}/uses_${component}.cpp -o ${build}/by_pkg_config_${component} $(pkg-config --cflags --libs lumvet-${component})")
  run(${build}/by_pkg_config_${component} ${SOURCE}/demo/producers/notice.pdf)
endforeach()
