//! How numbers are shown: in which unit, over which range.

use wumple::numbers::{Bounds, KeyKind};
use wumple::units::{Kind, Quantity, short};

use super::numbers::Numbers;

/// In which units numbers are shown and written.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub enum Units {
    /// Each in the unit in which the file has it.
    #[default]
    AsWritten,
    /// Tiles and seconds.
    Tiles,
    /// Pixels and seconds.
    Pixels,
    /// Pixels and frames.
    Frames,
}

impl Units {
    /// All of them, each with what it is called.
    pub const ALL: [(Units, &'static str); 4] = [
        (Units::AsWritten, "as written"),
        (Units::Tiles, "tiles, seconds"),
        (Units::Pixels, "px, seconds"),
        (Units::Frames, "px, frames"),
    ];

    /// The unit of a kind; none where it is as written.
    fn of(self, kind: Kind) -> Option<&'static str> {
        let place = match self {
            Units::AsWritten => return None,
            Units::Tiles => 0,
            Units::Pixels => 1,
            Units::Frames => 2,
        };
        let of_kind = match kind {
            Kind::Length => ["tiles", "px", "px"],
            Kind::Time => ["s", "s", "frames"],
            Kind::Speed => ["tiles/s", "px/s", "px/frame"],
            Kind::Acceleration => ["tiles/s^2", "px/s^2", "px/frame^2"],
            _ => return None,
        };
        Some(of_kind[place])
    }
}

impl Numbers {
    /// The unit in which a key's number is shown and written; empty if it has none.
    #[must_use]
    pub fn unit(&self, key: &str, kind: KeyKind, units: Units) -> &'static str {
        let Some(kind) = Kind::of_key(kind) else { return "" };
        let written = || self.written(key).and_then(|words| Quantity::parse(&words).ok()?.unit_name());
        units.of(kind).or_else(written).or_else(|| kind.units().next()).unwrap_or("")
    }

    /// A number of px and seconds as it is written in a unit.
    #[must_use]
    pub fn words_for(&self, number: f64, unit: &str) -> String {
        let value = short(Quantity::value_in(number, unit, &self.file().scale));
        if unit.is_empty() { value } else { format!("{value} {unit}") }
    }

    /// A sensible range of a key's number, in px and seconds: wide enough to try, and for what is kept.
    #[must_use]
    pub fn range(&self, key: &str, kind: KeyKind, bounds: Bounds) -> (f64, f64) {
        let tile = self.file().scale.tile;
        let (section, name) = key.rsplit_once('.').unwrap_or(("", key));
        let most = match Kind::of_key(kind) {
            Some(Kind::Length) if section.starts_with("jump") || section == "wall.jump" => 8.0 * tile,
            Some(Kind::Length) if section == "body" && matches!(name, "width" | "height") => 4.0 * tile,
            Some(Kind::Length) => tile,
            Some(Kind::Time) if name == "time_to_apex" => 1.5,
            Some(Kind::Time) => 0.5,
            Some(Kind::Speed) if section == "fall" => 40.0 * tile,
            Some(Kind::Speed) => 20.0 * tile,
            Some(Kind::Acceleration) => 200.0 * tile,
            _ if key == "tick.rate" => 240.0,
            _ if kind == KeyKind::Count => 5.0,
            _ => 3.0,
        };
        let kept = self.kept_as(key).and_then(|words| Quantity::parse(&words).ok());
        let kept = kept.map_or(0.0, |kept| kept.in_px_and_seconds(&self.file().scale));
        let least = if kind == KeyKind::Margin { -most } else { bounds.least };
        let most = most.max(kept * 1.5);
        // A bound that is itself excluded is a hair away.
        let least = if bounds.above { least + most * 0.001 } else { least };
        (least, most.min(bounds.most))
    }
}
