//! What the figures say, and that they say it the same way every time.
#![cfg(feature = "figures")]

use std::sync::OnceLock;

use wumple::analysis::{
    ComparedRun, GameLoop, Measure, Over, PassBounds, ReachReport, ReachSettings, TrialOutcome, level_arcs,
    match_recording, reach, vary,
};
use wumple::figures::{
    Figure, Page, TileArea, arcs_figure, body_figure, compare_figure, compare_time_figure, level_arcs_figure,
    level_figure, match_figure, reach_figure, ride_figure, run_figure, run_time_figure, time_figure, trial_figure,
    vary_figure,
};
use wumple::files::{Recording, RecordingUnits};
use wumple::numbers::Scheme;
use wumple::units::{Quantity, Scale};
use wumple::{ButtonsFile, Level, MoverId, TrialFile, TuningFile, arcs, compare, demo};

fn figures() -> [Figure; 20] {
    let dab = TuningFile::parse("dab", demo::DAB).unwrap();
    let level = Level::parse("room", demo::THROWING_ROOM).unwrap();
    let buttons = ButtonsFile::parse("buttons", demo::THROWING_ROOM_BUTTONS, &dab.scale).unwrap();
    let trace = wumple::run(&level, &dab.tuning, &buttons.at_rate(60.0).unwrap().0, 280).unwrap();
    let climbing = TuningFile::parse("climbing", demo::CLIMBING_DAB).unwrap();
    let [_, store, racks, _, slip, yard, loft, ..] = demo::ROOMS.map(|room| {
        let level = Level::parse(room.name, room.level).unwrap();
        let timeline = ButtonsFile::parse(room.name, room.buttons, &climbing.scale).unwrap().at_rate(60.0).unwrap().0;
        let trace = wumple::run(&level, &climbing.tuning, &timeline, 600).unwrap();
        (level, timeline, trace)
    });
    let [compared, compared_over_time] = compared(&level, &dab);
    [
        arcs_figure(&arcs([&dab])),
        level_figure(&level, Some(&dab), &Page::default()),
        run_figure(&level, &dab, &trace, &[], &Page::default()),
        time_figure(&arcs([&dab])),
        level_arcs_figure(&level, &level_arcs(&level, &dab, (9, 13)).unwrap(), &Page::default()),
        body_figure(&climbing),
        run_time_figure(&store.0, &climbing, &store.2, &store.1, &[]),
        run_figure(&racks.0, &climbing, &racks.2, &[], &Page::default()),
        level_figure(&slip.0, None, &Page::default()),
        run_figure(&yard.0, &climbing, &yard.2, &[], &Page::default()),
        level_figure(&loft.0, Some(&climbing), &Page::default()),
        run_time_figure(&yard.0, &climbing, &yard.2, &yard.1, &[]),
        ride_figure(&yard.0, &climbing, &yard.2, MoverId::Platform(1)).unwrap(),
        compared,
        compared_over_time,
        trial_figure(&failed_trial()),
        closed_room(),
        matched(),
        varied(&["jump.height = 2..5 tiles, 13"], "full:air_time", "0.8 s"),
        varied(&["jump.height = 2..5 tiles, 13", "run.top_speed = 4..10 tiles/s, 7"], "running:reach", "5 tiles"),
    ]
}

fn matched() -> Figure {
    let scale = Scale { tile: 16.0, frames_per_second: 60.0 };
    let units = RecordingUnits { y_down: true, ..RecordingUnits::new(60.0, &scale) };
    let recording = Recording::parse("practice.csv", demo::PRACTICE, &units).unwrap();
    let looped = GameLoop { rate: 60.0, scheme: Scheme::VelocityFirst, scale };
    match_figure(&recording, &match_recording(&recording, &looped).unwrap())
}

fn varied(over: &[&str], measure: &str, at_least: &str) -> Figure {
    let dab = TuningFile::parse("dab", demo::DAB).unwrap();
    let over: Vec<Over> = over.iter().map(|over| Over::parse(over).unwrap()).collect();
    let bounds = PassBounds { at_least: Some(Quantity::parse(at_least).unwrap()), at_most: None };
    vary_figure(&vary(&dab, &over, &Measure::arc(measure).unwrap(), &bounds, |_| true).unwrap())
}

