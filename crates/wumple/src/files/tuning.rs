use std::path::Path;

use toml_edit::Document;

use super::diagnostic::{Diagnostics, Notes};
use super::disk::{FileError, read_text};
use super::reader::{self, Places, Section};
use crate::quantity::{Kind, Scale};
use wumple_core::{
    Acceleration, BodyNumbers, FallNumbers, JumpNumbers, JumpShape, LIMIT_SPEED, RunNumbers, Tuning, TuningErrors,
    TuningNumbers,
};

/// A `*.tuning.toml` file: how a character moves, and what `tile` and `frame` mean in it.
#[derive(Clone, Debug, PartialEq)]
pub struct TuningFile {
    /// The character's name; the file's if it has none.
    pub name: String,
    /// What `tile` and `frame` mean.
    pub scale: Scale,
    /// The checked numbers.
    pub tuning: Tuning,
}

/// The side of a tile if `[scale]` does not say, px.
const DEFAULT_TILE: f64 = 16.0;
/// The rate if `[tick]` does not say, Hz.
const DEFAULT_RATE: f64 = 60.0;

impl TuningFile {
    /// Reads and checks a tuning file.
    ///
    /// # Errors
    ///
    /// If it cannot be read; if it is not UTF-8 or not TOML; all that is wrong with its keys, units and
    /// numbers, with their places.
    pub fn read(path: &Path) -> Result<TuningFile, FileError> {
        Ok(TuningFile::parse(&path.display().to_string(), &read_text(path)?)?)
    }

    /// Reads and checks the text of a tuning file; `name` is what messages call it.
    ///
    /// # Errors
    ///
    /// Like [`TuningFile::read`].
    pub fn parse(name: &str, text: &str) -> Result<TuningFile, Diagnostics> {
        let mut notes = Notes::new(name, text);
        let read = reader::parse(&mut notes).and_then(|document| read(&mut notes, &document));
        notes.finish()?;
        let (own_name, scale, tuning) = read.expect("no error was noted");
        let name = own_name.unwrap_or_else(|| file_stem(name));
        Ok(TuningFile { name, scale, tuning })
    }
}

/// `kiln` for `somewhere/kiln.tuning.toml`.
pub(super) fn file_stem(name: &str) -> String {
    let file = Path::new(name).file_name().map_or(name.into(), |file| file.to_string_lossy());
    file.split('.').next().unwrap_or_default().to_owned()
}

fn read(notes: &mut Notes, document: &Document<String>) -> Option<(Option<String>, Scale, Tuning)> {
    let unscaled = Scale { tile: DEFAULT_TILE, frames_per_second: DEFAULT_RATE };
    let mut top = Section::top(document, unscaled);
    top.knows(notes, &["name", "scale", "tick", "body", "run", "fall", "jump"]);
    let name = top.text(notes, "name", "Dab").map(str::to_owned);
    let rate = read_rate(notes, &top);
    let scale = read_scale(notes, &top, rate);
    top.set_scale(scale);

    let mut places = Places::new();
    let body = needed_section(notes, &top, "body").map(|section| read_body(notes, &section, &mut places));
    let run = needed_section(notes, &top, "run").map(|section| read_run(notes, &section, &mut places));
    let fall = read_fall(notes, &top, &mut places);
    let jump = top.section(notes, "jump").and_then(|section| read_jump(notes, &section, &mut places));
    if notes.has_errors() {
        return None;
    }
    let numbers = TuningNumbers { rate, body: body?, run: run?, fall, jump };
    match Tuning::check(&numbers) {
        Ok(tuning) => Some((name, scale, tuning)),
        Err(errors) => {
            note_check_errors(notes, &places, &errors);
            None
        }
    }
}

/// Bounds are the core's business; their places are ours.
fn note_check_errors(notes: &mut Notes, places: &Places, errors: &TuningErrors) {
    for error in &errors.0 {
        let section = error.key.split('.').next().unwrap_or_default();
        let place = places.get(error.key).or_else(|| places.get(section)).cloned().unwrap_or(0..0);
        notes.error(place, error.to_string());
    }
}

fn needed_section<'d>(notes: &mut Notes, top: &Section<'d>, key: &str) -> Option<Section<'d>> {
    if !top.has(key) {
        notes.error(0..0, format!("the section [{key}] is missing; every tuning needs it"));
    }
    top.section(notes, key)
}

fn read_rate(notes: &mut Notes, top: &Section<'_>) -> f64 {
    let Some(section) = top.section(notes, "tick") else { return DEFAULT_RATE };
    section.knows(notes, &["rate", "scheme"]);
    section.word(notes, "scheme", &[("exact", ())]);
    let rate = section.number(notes, "rate").unwrap_or(DEFAULT_RATE);
    if !(1.0..=10_000.0).contains(&rate) {
        let message = format!("tick.rate is {rate} Hz; it must be at least 1 and at most 10000 Hz");
        notes.error(section.place_of("rate"), message);
        return DEFAULT_RATE;
    }
    rate
}

