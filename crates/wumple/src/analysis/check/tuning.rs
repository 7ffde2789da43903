//! What is wrong with a tuning by itself: numbers of another unit, a picture that does not fit.

use super::{Finding, FindingKind};
use crate::analysis::picture::PictureOffsets;
use crate::files::TuningFile;
use crate::units::short;

/// A picture may stick out so many tiles without anybody minding.
const MAY_STICK_OUT: f64 = 0.25;

pub(super) fn check(tuning: &TuningFile, found: &mut Vec<Finding>) {
    for warning in tuning.warnings() {
        // What comes of it stands before the remedy, if there is one.
        let (what, remedy) = warning.message().split_once("; ").unwrap_or((warning.message(), ""));
        let (what, leads_to) = what.split_once(" makes ").unwrap_or((what, "a feel that nobody means"));
        let remedy = if remedy.is_empty() { "another number, or its unit written out" } else { remedy };
        let words = [what, leads_to, remedy].map(str::to_owned);
        found.push(Finding::new(FindingKind::OtherUnit, warning.clone(), words));
    }
    super::poses::check(tuning, found);
    let Some(offsets) = PictureOffsets::of(tuning) else { return };
    let most = MAY_STICK_OUT * tuning.scale.tile;
    let PictureOffsets { left, right, above, below } = offsets;
    let mut note = |what: String, leads_to: &str| {
        let words =
            [what, leads_to.to_owned(), "a picture and a hitbox of nearly one size, with the same feet".to_owned()];
        found.push(Finding::new(FindingKind::PictureOff, tuning.place_of("picture"), words));
    };
    for (side, over) in [("left", left), ("right", right), ("head", above)] {
        if over > most {
            note(
                format!("the picture sticks out {} px at the {side}", short(over)),
                "it is seen inside walls and ceilings",
            );
        } else if over < 0.0 {
            note(
                format!("the picture is {} px short at the {side}", short(-over)),
                "the character is stopped by what it is not seen to touch",
            );
        }
    }
    if below > 0.0 {
        note(format!("the picture sinks {} px into the ground", short(below)), "feet are seen below the floor");
    } else if below < 0.0 {
        note(format!("the picture floats {} px above the ground", short(-below)), "a gap is seen under the feet");
    }
}
