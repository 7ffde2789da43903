//! Ladders: taken on intent, climbed, left. A sentence each, played.

use crate::play::{Play, ladder_climber};
use wumple_core::numbers::{Bounce, PlatformSurface, Release};
use wumple_core::{DVec2, Material, PlatformNumbers, TuningNumbers};

/// A ladder from the floor to a platform's height, its top open.
const ROOM: [&str; 9] =
    ["........", "........", "...H....", "...H....", "...H....", "...H....", "...H....", "...H....", "########"];
const CENTRE: f64 = 56.0;
const FLOOR: f64 = 128.0;
const TOP: f64 = 32.0;

fn beside(x: f64) -> Play {
    Play::new(&ROOM, &ladder_climber(), x, FLOOR)
}

#[test]
fn it_is_taken_on_intent_within_the_probe_and_not_otherwise() {
    for (off, taken) in [(0.0, true), (5.0, true), (-5.0, true), (5.5, false), (-6.0, false)] {
        let mut dab = beside(CENTRE + off);
        assert_eq!(!dab.play("U1").is_empty(), taken, "{off} px off the middle");
        assert_eq!(dab.state(), if taken { "ladder" } else { "stand" });
    }
    let mut dab = beside(CENTRE);
    assert!(dab.play("-5 J3 -60").iter().all(|event| !event.contains("ladder")), "passing by, jumping through");
}

#[test]
fn running_past_is_not_slowed_by_a_hair() {
    let plain = ["........"; 8].into_iter().chain(["########"]).collect::<Vec<_>>();
    let mut past = beside(10.0);
    let mut plain = Play::new(&plain, &ladder_climber(), 10.0, FLOOR);
    for _ in 0..50 {
        past.play("R1");
        plain.play("R1");
        assert_eq!(past.feet(), plain.feet());
    }
}

#[test]
fn it_is_climbed_rested_on_and_climbed_down_at_their_own_speeds() {
    let mut dab = beside(CENTRE);
    assert_eq!(dab.play("U30"), ["1 took:ladder"]);
    assert!((dab.feet().1 - (FLOOR - 30.0)).abs() < 1e-9);
    assert_eq!(dab.now().velocity.y, -60.0);
    let half_way = dab.feet();
    dab.play("-200");
    assert_eq!((dab.feet(), dab.state(), dab.now().velocity.y), (half_way, "ladder", 0.0));
    dab.play("D10");
    assert!((dab.feet().1 - half_way.1 - 15.0).abs() < 1e-9);
    assert_eq!(dab.play("D20"), ["250 let-go:ladder"], "at the floor");
    assert_eq!((dab.state(), dab.feet().1), ("stand", FLOOR));
}

#[test]
fn its_top_is_ground_climbed_onto_without_a_hop_and_gone_down_through() {
    let mut dab = beside(CENTRE);
    let events = dab.play("U150");
    assert_eq!(events, ["1 took:ladder", "96 let-go:ladder"], "held up does nothing on the top");
    assert!(dab.rows.iter().all(|row| row.feet.y >= TOP), "no hop");
    assert_eq!((dab.state(), dab.feet().1, dab.now().support.to_string().as_str()), ("stand", TOP, "ladder"));
    dab.play("J50");
    assert_eq!((dab.state(), dab.feet().1), ("stand", TOP), "landed on it again");
    assert_eq!(dab.play("D5").len(), 1);
    assert_eq!(dab.state(), "ladder");
    assert!(dab.feet().1 > TOP + 5.0);
}

#[test]
fn a_jump_lets_go_and_takes_it_again_only_after_a_fresh_press() {
    let mut dab = beside(CENTRE);
    dab.play("U20");
    assert_eq!(dab.play("UJ1"), ["21 jumped:ladder"]);
    assert_eq!(dab.play("UJ10"), [] as [&str; 0], "up still held");
    dab.play("J1");
    assert_eq!(dab.play("UJ1"), ["33 took:ladder"]);
    // Held all the time, jump does nothing on the ladder.
    assert_eq!(dab.play("UJ20"), [] as [&str; 0]);
    assert_eq!(dab.state(), "ladder");
}

#[test]
fn a_press_kept_for_the_ground_is_forgotten_on_a_ladder() {
    let mut numbers = ladder_climber();
    numbers.jump.as_mut().unwrap().buffer_time = 1.0;
    let mut dab = Play::new(&ROOM, &numbers, CENTRE, 100.0);
    assert_eq!(dab.play("-1 J1 -1 U1 -30"), ["4 took:ladder"]);
}

