//! Platforms, a crate and two characters in one world; and a tick gone back to.

use wumple::numbers::{Bounce, CrumbleNumbers, PlatformSurface, Release};
use wumple::{Buttons, DVec2, Edges, Grid, Material, PlatformNumbers, Platforms, Prop, Tuning, TuningNumbers, World};

fn main() -> Result<(), Box<dyn std::error::Error>> {
    let mut rows = ["...................."; 10];
    rows[9] = "####################";
    let map = Grid::from_rows(&rows, 16.0, Edges::default())?;

    // A hoist 3 tiles wide, up and down between two heights at 40 px/s; a slab that crumbles; bellows.
    let hoist = PlatformNumbers::new(DVec2::new(48.0, 6.0), DVec2::new(32.0, 136.0)).to(DVec2::new(32.0, 64.0), 40.0);
    let hoist = PlatformNumbers { surface: PlatformSurface::OneWay, ..hoist };
    let crumble = Some(CrumbleNumbers { after: 0.3, sink: 10.0, over: 0.5, back_after: Some(2.0) });
    let slab = PlatformNumbers { crumble, ..PlatformNumbers::new(DVec2::new(32.0, 6.0), DVec2::new(112.0, 96.0)) };
    let bounce = Some(Bounce { height: 70.0, release: Release::None });
    let bellows = PlatformNumbers {
        material: Material { bounce, ..Material::PLAIN },
        ..PlatformNumbers::new(DVec2::new(32.0, 8.0), DVec2::new(192.0, 136.0))
    };
    let numbers = TuningNumbers::new(10.0, 22.0, 120.0).with_jump(54.0, 0.35);
    let mut world = World::with_platforms(map, Platforms::new(&[hoist, slab, bellows], numbers.rate)?);

    // A crate is a body without buttons; its tuning says how large it is and how it falls.
    let clay = Tuning::check(&TuningNumbers::new(14.0, 14.0, 0.0))?;
    let clay = Prop { tuning: clay, surface: PlatformSurface::Solid, material: Material::PLAIN, zone: None };
    let clay = world.add_prop(clay, DVec2::new(70.0, 136.0))?;

    // Two characters, each with a tuning of its own: Dab, and the master, who is taller and slower.
    let dab = world.add_character(Tuning::check(&numbers)?, DVec2::new(42.0, 136.0))?;
    let master = TuningNumbers::new(12.0, 30.0, 80.0).with_jump(40.0, 0.35);
    let master = world.add_character(Tuning::check(&master)?, DVec2::new(204.0, 100.0))?;

    let held = |tick: u64| {
        let dab = Buttons { right: tick > 125, jump: tick > 130, ..Buttons::NONE };
        [dab, Buttons::NONE]
    };
    let mut half_way = None;
    for tick in 1..=240 {
        if tick == 120 {
            half_way = Some(world.save());
        }
        world.tick(&held(tick));
        for (name, report) in [("Dab", world.report(dab)), ("master", world.report(master))] {
            for event in &report.events {
                println!("{tick:4}  {name:6}  {event:14}  on {}", report.support);
            }
        }
    }
    let (crate_at, dab_at) = (world.report(clay).feet, world.report(dab).feet);
    println!("at the end: Dab at {dab_at}, the crate at {crate_at}, the slab {:?}", world.platform_report(1).crumbling);

    // Back to tick 119, and once more with the same buttons: the same to the bit.
    world.restore(&half_way.expect("it was saved"));
    (120..=240).for_each(|tick| world.tick(&held(tick)));
    assert_eq!(world.report(dab).feet, dab_at);
    Ok(())
}
