//! Wishes into numbers, and numbers into other loops.

use proptest::prelude::*;
use wumple::analysis::{
    ArcKind, FitError, FlapWishes, FlightMeasures, JumpArc, Target, UnitStyle, WalkWishes, convert, fit_flaps,
    fit_into, fit_walk, rounding_of,
};
use wumple::numbers::Scheme;
use wumple::poses::Advance;
use wumple::units::{Quantity, Scale};
use wumple::{Buttons, DVec2, Edges, GameLoop, Grid, Tuning, TuningFile, Wishes, World, ZoneKind, arcs, demo, fit};

const SCHEMES: [Scheme; 3] = [Scheme::Exact, Scheme::VelocityFirst, Scheme::PositionFirst];

fn looped(scheme: Scheme, rate: f64) -> GameLoop {
    GameLoop { rate, scheme, scale: Scale { tile: 16.0, frames_per_second: rate } }
}

/// A number of px, s or px/s.
fn px(number: f64) -> Option<Quantity> {
    Some(Quantity::bare(number))
}

fn said(text: &str) -> Option<Quantity> {
    Some(Quantity::parse(text).unwrap())
}

fn arc(file: &TuningFile, kind: ArcKind) -> JumpArc {
    arcs([file]).tunings[0].arc(kind).unwrap().clone()
}

/// Jumps as people write them, to be changed.
const KEPT_JUMPS: [&str; 7] = [
    "[fall]\ngravity_ratio = RATIO\ntop_speed = \"CAP px/s\"\n[jump]\nheight = \"3 tiles\"\ntime_to_apex = \"20 frames\"\nRELEASE\n",
    "[fall]\ngravity_ratio = RATIO\n[jump]\nspeed = \"5 px/frame\"\ngravity = \"0.25 px/frame^2\"\nRELEASE\n",
    "[fall]\ntop_speed = CAP\n[jump]\nheight = 50\ntime_to_apex = 0.35\nhang = { speed = 20, gravity_ratio = 0.6 }\nRELEASE\n",
    "[jump]\nheight = \"3 tiles\"\ntime_to_apex = \"360 ms\"\n[jump.hang]\nspeed = \"1 tiles/s\"\ngravity_ratio = 0.5\n",
    "[fall]\ngravity = 900\ngravity_ratio = RATIO\n",
    "fall.gravity_ratio = RATIO\njump.height = \"3 tiles\"\njump.time_to_apex = 0.4\n",
    "[jump]\nheight = 48\ntime_to_apex = 0.4\n[jump.release]\nstyle = \"cut\"\nkeep = 0.4\n",
];

const KEPT_RELEASES: [&str; 6] = [
    "",
    "release = { style = \"none\" }",
    "release = { style = \"cut\", keep = 0.4 } # short",
    "release = { style = \"heavy\", gravity_ratio = 2.5 }",
    "release = { style = \"sustain\", time = \"0.1 s\" }",
    "release = { style = \"to-height\", tap_height = \"1 tiles\", further_rise = \"2 px\" }",
];

