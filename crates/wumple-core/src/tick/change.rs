//! The ways out of a mode, looked at one by one, and the first that is due gone.

use super::Listener;
use super::act::act;
use super::action::Action;
use super::decide::{
    drop_asked_for, hold_asked_for, is_air_jump_due, is_flap_due, is_jump_asked_for, ladder_asked_for,
    lost_in_coyote_time, reason_to_let_go, wall_to_jump_off,
};
use super::turn::{Senses, Turn};
use crate::states::{Change, Moment, ways};
use crate::terrain::Terrain;

/// Looks at the ways out of the mode that there are at this moment, and goes the first that is due.
pub(super) fn choose<T: Terrain, L: Listener>(turn: &mut Turn<'_, T, L>, moment: Moment) {
    let from = turn.body.mode.kind();
    for way in ways(from, moment) {
        if let Some(action) = due(turn, way.change) {
            #[cfg(test)]
            tests::note(from, moment, way.change);
            act(turn, action);
            debug_assert_eq!(turn.body.mode.kind(), way.to, "{way:?}");
            return;
        }
    }
}

/// What a change is about, if it is due.
fn due<T: Terrain, L: Listener>(turn: &mut Turn<'_, T, L>, change: Change) -> Option<Action> {
    let can_jump = turn.body.tuning.jump().is_some();
    match change {
        Change::CarriedOff => Some(Action::BeCarriedOff),
        Change::TookLadder => ladder_asked_for(turn),
        Change::TookWall => hold_asked_for(turn),
        Change::DroppedThrough => drop_asked_for(turn),
        Change::JumpedFromGround => {
            (is_jump_asked_for(turn) && can_jump).then_some(Action::JumpFromGround { lost_ago: None })
        }
        Change::JumpedInCoyoteTime => {
            let lost_ago = lost_in_coyote_time(turn).filter(|_| is_jump_asked_for(turn) && can_jump);
            lost_ago.map(|_| Action::JumpFromGround { lost_ago })
        }
        Change::JumpedOffLadder => (is_jump_asked_for(turn) && can_jump).then_some(Action::JumpOffLadder),
        Change::JumpedOffWall => {
            let wall = is_jump_asked_for(turn).then(|| wall_to_jump_off(turn.body).ok()).flatten();
            wall.map(|(wall, lost_ago)| Action::JumpOffWall { wall, lost_ago })
        }
        Change::JumpedInAir => is_air_jump_due(turn).then_some(Action::JumpInAir),
        Change::Flapped => is_flap_due(turn).then_some(Action::Flap),
        Change::LiftedOff => is_lifted_off(turn).then_some(Action::LiftOff),
        Change::PushedOff => is_pushed_off(turn).then_some(Action::BePushedOff),
        Change::LetGo => reason_to_let_go(turn).map(Action::LetGo),
        Change::LostGround | Change::Bounced | Change::FoundGround | Change::CameToGround | Change::LostHold => {
            due_by_senses(turn, change)
        }
    }
}

/// Whether a push from outside lifts more than gravity holds down.
fn is_pushed_off<T: Terrain, L: Listener>(turn: &Turn<'_, T, L>) -> bool {
    turn.forces.is_some_and(|forces| forces.push.y + turn.body.tuning.gravity().fall < 0.0)
}

/// Whether a thrust lifts the body off the ground, beside what acts from outside.
fn is_lifted_off<T: Terrain, L: Listener>(turn: &Turn<'_, T, L>) -> bool {
    let push = turn.forces.map_or(0.0, |forces| forces.push.y);
    let lift = turn.thrust().filter(|flight| flight.from_ground).map_or(0.0, |flight| flight.lift);
    lift > 0.0 && push - lift + turn.body.tuning.gravity().fall < 0.0
}

/// What a change that follows from what was found is about, if it is due.
fn due_by_senses<T: Terrain, L: Listener>(turn: &Turn<'_, T, L>, change: Change) -> Option<Action> {
    let Senses { ground, held } = turn.senses;
    let free = !(turn.body.mode.climbs() && held);
    match change {
        Change::LostGround => ground.is_none().then_some(Action::LoseGround),
        Change::Bounced => ground.filter(|ground| turn.is_thrown_up_by(ground) && free).map(Action::Bounce),
        Change::FoundGround => ground.map(Action::FindGround),
        Change::CameToGround => ground.filter(|_| free).map(|ground| Action::LoseHold { onto: Some(ground) }),
        Change::LostHold => free.then_some(Action::LoseHold { onto: None }),
        _ => None,
    }
}

#[cfg(test)]
mod tests {
    extern crate std;

    use alloc::vec::Vec;
    use core::cell::RefCell;

    use glam::DVec2;

    use super::*;
    use crate::input::Buttons;
    use crate::platforms::{PlatformNumbers, PlatformSurface, Platforms};
    use crate::states::ModeKind;
    use crate::terrain::{Bounce, Edges, Grid, Material, Surface, TileProperties};
    use crate::tick::World;
    use crate::tuning::{
        DropRule, FlightNumbers, HoldNumbers, HoldWhen, LadderNumbers, Release, Tuning, TuningNumbers, WallJumpNumbers,
        WallNumbers,
    };

    type Gone = (ModeKind, Moment, Change);

    std::thread_local! {
        static GONE: RefCell<Vec<Gone>> = const { RefCell::new(Vec::new()) };
    }

