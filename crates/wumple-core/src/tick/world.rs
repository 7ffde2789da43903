//! A terrain, what moves in it, and the tick that moves everything on.

use alloc::borrow::ToOwned;
use alloc::vec::Vec;

use glam::DVec2;

use super::scene::Scene;
use super::{Character, Decision, Event, Listener, NoListener, StartError, TickReport, Violation};
use crate::input::Buttons;
use crate::nearby::{Nearby, is_plain};
use crate::platforms::{
    Asking, Mover, MoverId, Movers, PlatformChanges, PlatformNotes, PlatformReport, PlatformSurface, Platforms,
    PropPlace,
};
use crate::space::Hitbox;
use crate::terrain::{Features, Material, Terrain};
use crate::tuning::Tuning;

/// Coordinates stay within plus or minus this, px; a body beyond it is lost.
pub const LIMIT_PLACE: f64 = crate::tuning::LIMIT_LENGTH;

/// Which character of a [`World`].
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, PartialOrd, Ord)]
pub struct CharacterId(pub(super) usize);

/// Which prop of a [`World`].
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, PartialOrd, Ord)]
pub struct PropId(usize);

/// A body without buttons, to be put into a world: it falls, rests and rides, and can be stood on.
#[derive(Clone, Debug, PartialEq)]
pub struct Prop {
    /// Its body, and how it falls. Of the rest of a tuning it makes no use.
    pub tuning: Tuning,
    /// What of it stops a character.
    pub surface: PlatformSurface,
    /// What its top is like to stand on.
    pub material: Material,
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
    terrain: T,
    platforms: Platforms,
    props: Vec<PropState>,
    /// The props in the order in which they move: those on which others can stand first.
    prop_order: Vec<u32>,
    characters: Vec<Character>,
    tick: u64,
    /// What is near the body whose tick it is: kept so that nothing is allocated.
    near: Vec<Mover>,
    /// What is known of the surroundings of each prop and each character: of no effect but on speed.
    known: [Vec<Known>; 2],
}

/// What is known of a body's surroundings.
#[derive(Clone, Debug)]
struct Known {
    pieces: Nearby,
    platforms: PlatformNotes,
}

impl Known {
    fn nothing<T: Terrain>(terrain: &T) -> Known {
        Known { pieces: Nearby::unknown(terrain.features()), platforms: PlatformNotes::UNKNOWN }
    }
}

/// A prop: a character whose player holds nothing.
#[derive(Debug)]
struct PropState {
    body: Character,
    solid: bool,
    material: Material,
}

impl Clone for PropState {
    fn clone(&self) -> PropState {
        PropState { body: self.body.clone(), ..*self }
    }

    fn clone_from(&mut self, other: &PropState) {
        self.body.clone_from(&other.body);
        (self.solid, self.material) = (other.solid, other.material);
    }
}

/// Everything of a world that ticks change: not its terrain, nor its platforms' routes. The default is one of
/// nothing, to be saved into.
///
/// ```
/// # use wumple_core::{Buttons, DVec2, Edges, Grid, Tuning, TuningNumbers, World};
/// # let map = Grid::from_rows(&["......", "......", "######"], 16.0, Edges::default())?;
/// # let mut world = World::new(map);
/// # let tuning = Tuning::check(&TuningNumbers::new(10.0, 22.0, 120.0).with_jump(54.0, 0.35))?;
/// # let dab = world.add_character(tuning, DVec2::new(24.0, 32.0))?;
/// let saved = world.save();
/// world.tick(&[Buttons { right: true, ..Buttons::NONE }]);
/// let there = world.report(dab).clone();
/// world.restore(&saved);
/// world.tick(&[Buttons { right: true, ..Buttons::NONE }]);
/// assert_eq!(world.report(dab), &there, "the same again, to the bit");
/// # Ok::<(), Box<dyn core::error::Error>>(())
/// ```
#[derive(Clone, Debug, Default)]
pub struct Saved {
    tick: u64,
    platforms: PlatformChanges,
    props: Vec<PropState>,
    characters: Vec<Character>,
}

impl Saved {
    /// The tick at whose end it was saved.
    #[must_use]
    pub fn tick(&self) -> u64 {
        self.tick
    }

    /// How much memory it takes, bytes. The tunings of characters are shared with the world, and not counted.
    #[must_use]
    pub fn size_in_bytes(&self) -> usize {
        let events = |of: &Character| of.report().events.capacity() * size_of::<Event>();
        size_of::<Saved>()
            + self.platforms.size_in_bytes()
            + self.characters.iter().map(|of| size_of::<Character>() + events(of)).sum::<usize>()
            + self.props.iter().map(|prop| size_of::<PropState>() + events(&prop.body)).sum::<usize>()
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
        let (props, prop_order, characters) = (Vec::new(), Vec::new(), Vec::new());
        World { terrain, platforms, props, prop_order, characters, tick: 0, near, known: Default::default() }
    }

