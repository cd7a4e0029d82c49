// SPDX-License-Identifier: Apache-2.0
// Nothing but the owner of the precompiled header that all tests share.
#include "tests/support/catch.h"
