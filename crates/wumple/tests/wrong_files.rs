//! Wrong files, each with the exact message it gets.

mod wrong;

use wrong::{LEVEL, SCALE, TRIAL, TUNING, changed, lines};
use wumple::files::read_text;
use wumple::{ButtonsFile, FileError, Level, TrialFile, TuningFile};

#[test]
fn the_files_that_the_tables_spoil_are_right() {
    TuningFile::parse("t", TUNING).unwrap();
    let level = Level::parse("l", LEVEL).unwrap();
    assert_eq!((level.spawn_tile, level.spawn().x, level.spawn().y), ((1, 2), 24.0, 48.0));
}

#[test]
fn wrong_tunings() {
    let table: &[(&str, &str, &[&str])] = &[
        (
            "",
            "release = { style = \"chop\" }",
            &[
                "t:13:21: jump.release.style is \"chop\"; it must be one of \"none\", \"cut\", \"heavy\", \"sustain\", \"to-height\"",
            ],
        ),
        (
            "",
            "release = { keep = 0.5 }",
            &[
                "t:13:11: [jump.release] has no \"style\"; it must be one of \"none\", \"cut\", \"heavy\", \"sustain\", \"to-height\"",
            ],
        ),
        (
            "",
            "release = { style = \"cut\" }",
            &["t:13:11: [jump.release] has no \"keep\"; it needs a number without a unit, such as 1.5"],
        ),
        (
            "",
            "release = { style = \"cut\", keep = 2 }",
            &["t:13:35: jump.release.keep is 2; it must be at least 0 and at most 1"],
        ),
        (
            "",
            "release = { style = \"cut\", time = \"1 s\", keep = 0 }",
            &["t:13:28: unknown key \"time\" in [jump.release]; there are \"style\", \"keep\""],
        ),
        (
            "",
            "release = { style = \"sustain\", time = \"0.4 s\" }",
            &[
                "t:13:39: jump.release.time must be shorter than the time to the apex: something must be left to slow down in",
            ],
        ),
        (
            "",
            "hang = { speed = \"90 tiles/s\", gravity_ratio = 0.5 }",
            &["t:13:18: jump.hang.speed must be below the take-off speed, which is 137.1 px/s"],
        ),
        ("", "air_jumps = -1", &["t:13:13: jump.air_jumps must be a whole number from 0 to 1000"]),
        ("", "waits_for_ground = \"yes\"", &["t:13:20: jump.waits_for_ground must be true or false"]),
        (
            "",
            "coyote_time = \"6 px\"",
            &["t:13:15: \"6 px\" is a length; jump.coyote_time needs a time, such as \"0.1 s\" or \"6 frames\""],
        ),
        ("", "repeat = \"always\"", &["t:13:10: jump.repeat is \"always\"; it must be one of \"pressed\", \"held\""]),
        (
            "",
            "[fall]\ngravity_ratio = 0",
            &["t:14:17: fall.gravity_ratio is 0; it must be above 0 and at most 1000000"],
        ),
        (
            "",
            "[air]\ntop_speed = 3",
            &["t:14:1: unknown key \"top_speed\" in [air]; it belongs to [fall], [flight], [four_way] or [run]"],
        ),
        (
            "\"3 tiles\"",
            "\"3 tiles/s\"",
            &["t:11:10: \"3 tiles/s\" is a speed; jump.height needs a length, such as \"3 tiles\" or \"48 px\""],
        ),
        (
            "height = \"3 tiles\"\n",
            "",
            &["t:10:1: [jump] has no \"height\"; it needs a length, such as \"3 tiles\" or \"48 px\""],
        ),
        (
            "width",
            "widht",
            &[
                "t:4:1: [body] has no \"width\"; it needs a length, such as \"3 tiles\" or \"48 px\"",
                "t:5:1: unknown key \"widht\" in [body]; did you mean \"width\"?",
            ],
        ),
        (
            "acceleration",
            "aceleration",
            &["t:9:1: unknown key \"aceleration\" in [run]; did you mean \"acceleration\"?"],
        ),
        (
            "[run]",
            "[runs]",
            &[
                "t:1:1: the section [run] is missing; every tuning needs it",
                "t:7:2: unknown section \"runs\"; did you mean \"run\"?",
            ],
        ),
        (
            "\"10 px\"",
            "\"10 metres\"",
            &[
                "t:5:9: \"10 metres\" has the unknown unit \"metres\"; body.width needs a length, such as \"3 tiles\" or \"48 px\"",
            ],
        ),
        (
            "\"10 px\"",
            "true",
            &["t:5:9: true is no quantity; body.width needs a length, such as \"3 tiles\" or \"48 px\""],
        ),
        ("\"10 px\"", "0", &["t:5:9: body.width is 0 px; it must be above 0 and at most 524288 px"]),
        ("\"10 px\"", "-4", &["t:5:9: body.width is -4 px; it must be above 0 and at most 524288 px"]),
        (
            "\"10 px\"",
            "nan",
            &["t:5:9: body.width is not a finite number; it needs a length, such as \"3 tiles\" or \"48 px\""],
        ),
        ("tile = 16", "tile = 0", &["t:3:8: scale.tile is 0 px; it must be from 1 to 4096 px"]),
        ("\"0.1 s\"", "\"instantly\"", &["t:9:16: run.acceleration is \"instantly\"; did you mean \"instant\"?"]),
        (
            "\"0.1 s\"",
            "\"3 tiles\"",
            &[
                "t:9:16: \"3 tiles\" is a length; run.acceleration needs an acceleration, such as \"60 tiles/s^2\", \"0.1 s\" or \"instant\"",
            ],
        ),
        ("\"0.1 s\"", "\"-0.1 s\"", &["t:9:16: run.acceleration is -0.1 s; it must be at least 0 and at most 1000 s"]),
        (
            "",
            "speed = 300",
            &[
                "t:10:1: [jump] takes \"height\" and \"time_to_apex\", or \"speed\" and \"gravity\"; it has some of both: remove one pair",
            ],
        ),
        (
            "",
            "[fall]\ngravity = 900",
            &["t:14:11: fall.gravity is given, but [jump] already says the gravity; remove it"],
        ),
        ("", "[tick]\nrate = 0", &["t:14:8: tick.rate is 0 Hz; it must be at least 1 and at most 10000 Hz"]),
        ("", "[tick]\nscheme = \"exactly\"", &["t:14:10: tick.scheme is \"exactly\"; did you mean \"exact\"?"]),
        ("name = \"Dab\"", "name = 7", &["t:1:8: name needs a text, such as \"Dab\""]),
        (
            "name = \"Dab\"",
            "body = 3",
            &["t:1:8: body must be a section, [body]", "t:4:2: this is not TOML: duplicate key"][1..],
        ),
    ];
    for (from, to, expected) in table {
        let errors = TuningFile::parse("t", &changed(TUNING, from, to)).expect_err(to);
        assert_eq!(lines(&errors), *expected, "{from} -> {to}");
    }
}

