//! What a trial expects: one thing of a run, in some ticks, and how much of it.

use wumple_core::{DVec2, State, Support};

use super::super::diagnostic::{Diagnostic, Notes};
use super::super::fields::{Field, Value, keys_of, words_of};
use super::super::reader::{Section, listed, nearest};
use crate::names::Words;
use crate::units::{Kind, short};

/// One `[[expect]]` of a trial.
#[derive(Clone, Debug)]
pub(crate) struct Expectation {
    /// Where it stands in the file; the message is what it says, in words.
    pub(crate) place: Diagnostic,
    pub(crate) subject: Subject,
    /// The first and the last tick that it looks at, the last only if the file says one.
    pub(crate) from: u64,
    pub(crate) to: Option<u64>,
    pub(crate) demand: Demand,
}

/// What an expectation is about.
#[derive(Clone, Debug, PartialEq)]
pub(crate) enum Subject {
    /// An event in the words of a trace, or the part of them before the colon.
    Event(String),
    State(State),
    Support(Support),
    /// Feet no further from a place than this, px.
    Place(DVec2, f64),
    Number(Number),
    /// Something that can be reached, in the words of `reach`.
    Reach(String),
}

/// What is asked of it.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(crate) enum Demand {
    /// In one tick at least.
    Once,
    Never,
    Always,
    /// How often, how long (s), or how much (in px and s).
    Between {
        least: Option<f64>,
        most: Option<f64>,
        /// For a number of every tick: whether no tick may have one like that, instead of all.
        never: bool,
    },
}

/// A number that a run has.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum Number {
    X,
    Y,
    Height,
    SidewaysSpeed,
    UpwardSpeed,
    Apex,
    Reach,
    AirTime,
    LandingSpeed,
    GoalTime,
    Attempt,
    Health,
    Lives,
    Picked,
}

impl Number {
    const NAMES: [(&'static str, Number); 14] = [
        ("x", Number::X),
        ("y", Number::Y),
        ("height", Number::Height),
        ("sideways_speed", Number::SidewaysSpeed),
        ("upward_speed", Number::UpwardSpeed),
        ("apex", Number::Apex),
        ("reach", Number::Reach),
        ("air_time", Number::AirTime),
        ("landing_speed", Number::LandingSpeed),
        ("goal_time", Number::GoalTime),
        ("attempt", Number::Attempt),
        ("health", Number::Health),
        ("lives", Number::Lives),
        ("picked", Number::Picked),
    ];

    /// The number of this name.
    pub(crate) fn find(name: &str) -> Option<Number> {
        Number::NAMES.iter().find(|(known, _)| *known == name).map(|(_, number)| *number)
    }

    /// All names.
    pub(crate) fn names() -> impl Iterator<Item = &'static str> {
        Number::NAMES.iter().map(|(name, _)| *name)
    }

    pub(crate) fn name(self) -> &'static str {
        Number::NAMES.iter().find(|(_, number)| *number == self).expect("every number has a name").0
    }

    pub(crate) fn kind(self) -> Kind {
        match self {
            Number::X | Number::Y | Number::Height | Number::Apex | Number::Reach => Kind::Length,
            Number::SidewaysSpeed | Number::UpwardSpeed | Number::LandingSpeed => Kind::Speed,
            Number::AirTime | Number::GoalTime => Kind::Time,
            Number::Attempt | Number::Health | Number::Lives | Number::Picked => Kind::Number,
        }
    }

    /// Its unit in messages.
    pub(crate) fn unit(self) -> &'static str {
        match self.kind() {
            Kind::Speed => "px/s",
            Kind::Time => "s",
            Kind::Number => "",
            _ => "px",
        }
    }

    /// Whether every tick has one of its own.
    pub(crate) fn is_of_a_tick(self) -> bool {
        let of_motion =
            matches!(self, Number::X | Number::Y | Number::Height | Number::SidewaysSpeed | Number::UpwardSpeed);
        of_motion || self.kind() == Kind::Number
    }
}

