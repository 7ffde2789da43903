//! The numbers that meet wishes, found on the controller itself.

use wumple_core::advanced::{RiseRules, ShapeError};
use wumple_core::numbers::{JumpNumbers, JumpShape, LIMIT_LENGTH, LIMIT_SPEED, Problem, Release, Scheme};
use wumple_core::{Tuning, TuningErrors, TuningNumbers};

use super::super::arcs::{ArcKind, JumpArc, held_arc, tap_height};
use super::{AccelerationUnits, Fit, FitError, SpeedUnits, Wishes};
use crate::files::TuningFile;
use crate::files::unlikely::unlikely_wish;
use crate::units::{Kind, Quantity, Scale, short};

/// The numbers that meet wishes, and how they came about.
#[derive(Default)]
pub(super) struct Solved {
    pub(super) wishes: Wishes,
    /// The height, px, and the time to the apex, s; none if the jump stays as it is.
    pub(super) shape: Option<(f64, f64)>,
    /// Whether the height, and the time, stand in the tuning already and stay.
    pub(super) keeps: (bool, bool),
    /// The run's top speed, px/s, if it is wished for or follows from a wish.
    pub(super) top_speed: Option<f64>,
    /// Whether the time follows from the gap and the top speed.
    pub(super) time_is_found: bool,
    /// Whether the top speed follows from the gap.
    pub(super) speed_is_found: bool,
    pub(super) decided: Vec<String>,
    pub(super) warnings: Vec<String>,
}

impl Solved {
    pub(super) fn decide(&mut self, words: &str) {
        self.decided.push(words.to_owned());
    }

    pub(super) fn warn(&mut self, words: &str) {
        self.warnings.push(words.to_owned());
    }
}

/// The wishes in px and seconds, each within its bounds.
struct Asked {
    height: Option<f64>,
    time: Option<f64>,
    gap: Option<f64>,
    top_speed: Option<f64>,
    tap: Option<f64>,
    ratio: Option<f64>,
}

impl Asked {
    fn read(wishes: &Wishes, scale: &Scale) -> Result<Asked, FitError> {
        let read = |wish, quantity: Option<Quantity>, needed: Kind, least: f64, most: f64| {
            let Some(quantity) = quantity else { return Ok(None) };
            if let Some(found) = quantity.kind().filter(|found| *found != needed) {
                return Err(FitError::OfAnotherKind { wish, found, needed });
            }
            let found = quantity.in_px_and_seconds(scale);
            let unit = needed.units().next().unwrap_or_default();
            let within = (least..=most).contains(&found);
            within.then_some(Some(found)).ok_or(FitError::OutOfBounds { wish, found, least, most, unit })
        };
        let ratio = wishes.fall_ratio.map(Quantity::bare);
        let shortest = 1.0 / 1024.0;
        Ok(Asked {
            height: read("the height", wishes.height, Kind::Length, shortest, LIMIT_LENGTH)?,
            time: read("the time to the apex", wishes.time_to_apex, Kind::Time, 1e-6, 60.0)?,
            gap: read("the gap", wishes.gap, Kind::Length, shortest, LIMIT_LENGTH)?,
            top_speed: read("the top speed", wishes.top_speed, Kind::Speed, 1e-3, LIMIT_SPEED)?,
            tap: read("the smallest hop", wishes.tap_height, Kind::Length, 0.0, LIMIT_LENGTH)?,
            ratio: read("the fall ratio", ratio, Kind::Number, 1e-6, 1e6)?,
        })
    }
}

/// What the wishes are applied to.
pub(super) struct Base<'a> {
    pub(super) numbers: TuningNumbers,
    pub(super) scale: Scale,
    /// The tuning file that keeps what is not wished for, if there is one.
    pub(super) kept: Option<&'a TuningFile>,
}

