//! Platforms: riding, pushing, crumbling, bouncing, in timed scripts. Rooms are of tiles of 16 px, ticks of 1/60 s.

use crate::play::{GRAB, Play, climber, dab};
use wumple_core::advanced::Crumbling;
use wumple_core::numbers::{
    Bounce, CrumbleNumbers, DropRule, Ease, Ends, Pace, PlatformProblem, PlatformSurface, Release, Starts, TakenAlong,
};
use wumple_core::{
    Buttons, DVec2, Edges, Grid, Material, PlatformNumbers, Platforms, StartError, Tuning, TuningNumbers, World,
};

/// Twenty columns and twelve rows of nothing, over a floor.
const HALL: [&str; 13] = {
    let mut rows = ["...................."; 13];
    rows[12] = "####################";
    rows
};

fn at(x: f64, y: f64) -> DVec2 {
    DVec2::new(x, y)
}

/// 48 x 8 px, from one place to another at so many px/s.
fn cart(from: (f64, f64), to: (f64, f64), speed: f64) -> PlatformNumbers {
    PlatformNumbers::new(at(48.0, 8.0), at(from.0, from.1)).to(at(to.0, to.1), speed)
}

fn one_way(platform: PlatformNumbers) -> PlatformNumbers {
    PlatformNumbers { surface: PlatformSurface::OneWay, ..platform }
}

impl Play {
    fn platform(&self, index: usize) -> (f64, f64) {
        let place = self.world.platform_report(index).place;
        (place.left, place.top)
    }

    /// The feet as the first platform sees them.
    fn feet_on_platform(&self) -> (f64, f64) {
        let ((x, y), (left, top)) = (self.feet(), self.platform(0));
        (x - left, y - top)
    }
}

#[test]
fn a_rider_is_carried_sideways_up_down_and_round_and_keeps_its_place() {
    let route = |places: &[(f64, f64)], ends, ease, speed| PlatformNumbers {
        route: places.iter().map(|(x, y)| at(*x, *y)).collect(),
        pace: Pace::Speed(speed),
        ends,
        ease,
        wait: 0.3,
        ..PlatformNumbers::new(at(48.0, 8.0), at(0.0, 0.0))
    };
    let square = [(32.0, 64.0), (160.0, 64.0), (160.0, 128.0), (32.0, 128.0)];
    let table = [
        ("sideways", route(&square[..2], Ends::BackAndForth, Ease::Linear, 77.7)),
        ("down and up", route(&square[1..3], Ends::BackAndForth, Ease::Smooth, 31.3)),
        ("down, faster than any fall", route(&square[1..3], Ends::BackAndForth, Ease::Linear, 3333.3)),
        ("along a corner", route(&square[..3], Ends::BackAndForth, Ease::Smooth, 100.0)),
        ("round", route(&square, Ends::Loop, Ease::Linear, 123.4)),
        ("aslant", route(&[(32.0, 40.0), (200.0, 150.0)], Ends::BackAndForth, Ease::Linear, 97.1)),
    ];
    for (name, platform) in table {
        for platform in [platform.clone(), one_way(platform)] {
            let start = platform.route[0];
            let mut play = Play::on(&[platform], &HALL, &dab(), start.x + 20.3, start.y);
            let first = play.feet_on_platform();
            for _ in 0..5000 {
                play.world.tick(&[Buttons::NONE]);
                let report = play.world.report(play.id).clone();
                assert!(report.events.is_empty(), "{name}: {report:?}");
                let place = play.world.platform_report(0).place;
                assert_eq!(report.feet.y, place.top, "{name}, tick {}", report.tick);
                assert!((report.feet.x - place.left - first.0).abs() < 1e-9, "{name}, tick {}", report.tick);
                assert_eq!((report.support.to_string(), report.velocity), ("platform:1".into(), DVec2::ZERO));
            }
        }
    }
}

#[test]
fn walking_is_relative_to_the_platform() {
    let mut play = Play::on(&[cart((32.0, 64.0), (160.0, 64.0), 60.0)], &HALL, &dab(), 40.0, 64.0);
    play.play("R10");
    // 2 px a tick of its own, 1 px of the platform.
    assert!((play.feet().0 - 70.0).abs() < 1e-9);
    assert_eq!((play.now().velocity.x, play.state()), (120.0, "run"));
    play.play("L10");
    assert!((play.feet().0 - 60.0).abs() < 1e-9);
}

