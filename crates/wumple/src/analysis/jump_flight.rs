//! A jump as the controller does it, tick by tick, over a shelf: ground that ends at an edge.

use std::borrow::Cow;

use serde::Serialize;
use wumple_core::advanced::{Features, Flight, Jump, Stretch};
use wumple_core::numbers::{AtWall, BodyNumbers, OnLanding, Steady};
use wumple_core::{
    Buttons, CharacterId, DVec2, Edge, Edges, Event, GridLines, Terrain, TickReport, TileProperties, Tuning, World,
};

/// A jump to be flown.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(super) struct Script {
    /// For how many ticks the button is held, the take-off tick the first.
    pub(super) held_ticks: u64,
    /// The tick of a press in the air, the take-off tick being 1; held from then on.
    pub(super) air_press: Option<u64>,
    /// The speed along the ground, px/s, with its direction held all the way; 0 is standing.
    pub(super) run_speed: f64,
    /// Whether it walks off the edge and jumps in the last tick that admits it.
    pub(super) off_edge: bool,
    /// Whether it jumps off a wall, in the air, and steers away from it.
    pub(super) off_wall: bool,
}

impl Script {
    /// A jump from standing.
    pub(super) fn standing(held_ticks: u64) -> Script {
        Script { held_ticks, air_press: None, run_speed: 0.0, off_edge: false, off_wall: false }
    }

    fn holds_jump(&self, tick: u64) -> bool {
        tick >= 1 && (tick <= self.held_ticks || self.air_press.is_some_and(|press| tick >= press))
    }

    /// Ticks between the first without ground and the take-off: the last that coyote time admits. Without
    /// it the take-off is in the tick that walks off.
    fn take_off_after(&self, tuning: &Tuning) -> i64 {
        if self.off_edge { tuning.coyote_ticks() as i64 } else { 0 }
    }
}

/// A place on an arc.
#[derive(Clone, Copy, Debug, PartialEq, Serialize)]
#[non_exhaustive]
pub struct ArcPoint {
    /// Ticks since the start of the take-off tick.
    pub tick: u64,
    /// The same in seconds.
    pub time_s: f64,
    /// Along the ground from the take-off (or the edge), px.
    pub x_px: f64,
    /// Above the ground, px.
    pub height_px: f64,
    /// The upward speed, px/s.
    pub upward_speed_px_s: f64,
}

/// A jump as it was flown, from the start of the take-off tick until far below the ground left.
#[derive(Clone, Debug, PartialEq)]
pub(super) struct Flown {
    /// After each tick; the first is the start of the take-off tick.
    pub(super) points: Vec<ArcPoint>,
    /// Under `exact`, the motion between the ticks: the time and height at which each stretch begins.
    stretches: Vec<(f64, f64, Stretch)>,
    /// The speed along the ground, if it stays the same.
    run_speed: Option<f64>,
}

/// The moment at which a height is come down to.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(super) struct Crossing {
    pub(super) time: f64,
    /// The first tick that ends there or below.
    pub(super) tick: u64,
    /// How far along the ground, px.
    pub(super) x: f64,
    /// The downward speed, px/s.
    pub(super) speed: f64,
}

/// Ground without end to the left of [`EDGE`], and nothing to the right of it: a shelf, or a wall.
struct Shelf {
    is_wall: bool,
    tile: f64,
}

impl Shelf {
    fn new(tuning: &Tuning, is_wall: bool) -> Shelf {
        // A body has few tiles beside it, however large it is and however far it feels.
        let BodyNumbers { width, height, wall_probe, corner_nudge, ledge_lift, step_height } = tuning.numbers().body;
        let most = [height, wall_probe, corner_nudge, ledge_lift, step_height].into_iter().fold(width, f64::max);
        let fits = |tile: &f64| 16.0 * tile >= most;
        let tile = [16.0, 64.0, 256.0, 1024.0].into_iter().find(fits).unwrap_or(4096.0);
        Shelf { is_wall, tile }
    }
}

