//! Many tunings: what is measured is what one run of each says, and what cannot be says why.

use std::sync::atomic::{AtomicU64, Ordering};

use proptest::prelude::*;
use wumple::analysis::{Measure, Over, PassBounds, VaryReport, times_in_air, vary};
use wumple::units::Quantity;
use wumple::{ButtonsFile, Event, Level, Timeline, TrialFile, TuningFile, arcs, demo};

fn dab() -> TuningFile {
    TuningFile::parse("dab", demo::DAB).unwrap()
}

fn over(texts: &[&str]) -> Vec<Over> {
    texts.iter().map(|text| Over::parse(text).unwrap_or_else(|error| panic!("{text}: {error}"))).collect()
}

fn measured(tuning: &TuningFile, texts: &[&str], measure: &Measure<'_>) -> VaryReport {
    vary(tuning, &over(texts), measure, &PassBounds::default(), |_| true)
        .unwrap_or_else(|error| panic!("{texts:?}: {error}"))
}

/// The file of Dab with another value for a key.
fn written(key: &str, value: &str) -> TuningFile {
    let mut text = wumple::files::TuningText::new(demo::DAB).unwrap();
    text.set(key, value);
    TuningFile::parse("dab", &text.to_string()).unwrap_or_else(|errors| panic!("{key} = {value}: {errors}"))
}

#[test]
fn each_value_is_what_a_file_with_it_written_comes_to() {
    for (key, range, unit) in [
        ("jump.height", "2..5 tiles, 7", "tiles"),
        ("jump.height", "40..60, 5", "px"),
        ("jump.time_to_apex", "20..30 frames, 6", "frames"),
        ("run.top_speed", "4..10 tiles/s, 4", "tiles/s"),
        ("run.acceleration", "0.05..0.2 s, 4", "s"),
        ("run.acceleration", "300..900 px/s^2, 4", "px/s^2"),
        ("fall.gravity_ratio", "0.5..2, 4", ""),
        ("jump.air_jumps", "0..2, 3", ""),
    ] {
        for (measure, number) in [("running:reach", 0), ("full:air_time", 1)] {
            let report = measured(&dab(), &[&format!("{key} = {range}")], &Measure::arc(measure).unwrap());
            assert!(report.cells.len() > 2 && report.axes[0].unit == unit, "{key}: {:?}", report.axes);
            for cell in &report.cells {
                let value = format!("{} {unit}", cell.at[0]);
                let report = arcs([&written(key, value.trim())]);
                let running = report.tunings[0].arcs.iter().find(|arc| measure.starts_with(arc.kind.name())).unwrap();
                let expected = [running.reach_tiles, running.air_time_s][number];
                let found = cell.value.unwrap();
                assert!((found - expected).abs() < 1e-9, "{key} = {value}: {found}, not {expected}");
            }
        }
    }
}

fn throwing_room() -> (Level, Timeline) {
    let level = Level::parse("room", demo::THROWING_ROOM).unwrap();
    let buttons = ButtonsFile::parse("buttons", demo::THROWING_ROOM_BUTTONS, &dab().scale).unwrap();
    (level, buttons.at_rate(60.0).unwrap().0)
}

