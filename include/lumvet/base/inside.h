// SPDX-License-Identifier: Apache-2.0
// What opens the public classes to the rooms of this library, each class by a specialisation of its
// own in the private sources. Nothing for applications.
#pragma once

namespace lumvet {

template <typename T>
struct Inside;

}  // namespace lumvet
