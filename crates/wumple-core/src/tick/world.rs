//! A terrain, what moves in it, and the tick that moves everything on.

use alloc::sync::Arc;
use alloc::vec::Vec;
use core::borrow::Borrow;

use glam::DVec2;

use super::bodies::{Bodies, HasBody};
use super::scene::Scene;
use super::{Character, Decision, Listener, NoListener, StartError, TickReport, Violation};
use crate::bytes::{Coded, Sink, Source};
use crate::input::Buttons;
use crate::nearby::{Nearby, is_plain};
use crate::platforms::{
    Asking, Mover, MoverId, Movers, PlatformNotes, PlatformReport, PlatformSurface, Platforms, PropPlace,
};
use crate::space::Hitbox;
use crate::terrain::{Features, Material, Terrain, Zone, ZoneId};
use crate::tuning::Tuning;

/// Coordinates stay within plus or minus this, px; a body beyond it is lost.
pub const LIMIT_PLACE: f64 = crate::tuning::LIMIT_LENGTH;

/// Which character of a [`World`]. None is given twice.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, PartialOrd, Ord)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize), serde(transparent))]
pub struct CharacterId(pub(super) u32);

/// Which prop of a [`World`]. None is given twice.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, PartialOrd, Ord)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize), serde(transparent))]
pub struct PropId(pub(super) u32);

impl From<PropId> for MoverId {
    fn from(id: PropId) -> MoverId {
        MoverId::Prop(id.0 as usize)
    }
}

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

/// A terrain, the platforms over it, and the props and characters in it.
///
/// The terrain may be owned or borrowed: `&T` is a [`Terrain`] wherever `T` is.
///
/// ```
/// use wumple_core::{Buttons, DVec2, Edges, Grid, Tuning, TuningNumbers, World};
///
/// let map = Grid::from_rows(&["......", "......", "######"], 16.0, Edges::default())?;
/// let mut world = World::new(map);
/// let tuning = Tuning::check(&TuningNumbers::new(10.0, 22.0, 120.0).with_jump(54.0, 0.35))?;
/// let dab = world.add_character(tuning, DVec2::new(24.0, 32.0))?;
/// world.tick(&[Buttons { right: true, ..Buttons::NONE }]);
/// assert_eq!(world.report(dab).feet, DVec2::new(26.0, 32.0));
/// # Ok::<(), Box<dyn core::error::Error>>(())
/// ```
#[derive(Clone, Debug)]
pub struct World<T> {
    pub(super) terrain: T,
    pub(super) platforms: Platforms,
    pub(super) props: Bodies<PropState>,
    /// The props in the order in which they move: those on which others can stand first.
    prop_order: Vec<u32>,
    pub(super) characters: Bodies<Character>,
    pub(super) tick: u64,
    /// What is near the body whose tick it is: kept so that nothing is allocated.
    near: Vec<Mover>,
    /// What is known of the surroundings of each prop and each character: of no effect but on speed.
    pub(super) known: [Vec<Known>; 2],
}

/// What is known of a body's surroundings.
#[derive(Clone, Debug)]
pub(super) struct Known {
    pieces: Nearby,
    platforms: PlatformNotes,
}

impl Known {
    pub(super) fn nothing<T: Terrain>(terrain: &T) -> Known {
        Known { pieces: Nearby::unknown(terrain.features()), platforms: PlatformNotes::UNKNOWN }
    }

    pub(super) fn forget(&mut self) {
        self.pieces.forget();
        self.forget_platforms();
    }

    pub(super) fn forget_platforms(&mut self) {
        self.platforms = PlatformNotes::UNKNOWN;
    }
}

/// A prop: a character whose player holds nothing.
#[derive(Debug, PartialEq)]
pub(super) struct PropState {
    pub(super) body: Character,
    solid: bool,
    material: Material,
    zone: Option<Zone>,
}

