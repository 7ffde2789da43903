//! Words of a game's own, as kinds of zones and groups are called: short, so that they are copied like numbers.

use core::fmt;

use crate::bytes::{Coded, Sink, Source};

/// A word of up to 16 letters `a` to `z`, digits, `-` and `_`.
#[derive(Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord)]
pub(crate) struct Word([u8; 16]);

impl Word {
    /// `None` if it is empty, too long, or has other letters.
    pub(crate) const fn new(word: &str) -> Option<Word> {
        let (bytes, mut letters, mut at) = (word.as_bytes(), [0; 16], 0);
        if bytes.is_empty() || bytes.len() > letters.len() {
            return None;
        }
        while at < bytes.len() {
            if !matches!(bytes[at], b'a'..=b'z' | b'0'..=b'9' | b'-' | b'_') {
                return None;
            }
            letters[at] = bytes[at];
            at += 1;
        }
        Some(Word(letters))
    }

    pub(crate) fn text(&self) -> &str {
        let end = self.0.iter().position(|letter| *letter == 0).unwrap_or(self.0.len());
        // Made of ASCII letters alone.
        core::str::from_utf8(&self.0[..end]).unwrap_or_default()
    }
}

impl fmt::Debug for Word {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        write!(f, "{:?}", self.text())
    }
}

impl Coded for Word {
    fn put(&self, to: &mut impl Sink) {
        self.0.put(to);
    }
    fn decode(from: &mut Source<'_>) -> Option<Word> {
        let letters = <[u8; 16]>::decode(from)?;
        let end = letters.iter().position(|letter| *letter == 0).unwrap_or(letters.len());
        let word = Word::new(core::str::from_utf8(&letters[..end]).ok()?)?;
        (word.0 == letters).then_some(word)
    }
}
