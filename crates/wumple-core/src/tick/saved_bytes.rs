//! A saved state as bytes and back, compared and hashed: for files, and for games over a network.

use alloc::sync::Arc;
use alloc::vec::Vec;
use core::fmt;

use super::prop::PropState;
use super::roster::Roster;
use super::{Character, CharacterId, Saved, World};
use crate::bytes::{Coded, Hasher, Sink, Source};
use crate::input::Intent;
use crate::platforms::{MoverKey, PlatformChanges, Platforms};
use crate::presence::Away;
use crate::terrain::Terrain;
use crate::tuning::{Tuning, TuningNumbers};

/// What a saved state begins with.
const MARK: [u8; 6] = *b"wumple";
/// The version of the form; another one is not read.
const VERSION: u32 = 2;

/// Why bytes are no saved state of a world.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
#[non_exhaustive]
pub enum SavedError {
    /// They do not begin as one does.
    NoSaved,
    /// Of another version of the form.
    OtherVersion {
        /// Theirs.
        found: u32,
        /// The one that is read.
        expected: u32,
    },
    /// Of a world with another map or other platforms.
    OtherLevel,
    /// Some byte is not as it was written.
    Spoiled,
}

impl fmt::Display for SavedError {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            SavedError::NoSaved => f.write_str("these bytes are no saved state"),
            SavedError::OtherVersion { found, expected } => {
                write!(f, "the saved state is of version {found}; version {expected} is read")
            }
            SavedError::OtherLevel => {
                f.write_str("the saved state is of another level: its map or its platforms differ")
            }
            SavedError::Spoiled => {
                f.write_str("the saved state is spoiled: some of its bytes are not as they were written")
            }
        }
    }
}

impl core::error::Error for SavedError {}

/// Bytes between a mark with the version of their form, and a sum by which a spoiled one is seen.
pub(crate) fn sealed(mark: [u8; 6], version: u32, put: impl FnOnce(&mut Vec<u8>)) -> Vec<u8> {
    let mut bytes = Vec::new();
    bytes.bytes(&mark);
    version.put(&mut bytes);
    put(&mut bytes);
    let sum = Hasher::of(&bytes);
    sum.put(&mut bytes);
    bytes
}

/// What is between them, if they are right.
pub(crate) fn unsealed(bytes: &[u8], mark: [u8; 6], version: u32) -> Result<Source<'_>, SavedError> {
    let mut source = Source::new(bytes);
    if source.take(mark.len()) != Some(&mark) {
        return Err(SavedError::NoSaved);
    }
    let found = u32::decode(&mut source).ok_or(SavedError::Spoiled)?;
    if found != version {
        return Err(SavedError::OtherVersion { found, expected: version });
    }
    let begin = mark.len() + size_of::<u32>();
    let end = bytes.len().checked_sub(size_of::<u64>()).filter(|end| *end >= begin).ok_or(SavedError::Spoiled)?;
    if bytes[end..] != Hasher::of(&bytes[..end]).to_le_bytes() {
        return Err(SavedError::Spoiled);
    }
    Ok(Source::new(&bytes[begin..end]))
}

impl Saved {
    /// A number for all of it: two worlds over the same terrain with equal numbers go on equally. The same on every machine,
    /// so that players over a network can compare theirs. Nothing is allocated.
    ///
    /// ```
    /// # use wumple_core::{Buttons, DVec2, Edges, Grid, Tuning, TuningNumbers, World};
    /// # let map = Grid::from_rows(&["......", "......", "######"], 16.0, Edges::default())?;
    /// # let tuning = Tuning::check(&TuningNumbers::new(10.0, 22.0, 120.0).with_jump(54.0, 0.35))?;
    /// let mut here = World::new(map.clone());
    /// here.add_character(tuning.clone(), DVec2::new(24.0, 32.0))?;
    /// let mut there = World::new(map);
    /// there.add_character(tuning, DVec2::new(24.0, 32.0))?;
    /// here.tick(&[Buttons { right: true, ..Buttons::NONE }]);
    /// assert_ne!(here.save().hash(), there.save().hash());
    /// there.tick(&[Buttons { right: true, ..Buttons::NONE }]);
    /// assert_eq!(here.save().hash(), there.save().hash());
    /// # Ok::<(), Box<dyn core::error::Error>>(())
    /// ```
    #[must_use]
    pub fn hash(&self) -> u64 {
        let mut hasher = Hasher::new();
        self.put(&mut hasher, |tuning, to| tuning.numbers().put(to));
        hasher.finish()
    }

