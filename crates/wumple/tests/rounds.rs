//! Levels with rounds: runs, traces, trials, progress, levels in order.

use std::path::Path;

use wumple::advanced::Names;
use wumple::analysis::RoundSummary;
use wumple::figures::{Page, level_figure, run_figure, run_time_figure};
use wumple::why::{run_levels, run_why};
use wumple::{Buttons, ButtonsFile, Level, Levels, Progress, Timeline, Trace, TrialFile, TuningFile, demo, run};

fn room(name: &str) -> (Level, TuningFile, Timeline) {
    let room = demo::ROOMS.iter().find(|room| room.name == name).unwrap();
    let climbing = TuningFile::parse("climbing-dab", demo::CLIMBING_DAB).unwrap();
    let buttons = ButtonsFile::parse(name, room.buttons, &climbing.scale).unwrap();
    let timeline = buttons.at_rate(60.0).unwrap().0;
    (Level::parse(&format!("{name}.level.toml"), room.level).unwrap(), climbing, timeline)
}

fn demo_file(name: &str) -> std::path::PathBuf {
    Path::new(env!("CARGO_MANIFEST_DIR")).join("demo").join(name)
}

#[test]
fn the_ticks_of_a_run_go_on_where_the_world_goes_back() {
    let (level, dab, timeline) = room("ember-gallery");
    let trace = run(&level, &dab.tuning, &timeline, 700).unwrap();
    assert_eq!((trace.rows.len(), trace.rounds.len()), (508, 508), "it ends with the round");
    let mut since = 0;
    for (at, row) in trace.rows.iter().enumerate() {
        assert_eq!(row.tick, at as u64);
        if at > 0 && (row.state != trace.rows[at - 1].state || trace.attempt(at) != trace.attempt(at - 1)) {
            since = row.tick;
        }
        assert!(row.state_since >= since && row.state_since <= row.tick + 1, "row {at}: {}", row.state_since);
    }
    let attempts: Vec<usize> = (1..=3).map(|of| (0..508).filter(|at| trace.attempt(*at) == of).count()).collect();
    assert_eq!(attempts, [138, 248, 122]);
    let words: Vec<String> = (0..508).flat_map(|at| trace.event_words(at).collect::<Vec<_>>()).collect();
    for event in ["hurt:hazard:stove:2", "defeated:edge-bottom", "restarted:checkpoint", "took:pickup@22,7", "finished"]
    {
        assert_eq!(words.iter().filter(|word| *word == event).count(), 1, "{event}");
    }
}

#[test]
fn a_trace_with_a_round_reads_back_as_it_was() {
    let (level, dab, timeline) = room("ember-gallery");
    let trace = run(&level, &dab.tuning, &timeline, 700).unwrap();
    let csv = trace.to_csv();
    assert!(csv.lines().next().unwrap().ends_with(",contacts,events,attempt,health,lives,picked"));
    for (name, text) in [("run.csv", csv.clone()), ("run.jsonl", trace.to_json_lines())] {
        let back = Trace::parse(name, &text, &level.names).unwrap();
        assert_eq!((&back.rounds, back.rate), (&trace.rounds, trace.rate), "{name}");
        let again = if name == "run.csv" { back.to_csv() } else { back.to_json_lines() };
        assert_eq!(again, text);
    }
    // A word of a round in a trace without its columns is no event.
    let without: String = csv.lines().map(|line| line.rsplitn(5, ',').last().unwrap().to_owned() + "\n").collect();
    let error = Trace::parse("run.csv", &without, &level.names).unwrap_err().to_string();
    assert!(error.contains("is no event of a trace"), "{error}");
    // A level without one has none of its columns.
    let (plain, ..) = room("chimney");
    let trace = run(&plain, &dab.tuning, &Timeline::default(), 5).unwrap();
    assert!(trace.rounds.is_empty() && trace.to_csv().lines().next().unwrap().ends_with(",events"));
}

#[test]
fn why_says_what_the_round_decided() {
    let (level, dab, timeline) = room("ember-gallery");
    let (_, log) = run_why(&level, &dab.tuning, &timeline, 700).unwrap();
    let (cellar, _, buttons) = room("jar-cellar");
    let (_, of_cellar) = run_why(&cellar, &dab.tuning, &buttons, 400).unwrap();
    let (hall, _, buttons) = room("kiln-hall");
    let (_, of_hall) = run_why(&hall, &dab.tuning, &buttons, 400).unwrap();
    let lines: Vec<String> = [log.lines(), of_cellar.lines(), of_hall.lines()]
        .concat()
        .iter()
        .map(|line| format!("{}: {}", line.tick, line.why))
        .collect();
    for line in [
        "47: hazard@6,11 hurts by 1: 2 health left, spared until tick 95",
        "95: hazard:stove hurts nobody: spared until tick 95",
        "96: hazard:stove hurts by 2: no health is left",
        "96: defeated by hazard:stove: 2 lives are left",
        "138: starts again at the start",
        "192: jump pressed in tick 192: used, from the ground",
        "344: defeated by edge-bottom: 1 life is left",
        "386: starts again at the checkpoint reached last",
        "229: goal closed: 2 of 3",
        "71: pickup@10,10 taken, which gives \"poker\": 1 picked",
        "177: gate@21,9 opened: \"poker\" is there, and used up",
        "145: grate@30,9 opened: \"rope\" is there",
    ] {
        assert!(lines.iter().any(|found| found == line), "{line}\n{lines:#?}");
    }
    // Without the poker the bars say why they stay.
    let (_, log) = run_why(&hall, &dab.tuning, &walk_right(), 400).unwrap();
    let text: Vec<&str> = log.lines().iter().map(|line| line.why.as_str()).collect();
    assert!(text.contains(&"pickup@10,10 taken, which gives \"poker\": 0 picked"), "{text:?}");
}

