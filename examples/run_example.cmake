# SPDX-License-Identifier: Apache-2.0
# Runs COMMAND and looks at both what it says and the code that it ends with.
execute_process(COMMAND ${COMMAND} RESULT_VARIABLE code OUTPUT_VARIABLE output ERROR_VARIABLE output)
if(NOT code EQUAL CODE OR NOT output MATCHES "${SAYS}")
  message(FATAL_ERROR "ended with ${code} in place of ${CODE}, or does not say '${SAYS}':\n${output}")
endif()
