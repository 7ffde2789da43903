use std::path::{Path, PathBuf};

use clap::Args;
use serde::Serialize;
use wumple::analysis::{Reach, ReachAnswer, ReachChange, ReachReport, ReachSettings, reach};
use wumple::figures::reach_figure;
use wumple::units::short;
use wumple::{Buttons, DVec2, Level, Terrain};

use crate::failure::Failure;
use crate::files::{Files, Maps, Meant};
use crate::long_work::LongWork;
use crate::options::{Format, PageOptions, figure_path, place};
use crate::output;
use crate::pictures::Pictures;
use crate::table::table;

/// Says what of a level can be reached
///
/// For every goal, pickup, checkpoint and place to stand on it says one of three things. Reached: with the buttons that do it, which were
/// run before it is said. Out of reach: nobody can, for the reason that is given; that is never said of what can be reached. Not found:
/// within the ticks tried there was no way. The search plays the level itself, from the spawn or from another tile, and tries
/// choices of buttons until it has an answer for each.
#[derive(Args)]
#[command(after_help = "Examples, on what `wumple demo` writes:\n  \
    wumple reach wumple-demo/throwing-room.level.toml --tuning wumple-demo/dab.tuning.toml\n  \
    wumple reach wumple-demo/throwing-room.level.toml --tuning wumple-demo/steps/3-fall.tuning.toml --changes --figure reach.png\n  \
    wumple reach wumple-demo/chimney.level.toml --tuning wumple-demo/climbing-dab.tuning.toml --write ways")]
pub(crate) struct ReachCommand {
    /// The level (*.level.toml) [default: the project's]
    #[arg(value_name = "LEVEL")]
    level: Option<PathBuf>,
    /// Who goes through it (*.tuning.toml) [default: the project's]
    #[arg(long, value_name = "FILE")]
    tuning: Option<PathBuf>,
    #[command(flatten)]
    maps: Maps,
    /// Start on the ground of this tile, not at the spawn
    #[arg(long, value_name = "COLUMN,ROW", value_parser = place)]
    from: Option<(u32, u32)>,
    /// Ask after this alone: goal, pickup, top@3-7,9; several with several --to
    #[arg(long, value_name = "WHAT")]
    to: Vec<String>,
    /// Try no more ticks than these
    #[arg(long, value_name = "TICKS", default_value_t = 4_000_000)]
    most: u64,
    /// Write the buttons of every way into this folder, with no press too many, as TARGET.buttons
    #[arg(long, value_name = "FOLDER")]
    write: Option<PathBuf>,
    /// Say by which single change what is not reached would be: a number of the tuning, a ladder, a tile of ground. Each is tried
    #[arg(long)]
    changes: bool,
    /// Draw the level with what can be reached, and the ways (.svg or .png)
    #[arg(long, value_name = "FILE", value_parser = figure_path)]
    figure: Option<PathBuf>,
    #[command(flatten)]
    pictures: Pictures,
    #[command(flatten)]
    page: PageOptions,
    /// How to print what is found
    #[arg(long, value_enum, default_value_t)]
    format: Format,
}

/// What is found as JSON: `wumple-reach 1`.
#[derive(Serialize)]
struct ReachJson<'a> {
    format: &'static str,
    #[serde(flatten)]
    report: &'a ReachReport,
}

/// A row of CSV.
#[derive(Serialize)]
struct Row<'a> {
    target: &'a str,
    answer: &'static str,
    time_s: Option<f64>,
    presses: Option<usize>,
    why: &'a str,
    changes: String,
}

