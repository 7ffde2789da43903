//! The numbers of a tuning while they are changed by hand: one after the other, undone and done again, and kept in their file.

use std::path::Path;

use wumple::files::{TuningPart, TuningText};
use wumple::numbers::{Acceleration, Bounds, Key, KeyKind, Slot, keys};
use wumple::units::{Kind, Quantity, short};
use wumple::{FileError, TuningFile};

use super::home::Home;

/// A tuning that is changed by hand. The last text that was right is in force; what is wrong is said beside it.
#[derive(Clone, Debug)]
pub struct Numbers {
    home: Home,
    kept: TuningText,
    text: TuningText,
    file: TuningFile,
    values: Vec<(Key, Value)>,
    error: Option<String>,
    undo: Vec<Step>,
    redo: Vec<Step>,
    /// What is being dragged: until it is let go, its changes are one step.
    in_hand: Option<String>,
    /// Abilities that were switched off, as they stood.
    away: Vec<(String, TuningPart)>,
    on_disk: Option<TuningText>,
}

/// A step to go back, or on again.
#[derive(Clone, Debug)]
struct Step {
    what: String,
    text: TuningText,
}

/// What a key is now.
#[derive(Clone, Debug, PartialEq)]
pub enum Value {
    /// In px and seconds.
    Number(f64),
    /// How fast a run speed changes.
    Rate(Acceleration),
    /// A whole number.
    Count(u32),
    /// One of the words.
    Word(usize, &'static [&'static str]),
    /// True or false.
    Switch(bool),
    /// Nothing is written, and other keys say what it is.
    Unwritten,
}

/// In which units numbers are shown and written.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub enum Units {
    /// Each in the unit in which the file has it.
    #[default]
    AsWritten,
    /// Tiles and seconds.
    Tiles,
    /// Pixels and seconds.
    Pixels,
    /// Pixels and frames.
    Frames,
}

impl Units {
    /// All of them, each with what it is called.
    pub const ALL: [(Units, &'static str); 4] = [
        (Units::AsWritten, "as written"),
        (Units::Tiles, "tiles, seconds"),
        (Units::Pixels, "px, seconds"),
        (Units::Frames, "px, frames"),
    ];

    /// The unit of a kind; none where it is as written.
    fn of(self, kind: Kind) -> Option<&'static str> {
        let place = match self {
            Units::AsWritten => return None,
            Units::Tiles => 0,
            Units::Pixels => 1,
            Units::Frames => 2,
        };
        let of_kind = match kind {
            Kind::Length => ["tiles", "px", "px"],
            Kind::Time => ["s", "s", "frames"],
            Kind::Speed => ["tiles/s", "px/s", "px/frame"],
            Kind::Acceleration => ["tiles/s^2", "px/s^2", "px/frame^2"],
            _ => return None,
        };
        Some(of_kind[place])
    }
}

/// Something that a character can or cannot do: a section of its tuning.
#[derive(Clone, Copy, Debug)]
pub struct Ability {
    /// The section.
    pub section: &'static str,
    /// What it is, in a few words.
    pub what: &'static str,
    /// What the section says where it was never there.
    usual: &'static [(&'static str, &'static str)],
}

/// The abilities that are switched on and off.
pub const ABILITIES: [Ability; 7] = [
    Ability { section: "jump", what: "jump", usual: &[("height", "3 tiles"), ("time_to_apex", "0.36 s")] },
    Ability {
        section: "jump.hang",
        what: "hang at the top of a jump",
        usual: &[("speed", "1.5 tiles/s"), ("gravity_ratio", "0.5")],
    },
    Ability {
        section: "wall.slide",
        what: "slide down walls",
        usual: &[("when", "pushed"), ("top_speed", "4 tiles/s")],
    },
    Ability {
        section: "wall.jump",
        what: "jump off walls",
        usual: &[("height", "2.5 tiles"), ("push_speed", "7 tiles/s"), ("steer_lock", "0.15 s")],
    },
    Ability {
        section: "wall.hold",
        what: "hold on to walls",
        usual: &[("when", "grab-held"), ("up_speed", "3 tiles/s"), ("down_speed", "4 tiles/s")],
    },
    Ability {
        section: "ladder",
        what: "climb ladders",
        usual: &[("up_speed", "4 tiles/s"), ("down_speed", "5 tiles/s")],
    },
    Ability { section: "flight", what: "fly by flaps", usual: &[("by", "flaps"), ("lift", "11 tiles/s")] },
];

