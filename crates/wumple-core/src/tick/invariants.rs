use core::fmt;

use super::queries::in_scene;
use super::scene::{Scene, asker_of};
use super::{Character, Event, LIMIT_PLACE, State, World};
use crate::collide::{Cells, Surroundings};
use crate::nearby::{PieceId, Support};
use crate::platforms::{MoverId, Movers};
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

/// The first thing that must hold for anyone of a world, and does not.
pub(super) fn first_violation<T: Terrain>(world: &World<T>) -> Option<(Violation, &Character)> {
    world.bodies.all().find_map(|body| {
        let asker = asker_of(body, world.tick, &world.presence);
        let violation = in_scene(world, asker, |scene| body.violation(&scene))?;
        Some((violation, body))
    })
}

impl Character {
    /// The first thing that must hold for this character, and does not.
    fn violation<T: Terrain>(&self, scene: &Scene<'_, T>) -> Option<Violation> {
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
        if self.cells != Cells::of(scene.terrain.grid_lines(), body, feet) {
            return Some(Violation::Cells);
        }
        // What came upon a body that is held still is seen to when it goes on.
        if self.outside.holds_still() {
            return None;
        }
        let around = self.surroundings(scene);
        // Through a body that was said to be crushed, platforms may pass; terrain never.
        if report.events.contains(&Event::CrushedByTerrain) {
            return None;
        }
        let crushed = report.events.iter().any(|event| matches!(event, Event::Crushed(_)));
        let movers = if crushed || self.is_prop() { &Movers::none() } else { scene.movers };
        // Characters pass through each other where one of them is crushed.
        let overlapped = Surroundings { movers, ..self.surroundings(scene) }.overlapped(feet);
        if !matches!(overlapped, None | Some(PieceId::Mover(MoverId::Character(_)))) {
            return Some(Violation::Overlap);
        }
        // What stands on a prop moved after it, and may have come to it since. What the game did between two ticks is
        // seen to in the next.
        if self.is_prop() || self.outside.has_changed_it() {
            return None;
        }
        if self.is_seen_from_above() {
            let fits = matches!(report.state, State::Stand | State::Run) && report.support == Support::None;
            return (!fits).then_some(Violation::State);
        }
        let free = !self.mode.climbs();
        let floor =
            around.first_floor_after(report.support, feet.x, feet.y, feet.y).filter(|_| velocity.y >= 0.0 && free);
        let support = floor.map_or(Support::None, |floor| floor.support);
        // A character that moved later may have gone from beneath, or come there.
        if [support, report.support].iter().any(|support| matches!(support, Support::Character(_))) {
            return None;
        }
        let supported = support != Support::None;
        if support != report.support || supported != report.contacts.below {
            return Some(Violation::Support);
        }
        let fits = match report.state {
            State::Stand => supported && velocity == glam::DVec2::ZERO,
            State::Run => supported && velocity.x != 0.0 && velocity.y == 0.0,
            State::Rise => !supported && velocity.y < 0.0,
            State::Fall => !supported && velocity.y >= 0.0,
            State::WallSlide => {
                let touched = report.contacts.left || report.contacts.right;
                !supported && velocity.y >= 0.0 && touched && self.tuning().wall().slide.is_some()
            }
            State::WallHold => !supported && self.tuning().wall().hold.is_some(),
            State::Fly => !supported && self.tuning().flight().is_some(),
            State::Ladder => !supported && self.tuning().ladder().is_some(),
        };
        (!fits).then_some(Violation::State)
    }
}
