//! A tuning from a recording: numbers of a character of which only the way is known.

mod along;
mod least_squares;
mod motion;
mod stretches;
mod text;
mod upright;

use std::ops::Range;

use serde::Serialize;

use super::GameLoop;
use crate::files::Recording;
use along::{Kind, Ran, Rate};
use least_squares::inflation;
use motion::{Along, Change, place_at};
use upright::{Flown, Seen};

/// The numbers that a recording shows, and how far each may be off.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[non_exhaustive]
pub struct MatchReport {
    /// What the recording is called.
    pub recording: String,
    /// Ticks a second.
    pub rate_hz: f64,
    /// The scheme that the numbers are for.
    pub scheme: &'static str,
    /// The side of a tile, px.
    pub tile_px: f64,
    /// How many rows it has.
    pub rows: usize,
    /// How finely it tells x, px.
    pub x_step_px: f64,
    /// How finely it tells y, px.
    pub y_step_px: f64,
    /// What it shows, in the order of the keys of a tuning file.
    pub numbers: Vec<MatchedNumber>,
    /// What it never shows, or not well enough.
    pub unseen: Vec<UnseenNumber>,
    /// The flights and changes of the run that the numbers came from, in the order of their rows.
    pub pieces: Vec<MatchedPiece>,
}

/// A number that a recording shows.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[non_exhaustive]
pub struct MatchedNumber {
    /// The key of the tuning file.
    pub key: &'static str,
    /// px, s, px/s, px/s^2, or empty for a ratio.
    pub unit: &'static str,
    /// The number. Of what changes at once, the least rate that looks the same.
    pub value: f64,
    /// The truth lies so near in 95 of 100 recordings, in the same unit; none if it changes at once.
    pub error: Option<f64>,
    /// Whether the speed changes at once, as far as can be seen.
    pub at_once: bool,
    /// The first and the last line of each piece of the file that it came from.
    pub lines: Vec<(usize, usize)>,
}

/// A number that a recording does not show.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[non_exhaustive]
pub struct UnseenNumber {
    /// The key of the tuning file.
    pub key: &'static str,
    /// Why not.
    pub why: String,
}

/// A part of a recording that follows the numbers found.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[non_exhaustive]
pub struct MatchedPiece {
    /// `jump`, `fall`, `run-up`, `stop` or `turn`.
    pub what: &'static str,
    /// Whether it is in the air.
    pub in_air: bool,
    /// The first and the last line of the file.
    pub lines: (usize, usize),
    /// How far the rows are off, px: the root of the mean square.
    pub off_px: f64,
    /// Whether the places are along y, upward; else along x.
    pub is_upright: bool,
    /// The controller's own motion: ticks and places, px.
    pub replay: Vec<(i64, f64)>,
}

/// Why nothing can be found.
#[derive(Clone, Debug, PartialEq, Eq, thiserror::Error)]
#[non_exhaustive]
pub enum MatchError {
    /// There is no stretch of level ground in it, from which flights begin.
    #[error("the recording is nowhere on level ground for three rows; flights are found from the ground they begin on")]
    NoGround,
    /// It would have more jumps if y went the other way.
    #[error("what leaves the ground mostly goes down, and comes back from below: does y grow the other way?")]
    UpsideDown,
}

/// The most that what follows the numbers may be off, as the root of the mean square, px: rounded places are off by 0.29 of a step.
fn most_off(step: f64, looped: &GameLoop) -> f64 {
    (0.4 * step).max(0.01 * looped.scale.tile)
}

/// The root of the mean square of what rows are off.
fn spread(off: &[f64]) -> f64 {
    (off.iter().map(|off| off * off).sum::<f64>() / off.len().max(1) as f64).sqrt()
}

/// Whether rows that are so far off follow the numbers: no further than by rounding, or a thousandth of a tile; or by what the recording was
/// made with, which is one way in one row and the other way in the next. A motion of another rule, as that of a hang, is off the same way for many rows.
fn follows(off: &[f64], step: f64, looped: &GameLoop) -> bool {
    const ALIKE: f64 = 1.8;
    let spread = spread(off);
    let is_near = spread <= (0.4 * step).max(0.001 * looped.scale.tile);
    is_near || (spread <= most_off(step, looped) && inflation([off].into_iter()) < ALIKE)
}

