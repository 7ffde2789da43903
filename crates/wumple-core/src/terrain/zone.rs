//! Zones: places where something is met that does not stop a body. They are told, and what follows is the game's.

use crate::bytes::{Coded, Sink, Source};
use alloc::string::String;
use core::fmt;

use super::Ramp;
use crate::groups::Group;
use crate::platforms::MoverId;
use crate::space::Hitbox;
use crate::tuning::round_length;
use crate::word::Word;

/// What a zone is.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, PartialOrd, Ord)]
#[cfg_attr(
    feature = "serde",
    derive(serde::Serialize, serde::Deserialize),
    serde(into = "String", try_from = "String")
)]
#[non_exhaustive]
pub enum ZoneKind {
    /// It can be taken along: each for itself.
    Pickup,
    /// A place to start again from: each for itself.
    Checkpoint,
    /// The end of the level.
    Goal,
    /// It hurts.
    Hazard,
    /// A word of the game's own.
    Own(OwnKind),
}

/// A word of the game's own for a kind of zone: up to 16 letters, digits, `-` and `_`.
#[derive(Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord)]
pub struct OwnKind(Word);

impl OwnKind {
    /// The kind of this word; `None` if it is empty, has more than 16 letters, others than `a` to `z`, digits, `-` and `_`,
    /// or is the word of a kind that every game has.
    #[must_use]
    pub fn new(word: &str) -> Option<OwnKind> {
        let is_taken = ZoneKind::COMMON.iter().any(|kind| kind.word() == word);
        Word::new(word).filter(|_| !is_taken).map(OwnKind)
    }

    /// The word.
    #[must_use]
    pub fn word(&self) -> &str {
        self.0.text()
    }
}

impl fmt::Debug for OwnKind {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        self.0.fmt(f)
    }
}

impl ZoneKind {
    /// Those that every game has, in the order in which they are told where one is met with another.
    pub const COMMON: [ZoneKind; 4] = [ZoneKind::Pickup, ZoneKind::Checkpoint, ZoneKind::Goal, ZoneKind::Hazard];

    /// The kind of a word: one that every game has, or one of its own; `None` if it cannot be one.
    #[must_use]
    pub fn of_word(word: &str) -> Option<ZoneKind> {
        let common = ZoneKind::COMMON.into_iter().find(|kind| kind.word() == word);
        common.or_else(|| OwnKind::new(word).map(ZoneKind::Own))
    }

    /// The word used in files and traces.
    #[must_use]
    pub fn word(&self) -> &str {
        match self {
            ZoneKind::Pickup => "pickup",
            ZoneKind::Checkpoint => "checkpoint",
            ZoneKind::Goal => "goal",
            ZoneKind::Hazard => "hazard",
            ZoneKind::Own(own) => own.word(),
        }
    }

    /// Whether tiles of it that share an edge are one zone.
    #[must_use]
    pub fn joins(&self) -> bool {
        !matches!(self, ZoneKind::Pickup | ZoneKind::Checkpoint)
    }
}

impl fmt::Display for ZoneKind {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.write_str(self.word())
    }
}

impl From<ZoneKind> for String {
    fn from(kind: ZoneKind) -> String {
        kind.word().into()
    }
}

impl TryFrom<String> for ZoneKind {
    type Error = &'static str;
    fn try_from(word: String) -> Result<ZoneKind, &'static str> {
        ZoneKind::of_word(&word).ok_or("a kind of zone is a word of up to 16 letters a to z, digits, \"-\" and \"_\"")
    }
}

/// How much larger than what it belongs to something is felt, px; smaller where negative.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize), serde(default, deny_unknown_fields))]
pub struct Margin {
    /// To the left.
    pub left: f64,
    /// To the right.
    pub right: f64,
    /// Upward.
    pub above: f64,
    /// Downward.
    pub below: f64,
}

/// No margin is greater, px: what may be felt from further away would have to be looked for everywhere.
pub const LIMIT_MARGIN: f64 = 256.0;

impl Margin {
    /// None.
    pub const NONE: Margin = Margin { left: 0.0, right: 0.0, above: 0.0, below: 0.0 };

    /// The same on all sides.
    #[must_use]
    pub const fn all(margin: f64) -> Margin {
        Margin { left: margin, right: margin, above: margin, below: margin }
    }

