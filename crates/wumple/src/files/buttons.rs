use std::ops::Range;
use std::path::Path;
use std::sync::Arc;

use wumple_core::{Button, Buttons};

use super::diagnostic::{Diagnostic, Diagnostics, Notes, Source};
use super::disk::{FileError, read_text};
use super::reader::{MOST_TICKS, nearest};
use crate::units::{Kind, Quantity, Scale, split_number};

/// A `*.buttons` file: what is held, from when on.
///
/// ```text
/// rate 60
/// 0      right
/// 30     right jump     # from tick 30 on, right and jump
/// 1.5s   -              # from the tick that begins after 1.5 s on, nothing
/// ```
///
/// Tick 1 is the first that changes anything, and begins at 0 s. A line at tick 0 holds from the start.
#[derive(Clone, Debug, PartialEq)]
#[non_exhaustive]
pub struct ButtonsFile {
    /// Ticks a second of bare numbers, if the file says.
    pub rate: Option<f64>,
    lines: Vec<Line>,
    source: Arc<Source>,
}

#[derive(Clone, Debug, PartialEq)]
struct Line {
    /// Later lines with a `+` count from the time written here.
    time: Time,
    held: Buttons,
    span: Range<usize>,
}

/// A time as written: so many ticks of the file's rate, and so many seconds.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
struct Time {
    ticks: f64,
    seconds: f64,
    /// Whether it is counted from a tick that was named, as `30` and `+5` after it are, or from the start.
    from_tick: bool,
}

impl Time {
    fn plus(self, other: Time) -> Time {
        Time { ticks: self.ticks + other.ticks, seconds: self.seconds + other.seconds, from_tick: self.from_tick }
    }

    /// The moment it is, s from the start of tick 1: that of a tick is its beginning.
    fn moment(self, file_rate: f64) -> f64 {
        let ticks = if self.from_tick { (self.ticks - 1.0).max(0.0) } else { self.ticks };
        ticks / file_rate + self.seconds
    }

    /// The tick that begins then, at a rate: the nearest, half up.
    fn tick(self, file_rate: f64, rate: f64) -> u64 {
        let is_start = self.from_tick && self.ticks == 0.0 && self.seconds == 0.0;
        if is_start { 0 } else { (self.moment(file_rate) * rate + 1.5 + 1e-9).floor() as u64 }
    }
}

/// What is held in each tick, at one rate.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Timeline {
    /// From these ticks on, in rising order.
    changes: Vec<(u64, Buttons)>,
}

impl Timeline {
    /// From these ticks on, each time exactly these are held; ticks must rise.
    pub(crate) fn new(changes: Vec<(u64, Buttons)>) -> Timeline {
        debug_assert!(changes.is_sorted_by(|a, b| a.0 < b.0), "ticks rise");
        Timeline { changes }
    }

    /// Notes what a player holds in a tick of a game, to be played again: from here on this is held. Ticks rise; of one that
    /// is recorded twice the last counts.
    ///
    /// ```
    /// use wumple::{Buttons, Timeline};
    ///
    /// let mut recorded = Timeline::default();
    /// for tick in 1..=60 {
    ///     recorded.record(tick, Buttons { right: true, jump: tick > 40, ..Buttons::NONE });
    /// }
    /// assert_eq!(recorded.to_text(60.0), "rate 60\n1      right\n41     right jump\n");
    /// ```
    ///
    /// # Panics
    ///
    /// If the tick is before one that was recorded.
    pub fn record(&mut self, tick: u64, held: Buttons) {
        assert!(tick >= self.last_tick(), "tick {tick} comes after tick {}", self.last_tick());
        if self.changes.last().is_some_and(|(last, _)| *last == tick) {
            self.changes.pop();
        }
        if self.at(tick) != held {
            self.changes.push((tick, held));
        }
    }

    /// The text of a buttons file that says the same, in ticks of this rate.
    #[must_use]
    pub fn to_text(&self, rate: f64) -> String {
        let line = |(tick, held): &(u64, Buttons)| format!("{tick:<6} {}\n", held_words(held));
        format!("rate {rate}\n{}", self.changes.iter().map(line).collect::<String>())
    }

    /// What is held during a tick. Before the first line, nothing.
    #[must_use]
    pub fn at(&self, tick: u64) -> Buttons {
        match self.changes.partition_point(|(from, _)| *from <= tick) {
            0 => Buttons::NONE,
            after => self.changes[after - 1].1,
        }
    }

