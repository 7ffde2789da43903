//! How far any motion in the air can come, from one support to the next: more than the controller's own, never less.
//!
//! A support gives the jump back, and all that goes with it. Between two of them the upward speed is at most that of an undisturbed
//! jump with its air jumps at the best moments, and the way along at most the greatest speed there is, all the time.

use wumple_core::numbers::{JumpNumbers, JumpShape, Scheme};
use wumple_core::{Buttons, Material, Platforms, Terrain, Tuning};

use super::super::arcs::highest_air_jump;
use super::super::jump_flight::{End, Script, measure_flight};
use super::super::sky::Sky;
use crate::files::Level;

/// No flight is followed for longer, s: beyond it nothing is out of reach.
const LONGEST: f64 = 20.0;
/// More jumps in the air are as good as any number of them.
const MOST_AIR_JUMPS: u32 = 8;
/// What sums of rounded numbers may be off by, px.
const ROUNDING: f64 = 0.01;

/// What no flight of a tuning in a level exceeds.
#[derive(Clone, Debug)]
pub(super) struct AirBounds {
    /// By tick since the support was left: the greatest height above it that can be had then or later, px. It never grows.
    heights: Vec<f64>,
    /// The way along in a tick, px; none if there is no bound.
    step: Option<f64>,
    /// The way along beside that, px.
    aside: f64,
    /// How much higher than where it came to somebody is set onto a ledge or a step, px.
    pub(super) lift: f64,
}

impl AirBounds {
    /// None for who flies, or moves all four ways: there is no last support. None for who is so fast, or so wide, that a jump on the run ends
    /// where coordinates do: how high it would come is not seen.
    pub(super) fn of(level: &Level, tuning: &Tuning) -> Option<AirBounds> {
        let numbers = tuning.numbers();
        if numbers.flight.is_some() || numbers.four_way.is_some() {
            return None;
        }
        let tile = level.grid.grid_lines().spacing();
        let deepest = level.grid.height() + 4.0 * tile + 2.0 * tuning.body().height;
        let air_jumps = tuning.air_jumps();
        let is_endless = air_jumps > MOST_AIR_JUMPS;
        let launch = launched(level, tuning)?;
        let (mut heights, highest) = match &launch {
            Some(launch) => (heights_of(launch, Script::standing(u64::MAX), deepest)?, launch.full_jump().1),
            None => (fallen(tuning, deepest), 0.0),
        };
        let wall_coyote = numbers.wall.as_ref().map_or(0.0, |wall| wall.coyote_time) * tuning.rate();
        let wait = tuning.coyote_ticks().max(wall_coyote.ceil() as u64) as usize + 1;
        // Until it takes off it falls; from a ladder or a wall it may go on upward.
        let climbs = numbers.ladder.is_some() || numbers.wall.is_some();
        let before: Vec<f64> = match climbs {
            true => vec![0.0; wait],
            false => fallen(tuning, deepest).into_iter().take(wait).collect(),
        };
        heights = joined(&before, &heights);
        if air_jumps > 0 && !is_endless {
            let (held, press) = highest_air_jump(tuning);
            let script = Script { air_press: Some(press), ..Script::standing(held) };
            let whole = heights_of(tuning, script, 2.0 * deepest)?;
            let before = whole[press as usize - 1];
            let once_more: Vec<f64> = whole[press as usize - 1..].iter().map(|height| height - before).collect();
            (0..air_jumps).for_each(|_| heights = joined(&heights, &once_more));
        }
        let whole_px = if tuning.moves_whole_pixels() { 1.0 } else { 0.0 };
        let (dt, uneven) = (tuning.tick_seconds(), unevenness(tuning));
        for (tick, height) in heights.iter_mut().enumerate() {
            *height += 2.0 * uneven * dt * (tick as f64 * dt) + ROUNDING + whole_px;
        }
        let top = heights.iter().copied().fold(highest + ROUNDING + whole_px, f64::max);
        heights[0] = if is_endless { f64::INFINITY } else { top };
        let mut later = f64::NEG_INFINITY;
        for height in heights.iter_mut().rev() {
            later = later.max(*height);
            *height = later;
        }
        // What is stopped by a corner is moved past it, once for each that it passes.
        let corners = (top / tile).ceil() + 1.0 + level.grid.blocks().len() as f64;
        let nudged = tuning.corner_nudge() * corners * f64::from(1 + air_jumps);
        let over = numbers.wall.as_ref().and_then(|wall| wall.hold.as_ref()).is_some_and(|hold| hold.climb_over);
        // Who climbs over the top of a wall is moved onto it.
        let aside = nudged + whole_px + ROUNDING + if over { tuning.body().width } else { 0.0 };
        Some(AirBounds {
            heights,
            step: (!is_endless).then(|| fastest_along(level, tuning) * dt),
            aside,
            lift: tuning.ledge_lift().max(tuning.step_height()),
        })
    }

    /// The greatest rise above a support, px.
    pub(super) fn rise(&self) -> f64 {
        self.heights[0]
    }

    /// How far along from a support somebody can be who is so much higher than it, px; lower where negative. None if that is too
    /// high.
    pub(super) fn across(&self, rise: f64) -> Option<f64> {
        let ticks = self.heights.partition_point(|height| *height >= rise);
        match self.step {
            _ if ticks == 0 => None,
            Some(step) if ticks < self.heights.len() => Some(step * ticks as f64 + self.aside),
            _ => Some(f64::INFINITY),
        }
    }
}

