//! By which single changes something would be reached: each was tried, and a run with it gets there.

use std::fmt;

use serde::Serialize;
use wumple_core::{Surface, Terrain, Tuning};

use super::super::tuning_number::TuningNumber;
use super::places::{Spot, Target, Top, tops};
use super::{GoesOn, ReachAnswer, ReachSettings, answers};
use crate::files::{Level, TuningFile};
use crate::units::{Quantity, Scale, short};

/// No more ticks are tried for one change.
const MOST_TICKS: u64 = 300_000;
/// Ground is not put nearer by more tiles.
const MOST_GROUND: usize = 8;

/// A single change by which something would be reached. Displayed as what to do: `jump.height = "4.9 tiles", not 3.4`.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[serde(tag = "change", rename_all = "kebab-case")]
#[non_exhaustive]
pub enum ReachChange {
    /// Another number for a key of the tuning file.
    Number {
        /// The key: `jump.height`.
        key: &'static str,
        /// What it is, in px and seconds.
        from: f64,
        /// What it would be.
        to: f64,
        /// The unit of both: `px`, `s`, `px/s`, or empty.
        unit: &'static str,
        /// Both as the tuning file has them.
        words: String,
    },
    /// A ladder beside a ledge, its top level with it.
    Ladder {
        /// Its column.
        column: i32,
        /// The row of its top tile.
        row: i32,
        /// How many tiles it has.
        tiles: usize,
    },
    /// Solid tiles beside a ledge, level with it: less of a gap.
    Ground {
        /// Their first and their last column.
        columns: [i32; 2],
        /// Their row.
        row: i32,
    },
}

impl fmt::Display for ReachChange {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            ReachChange::Number { words, .. } => f.write_str(words),
            ReachChange::Ladder { column, row, tiles } => {
                write!(f, "a ladder of {} from {column},{row} down", counted(*tiles))
            }
            ReachChange::Ground { columns: [first, last], row } => {
                let place = if first == last { first.to_string() } else { format!("{first}-{last}") };
                write!(f, "{} of ground at {place},{row}", counted((last - first + 1) as usize))
            }
        }
    }
}

fn counted(tiles: usize) -> String {
    if tiles == 1 { "1 tile".to_owned() } else { format!("{tiles} tiles") }
}

/// Where changes are looked for.
pub(super) struct Changes<'a> {
    pub(super) level: &'a Level,
    pub(super) tuning: &'a TuningFile,
    pub(super) settings: &'a ReachSettings,
}

/// A number that may be made greater, step by step.
struct Steps {
    key: &'static str,
    /// px, s, px/s, or one.
    step: f64,
    most: usize,
    /// How it is written.
    unit: &'static str,
}

