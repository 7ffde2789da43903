//! Buttons, runs, traces and arcs through the public interface.

use proptest::prelude::*;
use wumple::analysis::{ArcKind, ComparedRun, FlightMeasures, level_arcs};
use wumple::units::Scale;
use wumple::{Buttons, ButtonsFile, Level, State, Terrain, Trace, TuningFile, arcs, demo};

const SCALE: Scale = Scale { tile: 16.0, frames_per_second: 60.0 };

fn timeline(text: &str, rate: f64) -> Vec<(u64, Buttons)> {
    ButtonsFile::parse("b", text, &SCALE).unwrap().at_rate(rate).unwrap().0.changes().to_vec()
}

fn demo_run() -> (Level, TuningFile, Trace) {
    let dab = TuningFile::parse("dab", demo::DAB).unwrap();
    let level = Level::parse("room", demo::THROWING_ROOM).unwrap();
    let buttons = ButtonsFile::parse("buttons", demo::THROWING_ROOM_BUTTONS, &dab.scale).unwrap();
    let (timeline, warnings) = buttons.at_rate(60.0).unwrap();
    assert!(warnings.is_empty());
    let trace = wumple::run(&level, &dab.tuning, &timeline, timeline.last_tick() + 30).unwrap();
    (level, dab, trace)
}

#[test]
fn buttons_become_ticks_of_the_tunings_rate() {
    let right = Buttons { right: true, ..Buttons::NONE };
    let both = Buttons { jump: true, ..right };
    assert_eq!(timeline("0 right\n30 right jump # up\n\n33 right", 60.0), [(0, right), (30, both), (33, right)]);
    // A time means the tick that begins at it, and tick 1 begins at 0 s.
    assert_eq!(timeline("0 s right; 0.5 s right jump; +50ms right", 60.0), [(1, right), (31, both), (34, right)]);
    assert_eq!(timeline("0 s right; 0.5 s right jump; +50ms right", 30.0), [(1, right), (16, both), (18, right)]);
    // So does a tick of another rate: tick 30 begins after 29 of them.
    assert_eq!(timeline("rate 60; 0 right; 31 right jump", 144.0), [(0, right), (73, both)]);
    assert_eq!(timeline("rate 50; 3 right", 60.0), [(3, right)], "2.4 ticks after the start of tick 1");
    assert_eq!(timeline("rate 120; 4 right; 5 -", 60.0), [(3, right)], "1.5 and 2 ticks after it, half up");
    assert_eq!(timeline("5 right; +5 -; +0.5s jump", 60.0)[2].0, 40);
    assert_eq!(
        timeline("+5 right; +0.5s -; 1 s jump; +6 -", 60.0).iter().map(|(tick, _)| *tick).collect::<Vec<_>>(),
        [5, 35, 61, 67]
    );
    assert_eq!(timeline("6 frames right=0.6", 60.0), [(7, Buttons { steer: 0.6, ..Buttons::NONE })]);
}

/// The same times at 30, 60, 144 and 1000 Hz: what is pressed at a moment that is a tick's in each acts at that moment.
#[test]
fn the_same_times_at_every_rate_are_the_same_run() {
    let level = Level::parse("room", demo::THROWING_ROOM).unwrap();
    let ends = [30.0, 60.0, 120.0, 1000.0].map(|rate: f64| {
        let text = demo::DAB.replace("rate = 60 ", &format!("rate = {rate} "));
        let dab = TuningFile::parse("dab", &text).unwrap();
        let file = ButtonsFile::parse("b", "0.5 s right; 0.8 s right jump; 1 s right; 1.4 s -", &dab.scale).unwrap();
        let (timeline, warnings) = file.at_rate(rate).unwrap();
        assert!(warnings.is_empty());
        let trace = wumple::run(&level, &dab.tuning, &timeline, (2.0 * rate) as u64).unwrap();
        trace.rows.last().unwrap().feet
    });
    for end in ends {
        assert!(end.distance(ends[1]) < 1e-6 && end.x > 60.0, "{ends:?}");
    }
}

