//! One number of a run, found while it goes on: no row of it is kept.

use wumple_core::{Buttons, Event, Grid, Round, RoundEvent, TickReport, Tuning, ZoneKind};

use super::in_air::{AirWatch, TimeInAir};
use crate::files::{Level, Number, Timeline};
use crate::playing::Playing;

/// Runs a level with these buttons for so many ticks at most, and gives the number that comes of it, as trials have it, in px and seconds:
/// of a number that every tick has, the last. None if there is no such number in the run, or the character does not fit.
pub(super) fn number_of_run(level: &Level, tuning: &Tuning, run: (&Timeline, u64), number: Number) -> Option<f64> {
    let mut playing: Playing<&Grid> = Playing::start(level, &level.grid, tuning).ok()?;
    let (id, start, dt) = (playing.id, playing.report().feet, tuning.tick_seconds());
    let mut greatest = None;
    // What is not asked for is not looked at: looking is what many short ticks wait for.
    match number {
        Number::Apex | Number::Reach | Number::AirTime => {
            let of = |air: TimeInAir| match number {
                Number::Apex => air.apex_px,
                Number::Reach => air.reach_px,
                _ => air.ticks() as f64 * dt,
            };
            let mut watch = AirWatch::default();
            watch.tick(0, playing.report(), 1);
            play(&mut playing, run, |playing, tick, held| {
                playing.tick(held, |_| {});
                if let Some(air) = watch.tick(tick, playing.report(), playing.attempt()) {
                    note(&mut greatest, of(air));
                }
                true
            });
            if let Some(air) = watch.end() {
                note(&mut greatest, of(air));
            }
            greatest
        }
        Number::LandingSpeed => {
            play(&mut playing, run, |playing, _, held| {
                playing.tick(held, |world| landings(world.report(id)).for_each(|speed| note(&mut greatest, speed)));
                true
            });
            greatest
        }
        Number::GoalTime => {
            let mut came_in = None;
            play(&mut playing, run, |playing, tick, held| {
                let mut enters = false;
                playing.tick(held, |world| enters = enters_goal(world.report(id)));
                // Where there is a round, one that is open.
                let finished = |round: &Round| round.events().contains(&RoundEvent::Finished);
                if playing.round.as_ref().map_or(enters, finished) {
                    came_in = Some(tick);
                }
                came_in.is_none()
            });
            came_in.map(|tick| tick as f64 * dt)
        }
        Number::X
        | Number::Y
        | Number::Height
        | Number::SidewaysSpeed
        | Number::UpwardSpeed
        | Number::Attempt
        | Number::Health
        | Number::Lives
        | Number::Picked => {
            play(&mut playing, run, |playing, _, held| {
                playing.tick(held, |_| {});
                true
            });
            last_number(&playing, start.y, number)
        }
    }
}

/// Plays ticks until there are no more of them, it is over, or `tick`, which does them, says that it has seen enough.
fn play(
    playing: &mut Playing<&Grid>,
    (timeline, ticks): (&Timeline, u64),
    mut tick: impl FnMut(&mut Playing<&Grid>, u64, Buttons) -> bool,
) {
    // With `all` and not `for`, what is held is asked once for each stretch of ticks.
    timeline.tick_by_tick(ticks).all(|(number, held)| tick(playing, number, held) && !playing.is_over());
}

/// Of several numbers the greatest is asked for.
fn note(greatest: &mut Option<f64>, value: f64) {
    if greatest.is_none_or(|greatest| value > greatest) {
        *greatest = Some(value);
    }
}

fn landings(report: &TickReport) -> impl Iterator<Item = f64> {
    report.events.iter().filter_map(|event| match event {
        Event::Landed { speed } => Some(*speed),
        _ => None,
    })
}

fn enters_goal(report: &TickReport) -> bool {
    report.events.iter().any(|event| event.enters(ZoneKind::Goal))
}

/// A number that every tick has.
fn last_number(playing: &Playing<&Grid>, start_y: f64, number: Number) -> Option<f64> {
    let (report, round) = (playing.report(), playing.round.as_ref());
    match number {
        Number::X => Some(report.feet.x),
        Number::Y => Some(report.feet.y),
        Number::Height => Some(start_y - report.feet.y),
        Number::SidewaysSpeed => Some(report.velocity.x),
        Number::UpwardSpeed => Some(-report.velocity.y),
        Number::Attempt => round.map(|round| f64::from(round.attempt())),
        Number::Health => round?.health().map(f64::from),
        Number::Lives => round?.lives().map(f64::from),
        Number::Picked => round.map(|round| f64::from(round.picked())),
        Number::Apex | Number::Reach | Number::AirTime | Number::LandingSpeed | Number::GoalTime => None,
    }
}
