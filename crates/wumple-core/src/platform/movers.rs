use core::fmt;

use glam::DVec2;

use super::Platforms;
use crate::geometry::Hitbox;
use crate::terrain::{Features, Material};

/// What carries, pushes or crushes a body: a platform or a prop, by its number from 0.
///
/// Displayed with the number in its array, from 1.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, PartialOrd, Ord)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize), serde(rename_all = "kebab-case"))]
pub enum Carrier {
    /// A platform of the world's [`Platforms`].
    Platform(usize),
    /// A prop, in the order in which props were added.
    Prop(usize),
}

impl fmt::Display for Carrier {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        let (Carrier::Platform(index) | Carrier::Prop(index)) = self;
        write!(f, "{}", index + 1)
    }
}

/// A platform or a prop as it is in one tick.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Mover {
    pub(crate) carrier: Carrier,
    /// Where it was when the tick began.
    pub(crate) old: Hitbox,
    /// Where it is in this tick.
    pub(crate) now: Hitbox,
    pub(crate) solid: bool,
    pub(crate) material: Material,
}

impl Mover {
    /// How far it goes in this tick, px, y down.
    pub(crate) fn by(&self) -> DVec2 {
        DVec2::new(self.now.left - self.old.left, self.now.top - self.old.top)
    }

    /// The box it sweeps in this tick, turns at corners included.
    pub(crate) fn swept(&self) -> Hitbox {
        self.old.around(&self.now)
    }
}

/// The platforms and props around one body in one tick.
///
/// Those near are worked out once; what is asked for beyond is looked up.
#[derive(Clone, Copy)]
pub(crate) struct Movers<'a> {
    pub(super) platforms: &'a Platforms,
    /// In the order of the file, props last.
    pub(super) near: &'a [Mover],
    /// Every mover that sweeps over some of this is among those near.
    pub(super) area: Hitbox,
    pub(super) tick: u64,
    pub(super) whole_pixels: bool,
    /// Props meet those props alone that have moved before them.
    pub(super) asked_by_prop: bool,
}

/// All there is.
const EVERYWHERE: Hitbox =
    Hitbox { left: f64::NEG_INFINITY, right: f64::INFINITY, top: f64::NEG_INFINITY, bottom: f64::INFINITY };

impl<'a> Movers<'a> {
    /// None near: every question is looked up, unless there are no movers at all.
    pub(crate) fn looked_up(platforms: &'a Platforms, tick: u64, whole_pixels: bool) -> Movers<'a> {
        let area = if platforms.nothing_moves() { EVERYWHERE } else { Hitbox::NOWHERE };
        Movers { platforms, near: &[], area, tick, whole_pixels, asked_by_prop: false }
    }

    /// Those worked out for this tick, in the order of the file.
    #[inline]
    pub(crate) fn near(&self) -> &'a [Mover] {
        self.near
    }

    /// Calls `visit` for every mover whose way in this tick touches the area.
    #[inline]
    pub(crate) fn each_near(&self, area: &Hitbox, visit: &mut dyn FnMut(&Mover)) {
        if self.area.contains(area) {
            self.near.iter().filter(|mover| mover.swept().touches(area)).for_each(visit);
        } else {
            self.platforms.each_mover(area, self.tick, self.whole_pixels, self.asked_by_prop, visit);
        }
    }

    /// Whether those near are all that there are about the area.
    #[inline]
    pub(crate) fn know(&self, area: &Hitbox) -> bool {
        self.area.contains(area)
    }

    /// Whether any is near the area, in the language of what is near.
    #[inline]
    pub(crate) fn features_near(&self, area: &Hitbox) -> Features {
        if self.near.is_empty() && self.area.contains(area) {
            return Features::NONE;
        }
        let mut found = Features::NONE;
        self.each_near(area, &mut |_| found = Features::MOVER);
        found
    }

    /// Whether there is any at all.
    #[inline]
    pub(crate) fn features(&self) -> Features {
        if self.platforms.nothing_moves() { Features::NONE } else { Features::MOVER }
    }

    /// One of them, if it is there in this tick.
    pub(crate) fn mover(&self, carrier: Carrier) -> Option<Mover> {
        let found = self.near.iter().find(|mover| mover.carrier == carrier).copied();
        found.or_else(|| self.platforms.mover(carrier, self.tick, self.whole_pixels))
    }
}
