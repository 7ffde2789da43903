//! Long runs that come to a hash, for every machine: nothing of `std` is used.

extern crate alloc;

use alloc::collections::BTreeSet;
use alloc::vec;
use alloc::vec::Vec;

use wumple_core::numbers::{
    Acceleration, Bounce, CrumbleNumbers, Ease, Ends, Hang, HoldNumbers, HoldWhen, LadderNumbers, PlatformSurface,
    Release, Scheme, SlideNumbers, SlideWhen, Starts, WallJumpNumbers, WallNumbers,
};
use wumple_core::{
    Block, Buttons, DVec2, Edge, Edges, Grid, Group, Material, Meetings, PlatformNumbers, Platforms, Prop, Ramp,
    Support, Surface, TileProperties, Tuning, TuningNumbers, World,
};

/// A small random generator with a fixed sequence, so that the run never changes.
struct Sequence(u64);

impl Sequence {
    fn next(&mut self) -> u64 {
        self.0 = self.0.wrapping_mul(6_364_136_223_846_793_005).wrapping_add(1_442_695_040_888_963_407);
        self.0 >> 33
    }
}

/// One character who runs and jumps, and nothing else.
pub(crate) fn run(scheme: Scheme, ticks: u32) -> u64 {
    let mut sequence = Sequence(2026);
    let columns = 60;
    let tiles: Vec<u8> = (0..columns * 40).map(|_| u8::from(sequence.next() % 100 < 12)).collect();
    let solid = Edges { left: Edge::Solid, right: Edge::Solid, top: Edge::Solid, bottom: Edge::Solid };
    let grid = Grid::new(columns, tiles, 16.0, &[TileProperties::EMPTY, TileProperties::SOLID], solid).unwrap();

    let mut numbers = TuningNumbers::new(9.3, 15.1, 131.7).with_jump(55.3, 0.347);
    numbers.run.acceleration = Acceleration::Time(0.11);
    numbers.run.braking = Acceleration::Time(0.07);
    numbers.run.turning = Acceleration::Rate(2345.6);
    numbers.fall.top_speed = 311.3;
    numbers.scheme = scheme;
    numbers.fall.gravity_ratio = 1.7;
    let jump = numbers.jump.as_mut().unwrap();
    jump.hang = Some(Hang { speed: 31.7, gravity_ratio: 0.6 });
    jump.release = Release::ToHeight { tap_height: 17.3, further_rise: 3.1 };
    (jump.coyote_time, jump.buffer_time, jump.air_jumps) = (0.1, 0.12, 1);
    jump.waits_for_ground = true;
    let tuning = Tuning::check(&numbers).unwrap();

    let mut world = World::new(grid);
    let id = (0..60)
        .find_map(|column| world.add_character(tuning.clone(), DVec2::new(f64::from(column) * 16.0, 40.0)).ok())
        .unwrap();
    let mut hash = 0xCBF2_9CE4_8422_2325_u64;
    for _ in 0..ticks {
        let bits = sequence.next();
        world.tick(&[Buttons {
            left: bits.is_multiple_of(7),
            right: bits.is_multiple_of(3),
            jump: bits % 5 < 2,
            steer: if bits.is_multiple_of(11) { 0.37 } else { 0.0 },
            ..Buttons::NONE
        }]);
        let report = world.report(id);
        for number in [report.feet.x, report.feet.y, report.velocity.x, report.velocity.y] {
            hash = (hash ^ number.to_bits()).wrapping_mul(0x0100_0000_01B3);
        }
        hash = (hash ^ report.events.len() as u64).wrapping_mul(0x0100_0000_01B3);
    }
    hash
}

/// Platforms of every kind over a room of 800 x 480 px.
fn platforms(sequence: &mut Sequence, rate: f64) -> Platforms {
    let mut place = |most: f64| (sequence.next() % 10_000) as f64 / 1e4 * most;
    let numbers: Vec<PlatformNumbers> = (0..60)
        .map(|index| {
            let corner = DVec2::new(place(760.0), place(440.0));
            let size = DVec2::new(9.0 + place(60.0), 4.0 + place(20.0));
            let mut platform = PlatformNumbers::new(size, corner);
            for _ in 0..index % 4 {
                let to = corner + DVec2::new(place(120.0) - 60.0, place(120.0) - 60.0);
                platform = platform.to(to, 20.0 + place(150.0));
            }
            platform.surface = [PlatformSurface::OneWay, PlatformSurface::Solid][index % 2];
            platform.ends = [Ends::BackAndForth, Ends::Loop, Ends::Once][index % 3];
            platform.ease = [Ease::Linear, Ease::Smooth][index / 2 % 2];
            platform.wait = 0.313 * (index % 2) as f64;
            platform.starts = if index % 5 == 0 { Starts::WhenRidden } else { Starts::AtOnce };
            if index % 7 == 0 {
                platform.crumble =
                    Some(CrumbleNumbers { after: 0.113, sink: 7.7, over: 0.231, back_after: Some(0.517) });
            }
            if index % 11 == 0 {
                platform.material = Material { grip: 0.37, surface_speed: 33.3, bounce: None };
            }
            platform
        })
        .collect();
    Platforms::new(&numbers, rate).unwrap()
}