#[test]
fn platforms_that_touch_hand_over_without_a_hop() {
    let second = cart((80.0, 64.0), (80.0, 128.0), 40.0);
    for first in [cart((32.0, 64.0), (32.0, 128.0), 40.0), one_way(cart((32.0, 64.0), (32.0, 128.0), 40.0))] {
        let mut play = Play::on(&[first, second.clone()], &HALL, &dab(), 60.0, 64.0);
        assert_eq!(play.play("R25"), Vec::<String>::new());
        assert_eq!(play.now().support.to_string(), "platform:2");
        assert_eq!(play.play("L20 -200"), Vec::<String>::new());
        assert_eq!(play.now().support.to_string(), "platform:1");
    }
}

#[test]
fn a_rider_carried_into_a_wall_slides_on_the_platform() {
    let rows = ["..........#.........", "..........#.........", "....................", "...................."];
    let mut play = Play::on(&[cart((96.0, 32.0), (150.0, 32.0), 60.0)], &rows, &dab(), 140.0, 32.0);
    assert_eq!(play.play("-30"), Vec::<String>::new());
    assert_eq!((play.feet(), play.now().support.to_string()), ((155.0, 32.0), "platform:1".into()));
    assert!(play.now().contacts.right);
    // The platform comes back and takes it along again: on its way here it slid 15 px back.
    play.play("-70");
    assert_eq!(play.feet(), (155.0 - 46.0, 32.0));
}

#[test]
fn under_a_ceiling_a_solid_platform_crushes_and_a_one_way_one_passes_through() {
    let rows = ["....", "####", "....", "....", "....", "....", "...."];
    let hoist = PlatformNumbers::new(at(32.0, 8.0), at(16.0, 96.0)).to(at(16.0, 40.0), 60.0);
    let mut play = Play::on(std::slice::from_ref(&hoist), &rows, &dab(), 32.0, 96.0);
    // The head meets the ceiling with the feet at 54.
    assert_eq!(play.play("-42"), Vec::<String>::new());
    assert_eq!(play.feet(), (32.0, 54.0));
    let events = play.play("RJ14");
    assert_eq!(events[..3], ["43 crushed:1", "43 lost-ground", "44 crushed:1"]);
    assert_eq!((play.feet(), play.now().velocity), ((32.0, 54.0), DVec2::ZERO));
    // In each tick until it is clear: the platform turns at 40 in tick 56 and is below the feet again in 70,
    // when the body falls the first tick's way onto it.
    let events = play.play("-40");
    assert_eq!(
        events[..14],
        (57..70).map(|tick| format!("{tick} crushed:1")).chain(["70 landed:14.694".into()]).collect::<Vec<_>>()[..]
    );

    let mut play = Play::on(&[one_way(hoist)], &rows, &dab(), 32.0, 96.0);
    play.play("-42");
    let events = play.play("-20");
    assert_eq!(events, ["43 lost-ground"]);
    assert_eq!(play.rows[43].feet.y, 54.0 + play.rows[43].velocity.y / 120.0, "one tick of gravity");
}

