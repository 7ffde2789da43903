use std::iter;
use std::path::{Path, PathBuf};

use clap::Args;
use serde::Serialize;
use wumple::advanced::WrittenRow;
use wumple::analysis::{ComparedRun, RoundSummary, empty_from_above};
use wumple::figures::{ride_figure, run_figure, run_time_figure};
use wumple::units::short;
use wumple::why::{WhyLine, WhyLog, run_levels};
use wumple::{Level, MoverId, Terrain, TickReport, Timeline, Trace, TuningFile, ZoneKind};

use super::compare::run_facts;
use crate::failure::Failure;
use crate::files::{Files, Maps, Meant, is_trial};
use crate::options::{self, Format, PageOptions, is_standard};
use crate::output;
use crate::pictures::Pictures;
use crate::say::{say, warn};
use crate::script::Script;
use crate::table;
use crate::watch::{Outcome, Watch};

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
    /// The level (*.level.toml), or a trial (*.trial.toml) with its level, tuning and buttons [default: the project's level]
    level: Option<PathBuf>,
    #[command(flatten)]
    maps: Maps,
    #[command(flatten)]
    page: PageOptions,
    /// How the character moves (*.tuning.toml) [default: the trial's, or the project's]
    #[arg(long, value_name = "FILE")]
    tuning: Option<PathBuf>,
    #[command(flatten)]
    script: Script,
    /// Write every tick to this file (.csv, or .jsonl for JSON Lines)
    #[arg(long, value_name = "FILE", value_parser = options::trace_path)]
    trace: Option<PathBuf>,
    /// Draw the path over the level into this file (.svg or .png)
    #[arg(long, value_name = "FILE", value_parser = options::figure_path)]
    figure: Option<PathBuf>,
    #[command(flatten)]
    pictures: Pictures,
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
    /// Go on to the next level when one is finished, and so on: files are written for each, with its name in theirs
    #[arg(long, conflicts_with = "ride_figure")]
    on: bool,
    /// How to print the run
    #[arg(long, value_enum, default_value_t)]
    format: Format,
    #[command(flatten)]
    watch: Watch,
}

/// A level that was run through.
struct Ran {
    level: Level,
    trace: Trace,
    log: WhyLog,
    timeline: Timeline,
}

impl Run {
    pub(crate) fn execute(&self) -> Result<(), Failure> {
        let mut before: Vec<Ran> = Vec::new();
        let once = |files: &Files, prints| {
            let now = self.once(files, prints)?;
            if !self.watch.is_on() {
                return Ok(Outcome::default());
            }
            let outcome = outcome(&now, &before);
            before = now;
            Ok(outcome)
        };
        self.watch.run(once, &self.maps, &self.pictures, self.format)
    }

    fn once(&self, files: &Files, prints: bool) -> Result<Vec<Ran>, Failure> {
        let (levels, tuning, timeline, ticks) = self.read(files)?;
        if let Some(warning) = levels.iter().find_map(|level| level.warning_for(&tuning)) {
            warn(warning);
        }
        levels.iter().filter_map(|level| empty_from_above(level, &tuning)).for_each(warn);
        let runs = run_through(levels, &tuning, &timeline, ticks)?;
        if prints {
            self.print(&tuning, &runs)?;
        }
        for ran in &runs {
            self.write(files, &tuning, ran, runs.len() > 1)?;
        }
        Ok(runs)
    }

    /// What is run, by what is given, by a trial, or by the project.
    fn read(&self, files: &Files) -> Result<(Vec<Level>, TuningFile, Timeline, u64), Failure> {
        let path = files.needed(self.level.as_deref(), Meant::Level)?;
        let given = self.tuning.as_deref().map(|path| files.tuning(path)).transpose()?;
        if is_trial(&path) {
            let trial = files.trial(&path)?;
            if self.on {
                return Err(Failure::Usage(format!("{} is a trial: --on goes on from a level", path.display())));
            }
            let tuning = given.unwrap_or(trial.tuning);
            let (timeline, ticks) = if self.script.says_something() {
                self.script.timeline(files, &tuning, &tuning)?
            } else {
                (trial.timeline, trial.ticks)
            };
            return Ok((vec![trial.level], tuning, timeline, ticks));
        }
        let levels = if self.on { files.levels(&path)? } else { vec![files.level(&path)?] };
        let tuning = match given {
            Some(given) => given,
            None => files.tuning(&files.needed(None, Meant::Tuning)?)?,
        };
        let (timeline, ticks) = self.script.timeline(files, &tuning, &tuning)?;
        Ok((levels, tuning, timeline, ticks))
    }