#[test]
fn a_number_of_a_run_is_that_of_its_rows() {
    let (level, timeline) = throwing_room();
    for height in [2.0, 2.75, 3.4, 4.25, 5.0] {
        let tuning = written("jump.height", &format!("{height} tiles"));
        let trace = wumple::run(&level, &tuning.tuning, &timeline, 378).unwrap();
        let in_air = times_in_air(&trace);
        let greatest = |numbers: Vec<f64>| numbers.into_iter().reduce(f64::max);
        let landings = trace.rows.iter().flat_map(|row| &row.events).filter_map(|event| match event {
            Event::Landed { speed } => Some(speed / 16.0),
            _ => None,
        });
        let goal = trace.rows.iter().find(|row| row.events.iter().any(|event| event.enters(wumple::ZoneKind::Goal)));
        let last = &trace.rows[trace.rows.len() - 1];
        for (number, expected) in [
            ("apex", greatest(in_air.iter().map(|air| air.apex_px / 16.0).collect())),
            ("reach", greatest(in_air.iter().map(|air| air.reach_px / 16.0).collect())),
            ("air_time", greatest(in_air.iter().map(|air| air.ticks() as f64 / 60.0).collect())),
            ("landing_speed", greatest(landings.collect())),
            ("goal_time", goal.map(|row| row.tick as f64 / 60.0)),
            ("x", Some(last.feet.x / 16.0)),
            ("height", Some((trace.rows[0].feet.y - last.feet.y) / 16.0)),
        ] {
            let measure = Measure::run(number, &level, &timeline, 378).unwrap();
            let range = format!("jump.height = {height}..9 tiles, 2");
            let found = measured(&dab(), &[&range], &measure).cells[0].value;
            let is_same = match (found, expected) {
                (Some(found), Some(expected)) => (found - expected).abs() < 1e-9,
                (found, expected) => found == expected,
            };
            assert!(is_same, "{number} at {height}: {found:?}, not {expected:?}");
        }
    }
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 40, ..ProptestConfig::default() })]

    /// In rounds that start again, over and over, the stretches in the air are those that the rows have.
    #[test]
    fn so_it_is_where_rounds_start_again(presses in prop::collection::vec((0u64..900, 0usize..4), 1..30)) {
        let level = Level::parse("gallery", demo::OTHERS[0].room.level).unwrap();
        let tuning = TuningFile::parse("dab", demo::CLIMBING_DAB).unwrap();
        let mut lines: Vec<(u64, &str)> = presses.iter().map(|(tick, held)| (*tick, ["right", "right jump", "left jump", "-"][*held])).collect();
        lines.sort_unstable();
        lines.dedup_by_key(|(tick, _)| *tick);
        let text: String = lines.iter().map(|(tick, held)| format!("{tick} {held}\n")).collect();
        let timeline = ButtonsFile::parse("b", &text, &tuning.scale).unwrap().at_rate(60.0).unwrap().0;
        let trace = wumple::run(&level, &tuning.tuning, &timeline, 1000).unwrap();
        let in_air = times_in_air(&trace);
        for (number, expected) in [
            ("apex", in_air.iter().map(|air| air.apex_px / 16.0).reduce(f64::max)),
            ("air_time", in_air.iter().map(|air| air.ticks() as f64 / 60.0).reduce(f64::max)),
        ] {
            let measure = Measure::run(number, &level, &timeline, 1000).unwrap();
            let found = measured(&tuning, &["body.corner_nudge = 3..9 px, 2"], &measure).now;
            prop_assert_eq!(found.map(|found| (found * 1e9).round()), expected.map(|expected| (expected * 1e9).round()), "{}", number);
        }
    }
}

#[test]
fn pairs_are_in_order_and_pass_by_their_bounds() {
    let bounds = PassBounds {
        at_least: Some(Quantity::parse("4 tiles").unwrap()),
        at_most: Some(Quantity::parse("6 tiles").unwrap()),
    };
    let axes = over(&["jump.height = 2..5 tiles, 4", "run.top_speed = 4..10 tiles/s, 3"]);
    let report = vary(&dab(), &axes, &Measure::arc("running:reach").unwrap(), &bounds, |_| true).unwrap();
    let at: Vec<Vec<f64>> = report.cells.iter().map(|cell| cell.at.clone()).collect();
    assert_eq!(at.len(), 12);
    assert_eq!((&at[0][..], &at[1][..], &at[3][..]), (&[2.0, 4.0][..], &[2.0, 7.0][..], &[3.0, 4.0][..]));
    for cell in &report.cells {
        let reach = cell.value.unwrap();
        assert_eq!(cell.passes, Some((4.0..=6.0).contains(&reach)), "{cell:?}");
    }
    assert_eq!((report.axes[0].now, report.axes[1].now), (Some(3.4), Some(7.5)));
}

#[test]
fn trials_and_what_is_reached_pass_by_themselves() {
    let folder = std::path::Path::new(env!("CARGO_MANIFEST_DIR")).join("demo");
    let trial = TrialFile::read(&folder.join("gap.trial.toml")).unwrap();
    let report = measured(&dab(), &["jump.height = 1.4..3.4 tiles, 3"], &Measure::Trial(&trial));
    let passes: Vec<Option<bool>> = report.cells.iter().map(|cell| cell.passes).collect();
    assert_eq!(passes, [Some(false), Some(false), Some(true)]);
    assert!(report.cells[0].value.unwrap() < 1.0 && report.cells[2].value == Some(1.0));
    let (level, _) = throwing_room();
    let reach = Measure::reach(&level, &dab(), "pickup@3,10", 200_000).unwrap();
    let report = measured(&dab(), &["jump.height = 0.5..3.5 tiles, 4"], &reach);
    let values: Vec<Option<f64>> = report.cells.iter().map(|cell| cell.value).collect();
    assert_eq!((values[0], values[3]), (Some(0.0), Some(1.0)), "{values:?}");
    assert!(Measure::reach(&level, &dab(), "gaol", 1).unwrap_err().to_string().contains("did you mean \"goal\""));
}

