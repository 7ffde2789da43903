//! What the things of a level are called in traces, tables and figures.

use std::collections::{HashMap, HashSet};

use wumple_core::advanced::{About, AboutKind};
use wumple_core::camera::ViewEvent;
use wumple_core::rounds::{DefeatCause, Item, Lack, RestartAt};
use wumple_core::{Event, JumpedFrom, MoverId, RoundEvent, Side, Support, ZoneId, ZoneKind, ZoneOf};

/// Whether words of a trace are this word, or more exact: `goal@12,8` is of `goal`, `jumped:ground` of `jumped`.
#[cfg(feature = "instruments")]
pub(crate) fn is_of_word(words: &str, word: &str) -> bool {
    words.strip_prefix(word).is_some_and(|rest| rest.is_empty() || rest.starts_with([':', '@']))
}

/// The names of the blocks, platforms, props and drawn zones of a level: their ids, or their numbers in the file, from 1;
/// and the kinds of zones that only it has.
#[derive(Clone, Debug, Default, PartialEq, Eq)]
pub struct Names {
    /// Of the blocks, in the order of the file.
    pub blocks: Vec<String>,
    /// Of the platforms.
    pub platforms: Vec<String>,
    /// Of the props.
    pub props: Vec<String>,
    /// Of the zones drawn over the map.
    pub zones: Vec<String>,
    /// Kinds of zones that are words of the level's own.
    pub kinds: Vec<ZoneKind>,
}

impl Names {
    /// What holds a character up, in the words of a trace: `platform:hoist`.
    #[must_use]
    pub fn support(&self, support: Support) -> String {
        match self.of(support) {
            Some((kind, name)) => format!("{kind}:{name}"),
            None => support.to_string(),
        }
    }

    /// An event in the words of a trace: `pushed:hoist`.
    #[must_use]
    pub fn event(&self, event: &Event) -> String {
        if let About::ZoneId(zone) = event.about() {
            return format!("{}:{}", event.word(), self.zone(zone));
        }
        let thing = match event.about() {
            About::Support(support) => self.of(support),
            About::MoverId(mover) => self.of(mover.into()),
            _ => None,
        };
        match thing {
            Some((_, name)) => format!("{}:{name}", event.word()),
            None => event.to_string(),
        }
    }

    /// What happened to a round, in the words of a trace: `took:pickup@12,8`.
    #[must_use]
    pub fn round_event(&self, event: &RoundEvent) -> String {
        let word = event.word();
        match event {
            RoundEvent::Took(zone) | RoundEvent::Opened(zone) | RoundEvent::Reached(zone) => {
                format!("{word}:{}", self.zone(*zone))
            }
            RoundEvent::Hurt { by, damage } => format!("{word}:{}:{damage}", self.zone(*by)),
            RoundEvent::Defeated(cause) => format!("{word}:{}", self.defeat_cause(cause)),
            other => other.to_string(),
        }
    }

    /// What defeated a character, in the words of a trace.
    #[must_use]
    pub fn defeat_cause(&self, cause: &DefeatCause) -> String {
        match cause {
            DefeatCause::Zone(zone) => self.zone(*zone),
            other => other.to_string(),
        }
    }

    /// Which zone, in the words of a trace: `pickup@12,8`, `goal:kiln-door`, `hazard:block-2` of what has no id.
    #[must_use]
    pub fn zone(&self, zone: ZoneId) -> String {
        let (names, index) = match zone.of {
            ZoneOf::Block(index) => (&self.blocks, index),
            ZoneOf::Platform(index) => (&self.platforms, index),
            ZoneOf::Prop(index) => (&self.props, index),
            ZoneOf::Drawn(index) => (&self.zones, index),
            _ => return zone.to_string(),
        };
        match names.get(index).filter(|name| !is_number(name)) {
            Some(name) => format!("{}:{name}", zone.kind),
            None => zone.to_string(),
        }
    }

    /// A platform or a prop, by its name alone.
    #[must_use]
    pub fn mover(&self, mover: MoverId) -> String {
        self.of(mover.into()).map_or_else(|| mover.to_string(), |(_, name)| name.to_owned())
    }

