//! Walls: sliding, jumping off, holding on, climbing over. A sentence each, played.

use crate::play;

use crate::play::{GRAB, Play, climber};
use wumple_core::numbers::{HoldNumbers, HoldWhen, SlideWhen};
use wumple_core::{Facing, TuningNumbers};

/// A shaft of five columns between two walls, with a floor.
const SHAFT: [&str; 12] = [
    "#.....#", "#.....#", "#.....#", "#.....#", "#.....#", "#.....#", "#.....#", "#.....#", "#.....#", "#.....#",
    "#.....#", "#######",
];

/// Dab in the air, against the right wall of the shaft, from rest.
fn at_right_wall(numbers: &TuningNumbers) -> Play {
    Play::new(&SHAFT, numbers, 91.0, 60.0)
}

#[test]
fn a_slide_begins_when_the_wall_is_pushed_and_is_no_faster_than_its_top_speed() {
    let mut dab = at_right_wall(&climber(None));
    dab.play("-12");
    assert_eq!(dab.state(), "fall");
    assert!(dab.now().velocity.y > 100.0);
    dab.play("R1");
    assert_eq!((dab.state(), dab.now().velocity.y, dab.now().facing), ("wall-slide", 40.0, Facing::Left));
    let before = dab.feet().1;
    dab.play("R30");
    assert!((dab.feet().1 - before - 20.0).abs() < 1e-9);
    dab.play("-1");
    assert_eq!((dab.state(), dab.now().facing), ("fall", Facing::Right));
    assert!(dab.now().velocity.y > 40.0);
}

#[test]
fn a_slide_when_touched_needs_no_push_and_ends_where_the_wall_ends() {
    let mut numbers = climber(None);
    numbers.wall.as_mut().unwrap().slide.as_mut().unwrap().when = SlideWhen::Touched;
    let rows = ["......", ".....#", ".....#", "......", "......", "......", "######"];
    let mut dab = Play::new(&rows, &numbers, 75.0, 40.0);
    dab.play("-20");
    assert_eq!(dab.state(), "wall-slide");
    while dab.state() == "wall-slide" {
        dab.play("-1");
    }
    // The wall's foot is at 48 px: touched while the head is above it.
    assert!(dab.feet().1 - 22.0 >= 48.0 && dab.feet().1 - 22.0 < 49.0, "{:?}", dab.feet());
}

#[test]
fn a_slide_with_no_speed_at_all_sticks() {
    let mut numbers = climber(None);
    numbers.wall.as_mut().unwrap().slide.as_mut().unwrap().top_speed = 0.0;
    let mut dab = at_right_wall(&numbers);
    dab.play("R3");
    let stuck = dab.feet();
    dab.play("R100");
    assert_eq!((dab.feet(), dab.state()), (stuck, "wall-slide"));
}

#[test]
fn a_wall_jump_pushes_away_and_the_way_back_counts_as_none_for_a_while() {
    let mut dab = at_right_wall(&climber(None));
    dab.play("R10");
    assert_eq!(dab.play("RJ1"), ["11 jumped:wall"]);
    assert_eq!((dab.now().velocity.x, dab.now().facing), (-110.0, Facing::Left));
    // The lock is 6 ticks: through tick 17, though right is held and braking is instant.
    dab.play("RJ6");
    assert_eq!(dab.now().velocity.x, -110.0);
    dab.play("RJ1");
    assert_eq!(dab.now().velocity.x, 120.0, "free again");
}

#[test]
fn steering_away_works_during_the_lock_and_landing_ends_it() {
    let mut dab = at_right_wall(&climber(None));
    dab.play("R10 RJ1 LJ1");
    assert_eq!(dab.now().velocity.x, -120.0);
    let rows = ["#.....#", "#.....#", "#.....#", "#######"];
    let mut low = climber(None);
    low.wall.as_mut().unwrap().jump.as_mut().unwrap().steer_lock = 2.0;
    low.wall.as_mut().unwrap().jump.as_mut().unwrap().height = 2.0;
    let mut dab = Play::new(&rows, &low, 91.0, 40.0);
    dab.play("R3 RJ1");
    while dab.now().support == wumple_core::Support::None {
        dab.play("R1");
        assert_eq!(dab.now().velocity.x, -110.0);
    }
    dab.play("R1");
    assert_eq!(dab.now().velocity.x, 120.0);
}

