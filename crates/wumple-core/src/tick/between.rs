//! What a game does between ticks: bodies put elsewhere, launched, retuned, held still, pushed, taken out.
//!
//! Everything here acts at once, is told in the report of the next tick, and is saved and restored with the world.

use glam::DVec2;

use super::outside::{Launch, LimitError};
use super::scene::{Scene, asker_of, zones_of};
use super::{BodyId, Character, CharacterId, Event, StartError, World, start};
use crate::nearby::Nearby;
use crate::platforms::{Asker, Movers, PlatformError, PlatformNumbers, PlatformProblem};
use crate::presence::{Meets, MeetsAs};
use crate::space::float::floor;
use crate::terrain::{Features, MetTerrain, Terrain};
use crate::tuning::Tuning;

impl<T: Terrain> World<T> {
    /// Puts a character or a prop to another place, px, y down: at rest, as if it were added there. The dead and the
    /// lost live again. What the player holds stays held, so that no press comes of it; the next tick says
    /// [`Event::Placed`](crate::Event::Placed).
    ///
    /// ```
    /// # use wumple_core::{Buttons, DVec2, Edges, Event, Grid, Tuning, TuningNumbers, World};
    /// # let map = Grid::from_rows(&["......", "......", "##..##"], 16.0, Edges::default())?;
    /// # let tuning = Tuning::check(&TuningNumbers::new(10.0, 22.0, 120.0).with_jump(54.0, 0.35))?;
    /// let mut world = World::new(map);
    /// let dab = world.add_character(tuning, DVec2::new(48.0, 32.0))?;
    /// while !world.character(dab).has_ended() {
    ///     world.tick(&[Buttons::NONE]); // down the pit
    /// }
    /// world.place(dab, DVec2::new(16.0, 32.0))?;
    /// world.tick(&[Buttons::NONE]);
    /// assert_eq!(world.report(dab).events, [Event::Placed]);
    /// # Ok::<(), Box<dyn core::error::Error>>(())
    /// ```
    ///
    /// # Errors
    ///
    /// Where it does not fit, as [`World::add_character`] says. Nothing is changed then.
    ///
    /// # Panics
    ///
    /// If it is not in this world.
    pub fn place(&mut self, id: impl Into<BodyId>, feet: DVec2) -> Result<(), StartError> {
        let id = id.into();
        let body = self.bodies.get(id);
        let as_met = (body.meets_as(), body.is_seen_from_above());
        on_body(self, id, as_met, |body, scene, tick| {
            body.put_at(scene, feet, tick)?;
            body.outside.tell_later(Event::Placed);
            Ok(())
        })
    }

    /// Throws a character or a prop, px/s, y down: it leaves ground, ladder and wall with this velocity. It is no jump:
    /// letting go of the button does not cut it, and it has no hang. A jump under way ends.
    ///
    /// ```
    /// # use wumple_core::{Buttons, DVec2, Edges, Grid, Launch, Tuning, TuningNumbers, World};
    /// # let map = Grid::from_rows(&["......", "......", "######"], 16.0, Edges::default())?;
    /// # let tuning = Tuning::check(&TuningNumbers::new(10.0, 22.0, 120.0).with_jump(54.0, 0.35))?;
    /// # let mut world = World::new(map);
    /// # let dab = world.add_character(tuning, DVec2::new(48.0, 32.0))?;
    /// // Thrown back for a fifth of a second, whatever directions are held.
    /// world.launch(dab, DVec2::new(-90.0, -160.0), Launch { ticks: 12, unbraked: true })?;
    /// world.tick(&[Buttons { right: true, ..Buttons::NONE }]);
    /// assert_eq!(world.report(dab).velocity.x, -90.0);
    /// # Ok::<(), Box<dyn core::error::Error>>(())
    /// ```
    ///
    /// # Errors
    ///
    /// If the velocity is not finite, or beyond [`LIMIT_SPEED`](crate::numbers::LIMIT_SPEED).
    ///
    /// # Panics
    ///
    /// If it is not in this world.
    pub fn launch(&mut self, id: impl Into<BodyId>, velocity: DVec2, launch: Launch) -> Result<(), LimitError> {
        let tick = self.ticks();
        self.bodies.get_mut(id.into()).launch(velocity, launch, tick)
    }