    /// The names of the platforms and props.
    pub fn movers(&self) -> Vec<&str> {
        self.platforms.iter().chain(&self.props).map(String::as_str).collect()
    }

    /// The platform or prop of this name, or a character by its number; of two with the same number the platform.
    pub fn find_mover(&self, name: &str) -> Option<MoverId> {
        let at = |names: &[String]| names.iter().position(|known| known == name);
        let thing = at(&self.platforms).map(MoverId::Platform).or_else(|| at(&self.props).map(MoverId::Prop));
        thing.or_else(|| character_of(name))
    }

    /// The zone of these words; `None` if they can be no zone, or tell of a thing that has no such name here.
    pub(crate) fn find_zone(&self, words: &str) -> Option<ZoneId> {
        let mut reader = NameReader::new(self);
        let zone = reader.zone(words)?;
        (reader.into_names() == *self).then_some(zone)
    }

    /// All words that a trace of this level may have.
    pub(crate) fn words(&self) -> Words {
        let (events, supports) = (self.event_words(), self.support_words());
        let known = events.iter().cloned().collect();
        let meanings = supports.iter().cloned().collect();
        let supports = supports.into_iter().map(|(word, _)| word).collect();
        let ids = self.blocks.iter().chain(&self.platforms).chain(&self.props).chain(&self.zones);
        let ids = ids.filter(|name| !is_number(name)).cloned().collect();
        Words { events, supports, round_numbers: Vec::new(), known, meanings, ids }
    }

    /// Every support that there is, in the words of a trace.
    fn support_words(&self) -> Vec<(String, Support)> {
        let blocks = (0..self.blocks.len()).map(Support::Block);
        let platforms = (0..self.platforms.len()).map(Support::Platform);
        let props = (0..self.props.len()).map(Support::Prop);
        let all = PLAIN_SUPPORTS.into_iter().chain(blocks).chain(platforms).chain(props);
        all.map(|support| (self.support(support), support)).collect()
    }

    /// Every event that there is, in the words of a trace, numbers left out; and the parts before the colon.
    fn event_words(&self) -> Vec<String> {
        let mut words = Vec::new();
        for (word, about) in Event::WORDS {
            words.push((*word).to_owned());
            if let Some((first, _)) = word.split_once(':')
                && !words.iter().any(|known| known == first)
            {
                words.push(first.to_owned());
            }
            words.extend(self.about_words(*about).into_iter().map(|of| format!("{word}:{of}")));
        }
        words.push("left-view".to_owned());
        words.extend(ViewEvent::ALL.map(|event| event.to_string()));
        for word in RoundEvent::WORDS {
            if !words.iter().any(|known| known == word) {
                words.push(word.to_owned());
            }
            words.extend(self.round_words(word).into_iter().map(|of| format!("{word}:{of}")));
        }
        words
    }

    /// What an event of a round can be about, in words.
    fn round_words(&self, word: &str) -> Vec<String> {
        let kinds = || self.kinds().map(|kind| kind.to_string());
        match word {
            "took" | "opened" | "hurt" => kinds().collect(),
            "reached" => vec![ZoneKind::Checkpoint.to_string()],
            "defeated" => {
                let edges = Side::ALL.into_iter().map(|side| DefeatCause::Edge(side).to_string());
                let other = PLAIN_CAUSES.map(|cause| cause.to_string());
                kinds().chain(edges).chain(other).collect()
            }
            "restarted" => [RestartAt::Checkpoint, RestartAt::Start].map(|at| at.name().to_owned()).into(),
            _ => Vec::new(),
        }
    }

    /// What an event of a kind can be about, in words.
    fn about_words(&self, about: AboutKind) -> Vec<String> {
        let movers = || self.movers().into_iter().map(String::from);
        match about {
            AboutKind::JumpedFrom => JumpedFrom::ALL.into_iter().map(|from| from.name().into()).collect(),
            AboutKind::ZoneId => self.kinds().map(|kind| kind.to_string()).collect(),
            AboutKind::Side => Side::ALL.into_iter().map(|side| side.to_string()).collect(),
            AboutKind::MoverId => movers().collect(),
            AboutKind::Support => {
                let tops = PLAIN_SUPPORTS.into_iter().skip(1).map(|support| support.to_string());
                tops.chain(self.blocks.iter().cloned()).chain(movers()).collect()
            }
            _ => Vec::new(),
        }
    }

