//! Reading TOML with places: a section knows which keys it has, and says which it does not.

use std::collections::{BTreeMap, BTreeSet};
use std::ops::Range;
use std::path::{Path, PathBuf};

use toml_edit::{Document, Item, TableLike, Value};
use wumple_core::numbers::keys;

use super::diagnostic::{Notes, is_harmful};
use super::disk::{FileError, check_named};
use super::fields::{Field, keys_of};
use crate::names::MOST_LETTERS;
use crate::units::{Kind, Quantity, Scale};

/// A table of a TOML file, being read.
pub(crate) struct Section<'d> {
    table: &'d dyn TableLike,
    /// `body`; empty for the top of the file.
    path: String,
    span: Range<usize>,
    scale: Scale,
}

/// Parses a text as TOML; a fault in its grammar is noted with its place.
pub(crate) fn parse(notes: &mut Notes) -> Option<Document<String>> {
    match Document::parse(notes.text().to_owned()) {
        Ok(document) => Some(document),
        Err(error) => {
            let message = error.message().replace('\n', "; ");
            notes.error(error.span().unwrap_or(0..0), format!("this is not TOML: {message}"));
            None
        }
    }
}

/// The nearest of the known words, if one is near enough to be meant.
pub(crate) fn nearest<'a>(word: &str, known: impl IntoIterator<Item = &'a str>) -> Option<&'a str> {
    let plain = plain(word);
    known
        .into_iter()
        .map(|candidate| (strsim::normalized_damerau_levenshtein(&plain, &self::plain(candidate)), candidate))
        .filter(|(likeness, _)| *likeness >= 0.5)
        .max_by(|(a, _), (b, _)| a.total_cmp(b))
        .map(|(_, candidate)| candidate)
}

/// A word without what differs between spellings of the same.
fn plain(word: &str) -> String {
    let word = word.to_lowercase().replace(['-', ' ', '_'], "");
    word.replace("color", "colour").replace("center", "centre").replace("deceleration", "braking")
}

/// Why a text cannot be the name of something, if it cannot.
fn wrong_name(name: &str) -> Option<String> {
    if name.contains(is_harmful) {
        return Some("is of one line, without control characters".into());
    }
    if name.starts_with(['=', '+', '-', '@']) {
        return Some("does not begin with \"=\", \"+\", \"-\" or \"@\", which spreadsheets take for a formula".into());
    }
    (name.chars().count() > MOST_LETTERS).then(|| format!("has at most {MOST_LETTERS} letters"))
}

/// What a TOML file is, by the sections that it has: a level, a tuning or a trial.
fn kind_of_file(document: &Document<String>) -> Option<&'static str> {
    let has = |keys: &[&str]| keys.iter().any(|key| document.contains_key(key));
    if has(&["expect"]) {
        Some("a trial")
    } else if has(&["map", "letters", "block", "ramp", "prop", "edges"]) {
        Some("a level")
    } else {
        has(&["body", "run", "jump", "fall", "scale", "tick"]).then_some("a tuning")
    }
}

/// Whether the file is of another kind than it is taken for; that is noted, and nothing else need be.
pub(crate) fn is_another(notes: &mut Notes, document: &Document<String>, wanted: &str) -> bool {
    match kind_of_file(document) {
        Some(found) if found != wanted => {
            notes.error(0..0, format!("this is {found}, not {wanted}; are two files given in each other's place?"));
            true
        }
        _ => false,
    }
}

/// The sections of a tuning that a key, or a section within, belongs to, if there are few.
fn home_of(key: &str) -> Option<String> {
    if matches!(key, "tile" | "frames_per_second") {
        return Some("[scale]".into());
    }
    let homes = keys().filter_map(|known| match known.parts() {
        (section, own) if own == key && !section.contains('.') => Some(section),
        (section, _) => section.split_once('.').filter(|(_, inner)| *inner == key).map(|(outer, _)| outer),
    });
    let homes: BTreeSet<&str> = homes.collect();
    let words: Vec<String> = homes.into_iter().map(|section| format!("[{section}]")).collect();
    match words.as_slice() {
        [] => None,
        [one] => Some(one.clone()),
        [first @ .., last] if words.len() <= 4 => Some(format!("{} or {last}", first.join(", "))),
        _ => None,
    }
}