/// A file in ticks and seconds has an order only at a rate: out of it, it is refused, not half read.
#[test]
fn times_out_of_order_at_the_tunings_rate_are_refused() {
    let file = ButtonsFile::parse("mixed.buttons", "30 right\n1s jump\n2s -", &SCALE).unwrap();
    assert_eq!(file.at_rate(60.0).unwrap().0.changes().len(), 3);
    let wrong = file.at_rate(10.0).unwrap_err().to_string();
    assert_eq!(wrong, "mixed.buttons:2:1: is earlier than the line before, at 10 Hz; times never go back");
    for text in ["30 right; 20 -", "2s right; 1s -", "rate 10; 30 right; 1s jump", "9e8 right; 5 -"] {
        let wrong = ButtonsFile::parse("b", text, &SCALE).unwrap_err().to_string();
        assert!(wrong.contains("times never go back"), "{text}: {wrong}");
    }
    let late = ButtonsFile::parse("b", "900000000 -", &SCALE).unwrap().at_rate(60.0).unwrap_err().to_string();
    assert_eq!(late, "b:1:1: is tick 900000000 at 60 Hz; a run has at most 10000000 ticks");
}

#[test]
fn lines_on_one_tick_are_joined_with_a_warning() {
    let file = ButtonsFile::parse("b", "rate 120\n9 right\n10 jump\n40 -", &SCALE).unwrap();
    let (timeline, warnings) = file.at_rate(30.0).unwrap();
    assert_eq!(timeline.changes()[0], (3, Buttons { right: true, jump: true, ..Buttons::NONE }));
    let said: Vec<String> = warnings.iter().map(ToString::to_string).collect();
    assert_eq!(said, ["b:3:1: falls on tick 3 like the line before; what is held in either is held from then on"]);
}

#[test]
fn what_is_held_in_a_tick() {
    let (timeline, _) = ButtonsFile::parse("b", "3 right; 5 -", &SCALE).unwrap().at_rate(60.0).unwrap();
    let held: Vec<bool> = (0..7).map(|tick| timeline.at(tick).right).collect();
    assert_eq!(held, [false, false, false, true, true, false, false]);
}

#[test]
fn the_demo_runs_to_the_kiln_door() {
    let (_, _, trace) = demo_run();
    let events: Vec<String> = trace.written_rows().filter(|row| !row.events.is_empty()).map(|row| row.events).collect();
    insta::assert_snapshot!(events.join(" | "), @"jumped:ground | landed:256 | jumped:ground | landed:256 | jumped:ground | bumped:head | landed:256 | lost-ground | landed:256 | entered:pickup@28,18 | jumped:ground | left:pickup@28,18 | entered:goal@33,18 | landed:256");
    assert_eq!(trace.rows.last().unwrap().state, State::Stand);
}

#[test]
fn a_trace_reads_back_to_the_same_numbers() {
    let (_, _, trace) = demo_run();
    let csv = trace.to_csv();
    let mut reader = csv::Reader::from_reader(csv.as_bytes());
    let head = "tick,time_s,x_px,y_px,vx_px_s,vy_px_s,state,facing,support,contacts,events";
    assert_eq!(csv.lines().next(), Some(head));
    let mut rows = 0;
    for (record, row) in reader.records().zip(&trace.rows) {
        let record = record.unwrap();
        let number = |field: usize| record[field].parse::<f64>().unwrap();
        assert_eq!((number(2), number(3)), (row.feet.x, row.feet.y));
        assert_eq!((number(4), number(5)), (row.velocity.x, row.velocity.y));
        rows += 1;
    }
    assert_eq!(rows, trace.rows.len());
    let json = trace.to_json_lines();
    let last: serde_json::Value = serde_json::from_str(json.lines().last().unwrap()).unwrap();
    assert_eq!(last["x_px"].as_f64(), Some(trace.rows.last().unwrap().feet.x));
    assert_eq!(json.lines().count(), rows);
}

