//! A prop: a body without buttons.

use alloc::sync::Arc;

use super::bodies::{Bodies, PropId};
use super::roster::HasBody;
use super::scene::{Scene, asker_in_tick, has_zones, movers_around};
use super::{Character, NoListener};
use crate::bytes::{Coded, Sink, Source};
use crate::groups::Meetings;
use crate::input::Buttons;
use crate::platforms::{BodyKind, BodyPlace, PlatformSurface, Platforms};
use crate::terrain::{Material, MetTerrain, Terrain, Zone};
use crate::tuning::Tuning;

/// A body without buttons, to be put into a world: it falls, rests and rides, and can be stood on.
#[derive(Clone, Debug, PartialEq)]
pub struct Prop {
    /// Its body, and how it falls. Of the rest of a tuning it makes no use.
    pub tuning: Tuning,
    /// What of it stops a character.
    pub surface: PlatformSurface,
    /// What its top is like to stand on.
    pub material: Material,
    /// What it is besides, if it is a zone.
    pub zone: Option<Zone>,
}

impl Prop {
    /// One that is solid on all sides, plain to stand on, and no zone.
    #[must_use]
    pub fn new(tuning: Tuning) -> Prop {
        Prop { tuning, surface: PlatformSurface::Solid, material: Material::PLAIN, zone: None }
    }
}

/// One in a world: a character whose player holds nothing.
#[derive(Debug, PartialEq)]
pub(super) struct PropState {
    pub(super) body: Character,
    solid: bool,
    material: Material,
    zone: Option<Zone>,
}

impl PropState {
    pub(super) fn new(body: Character, surface: PlatformSurface, material: Material, zone: Option<Zone>) -> PropState {
        PropState { body, solid: surface == PlatformSurface::Solid, material, zone }
    }

    /// What others meet, before it moves.
    pub(super) fn place(&self) -> BodyPlace {
        let PropState { solid, material, zone, ref body } = *self;
        BodyPlace { solid, material, zone, ..body.place_before(PropId(body.identity()).into()) }
    }

    /// What it is beside its body.
    pub(super) fn put_beside(&self, to: &mut impl Sink) {
        let PropState { body: _, solid, material, zone } = self;
        solid.put(to);
        material.put(to);
        zone.put(to);
    }

    pub(super) fn decode(from: &mut Source<'_>, tuning: Arc<Tuning>) -> Option<PropState> {
        let body = Character::decode(from, tuning)?;
        let (solid, material, zone) = (bool::decode(from)?, Material::decode(from)?, Option::<Zone>::decode(from)?);
        material.is_within_bounds().then_some(PropState { body, solid, material, zone })
    }
}

impl HasBody for PropState {
    fn body(&self) -> &Character {
        &self.body
    }
    fn body_mut(&mut self) -> &mut Character {
        &mut self.body
    }
}

impl Clone for PropState {
    fn clone(&self) -> PropState {
        PropState { body: self.body.clone(), ..*self }
    }

    fn clone_from(&mut self, other: &PropState) {
        self.body.clone_from(&other.body);
        (self.solid, self.material, self.zone) = (other.solid, other.material, other.zone);
    }
}

/// Props move before characters, those lower down first.
pub(super) fn move_props<T: Terrain>(
    terrain: &T,
    platforms: &mut Platforms,
    bodies: &mut Bodies,
    meetings: &Meetings,
    tick: u64,
) {
    bodies.show_props(platforms);
    let has_zones = has_zones(terrain, platforms);
    for slot in &bodies.prop_order {
        let index = *slot as usize;
        let body = &mut bodies.props[index].body;
        let known = &mut bodies.known[0][index];
        let asker = &asker_in_tick(body, tick, meetings);
        let movers = movers_around(platforms, &mut bodies.near, &mut known.platforms, body, asker);
        let (nearby, movers) = (&mut known.pieces, &movers);
        let scene =
            Scene { terrain: &MetTerrain::by(asker.meets, terrain), nearby, movers, is_plain: false, has_zones };
        let borne_by = body.tick(scene, &Buttons::NONE, tick, &mut NoListener);
        let (place, is_there, rider) = (body.hitbox(), !body.has_ended(), body.rider());
        platforms.body_has_moved(BodyKind::Prop, index, place, is_there);
        if let Some(mover) = borne_by {
            platforms.was_ridden(mover, tick, rider);
        }
    }
}
