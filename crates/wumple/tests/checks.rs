//! What is found before a run: each finding has a small level, or tuning, that has it, and one that has it not.

use std::path::Path;

use wumple::analysis::{Finding, FindingKind, check_level, check_links, check_named_files, check_run, check_tuning};
use wumple::{Level, TrialFile, TuningFile, demo};

const TUNING: &str = "[body]\nwidth = \"10 px\"\nheight = \"22 px\"\n[run]\ntop_speed = \"7.5 tiles/s\"\n\
    [fall]\ntop_speed = \"16 tiles/s\"\n[jump]\nheight = \"3.4 tiles\"\ntime_to_apex = \"0.36 s\"\n";

fn level(text: &str) -> Level {
    Level::parse("room.level.toml", text).unwrap_or_else(|error| panic!("{error}\n{text}"))
}

fn tuning(more: &str) -> TuningFile {
    TuningFile::parse("dab.tuning.toml", &format!("{TUNING}{more}")).unwrap_or_else(|error| panic!("{error}"))
}

/// A room of these rows, with more before its map.
fn room(more: &str, rows: &[&str]) -> String {
    format!("{more}\n[map]\nrows = '''\n{}\n'''\n", rows.join("\n"))
}

fn kinds(found: &[Finding]) -> Vec<&'static str> {
    found.iter().map(|finding| finding.kind.word()).collect()
}

