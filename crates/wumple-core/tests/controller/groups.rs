//! Who meets whom: what is said of groups, and that a thing that is not met is as if it were not there.

use crate::rooms;

use crate::rooms::{full_grid, full_tuning};
use proptest::prelude::*;
use wumple_core::numbers::{CrumbleNumbers, PlatformSurface, Starts};
use wumple_core::{
    Block, Buttons, CharacterId, DVec2, DrawnZone, Edge, Edges, Event, Grid, Group, Hitbox, Material, MeetingError,
    Meetings, Piece, PlatformNumbers, Platforms, Prop, PropId, Ramp, Saved, SavedError, StartError, Support, Terrain,
    TileProperties, Tuning, TuningNumbers, World, Zone, ZoneKind,
};

fn group(word: &str) -> Group {
    Group::new(word).unwrap()
}

fn meetings(rows: &[(&str, &[&str])]) -> Result<Meetings, MeetingError> {
    let rows: Vec<(Group, Vec<Group>)> =
        rows.iter().map(|(one, meets)| (group(one), meets.iter().map(|word| group(word)).collect())).collect();
    Meetings::new(&rows.iter().map(|(one, meets)| (*one, meets.as_slice())).collect::<Vec<_>>())
}

/// A body of 10 x 22 px, in a group.
fn tuning(word: &str) -> Tuning {
    let mut numbers = TuningNumbers::new(10.0, 22.0, 120.0).with_jump(54.0, 0.35);
    numbers.group = group(word);
    Tuning::check(&numbers).unwrap()
}

/// A jar of 12 x 16 px.
fn jar(word: &str) -> Prop {
    let mut numbers = TuningNumbers::new(12.0, 16.0, 0.0);
    numbers.group = group(word);
    Prop::new(Tuning::check(&numbers).unwrap())
}

const FLOOR: f64 = 80.0;

/// A floor from x = 0 to 320, its top at y = 80, deadly below.
fn floor() -> Grid {
    let rows = [".".repeat(20), ".".repeat(20), ".".repeat(20), ".".repeat(20), ".".repeat(20), "#".repeat(20)];
    let rows: Vec<&str> = rows.iter().map(String::as_str).collect();
    Grid::from_rows(&rows, 16.0, Edges::default()).unwrap()
}

const RIGHT: Buttons = Buttons { right: true, ..Buttons::NONE };

fn hold<T: Terrain>(world: &mut World<T>, held: Buttons, ticks: usize) -> Vec<Event> {
    let mut events = Vec::new();
    for _ in 0..ticks {
        world.tick(&[held, held]);
        assert_eq!(world.violation(), None);
        events.extend(world.characters().flat_map(|character| character.report().events.clone()));
    }
    events
}

#[test]
fn what_is_said_of_groups_holds_both_ways() {
    let said = meetings(&[("jars", &["level", "dab"]), ("ghosts", &["dab"])]).unwrap();
    let table = [
        ("jars", "level", true),
        ("jars", "dab", true),
        ("jars", "jars", false),
        ("jars", "ghosts", false),
        ("ghosts", "level", false),
        ("ghosts", "dab", true),
        ("level", "level", true),
        // Nothing is said of them.
        ("dab", "level", true),
        ("dab", "others", true),
    ];
    for (one, other, expected) in table {
        assert_eq!(said.meet(group(one), group(other)), expected, "{one} {other}");
        assert_eq!(said.meet(group(other), group(one)), expected, "{other} {one}");
    }
    assert!(Meetings::default().meet(group("jars"), group("ghosts")) && Meetings::default().is_empty());
}

#[test]
fn what_cannot_be_said_is_refused_in_words() {
    let table = [
        (&[("level", &["jars"] as &[&str])] as &[(&str, &[&str])], "\"level\" is what is in no group"),
        (&[("jars", &["level"]), ("jars", &["dab"])], "\"jars\" is there twice"),
        (&[("jars", &["dab"]), ("dab", &["level"])], "\"jars\" meets \"dab\", but \"dab\" does not meet \"jars\""),
    ];
    for (rows, words) in table {
        let message = meetings(rows).unwrap_err().to_string();
        assert!(message.starts_with(words), "{message}");
    }
    assert!(meetings(&[("jars", &["dab"]), ("dab", &["level", "jars"])]).is_ok());
}

