use std::iter;
use std::path::{Path, PathBuf};

use clap::Args;
use serde::Serialize;
use wumple::figures::{ride_figure, run_figure, run_time_figure};
use wumple::units::short;
use wumple::why::{WhyLine, WhyLog};
use wumple::{Level, MoverId, TickReport, Trace, TraceRow, TuningFile, ZoneKind};

use crate::failure::Failure;
use crate::files::{Files, Maps};
use crate::options::{self, Format, PageOptions};
use crate::output;
use crate::say::{say, warn};
use crate::script::Script;
use crate::table;

/// Runs a character through a level and says what happened
///
/// The table has a row for each tick in which something happened; --format csv and json give every tick.
/// Places are px from the map's top-left corner, y down; x and y are those of the feet.
#[derive(Args)]
#[command(after_help = "Examples, on what `wumple demo` writes:\n  \
    wumple run wumple-demo/throwing-room.level.toml --tuning wumple-demo/dab.tuning.toml \\\n      \
    --buttons wumple-demo/throwing-room.buttons --figure run.svg --trace run.csv\n  \
    wumple run wumple-demo/throwing-room.level.toml --tuning wumple-demo/dab.tuning.toml \\\n      \
    --press \"0 right; 40 right jump; 60 right\" --ticks 90\n  \
    wumple run wumple-demo/throwing-room.level.toml --tuning wumple-demo/dab.tuning.toml \\\n      \
    --buttons wumple-demo/too-late.buttons --why")]
pub(crate) struct Run {
    /// The level (*.level.toml)
    level: PathBuf,
    #[command(flatten)]
    maps: Maps,
    #[command(flatten)]
    page: PageOptions,
    /// How the character moves (*.tuning.toml)
    #[arg(long, value_name = "FILE")]
    tuning: PathBuf,
    #[command(flatten)]
    script: Script,
    /// Write every tick to this file (.csv, or .jsonl for JSON Lines)
    #[arg(long, value_name = "FILE", value_parser = options::trace_path)]
    trace: Option<PathBuf>,
    /// Draw the path over the level into this file (.svg or .png)
    #[arg(long, value_name = "FILE", value_parser = options::figure_path)]
    figure: Option<PathBuf>,
    /// Draw height, speeds and state against time, with the buttons beneath (.svg or .png)
    #[arg(long, value_name = "FILE", value_parser = options::figure_path)]
    time_figure: Option<PathBuf>,
    /// Draw the path on a platform, in the level and as the platform sees it (.svg or .png)
    #[arg(long, value_name = "FILE", value_parser = options::figure_path)]
    ride_figure: Option<PathBuf>,
    /// Which platform or prop that is, by its id [default: the one ridden longest]
    #[arg(long, value_name = "ID", requires = "ride_figure")]
    ride: Option<String>,
    /// Print every decision and every refusal with its reason, instead of the run
    #[arg(long)]
    why: bool,
    /// How to print the run
    #[arg(long, value_enum, default_value_t)]
    format: Format,
}

impl Run {
    pub(crate) fn execute(&self) -> Result<(), Failure> {
        let files = Files::new(&self.maps);
        let level = files.level(&self.level)?;
        let tuning = files.tuning(&self.tuning)?;
        let (timeline, ticks) = self.script.timeline(&files, &tuning, &tuning)?;
        if let Some(warning) = level.warning_for(&tuning) {
            warn(warning);
        }
        let mut log = WhyLog::default();
        let trace = if self.why || self.figure.is_some() || self.time_figure.is_some() {
            wumple::run_told(&level, &tuning.tuning, &timeline, ticks, &mut log)?
        } else {
            wumple::run(&level, &tuning.tuning, &timeline, ticks)?
        };
        match (self.format, self.why) {
            (Format::Table, false) => output::print(&table(&trace))?,
            (Format::Json, false) => output::print_json(&RunReport::new(&level, &tuning, &trace))?,
            (Format::Csv, false) => output::print(&trace.to_csv())?,
            (Format::Table, true) => output::print(&why_table(&trace, &log))?,
            (Format::Json, true) => output::print_json(&WhyReport::new(&level, &tuning, &log))?,
            (Format::Csv, true) => output::print(&log.to_csv())?,
        }
        note_hazards(&trace);
        if let Some(path) = &self.trace {
            write_trace(&files, path, &trace)?;
        }
        if let Some(path) = &self.figure {
            files.write_figure(path, &run_figure(&level, &tuning, &trace, log.presses(), &self.page.page()))?;
        }
        if let Some(path) = &self.time_figure {
            files.write_figure(path, &run_time_figure(&level, &tuning, &trace, &timeline, log.presses()))?;
        }
        if let Some(path) = &self.ride_figure {
            let mover = self.mover(&trace)?;
            let figure = ride_figure(&level, &tuning, &trace, mover)
                .ok_or_else(|| Failure::Usage(format!("{} is never ridden in this run", trace.names.mover(mover))))?;
            files.write_figure(path, &figure)?;
        }
        Ok(())
    }

