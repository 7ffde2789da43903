use std::path::Path;

use toml_edit::Document;

use super::diagnostic::{Diagnostic, Diagnostics, Notes, is_harmful};
use super::disk::{FileError, read_text};
use super::fields::{Field, SIDES, Value, core_keys};
use super::group::{OF_GROUP, read_group};
use super::poses::read_poses;
use super::reader::{self, Places, Section, is_another, nearest};
use super::unlikely::note_unlikely;
use crate::names::MOST_LETTERS;
use crate::poses::Pose;
use crate::units::{Kind, Scale};
use wumple_core::numbers::{
    Acceleration, Bounds, Choice, FallNumbers, FlightBy, FlightNumbers, FourWayNumbers, Hang, HoldNumbers, JumpNumbers,
    JumpShape, Key, KeyDefault, KeyKind, LIMIT_MARGIN, LadderNumbers, Problem, Release, SlideNumbers, Slot,
    TuningError, WallJumpNumbers, WallNumbers,
};
use wumple_core::{Margin, Tuning, TuningErrors, TuningNumbers, ZoneKind};

/// A `*.tuning.toml` file: how a character moves, and what `tile` and `frame` mean in it.
#[derive(Clone, Debug, PartialEq)]
#[non_exhaustive]
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
    /// Which picture is shown when, in the order in which they are looked at; none if the file has no `[[pose]]`.
    pub poses: Vec<Pose>,
    warnings: Vec<Diagnostic>,
    /// Where its sections stand.
    sections: Vec<(&'static str, Diagnostic)>,
}

/// The size of a character's picture, and where it is put.
#[derive(Clone, Copy, Debug, PartialEq)]
#[non_exhaustive]
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
/// The sections that go with gravity, and not with `[four_way]`.
const FOR_GRAVITY: [&str; 8] = ["run", "air", "fall", "jump", "wall", "ladder", "flight", "platform"];
/// The rate if `[tick]` does not say, Hz.
const DEFAULT_RATE: f64 = 60.0;

/// The keys of a tuning.
pub(crate) const TUNING: [Field; 16] = [
    Field::new("name", Value::Text, "the character's name; the file's unless given"),
    Field::new("scale", Value::Section(&[&SCALE]), "what tile and frame mean"),
    Field::new("tick", Value::OfCore("tick", &[]), "how the motion is computed"),
    Field::new("body", Value::OfCore("body", &[]), "the hitbox, and what is kind to it").needed(),
    Field::new("picture", Value::Section(&[&PICTURE]), "the picture that the game draws, for figures"),
    Field::new("run", Value::OfCore("run", &[]), "running"),
    Field::new("air", Value::OfCore("air", &[]), "steering in the air"),
    Field::new("fall", Value::OfCore("fall", &[]), "falling"),
    Field::new("jump", Value::OfCore("jump", &[&RELEASES]), "jumping"),
    Field::new("wall", Value::OfCore("wall", &[]), "walls that are slid down, jumped off, held on to"),
    Field::new("ladder", Value::OfCore("ladder", &[]), "climbing"),
    Field::new("flight", Value::OfCore("flight", &[]), "flaps, or a thrust"),
    Field::new("four_way", Value::OfCore("four_way", &[]), "seen from above, without gravity; instead of a run"),
    Field::new("platform", Value::OfCore("platform", &[]), "what is taken along from platforms"),
    Field::new("feels", Value::OfCore("feels", &[]), "how much larger this character feels zones"),
    Field::new("pose", Value::Sections(&[&super::poses::POSE]), "which picture is shown when"),
];
const SCALE: [Field; 2] = [
    Field::new("tile", Value::LENGTH, "the side of a tile; 16 px unless given"),
    Field::new("frames_per_second", Value::NUMBER, "what a frame is; the rate unless given"),
];
const PICTURE: [Field; 4] = [
    Field::new("width", Value::LENGTH, "its width").needed(),
    Field::new("height", Value::LENGTH, "its height").needed(),
    Field::new("right", Value::LENGTH, "how far the middle of its bottom edge is to the right of the feet"),
    Field::new("down", Value::LENGTH, "how far it is below them"),
];
const RELEASES: [Field; 2] = [
    Field::new("release", Value::Release, "what letting go of the jump button does"),
    Field::new("air_jump_release", Value::Release, "the same in air jumps; as release unless given"),
];

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
    #[must_use]
    pub fn new(name: &str, scale: Scale, tuning: Tuning) -> TuningFile {
        TuningFile {
            name: name.to_owned(),
            scale,
            tuning,
            picture: None,
            poses: Vec::new(),
            warnings: Vec::new(),
            sections: Vec::new(),
        }
    }

    /// What is odd about its numbers, though they are within their bounds: those that look like another unit, with
    /// their places, what comes of them, and what would be likelier.
    #[must_use]
    pub fn warnings(&self) -> &[Diagnostic] {
        &self.warnings
    }

    /// Where a section stands; the beginning of the file if it is not there. A tuning that no file was read for has no places.
    pub(crate) fn place_of(&self, section: &str) -> Diagnostic {
        let found = self.sections.iter().find(|(name, _)| *name == section);
        found
            .or(self.sections.first())
            .map_or_else(|| Notes::new(&self.name, "").at(0..0, String::new()), |(_, place)| place.clone())
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
        note_unlikely(&mut odd, &document, &file.scale, &file.tuning);
        file.warnings = odd.finish().err().map_or_else(Vec::new, Diagnostics::into_vec);
        if file.name.is_empty() {
            file.name = file_stem(name);
        }
        Ok(file)
    }
}

