// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// The record outlives jobs, grows for years and is written by two windows and a script at once, so it is a database and
// no text file that is written anew: SQLite in WAL mode, every entry a transaction of its own that is on the disk before
// the call returns. What was entered stays through a kill; a full disk refuses the entry that does not fit and nothing
// else.
//
// The columns are the fields of an entry (Fields.h) in their order. The file says which schema it has (user_version) and
// whose it is (application_id): a database of somebody else is told and stays as it is, a newer schema too. Older schemas
// are opened for ever; the steps that bring one up belong into `begin`, and a test keeps the text of each.
#include "logbook/Logbook.h"

#include "logbook/Fields.h"

#include <filesystem>
#include <functional>
#include <random>
#include <sqlite3.h>

namespace thinline::logbook {
namespace {

using base::Code;
using base::Error;

constexpr int kSchema = 1;
constexpr int kOurs = 0x544C4C42;
constexpr int kPatienceMs = 5000; ///< for another program that writes
constexpr int kMostBytesOfAValue = 1 << 20;

std::string columns() {
    std::string out;
    for (const Field& field : fields())
        out += std::string(out.empty() ? "\"" : ", \"") + field.name + "\"";
    return out;
}

std::string newId() {
    std::random_device device;
    const std::uint64_t number = static_cast<std::uint64_t>(device()) << 32 | device();
    static constexpr const char* kDigits = "0123456789abcdef";
    std::string out(16, '0');
    for (std::size_t i = 0; i < out.size(); ++i)
        out[i] = kDigits[number >> 4 * i & 15];
    return out;
}

/// With small letters, of a to z.
std::string lowered(std::string text) {
    for (char& c : text)
        if (c >= 'A' && c <= 'Z')
            c = static_cast<char>(c - 'A' + 'a');
    return text;
}

/// What an entry is found by.
std::string wordsIn(const Entry& entry) {
    std::string out;
    for (const std::string& text :
         {entry.when, std::string(kWhatWords[static_cast<std::size_t>(entry.what)]),
          std::string(kOutcomeWords[static_cast<std::size_t>(entry.outcome)]), entry.job, entry.stock,
          entry.kind, entry.machine, std::string(design::toolName(entry.blade)), entry.mat, entry.note})
        out += text + "\n";
    return lowered(std::move(out));
}

std::vector<std::string> wordsOf(const std::string& text) {
    std::vector<std::string> out{""};
    for (const char c : text) {
        if (c != ' ')
            out.back() += c;
        else if (!out.back().empty())
            out.emplace_back();
    }
    if (out.back().empty())
        out.pop_back();
    return out;
}

} // namespace

struct Logbook::Database {
    std::string path;
    sqlite3* handle = nullptr;

    Database(std::string at) : path(std::move(at)) {}
    Database(const Database&) = delete;
    Database& operator=(const Database&) = delete;
    ~Database() { sqlite3_close(handle); }

    Error failure() const {
        const std::string where = "The logbook " + path;
        switch (sqlite3_errcode(handle) & 0xff) {
        case SQLITE_NOTADB:
        case SQLITE_CORRUPT:
            return {Code::ParseError, where +
                                          " is no logbook or is damaged. Move it elsewhere and a new one is "
                                          "begun; nothing in it was changed."};
        case SQLITE_FULL:
            return {Code::IoError,
                    where + " was not changed: the disk is full. Make room and enter it again."};
        case SQLITE_BUSY:
        case SQLITE_LOCKED:
            return {Code::IoError, where + " is held by another program. Try again in a moment."};
        case SQLITE_READONLY:
        case SQLITE_PERM:
        case SQLITE_CANTOPEN:
        case SQLITE_AUTH:
            return {Code::IoError, where + " cannot be written. Check the folder and its permissions."};
        case SQLITE_TOOBIG:
            return {Code::LimitExceeded, where + " holds something longer than an entry can be."};
        default:
            return {Code::IoError,
                    where + " cannot be used: " + sqlite3_errmsg(handle) + ". Nothing was changed."};
        }
    }

