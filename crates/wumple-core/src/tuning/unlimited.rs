//! A bound that may be infinite, written as nothing where it is: not every format has a word for infinity.

use serde::{Deserialize, Deserializer, Serialize, Serializer};

pub(super) fn serialize<S: Serializer>(bound: &f64, serializer: S) -> Result<S::Ok, S::Error> {
    (*bound < f64::INFINITY).then_some(bound).serialize(serializer)
}

pub(super) fn deserialize<'d, D: Deserializer<'d>>(deserializer: D) -> Result<f64, D::Error> {
    Ok(Option::deserialize(deserializer)?.unwrap_or(f64::INFINITY))
}

/// What it is where nothing is written.
pub(super) fn none() -> f64 {
    f64::INFINITY
}
