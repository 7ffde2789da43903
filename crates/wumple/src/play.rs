//! Playing a level tick by tick: a character, its round and the view that follows it, with a row for each tick.

use wumple_core::camera::Camera;
use wumple_core::{
    Buttons, Character, DVec2, Listener, MoverId, NoListener, Round, StartError, Terrain, TickReport, Tuning, World,
    ZoneId,
};

use crate::files::{Diagnostic, Level};
use crate::playing::{Playing, SavedPlaying};
use crate::poses::Harm;
use crate::trace::{Ride, RoundRow, Trace, ViewRow};

/// A level that is being played: what [`run`](crate::run) does at one go, tick by tick, for who decides meanwhile.
///
/// ```
/// use wumple::{Buttons, Level, Play, TuningFile, demo};
///
/// let level = Level::parse("room", demo::THROWING_ROOM)?;
/// let dab = TuningFile::parse("dab", demo::DAB)?;
/// let mut play = Play::start(&level, level.grid.clone(), &dab.tuning)?;
/// let right = Buttons { right: true, ..Buttons::NONE };
/// for _ in 0..30 {
///     play.tick(right);
/// }
/// let saved = play.save();
/// let there = play.report().feet;
/// for _ in 0..30 {
///     play.tick(right);
/// }
/// play.go_back(&saved);
/// assert_eq!((play.ticks(), play.report().feet), (30, there));
/// # Ok::<(), Box<dyn std::error::Error>>(())
/// ```
#[derive(Clone)]
pub struct Play<T> {
    playing: Playing<T>,
    trace: Trace,
}

/// All of a [`Play`] that ticks change, but for its rows.
#[derive(Clone, Debug)]
pub struct SavedPlay {
    playing: SavedPlaying,
    ticks: usize,
}

impl SavedPlay {
    /// How many ticks had been played.
    #[must_use]
    pub fn ticks(&self) -> u64 {
        self.ticks as u64
    }
}

impl<T: Terrain> Play<T> {
    /// At the spawn of a level, before the first tick. `terrain` is the level's grid, or another that looks the same.
    ///
    /// # Errors
    ///
    /// If the character does not fit at the level's spawn.
    pub fn start(level: &Level, terrain: T, tuning: &Tuning) -> Result<Play<T>, Diagnostic> {
        let playing = Playing::start(level, terrain, tuning)?;
        let trace = Trace::of_reports(tuning.rate(), level.names.clone(), Vec::new());
        let mut play = Play { playing, trace };
        play.begin_anew();
        Ok(play)
    }

    /// Puts the character elsewhere, before the first tick: a try that begins there.
    ///
    /// # Errors
    ///
    /// If it does not fit there; it stays where it is.
    ///
    /// # Panics
    ///
    /// After the first tick.
    pub fn begin_at(&mut self, feet: DVec2) -> Result<(), StartError> {
        assert_eq!(self.ticks(), 0, "a try begins before its first tick");
        self.playing.world.place(self.playing.id, feet)?;
        self.begin_anew();
        Ok(())
    }

    /// Begins at a checkpoint, as if it had just been reached: see [`Round::resume`]. Where nobody can be put there, nothing
    /// changes.
    ///
    /// # Panics
    ///
    /// After the first tick.
    pub fn begin_at_checkpoint(&mut self, checkpoint: ZoneId) {
        assert_eq!(self.ticks(), 0, "a try begins before its first tick");
        let Playing { world, id, round, .. } = &mut self.playing;
        if let Some(round) = round {
            round.resume(world, *id, &[], Some(checkpoint), None);
            self.begin_anew();
        }
    }

    /// Row 0, of what is there now.
    fn begin_anew(&mut self) {
        let Play { playing, trace } = self;
        if let Some(camera) = &mut playing.camera {
            camera.look_at(playing.world.character(playing.id));
        }
        trace.views = Vec::from_iter(playing.camera.as_ref().map(ViewRow::of));
        trace.rounds = Vec::from_iter(playing.round.as_ref().map(RoundRow::of));
        trace.harm = Vec::from_iter(playing.round.as_ref().map(Harm::of));
        trace.rides = vec![ride_after(&playing.world, playing.report(), None)];
        trace.rows = vec![playing.report().clone()];
    }

    /// The next tick, with these buttons held.
    pub fn tick(&mut self, held: Buttons) {
        self.tick_told(held, &mut NoListener);
    }

