// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "design/Drawer.h"
#include "job/Catalogue.h"
#include "job/Making.h"
#include "sheets/ArrangeClose.h"

/// The steps that change what a job may be cut from.
namespace thinline::job {

/// Returns the word of a kind in files and on the command line: "card", "translucent paper".
std::string kindWord(design::Stock::Kind kind);
std::optional<design::Stock::Kind> kindOf(const std::string& word);

/// Returns a stock of a kind with what is usual for it: thickness, weight, depth of cut, by hand or by machine.
/// Source: from memory; the maker's figures count.
design::Stock usualStock(design::Stock::Kind kind);

/// Returns the stock panes are cut from: the one that is said, else the first that lets light through; translucent paper is
/// added to the job when there is none.
/// Errors: NotFound for one that is said and not there; as withNewStock.
base::Result<std::string> stockOfPanes(Job& job, const std::string& said = "");

/// Returns why a stock cannot be: no name, no thickness, a laminate that is not of two other stocks, a size no sheet
/// has.
base::Status checkStock(const std::vector<design::Stock>& among, const design::Stock& stock);

/// Adds a stock behind the others; its id is made from its name.
/// Errors: InvalidArgument, as checkStock tells.
base::Result<Job> withNewStock(const Job& job, design::Stock stock);
/// Puts a stock in the place of the one of its id.
/// Errors: NotFound; as checkStock.
base::Result<Job> withStock(const Job& job, const design::Stock& stock);
/// Takes a stock out.
/// Errors: NotFound; InvalidArgument while a layer or a laminate is of it, and for the two that new work is laid in.
base::Result<Job> withoutStock(const Job& job, const std::string& id, const Catalogue& catalogue);
/// Takes a drawer into a job: stocks it knows are changed, others are added; mats of the drawer have its worn spots.
/// Errors: as checkStock.
base::Result<Job> withDrawer(const Job& job, const design::Drawer& drawer);
/// Returns what of a job outlives it: its stocks, the worn spots of mats, the machine somebody chose; with the scraps that were in
/// the drawer before.
design::Drawer drawerOf(const Job& job, const design::Drawer& before = {});

/// Returns a job that begins with a drawer's stocks and machine, and with those two of the catalogue that new work is laid in, should
/// the drawer lack them.
Job beginningWith(Job job, const design::Drawer& drawer, const Catalogue& catalogue);

/// Returns the sheets of a stock in words, "3 of 210 × 297 mm; 12 × 12 in", and reads them back.
/// Errors: InvalidArgument with the part that is no size.
std::string sizesText(const std::vector<design::Stock::Size>& sizes, base::LengthUnit unit);
base::Result<std::vector<design::Stock::Size>> readSizes(const std::string& text, base::LengthUnit unit);

/// Puts what is left whole of a sheet into the drawer of its stock: one more of that size.
/// Errors: NotFound; as checkStock.
base::Result<Job> withOffcut(const Job& job, const sheets::Offcut& offcut);

/// What of a stock is needed and not there, of those sheets that somebody has counted.
struct Lacking {
    std::string stockId;
    int sheets = 0;
};
std::vector<Lacking> lackingSheets(const Job& job, const design::Arrangement& arrangement);

/// Returns what the sheets of an arrangement cost, and which stocks have no price.
struct Cost {
    double sum = 0;
    std::vector<std::string> unknown; ///< names
};
Cost costOf(const design::Arrangement& arrangement, const std::vector<design::Stock>& stocks);

} // namespace thinline::job
