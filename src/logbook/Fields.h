// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "logbook/Entry.h"

#include <variant>

/// The fields of an entry by their names: columns of the file, of CSV and of JSON are these and no others.
namespace thinline::logbook {

using Value = std::variant<std::string, double>;

struct Field {
    const char* name;
    bool isNumber;
    Value (*get)(const Entry&);
    /// Returns false for a value that is none of this field's.
    bool (*set)(Entry&, const Value&);
};

/// All of them; the first is "id", the second "when".
const std::vector<Field>& fields();

} // namespace thinline::logbook
