//! Numbers that are within their bounds but hardly meant: of a loop that counts in frames, or of tiles.

use toml_edit::Document;
use wumple_core::Tuning;
use wumple_core::advanced::RunRate;
use wumple_core::numbers::Release;

use super::diagnostic::Notes;
use super::edit::at_path;
use crate::units::{Kind, Quantity, Scale, short};

/// An apex is hardly later, s.
const LATEST_APEX: f64 = 2.0;
/// Nor sooner, ticks.
const SOONEST_APEX: f64 = 3.0;
/// A jump hardly takes longer, s.
const LONGEST_FLIGHT: f64 = 5.0;
/// A press is hardly kept longer, or anything else that admits or forbids, s.
const LONGEST_WINDOW: f64 = 1.0;
/// Nobody takes longer from rest to top speed, s.
const LONGEST_START: f64 = 5.0;
/// A run is hardly slower, tiles/s.
const SLOWEST_RUN: f64 = 1.0;
/// A jump is hardly lower, tiles.
const LOWEST_JUMP: f64 = 0.5;

/// Notes the numbers of a tuning that look like another unit: what comes of each, and what it would be in one that is
/// likelier.
pub(super) fn note_unlikely(odd: &mut Notes, document: &Document<String>, scale: &Scale, tuning: &Tuning) {
    let mut finder = Finder { odd, document, scale };
    let tile = scale.tile;
    let top_speed = tuning.run().top_speed;
    if top_speed > 0.0 && top_speed < SLOWEST_RUN * tile {
        let comes = format!("a run of {} tiles a second", short(top_speed / tile));
        finder.note(&["run", "top_speed"], Kind::Speed, &comes);
    }
    for (section, rates) in [("run", tuning.run()), ("air", tuning.air())] {
        for (key, rate) in
            [("acceleration", rates.acceleration), ("braking", rates.braking), ("turning", rates.turning)]
        {
            let RunRate::PerSecond(rate) = rate else { continue };
            if rate > 0.0 && top_speed / rate > LONGEST_START {
                let comes = format!("{} s between rest and top speed", short(top_speed / rate));
                finder.note(&[section, key], Kind::Acceleration, &comes);
            }
        }
    }
    note_jump(&mut finder, tuning, tile);
    let numbers = tuning.numbers();
    let full = tuning.full_jump().1;
    if let Some(Release::ToHeight { tap_height, .. }) = numbers.jump.as_ref().map(|jump| jump.release)
        && tap_height > full + 1e-6
    {
        let place = at_path(document.as_item(), &["jump", "release", "tap_height"]).and_then(toml_edit::Item::span);
        let [tap, full] = [tap_height, full].map(|px| short(px / tile));
        let message =
            format!("the smallest hop of {tap} tiles is above the jump of {full}: letting go changes nothing");
        finder.odd.error(place.unwrap_or(0..0), message);
    }
    let jump = |time: fn(&wumple_core::numbers::JumpNumbers) -> f64| numbers.jump.as_ref().map_or(0.0, time);
    let wall = |time: fn(&wumple_core::numbers::WallNumbers) -> f64| numbers.wall.as_ref().map_or(0.0, time);
    let windows: [(&[&str], f64); 5] = [
        (&["jump", "coyote_time"], jump(|jump| jump.coyote_time)),
        (&["jump", "buffer_time"], jump(|jump| jump.buffer_time)),
        (&["wall", "coyote_time"], wall(|wall| wall.coyote_time)),
        (&["wall", "jump", "steer_lock"], wall(|wall| wall.jump.map_or(0.0, |jump| jump.steer_lock))),
        (&["air", "bump_memory"], numbers.air.bump_memory),
    ];
    for (path, time) in windows {
        if time > LONGEST_WINDOW {
            finder.note(path, Kind::Time, &format!("a window of {} s", short(time)));
        }
    }
}