#[test]
fn sideways_it_is_left_where_the_middle_leaves_and_without_a_speed_downward() {
    let mut dab = beside(CENTRE);
    dab.play("U30");
    let events = dab.play("R14");
    assert_eq!(events.len(), 1, "{events:?}");
    let left = dab.rows.iter().find(|row| row.tick > 1 && !row.events.is_empty()).unwrap();
    assert!(left.feet.x > 64.0 && left.feet.x < 64.7 && left.velocity.y == 0.0 && left.velocity.x == 40.0);
    assert_eq!(dab.state(), "fall");
}

#[test]
fn centring_glides_to_the_middle_at_side_speed() {
    let mut numbers = ladder_climber();
    numbers.ladder.as_mut().unwrap().centre = true;
    let mut dab = Play::new(&ROOM, &numbers, CENTRE + 4.0, FLOOR);
    dab.play("U3");
    assert!((dab.feet().0 - (CENTRE + 2.0)).abs() < 1e-9 && dab.now().velocity.x == 0.0);
    dab.play("U10");
    assert_eq!(dab.feet().0, CENTRE);
}

#[test]
fn where_up_is_jump_a_press_of_up_climbs_on_a_ladder_and_jumps_elsewhere() {
    let mut numbers = ladder_climber();
    numbers.ladder.as_mut().unwrap().up_is_jump = true;
    let mut dab = Play::new(&ROOM, &numbers, 24.0, FLOOR);
    assert_eq!(dab.play("U1"), ["1 jumped:ground"]);
    let mut dab = Play::new(&ROOM, &numbers, CENTRE, FLOOR);
    assert_eq!(dab.play("U5 -2 U5 -2 UJ5"), ["1 took:ladder"]);
    assert_eq!(dab.play("-2 J1"), ["22 jumped:ladder"]);
}

#[test]
fn ladders_in_mid_air_end_where_the_body_no_longer_overlaps_them() {
    let rows = ["........", "...H....", "...H....", "........", "........", "........", "........", "########"];
    let mut dab = Play::new(&rows, &ladder_climber(), CENTRE, 40.0);
    dab.play("U1");
    let events = dab.play("D60");
    assert!(events[0].ends_with("let-go:ladder"), "{events:?}");
    let left = dab.rows.iter().find(|row| row.tick > 1 && !row.events.is_empty()).unwrap();
    assert!(left.feet.y - 22.0 >= 48.0 && left.feet.y - 22.0 < 50.0);
    assert!(events[1].contains("landed"));
}

#[test]
fn side_by_side_a_body_goes_from_one_to_the_other() {
    let rows = ["........", "...HH...", "...HH...", "...HH...", "...HH...", "########"];
    let mut dab = Play::new(&rows, &ladder_climber(), CENTRE, 80.0);
    let events = dab.play("U20 R30");
    assert_eq!(events, ["1 took:ladder"]);
    assert!(dab.feet().0 > 64.0 && dab.state() == "ladder");
}

#[test]
fn under_a_one_way_floor_it_goes_on_through_and_that_tile_is_its_top() {
    let rows = ["........", "........", "..===...", "...H....", "...H....", "...H....", "########"];
    let mut dab = Play::new(&rows, &ladder_climber(), CENTRE, 96.0);
    dab.play("U90");
    assert_eq!((dab.state(), dab.feet().1, dab.now().support.to_string().as_str()), ("stand", 32.0, "one-way"));
    // Down again, though the body overlaps the shelf beside the ladder.
    let mut dab = Play::new(&rows, &ladder_climber(), CENTRE + 5.0, 32.0);
    dab.play("D20");
    assert_eq!(dab.state(), "ladder");
    assert!(dab.feet().1 > 45.0, "{:?}", dab.events);
}

#[test]
fn under_a_solid_ceiling_the_head_stops_the_climb() {
    let rows = ["########", "...H....", "...H....", "...H....", "########"];
    let mut dab = Play::new(&rows, &ladder_climber(), CENTRE, 64.0);
    assert_eq!(dab.play("U100"), ["1 took:ladder", "27 stopped:head"]);
    assert_eq!((dab.feet().1, dab.state()), (38.0, "ladder"));
}

#[test]
fn down_is_refused_where_something_solid_supports() {
    let rows = ["........", "........", "..#H....", "..#H....", "..#H....", "########"];
    let mut half_on_solid = Play::new(&rows, &ladder_climber(), 52.0, 32.0);
    assert!(half_on_solid.play("D20").is_empty());
    let mut off_solid = Play::new(&rows, &ladder_climber(), 54.0, 32.0);
    assert_eq!(off_solid.play("D1"), ["1 took:ladder"]);
}

