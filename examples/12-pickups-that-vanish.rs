//! Jars that are taken along, a lamp that is remembered, and embers that send Dab back to it.

use wumple::{ButtonsFile, DVec2, Event, Level, TuningFile, ZoneKind, ZoneOf, demo};

fn main() -> Result<(), Box<dyn std::error::Error>> {
    let room = demo::ROOMS.iter().find(|room| room.name == "ember-walk").ok_or("a room of the demo")?;
    let level = Level::parse("ember-walk.level.toml", room.level)?;
    let dab = TuningFile::parse("climbing-dab.tuning.toml", demo::CLIMBING_DAB)?;
    let buttons = ButtonsFile::parse("ember-walk.buttons", room.buttons, &dab.scale)?;
    let (timeline, _) = buttons.at_rate(dab.tuning.rate())?;

    // The world has a map of its own, so that it can change.
    let (mut world, id) = level.world_over(level.grid.clone(), &dab.tuning)?;
    let empty = level.kind_of('.').ok_or("every level has it")?;
    let (mut jars, mut points, mut burns, mut start_again) = (0, 0.0, 0, level.spawn());

    for tick in 1..=timeline.last_tick() + 30 {
        world.tick(&[timeline.at(tick)]);
        let report = world.report(id).clone();
        for event in &report.events {
            let Event::Entered(zone) = event else { continue };
            match zone.kind {
                ZoneKind::Pickup => {
                    jars += 1;
                    points += level.notes_of_zone(*zone).number("points").unwrap_or(0.0);
                    println!("{tick:3}  jar {jars}, {}: {points} points", level.names.zone(*zone));
                    if let ZoneOf::Tile { column, row } = zone.of {
                        world.terrain_mut().set_tile(column, row, empty)?;
                    }
                }
                ZoneKind::Checkpoint => {
                    start_again = DVec2::new(report.feet.x, report.feet.y);
                    println!("{tick:3}  the lamp is lit: from here again, {start_again}");
                }
                ZoneKind::Hazard => {
                    burns += 1;
                    println!("{tick:3}  burnt by {}", level.names.zone(*zone));
                    if burns > 1 {
                        world.place(id, start_again)?;
                    }
                }
                ZoneKind::Goal => println!("{tick:3}  at the kiln door with {jars} jars"),
                other => println!("{tick:3}  {other}"),
            }
        }
    }
    assert_eq!((jars, points, burns), (4, 20.0, 1));
    Ok(())
}
