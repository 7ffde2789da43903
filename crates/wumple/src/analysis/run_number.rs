//! One number of a run, found while it goes on: no row of it is kept.

use wumple_core::{Event, Grid, NoListener, Round, RoundEvent, TickReport, Tuning, ZoneKind};

use super::in_air::{AirWatch, TimeInAir};
use crate::files::{Level, Number, Timeline};
use crate::playing::Playing;

/// Runs a level with these buttons for so many ticks at most, and gives the number that comes of it, as trials have it, in px and seconds:
/// of a number that every tick has, the last. None if there is no such number in the run, or the character does not fit.
pub(super) fn number_of_run(
    level: &Level,
    tuning: &Tuning,
    (timeline, ticks): (&Timeline, u64),
    number: Number,
) -> Option<f64> {
    let mut playing: Playing<&Grid> = Playing::start(level, &level.grid, tuning).ok()?;
    let start = playing.report().feet;
    let mut meter = Meter { number, dt: tuning.tick_seconds(), watch: AirWatch::default(), greatest: None };
    // What is not asked for is not looked at.
    let is_of_air = matches!(number, Number::Apex | Number::Reach | Number::AirTime);
    let is_met = matches!(number, Number::GoalTime | Number::LandingSpeed);
    meter.watch.tick(0, playing.report(), 1);
    for (tick, held) in (1..=ticks).zip(timeline.tick_by_tick()) {
        let mut met = Met::default();
        playing.tick(tick, held, &mut NoListener, |report| {
            if is_met {
                met = Met::of(report);
            }
        });
        let round = playing.round.as_ref();
        if number == Number::GoalTime && met.is_at_goal(round) {
            return Some(tick as f64 * meter.dt);
        }
        if number == Number::LandingSpeed {
            meter.note(met.landing_speed);
        }
        if is_of_air && let Some(air) = meter.watch.tick(tick, playing.report(), round.map_or(1, Round::attempt)) {
            meter.note_air(&air);
        }
        if playing.is_over() {
            break;
        }
    }
    if is_of_air && let Some(air) = meter.watch.end() {
        meter.note_air(&air);
    }
    let (report, round) = (playing.report(), playing.round.as_ref());
    match number {
        Number::X => Some(report.feet.x),
        Number::Y => Some(report.feet.y),
        Number::Height => Some(start.y - report.feet.y),
        Number::SidewaysSpeed => Some(report.velocity.x),
        Number::UpwardSpeed => Some(-report.velocity.y),
        Number::Attempt => round.map(|round| f64::from(round.attempt())),
        Number::Health => round?.health().map(f64::from),
        Number::Lives => round?.lives().map(f64::from),
        Number::Picked => round.map(|round| f64::from(round.picked())),
        Number::Apex | Number::Reach | Number::AirTime | Number::LandingSpeed | Number::GoalTime => meter.greatest,
    }
}

/// What is met in a tick, of what a number is of.
#[derive(Clone, Copy, Default)]
struct Met {
    landing_speed: Option<f64>,
    goal: bool,
}

impl Met {
    fn of(report: &TickReport) -> Met {
        let mut met = Met::default();
        for event in &report.events {
            match event {
                Event::Landed { speed } => {
                    met.landing_speed = Some(met.landing_speed.map_or(*speed, |other| other.max(*speed)))
                }
                event => met.goal |= event.enters(ZoneKind::Goal),
            }
        }
        met
    }

    /// Where there is a round, at an open one.
    fn is_at_goal(self, round: Option<&Round>) -> bool {
        round.map_or(self.goal, |round| round.events().contains(&RoundEvent::Finished))
    }
}

struct Meter {
    number: Number,
    dt: f64,
    watch: AirWatch,
    /// What was found so far; the greatest, where there are several.
    greatest: Option<f64>,
}

impl Meter {
    fn note(&mut self, value: Option<f64>) {
        let greater = |value: &f64| self.greatest.is_none_or(|greatest| *value > greatest);
        self.greatest = value.filter(greater).or(self.greatest);
    }

    fn note_air(&mut self, air: &TimeInAir) {
        let value = match self.number {
            Number::Apex => air.apex_px,
            Number::Reach => air.reach_px,
            Number::AirTime => air.ticks() as f64 * self.dt,
            _ => return,
        };
        self.note(Some(value));
    }
}
