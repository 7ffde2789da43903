use std::path::Path;

use toml_edit::Document;

use super::diagnostic::{Diagnostic, Diagnostics, Notes, is_harmful};
use super::disk::{FileError, read_text};
use super::reader::{self, Places, Section, is_another};
use super::unlikely::note_unlikely;
use crate::names::MOST_LETTERS;
use crate::quantity::{Kind, Scale};
use wumple_core::{
    Acceleration, AirNumbers, BodyNumbers, Drop, FallNumbers, Hang, HoldNumbers, HoldWhen, JumpNumbers, JumpShape,
    LadderNumbers, Leave, Pixels, Release, RunNumbers, Scheme, SlideNumbers, SlideWhen, Tuning, TuningErrors,
    TuningNumbers, WallJumpNumbers, WallNumbers,
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
    /// The picture that the game draws for the character, if the file tells of it. It changes nothing in
    /// the motion; figures show it beside the hitbox.
    pub picture: Option<Picture>,
    warnings: Vec<Diagnostic>,
}

/// The size of a character's picture, and where it is put.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Picture {
    /// Width, px.
    pub width: f64,
    /// Height, px.
    pub height: f64,
    /// How far the middle of its bottom edge is to the right of the feet, px.
    pub right: f64,
    /// How far it is below them, px.
    pub down: f64,
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

    /// A tuning that no file was read for.
    pub fn new(name: &str, scale: Scale, tuning: Tuning) -> TuningFile {
        TuningFile { name: name.to_owned(), scale, tuning, picture: None, warnings: Vec::new() }
    }

    /// What is odd about its numbers, though they are within their bounds: those that look like another unit, with
    /// their places, what comes of them, and what would be likelier.
    pub fn warnings(&self) -> &[Diagnostic] {
        &self.warnings
    }

    /// Reads and checks the text of a tuning file; `name` is what messages call it.
    ///
    /// # Errors
    ///
    /// Like [`TuningFile::read`].
    pub fn parse(name: &str, text: &str) -> Result<TuningFile, Diagnostics> {
        let mut notes = Notes::new(name, text);
        let read = reader::parse(&mut notes).and_then(|document| Some((read(&mut notes, &document)?, document)));
        let source = notes.source().clone();
        notes.finish()?;
        let (mut file, document) = read.expect("no error was noted");
        let mut odd = Notes::of_source(&source);
        note_unlikely(&mut odd, &document, &file);
        file.warnings = odd.finish().err().map_or_else(Vec::new, Diagnostics::into_vec);
        if file.name.is_empty() {
            file.name = file_stem(name);
        }
        Ok(file)
    }
}

/// `kiln` for `somewhere/kiln.tuning.toml`; what no name may have in it is left out.
pub fn file_stem(name: &str) -> String {
    let file = Path::new(name).file_name().map_or(name.into(), |file| file.to_string_lossy());
    let stem = file.split('.').next().unwrap_or_default();
    let letters = stem.chars().filter(|letter| !is_harmful(*letter)).skip_while(|letter| "=+-@".contains(*letter));
    let name: String = letters.take(MOST_LETTERS).collect();
    if name.is_empty() { String::from("unnamed") } else { name }
}

