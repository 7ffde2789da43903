//! Wishes into numbers, and numbers into other loops.

use proptest::prelude::*;
use wumple::{
    ArcKind, JumpArc, Loop, Scale, Scheme, Target, TuningFile, UnitStyle, Wishes, arcs, convert, demo, fit, rounding_of,
};

const SCHEMES: [Scheme; 3] = [Scheme::Exact, Scheme::VelocityFirst, Scheme::PositionFirst];

fn looped(scheme: Scheme, rate: f64) -> Loop {
    Loop { rate, scheme, scale: Scale { tile: 16.0, frames_per_second: rate } }
}

fn arc(file: &TuningFile, kind: ArcKind) -> JumpArc {
    arcs([file]).tunings[0].arc(kind).unwrap().clone()
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(400))]

    /// Fit, write, read, measure: the wished height to 1e-6 px, and the wished tick.
    #[test]
    fn what_is_fitted_is_what_arcs_measures(
        height in 8.0..200.0f64, time in 0.1..0.9f64, fall_ratio in 0.5..4.0f64, tap in 0.1..0.9f64,
        scheme in prop::sample::select(&SCHEMES[..]), rate in prop::sample::select(&[30.0, 50.0, 60.0, 144.0][..]),
    ) {
        let wishes = Wishes {
            height: Some(height),
            time_to_apex: Some(time),
            tap_height: Some(height * tap),
            fall_ratio: Some(fall_ratio),
            ..Wishes::default()
        };
        let found = fit(&wishes, &looped(scheme, rate)).unwrap();
        let written = TuningFile::parse("w", &found.to_tuning_text()).unwrap();
        let full = arc(&written, ArcKind::Full);
        prop_assert!((full.apex_height_px - height).abs() < 1e-6, "{}", full.apex_height_px);
        let ticks = time * rate;
        let expected = if scheme.is_stepped() { (ticks + 0.5 + 1e-9).floor().max(2.0) } else { (ticks - 1e-6).ceil() };
        prop_assert_eq!(full.apex_tick, expected as u64);
        prop_assert_eq!(found.predicted.apex_tick, full.apex_tick);
        prop_assert!((found.predicted.air_time_s - full.air_time_s).abs() < 1e-9);
        prop_assert_eq!(found.warnings.is_empty(), !scheme.is_stepped() || (ticks - expected).abs() < 1e-6);
        let hop = arc(&written, ArcKind::Tap).apex_height_px;
        prop_assert!(hop >= height * tap - 1e-6, "{hop}");
    }

    /// A gap at top speed instead of a time: it is cleared, and in the stepped schemes with no tick to spare.
    #[test]
    fn a_gap_wished_for_is_cleared(
        height in 8.0..200.0f64, gap in 20.0..300.0f64, top_speed in 60.0..400.0f64, fall_ratio in 0.5..3.0f64,
        scheme in prop::sample::select(&SCHEMES[..]),
    ) {
        prop_assume!(gap / top_speed > 0.15 && gap / top_speed < 2.0);
        let wishes = Wishes {
            height: Some(height),
            gap: Some(gap),
            top_speed: Some(top_speed),
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
    let px = |tiles: f64| Some(tiles * 16.0);
    let table = [
        (Wishes::default(), "a jump needs a height: add --height"),
        (
            Wishes { height: px(3.0), ..Wishes::default() },
            "a jump needs a time as well: add --time-to-apex, or --gap and --top-speed, which decide it",
        ),
        (Wishes { height: Some(-1.0), ..Wishes::default() }, "the height must be above 0"),
        (Wishes { height: px(3.0), fall_ratio: Some(0.0), ..Wishes::default() }, "the fall ratio must be above 0"),
        (
            Wishes { height: px(3.5), time_to_apex: Some(0.2), gap: px(9.0), top_speed: px(7.0), ..Wishes::default() },
            "a gap of 9 tiles in 0.4 s needs 22.5 tiles/s; top speed is 7",
        ),
        (
            Wishes { height: px(2.0), time_to_apex: Some(0.3), tap_height: px(3.0), ..Wishes::default() },
            "a smallest hop of 3 tiles is higher than the full jump of 2 tiles",
        ),
        (
            Wishes { height: px(2.0), time_to_apex: Some(1e-6), ..Wishes::default() },
            "jump.time_to_apex makes the take-off speed 64000000 px/s; it may be at most 1000000 px/s; \
             jump.time_to_apex makes the gravity 64000000000000 px/s^2; it may be at most 1000000000000 px/s^2",
        ),
    ];
    for (wishes, message) in table {
        assert_eq!(fit(&wishes, &looped(Scheme::Exact, 60.0)).unwrap_err().to_string(), message);
    }
}

#[test]
fn a_fit_changes_just_its_numbers_in_a_tuning() {
    let wishes = Wishes { height: Some(64.0), time_to_apex: Some(0.4), fall_ratio: Some(2.0), ..Wishes::default() };
    let found = fit(&wishes, &looped(Scheme::Exact, 60.0)).unwrap();
    let text = found.write_into(demo::DAB);
    let changed: Vec<&str> = text.lines().filter(|line| !demo::DAB.lines().any(|old| old == *line)).collect();
    assert_eq!(
        changed,
        ["gravity_ratio = 2.0          # of the rise gravity", "height = \"64 px\"", "time_to_apex = \"0.4 s\""]
    );
    assert_eq!(text.lines().count(), demo::DAB.lines().count());
    let full = arc(&TuningFile::parse("t", &text).unwrap(), ArcKind::Full);
    assert!((full.apex_height_px - 64.0).abs() < 1e-9 && (full.apex_time_s - 0.4).abs() < 1e-9);
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
