use crate::collide::{NO_DROP, Surroundings};
use crate::nearby::Nearby;
use crate::platforms::Movers;
use crate::space::Body;
use crate::terrain::Terrain;

/// What a body can meet in one tick: the terrain, what is known of it near the body, and what moves in it.
pub(super) struct Scene<'a, T> {
    pub(super) terrain: &'a T,
    pub(super) nearby: &'a mut Nearby,
    pub(super) movers: &'a Movers<'a>,
    /// There is nothing but plain solid tiles anywhere.
    pub(super) is_plain: bool,
    /// There is some zone somewhere.
    pub(super) has_zones: bool,
}

impl<T: Terrain> Scene<'_, T> {
    /// The same as a body meets it, which knows of ladders or not.
    #[inline]
    pub(super) fn around<'a>(&'a self, body: &'a Body, ladders: bool) -> Surroundings<'a, T> {
        Surroundings {
            terrain: self.terrain,
            nearby: self.nearby,
            movers: self.movers,
            unmet: None,
            began: None,
            body,
            ladders,
            dropping: &NO_DROP,
            passed: None,
            climbing: None,
        }
    }
}
