// SPDX-License-Identifier: Apache-2.0
// What the examples in the public headers take for granted.
#pragma once

#include <lumvet/lumvet.h>
#include <iostream>

using namespace lumvet;

// Closed at the end of the examples.
namespace header_examples {

extern const Document document;
extern const Document manual;
extern const Document report;
extern const Document annex;
extern const Document opened;
extern const Page page;
extern const Raster sheet;
extern const PageWords words;
extern const std::vector<PageWords> pages;
extern const Scene scene;
extern const TextSpan hit;
extern const LoadingReport before;
extern const LoadingReport after;
extern Drawing& drawing;
extern Flow& flow;
extern const Path hill, sky;
extern const Picture photo;
extern const Table costs;
extern const TextStyle strong, body;
extern ByteSink& file;
extern const Trust trust;
extern const TimestampSource stamp;
extern const Bytes list;
extern Bytes bytes;
extern const ByteView resource;
extern std::uint8_t pixels[];
extern const std::uint8_t* const rows;
extern const int width, height, count;
extern const std::ptrdiff_t stride;
extern const std::uint64_t position;

Error complain(const Error&);
void log(const std::string&);
void show(const LayerLine&);
void mark(const Quad&);
void say(const TextWord&);
void write(const std::string& name, const Bytes&);
void go_on_when_more_has_arrived();
bool has_more();
std::string ask_person();
Bytes bytes_of(const char* path);
