use std::path::PathBuf;

use clap::Args;
use serde::Serialize;
use wumple::analysis::{Measure, Over, PassBounds, VaryReport, vary};
use wumple::figures::vary_figure;
use wumple::units::{Quantity, short};
use wumple::{Level, Timeline, TrialFile};

use crate::failure::Failure;
use crate::files::{Files, Maps, Meant};
use crate::long_work::LongWork;
use crate::options::{Format, figure_path};
use crate::output;
use crate::pictures::Pictures;
use crate::script::Script;
use crate::table::table;

/// Measures many tunings: a number, or two, over a range
///
/// Each value of a number of the tuning file is tried, or each pair of values of two, and measured: by a jump as `arcs` measures it
/// (full:apex_height, running:reach), by a number of a run (--level and buttons: apex, goal_time), by a trial, or by whether something is reached.
/// Prints a row for each; draws a curve, or for two numbers a map of colours, with the tuning as it is and where what passes ends.
#[derive(Args)]
#[command(after_help = "Examples, on what `wumple demo` writes:\n  \
    wumple vary wumple-demo/dab.tuning.toml --over \"jump.height = 2..5 tiles, 31\" --measure running:reach\n  \
    wumple vary wumple-demo/dab.tuning.toml --over \"jump.height = 2..5 tiles, 31\" --over \"run.top_speed = 4..10 tiles/s, 25\" --level wumple-demo/throwing-room.level.toml --to goal --figure vary.png")]
pub(crate) struct VaryCommand {
    /// The tuning (*.tuning.toml) [default: the project's]
    #[arg(value_name = "TUNING")]
    tuning: Option<PathBuf>,
    /// A number over a range, in so many values: "jump.height = 2..5 tiles, 31"; once or twice
    #[arg(long, required = true, value_name = "KEY = FROM..TO, COUNT", value_parser = over)]
    over: Vec<Over>,
    /// What is measured: full:apex_height and the like, or with --level a number of the run
    #[arg(long, value_name = "KIND")]
    measure: Option<String>,
    /// Run this level, with --buttons or --press; or with --to look for ways in it
    #[arg(long, value_name = "LEVEL", conflicts_with = "trial")]
    level: Option<PathBuf>,
    #[command(flatten)]
    maps: Maps,
    #[command(flatten)]
    script: Script,
    /// Measure whether this is reached in the level: goal, pickup@32,8
    #[arg(long, value_name = "WHAT", requires = "level", conflicts_with = "measure")]
    to: Option<String>,
    /// Try no more ticks than these for each tuning, with --to
    #[arg(long, value_name = "TICKS", default_value_t = 200_000)]
    most: u64,
    /// Measure by this trial: how many of its expectations are met
    #[arg(long, value_name = "FILE", conflicts_with = "measure")]
    trial: Option<PathBuf>,
    /// What is measured passes from here on: "3 tiles"
    #[arg(long, value_name = "QUANTITY", value_parser = quantity)]
    at_least: Option<Quantity>,
    /// What is measured passes up to here
    #[arg(long, value_name = "QUANTITY", value_parser = quantity)]
    at_most: Option<Quantity>,
    /// Draw what comes of it (.svg or .png)
    #[arg(long, value_name = "FILE", value_parser = figure_path)]
    figure: Option<PathBuf>,
    #[command(flatten)]
    pictures: Pictures,
    /// How to print it
    #[arg(long, value_enum, default_value_t)]
    format: Format,
}

fn over(text: &str) -> Result<Over, String> {
    Over::parse(text).map_err(|error| error.to_string())
}

fn quantity(text: &str) -> Result<Quantity, String> {
    Quantity::parse(text).map_err(|error| error.to_string())
}

/// What came of it as JSON: `wumple-vary 1`.
#[derive(Serialize)]
struct VaryJson<'a> {
    format: &'static str,
    #[serde(flatten)]
    report: &'a VaryReport,
}

/// What is measured, read from files.
enum Source {
    Arc,
    Run(Level, Timeline, u64),
    Trial(Box<TrialFile>),
    Reach(Level, String),
}

