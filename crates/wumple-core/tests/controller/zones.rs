//! Zones: which are met, in which order, at any speed and any rate.

use crate::rooms;

use crate::play::{Play, dab};
use proptest::prelude::*;
use wumple_core::advanced::Features;
use wumple_core::numbers::{FeelNumbers, Scheme};
use wumple_core::{
    Block, Buttons, DVec2, DrawnZone, Edge, Edges, Event, Felt, Grid, Hitbox, Launch, Margin, PlatformNumbers,
    Platforms, Prop, Ramp, Surface, Terrain, TileProperties, Tuning, TuningNumbers, World, Zone, ZoneId, ZoneKind,
    ZoneOf,
};

/// `.` empty, `#` solid, `*` a pickup, `+` a checkpoint, `!` a goal, `^` a hazard, `k` a kind of the game's own, `S` solid and a
/// hazard by touch.
fn grid(rows: &[&str]) -> Grid {
    let own = ZoneKind::of_word("kiln").unwrap();
    let kinds = [
        TileProperties::EMPTY,
        TileProperties::SOLID,
        TileProperties::zone(ZoneKind::Pickup),
        TileProperties::zone(ZoneKind::Checkpoint),
        TileProperties::zone(ZoneKind::Goal),
        TileProperties::zone(ZoneKind::Hazard),
        TileProperties::zone(own),
        TileProperties { zone: Some(Zone::of(ZoneKind::Hazard).by_touch()), ..TileProperties::SOLID },
    ];
    let tiles = rows.iter().flat_map(|row| row.bytes().map(|letter| b".#*+!^kS".iter().position(|of| *of == letter)));
    let tiles = tiles.map(|kind| kind.unwrap() as u8).collect();
    Grid::new(rows[0].len(), tiles, 16.0, &kinds, Edges::default()).unwrap()
}

fn play(rows: &[&str], x: f64, y: f64) -> Play {
    Play::in_room(grid(rows), &dab(), x, y)
}

#[test]
fn pickups_are_each_for_itself_and_other_tiles_that_share_edges_are_one() {
    let rows = ["..............", "..**.^^..!....", ".....^...!!...", "##############"];
    let events = play(&rows, 24.0, 48.0).play("R120").join("; ");
    let expected = "5 entered:pickup@2,1; 13 entered:pickup@3,1; 18 left:pickup@2,1; 26 left:pickup@3,1; \
        29 entered:hazard@5,1; 50 left:hazard@5,1; 61 entered:goal@9,1; 82 left:goal@9,1";
    let words: Vec<&str> = events.split("; ").map(|event| event.split_once(' ').unwrap().1).collect();
    let wanted: Vec<&str> = expected.split("; ").map(|event| event.split_once(' ').unwrap().1).collect();
    assert_eq!(words, wanted, "{events}");
}

#[test]
fn what_is_overlapped_at_the_start_is_entered_in_tick_1() {
    let mut room = play(&["....", ".^..", "####"], 24.0, 32.0);
    assert!(room.now().events.is_empty());
    assert_eq!(room.play("-3"), ["1 entered:hazard@1,1"]);
    assert_eq!(room.world.character(room.id).zones().len(), 1);
    // Placed out of it and into it again.
    room.world.place(room.id, DVec2::new(56.0, 32.0)).unwrap();
    assert_eq!(room.play("-1"), ["4 placed", "4 left:hazard@1,1"]);
    room.world.place(room.id, DVec2::new(24.0, 32.0)).unwrap();
    assert_eq!(room.play("-1"), ["5 placed", "5 entered:hazard@1,1"]);
}

#[test]
fn met_and_passed_in_one_tick_both_are_said_in_the_order_of_the_way() {
    let rows = ["....*..^..!..k....", "##################"];
    let mut numbers = dab();
    (numbers.body.width, numbers.body.height) = (6.0, 10.0);
    let mut room = Play::in_room(grid(&rows), &numbers, 24.0, 16.0);
    room.world.launch(room.id, DVec2::new(14_400.0, -1.0), Launch { ticks: 4, unbraked: true }).unwrap();
    let events = room.play("-1");
    assert_eq!(
        events,
        [
            "1 launched",
            "1 landed:13.694",
            "1 entered:pickup@4,0",
            "1 left:pickup@4,0",
            "1 entered:hazard@7,0",
            "1 left:hazard@7,0",
            "1 entered:goal@10,0",
            "1 left:goal@10,0",
            "1 entered:kiln@13,0",
            "1 left:kiln@13,0",
        ]
    );
}

