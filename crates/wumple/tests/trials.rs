//! Trials: what passes, what fails and what is said of it, wrong files.

use std::fs;
use std::path::Path;

use wumple::analysis::TrialOutcome;
use wumple::{TrialFile, starter};

fn demo(name: &str) -> String {
    Path::new(env!("CARGO_MANIFEST_DIR")).join("demo").join(name).display().to_string()
}

/// A trial in the demo's folder, with Dab in the Throwing room: late over the first edge, saved by coyote time.
fn trial(press: &str, expectations: &str) -> Result<TrialFile, String> {
    let head = "name = \"T\"\nlevel = \"throwing-room.level.toml\"\ntuning = \"dab.tuning.toml\"\n";
    let text = format!("{head}{press}\n{expectations}\n");
    TrialFile::parse(&demo("t.trial.toml"), &text).map_err(|errors| errors.to_string().replace(&demo(""), ""))
}

const LATE: &str = "buttons = \"too-late.buttons\"";

fn outcome(expectation: &str) -> TrialOutcome {
    trial(LATE, &format!("[[expect]]\n{expectation}")).unwrap_or_else(|e| panic!("{expectation}: {e}")).run().unwrap()
}

#[test]
fn what_passes() {
    for expectation in [
        "event = \"jumped:ground\"\nat = 40",
        "event = \"jumped\"\nat = \"0.667 s\"",
        "event = \"jumped:ground\"\nat = \"40 frames\"",
        "event = \"jumped:ground\"\nat = 43\nwithin = 3",
        "event = \"jumped:ground\"\nat = 43\nwithin = \"50 ms\"",
        "event = \"jumped\"\nbetween = [80, 90]",
        "event = \"jumped\"\nbetween = [\"1.3 s\", \"1.5 s\"]",
        "event = \"jumped\"\nat_least = 2\nat_most = 2",
        "event = \"jumped\"\nbefore = 84\nat_most = 1",
        "event = \"jumped:air\"\nnever = true",
        "event = \"landed\"\nat_least = 2",
        "event = \"entered:goal\"\nnever = true",
        "event = \"jumped\"\nafter = 40\nbefore = 90\nat_least = 1\nat_most = 1",
        "state = \"rise\"\nat = 50",
        "state = \"run\"\nbetween = [1, 39]\nalways = true",
        "state = \"rise\"\nat_least = \"0.5 s\"\nat_most = 1",
        "state = \"wall-slide\"\nnever = true",
        "support = \"solid\"\nbefore = 40\nalways = true",
        "support = \"none\"\nafter = 39\nat_most = \"1.5 s\"",
        "support = \"solid\"\nafter = 200\nalways = true",
        "place = [\"24 px\", \"16 tiles\"]\nat = 0",
        "place = [\"1.5 tiles\", 256]\nbefore = 2\nwithin = \"1 px\"\nalways = true",
        "place = [0, 0]\nnever = true\nwithin = \"5 tiles\"",
        "number = \"x\"\nat = 0\nat_least = \"24 px\"\nat_most = \"1.5 tiles\"",
        "number = \"height\"\nat = 39\nat_most = 0",
        "number = \"sideways_speed\"\nalways = true\nat_least = 0\nat_most = \"7.5 tiles/s\"",
        "number = \"upward_speed\"\nnever = true\nat_least = \"20 tiles/s\"",
        "number = \"apex\"\nat_least = \"3.39 tiles\"\nat_most = \"3.4 tiles\"",
        "number = \"reach\"\nafter = 60\nat_least = \"5 tiles\"",
        "number = \"air_time\"\nafter = 60\nat_least = 0.69\nat_most = \"710 ms\"",
        "number = \"landing_speed\"\nat_most = \"16 tiles/s\"",
    ] {
        let outcome = outcome(expectation);
        assert!(outcome.passed(), "{expectation}\n{outcome}");
    }
}