    /// The same, and `listener` hears of every decision, in ticks of the play.
    pub fn tick_told<L: Listener>(&mut self, held: Buttons, listener: &mut L) {
        let tick = self.ticks() + 1;
        let Play { playing, trace } = self;
        let (id, mut seen) = (playing.id, None);
        playing.tick_told(tick, held, listener, |world| seen = Some(world.report(id).clone()));
        let mut report = seen.expect("a tick is seen");
        let mut ride = trace.rides[trace.rides.len() - 1];
        let Playing { world, id, round, camera } = playing;
        if let Some(round) = round {
            let attempt = trace.rounds.last().map_or(1, |before| before.attempt);
            trace.rounds.push(RoundRow::of(round));
            trace.harm.push(Harm::of(round));
            if round.attempt() > attempt {
                // The row is what the world is by now; what happened is what happened before.
                let events = std::mem::take(&mut report.events);
                report = world.report(*id).clone();
                report.events = events;
                ride = None;
            }
        }
        trace.rides.push(ride_after(world, &report, ride));
        trace.views.extend(camera.as_ref().map(ViewRow::of));
        // Ticks are counted on where the round starts again, though the world goes back in time.
        let by = tick - world.ticks();
        (report.tick, report.state_since) = (tick, report.state_since + by);
        trace.rows.push(report);
    }

    /// Gives the character another tuning from the next tick on: see [`World::retune`].
    ///
    /// # Errors
    ///
    /// If its hitbox does not fit where it is, or it is of another rate; nothing is changed then.
    pub fn retune(&mut self, tuning: Tuning) -> Result<(), StartError> {
        self.playing.world.retune(self.playing.id, tuning)
    }

    /// Whether it is over: the character is gone; where there is a round, that is over.
    #[must_use]
    pub fn is_over(&self) -> bool {
        self.playing.is_over()
    }

    /// How many ticks were played.
    #[must_use]
    pub fn ticks(&self) -> u64 {
        self.trace.rows.len() as u64 - 1
    }

    /// The world, as it is after the last tick.
    #[must_use]
    pub fn world(&self) -> &World<T> {
        &self.playing.world
    }

    /// Who is played.
    #[must_use]
    pub fn character(&self) -> &Character {
        self.playing.character()
    }

    /// The last row.
    #[must_use]
    pub fn report(&self) -> &TickReport {
        &self.trace.rows[self.trace.rows.len() - 1]
    }

    /// The round, if the level has one.
    #[must_use]
    pub fn round(&self) -> Option<&Round> {
        self.playing.round.as_ref()
    }

    /// The view, if the level has a camera.
    #[must_use]
    pub fn camera(&self) -> Option<&Camera> {
        self.playing.camera.as_ref()
    }

    /// Every row so far.
    #[must_use]
    pub fn trace(&self) -> &Trace {
        &self.trace
    }

    /// The rows, when nothing more is played.
    #[must_use]
    pub fn into_trace(self) -> Trace {
        self.trace
    }

    /// Where the character would go from here with these buttons, tick by tick from the next on, 1: until something holds it up again,
    /// for so many ticks at most. Nothing of the play is changed.
    ///
    /// # Panics
    ///
    /// If it is a play of another level.
    pub fn look_ahead(&self, level: &Level, ticks: u64, held: impl Fn(u64) -> Buttons) -> Vec<DVec2> {
        let tuning = self.character().tuning();
        let Ok((mut world, id)) = level.world_from(tuning, level.spawn()) else { return Vec::new() };
        world.restore(&self.playing.world.save());
        let mut way = vec![self.report().feet];
        let mut has_left = false;
        for tick in 1..=ticks {
            world.tick(&[held(tick)]);
            let report = world.report(id);
            way.push(report.feet);
            has_left |= !report.contacts.below;
            if (has_left && report.contacts.below) || world.character(id).has_ended() {
                break;
            }
        }
        way
    }

    /// All that ticks change, to go back to later.
    #[must_use]
    pub fn save(&self) -> SavedPlay {
        SavedPlay { playing: self.playing.save(), ticks: self.trace.rows.len() - 1 }
    }

    /// Makes it what it was when it was saved; the rows since are gone.
    ///
    /// # Panics
    ///
    /// If it was saved of another level, or has fewer rows by now.
    pub fn go_back(&mut self, saved: &SavedPlay) {
        self.playing.go_back(&saved.playing);
        let rows = saved.ticks + 1;
        assert!(rows <= self.trace.rows.len(), "it was saved with more rows");
        let Trace { rows: reports, rides, rounds, views, harm, .. } = &mut self.trace;
        reports.truncate(rows);
        rides.truncate(rows);
        rounds.truncate(rows);
        views.truncate(rows);
        harm.truncate(rows);
    }
}

/// What is ridden after a tick, or was last.
fn ride_after<T: Terrain>(world: &World<T>, report: &TickReport, before: Option<Ride>) -> Option<Ride> {
    let mover: MoverId = report.support.mover().or(before.map(|ride| ride.mover))?;
    Some(Ride { mover, place: world.place_of(mover) })
}