    /// The platform or prop whose ride is drawn.
    fn mover(&self, trace: &Trace) -> Result<MoverId, Failure> {
        match &self.ride {
            Some(name) => trace.names.find_mover(name).ok_or_else(|| {
                let known = trace.names.movers().join(", ");
                let known = if known.is_empty() { "none".to_owned() } else { known };
                Failure::Usage(format!("--ride {name}: the level has no such platform or prop; it has {known}"))
            }),
            None => trace
                .ridden_longest()
                .ok_or_else(|| Failure::Usage("--ride-figure: no platform or prop is ridden in this run".to_owned())),
        }
    }
}

/// What follows from a hazard is the game's business; nobody should wonder why nothing does here.
fn note_hazards(trace: &Trace) {
    let entered = |row: &&TickReport| row.events.iter().any(|event| event.enters(ZoneKind::Hazard));
    let mut ticks = trace.rows.iter().filter(entered).map(|row| row.tick);
    if let Some(first) = ticks.next() {
        let more = match ticks.count() {
            0 => String::new(),
            more => format!(", and {more} more after it"),
        };
        say(format_args!(
            "note: a hazard was entered in tick {first}{more}; it is told and stops nobody: what follows is your game's"
        ));
    }
}

/// Writes a trace in the form that its name asks for.
pub(crate) fn write_trace(files: &Files, path: &Path, trace: &Trace) -> Result<(), Failure> {
    let lines = path.extension().is_some_and(|ending| ending == "jsonl");
    let contents = if lines { trace.to_json_lines() } else { trace.to_csv() };
    files.write(path, contents.as_bytes())?;
    say(format_args!("trace: {}", path.display()));
    Ok(())
}

/// A row for each tick in which something happened, and how it ended.
pub(crate) fn table(trace: &Trace) -> String {
    let head = ["tick", "time s", "x px", "y px", "state", "on", "events"];
    let eventful = trace.written_rows().filter(|row| !row.events.is_empty());
    let rows = eventful.map(|row| {
        let numbers = [row.time_s, row.x_px, row.y_px].map(short);
        let on = if row.support == "none" { String::new() } else { row.support };
        let words = [row.state.to_string(), on, row.events.replace(';', ", ")];
        [vec![row.tick.to_string()], numbers.into(), words.into()].concat()
    });
    let table = table::table(&head, rows);
    let end = trace.written_rows().last().map(|row| {
        let [time, x, y] = [row.time_s, row.x_px, row.y_px].map(short);
        format!("\n{} ticks, {time} s; at the end: {} at ({x}, {y}) px", row.tick, row.state)
    });
    table + &end.unwrap_or_default()
}

/// A line for each decision; what came of a tick stands beside the first of them.
fn why_table(trace: &Trace, log: &WhyLog) -> String {
    let mut rows = Vec::new();
    let mut decided = log.lines().iter().peekable();
    for row in trace.written_rows() {
        let mut events = row.events.replace(';', ", ");
        let mut lines = iter::from_fn(|| decided.next_if(|line| line.tick <= row.tick)).peekable();
        if lines.peek().is_none() && !events.is_empty() {
            rows.push(vec![row.tick.to_string(), row.state.to_string(), String::new(), std::mem::take(&mut events)]);
        }
        for line in lines {
            let until =
                if line.last_tick > line.tick { format!(" (until tick {})", line.last_tick) } else { String::new() };
            let why = format!("{}{until}", line.why);
            rows.push(vec![row.tick.to_string(), row.state.to_string(), why, std::mem::take(&mut events)]);
        }
    }
    table::table(&["tick", "state", "why", "events"], rows)
}

/// The decisions of a run as JSON: `wumple-why 1`.
#[derive(Serialize)]
struct WhyReport<'a> {
    format: &'static str,
    level: &'a str,
    tuning: &'a str,
    rate_hz: f64,
    lines: &'a [WhyLine],
}

impl<'a> WhyReport<'a> {
    fn new(level: &'a Level, tuning: &'a TuningFile, log: &'a WhyLog) -> WhyReport<'a> {
        let (level, rate_hz) = (level.name.as_str(), tuning.tuning.rate());
        WhyReport { format: "wumple-why 1", level, tuning: &tuning.name, rate_hz, lines: log.lines() }
    }
}

/// A run as JSON: `wumple-run 1`.
#[derive(Serialize)]
struct RunReport<'a> {
    format: &'static str,
    level: &'a str,
    tuning: &'a str,
    rate_hz: f64,
    rows: Vec<TraceRow>,
}

impl<'a> RunReport<'a> {
    fn new(level: &'a Level, tuning: &'a TuningFile, trace: &Trace) -> RunReport<'a> {
        let rows = trace.written_rows().collect();
        RunReport { format: "wumple-run 1", level: &level.name, tuning: &tuning.name, rate_hz: trace.rate, rows }
    }
}
