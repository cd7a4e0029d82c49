// SPDX-License-Identifier: Apache-2.0
// The only way to Catch2 in this project; precompiled.
#pragma once

#include <catch2/catch.hpp>
