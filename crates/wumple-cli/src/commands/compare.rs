use std::path::{Path, PathBuf};

use clap::Args;
use wumple::advanced::Names;
use wumple::analysis::{AtParting, ComparedRun, Comparison, MeasuredRun, Parting};
use wumple::figures::{compare_figure, compare_time_figure};
use wumple::units::short;
use wumple::why::Press;
use wumple::{Level, Terrain, Timeline, TuningFile};

use crate::failure::Failure;
use crate::files::{Files, Maps};
use crate::options::{self, Format, PageOptions, is_standard};
use crate::output;
use crate::pictures::Pictures;
use crate::say::warn;
use crate::script::Script;
use crate::table;
use crate::watch::{Fact, Outcome, Watch};

/// Puts runs side by side: where they part, what differs, what each press led to
///
/// Takes tunings (*.toml), run with the same buttons over the same level, or traces (*.csv, *.jsonl) that
/// `run --trace` wrote, or some of both. The last column of the table is the last run less the first.
#[derive(Args)]
#[command(after_help = "Examples, on what `wumple demo` writes:\n  \
    wumple compare wumple-demo/steps/3-fall.tuning.toml wumple-demo/dab.tuning.toml \\\n      \
    --level wumple-demo/throwing-room.level.toml --buttons wumple-demo/throwing-room.buttons --figure both.png\n  \
    wumple compare wumple-demo/chimney-run.csv \\\n      \
    wumple-demo/clay-heap-run.csv --time-figure over-time.svg")]
pub(crate) struct Compare {
    /// Tunings (*.tuning.toml) or traces (*.csv, *.jsonl), two or more
    #[arg(required = true, num_args = 2.., value_name = "FILE")]
    files: Vec<PathBuf>,
    /// The level that tunings are run through, and that --figure draws (*.level.toml)
    #[arg(long, value_name = "FILE")]
    level: Option<PathBuf>,
    #[command(flatten)]
    maps: Maps,
    #[command(flatten)]
    page: PageOptions,
    #[command(flatten)]
    script: Script,
    /// Draw the paths over the level, with the hitboxes at the same moments (.svg or .png)
    #[arg(long, value_name = "FILE", value_parser = options::figure_path, requires = "level")]
    figure: Option<PathBuf>,
    #[command(flatten)]
    pictures: Pictures,
    /// Draw heights and speeds on one axis of time (.svg or .png)
    #[arg(long, value_name = "FILE", value_parser = options::figure_path)]
    time_figure: Option<PathBuf>,
    /// How to print the comparison
    #[arg(long, value_enum, default_value_t)]
    format: Format,
    #[command(flatten)]
    watch: Watch,
}

/// The side of a tile if neither a level nor a tuning says, px.
const DEFAULT_TILE: f64 = 16.0;

impl Compare {
    pub(crate) fn execute(&self) -> Result<(), Failure> {
        self.watch.run(|files, prints| self.once(files, prints), &self.maps, &self.pictures, self.format)
    }

