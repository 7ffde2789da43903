//! How everything of a saved state is turned into bytes and back.

use super::Event;
use super::event::About;
use super::outside::Launched;
use super::wall_memory::WallMemory;
use super::{Contacts, JumpedFrom, State, TickReport};
use crate::bytes::{Coded, Sink, Source, coded};
use crate::collide::{Cells, Ladder, Walls};
use crate::input::{Buttons, Direction, Facing};
use crate::integrate::Scheme;
use crate::nearby::Support;
use crate::platforms::{
    Bend, CrumbleNumbers, Ease, EaseOver, Ends, MoverId, Pace, PlatformNumbers, PlatformSurface, Starts,
};
use crate::states::{Air, Bump, ClimbOver, FourWay, Mode, OnLadder, SteerLock, WallHold};
use crate::terrain::{Bounce, Felt, Margin, Material, Side, Zone, ZoneId, ZoneKind, ZoneOf};
use crate::tuning::{
    Acceleration, AirNumbers, AtWall, BodyNumbers, Diagonal, DropRule, FallNumbers, FeelNumbers, FlightBy,
    FlightNumbers, FourWayNumbers, Hang, HoldNumbers, HoldWhen, JumpNumbers, JumpShape, LadderNumbers, OnLanding,
    Pixels, Release, RunNumbers, SlideNumbers, SlideWhen, Steady, SteerWhen, TakenAlong, TuningNumbers,
    WallJumpNumbers, WallNumbers,
};

coded!(enum Direction { 0 => Left, 1 => Right });
coded!(struct Buttons { left, right, up, down, jump, grab, steer, climb });
coded!(enum Side { 0 => Left, 1 => Right, 2 => Top, 3 => Bottom });
coded!(enum Support {
    0 => None, 1 => Solid, 2 => OneWay, 3 => Ramp, 4 => Ladder, 5 => Block(of), 6 => Platform(of), 7 => Prop(of),
    8 => Character(of),
});
coded!(enum MoverId { 0 => Platform(of), 1 => Prop(of), 2 => Character(of) });
coded!(struct Material { grip, surface_speed, bounce });
coded!(struct Bounce { height, release });
coded!(struct Margin { left, right, above, below });
coded!(enum Felt { 0 => Inside, 1 => Touch });
coded!(struct Zone { kind, margin, felt });
coded!(enum ZoneKind { 0 => Pickup, 1 => Checkpoint, 2 => Goal, 3 => Hazard, 4 => Own(of) });
coded!(enum ZoneOf {
    0 => Tile { column, row }, 1 => Block(of), 2 => Drawn(of), 3 => Platform(of), 4 => Prop(of), 5 => Any, 6 => Ramp(of),
});
coded!(struct ZoneId { kind, of });

coded!(enum Mode { 0 => Ground(of), 1 => Air(of), 2 => Ladder(of), 3 => Hold(of), 4 => FourWay(of) });
coded!(struct FourWay { order, facing, slid, stopped_below });
coded!(enum Facing { 0 => Left, 1 => Right, 2 => Up, 3 => Down });
coded!(struct Air { flight, lost_ground_at, sliding, lock, bump });
coded!(struct SteerLock { push, until });
coded!(struct Bump { tick, speed });
coded!(struct OnLadder { ladder });
coded!(struct Ladder { column });
coded!(struct WallHold { wall, over });
coded!(enum ClimbOver { 0 => None, 1 => Up { top }, 2 => Across });
coded!(struct Walls { left, right });
coded!(struct Cells { left, right, top, bottom });
coded!(struct WallMemory { touched, lost, jumped_off, spent, barred });
coded!(struct Launched { until, unbraked });

coded!(enum State {
    0 => Stand, 1 => Run, 2 => Rise, 3 => Fall, 4 => WallSlide, 5 => WallHold, 6 => Ladder, 7 => Fly,
});
coded!(struct Contacts { left, right, above, below });
coded!(struct TickReport { tick, feet, from, velocity, state, state_since, facing, support, contacts, events });
coded!(enum JumpedFrom { 0 => Ground, 1 => Air, 2 => Wall, 3 => Ladder });
coded!(enum About {
    0 => Nothing, 1 => Speed(of), 2 => JumpedFrom(of), 3 => Support(of), 4 => MoverId(of), 5 => ZoneId(of), 6 => Side(of),
});

