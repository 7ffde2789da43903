use std::path::PathBuf;

use clap::Args;
use serde::Serialize;
use wumple::analysis::{AccelerationUnits, Fit as Found, FitError, SpeedUnits, fit_into};
use wumple::numbers::Scheme;
use wumple::units::{Kind, Quantity, Scale, short};
use wumple::{GameLoop, TuningFile, Wishes, fit};

use super::fit_moves::MoveWishes;
use crate::failure::Failure;
use crate::files::say_warnings;
use crate::options::Format;
use crate::output;
use crate::say::{say, warn};
use crate::table;

/// Finds the numbers of a jump from wishes: "3.5 tiles high in 0.38 s"
///
/// A height and a time to the apex decide a jump; instead of the time, a gap and the top speed at which
/// it is cleared. Lengths may be in px or tiles, times in s, ms or frames, speeds in px/s, tiles/s, px/frame
/// or tiles/frame.
///
/// Of flaps, two wishes decide the lift and the gravity; of a walk four ways, the top speed and how soon it is reached and left.
#[derive(Args)]
#[command(after_help = "Examples:\n  \
    wumple fit --height \"3.5 tiles\" --time-to-apex \"0.38 s\" --scheme velocity-first\n  \
    wumple fit --hold-at 3 --climb \"4 tiles\" --presses 5\n  \
    wumple fit --walk-speed \"6 tiles/s\" --to-top-speed \"0.12 s\" --to-rest \"4 px\"\n  \
    wumple fit --height \"3 tiles\" --gap \"5 tiles\" --top-speed \"7.5 tiles/s\" --fall-ratio 1.7 \\\n      \
    --write mine.tuning.toml")]
pub(crate) struct Fit {
    /// How high a full jump is
    #[arg(long, value_name = "LENGTH", allow_hyphen_values = true)]
    height: Option<String>,
    /// How long it takes to its highest point
    #[arg(long, value_name = "TIME", allow_hyphen_values = true)]
    time_to_apex: Option<String>,
    /// How far it goes over level ground at top speed
    #[arg(long, value_name = "LENGTH", allow_hyphen_values = true)]
    gap: Option<String>,
    /// How fast the character runs
    #[arg(long, value_name = "SPEED", allow_hyphen_values = true)]
    top_speed: Option<String>,
    /// How high the smallest hop is
    #[arg(long, value_name = "LENGTH", allow_hyphen_values = true)]
    tap_height: Option<String>,
    /// How much greater the gravity of the fall is than that of the rise
    #[arg(long, value_name = "NUMBER", allow_negative_numbers = true)]
    fall_ratio: Option<f64>,
    #[command(flatten)]
    moves: MoveWishes,
    /// Ticks a second [default: 60, or those of the tuning written into]
    #[arg(long, value_name = "HZ", allow_negative_numbers = true)]
    rate: Option<f64>,
    /// How your loop integrates [default: exact, or that of the tuning written into]
    #[arg(long, value_parser = ["exact", "velocity-first", "position-first"])]
    scheme: Option<String>,
    /// The side of a tile in px [default: 16, or that of the tuning written into]
    #[arg(long, value_name = "PX", allow_negative_numbers = true)]
    tile: Option<f64>,
    /// Which way y goes in your loop: says the signs of what is printed
    #[arg(long, value_parser = ["up", "down"], default_value = "up")]
    y: String,
    /// Make this tuning file; one that is there gets just these numbers changed
    #[arg(long, value_name = "FILE")]
    write: Option<PathBuf>,
    /// How to print the numbers
    #[arg(long, value_enum, default_value_t)]
    format: Format,
}