#[test]
fn a_jar_that_is_not_met_is_gone_past_and_one_that_is_stands_in_the_way() {
    for (meets, stopped_at) in [(&["level", "dab"] as &[&str], Some(99.0)), (&["level"], None)] {
        let mut world = World::new(floor()).with_meetings(meetings(&[("jars", meets)]).unwrap());
        let dab = world.add_character(tuning("dab"), DVec2::new(40.0, FLOOR)).unwrap();
        let jar = world.add_prop(jar("jars"), DVec2::new(110.0, FLOOR)).unwrap();
        hold(&mut world, RIGHT, 60);
        assert_eq!(world.report(dab).feet.x, stopped_at.unwrap_or(160.0));
        assert_eq!(world.report(jar).feet, DVec2::new(110.0, FLOOR));
    }
}

#[test]
fn jars_that_do_not_meet_each_other_lie_in_one_another() {
    for (meets, height) in [(&["level"] as &[&str], FLOOR), (&["level", "jars"], FLOOR - 16.0)] {
        let mut world = World::new(floor()).with_meetings(meetings(&[("jars", meets)]).unwrap());
        let upper = world.add_prop(jar("jars"), DVec2::new(110.0, 40.0)).unwrap();
        world.add_prop(jar("jars"), DVec2::new(110.0, FLOOR)).unwrap();
        hold(&mut world, Buttons::NONE, 60);
        assert_eq!(world.report(upper).feet.y, height);
    }
}

#[test]
fn who_does_not_meet_the_level_goes_through_walls_and_edges_and_dies_at_a_deadly_one() {
    let edges = Edges { right: Edge::Solid, bottom: Edge::Deadly, ..Edges::default() };
    let map = Grid::from_rows(&["....#...", "....#...", "####....", "........"], 16.0, edges).unwrap();
    let mut world = World::new(map).with_meetings(meetings(&[("ghosts", &["boards"])]).unwrap());
    let ghost = world.add_character(tuning("ghosts"), DVec2::new(24.0, 32.0)).unwrap();
    assert_eq!(world.report(ghost).support, Support::None);
    assert!(world.probe(&tuning("ghosts")).fits(DVec2::new(72.0, 32.0)), "inside the wall");
    assert!(!world.probe(&tuning("level")).fits(DVec2::new(72.0, 32.0)));
    let events = hold(&mut world, RIGHT, 60);
    assert!(world.character(ghost).has_ended() && matches!(events.last(), Some(Event::Died(_))), "{events:?}");

    let mut board = PlatformNumbers::new(DVec2::new(160.0, 8.0), DVec2::new(0.0, 40.0));
    board.group = group("boards");
    let platforms = Platforms::new(&[board], 60.0).unwrap();
    let map = Grid::from_rows(&["....#...", "....#...", "####....", "........"], 16.0, edges).unwrap();
    let mut world = World::with_platforms(map, platforms).with_meetings(meetings(&[("ghosts", &["boards"])]).unwrap());
    let ghost = world.add_character(tuning("ghosts"), DVec2::new(24.0, 40.0)).unwrap();
    hold(&mut world, RIGHT, 60);
    assert_eq!(
        (world.report(ghost).feet, world.report(ghost).support),
        (DVec2::new(144.0, 40.0), Support::Platform(0))
    );
}

#[test]
fn letters_blocks_ramps_and_zones_are_in_groups_too() {
    let grouped = |kind: TileProperties| TileProperties { group: group("mist"), ..kind };
    let kinds = [TileProperties::EMPTY, TileProperties::SOLID, grouped(TileProperties::SOLID)];
    let mut tiles = vec![0; 20 * 6];
    tiles[100..].fill(1);
    tiles[4 * 20 + 8] = 2;
    let block = Block { group: group("mist"), ..Block::new(DVec2::new(200.0, 60.0), 10.0, 20.0) };
    let mut ramp = Ramp::new(DVec2::new(220.0, FLOOR), DVec2::new(260.0, 60.0)).unwrap();
    ramp.group = group("mist");
    let place = Hitbox { left: 60.0, right: 70.0, top: 60.0, bottom: 80.0 };
    let zone = DrawnZone::new(place, Zone::of(ZoneKind::Pickup)).in_group(group("mist"));
    let map = || {
        let map = Grid::new(20, tiles.clone(), 16.0, &kinds, Edges::default()).unwrap();
        map.with_objects(vec![block], vec![ramp]).unwrap().with_zones(vec![zone]).unwrap()
    };
    for (meets, x, entered) in [(&["level"] as &[&str], 280.0, 0), (&["level", "mist"], 123.0, 1)] {
        let mut world = World::new(map()).with_meetings(meetings(&[("dab", meets)]).unwrap());
        let dab = world.add_character(tuning("dab"), DVec2::new(40.0, FLOOR)).unwrap();
        let events = hold(&mut world, RIGHT, 120);
        assert_eq!(world.report(dab).feet, DVec2::new(x, FLOOR), "{meets:?}");
        assert_eq!(events.iter().filter(|event| event.enters(ZoneKind::Pickup)).count(), entered, "{events:?}");
    }
    // On the block and the ramp, which lie behind the tile.
    let mut world = World::new(map()).with_meetings(meetings(&[("dab", &["level", "mist"])]).unwrap());
    let dab = world.add_character(tuning("dab"), DVec2::new(204.0, 60.0)).unwrap();
    assert_eq!(world.touched(dab).below, Some(Piece::Block(0)));
    let other = world.add_character(tuning("dab"), DVec2::new(240.0, 70.0)).unwrap();
    assert_eq!(world.touched(other).below, Some(Piece::Ramp(0)));
    let ghosts = World::new(map()).with_meetings(meetings(&[("dab", &["level"])]).unwrap());
    assert_eq!(ghosts.probe(&tuning("dab")).supported_by(DVec2::new(204.0, 60.0)), None);
}