impl VaryCommand {
    pub(crate) fn execute(&self) -> Result<(), Failure> {
        let files = Files::new(&self.maps).with_pictures(&self.pictures);
        let tuning = files.tuning(&files.needed(self.tuning.as_deref(), Meant::Tuning)?)?;
        let source = match (&self.level, &self.to, &self.trial) {
            (_, _, Some(trial)) => Source::Trial(Box::new(files.trial(trial)?)),
            (Some(level), Some(to), None) => Source::Reach(files.level(level)?, to.clone()),
            (Some(level), None, None) => {
                let (timeline, ticks) = self.script.timeline(&files, &tuning, &tuning)?;
                Source::Run(files.level(level)?, timeline, ticks)
            }
            (None, _, None) => Source::Arc,
        };
        let usage = |error: wumple::analysis::VaryError| Failure::Usage(error.to_string());
        let needed = || {
            let message = "--measure says what is measured, such as full:apex_height; or --trial, or --level with --to";
            self.measure.as_deref().ok_or_else(|| Failure::Usage(message.to_owned()))
        };
        let measure = match &source {
            Source::Arc => Measure::arc(needed()?).map_err(usage)?,
            Source::Run(level, timeline, ticks) => Measure::run(needed()?, level, timeline, *ticks).map_err(usage)?,
            Source::Trial(trial) => Measure::Trial(trial),
            Source::Reach(level, target) => Measure::reach(level, &tuning, target, self.most).map_err(usage)?,
        };
        let bounds = PassBounds { at_least: self.at_least, at_most: self.at_most };
        let report = {
            let count = self.over.iter().map(|over| over.count as u64).product();
            let work = LongWork::start(count, "tunings");
            vary(&tuning, &self.over, &measure, &bounds, |done| work.goes_on(done)).map_err(usage)?
        };
        files.figure(self.figure.as_deref(), || vary_figure(&report))?;
        match self.format {
            Format::Table => print_table(&report),
            Format::Json => output::print_json(&VaryJson { format: "wumple-vary 1", report: &report }),
            Format::Csv => print_csv(&report),
        }
    }
}

/// The head of a column: `jump.height, tiles`.
fn named(name: &str, unit: &str) -> String {
    if unit.is_empty() { name.to_owned() } else { format!("{name}, {unit}") }
}

fn passes_word(passes: Option<bool>) -> &'static str {
    match passes {
        Some(true) => "yes",
        Some(false) => "no",
        None => "",
    }
}

fn print_table(report: &VaryReport) -> Result<(), Failure> {
    let asked = report.cells.iter().any(|cell| cell.passes.is_some());
    let mut head: Vec<String> = report.axes.iter().map(|axis| named(axis.key, axis.unit)).collect();
    head.push(named(&report.measure, report.unit));
    if asked {
        head.push("passes".to_owned());
    }
    let has_why = report.cells.iter().any(|cell| cell.why.is_some());
    if has_why {
        head.push("why not".to_owned());
    }
    let cells = report.cells.iter().map(|cell| {
        let mut row: Vec<String> = cell.at.iter().copied().map(short).collect();
        row.push(cell.value.map_or_else(String::new, short));
        if asked {
            row.push(passes_word(cell.passes).to_owned());
        }
        if has_why {
            row.push(cell.why.clone().unwrap_or_default());
        }
        row
    });
    let head: Vec<&str> = head.iter().map(String::as_str).collect();
    let passing = report.cells.iter().filter(|cell| cell.passes == Some(true)).count();
    let now = report.now.map_or_else(|| "no such number".to_owned(), |now| format!("{} {}", short(now), report.unit));
    let counted = format!(
        "{}: {} tunings{}; as it is: {}",
        report.tuning,
        report.cells.len(),
        if asked { format!(", {passing} pass") } else { String::new() },
        now.trim_end()
    );
    output::print(&format!("{}{counted}\n", table(&head, cells)))
}

fn print_csv(report: &VaryReport) -> Result<(), Failure> {
    let unit_of = |name: &str, unit: &str| {
        let unit = unit.replace("/s", "_s").replace('^', "").replace('/', "_");
        if unit.is_empty() {
            name.replace([':', ' '], "_")
        } else {
            format!("{}_{unit}", name.replace([':', ' '], "_"))
        }
    };
    let mut head: Vec<String> = report.axes.iter().map(|axis| unit_of(axis.key, axis.unit)).collect();
    head.extend([unit_of(&report.measure, report.unit), "passes".to_owned(), "why".to_owned()]);
    let rows = report.cells.iter().map(|cell| {
        let mut row: Vec<String> = cell.at.iter().map(f64::to_string).collect();
        row.push(cell.value.map_or_else(String::new, |value| value.to_string()));
        row.push(passes_word(cell.passes).to_owned());
        row.push(cell.why.clone().unwrap_or_default());
        row
    });
    output::print_records(std::iter::once(head).chain(rows))
}