impl Base<'_> {
    pub(super) fn solve(&self, wishes: &Wishes) -> Result<Solved, FitError> {
        let asked = Asked::read(wishes, &self.scale)?;
        let mut solved = Solved { wishes: wishes.clone(), ..Solved::default() };
        for (wish, quantity, kind) in [
            ("the height", wishes.height, Kind::Length),
            ("the time to the apex", wishes.time_to_apex, Kind::Time),
            ("the gap", wishes.gap, Kind::Length),
            ("the top speed", wishes.top_speed, Kind::Speed),
        ] {
            solved.warnings.extend(unlikely_wish(wish, quantity, kind, &self.scale));
        }
        let jump = self.kept.filter(|file| file.tuning.jump().is_some());
        let before = jump.and_then(|file| held_arc(file, ArcKind::Full));
        let by_gap = asked.gap.is_some() && asked.top_speed.is_some() && asked.time.is_none();
        let shape_changes = asked.height.is_some() || asked.time.is_some() || by_gap || jump.is_none();
        // As it is written, if it is written so.
        let own = self.numbers.jump.as_ref().and_then(|jump| match jump.shape {
            JumpShape::HeightAndTime { height, time_to_apex } => Some((height, time_to_apex)),
            JumpShape::SpeedAndGravity { .. } => None,
        });
        let kept = own.or(before.as_ref().map(|arc| (arc.apex_height_px, arc.apex_time_s)));
        let height = asked.height.or(kept.map(|(height, _)| height)).ok_or(FitError::NoHeight)?;
        let kept_speed = self.kept.map(|file| file.tuning.run().top_speed).filter(|speed| *speed > 0.0);
        let numbers = |time: f64| self.applied(&asked, height, time);
        let time = match (asked.time, asked.gap.zip(asked.top_speed), kept) {
            (Some(time), ..) => {
                solved.decide("the height and the time to the apex decide the take-off speed and the rise gravity");
                time
            }
            (None, Some((gap, speed)), _) => {
                solved.decide("the gap and the top speed decide the time in the air, and so the time to the apex");
                solved.decide("the height and that time decide the take-off speed and the rise gravity");
                solved.time_is_found = true;
                if self.is_stepped() { self.ticks_over(&numbers, gap)? } else { exact_time(&numbers, gap / speed)? }
            }
            (None, None, Some((_, time))) => time,
            (None, None, None) => return Err(FitError::NoTime),
        };
        if self.is_stepped() && shape_changes {
            solved.warnings.extend(whole_ticks(time, self.numbers.rate, self.numbers.scheme));
        }
        if let Some(tap) = asked.tap {
            let tiles = |px: f64| px / self.scale.tile;
            if tap > height {
                return Err(FitError::TapAboveHeight { tap_tiles: tiles(tap), height_tiles: tiles(height) });
            }
            solved.decide(&format!("the smallest hop decides release = to-height, tap_height = {} px", short(tap)));
        }
        if shape_changes {
            solved.shape = Some((height, time));
            let time_stays = asked.time.is_none() && !solved.time_is_found;
            solved.keeps = (own.is_some() && asked.height.is_none(), own.is_some() && time_stays);
        }
        let jumping = if shape_changes { numbers(time) } else { self.applied_without_shape(&asked) };
        let standing = self.checked(&jumping)?;
        let found = self.top_speed(&asked, &standing, kept_speed, &mut solved)?;
        solved.top_speed = found.filter(|_| asked.top_speed.is_some() || asked.gap.is_some());
        self.note_kept(&asked, shape_changes, before.as_ref(), &mut solved);
        Ok(solved)
    }

    fn is_stepped(&self) -> bool {
        self.numbers.scheme.is_stepped()
    }

    /// The numbers with what is wished for in them.
    fn applied(&self, asked: &Asked, height: f64, time: f64) -> TuningNumbers {
        let mut numbers = self.applied_without_shape(asked);
        let shape = JumpShape::HeightAndTime { height, time_to_apex: time };
        let jump = self.numbers.jump.clone().unwrap_or_else(|| JumpNumbers::new(shape));
        let release = numbers.jump.as_ref().map_or(self.release(asked), |jump| jump.release);
        numbers.jump = Some(JumpNumbers { shape, release, ..jump });
        numbers.fall.gravity = None;
        numbers
    }

    fn applied_without_shape(&self, asked: &Asked) -> TuningNumbers {
        let mut numbers = self.numbers.clone();
        if let Some(jump) = &mut numbers.jump {
            jump.release = self.release(asked);
        }
        numbers.run.top_speed = asked.top_speed.unwrap_or(numbers.run.top_speed);
        numbers.fall.gravity_ratio = asked.ratio.unwrap_or(numbers.fall.gravity_ratio);
        numbers
    }

    /// What letting go does: as the file says, unless a smallest hop is wished for.
    fn release(&self, asked: &Asked) -> Release {
        let kept = self.numbers.jump.as_ref().map_or(Release::None, |jump| jump.release);
        match (asked.tap, kept) {
            (Some(tap_height), Release::ToHeight { further_rise, .. }) => {
                Release::ToHeight { tap_height, further_rise }
            }
            (Some(tap_height), _) => Release::ToHeight { tap_height, further_rise: 0.0 },
            (None, kept) => kept,
        }
    }

    fn checked(&self, numbers: &TuningNumbers) -> Result<TuningFile, FitError> {
        let tuning = Tuning::check(numbers).map_err(FitError::Tuning)?;
        Ok(TuningFile::new("fit", self.scale, tuning))
    }

    /// In a stepped scheme, the time of the fewest whole ticks whose jump clears the gap.
    fn ticks_over(&self, numbers: &dyn Fn(f64) -> TuningNumbers, gap: f64) -> Result<f64, FitError> {
        let rate = self.numbers.rate;
        let clears = |ticks: u64| match self.checked(&numbers(ticks as f64 / rate)) {
            Ok(file) => held_arc(&file, ArcKind::Running).is_none_or(|arc| arc.reach_px >= gap - 1e-9),
            Err(FitError::Tuning(errors)) => is_too_slow(&errors),
            Err(_) => false,
        };
        let speed = numbers(1.0).run.top_speed;
        let (mut too_few, mut enough) = (1, (gap / speed * rate).ceil() as u64 + 2);
        while enough - too_few > 1 {
            let middle = too_few + (enough - too_few) / 2;
            if clears(middle) { enough = middle } else { too_few = middle }
        }
        // Not every number of ticks can be met with a hang.
        let can_be = |ticks: &u64| self.checked(&numbers(*ticks as f64 / rate)).is_ok() && clears(*ticks);
        let ticks = (enough..enough + 32).find(can_be).unwrap_or(enough);
        let (time, before) = (ticks as f64 / rate, (ticks - 1) as f64 / rate);
        // A rise takes two ticks at least.
        let quickest = ticks <= 2 || self.checked(&numbers(before)).is_err();
        if let Ok(Some(arc)) = self.checked(&numbers(time)).map(|file| held_arc(&file, ArcKind::Running))
            && quickest
            && arc.reach_px > gap + SPARE_TICKS * speed / rate
        {
            return Err(FitError::TooLittleTime { left_s: gap / speed, least_s: arc.air_time_s });
        }
        Ok(time)
    }

    /// The top speed that the wishes come to, if they do, and whether it clears the gap.
    fn top_speed(
        &self,
        asked: &Asked,
        jumping: &TuningFile,
        kept: Option<f64>,
        solved: &mut Solved,
    ) -> Result<Option<f64>, FitError> {
        let Some(gap) = asked.gap else { return Ok(asked.top_speed.or(kept)) };
        let air_time = held_arc(jumping, ArcKind::Full).ok_or(FitError::BeyondCoordinates)?.air_time_s;
        let needed = gap / air_time;
        let tiles = |px: f64| px / self.scale.tile;
        let too_far = |most: f64| FitError::GapTooFar {
            gap_tiles: tiles(gap),
            air_time_s: air_time,
            needed_tiles_s: tiles(needed),
            most_tiles_s: tiles(most),
        };
        match asked.top_speed {
            Some(speed) if speed < needed * (1.0 - 1e-9) => Err(too_far(speed)),
            Some(speed) => {
                if asked.time.is_some() {
                    solved.decide(&format!("the gap is cleared: {} tiles/s would do", short(tiles(needed))));
                }
                Ok(Some(speed))
            }
            None if needed > LIMIT_SPEED => Err(too_far(LIMIT_SPEED)),
            None => {
                let speed = short(tiles(needed));
                solved.decide(&format!("the gap and the time in the air decide the top speed: {speed} tiles/s"));
                solved.speed_is_found = true;
                Ok(Some(needed))
            }
        }
    }

    /// Says what of the file enters the solution, and what gives way to the wishes.
    fn note_kept(&self, asked: &Asked, shape_changes: bool, before: Option<&JumpArc>, solved: &mut Solved) {
        let Some(file) = self.kept else { return };
        let numbers = file.tuning.numbers();
        let mut kept = Vec::new();
        if let Some(arc) = before.filter(|_| shape_changes) {
            if asked.height.is_none() {
                kept.push(format!("a height of {} tiles", short(arc.apex_height_tiles)));
            }
            if asked.time.is_none() && !solved.time_is_found {
                kept.push(format!("{} s to the apex", short(arc.apex_time_s)));
            }
        }
        if asked.ratio.is_none() && numbers.fall.gravity_ratio != 1.0 {
            kept.push(format!("fall.gravity_ratio = {}", short(numbers.fall.gravity_ratio)));
        }
        if numbers.fall.top_speed < LIMIT_SPEED {
            kept.push(format!("fall.top_speed = {} px/s", short(numbers.fall.top_speed)));
        }
        if let Some(jump) = &numbers.jump {
            if jump.hang.is_some() {
                kept.push(String::from("the hang"));
            }
            match jump.release {
                Release::None => {}
                Release::ToHeight { .. } if asked.tap.is_some() => {}
                _ if asked.tap.is_some() => solved.warn("the release gives way to the one that a smallest hop needs"),
                _ => kept.push(String::from("the release")),
            }
            if shape_changes && matches!(jump.shape, JumpShape::SpeedAndGravity { .. }) {
                solved.warn("jump.speed and jump.gravity give way to jump.height and jump.time_to_apex");
            }
        } else {
            solved.warn("fall.gravity gives way to the gravity of the jump");
        }
        if !kept.is_empty() {
            solved.decide(&format!("kept of the tuning: {}", kept.join(", ")));
        }
    }

    /// What the text does, measured, and what of the wishes it does not do.
    pub(super) fn measured(&self, solved: Solved, name: &str, text: String) -> Result<Fit, FitError> {
        let file = TuningFile::parse(name, &text).map_err(FitError::Wrong)?;
        let tuning = &file.tuning;
        let top_speed = if self.kept.is_some() { Some(tuning.run().top_speed) } else { solved.top_speed };
        let top_speed = top_speed.filter(|speed| *speed > 0.0);
        let kind = if top_speed.is_some() { ArcKind::Running } else { ArcKind::Full };
        let asked = Asked::read(&solved.wishes, &self.scale)?;
        let standing = || held_arc(&file, ArcKind::Full).filter(|_| asked.gap.is_none());
        let predicted = held_arc(&file, kind).or_else(standing).ok_or(FitError::BeyondCoordinates)?;
        let tap_height_px = asked.tap.map(|_| tap_height(tuning));
        let Solved { mut decided, mut warnings, .. } = solved;
        if let (Some(asked), Some(found)) = (asked.tap, tap_height_px)
            && (asked - found).abs() > 1e-6 * (1.0 + asked)
        {
            let (asked, found) = (short(asked), short(found));
            warnings
                .push(format!("the smallest hop is {found} px high, not {asked} px: no hold is shorter than a tick"));
        }
        if let Some(gap) = asked.gap.filter(|gap| tuning.scheme().is_stepped() && predicted.reach_px > gap * 1.001) {
            let (gap, reach) = (short(gap / self.scale.tile), short(predicted.reach_tiles));
            decided.push(format!("in whole ticks the gap of {gap} tiles becomes {reach}"));
        }
        let gravity = tuning.gravity();
        let (scale, speed) = (&self.scale, tuning.jump().map_or(0.0, |jump| jump.speed));
        Ok(Fit {
            format: "wumple-fit 1",
            rate_hz: tuning.rate(),
            scheme: tuning.scheme().name(),
            tile_px: scale.tile,
            speed: SpeedUnits::new(speed, scale),
            rise_gravity: AccelerationUnits::new(gravity.rise, scale),
            fall_gravity: AccelerationUnits::new(gravity.fall, scale),
            top_speed: top_speed.map(|speed| SpeedUnits::new(speed, scale)),
            predicted,
            tap_height_px,
            decided,
            warnings,
            tuning: file.tuning,
            text,
        })
    }
}

