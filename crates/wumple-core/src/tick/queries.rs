//! Questions about a world between ticks.

use alloc::vec::Vec;
use core::fmt;

use glam::DVec2;

use super::scene::{Scene, asker, asker_of, zones_of};
use super::zones::zones_in;
use super::{CharacterId, Event, World};
use crate::collide::{Footing, Surroundings};
use crate::input::Direction;
use crate::nearby::{Nearby, PieceId, RampId};
use crate::platforms::{AskedBy, Asker, MoverId, Movers};
use crate::presence::{Meets, MeetsAs, Presence};
use crate::space::{Body, Hitbox};
use crate::terrain::{Features, MetTerrain, Side, Terrain, ZoneId};
use crate::tuning::Tuning;

/// A part of a level. Displayed as `tile@12,8` (column and row, from 0), `block:1`, `ramp:1`, `platform:1`, `prop:1`,
/// `character:1` (numbers from 1, as in a file), `edge:left`.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, PartialOrd, Ord)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize), serde(rename_all = "kebab-case"))]
#[non_exhaustive]
pub enum Piece {
    /// A tile of any surface.
    Tile {
        /// Its column.
        column: i32,
        /// Its row.
        row: i32,
    },
    /// A block, by its number from 0.
    Block(usize),
    /// A drawn ramp, by its number from 0.
    Ramp(usize),
    /// A platform, by its number from 0.
    Platform(usize),
    /// A prop, by its number from 0.
    Prop(usize),
    /// A character that others meet, by its number from 0.
    Character(usize),
    /// A solid edge of the map.
    Edge(Side),
}

impl From<PieceId> for Piece {
    fn from(id: PieceId) -> Piece {
        match id {
            PieceId::Tile { column, row } | PieceId::Ramp(RampId::Tile { column, row }) => Piece::Tile { column, row },
            PieceId::Block(block) => Piece::Block(block),
            PieceId::Ramp(RampId::Drawn(ramp)) => Piece::Ramp(ramp),
            PieceId::Mover(mover) => mover.into(),
            PieceId::Edge(side) => Piece::Edge(side),
        }
    }
}

impl From<MoverId> for Piece {
    fn from(mover: MoverId) -> Piece {
        match mover {
            MoverId::Platform(platform) => Piece::Platform(platform),
            MoverId::Prop(prop) => Piece::Prop(prop),
            MoverId::Character(character) => Piece::Character(character),
        }
    }
}

impl fmt::Display for Piece {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            Piece::Tile { column, row } => write!(f, "tile@{column},{row}"),
            Piece::Block(index) => write!(f, "block:{}", index + 1),
            Piece::Ramp(index) => write!(f, "ramp:{}", index + 1),
            Piece::Platform(index) => write!(f, "platform:{}", index + 1),
            Piece::Prop(index) => write!(f, "prop:{}", index + 1),
            Piece::Character(index) => write!(f, "character:{}", index + 1),
            Piece::Edge(side) => write!(f, "edge:{side}"),
        }
    }
}

/// What a character touches.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
#[non_exhaustive]
pub struct Touched {
    /// What holds it up: after a tick that says `landed`, what it landed on; after one that says `bounced`, what threw it
    /// up. Seen from above, what stopped it on its way down in the last tick; none if it slid past that, around a corner.
    pub below: Option<Piece>,
    /// The ceiling that its head bumped in the last tick. Seen from above, what stopped it on its way up; none if it slid past that.
    pub above: Option<Piece>,
    /// The wall within the probe.
    pub left: Option<Piece>,
    /// The wall within the probe.
    pub right: Option<Piece>,
}

/// How far a way along one axis came.
#[derive(Clone, Copy, Debug, PartialEq)]
#[non_exhaustive]
pub struct Met {
    /// Where the feet get to, px, y down.
    pub feet: DVec2,
    /// What stopped them; nothing if the whole way is free.
    pub piece: Option<Piece>,
}