#[test]
fn each_finding_of_levels_is_found_where_it_is_and_nowhere_else() {
    let plain = tuning("");
    let climber = tuning("[ladder]\nup_speed = \"4 tiles/s\"\ndown_speed = \"4 tiles/s\"\n");
    let springer = TuningFile::parse(
        "ball.tuning.toml",
        "[body]\nwidth = \"10 px\"\nheight = \"10 px\"\n[run]\ntop_speed = \"7 tiles/s\"\n[fall]\ngravity = \"50 tiles/s^2\"\n",
    )
    .unwrap();
    let slab = |back: &str| {
        format!(
            "[[platform]]\nid = \"slab\"\nsize = [\"2 tiles\", \"6 px\"]\nroute = [[\"8 tiles\", \"2 tiles\"]]\n\
             crumble = {{ after = \"0.3 s\"{back} }}"
        )
    };
    let cart = |row: u32, to: &str| {
        format!(
            "[[platform]]\nid = \"cart\"\nsize = [\"2 tiles\", \"6 px\"]\nroute = [[\"1 tiles\", \"{row} tiles\"], [\"{to}\", \"{row} \
             tiles\"]]\nspeed = \"2 tiles/s\""
        )
    };
    let zone = |at: &str| format!("[[zone]]\nkind = \"goal\"\nat = [{at}]\nsize = [\"8 px\", \"8 px\"]");
    let camera = |rest: &str| format!("[camera]\nview = [\"4 tiles\", \"3 tiles\"]\n{rest}");
    let tall = [".....*..", "........", "........", "........", "@.......", "########"];
    let bounce = "[letters]\nB = { surface = \"one-way\", bounce = { height = \"3 tiles\" } }";
    // Of each kind: who goes there, a level that has it, and one that has it not.
    let table: Vec<(FindingKind, &TuningFile, String, String)> = vec![
        (
            FindingKind::SpawnInHazard,
            &plain,
            room(
                "[[zone]]\nkind = \"hazard\"\nat = [\"16 px\", \"0 px\"]\nsize = [\"8 px\", \"16 px\"]",
                &[".@.", "###"],
            ),
            room(
                "[[zone]]\nkind = \"hazard\"\nat = [\"40 px\", \"0 px\"]\nsize = [\"8 px\", \"16 px\"]",
                &[".@.", "###"],
            ),
        ),
        (FindingKind::SpawnOverNothing, &plain, room("", &[".@.", "...", "#.#"]), room("", &[".@.", "...", "##."])),
        (
            FindingKind::OpenEdge,
            &plain,
            room("[edges]\nbottom = \"open\"", &[".@..", "##.#"]),
            room("[edges]\nbottom = \"open\"", &[".@..", "####"]),
        ),
        (FindingKind::NoGoal, &plain, room("[round]", &[".@..", "####"]), room("[round]", &[".@.!", "####"])),
        (
            FindingKind::GoalClosedForEver,
            &plain,
            room(
                "[round]\ngoal_needs = { pickups = 2 }\n[letters]\nc = { zone = \"pickup\", needs = { pickups = 2 } }",
                &["@*c!", "####"],
            ),
            room(
                "[round]\ngoal_needs = { pickups = 2 }\n[letters]\nc = { zone = \"pickup\", needs = { pickups = 1 } }",
                &["@*c!", "####"],
            ),
        ),
        (
            FindingKind::ZoneNeverFelt,
            &plain,
            room(&zone("\"20 px\", \"20 px\""), &[".@..", "####"]),
            room(&zone("\"20 px\", \"12 px\""), &[".@..", "####"]),
        ),
        (
            FindingKind::CheckpointOverHazard,
            &plain,
            room("[round]", &[".....", "@.+.!", "##^##", "#####"]),
            room("[round]", &[".....", "@+..!", "##^##", "#####"]),
        ),
        (
            FindingKind::LadderTooShort,
            &climber,
            room("", &[".....", ".....", "..##.", "..##.", "..##.", "..##.", "..##.", ".H##.", "@H##.", "#####"]),
            room("", &[".....", ".....", "..##.", "..##.", ".H##.", ".H##.", ".H##.", ".H##.", "@H##.", "#####"]),
        ),
        (
            FindingKind::LadderBlocked,
            &climber,
            room("", &[".....", ".###.", ".H##.", ".H##.", "@H##.", "#####"]),
            room("", &[".....", ".....", ".H##.", ".H##.", "@H##.", "#####"]),
        ),
        (
            FindingKind::SlabNeverBack,
            &plain,
            room(&slab(""), &["..................", ".@................", "####..........####", "####..........####"]),
            room(
                &slab(", back_after = \"1 s\""),
                &["..................", ".@................", "####..........####", "####..........####"],
            ),
        ),
        (
            FindingKind::DeadTop,
            &springer,
            room(bounce, &[".......", "..===..", ".......", "..BB...", "@......", "#######"]),
            room(bounce, &[".......", "..BBB..", ".......", "..BB...", "@......", "#######"]),
        ),
        (
            FindingKind::RouteThroughSolid,
            &plain,
            room(&cart(2, "7 tiles"), &[".........", ".@.......", "....#....", "#########"]),
            room(&cart(1, "7 tiles"), &[".........", ".........", "@...#....", "#########"]),
        ),
        (
            FindingKind::RouteOutsideMap,
            &plain,
            room(&cart(0, "12 tiles"), &[".........", ".........", "@........", "#########"]),
            room(&cart(0, "7 tiles"), &[".........", ".........", "@........", "#########"]),
        ),
        (
            FindingKind::OddLevel,
            &plain,
            room("[[block]]\nat = [\"20 tiles\", \"0 px\"]\nsize = [\"8 px\", \"8 px\"]", &[".@..", "####"]),
            room("[[block]]\nat = [\"2 tiles\", \"0 px\"]\nsize = [\"8 px\", \"8 px\"]", &[".@..", "####"]),
        ),
        (
            FindingKind::TightPassage,
            &plain,
            room("", &["......", "......", "..####", "@..*..", "######"]),
            room("", &["......", "..####", "......", "@..*..", "######"]),
        ),
        (
            FindingKind::OutOfReach,
            &plain,
            room("", &["......", "....!.", "......", "......", "......", "......", "@.....", "######"]),
            room("", &["......", "......", "......", "......", "....!.", "......", "@.....", "######"]),
        ),
        // A pickup above a view that goes sideways alone; one behind a view that never goes back.
        (FindingKind::OutOfView, &plain, room(&camera("follow = \"sideways\""), &tall), room(&camera(""), &tall)),
        (
            FindingKind::OutOfView,
            &plain,
            room(&camera("follow = \"only-right\""), &["*..#.@......", "...#########"]),
            room(&camera("follow = \"only-right\""), &["@..........*", "############"]),
        ),
        // A shelf that a view never goes up to.
        (
            FindingKind::OutOfView,
            &plain,
            room(&camera("follow = \"sideways\""), &["....", "..==", "....", "....", "....", "@...", "####"]),
            room(&camera("follow = \"upright\""), &["....", "..==", "....", "....", "....", "@...", "####"]),
        ),
        // The hitbox is 10 px wide and the view 64: half of what is beside the still box must hold half of it.
        (
            FindingKind::OutOfView,
            &plain,
            room(&camera("still = [\"55 px\", \"0 px\"]"), &["@.......", "########"]),
            room(&camera("still = [\"54 px\", \"0 px\"]"), &["@.......", "########"]),
        ),
        (
            FindingKind::OutOfView,
            &plain,
            room(&camera("still = [\"20 px\", \"0 px\"]\nahead = \"18 px\""), &["@.......", "########"]),
            room(&camera("still = [\"20 px\", \"0 px\"]\nahead = \"17 px\""), &["@.......", "########"]),
        ),
    ];
    for (kind, tuning, bad, good) in &table {
        let found = check_level(&level(bad), Some(tuning));
        assert_eq!(kinds(&found), [kind.word()], "{bad}\n{found:?}");
        let finding = &found[0];
        assert!(!finding.leads_to.is_empty() && !finding.remedy.is_empty(), "{finding}");
        let found = check_level(&level(good), Some(tuning));
        assert_eq!(kinds(&found), [] as [&str; 0], "{good}");
    }
}