/// How wide and how tall the world of the shelf is, px: whole tiles of any size.
const SIDE: f64 = 524_288.0;
const TOP: f64 = 262_144.0;
const EDGE: f64 = 262_144.0;
/// So near to losing the ground that a sum of rounded numbers is surely beyond it, px.
const SURELY: f64 = 1e-7;
/// No jump is followed for longer. A checked tuning's jumps are back sooner, with one in the air as well: what may
/// be cut is the way on down from there.
const MOST_TICKS: u64 = 450_000;

/// Where a flight need not be followed any more.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(super) enum End {
    /// So far below the ground it left, px.
    Below(f64),
    /// At its last apex.
    Apex,
}

impl End {
    fn is_reached(self, script: &Script, tick: u64, height: f64, upward_speed: f64) -> bool {
        let falls = upward_speed <= 0.0;
        match self {
            End::Below(below) => falls && height <= -below,
            End::Apex => falls && script.air_press.is_none_or(|press| tick >= press),
        }
    }
}

impl Terrain for Shelf {
    fn grid_lines(&self) -> GridLines {
        GridLines::new(self.tile)
    }
    fn columns(&self) -> i32 {
        (SIDE / self.tile) as i32
    }
    fn rows(&self) -> i32 {
        self.columns()
    }
    fn tile(&self, column: i32, row: i32) -> TileProperties {
        let solid = self.grid_lines().line(column) < EDGE && (self.is_wall || self.grid_lines().line(row) >= TOP);
        if solid { TileProperties::SOLID } else { TileProperties::EMPTY }
    }
    fn edges(&self) -> Edges {
        Edges { left: Edge::Open, right: Edge::Open, top: Edge::Open, bottom: Edge::Open }
    }
    fn revision(&self) -> Option<u64> {
        Some(0)
    }
    fn features(&self) -> Features {
        Features::SOLID
    }
}

/// The same character when nothing goes by itself: it runs for a button, and stands where it lands.
pub(super) fn by_hand(tuning: &Tuning) -> Cow<'_, Tuning> {
    if !tuning.springs() && tuning.numbers().run.steady == Steady::Off {
        return Cow::Borrowed(tuning);
    }
    let mut numbers = tuning.numbers().clone();
    (numbers.run.steady, numbers.run.at_wall) = (Steady::Off, AtWall::Stop);
    if let Some(jump) = &mut numbers.jump {
        jump.on_landing = OnLanding::Stand;
    }
    Tuning::check(&numbers).map_or(Cow::Borrowed(tuning), Cow::Owned)
}

/// Flies a jump; none of a body so wide, or so fast, that it would begin beyond where coordinates end.
pub(super) fn measure_flight(tuning: &Tuning, script: &Script, end: End) -> Option<Flown> {
    let tuning = &*by_hand(tuning);
    let half = tuning.body().half_width();
    let step = script.run_speed * tuning.tick_seconds();
    // Off the edge the first tick walks off; else the jump begins at once, one step short of losing the
    // ground, so that it comes down beyond the edge and falls on.
    let start =
        if script.off_wall { EDGE + half } else { EDGE + half - step + if script.off_edge { SURELY } else { -SURELY } };
    let mut world = World::new(Shelf::new(tuning, script.off_wall));
    let dab = world.add_character(tuning.clone(), DVec2::new(start, TOP)).ok()?;
    world.set_velocity(dab, DVec2::new(script.run_speed, 0.0));
    let direction = Buttons { right: script.run_speed > 0.0 || script.off_wall, ..Buttons::NONE };
    for _ in 0..script.take_off_after(tuning) {
        world.tick(&[direction]);
    }
    Some(follow(&mut world, dab, tuning, script, direction, end))
}

