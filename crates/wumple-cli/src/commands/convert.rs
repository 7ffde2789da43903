use std::path::PathBuf;

use clap::Args;
use wumple::TuningFile;
use wumple::analysis::{ArcKind, Conversion, ConvertError, JumpArc, Target, UnitStyle, convert};
use wumple::numbers::Scheme;
use wumple::units::short;

use crate::failure::Failure;
use crate::files::{Files, say_warnings};
use crate::options::{self, Format, is_standard};
use crate::output;
use crate::say::say;
use crate::table;

/// Converts a tuning to another scheme, rate, tile size or other units
///
/// Says what stays the same and what cannot. A jump given as height and time keeps them; one given as
/// speed and gravity gets those that reach the same height in the other loop. With another tile size the
/// motion stays the same in tiles. Without --write the converted tuning is printed.
#[derive(Args)]
#[command(after_help = "Examples, on what `wumple demo` writes:\n  \
    wumple convert wumple-demo/dab.tuning.toml --scheme velocity-first --rate 50\n  \
    wumple convert wumple-demo/dab.tuning.toml --units frames --write frames.tuning.toml")]
pub(crate) struct Convert {
    /// The tuning (*.tuning.toml)
    tuning: PathBuf,
    /// How the other loop integrates
    #[arg(long, value_parser = ["exact", "velocity-first", "position-first"])]
    scheme: Option<String>,
    /// Its ticks a second
    #[arg(long, value_name = "HZ", allow_negative_numbers = true)]
    rate: Option<f64>,
    /// The side of its tiles in px
    #[arg(long, value_name = "PX", allow_negative_numbers = true)]
    tile: Option<f64>,
    /// Write quantities in px and seconds, tiles and seconds, or px and frames
    #[arg(long, value_parser = ["px", "tiles", "frames"])]
    units: Option<String>,
    /// Write the converted tuning to this file
    #[arg(long, value_name = "FILE", value_parser = options::output_file)]
    write: Option<PathBuf>,
    /// Overwrite a file that is there
    #[arg(long)]
    force: bool,
    /// How to print what changes
    #[arg(long, value_enum, default_value_t)]
    format: Format,
}

impl Convert {
    pub(crate) fn execute(&self) -> Result<(), Failure> {
        let (name, text) = Files::default().text(&self.tuning)?;
        if let Ok(tuning) = TuningFile::parse(&name, &text) {
            say_warnings(&tuning);
        }
        let done = convert(&name, &text, &self.target()).map_err(|error| match error {
            ConvertError::Wrong(diagnostics) => Failure::from(diagnostics),
            other => Failure::Usage(other.to_string()),
        })?;
        match self.format {
            Format::Table => output::print(&table(&done))?,
            Format::Json => output::print_json(&done)?,
            Format::Csv => output::print(&csv(&done))?,
        }
        match &self.write {
            Some(path) => {
                output::write(path, done.text.as_bytes(), self.force)?;
                if !is_standard(path) {
                    say(format_args!("written to {}", path.display()));
                }
                Ok(())
            }
            None if self.format == Format::Table => output::print(&format!("\n{}", done.text)),
            None => Ok(()),
        }
    }

    fn target(&self) -> Target {
        fn named<T: Copy>(names: &[(&str, T)], name: Option<&str>) -> Option<T> {
            names.iter().find(|known| Some(known.0) == name).map(|known| known.1)
        }
        Target {
            scheme: self.scheme.as_deref().and_then(Scheme::of_word),
            rate: self.rate,
            tile: self.tile,
            units: named(&UnitStyle::NAMES, self.units.as_deref()),
        }
    }
}

const KINDS: [ArcKind; 4] = [ArcKind::Tap, ArcKind::Full, ArcKind::Running, ArcKind::Air];

fn pairs(done: &Conversion) -> impl Iterator<Item = (&JumpArc, &JumpArc)> {
    KINDS.into_iter().filter_map(|kind| Some((done.before.arc(kind)?, done.after.arc(kind)?)))
}

fn rows(done: &Conversion) -> Vec<Vec<String>> {
    let mut rows = Vec::new();
    for (before, after) in pairs(done) {
        for (what, a, b) in [
            ("height, tiles", before.apex_height_tiles, after.apex_height_tiles),
            ("apex, s", before.apex_time_s, after.apex_time_s),
            ("air time, s", before.air_time_s, after.air_time_s),
            ("reach, tiles", before.reach_tiles, after.reach_tiles),
        ] {
            if a == 0.0 && b == 0.0 {
                continue;
            }
            let jump = before.kind.name().to_owned();
            rows.push([vec![jump, what.to_owned()], [a, b, b - a].map(short).into()].concat());
        }
    }
    rows
}

fn table(done: &Conversion) -> String {
    let rows = rows(done);
    let mut text = String::new();
    if !rows.is_empty() {
        text += &table::table(&["jump", "", "before", "after", "change"], rows);
        text += "\n";
    }
    done.said.iter().for_each(|words| text += &format!("{words}\n"));
    text
}

fn csv(done: &Conversion) -> String {
    let mut writer = csv::Writer::from_writer(Vec::new());
    writer.write_record(["jump", "quantity", "before", "after", "change"]).expect("writing to memory");
    rows(done).iter().for_each(|row| writer.write_record(row).expect("writing to memory"));
    String::from_utf8(writer.into_inner().expect("writing to memory")).expect("CSV of UTF-8 fields")
}
