// SPDX-License-Identifier: Apache-2.0
// Marks the symbols that belong to the public interface.
#pragma once

#define LUMVET_EXPORT __attribute__((visibility("default")))
