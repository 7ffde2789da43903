//! Rounds in random rooms: what must hold whatever is met.

use std::collections::BTreeSet;

use crate::rooms::{buttons, cases, full_grid, full_tuning, places};
use proptest::prelude::*;
use wumple_core::advanced::Violation;
use wumple_core::camera::{Camera, CameraNumbers, Follow};
use wumple_core::rounds::{AfterDefeat, DefeatCause, DefeatMotion, Item, Lack, Need, RestartAt, ZoneRule};
use wumple_core::{
    CharacterId, DVec2, DrawnZone, Event, Grid, Hitbox, PlatformNumbers, Platforms, Round, RoundEvent, RoundNumbers,
    RoundRules, Saved, Terrain, Tuning, World, Zone, ZoneId, ZoneKind, ZoneOf,
};

/// A room with zones all over it, and blocks that are gates.
#[derive(Clone, Debug)]
struct Room {
    grid: Grid,
    platforms: Vec<PlatformNumbers>,
    tuning: Tuning,
    numbers: RoundNumbers,
    seed: u32,
}

fn room() -> impl Strategy<Value = Room> {
    let zone = (0..6usize, 0.0..1.0f64, 0.0..1.0f64, 4.0..50.0f64, 4.0..50.0f64);
    let rule = (1..4u32, 0..3u32, any::<u8>());
    let zones = prop::collection::vec((zone, rule.clone()), 2..14);
    let gates = prop::collection::vec(rule, 4);
    let of_round = (
        prop::option::of(1..5u32),
        prop::option::of(1..5u32),
        (0.0..0.6f64, 0.0..0.4f64),
        0..3usize,
        0..3usize,
        any::<u8>(),
    );
    let platform = (0.0..1.0f64, 0.0..1.0f64, -80.0..80.0f64, -80.0..80.0f64, 10.0..90.0f64);
    let platforms = prop::collection::vec(platform, 0..3);
    (full_grid(), full_tuning(), zones, gates, of_round, platforms, any::<u32>()).prop_map(
        |(grid, tuning, zones, gates, round, platforms, seed)| {
            let size = DVec2::new(grid.width(), grid.height());
            let kinds = ["pickup", "pickup", "checkpoint", "goal", "hazard", "lever"];
            let mut rules = Vec::new();
            let mut drawn = Vec::new();
            for (index, ((kind, x, y, width, height), rule)) in zones.into_iter().enumerate() {
                let kind = ZoneKind::of_word(kinds[kind]).unwrap();
                let (left, top) = (x * size.x, y * size.y);
                let place = Hitbox { left, right: left + width, top, bottom: top + height };
                drawn.push(DrawnZone::new(place, Zone::of(kind)));
                rules.push((ZoneId { kind, of: ZoneOf::Drawn(index) }, rule_of(kind, rule)));
            }
            // Every block is a gate.
            let gate = ZoneKind::of_word("gate").unwrap();
            let blocks: Vec<_> = grid.blocks().to_vec();
            let blocks = blocks.into_iter().enumerate().map(|(index, mut block)| {
                block.zone = Some(Zone::of(gate).by_touch());
                let mut rule = rule_of(gate, gates[index]);
                (rule.is_gate, rule.needs) = (true, rule.needs.or(Some(Need::Pickups(1))));
                rules.push((ZoneId { kind: gate, of: ZoneOf::Block(index) }, rule));
                block
            });
            let (blocks, ramps) = (blocks.collect(), grid.ramps().to_vec());
            let grid = grid.with_objects(blocks, ramps).unwrap().with_zones(drawn).unwrap();
            let (health, lives, (spared_for, shows_for), motion, after, bits) = round;
            let motions = [DefeatMotion::Stops, DefeatMotion::Falls, DefeatMotion::FallsThrough];
            let afters = [AfterDefeat::Checkpoint, AfterDefeat::Start, AfterDefeat::Checkpoint];
            let numbers = RoundNumbers {
                health,
                lives,
                spared_for,
                defeat: motions[motion],
                shows_for: if bits & 1 != 0 { shows_for } else { 0.0 },
                after_defeat: afters[after],
                keeps_pickups: bits & 2 != 0,
                goal_needs: (bits & 4 != 0).then_some(Need::Pickups(3)),
                zones: rules,
            };
            let platforms = platforms.into_iter().map(|(x, y, right, down, speed)| {
                let at = DVec2::new((x * size.x).floor(), (y * size.y).floor());
                PlatformNumbers::new(DVec2::new(24.0, 8.0), at).to(at + DVec2::new(right.floor(), down.floor()), speed)
            });
            Room { grid, platforms: platforms.collect(), tuning, numbers, seed }
        },
    )
}