    pub(super) fn note(from: ModeKind, moment: Moment, change: Change) {
        GONE.with_borrow_mut(|gone| {
            if !gone.contains(&(from, moment, change)) {
                gone.push((from, moment, change));
            }
        });
    }

    /// Numbers that are as good as random, the same every time.
    struct Dice(u64);

    impl Dice {
        /// Below `sides`.
        fn roll(&mut self, sides: u64) -> u64 {
            self.0 = self.0.wrapping_mul(6_364_136_223_846_793_005).wrapping_add(1_442_695_040_888_963_407);
            (self.0 >> 33) % sides
        }
    }

    fn throwing() -> Material {
        Material { bounce: Some(Bounce { height: 30.0, release: Release::None }), ..Material::PLAIN }
    }

    fn room(dice: &mut Dice) -> World<Grid> {
        let ramp = TileProperties::of(Surface::Ramp { left_height: 0.0, right_height: 16.0 });
        let springboard = TileProperties { material: throwing(), ..TileProperties::SOLID };
        let kinds = [
            TileProperties::EMPTY,
            TileProperties::SOLID,
            TileProperties::ONE_WAY,
            TileProperties::LADDER,
            springboard,
            ramp,
        ];
        let tile = |dice: &mut Dice| if dice.roll(10) < 6 { 0 } else { 1 + dice.roll(5) as u8 };
        let tiles = (0..120).map(|_| tile(dice)).collect();
        let platforms: Vec<PlatformNumbers> = (0..3)
            .map(|_| {
                let mut place = |reach| DVec2::new(dice.roll(150) as f64, reach + dice.roll(130) as f64);
                let (from, to) = (place(0.0), place(8.0));
                let mut lift = PlatformNumbers::new(DVec2::new(30.0, 6.0), from).to(to, 60.0 + dice.roll(240) as f64);
                lift.surface = if dice.roll(2) == 0 { PlatformSurface::Solid } else { PlatformSurface::OneWay };
                lift.material = if dice.roll(2) == 0 { throwing() } else { Material::PLAIN };
                lift
            })
            .collect();
        let grid = Grid::new(12, tiles, 16.0, &kinds, Edges::default()).unwrap();
        World::with_platforms(grid, Platforms::new(&platforms, 60.0).unwrap())
    }

    /// One that flies and does not jump.
    fn flyer(dice: &mut Dice) -> Tuning {
        let flight = if dice.roll(2) == 0 { FlightNumbers::flaps(160.0) } else { FlightNumbers::thrust(1500.0) };
        let numbers = TuningNumbers { flight: Some(flight), ..TuningNumbers::new(10.0, 14.0, 90.0) };
        Tuning::check(&numbers).unwrap()
    }

    fn tuning(dice: &mut Dice) -> Tuning {
        let mut numbers = TuningNumbers::new(10.0, 14.0, 90.0).with_jump(40.0, 0.3);
        let when = if dice.roll(2) == 0 { HoldWhen::Touched } else { HoldWhen::GrabHeld };
        let hold = HoldNumbers { when, up_speed: 60.0, down_speed: 90.0, from_ground: true, ..HoldNumbers::default() };
        let jump = WallJumpNumbers { height: 30.0, push_speed: 80.0, steer_lock: 0.1, same_wall: true };
        numbers.wall = Some(WallNumbers { coyote_time: 0.05, slide: None, jump: Some(jump), hold: Some(hold) });
        numbers.ladder = Some(LadderNumbers {
            probe: 8.0,
            up_speed: 60.0,
            down_speed: 90.0,
            side_speed: 50.0,
            centre: false,
            up_is_jump: false,
        });
        numbers.drop = DropRule::Down;
        let jump = numbers.jump.as_mut().unwrap();
        (jump.coyote_time, jump.buffer_time, jump.air_jumps) = (0.08, 0.05, 1);
        Tuning::check(&numbers).unwrap()
    }

    #[test]
    fn every_way_of_the_table_is_gone_somewhere() {
        let dice = &mut Dice(1);
        for _ in 0..600 {
            let mut world = room(dice);
            let place = DVec2::new(dice.roll(180) as f64 + 6.0, dice.roll(140) as f64 + 15.0);
            let tuning = if dice.roll(8) == 0 { flyer(dice) } else { tuning(dice) };
            let Ok(dab) = world.add_character(tuning, place) else { continue };
            for _ in 0..600 {
                let bits = dice.roll(64);
                let held = |bit: u64| bits >> bit & 1 != 0;
                let buttons = Buttons {
                    left: held(0),
                    right: held(1),
                    up: held(2),
                    down: held(3),
                    jump: held(4),
                    grab: held(5),
                    ..Buttons::NONE
                };
                (0..dice.roll(12)).for_each(|_| {
                    if dice.roll(50) == 0 {
                        world.push(dab, DVec2::new(0.0, -2000.0)).unwrap();
                    }
                    world.tick(&[buttons]);
                });
            }
        }
        for from in ModeKind::ALL {
            for moment in Moment::ALL {
                for way in ways(from, moment) {
                    let gone = GONE.with_borrow(|gone| gone.contains(&(from, moment, way.change)));
                    assert!(gone, "never gone: from {from:?}, when {moment:?}: {:?}", way.change);
                }
            }
        }
    }
}
