//! What can be reached: rooms whose truth is arithmetic, every room of the demo, and proofs held against play.

use proptest::prelude::*;
use proptest::strategy::ValueTree;
use proptest::test_runner::TestRunner;
use wumple::analysis::{Reach, ReachAnswer, ReachReport, ReachSettings, reach};
use wumple::{Buttons, Event, Level, Play, Terrain, TuningFile, ZoneKind, demo};

const TILE: f64 = 16.0;

/// A walker with these lines beside the usual ones.
fn tuning(jump: &str, others: &str) -> TuningFile {
    let text = format!(
        "[body]\nwidth = \"10 px\"\nheight = \"22 px\"\n[run]\ntop_speed = \"7 tiles/s\"\n[fall]\ngravity_ratio = 1.5\ntop_speed = \"16 tiles/s\"\n{jump}\n{others}\n"
    );
    TuningFile::parse("walker", &text).unwrap_or_else(|errors| panic!("{errors}"))
}

const JUMP: &str = "[jump]\nheight = \"3.4 tiles\"\ntime_to_apex = \"0.35 s\"";

fn level(rows: &[String], more: &str) -> Level {
    let text = format!("{more}\n[map]\nrows = '''\n{}\n'''\n", rows.join("\n"));
    Level::parse("room", &text).unwrap_or_else(|errors| panic!("{errors}\n{text}"))
}

fn report(level: &Level, tuning: &TuningFile) -> ReachReport {
    reach(level, tuning, &ReachSettings::default(), |_| true).unwrap()
}

fn answer<'r>(report: &'r ReachReport, target: &str) -> &'r ReachAnswer {
    let found: Vec<&Reach> = report.targets.iter().filter(|of| of.target.starts_with(target)).collect();
    assert!(!found.is_empty(), "{target} in {:?}", report.targets.iter().map(|of| &of.target).collect::<Vec<_>>());
    &found[0].answer
}

fn is_reached(answer: &ReachAnswer) -> bool {
    match answer {
        ReachAnswer::Reached { .. } => true,
        ReachAnswer::OutOfReach { .. } => false,
        ReachAnswer::NotFound => panic!("not found"),
    }
}

/// A pit with a step so many tiles high in it: the step's goal stands on it.
fn ledge(height: usize) -> Level {
    let (sky, wide) = (16 - height, 14);
    let mut rows = vec![".".repeat(wide); sky - 1];
    rows.push(format!("{}!{}", ".".repeat(wide - 1), ""));
    for _ in 0..height - 1 {
        rows.push(format!("{}###", ".".repeat(wide - 3)));
    }
    rows.push(format!("..@{}###", ".".repeat(wide - 6)));
    rows.push("#".repeat(wide));
    level(&rows, "")
}

/// Two floors with so many tiles of nothing between them.
fn gap(tiles: usize) -> Level {
    let mut rows = vec![".".repeat(16 + tiles); 9];
    rows.push(format!("..@.....{}.......!", ".".repeat(tiles)));
    rows.push(format!("########{}########", ".".repeat(tiles)));
    level(&rows, "[edges]\nbottom = \"deadly\"\nleft = \"solid\"\nright = \"solid\"")
}

#[test]
fn ledges_a_tile_under_and_over_the_jump_are_all_answered() {
    let air = |jumps: u32| format!("{JUMP}\nair_jumps = {jumps}\nair_jump_height = \"2.2 tiles\"");
    for (walker, highest) in [
        (tuning(JUMP, ""), 3),
        (tuning(&format!("{JUMP}\ncoyote_time = \"0.2 s\"\nbuffer_time = \"0.1 s\""), ""), 3),
        (tuning(&format!("{JUMP}\nrelease = {{ style = \"cut\", keep = 0.4 }}"), ""), 3),
        (tuning(&air(1), ""), 5),
        (tuning(&air(2), ""), 7),
        (tuning(JUMP, "[tick]\nscheme = \"velocity-first\""), 3),
        (tuning(JUMP, "[tick]\nscheme = \"position-first\"\nrate = 50"), 3),
        (tuning(&JUMP.replace("3.4", "2.1"), "[tick]\npixels = \"whole\""), 2),
    ] {
        assert_eq!(answers((1..=9).map(ledge), &walker), expected(highest, 9), "{highest} tiles");
    }
}