    base::Status run(const char* sql) const {
        if (sqlite3_exec(handle, sql, nullptr, nullptr, nullptr) == SQLITE_OK)
            return base::Done{};
        return failure();
    }
    /// Runs all of it or nothing.
    base::Status whole(const std::function<base::Status()>& work) const {
        if (auto ok = run("BEGIN IMMEDIATE"); !ok)
            return ok;
        base::Status done = work();
        if (done)
            done = run("COMMIT");
        if (!done && !sqlite3_get_autocommit(handle))
            sqlite3_exec(handle, "ROLLBACK", nullptr, nullptr, nullptr);
        return done;
    }
    base::Result<int> number(const char* sql) const;
    base::Status begin();
};

namespace {

/// One statement and its values.
class Statement {
  public:
    Statement(sqlite3* handle, const std::string& sql) {
        sqlite3_prepare_v2(handle, sql.c_str(), static_cast<int>(sql.size()), &m_statement, nullptr);
    }
    Statement(const Statement&) = delete;
    Statement& operator=(const Statement&) = delete;
    ~Statement() { sqlite3_finalize(m_statement); }

    void bind(const Value& value) {
        ++m_bound;
        if (const std::string* text = std::get_if<std::string>(&value))
            sqlite3_bind_text(m_statement, m_bound, text->data(), static_cast<int>(text->size()),
                              SQLITE_TRANSIENT);
        else
            sqlite3_bind_double(m_statement, m_bound, *std::get_if<double>(&value));
    }
    /// SQLITE_ROW, SQLITE_DONE, or what went wrong.
    int step() { return m_statement ? sqlite3_step(m_statement) : SQLITE_ERROR; }
    void again() {
        sqlite3_reset(m_statement);
        m_bound = 0;
    }
    Value at(int column, bool isNumber) const {
        if (isNumber)
            return sqlite3_column_double(m_statement, column);
        const auto* text = reinterpret_cast<const char*>(sqlite3_column_text(m_statement, column));
        return text ? std::string(text, static_cast<std::size_t>(sqlite3_column_bytes(m_statement, column)))
                    : std::string();
    }

