# SPDX-FileCopyrightText: Thin Line contributors
# SPDX-License-Identifier: GPL-3.0-or-later

# thinline_embed_text(<target> <file> <Name>): compiles a text file into the target as
# `extern const char* const k<Name>Text;`, so that data ships inside the program and stays data.
function(thinline_embed_text target file name)
  set_property(DIRECTORY APPEND PROPERTY CMAKE_CONFIGURE_DEPENDS ${file})
  file(READ ${file} content)
  set(out ${CMAKE_CURRENT_BINARY_DIR}/${name}.embedded.cpp)
  file(CONFIGURE OUTPUT ${out} @ONLY CONTENT
    "extern const char* const k@name@Text;\nconst char* const k@name@Text = R\"embedded(@content@)embedded\";\n")
  target_sources(${target} PRIVATE ${out})
endfunction()

# thinline_embed_bytes(<target> <file> <Name>): the bytes of a file as `thinline_<Name>_begin` up to
# `thinline_<Name>_end`, both extern "C" arrays of const unsigned char.
function(thinline_embed_bytes target file name)
  set(out ${CMAKE_CURRENT_BINARY_DIR}/${name}.embedded.cpp)
  file(CONFIGURE OUTPUT ${out} @ONLY CONTENT
    "__asm__(\".section .rodata\\n.global thinline_@name@_begin\\n.global thinline_@name@_end\\n.balign 16\\n\"
        \"thinline_@name@_begin:\\n.incbin \\\"@file@\\\"\\nthinline_@name@_end:\\n.byte 0\\n.previous\\n\");\n")
  set_source_files_properties(${out} PROPERTIES OBJECT_DEPENDS ${file})
  target_sources(${target} PRIVATE ${out})
endfunction()