fn read(notes: &mut Notes, document: &Document<String>) -> Option<TuningFile> {
    if is_another(notes, document, "a tuning") {
        return None;
    }
    let unscaled = Scale { tile: DEFAULT_TILE, frames_per_second: DEFAULT_RATE };
    let mut top = Section::top(document, unscaled);
    const SECTIONS: [&str; 12] =
        ["name", "scale", "tick", "body", "picture", "run", "air", "fall", "jump", "wall", "ladder", "platform"];
    top.knows(notes, &SECTIONS);
    let name = top.title(notes, "Dab").unwrap_or_default();
    let (rate, scheme, pixels) = read_tick(notes, &top);
    let scale = read_scale(notes, &top, rate);
    top.set_scale(scale);

    let mut places = Places::new();
    let body = needed_section(notes, &top, "body").map(|section| read_body(notes, &section, &mut places));
    let picture = top.section(notes, "picture").map(|section| read_picture(notes, &section));
    let half_tile = scale.tile / 2.0;
    let run = needed_section(notes, &top, "run").map(|section| read_run(notes, &section, &mut places, half_tile));
    let air = read_air(notes, &top, &mut places);
    let fall = read_fall(notes, &top, &mut places);
    let jump = top.section(notes, "jump").and_then(|section| read_jump(notes, &section, &mut places));
    let wall = top.section(notes, "wall").map(|section| read_wall(notes, &section, &mut places));
    let ladder = top.section(notes, "ladder").map(|section| read_ladder(notes, &section, &mut places, half_tile));
    let (drop, leave_with) = read_platform(notes, &top);
    if notes.has_errors() {
        return None;
    }
    let (body, run) = (body?, run?);
    let numbers = TuningNumbers { rate, scheme, pixels, body, run, air, fall, jump, wall, ladder, drop, leave_with };
    match Tuning::check(&numbers) {
        Ok(tuning) => Some(TuningFile { name, scale, tuning, picture, warnings: Vec::new() }),
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
    section.knows(notes, &["width", "height", "wall_probe", "corner_nudge", "ledge_lift", "step_height"]);
    section.note_places(places);
    let length = |notes: &mut Notes, key| section.quantity(notes, key, Kind::Length).unwrap_or(0.0);
    BodyNumbers {
        corner_nudge: length(notes, "corner_nudge"),
        ledge_lift: length(notes, "ledge_lift"),
        step_height: length(notes, "step_height"),
        width: section.needed(notes, "width", Kind::Length),
        height: section.needed(notes, "height", Kind::Length),
        wall_probe: section.quantity(notes, "wall_probe", Kind::Length).unwrap_or(1.0),
    }
}

fn read_picture(notes: &mut Notes, section: &Section<'_>) -> Picture {
    section.knows(notes, &["width", "height", "right", "down"]);
    let mut size = |key| {
        let length = section.needed(notes, key, Kind::Length);
        if length <= 0.0 {
            let message = format!("picture.{key} is {length} px; it must be above 0 px");
            notes.error(section.place_of(key), message);
        }
        length
    };
    let (width, height) = (size("width"), size("height"));
    let right = section.quantity(notes, "right", Kind::Length).unwrap_or(0.0);
    Picture { width, height, right, down: section.quantity(notes, "down", Kind::Length).unwrap_or(0.0) }
}

fn read_wall(notes: &mut Notes, section: &Section<'_>, places: &mut Places) -> WallNumbers {
    section.knows(notes, &["coyote_time", "slide", "jump", "hold"]);
    section.note_places(places);
    WallNumbers {
        coyote_time: section.quantity(notes, "coyote_time", Kind::Time).unwrap_or(0.0),
        slide: section.section(notes, "slide").map(|slide| read_slide(notes, &slide, places)),
        jump: section.section(notes, "jump").map(|jump| read_wall_jump(notes, &jump, places)),
        hold: section.section(notes, "hold").and_then(|hold| read_hold(notes, &hold, places)),
    }
}

fn read_slide(notes: &mut Notes, section: &Section<'_>, places: &mut Places) -> SlideNumbers {
    section.knows(notes, &["when", "top_speed"]);
    section.note_places(places);
    let when = section.word(notes, "when", &[("pushed", SlideWhen::Pushed), ("touched", SlideWhen::Touched)]);
    let top_speed = section.quantity(notes, "top_speed", Kind::Speed).unwrap_or(0.0);
    SlideNumbers { when: when.unwrap_or_default(), top_speed }
}

fn read_wall_jump(notes: &mut Notes, section: &Section<'_>, places: &mut Places) -> WallJumpNumbers {
    section.knows(notes, &["height", "push_speed", "steer_lock", "same_wall"]);
    section.note_places(places);
    WallJumpNumbers {
        height: section.needed(notes, "height", Kind::Length),
        push_speed: section.quantity(notes, "push_speed", Kind::Speed).unwrap_or(0.0),
        steer_lock: section.quantity(notes, "steer_lock", Kind::Time).unwrap_or(0.0),
        same_wall: !section.has("same_wall") || section.switch(notes, "same_wall"),
    }
}

/// A hold that is off is none.
fn read_hold(notes: &mut Notes, section: &Section<'_>, places: &mut Places) -> Option<HoldNumbers> {
    section.knows(notes, &["when", "up_speed", "down_speed", "from_ground", "top"]);
    section.note_places(places);
    let words = [("off", None), ("touched", Some(HoldWhen::Touched)), ("grab-held", Some(HoldWhen::GrabHeld))];
    let when = section.word(notes, "when", &words).flatten();
    let speed = |notes: &mut Notes, key| section.quantity(notes, key, Kind::Speed).unwrap_or(0.0);
    let (up_speed, down_speed) = (speed(notes, "up_speed"), speed(notes, "down_speed"));
    let from_ground = section.switch(notes, "from_ground");
    let climb_over = section.word(notes, "top", &[("stop", false), ("climb-over", true)]).unwrap_or(false);
    Some(HoldNumbers { when: when?, up_speed, down_speed, from_ground, climb_over })
}

fn read_ladder(notes: &mut Notes, section: &Section<'_>, places: &mut Places, half_tile: f64) -> LadderNumbers {
    section.knows(notes, &["probe", "up_speed", "down_speed", "side_speed", "centre", "up_is_jump"]);
    section.note_places(places);
    LadderNumbers {
        probe: section.quantity(notes, "probe", Kind::Length).unwrap_or(half_tile),
        up_speed: section.needed(notes, "up_speed", Kind::Speed),
        down_speed: section.needed(notes, "down_speed", Kind::Speed),
        side_speed: section.quantity(notes, "side_speed", Kind::Speed).unwrap_or(0.0),
        centre: section.switch(notes, "centre"),
        up_is_jump: section.switch(notes, "up_is_jump"),
    }
}

fn read_platform(notes: &mut Notes, top: &Section<'_>) -> (Drop, Leave) {
    let Some(section) = top.section(notes, "platform") else { return Default::default() };
    section.knows(notes, &["drop", "leave_with"]);
    let drops = [("down", Drop::Down), ("down+jump", Drop::DownAndJump), ("off", Drop::Off)];
    let leaves = [("nothing", Leave::Nothing), ("sideways", Leave::Sideways), ("all", Leave::All)];
    let drop = section.word(notes, "drop", &drops).unwrap_or_default();
    (drop, section.word(notes, "leave_with", &leaves).unwrap_or_default())
}

fn read_run(notes: &mut Notes, section: &Section<'_>, places: &mut Places, half_tile: f64) -> RunNumbers {
    section.knows(notes, &["top_speed", "acceleration", "braking", "turning", "ramp_follow", "steepest_climb"]);
    section.note_places(places);
    RunNumbers {
        ramp_follow: section.quantity(notes, "ramp_follow", Kind::Length).unwrap_or(half_tile),
        steepest_climb: section.number(notes, "steepest_climb").unwrap_or(f64::INFINITY),
        top_speed: section.needed(notes, "top_speed", Kind::Speed),
        acceleration: read_acceleration(notes, section, "acceleration").unwrap_or(Acceleration::Instant),
        braking: read_acceleration(notes, section, "braking").unwrap_or(Acceleration::Instant),
        turning: read_acceleration(notes, section, "turning").unwrap_or(Acceleration::Instant),
    }
}

fn read_air(notes: &mut Notes, top: &Section<'_>, places: &mut Places) -> AirNumbers {
    let Some(section) = top.section(notes, "air") else { return AirNumbers::default() };
    section.knows(notes, &["acceleration", "braking", "turning", "bump_memory"]);
    section.note_places(places);
    AirNumbers {
        bump_memory: section.quantity(notes, "bump_memory", Kind::Time).unwrap_or(0.0),
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

const JUMP_KEYS: [&str; 14] = [
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
    "air_jumps_back_on_wall",
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
        air_jumps_back_on_wall: section.switch(notes, "air_jumps_back_on_wall"),
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

/// What letting go of the jump button does: a section with a style of its own keys.
pub(super) fn read_release(notes: &mut Notes, jump: &Section<'_>, key: &str, places: &mut Places) -> Option<Release> {
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
        notes.error(section.span(), format!("[{}] has no \"style\"; it must be one of {styles}", jump.name_of(key)));
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
