//! Characters, or props, by their identities.

use alloc::vec::Vec;

use super::character::Character;
use crate::bytes::{Coded, Source};

/// What has an identity in a world, and is or has a body.
pub(super) trait HasBody {
    fn body(&self) -> &Character;
    fn body_mut(&mut self) -> &mut Character;
}

/// Those of one kind in the order in which they were added. Identities go up, and none is given twice.
#[derive(Clone, Debug, PartialEq)]
pub(super) struct Roster<B> {
    all: Vec<B>,
    next: u32,
}

impl HasBody for Character {
    fn body(&self) -> &Character {
        self
    }
    fn body_mut(&mut self) -> &mut Character {
        self
    }
}

impl<B> Default for Roster<B> {
    fn default() -> Roster<B> {
        Roster { all: Vec::new(), next: 0 }
    }
}

/// As many identities as there can be: three kinds of them share 32 bits.
const MOST: u32 = u32::MAX / 3 - 1;

impl<B: HasBody> Roster<B> {
    /// The identity that the next one gets.
    pub(super) fn next(&self) -> u32 {
        self.next
    }

    /// Adds one whose identity is [`Roster::next`].
    pub(super) fn add(&mut self, body: B) {
        assert!(self.next < MOST, "a world gives no more than {MOST} identities of a kind");
        self.all.push(body);
        self.next += 1;
    }

    /// Where the body of an identity is among all, if it is there.
    #[inline]
    pub(super) fn slot(&self, identity: u32) -> Option<usize> {
        slot_of(self.all.len(), identity, |slot| self.all[slot].body().identity())
    }

    /// All of them again from bytes: identities must go up, and be below the next.
    pub(super) fn decode(
        from: &mut Source<'_>,
        mut take: impl FnMut(&mut Source<'_>) -> Option<B>,
    ) -> Option<Roster<B>> {
        let (next, count) = (u32::decode(from)?, usize::decode(from)?);
        let mut all: Vec<B> = Vec::new();
        for _ in 0..count {
            let body = take(from)?;
            let identity = body.body().identity();
            if all.last().is_some_and(|last: &B| last.body().identity() >= identity) || identity >= next {
                return None;
            }
            all.push(body);
        }
        (next < MOST).then_some(Roster { all, next })
    }

    /// Takes one out: those after it move up. Returns where it was.
    pub(super) fn remove(&mut self, identity: u32) -> Option<usize> {
        let slot = self.slot(identity)?;
        self.all.remove(slot);
        Some(slot)
    }

    /// Makes these the same as others, in the room there is; and room for the events of ticks to come.
    pub(super) fn copy_from(&mut self, other: &Roster<B>)
    where
        B: Clone,
    {
        self.all.clone_from(&other.all);
        self.next = other.next;
        self.all.iter_mut().for_each(|body| body.body_mut().make_room());
    }
}

impl<B> core::ops::Deref for Roster<B> {
    type Target = [B];
    #[inline]
    fn deref(&self) -> &[B] {
        &self.all
    }
}

impl<B> core::ops::DerefMut for Roster<B> {
    #[inline]
    fn deref_mut(&mut self) -> &mut [B] {
        &mut self.all
    }
}

/// Where among `count` identities that go up this one is.
#[inline]
pub(crate) fn slot_of(count: usize, identity: u32, identity_at: impl Fn(usize) -> u32) -> Option<usize> {
    // Where nothing was removed, every one is at its own number.
    let guess = identity as usize;
    if guess < count && identity_at(guess) == identity {
        return Some(guess);
    }
    let (mut first, mut end) = (0, count.min(guess));
    while first < end {
        let middle = first.midpoint(end);
        match identity_at(middle).cmp(&identity) {
            core::cmp::Ordering::Less => first = middle + 1,
            core::cmp::Ordering::Greater => end = middle,
            core::cmp::Ordering::Equal => return Some(middle),
        }
    }
    None
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_place_is_found_however_many_were_removed() {
        let left: Vec<u32> = (0..40).filter(|id| id % 3 != 0 && *id != 7).collect();
        for id in 0..45 {
            let expected = left.iter().position(|there| *there == id);
            assert_eq!(slot_of(left.len(), id, |slot| left[slot]), expected, "{id}");
        }
        assert_eq!(slot_of(0, 0, |_| 0), None);
    }
}