/// What a long climb came to.
pub(crate) struct Climb {
    pub(crate) hash: u64,
    /// The names of the states that the character was in.
    pub(crate) states: BTreeSet<&'static str>,
    /// In how many ticks it was carried.
    pub(crate) rides: usize,
}

/// The same in a room of everything, by a character with all abilities; with platforms and crates among it
/// if asked.
pub(crate) fn climb(scheme: Scheme, with_platforms: bool, ticks: u32) -> Climb {
    let mut sequence = Sequence(411);
    let columns = 50;
    // Platforms need room to go.
    let every = if with_platforms { 12 } else { 4 };
    let tiles: Vec<u8> = (0..columns * 30)
        .map(|_| if sequence.next().is_multiple_of(every) { (sequence.next() % 9) as u8 } else { 0 })
        .collect();
    let ramp = |left_height, right_height| TileProperties::of(Surface::Ramp { left_height, right_height });
    let with = |material| TileProperties { material, ..TileProperties::SOLID };
    let bounce = Some(Bounce { height: 37.7, release: Release::Cut { keep: 0.31 } });
    let kinds = [
        TileProperties::EMPTY,
        TileProperties::SOLID,
        TileProperties::ONE_WAY,
        TileProperties::LADDER,
        ramp(0.0, 16.0),
        ramp(16.0, 5.3),
        with(Material { grip: 0.3, surface_speed: 41.7, bounce: None }),
        with(Material { bounce, ..Material::PLAIN }),
        TileProperties::LADDER,
    ];
    let solid = Edges { left: Edge::Solid, right: Edge::Solid, top: Edge::Solid, bottom: Edge::Solid };
    let place = |sequence: &mut Sequence, most: f64| (sequence.next() % 10_000) as f64 / 1e4 * most;
    let (mut blocks, mut ramps) = (Vec::new(), Vec::new());
    for _ in 0..40 {
        let at = DVec2::new(place(&mut sequence, 800.0), place(&mut sequence, 480.0));
        blocks.push(Block::new(at, 3.0 + place(&mut sequence, 30.0), 3.0 + place(&mut sequence, 20.0)));
        let by = DVec2::new(10.0 + place(&mut sequence, 80.0), place(&mut sequence, 60.0) - 30.0);
        ramps.extend(Ramp::new(at + DVec2::new(60.0, 20.0), at + by));
    }
    let grid = Grid::new(columns, tiles, 16.0, &kinds, solid).unwrap().with_objects(blocks, ramps).unwrap();

    let mut numbers = TuningNumbers::new(9.3, 15.1, 131.7).with_jump(55.3, 0.347);
    numbers.scheme = scheme;
    numbers.run.acceleration = Acceleration::Time(0.11);
    (numbers.body.corner_nudge, numbers.body.ledge_lift, numbers.body.step_height) = (3.1, 2.3, 5.7);
    (numbers.run.ramp_follow, numbers.air.bump_memory) = (6.1, 0.071);
    numbers.ladder = Some(LadderNumbers {
        probe: 5.3,
        up_speed: 67.3,
        down_speed: 88.1,
        side_speed: 41.9,
        centre: true,
        up_is_jump: false,
    });
    numbers.wall = Some(WallNumbers {
        coyote_time: 0.081,
        slide: Some(SlideNumbers { when: SlideWhen::Pushed, top_speed: 51.3 }),
        jump: Some(WallJumpNumbers { height: 43.1, push_speed: 112.3, steer_lock: 0.141, same_wall: false }),
        hold: Some(HoldNumbers {
            when: HoldWhen::GrabHeld,
            up_speed: 35.3,
            down_speed: 72.7,
            from_ground: true,
            while_rising: false,
            spends_air_jumps: false,
            climb_over: true,
        }),
    });
    let tuning = Tuning::check(&numbers).unwrap();
    let mut world = World::new(grid);
    if with_platforms {
        let platforms = platforms(&mut sequence, tuning.rate());
        world = World::with_platforms(world.terrain().clone(), platforms);
        let mut numbers = TuningNumbers::new(12.7, 11.3, 0.0);
        (numbers.rate, numbers.scheme) = (tuning.rate(), scheme);
        let clay = Tuning::check(&numbers).unwrap();
        for surface in [PlatformSurface::Solid, PlatformSurface::OneWay].repeat(10) {
            let prop = Prop { tuning: clay.clone(), surface, material: Material::PLAIN, zone: None };
            let at = DVec2::new(place(&mut sequence, 780.0), place(&mut sequence, 460.0));
            // Where there is room.
            let _ = world.add_prop(prop, at);
        }
    }
    let id = (0..400)
        .find_map(|try_at| {
            let at = DVec2::new(f64::from(try_at % 50) * 16.0 + 7.0, f64::from(try_at / 50) * 50.0 + 40.0);
            world.add_character(tuning.clone(), at).ok()
        })
        .unwrap();
    let mut hash = 0xCBF2_9CE4_8422_2325_u64;
    let mut states = BTreeSet::new();
    let mut rides = 0;
    let mut held = Buttons::NONE;
    for tick in 0..ticks {
        if tick.is_multiple_of(7) {
            let bits = sequence.next();
            let bit = |at: u32| bits >> at & 1 != 0;
            held = Buttons {
                left: bit(1) && bit(2),
                right: bit(3),
                up: bit(4) && bit(5),
                down: bit(6) && bit(7),
                jump: bit(8),
                grab: bit(9) && bit(10),
                ..Buttons::NONE
            };
        }
        world.tick(&[held]);
        let report = world.report(id);
        states.insert(report.state.name());
        rides += usize::from(report.support.mover().is_some());
        for number in [report.feet.x, report.feet.y, report.velocity.x, report.velocity.y] {
            hash = (hash ^ number.to_bits()).wrapping_mul(0x0100_0000_01B3);
        }
        hash = (hash ^ report.events.len() as u64).wrapping_mul(0x0100_0000_01B3);
    }
    Climb { hash, states, rides }
}

