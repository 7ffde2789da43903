//! Rounds: every rule of what follows from what is met, as a script.

use crate::play::dab;
use wumple_core::rounds::{AfterDefeat, DefeatMotion, Item, Need, Next, ZoneRule};
use wumple_core::{
    Buttons, CharacterId, DVec2, DrawnZone, Edge, Edges, Grid, Hitbox, PlatformNumbers, Platforms, Round, RoundNumbers,
    RoundRules, SavedError, SavedRound, TileProperties, Tuning, TuningNumbers, World, Zone, ZoneId, ZoneKind, ZoneOf,
};

/// `.` empty, `#` solid, `*` a pickup, `+` a checkpoint, `!` a goal, `^` a hazard, `G` a gate, `L` a lever, `=` a shelf.
fn grid(rows: &[&str]) -> Grid {
    let own = |word| Zone::of(ZoneKind::of_word(word).unwrap());
    let kinds = [
        TileProperties::EMPTY,
        TileProperties::SOLID,
        TileProperties::zone(ZoneKind::Pickup),
        TileProperties::zone(ZoneKind::Checkpoint),
        TileProperties::zone(ZoneKind::Goal),
        TileProperties::zone(ZoneKind::Hazard),
        TileProperties { zone: Some(own("gate").by_touch()), ..TileProperties::SOLID },
        TileProperties { zone: Some(own("lever")), ..TileProperties::EMPTY },
        TileProperties::ONE_WAY,
    ];
    let tiles = rows.iter().flat_map(|row| row.bytes().map(|letter| b".#*+!^GL=".iter().position(|of| *of == letter)));
    let tiles = tiles.map(|kind| kind.unwrap() as u8).collect();
    let edges = Edges { bottom: Edge::Deadly, ..Edges::default() };
    Grid::new(rows[0].len(), tiles, 16.0, &kinds, edges).unwrap()
}

fn tile(kind: &str, column: i32, row: i32) -> ZoneId {
    ZoneId { kind: ZoneKind::of_word(kind).unwrap(), of: ZoneOf::Tile { column, row } }
}

fn key() -> Item {
    Item::new("key").unwrap()
}

struct Game {
    world: World<Grid>,
    id: CharacterId,
    round: Round,
    ticks: u64,
}

impl Game {
    /// Feet at the middle of a tile's bottom edge. 60 ticks a second, 2 px a tick.
    fn new(rows: &[&str], numbers: &RoundNumbers, at: (i32, i32)) -> Game {
        Game::among(rows, &[], &dab(), numbers, at)
    }

    fn among(
        rows: &[&str],
        platforms: &[PlatformNumbers],
        tuning: &TuningNumbers,
        numbers: &RoundNumbers,
        (column, row): (i32, i32),
    ) -> Game {
        let platforms = Platforms::new(platforms, tuning.rate).unwrap();
        let mut world = World::with_platforms(grid(rows), platforms);
        let feet = DVec2::new(f64::from(column) * 16.0 + 8.0, f64::from(row + 1) * 16.0);
        let id = world.add_character(Tuning::check(tuning).unwrap(), feet).unwrap();
        let round = Round::new(RoundRules::check(numbers).unwrap(), &world, id);
        Game { world, id, round, ticks: 0 }
    }

    /// Holds what the letters say for so many ticks; returns what the round told, with the ticks.
    fn play(&mut self, held: &str, ticks: u32) -> Vec<String> {
        let has = |letter| held.contains(letter);
        let buttons = Buttons { left: has('L'), right: has('R'), jump: has('J'), ..Buttons::NONE };
        let mut told = Vec::new();
        for _ in 0..ticks {
            self.world.tick(&[buttons]);
            self.round.play(&mut self.world, self.id);
            self.ticks += 1;
            told.extend(self.round.events().iter().map(|event| format!("{} {event}", self.ticks)));
        }
        told
    }

    fn feet(&self) -> DVec2 {
        self.world.report(self.id).feet
    }
}

