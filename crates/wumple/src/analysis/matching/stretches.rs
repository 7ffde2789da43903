//! What a recording shows: ground stood on, flights from it, and changes of the run.

use std::ops::Range;

use super::motion::Change;
use crate::files::{RecordedRow, Recording};

/// From ground up and down, or off its edge and down.
#[derive(Clone, Debug)]
pub(super) struct Flight {
    pub(super) is_jump: bool,
    /// The rows in the air.
    pub(super) rows: Range<usize>,
    /// Ticks at whose end it may have been on the ground for the last time.
    pub(super) starts: Range<i64>,
    /// Heights above that ground, with their ticks.
    pub(super) samples: Vec<(i64, f64)>,
}

/// A change of the run, with the even motion before and after it.
#[derive(Clone, Debug)]
pub(super) struct RunChange {
    pub(super) change: Change,
    pub(super) in_air: bool,
    pub(super) rows: Range<usize>,
    pub(super) starts: Range<i64>,
    /// It takes no more ticks than these.
    pub(super) longest: i64,
    /// Places along the direction that [`super::motion::Along::change`] goes in, with their ticks.
    pub(super) samples: Vec<(i64, f64)>,
    /// +1 to the right, -1 to the left.
    pub(super) direction: f64,
}

/// Ground is stood on for so many rows at least.
const LEAST_ROWS: usize = 3;
/// An apex is level for less time than this, s.
const LONG: f64 = 0.35;
/// Even motion is looked for over so much time, s, and so many ticks at least.
const EVEN: f64 = 0.15;
const EVEN_TICKS: i64 = 8;
/// So many rows of even motion beside a change tell where it is.
const MOST_EVEN: usize = 60;
/// No change of the run takes longer, s.
const LONGEST: f64 = 4.0;
/// A start may be so many ticks before the first row that shows it: slow motion is rounded away.
const HIDDEN: i64 = 8;

/// The rows of ground: level for a while, and not the top of an arc.
pub(super) fn ground(recording: &Recording, rate: f64) -> Vec<Range<usize>> {
    let rows = &recording.rows;
    let is_level = |a: &RecordedRow, b: &RecordedRow| (a.y - b.y).abs() < 0.6 * recording.y_step;
    let mut found = Vec::new();
    let mut start = 0;
    while start < rows.len() {
        let end = (start + 1..rows.len()).find(|at| !is_level(&rows[start], &rows[*at])).unwrap_or(rows.len());
        let ticks = (rows[end - 1].tick - rows[start].tick) as f64;
        let is_long = ticks / rate >= LONG;
        let from_below = start > 0 && rows[start - 1].y < rows[start].y;
        let goes_down = end < rows.len() && rows[end].y < rows[start].y;
        // An apex is told as level for a few rows, and so is a slow rise or fall; but that comes to them as slowly as it leaves them.
        let is_slow = |before: &RecordedRow| {
            let speed = (before.y - rows[start].y) / (rows[start].tick - before.tick) as f64;
            (0.0..2.5 * recording.y_step / (ticks + 1.0)).contains(&speed)
        };
        let is_passed = start >= 2 && goes_down && is_slow(&rows[start - 2]);
        if end - start >= LEAST_ROWS && (is_long || !(from_below || is_passed)) {
            found.push(start..end);
        }
        start = end;
    }
    found
}

/// The flights between stretches of ground, each up to where something gives it another upward speed.
pub(super) fn flights(recording: &Recording, ground: &[Range<usize>]) -> Vec<Flight> {
    let rows = &recording.rows;
    let ends = ground.iter().skip(1).map(|next| next.start).chain([rows.len()]);
    let between = ground.iter().zip(ends).map(|(from, end)| (from, from.end..end));
    between
        .filter_map(|(from, air)| {
            let last = &rows[from.end - 1];
            let end = kick(recording, from.end - 1, air.end);
            let rows_in_air = air.start..end;
            let first = rows.get(air.start)?;
            let samples: Vec<(i64, f64)> =
                rows[rows_in_air.clone()].iter().map(|row| (row.tick, row.y - last.y)).collect();
            let is_jump = samples.first()?.1 > 0.0;
            // The first ticks of a fall are too slow to be seen; a jump is seen at once.
            let earliest = if is_jump { last.tick - 1 } else { last.tick - HIDDEN };
            let earliest = earliest.max(rows[from.start].tick);
            let starts = earliest..first.tick;
            (samples.len() >= 4).then_some(Flight { is_jump, rows: rows_in_air, starts, samples })
        })
        .collect()
}

/// The first row after `from` at which the upward speed has become greater, if any before `end`.
fn kick(recording: &Recording, from: usize, end: usize) -> usize {
    let rows = &recording.rows;
    let speed = |a: usize, b: usize| (rows[b].y - rows[a].y) / (rows[b].tick - rows[a].tick) as f64;
    // Each of the two speeds is off by half a step at either end.
    (from + 3..end.saturating_sub(2))
        .find(|at| speed(*at, at + 2) - speed(at - 2, *at) > 1.3 * recording.y_step + 0.02)
        .unwrap_or(end)
}

/// What a row is part of.
#[derive(Clone, Copy, Debug, PartialEq)]
enum Even {
    Not,
    Rest,
    /// At the top speed, in this direction.
    Run(i8),
}

/// Rows with one mark.
type Stretch = (Range<usize>, Even);

/// Even motion along the ground: the speed that most of it has, px a tick.
pub(super) struct EvenRun {
    marks: Vec<Even>,
    pub(super) top_speed: f64,
}