    /// What is held in each of so many ticks, from tick 1 on, with its number: quicker than asking for each.
    pub(crate) fn tick_by_tick(&self, ticks: u64) -> impl Iterator<Item = (u64, Buttons)> + '_ {
        let begins = std::iter::once(&(1, Buttons::NONE)).chain(&self.changes);
        let ends = self.changes.iter().map(|(tick, _)| *tick).chain([ticks + 1]);
        begins
            .zip(ends)
            .flat_map(move |((from, held), end)| ((*from).max(1)..end.min(ticks + 1)).map(move |tick| (tick, *held)))
    }

    /// The same seen from a later tick on: what is held in tick 0 of it is what was held in that tick.
    #[must_use]
    pub fn after(&self, ticks: u64) -> Timeline {
        let later = self.changes.iter().filter(|(from, _)| *from > ticks).map(|(from, held)| (from - ticks, *held));
        Timeline { changes: std::iter::once((0, self.at(ticks))).chain(later).collect() }
    }

    /// The same up to a tick, that included; what is held then stays held.
    #[must_use]
    pub fn until(&self, tick: u64) -> Timeline {
        Timeline { changes: self.changes.iter().copied().filter(|(from, _)| *from <= tick).collect() }
    }

    /// The same without the ticks after one up to another: what is held after that follows at once.
    pub(crate) fn without(&self, from: u64, to: u64) -> Timeline {
        let mut left = self.until(from);
        left.record(from + 1, self.at(to + 1));
        let later = self.changes.iter().filter(|(tick, _)| *tick > to + 1);
        later.for_each(|(tick, held)| left.record(tick - (to - from), *held));
        left
    }

    /// The tick of the last line; 0 without any.
    #[must_use]
    pub fn last_tick(&self) -> u64 {
        self.changes.last().map_or(0, |(from, _)| *from)
    }

    /// How long a run goes on if nobody says: two seconds after the last line, in ticks of this rate.
    #[must_use]
    pub fn ticks_to_run(&self, rate: f64) -> u64 {
        self.last_tick() + (2.0 * rate).round() as u64
    }

    /// How often a button goes down.
    #[must_use]
    pub fn presses(&self) -> usize {
        let mut before = Buttons::NONE;
        let mut count = 0;
        for (_, held) in self.changes() {
            count += Buttons::ALL.iter().filter(|button| button.is_held(held) && !button.is_held(&before)).count();
            before = *held;
        }
        count
    }

    /// The ticks in which something changes, and what is held from then on.
    #[must_use]
    pub fn changes(&self) -> &[(u64, Buttons)] {
        &self.changes
    }
}

impl ButtonsFile {
    /// Reads a buttons file. `scale` says what a frame is, if a time is written in frames.
    ///
    /// # Errors
    ///
    /// If it cannot be read or is not UTF-8; every line that is wrong, with its place.
    pub fn read(path: &Path, scale: &Scale) -> Result<ButtonsFile, FileError> {
        Ok(ButtonsFile::parse(&path.display().to_string(), &read_text(path)?, scale)?)
    }

    /// Reads a buttons text: lines, or parts between semicolons. `name` is what messages call it.
    ///
    /// # Errors
    ///
    /// Every line that is wrong, with its place.
    pub fn parse(name: &str, text: &str, scale: &Scale) -> Result<ButtonsFile, Diagnostics> {
        let mut notes = Notes::new(name, text);
        if let Some(line) = text.lines().find(|line| line.trim_start().starts_with('[')) {
            let at = line.as_ptr() as usize - text.as_ptr() as usize;
            let message = "this is TOML (a tuning, a level or a trial), not a buttons file; are two files given in each \
                           other's place?";
            notes.error(at..at + line.len(), message);
            return Err(notes.finish().expect_err("an error was noted"));
        }
        let mut reading = Reading { scale, rate: None, lines: Vec::new() };
        for words in lines_of(text) {
            reading.line(&mut notes, &words);
        }
        let Reading { rate, lines, .. } = reading;
        let source = notes.source().clone();
        notes.finish()?;
        Ok(ButtonsFile { rate, lines, source })
    }