#[test]
fn at_the_same_place_pickups_come_before_checkpoints_goals_hazards_and_others() {
    let rows = [".....", ".....", "#####"];
    let place = Hitbox { left: 32.0, right: 48.0, top: 0.0, bottom: 32.0 };
    let kinds = ["kiln", "hazard", "goal", "checkpoint", "pickup"].map(|word| ZoneKind::of_word(word).unwrap());
    let zones = kinds.map(|kind| DrawnZone::new(place, Zone::of(kind))).to_vec();
    let mut room = Play::in_room(grid(&rows).with_zones(zones).unwrap(), &dab(), 8.0, 32.0);
    let words: Vec<String> = room.play("R20").iter().map(|event| event.split_once(' ').unwrap().1.to_owned()).collect();
    let expected = ["pickup:zone-5", "checkpoint:zone-4", "goal:zone-3", "hazard:zone-2", "kiln:zone-1"];
    assert_eq!(words, expected.map(|of| format!("entered:{of}")));
}

#[test]
fn solid_things_are_felt_by_touch_and_margins_make_zones_larger_and_smaller() {
    // Standing on it, and beside it.
    let mut room = play(&["....", "....", "#SS#"], 8.0, 32.0);
    let events = room.play("R60");
    assert_eq!(events[0].split_once(' ').unwrap().1, "entered:hazard@1,2");
    let tick: u32 = events[0].split_once(' ').unwrap().0.parse().unwrap();
    assert_eq!(
        room.rows[tick as usize].feet.x, 12.0,
        "its right edge is at 17 now, past the tile's at 16: at 16 it touched"
    );
    // Spikes 3 px smaller all around, as this tuning feels them; jars 4 px further above.
    let mut numbers = dab();
    numbers.feels = FeelNumbers { hazard: Margin::all(-3.0), ..FeelNumbers::default() };
    let first = |numbers: &TuningNumbers, zone: Zone| {
        let place = Hitbox { left: 48.0, right: 64.0, top: 0.0, bottom: 32.0 };
        let grid = grid(&["........", "........", "########"]).with_zones(vec![DrawnZone::new(place, zone)]).unwrap();
        let mut room = Play::in_room(grid, numbers, 20.0, 32.0);
        let entered = room.play("R30")[0].split_once(' ').unwrap().0.parse::<usize>().unwrap();
        room.rows[entered].feet.x
    };
    let draught = ZoneKind::of_word("draught").unwrap();
    numbers.feels.own = vec![(draught, Margin::all(-3.0))];
    assert_eq!((first(&dab(), Zone::of(draught)), first(&numbers, Zone::of(draught))), (44.0, 48.0));
    let hazard = Zone::of(ZoneKind::Hazard);
    assert_eq!(first(&dab(), hazard), 44.0, "its right edge past 48");
    assert_eq!(first(&numbers, hazard), 48.0, "3 px later: past 51 with its right edge");
    assert_eq!(first(&dab(), hazard.with_margin(Margin { left: 8.0, ..Margin::NONE })), 36.0);
    assert_eq!(first(&numbers, hazard.with_margin(Margin { left: 8.0, ..Margin::NONE })), 40.0);
    let touched = Zone { felt: Felt::Touch, ..hazard };
    assert_eq!(first(&dab(), touched), 44.0, "at 43 it would have touched: every second px is come to");
}