fn tuning(height: f64, time: f64, rate: f64, top_fall: f64) -> TuningFile {
    let text = format!(
        "[tick]\nrate = {rate}\n[body]\nwidth = 10\nheight = 22\n[run]\ntop_speed = 120\n[fall]\ntop_speed = {top_fall}\n\
         [jump]\nheight = {height}\ntime_to_apex = {time}\n"
    );
    TuningFile::parse("t", &text).unwrap()
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(300))]

    /// The closed form against the controller, tick by tick.
    #[test]
    fn an_arc_is_what_its_numbers_say(
        height in 4.0..400.0f64, time in 0.1..1.0f64, rate in prop::sample::select(&[30.0, 60.0, 144.0, 1000.0][..]),
        top_fall in 100.0..5000.0f64,
    ) {
        let report = arcs([&tuning(height, time, rate, top_fall)]);
        let arc = |kind| report.tunings[0].arc(kind).unwrap();
        let (full, running) = (arc(ArcKind::Full), arc(ArcKind::Running));
        prop_assert!((full.apex_height_px - height).abs() < 1e-9 * height);
        prop_assert!((full.apex_time_s - time).abs() < 1e-9);
        prop_assert_eq!(full.apex_tick, (time * rate - 1e-9).ceil() as u64);
        prop_assert_eq!(full.air_ticks, (full.air_time_s * rate - 1e-9).ceil() as u64);
        prop_assert!((running.reach_px - 120.0 * running.air_time_s).abs() < 1e-9);
        // How long a fall from the apex takes, with the speed held at its top.
        let gravity = 2.0 * height / (time * time);
        let until_top = (top_fall / gravity).min(time);
        let fallen = gravity * until_top * until_top / 2.0;
        let fall = until_top + (height - fallen) / top_fall * f64::from(u8::from(until_top < time));
        prop_assert!((full.air_time_s - time - fall).abs() < 1e-9 * (1.0 + fall), "{} {}", full.air_time_s, time + fall);
        prop_assert!((full.landing_speed_px_s - (gravity * time).min(top_fall)).abs() < 1e-6);
        for point in running.points[1..].iter().filter(|point| point.tick < running.air_ticks) {
            let t = point.time_s;
            if t <= time {
                let closed = 2.0 * height / time * t - gravity * t * t / 2.0;
                prop_assert!((point.height_px - closed).abs() < 1e-6);
            }
            prop_assert!((point.x_px - 120.0 * t).abs() < 1e-6);
        }
    }
}

/// A rate of thousands of ticks a second is measured in bounded time and room.
#[test]
fn very_fine_ticks_are_measured_too() {
    let fine = demo::DAB.replace("rate = 60 ", "rate = 10000 ");
    let report = arcs([&TuningFile::parse("fine", &fine).unwrap()]);
    let coarse = arcs([&TuningFile::parse("dab", demo::DAB).unwrap()]);
    assert!(report.tunings[0].arcs.len() < 260);
    for kind in [ArcKind::Full, ArcKind::Running, ArcKind::Air] {
        let (a, b) = (report.tunings[0].arc(kind).unwrap(), coarse.tunings[0].arc(kind).unwrap());
        assert!((a.apex_height_px - b.apex_height_px).abs() < 0.1, "{kind:?}");
    }
}

/// How far a body feels changes no arc, and makes none take longer: it once took minutes.
#[test]
fn a_body_that_feels_as_far_as_there_is_has_the_same_arcs() {
    let far = demo::DAB.replace("wall_probe = \"1 px\"", "wall_probe = \"524288 px\"");
    assert_ne!(far, demo::DAB);
    let [far, near] = [&far, demo::DAB].map(|text| arcs([&TuningFile::parse("dab", text).unwrap()]));
    assert_eq!(far, near);
}

/// A jump that nobody would wait for is refused when it is read; the slowest that is not is measured to its end.
#[test]
fn slow_jumps_are_refused_or_measured_to_their_end() {
    let text = |rate: u32, fall: f64| {
        format!(
            "[tick]\nrate = {rate}\n[body]\nwidth = 10\nheight = 22\n[run]\ntop_speed = 0\n[fall]\ntop_speed = {fall}\n\
             [jump]\nspeed = 100\ngravity = 100\n"
        )
    };
    let slow = TuningFile::parse("slow", &text(60, 0.85)).unwrap();
    let report = arcs([&slow]);
    let full = report.tunings[0].arc(ArcKind::Full).unwrap();
    assert!((58.0..60.5).contains(&(full.air_time_s - 1.0)) && (full.apex_height_px - 50.0).abs() < 1e-6, "{full:?}");
    for (rate, fall) in [(60, 0.8), (10_000, 4.9)] {
        let wrong = TuningFile::parse("slow", &text(rate, fall)).unwrap_err().to_string();
        assert!(wrong.contains("fall.top_speed makes the fall from a jump's 50 px too slow"), "{wrong}");
    }
}