/// How near the feet must be to a place if nothing is said, px.
const NEAR_ENOUGH: f64 = 0.5;

/// What an expectation can be about.
pub(super) const SUBJECTS: [Field; 6] = [
    Field::new("event", Value::Text, "an event, in the words of a trace, or the part before the colon"),
    Field::new("state", Value::Words(|| State::ALL.map(State::name).into()), "a state"),
    Field::new("support", Value::Text, "what is stood on, in the words of a trace"),
    Field::new("place", Value::Pair(Kind::Length), "the feet near this place, y down"),
    Field::new("number", Value::Words(|| words_of(&Number::NAMES)), "a number of the run"),
    Field::new("reach", Value::Text, "what can be reached, such as \"goal\""),
];

/// What it can say of that.
pub(super) const REST: [Field; 9] = [
    Field::new("at", Value::Moment, "in this tick"),
    Field::new("before", Value::Moment, "in those before it"),
    Field::new("after", Value::Moment, "in those after it"),
    Field::new("between", Value::Moments, "from one tick to another, both included"),
    Field::new("within", WITHIN, "of a place: how near; with at: how many ticks before and after"),
    Field::new("at_least", MEASURE, "how often, how long, how much"),
    Field::new("at_most", MEASURE, "how often, how long, how much"),
    Field::new("never", Value::Switch, "in none of those ticks"),
    Field::new("always", Value::Switch, "in every one"),
];
const WITHIN: Value = Value::Quantity(&[Kind::Length, Kind::Time]);
const MEASURE: Value = Value::Quantity(&[Kind::Number, Kind::Length, Kind::Time, Kind::Speed]);

/// No more words than these are told where one is not known.
const MOST_LISTED: usize = 80;

/// Reads an `[[expect]]`; what is wrong is noted.
pub(super) fn read_expectation(
    notes: &mut Notes,
    section: &Section<'_>,
    known: &Words,
    rate: f64,
) -> Option<Expectation> {
    section.knows(notes, &[&SUBJECTS, &REST]);
    let subjects: Vec<&str> = keys_of(&[&SUBJECTS]).into_iter().filter(|key| section.has(key)).collect();
    let [subject] = subjects[..] else {
        let found = if subjects.is_empty() { "none".to_owned() } else { listed(subjects.iter().copied()) };
        let message =
            format!("{} is about one of {}; this one is about {found}", section.name(), listed(keys_of(&[&SUBJECTS])));
        notes.error(section.span(), message);
        return None;
    };
    let (subject, words) = read_subject(notes, section, subject, known)?;
    let (from, to, when) = read_window(notes, section, &subject, rate)?;
    let demand = read_demand(notes, section, &subject)?;
    let words = in_words(&subject, &words, &demand, &when);
    Some(Expectation { place: notes.at(section.span(), words), subject, from, to, demand })
}

