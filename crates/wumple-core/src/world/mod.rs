//! The world: a terrain, the characters in it, and the tick that moves them on.

mod character;
mod event;
mod invariants;
mod report;
mod start;
mod why;

pub use character::Character;
pub use event::{Event, JumpedFrom};
pub use invariants::Violation;
pub use report::{Contacts, State, TickReport};
pub use start::StartError;
pub use why::{Decision, Forgotten, HoldRefusal, JumpRefusal, LadderRefusal, LetGo, Listener, NoWallJump, Nobody};

use alloc::vec::Vec;
use glam::DVec2;

use crate::motion::Buttons;
use crate::terrain::Terrain;
use crate::tuning::Tuning;

/// Coordinates stay within plus or minus this, px; a body beyond it is lost.
pub const LIMIT_PLACE: f64 = crate::tuning::LIMIT_LENGTH;

/// Which character of a [`World`].
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, PartialOrd, Ord)]
pub struct CharacterId(usize);

/// A terrain and the characters in it.
///
/// The terrain may be owned or borrowed: `&T` is a [`Terrain`] wherever `T` is.
#[derive(Clone, Debug)]
pub struct World<T> {
    terrain: T,
    characters: Vec<Character>,
    tick: u64,
}

impl<T: Terrain> World<T> {
    /// A world without characters, before its first tick.
    pub fn new(terrain: T) -> World<T> {
        World { terrain, characters: Vec::new(), tick: 0 }
    }

    /// Puts a character into the world, with its feet at this place (px, y down).
    ///
    /// # Errors
    ///
    /// If its hitbox would be inside something solid, or the place is not a number within
    /// [`LIMIT_PLACE`].
    pub fn add_character(&mut self, tuning: Tuning, feet: DVec2) -> Result<CharacterId, StartError> {
        let character = Character::start(&self.terrain, CharacterId(self.characters.len()), tuning, feet, self.tick)?;
        self.characters.push(character);
        Ok(CharacterId(self.characters.len() - 1))
    }

    /// Moves everything on by one tick. `buttons` are what each character's player holds, in the order
    /// in which they were added; a character without an entry holds nothing.
    ///
    /// Characters that have died or are lost no longer move. The cost does not depend on the size of
    /// the map, and nothing is allocated.
    pub fn tick(&mut self, buttons: &[Buttons]) {
        self.tick_told(buttons, &mut Nobody);
    }

    /// The same, and `listener` hears of every decision with its reason. The motion is the same to the bit.
    pub fn tick_told<L: Listener>(&mut self, buttons: &[Buttons], listener: &mut L) {
        self.tick += 1;
        for (index, character) in self.characters.iter_mut().enumerate() {
            let held = buttons.get(index).unwrap_or(&Buttons::NONE);
            character.tick(&self.terrain, held, self.tick, listener);
            #[cfg(debug_assertions)]
            if let Some(violation) = character.violation(&self.terrain) {
                panic!("{violation}: {:?}", character.report());
            }
        }
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
        self.characters.iter().find_map(|character| character.violation(&self.terrain))
    }
}

#[cfg(test)]
mod tests;
