//! Groups: who meets whom.

use alloc::string::String;
use alloc::vec::Vec;
use core::fmt;

use crate::bytes::{Coded, Sink, Source, coded};
use crate::word::Word;

/// The group that a thing is in: a word of up to 16 letters `a` to `z`, digits, `-` and `_`. What is in no group of its own
/// is in [`Group::LEVEL`].
///
/// ```
/// use wumple_core::Group;
///
/// let jars = Group::new("jars").ok_or("no word")?;
/// assert_eq!(jars.word(), "jars");
/// assert_eq!(Group::default(), Group::LEVEL);
/// assert!(Group::new("two words").is_none());
/// # Ok::<(), Box<dyn core::error::Error>>(())
/// ```
#[derive(Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord)]
#[cfg_attr(
    feature = "serde",
    derive(serde::Serialize, serde::Deserialize),
    serde(into = "String", try_from = "String")
)]
pub struct Group(Word);

impl Group {
    /// Everything that is in no other: `level`.
    pub const LEVEL: Group = match Word::new("level") {
        Some(word) => Group(word),
        None => unreachable!(),
    };

    /// The group of this word; `None` if it is empty, has more than 16 letters, or others than `a` to `z`, digits, `-` and `_`.
    #[must_use]
    pub fn new(word: &str) -> Option<Group> {
        Word::new(word).map(Group)
    }

    /// The word.
    #[must_use]
    pub fn word(&self) -> &str {
        self.0.text()
    }
}

impl Default for Group {
    fn default() -> Group {
        Group::LEVEL
    }
}

impl fmt::Debug for Group {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        self.0.fmt(f)
    }
}

impl fmt::Display for Group {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.write_str(self.word())
    }
}

impl From<Group> for String {
    fn from(group: Group) -> String {
        group.word().into()
    }
}

impl TryFrom<String> for Group {
    type Error = &'static str;
    fn try_from(word: String) -> Result<Group, &'static str> {
        Group::new(&word).ok_or("a group is a word of up to 16 letters a to z, digits, \"-\" and \"_\"")
    }
}

impl Coded for Group {
    fn put(&self, to: &mut impl Sink) {
        self.0.put(to);
    }
    fn decode(from: &mut Source<'_>) -> Option<Group> {
        Word::decode(from).map(Group)
    }
}

/// What one group meets.
#[derive(Clone, Debug, PartialEq)]
struct Row {
    group: Group,
    meets: Vec<Group>,
}

coded!(struct Row { group, meets });

/// Who meets whom in a world. A group of which nothing is said meets everything, as if it were in none.
///
/// What is said of a group is all that it meets: `level`, which is everything in no group, and others by their names. It
/// holds both ways: jars that do not meet the apprentice are not met by them either. A thing that is not met is not there: it
/// stops nobody, carries nobody, and is no zone.
///
/// Characters meet each other only where it is said of groups that both are in: see [`World::with_meetings`].
///
/// [`World::with_meetings`]: crate::World::with_meetings
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Meetings(Vec<Row>);

impl Meetings {
    /// Who meets whom: of each group, all that it meets.
    ///
    /// ```
    /// use wumple_core::{Group, Meetings};
    ///
    /// let [jars, ghosts, dab] = ["jars", "ghosts", "dab"].map(|word| Group::new(word).unwrap());
    /// let meetings = Meetings::new(&[(jars, &[Group::LEVEL, dab]), (ghosts, &[dab])])?;
    /// assert!(meetings.meet(jars, Group::LEVEL) && meetings.meet(dab, jars) && meetings.meet(dab, Group::LEVEL));
    /// assert!(!meetings.meet(jars, jars) && !meetings.meet(ghosts, Group::LEVEL));
    /// # Ok::<(), Box<dyn core::error::Error>>(())
    /// ```
    ///
    /// # Errors
    ///
    /// If something is said of [`Group::LEVEL`], or of a group twice; if one group meets another that does not meet it, by
    /// what is said of both.
    pub fn new(rows: &[(Group, &[Group])]) -> Result<Meetings, MeetingError> {
        let mut all: Vec<Row> = Vec::new();
        for (group, meets) in rows {
            if *group == Group::LEVEL {
                return Err(MeetingError::OfLevel);
            }
            if all.iter().any(|row| row.group == *group) {
                return Err(MeetingError::Twice { group: *group });
            }
            all.push(Row { group: *group, meets: meets.to_vec() });
        }
        let meetings = Meetings(all);
        for Row { group, meets } in &meetings.0 {
            let one_sided = |other: &&Group| meetings.row(**other).is_some_and(|row| !row.contains(group));
            if let Some(other) = meets.iter().find(one_sided) {
                return Err(MeetingError::OneSided { group: *group, other: *other });
            }
        }
        Ok(meetings)
    }

    /// Whether nothing is said: all meet all.
    #[must_use]
    pub fn is_empty(&self) -> bool {
        self.0.is_empty()
    }

    /// What is said of a group.
    fn row(&self, group: Group) -> Option<&[Group]> {
        self.0.iter().find(|row| row.group == group).map(|row| row.meets.as_slice())
    }

    /// Whether things of two groups meet.
    #[must_use]
    pub fn meet(&self, one: Group, other: Group) -> bool {
        match (self.row(one), self.row(other)) {
            (Some(row), _) => row.contains(&other),
            (None, Some(row)) => row.contains(&one),
            (None, None) => true,
        }
    }

    /// Whether characters of two groups stop each other: where it is said that they meet.
    #[must_use]
    pub fn characters_meet(&self, one: Group, other: Group) -> bool {
        let are_said = self.row(one).is_some() || self.row(other).is_some();
        are_said && one != Group::LEVEL && other != Group::LEVEL && self.meet(one, other)
    }

    /// Whether any characters can stop each other.
    pub(crate) fn any_characters_meet(&self) -> bool {
        self.0.iter().any(|row| row.meets.iter().any(|group| *group != Group::LEVEL))
    }

    /// What is said of each group: all that it meets.
    pub fn rows(&self) -> impl Iterator<Item = (Group, &[Group])> {
        self.0.iter().map(|row| (row.group, row.meets.as_slice()))
    }

    /// The groups of which something is said, or that are met.
    pub fn groups(&self) -> impl Iterator<Item = Group> + '_ {
        self.0.iter().flat_map(|row| core::iter::once(row.group).chain(row.meets.iter().copied()))
    }
}

impl Coded for Meetings {
    fn put(&self, to: &mut impl Sink) {
        self.0.put(to);
    }
    fn decode(from: &mut Source<'_>) -> Option<Meetings> {
        Vec::decode(from).map(Meetings)
    }
}

/// What is wrong with who meets whom.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
#[non_exhaustive]
pub enum MeetingError {
    /// Of what is in no group nothing can be said.
    OfLevel,
    /// A group of which something is said twice.
    Twice {
        /// Which.
        group: Group,
    },
    /// One that meets another, which does not meet it.
    OneSided {
        /// The one.
        group: Group,
        /// The other.
        other: Group,
    },
}

impl fmt::Display for MeetingError {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            MeetingError::OfLevel => {
                f.write_str("\"level\" is what is in no group; say of each group whether it meets it")
            }
            MeetingError::Twice { group } => write!(f, "\"{group}\" is there twice"),
            MeetingError::OneSided { group, other } => {
                write!(
                    f,
                    "\"{group}\" meets \"{other}\", but \"{other}\" does not meet \"{group}\"; it holds both ways"
                )
            }
        }
    }
}

impl core::error::Error for MeetingError {}