#[test]
fn what_is_taken_along_is_what_the_tuning_says() {
    let aslant = |up: f64| PlatformNumbers::new(at(64.0, 8.0), at(64.0, 100.0)).to(at(144.0, 100.0 - up), 100.0);
    let leaving = |leave_with, drop| TuningNumbers { leave_with, drop, ..dab() };
    let jump = 2.0 * 54.0 / 0.35;
    let speed_of = |up: f64| {
        let length = (80.0f64 * 80.0 + up * up).sqrt();
        (80.0 / length * 100.0, up / length * 100.0)
    };
    for (up, leave, sideways, upward) in [
        (60.0, TakenAlong::Nothing, 0.0, 0.0),
        (60.0, TakenAlong::Sideways, 1.0, 0.0),
        (60.0, TakenAlong::All, 1.0, 1.0),
        (-60.0, TakenAlong::All, 1.0, 0.0),
    ] {
        let (right, rise) = speed_of(up);
        let (right, rise) = (right * sideways, rise * upward);
        // A jump: the jump tick still carries.
        let mut play = Play::on(&[aslant(up)], &HALL, &leaving(leave, DropRule::Down), 80.0, 100.0);
        play.play("-5 J1");
        let (before, after) = (play.rows[5].clone(), play.now());
        assert_eq!(after.events[0].to_string(), "jumped:ground");
        let gravity = 2.0 * 54.0 / (0.35 * 0.35) / 60.0;
        assert!((after.velocity.y + jump + rise - gravity).abs() < 1e-9, "{leave:?} {up}: {after:?}");
        let (along, above) = speed_of(up);
        let moved = after.feet - before.feet - at(along, -above) / 60.0;
        assert!((moved.y + (jump + rise) / 60.0 - gravity / 120.0).abs() < 1e-8, "{leave:?} {up}: {moved}");
        // Air control brakes at once here, so the speed taken along is seen in the air without steering only
        // where nothing brakes.
        let mut numbers = leaving(leave, DropRule::Down);
        numbers.air.braking = Some(wumple_core::numbers::Acceleration::Rate(0.0));
        let mut play = Play::on(&[aslant(up)], &HALL, &numbers, 80.0, 100.0);
        play.play("-5 J1");
        assert!((play.now().velocity.x - right).abs() < 1e-8);
        // A drop takes along the speed sideways alone, and needs a one-way top.
        let mut play = Play::on(&[one_way(aslant(up))], &HALL, &numbers, 80.0, 100.0);
        assert_eq!(play.play("-5 D1"), ["6 dropped-through"]);
        assert!((play.now().velocity.x - right).abs() < 1e-8 && play.now().velocity.y > 0.0);
        // Walking off starts from rest, or with what is taken along.
        let mut play = Play::on(&[aslant(up)], &HALL, &numbers, 75.0, 100.0);
        let events = play.play("L20");
        let row = play.rows.iter().find(|row| !row.events.is_empty()).unwrap();
        assert!(events[0].ends_with("lost-ground"), "{events:?}");
        assert!((row.velocity.x - (right - 120.0)).abs() < 1e-8, "{row:?}");
        assert!((row.velocity.y + rise).abs() < 1e-8, "{row:?}");
        assert_eq!(row.state.name(), if rise > 0.0 { "rise" } else { "fall" });
    }
}

#[test]
fn coyote_time_counts_on_a_platform_too() {
    let mut numbers = dab();
    numbers.jump.as_mut().unwrap().coyote_time = 0.05;
    for (wait, jumps) in [(3, true), (4, false)] {
        let mut play = Play::on(&[cart((64.0, 64.0), (160.0, 64.0), 60.0)], &HALL, &numbers, 75.0, 64.0);
        let lost: u64 = play.play("L20")[0].split(' ').next().unwrap().parse().unwrap();
        let mut play = Play::on(&[cart((64.0, 64.0), (160.0, 64.0), 60.0)], &HALL, &numbers, 75.0, 64.0);
        play.play(&format!("L{} LJ1", lost + wait - 1));
        assert_eq!(play.now().events.iter().any(|event| event.to_string() == "jumped:ground"), jumps, "{wait}");
    }
}

#[test]
fn a_solid_platform_pushes_along_its_way_and_crushes_against_terrain() {
    // Standing on the floor at 192, pushed to the right by a cart of 2 px a tick.
    let cart = PlatformNumbers::new(at(32.0, 32.0), at(16.0, 160.0)).to(at(336.0, 160.0), 120.0);
    let mut play = Play::on(&[cart], &HALL, &dab(), 60.0, 192.0);
    // Its face is at 48 and meets the hitbox's side at 55 in tick 4.
    assert_eq!(play.play("-6"), ["4 pushed:1", "5 pushed:1", "6 pushed:1"]);
    assert_eq!(play.feet(), (65.0, 192.0));
    assert!(play.now().contacts.left && play.now().velocity == DVec2::ZERO);
    // Running against it is of no use: the face stops it, and pushes on.
    play.play("L10");
    assert_eq!((play.feet().0, play.now().velocity.x), (85.0, 0.0));
    // The map ends at 320: flush at 315, then crushed until the platform has gone through.
    let events = play.play("-130");
    let first = events.iter().position(|event| event.ends_with("crushed:1")).unwrap();
    assert!(events[..first].iter().all(|event| event.ends_with("pushed:1")));
    assert!(events[first..].iter().all(|event| event.ends_with("crushed:1")));
    assert_eq!(play.feet(), (315.0, 192.0));

    // From above: down with it, then crushed by the floor.
    let press = PlatformNumbers::new(at(32.0, 32.0), at(48.0, 64.0)).to(at(48.0, 152.0), 120.0);
    let mut play = Play::on(std::slice::from_ref(&press), &HALL, &dab(), 60.0, 192.0);
    let events = play.play("-44");
    assert_eq!(events[..2], ["38 crushed:1", "39 crushed:1"]);
    // In the air it is pushed down, and goes on falling; only the part in its way is pushed.
    let mut play = Play::on(&[press], &HALL, &dab(), 60.0, 118.5);
    let events = play.play("-3");
    assert_eq!(events, ["1 pushed:1", "2 pushed:1", "3 pushed:1"]);
    assert!(play.now().velocity.y > 0.0);
}