impl ReachCommand {
    pub(crate) fn execute(&self) -> Result<(), Failure> {
        let files = Files::new(&self.maps).with_pictures(&self.pictures);
        let level = files.level(&files.needed(self.level.as_deref(), Meant::Level)?)?;
        let tuning = files.tuning(&files.needed(self.tuning.as_deref(), Meant::Tuning)?)?;
        let mut settings = ReachSettings::default();
        (settings.from, settings.most_ticks) = (self.from.map(|at| feet_in(&level, at)), self.most);
        (settings.shortens, settings.changes) = (self.write.is_some(), self.changes);
        settings.only.clone_from(&self.to);
        let report = {
            let work = LongWork::start(self.most, "ticks");
            reach(&level, &tuning, &settings, |ticks| work.goes_on(ticks))
        };
        let report = report.map_err(|error| Failure::Usage(error.to_string()))?;
        files.figure(self.figure.as_deref(), || reach_figure(&level, &tuning, &report, &self.page.page()))?;
        if let Some(folder) = &self.write {
            write_ways(&files, folder, &report)?;
        }
        match self.format {
            Format::Table => print_table(&report, self.changes),
            Format::Json => output::print_json(&ReachJson { format: "wumple-reach 1", report: &report }),
            Format::Csv => output::print_csv(report.targets.iter().map(|of| row(of, report.rate_hz))),
        }
    }
}

/// Where the feet are of who stands in a tile.
fn feet_in(level: &Level, (column, row): (u32, u32)) -> DVec2 {
    let cell = level.grid.grid_lines().cell(column as i32, row as i32);
    DVec2::new(f64::midpoint(cell.left, cell.right), cell.bottom)
}

fn row(of: &Reach, rate: f64) -> Row<'_> {
    let (answer, time_s, presses, why) = match &of.answer {
        ReachAnswer::Reached { held, ticks, .. } => ("reached", Some(*ticks as f64 / rate), Some(held.presses()), ""),
        ReachAnswer::OutOfReach { why } => ("out of reach", None, None, why.as_str()),
        ReachAnswer::NotFound => ("not found", None, None, ""),
    };
    let changes: Vec<String> = of.changes.iter().map(ToString::to_string).collect();
    Row { target: &of.target, answer, time_s, presses, why, changes: changes.join("; ") }
}

fn print_table(report: &ReachReport, asked_for_changes: bool) -> Result<(), Failure> {
    let cells = report.targets.iter().map(|of| {
        let row = row(of, report.rate_hz);
        let number = |number: Option<String>| number.unwrap_or_default();
        vec![
            row.target.to_owned(),
            row.answer.to_owned(),
            number(row.time_s.map(short)),
            number(row.presses.map(|presses| presses.to_string())),
            row.why.to_owned(),
        ]
    });
    let is_reached = |of: &&Reach| matches!(of.answer, ReachAnswer::Reached { .. });
    let closed = report.targets.iter().filter(|of| asked_for_changes && !is_reached(of));
    let changes = closed.map(changes_in_words).collect::<String>();
    let head = ["what", "answer", "s", "presses", "why not"];
    let count = |answer: &str| report.targets.iter().filter(|of| row(of, 1.0).answer == answer).count();
    let counted = format!(
        "{}, {}: {} reached, {} out of reach, {} not found; {} ticks tried",
        report.level,
        report.tuning,
        count("reached"),
        count("out of reach"),
        count("not found"),
        report.ticks_tried
    );
    output::print(&format!("{}{changes}{counted}\n", table(&head, cells)))
}

/// By which changes it would be reached, one a line.
fn changes_in_words(of: &Reach) -> String {
    if of.changes.is_empty() {
        return format!("{} would be reached with none of the single changes that were tried\n", of.target);
    }
    let one = |change: &ReachChange| format!("    {change}\n");
    format!("{} would be reached with one of these:\n{}", of.target, of.changes.iter().map(one).collect::<String>())
}

fn write_ways(files: &Files, folder: &Path, report: &ReachReport) -> Result<(), Failure> {
    std::fs::create_dir_all(folder)?;
    for of in &report.targets {
        if let ReachAnswer::Reached { held, ticks, .. } = &of.answer {
            // A run goes on to its last line, and a little further.
            let mut held = held.clone();
            held.record(ticks + 1, Buttons::NONE);
            let name = of.target.replace([':', '@', ','], "-");
            files.write(&folder.join(format!("{name}.buttons")), held.to_text(report.rate_hz).as_bytes())?;
        }
    }
    Ok(())
}