#[test]
fn the_other_wall_ends_the_lock() {
    let mut numbers = climber(None);
    numbers.wall.as_mut().unwrap().jump.as_mut().unwrap().steer_lock = 5.0;
    let mut dab = at_right_wall(&numbers);
    dab.play("R5 RJ1");
    while !dab.now().contacts.left {
        dab.play("R1");
        assert!(dab.now().velocity.x <= 0.0);
    }
    dab.play("R1");
    assert_eq!(dab.now().velocity.x, 120.0);
}

#[test]
fn wall_coyote_time_runs_from_the_first_row_without_the_wall() {
    // 0.05 s at 60 Hz: 3 ticks. Left away from the wall, out of the probe in the tick of the first step.
    for (wait, jumps) in [(0, true), (1, true), (2, true), (3, false)] {
        let mut dab = at_right_wall(&climber(None));
        dab.play("R5 L1");
        assert!(!dab.now().contacts.right);
        let events = dab.play(&format!("L{wait} LJ1"));
        assert_eq!(events.len() == 1, jumps, "pressed {} ticks after the wall was lost: {events:?}", wait + 1);
    }
}

#[test]
fn one_wall_is_not_climbed_by_jumping_where_that_is_forbidden() {
    let climb = |same_wall| {
        let mut numbers = climber(None);
        let jump = numbers.wall.as_mut().unwrap().jump.as_mut().unwrap();
        (jump.same_wall, jump.steer_lock) = (same_wall, 0.0);
        let mut dab = Play::new(&SHAFT, &numbers, 91.0, 170.0);
        let mut jumps = 0;
        for _ in 0..12 {
            jumps += dab.play("R12 RJ2").iter().filter(|event| event.ends_with("jumped:wall")).count();
        }
        jumps
    };
    assert!(climb(true) > 3);
    assert_eq!(climb(false), 1);
}

#[test]
fn between_two_walls_the_same_wall_is_free_again_after_the_other() {
    let mut numbers = climber(None);
    numbers.wall.as_mut().unwrap().jump.as_mut().unwrap().same_wall = false;
    let rows = ["#..#", "#..#", "#..#", "#..#", "#..#", "#..#", "#..#", "#..#", "#..#", "####"];
    let mut dab = Play::new(&rows, &numbers, 43.0, 120.0);
    let events = dab.play("R3 RJ2 L14 LJ2 R14 RJ2");
    assert_eq!(events.iter().filter(|event| event.ends_with("jumped:wall")).count(), 3, "{events:?}");
}

#[test]
fn a_hold_keeps_still_climbs_and_is_let_go_by_pushing_away() {
    let mut dab = at_right_wall(&climber(Some(GRAB)));
    assert_eq!(dab.play("R10 RG1"), ["11 took:wall"]);
    let held = dab.feet();
    dab.play("G100");
    assert_eq!((dab.feet(), dab.state(), dab.now().velocity.y), (held, "wall-hold", 0.0));
    dab.play("GU30");
    assert!((dab.feet().1 - (held.1 - 30.0)).abs() < 1e-9 && dab.now().velocity.y == -60.0);
    dab.play("GD20");
    assert!((dab.feet().1 - held.1).abs() < 1e-9 && dab.now().velocity.y == 90.0);
    assert_eq!(dab.play("LG1"), ["162 let-go:wall"]);
    assert_eq!((dab.state(), dab.now().velocity.x), ("fall", -120.0));
}

