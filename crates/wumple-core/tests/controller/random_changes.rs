//! Random rooms in which the game changes everything between ticks: what must hold all the same.

use crate::rooms;

use crate::rooms::{buttons, full_grid, full_tuning};
use proptest::prelude::*;
use wumple_core::numbers::PlatformSurface;
use wumple_core::{
    Buttons, CharacterId, DVec2, Event, Grid, Group, Launch, Material, Meetings, PlatformNumbers, Platforms, Prop,
    PropId, Saved, Terrain, TickReport, Tuning, TuningNumbers, World,
};

/// Something done between two ticks. Numbers are shares: of the characters, the places, the limits.
#[derive(Clone, Debug)]
enum Change {
    AddCharacter(DVec2),
    AddProp(DVec2, DVec2),
    AddPlatform(DVec2, DVec2, DVec2),
    Remove(usize),
    RemoveProp(usize),
    RemovePlatform(usize),
    MovePlatform(usize, DVec2),
    Place(usize, DVec2),
    PlaceProp(usize, DVec2),
    Launch(usize, DVec2, Launch),
    LaunchProp(usize, DVec2),
    Retune(usize, Box<Tuning>),
    HoldStill(usize, bool),
    HoldPropStill(usize, bool),
    SetControl(usize, bool),
    Push(usize, DVec2),
    Drift(usize, DVec2),
    SetTile(DVec2, usize),
    TakeObjects,
}

fn change(tuning: &Tuning) -> impl Strategy<Value = Change> + use<> {
    let place = || (-0.1..1.1f64, -0.1..1.1f64).prop_map(|(x, y)| DVec2::new(x, y));
    let vector = |most: f64| (-most..most, -most..most).prop_map(|(x, y)| DVec2::new(x, y));
    let size = || (6.0..60.0f64, 4.0..30.0f64).prop_map(|(x, y)| DVec2::new(x.floor(), y.floor()));
    let who = || 0..4usize;
    let launch = (0..30u32, any::<bool>()).prop_map(|(ticks, unbraked)| Launch { ticks, unbraked });
    let (rate, scheme, pixels) = (tuning.rate(), tuning.scheme(), tuning.numbers().pixels);
    let own = tuning.clone();
    let group = prop::sample::select(&["level", "pair", "pair", "ghosts"][..]);
    let retuned = (full_tuning(), group).prop_map(move |(other, group)| {
        let mut numbers = other.numbers().clone();
        numbers.group = Group::new(group).unwrap();
        (numbers.rate, numbers.scheme, numbers.pixels) = (rate, scheme, pixels);
        Box::new(Tuning::check(&numbers).unwrap_or_else(|_| own.clone()))
    });
    prop_oneof![
        2 => place().prop_map(Change::AddCharacter),
        1 => (place(), size()).prop_map(|(at, size)| Change::AddProp(at, size)),
        1 => (place(), size(), vector(90.0)).prop_map(|(at, size, by)| Change::AddPlatform(at, size, by)),
        1 => who().prop_map(Change::Remove),
        1 => who().prop_map(Change::RemoveProp),
        1 => who().prop_map(Change::RemovePlatform),
        4 => (who(), vector(9.0)).prop_map(|(who, by)| Change::MovePlatform(who, by)),
        2 => (who(), place()).prop_map(|(who, at)| Change::Place(who, at)),
        1 => (who(), place()).prop_map(|(who, at)| Change::PlaceProp(who, at)),
        3 => (who(), vector(700.0), launch).prop_map(|(who, speed, launch)| Change::Launch(who, speed, launch)),
        1 => (who(), vector(700.0)).prop_map(|(who, speed)| Change::LaunchProp(who, speed)),
        3 => (who(), retuned).prop_map(|(who, tuning)| Change::Retune(who, tuning)),
        2 => (who(), prop::bool::weighted(0.3)).prop_map(|(who, still)| Change::HoldStill(who, still)),
        1 => (who(), prop::bool::weighted(0.3)).prop_map(|(who, still)| Change::HoldPropStill(who, still)),
        2 => (who(), any::<bool>()).prop_map(|(who, by_player)| Change::SetControl(who, by_player)),
        3 => (who(), vector(3000.0)).prop_map(|(who, push)| Change::Push(who, push)),
        3 => (who(), vector(400.0)).prop_map(|(who, drift)| Change::Drift(who, drift)),
        4 => (place(), 0..16usize).prop_map(|(at, kind)| Change::SetTile(at, kind)),
        1 => Just(Change::TakeObjects),
    ]
}

/// One of them, if there are any.
fn one_of<I: Copy>(all: &[I], share: usize) -> Option<I> {
    all.get(share % all.len().max(1)).copied()
}

