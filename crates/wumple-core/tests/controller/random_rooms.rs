//! Random rooms, tunings and buttons: what must hold after every tick, whatever the numbers.

use crate::rooms;

use crate::rooms::{buttons, full_grid, full_tuning, grid, tuning};
use proptest::prelude::*;
use wumple_core::advanced::slow;
use wumple_core::numbers::{FlightBy, HoldWhen};
use wumple_core::{
    Body, Buttons, CharacterId, DVec2, Decision, Event, Grid, JumpedFrom, Listener, NoListener, State, Support,
    Terrain, TickReport, Tuning, World,
};

/// A place for the body in the map where it overlaps nothing, found by trying.
fn start<'a>(grid: &'a Grid, tuning: &Tuning, seed: u32) -> Option<(World<&'a Grid>, CharacterId)> {
    rooms::places(grid.width(), grid.height(), seed).find_map(|feet| {
        let mut world = World::new(grid);
        let id = world.add_character(tuning.clone(), feet).ok()?;
        Some((world, id))
    })
}

/// Whether the straight ways of a tick, first along x and then along y, are free of solid tiles: nothing
/// was passed through.
fn way_is_free(grid: &Grid, body: &Body, from: DVec2, to: DVec2) -> bool {
    let x = slow::sweep_x(grid, body, from, to.x);
    let y = slow::sweep_y(grid, body, DVec2::new(to.x, from.y), to.y);
    // To come to rest on a floor is to be stopped by it, at the very place reached.
    !x.blocked && (!y.blocked || y.place == to.y)
}

/// Where a run goes, to the bit.
fn places<L: Listener>(
    grid: &Grid,
    tuning: &Tuning,
    script: &[(Buttons, usize)],
    seed: u32,
    listener: &mut L,
) -> Option<Vec<[u64; 3]>> {
    let (mut world, id) = start(grid, tuning, seed)?;
    let held = script.iter().flat_map(|(held, ticks)| core::iter::repeat_n(*held, *ticks));
    let places = held.map(|held| {
        world.tick_told(&[held], listener);
        let report = world.report(id);
        [report.feet.x, report.feet.y, report.velocity.y].map(f64::to_bits)
    });
    Some(places.collect())
}

/// What holds and climbs promise, over the ticks of a run.
#[derive(Default)]
struct Holds {
    /// A hold has spent the air jumps, and nothing has given them back since.
    are_air_jumps_spent: bool,
}

impl Holds {
    fn broken_by(
        &mut self,
        tuning: &Tuning,
        held: &Buttons,
        before: &TickReport,
        after: &TickReport,
    ) -> Option<&'static str> {
        let told = |event: Event| after.events.contains(&event);
        let hold = tuning.wall().hold;
        let asked = hold.is_some_and(|hold| hold.when == HoldWhen::GrabHeld || hold.while_rising);
        if told(Event::TookWall) && before.velocity.y < 0.0 && held.jump && !asked {
            return Some("held on while rising, unasked");
        }
        if self.are_air_jumps_spent && told(Event::Jumped(JumpedFrom::Air)) {
            return Some("jumped in the air with a jump that a hold had spent");
        }
        let climbs = |state| matches!(state, State::Ladder | State::WallHold);
        let took = told(Event::TookLadder) || told(Event::TookWall);
        if told(Event::ClimbStopped) && !climbs(before.state) && !took {
            return Some("a climb was stopped, and nobody climbed");
        }
        let given_back = after.contacts.below
            || told(Event::TookLadder)
            || after.events.iter().any(|event| matches!(event, Event::Bounced(_) | Event::Landed { .. }));
        self.are_air_jumps_spent &= !given_back;
        self.are_air_jumps_spent |=
            told(Event::TookWall) && !given_back && hold.is_some_and(|hold| hold.spends_air_jumps);
        None
    }
}

/// Hears everything and puts it into words.
struct Talkative;

impl Listener for Talkative {
    fn decided(&mut self, _: CharacterId, _: u64, decision: &Decision) {
        assert!(!decision.to_string().is_empty());
    }
}

