//! Things that are taken out of a world and brought back: gates that open, jars that are fetched.

use super::queries::in_scene;
use super::scene::asker_of;
use super::{Character, Piece, World};
use crate::space::Body;
use crate::terrain::{Terrain, ZoneId, ZoneOf};

/// What of a level is there for nobody, because the game took it away: see [`World::things`].
#[derive(Debug)]
#[must_use]
pub struct Things<'a, T> {
    world: &'a mut World<T>,
}

impl<T: Terrain> World<T> {
    /// To take away what is a zone, and to bring it back. What is away is saved and restored with the world.
    ///
    /// ```
    /// use wumple_core::{
    ///     Buttons, DVec2, Edges, Grid, State, TileProperties, Tuning, TuningNumbers, World, Zone, ZoneId, ZoneKind, ZoneOf,
    /// };
    ///
    /// let gate = ZoneKind::of_word("gate").ok_or("no word")?;
    /// let bars = TileProperties { zone: Some(Zone::of(gate).by_touch()), ..TileProperties::SOLID };
    /// let kinds = [TileProperties::EMPTY, TileProperties::SOLID, bars];
    /// let map = Grid::new(4, vec![0, 0, 2, 0, 1, 1, 1, 1], 32.0, &kinds, Edges::default())?;
    /// # let tuning = Tuning::check(&TuningNumbers::new(10.0, 22.0, 120.0).with_jump(54.0, 0.35))?;
    /// let mut world = World::new(map);
    /// let dab = world.add_character(tuning, DVec2::new(48.0, 32.0))?;
    /// let bars = ZoneId { kind: gate, of: ZoneOf::Tile { column: 2, row: 0 } };
    /// world.things().take_away(bars);
    /// (0..12).for_each(|_| world.tick(&[Buttons { right: true, ..Buttons::NONE }]));
    /// assert_eq!(world.report(dab).feet.x, 72.0, "through where the gate was");
    /// assert!(!world.things().bring_back(bars), "not while somebody is in its way");
    /// # Ok::<(), Box<dyn core::error::Error>>(())
    /// ```
    pub fn things(&mut self) -> Things<'_, T> {
        Things { world: self }
    }
}

impl<T: Terrain> Things<'_, T> {
    /// Takes a zone out of the world with what it is of: its tiles, its block, ramp, platform or prop. Nobody meets it, and who
    /// stood on it stands on nothing. Says whether it was there. A zone that the world does not have may be named, too.
    pub fn take_away(&mut self, zone: ZoneId) -> bool {
        let world = &mut *self.world;
        let changes = world.presence.away.add(zone);
        if changes {
            changed(world);
        }
        changes
    }

    /// Brings one back, unless the hitbox of somebody who meets it is in its way. Says whether it is there now.
    pub fn bring_back(&mut self, zone: ZoneId) -> bool {
        let world = &mut *self.world;
        if !world.presence.away.remove(zone) {
            return true;
        }
        if world.bodies.all().any(|body| body.is_there() && is_in_way(world, body, zone)) {
            world.presence.away.add(zone);
            return false;
        }
        changed(world);
        true
    }

    /// What is away.
    #[must_use]
    pub fn away(&self) -> &[ZoneId] {
        self.world.presence.away.all()
    }
}

fn changed<T: Terrain>(world: &mut World<T>) {
    let before = world.presence.lacks_bodies;
    world.presence.look_at_away(&world.terrain);
    // Zones are not among what is known to be near.
    if before || world.presence.lacks_bodies {
        world.bodies.doubt_terrain();
    }
}

/// Whether a body is where something is.
fn is_in_way<T: Terrain>(world: &World<T>, body: &Character, zone: ZoneId) -> bool {
    let itself = body.itself.and_then(|itself| ZoneOf::mover(itself.into()));
    if itself == Some(zone.of) {
        return false;
    }
    let point = Body { width: 0.0, height: 0.0 };
    in_scene(world, asker_of(body, world.tick, &world.presence), |scene| {
        let mut found = false;
        scene.around(&point, true).pieces().inside(&body.hitbox(), &mut |id| {
            found |= zone_of(scene.terrain, Piece::from(id)) == Some(zone.of);
        });
        found
    })
}

/// What a zone that is this piece is of.
fn zone_of<T: Terrain>(terrain: &T, piece: Piece) -> Option<ZoneOf> {
    match piece {
        Piece::Tile { column, row } => {
            let zone = terrain.tile(column, row).zone?;
            Some(terrain.zone_of_tile(column, row, &zone))
        }
        Piece::Block(block) => Some(ZoneOf::Block(block)),
        Piece::Ramp(ramp) => Some(ZoneOf::Ramp(ramp)),
        Piece::Platform(platform) => Some(ZoneOf::Platform(platform)),
        Piece::Prop(prop) => Some(ZoneOf::Prop(prop)),
        Piece::Character(_) | Piece::Edge(_) => None,
    }
}