#[test]
fn each_finding_of_tunings_is_found() {
    let wall = |same: &str| {
        format!(
            "[wall.jump]\nheight = \"3.4 tiles\"\npush_speed = \"4 tiles/s\"\nsteer_lock = \"0 s\"\nsame_wall = {same}\n"
        )
    };
    let pose = |name: &str, rest: &str| format!("[[pose]]\nname = \"{name}\"\n{rest}\n");
    let idle = pose("idle", "");
    let climbs = "[ladder]\nup_speed = \"4 tiles/s\"\ndown_speed = \"4 tiles/s\"\n".to_owned();
    let on_ladder = pose("ladder", "when = { state = \"ladder\", moved = true }");
    let rest = pose("rest", "when = { state = [\"stand\", \"run\", \"rise\", \"fall\"] }");
    let run = |advance: &str| pose("run", &format!("when = {{ state = \"run\" }}\npictures = 4\n{advance}"));
    let picture = |width: u32, down: i32| format!("[picture]\nwidth = {width}\nheight = 22\ndown = {down}\n");
    let table = [
        (FindingKind::WallClimbedForEver, wall("true"), wall("false")),
        (FindingKind::PictureOff, picture(30, 0), picture(12, 0)),
        (FindingKind::PictureOff, picture(10, -2), picture(10, 0)),
        (FindingKind::PictureOff, picture(6, 0), picture(10, 0)),
        (FindingKind::StateWithoutPose, run("stride = 8"), run("stride = 8") + &idle),
        (FindingKind::StateWithoutPose, climbs.clone() + &on_ladder + &rest, climbs + &on_ladder + &idle),
        (FindingKind::StateWithoutPose, pose("up", "when = { support = false }"), idle.clone()),
        (
            FindingKind::StateWithoutPose,
            pose("left", "when = { facing = \"left\" }"),
            pose("left", "when = { facing = \"left\" }") + &pose("right", "when = { facing = \"right\" }"),
        ),
        (FindingKind::FeetSlide, run("pace = 10") + &idle, run("stride = 12") + &idle),
    ];
    for (kind, bad, good) in table {
        let found = check_tuning(&tuning(&bad));
        assert!(!found.is_empty() && found.iter().all(|finding| finding.kind == kind), "{bad}\n{found:?}");
        assert_eq!(kinds(&check_tuning(&tuning(&good))), [] as [&str; 0], "{good}");
    }
    let one_way = check_tuning(&tuning(&pose("left", "when = { facing = \"left\" }")));
    assert_eq!(one_way[0].place.message(), "no pose is to be shown in state stand, looking right");
    let none = check_tuning(&tuning(&run("stride = 8")));
    assert_eq!(none[0].place.message(), "no pose is to be shown in state stand");
    let slow = TUNING.replace("7.5 tiles/s", "12 px/s");
    let found = check_tuning(&TuningFile::parse("slow.tuning.toml", &slow).unwrap());
    assert_eq!(kinds(&found), ["other-unit"]);
    assert_eq!(found[0].place.line(), 5);
}

