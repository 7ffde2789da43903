//! A tuning from a recording: known tunings run through practice yards, told in whole pixels with frames missing, and found again.

use std::collections::BTreeMap;
use std::fmt::Write as _;

use rand_chacha::ChaCha8Rng;
use rand_chacha::rand_core::{RngCore, SeedableRng};
use wumple::analysis::{GameLoop, MatchError, MatchReport, match_recording};
use wumple::files::{Recording, RecordingUnits};
use wumple::numbers::{Acceleration, FallNumbers, JumpNumbers, JumpShape, Release, Scheme};
use wumple::units::Scale;
use wumple::{Buttons, ButtonsFile, Level, Timeline, Trace, Tuning, TuningFile, TuningNumbers, run};

const SCALE: Scale = Scale { tile: 16.0, frames_per_second: 60.0 };

/// A number from `low` to `high`.
fn between(random: &mut ChaCha8Rng, low: f64, high: f64) -> f64 {
    low + (high - low) * f64::from(random.next_u32()) / f64::from(u32::MAX)
}

fn pick<T: Copy>(random: &mut ChaCha8Rng, of: &[T]) -> T {
    of[random.next_u32() as usize % of.len()]
}

/// A tuning as games have them.
fn random_tuning(random: &mut ChaCha8Rng) -> TuningNumbers {
    let top_speed = between(random, 4.0, 10.0) * 16.0;
    let mut numbers = TuningNumbers::new(12.0, 20.0, top_speed);
    numbers.scheme = pick(random, &[Scheme::Exact, Scheme::VelocityFirst, Scheme::PositionFirst]);
    let mut rate = |least: f64, most: f64| Acceleration::Rate(top_speed / between(random, least, most));
    (numbers.run.acceleration, numbers.run.braking, numbers.run.turning) =
        (rate(0.1, 0.6), rate(0.1, 0.5), rate(0.08, 0.4));
    (numbers.air.acceleration, numbers.air.braking) = (Some(rate(0.1, 0.4)), Some(rate(0.1, 0.4)));
    let (height, time) = (between(random, 2.0, 5.0) * 16.0, between(random, 0.28, 0.5));
    let shape = JumpShape::SpeedAndGravity { speed: 2.0 * height / time, gravity: 2.0 * height / (time * time) };
    numbers.fall = FallNumbers { top_speed: between(random, 12.0, 25.0) * 16.0, ..FallNumbers::default() };
    numbers.fall.gravity_ratio = between(random, 1.0, 2.2);
    let release = pick(random, &[Release::None, Release::Cut { keep: 0.4 }, Release::Heavy { gravity_ratio: 2.5 }]);
    numbers.jump = Some(JumpNumbers { release, ..JumpNumbers::new(shape) });
    numbers
}

/// A plateau, and far below it to the right a floor.
fn yard() -> Level {
    let (plateau, floor) = (90, 40);
    let mut map = String::new();
    for row in 0..64 {
        let solid = |column: usize| if column < plateau { row >= 20 } else { row >= 62 };
        let letter = |column: usize| match () {
            () if row == 19 && column == 40 => '@',
            () if solid(column) => '#',
            () => '.',
        };
        map.extend((0..plateau + floor).map(letter));
        map.push('\n');
    }
    Level::parse("yard", &format!("tile = 16\n[map]\nrows = '''\n{map}'''\n")).unwrap()
}

/// Someone tries out a character: runs, stops, turns, jumps, hops, steers in the air, runs off the plateau.
fn practice(random: &mut ChaCha8Rng) -> (Timeline, u64) {
    let mut timeline = Timeline::default();
    let mut tick = 1;
    let mut hold = |seconds: f64, held: Buttons| {
        timeline.record(tick, held);
        tick += (seconds * 60.0) as u64;
    };
    let (left, right) = (Buttons { left: true, ..Buttons::NONE }, Buttons { right: true, ..Buttons::NONE });
    let jump = Buttons { jump: true, ..Buttons::NONE };
    hold(0.5, Buttons::NONE);
    for _ in 0..3 {
        for (way, back) in [(right, left), (left, right)] {
            hold(between(random, 0.9, 1.3), way);
            hold(between(random, 0.8, 1.0), Buttons::NONE);
            hold(between(random, 0.9, 1.2), back);
            hold(between(random, 1.0, 1.3), way);
            hold(between(random, 0.8, 1.0), Buttons::NONE);
        }
        hold(0.6, jump);
        hold(0.8, Buttons::NONE);
        hold(between(random, 0.03, 0.12), jump);
        hold(1.0, Buttons::NONE);
        hold(between(random, 1.0, 1.2), left);
        hold(0.6, Buttons { jump: true, ..left });
        hold(between(random, 0.8, 1.0), left);
        hold(0.9, Buttons::NONE);
        hold(between(random, 0.9, 1.2), right);
        hold(0.9, Buttons::NONE);
    }
    hold(22.0, right);
    hold(0.5, Buttons::NONE);
    (timeline, tick)
}