/// The time to the apex of the jump that is in the air for so long, by halving: the longer the rise, the longer
/// the fall as well. The rate has no part in an `exact` jump, so that it is flown in few ticks.
fn exact_time(numbers: &dyn Fn(f64) -> TuningNumbers, air_time: f64) -> Result<f64, FitError> {
    let flown = |time: f64| {
        let rate = (64.0 / time).clamp(1.0, 10_000.0);
        let tuning = Tuning::check(&TuningNumbers { rate, ..numbers(time) })?;
        let file = TuningFile::new("", Scale { tile: 1.0, frames_per_second: rate }, tuning);
        Ok::<f64, TuningErrors>(held_arc(&file, ArcKind::Full).map_or(f64::INFINITY, |arc| arc.air_time_s))
    };
    let is_enough = |time: f64| flown(time).map_or_else(|errors| is_too_slow(&errors), |found| found >= air_time);
    let (mut too_short, mut enough) = (air_time * 1e-6, air_time);
    for _ in 0..100 {
        let middle = too_short + (enough - too_short) / 2.0;
        if middle <= too_short || middle >= enough {
            break;
        }
        if is_enough(middle) { enough = middle } else { too_short = middle }
    }
    let found = flown(enough).map_err(|why| match is_too_slow(&why) {
        true => FitError::TooMuchTime { left_s: air_time, why },
        false => FitError::Tuning(why),
    })?;
    let met = (found - air_time).abs() <= 1e-6 * air_time;
    met.then_some(enough).ok_or(FitError::TooLittleTime { left_s: air_time, least_s: found })
}