    /// Puts a character into the world, with its feet at this place (px, y down).
    ///
    /// # Errors
    ///
    /// If its hitbox would be inside something solid, or the place is not a number within
    /// [`LIMIT_PLACE`]; if it has another tick rate than the world's platforms, or than those before it.
    pub fn add_character(&mut self, tuning: Tuning, feet: DVec2) -> Result<CharacterId, StartError> {
        let id = CharacterId(self.characters.len());
        let (character, rides) = self.start(id, None, tuning, feet)?;
        self.characters.push(character);
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
        let Prop { tuning, surface, material } = prop;
        if !material.is_within_bounds() {
            return Err(StartError::BadMaterial);
        }
        let itself = MoverId::Prop(self.props.len());
        let (body, rides) = self.start(CharacterId(usize::MAX), Some(itself), tuning, feet)?;
        self.props.push(PropState { body, solid: surface == PlatformSurface::Solid, material });
        self.prop_order.push(self.props.len() as u32 - 1);
        self.known[0].push(Known::nothing(&self.terrain));
        self.near.reserve(self.platforms.len() + self.props.len());
        self.see_props();
        if let Some(MoverId::Platform(platform)) = rides {
            self.platforms.was_ridden(platform, self.tick, false);
        }
        Ok(PropId(self.props.len() - 1))
    }

    fn start(
        &self,
        id: CharacterId,
        itself: Option<MoverId>,
        tuning: Tuning,
        feet: DVec2,
    ) -> Result<(Character, Option<MoverId>), StartError> {
        let mut rates =
            self.characters.iter().chain(self.props.iter().map(|prop| &prop.body)).map(|body| body.tuning().rate());
        let platforms = (!self.platforms.is_empty()).then_some(self.platforms.rate());
        if let Some(expected) = platforms.or_else(|| rates.next()).filter(|rate| *rate != tuning.rate()) {
            return Err(StartError::OtherRate { expected, found: tuning.rate() });
        }
        if tuning.moves_whole_pixels()
            && let Some(platform) = self.platforms.first_not_whole()
        {
            return Err(StartError::PlatformNotWhole { platform });
        }
        let mut nearby = Nearby::unknown(Features::NONE);
        let movers = self.movers_everywhere(tuning.moves_whole_pixels());
        let scene = Scene { terrain: &self.terrain, nearby: &mut nearby, movers: &movers, is_plain: false };
        let character = Character::start(scene, (id, itself), tuning, feet, self.tick)?;
        let rides = character.report().support.mover();
        Ok((character, rides))
    }

