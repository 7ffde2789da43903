//! The numbers of a tuning while they are changed by hand: one after the other, undone and done again, and kept in their file.

use std::path::Path;

use wumple::files::{TuningPart, TuningText};
use wumple::numbers::{Acceleration, Key, KeyKind, Slot, keys};
use wumple::{FileError, Margin, TuningFile};

use super::ability::{ABILITIES, Ability, RELEASE_STYLES, RELEASES};
use super::home::Home;

/// A tuning that is changed by hand. The last text that was right is in force; what is wrong is said beside it.
#[derive(Clone, Debug)]
pub struct Numbers {
    home: Home,
    kept: TuningText,
    text: TuningText,
    file: TuningFile,
    values: Vec<(Key, Value)>,
    others: Vec<String>,
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
            others: Vec::new(),
            file,
            error: None,
            undo: Vec::new(),
            redo: Vec::new(),
            in_hand: None,
            away: Vec::new(),
            on_disk: None,
        };
        numbers.look_at_values();
        numbers.look_at_others();
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

    /// What is written for a key, without quotes; none if nothing is.
    #[must_use]
    pub fn written(&self, key: &str) -> Option<String> {
        self.text.written(key)
    }

    /// The same as it is kept.
    pub(super) fn kept_as(&self, key: &str) -> Option<String> {
        self.kept.written(key)
    }

    /// The written keys that are none of motion: those of the file, of its picture and its poses. In the order of the file.
    #[must_use]
    pub fn others(&self) -> &[String] {
        &self.others
    }

    fn look_at_values(&mut self) {
        let numbers = self.file.tuning.numbers();
        let mut scratch = numbers.clone();
        // A jump says its own gravity, and takes none beside it.
        let is_refused = |key: &Key| key.name == "fall.gravity" && numbers.jump.is_some();
        let of = |key: &'static Key| {
            let shown = key.in_numbers(numbers);
            let value = match key.slot(&mut scratch)? {
                // Without a limit there is no number to be shown.
                Slot::Number(number) | Slot::Optional(Some(number)) if number.is_infinite() => Value::Unwritten,
                Slot::Number(number) | Slot::Optional(Some(number)) => Value::Number(*number),
                Slot::RunRate(rate) | Slot::OptionalRunRate(Some(rate)) => Value::Rate(*rate),
                Slot::Count(count) => Value::Count(*count),
                Slot::Choice(choice) => match key.kind {
                    KeyKind::Word(words) => Value::Word(choice.index(), words),
                    _ => Value::Switch(choice.index() > 0),
                },
                Slot::Margin(margin) if *margin == Margin::all(margin.left) => Value::Number(margin.left),
                // Each side is a key of its own.
                Slot::Margin(_) => return None,
                _ => Value::Unwritten,
            };
            Some((shown, value))
        };
        self.values = keys().filter(|key| !is_refused(key)).filter_map(of).collect();
    }

    fn look_at_others(&mut self) {
        let of_motion = |key: &str| Key::find(key).is_some() || key.ends_with("release.style");
        self.others = self.text.keys().into_iter().filter(|key| !of_motion(key)).collect();
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
        self.look_at_others();
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
                    let usual = Ability::of(section).map_or(&[][..], |ability| ability.usual);
                    usual.iter().for_each(|(key, words)| self.text.set(&format!("{section}.{key}"), words));
                }
            }
        } else if let Some(part) = self.text.part(section) {
            self.away.push((section.to_owned(), part));
            self.text.remove(section);
        }
        self.read_again();
    }

    /// What letting go of jump does, by the section of [`RELEASES`](super::RELEASES) that says it; none where it has none.
    #[must_use]
    pub fn release_style(&self, section: &str) -> Option<String> {
        self.text.written(&format!("{section}.style"))
    }

    /// Another style of letting go of jump, one of [`RELEASE_STYLES`]; none takes the section out. A style that was had before is what it was.
    pub fn set_release_style(&mut self, section: &str, style: Option<&str>) {
        let now = self.release_style(section);
        if now.as_deref() == style {
            return;
        }
        self.begin_step(section, "");
        if let Some((now, part)) = now.zip(self.text.part(section)) {
            self.away.push((format!("{section}.{now}"), part));
        }
        let Some(style) = style else {
            self.text.remove(section);
            return self.read_again();
        };
        let had = format!("{section}.{style}");
        match self.away.iter().position(|(away, _)| *away == had) {
            Some(at) => {
                let (_, part) = self.away.remove(at);
                self.text.put(section, Some(&part));
            }
            None => {
                let usual =
                    RELEASE_STYLES.iter().find(|known| known.name == style).map_or(&[][..], |known| known.usual);
                // The table stays, with what is written about it.
                let old = self.text.keys().into_iter().filter(|key| key.starts_with(&format!("{section}.")));
                old.for_each(|key| self.text.remove(&key));
                self.text.set(&format!("{section}.style"), style);
                usual.iter().for_each(|(key, words)| self.text.set(&format!("{section}.{key}"), words));
            }
        }
        self.read_again();
    }

    /// Whether a key, or anything of a section, is other than it is kept.
    #[must_use]
    pub fn differs(&self, key: &str) -> bool {
        let of = |text: &TuningText| text.written(key).or_else(|| Some(text.part(key)?.to_string()));
        of(&self.text) != of(&self.kept)
    }

    /// The keys that are other than they are kept.
    #[must_use]
    pub fn changed(&self) -> Vec<String> {
        let mut all = self.text.keys();
        all.extend(self.kept.keys().into_iter().filter(|key| !self.text.has(key)));
        all.retain(|key| self.differs(key));
        all
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
            let mut mine = self.changed();
            // A section that was put in or taken out, or has another style, goes whole.
            let sections = ABILITIES.iter().map(|ability| ability.section).chain(RELEASES);
            let is_other = |section: &&str| {
                let style = format!("{section}.style");
                self.text.has(section) != self.kept.has(section) || self.written(&style) != self.kept_as(&style)
            };
            mine.extend(sections.filter(is_other).map(str::to_owned));
            self.begin_step("the file", "");
            let before = std::mem::replace(&mut self.text, new.clone());
            self.kept = new;
            mine.iter().for_each(|key| self.text.put(key, before.part(key).as_ref()));
            self.read_again();
        }
    }
}
