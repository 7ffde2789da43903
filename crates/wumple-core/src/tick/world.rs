//! A terrain, what moves in it, and the tick that moves everything on.

use core::borrow::Borrow;

use glam::DVec2;

use super::bodies::Bodies;
use super::ids::{BodyId, CharacterId, PropId};
use super::invariants::first_violation;
use super::prop::{Prop, PropState};
use super::queries::in_scene;
use super::scene::{Scene, asker, asker_in_tick, movers_around, zones_of};
use super::{Character, Decision, Listener, NoListener, StartError, TickReport, Violation, start};
use crate::groups::Meetings;
use crate::input::Buttons;
use crate::nearby::is_plain;
use crate::platforms::{AskedBy, BodyKind, MoverId, Movers, PlatformReport, Platforms};
use crate::presence::{Meets, Presence};
use crate::space::Hitbox;
use crate::terrain::{MetTerrain, Terrain, ZoneId};
use crate::tuning::Tuning;

/// Coordinates stay within plus or minus this, px; a body beyond it is lost.
pub const LIMIT_PLACE: f64 = crate::tuning::LIMIT_LENGTH;

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
    pub(super) bodies: Bodies,
    pub(super) presence: Presence,
    pub(super) tick: u64,
}

impl<T: Terrain> World<T> {
    /// A world without platforms and characters, before its first tick.
    pub fn new(terrain: T) -> World<T> {
        World::with_platforms(terrain, Platforms::none())
    }

    /// The same with platforms.
    pub fn with_platforms(terrain: T, platforms: Platforms) -> World<T> {
        let bodies = Bodies::among(&platforms);
        World { terrain, platforms, bodies, presence: Presence::default(), tick: 0 }
    }

    /// The same where not all meet all: who is in which group is said by tunings, tiles, and whatever lies and moves over them.
    ///
    /// ```
    /// use wumple_core::{Buttons, DVec2, Edges, Grid, Group, Meetings, Prop, Tuning, TuningNumbers, World};
    ///
    /// let map = Grid::from_rows(&["......", "......", "######"], 16.0, Edges::default())?;
    /// let jars = Group::new("jars").ok_or("no word")?;
    /// // Jars lie on the level, and whoever is in no group goes past them.
    /// let ghosts = Group::new("ghosts").ok_or("no word")?;
    /// let meetings = Meetings::new(&[(jars, &[Group::LEVEL]), (ghosts, &[Group::LEVEL])])?;
    /// let mut world = World::new(map).with_meetings(meetings);
    /// let mut numbers = TuningNumbers::new(10.0, 22.0, 120.0);
    /// numbers.group = ghosts;
    /// let ghost = world.add_character(Tuning::check(&numbers)?, DVec2::new(24.0, 32.0))?;
    /// let mut jar = TuningNumbers::new(12.0, 14.0, 0.0);
    /// jar.group = jars;
    /// world.add_prop(Prop::new(Tuning::check(&jar)?), DVec2::new(40.0, 32.0))?;
    /// for _ in 0..20 {
    ///     world.tick(&[Buttons { right: true, ..Buttons::NONE }]);
    /// }
    /// assert_eq!(world.report(ghost).feet, DVec2::new(64.0, 32.0));
    /// # Ok::<(), Box<dyn core::error::Error>>(())
    /// ```
    #[must_use]
    pub fn with_meetings(mut self, meetings: Meetings) -> World<T> {
        self.presence.set_meetings(meetings);
        self.bodies.doubt_terrain();
        self.bodies.platforms_changed(&self.platforms);
        self.platforms.set_bodies(BodyKind::Character, core::iter::empty());
        self.bodies.show_characters(&mut self.platforms, &self.presence.meetings);
        self
    }

    /// Puts a character into the world, with its feet at this place (px, y down).
    ///
    /// # Errors
    ///
    /// If its hitbox would be inside something solid, or the place is not a number within
    /// [`LIMIT_PLACE`]; if it has another tick rate than the world's platforms, or than those before it.
    pub fn add_character(&mut self, tuning: Tuning, feet: DVec2) -> Result<CharacterId, StartError> {
        let id = CharacterId(self.bodies.characters.next());
        let is_seen_from_above = tuning.four_way().is_some();
        let character = new_body(self, (id, None), tuning, feet)?;
        if let Some(mover) = character.report().support.mover() {
            self.platforms.was_ridden(mover, self.tick, character.rider());
        }
        self.bodies.add_character(character, &self.terrain);
        if is_seen_from_above {
            self.presence.set_any_differs(true);
        }
        self.bodies.show_characters(&mut self.platforms, &self.presence.meetings);
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
        let id = PropId(self.bodies.props.next());
        let body = new_body(self, (CharacterId(id.0), Some(id.into())), tuning, feet)?;
        if let Some(mover) = body.report().support.mover() {
            self.platforms.was_ridden(mover, self.tick, body.rider());
        }
        self.bodies.add_prop(PropState::new(body, surface, material, zone), &self.terrain);
        self.bodies.show_props(&mut self.platforms);
        Ok(id)
    }