#[test]
fn letting_go_of_grab_falls_and_the_hold_is_not_taken_again_without_a_fresh_press() {
    let mut dab = at_right_wall(&climber(Some(GRAB)));
    dab.play("RG5");
    assert_eq!(dab.play("R1"), ["6 let-go:wall"]);
    assert!(dab.play("R3").is_empty());
    assert_eq!(dab.play("RG1"), ["10 took:wall"]);
    // Held on touch: not taken again before the wall was out of the probe.
    let touched = HoldNumbers { when: HoldWhen::Touched, ..GRAB };
    let mut dab = at_right_wall(&climber(Some(touched)));
    assert_eq!(dab.play("R2")[0], "1 took:wall");
    assert_eq!(dab.play("L1 R3").len(), 2, "let go, away, and taken again: {:?}", dab.events);
}

#[test]
fn a_hold_on_touch_is_taken_in_the_air_only_and_not_while_rising() {
    let touched = HoldNumbers { when: HoldWhen::Touched, ..GRAB };
    let mut dab = Play::new(&SHAFT, &climber(Some(touched)), 91.0, 176.0);
    assert!(dab.play("R10").is_empty(), "standing beside it");
    let events = dab.play("RJ40");
    assert_eq!(events[0], "11 jumped:ground");
    let took: u64 = events[1].split(' ').next().unwrap().parse().unwrap();
    assert!(dab.rows[took as usize - 1].velocity.y >= 0.0 && events[1].ends_with("took:wall"), "{events:?}");
}

#[test]
fn a_hold_on_touch_is_taken_while_rising_where_asked_and_the_rise_is_over() {
    let touched = HoldNumbers { when: HoldWhen::Touched, while_rising: true, ..GRAB };
    let mut dab = Play::new(&SHAFT, &climber(Some(touched)), 86.0, 176.0);
    assert_eq!(dab.play("RJ9"), ["1 jumped:ground", "3 took:wall"]);
    assert!(dab.rows[2].velocity.y < 0.0, "it rises in the tick before");
    assert_eq!((dab.state(), dab.now().velocity.y), ("wall-hold", 0.0));
    assert_eq!(dab.now().feet, dab.rows[3].feet, "at rest at once");
    // The jump's button let go cuts nothing short that is over.
    let there = dab.feet();
    dab.play("R9");
    assert_eq!(dab.feet(), there);
    // Without it the reason is told in each tick of the rise.
    let touched = HoldNumbers { while_rising: false, ..touched };
    let why = Play::new(&SHAFT, &climber(Some(touched)), 86.0, 176.0).why("RJ9");
    assert!(why.contains(&"3 hold refused: still rising, and wall.hold.while_rising is false".to_owned()), "{why:?}");
    // While grab is held a wall is taken in a rise, whatever this says.
    for while_rising in [false, true] {
        let hold = HoldNumbers { while_rising, ..GRAB };
        let mut dab = Play::new(&SHAFT, &climber(Some(hold)), 86.0, 176.0);
        assert_eq!(dab.play("RGJ9"), ["1 jumped:ground", "3 took:wall"]);
    }
}

#[test]
fn a_hold_spends_the_air_jumps_where_asked_until_ground_or_a_ladder_gives_them_back() {
    for spends in [false, true] {
        let mut numbers = climber(Some(HoldNumbers { spends_air_jumps: spends, ..GRAB }));
        numbers.jump.as_mut().unwrap().air_jumps = 1;
        let mut dab = at_right_wall(&numbers);
        dab.play("RG5 L1 L9");
        let jumped = dab.play("J1");
        assert_eq!(jumped.is_empty(), spends, "let go, and in the air: {jumped:?}");
        // Down on the ground there is one again.
        dab.play("-90 J5 -5");
        assert_eq!(dab.play("J1").len(), 1, "{:?}", dab.events);
    }
}

#[test]
fn a_climb_that_a_ceiling_stops_says_so_once_and_what_it_is() {
    let rows = ["......", "...###", ".....#", ".....#", ".....#", "######"];
    let mut dab = Play::new(&rows, &climber(Some(GRAB)), 75.0, 70.0);
    let why = dab.why("RG1 GU60");
    assert_eq!(dab.events, ["1 took:wall", "18 stopped:head"]);
    assert!(dab.rows[18].contacts.above && !dab.rows[19].contacts.above);
    assert!(why.contains(&"18 climb stopped: tile@4,1 is above the head".to_owned()), "{why:?}");
    assert_eq!((dab.feet().1, dab.state()), (32.0 + 22.0, "wall-hold"));
    // Away from it and back again, it is told again.
    assert_eq!(dab.play("GD5 GU9").len(), 1);
}