/// A sign for each answer: `+` reached, `-` out of reach, `?` not found.
fn answers(levels: impl Iterator<Item = Level>, tuning: &TuningFile) -> String {
    let sign = |level: Level| match answer(&report(&level, tuning), "goal") {
        ReachAnswer::Reached { .. } => '+',
        ReachAnswer::OutOfReach { .. } => '-',
        ReachAnswer::NotFound => '?',
    };
    levels.map(sign).collect()
}

/// Reached as far as this, and not beyond it.
fn expected(farthest: usize, all: usize) -> String {
    "+".repeat(farthest) + &"-".repeat(all - farthest)
}

/// Whether a run and one jump, begun in any tick of the run, crosses the gap.
fn crosses(level: &Level, tuning: &TuningFile) -> bool {
    let right = Buttons { right: true, ..Buttons::NONE };
    (1..100).any(|take_off| {
        let mut play = Play::start(level, &level.grid, &tuning.tuning).unwrap();
        for tick in 1..200 {
            play.tick(Buttons { jump: tick >= take_off, ..right });
        }
        play.trace().rows.iter().any(|row| row.contacts.below && row.feet.x > 8.5 * TILE)
    })
}

#[test]
fn gaps_are_answered_up_to_the_longest_jump_and_beyond_it() {
    for walker in [
        tuning(JUMP, ""),
        tuning(&format!("{JUMP}\ncoyote_time = \"0.15 s\""), ""),
        tuning(&format!("{JUMP}\nhang = {{ speed = \"1.5 tiles/s\", gravity_ratio = 0.5 }}"), ""),
        tuning(JUMP, "[tick]\nscheme = \"velocity-first\""),
        tuning(JUMP, "[tick]\nscheme = \"position-first\"\nrate = 120"),
    ] {
        let farthest = (1..=12).take_while(|tiles| crosses(&gap(*tiles), &walker)).count();
        assert_eq!(answers((1..=12).map(gap), &walker), expected(farthest, 12), "{farthest} tiles");
    }
    let twice = tuning(&format!("{JUMP}\nair_jumps = 1\nair_jump_height = \"2.2 tiles\""), "");
    assert_eq!(answers((1..=12).map(gap), &twice), expected(8, 12));
}

#[test]
fn abilities_open_what_is_closed_without_them() {
    let rows = |rows: &[&str]| rows.iter().map(|row| (*row).to_owned()).collect::<Vec<_>>();
    let shaft = rows(&[
        "............",
        "......!.....",
        "..#...####..",
        "..#...#.....",
        "..#...#.....",
        "..#...#.....",
        "..#...#.....",
        "......#.....",
        ".@....#.....",
        "############",
    ]);
    let ladder = rows(&[
        "............",
        "......!.....",
        "......####..",
        ".....H#.....",
        ".....H#.....",
        ".....H#.....",
        ".....H#.....",
        ".....H#.....",
        ".@...H#.....",
        "############",
    ]);
    let climber = "[ladder]\nup_speed = \"4 tiles/s\"\ndown_speed = \"4 tiles/s\"";
    let wall =
        "[wall.slide]\ntop_speed = \"3 tiles/s\"\n[wall.jump]\nheight = \"2.5 tiles\"\npush_speed = \"7 tiles/s\"";
    let holder = "[wall.hold]\nwhen = \"grab-held\"\nup_speed = \"4 tiles/s\"\ntop = \"climb-over\"";
    for (what, map, others, expected) in [
        ("a shaft", &shaft, "", false),
        ("a shaft, off its walls", &shaft, wall, true),
        ("a wall that is held", &ladder, holder, true),
        ("a ladder", &ladder, climber, true),
        ("a ladder that cannot be climbed", &ladder, "", false),
    ] {
        let report = report(&level(map, ""), &tuning(JUMP, others));
        assert_eq!(is_reached(answer(&report, "goal")), expected, "{what}: {:?}", answer(&report, "goal"));
    }
    // A hoist at the right moment.
    let hoist = "[[platform]]\nid = \"hoist\"\nsize = [\"2 tiles\", \"0.5 tiles\"]\nroute = [[\"8 tiles\", \"8 tiles\"], [\"8 tiles\", \"3 tiles\"]]\nspeed = \"3 tiles/s\"\n";
    for (more, expected) in [(hoist, true), ("", false)] {
        let report = report(
            &level(
                &ladder.iter().map(|row| row.replace('H', ".")).collect::<Vec<_>>(),
                &more.replace("8 tiles\", \"", "3 tiles\", \""),
            ),
            &tuning(JUMP, ""),
        );
        assert_eq!(is_reached(answer(&report, "goal")), expected, "hoist: {expected}");
    }
}

