//! What a level has off its grid: blocks, ramps, platforms and props.

use std::collections::HashSet;
use std::ops::Range;

use wumple_core::numbers::{
    Bend, Bounce, CrumbleNumbers, Ease, EaseOver, Ends, LIMIT_ACCELERATION, LIMIT_LENGTH, LIMIT_SPEED, Pace,
    PlatformSurface, Starts,
};
use wumple_core::{
    Block, DVec2, DrawnZone, Group, Material, PlatformNumbers, Platforms, Prop, Ramp, Surface, TileProperties, Tuning,
    TuningErrors, TuningNumbers, Zone, ZoneOf,
};

use super::body::{Body, check_place, read_corner, read_size};
use super::notes::{LevelNotes, OF_NOTES, read_notes};
use super::rules::{RULE, SaidRule};
use super::zones::{ZONE, read_drawn, read_zone};
use crate::files::diagnostic::Notes;
use crate::files::fields::{Field, Fields, Value, words_of};
use crate::files::group::{OF_GROUP, read_group, read_groups};
use crate::files::reader::{Places, Section};
use crate::files::tuning::read_release;
use crate::names::{MOST_LETTERS, Names, is_id};
use crate::units::Kind;

/// What lies over the map.
#[derive(Clone, Default)]
pub(super) struct Objects {
    pub(super) blocks: Vec<Block>,
    pub(super) ramps: Vec<Ramp>,
    pub(super) platforms: Vec<PlatformNumbers>,
    pub(super) props: Vec<LevelProp>,
    /// Where each of them stands in the file.
    pub(super) block_spans: Vec<Range<usize>>,
    pub(super) ramp_spans: Vec<Range<usize>>,
    pub(super) platform_spans: Vec<Range<usize>>,
    pub(super) prop_spans: Vec<Range<usize>>,
    pub(super) zones: Vec<DrawnZone>,
    pub(super) zone_spans: Vec<Range<usize>>,
    /// The zones that ramps are.
    pub(super) ramp_zones: Vec<DrawnZone>,
    pub(super) names: Names,
    /// What the game wrote beside them for itself.
    pub(super) notes: LevelNotes,
    /// What those that are zones say for the round.
    pub(super) rules: Vec<(ZoneOf, SaidRule)>,
}

/// A prop of a level: a body without buttons.
#[derive(Clone, Debug, PartialEq)]
#[non_exhaustive]
pub struct LevelProp {
    /// Where its top-left corner is at the start, px, y down.
    pub corner: DVec2,
    /// Width and height, px.
    pub size: DVec2,
    /// What of it stops a character.
    pub surface: PlatformSurface,
    /// The gravity it falls under, px/s^2; `None`: the character's.
    pub gravity: Option<f64>,
    /// The fastest it falls, px/s; `None`: the character's.
    pub top_speed: Option<f64>,
    /// What its top is like to stand on.
    pub material: Material,
    /// What it is besides, if it is a zone.
    pub zone: Option<Zone>,
    /// The group that it is in.
    pub group: Group,
}

impl LevelProp {
    /// The prop in a world of this tuning: it falls as the character does unless it says otherwise.
    pub(super) fn for_tuning(&self, tuning: &Tuning) -> Result<Prop, TuningErrors> {
        let mut numbers = TuningNumbers::new(self.size.x, self.size.y, 0.0);
        let like = tuning.numbers();
        (numbers.rate, numbers.scheme, numbers.pixels) = (like.rate, like.scheme, like.pixels);
        numbers.fall.gravity = Some(self.gravity.unwrap_or(tuning.gravity().fall));
        numbers.fall.top_speed = self.top_speed.unwrap_or(like.fall.top_speed);
        numbers.group = self.group;
        let (surface, material, zone) = (self.surface, self.material, self.zone);
        Ok(Prop { tuning: Tuning::check(&numbers)?, surface, material, zone })
    }
}

