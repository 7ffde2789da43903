//! What a zone, or a gate, says for the round of its level.

use std::ops::Range;

use wumple_core::numbers::OwnKind;
use wumple_core::rounds::{Item, Need, ZoneRule};
use wumple_core::{RoundRules, Zone, ZoneKind};

use super::body::Body;
use crate::files::diagnostic::Notes;
use crate::files::fields::{Field, Value};
use crate::files::reader::Section;

/// The keys of what a zone, or a gate, says for the round.
pub(super) const RULE: [Field; 5] = [
    Field::new("damage", Value::Whole(1, RoundRules::MOST), "of a hazard: how much it hurts; 1 unless given"),
    Field::new("worth", Value::Whole(0, RoundRules::MOST), "of a pickup: for how many it counts; 1 unless given"),
    Field::new("gives", Value::WORD, "of a pickup, or a zone of your own: the item that is had from then on"),
    Field::new("needs", NEED, "of a pickup or a goal: what it asks for; something solid with a need is a gate"),
    Field::new("takes", Value::Switch, "of a gate or a pickup: the item that is needed is used up"),
];

/// An item, or so many pickups.
pub(super) const NEED: Value = Value::OneOf(&[Value::WORD, Value::Section(&[&NEEDED])]);
const NEEDED: [Field; 2] = [
    Field::new("pickups", Value::Whole(1, RoundRules::MOST), "so many pickups"),
    Field::new("has", Value::WORD, "an item"),
];

/// The kind of a gate that has no other.
const GATE: &str = "gate";

/// What is said of a zone for the round, and where.
#[derive(Clone, Debug, PartialEq)]
pub(super) struct SaidRule {
    pub(super) rule: ZoneRule,
    pub(super) needs_place: Range<usize>,
    pub(super) damage_place: Option<Range<usize>>,
}

impl SaidRule {
    pub(super) fn is_gate(&self) -> bool {
        self.rule.is_gate
    }
}

/// What a section says of its zone for the round. Something solid that needs something is a gate, and a zone as such.
pub(super) fn read_rule(
    notes: &mut Notes,
    section: &Section<'_>,
    zone: &mut Option<Zone>,
    body: Body,
) -> Option<SaidRule> {
    if !RULE.iter().any(|field| section.has(field.key)) {
        return None;
    }
    let is_own = |zone: &Option<Zone>| zone.is_none_or(|zone| matches!(zone.kind, ZoneKind::Own(_)));
    let is_gate = body == Body::Solid && section.has("needs") && is_own(zone) && !section.name().starts_with("prop");
    if is_gate && zone.is_none() {
        *zone = OwnKind::new(GATE).map(|kind| Zone::of(ZoneKind::Own(kind)).by_touch());
    }
    note_useless(notes, section, zone.map(|zone| zone.kind), is_gate);
    let whole =
        |notes: &mut Notes, key: &str, least: u32| section.has(key).then(|| read_count(notes, section, key, least));
    let usual = ZoneRule::default();
    let needs = read_need(notes, section, "needs");
    let takes = section.switch(notes, "takes");
    if takes && !matches!(needs, Some(Need::Has(_))) {
        let message = format!(
            "{} uses up what is needed, which must be an item, such as needs = \"key\"; pickups are counted, not used up",
            section.name_of("takes")
        );
        notes.error(section.place_of("takes"), message);
    }
    let rule = ZoneRule {
        damage: whole(notes, "damage", 1).unwrap_or(usual.damage),
        worth: whole(notes, "worth", 0).unwrap_or(usual.worth),
        gives: read_item(notes, section, "gives"),
        needs,
        takes,
        is_gate,
    };
    let damage_place = section.has("damage").then(|| section.place_of("damage"));
    Some(SaidRule { rule, needs_place: section.place_of("needs"), damage_place })
}

/// Says which keys mean nothing to a zone of this kind.
fn note_useless(notes: &mut Notes, section: &Section<'_>, kind: Option<ZoneKind>, is_gate: bool) {
    let (pickup, goal) = (kind == Some(ZoneKind::Pickup), kind == Some(ZoneKind::Goal));
    let gives = pickup || (matches!(kind, Some(ZoneKind::Own(_))) && !is_gate);
    for (key, is_of_use, whose) in [
        ("damage", kind == Some(ZoneKind::Hazard), "of hazards, zone = \"hazard\""),
        ("worth", pickup, "of pickups, zone = \"pickup\""),
        ("gives", gives, "of pickups and of zones of your own, such as zone = \"lever\""),
        (
            "needs",
            pickup || goal || is_gate,
            "of pickups, goals, and solid letters, blocks and platforms, which are gates then",
        ),
        ("takes", pickup || is_gate, "of pickups and gates that need something"),
    ] {
        if section.has(key) && !is_of_use {
            notes.error(section.place_of(key), format!("{} is of no use here; it is {whose}", section.name_of(key)));
        }
    }
}

/// A whole number of at least so much.
pub(super) fn read_count(notes: &mut Notes, section: &Section<'_>, key: &str, least: u32) -> u32 {
    let found = section.value(notes, key).and_then(|value| value.as_integer());
    let found = found.and_then(|found| u32::try_from(found).ok());
    found.filter(|found| (least..=RoundRules::MOST).contains(found)).unwrap_or_else(|| {
        let most = RoundRules::MOST;
        let message = format!("{} must be a whole number from {least} to {most}", section.name_of(key));
        notes.error(section.place_of(key), message);
        least.max(1)
    })
}

fn read_item(notes: &mut Notes, section: &Section<'_>, key: &str) -> Option<Item> {
    let word = section.text(notes, key, "key")?;
    let item = Item::new(word);
    if item.is_none() {
        let message = format!(
            "{} is \"{word}\"; an item is a word of up to 16 letters a to z, digits, \"-\" and \"_\"",
            section.name_of(key)
        );
        notes.error(section.place_of(key), message);
    }
    item
}

/// `needs = "key"`, `{ has = "key" }` or `{ pickups = 8 }`.
pub(super) fn read_need(notes: &mut Notes, section: &Section<'_>, key: &str) -> Option<Need> {
    if !section.has(key) {
        return None;
    }
    if !section.is_table(key) {
        if section.peek_text(key).is_none() {
            let message = format!("{} needs an item, such as \"key\", or {{ pickups = 8 }}", section.name_of(key));
            notes.error(section.place_of(key), message);
            return None;
        }
        return read_item(notes, section, key).map(Need::Has);
    }
    let inner = section.section(notes, key)?;
    inner.knows(notes, &[&NEEDED]);
    match (inner.has("pickups"), inner.has("has")) {
        (true, false) => Some(Need::Pickups(read_count(notes, &inner, "pickups", 1))),
        (false, true) => read_item(notes, &inner, "has").map(Need::Has),
        _ => {
            let message = format!("{} is either {{ pickups = 8 }} or {{ has = \"key\" }}", section.name_of(key));
            notes.error(section.place_of(key), message);
            None
        }
    }
}