/// Rows as they stand in a file.
fn map(rows: &[&str], more: &str) -> Level {
    level(&rows.iter().map(|row| (*row).to_owned()).collect::<Vec<_>>(), more)
}

#[test]
fn a_gate_is_passed_with_its_key() {
    let gate = "[round]\n[letters]\nk = { zone = \"pickup\", gives = \"key\" }\nG = { surface = \"solid\", needs = \"key\" }\n";
    let with_key = map(&["#########", "#...#...#", "#...G..!#", "#@.kG...#", "#########"], gate);
    assert!(is_reached(answer(&report(&with_key, &tuning(JUMP, "")), "goal")));
    // Where the key lies behind its gate nobody comes through; but no gate is there for ever, so that nobody comes is not certain.
    let without = map(&["#########", "#...#...#", "#...G..!#", "#@..Gk..#", "#########"], gate);
    assert_eq!(*answer(&report(&without, &tuning(JUMP, "")), "goal"), ReachAnswer::NotFound);
}

#[test]
fn what_only_others_meet_is_neither_a_top_nor_a_wall() {
    let curtain = "[meets]\njars = []\n[letters]\nc = { surface = \"solid\", group = \"jars\" }\n";
    let through = map(&["#########", "#...c...#", "#...c..!#", "#@..c...#", "#########"], curtain);
    let report = report(&through, &tuning(JUMP, ""));
    let names: Vec<&str> = report.targets.iter().map(|of| of.target.as_str()).collect();
    assert!(names.contains(&"goal@7,2") && !names.iter().any(|name| name.starts_with("top@4,")), "{names:?}");
    assert!(report.targets.iter().all(|of| is_reached(&of.answer)));
}

#[test]
fn where_whoever_stands_is_defeated_nobody_comes() {
    let pit = ["..........", "..........", ".@........", "####^^####", "##########"];
    let closed = report(&map(&pit, "[round]"), &tuning(JUMP, ""));
    let ReachAnswer::OutOfReach { why } = answer(&closed, "top@4-5,3") else { panic!("{closed:?}") };
    assert!(why.starts_with("deadly"), "{why}");
    // With health to spare it is only painful; a tile that is free beside them is safe.
    assert!(is_reached(answer(&report(&map(&pit, "[round]\nhealth = 3"), &tuning(JUMP, "")), "top@4-5,3")));
    let wider = ["..........", "..........", ".@........", "###.^^####", "##########"];
    assert!(is_reached(answer(&report(&map(&wider, "[round]"), &tuning(JUMP, "")), "top@3-5,3")));
}

#[test]
fn who_flies_is_stopped_by_walls_alone() {
    let rows = ["########", "#..#.!.#", "#..#...#", "#@.#...#", "########"];
    let flaps = "[flight]\nby = \"flaps\"\nlift = \"12 tiles/s\"\n[fall]\ngravity = \"40 tiles/s^2\"\n";
    for (rows, expected) in [(rows, false), (rows.map(|row| if row.contains('!') { "#....!.#" } else { row }), true)] {
        let report = report(
            &map(&rows, ""),
            &TuningFile::parse("owl", &format!("[body]\nwidth = 10\nheight = 12\n[run]\ntop_speed = 100\n{flaps}"))
                .unwrap(),
        );
        assert_eq!(is_reached(answer(&report, "goal")), expected);
    }
}