    /// Gives a character or a prop another tuning. Feet and velocity stay, and the new hitbox stands on the same feet. A
    /// jump under way goes on with the new gravity and release. A ladder, a wall or a slide that the new tuning lacks is
    /// let go; air jumps and windows that are left are held to the new ones, and a window that has closed stays closed.
    ///
    /// It may be called before every tick, as while a slider is dragged: nothing is allocated, unless a [`Saved`](
    /// crate::Saved) has the old tuning.
    ///
    /// ```
    /// # use wumple_core::{DVec2, Edges, Grid, Tuning, TuningNumbers, World};
    /// # let map = Grid::from_rows(&["......", "......", "######"], 16.0, Edges::default())?;
    /// let mut numbers = TuningNumbers::new(10.0, 22.0, 120.0).with_jump(54.0, 0.35);
    /// # let mut world = World::new(map);
    /// let dab = world.add_character(Tuning::check(&numbers)?, DVec2::new(48.0, 32.0))?;
    /// numbers.run.top_speed = 140.0;
    /// world.retune(dab, Tuning::check(&numbers)?)?;
    /// assert_eq!(world.character(dab).tuning().run().top_speed, 140.0);
    /// # Ok::<(), Box<dyn core::error::Error>>(())
    /// ```
    ///
    /// # Errors
    ///
    /// If the new hitbox does not fit where the feet are; if it has another tick rate; if it moves by whole pixels where
    /// tiles or platforms are not. Nothing is changed then.
    ///
    /// # Panics
    ///
    /// If it is not in this world.
    pub fn retune(&mut self, id: impl Into<BodyId>, tuning: Tuning) -> Result<(), StartError> {
        let id = id.into();
        let expected = self.bodies.get(id).tuning().rate();
        if tuning.rate() != expected {
            return Err(StartError::OtherRate { expected, found: tuning.rate() });
        }
        start::check_platforms(&self.platforms, &tuning)?;
        let (meets_as, from_above) = (MeetsAs::Member(tuning.group()), tuning.four_way().is_some());
        on_body(self, id, (meets_as, from_above), |body, scene, _| body.retune(scene, tuning))?;
        self.presence.set_any_differs(self.bodies.any_differs());
        Ok(())
    }

    /// Holds a character or a prop still: it takes no part in ticks, and others meet it as before. Or lets it go on.
    ///
    /// ```
    /// # use wumple_core::{Buttons, DVec2, Edges, Grid, PlatformNumbers, State, Tuning, TuningNumbers, World};
    /// # let map = Grid::from_rows(&["......", "......", "######"], 16.0, Edges::default())?;
    /// # let tuning = Tuning::check(&TuningNumbers::new(10.0, 22.0, 120.0).with_jump(54.0, 0.35))?;
    /// # let mut world = World::new(map);
    /// # let dab = world.add_character(tuning, DVec2::new(48.0, 32.0))?;
    /// world.hold_still(dab, true);
    /// world.tick(&[Buttons { right: true, ..Buttons::NONE }]);
    /// assert_eq!(world.report(dab).feet, DVec2::new(48.0, 32.0));
    /// world.hold_still(dab, false);
    /// world.tick(&[Buttons { right: true, ..Buttons::NONE }]);
    /// assert_eq!(world.report(dab).feet, DVec2::new(50.0, 32.0));
    /// # Ok::<(), Box<dyn core::error::Error>>(())
    /// ```
    ///
    /// # Panics
    ///
    /// If it is not in this world.
    pub fn hold_still(&mut self, id: impl Into<BodyId>, still: bool) {
        self.bodies.get_mut(id.into()).outside.hold_still(still);
    }