proptest! {
    #![proptest_config(ProptestConfig::with_cases(400))]

    /// Fit, write, read, measure: the wished height to 1e-6 px, and the wished tick.
    #[test]
    fn what_is_fitted_is_what_arcs_measures(
        height in 8.0..200.0f64, time in 0.1..0.9f64, fall_ratio in 0.5..4.0f64, tap in 0.1..0.9f64,
        scheme in prop::sample::select(&SCHEMES[..]), rate in prop::sample::select(&[30.0, 50.0, 60.0, 144.0][..]),
    ) {
        let wishes = Wishes {
            height: px(height),
            time_to_apex: px(time),
            tap_height: px(height * tap),
            fall_ratio: Some(fall_ratio),
            ..Wishes::default()
        };
        let found = fit(&wishes, &looped(scheme, rate)).unwrap();
        let written = TuningFile::parse("w", found.tuning_text()).unwrap();
        let full = arc(&written, ArcKind::Full);
        prop_assert!((full.apex_height_px - height).abs() < 1e-6, "{}", full.apex_height_px);
        let ticks = time * rate;
        let expected = if scheme.is_stepped() { (ticks + 0.5 + 1e-9).floor().max(2.0) } else { (ticks - 1e-6).ceil() };
        prop_assert_eq!(full.apex_tick, expected as u64);
        prop_assert_eq!(found.predicted.apex_tick, full.apex_tick);
        prop_assert!((found.predicted.air_time_s - full.air_time_s).abs() < 1e-9);
        let warned = |words: &str| found.warnings.iter().any(|warning| warning.contains(words));
        prop_assert_eq!(warned("whole ticks"), scheme.is_stepped() && (ticks - expected).abs() > 2e-3);
        let hop = arc(&written, ArcKind::Tap).apex_height_px;
        prop_assert!(hop >= height * tap - 1e-6, "{hop}");
        prop_assert!((found.tap_height_px.unwrap() - hop).abs() < 1e-9);
        prop_assert_eq!(warned("smallest hop"), (hop - height * tap).abs() > 1e-6 * (1.0 + height * tap));
    }

    /// A gap at top speed instead of a time: it is cleared, and in the stepped schemes with no tick to spare.
    #[test]
    fn a_gap_wished_for_is_cleared(
        height in 8.0..200.0f64, gap in 20.0..300.0f64, top_speed in 60.0..400.0f64, fall_ratio in 0.5..3.0f64,
        scheme in prop::sample::select(&SCHEMES[..]),
    ) {
        prop_assume!(gap / top_speed > 0.15 && gap / top_speed < 2.0);
        let wishes = Wishes {
            height: px(height),
            gap: px(gap),
            top_speed: px(top_speed),
            fall_ratio: Some(fall_ratio),
            ..Wishes::default()
        };
        let found = fit(&wishes, &looped(scheme, 60.0)).unwrap();
        let reach = found.predicted.reach_px;
        if scheme.is_stepped() {
            prop_assert!(reach >= gap - 1e-6 && reach < gap + 4.0 * top_speed / 60.0, "{reach} for {gap}");
        } else {
            prop_assert!((reach - gap).abs() < 1e-6 * gap, "{reach} for {gap}");
        }
    }

    /// Whatever a tuning keeps (its unit, its way of writing, hang, release, fall), a fit into it does what is
    /// wished for, and what is said is what is written.
    #[test]
    fn a_fit_into_any_tuning_does_what_is_wished(
        height in 20..120u32, gap in 60..200u32, top_speed in 80..240u32,
        by in prop::sample::select(&["time", "gap", "both", "height", "speed"][..]), tap in prop::option::of(1..9u32),
        ratio in prop::option::of(6..25u32), kept_ratio in 6..30u32, cap in 200..600u32,
        jump in prop::sample::select(&KEPT_JUMPS[..]), release in prop::sample::select(&KEPT_RELEASES[..]),
        scheme in prop::sample::select(&SCHEMES[..]), rate in prop::sample::select(&[50.0, 60.0, 144.0][..]),
    ) {
        let [height, gap, top_speed, kept_ratio] =
            [(height, 1.0), (gap, 1.0), (top_speed, 1.0), (kept_ratio, 10.0)].map(|(n, of)| f64::from(n) / of);
        let (tap, ratio) = (tap.map(|n| height * f64::from(n) / 10.0), ratio.map(|n| f64::from(n) / 10.0));
        let jump = jump
            .replace("RELEASE", release)
            .replace("RATIO", &kept_ratio.to_string())
            .replace("CAP", &cap.to_string());
        let (top, end) = if jump.starts_with('[') { ("", &jump[..]) } else { (&jump[..], "") };
        let text = format!(
            "{top}[tick]\nrate = {rate}\nscheme = \"{}\"\n[body]\nwidth = 10\nheight = 22\n[run]\ntop_speed = 120 # run\n{end}", scheme.name()
        );
        let before = TuningFile::parse("before", &text).map_err(|error| TestCaseError::fail(error.to_string()))?;
        let (by_gap, by_time) = (by == "gap" || by == "both", by == "time" || by == "both");
        let wishes = Wishes {
            height: px(height).filter(|_| by != "speed"),
            time_to_apex: said("0.4 s").filter(|_| by_time),
            gap: px(gap).filter(|_| by_gap || by == "speed"),
            top_speed: px(top_speed).filter(|_| by == "gap"),
            tap_height: tap.and_then(px).filter(|_| by != "speed"),
            fall_ratio: ratio,
        };
        let found = match fit_into(&wishes, "t", &text) {
            Ok(found) => found,
            Err(FitError::NoHeight | FitError::NoTime) => {
                prop_assert!(before.tuning.jump().is_none());
                return Ok(());
            }
            // A hang or a slow fall can be in the way.
            Err(FitError::Tuning(_) | FitError::TooLittleTime { .. } | FitError::TooMuchTime { .. }) => return Err(TestCaseError::reject("cannot be")),
            Err(other) => return Err(TestCaseError::fail(other.to_string())),
        };
        let file = TuningFile::parse("t", found.tuning_text()).map_err(|error| TestCaseError::fail(error.to_string()))?;
        let running = arc(&file, ArcKind::Running);
        prop_assert_eq!(&found.predicted, &running);
        if let Some(height) = wishes.height {
            prop_assert!((running.apex_height_px - height.value).abs() < 1e-6, "{}", running.apex_height_px);
        }
        if by_time {
            prop_assert!((running.apex_time_s - 0.4).abs() <= 0.5 / rate + 1e-9, "{}", running.apex_time_s);
        }
        if by_gap || by == "speed" {
            let most = if scheme.is_stepped() && by == "gap" { gap + 9.0 * top_speed / rate } else { gap * (1.0 + 2e-6) };
            prop_assert!((gap - 1e-6..=most).contains(&running.reach_px), "{} for {gap}", running.reach_px);
        }
        if let Some(tap) = wishes.tap_height {
            let (hop, warned) = (arc(&file, ArcKind::Tap).apex_height_px, found.warnings.iter().any(|w| w.contains("hop")));
            prop_assert!(hop >= tap.value - 1e-6 && (warned || hop < tap.value + 1e-3 * (1.0 + tap.value)), "{hop} for {tap:?}");
        }
        let numbers = file.tuning.numbers();
        prop_assert_eq!(numbers.fall.gravity_ratio, ratio.unwrap_or(before.tuning.numbers().fall.gravity_ratio));
        prop_assert_eq!(numbers.fall.top_speed, before.tuning.numbers().fall.top_speed);
        prop_assert_eq!(numbers.jump.as_ref().unwrap().hang, before.tuning.numbers().jump.as_ref().and_then(|jump| jump.hang));
        prop_assert!(found.tuning_text().contains("# run"), "comments stay");
        prop_assert!(found.tuning_text().lines().all(|line| line.len() < 110), "no noise of digits: {}", found.tuning_text());
    }

    /// A jump given as speed and gravity, into any other loop: the same apex height.
    #[test]
    fn conversion_keeps_the_apex(
        speed in 150.0..500.0f64, gravity in 500.0..2000.0f64,
        from in prop::sample::select(&SCHEMES[..]), to in prop::sample::select(&SCHEMES[..]),
        rates in prop::sample::select(&[(60.0, 30.0), (60.0, 144.0), (50.0, 60.0)][..]),
    ) {
        prop_assume!(speed / gravity > 0.1);
        let text = format!(
            "[scale]\nframes_per_second = 60\n[tick]\nrate = {}\nscheme = \"{}\"\n[body]\nwidth = 10\nheight = 22\n\
             [run]\ntop_speed = 120 # px/s\n[jump]\nspeed = {speed}\ngravity = {gravity}\n",
            rates.0, from.name()
        );
        let target = Target { scheme: Some(to), rate: Some(rates.1), ..Target::default() };
        let done = convert("t", &text, &target).unwrap();
        let after = TuningFile::parse("after", &done.text).unwrap();
        prop_assert_eq!((after.tuning.scheme(), after.tuning.rate()), (to, rates.1));
        let before = TuningFile::parse("before", &text).unwrap();
        let (a, b) = (arc(&before, ArcKind::Full), arc(&after, ArcKind::Full));
        prop_assert!((a.apex_height_px - b.apex_height_px).abs() < 1e-6, "{} {}", a.apex_height_px, b.apex_height_px);
        prop_assert!((a.apex_time_s - b.apex_time_s).abs() <= 0.5 / rates.1 + 2.0 / rates.1 * f64::from(u8::from(b.apex_tick <= 2)) + 1e-9);
        prop_assert!(done.text.contains("120 # px/s"), "comments stay");
    }
}

