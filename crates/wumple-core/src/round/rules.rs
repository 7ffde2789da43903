//! The rules of a round: its numbers, and what the zones of a level say; checked once.

use alloc::vec::Vec;
use core::fmt;

use crate::bytes::{Coded, Hasher, Sink, Source, coded};
use crate::terrain::{ZoneId, ZoneKind};
use crate::word::Word;

/// Something that is had, by its word: a key. Up to 16 letters `a` to `z`, digits, `-` and `_`.
#[derive(Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord)]
pub struct Item(Word);

impl Item {
    /// The item of this word; `None` if it is empty, too long, or has other letters.
    #[must_use]
    pub fn new(word: &str) -> Option<Item> {
        Word::new(word).map(Item)
    }

    /// The word.
    #[must_use]
    pub fn word(&self) -> &str {
        self.0.text()
    }
}

impl fmt::Debug for Item {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        self.0.fmt(f)
    }
}

impl fmt::Display for Item {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.write_str(self.word())
    }
}

/// What something asks for before anything follows from it.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
pub enum Need {
    /// So many pickups, each counted by its worth.
    Pickups(u32),
    /// An item.
    Has(Item),
}

/// How a character moves that was defeated, while that is shown.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash)]
pub enum DefeatMotion {
    /// Not at all.
    Stops,
    /// By itself: nothing is held.
    Falls,
    /// The same, through everything.
    #[default]
    FallsThrough,
}

