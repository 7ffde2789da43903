//! Numbers with units, as files and options have them: `"3.5 tiles"`, `"0.1 s"`, `60`.

use std::fmt;

use wumple_core::numbers::KeyKind;

/// What `tile` and `frame` mean to whoever wrote the numbers.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Scale {
    /// The side of a tile, px.
    pub tile: f64,
    /// Frames a second.
    pub frames_per_second: f64,
}

/// The kinds of quantity. A bare number is in the first unit of its kind.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
#[non_exhaustive]
pub enum Kind {
    /// px, tiles.
    Length,
    /// s, ms, frames.
    Time,
    /// px/s, tiles/s, px/frame, tiles/frame.
    Speed,
    /// px/s^2, tiles/s^2, px/frame^2, tiles/frame^2.
    Acceleration,
    /// No unit.
    Number,
}

/// A unit, its other spelling, its kind, and what one of it is in px and seconds.
type Unit = (&'static str, &'static str, Kind, fn(&Scale) -> f64);

#[rustfmt::skip]
const UNITS: [Unit; 13] = [
    ("px", "px", Kind::Length, |_| 1.0),
    ("tiles", "tile", Kind::Length, |s| s.tile),
    ("s", "s", Kind::Time, |_| 1.0),
    ("ms", "ms", Kind::Time, |_| 0.001),
    ("frames", "frame", Kind::Time, |s| 1.0 / s.frames_per_second),
    ("px/s", "px/s", Kind::Speed, |_| 1.0),
    ("tiles/s", "tile/s", Kind::Speed, |s| s.tile),
    ("px/frame", "px/frame", Kind::Speed, |s| s.frames_per_second),
    ("tiles/frame", "tile/frame", Kind::Speed, |s| s.tile * s.frames_per_second),
    ("px/s^2", "px/s^2", Kind::Acceleration, |_| 1.0),
    ("tiles/s^2", "tile/s^2", Kind::Acceleration, |s| s.tile),
    ("px/frame^2", "px/frame^2", Kind::Acceleration, |s| s.frames_per_second * s.frames_per_second),
    ("tiles/frame^2", "tile/frame^2", Kind::Acceleration, |s| s.tile * s.frames_per_second * s.frames_per_second),
];

impl Kind {
    /// That of a tuning's key, if it is a quantity. (A run's rate may be a time as well.)
    #[must_use]
    pub fn of_key(kind: KeyKind) -> Option<Kind> {
        match kind {
            KeyKind::Length | KeyKind::Margin => Some(Kind::Length),
            KeyKind::Time => Some(Kind::Time),
            KeyKind::Speed => Some(Kind::Speed),
            KeyKind::Acceleration | KeyKind::RunRate => Some(Kind::Acceleration),
            KeyKind::Number => Some(Kind::Number),
            _ => None,
        }
    }

    /// With its article, as messages say it.
    #[must_use]
    pub fn name(self) -> &'static str {
        match self {
            Kind::Length => "a length",
            Kind::Time => "a time",
            Kind::Speed => "a speed",
            Kind::Acceleration => "an acceleration",
            Kind::Number => "a number without a unit",
        }
    }

    /// Two quantities of the kind, as messages give them for an example.
    #[must_use]
    pub fn example(self) -> &'static str {
        match self {
            Kind::Length => "\"3 tiles\" or \"48 px\"",
            Kind::Time => "\"0.1 s\" or \"6 frames\"",
            Kind::Speed => "\"7.5 tiles/s\" or \"120 px/s\"",
            Kind::Acceleration => "\"60 tiles/s^2\" or \"960 px/s^2\"",
            Kind::Number => "1.5",
        }
    }

    /// The same with their other spellings, as texts may have them.
    #[cfg(feature = "instruments")]
    pub(crate) fn spellings(self) -> impl Iterator<Item = &'static str> {
        let of_kind = UNITS.iter().filter(move |unit| unit.2 == self);
        of_kind.flat_map(|(unit, other, ..)| if unit == other { vec![*unit] } else { vec![*unit, *other] })
    }

    /// The units of the kind, the first being that of bare numbers.
    pub fn units(self) -> impl Iterator<Item = &'static str> {
        UNITS.iter().filter(move |unit| unit.2 == self).map(|unit| unit.0)
    }
}

/// A number and the unit it was written in.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Quantity {
    /// The number as written.
    pub value: f64,
    /// Its unit; `None` for a bare number.
    unit: Option<&'static Unit>,
}

/// Why a text is no quantity.
#[derive(Clone, Debug, PartialEq, Eq)]
#[non_exhaustive]
pub enum QuantityError {
    /// It does not begin with a number.
    NoNumber(String),
    /// The unit is not known.
    UnknownUnit {
        /// The whole text.
        text: String,
        /// The unit found.
        unit: String,
    },
}