fn read_scale(notes: &mut Notes, top: &Section<'_>, rate: f64) -> Scale {
    let default = Scale { tile: DEFAULT_TILE, frames_per_second: rate };
    let Some(section) = top.section(notes, "scale") else { return default };
    section.knows(notes, &["tile", "frames_per_second"]);
    let mut within = |key: &str, kind: Kind, default: f64, least: f64, most: f64, unit: &str| {
        let Some(found) = section.quantity(notes, key, kind) else { return default };
        if !(least..=most).contains(&found) {
            let message = format!("scale.{key} is {found}{unit}; it must be from {least} to {most}{unit}");
            notes.error(section.place_of(key), message);
            return default;
        }
        found
    };
    Scale {
        tile: within("tile", Kind::Length, default.tile, 1.0, 4096.0, " px"),
        frames_per_second: within("frames_per_second", Kind::Number, rate, 1.0, 10_000.0, ""),
    }
}

fn read_body(notes: &mut Notes, section: &Section<'_>, places: &mut Places) -> BodyNumbers {
    section.knows(notes, &["width", "height", "wall_probe"]);
    section.note_places(places);
    BodyNumbers {
        width: section.needed(notes, "width", Kind::Length),
        height: section.needed(notes, "height", Kind::Length),
        wall_probe: section.quantity(notes, "wall_probe", Kind::Length).unwrap_or(1.0),
    }
}

fn read_run(notes: &mut Notes, section: &Section<'_>, places: &mut Places) -> RunNumbers {
    section.knows(notes, &["top_speed", "acceleration", "braking", "turning"]);
    section.note_places(places);
    RunNumbers {
        top_speed: section.needed(notes, "top_speed", Kind::Speed),
        acceleration: read_acceleration(notes, section, "acceleration"),
        braking: read_acceleration(notes, section, "braking"),
        turning: read_acceleration(notes, section, "turning"),
    }
}

fn read_acceleration(notes: &mut Notes, section: &Section<'_>, key: &str) -> Acceleration {
    const EXAMPLE: &str = "\"60 tiles/s^2\", \"0.1 s\" or \"instant\"";
    let is_word = |text: &&str| text.trim().starts_with(|letter: char| letter.is_ascii_alphabetic());
    if section.has(key) && section.peek_text(key).is_some_and(|text| is_word(&text)) {
        section.word(notes, key, &[("instant", ())]);
        return Acceleration::Instant;
    }
    match section.quantity_of(notes, key, &[Kind::Acceleration, Kind::Time], EXAMPLE) {
        Some((Kind::Time, seconds)) => Acceleration::Time(seconds),
        Some((_, rate)) => Acceleration::Rate(rate),
        None => Acceleration::Instant,
    }
}

fn read_fall(notes: &mut Notes, top: &Section<'_>, places: &mut Places) -> FallNumbers {
    let Some(section) = top.section(notes, "fall") else {
        return FallNumbers { top_speed: LIMIT_SPEED, gravity: None };
    };
    section.knows(notes, &["top_speed", "gravity"]);
    section.note_places(places);
    FallNumbers {
        top_speed: section.quantity(notes, "top_speed", Kind::Speed).unwrap_or(LIMIT_SPEED),
        gravity: section.quantity(notes, "gravity", Kind::Acceleration),
    }
}

fn read_jump(notes: &mut Notes, section: &Section<'_>, places: &mut Places) -> Option<JumpNumbers> {
    section.knows(notes, &["height", "time_to_apex", "speed", "gravity"]);
    section.note_places(places);
    let given = |keys: [&str; 2]| keys.into_iter().any(|key| section.has(key));
    let shape = match (given(["height", "time_to_apex"]), given(["speed", "gravity"])) {
        (true, false) => JumpShape::HeightAndTime {
            height: section.needed(notes, "height", Kind::Length),
            time_to_apex: section.needed(notes, "time_to_apex", Kind::Time),
        },
        (false, true) => JumpShape::SpeedAndGravity {
            speed: section.needed(notes, "speed", Kind::Speed),
            gravity: section.needed(notes, "gravity", Kind::Acceleration),
        },
        (false, false) => {
            let message = "[jump] needs \"height\" and \"time_to_apex\", or \"speed\" and \"gravity\"";
            notes.error(section.span(), message);
            return None;
        }
        (true, true) => {
            let message = "[jump] takes \"height\" and \"time_to_apex\", or \"speed\" and \"gravity\"; \
                           it has some of both: remove one pair";
            notes.error(section.span(), message);
            return None;
        }
    };
    Some(JumpNumbers { shape })
}
