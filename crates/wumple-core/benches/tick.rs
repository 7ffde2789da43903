//! One tick over a random map, beside the least that a hand-written loop can do, on maps of three sizes.

use std::hint::black_box;

use criterion::{BenchmarkId, Criterion, Throughput, criterion_group, criterion_main};
use wumple_core::{
    Acceleration, Block, Buttons, DVec2, Edge, Edges, Grid, Hang, HoldNumbers, HoldWhen, LadderNumbers, Material,
    PlatformNumbers, Platforms, Ramp, Release, Saved, SlideNumbers, SlideWhen, Surface, TileProperties, Tuning,
    TuningNumbers, WallJumpNumbers, WallNumbers, World,
};

const TILE: f64 = 16.0;
const TICKS: usize = 4096;
/// Tiles a side, where one size is enough.
const SIDE: usize = 1000;
const WIDTH: f64 = 10.0;
const HEIGHT: f64 = 14.0;
const TOP_SPEED: f64 = 120.0;

struct Sequence(u64);

impl Sequence {
    fn next(&mut self) -> u64 {
        self.0 = self.0.wrapping_mul(6_364_136_223_846_793_005).wrapping_add(1_442_695_040_888_963_407);
        self.0 >> 33
    }
}

/// A square map, one tile in eight solid, walled all around, with a free place at its middle.
fn map(side: usize) -> Vec<u8> {
    let mut sequence = Sequence(7);
    let mut tiles: Vec<u8> = (0..side * side).map(|_| u8::from(sequence.next() % 100 < 12)).collect();
    for index in 0..side {
        for at in [index, (side - 1) * side + index, index * side, index * side + side - 1] {
            tiles[at] = 1;
        }
    }
    for row in side / 2 - 2..side / 2 + 1 {
        tiles[row * side + side / 2 - 1..row * side + side / 2 + 2].fill(0);
    }
    tiles
}

fn start(side: usize) -> DVec2 {
    DVec2::new((side / 2) as f64 * TILE + 8.0, (side / 2) as f64 * TILE)
}

/// Random buttons, each held for a while.
fn script() -> Vec<Buttons> {
    let mut sequence = Sequence(11);
    let mut script = Vec::with_capacity(TICKS);
    while script.len() < TICKS {
        let (bits, ticks) = (sequence.next(), sequence.next() % 20 + 1);
        let held = Buttons { left: bits & 1 != 0, right: bits & 2 != 0, jump: bits & 4 != 0, ..Buttons::NONE };
        script.extend(std::iter::repeat_n(held, ticks as usize));
    }
    script.truncate(TICKS);
    script
}

fn tuning() -> Tuning {
    let mut numbers = TuningNumbers::new(WIDTH, HEIGHT, TOP_SPEED).with_jump(54.0, 0.35);
    numbers.run.acceleration = Acceleration::Time(0.1);
    numbers.run.braking = Acceleration::Time(0.07);
    numbers.run.turning = Acceleration::Time(0.05);
    numbers.fall.top_speed = 260.0;
    Tuning::check(&numbers).unwrap()
}

/// The same with all that a jump can have.
fn tuning_with_everything() -> Tuning {
    let mut numbers = tuning().numbers().clone();
    (numbers.fall.gravity_ratio, numbers.fall.plunge_ratio) = (1.7, 1.5);
    numbers.air.acceleration = Some(Acceleration::Time(0.18));
    numbers.air.braking = Some(Acceleration::Time(0.35));
    let jump = numbers.jump.as_mut().unwrap();
    jump.release = Release::ToHeight { tap_height: 18.0, further_rise: 3.0 };
    jump.hang = Some(Hang { speed: 20.0, gravity_ratio: 0.6 });
    (jump.coyote_time, jump.buffer_time, jump.air_jumps) = (0.09, 0.12, 1);
    jump.waits_for_ground = true;
    Tuning::check(&numbers).unwrap()
}

/// The same with all abilities.
fn tuning_with_all_abilities() -> Tuning {
    let mut numbers = tuning_with_everything().numbers().clone();
    (numbers.body.corner_nudge, numbers.body.ledge_lift, numbers.body.step_height) = (3.0, 2.0, 4.0);
    numbers.air.bump_memory = 0.07;
    numbers.wall = Some(WallNumbers {
        coyote_time: 0.08,
        slide: Some(SlideNumbers { when: SlideWhen::Pushed, top_speed: 50.0 }),
        jump: Some(WallJumpNumbers { height: 40.0, push_speed: 110.0, steer_lock: 0.14, same_wall: false }),
        hold: Some(HoldNumbers {
            when: HoldWhen::GrabHeld,
            up_speed: 35.0,
            down_speed: 70.0,
            from_ground: false,
            climb_over: true,
        }),
    });
    numbers.ladder = Some(LadderNumbers {
        probe: 5.0,
        up_speed: 67.0,
        down_speed: 88.0,
        side_speed: 40.0,
        centre: true,
        up_is_jump: false,
    });
    Tuning::check(&numbers).unwrap()
}

