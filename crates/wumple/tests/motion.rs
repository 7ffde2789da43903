//! Rooms in which the motion once went wrong, each with what a player would see there now.

use wumple::numbers::{Pixels, Scheme};
use wumple::{
    Buttons, ButtonsFile, DVec2, Level, Terrain, Timeline, TraceRow, Tuning, TuningFile, TuningNumbers, World,
};

fn folder() -> std::path::PathBuf {
    [env!("CARGO_MANIFEST_DIR"), "tests", "motion"].iter().collect()
}

fn level(name: &str) -> Level {
    Level::read(&folder().join(format!("{name}.level.toml"))).unwrap()
}

fn tuning(name: &str) -> TuningFile {
    TuningFile::read(&folder().join(format!("{name}.tuning.toml"))).unwrap()
}

fn buttons(name: &str, tuning: &TuningFile) -> Timeline {
    let file = ButtonsFile::read(&folder().join(format!("{name}.buttons")), &tuning.scale).unwrap();
    file.at_rate(tuning.tuning.rate()).unwrap().0
}

fn rows(level: &Level, tuning: &Tuning, timeline: &Timeline, ticks: u64) -> Vec<TraceRow> {
    wumple::run(level, tuning, timeline, ticks).unwrap().written_rows().collect()
}

/// A room with its own tuning and buttons.
fn room(name: &str, ticks: u64) -> Vec<TraceRow> {
    let tuning = tuning(name);
    rows(&level(name), &tuning.tuning, &buttons(name, &tuning), ticks)
}