    fn put<S: Sink>(&self, to: &mut S, mut put_tuning: impl FnMut(&Arc<Tuning>, &mut S)) {
        self.tick.put(to);
        self.platforms.put(to);
        self.props.next().put(to);
        self.props.len().put(to);
        for prop in self.props.iter() {
            put_tuning(&prop.body.tuning, to);
            prop.body.put(to);
            prop.put_beside(to);
        }
        self.characters.next().put(to);
        self.characters.len().put(to);
        for character in self.characters.iter() {
            put_tuning(&character.tuning, to);
            character.put(to);
        }
        self.away.put(to);
    }

    /// These bytes can be kept in a file or sent: [`Saved::from_bytes`] makes the state again, in a world like this one. A version is in
    /// front, and a number by which a spoiled byte is seen at the end. Tunings are in it, each once.
    ///
    /// ```
    /// # use wumple_core::{Buttons, DVec2, Edges, Grid, Saved, Tuning, TuningNumbers, World};
    /// # let map = Grid::from_rows(&["......", "......", "######"], 16.0, Edges::default())?;
    /// # let tuning = Tuning::check(&TuningNumbers::new(10.0, 22.0, 120.0).with_jump(54.0, 0.35))?;
    /// let mut world = World::new(map);
    /// world.add_character(tuning, DVec2::new(24.0, 32.0))?;
    /// let bytes = world.save().to_bytes(&world);
    /// world.tick(&[Buttons { right: true, ..Buttons::NONE }]);
    /// let saved = Saved::from_bytes(&bytes, &world)?;
    /// world.restore(&saved);
    /// assert_eq!(world.ticks(), 0);
    /// # Ok::<(), Box<dyn core::error::Error>>(())
    /// ```
    #[must_use]
    pub fn to_bytes<T: Terrain>(&self, world: &World<T>) -> Vec<u8> {
        sealed(MARK, VERSION, |bytes| {
            fingerprint(world).put(bytes);
            let tunings = self.tunings();
            tunings.len().put(bytes);
            tunings.iter().for_each(|tuning| tuning.numbers().put(bytes));
            self.put(bytes, |tuning, to| {
                let place = tunings.iter().position(|known| is_same(known, tuning)).unwrap_or_default();
                place.put(to);
            });
        })
    }

    /// A saved state again from bytes that a world made like this one wrote.
    ///
    /// # Errors
    ///
    /// See [`SavedError`]: they are no saved state, of another version, of another level, or spoiled. Never a panic.
    pub fn from_bytes<T: Terrain>(bytes: &[u8], world: &World<T>) -> Result<Saved, SavedError> {
        let mut source = unsealed(bytes, MARK, VERSION)?;
        let level = u64::decode(&mut source).ok_or(SavedError::Spoiled)?;
        if level != fingerprint(world) {
            return Err(SavedError::OtherLevel);
        }
        Saved::decode(&mut source, &world.platforms).ok_or(SavedError::Spoiled)
    }

    fn decode(from: &mut Source<'_>, platforms: &Platforms) -> Option<Saved> {
        let numbers = Vec::<TuningNumbers>::decode(from)?;
        let tunings = numbers.iter().map(|numbers| Tuning::check(numbers).ok().map(Arc::new));
        let tunings: Vec<Arc<Tuning>> = tunings.collect::<Option<_>>()?;
        let tick = u64::decode(from)?;
        let platforms = PlatformChanges::decode(from, platforms)?;
        let take_tuning = |from: &mut Source<'_>| tunings.get(usize::decode(from)?).cloned();
        let props = Roster::decode(from, |from| {
            let tuning = take_tuning(from)?;
            PropState::decode(from, tuning)
        })?;
        let characters = Roster::decode(from, |from| {
            let tuning = take_tuning(from)?;
            Character::decode(from, tuning)
        })?;
        let away = Away::decode(from)?;
        let is_right = from.is_empty() && characters.iter().all(|of| !of.is_prop());
        (is_right && props.iter().all(|of| of.body.is_prop())).then_some(Saved {
            tick,
            platforms,
            props,
            characters,
            away,
        })
    }