#[test]
fn wishes_that_cannot_be_met_say_why() {
    let tiles = |tiles: f64| px(tiles * 16.0);
    let table = [
        (Wishes::default(), "a jump needs a height"),
        (
            Wishes { height: tiles(3.0), ..Wishes::default() },
            "a jump needs a time as well: to its apex, or else a gap and the top speed at which it is cleared",
        ),
        (
            Wishes { height: px(-1.0), ..Wishes::default() },
            "the height is -1 px; it must be from 0.0009765625 to 524288 px",
        ),
        (
            Wishes { height: tiles(3.0), fall_ratio: Some(0.0), ..Wishes::default() },
            "the fall ratio is 0; it must be from 0.000001 to 1000000",
        ),
        (
            Wishes {
                height: tiles(3.5),
                time_to_apex: px(0.2),
                gap: tiles(9.0),
                top_speed: tiles(7.0),
                ..Wishes::default()
            },
            "a gap of 9 tiles in 0.4 s needs 22.5 tiles/s; the top speed is 7",
        ),
        (
            Wishes { height: tiles(2.0), time_to_apex: px(0.3), tap_height: tiles(3.0), ..Wishes::default() },
            "a smallest hop of 3 tiles is higher than the full jump of 2 tiles",
        ),
        (
            Wishes { height: tiles(2.0), time_to_apex: px(1e-6), ..Wishes::default() },
            "jump.time_to_apex makes the take-off speed 64000000 px/s; it may be at most 1000000 px/s; \
             jump.time_to_apex makes the gravity 64000000000000 px/s^2; it may be at most 1000000000000 px/s^2",
        ),
        (
            Wishes { height: said("3 tiles/s"), ..Wishes::default() },
            "the height is a speed; it needs a length, such as \"3 tiles\" or \"48 px\"",
        ),
        (
            Wishes { height: px(1e308), time_to_apex: px(0.4), ..Wishes::default() },
            "the height is 1e308 px; it must be from 0.0009765625 to 524288 px",
        ),
        (
            Wishes { height: px(50.0), time_to_apex: px(0.4), fall_ratio: Some(1e-5), ..Wishes::default() },
            "fall.gravity_ratio makes the fall from a jump's 50 px too slow: 60 s bring it 11.25 px down",
        ),
        (
            Wishes { height: px(50.0), gap: px(8e6 / 16.0), top_speed: px(1.0), ..Wishes::default() },
            "the gap at that speed leaves 500000 s in the air, more than this jump can take: \
             jump.time_to_apex makes the time to the apex 60 s; it may be at most 60 s",
        ),
    ];
    for (wishes, message) in table {
        assert_eq!(fit(&wishes, &looped(Scheme::Exact, 60.0)).unwrap_err().to_string(), message);
    }
}