/// What the Throwing room has for who falls too quickly, with the changes that would do.
fn closed_room() -> Figure {
    let level = Level::parse("room", demo::THROWING_ROOM).unwrap();
    let quick = TuningFile::parse("quick", demo::QUICK_FALL).unwrap();
    static REPORT: OnceLock<ReachReport> = OnceLock::new();
    let report = REPORT.get_or_init(|| {
        let mut settings = ReachSettings::default();
        (settings.changes, settings.most_ticks) = (true, 400_000);
        settings.only = ["goal", "pickup", "top@17-22,8", "top@26-29,6"].map(str::to_owned).to_vec();
        reach(&level, &quick, &settings, |_| true).unwrap()
    });
    reach_figure(&level, &quick, report, &Page::default())
}

/// A press two ticks after an edge, with coyote time, without it, and as a trace that was read back.
fn compared(level: &Level, dab: &TuningFile) -> [Figure; 2] {
    let strict = TuningFile::parse("strict", demo::QUICK_FALL).unwrap();
    let timeline = ButtonsFile::parse("late", demo::TOO_LATE_BUTTONS, &dab.scale).unwrap().at_rate(60.0).unwrap().0;
    let run = |tuning: &TuningFile| ComparedRun::of_tuning(level, tuning, &timeline, 240).unwrap();
    let (strict, dab) = (run(&strict), run(dab));
    let kept = ComparedRun::of_trace("kept", dab.trace.clone());
    let runs = [strict, dab, kept];
    let comparison = compare(&runs, 16.0);
    [
        compare_figure(level, &runs, &comparison, &Page::default()),
        compare_time_figure(&runs, &comparison, Some(&timeline), 16.0),
    ]
}

fn failed_trial() -> TrialOutcome {
    let text = demo::TRIALS[1].1.replace("at = 84", "at = 90");
    TrialFile::parse("demo/too-late.trial.toml", &text).unwrap().run().unwrap()
}

/// The texts of a drawing, in their order.
fn words(figure: &Figure) -> Vec<&str> {
    figure.svg().split("</text>").filter_map(|part| part.rsplit('>').next()).map(str::trim).collect()
}

/// The words of a figure, with a stroke around each text.
fn all_words(figure: &Figure) -> String {
    format!("|{}|", words(figure).join("|"))
}

#[test]
fn the_same_input_gives_the_same_bytes() {
    for (one, other) in figures().iter().zip(&figures()) {
        assert_eq!(one.svg(), other.svg());
        assert_eq!(one.png().unwrap(), other.png().unwrap());
    }
}

