# SPDX-License-Identifier: Apache-2.0
include(GNUInstallDirs)
include(CMakePackageConfigHelpers)

install(TARGETS lumvet-core lumvet-page lumvet-sign EXPORT lumvet-targets
        ARCHIVE DESTINATION ${CMAKE_INSTALL_LIBDIR} LIBRARY DESTINATION ${CMAKE_INSTALL_LIBDIR})
install(DIRECTORY include/lumvet ${CMAKE_BINARY_DIR}/include/lumvet
        DESTINATION ${CMAKE_INSTALL_INCLUDEDIR})
if(TARGET lumvet-tool)
  install(TARGETS lumvet-tool RUNTIME DESTINATION ${CMAKE_INSTALL_BINDIR})
endif()
install(FILES LICENSE LICENSES/BSD-3-Clause-AGL.txt LICENSES/BSD-3-Clause-CMap.txt
              LICENSES/Unicode-Data.txt DESTINATION ${CMAKE_INSTALL_DOCDIR})

set(package_folder ${CMAKE_INSTALL_LIBDIR}/cmake/lumvet)
install(EXPORT lumvet-targets NAMESPACE lumvet:: DESTINATION ${package_folder})
configure_package_config_file(cmake/lumvet-config.cmake.in lumvet-config.cmake
                              INSTALL_DESTINATION ${package_folder})
write_basic_package_version_file(lumvet-config-version.cmake COMPATIBILITY SameMinorVersion)
install(FILES ${CMAKE_BINARY_DIR}/lumvet-config.cmake ${CMAKE_BINARY_DIR}/lumvet-config-version.cmake
        DESTINATION ${package_folder})

# One pkg-config file a component. Paths are told from where the file lies, so that the tree may move.
file(RELATIVE_PATH up_from_pkgconfig /${CMAKE_INSTALL_LIBDIR}/pkgconfig /)
set(LUMVET_PC_PREFIX "\${pcfiledir}/${up_from_pkgconfig}")
function(lumvet_pkg_config component description requires requires_private libs_private)
  set(COMPONENT ${component})
  set(DESCRIPTION "${description}")
  set(REQUIRES "${requires}")
  set(REQUIRES_PRIVATE "${requires_private}")
  set(LIBS_PRIVATE "${libs_private}")
  configure_file(cmake/lumvet.pc.in lumvet-${component}.pc @ONLY)
  install(FILES ${CMAKE_BINARY_DIR}/lumvet-${component}.pc
          DESTINATION ${CMAKE_INSTALL_LIBDIR}/pkgconfig)
endfunction()
lumvet_pkg_config(core "Reads, binds and saves PDF documents" "" "libdeflate zlib libcrypto icu-uc pugixml"
                  "-lstdc++ -pthread")
lumvet_pkg_config(page "Draws the pages of PDF documents" "lumvet-core"
                  "freetype2 fontconfig libjpeg libpng libopenjp2 jbig2dec lcms2 libtiff-4 libwebp libwebpmux harfbuzz harfbuzz-subset libcmark icu-i18n icu-uc" "-lhyphen -lstdc++ -pthread")
lumvet_pkg_config(sign "Signs PDF documents and judges their signatures" "lumvet-page" "libcrypto p11-kit-1 icu-uc"
                  "-lstdc++ -pthread")
