//! What can be reached from where who plays stands: looked for on a thread of its own while play goes on.

use std::sync::Arc;
use std::sync::atomic::{AtomicBool, AtomicU64, Ordering};
use std::sync::mpsc::{Receiver, channel};
use std::thread;

use wumple::analysis::{Reach, ReachAnswer, ReachReport, ReachSettings, reach};
use wumple::{DVec2, Level, TuningFile};

/// No more ticks are tried: a few seconds in a large level.
const MOST_TICKS: u64 = 2_000_000;
/// Numbers have rested for so long, s, when ways are looked for again.
const RESTED: f64 = 0.4;

/// What can be reached from a place, as far as it is known.
pub struct Ways {
    from: DVec2,
    found: Option<Result<ReachReport, String>>,
    answer: Receiver<Result<ReachReport, String>>,
    search: Arc<Search>,
    /// For how long it has been of numbers or a level of before, s.
    outdated: Option<f64>,
}

/// A search as both threads know it.
#[derive(Default)]
struct Search {
    tried: AtomicU64,
    is_given_up: AtomicBool,
}

impl Ways {
    /// Begins to look for what can be reached with the feet here at the start, px, y down.
    pub(super) fn look(level: &Level, tuning: &TuningFile, from: DVec2) -> Ways {
        let search = Arc::new(Search::default());
        let (tell, answer) = channel();
        let (level, tuning, of_thread) = (level.clone(), tuning.clone(), search.clone());
        thread::spawn(move || {
            let mut settings = ReachSettings::default();
            (settings.from, settings.most_ticks, settings.shortens) = (Some(from), MOST_TICKS, true);
            let goes_on = |tried| {
                of_thread.tried.store(tried, Ordering::Relaxed);
                !of_thread.is_given_up.load(Ordering::Relaxed)
            };
            let found = reach(&level, &tuning, &settings, goes_on).map_err(|error| error.to_string());
            // Nobody may be there any more to hear of it.
            let _ = tell.send(found);
        });
        Ways { from, found: None, answer, search, outdated: None }
    }

    /// Takes what was found by now. Where numbers or the level have become others, it is looked for again once they rest.
    pub(super) fn frame(&mut self, seconds: f64, level: &Level, tuning: &TuningFile) {
        let Some(outdated) = &mut self.outdated else {
            self.found = self.found.take().or_else(|| self.answer.try_recv().ok());
            return;
        };
        // What a search that was given up has found is of before.
        *outdated += seconds;
        if *outdated >= RESTED {
            *self = Ways::look(level, tuning, self.from);
        }
    }

    /// Numbers or the level have become others.
    pub(super) fn outdate(&mut self) {
        self.outdated = Some(0.0);
        self.found = None;
        self.search.is_given_up.store(true, Ordering::Relaxed);
    }

    /// Where the feet are at the start of every way.
    #[must_use]
    pub fn from(&self) -> DVec2 {
        self.from
    }

    /// What can be reached, once it is known.
    #[must_use]
    pub fn report(&self) -> Option<&ReachReport> {
        self.found.as_ref().and_then(|found| found.as_ref().ok())
    }

    /// Whether it is looked for still.
    #[must_use]
    pub fn is_looking(&self) -> bool {
        self.found.is_none()
    }

    /// How it stands, in a line.
    #[must_use]
    pub fn words(&self) -> String {
        let report = match &self.found {
            None => {
                let tried = self.search.tried.load(Ordering::Relaxed);
                return format!("looking for what can be reached: {tried} ticks tried");
            }
            Some(Err(why)) => return format!("what can be reached is not known: {why}"),
            Some(Ok(report)) => report,
        };
        let count = |is: fn(&ReachAnswer) -> bool| report.targets.iter().filter(|target| is(&target.answer)).count();
        format!(
            "from here: {} reached, {} out of reach, {} not found; a click, or H, plays the way there",
            count(|answer| matches!(answer, ReachAnswer::Reached { .. })),
            count(|answer| matches!(answer, ReachAnswer::OutOfReach { .. })),
            count(|answer| matches!(answer, ReachAnswer::NotFound)),
        )
    }

    /// What is asked after at a place of the level: the nearest that is no further than a tile. `tile`: its side, px.
    #[must_use]
    pub fn at(&self, place: DVec2, tile: f64) -> Option<&Reach> {
        let distance = |target: &Reach| {
            let [left, top, right, bottom] = target.place_px;
            let beyond = |at: f64, low: f64, high: f64| (low - at).max(at - high).max(0.0);
            beyond(place.x, left, right).hypot(beyond(place.y, top, bottom))
        };
        let near = self.report()?.targets.iter().map(|target| (distance(target), target));
        let near = near.filter(|(distance, _)| *distance <= tile);
        near.min_by(|one, other| one.0.total_cmp(&other.0)).map(|(_, target)| target)
    }
}

impl Drop for Ways {
    fn drop(&mut self) {
        self.search.is_given_up.store(true, Ordering::Relaxed);
    }
}