fn rule_of(kind: ZoneKind, (damage, worth, bits): (u32, u32, u8)) -> ZoneRule {
    let key = Item::new("key").unwrap();
    let is_taken = matches!(kind, ZoneKind::Pickup | ZoneKind::Own(_));
    let need = if bits & 8 != 0 { Need::Has(key) } else { Need::Pickups(2) };
    let needs = (bits & 3 == 3 && !matches!(kind, ZoneKind::Hazard | ZoneKind::Checkpoint)).then_some(need);
    ZoneRule {
        damage,
        worth,
        gives: (is_taken && bits & 4 != 0).then_some(key),
        needs,
        takes: needs == Some(Need::Has(key)) && bits & 16 != 0,
        is_gate: false,
    }
}

impl Room {
    fn world(&self) -> Option<(World<Grid>, CharacterId)> {
        let platforms = Platforms::new(&self.platforms, self.tuning.rate()).unwrap();
        let mut world = World::with_platforms(self.grid.clone(), platforms);
        let id = places(self.grid.width(), self.grid.height(), self.seed)
            .find_map(|feet| world.add_character(self.tuning.clone(), feet).ok())?;
        Some((world, id))
    }
}

/// Every count in its range, and what was told as it is.
fn check_counts(round: &Round, before: &Round, room: &Room) {
    let RoundNumbers { health, lives, .. } = &room.numbers;
    assert!(round.health().zip(*health).is_none_or(|(now, most)| now <= most), "{round:?}");
    assert_eq!((round.health().is_some(), round.lives().is_some()), (health.is_some(), lives.is_some()));
    assert!(round.lives().zip(*lives).is_none_or(|(now, most)| now <= most));
    let worth = |zone: &ZoneId| if zone.kind == ZoneKind::Pickup { round.rules().of(*zone).worth } else { 0 };
    assert_eq!(round.picked(), round.taken().iter().map(worth).sum::<u32>());
    let told = |of: fn(&RoundEvent) -> bool| round.events().iter().filter(|event| of(event)).count();
    let defeats = told(|event| matches!(event, RoundEvent::Defeated(_)));
    let restarts = told(|event| matches!(event, RoundEvent::Restarted(_)));
    assert!(defeats <= 1 && restarts <= 1, "{:?}", round.events());
    assert_eq!(round.attempt(), before.attempt() + restarts as u32);
    if let (Some(now), Some(then)) = (round.lives(), before.lives()) {
        assert_eq!(now + defeats as u32, then);
    }
    if before.is_over() {
        assert!(round.is_over() && round.events().is_empty(), "what is over stays over");
        assert_eq!(round.is_finished(), before.is_finished());
    }
    // Where nothing is kept, a key is had no more often than it was given, or less often than it was used.
    let key = Item::new("key").unwrap();
    let given = round.taken().iter().filter(|zone| round.rules().of(**zone).gives == Some(key)).count();
    assert!(round.count_of(key) as usize <= given);
}

/// A gate comes back only where nobody is; what is under the feet of somebody may have gone.
fn check_gates(world: &World<Grid>) {
    let is_right = matches!(world.violation(), None | Some(Violation::Support | Violation::State));
    assert!(is_right, "{:?}", world.violation());
}