impl Changes<'_> {
    /// Those that would do for a target, of each kind the least.
    pub(super) fn of(&self, target: &Target, goes_on: GoesOn<'_>) -> Vec<ReachChange> {
        if self.tuning.tuning.four_way().is_some() {
            // Seen from above no number leads past a wall.
            return Vec::new();
        }
        let scale = self.tuning.scale;
        let (tile, tick) = (scale.tile, self.tuning.tuning.tick_seconds());
        let numbers = [
            Steps { key: "jump.height", step: tile * 0.1, most: 80, unit: "tiles" },
            Steps { key: "jump.speed", step: tile * 0.25, most: 80, unit: "tiles/s" },
            Steps { key: "jump.air_jumps", step: 1.0, most: 1, unit: "" },
            Steps { key: "run.top_speed", step: tile * 0.25, most: 40, unit: "tiles/s" },
            Steps { key: "jump.coyote_time", step: tick, most: (0.3 / tick) as usize, unit: "s" },
        ];
        let mut found: Vec<ReachChange> =
            numbers.iter().filter_map(|steps| self.number(target, steps, &scale, goes_on)).collect();
        if let Some(top) = self.top_of(target) {
            found.extend(self.ladder(target, &top, goes_on));
            found.extend(self.ground(target, &top, goes_on));
        }
        found
    }

    /// Whether a target is reached in this level with this tuning.
    fn does(&self, target: &Target, level: &Level, tuning: &TuningFile, goes_on: GoesOn<'_>) -> bool {
        let settings = ReachSettings {
            most_ticks: self.settings.most_ticks.min(MOST_TICKS),
            shortens: false,
            ..self.settings.clone()
        };
        let answers = answers(level, tuning, std::slice::from_ref(target), Vec::new(), &settings, goes_on);
        answers.is_ok_and(|(rows, _)| matches!(rows[0].answer, ReachAnswer::Reached { .. }))
    }

    fn number(&self, target: &Target, steps: &Steps, scale: &Scale, goes_on: GoesOn<'_>) -> Option<ReachChange> {
        let numbers = self.tuning.tuning.numbers();
        let number = TuningNumber::find(steps.key, numbers).ok()?;
        let (from, kind) = number.get(numbers)?;
        // From a whole step on: 3.7 and not 3.65 tiles.
        let to = |step: usize| ((from / steps.step + 1e-9).floor() + step as f64) * steps.step;
        let with = |step: usize| {
            let mut numbers = numbers.clone();
            number.set(&mut numbers, to(step), kind);
            let mut tuning = self.tuning.clone();
            tuning.tuning = Tuning::check(&numbers).ok()?;
            Some(tuning)
        };
        let least =
            least(steps.most, |step| with(step).is_some_and(|tuning| self.does(target, self.level, &tuning, goes_on)))?;
        let to = to(least);
        let in_words = |value: f64| short((Quantity::value_in(value, steps.unit, scale) * 1e4).round() / 1e4);
        let words = match steps.unit {
            "" => format!("{} = {}, not {}", number.key.name, short(to), short(from)),
            unit => format!("{} = \"{} {unit}\", not {}", number.key.name, in_words(to), in_words(from)),
        };
        Some(ReachChange::Number { key: number.key.name, from, to, unit: number.key.bounds.unit, words })
    }

    /// What would have to be come to: of something in the air, the ground beneath it.
    fn top_of(&self, target: &Target) -> Option<Top> {
        match &target.spot {
            Spot::Top(top) => Some(*top),
            Spot::Zone(boxes) => {
                let lowest = boxes.iter().max_by(|a, b| a.bottom.total_cmp(&b.bottom))?;
                let middle = f64::midpoint(lowest.left, lowest.right);
                let beneath = tops(self.level, &self.tuning.tuning).into_iter().filter(|top| {
                    top.left <= middle && middle <= top.right && top.y >= f64::midpoint(lowest.top, lowest.bottom)
                });
                beneath.min_by(|a, b| a.y.total_cmp(&b.y))
            }
            _ => None,
        }
    }

    /// The columns left and right of a ledge of tiles, and the row of its tiles.
    fn beside(&self, top: &Top) -> Option<([i32; 2], i32)> {
        let lines = self.level.grid.grid_lines();
        let (first, last) = (lines.last_at_or_before(top.left, 0.0), lines.last_before(top.right, 0.0));
        let row = lines.last_at_or_before(top.y, 0.0);
        (lines.line(row) == top.y && self.level.grid.has_tile(first, row)).then_some(([first - 1, last + 1], row))
    }

    /// The tiles at these places as this surface; none if one is no empty tile of the map, or the level has no such tiles.
    fn with_tiles(&self, places: impl IntoIterator<Item = (i32, i32)>, surface: Surface) -> Option<Level> {
        let plain =
            |kind: &crate::files::LetterKind| kind.properties.surface == surface && kind.properties.zone.is_none();
        let kind = self.level.letters.iter().position(plain)?;
        let mut level = self.level.clone();
        for (column, row) in places {
            let grid = &mut level.grid;
            let is_empty = grid.has_tile(column, row) && {
                let tile = grid.tile(column, row);
                tile.surface == Surface::Empty && tile.zone.is_none()
            };
            if !is_empty {
                return None;
            }
            grid.set_tile(column, row, kind).ok()?;
        }
        Some(level)
    }

    fn ladder(&self, target: &Target, top: &Top, goes_on: GoesOn<'_>) -> Option<ReachChange> {
        self.tuning.tuning.ladder()?;
        let (columns, row) = self.beside(top)?;
        let of_column = columns.into_iter().filter_map(|column| {
            let with =
                |tiles: usize| self.with_tiles((0..tiles as i32).map(|down| (column, row + down)), Surface::Ladder);
            let most = (1..=self.level.grid.rows() as usize).take_while(|tiles| with(*tiles).is_some()).count();
            let tiles =
                least(most, |tiles| with(tiles).is_some_and(|level| self.does(target, &level, self.tuning, goes_on)))?;
            Some((tiles, column))
        });
        let (tiles, column) = of_column.min()?;
        Some(ReachChange::Ladder { column, row, tiles })
    }

    fn ground(&self, target: &Target, top: &Top, goes_on: GoesOn<'_>) -> Option<ReachChange> {
        let ([left, right], row) = self.beside(top)?;
        let of_side = [(left, -1), (right, 1)].into_iter().filter_map(|(from, way)| {
            let with = |tiles: usize| {
                self.with_tiles((0..tiles as i32).map(|along| (from + way * along, row)), Surface::Solid)
            };
            let most = (1..=MOST_GROUND).take_while(|tiles| with(*tiles).is_some()).count();
            let tiles =
                least(most, |tiles| with(tiles).is_some_and(|level| self.does(target, &level, self.tuning, goes_on)))?;
            let end = from + way * (tiles as i32 - 1);
            Some((tiles, [from.min(end), from.max(end)]))
        });
        let (_, columns) = of_side.min()?;
        Some(ReachChange::Ground { columns, row })
    }
}

/// The least of `1..=most` that does, where whatever is greater than one that does, does too; none if the greatest does not.
fn least(most: usize, mut does: impl FnMut(usize) -> bool) -> Option<usize> {
    if most == 0 || !does(most) {
        return None;
    }
    let (mut below, mut enough) = (0, most);
    while enough - below > 1 {
        let middle = usize::midpoint(below, enough);
        if does(middle) {
            enough = middle;
        } else {
            below = middle;
        }
    }
    Some(enough)
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn the_least_that_does() {
        for (most, from) in [(1, 1), (2, 1), (2, 2), (80, 1), (80, 37), (80, 80)] {
            assert_eq!(least(most, |step| step >= from), Some(from), "{from} of {most}");
        }
        assert_eq!(least(0, |_| true), None);
        assert_eq!(least(80, |_| false), None);
    }
}