/// Whether what is wrong with a jump is that it takes too long for what it is to do.
fn is_too_slow(errors: &TuningErrors) -> bool {
    errors.0.iter().any(|error| match &error.problem {
        Problem::Shape(ShapeError::HangTooFast { .. }) | Problem::TooSmall { .. } | Problem::FallTooLong { .. } => true,
        Problem::TooGreat { unit, .. } | Problem::OutOfBounds { unit, .. } => *unit == "s",
        _ => false,
    })
}

/// That a time to the apex is rounded to whole ticks, in words, if it is.
fn whole_ticks(time: f64, rate: f64, scheme: Scheme) -> Option<String> {
    let rules = RiseRules { scheme, dt: 1.0 / rate, hang_speed: 0.0, hang_ratio: 1.0, sustain: 0.0 };
    let ticks = rules.rise_ticks(time) as f64;
    // A time that was written short is not off by more.
    let rounds = (time * rate - ticks).abs() > 2.0 * TICKS_OFF;
    let said = || {
        format!(
            "{} s to the apex is {} ticks at {} Hz; {} takes whole ticks: {ticks} ticks, {} s",
            short(time),
            short(time * rate),
            short(rate),
            scheme.name(),
            short(ticks / rate)
        )
    };
    rounds.then(said)
}

/// A rise of one tick more makes a jump longer by so many ticks at most, if its fall is not slowed much.
const SPARE_TICKS: f64 = 4.0;

/// By so much of a tick may a time be off that is written short for a stepped scheme.
pub(super) const TICKS_OFF: f64 = 1e-3;

/// What the rate of a tuning rounds, in words: its time to the apex in a stepped scheme.
#[must_use]
pub fn rounding_of(file: &TuningFile) -> Option<String> {
    let numbers = file.tuning.numbers();
    match numbers.jump.as_ref().map(|jump| jump.shape) {
        Some(JumpShape::HeightAndTime { time_to_apex, .. }) if numbers.scheme.is_stepped() => {
            whole_ticks(time_to_apex, numbers.rate, numbers.scheme).map(|words| format!("{}: {words}", file.name))
        }
        _ => None,
    }
}