/// The rules once more, as the page says them, slowly: of what a world reports, what is told.
struct ByThePage {
    numbers: RoundNumbers,
    rate: f64,
    taken: BTreeSet<ZoneId>,
    open: BTreeSet<ZoneId>,
    reached: Option<ZoneId>,
    /// What was taken and open where it starts again: at the checkpoint.
    then: (BTreeSet<ZoneId>, BTreeSet<ZoneId>),
    health: Option<u32>,
    lives: Option<u32>,
    tick: u64,
    /// Nothing hurts up to this tick.
    spared_until: u64,
    crushed_since: Option<u64>,
    /// In which tick the defeat was that is shown.
    defeated_in: Option<u64>,
    over: bool,
}

impl ByThePage {
    fn of(numbers: &RoundNumbers, rate: f64) -> ByThePage {
        let (health, lives) = (numbers.health, numbers.lives);
        ByThePage {
            numbers: numbers.clone(),
            rate,
            taken: BTreeSet::new(),
            open: BTreeSet::new(),
            reached: None,
            then: Default::default(),
            health,
            lives,
            tick: 0,
            spared_until: 0,
            crushed_since: None,
            defeated_in: None,
            over: false,
        }
    }

    fn window(&self, seconds: f64) -> u64 {
        (seconds * self.rate + 0.5 + 1e-9).floor() as u64
    }

    fn rule(&self, zone: ZoneId) -> ZoneRule {
        self.numbers.zones.iter().find(|(of, _)| *of == zone).map_or_else(ZoneRule::default, |(_, rule)| *rule)
    }

    fn picked(&self) -> u32 {
        self.taken.iter().filter(|zone| zone.kind == ZoneKind::Pickup).map(|zone| self.rule(*zone).worth).sum()
    }

    fn lacks(&self, need: Option<Need>) -> Option<Lack> {
        match need? {
            Need::Pickups(needed) => {
                (self.picked() < needed).then_some(Lack::Pickups { picked: self.picked(), needed })
            }
            Need::Has(item) => {
                let given = self.taken.iter().filter(|zone| self.rule(**zone).gives == Some(item)).count();
                let uses = |zone: &&ZoneId| self.rule(**zone).takes && self.rule(**zone).needs == Some(Need::Has(item));
                let used = self.open.iter().filter(uses).count() + self.taken.iter().filter(uses).count();
                (given <= used).then_some(Lack::Item(item))
            }
        }
    }

    /// After a tick of the world, what is told.
    fn tick(
        &mut self,
        entered: &[ZoneId],
        inside: &[ZoneId],
        edge: Option<DefeatCause>,
        crushed: bool,
        left_behind: bool,
    ) -> Vec<RoundEvent> {
        self.tick += 1;
        let mut told = Vec::new();
        if self.over {
            return told;
        }
        if let Some(defeated_in) = self.defeated_in {
            if self.tick - defeated_in >= self.window(self.numbers.shows_for).max(1) {
                self.after_defeat(&mut told);
            }
            return told;
        }
        self.play(entered, inside, edge, crushed, left_behind, &mut told);
        if self.defeated_in.is_some() && self.window(self.numbers.shows_for) == 0 {
            self.after_defeat(&mut told);
        }
        told
    }

