//! What is measured: levels, tunings and scripts, all from seeds.

use wumple_core::numbers::{
    Acceleration, Hang, HoldNumbers, HoldWhen, LadderNumbers, Release, SlideNumbers, SlideWhen, WallJumpNumbers,
    WallNumbers,
};
use wumple_core::{
    Block, Buttons, DVec2, Edge, Edges, Grid, Material, PlatformNumbers, Platforms, Ramp, Surface, TileProperties,
    Tuning, TuningNumbers, World,
};

pub(crate) const TILE: f64 = 16.0;
/// Ticks of a script.
pub(crate) const TICKS: usize = 4096;
/// So many scripts there are of a kind.
pub(crate) const SCRIPTS: u64 = 8;
/// Tiles a side, where one size is enough.
pub(crate) const SIDE: usize = 1000;
pub(crate) const WIDTH: f64 = 10.0;
pub(crate) const HEIGHT: f64 = 14.0;
pub(crate) const TOP_SPEED: f64 = 120.0;

pub(crate) struct Sequence(pub(crate) u64);

impl Sequence {
    pub(crate) fn next(&mut self) -> u64 {
        self.0 = self.0.wrapping_mul(6_364_136_223_846_793_005).wrapping_add(1_442_695_040_888_963_407);
        self.0 >> 33
    }
}

/// A square map, one tile in eight solid, walled all around, with a free place at its middle.
pub(crate) fn map(side: usize) -> Vec<u8> {
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

pub(crate) fn start(side: usize) -> DVec2 {
    DVec2::new((side / 2) as f64 * TILE + 8.0, (side / 2) as f64 * TILE)
}

/// Random buttons, each held for a while: left, right and jump, or all.
pub(crate) fn script(seed: u64, all: bool) -> Vec<Buttons> {
    let mut sequence = Sequence(if all { 19 } else { 11 } + seed * 1000);
    let mut script = Vec::with_capacity(TICKS);
    while script.len() < TICKS {
        let bits = sequence.next();
        let mut held = Buttons { left: bits & 1 != 0, right: bits & 2 != 0, jump: bits & 4 != 0, ..Buttons::NONE };
        if all {
            let more = sequence.next();
            (held.up, held.down, held.grab) = (more.is_multiple_of(5), more.is_multiple_of(7), more.is_multiple_of(3));
        }
        let ticks = sequence.next() % 20 + 1;
        script.extend(std::iter::repeat_n(held, ticks as usize));
    }
    script.truncate(TICKS);
    script
}

pub(crate) fn tuning() -> Tuning {
    let mut numbers = TuningNumbers::new(WIDTH, HEIGHT, TOP_SPEED).with_jump(54.0, 0.35);
    numbers.run.acceleration = Acceleration::Time(0.1);
    numbers.run.braking = Acceleration::Time(0.07);
    numbers.run.turning = Acceleration::Time(0.05);
    numbers.fall.top_speed = 260.0;
    Tuning::check(&numbers).unwrap()
}

/// The same with all that a jump can have.
pub(crate) fn tuning_with_everything() -> Tuning {
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
pub(crate) fn tuning_with_all_abilities() -> Tuning {
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

/// Rooms of 40 x 22 tiles: floors, hills with ramps, ledges, shelves with a ladder through them, belts, and a door to
/// the next.
fn map_of_rooms(side: usize) -> Vec<u8> {
    const ROOM: (usize, usize) = (40, 22);
    let mut sequence = Sequence(29);
    let mut tiles = vec![0u8; side * side];
    let mut set = |column: usize, row: usize, kind: u8| {
        if column < side && row < side {
            tiles[row * side + column] = kind;
        }
    };
    for top in (0..side).step_by(ROOM.1) {
        for left in (0..side).step_by(ROOM.0) {
            (0..ROOM.0).for_each(|column| set(left + column, top, 1));
            // A wall, with a door at its foot.
            (0..17).for_each(|row| set(left, top + row, 1));
            let mut up_to = |most: u64| (sequence.next() % most) as usize;
            let (hill, long, high) = (left + 5 + up_to(6), 3 + up_to(5), 1 + up_to(3));
            for step in 0..high {
                let (row, end) = (top + 21 - step, hill + 2 * high + long - step);
                set(hill + step, row, 4);
                (hill + step + 1..end).for_each(|column| set(column, row, 1));
                set(end, row, 5);
            }
            for (place, kind) in [1, 2, 6, 2].into_iter().enumerate() {
                let (column, row, long) = (left + 4 + up_to(28), top + 5 + 4 * place, 4 + up_to(5));
                (0..long).for_each(|along| set(column + along, row, kind));
                if kind == 2 {
                    (1..6).for_each(|down| set(column + long / 2, row + down, 3));
                }
            }
        }
    }
    for index in 0..side {
        for at in [index, (side - 1) * side + index, index * side, index * side + side - 1] {
            tiles[at] = 1;
        }
    }
    tiles
}

/// What is measured together.
pub(crate) struct Case {
    pub(crate) grid: Grid,
    tuning: Tuning,
    platforms: Vec<PlatformNumbers>,
    pub(crate) scripts: Vec<Vec<Buttons>>,
    start: DVec2,
}

impl Case {
    /// A tuning (`plain` jump, `every` extra of a jump, `all` abilities) in a level: `plain` tiles; `rooms`; `mixed`, at
    /// random; with `objects`, 10,000 blocks and ramps; with 10,000 platforms `away` or all about (`among`).
    pub(crate) fn new(tuned: &str, level: &str, side: usize) -> Case {
        let tuning = match tuned {
            "plain" => tuning(),
            "every" => tuning_with_everything(),
            _ => tuning_with_all_abilities(),
        };
        let tiles = match level {
            "mixed" => map_of_everything(side),
            "rooms" => map_of_rooms(side),
            _ => map(side),
        };
        let edges = Edges { left: Edge::Solid, right: Edge::Solid, top: Edge::Solid, bottom: Edge::Solid };
        let mut grid = Grid::new(side, tiles, TILE, &kinds(), edges).unwrap();
        if level == "objects" {
            let (blocks, ramps) = strewn(10_000, side);
            grid = grid.with_objects(blocks, ramps).unwrap();
        }
        let mut platforms = match level {
            "away" | "among" => strewn_platforms(10_000, side),
            _ => Vec::new(),
        };
        if level == "away" {
            platforms.iter_mut().flat_map(|platform| &mut platform.route).for_each(|place| place.y *= 0.4);
        }
        let room = DVec2::new((12 * 40 + 2) as f64 * TILE + 8.0, (22 * 22 + 22) as f64 * TILE);
        let start = if level == "rooms" { room } else { start(side) };
        let scripts = (0..SCRIPTS).map(|seed| script(seed, tuned == "all")).collect();
        Case { grid, tuning, platforms, scripts, start }
    }

    /// So many characters at the start.
    pub(crate) fn world(&self, characters: usize) -> World<&Grid> {
        let platforms = Platforms::new(&self.platforms, self.tuning.rate()).unwrap();
        let mut world = World::with_platforms(&self.grid, platforms);
        for _ in 0..characters {
            world.add_character(self.tuning.clone(), self.start).unwrap();
        }
        world
    }
}
