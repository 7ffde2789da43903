//! All of a world that ticks and the game change, to be gone back to.

use super::prop::PropState;
use super::roster::Roster;
use super::{Character, Event, World};
use crate::platforms::PlatformChanges;
use crate::presence::Away;
use crate::terrain::Terrain;

/// Everything of a world that ticks and calls between them change: not its terrain. The default is one of nothing, to be
/// saved into.
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
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Saved {
    pub(super) tick: u64,
    pub(super) platforms: PlatformChanges,
    pub(super) props: Roster<PropState>,
    pub(super) characters: Roster<Character>,
    pub(super) away: Away,
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
        size_of::<Saved>()
            + self.platforms.size_in_bytes()
            + size_of_val(self.away.all())
            + self.characters.iter().map(|of| size_of::<Character>() + of.size_beside()).sum::<usize>()
            + self.props.iter().map(|prop| size_of::<PropState>() + prop.body.size_beside()).sum::<usize>()
    }
}

impl Saved {
    /// The same without what happened in its tick; who is crushed is so still.
    pub(super) fn forget_events(&mut self) {
        let is_so_still = |event: &Event| matches!(event, Event::Crushed(_) | Event::CrushedByTerrain);
        self.characters.iter_mut().for_each(|of| of.report.events.retain(is_so_still));
        self.props.iter_mut().for_each(|of| of.body.report.events.retain(is_so_still));
    }
}

impl Character {
    /// What it takes beside its own place, bytes.
    fn size_beside(&self) -> usize {
        self.report.events.capacity() * size_of::<Event>() + self.outside.size_beside()
    }
}

impl<T: Terrain> World<T> {
    /// Everything that ticks and calls between them change, to be restored later.
    ///
    /// Its size grows with the characters and props, and with the platforms that were set off or have
    /// crumbled, not with the level.
    pub fn save(&self) -> Saved {
        let (props, characters) = (self.bodies.props.clone(), self.bodies.characters.clone());
        let (tick, platforms, away) = (self.ticks(), self.platforms.changes(), self.presence.away.clone());
        Saved { tick, platforms, props, characters, away }
    }

    /// The same into one that is there already: what it held is gone. Saving tick after tick into the same
    /// ones, as for going back over a network, allocates only while there are more platforms set off or
    /// crumbled than ever before.
    pub fn save_into(&self, saved: &mut Saved) {
        saved.tick = self.ticks();
        self.platforms.save_into(&mut saved.platforms);
        saved.props.copy_from(&self.bodies.props);
        saved.characters.copy_from(&self.bodies.characters);
        saved.away.copy_from(&self.presence.away);
    }

    /// Makes the world again what it was when it was saved: the ticks that follow are the same to the bit. Characters
    /// and props removed since are there again, and those added since are gone; who is added then gets the same identity
    /// again.
    ///
    /// `saved` must come from this world, or from one made in the same way, with the same terrain. If the game has changed
    /// the terrain since, it changes it back itself.
    pub fn restore(&mut self, saved: &Saved) {
        self.tick = saved.tick;
        self.platforms.restore(&saved.platforms);
        self.bodies.restore(saved, &self.terrain);
        let was_whole = self.presence.is_whole();
        self.presence.away.copy_from(&saved.away);
        self.presence.look_at_away(&self.terrain);
        self.presence.set_any_differs(self.bodies.any_differs());
        if !(was_whole && self.presence.is_whole()) {
            // What was there for a body by then may not have been before, nor for one of another group.
            self.bodies.doubt_terrain();
        }
        self.bodies.show_props(&mut self.platforms);
        self.bodies.show_characters(&mut self.platforms, &self.presence.meetings);
        self.bodies.platforms_changed(&self.platforms);
    }
}