impl Objects {
    pub(super) fn read(notes: &mut Notes, top: &Section<'_>) -> Objects {
        let mut objects = Objects::default();
        for section in top.sections(notes, "ramp") {
            if let Some((ramp, zone, rule)) = read_ramp(notes, &section) {
                objects.rules.extend(rule.map(|rule| (ZoneOf::Ramp(objects.ramps.len()), rule)));
                if let Some(zone) = zone {
                    objects.ramp_zones.push(DrawnZone::of_ramp(objects.ramps.len(), &ramp, zone));
                }
                objects.ramps.push(ramp);
                objects.notes.ramps.push(read_notes(notes, &section));
                objects.ramp_spans.push(section.span());
            }
        }
        let mut ids = Ids::default();
        for (index, section) in top.sections(notes, "block").iter().enumerate() {
            let id = ids.read(notes, section, index);
            objects.names.blocks.push(id);
            let (block, rule) = read_block(notes, section);
            objects.rules.extend(rule.map(|rule| (ZoneOf::Block(objects.blocks.len()), rule)));
            objects.blocks.push(block);
            objects.block_spans.push(section.span());
            objects.notes.blocks.push(read_notes(notes, section));
        }
        for (index, section) in top.sections(notes, "platform").iter().enumerate() {
            let id = ids.read(notes, section, index);
            objects.names.platforms.push(id);
            let (platform, rule) = read_platform(notes, section);
            objects.rules.extend(rule.map(|rule| (ZoneOf::Platform(objects.platforms.len()), rule)));
            objects.platforms.push(platform);
            objects.platform_spans.push(section.span());
            objects.notes.platforms.push(read_notes(notes, section));
        }
        for (index, section) in top.sections(notes, "prop").iter().enumerate() {
            let id = ids.read(notes, section, index);
            objects.names.props.push(id);
            let (prop, rule) = read_prop(notes, section);
            objects.rules.extend(rule.map(|rule| (ZoneOf::Prop(objects.props.len()), rule)));
            objects.props.push(prop);
            objects.prop_spans.push(section.span());
            objects.notes.props.push(read_notes(notes, section));
        }
        for (index, section) in top.sections(notes, "zone").iter().enumerate() {
            let id = ids.read(notes, section, index);
            if let Some((zone, rule)) = read_drawn(notes, section) {
                objects.rules.extend(rule.map(|rule| (ZoneOf::Drawn(objects.zones.len()), rule)));
                objects.names.zones.push(id);
                objects.zones.push(zone);
                objects.zone_spans.push(section.span());
                objects.notes.zones.push(read_notes(notes, section));
            }
        }
        objects
    }
}

impl Objects {
    /// The groups in which there is something to stand on, among them those of the letters.
    pub(super) fn grounds(&self, letters: impl Iterator<Item = TileProperties>) -> Vec<Group> {
        let letters = letters.filter(|tile| tile.surface != Surface::Empty).map(|tile| tile.group);
        let lying = self.blocks.iter().map(|of| of.group).chain(self.ramps.iter().map(|of| of.group));
        let moving = self.platforms.iter().map(|of| of.group).chain(self.props.iter().map(|of| of.group));
        let mut all: Vec<Group> = letters.chain(lying).chain(moving).collect();
        all.sort_unstable();
        all.dedup();
        all
    }

    /// Notes what lies wholly outside a map of this size, px: nobody will meet it.
    pub(super) fn note_outside(&self, odd: &mut Notes, map: DVec2) {
        let outside = |low: DVec2, high: DVec2| high.x <= 0.0 || high.y <= 0.0 || low.x >= map.x || low.y >= map.y;
        let mut note = |what: &str, index: usize, span: &Range<usize>, low: DVec2, high: DVec2| {
            if outside(low, high) {
                let (width, height) = (map.x, map.y);
                let number = index + 1;
                odd.error(span.clone(), format!("{what} {number} is wholly outside the map of {width} x {height} px"));
            }
        };
        for (index, (block, span)) in self.blocks.iter().zip(&self.block_spans).enumerate() {
            note("block", index, span, DVec2::new(block.left, block.top), DVec2::new(block.right, block.bottom));
        }
        for (index, (ramp, span)) in self.ramps.iter().zip(&self.ramp_spans).enumerate() {
            let (left, right) = (ramp.left_end(), ramp.right_end());
            note("ramp", index, span, left.min(right), left.max(right));
        }
        for (index, (platform, span)) in self.platforms.iter().zip(&self.platform_spans).enumerate() {
            let places = || platform.route.iter().copied();
            let (low, high) = (places().reduce(DVec2::min), places().reduce(DVec2::max));
            if let (Some(low), Some(high)) = (low, high) {
                note("platform", index, span, low, high + platform.size);
            }
        }
        for (index, (zone, span)) in self.zones.iter().zip(&self.zone_spans).enumerate() {
            let place = &zone.place;
            note("zone", index, span, DVec2::new(place.left, place.top), DVec2::new(place.right, place.bottom));
        }
        for (index, (prop, span)) in self.props.iter().zip(&self.prop_spans).enumerate() {
            note("prop", index, span, prop.corner, prop.corner + prop.size);
        }
    }
}