/// Of a number that is off by more than this share nothing is said.
const MOST_OFF: f64 = 0.25;

/// Finds the numbers of a tuning from where a character was, row by row.
///
/// Flights from level ground, run-ups, stops and turns are found in it, and the numbers for which the controller's own motion, with this loop,
/// comes nearest to them: by least squares, over all of them together. Only the highest jumps are used, as those that were held.
/// Air jumps, walls, ladders, ramps, hangs and what letting go of the button does are not looked for.
///
/// ```
/// use wumple::analysis::{GameLoop, match_recording};
/// use wumple::numbers::Scheme;
/// use wumple::units::Scale;
/// use wumple::files::{Recording, RecordingUnits};
///
/// // A ball that is thrown up at 6 px a frame from y = 0, under a gravity of 0.25 px a frame, and comes back.
/// let mut text = String::from("frame,x,y\n");
/// for frame in 0..80 {
///     let time = f64::from((frame - 10).clamp(0, 48));
///     text += &format!("{frame},0,{}\n", (6.0 * time - 0.125 * time * time).round());
/// }
/// let scale = Scale { tile: 16.0, frames_per_second: 60.0 };
/// let recording = Recording::parse("ball.csv", &text, &RecordingUnits::new(60.0, &scale))?;
/// let report = match_recording(&recording, &GameLoop { rate: 60.0, scheme: Scheme::Exact, scale })?;
/// let speed = report.number("jump.speed").unwrap();
/// assert!((speed.value - 360.0).abs() <= speed.error.unwrap());
/// # Ok::<(), Box<dyn std::error::Error>>(())
/// ```
///
/// # Errors
///
/// See [`MatchError`]. What is not shown is told by [`MatchReport::unseen`].
pub fn match_recording(recording: &Recording, looped: &GameLoop) -> Result<MatchReport, MatchError> {
    let ground = stretches::ground(recording, looped.rate);
    if ground.is_empty() {
        return Err(MatchError::NoGround);
    }
    let flights = stretches::flights(recording, &ground);
    if is_upside_down(recording, looped.rate) {
        return Err(MatchError::UpsideDown);
    }
    let (flown, seen) = upright::solve(recording, &flights, looped);
    let even = stretches::even_run(recording, looped.rate);
    let ran = even.and_then(|even| {
        let changes = even.changes(recording, &ground, looped.rate);
        along::solve(recording, changes, even.runs(), even.top_speed, looped)
    });
    let mut report = MatchReport {
        recording: recording.name.clone(),
        rate_hz: looped.rate,
        scheme: looped.scheme.name(),
        tile_px: looped.scale.tile,
        rows: recording.rows.len(),
        x_step_px: recording.x_step,
        y_step_px: recording.y_step,
        numbers: Vec::new(),
        unseen: Vec::new(),
        pieces: Vec::new(),
    };
    report.add_run(recording, ran.as_ref());
    report.add_flights(recording, flown.as_ref(), &seen, looped);
    if let Some(ran) = &ran {
        report.pieces.extend(run_pieces(recording, ran, looped));
    }
    if let Some(flown) = &flown {
        report.pieces.extend(flight_pieces(recording, flown, looped));
    }
    report.pieces.sort_by_key(|piece| piece.lines);
    Ok(report)
}

/// Whether it would have more jumps that come back to the ground they left if y went the other way.
fn is_upside_down(recording: &Recording, rate: f64) -> bool {
    let jumps = |recording: &Recording| {
        let ground = stretches::ground(recording, rate);
        let height = |stretch: &Range<usize>| recording.rows[stretch.start].y;
        let is_jump = |pair: &&[Range<usize>]| {
            let between = &recording.rows[pair[0].end..pair[1].start];
            let comes_back = (height(&pair[0]) - height(&pair[1])).abs() < 0.6 * recording.y_step;
            comes_back && between.len() >= 4 && between.iter().all(|row| row.y > height(&pair[0]))
        };
        ground.windows(2).filter(is_jump).count()
    };
    let mut turned = recording.clone();
    turned.rows.iter_mut().for_each(|row| row.y = -row.y);
    jumps(&turned) > jumps(recording)
}

fn lines(recording: &Recording, rows: &Range<usize>) -> (usize, usize) {
    (recording.rows[rows.start].line, recording.rows[rows.end - 1].line)
}

