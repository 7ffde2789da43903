//! After the first, a tick allocates nothing.

mod play;

use wumple_core::{Block, Buttons, DVec2, Edges, Grid, Ramp, Tuning, TuningNumbers, World};

/// Ticks of random-looking buttons; says how many events there were. Nothing may be allocated.
fn tick_without_allocating(grid: Grid, numbers: &TuningNumbers, at: DVec2) -> usize {
    let mut world = World::new(grid);
    let dab = world.add_character(Tuning::check(numbers).unwrap(), at).unwrap();
    world.tick(&[Buttons::NONE]);
    let mut events = 0;
    let counted = allocation_counter::measure(|| {
        for tick in 0u32..20_000 {
            let held = Buttons {
                right: tick % 200 < 120,
                left: tick % 170 < 60,
                jump: tick % 37 < 9,
                up: tick % 111 < 30,
                down: tick % 97 < 20,
                grab: tick % 61 < 30,
                ..Buttons::NONE
            };
            world.tick(&[held]);
            events += world.report(dab).events.len();
        }
    });
    assert_eq!(counted.count_total, 0);
    events
}

#[test]
fn a_tick_allocates_nothing() {
    let rows = ["..........", "..........", "....##....", "..........", "###....###", "##########"];
    let plain = Grid::from_rows(&rows, 16.0, Edges::default()).unwrap();
    assert!(tick_without_allocating(plain, &play::dab(), DVec2::new(24.0, 64.0)) > 500, "something happens");

    let rows = ["..........", "..==.H....", ".....H.=..", "/\\...H...#", "###../\\###", "##########"];
    let ramp = Ramp::new(DVec2::new(50.0, 60.0), DVec2::new(90.0, 40.0)).unwrap();
    let block = Block::new(DVec2::new(120.0, 60.0), 9.0, 4.0);
    let full = Grid::from_rows(&rows, 16.0, Edges::default()).unwrap().with_objects(vec![block], vec![ramp]).unwrap();
    let numbers = TuningNumbers { ladder: play::ladder_climber().ladder, ..play::climber(Some(play::GRAB)) };
    assert!(tick_without_allocating(full, &numbers, DVec2::new(30.0, 40.0)) > 500, "something happens");
}
