//! What follows from what is met in a level: `[round]`, what its zones say for it, and `next`.

use std::collections::HashMap;
use std::ops::Range;
use std::path::{Path, PathBuf};

use wumple_core::rounds::{AfterDefeat, DefeatMotion, Item, Need, ZoneRule};
use wumple_core::{Grid, RoundNumbers, RoundRules, Terrain, Zone, ZoneId, ZoneKind, ZoneOf};

use super::LetterKind;
use super::beneath::Grounds;
use super::map::Map;
use super::objects::Objects;
use super::rules::{NEED, SaidRule, read_count, read_need};
use crate::files::diagnostic::{Diagnostic, Notes};
use crate::files::fields::{Field, Value, words_of};
use crate::files::reader::Section;
use crate::units::Kind;

/// The rules of a level's round.
#[derive(Clone, Debug, PartialEq)]
#[non_exhaustive]
pub struct LevelRound {
    /// What follows from what.
    pub rules: RoundRules,
    /// What all pickups of the level are worth together.
    pub pickups: u32,
}

/// What comes after a level.
#[derive(Clone, Debug, PartialEq, Eq)]
#[non_exhaustive]
pub enum NextLevel {
    /// The level of this file.
    File(PathBuf),
    /// None: it is the last.
    None,
}

/// `next`, found from the level's folder, and where it stands.
pub(super) fn read_next(notes: &mut Notes, top: &Section<'_>) -> (Option<NextLevel>, Diagnostic) {
    let place = notes.at(top.place_of("next"), String::new());
    let Some(file) = top.text(notes, "next", "drying-loft.level.toml") else { return (None, place) };
    if file == "none" {
        return (Some(NextLevel::None), place);
    }
    if !file.ends_with(".toml") {
        let message = format!("next is \"{file}\"; it is a level, whose name ends in .toml, or \"none\" for the last");
        notes.error(top.place_of("next"), message);
        return (None, place);
    }
    let folder = Path::new(&notes.source().name).parent().unwrap_or(Path::new(""));
    (Some(NextLevel::File(folder.join(file))), place)
}

/// The numbers of `[round]`, without its zones, and where the section stands.
pub(super) struct SaidRound {
    numbers: RoundNumbers,
    goal_needs_place: Range<usize>,
    span: Range<usize>,
}

/// The keys of `[round]`.
pub(super) const ROUND: [Field; 7] = [
    Field::new("health", COUNT, "how much damage is borne; none: every hazard defeats at once"),
    Field::new("lives", COUNT, "so many defeats and the round is lost; none: there is no end to them"),
    Field::new("spared_for", Value::TIME, "after damage nothing hurts for so long"),
    Field::new("defeat", Value::Section(&[&DEFEAT]), "how a defeat is shown"),
    Field::new("after_defeat", Value::Words(|| words_of(&AfterDefeat::NAMES)), "where it starts again"),
    Field::new("keeps_pickups", Value::Switch, "whether what was taken stays so when it starts again"),
    Field::new("goal_needs", NEED, "what every goal asks for"),
];
const COUNT: Value = Value::OneOf(&[Value::Whole(1, RoundRules::MOST), Value::Words(|| vec!["none"])]);
const DEFEAT: [Field; 2] = [
    Field::new("motion", Value::Words(|| words_of(&DefeatMotion::NAMES)), "what the character does"),
    Field::new("shows_for", Value::TIME, "for how long"),
];

/// `[round]`, if there is one.
pub(super) fn read_round(notes: &mut Notes, top: &Section<'_>) -> Option<SaidRound> {
    let section = top.section(notes, "round")?;
    section.knows(notes, &[&ROUND]);
    let usual = RoundNumbers::default();
    let count = |notes: &mut Notes, key: &str| {
        (section.has(key) && section.peek_text(key) != Some("none")).then(|| read_count(notes, &section, key, 1))
    };
    let (health, lives) = (count(notes, "health"), count(notes, "lives"));
    let spared_for = read_time(notes, &section, "spared_for").unwrap_or(usual.spared_for);
    let (mut motion, mut shows_for) = (usual.defeat, usual.shows_for);
    if let Some(defeat) = section.section(notes, "defeat") {
        defeat.knows(notes, &[&DEFEAT]);
        motion = defeat.word(notes, "motion", &DefeatMotion::NAMES).unwrap_or(motion);
        shows_for = read_time(notes, &defeat, "shows_for").unwrap_or(shows_for);
    }
    let numbers = RoundNumbers {
        health,
        lives,
        spared_for,
        defeat: motion,
        shows_for,
        after_defeat: section.word(notes, "after_defeat", &AfterDefeat::NAMES).unwrap_or_default(),
        keeps_pickups: !section.has("keeps_pickups") || section.switch(notes, "keeps_pickups"),
        goal_needs: read_need(notes, &section, "goal_needs"),
        zones: Vec::new(),
    };
    let goal_needs_place = section.place_of("goal_needs");
    Some(SaidRound { numbers, goal_needs_place, span: section.span() })
}