#[test]
fn a_fit_changes_just_its_numbers_in_a_tuning() {
    let wishes = Wishes { height: px(64.0), time_to_apex: px(0.4), fall_ratio: Some(2.0), ..Wishes::default() };
    let found = fit_into(&wishes, "dab", demo::DAB).unwrap();
    let text = found.tuning_text();
    let changed: Vec<&str> = text.lines().filter(|line| !demo::DAB.lines().any(|old| old == *line)).collect();
    assert_eq!(
        changed,
        ["gravity_ratio = 2.0          # of the rise gravity", "height = \"4 tiles\"", "time_to_apex = \"0.4 s\""]
    );
    assert_eq!(text.lines().count(), demo::DAB.lines().count());
    let full = arc(&TuningFile::parse("t", text).unwrap(), ArcKind::Full);
    assert!((full.apex_height_px - 64.0).abs() < 1e-9 && (full.apex_time_s - 0.4).abs() < 1e-9);
    assert_eq!(found.tuning(), &TuningFile::parse("t", text).unwrap().tuning);
}

/// Wishes for a game that runs: the tuning found is put on and flown, with no file in between.
#[test]
fn a_fit_is_put_on_while_the_game_runs() {
    let found = fit_into(&Wishes { height: said("4 tiles"), ..Wishes::default() }, "dab", demo::DAB).unwrap();
    let mut rows = ["...."; 12];
    rows[11] = "####";
    let mut world = World::new(Grid::from_rows(&rows, 16.0, Edges::default()).unwrap());
    let dab = TuningFile::parse("dab", demo::DAB).unwrap().tuning;
    let dab = world.add_character(dab, DVec2::new(32.0, 176.0)).unwrap();
    let mut height_of_a_jump = |tuning: Option<&Tuning>| {
        if let Some(tuning) = tuning {
            world.retune(dab, tuning.clone()).unwrap();
        }
        let feet = (0..150).map(|tick| {
            world.tick(&[Buttons { jump: tick < 60, ..Buttons::NONE }]);
            world.report(dab).feet.y
        });
        176.0 - feet.fold(f64::INFINITY, f64::min)
    };
    let (before, after) = (height_of_a_jump(None), height_of_a_jump(Some(found.tuning())));
    assert!((before - 54.0).abs() < 1.0 && (after - 64.0).abs() < 1.0, "{before} px, then {after} px");
}

