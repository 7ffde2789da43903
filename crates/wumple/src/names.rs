//! What the things of a level are called in traces, tables and figures.

use std::collections::{HashMap, HashSet};

use wumple_core::advanced::{About, AboutKind};
use wumple_core::{Event, JumpedFrom, MoverId, Side, Support, Zone};

/// The names of the blocks, platforms and props of a level: their ids, or their numbers in the file, from 1.
#[derive(Clone, Debug, Default, PartialEq, Eq)]
pub struct Names {
    /// Of the blocks, in the order of the file.
    pub blocks: Vec<String>,
    /// Of the platforms.
    pub platforms: Vec<String>,
    /// Of the props.
    pub props: Vec<String>,
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

    /// A platform or a prop, by its name alone.
    #[must_use]
    pub fn mover(&self, mover: MoverId) -> String {
        self.of(mover.into()).map_or_else(|| mover.to_string(), |(_, name)| name.to_owned())
    }

    /// The names of the platforms and props.
    pub fn movers(&self) -> Vec<&str> {
        self.platforms.iter().chain(&self.props).map(String::as_str).collect()
    }

    /// The platform or prop of this name; of two with the same number the platform.
    pub fn find_mover(&self, name: &str) -> Option<MoverId> {
        let at = |names: &[String]| names.iter().position(|known| known == name);
        at(&self.platforms).map(MoverId::Platform).or_else(|| at(&self.props).map(MoverId::Prop))
    }

    /// All words that a trace of this level may have.
    pub(crate) fn words(&self) -> Words {
        let (events, supports) = (self.event_words(), self.support_words());
        let known = events.iter().cloned().collect();
        let meanings = supports.iter().cloned().collect();
        let supports = supports.into_iter().map(|(word, _)| word).collect();
        Words { events, supports, known, meanings }
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
        words
    }

    /// What an event of a kind can be about, in words.
    fn about_words(&self, about: AboutKind) -> Vec<String> {
        let movers = || self.movers().into_iter().map(String::from);
        match about {
            AboutKind::JumpedFrom => JumpedFrom::ALL.into_iter().map(|from| from.name().into()).collect(),
            AboutKind::Zone => Zone::ALL.into_iter().map(|zone| zone.name().into()).collect(),
            AboutKind::Side => Side::ALL.into_iter().map(|side| side.to_string()).collect(),
            AboutKind::MoverId => movers().collect(),
            AboutKind::Support => {
                let tops = PLAIN_SUPPORTS.into_iter().skip(1).map(|support| support.to_string());
                tops.chain(self.blocks.iter().cloned()).chain(movers()).collect()
            }
            _ => Vec::new(),
        }
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
    known: HashSet<String>,
    meanings: HashMap<String, Support>,
}

impl Words {
    pub(crate) fn is_event(&self, word: &str) -> bool {
        self.known.contains(word)
    }

    pub(crate) fn support(&self, word: &str) -> Option<Support> {
        self.meanings.get(word).copied()
    }
}

/// What can hold a body up and has no name of its own.
const PLAIN_SUPPORTS: [Support; 5] = [Support::None, Support::Solid, Support::OneWay, Support::Ramp, Support::Ladder];

fn zone_named(word: &str) -> Option<Zone> {
    Zone::ALL.into_iter().find(|zone| zone.name() == word)
}

/// What the words of a trace mean, the other way round; things that are not known yet are added.
#[derive(Debug, Default)]
pub(crate) struct NameReader {
    blocks: Indexed,
    platforms: Indexed,
    props: Indexed,
}

impl NameReader {
    pub(crate) fn new(names: &Names) -> NameReader {
        let [blocks, platforms, props] =
            [&names.blocks, &names.platforms, &names.props].map(|names| Indexed::new(names));
        NameReader { blocks, platforms, props }
    }

    pub(crate) fn into_names(self) -> Names {
        Names { blocks: self.blocks.names, platforms: self.platforms.names, props: self.props.names }
    }

    /// What holds up, if the words are right.
    pub(crate) fn support(&mut self, words: &str) -> Option<Support> {
        if let Some((kind, name)) = words.split_once(':') {
            return Some(match kind {
                "block" => Support::Block(self.blocks.place_of(name)?),
                "platform" => Support::Platform(self.platforms.place_of(name)?),
                "prop" => Support::Prop(self.props.place_of(name)?),
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
            AboutKind::Zone => About::Zone(zone_named(of)?),
            AboutKind::Side => About::Side(Side::ALL.into_iter().find(|known| known.to_string() == of)?),
            AboutKind::JumpedFrom => About::JumpedFrom(JumpedFrom::ALL.into_iter().find(|known| known.name() == of)?),
            _ => return None,
        };
        Event::of_word(word, about)
    }

    fn mover(&mut self, name: &str) -> Option<MoverId> {
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
        let known = self.platforms.find(name).is_some() || self.props.find(name).is_some();
        if known { self.mover(name).map(Into::into) } else { plain.or_else(|| self.mover(name).map(Into::into)) }
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
        };
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
        ];
        for support in supports {
            let words = names.support(support);
            assert_eq!(reader.support(&words), Some(support), "{words}");
        }
        let movers = [MoverId::Platform(0), MoverId::Prop(0)];
        let of_kind = |kind: AboutKind| -> Vec<About> {
            match kind {
                AboutKind::Nothing => vec![About::Nothing],
                AboutKind::Speed => vec![About::Speed(312.5), About::Speed(0.0)],
                AboutKind::JumpedFrom => JumpedFrom::ALL.into_iter().map(About::JumpedFrom).collect(),
                AboutKind::Support => supports.into_iter().skip(1).map(About::Support).collect(),
                AboutKind::MoverId => movers.into_iter().map(About::MoverId).collect(),
                AboutKind::Zone => Zone::ALL.into_iter().map(About::Zone).collect(),
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
            "entered:attic",
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
