use std::path::PathBuf;

use clap::Args;
use wumple::analysis::{Passage, picture_notes, tight_passages};
use wumple::figures::{body_figure, level_figure, run_figure, run_time_figure};
use wumple::units::short;
use wumple::{Level, Timeline, Trace, TuningFile};

use crate::failure::Failure;
use crate::files::{Files, Maps, Meant};
use crate::options::{self, Format, PageOptions};
use crate::output;
use crate::pictures::Pictures;
use crate::say::warn;
use crate::script::at_rate;
use crate::watch::{Fact, Outcome, Watch};

/// Draws a level: its tiles, platforms with their routes, props, zones and edges, and the hitbox of a
/// character at the spawn
///
/// With a tuning it also says which passages the hitbox does not fit through, and how the character's
/// picture, if the tuning tells of one, differs from the hitbox. With a trace that `run --trace` wrote, or your
/// game in the same form, it draws that run.
#[derive(Args)]
#[command(after_help = "Examples, on what `wumple demo` writes:\n  \
    wumple draw wumple-demo/throwing-room.level.toml --tuning wumple-demo/dab.tuning.toml \\\n      \
    --figure room.png\n  \
    wumple draw wumple-demo/chimney.level.toml --tuning wumple-demo/climbing-dab.tuning.toml \\\n      \
    --body-figure body.png\n  \
    wumple draw wumple-demo/throwing-room.level.toml --tuning wumple-demo/dab.tuning.toml \\\n      \
    --trace wumple-demo/throwing-room-run.csv --figure run.png")]
pub(crate) struct Draw {
    /// The level (*.level.toml) [default: the project's]
    level: Option<PathBuf>,
    #[command(flatten)]
    maps: Maps,
    #[command(flatten)]
    page: PageOptions,
    /// Whose hitbox and wall probes to draw at the spawn (*.tuning.toml) [default: the project's]
    #[arg(long, value_name = "FILE")]
    tuning: Option<PathBuf>,
    /// The file to draw into (.svg or .png)
    #[arg(long, value_name = "FILE", value_parser = options::figure_path, default_value = "level.svg")]
    figure: PathBuf,
    #[command(flatten)]
    pictures: Pictures,
    /// Draw the hitbox with its probes and picture, large, into this file (.svg or .png)
    #[arg(long, value_name = "FILE", value_parser = options::figure_path)]
    body_figure: Option<PathBuf>,
    /// Draw the path of this run over the level (.csv, .jsonl)
    #[arg(long, value_name = "FILE", value_parser = options::trace_to_read)]
    trace: Option<PathBuf>,
    /// Draw that run's height, speeds and state against time into this file (.svg or .png)
    #[arg(long, value_name = "FILE", value_parser = options::figure_path, requires = "trace")]
    time_figure: Option<PathBuf>,
    /// What was held, for the bars beneath (*.buttons)
    #[arg(long, value_name = "FILE", requires = "time_figure")]
    buttons: Option<PathBuf>,
    #[command(flatten)]
    watch: Watch,
}

impl Draw {
    pub(crate) fn execute(&self) -> Result<(), Failure> {
        self.watch.run(|files, prints| self.once(files, prints), &self.maps, &self.pictures, Format::Table)
    }

    fn once(&self, files: &Files, prints: bool) -> Result<Outcome, Failure> {
        let level = files.level(&files.needed(self.level.as_deref(), Meant::Level)?)?;
        let tuning = if self.body_figure.is_some() || self.trace.is_some() {
            Some(files.needed(self.tuning.as_deref(), Meant::Tuning)?)
        } else {
            files.given_or_meant(self.tuning.as_deref(), Meant::Tuning)?
        };
        let tuning = tuning.map(|path| files.tuning(&path)).transpose()?;
        if let Some(tuning) = &tuning {
            level.world(&tuning.tuning)?;
            if let Some(warning) = level.warning_for(tuning) {
                warn(warning);
            }
        }
        let Some(tuning) = tuning else {
            files.write_figure(&self.figure, &level_figure(&level, None, &self.page.page()))?;
            return Ok(drawn_again(Vec::new()));
        };
        match &self.trace {
            Some(path) => self.draw_trace(files, &level, &tuning, &files.trace(path, &level.names)?)?,
            None => files.write_figure(&self.figure, &level_figure(&level, Some(&tuning), &self.page.page()))?,
        }
        let passages = tight_passages(&level, tuning.tuning.body());
        let passages = passages.iter().map(|passage| passage_words(passage, &tuning));
        let notes: Vec<String> = passages.chain(picture_notes(&tuning)).collect();
        if prints {
            notes.iter().try_for_each(|note| output::print(note))?;
        }
        if let Some(path) = &self.body_figure {
            files.write_figure(path, &body_figure(&tuning))?;
        }
        Ok(drawn_again(notes.into_iter().map(Fact::said).collect()))
    }

    fn draw_trace(&self, files: &Files, level: &Level, tuning: &TuningFile, trace: &Trace) -> Result<(), Failure> {
        files.write_figure(&self.figure, &run_figure(level, tuning, trace, &[], &self.page.page()))?;
        let Some(path) = &self.time_figure else { return Ok(()) };
        let timeline = match &self.buttons {
            Some(buttons) => at_rate(&files.buttons(buttons, &tuning.scale)?, trace.rate)?,
            None => Timeline::default(),
        };
        files.write_figure(path, &run_time_figure(level, tuning, trace, &timeline, &[]))
    }
}

/// That is all that is said of the picture itself.
fn drawn_again(facts: Vec<Fact>) -> Outcome {
    Outcome { differences: vec!["drawn again".into()], ..Outcome::of(facts) }
}

fn passage_words(passage: &Passage, tuning: &TuningFile) -> String {
    let body = tuning.tuning.body();
    let (word, needed) = if passage.is_height { ("high", body.height) } else { ("wide", body.width) };
    let range = |name: &str, (first, last): (i32, i32)| {
        if first == last { format!("{name} {first}") } else { format!("{name}s {first} to {last}") }
    };
    format!(
        "does not fit: the passage at {}, {} is {} px {word}, the hitbox {} px",
        range("column", passage.columns),
        range("row", passage.rows),
        short(passage.size_px),
        short(needed)
    )
}
