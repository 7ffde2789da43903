//! A round in a game loop: what is told, what is saved with the world, and a fade before it starts again.

use wumple::rounds::Next;
use wumple::{ButtonsFile, Level, RoundEvent, TuningFile, demo};

fn main() -> Result<(), Box<dyn std::error::Error>> {
    let room = demo::ROOMS.iter().find(|room| room.name == "ember-gallery").ok_or("a room of the demo")?;
    let level = Level::parse("ember-gallery.level.toml", room.level)?;
    let dab = TuningFile::parse("climbing-dab.tuning.toml", demo::CLIMBING_DAB)?;
    let buttons = ButtonsFile::parse("ember-gallery.buttons", room.buttons, &dab.scale)?;
    let (timeline, _) = buttons.at_rate(dab.tuning.rate())?;

    let (mut world, id) = level.world(&dab.tuning)?;
    let mut round = level.start_round(&world, id).ok_or("the level has a [round]")?;
    let (mut frame, mut fades, mut kept) = (0, 0, None);
    while !round.is_over() {
        frame += 1;
        world.tick(&[timeline.at(frame)]);
        // What should follow is known before it is done: the last moment to show what is about to be gone.
        if let Next::Restart(at) = round.after_tick(&world, id).next {
            fades += 1;
            println!("{frame:3}  the picture goes dark: again from the {}", at.name());
        }
        round.apply(&mut world, id);
        for event in round.events() {
            match event {
                RoundEvent::Hurt { by, .. } => {
                    println!("{frame:3}  {} hurts: {:?} left", level.names.zone(*by), round.health().unwrap_or(0));
                }
                RoundEvent::Took(zone) => println!("{frame:3}  {}: {} picked", level.names.zone(*zone), round.picked()),
                other => println!("{frame:3}  {}", level.names.round_event(other)),
            }
        }
        // The lamp is a good moment to keep the game: the world and the round beside it.
        if round.events().iter().any(|event| matches!(event, RoundEvent::Reached(_))) {
            kept = Some((world.save().to_bytes(&world), round.save().to_bytes(&world)));
        }
    }
    let kept = kept.ok_or("the lamp was reached")?;
    println!("kept at the lamp: {} bytes of the world, {} of the round", kept.0.len(), kept.1.len());
    assert_eq!((fades, round.attempt(), round.lives(), round.is_finished()), (2, 3, Some(1), true));
    Ok(())
}