    fn play(
        &mut self,
        entered: &[ZoneId],
        inside: &[ZoneId],
        edge: Option<DefeatCause>,
        crushed: bool,
        left_behind: bool,
        told: &mut Vec<RoundEvent>,
    ) {
        let stayed: Vec<ZoneId> = inside.iter().copied().filter(|zone| !entered.contains(zone)).collect();
        let felt: Vec<ZoneId> = stayed.iter().chain(entered).copied().collect();
        let mut again = true;
        while again {
            again = false;
            for zone in &felt {
                let rule = self.rule(*zone);
                let is_taken = zone.kind == ZoneKind::Pickup || rule.gives.is_some();
                if is_taken && !self.taken.contains(zone) && self.lacks(rule.needs).is_none() {
                    self.taken.insert(*zone);
                    told.push(RoundEvent::Took(*zone));
                    again = true;
                }
            }
        }
        let mut gates: Vec<ZoneId> =
            self.numbers.zones.iter().filter(|(_, rule)| rule.is_gate).map(|(zone, _)| *zone).collect();
        gates.sort_unstable();
        for gate in gates {
            let rule = self.rule(gate);
            if !self.open.contains(&gate) && self.lacks(rule.needs).is_none() && (!rule.takes || felt.contains(&gate)) {
                self.open.insert(gate);
                told.push(RoundEvent::Opened(gate));
            }
        }
        let new = entered.iter().rev().find(|zone| zone.kind == ZoneKind::Checkpoint && Some(**zone) != self.reached);
        if let Some(zone) = new {
            told.push(RoundEvent::Reached(*zone));
            self.reached = Some(*zone);
            self.then = (self.taken.clone(), self.open.clone());
        }
        let mut in_order: Vec<ZoneId> = stayed.iter().copied().filter(|zone| zone.kind == ZoneKind::Goal).collect();
        in_order.extend(stayed.iter().copied().filter(|zone| zone.kind == ZoneKind::Hazard));
        in_order.extend(entered);
        let mut worst: Option<(ZoneId, u32)> = None;
        let mut finished = false;
        for zone in in_order {
            let deadly = worst.is_some_and(|(_, damage)| self.health.is_none_or(|health| damage >= health));
            if zone.kind == ZoneKind::Goal && !deadly {
                let lack = self.lacks(self.rule(zone).needs).or_else(|| self.lacks(self.numbers.goal_needs));
                finished = lack.is_none();
                if finished {
                    break;
                }
                if let Some(lack) = lack.filter(|_| entered.contains(&zone)) {
                    told.push(RoundEvent::GoalClosed(lack));
                }
            }
            if zone.kind == ZoneKind::Goal && deadly {
                break;
            }
            let damage = self.rule(zone).damage;
            if zone.kind == ZoneKind::Hazard
                && self.tick > self.spared_until
                && worst.is_none_or(|(_, most)| damage > most)
            {
                worst = Some((zone, damage));
            }
        }
        let mut cause = None;
        if let Some((zone, damage)) = worst {
            let taken = self.health.map(|health| damage.min(health));
            if let Some(damage) = taken {
                told.push(RoundEvent::Hurt { by: zone, damage });
                self.health = self.health.map(|health| health - damage);
                self.spared_until = self.tick + self.window(self.numbers.spared_for);
            }
            cause = (self.health.unwrap_or(0) == 0).then_some(DefeatCause::Zone(zone));
        }
        if finished {
            told.push(RoundEvent::Finished);
            self.over = true;
            return;
        }
        let mut end = cause;
        if end.is_none() {
            self.crushed_since = if crushed { self.crushed_since.or(Some(self.tick)) } else { None };
            let ticks = self.crushed_since.map_or(0, |since| self.tick - since + 1);
            let crush = (ticks > self.window(self.numbers.spared_for)).then_some(DefeatCause::Crush);
            end = edge.or(crush).or(left_behind.then_some(DefeatCause::View));
        }
        if let Some(cause) = end {
            told.push(RoundEvent::Defeated(cause));
            self.lives = self.lives.map(|lives| lives - 1);
            self.defeated_in = Some(self.tick);
        }
    }