#[test]
fn a_pushed_body_is_lifted_by_a_ramp_and_loses_its_ground_off_an_edge() {
    let rows = ["........", "........", "........", "....../#", "########"];
    let cart = PlatformNumbers::new(at(16.0, 12.0), at(48.0, 50.0)).to(at(112.0, 50.0), 60.0);
    let mut play = Play::on(&[cart], &rows, &dab(), 72.0, 64.0);
    play.play("-40");
    assert_eq!(play.feet(), (109.0, 64.0 - 13.0));
    assert_eq!(play.now().support.to_string(), "ramp");

    let rows = ["........", "........", "........", "#####...", "........", "########"];
    let cart = PlatformNumbers::new(at(16.0, 12.0), at(32.0, 34.0)).to(at(112.0, 34.0), 60.0);
    let mut numbers = dab();
    numbers.jump.as_mut().unwrap().coyote_time = 0.1;
    let mut play = Play::on(&[cart], &rows, &numbers, 60.0, 48.0);
    let events = play.play("-32");
    assert_eq!(events[events.len() - 2..], ["32 pushed:1", "32 lost-ground"]);
    // Pushed off, it takes nothing along, has one tick of gravity, and may jump for a while.
    assert_eq!(play.now().velocity.x, 0.0);
    assert!(play.now().velocity.y > 0.0);
    assert!(play.play("-3 J1").contains(&"36 jumped:ground".to_owned()));
}

#[test]
fn a_one_way_platform_lets_through_from_below_and_from_the_sides() {
    let shelf = one_way(PlatformNumbers::new(at(64.0, 8.0), at(32.0, 150.0)).to(at(96.0, 150.0), 60.0));
    // From below: a jump goes through and lands on it.
    let mut play = Play::on(std::slice::from_ref(&shelf), &HALL, &dab(), 70.0, 192.0);
    let events = play.play("J60");
    assert_eq!(
        (events[0].as_str(), events.len(), play.feet_on_platform().1),
        ("1 jumped:ground", 2, 0.0),
        "{events:?}"
    );
    // From the side: it comes and goes through a body in the air and on the floor.
    let low = one_way(PlatformNumbers::new(at(16.0, 8.0), at(16.0, 180.0)).to(at(160.0, 180.0), 120.0));
    let mut play = Play::on(&[low], &HALL, &dab(), 70.0, 192.0);
    assert_eq!(play.play("-200"), Vec::<String>::new());
    assert_eq!(play.feet(), (70.0, 192.0));
}

#[test]
fn a_one_way_platform_rises_under_feet_and_never_scoops_up_those_below_its_top() {
    // Sunk into the floor it comes up under a body that stands there: pushed once, then it rides.
    let hoist = one_way(PlatformNumbers::new(at(48.0, 24.0), at(32.0, 196.5)).to(at(32.0, 100.0), 60.0));
    let mut play = Play::on(&[hoist], &HALL, &dab(), 50.0, 192.0);
    assert_eq!(play.play("-60"), ["5 pushed:1"]);
    assert_eq!((play.feet(), play.now().support.to_string()), ((50.0, 136.5), "platform:1".into()));
    // Its top already above the feet, it goes up through the body.
    let high = one_way(PlatformNumbers::new(at(48.0, 24.0), at(32.0, 191.0)).to(at(32.0, 100.0), 60.0));
    let mut play = Play::on(&[high], &HALL, &dab(), 50.0, 192.0);
    assert_eq!(play.play("-60"), Vec::<String>::new());
    assert_eq!(play.feet(), (50.0, 192.0));
    // A fall onto one that rises fast lands on it and is neither swallowed nor thrown.
    let fast = one_way(PlatformNumbers::new(at(48.0, 24.0), at(32.0, 190.0)).to(at(32.0, 60.0), 900.0));
    let mut play = Play::on(&[PlatformNumbers { ends: Ends::Once, ..fast }], &HALL, &dab(), 50.0, 120.0);
    let events = play.play("-30");
    assert_eq!(events.len(), 1);
    assert!(events[0].contains("landed:"), "{events:?}");
    assert_eq!(play.feet(), (50.0, 60.0));
}

