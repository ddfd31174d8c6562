# The Debian package: cpack -G DEB in the build folder.
install(FILES ${PROJECT_SOURCE_DIR}/packaging/fox-cellar.desktop DESTINATION share/applications)
install(FILES ${PROJECT_SOURCE_DIR}/src/app/style/icons/fox-cellar.svg DESTINATION share/icons/hicolor/scalable/apps)
install(DIRECTORY ${PROJECT_SOURCE_DIR}/src/core/paper/fonts DESTINATION share/fox-cellar FILES_MATCHING PATTERN "*.otf")
install(DIRECTORY ${PROJECT_SOURCE_DIR}/demo/quernbeck DESTINATION share/fox-cellar/demo PATTERN make EXCLUDE)
install(FILES ${PROJECT_SOURCE_DIR}/LICENSE ${PROJECT_SOURCE_DIR}/src/core/paper/fonts/LICENSE.txt DESTINATION share/doc/fox-cellar)

set(CPACK_GENERATOR DEB)
set(CPACK_PACKAGE_NAME fox-cellar)
set(CPACK_PACKAGE_CONTACT "Fox Cellar developers <fox-cellar@localhost>")
set(CPACK_PACKAGE_DESCRIPTION_SUMMARY "${PROJECT_DESCRIPTION}")
set(CPACK_DEBIAN_PACKAGE_SECTION science)
set(CPACK_DEBIAN_PACKAGE_SHLIBDEPS ON) # the libraries that the programs link, by dpkg-shlibdeps
set(CPACK_DEBIAN_FILE_NAME DEB-DEFAULT)
set(CPACK_STRIP_FILES ON)
include(CPack)