    fn print(&self, tuning: &TuningFile, runs: &[Ran]) -> Result<(), Failure> {
        match (self.format, self.why) {
            (Format::Table, why) => {
                for ran in runs {
                    if self.on {
                        output::print(&format!("{}:", ran.level.name))?;
                    }
                    output::print(&if why { why_table(&ran.trace, &ran.log) } else { table(&ran.trace) })?;
                    let summary = ran.level.round.as_ref().map(|round| RoundSummary::of(&ran.trace, round));
                    summary.map_or(Ok(()), |summary| output::print(&format!("{summary}\n")))?;
                    note_hazards(ran);
                }
                Ok(())
            }
            (Format::Json, false) => {
                self.print_json("wumple-runs 1", runs.iter().map(|ran| RunReport::new(ran, tuning)).collect())
            }
            (Format::Json, true) => {
                self.print_json("wumple-whys 1", runs.iter().map(|ran| WhyReport::new(ran, tuning)).collect())
            }
            (Format::Csv, why) => {
                let text = |ran: &Ran| if why { ran.log.to_csv() } else { ran.trace.to_csv() };
                if !self.on {
                    return output::print(&text(&runs[0]));
                }
                output::print(&joined(runs.iter().map(|ran| (ran.level.name.as_str(), text(ran)))))
            }
        }
    }

    /// One report by itself, or those of several levels together.
    fn print_json<R: Serialize>(&self, format: &'static str, runs: Vec<R>) -> Result<(), Failure> {
        if self.on { output::print_json(&Chain { format, runs }) } else { output::print_json(&runs[0]) }
    }