#[test]
fn an_empty_tuning_says_what_every_tuning_needs() {
    let errors = TuningFile::parse("t", "").unwrap_err();
    assert_eq!(
        lines(&errors),
        [
            "t:1:1: the section [body] is missing; every tuning needs it",
            "t:1:1: the section [run] is missing; every tuning needs it",
        ]
    );
}

#[test]
fn a_tuning_without_a_jump_needs_a_gravity() {
    let text = &TUNING[..TUNING.find("[jump]").unwrap()];
    let errors = TuningFile::parse("t", text).unwrap_err();
    assert_eq!(lines(&errors), ["t:1:1: fall.gravity is missing; without [jump] it says how fast a fall quickens"]);
    let with = format!("{text}[fall]\ngravity = \"60 tiles/s^2\"\n");
    assert_eq!(TuningFile::parse("t", &with).unwrap().tuning.gravity().rise, 960.0);
}

#[test]
fn sections_of_gravity_beside_four_ways_are_named_at_their_places() {
    let text = format!("{TUNING}[four_way]\ntop_speed = 100\n");
    let errors = TuningFile::parse("t", &text).unwrap_err();
    let why = "is given, but [four_way] is seen from above, without gravity; remove one of them";
    assert_eq!(lines(&errors), [format!("t:7:1: [run] {why}"), format!("t:10:1: [jump] {why}")]);
    let text = "[body]\nwidth = 10\nheight = 10\n[four_way]\ntop_sped = 3";
    let errors = TuningFile::parse("t", text).unwrap_err();
    assert_eq!(lines(&errors)[1], "t:5:1: unknown key \"top_sped\" in [four_way]; did you mean \"top_speed\"?");
    let right = TuningFile::parse("t", &text.replace("top_sped", "top_speed")).unwrap();
    assert_eq!(right.tuning.four_way().unwrap().rates.top_speed, 3.0);
}

