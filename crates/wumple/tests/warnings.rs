//! What is not wrong but hardly meant: told, with what comes of it and what would be likelier.

use wumple::files::Diagnostic;
use wumple::numbers::Scheme;
use wumple::units::{Quantity, Scale};
use wumple::{ButtonsFile, GameLoop, Level, TrialFile, TuningFile, Wishes, demo, fit};

fn said(warnings: &[Diagnostic]) -> Vec<String> {
    warnings.iter().map(ToString::to_string).collect()
}

const BODY: &str = "[body]\nwidth = 10\nheight = 20\n";

#[test]
fn numbers_of_another_unit_are_told() {
    let plain = "[run]\ntop_speed = 112\n[jump]\nheight = 48\ntime_to_apex = 0.35\n";
    let table: [(&str, &str, &[&str]); 11] = [
        ("", "", &[]),
        (
            "top_speed = 112",
            "top_speed = 2",
            &["t:5:13: run.top_speed = 2 px/s makes a run of 0.125 tiles a second; \"2 px/frame\" would be 120 px/s"],
        ),
        (
            "top_speed = 112",
            "top_speed = 112\nacceleration = 0.2",
            &[
                "t:6:16: run.acceleration = 0.2 px/s^2 makes 560 s between rest and top speed; \"0.2 px/frame^2\" would be 720 px/s^2",
            ],
        ),
        (
            "height = 48\ntime_to_apex = 0.35",
            "speed = 4.8\ngravity = 0.24",
            &[
                "t:7:9: jump.speed = 4.8 px/s makes a jump that is at its apex after 20 s and 3 tiles high; \"4.8 px/frame\" would be 288 px/s",
                "t:8:11: jump.gravity = 0.24 px/s^2 makes a jump that is at its apex after 20 s and 3 tiles high; \"0.24 px/frame^2\" would be 864 px/s^2",
            ],
        ),
        (
            "time_to_apex = 0.35",
            "time_to_apex = 21",
            &[
                "t:8:16: jump.time_to_apex = 21 s makes a jump that is at its apex after 21 s and 3 tiles high; \"21 frames\" would be 0.35 s",
            ],
        ),
        (
            "time_to_apex = 0.35",
            "time_to_apex = \"2 frames\"",
            &[
                "t:8:16: jump.time_to_apex = 2 frames makes a jump that is at its apex after 0.033 s, 2 ticks, and 3 tiles high",
            ],
        ),
        (
            "height = 48",
            "height = 4",
            &["t:7:10: jump.height = 4 px makes a jump of 0.25 tiles; \"4 tiles\" would be 64 px"],
        ),
        (
            "[jump]",
            "[fall]\ntop_speed = 4\n[jump]\ncoyote_time = 6\nbuffer_time = \"0.1 s\"",
            &[
                "t:7:13: fall.top_speed = 4 px/s makes a jump that is in the air for 12.353 s; \"4 px/frame\" would be 240 px/s",
                "t:9:15: jump.coyote_time = 6 s makes a window of 6 s; \"6 frames\" would be 0.1 s",
            ],
        ),
        (
            "[jump]",
            "[air]\nbump_memory = 8\n[wall]\ncoyote_time = 5\njump = { height = 40, steer_lock = 9 }\n[jump]",
            &[
                "t:7:15: air.bump_memory = 8 s makes a window of 8 s; \"8 frames\" would be 0.133 s",
                "t:9:15: wall.coyote_time = 5 s makes a window of 5 s; \"5 frames\" would be 0.083 s",
                "t:10:36: wall.jump.steer_lock = 9 s makes a window of 9 s; \"9 frames\" would be 0.15 s",
            ],
        ),
        (
            "[jump]",
            "[jump]\nrelease = { style = \"to-height\", tap_height = \"4 tiles\" }",
            &["t:7:47: the smallest hop of 4 tiles is above the jump of 3: letting go changes nothing"],
        ),
        // What is written with its unit is what was meant; what comes of it is said all the same.
        ("[jump]", "[jump]\ncoyote_time = \"1.5 s\"", &["t:7:15: jump.coyote_time = 1.5 s makes a window of 1.5 s"]),
    ];
    for (from, to, expected) in table {
        let text = format!("{BODY}{}", if from.is_empty() { plain.to_owned() } else { plain.replace(from, to) });
        let file = TuningFile::parse("t", &text).unwrap();
        assert_eq!(said(file.warnings()), expected, "{text}");
    }
    for text in [demo::DAB, demo::CLIMBING_DAB, demo::QUICK_FALL] {
        assert_eq!(said(TuningFile::parse("demo", text).unwrap().warnings()), [""; 0]);
    }
}

#[test]
fn wishes_of_another_unit_are_told() {
    let looped = GameLoop { rate: 60.0, scheme: Scheme::Exact, scale: Scale { tile: 16.0, frames_per_second: 60.0 } };
    let wishes = |height: &str, time: &str| Wishes {
        height: Some(Quantity::parse(height).unwrap()),
        time_to_apex: Some(Quantity::parse(time).unwrap()),
        ..Wishes::default()
    };
    assert_eq!(
        fit(&wishes("3", "20"), &looped).unwrap().warnings,
        [
            "the height is 3 px, 0.188 tiles; \"3 tiles\" would be 48 px",
            "the time to the apex is 20 s; \"20 frames\" would be 0.333 s"
        ]
    );
    for (height, time) in [("3 px", "20 s"), ("48", "0.4"), ("3 tiles", "20 frames")] {
        assert_eq!(fit(&wishes(height, time), &looped).unwrap().warnings, [""; 0]);
    }
}

