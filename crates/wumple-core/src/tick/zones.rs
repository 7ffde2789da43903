//! Step 9: which zones were met on the way of a tick, in which order, and which were left.

use crate::bytes::{Coded, Sink, Source};
use alloc::boxed::Box;
use alloc::vec::Vec;

use glam::DVec2;

use super::turn::Turn;
use super::{Character, Event, Listener};
use crate::platforms::{Mover, Movers};
use crate::space::Hitbox;
use crate::terrain::{DrawnZone, Features, Felt, LIMIT_MARGIN, Margin, Ramp, Terrain, Zone, ZoneId, ZoneOf};

/// The zones in which a body is; and room to find those that it meets.
#[derive(Debug, Default)]
pub(super) struct ZoneMemory {
    inside: Vec<ZoneId>,
    met: Vec<Meeting>,
    told: Vec<Told>,
}

/// Room for so many is made at the start.
const ROOM: usize = 16;

impl ZoneMemory {
    fn make_room(&mut self) {
        self.inside.reserve(ROOM.saturating_sub(self.inside.len()));
        self.met.clear();
        self.met.reserve(ROOM);
        self.told.clear();
        self.told.reserve(2 * ROOM);
    }
}

/// What is looked for in a tick is no part of it.
impl Clone for ZoneMemory {
    fn clone(&self) -> ZoneMemory {
        ZoneMemory { inside: self.inside.clone(), ..ZoneMemory::default() }
    }

    fn clone_from(&mut self, other: &ZoneMemory) {
        self.inside.clone_from(&other.inside);
    }
}

impl PartialEq for ZoneMemory {
    fn eq(&self, other: &ZoneMemory) -> bool {
        self.inside == other.inside
    }
}

/// A zone that a body comes to in one tick. Shares of the way are from 0 to 1 where it is carried, then to 2.
#[derive(Clone, Copy, Debug)]
struct Meeting {
    id: ZoneId,
    /// From here on it is felt, until there.
    from: f64,
    until: f64,
    /// Whether it is felt at the end.
    at_end: bool,
}

/// That a zone was entered or left at a share of the way.
#[derive(Clone, Copy, Debug)]
struct Told {
    share: f64,
    entered: bool,
    /// Left where it was entered: it was only touched.
    grazed: bool,
    id: ZoneId,
}

impl Told {
    /// The order in which it is told: by the share of the way; there what is left comes before what is entered, then by
    /// kinds, then in the order of the file.
    fn is_before(&self, other: &Told) -> core::cmp::Ordering {
        let rank = |of: &Told| if of.grazed { 2 } else { u8::from(of.entered) };
        let of_kind = self.id.kind.cmp(&other.id.kind).then(order_of(self.id).cmp(&order_of(other.id)));
        self.share.total_cmp(&other.share).then(rank(self).cmp(&rank(other))).then(of_kind)
    }
}

/// The place of a zone among those of its kind: tiles by rows, then the others in the order of the file.
fn order_of(id: ZoneId) -> (u8, i32, i32, ZoneId) {
    match id.of {
        ZoneOf::Tile { column, row } => (0, row, column, id),
        _ => (1, 0, 0, id),
    }
}

/// The way of a body in one tick: two chords, of being carried and of going by itself.
struct Way {
    hitboxes: [Hitbox; 3],
    by: [DVec2; 2],
}

impl Way {
    fn of<T, L>(turn: &Turn<'_, T, L>) -> Way {
        let places = [turn.start.feet, turn.carried.to, turn.feet];
        let hitboxes = places.map(|feet| turn.body.tuning.body().hitbox_at(feet));
        Way { hitboxes, by: [places[1] - places[0], places[2] - places[1]] }
    }

    /// Everything that it comes through.
    fn area(&self) -> Hitbox {
        self.hitboxes[0].around(&self.hitboxes[1]).around(&self.hitboxes[2])
    }

