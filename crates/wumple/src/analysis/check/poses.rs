//! What is wrong with the poses of a tuning: nothing to show, feet that slide, a pose that only flashes up.

use wumple_core::{Facing, State, Tuning};

use super::{Finding, FindingKind};
use crate::files::{TrialFile, TuningFile};
use crate::poses::{Advance, Harm, Pose, Situation};
use crate::trace::Trace;
use crate::units::short;

pub(super) fn check(tuning: &TuningFile, found: &mut Vec<Finding>) {
    if tuning.poses.is_empty() {
        return;
    }
    let mut note = |kind, words: [String; 3]| found.push(Finding::new(kind, tuning.place_of("pose"), words));
    let is_shown = |case: &Situation| tuning.poses.iter().any(|pose| pose.when.holds_in(case));
    for state in State::ALL.into_iter().filter(|state| has(&tuning.tuning, *state)) {
        let cases = situations(&tuning.tuning, state);
        if let Some(case) = cases.iter().copied().find(|case| !is_shown(case)) {
            let is_of_all =
                !cases.iter().any(|other| Situation { facing: case.facing, ..*other } == case && is_shown(other));
            let looking = if is_of_all { String::new() } else { format!(", looking {}", case.facing.name()) };
            let words = [
                format!("no pose is to be shown in state {state}{looking}{}", doing(&case)),
                "the picture of before stays, or none is drawn".to_owned(),
                "a last [[pose]] without \"when\", which is shown where no other is".to_owned(),
            ];
            note(FindingKind::StateWithoutPose, words);
        }
    }
    for pose in &tuning.poses {
        if let Some((pace, (doing, speed))) = paced(pose).zip(going(&tuning.tuning, pose)) {
            let stride = short(speed / pace);
            let words = [
                format!("pose {} is for {doing}, and shows {} pictures a second", pose.name, short(pace)),
                format!(
                    "feet slide: each is shown for {stride} px at {} px/s, for another way at any other speed",
                    short(speed)
                ),
                format!("stride = \"{stride} px\" instead of pace"),
            ];
            note(FindingKind::FeetSlide, words);
        }
    }
}

/// The poses that are shown for one tick of a run, between two others.
pub(super) fn check_run(trial: &TrialFile, trace: &Trace, found: &mut Vec<Finding>) {
    let goes_on = |one: &usize, next: &usize| {
        trace.shown[*one].pose == trace.shown[*next].pose && trace.attempt(*one) == trace.attempt(*next)
    };
    let rows: Vec<usize> = (0..trace.shown.len()).collect();
    let stretches: Vec<&[usize]> = rows.chunk_by(goes_on).collect();
    for three in stretches.windows(3) {
        let [before, [tick], after] = three else { continue };
        let attempts = [before[0], *tick, after[0]].map(|row| trace.attempt(row));
        if attempts[0] != attempts[2] {
            continue;
        }
        let name = |row: usize| &trace.shown[row].pose;
        let words = [
            format!(
                "pose {} is shown for one tick, {tick}, between {} and {}",
                name(*tick),
                name(before[0]),
                name(after[0])
            ),
            "the picture twitches".to_owned(),
            format!(
                "state {} in the \"when\" of a pose beside it, or a motion that does not come to that state for a tick",
                trace.rows[*tick].state
            ),
        ];
        found.push(Finding::new(FindingKind::PoseFlashes, trial.place.clone(), words));
    }
}

/// Whether a character with this tuning can come to be in a state.
fn has(tuning: &Tuning, state: State) -> bool {
    let numbers = tuning.numbers();
    let wall = numbers.wall.as_ref();
    if numbers.four_way.is_some() {
        return matches!(state, State::Stand | State::Run);
    }
    match state {
        State::Stand | State::Run | State::Fall => true,
        State::Rise => numbers.jump.is_some(),
        State::WallSlide => wall.is_some_and(|wall| wall.slide.is_some()),
        State::WallHold => wall.is_some_and(|wall| wall.hold.is_some()),
        State::Ladder => numbers.ladder.is_some(),
        State::Fly => numbers.flight.is_some(),
        _ => false,
    }
}

/// What a state is commonly like, of somebody who is not hurt.
fn situations(tuning: &Tuning, state: State) -> Vec<Situation> {
    let from_above = tuning.numbers().four_way.is_some();
    let support = !from_above && matches!(state, State::Stand | State::Run);
    let cases: &[(bool, bool)] = match state {
        State::Stand => &[(false, false)],
        State::Run | State::Fall | State::WallSlide => &[(true, false)],
        State::Rise => &[(true, true)],
        State::Fly => &[(true, true), (true, false)],
        _ => &[(false, false), (true, true), (true, false)],
    };
    let facings = Facing::ALL.into_iter().filter(|facing| from_above || matches!(facing, Facing::Left | Facing::Right));
    let each = facings.flat_map(|facing| cases.iter().map(move |case| (facing, *case)));
    let case = |(facing, (moved, rising))| Situation { state, facing, support, moved, rising, harm: Harm::default() };
    each.map(case).collect()
}

/// The same in words, where a state has several.
fn doing(case: &Situation) -> &'static str {
    match (case.state, case.moved, case.rising) {
        (State::Fly, _, false) => ", going down",
        (State::Ladder | State::WallHold, false, _) => ", at rest",
        (State::Ladder | State::WallHold, true, false) => ", going down",
        (State::Fly | State::Ladder | State::WallHold, true, true) => ", going up",
        _ => "",
    }
}

/// How many pictures a second a pose shows, if they are several.
fn paced(pose: &Pose) -> Option<f64> {
    match pose.advance {
        Advance::Pace(pace) if pose.pictures > 1 => Some(pace),
        _ => None,
    }
}

/// What a pose is for, if it is for going on foot or by hand, and how fast that is.
fn going(tuning: &Tuning, pose: &Pose) -> Option<(&'static str, f64)> {
    let numbers = tuning.numbers();
    let (doing, speed) = match pose.when.states.as_slice() {
        [State::Run] => ("running", numbers.four_way.map_or(numbers.run.top_speed, |walk| walk.top_speed)),
        [State::Ladder] if pose.when.moved == Some(true) => ("climbing", numbers.ladder?.up_speed),
        _ => return None,
    };
    (speed > 0.0).then_some((doing, speed))
}