/// The units that a key has, or those of the wish; what needs to go goes, and is told.
#[test]
fn a_fit_writes_as_the_file_is_written() {
    let head = "[tick]\nrate = 60\nscheme = \"velocity-first\"\n[body]\nwidth = 10\nheight = 22\n[run]\n";
    let table = [
        (
            "top_speed = \"6 tiles/s\"\n[fall]\ngravity = 900 # down\n",
            Wishes {
                height: said("3 tiles"),
                time_to_apex: said("20 frames"),
                tap_height: said("1 tiles"),
                ..Wishes::default()
            },
            "top_speed = \"6 tiles/s\"\n[fall]\n\n[jump]\nheight = \"3 tiles\"\ntime_to_apex = \"20 frames\"\n\
             release = { style = \"to-height\", tap_height = \"1 tiles\" }\n",
            "fall.gravity gives way to the gravity of the jump",
        ),
        (
            "top_speed = 96\n[jump]\nspeed = 5\ngravity = 10\nrelease = { style = \"cut\", keep = 0.4 } # short\n",
            Wishes {
                height: said("3 tiles"),
                time_to_apex: said("0.3 s"),
                tap_height: said("9 px"),
                ..Wishes::default()
            },
            "top_speed = 96\n[jump]\nrelease = { style = \"to-height\", tap_height = \"9 px\" } # short\nheight = \"3 tiles\"\n\
             time_to_apex = \"0.3 s\"\n",
            "the release gives way to the one that a smallest hop needs; \
             jump.speed and jump.gravity give way to jump.height and jump.time_to_apex",
        ),
        (
            "top_speed = 96\n[jump]\nheight = \"2 tiles\"   # how high\ntime_to_apex = \"300 ms\"\n",
            Wishes { height: px(48.0), gap: said("5 tiles"), top_speed: said("7.5 tiles/s"), ..Wishes::default() },
            "top_speed = 120\n[jump]\nheight = \"3 tiles\"   # how high\ntime_to_apex = \"350 ms\"\n",
            "",
        ),
        (
            "top_speed = 96\n[jump]\nheight = \"2 tiles\"\ntime_to_apex = \"0.25 s\"\n",
            Wishes { gap: said("4.35 tiles"), ..Wishes::default() },
            "top_speed = 144\n[jump]\nheight = \"2 tiles\"\ntime_to_apex = \"0.25 s\"\n",
            "",
        ),
    ];
    // What is not wished for stays as it is written, though the rate rounds it.
    let kept = "top_speed = 96\n[jump]\nheight = \"2.50 tiles\"\ntime_to_apex = \"0.330 s\" # slow\n";
    let higher = Wishes { height: said("3 tiles"), ..Wishes::default() };
    let found = fit_into(&higher, "t", &format!("{head}{kept}")).unwrap();
    assert_eq!(found.tuning_text(), format!("{head}{}", kept.replace("\"2.50 tiles\"", "\"3 tiles\"")));
    assert!(found.warnings[0].contains("takes whole ticks: 20 ticks"), "{:?}", found.warnings);
    for (text, wishes, expected, warned) in table {
        let found = fit_into(&wishes, "t", &format!("{head}{text}")).unwrap();
        assert_eq!(found.tuning_text(), format!("{head}{expected}"));
        assert_eq!(found.warnings.join("; "), warned);
    }
}