impl Fit {
    pub(crate) fn execute(&self) -> Result<(), Failure> {
        let there = match &self.write {
            Some(path) if path.exists() => Some((TuningFile::read(path)?, wumple::files::read_text(path)?)),
            _ => None,
        };
        there.iter().for_each(|(file, _)| say_warnings(file));
        if self.moves.is_any() {
            if self.has_jump_wishes() {
                let words = "a jump, flaps and a walk are found one at a time: ask for the wishes of one of them";
                return Err(Failure::Usage(words.to_owned()));
            }
            return self.moves.execute(&self.looped(None)?, self.format, self.write.as_deref());
        }
        let looped = self.looped(there.as_ref().map(|(file, _)| file))?;
        let wishes = self.wishes()?;
        let found = match (&self.write, &there) {
            (Some(path), Some((_, text))) => fit_into(&wishes, &path.display().to_string(), text),
            _ => fit(&wishes, &looped),
        };
        let found = found.map_err(|unfit| self.failure(unfit))?;
        found.warnings.iter().for_each(warn);
        let down = self.y == "down";
        match self.format {
            Format::Table => output::print(&table(&found, down))?,
            Format::Json => output::print_json(&found)?,
            Format::Csv => output::print(&csv(&found, down))?,
        }
        let Some(path) = &self.write else { return Ok(()) };
        wumple::files::write_whole(path, found.tuning_text().as_bytes(), true)?;
        let what = if there.is_some() { "changed in" } else { "written to" };
        say(format_args!("{what} {}", path.display()));
        Ok(())
    }

    fn has_jump_wishes(&self) -> bool {
        let wishes = [&self.height, &self.time_to_apex, &self.gap, &self.top_speed, &self.tap_height];
        wishes.iter().any(|wish| wish.is_some()) || self.fall_ratio.is_some()
    }

    /// Why the wishes cannot be met, with the options that would help.
    fn failure(&self, unfit: FitError) -> Failure {
        let remedy = match &unfit {
            FitError::Wrong(diagnostics) => return Failure::from(diagnostics.clone()),
            FitError::NoHeight => ": add --height",
            FitError::NoTime => ": add --time-to-apex, or --gap and --top-speed",
            _ => "",
        };
        Failure::Usage(format!("{unfit}{remedy}"))
    }

    /// The loop that is asked for; where nothing is said, that of the tuning to be changed.
    fn looped(&self, there: Option<&TuningFile>) -> Result<GameLoop, Failure> {
        let (rate, tile, scheme) = (self.rate, self.tile, self.scheme.as_deref().and_then(Scheme::of_word));
        if let Some(file) = there {
            let same = |asked: Option<f64>, own: f64| asked.is_none_or(|asked| asked == own);
            let own = (file.tuning.rate(), file.scale.tile, file.tuning.scheme());
            if !same(rate, own.0) || !same(tile, own.1) || scheme.is_some_and(|scheme| scheme != own.2) {
                return Err(Failure::Usage(format!(
                    "the tuning to be changed has {} Hz, {} and tiles of {} px; leave --rate, --scheme and --tile out, \
                     or convert it first",
                    short(own.0),
                    own.2.name(),
                    short(own.1)
                )));
            }
            return Ok(GameLoop { rate: own.0, scheme: own.2, scale: file.scale });
        }
        let within = |value: f64, least: f64, most: f64, what: &str| {
            let wrong = || Failure::Usage(format!("--{what} must be from {least} to {most}"));
            (least..=most).contains(&value).then_some(value).ok_or_else(wrong)
        };
        let rate = within(rate.unwrap_or(60.0), 1.0, 10_000.0, "rate")?;
        let tile = within(tile.unwrap_or(16.0), 1.0, 4096.0, "tile")?;
        Ok(GameLoop { rate, scheme: scheme.unwrap_or_default(), scale: Scale { tile, frames_per_second: rate } })
    }

    fn wishes(&self) -> Result<Wishes, Failure> {
        let read = |option: &str, text: &Option<String>, kind: Kind| match text {
            None => Ok(None),
            Some(text) => quantity(option, text, kind).map(Some),
        };
        Ok(Wishes {
            height: read("height", &self.height, Kind::Length)?,
            time_to_apex: read("time-to-apex", &self.time_to_apex, Kind::Time)?,
            gap: read("gap", &self.gap, Kind::Length)?,
            top_speed: read("top-speed", &self.top_speed, Kind::Speed)?,
            tap_height: read("tap-height", &self.tap_height, Kind::Length)?,
            fall_ratio: self.fall_ratio,
        })
    }
}

/// A quantity given as an option.
pub(super) fn quantity(option: &str, text: &str, kind: Kind) -> Result<Quantity, Failure> {
    let needs = format!("--{option} needs {}, such as {}", kind.name(), kind.example());
    let quantity = Quantity::parse(text).map_err(|error| Failure::Usage(format!("{error}; {needs}")))?;
    match quantity.kind() {
        Some(other) if other != kind => Err(Failure::Usage(format!("\"{text}\" is {}; {needs}", other.name()))),
        _ => Ok(quantity),
    }
}