fn words(told: &[String]) -> Vec<&str> {
    told.iter().map(|event| event.split_once(' ').unwrap().1).collect()
}

fn ticks_of(told: &[String]) -> Vec<u64> {
    told.iter().map(|event| event.split_once(' ').unwrap().0.parse().unwrap()).collect()
}

const NO_HEALTH: RoundNumbers = RoundNumbers {
    health: None,
    lives: None,
    spared_for: 0.5,
    defeat: DefeatMotion::Stops,
    shows_for: 0.25,
    after_defeat: AfterDefeat::Checkpoint,
    keeps_pickups: true,
    goal_needs: None,
    zones: Vec::new(),
};

#[test]
fn pickups_are_taken_once_and_are_there_no_longer() {
    let mut game = Game::new(&["........", ".**.....", "########"], &NO_HEALTH, (0, 1));
    assert_eq!(words(&game.play("R", 30)), ["took:pickup@1,1", "took:pickup@2,1"]);
    assert_eq!((game.round.picked(), game.round.taken().len()), (2, 2));
    let before = game.world.report(game.id).clone();
    assert!(game.play("L", 30).is_empty());
    assert!(before.events.is_empty() && game.world.character(game.id).zones().is_empty());
}

#[test]
fn a_pickup_counts_by_its_worth_and_may_give_something() {
    let rule = |worth, gives| ZoneRule { worth, gives, ..ZoneRule::default() };
    let zones = vec![(tile("pickup", 1, 1), rule(5, None)), (tile("pickup", 2, 1), rule(0, Some(key())))];
    let mut game = Game::new(&["........", ".**.....", "########"], &RoundNumbers { zones, ..NO_HEALTH }, (0, 1));
    game.play("R", 30);
    assert_eq!((game.round.picked(), game.round.count_of(key())), (5, 1));
}

#[test]
fn a_gate_opens_in_the_tick_in_which_its_need_is_met_and_is_gone_in_the_next() {
    let needs = |need| ZoneRule { needs: Some(need), is_gate: true, ..ZoneRule::default() };
    let rows = ["....G...", ".*.*G...", "########"];
    // The two tiles share an edge: they are one gate, known by the first by rows.
    let zones = RoundNumbers { zones: vec![(tile("gate", 4, 0), needs(Need::Pickups(2)))], ..NO_HEALTH };
    let mut game = Game::new(&rows, &zones, (0, 1));
    let told = game.play("R", 60);
    assert_eq!(words(&told), ["took:pickup@1,1", "took:pickup@3,1", "opened:gate@4,0"]);
    assert_eq!(ticks_of(&told)[1], ticks_of(&told)[2]);
    assert!(game.feet().x > 100.0, "through where it was");
    assert_eq!(game.round.open_gates(), [tile("gate", 4, 0)]);
}

#[test]
fn one_key_opens_one_of_two_gates_that_use_it_up_the_one_that_is_touched() {
    let gate = ZoneRule { needs: Some(Need::Has(key())), takes: true, is_gate: true, ..ZoneRule::default() };
    let gives = ZoneRule { gives: Some(key()), ..ZoneRule::default() };
    let zones = vec![(tile("gate", 0, 0), gate), (tile("gate", 6, 0), gate), (tile("pickup", 4, 1), gives)];
    let rows = ["G.....G.", "G...*.G.", "########"];
    let mut game = Game::new(&rows, &RoundNumbers { zones, ..NO_HEALTH }, (2, 1));
    assert_eq!(words(&game.play("R", 40)), ["took:pickup@4,1", "opened:gate@6,0"]);
    assert_eq!(game.round.count_of(key()), 0);
    assert!(game.play("L", 80).is_empty(), "the other stays closed");
    assert_eq!(game.feet().x, 21.0);
}