/// What tiles can be, for the levels that have all of it.
fn kinds() -> [TileProperties; 8] {
    let ramp = |left_height, right_height| TileProperties::of(Surface::Ramp { left_height, right_height });
    let belt = Material { surface_speed: 40.0, ..Material::PLAIN };
    [
        TileProperties::EMPTY,
        TileProperties::SOLID,
        TileProperties::ONE_WAY,
        TileProperties::LADDER,
        ramp(0.0, TILE),
        ramp(TILE, 0.0),
        TileProperties { material: belt, ..TileProperties::SOLID },
        ramp(0.0, 8.0),
    ]
}

/// The same map with every other tile of another kind.
fn map_of_everything(side: usize) -> Vec<u8> {
    let mut sequence = Sequence(13);
    let edge = |index: usize| {
        index.is_multiple_of(side) || index % side == side - 1 || index < side || index >= side * (side - 1)
    };
    let tiles = map(side).into_iter().enumerate();
    tiles
        .map(|(index, tile)| if tile == 0 || edge(index) { tile } else { (sequence.next() % 8).max(1) as u8 })
        .collect()
}

/// So many blocks and drawn ramps, strewn over a map but for its middle.
fn strewn(count: usize, side: usize) -> (Vec<Block>, Vec<Ramp>) {
    let mut sequence = Sequence(17);
    let size = side as f64 * TILE;
    let mut place = || (sequence.next() % 1_000_000) as f64 / 1e6 * (size - 200.0) + 50.0;
    let middle = size / 2.0;
    let (mut blocks, mut ramps) = (Vec::new(), Vec::new());
    while blocks.len() < count / 2 {
        let at = DVec2::new(place(), place());
        if (at - DVec2::splat(middle)).abs().max_element() > 60.0 {
            blocks.push(Block::new(at, 40.0, 23.0));
            ramps.push(Ramp::new(at, at + DVec2::new(60.0, -25.0)).expect("not upright"));
        }
    }
    (blocks, ramps)
}

/// What a hand-written loop does at the least: gravity, run, jump, a byte grid, two axes. It tests the
/// tiles where the body would be and puts it back beside the one it met.
struct Bare<'a> {
    tiles: &'a [u8],
    side: usize,
    x: f64,
    y: f64,
    vx: f64,
    vy: f64,
    grounded: bool,
    held: bool,
}

impl Bare<'_> {
    fn solid(&self, x: f64, y: f64) -> bool {
        let (column, row) = ((x / TILE) as usize, (y / TILE) as usize);
        self.tiles[row * self.side + column] != 0
    }

    fn hits(&self) -> bool {
        let (left, right) = (self.x - WIDTH / 2.0, self.x + WIDTH / 2.0 - 0.001);
        let (top, bottom) = (self.y - HEIGHT, self.y - 0.001);
        self.solid(left, top) || self.solid(right, top) || self.solid(left, bottom) || self.solid(right, bottom)
    }

    fn tick(&mut self, buttons: &Buttons) {
        const DT: f64 = 1.0 / 60.0;
        let target = (f64::from(u8::from(buttons.right)) - f64::from(u8::from(buttons.left))) * TOP_SPEED;
        let step = 1200.0 * DT;
        self.vx = if self.vx < target { (self.vx + step).min(target) } else { (self.vx - step).max(target) };
        if buttons.jump && !self.held && self.grounded {
            self.vy = -308.0;
        }
        self.held = buttons.jump;
        self.vy = (self.vy + 881.0 * DT).min(260.0);
        self.x += self.vx * DT;
        if self.hits() {
            self.x = if self.vx > 0.0 {
                ((self.x + WIDTH / 2.0) / TILE).floor() * TILE - WIDTH / 2.0
            } else {
                ((self.x - WIDTH / 2.0) / TILE).floor() * TILE + TILE + WIDTH / 2.0
            };
            self.vx = 0.0;
        }
        self.y += self.vy * DT;
        self.grounded = false;
        if self.hits() {
            if self.vy > 0.0 {
                self.y = (self.y / TILE).floor() * TILE;
                self.grounded = true;
            } else {
                self.y = ((self.y - HEIGHT) / TILE).floor() * TILE + TILE + HEIGHT;
            }
            self.vy = 0.0;
        }
    }
}

