//! Jumps from a place in a level, as far as the level lets them.

use serde::{Serialize, Serializer};
use wumple_core::{Buttons, CharacterId, DVec2, Event, Support, Terrain, Tuning, World};

use super::arcs::highest_air_jump;
use super::jump_flight::by_hand;
use crate::files::{Level, TuningFile};
use crate::names::Names;

/// A jump from a place in a level.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[non_exhaustive]
pub struct LevelArc {
    /// The tuning's name.
    pub tuning: String,
    /// `full up`, `full right`, `tap right`, `air right`, ...
    pub jump: &'static str,
    /// The greatest height above the take-off, px.
    pub apex_height_px: f64,
    /// The same in tiles of the level.
    pub apex_height_tiles: f64,
    /// How it ends: `lands`, `dies`, `is lost`, or `is in the air` if it takes too long.
    pub end: &'static str,
    /// The column in which it ends.
    pub end_column: i64,
    /// The row in which it ends: that of the tile above the ground landed on.
    pub end_row: i64,
    /// How long it takes, s.
    pub time_s: f64,
    /// What it meets on the way: `ceiling`, `wall`, and zones.
    #[serde(serialize_with = "joined")]
    pub met: Vec<String>,
    /// What it ends on, in the words of a trace: `solid`, `platform:hoist`, or `none`.
    pub on: String,
    /// Where the feet are after each tick, px, y down.
    #[serde(skip)]
    pub places: Vec<DVec2>,
}

fn joined<S: Serializer>(words: &[String], serializer: S) -> Result<S::Ok, S::Error> {
    serializer.serialize_str(&words.join(";"))
}

/// No jump is followed for longer, s.
const LONGEST: f64 = 20.0;
/// Nor for more ticks.
const MOST_TICKS: u64 = 200_000;

/// Why there are no jumps from a place.
#[derive(Clone, Debug, PartialEq, Eq, thiserror::Error)]
#[non_exhaustive]
pub enum LevelArcError {
    /// The place is outside the map.
    #[error("column {}, row {} is outside the map of {columns} x {rows} tiles", at.0, at.1)]
    OutsideMap {
        /// The column and row asked for, from 0.
        at: (u32, u32),
        /// How many columns the map has.
        columns: i32,
        /// How many rows.
        rows: i32,
    },
    /// The character does not fit there, or the level cannot be set up for it: why not.
    #[error("{0}")]
    NoRoom(String),
    /// Nothing is there to stand on.
    #[error("nothing is there to stand on; name the tile above the ground")]
    NoGround,
    /// The character cannot jump.
    #[error("{tuning} has no [jump]")]
    NoJump {
        /// What the tuning is called.
        tuning: String,
    },
}

/// A jump that is tried: what is held, and when jump is pressed again in the air.
struct Tried {
    jump: &'static str,
    side: f64,
    held_ticks: u64,
    air_press: Option<u64>,
}

/// The jumps of a tuning from a tile of a level, the feet at the middle of its bottom edge: full and straight
/// up, full and tapped at top speed to either side; where it can jump in the air, also with one such jump, pressed
/// in the tick that takes it highest in the open.
///
/// The level is as at its start: platforms set out, props lie and fall, what rides and falls meets the character.
///
/// # Errors
///
/// See [`LevelArcError`].
pub fn level_arcs(level: &Level, tuning: &TuningFile, at: (u32, u32)) -> Result<Vec<LevelArc>, LevelArcError> {
    let (column, row) = at;
    let grid = &level.grid;
    if i64::from(column) >= i64::from(grid.columns()) || i64::from(row) >= i64::from(grid.rows()) {
        let (columns, rows) = (grid.columns(), grid.rows());
        return Err(LevelArcError::OutsideMap { at, columns, rows });
    }
    let tile = grid.grid_lines().spacing();
    let feet = DVec2::new((f64::from(column) + 0.5) * tile, f64::from(row + 1) * tile);
    let start = || level.world_from(&by_hand(&tuning.tuning), feet).map_err(LevelArcError::NoRoom);
    all_arcs(&tuning.name, &tuning.tuning, &level.names, start)
}

