//! How much larger or smaller than the hitbox zones are felt.

use alloc::vec::Vec;

use super::keys::{Key, Slot};
use crate::terrain::{LIMIT_MARGIN, Margin, ZoneKind};

/// How much larger than the hitbox each kind of zone is felt, px; smaller where negative.
#[derive(Clone, Debug, Default, PartialEq)]
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
    /// Kinds of the game's own; those that are not here are felt as the hitbox is.
    pub own: Vec<(ZoneKind, Margin)>,
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
            own => self.own.iter().find(|(kind, _)| *kind == own).map_or(Margin::NONE, |(_, margin)| *margin),
        }
    }

    /// All of them.
    pub(super) fn margins(&self) -> impl Iterator<Item = (&'static str, &Margin)> {
        let common = [
            ("feels.pickup", &self.pickup),
            ("feels.checkpoint", &self.checkpoint),
            ("feels.goal", &self.goal),
            ("feels.hazard", &self.hazard),
        ];
        common.into_iter().chain(self.own.iter().map(|(_, margin)| ("feels", margin)))
    }

    /// The greatest of them, px.
    pub(crate) fn most(&self) -> f64 {
        self.margins().fold(0.0, |most, (_, margin)| most.max(margin.most()))
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
    margin(
        "feels.checkpoint",
        |n| Some(Slot::Margin(&mut n.feels.checkpoint)),
        "how much larger than the hitbox checkpoints are felt",
    ),
    margin("feels.goal", |n| Some(Slot::Margin(&mut n.feels.goal)), "how much larger than the hitbox goals are felt"),
    margin(
        "feels.hazard",
        |n| Some(Slot::Margin(&mut n.feels.hazard)),
        "how much larger than the hitbox hazards are felt",
    ),
];