/// What stands in traces where an id can stand, and is none.
const WORDS_OF_TRACES: [&str; 6] = ["terrain", "none", "solid", "one-way", "ramp", "ladder"];

/// The ids given so far: each must be its own, whatever it names.
#[derive(Default)]
struct Ids(HashSet<String>);

impl Ids {
    /// The section's id, or its number, from 1.
    fn read(&mut self, notes: &mut Notes, section: &Section<'_>, index: usize) -> String {
        let Some(id) = section.text(notes, "id", "bench").map(str::to_owned) else { return (index + 1).to_string() };
        if !is_id(&id) {
            let message =
                format!("\"{id}\" is no id; it may have letters, digits, \"-\" and \"_\", at most {MOST_LETTERS}");
            notes.error(section.place_of("id"), message);
        } else if id.bytes().all(|byte| byte.is_ascii_digit()) {
            let message = format!("\"{id}\" is no id but a number; what has no id is called by its number");
            notes.error(section.place_of("id"), message);
        } else if WORDS_OF_TRACES.contains(&id.as_str()) {
            let message = format!("\"{id}\" is no id but a word of traces; add something to it, such as \"{id}-1\"");
            notes.error(section.place_of("id"), message);
        } else if !self.0.insert(id.clone()) {
            let message = format!("there is another \"{id}\"; each id must be its own");
            notes.error(section.place_of("id"), message);
        }
        id
    }
}

/// The keys of what a top is like.
pub(super) const MATERIAL: [Field; 3] = [
    Field::new("grip", Value::NUMBER, "share of the run's acceleration, braking and turning that it lets through"),
    Field::new("surface_speed", Value::SPEED, "carries what stands on it, positive to the right"),
    Field::new("bounce", Value::Section(&[&BOUNCE]), "throws up what lands on it"),
];
const BOUNCE: [Field; 2] = [
    Field::new("height", Value::LENGTH, "how high").needed(),
    Field::new("release", Value::Release, "what letting go of the jump button does on the way"),
];

const ID: Field = Field::new("id", Value::ID, "what it is called in traces; its number unless given");
const AT: Field = Field::new("at", Value::Pair(Kind::Length), "its top-left corner").needed();
const SIZE: Field = Field::new("size", Value::Pair(Kind::Length), "its width and height").needed();
const SURFACE: Field = Field::new("surface", Value::Words(|| words_of(&SURFACES)), "what of it stops a body");

/// The keys of a `[[block]]`.
pub(super) const BLOCK: Fields = &[&[ID, AT, SIZE], &MATERIAL, &ZONE, &RULE, &OF_NOTES, &OF_GROUP];

/// The keys of a `[[ramp]]`.
pub(super) const RAMP: Fields = &[
    &[
        Field::new("from", Value::Pair(Kind::Length), "one end").needed(),
        Field::new("to", Value::Pair(Kind::Length), "the other end").needed(),
    ],
    &MATERIAL,
    &ZONE,
    &RULE,
    &OF_NOTES,
    &OF_GROUP,
];