    fn once(&self, files: &Files, prints: bool) -> Result<Outcome, Failure> {
        let level = self.level.as_ref().map(|path| files.level(path)).transpose()?;
        let tunings = self.files.iter().filter(|path| !is_trace(path)).map(|path| files.tuning(path));
        let tunings = tunings.collect::<Result<Vec<_>, _>>()?;
        let mut next_tuning = tunings.iter();
        let mut timelines = Vec::new();
        let mut runs = Vec::new();
        for path in &self.files {
            if is_trace(path) {
                let names = level.as_ref().map_or_else(Names::default, |level| level.names.clone());
                runs.push(ComparedRun::of_trace(&stem(path), files.trace(path, &names)?));
            } else if let Some(tuning) = next_tuning.next() {
                let (run, timeline) = self.run_tuning(files, tuning, &tunings[0], level.as_ref())?;
                timelines.push((run.trace.rate, timeline));
                runs.push(run);
            }
        }
        self.name_apart(&mut runs);
        let tile = level.as_ref().map(|level| level.grid.grid_lines().spacing());
        let tile = tile.or(tunings.first().map(|tuning| tuning.scale.tile)).unwrap_or(DEFAULT_TILE);
        let comparison = wumple::compare(&runs, tile);
        match self.format {
            _ if !prints => {}
            Format::Table => output::print(&tables(&comparison))?,
            Format::Json => output::print_json(&comparison)?,
            Format::Csv => output::print(&comparison.to_csv())?,
        }
        // Bars are drawn in ticks of the first run.
        let held = timelines.iter().find(|(rate, _)| *rate == runs[0].trace.rate).map(|(_, timeline)| timeline);
        let over_time = || compare_time_figure(&runs, &comparison, held, tile);
        match &level {
            Some(level) => {
                files
                    .figure(self.figure.as_deref(), || compare_figure(level, &runs, &comparison, &self.page.page()))?;
                self.time_figure.as_ref().map_or(Ok(()), |path| files.write_figure(path, &over_time()))?;
            }
            // There is but one.
            None => files.figure(self.time_figure.as_deref(), over_time)?,
        }
        let numbers = comparison.runs.iter().flat_map(|run| run_facts(run, &format!("{}, ", run.name)));
        Ok(Outcome::of(parting_facts(&comparison).into_iter().chain(numbers).collect()))
    }

    fn run_tuning(
        &self,
        files: &Files,
        tuning: &TuningFile,
        first: &TuningFile,
        level: Option<&Level>,
    ) -> Result<(ComparedRun, Timeline), Failure> {
        let Some(level) = level else {
            let what = format!("{} is a tuning: --level says where it is to run", tuning.name);
            return Err(Failure::Usage(what));
        };
        if let Some(warning) = level.warning_for(tuning) {
            warn(warning);
        }
        let (timeline, ticks) = self.script.timeline(files, tuning, first)?;
        Ok((ComparedRun::of_tuning(level, tuning, &timeline, ticks)?, timeline))
    }

    /// Runs of the same name are called after their files.
    fn name_apart(&self, runs: &mut [ComparedRun]) {
        type Rename = fn(&str, &Path) -> String;
        let ways: [Rename; 2] = [|name, path| format!("{name} ({})", stem(path)), |_, path| path.display().to_string()];
        for rename in ways {
            let names: Vec<String> = runs.iter().map(|run| run.name.clone()).collect();
            for (index, run) in runs.iter_mut().enumerate() {
                if names.iter().filter(|name| **name == names[index]).count() > 1 {
                    run.name = rename(&run.name, &self.files[index]);
                }
            }
        }
    }
}

/// The numbers of a run; before each of their names, that of the run, if there are several.
pub(super) fn run_facts(run: &MeasuredRun, name: &str) -> Vec<Fact> {
    let fact = |what: &str, value: String, unit: &'static str| Fact::new(format!("{name}{what}"), value, unit);
    vec![
        fact("apex", short(run.apex_tiles), "tiles"),
        fact("reach", short(run.reach_tiles), "tiles"),
        fact("longest in the air", short(run.longest_air_time_s), "s"),
        fact("ends", run.end.clone(), ""),
        fact("ends after", short(run.end_time_s), "s"),
    ]
}

fn parting_facts(comparison: &Comparison) -> [Fact; 2] {
    let at =
        |parting: &Option<Parting>| parting.as_ref().map_or("never".to_owned(), |at| format!("{} s", short(at.time_s)));
    [
        Fact::new("first apart", at(&comparison.apart), ""),
        Fact::new("first with different events", at(&comparison.happened), ""),
    ]
}

fn is_trace(path: &Path) -> bool {
    // What comes from another program is what that ran.
    is_standard(path) || path.extension().is_some_and(|ending| ending == "csv" || ending == "jsonl")
}

fn stem(path: &Path) -> String {
    wumple::files::file_stem(&path.display().to_string())
}

