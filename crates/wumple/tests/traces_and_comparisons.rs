//! Traces that are read back, and runs held against each other.

use proptest::prelude::*;
use wumple::advanced::Names;
use wumple::analysis::{ComparedRun, Comparison, times_in_air};
use wumple::files::{PracticeInput, held_words};
use wumple::units::Scale;
use wumple::why::Press;
use wumple::{ButtonsFile, Facing, Level, Trace, TuningFile, compare, demo};

const SCALE: Scale = Scale { tile: 16.0, frames_per_second: 60.0 };

fn throwing_room() -> Level {
    Level::parse("room", demo::THROWING_ROOM).unwrap()
}

/// Dab with a part of the tuning replaced.
fn dab(from: &str, to: &str) -> TuningFile {
    assert!(demo::DAB.contains(from));
    TuningFile::parse("dab", &demo::DAB.replace(from, to)).unwrap()
}

fn run(tuning: &TuningFile, buttons: &str) -> ComparedRun {
    let rate = tuning.tuning.rate();
    let timeline = ButtonsFile::parse("buttons", buttons, &SCALE).unwrap().at_rate(rate).unwrap().0;
    ComparedRun::of_tuning(&throwing_room(), tuning, &timeline, timeline.ticks_to_run(rate)).unwrap()
}

fn compared(one: ComparedRun, other: ComparedRun) -> Comparison {
    compare(&[one, other], 16.0)
}

#[test]
fn every_demo_run_reads_back_as_it_was_written() {
    let climbing = TuningFile::parse("climbing", demo::CLIMBING_DAB).unwrap();
    for room in demo::ROOMS {
        let level = Level::parse(room.name, room.level).unwrap();
        let timeline = ButtonsFile::parse(room.name, room.buttons, &climbing.scale).unwrap().at_rate(60.0).unwrap().0;
        let trace = wumple::run(&level, &climbing.tuning, &timeline, timeline.last_tick() + 30).unwrap();
        let (csv, lines) = (trace.to_csv(), trace.to_json_lines());
        for (name, text) in [("run.csv", &csv), ("run.jsonl", &lines)] {
            let back = Trace::parse(name, text, &level.names).unwrap();
            assert_eq!((back.rate, &back.names), (60.0, &trace.names), "{}", room.name);
            assert_eq!((back.to_csv(), back.to_json_lines()), (csv.clone(), lines.clone()), "{}", room.name);
            for (row, was) in back.rows.iter().zip(&trace.rows) {
                assert_eq!((row.feet, row.velocity, row.contacts), (was.feet, was.velocity, was.contacts));
            }
            // Without the level the names come from the trace itself.
            let strange = Trace::parse(name, text, &Names::default()).unwrap();
            assert_eq!(strange.to_csv(), csv);
        }
    }
}

proptest! {
    #[test]
    fn odd_rates_and_odd_places_read_back(rate in 1.0f64..1000.0, every in 2u64..40, seed: u64) {
        let tuning = dab("rate = 60 ", &format!("rate = {rate} "));
        let input = PracticeInput { every, vary: 0, hold: 30, with: ButtonsFile::parse("w", "0 right=0.37", &SCALE)
            .unwrap().at_rate(60.0).unwrap().0.at(0), ticks: 60, seed };
        let trace = wumple::run(&throwing_room(), &tuning.tuning, &input.timeline(), 60).unwrap();
        let back = Trace::parse("t.csv", &trace.to_csv(), &trace.names).unwrap();
        prop_assert_eq!(back.to_csv(), trace.to_csv());
        prop_assert!((back.rate / rate - 1.0).abs() < 1e-12);
    }

    #[test]
    fn what_is_written_of_buttons_reads_back(
        lines in prop::collection::vec((1u64..50, any::<[bool; 6]>(), 0u8..=20), 1..20), rate in 1u32..1000,
    ) {
        let mut tick = 0;
        let text: String = lines.iter().map(|(later, held, stick)| {
            tick += later;
            let [left, right, up, down, jump, grab] = *held;
            let steer = f64::from(*stick) / 10.0 - 1.0;
            let held = wumple::Buttons { left, right, up, down, jump, grab, steer, climb: -steer };
            format!("{tick} {}\n", held_words(&held))
        }).collect();
        let timeline = ButtonsFile::parse("b", &text, &SCALE).unwrap().at_rate(f64::from(rate)).unwrap().0;
        let again = ButtonsFile::parse("b", &timeline.to_text(f64::from(rate)), &SCALE).unwrap();
        prop_assert_eq!(again.rate, Some(f64::from(rate)));
        prop_assert_eq!(again.at_rate(f64::from(rate)).unwrap().0, timeline);
    }

    #[test]
    fn no_text_makes_the_reader_of_traces_panic(text in "[a-z0-9,.:;\n -]{0,200}", head: bool, json: bool) {
        let columns = "tick,time_s,x_px,y_px,vx_px_s,vy_px_s,state,facing,support,contacts,events\n";
        let text = if head { format!("{columns}{text}") } else { text };
        let _ = Trace::parse(if json { "t.jsonl" } else { "t.csv" }, &text, &Names::default());
    }
}

