//! A round, tick by tick.

use alloc::sync::Arc;
use alloc::vec::Vec;

use super::event::{DefeatCause, Lack, RestartAt, RoundEvent};
use super::gained::Gained;
use super::rules::{AfterDefeat, DefeatMotion, RoundRules};
use super::saved::{Mark, Phase, SavedRound};
use crate::camera::{Camera, ViewEvent};
use crate::space::float::gate_ticks;
use crate::terrain::{Terrain, ZoneId, ZoneKind};
use crate::tick::{Character, CharacterId, Event, World, go_back, let_fall, rest_at, rest_below, save_to_go_back};

/// What should follow from a tick. [`Round::apply`] does it; a game may do something else.
#[derive(Clone, Debug, Default, PartialEq)]
#[non_exhaustive]
pub struct Follows {
    /// Pickups that were taken and gates that opened: they should be there no longer.
    pub taken_away: Vec<ZoneId>,
    /// What should come next.
    pub next: Next,
}

/// What should come after a tick.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
#[non_exhaustive]
pub enum Next {
    /// The next tick.
    #[default]
    GoOn,
    /// The character was defeated, and should move so while that is shown.
    ShowDefeat(DefeatMotion),
    /// The world should be what it was there.
    Restart(RestartAt),
    /// The goal was reached: the round is over.
    Finish,
    /// No life is left, or nothing follows a defeat: the round is over.
    End,
}

/// What follows from what a character meets, beside its world.
///
/// After each tick of the world it looks at what was met: first pickups are taken, then gates open, checkpoints are reached, goals and
/// hazards count in the order in which they were met, then deadly edges and crushes. The order and every rule are in
/// `docs/model.md` of the repository.
///
/// ```
/// use wumple_core::rounds::Need;
/// use wumple_core::{
///     Buttons, DVec2, Edges, Grid, Round, RoundNumbers, RoundRules, TileProperties, Tuning, TuningNumbers, World, ZoneKind,
/// };
///
/// let kinds = [TileProperties::EMPTY, TileProperties::SOLID]
///     .into_iter()
///     .chain([ZoneKind::Pickup, ZoneKind::Goal].map(TileProperties::zone));
/// let kinds: Vec<TileProperties> = kinds.collect();
/// let map = Grid::new(5, vec![0, 0, 2, 0, 3, 1, 1, 1, 1, 1], 32.0, &kinds, Edges::default())?;
/// # let tuning = Tuning::check(&TuningNumbers::new(10.0, 22.0, 120.0).with_jump(54.0, 0.35))?;
/// let mut world = World::new(map);
/// let dab = world.add_character(tuning, DVec2::new(16.0, 32.0))?;
/// let rules = RoundRules::check(&RoundNumbers { goal_needs: Some(Need::Pickups(1)), ..RoundNumbers::default() })?;
/// let mut round = Round::new(rules, &world, dab);
///
/// let mut told = Vec::new();
/// while !round.is_over() {
///     world.tick(&[Buttons { right: true, ..Buttons::NONE }]);
///     round.play(&mut world, dab);
///     told.extend(round.events().iter().map(ToString::to_string));
/// }
/// assert_eq!(told, ["took:pickup@2,0", "finished"]);
/// # Ok::<(), Box<dyn core::error::Error>>(())
/// ```
#[derive(Clone, Debug, PartialEq)]
pub struct Round {
    rules: Arc<RoundRules>,
    /// For how many ticks nothing hurts after damage, and a defeat is shown.
    spared_for: u64,
    shows_for: u64,
    pub(super) state: SavedRound,
    /// Whether nothing could hurt in the last tick.
    was_spared: bool,
    events: Vec<RoundEvent>,
    follows: Follows,
}