struct Game {
    world: World<Grid>,
    tuning: Tuning,
    size: DVec2,
}

impl Game {
    fn characters(&self) -> Vec<CharacterId> {
        self.world.characters().map(|character| character.id()).collect()
    }

    fn props(&self) -> Vec<PropId> {
        self.world.props().collect()
    }

    fn prop(&self, size: DVec2, surface: PlatformSurface) -> Prop {
        let (mut numbers, like) = (TuningNumbers::new(size.x, size.y, 0.0), self.tuning.numbers());
        (numbers.rate, numbers.scheme, numbers.pixels) = (like.rate, like.scheme, like.pixels);
        numbers.group = Group::new("jars").unwrap();
        Prop { tuning: Tuning::check(&numbers).unwrap(), surface, material: Material::PLAIN, zone: None }
    }

    /// Does it, if it can be done: what is refused must change nothing, and that is seen by what follows.
    fn change(&mut self, change: &Change) {
        let at = |share: &DVec2| *share * self.size;
        let (characters, props) = (self.characters(), self.props());
        let platforms: Vec<usize> = self.world.platforms().numbers().collect();
        let (who, which) = (|share: &usize| one_of(&characters, *share), |share: &usize| one_of(&props, *share));
        let (tuning, world) = (self.tuning.clone(), &mut self.world);
        match change {
            Change::AddCharacter(share) if characters.len() < 4 => {
                let _ = world.add_character(tuning, at(share));
            }
            Change::AddProp(share, size) if props.len() < 4 => {
                let (share, surface) = (at(share), PlatformSurface::Solid);
                let prop = self.prop(*size, surface);
                let _ = self.world.add_prop(prop, share);
            }
            Change::AddPlatform(share, size, by) if platforms.len() < 5 => {
                let corner = at(share);
                let group = Group::new(["level", "slabs"][size.x as usize % 2]).unwrap();
                let platform = PlatformNumbers::new(*size, corner).to(corner + *by, 60.0);
                let _ = world.add_platform(&PlatformNumbers { group, ..platform });
            }
            Change::AddCharacter(_) | Change::AddProp(..) | Change::AddPlatform(..) => {}
            Change::Remove(share) => {
                if let Some(id) = who(share).filter(|_| characters.len() > 1) {
                    assert!(world.remove(id) && !world.contains(id) && !world.remove(id));
                }
            }
            Change::RemoveProp(share) => {
                if let Some(id) = which(share) {
                    assert!(world.remove(id) && !world.contains(id));
                }
            }
            Change::RemovePlatform(share) => {
                if let Some(platform) = one_of(&platforms, *share) {
                    assert!(world.remove_platform(platform) && !world.remove_platform(platform));
                }
            }
            Change::MovePlatform(share, by) => {
                if let Some(platform) = one_of(&platforms, *share) {
                    let place = world.platform_report(platform).place;
                    let _ = world.move_platform(platform, DVec2::new(place.left, place.top) + *by);
                }
            }
            Change::Place(share, to) => {
                let _ = who(share).map(|id| world.place(id, at(to)));
            }
            Change::PlaceProp(share, to) => {
                let _ = which(share).map(|id| world.place(id, at(to)));
            }
            Change::Launch(share, velocity, launch) => {
                let _ = who(share).map(|id| world.launch(id, *velocity, *launch).unwrap());
            }
            Change::LaunchProp(share, velocity) => {
                let _ = which(share).map(|id| world.launch(id, *velocity, Launch::default()).unwrap());
            }
            Change::Retune(share, tuning) => {
                let _ = who(share).map(|id| world.retune(id, (**tuning).clone()));
            }
            Change::HoldStill(share, still) => {
                let _ = who(share).map(|id| world.hold_still(id, *still));
            }
            Change::HoldPropStill(share, still) => {
                let _ = which(share).map(|id| world.hold_still(id, *still));
            }
            Change::SetControl(share, by_player) => {
                let _ = who(share).map(|id| world.set_control(id, *by_player));
            }
            Change::Push(share, push) => {
                let _ = who(share).map(|id| world.push(id, *push));
            }
            Change::Drift(share, drift) => {
                let _ = who(share).map(|id| world.drift(id, *drift));
            }
            Change::SetTile(share, kind) => {
                let place = at(share);
                let cell = |along: f64| (along / world.terrain().grid_lines().spacing()) as i32;
                let (column, row) = (cell(place.x), cell(place.y));
                let _ = world.terrain_mut().set_tile(column, row, *kind);
            }
            Change::TakeObjects => world.terrain_mut().set_objects(Vec::new(), Vec::new()).unwrap(),
        }
    }