#[test]
fn a_wall_that_pushes_off_for_long_enough_is_not_climbed_for_ever() {
    let kind = "[wall.jump]\nheight = \"1 tiles\"\npush_speed = \"12 tiles/s\"\nsteer_lock = \"0.5 s\"\n";
    assert_eq!(kinds(&check_tuning(&tuning(kind))), [] as [&str; 0]);
}

#[test]
fn broken_links_are_found_at_their_line() {
    let folder = tempfile::tempdir().unwrap();
    let write = |name: &str, next: &str| {
        let path = folder.path().join(name);
        std::fs::write(&path, format!("name = \"Room\"\n{next}\n[map]\nrows = '''\n@..\n###\n'''\n")).unwrap();
        path
    };
    let missing = write("a.level.toml", "next = \"nowhere.level.toml\"");
    let last = write("c.level.toml", "next = \"none\"");
    let to_last = write("b.level.toml", "next = \"c.level.toml\"");
    let to_itself = write("d.level.toml", "next = \"d.level.toml\"");
    write("e.level.toml", "nxt = 3");
    let to_wrong = write("f.level.toml", "next = \"e.level.toml\"");
    let found = |path: &Path| check_links(&Level::read(path).unwrap(), path);
    let table = [(&missing, 2, "cannot be read"), (&to_itself, 2, "leads back to"), (&to_wrong, 2, "unknown key")];
    for (path, line, words) in table {
        let found = found(path);
        assert_eq!(kinds(&found), ["broken-link"], "{}", path.display());
        assert_eq!(found[0].place.line(), line, "{}", found[0]);
        assert!(found[0].to_string().contains(words), "{}", found[0]);
    }
    for right in [&to_last, &last] {
        assert!(found(right).is_empty(), "{}", right.display());
    }
}

#[test]
fn files_that_are_named_and_not_there_are_found_at_their_line() {
    let folder = tempfile::tempdir().unwrap();
    let write = |name: &str, text: &str| {
        let path = folder.path().join(name);
        std::fs::write(&path, text).unwrap();
        path
    };
    let trial = write(
        "t.trial.toml",
        "level = \"nowhere.level.toml\"\ntuning = \"dab.tuning.toml\"\npress = \"0 right\"\n[[expect]]\nstate = \"run\"\n",
    );
    let map = write("m.level.toml", "[map]\ncsv = \"rooms.csv\"\n");
    write("dab.tuning.toml", TUNING);
    for (path, line, named) in [(&trial, 1, "nowhere.level.toml"), (&map, 2, "rooms.csv")] {
        let found = check_named_files(path);
        assert_eq!(kinds(&found), ["broken-link"], "{}", path.display());
        assert_eq!(found[0].place.line(), line);
        assert!(found[0].place.message().ends_with(&format!("{named} is not there")), "{}", found[0]);
    }
    write("nowhere.level.toml", "anything");
    write("rooms.csv", "@");
    assert!(check_named_files(&trial).is_empty() && check_named_files(&map).is_empty());
    assert!(check_named_files(&folder.path().join("no.trial.toml")).is_empty());
}

/// As a person reads it, and as a program does.
#[test]
fn a_finding_says_where_what_it_leads_to_and_what_would_be_right() {
    let found = check_level(&level(&room("[edges]\nbottom = \"open\"", &[".@..", "##.#"])), None);
    assert_eq!(
        found[0].to_string(),
        "room.level.toml:1:1: open-edge: the bottom edge is open, and nothing is in column 2\n    \
         leads to: whoever falls there falls until coordinates end: neither caught nor defeated\n    \
         right: bottom = \"deadly\" in [edges], or \"solid\""
    );
    let columns = found[0].columns();
    assert_eq!((columns.kind, columns.line, columns.file), ("open-edge", 1, "room.level.toml"));
}