#[test]
fn a_platform_faster_than_a_rise_catches_it() {
    // A jump of 308 px/s from the floor, through a hoist or from it.
    for (speed, surface, expected) in [
        (600.0, PlatformSurface::Solid, "caught:1"),
        (600.0, PlatformSurface::OneWay, "caught:1"),
        (100.0, PlatformSurface::Solid, "landed"),
        (100.0, PlatformSurface::OneWay, "landed"),
    ] {
        let hoist = PlatformNumbers {
            surface,
            ends: Ends::Once,
            starts: Starts::WhenRidden,
            ..PlatformNumbers::new(at(48.0, 8.0), at(32.0, 192.0)).to(at(32.0, 42.0), speed)
        };
        let mut play = Play::on(&[hoist], &HALL, &dab(), 50.0, 192.0);
        // Set off by the feet in tick 0 it goes with them; they jump off it in tick 1.
        let events = play.play("J100");
        assert_eq!(events[0], "1 jumped:ground");
        assert!(events[1].contains(expected), "{speed} {surface:?}: {events:?}");
        assert_eq!(events.len(), 2, "{speed} {surface:?}: {events:?}");
        assert_eq!(play.feet(), (50.0, 42.0));
        assert_eq!(play.now().support.to_string(), "platform:1");
    }
}

#[test]
fn it_sets_off_when_ridden() {
    let cart = PlatformNumbers { starts: Starts::WhenRidden, ..cart((64.0, 100.0), (160.0, 100.0), 60.0) };
    let mut play = Play::on(&[cart], &HALL, &dab(), 80.0, 90.0);
    let landed: u64 = play.play("-30")[0].split(' ').next().unwrap().parse().unwrap();
    let first = play.rows.iter().find(|row| row.feet.x != 80.0).unwrap();
    assert_eq!((first.tick, first.feet.x), (landed + 1, 81.0));
}

fn slab(back_after: Option<f64>) -> PlatformNumbers {
    let crumble = Some(CrumbleNumbers { after: 0.1, sink: 10.0, over: 0.2, back_after });
    PlatformNumbers { crumble, ..PlatformNumbers::new(at(48.0, 8.0), at(64.0, 100.0)) }
}

#[test]
fn a_slab_shakes_sinks_with_its_rider_and_is_gone() {
    let mut play = Play::on(&[slab(Some(0.5))], &HALL, &dab(), 80.0, 100.0);
    // Borne since tick 0: it shakes through tick 6, sinks until tick 18, and is back after 30 more.
    let mut phases = Vec::new();
    for _ in 0..60 {
        play.play("-1");
        phases.push(play.world.platform_report(0).crumbling);
    }
    let runs: Vec<(Crumbling, usize)> = phases.chunk_by(|a, b| a == b).map(|run| (run[0], run.len())).collect();
    let expected = [(Crumbling::Shaking, 6), (Crumbling::Sinking, 11), (Crumbling::Gone, 30), (Crumbling::Whole, 13)];
    assert_eq!(runs, expected);
    assert_eq!(play.rows[6].feet.y, 100.0);
    assert_eq!(play.rows[12].feet.y, 105.0, "half the time, half the way");
    assert!(play.rows[17].feet.y < 110.0 && play.rows[17].support.to_string() == "platform:1");
    // The support that vanished has one tick of gravity in the row that says so.
    assert_eq!(play.events[0], "18 lost-ground");
    assert!((play.rows[18].feet.y - play.rows[17].feet.y - 54.0 / (0.35 * 0.35) / 3600.0).abs() < 1e-9);

    let mut play = Play::on(&[slab(None)], &HALL, &dab(), 80.0, 100.0);
    play.play("-2000");
    assert_eq!(play.world.platform_report(0).crumbling, Crumbling::Gone);
}

