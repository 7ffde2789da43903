//! All of a round that ticks change, and its bytes.

use alloc::sync::Arc;
use alloc::vec::Vec;

use super::RoundNumbers;
use super::event::RestartAt;
use super::gained::Gained;
use crate::bytes::{Coded, Hasher, Sink, Source, coded};
use crate::terrain::{Terrain, ZoneId};
use crate::tick::{Saved, SavedError, World, save_to_go_back, sealed, unsealed};

/// What a saved round begins with.
const MARK: [u8; 6] = *b"wround";
/// The version of the form; another one is not read.
const VERSION: u32 = 1;

/// Where it stands.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(super) enum Phase {
    Playing,
    /// A defeat is shown for so many ticks more.
    Defeated {
        left: u64,
    },
    Finished,
    Ended,
}

coded!(enum Phase { 0 => Playing, 1 => Defeated { left }, 2 => Finished, 3 => Ended });

/// A place in time where a round starts again.
#[derive(Clone, Debug, PartialEq)]
pub(super) struct Mark {
    /// Shared with saved rounds.
    pub(super) world: Arc<Saved>,
    pub(super) gained: Gained,
}

impl Mark {
    pub(super) fn of<T: Terrain>(world: &World<T>, gained: &Gained) -> Mark {
        let mut saved = Saved::default();
        save_to_go_back(world, &mut saved, &[]);
        Mark { world: Arc::new(saved), gained: gained.clone() }
    }
}

/// All of a [`Round`](super::Round) that ticks change: to be saved beside the world, and restored with it.
#[derive(Clone, Debug, PartialEq)]
pub struct SavedRound {
    /// Of the rules that it is played by.
    pub(super) rules: u64,
    pub(super) attempt: u32,
    pub(super) health: Option<u32>,
    pub(super) lives: Option<u32>,
    pub(super) gained: Gained,
    pub(super) reached: Option<ZoneId>,
    /// For how many ticks more nothing hurts.
    pub(super) spared: u64,
    /// For how many ticks it has been crushed.
    pub(super) crushed: u64,
    pub(super) phase: Phase,
    /// Nothing was looked at yet in this attempt.
    pub(super) begins: bool,
    pub(super) start: Mark,
    pub(super) checkpoint: Option<Mark>,
}

impl SavedRound {
    pub(super) fn at_start(numbers: &RoundNumbers, start: Mark, rules: u64) -> SavedRound {
        SavedRound {
            rules,
            attempt: 1,
            health: numbers.health,
            lives: numbers.lives,
            gained: Gained::default(),
            reached: None,
            spared: 0,
            crushed: 0,
            phase: Phase::Playing,
            begins: true,
            start,
            checkpoint: None,
        }
    }

    /// Where it starts again.
    pub(super) fn mark(&self, at: RestartAt) -> &Mark {
        match at {
            RestartAt::Checkpoint => self.checkpoint.as_ref().unwrap_or(&self.start),
            RestartAt::Start => &self.start,
        }
    }

    /// The next attempt.
    pub(super) fn start_again(&mut self, at: RestartAt, numbers: &RoundNumbers) {
        let was = self.mark(at).gained.clone();
        if numbers.keeps_pickups {
            self.gained.open = was.open;
        } else {
            self.gained = was;
        }
        if at == RestartAt::Start {
            (self.reached, self.checkpoint) = (None, None);
        }
        self.attempt = self.attempt.saturating_add(1);
        (self.health, self.spared, self.crushed) = (numbers.health, 0, 0);
        (self.phase, self.begins) = (Phase::Playing, true);
    }

    /// A number for all of it: with that of the saved world, two games with equal numbers go on equally. The same on every machine.
    #[must_use]
    pub fn hash(&self) -> u64 {
        let mut hasher = Hasher::new();
        self.put(&mut hasher, |saved, to| saved.hash().put(to));
        hasher.finish()
    }

    fn put<S: Sink>(&self, to: &mut S, mut put_world: impl FnMut(&Saved, &mut S)) {
        // Named one by one, so that none is forgotten.
        let SavedRound {
            rules,
            attempt,
            health,
            lives,
            gained,
            reached,
            spared,
            crushed,
            phase,
            begins,
            start,
            checkpoint,
        } = self;
        rules.put(to);
        attempt.put(to);
        health.put(to);
        lives.put(to);
        gained.put(to);
        reached.put(to);
        spared.put(to);
        crushed.put(to);
        phase.put(to);
        begins.put(to);
        let mut put_mark = |mark: &Mark, to: &mut S| {
            put_world(&mark.world, to);
            mark.gained.put(to);
        };
        put_mark(start, to);
        checkpoint.is_some().put(to);
        checkpoint.iter().for_each(|mark| put_mark(mark, to));
    }

    /// These bytes can be kept in a file or sent, beside those of the world: [`SavedRound::from_bytes`] makes it again.
    #[must_use]
    pub fn to_bytes<T: Terrain>(&self, world: &World<T>) -> Vec<u8> {
        sealed(MARK, VERSION, |bytes| self.put(bytes, |saved, to| saved.to_bytes(world).put(to)))
    }

    /// A saved round again from bytes, for a world made like the one that wrote them, and a round of the same rules.
    ///
    /// # Errors
    ///
    /// See [`SavedError`]: they are no saved round, of another version, of another level or of other rules, or spoiled. Never a panic.
    pub fn from_bytes<T: Terrain>(
        bytes: &[u8],
        world: &World<T>,
        round: &super::Round,
    ) -> Result<SavedRound, SavedError> {
        let mut source = unsealed(bytes, MARK, VERSION)?;
        let saved = SavedRound::decode(&mut source, world)?;
        if saved.rules != round.state.rules {
            return Err(SavedError::OtherLevel);
        }
        Ok(saved)
    }

    fn decode<T: Terrain>(from: &mut Source<'_>, world: &World<T>) -> Result<SavedRound, SavedError> {
        fn take<C: Coded>(from: &mut Source<'_>) -> Result<C, SavedError> {
            C::decode(from).ok_or(SavedError::Spoiled)
        }
        let take_mark = |from: &mut Source<'_>| {
            let bytes = take::<Vec<u8>>(from)?;
            let world = Arc::new(Saved::from_bytes(&bytes, world)?);
            Ok(Mark { world, gained: take(from)? })
        };
        // In the order in which they were put.
        let state = SavedRound {
            rules: take(from)?,
            attempt: take(from)?,
            health: take(from)?,
            lives: take(from)?,
            gained: take(from)?,
            reached: take(from)?,
            spared: take(from)?,
            crushed: take(from)?,
            phase: take(from)?,
            begins: take(from)?,
            start: take_mark(from)?,
            checkpoint: if take(from)? { Some(take_mark(from)?) } else { None },
        };
        if from.is_empty() { Ok(state) } else { Err(SavedError::Spoiled) }
    }
}
