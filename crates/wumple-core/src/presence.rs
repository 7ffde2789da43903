//! Who and what is there for whom: by groups, and by what was taken away.

use alloc::vec::Vec;

use crate::bytes::{Coded, Sink, Source};
use crate::groups::{Group, Meetings};
use crate::terrain::{Surface, Terrain, ZoneId, ZoneOf};

/// What of a world is there for which of its bodies.
#[derive(Clone, Debug)]
pub(crate) struct Presence {
    pub(crate) meetings: Meetings,
    /// What was taken away, in order.
    pub(crate) away: Away,
    /// Whether some of that can be stood on or stops anybody, as far as is known: else it is missed among the zones alone.
    pub(crate) lacks_bodies: bool,
    /// Whether somebody meets other things than everyone: goes through everything, or is seen from above.
    any_differs: bool,
    /// Whether everything that has a body is there for everyone: what follows from the above, asked for in every tick.
    is_whole: bool,
}

impl Default for Presence {
    fn default() -> Presence {
        let (meetings, away) = (Meetings::default(), Away::default());
        Presence { meetings, away, lacks_bodies: false, any_differs: false, is_whole: true }
    }
}

impl Presence {
    /// Whether everything that has a body is there for everyone.
    #[inline]
    pub(crate) fn is_whole(&self) -> bool {
        self.is_whole
    }

    fn look_whether_whole(&mut self) {
        self.is_whole = self.meetings.is_empty() && !self.lacks_bodies && !self.any_differs;
    }

    /// Says who meets whom.
    pub(crate) fn set_meetings(&mut self, meetings: Meetings) {
        self.meetings = meetings;
        self.look_whether_whole();
    }

    /// Says whether somebody meets other things than everyone.
    pub(crate) fn set_any_differs(&mut self, any_differs: bool) {
        self.any_differs = any_differs;
        self.look_whether_whole();
    }

    /// After something was taken away or brought back.
    pub(crate) fn look_at_away<T: Terrain>(&mut self, terrain: &T) {
        self.lacks_bodies = self.away.0.iter().any(|zone| has_body(terrain, *zone));
        self.look_whether_whole();
    }
}

/// Whether what is away with a zone may be more than the zone.
fn has_body<T: Terrain>(terrain: &T, zone: ZoneId) -> bool {
    match zone.of {
        ZoneOf::Tile { column, row } => {
            // Of several tiles that are one zone only the first is known.
            zone.kind.joins() || (terrain.has_tile(column, row) && terrain.surface(column, row) != Surface::Empty)
        }
        ZoneOf::Drawn(_) => false,
        _ => true,
    }
}

/// The zones whose things were taken out of the world, until they are brought back.
#[derive(Clone, Debug, Default, PartialEq)]
pub(crate) struct Away(Vec<ZoneId>);

impl Away {
    /// Whether nothing is away.
    #[inline]
    pub(crate) fn is_empty(&self) -> bool {
        self.0.is_empty()
    }

    pub(crate) fn all(&self) -> &[ZoneId] {
        &self.0
    }

    fn find(&self, zone: ZoneId) -> Result<usize, usize> {
        self.0.binary_search_by_key(&(zone.of, zone.kind), |away| (away.of, away.kind))
    }

    pub(crate) fn has(&self, zone: ZoneId) -> bool {
        self.find(zone).is_ok()
    }

    /// Whether a thing that is no tile is away, whatever zone it is.
    pub(crate) fn has_thing(&self, of: ZoneOf) -> bool {
        let at = self.0.partition_point(|away| away.of < of);
        self.0.get(at).is_some_and(|away| away.of == of)
    }

    /// Says whether it was not away before.
    pub(crate) fn add(&mut self, zone: ZoneId) -> bool {
        self.find(zone).map_err(|at| self.0.insert(at, zone)).is_err()
    }

    /// Says whether it was away before.
    pub(crate) fn remove(&mut self, zone: ZoneId) -> bool {
        self.find(zone).map(|at| self.0.remove(at)).is_ok()
    }

    /// In the room there is.
    pub(crate) fn copy_from(&mut self, other: &Away) {
        self.0.clone_from(&other.0);
    }
}

impl Coded for Away {
    fn put(&self, to: &mut impl Sink) {
        self.0.put(to);
    }
    fn decode(from: &mut Source<'_>) -> Option<Away> {
        let all = Vec::<ZoneId>::decode(from)?;
        let goes_up = |two: &[ZoneId]| (two[0].of, two[0].kind) < (two[1].of, two[1].kind);
        all.windows(2).all(goes_up).then_some(Away(all))
    }
}

/// As what something asks what is there for it.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum MeetsAs {
    /// No body in particular: all that was not taken away.
    Anyone,
    /// A body of a group.
    Member(Group),
    /// Somebody who passes through everything.
    Nobody,
}

/// What is there for one body. `None`: everything.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Meets<'a>(Option<(&'a Presence, MeetsAs)>);

impl<'a> Meets<'a> {
    /// Everything.
    pub(crate) const ALL: Meets<'static> = Meets(None);

    /// What is there for somebody.
    #[inline]
    pub(crate) fn by(presence: &'a Presence, who: MeetsAs) -> Meets<'a> {
        let is_everything = presence.is_whole() && presence.away.is_empty();
        Meets((!is_everything).then_some((presence, who)))
    }

    /// Whether a thing of a group is met, if it was not taken away.
    #[inline]
    pub(crate) fn has(&self, group: Group) -> bool {
        self.0.is_none_or(|(presence, who)| match who {
            MeetsAs::Anyone => true,
            MeetsAs::Member(own) => presence.meetings.meet(own, group),
            MeetsAs::Nobody => false,
        })
    }

    /// Whether a character of a group stops this one.
    #[inline]
    pub(crate) fn has_character(&self, group: Group) -> bool {
        self.0.is_some_and(|(presence, who)| match who {
            MeetsAs::Member(own) => presence.meetings.characters_meet(own, group),
            MeetsAs::Anyone | MeetsAs::Nobody => false,
        })
    }

    /// Whether everything is met.
    #[inline]
    pub(crate) fn has_all(&self) -> bool {
        self.0.is_none()
    }

    fn away(&self) -> Option<&'a Away> {
        self.0.map(|(presence, _)| &presence.away).filter(|away| !away.is_empty())
    }

    /// Whether anything was taken away.
    #[inline]
    pub(crate) fn lacks_any(&self) -> bool {
        self.away().is_some()
    }

    /// Whether a zone was taken away, and what it is of.
    #[inline]
    pub(crate) fn lacks(&self, zone: ZoneId) -> bool {
        self.away().is_some_and(|away| away.has(zone))
    }

    /// The same of a thing that is no tile, whatever zone it is.
    #[inline]
    pub(crate) fn lacks_thing(&self, of: ZoneOf) -> bool {
        self.away().is_some_and(|away| away.has_thing(of))
    }
}