#[test]
fn the_figures_say_what_they_show() {
    let [
        arcs,
        level,
        run,
        time,
        from,
        body,
        over_time,
        climb,
        surfaces,
        yard,
        loft,
        yard_over_time,
        ride,
        compared,
        compared_time,
        trial,
        closed,
        matched,
        curve,
        map,
    ] = figures();
    for (figure, expected) in [
        (
            &arcs,
            &["Jump arcs of Dab", "apex 3.4 tiles (54.4 px)", "0.35 s, tick 21", "reach 4.972 tiles (79.56 px)", "px"]
                [..],
        ),
        (
            &matched,
            &[
                "practice.csv: the recording, and the tuning found from it",
                "run-ups, stops and turns as found",
                "height, tiles",
            ][..],
        ),
        (&level, &["Throwing room, with the hitbox of Dab", "hitbox 10 x 22 px", "hazard", "goal", "deadly edge"][..]),
        (
            &run,
            &[
                "Throwing room: the path of Dab",
                "145 bumped:head",
                "178 lost-ground",
                "253 entered:goal@33,18",
                "rise",
                "fall",
            ][..],
        ),
        (&time, &["Full jump over time: Dab", "rise", "hang", "fall", "height, tiles", "upward speed, tiles/s"][..]),
        (
            &body,
            &[
                "Climbing Dab: hitbox, probes and picture",
                "corner nudge 3 px: a head stopped by a corner moves aside",
                "picture 16 x 24 px",
                "the picture sticks out 2 px at the head: into ceilings",
            ][..],
        ),
        (&over_time, &["Glaze store over time: Climbing Dab", "seconds", "ladder", "jump", "up", "down", "px/s"][..]),
        (&climb, &["Drying racks: the path of Climbing Dab", "one-way", "230 dropped-through"][..]),
        (
            &yard,
            &["Hoist yard: the path of Climbing Dab", "route", "prop", "clay", "hoist", "cart", "256 landed, 163 px/s"]
                [..],
        ),
        (&yard_over_time, &["Hoist yard over time: Climbing Dab", "rides", "clay", "hoist"][..]),
        (
            &loft,
            &["Drying loft, with the hitbox of Climbing Dab", "crumbles", "one-way platform", "slab-a", "rack"][..],
        ),
        (
            &ride,
            &["Hoist yard: Climbing Dab on hoist", "in the level", "as the platform sees it", "tiles above its top"][..],
        ),
        (
            &compared,
            &[
                "Throwing room: Quick fall, Dab, kept",
                "apart from 1.4 s",
                "Quick fall: died:bottom in tick 115",
                "kept",
            ][..],
        ),
        (
            &compared_time,
            &["Over time: Quick fall, Dab, kept", "height, tiles", "sideways, tiles/s", "upward, tiles/s", "jump"][..],
        ),
        (
            &trial,
            &[
                "A late press still jumps: 1 of 3 expectations not met",
                "expected jumped:ground in tick 90",
                "rise",
                "deadly edge",
            ][..],
        ),
        (
            &closed,
            &[
                "Throwing room: what Quick fall can reach",
                "reached",
                "out of reach",
                "a way",
                "top@26-29,6: too high: 4 tiles above the",
                "reached with jump.height = &quot;5 tiles&quot;, not 3.4",
            ][..],
        ),
        (
            &curve,
            &[
                "Dab: full:air_time over jump.height",
                "jump.height, tiles",
                "full:air_time, s",
                "where what passes ends",
            ][..],
        ),
        (
            &map,
            &[
                "Dab: running:reach over jump.height and run.top_speed",
                "run.top_speed, tiles/s",
                "running:reach, tiles",
                "as it is",
                "91 tunings, 41 of them pass; as it is: 4.972 tiles",
            ][..],
        ),
        (&surfaces, &["Slip floor", "belt", "slippery", "bounces"][..]),
        (&from, &["Throwing room: how Dab can jump from here", "full left: 6, 10", "tap left: 5, 15"][..]),
    ] {
        let words = words(figure);
        for text in expected {
            assert!(words.contains(text), "{text:?} is not among {words:?}");
        }
    }
}

#[test]
fn a_png_has_the_size_of_the_page_and_is_drawn_on() {
    for figure in figures() {
        let png = figure.png().unwrap();
        assert_eq!(&png[..8], b"\x89PNG\r\n\x1a\n");
        let size = |at: usize| u32::from_be_bytes(png[at..at + 4].try_into().unwrap());
        assert_eq!((size(16), size(20)), figure.size());
        assert!(figure.size().0 == Figure::WIDTH && (380..=Figure::HEIGHT).contains(&figure.size().1));
        assert!(png.len() > 10_000, "an empty page is smaller");
    }
}

#[test]
fn words_are_in_ink_and_nothing_leaves_the_page() {
    for figure in figures() {
        for tag in figure.svg().split('<').filter(|tag| tag.starts_with("text ")) {
            assert!(tag.contains("fill=\"#22262B\""), "{tag}");
            let number = |name: &str| {
                tag.split(&format!(" {name}=\"")).nth(1).unwrap().split('"').next().unwrap().parse::<f64>().unwrap()
            };
            assert!((0.0..20480.0).contains(&number("x")) && (0.0..12800.0).contains(&number("y")), "{tag}");
        }
    }
}