fn ticks(criterion: &mut Criterion) {
    let (script, tuning, everything) = (script(), tuning(), tuning_with_everything());
    let edges = Edges { left: Edge::Solid, right: Edge::Solid, top: Edge::Solid, bottom: Edge::Solid };
    let mut group = criterion.benchmark_group("tick");
    group.throughput(Throughput::Elements(TICKS as u64));
    for side in [100, 1000, 10_000] {
        let tiles = map(side);
        let mut bare = Bare {
            tiles: &tiles,
            side,
            x: start(side).x,
            y: start(side).y,
            vx: 0.0,
            vy: 0.0,
            grounded: false,
            held: false,
        };
        let mut travelled = 0.0;
        script.iter().for_each(|held| {
            let before = bare.x;
            bare.tick(held);
            travelled += (bare.x - before).abs();
        });
        assert!(travelled > 500.0, "the bare loop moves about");
        group.bench_function(BenchmarkId::new("bare loop", side), |bencher| {
            bencher.iter(|| {
                script.iter().for_each(|held| bare.tick(black_box(held)));
                bare.x
            });
        });

        let kinds = [TileProperties::EMPTY, TileProperties::SOLID];
        let grid = Grid::new(side, tiles.clone(), TILE, &kinds, edges).unwrap();
        for (name, tuning) in [("character", &tuning), ("everything on", &everything)] {
            let mut world = World::new(&grid);
            let dab = world.add_character(tuning.clone(), start(side)).unwrap();
            let mut travelled = 0.0;
            script.iter().for_each(|held| {
                let before = world.report(dab).feet.x;
                world.tick(&[*held]);
                travelled += (world.report(dab).feet.x - before).abs();
            });
            assert!(travelled > 500.0 && world.violation().is_none(), "the character moves about");
            group.bench_function(BenchmarkId::new(name, side), |bencher| {
                bencher.iter(|| {
                    script.iter().for_each(|held| world.tick(&[*black_box(held)]));
                    world.report(dab).feet.x
                });
            });
        }
    }
    group.finish();
}

/// A character with all abilities: on plain tiles, in a level of all kinds of tile, and with thousands of
/// blocks and drawn ramps beside none.
fn abilities(criterion: &mut Criterion) {
    let (script, tuning) = (script_of_all_buttons(), tuning_with_all_abilities());
    let edges = Edges { left: Edge::Solid, right: Edge::Solid, top: Edge::Solid, bottom: Edge::Solid };
    let plain = || Grid::new(SIDE, map(SIDE), TILE, &kinds(), edges).unwrap();
    let (blocks, ramps) = strewn(10_000, SIDE);
    let levels = [
        ("on plain tiles", plain()),
        ("of everything", Grid::new(SIDE, map_of_everything(SIDE), TILE, &kinds(), edges).unwrap()),
        ("with 10,000 blocks and ramps", plain().with_objects(blocks, ramps).unwrap()),
    ];
    let mut group = criterion.benchmark_group("all abilities");
    group.throughput(Throughput::Elements(TICKS as u64));
    for (name, grid) in &levels {
        let mut world = World::new(grid);
        let dab = world.add_character(tuning.clone(), start(SIDE)).unwrap();
        let mut states = std::collections::BTreeSet::new();
        for held in &script {
            world.tick(&[*held]);
            states.insert(world.report(dab).state.name());
        }
        assert!(states.len() > 4 && world.violation().is_none(), "the character does all kinds of things: {states:?}");
        group.bench_function(*name, |bencher| {
            bencher.iter(|| {
                script.iter().for_each(|held| world.tick(&[*black_box(held)]));
                world.report(dab).feet.x
            });
        });
    }
    group.finish();
}