    fn after_defeat(&mut self, told: &mut Vec<RoundEvent>) {
        self.defeated_in = None;
        if self.lives == Some(0) {
            told.push(RoundEvent::RoundLost);
            self.over = true;
            return;
        }
        if self.numbers.after_defeat == AfterDefeat::Nothing {
            self.over = true;
            return;
        }
        let at_checkpoint = self.numbers.after_defeat == AfterDefeat::Checkpoint && self.reached.is_some();
        let then = if at_checkpoint { self.then.clone() } else { Default::default() };
        if !self.numbers.keeps_pickups {
            self.taken = then.0;
        }
        self.open = then.1;
        if !at_checkpoint {
            self.reached = None;
        }
        (self.health, self.spared_until, self.crushed_since) = (self.numbers.health, 0, None);
        told.push(RoundEvent::Restarted(if at_checkpoint { RestartAt::Checkpoint } else { RestartAt::Start }));
    }
}

proptest! {
    #![proptest_config(cases(200))]

    #[test]
    fn counts_stay_in_range_gates_close_on_nobody_and_restarts_are_the_saved_world(
        room in room(),
        script in buttons(),
    ) {
        let Some((mut world, id)) = room.world() else { return Ok(()) };
        let mut round = Round::new(RoundRules::check(&room.numbers).unwrap(), &world, id);
        let start = world.save();
        let mut at_checkpoint: Option<Saved> = None;
        let mut held = script.iter().flat_map(|(held, ticks)| std::iter::repeat_n(held, *ticks)).cycle();
        for _ in 0..400 {
            let before = round.clone();
            world.tick(&[*held.next().unwrap()]);
            let follows = round.after_tick(&world, id).clone();
            prop_assert!(world.violation().is_none());
            let reached = round.events().iter().any(|event| matches!(event, RoundEvent::Reached(_)));
            let mut as_it_is = world.save();
            round.apply(&mut world, id);
            check_counts(&round, &before, &room);
            if reached {
                // What was taken in this tick is away by then.
                world.save_into(&mut as_it_is);
                if !round.events().iter().any(|event| matches!(event, RoundEvent::Restarted(_) | RoundEvent::Defeated(_))) {
                    at_checkpoint = Some(as_it_is);
                } else {
                    at_checkpoint = None;
                }
            }
            for event in round.events() {
                if let RoundEvent::Restarted(at) = event {
                    let saved = if *at == RestartAt::Start { Some(&start) } else { at_checkpoint.as_ref() };
                    let Some(saved) = saved else { continue };
                    prop_assert_eq!(world.ticks(), saved.tick());
                    let mut expected = World::with_platforms(room.grid.clone(), world.platforms().clone());
                    let there = expected.add_character(room.tuning.clone(), world.report(id).feet);
                    expected.restore(saved);
                    for platform in 0..room.platforms.len() {
                        prop_assert_eq!(world.platform_report(platform), expected.platform_report(platform));
                    }
                    if *at == RestartAt::Start {
                        prop_assert_eq!(world.report(id), expected.report(id));
                    }
                    let away = expected.things().away().to_vec();
                    for zone in world.things().away() {
                        let kept = room.numbers.keeps_pickups && zone.kind == ZoneKind::Pickup;
                        prop_assert!(kept || away.contains(zone), "{} is away", zone);
                    }
                    for zone in &away {
                        prop_assert!(world.things().away().contains(zone), "{} is there again", zone);
                    }
                    let _ = there;
                }
            }
            for zone in &follows.taken_away {
                prop_assert!(world.things().away().contains(zone) || round.attempt() > before.attempt());
            }
            check_gates(&world);
            let died = world.report(id).events.iter().any(|event| matches!(event, Event::Died(_)));
            prop_assert!(!died || round.is_defeated() || round.is_over() || before.is_defeated());
        }
    }

    #[test]
    fn a_round_tells_what_the_page_says(
        room in room(),
        script in buttons(),
        nothing in any::<u8>(),
        (follow, deadly_behind) in (prop::sample::select(vec![Follow::OnlyRight, Follow::OnlyUp]), any::<bool>()),
    ) {
        let Some((mut world, id)) = room.world() else { return Ok(()) };
        let mut numbers = room.numbers.clone();
        if nothing < 20 {
            numbers.after_defeat = AfterDefeat::Nothing;
        }
        let mut round = Round::new(RoundRules::check(&numbers).unwrap(), &world, id);
        let mut page = ByThePage::of(&numbers, room.tuning.rate());
        let seen = CameraNumbers { follow, deadly_behind, ..CameraNumbers::new(DVec2::splat(40.0)) };
        let level = Hitbox { left: 0.0, right: room.grid.width(), top: 0.0, bottom: room.grid.height() };
        let mut camera = Camera::new(&seen, level, world.character(id), room.tuning.rate()).unwrap();
        let is_behind = |view: Hitbox, place: Hitbox| {
            deadly_behind && if follow == Follow::OnlyUp { place.top >= view.bottom } else { place.right <= view.left }
        };
        let mut was_behind = is_behind(camera.view(), world.character(id).hitbox());
        let held = script.iter().flat_map(|(held, ticks)| std::iter::repeat_n(held, *ticks)).cycle().take(400);
        for (tick, held) in held.enumerate() {
            world.tick(&[*held]);
            let mut alone = camera;
            alone.follow(world.character(id));
            let behind = is_behind(alone.view(), world.character(id).hitbox());
            let left_behind = behind && !was_behind;
            was_behind = behind;
            let character = world.character(id);
            let events = &character.report().events;
            let entered: Vec<ZoneId> = events
                .iter()
                .filter_map(|event| if let Event::Entered(zone) = event { Some(*zone) } else { None })
                .collect();
            let edge = events.iter().find_map(|event| match event {
                Event::Died(side) => Some(DefeatCause::Edge(*side)),
                Event::OutOfBounds => Some(DefeatCause::Lost),
                _ => None,
            });
            let crushed = events.iter().any(|event| event.word().starts_with("crushed"));
            let expected = page.tick(&entered, character.zones(), edge, crushed, left_behind);
            round.play_in_view(&mut world, id, &mut camera);
            if expected.iter().any(|event| matches!(event, RoundEvent::Restarted(_))) {
                // A cut, as at the start.
                was_behind = is_behind(camera.view(), world.character(id).hitbox());
                let mut anew = camera;
                anew.look_at(world.character(id));
                prop_assert_eq!(anew.corner(), camera.corner());
            } else {
                prop_assert_eq!(alone, camera);
            }
            prop_assert_eq!(round.events(), &expected[..], "in tick {}", tick + 1);
            prop_assert_eq!((round.health(), round.lives(), round.picked()), (page.health, page.lives, page.picked()));
            prop_assert_eq!(round.is_over(), page.over);
            prop_assert!(round.taken().iter().eq(&page.taken) && round.open_gates().iter().eq(&page.open));
        }
    }

    #[test]
    fn a_saved_round_goes_on_to_the_bit(room in room(), script in buttons(), from in 0..200usize) {
        let Some((mut world, id)) = room.world() else { return Ok(()) };
        let mut round = Round::new(RoundRules::check(&room.numbers).unwrap(), &world, id);
        let held: Vec<_> =
            script.iter().flat_map(|(held, ticks)| std::iter::repeat_n(*held, *ticks)).cycle().take(300).collect();
        let mut saved = None;
        let mut hashes = Vec::new();
        for (tick, held) in held.iter().enumerate() {
            if tick == from {
                let bytes = (world.save().to_bytes(&world), round.save().to_bytes(&world));
                saved = Some(bytes);
            }
            world.tick(&[*held]);
            round.play(&mut world, id);
            hashes.push((world.save().hash(), round.save().hash()));
        }
        let (world_bytes, round_bytes) = saved.unwrap();
        world.restore(&Saved::from_bytes(&world_bytes, &world).unwrap());
        round.restore(&wumple_core::SavedRound::from_bytes(&round_bytes, &world, &round).unwrap());
        for (held, expected) in held[from..].iter().zip(&hashes[from..]) {
            world.tick(&[*held]);
            round.play(&mut world, id);
            prop_assert_eq!((world.save().hash(), round.save().hash()), *expected);
        }
    }
}