#[test]
fn a_lever_of_the_games_own_gives_once_and_stays() {
    let zones = vec![
        (tile("lever", 1, 1), ZoneRule { gives: Some(key()), ..ZoneRule::default() }),
        (tile("gate", 4, 1), ZoneRule { needs: Some(Need::Has(key())), is_gate: true, ..ZoneRule::default() }),
    ];
    let rows = ["........", ".L..G...", "########"];
    let mut game = Game::new(&rows, &RoundNumbers { zones, ..NO_HEALTH }, (0, 1));
    assert_eq!(words(&game.play("R", 60)), ["took:lever@1,1", "opened:gate@4,1"]);
    assert_eq!((game.round.picked(), game.round.count_of(key())), (0, 1));
    assert!(game.play("L", 60).is_empty());
}

#[test]
fn a_chest_asks_for_a_key_that_another_pickup_of_the_same_tick_gives() {
    let zones = vec![
        (tile("pickup", 2, 0), ZoneRule { gives: Some(key()), ..ZoneRule::default() }),
        (tile("pickup", 2, 1), ZoneRule { needs: Some(Need::Has(key())), takes: true, ..ZoneRule::default() }),
    ];
    let rows = ["..*.....", "..*.....", "########"];
    let mut game = Game::new(&rows, &RoundNumbers { zones, ..NO_HEALTH }, (0, 1));
    let told = game.play("R", 30);
    assert_eq!(words(&told), ["took:pickup@2,0", "took:pickup@2,1"]);
    assert_eq!((ticks_of(&told)[0], game.round.count_of(key())), (ticks_of(&told)[1], 0));
}

#[test]
fn a_goal_stood_in_when_the_count_becomes_full_is_reached_in_that_tick() {
    let numbers = RoundNumbers { goal_needs: Some(Need::Pickups(1)), ..NO_HEALTH };
    // The goal is wide; the jar lies within it.
    let mut game = Game::new(&["........", "..!!!!..", "..!!*!..", "########"], &numbers, (0, 2));
    let told = game.play("R", 60);
    assert_eq!(words(&told), ["goal-closed:0/1", "took:pickup@4,2", "finished"]);
    assert_eq!(ticks_of(&told)[1], ticks_of(&told)[2]);
    assert!(game.round.is_finished() && game.round.is_over());
    assert!(game.play("L", 60).is_empty(), "a finished round stays finished");
}

#[test]
fn a_goal_may_ask_for_an_item_beside_what_every_goal_asks_for() {
    let needs = ZoneRule { needs: Some(Need::Has(key())), ..ZoneRule::default() };
    let numbers =
        RoundNumbers { goal_needs: Some(Need::Pickups(3)), zones: vec![(tile("goal", 3, 1), needs)], ..NO_HEALTH };
    let mut game = Game::new(&["........", "...!....", "########"], &numbers, (0, 1));
    assert_eq!(words(&game.play("R", 60)), ["goal-closed:key"]);
}

#[test]
fn a_hazard_stood_in_hurts_again_when_the_spared_ticks_are_over() {
    let numbers = RoundNumbers { health: Some(3), ..NO_HEALTH };
    let mut game = Game::new(&["........", ".^^^^^^^", "########"], &numbers, (2, 1));
    let told = game.play("", 61);
    assert_eq!(words(&told), ["hurt:hazard@1,1:1", "hurt:hazard@1,1:1"]);
    // 0.5 s are 30 ticks: spared in 2 to 31.
    assert_eq!(ticks_of(&told), [1, 32]);
    let told = game.play("", 2);
    assert_eq!(told, ["63 hurt:hazard@1,1:1", "63 defeated:hazard@1,1"]);
    assert_eq!(game.round.health(), Some(0));
}

