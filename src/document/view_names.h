// SPDX-License-Identifier: Apache-2.0
// By which names documents say how they ask to be shown (ISO 32000-2, tables 29 and 147).
#pragma once

#include <string_view>

#include "lumvet/document/opening_view.h"

namespace lumvet::document {

template <typename Value>
struct Named {
  std::string_view name;
  Value value;
};

inline constexpr Named<PageLayout> kLayouts[] = {{"SinglePage", PageLayout::single_page},
                                                 {"OneColumn", PageLayout::one_column},
                                                 {"TwoColumnLeft", PageLayout::two_column_left},
                                                 {"TwoColumnRight", PageLayout::two_column_right},
                                                 {"TwoPageLeft", PageLayout::two_page_left},
                                                 {"TwoPageRight", PageLayout::two_page_right}};
inline constexpr Named<PageMode> kModes[] = {
    {"UseNone", PageMode::none},         {"UseOutlines", PageMode::outline},
    {"UseThumbs", PageMode::thumbnails}, {"FullScreen", PageMode::full_screen},
    {"UseOC", PageMode::layers},         {"UseAttachments", PageMode::attachments}};
inline constexpr Named<PrintScaling> kScalings[] = {{"AppDefault", PrintScaling::as_viewer},
                                                    {"None", PrintScaling::none}};
inline constexpr Named<Duplex> kDuplexes[] = {{"Simplex", Duplex::simplex},
                                              {"DuplexFlipShortEdge", Duplex::flip_short_edge},
                                              {"DuplexFlipLongEdge", Duplex::flip_long_edge},
                                              {"None", Duplex::unstated}};
inline constexpr Named<bool> kDirections[] = {{"L2R", false}, {"R2L", true}};

}  // namespace lumvet::document