/// `kiln` for `somewhere/kiln.tuning.toml`; what no name may have in it is left out.
#[must_use]
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
    top.knows(notes, &[&TUNING, &OF_GROUP]);
    let name = top.title(notes, "Dab").unwrap_or_default();
    let mut reading = Reading { numbers: unwritten(), places: Places::new(), half_tile: 0.0 };
    reading.numbers.group = read_group(notes, &top);
    if let Some(section) = top.section(notes, "tick") {
        reading.section(notes, &section, &[]);
    }
    let rate = checked_rate(notes, &top, &mut reading);
    let scale = read_scale(notes, &top, rate);
    top.set_scale(scale);
    reading.half_tile = scale.tile / 2.0;

    let from_above = top.has("four_way");
    if from_above {
        for section in FOR_GRAVITY.into_iter().filter(|section| top.has(section)) {
            let message =
                format!("[{section}] is given, but [four_way] is seen from above, without gravity; remove one of them");
            notes.error(top.place_of(section), message);
        }
        reading.numbers.run.top_speed = 0.0;
        if let Some(section) = top.section(notes, "four_way") {
            reading.numbers.four_way = Some(FourWayNumbers::new(f64::NAN));
            reading.section(notes, &section, &[]);
        }
    }
    for needed in if from_above { vec!["body"] } else { vec!["body", "run"] } {
        if !top.has(needed) {
            notes.error(0..0, format!("the section [{needed}] is missing; every tuning needs it"));
        }
    }
    if notes.has_errors() && from_above {
        return None;
    }
    for plain in ["body", "run", "air", "fall", "platform"] {
        if let Some(section) = top.section(notes, plain) {
            reading.section(notes, &section, &[]);
        }
    }
    if let Some(section) = top.section(notes, "feels") {
        reading.feels(notes, &section);
    }
    let poses = read_poses(notes, &top);
    let picture = top.section(notes, "picture").map(|section| read_picture(notes, &section));
    if let Some(section) = top.section(notes, "jump") {
        reading.jump(notes, &section);
    }
    if let Some(section) = top.section(notes, "wall") {
        reading.wall(notes, &section);
    }
    if let Some(section) = top.section(notes, "ladder") {
        reading.numbers.ladder = Some(LadderNumbers::default());
        reading.section(notes, &section, &[]);
    }
    if let Some(section) = top.section(notes, "flight") {
        reading.flight(notes, &section);
    }
    if notes.has_errors() {
        return None;
    }
    match Tuning::check(&reading.numbers) {
        Ok(tuning) => {
            let sections = ["", "picture", "pose", "jump", "wall"].map(|section| {
                let span = if top.has(section) { top.place_of(section) } else { 0..0 };
                (section, notes.at(span, String::new()))
            });
            Some(TuningFile { name, scale, tuning, picture, poses, warnings: Vec::new(), sections: sections.into() })
        }
        Err(errors) => {
            note_check_errors(notes, &reading.places, &errors);
            None
        }
    }
}