/// By its place among the words, and what it is about.
impl Coded for Event {
    fn put(&self, to: &mut impl Sink) {
        let place = Event::WORDS.iter().position(|(word, _)| *word == self.word()).unwrap_or_default();
        (place as u8).put(to);
        self.about().put(to);
    }
    fn decode(from: &mut Source<'_>) -> Option<Event> {
        let (word, _) = Event::WORDS.get(usize::from(u8::decode(from)?))?;
        Event::of_word(word, About::decode(from)?)
    }
}

coded!(enum PlatformSurface { 0 => Solid, 1 => OneWay });
coded!(enum Pace { 0 => Speed(of), 1 => Trip(of) });
coded!(enum Ease { 0 => Linear, 1 => Smooth });
coded!(enum Ends { 0 => BackAndForth, 1 => Loop, 2 => Once });
coded!(enum Starts { 0 => AtOnce, 1 => WhenRidden });
coded!(struct CrumbleNumbers { after, sink, over, back_after });
coded!(enum EaseOver { 0 => Leg, 1 => Trip });
coded!(enum Bend { 0 => Straight, 1 => Round });
coded!(struct PlatformNumbers { size, surface, route, pace, ease, ease_over, bend, ends, wait, starts, crumble, material, zone, group, starts_for, crumbles_for });

coded!(enum Scheme { 0 => Exact, 1 => VelocityFirst, 2 => PositionFirst });
coded!(enum Pixels { 0 => Free, 1 => Whole });
coded!(enum DropRule { 0 => Down, 1 => DownAndJump, 2 => Off });
coded!(enum TakenAlong { 0 => Nothing, 1 => Sideways, 2 => All });
coded!(enum Acceleration { 0 => Instant, 1 => Rate(of), 2 => Time(of) });
coded!(enum JumpShape { 0 => HeightAndTime { height, time_to_apex }, 1 => SpeedAndGravity { speed, gravity } });
coded!(enum Release {
    0 => None, 1 => Cut { keep }, 2 => Heavy { gravity_ratio }, 3 => Sustain { time },
    4 => ToHeight { tap_height, further_rise },
});
coded!(struct Hang { speed, gravity_ratio });
coded!(struct BodyNumbers { width, height, wall_probe, corner_nudge, ledge_lift, step_height });
coded!(enum Steady { 0 => Off, 1 => Right, 2 => Left });
coded!(enum AtWall { 0 => Stop, 1 => Turn });
coded!(struct RunNumbers { top_speed, acceleration, braking, turning, ramp_follow, steepest_climb, steady, at_wall });
coded!(struct AirNumbers { acceleration, braking, turning, bump_memory });
coded!(struct FallNumbers { top_speed, gravity, gravity_ratio, plunge_ratio });
coded!(enum OnLanding { 0 => Stand, 1 => Jump });
coded!(struct JumpNumbers {
    shape, release, coyote_time, buffer_time, repeat_held, waits_for_ground, air_jumps, air_jump_height,
    air_jumps_back_on_wall, air_jump_release, hang, on_landing,
});
coded!(enum SlideWhen { 0 => Pushed, 1 => Touched });
coded!(struct SlideNumbers { when, top_speed });
coded!(struct WallJumpNumbers { height, push_speed, steer_lock, same_wall });
coded!(enum HoldWhen { 0 => Touched, 1 => GrabHeld });
coded!(struct HoldNumbers { when, up_speed, down_speed, from_ground, while_rising, spends_air_jumps, climb_over });
coded!(struct WallNumbers { coyote_time, slide, jump, hold });
coded!(struct LadderNumbers { probe, up_speed, down_speed, side_speed, centre, up_is_jump });
coded!(enum FlightBy { 0 => Flaps, 1 => Thrust });
coded!(enum SteerWhen { 0 => Always, 1 => WhileHeld });
coded!(struct FlightNumbers { by, lift, steer, from_ground, top_speed });
coded!(enum Diagonal { 0 => Same, 1 => Faster });
coded!(struct FourWayNumbers { top_speed, acceleration, braking, turning, diagonal, corner_slide });
coded!(struct FeelNumbers { pickup, checkpoint, goal, hazard, own });
coded!(struct TuningNumbers {
    rate, scheme, pixels, body, run, air, fall, jump, wall, ladder, flight, four_way, drop, leave_with, feels, group,
});
