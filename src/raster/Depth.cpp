// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "raster/Depth.h"

#include <opencv2/imgproc.hpp>

namespace thinline::raster {

std::vector<float> depthsOf(const Grey& mask, Beyond frame) {
    if (mask.width == 0 || mask.height == 0)
        return {};
    cv::Mat framed(mask.height + 2, mask.width + 2, CV_8U, cv::Scalar(frame == Beyond::Outside ? 0 : 255)),
        depth;
    const cv::Rect inner(1, 1, mask.width, mask.height);
    cv::Mat(mask.height, mask.width, CV_8U, const_cast<std::uint8_t*>(mask.values.data()))
        .copyTo(framed(inner));
    cv::distanceTransform(framed, depth, cv::DIST_L2, cv::DIST_MASK_PRECISE);
    const cv::Mat whole = depth(inner).clone();
    return {whole.begin<float>(), whole.end<float>()};
}

} // namespace thinline::raster