#[test]
fn what_cannot_be_varied_says_why() {
    let full = Measure::arc("full:apex_height").unwrap();
    let (level, timeline) = throwing_room();
    let run = Measure::run("apex", &level, &timeline, 100).unwrap();
    for (texts, measure, words) in [
        (&["jump.hieght = 2..3 tiles"][..], &full, "unknown key \"jump.hieght\"; did you mean \"jump.height\"?"),
        (&["wall.jump.height = 2..3 tiles"], &full, "the tuning has no wall.jump.height; write it into its file first"),
        (&["jump.repeat = 0..1"], &full, "jump.repeat is no number"),
        (&["jump.height = 2..3 s"], &full, "jump.height is a length, such as \"3 tiles\" or \"48 px\""),
        (&["jump.height = 3..2 tiles"], &full, "its first end is not below its last"),
        (&["jump.air_jumps = 0..1, 3"], &full, "jump.air_jumps is a whole number; so must its steps be"),
        (&["jump.height = 2..3", "jump.height = 2..3"], &full, "each once; there are 2"),
        (&[], &full, "there are 0"),
        (
            &["jump.height = 2..3, 10000", "run.top_speed = 2..3, 10000"],
            &full,
            "100000000 tunings are more than 1000000",
        ),
        (&["tick.rate = 30..60, 2"], &run, "tick.rate cannot be varied where buttons or a trial are"),
    ] {
        let error = vary(&dab(), &over(texts), measure, &PassBounds::default(), |_| true).unwrap_err().to_string();
        assert!(error.contains(words), "{texts:?}: {error}");
    }
    for (text, words) in [
        ("jump.height 2..3", "it has no \"=\""),
        ("jump.height = low..3", "\"low\" does not begin with a number"),
        ("jump.height = 2..3 metres", "\"3 metres\" has the unknown unit"),
        ("jump.height = 2..3 tiles, 1", "how many is a whole number from 2 to 10000"),
    ] {
        let error = Over::parse(text).unwrap_err().to_string();
        assert!(error.contains(words) && error.starts_with(&format!("\"{text}\" is no range")), "{error}");
    }
    for (words, remedy) in [
        ("full:apexheight", "did you mean \"full:apex_height\"?"),
        ("tall", "it is one of \"tap\""),
        ("full:reach", "it goes straight up; \"running:reach\" is how far one on the run goes"),
    ] {
        assert!(Measure::arc(words).unwrap_err().to_string().contains(remedy), "{words}");
    }
    let wrong = PassBounds { at_least: Some(Quantity::parse("3 s").unwrap()), at_most: None };
    let error = vary(&dab(), &over(&["jump.height = 2..3"]), &full, &wrong, |_| true).unwrap_err();
    assert!(error.to_string().starts_with("what is measured is a length"), "{error}");
    // A number that is out of its bounds is said in its cell.
    let report = measured(&dab(), &["jump.height = -1..1 tiles, 3"], &full);
    assert!(report.cells[0].why.as_ref().unwrap().contains("jump.height"), "{report:?}");
    assert!(report.cells[2].why.is_none() && report.cells[2].value.is_some());
}

#[test]
fn stopped_it_keeps_what_it_has_and_threads_change_nothing() {
    let full = Measure::arc("full:apex_height").unwrap();
    let all = over(&["jump.height = 1..5 tiles, 200"]);
    let told = AtomicU64::new(0);
    let stopped = vary(&dab(), &all, &full, &PassBounds::default(), |done| {
        told.fetch_max(done, Ordering::Relaxed);
        done < 50
    });
    let stopped = stopped.unwrap();
    assert_eq!(stopped.cells.iter().filter(|cell| cell.value.is_some()).count(), 50);
    assert_eq!((stopped.cells.len(), told.load(Ordering::Relaxed)), (200, 199));
    let with = |threads: usize| {
        let pool = rayon::ThreadPoolBuilder::new().num_threads(threads).build().unwrap();
        pool.install(|| measured(&dab(), &["jump.height = 1..5 tiles, 50"], &full))
    };
    assert_eq!(with(1), with(3));
}