#[test]
fn things_wholly_outside_the_map_are_told() {
    let map = "[map]\nrows = '''\n....\n.@..\n####\n'''\n";
    let table = [
        ("[[block]]\nat = [64, 0]\nsize = [8, 8]", Some("block 1")),
        ("[[block]]\nat = [60, 0]\nsize = [8, 8]", None),
        ("[[ramp]]\nfrom = [-32, 20]\nto = [0, 10]", Some("ramp 1")),
        ("[[prop]]\nat = [0, 48]\nsize = [8, 8]", Some("prop 1")),
        ("[[platform]]\nsize = [16, 8]\nspeed = 30\nroute = [[-90, 0], [-16, 40]]", Some("platform 1")),
        ("[[platform]]\nsize = [16, 8]\nspeed = 30\nroute = [[-90, 0], [-15, 40]]", None),
    ];
    for (thing, outside) in table {
        let level = Level::parse("l", &format!("{thing}\n{map}")).unwrap();
        let expected: Vec<String> =
            outside.iter().map(|what| format!("l:1:1: {what} is wholly outside the map of 64 x 48 px")).collect();
        assert_eq!(said(level.warnings()), expected, "{thing}");
    }
}

#[test]
fn blank_columns_that_a_spreadsheet_added_are_told() {
    let folder = tempfile::tempdir().unwrap();
    let level = folder.path().join("l.level.toml");
    std::fs::write(&level, "[map]\ncsv = \"m.csv\"\n").unwrap();
    for (text, blank) in [("@,.,,\n#,#,,\n", Some(2)), ("@,.,,.\n#,#,,\n", None), ("@\n#\n", None)] {
        std::fs::write(folder.path().join("m.csv"), text).unwrap();
        let level = Level::read(&level).unwrap();
        let told = level.warnings().iter().map(|warning| warning.message().to_owned()).next();
        let expected = blank.map(|blank| format!("the last {blank} of 4 columns are blank in every row; the level is so much wider for them: write \".\" where empty tiles are meant"));
        assert_eq!(told, expected, "{text}");
    }
}

/// Two files given in each other's place, and what other spellings of a unit or another section's key should be.
#[test]
fn what_was_meant_is_told() {
    let level = "[map]\nrows = '''\n.@..\n####\n'''\n";
    let swapped = |found: &str, wanted: &str| {
        format!("f:1:1: this is {found}, not {wanted}; are two files given in each other's place?")
    };
    assert_eq!(TuningFile::parse("f", level).unwrap_err().to_string(), swapped("a level", "a tuning"));
    assert_eq!(Level::parse("f", demo::DAB).unwrap_err().to_string(), swapped("a tuning", "a level"));
    assert_eq!(Level::parse("f", demo::TRIALS[0].1).unwrap_err().to_string(), swapped("a trial", "a level"));
    assert_eq!(TrialFile::parse("f", demo::DAB).unwrap_err().to_string(), swapped("a tuning", "a trial"));

    let scale = Scale { tile: 16.0, frames_per_second: 60.0 };
    assert_eq!(
        ButtonsFile::parse("f", demo::THROWING_ROOM, &scale).unwrap_err().to_string().lines().count(),
        1,
        "a level as buttons is told once"
    );

    let text = |jump: &str| format!("{BODY}[run]\ntop_speed = 112\n[jump]\ntime_to_apex = 0.35\n{jump}\n");
    for (jump, expected) in [
        ("height = \"3 Tiles\"", "\"3 Tiles\" has the unknown unit \"Tiles\", which is written \"tiles\""),
        ("height = \"48 pixels\"", "has the unknown unit \"pixels\", which is written \"px\""),
        ("height = \"3,2 tiles\"", "\"3,2 tiles\" has a comma; a number has a point, \"3.2 tiles\""),
        ("height = 48\nhang = { speed = \"20 pixels/sec\", gravity_ratio = 1 }", "which is written \"px/s\""),
        ("height = 48\n[fall]\ngravity = \"900 px/s2\"", "which is written \"px/s^2\""),
        (
            "height = 48\n[air]\ncoyote_time = 0.1",
            "unknown key \"coyote_time\" in [air]; it belongs to [jump] or [wall]",
        ),
        ("height = 48\n[wall]\nbuffer_time = 0.1", "unknown key \"buffer_time\" in [wall]; it belongs to [jump]"),
        ("height = 48\nbufer_time = 0.1", "unknown key \"bufer_time\" in [jump]; did you mean \"buffer_time\"?"),
    ] {
        let wrong = TuningFile::parse("t", &text(jump)).unwrap_err().to_string();
        assert!(wrong.contains(expected), "{jump}: {wrong}");
    }
}

/// Names go into tables, figures and spreadsheets: what would be obeyed there is refused.
#[test]
fn names_are_of_one_line_and_no_formula() {
    let long = "n".repeat(101);
    for name in ["a\\nb", "\\u001b]0;x\\u0007", "\\u202Eabc", "\\u009b2J", "=1+1", "+1", "-x", "@sum", &long] {
        let wrong = TuningFile::parse("t", &format!("name = \"{name}\"\n{}", demo::DAB.replacen("name", "# name", 1)))
            .unwrap_err();
        assert!(wrong.to_string().starts_with("t:1:8: name: a name "), "{name}: {wrong}");
    }
    for name in ["Dab", "Dab <b> & \\\"co\\\"", "Δab 3", "a=b-c"] {
        let text = format!("name = \"{name}\"\n{}", demo::DAB.replacen("name", "# name", 1));
        let file = TuningFile::parse("t", &text).unwrap();
        #[cfg(feature = "figures")]
        wumple::figures::arcs_figure(&wumple::arcs([&file])).png().unwrap();
        assert!(!file.name.is_empty());
    }
    assert_eq!(wumple::files::file_stem("some/=\u{1b}evil\n.tuning.toml"), "evil");
}
