//! A number of a tuning by its key, to be looked at and changed.

use wumple_core::TuningNumbers;
use wumple_core::numbers::{Acceleration, Key, KeyKind, Slot, keys};

use crate::files::nearest;
use crate::units::Kind;

/// A key of a tuning that is a number, and is there in it.
#[derive(Clone, Copy, Debug)]
pub(super) struct TuningNumber {
    pub(super) key: Key,
}

/// Why a key is no number of a tuning.
#[derive(Clone, Debug, PartialEq, Eq, thiserror::Error)]
#[non_exhaustive]
pub enum KeyError {
    /// No tuning has it.
    #[error("unknown key \"{key}\"; {remedy}")]
    Unknown {
        /// What was asked for.
        key: String,
        /// What may have been meant.
        remedy: String,
    },
    /// It is a word or a switch.
    #[error("{key} is no number")]
    NoNumber {
        /// The key.
        key: &'static str,
    },
    /// The tuning does not have it: its section is missing, or another pair of numbers says the same.
    #[error("the tuning has no {key}; write it into its file first")]
    NotThere {
        /// The key.
        key: &'static str,
    },
}

impl TuningNumber {
    /// The key of this name, `jump.height`, if it is there in these numbers.
    pub(super) fn find(name: &str, numbers: &TuningNumbers) -> Result<TuningNumber, KeyError> {
        let Some(key) = Key::find(name) else {
            let near = nearest(name, keys().map(|key| key.name));
            let remedy = near.map_or_else(
                || "they are those of docs/tuning-file.md, such as \"jump.height\"".to_owned(),
                |near| format!("did you mean \"{near}\"?"),
            );
            return Err(KeyError::Unknown { key: name.to_owned(), remedy });
        };
        let key = key.in_numbers(numbers);
        if Kind::of_key(key.kind).is_none() && key.kind != KeyKind::Count {
            return Err(KeyError::NoNumber { key: key.name });
        }
        match key.slot(&mut numbers.clone()) {
            Some(_) => Ok(TuningNumber { key }),
            None => Err(KeyError::NotThere { key: key.name }),
        }
    }

    /// Its kind. (A run's rate may be a time as well.)
    pub(super) fn kind(&self) -> Kind {
        Kind::of_key(self.key.kind).unwrap_or(Kind::Number)
    }

    /// What it is, in px and seconds, and of which kind; none if it is not written, at once, or different on each side.
    pub(super) fn get(&self, numbers: &TuningNumbers) -> Option<(f64, Kind)> {
        let of_rate = |rate: &Acceleration| match rate {
            Acceleration::Rate(rate) => Some((*rate, Kind::Acceleration)),
            Acceleration::Time(seconds) => Some((*seconds, Kind::Time)),
            _ => None,
        };
        let kind = self.kind();
        match self.key.slot(&mut numbers.clone())? {
            Slot::Number(number) => Some((*number, kind)),
            Slot::Optional(number) => Some(((*number)?, kind)),
            Slot::Count(count) => Some((f64::from(*count), kind)),
            Slot::RunRate(rate) => of_rate(rate),
            Slot::OptionalRunRate(rate) => of_rate(rate.as_ref()?),
            Slot::Margin(margin) => {
                let sides = [margin.left, margin.right, margin.above, margin.below];
                sides.iter().all(|side| *side == sides[0]).then_some((sides[0], kind))
            }
            _ => None,
        }
    }

    /// Makes it another, in px and seconds, of a kind that it can have.
    pub(super) fn set(&self, numbers: &mut TuningNumbers, value: f64, kind: Kind) {
        let rate = match kind {
            Kind::Time => Acceleration::Time(value),
            _ => Acceleration::Rate(value),
        };
        match self.key.slot(numbers) {
            Some(Slot::Number(number)) => *number = value,
            Some(Slot::Optional(number)) => *number = Some(value),
            Some(Slot::Count(count)) => *count = value.round() as u32,
            Some(Slot::RunRate(of)) => *of = rate,
            Some(Slot::OptionalRunRate(of)) => *of = Some(rate),
            Some(Slot::Margin(margin)) => *margin = wumple_core::Margin::all(value),
            _ => {}
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::files::TuningFile;

    #[test]
    fn every_number_that_is_there_can_be_changed_and_read_back() {
        let tuning = TuningFile::parse("dab", crate::demo::CLIMBING_DAB).unwrap();
        let numbers = tuning.tuning.numbers();
        let mut found = 0;
        for key in keys() {
            let Ok(number) = TuningNumber::find(key.name, numbers) else { continue };
            found += 1;
            let mut changed = numbers.clone();
            number.set(&mut changed, 3.0, number.kind());
            assert_eq!(number.get(&changed), Some((3.0, number.kind())), "{}", key.name);
        }
        assert!(found > 30, "{found}");
    }

    #[test]
    fn what_is_no_number_says_so() {
        let tuning = TuningFile::parse("dab", crate::demo::DAB).unwrap();
        for (name, words) in [
            ("jump.hieght", "unknown key \"jump.hieght\"; did you mean \"jump.height\"?"),
            ("jump.repeat", "jump.repeat is no number"),
            ("wall.jump.height", "the tuning has no wall.jump.height; write it into its file first"),
            ("jump.speed", "the tuning has no jump.speed; write it into its file first"),
        ] {
            assert_eq!(TuningNumber::find(name, tuning.tuning.numbers()).unwrap_err().to_string(), words);
        }
    }
}
