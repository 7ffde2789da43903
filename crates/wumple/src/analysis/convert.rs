//! A tuning for another loop: another scheme, rate, tile size, or other units.

use serde::Serialize;
use toml_edit::DocumentMut;
use wumple_core::TuningNumbers;
use wumple_core::advanced::RiseRules;
use wumple_core::numbers::{FlightBy, JumpShape, KeyKind, Scheme, keys};

use super::arcs::{ArcKind, TuningArcs, arcs};
use super::fit::write::{plain, shortest};
use super::flight_arcs::{FlightMeasures, flight_measures};
use crate::files::edit::{Change, changed, item_at};
use crate::files::{Diagnostics, TuningFile};
use crate::units::{Kind, Quantity, Scale, figure, short};

/// What the tuning is to become; what is not given stays.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub struct Target {
    /// The scheme of integration.
    pub scheme: Option<Scheme>,
    /// Ticks a second.
    pub rate: Option<f64>,
    /// The side of a tile, px. The motion stays the same in tiles: every length grows with them.
    pub tile: Option<f64>,
    /// In which units quantities are written.
    pub units: Option<UnitStyle>,
}

/// In which units quantities are written.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
#[non_exhaustive]
pub enum UnitStyle {
    /// px, s, px/s, px/s^2.
    Pixels,
    /// tiles, s, tiles/s, tiles/s^2.
    Tiles,
    /// px, frames, px/frame, px/frame^2.
    Frames,
}

impl UnitStyle {
    /// The words used on the command line.
    pub const NAMES: [(&'static str, UnitStyle); 3] =
        [("px", UnitStyle::Pixels), ("tiles", UnitStyle::Tiles), ("frames", UnitStyle::Frames)];

    fn unit(self, kind: Kind) -> &'static str {
        match (self, kind) {
            (UnitStyle::Tiles, Kind::Length) => "tiles",
            (UnitStyle::Tiles, Kind::Speed) => "tiles/s",
            (UnitStyle::Tiles, Kind::Acceleration) => "tiles/s^2",
            (UnitStyle::Frames, Kind::Time) => "frames",
            (UnitStyle::Frames, Kind::Speed) => "px/frame",
            (UnitStyle::Frames, Kind::Acceleration) => "px/frame^2",
            (_, Kind::Length) => "px",
            (_, Kind::Time) => "s",
            (_, Kind::Speed) => "px/s",
            (_, Kind::Acceleration) => "px/s^2",
            (_, Kind::Number) => "",
        }
    }
}

/// A tuning converted. Serializes as `wumple-convert 1`.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[non_exhaustive]
pub struct Conversion {
    /// `wumple-convert 1`.
    pub format: &'static str,
    /// The jumps before.
    pub before: TuningArcs,
    /// The jumps after.
    pub after: TuningArcs,
    /// What stays the same and what cannot, in words.
    pub said: Vec<String>,
    /// The text of the converted file: comments and all that need not change are kept.
    pub text: String,
}

/// Why a tuning cannot be converted. `Debug` says the same as `Display`: it is what `?` in a test shows.
#[derive(Clone, thiserror::Error)]
#[non_exhaustive]
pub enum ConvertError {
    /// The tuning itself is wrong.
    #[error(transparent)]
    Wrong(Diagnostics),
    /// The other loop's rate or tile is out of bounds.
    #[error("the {what} is {} {unit}; it must be from {least} to {most} {unit}", figure(*found))]
    OutOfBounds {
        /// `rate` or `tile`.
        what: &'static str,
        /// What it is.
        found: f64,
        /// The least it may be.
        least: f64,
        /// The most it may be.
        most: f64,
        /// Hz or px.
        unit: &'static str,
    },
    /// No numbers do the same in the other loop.
    #[error("no jump of that loop has the same apex; change the hang or the sustained time first")]
    NoSameApex,
}

impl std::fmt::Debug for ConvertError {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        std::fmt::Display::fmt(self, f)
    }
}