/// A level of so many columns and rows: a floor with a step up every few tiles, a shelf and a pickup here and there.
fn long_level(columns: usize, rows: usize) -> Level {
    let mut map = vec![vec!['.'; columns]; rows];
    for column in 0..columns {
        let floor = rows - 2 - (column / 9) % 3;
        map[floor..].iter_mut().for_each(|row| row[column] = '#');
        if column % 23 == 11 {
            map[floor - 4][column] = '=';
        }
        if column % 31 == 5 {
            map[floor - 1][column] = '*';
        }
    }
    map[rows - 3][1] = '@';
    let rows: Vec<String> = map.into_iter().map(|row| row.into_iter().collect()).collect();
    Level::parse("long.level.toml", &format!("[map]\nrows = '''\n{}\n'''\n", rows.join("\n"))).unwrap()
}

fn run_in(level: &Level, buttons: &str, ticks: u64) -> (wumple::Trace, wumple::why::WhyLog, TuningFile) {
    let dab = TuningFile::parse("dab", &demo::DAB.replace("air_jumps = 1", "")).unwrap();
    let timeline = ButtonsFile::parse("b", buttons, &dab.scale).unwrap().at_rate(60.0).unwrap().0;
    let mut log = wumple::why::WhyLog::default();
    let trace = wumple::run_told(level, &dab.tuning, &timeline, ticks, &mut log).unwrap();
    (trace, log, dab)
}

#[test]
fn a_run_in_a_large_level_is_drawn_where_it_was() {
    let level = long_level(300, 20);
    let (trace, log, dab) = run_in(&level, "1 right; 30 right jump; 40 right; 50 right jump; 55 right", 120);
    let part = run_figure(&level, &dab, &trace, log.presses(), &Page::default());
    let seen = all_words(&part);
    // Columns 0 to 46 or so, by twos: not 300 of them in a strip.
    assert!(seen.contains("|42|") && !seen.contains("|298|") && !seen.contains("|120|"), "{seen}");
    assert!(seen.contains("press refused") && seen.contains("50 press refused"), "{seen}");
    let whole = level_figure(&level, None, &Page::default());
    assert!(all_words(&whole).matches("columns").count() > 1, "the whole is broken into rows");
    assert!(whole.size().1 > 500, "and fills its paper: {:?}", whole.size());

    let area = TileArea { first: (8, 4), last: (30, 19) };
    let asked = run_figure(&level, &dab, &trace, &[], &Page { size: Some((1600, 900)), area: Some(area) });
    assert_eq!(asked.size(), (1600, 900));
    let seen = all_words(&asked);
    assert!(seen.contains("|8|") && seen.contains("|30|") && !seen.contains("|33|"), "{seen}");
    let beyond = Page { area: Some(TileArea { first: (9999, 0), last: (9999, 9999) }), size: Some((1, 1)) };
    assert_eq!(run_figure(&level, &dab, &trace, &[], &beyond).size(), (400, 300), "held to what there is");
}

#[test]
fn a_long_run_is_broken_into_rows_with_a_label_in_one_of_them_only() {
    let level = long_level(300, 20);
    let presses: Vec<String> = (0..40).map(|n| format!("{} right jump; {} right", 40 + n * 60, 50 + n * 60)).collect();
    let (trace, _, dab) = run_in(&level, &format!("1 right; {}", presses.join("; ")), 2500);
    assert!(trace.rows.last().unwrap().feet.x > 250.0 * 16.0);
    let figure = run_figure(&level, &dab, &trace, &[], &Page::default());
    let seen = all_words(&figure);
    assert!(seen.matches("columns").count() >= 2, "{seen}");
    assert!(seen.matches("|40 jumped:ground|").count() == 1, "{seen}");
}

#[test]
fn a_very_large_map_is_drawn_in_blocks() {
    let level = long_level(2000, 1500);
    let figure = level_figure(&level, None, &Page::default());
    assert!(figure.svg().len() < 2_000_000, "{} bytes", figure.svg().len());
    assert!(all_words(&figure).contains("drawn in blocks of"));
    figure.png().unwrap();
}