#[test]
fn blocks_platforms_and_props_take_their_zones_along() {
    let rows = ["............", "............", "............", "............", "############"];
    let mut crate_tuning = TuningNumbers::new(12.0, 12.0, 0.0);
    crate_tuning.fall.gravity = Some(900.0);
    let block =
        Block { zone: Some(Zone::of(ZoneKind::Hazard).by_touch()), ..Block::new(DVec2::new(100.0, 56.0), 10.0, 8.0) };
    let grid = grid(&rows).with_objects(vec![block], vec![]).unwrap();
    let cart = PlatformNumbers {
        zone: Some(Zone::of(ZoneKind::Goal).by_touch()),
        ..PlatformNumbers::new(DVec2::new(20.0, 8.0), DVec2::new(40.0, 20.0)).to(DVec2::new(140.0, 20.0), 60.0)
    };
    let mut world = World::with_platforms(grid, Platforms::new(&[cart], 60.0).unwrap());
    let dab = world.add_character(Tuning::check(&dab()).unwrap(), DVec2::new(80.0, 64.0)).unwrap();
    let jar =
        Prop { zone: Some(Zone::of(ZoneKind::Pickup).by_touch()), ..Prop::new(Tuning::check(&crate_tuning).unwrap()) };
    let jar = world.add_prop(jar, DVec2::new(24.0, 64.0)).unwrap();
    let mut events = Vec::new();
    for tick in 0..120 {
        world.tick(&[Buttons { left: tick < 60, right: tick >= 60, ..Buttons::NONE }]);
        events.extend(world.report(dab).events.iter().map(ToString::to_string));
    }
    assert_eq!(events, ["entered:pickup:prop-1", "left:pickup:prop-1", "entered:hazard:block-1"]);
    // The cart comes along over a hat that stands still: the zone is met by its own way.
    let hat = TuningNumbers::new(10.0, 43.0, 0.0);
    let hat = world.add_character(Tuning::check(&hat).unwrap(), DVec2::new(56.0, 64.0)).unwrap();
    let met: Vec<Event> = (0..200)
        .flat_map(|_| {
            world.tick(&[]);
            world.report(hat).events.clone()
        })
        .filter(|event| event.word() == "entered" || event.word() == "left")
        .collect();
    let goal = ZoneId { kind: ZoneKind::Goal, of: ZoneOf::Platform(0) };
    assert!(met.contains(&Event::Entered(goal)) && met.contains(&Event::Left(goal)), "{met:?}");
    // What is removed while it is felt is left.
    world.place(dab, DVec2::new(35.0, 64.0)).unwrap();
    world.tick(&[]);
    assert_eq!(world.character(dab).zones().len(), 1);
    world.remove(jar);
    world.tick(&[]);
    assert_eq!(world.report(dab).events, [Event::Left(ZoneId { kind: ZoneKind::Pickup, of: ZoneOf::Prop(0) })]);
}

#[test]
fn a_pickup_that_the_game_takes_away_is_left_and_a_saved_state_knows_what_it_was_in() {
    let mut room = play(&["......", "..*...", "######"], 24.0, 32.0);
    assert_eq!(room.play("R4"), ["2 entered:pickup@2,1"]);
    let saved = room.world.save();
    room.world.terrain_mut().set_tile(2, 1, 0).unwrap();
    assert_eq!(room.play("R2"), ["5 left:pickup@2,1"]);
    room.world.restore(&saved);
    room.world.terrain_mut().set_tile(2, 1, 2).unwrap();
    assert_eq!(room.play("R3"), [""; 0], "it is in it already");
}

/// A jump over zones: sizes and places are multiples of 8 px, so that zones touch.
fn zone() -> impl Strategy<Value = DrawnZone> {
    let kinds = ["pickup", "checkpoint", "goal", "hazard", "kiln"].map(|word| ZoneKind::of_word(word).unwrap());
    let felt = prop_oneof![3 => Just(Felt::Inside), 1 => Just(Felt::Touch)];
    (0..60i32, 0..40i32, 1..6i32, 1..6i32, prop::sample::select(kinds.to_vec()), -3.0..6.0f64, felt).prop_map(
        |(left, top, width, height, kind, margin, felt)| {
            let [left, top, width, height] = [left, top, width, height].map(|steps| f64::from(steps) * 8.0 + 0.5);
            let place = Hitbox { left, right: left + width, top, bottom: top + height };
            DrawnZone::new(place, Zone { kind, margin: Margin::all(margin), felt })
        },
    )
}

/// Whether the way only grazes a zone: grown or shrunk by this much, px, it is met no more, or for the first time.
const GRAZE: f64 = 1.5;