#[test]
fn a_way_over_the_top_that_is_not_free_is_let_go_with_the_reason() {
    let rows = ["......", "...###", "......", ".....#", ".....#", ".....#", "######"];
    let over = HoldNumbers { climb_over: true, ..GRAB };
    let mut dab = Play::new(&rows, &climber(Some(over)), 75.0, 90.0);
    let why = dab.why("RG1 GU90");
    assert!(dab.events.iter().any(|event| event.ends_with("stopped:head")), "{:?}", dab.events);
    assert!(why.iter().any(|why| why.ends_with("let go: the way over the wall's top is not free")), "{why:?}");
}

#[test]
fn a_hold_from_the_ground_is_taken_only_where_asked_and_climbs_off() {
    for from_ground in [false, true] {
        let hold = HoldNumbers { from_ground, ..GRAB };
        let mut dab = Play::new(&SHAFT, &climber(Some(hold)), 91.0, 176.0);
        dab.play("G5");
        assert_eq!(dab.state(), if from_ground { "wall-hold" } else { "stand" });
        dab.play("GU30");
        assert_eq!(dab.feet().1 < 176.0, from_ground);
        dab.play("GD60");
        assert_eq!((dab.state(), dab.feet().1), ("stand", 176.0));
        assert_eq!(dab.events.iter().any(|event| event.ends_with("let-go:wall")), from_ground);
    }
}

#[test]
fn climbing_stops_with_the_middle_at_the_walls_top_without_jitter() {
    let rows = ["......", "......", ".....#", ".....#", ".....#", ".....#", "######"];
    let mut dab = Play::new(&rows, &climber(Some(GRAB)), 75.0, 80.0);
    dab.play("RG1 GU40");
    let places: Vec<f64> = (0..50)
        .map(|_| {
            dab.play("GU1");
            dab.feet().1
        })
        .collect();
    assert!(places.iter().all(|y| *y == 32.0 + 11.0), "{places:?}");
    assert_eq!(dab.state(), "wall-hold");
    // Down to its foot: on a wall that ends in the air the body falls once its middle is below.
    let rows = ["......", "......", ".....#", ".....#", "......", "......", "######"];
    let mut dab = Play::new(&rows, &climber(Some(GRAB)), 75.0, 60.0);
    dab.play("RG1 GD20");
    assert!(dab.events.last().unwrap().ends_with("let-go:wall"));
    let let_go = dab.rows.iter().find(|row| row.events.len() == 1 && row.tick > 1).unwrap();
    assert!(let_go.feet.y - 11.0 >= 64.0 && let_go.velocity.y == 0.0, "{let_go:?}");
}

#[test]
fn a_climb_over_goes_up_until_the_feet_are_level_then_onto_the_top() {
    let over = HoldNumbers { climb_over: true, ..GRAB };
    let rows = ["......", "......", ".....#", ".....#", ".....#", ".....#", "######"];
    let mut dab = Play::new(&rows, &climber(Some(over)), 75.0, 80.0);
    let events = dab.play("RG1 GU120");
    assert_eq!(events.len(), 2, "{events:?}");
    let end = dab.rows.iter().find(|row| row.events.len() == 1 && row.tick > 1).unwrap();
    assert_eq!((end.feet.x, end.feet.y, end.state.name()), (80.0, 32.0, "run"));
    assert!(dab.rows.windows(2).all(|pair| pair[1].feet.y <= pair[0].feet.y), "no jitter, no fling");
    assert_eq!((dab.state(), dab.feet().1), ("stand", 32.0));
    // Released half-way over, it goes on; away ends it.
    let mut dab = Play::new(&rows, &climber(Some(over)), 75.0, 80.0);
    dab.play("RG1 GU40 -60");
    assert_eq!(dab.state(), "stand");
    let mut dab = Play::new(&rows, &climber(Some(over)), 75.0, 80.0);
    let events = dab.play("RG1 GU42 L1");
    assert!(events.last().unwrap() == "44 let-go:wall", "{events:?}");
}

