//! After the first, a tick allocates nothing.

use wumple_core::{Buttons, DVec2, Edges, Grid, Tuning, TuningNumbers, World};

#[test]
fn a_tick_allocates_nothing() {
    let rows = ["..........", "..........", "....##....", "..........", "###....###", "##########"];
    let mut world = World::new(Grid::from_rows(&rows, 16.0, Edges::default()).unwrap());
    let tuning = Tuning::check(&TuningNumbers::new(10.0, 22.0, 120.0).with_jump(54.0, 0.35)).unwrap();
    let dab = world.add_character(tuning, DVec2::new(24.0, 64.0)).unwrap();
    world.tick(&[Buttons::NONE]);
    let mut events = 0;
    let counted = allocation_counter::measure(|| {
        for tick in 0u32..20_000 {
            let held = Buttons { right: tick % 200 < 120, left: tick % 170 < 60, jump: tick % 37 < 9, ..Buttons::NONE };
            world.tick(&[held]);
            events += world.report(dab).events.len();
        }
    });
    assert!(events > 500, "a run in which something happens");
    assert_eq!(counted.count_total, 0);
}
