//! The controller's own motion, for numbers that are tried.

use wumple_core::numbers::{Acceleration, JumpNumbers, JumpShape};
use wumple_core::{Buttons, DVec2, Tuning, TuningNumbers};

use crate::analysis::GameLoop;
use crate::analysis::sky::Sky;

/// What decides a flight: px and seconds.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(super) struct Upright {
    pub(super) take_off: f64,
    pub(super) rise_gravity: f64,
    pub(super) fall_gravity: f64,
    pub(super) top_fall: Option<f64>,
}

/// What decides a run, in one medium: px and seconds.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(super) struct Along {
    pub(super) top_speed: f64,
    pub(super) acceleration: f64,
    pub(super) braking: f64,
    pub(super) turning: f64,
}

/// A change of the run.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, PartialOrd, Ord)]
pub(super) enum Change {
    /// From rest to the top speed.
    RunUp,
    /// From the top speed to rest.
    Stop,
    /// From the top speed one way to the top speed the other way.
    Turn,
}

fn numbers(looped: &GameLoop) -> TuningNumbers {
    let mut numbers = TuningNumbers::new(looped.scale.tile, looped.scale.tile, 0.0);
    (numbers.rate, numbers.scheme) = (looped.rate, looped.scheme);
    numbers
}

impl Upright {
    /// The heights over so many ticks of a jump, the first the ground's; none if no tuning can be so.
    pub(super) fn jump(&self, looped: &GameLoop, ticks: usize) -> Option<Vec<f64>> {
        let mut numbers = numbers(looped);
        let shape = JumpShape::SpeedAndGravity { speed: self.take_off, gravity: self.rise_gravity };
        numbers.jump = Some(JumpNumbers::new(shape));
        numbers.fall.gravity = None;
        numbers.fall.gravity_ratio = self.fall_gravity / self.rise_gravity;
        self.follow(numbers, self.take_off, ticks)
    }

    /// How high a jump comes, px, and in how many ticks; the scheme counted.
    pub(super) fn apex(&self, looped: &GameLoop) -> (f64, f64) {
        let ticks = self.take_off / self.rise_gravity * looped.rate;
        let (take_off, gravity) = (self.take_off, self.rise_gravity);
        if !looped.scheme.is_stepped() {
            return (take_off * take_off / (2.0 * gravity), ticks);
        }
        let heights = self.jump(looped, ticks.ceil() as usize + 2).unwrap_or_default();
        let top = heights.iter().enumerate().max_by(|a, b| a.1.total_cmp(b.1));
        top.map_or((0.0, ticks), |(tick, height)| (*height, tick as f64))
    }

    /// The same from rest, of who walks off an edge.
    pub(super) fn fall(&self, looped: &GameLoop, ticks: usize) -> Option<Vec<f64>> {
        let mut numbers = numbers(looped);
        numbers.fall.gravity = Some(self.fall_gravity);
        self.follow(numbers, 0.0, ticks)
    }

    fn follow(&self, mut numbers: TuningNumbers, upward: f64, ticks: usize) -> Option<Vec<f64>> {
        if let Some(top) = self.top_fall {
            numbers.fall.top_speed = top;
        }
        let mut sky = Sky::new(&Tuning::check(&numbers).ok()?);
        sky.throw(DVec2::new(0.0, -upward));
        let mut heights = vec![0.0];
        for _ in 0..ticks {
            sky.tick(Buttons::NONE);
            heights.push(sky.height());
        }
        Some(heights)
    }
}

impl Along {
    /// The way over so many ticks of a change of the run, in the direction that it ends in (a stop: that it began in).
    pub(super) fn change(&self, change: Change, looped: &GameLoop, ticks: usize) -> Option<Vec<f64>> {
        let mut numbers = numbers(looped);
        numbers.fall.gravity = Some(looped.scale.tile);
        numbers.run.top_speed = self.top_speed;
        numbers.run.acceleration = Acceleration::Rate(self.acceleration);
        numbers.run.braking = Acceleration::Rate(self.braking);
        numbers.run.turning = Acceleration::Rate(self.turning);
        let mut sky = Sky::new(&Tuning::check(&numbers).ok()?);
        let (speed, held) = match change {
            Change::RunUp => (0.0, Buttons { right: true, ..Buttons::NONE }),
            Change::Stop => (self.top_speed, Buttons::NONE),
            Change::Turn => (-self.top_speed, Buttons { right: true, ..Buttons::NONE }),
        };
        sky.throw(DVec2::new(speed, 0.0));
        let mut places = vec![0.0];
        for _ in 0..ticks {
            sky.tick(held);
            places.push(sky.report().feet.x);
        }
        Some(places)
    }
}

/// Where a change is at a tick from its start, which may lie before it or after all that was followed.
pub(super) fn place_at(change: Change, places: &[f64], top_speed_a_tick: f64, tick: i64) -> f64 {
    let last = places.len() as i64 - 1;
    match tick {
        ..0 => match change {
            Change::RunUp => 0.0,
            Change::Stop => top_speed_a_tick * tick as f64,
            Change::Turn => -top_speed_a_tick * tick as f64,
        },
        tick if tick <= last => places[tick as usize],
        tick => match change {
            Change::Stop => places[last as usize],
            _ => places[last as usize] + top_speed_a_tick * (tick - last) as f64,
        },
    }
}
