//! Characters whose groups meet: they stop each other, stand on each other and carry each other.

use crate::rooms;

use crate::rooms::{full_grid, full_tuning};
use proptest::prelude::*;
use wumple_core::{
    Buttons, CharacterId, DVec2, Edges, Event, Grid, Group, Meetings, Piece, PlatformNumbers, Platforms, Saved,
    StartError, State, Support, Terrain, Tuning, TuningNumbers, World,
};

const PAIR: &str = "pair";
const FLOOR: f64 = 80.0;
const RIGHT: Buttons = Buttons { right: true, ..Buttons::NONE };
const LEFT: Buttons = Buttons { left: true, ..Buttons::NONE };
const JUMP: Buttons = Buttons { jump: true, ..Buttons::NONE };

fn group(word: &str) -> Group {
    Group::new(word).unwrap()
}

fn who_meet_each_other() -> Meetings {
    Meetings::new(&[(group(PAIR), &[Group::LEVEL, group(PAIR)])]).unwrap()
}

fn tuning(word: &str) -> Tuning {
    let mut numbers = TuningNumbers::new(10.0, 20.0, 120.0).with_jump(54.0, 0.35);
    numbers.group = group(word);
    Tuning::check(&numbers).unwrap()
}

/// Two of the pair over a floor at y = 80, from x = 0 to 320.
fn two(one: DVec2, other: DVec2) -> (World<Grid>, [CharacterId; 2]) {
    let mut world = World::new(floor()).with_meetings(who_meet_each_other());
    let ids = [one, other].map(|feet| world.add_character(tuning(PAIR), feet).unwrap());
    (world, ids)
}

fn floor() -> Grid {
    let rows = [".".repeat(20), ".".repeat(20), ".".repeat(20), ".".repeat(20), ".".repeat(20), "#".repeat(20)];
    let rows: Vec<&str> = rows.iter().map(String::as_str).collect();
    Grid::from_rows(&rows, 16.0, Edges { left: wumple_core::Edge::Solid, ..Edges::default() }).unwrap()
}

fn hold<T: Terrain>(world: &mut World<T>, held: [Buttons; 2], ticks: usize) -> Vec<String> {
    let mut events = Vec::new();
    for _ in 0..ticks {
        world.tick(&held);
        assert_eq!(world.violation(), None);
        for (number, character) in world.characters().enumerate() {
            events.extend(character.report().events.iter().map(|event| format!("{} {event}", number + 1)));
        }
    }
    events
}

fn feet<T: Terrain>(world: &World<T>, ids: [CharacterId; 2]) -> [(f64, f64); 2] {
    ids.map(|id| (world.report(id).feet.x, world.report(id).feet.y))
}

#[test]
fn they_stop_each_other_and_neither_is_pushed() {
    // Whoever was added first, and whoever walks.
    for (walker, goes, at, stops) in [(0, RIGHT, [60.0, 100.0], 90.0), (1, LEFT, [60.0, 100.0], 70.0)] {
        let (mut world, ids) = two(DVec2::new(at[0], FLOOR), DVec2::new(at[1], FLOOR));
        let mut held = [Buttons::NONE; 2];
        held[walker] = goes;
        let events = hold(&mut world, held, 60);
        let mut expected = at;
        expected[walker] = stops;
        assert_eq!(feet(&world, ids), expected.map(|x| (x, FLOOR)), "{events:?}");
        let beside = world.touched(ids[walker]);
        let other = Some(Piece::Character(1 - walker));
        assert_eq!(if goes == RIGHT { beside.right } else { beside.left }, other);
    }
}

#[test]
fn two_who_walk_towards_each_other_meet_and_who_walks_behind_keeps_up() {
    let (mut world, ids) = two(DVec2::new(60.0, FLOOR), DVec2::new(140.0, FLOOR));
    hold(&mut world, [RIGHT, LEFT], 60);
    let [(one, _), (other, _)] = feet(&world, ids);
    assert!(other - one >= 10.0 && other - one < 12.0, "{one} {other}");
    let (mut world, ids) = two(DVec2::new(60.0, FLOOR), DVec2::new(80.0, FLOOR));
    hold(&mut world, [RIGHT, RIGHT], 60);
    assert_eq!(feet(&world, ids), [(180.0, FLOOR), (200.0, FLOOR)]);
}

