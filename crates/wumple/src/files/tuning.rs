use std::path::Path;

use toml_edit::Document;

use super::diagnostic::{Diagnostics, Notes};
use super::disk::{FileError, read_text};
use super::reader::{self, Places, Section};
use crate::quantity::{Kind, Scale};
use wumple_core::{
    Acceleration, AirNumbers, BodyNumbers, FallNumbers, Hang, JumpNumbers, JumpShape, Pixels, Release, RunNumbers,
    Scheme, Tuning, TuningErrors, TuningNumbers,
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
    top.knows(notes, &["name", "scale", "tick", "body", "run", "air", "fall", "jump"]);
    let name = top.text(notes, "name", "Dab").map(str::to_owned);
    let (rate, scheme, pixels) = read_tick(notes, &top);
    let scale = read_scale(notes, &top, rate);
    top.set_scale(scale);

    let mut places = Places::new();
    let body = needed_section(notes, &top, "body").map(|section| read_body(notes, &section, &mut places));
    let run = needed_section(notes, &top, "run").map(|section| read_run(notes, &section, &mut places));
    let air = read_air(notes, &top, &mut places);
    let fall = read_fall(notes, &top, &mut places);
    let jump = top.section(notes, "jump").and_then(|section| read_jump(notes, &section, &mut places));
    if notes.has_errors() {
        return None;
    }
    let numbers = TuningNumbers { rate, scheme, pixels, body: body?, run: run?, air, fall, jump };
    match Tuning::check(&numbers) {
        Ok(tuning) => Some((name, scale, tuning)),
        Err(errors) => {
            note_check_errors(notes, &places, &errors);
            None
        }
    }
}

/// Bounds are the core's business; their places are ours. What is not there is shown at its section.
fn note_check_errors(notes: &mut Notes, places: &Places, errors: &TuningErrors) {
    for error in &errors.0 {
        let mut key = error.key;
        let place = loop {
            if let Some(place) = places.get(key) {
                break place.clone();
            }
            match key.rsplit_once('.') {
                Some((section, _)) => key = section,
                None => break 0..0,
            }
        };
        notes.error(place, error.to_string());
    }
}

fn needed_section<'d>(notes: &mut Notes, top: &Section<'d>, key: &str) -> Option<Section<'d>> {
    if !top.has(key) {
        notes.error(0..0, format!("the section [{key}] is missing; every tuning needs it"));
    }
    top.section(notes, key)
}

fn read_tick(notes: &mut Notes, top: &Section<'_>) -> (f64, Scheme, Pixels) {
    let Some(section) = top.section(notes, "tick") else { return (DEFAULT_RATE, Scheme::Exact, Pixels::Free) };
    section.knows(notes, &["rate", "scheme", "pixels"]);
    let scheme = section.word(notes, "scheme", &Scheme::NAMES).unwrap_or_default();
    let pixels = section.word(notes, "pixels", &[("free", Pixels::Free), ("whole", Pixels::Whole)]);
    let mut rate = section.number(notes, "rate").unwrap_or(DEFAULT_RATE);
    if !(1.0..=10_000.0).contains(&rate) {
        let message = format!("tick.rate is {rate} Hz; it must be at least 1 and at most 10000 Hz");
        notes.error(section.place_of("rate"), message);
        rate = DEFAULT_RATE;
    }
    (rate, scheme, pixels.unwrap_or_default())
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
        acceleration: read_acceleration(notes, section, "acceleration").unwrap_or(Acceleration::Instant),
        braking: read_acceleration(notes, section, "braking").unwrap_or(Acceleration::Instant),
        turning: read_acceleration(notes, section, "turning").unwrap_or(Acceleration::Instant),
    }
}

fn read_air(notes: &mut Notes, top: &Section<'_>, places: &mut Places) -> AirNumbers {
    let Some(section) = top.section(notes, "air") else { return AirNumbers::default() };
    section.knows(notes, &["acceleration", "braking", "turning"]);
    section.note_places(places);
    AirNumbers {
        acceleration: read_acceleration(notes, &section, "acceleration"),
        braking: read_acceleration(notes, &section, "braking"),
        turning: read_acceleration(notes, &section, "turning"),
    }
}

fn read_acceleration(notes: &mut Notes, section: &Section<'_>, key: &str) -> Option<Acceleration> {
    const EXAMPLE: &str = "\"60 tiles/s^2\", \"0.1 s\" or \"instant\"";
    let is_word = |text: &&str| text.trim().starts_with(|letter: char| letter.is_ascii_alphabetic());
    if section.peek_text(key).is_some_and(|text| is_word(&text)) {
        return section.word(notes, key, &[("instant", Acceleration::Instant)]);
    }
    Some(match section.quantity_of(notes, key, &[Kind::Acceleration, Kind::Time], EXAMPLE)? {
        (Kind::Time, seconds) => Acceleration::Time(seconds),
        (_, rate) => Acceleration::Rate(rate),
    })
}