/// The quantities of a picture, which no motion has.
const PICTURE: [&str; 4] = ["picture.width", "picture.height", "picture.right", "picture.down"];

/// Every quantity a tuning may have, by its path and kind. (Accelerations of a run may be times as well.) `own` are the kinds
/// of zones of the game's own for which it says how they are felt.
fn quantities<'a>(own: &'a [&'a str], numbers: &TuningNumbers) -> impl Iterator<Item = (Vec<&'a str>, Kind)> {
    let of_motion = keys().filter_map(|key| Some((key.name, Kind::of_key(key.in_numbers(numbers).kind)?)));
    let all = of_motion.chain(PICTURE.into_iter().map(|name| (name, Kind::Length)));
    let all = all.map(|(name, kind)| (name.split('.').collect(), kind));
    // A margin may be of each side.
    let margins = keys().filter(|key| key.kind == KeyKind::Margin).map(|key| key.name.split('.').collect());
    let own = own.iter().map(|kind| vec!["feels", *kind]);
    let all = all.chain(own.clone().map(|path| (path, Kind::Length)));
    let sides = margins.chain(own).flat_map(|margin: Vec<&str>| {
        ["left", "right", "above", "below"].map(|side| ([margin.as_slice(), &[side]].concat(), Kind::Length))
    });
    all.chain(sides)
}

/// Converts the text of a tuning file; `name` is what messages call it.
///
/// A jump given as height and time keeps them; one given as speed and gravity gets those that reach the
/// same apex in the new loop, at the nearest time it can.
///
/// # Errors
///
/// If the text is no right tuning, before or after, or no jump of the new loop has the same apex.
pub fn convert(name: &str, text: &str, target: &Target) -> Result<Conversion, ConvertError> {
    within("rate", target.rate, 1.0, 10_000.0, "Hz")?;
    within("tile", target.tile, 1.0, 4096.0, "px")?;
    let before = TuningFile::parse(name, text).map_err(ConvertError::Wrong)?;
    let growth = target.tile.map_or(1.0, |tile| tile / before.scale.tile);
    let document = text.parse::<DocumentMut>().unwrap_or_default();
    let mut changes = quantities_changed(&document, &before, growth, target);
    if let Some(scheme) = target.scheme {
        changes.push(Change::new(&["tick", "scheme"], scheme.name()));
    }
    if let Some(rate) = target.rate {
        changes.push(Change::new(&["tick", "rate"], plain(rate)));
        if item_at(&document, &["scale", "frames_per_second"]).is_none() {
            // A frame stays what it was.
            changes.push(Change::new(&["scale", "frames_per_second"], plain(before.scale.frames_per_second)));
        }
    }
    if let Some(tile) = target.tile {
        changes.push(Change::new(&["scale", "tile"], plain(tile)));
    }
    changes.extend(repaired_jump(&document, &before, growth, target)?);
    let mut text = changed(text, &changes, &[]);
    let mut after = TuningFile::parse(name, &text).map_err(ConvertError::Wrong)?;
    if let Some(change) = repaired_flap(&document, &before, &after, growth, target) {
        text = changed(&text, &[change], &[]);
        after = TuningFile::parse(name, &text).map_err(ConvertError::Wrong)?;
    }
    let report = arcs([&before, &after]);
    let [old, new]: [TuningArcs; 2] = report.tunings.try_into().expect("two tunings were measured");
    let said = differences(&before, &after, &old, &new);
    Ok(Conversion { format: "wumple-convert 1", before: old, after: new, said, text })
}

fn within(
    what: &'static str,
    found: Option<f64>,
    least: f64,
    most: f64,
    unit: &'static str,
) -> Result<(), ConvertError> {
    let is_within = found.is_none_or(|found| (least..=most).contains(&found));
    let found = found.unwrap_or_default();
    is_within.then_some(()).ok_or(ConvertError::OutOfBounds { what, found, least, most, unit })
}