impl DefeatMotion {
    /// Their words in files.
    pub const NAMES: [(&'static str, DefeatMotion); 3] =
        [("stops", DefeatMotion::Stops), ("falls", DefeatMotion::Falls), ("falls-through", DefeatMotion::FallsThrough)];
}

/// What follows when a defeat has been shown and a life is left.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash)]
pub enum AfterDefeat {
    /// It starts again at the checkpoint that was reached last; if none was, at the start.
    #[default]
    Checkpoint,
    /// It starts again at the start.
    Start,
    /// Nothing: the round is over.
    Nothing,
}

impl AfterDefeat {
    /// Their words in files.
    pub const NAMES: [(&'static str, AfterDefeat); 3] =
        [("checkpoint", AfterDefeat::Checkpoint), ("start", AfterDefeat::Start), ("nothing", AfterDefeat::Nothing)];
}

/// What one zone means to a round. The default is a zone of which nothing is said.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
pub struct ZoneRule {
    /// Of a hazard: how much it hurts, from 1.
    pub damage: u32,
    /// Of a pickup: for how many it counts, from 0.
    pub worth: u32,
    /// Of a pickup, or a kind of the game's own: what is had from then on, once.
    pub gives: Option<Item>,
    /// Of a pickup, a goal or a gate: what it asks for.
    pub needs: Option<Need>,
    /// Whether the item that it asks for is used up. A gate that uses something up opens when it is touched.
    pub takes: bool,
    /// Whether it is a gate: taken out of the world once it has what it needs.
    pub is_gate: bool,
}

impl Default for ZoneRule {
    fn default() -> ZoneRule {
        ZoneRule { damage: 1, worth: 1, gives: None, needs: None, takes: false, is_gate: false }
    }
}

/// The numbers of a round, before they are checked. The default is a round without health: every hazard defeats.
#[derive(Clone, Debug, PartialEq)]
pub struct RoundNumbers {
    /// How much damage is borne, from 1; `None`: a hazard defeats at once.
    pub health: Option<u32>,
    /// How many defeats end the round, from 1; `None`: none does.
    pub lives: Option<u32>,
    /// For how long nothing hurts after damage, s; and how long a crush is borne.
    pub spared_for: f64,
    /// How the character moves while a defeat is shown.
    pub defeat: DefeatMotion,
    /// For how long it is shown, s.
    pub shows_for: f64,
    /// What follows then.
    pub after_defeat: AfterDefeat,
    /// Whether what was taken stays taken when it starts again.
    pub keeps_pickups: bool,
    /// What every goal asks for.
    pub goal_needs: Option<Need>,
    /// The zones of which something is said, in any order, each once.
    pub zones: Vec<(ZoneId, ZoneRule)>,
}

impl Default for RoundNumbers {
    fn default() -> RoundNumbers {
        RoundNumbers {
            health: None,
            lives: None,
            spared_for: 0.8,
            defeat: DefeatMotion::default(),
            shows_for: 0.7,
            after_defeat: AfterDefeat::default(),
            keeps_pickups: true,
            goal_needs: None,
            zones: Vec::new(),
        }
    }
}

/// What is wrong with the numbers of a round.
#[derive(Clone, Copy, Debug, PartialEq)]
#[non_exhaustive]
pub enum RoundError {
    /// A count is not from the least that it may be to [`RoundRules::MOST`].
    Count {
        /// Which: `health`, `lives`, `damage`, `worth`, `pickups`.
        what: &'static str,
        /// What was given.
        found: u32,
        /// The least.
        least: u32,
    },
    /// A time is not a number from 0 to [`RoundRules::LONGEST`], s.
    Time {
        /// Which: `spared_for`, `shows_for`.
        what: &'static str,
        /// What was given, s.
        found: f64,
    },
    /// Something is said twice of one zone.
    Twice {
        /// Which.
        zone: ZoneId,
    },
    /// A gate without a need would never be closed.
    NeedlessGate {
        /// Which.
        zone: ZoneId,
    },
    /// Pickups are counted and not used up: only an item can be.
    NothingTaken {
        /// Of which zone it is said.
        zone: ZoneId,
    },
}

impl fmt::Display for RoundError {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            RoundError::Count { what, found, least } => {
                write!(f, "{what} is {found}; it must be from {least} to {}", RoundRules::MOST)
            }
            RoundError::Time { what, found } => {
                write!(f, "{what} is {found} s; it must be from 0 to {} s", RoundRules::LONGEST)
            }
            RoundError::Twice { zone } => write!(f, "something is said twice of {zone}"),
            RoundError::NeedlessGate { zone } => write!(f, "{zone} is a gate that needs nothing"),
            RoundError::NothingTaken { zone } => {
                write!(f, "{zone} uses up what it needs, and needs no item; pickups are counted, not used up")
            }
        }
    }
}

impl core::error::Error for RoundError {}

/// Numbers of a round that are right.
#[derive(Clone, Debug, PartialEq)]
pub struct RoundRules {
    numbers: RoundNumbers,
    gates: Vec<ZoneId>,
    hash: u64,
}

impl RoundRules {
    /// The greatest count of anything.
    pub const MOST: u32 = 1_000_000;
    /// The longest time, s.
    pub const LONGEST: f64 = 3600.0;

    /// Checks the numbers of a round.
    ///
    /// # Errors
    ///
    /// The first that is wrong: see [`RoundError`].
    pub fn check(numbers: &RoundNumbers) -> Result<RoundRules, RoundError> {
        let count = |what, found: Option<u32>, least| match found {
            Some(found) if !(least..=RoundRules::MOST).contains(&found) => {
                Err(RoundError::Count { what, found, least })
            }
            _ => Ok(()),
        };
        let pickups = |need: Option<Need>| match need {
            Some(Need::Pickups(found)) => count("pickups", Some(found), 1),
            _ => Ok(()),
        };
        count("health", numbers.health, 1)?;
        count("lives", numbers.lives, 1)?;
        for (what, found) in [("spared_for", numbers.spared_for), ("shows_for", numbers.shows_for)] {
            if !(0.0..=RoundRules::LONGEST).contains(&found) {
                return Err(RoundError::Time { what, found });
            }
        }
        pickups(numbers.goal_needs)?;
        let mut numbers = numbers.clone();
        numbers.zones.sort_unstable_by_key(|(zone, _)| *zone);
        if let Some(two) = numbers.zones.windows(2).find(|two| two[0].0 == two[1].0) {
            return Err(RoundError::Twice { zone: two[0].0 });
        }
        for (zone, rule) in &numbers.zones {
            count("damage", Some(rule.damage), 1)?;
            count("worth", Some(rule.worth), 0)?;
            pickups(rule.needs)?;
            if rule.is_gate && rule.needs.is_none() {
                return Err(RoundError::NeedlessGate { zone: *zone });
            }
            if rule.takes && !matches!(rule.needs, Some(Need::Has(_))) {
                return Err(RoundError::NothingTaken { zone: *zone });
            }
        }
        let gates = numbers.zones.iter().filter(|(_, rule)| rule.is_gate).map(|(zone, _)| *zone).collect();
        let mut hasher = Hasher::new();
        numbers.put(&mut hasher);
        Ok(RoundRules { numbers, gates, hash: hasher.finish() })
    }

    /// The numbers, the zones in order.
    #[must_use]
    pub fn numbers(&self) -> &RoundNumbers {
        &self.numbers
    }

    /// What is said of a zone; of one of which nothing is, the default.
    #[must_use]
    pub fn of(&self, zone: ZoneId) -> ZoneRule {
        let zones = &self.numbers.zones;
        zones.binary_search_by_key(&zone, |(zone, _)| *zone).map_or_else(|_| ZoneRule::default(), |at| zones[at].1)
    }

    /// The gates, in order.
    #[must_use]
    pub fn gates(&self) -> &[ZoneId] {
        &self.gates
    }

    /// Whether something is taken by being met: a pickup, or what gives something.
    pub(super) fn is_taken(&self, zone: ZoneId) -> bool {
        zone.kind == ZoneKind::Pickup || self.of(zone).gives.is_some()
    }

    /// A number for all of it.
    pub(super) fn hash(&self) -> u64 {
        self.hash
    }
}

impl Coded for Item {
    fn put(&self, to: &mut impl Sink) {
        self.0.put(to);
    }
    fn decode(from: &mut Source<'_>) -> Option<Item> {
        Word::decode(from).map(Item)
    }
}

coded!(enum Need { 0 => Pickups(of), 1 => Has(of) });
coded!(enum DefeatMotion { 0 => Stops, 1 => Falls, 2 => FallsThrough });
coded!(enum AfterDefeat { 0 => Checkpoint, 1 => Start, 2 => Nothing });
coded!(struct ZoneRule { damage, worth, gives, needs, takes, is_gate });
coded!(struct RoundNumbers {
    health, lives, spared_for, defeat, shows_for, after_defeat, keeps_pickups, goal_needs, zones,
});

#[cfg(test)]
mod tests {
    use super::*;
    use crate::terrain::ZoneOf;
    use alloc::string::ToString;

    #[test]
    fn numbers_that_are_wrong_are_refused_with_what_they_may_be() {
        let zone = ZoneId { kind: ZoneKind::Pickup, of: ZoneOf::Tile { column: 2, row: 3 } };
        let of_zone = |change: fn(&mut ZoneRule)| {
            let mut rule = ZoneRule::default();
            change(&mut rule);
            RoundNumbers { zones: alloc::vec![(zone, rule)], ..RoundNumbers::default() }
        };
        let usual = RoundNumbers::default;
        let table = [
            (RoundNumbers { health: Some(0), ..usual() }, "health is 0; it must be from 1 to 1000000"),
            (RoundNumbers { lives: Some(1_000_001), ..usual() }, "lives is 1000001; it must be from 1 to 1000000"),
            (RoundNumbers { spared_for: -1.0, ..usual() }, "spared_for is -1 s; it must be from 0 to 3600 s"),
            (RoundNumbers { shows_for: f64::NAN, ..usual() }, "shows_for is NaN s; it must be from 0 to 3600 s"),
            (
                RoundNumbers { goal_needs: Some(Need::Pickups(0)), ..usual() },
                "pickups is 0; it must be from 1 to 1000000",
            ),
            (of_zone(|rule| rule.damage = 0), "damage is 0; it must be from 1 to 1000000"),
            (of_zone(|rule| rule.worth = u32::MAX), "worth is 4294967295; it must be from 0 to 1000000"),
            (of_zone(|rule| rule.needs = Some(Need::Pickups(0))), "pickups is 0; it must be from 1 to 1000000"),
            (of_zone(|rule| rule.is_gate = true), "pickup@2,3 is a gate that needs nothing"),
            (
                of_zone(|rule| (rule.takes, rule.needs) = (true, Some(Need::Pickups(3)))),
                "pickup@2,3 uses up what it needs, and needs no item; pickups are counted, not used up",
            ),
            (
                RoundNumbers { zones: alloc::vec![(zone, ZoneRule::default()); 2], ..usual() },
                "something is said twice of pickup@2,3",
            ),
        ];
        for (numbers, words) in table {
            assert_eq!(RoundRules::check(&numbers).unwrap_err().to_string(), words);
        }
        assert!(RoundRules::check(&usual()).is_ok());
        assert!(Item::new("Key").is_none() && Item::new("red-key").is_some());
    }
}
