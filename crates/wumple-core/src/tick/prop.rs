//! A prop: a body without buttons.

use alloc::sync::Arc;

use super::Character;
use super::ids::PropId;
use super::roster::HasBody;
use crate::bytes::{Coded, Sink, Source};
use crate::platforms::{BodyPlace, PlatformSurface};
use crate::terrain::{Material, Zone};
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