    /// Moves everything on by one tick. `buttons` are what each character's player holds, in the order
    /// in which they were added; a character without an entry holds nothing.
    ///
    /// Characters that have died or are lost no longer move. The cost does not depend on the size of
    /// the map or the number of platforms, and nothing is allocated.
    pub fn tick(&mut self, buttons: &[Buttons]) {
        tick_all(self, |index, _| buttons.get(index).unwrap_or(&Buttons::NONE), &mut NoListener);
    }

    /// The same where `held` says what the player of each character holds: for worlds in which characters come and go.
    pub fn tick_with(&mut self, mut held: impl FnMut(CharacterId) -> Buttons) {
        tick_all(self, |_, id| held(id), &mut NoListener);
    }

    /// The same, and `listener` hears of every decision with its reason; it may be a `dyn Listener`. The motion is the
    /// same to the bit.
    pub fn tick_told<L: Listener + ?Sized>(&mut self, buttons: &[Buttons], mut listener: &mut L) {
        tick_all(self, |index, _| buttons.get(index).unwrap_or(&Buttons::NONE), &mut listener);
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

    /// The box of a platform, a prop or a character now, px, y down.
    ///
    /// # Panics
    ///
    /// If there is no such one.
    pub fn place_of(&self, mover: MoverId) -> Hitbox {
        match mover {
            MoverId::Platform(platform) => self.platform_report(platform).place,
            MoverId::Prop(prop) => self.bodies.get(PropId(prop as u32).into()).hitbox(),
            MoverId::Character(character) => self.bodies.get(CharacterId(character as u32).into()).hitbox(),
        }
    }

    /// The props, in the order in which they were added.
    pub fn props(&self) -> impl ExactSizeIterator<Item = PropId> {
        self.bodies.props.iter().map(|prop| PropId(prop.body.identity()))
    }

    /// How many ticks have passed.
    pub fn ticks(&self) -> u64 {
        self.tick
    }

    /// The zones whose things were taken away and are not back, in order: see [`World::things`].
    #[must_use]
    pub fn away(&self) -> &[ZoneId] {
        self.presence.away.all()
    }

    /// The terrain.
    pub fn terrain(&self) -> &T {
        &self.terrain
    }

    /// The terrain, to be changed. Whatever is changed of it, what is near each body is read again in the next tick. A body
    /// that something solid came upon says [`Event::CrushedByTerrain`](crate::Event::CrushedByTerrain) in every tick, and
    /// does nothing else, until it is clear.
    pub fn terrain_mut(&mut self) -> &mut T {
        self.bodies.doubt_terrain();
        &mut self.terrain
    }

    /// A character.
    ///
    /// # Panics
    ///
    /// If it is not in this world.
    pub fn character(&self, id: CharacterId) -> &Character {
        self.bodies.get(id.into())
    }

    /// The characters, in the order in which they were added.
    pub fn characters(&self) -> impl ExactSizeIterator<Item = &Character> {
        self.bodies.characters.iter()
    }

    /// What the last tick (or the start) did with a character or a prop.
    ///
    /// # Panics
    ///
    /// If it is not in this world.
    pub fn report(&self, id: impl Into<BodyId>) -> &TickReport {
        self.bodies.get(id.into()).report()
    }

    /// Everything that must hold between two ticks; the first thing that does not. In debug builds it
    /// is checked after every tick.
    pub fn violation(&self) -> Option<Violation> {
        first_violation(self).map(|(violation, _)| violation)
    }
}

#[inline(always)]
fn tick_all<T: Terrain, B: Borrow<Buttons>, L: Listener>(
    world: &mut World<T>,
    mut held: impl FnMut(usize, CharacterId) -> B,
    listener: &mut L,
) {
    world.tick += 1;
    let World { terrain, platforms, bodies, presence, tick } = world;
    if platforms.any_happened() {
        platforms.bring_back(*tick, |way, group| bodies.are_in(way, group, &presence.meetings));
    }
    if !bodies.props.is_empty() {
        move_props(terrain, platforms, bodies, presence, *tick);
    }
    if presence.is_whole() {
        for index in 0..world.bodies.characters.len() {
            move_character::<false, _, _, _>(world, index, &mut held, listener);
        }
    } else {
        move_among_groups(world, held, listener);
    }
    #[cfg(debug_assertions)]
    if let Some((violation, body)) = first_violation(world) {
        let which = if body.is_prop() { "prop" } else { "character" };
        panic!("{violation} in tick {}: {which} {} {:?}", world.tick, body.identity(), body.report());
    }
}

/// A body that is to be put into a world; if it is a prop, it says what it is to others.
fn new_body<T: Terrain>(
    world: &World<T>,
    which: (CharacterId, Option<MoverId>),
    tuning: Tuning,
    feet: DVec2,
) -> Result<Character, StartError> {
    let World { platforms, bodies, .. } = world;
    if let Some(expected) = bodies.rate(platforms).filter(|rate| *rate != tuning.rate()) {
        return Err(StartError::OtherRate { expected, found: tuning.rate() });
    }
    start::check_platforms(platforms, &tuning)?;
    let by = if which.1.is_some() { AskedBy::Prop } else { AskedBy::Character(which.0.0 as usize) };
    let asker = asker(&tuning, by, world.tick, &world.presence);
    in_scene(world, asker, |scene| Character::start(scene, which, tuning, feet, world.ticks()))
}

/// Props move before characters, those lower down first.
fn move_props<T: Terrain>(terrain: &T, platforms: &mut Platforms, bodies: &mut Bodies, presence: &Presence, tick: u64) {
    bodies.show_props(platforms);
    let zones = zones_of(terrain, platforms, presence);
    for slot in &bodies.prop_order {
        let index = *slot as usize;
        let body = &mut bodies.props[index].body;
        let known = &mut bodies.known[0][index];
        let asker = &asker_in_tick(body, tick, presence);
        let movers = movers_around(platforms, &mut bodies.near, &mut known.platforms, body, asker);
        let (nearby, movers) = (&mut known.pieces, &movers);
        let scene = Scene {
            terrain: &MetTerrain::by(asker.meets, asker.from_above, terrain),
            nearby,
            movers,
            is_plain: false,
            zones,
        };
        let borne_by = body.tick(scene, &Buttons::NONE, tick, &mut NoListener);
        let (place, is_there, rider) = (body.hitbox(), !body.has_ended(), body.rider());
        platforms.body_has_moved(BodyKind::Prop, index, place, is_there);
        if let Some(mover) = borne_by {
            platforms.was_ridden(mover, tick, rider);
        }
    }
}

/// Where not all meet all: apart, so that the ticks of other worlds stay as they are.
#[cold]
#[inline(never)]
fn move_among_groups<T: Terrain, B: Borrow<Buttons>, L: Listener>(
    world: &mut World<T>,
    mut held: impl FnMut(usize, CharacterId) -> B,
    listener: &mut L,
) {
    let World { platforms, bodies, presence, .. } = world;
    let count = bodies.characters.len();
    let they_meet = presence.meetings.any_characters_meet();
    if they_meet {
        bodies.show_characters(platforms, &presence.meetings);
    }
    for place in 0..count {
        let index = if they_meet { world.bodies.character_order[place] as usize } else { place };
        move_character::<true, _, _, _>(world, index, &mut held, listener);
        if they_meet {
            let character = &world.bodies.characters[index];
            let (hitbox, is_there) = (character.hitbox(), character.is_there());
            world.platforms.body_has_moved(BodyKind::Character, index, hitbox, is_there);
        }
    }
}

/// The tick of one character, by its place among all.
#[inline(always)]
fn move_character<const AMONG_GROUPS: bool, T: Terrain, B: Borrow<Buttons>, L: Listener>(
    world: &mut World<T>,
    index: usize,
    held: &mut impl FnMut(usize, CharacterId) -> B,
    listener: &mut L,
) {
    let World { terrain, platforms, bodies, presence, tick } = world;
    let Bodies { characters, known, near, .. } = bodies;
    let (character, known, tick) = (&mut characters[index], &mut known[1][index], *tick);
    let (id, is_plain) = (character.id(), platforms.nothing_moves() && is_plain(terrain.features()));
    let held = held(index, id);
    let asker;
    let movers = if platforms.nothing_moves() {
        &Movers::none()
    } else {
        asker = asker_in_tick(character, tick, presence);
        &movers_around(platforms, near, &mut known.platforms, character, &asker)
    };
    let (nearby, zones) = (&mut known.pieces, zones_of(terrain, platforms, presence));
    let borne_by = if AMONG_GROUPS {
        let from_above = character.is_seen_from_above();
        let terrain = &MetTerrain::by(Meets::by(presence, character.meets_as()), from_above, terrain);
        character.tick(Scene { terrain, nearby, movers, is_plain, zones }, held.borrow(), tick, listener)
    } else {
        character.tick(Scene { terrain, nearby, movers, is_plain, zones }, held.borrow(), tick, listener)
    };
    if let Some(mover) = borne_by {
        let rider = character.rider();
        if listener.listens() && platforms.begins_to_crumble(mover, rider) {
            listener.decided(id, tick, &Decision::Crumbles);
        }
        platforms.was_ridden(mover, tick, rider);
    }
}