#[test]
fn a_jump_off_a_hold_is_a_wall_jump_or_nothing() {
    let mut dab = at_right_wall(&climber(Some(GRAB)));
    assert_eq!(dab.play("RG5 RGJ1"), ["1 took:wall", "6 jumped:wall"]);
    assert_eq!(dab.now().velocity.x, -110.0);
    let mut none = climber(Some(GRAB));
    none.wall.as_mut().unwrap().jump = None;
    none.jump.as_mut().unwrap().air_jumps = 3;
    let mut dab = at_right_wall(&none);
    assert_eq!(dab.play("RG5 RGJ5"), ["1 took:wall"]);
    assert_eq!(dab.state(), "wall-hold");
}

#[test]
fn walls_give_air_jumps_back_only_where_asked() {
    for asked in [false, true] {
        let mut numbers = climber(None);
        numbers.wall.as_mut().unwrap().jump = None;
        let jump = numbers.jump.as_mut().unwrap();
        (jump.air_jumps, jump.air_jumps_back_on_wall) = (1, asked);
        let mut dab = Play::new(&SHAFT, &numbers, 80.0, 176.0);
        dab.play("RJ5 R1 RJ5 R20 RJ1");
        let air = dab.events.iter().filter(|event| event.ends_with("jumped:air")).count();
        assert_eq!(air, if asked { 2 } else { 1 }, "{:?}", dab.events);
    }
}

#[test]
fn a_jump_against_the_side_of_a_ledge_still_clears_it_with_a_bump_memory() {
    let rows = ["........", "........", "........", "....####", "....####", "########"];
    let go = |memory| {
        let mut numbers = play::dab();
        numbers.air.bump_memory = memory;
        numbers.air.acceleration = Some(wumple_core::numbers::Acceleration::Rate(60.0));
        let mut dab = Play::new(&rows, &numbers, 40.0, 80.0);
        // At full speed against the side, then up past it.
        dab.play("R5 RJ26");
        (dab.feet(), dab.now().velocity.x)
    };
    let (without, with) = (go(0.0), go(0.4));
    assert!(with.0.0 > without.0.0 + 5.0, "{without:?} {with:?}");
}

#[test]
fn a_ledge_lift_sets_the_feet_onto_a_ledge_just_missed() {
    let rows = ["........", "........", "........", "....####", "########"];
    for (below, lift, lifted) in [(1.5, 2.0, true), (2.5, 2.0, false), (1.5, 0.0, false)] {
        let mut numbers = play::dab();
        numbers.body.ledge_lift = lift;
        let mut dab = Play::new(&rows, &numbers, 58.5, 48.0 + below);
        let events = dab.play("R1");
        assert_eq!(events == ["1 lifted", "1 landed:14.694"], lifted, "{below} {lift}: {events:?}");
        assert_eq!((dab.feet().1, dab.feet().0 > 59.0), if lifted { (48.0, true) } else { (dab.feet().1, false) });
    }
}

#[test]
fn a_corner_nudge_takes_the_smallest_way_past_a_corner() {
    let rows = ["........", "...##...", "........", "........", "........", "########"];
    // x of the feet -> where the corner puts them; the underside spans 48 to 80 px, the body 10 px.
    for (x, nudge, to) in [(45.0, 3.0, Some(43.0)), (46.0, 3.0, Some(43.0)), (47.0, 3.0, None), (83.0, 3.0, Some(85.0))]
    {
        let mut numbers = play::dab();
        numbers.body.corner_nudge = nudge;
        let mut dab = Play::new(&rows, &numbers, x, 80.0);
        let events = dab.play("J15");
        match to {
            Some(to) => {
                assert_eq!(dab.feet().0, to, "{events:?}");
                assert!(events[1].ends_with("nudged") && dab.feet().1 < 50.0, "{events:?}");
            }
            None => assert!(events[1].ends_with("bumped:head"), "{events:?}"),
        }
    }
}