impl PropState {
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

impl HasBody for Character {
    fn body(&self) -> &Character {
        self
    }
    fn body_mut(&mut self) -> &mut Character {
        self
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

impl<T: Terrain> World<T> {
    /// A world without platforms and characters, before its first tick.
    pub fn new(terrain: T) -> World<T> {
        World::with_platforms(terrain, Platforms::none())
    }

    /// The same with platforms.
    pub fn with_platforms(terrain: T, platforms: Platforms) -> World<T> {
        let near = Vec::with_capacity(platforms.len());
        let (props, prop_order, characters) = (Bodies::default(), Vec::new(), Bodies::default());
        World { terrain, platforms, props, prop_order, characters, tick: 0, near, known: Default::default() }
    }

    /// Puts a character into the world, with its feet at this place (px, y down).
    ///
    /// # Errors
    ///
    /// If its hitbox would be inside something solid, or the place is not a number within
    /// [`LIMIT_PLACE`]; if it has another tick rate than the world's platforms, or than those before it.
    pub fn add_character(&mut self, tuning: Tuning, feet: DVec2) -> Result<CharacterId, StartError> {
        let id = CharacterId(self.characters.next());
        let (character, rides) = self.start(id, None, tuning, feet)?;
        self.characters.add(character);
        self.known[1].push(Known::nothing(&self.terrain));
        if let Some(MoverId::Platform(platform)) = rides {
            self.platforms.was_ridden(platform, self.tick, true);
        }
        Ok(id)
    }

    /// Puts a prop into the world, with the middle of its bottom edge at this place (px, y down).
    ///
    /// # Errors
    ///
    /// Like [`World::add_character`], and [`StartError::BadMaterial`].
    pub fn add_prop(&mut self, prop: Prop, feet: DVec2) -> Result<PropId, StartError> {
        let Prop { tuning, surface, material, zone } = prop;
        if !material.is_within_bounds() {
            return Err(StartError::BadMaterial);
        }
        if zone.is_some_and(|zone| !zone.margin.is_within_bounds()) {
            return Err(StartError::BadMargin);
        }
        let id = PropId(self.props.next());
        let (body, rides) = self.start(CharacterId(id.0), Some(id.into()), tuning, feet)?;
        self.props.add(PropState { body, solid: surface == PlatformSurface::Solid, material, zone });
        self.known[0].push(Known::nothing(&self.terrain));
        self.near.reserve(self.platforms.len() + self.props.len());
        self.order_props();
        if let Some(MoverId::Platform(platform)) = rides {
            self.platforms.was_ridden(platform, self.tick, false);
        }
        Ok(id)
    }

    fn start(
        &self,
        id: CharacterId,
        itself: Option<MoverId>,
        tuning: Tuning,
        feet: DVec2,
    ) -> Result<(Character, Option<MoverId>), StartError> {
        if let Some(expected) = self.rate().filter(|rate| *rate != tuning.rate()) {
            return Err(StartError::OtherRate { expected, found: tuning.rate() });
        }
        self.check_whole_pixels(&tuning)?;
        let character = self.in_scene(tuning.moves_whole_pixels(), |scene| {
            Character::start(scene, (id, itself), tuning, feet, self.tick)
        })?;
        let rides = character.report().support.mover();
        Ok((character, rides))
    }

    /// Whether the platforms let a body of this tuning move by whole pixels, if it does.
    pub(super) fn check_whole_pixels(&self, tuning: &Tuning) -> Result<(), StartError> {
        match self.platforms.first_not_whole().filter(|_| tuning.moves_whole_pixels()) {
            Some(platform) => Err(StartError::PlatformNotWhole { platform }),
            None => Ok(()),
        }
    }

    /// Moves everything on by one tick. `buttons` are what each character's player holds, in the order
    /// in which they were added; a character without an entry holds nothing.
    ///
    /// Characters that have died or are lost no longer move. The cost does not depend on the size of
    /// the map or the number of platforms, and nothing is allocated.
    pub fn tick(&mut self, buttons: &[Buttons]) {
        self.tick_all(|index, _| buttons.get(index).unwrap_or(&Buttons::NONE), &mut NoListener);
    }

    /// The same where `held` says what the player of each character holds: for worlds in which characters come and go.
    pub fn tick_with(&mut self, mut held: impl FnMut(CharacterId) -> Buttons) {
        self.tick_all(|_, id| held(id), &mut NoListener);
    }

    /// The same, and `listener` hears of every decision with its reason; it may be a `dyn Listener`. The motion is the
    /// same to the bit.
    pub fn tick_told<L: Listener + ?Sized>(&mut self, buttons: &[Buttons], mut listener: &mut L) {
        self.tick_all(|index, _| buttons.get(index).unwrap_or(&Buttons::NONE), &mut listener);
    }

    #[inline(always)]
    fn tick_all<B: Borrow<Buttons>, L: Listener>(
        &mut self,
        mut held: impl FnMut(usize, CharacterId) -> B,
        listener: &mut L,
    ) {
        self.tick += 1;
        if self.platforms.any_happened() {
            self.bring_platforms_back();
        }
        if !self.props.is_empty() {
            self.tick_props();
        }
        let is_plain = self.platforms.nothing_moves() && is_plain(self.terrain.features());
        let has_zones = self.has_zones();
        for (index, character) in self.characters.iter_mut().enumerate() {
            let id = character.id();
            let held = held(index, id);
            let known = &mut self.known[1][index];
            let movers = movers_around(&self.platforms, &mut self.near, &mut known.platforms, character, self.tick);
            let (terrain, nearby, movers) = (&self.terrain, &mut known.pieces, &movers);
            let scene = Scene { terrain, nearby, movers, is_plain, has_zones };
            let borne_by = character.tick(scene, held.borrow(), self.tick, listener);
            if let Some(MoverId::Platform(platform)) = borne_by {
                if listener.listens() && self.platforms.begins_to_crumble(platform) {
                    listener.decided(id, self.tick, &Decision::Crumbles);
                }
                self.platforms.was_ridden(platform, self.tick, true);
            }
        }
        #[cfg(debug_assertions)]
        if let Some((violation, body)) = self.violation_of_body() {
            let which = if body.is_prop() { "prop" } else { "character" };
            panic!("{violation} in tick {}: {which} {} {:?}", self.tick, body.identity(), body.report());
        }
    }

    /// The characters and the bodies of the props.
    pub(super) fn bodies(&self) -> impl Iterator<Item = &Character> {
        self.characters.iter().chain(self.props.iter().map(|prop| &prop.body))
    }

    /// The ticks a second of this world, if anyone has said yet.
    pub(super) fn rate(&self) -> Option<f64> {
        self.platforms.known_rate().or_else(|| self.bodies().next().map(|body| body.tuning().rate()))
    }

    /// Whether there is any zone anywhere.
    pub(super) fn has_zones(&self) -> bool {
        self.terrain.features().has(Features::ZONE) || self.platforms.zone_reach().is_some()
    }

    /// Crumbled platforms come back whose time is over, if nobody is in their way.
    fn bring_platforms_back(&mut self) {
        let (characters, props) = (&self.characters, &self.props);
        self.platforms.bring_back(self.tick, |way| {
            let bodies = characters.iter().chain(props.iter().map(|prop| &prop.body));
            bodies.filter(|body| !body.has_ended()).any(|body| body.hitbox().overlaps(way))
        });
    }

    /// Props move before characters, from below upward: so each is carried by the one it stands on.
    fn tick_props(&mut self) {
        self.see_props();
        let props = &self.props;
        let below = |one: u32, other: u32| {
            let height = |prop: u32| props[prop as usize].body.report().feet.y;
            (height(other), one) < (height(one), other)
        };
        for end in 1..self.prop_order.len() {
            let mut at = end;
            while at > 0 && below(self.prop_order[at], self.prop_order[at - 1]) {
                self.prop_order.swap(at - 1, at);
                at -= 1;
            }
        }
        let has_zones = self.has_zones();
        for slot in &self.prop_order {
            let index = *slot as usize;
            let body = &mut self.props[index].body;
            let known = &mut self.known[0][index];
            let movers = movers_around(&self.platforms, &mut self.near, &mut known.platforms, body, self.tick);
            let (terrain, nearby, movers) = (&self.terrain, &mut known.pieces, &movers);
            let scene = Scene { terrain, nearby, movers, is_plain: false, has_zones };
            let borne_by = body.tick(scene, &Buttons::NONE, self.tick, &mut NoListener);
            let (place, is_there) = (body.hitbox(), !body.has_ended());
            self.platforms.set_prop(index, place, is_there);
            if let Some(MoverId::Platform(platform)) = borne_by {
                self.platforms.was_ridden(platform, self.tick, false);
            }
        }
    }

    /// Where the props are before they move.
    pub(super) fn see_props(&mut self) {
        self.platforms.set_props(self.props.iter().map(|prop| {
            let place = prop.body.hitbox();
            let PropState { solid, material, zone, .. } = *prop;
            let (id, is_there) = (prop.body.identity(), !prop.body.has_ended());
            PropPlace { id, old: place, now: place, solid, material, zone, is_there, has_moved: false }
        }));
    }

    /// Platforms came or went: what is known of those near each body is not so any more.
    pub(super) fn platforms_changed(&mut self) {
        self.near.reserve(self.platforms.len() + self.props.len());
        self.known.iter_mut().flatten().for_each(Known::forget_platforms);
    }

    /// The same where others were added or removed: their order is found anew.
    pub(super) fn order_props(&mut self) {
        self.prop_order.clear();
        self.prop_order.extend(0..self.props.len() as u32);
        self.see_props();
    }

    /// The platforms.
    pub fn platforms(&self) -> &Platforms {
        &self.platforms
    }

    /// Where a platform is now, and what it is doing.
    ///
    /// # Panics
    ///
    /// If there is no such platform.
    pub fn platform_report(&self, platform: usize) -> PlatformReport {
        self.platforms.report(platform, self.tick)
    }

    /// The box of a platform or a prop now, px, y down.
    ///
    /// # Panics
    ///
    /// If there is no such platform or prop.
    pub fn place_of(&self, mover: MoverId) -> Hitbox {
        match mover {
            MoverId::Platform(platform) => self.platform_report(platform).place,
            MoverId::Prop(prop) => self.prop(PropId(prop as u32)).hitbox(),
        }
    }

    /// What the last tick (or the start) did with a prop.
    ///
    /// # Panics
    ///
    /// If it is not in this world.
    pub fn prop_report(&self, id: PropId) -> &TickReport {
        self.prop(id).report()
    }

    fn prop(&self, id: PropId) -> &Character {
        self.props.get(id.0).map_or_else(|| panic!("{id:?} is not in this world"), |prop| &prop.body)
    }

    /// The props, in the order in which they were added.
    pub fn props(&self) -> impl ExactSizeIterator<Item = PropId> {
        self.props.iter().map(|prop| PropId(prop.body.identity()))
    }

    /// How many ticks have passed.
    pub fn ticks(&self) -> u64 {
        self.tick
    }

    /// The terrain.
    pub fn terrain(&self) -> &T {
        &self.terrain
    }

    /// The terrain, to be changed. Whatever is changed of it, what is near each body is read again in the next tick. A body
    /// that something solid came upon says [`Event::CrushedByTerrain`](crate::Event::CrushedByTerrain) in every tick, and
    /// does nothing else, until it is clear.
    pub fn terrain_mut(&mut self) -> &mut T {
        self.known.iter_mut().flatten().for_each(|known| known.pieces.doubt());
        &mut self.terrain
    }

    /// A character.
    ///
    /// # Panics
    ///
    /// If it is not in this world.
    pub fn character(&self, id: CharacterId) -> &Character {
        self.characters.get(id.0).unwrap_or_else(|| panic!("{id:?} is not in this world"))
    }

    /// The characters, in the order in which they were added.
    pub fn characters(&self) -> impl ExactSizeIterator<Item = &Character> {
        self.characters.iter()
    }

    /// The zones in which a character is after the last tick.
    ///
    /// # Panics
    ///
    /// If it is not in this world.
    pub fn zones_of(&self, id: CharacterId) -> &[ZoneId] {
        self.character(id).zones_inside()
    }

    /// What the last tick (or the start) did with a character.
    ///
    /// # Panics
    ///
    /// If it is not in this world.
    pub fn report(&self, id: CharacterId) -> &TickReport {
        self.character(id).report()
    }

    /// Everything that must hold between two ticks; the first thing that does not. In debug builds it
    /// is checked after every tick.
    pub fn violation(&self) -> Option<Violation> {
        self.violation_of_body().map(|(violation, _)| violation)
    }

    fn violation_of_body(&self) -> Option<(Violation, &Character)> {
        self.bodies().find_map(|body| {
            let violation = self.in_scene(body.tuning().moves_whole_pixels(), |scene| body.violation(&scene))?;
            Some((violation, body))
        })
    }
}

/// What moves around a body in this tick.
#[inline(always)]
fn movers_around<'a>(
    platforms: &'a Platforms,
    near: &'a mut Vec<Mover>,
    notes: &mut PlatformNotes,
    body: &Character,
    tick: u64,
) -> Movers<'a> {
    if platforms.nothing_moves() {
        return Movers::none();
    }
    let (area, rides, asked_by_prop) = (body.reach(), body.ridden(), body.is_prop());
    let whole_pixels = body.tuning().moves_whole_pixels();
    platforms.gather(near, notes, &Asking { area, tick, whole_pixels, asked_by_prop, rides })
}