impl<T: Terrain> World<T> {
    /// What a character touches after the last tick: which tile, block, ramp, platform or prop holds it up, was bumped,
    /// is the wall.
    ///
    /// ```
    /// # use wumple_core::{Buttons, DVec2, Edges, Grid, Piece, Tuning, TuningNumbers, World};
    /// # let map = Grid::from_rows(&["......", "......", "######"], 16.0, Edges::default())?;
    /// # let tuning = Tuning::check(&TuningNumbers::new(10.0, 22.0, 120.0).with_jump(54.0, 0.35))?;
    /// # let mut world = World::new(map);
    /// let dab = world.add_character(tuning, DVec2::new(40.0, 32.0))?;
    /// assert_eq!(world.touched(dab).below, Some(Piece::Tile { column: 2, row: 2 }));
    /// # Ok::<(), Box<dyn core::error::Error>>(())
    /// ```
    ///
    /// # Panics
    ///
    /// If it is not in this world.
    #[must_use]
    pub fn touched(&self, id: CharacterId) -> Touched {
        let character = self.character(id);
        let report = character.report();
        in_scene(self, asker_of(character, self.tick, &self.presence), |scene| {
            let around = character.surroundings(&scene);
            let wall =
                |side| character.walls.touched.on(side).and_then(|wall| around.pieces().of_wall(&wall, report.feet));
            let thrown_by = report.events.iter().rev().find_map(|event| match event {
                Event::Bounced(support) => Some(*support),
                _ => None,
            });
            let below = thrown_by.or(report.contacts.below.then_some(report.support));
            // Seen from above, what stops it on its way down holds nobody up.
            let kind = |support| (!character.is_seen_from_above()).then_some(support);
            let below = below.and_then(|support| around.pieces().below(report.feet, kind(support)));
            let above = || around.pieces().above(report.feet);
            Touched {
                below: below.map(Piece::from),
                above: report.contacts.above.then(above).flatten().map(Piece::from),
                left: wall(Direction::Left).map(Piece::from),
                right: wall(Direction::Right).map(Piece::from),
            }
        })
    }

    /// Questions about where a body of this tuning could be, and how far it would get: no character need be there.
    ///
    /// ```
    /// # use wumple_core::{DVec2, Edges, Grid, Piece, Tuning, TuningNumbers, World};
    /// # let map = Grid::from_rows(&["......", ".....#", "######"], 16.0, Edges::default())?;
    /// # let tuning = Tuning::check(&TuningNumbers::new(10.0, 22.0, 120.0).with_jump(54.0, 0.35))?;
    /// # let world = World::new(map);
    /// let probe = world.probe(&tuning);
    /// assert!(probe.fits(DVec2::new(40.0, 32.0)));
    /// assert_eq!(probe.first_met_x(DVec2::new(40.0, 32.0), 90.0).piece, Some(Piece::Tile { column: 5, row: 1 }));
    /// # Ok::<(), Box<dyn core::error::Error>>(())
    /// ```
    pub fn probe<'a>(&'a self, tuning: &'a Tuning) -> Probe<'a, T> {
        Probe { world: self, tuning }
    }

    /// Calls `visit` for everything that a box, px, overlaps: tiles that are not empty, blocks, drawn ramps, platforms,
    /// props. What only touches it does not count.
    pub fn pieces_in(&self, area: &Hitbox, mut visit: impl FnMut(Piece)) {
        let body = Body { width: 0.0, height: 0.0 };
        in_scene(self, of_anyone(self.tick, &self.presence), |scene| {
            scene.around(&body, true).pieces().inside(area, &mut |id| visit(Piece::from(id)))
        });
    }

    /// The zones that a box, px, overlaps with their margins, each once, in the order in which events tell them: pickups,
    /// checkpoints, goals, hazards, own kinds. What only touches it does not count.
    ///
    /// ```
    /// # use wumple_core::{Edges, Grid, Hitbox, TileProperties, World, ZoneKind};
    /// let kinds = [TileProperties::EMPTY, TileProperties::SOLID, TileProperties::zone(ZoneKind::Pickup)];
    /// let map = Grid::new(4, vec![0, 0, 2, 0, 1, 1, 1, 1], 16.0, &kinds, Edges::default())?;
    /// let world = World::new(map);
    /// let zones = world.zones_in(&Hitbox { left: 0.0, right: 40.0, top: 0.0, bottom: 16.0 });
    /// assert_eq!(zones[0].to_string(), "pickup@2,0");
    /// # Ok::<(), Box<dyn core::error::Error>>(())
    /// ```
    #[must_use]
    pub fn zones_in(&self, area: &Hitbox) -> Vec<ZoneId> {
        in_scene(self, of_anyone(self.tick, &self.presence), |scene| zones_in(scene.terrain, scene.movers, area))
    }
}

