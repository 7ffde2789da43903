//! Wrong levels, each with the exact message it gets.

mod wrong;

use wrong::{LEVEL, TUNING, changed, lines};
use wumple::{Level, TuningFile};

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

/// A level with a round: of each row something is replaced.
const ROUND: &str = "next = \"none\"\n[round]\nhealth = 3\nlives = 3\nspared_for = \"0.8 s\"\ngoal_needs = { pickups = 2 }\n\
    defeat = { motion = \"falls\", shows_for = \"0.5 s\" }\n[letters]\n\"k\" = { zone = \"pickup\", gives = \"key\" }\n\
    \"G\" = { surface = \"solid\", needs = \"key\" }\n\"v\" = { zone = \"hazard\", damage = 2 }\n[map]\nrows = '''\n........\n@k*vG+.!\n########\n'''\n";

#[test]
fn wrong_rounds() {
    Level::parse("room", ROUND).unwrap();
    const WORTH: &str = "\"k\" = { zone = \"pickup\", worth = -1 }";
    let table: &[(&str, &str, &str)] = &[
        ("health = 3", "health = 0", "room:3:10: round.health must be a whole number from 1 to 1000000"),
        ("lives = 3", "lives = 2.5", "room:4:9: round.lives must be a whole number from 1 to 1000000"),
        ("\"0.8 s\"", "\"-1 s\"", "room:5:14: round.spared_for is -1 s; it must be from 0 to 3600 s"),
        (
            "\"0.8 s\"",
            "\"2 tiles\"",
            "room:5:14: \"2 tiles\" is a length; round.spared_for needs a time, such as \"0.1 s\" or \"6 frames\"",
        ),
        ("lives = 3", "live = 3", "room:4:1: unknown key \"live\" in [round]; did you mean \"lives\"?"),
        ("\"falls\"", "\"fall\"", "room:7:21: round.defeat.motion is \"fall\"; did you mean \"falls\"?"),
        (
            "{ pickups = 2 }",
            "{ pickups = 3 }",
            "room:6:14: 3 pickups are asked for, and the level has 2: this can never be",
        ),
        (
            "{ pickups = 2 }",
            "{ has = \"kee\" }",
            "room:6:14: nothing in the level gives \"kee\"; did you mean \"key\"?",
        ),
        (
            "{ pickups = 2 }",
            "{ pickups = 2, has = \"key\" }",
            "room:6:14: round.goal_needs is either { pickups = 8 } or { has = \"key\" }",
        ),
        ("{ pickups = 2 }", "2", "room:6:14: round.goal_needs needs an item, such as \"key\", or { pickups = 8 }"),
        (
            "gives = \"key\"",
            "gives = \"Key\"",
            "room:9:34: letters.k.gives is \"Key\"; an item is a word of up to 16 letters a to z, digits, \"-\" and \"_\"",
        ),
        (
            "needs = \"key\"",
            "needs = \"rope\"",
            "room:10:36: nothing in the level gives \"rope\"; some pickup needs gives = \"rope\"",
        ),
        (
            "needs = \"key\"",
            "needs = { pickups = 1 }, takes = true",
            "room:10:61: letters.G.takes uses up what is needed, which must be an item, such as needs = \"key\"; pickups are counted, not used up",
        ),
        (
            "damage = 2",
            "worth = 2",
            "room:11:34: letters.v.worth is of no use here; it is of pickups, zone = \"pickup\"",
        ),
        (
            "damage = 2",
            "needs = \"key\"",
            "room:11:34: letters.v.needs is of no use here; it is of pickups, goals, and solid letters, blocks and platforms, which are gates then",
        ),
        (
            "\"k\" = { zone = \"pickup\", gives = \"key\" }",
            WORTH,
            "room:9:34: letters.k.worth must be a whole number from 0 to 1000000",
        ),
        ("health = 3\n", "", "room:10:35: damage is of no use without round.health: every hazard defeats at once"),
        (
            "########",
            "#####.##",
            "room:15:6: there is nothing beneath this checkpoint to stand on: whoever starts again here falls",
        ),
        (
            "vG+",
            "^vG",
            "room:15:5: \"v\" is one zone here with the \"^\" that it touches, and says something else; leave a tile between them, or give one of them another kind of its own",
        ),
        (
            "next = \"none\"",
            "next = \"kiln\"",
            "room:1:8: next is \"kiln\"; it is a level, whose name ends in .toml, or \"none\" for the last",
        ),
    ];
    let mut unmet = Vec::new();
    for (from, to, expected) in table {
        let text = changed(ROUND, from, to);
        let errors = Level::parse("room", &text).expect_err(&text);
        if !lines(&errors).contains(&(*expected).to_owned()) {
            unmet.push(format!("{from} -> {to}\nexpected {expected}\n{errors}"));
        }
    }
    assert!(unmet.is_empty(), "{}", unmet.join("\n\n"));
}

