/// A value that is one of a few, each with a word in files.
pub trait Choice {
    /// Which of the words it is, in their order.
    fn index(&self) -> usize;
    /// Makes it the one of that word; the last, if there are not so many.
    fn choose(&mut self, index: usize);
}

/// `false` and `true`, whatever they are called.
impl Choice for bool {
    fn index(&self) -> usize {
        usize::from(*self)
    }
    fn choose(&mut self, index: usize) {
        *self = index > 0;
    }
}

/// Says the words of an enum, the default first.
macro_rules! choices {
    ($type:ident { $($variant:ident: $word:literal),+ }) => {
        impl $type {
            /// The words used in files, tables and figures, the default first.
            pub const WORDS: &'static [&'static str] = &[$($word),+];
            const ALL: &'static [$type] = &[$($type::$variant),+];

            /// The word used in files, tables and figures.
            pub fn name(self) -> &'static str {
                match self { $($type::$variant => $word),+ }
            }

            /// The one of a word.
            pub fn of_word(word: &str) -> Option<$type> {
                $type::ALL.iter().copied().find(|one| one.name() == word)
            }
        }

        impl $crate::tuning::Choice for $type {
            fn index(&self) -> usize {
                $type::ALL.iter().position(|one| one == self).unwrap_or_default()
            }
            fn choose(&mut self, index: usize) {
                *self = $type::ALL[index.min($type::ALL.len() - 1)];
            }
        }
    };
}

pub(super) use choices;
