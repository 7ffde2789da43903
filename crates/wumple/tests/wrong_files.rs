//! Wrong files, each with the exact message it gets.

use wumple::files::read_text;
use wumple::units::Scale;
use wumple::{ButtonsFile, Diagnostics, FileError, Level, TrialFile, TuningFile};

const TUNING: &str = r#"name = "Dab"
[scale]
tile = 16
[body]
width = "10 px"
height = "22 px"
[run]
top_speed = "7.5 tiles/s"
acceleration = "0.1 s"
[jump]
height = "3 tiles"
time_to_apex = "0.35 s"
"#;

const LEVEL: &str = "name = \"Room\"\ntile = 16\n[map]\nrows = '''\n......\n......\n.@....\n######\n'''\n";

const TRIAL: &str = r#"level = "throwing-room.level.toml"
tuning = "dab.tuning.toml"
press = "0 right; 40 right jump"
[[expect]]
event = "jumped:ground"
at = 40
within = "0.1 s"
[[expect]]
state = "rise"
between = [30, 90]
at_least = "0.1 s"
at_most = 3
[[expect]]
place = ["10 tiles", "20 px"]
before = 60
within = "2 px"
never = true
[[expect]]
number = "apex"
after = 3
at_least = "3 tiles"
"#;

const SCALE: Scale = Scale { tile: 16.0, frames_per_second: 60.0 };

fn lines(errors: &Diagnostics) -> Vec<String> {
    errors.iter().map(ToString::to_string).collect()
}