impl Numbers {
    /// A tuning of this text. `path`: where it is kept.
    ///
    /// # Errors
    ///
    /// If the text is wrong: all that is.
    pub fn of(name: &str, text: &str, path: Option<&Path>) -> Result<Numbers, FileError> {
        let file = TuningFile::parse(name, text)?;
        let document = TuningText::new(text).expect("what was read is TOML");
        let mut numbers = Numbers {
            home: Home::new(name, path),
            kept: document.clone(),
            text: document,
            values: Vec::new(),
            file,
            error: None,
            undo: Vec::new(),
            redo: Vec::new(),
            in_hand: None,
            away: Vec::new(),
            on_disk: None,
        };
        numbers.look_at_values();
        Ok(numbers)
    }

    /// Its file.
    #[must_use]
    pub fn home(&self) -> &Home {
        &self.home
    }

    /// The tuning in force: that of the last text that was right.
    #[must_use]
    pub fn file(&self) -> &TuningFile {
        &self.file
    }

    /// The text as it is now, right or wrong.
    #[must_use]
    pub fn text(&self) -> String {
        self.text.to_string()
    }

    /// What is wrong with it now.
    #[must_use]
    pub fn error(&self) -> Option<&str> {
        self.error.as_deref()
    }

    /// Every key of the sections that are there, with what it is.
    #[must_use]
    pub fn values(&self) -> &[(Key, Value)] {
        &self.values
    }

