//! What flaps and a thrust do, measured on the controller in a sky without end.

use serde::Serialize;
use wumple_core::numbers::{FlightBy, Scheme};
use wumple_core::{Buttons, Tuning};

use super::jump_flight::by_hand;
use super::sky::Sky;
use crate::units::short;

/// What a flight does. Heights are positive upward; all begins at rest in the air.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[serde(rename_all = "kebab-case")]
#[non_exhaustive]
pub enum FlightMeasures {
    /// By flaps.
    Flaps {
        /// How high one flap gets, px: under `exact` the motion itself, else at the end of a tick.
        apex_height_px: f64,
        /// The same in tiles.
        apex_height_tiles: f64,
        /// When it is that high, s.
        apex_time_s: f64,
        /// The presses a second that hold the height, for a body that goes as far up as down between two of them:
        /// the root of the gravities of rise and fall, over the lift.
        presses_to_hold: f64,
        /// What comes of pressing 2, 4 and 6 times a second; none that are too quick for the rate.
        climbs: Vec<Climb>,
    },
    /// By a thrust.
    Thrust {
        /// The upward acceleration that is left of it against the gravity of a rise, px/s^2; negative if it only slows falls.
        beside_gravity_px_s2: f64,
        /// How far it rises in the first second, px; negative is down.
        first_second_px: f64,
        /// The same in tiles.
        first_second_tiles: f64,
        /// Its upward speed by then, px/s.
        speed_px_s: f64,
        /// How long it takes to stop a fall of one second, s; none if it does not within a minute.
        stops_fall_s: Option<f64>,
        /// How high it is after each tick when held for a second and let go for another, px; the first is the start.
        #[serde(skip)]
        heights_px: Vec<f64>,
    },
}

/// What comes of pressing so often.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[non_exhaustive]
pub struct Climb {
    /// Presses a second.
    pub presses_per_second: f64,
    /// How far it rises in the first second, px; negative is down.
    pub first_second_px: f64,
    /// The same in tiles.
    pub first_second_tiles: f64,
    /// How fast it rises in the long run, px/s, negative is down; none if it gets faster and faster.
    pub in_the_end_px_s: Option<f64>,
    /// How high it is after each tick of the first two seconds, px; the first is the start.
    #[serde(skip)]
    pub heights_px: Vec<f64>,
}

/// A flight over time, from rest.
#[derive(Clone, Debug, PartialEq)]
#[non_exhaustive]
pub struct FlightCourse<'a> {
    /// What is pressed: `4 presses a second`.
    pub words: String,
    /// How high it is after each tick, px; the first is the start.
    pub heights_px: &'a [f64],
}

impl FlightMeasures {
    /// What is measured, over time.
    #[must_use]
    pub fn courses(&self) -> Vec<FlightCourse<'_>> {
        match self {
            FlightMeasures::Flaps { climbs, .. } => climbs
                .iter()
                .map(|climb| FlightCourse {
                    words: format!("{} presses a second", short(climb.presses_per_second)),
                    heights_px: &climb.heights_px,
                })
                .collect(),
            FlightMeasures::Thrust { heights_px, .. } => {
                vec![FlightCourse { words: "held for 1 s, then let go".to_owned(), heights_px }]
            }
        }
    }
}

/// The presses a second that are measured.
const PRESSES: [f64; 3] = [2.0, 4.0, 6.0];
/// After so long a climb is steady, or never will be, s.
const LONG_RUN: f64 = 12.0;
/// A fall that is to be stopped is followed for so long, s.
const LONGEST_STOP: f64 = 60.0;
/// So far from the middle coordinates have an end, px.
const FAR: f64 = 200_000.0;

/// Measures the flight of a tuning, if it has one.
pub(super) fn flight_measures(tuning: &Tuning, tile: f64) -> Option<FlightMeasures> {
    let tuning = &*by_hand(tuning);
    let flight = tuning.flight()?;
    Some(match flight.by {
        FlightBy::Thrust => thrust(tuning, tile, flight.lift),
        _ => flaps(tuning, tile, flight.lift),
    })
}

fn flaps(tuning: &Tuning, tile: f64, lift: f64) -> FlightMeasures {
    let (height, seconds) = apex(tuning, lift);
    let gravity = tuning.gravity();
    let can_press = |presses: &f64| tuning.rate() / presses >= 2.0;
    FlightMeasures::Flaps {
        apex_height_px: height,
        apex_height_tiles: height / tile,
        apex_time_s: seconds,
        presses_to_hold: (gravity.rise * gravity.fall).sqrt() / lift,
        climbs: PRESSES.into_iter().filter(can_press).map(|presses| climb(tuning, tile, presses)).collect(),
    }
}