impl Round {
    /// A round that begins now: where it starts again is as the world is now.
    ///
    /// # Panics
    ///
    /// If the character is not in this world.
    #[must_use]
    pub fn new<T: Terrain>(rules: RoundRules, world: &World<T>, id: CharacterId) -> Round {
        let rate = world.character(id).tuning().rate();
        let numbers = rules.numbers();
        let start = Mark::of(world, &Gained::default());
        let state = SavedRound::at_start(numbers, start, rules.hash());
        let (spared_for, shows_for) = (gate_ticks(numbers.spared_for, rate), gate_ticks(numbers.shows_for, rate));
        let (events, follows) =
            (Vec::with_capacity(8), Follows { taken_away: Vec::with_capacity(8), next: Next::GoOn });
        Round { rules: Arc::new(rules), spared_for, shows_for, state, was_spared: false, events, follows }
    }

    /// After a tick of the world: looks at what its character met, and does what follows to both. This is
    /// [`Round::after_tick`] and [`Round::apply`] in one.
    ///
    /// # Panics
    ///
    /// If the character is not in this world.
    pub fn play<T: Terrain>(&mut self, world: &mut World<T>, id: CharacterId) {
        self.after_tick(world, id);
        self.apply(world, id);
    }

    /// The same in a game whose view follows the character: first the camera follows it, and where it tells that the character died
    /// of being left behind, that is a defeat. Where the round starts again, the camera looks at the character anew.
    ///
    /// # Panics
    ///
    /// If the character is not in this world.
    pub fn play_in_view<T: Terrain>(&mut self, world: &mut World<T>, id: CharacterId, camera: &mut Camera) {
        camera.follow(world.character(id));
        self.after_tick(world, id);
        if camera.events().any(|event| event == ViewEvent::Died) {
            self.defeat_by(DefeatCause::View);
        }
        let is_cut = matches!(self.follows.next, Next::Restart(_));
        self.apply(world, id);
        if is_cut {
            camera.look_at(world.character(id));
        }
    }

    /// Between [`Round::after_tick`] and [`Round::apply`]: the character is defeated by something that the world does not know. If
    /// something else follows from the tick already, or the round is not being played, nothing comes of it.
    pub fn defeat_by(&mut self, cause: DefeatCause) -> &Follows {
        if self.state.phase == Phase::Playing && self.follows.next == Next::GoOn {
            self.defeat(cause);
        }
        &self.follows
    }

    /// After a tick of the world: looks at what its character met, and says what should follow. The world is left as it is.
    ///
    /// # Panics
    ///
    /// If the character is not in this world.
    pub fn after_tick<T: Terrain>(&mut self, world: &World<T>, id: CharacterId) -> &Follows {
        self.events.clear();
        self.follows.taken_away.clear();
        self.follows.next = Next::GoOn;
        self.was_spared = false;
        match self.state.phase {
            Phase::Playing => self.look(world, id),
            Phase::Defeated { left } if left > 1 => self.state.phase = Phase::Defeated { left: left - 1 },
            Phase::Defeated { .. } => self.end_defeat(),
            Phase::Finished | Phase::Ended => {}
        }
        &self.follows
    }

    /// Does to the world what should follow from the last tick.
    ///
    /// # Panics
    ///
    /// If the character is not in this world.
    pub fn apply<T: Terrain>(&mut self, world: &mut World<T>, id: CharacterId) {
        for zone in self.follows.taken_away.drain(..) {
            world.things().take_away(zone);
        }
        match core::mem::take(&mut self.follows.next) {
            Next::ShowDefeat(DefeatMotion::Stops) => world.hold_still(id, true),
            Next::ShowDefeat(motion) => let_fall(world, id, motion == DefeatMotion::FallsThrough),
            Next::Restart(at) => self.restart(world, id, at),
            Next::GoOn | Next::Finish | Next::End => {}
        }
    }

    fn restart<T: Terrain>(&self, world: &mut World<T>, id: CharacterId, at: RestartAt) {
        let mark = self.state.mark(at);
        // What was taken before is away in the world that was saved; what was taken since stays so if it is kept.
        let taken = self.state.gained.taken.iter().copied();
        go_back(world, &mark.world, id, taken.filter(|zone| zone.kind == ZoneKind::Pickup));
        if let (RestartAt::Checkpoint, Some(checkpoint)) = (at, self.state.reached) {
            rest_below(world, id, checkpoint);
        }
    }

    /// What happened in the last tick, in order.
    #[must_use]
    pub fn events(&self) -> &[RoundEvent] {
        &self.events
    }