#[test]
fn what_can_be_reached_is_expected_without_a_run() {
    let judged = |expectation: &str| {
        let trial = trial("", &format!("[[expect]]\n{expectation}")).unwrap_or_else(|e| panic!("{expectation}: {e}"));
        trial.run().map_err(|error| error.to_string().replace(&demo(""), ""))
    };
    for passing in ["reach = \"goal\"", "reach = \"pickup@32,8\"", "reach = \"pickup\"\nalways = true"] {
        let outcome = judged(passing).unwrap();
        assert!(outcome.passed() && outcome.ticks == 0, "{passing}\n{outcome}");
    }
    let failing = judged("reach = \"goal\"\nnever = true").unwrap().to_string();
    assert!(failing.contains("expected never goal to be reached"), "{failing}");
    assert!(failing.contains("instead: goal@33,18 is reached in tick ") && failing.contains("presses"), "{failing}");
    let unknown = judged("reach = \"gaol\"").unwrap_err();
    assert_eq!(unknown, "t.trial.toml:5:1: expect.reach: nothing is called \"gaol\" there; did you mean \"goal\"?");
    // A change of the tuning that closes a part of the level.
    let text = "level = \"throwing-room.level.toml\"\ntuning = \"steps/3-fall.tuning.toml\"\n[[expect]]\nreach = \"pickup\"\nalways = true\n[[expect]]\nreach = \"top@26-29,6\"\nnever = true\n";
    let outcome = TrialFile::parse(&demo("t.trial.toml"), text).unwrap().run().unwrap();
    let words = outcome.to_string();
    assert!(
        words.contains("1 of 2 expectations") && words.contains("pickup@32,8 is out of reach: too far: "),
        "{words}"
    );
    // Beside what is expected of a run, the run is needed.
    let both = "[[expect]]\nreach = \"goal\"\n[[expect]]\nevent = \"jumped\"\nat = 40";
    assert!(trial("", both).unwrap_err().contains("the trial has no \"buttons\""));
    assert!(trial(LATE, both).unwrap().run().unwrap().passed());
}

#[test]
fn what_fails_says_when_and_what_instead() {
    let table = [
        (
            "event = \"jumped:ground\"\nat = 41",
            "expected jumped:ground in tick 41",
            "in tick 41: rise in the air at (99.4, 245.759) px, no event; it is so in 2 ticks from 40 to 84",
        ),
        (
            "event = \"jumped:air\"\nbefore = 60",
            "expected jumped:air before tick 60",
            "in tick 59: rise in the air at (135.4, 201.68) px, no event; it is so in no tick of the run",
        ),
        ("event = \"jumped\"\nat_most = 1", "expected jumped at most 1 time", "2 times, in ticks 40, 84"),
        (
            "event = \"jumped\"\nnever = true\nafter = 50",
            "expected never jumped after tick 50",
            "in tick 84: rise in the air at (185.4, 218.973) px, jumped:ground",
        ),
        (
            "state = \"run\"\nbetween = [38, 45]\nalways = true",
            "expected always state run in ticks 38 to 45",
            "in tick 40: rise in the air at (97.4, 250.745) px, jumped:ground",
        ),
        ("state = \"wall-slide\"\nat_least = \"0.1 s\"", "expected state wall-slide at least 0.1 s", "for 0 s"),
        (
            "place = [\"100 px\", \"200 px\"]",
            "expected feet within 0.5 px of (100, 200) px",
            "in tick 50: 21.671 px away; rise in the air at (117.4, 212.918) px, no event",
        ),
        ("number = \"apex\"\nat_least = \"4 tiles\"", "expected apex at least 64 px", "apex is 54.4 px (tick 72)"),
        (
            "number = \"goal_time\"\nat_most = \"5 s\"",
            "expected goal_time at most 5 s",
            "the goal is not reached; in tick 240: stand on solid at (265.39, 224) px, no event",
        ),
        (
            "number = \"x\"\nat = 100\nat_most = \"10 tiles\"",
            "expected x at most 160 px in tick 100",
            "x is 217.4 px in tick 100",
        ),
    ];
    for (expectation, expected, instead) in table {
        let outcome = outcome(expectation);
        let words = outcome.to_string();
        assert!(
            words.contains(&format!("t.trial.toml:5: {expected}\n    instead: {instead}\n")),
            "{expectation}\n{words}"
        );
        assert!(words.starts_with("FAIL  ") && words.contains("(1 of 1 expectation, "), "{words}");
        assert!(words.contains("    decided in tick 40: jump pressed in tick 40"), "{words}");
    }
}