/// The keys of a `[[platform]]`.
pub(super) const PLATFORM: Fields = &[
    &[
        ID,
        SIZE,
        SURFACE,
        Field::new("route", Value::Pairs(Kind::Length), "places of its top-left corner; one place: it stays").needed(),
        Field::new("bend", Value::Words(|| words_of(&BENDS)), "straight legs, or a round curve through the places"),
        Field::new("speed", Value::SPEED, "the mean speed of each leg"),
        Field::new("trip", Value::TIME, "the time of the whole route one way, without waits; instead of a speed"),
        Field::new("ease", Value::Words(|| words_of(&EASES)), "smooth: from rest to rest"),
        Field::new(
            "ease_over",
            Value::Words(|| words_of(&EASES_OVER)),
            "from rest to rest in each leg, or over the trip",
        ),
        Field::new("ends", Value::Words(|| words_of(&ENDS)), "what it does at the last place"),
        Field::new("wait", Value::TIME, "at each end"),
        Field::new("starts", Value::Words(|| words_of(&STARTS)), "at once, or when it is ridden"),
        Field::new("starts_for", Value::Texts, "groups whose riding sets it off; anyone's unless given"),
        Field::new("crumble", Value::Section(&[&CRUMBLE]), "it gives way under who stands on it"),
        Field::new("crumbles_for", Value::Texts, "groups under whom it crumbles; any character's unless given"),
    ],
    &MATERIAL,
    &ZONE,
    &RULE,
    &OF_NOTES,
    &OF_GROUP,
];
const CRUMBLE: [Field; 4] = [
    Field::new("after", Value::TIME, "how long it bears"),
    Field::new("sink", Value::LENGTH, "how far it then sinks"),
    Field::new("over", Value::TIME, "in which time"),
    Field::new("back_after", Value::TIME, "when it is back; never unless given"),
];

/// The keys of a `[[prop]]`.
pub(super) const PROP: Fields = &[
    &[
        ID,
        AT,
        SIZE,
        SURFACE,
        Field::new("gravity", Value::ACCELERATION, "under which it falls; the character's unless given"),
        Field::new("top_speed", Value::SPEED, "the fastest that it falls; the character's unless given"),
    ],
    &MATERIAL,
    &ZONE,
    &RULE,
    &OF_NOTES,
    &OF_GROUP,
];

const SURFACES: [(&str, PlatformSurface); 2] =
    [("solid", PlatformSurface::Solid), ("one-way", PlatformSurface::OneWay)];
const EASES: [(&str, Ease); 2] = [("linear", Ease::Linear), ("smooth", Ease::Smooth)];
const EASES_OVER: [(&str, EaseOver); 2] = [("leg", EaseOver::Leg), ("trip", EaseOver::Trip)];
const BENDS: [(&str, Bend); 2] = [("straight", Bend::Straight), ("round", Bend::Round)];
const ENDS: [(&str, Ends); 3] = [("back-and-forth", Ends::BackAndForth), ("loop", Ends::Loop), ("once", Ends::Once)];
const STARTS: [(&str, Starts); 2] = [("at-once", Starts::AtOnce), ("when-ridden", Starts::WhenRidden)];

/// Grip, surface speed and bounce of a top.
pub(super) fn read_material(notes: &mut Notes, section: &Section<'_>) -> Material {
    let mut within = |key: &str, kind, default: f64, least: f64, most: f64, unit: &str| {
        let Some(found) = section.quantity(notes, key, kind) else { return default };
        if !(least..=most).contains(&found) {
            let message = format!("{} is {found}{unit}; it must be from {least} to {most}{unit}", section.name_of(key));
            notes.error(section.place_of(key), message);
        }
        found
    };
    let grip = within("grip", Kind::Number, 1.0, 0.0, Material::MOST_GRIP, "");
    let surface_speed = within("surface_speed", Kind::Speed, 0.0, -LIMIT_SPEED, LIMIT_SPEED, " px/s");
    let bounce = section.section(notes, "bounce").map(|bounce| read_bounce(notes, &bounce));
    Material { grip, surface_speed, bounce }
}