#[test]
fn single_changes_do_what_they_say() {
    let mut settings = ReachSettings::default();
    settings.changes = true;
    settings.only = vec!["top@11-13,10".to_owned()];
    let ladders = "[ladder]\nup_speed = \"4 tiles/s\"\ndown_speed = \"4 tiles/s\"\n";
    let (room, walker) = (ledge(5), tuning(JUMP, ladders));
    let found = reach(&room, &walker, &settings, |_| true).unwrap().targets.remove(0);
    let words: Vec<String> = found.changes.iter().map(ToString::to_string).collect();
    assert_eq!(
        words,
        ["jump.height = \"5 tiles\", not 3.4", "jump.air_jumps = 1, not 0", "a ladder of 1 tile from 10,11 down",]
    );
    // Each of them, written down by hand, does; a tenth of a tile less does not.
    let only = |level: &Level, tuning: &TuningFile, target: &str| is_reached(answer(&report(level, tuning), target));
    for (jump, others, reached) in [
        (JUMP.replace("3.4", "5.0"), "", true),
        (JUMP.replace("3.4", "4.9"), "", false),
        (format!("{JUMP}\nair_jumps = 1"), "", true),
    ] {
        assert_eq!(only(&room, &tuning(&jump, others), "top@11-13,10"), reached, "{jump}");
    }
    // Less of a gap; and nothing where nothing helps.
    settings.only = vec!["goal".to_owned()];
    let gap = reach(&gap(8), &tuning(JUMP, ""), &settings, |_| true).unwrap().targets.remove(0);
    let words: Vec<String> = gap.changes.iter().map(ToString::to_string).collect();
    assert!(words.iter().any(|words| words.starts_with("run.top_speed = \"")), "{words:?}");
    assert!(words.iter().any(|words| words.contains("of ground at ")), "{words:?}");
    let walled = map(&["........", "....###.", "....#!#.", "....###.", ".@......", "########"], "");
    let walled = reach(&walled, &tuning(JUMP, ""), &settings, |_| true).unwrap().targets.remove(0);
    assert_eq!(walled.changes, []);
}

#[test]
fn what_is_asked_after_by_name() {
    let mut settings = ReachSettings::default();
    settings.only = vec!["goal".to_owned(), "top@0-10,15".to_owned()];
    let report = reach(&ledge(3), &tuning(JUMP, ""), &settings, |_| true).unwrap();
    assert_eq!(report.targets.iter().map(|of| of.target.as_str()).collect::<Vec<_>>(), ["goal@13,12", "top@0-10,15"]);
    settings.only = vec!["tpo@0-10,15".to_owned()];
    let wrong = reach(&ledge(3), &tuning(JUMP, ""), &settings, |_| true).unwrap_err();
    assert_eq!(wrong.to_string(), "nothing is called \"tpo@0-10,15\" there; did you mean \"top@0-10,15\"?");
}

#[test]
fn what_is_walled_off_says_so() {
    let rows = ["........", "....###.", "....#!#.", "....###.", ".@......", "########"].map(str::to_owned);
    let report = report(&level(&rows, ""), &tuning(JUMP, ""));
    let ReachAnswer::OutOfReach { why } = answer(&report, "goal") else { panic!("{report:?}") };
    assert!(why.contains("walled off"), "{why}");
    let report = self::report(&ledge(7), &tuning(JUMP, ""));
    let ReachAnswer::OutOfReach { why } = answer(&report, "top@11-13,8") else { panic!("{report:?}") };
    assert_eq!(why, "too high: 7 tiles above the highest place that can be reached; nothing rises more than 3.4");
}

/// Whether a run of these buttons is there in its last tick, by the rows of its trace alone.
fn is_there(level: &Level, tuning: &TuningFile, of: &Reach, held: &wumple::Timeline, ticks: u64) -> bool {
    let trace = wumple::run(level, &tuning.tuning, held, ticks).unwrap();
    let row = &trace.rows[ticks as usize];
    let half = tuning.tuning.body().width * 0.5;
    let [left, top, right, _] = of.place_px;
    match of.zone {
        Some(zone) => row.events.contains(&Event::Entered(zone)) || !trace.round_events(ticks as usize).is_empty(),
        None if of.target.starts_with("platform") => true,
        None => (row.feet.y - top).abs() < 1e-6 && row.feet.x + half > left && row.feet.x - half < right,
    }
}

