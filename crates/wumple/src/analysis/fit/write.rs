//! Numbers found, written into a tuning file: each in the unit that its key has, as short as it can be.

use toml_edit::DocumentMut;
use wumple_core::numbers::LIMIT_SPEED;

use super::GameLoop;
use super::solve::{Solved, TICKS_OFF};
use crate::files::edit::{Change, changed, item_at};
use crate::units::{Kind, Quantity, Scale};

/// What is found is written with so many digits that it is off by no more than this share of it, and never so that
/// a gap is missed.
const OFF: f64 = 1e-6;
/// What is only said in another unit, by this.
const OFF_IN_UNITS: f64 = 1e-12;

/// A whole tuning file, to be changed from there.
pub(super) fn new_text(solved: &Solved, looped: &GameLoop) -> String {
    let GameLoop { rate, scheme, scale } = looped;
    let plain = if solved.top_speed.is_none() { "top_speed = \"7.5 tiles/s\"\n" } else { "" };
    let frames = if scale.frames_per_second == *rate {
        String::new()
    } else {
        format!("frames_per_second = {}\n", scale.frames_per_second)
    };
    let text = format!(
        "# Made by `wumple fit`.\n\n[scale]\ntile = {}\n{frames}\n[tick]\nrate = {rate}\nscheme = \"{}\"\n\n[body]\n\
         width = \"0.625 tiles\"\nheight = \"1.375 tiles\"\n\n[run]\n{plain}\n[fall]\n\n[jump]\n",
        scale.tile,
        scheme.name()
    );
    text_with(solved, &text, looped)
}

/// The text of a tuning file with just the numbers found changed in it: comments and all else stay.
pub(super) fn text_with(solved: &Solved, text: &str, looped: &GameLoop) -> String {
    let GameLoop { rate, scheme, scale } = looped;
    let Ok(document) = text.parse::<DocumentMut>() else { return text.to_owned() };
    let writer = Writer { document: &document, scale };
    let wishes = &solved.wishes;
    let mut changes = Vec::new();
    let mut removed: Vec<&[&str]> = Vec::new();
    if let Some((height, time)) = solved.shape {
        let (least, most) = match scheme.is_stepped() {
            true => (time - TICKS_OFF / rate, time + TICKS_OFF / rate),
            false if solved.time_is_found => (time, time * (1.0 + OFF)),
            false => around(time),
        };
        let whole_frames = scheme.is_stepped() && *rate == scale.frames_per_second;
        let found_in = if solved.time_is_found && whole_frames { "frames" } else { "s" };
        let (keeps_height, keeps_time) = solved.keeps;
        if !keeps_height {
            changes.push(writer.change(&["jump", "height"], height, around(height), wishes.height, "px"));
        }
        if !keeps_time {
            changes.push(writer.change(&["jump", "time_to_apex"], time, (least, most), wishes.time_to_apex, found_in));
        }
        removed.extend([&["jump", "speed"][..], &["jump", "gravity"], &["fall", "gravity"]]);
    }
    if let Some(ratio) = wishes.fall_ratio {
        changes.push(Change::new(&["fall", "gravity_ratio"], ratio));
    }
    if let Some(tap) = wishes.tap_height {
        let px = tap.in_px_and_seconds(scale);
        changes.push(Change::new(&["jump", "release", "style"], "to-height"));
        changes.push(writer.change(&["jump", "release", "tap_height"], px, around(px), Some(tap), "px"));
        // What other styles of release need.
        removed.extend([
            &["jump", "release", "keep"][..],
            &["jump", "release", "gravity_ratio"],
            &["jump", "release", "time"],
        ]);
    }
    if let Some(speed) = solved.top_speed {
        let most = (speed * (1.0 + OFF)).min(LIMIT_SPEED);
        let within = if solved.speed_is_found { (speed, most) } else { around(speed) };
        let is_tiles = wishes.gap.is_some_and(|gap| gap.unit_name() == Some("tiles"));
        let found_in = if is_tiles { "tiles/s" } else { "px/s" };
        changes.push(writer.change(&["run", "top_speed"], speed, within, wishes.top_speed, found_in));
    }
    changed(text, &changes, &removed)
}

