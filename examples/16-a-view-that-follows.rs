//! A camera in a game loop: it goes up with a ball that springs, never down again, and says where to draw.

use wumple::camera::{Camera, CameraNumbers};
use wumple::{ButtonsFile, DVec2, Hitbox, Level, Terrain, TuningFile, demo};

fn main() -> Result<(), Box<dyn std::error::Error>> {
    let ball = demo::OTHERS.iter().find(|other| other.name == "clay-ball").ok_or("a character of the demo")?;
    let tuning = TuningFile::parse("clay-ball.tuning.toml", ball.tuning)?;
    let level = Level::parse("flue.level.toml", ball.room.level)?;
    let buttons = ButtonsFile::parse("flue.buttons", ball.room.buttons, &tuning.scale)?;
    let (timeline, _) = buttons.at_rate(tuning.tuning.rate())?;

    let (mut world, id) = level.world(&tuning.tuning)?;
    // The level's own [camera], drawn three times as large.
    let numbers = CameraNumbers { scale: 3.0, ..level.camera.ok_or("the level has a [camera]")? };
    let whole = Hitbox { left: 0.0, right: level.grid.width(), top: 0.0, bottom: level.grid.height() };
    let mut camera = Camera::new(&numbers, whole, world.character(id), tuning.tuning.rate())?;
    let start = camera.view();
    for tick in 1..=timeline.last_tick() {
        world.tick(&[timeline.at(tick)]);
        camera.follow(world.character(id));
        if tick % 40 == 0 {
            let (feet, view) = (world.report(id).feet, camera.view());
            let drawn = camera.to_view(feet);
            println!(
                "{tick:3}  seen from {:.1} to {:.1}, the ball is drawn at ({:.0}, {:.0})",
                view.top, view.bottom, drawn.x, drawn.y
            );
        }
        assert!(!camera.is_out_of_view(&world.character(id).hitbox()), "left behind in tick {tick}");
    }
    // A click on the picture is a place of the level.
    let clicked = camera.to_world(DVec2::new(300.0, 90.0));
    println!("a click at (300, 90) is at ({}, {}) in the level", clicked.x, clicked.y);
    assert!(camera.view().top < start.top && camera.to_view(clicked) == DVec2::new(300.0, 90.0));
    Ok(())
}