    fn play(&mut self, script: &[(Vec<Change>, Buttons, usize)]) -> Result<Vec<TickReport>, TestCaseError> {
        let mut reports = Vec::new();
        for (changes, held, ticks) in script {
            changes.iter().for_each(|change| self.change(change));
            for _ in 0..*ticks {
                let before: Vec<(CharacterId, DVec2)> =
                    self.world.characters().map(|character| (character.id(), character.report().feet)).collect();
                self.world.tick_with(|_| *held);
                prop_assert_eq!(self.world.violation(), None, "tick {}", self.world.ticks());
                for (id, feet) in before {
                    let report = self.world.report(id);
                    if !self.world.character(id).has_ended() {
                        prop_assert_eq!(report.from, feet);
                    }
                    let crushed = report.events.contains(&Event::CrushedByTerrain);
                    prop_assert!(!crushed || report.velocity == DVec2::ZERO);
                    reports.push(report.clone());
                }
                reports.extend(self.world.props().map(|id| self.world.report(id).clone()));
            }
        }
        Ok(reports)
    }
}

fn script(tuning: &Tuning) -> impl Strategy<Value = Vec<(Vec<Change>, Buttons, usize)>> + use<> {
    let changes = prop::collection::vec(prop::collection::vec(change(tuning), 0..4), 2..16);
    (changes, buttons()).prop_map(|(changes, held)| {
        let held = held.into_iter().chain(core::iter::repeat((Buttons::NONE, 10)));
        changes.into_iter().zip(held).map(|(changes, (held, ticks))| (changes, held, ticks)).collect()
    })
}

type Case = (Grid, Tuning, Vec<(Vec<Change>, Buttons, usize)>, Vec<(Vec<Change>, Buttons, usize)>);

fn case() -> impl Strategy<Value = Case> {
    (full_grid(), full_tuning()).prop_flat_map(|(grid, tuning)| {
        let (first, second) = (script(&tuning), script(&tuning));
        (Just(grid), Just(tuning), first, second)
    })
}

/// Characters who stop each other, ghosts who meet slabs alone, jars that lie on everything.
fn meetings() -> Meetings {
    let group = |word: &str| Group::new(word).unwrap();
    let [level, pair, ghosts, jars, slabs] = ["level", "pair", "ghosts", "jars", "slabs"].map(group);
    Meetings::new(&[
        (pair, &[level, pair, jars]),
        (ghosts, &[slabs]),
        (jars, &[level, pair, jars, slabs]),
        (slabs, &[ghosts, jars]),
    ])
    .unwrap()
}

/// One in two of all games has groups.
fn game(grid: Grid, tuning: Tuning, seed: u32) -> Option<Game> {
    let size = DVec2::new(grid.width(), grid.height());
    let mut numbers = tuning.numbers().clone();
    numbers.group = Group::new("pair").unwrap();
    let tuning = Tuning::check(&numbers).unwrap();
    let mut world = World::with_platforms(grid, Platforms::new(&[], tuning.rate()).unwrap());
    if seed.is_multiple_of(2) {
        world = world.with_meetings(meetings());
    }
    rooms::places(size.x, size.y, seed).find_map(|feet| world.add_character(tuning.clone(), feet).ok())?;
    Some(Game { world, tuning, size })
}

proptest! {
    #![proptest_config(ProptestConfig { max_shrink_iters: 4000, ..rooms::cases(256) })]

    /// No body is inside of anything unless it says so; and from a saved state everything goes the same way again.
    #[test]
    fn whatever_the_game_does_bodies_keep_to_the_rules((grid, tuning, first, second) in case(), seed in any::<u32>()) {
        let Some(mut game) = game(grid, tuning, seed) else { return Ok(()) };
        game.play(&first)?;
        let (saved, terrain) = (game.world.save(), game.world.terrain().clone());
        let reports = game.play(&second)?;
        let after = game.world.save();
        // By way of bytes, which are all of it.
        let bytes = saved.to_bytes(&game.world);
        let again = Saved::from_bytes(&bytes, &game.world);
        prop_assert_eq!(again.as_ref(), Ok(&saved));
        prop_assert_eq!(again.unwrap().hash(), saved.hash());
        let saved = Saved::from_bytes(&bytes, &game.world).unwrap();
        // A byte that is not as it was is seen.
        let place = seed as usize % bytes.len();
        let mut spoiled = bytes.clone();
        spoiled[place] ^= 1 << (seed % 8);
        prop_assert!(Saved::from_bytes(&spoiled, &game.world).is_err());
        prop_assert!(Saved::from_bytes(&bytes[..place], &game.world).is_err());
        game.world.restore(&saved);
        *game.world.terrain_mut() = terrain;
        let again = game.play(&second)?;
        prop_assert_eq!(reports, again);
        prop_assert_eq!(game.world.save().hash(), after.hash());
        prop_assert_eq!(game.world.save(), after);
    }
}
