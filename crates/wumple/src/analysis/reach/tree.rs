//! The states that a search came to, each from another; and the ways through them.

use std::collections::HashMap;
use std::rc::Rc;

use wumple_core::{Buttons, DVec2};

use super::run::{Run, Wanted};
use super::way::Way;
use crate::files::Timeline;

/// A state that was come to: from which, with what held for how many ticks. `leap`: of a flight that began at an edge, which one; such flights are not
/// alike to others that began a little nearer.
pub(super) struct Node {
    parent: u32,
    pub(super) held: Buttons,
    ticks: u16,
    pub(super) depth: u32,
    pub(super) leap: u64,
}

/// How a target was come to: from a state, with what held, in which tick of that.
#[derive(Clone, Copy)]
pub(super) struct Last {
    pub(super) from: u32,
    pub(super) held: Buttons,
    pub(super) ticks: u16,
}

/// The states, the start first.
pub(super) struct Tree {
    nodes: Vec<Node>,
}

/// What is gone on to from a state.
#[derive(Default)]
struct Onward {
    nodes: Vec<u32>,
    targets: Vec<usize>,
}

impl Tree {
    pub(super) fn from_start() -> Tree {
        Tree { nodes: vec![Node { parent: 0, held: Buttons::NONE, ticks: 0, depth: 0, leap: 0 }] }
    }

    pub(super) fn len(&self) -> usize {
        self.nodes.len()
    }

    pub(super) fn node(&self, at: u32) -> &Node {
        &self.nodes[at as usize]
    }

    /// The state that is come to from another with this held.
    pub(super) fn add(&mut self, parent: u32, held: Buttons, ticks: u16, leap: u64) -> u32 {
        let depth = self.node(parent).depth + u32::from(ticks);
        self.nodes.push(Node { parent, held, ticks, depth, leap });
        self.nodes.len() as u32 - 1
    }

    /// What is held on the way to a target.
    fn held(&self, last: Last) -> Timeline {
        let mut parts = vec![(last.held, last.ticks)];
        let mut at = last.from;
        while at != 0 {
            let Node { parent, held, ticks, .. } = *self.node(at);
            parts.push((held, ticks));
            at = parent;
        }
        let (mut timeline, mut tick) = (Timeline::default(), 0);
        for (held, ticks) in parts.into_iter().rev() {
            timeline.record(tick + 1, held);
            tick += u64::from(ticks);
        }
        timeline
    }

    /// The ways to the targets, run again from the start; none where that does not come there. What several of them begin with is
    /// run once.
    pub(super) fn run_again(&self, start: &Run<'_>, wanted: &Wanted<'_>, found: &[Option<Last>]) -> Vec<Option<Way>> {
        let onward = self.onward(found);
        let mut ways: Vec<Option<Way>> = found.iter().map(|_| None).collect();
        let mut run = start.clone();
        let mut path: Vec<DVec2> = vec![run.feet()];
        let mut waiting = vec![(0, Rc::new(run.save()))];
        while let Some((at, before)) = waiting.pop() {
            let Node { parent, held, ticks, .. } = *self.node(at);
            run.go_back(&before);
            path.truncate(self.node(parent).depth as usize + 1);
            let goes_on = (0..ticks).all(|_| {
                run.tick(held) && !run.is_over() && {
                    path.push(run.feet());
                    true
                }
            });
            let Some(Onward { nodes, targets }) = onward.get(&at).filter(|_| goes_on) else { continue };
            let here = Rc::new(run.save());
            for target in targets {
                let Some(last) = found[*target] else { continue };
                run.go_back(&here);
                path.truncate(self.node(at).depth as usize + 1);
                let goes_on = (0..last.ticks).all(|_| {
                    run.tick(last.held) && {
                        path.push(run.feet());
                        true
                    }
                });
                ways[*target] = (goes_on && run.comes_to(wanted, *target))
                    .then(|| Way { held: self.held(last), path: path.clone() });
            }
            waiting.extend(nodes.iter().map(|next| (*next, here.clone())));
        }
        ways
    }

    /// By state: what is gone on to on the ways to what was found.
    fn onward(&self, found: &[Option<Last>]) -> HashMap<u32, Onward> {
        let mut onward: HashMap<u32, Onward> = HashMap::new();
        for (target, last) in found.iter().enumerate() {
            let Some(Last { from, .. }) = *last else { continue };
            let mut at = from;
            let mut is_new = !onward.contains_key(&at);
            onward.entry(at).or_default().targets.push(target);
            while is_new && at != 0 {
                let parent = self.node(at).parent;
                is_new = !onward.contains_key(&parent);
                onward.entry(parent).or_default().nodes.push(at);
                at = parent;
            }
        }
        onward
    }
}