#[test]
fn a_jump_off_a_wall_is_measured_from_the_wall() {
    for scheme in ["exact", "velocity-first", "position-first"] {
        let text = demo::CLIMBING_DAB.replace("scheme = \"exact\"", &format!("scheme = \"{scheme}\""));
        let report = arcs([&TuningFile::parse("climbing", &text).unwrap()]);
        let wall = report.tunings[0].arc(ArcKind::Wall).unwrap();
        let over = wall.apex_height_px - 2.7 * 16.0;
        assert!(if scheme == "exact" { over.abs() < 1e-9 } else { (-1e-9..0.5).contains(&over) }, "{scheme}: {over}");
        // Away at 112 px/s at the least: the push is locked, and steering away quickens it to 120.
        let (slow, fast) = (112.0 * wall.air_time_s, 120.0 * wall.air_time_s);
        assert!((slow..=fast).contains(&wall.reach_px), "{scheme}: {} of {slow} to {fast}", wall.reach_px);
    }
    let plain = arcs([&TuningFile::parse("dab", demo::DAB).unwrap()]);
    assert!(plain.tunings[0].arc(ArcKind::Wall).is_none());
}

/// Jumps from a place meet what rides and falls there, and may have one more in the air.
#[test]
fn jumps_from_a_place_know_platforms_props_and_air_jumps() {
    let yard = Level::parse("yard", demo::ROOMS.iter().find(|room| room.name == "hoist-yard").unwrap().level).unwrap();
    let climbing = TuningFile::parse("climbing", demo::CLIMBING_DAB).unwrap();
    let dab = TuningFile::parse("dab", demo::DAB).unwrap();
    let ends = |tuning: &TuningFile, at: (u32, u32)| -> Vec<String> {
        let arcs = level_arcs(&yard, tuning, at).unwrap();
        arcs.iter()
            .map(|arc| format!("{} {} on {} {},{}", arc.jump, arc.end, arc.on, arc.end_column, arc.end_row))
            .collect()
    };
    assert_eq!(
        ends(&climbing, (8, 13)),
        [
            "full up lands on solid 8,13",
            "full right lands on prop:clay 13,12",
            "full left lands on solid 3,13",
            "tap right lands on platform:cart 11,13",
            "tap left lands on solid 5,13",
        ]
    );
    let on_the_hoist = ends(&dab, (22, 13));
    assert_eq!(on_the_hoist.len(), 8, "{on_the_hoist:?}");
    assert_eq!(on_the_hoist[5], "air up lands on platform:hoist 22,11");
    let high = |jump: &str| {
        let arcs = level_arcs(&yard, &dab, (22, 13)).unwrap();
        arcs.iter().find(|arc| arc.jump == jump).unwrap().apex_height_tiles
    };
    assert!((high("air up") - 5.6).abs() < 0.01 && (high("full up") - 3.4).abs() < 0.01);
    let nothing = level_arcs(&yard, &dab, (25, 2)).unwrap_err();
    assert_eq!(nothing.to_string(), "nothing is there to stand on; name the tile above the ground");
}

/// No number is given of a jump that is not seen to come down: one that does not get up to its edge again, or that
/// goes beyond where coordinates end.
#[test]
fn what_is_not_seen_to_land_has_no_arc() {
    let kinds = |from: &str, to: &str| -> Vec<ArcKind> {
        let text = demo::QUICK_FALL.replace(from, to);
        assert!(from.is_empty() || text != demo::QUICK_FALL);
        let report = arcs([&TuningFile::parse("t", &text).unwrap()]);
        report.tunings[0].arcs.iter().map(|arc| arc.kind).filter(|kind| *kind != ArcKind::PartHeld).collect()
    };
    let all = [ArcKind::Tap, ArcKind::Full, ArcKind::Running, ArcKind::Ledge];
    assert_eq!(kinds("", ""), all);
    assert_eq!(kinds("[jump]", "[jump]\ncoyote_time = \"0.8 s\""), all[..3]);
    assert_eq!(kinds("top_speed = \"7.5 tiles/s\"", "top_speed = 900000"), all[..2]);
    for scheme in ["velocity-first", "position-first"] {
        let text = demo::QUICK_FALL
            .replace("\"exact\"", &format!("\"{scheme}\""))
            .replace("[jump]", "[jump]\ncoyote_time = \"0.8 s\"");
        let report = arcs([&TuningFile::parse("t", &text).unwrap()]);
        assert!(report.tunings[0].arc(ArcKind::Ledge).is_none(), "{scheme}");
    }
    // As wide as coordinates go: it cannot even be put at the edge.
    let wide = "[tick]\nrate = 60\n[body]\nwidth = 524288\nheight = 20\n[run]\ntop_speed = 1e-300\n\
                [jump]\nspeed = 300\ngravity = 900\n";
    let report = arcs([&TuningFile::parse("t", wide).unwrap()]);
    assert!(report.tunings[0].arc(ArcKind::Full).is_some() && report.tunings[0].arc(ArcKind::Ledge).is_none());
}