#[test]
fn platforms_set_off_and_crumble_for_some_alone() {
    let slab = |starts_for: Option<&[&str]>, crumbles_for: Option<&[&str]>| {
        let groups = |words: Option<&[&str]>| words.map(|words| words.iter().map(|word| group(word)).collect());
        let crumble = Some(CrumbleNumbers { after: 0.1, sink: 0.0, over: 0.0, back_after: None });
        let at = PlatformNumbers::new(DVec2::new(48.0, 8.0), DVec2::new(96.0, 40.0)).to(DVec2::new(160.0, 40.0), 60.0);
        let (starts_for, crumbles_for) = (groups(starts_for), groups(crumbles_for));
        PlatformNumbers { starts: Starts::WhenRidden, crumble, starts_for, crumbles_for, ..at }
    };
    // Who stands on it; who sets it off, and for whom it crumbles; whether it goes, and whether it falls to pieces.
    type Words = Option<&'static [&'static str]>;
    let table: [(&str, Words, Words, bool, bool); 8] = [
        ("dab", None, None, true, true),
        ("a jar", None, None, true, false),
        ("dab", Some(&["jars"]), Some(&["jars"]), false, false),
        ("a jar", Some(&["jars"]), Some(&["jars"]), true, true),
        ("dab", Some(&["jars", "dab"]), None, true, true),
        ("a jar", Some(&["dab"]), Some(&["dab"]), false, false),
        ("dab", Some(&["level"]), Some(&["level"]), false, false),
        ("nobody", None, None, false, false),
    ];
    for (who, starts_for, crumbles_for, goes, breaks) in table {
        let platforms = Platforms::new(&[slab(starts_for, crumbles_for)], 60.0).unwrap();
        let mut world = World::with_platforms(floor(), platforms);
        let on_it = DVec2::new(120.0, 40.0);
        match who {
            "dab" => drop(world.add_character(tuning("dab"), on_it).unwrap()),
            "a jar" => drop(world.add_prop(jar("jars"), on_it).unwrap()),
            _ => {}
        }
        hold(&mut world, Buttons::NONE, 5);
        assert_eq!(world.platform_report(0).place.left > 96.0, goes, "{who} {starts_for:?}");
        hold(&mut world, Buttons::NONE, 40);
        let fell = world.characters().any(|dab| dab.report().feet.y == FLOOR)
            || world.props().any(|jar| world.report(jar).feet.y == FLOOR);
        assert_eq!(fell, breaks, "{who} {crumbles_for:?}");
    }
}

#[test]
fn a_crumbled_slab_comes_back_through_who_does_not_meet_it() {
    for (meets, is_back) in [(&["level"] as &[&str], true), (&["level", "slabs"], false)] {
        let crumble = Some(CrumbleNumbers { after: 0.0, sink: 0.0, over: 0.0, back_after: Some(0.2) });
        let at = PlatformNumbers::new(DVec2::new(48.0, 16.0), DVec2::new(96.0, 64.0));
        let slab = PlatformNumbers { crumble, group: group("slabs"), ..at };
        let platforms = Platforms::new(&[slab], 60.0).unwrap();
        let mut world = World::with_platforms(floor(), platforms).with_meetings(meetings(&[("jars", meets)]).unwrap());
        let dab = world.add_character(tuning("dab"), DVec2::new(120.0, 64.0)).unwrap();
        hold(&mut world, Buttons::NONE, 3);
        world.place(dab, DVec2::new(30.0, FLOOR)).unwrap();
        world.add_prop(jar("jars"), DVec2::new(120.0, FLOOR)).unwrap();
        hold(&mut world, Buttons::NONE, 40);
        let crumbling = world.platform_report(0).crumbling;
        assert_eq!(crumbling == wumple_core::advanced::Crumbling::Whole, is_back, "{crumbling:?}");
    }
}