proptest! {
    #![proptest_config(rooms::cases(1500))]

    #[test]
    fn a_run_through_a_random_room_keeps_every_promise(
        grid in grid(), tuning in tuning(), script in buttons(), seed in any::<u32>(),
    ) {
        let Some((mut world, id)) = start(&grid, &tuning, seed) else { return Ok(()) };
        let mut before = world.report(id).clone();
        for held in script.iter().flat_map(|(held, ticks)| core::iter::repeat_n(*held, *ticks)) {
            world.tick(&[held]);
            prop_assert_eq!(world.violation(), None);
            let after = world.report(id);
            prop_assert!(after.feet.is_finite() && after.velocity.is_finite());
            // A way of thousands of pixels is too long for tiny steps against every tile.
            if (after.feet - before.feet).abs().max_element() < 2000.0 {
                prop_assert!(way_is_free(&grid, tuning.body(), before.feet, after.feet), "{before:?} {after:?}");
            }
            let jumped = after.events.iter().any(|event| matches!(event, Event::Jumped(_)));
            if after.state == State::Rise {
                prop_assert!(jumped || before.velocity.y < 0.0, "rises without a cause: {before:?} {after:?}");
            }
            let off_ground = after.events.contains(&Event::Jumped(JumpedFrom::Ground));
            if off_ground && tuning.coyote_ticks() == 0 {
                prop_assert_eq!(before.support, Support::Solid);
            }
            before = after.clone();
            if world.character(id).has_ended() {
                break;
            }
        }
    }

    #[test]
    fn the_same_run_twice_told_and_on_two_threads_is_the_same_to_the_bit(
        grid in full_grid(), tuning in full_tuning(), script in buttons(), seed in any::<u32>(),
    ) {
        let run = || places(&grid, &tuning, &script, seed, &mut NoListener);
        let here = run();
        prop_assert!(here == places(&grid, &tuning, &script, seed, &mut Talkative));
        let (one, two) = std::thread::scope(|scope| {
            let (one, two) = (scope.spawn(run), scope.spawn(run));
            (one.join().unwrap(), two.join().unwrap())
        });
        prop_assert!(here == one && here == two);
    }
}

proptest! {
    // About a million ticks.
    #![proptest_config(rooms::cases(9000))]

    #[test]
    fn a_run_through_a_room_of_everything_keeps_every_promise(
        grid in full_grid(), tuning in full_tuning(), script in buttons(), seed in any::<u32>(),
    ) {
        let Some((mut world, id)) = start(&grid, &tuning, seed) else { return Ok(()) };
        let mut before = world.report(id).clone();
        let mut holds = Holds::default();
        for held in script.iter().flat_map(|(held, ticks)| core::iter::repeat_n(*held, *ticks)) {
            world.tick(&[held]);
            prop_assert_eq!(world.violation(), None);
            let after = world.report(id);
            prop_assert!(after.feet.is_finite() && after.velocity.is_finite());
            let thrown = after.events.iter().any(|event| matches!(event, Event::Jumped(_) | Event::Bounced(_)));
            let climbs = matches!(after.state, State::Ladder | State::WallHold) || tuning.four_way().is_some();
            let by_thrust = tuning.flight().is_some_and(|flight| flight.by == FlightBy::Thrust);
            let flies = after.events.contains(&Event::Flapped) || (by_thrust && after.state == State::Fly);
            if after.velocity.y < 0.0 && !climbs {
                prop_assert!(thrown || flies || before.velocity.y < 0.0, "rises without a cause: {before:?} {after:?}");
            }
            prop_assert!(after.state != State::Fly || tuning.flight().is_some());
            let broken = holds.broken_by(&tuning, &held, &before, after);
            prop_assert!(broken.is_none(), "{}: {before:?} {after:?}", broken.unwrap_or_default());
            prop_assert!(!(tuning.springs() && after.contacts.below), "stands, though it springs: {after:?}");
            before = after.clone();
            if world.character(id).has_ended() {
                break;
            }
        }
    }
}