#[test]
fn one_stands_on_the_other_is_carried_and_jumps_off() {
    let (mut world, ids) = two(DVec2::new(60.0, FLOOR), DVec2::new(62.0, 40.0));
    let events = hold(&mut world, [Buttons::NONE; 2], 30);
    assert!(events.iter().any(|event| event.starts_with("2 landed")), "{events:?}");
    let upper = world.report(ids[1]);
    assert_eq!((upper.feet, upper.support), (DVec2::new(62.0, 60.0), Support::Character(0)));
    assert_eq!(world.touched(ids[1]).below, Some(Piece::Character(0)));
    hold(&mut world, [RIGHT, Buttons::NONE], 30);
    assert_eq!(feet(&world, ids), [(120.0, FLOOR), (122.0, 60.0)], "carried");
    let events = hold(&mut world, [Buttons::NONE, JUMP], 1);
    assert_eq!(events, ["2 jumped:ground"]);
}

#[test]
fn who_jumps_takes_along_whom_it_carries() {
    let (mut world, ids) = two(DVec2::new(60.0, FLOOR), DVec2::new(60.0, 60.0));
    assert_eq!(world.report(ids[1]).support, Support::Character(0));
    let mut highest = [f64::INFINITY; 2];
    for _ in 0..90 {
        hold(&mut world, [JUMP, Buttons::NONE], 1);
        for (highest, (_, y)) in highest.iter_mut().zip(feet(&world, ids)) {
            *highest = highest.min(y);
        }
    }
    // 54 px, less what the last tick of it leaves out.
    assert!((FLOOR - highest[0] - 54.0).abs() < 1.0, "{highest:?}");
    assert!(highest[1] <= highest[0] - 20.0, "{highest:?}");
    assert_eq!(feet(&world, ids), [(60.0, FLOOR), (60.0, 60.0)], "and down again");
    assert_eq!(world.report(ids[1]).state, State::Stand);
}

#[test]
fn who_is_in_no_group_or_in_one_that_is_not_said_to_meet_goes_through() {
    for (words, meets) in [([PAIR, "level"], true), (["level", "level"], true), ([PAIR, PAIR], false)] {
        let said = if meets { who_meet_each_other() } else { Meetings::default() };
        let mut world = World::new(floor()).with_meetings(said);
        let one = world.add_character(tuning(words[0]), DVec2::new(60.0, FLOOR)).unwrap();
        world.add_character(tuning(words[1]), DVec2::new(100.0, FLOOR)).unwrap();
        hold(&mut world, [RIGHT, Buttons::NONE], 60);
        assert_eq!(world.report(one).feet.x, 180.0, "{words:?}");
    }
}

#[test]
fn nobody_is_put_into_another_and_the_dead_are_in_nobodys_way() {
    let (mut world, ids) = two(DVec2::new(60.0, FLOOR), DVec2::new(100.0, FLOOR));
    let inside = Err(StartError::InsideCharacter { character: 1 });
    assert_eq!(world.place(ids[0], DVec2::new(98.0, FLOOR)), inside);
    let refused = world.add_character(tuning(PAIR), DVec2::new(98.0, FLOOR)).unwrap_err();
    assert_eq!(refused.to_string(), "the hitbox would be inside character 2");
    assert!(!world.probe(&tuning(PAIR)).fits(DVec2::new(98.0, FLOOR)));
    assert!(world.probe(&tuning("level")).fits(DVec2::new(98.0, FLOOR)));
    assert!(world.remove(ids[1]));
    world.place(ids[0], DVec2::new(98.0, FLOOR)).unwrap();
    let other = world.add_character(tuning(PAIR), DVec2::new(140.0, FLOOR)).unwrap();
    assert_eq!(world.touched(other).left, None);
}

#[test]
fn a_hoist_lifts_one_beneath_the_other() {
    let hoist = PlatformNumbers::new(DVec2::new(48.0, 8.0), DVec2::new(40.0, 72.0)).to(DVec2::new(40.0, 20.0), 60.0);
    let platforms = Platforms::new(&[hoist], 60.0).unwrap();
    let mut world = World::with_platforms(floor(), platforms).with_meetings(who_meet_each_other());
    let lower = world.add_character(tuning(PAIR), DVec2::new(60.0, 72.0)).unwrap();
    let upper = world.add_character(tuning(PAIR), DVec2::new(64.0, 30.0)).unwrap();
    for _ in 0..50 {
        let events = hold(&mut world, [Buttons::NONE; 2], 1);
        assert!(!events.iter().any(|event| event.contains("crushed")), "{events:?}");
    }
    let (top, lower, upper) =
        (world.platform_report(0).place.top, world.report(lower).feet.y, world.report(upper).feet.y);
    assert_eq!((lower, upper), (top, top - 20.0));
}

