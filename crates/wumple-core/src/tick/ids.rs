//! Who is who in a world: identities, of which none is given twice.

use crate::platforms::MoverId;

/// Which character of a [`World`](super::World). None is given twice.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, PartialOrd, Ord)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize), serde(transparent))]
pub struct CharacterId(pub(super) u32);

/// Which prop of a [`World`](super::World). None is given twice.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, PartialOrd, Ord)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize), serde(transparent))]
pub struct PropId(pub(super) u32);

impl From<PropId> for MoverId {
    fn from(id: PropId) -> MoverId {
        MoverId::Prop(id.0 as usize)
    }
}

impl From<CharacterId> for MoverId {
    fn from(id: CharacterId) -> MoverId {
        MoverId::Character(id.0 as usize)
    }
}

/// A character or a prop.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, PartialOrd, Ord)]
pub enum BodyId {
    /// A character.
    Character(CharacterId),
    /// A prop.
    Prop(PropId),
}

impl From<CharacterId> for BodyId {
    fn from(id: CharacterId) -> BodyId {
        BodyId::Character(id)
    }
}

impl From<PropId> for BodyId {
    fn from(id: PropId) -> BodyId {
        BodyId::Prop(id)
    }
}
