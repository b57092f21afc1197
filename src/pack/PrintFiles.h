// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "formats/pdf/WritePages.h"
#include "job/PrintPages.h"
#include "pack/Package.h"
#include "registration/Calibrate.h"

#include <array>

/// Pages for the printer, as files: what is printed, marks, and in small print what a person has to know.
namespace thinline::pack {

enum class PrintFormat { Pdf, Png };
inline constexpr std::array<const char*, 2> kPrintFormatWords{"pdf", "png"};

/// What a page tells beside its marks.
std::string pageLine(const job::State& state, const job::PrintPage& page, bool isBack);
inline constexpr const char* kTrueSize = "Print at true size, never fit to page: this ruler measures 50 mm.";

/// Returns a face of a page as a page of a PDF: its picture, marks on a layer of their own, small print; trim is the box of its
/// pieces, bleed that of their print.
base::Result<formats::pdf::Page> pdfPage(const job::State& state, const job::PrintPage& page, bool isBack,
                                         double dpi, const job::Decoded& art,
                                         const base::Progress& progress = {});
/// Returns the same as a picture.
base::Result<raster::Picture> pagePicture(const job::State& state, const job::PrintPage& page, bool isBack,
                                          double dpi, const job::Decoded& art,
                                          const base::Progress& progress = {});

struct PrintedFiles {
    std::vector<PackedFile> files;  ///< "print.pdf"; "page 1.png", "page 1, back.png"
    int pages = 0;                  ///< faces of paper
    std::vector<std::string> notes; ///< what a person should know, a sentence each
};
/// Returns a job's pages in some formats. A page with nothing on its front is printed all the same when it has marks.
/// Errors: InvalidArgument without a stock that is printed or without sheets; those of paintedPage and of the writers; Cancelled.
/// Cost:   O(pixels); one page at a time.
base::Result<PrintedFiles> printFiles(const job::State& state, const std::vector<PrintFormat>& formats,
                                      const job::Decoded& art, const base::Progress& progress = {});

/// A calibration sheet: the page to be printed, and what is cut on it, in mm on the page.
struct CalibrationSheet {
    print::PageLayout layout;
    std::vector<registration::Vernier> verniers;
    std::vector<geometry::Line> cuts;
    base::Bytes pdf;
};
/// Errors: those of registration::verniersIn and of the writer.
base::Result<CalibrationSheet> calibrationSheet(double widthMm, double heightMm, double printerMarginMm,
                                                const std::string& machineName);

/// Returns the cuts of a sheet as a plotter file, from the page's lower left corner; the machine reads the marks first.
std::string calibrationCuts(const CalibrationSheet& sheet);

} // namespace thinline::pack