fn read_bounce(notes: &mut Notes, section: &Section<'_>) -> Bounce {
    section.knows(notes, &[&BOUNCE]);
    let height = section.needed(notes, "height", Kind::Length);
    if height <= 0.0 || height > LIMIT_LENGTH {
        let message =
            format!("{} is {height} px; it must be above 0 and at most {LIMIT_LENGTH} px", section.name_of("height"));
        notes.error(section.place_of("height"), message);
    }
    let release = read_release(notes, section, "release", &mut Places::new()).unwrap_or_default();
    if !release.is_within_bounds() {
        let name = section.name_of("release");
        let message = format!(
            "{name} is out of bounds: keep is from 0 to 1, gravity_ratio above 0, times and heights not below 0"
        );
        notes.error(section.place_of("release"), message);
    }
    Bounce { height, release }
}

fn read_block(notes: &mut Notes, section: &Section<'_>) -> (Block, Option<SaidRule>) {
    section.knows(notes, BLOCK);
    let size = read_size(notes, section);
    let corner = read_corner(notes, section, size);
    let material = read_material(notes, section);
    let (zone, rule) = read_zone(notes, section, Body::Solid, size);
    let group = read_group(notes, section);
    (Block { material, zone, group, ..Block::new(corner, size.x, size.y) }, rule)
}

fn read_surface(notes: &mut Notes, section: &Section<'_>) -> PlatformSurface {
    section.word(notes, "surface", &SURFACES).unwrap_or_default()
}

fn read_platform(notes: &mut Notes, section: &Section<'_>) -> (PlatformNumbers, Option<SaidRule>) {
    section.knows(notes, PLATFORM);
    let size = read_size(notes, section);
    let route: Vec<DVec2> =
        section.needed_pairs(notes, "route", Kind::Length).into_iter().map(|(x, y)| DVec2::new(x, y)).collect();
    for place in &route {
        check_place(notes, section, "route", *place, size);
    }
    let ease = section.word(notes, "ease", &EASES);
    let ease_over = section.word(notes, "ease_over", &EASES_OVER);
    if ease_over.is_some() && ease != Some(Ease::Smooth) {
        let message = format!(
            "{} is given, but nothing is eased; give ease = \"smooth\" as well, or remove it",
            section.name_of("ease_over")
        );
        notes.error(section.place_of("ease_over"), message);
    }
    let bend = section.word(notes, "bend", &BENDS);
    let surface = read_surface(notes, section);
    let (zone, rule) = read_zone(notes, section, body_of(surface), size);
    let numbers = PlatformNumbers {
        size,
        surface,
        zone,
        pace: read_pace(notes, section, route.len()),
        route,
        ease: ease.unwrap_or_default(),
        ease_over: ease_over.unwrap_or_default(),
        bend: bend.unwrap_or_default(),
        ends: section.word(notes, "ends", &ENDS).unwrap_or_default(),
        wait: section.quantity(notes, "wait", Kind::Time).unwrap_or(0.0),
        starts: section.word(notes, "starts", &STARTS).unwrap_or_default(),
        crumble: section.section(notes, "crumble").map(|crumble| read_crumble(notes, &crumble)),
        material: read_material(notes, section),
        group: read_group(notes, section),
        starts_for: read_groups(notes, section, "starts_for"),
        crumbles_for: read_groups(notes, section, "crumbles_for"),
    };
    for (key, of_use, without) in [
        ("starts_for", numbers.starts == Starts::WhenRidden, "starts = \"when-ridden\""),
        ("crumbles_for", numbers.crumble.is_some(), "\"crumble\""),
    ] {
        if section.has(key) && !of_use {
            let message = format!("{} is of no use without {without}", section.name_of(key));
            notes.error(section.place_of(key), message);
        }
    }
    // What its numbers make wrong together is the core's business; the rate has no part in it.
    if !notes.has_errors()
        && let Err(error) = Platforms::new(core::slice::from_ref(&numbers), 60.0)
    {
        notes.error(section.span(), format!("{}: {}", section.name(), error.problem));
    }
    (numbers, rule)
}