impl MatchReport {
    /// The number of this key, if the recording shows it.
    #[must_use]
    pub fn number(&self, key: &str) -> Option<&MatchedNumber> {
        self.numbers.iter().find(|number| number.key == key)
    }

    fn leave_out(&mut self, key: &'static str, why: impl Into<String>) {
        self.unseen.push(UnseenNumber { key, why: why.into() });
    }

    /// Adds a number if it is known well enough.
    fn add(&mut self, key: &'static str, unit: &'static str, value: f64, share_off: f64, lines: &[(usize, usize)]) {
        if share_off > MOST_OFF || !share_off.is_finite() {
            let why = match share_off.is_finite() {
                true => format!(
                    "about {value:.0} {unit}, but that may be off by {:.0} %: too little of it is seen",
                    share_off * 100.0
                ),
                false => "what is seen does not decide it".to_owned(),
            };
            return self.leave_out(key, why);
        }
        let error = Some(value * share_off);
        self.numbers.push(MatchedNumber { key, unit, value, error, at_once: false, lines: lines.to_vec() });
    }

    fn add_run(&mut self, recording: &Recording, ran: Option<&Ran>) {
        let rates: [(&'static str, &'static str, Kind); 6] = [
            ("run.acceleration", "run-up from rest to the top speed", (false, Change::RunUp)),
            ("run.braking", "stop from the top speed to rest", (false, Change::Stop)),
            ("run.turning", "turn from the top speed one way to the other", (false, Change::Turn)),
            ("air.acceleration", "run-up from rest to the top speed in the air", (true, Change::RunUp)),
            ("air.braking", "stop from the top speed to rest in the air", (true, Change::Stop)),
            ("air.turning", "turn from the top speed one way to the other in the air", (true, Change::Turn)),
        ];
        let Some(ran) = ran else {
            self.leave_out("run.top_speed", "nothing runs evenly for a while");
            rates.into_iter().for_each(|(key, _, _)| self.leave_out(key, "no top speed is seen"));
            return;
        };
        let mut of_runs: Vec<(usize, usize)> = ran.runs.iter().map(|rows| lines(recording, rows)).collect();
        of_runs.dedup();
        self.add("run.top_speed", "px/s", ran.top_speed, ran.top_speed_off, &of_runs);
        for (key, words, kind) in rates {
            let alike = ran.changes.iter().filter(|(change, _)| (change.in_air, change.change) == kind);
            let of_rate: Vec<(usize, usize)> = alike.map(|(change, _)| lines(recording, &change.rows)).collect();
            match ran.rates.get(&kind) {
                None => self.leave_out(key, format!("there is no {words} that can be followed")),
                Some(rate) => self.add_rate(key, rate, of_rate),
            }
        }
    }

    fn add_rate(&mut self, key: &'static str, rate: &Rate, lines: Vec<(usize, usize)>) {
        let unit = "px/s^2";
        if rate.at_once {
            let value = rate.range.0;
            self.numbers.push(MatchedNumber { key, unit, value, error: None, at_once: true, lines });
            return;
        }
        let off = (rate.range.1 / rate.value - 1.0).max(1.0 - rate.range.0 / rate.value);
        self.add(key, unit, rate.value, off, &lines);
    }

