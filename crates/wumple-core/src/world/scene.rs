use crate::platform::Movers;
use crate::terrain::{Features, Terrain};

/// What a body can meet in one tick: the terrain, and what moves in it.
pub(super) struct Scene<'a, T> {
    pub(super) terrain: &'a T,
    pub(super) movers: Movers<'a>,
}

impl<T: Terrain> Scene<'_, T> {
    /// What there is anywhere.
    #[inline]
    pub(super) fn features(&self) -> Features {
        self.terrain.features() | self.movers.features()
    }
}