/// The tuning with the fastest take-off that anything in the level gives, if anything gives one. None at all if that cannot be told.
fn launched(level: &Level, tuning: &Tuning) -> Option<Option<Tuning>> {
    let mut numbers = tuning.numbers().clone();
    let of_wall = numbers.wall.as_ref().and_then(|wall| wall.jump.as_ref()).map(|jump| jump.height);
    // Who climbs may go on upward where it ends.
    let up_speed = numbers.ladder.as_ref().map_or(0.0, |ladder| ladder.up_speed);
    let up_speed =
        numbers.wall.as_ref().and_then(|wall| wall.hold.as_ref()).map_or(0.0, |hold| hold.up_speed).max(up_speed);
    let of_climb = (up_speed > 0.0).then(|| up_speed * up_speed / (2.0 * tuning.gravity().rise));
    let highest = bounce_heights(level).chain(of_wall).chain(of_climb).fold(0.0, f64::max);
    if highest <= tuning.jump().map_or(0.0, |_| tuning.full_jump().1) {
        return Some(tuning.jump().is_some().then(|| tuning.clone()));
    }
    let shape = JumpShape::SpeedAndGravity { speed: tuning.speed_to_rise(highest), gravity: tuning.gravity().rise };
    match &mut numbers.jump {
        Some(jump) => jump.shape = shape,
        None => {
            numbers.jump = Some(JumpNumbers::new(shape));
            numbers.fall.gravity = None;
        }
    }
    Tuning::check(&numbers).ok().map(Some)
}

/// How high whatever bounces in a level throws, px.
fn bounce_heights(level: &Level) -> impl Iterator<Item = f64> {
    materials(level).filter_map(|material| material.bounce).map(|bounce| bounce.height)
}

fn materials(level: &Level) -> impl Iterator<Item = Material> {
    let tiles = level.letters.iter().map(|letter| letter.properties.material);
    let blocks = level.grid.blocks().iter().map(|block| block.material);
    let platforms = level.platforms.iter().map(|platform| platform.material);
    tiles.chain(blocks).chain(platforms)
}

/// The heights of a jump from tick to tick, px, its start the first. None if it is not followed back to where it began.
fn heights_of(tuning: &Tuning, script: Script, deepest: f64) -> Option<Vec<f64>> {
    // On the run, so that it comes down where there is no ground.
    let script = Script { run_speed: tuning.numbers().run.top_speed, ..script };
    let flown = measure_flight(tuning, &script, End::Below(deepest))?;
    let ticks = ((LONGEST * tuning.rate()) as usize).max(2);
    let heights: Vec<f64> = flown.points.iter().take(ticks).map(|point| point.height_px).collect();
    let is_whole = heights.len() == ticks || heights.last().is_some_and(|last| *last <= ROUNDING);
    is_whole.then_some(heights)
}

/// The heights of a fall from rest.
fn fallen(tuning: &Tuning, deepest: f64) -> Vec<f64> {
    let mut sky = Sky::new(tuning);
    let mut heights = vec![0.0];
    let ticks = (LONGEST * tuning.rate()) as usize;
    while heights.len() < ticks && heights[heights.len() - 1] > -deepest {
        sky.tick(Buttons::NONE);
        heights.push(sky.height());
    }
    heights
}

/// The greatest heights of a flight in whose best moment another begins.
fn joined(first: &[f64], second: &[f64]) -> Vec<f64> {
    let ticks = first.len() + second.len() - 1;
    let at = |tick: usize| {
        let split = 0..=tick.min(first.len() - 1);
        let best = split.filter_map(|split| Some(first[split] + second.get(tick - split)?));
        best.chain(first.get(tick).copied()).fold(f64::NEG_INFINITY, f64::max)
    };
    (0..ticks).map(at).collect()
}

/// By how much gravity may be less for who is slower, px/s^2. Then, in steps, who was slowed can be a step behind in becoming fast; where
/// the motion within a tick is exact it never is.
fn unevenness(tuning: &Tuning) -> f64 {
    let gravity = tuning.gravity();
    if tuning.scheme() == Scheme::Exact {
        return 0.0;
    }
    let least = if gravity.hang_speed > 0.0 { gravity.fall.min(gravity.hang) } else { gravity.fall };
    if least >= gravity.rise && gravity.hang_speed == 0.0 { 0.0 } else { gravity.rise.max(gravity.fall) - least }
}

/// The greatest speed along that anything gives, px/s.
fn fastest_along(level: &Level, tuning: &Tuning) -> f64 {
    let numbers = tuning.numbers();
    let of_wall = numbers.wall.as_ref().and_then(|wall| wall.jump.as_ref()).map_or(0.0, |jump| jump.push_speed);
    let of_ladder = numbers.ladder.as_ref().map_or(0.0, |ladder| ladder.side_speed);
    let own = numbers.run.top_speed.max(of_wall).max(of_ladder);
    let of_ground = materials(level).map(|material| material.surface_speed.abs()).fold(0.0, f64::max);
    let of_platforms = Platforms::new(&level.platforms, tuning.rate())
        .map(|all| (0..all.len()).map(|at| all.route(at).fastest()).fold(0.0, f64::max));
    own + of_ground + of_platforms.unwrap_or(f64::INFINITY)
}
