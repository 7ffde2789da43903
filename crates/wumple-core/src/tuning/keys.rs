//! The keys of a tuning: what each is called, of which kind it is, its bounds, what it is where it is not written, and
//! which number it is. Reading, checking, converting and the table in `docs/tuning-file.md` all go by these.

use super::{Acceleration, Choice, FlightBy, LIMIT_ACCELERATION, LIMIT_LENGTH, LIMIT_SPEED, TuningNumbers};
use super::{body, fall, feels, flight, four_way, jump, ladder, numbers, run, wall};
use crate::terrain::Margin;

/// No time in a tuning is longer, s.
pub(super) const LONGEST: f64 = 1000.0;
/// No time that admits or forbids is longer, s.
const LONGEST_WINDOW: f64 = 60.0;
/// No gravity is weaker, px/s^2: a weaker one would take longer than anybody waits, and in the end be nothing.
pub(super) const WEAKEST_GRAVITY: f64 = 1e-3;
/// No ratio is greater.
pub(super) const GREATEST_RATIO: f64 = 1e6;
/// No count is greater.
const GREATEST_COUNT: f64 = 1000.0;

/// A key of a tuning. (`name` and `scale` are of the file, `picture` of figures: none of motion.)
#[derive(Clone, Copy, Debug)]
#[non_exhaustive]
pub struct Key {
    /// Its name with its section, as in a file: `"body.wall_probe"`.
    pub name: &'static str,
    /// What it can be.
    pub kind: KeyKind,
    /// What it is where it is not written.
    pub default: KeyDefault,
    /// What it says, in a few words.
    pub what: &'static str,
    /// The bounds of a number.
    pub bounds: Bounds,
    /// A length that is rounded to 1/1024 px, half up.
    rounded: bool,
    access: Access,
}

/// Where a key's number is; `None` where the section it is in is not there.
pub(super) type Access = for<'a> fn(&'a mut TuningNumbers) -> Option<Slot<'a>>;

/// What a key can be.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
#[non_exhaustive]
pub enum KeyKind {
    /// px.
    Length,
    /// s.
    Time,
    /// px/s.
    Speed,
    /// px/s^2.
    Acceleration,
    /// px/s^2, or a time from rest to top speed, s, or at once.
    RunRate,
    /// Of a flight, px/s by flaps and px/s^2 by thrust: see [`Key::in_numbers`].
    Lift,
    /// px on all sides, or of each.
    Margin,
    /// A number without a unit.
    Number,
    /// A whole number.
    Count,
    /// True or false.
    Switch,
    /// One of these words.
    Word(&'static [&'static str]),
}