/// What a tuning is of which nothing is written yet.
fn unwritten() -> TuningNumbers {
    TuningNumbers { fall: FallNumbers::default(), ..TuningNumbers::new(f64::NAN, f64::NAN, f64::NAN) }
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

/// The rate, which says what a frame is, if nothing else does: so it is checked before anything else is read.
fn checked_rate(notes: &mut Notes, top: &Section<'_>, reading: &mut Reading) -> f64 {
    let (key, found) = (Key::find("tick.rate").expect("there is a rate"), reading.numbers.rate);
    let Bounds { least, above, most, unit } = key.bounds;
    if !(least..=most).contains(&found) {
        let problem = Problem::OutOfBounds { found, above, least, most, unit };
        let place = top.section(notes, "tick").map_or(0..0, |section| section.place_of("rate"));
        notes.error(place, TuningError { key: key.name, problem }.to_string());
        reading.numbers.rate = DEFAULT_RATE;
    }
    reading.numbers.rate
}

fn read_scale(notes: &mut Notes, top: &Section<'_>, rate: f64) -> Scale {
    let default = Scale { tile: DEFAULT_TILE, frames_per_second: rate };
    let Some(section) = top.section(notes, "scale") else { return default };
    section.knows(notes, &[&SCALE]);
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

fn read_picture(notes: &mut Notes, section: &Section<'_>) -> Picture {
    section.knows(notes, &[&PICTURE]);
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

/// A tuning while it is read, section by section, by the keys that the core has.
struct Reading {
    numbers: TuningNumbers,
    places: Places,
    half_tile: f64,
}

impl Reading {
    /// All keys of a section. `inner` are the sections that may be in it.
    fn section(&mut self, notes: &mut Notes, section: &Section<'_>, inner: &[&str]) {
        let own: Vec<&'static Key> = core_keys(section.name()).collect();
        let known: Vec<&str> = own.iter().map(|key| key.parts().1).chain(inner.iter().copied()).collect();
        section.knows_keys(notes, &known);
        section.note_places(&mut self.places);
        for key in own {
            read_key(notes, section, key, &mut self.numbers, self.half_tile);
        }
    }

    /// `[feels]`: beside its keys, kinds of zones of the game's own.
    fn feels(&mut self, notes: &mut Notes, section: &Section<'_>) {
        let common = ZoneKind::COMMON;
        let is_own = |word: &&str| {
            // A word that is nearly another is more likely a slip.
            let is_near = nearest(word, common.iter().map(ZoneKind::word)).is_some();
            matches!(ZoneKind::of_word(word), Some(ZoneKind::Own(_))) && !is_near
        };
        let own: Vec<&str> = section.keys().filter(is_own).collect();
        self.section(notes, section, &own);
        let margin_of = |word: &&str| Some((ZoneKind::of_word(word)?, read_margin(notes, section, word)?));
        self.numbers.feels.own = own.iter().filter_map(margin_of).collect();
    }

    fn jump(&mut self, notes: &mut Notes, section: &Section<'_>) {
        let Some(shape) = shape_written(notes, section) else { return };
        self.numbers.jump = Some(JumpNumbers::new(shape));
        self.section(notes, section, &["release", "air_jump_release", "hang"]);
        let release = read_release(notes, section, "release", &mut self.places).unwrap_or_default();
        let air_jump_release = read_release(notes, section, "air_jump_release", &mut self.places);
        let hang = section.section(notes, "hang");
        if let Some(jump) = &mut self.numbers.jump {
            (jump.release, jump.air_jump_release) = (release, air_jump_release);
            jump.hang = hang.is_some().then_some(Hang { speed: 0.0, gravity_ratio: 1.0 });
        }
        if let Some(hang) = hang {
            self.section(notes, &hang, &[]);
        }
    }

    /// `[flight]`: what its lift is goes by `by`, so that is read first.
    fn flight(&mut self, notes: &mut Notes, section: &Section<'_>) {
        if !section.has("by") {
            let words = reader::listed(FlightBy::WORDS.iter().copied());
            notes.error(section.span(), format!("[flight] has no \"by\"; it must be one of {words}"));
            return;
        }
        self.numbers.flight = Some(FlightNumbers::flaps(f64::NAN));
        self.section(notes, section, &[]);
    }

    fn wall(&mut self, notes: &mut Notes, section: &Section<'_>) {
        let inner = ["slide", "jump", "hold"];
        let [slide, jump, hold] = inner.map(|key| section.section(notes, key));
        self.numbers.wall = Some(WallNumbers {
            coyote_time: 0.0,
            slide: slide.is_some().then(SlideNumbers::default),
            jump: jump.is_some().then(WallJumpNumbers::default),
            hold: hold.is_some().then(HoldNumbers::default),
        });
        self.section(notes, section, &inner);
        let is_off = hold.as_ref().is_some_and(|hold| hold.peek_text("when").is_none_or(|when| when == "off"));
        for part in [slide, jump, hold].into_iter().flatten() {
            self.section(notes, &part, &[]);
        }
        if let Some(wall) = self.numbers.wall.as_mut().filter(|_| is_off) {
            wall.hold = None;
        }
    }
}

/// What is written for a key, or what it is otherwise.
fn read_key(notes: &mut Notes, section: &Section<'_>, key: &Key, numbers: &mut TuningNumbers, half_tile: f64) {
    let (_, name) = key.parts();
    let kind = Kind::of_key(key.in_numbers(numbers).kind).unwrap_or(Kind::Number);
    match key.slot(numbers) {
        Some(Slot::Number(number)) => {
            *number = match key.default {
                KeyDefault::Number(default) => section.quantity(notes, name, kind).unwrap_or(default),
                KeyDefault::HalfATile => section.quantity(notes, name, kind).unwrap_or(half_tile),
                _ => section.needed(notes, name, kind),
            }
        }
        Some(Slot::Optional(number)) => *number = section.quantity(notes, name, kind),
        Some(Slot::RunRate(rate)) => {
            *rate = read_run_rate(notes, section, name).unwrap_or(Acceleration::Instant);
        }
        Some(Slot::OptionalRunRate(rate)) => *rate = read_run_rate(notes, section, name),
        Some(Slot::Margin(margin)) => *margin = read_margin(notes, section, name).unwrap_or_default(),
        Some(Slot::Count(count)) => *count = section.count(notes, name, key.bounds.most as u32),
        Some(Slot::Choice(choice)) => match key.kind {
            KeyKind::Word(words) => read_word(notes, section, key, words, choice),
            _ if section.has(name) => choice.choose(usize::from(section.switch(notes, name))),
            _ => {}
        },
        // Of a pair that is not written, or of another style.
        _ => {}
    }
}

/// How much larger something is felt: a length on all sides, or `{ left, right, above, below }`.
pub(super) fn read_margin(notes: &mut Notes, section: &Section<'_>, key: &str) -> Option<Margin> {
    if !section.has(key) {
        return None;
    }
    let margin = if section.is_table(key) {
        let sides = section.section(notes, key)?;
        sides.knows(notes, &[&SIDES]);
        let mut side = |name: &str| sides.quantity(notes, name, Kind::Length).unwrap_or(0.0);
        Margin { left: side("left"), right: side("right"), above: side("above"), below: side("below") }
    } else {
        Margin::all(section.quantity(notes, key, Kind::Length)?)
    };
    if !margin.is_within_bounds() {
        let message = format!("{} must be from -{LIMIT_MARGIN} to {LIMIT_MARGIN} px", section.name_of(key));
        notes.error(section.place_of(key), message);
        return None;
    }
    Some(margin)
}

/// One of a key's words. Its default may be one more, for what is then not there at all.
fn read_word(
    notes: &mut Notes,
    section: &Section<'_>,
    key: &Key,
    words: &'static [&'static str],
    choice: &mut dyn Choice,
) {
    let mut known: Vec<(&'static str, Option<usize>)> =
        words.iter().enumerate().map(|(index, word)| (*word, Some(index))).collect();
    if let KeyDefault::Word(default) = key.default
        && !words.contains(&default)
    {
        known.insert(0, (default, None));
    }
    if let Some(index) = section.word(notes, key.parts().1, &known).flatten() {
        choice.choose(index);
    }
}

fn read_run_rate(notes: &mut Notes, section: &Section<'_>, key: &str) -> Option<Acceleration> {
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

/// Which of the two pairs of numbers say the jump, not yet read.
fn shape_written(notes: &mut Notes, section: &Section<'_>) -> Option<JumpShape> {
    let given = |keys: [&str; 2]| keys.into_iter().any(|key| section.has(key));
    match (given(["height", "time_to_apex"]), given(["speed", "gravity"])) {
        (true, false) => Some(JumpShape::HeightAndTime { height: f64::NAN, time_to_apex: f64::NAN }),
        (false, true) => Some(JumpShape::SpeedAndGravity { speed: f64::NAN, gravity: f64::NAN }),
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

/// The styles of a release, their numbers yet to be read.
const STYLES: [(&str, Release); 5] = [
    ("none", Release::None),
    ("cut", Release::Cut { keep: f64::NAN }),
    ("heavy", Release::Heavy { gravity_ratio: f64::NAN }),
    ("sustain", Release::Sustain { time: f64::NAN }),
    ("to-height", Release::ToHeight { tap_height: f64::NAN, further_rise: f64::NAN }),
];

/// The styles of a release, and the keys that each has.
#[cfg(feature = "instruments")]
pub(crate) fn release_styles() -> impl Iterator<Item = (&'static str, Vec<&'static Key>)> {
    STYLES.into_iter().map(|(style, release)| (style, keys_of_style(&mut with_release(release))))
}

/// A jump with a release that is yet to be read, whatever the section is in.
fn with_release(release: Release) -> TuningNumbers {
    let mut numbers = unwritten().with_jump(1.0, 1.0);
    if let Some(jump) = &mut numbers.jump {
        jump.release = release;
    }
    numbers
}

/// The keys that its release has.
fn keys_of_style(numbers: &mut TuningNumbers) -> Vec<&'static Key> {
    core_keys("jump.release").filter(|key| key.slot(numbers).is_some()).collect()
}

/// What letting go of the jump button does: a section with a style, and that style's own keys.
pub(super) fn read_release(notes: &mut Notes, parent: &Section<'_>, key: &str, places: &mut Places) -> Option<Release> {
    let section = parent.section(notes, key)?;
    section.note_places(places);
    if !section.has("style") {
        let styles = reader::listed(STYLES.iter().map(|(name, _)| *name));
        notes.error(section.span(), format!("[{}] has no \"style\"; it must be one of {styles}", parent.name_of(key)));
    }
    let release = section.word(notes, "style", &STYLES)?;
    let mut numbers = with_release(release);
    let of_style = keys_of_style(&mut numbers);
    let known: Vec<&'static str> = ["style"].into_iter().chain(of_style.iter().map(|key| key.parts().1)).collect();
    section.knows_keys(notes, &known);
    for key in of_style {
        read_key(notes, &section, key, &mut numbers, f64::NAN);
    }
    Some(numbers.jump?.release)
}