/// The label of a failed trial says all of what was expected, and all of what happened instead.
#[test]
fn a_failed_trial_says_whole_sentences() {
    let outcome = failed_trial();
    let text = all_words(&trial_figure(&outcome)).replace('|', " ");
    let plain = |words: &str| words.split_whitespace().collect::<Vec<_>>().join(" ");
    for (check, failure) in outcome.failures() {
        for sentence in [&check.expected, &failure.instead] {
            assert!(plain(&text).contains(&plain(sentence)), "{sentence:?} is not in {text:?}");
        }
    }
}

/// A ride is over when something else is stood on, though nothing else that moves is ridden after it.
#[test]
fn a_ride_ends_where_the_ground_is_stood_on_again() {
    let climbing = TuningFile::parse("climbing", demo::CLIMBING_DAB).unwrap();
    let room = demo::ROOMS.iter().find(|room| room.name == "hoist-yard").unwrap();
    let yard = Level::parse("yard", room.level).unwrap();
    let timeline = ButtonsFile::parse("b", room.buttons, &climbing.scale).unwrap().at_rate(60.0).unwrap().0;
    let trace = wumple::run(&yard, &climbing.tuning, &timeline, 1000).unwrap();
    let swing = MoverId::Platform(2);
    let on = |row: &&wumple::TickReport| row.support.mover() == Some(swing);
    let last = trace.rows.iter().rfind(on).unwrap().tick;
    let after = trace.rows.iter().find(|row| row.tick > last && row.contacts.below).unwrap().tick;
    let caption = words(&ride_figure(&yard, &climbing, &trace, swing).unwrap())[1].to_owned();
    let end: u64 = caption.split(" to ").nth(1).unwrap().split(',').next().unwrap().parse().unwrap();
    assert!((last..after).contains(&end), "{caption}: last ridden in {last}, on the ground in {after}");
}

/// A shaft of one column and thousands of rows is a few px wide on its page: what happens in it is marked all the same.
#[test]
fn a_shaft_as_narrow_as_a_tile_is_drawn() {
    let rows: Vec<&str> = ["@"].into_iter().chain(std::iter::repeat_n(".", 2998)).chain(["#"]).collect();
    let platform = "[[platform]]\nid = \"a-rather-long-name\"\nsize = [8, 8]\nroute = [[4, 9000]]\n";
    let text = format!("{platform}[map]\nrows = '''\n{}\n'''\n", rows.join("\n"));
    let level = Level::parse("shaft", &text).unwrap();
    let (trace, log, dab) = run_in(&level, "5 jump", 20_000);
    for page in [Page::default(), Page { size: Some((400, 300)), area: None }] {
        let figure = run_figure(&level, &dab, &trace, log.presses(), &page);
        assert!(all_words(&figure).contains("press refused"));
        figure.png().unwrap();
        level_figure(&level, Some(&dab), &page).png().unwrap();
    }
}

#[test]
fn zones_are_drawn_with_their_margins_and_named_in_the_legend() {
    let room = demo::ROOMS.iter().find(|room| room.name == "ember-walk").unwrap();
    let level = Level::parse(room.name, room.level).unwrap();
    let figure = level_figure(&level, None, &Page::default());
    let words = words(&figure);
    for text in ["pickup", "checkpoint", "goal", "hazard", "draught", "resting-place", "kiln-door", "stove"] {
        assert!(words.contains(&text), "{text:?} is not among {words:?}");
    }
    let ochre = |level: &Level| {
        let svg = level_figure(level, None, &Page::default()).svg().to_owned();
        svg.matches("fill=\"none\" opacity=\"1\" stroke=\"#B87A10\"").count()
    };
    let without = Level::parse(room.name, &room.level.replace(", margin = \"3 px\"", "")).unwrap();
    assert!(ochre(&level) > ochre(&without) + 20, "a dashed line around each of the four jars");
}