#[test]
fn wrong_traces_say_where_and_what() {
    let head = "tick,time_s,x_px,y_px,vx_px_s,vy_px_s,state,facing,support,contacts,events\n";
    let start = "0,0.0,1.0,2.0,0.0,0.0,stand,right,solid,below,\n";
    let row = |row: &str| format!("{head}{start}{row}\n");
    let table = [
        (head.to_owned(), "t.csv:1:1: a trace needs at least two rows, the start and a tick, with their times"),
        (
            format!("{head}{start}"),
            "t.csv:1:1: a trace needs at least two rows, the start and a tick, with their times",
        ),
        ("a,b\n1,2\n".into(), "t.csv:2:1: this is no row of a trace: missing field `tick`"),
        (
            row("1,0.1,x,2,0,0,stand,right,solid,,"),
            "t.csv:3:1: this is no row of a trace: invalid float literal in column x_px",
        ),
        (row("1,0.1,1"), "t.csv:3:1: this row has 3 columns where the head has 11"),
        (row("3,0.1,1,2,0,0,stand,right,solid,,"), "t.csv:3:1: this is tick 3; tick 1 comes next"),
        (
            row("1,0.1,NaN,2,0,0,stand,right,solid,,"),
            "t.csv:3:1: NaN is no place or speed of a run; they are from -1000000000 to 1000000000",
        ),
        (row("1,0.1,1,2,0,0,rises,right,solid,,"), "t.csv:3:1: \"rises\" is no state of a trace; did you mean rise?"),
        (row("1,0.1,1,2,0,0,rise,upward,solid,,"), "t.csv:3:1: \"upward\" is no facing of a trace"),
        (row("1,0.1,1,2,0,0,rise,left,cloud,,"), "t.csv:3:1: \"cloud\" is no support of a trace"),
        (
            row("1,0.1,1,2,0,0,rise,left,none,abov,"),
            "t.csv:3:1: \"abov\" is no contact of a trace; did you mean above?",
        ),
        (row("1,0.1,1,2,0,0,rise,left,none,,jumped:far"), "t.csv:3:1: \"jumped:far\" is no event of a trace"),
    ];
    for (text, message) in table {
        let errors = Trace::parse("t.csv", &text, &Names::default()).expect_err(&text);
        assert_eq!(errors.to_string(), message);
        let errors = Trace::parse("t.csv", &text.replace('\n', "\r\n"), &Names::default()).expect_err(&text);
        assert_eq!(errors.to_string(), message, "with the other ends of lines");
    }
    let errors = Trace::parse("t.jsonl", "{\"tick\":0}\n", &Names::default()).unwrap_err();
    assert!(
        errors.to_string().starts_with("t.jsonl:1:10: this is no row of a trace: missing field `time_s`"),
        "{errors}"
    );
}

const LATE: &str = "rate 60; 0 right; 40 right jump; 60 right; 84 right jump; 110 right; 120 -";

