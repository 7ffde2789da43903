//! Whole runs: a character, a level and buttons in; one row a tick out.

use std::borrow::Cow;

use serde::{Deserialize, Serialize};

use crate::files::{Diagnostic, Level, Timeline};
use crate::names::Names;
use crate::play::Play;
use crate::poses::{Harm, Pose, PoseClock, Shown};
use std::collections::BTreeMap;
use wumple_core::camera::{Camera, ViewEvent};
use wumple_core::{DVec2, Hitbox, Listener, MoverId, NoListener, Round, RoundEvent, TickReport, Tuning};

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
    /// For each row, how the round stands at its end; none at all if the level has no `[round]`.
    pub rounds: Vec<RoundRow>,
    /// For each row, what is seen at its end; none at all if the level has no `[camera]`.
    pub views: Vec<ViewRow>,
    /// For each row, whether the character is hurt or its defeat is shown, which poses may ask for; none at all without a round.
    /// A trace that was read from a file does not know.
    pub harm: Vec<Harm>,
    /// For each row, the picture that is shown; none at all before [`Trace::show`], or if nothing has poses.
    pub shown: Vec<ShownRow>,
}

/// The picture that is shown at the end of a tick: the columns of a row, which stand last where a tuning has poses.
#[derive(Clone, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[non_exhaustive]
pub struct ShownRow {
    /// The pose's name; empty if there is none for what the character does.
    pub pose: String,
    /// Which of its pictures, from 0.
    pub picture: u32,
    /// Whether it is turned to the left.
    pub flip: bool,
}

/// How a round stands at the end of a tick.
#[derive(Clone, Debug, PartialEq)]
#[non_exhaustive]
pub struct RoundRow {
    /// Which attempt it is, from 1.
    pub attempt: u32,
    /// The health that is left, if there is any.
    pub health: Option<u32>,
    /// The lives that are left, if they are counted.
    pub lives: Option<u32>,
    /// What the pickups taken are worth together.
    pub picked: u32,
    /// What happened to the round in the tick, in order.
    pub events: Vec<RoundEvent>,
}

impl RoundRow {
    /// How a round stands now.
    #[must_use]
    pub fn of(round: &Round) -> RoundRow {
        let (attempt, health, lives, picked) = (round.attempt(), round.health(), round.lives(), round.picked());
        RoundRow { attempt, health, lives, picked, events: round.events().to_vec() }
    }
}

/// What is seen at the end of a tick.
#[derive(Clone, Debug, PartialEq)]
#[non_exhaustive]
pub struct ViewRow {
    /// The top-left corner of it, px, y down.
    pub corner: DVec2,
    /// What the view told of the tick, in order.
    pub events: Vec<ViewEvent>,
}

impl ViewRow {
    /// What is seen now.
    #[must_use]
    pub fn of(camera: &Camera) -> ViewRow {
        ViewRow { corner: camera.corner(), events: camera.events().collect() }
    }

    /// Whether the character died of being left behind.
    #[must_use]
    pub fn is_deadly(&self) -> bool {
        self.events.contains(&ViewEvent::Died)
    }
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
    /// names of the things in it (`Names::default()` calls them by their numbers). What was ridden is not known. Ticks are counted
    /// from the first report on, though the world may have gone back.
    #[must_use]
    pub fn of_reports(rate: f64, names: Names, mut rows: Vec<TickReport>) -> Trace {
        let first = rows.first().map_or(0, |row| row.tick);
        for (tick, row) in (first..).zip(&mut rows) {
            let by = tick.saturating_sub(row.tick);
            (row.tick, row.state_since) = (row.tick + by, row.state_since + by);
        }
        let rides = vec![None; rows.len()];
        Trace { rate, names, rows, rides, rounds: Vec::new(), views: Vec::new(), harm: Vec::new(), shown: Vec::new() }
    }

    /// The same with how its round stood at the end of each tick, from the start on.
    ///
    /// # Panics
    ///
    /// If there are not as many as rows.
    #[must_use]
    pub fn with_rounds(self, rounds: Vec<RoundRow>) -> Trace {
        assert_eq!(rounds.len(), self.rows.len(), "a round has a row for each tick");
        Trace { rounds, ..self }
    }

    /// Finds the picture of each row by these poses. An attempt begins with the first picture of its pose.
    pub fn show(&mut self, poses: &[Pose]) {
        let mut clock = PoseClock::default();
        let mut attempt = None;
        let rows = if poses.is_empty() { &[] } else { self.rows.as_slice() };
        let shown = rows.iter().enumerate().map(|(at, row)| {
            let this = self.rounds.get(at).map(|round| round.attempt);
            if attempt != this {
                (attempt, clock) = (this, PoseClock::default());
            }
            let harm = self.harm.get(at).copied().unwrap_or_default();
            match clock.show(poses, row, harm, self.rate) {
                Some(Shown { pose, picture, flip }) => ShownRow { pose: pose.name.clone(), picture, flip },
                None => ShownRow { pose: String::new(), picture: 0, flip: clock.flip() },
            }
        });
        self.shown = shown.collect();
    }

    /// What happened to the round in a row of the trace.
    #[must_use]
    pub fn round_events(&self, row: usize) -> &[RoundEvent] {
        self.rounds.get(row).map_or(&[], |round| &round.events)
    }

    /// What the view told in a row of the trace.
    #[must_use]
    pub fn view_events(&self, row: usize) -> &[ViewEvent] {
        self.views.get(row).map_or(&[], |view| &view.events)
    }

