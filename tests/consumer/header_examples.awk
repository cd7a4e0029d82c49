# SPDX-License-Identifier: Apache-2.0
# The examples in the comments of the public headers as functions of one program: those lines of
# each header's first comment that are set in by three blanks and more.
FNR == 1 { finish(); in_code = 0; is_over = FILENAME ~ /(page_selection|version)\.h$/ }
/^#pragma once/ { is_over = 1 }
/^\/\/   / && !is_over {
  if (!in_code) { print "Status example_" ++count "() {  // " FILENAME; in_code = 1 }
  print substr($0, 3)
}
END { finish(); print "static_assert(" count " > 30);\n}  // namespace header_examples" }
function finish() { if (in_code) print "  return Done{};\n}" }