  private:
    sqlite3_stmt* m_statement = nullptr;
    int m_bound = 0;
};

} // namespace

base::Result<int> Logbook::Database::number(const char* sql) const {
    Statement statement(handle, sql);
    if (statement.step() != SQLITE_ROW)
        return failure();
    return static_cast<int>(std::get<double>(statement.at(0, true)));
}

/// Brings the file to the schema of today; a new one gets it.
base::Status Logbook::Database::begin() {
    const auto owner = number("PRAGMA application_id"), schema = number("PRAGMA user_version"),
               tables = number("SELECT count(*) FROM sqlite_master");
    for (const auto* one : {&owner, &schema, &tables})
        if (!*one)
            return one->error();
    if (*owner != kOurs && *tables > 0)
        return Error{Code::ParseError,
                     path + " is a database, but no logbook of Thin Line; it stays as it is."};
    if (*schema > kSchema)
        return Error{Code::Unsupported,
                     "The logbook " + path + " was written by a newer Thin Line; it stays as it is."};
    for (const char* how :
         {"PRAGMA journal_mode=WAL", "PRAGMA synchronous=FULL", "PRAGMA trusted_schema=OFF"})
        if (auto ok = run(how); !ok)
            return ok;
    if (*schema == kSchema)
        return base::Done{};
    return whole([&]() -> base::Status {
        const auto now = number("PRAGMA user_version"); // another program may have begun it meanwhile
        if (!now || *now == kSchema)
            return now ? base::Status(base::Done{}) : now.error();
        std::string sql = "CREATE TABLE entries (number INTEGER PRIMARY KEY";
        for (const Field& field : fields())
            sql +=
                std::string(", \"") + field.name + (field.isNumber ? "\" REAL NOT NULL" : "\" TEXT NOT NULL");
        sql += ", words TEXT NOT NULL, UNIQUE (\"id\"));"
               "CREATE INDEX entries_by_time ON entries (\"when\", number, \"stockId\", words);"
               "CREATE INDEX entries_by_what ON entries (\"what\", \"when\");"
               "CREATE INDEX entries_by_kind ON entries (\"kind\", \"when\");";
        sql += "PRAGMA application_id=" + std::to_string(kOurs) +
               ";PRAGMA user_version=" + std::to_string(kSchema);
        return run(sql.c_str());
    });
}

Logbook::Logbook(std::unique_ptr<Database> database) : m_database(std::move(database)) {}
Logbook::Logbook(Logbook&&) noexcept = default;
Logbook& Logbook::operator=(Logbook&&) noexcept = default;
Logbook::~Logbook() = default;

base::Result<Logbook> Logbook::open(const std::string& path, Open how) {
    auto database = std::make_unique<Database>(path);
    const int flags =
        SQLITE_OPEN_READWRITE | SQLITE_OPEN_FULLMUTEX | (how == Open::OrBegin ? SQLITE_OPEN_CREATE : 0);
    std::error_code ignored;
    const bool isThere = std::filesystem::exists(path, ignored);
    if (how == Open::Existing && !isThere)
        return Error{Code::NotFound, "There is no logbook at " + path + " yet."};
    if (sqlite3_open_v2(path.c_str(), &database->handle, flags, nullptr) != SQLITE_OK)
        return database->failure();
    sqlite3_busy_timeout(database->handle, kPatienceMs);
    sqlite3_limit(database->handle, SQLITE_LIMIT_LENGTH, kMostBytesOfAValue);
    if (auto ok = database->begin(); !ok)
        return ok.error();
    return Logbook(std::move(database));
}

base::Result<Entry> Logbook::add(const Entry& entry) {
    auto out = add(std::vector{entry});
    return out ? base::Result(out.take().front()) : out.error();
}

base::Result<std::vector<Entry>> Logbook::add(std::vector<Entry> entries) {
    for (Entry& entry : entries) {
        entry.id = newId();
        if (entry.when.empty())
            entry.when = nowWord();
    }
    if (auto taken = take(entries); !taken)
        return taken.error();
    return entries;
}

base::Result<int> Logbook::take(const std::vector<Entry>& entries) {
    for (std::size_t i = 0; i < entries.size(); ++i)
        if (auto ok = checkEntry(entries[i]); !ok)
            return entries.size() == 1
                       ? ok.error()
                       : Error{ok.error().code, "Entry " + std::to_string(i + 1) + ": " + ok.error().message};
    std::string sql = "INSERT OR IGNORE INTO entries (" + columns() + ", words) VALUES (?";
    for (std::size_t i = 0; i < fields().size(); ++i)
        sql += ", ?";
    int taken = 0;
    const auto all = [&]() -> base::Status {
        Statement insert(m_database->handle, sql + ")");
        for (const Entry& given : entries) {
            Entry entry = given;
            if (entry.id.empty())
                entry.id = newId();
            if (entry.when.empty())
                entry.when = nowWord();
            insert.again();
            for (const Field& field : fields())
                insert.bind(field.get(entry));
            insert.bind(wordsIn(entry));
            if (insert.step() != SQLITE_DONE)
                return m_database->failure();
            taken += sqlite3_changes(m_database->handle);
        }
        return base::Done{};
    };
    if (auto done = m_database->whole(all); !done)
        return done.error();
    return taken;
}

base::Status Logbook::change(const Entry& entry) {
    if (auto ok = checkEntry(entry); !ok)
        return ok;
    std::string sql = "UPDATE entries SET ";
    for (const Field& field : fields())
        sql += std::string(&field == &fields().front() ? "\"" : ", \"") + field.name + "\" = ?";
    Statement update(m_database->handle, sql + ", words = ? WHERE \"id\" = ?");
    for (const Field& field : fields())
        update.bind(field.get(entry));
    update.bind(wordsIn(entry));
    update.bind(entry.id);
    if (update.step() != SQLITE_DONE)
        return m_database->failure();
    return sqlite3_changes(m_database->handle) > 0
               ? base::Status(base::Done{})
               : Error{Code::NotFound, "That entry is not in the logbook any more."};
}

base::Status Logbook::remove(const std::string& id) {
    Statement statement(m_database->handle, "DELETE FROM entries WHERE \"id\" = ?");
    statement.bind(id);
    if (statement.step() != SQLITE_DONE)
        return m_database->failure();
    return sqlite3_changes(m_database->handle) > 0 ? base::Status(base::Done{})
                                                   : Error{Code::NotFound, "There is no entry '" + id + "'."};
}

namespace {

/// Reads what a statement gives. What a field cannot hold, because somebody else wrote it, is left as an empty one.
base::Result<std::vector<Entry>> rowsOf(Statement& statement, const std::function<Error()>& failure) {
    std::vector<Entry> out;
    for (;;) {
        const int state = statement.step();
        if (state == SQLITE_DONE)
            return out;
        if (state != SQLITE_ROW)
            return failure();
        Entry entry;
        for (std::size_t i = 0; i < fields().size(); ++i)
            fields()[i].set(entry, statement.at(static_cast<int>(i), fields()[i].isNumber));
        out.push_back(std::move(entry));
    }
}

} // namespace

base::Result<std::vector<Entry>> Logbook::find(const Search& search) const {
    const std::vector<std::string> words = wordsOf(lowered(search.words));
    // What is looked at is in an index, in the order of time: rows are fetched for what is found alone.
    const std::string newestFirst = " ORDER BY \"when\" DESC, number DESC";
    std::string which = "SELECT number FROM entries INDEXED BY entries_by_time WHERE 1";
    if (!search.stockId.empty())
        which += " AND \"stockId\" = ?";
    for (std::size_t i = 0; i < words.size(); ++i)
        which += " AND instr(words, ?) > 0";
    which += newestFirst;
    if (search.most > 0)
        which += " LIMIT " + std::to_string(search.most);
    Statement statement(m_database->handle, "SELECT " + columns() + " FROM entries WHERE number IN (" +
                                                which + ")" + newestFirst);
    if (!search.stockId.empty())
        statement.bind(search.stockId);
    for (const std::string& word : words)
        statement.bind(word);
    return rowsOf(statement, [&] { return m_database->failure(); });
}

base::Result<std::vector<Entry>> Logbook::like(const Like& like) const {
    Statement statement(
        m_database->handle,
        "SELECT " + columns() +
            " FROM entries WHERE \"what\" IN ('cut', 'tile') AND \"machine\" = ? AND \"blade\" = ? AND "
            "\"tack\" = ? AND (\"stockId\" = ? OR (\"kind\" = ? AND \"gramsPerM2\" BETWEEN ? AND ?)) "
            "ORDER BY \"when\" DESC, number DESC LIMIT 200");
    for (const Value& value : std::initializer_list<Value>{
             like.machine, std::string(design::kToolWords[static_cast<std::size_t>(like.blade)]),
             std::string(design::kTackWords[static_cast<std::size_t>(like.tack)]), like.stockId, like.kind,
             like.leastGrams, like.mostGrams})
        statement.bind(value);
    return rowsOf(statement, [&] { return m_database->failure(); });
}

base::Result<int> Logbook::count() const {
    return m_database->number("SELECT count(*) FROM entries");
}

base::Result<Wear> Logbook::wear(const std::string& machine, design::ToolKind blade,
                                 const std::string& mat) const {
    const std::string word = design::kToolWords[static_cast<std::size_t>(blade)];
    // The millimetres after the newest entry of one kind that has the same values in some columns.
    const auto since = [&](const std::string& what, const std::string& same,
                           const std::vector<std::string>& values, double& mm,
                           bool& isSince) -> base::Status {
        Statement newest(m_database->handle, "SELECT \"when\", number FROM entries WHERE \"what\" = '" +
                                                 what + "' AND " + same +
                                                 " ORDER BY \"when\" DESC, number DESC LIMIT 1");
        for (const std::string& value : values)
            newest.bind(value);
        const int found = newest.step();
        if (found != SQLITE_ROW && found != SQLITE_DONE)
            return m_database->failure();
        isSince = found == SQLITE_ROW;
        Statement sum(m_database->handle,
                      "SELECT total(\"lineMm\") FROM entries WHERE \"what\" IN ('cut', 'tile') AND " + same +
                          (isSince ? " AND (\"when\", number) > (?, ?)" : ""));
        for (const std::string& value : values)
            sum.bind(value);
        if (isSince) {
            sum.bind(newest.at(0, false));
            sum.bind(newest.at(1, true));
        }
        if (sum.step() != SQLITE_ROW)
            return m_database->failure();
        mm = std::get<double>(sum.at(0, true));
        return base::Done{};
    };
    Wear out;
    if (auto ok = since("new blade", "\"machine\" = ? AND \"blade\" = ?", {machine, word}, out.bladeMm,
                        out.isBladeSince);
        !ok)
        return ok.error();
    if (auto ok = since("new mat", "\"mat\" = ?", {mat}, out.matMm, out.isMatSince); !ok)
        return ok.error();
    return out;
}

} // namespace thinline::logbook