/// Words in quotes, as a list for a message.
pub(crate) fn listed<'a>(words: impl IntoIterator<Item = &'a str>) -> String {
    words.into_iter().map(|word| format!("\"{word}\"")).collect::<Vec<_>>().join(", ")
}

/// What a file must be that another file names.
pub(crate) struct Named<'a> {
    /// `.csv`
    pub(crate) ending: &'static str,
    /// A name, for messages.
    pub(crate) example: &'static str,
    /// The folder that it must be in, however it is named, if it must.
    pub(crate) within: Option<&'a Path>,
}

impl Named<'_> {
    fn check(&self, path: &Path) -> Result<(), FileError> {
        check_named(path)?;
        let Some(folder) = self.within else { return Ok(()) };
        let folder = if folder.as_os_str().is_empty() { Path::new(".") } else { folder };
        match (path.canonicalize(), folder.canonicalize()) {
            (Ok(path), Ok(real)) if path.starts_with(&real) => Ok(()),
            (Ok(path), _) => Err(FileError::Outside { path, folder: folder.into() }),
            (Err(cause), _) => Err(FileError::Read { path: path.into(), cause }),
        }
    }
}

/// No run of a file is longer, ticks.
pub(crate) const MOST_TICKS: f64 = 1e7;

/// Where each number was written, by its name in the file: for faults that are found later.
pub(crate) type Places = BTreeMap<String, Range<usize>>;

impl<'d> Section<'d> {
    pub(crate) fn top(document: &'d Document<String>, scale: Scale) -> Section<'d> {
        Section { table: document.as_table(), path: String::new(), span: 0..0, scale }
    }

    pub(crate) fn set_scale(&mut self, scale: Scale) {
        self.scale = scale;
    }

    /// What messages call the section.
    pub(crate) fn name(&self) -> &str {
        &self.path
    }

    pub(crate) fn span(&self) -> Range<usize> {
        self.span.clone()
    }

    /// `jump.height`, as messages name it.
    pub(crate) fn name_of(&self, key: &str) -> String {
        if self.path.is_empty() { key.into() } else { format!("{}.{key}", self.path) }
    }

    /// Notes every key that is not in these tables, with the nearest that is.
    pub(crate) fn knows(&self, notes: &mut Notes, tables: &[&[Field]]) {
        self.knows_keys(notes, &keys_of(tables));
    }

    /// The same of keys that no table has.
    pub(crate) fn knows_keys(&self, notes: &mut Notes, keys: &[&str]) {
        for (key, item) in self.table.iter() {
            if keys.contains(&key) {
                continue;
            }
            let what = if item.is_table() || item.is_array_of_tables() { "section" } else { "key" };
            let place = if self.path.is_empty() { String::new() } else { format!(" in [{}]", self.path) };
            let remedy = match nearest(key, keys.iter().copied()) {
                _ if self.is_of_tuning() && home_of(key).is_some() => {
                    format!("it belongs to {}", home_of(key).unwrap_or_default())
                }
                Some(near) => format!("did you mean \"{near}\"?"),
                None => format!("there are {}", listed(keys.iter().copied())),
            };
            notes.error(self.key_span(key), format!("unknown {what} \"{key}\"{place}; {remedy}"));
        }
    }

    /// Whether it is a section of a tuning that may have numbers of motion.
    fn is_of_tuning(&self) -> bool {
        ["tick", "scale", "body", "run", "air", "fall", "jump", "wall", "ladder"].contains(&self.path.as_str())
    }

    fn key_span(&self, key: &str) -> Range<usize> {
        self.table.get_key_value(key).and_then(|(key, item)| key.span().or(item.span())).unwrap_or(self.span())
    }

    /// Where a value was written; the section's head if it was not.
    pub(crate) fn place_of(&self, key: &str) -> Range<usize> {
        self.table.get(key).and_then(Item::span).unwrap_or(self.span())
    }

    /// Notes down where each value of the section was written.
    pub(crate) fn note_places(&self, places: &mut Places) {
        for (key, _) in self.table.iter() {
            places.insert(self.name_of(key), self.place_of(key));
        }
        places.insert(self.path.clone(), self.span());
    }

    pub(crate) fn has(&self, key: &str) -> bool {
        self.table.contains_key(key)
    }

    /// The keys of this table, in the order of the file.
    pub(crate) fn keys(&self) -> impl Iterator<Item = &'d str> {
        self.table.iter().map(|(key, _)| key)
    }