#[test]
fn wrong_flights() {
    let table: &[(&str, &str)] = &[
        ("[flight]\nlift = 100", "t:13:1: [flight] has no \"by\"; it must be one of \"flaps\", \"thrust\""),
        ("[flight]\nby = \"flap\"\nlift = 100", "t:14:6: flight.by is \"flap\"; did you mean \"flaps\"?"),
        (
            "[flight]\nby = \"flaps\"\nlift = \"100 px/s^2\"",
            "t:15:8: \"100 px/s^2\" is an acceleration; flight.lift needs a speed, such as \"7.5 tiles/s\" or \"120 px/s\"",
        ),
        (
            "[flight]\nby = \"thrust\"\nlift = \"100 px/s\"",
            "t:15:8: \"100 px/s\" is a speed; flight.lift needs an acceleration, such as \"60 tiles/s^2\" or \"960 px/s^2\"",
        ),
        (
            "[flight]\nby = \"flaps\"\nlift = 10",
            "t:15:8: flight.lift is 10 px/s; it must be above what one tick of gravity takes of it, 13.06 px/s",
        ),
    ];
    for (section, expected) in table {
        let errors = TuningFile::parse("t", &format!("{TUNING}{section}\n")).unwrap_err();
        assert_eq!(lines(&errors), [*expected]);
    }
    let right = format!("{TUNING}[flight]\nby = \"thrust\"\nlift = \"90 tiles/s^2\"\n");
    assert_eq!(TuningFile::parse("t", &right).unwrap().tuning.flight().unwrap().lift, 1440.0);
}

#[test]
fn wrong_walls_ladders_and_pictures() {
    let table: &[(&str, &str)] = &[
        ("[wall]\nslide = { when = \"push\" }", "t:14:18: wall.slide.when is \"push\"; did you mean \"pushed\"?"),
        (
            "[wall]\nslide = { top_speed = \"3 tiles\" }",
            "t:14:23: \"3 tiles\" is a length; wall.slide.top_speed needs a speed, such as \"7.5 tiles/s\" or \"120 px/s\"",
        ),
        (
            "[wall]\njump = { push_speed = 3 }",
            "t:14:8: [wall.jump] has no \"height\"; it needs a length, such as \"3 tiles\" or \"48 px\"",
        ),
        (
            "[wall]\njump = { height = 0 }",
            "t:14:19: wall.jump.height is 0 px; it must be above 0 and at most 524288 px",
        ),
        (
            "[wall]\njump = { height = 3, steer_lock = \"90 s\" }",
            "t:14:35: wall.jump.steer_lock is 90 s; it must be at least 0 and at most 60 s",
        ),
        ("[wall]\nhold = { when = \"held\" }", "t:14:17: wall.hold.when is \"held\"; did you mean \"grab-held\"?"),
        (
            "[wall]\nstick = 3",
            "t:14:1: unknown key \"stick\" in [wall]; there are \"coyote_time\", \"slide\", \"jump\", \"hold\"",
        ),
        (
            "[ladder]\nup_speed = 3",
            "t:13:1: [ladder] has no \"down_speed\"; it needs a speed, such as \"7.5 tiles/s\" or \"120 px/s\"",
        ),
        (
            "[ladder]\nup_speed = 3\ndown_speed = -3",
            "t:15:14: ladder.down_speed is -3 px/s; it must be at least 0 and at most 1000000 px/s",
        ),
        (
            "[platform]\ndrop = \"jump\"",
            "t:14:8: platform.drop is \"jump\"; it must be one of \"down+jump\", \"down\", \"off\"",
        ),
        (
            "[picture]\nwidth = 3",
            "t:13:1: [picture] has no \"height\"; it needs a length, such as \"3 tiles\" or \"48 px\"",
        ),
        ("[picture]\nwidth = 0\nheight = 9", "t:14:9: picture.width is 0 px; it must be above 0 px"),
    ];
    for (added, expected) in table {
        let errors = TuningFile::parse("t", &changed(TUNING, "", added)).expect_err(added);
        assert_eq!(lines(&errors), [*expected], "{added}");
    }
}

#[test]
fn several_faults_are_said_at_once_in_the_order_of_their_places() {
    let text = TUNING.replace("\"10 px\"", "\"10 s\"").replace("\"3 tiles\"", "-3").replace("name", "nmae");
    let errors = TuningFile::parse("t", &text).unwrap_err();
    let places: Vec<(usize, usize)> = errors.iter().map(|error| (error.line(), error.column())).collect();
    assert_eq!(places, [(1, 1), (5, 9)], "bounds are looked at when the rest can be read");
}