#[test]
fn retuned_into_another_group_a_body_meets_others_from_the_next_tick_on() {
    let said = || meetings(&[("ghosts", &["level"]), ("jars", &["level", "dab"])]).unwrap();
    let mut world = World::new(floor()).with_meetings(said());
    let dab = world.add_character(tuning("ghosts"), DVec2::new(60.0, FLOOR)).unwrap();
    world.add_prop(jar("jars"), DVec2::new(110.0, FLOOR)).unwrap();
    hold(&mut world, RIGHT, 25);
    assert_eq!(world.report(dab).feet.x, 110.0, "in the midst of the jar");
    let refused = world.retune(dab, tuning("dab"));
    assert_eq!(refused, Err(StartError::InsideProp { prop: 0 }));
    hold(&mut world, RIGHT, 10);
    world.retune(dab, tuning("dab")).unwrap();
    hold(&mut world, Buttons { left: true, ..Buttons::NONE }, 30);
    assert_eq!(world.report(dab).feet.x, 121.0, "beside the jar");
}

#[test]
fn a_saved_state_is_of_a_level_with_the_same_meetings() {
    let world = |rows: &[(&str, &[&str])]| World::new(floor()).with_meetings(meetings(rows).unwrap());
    let here = world(&[("jars", &["level"])]);
    let bytes = here.save().to_bytes(&here);
    assert!(Saved::from_bytes(&bytes, &here).is_ok());
    assert_eq!(Saved::from_bytes(&bytes, &world(&[("jars", &["dab"])])), Err(SavedError::OtherLevel));
}

/// A room in which some of everything is in the group `clay`, and some in `glaze`.
#[derive(Debug)]
struct Room {
    grid: Grid,
    platforms: Vec<PlatformNumbers>,
    /// Where jars are tried to be put.
    jars: Vec<DVec2>,
    tuning: Tuning,
}

const GROUPS: [&str; 3] = ["level", "clay", "glaze"];

/// The same every time: which group the n-th of something is in.
fn nth(n: usize) -> Group {
    group(GROUPS[(n * 7 + n / 3) % 3])
}

impl Room {
    /// The terrain with groups, or, if `left` says what is left, without what is not.
    fn terrain(&self, left: Option<&[Group]>) -> Grid {
        let (grid, tile) = (&self.grid, self.grid.grid_lines().spacing());
        let is_left = |group: Group| left.is_none_or(|left| left.contains(&group));
        let kinds: Vec<TileProperties> = rooms::kinds(tile)
            .into_iter()
            .enumerate()
            .map(|(n, kind)| match (is_left(nth(n)), left) {
                (true, None) => TileProperties { group: nth(n), ..kind },
                (true, Some(_)) => kind,
                (false, _) => TileProperties::EMPTY,
            })
            .collect();
        let places = (0..grid.rows()).flat_map(|row| (0..grid.columns()).map(move |column| (column, row)));
        let tiles = places.map(|(column, row)| grid.kind(column, row) as u8).collect();
        let mut edges = grid.edges();
        if !is_left(Group::LEVEL) {
            for edge in [&mut edges.left, &mut edges.right, &mut edges.top, &mut edges.bottom] {
                *edge = if *edge == Edge::Solid { Edge::Open } else { *edge };
            }
        }
        let own = |group: Group| if left.is_none() { group } else { Group::LEVEL };
        let blocks = grid.blocks().iter().enumerate().filter(|(n, _)| is_left(nth(*n)));
        let blocks = blocks.map(|(n, block)| Block { group: own(nth(n)), ..*block }).collect();
        let ramps = grid.ramps().iter().enumerate().filter(|(n, _)| is_left(nth(*n + 1)));
        let ramps = ramps.map(|(n, ramp)| {
            let mut ramp = *ramp;
            ramp.group = own(nth(n + 1));
            ramp
        });
        Grid::new(grid.columns() as usize, tiles, tile, &kinds, edges)
            .unwrap()
            .with_objects(blocks, ramps.collect())
            .unwrap()
    }