#[test]
fn damage_is_taken_once_a_tick_the_greatest_and_never_more_than_there_is() {
    let zones = vec![(tile("hazard", 3, 0), ZoneRule { damage: 7, ..ZoneRule::default() })];
    let numbers = RoundNumbers { health: Some(9), zones, ..NO_HEALTH };
    // Two hazards apart from each other, met at one share of the way.
    let mut game = Game::new(&["...^....", "........", "...^....", "########"], &numbers, (0, 2));
    let mut tall = dab();
    tall.body.height = 40.0;
    let mut game_of_a_tall =
        Game::among(&["...^....", "........", "...^....", "########"], &[], &tall, &numbers, (0, 2));
    assert_eq!(words(&game.play("R", 25)), ["hurt:hazard@3,2:1"]);
    let told = game_of_a_tall.play("R", 25);
    assert_eq!(words(&told), ["hurt:hazard@3,0:7"]);
    let told = game_of_a_tall.play("R", 6);
    assert!(told.is_empty() && game_of_a_tall.round.health() == Some(2));
}

/// At 15 to 240 Hz: the one that is met first, and at the same share the goal.
#[test]
fn goal_against_hazard_in_one_tick_is_the_one_met_first_at_every_rate() {
    let fast = |rate: f64| {
        let mut numbers = TuningNumbers::new(6.0, 10.0, 1200.0).with_jump(54.0, 0.35);
        numbers.rate = rate;
        numbers
    };
    let table: [(&[&str], Option<u32>, &[&str]); 5] = [
        (&["...^!...", "########"], None, &["defeated:hazard@3,0"]),
        (&["...!^...", "########"], None, &["finished"]),
        (&["...^!...", "########"], Some(2), &["hurt:hazard@3,0:1", "finished"]),
        (&["...!^...", "########"], Some(2), &["finished"]),
        // A wide hazard below a wide goal: both begin at one place.
        (&["...!!...", "...^^...", "########"], None, &["finished"]),
    ];
    for (rows, health, expected) in table {
        for rate in [15.0, 30.0, 60.0, 144.0, 240.0] {
            let numbers = RoundNumbers { health, shows_for: 10.0, ..NO_HEALTH };
            let mut tuning = fast(rate);
            tuning.body.height = if rows.len() == 3 { 20.0 } else { 10.0 };
            let mut game = Game::among(rows, &[], &tuning, &numbers, (0, rows.len() as i32 - 2));
            let told = game.play("R", rate as u32);
            assert_eq!(words(&told), expected, "{rows:?} at {rate} Hz");
        }
    }
}

#[test]
fn a_deadly_edge_defeats_whatever_health_there_is() {
    let numbers = RoundNumbers { health: Some(3), ..NO_HEALTH };
    let mut game = Game::new(&["........", "........", "##......"], &numbers, (0, 1));
    let told = game.play("R", 120);
    assert_eq!(words(&told)[..2], ["defeated:edge-bottom", "restarted:start"]);
    assert_eq!(game.round.health(), Some(3));
}

#[test]
fn a_crush_defeats_when_it_lasts_longer_than_damage_spares() {
    // A press comes down upon Dab and stays.
    let press = PlatformNumbers::new(DVec2::new(32.0, 8.0), DVec2::new(16.0, 0.0)).to(DVec2::new(16.0, 48.0), 240.0);
    let numbers = RoundNumbers { spared_for: 0.05, after_defeat: AfterDefeat::Nothing, ..NO_HEALTH };
    let mut game = Game::among(&["........", "........", "........", "########"], &[press], &dab(), &numbers, (1, 2));
    let mut crushed = 0;
    for _ in 0..60 {
        let told = game.play("", 1);
        let is_crushed = game.world.report(game.id).events.iter().any(|event| event.word() == "crushed");
        crushed += u32::from(is_crushed);
        if !told.is_empty() {
            assert_eq!((words(&told), crushed), (vec!["defeated:crush"], 4), "3 ticks are spared");
            return;
        }
    }
    panic!("never defeated");
}