#[test]
fn a_slab_is_not_stopped_by_leaving_and_never_comes_back_inside_somebody() {
    let mut play = Play::on(&[slab(Some(0.2))], &HALL, &dab(), 80.0, 100.0);
    play.play("J10 -10");
    assert_eq!(play.world.platform_report(0).crumbling, Crumbling::Gone);

    // Over the floor: the rider falls 12 px and stands where the slab was.
    let low = PlatformNumbers { route: vec![at(64.0, 180.0)], ..slab(Some(0.2)) };
    let mut play = Play::on(&[low], &HALL, &dab(), 80.0, 180.0);
    play.play("-100");
    assert_eq!((play.feet(), play.world.platform_report(0).crumbling), ((80.0, 192.0), Crumbling::Gone));
    let events = play.play("R40");
    assert_eq!(play.world.platform_report(0).crumbling, Crumbling::Whole, "{events:?}");
    // It can crumble again.
    play.play("LJ1 L40 -60");
    assert!(play.world.platform_report(0).crumbling != Crumbling::Whole || play.events.len() > 3);
}

fn bellows(release: Release) -> PlatformNumbers {
    let material = Material { bounce: Some(Bounce { height: 80.0, release }), ..Material::PLAIN };
    PlatformNumbers { material, ..PlatformNumbers::new(at(64.0, 8.0), at(64.0, 180.0)) }
}

#[test]
fn repeated_bounces_reach_the_height_asked_for() {
    for scheme in [
        wumple_core::numbers::Scheme::Exact,
        wumple_core::numbers::Scheme::VelocityFirst,
        wumple_core::numbers::Scheme::PositionFirst,
    ] {
        let numbers = TuningNumbers { scheme, rate: 240.0, ..dab() };
        let mut play = Play::on(&[bellows(Release::None)], &HALL, &numbers, 90.0, 150.0);
        let events = play.play("-3000");
        assert!(events.len() > 8 && events.iter().all(|event| event.ends_with("bounced:1")), "{events:?}");
        let ticks: Vec<usize> = events.iter().map(|event| event.split(' ').next().unwrap().parse().unwrap()).collect();
        let apexes: Vec<f64> = ticks
            .windows(2)
            .map(|two| play.rows[two[0]..two[1]].iter().fold(180.0, |least: f64, row| least.min(row.feet.y)))
            .collect();
        for apex in &apexes {
            assert_eq!(*apex, apexes[0]);
            // Sampled at 240 Hz the exact apex is missed by less than this.
            assert!((180.0 - apex - 80.0).abs() < 1.0, "{scheme:?} {apex}");
        }
    }
}

#[test]
fn a_bounce_has_a_release_rule_of_its_own() {
    let height = |script: &str, release| {
        let mut play = Play::on(&[bellows(release)], &HALL, &dab(), 90.0, 150.0);
        play.play(script);
        let bounced = play.rows.iter().position(|row| !row.events.is_empty()).unwrap();
        180.0 - play.rows[bounced..bounced + 30].iter().fold(180.0, |least: f64, row| least.min(row.feet.y))
    };
    let cut = Release::Cut { keep: 0.5 };
    assert!((height("-60", Release::None) - 80.0).abs() < 0.5);
    assert!(height("-60", cut) < 40.0, "nothing is held");
    assert!((height("-1 J60", cut) - 80.0).abs() < 0.5, "held all the time");
}

#[test]
fn stepping_onto_bellows_throws_up_and_gives_air_jumps_back() {
    let mut numbers = dab();
    numbers.jump.as_mut().unwrap().air_jumps = 1;
    let floor_high = PlatformNumbers { route: vec![at(64.0, 192.0)], ..bellows(Release::None) };
    let rows: Vec<&str> = HALL[..12].iter().copied().chain(["####................"]).collect();
    let mut play = Play::on(&[floor_high], &rows, &numbers, 40.0, 192.0);
    let events = play.play("R20 J2 -3 J2");
    assert_eq!(events.iter().filter(|event| event.contains("bounced:1")).count(), 1, "{events:?}");
    assert_eq!(events.iter().filter(|event| event.contains("jumped:air")).count(), 1, "{events:?}");
}

#[test]
fn a_top_carries_at_its_own_speed_and_lets_through_its_share_of_the_grip() {
    let material = Material { grip: 0.5, surface_speed: 30.0, bounce: None };
    let belt = PlatformNumbers { material, ..cart((32.0, 64.0), (160.0, 64.0), 60.0) };
    let mut numbers = dab();
    numbers.run.acceleration = wumple_core::numbers::Acceleration::Rate(600.0);
    let mut play = Play::on(&[belt], &HALL, &numbers, 40.0, 64.0);
    play.play("-10");
    assert!((play.feet().0 - 55.0).abs() < 1e-9, "1 px and half a px a tick");
    play.play("R1");
    assert!((play.now().velocity.x - 5.0).abs() < 1e-9, "half of 10 px/s");
    // The speed of a surface is nobody's to take along.
    numbers.air.braking = Some(wumple_core::numbers::Acceleration::Rate(0.0));
    let still = PlatformNumbers { material, ..PlatformNumbers::new(at(64.0, 8.0), at(32.0, 64.0)) };
    let mut play = Play::on(&[still], &HALL, &numbers, 40.0, 64.0);
    play.play("-3 J1");
    assert_eq!(play.now().velocity.x, 0.0);
}

