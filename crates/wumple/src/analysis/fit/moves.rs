//! Numbers from wishes for those who fly by flaps, and for those who walk four ways.

use std::fmt;

use serde::Serialize;
use wumple_core::advanced::RiseRules;
use wumple_core::numbers::Scheme;

use super::super::arcs::arcs;
use super::super::flight_arcs::FlightMeasures;
use super::super::four_way_arcs::FourWayMeasures;
use super::write::shortest;
use super::{AccelerationUnits, GameLoop, SpeedUnits};
use crate::files::{Diagnostics, TuningFile};
use crate::units::{Kind, Quantity, short};

/// What is wished of flaps: two of these decide the lift and the gravity. Bare numbers are px, seconds and px/s^2.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct FlapWishes {
    /// At so many presses a second the height is held, above 0.
    pub hold_at: Option<f64>,
    /// How high one flap is: a length.
    pub flap_height: Option<Quantity>,
    /// How far it climbs in the first second from rest, at so many presses a second: a length.
    pub climb: Option<(Quantity, f64)>,
    /// How strong gravity is: an acceleration.
    pub gravity: Option<Quantity>,
}

/// What is wished of walking four ways. Bare numbers are px/s, and seconds.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct WalkWishes {
    /// The top speed.
    pub top_speed: Quantity,
    /// From rest to it: in a time, or over a length.
    pub to_top_speed: Option<Quantity>,
    /// From it to rest: in a time, or over a length.
    pub to_rest: Option<Quantity>,
}

/// The lift and the gravity that meet the wishes, and what they do, measured from the tuning as it would be written. Serializes
/// as `wumple-fit-flaps 1`.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[non_exhaustive]
pub struct FlapFit {
    /// `wumple-fit-flaps 1`.
    pub format: &'static str,
    /// The upward speed that a press adds.
    pub lift: SpeedUnits,
    /// Gravity.
    pub gravity: AccelerationUnits,
    /// What comes of it.
    pub predicted: FlightMeasures,
    /// The text of a tuning file with them, to be changed from there.
    #[serde(skip)]
    pub text: String,
}

/// The rates of a walk that meet the wishes, and what they do. Serializes as `wumple-fit-walk 1`.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[non_exhaustive]
pub struct WalkFit {
    /// `wumple-fit-walk 1`.
    pub format: &'static str,
    /// The top speed.
    pub top_speed: SpeedUnits,
    /// From rest to it; none: at once.
    pub acceleration: Option<AccelerationUnits>,
    /// From it to rest; none: at once.
    pub braking: Option<AccelerationUnits>,
    /// What comes of it.
    pub predicted: FourWayMeasures,
    /// The text of a tuning file with them, to be changed from there.
    #[serde(skip)]
    pub text: String,
}

/// Why wishes of flaps or of a walk cannot be met.
#[derive(Clone, Debug, PartialEq)]
#[non_exhaustive]
pub enum MoveFitError {
    /// It takes two wishes that decide both numbers.
    NotTwo,
    /// Presses that do not climb, or a climb that gravity would have to push.
    NoClimb,
    /// A wish that is not above 0.
    NotAboveZero {
        /// Which: `the climb`, ...
        wish: &'static str,
    },
    /// A wish is of another kind.
    OfAnotherKind {
        /// Which.
        wish: &'static str,
        /// What it must be.
        needed: &'static str,
    },
    /// The numbers are out of the bounds of a tuning.
    Tuning(Diagnostics),
}

impl fmt::Display for MoveFitError {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            MoveFitError::NotTwo => f.write_str(
                "two wishes decide lift and gravity: presses that hold the height or a gravity, and one more of these, \
                 a flap's height, or a climb",
            ),
            MoveFitError::NoClimb => f.write_str("so few presses do not climb so far: press more often, or climb less"),
            MoveFitError::NotAboveZero { wish } => write!(f, "{wish} must be above 0"),
            MoveFitError::OfAnotherKind { wish, needed } => write!(f, "{wish} must be {needed}"),
            MoveFitError::Tuning(diagnostics) => diagnostics.fmt(f),
        }
    }
}

impl std::error::Error for MoveFitError {}

/// A wish in px and seconds, above 0.
fn wished(wish: &'static str, quantity: Quantity, kind: Kind, looped: &GameLoop) -> Result<f64, MoveFitError> {
    if quantity.kind().is_some_and(|found| found != kind) {
        return Err(MoveFitError::OfAnotherKind { wish, needed: kind.name() });
    }
    above_zero(wish, quantity.in_px_and_seconds(&looped.scale))
}