#[test]
fn a_defeat_is_shown_without_buttons_and_zones_and_costs_a_life() {
    let numbers = RoundNumbers { lives: Some(2), ..NO_HEALTH };
    let mut game = Game::new(&["..........", "..^*......", "##########"], &numbers, (0, 1));
    let told = game.play("R", 60);
    // 0.25 s are 15 ticks.
    let defeated = ticks_of(&told)[0];
    assert_eq!(
        told[..2],
        [format!("{defeated} defeated:hazard@2,1"), format!("{} restarted:start", defeated + 15)],
        "nothing was taken meanwhile"
    );
    // The second time is the last.
    assert_eq!(words(&told)[2..], ["defeated:hazard@2,1", "round-lost"]);
    assert_eq!((game.round.lives(), game.round.attempt()), (Some(0), 2));
    assert!(game.round.is_over() && !game.round.is_finished());
}

#[test]
fn the_defeated_stop_fall_or_fall_through() {
    for (defeat, moves, falls_below) in [
        (DefeatMotion::Stops, false, false),
        (DefeatMotion::Falls, true, false),
        (DefeatMotion::FallsThrough, true, true),
    ] {
        let numbers = RoundNumbers { defeat, shows_for: 3.0, ..NO_HEALTH };
        let rows = ["........", "..^.....", "..^.....", "........", "########", "........"];
        let mut game = Game::new(&rows, &numbers, (0, 3));
        // Up into the embers.
        game.play("RJ", 14);
        assert!(game.round.is_defeated(), "{defeat:?}");
        let at = game.feet();
        game.play("RJ", 60);
        assert_eq!(game.feet() != at, moves, "{defeat:?}");
        let deepest = game.feet().y;
        assert_eq!(deepest > 64.0, falls_below, "{defeat:?} at {deepest}");
        assert!(game.feet().x <= at.x + 40.0, "nothing is held");
    }
}

#[test]
fn it_starts_again_at_the_checkpoint_at_rest_on_what_is_beneath() {
    // Through the checkpoint in a jump; then into the embers.
    let rows = ["..........", "...+......", "..........", "......^^..", "##########"];
    let mut game = Game::new(&rows, &NO_HEALTH, (0, 3));
    let mut told = game.play("R", 10);
    told.extend(game.play("RJ", 20));
    told.extend(game.play("R", 60));
    assert_eq!(words(&told)[..3], ["reached:checkpoint@3,1", "defeated:hazard@6,3", "restarted:checkpoint"]);
    let restarted = ticks_of(&told)[2];
    let mut again = Game::new(&rows, &NO_HEALTH, (0, 3));
    again.play("R", 10);
    again.play("RJ", 20);
    again.play("R", (restarted - 30) as u32);
    let reached = ticks_of(&told)[0];
    assert_eq!(again.world.ticks(), reached, "the world is as it was in that tick");
    let report = again.world.report(again.id);
    assert_eq!((report.feet.y, report.velocity), (64.0, DVec2::ZERO), "on the ground beneath");
    assert!(report.events.is_empty() && report.contacts.below);
}

#[test]
fn over_a_pit_or_what_hurts_it_starts_again_at_the_middle_of_the_checkpoint() {
    let place = Hitbox { left: 64.0, right: 144.0, top: 0.0, bottom: 32.0 };
    let checkpoint = DrawnZone::new(place, Zone::of(ZoneKind::Checkpoint));
    for rows in
        [["..........", "..........", "###...#...", ".........."], ["..........", "..........", "###^^^#...", "###"]]
    {
        let rows = rows.map(|row| if row == "###" { "##########" } else { row });
        let mut game = Game::new(&rows, &NO_HEALTH, (0, 1));
        game.world = World::new(grid(&rows).with_zones(vec![checkpoint]).unwrap());
        game.id = game.world.add_character(Tuning::check(&dab()).unwrap(), DVec2::new(8.0, 32.0)).unwrap();
        game.round = Round::new(RoundRules::check(&NO_HEALTH).unwrap(), &game.world, game.id);
        game.play("R", 14);
        let mut told = game.play("RJ", 16);
        while !told.last().is_some_and(|event| event.ends_with("restarted:checkpoint")) {
            told.extend(game.play("", 1));
        }
        assert_eq!(words(&told)[0], "reached:checkpoint:zone-1");
        assert_eq!(game.feet(), DVec2::new(104.0, 32.0), "{told:?}");
    }
}