    /// The kinds of zones that a trace of this level may tell of.
    fn kinds(&self) -> impl Iterator<Item = ZoneKind> {
        ZoneKind::COMMON.into_iter().chain(self.kinds.iter().copied())
    }

    /// The kind of a thing that has a name, and the name.
    fn of(&self, support: Support) -> Option<(&'static str, &str)> {
        let (kind, names, index) = match support {
            Support::Block(index) => ("block", &self.blocks, index),
            Support::Platform(index) => ("platform", &self.platforms, index),
            Support::Prop(index) => ("prop", &self.props, index),
            _ => return None,
        };
        names.get(index).map(|name| (kind, name.as_str()))
    }
}

/// No name has more letters.
pub(crate) const MOST_LETTERS: usize = 100;
/// No place or speed of a run is greater, px and px/s.
pub(crate) const MOST: f64 = 1e9;

/// Whether a text can be the name of a thing in a trace: its id, or its number.
pub(crate) fn is_id(text: &str) -> bool {
    let letters = text.chars().all(|letter| letter.is_alphanumeric() || "-_".contains(letter));
    letters && !text.is_empty() && text.chars().count() <= MOST_LETTERS
}

/// The words of events and supports, in their order and to be looked up.
#[derive(Debug)]
pub(crate) struct Words {
    pub(crate) events: Vec<String>,
    pub(crate) supports: Vec<String>,
    /// The numbers of its round that a level has.
    pub(crate) round_numbers: Vec<&'static str>,
    known: HashSet<String>,
    meanings: HashMap<String, Support>,
    /// The ids of things.
    ids: HashSet<String>,
}

impl Words {
    pub(crate) fn is_event(&self, word: &str) -> bool {
        self.known.contains(word)
            || self.is_event_of_zone(word)
            || self.is_event_of_character(word)
            || self.is_measured_event_of_round(word)
    }

    /// Whether it says how much a hazard takes, or what a goal lacks: `hurt:hazard:stove:2`, `goal-closed:2/3`.
    fn is_measured_event_of_round(&self, word: &str) -> bool {
        match word.split_once(':') {
            Some(("hurt", of)) => of
                .rsplit_once(':')
                .is_some_and(|(zone, damage)| damage.parse::<u32>().is_ok() && self.is_event(&format!("hurt:{zone}"))),
            Some(("goal-closed", of)) => lack_of(of).is_some(),
            _ => false,
        }
    }

    /// Whether it tells what another character did: `crushed:character-2`.
    fn is_event_of_character(&self, word: &str) -> bool {
        let is_of_mover =
            |word: &str| Event::WORDS.iter().any(|(known, kind)| *known == word && *kind == AboutKind::MoverId);
        word.split_once(':').is_some_and(|(word, of)| is_of_mover(word) && character_of(of).is_some())
    }

    /// Whether it tells of one zone: of a kind that is known, by its tile or by what it is of.
    fn is_event_of_zone(&self, word: &str) -> bool {
        let (kind, of) = match (word.split_once('@'), word.rsplit_once(':')) {
            (Some((kind, tile)), _) => (kind, ZoneOfWords::Tile(tile)),
            (None, Some((kind, thing))) => (kind, ZoneOfWords::Thing(thing)),
            (None, None) => return false,
        };
        let is_there = match of {
            ZoneOfWords::Tile(tile) => tile_of(tile).is_some(),
            ZoneOfWords::Thing(thing) => self.ids.contains(thing) || thing_of(thing).is_some(),
        };
        let is_of_zone = |word: &str| ZONE_WORDS.contains(&word);
        is_there && kind.split_once(':').is_some_and(|(word, _)| is_of_zone(word)) && self.known.contains(kind)
    }