fn read_time(notes: &mut Notes, section: &Section<'_>, key: &str) -> Option<f64> {
    let found = section.quantity(notes, key, Kind::Time)?;
    if !(0.0..=RoundRules::LONGEST).contains(&found) {
        let message = format!("{} is {found} s; it must be from 0 to {} s", section.name_of(key), RoundRules::LONGEST);
        notes.error(section.place_of(key), message);
        return None;
    }
    Some(found)
}

/// Everything of a level that has a part in its round.
pub(super) struct Said<'a> {
    pub(super) grid: &'a Grid,
    pub(super) letters: &'a [LetterKind],
    pub(super) map: &'a Map,
    pub(super) objects: &'a Objects,
}

/// The rules of a level's round: of its `[round]` and of all its zones.
pub(super) fn make_round(notes: &mut Notes, round: Option<SaidRound>, said: &Said<'_>) -> Option<LevelRound> {
    let rules = || {
        let of_letters = said.letters.iter().filter_map(|letter| letter.rule.as_ref());
        of_letters.chain(said.objects.rules.iter().map(|(_, rule)| rule))
    };
    let Some(mut round) = round else {
        if let Some(rule) = rules().next() {
            let place = rule.damage_place.clone().unwrap_or(rule.needs_place.clone());
            notes.error(place, "what zones say for a round is of no use without a section [round]; it may be empty");
        }
        return None;
    };
    if round.numbers.health.is_none() {
        for place in rules().filter_map(|rule| rule.damage_place.clone()) {
            notes.error(place, "damage is of no use without round.health: every hazard defeats at once");
        }
    }
    let zones = rules_of_zones(notes, said);
    let all = Counted::of(said, &zones);
    all.check(notes, round.numbers.goal_needs, &round.goal_needs_place);
    rules().for_each(|rule| all.check(notes, rule.rule.needs, &rule.needs_place));
    if round.numbers.after_defeat == AfterDefeat::Checkpoint {
        check_checkpoints(notes, said);
    }
    round.numbers.zones = zones;
    match RoundRules::check(&round.numbers) {
        Ok(rules) => Some(LevelRound { rules, pickups: all.pickups }),
        Err(error) => {
            notes.error(round.span, format!("[round]: {error}"));
            None
        }
    }
}

/// What is said of each zone of a level: of those alone of which something is.
fn rules_of_zones(notes: &mut Notes, said: &Said<'_>) -> Vec<(ZoneId, ZoneRule)> {
    let mut zones: Vec<(ZoneId, ZoneRule)> = said
        .objects
        .rules
        .iter()
        .filter_map(|(of, rule)| Some((ZoneId { kind: said.objects.zone_kind(*of)?, of: *of }, rule.rule)))
        .collect();
    // Of letters only those of kinds of which any letter says something.
    let kind_of = |letter: &LetterKind| letter.properties.zone.map(|zone| zone.kind);
    let told: Vec<ZoneKind> = said.letters.iter().filter(|letter| letter.rule.is_some()).filter_map(kind_of).collect();
    if told.is_empty() {
        return zones;
    }
    let mut known: HashMap<ZoneId, (ZoneRule, char)> = HashMap::new();
    let mut first_conflict = None;
    for (column, row, letter) in tiles(said) {
        let Some(zone) = letter.properties.zone.filter(|zone| told.contains(&zone.kind)) else { continue };
        let rule = letter.rule.as_ref().map_or_else(ZoneRule::default, |rule| rule.rule);
        let of = said.grid.zone_of_tile(column, row, &zone);
        let (before, other) = *known.entry(ZoneId { kind: zone.kind, of }).or_insert((rule, letter.letter));
        if before != rule {
            first_conflict = first_conflict.or(Some((column, row, letter.letter, other)));
        }
    }
    if let Some((column, row, letter, other)) = first_conflict {
        let message = format!(
            "\"{letter}\" is one zone here with the \"{other}\" that it touches, and says something else; leave a tile between \
             them, or give one of them another kind of its own"
        );
        said.map.error(notes, (column as usize, row as usize), message);
    }
    let of_tiles = known.into_iter().map(|(zone, (rule, _))| (zone, rule));
    zones.extend(of_tiles.filter(|(_, rule)| *rule != ZoneRule::default()));
    zones
}

