# SPDX-License-Identifier: Apache-2.0
# Installs the build into a clean prefix and builds the little consumers against it.
set(prefix ${BUILD}/consumer/prefix)
set(here ${CMAKE_CURRENT_LIST_DIR})
file(REMOVE_RECURSE ${BUILD}/consumer)

include(${here}/run_command.cmake)

run(${CMAKE_COMMAND} --install ${BUILD} --prefix ${prefix})

foreach(component core page sign)
  run(${CMAKE_COMMAND} -S ${here} -B ${BUILD}/consumer/${component} -G Ninja -DCOMPONENT=${component}
      -DCMAKE_PREFIX_PATH=${prefix})
  run(${CMAKE_COMMAND} --build ${BUILD}/consumer/${component})
  run(${BUILD}/consumer/${component}/uses_${component} ${SOURCE}/demo/producers/notice.pdf)
  if(NOT output MATCHES "1 page")
    message(FATAL_ERROR "uses_${component} said: ${output}")
  endif()
endforeach()

# Without naming any component there are all, and an unknown one is named.
run(${CMAKE_COMMAND} -S ${here} -B ${BUILD}/consumer/any -G Ninja -DCOMPONENT=page -DFINDS_ALL=ON
    -DCMAKE_PREFIX_PATH=${prefix})
execute_process(COMMAND ${CMAKE_COMMAND} -S ${here} -B ${BUILD}/consumer/unknown -G Ninja
                        -DCOMPONENT=pagse -DCMAKE_PREFIX_PATH=${prefix}
                RESULT_VARIABLE result ERROR_VARIABLE output OUTPUT_QUIET)
if(result EQUAL 0 OR NOT output MATCHES "no component \"pagse\"")
  message(FATAL_ERROR "an unknown component gives: ${output}")
endif()

# Every public header compiles alone, with the warnings that an application may have made errors;
# setting some fields of an options type by name is none.
file(GLOB_RECURSE headers RELATIVE ${prefix}/include ${prefix}/include/lumvet/*.h)
list(LENGTH headers count)
if(count LESS 40)
  message(FATAL_ERROR "only ${count} headers were installed")
endif()
file(WRITE ${BUILD}/consumer/headers.txt "")
foreach(header IN LISTS headers)
  file(APPEND ${BUILD}/consumer/headers.txt "${header}\n")
endforeach()
run(sh -c "cd ${BUILD}/consumer && xargs -P 2 -I H sh -c 'echo \"#include <H>\" | c++ -std=c++20 -fsyntax-only -Wall -Wextra -Wpedantic -Werror -I${prefix}/include -x c++ -' < headers.txt")
run(sh -c "cd ${prefix}/include && (echo '#include \"header_examples.h\"' && awk -f ${here}/header_examples.awk $(find lumvet -name '*.h' | sort)) > ${BUILD}/consumer/header_examples.cpp")
run(c++ -std=c++20 -fsyntax-only -w -I${prefix}/include -I${here} ${BUILD}/consumer/header_examples.cpp)
foreach(program sets_options first)
  run(c++ -std=c++20 -fsyntax-only -Wall -Wextra -Werror -I${prefix}/include ${here}/${program}.cpp)
endforeach()

# An application that only binds files must not be made to find a font engine.
file(GLOB_RECURSE pc_file ${prefix}/lumvet-core.pc)
cmake_path(GET pc_file PARENT_PATH pc_folder)
set(ENV{PKG_CONFIG_PATH} ${pc_folder})
run(pkg-config --static --libs lumvet-core)
if(output MATCHES "freetype")
  message(FATAL_ERROR "lumvet-core pulls in a font engine: ${output}")
endif()
run(pkg-config --modversion lumvet-page)
if(NOT output MATCHES "${VERSION}")
  message(FATAL_ERROR "lumvet-page is version ${output}, not ${VERSION}")
endif()
foreach(component core page sign)
  run(sh -c "c++ -std=c++20 ${here}/uses_${component}.cpp -o ${BUILD}/consumer/by_pkg_config_${component} $(pkg-config --static --cflags --libs lumvet-${component})")
  run(${BUILD}/consumer/by_pkg_config_${component} ${SOURCE}/demo/producers/notice.pdf)
endforeach()

# As part of another project.
run(${CMAKE_COMMAND} -S ${here}/subproject -B ${BUILD}/consumer/subproject -G Ninja -DLUMVET_SOURCE=${SOURCE})
run(${CMAKE_COMMAND} --build ${BUILD}/consumer/subproject --target help)
if(NOT output MATCHES "lumvet-core")
  message(FATAL_ERROR "add_subdirectory gives no lumvet-core: ${output}")
endif()
if(output MATCHES "lumvet-tool|test-base")
  message(FATAL_ERROR "add_subdirectory brings the tool or the tests along")
endif()
