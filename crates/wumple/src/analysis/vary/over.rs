//! Which numbers of a tuning are varied, and over what.

use std::fmt;

use serde::Serialize;
use wumple_core::TuningNumbers;
use wumple_core::numbers::KeyKind;

use super::VaryError;
use crate::analysis::tuning_number::TuningNumber;
use crate::units::{Kind, Quantity, QuantityRange, Scale, short};

/// A key of a tuning over a range, both ends included, in equal steps.
#[derive(Clone, Debug, PartialEq)]
pub struct Over {
    /// The key: `jump.height`.
    pub key: String,
    /// From where to where.
    pub range: QuantityRange,
    /// How many values.
    pub count: usize,
}

impl Over {
    /// How many values if nothing is said.
    pub const USUAL: usize = 21;
    /// No more values.
    pub const MOST: usize = 10_000;

    /// Reads `"jump.height = 2..5 tiles, 31"`; without a count, [`Over::USUAL`] values.
    ///
    /// # Errors
    ///
    /// [`VaryError::Range`] if it is not so.
    pub fn parse(text: &str) -> Result<Over, VaryError> {
        let wrong = |why: String| VaryError::Range { text: text.to_owned(), why };
        let (key, rest) = text.split_once('=').ok_or_else(|| wrong("it has no \"=\"".to_owned()))?;
        let (range, count) = match rest.split_once(',') {
            Some((range, count)) => (range, Some(count.trim())),
            None => (rest, None),
        };
        let range = QuantityRange::parse(range).map_err(|error| wrong(error.to_string()))?;
        let count = match count {
            None => Over::USUAL,
            Some(count) => {
                let count = count.parse().ok().filter(|count| (2..=Over::MOST).contains(count));
                count.ok_or_else(|| wrong(format!("how many is a whole number from 2 to {}", Over::MOST)))?
            }
        };
        Ok(Over { key: key.trim().to_owned(), range, count })
    }
}

impl fmt::Display for Over {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        let unit = self.range.to.unit_name().map_or_else(String::new, |unit| format!(" {unit}"));
        let QuantityRange { from, to } = &self.range;
        write!(f, "{} = {}..{}{unit}, {}", self.key, short(from.value), short(to.value), self.count)
    }
}

/// An axis of what was varied: a key, and its values.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[non_exhaustive]
pub struct VaryAxis {
    /// The key.
    pub key: &'static str,
    /// The unit of its values; empty if they have none.
    pub unit: &'static str,
    /// Its values, from one end of the range to the other.
    pub values: Vec<f64>,
    /// What it is in the tuning; none if it is not written there.
    pub now: Option<f64>,
}

/// An axis, ready to be set.
pub(super) struct Axis {
    number: TuningNumber,
    kind: Kind,
    scale: Scale,
    pub(super) axis: VaryAxis,
}

impl Axis {
    pub(super) fn of(over: &Over, numbers: &TuningNumbers, scale: &Scale) -> Result<Axis, VaryError> {
        let number = TuningNumber::find(&over.key, numbers)?;
        let wrong = |why: String| VaryError::Range { text: over.to_string(), why };
        let (from, to) = (&over.range.from, &over.range.to);
        let is_rate = number.key.kind == KeyKind::RunRate;
        let kind = to.kind().or(from.kind()).unwrap_or(if is_rate { Kind::Acceleration } else { number.kind() });
        let is_known = kind == number.kind() || (is_rate && kind == Kind::Time);
        if !is_known || [from, to].iter().any(|end| end.kind().is_some_and(|of| of != kind)) {
            let example = number.kind().example();
            return Err(wrong(format!("{} is {}, such as {example}", over.key, number.kind().name())));
        }
        // Bare numbers are in the first unit of their kind.
        let unit = to.unit_name().or(kind.units().next()).unwrap_or("");
        let ends = [from, to].map(|end| Quantity::value_in(end.in_px_and_seconds(scale), unit, scale));
        if ends.iter().any(|end| !end.is_finite()) {
            return Err(wrong("its ends are finite numbers".to_owned()));
        }
        if ends[0] >= ends[1] {
            return Err(wrong("its first end is not below its last".to_owned()));
        }
        let step = (ends[1] - ends[0]) / (over.count - 1) as f64;
        // 2.3, and not 2.3000000000000003.
        let value = |at: usize| ((ends[0] + step * at as f64) * 1e9).round() / 1e9;
        let values: Vec<f64> = (0..over.count).map(value).collect();
        if number.key.kind == KeyKind::Count && values.iter().any(|value| value.fract() != 0.0) {
            return Err(wrong(format!("{} is a whole number; so must its steps be", over.key)));
        }
        let now = number.get(numbers).filter(|(_, of)| *of == kind);
        let now = now.map(|(value, _)| Quantity::value_in(value, unit, scale));
        Ok(Axis { number, kind, scale: *scale, axis: VaryAxis { key: number.key.name, unit, values, now } })
    }

    /// Makes the key one of the values.
    pub(super) fn set(&self, numbers: &mut TuningNumbers, value: f64) {
        let one = Quantity::value_in(1.0, self.axis.unit, &self.scale);
        self.number.set(numbers, value / one, self.kind);
    }
}
