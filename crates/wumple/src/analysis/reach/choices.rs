//! Which buttons are worth trying.

use wumple_core::numbers::DropRule;
use wumple_core::{Buttons, State, Support, Surface, Terrain, Tuning};

use super::run::Run;

/// Which buttons are of use.
pub(super) struct Choices {
    pub(super) jumps: bool,
    pub(super) air_jumps: bool,
    pub(super) wall_jumps: bool,
    /// For so many ticks a jump is admitted beyond an edge.
    pub(super) coyote: u16,
    climbs: bool,
    holds: bool,
    drops: DropRule,
    four_ways: bool,
}

impl Choices {
    pub(super) fn of(start: &Run<'_>, tuning: &Tuning) -> Choices {
        let numbers = tuning.numbers();
        let grid = start.playing.world.terrain();
        let has_ladder =
            (0..grid.rows()).any(|row| (0..grid.columns()).any(|column| grid.surface(column, row) == Surface::Ladder));
        let hold = numbers.wall.as_ref().and_then(|wall| wall.hold.as_ref());
        Choices {
            coyote: tuning.coyote_ticks().min(1000) as u16,
            air_jumps: tuning.air_jumps() > 0,
            wall_jumps: numbers.wall.as_ref().is_some_and(|wall| wall.jump.is_some()),
            jumps: numbers.jump.is_some()
                || numbers.flight.is_some()
                || numbers.wall.as_ref().is_some_and(|wall| wall.jump.is_some()),
            climbs: has_ladder && numbers.ladder.is_some(),
            holds: hold.is_some(),
            drops: numbers.drop,
            four_ways: numbers.four_way.is_some(),
        }
    }

    /// What is worth trying in a leap: on in its direction, with the button up or down.
    pub(super) fn onward(&self, before: Buttons) -> Vec<Buttons> {
        let ahead = Buttons { left: before.left, right: before.right, ..Buttons::NONE };
        vec![Buttons { jump: true, ..ahead }, ahead]
    }

    /// What is worth trying from a state.
    pub(super) fn from(&self, run: &Run<'_>) -> Vec<Buttons> {
        const NONE: Buttons = Buttons::NONE;
        const RIGHT: Buttons = Buttons { right: true, ..NONE };
        const LEFT: Buttons = Buttons { left: true, ..NONE };
        let report = run.playing.report();
        let mut all = vec![RIGHT, LEFT, NONE];
        if self.four_ways {
            for sideways in [RIGHT, LEFT, NONE] {
                all.push(Buttons { up: true, ..sideways });
                all.push(Buttons { down: true, ..sideways });
            }
            return all;
        }
        if self.jumps {
            all.extend([RIGHT, LEFT, NONE].map(|sideways| Buttons { jump: true, ..sideways }));
        }
        let vertical = |up: bool| Buttons { up, down: !up, ..NONE };
        if self.climbs {
            all.extend([vertical(true), vertical(false)]);
        }
        let is_thin = matches!(report.support, Support::OneWay | Support::Platform(_) | Support::Ladder);
        match self.drops {
            DropRule::DownAndJump if is_thin => all.push(Buttons { down: true, jump: true, ..NONE }),
            DropRule::Down if is_thin => all.push(vertical(false)),
            _ => {}
        }
        let at_wall = report.contacts.left || report.contacts.right || report.state == State::WallHold;
        if self.holds && at_wall {
            let towards = if report.contacts.left { LEFT } else { RIGHT };
            for held in [vertical(true), vertical(false), towards, Buttons { up: true, ..towards }] {
                all.push(Buttons { grab: true, ..held });
            }
            all.push(Buttons { up: true, ..towards });
        }
        all
    }
}