/// Some characters who all meet, in a room with everything.
fn crowd(grid: &Grid, tuning: &Tuning, count: usize, seed: u32) -> (World<Grid>, Vec<CharacterId>) {
    let mut world = World::new(grid.clone()).with_meetings(who_meet_each_other());
    let mut numbers = tuning.numbers().clone();
    numbers.group = group(PAIR);
    let tuning = Tuning::check(&numbers).unwrap();
    let places = rooms::places(grid.width(), grid.height(), seed);
    let ids = places.filter_map(|feet| world.add_character(tuning.clone(), feet).ok()).take(count).collect();
    (world, ids)
}

/// Which of them overlap.
fn overlapping(world: &World<Grid>, ids: &[CharacterId]) -> Vec<(CharacterId, CharacterId)> {
    let there = |id: &&CharacterId| !world.character(**id).has_ended();
    let pairs = ids.iter().filter(there).flat_map(|one| ids.iter().filter(there).map(move |other| (*one, *other)));
    let overlap = |(one, other): &(CharacterId, CharacterId)| {
        let [one_box, mut other_box] = [one, other].map(|id| world.character(*id).hitbox());
        // Sides that meet may differ in their last digit.
        (other_box.left, other_box.right) = (other_box.left + 1e-9, other_box.right - 1e-9);
        (other_box.top, other_box.bottom) = (other_box.top + 1e-9, other_box.bottom - 1e-9);
        one < other && one_box.overlaps(&other_box)
    };
    pairs.filter(overlap).collect()
}

proptest! {
    #![proptest_config(rooms::cases(1500))]

    #[test]
    fn nobody_gets_into_another_unless_one_is_crushed(
        grid in full_grid(), tuning in full_tuning(), count in 2..5usize, seed in any::<u32>(),
        scripts in prop::collection::vec(rooms::buttons(), 4),
    ) {
        let (mut world, ids) = crowd(&grid, &tuning, count, seed);
        let mut allowed: Vec<(CharacterId, CharacterId)> = Vec::new();
        let scripts: Vec<Vec<Buttons>> = scripts
            .iter()
            .map(|script| script.iter().flat_map(|(held, ticks)| core::iter::repeat_n(*held, *ticks)).collect())
            .collect();
        for tick in 0..scripts[0].len() {
            let held: Vec<Buttons> =
                scripts.iter().map(|script| script.get(tick).copied().unwrap_or(Buttons::NONE)).collect();
            world.tick(&held);
            prop_assert_eq!(world.violation(), None);
            let found = overlapping(&world, &ids);
            allowed.retain(|pair| found.contains(pair));
            for pair in found {
                let is_crushed = |id: CharacterId| {
                    world.report(id).events.iter().any(|event| matches!(event, Event::Crushed(_)))
                };
                if is_crushed(pair.0) || is_crushed(pair.1) {
                    allowed.push(pair);
                }
                let reports = || ids.iter().map(|id| world.report(*id)).collect::<Vec<_>>();
                prop_assert!(allowed.contains(&pair), "tick {tick}: {pair:?} {:#?}", reports());
            }
        }
    }

    #[test]
    fn saved_at_any_tick_they_go_on_the_same_to_the_bit(
        grid in full_grid(), tuning in full_tuning(), seed in any::<u32>(), script in rooms::buttons(), at in 0..60usize,
    ) {
        let (mut world, _) = crowd(&grid, &tuning, 3, seed);
        let held: Vec<Buttons> =
            script.iter().flat_map(|(held, ticks)| core::iter::repeat_n(*held, *ticks)).collect();
        let at = at.min(held.len());
        let reports = |world: &mut World<Grid>| -> Vec<_> {
            held[at..].iter().flat_map(|held| {
                world.tick(&[*held, LEFT, *held]);
                world.characters().map(|of| of.report().clone()).collect::<Vec<_>>()
            }).collect()
        };
        held[..at].iter().for_each(|held| world.tick(&[*held, LEFT, *held]));
        let bytes = world.save().to_bytes(&world);
        let first = reports(&mut world);
        let (mut fresh, _) = crowd(&grid, &tuning, 3, seed);
        let saved = Saved::from_bytes(&bytes, &fresh).unwrap();
        fresh.restore(&saved);
        prop_assert_eq!(&reports(&mut fresh), &first);
        world.restore(&saved);
        prop_assert_eq!(&reports(&mut world), &first);
    }
}
