//! The numbers of a jump: how high, how far, how long.

use wumple::{TuningFile, arcs, demo};

fn main() -> Result<(), Box<dyn std::error::Error>> {
    let dab = TuningFile::parse("dab.tuning.toml", demo::DAB)?;
    for arc in &arcs([&dab]).tunings[0].arcs {
        println!(
            "{:8} {:.2} tiles high in {:.3} s, {:.2} tiles far in {:.3} s ({} ticks)",
            arc.kind.name(),
            arc.apex_height_tiles,
            arc.apex_time_s,
            arc.reach_tiles,
            arc.air_time_s,
            arc.air_ticks
        );
    }
    Ok(())
}