#[test]
fn in_every_room_of_the_demo_ways_are_runs_and_nothing_reached_is_out_of_reach() {
    let climbing = demo::ROOMS.iter().map(|room| (room.name, room.level, demo::CLIMBING_DAB));
    let others = demo::OTHERS.iter().map(|other| (other.room.name, other.room.level, other.tuning));
    for (name, text, who) in climbing.chain(others).chain([("throwing-room", demo::THROWING_ROOM, demo::DAB)]) {
        let (level, tuning) = (Level::parse(name, text).unwrap(), TuningFile::parse(name, who).unwrap());
        let mut settings = ReachSettings::default();
        (settings.most_ticks, settings.shortens) = (300_000, true);
        let report = reach(&level, &tuning, &settings, |_| true).unwrap();
        let mut reached = 0;
        for of in &report.targets {
            match &of.answer {
                ReachAnswer::Reached { held, ticks, .. } => {
                    reached += 1;
                    assert!(is_there(&level, &tuning, of, held, *ticks), "{name}: {} with {held:?}", of.target);
                }
                ReachAnswer::OutOfReach { why } => assert!(!why.is_empty()),
                ReachAnswer::NotFound => {}
            }
        }
        assert!(reached > 0, "{name}: {report:?}");
    }
}

#[test]
fn as_many_threads_as_one_likes_give_the_same() {
    let (level, tuning) = (ledge(3), tuning(JUMP, ""));
    let with = |threads: usize| {
        let pool = rayon::ThreadPoolBuilder::new().num_threads(threads).build().unwrap();
        pool.install(|| report(&level, &tuning))
    };
    assert_eq!(with(1), with(3));
    // Stopped at once it says so, and keeps what is certain.
    let stopped = reach(&ledge(7), &tuning, &ReachSettings::default(), |_| false).unwrap();
    assert_eq!(stopped.ticks_tried, 0);
    assert!(matches!(answer(&stopped, "goal"), ReachAnswer::OutOfReach { .. }));
    assert!(stopped.targets.iter().any(|of| of.answer == ReachAnswer::NotFound));
}

/// A room of random tiles, goals strewn in it, platforms of all kinds, and a spawn on the ground.
fn room() -> impl Strategy<Value = String> {
    let tile = prop_oneof![20 => Just('.'), 6 => Just('#'), 4 => Just('='), 2 => Just('H'), 2 => Just('!'), 1 => Just('/'), 1 => Just('\\'), 1 => Just('b')];
    let map = prop::collection::vec(prop::collection::vec(tile, 18), 9);
    (map, prop::collection::vec(platform(), 0..3)).prop_map(|(mut rows, platforms)| {
        rows[6][2] = '.';
        rows[7][2] = '@';
        rows[8][2] = '#';
        let rows: Vec<String> = rows.into_iter().map(|row| row.into_iter().collect()).collect();
        format!(
            "[edges]\nbottom = \"deadly\"\n[letters]\nb = {{ surface = \"solid\", bounce = {{ height = \"3 tiles\" }} }}\n{}[map]\nrows = '''\n{}\n'''\n",
            platforms.concat(),
            rows.join("\n")
        )
    })
}

/// One that stays, goes, crumbles or throws up, away from the spawn.
fn platform() -> impl Strategy<Value = String> {
    let place = || (4i32..16, 0i32..8);
    (place(), place(), any::<bool>(), any::<bool>(), 0u32..4, 1u32..6).prop_map(
        |(from, to, goes, one_way, kind, speed)| {
            let at = |(column, row): (i32, i32)| format!("[\"{column} tiles\", \"{row} tiles\"]");
            let route = if goes && from != to {
                format!("[{}, {}]\nspeed = \"{speed} tiles/s\"", at(from), at(to))
            } else {
                format!("[{}]", at(from))
            };
            let kind = [
                "",
                "bounce = { height = \"3 tiles\" }\n",
                "crumble = { after = \"0.3 s\", over = \"0.2 s\", sink = \"10 px\" }\n",
                "ease = \"smooth\"\n",
            ][kind as usize];
            let surface = if one_way { "one-way" } else { "solid" };
            format!("[[platform]]\nsize = [\"2 tiles\", \"6 px\"]\nsurface = \"{surface}\"\nroute = {route}\n{kind}")
        },
    )
}