    fn add_flights(&mut self, recording: &Recording, flown: Option<&Flown>, seen: &Seen, looped: &GameLoop) {
        let of_kind = |is_jump: Option<bool>| -> Vec<(usize, usize)> {
            let flights = flown.iter().flat_map(|flown| &flown.flights).map(|(flight, _)| flight);
            let alike = flights.filter(|flight| is_jump.is_none_or(|is_jump| flight.is_jump == is_jump));
            alike.map(|flight| lines(recording, &flight.rows)).collect()
        };
        let (of_jumps, of_all) = (of_kind(Some(true)), of_kind(None));
        let tiles = |px: f64| crate::units::short((px / looped.scale.tile * 100.0).round() / 100.0);
        match flown.filter(|flown| flown.falls()) {
            Some(Flown { upright, .. }) if upright.top_fall.is_none() => {
                let fastest = tiles(seen.fastest_fall);
                self.leave_out(
                    "fall.top_speed",
                    format!("no fall is long enough to become even; the fastest comes to {fastest} tiles/s"),
                );
            }
            Some(flown) => {
                let top = flown.upright.top_fall.unwrap_or(0.0);
                self.add("fall.top_speed", "px/s", top, flown.share_off([0.0, 0.0, 0.0, 1.0]), &of_all);
            }
            None => self.leave_out("fall.top_speed", "no fall can be followed"),
        }
        let (Some(flown), true) = (flown, flown.is_some_and(Flown::rises)) else {
            let why = match seen.jumps {
                0 => "nothing jumps from level ground",
                _ => {
                    "no jump follows one gravity while it rises: it is let go, hangs or is sustained, or the loop has another scheme"
                }
            };
            ["fall.gravity_ratio", "jump.height", "jump.time_to_apex", "jump.speed", "jump.gravity"]
                .into_iter()
                .for_each(|key| self.leave_out(key, why));
            if let Some(flown) = flown {
                let (gravity, off) = (flown.upright.fall_gravity, flown.share_off([0.0, 0.0, 1.0, 0.0]));
                self.add("fall.gravity", "px/s^2", gravity, off, &of_all);
            }
            return;
        };
        let upright = flown.upright;
        match flown.falls() {
            true => {
                let ratio = upright.fall_gravity / upright.rise_gravity;
                self.add("fall.gravity_ratio", "", ratio, flown.share_off([0.0, -1.0, 1.0, 0.0]), &of_all);
            }
            false => self.leave_out("fall.gravity_ratio", "no fall can be followed"),
        }
        let (height, ticks) = upright.apex(looped);
        self.add("jump.height", "px", height, flown.share_off([2.0, -1.0, 0.0, 0.0]), &of_jumps);
        self.add("jump.time_to_apex", "s", ticks / looped.rate, flown.share_off([1.0, -1.0, 0.0, 0.0]), &of_jumps);
        self.add("jump.speed", "px/s", upright.take_off, flown.share_off([1.0, 0.0, 0.0, 0.0]), &of_jumps);
        self.add("jump.gravity", "px/s^2", upright.rise_gravity, flown.share_off([0.0, 1.0, 0.0, 0.0]), &of_jumps);
    }
}

fn flight_pieces(recording: &Recording, flown: &Flown, looped: &GameLoop) -> Vec<MatchedPiece> {
    let flights = flown.flights(looped).into_iter().zip(&flown.spreads);
    flights
        .map(|((flight, start, heights), off)| {
            let first = flight.samples[0];
            let ground = recording.rows[flight.rows.start].y - first.1;
            let place = |(at, height): (usize, &f64)| (start + at as i64, ground + height);
            MatchedPiece {
                what: if flight.is_jump { "jump" } else { "fall" },
                in_air: true,
                lines: lines(recording, &flight.rows),
                off_px: *off,
                is_upright: true,
                replay: heights.iter().enumerate().map(place).collect(),
            }
        })
        .collect()
}

fn run_pieces(recording: &Recording, ran: &Ran, looped: &GameLoop) -> Vec<MatchedPiece> {
    let piece = |(change, start): &(stretches::RunChange, i64)| {
        let rate_of = |kind: Change| {
            ran.rates.get(&(change.in_air, kind)).map(|rate| if rate.at_once { 1e9 } else { rate.value })
        };
        let rate = rate_of(change.change)?;
        let acceleration = rate_of(Change::RunUp).unwrap_or(rate);
        let numbers = Along { top_speed: ran.top_speed, acceleration, braking: rate, turning: rate };
        let (first, last) = (change.samples.first()?.0, change.samples.last()?.0);
        let places = numbers.change(change.change, looped, (last - start).max(0) as usize)?;
        let at = |tick: i64| place_at(change.change, &places, ran.top_speed / looped.rate, tick - start);
        // It began where it comes nearest to all rows.
        let off: Vec<f64> = change.samples.iter().map(|(tick, x)| x - at(*tick)).collect();
        let from = off.iter().sum::<f64>() / off.len() as f64;
        let off: Vec<f64> = off.iter().map(|off| off - from).collect();
        Some(MatchedPiece {
            what: match change.change {
                Change::RunUp => "run-up",
                Change::Stop => "stop",
                Change::Turn => "turn",
            },
            in_air: change.in_air,
            lines: lines(recording, &change.rows),
            off_px: spread(&off),
            is_upright: false,
            replay: (first..=last).map(|tick| (tick, change.direction * (from + at(tick)))).collect(),
        })
    };
    ran.changes.iter().filter_map(piece).collect()
}