/// Where they part, the numbers, what each press led to.
pub(crate) fn tables(comparison: &Comparison) -> String {
    let names: Vec<&str> = comparison.runs.iter().map(|run| run.name.as_str()).collect();
    let mut text = match (&comparison.apart, &comparison.happened) {
        (None, None) => String::from("the runs are the same: place, state, support and events in every tick\n"),
        (Some(apart), None) => {
            parting_words("first apart", apart, &names) + "\nthe same happened to all, in the same ticks\n"
        }
        (None, Some(happened)) => parting_words("first with different events", happened, &names),
        (Some(apart), Some(happened)) if apart == happened => {
            parting_words("first apart, with different events,", apart, &names)
        }
        (Some(apart), Some(happened)) => {
            let events = parting_words("\nfirst with different events", happened, &names);
            parting_words("first apart", apart, &names) + &events
        }
    };
    text += &format!("\n{}", numbers_table(comparison, &names));
    let presses = comparison.presses_by_time();
    if !presses.is_empty() {
        let head = [&["pressed at s"][..], &names].concat();
        let rows = presses.iter().map(|(time, presses)| {
            [short(*time)]
                .into_iter()
                .chain(presses.iter().map(|press| press.map_or_else(String::new, press_words)))
                .collect()
        });
        text += &format!("\n{}", table::table(&head, rows));
    }
    text
}

fn parting_words(what: &str, parting: &Parting, names: &[&str]) -> String {
    let mut text = format!("{what} at {} s\n", short(parting.time_s));
    for (name, run) in names.iter().zip(&parting.runs) {
        let words = run.as_ref().map_or_else(|| "over".to_owned(), at_parting_words);
        text += &format!("  {name}, {words}\n");
    }
    text
}

fn at_parting_words(at: &AtParting) -> String {
    let [x, y, along, upward] = [at.x_px, at.y_px, at.vx_px_s, -at.vy_px_s].map(short);
    let mut words = format!("tick {}: {} at ({x}, {y}) px, {along} px/s sideways, {upward} upward", at.tick, at.state);
    if !at.events.is_empty() {
        words += &format!("; {}", at.events.join(", "));
    }
    for line in at.decisions.iter().flatten() {
        let when = if at.tick <= line.last_tick { String::new() } else { format!("last in tick {}, ", line.tick) };
        words += &format!("\n    {when}{}", line.why);
    }
    words
}

fn press_words(press: &Press) -> String {
    match press.led_to.as_str() {
        "nothing" => press.why.clone(),
        _ if press.tick == press.pressed_tick => press.led_to.clone(),
        _ => format!("{} in tick {}, kept {}", press.led_to, press.tick, press.tick - press.pressed_tick),
    }
}

fn numbers_table(comparison: &Comparison, names: &[&str]) -> String {
    let head = [&["what"][..], names, &["change"]].concat();
    type Number = (&'static str, fn(&MeasuredRun) -> f64);
    let numbers: [Number; 8] = [
        ("apex, tiles", |run| run.apex_tiles),
        ("apex, px", |run| run.apex_px),
        ("reach, tiles", |run| run.reach_tiles),
        ("reach, px", |run| run.reach_px),
        ("longest in the air, s", |run| run.longest_air_time_s),
        ("in the air altogether, s", |run| run.air_time_s),
        ("time to the end, s", |run| run.end_time_s),
        ("end, tick", |run| run.end_tick as f64),
    ];
    let mut rows: Vec<Vec<String>> = numbers
        .iter()
        .map(|(what, value)| {
            let values: Vec<f64> = comparison.runs.iter().map(value).collect();
            let change = short(values[values.len() - 1] - values[0]);
            [(*what).to_owned()].into_iter().chain(values.iter().map(|value| short(*value))).chain([change]).collect()
        })
        .collect();
    let ends = comparison.runs.iter().map(|run| run.end.clone());
    rows.push(["end".to_owned()].into_iter().chain(ends).chain([String::new()]).collect());
    table::table(&head, rows)
}