#[test]
fn a_platforms_side_is_a_wall() {
    let pillar = |speed: f64| PlatformNumbers::new(at(32.0, 96.0), at(96.0, 48.0)).to(at(96.0, 32.0), speed);
    // A slide, and a jump off it.
    let mut play = Play::on(&[pillar(20.0)], &HALL, &climber(None), 91.0, 100.0);
    let events = play.play("R20");
    assert_eq!((events.len(), play.state()), (0, "wall-slide"));
    assert!((play.now().velocity.y - 40.0).abs() < 1e-9);
    assert_eq!(play.play("RJ1"), ["21 jumped:wall"]);
    assert_eq!(play.now().velocity.x, -110.0);
    // It is the same wall wherever it has gone, and whichever side is touched.
    let mut numbers = climber(None);
    numbers.wall.as_mut().unwrap().jump.as_mut().unwrap().same_wall = false;
    let mut play = Play::on(&[cart((96.0, 48.0), (160.0, 48.0), 10.0)], &HALL, &numbers, 91.0, 60.0);
    assert_eq!(play.play("R2 RJ1")[0], "3 jumped:wall");
    let again: Vec<String> = play.play("R9 J1 R9 J1 R9 J1");
    assert!(again.iter().all(|event| !event.contains("jumped")), "{again:?}");
}

#[test]
fn a_hold_on_a_platforms_side_is_carried_like_a_rider() {
    let pillar = PlatformNumbers::new(at(32.0, 96.0), at(96.0, 48.0)).to(at(140.0, 20.0), 50.0);
    let mut play = Play::on(&[pillar], &HALL, &climber(Some(GRAB)), 91.0, 100.0);
    assert_eq!(play.play("G1"), ["1 took:wall"]);
    let first = play.feet_on_platform();
    for _ in 0..300 {
        assert_eq!(play.play("G1"), Vec::<String>::new());
        let now = play.feet_on_platform();
        assert!((now.0 - first.0).abs() < 1e-9 && (now.1 - first.1).abs() < 1e-9, "{now:?} {first:?}");
    }
    // Letting go leaves no speed but what is commanded.
    play.play("-1");
    assert_eq!(play.now().velocity.x, 0.0);
    // A jump off it takes the platform's speed sideways along: here 50 px/s aslant, 42 of them to the right.
    let pillar = PlatformNumbers::new(at(32.0, 96.0), at(96.0, 48.0)).to(at(140.0, 20.0), 50.0);
    let mut play = Play::on(&[pillar], &HALL, &climber(Some(GRAB)), 91.0, 100.0);
    assert_eq!(play.play("G9 GJ1"), ["1 took:wall", "10 jumped:wall"]);
    let right = 50.0 * 44.0 / (44.0f64 * 44.0 + 28.0 * 28.0).sqrt();
    assert!((play.now().velocity.x - (right - 110.0)).abs() < 1e-7, "{:?}", play.now());
}

#[test]
fn a_drop_goes_through_the_platforms_that_support_wherever_they_go() {
    for (to, speed) in [(128.0, 6.0), (20.0, 200.0)] {
        let shelves = [one_way(cart((32.0, 64.0), (32.0, to), speed)), one_way(cart((80.0, 64.0), (80.0, to), speed))];
        let mut play = Play::on(&shelves, &HALL, &TuningNumbers { drop: DropRule::Down, ..dab() }, 80.0, 64.0);
        let mut events = play.play("-5 D1 R60");
        // Of two shelves that go up together the first in the file pushes what rides on the second.
        events.retain(|event| !event.ends_with("pushed:1"));
        assert_eq!((events[0].as_str(), events.len(), play.feet().1), ("6 dropped-through", 2, 192.0), "{events:?}");
    }
    // Shelves that go down faster than the body begins to fall are below it again, and land it.
    let shelves = [one_way(cart((32.0, 64.0), (32.0, 128.0), 60.0)), one_way(cart((80.0, 64.0), (80.0, 128.0), 60.0))];
    let mut play = Play::on(&shelves, &HALL, &TuningNumbers { drop: DropRule::Down, ..dab() }, 80.0, 64.0);
    assert_eq!(play.play("-5 D1 -20"), ["6 dropped-through", "12 landed:102.857"]);
    // Something solid beside it refuses.
    let shelves = [one_way(cart((32.0, 64.0), (32.0, 128.0), 60.0)), cart((80.0, 64.0), (80.0, 128.0), 60.0)];
    let mut play = Play::on(&shelves, &HALL, &TuningNumbers { drop: DropRule::Down, ..dab() }, 80.0, 64.0);
    assert_eq!(play.play("-5 D1 -30"), Vec::<String>::new());
}