/// A trial of these files, which expects something or other.
fn trial(folder: &Path, tuning: &str, level: &str, buttons: &str) -> TrialFile {
    let write = |name: &str, text: &str| std::fs::write(folder.join(name), text).unwrap();
    write("dab.tuning.toml", tuning);
    write("room.level.toml", level);
    write("room.buttons", buttons);
    write(
        "room.trial.toml",
        "level = \"room.level.toml\"\ntuning = \"dab.tuning.toml\"\nbuttons = \"room.buttons\"\nticks = 120\n\
         [[expect]]\nstate = \"stand\"\nat = 0\n",
    );
    TrialFile::read(&folder.join("room.trial.toml")).unwrap_or_else(|error| panic!("{error}"))
}

#[test]
fn who_leaves_the_view_in_the_run_of_a_trial_is_found() {
    let folder = tempfile::tempdir().unwrap();
    let rows = ["....................", "@...................", "####################"];
    let camera = |rest: &str| room(&format!("[camera]\nview = [\"4 tiles\", \"3 tiles\"]\n{rest}"), &rows);
    let table = [
        ("follow = \"upright\"", "0 right", Some("in tick 31 the character leaves the view at the right")),
        ("", "0 right", None),
        ("follow = \"only-right\"", "0 right; 60 left", Some("in tick 78 the character leaves the view at the left")),
        // That is meant.
        ("follow = \"only-right\"\nbehind = \"deadly\"", "0 right; 60 left", None),
    ];
    for (rest, buttons, expected) in table {
        let trial = trial(folder.path(), TUNING, &camera(rest), &buttons.replace("; ", "\n"));
        let found = check_run(&trial).unwrap();
        let what: Vec<&str> = found.iter().map(|finding| finding.place.message()).collect();
        assert_eq!(what, expected.into_iter().collect::<Vec<_>>(), "{rest}");
        assert!(found.iter().all(|finding| finding.place.file().ends_with("room.trial.toml")));
    }
}

#[test]
fn a_pose_that_is_shown_for_one_tick_of_a_trial_is_found() {
    let folder = tempfile::tempdir().unwrap();
    let poses = |runs: &str| {
        format!(
            "{TUNING}[[pose]]\nname = \"run\"\nwhen = {{ state = {runs} }}\n\
             [[pose]]\nname = \"up\"\nwhen = {{ state = \"rise\" }}\n[[pose]]\nname = \"rest\"\n"
        )
    };
    let level = room("", &["@.......", "########"]);
    // It runs for one tick before it jumps.
    let script = "0 -\n20 right\n21 right jump\n40 right";
    let found = check_run(&trial(folder.path(), &poses("\"run\""), &level, script)).unwrap();
    assert_eq!(kinds(&found), ["pose-flashes"], "{found:?}");
    assert_eq!(found[0].place.message(), "pose run is shown for one tick, 20, between rest and up");
    assert!(found[0].remedy.contains("state run"), "{}", found[0].remedy);
    let found = check_run(&trial(folder.path(), &poses("[\"run\", \"stand\"]"), &level, script)).unwrap();
    assert_eq!(kinds(&found), [] as [&str; 0]);
}

#[test]
fn the_kilnworks_have_nothing_to_be_found() {
    let climbing = TuningFile::parse("climbing-dab", demo::CLIMBING_DAB).unwrap();
    for room in demo::ROOMS {
        let level = Level::parse(room.name, room.level).unwrap();
        let found = check_level(&level, Some(&climbing));
        assert!(found.is_empty(), "{}: {found:?}", room.name);
    }
    for other in &demo::OTHERS {
        let tuning = TuningFile::parse(other.name, other.tuning).unwrap();
        let level = Level::parse(other.room.name, other.room.level).unwrap();
        let found = [check_level(&level, Some(&tuning)), check_tuning(&tuning)].concat();
        assert!(found.is_empty(), "{}: {found:?}", other.name);
    }
    for text in [demo::DAB, demo::CLIMBING_DAB] {
        let found = check_tuning(&TuningFile::parse("dab", text).unwrap());
        assert!(found.is_empty(), "{found:?}");
    }
}
