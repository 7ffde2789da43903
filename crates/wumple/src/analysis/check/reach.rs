//! Goals, pickups and checkpoints that nobody can come to.

use super::{Finding, FindingKind};
use crate::analysis::{ReachAnswer, ReachSettings, reach};
use crate::files::{Level, TuningFile};

/// What is out of reach for sure: no way is looked for.
pub(super) fn check(level: &Level, tuning: &TuningFile, found: &mut Vec<Finding>) {
    let settings = ReachSettings { most_ticks: 0, ..ReachSettings::default() };
    // Who does not fit at the spawn is told of that by others.
    let Ok(report) = reach(level, tuning, &settings, |_| false) else { return };
    for of in &report.targets {
        let (Some(zone), ReachAnswer::OutOfReach { why }) = (of.zone, &of.answer) else { continue };
        let place = level.places().zone(zone.of);
        let is_known = |finding: &Finding| {
            matches!(finding.kind, FindingKind::TightPassage | FindingKind::ZoneNeverFelt)
                && finding.place.with_message(String::new()) == place
        };
        if found.iter().any(is_known) {
            continue;
        }
        let words = [
            format!("{} is out of reach of {}: {why}", of.target, tuning.name),
            "it is seen, and never come to".into(),
            "ground nearer to it, or another jump; `wumple reach --changes` says which".into(),
        ];
        found.push(Finding::new(FindingKind::OutOfReach, place, words));
    }
}