/// The numbers found, with the signs that a loop with y up or y down needs.
fn signed(found: &Found, down: bool) -> (SpeedUnits, AccelerationUnits, AccelerationUnits) {
    // Upward speeds are positive with y up; gravity pulls down.
    if down {
        (found.speed.reversed(), found.rise_gravity, found.fall_gravity)
    } else {
        (found.speed, found.rise_gravity.reversed(), found.fall_gravity.reversed())
    }
}

fn table(found: &Found, down: bool) -> String {
    let (speed, rise, fall) = signed(found, down);
    let exact = |value: f64| format!("{value:.6}");
    let way = if down { "y down" } else { "y up" };
    let row = |name: &str, values: [f64; 3]| [vec![name.to_owned()], values.map(exact).into()].concat();
    let head = [way, "px, s", "px, frames", "tiles, s"];
    let mut rows = vec![
        row("take-off speed", [speed.px_s, speed.px_frame, speed.tiles_s]),
        row("rise gravity", [rise.px_s2, rise.px_frame2, rise.tiles_s2]),
        row("fall gravity", [fall.px_s2, fall.px_frame2, fall.tiles_s2]),
    ];
    if let Some(speed) = found.top_speed {
        rows.push(row("top run speed", [speed.px_s, speed.px_frame, speed.tiles_s]));
    }
    let mut text = table::table(&head, rows);
    text += &format!("\nfor {} at {} Hz, a tile of {} px:\n", found.scheme, short(found.rate_hz), short(found.tile_px));
    found.decided.iter().for_each(|words| text += &format!("  {words}\n"));
    let arc = &found.predicted;
    text += &format!(
        "\nso a full jump is {} tiles ({} px) high after {} s (tick {}), and lands after {} s (tick {}) at {} px/s",
        short(arc.apex_height_tiles),
        short(arc.apex_height_px),
        short(arc.apex_time_s),
        arc.apex_tick,
        short(arc.air_time_s),
        arc.air_ticks,
        short(arc.landing_speed_px_s),
    );
    if found.top_speed.is_some() {
        text += &format!(", {} tiles ({} px) further on", short(arc.reach_tiles), short(arc.reach_px));
    }
    text += ".\n";
    if let Some(tap) = found.tap_height_px {
        text += &format!("the smallest hop is {} tiles ({} px) high.\n", short(tap / found.tile_px), short(tap));
    }
    text + "\ntick for tick, the height in px:\n" + &heights(found)
}

/// No more lines of heights are shown: whoever wants more has `--format csv`.
const MOST_LINES: usize = 20;

/// The heights of the ticks up to the landing, ten to a line.
fn heights(found: &Found) -> String {
    let arc = &found.predicted;
    let inside = arc.points.iter().filter(|point| point.tick >= 1 && point.tick < arc.air_ticks);
    let points: Vec<String> = inside.map(|point| format!("{:.3}", point.height_px)).collect();
    let shown = &points[..points.len().min(10 * MOST_LINES)];
    let width = shown.iter().map(String::len).max().unwrap_or(0) + 2;
    let line = |heights: &[String]| heights.iter().map(|height| format!("{height:>width$}")).collect::<String>();
    let lines = shown.chunks(10).enumerate();
    let text: String = lines.map(|(number, heights)| format!("{:>5} {}\n", number * 10 + 1, line(heights))).collect();
    match points.len() - shown.len() {
        0 => text,
        more => text + &format!("and {more} more: --format csv has them all\n"),
    }
}

#[derive(Serialize)]
struct Row {
    tick: u64,
    time_s: f64,
    x_px: f64,
    height_px: f64,
    upward_speed_px_s: f64,
}

/// The jump foreseen, a row a tick.
fn csv(found: &Found, down: bool) -> String {
    let mut writer = csv::Writer::from_writer(Vec::new());
    let sign = if down { -1.0 } else { 1.0 };
    for point in &found.predicted.points {
        let row = Row {
            tick: point.tick,
            time_s: point.time_s,
            x_px: point.x_px,
            height_px: sign * point.height_px + 0.0,
            upward_speed_px_s: sign * point.upward_speed_px_s + 0.0,
        };
        writer.serialize(row).expect("a row has only plain fields");
    }
    String::from_utf8(writer.into_inner().expect("writing to memory")).expect("CSV of UTF-8 fields")
}