#[test]
fn platforms_and_slabs_are_as_they_were_at_the_checkpoint() {
    let hoist = PlatformNumbers::new(DVec2::new(32.0, 8.0), DVec2::new(200.0, 0.0)).to(DVec2::new(260.0, 0.0), 60.0);
    let rows = ["....................", "..+...^.............", "####################"];
    let mut game = Game::among(&rows, &[hoist], &dab(), &NO_HEALTH, (0, 1));
    let mut at_checkpoint = None;
    for _ in 0..100 {
        let told = words(&game.play("R", 1)).join(" ");
        if told.starts_with("reached") {
            at_checkpoint = Some((game.world.platform_report(0), game.world.ticks()));
        }
        if told.ends_with("restarted:checkpoint") {
            assert_eq!(Some((game.world.platform_report(0), game.world.ticks())), at_checkpoint);
            return;
        }
    }
    panic!("never started again");
}

#[test]
fn pickups_are_kept_or_come_back_and_gates_with_them() {
    let gate = ZoneRule { needs: Some(Need::Pickups(1)), is_gate: true, ..ZoneRule::default() };
    let rows = ["...........", "+.*.G...^..", "###########"];
    let zones = vec![(tile("gate", 4, 1), gate)];
    for keeps_pickups in [true, false] {
        let mut game = Game::new(&rows, &RoundNumbers { zones: zones.clone(), keeps_pickups, ..NO_HEALTH }, (0, 1));
        let told = game.play("R", 78);
        let first = ["reached:checkpoint@0,1", "took:pickup@2,1", "opened:gate@4,1", "defeated:hazard@8,1"];
        assert_eq!(words(&told)[..4], first);
        // Kept, the need is met as soon as it is asked for.
        let then: &[&str] =
            if keeps_pickups { &["restarted:checkpoint", "opened:gate@4,1"] } else { &["restarted:checkpoint"] };
        assert_eq!(&words(&told)[4..], then);
        assert_eq!(game.round.picked(), u32::from(keeps_pickups));
        assert_eq!(game.world.things().away().len(), 2 * usize::from(keeps_pickups));
        assert_eq!(words(&game.play("R", 30)).contains(&"took:pickup@2,1"), !keeps_pickups);
    }
}

#[test]
fn a_key_that_a_gate_used_up_is_back_when_the_gate_is() {
    let gate = ZoneRule { needs: Some(Need::Has(key())), takes: true, is_gate: true, ..ZoneRule::default() };
    let gives = ZoneRule { gives: Some(key()), ..ZoneRule::default() };
    let zones = vec![(tile("gate", 4, 1), gate), (tile("pickup", 2, 1), gives)];
    let rows = ["...........", "..*.G...^..", "###########"];
    let mut game = Game::new(&rows, &RoundNumbers { zones, ..NO_HEALTH }, (0, 1));
    let told = game.play("R", 80);
    assert_eq!(words(&told)[..2], ["took:pickup@2,1", "opened:gate@4,1"]);
    assert_eq!((game.round.attempt(), game.round.count_of(key())), (2, 1));
    assert_eq!(words(&game.play("R", 60))[0], "opened:gate@4,1");
}

#[test]
fn what_is_held_through_a_restart_is_no_press() {
    let mut game = Game::new(&["........", "..^.....", "########"], &NO_HEALTH, (0, 1));
    game.play("R", 12);
    assert!(game.round.is_defeated());
    game.play("J", 30);
    assert_eq!((game.round.attempt(), game.feet()), (2, DVec2::new(8.0, 32.0)));
    game.play("", 1);
    game.play("J", 2);
    assert!(game.feet().y < 32.0, "pressed afresh");
}