#[test]
fn a_run_that_ends_early_meets_no_expectation_of_later() {
    let dies = "press = \"0 right; 40 right jump; 60 right\"\nticks = 400";
    let run = |expectation: &str| trial(dies, &format!("[[expect]]\n{expectation}")).unwrap().run().unwrap();
    for fails in [
        "event = \"died\"\nnever = true",
        "state = \"fall\"\nat = 300",
        "state = \"fall\"\nafter = 300\nalways = true",
        "state = \"run\"\nbetween = [1, 300]\nalways = true",
        "number = \"x\"\nat = 300\nat_least = 0",
        "number = \"x\"\nbetween = [1, 300]\nalways = true\nat_least = 0",
    ] {
        assert!(!run(fails).passed(), "{fails}");
    }
    assert!(run("event = \"died:bottom\"").passed() && run("event = \"jumped\"\nafter = 300\nnever = true").passed());
    assert!(run("state = \"fall\"\nat = 300").to_string().contains("the run ended in tick"));
}

#[test]
fn wrong_trials_say_where_and_what() {
    let expect = |lines: &str| format!("[[expect]]\n{lines}");
    let table: [(&str, String, &str); 24] = [
        (
            LATE,
            String::new(),
            "t.trial.toml:1:1: nothing is expected; add an [[expect]], such as event = \"jumped:ground\" and at = 30",
        ),
        (
            "",
            expect("event = \"lost\""),
            "t.trial.toml:1:1: the trial has no \"buttons\"; it needs a file, such as buttons = \"room.buttons\"",
        ),
        (
            "buttons = \"a\"\npress = \"0 -\"",
            expect("event = \"lost\""),
            "t.trial.toml:5:9: the trial has \"buttons\" and \"press\"; keep one of them",
        ),
        (
            "press = \"0 rigth\"",
            expect("event = \"lost\""),
            "t.trial.toml:4:9: press: unknown button \"rigth\"; did you mean \"right\"?",
        ),
        (
            "buttons = \"no.buttons\"",
            expect("event = \"lost\""),
            "t.trial.toml:4:11: no.buttons: No such file or directory (os error 2)",
        ),
        (
            LATE,
            expect("at = 3"),
            "t.trial.toml:5:1: expect 1 is about one of \"event\", \"state\", \"support\", \"place\", \"number\", \"reach\"; this one is about none",
        ),
        (
            LATE,
            expect("event = \"lost\"\nstate = \"run\""),
            "t.trial.toml:5:1: expect 1 is about one of \"event\", \"state\", \"support\", \"place\", \"number\", \"reach\"; this one is about \"event\", \"state\"",
        ),
        (
            LATE,
            expect("event = \"jump:ground\""),
            "t.trial.toml:6:9: expect 1.event: unknown event \"jump:ground\"; did you mean \"jumped:ground\"?",
        ),
        (LATE, expect("state = \"rising\""), "t.trial.toml:6:9: expect 1.state is \"rising\"; did you mean \"rise\"?"),
        (
            LATE,
            expect("support = \"platform:hoist\""),
            "t.trial.toml:6:11: expect 1.support: unknown support \"platform:hoist\"; it is one of \"none\", \"solid\", \"one-way\", \"ramp\", \"ladder\"",
        ),
        (
            LATE,
            expect("number = \"apexes\"\nat_most = 1"),
            "t.trial.toml:6:10: expect 1.number is \"apexes\"; did you mean \"apex\"?",
        ),
        (
            LATE,
            expect("number = \"apex\""),
            "t.trial.toml:6:10: expect 1.number: a number needs \"at_least\" or \"at_most\", or both",
        ),
        (
            LATE,
            expect("number = \"x\"\nat_most = 1"),
            "t.trial.toml:6:10: expect 1.number: every tick has one: say which with \"at\", or \"always\" or \"never\"",
        ),
        (
            LATE,
            expect("number = \"apex\"\nat_most = \"1 s\""),
            "t.trial.toml:7:11: \"1 s\" is a time; expect 1.at_most needs a length, such as \"3 tiles\" or \"48 px\"",
        ),
        (
            LATE,
            expect("event = \"jumped\"\nalways = true"),
            "t.trial.toml:7:10: expect 1.always: an event is of one moment; say \"at\", or how often with \"at_least\"",
        ),
        (
            LATE,
            expect("event = \"jumped\"\nat = 1.5"),
            "t.trial.toml:7:6: expect 1.at: 1.5 is no whole tick; it needs a tick, such as 30, or \"0.5 s\"",
        ),
        (
            LATE,
            expect("event = \"jumped\"\nat = \"3 px\""),
            "t.trial.toml:7:6: \"3 px\" is a length; expect 1.at needs a time, such as a tick, such as 30, or \"0.5 s\"",
        ),
        (
            LATE,
            expect("event = \"jumped\"\nbetween = [9, 3]"),
            "t.trial.toml:7:11: expect 1.between ends in tick 3, before it begins in tick 9",
        ),
        (
            LATE,
            expect("event = \"jumped\"\nat = 3\nbefore = 9"),
            "t.trial.toml:8:10: expect 1 says \"at\", \"before\"; keep one of them",
        ),
        (LATE, expect("event = \"jumped\"\nbefore = 0"), "t.trial.toml:7:10: expect 1.before: there is no tick then"),
        (
            LATE,
            expect("event = \"jumped\"\nafter = 9\nbefore = 10"),
            "t.trial.toml:8:10: expect 1.before: there is no tick then",
        ),
        (
            LATE,
            expect("event = \"jumped\"\nwithin = 3"),
            "t.trial.toml:7:10: expect 1.within goes with \"place\", as a length, or with \"at\" of an event, state or support, as a time",
        ),
        (
            LATE,
            expect("event = \"jumped\"\nat_least = 3\nat_most = 2"),
            "t.trial.toml:8:11: expect 1.at_most is below at_least: nothing can be both",
        ),
        (
            "buttons = \"too-late.buttons\"\nticks = 90",
            expect("event = \"jumped\"\nat = 91"),
            "t.trial.toml:5:9: the run has 90 ticks, and something is expected of tick 91; make it longer",
        ),
    ];
    for (press, expectations, message) in table {
        assert_eq!(trial(press, &expectations).expect_err(message), message);
    }
    let text = "level = \"no.level.toml\"\ntuning = \"dab.tuning.toml\"\npress = \"0 -\"\nexpct = 3\n";
    let errors = TrialFile::parse("t.trial.toml", text).unwrap_err().to_string();
    let said: Vec<&str> = errors.lines().collect();
    assert_eq!(said[0], "t.trial.toml:1:9: no.level.toml: No such file or directory (os error 2)");
    assert_eq!(said[2], "t.trial.toml:4:1: unknown key \"expct\"; did you mean \"expect\"?");
}