/// What a recording of it is like: whole pixels, now and then a frame missing.
fn told(trace: &Trace, random: &mut ChaCha8Rng) -> String {
    let cut_off = random.next_u32().is_multiple_of(2);
    let whole = |place: f64| if cut_off { place.floor() } else { place.round() };
    let mut text = String::from("frame,x,y\n");
    for row in &trace.rows {
        if !random.next_u32().is_multiple_of(20) {
            writeln!(text, "{},{},{}", row.tick, whole(row.feet.x), whole(row.feet.y)).unwrap();
        }
    }
    text
}

fn found(text: &str, scheme: Scheme) -> MatchReport {
    let units = RecordingUnits { y_down: true, ..RecordingUnits::new(60.0, &SCALE) };
    let recording = Recording::parse("practice.csv", text, &units).unwrap();
    match_recording(&recording, &GameLoop { rate: 60.0, scheme, scale: SCALE }).unwrap()
}

/// What the tuning says, px and seconds.
fn truths(numbers: &TuningNumbers) -> Vec<(&'static str, f64)> {
    let rate = |rate: Acceleration| if let Acceleration::Rate(rate) = rate { rate } else { f64::INFINITY };
    let JumpShape::SpeedAndGravity { speed, gravity } = numbers.jump.as_ref().unwrap().shape else { unreachable!() };
    vec![
        ("run.top_speed", numbers.run.top_speed),
        ("run.acceleration", rate(numbers.run.acceleration)),
        ("run.braking", rate(numbers.run.braking)),
        ("run.turning", rate(numbers.run.turning)),
        ("fall.top_speed", numbers.fall.top_speed),
        ("fall.gravity_ratio", numbers.fall.gravity_ratio),
        ("jump.speed", speed),
        ("jump.gravity", gravity),
    ]
}

/// How often a number was found, and how well.
#[derive(Clone, Copy, Debug, Default)]
struct Tally {
    found: usize,
    within_two_percent: usize,
    within_its_error: usize,
    far_off: usize,
}

/// So many random tunings; more with `MATCH_CASES=300` in the environment.
fn cases() -> u64 {
    std::env::var("MATCH_CASES").ok().and_then(|count| count.parse().ok()).unwrap_or(10)
}

#[test]
fn numbers_of_random_tunings_are_found_again() {
    let level = yard();
    let mut tallies: BTreeMap<&str, Tally> = BTreeMap::new();
    for seed in 0..cases() {
        let mut random = ChaCha8Rng::seed_from_u64(seed);
        let numbers = random_tuning(&mut random);
        let (timeline, ticks) = practice(&mut random);
        let trace = run(&level, &Tuning::check(&numbers).unwrap(), &timeline, ticks).unwrap();
        let report = found(&told(&trace, &mut random), numbers.scheme);
        for (key, truth) in truths(&numbers) {
            let tally = tallies.entry(key).or_default();
            let Some(number) = report.number(key) else {
                assert!(report.unseen.iter().any(|unseen| unseen.key == key), "{seed}: nothing is said of {key}");
                continue;
            };
            let off = (number.value - truth).abs();
            let error = number.error.unwrap_or(if number.at_once { f64::INFINITY } else { 0.0 });
            tally.found += 1;
            tally.within_two_percent += usize::from(off < 0.02 * truth);
            tally.within_its_error += usize::from(off <= error);
            if off > 4.0 * error.max(0.01 * truth) {
                println!("{seed}: {key} is {} +- {error}, not {truth}", number.value);
                tally.far_off += 1;
            }
        }
    }
    println!("{tallies:#?}");
    let all = tallies.values().fold(Tally::default(), |sum, tally| Tally {
        found: sum.found + tally.found,
        within_two_percent: sum.within_two_percent + tally.within_two_percent,
        within_its_error: sum.within_its_error + tally.within_its_error,
        far_off: sum.far_off + tally.far_off,
    });
    let asked = cases() as usize * tallies.len();
    assert!(all.found * 100 >= asked * 93, "{all:?} of {asked}");
    assert!(all.within_its_error * 100 >= all.found * 95, "{all:?}");
    // Nothing that is wrong is said with certainty.
    assert!(all.far_off * 500 <= all.found, "{all:?}");
    assert!(all.within_two_percent * 100 >= all.found * 85, "{all:?}");
}

