//! What walking four ways does: times and ways to top speed, and to rest.

use serde::Serialize;
use wumple_core::advanced::{FourWayRules, RunRate};
use wumple_core::numbers::{Diagonal, Scheme};
use wumple_core::{Buttons, Tuning};

use super::sky::Sky;

/// What walking four ways does.
#[derive(Clone, Copy, Debug, PartialEq, Serialize)]
#[non_exhaustive]
pub struct FourWayMeasures {
    /// Along one axis.
    pub straight: WalkMeasures,
    /// Along both.
    pub diagonal: WalkMeasures,
}

/// Times and ways of a walk that begins and ends at rest. Under `exact` they are those of the motion itself, in the stepped
/// schemes those of the ends of ticks.
#[derive(Clone, Copy, Debug, PartialEq, Serialize)]
#[non_exhaustive]
pub struct WalkMeasures {
    /// The speed that it comes to, along its way, px/s.
    pub speed_px_s: f64,
    /// How long it takes to that from rest, s; none if it takes longer than a minute.
    pub to_top_speed_s: Option<f64>,
    /// How far it goes meanwhile, along its way, px.
    pub to_top_speed_px: Option<f64>,
    /// How long it takes from that to rest, s; none if it takes longer than a minute.
    pub to_rest_s: Option<f64>,
    /// How far it goes meanwhile, along its way, px.
    pub to_rest_px: Option<f64>,
}

/// No change of speed is followed for longer, s.
const LONGEST: f64 = 60.0;

/// Measures the walk of a tuning that is seen from above.
pub(super) fn four_way_measures(tuning: &Tuning) -> Option<FourWayMeasures> {
    let rules = tuning.four_way()?;
    let root = std::f64::consts::SQRT_2;
    let share = if rules.diagonal == Diagonal::Same { 1.0 / root } else { 1.0 };
    Some(FourWayMeasures { straight: walk(tuning, rules, 1.0, 1.0), diagonal: walk(tuning, rules, share, root) })
}

/// `share`: of the top speed along each axis; `longer`: how much longer the way is than its part along an axis.
fn walk(tuning: &Tuning, rules: &FourWayRules, share: f64, longer: f64) -> WalkMeasures {
    let speed = rules.rates.top_speed * share;
    let (to_top, to_rest) = if tuning.scheme() == Scheme::Exact {
        (change(rules.rates.acceleration, speed), change(rules.rates.braking, speed))
    } else {
        ticked(tuning, longer > 1.0, speed)
    };
    let within = |found: Option<(f64, f64)>| found.filter(|(seconds, _)| *seconds <= LONGEST);
    let (to_top, to_rest) = (within(to_top), within(to_rest));
    WalkMeasures {
        speed_px_s: speed * longer,
        to_top_speed_s: to_top.map(|(seconds, _)| seconds),
        to_top_speed_px: to_top.map(|(_, way)| way * longer),
        to_rest_s: to_rest.map(|(seconds, _)| seconds),
        to_rest_px: to_rest.map(|(_, way)| way * longer),
    }
}

/// `t = v/a` and `s = v*v/(2*a)`.
fn change(rate: RunRate, speed: f64) -> Option<(f64, f64)> {
    match rate {
        RunRate::Instant => Some((0.0, 0.0)),
        RunRate::PerSecond(rate) => (rate > 0.0).then(|| (speed / rate, speed * speed / (2.0 * rate))),
    }
}

/// The same tick by tick: up to speed, and back to rest.
type Changes = (Option<(f64, f64)>, Option<(f64, f64)>);

fn ticked(tuning: &Tuning, aslant: bool, speed: f64) -> Changes {
    let mut sky = Sky::new(tuning);
    let mut until = |held: Buttons, target: f64| -> Option<(f64, f64)> {
        let from = sky.report().feet.x;
        for tick in 1..=(LONGEST * tuning.rate()) as u64 {
            sky.tick(held);
            let report = sky.report();
            // What sums of rounded numbers leave is no speed.
            if (report.velocity.x - target).abs() <= 1e-9 * speed {
                return Some((tick as f64 / tuning.rate(), report.feet.x - from));
            }
            if sky.body().has_ended() {
                break;
            }
        }
        None
    };
    let held = Buttons { right: true, down: aslant, ..Buttons::NONE };
    let to_top = until(held, speed);
    (to_top, to_top.and_then(|_| until(Buttons::NONE, 0.0)))
}
