//! A level in play, without rows: its world, the round and the view, tick by tick in one order.

use wumple_core::camera::{Camera, ViewEvent};
use wumple_core::{
    Buttons, Character, CharacterId, DVec2, Decision, Listener, Round, Saved, SavedRound, Terrain, TickReport, Tuning,
    World,
};

use crate::files::{Diagnostic, Level};

/// A level in play.
#[derive(Clone)]
pub(crate) struct Playing<T> {
    pub(crate) world: World<T>,
    pub(crate) id: CharacterId,
    pub(crate) round: Option<Round>,
    pub(crate) camera: Option<Camera>,
}

/// All of it that ticks change.
#[derive(Clone, Debug)]
pub(crate) struct SavedPlaying {
    world: Saved,
    round: Option<SavedRound>,
    camera: Option<Camera>,
}

impl<T: Terrain> Playing<T> {
    /// At the spawn. `terrain` is the level's grid, or another that looks the same.
    pub(crate) fn start(level: &Level, terrain: T, tuning: &Tuning) -> Result<Playing<T>, Diagnostic> {
        let (world, id) = level.world_over(terrain, tuning)?;
        Ok(Playing::of(level, world, id))
    }

    fn of(level: &Level, world: World<T>, id: CharacterId) -> Playing<T> {
        let round = level.start_round(&world, id);
        let camera = level.start_camera(world.character(id));
        Playing { world, id, round, camera }
    }

    /// One tick that nobody listens to. `seen` is shown the world before the round, which may start again, has its turn.
    pub(crate) fn tick(&mut self, held: Buttons, seen: impl FnOnce(&World<T>)) {
        self.world.tick(&[held]);
        self.follow(seen);
    }

    /// The same, with a listener, and numbered so by who plays.
    pub(crate) fn tick_told<L: Listener>(
        &mut self,
        number: u64,
        held: Buttons,
        listener: &mut L,
        seen: impl FnOnce(&World<T>),
    ) {
        let by = number - 1 - self.world.ticks();
        self.world.tick_told(&[held], &mut Later { listener, by });
        self.follow(seen);
    }

    /// What follows the world's tick: the round, and the view.
    fn follow(&mut self, seen: impl FnOnce(&World<T>)) {
        let Playing { world, id, round, camera } = self;
        let id = *id;
        seen(world);
        match (round, camera) {
            (Some(round), Some(camera)) => round.play_in_view(world, id, camera),
            (Some(round), None) => round.play(world, id),
            (None, Some(camera)) => camera.follow(world.character(id)),
            (None, None) => {}
        }
    }

    pub(crate) fn character(&self) -> &Character {
        self.world.character(self.id)
    }

    pub(crate) fn report(&self) -> &TickReport {
        self.world.report(self.id)
    }

    /// Which attempt of the round it is; the first, where there is none.
    pub(crate) fn attempt(&self) -> u32 {
        self.round.as_ref().map_or(1, Round::attempt)
    }

    /// Whether the character is gone: by itself, or left behind by the view.
    pub(crate) fn is_gone(&self) -> bool {
        let left_behind = |camera: &Camera| camera.events().any(|event| event == ViewEvent::Died);
        self.camera.as_ref().is_some_and(left_behind) || self.character().has_ended()
    }

    /// Whether it is over: the character is gone; where there is a round, that is over.
    pub(crate) fn is_over(&self) -> bool {
        self.round.as_ref().map_or_else(|| self.is_gone(), Round::is_over)
    }

    pub(crate) fn save(&self) -> SavedPlaying {
        SavedPlaying { world: self.world.save(), round: self.round.as_ref().map(Round::save), camera: self.camera }
    }

    pub(crate) fn go_back(&mut self, saved: &SavedPlaying) {
        self.world.restore(&saved.world);
        if let (Some(round), Some(saved)) = (&mut self.round, &saved.round) {
            round.restore(saved);
        }
        self.camera = saved.camera;
    }
}

impl<'l> Playing<&'l wumple_core::Grid> {
    /// The same with the feet at a place, px, y down; why it does not fit there is said in words.
    pub(crate) fn start_at(level: &'l Level, tuning: &Tuning, feet: DVec2) -> Result<Self, String> {
        let (world, id) = level.world_from(tuning, feet)?;
        Ok(Playing::of(level, world, id))
    }
}

/// Hears the decisions of a world whose ticks are so many behind those of the run.
struct Later<'a, L> {
    listener: &'a mut L,
    by: u64,
}

impl<L: Listener> Listener for Later<'_, L> {
    fn decided(&mut self, character: CharacterId, tick: u64, decision: &Decision) {
        self.listener.decided(character, tick + self.by, &decision.later_by(self.by));
    }
    fn listens(&self) -> bool {
        self.listener.listens()
    }
}