    /// Writes what is asked for of one run; of several, with the name of the level in the name of the file.
    fn write(&self, files: &Files, tuning: &TuningFile, ran: &Ran, several: bool) -> Result<(), Failure> {
        let Ran { level, trace, log, timeline } = ran;
        let named = |path: &PathBuf| {
            if several && !is_standard(path) { with_name(path, &level.name) } else { path.clone() }
        };
        if let Some(path) = &self.trace {
            write_trace(files, &named(path), trace)?;
        }
        files.figure(self.figure.as_ref().map(named).as_deref(), || {
            run_figure(level, tuning, trace, log.presses(), &self.page.page())
        })?;
        if let Some(path) = &self.time_figure {
            files.write_figure(&named(path), &run_time_figure(level, tuning, trace, timeline, log.presses()))?;
        }
        if let Some(path) = &self.ride_figure {
            let mover = self.mover(trace)?;
            let figure = ride_figure(level, tuning, trace, mover)
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

/// Runs through a level, or through several in order.
fn run_through(levels: Vec<Level>, tuning: &TuningFile, timeline: &Timeline, ticks: u64) -> Result<Vec<Ran>, Failure> {
    let runs = run_levels(&levels, &tuning.tuning, timeline, ticks)?;
    let mut gone = 0;
    let ran = levels.into_iter().zip(runs).map(|(level, (mut trace, log))| {
        trace.show(&tuning.poses);
        let timeline = timeline.after(gone);
        gone += trace.rows.len() as u64 - 1;
        Ran { level, trace, log, timeline }
    });
    Ok(ran.collect())
}

/// The numbers of runs, and where they part from those before.
fn outcome(now: &[Ran], before: &[Ran]) -> Outcome {
    let mut outcome = Outcome::default();
    for ran in now {
        let run_of = |ran: &Ran| ComparedRun::of_trace(&ran.level.name, ran.trace.clone());
        let other = before.iter().find(|other| other.level.name == ran.level.name);
        let runs: Vec<ComparedRun> = iter::once(ran).chain(other).map(run_of).collect();
        let comparison = wumple::compare(&runs, ran.level.grid.grid_lines().spacing());
        let name = if now.len() > 1 { format!("{}, ", ran.level.name) } else { String::new() };
        outcome.facts.extend(run_facts(&comparison.runs[0], &name));
        let apart = comparison.apart.map(|apart| format!("{name}first apart at {} s", short(apart.time_s)));
        outcome.differences.extend(apart);
    }
    outcome
}

/// A path with something before its ending: `run-ember-walk.svg`.
fn with_name(path: &Path, name: &str) -> PathBuf {
    let plain = |letter: char| if letter.is_alphanumeric() { letter.to_ascii_lowercase() } else { '-' };
    let name: String = name.chars().map(plain).collect();
    let stem = path.file_stem().unwrap_or_default().to_string_lossy();
    let ending = path.extension().map_or(String::new(), |ending| format!(".{}", ending.to_string_lossy()));
    path.with_file_name(format!("{stem}-{name}{ending}"))
}

/// Several texts of CSV as one, with the level in the first column. Where only some levels have the columns of a round, those are
/// empty in the others.
fn joined<'a>(parts: impl Iterator<Item = (&'a str, String)>) -> String {
    let records = |text: String| -> Vec<csv::StringRecord> {
        let reader = csv::ReaderBuilder::new().has_headers(false).from_reader(text.as_bytes());
        reader.into_records().collect::<Result<_, _>>().expect("CSV that was just written")
    };
    let parts: Vec<(&str, Vec<csv::StringRecord>)> = parts.map(|(level, text)| (level, records(text))).collect();
    let heads = parts.iter().filter_map(|(_, records)| records.first());
    let head = heads.max_by_key(|head| head.len()).cloned().unwrap_or_default();
    let mut whole = csv::Writer::from_writer(Vec::new());
    let mut write = |level: &str, record: &csv::StringRecord| {
        let missing = std::iter::repeat_n("", head.len() - record.len());
        let fields = std::iter::once(level).chain(record).chain(missing);
        whole.write_record(fields).expect("writing to memory");
    };
    write("level", &head);
    for (level, records) in &parts {
        records.iter().skip(1).for_each(|record| write(level, record));
    }
    String::from_utf8(whole.into_inner().expect("writing to memory")).expect("CSV of UTF-8 fields")
}

/// What follows from a hazard is the game's business; nobody should wonder why nothing does here.
fn note_hazards(ran: &Ran) {
    if ran.level.round.is_some() {
        return;
    }
    let trace = &ran.trace;
    let entered = |row: &&TickReport| row.events.iter().any(|event| event.enters(ZoneKind::Hazard));
    let mut ticks = trace.rows.iter().filter(entered).map(|row| row.tick);
    if let Some(first) = ticks.next() {
        let more = match ticks.count() {
            0 => String::new(),
            more => format!(", and {more} more after it"),
        };
        say(format_args!(
            "note: a hazard was entered in tick {first}{more}; it is told and hurts nobody: what follows is your game's, or a [round]'s"
        ));
    }
}

/// Writes a trace in the form that its name asks for.
pub(crate) fn write_trace(files: &Files, path: &Path, trace: &Trace) -> Result<(), Failure> {
    let lines = path.extension().is_some_and(|ending| ending == "jsonl");
    let contents = if lines { trace.to_json_lines() } else { trace.to_csv() };
    files.write_and_say("trace", path, contents.as_bytes())
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

/// Several runs as JSON: `wumple-runs 1`, `wumple-whys 1`.
#[derive(Serialize)]
struct Chain<R> {
    format: &'static str,
    runs: Vec<R>,
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
    fn new(ran: &'a Ran, tuning: &'a TuningFile) -> WhyReport<'a> {
        let (level, rate_hz) = (ran.level.name.as_str(), tuning.tuning.rate());
        WhyReport { format: "wumple-why 1", level, tuning: &tuning.name, rate_hz, lines: ran.log.lines() }
    }
}

/// A run as JSON: `wumple-run 1`.
#[derive(Serialize)]
struct RunReport<'a> {
    format: &'static str,
    level: &'a str,
    tuning: &'a str,
    rate_hz: f64,
    #[serde(skip_serializing_if = "Option::is_none")]
    round: Option<RoundSummary>,
    rows: Vec<WrittenRow>,
}

impl<'a> RunReport<'a> {
    fn new(ran: &'a Ran, tuning: &'a TuningFile) -> RunReport<'a> {
        let Ran { level, trace, .. } = ran;
        let round = level.round.as_ref().map(|round| RoundSummary::of(trace, round));
        let rows = trace.whole_rows().collect();
        RunReport { format: "wumple-run 1", level: &level.name, tuning: &tuning.name, rate_hz: trace.rate, round, rows }
    }
}