#[test]
fn whole_pixels_ride_without_a_rest() {
    let mut numbers = dab();
    numbers.pixels = wumple_core::numbers::Pixels::Whole;
    let mut play = Play::on(&[cart((32.0, 64.0), (150.0, 101.0), 47.3)], &HALL, &numbers, 50.0, 64.0);
    let rounded = |play: &Play| {
        let (left, top) = play.platform(0);
        ((left + 0.5).floor(), (top + 0.5).floor())
    };
    let first = play.feet().0 - rounded(&play).0;
    for _ in 0..1000 {
        assert_eq!(play.play("-1"), Vec::<String>::new());
        let (left, top) = rounded(&play);
        assert_eq!(play.feet(), (left + first, top));
    }
}

#[test]
fn wrong_platforms_and_worlds_are_refused() {
    let good = cart((0.0, 0.0), (10.0, 0.0), 10.0);
    let bad = |platform: PlatformNumbers| Platforms::new(&[good.clone(), platform], 60.0).unwrap_err().to_string();
    let mut table = Vec::new();
    let mut change = |change: &dyn Fn(&mut PlatformNumbers)| {
        let mut platform = good.clone();
        change(&mut platform);
        table.push(bad(platform));
    };
    change(&|platform| platform.size.x = 0.0);
    change(&|platform| platform.size.y = f64::NAN);
    change(&|platform| platform.route.clear());
    change(&|platform| platform.route[1].y = 1e9);
    change(&|platform| platform.pace = Pace::Speed(0.0));
    change(&|platform| platform.pace = Pace::Trip(f64::INFINITY));
    change(&|platform| platform.pace = Pace::Trip(1e-9));
    change(&|platform| platform.wait = -1.0);
    change(&|platform| platform.crumble = Some(CrumbleNumbers { after: -1.0, sink: 0.0, over: 0.0, back_after: None }));
    change(&|platform| platform.material.grip = -1.0);
    let expected = [
        "both sides of its size must be above 0 and at most 524288 px",
        "both sides of its size must be above 0 and at most 524288 px",
        "its route must have at least one place",
        "place 1 of its route is beyond where coordinates end, 524288 px",
        "its speed or trip must be above 0, and no trip may take more than 1000000 s",
        "its speed or trip must be above 0, and no trip may take more than 1000000 s",
        "it would be too fast; the mean speed of a leg may be 666666 px/s",
        "its wait must be from 0 to 1000000 s",
        "the times of its crumbling must be from 0 to 1000000 s, and its sink not below 0",
        "its grip, surface speed or bounce is out of bounds",
    ];
    assert_eq!(table, expected.map(|message| format!("platform 2: {message}")));
    let error = Platforms::new(&[PlatformNumbers { route: vec![], ..good.clone() }], 60.0).unwrap_err();
    assert_eq!((error.platform, error.problem), (0, PlatformProblem::NoPlace));

    let world = |numbers: &TuningNumbers, x: f64, y: f64| {
        let grid = Grid::from_rows(&HALL, 16.0, Edges::default()).unwrap();
        let mut world = World::with_platforms(grid, Platforms::new(std::slice::from_ref(&good), 60.0).unwrap());
        world.add_character(Tuning::check(numbers).unwrap(), at(x, y)).unwrap_err()
    };
    assert_eq!(world(&dab(), 20.0, 5.0), StartError::InsidePlatform { platform: 0 });
    let other = TuningNumbers { rate: 50.0, ..dab() };
    assert_eq!(world(&other, 100.0, 50.0), StartError::OtherRate { expected: 60.0, found: 50.0 });
}