fn read_subject(notes: &mut Notes, section: &Section<'_>, key: &str, known: &Words) -> Option<(Subject, String)> {
    let unknown = |notes: &mut Notes, word: &str, known: &[String]| {
        let known = || known.iter().map(String::as_str);
        let remedy = nearest(word, known()).map_or_else(
            || format!("it is one of {}", listed(known().take(MOST_LISTED))),
            |near| format!("did you mean \"{near}\"?"),
        );
        notes.error(section.place_of(key), format!("{}: unknown {key} \"{word}\"; {remedy}", section.name_of(key)));
    };
    match key {
        "event" => {
            let word = section.text(notes, key, "jumped:ground")?;
            if !known.is_event(word) {
                unknown(notes, word, &known.events);
                return None;
            }
            Some((Subject::Event(word.to_owned()), word.to_owned()))
        }
        "state" => {
            let state = section.word(notes, key, &State::ALL.map(|state| (state.name(), state)))?;
            Some((Subject::State(state), format!("state {state}")))
        }
        "support" => {
            let word = section.text(notes, key, "solid")?;
            let Some(support) = known.support(word) else {
                unknown(notes, word, &known.supports);
                return None;
            };
            Some((Subject::Support(support), format!("support {word}")))
        }
        "place" => {
            let (x, y) = section.pair(notes, key, Kind::Length)?;
            let within = section.quantity(notes, "within", Kind::Length).unwrap_or(NEAR_ENOUGH);
            if within < 0.0 {
                notes.error(section.place_of("within"), format!("{} cannot be negative", section.name_of("within")));
            }
            let words = format!("feet within {} px of ({}, {}) px", short(within), short(x), short(y));
            Some((Subject::Place(DVec2::new(x, y), within), words))
        }
        "reach" => {
            let word = section.text(notes, key, "goal")?;
            Some((Subject::Reach(word.to_owned()), format!("{word} to be reached")))
        }
        _ => {
            let number = section.word(notes, key, &Number::NAMES)?;
            if number.kind() == Kind::Number && !known.round_numbers.contains(&number.name()) {
                let message = format!(
                    "{}: the level has no such number: {}",
                    section.name_of(key),
                    match number {
                        Number::Health => "its [round] says no health",
                        Number::Lives => "its [round] says no lives",
                        _ => "it has no [round]",
                    }
                );
                notes.error(section.place_of(key), message);
                return None;
            }
            Some((Subject::Number(number), number.name().to_owned()))
        }
    }
}

/// The ticks that an expectation looks at, and how that is said.
fn read_window(
    notes: &mut Notes,
    section: &Section<'_>,
    subject: &Subject,
    rate: f64,
) -> Option<(u64, Option<u64>, String)> {
    let said: Vec<&str> = ["at", "between", "before", "after"].into_iter().filter(|key| section.has(key)).collect();
    let is_place = matches!(subject, Subject::Place(..));
    if !is_place && section.has("within") && (said[..] != ["at"] || matches!(subject, Subject::Number(_))) {
        let message = format!(
            "{} goes with \"place\", as a length, or with \"at\" of an event, state or support, as a time",
            section.name_of("within")
        );
        notes.error(section.place_of("within"), message);
        return None;
    }
    if let (Subject::Reach(_), Some(key)) = (subject, said.first()) {
        let message = format!("{}: what can be reached is of no tick; leave it out", section.name_of(key));
        notes.error(section.place_of(key), message);
        return None;
    }
    let moment = |notes: &mut Notes, key: &str| section.moment(notes, key, rate);
    match said[..] {
        [] => Some((0, None, String::new())),
        ["at"] => {
            let at = moment(notes, "at")?;
            let within = if is_place || !section.has("within") { 0 } else { moment(notes, "within")? };
            let when =
                if within == 0 { format!(" in tick {at}") } else { format!(" in tick {at}, give or take {within}") };
            Some((at.saturating_sub(within), Some(at + within), when))
        }
        ["between"] => {
            let (from, to) = section.moments(notes, "between", rate)?;
            Some((from, Some(to), format!(" in ticks {from} to {to}")))
        }
        ["before"] | ["after"] | ["before", "after"] => {
            let before = if section.has("before") { Some(moment(notes, "before")?) } else { None };
            let after = if section.has("after") { Some(moment(notes, "after")?) } else { None };
            let (from, to) = (after.map_or(0, |after| after + 1), before.map(|before| before.checked_sub(1)));
            if to.is_some_and(|to| to.is_none_or(|to| to < from)) {
                let message = format!("{}: there is no tick then", section.name_of("before"));
                notes.error(section.place_of("before"), message);
                return None;
            }
            let words = [("after", after), ("before", before)];
            let words = words.into_iter().filter_map(|(word, tick)| Some(format!(" {word} tick {}", tick?)));
            Some((from, to.flatten(), words.collect::<Vec<_>>().join(" and")))
        }
        _ => {
            let message = format!("{} says {}; keep one of them", section.name(), listed(said.iter().copied()));
            notes.error(section.place_of(said[1]), message);
            None
        }
    }
}

