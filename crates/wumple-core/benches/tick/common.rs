//! What is measured, without the library: sizes, maps and scripts, all from seeds.
//!
//! `../speed_scenes.rs` makes of it what the library takes, here and where it is compared with loops written by hand:
//! there it finds these names too.

pub(crate) const TILE: f64 = 16.0;
/// Ticks of a script.
pub(crate) const TICKS: usize = 4096;
/// Tiles a side, where one size is enough.
pub(crate) const SIDE: usize = 1000;
pub(crate) const WIDTH: f64 = 10.0;
pub(crate) const HEIGHT: f64 = 14.0;
pub(crate) const TOP_SPEED: f64 = 120.0;

/// What is held in a tick.
#[derive(Clone, Copy, Default)]
pub(crate) struct Keys {
    pub(crate) left: bool,
    pub(crate) right: bool,
    pub(crate) up: bool,
    pub(crate) down: bool,
    pub(crate) jump: bool,
    pub(crate) grab: bool,
}

/// What all seeds are counted from.
pub(crate) fn seed() -> u64 {
    0
}

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

/// Where the feet start on it, px.
pub(crate) fn start(side: usize) -> (f64, f64) {
    ((side / 2) as f64 * TILE + 8.0, (side / 2) as f64 * TILE)
}

/// Left, right and jump at random, each held for a while.
pub(crate) fn script_of(seed: u64) -> Vec<Keys> {
    random_keys(Sequence(11 + seed * 1000), false)
}

/// All buttons at random, each held for a while.
pub(crate) fn script_of_all_buttons_of(seed: u64) -> Vec<Keys> {
    random_keys(Sequence(19 + seed * 1000), true)
}

fn random_keys(mut sequence: Sequence, all: bool) -> Vec<Keys> {
    let mut script = Vec::with_capacity(TICKS);
    while script.len() < TICKS {
        let bits = sequence.next();
        let mut held = Keys { left: bits & 1 != 0, right: bits & 2 != 0, jump: bits & 4 != 0, ..Keys::default() };
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

/// The same map with every other tile of another kind.
pub(crate) fn map_of_everything(side: usize) -> Vec<u8> {
    let mut sequence = Sequence(13);
    let edge = |index: usize| {
        index.is_multiple_of(side) || index % side == side - 1 || index < side || index >= side * (side - 1)
    };
    let tiles = map(side).into_iter().enumerate();
    tiles
        .map(|(index, tile)| if tile == 0 || edge(index) { tile } else { (sequence.next() % 8).max(1) as u8 })
        .collect()
}

/// Rooms of 40 x 22 tiles: floors, hills with ramps, ledges, shelves with a ladder through them, belts, and a door to
/// the next. `bare`: without ramps, shelves and ladders, a belt being a floor.
pub(crate) fn map_of_rooms(side: usize, bare: bool) -> Vec<u8> {
    const ROOM: (usize, usize) = (40, 22);
    let mut sequence = Sequence(29);
    let mut tiles = vec![0u8; side * side];
    let mut set = |column: usize, row: usize, kind: u8| {
        let kind = match kind {
            6 if bare => 1,
            2.. if bare => 0,
            kind => kind,
        };
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

/// Where the floor of a room is free, px.
pub(crate) fn start_in_rooms() -> (f64, f64) {
    ((12 * 40 + 2) as f64 * TILE + 8.0, (22 * 22 + 22) as f64 * TILE)
}