    /// Its rules.
    #[must_use]
    pub fn rules(&self) -> &RoundRules {
        &self.rules
    }

    /// Which attempt this is, from 1.
    #[must_use]
    pub fn attempt(&self) -> u32 {
        self.state.attempt
    }

    /// How much damage is still borne; `None` if there is no health.
    #[must_use]
    pub fn health(&self) -> Option<u32> {
        self.state.health
    }

    /// How many lives are left, the present one among them; `None` if they are without end.
    #[must_use]
    pub fn lives(&self) -> Option<u32> {
        self.state.lives
    }

    /// What the pickups taken are worth together.
    #[must_use]
    pub fn picked(&self) -> u32 {
        self.state.gained.picked
    }

    /// What was taken, in order.
    #[must_use]
    pub fn taken(&self) -> &[ZoneId] {
        &self.state.gained.taken
    }

    /// The gates that are open, in order.
    #[must_use]
    pub fn open_gates(&self) -> &[ZoneId] {
        &self.state.gained.open
    }

    /// How many of an item are had.
    #[must_use]
    pub fn count_of(&self, item: super::Item) -> u32 {
        self.state.gained.left_of(item, &self.rules)
    }

    /// The checkpoint that was reached last.
    #[must_use]
    pub fn checkpoint(&self) -> Option<ZoneId> {
        self.state.reached
    }

    /// For how many ticks more nothing hurts.
    #[must_use]
    pub fn spared(&self) -> u64 {
        self.state.spared
    }

    /// Whether it was spared in the last tick, or is from the next on: for what shows it. Of something that hurts again as soon as it
    /// can, it is so without a break.
    #[must_use]
    pub fn is_spared(&self) -> bool {
        self.was_spared || self.state.spared > 0
    }

    /// Whether a defeat is being shown, or was the end.
    #[must_use]
    pub fn is_defeated(&self) -> bool {
        matches!(self.state.phase, Phase::Defeated { .. } | Phase::Ended)
    }

    /// Whether the goal was reached.
    #[must_use]
    pub fn is_finished(&self) -> bool {
        self.state.phase == Phase::Finished
    }

    /// Whether it is over, by the goal or by a defeat: nothing follows from anything any more.
    #[must_use]
    pub fn is_over(&self) -> bool {
        matches!(self.state.phase, Phase::Finished | Phase::Ended)
    }

    /// All of it that ticks change, to be saved beside the world.
    #[must_use]
    pub fn save(&self) -> SavedRound {
        self.state.clone()
    }

    /// Makes it again what it was when it was saved. The world is restored by itself. What happened in the tick before is not told
    /// again.
    pub fn restore(&mut self, saved: &SavedRound) {
        self.state.clone_from(saved);
        self.was_spared = false;
        self.events.clear();
        self.follows.taken_away.clear();
        self.follows.next = Next::GoOn;
    }

    /// Goes on where a player left off, before the first tick: with what was taken, at a checkpoint, with so many lives. What
    /// cannot be is left out: zones that are not taken by being met, a checkpoint at which nobody can be, more lives than there
    /// are. Where it starts again is there.
    ///
    /// # Panics
    ///
    /// If the character is not in this world.
    pub fn resume<T: Terrain>(
        &mut self,
        world: &mut World<T>,
        id: CharacterId,
        taken: &[ZoneId],
        checkpoint: Option<ZoneId>,
        lives: Option<u32>,
    ) {
        for zone in taken.iter().copied().filter(|zone| self.rules.is_taken(*zone)) {
            let is_pickup = zone.kind == ZoneKind::Pickup;
            self.state.gained.take(zone, if is_pickup { self.rules.of(zone).worth } else { 0 });
            if is_pickup {
                world.things().take_away(zone);
            }
        }
        if let (Some(all), Some(lives)) = (self.rules.numbers().lives, lives) {
            self.state.lives = Some(lives.clamp(1, all));
        }
        if let Some(zone) = checkpoint.filter(|zone| rest_at(world, id, *zone)) {
            self.state.reached = Some(zone);
            self.state.checkpoint = Some(Mark::of(world, &self.state.gained));
        }
    }