#[test]
fn what_zones_say_for_a_round_needs_one() {
    let text =
        ROUND.replace("[round]\nhealth = 3\nlives = 3\nspared_for = \"0.8 s\"\ngoal_needs = { pickups = 2 }\n", "");
    let text = text.replace("defeat = { motion = \"falls\", shows_for = \"0.5 s\" }\n", "");
    let errors = Level::parse("room", &text).unwrap_err();
    let words = "what zones say for a round is of no use without a section [round]; it may be empty";
    assert!(lines(&errors)[0].ends_with(words), "{errors}");
}

#[test]
fn a_gate_of_things_off_the_grid_and_of_a_kind_of_its_own() {
    let more = "[[block]]\nid = \"bars\"\nat = [\"4 tiles\", \"0 px\"]\nsize = [\"8 px\", \"16 px\"]\nneeds = \"key\"\ntakes = true\n\
        [[platform]]\nid = \"grate\"\nsize = [\"1 tiles\", \"6 px\"]\nroute = [[\"6 tiles\", \"0 px\"]]\nzone = \"grate\"\nneeds = { pickups = 2 }\n";
    let level = Level::parse("room", &format!("{ROUND}{more}")).unwrap();
    let gates: Vec<String> = level.round.unwrap().rules.gates().iter().map(|gate| level.names.zone(*gate)).collect();
    assert_eq!(gates, ["gate@4,1", "gate:bars", "grate:grate"]);
    let prop = "[[prop]]\nat = [\"6 tiles\", \"0 px\"]\nsize = [\"8 px\", \"8 px\"]\nneeds = \"key\"\n";
    let errors = Level::parse("room", &format!("{ROUND}{prop}")).unwrap_err();
    assert!(lines(&errors)[0].contains("prop 1.needs is of no use here"), "{errors}");
}

#[test]
fn routes_bend_and_are_eased_as_it_is_written() {
    use wumple::numbers::{Bend, EaseOver};
    let level = |keys: &str| {
        Level::parse(
            "l",
            &format!("{LEVEL}[[platform]]\nsize = [16, 8]\nroute = [[0, 0], [30, 0], [30, 20]]\nspeed = 30\n{keys}\n"),
        )
    };
    let round = level("bend = \"round\"\nease = \"smooth\"\nease_over = \"trip\"").unwrap();
    assert_eq!((round.platforms[0].bend, round.platforms[0].ease_over), (Bend::Round, EaseOver::Trip));
    let plain = level("").unwrap();
    assert_eq!((plain.platforms[0].bend, plain.platforms[0].ease_over), (Bend::Straight, EaseOver::Leg));
    let words = |keys: &str| lines(&level(keys).unwrap_err());
    assert_eq!(
        words("ease_over = \"trip\""),
        ["l:14:13: platform 1.ease_over is given, but nothing is eased; give ease = \"smooth\" as well, or remove it"]
    );
    assert_eq!(words("bend = \"rond\""), ["l:14:8: platform 1.bend is \"rond\"; did you mean \"round\"?"]);
}

#[test]
fn cameras_are_read_and_wrong_ones_say_why() {
    let level = |keys: &str| Level::parse("l", &format!("{LEVEL}[camera]\n{keys}\n"));
    let right = level(
        "view = [320, 180]\nfollow = \"only-up\"\nstill = [\"2 tiles\", 0]\nahead = \"1 tile\"\nlimits = \"none\"",
    );
    let camera = right.unwrap().camera.unwrap();
    assert_eq!((camera.view.x, camera.still.x, camera.ahead, camera.within_level), (320.0, 32.0, 16.0, false));
    let words = |keys: &str| lines(&level(keys).unwrap_err());
    assert_eq!(
        words("view = [320, 180]\nfolow = \"both\""),
        ["l:12:1: unknown key \"folow\" in [camera]; did you mean \"follow\"?"]
    );
    assert_eq!(
        words("view = [320, 180]\nahead = 100"),
        ["l:10:1: [camera]: it must look ahead by 0 to half of the view, in a time above 0"]
    );
    assert_eq!(words("view = [320, 180]\nfollow = \"up\"").len(), 1);
    assert_eq!(
        words("view = [320, 180]\nfollow = \"sideways\"\nbehind = \"deadly\""),
        [
            "l:10:1: [camera]: only what never goes back leaves something behind that can be deadly: follow = \"only-right\", or another way"
        ]
    );
    assert!(
        level("view = [320, 180]\nfollow = \"only-down\"\nbehind = \"deadly\"").unwrap().camera.unwrap().deadly_behind
    );
    assert!(!level("view = [320, 180]\nbehind = \"open\"").unwrap().camera.unwrap().deadly_behind);
    assert!(words("follow = \"both\"")[0].contains("camera has no \"view\""), "{:?}", words("follow = \"both\""));
}