    /// Takes a character out of the player's hand, as for a scene that plays by itself, or gives it back. While it is
    /// away nothing is asked for, and no direction is held; but what was held stays held: a jump under way is not
    /// released, a wall not let go. When it is back, what is held by then is no press.
    ///
    /// ```
    /// # use wumple_core::{Buttons, DVec2, Edges, Grid, PlatformNumbers, State, Tuning, TuningNumbers, World};
    /// # let map = Grid::from_rows(&["......", "......", "######"], 16.0, Edges::default())?;
    /// # let tuning = Tuning::check(&TuningNumbers::new(10.0, 22.0, 120.0).with_jump(54.0, 0.35))?;
    /// # let mut world = World::new(map);
    /// # let dab = world.add_character(tuning, DVec2::new(48.0, 32.0))?;
    /// world.set_control(dab, false);
    /// world.tick(&[Buttons { right: true, jump: true, ..Buttons::NONE }]);
    /// assert_eq!(world.report(dab).state, State::Stand);
    /// # Ok::<(), Box<dyn core::error::Error>>(())
    /// ```
    ///
    /// # Panics
    ///
    /// If it is not in this world.
    pub fn set_control(&mut self, id: CharacterId, by_player: bool) {
        self.bodies.get_mut(id.into()).set_control(by_player);
    }

    /// Pushes a character or a prop in the next tick, with an acceleration beside gravity, px/s^2, y down. Running and
    /// braking work against it: a body stands in a wind that is weaker than its braking. A push up that is stronger than
    /// gravity lifts it off the ground; who climbs holds on. Pushes of one tick add up.
    ///
    /// ```
    /// # use wumple_core::{Buttons, DVec2, Edges, Grid, Tuning, TuningNumbers, World};
    /// # let map = Grid::from_rows(&["......", "......", "######"], 16.0, Edges::default())?;
    /// # let mut numbers = TuningNumbers::new(10.0, 22.0, 120.0).with_jump(54.0, 0.35);
    /// # numbers.run.braking = wumple_core::numbers::Acceleration::Rate(600.0);
    /// # let mut world = World::new(map);
    /// # let dab = world.add_character(Tuning::check(&numbers)?, DVec2::new(48.0, 32.0))?;
    /// for wind in [500.0, 700.0] {
    ///     world.push(dab, DVec2::new(wind, 0.0))?;
    ///     world.tick(&[Buttons::NONE]);
    /// }
    /// // It braked at 600 px/s^2: only the second was too strong.
    /// assert!((world.report(dab).velocity.x - 100.0 / 60.0).abs() < 1e-9);
    /// # Ok::<(), Box<dyn core::error::Error>>(())
    /// ```
    ///
    /// # Errors
    ///
    /// If the sum is not finite, or beyond [`LIMIT_ACCELERATION`](crate::numbers::LIMIT_ACCELERATION).
    ///
    /// # Panics
    ///
    /// If it is not in this world.
    pub fn push(&mut self, id: impl Into<BodyId>, acceleration: DVec2) -> Result<(), LimitError> {
        self.bodies.get_mut(id.into()).outside.push(acceleration)
    }

    /// Carries a character or a prop along in the next tick, px/s, y down, as a belt would: a current, a script's hand.
    /// Nothing is passed through, and it is no part of the body's own velocity. Drifts of one tick add up.
    ///
    /// ```
    /// # use wumple_core::{Buttons, DVec2, Edges, Grid, PlatformNumbers, State, Tuning, TuningNumbers, World};
    /// # let map = Grid::from_rows(&["......", "......", "######"], 16.0, Edges::default())?;
    /// # let tuning = Tuning::check(&TuningNumbers::new(10.0, 22.0, 120.0).with_jump(54.0, 0.35))?;
    /// # let mut world = World::new(map);
    /// # let dab = world.add_character(tuning, DVec2::new(48.0, 32.0))?;
    /// world.drift(dab, DVec2::new(60.0, 0.0))?; // a current
    /// world.tick(&[]);
    /// assert_eq!((world.report(dab).moved().x, world.report(dab).velocity.x), (1.0, 0.0));
    /// # Ok::<(), Box<dyn core::error::Error>>(())
    /// ```
    ///
    /// # Errors
    ///
    /// If the sum is not finite, or beyond [`LIMIT_SPEED`](crate::numbers::LIMIT_SPEED).
    ///
    /// # Panics
    ///
    /// If it is not in this world.
    pub fn drift(&mut self, id: impl Into<BodyId>, velocity: DVec2) -> Result<(), LimitError> {
        self.bodies.get_mut(id.into()).outside.drift(velocity)
    }

