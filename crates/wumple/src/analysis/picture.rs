//! A character's picture against its hitbox: what sticks out, floats or sinks.

use crate::files::TuningFile;
use crate::units::short;

/// How far a picture goes beyond its hitbox on each side, px; less where negative.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(crate) struct PictureOffsets {
    pub(crate) left: f64,
    pub(crate) right: f64,
    pub(crate) above: f64,
    pub(crate) below: f64,
}

impl PictureOffsets {
    /// Those of a tuning that tells of a picture.
    pub(crate) fn of(tuning: &TuningFile) -> Option<PictureOffsets> {
        let picture = tuning.picture.as_ref()?;
        let body = tuning.tuning.body();
        let aside = (picture.width - body.width) / 2.0;
        Some(PictureOffsets {
            left: aside - picture.right,
            right: aside + picture.right,
            above: picture.height - picture.down - body.height,
            below: picture.down,
        })
    }
}

/// What a player will see of the difference between picture and hitbox, a sentence each. Empty without a
/// picture, or if it is the hitbox.
#[must_use]
pub fn picture_notes(tuning: &TuningFile) -> Vec<String> {
    let Some(PictureOffsets { left, right, above, below }) = PictureOffsets::of(tuning) else { return Vec::new() };
    let mut notes = Vec::new();
    for (side, over) in [("left", left), ("right", right)] {
        if over > 0.0 {
            notes
                .push(format!("the picture sticks out {} px on the {side}: into walls it stands against", short(over)));
        } else if over < 0.0 {
            notes.push(format!("the picture is {} px short on the {side}: a gap to walls", short(-over)));
        }
    }
    if below > 0.0 {
        notes.push(format!("the picture sinks {} px into the ground", short(below)));
    } else if below < 0.0 {
        notes.push(format!("the picture floats {} px above the ground", short(-below)));
    }
    if above > 0.0 {
        notes.push(format!("the picture sticks out {} px at the head: into ceilings", short(above)));
    } else if above < 0.0 {
        notes.push(format!("the picture is {} px short at the head: it bumps against nothing seen", short(-above)));
    }
    notes
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn what_floats_sinks_and_sticks_out() {
        let notes = |picture: &str| {
            let text = format!(
                "[body]\nwidth = 10\nheight = 22\n[run]\ntop_speed = 9\n[fall]\ngravity = 900\n[picture]\n{picture}"
            );
            picture_notes(&TuningFile::parse("t", &text).unwrap())
        };
        assert!(notes("width = 10\nheight = 22").is_empty());
        assert_eq!(
            notes("width = 16\nheight = 24\nright = \"1 px\""),
            [
                "the picture sticks out 2 px on the left: into walls it stands against",
                "the picture sticks out 4 px on the right: into walls it stands against",
                "the picture sticks out 2 px at the head: into ceilings",
            ]
        );
        assert_eq!(
            notes("width = 8\nheight = 18\ndown = -1"),
            [
                "the picture is 1 px short on the left: a gap to walls",
                "the picture is 1 px short on the right: a gap to walls",
                "the picture floats 1 px above the ground",
                "the picture is 3 px short at the head: it bumps against nothing seen",
            ]
        );
    }
}