/// `speed` or `trip`: one of them where there is somewhere to go.
fn read_pace(notes: &mut Notes, section: &Section<'_>, places: usize) -> Pace {
    let above_0 = |notes: &mut Notes, key: &str, kind| {
        let found = section.quantity(notes, key, kind)?;
        if found <= 0.0 {
            notes.error(section.place_of(key), format!("{} must be above 0", section.name_of(key)));
        }
        Some(found)
    };
    let (speed, trip) = (above_0(notes, "speed", Kind::Speed), above_0(notes, "trip", Kind::Time));
    if speed.is_some() && trip.is_some() {
        let message = format!("{} has a speed and a trip; one follows from the other: keep one", section.name());
        notes.error(section.place_of("trip"), message);
    }
    if places > 1 && !section.has("speed") && !section.has("trip") {
        let message = format!(
            "{} has a route but neither \"speed\", such as \"3 tiles/s\", nor \"trip\", such as \"2.5 s\"",
            section.name()
        );
        notes.error(section.span(), message);
    }
    trip.map(Pace::Trip).or(speed.map(Pace::Speed)).unwrap_or(Pace::Speed(1.0))
}

fn read_crumble(notes: &mut Notes, section: &Section<'_>) -> CrumbleNumbers {
    section.knows(notes, &[&CRUMBLE]);
    let mut from_0 = |key: &str, kind| {
        let found = section.quantity(notes, key, kind)?;
        if found < 0.0 {
            notes.error(section.place_of(key), format!("{} must not be below 0", section.name_of(key)));
        }
        Some(found)
    };
    CrumbleNumbers {
        after: from_0("after", Kind::Time).unwrap_or(0.0),
        sink: from_0("sink", Kind::Length).unwrap_or(0.0),
        over: from_0("over", Kind::Time).unwrap_or(0.0),
        back_after: from_0("back_after", Kind::Time),
    }
}

fn read_prop(notes: &mut Notes, section: &Section<'_>) -> (LevelProp, Option<SaidRule>) {
    section.knows(notes, PROP);
    let size = read_size(notes, section);
    let corner = read_corner(notes, section, size);
    let surface = read_surface(notes, section);
    let mut within = |key: &str, kind, most: f64, unit: &str| {
        let found = section.quantity(notes, key, kind)?;
        if !(found > 0.0 && found <= most) {
            let message = format!("{} must be above 0 and at most {most} {unit}", section.name_of(key));
            notes.error(section.place_of(key), message);
        }
        Some(found)
    };
    let gravity = within("gravity", Kind::Acceleration, LIMIT_ACCELERATION, "px/s^2");
    let top_speed = within("top_speed", Kind::Speed, LIMIT_SPEED, "px/s");
    let (zone, rule) = read_zone(notes, section, body_of(surface), size);
    let (material, group) = (read_material(notes, section), read_group(notes, section));
    (LevelProp { corner, size, surface, gravity, top_speed, material, zone, group }, rule)
}

/// What of a platform or a prop a body meets.
fn body_of(surface: PlatformSurface) -> Body {
    match surface {
        PlatformSurface::Solid => Body::Solid,
        PlatformSurface::OneWay => Body::Top,
    }
}

/// A `[[ramp]]`; none where it is wrong, which is noted.
fn read_ramp(notes: &mut Notes, section: &Section<'_>) -> Option<(Ramp, Option<Zone>, Option<SaidRule>)> {
    section.knows(notes, RAMP);
    let from = section.needed_pair(notes, "from", Kind::Length);
    let to = section.needed_pair(notes, "to", Kind::Length);
    let (material, group) = (read_material(notes, section), read_group(notes, section));
    let (zone, rule) = read_zone(notes, section, Body::Top, DVec2::ZERO);
    for (key, point) in [("from", from), ("to", to)] {
        if point.0.abs() > LIMIT_LENGTH || point.1.abs() > LIMIT_LENGTH {
            let message = format!("{} is beyond where coordinates end, {LIMIT_LENGTH} px", section.name_of(key));
            notes.error(section.place_of(key), message);
        }
    }
    let mut ramp = Ramp::new(DVec2::new(from.0, from.1), DVec2::new(to.0, to.1));
    if ramp.is_none() && !from.0.is_nan() && !to.0.is_nan() {
        let message = "a ramp from one place straight up or down is a wall; its ends need different columns";
        notes.error(section.place_of("to"), message);
    }
    if let Some(ramp) = &mut ramp {
        (ramp.material, ramp.group) = (material, group);
    }
    Some((ramp?, zone, rule))
}