fn around(value: f64) -> (f64, f64) {
    (value * (1.0 - OFF_IN_UNITS), value * (1.0 + OFF_IN_UNITS))
}

/// Writes quantities as the document has them.
struct Writer<'a> {
    document: &'a DocumentMut,
    scale: &'a Scale,
}

impl Writer<'_> {
    /// A quantity in the unit that its key has; else in that of the wish, else in `unit`.
    fn change(
        &self,
        path: &[&'static str],
        value: f64,
        (least, most): (f64, f64),
        wish: Option<Quantity>,
        unit: &'static str,
    ) -> Change {
        let there = item_at(self.document, path).and_then(Quantity::of_item);
        let wished_in = wish.map(|wish| wish.unit_name().unwrap_or(self.first_unit(unit)));
        if there.is_some_and(|there| there.unit_name().is_none()) {
            let number = wish.filter(|wish| wish.unit_name().is_none()).map(|wish| wish.value);
            return Change::new(path, plain(number.unwrap_or_else(|| shortest(value, least, most))));
        }
        let unit = there.and_then(|there| there.unit_name()).or(wished_in).unwrap_or(unit);
        let in_unit = |value| Quantity::value_in(value, unit, self.scale);
        let number = match wish.filter(|_| wished_in == Some(unit)) {
            Some(wish) => wish.value,
            None => shortest(in_unit(value), in_unit(least), in_unit(most)),
        };
        Change::new(path, format!("{number} {unit}"))
    }

    /// The unit of bare numbers of the same kind.
    fn first_unit(&self, unit: &str) -> &'static str {
        let kind =
            [Kind::Length, Kind::Time, Kind::Speed].into_iter().find(|kind| kind.units().any(|known| known == unit));
        kind.and_then(|kind| kind.units().next()).unwrap_or("px")
    }
}

/// A number for a file: without a point where it is whole.
pub(in crate::analysis) fn plain(number: f64) -> toml_edit::Value {
    if number.fract() == 0.0 && number.abs() < 1e15 { (number as i64).into() } else { number.into() }
}

/// The number of the fewest decimal digits between two bounds, near to `value`; the value itself if there is none.
pub(in crate::analysis) fn shortest(value: f64, least: f64, most: f64) -> f64 {
    if value == 0.0 || !value.is_finite() {
        return value;
    }
    for digits in 0..17 {
        let near: f64 = format!("{value:.digits$e}").parse().unwrap_or(value);
        // Rounded the other way, it may be the one within.
        let step = 10_f64.powi(value.abs().log10().floor() as i32 - digits as i32);
        let tried = [near, near + step, near - step].map(|near| format!("{near:.digits$e}").parse().unwrap_or(value));
        if let Some(found) = tried.into_iter().find(|found| (least..=most).contains(found)) {
            return found;
        }
    }
    value
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn the_shortest_number_within_bounds() {
        let table = [
            (1.0 / 3.0, 0.3333, 0.33335, 0.3333),
            (1.0 / 3.0, 1.0 / 3.0, 0.334, 0.334),
            (1.0 / 3.0, 1.0 / 3.0, 1.0 / 3.0 + 1e-6, 0.333334),
            (120.0, 120.0, 120.0, 120.0),
            (99.99996, 99.99996, 100.001, 100.0),
            (0.000_123_4, 0.000_123, 0.000_124, 0.000_123),
            (54.4, 54.4, 54.4, 54.4),
            (1.0 / 3.0, 1.0 / 3.0, 1.0 / 3.0, 1.0 / 3.0),
        ];
        for (value, least, most, expected) in table {
            assert_eq!(shortest(value, least, most), expected, "{value} in {least}..{most}");
        }
    }
}
