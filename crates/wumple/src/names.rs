//! What the things of a level are called in traces, tables and figures.

use wumple_core::{Carrier, Event, Support};

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
    pub fn support(&self, support: Support) -> String {
        match self.of(support) {
            Some((kind, name)) => format!("{kind}:{name}"),
            None => support.to_string(),
        }
    }

    /// An event in the words of a trace: `pushed:hoist`.
    pub fn event(&self, event: &Event) -> String {
        let (word, support) = match event {
            Event::Bounced(support) => ("bounced", *support),
            Event::Pushed(carrier) => ("pushed", (*carrier).into()),
            Event::Crushed(carrier) => ("crushed", (*carrier).into()),
            Event::Caught(carrier) => ("caught", (*carrier).into()),
            other => return other.to_string(),
        };
        match self.of(support) {
            Some((_, name)) => format!("{word}:{name}"),
            None => event.to_string(),
        }
    }

    /// A platform or a prop, by its name alone.
    pub fn carrier(&self, carrier: Carrier) -> String {
        self.of(carrier.into()).map_or_else(|| carrier.to_string(), |(_, name)| name.to_owned())
    }

    /// The names of the platforms and props.
    pub fn carriers(&self) -> Vec<&str> {
        self.platforms.iter().chain(&self.props).map(String::as_str).collect()
    }

    /// The platform or prop of this name; of two with the same number the platform.
    pub fn find_carrier(&self, name: &str) -> Option<Carrier> {
        let at = |names: &[String]| names.iter().position(|known| known == name);
        at(&self.platforms).map(Carrier::Platform).or_else(|| at(&self.props).map(Carrier::Prop))
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