fn note_jump(finder: &mut Finder<'_>, tuning: &Tuning, tile: f64) {
    if tuning.jump().is_none() {
        return;
    }
    let (apex, height) = tuning.full_jump();
    let fall = fall_time(tuning, height);
    let by_speed = finder.has(&["jump", "speed"]);
    let keys: [(&[&str], Kind); 2] = if by_speed {
        [(&["jump", "speed"], Kind::Speed), (&["jump", "gravity"], Kind::Acceleration)]
    } else {
        [(&["jump", "time_to_apex"], Kind::Time), (&["jump", "height"], Kind::Length)]
    };
    let flight = apex + fall;
    if apex > LATEST_APEX || apex * tuning.rate() < SOONEST_APEX - 1e-6 {
        let ticks =
            if apex > LATEST_APEX { String::new() } else { format!(", {} ticks,", short(apex * tuning.rate())) };
        let comes = format!(
            "a jump that is at its apex after {} s{ticks} and {} tiles high",
            short(apex),
            short(height / tile)
        );
        let shown = if by_speed { &keys[..] } else { &keys[..1] };
        shown.iter().for_each(|(path, kind)| finder.note(path, *kind, &comes));
    } else if flight > LONGEST_FLIGHT {
        let key: &[&str] = if finder.has(&["fall", "top_speed"]) { &["fall", "top_speed"] } else { keys[0].0 };
        let kind = if key[0] == "fall" { Kind::Speed } else { keys[0].1 };
        finder.note(key, kind, &format!("a jump that is in the air for {} s", short(flight)));
    }
    if height < LOWEST_JUMP * tile && !by_speed {
        finder.note(keys[1].0, keys[1].1, &format!("a jump of {} tiles", short(height / tile)));
    }
}

/// How long a fall from the apex takes, s, by halving: to a thousandth, which is enough here.
pub(crate) fn fall_time(tuning: &Tuning, height: f64) -> f64 {
    let (mut low, mut high) = (0.0, 120.0);
    while high - low > 1e-3 {
        let middle = (low + high) / 2.0;
        if tuning.gravity().falls(middle) < height { low = middle } else { high = middle }
    }
    high
}

struct Finder<'a> {
    odd: &'a mut Notes,
    document: &'a Document<String>,
    scale: &'a Scale,
}

impl Finder<'_> {
    fn has(&self, path: &[&str]) -> bool {
        at_path(self.document.as_item(), path).is_some()
    }

    /// Says what comes of a number that is there.
    fn note(&mut self, path: &[&str], kind: Kind, comes: &str) {
        let Some(item) = at_path(self.document.as_item(), path) else { return };
        let Some(quantity) = Quantity::of_item(item) else { return };
        let key = path.join(".");
        let written = match quantity.unit_name() {
            Some(unit) => format!("{} {unit}", quantity.value),
            None => format!("{} {}", quantity.value, kind.units().next().unwrap_or_default()),
        };
        let remedy = likelier(&quantity, kind, self.scale).map_or_else(String::new, |words| format!("; {words}"));
        let message = format!("{key} = {written} makes {comes}{remedy}");
        self.odd.error(item.span().unwrap_or(0..0), message);
    }
}

/// What a bare number would be in the unit that it was likelier meant in.
pub(crate) fn likelier(quantity: &Quantity, kind: Kind, scale: &Scale) -> Option<String> {
    if quantity.unit_name().is_some() {
        return None;
    }
    let (other, unit) = match kind {
        Kind::Length => ("tiles", "px"),
        Kind::Time => ("frames", "s"),
        Kind::Speed => ("px/frame", "px/s"),
        Kind::Acceleration => ("px/frame^2", "px/s^2"),
        Kind::Number => return None,
    };
    let meant = Quantity::parse(&format!("{} {other}", quantity.value)).ok()?;
    Some(format!("\"{} {other}\" would be {} {unit}", quantity.value, short(meant.in_px_and_seconds(scale))))
}

/// What is odd about a wish of so much, if it is a bare number that was likelier meant otherwise.
pub(crate) fn unlikely_wish(wish: &str, quantity: Option<Quantity>, kind: Kind, scale: &Scale) -> Option<String> {
    let quantity = quantity?;
    let value = quantity.in_px_and_seconds(scale);
    let is_odd = match kind {
        Kind::Length => value < scale.tile,
        Kind::Time => value > LATEST_APEX,
        Kind::Speed => value < SLOWEST_RUN * scale.tile,
        _ => false,
    };
    let remedy = likelier(&quantity, kind, scale).filter(|_| is_odd && value > 0.0)?;
    let unit = kind.units().next().unwrap_or_default();
    let tiles = if kind == Kind::Length { format!(", {} tiles", short(value / scale.tile)) } else { String::new() };
    Some(format!("{wish} is {} {unit}{tiles}; {remedy}", short(value)))
}
