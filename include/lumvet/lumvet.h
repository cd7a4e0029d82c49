// SPDX-License-Identifier: Apache-2.0
// Everything at once. Including it pulls in no library that is not linked: take the headers of the
// rooms you use if you prefer.
#pragma once

#include "lumvet/assemble/assembly.h"
#include "lumvet/assemble/inputs.h"
#include "lumvet/assemble/sheets.h"
#include "lumvet/assemble/split.h"
#include "lumvet/compose/image_pages.h"
#include "lumvet/compose/loading_chart.h"
#include "lumvet/compose/page_text.h"
#include "lumvet/content/scene_cache.h"
#include "lumvet/document/document.h"
#include "lumvet/document/locked_document.h"
#include "lumvet/edit/editable_document.h"
#include "lumvet/fonts/font_supply.h"
#include "lumvet/linear/linear_check.h"
#include "lumvet/linear/loading.h"
#include "lumvet/linear/sizes.h"
#include "lumvet/render/blank_page.h"
#include "lumvet/render/page_images.h"
#include "lumvet/render/render.h"
#include "lumvet/render/thumbnail.h"
#include "lumvet/save/repair.h"
#include "lumvet/save/save.h"
#include "lumvet/text/page_words.h"
#include "lumvet/text/text_pattern.h"
#include "lumvet/version.h"