proptest! {
    #![proptest_config(rooms::cases(256))]

    /// The same zones in the same order at 30, 60, 144 and 1000 Hz, at any speed, but for those that the way only grazes: a
    /// chord lies at most `g*dt*dt/8` inside the curve, which is 1.1 px here at 30 Hz.
    #[test]
    fn the_same_zones_in_the_same_order_at_every_rate(
        zones in prop::collection::vec(zone(), 1..9),
        (right, up) in (20.0..900.0f64, -400.0..900.0f64),
        x in 20.0..60.0f64,
    ) {
        let met = |rate: f64, (more, up_by): (f64, f64)| -> Vec<String> {
            let zones = zones.iter().map(|drawn| {
                let all = Margin::all(drawn.zone.margin.left + more);
                let zone = drawn.zone.with_margin(Margin { above: all.above + up_by, below: all.below - up_by, ..all });
                DrawnZone::new(drawn.place, zone)
            });
            let zones = zones.filter(|drawn| drawn.zone.is_left_of(drawn.place.right - drawn.place.left, drawn.place.bottom - drawn.place.top));
            let open = Edges { left: Edge::Open, right: Edge::Open, top: Edge::Open, bottom: Edge::Open };
            let empty = Grid::new(40, vec![0; 40 * 30], 16.0, &[TileProperties::of(Surface::Empty)], open).unwrap();
            let mut numbers = TuningNumbers::new(10.0, 14.0, 100.0);
            (numbers.rate, numbers.scheme) = (rate, Scheme::Exact);
            numbers.fall.gravity = Some(800.0);
            let mut world = World::new(empty.with_zones(zones.collect()).unwrap());
            let id = world.add_character(Tuning::check(&numbers).unwrap(), DVec2::new(x, 200.0)).unwrap();
            world.launch(id, DVec2::new(right, -up), Launch { ticks: 1_000_000, unbraked: true }).unwrap();
            let mut events = Vec::new();
            for _ in 0..(rate * 1.5) as u32 {
                world.tick(&[]);
                events.extend(world.report(id).events.iter().filter(|event| event.word() == "entered").map(ToString::to_string));
            }
            // One that is left for a moment, at the top of a curve that its chord cuts, is entered twice.
            events.dedup();
            events
        };
        // Only what is met with a little more and a little less of it, and a little further up: a chord lies below the curve.
        let (more, less) = (met(1000.0, (GRAZE, 0.0)), met(1000.0, (-GRAZE, 0.0)));
        let at_1000 = met(1000.0, (0.0, 0.0));
        prop_assume!(more.len() == less.len() && [GRAZE, GRAZE / 2.0].iter().all(|by| met(1000.0, (0.0, *by)).len() == at_1000.len()));
        for rate in [30.0, 60.0, 144.0] {
            let (mut found, mut expected) = (met(rate, (0.0, 0.0)), at_1000.clone());
            // Of two that begin within a graze of each other, either may be the first.
            if more == less {
                prop_assert_eq!(&found, &expected, "at {} Hz", rate);
            }
            found.sort();
            expected.sort();
            prop_assert_eq!(found, expected, "at {} Hz", rate);
        }
    }

    /// However a way is cut, nothing that lies on it is passed over: tiles in a row, all met in their order.
    #[test]
    fn nothing_is_passed_over_at_any_speed(speed in 50.0..500_000.0f64) {
        let row = format!("..{}", ".*".repeat(60));
        let floor = "#".repeat(row.len());
        let mut room = Play::in_room(grid(&[&row, &floor]), &TuningNumbers { ..dab_small() }, 10.0, 16.0);
        room.world.launch(room.id, DVec2::new(speed, -1.0), Launch { ticks: 1_000_000, unbraked: true }).unwrap();
        let mut events = Vec::new();
        for _ in 0..3000 {
            room.world.tick(&[]);
            events.extend(room.world.report(room.id).events.iter().filter(|event| event.word() == "entered").map(ToString::to_string));
            if events.len() == 60 || room.world.character(room.id).has_ended() {
                break;
            }
            // Its speed along x alone.
            let _ = room.world.launch(room.id, DVec2::new(speed, -1.0), Launch { ticks: 1_000_000, unbraked: true });
        }
        let expected: Vec<String> = (0..60).map(|at| format!("entered:pickup@{},0", 3 + 2 * at)).collect();
        prop_assert_eq!(events, expected);
    }
}

