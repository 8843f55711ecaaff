# Where Linux expects things.
set(BURIN_ASSETS ${CMAKE_SOURCE_DIR}/assets)
install(DIRECTORY ${CMAKE_SOURCE_DIR}/catalogue/ DESTINATION ${CMAKE_INSTALL_DATADIR}/burin/catalogue
    FILES_MATCHING PATTERN "*.json")
install(DIRECTORY ${BURIN_ASSETS}/fonts/ DESTINATION ${CMAKE_INSTALL_DATADIR}/burin/fonts)
if(TARGET burin-cli)
    install(TARGETS burin-cli burin-picture RUNTIME)
endif()
if(TARGET burin)
    install(TARGETS burin RUNTIME)
    install(FILES ${CMAKE_SOURCE_DIR}/demo/kittiwake.json DESTINATION ${CMAKE_INSTALL_DATADIR}/burin/demo)
    install(FILES ${BURIN_ASSETS}/desktop/burin.desktop
        DESTINATION ${CMAKE_INSTALL_DATADIR}/applications)
    install(FILES ${BURIN_ASSETS}/desktop/burin.svg
        DESTINATION ${CMAKE_INSTALL_DATADIR}/icons/hicolor/scalable/apps)
    install(FILES ${BURIN_ASSETS}/desktop/burin.metainfo.xml
        DESTINATION ${CMAKE_INSTALL_DATADIR}/metainfo)
    install(FILES ${BURIN_ASSETS}/desktop/burin-mime.xml
        DESTINATION ${CMAKE_INSTALL_DATADIR}/mime/packages)
endif()
