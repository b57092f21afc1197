// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "job/Making.h"

/// What is lifted off a sheet together, as steps of a job.
namespace thinline::job {

/// Makes pieces a cluster, lifted off together; they leave those they were in.
/// Errors: InvalidArgument for fewer than two pieces, for pieces of two stocks or with two sides up, for a stock cut
///         by hand; NotFound for a piece that is not there.
base::Result<Job> withCluster(const State& state, const std::string& name,
                              const std::vector<design::PieceId>& pieces);
/// Parts a cluster into its pieces again.
base::Result<Job> withoutCluster(const Job& job, size_t cluster);
/// How often the whole is cut, 1 to 999.
base::Result<Job> withClusterCopies(const Job& job, size_t cluster, int copies);
/// Cuts a frame round a cluster to the carrier, with so much room, 1 to 50 mm; 0 takes it out.
/// Errors: InvalidArgument also for a stock that is cut through: it has no carrier to be lifted off.
base::Result<Job> withClusterFrame(const State& state, size_t cluster, double roomMm);
/// Cuts the frame round a cluster through the carrier, so that the whole comes off as a sheet of its own, or leaves the carrier whole.
/// Errors: NotFound; InvalidArgument where it has no frame.
base::Result<Job> withFrameThrough(const Job& job, size_t cluster, bool isThrough);
/// Errors: InvalidArgument for no name, one of more than 60 letters, one with a line break.
base::Result<Job> withClusterNamed(const Job& job, size_t cluster, const std::string& name);

/// Returns the place in the job of the cluster a piece lies in.
std::optional<size_t> clusterWith(const State& state, design::PieceId piece);

/// Pieces that would better be lifted off together.
struct ProposedCluster {
    std::string name, why;
    std::vector<design::PieceId> pieces;
};
/// Returns what is proposed: of one source what is cut to the carrier, and a piece with what lies in its openings,
/// both of one layer. What lies in a cluster already is left out.
/// Shape: when it is stopped, what was found until then.
/// Cost:  O(pieces2) boxes compared.
std::vector<ProposedCluster> proposedClusters(const State& state, const base::Progress& progress = {});

/// Returns the pieces of a cluster that cannot go with it: of another stock or the other side up.
std::vector<design::PieceId> apartFromCluster(const State& state, size_t cluster);

} // namespace thinline::job