    /// When a zone is felt on it, whose place was `old` at the beginning and is `now` after it was carried itself. One that
    /// lies along a line is felt at that.
    fn meets(&self, id: ZoneId, (old, now): (&Hitbox, &Hitbox), felt: Felt, line: Option<&Line>) -> Option<Meeting> {
        let zone_by = DVec2::new(now.left - old.left, now.top - old.top);
        let first = felt_between(&self.hitboxes[0], self.by[0] - zone_by, old, felt, line);
        let second = felt_between(&self.hitboxes[1], self.by[1], now, felt, line);
        let is_at_line = line.is_none_or(|line| line.felt_on_way(&self.hitboxes[2], DVec2::ZERO, felt).is_some());
        let at_end = is_at_line
            && match felt {
                Felt::Inside => self.hitboxes[2].overlaps(now),
                Felt::Touch => self.hitboxes[2].touches(now),
            };
        let second = second.map(|(from, until)| (from + 1.0, until + 1.0));
        let (from, _) = first.or(second).or(at_end.then_some((2.0, 2.0)))?;
        let (_, until) = second.or(first).unwrap_or((2.0, 2.0));
        Some(Meeting { id, from, until, at_end })
    }
}

/// The line of a ramp, and how far around it is felt: a third axis beside those of the box around it.
struct Line {
    left: DVec2,
    /// How much it goes down, px for each px to the right.
    per_px: f64,
    margin: Margin,
}

impl Line {
    fn of(ramp: &Ramp, margin: Margin) -> Line {
        Line { left: ramp.left, per_px: ramp.per_px(), margin }
    }

    /// From which share of a way until which a box is at the line, as if that had no ends.
    fn felt_on_way(&self, hitbox: &Hitbox, by: DVec2, felt: Felt) -> Option<(f64, f64)> {
        let Line { left, per_px, margin } = self;
        // How far a point is below the line; of a hitbox with what is felt around it, from its least corner to its greatest.
        let below = |x: f64, y: f64| y - left.y - (x - left.x) * per_px;
        let (one, other) = (hitbox.right + margin.left, hitbox.left - margin.right);
        let (least, most) = if *per_px >= 0.0 { (one, other) } else { (other, one) };
        let corners = (below(least, hitbox.top - margin.below), below(most, hitbox.bottom + margin.above));
        felt_along(corners, by.y - by.x * per_px, (0.0, 0.0), felt)
    }
}

/// From which share of a way until which a box that goes by so much is in another that rests, if it is.
fn felt_between(hitbox: &Hitbox, by: DVec2, zone: &Hitbox, felt: Felt, line: Option<&Line>) -> Option<(f64, f64)> {
    let along_x = felt_along((hitbox.left, hitbox.right), by.x, (zone.left, zone.right), felt)?;
    let along_y = felt_along((hitbox.top, hitbox.bottom), by.y, (zone.top, zone.bottom), felt)?;
    let (mut from, mut until) = (along_x.0.max(along_y.0).max(0.0), along_x.1.min(along_y.1).min(1.0));
    if let Some(line) = line {
        let at_line = line.felt_on_way(hitbox, by, felt)?;
        (from, until) = (from.max(at_line.0), until.min(at_line.1));
    }
    let is_felt = if felt == Felt::Touch { from <= until } else { from < until };
    is_felt.then_some((from, until))
}

fn felt_along(hitbox: (f64, f64), by: f64, zone: (f64, f64), felt: Felt) -> Option<(f64, f64)> {
    if by == 0.0 {
        let overlaps = hitbox.1 > zone.0 && hitbox.0 < zone.1;
        let touches = felt == Felt::Touch && hitbox.1 >= zone.0 && hitbox.0 <= zone.1;
        return (overlaps || touches).then_some((f64::NEG_INFINITY, f64::INFINITY));
    }
    let (one, other) = ((zone.0 - hitbox.1) / by, (zone.1 - hitbox.0) / by);
    Some((one.min(other), one.max(other)))
}

impl Character {
    /// Makes room for the zones of a level that has some.
    pub(super) fn expect_zones(&mut self) {
        self.zones.get_or_insert_with(Box::default);
        self.make_room_for_zones();
    }

    /// The same in a copy.
    pub(super) fn make_room_for_zones(&mut self) {
        if let Some(zones) = &mut self.zones {
            zones.make_room();
        }
    }

    /// The zones in which it is after the last tick.
    #[must_use]
    pub fn zones(&self) -> &[ZoneId] {
        self.zones.as_ref().map_or(&[], |zones| &zones.inside)
    }
}