/// Quantities written in other units, or longer with the tiles.
fn quantities_changed(document: &DocumentMut, before: &TuningFile, growth: f64, target: &Target) -> Vec<Change> {
    let (mut changes, scale) = (Vec::new(), &before.scale);
    let own: Vec<&str> = before.tuning.feels().own.iter().map(|(kind, _)| kind.word()).collect();
    let rows: Vec<String> = (0..before.poses.len()).map(|row| row.to_string()).collect();
    let strides = rows.iter().map(|row| (vec!["pose", row, "stride"], Kind::Length));
    for (path, kind) in quantities(&own, before.tuning.numbers()).chain(strides) {
        let path = path.as_slice();
        let Some(quantity) = item_at(document, path).and_then(Quantity::of_item) else { continue };
        let kind = quantity.kind().unwrap_or(kind);
        let grows = matches!(kind, Kind::Length | Kind::Speed | Kind::Acceleration);
        let value = quantity.in_px_and_seconds(scale) * if grows { growth } else { 1.0 };
        let new_scale = Scale { tile: scale.tile * growth, ..*scale };
        let unit = match target.units {
            Some(style) => style.unit(kind),
            None if growth == 1.0 => continue,
            None => quantity.unit_name().unwrap_or(UnitStyle::Pixels.unit(kind)),
        };
        if kind == Kind::Number {
            continue;
        }
        let number = few_digits(Quantity::value_in(value, unit, &new_scale), kind);
        changes.push(match (target.units, quantity.unit_name()) {
            (None, None) => Change::new(path, plain(number)),
            _ => Change::new(path, format!("{number} {unit}")),
        });
    }
    changes
}

/// The speed and gravity that reach the same apex in the new loop, if the tuning gives its jump so.
fn repaired_jump(
    document: &DocumentMut,
    before: &TuningFile,
    growth: f64,
    target: &Target,
) -> Result<Vec<Change>, ConvertError> {
    let numbers = before.tuning.numbers();
    let Some(jump) = &numbers.jump else { return Ok(Vec::new()) };
    let loop_changes = target.scheme.is_some() || target.rate.is_some();
    if !matches!(jump.shape, JumpShape::SpeedAndGravity { .. }) || !loop_changes {
        return Ok(Vec::new());
    }
    let report = arcs([before]);
    let Some(full) = report.tunings[0].arc(ArcKind::Full) else { return Ok(Vec::new()) };
    let rules = RiseRules {
        scheme: target.scheme.unwrap_or(numbers.scheme),
        dt: 1.0 / target.rate.unwrap_or(numbers.rate),
        hang_speed: jump.hang.map_or(0.0, |hang| hang.speed) * growth,
        hang_ratio: jump.hang.map_or(1.0, |hang| hang.gravity_ratio),
        sustain: jump.release.sustain(),
    };
    let shape = rules.shape(full.apex_height_px * growth, full.apex_time_s).map_err(|_| ConvertError::NoSameApex)?;
    let scale = Scale { tile: before.scale.tile * growth, ..before.scale };
    let in_jump = |key, value, kind| written(document, &["jump", key], value, kind, &scale, target);
    Ok(vec![in_jump("speed", shape.speed, Kind::Speed), in_jump("gravity", shape.gravity, Kind::Acceleration)])
}

/// The lift of flaps that get as high in the new loop.
fn repaired_flap(
    document: &DocumentMut,
    before: &TuningFile,
    after: &TuningFile,
    growth: f64,
    target: &Target,
) -> Option<Change> {
    let flaps = before.tuning.flight().is_some_and(|flight| flight.by == FlightBy::Flaps);
    if !flaps || (target.scheme.is_none() && target.rate.is_none()) {
        return None;
    }
    let height = match flight_measures(&before.tuning, before.scale.tile)? {
        FlightMeasures::Flaps { apex_height_px, .. } => apex_height_px * growth,
        FlightMeasures::Thrust { .. } => return None,
    };
    let scale = Scale { tile: before.scale.tile * growth, ..before.scale };
    let lift = after.tuning.speed_to_rise_without_hang(height);
    Some(written(document, &["flight", "lift"], lift, Kind::Speed, &scale, target))
}

