//! One long run, pinned to the bit. Run in debug and in release, it must come to the same hash.

use wumple_core::{
    Acceleration, Buttons, DVec2, Edge, Edges, Grid, Hang, Release, Scheme, TileProperties, Tuning, TuningNumbers,
    World,
};

/// A small random generator with a fixed sequence, so that the run never changes.
struct Sequence(u64);

impl Sequence {
    fn next(&mut self) -> u64 {
        self.0 = self.0.wrapping_mul(6_364_136_223_846_793_005).wrapping_add(1_442_695_040_888_963_407);
        self.0 >> 33
    }
}

fn hash_of_a_long_run(scheme: Scheme) -> u64 {
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
    for _ in 0..50_000 {
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

#[test]
fn a_long_run_comes_to_the_pinned_bits_on_two_threads_at_once() {
    let pinned = [
        (Scheme::Exact, "4046fe8094c7ab86"),
        (Scheme::VelocityFirst, "15653c2e7cd70b90"),
        (Scheme::PositionFirst, "13a29957d22827a4"),
    ];
    let hashes = pinned.map(|(scheme, _)| {
        let (one, two) = std::thread::scope(|scope| {
            let (one, two) =
                (scope.spawn(move || hash_of_a_long_run(scheme)), scope.spawn(move || hash_of_a_long_run(scheme)));
            (one.join().unwrap(), two.join().unwrap())
        });
        assert_eq!(one, two);
        format!("{one:016x}")
    });
    assert_eq!(hashes, pinned.map(|(_, hash)| hash));
}