/// Step 9: zones entered and left, in the order in which they were met.
#[inline(never)]
pub(super) fn note_zones<T: Terrain, L: Listener>(turn: &mut Turn<'_, T, L>) {
    let mut zones = turn.body.zones.take().unwrap_or_default();
    zones.met.clear();
    zones.told.clear();
    let way = Way::of(turn);
    find_met(turn, &way, &mut zones.met);
    let ZoneMemory { inside, met, told } = &mut *zones;
    for Meeting { id, from, until, at_end } in met.iter().copied() {
        let was_inside = inside.contains(&id);
        if !was_inside {
            told.push(Told { share: from, entered: true, grazed: false, id });
        }
        if !at_end {
            told.push(Told { share: until, entered: false, grazed: !was_inside && from == until, id });
        }
    }
    // One that is no more was left before anything else.
    let gone = inside.iter().filter(|id| !met.iter().any(|met| met.id == **id));
    told.extend(gone.map(|id| Told { share: 0.0, entered: false, grazed: false, id: *id }));
    told.sort_unstable_by(Told::is_before);
    for Told { entered, id, .. } in told.iter().copied() {
        if entered {
            inside.push(id);
        } else {
            inside.retain(|other| *other != id);
        }
        turn.body.report.events.push(if entered { Event::Entered(id) } else { Event::Left(id) });
    }
    turn.body.zones = Some(zones);
}

/// Everything that is felt somewhere on a way.
fn find_met<T: Terrain, L: Listener>(turn: &mut Turn<'_, T, L>, way: &Way, met: &mut Vec<Meeting>) {
    let terrain = turn.scene.terrain;
    let reach = turn.body.tuning.feels_most() + terrain.zone_reach().min(LIMIT_MARGIN);
    let area = way.area().grown(reach);
    let any_of_terrain = terrain.features().has(Features::ZONE) && !turn.scene.nearby.has_no_zones(terrain, &area);
    let (tuning, away) = (&turn.body.tuning, turn.scene.zones);
    let feels = tuning.feels();
    let mut note = |id: ZoneId, zone: &Zone, (old, now): (&Hitbox, &Hitbox), ramp: Option<&Ramp>| {
        if away.is_some_and(|away| away.has(id)) {
            return;
        }
        let margin = feels.of(zone.kind).turned().with(&zone.margin.held());
        let line = ramp.map(|ramp| Line::of(ramp, margin));
        let places = (&margin.around(old), &margin.around(now));
        let Some(found) = way.meets(id, places, zone.felt, line.as_ref()) else { return };
        match met.iter_mut().find(|known| known.id == id) {
            // Of several tiles that are one zone: as soon as the first is felt, as long as the last is.
            Some(known) => {
                (known.from, known.until) = (known.from.min(found.from), known.until.max(found.until));
                known.at_end |= found.at_end;
            }
            None => met.push(found),
        }
    };
    if any_of_terrain {
        for chord in 0..2 {
            find_tiles(terrain, way, chord, reach, &mut note);
        }
        terrain.zones_near(&area, &mut |of, drawn| {
            let DrawnZone { place, zone, ramp, .. } = drawn;
            let line = ramp.and_then(|ramp| ramp_of(terrain, ramp, place));
            // A ramp that is not met has no zone either.
            if ramp.is_some() && line.is_none() {
                return;
            }
            note(ZoneId { kind: zone.kind, of }, zone, (place, place), line.as_ref());
        });
    }
    if let Some(reach) = turn.scene.movers.zone_reach() {
        let own = turn.around().unmet;
        turn.scene.movers.each_near(&way.area().grown(tuning.feels_most() + reach), &mut |mover: &Mover| {
            let zone = turn.scene.movers.zone(mover.id).filter(|_| own != Some(mover.id));
            if let (Some(zone), Some(of)) = (zone, ZoneOf::mover(mover.id)) {
                note(ZoneId { kind: zone.kind, of }, &zone, (&mover.old, &mover.now), None);
            }
        });
    }
}

/// The drawn ramp of a number, which lies here.
fn ramp_of<T: Terrain>(terrain: &T, number: usize, place: &Hitbox) -> Option<Ramp> {
    let mut found = None;
    terrain.ramps_near(place, &mut |other, ramp| found = found.or((other == number).then_some(*ramp)));
    found
}

