//! A whole run from files to a figure and a trace.

use wumple::figures::{Page, run_figure};
use wumple::files::write_whole;
use wumple::{ButtonsFile, Level, TuningFile, demo};

fn main() -> Result<(), Box<dyn std::error::Error>> {
    let dab = TuningFile::parse("dab.tuning.toml", demo::DAB)?;
    let room = Level::parse("throwing-room.level.toml", demo::THROWING_ROOM)?;
    let buttons = ButtonsFile::parse("throwing-room.buttons", demo::THROWING_ROOM_BUTTONS, &dab.scale)?;

    let (timeline, _warnings) = buttons.at_rate(dab.tuning.rate())?;
    let trace = wumple::run(&room, &dab.tuning, &timeline, timeline.last_tick() + 30)?;
    for row in trace.written_rows().filter(|row| !row.events.is_empty()) {
        println!("{:>4}  {:<6} {}", row.tick, row.state, row.events);
    }

    write_whole("run.svg".as_ref(), run_figure(&room, &dab, &trace, &[], &Page::default()).svg().as_bytes(), true)?;
    write_whole("run.csv".as_ref(), trace.to_csv().as_bytes(), true)?;
    Ok(())
}