/// A number as a file has it: in the unit that is asked for, or that is there.
fn written(
    document: &DocumentMut,
    path: &[&'static str],
    value: f64,
    kind: Kind,
    scale: &Scale,
    target: &Target,
) -> Change {
    let there = item_at(document, path).and_then(Quantity::of_item).and_then(|there| there.unit_name());
    match target.units.map_or(there, |style| Some(style.unit(kind))) {
        Some(unit) => Change::new(path, format!("{} {unit}", few_digits(Quantity::value_in(value, unit, scale), kind))),
        None => Change::new(path, plain(few_digits(value, kind))),
    }
}

/// As few digits as say the number so exactly that nothing changes: what a jump takes off with decides in which tick
/// it comes to rest, so that speeds and accelerations have two digits more. No noise of conversion is shown.
fn few_digits(number: f64, kind: Kind) -> f64 {
    let is_rate = matches!(kind, Kind::Speed | Kind::Acceleration);
    let off = number.abs() * if is_rate { 1e-13 } else { 1e-11 };
    shortest(number, number - off, number + off)
}

/// What stays the same and what does not, in tiles and seconds.
fn differences(before: &TuningFile, after: &TuningFile, old: &TuningArcs, new: &TuningArcs) -> Vec<String> {
    let mut said = Vec::new();
    let mut compare = |what: &str, a: f64, b: f64, unit: &str| {
        let by = b - a;
        said.push(if by.abs() <= 1e-6 * (1.0 + a.abs()) {
            format!("{what} stays {} {unit}", short(a))
        } else {
            let sign = if by > 0.0 { "+" } else { "" };
            format!("{what} changes from {} to {} {unit} ({sign}{})", short(a), short(b), short(by))
        });
    };
    for kind in [ArcKind::Full, ArcKind::Tap, ArcKind::Running, ArcKind::Air, ArcKind::Wall] {
        let (Some(a), Some(b)) = (old.arc(kind), new.arc(kind)) else { continue };
        compare(&format!("{} height", kind.name()), a.apex_height_tiles, b.apex_height_tiles, "tiles");
        if kind == ArcKind::Full {
            compare("time to the apex", a.apex_time_s, b.apex_time_s, "s");
            compare("time in the air", a.air_time_s, b.air_time_s, "s");
        }
        if kind == ArcKind::Running {
            compare("running reach", a.reach_tiles, b.reach_tiles, "tiles");
        }
    }
    match (&old.flight, &new.flight) {
        (
            Some(FlightMeasures::Flaps { apex_height_tiles: a, presses_to_hold: a_presses, .. }),
            Some(FlightMeasures::Flaps { apex_height_tiles: b, presses_to_hold: b_presses, .. }),
        ) => {
            compare("the height of one flap", *a, *b, "tiles");
            compare("the presses that hold the height", *a_presses, *b_presses, "a second");
        }
        (
            Some(FlightMeasures::Thrust { first_second_tiles: a, .. }),
            Some(FlightMeasures::Thrust { first_second_tiles: b, .. }),
        ) => compare("the rise of a second's thrust", *a, *b, "tiles"),
        _ => {}
    }
    let gate = |ticks: u64, rate: f64| ticks as f64 / rate;
    let (a, b) = (&before.tuning, &after.tuning);
    compare("coyote time, in whole ticks,", gate(a.coyote_ticks(), a.rate()), gate(b.coyote_ticks(), b.rate()), "s");
    compare("buffer time, in whole ticks,", gate(a.buffer_ticks(), a.rate()), gate(b.buffer_ticks(), b.rate()), "s");
    said
}