/// The tiles about one chord, piece by piece, so that a long one across both axes is not a rectangle full of them.
fn find_tiles<T: Terrain>(
    terrain: &T,
    way: &Way,
    chord: usize,
    reach: f64,
    note: &mut impl FnMut(ZoneId, &Zone, (&Hitbox, &Hitbox), Option<&Ramp>),
) {
    let (by, start, lines) = (way.by[chord], &way.hitboxes[chord], terrain.grid_lines());
    if chord == 0 && by == DVec2::ZERO {
        return;
    }
    let pieces = (by.abs().max_element() / (4.0 * lines.spacing())) as u32 + 1;
    let at = |piece: u32| start.moved(by * (f64::from(piece) / f64::from(pieces)));
    let mut before: Option<(core::ops::Range<i32>, core::ops::Range<i32>)> = None;
    for piece in 0..pieces {
        let area = at(piece).around(&at(piece + 1)).grown(reach);
        let columns = lines.cells_about(area.left, area.right, terrain.first_column()..terrain.columns());
        let rows = lines.cells_about(area.top, area.bottom, terrain.first_row()..terrain.rows());
        if !terrain.features_in(columns.clone(), rows.clone()).has(Features::ZONE) {
            continue;
        }
        for row in rows.clone() {
            for column in columns.clone() {
                let was_looked_at =
                    before.as_ref().is_some_and(|(columns, rows)| columns.contains(&column) && rows.contains(&row));
                if was_looked_at {
                    continue;
                }
                if let Some(zone) = terrain.tile(column, row).zone {
                    let place = lines.cell(column, row);
                    note(
                        ZoneId { kind: zone.kind, of: terrain.zone_of_tile(column, row, &zone) },
                        &zone,
                        (&place, &place),
                        None,
                    );
                }
            }
        }
        before = Some((columns, rows));
    }
}

/// Every zone that a box overlaps with its margin, in the order in which zones are told.
pub(super) fn zones_in<T: Terrain>(terrain: &T, movers: &Movers<'_>, area: &Hitbox) -> Vec<ZoneId> {
    let mut found: Vec<ZoneId> = Vec::new();
    let mut note = |id: ZoneId, zone: &Zone, place: &Hitbox| {
        if zone.margin.held().around(place).overlaps(area) && !found.contains(&id) {
            found.push(id);
        }
    };
    if terrain.features().has(Features::ZONE) {
        let (lines, wide) = (terrain.grid_lines(), area.grown(terrain.zone_reach().min(LIMIT_MARGIN)));
        let columns = lines.cells_about(wide.left, wide.right, terrain.first_column()..terrain.columns());
        for row in lines.cells_about(wide.top, wide.bottom, terrain.first_row()..terrain.rows()) {
            for column in columns.clone() {
                if let Some(zone) = terrain.tile(column, row).zone {
                    let of = terrain.zone_of_tile(column, row, &zone);
                    note(ZoneId { kind: zone.kind, of }, &zone, &lines.cell(column, row));
                }
            }
        }
        terrain.zones_near(&wide, &mut |of, drawn| {
            let DrawnZone { place, zone, .. } = drawn;
            let at_line = |ramp: &Ramp| Line::of(ramp, zone.margin.held()).felt_on_way(area, DVec2::ZERO, Felt::Inside);
            let line = drawn.ramp.map(|ramp| ramp_of(terrain, ramp, place).and_then(|ramp| at_line(&ramp)));
            if line.is_none_or(|felt| felt.is_some()) {
                note(ZoneId { kind: zone.kind, of }, zone, place);
            }
        });
    }
    if let Some(reach) = movers.zone_reach() {
        movers.each_near(&area.grown(reach), &mut |mover| {
            if let (Some(zone), Some(of)) = (movers.zone(mover.id), ZoneOf::mover(mover.id)) {
                note(ZoneId { kind: zone.kind, of }, &zone, &mover.now);
            }
        });
    }
    found.sort_unstable_by(|one, other| one.kind.cmp(&other.kind).then_with(|| order_of(*one).cmp(&order_of(*other))));
    found
}

/// What is looked for in a tick is no part of it.
impl Coded for ZoneMemory {
    fn put(&self, to: &mut impl Sink) {
        self.inside.put(to);
    }
    fn decode(from: &mut Source<'_>) -> Option<ZoneMemory> {
        Some(ZoneMemory { inside: Vec::decode(from)?, ..ZoneMemory::default() })
    }
}
