// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "job/Job.h"

#include "job/Source.h"

#include <algorithm>

namespace thinline::job {

Job::Job() = default;
Job::Job(const Job&) = default;
Job::Job(Job&&) noexcept = default;
Job& Job::operator=(const Job&) = default;
Job& Job::operator=(Job&&) noexcept = default;
Job::~Job() = default;

const Source* findSource(const Job& job, design::SourceId id) {
    for (const auto& source : job.sources)
        if (source->id == id)
            return source.get();
    return nullptr;
}

std::vector<const Source*> pictureSources(const Job& job) {
    std::vector<const Source*> out;
    for (const auto& source : job.sources)
        if (std::holds_alternative<Picture>(source->what))
            out.push_back(source.get());
    return out;
}

const Source* pictureSource(const Job& job, design::SourceId of) {
    const std::vector<const Source*> all = pictureSources(job);
    const auto wanted =
        std::find_if(all.begin(), all.end(), [&](const Source* source) { return source->id == of; });
    return wanted != all.end() ? *wanted : all.empty() ? nullptr : all.front();
}

Job withSource(Job job, Source source) {
    const auto at = std::find_if(job.sources.begin(), job.sources.end(),
                                 [&](const auto& one) { return one->id == source.id; });
    auto shared = std::make_shared<const Source>(std::move(source));
    if (at == job.sources.end())
        job.sources.push_back(std::move(shared));
    else
        *at = std::move(shared);
    return job;
}

const design::Layer* layerOfStock(const Job& job, const std::string& stockId) {
    const auto at = std::find_if(job.layers.rbegin(), job.layers.rend(), [&](const design::Layer& layer) {
        return layer.stockId == stockId && layer.at == design::Layer::At::Front && layer.name.empty();
    });
    return at == job.layers.rend() ? nullptr : &*at;
}

design::LayerId layerForStock(Job& job, const std::string& stockId) {
    if (const design::Layer* there = layerOfStock(job, stockId))
        return there->id;
    const design::LayerId id{job.nextLayer++};
    job.layers.push_back({id, "", stockId});
    return id;
}

} // namespace thinline::job