#[test]
fn what_is_wrong_with_the_files_of_a_trial_is_said_in_their_own_lines() {
    let folder = tempfile::tempdir().unwrap();
    starter::write(folder.path(), false).unwrap();
    let spoil = |name: &str, from: &str, to: &str| {
        let path = folder.path().join(name);
        let text = fs::read_to_string(&path).unwrap();
        assert!(text.contains(from));
        fs::write(&path, text.replace(from, to)).unwrap();
    };
    spoil("apprentice.tuning.toml", "height = \"3.2 tiles\"", "height = \"3.2 s\"");
    spoil("yard.level.toml", "left = \"solid\"", "left = \"sold\"");
    spoil("first-jump.buttons", "54     right ", "54     rigth ");
    let errors = TrialFile::read(&folder.path().join("first-jump.trial.toml")).unwrap_err().to_string();
    let at: Vec<String> = errors.lines().map(|line| line.rsplit('/').next().unwrap().to_owned()).collect();
    assert!(at[0].starts_with("apprentice.tuning.toml:33:10: \"3.2 s\" is a time"), "{at:?}");
    assert!(at[1].starts_with("first-jump.buttons:5:8: unknown button"), "{at:?}");
    assert!(at[2].starts_with("yard.level.toml:11:8: edges.left is \"sold\"; did you mean \"solid\"?"), "{at:?}");
}