#[test]
fn the_same_twice_has_no_difference() {
    let same = compared(run(&dab("", ""), LATE), run(&dab("", ""), LATE));
    assert_eq!((&same.apart, &same.happened), (&None, &None));
    assert_eq!(same.runs[0], same.runs[1]);
}

#[test]
fn one_late_press_is_where_they_part() {
    let no_air = demo::DAB.replace("coyote_time = \"0.09 s\"\n", "").replace("air_jumps = 1", "air_jumps = 0");
    let strict = TuningFile::parse("strict", &no_air).unwrap();
    let both = compared(run(&dab("", ""), LATE), run(&strict, LATE));
    let apart = both.apart.as_ref().unwrap();
    assert_eq!((apart.time_s, &both.happened), (1.4, &both.apart));
    let [Some(jumps), Some(falls)] = &apart.runs[..] else { panic!("both are still going") };
    assert_eq!((jumps.tick, jumps.state, &jumps.events[..]), (84, "rise", &["jumped:ground".to_owned()][..]));
    assert_eq!((falls.tick, falls.state, falls.events.len()), (84, "fall", 0));
    let why = |at: &wumple::analysis::AtParting| at.decisions.as_ref().unwrap()[0].why.clone();
    assert_eq!(why(jumps), "jump pressed in tick 84: used, from the ground lost 2 ticks ago");
    assert_eq!(why(falls), "jump refused: in the air for 2 ticks, coyote time is 0; kept until tick 91");
    assert_eq!(both.runs[1].end, "died:bottom");
    let presses = both.presses_by_time();
    let led_to: Vec<(f64, Vec<&str>)> = presses
        .iter()
        .map(|(time, by)| (*time, by.iter().flatten().map(|press| &press.led_to[..]).collect()))
        .collect();
    assert_eq!(
        led_to,
        [(40.0 / 60.0, vec!["jumped:ground", "jumped:ground"]), (1.4, vec!["jumped:ground", "nothing"]),]
    );
    let Some(Press { why, .. }) = presses[1].1[1] else { panic!("it was pressed") };
    assert!(why.ends_with("; jump pressed in tick 84: forgotten, the buffer time is over"), "{why}");
}

#[test]
fn under_exact_other_rates_part_nowhere_until_something_is_decided() {
    let at = |rate: u32| dab("rate = 60 ", &format!("rate = {rate} "));
    // A press is taken at the start of its tick: in tick 1 of any rate that is the same moment.
    let rising = "0 jump";
    for rate in [120, 240, 600] {
        let (one, other) = (run(&at(60), rising), run(&at(rate), rising));
        let both = compared(one, other);
        // The landing is where whole ticks tell: nothing parts before it, after 0.7 s.
        let parted = both.apart.map_or(f64::INFINITY, |apart| apart.time_s);
        assert!(parted > 0.6, "{rate} Hz: apart at {parted} s");
        assert!((both.runs[0].apex_px - both.runs[1].apex_px).abs() < 0.2, "{rate} Hz");
    }
}

#[test]
fn a_run_that_is_over_has_parted_and_traces_know_no_presses() {
    let long = run(&dab("", ""), "rate 60; 0 right; 200 right");
    let mut shorter = long.trace.clone();
    shorter.rows.truncate(50);
    let short = ComparedRun::of_trace("short", shorter);
    let both = compared(long, short);
    assert!((both.apart.as_ref().unwrap().time_s - 50.0 / 60.0).abs() < 1e-9);
    assert_eq!(both.apart.unwrap().runs[1], None);
    assert!(both.presses[0].is_some() && both.presses[1].is_none());
}