fn walk_right() -> Timeline {
    let scale = wumple::units::Scale { tile: 16.0, frames_per_second: 60.0 };
    ButtonsFile::parse("walk", "0 right", &scale).unwrap().at_rate(60.0).unwrap().0
}

#[test]
fn a_summary_says_how_the_round_went() {
    let (level, dab, timeline) = room("ember-gallery");
    let trace = run(&level, &dab.tuning, &timeline, 700).unwrap();
    let summary = RoundSummary::of(&trace, level.round.as_ref().unwrap());
    assert!(summary.is_finished());
    assert_eq!(
        summary.to_string(),
        "finished in tick 507, 8.45 s, in attempt 3; picked 1 of 1; lives left: 1\n\
         defeated by hazard:stove: tick 96 at (187, 176) px\n\
         defeated by edge-bottom: tick 344 at (366.686, 232.791) px"
    );
    // Nobody presses anything else: the embers take everything.
    let trace = run(&level, &dab.tuning, &walk_right(), 2000).unwrap();
    let summary = RoundSummary::of(&trace, level.round.as_ref().unwrap());
    assert_eq!((summary.lost_tick.is_some(), summary.lives, summary.defeats.len()), (true, Some(0), 3));
    assert!(summary.to_string().starts_with("lost in tick "), "{summary}");
}

#[test]
fn levels_in_order_are_read_and_run_one_after_the_other() {
    let levels = Levels::read(&demo_file("jar-cellar.level.toml")).unwrap();
    let names: Vec<&str> = levels.levels.iter().map(|level| level.name.as_str()).collect();
    assert_eq!(names, ["Jar cellar", "Ember gallery", "Kiln hall"]);
    assert_eq!(levels.files.len(), 3);
    let dab = TuningFile::parse("climbing-dab", demo::CLIMBING_DAB).unwrap();
    let buttons = ButtonsFile::parse("three", demo::THREE_ROOMS_BUTTONS, &dab.scale).unwrap();
    let (timeline, _) = buttons.at_rate(60.0).unwrap();
    let runs = run_levels(&levels.levels, &dab.tuning, &timeline, 1300).unwrap();
    let ends: Vec<u64> = runs.iter().map(|(trace, _)| trace.rows.last().unwrap().tick).collect();
    assert_eq!(ends, [342, 507, 301]);
    // Each as when it is run by itself.
    for (at, name) in ["jar-cellar", "ember-gallery", "kiln-hall"].into_iter().enumerate() {
        let (level, dab, timeline) = room(name);
        assert_eq!(run(&level, &dab.tuning, &timeline, 600).unwrap().to_csv(), runs[at].0.to_csv(), "{name}");
    }
    // One that is not finished is the last.
    let runs = run_levels(&levels.levels, &dab.tuning, &timeline, 400).unwrap();
    assert_eq!(runs.iter().map(|(trace, _)| trace.rows.len() - 1).collect::<Vec<_>>(), [342, 58]);
}

#[test]
fn a_broken_link_is_an_error_at_its_line() {
    let folder = tempfile::tempdir().unwrap();
    let write = |name: &str, next: &str| {
        let path = folder.path().join(name);
        std::fs::write(&path, format!("next = \"{next}\"\n[map]\nrows = '''\n@..\n###\n'''\n")).unwrap();
        path
    };
    let first = write("a.level.toml", "b.level.toml");
    let error = Levels::read(&first).unwrap_err().to_string();
    assert!(error.contains("a.level.toml:1:8: the next level ") && error.contains("cannot be read"), "{error}");
    write("b.level.toml", "a.level.toml");
    let error = Levels::read(&first).unwrap_err().to_string();
    assert!(error.contains("b.level.toml:1:8: next leads back to"), "{error}");
    write("b.level.toml", "none");
    assert_eq!(Levels::read(&first).unwrap().levels.len(), 2);
}

