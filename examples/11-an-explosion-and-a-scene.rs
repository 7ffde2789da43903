//! A kiln bursts: who is near is thrown. Then a scene that plays by itself, and back into the player's hand.

use wumple::numbers::PlatformSurface;
use wumple::{BodyId, Buttons, DVec2, Edges, Grid, Launch, Material, Prop, Tuning, TuningNumbers, World};

fn main() -> Result<(), Box<dyn std::error::Error>> {
    let mut rows = ["..............................."; 10];
    rows[9] = "###############################";
    let mut world = World::new(Grid::from_rows(&rows, 16.0, Edges::default())?);
    let numbers = TuningNumbers::new(10.0, 22.0, 120.0).with_jump(54.0, 0.35);
    let dab = world.add_character(Tuning::check(&numbers)?, DVec2::new(200.0, 144.0))?;
    let clay = Tuning::check(&TuningNumbers::new(12.0, 12.0, 0.0))?;
    let jar = Prop { tuning: clay, surface: PlatformSurface::Solid, material: Material::PLAIN, zone: None };
    let jars = [150.0, 240.0, 400.0].map(|x| world.add_prop(jar.clone(), DVec2::new(x, 144.0)));

    // The burst: everyone within 100 px is thrown away from it, the nearer the faster.
    let kiln = DVec2::new(180.0, 150.0);
    let mut bodies = vec![(BodyId::from(dab), world.report(dab).feet)];
    for jar in jars {
        let jar = jar?;
        bodies.push((jar.into(), world.report(jar).feet));
    }
    for (body, feet) in bodies {
        let away = feet - DVec2::new(0.0, 6.0) - kiln;
        let strength = 1.0 - away.length() / 100.0;
        if strength > 0.0 {
            // Thrown, it flies for a third of a second whatever directions are held.
            let velocity = away.normalize() * 300.0 * strength - DVec2::new(0.0, 150.0);
            world.launch(body, velocity, Launch { ticks: 20, unbraked: true })?;
        }
    }

    let mut told = 0;
    for tick in 1..=240u64 {
        match tick {
            // The scene: Dab is taken out of the player's hand, carried over to the master, and given back.
            100 => world.set_control(dab, false),
            180 => world.set_control(dab, true),
            _ => {}
        }
        if (110..170).contains(&tick) {
            world.drift(dab, DVec2::new(60.0, 0.0))?;
        }
        // The player holds left and jump all the while.
        world.tick_with(|_| Buttons { left: true, jump: tick > 60, ..Buttons::NONE });
        let report = world.report(dab);
        for event in &report.events {
            println!("{tick:3}  {event:14} at {:.1}", report.feet);
            told += 1;
        }
    }
    for jar in world.props().collect::<Vec<_>>() {
        println!("a jar lies at {:.1}", world.report(jar).feet);
    }
    assert!(told >= 4, "thrown, landed, taken out of hand, given back");
    Ok(())
}