    fn platforms(&self, left: Option<&[Group]>) -> Platforms {
        let all =
            self.platforms.iter().enumerate().filter(|(n, _)| left.is_none_or(|left| left.contains(&nth(*n + 2))));
        let all: Vec<PlatformNumbers> = all
            .map(|(n, platform)| PlatformNumbers {
                group: if left.is_none() { nth(n + 2) } else { Group::LEVEL },
                ..platform.clone()
            })
            .collect();
        Platforms::new(&all, self.tuning.rate()).unwrap()
    }

    fn fill(&self, world: &mut World<Grid>, jars: bool, feet: DVec2) -> Option<CharacterId> {
        let like = self.tuning.numbers();
        let mut numbers = TuningNumbers::new(12.0, 16.0, 0.0);
        (numbers.rate, numbers.scheme, numbers.pixels) = (like.rate, like.scheme, like.pixels);
        numbers.group = group("jars");
        let jar = Prop { material: Material::PLAIN, ..Prop::new(Tuning::check(&numbers).unwrap()) };
        let jars = if jars { self.jars.as_slice() } else { &[] };
        let _: Vec<PropId> = jars.iter().filter_map(|at| world.add_prop(jar.clone(), *at).ok()).collect();
        let mut own = like.clone();
        own.group = group("dab");
        world.add_character(Tuning::check(&own).unwrap(), feet).ok()
    }
}

fn room() -> impl Strategy<Value = Room> {
    let corner = (0..30i32, 0..30i32).prop_map(|(x, y)| DVec2::new(f64::from(x), f64::from(y)) * 8.0);
    let leg = (-12..12i32, -12..12i32).prop_map(|(x, y)| DVec2::new(f64::from(x), f64::from(y)) * 8.0);
    let platform = (corner.clone(), leg, 1..9i32, 1..4i32, 10.0..300.0f64, any::<bool>()).prop_map(
        |(corner, leg, width, height, speed, solid)| {
            let size = DVec2::new(f64::from(width), f64::from(height)) * 8.0;
            let surface = if solid { PlatformSurface::Solid } else { PlatformSurface::OneWay };
            PlatformNumbers { surface, ..PlatformNumbers::new(size, corner).to(corner + leg, speed) }
        },
    );
    let (platforms, jars) = (prop::collection::vec(platform, 0..5), prop::collection::vec(corner, 0..4));
    (full_grid(), platforms, jars, full_tuning()).prop_map(|(grid, platforms, jars, tuning)| Room {
        grid,
        platforms,
        jars,
        tuning,
    })
}

proptest! {
    #![proptest_config(rooms::cases(1500))]

    #[test]
    fn what_is_not_met_is_as_if_it_were_not_there(
        room in room(), script in rooms::buttons(), seed in any::<u32>(), bits in 0..8u8, jars_met in any::<bool>(),
    ) {
        let met: Vec<Group> = (0..3).filter(|n| bits >> n & 1 == 1).map(|n| group(GROUPS[n])).collect();
        let jars = [met.as_slice(), &[group("jars")]].concat();
        // Jars that are met must meet what Dab does, so that they move alike in both worlds.
        let [dab, jars] = if jars_met {
            [[met.as_slice(), &[group("jars")]].concat(), [jars.as_slice(), &[group("dab")]].concat()]
        } else {
            [met.clone(), [GROUPS.map(group).as_slice(), &[group("jars")]].concat()]
        };
        let said = Meetings::new(&[(group("dab"), &dab), (group("jars"), &jars)]).unwrap();
        let mut grouped = World::with_platforms(room.terrain(None), room.platforms(None)).with_meetings(said);
        let mut stripped = World::with_platforms(room.terrain(Some(&met)), room.platforms(Some(&met)));
        let (width, height) = (room.grid.width(), room.grid.height());
        let feet = rooms::places(width, height, seed).next().unwrap_or_default();
        let (one, other) = (room.fill(&mut grouped, true, feet), room.fill(&mut stripped, jars_met, feet));
        prop_assert_eq!(one.is_some(), other.is_some());
        let (Some(one), Some(other)) = (one, other) else { return Ok(()) };
        for held in script.iter().flat_map(|(held, ticks)| core::iter::repeat_n(*held, *ticks)) {
            grouped.tick(&[held]);
            stripped.tick(&[held]);
            prop_assert_eq!(grouped.violation(), None);
            let (one, other) = (grouped.report(one), stripped.report(other));
            prop_assert_eq!((one.feet, one.velocity), (other.feet, other.velocity), "tick {}", one.tick);
            prop_assert_eq!((one.state, one.contacts), (other.state, other.contacts));
            prop_assert_eq!(one.events.len(), other.events.len());
        }
    }
}