#[test]
fn arcs_from_a_place_in_a_games_own_world_are_those_of_the_level() {
    let room = demo::ROOMS.iter().find(|room| room.name == "ember-walk").unwrap();
    let level = Level::parse(room.name, room.level).unwrap();
    let dab = TuningFile::parse("dab", demo::CLIMBING_DAB).unwrap();
    let of_level = wumple::analysis::level_arcs(&level, &dab, (12, 10)).unwrap();
    let (world, _) = level.world(&dab.tuning).unwrap();
    let before = world.save();
    let feet = wumple::DVec2::new(12.5 * 16.0, 11.0 * 16.0);
    let of_world = wumple::analysis::arcs_from(&world, &dab.name, &dab.tuning, feet).unwrap();
    assert_eq!(world.save(), before, "nothing of it is changed");
    // But for the names of things, which a world of its own has not.
    let ways = |arcs: &[wumple::analysis::LevelArc]| -> Vec<_> {
        arcs.iter().map(|arc| (arc.jump, arc.end, arc.places.clone(), arc.met.len())).collect()
    };
    assert_eq!(ways(&of_level), ways(&of_world));
    assert!(of_level.iter().any(|arc| arc.met.contains(&"pickup@14,7".to_owned())), "{of_level:?}");
    let nowhere = wumple::analysis::arcs_from(&world, &dab.name, &dab.tuning, wumple::DVec2::new(200.0, 100.0));
    assert_eq!(nowhere.unwrap_err().to_string(), "nothing is there to stand on; name the tile above the ground");
}

/// What the flight of a demo's tuning does in a loop.
fn flight(text: &str, scheme: &str, rate: u32) -> FlightMeasures {
    let text = format!("{text}\n[tick]\nscheme = \"{scheme}\"\nrate = {rate}\n");
    let file = TuningFile::parse("flyer", &text).unwrap();
    arcs([&file]).tunings.remove(0).flight.unwrap()
}

#[test]
fn flaps_are_measured_as_their_closed_forms_say() {
    let owl = demo::OTHERS.iter().find(|other| other.name == "ash-owl").unwrap().tuning;
    let text = owl.replace("top_speed = \"16 tiles/s\"", "").replace("top_speed = \"14 tiles/s\"", "");
    let (lift, gravity) = (176.0, 640.0);
    for (scheme, rate) in [("exact", 60), ("exact", 144), ("velocity-first", 60), ("position-first", 50)] {
        let FlightMeasures::Flaps { apex_height_px, presses_to_hold, climbs, .. } = flight(&text, scheme, rate) else {
            panic!("flaps");
        };
        let dt = 1.0 / f64::from(rate);
        let after = |ticks: f64, flap: f64| {
            let sum = match scheme {
                "exact" => ticks * ticks,
                "velocity-first" => ticks * (ticks + 1.0),
                _ => ticks * (ticks - 1.0),
            };
            flap * ticks * dt - gravity * dt * dt * sum / 2.0
        };
        let highest = match scheme {
            "exact" => lift * lift / (2.0 * gravity),
            _ => (1..60).map(|ticks| after(f64::from(ticks), lift)).fold(0.0, f64::max),
        };
        assert!((apex_height_px - highest).abs() < 1e-9, "{scheme}: {apex_height_px}, not {highest}");
        assert!((presses_to_hold - gravity / lift).abs() < 1e-9);
        // Each flap adds its speed from its tick on.
        for climb in &climbs {
            let presses = climb.presses_per_second;
            let ticks = |press: f64| f64::from(rate) - (press * f64::from(rate) / presses).ceil();
            let flaps: f64 = (0..presses as u32).map(|press| lift * ticks(f64::from(press)) * dt).sum();
            let expected = after(f64::from(rate), 0.0) + flaps;
            assert!((climb.first_second_px - expected).abs() < 1e-6, "{scheme} {presses}: {climb:?}, not {expected}");
            assert_eq!(climb.in_the_end_px_s, None, "without a top speed it gets faster and faster: {climb:?}");
        }
    }
    // With one, each has its speed in the end: a flap brings back what gravity took since the one before.
    let FlightMeasures::Flaps { climbs, .. } = flight(owl, "exact", 60) else { panic!("flaps") };
    let top = 256.0;
    let six = climbs.iter().find(|climb| climb.presses_per_second == 6.0).unwrap();
    assert!((six.in_the_end_px_s.unwrap() - (top - gravity / 6.0 / 2.0)).abs() < 1e-6, "{six:?}");
}

