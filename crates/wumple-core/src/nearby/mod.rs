//! What is near a body: read from the map once, and kept until the body has gone on.
//!
//! A [`Nearby`] is of no effect but on speed: what it does not know is read afresh. So it is never saved, and no
//! question of a tick need be foreseen.

mod piece;
mod read;
mod support;

use alloc::vec::Vec;

pub(crate) use piece::{Faces, FlatTop, PieceId, RampId, Slope, Solid};
pub(crate) use read::{Collect, cells_about, read, surface};
pub use support::Support;

use crate::space::Hitbox;
use crate::terrain::{Features, Terrain};

/// All that a terrain has in a box around one body.
#[derive(Debug)]
pub(crate) struct Nearby {
    /// All that touches this is known.
    known: Hitbox,
    /// Nothing but plain solid tiles is there: they are asked for directly, and the lists are empty.
    plain: bool,
    /// The box around all there that is more than plain solid tiles.
    special: Hitbox,
    /// The terrain has no zone in this.
    free_of_zones: Hitbox,
    /// The terrain's when it was read.
    revision: Option<u64>,
    solids: Vec<Solid>,
    flat_tops: Vec<FlatTop>,
    slopes: Vec<Slope>,
    ladders: bool,
    /// The terrain may have changed since.
    doubted: bool,
}

/// A copy knows nothing, and has as much room.
impl Clone for Nearby {
    fn clone(&self) -> Nearby {
        Nearby::with_room(self.solids.capacity(), self.flat_tops.capacity(), self.slopes.capacity())
    }
}

/// What tiles can be besides plain solid, empty, and zones; and what lies off the grid.
const NOT_PLAIN: Features = Features::ONE_WAY
    .with(Features::LADDER)
    .with(Features::RAMP)
    .with(Features::MATERIAL)
    .with(Features::BLOCK)
    .with(Features::DRAWN_RAMP);

/// Whether a terrain with these is plain solid tiles everywhere, and zones.
#[inline]
pub(crate) fn is_plain(features: Features) -> bool {
    !features.has(NOT_PLAIN)
}

/// How much more than is asked for is looked for plain tiles, and for zones, px.
const PLAIN_MARGIN: f64 = 16.0;
/// How much more than is asked for is listed, px: more is gathered more seldom, and gone through longer.
const LIST_MARGIN: f64 = 6.0;
/// So many of a kind are kept. Where more are near, they are read from the terrain for every question.
const MOST: usize = 64;
/// No more tiles are looked at for zones before a tick looks along its way.
const MOST_TILES: usize = 256;

impl Nearby {
    /// Nothing is known. Room is made for what a terrain can have.
    pub(crate) fn unknown(features: Features) -> Nearby {
        let room = |feature: Features| if features.has(feature) { MOST + 1 } else { 0 };
        let (flat, sloped) = (room(NOT_PLAIN), room(Features::RAMP | Features::DRAWN_RAMP));
        Nearby::with_room(flat, flat, sloped)
    }

    fn with_room(solids: usize, flat_tops: usize, slopes: usize) -> Nearby {
        Nearby {
            known: Hitbox::NOWHERE,
            plain: false,
            special: Hitbox::NOWHERE,
            free_of_zones: Hitbox::NOWHERE,
            revision: None,
            solids: Vec::with_capacity(solids),
            flat_tops: Vec::with_capacity(flat_tops),
            slopes: Vec::with_capacity(slopes),
            ladders: false,
            doubted: false,
        }
    }

    /// What was known may be of another time.
    pub(crate) fn forget(&mut self) {
        (self.known, self.free_of_zones) = (Hitbox::NOWHERE, Hitbox::NOWHERE);
    }

    /// The terrain may have changed, whatever it says of itself: the next tick begins by reading it afresh.
    pub(crate) fn doubt(&mut self) {
        self.forget();
        self.doubted = true;
    }

    /// Forgets what a terrain that has changed was like, at the beginning of a tick. Says whether it may have.
    #[inline]
    pub(crate) fn follow(&mut self, revision: Option<u64>) -> bool {
        let may_have_changed = revision.is_none() || revision != self.revision || self.doubted;
        if may_have_changed {
            self.forget();
            (self.revision, self.doubted) = (revision, false);
        }
        may_have_changed
    }

    /// Sees to it that all in an area is known.
    #[inline]
    pub(crate) fn look<T: Terrain + ?Sized>(&mut self, terrain: &T, area: &Hitbox) {
        if !self.known.contains(area) {
            self.gather(terrain, area);
        }
    }

    #[inline(never)]
    fn gather<T: Terrain + ?Sized>(&mut self, terrain: &T, area: &Hitbox) {
        self.solids.clear();
        self.flat_tops.clear();
        self.slopes.clear();
        (self.ladders, self.special) = (false, Hitbox::NOWHERE);
        if is_plain(terrain.features()) {
            (self.known, self.plain) = (Hitbox::EVERYWHERE, true);
            return;
        }
        let wide = area.grown(PLAIN_MARGIN);
        self.plain = is_plain_there(terrain, &wide);
        self.known = wide;
        if !self.plain {
            let listed = area.grown(LIST_MARGIN);
            self.known = listed;
            read(terrain, &listed, self);
            if [self.solids.len(), self.flat_tops.len(), self.slopes.len()].iter().any(|count| *count > MOST) {
                self.known = Hitbox::NOWHERE;
            }
        }
    }

    /// Whether all in an area is plain solid tiles.
    #[inline(always)]
    pub(crate) fn is_plain_in(&self, area: &Hitbox) -> bool {
        self.known.contains(area) && !self.special.touches(area)
    }

