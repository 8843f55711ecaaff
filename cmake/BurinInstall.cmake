# Where Linux expects things.
set(BURIN_ASSETS ${CMAKE_SOURCE_DIR}/assets)
install(DIRECTORY ${CMAKE_SOURCE_DIR}/catalogue/ DESTINATION ${CMAKE_INSTALL_DATADIR}/burin/catalogue
    FILES_MATCHING PATTERN "*.json")
install(DIRECTORY ${BURIN_ASSETS}/fonts/ DESTINATION ${CMAKE_INSTALL_DATADIR}/burin/fonts)
install(FILES ${CMAKE_SOURCE_DIR}/README.md ${CMAKE_SOURCE_DIR}/CHANGELOG.md DESTINATION ${CMAKE_INSTALL_DOCDIR})
install(DIRECTORY ${CMAKE_SOURCE_DIR}/docs DESTINATION ${CMAKE_INSTALL_DOCDIR})
# Each program writes its manual itself.
function(burin_manual program)
    set(page ${CMAKE_BINARY_DIR}/share/man/man1/${program}.1)
    add_custom_command(OUTPUT ${page} COMMAND ${CMAKE_COMMAND} -E make_directory
        ${CMAKE_BINARY_DIR}/share/man/man1 COMMAND ${program} --man > ${page} DEPENDS ${program})
    add_custom_target(${program}-manual ALL DEPENDS ${page})
    install(FILES ${page} DESTINATION ${CMAKE_INSTALL_MANDIR}/man1)
endfunction()
if(TARGET burin-cli)
    install(TARGETS burin-cli burin-picture RUNTIME)
    if(NOT BURIN_SANITIZE)
        burin_manual(burin-cli)
    endif()
endif()
if(TARGET burin)
    install(TARGETS burin RUNTIME)
    if(NOT BURIN_SANITIZE)
        burin_manual(burin)
    endif()
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