fn walker() -> impl Strategy<Value = TuningFile> {
    let numbers = (10u32..45, 20u32..60, 20u32..100, 0u32..3, 0u32..20, 0usize..3);
    let abilities = (any::<bool>(), any::<bool>(), any::<bool>(), 0u32..6, 0u32..6, any::<bool>());
    (numbers, abilities).prop_map(|((height, apex, speed, air, coyote, scheme), (ladder, wall, hold, nudge, lift, hang))| {
        let tall = [15, 22, 33][lift as usize % 3];
        let scheme = ["exact", "velocity-first", "position-first"][scheme];
        let hang = if hang { "hang = { speed = \"2 tiles/s\", gravity_ratio = 0.5 }\n" } else { "" };
        let mut text = format!(
            "[tick]\nscheme = \"{scheme}\"\n[body]\nwidth = \"10 px\"\nheight = {tall}\ncorner_nudge = {nudge}\nledge_lift = {lift}\n[run]\ntop_speed = {}\nacceleration = \"0.1 s\"\n[fall]\ntop_speed = \"16 tiles/s\"\ngravity_ratio = {}\n[jump]\nheight = \"{} tiles\"\ntime_to_apex = \"{} s\"\nair_jumps = {air}\ncoyote_time = \"{} s\"\n{hang}",
            f64::from(speed) * 2.0,
            0.7 + f64::from(coyote) / 10.0,
            f64::from(height) / 10.0,
            f64::from(apex) / 100.0,
            f64::from(coyote) / 100.0,
        );
        if ladder {
            text += "[ladder]\nup_speed = \"4 tiles/s\"\ndown_speed = \"4 tiles/s\"\n";
        }
        if wall {
            text += "[wall.slide]\ntop_speed = \"3 tiles/s\"\n[wall.jump]\nheight = \"2 tiles\"\npush_speed = \"7 tiles/s\"\n";
        }
        if hold {
            text += "[wall.hold]\nwhen = \"grab-held\"\nup_speed = \"3 tiles/s\"\ndown_speed = \"3 tiles/s\"\ntop = \"climb-over\"\n";
        }
        TuningFile::parse("walker", &text).unwrap_or_else(|errors| panic!("{errors}\n{text}"))
    })
}

/// What is held, for how many ticks.
fn play() -> impl Strategy<Value = Vec<(Buttons, u8)>> {
    let held = (0usize..3, any::<bool>(), 0usize..4, any::<bool>()).prop_map(|(side, jump, other, grab)| Buttons {
        left: side == 1,
        right: side == 2,
        jump,
        up: other == 1,
        down: other == 2,
        grab,
        ..Buttons::NONE
    });
    prop::collection::vec((held, 1u8..25), 1..80)
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 24, ..ProptestConfig::default() })]

    /// No proof is contradicted: neither by whatever is played nor by a search that does not believe it.
    #[test]
    fn nothing_that_is_played_comes_to_what_is_out_of_reach(text in room(), walker in walker(), plays in prop::collection::vec(play(), 6)) {
        // Smooth ways that stay are refused.
        let level = Level::parse("room", &text);
        let Ok(level) = level else { return Ok(()) };
        let Ok(mut report) = reach(&level, &walker, &ReachSettings::default(), |ticks| ticks < 60_000) else { return Ok(()) };
        report.targets.retain(|of| matches!(of.answer, ReachAnswer::OutOfReach { .. }));
        let mut settings = ReachSettings::default();
        (settings.tries_all, settings.most_ticks) = (true, 60_000);
        // Within, what is reached in spite of a proof panics.
        reach(&level, &walker, &settings, |_| true).unwrap();
        let half = walker.tuning.body().width * 0.5;
        for held in plays {
            let mut play = Play::start(&level, &level.grid, &walker.tuning).unwrap();
            for (held, ticks) in held {
                for _ in 0..ticks {
                    play.tick(held);
                    let row = play.report();
                    for of in &report.targets {
                        let [left, top, right, _] = of.place_px;
                        let stands = of.zone.is_none() && !of.target.starts_with("platform") && row.contacts.below && row.feet.y == top && row.feet.x + half > left && row.feet.x - half < right;
                        let entered = of.zone.is_some_and(|zone| row.events.contains(&Event::Entered(zone)));
                        prop_assert!(!(stands || entered), "{} in tick {} at {}: {:?}\n{text}", of.target, row.tick, row.feet, of.answer);
                    }
                }
            }
        }
        prop_assert!(report.targets.iter().all(|of| of.zone.is_none_or(|zone| zone.kind == ZoneKind::Goal)));
        prop_assert_eq!(level.grid.grid_lines().spacing(), TILE);
    }
}