#[test]
fn wrong_buttons() {
    let table = [
        ("0 rigth", "b:1:3: unknown button \"rigth\"; did you mean \"right\"?"),
        (
            "0 shoot",
            "b:1:3: unknown button \"shoot\"; there are \"left\", \"right\", \"up\", \"down\", \"jump\", \"grab\" and \"-\"",
        ),
        (
            "right",
            "b:1:1: \"right\" does not begin with a number; a line begins with a tick, such as \"30\" or \"+12\", or a time, such as \"1.5s\"",
        ),
        (
            "5px right",
            "b:1:1: \"5px\" is a length; a line begins with a tick, such as \"30\" or \"+12\", or a time, such as \"1.5s\"",
        ),
        (
            "1.5 right",
            "b:1:1: \"1.5\" is no whole tick; a line begins with a tick, such as \"30\" or \"+12\", or a time, such as \"1.5s\"",
        ),
        (
            "-3 right",
            "b:1:1: \"-3\" is no time of a run; a line begins with a tick, such as \"30\" or \"+12\", or a time, such as \"1.5s\"",
        ),
        ("30 right\n20 jump", "b:2:1: is earlier than the line before; times never go back"),
        ("30", "b:1:1: names no button; \"-\" is none"),
        ("0 right=2", "b:1:3: \"right=2\": a stick is pushed from 0 to 1, such as \"right=0.6\""),
        ("0 jump=0.5", "b:1:3: \"jump=0.5\": jump is held or not, without a part"),
        ("rate fast", "b:1:1: \"rate\" needs a number of ticks a second from 1 to 10000, such as \"rate 60\""),
        ("rate 60\nrate 30", "b:2:1: the rate is given twice; keep one"),
        ("0 right\nrate 60", "b:2:1: the rate must come before the first time"),
    ];
    for (text, message) in table {
        assert_eq!(lines(&ButtonsFile::parse("b", text, &SCALE).expect_err(text)), [message]);
    }
}