    /// The same in ticks of `rate`: each line at the tick that begins at its time, or nearest to it, half up. (Tick
    /// 1 begins at 0 s.) Lines that fall on one tick are joined, with a warning: what is held in any of them is held.
    ///
    /// # Errors
    ///
    /// If the file says no rate of its own and a line is earlier than the one before at this one; if a line is
    /// later than ten million ticks.
    pub fn at_rate(&self, rate: f64) -> Result<(Timeline, Vec<Diagnostic>), Diagnostics> {
        let file_rate = self.rate.unwrap_or(rate);
        let mut notes = Notes::of_source(&self.source);
        let mut warnings = Notes::of_source(&self.source);
        let mut changes: Vec<(u64, Buttons)> = Vec::with_capacity(self.lines.len());
        for (index, line) in self.lines.iter().enumerate() {
            let tick = line.time.tick(file_rate, rate);
            if tick as f64 > MOST_TICKS {
                let message = format!("is tick {tick} at {rate} Hz; a run has at most {MOST_TICKS} ticks");
                notes.error(line.span.clone(), message);
            }
            let before = index.checked_sub(1).map_or(Time::default(), |before| self.lines[before].time);
            if line.time.moment(file_rate) < before.moment(file_rate) {
                let message = format!("is earlier than the line before, at {rate} Hz; times never go back");
                notes.error(line.span.clone(), message);
            }
            match changes.last_mut().filter(|(last, _)| *last == tick) {
                None => changes.push((tick, line.held)),
                Some((_, held)) => {
                    *held = joined(held, &line.held);
                    let message = format!(
                        "falls on tick {tick} like the line before; what is held in either is held from then on"
                    );
                    warnings.error(line.span.clone(), message);
                }
            }
        }
        notes.finish()?;
        let warnings = warnings.finish().err();
        Ok((Timeline { changes }, warnings.map_or_else(Vec::new, Diagnostics::into_vec)))
    }
}

/// What is held, in the words of a buttons file.
#[must_use]
pub fn held_words(held: &Buttons) -> String {
    let buttons = Buttons::ALL.iter().filter(|button| button.is_held(held)).map(|button| button.name.to_owned());
    let is_pushed = |button: &&Button| button.pushed(held) > 0.0;
    let pushed = Buttons::ALL.iter().filter(is_pushed).map(|way| format!("{}={}", way.name, way.pushed(held)));
    let words: Vec<String> = buttons.chain(pushed).collect();
    if words.is_empty() { "-".to_owned() } else { words.join(" ") }
}

fn joined(a: &Buttons, b: &Buttons) -> Buttons {
    let stronger = |a: f64, b: f64| if b.abs() > a.abs() { b } else { a };
    let mut both = Buttons { steer: stronger(a.steer, b.steer), climb: stronger(a.climb, b.climb), ..Buttons::NONE };
    for button in Buttons::ALL {
        button.hold(&mut both, button.is_held(a) || button.is_held(b));
    }
    both
}

/// A word and its place.
type Word<'t> = (&'t str, Range<usize>);

/// The words of every line that has any, comments left out.
fn lines_of(text: &str) -> impl Iterator<Item = Vec<Word<'_>>> {
    let place = |part: &str| part.as_ptr() as usize - text.as_ptr() as usize;
    text.lines()
        .map(|line| line.split('#').next().unwrap_or_default())
        .flat_map(|line| line.split(';'))
        .map(move |part| part.split_whitespace().map(|word| (word, place(word)..place(word) + word.len())).collect())
        .filter(|words: &Vec<Word<'_>>| !words.is_empty())
}

struct Reading<'s> {
    scale: &'s Scale,
    rate: Option<f64>,
    lines: Vec<Line>,
}

impl Reading<'_> {
    fn line(&mut self, notes: &mut Notes, words: &[Word<'_>]) {
        let span = words[0].1.start..words[words.len() - 1].1.end;
        if words[0].0 == "rate" {
            return self.rate_line(notes, &words[1..], span);
        }
        let Some((time, rest)) = self.time(notes, words) else { return };
        let Some(held) = held(notes, rest, span.clone()) else { return };
        if let Some(before) = self.lines.last().map(|line| line.time) {
            // Ticks beside seconds are compared when the rate is known.
            let alike = |a: Time, b: Time| (a.ticks == b.ticks && a.from_tick == b.from_tick) || a.seconds == b.seconds;
            let rate = self.rate.or(alike(time, before).then_some(1.0));
            if rate.is_some_and(|rate| time.moment(rate) < before.moment(rate)) {
                notes.error(words[0].1.clone(), "is earlier than the line before; times never go back");
            }
        }
        self.lines.push(Line { time, held, span });
    }

    fn rate_line(&mut self, notes: &mut Notes, words: &[Word<'_>], span: Range<usize>) {
        let rate = match words {
            [(word, _)] => word.parse().ok().filter(|rate| (1.0..=10_000.0).contains(rate)),
            _ => None,
        };
        match rate {
            _ if self.rate.is_some() => notes.error(span, "the rate is given twice; keep one"),
            _ if !self.lines.is_empty() => notes.error(span, "the rate must come before the first time"),
            None => notes.error(span, "\"rate\" needs a number of ticks a second from 1 to 10000, such as \"rate 60\""),
            rate => self.rate = rate,
        }
    }

    /// The time at the head of a line, and the words after it: `30`, `1.5s`, `1.5 s`, `+12`.
    fn time<'w, 't>(&self, notes: &mut Notes, words: &'w [Word<'t>]) -> Option<(Time, &'w [Word<'t>])> {
        let (first, span) = &words[0];
        let (number, unit) = split_number(first);
        let is_unit = |word: &&Word<'_>| Kind::Time.units().chain(["frame"]).any(|unit| unit == word.0);
        let apart = unit.is_empty() && words.get(1).as_ref().is_some_and(is_unit);
        let (text, used) = if apart { (format!("{number} {}", words[1].0), 2) } else { ((*first).to_owned(), 1) };
        let mut fail = |why: String| {
            let wanted = "a line begins with a tick, such as \"30\" or \"+12\", or a time, such as \"1.5s\"";
            notes.error(span.clone(), format!("{why}; {wanted}"));
            None
        };
        let quantity = match Quantity::parse(&text) {
            Ok(quantity) => quantity,
            Err(error) => return fail(error.to_string()),
        };
        let time = match quantity.kind() {
            None => Time { ticks: quantity.value, seconds: 0.0, from_tick: true },
            Some(Kind::Time) => Time { seconds: quantity.in_px_and_seconds(self.scale), ..Time::default() },
            Some(other) => return fail(format!("\"{text}\" is {}", other.name())),
        };
        if time.ticks.fract() != 0.0 {
            return fail(format!("\"{text}\" is no whole tick"));
        }
        if !(time.ticks >= 0.0 && time.seconds >= 0.0 && time.ticks <= 1e9 && time.seconds <= 1e6) {
            return fail(format!("\"{text}\" is no time of a run"));
        }
        // Before the first line there is the start, which the first is counted from in its own way.
        let before = self.lines.last().map_or(Time { ticks: 0.0, seconds: 0.0, ..time }, |line| line.time);
        let time = if first.starts_with('+') { before.plus(time) } else { time };
        Some((time, &words[used..]))
    }
}