/// Ten thousand platforms on a level beside none; and many characters beside one.
fn platforms(criterion: &mut Criterion) {
    let edges = Edges { left: Edge::Solid, right: Edge::Solid, top: Edge::Solid, bottom: Edge::Solid };
    let kinds = [TileProperties::EMPTY, TileProperties::SOLID];
    let grid = Grid::new(SIDE, map(SIDE), TILE, &kinds, edges).unwrap();
    let tunings =
        [("character", tuning(), script()), ("all abilities", tuning_with_all_abilities(), script_of_all_buttons())];
    let mut group = criterion.benchmark_group("platforms");
    group.throughput(Throughput::Elements(TICKS as u64));
    // None; all where the character does not come; all about it, so that it runs into them again and again.
    let far = strewn_platforms(10_000, SIDE).into_iter().map(|mut platform| {
        platform.route.iter_mut().for_each(|place| place.y = place.y * 0.4 + SIDE as f64 * TILE * 0.5);
        platform
    });
    let places =
        [("none", Vec::new()), ("10,000 far away", far.collect()), ("among 10,000", strewn_platforms(10_000, SIDE))];
    for (name, tuning, script) in &tunings {
        for (where_they_are, numbers) in &places {
            let platforms = Platforms::new(numbers, tuning.rate()).unwrap();
            let mut world = World::with_platforms(&grid, platforms);
            let dab = world.add_character(tuning.clone(), start(SIDE)).unwrap();
            script.iter().for_each(|held| world.tick(&[*held]));
            assert!(world.violation().is_none() && !world.character(dab).has_ended());
            group.bench_function(BenchmarkId::new(*name, *where_they_are), |bencher| {
                bencher.iter(|| {
                    script.iter().for_each(|held| world.tick(&[*black_box(held)]));
                    world.report(dab).feet.x
                });
            });
        }
    }
    group.finish();

    let mut group = criterion.benchmark_group("characters");
    let (_, tuning, script) = &tunings[0];
    for count in [1, 100] {
        let platforms = Platforms::new(&strewn_platforms(10_000, SIDE), tuning.rate()).unwrap();
        let mut world = World::with_platforms(&grid, platforms);
        let first = world.add_character(tuning.clone(), start(SIDE)).unwrap();
        for _ in 1..count {
            world.add_character(tuning.clone(), start(SIDE)).unwrap();
        }
        let mut travelled = 0.0;
        for held in script {
            let before = world.report(first).feet.x;
            world.tick(&vec![*held; count]);
            travelled += (world.report(first).feet.x - before).abs();
        }
        assert!(travelled > 500.0, "the characters move about");
        group.throughput(Throughput::Elements((TICKS * count) as u64));
        let held: Vec<Vec<Buttons>> = script.iter().map(|held| vec![*held; count]).collect();
        group.bench_function(BenchmarkId::from_parameter(count), |bencher| {
            bencher.iter(|| {
                held.iter().for_each(|held| world.tick(black_box(held)));
                world.report(first).feet.x
            });
        });
    }
    group.finish();
}

/// Platforms on routes of some tiles, strewn over a level of so many tiles a side.
fn strewn_platforms(count: usize, side: usize) -> Vec<PlatformNumbers> {
    let mut sequence = Sequence(77);
    let across = side as f64 * TILE;
    let mut place = |most: f64| (sequence.next() % 100_000) as f64 / 1e5 * most;
    (0..count)
        .map(|_| {
            let corner = DVec2::new(place(across - 300.0) + 100.0, place(across - 300.0) + 100.0);
            let size = DVec2::new(16.0 + place(48.0), 8.0);
            let to = corner + DVec2::new(place(200.0) - 100.0, place(200.0) - 100.0);
            PlatformNumbers::new(size, corner).to(to, 20.0 + place(100.0))
        })
        .collect()
}

/// Random buttons of all kinds, each held for a while.
fn script_of_all_buttons() -> Vec<Buttons> {
    let mut sequence = Sequence(19);
    let climbing = |held: Buttons| {
        let bits = sequence.next();
        Buttons { up: bits.is_multiple_of(5), down: bits.is_multiple_of(7), grab: bits.is_multiple_of(3), ..held }
    };
    script().into_iter().map(climbing).collect()
}

/// Going back over a network: save a state, restore one, and make eight ticks again.
fn going_back(criterion: &mut Criterion) {
    const AGAIN: usize = 8;
    let grid = Grid::new(SIDE, map(SIDE), TILE, &kinds(), Edges::default()).unwrap();
    let mut group = criterion.benchmark_group("going-back");
    for (name, platforms) in [("two characters", 0), ("two characters, 100 platforms", 100)] {
        let platforms = Platforms::new(&strewn_platforms(platforms, SIDE), tuning().rate()).unwrap();
        let mut world = World::with_platforms(&grid, platforms);
        let ids = [0, 1].map(|_| world.add_character(tuning(), start(SIDE)).unwrap());
        let script = script();
        let held: Vec<[Buttons; 2]> = script.iter().map(|held| [*held, *held]).collect();
        held[..600].iter().for_each(|held| world.tick(held));
        let mut saved = world.save();
        println!("{name}: a saved state takes {} bytes", saved.size_in_bytes());
        held[600..][..AGAIN].iter().for_each(|held| world.tick(held));
        let there = world.report(ids[1]).clone();
        let again = |world: &mut World<&Grid>, saved: &Saved| {
            world.restore(saved);
            held[600..][..AGAIN].iter().for_each(|held| world.tick(black_box(held)));
        };
        again(&mut world, &saved);
        assert_eq!(world.report(ids[1]), &there, "the same again, to the bit");
        group.bench_function(BenchmarkId::new("save", name), |bencher| {
            bencher.iter(|| world.save_into(black_box(&mut saved)));
        });
        group.bench_function(BenchmarkId::new("restore", name), |bencher| {
            bencher.iter(|| world.restore(black_box(&saved)));
        });
        world.restore(&saved);
        group.throughput(Throughput::Elements(AGAIN as u64));
        group.bench_function(BenchmarkId::new("restore and eight ticks", name), |bencher| {
            bencher.iter(|| again(&mut world, &saved));
        });
    }
    group.finish();
}

criterion_group!(benches, ticks, abilities, platforms, going_back);
criterion_main!(benches);