#[test]
fn a_wall_that_a_nudge_leads_to_is_felt_in_that_tick() {
    let room = ["......", "..#.#.", "....#.", "....#.", "....#.", "######"];
    let mirrored = ["......", ".#.#..", ".#....", ".#....", ".#....", "######"];
    // The wall's face is at 64 px, 8 px from the hitbox that starts 2 px under a corner, and 6 px once it is nudged.
    for (probe, felt) in [(5.5, false), (6.0, true), (7.5, true)] {
        for (rows, x, sign) in [(room, 51.0, 1.0), (mirrored, 45.0, -1.0)] {
            let mut numbers = play::dab();
            (numbers.body.corner_nudge, numbers.body.wall_probe) = (3.0, probe);
            let mut dab = Play::new(&rows, &numbers, x, 80.0);
            let events = dab.play("J20");
            let nudged = dab.rows.iter().position(|row| row.feet.x == x + 2.0 * sign).expect("a nudge");
            assert!(events.contains(&format!("{nudged} nudged")), "{events:?}");
            for (tick, row) in dab.rows.iter().enumerate() {
                let touched = if sign > 0.0 { row.contacts.right } else { row.contacts.left };
                assert_eq!(touched, felt && tick >= nudged, "probe {probe}, tick {tick}, {events:?}");
            }
        }
    }
}

#[test]
fn of_two_walls_lost_in_one_tick_the_direction_at_the_jump_decides() {
    // A shaft as wide as Dab and its probes, open below.
    let rows = ["#.##", "#.##", "#.##", "....", "....", "....", "....", "####"];
    let numbers = TuningNumbers {
        body: wumple_core::numbers::BodyNumbers { wall_probe: 3.0, ..climber(None).body },
        ..climber(None)
    };
    for (script, push) in [("-1 LJ1", 110.0), ("-1 RJ1", -110.0)] {
        let mut dab = Play::new(&rows, &numbers, 24.0, 60.0);
        let mut lost = None;
        while lost.is_none() {
            dab.play("-1");
            lost = (!dab.now().contacts.left && !dab.now().contacts.right).then_some(dab.now().tick);
        }
        assert!(dab.rows[dab.rows.len() - 2].contacts.left && dab.rows[dab.rows.len() - 2].contacts.right);
        let events = dab.play(script);
        assert!(events.iter().any(|event| event.ends_with("jumped:wall")), "{events:?}");
        assert_eq!(dab.now().velocity.x, push, "{script}");
    }
}

#[test]
fn a_wall_that_was_climbed_over_is_held_again() {
    // A block with a wall on either side, climbed up and over from both.
    let rows = [
        "..........",
        "..........",
        "...####...",
        "...####...",
        "...####...",
        "...####...",
        "..........",
        "##########",
    ];
    let hold = HoldNumbers { when: HoldWhen::Touched, climb_over: true, ..GRAB };
    for (x, to, from) in [(30.0, "R", "L"), (130.0, "L", "R")] {
        let mut dab = Play::new(&rows, &climber(Some(hold)), x, 112.0);
        let jump = format!("{to}J14 {to}10 {to}U120");
        let events = dab.play(&jump);
        assert!(events.iter().any(|event| event.ends_with("took:wall")), "{to}: {events:?}");
        assert!(events.iter().any(|event| event.ends_with("let-go:wall")), "{to}: {events:?}");
        // Back over the edge, and against the same wall.
        while dab.state() == "run" || dab.state() == "stand" {
            dab.play(&format!("{from}1"));
            assert!(dab.rows.len() < 600, "on the block for ever");
        }
        let events = dab.play(&format!("{from}4 {to}20"));
        assert!(events.iter().any(|event| event.ends_with("took:wall")), "{to}: {events:?} {:?}", dab.now());
    }
}