#[test]
fn numbers_of_a_run_are_those_of_its_jumps() {
    let full = run(&dab("", ""), "0 jump");
    let in_air = times_in_air(&full.trace);
    assert_eq!(in_air.iter().map(|air| air.first_tick).next(), Some(1));
    let both = compare(&[full], 16.0);
    let arcs = wumple::arcs([&dab("", "")]);
    let arc = arcs.tunings[0].arc(wumple::analysis::ArcKind::Full).unwrap();
    assert!((both.runs[0].apex_tiles - arc.apex_height_tiles).abs() < 1e-3, "{}", both.runs[0].apex_tiles);
    assert_eq!(both.runs[0].end, "still going");
    let csv = both.to_csv();
    assert!(csv.starts_with("name,rate_hz,ticks,apex_px,apex_tiles,reach_px") && csv.lines().count() == 2, "{csv}");
}

/// A press that drops through a shelf led to that, and was not refused.
#[test]
fn a_press_that_drops_through_led_to_something() {
    let climbing = TuningFile::parse("climbing", demo::CLIMBING_DAB).unwrap();
    let room = demo::ROOMS.iter().find(|room| room.name == "drying-racks").unwrap();
    let level = Level::parse(room.name, room.level).unwrap();
    let timeline = ButtonsFile::parse(room.name, room.buttons, &climbing.scale).unwrap().at_rate(60.0).unwrap().0;
    let mut log = wumple::why::WhyLog::default();
    wumple::run_told(&level, &climbing.tuning, &timeline, 466, &mut log).unwrap();
    let led_to: Vec<&str> = log.presses().iter().map(|press| &press.led_to[..]).collect();
    assert_eq!(led_to, ["jumped:ground", "jumped:ground", "dropped-through", "jumped:ground"]);
}

#[test]
fn what_is_seen_is_in_the_trace_of_a_level_with_a_camera_and_is_read_back() {
    let ball = demo::OTHERS.iter().find(|other| other.name == "clay-ball").unwrap();
    let tuning = TuningFile::parse("clay-ball", ball.tuning).unwrap();
    let level = Level::parse("flue", ball.room.level).unwrap();
    let (timeline, _) = ButtonsFile::parse("b", ball.room.buttons, &tuning.scale).unwrap().at_rate(60.0).unwrap();
    let trace = wumple::run(&level, &tuning.tuning, &timeline, 300).unwrap();
    assert_eq!(trace.views.len(), trace.rows.len());
    assert!(
        trace.views.windows(2).all(|two| two[1].corner.y <= two[0].corner.y && two[1].corner.x == two[0].corner.x),
        "only up"
    );
    // As a camera beside the world says.
    let (mut world, id) = level.world(&tuning.tuning).unwrap();
    let mut camera = level.start_camera(world.character(id)).unwrap();
    for (at, view) in trace.views.iter().enumerate() {
        if at > 0 {
            world.tick(&[timeline.at(at as u64)]);
            camera.follow(world.character(id));
        }
        assert_eq!(camera.corner(), view.corner, "tick {at}");
    }
    let csv = trace.to_csv();
    assert!(csv.lines().next().unwrap().ends_with(",attempt,health,lives,picked,view_x_px,view_y_px"), "{csv}");
    for (name, text) in [("t.csv", csv), ("t.jsonl", trace.to_json_lines())] {
        let again = Trace::parse(name, &text, &level.names).unwrap();
        assert_eq!((&again.views, &again.rounds), (&trace.views, &trace.rounds), "{name}");
    }
    let figure = wumple::figures::run_figure(&level, &tuning, &trace, &[], &wumple::figures::Page::default());
    assert!(figure.svg().contains(">view<") || figure.svg().contains("view"), "the legend names it");
}

/// Two shelves, and nothing below: the view goes up with who climbs, and is deadly behind.
fn shaft(round: &str) -> Level {
    let rows = "......\n......\n......\n......\n===...\n......\n......\n@.....\n####..\n......\n......\n......\n......";
    let text = format!(
        "edges = {{ bottom = \"open\" }}\n{round}\n[camera]\nview = [\"6 tiles\", \"5 tiles\"]\nfollow = \"only-up\"\n\
         behind = \"deadly\"\n[map]\nrows = '''\n{rows}\n'''\n"
    );
    Level::parse("shaft", &text).unwrap()
}