/// A room of solid tiles and zones of all kinds, by tiles and drawn; many of them, or few and far between.
fn zoned_grid() -> impl Strategy<Value = Grid> {
    let letters = |of: &[u8]| prop::collection::vec(prop::sample::select(of.to_vec()), 12 * 9);
    let few = [b".".repeat(60).as_slice(), b"#".repeat(20).as_slice(), b"*+!^kS"].concat();
    let letters = prop_oneof![letters(b".....##*+!^kS"), letters(&few)];
    (letters, prop::collection::vec(zone(), 0..5)).prop_map(|(letters, zones)| {
        let rows: Vec<String> = letters.chunks(12).map(|row| String::from_utf8(row.to_vec()).unwrap()).collect();
        let rows: Vec<&str> = rows.iter().map(String::as_str).collect();
        grid(&rows).with_zones(zones).unwrap()
    })
}

proptest! {
    #![proptest_config(rooms::cases(256))]

    /// Asked one by one: at the end of a tick a body is in those zones, and no others, that its hitbox overlaps or touches;
    /// what is told leads from one set to the next.
    #[test]
    fn a_body_is_in_the_zones_that_it_overlaps_or_touches(
        grid in zoned_grid(),
        tuning in rooms::full_tuning(),
        script in rooms::buttons(),
        feels in (-4.0..6.0f64, -4.0..6.0f64),
        seed in any::<u32>(),
    ) {
        let mut numbers = tuning.numbers().clone();
        numbers.feels.hazard = Margin { left: feels.0, below: feels.1, ..Margin::NONE };
        let Ok(tuning) = Tuning::check(&numbers) else { return Ok(()) };
        let mut world = World::new(&grid);
        let mut places = rooms::places(grid.width(), grid.height(), seed);
        let Some(id) = places.find_map(|feet| world.add_character(tuning.clone(), feet).ok()) else { return Ok(()) };
        let felt = |hitbox: &Hitbox, place: &Hitbox, zone: &Zone| {
            let (margin, feels) = (zone.margin, tuning.feels().of(zone.kind));
            // Margins are rounded to 1/1024 px.
            let rounded = wumple_core::numbers::round_length;
            let left = place.left - rounded(margin.left) - feels.right;
            let right = place.right + rounded(margin.right) + feels.left;
            let (top, bottom) = (place.top - rounded(margin.above) - feels.below, place.bottom + rounded(margin.below) + feels.above);
            match zone.felt {
                Felt::Inside => hitbox.left < right && hitbox.right > left && hitbox.top < bottom && hitbox.bottom > top,
                Felt::Touch => hitbox.left <= right && hitbox.right >= left && hitbox.top <= bottom && hitbox.bottom >= top,
            }
        };
        let mut inside: Vec<ZoneId> = Vec::new();
        for (held, ticks) in script {
            for _ in 0..ticks {
                world.tick(&[held]);
                if world.character(id).has_ended() {
                    return Ok(());
                }
                for event in &world.report(id).events {
                    match event {
                        Event::Entered(zone) => {
                            prop_assert!(!inside.contains(zone), "{event} twice");
                            inside.push(*zone);
                        }
                        Event::Left(zone) => {
                            let at = inside.iter().position(|other| other == zone);
                            prop_assert!(at.is_some(), "{event} of what was not entered");
                            inside.remove(at.unwrap());
                        }
                        _ => {}
                    }
                }
                let hitbox = world.character(id).hitbox();
                // The same of a box, which feels as a hitbox without a tuning does, and nothing by touch.
                let in_box = |place: &Hitbox, zone: &Zone| {
                    let [left, right, above, below] = [zone.margin.left, zone.margin.right, zone.margin.above, zone.margin.below]
                        .map(wumple_core::numbers::round_length);
                    hitbox.left < place.right + right
                        && hitbox.right > place.left - left
                        && hitbox.top < place.bottom + below
                        && hitbox.bottom > place.top - above
                };
                let mut boxed: Vec<ZoneId> = Vec::new();
                let mut expected: Vec<ZoneId> = Vec::new();
                for row in 0..grid.rows() {
                    for column in 0..grid.columns() {
                        let Some(zone) = grid.tile(column, row).zone else { continue };
                        if in_box(&grid.grid_lines().cell(column, row), &zone) {
                            boxed.push(ZoneId { kind: zone.kind, of: grid.zone_of_tile(column, row, &zone) });
                        }
                        if felt(&hitbox, &grid.grid_lines().cell(column, row), &zone) {
                            expected.push(ZoneId { kind: zone.kind, of: grid.zone_of_tile(column, row, &zone) });
                        }
                    }
                }
                for (index, drawn) in grid.zones().iter().enumerate() {
                    if in_box(&drawn.place, &drawn.zone) {
                        boxed.push(ZoneId { kind: drawn.zone.kind, of: ZoneOf::Drawn(index) });
                    }
                    if felt(&hitbox, &drawn.place, &drawn.zone) {
                        expected.push(ZoneId { kind: drawn.zone.kind, of: ZoneOf::Drawn(index) });
                    }
                }
                let mut found = world.zones_in(&hitbox);
                boxed.sort();
                boxed.dedup();
                found.sort();
                prop_assert_eq!(&found, &boxed);
                expected.sort();
                expected.dedup();
                for mut found in [inside.clone(), world.character(id).zones().to_vec()] {
                    found.sort();
                    prop_assert_eq!(&found, &expected, "tick {}", world.ticks());
                }
            }
        }
    }
}

