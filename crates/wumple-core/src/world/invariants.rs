use core::fmt;

use super::{Character, LIMIT_PLACE, State, Support};
use crate::sweep::{Cells, overlapped, stands_on_solid};
use crate::terrain::Terrain;
use crate::tuning::LIMIT_SPEED;

/// Something that must hold between two ticks, and does not: a defect of this crate.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
#[non_exhaustive]
pub enum Violation {
    /// A hitbox overlaps something solid.
    Overlap,
    /// A place or a speed is not a number or beyond its limit.
    OutOfRange,
    /// The state does not fit the speeds and the support.
    State,
    /// The support reported is not under the feet.
    Support,
    /// The tiles noted as overlapped are not those that the hitbox overlaps.
    Cells,
}

impl fmt::Display for Violation {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.write_str(match self {
            Violation::Overlap => "a hitbox overlaps something solid",
            Violation::OutOfRange => "a place or speed is not a number or beyond its limit",
            Violation::State => "the state does not fit the speeds and the support",
            Violation::Support => "the support is not under the feet",
            Violation::Cells => "the tiles noted are not those that the hitbox overlaps",
        })
    }
}

impl Character {
    /// The first thing that must hold for this character, and does not.
    pub(super) fn violation<T: Terrain>(&self, terrain: &T) -> Option<Violation> {
        let report = self.report();
        let (feet, velocity, body) = (report.feet, report.velocity, self.tuning().body());
        if self.has_ended() {
            return None;
        }
        let near = |value: f64, limit: f64| value.abs() <= limit;
        let placed = near(feet.x, LIMIT_PLACE) && near(feet.y, LIMIT_PLACE);
        if !placed || !near(velocity.x, LIMIT_SPEED) || !near(velocity.y, LIMIT_SPEED) {
            return Some(Violation::OutOfRange);
        }
        if *self.cells() != Cells::of(terrain.lattice(), body, feet) {
            return Some(Violation::Cells);
        }
        if overlapped(terrain, body, feet).is_some() {
            return Some(Violation::Overlap);
        }
        let supported = stands_on_solid(terrain, feet, &Cells::of(terrain.lattice(), body, feet)) && velocity.y >= 0.0;
        if supported != (report.support != Support::None) || supported != report.contacts.below {
            return Some(Violation::Support);
        }
        let fits = match report.state {
            State::Stand => supported && velocity == glam::DVec2::ZERO,
            State::Run => supported && velocity.x != 0.0 && velocity.y == 0.0,
            State::Rise => !supported && velocity.y < 0.0,
            State::Fall => !supported && velocity.y >= 0.0,
        };
        (!fits).then_some(Violation::State)
    }
}
