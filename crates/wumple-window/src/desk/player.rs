//! Who plays: keys that become ticks, a record of what was held, and the way back to any tick of it.

use wumple::why::WhyLog;
use wumple::{
    ButtonLatch, Buttons, DVec2, Grid, Level, Play, SavedPlay, TickPacer, Timeline, Trace, Tuning, ZoneId, run_told,
};

/// A state is saved so often, ticks: no more than these are played again to come to a tick.
const SAVED_EVERY: u64 = 60;
/// A frame that took long makes no more ticks than these; the rest of its time is dropped.
const MOST_IN_A_FRAME: u32 = 8;
/// No try is played again for longer, ticks.
pub const MOST_AGAIN: u64 = 3600;

/// Where a try begins.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub enum StartAt {
    /// At the level's spawn.
    #[default]
    Spawn,
    /// With the feet here, px, y down.
    Place(DVec2),
    /// At a checkpoint.
    Checkpoint(ZoneId),
}

/// A try: where it began, and what was held.
#[derive(Clone, Debug, Default)]
pub struct Try {
    /// Where it began.
    pub start: StartAt,
    /// What was held in each tick.
    pub held: Timeline,
    /// How many ticks it has.
    pub ticks: u64,
}

impl Try {
    /// The play of this try at its start.
    ///
    /// # Errors
    ///
    /// If the character does not fit there: why.
    fn begin(&self, level: &Level, tuning: &Tuning) -> Result<Play<Grid>, String> {
        let mut play = Play::start(level, level.grid.clone(), tuning).map_err(|error| error.message().to_owned())?;
        match self.start {
            StartAt::Spawn => {}
            StartAt::Place(feet) => play.begin_at(feet).map_err(|error| error.to_string())?,
            StartAt::Checkpoint(zone) => play.begin_at_checkpoint(zone),
        }
        Ok(play)
    }

    /// The try once more, with these numbers: what a fresh run gives.
    ///
    /// # Errors
    ///
    /// If the character does not fit at the start: why.
    pub fn again(&self, level: &Level, tuning: &Tuning) -> Result<Trace, String> {
        let ticks = self.ticks.min(MOST_AGAIN);
        if self.start == StartAt::Spawn {
            let run = run_told(level, tuning, &self.held, ticks, &mut wumple::NoListener);
            return run.map_err(|error| error.message().to_owned());
        }
        let mut play = self.begin(level, tuning)?;
        for tick in 1..=ticks {
            if play.is_over() {
                break;
            }
            play.tick(self.held.at(tick));
        }
        Ok(play.into_trace())
    }
}

/// Somebody who plays a level.
pub struct Player {
    play: Play<Grid>,
    /// The numbers of now.
    tuning: Tuning,
    tried: Try,
    /// From which tick on which numbers were in force.
    retuned: Vec<(u64, Tuning)>,
    /// The tick for which that was done last in this world.
    put_on: u64,
    saved: Vec<SavedPlay>,
    latch: ButtonLatch,
    pacer: TickPacer,
    log: WhyLog,
    /// The log with what only the whole try tells, until time goes on.
    completed: Option<WhyLog>,
    /// What was played beyond the tick that is looked at.
    ahead: Option<Trace>,
    /// Whether what was played is shown once more, from the tick that is looked at on.
    shows_again: bool,
    /// Whether time goes on.
    pub runs: bool,
    /// How fast it goes, 1 as in the game.
    pub speed: f64,
}

impl Player {
    /// At the start of a try.
    ///
    /// # Errors
    ///
    /// If the character does not fit there: why.
    pub fn new(level: &Level, tuning: &Tuning, start: StartAt) -> Result<Player, String> {
        let tried = Try { start, ..Try::default() };
        let play = tried.begin(level, tuning)?;
        let saved = vec![play.save()];
        Ok(Player {
            play,
            tuning: tuning.clone(),
            tried,
            retuned: Vec::new(),
            put_on: 0,
            saved,
            latch: ButtonLatch::default(),
            pacer: TickPacer::new(tuning.rate(), MOST_IN_A_FRAME),
            log: WhyLog::default(),
            completed: None,
            ahead: None,
            shows_again: false,
            runs: true,
            speed: 1.0,
        })
    }

    /// Somebody who has played a try, at its end.
    ///
    /// # Errors
    ///
    /// If the character does not fit at the start: why.
    pub fn of_try(level: &Level, tuning: &Tuning, tried: &Try) -> Result<Player, String> {
        let mut player = Player::new(level, tuning, tried.start)?;
        while player.tried.ticks < tried.ticks && !player.is_over() {
            let tick = player.tried.ticks + 1;
            let held = tried.held.at(tick);
            player.tried.held.record(tick, held);
            player.tried.ticks = tick;
            player.tick(held);
        }
        Ok(player)
    }

    /// This is held now. No press is lost, however short.
    pub fn see(&mut self, held: Buttons) {
        self.latch.see(held);
    }

    /// A frame took so long, s: the ticks that are due are played. How many.
    pub fn advance(&mut self, seconds: f64) -> u32 {
        self.shows_again &= !self.runs;
        if self.shows_again {
            let due = self.pacer.advance(seconds * self.speed);
            self.go_to(self.tick_now() + u64::from(due));
            self.shows_again = self.is_back();
            return due;
        }
        if !self.runs || self.is_over() {
            return 0;
        }
        let due = self.pacer.advance(seconds * self.speed);
        (0..due).for_each(|_| self.step());
        due
    }