/// The text with one part replaced; `""` is replaced by adding at the end.
fn changed(text: &str, from: &str, to: &str) -> String {
    if from.is_empty() {
        return format!("{text}{to}\n");
    }
    assert!(text.contains(from), "{from}");
    text.replacen(from, to, 1)
}

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
        ("", "[air]\ntop_speed = 3", &["t:14:1: unknown key \"top_speed\" in [air]; it belongs to [fall] or [run]"]),
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
fn wrong_levels() {
    let table: &[(&str, &str, &[&str])] = &[
        ("tile = 16", "tile = 0", &["l:2:8: tile is 0 px; a tile must be from 1 to 4096 px"]),
        (
            "tile = 16",
            "tile = nan",
            &["l:2:8: tile is not a finite number; it needs a length, such as \"3 tiles\" or \"48 px\""],
        ),
        ("tile", "tyle", &["l:2:1: unknown key \"tyle\"; did you mean \"tile\"?"]),
        (".@....", ".@...", &["l:7:1: row 2 has 5 letters where row 0 has 6; all rows must be of one length"]),
        (
            ".@....",
            ".@..x.",
            &[
                "l:7:5: unknown letter \"x\"; there is \".\", \"#\", \"=\", \"H\", \"/\", \"\\\", \"@\", \"^\", \"*\", \"!\", \"+\", and [letters] may add others",
            ],
        ),
        (".@....", "......", &["l:5:1: the map has no spawn; put one \"@\" where the character starts"]),
        (
            ".@....",
            ".@.@..",
            &["l:7:4: a second spawn at column 3, row 2; the first is at column 1, row 2: keep one \"@\""],
        ),
        (
            "rows",
            "row",
            &[
                "l:3:1: [map] has no \"rows\"; they are the tiles, a letter each, in ''' quotes (or \"csv\" or \"png\" names a file)",
                "l:4:1: unknown key \"row\" in [map]; did you mean \"rows\"?",
            ],
        ),
        (
            "[map]",
            "[edges]\nleft = \"hard\"\n[map]",
            &["l:4:8: edges.left is \"hard\"; it must be one of \"solid\", \"open\", \"deadly\""],
        ),
        (
            "[map]",
            "[letters]\n\"cc\" = {}\n[map]",
            &["l:4:8: \"cc\" in [letters] is not one letter; a tile is one letter of the map"],
        ),
        (
            "[map]",
            "[letters]\n\"c\" = { surface = \"sold\" }\n[map]",
            &["l:4:19: letters.c.surface is \"sold\"; did you mean \"solid\"?"],
        ),
        (
            "[map]",
            "[letters]\n\"c\" = { color = \"#123456\" }\n[map]",
            &["l:4:9: unknown key \"color\" in [letters.c]; did you mean \"colour\"?"],
        ),
        (
            "[map]",
            "[letters]\n\"c\" = { colour = \"brown\" }\n[map]",
            &["l:4:18: \"brown\" is no colour; it must be of the form \"#9aa7a0\""],
        ),
        (
            "[map]",
            "[letters]\n\"@\" = {}\n[map]",
            &[
                "l:4:7: \"@\" in [letters] cannot be changed; \"@\" is the spawn, and spaces and control characters are no tiles",
            ],
        ),
        (
            "[map]",
            "[letters]\n\"c\" = { zone = \"hazrd\" }\n[map]",
            &["l:4:16: letters.c.zone is \"hazrd\"; did you mean \"hazard\"?"],
        ),
        (
            "[map]",
            "[letters]\n\"c\" = { zone = \"Kiln Door\" }\n[map]",
            &[
                "l:4:16: letters.c.zone is \"Kiln Door\"; it must be one of \"pickup\", \"checkpoint\", \"goal\", \"hazard\", or a word of your own of up to 16 letters a to z, digits, \"-\" and \"_\"",
            ],
        ),
        (
            "[map]",
            "[letters]\n\"c\" = { margin = \"3 px\" }\n[map]",
            &["l:4:18: letters.c.margin is of no use without \"zone\""],
        ),
        (
            "[map]",
            "[letters]\n\"c\" = { surface = \"solid\", zone = \"goal\", felt = \"inside\" }\n[map]",
            &[
                "l:4:50: letters.c.felt: nothing can be inside of what is solid; leave it out, so that touching it counts, or give a \"margin\"",
            ],
        ),
        (
            "[map]",
            "[letters]\n\"c\" = { zone = \"goal\", margin = \"-8 px\" }\n[map]",
            &["l:4:33: letters.c.margin leaves nothing of a zone of 16 x 16 px; it must be less"],
        ),
        (
            "[map]",
            "[letters]\n\"c\" = { zone = \"goal\", margin = \"300 px\" }\n[map]",
            &["l:4:33: letters.c.margin must be from -256 to 256 px"],
        ),
        (
            "[map]",
            "[[zone]]\nkind = \"goal\"\nat = [0, 0]\nsize = [0, 4]\n[map]",
            &["l:6:8: zone 1.size is 0 x 4 px; both must be above 0, and at least 0.0009765625 px"],
        ),
        (
            "[map]",
            "[[block]]\nat = [0, 0]\nsize = [4, 4]\nnotes = { points = [5], value = inf }\n[map]",
            &[
                "l:6:20: block 1.notes.points must be a number, a text, true or false",
                "l:6:33: block 1.notes.value must be a number, a text, true or false",
            ],
        ),
        (
            "[map]",
            "[[block]]\nat = [0, 0]\nsize = [4, 4]\nnotes = 5\n[map]",
            &["l:6:9: block 1.notes must be a section, [block 1.notes]"],
        ),
        (
            "[map]",
            "[meets]\njars = [\"level\"]\n[letters]\n\"c\" = { surface = \"solid\", group = \"jar\" }\n[map]",
            &["l:6:36: letters.c.group is \"jar\", of which [meets] says nothing; did you mean \"jars\"?"],
        ),
        (
            "[map]",
            "[meets]\njars = [\"level\"]\n[[block]]\nat = [0, 0]\nsize = [4, 4]\ngroup = \"mist\"\n[map]",
            &[
                "l:8:9: block 1.group is \"mist\", of which [meets] says nothing; say there whom it meets, as in mist = [\"level\"]",
            ],
        ),
        (
            "[map]",
            "[meets]\njars = [\"levl\"]\n[map]",
            &["l:4:8: [meets] jars has \"levl\", which nothing here is in; did you mean \"level\"?"],
        ),
        (
            "[map]",
            "[meets]\nlevel = [\"jars\"]\n[map]",
            &["l:4:9: [meets]: \"level\" is what is in no group; say of each group whether it meets it"],
        ),
        (
            "[map]",
            "[meets]\njars = [\"mist\", \"level\"]\nmist = [\"level\"]\n[map]",
            &[
                "l:4:8: [meets]: \"jars\" meets \"mist\", but \"mist\" does not meet \"jars\"; it holds both ways: add \"jars\" to mist, or take \"mist\" from jars",
            ],
        ),
        (
            "[map]",
            "[meets]\njars = \"level\"\n\"Two words\" = []\n[map]",
            &[
                "l:4:8: meets.jars needs groups, such as [\"level\", \"jars\"]",
                "l:5:15: a key of [meets] is \"Two words\"; a group is a word of up to 16 letters a to z, digits, \"-\" and \"_\"",
            ],
        ),
        (
            "[map]",
            "[meets]\njars = [\"mist\"]\n[[prop]]\nat = [0, 0]\nsize = [4, 4]\ngroup = \"jars\"\n[map]",
            &[
                "l:5:1: the group \"jars\" meets no ground here: it would fall for ever; add \"level\" to jars in [meets]",
            ],
        ),
        (
            "[map]",
            "[[platform]]\nsize = [4, 4]\nroute = [[0, 0]]\nstarts_for = [\"jars\"]\ncrumbles_for = [\"jars\", 3]\n[map]",
            &[
                "l:6:14: platform 1.starts_for is of no use without starts = \"when-ridden\"",
                "l:7:16: platform 1.crumbles_for needs groups, such as [\"level\", \"jars\"]",
                "l:7:16: platform 1.crumbles_for is of no use without \"crumble\"",
            ],
        ),
        ("[map]", "[[zone]]\nat = [0, 0]\nsize = [4, 4]\n[map]", &["l:3:1: zone 1 needs a \"kind\", such as \"goal\""]),
        (
            "[map]",
            "[[zone]]\nid = \"door\"\nkind = \"goal\"\nat = [0, 0]\nsize = [4, 4]\n[[block]]\nid = \"door\"\nat = [0, 0]\nsize = [4, 4]\n[map]",
            &["l:4:6: there is another \"door\"; each id must be its own"],
        ),
    ];
    for (from, to, expected) in table {
        let errors = Level::parse("l", &changed(LEVEL, from, to)).expect_err(to);
        assert_eq!(lines(&errors), *expected, "{from} -> {to}");
    }
    assert_eq!(
        lines(&Level::parse("l", "").unwrap_err()),
        ["l:1:1: the section [map] is missing; its \"rows\" are the tiles, a letter each",]
    );
    assert_eq!(
        lines(&Level::parse("l", "[map]\nrows = ''").unwrap_err()),
        ["l:2:8: the map has no rows; draw it in letters, such as \".\" and \"#\"",]
    );
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
fn wrong_letters_blocks_and_ramps() {
    let table: &[(&str, &str)] = &[
        (
            "[letters]\n\"c\" = { surface = \"ramp\", left_height = \"2 tiles\", right_height = 0 }",
            "l:2:41: letters.c.left_height is 32 px; it must be from 0 to 16 px, the side of a tile",
        ),
        (
            "[letters]\n\"c\" = { surface = \"ramp\", left_height = 3 }",
            "l:2:7: [letters.c] has no \"right_height\"; it needs a length, such as \"3 tiles\" or \"48 px\"",
        ),
        (
            "[letters]\n\"c\" = { grip = 0.5 }",
            "l:2:16: letters.c.grip is of no use: \"c\" is empty, nothing stands on it",
        ),
        (
            "[letters]\n\"c\" = { surface = \"solid\", grip = -1 }",
            "l:2:35: letters.c.grip is -1; it must be from 0 to 1000",
        ),
        (
            "[letters]\n\"c\" = { surface = \"solid\", bounce = { height = 9, release = { style = \"cut\", keep = 3 } } }",
            "l:2:61: letters.c.bounce.release is out of bounds: keep is from 0 to 1, gravity_ratio above 0, times and \
             heights not below 0",
        ),
        (
            "[[block]]\nat = [\"1 px\"]\nsize = [1, 1]",
            "l:2:6: block 1.at must be a pair, a length and a length, such as [\"40 px\", \"2 tiles\"]",
        ),
        (
            "[[block]]\nat = [1, 1]\nsize = [1, -3]",
            "l:3:8: block 1.size is 1 x -3 px; both must be above 0, and at least 0.0009765625 px",
        ),
        (
            "[[block]]\nid = \"a b\"\nat = [0, 0]\nsize = [1, 3]",
            "l:2:6: \"a b\" is no id; it may have letters, digits, \"-\" and \"_\", at most 100",
        ),
        (
            "[[block]]\nid = \"a\"\nat = [0, 0]\nsize = [1, 3]\n[[block]]\nid = \"a\"\nat = [9, 0]\nsize = [1, 3]",
            "l:6:6: there is another \"a\"; each id must be its own",
        ),
        ("[block]\nat = 3", "l:1:1: block must be an array of sections, each headed [[block]]"),
        (
            "[[ramp]]\nfrom = [16, 32]\nto = [16, 48]",
            "l:3:6: a ramp from one place straight up or down is a wall; its ends need different columns",
        ),
        (
            "[[ramp]]\nfrom = [16, 32]",
            "l:1:1: ramp 1 has no \"to\"; it needs a pair, a length and a length, such as [\"40 px\", \"2 tiles\"]",
        ),
    ];
    for (added, expected) in table {
        let errors = Level::parse("l", &format!("{added}\n[map]\nrows = '''\n@..\n###\n'''")).expect_err(added);
        assert_eq!(lines(&errors), [*expected], "{added}");
    }
}

#[test]
fn wrong_platforms_and_props() {
    let platform = |lines: &str| format!("[[platform]]\nsize = [48, 8]\n{lines}");
    let table: &[(&str, &str)] = &[
        (
            "",
            "l:1:1: platform 1.route must be a list of places, such as [[\"2 tiles\", \"5 tiles\"], [\"96 px\", \
             \"80 px\"]]",
        ),
        (
            "route = [16, 32]",
            "l:3:9: platform 1.route must be a list of places, such as [[\"2 tiles\", \"5 tiles\"], [\"96 px\", \
             \"80 px\"]]",
        ),
        (
            "route = [[16, 32], [\"3 s\", 32]]\nspeed = 3",
            "l:3:21: \"3 s\" is a time; platform 1.route needs a length, such as \"3 tiles\" or \"48 px\"",
        ),
        (
            "route = [[16, 32], [48]]\nspeed = 3",
            "l:3:20: platform 1.route must be a pair, a length and a length, such as [\"40 px\", \"2 tiles\"]",
        ),
        (
            "route = [[16, 32], [48, 32]]",
            "l:1:1: platform 1 has a route but neither \"speed\", such as \"3 tiles/s\", nor \"trip\", such as \"2.5 s\"",
        ),
        (
            "route = [[16, 32], [48, 32]]\nspeed = 30\ntrip = 2",
            "l:5:8: platform 1 has a speed and a trip; one follows from the other: keep one",
        ),
        ("route = [[16, 32], [48, 32]]\nspeed = \"-1 tiles/s\"", "l:4:9: platform 1.speed must be above 0"),
        (
            "route = [[16, 32], [48, 32]]\nspeed = 900000",
            "l:1:1: platform 1: it would be too fast; the mean speed of a leg may be 666666 px/s",
        ),
        (
            "route = [[16, 32]]\nends = \"round\"",
            "l:4:8: platform 1.ends is \"round\"; it must be one of \"back-and-forth\", \"loop\", \"once\"",
        ),
        (
            "route = [[16, 32]]\nstarts = \"ridden\"",
            "l:4:10: platform 1.starts is \"ridden\"; did you mean \"when-ridden\"?",
        ),
        ("route = [[16, 32]]\nspede = 3", "l:4:1: unknown key \"spede\" in [platform 1]; did you mean \"speed\"?"),
        ("route = [[16, 32]]\nwait = -1", "l:1:1: platform 1: its wait must be from 0 to 1000000 s"),
        ("route = [[16, 32]]\ncrumble = { after = -1 }", "l:4:21: platform 1.crumble.after must not be below 0"),
        (
            "route = [[16, 32]]\nbounce = { height = 0 }",
            "l:4:21: platform 1.bounce.height is 0 px; it must be above 0 and at most 524288 px",
        ),
        ("route = [[600000, 32]]", "l:3:9: platform 1.route is beyond where coordinates end, 524288 px"),
        (
            "id = \"terrain\"\nroute = [[16, 32]]",
            "l:3:6: \"terrain\" is no id but a word of traces; add something to it, such as \"terrain-1\"",
        ),
        (
            "id = \"7\"\nroute = [[16, 32]]",
            "l:3:6: \"7\" is no id but a number; what has no id is called by its number",
        ),
        (
            "id = \"a\"\nroute = [[16, 32]]\n[[prop]]\nid = \"a\"\nat = [0, 0]\nsize = [1, 1]",
            "l:6:6: there is another \"a\"; each id must be its own",
        ),
        (
            "route = [[16, 32]]\n[[prop]]\nat = [0, 0]\nsize = [1, 1]\ngravity = 0",
            "l:7:11: prop 1.gravity must be above 0 and at most 1000000000000 px/s^2",
        ),
    ];
    for (added, expected) in table {
        let text = format!("{}\n[map]\nrows = '''\n@..\n###\n'''", platform(added));
        let errors = Level::parse("l", &text).expect_err(added);
        assert_eq!(lines(&errors), [*expected], "{added}");
    }
}

#[test]
fn what_cannot_start_is_told_with_its_name_and_place() {
    let map = "[map]\nrows = '''\n...\n@..\n###\n'''";
    let platform = "[[platform]]\nid = \"hoist\"\nsize = [30, 20.5]\nroute = [[0, 0]]\n";
    let prop = "[[prop]]\nid = \"clay\"\nat = [32, 20]\nsize = [16, 16]\n";
    let whole = format!("{TUNING}\n[tick]\npixels = \"whole\"");
    let table = [
        (
            platform,
            TUNING,
            "l:8:1: spawn at column 0, row 1 is inside platform hoist: the hitbox of 10 x 22 px overlaps it",
        ),
        (prop, TUNING, "l:1:1: prop clay: the hitbox would be inside the solid tile at column 2, row 2"),
        (
            &platform.replace("[[0, 0]]", "[[32, 0]]"),
            &whole,
            "l:8:1: spawn at column 0, row 1: the sides of platform hoist are not whole px; with pixels = \"whole\" they \
             must be",
        ),
        (
            "[meets]\napprentice = [\"level\"]\n",
            &format!("group = \"aprentice\"\n{TUNING}"),
            "l:1:1: the tuning's group is \"aprentice\", of which [meets] says nothing; did you mean \"apprentice\"?",
        ),
        (
            "[meets]\nghosts = [\"jars\"]\n",
            &format!("group = \"ghosts\"\n{TUNING}"),
            "l:1:1: the group \"ghosts\" meets no ground here: it would fall for ever; add \"level\" to ghosts in [meets]",
        ),
    ];
    for (added, tuning, expected) in table {
        let level = Level::parse("l", &format!("{added}{map}")).unwrap();
        let tuning = TuningFile::parse("t", tuning).unwrap();
        assert_eq!(level.world(&tuning.tuning).unwrap_err().to_string(), expected);
    }
}

#[test]
fn a_spawn_inside_a_block_is_told_with_the_blocks_name() {
    let text = "[[block]]\nid = \"bench\"\nat = [0, 0]\nsize = [30, 20]\n[map]\nrows = '''\n...\n@..\n###\n'''";
    let level = Level::parse("l", text).unwrap();
    let tuning = TuningFile::parse("t", TUNING).unwrap();
    let error = level.world(&tuning.tuning).unwrap_err().to_string();
    assert_eq!(error, "l:8:1: spawn at column 0, row 1 is inside block bench: the hitbox of 10 x 22 px overlaps it");
}

#[test]
fn several_faults_are_said_at_once_in_the_order_of_their_places() {
    let text = TUNING.replace("\"10 px\"", "\"10 s\"").replace("\"3 tiles\"", "-3").replace("name", "nmae");
    let errors = TuningFile::parse("t", &text).unwrap_err();
    let places: Vec<(usize, usize)> = errors.iter().map(|error| (error.line(), error.column())).collect();
    assert_eq!(places, [(1, 1), (5, 9)], "bounds are looked at when the rest can be read");
}

#[test]
fn a_spawn_inside_a_wall_is_an_error_with_its_place() {
    let dab = TuningFile::parse("t", TUNING).unwrap().tuning;
    let message = |text: &str| Level::parse("l", text).unwrap().world(&dab).unwrap_err().to_string();
    assert_eq!(
        message(&LEVEL.replacen("......\n.@", "##....\n.@", 1)),
        "l:7:2: spawn at column 1, row 2 is inside a solid tile: the hitbox of 10 x 22 px overlaps the one at column 1, row 1"
    );
    let wide = TUNING.replace("\"10 px\"", "\"50 px\"");
    let wide = TuningFile::parse("t", &wide).unwrap().tuning;
    assert_eq!(
        Level::parse("l", LEVEL).unwrap().world(&wide).unwrap_err().to_string(),
        "l:7:2: spawn at column 1, row 2 is inside the solid left edge of the map: the hitbox of 50 x 22 px reaches beyond it"
    );
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