    /// Whether the terrain has no zone in an area: no tile that touches it is one, and none that lies off the grid touches it.
    #[inline]
    pub(crate) fn has_no_zones<T: Terrain + ?Sized>(&mut self, terrain: &T, area: &Hitbox) -> bool {
        self.free_of_zones.contains(area) || self.look_for_zones(terrain, &area.grown(PLAIN_MARGIN))
    }

    #[inline(never)]
    fn look_for_zones<T: Terrain + ?Sized>(&mut self, terrain: &T, area: &Hitbox) -> bool {
        let (columns, rows) = read::cells_about(terrain, area);
        // About a long way there are too many to look at all of them.
        let mut free =
            columns.len() * rows.len() <= MOST_TILES && !terrain.features_in(columns, rows).has(Features::ZONE);
        if free {
            terrain.zones_near(area, &mut |_, _| free = false);
        }
        if free {
            self.free_of_zones = *area;
        }
        free
    }

    fn is_special_at(&mut self, place: &Hitbox) {
        self.special = if self.special == Hitbox::NOWHERE { *place } else { self.special.around(place) };
    }

    /// What is listed, if all in the area is.
    #[inline(always)]
    fn listed(&self, area: &Hitbox) -> Option<&Nearby> {
        (!self.plain && self.known.contains(area)).then_some(self)
    }

    /// Every solid piece of the terrain that touches an area, and perhaps some that do not.
    #[inline(always)]
    pub(crate) fn solids<T: Terrain + ?Sized>(&self, terrain: &T, area: &Hitbox, mut visit: impl FnMut(&Solid)) {
        match self.listed(area) {
            Some(list) => list.solids.iter().filter(|solid| solid.place.touches(area)).for_each(visit),
            None => read(terrain, area, &mut Solids(&mut visit)),
        }
    }

    /// Every flat top in an area, likewise.
    #[inline(always)]
    pub(crate) fn flat_tops<T: Terrain + ?Sized>(&self, terrain: &T, area: &Hitbox, mut visit: impl FnMut(&FlatTop)) {
        match self.listed(area) {
            Some(list) => list.flat_tops.iter().filter(|top| top.place.touches(area)).for_each(visit),
            None => read(terrain, area, &mut FlatTops(&mut visit)),
        }
    }

    /// Every slope in an area, likewise.
    #[inline(always)]
    pub(crate) fn slopes<T: Terrain + ?Sized>(&self, terrain: &T, area: &Hitbox, mut visit: impl FnMut(&Slope)) {
        match self.listed(area) {
            Some(list) => list.slopes.iter().filter(|slope| slope.place.touches(area)).for_each(visit),
            None if !self.has_no_slopes(terrain, area) => {
                read(terrain, area, &mut Slopes(&mut visit));
            }
            None => {}
        }
    }

    /// Whether no ladder can touch an area.
    #[inline(always)]
    pub(crate) fn has_no_ladders<T: Terrain + ?Sized>(&self, terrain: &T, area: &Hitbox) -> bool {
        (!self.ladders && self.known.contains(area)) || !terrain.features().has(Features::LADDER)
    }

    /// Whether no slope can touch an area.
    #[inline(always)]
    pub(crate) fn has_no_slopes<T: Terrain + ?Sized>(&self, terrain: &T, area: &Hitbox) -> bool {
        (self.slopes.is_empty() && self.known.contains(area))
            || !terrain.features().has(Features::RAMP | Features::DRAWN_RAMP)
    }
}

fn is_plain_there<T: Terrain + ?Sized>(terrain: &T, area: &Hitbox) -> bool {
    let features = terrain.features();
    let (columns, rows) = read::cells_about(terrain, area);
    if terrain.features_in(columns, rows).has(NOT_PLAIN) {
        return false;
    }
    let mut plain = true;
    if features.has(Features::BLOCK) {
        terrain.blocks_near(area, &mut |_, _| plain = false);
    }
    if features.has(Features::DRAWN_RAMP) {
        terrain.ramps_near(area, &mut |_, _| plain = false);
    }
    plain
}

impl Collect for Nearby {
    const WANTS: (bool, bool, bool) = (true, true, true);
    fn ladder(&mut self) {
        self.ladders = true;
    }
    // What is too much to be kept is counted all the same, and nothing is allocated for it.
    fn solid(&mut self, solid: &Solid) {
        if !matches!(solid.id, PieceId::Tile { .. } | PieceId::Edge(_)) {
            self.is_special_at(&solid.place);
        }
        if self.solids.len() <= MOST {
            self.solids.push(*solid);
        }
    }
    fn flat_top(&mut self, top: &FlatTop) {
        if top.support != Support::Solid || !top.material.is_plain() {
            self.is_special_at(&top.place);
        }
        if self.flat_tops.len() <= MOST {
            self.flat_tops.push(*top);
        }
    }
    fn slope(&mut self, slope: &Slope) {
        self.is_special_at(&slope.place);
        if self.slopes.len() <= MOST {
            self.slopes.push(*slope);
        }
    }
}

struct Solids<'a>(&'a mut dyn FnMut(&Solid));
struct FlatTops<'a>(&'a mut dyn FnMut(&FlatTop));
struct Slopes<'a>(&'a mut dyn FnMut(&Slope));

impl Collect for Solids<'_> {
    const WANTS: (bool, bool, bool) = (true, false, false);
    fn solid(&mut self, solid: &Solid) {
        (self.0)(solid);
    }
}

impl Collect for FlatTops<'_> {
    const WANTS: (bool, bool, bool) = (false, true, false);
    fn flat_top(&mut self, top: &FlatTop) {
        (self.0)(top);
    }
}

impl Collect for Slopes<'_> {
    const WANTS: (bool, bool, bool) = (false, false, true);
    fn slope(&mut self, slope: &Slope) {
        (self.0)(slope);
    }
}