/// One user's story at three frame rates.
#[test]
fn exact_is_the_same_at_every_rate_and_stepped_is_not_until_converted() {
    let text = |scheme: &str, rate: u32| {
        format!(
            "[scale]\nframes_per_second = 60\n[tick]\nrate = {rate}\nscheme = \"{scheme}\"\n[body]\nwidth = 10\nheight = 22\n\
             [run]\ntop_speed = 120\n[jump]\nspeed = 310\ngravity = 880\n"
        )
    };
    let measure = |text: &str| arc(&TuningFile::parse("t", text).unwrap(), ArcKind::Running);
    let numbers = |arc: &JumpArc| [arc.apex_height_px, arc.apex_time_s, arc.air_time_s, arc.reach_px];
    let exact = [30, 60, 144].map(|rate| numbers(&measure(&text("exact", rate))));
    for other in &exact[1..] {
        assert!(exact[0].iter().zip(other).all(|(a, b)| (a - b).abs() < 1e-6), "{exact:?}");
    }
    let stepped = [30, 60, 144].map(|rate| measure(&text("velocity-first", rate)).apex_height_px);
    assert!(stepped[0] < stepped[1] - 2.0 && stepped[1] < stepped[2] - 1.0, "{stepped:?}");
    for rate in [30.0, 144.0] {
        let target = Target { rate: Some(rate), ..Target::default() };
        let done = convert("t", &text("velocity-first", 60), &target).unwrap();
        assert!((measure(&done.text).apex_height_px - stepped[1]).abs() < 1e-6);
        assert!(done.said.iter().any(|words| words.starts_with("full height stays")), "{:?}", done.said);
    }
}

#[test]
fn other_units_and_tiles_mean_the_same_motion() {
    let dab = TuningFile::parse("dab", demo::DAB).unwrap();
    let before = arcs([&dab]).tunings[0].clone();
    for units in [UnitStyle::Pixels, UnitStyle::Tiles, UnitStyle::Frames] {
        let done = convert("dab", demo::DAB, &Target { units: Some(units), ..Target::default() }).unwrap();
        let after = &arcs([&TuningFile::parse("after", &done.text).unwrap()]).tunings[0];
        for (a, b) in before.arcs.iter().zip(&after.arcs) {
            assert_eq!((a.kind, a.apex_tick, a.air_ticks), (b.kind, b.apex_tick, b.air_ticks));
            assert!((a.apex_height_px - b.apex_height_px).abs() < 1e-6 && (a.reach_px - b.reach_px).abs() < 1e-6);
        }
        assert!(done.text.contains("# from rest to top speed"), "comments stay");
    }
    let done = convert("dab", demo::DAB, &Target { tile: Some(24.0), ..Target::default() }).unwrap();
    let after = TuningFile::parse("after", &done.text).unwrap();
    assert_eq!((after.scale.tile, after.tuning.body().width), (24.0, 15.0));
    assert!((arc(&after, ArcKind::Full).apex_height_tiles - 3.4).abs() < 1e-9);
    assert!((arc(&after, ArcKind::Running).reach_tiles - arc(&dab, ArcKind::Running).reach_tiles).abs() < 1e-9);
}

/// Standing and running jumps are one motion, whatever measures them.
#[test]
fn standing_and_running_jumps_land_alike() {
    for scheme in SCHEMES {
        let text = demo::DAB.replace("\"exact\" ", &format!("\"{}\" ", scheme.name()));
        let file = TuningFile::parse("dab", &text).unwrap();
        let (full, running) = (arc(&file, ArcKind::Full), arc(&file, ArcKind::Running));
        assert!(full.landing_speed_px_s > 200.0, "{scheme:?}");
        assert!((full.landing_speed_px_s - running.landing_speed_px_s).abs() < 1e-9);
        assert_eq!((full.air_ticks, full.air_time_s), (running.air_ticks, running.air_time_s));
    }
}

#[test]
fn a_time_that_is_no_whole_tick_is_said() {
    let text = demo::DAB.replace("\"exact\"", "\"velocity-first\"").replace("rate = 60 ", "rate = 50 ");
    let file = TuningFile::parse("dab", &text).unwrap();
    assert_eq!(
        rounding_of(&file).unwrap(),
        "Dab: 0.35 s to the apex is 17.5 ticks at 50 Hz; velocity-first takes whole ticks: 18 ticks, 0.36 s"
    );
    assert_eq!(rounding_of(&TuningFile::parse("dab", demo::DAB).unwrap()), None);
}