/// Takes off, and notes every tick from then on.
fn follow(
    world: &mut World<Shelf>,
    dab: CharacterId,
    tuning: &Tuning,
    script: &Script,
    direction: Buttons,
    end: End,
) -> Flown {
    let before = world.report(dab).clone();
    let from_x = if script.off_edge { EDGE + SURELY } else { before.feet.x };
    let point = |report: &TickReport| ArcPoint {
        tick: report.tick - before.tick,
        time_s: (report.tick - before.tick) as f64 / tuning.rate(),
        x_px: report.feet.x - from_x,
        height_px: TOP - report.feet.y,
        // A landing clears the speed; what counts is the speed it had.
        upward_speed_px_s: -report.events.iter().find_map(landing_speed).unwrap_or(report.velocity.y),
    };
    let take_off_speed = taken_off(tuning, script).map_or(0.0, |jump| jump.speed);
    let first = ArcPoint { upward_speed_px_s: take_off_speed, ..point(&before) };
    let stretches = stretches(tuning, script, first.height_px, end);
    let run_speed = (!script.off_wall).then_some(script.run_speed);
    let mut flown = Flown { stretches, points: vec![first], run_speed };
    for tick in 1..=MOST_TICKS {
        world.tick(&[Buttons { jump: script.holds_jump(tick), ..direction }]);
        let report = world.report(dab);
        let now = point(report);
        flown.points.push(now);
        let past_it = end.is_reached(script, tick, now.height_px, now.upward_speed_px_s);
        if past_it || report.contacts.below || world.character(dab).has_ended() {
            break;
        }
    }
    flown
}

fn landing_speed(event: &Event) -> Option<f64> {
    if let Event::Landed { speed } = event { Some(*speed) } else { None }
}

/// The jump that a script begins with.
fn taken_off<'a>(tuning: &'a Tuning, script: &Script) -> Option<&'a Jump> {
    if script.off_wall { tuning.wall().jump.as_ref().map(|wall| &wall.jump) } else { tuning.jump() }
}

/// The motion of an `exact` jump between its ticks.
fn stretches(tuning: &Tuning, script: &Script, start_height: f64, end: End) -> Vec<(f64, f64, Stretch)> {
    let mut stretches = Vec::new();
    let (Some(jump), false) = (taken_off(tuning, script), tuning.scheme().is_stepped()) else { return stretches };
    let off = if script.off_wall { Flight::off_wall } else { Flight::off_ground };
    let (mut flight, mut speed) = (off(-start_height), -jump.speed);
    let mut height = start_height;
    for tick in 1..=MOST_TICKS {
        if !script.holds_jump(tick) {
            speed = flight.release(tuning, -height, speed);
        }
        if script.air_press == Some(tick) {
            speed = speed.min(-tuning.air_jump().map_or(0.0, |jump| jump.speed));
            flight = Flight::in_air(-height);
        }
        let mut time = (tick - 1) as f64 / tuning.rate();
        speed = flight.stretches(tuning, speed, |stretch| {
            stretches.push((time, height, stretch));
            time += stretch.seconds;
            height -= stretch.way();
        });
        if end.is_reached(script, tick, height, -speed) {
            break;
        }
    }
    stretches
}

impl Flown {
    /// The greatest height, when, and the tick that is first to end with no upward speed.
    pub(super) fn apex(&self) -> (f64, f64, u64) {
        // After an air jump there may be two; the tick is that of the higher.
        let highest = self.points.iter().skip(1).enumerate().max_by(|a, b| {
            let key = |point: &ArcPoint| point.height_px;
            key(a.1).total_cmp(&key(b.1)).then(b.0.cmp(&a.0))
        });
        let around = highest.map_or(1, |(index, _)| index);
        let after = &self.points[around.min(self.points.len() - 1)..];
        let tick = after.iter().find(|point| point.tick > 0 && point.upward_speed_px_s <= 0.0).map_or(0, |p| p.tick);
        if self.stretches.is_empty() {
            let top = highest.map_or(self.points[0], |(_, point)| *point);
            let time = self.points.iter().find(|point| point.tick == tick).map_or(top.time_s, |point| point.time_s);
            return (top.height_px, time, tick);
        }
        let ends =
            self.stretches.iter().map(|(time, height, stretch)| (height - stretch.way(), time + stretch.seconds));
        let (height, time) = ends.max_by(|a, b| a.0.total_cmp(&b.0).then(b.1.total_cmp(&a.1))).unwrap_or_default();
        (height, time, tick)
    }

