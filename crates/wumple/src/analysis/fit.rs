//! Numbers from wishes: the jump that is so high, so quick, so far.

use std::fmt;

use serde::Serialize;
use wumple_core::{
    Acceleration, FallNumbers, JumpNumbers, JumpShape, LIMIT_SPEED, Release, RiseRules, RunNumbers, Scheme, Tuning,
    TuningNumbers,
};

use super::arcs::{ArcKind, JumpArc, arcs};
use crate::files::TuningFile;
use crate::quantity::{Scale, short};

/// What is wished for: px, seconds, px/s. What is not given is decided by the rest.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Wishes {
    /// How high a full jump is, px.
    pub height: Option<f64>,
    /// How long it takes to its apex, s.
    pub time_to_apex: Option<f64>,
    /// How far a full jump at top speed goes over level ground, px.
    pub gap: Option<f64>,
    /// The run's top speed, px/s.
    pub top_speed: Option<f64>,
    /// How high the smallest hop is, px.
    pub tap_height: Option<f64>,
    /// How much greater the gravity of the fall is than that of the rise.
    pub fall_ratio: Option<f64>,
}

/// The loop that the numbers are for.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Loop {
    /// Ticks a second.
    pub rate: f64,
    /// How it integrates.
    pub scheme: Scheme,
    /// What `tile` and `frame` mean.
    pub scale: Scale,
}

/// Why wishes cannot be met.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Unfit(String);

impl Unfit {
    pub(super) fn because(why: &str) -> Unfit {
        Unfit(why.to_owned())
    }
}

impl fmt::Display for Unfit {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.write_str(&self.0)
    }
}

impl std::error::Error for Unfit {}

/// A speed in the units that loops are written in.
#[derive(Clone, Copy, Debug, PartialEq, Serialize)]
pub struct SpeedUnits {
    /// px/s.
    pub px_s: f64,
    /// px a frame.
    pub px_frame: f64,
    /// Tiles a second.
    pub tiles_s: f64,
}

/// An acceleration in the units that loops are written in.
#[derive(Clone, Copy, Debug, PartialEq, Serialize)]
pub struct AccelerationUnits {
    /// px/s^2.
    pub px_s2: f64,
    /// px a frame, a frame.
    pub px_frame2: f64,
    /// Tiles a second, a second.
    pub tiles_s2: f64,
}

impl SpeedUnits {
    fn new(px_s: f64, scale: &Scale) -> SpeedUnits {
        SpeedUnits { px_s, px_frame: px_s / scale.frames_per_second, tiles_s: px_s / scale.tile }
    }

    /// With upward negative, as a loop with y down needs it.
    pub fn reversed(self) -> SpeedUnits {
        SpeedUnits { px_s: -self.px_s, px_frame: -self.px_frame, tiles_s: -self.tiles_s }
    }
}

impl AccelerationUnits {
    fn new(px_s2: f64, scale: &Scale) -> AccelerationUnits {
        let frames = scale.frames_per_second;
        AccelerationUnits { px_s2, px_frame2: px_s2 / (frames * frames), tiles_s2: px_s2 / scale.tile }
    }

    /// With upward negative, as a loop with y down needs it.
    pub fn reversed(self) -> AccelerationUnits {
        AccelerationUnits { px_s2: -self.px_s2, px_frame2: -self.px_frame2, tiles_s2: -self.tiles_s2 }
    }
}

/// The numbers that meet the wishes. Serializes as `wumple-fit 1`.
///
/// `speed` is upward and positive; gravities are given by their size.
#[derive(Clone, Debug, PartialEq, Serialize)]
pub struct Fit {
    /// `wumple-fit 1`.
    pub format: &'static str,
    /// Ticks a second.
    pub rate_hz: f64,
    /// The scheme of integration.
    pub scheme: &'static str,
    /// The side of a tile, px.
    pub tile_px: f64,
    /// At take-off.
    pub speed: SpeedUnits,
    /// While rising.
    pub rise_gravity: AccelerationUnits,
    /// While falling.
    pub fall_gravity: AccelerationUnits,
    /// The run's top speed, if the wishes decide it.
    pub top_speed: Option<SpeedUnits>,
    /// The full jump that comes of it; the running one if a top speed is known.
    pub predicted: JumpArc,
    /// Which wish decides what, in words.
    pub decided: Vec<String>,
    /// What the rate rounds, in words.
    pub warnings: Vec<String>,
    /// The height asked for, px.
    #[serde(skip)]
    pub height_px: f64,
    /// The time to the apex found, s.
    #[serde(skip)]
    pub time_to_apex_s: f64,
    /// The wishes as they were.
    #[serde(skip)]
    pub wishes: Wishes,
}