#[test]
fn a_fault_is_shown_with_its_line_and_underlined() {
    let errors = TuningFile::parse("kiln.tuning.toml", &TUNING.replace("\"3 tiles\"", "\"3 tiles/s\"")).unwrap_err();
    insta::assert_snapshot!(errors.render(false), @r#"
    kiln.tuning.toml:11:10: "3 tiles/s" is a speed; jump.height needs a length, such as "3 tiles" or "48 px"
       |
    11 | height = "3 tiles/s"
       |          ^^^^^^^^^^^
    "#);
}

#[test]
fn files_that_are_not_text_or_not_there() {
    let folder = tempfile::tempdir().unwrap();
    let path = folder.path().join("bytes.level.toml");
    std::fs::write(&path, b"name = \"R\"\n\xff\xfe").unwrap();
    match Level::read(&path) {
        Err(FileError::Wrong(errors)) => {
            let message = errors.to_string();
            assert!(message.ends_with(":2:1: byte 0xff is not UTF-8; save the file as UTF-8 text"), "{message}");
        }
        other => panic!("{other:?}"),
    }
    let missing = read_text(&folder.path().join("nowhere")).unwrap_err().to_string();
    assert!(missing.contains("nowhere: No such file"), "{missing}");
}

mod anything {
    use super::*;
    use proptest::prelude::*;

    /// Our own files with a few bytes changed, which gets further in than noise.
    fn spoiled(text: &'static str) -> impl Strategy<Value = String> {
        let change =
            (0..text.len(), prop::sample::select(&["", "0", "-", "\"", "'", "nan", "=", "\n", "é", "[", "1e300"][..]));
        prop::collection::vec(change, 1..4).prop_map(move |changes| {
            let mut bytes = text.as_bytes().to_vec();
            for (at, with) in changes {
                let at = at.min(bytes.len());
                bytes.splice(at..(at + 1).min(bytes.len()), with.bytes());
            }
            String::from_utf8_lossy(&bytes).into_owned()
        })
    }

    proptest! {
        #![proptest_config(ProptestConfig::with_cases(1500))]

        #[test]
        fn no_text_makes_a_reader_panic(tuning in spoiled(TUNING), level in spoiled(LEVEL), buttons in "[-+0-9a-z .;#=\n]{0,40}") {
            if let Err(errors) = TuningFile::parse("t", &tuning) {
                prop_assert!(!errors.render(false).is_empty());
            }
            if let Err(errors) = Level::parse("l", &level) {
                prop_assert!(!errors.render(false).is_empty());
            }
            if let Ok(file) = ButtonsFile::parse("b", &buttons, &SCALE) {
                let _ = file.at_rate(60.0);
            }
        }

        #[test]
        fn no_text_makes_the_reader_of_trials_or_the_judge_panic(trial in spoiled(TRIAL)) {
            match TrialFile::parse("demo/t.trial.toml", &trial) {
                Ok(trial) if trial.ticks < 1000 => drop(trial.run().unwrap().to_string()),
                Ok(_) => {}
                Err(errors) => prop_assert!(!errors.render(false).is_empty()),
            }
        }
    }
}

#[test]
fn what_is_felt_must_leave_something_of_the_hitbox() {
    let line = TUNING.lines().count() + 2;
    let wrong = |feels: &str| {
        let errors = TuningFile::parse("t", &format!("{TUNING}[feels]\n{feels}\n")).unwrap_err();
        lines(&errors).into_iter().map(|error| error.replace(&format!("t:{line}:"), "")).collect::<Vec<_>>()
    };
    assert_eq!(
        wrong("hazard = \"-40 px\""),
        ["10: feels.hazard leaves nothing of the hitbox to feel with; make it less"]
    );
    assert_eq!(
        wrong("draught = \"-40 px\""),
        [format!("t:{}:1: feels leaves nothing of the hitbox to feel with; make it less", line - 1)]
    );
    assert_eq!(wrong("draught = \"3 s\"").len(), 1);
    assert_eq!(wrong("goal = \"300 px\""), ["8: feels.goal must be from -256 to 256 px"]);
    assert_eq!(
        wrong("goal = { over = 3 }"),
        ["10: unknown key \"over\" in [feels.goal]; there are \"left\", \"right\", \"above\", \"below\""]
    );
    assert_eq!(wrong("hazzard = 3"), ["1: unknown key \"hazzard\" in [feels]; did you mean \"hazard\"?"]);
    assert_eq!(
        wrong("pickup = \"3 tiles/s\""),
        ["10: \"3 tiles/s\" is a speed; feels.pickup needs a length, such as \"3 tiles\" or \"48 px\""]
    );
}

#[test]
fn wrong_poses() {
    let known = "\"stand\", \"run\", \"rise\", \"fall\", \"wall-slide\", \"wall-hold\", \"ladder\", \"fly\"";
    let table: &[(&str, &[&str])] = &[
        ("", &["t:13:1: pose 1.name is needed, of letters, digits, \"-\" and \"_\": \"run\" or \"wall-slide\""]),
        (
            "name = \"up, up\"",
            &["t:14:8: pose 1.name is needed, of letters, digits, \"-\" and \"_\": \"run\" or \"wall-slide\""],
        ),
        ("name = \"a\"\n[[pose]]\nname = \"a\"", &["t:16:8: pose 2.name is another pose's too"]),
        ("name = \"a\"\npictures = 0", &["t:15:12: pose 1.pictures must be at least 1"]),
        (
            "name = \"a\"\npictures = 2",
            &[
                "t:15:12: pose 1.pictures is 2, but nothing says when the next is shown; give pace (pictures a second) or stride (px \
                 gone for a picture)",
            ],
        ),
        ("name = \"a\"\npictures = 2\npace = 0", &["t:16:8: pose 1.pace must be above 0"]),
        ("name = \"a\"\npictures = 2\nstride = \"-1 px\"", &["t:16:10: pose 1.stride must be above 0"]),
        (
            "name = \"a\"\npictures = 2\npace = 3\nstride = \"8 px\"",
            &["t:17:10: pose 1.stride is given beside pace; remove one of them"],
        ),
        (
            "name = \"a\"\nwhen = { state = \"ries\" }",
            &["t:15:18: pose 1.when.state is \"ries\"; did you mean \"rise\"?"],
        ),
        (
            "name = \"a\"\nwhen = { state = [] }",
            &[&format!("t:15:18: pose 1.when.state needs a word or a list of them: {known}")],
        ),
        (
            "name = \"a\"\nwhen = { state = [\"rise\", true] }",
            &[&format!("t:15:18: pose 1.when.state needs a word or a list of them: {known}")],
        ),
        (
            "name = \"a\"\nwhen = { facing = \"lft\" }",
            &["t:15:19: pose 1.when.facing is \"lft\"; did you mean \"left\"?"],
        ),
        ("name = \"a\"\nwhen = { moved = 1 }", &["t:15:18: pose 1.when.moved must be true or false"]),
    ];
    for (given, expected) in table {
        let text = format!("{TUNING}[[pose]]\n{given}\n");
        let errors = TuningFile::parse("t", &text).unwrap_err();
        assert_eq!(lines(&errors), *expected, "{given}");
    }
}