impl fmt::Display for QuantityError {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            QuantityError::NoNumber(text) => write!(f, "\"{text}\" does not begin with a number"),
            QuantityError::UnknownUnit { text, unit } if unit.starts_with(',') => {
                write!(f, "\"{text}\" has a comma; a number has a point, \"{}\"", text.replacen(',', ".", 1))
            }
            QuantityError::UnknownUnit { text, unit } => {
                write!(f, "\"{text}\" has the unknown unit \"{unit}\"")?;
                match likely_unit(unit) {
                    Some(likely) => write!(f, ", which is written \"{likely}\""),
                    None => Ok(()),
                }
            }
        }
    }
}

impl std::error::Error for QuantityError {}

/// The unit that another spelling means: `Tiles`, `pixels`, `px/s2`, `tiles/sec`.
fn likely_unit(unit: &str) -> Option<&'static str> {
    let plain = unit.to_lowercase().replace([' ', '^', '²', '.'], "");
    let plain = plain.replace("pixels", "px").replace("pixel", "px").replace("seconds", "s").replace("second", "s");
    let plain = plain.replace("secs", "s").replace("sec", "s").replace("frames", "frame").replace("tiles", "tile");
    let plain = plain.replace("milliseconds", "ms").replace("/s/s", "/s2").replace("/frame/frame", "/frame2");
    UNITS
        .iter()
        .map(|unit| unit.0)
        .find(|known| known.replace('^', "").replace("frames", "frame").replace("tiles", "tile") == plain)
}

impl Quantity {
    /// A bare number.
    #[must_use]
    pub fn bare(value: f64) -> Quantity {
        Quantity { value, unit: None }
    }

    /// Reads `"3.5 tiles"`; the space may be missing, and the unit too.
    ///
    /// # Errors
    ///
    /// If there is no number at the start, or what follows it is not a known unit.
    pub fn parse(text: &str) -> Result<Quantity, QuantityError> {
        let trimmed = text.trim();
        let (number, unit) = split_number(trimmed);
        let value: f64 = number.parse().map_err(|_| QuantityError::NoNumber(text.into()))?;
        let unit = unit.trim();
        if unit.is_empty() {
            return Ok(Quantity::bare(value));
        }
        match UNITS.iter().find(|known| known.0 == unit || known.1 == unit) {
            Some(unit) => Ok(Quantity { value, unit: Some(unit) }),
            None => Err(QuantityError::UnknownUnit { text: text.into(), unit: unit.into() }),
        }
    }

    /// What a value of a TOML file says, if it is a quantity.
    pub(crate) fn of_item(item: &toml_edit::Item) -> Option<Quantity> {
        if let Some(number) = item.as_float().or(item.as_integer().map(|whole| whole as f64)) {
            return Some(Quantity::bare(number));
        }
        Quantity::parse(item.as_str()?).ok()
    }

    /// The kind its unit says; `None` for a bare number.
    #[must_use]
    pub fn kind(&self) -> Option<Kind> {
        self.unit.map(|unit| unit.2)
    }

    /// The name of its unit; `None` for a bare number.
    #[must_use]
    pub fn unit_name(&self) -> Option<&'static str> {
        self.unit.map(|unit| unit.0)
    }

    /// A number of px and seconds in another unit; as it is if there is no such unit.
    pub fn value_in(px_and_seconds: f64, unit: &str, scale: &Scale) -> f64 {
        UNITS.iter().find(|known| known.0 == unit).map_or(px_and_seconds, |unit| px_and_seconds / (unit.3)(scale))
    }

    /// The number in px and seconds.
    #[must_use]
    pub fn in_px_and_seconds(&self, scale: &Scale) -> f64 {
        self.unit.map_or(self.value, |unit| self.value * (unit.3)(scale))
    }
}

/// From one quantity to another of its kind: `"2..5 tiles"`.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct QuantityRange {
    /// The first.
    pub from: Quantity,
    /// The last, not less than the first where both are in px and seconds.
    pub to: Quantity,
}

impl QuantityRange {
    /// Reads `"2..5 tiles"`, `"2 tiles..80 px"` or, of bare numbers, `"0..2"`. One quantity alone is a range of itself.
    ///
    /// # Errors
    ///
    /// If one of the two is no quantity.
    pub fn parse(text: &str) -> Result<QuantityRange, QuantityError> {
        let Some((from, to)) = text.split_once("..") else {
            let only = Quantity::parse(text)?;
            return Ok(QuantityRange { from: only, to: only });
        };
        let (mut from, to) = (Quantity::parse(from.trim())?, Quantity::parse(to.trim())?);
        if from.unit.is_none() {
            from.unit = to.unit;
        }
        Ok(QuantityRange { from, to })
    }
}