/// Finds the numbers that meet the wishes in a loop.
///
/// # Errors
///
/// If the wishes do not decide a height and a time, contradict one another, or ask for more than can be.
pub fn fit(wishes: &Wishes, looped: &Loop) -> Result<Fit, Unfit> {
    let ratio = wishes.fall_ratio.unwrap_or(1.0);
    for (value, name) in [
        (wishes.height, "the height"),
        (wishes.time_to_apex, "the time to the apex"),
        (wishes.gap, "the gap"),
        (wishes.top_speed, "the top speed"),
        (Some(ratio), "the fall ratio"),
    ] {
        if value.is_some_and(|value| !(value > 0.0 && value.is_finite())) {
            return Err(Unfit(format!("{name} must be above 0")));
        }
    }
    let mut decided = Vec::new();
    let (height, time) = height_and_time(wishes, looped, ratio, &mut decided)?;
    let mut warnings = Vec::new();
    let time = rounded(time, looped, &mut warnings);
    if let Some(tap) = wishes.tap_height {
        if !(tap >= 0.0 && tap <= height) {
            let tiles = |px: f64| short(px / looped.scale.tile);
            return Err(Unfit(format!(
                "a smallest hop of {} tiles is higher than the full jump of {} tiles",
                tiles(tap),
                tiles(height)
            )));
        }
        decided.push(format!("the smallest hop decides release = to-height, tap_height = {} px", short(tap)));
    }
    let standing = tuning(wishes, looped, height, time, ratio, wishes.top_speed.unwrap_or(0.0))?;
    let air_time = full(&standing, ArcKind::Full).air_time_s;
    let top_speed = top_speed(wishes, looped, air_time, &mut decided)?;
    let running = tuning(wishes, looped, height, time, ratio, top_speed.unwrap_or(0.0))?;
    let kind = if top_speed.is_some() { ArcKind::Running } else { ArcKind::Full };
    let gravity = running.tuning.gravity();
    let (scale, speed) = (&looped.scale, running.tuning.jump().map_or(0.0, |jump| jump.speed));
    Ok(Fit {
        format: "wumple-fit 1",
        rate_hz: looped.rate,
        scheme: looped.scheme.name(),
        tile_px: scale.tile,
        speed: SpeedUnits::new(speed, scale),
        rise_gravity: AccelerationUnits::new(gravity.rise, scale),
        fall_gravity: AccelerationUnits::new(gravity.fall, scale),
        top_speed: top_speed.map(|speed| SpeedUnits::new(speed, scale)),
        predicted: full(&running, kind),
        decided,
        warnings,
        height_px: height,
        time_to_apex_s: time,
        wishes: wishes.clone(),
    })
}

/// The height and time that the wishes come to. With no time, the gap at top speed says how long the jump
/// is in the air, and the fall ratio how that is shared: `air time = T * (1 + sqrt(1/ratio))`.
fn height_and_time(wishes: &Wishes, looped: &Loop, ratio: f64, decided: &mut Vec<String>) -> Result<(f64, f64), Unfit> {
    let height = wishes.height.ok_or_else(|| Unfit(String::from("a jump needs a height: add --height")))?;
    if let Some(time) = wishes.time_to_apex {
        decided
            .push(String::from("the height and the time to the apex decide the take-off speed and the rise gravity"));
        return Ok((height, time));
    }
    match (wishes.gap, wishes.top_speed) {
        (Some(gap), Some(speed)) => {
            decided.push(String::from(
                "the gap and the top speed decide the time in the air, and so the time to the apex",
            ));
            decided.push(String::from("the height and that time decide the take-off speed and the rise gravity"));
            let time = gap / speed / (1.0 + (1.0 / ratio).sqrt());
            if !looped.scheme.is_stepped() {
                return Ok((height, time));
            }
            Ok((height, least_ticks_over(wishes, looped, height, time, ratio, gap)?))
        }
        _ => Err(Unfit(String::from(
            "a jump needs a time as well: add --time-to-apex, or --gap and --top-speed, which decide it",
        ))),
    }
}

/// In a stepped scheme, the time of the fewest whole ticks whose jump clears the gap.
fn least_ticks_over(
    wishes: &Wishes,
    looped: &Loop,
    height: f64,
    time: f64,
    ratio: f64,
    gap: f64,
) -> Result<f64, Unfit> {
    let speed = wishes.top_speed.unwrap_or(0.0);
    let near = ((time * looped.rate).floor() as i64 - 3).max(2);
    for ticks in near..near + 12 {
        let time = ticks as f64 / looped.rate;
        let arc = full(&tuning(wishes, looped, height, time, ratio, speed)?, ArcKind::Running);
        if arc.reach_px >= gap - 1e-9 {
            return Ok(time);
        }
    }
    Ok(time)
}