    /// Gives a character another speed of its own, px/s, y down, held within the limit of speeds; not a
    /// number counts as 0. On the ground only the part along x is taken: an upward one is a jump's, or [`World::launch`]'s.
    ///
    /// # Panics
    ///
    /// If it is not in this world.
    pub fn set_velocity(&mut self, id: CharacterId, velocity: DVec2) {
        self.bodies.get_mut(id.into()).set_velocity(velocity);
    }

    /// Takes a character or a prop out of the world; says whether it was there. Its identity is not given again.
    ///
    /// ```
    /// # use wumple_core::{Buttons, DVec2, Edges, Grid, PlatformNumbers, State, Tuning, TuningNumbers, World};
    /// # let map = Grid::from_rows(&["......", "......", "######"], 16.0, Edges::default())?;
    /// # let tuning = Tuning::check(&TuningNumbers::new(10.0, 22.0, 120.0).with_jump(54.0, 0.35))?;
    /// # let mut world = World::new(map);
    /// # let dab = world.add_character(tuning, DVec2::new(48.0, 32.0))?;
    /// assert!(world.remove(dab) && !world.contains(dab));
    /// # Ok::<(), Box<dyn core::error::Error>>(())
    /// ```
    pub fn remove(&mut self, id: impl Into<BodyId>) -> bool {
        let id = id.into();
        let was_there = self.bodies.remove(id);
        match id {
            BodyId::Prop(_) => self.bodies.show_props(&mut self.platforms),
            BodyId::Character(_) => self.bodies.show_characters(&mut self.platforms, &self.presence.meetings),
        }
        was_there
    }

    /// Puts a platform into the world, whatever is there: whoever it overlaps is crushed until clear. It starts on its
    /// route now. Returns its number; none is given twice. The work grows with the number of platforms.
    ///
    /// ```
    /// # use wumple_core::{Buttons, DVec2, Edges, Grid, PlatformNumbers, State, Tuning, TuningNumbers, World};
    /// # let map = Grid::from_rows(&["......", "......", "######"], 16.0, Edges::default())?;
    /// # let tuning = Tuning::check(&TuningNumbers::new(10.0, 22.0, 120.0).with_jump(54.0, 0.35))?;
    /// # let mut world = World::new(map);
    /// # let dab = world.add_character(tuning, DVec2::new(48.0, 32.0))?;
    /// let slab = PlatformNumbers::new(DVec2::new(32.0, 8.0), DVec2::new(64.0, 24.0));
    /// let number = world.add_platform(&slab)?;
    /// world.place(dab, DVec2::new(80.0, 24.0))?;
    /// assert!(world.remove_platform(number));
    /// world.tick(&[]);
    /// assert_eq!(world.report(dab).state, State::Fall);
    /// # Ok::<(), Box<dyn core::error::Error>>(())
    /// ```
    ///
    /// # Errors
    ///
    /// If something is wrong with it, as [`Platforms::new`](crate::Platforms::new) says; if the world has no tick rate yet;
    /// if some body moves by whole pixels and its sides are not of whole pixels.
    pub fn add_platform(&mut self, numbers: &PlatformNumbers) -> Result<usize, PlatformError> {
        let refused = |problem| PlatformError { platform: self.platforms.next_number(), problem };
        let rate = self.bodies.rate(&self.platforms).ok_or(refused(PlatformProblem::NoRate))?;
        let is_whole = |length: f64| length == floor(length);
        if self.bodies.all().any(|body| body.tuning().moves_whole_pixels())
            && !(is_whole(numbers.size.x) && is_whole(numbers.size.y))
        {
            return Err(refused(PlatformProblem::NotWhole));
        }
        let number = self.platforms.add(numbers, self.ticks(), rate)?;
        self.bodies.platforms_changed(&self.platforms);
        Ok(number)
    }