    /// A tick in which it is played.
    fn look<T: Terrain>(&mut self, world: &World<T>, id: CharacterId) {
        let character = world.character(id);
        let is_spared = self.state.spared > 0;
        self.was_spared = is_spared;
        self.state.spared = self.state.spared.saturating_sub(1);
        // Without an event there is nothing new to be taken or opened.
        if self.state.begins || !character.report().events.is_empty() {
            self.state.begins = false;
            self.take(character);
            self.open_gates_of(character);
            self.reach(world, character);
        }
        self.meet(character, is_spared);
        if self.follows.next == Next::GoOn {
            self.mind_the_end(character);
        }
    }

    /// Takes what can be; what one gives, another may need.
    fn take(&mut self, character: &Character) {
        loop {
            let before = self.state.gained.taken.len();
            for zone in felt(character) {
                let rule = self.rules.of(zone);
                let gained = &mut self.state.gained;
                if !self.rules.is_taken(zone)
                    || gained.has_taken(zone)
                    || gained.lacks(rule.needs, &self.rules).is_some()
                {
                    continue;
                }
                let is_pickup = zone.kind == ZoneKind::Pickup;
                gained.take(zone, if is_pickup { rule.worth } else { 0 });
                self.events.push(RoundEvent::Took(zone));
                if is_pickup {
                    self.follows.taken_away.push(zone);
                }
            }
            if self.state.gained.taken.len() == before {
                return;
            }
        }
    }

    /// Opens every gate that has what it needs. One that uses that up must be touched: whoever has one key chooses the door.
    fn open_gates_of(&mut self, character: &Character) {
        for gate in self.rules.gates() {
            let (rule, gained) = (self.rules.of(*gate), &mut self.state.gained);
            let is_asked = !rule.takes || felt(character).any(|zone| zone == *gate);
            if !is_asked || gained.is_open(*gate) || gained.lacks(rule.needs, &self.rules).is_some() {
                continue;
            }
            gained.open(*gate);
            self.events.push(RoundEvent::Opened(*gate));
            self.follows.taken_away.push(*gate);
        }
    }

    /// The checkpoint that was entered last is where it starts again.
    fn reach<T: Terrain>(&mut self, world: &World<T>, character: &Character) {
        let is_new = |zone: &ZoneId| zone.kind == ZoneKind::Checkpoint && Some(*zone) != self.state.reached;
        let Some(zone) = entered(character).filter(is_new).last() else { return };
        self.events.push(RoundEvent::Reached(zone));
        self.state.reached = Some(zone);
        let SavedRound { checkpoint, gained, .. } = &mut self.state;
        match checkpoint.as_mut().and_then(|mark| Some((Arc::get_mut(&mut mark.world)?, &mut mark.gained))) {
            Some((saved, kept)) => {
                save_to_go_back(world, saved, &self.follows.taken_away);
                kept.copy_from(gained);
            }
            None => {
                let mut mark = Mark::of(world, gained);
                if let Some(saved) = Arc::get_mut(&mut mark.world) {
                    save_to_go_back(world, saved, &self.follows.taken_away);
                }
                *checkpoint = Some(mark);
            }
        }
    }

    /// Goals and hazards in the order in which they were met. Damage is taken once, the greatest.
    fn meet(&mut self, character: &Character, is_spared: bool) {
        let mut hurt: Option<(ZoneId, u32)> = None;
        let was_in = |kind| stayed_in(character).filter(move |zone| zone.kind == kind).map(|zone| (zone, false));
        let in_order = was_in(ZoneKind::Goal).chain(was_in(ZoneKind::Hazard));
        for (zone, is_new) in in_order.chain(entered(character).map(|zone| (zone, true))) {
            match zone.kind {
                ZoneKind::Hazard if !is_spared => {
                    let damage = self.rules.of(zone).damage;
                    if hurt.is_none_or(|(_, most)| damage > most) {
                        hurt = Some((zone, damage));
                    }
                }
                ZoneKind::Goal => {
                    if hurt.is_some_and(|(_, damage)| self.state.health.is_none_or(|health| health <= damage)) {
                        break;
                    }
                    match self.lacks_of_goal(zone) {
                        None => {
                            self.be_hurt(hurt);
                            return self.finish();
                        }
                        Some(lack) if is_new => self.events.push(RoundEvent::GoalClosed(lack)),
                        Some(_) => {}
                    }
                }
                _ => {}
            }
        }
        self.be_hurt(hurt);
    }

