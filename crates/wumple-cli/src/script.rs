//! What is held during a run, and for how long: the same options wherever there is a run.

use std::path::PathBuf;

use clap::Args;
use wumple::{ButtonsFile, Timeline, TuningFile};

use crate::failure::Failure;
use crate::output;

/// What is held, and how many ticks.
#[derive(Args)]
pub(crate) struct Script {
    /// What is held, from when on (*.buttons)
    #[arg(long, value_name = "FILE", conflicts_with = "press")]
    pub(crate) buttons: Option<PathBuf>,
    /// The same on the command line, lines separated by semicolons
    #[arg(long, value_name = "TEXT")]
    press: Option<String>,
    /// How many ticks to run [default: two seconds after the last line of the buttons]
    #[arg(long, value_name = "N", value_parser = clap::value_parser!(u64).range(0..=10_000_000))]
    ticks: Option<u64>,
}

impl Script {
    /// What is held at the tuning's rate; nothing if no buttons are given.
    pub(crate) fn timeline(&self, tuning: &TuningFile) -> Result<Timeline, Failure> {
        let file = match (&self.buttons, &self.press) {
            (Some(path), _) => ButtonsFile::read(path, &tuning.scale)?,
            (None, Some(text)) => ButtonsFile::parse("--press", text, &tuning.scale)?,
            (None, None) => return Ok(Timeline::default()),
        };
        let (timeline, warnings) = file.at_rate(tuning.tuning.rate());
        warnings.iter().for_each(|warning| output::say(&format!("warning: {warning}")));
        Ok(timeline)
    }

    /// How many ticks of the tuning's rate are asked for.
    pub(crate) fn ticks(&self, timeline: &Timeline, tuning: &TuningFile) -> u64 {
        self.ticks.unwrap_or_else(|| timeline.ticks_to_run(tuning.tuning.rate()))
    }
}