#[test]
fn progress_goes_on_from_where_it_was_kept() {
    let (level, dab, _) = room("ember-gallery");
    let kept = Progress {
        level: "Ember gallery".into(),
        checkpoint: Some("checkpoint@17,10".into()),
        picked: vec!["pickup@22,7".into(), "pickup@1,1".into(), "hazard@6,11".into(), "no zone".into()],
        lives: Some(9),
    };
    let (mut world, id) = level.world(&dab.tuning).unwrap();
    let mut round = level.start_round(&world, id).unwrap();
    kept.resume(&level, &mut round, &mut world, id);
    // What the level has not is left out, and there are no more lives than there are.
    assert_eq!((round.picked(), round.lives(), world.report(id).feet.x), (1, Some(3), 280.0));
    let again = Progress::of(&level, &round);
    assert_eq!((again.picked, again.checkpoint), (vec!["pickup@22,7".to_owned()], kept.checkpoint));
    // Defeated, it is there that it starts again.
    for _ in 0..400 {
        world.tick(&[Buttons { right: true, ..Buttons::NONE }]);
        round.play(&mut world, id);
        if round.attempt() == 2 {
            assert_eq!(world.report(id).feet.x, 280.0);
            return;
        }
    }
    panic!("never defeated");
}

#[test]
fn trials_ask_for_all_that_a_round_has() {
    let folder = tempfile::tempdir().unwrap();
    for (name, text) in demo::files() {
        let path = folder.path().join(&name);
        std::fs::create_dir_all(path.parent().unwrap()).unwrap();
        std::fs::write(path, text).unwrap();
    }
    let trial = |level: &str, expect: &str| {
        let text = format!(
            "level = \"{level}.level.toml\"\ntuning = \"climbing-dab.tuning.toml\"\nbuttons = \"{level}.buttons\"\n[[expect]]\n{expect}\n"
        );
        let path = folder.path().join("t.trial.toml");
        std::fs::write(&path, text).unwrap();
        TrialFile::read(&path)
    };
    // What is asked, and whether it is so.
    let table = [
        ("number = \"health\"\nat = 50\nat_least = 2\nat_most = 2", true),
        ("number = \"health\"\nalways = true\nat_least = 1", false),
        ("number = \"lives\"\nat = 100\nat_most = 2", true),
        ("number = \"attempt\"\nat = 450\nat_least = 3", true),
        ("number = \"picked\"\nalways = true\nat_most = 0", false),
        ("number = \"goal_time\"\nat_most = \"8.5 s\"", true),
        ("event = \"hurt\"\nat_least = 2\nat_most = 2", true),
        ("event = \"defeated:hazard\"\nat_most = 0", false),
        ("event = \"reached:checkpoint@17,10\"\nbefore = 300", true),
        ("event = \"restarted\"\nat_least = 2", true),
        ("event = \"finished\"\nnever = true", false),
        ("event = \"round-lost\"\nnever = true", true),
    ];
    for (expect, passes) in table {
        let outcome = trial("ember-gallery", expect).unwrap().run().unwrap();
        assert_eq!(outcome.passed(), passes, "{expect}\n{outcome}");
    }
    let wrong = [
        ("jar-cellar", "number = \"health\"\nat = 3\nat_least = 1", "its [round] says no health"),
        ("jar-cellar", "number = \"lives\"\nat = 3\nat_least = 1", "its [round] says no lives"),
        ("chimney", "number = \"picked\"\nat = 3\nat_least = 1", "it has no [round]"),
        ("jar-cellar", "event = \"took:pickups\"", "did you mean \"took:pickup\"?"),
    ];
    for (level, expect, words) in wrong {
        let error = trial(level, expect).unwrap_err().to_string();
        assert!(error.contains(words), "{expect}: {error}");
    }
}

#[test]
fn figures_tell_attempts_apart_and_mark_what_happened() {
    let (level, dab, timeline) = room("ember-gallery");
    let (trace, log) = run_why(&level, &dab.tuning, &timeline, 700).unwrap();
    let figure = run_figure(&level, &dab, &trace, log.presses(), &Page::default());
    for words in ["an earlier attempt", "hurt", "defeated", "started again", "96 defeated:hazard:stove", "507 finished"]
    {
        assert!(figure.svg().contains(words), "{words}");
    }
    let over_time = run_time_figure(&level, &dab, &trace, &timeline, log.presses());
    assert!(over_time.svg().contains("attempt") && over_time.svg().contains("hurt or defeated"));
    let (hall, ..) = room("kiln-hall");
    let drawn = level_figure(&hall, None, &Page::default());
    for words in ["gate", "grate", "rope", "pickup"] {
        assert!(drawn.svg().contains(words), "{words}");
    }
    let (chimney, ..) = room("chimney");
    assert!(!level_figure(&chimney, None, &Page::default()).svg().contains("gate"));
}

#[test]
fn a_games_own_trace_may_have_a_round() {
    let (level, dab, timeline) = room("jar-cellar");
    let (mut world, id) = level.world(&dab.tuning).unwrap();
    let mut round = level.start_round(&world, id).unwrap();
    let (mut reports, mut rounds) = (vec![world.report(id).clone()], vec![wumple::RoundRow::of(&round)]);
    for tick in 1..=342 {
        world.tick(&[timeline.at(tick)]);
        round.play(&mut world, id);
        reports.push(world.report(id).clone());
        rounds.push(wumple::RoundRow::of(&round));
    }
    let trace = Trace::of_reports(60.0, level.names.clone(), reports).with_rounds(rounds);
    assert_eq!(trace.to_csv(), run(&level, &dab.tuning, &timeline, 500).unwrap().to_csv());
    assert_eq!(trace.names, Names::clone(&level.names));
}