    /// What moves, as it is now, for questions between ticks.
    fn movers_everywhere(&self, whole_pixels: bool) -> Movers<'_> {
        Movers::looked_up(&self.platforms, self.tick, whole_pixels)
    }

    /// Moves everything on by one tick. `buttons` are what each character's player holds, in the order
    /// in which they were added; a character without an entry holds nothing.
    ///
    /// Characters that have died or are lost no longer move. The cost does not depend on the size of
    /// the map or the number of platforms, and nothing is allocated.
    pub fn tick(&mut self, buttons: &[Buttons]) {
        self.tick_told(buttons, &mut NoListener);
    }

    /// The same, and `listener` hears of every decision with its reason. The motion is the same to the bit.
    pub fn tick_told<L: Listener>(&mut self, buttons: &[Buttons], listener: &mut L) {
        self.tick += 1;
        if self.platforms.any_happened() {
            self.bring_platforms_back();
        }
        if !self.props.is_empty() {
            self.tick_props();
        }
        let is_plain = self.platforms.nothing_moves() && is_plain(self.terrain.features());
        for (index, character) in self.characters.iter_mut().enumerate() {
            let held = buttons.get(index).unwrap_or(&Buttons::NONE);
            let known = &mut self.known[1][index];
            let movers = movers_around(&self.platforms, &mut self.near, &mut known.platforms, character, self.tick);
            let (terrain, nearby, movers) = (&self.terrain, &mut known.pieces, &movers);
            let scene = Scene { terrain, nearby, movers, is_plain };
            let borne_by = character.tick(scene, held, self.tick, listener);
            if let Some(MoverId::Platform(platform)) = borne_by {
                if L::LISTENS && self.platforms.begins_to_crumble(platform) {
                    listener.decided(CharacterId(index), self.tick, &Decision::Crumbles);
                }
                self.platforms.was_ridden(platform, self.tick, true);
            }
        }
        #[cfg(debug_assertions)]
        if let Some(violation) = self.violation() {
            panic!("{violation} in tick {}: {:?}", self.tick, self.characters.iter().map(Character::report).next());
        }
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
        for slot in &self.prop_order {
            let index = *slot as usize;
            let body = &mut self.props[index].body;
            let known = &mut self.known[0][index];
            let movers = movers_around(&self.platforms, &mut self.near, &mut known.platforms, body, self.tick);
            let (terrain, nearby, movers) = (&self.terrain, &mut known.pieces, &movers);
            let scene = Scene { terrain, nearby, movers, is_plain: false };
            let borne_by = body.tick(scene, &Buttons::NONE, self.tick, &mut NoListener);
            let (place, is_there) = (body.hitbox(), !body.has_ended());
            self.platforms.set_prop(index, place, is_there);
            if let Some(MoverId::Platform(platform)) = borne_by {
                self.platforms.was_ridden(platform, self.tick, false);
            }
        }
    }

    /// Where the props are before they move.
    fn see_props(&mut self) {
        self.platforms.set_props(self.props.iter().map(|prop| {
            let place = prop.body.hitbox();
            let (solid, material, is_there) = (prop.solid, prop.material, !prop.body.has_ended());
            PropPlace { old: place, now: place, solid, material, is_there, has_moved: false }
        }));
    }

    /// Everything that ticks change, to be restored later.
    ///
    /// Its size grows with the characters and props, and with the platforms that were set off or have
    /// crumbled, not with the level.
    pub fn save(&self) -> Saved {
        let (props, characters) = (self.props.clone(), self.characters.clone());
        Saved { tick: self.tick, platforms: self.platforms.changes(), props, characters }
    }

    /// The same into one that is there already: what it held is gone. Saving tick after tick into the same
    /// ones, as for going back over a network, allocates only while there are more platforms set off or
    /// crumbled than ever before.
    pub fn save_into(&self, saved: &mut Saved) {
        saved.tick = self.tick;
        self.platforms.save_into(&mut saved.platforms);
        copy_bodies(&self.props, &mut saved.props, |prop| &mut prop.body);
        copy_bodies(&self.characters, &mut saved.characters, |body| body);
    }

    /// Makes the world again what it was when it was saved: the ticks that follow are the same to the bit.
    ///
    /// `saved` must come from this world, or from one made in the same way: with the same terrain and
    /// platforms. Characters and props added since are gone.
    ///
    /// # Panics
    ///
    /// If it was saved in a world with more platforms.
    pub fn restore(&mut self, saved: &Saved) {
        self.tick = saved.tick;
        self.platforms.restore(&saved.platforms);
        copy_bodies(&saved.props, &mut self.props, |prop| &mut prop.body);
        copy_bodies(&saved.characters, &mut self.characters, |body| body);
        self.prop_order.clear();
        self.prop_order.extend(0..self.props.len() as u32);
        for (known, bodies) in self.known.iter_mut().zip([self.props.len(), self.characters.len()]) {
            // What was known is of another time.
            known.iter_mut().for_each(|known| known.platforms = PlatformNotes::UNKNOWN);
            known.resize_with(bodies, || Known::nothing(&self.terrain));
        }
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
            MoverId::Prop(prop) => self.props[prop].body.hitbox(),
        }
    }

    /// What the last tick (or the start) did with a prop.
    ///
    /// # Panics
    ///
    /// If the prop belongs to another world that has more of them.
    pub fn prop_report(&self, id: PropId) -> &TickReport {
        self.props[id.0].body.report()
    }

    /// How many ticks have passed.
    pub fn ticks(&self) -> u64 {
        self.tick
    }

    /// The terrain.
    pub fn terrain(&self) -> &T {
        &self.terrain
    }

    /// A character.
    ///
    /// # Panics
    ///
    /// If the character belongs to another world that has more of them.
    pub fn character(&self, id: CharacterId) -> &Character {
        &self.characters[id.0]
    }

    /// What the last tick (or the start) did with a character.
    ///
    /// # Panics
    ///
    /// If the character belongs to another world that has more of them.
    pub fn report(&self, id: CharacterId) -> &TickReport {
        self.character(id).report()
    }

    /// Gives a character another speed of its own, px/s, y down, held within the limit of speeds; not a
    /// number counts as 0. On the ground only the part along x is taken: an upward one is a jump's.
    ///
    /// # Panics
    ///
    /// If the character belongs to another world that has more of them.
    pub fn set_velocity(&mut self, id: CharacterId, velocity: DVec2) {
        self.characters[id.0].set_velocity(velocity);
    }

    /// Everything that must hold between two ticks; the first thing that does not. In debug builds it
    /// is checked after every tick.
    pub fn violation(&self) -> Option<Violation> {
        let mut nearby = Nearby::unknown(Features::NONE);
        let mut bodies = self.characters.iter().chain(self.props.iter().map(|prop| &prop.body));
        bodies.find_map(|body| {
            let movers = &self.movers_everywhere(body.tuning().moves_whole_pixels());
            body.violation(&Scene { terrain: &self.terrain, nearby: &mut nearby, movers, is_plain: false })
        })
    }
}

/// Copies bodies over others, with room for the events of ticks to come.
fn copy_bodies<B: Clone>(from: &[B], to: &mut Vec<B>, body: fn(&mut B) -> &mut Character) {
    from.clone_into(to);
    to.iter_mut().for_each(|copy| body(copy).make_room());
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