/// Release styles x schemes x rates: a change of feel is a reviewable diff.
#[test]
fn the_golden_table_of_jumps() {
    let styles = [
        ("none", ""),
        ("cut", ", keep = 0.4"),
        ("heavy", ", gravity_ratio = 2.5"),
        ("sustain", ", time = \"0.1 s\""),
        ("to-height", ", tap_height = \"1.2 tiles\", further_rise = \"0.2 tiles\""),
    ];
    let mut table = String::from("style       scheme          rate | tap apex     air | full apex    air    reach\n");
    for (style, rest) in styles {
        for scheme in SCHEMES {
            for rate in [30, 60, 144] {
                let text = demo::DAB
                    .replace("\"exact\" ", &format!("\"{}\" ", scheme.name()))
                    .replace("rate = 60 ", &format!("rate = {rate} "))
                    .replace("hang = { speed = \"1.3 tiles/s\", gravity_ratio = 0.6 }", "");
                let release = text.lines().find(|line| line.starts_with("release")).unwrap();
                let text = text.replace(release, &format!("release = {{ style = \"{style}\"{rest} }}"));
                let file = TuningFile::parse("t", &text).unwrap();
                let (tap, running) = (arc(&file, ArcKind::Tap), arc(&file, ArcKind::Running));
                table += &format!(
                    "{style:11} {:15} {rate:4} | {:8.4} {:7.4} | {:9.4} {:7.4} {:8.4}\n",
                    scheme.name(),
                    tap.apex_height_tiles,
                    tap.air_time_s,
                    running.apex_height_tiles,
                    running.air_time_s,
                    running.reach_tiles
                );
            }
        }
    }
    insta::assert_snapshot!(table);
}

#[test]
fn what_is_felt_grows_with_the_tiles_on_all_sides_or_on_each() {
    let text = format!(
        "{}\n[feels]\nhazard = \"-2 px\"\npickup = {{ above = 4, left = \"0.5 tiles\" }}\ndraught = \"3 px\"\nglow = {{ below = 1 }}\n",
        demo::DAB
    );
    let done = convert("dab", &text, &Target { tile: Some(32.0), ..Target::default() }).unwrap();
    let feels = TuningFile::parse("dab", &done.text).unwrap().tuning.feels().clone();
    assert_eq!((feels.hazard.left, feels.hazard.below), (-4.0, -4.0));
    assert_eq!((feels.pickup.above, feels.pickup.left, feels.pickup.right), (8.0, 16.0, 0.0));
    let own = |word| feels.of(ZoneKind::of_word(word).unwrap());
    assert_eq!((own("draught").left, own("glow").below, own("glow").above, own("else").left), (6.0, 2.0, 0.0, 0.0));
}

#[test]
fn the_strides_of_poses_grow_with_the_tiles_and_their_paces_do_not() {
    let before = TuningFile::parse("dab", demo::CLIMBING_DAB).unwrap();
    let converted = |target: &Target| {
        let done = convert("dab", demo::CLIMBING_DAB, target).unwrap();
        TuningFile::parse("after", &done.text).unwrap().poses
    };
    let grown = before.poses.iter().cloned().map(|mut pose| {
        if let Advance::Stride(stride) = &mut pose.advance {
            *stride *= 2.0;
        }
        pose
    });
    assert_eq!(converted(&Target { tile: Some(32.0), ..Target::default() }), Vec::from_iter(grown));
    for units in [UnitStyle::Pixels, UnitStyle::Tiles, UnitStyle::Frames] {
        assert_eq!(converted(&Target { units: Some(units), ..Target::default() }), before.poses);
    }
    assert_eq!(converted(&Target { rate: Some(144.0), ..Target::default() }), before.poses);
}

