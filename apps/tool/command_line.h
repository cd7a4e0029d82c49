// SPDX-License-Identifier: Apache-2.0
// Names of the argument parser, for headers; its own are large, and only files that state options
// include them.
#pragma once

namespace CLI {
class App;
class Formatter;
class Option;
class Validator;
}  // namespace CLI