    fn look_at_values(&mut self) {
        let numbers = self.file.tuning.numbers();
        let mut scratch = numbers.clone();
        let of = |key: &'static Key| {
            let shown = key.in_numbers(numbers);
            let value = match key.slot(&mut scratch)? {
                Slot::Number(number) | Slot::Optional(Some(number)) => Value::Number(*number),
                Slot::RunRate(rate) | Slot::OptionalRunRate(Some(rate)) => Value::Rate(*rate),
                Slot::Count(count) => Value::Count(*count),
                Slot::Choice(choice) => match key.kind {
                    KeyKind::Word(words) => Value::Word(choice.index(), words),
                    _ => Value::Switch(choice.index() > 0),
                },
                Slot::Margin(margin) if margin.left == margin.most() => Value::Number(margin.left),
                _ => Value::Unwritten,
            };
            Some((shown, value))
        };
        self.values = keys().filter_map(of).collect();
    }

    /// Writes a value for a key, as somebody would type it. It is in force at once if the whole is right.
    pub fn set(&mut self, key: &str, words: &str) {
        if self.text.written(key).as_deref() == Some(words) {
            return;
        }
        self.begin_step(key, key);
        self.text.set(key, words);
        self.read_again();
    }

    /// Takes a key out: what it is then, other keys or the usual say.
    pub fn unset(&mut self, key: &str) {
        self.begin_step(key, key);
        self.text.remove(key);
        self.read_again();
    }

    /// Makes a key again what is kept of it.
    pub fn reset(&mut self, key: &str) {
        self.begin_step(key, "");
        self.text.put(key, self.kept.part(key).as_ref());
        self.read_again();
    }

    /// What was in the hand is let go: its next change is a step of its own.
    pub fn let_go(&mut self) {
        self.in_hand = None;
    }

    /// A change of `what`; while that is in the hand, one step.
    fn begin_step(&mut self, what: &str, in_hand: &str) {
        let goes_on = !in_hand.is_empty() && self.in_hand.as_deref() == Some(in_hand);
        self.in_hand = (!in_hand.is_empty()).then(|| in_hand.to_owned());
        if !goes_on {
            self.undo.push(Step { what: what.to_owned(), text: self.text.clone() });
            self.redo.clear();
        }
    }

    fn read_again(&mut self) {
        match TuningFile::parse(self.home.name(), &self.text.to_string()) {
            Ok(file) => {
                (self.file, self.error) = (file, None);
                self.look_at_values();
            }
            Err(errors) => {
                let messages: Vec<&str> = errors.iter().map(wumple::files::Diagnostic::message).collect();
                self.error = Some(messages.join("\n"));
            }
        }
    }

    /// What would be undone, if anything.
    #[must_use]
    pub fn undoes(&self) -> Option<&str> {
        self.undo.last().map(|step| step.what.as_str())
    }

    /// What would be done again, if anything.
    #[must_use]
    pub fn redoes(&self) -> Option<&str> {
        self.redo.last().map(|step| step.what.as_str())
    }

    /// One step back.
    pub fn undo(&mut self) {
        if let Some(step) = self.undo.pop() {
            self.redo.push(Step { what: step.what, text: std::mem::replace(&mut self.text, step.text) });
            self.in_hand = None;
            self.read_again();
        }
    }

    /// And on again.
    pub fn redo(&mut self) {
        if let Some(step) = self.redo.pop() {
            self.undo.push(Step { what: step.what, text: std::mem::replace(&mut self.text, step.text) });
            self.in_hand = None;
            self.read_again();
        }
    }

    /// Whether a section is there.
    #[must_use]
    pub fn has(&self, section: &str) -> bool {
        self.text.has(section)
    }

    /// Switches an ability of [`ABILITIES`] on or off. Switched on again it is what it was.
    pub fn switch(&mut self, section: &str, on: bool) {
        if self.has(section) == on {
            return;
        }
        self.begin_step(section, "");
        if on {
            if section == "flight" {
                // In the air it uses the presses.
                ["air_jumps", "air_jump_height", "air_jump_release"]
                    .iter()
                    .for_each(|key| self.text.remove(&format!("jump.{key}")));
            }
            match self.away.iter().position(|(away, _)| away == section) {
                Some(at) => {
                    let (_, part) = self.away.remove(at);
                    self.text.put(section, Some(&part));
                }
                None => {
                    let usual = ABILITIES
                        .iter()
                        .find(|ability| ability.section == section)
                        .map_or(&[][..], |ability| ability.usual);
                    usual.iter().for_each(|(key, words)| self.text.set(&format!("{section}.{key}"), words));
                }
            }
        } else if let Some(part) = self.text.part(section) {
            self.away.push((section.to_owned(), part));
            self.text.remove(section);
        }
        self.read_again();
    }

    /// Whether a key, or a section, is other than it is kept.
    #[must_use]
    pub fn differs(&self, key: &str) -> bool {
        self.text.written(key) != self.kept.written(key) || self.text.has(key) != self.kept.has(key)
    }

    /// The keys, and abilities, that are other than they are kept.
    #[must_use]
    pub fn changed(&self) -> Vec<&'static str> {
        let of_keys = keys().map(|key| key.name);
        let all = of_keys.chain(ABILITIES.iter().map(|ability| ability.section));
        all.filter(|key| self.differs(key)).collect()
    }

    /// Whether anything is not kept yet.
    #[must_use]
    pub fn is_unkept(&self) -> bool {
        self.text.to_string() != self.kept.to_string()
    }

    /// Writes the file: the changed keys alone; comments and all else stay. What has no file yet gets one in the folder. Says where.
    ///
    /// # Errors
    ///
    /// If it is wrong now, or cannot be written; nothing is lost then.
    pub fn keep(&mut self, folder: &Path) -> Result<String, String> {
        if let Some(error) = &self.error {
            return Err(format!("not kept, as it is wrong: {error}"));
        }
        let words = self.home.write(&self.text.to_string(), folder)?;
        self.kept = self.text.clone();
        self.on_disk = None;
        Ok(words)
    }

    /// The file was changed by another program. Without changes of one's own it is in force at once; else it is asked about
    /// ([`Numbers::is_asked`]).
    pub fn changed_on_disk(&mut self, text: &str) {
        let Some(new) = TuningText::new(text) else {
            self.error = Some(format!("{} is no TOML now; the numbers of before stay in force", self.home.name()));
            return;
        };
        if new.to_string() == self.kept.to_string() {
            return;
        }
        self.on_disk = Some(new);
        if !self.is_unkept() {
            self.take_theirs();
        }
    }

    /// Whether the file was changed elsewhere while there are changes here.
    #[must_use]
    pub fn is_asked(&self) -> bool {
        self.on_disk.is_some()
    }

    /// Takes what is in the file now. What was changed here can be had back by undoing.
    pub fn take_theirs(&mut self) {
        if let Some(new) = self.on_disk.take() {
            self.begin_step("the file", "");
            self.kept = new.clone();
            self.text = new;
            self.read_again();
        }
    }

    /// Takes what is in the file now, and puts what was changed here upon it.
    pub fn keep_mine(&mut self) {
        if let Some(new) = self.on_disk.take() {
            let mine = self.changed();
            self.begin_step("the file", "");
            let before = std::mem::replace(&mut self.text, new.clone());
            self.kept = new;
            mine.into_iter().for_each(|key| self.text.put(key, before.part(key).as_ref()));
            self.read_again();
        }
    }

    /// The unit in which a key's number is shown and written; empty if it has none.
    #[must_use]
    pub fn unit(&self, key: &str, kind: KeyKind, units: Units) -> &'static str {
        let Some(kind) = Kind::of_key(kind) else { return "" };
        let written = || self.text.written(key).and_then(|words| Quantity::parse(&words).ok()?.unit_name());
        units.of(kind).or_else(written).or_else(|| kind.units().next()).unwrap_or("")
    }

    /// A number of px and seconds as it is written in a unit.
    #[must_use]
    pub fn words_for(&self, number: f64, unit: &str) -> String {
        let value = short(Quantity::value_in(number, unit, &self.file.scale));
        if unit.is_empty() { value } else { format!("{value} {unit}") }
    }

    /// A sensible range of a key's number, in px and seconds: wide enough to try, and for what is kept.
    #[must_use]
    pub fn range(&self, key: &str, kind: KeyKind, bounds: Bounds) -> (f64, f64) {
        let tile = self.file.scale.tile;
        let (section, name) = key.rsplit_once('.').unwrap_or(("", key));
        let most = match Kind::of_key(kind) {
            Some(Kind::Length) if section.starts_with("jump") || section == "wall.jump" => 8.0 * tile,
            Some(Kind::Length) if section == "body" && matches!(name, "width" | "height") => 4.0 * tile,
            Some(Kind::Length) => tile,
            Some(Kind::Time) if name == "time_to_apex" => 1.5,
            Some(Kind::Time) => 0.5,
            Some(Kind::Speed) if section == "fall" => 40.0 * tile,
            Some(Kind::Speed) => 20.0 * tile,
            Some(Kind::Acceleration) => 200.0 * tile,
            _ if key == "tick.rate" => 240.0,
            _ if kind == KeyKind::Count => 5.0,
            _ => 3.0,
        };
        let kept = self.kept.written(key).and_then(|words| Quantity::parse(&words).ok());
        let kept = kept.map_or(0.0, |kept| kept.in_px_and_seconds(&self.file.scale));
        let least = if kind == KeyKind::Margin { -most } else { bounds.least };
        let most = most.max(kept * 1.5);
        // A bound that is itself excluded is a hair away.
        let least = if bounds.above { least + most * 0.001 } else { least };
        (least, most.min(bounds.most))
    }
}