proptest! {
    #![proptest_config(rooms::cases(256))]

    /// Zones change no motion: without them all is the same but what is told of them.
    #[test]
    fn without_zones_everybody_moves_the_same(
        grid in zoned_grid(),
        tuning in rooms::full_tuning(),
        script in rooms::buttons(),
        seed in any::<u32>(),
    ) {
        let (bare, mut places) = (grid.without_zones(), rooms::places(grid.width(), grid.height(), seed));
        prop_assert!(bare.zones().is_empty() && !bare.features().has(Features::ZONE));
        let (mut world, mut other) = (World::new(&grid), World::new(&bare));
        let Some((id, feet)) = places.find_map(|feet| Some((world.add_character(tuning.clone(), feet).ok()?, feet))) else { return Ok(()) };
        let in_other = other.add_character(tuning, feet).unwrap();
        for (held, ticks) in script {
            for _ in 0..ticks {
                world.tick(&[held]);
                other.tick(&[held]);
                let mut report = world.report(id).clone();
                report.events.retain(|event| !matches!(event, Event::Entered(_) | Event::Left(_)));
                prop_assert_eq!(&report, other.report(in_other));
            }
        }
    }
}

fn dab_small() -> TuningNumbers {
    TuningNumbers::new(6.0, 10.0, 100.0)
}

#[test]
fn a_drawn_ramp_is_a_zone_along_its_line_and_not_in_the_box_around_it() {
    let ramp = Ramp::new(DVec2::new(40.0, 64.0), DVec2::new(104.0, 32.0)).unwrap();
    let zone = DrawnZone::of_ramp(0, &ramp, Zone::of(ZoneKind::Hazard).by_touch());
    let room = |margin: f64| {
        let margin = Margin { above: margin, ..Margin::NONE };
        let zone = DrawnZone::of_ramp(0, &ramp, zone.zone.with_margin(margin));
        let rows = ["........"; 4].into_iter().chain(["########"]).collect::<Vec<_>>();
        grid(&rows).with_objects(vec![], vec![ramp]).unwrap().with_zones(vec![zone]).unwrap()
    };
    // Under the upper end it is in the box, and not at the line; who walks on meets it with the head, or does not.
    let mut small = Play::in_room(room(0.0), &TuningNumbers::new(6.0, 10.0, 60.0), 100.0, 64.0);
    assert!(small.play("-5").is_empty());
    // Walked onto, it is met once, with its own name.
    let mut walker = Play::in_room(room(0.0), &TuningNumbers::new(6.0, 10.0, 60.0), 20.0, 64.0);
    let events = walker.play("R60");
    assert!(events.len() == 1 && events[0].ends_with("entered:hazard:ramp-1"), "{events:?}");
    assert_eq!(walker.world.character(walker.id).zones().len(), 1);
    // From above: 12 px above the line, which a margin of 13 px reaches.
    for (margin, met) in [(0.0, false), (11.0, false), (13.0, true)] {
        let mut room = Play::in_room(room(margin), &TuningNumbers::new(2.0, 4.0, 60.0), 72.0, 36.0);
        room.world.hold_still(room.id, false);
        let first = room.play("-1").iter().any(|event| event.contains("entered:hazard"));
        assert_eq!(first, met, "{margin}");
    }
    // A ramp that is not there has no zone.
    let alone = grid(&["....", "####"]).with_zones(vec![zone]);
    assert!(alone.is_err());
}