#[test]
fn a_view_that_is_deadly_behind_ends_a_run() {
    let tuning = TuningFile::parse("dab", demo::DAB).unwrap();
    let script = ButtonsFile::parse("b", "0 right\n", &tuning.scale).unwrap().at_rate(60.0).unwrap().0;
    let level = shaft("");
    let (trace, log) = wumple::why::run_why(&level, &tuning.tuning, &script, 300).unwrap();
    let last = trace.rows.len() - 1;
    let words: Vec<String> = trace.event_words(last).collect();
    assert_eq!(words, ["left-view:bottom", "died:view"], "{last}");
    assert!(trace.rows[last].feet.y - 22.0 >= trace.views[last].corner.y + 80.0, "wholly below it");
    assert_eq!(log.lines().last().unwrap().why, "died: wholly below the view, which is deadly behind");
    for (name, text) in [("t.csv", trace.to_csv()), ("t.jsonl", trace.to_json_lines())] {
        let again = Trace::parse(name, &text, &level.names).unwrap();
        assert_eq!(again.views, trace.views, "{name}");
    }
    // A camera that is told of nothing deadly goes on.
    let text = "[camera]\nview = [96, 80]\nfollow = \"only-up\"\n[edges]\nbottom = \"open\"\n[map]\nrows = '''\n@.....\n####..\n'''\n";
    let open = Level::parse("open", text).unwrap();
    assert_eq!(wumple::run(&open, &tuning.tuning, &script, 300).unwrap().rows.len(), 301);
    let run = ComparedRun::of_tuning(&level, &tuning, &script, 300).unwrap();
    assert_eq!(compare(&[run], 16.0).runs[0].end, "died:view");
}

#[test]
fn in_a_round_it_costs_a_life_and_the_view_starts_again_too() {
    let tuning = TuningFile::parse("dab", demo::DAB).unwrap();
    let script = ButtonsFile::parse("b", "0 right\n", &tuning.scale).unwrap().at_rate(60.0).unwrap().0;
    let level = shaft("[round]\nlives = 2\ndefeat = { motion = \"stops\", shows_for = \"0.5 s\" }\n");
    let (trace, log) = wumple::why::run_why(&level, &tuning.tuning, &script, 300).unwrap();
    let happened: Vec<String> = (0..trace.rows.len())
        .flat_map(|row| trace.event_words(row))
        .filter(|word| !word.starts_with("lost-"))
        .collect();
    let once = ["left-view:bottom", "died:view", "defeated:view"];
    let shown = ["held-still"];
    let expected: Vec<&str> = [&once[..], &shown, &["restarted:start"], &once, &shown, &["round-lost"]].concat();
    assert_eq!(happened, expected);
    let defeats = (0..trace.rows.len()).filter(|row| trace.attempt(*row) == 2).collect::<Vec<_>>();
    assert_eq!(trace.views[defeats[0]].corner, trace.views[0].corner, "a cut");
    assert!(log.lines().iter().any(|line| line.why == "defeated by view: 1 life is left"));
}

