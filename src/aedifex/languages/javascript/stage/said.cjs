// What an error says, in words that do not depend on the names by which things are reached.
"use strict";

const REACHED = /^(?:[\w$]+|\(intermediate value\))(?:(?:\.|\?\.)[\w$]+|\[[^\]]*\])*(?:\.|\?\.)([\w$]+) is not /;

/** The message of an error: what is said not to be a function is named by the last step that leads to it. */
function messageOf(error) {
  return error.message.replace(REACHED, "$1 is not ");
}

module.exports = { messageOf };
