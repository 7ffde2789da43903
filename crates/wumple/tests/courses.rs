//! Courses: each passes its own trial, the same seed gives the same, and what cannot be says what would.

use proptest::prelude::*;
use wumple::analysis::{Course, CourseError, CourseSettings, ReachAnswer, ReachSettings, StepKind, course, reach};
use wumple::units::QuantityRange;
use wumple::{TrialFile, TuningFile, demo};

fn dab() -> TuningFile {
    TuningFile::parse("dab", demo::DAB).unwrap()
}

fn settings(steps: usize, rise: &str, apart: &str) -> CourseSettings {
    CourseSettings::new(steps, QuantityRange::parse(rise).unwrap(), QuantityRange::parse(apart).unwrap())
}

/// A walker who jumps so high, in so many s, with so much more.
fn walker() -> impl Strategy<Value = String> {
    (20u32..50, 25u32..50, 5u32..11, 0u32..2, 0usize..3).prop_map(|(height, apex, speed, air, scheme)| {
        let scheme = ["exact", "velocity-first", "position-first"][scheme];
        format!(
            "[tick]\nscheme = \"{scheme}\"\n[body]\nwidth = 10\nheight = 20\n[run]\ntop_speed = \"{speed} tiles/s\"\nacceleration = \"0.1 s\"\n[fall]\ngravity_ratio = 1.4\ntop_speed = \"18 tiles/s\"\n[jump]\nheight = \"{} tiles\"\ntime_to_apex = \"{} s\"\nair_jumps = {air}\ncoyote_time = \"0.1 s\"\n",
            f64::from(height) / 10.0,
            f64::from(apex) / 100.0
        )
    })
}

/// Written as files and read again.
fn passes_its_trial(made: &Course, tuning_text: &str) {
    let folder = tempfile::tempdir().unwrap();
    let names = ["level.toml", "walker.tuning.toml", "climb.buttons"];
    let trial = folder.path().join("course.trial.toml");
    std::fs::write(&trial, made.trial_text(names)).unwrap();
    for (name, text) in names.into_iter().zip([made.level_text.as_str(), tuning_text, &made.buttons_text()]) {
        std::fs::write(folder.path().join(name), text).unwrap();
    }
    let outcome = TrialFile::read(&trial).unwrap().run().unwrap();
    assert!(outcome.passed(), "{outcome}\n{}", made.level_text);
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 12, ..ProptestConfig::default() })]

    /// As files, read again: the buttons climb it, and so it is expected.
    #[test]
    fn every_course_passes_its_own_trial(text in walker(), steps in 1usize..9, seed in any::<u64>(), share in 60u32..=100, weights in prop::array::uniform4(0u32..3)) {
        let tuning = TuningFile::parse("walker", &text).unwrap();
        let mut settings = settings(steps, "0.5..1.2 tiles", "-3..3 tiles");
        (settings.seed, settings.share) = (seed, f64::from(share) / 100.0);
        settings.weights = if weights == [0; 4] { [1, 0, 0, 0] } else { weights };
        let made = course(&tuning, &settings, |_| true).unwrap_or_else(|error| panic!("{error}\n{text}{settings:?}"));
        prop_assert_eq!(made.steps.len(), steps);
        for step in &made.steps {
            prop_assert!((8.0..=19.0).contains(&step.rise_px) && step.apart_px.abs() <= 48.0, "{:?}", step);
        }
        prop_assert_eq!(made.steps[steps - 1].tick, Some(made.ticks));
        passes_its_trial(&made, &text);
    }
}

/// The hitbox of one who stands there by the last bit of a number does not overlap what begins at the edge.
#[test]
fn who_stands_on_the_very_edge_of_the_last_step_is_at_the_goal() {
    let text = "[tick]\nscheme = \"velocity-first\"\n[body]\nwidth = 10\nheight = 20\n[run]\ntop_speed = \"10 tiles/s\"\nacceleration = \"0.1 s\"\n[fall]\ngravity_ratio = 1.4\ntop_speed = \"18 tiles/s\"\n[jump]\nheight = \"3.4 tiles\"\ntime_to_apex = \"0.38 s\"\ncoyote_time = \"0.1 s\"\n";
    let tuning = TuningFile::parse("walker", text).unwrap();
    let mut settings = settings(4, "0.5..1.2 tiles", "-3..3 tiles");
    (settings.seed, settings.share, settings.weights) = (17_194_592_309_516_542_755, 0.6, [1, 0, 0, 0]);
    passes_its_trial(&course(&tuning, &settings, |_| true).unwrap(), text);
}

#[test]
fn the_same_seed_gives_the_same_and_another_another() {
    let with = |seed: u64| {
        let mut settings = settings(6, "1..3 tiles", "-4..4 tiles");
        (settings.seed, settings.weights) = (seed, [2, 1, 1, 1]);
        let made = course(&dab(), &settings, |_| true).unwrap();
        (made.level_text.clone(), made.buttons_text())
    };
    assert_eq!(with(7), with(7));
    assert_ne!(with(7).0, with(8).0);
}

#[test]
fn steps_are_of_the_kinds_that_have_a_weight_and_the_last_is_a_shelf() {
    for (kind, weights) in
        [(StepKind::Slab, [0, 1, 0, 0]), (StepKind::Platform, [0, 0, 1, 0]), (StepKind::Bellows, [0, 0, 0, 1])]
    {
        let mut settings = settings(4, "1..2 tiles", "-3..3 tiles");
        settings.weights = weights;
        let made = course(&dab(), &settings, |_| true).unwrap();
        let kinds: Vec<StepKind> = made.steps.iter().map(|step| step.kind).collect();
        assert_eq!(kinds, [kind, kind, kind, StepKind::Shelf]);
        assert!(made.level_text.contains(&format!("id = \"{kind}-1\"")), "{}", made.level_text);
    }
}

