//! Everyone in a world: its characters and props, and what is known of what is near each.

use alloc::vec::Vec;

use super::ids::BodyId;
use super::prop::PropState;
use super::roster::{HasBody, Roster};
use super::{Character, Saved};
use crate::groups::{Group, Meetings};
use crate::nearby::Nearby;
use crate::platforms::{BodyKind, Mover, PlatformNotes, Platforms};
use crate::space::Hitbox;
use crate::terrain::Terrain;

/// What is known of a body's surroundings.
#[derive(Clone, Debug)]
pub(super) struct Known {
    pub(super) pieces: Nearby,
    pub(super) platforms: PlatformNotes,
}

impl Known {
    fn nothing<T: Terrain>(terrain: &T) -> Known {
        Known { pieces: Nearby::unknown(terrain.features()), platforms: PlatformNotes::UNKNOWN }
    }

    fn forget(&mut self) {
        self.pieces.forget();
        self.forget_platforms();
    }

    fn forget_platforms(&mut self) {
        self.platforms = PlatformNotes::UNKNOWN;
    }
}

/// The characters and props of a world.
#[derive(Clone, Debug, Default)]
pub(super) struct Bodies {
    pub(super) characters: Roster<Character>,
    pub(super) props: Roster<PropState>,
    /// The props in the order in which they move: those on which others can stand first.
    pub(super) prop_order: Vec<u32>,
    /// The same of characters, where they meet each other.
    pub(super) character_order: Vec<u32>,
    /// What is known of the surroundings of each prop and each character: of no effect but on speed.
    pub(super) known: [Vec<Known>; 2],
    /// What moves near the body whose tick it is: kept so that nothing is allocated.
    pub(super) near: Vec<Mover>,
}

impl Bodies {
    /// None yet, and room for what moves near them.
    pub(super) fn among(platforms: &Platforms) -> Bodies {
        Bodies { near: Vec::with_capacity(platforms.len()), ..Bodies::default() }
    }

    /// The characters and the bodies of the props.
    pub(super) fn all(&self) -> impl Iterator<Item = &Character> {
        self.characters.iter().chain(self.props.iter().map(|prop| &prop.body))
    }

    /// Whether one of them is in the way of something of a group that comes back.
    pub(super) fn are_in(&self, way: &Hitbox, group: Group, meetings: &Meetings) -> bool {
        let meets = |body: &Character| meetings.meet(body.tuning.group(), group);
        self.all().any(|body| body.is_there() && body.hitbox().overlaps(way) && meets(body))
    }

    /// Whether somebody meets other things than everyone: goes through everything, or is seen from above.
    pub(super) fn any_differs(&self) -> bool {
        self.all().any(|body| body.outside.passes() || body.is_seen_from_above())
    }

    /// Where a body is among those of its kind.
    #[inline]
    pub(super) fn find(&self, id: BodyId) -> Option<usize> {
        match id {
            BodyId::Character(id) => self.characters.slot(id.0),
            BodyId::Prop(id) => self.props.slot(id.0),
        }
    }

    /// The same of one that must be here.
    #[inline]
    fn slot(&self, id: BodyId) -> usize {
        self.find(id).unwrap_or_else(|| panic!("{id:?} is not in this world: it was removed, or belongs to another"))
    }

    #[inline]
    pub(super) fn get(&self, id: BodyId) -> &Character {
        let slot = self.slot(id);
        match id {
            BodyId::Character(_) => &self.characters[slot],
            BodyId::Prop(_) => &self.props[slot].body,
        }
    }

    pub(super) fn get_mut(&mut self, id: BodyId) -> &mut Character {
        let slot = self.slot(id);
        match id {
            BodyId::Character(_) => &mut self.characters[slot],
            BodyId::Prop(_) => &mut self.props[slot].body,
        }
    }

    pub(super) fn add_character<T: Terrain>(&mut self, character: Character, terrain: &T) {
        self.characters.add(character);
        self.known[1].push(Known::nothing(terrain));
    }

    pub(super) fn add_prop<T: Terrain>(&mut self, prop: PropState, terrain: &T) {
        self.props.add(prop);
        self.known[0].push(Known::nothing(terrain));
    }

    /// Takes one out; says whether it was there.
    pub(super) fn remove(&mut self, id: BodyId) -> bool {
        let Some(slot) = self.find(id) else { return false };
        match id {
            BodyId::Character(id) => {
                self.characters.remove(id.0);
                self.known[1].remove(slot);
            }
            BodyId::Prop(id) => {
                self.props.remove(id.0);
                self.known[0].remove(slot);
            }
        }
        true
    }

    /// Everyone as they were saved.
    pub(super) fn restore<T: Terrain>(&mut self, saved: &Saved, terrain: &T) {
        self.props.copy_from(&saved.props);
        self.characters.copy_from(&saved.characters);
        for (known, bodies) in self.known.iter_mut().zip([self.props.len(), self.characters.len()]) {
            known.resize_with(bodies, || Known::nothing(terrain));
        }
    }

    /// Lets others see where the props are before they move, and finds the order in which they do.
    pub(super) fn show_props(&mut self, platforms: &mut Platforms) {
        platforms.set_bodies(BodyKind::Prop, self.props.iter().map(PropState::place));
        self.make_room(platforms);
        order_from_below(&mut self.prop_order, &self.props);
    }

    /// The same of characters, if they meet each other.
    pub(super) fn show_characters(&mut self, platforms: &mut Platforms, meetings: &Meetings) {
        if meetings.any_characters_meet() {
            let places = self.characters.iter().map(|of| of.place_before(of.id().into()));
            platforms.set_bodies(BodyKind::Character, places);
            self.make_room(platforms);
            order_from_below(&mut self.character_order, &self.characters);
        }
    }

    /// Room for everything that can be near one of them.
    fn make_room(&mut self, platforms: &Platforms) {
        self.near.clear();
        self.near.reserve(platforms.len() + self.props.len() + self.characters.len());
    }

    /// The ticks a second of their world, if anyone has said yet.
    pub(super) fn rate(&self, platforms: &Platforms) -> Option<f64> {
        platforms.known_rate().or_else(|| self.all().next().map(|body| body.tuning().rate()))
    }

    /// What is known of a body's surroundings may be of another place.
    pub(super) fn forget_around(&mut self, id: BodyId) {
        let slot = self.slot(id);
        self.known[usize::from(matches!(id, BodyId::Character(_)))][slot].forget();
    }

    /// Platforms came or went: what is known of those near each body is not so any more.
    pub(super) fn platforms_changed(&mut self, platforms: &Platforms) {
        self.make_room(platforms);
        self.known.iter_mut().flatten().for_each(Known::forget_platforms);
    }

    /// The terrain may be another.
    pub(super) fn doubt_terrain(&mut self) {
        self.known.iter_mut().flatten().for_each(|known| known.pieces.doubt());
    }
}

/// The places of bodies from below upward, so that each moves after the one that it stands on; of two at one height, first
/// the one that was added first. Mostly they are in
/// order already, unless some were added or removed.
fn order_from_below<B: HasBody>(order: &mut Vec<u32>, bodies: &[B]) {
    if order.len() != bodies.len() {
        order.clear();
        order.extend(0..bodies.len() as u32);
    }
    let below = |one: u32, other: u32| {
        let height = |slot: u32| bodies[slot as usize].body().report().feet.y;
        (height(other), one) < (height(one), other)
    };
    for end in 1..order.len() {
        let mut at = end;
        while at > 0 && below(order[at], order[at - 1]) {
            order.swap(at - 1, at);
            at -= 1;
        }
    }
}
