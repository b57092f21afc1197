// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Files that were made to break the program, given to the real thinline-batch. Whatever they hold, it ends within 10 s of
// computing and 1 GB, says what is wrong in a sentence, and says nothing else.
#include "document/DiskFileStore.h"
#include "document/JobFile.h"
#include "formats/zip/Archive.h"
#include "support/Jobs.h"

#include <gtest/gtest.h>

#include <cmath>
#include <csignal>
#include <fcntl.h>
#include <filesystem>
#include <fstream>
#include <functional>
#include <numbers>
#include <random>
#include <sys/resource.h>
#include <sys/stat.h>
#include <sys/wait.h>
#include <unistd.h>

namespace thinline::batch {
namespace {

namespace fs = std::filesystem;
using namespace std::string_literals;

#ifdef __SANITIZE_ADDRESS__
constexpr rlim_t kMostSeconds = 300; // a sanitizer takes its time
#else
constexpr rlim_t kMostSeconds = 20;
#endif

struct Ended {
    int exit = -1; ///< 128 and more: by a signal
    double cpuSeconds = 0;
    double megabytes = 0;
    std::string said;
};

class Hostile : public testing::Test {
  protected:
    void SetUp() override {
        m_folder = fs::temp_directory_path() / ("thinline-hostile-" + std::to_string(::getpid()));
        fs::create_directories(m_folder);
    }
    void TearDown() override { fs::remove_all(m_folder); }
    std::string path(const std::string& name) const { return (m_folder / name).string(); }
    void write(const std::string& name, const std::string& text) const {
        std::ofstream(path(name), std::ios::binary) << text;
    }

    /// Runs the program under limits; what it writes to standard error is what it said.
    Ended call(std::vector<std::string> words) const {
        words.insert(words.begin(), THINLINE_BINARY_DIR "/bin/thinline-batch");
        std::vector<char*> argv;
        for (std::string& word : words)
            argv.push_back(word.data());
        argv.push_back(nullptr);
        const pid_t child = ::fork();
        if (child == 0) {
            const rlimit seconds{kMostSeconds, kMostSeconds};
            ::setrlimit(RLIMIT_CPU, &seconds);
            const int out = ::open("/dev/null", O_WRONLY),
                      err = ::open(path("said").c_str(), O_WRONLY | O_CREAT | O_TRUNC, 0600);
            ::dup2(out, 1);
            ::dup2(err, 2);
            ::chdir(m_folder.c_str());
            ::execv(argv[0], argv.data());
            ::_exit(126);
        }
        int status = 0;
        rusage used{};
        ::wait4(child, &status, 0, &used); // with the children it waited for
        Ended out;
        out.exit = WIFEXITED(status) ? WEXITSTATUS(status) : 128 + WTERMSIG(status);
        const auto seconds = [](const timeval& t) {
            return static_cast<double>(t.tv_sec) + 1e-6 * static_cast<double>(t.tv_usec);
        };
        out.cpuSeconds = seconds(used.ru_utime) + seconds(used.ru_stime);
        out.megabytes = static_cast<double>(used.ru_maxrss) / 1024;
        std::ifstream in(path("said"));
        out.said.assign(std::istreambuf_iterator<char>(in), {});
        return out;
    }

    /// A row: it ends well, in bounds, and says what is wrong in one line.
    void expectRefused(const std::vector<std::string>& words, const std::string& says) const {
        const Ended end = call(words);
        EXPECT_EQ(end.exit, 1) << end.said;
        EXPECT_NE(end.said.find(says), std::string::npos) << end.said;
#ifdef NDEBUG // else what libraries say is seen
        EXPECT_EQ(std::count(end.said.begin(), end.said.end(), '\n'), 1) << end.said;
#endif
        expectBounded(end);
    }
    static void expectBounded(const Ended& end) {
#ifndef __SANITIZE_ADDRESS__ // which takes its own share
        EXPECT_LT(end.cpuSeconds, 10) << end.said;
        EXPECT_LT(end.megabytes, 1024) << end.said;
#else
        (void)end;
#endif
    }