/// A number for people: at most three decimals, and none that are zero; with an exponent from 1e15 on.
#[must_use]
pub fn short(number: f64) -> String {
    // Adding zero turns -0 into 0.
    if number.abs() >= 1e15 {
        return format!("{number:.3e}");
    }
    ((number * 1000.0).round() / 1000.0 + 0.0).to_string()
}

/// A number in a message, as it is; one that is very great or very small does not fill lines with its digits.
pub(crate) fn figure(number: f64) -> String {
    let plain = !number.is_finite() || number == 0.0 || (1e-6..1e15).contains(&number.abs());
    if plain { number.to_string() } else { format!("{number:e}") }
}

/// Splits a text after the number it begins with: digits, a sign, a point, an exponent.
pub(crate) fn split_number(text: &str) -> (&str, &str) {
    let bytes = text.as_bytes();
    let digits = |mut at: usize| {
        while bytes.get(at).is_some_and(u8::is_ascii_digit) {
            at += 1;
        }
        at
    };
    let mut end = digits(usize::from(matches!(bytes.first(), Some(b'+' | b'-'))));
    if bytes.get(end) == Some(&b'.') {
        end = digits(end + 1);
    }
    if matches!(bytes.get(end), Some(b'e' | b'E')) {
        let start = end + 1 + usize::from(matches!(bytes.get(end + 1), Some(b'+' | b'-')));
        if digits(start) > start {
            end = digits(start);
        }
    }
    text.split_at(end)
}

#[cfg(test)]
mod tests {
    use super::*;

    const SCALE: Scale = Scale { tile: 16.0, frames_per_second: 50.0 };

    #[test]
    fn every_unit_in_px_and_seconds() {
        let table = [
            ("3.5 tiles", Some(Kind::Length), 56.0),
            ("1tile", Some(Kind::Length), 16.0),
            ("48px", Some(Kind::Length), 48.0),
            ("0.25 s", Some(Kind::Time), 0.25),
            ("80 ms", Some(Kind::Time), 0.08),
            ("6 frames", Some(Kind::Time), 0.12),
            ("1 frame", Some(Kind::Time), 0.02),
            ("120 px/s", Some(Kind::Speed), 120.0),
            ("7.5 tiles/s", Some(Kind::Speed), 120.0),
            ("2 px/frame", Some(Kind::Speed), 100.0),
            ("0.125 tiles/frame", Some(Kind::Speed), 100.0),
            ("900 px/s^2", Some(Kind::Acceleration), 900.0),
            ("10 tiles/s^2", Some(Kind::Acceleration), 160.0),
            ("0.5 px/frame^2", Some(Kind::Acceleration), 1250.0),
            ("0.5 tiles/frame^2", Some(Kind::Acceleration), 20_000.0),
            (" -1e3 ", None, -1000.0),
            ("+.5", None, 0.5),
        ];
        for (text, kind, value) in table {
            let quantity = Quantity::parse(text).unwrap();
            assert_eq!(quantity.kind(), kind, "{text}");
            assert!((quantity.in_px_and_seconds(&SCALE) - value).abs() < 1e-9, "{text}");
        }
    }

    #[test]
    fn ranges_take_the_unit_of_their_end() {
        for (text, from, to) in [
            ("2..5 tiles", 32.0, 80.0),
            ("2 tiles..80 px", 32.0, 80.0),
            ("-4 tiles..4 tiles", -64.0, 64.0),
            (" 0 .. 2 ", 0.0, 2.0),
            ("3 tiles", 48.0, 48.0),
        ] {
            let range = QuantityRange::parse(text).unwrap();
            let found = [range.from, range.to].map(|end| end.in_px_and_seconds(&SCALE));
            assert_eq!(found, [from, to], "{text}");
        }
        assert!(QuantityRange::parse("..3 px").is_err() && QuantityRange::parse("2...3 tils").is_err());
    }

    #[test]
    fn numbers_for_people() {
        let table =
            [(5.25, "5.25"), (84.79449, "84.794"), (-0.0001, "0"), (54.400_000_000_000_006, "54.4"), (21.0, "21")];
        for (number, text) in table {
            assert_eq!(short(number), text);
        }
    }

    #[test]
    fn what_is_no_quantity() {
        for (text, message) in [
            ("", "\"\" does not begin with a number"),
            ("tall", "\"tall\" does not begin with a number"),
            ("-", "\"-\" does not begin with a number"),
            ("3 metres", "\"3 metres\" has the unknown unit \"metres\""),
            ("3 5 px", "\"3 5 px\" has the unknown unit \"5 px\""),
            ("1e", "\"1e\" has the unknown unit \"e\""),
        ] {
            assert_eq!(Quantity::parse(text).unwrap_err().to_string(), message);
        }
    }
}