/// Who asks about everything, whatever group it is in.
fn of_anyone(tick: u64, presence: &Presence) -> Asker<'_> {
    let meets = Meets::by(presence, MeetsAs::Anyone);
    Asker { tick, whole_pixels: false, by: AskedBy::Anyone, during: None, meets, from_above: false }
}

/// Asks about everything that somebody meets as it is now.
pub(super) fn in_scene<T: Terrain, R>(
    world: &World<T>,
    asker: Asker<'_>,
    question: impl FnOnce(Scene<'_, MetTerrain<'_, T>>) -> R,
) -> R {
    let mut nearby = Nearby::unknown(Features::NONE);
    let movers = Movers::looked_up(&world.platforms, &asker);
    question(Scene {
        terrain: &MetTerrain::by(asker.meets, asker.from_above, &world.terrain),
        nearby: &mut nearby,
        movers: &movers,
        is_plain: false,
        zones: zones_of(&world.terrain, &world.platforms, &world.presence),
    })
}

/// Questions about a body of a tuning at any place of a world: see [`World::probe`].
#[derive(Clone, Copy, Debug)]
#[must_use]
pub struct Probe<'a, T> {
    world: &'a World<T>,
    tuning: &'a Tuning,
}

impl<T: Terrain> Probe<'_, T> {
    /// Whether a hitbox fits with its feet at a place, px, y down.
    #[must_use]
    pub fn fits(&self, feet: DVec2) -> bool {
        self.overlapped(feet).is_none()
    }

    /// The first thing that a hitbox with its feet at a place would be inside of.
    #[must_use]
    pub fn overlapped(&self, feet: DVec2) -> Option<Piece> {
        self.ask(|around| around.overlapped(feet).map(Piece::from))
    }

    /// What would hold up a body with its feet exactly at a place, px, y down.
    #[must_use]
    pub fn supported_by(&self, feet: DVec2) -> Option<Piece> {
        self.ask(|around| around.pieces().below(feet, None).map(Piece::from))
    }

    /// The first thing that a hitbox meets on its way along x to `to`, px: faces stop it, slopes it goes up do not.
    #[must_use]
    pub fn first_met_x(&self, feet: DVec2, to: f64) -> Met {
        self.ask(|around| {
            let walk = around.walk(feet, to, Footing::Air);
            let (half, to_right) = (self.tuning.body().half_width(), to > feet.x);
            let face = if to_right { walk.feet.x + half } else { walk.feet.x - half };
            let side = if to_right { Direction::Right } else { Direction::Left };
            // A face; or a slope that cannot lift it further, because of what is overhead.
            let met = || {
                let at_face = around.pieces().of_face(side, face, walk.feet);
                let over = || around.pieces().above(walk.feet);
                at_face.or_else(over).or_else(|| around.pieces().below(walk.feet, None)).map(Piece::from)
            };
            Met { feet: walk.feet, piece: (walk.feet.x != to).then(met).flatten() }
        })
    }

    /// The first thing that a hitbox meets on its way along y to `to`, px, y down: floors downward, ceilings upward.
    #[must_use]
    pub fn first_met_y(&self, feet: DVec2, to: f64) -> Met {
        self.ask(|around| {
            if to < feet.y {
                let rise = around.rise(feet, to);
                let reached = DVec2::new(feet.x, rise.place);
                let met = || around.pieces().above(reached).map(Piece::from);
                return Met { feet: reached, piece: rise.blocked.then(met).flatten() };
            }
            let floor = around.first_floor(feet.x, feet.y, to);
            let piece = floor.and_then(|floor| floor.piece(self.world.terrain.grid_lines()));
            Met { feet: DVec2::new(feet.x, floor.map_or(to, |floor| floor.y)), piece: piece.map(Piece::from) }
        })
    }

    fn ask<R>(&self, question: impl FnOnce(Surroundings<'_, MetTerrain<'_, T>>) -> R) -> R {
        let Probe { world, tuning } = self;
        let ladders = tuning.ladder().is_some();
        in_scene(world, asker(tuning, AskedBy::Anyone, world.tick, &world.presence), |scene| {
            question(scene.around(tuning.body(), ladders))
        })
    }
}