/// Finds even motion; none if nothing runs evenly for a while.
pub(super) fn even_run(recording: &Recording, rate: f64) -> Option<EvenRun> {
    let rows = &recording.rows;
    let length = EVEN_TICKS.max((EVEN * rate) as i64);
    // From each row a window of so many ticks, with its speed, if that is even.
    let windows: Vec<(Range<usize>, f64)> = (0..rows.len())
        .filter_map(|first| {
            let after = rows[first..].iter().position(|row| row.tick - rows[first].tick >= length)?;
            let window = first..first + after + 1;
            let last = &rows[window.end - 1];
            // Where rows are missing it is not seen whether it is even.
            if last.tick - rows[first].tick > length + length / 2 || window.len() < 4 {
                return None;
            }
            let speed = (last.x - rows[first].x) / (last.tick - rows[first].tick) as f64;
            let chord = |row: &RecordedRow| rows[first].x + speed * (row.tick - rows[first].tick) as f64;
            let is_even = rows[window.clone()].iter().all(|row| (row.x - chord(row)).abs() < 1.02 * recording.x_step);
            is_even.then_some((window, speed))
        })
        .collect();
    // Rounded ends are off by a step over the window, at most.
    let off = 1.1 * recording.x_step / length as f64;
    let is_near = |a: f64, b: f64| (a - b).abs() <= off + 0.01 * b;
    let mut speeds: Vec<f64> =
        windows.iter().map(|(_, speed)| speed.abs()).filter(|speed| *speed > 2.0 * off).collect();
    speeds.sort_by(f64::total_cmp);
    let alike_to = |speed: f64| {
        let first = speeds.partition_point(|other| *other < speed && !is_near(*other, speed));
        let end = speeds.partition_point(|other| *other <= speed || is_near(*other, speed));
        &speeds[first..end]
    };
    let commonest = *speeds.iter().max_by_key(|speed| alike_to(**speed).len())?;
    let alike = alike_to(commonest);
    let top_speed = alike.iter().sum::<f64>() / alike.len() as f64;
    let mut marks = vec![Even::Not; rows.len()];
    for (window, speed) in &windows {
        let still =
            rows[window.clone()].iter().all(|row| (row.x - rows[window.start].x).abs() < 0.6 * recording.x_step);
        let mark = match speed.abs() {
            _ if still => Even::Rest,
            fast if is_near(fast, top_speed) => Even::Run(speed.signum() as i8),
            _ => continue,
        };
        marks[window.clone()].fill(mark);
    }
    Some(EvenRun { marks, top_speed })
}

impl EvenRun {
    /// The changes between stretches of even motion.
    pub(super) fn changes(&self, recording: &Recording, ground: &[Range<usize>], rate: f64) -> Vec<RunChange> {
        let stretches = self.stretches();
        let pairs = stretches.windows(2);
        pairs.filter_map(|pair| self.change(recording, ground, rate, (&pair[0], &pair[1]))).collect()
    }

    /// Stretches of rows with one mark, those without left out.
    fn stretches(&self) -> Vec<Stretch> {
        let mut found: Vec<Stretch> = Vec::new();
        for (at, mark) in self.marks.iter().enumerate().filter(|(_, mark)| **mark != Even::Not) {
            match found.last_mut() {
                Some((rows, last)) if rows.end == at && last == mark => rows.end += 1,
                _ => found.push((at..at + 1, *mark)),
            }
        }
        found
    }

    /// Rows at the top speed without a change.
    pub(super) fn runs(&self) -> Vec<Range<usize>> {
        self.stretches().into_iter().filter(|(_, mark)| matches!(mark, Even::Run(_))).map(|(rows, _)| rows).collect()
    }

    fn change(
        &self,
        recording: &Recording,
        ground: &[Range<usize>],
        rate: f64,
        ((before, from), (after, to)): (&Stretch, &Stretch),
    ) -> Option<RunChange> {
        let rows = &recording.rows;
        let (change, direction) = match (from, to) {
            (Even::Rest, Even::Run(to)) => (Change::RunUp, *to),
            (Even::Run(from), Even::Rest) => (Change::Stop, *from),
            (Even::Run(from), Even::Run(to)) if from != to => (Change::Turn, *to),
            _ => return None,
        };
        let (last, next) = (before.end - 1, after.start);
        if (rows[next].tick - rows[last].tick) as f64 > LONGEST * rate {
            return None;
        }
        // What is even at both ends may hide the end of the change: half a window around it must be in one medium.
        let around = last.saturating_sub(4).max(before.start)..(next + 4).min(after.end);
        let on_ground = |at: &usize| ground.iter().any(|stretch| stretch.contains(at));
        let grounded = around.clone().filter(on_ground).count();
        if grounded != 0 && grounded != around.len() {
            return None;
        }
        let in_air = grounded == 0;
        let direction = f64::from(direction);
        let x_of = |at: usize| (rows[at].tick, direction * rows[at].x);
        // Of rest one row tells all: the next are rounded as it is.
        let margin = |stretch: &Range<usize>| (stretch.len() / 4).min(4);
        let from = (before.start + margin(before)).max((last + 1).saturating_sub(MOST_EVEN));
        let to = (after.end - margin(after)).min(next + MOST_EVEN);
        let covered = match change {
            Change::RunUp => last..to,
            Change::Stop => from..next + 1,
            Change::Turn => from..to,
        };
        let samples: Vec<(i64, f64)> = covered.clone().map(x_of).collect();
        // Seen late, by what is even within rounding: looked for over a window's length before.
        let window = EVEN_TICKS.max((EVEN * rate) as i64);
        let starts = match change {
            Change::RunUp => rows[last].tick - HIDDEN..rows[last + 1].tick + 2,
            _ => rows[last].tick - window..rows[next].tick + 1,
        };
        let longest = rows[next].tick - rows[last].tick + 2 * window;
        (samples.len() >= 6).then_some(RunChange { change, in_air, rows: covered, starts, longest, samples, direction })
    }
}
