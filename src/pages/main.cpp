// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Draws one page of a PDF file for document::PageProcess: the file comes in, `page` is the first argument; what goes out
// is described in document/PageWire.h. It takes no more than 8 s of computing and 900 MB, whatever the page asks for.
#include "document/PageWire.h"
#include "formats/pdf/ReadPdf.h"

#include <cstdlib>
#include <iostream>
#include <iterator>
#include <sys/resource.h>

int main(int argc, char** argv) {
    using namespace thinline;
    const rlimit seconds{8, 9}, none{0, 0};
    if (argc != 2 || ::setrlimit(RLIMIT_CPU, &seconds) != 0 || ::setrlimit(RLIMIT_CORE, &none) != 0)
        return EXIT_FAILURE;
#ifndef __SANITIZE_ADDRESS__ // the sanitizer claims more addresses than there are bytes
    const rlimit bytes{900ull << 20, 900ull << 20};
    if (::setrlimit(RLIMIT_AS, &bytes) != 0)
        return EXIT_FAILURE;
#endif
    const base::Bytes file{std::istreambuf_iterator<char>(std::cin), {}};
    std::cout << document::wireOf(formats::pdf::readPage(file, std::atoi(argv[1])));
    return std::cout.flush() ? EXIT_SUCCESS : EXIT_FAILURE;
}