    pub(crate) fn support(&self, word: &str) -> Option<Support> {
        let character = || word.strip_prefix("character:").and_then(index_of).map(Support::Character);
        self.meanings.get(word).copied().or_else(character)
    }
}

/// The events that can tell of one zone.
const ZONE_WORDS: [&str; 7] = ["entered", "left", "took", "opened", "reached", "hurt", "defeated"];

/// The causes of a defeat that are of one word.
const PLAIN_CAUSES: [DefeatCause; 3] = [DefeatCause::Crush, DefeatCause::Lost, DefeatCause::View];

/// What can hold a body up and has no name of its own.
const PLAIN_SUPPORTS: [Support; 5] = [Support::None, Support::Solid, Support::OneWay, Support::Ramp, Support::Ladder];

/// Of which thing a zone is, in words.
enum ZoneOfWords<'a> {
    Tile(&'a str),
    Thing(&'a str),
}

/// The tile of a zone: `12,8`.
fn tile_of(words: &str) -> Option<ZoneOf> {
    let (column, row) = words.split_once(',')?;
    Some(ZoneOf::Tile { column: column.parse().ok()?, row: row.parse().ok()? })
}

/// What has no id, by its kind and number: `block-2`.
fn thing_of(words: &str) -> Option<ZoneOf> {
    let (what, number) = words.rsplit_once('-')?;
    let index = index_of(number)?;
    Some(match what {
        "block" => ZoneOf::Block(index),
        "ramp" => ZoneOf::Ramp(index),
        "platform" => ZoneOf::Platform(index),
        "prop" => ZoneOf::Prop(index),
        "zone" => ZoneOf::Drawn(index),
        _ => return None,
    })
}

/// A character, which no file gives a name: `character-2`.
fn character_of(name: &str) -> Option<MoverId> {
    name.strip_prefix("character-").and_then(index_of).map(MoverId::Character)
}

/// The index that a number from 1 stands for.
fn index_of(number: &str) -> Option<usize> {
    number.parse::<u32>().ok()?.checked_sub(1).map(|index| index as usize)
}

fn is_number(name: &str) -> bool {
    name.bytes().all(|byte| byte.is_ascii_digit())
}

/// What the words of a trace mean, the other way round; things that are not known yet are added.
#[derive(Debug, Default)]
pub(crate) struct NameReader {
    blocks: Indexed,
    platforms: Indexed,
    props: Indexed,
    zones: Indexed,
    kinds: Vec<ZoneKind>,
}

impl NameReader {
    pub(crate) fn new(names: &Names) -> NameReader {
        let [blocks, platforms, props, zones] =
            [&names.blocks, &names.platforms, &names.props, &names.zones].map(|names| Indexed::new(names));
        NameReader { blocks, platforms, props, zones, kinds: names.kinds.clone() }
    }

    pub(crate) fn into_names(self) -> Names {
        Names {
            blocks: self.blocks.names,
            platforms: self.platforms.names,
            props: self.props.names,
            zones: self.zones.names,
            kinds: self.kinds,
        }
    }

    /// What holds up, if the words are right.
    pub(crate) fn support(&mut self, words: &str) -> Option<Support> {
        if let Some((kind, name)) = words.split_once(':') {
            return Some(match kind {
                "block" => Support::Block(self.blocks.place_of(name)?),
                "platform" => Support::Platform(self.platforms.place_of(name)?),
                "prop" => Support::Prop(self.props.place_of(name)?),
                "character" => Support::Character(index_of(name)?),
                _ => return None,
            });
        }
        PLAIN_SUPPORTS.into_iter().find(|support| support.to_string() == words)
    }

    /// The same of an event. A thing that pushes, crushes or catches and is not known is a platform.
    pub(crate) fn event(&mut self, words: &str) -> Option<Event> {
        if let Some(plain) = Event::of_word(words, About::Nothing) {
            return Some(plain);
        }
        let (word, of) = words.split_once(':')?;
        let (_, kind) = Event::WORDS.iter().find(|(known, _)| *known == word)?;
        let about = match kind {
            AboutKind::Speed => About::Speed(of.parse().ok().filter(|speed: &f64| speed.abs() <= MOST)?),
            AboutKind::MoverId => About::MoverId(self.mover(of)?),
            AboutKind::Support => About::Support(self.thrown_by(of)?),
            AboutKind::ZoneId => About::ZoneId(self.zone(of)?),
            AboutKind::Side => About::Side(Side::ALL.into_iter().find(|known| known.to_string() == of)?),
            AboutKind::JumpedFrom => About::JumpedFrom(JumpedFrom::ALL.into_iter().find(|known| known.name() == of)?),
            _ => return None,
        };
        Event::of_word(word, about)
    }

    /// What happened to a round, if the words are right.
    pub(crate) fn round_event(&mut self, words: &str) -> Option<RoundEvent> {
        let (word, of) = words.split_once(':').unwrap_or((words, ""));
        Some(match word {
            "took" => RoundEvent::Took(self.zone(of)?),
            "opened" => RoundEvent::Opened(self.zone(of)?),
            "reached" => RoundEvent::Reached(self.zone(of)?),
            "goal-closed" => RoundEvent::GoalClosed(lack_of(of)?),
            "hurt" => {
                let (zone, damage) = of.rsplit_once(':')?;
                RoundEvent::Hurt { by: self.zone(zone)?, damage: damage.parse().ok()? }
            }
            "defeated" => RoundEvent::Defeated(self.defeat_cause(of)?),
            "restarted" => {
                let mut places = [RestartAt::Checkpoint, RestartAt::Start].into_iter();
                RoundEvent::Restarted(places.find(|at| at.name() == of)?)
            }
            "finished" if words == word => RoundEvent::Finished,
            "round-lost" if words == word => RoundEvent::RoundLost,
            _ => return None,
        })
    }

    fn defeat_cause(&mut self, words: &str) -> Option<DefeatCause> {
        let edges = Side::ALL.into_iter().map(DefeatCause::Edge);
        let plain = edges.chain(PLAIN_CAUSES).find(|cause| cause.to_string() == words);
        plain.or_else(|| self.zone(words).map(DefeatCause::Zone))
    }

    /// Which zone; a thing that is not known is a drawn zone, a kind that is not known the level's own.
    fn zone(&mut self, words: &str) -> Option<ZoneId> {
        let end = words.find(['@', ':']).unwrap_or(words.len());
        let (kind, rest) = words.split_at(end);
        let of = match rest.split_at_checked(1) {
            None | Some(("", _)) => ZoneOf::Any,
            Some(("@", tile)) => tile_of(tile)?,
            Some((_, thing)) => self.thing(thing)?,
        };
        let kind = ZoneKind::of_word(kind)?;
        if matches!(kind, ZoneKind::Own(_)) && !self.kinds.contains(&kind) {
            self.kinds.push(kind);
        }
        Some(ZoneId { kind, of })
    }

    fn thing(&mut self, name: &str) -> Option<ZoneOf> {
        let known = self.zones.find(name).map(ZoneOf::Drawn);
        let known = known.or_else(|| self.blocks.find(name).map(ZoneOf::Block));
        let known = known.or_else(|| self.platforms.find(name).map(ZoneOf::Platform));
        let known = known.or_else(|| self.props.find(name).map(ZoneOf::Prop)).or_else(|| thing_of(name));
        known.or_else(|| self.zones.place_of(name).map(ZoneOf::Drawn))
    }

    fn mover(&mut self, name: &str) -> Option<MoverId> {
        if let Some(character) = character_of(name) {
            return Some(character);
        }
        if let Some(platform) = self.platforms.find(name) {
            return Some(MoverId::Platform(platform));
        }
        let prop = self.props.find(name).map(MoverId::Prop);
        prop.or_else(|| self.platforms.place_of(name).map(MoverId::Platform))
    }

    /// What threw a body up: a tile by the word of its surface, or a thing by its name alone.
    fn thrown_by(&mut self, name: &str) -> Option<Support> {
        if let Some(block) = self.blocks.find(name) {
            return Some(Support::Block(block));
        }
        let plain = PLAIN_SUPPORTS.into_iter().find(|support| support.to_string() == name);
        let is_thing = self.platforms.find(name).is_some() || self.props.find(name).is_some();
        let known = is_thing || character_of(name).is_some();
        if known { self.mover(name).map(Into::into) } else { plain.or_else(|| self.mover(name).map(Into::into)) }
    }
}

/// What a closed goal lacks: `5/8`, or the word of an item.
fn lack_of(words: &str) -> Option<Lack> {
    match words.split_once('/') {
        Some((picked, needed)) => Some(Lack::Pickups { picked: picked.parse().ok()?, needed: needed.parse().ok()? }),
        None => Item::new(words).map(Lack::Item),
    }
}

/// Names, and which place each has.
#[derive(Debug, Default)]
struct Indexed {
    names: Vec<String>,
    places: HashMap<String, usize>,
}

impl Indexed {
    fn new(names: &[String]) -> Indexed {
        let mut places = HashMap::with_capacity(names.len());
        // Of two with the same name the first.
        names.iter().enumerate().for_each(|(place, name)| {
            places.entry(name.clone()).or_insert(place);
        });
        Indexed { names: names.to_vec(), places }
    }

    fn find(&self, name: &str) -> Option<usize> {
        self.places.get(name).copied()
    }

    /// The place of a name, where it is put if it is not there; none if it can be no name.
    fn place_of(&mut self, name: &str) -> Option<usize> {
        if let Some(place) = self.find(name) {
            return Some(place);
        }
        is_id(name).then(|| {
            self.names.push(name.to_owned());
            self.places.insert(name.to_owned(), self.names.len() - 1);
            self.names.len() - 1
        })
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn every_event_and_support_reads_back() {
        let names = Names {
            blocks: vec!["bench".into(), "2".into()],
            platforms: vec!["hoist".into(), "cart".into()],
            props: vec!["crate".into()],
            zones: vec!["kiln-door".into(), "2".into()],
            kinds: vec![ZoneKind::of_word("kiln").unwrap()],
        };
        let zones = [
            ZoneOf::Any,
            ZoneOf::Tile { column: 12, row: -8 },
            ZoneOf::Block(0),
            ZoneOf::Block(1),
            ZoneOf::Drawn(0),
            ZoneOf::Drawn(1),
            ZoneOf::Platform(1),
            ZoneOf::Prop(0),
        ];
        let mut reader = NameReader::new(&names);
        let supports = [
            Support::None,
            Support::Solid,
            Support::OneWay,
            Support::Ramp,
            Support::Ladder,
            Support::Block(1),
            Support::Platform(1),
            Support::Prop(0),
            Support::Character(1),
        ];
        for support in supports {
            let words = names.support(support);
            assert_eq!(reader.support(&words), Some(support), "{words}");
        }
        let movers = [MoverId::Platform(0), MoverId::Prop(0), MoverId::Character(1)];
        let of_kind = |kind: AboutKind| -> Vec<About> {
            match kind {
                AboutKind::Nothing => vec![About::Nothing],
                AboutKind::Speed => vec![About::Speed(312.5), About::Speed(0.0)],
                AboutKind::JumpedFrom => JumpedFrom::ALL.into_iter().map(About::JumpedFrom).collect(),
                AboutKind::Support => supports.into_iter().skip(1).map(About::Support).collect(),
                AboutKind::MoverId => movers.into_iter().map(About::MoverId).collect(),
                AboutKind::ZoneId => {
                    let of_all = |kind| zones.into_iter().map(move |of| About::ZoneId(ZoneId { kind, of }));
                    names.kinds().flat_map(of_all).collect()
                }
                AboutKind::Side => Side::ALL.into_iter().map(About::Side).collect(),
                other => panic!("nothing is known of {other:?}"),
            }
        };
        for (word, kind) in Event::WORDS {
            for about in of_kind(*kind) {
                let event = Event::of_word(word, about).unwrap();
                let words = names.event(&event);
                assert_eq!(reader.event(&words), Some(event), "{words}");
            }
        }
    }

    #[test]
    fn every_event_of_a_round_reads_back_and_may_be_asked_for() {
        let names = Names {
            blocks: vec!["bars".into()],
            zones: vec!["kiln-door".into()],
            kinds: vec![ZoneKind::of_word("gate").unwrap()],
            ..Names::default()
        };
        let zone = |kind: &str, of| ZoneId { kind: ZoneKind::of_word(kind).unwrap(), of };
        let hazard = zone("hazard", ZoneOf::Tile { column: 8, row: 2 });
        let table = [
            (RoundEvent::Took(zone("pickup", ZoneOf::Tile { column: 12, row: 8 })), "took:pickup@12,8"),
            (RoundEvent::Opened(zone("gate", ZoneOf::Block(0))), "opened:gate:bars"),
            (RoundEvent::Reached(zone("checkpoint", ZoneOf::Prop(1))), "reached:checkpoint:prop-2"),
            (RoundEvent::GoalClosed(Lack::Pickups { picked: 5, needed: 8 }), "goal-closed:5/8"),
            (RoundEvent::GoalClosed(Lack::Item(Item::new("key").unwrap())), "goal-closed:key"),
            (RoundEvent::Hurt { by: hazard, damage: 2 }, "hurt:hazard@8,2:2"),
            (RoundEvent::Defeated(DefeatCause::Zone(hazard)), "defeated:hazard@8,2"),
            (RoundEvent::Defeated(DefeatCause::Edge(Side::Bottom)), "defeated:edge-bottom"),
            (RoundEvent::Defeated(DefeatCause::Crush), "defeated:crush"),
            (RoundEvent::Defeated(DefeatCause::Lost), "defeated:lost"),
            (RoundEvent::Defeated(DefeatCause::View), "defeated:view"),
            (RoundEvent::Restarted(RestartAt::Checkpoint), "restarted:checkpoint"),
            (RoundEvent::Restarted(RestartAt::Start), "restarted:start"),
            (RoundEvent::Finished, "finished"),
            (RoundEvent::RoundLost, "round-lost"),
        ];
        let (mut reader, words) = (NameReader::new(&names), names.words());
        for (event, expected) in table {
            assert_eq!(names.round_event(&event), expected);
            assert_eq!(reader.round_event(expected), Some(event), "{expected}");
            assert_eq!(reader.event(expected), None, "{expected} is no event of the motion");
            assert!(words.is_event(expected) && words.is_event(event.word()), "{expected}");
        }
        for wrong in ["took", "hurt:hazard", "goal-closed:", "goal-closed:5/", "finished:x", "won"] {
            assert_eq!(reader.round_event(wrong), None, "{wrong}");
        }
    }

    #[test]
    fn a_trial_may_ask_for_other_characters() {
        let words = Names::default().words();
        assert!(
            ["crushed:character-2", "pushed:character-1", "caught:character-3"].iter().all(|word| words.is_event(word))
        );
        assert!(
            ["crushed:character-0", "landed:character-2", "crushed:character-x"]
                .iter()
                .all(|word| !words.is_event(word))
        );
        assert_eq!(words.support("character:2"), Some(Support::Character(1)));
        assert_eq!((words.support("character:0"), words.support("character:")), (None, None));
    }

    #[test]
    fn unknown_words_are_refused_and_unknown_things_are_added() {
        let mut reader = NameReader::default();
        for words in [
            "",
            "flew",
            "landed",
            "landed:fast",
            "landed:-1e308",
            "pushed",
            "jumped:moon",
            "died:",
            "entered:The Attic",
            "entered:goal@12",
            "entered:goal@1,2,3",
            "entered:goal:a b",
            "bounced:",
            "pushed:a b",
            "caught:\u{1b}",
        ] {
            assert_eq!(reader.event(words), None, "{words}");
        }
        assert_eq!((reader.support("cloud"), reader.support("cloud:9")), (None, None));
        assert_eq!(reader.support("block:=1+1"), None);
        assert_eq!(reader.support("platform:swing"), Some(Support::Platform(0)));
        assert_eq!(reader.event("pushed:swing"), Some(Event::Pushed(MoverId::Platform(0))));
        assert_eq!(reader.into_names().platforms, ["swing"]);
    }
}