/// How high a flap gets, and when: the apex of the motion under `exact` (`v*v/(2*g)` after `v/g`), the highest end of a tick in the
/// stepped schemes.
fn apex(tuning: &Tuning, lift: f64) -> (f64, f64) {
    let gravity = tuning.gravity().rise;
    if tuning.scheme() == Scheme::Exact {
        return (lift * lift / (2.0 * gravity), lift / gravity);
    }
    let mut sky = Sky::new(tuning);
    let (mut height, mut seconds) = (0.0, 0.0);
    for tick in 1u32.. {
        sky.tick(jump(tick == 1));
        if sky.height() <= height {
            break;
        }
        (height, seconds) = (sky.height(), f64::from(tick) / tuning.rate());
    }
    (height, seconds)
}

fn jump(held: bool) -> Buttons {
    Buttons { jump: held, ..Buttons::NONE }
}

/// Whether a button that is pressed so often, evenly, the first time in tick 1, is down in a tick: for half the time.
fn is_down(presses: f64, rate: f64, tick: u64) -> bool {
    let since = (tick - 1) as f64 * presses / rate;
    // The press is in the tick in which it is due.
    let press = ((since.floor() * rate / presses).ceil() as u64 + 1).min(tick);
    ((tick - press) as f64) < (0.5 * rate / presses).max(1.0).floor()
}

fn climb(tuning: &Tuning, tile: f64, presses: f64) -> Climb {
    let (mut sky, rate) = (Sky::new(tuning), tuning.rate());
    let second = rate.round().max(1.0) as u64;
    let mut heights = vec![0.0];
    for tick in 1..=(LONG_RUN * rate) as u64 {
        sky.tick(jump(is_down(presses, rate, tick)));
        heights.push(sky.height());
        if sky.height().abs() > FAR {
            break;
        }
    }
    let first = heights[(second as usize).min(heights.len() - 1)];
    // Means of the last two of several seconds, each a whole number of presses.
    let mean = |ago: usize| {
        let end = heights.len().checked_sub(1 + ago * 2 * second as usize)?;
        let begin = end.checked_sub(2 * second as usize)?;
        Some((heights[end] - heights[begin]) / (2.0 * second as f64 / rate))
    };
    let is_whole = heights.len() as u64 > (LONG_RUN * rate) as u64;
    let in_the_end = mean(0).zip(mean(1)).filter(|_| is_whole);
    let steady = in_the_end.filter(|(last, before)| (last - before).abs() <= 1e-6 * (1.0 + last.abs()));
    heights.truncate(2 * second as usize + 1);
    Climb {
        presses_per_second: presses,
        first_second_px: first,
        first_second_tiles: first / tile,
        in_the_end_px_s: steady.map(|(last, _)| last),
        heights_px: heights,
    }
}

fn thrust(tuning: &Tuning, tile: f64, lift: f64) -> FlightMeasures {
    let (mut sky, rate) = (Sky::new(tuning), tuning.rate());
    let second = rate.round().max(1.0) as u64;
    let mut heights_px = vec![0.0];
    let mut go = |held: bool| {
        for _ in 0..second {
            sky.tick(jump(held));
            heights_px.push(sky.height());
        }
        (sky.height(), sky.upward_speed())
    };
    let (first, speed) = go(true);
    go(false);
    let mut falling = Sky::new(tuning);
    (0..second).for_each(|_| falling.tick(Buttons::NONE));
    let mut stopped = None;
    for tick in 1..=(LONGEST_STOP * rate) as u64 {
        falling.tick(jump(true));
        if falling.upward_speed() >= 0.0 {
            stopped = Some(tick as f64 / rate);
            break;
        }
        if falling.height().abs() > FAR {
            break;
        }
    }
    FlightMeasures::Thrust {
        beside_gravity_px_s2: lift - tuning.gravity().rise,
        first_second_px: first,
        first_second_tiles: first / tile,
        speed_px_s: speed,
        stops_fall_s: stopped,
        heights_px,
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_button_is_pressed_as_often_as_it_should_be() {
        for rate in [30.0, 60.0, 144.0, 59.94] {
            for presses in [2.0, 3.0, 4.0, 6.0, 7.0] {
                let ticks = (10.0 * rate) as u64;
                let edges = (1..=ticks)
                    .filter(|tick| is_down(presses, rate, *tick) && (*tick == 1 || !is_down(presses, rate, tick - 1)));
                assert_eq!(edges.count(), (10.0 * presses) as usize, "{presses} at {rate}");
            }
        }
    }
}
