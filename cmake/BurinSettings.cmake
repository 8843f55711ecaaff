# How everything in the tree is compiled.
set(CMAKE_CXX_STANDARD 20)
set(CMAKE_CXX_STANDARD_REQUIRED ON)
set(CMAKE_CXX_EXTENSIONS OFF)
set(CMAKE_RUNTIME_OUTPUT_DIRECTORY ${CMAKE_BINARY_DIR}/bin)
if(NOT CMAKE_BUILD_TYPE)
    set(CMAKE_BUILD_TYPE Release)
endif()

find_program(BURIN_CCACHE ccache)
if(BURIN_CCACHE)
    # Precompiled headers are only cached when ccache may overlook their time stamps.
    set(CMAKE_CXX_COMPILER_LAUNCHER ${CMAKE_COMMAND} -E env
        CCACHE_SLOPPINESS=pch_defines,time_macros,include_file_mtime,include_file_ctime ${BURIN_CCACHE})
endif()
find_program(BURIN_LLD ld.lld)
if(BURIN_LLD)
    add_link_options(-fuse-ld=lld)
endif()

# Most of a source's time goes into the headers it shares with its neighbours. Names of one room's
# sources must therefore not clash, not even in unnamed namespaces.
set(BURIN_TOGETHER 0 CACHE STRING "So many sources of a room are compiled as one; 0: each alone")
if(BURIN_TOGETHER GREATER 0)
    set(CMAKE_UNITY_BUILD ON)
    set(CMAKE_UNITY_BUILD_BATCH_SIZE ${BURIN_TOGETHER})
endif()

add_library(burin_settings INTERFACE)
target_include_directories(burin_settings INTERFACE ${CMAKE_SOURCE_DIR}/src)
target_compile_options(burin_settings INTERFACE -Wall -Wextra -Werror -Wpedantic -Wconversion
    -Wno-sign-conversion -Wshadow -Wnon-virtual-dtor -Wold-style-cast)
if(CMAKE_CXX_COMPILER_ID STREQUAL "GNU" AND CMAKE_CXX_COMPILER_VERSION VERSION_LESS 13)
    # g++ 12 sees overruns in std::string's own code once it is inlined (GCC PR 105329, 105651).
    target_compile_options(burin_settings INTERFACE -Wno-array-bounds -Wno-restrict
        -Wno-stringop-overflow -Wno-stringop-overread)
endif()
if(CMAKE_CXX_COMPILER_ID STREQUAL "Clang")
    # {"job.no-file", "there is no such file"} is a sentence without a pair of braces more.
    target_compile_options(burin_settings INTERFACE -Wno-missing-braces)
endif()
if(CMAKE_CXX_COMPILER_ID STREQUAL "Clang" AND BURIN_TOGETHER GREATER 0)
    # What stands in unnamed namespaces of two sources compiled as one is not hidden by either;
    # g++ and the linter look at each.
    target_compile_options(burin_settings INTERFACE -Wno-shadow)
endif()
if(BURIN_SANITIZE)
    add_compile_options(-fsanitize=address,undefined -fno-sanitize-recover=all -fno-omit-frame-pointer)
    add_link_options(-fsanitize=address,undefined)
endif()

# The build tree carries share/burin as an installation does, so that one look-up serves both.
file(MAKE_DIRECTORY ${CMAKE_BINARY_DIR}/share)
file(MAKE_DIRECTORY ${CMAKE_BINARY_DIR}/share/burin)
file(CREATE_LINK ${CMAKE_SOURCE_DIR}/catalogue ${CMAKE_BINARY_DIR}/share/burin/catalogue SYMBOLIC)
file(CREATE_LINK ${CMAKE_SOURCE_DIR}/assets/fonts ${CMAKE_BINARY_DIR}/share/burin/fonts SYMBOLIC)
file(CREATE_LINK ${CMAKE_SOURCE_DIR}/demo ${CMAKE_BINARY_DIR}/share/burin/demo SYMBOLIC)