    /// When a height is come down to, after the apex; `None` if it is never above it.
    pub(super) fn down_to(&self, height: f64) -> Option<Crossing> {
        let (apex, apex_time, _) = self.apex();
        if apex < height {
            return None;
        }
        let late = |time: f64| time >= apex_time - 1e-12;
        let sampled = self.points.iter().find(|point| late(point.time_s) && point.height_px <= height + 1e-9)?;
        let tick = sampled.tick;
        if self.stretches.is_empty() {
            return Some(Crossing { time: sampled.time_s, tick, x: sampled.x_px, speed: -sampled.upward_speed_px_s });
        }
        let (time, speed) = self.stretches.iter().find_map(|(start, from, stretch)| {
            let seconds = time_to_fall(stretch, from - height).filter(|_| late(*start))?;
            Some((start + seconds, stretch.speed + stretch.acceleration * seconds))
        })?;
        Some(Crossing { time, tick, x: self.x_at(time), speed })
    }

    /// How far along the ground it is at a time; where the speed changes, in between two ticks.
    fn x_at(&self, time: f64) -> f64 {
        if let Some(speed) = self.run_speed {
            return self.points[0].x_px + speed * time;
        }
        let after = self.points.iter().position(|point| point.time_s >= time).unwrap_or(self.points.len() - 1).max(1);
        let (from, to) = (&self.points[after - 1], &self.points[after]);
        from.x_px + (to.x_px - from.x_px) * (time - from.time_s) / (to.time_s - from.time_s)
    }

    /// The share of the time from take-off to landing spent in the top quarter of the height.
    pub(super) fn top_quarter_share(&self, landing: &Crossing) -> f64 {
        let (apex, apex_time, _) = self.apex();
        let quarter = 0.75 * apex;
        let air_time = landing.time;
        if air_time <= 0.0 {
            return 0.0;
        }
        if self.stretches.is_empty() {
            let within = self.points.iter().skip(1).filter(|point| point.height_px >= quarter).count();
            return within as f64 / landing.tick.max(1) as f64;
        }
        let up = self.stretches.iter().find_map(|(start, from, stretch)| {
            let there = from - stretch.way() >= quarter && *from < quarter;
            there.then(|| start + time_to_rise(stretch, quarter - from))
        });
        let down = self.down_to(quarter).map_or(air_time, |crossing| crossing.time);
        (down - up.unwrap_or(0.0).min(apex_time)) / air_time
    }
}

/// When within a stretch that goes down it has fallen so far: the root of `v*t + a*t*t/2 = way`, in the form
/// that loses no digits.
fn time_to_fall(stretch: &Stretch, way: f64) -> Option<f64> {
    if stretch.speed < 0.0 || way < 0.0 || stretch.way() < way {
        return None;
    }
    let sum = stretch.speed + (stretch.speed * stretch.speed + 2.0 * stretch.acceleration * way).sqrt();
    Some(if sum > 0.0 { 2.0 * way / sum } else { 0.0 })
}

/// When within a stretch that goes up it has risen so far.
fn time_to_rise(stretch: &Stretch, way: f64) -> f64 {
    let up = -stretch.speed;
    let sum = up + (up * up - 2.0 * stretch.acceleration * way).max(0.0).sqrt();
    if sum > 0.0 { 2.0 * way / sum } else { 0.0 }
}