/// A room, how many ticks are run, and what is told in some of them.
type Told = (&'static str, u64, &'static [(usize, &'static str)]);

/// State, support, contacts and events of a row.
fn told(row: &TraceRow) -> String {
    format!("{} | {} | {} | {}", row.state, row.support, row.contacts, row.events)
}

/// The buttons held from one tick on.
fn held(text: &str) -> Timeline {
    let scale = tuning("climb-bump").scale;
    ButtonsFile::parse("b", text, &scale).unwrap().at_rate(60.0).unwrap().0
}

#[test]
fn what_is_told_tick_by_tick() {
    let table: [Told; 14] = [
        // A speed that ends the tick within noise of zero is zero: the slide begins after the fall has.
        (
            "apex-noise",
            10,
            &[(6, "fall | none | right | "), (7, "fall | none | right | "), (8, "wall-slide | none | right | ")],
        ),
        // Bellows throw up who climbs down onto them, though down is held.
        (
            "bounce-never-while-down-is-held",
            45,
            &[
                (33, "ladder | none |  | "),
                (34, "rise | none |  | let-go:ladder;bounced:bellows"),
                (35, "rise | none |  | "),
            ],
        ),
        (
            "climb-bump",
            40,
            &[(26, "ladder | none |  | "), (27, "ladder | none | above | stopped:head"), (28, "ladder | none |  | ")],
        ),
        // Another platform takes the body clear of the one that would crush it.
        (
            "crushed-though-clear",
            28,
            &[(24, "stand | platform:p4 | below | crushed:p1"), (25, "run | platform:p4 | below | ")],
        ),
        ("drop-undone-at-seam", 50, &[(34, "fall | none |  | dropped-through"), (35, "fall | none |  | ")]),
        (
            "found-ground-without-landed",
            10,
            &[(3, "stand | solid | above below | jumped:ground;bumped:head;landed:0"), (4, "stand | solid | below | ")],
        ),
        (
            "hold-barred-after-climb-over",
            140,
            &[(122, "fall | none | right | "), (123, "wall-hold | none | right | took:wall")],
        ),
        // Stopped once by a shelf across the ladder, and then let through.
        (
            "ladder-flicker-on-one-way-platform",
            45,
            &[
                (19, "stand | platform:shelf | below | let-go:ladder"),
                (20, "ladder | none |  | took:ladder"),
                (21, "ladder | none |  | "),
                (40, "ladder | none |  | "),
            ],
        ),
        // Taken from where the belt has carried the body.
        (
            "ladder-judged-after-carriage",
            59,
            &[(57, "run | one-way | below | "), (58, "ladder | none |  | took:ladder")],
        ),
        (
            "lift-swallows-bouncer",
            20,
            &[(1, "rise | none |  | bounced:lift"), (2, "rise | none |  | caught:lift;bounced:lift")],
        ),
        ("second-bump-not-told", 116, &[(112, "fall | none | right above | jumped:ground;bumped:head")]),
        (
            "shelf-lets-releaser-through",
            76,
            &[(74, "rise | none |  | "), (75, "stand | platform:p0 | below | caught:p0")],
        ),
        ("walks-into-rising-shelf", 34, &[(30, "run | solid | below | "), (31, "run | platform:p0 | below | ")]),
        (
            "wall-coyote-lost-after-jump-from-climb-over",
            180,
            &[(175, "fall | none |  | "), (177, "rise | none | left | jumped:wall")],
        ),
    ];
    for (name, ticks, moments) in table {
        let rows = room(name, ticks);
        for (tick, expected) in moments {
            assert_eq!(told(&rows[*tick]), *expected, "{name}, tick {tick}");
        }
    }
}

#[test]
fn what_supported_before_goes_on_while_the_middle_is_on_it() {
    // A platform slides in, flush with the floor.
    let rows = room("flush-platform-edge", 110);
    for row in &rows[96..] {
        assert_eq!((row.state.as_ref(), row.support.as_str(), row.x_px), ("stand", "ramp", 144.0), "{row:?}");
    }
}

#[test]
fn a_shelf_lifts_a_head_under_a_ceiling_no_further_than_there_is_room() {
    let rows = room("shelf-hop-under-ceiling", 60);
    // The first tick of the lift has room; the second has not, and it goes on without its rider.
    assert_eq!(told(&rows[19]), "stand | platform:lift | below | pushed:lift");
    let events: Vec<&str> = rows.iter().map(|row| row.events.as_str()).filter(|events| !events.is_empty()).collect();
    assert_eq!(events, ["pushed:lift", "lost-ground", "landed:60"]);
    // A lift that would need more room in its first tick than there is does not move anybody.
    let text = std::fs::read_to_string(folder().join("shelf-hop-under-ceiling.level.toml")).unwrap();
    let quick = Level::parse("l", &text.replace("100 px/s", "300 px/s")).unwrap();
    let tuning = tuning("shelf-hop-under-ceiling").tuning;
    let rows = wumple::run(&quick, &tuning, &held("0 -"), 60).unwrap();
    for row in rows.written_rows() {
        assert_eq!((told(&row).as_str(), row.y_px), ("stand | solid | below | ", 80.0), "{row:?}");
    }
}

#[test]
fn a_ramp_that_ends_below_the_floor_is_left_for_the_floor() {
    for row in &room("sunk-ramp-flicker", 70)[40..] {
        assert_eq!((row.state.as_ref(), row.events.as_str(), row.vx_px_s), ("run", "", 112.0), "{row:?}");
    }
}

#[test]
fn a_face_without_height_is_no_wall() {
    for row in &room("ramp-tip-is-a-wall", 27)[1..] {
        assert_eq!((row.state.as_ref(), row.contacts.as_str()), ("fall", ""), "{row:?}");
    }
}

#[test]
fn the_rest_of_a_climb_is_gone_where_the_ladder_ends() {
    let rows = room("whole-pixels-rest-after-climb", 90);
    // From rest on, by 900 px/s^2: 0.125, 0.5, 1.125 and 2 px below the ladder's top, rounded half up.
    let fall: Vec<f64> = rows[66..71].iter().map(|row| row.y_px - 32.0).collect();
    assert_eq!(fall, [0.0, 0.0, 1.0, 1.0, 2.0]);
}

/// Whoever holds a direction gets on in every tick, until something stands in the way.
#[test]
fn nobody_is_stuck_on_a_slope_or_at_its_ends() {
    let table = [
        ("stuck-at-foot-of-ramp", "0 right", 90, 90.0),
        ("stuck-in-mid-air", "0 right; 88 left jump", 145, 80.0),
        ("wide-body-stuck-on-ramp", "0 right", 120, 150.0),
        ("wide-body-hangs-beside-kicker", "0 right", 40, 47.25),
    ];
    for (name, text, ticks, place) in table {
        let tuning = tuning(name).tuning;
        let rows = rows(&level(name), &tuning, &held(text), ticks);
        let last = rows.last().unwrap();
        let got_there = if last.facing == "left" { last.x_px <= place } else { last.x_px >= place };
        assert!(got_there, "{name}: {last:?}");
    }
}

const LETTERS: &str = r#"
[letters]
"b" = { surface = "ramp", left_height = "16 px", right_height = "4 px" }
"m" = { surface = "ramp", left_height = "4 px", right_height = "16 px" }
"#;

/// Ledges, peaks, kickers and a valley, each left of a free floor, and the same mirrored.
fn slopes() -> Vec<(String, bool)> {
    let maps = [
        "#..........@. #............ #............ ##........... ####\\........ #############",
        "#..........@. #............ #............ #.##\\........ #.###\\....... #############",
        "#..........@. #............ #............ ##\\.......... ###b......... #############",
        "#..........@. #............ #............ #............ ###\\..../\\... #############",
        "#..........@. #............ #............ #...../...... #..../....... #############",
    ];
    let drawn = "[[ramp]]\nfrom = [\"64 px\", \"48 px\"]\nto = [\"90 px\", \"80 px\"]\n";
    let turned = |letter| match letter {
        '\\' => '/',
        '/' => '\\',
        'b' => 'm',
        other => other,
    };
    let mut rooms = Vec::new();
    for map in maps {
        let rows: Vec<&str> = map.split(' ').collect();
        let mirrored: Vec<String> = rows.iter().map(|row| row.chars().rev().map(turned).collect()).collect();
        let room = |rows: &str, lines: &str| format!("{LETTERS}[map]\nrows = '''\n{rows}\n'''\n{lines}");
        rooms.push((room(&rows.join("\n"), ""), false));
        // In the last it would lead under the kicker.
        if !map.contains("...../") {
            rooms.push((room(&rows.join("\n"), drawn), false));
        }
        rooms.push((room(&mirrored.join("\n"), ""), true));
    }
    rooms
}

#[test]
fn bodies_of_any_width_come_over_slopes_and_back_in_every_scheme() {
    for (text, mirrored) in slopes() {
        let level = Level::parse("l", &text).unwrap();
        for width in [4.0, 10.0, 15.0, 24.0, 33.5, 48.0, 80.0] {
            for scheme in Scheme::WORDS.iter().filter_map(|word| Scheme::of_word(word)) {
                for whole in [false, true] {
                    let mut numbers = TuningNumbers::new(width, 14.0, 90.0).with_jump(54.0, 0.35);
                    (numbers.scheme, numbers.run.ramp_follow) = (scheme, 4.0);
                    if whole {
                        (numbers.pixels, numbers.body.width) = (Pixels::Whole, width.ceil());
                    }
                    goes_there_and_back(&level, &Tuning::check(&numbers).unwrap(), mirrored);
                }
            }
        }
    }
}

/// From the free floor to the wall behind the slopes, and back: in every tick something has moved, or the body
/// touches what it is going against.
fn goes_there_and_back(level: &Level, tuning: &Tuning, mirrored: bool) {
    let mut world = World::new(&level.grid);
    let starts = (0..90).map(|at| if mirrored { f64::from(at) } else { 208.0 - f64::from(at) });
    let Some(id) = starts.into_iter().find_map(|x| world.add_character(tuning.clone(), DVec2::new(x, 80.0)).ok())
    else {
        return;
    };
    for to_right in [mirrored, !mirrored] {
        let held = Buttons { left: !to_right, right: to_right, ..Buttons::NONE };
        let mut before = world.report(id).clone();
        let mut waited = 0;
        for _ in 0..300 {
            world.tick(&[held]);
            let now = world.report(id).clone();
            let touches = if to_right { now.contacts.right } else { now.contacts.left };
            waited = if touches || now.feet != before.feet { 0 } else { waited + 1 };
            assert!(waited < 3, "{} wide, {:?}, {before:?} {now:?}", tuning.body().width, tuning.scheme());
            before = now;
        }
    }
}

/// Whether the feet's middle is below the top of a solid tile, within it.
fn is_inside(level: &Level, row: &TraceRow) -> bool {
    let grid = &level.grid;
    let cell = |place: f64| (place / grid.grid_lines().spacing()).floor() as i32;
    // Feet on a top are above it.
    let (column, line) = (cell(row.x_px), cell(row.y_px - 1e-9));
    let within = (0..grid.columns()).contains(&column) && (0..grid.rows()).contains(&line);
    within && grid.is_solid(column, line)
}

#[test]
fn ramps_into_solid_ground_lead_nobody_into_it() {
    let dab = Tuning::check(&TuningNumbers::new(10.0, 22.0, 120.0).with_jump(54.0, 0.35)).unwrap();
    // Fast, thin, at seven ticks a second.
    let mut quick = TuningNumbers::new(3.0, 24.0, 227.0).with_jump(1.0, 0.3);
    (quick.rate, quick.run.ramp_follow) = (7.3, 32.0);
    let quick = Tuning::check(&quick).unwrap();
    let names = [
        "ramps-into-a-ledge",
        "ramp-into-a-floor",
        "ramp-within-a-floor",
        "ramp-past-the-floor-48",
        "ramp-past-the-floor-50",
        "ramp-past-the-floor-52",
        "ramp-past-the-floor-56",
        "ramp-past-the-floor-60",
    ];
    let scripts =
        ["0 right", "0 left", "0 left; 60 right; 140 left jump; 200 right", "0 left jump; 30 -; 60 right jump"];
    for name in names {
        let level = level(name);
        for (tuning, text) in [&dab, &quick].into_iter().flat_map(|tuning| scripts.map(|text| (tuning, text))) {
            let rows = rows(&level, tuning, &held(text), 300);
            for pair in rows.windows(2) {
                assert!(!is_inside(&level, &pair[1]), "{name}, {text}: {pair:?}");
            }
        }
    }
}

#[test]
fn a_step_higher_than_the_body_is_reached_by_a_free_way_only() {
    let attic = level("attic");
    let rows = rows(&attic, &tuning("mouse").tuning, &held("0 right"), 60);
    let last = rows.last().unwrap();
    assert_eq!((last.x_px, last.y_px, last.state.as_ref()), (60.0, 48.0, "stand"), "under the ceiling still");
    // Nothing leaves a closed room, by steps of any height.
    for row in room("closed-room", 300) {
        assert!(row.x_px > 16.0 && row.x_px < 128.0 && row.y_px > 16.0 && row.y_px <= 144.0, "{row:?}");
    }
}
