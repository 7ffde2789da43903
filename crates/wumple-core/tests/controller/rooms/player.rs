//! What a player would say of a run, whatever the room.

use wumple_core::{Buttons, DVec2, Event, Grid, State, Support, TickReport, Tuning, World};

/// For so many ticks nothing may go to and fro, or stand still, while the same buttons are held.
const LONG: usize = 10;

/// A run as it is watched: the rows since the buttons last changed.
pub(crate) struct Watch<'a> {
    grid: &'a Grid,
    /// Whether nothing moves in it but the body.
    still: bool,
    tuning: &'a Tuning,
    held: Buttons,
    rows: Vec<TickReport>,
}

fn stands(row: &TickReport) -> bool {
    matches!(row.state, State::Stand | State::Run)
}

impl<'a> Watch<'a> {
    pub(crate) fn new(grid: &'a Grid, still: bool, tuning: &'a Tuning, start: &TickReport) -> Watch<'a> {
        Watch { grid, still, tuning, held: Buttons::NONE, rows: vec![start.clone()] }
    }

    /// The next tick; what a player would find wrong with it.
    pub(crate) fn look(&mut self, held: Buttons, after: &TickReport) -> Result<(), String> {
        let before = self.rows.last().unwrap().clone();
        if held != self.held {
            self.rows.clear();
            self.held = held;
        }
        self.rows.push(after.clone());
        let told = [
            ("stands, and never landed", stands(after) && !stands(&before) && !is_arrival_told(after)),
            ("left the ground, and did not say so", stands(&before) && !stands(after) && !is_leaving_told(after)),
            ("bumped the head twice", bumped(&before) && bumped(after) && before.feet.y == after.feet.y),
            ("goes to and fro", self.goes_to_and_fro()),
            ("hangs in the air", self.hangs_in_the_air()),
            ("cannot get on, and nothing is in the way", self.is_held_up()),
            ("at rest, and moves", self.leaves_its_rest(&before, after)),
        ];
        match told.into_iter().find(|(_, so)| *so) {
            Some((what, _)) => Err(format!("{what} in tick {}: {before:?} {after:?} {held:?}", after.tick)),
            None => Ok(()),
        }
    }

    fn lately(&self) -> Option<&[TickReport]> {
        // The first two may still be the end of what was held before.
        (self.rows.len() >= LONG + 2).then(|| &self.rows[self.rows.len() - LONG..])
    }

    /// State or support change with every tick, and back. On what moves, and thrown about, a body may.
    fn goes_to_and_fro(&self) -> bool {
        let Some(rows) = self.lately() else { return false };
        let active = |row: &TickReport| {
            let thrown = |event: &Event| {
                matches!(event, Event::Jumped(_) | Event::Bounced(_) | Event::Crushed(_) | Event::Pushed(_))
            };
            // Against a platform that goes away before it, it comes every other tick.
            let moving_wall = !self.still && (row.contacts.left || row.contacts.right);
            row.support.mover().is_some() || moving_wall || row.events.iter().any(thrown)
        };
        let same = |one: &TickReport, other: &TickReport| (one.state, one.support) == (other.state, other.support);
        let climbs_aside = self.held.climbing() != 0.0 && self.held.steering() != 0.0;
        rows.windows(3).all(|three| same(&three[0], &three[2]) && !same(&three[0], &three[1]))
            && !rows.iter().any(active)
            && !climbs_aside
    }

    fn hangs_in_the_air(&self) -> bool {
        self.lately().is_some_and(|rows| {
            let hangs = |row: &TickReport| {
                row.state == State::Fall && row.velocity == DVec2::ZERO && row.feet == rows[0].feet && !is_crushed(row)
            };
            rows.iter().all(hangs)
        })
    }

    /// On unmoving ground with a direction held and a free way along it, for a long time at one place.
    fn is_held_up(&self) -> bool {
        let (Some(rows), Some(direction)) = (self.lately(), self.held.direction()) else { return false };
        if !self.still || self.held.steering().abs() < 1.0 {
            return false;
        }
        let now = &rows[LONG - 1];
        let waits = |row: &TickReport| {
            stands(row) && row.velocity == DVec2::ZERO && row.feet == now.feet && row.support.mover().is_none()
        };
        // Here and a little further on it would fit, at this height and as high up as the steepest slope lifts it.
        let by = direction.sign() * if self.tuning.moves_whole_pixels() { 1.0 } else { 0.5 };
        let fits = |along: f64, up: f64| {
            let feet = now.feet + DVec2::new(by * along, -up);
            World::new(self.grid).add_character(self.tuning.clone(), feet).is_ok()
        };
        let ups = [0.0, 0.5, 1.5, 3.0, 6.0];
        let free = || [0.0, 0.5, 1.0].iter().all(|along| ups.iter().all(|up| fits(*along, *up)));
        rows.iter().all(waits) && !is_touched(rows, direction) && free()
    }

    /// Nothing held, nothing moving: so it stays.
    fn leaves_its_rest(&self, before: &TickReport, after: &TickReport) -> bool {
        let rests = |row: &TickReport| row.state == State::Stand && row.velocity == DVec2::ZERO;
        let unmoving = !matches!(before.support, Support::Platform(_) | Support::Prop(_));
        self.held == Buttons::NONE
            && self.rows.len() > 3
            && rests(before)
            && unmoving
            && !after
                .events
                .iter()
                .any(|event| matches!(event, Event::Pushed(_) | Event::Crushed(_) | Event::Jumped(_)))
            && (before.feet, before.state) != (after.feet, after.state)
    }
}

fn is_touched(rows: &[TickReport], direction: wumple_core::Direction) -> bool {
    rows.iter().any(|row| match direction {
        wumple_core::Direction::Left => row.contacts.left,
        wumple_core::Direction::Right => row.contacts.right,
    })
}

fn bumped(row: &TickReport) -> bool {
    row.events.iter().any(|event| matches!(event, Event::BumpedHead | Event::ClimbStopped))
}

fn is_crushed(row: &TickReport) -> bool {
    row.events.iter().any(|event| matches!(event, Event::Crushed(_)))
}

fn is_arrival_told(row: &TickReport) -> bool {
    row.events.iter().any(|event| {
        matches!(
            event,
            Event::Landed { .. }
                | Event::Bounced(_)
                | Event::Caught(_)
                | Event::Crushed(_)
                | Event::LetGoOfLadder
                | Event::LetGoOfWall
        )
    })
}

fn is_leaving_told(row: &TickReport) -> bool {
    row.events.iter().any(|event| {
        matches!(
            event,
            Event::Jumped(_)
                | Event::Bounced(_)
                | Event::LostGround
                | Event::DroppedThrough
                | Event::TookLadder
                | Event::TookWall
                | Event::Crushed(_)
        )
    })
}