    fn lacks_of_goal(&self, goal: ZoneId) -> Option<Lack> {
        let (gained, rules) = (&self.state.gained, &self.rules);
        let own = gained.lacks(rules.of(goal).needs, rules);
        own.or_else(|| gained.lacks(rules.numbers().goal_needs, rules))
    }

    fn be_hurt(&mut self, hurt: Option<(ZoneId, u32)>) {
        let Some((by, damage)) = hurt else { return };
        if let Some(health) = &mut self.state.health {
            let damage = damage.min(*health);
            *health -= damage;
            self.events.push(RoundEvent::Hurt { by, damage });
            if *health > 0 {
                self.state.spared = self.spared_for;
                return;
            }
        }
        self.defeat(DefeatCause::Zone(by));
    }

    /// Deadly edges, and crushes that last longer than a body is spared.
    fn mind_the_end(&mut self, character: &Character) {
        let events = &character.report().events;
        let edge = events.iter().find_map(|event| match event {
            Event::Died(side) => Some(DefeatCause::Edge(*side)),
            Event::OutOfBounds => Some(DefeatCause::Lost),
            _ => None,
        });
        let is_crushed = events.iter().any(|event| matches!(event, Event::Crushed(_) | Event::CrushedByTerrain));
        self.state.crushed = if is_crushed { self.state.crushed + 1 } else { 0 };
        let crushed = (self.state.crushed > self.spared_for).then_some(DefeatCause::Crush);
        if let Some(cause) = edge.or(crushed) {
            self.defeat(cause);
        }
    }

    fn finish(&mut self) {
        self.events.push(RoundEvent::Finished);
        (self.state.phase, self.follows.next) = (Phase::Finished, Next::Finish);
    }

    fn defeat(&mut self, cause: DefeatCause) {
        self.events.push(RoundEvent::Defeated(cause));
        self.state.lives = self.state.lives.map(|lives| lives.saturating_sub(1));
        (self.was_spared, self.state.spared, self.state.crushed) = (false, 0, 0);
        self.state.phase = Phase::Defeated { left: self.shows_for };
        self.follows.next = Next::ShowDefeat(self.rules.numbers().defeat);
        if self.shows_for == 0 {
            self.end_defeat();
        }
    }

    /// A defeat has been shown for long enough.
    fn end_defeat(&mut self) {
        let numbers = self.rules.numbers();
        let is_lost = self.state.lives == Some(0);
        if is_lost || numbers.after_defeat == AfterDefeat::Nothing {
            if is_lost {
                self.events.push(RoundEvent::RoundLost);
            }
            (self.state.phase, self.follows.next) = (Phase::Ended, Next::End);
            return;
        }
        let at = match (numbers.after_defeat, self.state.reached) {
            (AfterDefeat::Checkpoint, Some(_)) => RestartAt::Checkpoint,
            _ => RestartAt::Start,
        };
        self.state.start_again(at, numbers);
        self.events.push(RoundEvent::Restarted(at));
        self.follows.next = Next::Restart(at);
    }
}

/// The zones that a character entered in the last tick, in the order in which they were met.
fn entered(character: &Character) -> impl Iterator<Item = ZoneId> + '_ {
    character.report().events.iter().filter_map(|event| match event {
        Event::Entered(zone) => Some(*zone),
        _ => None,
    })
}

/// Those in which it has been since before.
fn stayed_in(character: &Character) -> impl Iterator<Item = ZoneId> + '_ {
    character.zones().iter().copied().filter(|zone| !entered(character).any(|other| other == *zone))
}

/// Those that it felt in the last tick: in which it is, and that it entered on its way.
fn felt(character: &Character) -> impl Iterator<Item = ZoneId> + '_ {
    stayed_in(character).chain(entered(character))
}