    /// One tick. Whoever had gone back plays on from there.
    pub fn step(&mut self) {
        self.shows_again = false;
        self.play_on();
        if self.is_over() {
            return;
        }
        let (tick, held) = (self.play.ticks() + 1, self.latch.take());
        self.tried.held.record(tick, held);
        self.tried.ticks = tick;
        self.tick(held);
    }

    fn tick(&mut self, held: Buttons) {
        self.completed = None;
        self.put_on_numbers();
        self.play.tick_told(held, &mut self.log);
        if self.play.ticks().is_multiple_of(SAVED_EVERY)
            && self.saved.last().is_none_or(|last| last.ticks() < self.play.ticks())
        {
            self.saved.push(self.play.save());
        }
    }

    /// The numbers that are in force from the next tick on, if they are others than before: of who came back to a tick they are put on
    /// again.
    fn put_on_numbers(&mut self) {
        let next = self.play.ticks() + 1;
        if self.put_on == next {
            return;
        }
        // Each in its turn: what one takes away, the next does not give back.
        let first = self.retuned.partition_point(|(from, _)| *from < next);
        for (_, tuning) in self.retuned[first..].iter().take_while(|(from, _)| *from == next) {
            self.play.retune(tuning.clone()).expect("it was done in this very state");
        }
        self.put_on = next;
    }

    /// Forgets what was played beyond the tick that is looked at: what is played now comes after that, with the numbers of now.
    pub fn play_on(&mut self) {
        if self.ahead.take().is_some() {
            let now = self.play.ticks();
            self.tried.held = self.tried.held.until(now);
            self.tried.ticks = now;
            self.retuned.retain(|(from, _)| *from <= now);
            self.saved.retain(|saved| saved.ticks() <= now);
            self.log.go_back_to(now);
            self.completed = None;
            if self.play.character().tuning() != &self.tuning {
                // Where they do not fit, those of then go on.
                let tuning = self.tuning.clone();
                let _ = self.retune_now(tuning);
            }
        }
    }

    /// Numbers that are in force from the next tick on; of who has gone back, when play goes on.
    ///
    /// # Errors
    ///
    /// If the hitbox does not fit where it is, or the rate is another: then those of before stay in force for this try.
    pub fn retune(&mut self, tuning: &Tuning) -> Result<(), String> {
        self.tuning = tuning.clone();
        if self.is_back() { Ok(()) } else { self.retune_now(tuning.clone()) }
    }

    fn retune_now(&mut self, tuning: Tuning) -> Result<(), String> {
        self.put_on_numbers();
        self.play.retune(tuning.clone()).map_err(|error| error.to_string())?;
        self.retuned.push((self.play.ticks() + 1, tuning));
        Ok(())
    }

    /// Goes back, or on again, to a tick of the try, and stops there.
    pub fn look_at(&mut self, tick: u64) {
        self.shows_again = false;
        self.go_to(tick);
    }

    /// Shows the whole try once more, as fast as time goes, and stops at its end.
    pub fn show_again(&mut self) {
        self.go_to(0);
        self.shows_again = self.is_back();
    }

    /// Whether it is shown once more.
    #[must_use]
    pub fn is_shown_again(&self) -> bool {
        self.shows_again
    }

    fn go_to(&mut self, tick: u64) {
        self.runs = false;
        let tick = tick.min(self.tried.ticks);
        if self.ahead.is_none() {
            self.ahead = Some(self.play.trace().clone());
        }
        if tick < self.play.ticks() {
            let near = self.saved.iter().rev().find(|saved| saved.ticks() <= tick).expect("the start is saved");
            self.play.go_back(near);
            self.put_on = 0;
        }
        while self.play.ticks() < tick {
            self.put_on_numbers();
            let held = self.tried.held.at(self.play.ticks() + 1);
            self.play.tick(held);
        }
        if tick == self.tried.ticks {
            self.ahead = None;
        }
    }

    /// The tick that is looked at: the last one played, or one that was gone back to.
    #[must_use]
    pub fn tick_now(&self) -> u64 {
        self.play.ticks()
    }

    /// Whether a tick before the last one is looked at.
    #[must_use]
    pub fn is_back(&self) -> bool {
        self.ahead.is_some()
    }

    /// The play, as it is at that tick.
    #[must_use]
    pub fn play(&self) -> &Play<Grid> {
        &self.play
    }

    /// The whole try, also beyond the tick that is looked at.
    #[must_use]
    pub fn trace(&self) -> &Trace {
        self.ahead.as_ref().unwrap_or_else(|| self.play.trace())
    }

    /// The try as it was played.
    #[must_use]
    pub fn tried(&self) -> &Try {
        &self.tried
    }

    /// Why things were decided since the try began: the motion, and where [completed](Player::complete_log) the round and the view.
    #[must_use]
    pub fn log(&self) -> &WhyLog {
        self.completed.as_ref().unwrap_or(&self.log)
    }

    /// Completes the log with the reasons of the round and the view, for as long as time stands.
    pub fn complete_log(&mut self, level: &Level) {
        if self.completed.is_none() {
            let log = self.log.clone().completed(self.trace(), level);
            self.completed = Some(log);
        }
    }

    /// Whether the try is over.
    #[must_use]
    pub fn is_over(&self) -> bool {
        self.play.is_over()
    }

    /// How far time is on its way from the last tick to the next, 0 to below 1.
    #[must_use]
    pub fn blend(&self) -> f64 {
        if self.runs && !self.is_over() { self.pacer.blend() } else { 1.0 }
    }
}