#[test]
fn the_game_may_do_something_else_with_a_defeat() {
    let mut game = Game::new(&["........", "..^.....", "########"], &NO_HEALTH, (0, 1));
    for _ in 0..60 {
        game.world.tick(&[Buttons { right: true, ..Buttons::NONE }]);
        match game.round.after_tick(&game.world, game.id).next {
            Next::ShowDefeat(motion) => assert_eq!(motion, DefeatMotion::Stops),
            Next::Restart(_) => {
                game.world.place(game.id, DVec2::new(100.0, 32.0)).unwrap();
                assert_eq!(game.round.attempt(), 2);
                return;
            }
            _ => {}
        }
    }
    panic!("never to start again");
}

#[test]
fn after_a_defeat_the_start_or_nothing() {
    let rows = ["..........", ".+..^.....", "##########"];
    let start = RoundNumbers { after_defeat: AfterDefeat::Start, ..NO_HEALTH };
    let mut game = Game::new(&rows, &start, (0, 1));
    let told = game.play("R", 60);
    assert_eq!(words(&told)[2..4], ["restarted:start", "reached:checkpoint@1,1"], "reached anew");
    let nothing = RoundNumbers { after_defeat: AfterDefeat::Nothing, ..NO_HEALTH };
    let mut game = Game::new(&rows, &nothing, (0, 1));
    assert_eq!(words(&game.play("R", 90))[1..], ["defeated:hazard@4,1"]);
    assert!(game.round.is_over() && game.round.is_defeated());
}

#[test]
fn a_defeat_that_is_not_shown_starts_again_in_its_tick() {
    let numbers = RoundNumbers { shows_for: 0.0, ..NO_HEALTH };
    let mut game = Game::new(&["........", "..^.....", "########"], &numbers, (0, 1));
    let told = game.play("R", 12);
    assert_eq!(words(&told), ["defeated:hazard@2,1", "restarted:start"]);
    assert_eq!(ticks_of(&told)[0], ticks_of(&told)[1]);
}

#[test]
fn a_saved_round_goes_on_with_its_world_to_the_bit_also_by_bytes() {
    let rows = ["..........", "+.*.^.....", "##########"];
    let numbers = RoundNumbers { health: Some(2), lives: Some(9), ..NO_HEALTH };
    let mut game = Game::new(&rows, &numbers, (0, 1));
    game.play("R", 40);
    let (world, round) = (game.world.save(), game.round.save());
    let (world_bytes, round_bytes) = (world.to_bytes(&game.world), round.to_bytes(&game.world));
    let told = game.play("R", 200);
    let end = (game.world.save().hash(), game.round.save().hash());
    game.world.restore(&wumple_core::Saved::from_bytes(&world_bytes, &game.world).unwrap());
    game.round.restore(&SavedRound::from_bytes(&round_bytes, &game.world, &game.round).unwrap());
    assert_eq!(game.round.save(), round);
    game.ticks = 40;
    assert_eq!(game.play("R", 200), told);
    assert_eq!((game.world.save().hash(), game.round.save().hash()), end);
    assert_ne!(round.hash(), end.1);

    let read = |bytes: &[u8]| SavedRound::from_bytes(bytes, &game.world, &game.round).err();
    assert_eq!(read(b"something"), Some(SavedError::NoSaved));
    for place in (6..round_bytes.len()).step_by(7) {
        let mut spoiled = round_bytes.clone();
        spoiled[place] ^= 1;
        let error = read(&spoiled).unwrap();
        assert!(matches!(error, SavedError::Spoiled | SavedError::OtherVersion { .. }), "byte {place}: {error}");
        assert!(read(&round_bytes[..place]).is_some());
    }
    let other = Game::new(&rows, &NO_HEALTH, (0, 1));
    let found = SavedRound::from_bytes(&round_bytes, &game.world, &other.round).err();
    assert_eq!(found, Some(SavedError::OtherLevel), "of other rules");
}