    fs::path m_folder;
};

std::string svgOf(const std::string& body) {
    return R"(<svg xmlns="http://www.w3.org/2000/svg" width="200mm" height="200mm" viewBox="0 0 200 200">)" +
           body + "</svg>";
}
std::string pathOf(int steps, const std::function<geometry::Point(int)>& at) {
    std::string out = "<path d=\"M";
    for (int i = 0; i < steps; ++i) {
        char text[64];
        std::snprintf(text, sizeof text, "%.4f,%.4f ", at(i).x, at(i).y);
        out += text;
    }
    return out + "z\"/>";
}
geometry::Point onCircle(int i, int of) {
    const double turn = 2 * std::numbers::pi * i / of;
    return {100 + 90 * std::cos(turn), 100 + 90 * std::sin(turn)};
}

/// A PDF file of some objects, the first one its catalogue.
std::string pdfOf(const std::vector<std::string>& objects) {
    std::string out = "%PDF-1.4\n", table;
    for (size_t i = 0; i < objects.size(); ++i) {
        char place[32];
        std::snprintf(place, sizeof place, "%010zu 00000 n \n", out.size());
        table += place;
        out += std::to_string(i + 1) + " 0 obj\n" + objects[i] + "\nendobj\n";
    }
    const std::string count = std::to_string(objects.size() + 1), start = std::to_string(out.size());
    return out + "xref\n0 " + count + "\n0000000000 65535 f \n" + table + "trailer\n<< /Size " + count +
           " /Root 1 0 R >>\nstartxref\n" + start + "\n%%EOF\n";
}
std::string streamOf(const std::string& data, const std::string& more = "") {
    return "<< /Length " + std::to_string(data.size()) + " " + more + ">>\nstream\n" + data + "\nendstream";
}
std::string tenTimes(const std::string& text) {
    std::string out;
    for (int i = 0; i < 10; ++i)
        out += text;
    return out;
}

TEST_F(Hostile, LinesThatCrowd) {
    const auto line = [](double x, double y, double toX, double toY) {
        char text[160];
        std::snprintf(text, sizeof text, "0\nLINE\n8\n0\n10\n%.4f\n20\n%.4f\n11\n%.4f\n21\n%.4f\n", x, y, toX,
                      toY);
        return std::string(text);
    };
    const std::string begin =
        "0\nSECTION\n2\nHEADER\n9\n$INSUNITS\n70\n4\n0\nENDSEC\n0\nSECTION\n2\nENTITIES\n" +
        line(-5, -5, 110, -5) + line(110, -5, 110, 110) + line(110, 110, -5, 110) + line(-5, 110, -5, -5);
    constexpr int kLines = 60'000;
    std::string same = begin, strewn = begin;
    std::mt19937 random(1);
    std::uniform_real_distribution<double> place(0, 100), length(0, 4);
    for (int i = 0; i < kLines; ++i) {
        same += line(0, 0, 5, 0);
        const double x = place(random), y = place(random);
        strewn += line(x, y, x + length(random), y);
    }
    for (const auto& [name, text] : {std::pair{"same.dxf", same}, {"strewn.dxf", strewn}}) {
        write(name, text + "0\nENDSEC\n0\nEOF\n");
        const Ended end = call({"import", path(name), "--job", path("o.thinline")});
        EXPECT_EQ(end.exit, 0) << end.said;
        expectBounded(end);
    }
}

TEST_F(Hostile, Drawings) {
    std::string boxes, star;
    for (int i = 0; i < 6000; ++i)
        boxes += R"(<rect x="9" y="9" width="5" height="5"/>)";
    star = pathOf(9000, [](int i) {
        const geometry::Point p = onCircle(i * 481, 9000);
        return i % 2 ? p : geometry::Point{(p.x + 100) / 2, (p.y + 100) / 2};
    });
    write("heavy.svg",
          svgOf("<clipPath id=\"a\">" + star + "</clipPath><g clip-path=\"url(#a)\">" + boxes + "</g>"));
    expectRefused({"import", "heavy.svg", "--job", "o.thinline"}, "by clip paths of more than");
    write("zigzag.svg", svgOf(pathOf(1'000'000, [](int i) {
              return geometry::Point{static_cast<double>(i % 200), static_cast<double>(i * 7 % 200)};
          })));
    expectRefused({"import", "zigzag.svg", "--job", "o.thinline"}, "overlap or cross too often");

    std::string layers = "0\nSECTION\n2\nENTITIES\n";
    for (int i = 0; i < 100'000; ++i)
        layers += "0\nLWPOLYLINE\n8\nL" + std::to_string(i) +
                  "\n90\n3\n70\n1\n10\n0\n20\n0\n10\n5\n20\n0\n10\n5\n20\n5\n";
    write("layers.dxf", layers + "0\nENDSEC\n0\nEOF\n");
    expectRefused({"import", "layers.dxf", "--job", "o.thinline"}, "has 100000 layers");
    write("cut.dxf", layers.substr(0, 4000));
    expectRefused({"import", "cut.dxf", "--job", "o.thinline"}, "breaks off");

    // Forms within forms, ten of each: ten to the eighth.
    std::vector<std::string> forms = {"<< /Type /Catalog /Pages 2 0 R >>",
                                      "<< /Type /Pages /Kids [3 0 R] /Count 1 >>",
                                      "<< /Type /Page /Parent 2 0 R /MediaBox [0 0 200 100] /Resources << "
                                      "/XObject << /F 5 0 R >> >> /Contents 4 0 R >>",
                                      streamOf(tenTimes("/F Do "))};
    for (int k = 5; k < 12; ++k)
        forms.push_back(
            streamOf(tenTimes("/F Do "), "/Type /XObject /Subtype /Form /BBox [0 0 200 100] /Resources << "
                                         "/XObject << /F " +
                                             std::to_string(k + 1) + " 0 R >> >> "));
    forms.push_back(
        streamOf(tenTimes("0 0 5 5 re f "), "/Type /XObject /Subtype /Form /BBox [0 0 200 100] "));
    write("forms.pdf", pdfOf(forms));
    expectRefused({"import", "forms.pdf", "--job", "o.thinline"}, "takes more than 8 seconds or 900 MB");
}

// What can be taken is taken, in bounds.
TEST_F(Hostile, DrawingsThatAreOnlyLarge) {
    write("ring.svg",
          svgOf(R"x(<clipPath id="a" clip-path="url(#b)"><rect width="9" height="9"/></clipPath>)x"
                R"x(<clipPath id="b" clip-path="url(#a)"><rect width="9" height="9"/></clipPath>)x"
                R"x(<rect width="50" height="50" clip-path="url(#a)"/>)x"));
    write("self.svg",
          svgOf(R"x(<clipPath id="a" clip-path="url(#a)"><rect width="9" height="9"/></clipPath>)x"
                R"x(<rect width="50" height="50" clip-path="url(#a)"/>)x"));
    write("smooth.svg", svgOf(pathOf(1'000'000, [](int i) { return onCircle(i, 1'000'000); })));
    for (const char* name : {"ring.svg", "self.svg", "smooth.svg"}) {
        const Ended end = call({"import", name, "--job", "o.thinline"});
        EXPECT_EQ(end.exit, 0) << name << ": " << end.said;
        expectBounded(end);
    }
    std::mt19937 chance(3);
    std::uniform_real_distribution<double> place(10, 190);
    std::string circles;
    for (int i = 0; i < 2000; ++i)
        circles += "<circle cx=\"" + std::to_string(place(chance)) + "\" cy=\"" +
                   std::to_string(place(chance)) + "\" r=\"8\"/>";
    write("circles.svg", svgOf(circles));
    const Ended welded = call({"weld", "circles.svg", "--out", "o.svg"});
    EXPECT_EQ(welded.exit, 0) << welded.said;
    expectBounded(welded);
}

TEST_F(Hostile, Jobs) {
    const auto job = [&](const std::string& name, const std::string& text) {
        base::Bytes bytes(text.begin(), text.end());
        const auto packed = formats::zip::writeArchive(
            {{"job.json", {std::make_shared<const base::Bytes>(std::move(bytes)), false, false}}});
        write(name, std::string(packed->begin(), packed->end()));
    };
    std::string lists = "[]", names = "\"k\": 1";
    for (int i = 0; i < 20'000'000; ++i)
        lists += ",[]";
    job("bomb.thinline", "{\"format\": 4, \"sources\": [" + lists + "]}");
    expectRefused({"show", "bomb.thinline"}, "holds more than it may");
    lists.resize(90'000'000, ' ');
    job("packed.thinline", "{\"format\": 4, \"sources\": [" + lists + "]}");
    expectRefused({"show", "packed.thinline"}, "unpacks to more than it may");
    for (int i = 0; i < 100'000; ++i)
        names += ", \"k" + std::to_string(i) + "\": 1";
    job("names.thinline", "{\"format\": 4, " + names + "}");
    expectRefused({"show", "names.thinline"}, "job.json holds more than it may");
    job("deep.thinline", std::string(100'000, '['));
    expectRefused({"show", "deep.thinline"}, "nested deeper");
    for (const char* format : {"4294967299", "1e300", "5", "4.5"}) {
        job("newer.thinline", "{\"format\": "s + format + ", \"name\": \"x\"}");
        expectRefused({"show", "newer.thinline"}, "written by a newer Thin Line");
    }
    for (const char* format : {"-7", "0", "\"4\"", "null", "[]"}) {
        job("odd.thinline", "{\"format\": "s + format + ", \"name\": \"x\"}");
        expectRefused({"show", "odd.thinline"}, "its format is no number of a format");
    }
    job("kinds.thinline", "{\"format\": 4, \"name\": [1], \"sources\": 3}");
    const Ended kinds = call({"show", "kinds.thinline"});
    EXPECT_EQ(kinds.said.find("json.exception"), std::string::npos) << kinds.said;
    expectRefused({"show", "kinds.thinline"}, "is damaged");
}

TEST_F(Hostile, WhatIsNoFile) {
    ASSERT_EQ(::mkfifo(path("pipe").c_str(), 0600), 0);
    expectRefused({"import", "pipe", "--job", "o.thinline"}, "a device or a pipe");
    expectRefused({"trace", "/dev/zero", "--job", "o.thinline"}, "a device or a pipe");
    expectRefused({"show", "not-there.thinline"}, "there is no such file");
    expectRefused({"trace", ".", "--job", "o.thinline"}, "it is a folder");
    // The picture library says its own about this, to nobody.
    std::ifstream demo(THINLINE_SOURCE_DIR "/demo/gull-point-lighthouse.png", std::ios::binary);
    const std::string png(std::istreambuf_iterator<char>(demo), {});
    write("cut.png", png.substr(0, png.size() / 2));
    expectRefused({"trace", "cut.png", "--job", "o.thinline"}, "The picture is broken");
    // 667 bytes that announce 64 x 48 pixels and make 1.6 GB of them; found by a fuzzer.
    expectRefused(
        {"trace", THINLINE_SOURCE_DIR "/tests/data/image/hostile/tiles-that-lie.heic", "--job", "o.thinline"},
        "The picture is broken");
}

// Copies beyond counting: what would never end is refused before it begins.
TEST_F(Hostile, CopiesBeyondCounting) {
    std::string boxes;
    for (int i = 0; i < 120; ++i)
        boxes += "<rect x=\"" + std::to_string(i % 12 * 16) + "\" y=\"" + std::to_string(i / 12 * 16) +
                 "\" width=\"12\" height=\"" + std::to_string(9 + i % 5) + "\"/>";
    write("boxes.svg", svgOf(boxes));
    ASSERT_EQ(call({"import", "boxes.svg", "--job", "boxes.thinline"}).exit, 0);
    ASSERT_EQ(call({"lay", "boxes.thinline", "--on", "all", "--copies", "999"}).exit, 0);
    expectRefused({"sheets", "boxes.thinline", "--out", "laid"}, "up to 100000 are laid");
}

// A job is saved over and over and killed at any moment: it can always be opened, and nothing gathers beside it.
TEST_F(Hostile, KilledAtRandomMomentsAJobCanBeOpened) {
    document::DiskFileStore store;
    const std::string file = path("shed.thinline");
    ASSERT_TRUE(document::saveJob(store, file, support::tracedShed()));
    std::mt19937 chance(11);
    std::uniform_int_distribution<int> delay(0, 60'000);
    for (int round = 0; round < 20; ++round) {
        const pid_t child = ::fork();
        if (child == 0) {
            for (int i = 0;; ++i) {
                std::vector<std::string> words = {THINLINE_BINARY_DIR "/bin/thinline-batch",
                                                  "lay",
                                                  file,
                                                  "--on",
                                                  "all",
                                                  "--copies",
                                                  std::to_string(1 + i % 3)};
                std::vector<char*> argv;
                for (std::string& word : words)
                    argv.push_back(word.data());
                argv.push_back(nullptr);
                ::close(1);
                ::close(2);
                ::execv(argv[0], argv.data());
                ::_exit(126);
            }
        }
        ::usleep(static_cast<useconds_t>(delay(chance)));
        ::kill(child, SIGKILL);
        ::waitpid(child, nullptr, 0);
        const auto opened = document::loadJob(store, file);
        ASSERT_TRUE(opened) << round << ": " << opened.error().message;
        EXPECT_EQ(opened->state.made.work()->pieces.size(), 4u);
    }
    ASSERT_TRUE(document::saveJob(store, file, support::tracedShed()));
    EXPECT_EQ(store.list(m_folder.string()), std::vector<std::string>{"shed.thinline"});
}

} // namespace
} // namespace thinline::batch
