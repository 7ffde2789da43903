use std::path::PathBuf;

use clap::Args;
use wumple::figures::{arcs_figure, level_figure, run_figure, time_figure};
use wumple::{ButtonsFile, Level, TuningFile, demo};

use super::{arcs, run};
use crate::failure::Failure;
use crate::output;

/// The whole tour on the levels that come along: tables here, figures and traces in a folder
///
/// Needs no file: everything is in the program. The folder also gets the tuning, the level and the
/// buttons, to be changed and run again.
#[derive(Args)]
#[command(after_help = "Example:\n  wumple demo --out wumple-demo")]
pub(crate) struct Demo {
    /// The folder to write into; it is made if it is not there
    #[arg(long, value_name = "DIR", default_value = "wumple-demo")]
    out: PathBuf,
}

impl Demo {
    pub(crate) fn execute(&self) -> Result<(), Failure> {
        let dab = TuningFile::parse("dab.tuning.toml", demo::DAB)?;
        let level = Level::parse("throwing-room.level.toml", demo::THROWING_ROOM)?;
        let buttons = ButtonsFile::parse("throwing-room.buttons", demo::THROWING_ROOM_BUTTONS, &dab.scale)?;
        let (timeline, _) = buttons.at_rate(dab.tuning.rate());
        let ticks = timeline.last_tick() + 30;
        let trace = wumple::run(&level, &dab.tuning, &timeline, ticks)?;
        let report = wumple::arcs([&dab]);

        output::print("The jumps of Dab, the apprentice of the Kilnworks (dab.tuning.toml):\n")?;
        output::print(&arcs::tables(&report))?;
        output::print("\nDab runs through the Throwing room (throwing-room.level.toml, throwing-room.buttons):\n")?;
        output::print(&run::table(&trace))?;
        output::print(&format!("\nIn {}:\n", self.out.display()))?;

        let written = |name: &str, what: &str| output::print(&format!("  {name:31} {what}"));
        for (name, figure, what) in [
            ("dab-arcs", arcs_figure(&report), "the jumps, measured"),
            ("dab-jump-over-time", time_figure(&report), "the full jump against time, by phase"),
            ("throwing-room", level_figure(&level, Some(&dab)), "the room, and the hitbox at its spawn"),
            ("throwing-room-run", run_figure(&level, &dab, &trace), "the path, by state, with its events"),
        ] {
            let (svg, png) = (format!("{name}.svg"), format!("{name}.png"));
            wumple::write_whole(&self.out.join(&svg), figure.svg().as_bytes(), true)?;
            wumple::write_whole(&self.out.join(&png), &figure.png()?, true)?;
            written(&format!("{name}.svg, .png"), what)?;
        }
        wumple::write_whole(&self.out.join("throwing-room-run.csv"), trace.to_csv().as_bytes(), true)?;
        written("throwing-room-run.csv", "every tick of it")?;
        let mut kept = Vec::new();
        for (name, text) in demo::FILES {
            let path = self.out.join(name);
            // A file that was changed since is somebody's work.
            match wumple::read_text(&path) {
                Ok(there) if there != text => kept.push(name),
                _ => wumple::write_whole(&path, text.as_bytes(), true)?,
            }
        }
        written("*.toml, *.buttons", "what it was made from: change a number and run it again, with")?;
        if !kept.is_empty() {
            output::say(&format!("left as you changed them: {}", kept.join(", ")));
        }
        let out = self.out.display();
        output::print(&format!(
            "\n  wumple run {out}/throwing-room.level.toml --tuning {out}/dab.tuning.toml \\\n      \
             --buttons {out}/throwing-room.buttons --figure {out}/throwing-room-run.svg"
        ))
    }
}
