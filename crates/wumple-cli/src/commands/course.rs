use std::path::PathBuf;

use clap::Args;
use serde::Serialize;
use wumple::analysis::{Course, CourseSettings, StepKind, course};
use wumple::figures::run_figure;
use wumple::units::{QuantityRange, short};

use crate::failure::Failure;
use crate::files::{Files, Meant};
use crate::long_work::LongWork;
use crate::options::{Format, PageOptions, figure_path};
use crate::output;
use crate::pictures::Pictures;
use crate::table::table;

/// Makes a level of steps that a tuning can climb, with the buttons that do it
///
/// Steps are drawn from ranges, each so much higher and so far to the side of the one before. One is kept if this character comes to it with
/// no more than --share of its jump's height and of its run's speed: so 0.85 leaves a player some room. The whole is climbed before it is
/// written: as a level, a tuning, the buttons, and a trial that passes. The same --seed gives the same course.
#[derive(Args)]
#[command(after_help = "Examples, on what `wumple demo` writes:\n  \
    wumple course wumple-demo/dab.tuning.toml --steps 12 --rise \"1..3 tiles\" --apart \"-4..4 tiles\" --share 0.85 --seed 7 --write course\n  \
    wumple course wumple-demo/dab.tuning.toml --steps 20 --rise \"1..2.5 tiles\" --apart \"-4..4 tiles\" --slabs 1 --platforms 1 --bellows 1 --figure course.png")]
pub(crate) struct CourseCommand {
    /// Who climbs it (*.tuning.toml) [default: the project's]
    #[arg(value_name = "TUNING")]
    tuning: Option<PathBuf>,
    /// How many steps
    #[arg(long, default_value_t = 12)]
    steps: usize,
    /// How much higher each is than the one before
    #[arg(long, value_name = "FROM..TO", value_parser = range, allow_hyphen_values = true, default_value = "1..3 tiles")]
    rise: QuantityRange,
    /// How far its middle is to the right of that of the one before, to the left where negative
    #[arg(long, value_name = "FROM..TO", value_parser = range, allow_hyphen_values = true, default_value = "-4..4 tiles")]
    apart: QuantityRange,
    /// With what share of the jump's height and of the run's speed each must be come to
    #[arg(long, default_value_t = 0.85)]
    share: f64,
    /// How often shelves are drawn, which stay
    #[arg(long, value_name = "WEIGHT", default_value_t = 4)]
    shelves: u32,
    /// How often slabs, which crumble
    #[arg(long, value_name = "WEIGHT", default_value_t = 0)]
    slabs: u32,
    /// How often platforms, which go to and fro
    #[arg(long, value_name = "WEIGHT", default_value_t = 0)]
    platforms: u32,
    /// How often bellows, which throw up
    #[arg(long, value_name = "WEIGHT", default_value_t = 0)]
    bellows: u32,
    /// Which of all such courses
    #[arg(long, default_value_t = 1)]
    seed: u64,
    /// Write course.level.toml, course.tuning.toml, course.buttons and course.trial.toml into this folder
    #[arg(long, value_name = "FOLDER")]
    write: Option<PathBuf>,
    /// Draw the way up (.svg or .png)
    #[arg(long, value_name = "FILE", value_parser = figure_path)]
    figure: Option<PathBuf>,
    #[command(flatten)]
    pictures: Pictures,
    #[command(flatten)]
    page: PageOptions,
    /// How to print the steps
    #[arg(long, value_enum, default_value_t)]
    format: Format,
}

fn range(text: &str) -> Result<QuantityRange, String> {
    QuantityRange::parse(text).map_err(|error| error.to_string())
}

/// A course as JSON: `wumple-course 1`.
#[derive(Serialize)]
struct CourseJson<'a> {
    format: &'static str,
    level: &'a str,
    seed: u64,
    rate_hz: f64,
    ticks: u64,
    presses: usize,
    steps: Vec<StepRow>,
}

/// A step as a row.
#[derive(Serialize)]
struct StepRow {
    step: usize,
    kind: StepKind,
    rise_px: f64,
    rise_tiles: f64,
    apart_px: f64,
    apart_tiles: f64,
    draws: u32,
    tick: Option<u64>,
}

const FILES: [&str; 3] = ["course.level.toml", "course.tuning.toml", "course.buttons"];

impl CourseCommand {
    pub(crate) fn execute(&self) -> Result<(), Failure> {
        let files = Files::default().with_pictures(&self.pictures);
        let (tuning, tuning_text) = files.tuning_and_text(&files.needed(self.tuning.as_deref(), Meant::Tuning)?)?;
        let mut settings = CourseSettings::new(self.steps, self.rise, self.apart);
        (settings.share, settings.seed) = (self.share, self.seed);
        settings.weights = [self.shelves, self.slabs, self.platforms, self.bellows];
        let made = {
            let work = LongWork::start(self.steps as u64, "steps");
            course(&tuning, &settings, |steps| work.goes_on(steps))
                .map_err(|error| Failure::Usage(error.to_string()))?
        };
        if let Some(folder) = &self.write {
            std::fs::create_dir_all(folder)?;
            let [level, own, buttons] = FILES;
            for (name, text) in [
                (level, made.level_text.as_str()),
                (own, &tuning_text),
                (buttons, &made.buttons_text()),
                ("course.trial.toml", &made.trial_text(FILES)),
            ] {
                files.write(&folder.join(name), text.as_bytes())?;
            }
        }
        if self.figure.is_some() || self.pictures.want_one() {
            let trace = wumple::run(&made.level, &tuning.tuning, &made.held, made.ticks)
                .map_err(|error| Failure::Files(vec![wumple::FileError::Wrong(error.into())]))?;
            let draw = || run_figure(&made.level, &tuning, &trace, &[], &self.page.page());
            files.figure(self.figure.as_deref(), draw)?;
        }
        self.print(&made, tuning.scale.tile)
    }

    fn print(&self, made: &Course, tile: f64) -> Result<(), Failure> {
        let rows = || {
            made.steps.iter().enumerate().map(|(number, step)| StepRow {
                step: number + 1,
                kind: step.kind,
                rise_px: step.rise_px,
                rise_tiles: step.rise_px / tile,
                apart_px: step.apart_px,
                apart_tiles: step.apart_px / tile,
                draws: step.draws,
                tick: step.tick,
            })
        };
        match self.format {
            Format::Csv => output::print_csv(rows()),
            Format::Json => output::print_json(&CourseJson {
                format: "wumple-course 1",
                level: &made.level.name,
                seed: self.seed,
                rate_hz: made.rate_hz,
                ticks: made.ticks,
                presses: made.held.presses(),
                steps: rows().collect(),
            }),
            Format::Table => {
                let cells = rows().map(|row| {
                    let rise = short(row.rise_tiles);
                    vec![
                        row.step.to_string(),
                        row.kind.to_string(),
                        rise,
                        short(row.apart_tiles),
                        row.draws.to_string(),
                        row.tick.map_or_else(|| "past".to_owned(), |tick| tick.to_string()),
                    ]
                });
                let head = ["step", "kind", "rise, tiles", "apart, tiles", "draws", "tick"];
                let seconds = short(made.ticks as f64 / made.rate_hz);
                let counted =
                    format!("{}: climbed in {seconds} s with {} presses", made.level.name, made.held.presses());
                output::print(&format!("{}{counted}\n", table(&head, cells)))
            }
        }
    }
}