fn above_zero(wish: &'static str, found: f64) -> Result<f64, MoveFitError> {
    // Written so that NaN is refused as well.
    if found > 0.0 { Ok(found) } else { Err(MoveFitError::NotAboveZero { wish }) }
}

/// Finds the lift and the gravity of flaps that meet two wishes in a loop, gravity being the same up and down.
///
/// ```
/// use wumple::analysis::{FlapWishes, fit_flaps};
/// use wumple::numbers::Scheme;
/// use wumple::units::{Quantity, Scale};
/// use wumple::GameLoop;
///
/// let looped = GameLoop { rate: 60.0, scheme: Scheme::Exact, scale: Scale { tile: 16.0, frames_per_second: 60.0 } };
/// let climb = Some((Quantity::parse("4 tiles")?, 5.0));
/// let found = fit_flaps(&FlapWishes { hold_at: Some(3.0), climb, ..FlapWishes::default() }, &looped)?;
/// assert!((found.gravity.px_s2 / found.lift.px_s - 3.0).abs() < 1e-6);
/// # Ok::<(), Box<dyn std::error::Error>>(())
/// ```
///
/// # Errors
///
/// If the wishes do not decide both numbers, or nothing meets them.
pub fn fit_flaps(wishes: &FlapWishes, looped: &GameLoop) -> Result<FlapFit, MoveFitError> {
    let hold_at = wishes.hold_at.map(|presses| above_zero("the presses that hold the height", presses)).transpose()?;
    let gravity =
        wishes.gravity.map(|gravity| wished("the gravity", gravity, Kind::Acceleration, looped)).transpose()?;
    let height =
        wishes.flap_height.map(|height| wished("the height of a flap", height, Kind::Length, looped)).transpose()?;
    let climb = match wishes.climb {
        Some((climb, presses)) => {
            let presses = above_zero("the presses of the climb", presses)?;
            Some((wished("the climb", climb, Kind::Length, looped)?, First::of(presses, looped)))
        }
        None => None,
    };
    let rules = |height: f64, gravity: f64| {
        let rules =
            RiseRules { scheme: looped.scheme, dt: 1.0 / looped.rate, hang_speed: 0.0, hang_ratio: 1.0, sustain: 0.0 };
        rules.speed_for(height, gravity)
    };
    let (lift, gravity) = match (hold_at, gravity, height, climb) {
        (Some(presses), Some(gravity), None, None) => (gravity / presses, gravity),
        (Some(presses), None, Some(height), None) => {
            // One flap in the time between two undoes the fall: the lift for a height grows as the root of gravity.
            let gravity = root(|gravity| gravity / presses - rules(height, gravity), 2.0 * height * presses * presses);
            (gravity / presses, gravity)
        }
        (Some(presses), None, None, Some((climb, first))) => {
            let share = first.by_lift / presses - first.by_gravity;
            if share <= 0.0 {
                return Err(MoveFitError::NoClimb);
            }
            let gravity = climb / share;
            (gravity / presses, gravity)
        }
        (None, Some(gravity), Some(height), None) => (rules(height, gravity), gravity),
        (None, Some(gravity), None, Some((climb, first))) => {
            ((climb + first.by_gravity * gravity) / first.by_lift, gravity)
        }
        _ => return Err(MoveFitError::NotTwo),
    };
    let near = |number: f64| shortest(number, number * (1.0 - 1e-9), number * (1.0 + 1e-9));
    let text = format!(
        "{}\n[run]\ntop_speed = \"7 tiles/s\"\n\n[fall]\ngravity = \"{} px/s^2\"\n\n[flight]\nby = \"flaps\"\nlift = \"{} px/s\"\n",
        head(looped),
        near(gravity),
        near(lift)
    );
    let file = TuningFile::parse("fit", &text).map_err(MoveFitError::Tuning)?;
    let predicted = arcs([&file]).tunings.remove(0).flight.expect("it flaps");
    let (lift, gravity) = (SpeedUnits::new(lift, &looped.scale), AccelerationUnits::new(gravity, &looped.scale));
    Ok(FlapFit { format: "wumple-fit-flaps 1", lift, gravity, predicted, text })
}

/// What a lift, and a gravity, do to the height of the first second, per px/s and per px/s^2.
#[derive(Clone, Copy)]
struct First {
    by_lift: f64,
    by_gravity: f64,
}