    /// Takes a platform out of the world; says whether it was there. Who stood on it stands on nothing.
    pub fn remove_platform(&mut self, platform: usize) -> bool {
        let was_there = self.platforms.remove(platform);
        self.bodies.platforms_changed(&self.platforms);
        was_there
    }

    /// Moves a platform to a place, of its top-left corner, px, y down, in the next tick: it carries, pushes and crushes
    /// by the way it goes from where it is. From now on the game moves it; its route counts no more, and without another
    /// call it stays.
    ///
    /// ```
    /// # use wumple_core::{Buttons, DVec2, Edges, Grid, PlatformNumbers, Platforms, Tuning, TuningNumbers, World};
    /// # let map = Grid::from_rows(&["......", "......", "######"], 16.0, Edges::default())?;
    /// # let tuning = Tuning::check(&TuningNumbers::new(10.0, 12.0, 120.0).with_jump(54.0, 0.35))?;
    /// let slab = PlatformNumbers::new(DVec2::new(32.0, 8.0), DVec2::new(16.0, 24.0));
    /// let mut world = World::with_platforms(map, Platforms::new(&[slab], 60.0)?);
    /// let dab = world.add_character(tuning, DVec2::new(32.0, 24.0))?;
    /// world.move_platform(0, DVec2::new(18.0, 23.0))?;
    /// world.tick(&[Buttons::NONE]);
    /// assert_eq!(world.report(dab).feet, DVec2::new(34.0, 23.0));
    /// # Ok::<(), Box<dyn core::error::Error>>(())
    /// ```
    ///
    /// # Errors
    ///
    /// If the place is not within where coordinates end, or further away than the limit of speeds allows in a tick: to put
    /// a platform elsewhere at once, remove it and add it.
    ///
    /// # Panics
    ///
    /// If there is no such platform.
    pub fn move_platform(&mut self, platform: usize, corner: DVec2) -> Result<(), PlatformError> {
        self.platforms.drive(platform, corner, self.ticks())
    }

    /// Whether a character or a prop is in this world.
    #[must_use]
    pub fn contains(&self, id: impl Into<BodyId>) -> bool {
        self.bodies.find(id.into()).is_some()
    }
}

/// Does something to a body that must know what is around it. As what it meets that afterwards, and whether seen from above.
pub(super) fn on_body<T: Terrain, R>(
    world: &mut World<T>,
    id: BodyId,
    (meets_as, from_above): (MeetsAs, bool),
    act: impl FnOnce(&mut Character, Scene<'_, MetTerrain<'_, T>>, u64) -> Result<R, StartError>,
) -> Result<R, StartError> {
    let World { terrain, platforms, bodies, presence, tick } = world;
    let zones = zones_of(terrain, platforms, presence);
    let body = bodies.get_mut(id);
    let mut nearby = Nearby::unknown(Features::NONE);
    let asker = Asker { meets: Meets::by(presence, meets_as), from_above, ..asker_of(body, *tick, presence) };
    let (terrain, movers) =
        (&MetTerrain::by(asker.meets, asker.from_above, &*terrain), &Movers::looked_up(platforms, &asker));
    let scene = Scene { terrain, nearby: &mut nearby, movers, is_plain: false, zones };
    let result = act(body, scene, *tick)?;
    let (rides, rider) = (body.report().support.mover(), body.rider());
    bodies.forget_around(id);
    match id {
        BodyId::Prop(_) => bodies.show_props(platforms),
        BodyId::Character(_) => bodies.show_characters(platforms, &presence.meetings),
    }
    if let Some(mover) = rides {
        platforms.was_ridden(mover, *tick, rider);
    }
    Ok(result)
}
