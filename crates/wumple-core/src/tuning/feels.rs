//! How much larger or smaller than the hitbox zones are felt.

use super::keys::{Key, Slot};
use crate::terrain::{LIMIT_MARGIN, Margin, ZoneKind};

/// How much larger than the hitbox each kind of zone is felt, px; smaller where negative. Kinds of a game's own are felt as
/// the hitbox is.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize), serde(default, deny_unknown_fields))]
pub struct FeelNumbers {
    /// Pickups.
    pub pickup: Margin,
    /// Checkpoints.
    pub checkpoint: Margin,
    /// Goals.
    pub goal: Margin,
    /// Hazards.
    pub hazard: Margin,
}

impl FeelNumbers {
    /// How much larger a kind is felt, px.
    #[must_use]
    pub fn of(&self, kind: ZoneKind) -> Margin {
        match kind {
            ZoneKind::Pickup => self.pickup,
            ZoneKind::Checkpoint => self.checkpoint,
            ZoneKind::Goal => self.goal,
            ZoneKind::Hazard => self.hazard,
            ZoneKind::Own(_) => Margin::NONE,
        }
    }

    /// The greatest of them, px.
    pub(crate) fn most(&self) -> f64 {
        [self.pickup, self.checkpoint, self.goal, self.hazard].iter().fold(0.0, |most, margin| most.max(margin.most()))
    }
}

const fn margin(name: &'static str, access: super::keys::Access, what: &'static str) -> Key {
    Key::margin(name, access, what).at_least(-LIMIT_MARGIN).at_most(LIMIT_MARGIN).unit("px").rounded()
}

/// The keys of `[feels]`.
pub(super) const KEYS: &[Key] = &[
    margin(
        "feels.pickup",
        |n| Some(Slot::Margin(&mut n.feels.pickup)),
        "how much larger than the hitbox pickups are felt, on all sides or as `{ left, right, above, below }`",
    ),
    margin("feels.checkpoint", |n| Some(Slot::Margin(&mut n.feels.checkpoint)), "the same of checkpoints"),
    margin("feels.goal", |n| Some(Slot::Margin(&mut n.feels.goal)), "the same of goals"),
    margin("feels.hazard", |n| Some(Slot::Margin(&mut n.feels.hazard)), "the same of hazards"),
];