    fn sides(&self) -> [f64; 4] {
        [self.left, self.right, self.above, self.below]
    }

    /// Whether every side is a number from minus to plus [`LIMIT_MARGIN`].
    #[must_use]
    pub fn is_within_bounds(&self) -> bool {
        self.sides().iter().all(|side| side.abs() <= LIMIT_MARGIN)
    }

    /// Rounded to 1/1024 px, and held within its bounds; what is not a number is 0.
    pub(crate) fn held(&self) -> Margin {
        let held = |side: f64| if side.is_nan() { 0.0 } else { round_length(side.clamp(-LIMIT_MARGIN, LIMIT_MARGIN)) };
        let [left, right, above, below] = self.sides().map(held);
        Margin { left, right, above, below }
    }

    /// The greatest of it, px; 0 if none is above that.
    #[must_use]
    pub fn most(&self) -> f64 {
        self.sides().into_iter().fold(0.0, f64::max)
    }

    /// A box with it around, px.
    #[must_use]
    pub fn around(&self, place: &Hitbox) -> Hitbox {
        Hitbox {
            left: place.left - self.left,
            right: place.right + self.right,
            top: place.top - self.above,
            bottom: place.bottom + self.below,
        }
    }

    /// This and another, side by side.
    pub(crate) fn with(&self, other: &Margin) -> Margin {
        Margin {
            left: self.left + other.left,
            right: self.right + other.right,
            above: self.above + other.above,
            below: self.below + other.below,
        }
    }

    /// The same seen from the other side: a box that is felt so much larger feels others as if they were.
    pub(crate) fn turned(&self) -> Margin {
        Margin { left: self.right, right: self.left, above: self.below, below: self.above }
    }
}

/// When a zone is felt.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize), serde(rename_all = "kebab-case"))]
pub enum Felt {
    /// While the hitbox overlaps it.
    #[default]
    Inside,
    /// While the hitbox touches it, or overlaps it.
    Touch,
}

/// What something is besides stopping bodies.
#[derive(Clone, Copy, Debug, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
pub struct Zone {
    /// What it is.
    pub kind: ZoneKind,
    /// How much further than the thing itself it is felt, px.
    pub margin: Margin,
    /// When it is felt.
    pub felt: Felt,
}

impl Zone {
    /// One of this kind, felt inside, without a margin.
    #[must_use]
    pub const fn of(kind: ZoneKind) -> Zone {
        Zone { kind, margin: Margin::NONE, felt: Felt::Inside }
    }

    /// The same that is felt by touch already: for what is solid.
    #[must_use]
    pub const fn by_touch(self) -> Zone {
        Zone { felt: Felt::Touch, ..self }
    }

    /// The same with this margin, px.
    #[must_use]
    pub const fn with_margin(self, margin: Margin) -> Zone {
        Zone { margin, ..self }
    }

    /// Whether something of its margin is left of a box of this size, px.
    #[must_use]
    pub fn is_left_of(&self, width: f64, height: f64) -> bool {
        let Margin { left, right, above, below } = self.margin;
        width + left + right > 0.0 && height + above + below > 0.0
    }
}

/// A rectangle of a map that is a zone and nothing else.
#[derive(Clone, Copy, Debug, PartialEq)]
#[non_exhaustive]
pub struct DrawnZone {
    /// Where it is, px, y down.
    pub place: Hitbox,
    /// What it is.
    pub zone: Zone,
    /// The group that it is in.
    pub group: Group,
    /// The drawn ramp along whose line it lies, by its number from 0: it is felt at the line, not in all of its place.
    pub ramp: Option<usize>,
}

impl DrawnZone {
    /// A rectangle of this kind, in no group.
    #[must_use]
    pub const fn new(place: Hitbox, zone: Zone) -> DrawnZone {
        DrawnZone { place, zone, group: Group::LEVEL, ramp: None }
    }

    /// The zone that the drawn ramp of this number is, in its group. It lies along the line.
    #[must_use]
    pub fn of_ramp(number: usize, ramp: &Ramp, zone: Zone) -> DrawnZone {
        DrawnZone { place: ramp.place(), zone, group: ramp.group, ramp: Some(number) }
    }