/// What is kept is come to with a share of the jump's height: so never more than that is asked.
#[test]
fn no_step_asks_for_more_than_the_share() {
    let text = "[body]\nwidth = 10\nheight = 20\n[run]\ntop_speed = \"7 tiles/s\"\n[jump]\nheight = \"3 tiles\"\ntime_to_apex = \"0.35 s\"\n";
    let walker = TuningFile::parse("walker", text).unwrap();
    for share in [0.5, 0.75, 1.0] {
        let mut settings = settings(12, "0.5..4 tiles", "-4..4 tiles");
        settings.share = share;
        let made = course(&walker, &settings, |_| true).unwrap();
        let highest = made.steps.iter().map(|step| step.rise_px / 16.0).fold(0.0, f64::max);
        assert!(highest <= 3.0 * share + 0.01 && highest > 2.0 * share, "{highest} of {share}");
    }
}

#[test]
fn what_cannot_be_says_what_would() {
    let walker = "[body]\nwidth = 10\nheight = 20\n[run]\ntop_speed = \"7 tiles/s\"\n[jump]\nheight = \"3 tiles\"\ntime_to_apex = \"0.35 s\"\n";
    let walker = TuningFile::parse("walker", walker).unwrap();
    let error = course(&walker, &settings(3, "4..5 tiles", "-2..2 tiles"), |_| true).unwrap_err();
    let CourseError::NoStep { step, nearest, .. } = &error else { panic!("{error}") };
    assert_eq!((*step, nearest.as_str()), (1, "the nearest that is rises 3 tiles, 0 tiles apart"));
    // From the second on nothing so far away is come to, but by way of the floor.
    let error = course(&walker, &settings(3, "2.5..2.5 tiles", "12..14 tiles"), |_| true).unwrap_err().to_string();
    assert!(error.starts_with("step 2: ") && error.ends_with("rises 0.5 tiles, 12 tiles apart"), "{error}");
    let text = "[body]\nwidth = 10\nheight = 20\n[run]\ntop_speed = 100\n[fall]\ngravity = 900\n";
    let on_foot = TuningFile::parse("on foot", text).unwrap();
    let error = course(&on_foot, &settings(3, "1..2 tiles", "0..3 tiles"), |_| true).unwrap_err().to_string();
    assert!(error.ends_with("not even one beside it is"), "{error}");
    for (change, words) in [
        ((|s: &mut CourseSettings| s.steps = 0) as fn(&mut CourseSettings), "from 1 to 500 steps"),
        (|s| s.share = 1.2, "above 0 and at most 1"),
        (|s| s.weights = [0; 4], "no kind of step is left"),
        (|s| s.rise = QuantityRange::parse("1..2 s").unwrap(), "the rise is a length"),
        (|s| s.rise = QuantityRange::parse("3..2 tiles").unwrap(), "the rise goes from its least"),
        (|s| s.rise = QuantityRange::parse("-1..2 tiles").unwrap(), "a course goes up"),
    ] {
        let mut settings = settings(3, "1..2 tiles", "-2..2 tiles");
        change(&mut settings);
        let error = course(&dab(), &settings, |_| true).unwrap_err().to_string();
        assert!(error.contains(words), "{error}");
    }
}

/// What is stopped has the steps that there were by then, and the way over them; the last is one to stand on.
#[test]
fn a_course_that_is_stopped_ends_with_what_it_has() {
    let whole = settings(9, "1..2 tiles", "-2..2 tiles");
    let after = |steps: u64, settings: &CourseSettings| course(&dab(), settings, |done| done < steps);
    let four = after(4, &whole).unwrap();
    let all = course(&dab(), &whole, |_| true).unwrap();
    let places = |made: &Course| made.steps.iter().map(|step| (step.rise_px, step.apart_px)).collect::<Vec<_>>();
    assert_eq!(places(&four), places(&all)[..4]);
    passes_its_trial(&four, demo::DAB);
    assert_eq!(after(0, &whole).unwrap_err(), CourseError::Stopped { steps: 0 });
    assert_eq!(after(9, &whole).unwrap_err(), CourseError::Stopped { steps: 9 });
    let mut mixed = whole;
    mixed.weights = [1, 1, 1, 0];
    for steps in 1..9 {
        match after(steps, &mixed) {
            Ok(made) => {
                assert!(made.steps.len() as u64 <= steps && made.steps.last().unwrap().kind == StepKind::Shelf);
                passes_its_trial(&made, demo::DAB);
            }
            Err(error) => assert_eq!(error, CourseError::Stopped { steps: steps as usize }),
        }
    }
}

/// Straight towards the top of this one no way is found in ten times as many ticks: it leads from step to step.
#[test]
fn the_top_of_a_tall_course_is_found_also_where_it_alone_is_asked_after() {
    let made = course(&dab(), &settings(122, "2..3.4 tiles", "-4..4 tiles"), |_| true).unwrap();
    let mut settings = ReachSettings::default();
    settings.only = vec!["goal".into()];
    let report = reach(&made.level, &dab(), &settings, |_| true).unwrap();
    let answer = &report.targets[0].answer;
    assert!(matches!(answer, ReachAnswer::Reached { .. }), "{answer:?} after {} ticks", report.ticks_tried);
}