fn read_fall(notes: &mut Notes, top: &Section<'_>, places: &mut Places) -> FallNumbers {
    let default = FallNumbers::default();
    let Some(section) = top.section(notes, "fall") else { return default };
    section.knows(notes, &["top_speed", "gravity", "gravity_ratio", "plunge_ratio"]);
    section.note_places(places);
    FallNumbers {
        top_speed: section.quantity(notes, "top_speed", Kind::Speed).unwrap_or(default.top_speed),
        gravity: section.quantity(notes, "gravity", Kind::Acceleration),
        gravity_ratio: section.number(notes, "gravity_ratio").unwrap_or(default.gravity_ratio),
        plunge_ratio: section.number(notes, "plunge_ratio").unwrap_or(default.plunge_ratio),
    }
}

const JUMP_KEYS: [&str; 13] = [
    "height",
    "time_to_apex",
    "speed",
    "gravity",
    "release",
    "coyote_time",
    "buffer_time",
    "repeat",
    "waits_for_ground",
    "air_jumps",
    "air_jump_height",
    "air_jump_release",
    "hang",
];

fn read_jump(notes: &mut Notes, section: &Section<'_>, places: &mut Places) -> Option<JumpNumbers> {
    section.knows(notes, &JUMP_KEYS);
    section.note_places(places);
    let shape = read_shape(notes, section)?;
    let plain = JumpNumbers::new(shape);
    let time = |notes: &mut Notes, key| section.quantity(notes, key, Kind::Time).unwrap_or(0.0);
    Some(JumpNumbers {
        release: read_release(notes, section, "release", places).unwrap_or_default(),
        coyote_time: time(notes, "coyote_time"),
        buffer_time: time(notes, "buffer_time"),
        repeat_held: section.word(notes, "repeat", &[("pressed", false), ("held", true)]).unwrap_or(false),
        waits_for_ground: section.switch(notes, "waits_for_ground"),
        air_jumps: section.count(notes, "air_jumps", 1000),
        air_jump_height: section.quantity(notes, "air_jump_height", Kind::Length),
        air_jump_release: read_release(notes, section, "air_jump_release", places),
        hang: read_hang(notes, section, places),
        ..plain
    })
}

fn read_shape(notes: &mut Notes, section: &Section<'_>) -> Option<JumpShape> {
    let given = |keys: [&str; 2]| keys.into_iter().any(|key| section.has(key));
    match (given(["height", "time_to_apex"]), given(["speed", "gravity"])) {
        (true, false) => Some(JumpShape::HeightAndTime {
            height: section.needed(notes, "height", Kind::Length),
            time_to_apex: section.needed(notes, "time_to_apex", Kind::Time),
        }),
        (false, true) => Some(JumpShape::SpeedAndGravity {
            speed: section.needed(notes, "speed", Kind::Speed),
            gravity: section.needed(notes, "gravity", Kind::Acceleration),
        }),
        (false, false) => {
            let message = "[jump] needs \"height\" and \"time_to_apex\", or \"speed\" and \"gravity\"";
            notes.error(section.span(), message);
            None
        }
        (true, true) => {
            let message = "[jump] takes \"height\" and \"time_to_apex\", or \"speed\" and \"gravity\"; \
                           it has some of both: remove one pair";
            notes.error(section.span(), message);
            None
        }
    }
}

#[derive(Clone, Copy)]
enum Style {
    None,
    Cut,
    Heavy,
    Sustain,
    ToHeight,
}

fn read_release(notes: &mut Notes, jump: &Section<'_>, key: &str, places: &mut Places) -> Option<Release> {
    const STYLES: [(&str, Style); 5] = [
        ("none", Style::None),
        ("cut", Style::Cut),
        ("heavy", Style::Heavy),
        ("sustain", Style::Sustain),
        ("to-height", Style::ToHeight),
    ];
    let section = jump.section(notes, key)?;
    section.note_places(places);
    if !section.has("style") {
        let styles = reader::listed(STYLES.iter().map(|(name, _)| *name));
        notes.error(section.span(), format!("[jump.{key}] has no \"style\"; it must be one of {styles}"));
    }
    Some(match section.word(notes, "style", &STYLES)? {
        Style::None => {
            section.knows(notes, &["style"]);
            Release::None
        }
        Style::Cut => {
            section.knows(notes, &["style", "keep"]);
            Release::Cut { keep: section.needed(notes, "keep", Kind::Number) }
        }
        Style::Heavy => {
            section.knows(notes, &["style", "gravity_ratio"]);
            Release::Heavy { gravity_ratio: section.needed(notes, "gravity_ratio", Kind::Number) }
        }
        Style::Sustain => {
            section.knows(notes, &["style", "time"]);
            Release::Sustain { time: section.needed(notes, "time", Kind::Time) }
        }
        Style::ToHeight => {
            section.knows(notes, &["style", "tap_height", "further_rise"]);
            Release::ToHeight {
                tap_height: section.needed(notes, "tap_height", Kind::Length),
                further_rise: section.quantity(notes, "further_rise", Kind::Length).unwrap_or(0.0),
            }
        }
    })
}

fn read_hang(notes: &mut Notes, jump: &Section<'_>, places: &mut Places) -> Option<Hang> {
    let section = jump.section(notes, "hang")?;
    section.knows(notes, &["speed", "gravity_ratio"]);
    section.note_places(places);
    Some(Hang {
        speed: section.needed(notes, "speed", Kind::Speed),
        gravity_ratio: section.needed(notes, "gravity_ratio", Kind::Number),
    })
}
