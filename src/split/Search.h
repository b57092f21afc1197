// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "split/Flow.h"
#include "split/Net.h"
#include "split/Pose.h"

#include <functional>
#include <map>
#include <random>

/// The search for a division over a network. Internal to the folder.
namespace thinline::split {

/// Which triangle belongs to which part.
struct Labelling {
    std::vector<int> part; ///< of every triangle, from 0
    int parts = 0, thin = 0;
    int unfit = 0; ///< parts larger than the room
    double price = 1e300;
};

struct Joining;

class Search {
  public:
    /// Counts what a chord leaves too thin beside it, given the other sides that are cut.
    using SliverCount = std::function<int(const Arc& arc, const std::vector<int>& cut)>;

    Search(Net& net, const Room& room, const Options& options, SliverCount slivers,
           const base::Progress& progress);

    /// Looks for divisions. Errors: Cancelled.
    base::Status run();
    /// The best for each number of parts and thin cuts, those that another is better than on both left out; best first.
    std::vector<Labelling> best() const;
    /// How much dearer the whole is when no seam runs near some sides; nothing when there is no other way.
    std::optional<double> elsewhere(const Labelling& from, const std::vector<int>& arcs);
    /// The sides between parts.
    std::vector<int> cutsOf(const Labelling& labelling) const;

  private:
    // Beginnings (Starts.cpp)
    std::vector<Labelling> beginnings();
    Labelling begunWith(const std::vector<Pose>& poses);
    void addGrids(std::vector<Labelling>& out);
    void addChains(std::vector<Labelling>& out);
    void addPeelings(std::vector<Labelling>& out);
    void addGreedy(std::vector<Labelling>& out);
    std::optional<Pose> bestAround(int end, const std::vector<char>& isUncovered, std::vector<int>& won);
    Pose randomPose();
    std::vector<int> heldBy(const Pose& pose);
    double connectedArea(int from, const std::vector<char>& isOpen, std::vector<int>& group) const;

    bool isCancelled() const { return m_progress.isCancelled(); }
    /// Lets a pose take what it wins by from all other parts; triangles of `own` are given to it first.
    std::vector<int> expanded(const std::vector<int>& labels, const std::vector<int>& held, int own);
    /// Splits labels into connected parts, joins those that fit together, and prices the rest.
    Labelling settled(const std::vector<int>& labels);
    std::vector<double> partedAreas(const std::vector<int>& labels, std::vector<int>& part) const;
    void join(std::vector<Joining>& parts, const std::vector<int>& part) const;
    double priceOf(const std::vector<double>& areas) const;
    void remember(const Labelling& labelling);
    Labelling improved(Labelling from, int rounds);
    bool checkSlivers();
    void reprice(Labelling& labelling) const;
    void addSeams(Labelling& labelling) const;
    std::map<std::pair<int, int>, std::vector<int>> bordersOf(const Labelling& labelling) const;
    bool isEvasive(const std::vector<int>& border) const;
    std::vector<geometry::Polygon> hullsOf(const std::vector<int>& part, int parts) const;
    std::optional<Pose> poseAround(const geometry::Polygon& hull);
    double random() { return static_cast<double>(m_random() >> 11) / 9007199254740992.0; }

    Net& m_net;
    const Room m_room; ///< less what is kept in hand
    const Options& m_options;
    const SliverCount m_slivers;
    const base::Progress& m_progress;
    Flow m_flow;
    std::mt19937_64 m_random;
    double m_area = 0;
    std::vector<int> m_order;               ///< corners from left to right: hulls come out without sorting
    std::vector<std::vector<int>> m_around; ///< the triangles at every corner
    std::vector<char> m_isHeld;             ///< of corners, while a pose is asked
    std::map<std::pair<int, int>, Labelling> m_best;
};

} // namespace thinline::split
