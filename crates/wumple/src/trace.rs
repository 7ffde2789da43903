//! Whole runs: a character, a level and buttons in; one row a tick out.

use std::borrow::Cow;

use serde::{Deserialize, Serialize};

use crate::files::{Diagnostic, Level, Timeline};
use crate::names::Names;
use std::collections::BTreeMap;
use wumple_core::{Grid, Hitbox, Listener, MoverId, NoListener, TickReport, Tuning, World};

/// A run, row by row. Row 0 is the start, row n the world at the end of tick n.
#[derive(Clone, Debug, PartialEq)]
#[non_exhaustive]
pub struct Trace {
    /// Ticks a second.
    pub rate: f64,
    /// The names of the level's blocks, platforms and props.
    pub names: Names,
    /// The rows.
    pub rows: Vec<TickReport>,
    /// For each row, the platform or prop ridden last, and where it is then; `None` before the first. A
    /// trace that was read from a file does not know: `None` throughout.
    pub rides: Vec<Option<Ride>>,
}

/// A platform or prop that is ridden, or was last, at the end of a tick.
#[derive(Clone, Copy, Debug, PartialEq)]
#[non_exhaustive]
pub struct Ride {
    /// Which.
    pub mover: MoverId,
    /// Its box, px, y down.
    pub place: Hitbox,
}

impl Trace {
    /// A run that a game recorded of its own world: the reports of a character, tick after tick from the start on, with the
    /// names of the things in it (`Names::default()` calls them by their numbers). What was ridden is not known.
    #[must_use]
    pub fn of_reports(rate: f64, names: Names, rows: Vec<TickReport>) -> Trace {
        let rides = vec![None; rows.len()];
        Trace { rate, names, rows, rides }
    }

    /// What was ridden for the most ticks, if anything was.
    #[must_use]
    pub fn ridden_longest(&self) -> Option<MoverId> {
        let mut ticks: BTreeMap<MoverId, usize> = BTreeMap::new();
        let movers = self.rows.iter().filter_map(|row| row.support.mover());
        movers.for_each(|mover| *ticks.entry(mover).or_default() += 1);
        // Of equals the first.
        ticks.into_iter().rev().max_by_key(|(_, ticks)| *ticks).map(|(mover, _)| mover)
    }
}

/// Runs one character through a level for so many ticks, or until it dies or is lost.
///
/// # Errors
///
/// If the character does not fit at the level's spawn.
pub fn run(level: &Level, tuning: &Tuning, timeline: &Timeline, ticks: u64) -> Result<Trace, Diagnostic> {
    run_told(level, tuning, timeline, ticks, &mut NoListener)
}

/// The same, and `listener` hears of every decision: a [`WhyLog`](crate::why::WhyLog) writes them down.
///
/// # Errors
///
/// Like [`run`].
pub fn run_told<L: Listener>(
    level: &Level,
    tuning: &Tuning,
    timeline: &Timeline,
    ticks: u64,
    listener: &mut L,
) -> Result<Trace, Diagnostic> {
    let (mut world, id) = level.world(tuning)?;
    let mut rows = vec![world.report(id).clone()];
    let mut rides = vec![ride_after(&world, world.report(id), None)];
    for tick in 1..=ticks {
        world.tick_told(&[timeline.at(tick)], listener);
        rides.push(ride_after(&world, world.report(id), rides[rides.len() - 1]));
        rows.push(world.report(id).clone());
        if world.character(id).has_ended() {
            break;
        }
    }
    tracing::debug!(ticks = rows.len() - 1, level = level.name, "ran");
    Ok(Trace { rate: tuning.rate(), names: level.names.clone(), rows, rides })
}

/// What is ridden after a tick, or was last.
fn ride_after(world: &World<&Grid>, report: &TickReport, before: Option<Ride>) -> Option<Ride> {
    let mover = report.support.mover().or(before.map(|ride| ride.mover))?;
    Some(Ride { mover, place: world.place_of(mover) })
}

/// A row as it is written: the columns of a trace, in their order.
///
/// Places and speeds are y-down. A number prints so that it reads back to the same `f64`.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[non_exhaustive]
pub struct TraceRow {
    /// The tick.
    pub tick: u64,
    /// The time at its end, s.
    pub time_s: f64,
    /// The feet, px.
    pub x_px: f64,
    /// The feet, px, y down.
    pub y_px: f64,
    /// The character's own speed, px/s.
    pub vx_px_s: f64,
    /// The character's own speed, px/s, y down.
    pub vy_px_s: f64,
    /// `stand`, `run`, `rise`, `fall`, `wall-slide`, `wall-hold`, `ladder`.
    pub state: Cow<'static, str>,
    /// `left` or `right`.
    pub facing: Cow<'static, str>,
    /// What holds it up.
    pub support: String,
    /// Where it is touched, separated by spaces.
    pub contacts: String,
    /// What happened, separated by `;`.
    pub events: String,
}

impl TraceRow {
    /// A report as a row of a trace at this rate, with the names of the level.
    #[must_use]
    pub fn new(report: &TickReport, rate: f64, names: &Names) -> TraceRow {
        // Adding zero turns -0 into 0.
        TraceRow {
            tick: report.tick,
            time_s: report.tick as f64 / rate,
            x_px: report.feet.x + 0.0,
            y_px: report.feet.y + 0.0,
            vx_px_s: report.velocity.x + 0.0,
            vy_px_s: report.velocity.y + 0.0,
            state: report.state.name().into(),
            facing: report.facing.name().into(),
            support: names.support(report.support),
            contacts: report.contacts.to_string(),
            events: report.events.iter().map(|event| names.event(event)).collect::<Vec<_>>().join(";"),
        }
    }
}

impl Trace {
    /// The rows as they are written.
    pub fn written_rows(&self) -> impl Iterator<Item = TraceRow> {
        self.rows.iter().map(|report| TraceRow::new(report, self.rate, &self.names))
    }

    /// The trace as CSV, with a head line.
    #[must_use]
    pub fn to_csv(&self) -> String {
        csv_of(self.written_rows())
    }

    /// The trace as JSON Lines: one object a row, with the names of the columns.
    #[must_use]
    pub fn to_json_lines(&self) -> String {
        json_lines_of(self.written_rows())
    }
}

/// Rows as CSV, with a head line.
pub(crate) fn csv_of<R: Serialize>(rows: impl Iterator<Item = R>) -> String {
    let mut writer = csv::Writer::from_writer(Vec::new());
    for row in rows {
        writer.serialize(row).expect("a row has only plain fields");
    }
    String::from_utf8(writer.into_inner().expect("writing to memory")).expect("CSV of UTF-8 fields")
}

/// Rows as JSON Lines.
pub(crate) fn json_lines_of<R: Serialize>(rows: impl Iterator<Item = R>) -> String {
    rows.map(|row| serde_json::to_string(&row).expect("a row has only plain fields") + "\n").collect()
}