/// Whether a segment comes into a box, by cutting it at each side; and by how little that is decided, px.
fn cuts(from: DVec2, to: DVec2, area: &Hitbox) -> bool {
    let (by, mut part) = (to - from, (0.0_f64, 1.0_f64));
    for (start, way, low, high) in [(from.x, by.x, area.left, area.right), (from.y, by.y, area.top, area.bottom)] {
        if way == 0.0 {
            if start < low || start > high {
                return false;
            }
            continue;
        }
        let (one, other) = ((low - start) / way, (high - start) / way);
        part = (part.0.max(one.min(other)), part.1.min(one.max(other)));
    }
    part.0 <= part.1
}

proptest! {
    #![proptest_config(rooms::cases(1000))]

    /// At the end of every tick a body is at the line of a ramp, or is not, as cutting the line at the sides of its hitbox
    /// says; and what it flew through is told.
    #[test]
    fn a_body_is_in_the_zone_of_a_ramp_where_the_line_cuts_its_hitbox(
        ends in ((20.0..300.0f64, 20.0..180.0f64), (20.0..300.0f64, 20.0..180.0f64)),
        margin in (-2.0..8.0f64, -2.0..8.0f64, 0.0..8.0f64, 0.0..8.0f64),
        start in (20.0..300.0f64, 40.0..180.0f64),
        throw in (-900.0..900.0f64, -700.0..300.0f64),
    ) {
        let Some(ramp) = Ramp::new(DVec2::new(ends.0.0, ends.0.1), DVec2::new(ends.1.0, ends.1.1)) else { return Ok(()) };
        let rounded = wumple_core::numbers::round_length;
        let margin = Margin { left: rounded(margin.0), right: rounded(margin.1), above: rounded(margin.2), below: rounded(margin.3) };
        let kind = Zone::of(ZoneKind::Hazard).by_touch().with_margin(margin);
        let rows = ["....................."; 13].into_iter().chain(["#####################"]).collect::<Vec<_>>();
        let zone = DrawnZone::of_ramp(0, &ramp, kind);
        let grid = grid(&rows).with_objects(vec![], vec![ramp]).unwrap().with_zones(vec![zone]).unwrap();
        let mut world = World::new(&grid);
        let tuning = Tuning::check(&dab_small()).unwrap();
        let Ok(id) = world.add_character(tuning, DVec2::new(start.0, start.1)) else { return Ok(()) };
        world.launch(id, DVec2::new(throw.0, throw.1), Launch { ticks: 1_000_000, unbraked: true }).unwrap();
        let mut was_in = false;
        for _ in 0..90 {
            world.tick(&[]);
            if world.character(id).has_ended() {
                break;
            }
            let grown = |more: f64| {
                let Hitbox { left, right, top, bottom } = world.character(id).hitbox();
                Hitbox {
                    left: left - margin.right - more,
                    right: right + margin.left + more,
                    top: top - margin.below - more,
                    bottom: bottom + margin.above + more,
                }
            };
            let cut = |more: f64| cuts(ramp.left_end(), ramp.right_end(), &grown(more));
            let is_in = !world.character(id).zones().is_empty();
            if cut(1e-6) == cut(-1e-6) {
                prop_assert_eq!(is_in, cut(0.0), "{:?}", world.report(id));
                prop_assert_eq!(!world.zones_in(&world.character(id).hitbox()).is_empty(), cut(0.0));
            }
            // Every change is told, and whatever is told twice is a way through.
            let told = world.report(id).events.iter().filter(|event| matches!(event.word(), "entered" | "left")).count();
            prop_assert_eq!(told % 2 == 1, is_in != was_in);
            was_in = is_in;
        }
    }
}