/// The tiles of a map that are more than empty or plain.
fn tiles<'a>(said: &Said<'a>) -> impl Iterator<Item = (i32, i32, &'a LetterKind)> {
    let (grid, letters) = (said.grid, said.letters);
    (0..grid.rows())
        .flat_map(move |row| (0..grid.columns()).map(move |column| (column, row, &letters[grid.kind(column, row)])))
}

/// What there is in a level to be had.
struct Counted {
    pickups: u32,
    items: Vec<Item>,
}

impl Counted {
    fn of(said: &Said<'_>, zones: &[(ZoneId, ZoneRule)]) -> Counted {
        let is_pickup = |zone: &Zone| zone.kind == ZoneKind::Pickup;
        let worth = |rule: Option<&SaidRule>| rule.map_or(ZoneRule::default().worth, |rule| rule.rule.worth);
        let of_tiles = tiles(said).filter(|(.., letter)| letter.properties.zone.as_ref().is_some_and(is_pickup));
        let tiles = of_tiles.map(|(.., letter)| worth(letter.rule.as_ref()));
        let things = said.objects.zoned_things().filter(|(_, zone)| is_pickup(zone));
        let things = things
            .map(|(of, _)| worth(said.objects.rules.iter().find(|(other, _)| *other == of).map(|(_, rule)| rule)));
        let pickups = tiles.chain(things).fold(0, u32::saturating_add);
        Counted { pickups, items: zones.iter().filter_map(|(_, rule)| rule.gives).collect() }
    }

    /// Whether what is needed is there at all.
    fn check(&self, notes: &mut Notes, need: Option<Need>, place: &Range<usize>) {
        match need {
            Some(Need::Pickups(needed)) if needed > self.pickups => {
                let message =
                    format!("{needed} pickups are asked for, and the level has {}: this can never be", self.pickups);
                notes.error(place.clone(), message);
            }
            Some(Need::Has(item)) if !self.items.contains(&item) => {
                let words: Vec<&str> = self.items.iter().map(Item::word).collect();
                let remedy = match crate::files::reader::nearest(item.word(), words.iter().copied()) {
                    Some(near) => format!("did you mean \"{near}\"?"),
                    None => format!("some pickup needs gives = \"{item}\""),
                };
                notes.error(place.clone(), format!("nothing in the level gives \"{item}\"; {remedy}"));
            }
            _ => {}
        }
    }
}

/// A checkpoint with nothing beneath is no place to start again from.
fn check_checkpoints(notes: &mut Notes, said: &Said<'_>) {
    let lines = said.grid.grid_lines();
    let grounds = Grounds { grid: said.grid, platforms: &said.objects.platforms, props: &said.objects.props };
    let is_checkpoint = |zone: &Zone| zone.kind == ZoneKind::Checkpoint;
    const REMEDY: &str = "there is nothing beneath this checkpoint to stand on: whoever starts again here falls";
    for (column, row, letter) in tiles(said) {
        if letter.properties.zone.as_ref().is_some_and(is_checkpoint) && !grounds.are_beneath(&lines.cell(column, row))
        {
            said.map.error(notes, (column as usize, row as usize), REMEDY.into());
        }
    }
    for (drawn, span) in said.objects.zones.iter().zip(&said.objects.zone_spans) {
        if is_checkpoint(&drawn.zone) && !grounds.are_beneath(&drawn.place) {
            notes.error(span.clone(), REMEDY);
        }
    }
}

impl Objects {
    /// The things off the grid that are zones.
    fn zoned_things(&self) -> impl Iterator<Item = (ZoneOf, Zone)> {
        let blocks = self.blocks.iter().enumerate().filter_map(|(at, of)| Some((ZoneOf::Block(at), of.zone?)));
        let platforms = self.platforms.iter().enumerate().filter_map(|(at, of)| Some((ZoneOf::Platform(at), of.zone?)));
        let props = self.props.iter().enumerate().filter_map(|(at, of)| Some((ZoneOf::Prop(at), of.zone?)));
        let drawn = self.zones.iter().enumerate().map(|(at, of)| (ZoneOf::Drawn(at), of.zone));
        let ramps = self.ramp_zones.iter().filter_map(|of| Some((ZoneOf::Ramp(of.ramp?), of.zone)));
        blocks.chain(platforms).chain(props).chain(drawn).chain(ramps)
    }

    fn zone_kind(&self, of: ZoneOf) -> Option<ZoneKind> {
        self.zoned_things().find(|(other, _)| *other == of).map(|(_, zone)| zone.kind)
    }
}
