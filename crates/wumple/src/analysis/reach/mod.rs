//! What of a level can be reached: with the buttons that do it, or with the reason why nobody can.

mod bounds;
mod changes;
mod choices;
mod deadly;
mod likeness;
mod places;
mod relaxed;
mod run;
mod search;
mod strides;
mod tree;
mod way;

use rayon::prelude::*;
use serde::Serialize;
use wumple_core::{DVec2, ZoneId};

use crate::files::{Level, Timeline, TuningFile, listed, nearest};
use crate::names::is_of_word;
use changes::Changes;
pub use changes::ReachChange;
use deadly::Deadly;
use places::{Spot, Target, targets};
use relaxed::Relaxed;
use run::{Run, Wanted};
use search::search;
use way::Way;

/// What is asked.
#[derive(Clone, Debug, PartialEq)]
#[non_exhaustive]
pub struct ReachSettings {
    /// Where the feet are at the start, px, y down; the level's spawn where none is given.
    pub from: Option<DVec2>,
    /// What is asked after, in the words of [`Reach::target`] or by their part before the `@` or `:`: `goal`. Everything, where it is
    /// empty.
    pub only: Vec<String>,
    /// No more ticks are tried.
    pub most_ticks: u64,
    /// Whether ways are looked for to what is out of reach, too, until no ticks are left: for whoever would see it tried.
    pub tries_all: bool,
    /// Whether presses that a way does without are taken out of it. It costs about as much again as the search.
    pub shortens: bool,
    /// Whether, for what is not reached, the single changes are looked for by which it would be. Each is tried by a search of its own.
    pub changes: bool,
}

impl Default for ReachSettings {
    fn default() -> ReachSettings {
        ReachSettings {
            from: None,
            only: Vec::new(),
            most_ticks: 4_000_000,
            tries_all: false,
            shortens: false,
            changes: false,
        }
    }
}

/// What can be reached of a level.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[non_exhaustive]
pub struct ReachReport {
    /// The level's name.
    pub level: String,
    /// The tuning's name.
    pub tuning: String,
    /// Ticks a second.
    pub rate_hz: f64,
    /// Where it starts: the feet, px, y down.
    pub from_px: [f64; 2],
    /// How many ticks were tried.
    pub ticks_tried: u64,
    /// Goals, pickups, checkpoints, and places to stand on.
    pub targets: Vec<Reach>,
}

/// What is known of something that is asked after.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[non_exhaustive]
pub struct Reach {
    /// In the words of a trace, `goal@12,8`; of a place to stand on its columns and the row above it, `top@3-7,9`; `platform:hoist`.
    pub target: String,
    /// The zone, if it is one.
    #[serde(skip)]
    pub zone: Option<ZoneId>,
    /// A box around it, px, y down: left, top, right, bottom; of a zone, where it is felt; of a platform, all the places of its route.
    pub place_px: [f64; 4],
    /// Whether it can be reached.
    #[serde(flatten)]
    pub answer: ReachAnswer,
    /// By which single changes it would be reached, if it is not and they were [asked for](ReachSettings::changes): of each kind the
    /// least that was seen to do.
    #[serde(skip_serializing_if = "Vec::is_empty")]
    pub changes: Vec<ReachChange>,
}

/// Why nothing can be said.
#[derive(Clone, Debug, PartialEq, Eq, thiserror::Error)]
#[non_exhaustive]
pub enum ReachError {
    /// The character does not fit at the start, or the level cannot be set up for it: why not.
    #[error("{0}")]
    NoRoom(String),
    /// Nothing is called so in the level.
    #[error("nothing is called \"{word}\" there; {remedy}")]
    UnknownTarget {
        /// What was asked after.
        word: String,
        /// What is there.
        remedy: String,
    },
}

/// Whether something can be reached.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[serde(tag = "answer", rename_all = "kebab-case")]
pub enum ReachAnswer {
    /// With these buttons, in the last of these ticks. They were run from the start before it was said.
    Reached {
        /// What is held.
        #[serde(skip)]
        held: Timeline,
        /// How many ticks it takes.
        ticks: u64,
        /// Where the feet are on the way, px, y down: at the start, and after each tick.
        #[serde(skip)]
        path: Vec<DVec2>,
    },
    /// By nobody, for this reason. Never said of what can be reached.
    OutOfReach {
        /// In words.
        why: String,
    },
    /// Within the ticks tried no way was found, and that there is none is not certain.
    NotFound,
}

/// What of a level can be reached by a character.
///
/// `goes_on` is told how many ticks were tried, now and then; where it says no, what is not found by then is not found.
///
/// # Errors
///
/// See [`ReachError`].
pub fn reach(
    level: &Level,
    tuning: &TuningFile,
    settings: &ReachSettings,
    mut goes_on: impl FnMut(u64) -> bool,
) -> Result<ReachReport, ReachError> {
    reach_told(level, tuning, settings, &mut goes_on)
}

