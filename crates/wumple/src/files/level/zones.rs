//! What the things of a level are besides stopping bodies: `zone`, `margin`, `felt`; and zones drawn over it.

use wumple_core::numbers::LIMIT_MARGIN;
use wumple_core::{DVec2, DrawnZone, Felt, Hitbox, Zone, ZoneKind};

use super::body::{Body, read_corner, read_size};
use super::notes::OF_NOTES;
use super::rules::{RULE, SaidRule, read_rule};
use crate::files::diagnostic::Notes;
use crate::files::fields::{Field, Fields, Value, words_of};
use crate::files::group::{OF_GROUP, read_group};
use crate::files::reader::{Section, nearest};
use crate::files::tuning::read_margin;
use crate::units::Kind;

/// The keys of what something is, and of what it says for the round.
pub(super) const ZONE: [Field; 3] = [
    Field::new("zone", KIND, "what it is besides: hazard, pickup, goal, checkpoint, or a word of your own"),
    MARGIN,
    FELT,
];

/// The keys of a `[[zone]]`.
pub(super) const DRAWN: Fields = &[
    &[
        Field::new("id", Value::ID, "what it is called in traces; its number unless given"),
        Field::new("kind", KIND, "hazard, pickup, goal, checkpoint, or a word of your own").needed(),
        Field::new("at", Value::Pair(Kind::Length), "its top-left corner").needed(),
        Field::new("size", Value::Pair(Kind::Length), "its width and height").needed(),
        MARGIN,
        FELT,
    ],
    &RULE,
    &OF_NOTES,
    &OF_GROUP,
];

const KIND: Value = Value::WORD;
const MARGIN: Field = Field::new("margin", Value::MARGIN, "how much further than itself it is felt; less if negative");
const FELT: Field =
    Field::new("felt", Value::Words(|| words_of(&FELT_WORDS)), "while it is overlapped, or touched too");
const FELT_WORDS: [(&str, Felt); 2] = [("inside", Felt::Inside), ("touch", Felt::Touch)];

/// The zone that a section says, if it says one, and what that says for the round. `size` is that of the thing, px.
pub(super) fn read_zone(
    notes: &mut Notes,
    section: &Section<'_>,
    body: Body,
    size: DVec2,
) -> (Option<Zone>, Option<SaidRule>) {
    let mut zone = read_zone_alone(notes, section, body, size);
    let rule = read_rule(notes, section, &mut zone, body);
    (zone, rule)
}

fn read_zone_alone(notes: &mut Notes, section: &Section<'_>, body: Body, size: DVec2) -> Option<Zone> {
    if !section.has("zone") {
        for key in ["margin", "felt"].into_iter().filter(|key| section.has(key)) {
            let message = format!("{} is of no use without \"zone\"", section.name_of(key));
            notes.error(section.place_of(key), message);
        }
        return None;
    }
    let kind = read_kind(notes, section, "zone")?;
    read_zone_of(notes, section, kind, body, size)
}

/// The same of a kind that is read already.
fn read_zone_of(notes: &mut Notes, section: &Section<'_>, kind: ZoneKind, body: Body, size: DVec2) -> Option<Zone> {
    let margin = read_margin(notes, section, "margin").unwrap_or_default();
    let felt = section.word(notes, "felt", &FELT_WORDS);
    let usual = if body == Body::None { Felt::Inside } else { Felt::Touch };
    let zone = Zone { margin, felt: felt.unwrap_or(usual), ..Zone::of(kind) };
    if body == Body::Solid && zone.felt == Felt::Inside && margin.most() == 0.0 {
        let message = format!(
            "{}: nothing can be inside of what is solid; leave it out, so that touching it counts, or give a \"margin\"",
            section.name_of("felt")
        );
        notes.error(section.place_of("felt"), message);
    }
    if size.x > 0.0 && size.y > 0.0 && !zone.is_left_of(size.x, size.y) {
        let message = format!(
            "{} leaves nothing of a zone of {} x {} px; it must be less",
            section.name_of("margin"),
            size.x,
            size.y
        );
        notes.error(section.place_of("margin"), message);
    }
    Some(zone)
}

/// A kind of zone: one that every level knows, or a word of the game's own.
fn read_kind(notes: &mut Notes, section: &Section<'_>, key: &str) -> Option<ZoneKind> {
    let word = section.text(notes, key, "hazard")?;
    let common = ZoneKind::COMMON;
    let words = || common.iter().map(ZoneKind::word);
    let mut wrong = |remedy: String| {
        notes.error(section.place_of(key), format!("{} is \"{word}\"; {remedy}", section.name_of(key)));
        None
    };
    match ZoneKind::of_word(word) {
        Some(own @ ZoneKind::Own(_)) => match nearest(word, words()) {
            // A word of one's own that is nearly another is more likely a slip.
            Some(near) => wrong(format!("did you mean \"{near}\"?")),
            None => Some(own),
        },
        Some(kind) => Some(kind),
        None => wrong(format!(
            "it must be one of {}, or a word of your own of up to 16 letters a to z, digits, \"-\" and \"_\"",
            crate::files::reader::listed(words())
        )),
    }
}

/// A `[[zone]]`, and where it stands in the file.
pub(super) fn read_drawn(notes: &mut Notes, section: &Section<'_>) -> Option<(DrawnZone, Option<SaidRule>)> {
    section.knows(notes, DRAWN);
    let size = read_size(notes, section);
    let corner = read_corner(notes, section, size);
    if !section.has("kind") {
        let message = format!("{} needs a \"kind\", such as \"goal\"", section.name());
        notes.error(section.span(), message);
        return None;
    }
    let kind = read_kind(notes, section, "kind")?;
    let zone = read_zone_of(notes, section, kind, Body::None, size)?;
    let rule = read_rule(notes, section, &mut Some(zone), Body::None);
    let place = Hitbox { left: corner.x, right: corner.x + size.x, top: corner.y, bottom: corner.y + size.y };
    Some((DrawnZone::new(place, zone).in_group(read_group(notes, section)), rule))
}

const _: () = assert!(LIMIT_MARGIN == 256.0, "docs/level-file.md says so");