fn read_demand(notes: &mut Notes, section: &Section<'_>, subject: &Subject) -> Option<Demand> {
    let (never, always) = (section.switch(notes, "never"), section.switch(notes, "always"));
    let bounded = section.has("at_least") || section.has("at_most");
    let mut refuse = |key: &str, why: &str| {
        notes.error(section.place_of(key), format!("{}: {why}", section.name_of(key)));
        None
    };
    if never && always {
        return refuse("always", "never and always cannot both be; keep one");
    }
    match subject {
        Subject::Number(number) => {
            if !bounded {
                return refuse("number", "a number needs \"at_least\" or \"at_most\", or both");
            }
            if number.is_of_a_tick() && !(section.has("at") || never || always) {
                return refuse("number", "every tick has one: say which with \"at\", or \"always\" or \"never\"");
            }
            if !number.is_of_a_tick() && (never || always) {
                let key = if never { "never" } else { "always" };
                return refuse(key, "a run has one such number, not one in every tick; leave it out");
            }
        }
        _ if bounded && (never || always) => {
            let key = if never { "never" } else { "always" };
            return refuse(key, "goes without \"at_least\" and \"at_most\" here");
        }
        Subject::Event(_) if always => {
            return refuse("always", "an event is of one moment; say \"at\", or how often with \"at_least\"");
        }
        Subject::Place(..) if bounded => {
            let key = if section.has("at_least") { "at_least" } else { "at_most" };
            return refuse(key, "a place has no measure; say how near with \"within\"");
        }
        Subject::Reach(_) if bounded => {
            let key = if section.has("at_least") { "at_least" } else { "at_most" };
            return refuse(key, "something can be reached or not; say \"never\", \"always\" of several, or nothing");
        }
        _ => {}
    }
    if !bounded {
        return Some(if never {
            Demand::Never
        } else if always {
            Demand::Always
        } else {
            Demand::Once
        });
    }
    let mut bound = |key: &str| -> Option<Option<f64>> {
        if !section.has(key) {
            return Some(None);
        }
        let value = match subject {
            Subject::Event(_) => section.number(notes, key),
            Subject::Number(number) => section.quantity(notes, key, number.kind()),
            _ => section.quantity(notes, key, Kind::Time),
        };
        value.map(Some)
    };
    let (least, most) = (bound("at_least")?, bound("at_most")?);
    if let (Some(least), Some(most)) = (least, most)
        && least > most
    {
        let message = format!("{} is below at_least: nothing can be both", section.name_of("at_most"));
        notes.error(section.place_of("at_most"), message);
        return None;
    }
    Some(Demand::Between { least, most, never })
}

/// An expectation in words: `never bumped:head before tick 30`.
fn in_words(subject: &Subject, words: &str, demand: &Demand, when: &str) -> String {
    let unit = |bound: f64| match subject {
        Subject::Event(_) if bound == 1.0 => "time",
        Subject::Event(_) => "times",
        Subject::Number(number) => number.unit(),
        _ => "s",
    };
    match demand {
        Demand::Once => format!("{words}{when}"),
        Demand::Never => format!("never {words}{when}"),
        Demand::Always => format!("always {words}{when}"),
        Demand::Between { least, most, never } => {
            let bound = |word: &str, bound: &Option<f64>| {
                bound.map(|bound| format!("{word} {} {}", short(bound), unit(bound)).trim_end().to_owned())
            };
            let bounds: Vec<String> =
                [bound("at least", least), bound("at most", most)].into_iter().flatten().collect();
            let never = if *never { "never " } else { "" };
            format!("{never}{words} {}{when}", bounds.join(" and "))
        }
    }
}