    /// Where it may be felt. A line is felt by a hitbox that is made smaller, too.
    pub(super) fn felt_within(&self) -> Hitbox {
        let Margin { left, right, above, below } = self.zone.margin.held();
        let margin = match self.ramp {
            Some(_) => {
                Margin { left: left.max(0.0), right: right.max(0.0), above: above.max(0.0), below: below.max(0.0) }
            }
            None => Margin { left, right, above, below },
        };
        margin.around(&self.place)
    }

    /// The same in a group.
    #[must_use]
    pub const fn in_group(self, group: Group) -> DrawnZone {
        DrawnZone { group, ..self }
    }
}

/// Of which thing a zone is.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, PartialOrd, Ord)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize), serde(rename_all = "kebab-case"))]
#[non_exhaustive]
pub enum ZoneOf {
    /// Tiles, of which this is the first, by rows: one tile alone, or several that share edges.
    Tile {
        /// Its column.
        column: i32,
        /// Its row.
        row: i32,
    },
    /// A block, by its number from 0.
    Block(usize),
    /// A drawn ramp, by its number from 0.
    Ramp(usize),
    /// A drawn zone, by its number from 0.
    Drawn(usize),
    /// A platform, by its number from 0.
    Platform(usize),
    /// A prop, by its number from 0.
    Prop(usize),
    /// A terrain of the game's own does not tell one of the kind from another.
    Any,
}

impl ZoneOf {
    /// That of a platform or a prop; a character is none.
    pub(crate) fn mover(mover: MoverId) -> Option<ZoneOf> {
        match mover {
            MoverId::Platform(platform) => Some(ZoneOf::Platform(platform)),
            MoverId::Prop(prop) => Some(ZoneOf::Prop(prop)),
            MoverId::Character(_) => None,
        }
    }
}

/// Which zone.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, PartialOrd, Ord)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
pub struct ZoneId {
    /// What it is.
    pub kind: ZoneKind,
    /// Of which thing.
    pub of: ZoneOf,
}

/// As in a trace: `pickup@12,8`, `goal:block-1` (numbers from 1), `hazard`.
impl fmt::Display for ZoneId {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        let kind = self.kind;
        match self.of {
            ZoneOf::Tile { column, row } => write!(f, "{kind}@{column},{row}"),
            ZoneOf::Block(index) => write!(f, "{kind}:block-{}", index + 1),
            ZoneOf::Ramp(index) => write!(f, "{kind}:ramp-{}", index + 1),
            ZoneOf::Drawn(index) => write!(f, "{kind}:zone-{}", index + 1),
            ZoneOf::Platform(index) => write!(f, "{kind}:platform-{}", index + 1),
            ZoneOf::Prop(index) => write!(f, "{kind}:prop-{}", index + 1),
            ZoneOf::Any => write!(f, "{kind}"),
        }
    }
}

impl Coded for OwnKind {
    fn put(&self, to: &mut impl Sink) {
        self.0.put(to);
    }
    fn decode(from: &mut Source<'_>) -> Option<OwnKind> {
        OwnKind::new(Word::decode(from)?.text())
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use alloc::string::ToString;

    #[test]
    fn kinds_are_words() {
        for kind in ZoneKind::COMMON {
            assert_eq!(ZoneKind::of_word(kind.word()), Some(kind));
        }
        let own = ZoneKind::of_word("kiln-door_2").unwrap();
        assert_eq!((own.word(), own.joins(), own.to_string().as_str()), ("kiln-door_2", true, "kiln-door_2"));
        assert!(OwnKind::new("goal").is_none(), "every game has it");
        for wrong in ["", "Kiln", "two words", "a-word-of-17-lettr", "\u{e9}"] {
            assert_eq!(ZoneKind::of_word(wrong), None, "{wrong:?}");
        }
        assert!(OwnKind::new("a-word-of-16-let").is_some());
    }

    #[test]
    fn a_zone_can_vanish_under_its_margins() {
        let zone = Zone::of(ZoneKind::Hazard).with_margin(Margin::all(-4.0));
        assert!(zone.is_left_of(16.0, 16.0) && !zone.is_left_of(8.0, 16.0) && !zone.is_left_of(16.0, 6.0));
        assert!(!Margin::all(f64::NAN).is_within_bounds() && Margin::all(-256.0).is_within_bounds());
        assert_eq!(Margin::all(1e9).held(), Margin::all(256.0));
    }
}