fn dab() -> TuningFile {
    TuningFile::parse("dab", wumple::demo::DAB).unwrap()
}

/// Dab in the yard, with these buttons.
fn dab_in_the_yard(buttons: &str) -> Trace {
    let (timeline, _) = ButtonsFile::parse("buttons", buttons, &SCALE).unwrap().at_rate(60.0).unwrap();
    run(&yard(), &dab().tuning, &timeline, timeline.last_tick() + 60).unwrap()
}

fn in_full(trace: &Trace) -> String {
    let row = |row: &wumple::TickReport| format!("{},{},{}\n", row.tick, row.feet.x, row.feet.y);
    format!("tick,x_px,y_px\n{}", trace.rows.iter().map(row).collect::<String>())
}

#[test]
fn places_told_in_full_give_all_numbers_to_a_thousandth() {
    for seed in [2, 5, 9] {
        let mut random = ChaCha8Rng::seed_from_u64(seed);
        let numbers = random_tuning(&mut random);
        let (timeline, ticks) = practice(&mut random);
        let trace = run(&yard(), &Tuning::check(&numbers).unwrap(), &timeline, ticks).unwrap();
        let report = found(&in_full(&trace), numbers.scheme);
        for (key, truth) in truths(&numbers) {
            let number = report.number(key).unwrap_or_else(|| panic!("{seed}: {key}: {:?}", report.unseen));
            assert!((number.value / truth - 1.0).abs() < 1e-3, "{seed}: {number:?}, not {truth}");
        }
        // What follows the numbers is told beside them.
        assert!(report.pieces.iter().all(|piece| piece.off_px < 0.05), "{seed}: {:?}", report.pieces);
    }
}

#[test]
fn the_same_run_again_makes_nothing_surer() {
    let mut random = ChaCha8Rng::seed_from_u64(4);
    let numbers = random_tuning(&mut random);
    let (timeline, ticks) = practice(&mut random);
    let trace = run(&yard(), &Tuning::check(&numbers).unwrap(), &timeline, ticks).unwrap();
    let once = told(&trace, &mut random);
    let again = once.lines().skip(1).map(|row| {
        let (tick, places) = row.split_once(',').unwrap();
        format!("{},{places}\n", tick.parse::<u64>().unwrap() + ticks + 1)
    });
    let twice = format!("{once}{}", again.collect::<String>());
    let [once, twice] = [once, twice].map(|text| found(&text, numbers.scheme));
    for key in ["run.acceleration", "run.braking", "run.turning", "jump.speed", "jump.gravity"] {
        let [once, twice] = [&once, &twice].map(|report| report.number(key).unwrap().error.unwrap());
        assert!(twice > 0.9 * once, "{key}: {once}, then {twice}");
    }
}

