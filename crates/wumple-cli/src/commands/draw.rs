use std::path::PathBuf;

use clap::Args;
use wumple::figures::level_figure;
use wumple::{Level, TuningFile};

use crate::failure::Failure;
use crate::output;

/// Draws a level: its tiles, zones and edges, and the hitbox of a character at the spawn
#[derive(Args)]
#[command(after_help = "Example:\n  \
    wumple draw demo/throwing-room.level.toml --tuning demo/dab.tuning.toml --figure room.png")]
pub(crate) struct Draw {
    /// The level (*.level.toml)
    level: PathBuf,
    /// Whose hitbox and wall probes to draw at the spawn (*.tuning.toml)
    #[arg(long, value_name = "FILE")]
    tuning: Option<PathBuf>,
    /// The file to draw into (.svg or .png)
    #[arg(long, value_name = "FILE", value_parser = output::figure_path, default_value = "level.svg")]
    figure: PathBuf,
}

impl Draw {
    pub(crate) fn execute(&self) -> Result<(), Failure> {
        let level = Level::read(&self.level)?;
        let tuning = self.tuning.as_ref().map(|path| TuningFile::read(path)).transpose()?;
        if let Some(tuning) = &tuning {
            level.world(&tuning.tuning)?;
            if let Some(warning) = level.warning_for(tuning) {
                output::say(&format!("warning: {warning}"));
            }
        }
        output::write_figure(&self.figure, &level_figure(&level, tuning.as_ref()))
    }
}