    /// The tunings of all bodies, each once.
    fn tunings(&self) -> Vec<&Arc<Tuning>> {
        let mut all: Vec<&Arc<Tuning>> = Vec::new();
        for tuning in self.props.iter().map(|prop| &prop.body.tuning).chain(self.characters.iter().map(|of| &of.tuning))
        {
            if !all.iter().any(|known| is_same(known, tuning)) {
                all.push(tuning);
            }
        }
        all
    }
}

/// What a level is known by: the size of its map, its edges, the platforms that it began with, and who meets whom.
fn fingerprint<T: Terrain>(world: &World<T>) -> u64 {
    let (terrain, mut hasher) = (&world.terrain, Hasher::new());
    terrain.grid_lines().spacing().put(&mut hasher);
    [terrain.first_column(), terrain.columns(), terrain.first_row(), terrain.rows()].put(&mut hasher);
    let edges = terrain.edges();
    hasher.bytes(&[edges.left, edges.right, edges.top, edges.bottom].map(|edge| edge as u8));
    world.platforms.put_beginning(&mut hasher);
    world.presence.meetings.put(&mut hasher);
    hasher.finish()
}

fn is_same(one: &Arc<Tuning>, other: &Arc<Tuning>) -> bool {
    Arc::ptr_eq(one, other) || one == other
}

impl Character {
    /// All of it but its tuning.
    fn put(&self, to: &mut impl Sink) {
        // Named one by one, so that none is forgotten.
        let Character {
            id,
            itself,
            tuning: _,
            mode,
            held,
            jump_held,
            intent: _,
            last_direction,
            runs_by_itself,
            pressed_at,
            air_jumps_left,
            bumped_at,
            walls,
            ladder_barred,
            dropping,
            cells,
            zones,
            ended,
            report,
            outside,
        } = self;
        id.0.put(to);
        itself.put(to);
        mode.put(to);
        held.put(to);
        jump_held.put(to);
        last_direction.put(to);
        runs_by_itself.put(to);
        pressed_at.put(to);
        air_jumps_left.put(to);
        bumped_at.put(to);
        walls.put(to);
        ladder_barred.put(to);
        dropping.put(to);
        cells.put(to);
        zones.put(to);
        ended.put(to);
        report.put(to);
        outside.put(to);
    }

    pub(super) fn decode(from: &mut Source<'_>, tuning: Arc<Tuning>) -> Option<Character> {
        let (id, itself) = (CharacterId(u32::decode(from)?), Option::<MoverKey>::decode(from)?);
        let (mode, held) = (Coded::decode(from)?, Coded::decode(from)?);
        let mut character = Character {
            id,
            itself,
            tuning,
            mode,
            held,
            jump_held: Coded::decode(from)?,
            intent: Intent::NONE,
            last_direction: Coded::decode(from)?,
            runs_by_itself: Coded::decode(from)?,
            pressed_at: Coded::decode(from)?,
            air_jumps_left: Coded::decode(from)?,
            bumped_at: Coded::decode(from)?,
            walls: Coded::decode(from)?,
            ladder_barred: Coded::decode(from)?,
            dropping: Coded::decode(from)?,
            cells: Coded::decode(from)?,
            zones: Coded::decode(from)?,
            ended: Coded::decode(from)?,
            report: Coded::decode(from)?,
            outside: Coded::decode(from)?,
        };
        character.intent = Intent::running(&held, character.runs_by_itself);
        character.make_room();
        Some(character)
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use alloc::string::ToString;

    #[test]
    fn errors_say_what_is_wrong() {
        let table = [
            (SavedError::NoSaved, "these bytes are no saved state"),
            (SavedError::OtherVersion { found: 7, expected: 2 }, "the saved state is of version 7; version 2 is read"),
        ];
        for (error, words) in table {
            assert_eq!(error.to_string(), words);
        }
    }
}