#[test]
fn a_hang_is_refused_where_it_is_seen_and_noise_is_not() {
    let buttons = "0 -\n20 jump\n70 -\n120 right\n200 -\n280 left\n360 -";
    let hangs = found(&in_full(&dab_in_the_yard(buttons)), Scheme::Exact);
    assert!(hangs.number("jump.speed").is_none(), "{:?}", hangs.numbers);
    // The same jump without a hang, each place a little off, now one way, now the other.
    let mut random = ChaCha8Rng::seed_from_u64(6);
    let mut numbers = dab().tuning.numbers().clone();
    let jump = numbers.jump.as_mut().unwrap();
    jump.hang = None;
    let JumpShape::HeightAndTime { height, .. } = jump.shape else { panic!("{jump:?}") };
    let (timeline, _) = ButtonsFile::parse("buttons", buttons, &SCALE).unwrap().at_rate(60.0).unwrap();
    let trace = run(&yard(), &Tuning::check(&numbers).unwrap(), &timeline, 420).unwrap();
    let mut text = String::from("frame,x,y\n");
    for row in &trace.rows {
        // On the ground it is told as it is.
        let noise = if row.contacts.below { 0.0 } else { between(&mut random, -0.1, 0.1) };
        writeln!(text, "{},{:.3},{:.3}", row.tick, row.feet.x, row.feet.y + noise).unwrap();
    }
    let jump = found(&text, Scheme::Exact).number("jump.height").cloned().unwrap();
    assert!((jump.value - height).abs() <= jump.error.unwrap() && jump.error.unwrap() < 0.02 * height, "{jump:?}");
}

#[test]
fn what_is_never_shown_is_said() {
    let report = found(&in_full(&dab_in_the_yard("0 -\n30 right\n120 -")), Scheme::Exact);
    let why = |key: &str| report.unseen.iter().find(|unseen| unseen.key == key).map(|unseen| unseen.why.as_str());
    assert_eq!(why("jump.speed"), Some("nothing jumps from level ground"));
    assert_eq!(why("fall.top_speed"), Some("no fall can be followed"));
    assert_eq!(
        why("run.turning"),
        Some("there is no turn from the top speed one way to the other that can be followed")
    );
    assert!(report.number("run.top_speed").is_some() && why("run.top_speed").is_none());
}

#[test]
fn a_recording_upside_down_says_so() {
    let text = in_full(&dab_in_the_yard("0 -\n20 jump\n70 -\n120 -"));
    let recording = Recording::parse("practice.csv", &text, &RecordingUnits::new(60.0, &SCALE)).unwrap();
    let looped = GameLoop { rate: 60.0, scheme: Scheme::Exact, scale: SCALE };
    assert_eq!(match_recording(&recording, &looped), Err(MatchError::UpsideDown));
}

#[test]
fn the_file_of_who_never_jumps_is_right_and_a_jump_that_is_there_stays() {
    let mut random = ChaCha8Rng::seed_from_u64(1);
    let numbers = random_tuning(&mut random);
    let mut timeline = Timeline::default();
    timeline.record(30, Buttons { right: true, ..Buttons::NONE });
    let trace = run(&yard(), &Tuning::check(&numbers).unwrap(), &timeline, 1400).unwrap();
    let report = found(&told(&trace, &mut random), numbers.scheme);
    assert!(report.number("fall.gravity").is_some() && report.number("jump.speed").is_none(), "{report:?}");
    let new = TuningFile::parse("found", &report.tuning_text()).unwrap().tuning;
    assert!(new.numbers().jump.is_none() && new.numbers().fall.gravity.is_some());
    let into = TuningFile::parse("found", &report.tuning_text_into(wumple::demo::DAB)).unwrap().tuning;
    assert_eq!(into.numbers().jump, dab().tuning.numbers().jump);
}

#[test]
fn the_file_that_is_written_is_a_tuning_with_the_numbers() {
    let mut random = ChaCha8Rng::seed_from_u64(1);
    let numbers = random_tuning(&mut random);
    let (timeline, ticks) = practice(&mut random);
    let trace = run(&yard(), &Tuning::check(&numbers).unwrap(), &timeline, ticks).unwrap();
    let report = found(&told(&trace, &mut random), numbers.scheme);
    let close = |a: f64, b: f64| (a / b - 1.0).abs() < 1e-3;
    for text in [report.tuning_text(), report.tuning_text_into(wumple::demo::DAB)] {
        let file = TuningFile::parse("found", &text).unwrap_or_else(|wrong| panic!("{wrong}\n{text}"));
        let written = file.tuning.numbers();
        let JumpShape::SpeedAndGravity { speed, .. } = written.jump.as_ref().unwrap().shape else { panic!("{text}") };
        assert!(close(speed, report.number("jump.speed").unwrap().value), "{text}");
        assert!(close(written.run.top_speed, report.number("run.top_speed").unwrap().value), "{text}");
        assert!(close(written.fall.gravity_ratio, report.number("fall.gravity_ratio").unwrap().value), "{text}");
    }
}
