//! A level in play, and what is come to in each tick of it.

use std::collections::HashMap;

use wumple_core::{Buttons, DVec2, Event, Grid, Round, RoundEvent, Support, Tuning};

use super::places::{Spot, Target, Top};
use crate::files::Level;
use crate::playing::{Playing, SavedPlaying};

/// A level that is played by one character: what the search and its proof by replay go by.
#[derive(Clone)]
pub(super) struct Run<'l> {
    pub(super) playing: Playing<&'l Grid>,
}

impl<'l> Run<'l> {
    pub(super) fn start(level: &'l Level, tuning: &Tuning, feet: DVec2) -> Result<Run<'l>, String> {
        let mut playing = Playing::start_at(level, tuning, feet)?;
        // A view that is only looked through changes nothing.
        playing.camera = playing.camera.filter(|_| level.camera.is_some_and(|camera| camera.deadly_behind));
        Ok(Run { playing })
    }

    pub(super) fn feet(&self) -> DVec2 {
        self.playing.report().feet
    }

    /// Towards the wall beside it, if there is one.
    pub(super) fn wall(&self) -> Option<Buttons> {
        let contacts = self.playing.report().contacts;
        match (contacts.left, contacts.right) {
            (true, _) => Some(Buttons { left: true, ..Buttons::NONE }),
            (_, true) => Some(Buttons { right: true, ..Buttons::NONE }),
            _ => None,
        }
    }

    /// Whether the round is over, if there is one.
    pub(super) fn is_over(&self) -> bool {
        self.playing.round.as_ref().is_some_and(Round::is_over)
    }

    pub(super) fn stands(&self) -> bool {
        self.playing.report().support != Support::None
    }

    pub(super) fn save(&self) -> SavedPlaying {
        self.playing.save()
    }

    pub(super) fn go_back(&mut self, saved: &SavedPlaying) {
        self.playing.go_back(saved);
    }

    /// One tick; whether it goes on. Whoever is defeated has come nowhere by it.
    pub(super) fn tick(&mut self, held: Buttons) -> bool {
        self.playing.tick(held, |_| {});
        let is_lost = |event: &RoundEvent| {
            matches!(event, RoundEvent::Defeated(_) | RoundEvent::Restarted(_) | RoundEvent::RoundLost)
        };
        let is_lost = |round: &Round| round.events().iter().any(is_lost);
        !self.playing.round.as_ref().is_some_and(is_lost) && !self.playing.is_gone()
    }

    /// Whether it came to a target in the last tick.
    pub(super) fn comes_to(&self, wanted: &Wanted<'_>, target: usize) -> bool {
        let mut comes = false;
        self.come_to(wanted, |index| comes |= index == target);
        comes
    }

    /// Calls `come` with every target that it came to in the last tick.
    pub(super) fn come_to(&self, wanted: &Wanted<'_>, mut come: impl FnMut(usize)) {
        let report = self.playing.report();
        let half = self.playing.character().tuning().body().half_width();
        let mut stands_on = |support| wanted.stood_on(support, report.feet, half, &mut come);
        if report.contacts.below {
            stands_on(report.support);
        }
        for event in &report.events {
            match event {
                // Who is thrown up at once was there all the same.
                Event::Bounced(support) => stands_on(*support),
                Event::Landed { .. } => stands_on(Support::Solid),
                _ => {}
            }
        }
        match &self.playing.round {
            None => {
                for event in &report.events {
                    if let Event::Entered(zone) = event {
                        wanted.zone(*zone, &mut come);
                    }
                }
            }
            Some(round) => {
                for event in round.events() {
                    match event {
                        RoundEvent::Took(zone) | RoundEvent::Reached(zone) => wanted.zone(*zone, &mut come),
                        RoundEvent::Finished => {
                            let entered = report.events.iter().filter_map(|event| match event {
                                Event::Entered(zone) => Some(*zone),
                                _ => None,
                            });
                            entered.for_each(|zone| wanted.zone(zone, &mut come));
                        }
                        _ => {}
                    }
                }
            }
        }
    }
}

/// The targets, to be found by what a tick reports.
pub(super) struct Wanted<'t> {
    zones: HashMap<wumple_core::ZoneId, usize>,
    platforms: HashMap<usize, usize>,
    /// By height in 1/1024 px, then from left to right.
    tops: Vec<(i64, &'t Top, usize)>,
    /// The width of the widest of them, px.
    widest: f64,
}

fn height_key(y: f64) -> i64 {
    (y * 1024.0).round() as i64
}

impl<'t> Wanted<'t> {
    pub(super) fn of(targets: &'t [Target]) -> Wanted<'t> {
        let mut wanted = Wanted { zones: HashMap::new(), platforms: HashMap::new(), tops: Vec::new(), widest: 0.0 };
        for (index, target) in targets.iter().enumerate() {
            match (&target.spot, target.zone) {
                (_, Some(zone)) => drop(wanted.zones.insert(zone, index)),
                (Spot::Top(top), _) => {
                    wanted.tops.push((height_key(top.y), top, index));
                    wanted.widest = wanted.widest.max(top.right - top.left);
                }
                (Spot::Platform { index: platform, .. }, _) => drop(wanted.platforms.insert(*platform, index)),
                _ => {}
            }
        }
        wanted.tops.sort_by(|(height, top, _), (other_height, other, _)| {
            height.cmp(other_height).then(top.left.total_cmp(&other.left))
        });
        wanted
    }

    fn zone(&self, zone: wumple_core::ZoneId, come: &mut impl FnMut(usize)) {
        self.zones.get(&zone).into_iter().for_each(|index| come(*index));
    }

    fn stood_on(&self, support: Support, feet: DVec2, half: f64, come: &mut impl FnMut(usize)) {
        if let Support::Platform(platform) = support {
            return self.platforms.get(&platform).into_iter().for_each(|index| come(*index));
        }
        let (height, left, right) = (height_key(feet.y), feet.x - half, feet.x + half);
        let end = self.tops.partition_point(|(other, top, _)| (*other, top.left) < (height, right));
        let near = |(other, top, _): &&(i64, &Top, usize)| *other == height && top.left > left - self.widest;
        for (_, top, index) in self.tops[..end].iter().rev().take_while(near) {
            if top.right > left {
                come(*index);
            }
        }
    }
}