#[test]
fn a_thrust_is_measured_as_its_closed_form_says() {
    let boat = demo::OTHERS.iter().find(|other| other.name == "bellows-boat").unwrap().tuning;
    let text = boat.replace("top_speed = \"9 tiles/s\"", "").replace("top_speed = \"12 tiles/s\"", "");
    let left = 28.0 * 16.0;
    for (scheme, more) in [("exact", 0.0), ("velocity-first", 1.0), ("position-first", -1.0)] {
        let FlightMeasures::Thrust { beside_gravity_px_s2, first_second_px, speed_px_s, stops_fall_s, .. } =
            flight(&text, scheme, 60)
        else {
            panic!("a thrust");
        };
        let expected = left * 60.0 * (60.0 + more) / 7200.0;
        assert!((first_second_px - expected).abs() < 1e-6, "{scheme}: {first_second_px}, not {expected}");
        assert!((beside_gravity_px_s2 - left).abs() < 1e-9 && (speed_px_s - left).abs() < 1e-9);
        // A second of 24 tiles/s^2 is stopped by 28 in 24/28 s: the first tick that ends there or later.
        assert_eq!(stops_fall_s, Some(52.0 / 60.0), "{scheme}");
    }
}

/// Numbers of a text that are the same on every machine and in every version of the compiler.
fn hash(text: &str) -> u32 {
    text.bytes().fold(0x811c_9dc5, |hash, byte| (hash ^ u32::from(byte)).wrapping_mul(0x0100_0193))
}

/// Whole runs over a grid of tunings: a change of the motion is a change of these lines, for whoever reviews it to see. The hash is of every
/// number of every tick.
#[test]
fn the_golden_table_of_runs() {
    let rooms = demo::ROOMS.iter().map(|room| (room, demo::CLIMBING_DAB));
    let rooms = rooms.chain(demo::OTHERS.iter().map(|other| (&other.room, other.tuning)));
    let mut table = format!(
        "{:16} {:14} {:>4} | {:>5} {:>9} {:>9} {:>6} {:>6} {:>6} {:>6} {:>8}  end\n",
        "room", "scheme", "rate", "ticks", "x px", "y px", "apex", "reach", "air s", "events", "hash"
    );
    for (room, tuning) in rooms {
        let level = Level::parse(room.name, room.level).unwrap();
        for scheme in ["exact", "velocity-first", "position-first"] {
            for rate in [30, 60, 144] {
                let mut text = wumple::files::TuningText::new(tuning).unwrap();
                text.set("tick.scheme", scheme);
                text.set("tick.rate", &rate.to_string());
                let head = format!("{:16} {scheme:14} {rate:4} |", room.name);
                let tuning = match TuningFile::parse(room.name, &text.to_string()) {
                    Ok(tuning) => tuning,
                    Err(why) => {
                        table += &format!("{head} refused: {}\n", why.iter().next().unwrap().message());
                        continue;
                    }
                };
                let buttons = ButtonsFile::parse("buttons", room.buttons, &tuning.scale).unwrap();
                let timeline = buttons.at_rate(rate.into()).unwrap().0;
                let run =
                    ComparedRun::of_tuning(&level, &tuning, &timeline, timeline.ticks_to_run(rate.into())).unwrap();
                let (csv, events) =
                    (run.trace.to_csv(), run.trace.rows.iter().map(|row| row.events.len()).sum::<usize>());
                let of = wumple::compare(&[run], level.grid.grid_lines().spacing()).runs.remove(0);
                table += &format!(
                    "{head} {:5} {:9.3} {:9.3} {:6.3} {:6.3} {:6.3} {events:6} {:08x}  {}\n",
                    of.ticks,
                    of.end_x_px,
                    of.end_y_px,
                    of.apex_tiles,
                    of.reach_tiles,
                    of.longest_air_time_s,
                    hash(&csv),
                    of.end
                );
            }
        }
    }
    insta::assert_snapshot!(table);
}
