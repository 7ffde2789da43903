//! Buttons, runs, traces and arcs through the public interface.

use proptest::prelude::*;
use wumple::{ArcKind, Buttons, ButtonsFile, Level, Scale, State, Trace, TuningFile, arcs, demo};

const SCALE: Scale = Scale { tile: 16.0, frames_per_second: 60.0 };

fn timeline(text: &str, rate: f64) -> Vec<(u64, Buttons)> {
    ButtonsFile::parse("b", text, &SCALE).unwrap().at_rate(rate).0.changes().to_vec()
}

fn demo_run() -> (Level, TuningFile, Trace) {
    let dab = TuningFile::parse("dab", demo::DAB).unwrap();
    let level = Level::parse("room", demo::THROWING_ROOM).unwrap();
    let buttons = ButtonsFile::parse("buttons", demo::THROWING_ROOM_BUTTONS, &dab.scale).unwrap();
    let (timeline, warnings) = buttons.at_rate(60.0);
    assert!(warnings.is_empty());
    let trace = wumple::run(&level, &dab.tuning, &timeline, timeline.last_tick() + 30).unwrap();
    (level, dab, trace)
}

#[test]
fn buttons_become_ticks_of_the_tunings_rate() {
    let right = Buttons { right: true, ..Buttons::NONE };
    let both = Buttons { jump: true, ..right };
    assert_eq!(timeline("0 right\n30 right jump # up\n\n33 right", 60.0), [(0, right), (30, both), (33, right)]);
    assert_eq!(timeline("0 right; 0.5 s right jump; +50ms right", 60.0), [(0, right), (30, both), (33, right)]);
    assert_eq!(timeline("rate 60; 0 right; 30 right jump", 144.0), [(0, right), (72, both)]);
    assert_eq!(timeline("rate 50; 3 right", 60.0), [(4, right)], "3.6 ticks, half up");
    assert_eq!(timeline("rate 120; 3 right; 4 -", 60.0), [(2, right)], "1.5 ticks, half up, and both on tick 2");
    assert_eq!(timeline("5 right; +5 -; +0.5s jump", 60.0)[2].0, 40);
    assert_eq!(timeline("6 frames right=0.6", 60.0), [(6, Buttons { steer: 0.6, ..Buttons::NONE })]);
}

#[test]
fn lines_on_one_tick_are_joined_with_a_warning() {
    let file = ButtonsFile::parse("b", "rate 120\n10 right\n11 jump\n40 -", &SCALE).unwrap();
    let (timeline, warnings) = file.at_rate(30.0);
    assert_eq!(timeline.changes()[0], (3, Buttons { right: true, jump: true, ..Buttons::NONE }));
    let said: Vec<String> = warnings.iter().map(ToString::to_string).collect();
    assert_eq!(said, ["b:3:1: falls on tick 3 like the line before; what is held in either is held from then on"]);
}

#[test]
fn what_is_held_in_a_tick() {
    let (timeline, _) = ButtonsFile::parse("b", "3 right; 5 -", &SCALE).unwrap().at_rate(60.0);
    let held: Vec<bool> = (0..7).map(|tick| timeline.at(tick).right).collect();
    assert_eq!(held, [false, false, false, true, true, false, false]);
}

#[test]
fn the_demo_runs_to_the_kiln_door() {
    let (_, _, trace) = demo_run();
    let events: Vec<String> = trace.written_rows().filter(|row| !row.events.is_empty()).map(|row| row.events).collect();
    insta::assert_snapshot!(events.join(" | "), @"jumped:ground | landed:256 | jumped:ground | landed:256 | jumped:ground | bumped:head | landed:256 | lost-ground | landed:256 | entered:pickup | jumped:ground | left:pickup | entered:goal | landed:256");
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

/// However slow a jump is, measuring it ends.
#[test]
fn a_jump_that_is_never_seen_to_end_is_measured_as_far_as_it_was_seen() {
    let text = "[tick]\nrate = 10000\n[body]\nwidth = 10\nheight = 22\n[run]\ntop_speed = 0\n[jump]\nspeed = 1\n\
                gravity = 0.02\nair_jumps = 1\n";
    let report = arcs([&TuningFile::parse("slow", text).unwrap()]);
    assert!(report.tunings[0].arcs.iter().all(|arc| arc.apex_height_px.is_finite() && arc.reach_px == 0.0));
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
