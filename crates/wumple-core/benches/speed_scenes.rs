// What the library takes, made of what `common` beside it says; `w` is the library. Included by `tick/main.rs`, and by a
// comparison with loops written by hand that is kept elsewhere.
use super::common::*;
use w::numbers::*;
use w::*;

pub(crate) fn buttons(held: &Keys) -> Buttons {
    Buttons {
        left: held.left,
        right: held.right,
        up: held.up,
        down: held.down,
        jump: held.jump,
        grab: held.grab,
        ..Buttons::NONE
    }
}

pub(crate) fn tuning() -> Tuning {
    let mut numbers = TuningNumbers::new(WIDTH, HEIGHT, TOP_SPEED).with_jump(54.0, 0.35);
    numbers.run.acceleration = Acceleration::Time(0.1);
    numbers.run.braking = Acceleration::Time(0.07);
    numbers.run.turning = Acceleration::Time(0.05);
    numbers.fall.top_speed = 260.0;
    Tuning::check(&numbers).unwrap()
}
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
            while_rising: false,
            spends_air_jumps: false,
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
pub(crate) fn kinds() -> [TileProperties; 8] {
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
fn strewn(count: usize, side: usize) -> (Vec<Block>, Vec<Ramp>) {
    let mut sequence = Sequence(17 + seed());
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
fn strewn_platforms(count: usize, side: usize) -> Vec<PlatformNumbers> {
    let mut sequence = Sequence(77 + seed());
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

pub(crate) struct Case {
    pub(crate) grid: Grid,
    pub(crate) tuning: Tuning,
    pub(crate) platforms: Vec<PlatformNumbers>,
    pub(crate) scripts: Vec<Vec<Buttons>>,
    pub(crate) start: DVec2,
}
pub(crate) const SCRIPTS: u64 = 8;

/// A tuning (`plain` jump, `every` extra of a jump, `all` abilities) in a level: `plain` tiles; `rooms`, or `bare-rooms` of
/// nothing but solid tiles; `mixed`, at random; with `objects`, 10,000 blocks and ramps; with 10,000 platforms `away` or all
/// about (`among`).
pub(crate) fn case(tuned: &str, level: &str, side: usize) -> Case {
    let edges = Edges { left: Edge::Solid, right: Edge::Solid, top: Edge::Solid, bottom: Edge::Solid };
    let tuning = match tuned {
        "plain" => tuning(),
        "every" => tuning_with_everything(),
        "all" => tuning_with_all_abilities(),
        _ => panic!(),
    };
    let scripts = (0..SCRIPTS)
        .map(|seed| {
            if tuned == "all" { script_of_all_buttons_of(seed) } else { script_of(seed) }.iter().map(buttons).collect()
        })
        .collect();
    let tiles = match level {
        "mixed" => map_of_everything(side),
        "rooms" => map_of_rooms(side, false),
        "bare-rooms" => map_of_rooms(side, true),
        _ => map(side),
    };
    let kinds8 = kinds();
    let kinds: &[TileProperties] = if tuned == "all" { &kinds8 } else { &kinds8[..2] };
    let mut grid = Grid::new(side, tiles, TILE, kinds, edges).unwrap();
    if level == "objects" {
        let (blocks, ramps) = strewn(10_000, side);
        grid = grid.with_objects(blocks, ramps).unwrap();
    }
    let platforms = match level {
        "away" => strewn_platforms(10_000, side)
            .into_iter()
            .map(|mut platform| {
                platform.route.iter_mut().for_each(|place| place.y *= 0.4);
                platform
            })
            .collect(),
        "among" => strewn_platforms(10_000, side),
        _ => Vec::new(),
    };
    let (x, y) = if level.ends_with("rooms") { start_in_rooms() } else { start(side) };
    Case { grid, tuning, platforms, scripts, start: DVec2::new(x, y) }
}
impl Case {
    pub(crate) fn world(&self) -> (World<&Grid>, CharacterId) {
        let platforms = Platforms::new(&self.platforms, self.tuning.rate()).unwrap();
        let mut world = World::with_platforms(&self.grid, platforms);
        let dab = world.add_character(self.tuning.clone(), self.start).unwrap();
        (world, dab)
    }
}
#[inline(never)]
pub(crate) fn measured_ticks(world: &mut World<&Grid>, script: &[Buttons]) {
    script.iter().for_each(|held| world.tick(&[*std::hint::black_box(held)]));
}