#[test]
fn what_there_is_to_start_from_passes_and_nothing_is_overwritten() {
    let folder = tempfile::tempdir().unwrap();
    let inside = folder.path().join("some/where");
    let written = starter::write(&inside, false).unwrap();
    assert_eq!(written.len(), starter::FILES.len());
    let outcome = TrialFile::read(&inside.join("first-jump.trial.toml")).unwrap().run().unwrap();
    assert!(outcome.passed(), "{outcome}");
    fs::remove_file(&written[0]).unwrap();
    fs::write(&written[1], "mine").unwrap();
    assert!(starter::write(&inside, false).is_err());
    assert!(!written[0].exists() && fs::read_to_string(&written[1]).unwrap() == "mine");
    starter::write(&inside, true).unwrap();
    assert!(TrialFile::read(&inside.join("first-jump.trial.toml")).unwrap().run().unwrap().passed());
}

#[cfg(feature = "figures")]
#[test]
fn failures_are_drawn_where_they_are_said_to_be() {
    let folder = tempfile::tempdir().unwrap();
    let mut passed = outcome("event = \"jumped:ground\"");
    passed.draw_failures(folder.path());
    assert_eq!((passed.figure, fs::read_dir(folder.path()).unwrap().count()), (None, 0));
    let mut failed = outcome("place = [\"250 px\", \"200 px\"]\nat = 60\nwithin = \"4 px\"");
    failed.draw_failures(folder.path());
    let figure = failed.figure.clone().unwrap();
    assert_eq!(figure, folder.path().join("t.trial.svg"));
    assert!(failed.to_string().ends_with(&format!("\n  figure: {}", figure.display())));
    let drawn = fs::read_to_string(figure).unwrap();
    assert!(drawn.contains("expected feet within 4 px of (250, 200) px in tick 60"), "{drawn}");
    assert!(drawn.contains("T: 1 of 1 expectations not met"));
}

/// What a game recorded of its own world is judged as the trial's own run is, and says where it fails.
#[test]
fn a_run_of_the_games_own_is_judged_as_the_trials_is() {
    let folder = std::path::Path::new(env!("CARGO_MANIFEST_DIR")).join("demo");
    for (name, _) in wumple::demo::TRIALS {
        let trial = TrialFile::read(&folder.join(name)).unwrap();
        let expected = trial.run().unwrap();
        let (mut world, dab) = trial.level.world(&trial.tuning.tuning).unwrap();
        let mut round = trial.level.start_round(&world, dab);
        let mut rounds = Vec::from_iter(round.as_ref().map(wumple::RoundRow::of));
        let mut reports = vec![world.report(dab).clone()];
        let mut recorded = wumple::Timeline::default();
        let is_over = |round: &Option<wumple::Round>, world: &wumple::World<&wumple::Grid>| {
            round.as_ref().map_or_else(|| world.character(dab).has_ended(), wumple::Round::is_over)
        };
        while (reports.len() as u64) <= trial.ticks && !is_over(&round, &world) {
            let held = trial.timeline.at(reports.len() as u64);
            recorded.record(reports.len() as u64, held);
            world.tick(&[held]);
            if let Some(round) = &mut round {
                round.play(&mut world, dab);
                rounds.push(wumple::RoundRow::of(round));
            }
            reports.push(world.report(dab).clone());
        }
        let mut trace = wumple::Trace::of_reports(60.0, trial.level.names.clone(), reports.clone());
        if round.is_some() {
            trace = trace.with_rounds(rounds);
        }
        let judged = trial.judge(trace);
        assert_eq!(judged.checks, expected.checks, "{name}");
        let places = |trace: &wumple::Trace| trace.rows.iter().map(|row| (row.tick, row.feet)).collect::<Vec<_>>();
        assert_eq!(places(&judged.trace), places(&expected.trace));
        assert_eq!(judged.trace.rounds, expected.trace.rounds);
        (1..reports.len() as u64)
            .for_each(|tick| assert_eq!(recorded.at(tick), trial.timeline.at(tick), "{name} {tick}"));
        // Stopped half way, it is not the same.
        reports.truncate(reports.len() / 2);
        let stopped = trial.judge(wumple::Trace::of_reports(60.0, trial.level.names.clone(), reports));
        assert!(!stopped.passed(), "{name}");
    }
}
