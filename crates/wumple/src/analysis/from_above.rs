use wumple_core::advanced::Features;
use wumple_core::numbers::PlatformSurface;
use wumple_core::{PlatformNumbers, Terrain};

use crate::files::{Level, TuningFile};

/// What of a level is empty to a character that is seen from above, in one sentence; `None` if nothing is, or if it is not seen so.
#[must_use]
pub fn empty_from_above(level: &Level, tuning: &TuningFile) -> Option<String> {
    tuning.tuning.four_way()?;
    let has = |features| level.grid.features().has(features);
    let is_one_way = |platform: &PlatformNumbers| platform.surface == PlatformSurface::OneWay;
    let words: Vec<&str> = [
        ("ladders", has(Features::LADDER)),
        ("one-way tops", has(Features::ONE_WAY) || level.platforms.iter().any(is_one_way)),
        ("slopes", has(Features::RAMP | Features::DRAWN_RAMP)),
    ]
    .into_iter()
    .filter_map(|(words, is_there)| is_there.then_some(words))
    .collect();
    let words = match words.as_slice() {
        [] => return None,
        [first @ .., last] if !first.is_empty() => format!("{} and {last}", first.join(", ")),
        only => only.concat(),
    };
    Some(format!("{}: the {words} are empty to {}, who is seen from above", level.name, tuning.name))
}