/// In random rooms, of what a search ten times as long comes to, the shorter one finds 95 in 100 at least, and calls none of it out
/// of reach; nor what a search comes to that does not believe the proofs. As many rooms as `REACH_ROOMS` says, with a quarter of the
/// ticks that are tried where nothing else is said; else a few, with so little that less is found.
#[test]
fn a_far_longer_search_hardly_finds_more() {
    let rooms: usize = std::env::var("REACH_ROOMS").map_or(4, |count| count.parse().expect("REACH_ROOMS is a count"));
    let is_long = rooms > 4;
    let (short, least) = if is_long { (1_000_000, 0.95) } else { (200_000, 0.7) };
    let is_reached = |of: &Reach| matches!(of.answer, ReachAnswer::Reached { .. });
    let mut random = TestRunner::deterministic();
    let (mut reached, mut missed, mut contradicted, mut done) = (0u32, 0u32, 0, 0);
    while done < rooms {
        let (text, walker) = (room(), walker()).new_tree(&mut random).unwrap().current();
        let Ok(level) = Level::parse("room", &text) else { continue };
        let search = |most_ticks: u64, tries_all: bool| {
            let mut settings = ReachSettings::default();
            (settings.most_ticks, settings.tries_all) = (most_ticks, tries_all);
            reach(&level, &walker, &settings, |_| true)
        };
        let Ok(first) = search(short, false) else { continue };
        let (long, unbelieving) = (search(10 * short, false).unwrap(), search(2 * short, true).unwrap());
        done += 1;
        for ((first, long), unbelieving) in first.targets.iter().zip(&long.targets).zip(&unbelieving.targets) {
            if is_reached(long) || is_reached(unbelieving) {
                reached += 1;
                missed += u32::from(!is_reached(first));
                contradicted += usize::from(matches!(first.answer, ReachAnswer::OutOfReach { .. }));
            }
        }
        if is_long {
            println!(
                "{done} rooms: {reached} reached, {missed} of them not by the shorter, {contradicted} contradicted"
            );
        }
    }
    assert_eq!(contradicted, 0);
    let share = 1.0 - f64::from(missed) / f64::from(reached);
    assert!(reached > 40 && share >= least, "{missed} of {reached} missed");
}

/// Who is so fast that a jump on the run ends where coordinates do may come to all there is: nothing is called out of reach.
#[test]
fn who_runs_as_fast_as_can_be_is_answered_too() {
    let level = gap(3);
    for rate in [1, 60] {
        for air_jumps in [0, 2] {
            let text = format!(
                "[tick]\nrate = {rate}\n[body]\nwidth = 10\nheight = 20\n[run]\ntop_speed = 900000\n\
                 [jump]\nspeed = 300\ngravity = 900\nair_jumps = {air_jumps}\n"
            );
            let report = reach(&level, &TuningFile::parse("t", &text).unwrap(), &ReachSettings::default(), |_| true);
            let targets = report.unwrap().targets;
            assert!(
                targets.iter().all(|of| !matches!(of.answer, ReachAnswer::OutOfReach { .. })),
                "{rate} {air_jumps}"
            );
        }
    }
}