    /// A table within this one, if it is there and a table.
    pub(crate) fn section(&self, notes: &mut Notes, key: &str) -> Option<Section<'d>> {
        let item = self.table.get(key)?;
        let path = self.name_of(key);
        match item.as_table_like() {
            Some(table) => Some(Section { table, path, span: self.section_span(key, item), scale: self.scale }),
            None => {
                notes.error(self.place_of(key), format!("{path} must be a section, [{path}]"));
                None
            }
        }
    }

    fn section_span(&self, key: &str, item: &Item) -> Range<usize> {
        item.span().unwrap_or_else(|| self.key_span(key))
    }

    /// A value of any kind, if it is there and no section.
    pub(crate) fn value(&self, notes: &mut Notes, key: &str) -> Option<&'d Value> {
        let item = self.table.get(key)?;
        if item.as_value().is_none() {
            notes.error(self.key_span(key), format!("{} must be a value, not a section", self.name_of(key)));
        }
        item.as_value()
    }

    /// A text, if it is there.
    pub(crate) fn text(&self, notes: &mut Notes, key: &str, example: &str) -> Option<&'d str> {
        let value = self.value(notes, key)?;
        if value.as_str().is_none() {
            notes.error(self.place_of(key), format!("{} needs a text, such as \"{example}\"", self.name_of(key)));
        }
        value.as_str()
    }

    /// The name of what the file is of, if it has one: it goes into tables, figures and spreadsheets.
    pub(crate) fn title(&self, notes: &mut Notes, example: &str) -> Option<String> {
        let name = self.text(notes, "name", example)?;
        if let Some(why) = wrong_name(name) {
            notes
                .error(self.place_of("name"), format!("{}: a name {why}, such as \"{example}\"", self.name_of("name")));
        }
        Some(name.to_owned())
    }

    /// A list of texts, if it is there.
    pub(crate) fn texts(&self, notes: &mut Notes, key: &str, example: &str) -> Vec<&'d str> {
        let Some(value) = self.value(notes, key) else { return Vec::new() };
        let texts: Option<Vec<&str>> = value.as_array().and_then(|all| all.iter().map(Value::as_str).collect());
        if texts.is_none() {
            let message = format!("{} needs a list of texts, such as [\"{example}\"]", self.name_of(key));
            notes.error(self.place_of(key), message);
        }
        texts.unwrap_or_default()
    }

    /// The texts of a list, if it is one of nothing else.
    pub(crate) fn peek_texts(&self, key: &str) -> Vec<&'d str> {
        let list = self.table.get(key).and_then(Item::as_array);
        list.and_then(|list| list.iter().map(Value::as_str).collect()).unwrap_or_default()
    }

    /// Whether a table stands here, written inline or as a section.
    pub(crate) fn is_table(&self, key: &str) -> bool {
        self.table.get(key).is_some_and(Item::is_table_like)
    }

    /// A text, if one is there; nothing is noted if it is something else.
    pub(crate) fn peek_text(&self, key: &str) -> Option<&'d str> {
        self.table.get(key).and_then(Item::as_str)
    }

    /// What a file that is named here holds, and its path: it is found from the folder of the file that names
    /// it. What is wrong with it is noted, in its own lines; so its name must say what it is, and a file of another
    /// kind is never shown.
    pub(crate) fn file<T>(
        &self,
        notes: &mut Notes,
        key: &str,
        named: &Named,
        read: impl FnOnce(&Path) -> Result<T, FileError>,
    ) -> Option<(PathBuf, T)> {
        let file = self.text(notes, key, named.example)?;
        if !file.ends_with(named.ending) || file.contains(is_harmful) {
            let message = format!("{} is \"{file}\"; its name must end in {}", self.name_of(key), named.ending);
            notes.error(self.place_of(key), message);
            return None;
        }
        let path = Path::new(&notes.source().name).parent().unwrap_or(Path::new("")).join(file);
        match named.check(&path).and_then(|()| read(&path)) {
            Ok(contents) => Some((path, contents)),
            Err(FileError::Wrong(wrong)) => {
                notes.add(wrong);
                None
            }
            Err(error) => {
                notes.error(self.place_of(key), error.to_string());
                None
            }
        }
    }

    /// One of a few words, if it is there.
    pub(crate) fn word<T: Copy>(&self, notes: &mut Notes, key: &str, words: &[(&'static str, T)]) -> Option<T> {
        let value = self.value(notes, key)?;
        if let Some((_, meaning)) = words.iter().find(|(word, _)| value.as_str() == Some(word)) {
            return Some(*meaning);
        }
        let known = words.iter().map(|(word, _)| *word);
        let remedy = match value.as_str().and_then(|found| nearest(found, known.clone())) {
            Some(near) => format!("did you mean \"{near}\"?"),
            None => format!("it must be one of {}", listed(known)),
        };
        let found = value.to_string();
        notes.error(self.place_of(key), format!("{} is {}; {remedy}", self.name_of(key), found.trim()));
        None
    }

    /// A quantity of this kind in px and seconds, if it is there.
    pub(crate) fn quantity(&self, notes: &mut Notes, key: &str, kind: Kind) -> Option<f64> {
        let quantity = self.any_quantity(notes, key, kind, kind.example())?;
        self.of_kind(notes, key, quantity, self.place_of(key), &[kind], kind.example())
    }

    /// A quantity that may be of several kinds; bare numbers are of the first.
    pub(crate) fn quantity_of(
        &self,
        notes: &mut Notes,
        key: &str,
        kinds: &[Kind],
        example: &str,
    ) -> Option<(Kind, f64)> {
        let quantity = self.any_quantity(notes, key, kinds[0], example)?;
        let value = self.of_kind(notes, key, quantity, self.place_of(key), kinds, example)?;
        Some((quantity.kind().unwrap_or(kinds[0]), value))
    }

    /// A plain number, if it is there.
    pub(crate) fn number(&self, notes: &mut Notes, key: &str) -> Option<f64> {
        self.quantity(notes, key, Kind::Number)
    }

    /// `true` or `false`; `false` if it is not there.
    pub(crate) fn switch(&self, notes: &mut Notes, key: &str) -> bool {
        let Some(value) = self.value(notes, key) else { return false };
        if value.as_bool().is_none() {
            notes.error(self.place_of(key), format!("{} must be true or false", self.name_of(key)));
        }
        value.as_bool().unwrap_or(false)
    }

    /// A whole number from 0 on; 0 if it is not there.
    pub(crate) fn count(&self, notes: &mut Notes, key: &str, most: u32) -> u32 {
        let Some(value) = self.value(notes, key) else { return 0 };
        match value.as_integer().and_then(|number| u32::try_from(number).ok()).filter(|number| *number <= most) {
            Some(number) => number,
            None => {
                let message = format!("{} must be a whole number from 0 to {most}", self.name_of(key));
                notes.error(self.place_of(key), message);
                0
            }
        }
    }

    /// A quantity whose absence is an error.
    pub(crate) fn needed(&self, notes: &mut Notes, key: &str, kind: Kind) -> f64 {
        if !self.has(key) {
            self.missing(notes, key, kind);
        }
        self.quantity(notes, key, kind).unwrap_or(f64::NAN)
    }

    pub(crate) fn missing(&self, notes: &mut Notes, key: &str, kind: Kind) {
        let section = &self.path;
        let (kind, example) = (kind.name(), kind.example());
        notes.error(self.span(), format!("[{section}] has no \"{key}\"; it needs {kind}, such as {example}"));
    }

    /// Two quantities of a kind, in px and seconds: a point or a size. Nothing if they are not there.
    pub(crate) fn pair(&self, notes: &mut Notes, key: &str, kind: Kind) -> Option<(f64, f64)> {
        let value = self.value(notes, key)?;
        self.pair_of_value(notes, key, value, kind)
    }

    fn pair_of_value(&self, notes: &mut Notes, key: &str, value: &Value, kind: Kind) -> Option<(f64, f64)> {
        let numbers: Option<Vec<&Value>> = value.as_array().map(|array| array.iter().collect());
        let Some([first, second]) = numbers.as_deref() else {
            let message = format!(
                "{} must be a pair, {} and {}, such as [\"40 px\", \"2 tiles\"]",
                self.name_of(key),
                kind.name(),
                kind.name()
            );
            notes.error(value.span().unwrap_or(self.place_of(key)), message);
            return None;
        };
        let mut read = |value: &Value| {
            let place = value.span().unwrap_or(self.place_of(key));
            let found = self.quantity_of_value(notes, key, value, place.clone(), kind, kind.example())?;
            self.of_kind(notes, key, found, place, &[kind], kind.example())
        };
        let (first, second) = (read(first), read(second));
        Some((first?, second?))
    }

    /// A list of pairs, at least one. What is wrong with one is noted; the others are read.
    pub(crate) fn needed_pairs(&self, notes: &mut Notes, key: &str, kind: Kind) -> Vec<(f64, f64)> {
        let value = if self.has(key) { self.value(notes, key) } else { None };
        let pairs = value.and_then(Value::as_array).filter(|pairs| pairs.iter().all(|pair| pair.as_array().is_some()));
        let Some(pairs) = pairs.filter(|pairs| !pairs.is_empty()) else {
            let place = if self.has(key) { self.place_of(key) } else { self.span() };
            let name = self.name_of(key);
            let message = format!(
                "{name} must be a list of places, such as [[\"2 tiles\", \"5 tiles\"], [\"96 px\", \"80 px\"]]"
            );
            notes.error(place, message);
            return Vec::new();
        };
        pairs.iter().filter_map(|pair| self.pair_of_value(notes, key, pair, kind)).collect()
    }

    /// The same where its absence is an error.
    pub(crate) fn needed_pair(&self, notes: &mut Notes, key: &str, kind: Kind) -> (f64, f64) {
        if !self.has(key) {
            let (section, name) = (&self.path, kind.name());
            let message = format!(
                "{section} has no \"{key}\"; it needs a pair, {name} and {name}, such as [\"40 px\", \"2 tiles\"]"
            );
            notes.error(self.span(), message);
        }
        self.pair(notes, key, kind).unwrap_or((f64::NAN, f64::NAN))
    }

    /// The tables of an array, `[[key]]`, in the order of the file.
    pub(crate) fn sections(&self, notes: &mut Notes, key: &str) -> Vec<Section<'d>> {
        let Some(item) = self.table.get(key) else { return Vec::new() };
        let Some(tables) = item.as_array_of_tables() else {
            notes.error(self.place_of(key), format!("{key} must be an array of sections, each headed [[{key}]]"));
            return Vec::new();
        };
        let section = |(index, table): (usize, &'d toml_edit::Table)| Section {
            table: table as &dyn TableLike,
            path: format!("{key} {}", index + 1),
            span: table.span().unwrap_or(0..0),
            scale: self.scale,
        };
        tables.iter().enumerate().map(section).collect()
    }

    /// A moment of a run as a tick, if it is there: a bare whole number is a tick, a time becomes one, half up.
    pub(crate) fn moment(&self, notes: &mut Notes, key: &str, rate: f64) -> Option<u64> {
        let value = self.value(notes, key)?;
        self.moment_of_value(notes, key, value, rate)
    }

    /// Two moments, the first no later than the second.
    pub(crate) fn moments(&self, notes: &mut Notes, key: &str, rate: f64) -> Option<(u64, u64)> {
        let value = self.value(notes, key)?;
        let both: Option<Vec<&Value>> = value.as_array().map(|array| array.iter().collect());
        let Some([first, second]) = both.as_deref() else {
            let message = format!("{} must be a pair of moments, such as [30, 45]", self.name_of(key));
            notes.error(self.place_of(key), message);
            return None;
        };
        let mut read = |value: &Value| self.moment_of_value(notes, key, value, rate);
        let (first, second) = (read(first), read(second));
        let (first, second) = (first?, second?);
        if first > second {
            let message = format!("{} ends in tick {second}, before it begins in tick {first}", self.name_of(key));
            notes.error(self.place_of(key), message);
            return None;
        }
        Some((first, second))
    }

    fn moment_of_value(&self, notes: &mut Notes, key: &str, value: &Value, rate: f64) -> Option<u64> {
        let place = value.span().unwrap_or(self.place_of(key));
        let example = "a tick, such as 30, or \"0.5 s\"";
        let found = self.quantity_of_value(notes, key, value, place.clone(), Kind::Time, example)?;
        let name = self.name_of(key);
        let ticks = match found.kind() {
            None if found.value.fract() != 0.0 => {
                notes.error(place, format!("{name}: {} is no whole tick; it needs {example}", found.value));
                return None;
            }
            None => found.value,
            Some(_) => {
                let seconds = self.of_kind(notes, key, found, place.clone(), &[Kind::Time], example)?;
                (seconds * rate + 0.5 + 1e-9).floor()
            }
        };
        if !(0.0..=MOST_TICKS).contains(&ticks) {
            notes.error(place, format!("{name} is tick {ticks}; a run has ticks from 0 to {MOST_TICKS}"));
            return None;
        }
        Some(ticks as u64)
    }

    fn any_quantity(&self, notes: &mut Notes, key: &str, kind: Kind, example: &str) -> Option<Quantity> {
        let value = self.value(notes, key)?;
        self.quantity_of_value(notes, key, value, self.place_of(key), kind, example)
    }

    fn quantity_of_value(
        &self,
        notes: &mut Notes,
        key: &str,
        value: &Value,
        place: Range<usize>,
        kind: Kind,
        example: &str,
    ) -> Option<Quantity> {
        let wanted = format!("{} needs {}, such as {example}", self.name_of(key), kind.name());
        if let Some(number) = value.as_float().or(value.as_integer().map(|whole| whole as f64)) {
            return Some(Quantity::bare(number));
        }
        let Some(text) = value.as_str() else {
            notes.error(place, format!("{} is no quantity; {wanted}", value.to_string().trim()));
            return None;
        };
        Quantity::parse(text).map_err(|error| notes.error(place, format!("{error}; {wanted}"))).ok()
    }

    fn of_kind(
        &self,
        notes: &mut Notes,
        key: &str,
        found: Quantity,
        place: Range<usize>,
        kinds: &[Kind],
        example: &str,
    ) -> Option<f64> {
        let name = self.name_of(key);
        if let Some(kind) = found.kind().filter(|kind| !kinds.contains(kind)) {
            let written = &notes.text()[place.clone()];
            let message = format!("{written} is {}; {name} needs {}, such as {example}", kind.name(), kinds[0].name());
            notes.error(place, message);
            return None;
        }
        let value = found.in_px_and_seconds(&self.scale);
        if !value.is_finite() {
            notes.error(
                place,
                format!("{name} is not a finite number; it needs {}, such as {example}", kinds[0].name()),
            );
            return None;
        }
        Some(value)
    }
}
