use std::path::PathBuf;

use clap::Args;
use serde::Serialize;
use wumple::Timeline;
use wumple::files::held_words;
use wumple::units::{Quantity, Scale, short};

use crate::failure::Failure;
use crate::files::Files;
use crate::options::{self, Format, is_standard};
use crate::output;
use crate::say::say;
use crate::script::{Practice, at_rate, in_ticks, time};
use crate::table;

/// Shows a buttons file as a table, or makes one to practise on
///
/// A row for each change: from which tick on, for how long, and what is held. With --press-every it is made:
/// presses of jump as far apart as asked, of which --seed picks one way; the same options go with `run` and
/// `compare`.
#[derive(Args)]
#[command(after_help = "Examples, on what `wumple demo` writes:\n  \
    wumple buttons wumple-demo/throwing-room.buttons\n  \
    wumple buttons --press-every 30 --vary 8 --with right --seed 7 --write practice.buttons")]
pub(crate) struct Buttons {
    /// The buttons file (*.buttons)
    #[arg(value_name = "FILE", required_unless_present = "press_every")]
    buttons: Option<PathBuf>,
    #[command(flatten)]
    practice: Practice,
    /// Ticks a second [default: those of the file, or 60]
    #[arg(long, value_name = "HZ", value_parser = rate)]
    rate: Option<f64>,
    /// How many ticks of practice to make, or how long [default: ten seconds]
    #[arg(long, value_name = "TICKS", value_parser = time, requires = "press_every")]
    ticks: Option<Quantity>,
    /// Write it as a buttons file, in ticks of --rate
    #[arg(long, value_name = "FILE", value_parser = options::output_file)]
    write: Option<PathBuf>,
    /// Overwrite a file that is there already
    #[arg(long, requires = "write")]
    force: bool,
    /// How to print it
    #[arg(long, value_enum, default_value_t)]
    format: Format,
}

/// Ticks a second if nobody says, Hz.
const DEFAULT_RATE: f64 = 60.0;

#[derive(Serialize)]
struct ButtonsReport {
    format: &'static str,
    rate_hz: f64,
    rows: Vec<Row>,
}

/// What is held from a tick on.
#[derive(Serialize)]
struct Row {
    tick: u64,
    time_s: f64,
    /// Until the next change; none for the last.
    ticks: Option<u64>,
    held: String,
}

impl Buttons {
    pub(crate) fn execute(&self) -> Result<(), Failure> {
        let scale = Scale { tile: 16.0, frames_per_second: self.rate.unwrap_or(DEFAULT_RATE) };
        let file = self.buttons.as_ref().map(|path| Files::default().buttons(path, &scale)).transpose()?;
        let rate = self.rate.or(file.as_ref().and_then(|file| file.rate)).unwrap_or(DEFAULT_RATE);
        let timeline = match (
            file,
            self.practice.input(rate, &scale, self.ticks.as_ref().map(|ticks| in_ticks(ticks, rate, &scale)))?,
        ) {
            (Some(file), _) => at_rate(&file, rate)?,
            (None, practice) => practice.map(|input| input.timeline()).unwrap_or_default(),
        };
        let rows = rows(&timeline, rate);
        match self.format {
            Format::Table => output::print(&table(&rows))?,
            Format::Json => {
                output::print_json(&ButtonsReport { format: "wumple-buttons 1", rate_hz: rate, rows })?;
            }
            Format::Csv => output::print_csv(rows.into_iter())?,
        }
        if let Some(path) = &self.write {
            output::write(path, timeline.to_text(rate).as_bytes(), self.force)?;
            if !is_standard(path) {
                say(format_args!("buttons: {}", path.display()));
            }
        }
        Ok(())
    }
}

fn rows(timeline: &Timeline, rate: f64) -> Vec<Row> {
    let changes = timeline.changes();
    let row = |(index, (tick, held)): (usize, &(u64, wumple::Buttons))| Row {
        tick: *tick,
        time_s: *tick as f64 / rate,
        ticks: changes.get(index + 1).map(|(next, _)| next - tick),
        held: held_words(held),
    };
    changes.iter().enumerate().map(row).collect()
}

fn table(rows: &[Row]) -> String {
    let row = |row: &Row| {
        let ticks = row.ticks.map_or("on".to_owned(), |ticks| ticks.to_string());
        vec![row.tick.to_string(), short(row.time_s), ticks, row.held.clone()]
    };
    table::table(&["from tick", "s", "for ticks", "held"], rows.iter().map(row))
}

fn rate(text: &str) -> Result<f64, String> {
    let rate = text.parse().ok().filter(|rate| (1.0..=10_000.0).contains(rate));
    rate.ok_or_else(|| "a rate is a number of ticks a second from 1 to 10000".into())
}