/// In a stepped scheme a rise takes whole ticks; a time that is none is rounded, and that is said.
fn rounded(time: f64, looped: &Loop, warnings: &mut Vec<String>) -> f64 {
    if !looped.scheme.is_stepped() {
        return time;
    }
    let (whole, said) = whole_ticks(time, looped.rate, looped.scheme);
    warnings.extend(said);
    whole
}

/// The time of the whole ticks nearest to a time to the apex, and the rounding in words if it is one.
fn whole_ticks(time: f64, rate: f64, scheme: Scheme) -> (f64, Option<String>) {
    let rules = RiseRules { scheme, dt: 1.0 / rate, hang_speed: 0.0, hang_ratio: 1.0, sustain: 0.0 };
    let ticks = rules.rise_ticks(time) as f64;
    let whole = ticks / rate;
    let rounds = (whole - time).abs() > 1e-9;
    let said = || {
        format!(
            "{} s to the apex is {} ticks at {} Hz; {} takes whole ticks: {ticks} ticks, {} s",
            short(time),
            short(time * rate),
            short(rate),
            scheme.name(),
            short(whole)
        )
    };
    (whole, rounds.then(said))
}

/// What the rate of a tuning rounds, in words: its time to the apex in a stepped scheme.
pub fn rounding_of(file: &TuningFile) -> Option<String> {
    let numbers = file.tuning.numbers();
    match numbers.jump.as_ref().map(|jump| jump.shape) {
        Some(JumpShape::HeightAndTime { time_to_apex, .. }) if numbers.scheme.is_stepped() => {
            whole_ticks(time_to_apex, numbers.rate, numbers.scheme).1.map(|words| format!("{}: {words}", file.name))
        }
        _ => None,
    }
}

/// The top speed that the wishes come to, if they do, and whether it clears the gap.
fn top_speed(wishes: &Wishes, looped: &Loop, air_time: f64, decided: &mut Vec<String>) -> Result<Option<f64>, Unfit> {
    let tiles = |px: f64| short(px / looped.scale.tile);
    let Some(gap) = wishes.gap else { return Ok(wishes.top_speed) };
    let needed = gap / air_time;
    match wishes.top_speed {
        Some(speed) if wishes.time_to_apex.is_some() && speed < needed * (1.0 - 1e-9) => Err(Unfit(format!(
            "a gap of {} tiles in {} s needs {} tiles/s; top speed is {}",
            tiles(gap),
            short(air_time),
            tiles(needed),
            tiles(speed)
        ))),
        Some(speed) => {
            if wishes.time_to_apex.is_some() {
                decided.push(format!("the gap is cleared: {} tiles/s would do", tiles(needed)));
            }
            Ok(Some(speed))
        }
        None if needed > LIMIT_SPEED => Err(Unfit(format!(
            "a gap of {} tiles in {} s needs {} tiles/s; no speed is above {LIMIT_SPEED} px/s",
            tiles(gap),
            short(air_time),
            tiles(needed)
        ))),
        None => {
            decided.push(format!("the gap and the time in the air decide the top speed: {} tiles/s", tiles(needed)));
            Ok(Some(needed))
        }
    }
}

/// A tuning of just these numbers, to be flown.
fn tuning(
    wishes: &Wishes,
    looped: &Loop,
    height: f64,
    time: f64,
    ratio: f64,
    top_speed: f64,
) -> Result<TuningFile, Unfit> {
    let release = match wishes.tap_height {
        Some(tap_height) => Release::ToHeight { tap_height, further_rise: 0.0 },
        None => Release::None,
    };
    let plain = TuningNumbers::new(1.0, 1.0, top_speed);
    let numbers = TuningNumbers {
        rate: looped.rate,
        scheme: looped.scheme,
        run: RunNumbers { top_speed, acceleration: Acceleration::Instant, ..plain.run },
        fall: FallNumbers { gravity_ratio: ratio, ..FallNumbers::default() },
        jump: Some(JumpNumbers {
            release,
            ..JumpNumbers::new(JumpShape::HeightAndTime { height, time_to_apex: time })
        }),
        ..plain
    };
    let tuning = Tuning::check(&numbers).map_err(|errors| Unfit(errors.to_string()))?;
    Ok(TuningFile { name: String::from("fit"), scale: looped.scale, tuning, picture: None })
}

fn full(file: &TuningFile, kind: ArcKind) -> JumpArc {
    let report = arcs([file]);
    report.tunings[0].arc(kind).expect("a tuning that jumps has this arc").clone()
}
