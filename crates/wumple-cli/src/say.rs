//! What is said beside the results, on standard error. If even that fails, there is nobody to tell.

use std::fmt::Display;
use std::io::Write;

/// Says something.
pub(crate) fn say(words: impl Display) {
    let _ = writeln!(anstream::stderr(), "{words}");
}

/// Says what the user may not have meant.
pub(crate) fn warn(words: impl Display) {
    say(format_args!("warning: {words}"));
}