impl First {
    fn of(presses: f64, looped: &GameLoop) -> First {
        let (dt, ticks) = (1.0 / looped.rate, looped.rate.round().max(1.0));
        let pressed = (0..).map(|press| (f64::from(press) * looped.rate / presses).ceil());
        // A flap moves the body in its own tick, too.
        let by_lift = pressed.take_while(|tick| *tick < ticks).map(|tick| (ticks - tick) * dt).sum();
        let sum = match looped.scheme {
            Scheme::Exact => ticks * ticks,
            Scheme::VelocityFirst => ticks * (ticks + 1.0),
            Scheme::PositionFirst => ticks * (ticks - 1.0),
        };
        First { by_lift, by_gravity: sum * dt * dt / 2.0 }
    }
}

/// Where a function that grows from below 0 to above it is 0, looked for around a guess.
fn root(of: impl Fn(f64) -> f64, guess: f64) -> f64 {
    let (mut low, mut high) = (guess * 0.5, guess * 2.0);
    while of(low) > 0.0 && low > 1e-9 {
        low *= 0.5;
    }
    while of(high) < 0.0 && high < 1e15 {
        high *= 2.0;
    }
    for _ in 0..200 {
        let middle = 0.5 * (low + high);
        if of(middle) < 0.0 { low = middle } else { high = middle }
    }
    high
}

/// Finds the rates of a walk four ways that meet the wishes in a loop. In the stepped schemes a way until top speed, or rest, is met to
/// within what a tick at top speed goes.
///
/// # Errors
///
/// If a wish is of another kind, or the numbers are out of bounds.
pub fn fit_walk(wishes: &WalkWishes, looped: &GameLoop) -> Result<WalkFit, MoveFitError> {
    let top_speed = wished("the top speed", wishes.top_speed, Kind::Speed, looped)?;
    let text = |acceleration: Option<f64>, braking: Option<f64>| {
        let rate = |rate: Option<f64>| rate.map_or("\"instant\"".to_owned(), |rate| format!("\"{rate} px/s^2\""));
        format!(
            "{}\n[four_way]\ntop_speed = \"{top_speed} px/s\"\nacceleration = {}\nbraking = {}\n",
            head(looped),
            rate(acceleration),
            rate(braking)
        )
    };
    let measured = |acceleration, braking| -> Result<FourWayMeasures, MoveFitError> {
        let file = TuningFile::parse("fit", &text(acceleration, braking)).map_err(MoveFitError::Tuning)?;
        Ok(arcs([&file]).tunings.remove(0).four_way.expect("it walks"))
    };
    // A rate from a time, or from a way, as it is measured in that loop.
    let rate = |wish: &'static str, quantity: Quantity, way_of: fn(&FourWayMeasures) -> Option<f64>, brakes: bool| {
        let is_length = quantity.kind() == Some(Kind::Length);
        let kind = if is_length { Kind::Length } else { Kind::Time };
        let found = wished(wish, quantity, kind, looped)?;
        if !is_length {
            return Ok(top_speed / found);
        }
        let guess = top_speed * top_speed / (2.0 * found);
        if looped.scheme == Scheme::Exact {
            return Ok(guess);
        }
        let missing = |rate: f64| {
            let rates = if brakes { (None, Some(rate)) } else { (Some(rate), None) };
            let way = measured(rates.0, rates.1).ok().and_then(|walk| way_of(&walk)).unwrap_or(f64::INFINITY);
            found - way
        };
        Ok(root(missing, guess))
    };
    let acceleration = wishes
        .to_top_speed
        .map(|wish| rate("the way to top speed", wish, |walk| walk.straight.to_top_speed_px, false))
        .transpose()?;
    let braking =
        wishes.to_rest.map(|wish| rate("the way to rest", wish, |walk| walk.straight.to_rest_px, true)).transpose()?;
    let near = |rate: f64| shortest(rate, rate * (1.0 - 1e-9), rate * (1.0 + 1e-9));
    let (acceleration, braking) = (acceleration.map(near), braking.map(near));
    Ok(WalkFit {
        format: "wumple-fit-walk 1",
        top_speed: SpeedUnits::new(top_speed, &looped.scale),
        acceleration: acceleration.map(|rate| AccelerationUnits::new(rate, &looped.scale)),
        braking: braking.map(|rate| AccelerationUnits::new(rate, &looped.scale)),
        predicted: measured(acceleration, braking)?,
        text: text(acceleration, braking),
    })
}

/// What a new tuning file begins with: the loop, and a hitbox to be changed.
fn head(looped: &GameLoop) -> String {
    let GameLoop { rate, scheme, scale } = looped;
    format!(
        "# Made by `wumple fit`.\n\n[scale]\ntile = {}\nframes_per_second = {}\n\n[tick]\nrate = {rate}\nscheme = \"{}\"\n\n\
         [body]\nwidth = \"0.75 tiles\"\nheight = \"0.75 tiles\"\n",
        short(scale.tile),
        scale.frames_per_second,
        scheme.name()
    )
}