#[test]
fn flaps_are_found_that_do_what_is_wished_in_every_loop() {
    let length = |text: &str| Some(Quantity::parse(text).unwrap());
    let wishes = |hold_at, flap_height, climb, gravity| FlapWishes { hold_at, flap_height, climb, gravity };
    let climb = |text: &str, presses| length(text).map(|climb| (climb, presses));
    for scheme in SCHEMES {
        for rate in [50.0, 60.0, 144.0] {
            for asked in [
                wishes(Some(3.0), length("24 px"), None, None),
                wishes(Some(3.0), None, climb("4 tiles", 6.0), None),
                wishes(Some(4.5), None, None, length("30 tiles/s^2")),
                wishes(None, length("1.5 tiles"), None, length("40 tiles/s^2")),
                wishes(None, None, climb("60 px", 4.0), length("640 px/s^2")),
            ] {
                let found = fit_flaps(&asked, &looped(scheme, rate)).unwrap();
                let FlightMeasures::Flaps { apex_height_px, presses_to_hold, climbs, .. } = &found.predicted else {
                    panic!("flaps");
                };
                let is_near = |found: f64, wished: f64| (found - wished).abs() < 1e-6 * (1.0 + wished.abs());
                assert!(asked.hold_at.is_none_or(|presses| is_near(*presses_to_hold, presses)), "{asked:?} {found:?}");
                let height = asked.flap_height.map(|height| height.in_px_and_seconds(&looped(scheme, rate).scale));
                assert!(height.is_none_or(|height| is_near(*apex_height_px, height)), "{scheme:?} {rate} {found:?}");
                if let Some((climb, presses)) = asked.climb {
                    let measured = climbs.iter().find(|climb| climb.presses_per_second == presses).unwrap();
                    let climb = climb.in_px_and_seconds(&looped(scheme, rate).scale);
                    assert!(is_near(measured.first_second_px, climb), "{scheme:?} {rate} {asked:?} {measured:?}");
                }
            }
        }
    }
    let words = |asked: FlapWishes| fit_flaps(&asked, &looped(Scheme::Exact, 60.0)).unwrap_err().to_string();
    assert!(words(wishes(Some(3.0), None, None, None)).starts_with("two wishes decide lift and gravity"));
    assert!(words(wishes(Some(6.0), None, climb("4 tiles", 2.0), None)).starts_with("so few presses do not climb"));
    assert_eq!(words(wishes(Some(-1.0), None, None, None)), "the presses that hold the height must be above 0");
    assert_eq!(words(wishes(Some(3.0), length("2 s"), None, None)), "the height of a flap must be a length");
}

#[test]
fn walks_are_found_that_do_what_is_wished_in_every_loop() {
    let quantity = |text: &str| Quantity::parse(text).unwrap();
    for scheme in SCHEMES {
        for rate in [50.0, 60.0, 144.0] {
            let wishes = WalkWishes {
                top_speed: quantity("6 tiles/s"),
                to_top_speed: Some(quantity("9 px")),
                to_rest: Some(quantity("0.125 s")),
            };
            let found = fit_walk(&wishes, &looped(scheme, rate)).unwrap();
            let walk = found.predicted.straight;
            // Where speeds change by ticks, so does the way until it is at its top: by what a tick at that speed goes.
            let step = if scheme == Scheme::Exact { 1e-6 } else { 96.0 / rate };
            assert!((walk.to_top_speed_px.unwrap() - 9.0).abs() <= step, "{scheme:?} {rate}: {walk:?}");
            // A time is that of the rate; in the stepped schemes the tick in which it is over.
            let tick = if scheme == Scheme::Exact { 1e-9 } else { 1.0 / rate + 1e-9 };
            assert!((walk.to_rest_s.unwrap() - 0.125).abs() <= tick, "{scheme:?} {rate}: {walk:?}");
            assert!(TuningFile::parse("made", &found.text).is_ok());
        }
    }
}

#[test]
fn a_flap_is_as_high_in_another_loop() {
    let owl = demo::OTHERS.iter().find(|other| other.name == "ash-owl").unwrap().tuning;
    for (scheme, rate) in [(Scheme::VelocityFirst, 50.0), (Scheme::PositionFirst, 60.0), (Scheme::Exact, 144.0)] {
        let target = Target { scheme: Some(scheme), rate: Some(rate), ..Target::default() };
        let done = convert("owl", owl, &target).unwrap();
        let height = |arcs: &wumple::analysis::TuningArcs| match arcs.flight {
            Some(FlightMeasures::Flaps { apex_height_px, .. }) => apex_height_px,
            _ => panic!("flaps"),
        };
        assert!((height(&done.before) - height(&done.after)).abs() < 1e-6, "{scheme:?} {rate}");
        assert!(done.said.iter().any(|words| words.starts_with("the height of one flap stays")), "{:?}", done.said);
    }
    // In tiles of another size everything grows with them, the lift too.
    let target = Target { tile: Some(32.0), ..Target::default() };
    let done = convert("owl", &owl.replace("\"11 tiles/s\"", "\"176 px/s\""), &target).unwrap();
    assert!(done.text.contains("lift = \"352 px/s\""), "{}", done.text);
}
