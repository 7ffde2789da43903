use alloc::vec::Vec;
use core::fmt;

use super::ShapeError;
use crate::space::float::round_half_up;

/// One thing that is wrong with a tuning.
#[derive(Clone, Debug, PartialEq)]
pub struct TuningError {
    /// The number's name, as in a tuning file: `"jump.height"`.
    pub key: &'static str,
    /// What is wrong and what would be right, without the name.
    pub problem: Problem,
}

/// What can be wrong with a number.
#[derive(Clone, Debug, PartialEq)]
#[non_exhaustive]
pub enum Problem {
    /// Outside its bounds.
    OutOfBounds {
        /// What was given, in px and seconds.
        found: f64,
        /// Whether the least bound itself is excluded.
        above: bool,
        /// The least bound.
        least: f64,
        /// The greatest bound, included.
        most: f64,
        /// px, s, px/s, ...
        unit: &'static str,
    },
    /// Needed, but not there.
    Missing(&'static str),
    /// There, though another number already says the same, or the contrary.
    Superfluous(&'static str),
    /// Not a whole number of px, though places are whole pixels.
    NotWhole {
        /// What was given, px.
        found: f64,
    },
    /// Nothing of the hitbox would be left to feel with.
    LeavesNothing,
    /// No jump has the height and time asked for.
    Shape(ShapeError),
    /// What follows from it is out of bounds.
    TooGreat {
        /// What follows.
        what: &'static str,
        /// Its value.
        found: f64,
        /// The greatest bound.
        most: f64,
        /// px/s, px/s^2 or s.
        unit: &'static str,
    },
    /// Not above what it must be above.
    NotAbove {
        /// What was given, px/s.
        found: f64,
        /// What it must be above.
        what: &'static str,
        /// That, px/s.
        least: f64,
    },
    /// Below what it must be at least.
    Below {
        /// What was given, px/s.
        found: f64,
        /// What it must be at least.
        what: &'static str,
        /// That, px/s.
        least: f64,
    },
    /// The fall back from a jump's apex would take too long.
    FallTooLong {
        /// How high the jump is, px.
        height: f64,
        /// How far it falls in the longest time, px.
        fallen: f64,
        /// The longest time that a fall may take, s.
        longest: f64,
    },
    /// A gravity that follows from the number is too weak.
    TooSmall {
        /// Which.
        what: &'static str,
        /// Its value, px/s^2.
        found: f64,
        /// The least bound, px/s^2.
        least: f64,
    },
}

impl fmt::Display for Problem {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            Problem::OutOfBounds { found, above, least, most, unit } => {
                let bound = if *above { "above" } else { "at least" };
                let unit = Unit(unit);
                write!(f, "is {}{unit}; it must be {bound} {least} and at most {most}{unit}", Figure(*found))
            }
            Problem::Missing(why) | Problem::Superfluous(why) => f.write_str(why),
            Problem::LeavesNothing => f.write_str("leaves nothing of the hitbox to feel with; make it less"),
            Problem::NotWhole { found } => {
                write!(f, "is {found} px; with whole pixels it must be a whole number of px")
            }
            Problem::Shape(ShapeError::HangTooFast { take_off }) => {
                write!(f, "must be below the take-off speed, which is {take_off:.1} px/s")
            }
            Problem::Shape(ShapeError::SustainTooLong) => {
                f.write_str("must be shorter than the time to the apex: something must be left to slow down in")
            }
            Problem::Shape(ShapeError::NoWholeTicks { ticks }) => {
                write!(
                    f,
                    "leaves no way to come to rest after exactly {ticks} ticks; change it or jump.time_to_apex a little"
                )
            }
            Problem::TooGreat { what, found, most, unit } => {
                write!(
                    f,
                    "makes {what} {} {unit}; it may be at most {} {unit}",
                    Figure(rounded(*found)),
                    Figure(rounded(*most))
                )
            }
            Problem::NotAbove { found, what, least } => {
                let (found, least) = (Figure(rounded(*found)), Figure(rounded(*least)));
                write!(f, "is {found} px/s; it must be above {what}, {least} px/s")
            }
            Problem::Below { found, what, least } => {
                let (found, least) = (Figure(rounded(*found)), Figure(rounded(*least)));
                write!(f, "is {found} px/s; it must be at least {what}, {least} px/s")
            }
            Problem::FallTooLong { height, fallen, longest } => {
                let (height, fallen) = (Figure(rounded(*height)), Figure(rounded(*fallen)));
                write!(
                    f,
                    "makes the fall from a jump's {height} px too slow: {} s bring it {fallen} px down",
                    Figure(rounded(*longest))
                )
            }
            Problem::TooSmall { what, found, least } => {
                write!(f, "makes {what} {found:.3e} px/s^2; it must be at least {least} px/s^2")
            }
        }
    }
}

/// A number in a message: one that is very great or very small does not fill lines with its digits.
struct Figure(f64);

impl fmt::Display for Figure {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        let Figure(number) = self;
        let plain = number.is_nan() || number.is_infinite() || *number == 0.0 || (1e-6..1e15).contains(&number.abs());
        if plain { write!(f, "{number}") } else { write!(f, "{number:e}") }
    }
}

/// What follows from a number, to a hundredth, or whole where it is in the thousands.
fn rounded(number: f64) -> f64 {
    if number.abs() < 1000.0 { round_half_up(number * 100.0) / 100.0 } else { round_half_up(number) }
}

/// A unit after its number; nothing for a ratio.
struct Unit<'a>(&'a str);

impl fmt::Display for Unit<'_> {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        if self.0.is_empty() { Ok(()) } else { write!(f, " {}", self.0) }
    }
}

impl fmt::Display for TuningError {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        write!(f, "{} {}", self.key, self.problem)?;
        let vertical = ["jump.", "fall.", "wall.", "flight."].iter().any(|section| self.key.starts_with(section));
        match self.problem {
            Problem::OutOfBounds { found, .. } if found < 0.0 && vertical => {
                f.write_str("; heights, speeds and gravities are given by their size, whichever way y goes")
            }
            _ => Ok(()),
        }
    }
}

/// All that is wrong with a tuning.
#[derive(Clone, Debug, PartialEq)]
pub struct TuningErrors(
    /// At least one.
    pub Vec<TuningError>,
);

impl fmt::Display for TuningErrors {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        for (index, error) in self.0.iter().enumerate() {
            write!(f, "{}{error}", if index == 0 { "" } else { "; " })?;
        }
        Ok(())
    }
}

impl core::error::Error for TuningErrors {}
