//! What of a level can be reached: with the buttons that do it, or with the reason why nobody can.

mod bounds;
mod places;
mod relaxed;
mod search;

use rayon::prelude::*;
use serde::Serialize;
use wumple_core::{DVec2, ZoneId};

use crate::files::{Level, Timeline, TuningFile};
use places::{Spot, targets};
use relaxed::Relaxed;
use search::{Run, Wanted, search};

/// What is asked.
#[derive(Clone, Copy, Debug, PartialEq)]
#[non_exhaustive]
pub struct ReachSettings {
    /// Where the feet are at the start, px, y down; the level's spawn where none is given.
    pub from: Option<DVec2>,
    /// No more ticks are tried.
    pub most_ticks: u64,
    /// Whether ways are looked for to what is out of reach, too, until no ticks are left: for whoever would see it tried.
    pub tries_all: bool,
    /// Whether presses that a way does without are taken out of it. It costs about as much again as the search.
    pub shortens: bool,
}

impl Default for ReachSettings {
    fn default() -> ReachSettings {
        ReachSettings { from: None, most_ticks: 4_000_000, tries_all: false, shortens: false }
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
    /// A box around it, px, y down: left, top, right, bottom.
    pub place_px: [f64; 4],
    /// Whether it can be reached.
    #[serde(flatten)]
    pub answer: ReachAnswer,
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
    },
    /// By nobody, for this reason. Never said of what can be reached.
    OutOfReach {
        /// In words.
        why: String,
    },
    /// Within the ticks tried no way was found, and that there is none is not certain.
    NotFound,
}

/// What can be reached of a level by a character.
///
/// `goes_on` is told how many ticks were tried, now and then; where it says no, what is not found by then is not found.
///
/// # Errors
///
/// If the character does not fit at the start: why, in words.
pub fn reach(
    level: &Level,
    tuning: &TuningFile,
    settings: &ReachSettings,
    goes_on: impl FnMut(u64) -> bool,
) -> Result<ReachReport, String> {
    let start = settings.from.unwrap_or_else(|| level.spawn());
    let run = Run::start(level, &tuning.tuning, start)?;
    let targets = targets(level, &tuning.tuning);
    let relaxed = Relaxed::of(level, &tuning.tuning, start, &targets);
    let reasons: Vec<Option<String>> = (0..targets.len()).map(|at| relaxed.as_ref()?.why_not(at)).collect();
    let open: Vec<bool> = reasons.iter().map(|reason| settings.tries_all || reason.is_none()).collect();
    let found = search(&run, &targets, &open, settings.most_ticks, goes_on);
    let wanted = Wanted::of(&targets);
    let body = tuning.tuning.body();
    let ways: Vec<Option<(Timeline, u64)>> = found
        .ways
        .into_par_iter()
        .enumerate()
        .map(|(index, way)| {
            let (held, ticks) = way?;
            // Run from the start before it is said.
            let way = Way { run: &run, wanted: &wanted, target: index };
            let ticks = way.comes_to(&held, ticks)?;
            Some(if settings.shortens { way.shortened(held, ticks) } else { (held, ticks) })
        })
        .collect();
    let rows = targets.iter().zip(ways).zip(reasons).map(|((target, way), reason)| {
        let answer = match (way, reason) {
            (Some((held, ticks)), reason) => {
                debug_assert_eq!(reason, None, "{} is reached", target.name);
                ReachAnswer::Reached { held, ticks }
            }
            (None, Some(why)) => ReachAnswer::OutOfReach { why },
            (None, None) => ReachAnswer::NotFound,
        };
        let place = match &target.spot {
            Spot::Top(top) => [top.left, top.y, top.right, top.y],
            Spot::Platform(place, _) => [place.left, place.top, place.right, place.bottom],
            _ => {
                let whole = target.spot.middle_box(body);
                [whole.left, whole.top, whole.right, whole.bottom]
            }
        };
        Reach { target: target.name.clone(), zone: target.zone, place_px: place, answer }
    });
    Ok(ReachReport {
        level: level.name.clone(),
        tuning: tuning.name.clone(),
        rate_hz: tuning.tuning.rate(),
        ticks_tried: found.ticks,
        targets: rows.collect(),
    })
}

/// A way to a target.
struct Way<'a> {
    run: &'a Run<'a>,
    wanted: &'a Wanted<'a>,
    target: usize,
}

impl Way<'_> {
    /// The tick in which a run with these buttons comes to the target first; none if it does not within so many.
    fn comes_to(&self, held: &Timeline, ticks: u64) -> Option<u64> {
        let mut run = self.run.clone();
        (1..=ticks).find_map(|tick| {
            if !run.tick(held.at(tick)) {
                return Some(None);
            }
            let mut comes = false;
            run.come_to(self.wanted, |index| comes |= index == self.target);
            comes.then_some(Some(tick))
        })?
    }

    /// The same with fewer presses, in no more ticks: each change of what is held is left out that can be.
    fn shortened(&self, mut held: Timeline, mut ticks: u64) -> (Timeline, u64) {
        let mut at = held.changes().len();
        while at > 0 {
            at -= 1;
            let mut fewer = Timeline::default();
            let kept = held.changes().iter().enumerate().filter(|(index, _)| *index != at);
            kept.for_each(|(_, (tick, buttons))| fewer.record(*tick, *buttons));
            if fewer.presses() > held.presses() {
                continue;
            }
            if let Some(sooner) = self.comes_to(&fewer, ticks) {
                (held, ticks) = (fewer.until(sooner), sooner);
                at = at.min(held.changes().len());
            }
        }
        (held, ticks)
    }
}