/// Is told how many ticks were tried, and says whether to go on. Not a type of each caller: so the search is compiled once.
type GoesOn<'a> = &'a mut dyn FnMut(u64) -> bool;

fn reach_told(
    level: &Level,
    tuning: &TuningFile,
    settings: &ReachSettings,
    goes_on: GoesOn<'_>,
) -> Result<ReachReport, ReachError> {
    let (chosen, others) = chosen(targets(level, &tuning.tuning), &settings.only)?;
    let (mut rows, ticks_tried) = answers(level, tuning, &chosen, others, settings, goes_on)?;
    if settings.changes {
        let changes = Changes { level, tuning, settings };
        for (target, row) in chosen.iter().zip(&mut rows) {
            if !matches!(row.answer, ReachAnswer::Reached { .. }) {
                row.changes = changes.of(target, &mut |tried| goes_on(ticks_tried + tried));
            }
        }
    }
    Ok(ReachReport {
        level: level.name.clone(),
        tuning: tuning.name.clone(),
        rate_hz: tuning.tuning.rate(),
        from_px: settings.from.unwrap_or_else(|| level.spawn()).to_array(),
        ticks_tried,
        targets: rows,
    })
}

/// No more names are told where one is not known.
const MOST_LISTED: usize = 40;

/// What is asked after, of all that is there, and the rest.
fn chosen(targets: Vec<Target>, only: &[String]) -> Result<(Vec<Target>, Vec<Target>), ReachError> {
    for word in only {
        if !targets.iter().any(|target| is_of_word(&target.name, word)) {
            let names = || targets.iter().map(|target| target.name.as_str());
            // By its kind alone, if what is meant is only that.
            let kinds = || names().map(|name| name.split(['@', ':']).next().unwrap_or(name));
            let remedy = nearest(word, kinds().chain(names())).map_or_else(
                || format!("it has {}", listed(names().take(MOST_LISTED))),
                |near| format!("did you mean \"{near}\"?"),
            );
            return Err(ReachError::UnknownTarget { word: word.clone(), remedy });
        }
    }
    let is_asked = |target: &Target| only.is_empty() || only.iter().any(|word| is_of_word(&target.name, word));
    Ok(targets.into_iter().partition(is_asked))
}

/// An answer for each target, and how many ticks were tried. A way may lead by the others.
fn answers(
    level: &Level,
    tuning: &TuningFile,
    targets: &[Target],
    others: Vec<Target>,
    settings: &ReachSettings,
    goes_on: GoesOn<'_>,
) -> Result<(Vec<Reach>, u64), ReachError> {
    let start = settings.from.unwrap_or_else(|| level.spawn());
    let run = Run::start(level, &tuning.tuning, start).map_err(ReachError::NoRoom)?;
    let deadly = Deadly::of(level, &tuning.tuning);
    let why_not = |targets: &[Target]| -> Vec<Option<String>> {
        let relaxed = Relaxed::of(level, &tuning.tuning, start, targets);
        let of = |(at, target)| relaxed.why_not(at).or_else(|| deadly.why_not(target));
        targets.iter().enumerate().map(of).collect()
    };
    let reasons = why_not(targets);
    let open = reasons.iter().map(|reason| settings.tries_all || reason.is_none()).collect();
    let all = [targets, &others].concat();
    let open_others = || why_not(&others).iter().map(Option::is_none).collect();
    let found = search(&run, &all, open, open_others, settings.most_ticks, goes_on);
    let wanted = Wanted::of(targets);
    let shortened = |(index, way): (usize, Option<Way>)| {
        let way = way?;
        Some(if settings.shortens { way.shortened(&run, &wanted, index) } else { way })
    };
    let ways: Vec<Option<Way>> = found.ways.into_par_iter().enumerate().map(shortened).collect();
    let rows = targets.iter().zip(ways).zip(reasons).map(|((target, way), reason)| {
        let answer = match (way, reason) {
            (Some(Way { held, path }), reason) => {
                debug_assert_eq!(reason, None, "{} is reached", target.name);
                ReachAnswer::Reached { held, ticks: path.len() as u64 - 1, path }
            }
            (None, Some(why)) => ReachAnswer::OutOfReach { why },
            (None, None) => ReachAnswer::NotFound,
        };
        let place = match &target.spot {
            Spot::Top(top) => [top.left, top.y, top.right, top.y],
            Spot::Platform { place, .. } => [place.left, place.top, place.right, place.bottom],
            Spot::Zone(boxes) => {
                let whole = boxes.iter().copied().reduce(|one, other| one.around(&other));
                whole.map_or([0.0; 4], |whole| [whole.left, whole.top, whole.right, whole.bottom])
            }
            Spot::Unknown => [0.0; 4],
        };
        Reach { target: target.name.clone(), zone: target.zone, place_px: place, answer, changes: Vec::new() }
    });
    Ok((rows.collect(), found.ticks))
}