/// The buttons named in a line.
fn held(notes: &mut Notes, words: &[Word<'_>], span: Range<usize>) -> Option<Buttons> {
    if words.is_empty() {
        notes.error(span, "names no button; \"-\" is none");
        return None;
    }
    if words.len() == 1 && words[0].0 == "-" {
        return Some(Buttons::NONE);
    }
    let mut held = Buttons::NONE;
    for (word, span) in words {
        let (name, part) = word.split_once('=').map_or((*word, None), |(name, part)| (name, Some(part)));
        let stick = part.map(|part| part.parse::<f64>().ok().filter(|part| (0.0..=1.0).contains(part)));
        let button = Buttons::ALL.iter().find(|button| button.name == name);
        match (button, stick) {
            (_, Some(None)) => {
                notes.error(span.clone(), format!("\"{word}\": a stick is pushed from 0 to 1, such as \"right=0.6\""));
            }
            (Some(button), None) => button.hold(&mut held, true),
            (Some(button), Some(Some(part))) if button.is_direction() => button.push(&mut held, part),
            (Some(_), _) => {
                notes.error(span.clone(), format!("\"{word}\": {name} is held or not, without a part"));
            }
            (None, _) => {
                let names = || Buttons::ALL.iter().map(|button| button.name);
                let remedy = match nearest(name, names()) {
                    Some(near) => format!("did you mean \"{near}\"?"),
                    None => format!("there are {} and \"-\"", super::reader::listed(names())),
                };
                notes.error(span.clone(), format!("unknown button \"{name}\"; {remedy}"));
            }
        }
    }
    // One stick, however often it is named.
    (held.steer, held.climb) = (held.steer.clamp(-1.0, 1.0), held.climb.clamp(-1.0, 1.0));
    Some(held)
}

#[cfg(test)]
mod tests {
    use proptest::prelude::*;

    use super::*;

    /// A timeline, and how many ticks to look at.
    fn timeline() -> impl Strategy<Value = (Timeline, u64)> {
        (prop::collection::btree_map(0u64..40, any::<(bool, bool)>(), 0..12), 0u64..50).prop_map(|(changes, ticks)| {
            let held = |(tick, (jump, right))| (tick, Buttons { jump, right, ..Buttons::NONE });
            (Timeline::new(changes.into_iter().map(held).collect()), ticks)
        })
    }

    proptest! {
        #[test]
        fn tick_by_tick_is_what_each_tick_has((timeline, ticks) in timeline()) {
            let asked: Vec<(u64, Buttons)> = (1..=ticks).map(|tick| (tick, timeline.at(tick))).collect();
            prop_assert_eq!(timeline.tick_by_tick(ticks).collect::<Vec<_>>(), asked);
        }

        #[test]
        fn without_some_ticks_the_others_are_as_they_were((timeline, from) in timeline(), more in 1u64..20) {
            let left = timeline.without(from, from + more);
            for tick in 1..80 {
                let before = if tick <= from { tick } else { tick + more };
                prop_assert_eq!(left.at(tick), timeline.at(before), "{} of {:?}", tick, timeline);
            }
        }
    }
}