#[test]
fn the_picture_of_each_tick_is_in_the_trace_and_is_read_back() {
    let tuning = TuningFile::parse("climbing-dab", demo::CLIMBING_DAB).unwrap();
    for room in &demo::ROOMS {
        let level = Level::parse(room.name, room.level).unwrap();
        let (timeline, _) = ButtonsFile::parse("b", room.buttons, &tuning.scale).unwrap().at_rate(60.0).unwrap();
        let mut trace = wumple::run(&level, &tuning.tuning, &timeline, timeline.last_tick() + 30).unwrap();
        let plain = trace.to_csv();
        trace.show(&[]);
        assert_eq!(trace.to_csv(), plain, "{}: without poses there are no columns", room.name);
        trace.show(&tuning.poses);
        assert_eq!(trace.shown.len(), trace.rows.len());
        let pose = |name: &str| tuning.poses.iter().find(|pose| pose.name == name).unwrap();
        for (at, (row, shown)) in trace.rows.iter().zip(&trace.shown).enumerate() {
            let harm = trace.harm.get(at).copied().unwrap_or_default();
            let first = tuning.poses.iter().find(|pose| pose.when.holds(row, harm)).unwrap();
            assert_eq!(first.name, shown.pose, "{} tick {at}", room.name);
            assert_eq!(shown.flip, row.facing == Facing::Left, "{} tick {at}", room.name);
            assert!(shown.picture < pose(&shown.pose).pictures, "{} tick {at}", room.name);
        }
        // Running, a picture for each 12 px that it ran by itself since the pose began.
        let runs = trace.shown.split(|shown| shown.pose != "run");
        let base = trace.shown.as_ptr() as usize;
        for stretch in runs.filter(|stretch| !stretch.is_empty()) {
            let from = (stretch.as_ptr() as usize - base) / size_of_val(&stretch[0]);
            let mut way = 0.0;
            for (at, shown) in (from..).zip(stretch) {
                way += if at == from { 0.0 } else { trace.rows[at].velocity.length() / 60.0 };
                let due = (way / 12.0 + 1e-9).floor() % 6.0;
                assert_eq!(f64::from(shown.picture), due, "{} tick {at}", room.name);
            }
        }
        for (name, text) in [("t.csv", trace.to_csv()), ("t.jsonl", trace.to_json_lines())] {
            assert!(text.lines().next().unwrap().contains("pose"), "{name}");
            let again = Trace::parse(name, &text, &level.names).unwrap();
            assert_eq!(again.shown, trace.shown, "{name}");
        }
        let figure = wumple::figures::run_time_figure(&level, &tuning, &trace, &timeline, &[]);
        assert!(["\npose\n", "\npicture\n"].iter().all(|label| figure.svg().contains(label)), "{}", room.name);
        let figure = wumple::figures::run_figure(&level, &tuning, &trace, &[], &wumple::figures::Page::default());
        let named = |pose: &str| figure.svg().contains(&format!("\n{pose}\n"));
        // A word that is no state's, in the legend.
        let climbs = trace.shown.iter().filter(|shown| shown.pose == "climb").count();
        assert_eq!(named("climb"), climbs > 10, "{}: {climbs}", room.name);
    }
}

#[test]
fn who_is_hurt_and_who_is_defeated_is_shown_so() {
    let tuning = TuningFile::parse("climbing-dab", demo::CLIMBING_DAB).unwrap();
    let text = "[letters]\nE = { zone = \"hazard\" }\n[map]\nrows = '''\n@..........\n...EEEE....\n###########\n'''\n\
                [round]\nhealth = 3\nspared_for = \"0.2 s\"\nlives = 2\ndefeat = { motion = \"falls\", shows_for = \"0.3 s\" }\n";
    let level = Level::parse("embers", text).unwrap();
    let (timeline, _) = ButtonsFile::parse("b", "0 right\n400 right\n", &tuning.scale).unwrap().at_rate(60.0).unwrap();
    let mut trace = wumple::run(&level, &tuning.tuning, &timeline, 400).unwrap();
    trace.show(&tuning.poses);
    let ticks_of = |name: &str| trace.shown.iter().filter(|shown| shown.pose == name).count();
    assert!(ticks_of("hurt") >= 12 && ticks_of("defeat") >= 18, "{} {}", ticks_of("hurt"), ticks_of("defeat"));
    for (at, harm) in trace.harm.iter().enumerate() {
        let pose = trace.shown[at].pose.as_str();
        assert_eq!(harm.defeated, pose == "defeat", "tick {at}");
        assert_eq!(harm.hurt, pose == "hurt", "tick {at}");
        assert!(!(harm.hurt && harm.defeated));
    }
    // Two pictures, eight a second.
    let first = trace.shown.iter().position(|shown| shown.pose == "hurt").unwrap();
    let pictures: Vec<u32> = trace.shown[first..first + 12].iter().map(|shown| shown.picture).collect();
    assert_eq!(pictures, [0, 0, 0, 0, 0, 0, 0, 0, 1, 1, 1, 1]);
}