/// What a key is where it is not written.
#[derive(Clone, Copy, Debug, PartialEq)]
#[non_exhaustive]
pub enum KeyDefault {
    /// It must be written, if its section is.
    Needed,
    /// This much.
    Number(f64),
    /// Half the side of a tile.
    HalfATile,
    /// This word, or `true` or `false`.
    Word(&'static str),
    /// At once.
    Instant,
    /// Something that other keys say, in words.
    As(&'static str),
}

/// The bounds of a number.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Bounds {
    /// The least bound.
    pub least: f64,
    /// Whether the least bound itself is excluded.
    pub above: bool,
    /// The greatest bound, included.
    pub most: f64,
    /// Hz, px, s, px/s, px/s^2, or empty.
    pub unit: &'static str,
}

/// The number of a key, to be looked at or changed.
#[non_exhaustive]
pub enum Slot<'a> {
    /// In px and seconds.
    Number(&'a mut f64),
    /// The same where it need not be written.
    Optional(&'a mut Option<f64>),
    /// How fast a run speed changes.
    RunRate(&'a mut Acceleration),
    /// The same where it need not be written.
    OptionalRunRate(&'a mut Option<Acceleration>),
    /// How much larger something is felt, px.
    Margin(&'a mut Margin),
    /// A whole number.
    Count(&'a mut u32),
    /// One of a few words, or a switch.
    Choice(&'a mut dyn Choice),
}

/// Every key, section by section.
pub fn keys() -> impl Iterator<Item = &'static Key> {
    [
        numbers::TICK_KEYS,
        body::KEYS,
        run::KEYS,
        fall::KEYS,
        jump::KEYS,
        jump::RELEASE_KEYS,
        jump::AIR_RELEASE_KEYS,
        wall::KEYS,
        ladder::KEYS,
        flight::KEYS,
        four_way::KEYS,
        numbers::PLATFORM_KEYS,
        feels::KEYS,
    ]
    .into_iter()
    .flatten()
}

impl Key {
    /// The key of this name.
    #[must_use]
    pub fn find(name: &str) -> Option<&'static Key> {
        keys().find(|key| key.name == name)
    }

    /// Its section and its own name: `("jump.release", "keep")`.
    #[must_use]
    pub fn parts(&self) -> (&'static str, &'static str) {
        self.name.rsplit_once('.').unwrap_or(("", self.name))
    }

    /// Where its number is, if the section that it is in is there.
    pub fn slot<'a>(&self, numbers: &'a mut TuningNumbers) -> Option<Slot<'a>> {
        (self.access)(numbers)
    }

    /// The key as it is in these numbers: where its kind depends on another, the one that it is then, with its bounds.
    #[must_use]
    pub fn in_numbers(&self, numbers: &TuningNumbers) -> Key {
        let by = match (self.kind, &numbers.flight) {
            (KeyKind::Lift, Some(flight)) => flight.by,
            _ => return *self,
        };
        let kind = if by == FlightBy::Flaps { KeyKind::Speed } else { KeyKind::Acceleration };
        let (most, unit) = by.most_lift();
        Key { kind, bounds: Bounds { most, unit, ..self.bounds }, ..*self }
    }

    pub(super) fn is_rounded(&self) -> bool {
        self.rounded
    }

    const fn new(name: &'static str, kind: KeyKind, access: Access, what: &'static str) -> Key {
        let bounds = Bounds { least: 0.0, above: false, most: f64::INFINITY, unit: "" };
        Key { name, kind, default: KeyDefault::Number(0.0), what, bounds, rounded: false, access }
    }

    pub(super) const fn length(name: &'static str, access: Access, what: &'static str) -> Key {
        Key::new(name, KeyKind::Length, access, what).at_most(LIMIT_LENGTH).unit("px")
    }

    pub(super) const fn margin(name: &'static str, access: Access, what: &'static str) -> Key {
        Key::new(name, KeyKind::Margin, access, what)
    }

    pub(super) const fn time(name: &'static str, access: Access, what: &'static str) -> Key {
        Key::new(name, KeyKind::Time, access, what).at_most(LONGEST_WINDOW).unit("s")
    }

    pub(super) const fn speed(name: &'static str, access: Access, what: &'static str) -> Key {
        Key::new(name, KeyKind::Speed, access, what).at_most(LIMIT_SPEED).unit("px/s")
    }

    pub(super) const fn acceleration(name: &'static str, access: Access, what: &'static str) -> Key {
        Key::new(name, KeyKind::Acceleration, access, what).at_most(LIMIT_ACCELERATION).unit("px/s^2")
    }

    /// How fast a run speed changes: bounds are of the rate, px/s^2.
    pub(super) const fn run_rate(name: &'static str, access: Access, what: &'static str) -> Key {
        let key = Key::new(name, KeyKind::RunRate, access, what).at_most(LIMIT_ACCELERATION).unit("px/s^2");
        key.otherwise(KeyDefault::Instant)
    }

    /// px/s or px/s^2.
    pub(super) const fn lift(name: &'static str, access: Access, what: &'static str) -> Key {
        Key::new(name, KeyKind::Lift, access, what).at_most(LIMIT_ACCELERATION)
    }

    pub(super) const fn number(name: &'static str, access: Access, what: &'static str) -> Key {
        Key::new(name, KeyKind::Number, access, what)
    }

    pub(super) const fn ratio(name: &'static str, access: Access, what: &'static str) -> Key {
        Key::number(name, access, what).above_zero().at_most(GREATEST_RATIO)
    }

    pub(super) const fn count(name: &'static str, access: Access, what: &'static str) -> Key {
        Key::new(name, KeyKind::Count, access, what).at_most(GREATEST_COUNT)
    }

    pub(super) const fn switch(name: &'static str, access: Access, what: &'static str) -> Key {
        Key::new(name, KeyKind::Switch, access, what).otherwise(KeyDefault::Word("false"))
    }

    /// One of these words; the first is the default.
    pub(super) const fn choice(
        name: &'static str,
        words: &'static [&'static str],
        access: Access,
        what: &'static str,
    ) -> Key {
        Key::new(name, KeyKind::Word(words), access, what).otherwise(KeyDefault::Word(words[0]))
    }

    pub(super) const fn above_zero(mut self) -> Key {
        self.bounds.above = true;
        self
    }

    pub(super) const fn at_least(mut self, least: f64) -> Key {
        self.bounds.least = least;
        self
    }

    pub(super) const fn at_most(mut self, most: f64) -> Key {
        self.bounds.most = most;
        self
    }

    pub(super) const fn unit(mut self, unit: &'static str) -> Key {
        self.bounds.unit = unit;
        self
    }

    pub(super) const fn rounded(mut self) -> Key {
        self.rounded = true;
        self
    }

    pub(super) const fn needed(self) -> Key {
        self.otherwise(KeyDefault::Needed)
    }

    /// This much, where it is not written.
    pub(super) const fn or(self, number: f64) -> Key {
        self.otherwise(KeyDefault::Number(number))
    }

    pub(super) const fn otherwise(mut self, default: KeyDefault) -> Key {
        self.default = default;
        self
    }
}
