use std::path::PathBuf;

use clap::Args;
use wumple::figures::arcs_figure;
use wumple::{ArcsReport, TuningFile};

use crate::failure::Failure;
use crate::output::{self, Format, number};

/// Measures the jumps of a tuning: height, reach and time, in tiles and px
///
/// Prints a row for each jump: `full` is a jump from standing with the button held, `running` the same
/// at top speed. Several tunings are put side by side.
#[derive(Args)]
#[command(after_help = "Example:\n  wumple arcs demo/dab.tuning.toml --figure arcs.svg")]
pub(crate) struct Arcs {
    /// Tuning files (*.tuning.toml)
    #[arg(required = true, value_name = "TUNING")]
    tunings: Vec<PathBuf>,
    /// Draw the arcs into this file (.svg or .png)
    #[arg(long, value_name = "FILE", value_parser = output::figure_path)]
    figure: Option<PathBuf>,
    /// How to print the numbers
    #[arg(long, value_enum, default_value_t)]
    format: Format,
}

impl Arcs {
    pub(crate) fn execute(&self) -> Result<(), Failure> {
        let tunings = self.tunings.iter().map(|path| TuningFile::read(path)).collect::<Result<Vec<_>, _>>()?;
        let report = wumple::arcs(&tunings);
        for tuning in report.tunings.iter().filter(|tuning| tuning.arcs.is_empty()) {
            output::say(&format!("{} has no [jump]: there are no arcs", tuning.name));
        }
        match self.format {
            Format::Table => output::print(&table(&report))?,
            Format::Json => output::print_json(&report)?,
            Format::Csv => output::print(&report.to_csv())?,
        }
        match &self.figure {
            Some(path) => output::write_figure(path, &arcs_figure(&report)),
            None => Ok(()),
        }
    }
}

/// The numbers as people compare them.
pub(crate) fn table(report: &ArcsReport) -> String {
    let head = ["tuning", "jump", "height", "", "apex", "", "air time", "", "reach", "", "landing"];
    let rows = report.tunings.iter().flat_map(|tuning| {
        tuning.arcs.iter().map(|arc| {
            vec![
                tuning.name.clone(),
                arc.kind.name().to_owned(),
                format!("{} tiles", number(arc.apex_height_tiles)),
                format!("{} px", number(arc.apex_height_px)),
                format!("{} s", number(arc.apex_time_s)),
                format!("tick {}", arc.apex_tick),
                format!("{} s", number(arc.air_time_s)),
                format!("{} ticks", arc.air_ticks),
                format!("{} tiles", number(arc.reach_tiles)),
                format!("{} px", number(arc.reach_px)),
                format!("{} px/s", number(arc.landing_speed_px_s)),
            ]
        })
    });
    output::table(&head, rows)
}