#[test]
fn without_ladders_in_the_tuning_they_are_empty() {
    let no_ladder = TuningNumbers { ladder: None, ..ladder_climber() };
    let mut dab = Play::new(&ROOM, &no_ladder, CENTRE, TOP);
    assert_eq!(dab.state(), "fall");
    dab.play("U100");
    assert_eq!((dab.state(), dab.feet().1), ("stand", FLOOR));
}

#[test]
fn the_speeds_reported_are_those_commanded_even_against_a_wall() {
    let rows = ["........", "..#H....", "..#H....", "..#H....", "..#H....", "########"];
    let mut dab = Play::new(&rows, &ladder_climber(), CENTRE, 80.0);
    dab.play("U20 L20");
    assert_eq!((dab.feet().0, dab.state(), dab.now().velocity.x), (53.0, "ladder", -40.0));
}

/// A one-way shelf of 48 x 8 px about the ladder, with its top at this height, and perhaps on its way up.
fn shelf(top: f64, speed: f64) -> PlatformNumbers {
    let at = DVec2::new(CENTRE - 24.0, top);
    let mut shelf = PlatformNumbers::new(DVec2::new(48.0, 8.0), at);
    shelf.surface = PlatformSurface::OneWay;
    if speed > 0.0 { shelf.to(at - DVec2::new(0.0, 96.0), speed) } else { shelf }
}

#[test]
fn a_shelf_that_comes_up_meets_who_rests_on_the_ladder_and_not_who_climbs_up() {
    for (held, taken_along) in [("-", true), ("U", false)] {
        let mut dab = Play::on(&[shelf(140.0, 90.0)], &ROOM, &ladder_climber(), CENTRE, FLOOR);
        dab.play("U20");
        let events = dab.play(&format!("{held}60"));
        let lifted = dab.rows.iter().any(|row| row.support.to_string().starts_with("platform"));
        assert_eq!(lifted, taken_along, "{held}: {events:?}");
    }
}

#[test]
fn a_shelf_across_the_ladder_stops_who_climbs_down_once() {
    for top in [60.0, 64.0, 71.5] {
        let mut dab = Play::on(&[shelf(top, 0.0)], &ROOM, &ladder_climber(), CENTRE, TOP);
        let events: Vec<String> =
            dab.play("D120").into_iter().map(|event| event[event.find(' ').unwrap() + 1..].to_owned()).collect();
        assert_eq!(events, ["took:ladder", "let-go:ladder", "took:ladder", "let-go:ladder"], "{top}");
        assert_eq!((dab.state(), dab.feet()), ("stand", (CENTRE, FLOOR)));
    }
}

#[test]
fn bellows_throw_up_who_climbs_down_onto_them() {
    let mut bellows = shelf(80.0, 0.0);
    bellows.material = Material { bounce: Some(Bounce { height: 40.0, release: Release::None }), ..Material::PLAIN };
    let mut dab = Play::on(&[bellows], &ROOM, &ladder_climber(), CENTRE, TOP);
    let events = dab.play("D34");
    assert!(events[1].ends_with("let-go:ladder") && events[2].ends_with("bounced:1"), "{events:?}");
    // Down is held: the ladder is not taken again for it, and he comes down on the bellows again and again.
    let events = dab.play("D300");
    assert!(events.len() >= 3 && events.iter().all(|event| event.ends_with("bounced:1")), "{events:?}");
    assert!(dab.play("-1 D1 -1").iter().any(|event| event.ends_with("took:ladder")));
}

#[test]
fn where_up_is_jump_up_pressed_while_jump_is_held_is_no_press() {
    let mut numbers = ladder_climber();
    numbers.ladder.as_mut().unwrap().up_is_jump = true;
    numbers.jump.as_mut().unwrap().air_jumps = 1;
    // Far from the ladder, in the air: only a fresh press is an air jump.
    for (script, jumps) in [("J5 UJ5", 1), ("J5 -1 U5", 2), ("U5 UJ5", 1), ("U5 -1 J5", 2)] {
        let mut dab = Play::new(&ROOM, &numbers, CENTRE + 40.0, FLOOR);
        let events = dab.play(script);
        assert_eq!(events.iter().filter(|event| event.contains("jumped")).count(), jumps, "{script}: {events:?}");
    }
}
