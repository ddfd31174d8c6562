# The Debian package: cpack -G DEB in the build folder.
set(packaging ${PROJECT_SOURCE_DIR}/packaging)
install(FILES ${packaging}/fox-cellar.desktop DESTINATION share/applications)
install(FILES ${packaging}/fox-cellar.metainfo.xml DESTINATION share/metainfo RENAME org.foxcellar.FoxCellar.metainfo.xml)
install(FILES ${packaging}/fox-cellar-mime.xml DESTINATION share/mime/packages RENAME fox-cellar.xml)
install(FILES ${packaging}/completion.bash DESTINATION share/bash-completion/completions RENAME fox-cellar)
install(FILES ${packaging}/completion.bash DESTINATION share/bash-completion/completions RENAME fox-cellar-run)
install(FILES ${PROJECT_SOURCE_DIR}/src/app/style/icons/fox-cellar.svg DESTINATION share/icons/hicolor/scalable/apps)
install(DIRECTORY ${PROJECT_SOURCE_DIR}/src/core/paper/fonts DESTINATION share/fox-cellar FILES_MATCHING PATTERN "*.otf")
install(DIRECTORY ${PROJECT_SOURCE_DIR}/demo/quernbeck DESTINATION share/fox-cellar/demo PATTERN make EXCLUDE)
install(FILES ${packaging}/copyright ${PROJECT_SOURCE_DIR}/src/core/paper/fonts/LICENSE.txt DESTINATION share/doc/fox-cellar)
# manual pages and the list of changes are compressed, as Debian wants them
find_program(GZIP gzip REQUIRED)
foreach(page fox-cellar.1 fox-cellar-run.1 changelog)
  add_custom_command(OUTPUT ${CMAKE_CURRENT_BINARY_DIR}/${page}.gz COMMAND ${GZIP} -9nc ${packaging}/${page} > ${page}.gz
                     WORKING_DIRECTORY ${CMAKE_CURRENT_BINARY_DIR} DEPENDS ${packaging}/${page})
  list(APPEND pages ${CMAKE_CURRENT_BINARY_DIR}/${page}.gz)
endforeach()
add_custom_target(manual_pages ALL DEPENDS ${pages})
install(FILES ${CMAKE_CURRENT_BINARY_DIR}/fox-cellar.1.gz ${CMAKE_CURRENT_BINARY_DIR}/fox-cellar-run.1.gz DESTINATION share/man/man1)
install(FILES ${CMAKE_CURRENT_BINARY_DIR}/changelog.gz DESTINATION share/doc/fox-cellar)

set(CPACK_GENERATOR DEB)
set(CPACK_PACKAGE_NAME fox-cellar)
set(CPACK_PACKAGE_CONTACT "Fox Cellar developers <developers@foxcellar.example>")
set(CPACK_PACKAGE_DESCRIPTION_SUMMARY "${PROJECT_DESCRIPTION}")
set(CPACK_PACKAGE_DESCRIPTION "It reads site-investigation holes in the open AGS format, makes the
terrain from a survey, interpolates the bases of units from holes that
show and holes that limit them, and shows the model as plan, section, log,
table and in 3D. It needs no network.")
set(CPACK_PACKAGING_INSTALL_PREFIX /usr)
set(CPACK_DEBIAN_PACKAGE_SECTION science)
set(CPACK_DEBIAN_PACKAGE_RECOMMENDS "shared-mime-info")
set(CPACK_DEBIAN_PACKAGE_SHLIBDEPS ON) # the libraries that the programs link, by dpkg-shlibdeps
set(CPACK_DEBIAN_PACKAGE_DEPENDS "libqt6svg6") # the plugin that reads the icons
set(CPACK_DEBIAN_FILE_NAME DEB-DEFAULT)
set(CPACK_STRIP_FILES ON)
set(CPACK_INSTALL_DEFAULT_DIRECTORY_PERMISSIONS OWNER_READ OWNER_WRITE OWNER_EXECUTE GROUP_READ GROUP_EXECUTE WORLD_READ WORLD_EXECUTE)
include(CPack)