    /// Every event of a row in words: of the motion, then of the view and the round.
    pub fn event_words(&self, row: usize) -> impl Iterator<Item = String> + '_ {
        let of_motion = self.rows[row].events.iter().map(|event| self.names.event(event));
        let of_view = self.view_events(row).iter().map(ViewEvent::to_string);
        of_motion.chain(of_view).chain(self.round_events(row).iter().map(|event| self.names.round_event(event)))
    }

    /// Which attempt a row is of; 1 where the level has no round.
    #[must_use]
    pub fn attempt(&self, row: usize) -> u32 {
        self.rounds.get(row).map_or(1, |round| round.attempt)
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

/// Runs one character through a level for so many ticks, or until it dies or is lost; where the level has a `[round]`, with that,
/// until it is over.
///
/// Ticks are counted on where the round starts again, though the world goes back in time.
///
/// # Errors
///
/// If the character does not fit at the level's spawn.
pub fn run(level: &Level, tuning: &Tuning, timeline: &Timeline, ticks: u64) -> Result<Trace, Diagnostic> {
    run_told(level, tuning, timeline, ticks, &mut NoListener)
}

/// The same, and `listener` hears of every decision. [`run_why`](crate::why::run_why) writes them down.
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
    let mut play = Play::start(level, &level.grid, tuning)?;
    for tick in 1..=ticks {
        play.tick_told(timeline.at(tick), listener);
        if play.is_over() {
            break;
        }
    }
    tracing::debug!(ticks = play.ticks(), level = level.name, "ran");
    Ok(play.into_trace())
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
    /// `stand`, `run`, `rise`, `fall`, `wall-slide`, `wall-hold`, `ladder`, `fly`.
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

/// The columns of a row about its round, which stand after those of [`TraceRow`] where a level has one.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[non_exhaustive]
pub struct RoundColumns {
    /// Which attempt it is, from 1.
    pub attempt: u32,
    /// The health that is left; empty if there is none.
    pub health: Option<u32>,
    /// The lives that are left; empty if they are not counted.
    pub lives: Option<u32>,
    /// What the pickups taken are worth together.
    pub picked: u32,
}

impl From<&RoundColumns> for RoundRow {
    fn from(columns: &RoundColumns) -> RoundRow {
        let RoundColumns { attempt, health, lives, picked } = *columns;
        RoundRow { attempt, health, lives, picked, events: Vec::new() }
    }
}

impl RoundColumns {
    fn of(row: &RoundRow) -> RoundColumns {
        let RoundRow { attempt, health, lives, picked, .. } = *row;
        RoundColumns { attempt, health, lives, picked }
    }
}

/// The columns of a row about what is seen, which stand after those of a round where a level has a camera.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
#[non_exhaustive]
pub struct ViewColumns {
    /// The left edge of what is seen, px.
    pub view_x_px: f64,
    /// Its top edge, px, y down.
    pub view_y_px: f64,
}

impl From<&ViewColumns> for ViewRow {
    fn from(columns: &ViewColumns) -> ViewRow {
        ViewRow { corner: DVec2::new(columns.view_x_px, columns.view_y_px), events: Vec::new() }
    }
}

impl ViewColumns {
    fn of(row: &ViewRow) -> ViewColumns {
        ViewColumns { view_x_px: row.corner.x + 0.0, view_y_px: row.corner.y + 0.0 }
    }
}

/// A row with the columns of its round, for forms in which a row is an object.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[non_exhaustive]
pub struct WrittenRow {
    /// The columns that every trace has.
    #[serde(flatten)]
    pub row: TraceRow,
    /// Those of a level with a round.
    #[serde(flatten)]
    pub round: Option<RoundColumns>,
    /// Those of a level with a camera.
    #[serde(flatten)]
    pub view: Option<ViewColumns>,
    /// Those of a tuning with poses.
    #[serde(flatten)]
    pub shown: Option<ShownRow>,
}

impl Trace {
    /// The rows as they are written.
    pub fn written_rows(&self) -> impl Iterator<Item = TraceRow> {
        self.rows.iter().enumerate().map(|(at, report)| TraceRow {
            events: self.event_words(at).collect::<Vec<_>>().join(";"),
            ..TraceRow::new(report, self.rate, &self.names)
        })
    }

    /// The columns of its round as they are written; none if the level has no round.
    pub fn round_columns(&self) -> impl Iterator<Item = RoundColumns> {
        self.rounds.iter().map(RoundColumns::of)
    }

    /// Each row with all of its columns.
    pub fn whole_rows(&self) -> impl Iterator<Item = WrittenRow> {
        let round = |at: usize| self.rounds.get(at).map(RoundColumns::of);
        let view = |at: usize| self.views.get(at).map(ViewColumns::of);
        let shown = |at: usize| self.shown.get(at).cloned();
        let whole = move |(at, row)| WrittenRow { row, round: round(at), view: view(at), shown: shown(at) };
        self.written_rows().enumerate().map(whole)
    }

    /// The trace as CSV, with a head line.
    #[must_use]
    pub fn to_csv(&self) -> String {
        let rows = csv_of(self.written_rows());
        // No field has a line break in it, so that lines of columns can be put beside each other.
        let beside = |rows: String, more: String| -> String {
            if more.is_empty() {
                return rows;
            }
            rows.lines().zip(more.lines()).map(|(row, more)| format!("{row},{more}\n")).collect()
        };
        let rows = beside(rows, csv_of(self.round_columns()));
        let rows = beside(rows, csv_of(self.views.iter().map(ViewColumns::of)));
        beside(rows, csv_of(self.shown.iter()))
    }

    /// The trace as JSON Lines: one object a row, with the names of the columns.
    #[must_use]
    pub fn to_json_lines(&self) -> String {
        json_lines_of(self.whole_rows())
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