/// What a long crowd came to.
pub(crate) struct Crowd {
    pub(crate) hash: u64,
    /// How often one stood on another.
    pub(crate) carried: usize,
}

/// Five who stop and carry each other, ghosts who meet the mist alone, and jars, among platforms.
pub(crate) fn crowd(scheme: Scheme, ticks: u32) -> Crowd {
    let mut sequence = Sequence(77);
    let group = |word: &str| Group::new(word).unwrap();
    let [pair, ghosts, jars, mist] = ["pair", "ghosts", "jars", "mist"].map(group);
    let kinds = [
        TileProperties::EMPTY,
        TileProperties::SOLID,
        TileProperties::ONE_WAY,
        TileProperties { group: mist, ..TileProperties::SOLID },
    ];
    let tiles = (0..50 * 30).map(|_| if sequence.next().is_multiple_of(9) { (sequence.next() % 4) as u8 } else { 0 });
    let solid = Edges { left: Edge::Solid, right: Edge::Solid, top: Edge::Solid, bottom: Edge::Solid };
    let grid = Grid::new(50, tiles.collect(), 16.0, &kinds, solid).unwrap();
    let rows: [(Group, &[Group]); 3] =
        [(pair, &[Group::LEVEL, pair, jars]), (ghosts, &[Group::LEVEL]), (jars, &[Group::LEVEL, pair, jars, mist])];
    let platforms = platforms(&mut sequence, 60.0);
    let mut world = World::with_platforms(grid, platforms).with_meetings(Meetings::new(&rows).unwrap());
    let body = |word: Group, width: f64, height: f64, place: u32| {
        let mut numbers = TuningNumbers::new(width, height, 111.3).with_jump(49.7, 0.331);
        (numbers.scheme, numbers.group) = (scheme, word);
        let at = DVec2::new(f64::from(place * 97 % 760) + 20.0, f64::from(place * 61 % 400) + 40.0);
        (Tuning::check(&numbers).unwrap(), at)
    };
    for place in 0..12 {
        let (tuning, at) = body(jars, 12.7, 11.3, place);
        let _ = world.add_prop(Prop::new(tuning), at);
        let (tuning, at) = body(if place % 5 == 4 { ghosts } else { pair }, 9.3, 15.1, 40 + place);
        let _ = world.add_character(tuning, at);
    }
    let (mut hash, mut carried) = (0xCBF2_9CE4_8422_2325_u64, 0);
    let mut held = vec![Buttons::NONE; world.characters().len()];
    for tick in 0..ticks {
        if tick.is_multiple_of(7) {
            for held in &mut held {
                let bits = sequence.next();
                let bit = |at: u32| bits >> at & 1 != 0;
                *held = Buttons { left: bit(1) && bit(2), right: bit(3), jump: bit(4), ..Buttons::NONE };
            }
        }
        world.tick(&held);
        carried += world.characters().filter(|of| matches!(of.report().support, Support::Character(_))).count();
        let props = world.props().map(|prop| world.report(prop));
        for report in world.characters().map(|of| of.report()).chain(props) {
            for number in [report.feet.x, report.feet.y, report.velocity.x, report.velocity.y] {
                hash = (hash ^ number.to_bits()).wrapping_mul(0x0100_0000_01B3);
            }
            hash = (hash ^ report.events.len() as u64).wrapping_mul(0x0100_0000_01B3);
        }
    }
    Crowd { hash, carried }
}