/// The same from a place, px, y down, in a game's own world, over any terrain: platforms, props and characters are as they
/// are now, and nothing of the world is changed. What it ends on is called by its number.
///
/// ```
/// use wumple::analysis::arcs_from;
/// use wumple::{DVec2, Edges, Grid, Tuning, TuningNumbers, World};
///
/// let map = Grid::from_rows(&["........", "........", "........", ".....###", "########"], 16.0, Edges::default())?;
/// let dab = Tuning::check(&TuningNumbers::new(10.0, 14.0, 120.0).with_jump(30.0, 0.35))?;
/// let arcs = arcs_from(&World::new(&map), "Dab", &dab, DVec2::new(40.0, 64.0))?;
/// let right = arcs.iter().find(|arc| arc.jump == "full right").unwrap();
/// assert_eq!((right.end, right.end_row), ("lands", 2)); // onto the step
/// # Ok::<(), Box<dyn std::error::Error>>(())
/// ```
///
/// # Errors
///
/// See [`LevelArcError`].
pub fn arcs_from<T: Terrain + Clone>(
    world: &World<T>,
    name: &str,
    tuning: &Tuning,
    feet: DVec2,
) -> Result<Vec<LevelArc>, LevelArcError> {
    let start = || {
        let mut world = world.clone();
        let id = world
            .add_character(by_hand(tuning).into_owned(), feet)
            .map_err(|error| LevelArcError::NoRoom(error.to_string()))?;
        Ok((world, id))
    };
    all_arcs(name, tuning, &Names::default(), start)
}

/// Every jump that is tried, each in a world as it is at the start.
fn all_arcs<T: Terrain>(
    name: &str,
    tuning: &Tuning,
    names: &Names,
    start: impl Fn() -> Result<(World<T>, CharacterId), LevelArcError>,
) -> Result<Vec<LevelArc>, LevelArcError> {
    if tuning.jump().is_none() {
        return Err(LevelArcError::NoJump { tuning: name.to_owned() });
    }
    let held = |jump, side| Tried { jump, side, held_ticks: u64::MAX, air_press: None };
    let tap = |jump, side| Tried { held_ticks: 1, ..held(jump, side) };
    let mut tried = vec![
        held("full up", 0.0),
        held("full right", 1.0),
        held("full left", -1.0),
        tap("tap right", 1.0),
        tap("tap left", -1.0),
    ];
    if tuning.air_jumps() > 0 {
        let (held_ticks, air_press) = highest_air_jump(tuning);
        let air = |jump, side| Tried { jump, side, held_ticks, air_press: Some(air_press) };
        tried.extend([air("air up", 0.0), air("air right", 1.0), air("air left", -1.0)]);
    }
    tried.into_iter().map(|tried| one_arc(start()?, (name, tuning), names, &tried)).collect()
}

fn one_arc<T: Terrain>(
    (mut world, dab): (World<T>, CharacterId),
    (name, tuning): (&str, &Tuning),
    names: &Names,
    tried: &Tried,
) -> Result<LevelArc, LevelArcError> {
    let feet = world.report(dab).feet;
    if world.report(dab).support == Support::None {
        return Err(LevelArcError::NoGround);
    }
    let Tried { jump, side, .. } = *tried;
    world.set_velocity(dab, DVec2::new(side * tuning.run().top_speed, 0.0));
    // Others of a game's world hold nothing.
    let direction = Buttons { left: side < 0.0, right: side > 0.0, ..Buttons::NONE };
    let (mut places, mut met) = (vec![feet], Vec::new());
    let mut end = "is in the air";
    for tick in 1..=((LONGEST * tuning.rate()) as u64).min(MOST_TICKS) {
        let holds = tick <= tried.held_ticks || tried.air_press.is_some_and(|press| tick >= press);
        let held = Buttons { jump: holds, ..direction };
        world.tick_with(|id| if id == dab { held } else { Buttons::NONE });
        let report = world.report(dab);
        places.push(report.feet);
        note_met(&mut met, &report.events, names, side != 0.0 && report.velocity.x == 0.0);
        if report.events.iter().any(|event| matches!(event, Event::Died(_))) {
            end = "dies";
        } else if report.events.contains(&Event::OutOfBounds) {
            end = "is lost";
        } else if report.contacts.below {
            end = "lands";
        } else {
            continue;
        }
        break;
    }
    let tile = world.terrain().grid_lines().spacing();
    let last = places[places.len() - 1];
    let apex = places.iter().map(|place| feet.y - place.y).fold(0.0, f64::max);
    Ok(LevelArc {
        tuning: name.to_owned(),
        jump,
        apex_height_px: apex,
        apex_height_tiles: apex / tile,
        end,
        end_column: (last.x / tile).floor() as i64,
        end_row: (last.y / tile).ceil() as i64 - 1,
        on: names.support(world.report(dab).support),
        time_s: (places.len() - 1) as f64 / tuning.rate(),
        met,
        places,
    })
}

fn note_met(met: &mut Vec<String>, events: &[Event], names: &Names, stopped: bool) {
    let mut note = |words: String| {
        if !met.contains(&words) {
            met.push(words);
        }
    };
    for event in events {
        match event {
            Event::BumpedHead => note(String::from("ceiling")),
            Event::Entered(zone) => note(names.zone(*zone)),
            _ => {}
        }
    }
    if stopped {
        note(String::from("wall"));
    }
}

/// The jumps as CSV, a row each, with a head line.
#[must_use]
pub fn level_arcs_to_csv(arcs: &[LevelArc]) -> String {
    crate::trace::csv_of(arcs.iter())
}
