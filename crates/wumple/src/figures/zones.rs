//! How zones are drawn: a mark for each, and how far those with a margin, or drawn by themselves, are felt.

use super::frame::Frame;
use super::gates;
use super::platforms::{area_of, write_name};
use super::sheet::{
    Area, CELADON, COBALT, Colour, Dash, LegendEntry, Marker, OCHRE, Point, SMOKE, Sheet, TERRACOTTA, stroke,
};
use crate::files::Level;
use wumple_core::{Hitbox, Margin, Ramp, Terrain, Zone, ZoneKind};

fn colour_of(kind: ZoneKind) -> Colour {
    match kind {
        ZoneKind::Hazard => TERRACOTTA,
        ZoneKind::Pickup => OCHRE,
        ZoneKind::Goal => CELADON,
        ZoneKind::Checkpoint => COBALT,
        // Not the colour of events.
        _ => SMOKE,
    }
}

/// The mark of a zone in the middle of its area.
pub(super) fn draw_mark(sheet: &mut Sheet<'_>, area: &Area, kind: ZoneKind) {
    let centre = ((area.left + area.right) / 2.0, (area.top + area.bottom) / 2.0);
    let (size, colour) = (area.width().min(area.height()).min(40.0) * 0.3, colour_of(kind));
    match kind {
        ZoneKind::Hazard => sheet.marker(centre, Marker::Triangle, size, colour),
        ZoneKind::Pickup => sheet.marker(centre, Marker::Diamond, size * 0.8, colour),
        ZoneKind::Goal => {
            sheet.fill_area(&area.grown(-size * 0.4), colour, 0.35);
            sheet.outline(&area.grown(-size * 0.4), stroke(colour, 1.8));
        }
        // A flag on its pole.
        ZoneKind::Checkpoint => {
            let (x, top, bottom) = (centre.0 - size * 0.5, centre.1 - size, centre.1 + size);
            sheet.line(&[(x, bottom), (x, top)], stroke(colour, 1.8));
            let flag = Area { left: x, right: x + size * 1.4, top, bottom: top + size };
            sheet.fill_area(&flag, colour, 0.8);
        }
        _ => sheet.marker(centre, Marker::Square, size * 0.8, colour),
    }
}

/// Where the mark of a thing stands, so that its name can be read: in its upper right corner, or upon it.
fn corner_of(area: &Area) -> Area {
    const SIDE: f64 = 15.0;
    let top = if area.height() < SIDE + 4.0 { area.top - SIDE - 1.0 } else { area.top + 1.0 };
    Area { left: area.right - SIDE - 1.0, right: area.right - 1.0, top, bottom: top + SIDE }
}

/// A zone so small that it is a dot.
pub(super) fn draw_dot(sheet: &mut Sheet<'_>, place: Point, kind: ZoneKind) {
    match kind {
        ZoneKind::Hazard => sheet.marker(place, Marker::Triangle, 2.0, colour_of(kind)),
        ZoneKind::Pickup => sheet.marker(place, Marker::Diamond, 2.0, colour_of(kind)),
        ZoneKind::Goal | ZoneKind::Checkpoint => sheet.marker(place, Marker::Square, 3.0, colour_of(kind)),
        _ => sheet.marker(place, Marker::Square, 2.0, colour_of(kind)),
    }
}

/// Zones that are not tiles, and how far those with a margin are felt.
pub(super) fn draw(sheet: &mut Sheet<'_>, frame: &Frame, level: &Level) {
    let grid = &level.grid;
    for drawn in grid.zones() {
        if let Some(ramp) = drawn.ramp {
            draw_along(sheet, frame, &grid.ramps()[ramp], &drawn.zone);
        }
    }
    let drawn = grid.zones().iter().filter(|zone| zone.ramp.is_none());
    for (zone, name) in drawn.zip(&level.names.zones) {
        let colour = colour_of(zone.zone.kind);
        if let Some(area) = area_of(frame, &zone.place) {
            sheet.fill_area(&area, colour, 0.12);
            sheet.outline(&area, stroke(colour, 1.2).dashed(Dash::Long));
            draw_mark(sheet, &area, zone.zone.kind);
        }
        write_name(sheet, frame, &zone.place, name);
        draw_margin(sheet, frame, &zone.place, &zone.zone);
    }
    let of_blocks = grid.blocks().iter().map(|block| (block.place(), block.zone));
    let of_platforms = level.platforms.iter().map(|of| (Hitbox::at(of.route[0], of.size), of.zone));
    let of_props = level.props.iter().map(|of| (Hitbox::at(of.corner, of.size), of.zone));
    for (place, zone) in of_blocks.chain(of_platforms).chain(of_props) {
        let Some(zone) = zone.filter(|zone| !gates::are_gates(level, zone.kind)) else { continue };
        if let Some(area) = area_of(frame, &place) {
            draw_mark(sheet, &corner_of(&area), zone.kind);
        }
        draw_margin(sheet, frame, &place, &zone);
    }
    let lines = grid.grid_lines();
    if !level.letters.iter().any(|letter| letter.properties.zone.is_some_and(|zone| zone.margin != Margin::NONE)) {
        return;
    }
    let (columns, rows) = frame.tiles_of(grid);
    for row in rows.0..rows.1 {
        for column in columns.0..columns.1 {
            if let Some(zone) = grid.tile(column, row).zone {
                draw_margin(sheet, frame, &lines.cell(column, row), &zone);
            }
        }
    }
}

/// The zone that a drawn ramp is: its line and its mark, and how far above and below it is felt with a margin.
fn draw_along(sheet: &mut Sheet<'_>, frame: &Frame, ramp: &Ramp, zone: &Zone) {
    let (colour, margin) = (colour_of(zone.kind), &zone.margin);
    let (left, right) = (ramp.left_end(), ramp.right_end());
    let line = |down: f64, aside: (f64, f64)| {
        frame.clip([frame.at(left.x - aside.0, left.y + down), frame.at(right.x + aside.1, right.y + down)])
    };
    if let Some(ends) = line(0.0, (0.0, 0.0)) {
        sheet.line(&ends, stroke(colour, 3.0).faint(0.6));
        let (x, y) = ((ends[0].0 + ends[1].0) / 2.0, (ends[0].1 + ends[1].1) / 2.0);
        draw_mark(sheet, &Area { left: x - 9.0, right: x + 9.0, top: y - 20.0, bottom: y - 2.0 }, zone.kind);
    }
    if *margin != Margin::NONE {
        for down in [-margin.above, margin.below] {
            if let Some(ends) = line(down, (margin.left, margin.right)) {
                sheet.line(&ends, stroke(colour, 0.9).dashed(Dash::Short));
            }
        }
    }
}

/// The marks of things, which no label should hide.
pub(super) fn kept_free(frame: &Frame, level: &Level) -> Vec<Area> {
    let blocks = level.grid.blocks().iter().filter(|block| block.zone.is_some()).map(wumple_core::Block::place);
    blocks.filter_map(|place| area_of(frame, &place)).map(|area| corner_of(&area)).collect()
}

/// How far a zone with a margin is felt.
fn draw_margin(sheet: &mut Sheet<'_>, frame: &Frame, place: &Hitbox, zone: &Zone) {
    if zone.margin == Margin::NONE {
        return;
    }
    if let Some(area) = area_of(frame, &zone.margin.around(place)) {
        sheet.outline(&area, stroke(colour_of(zone.kind), 0.9).dashed(Dash::Short));
    }
}

/// Every kind of zone that a level has, in the order in which they are told.
fn kinds_of(level: &Level) -> Vec<ZoneKind> {
    let letters = level.letters.iter().enumerate().filter(|(kind, _)| level.grid.has_kind(*kind));
    let mut kinds: Vec<ZoneKind> = letters.filter_map(|(_, letter)| letter.properties.zone).map(|of| of.kind).collect();
    let of_things = level.grid.blocks().iter().map(|of| of.zone).chain(level.platforms.iter().map(|of| of.zone));
    let of_things = of_things.chain(level.props.iter().map(|of| of.zone)).flatten();
    kinds.extend(of_things.chain(level.grid.zones().iter().map(|of| of.zone)).map(|zone| zone.kind));
    kinds.sort_unstable();
    kinds.dedup();
    kinds
}

static COMMON: [ZoneKind; 4] = ZoneKind::COMMON;

/// What the legend says of the zones that a level has.
pub(super) fn entries(level: &Level) -> Vec<LegendEntry<'_>> {
    let words = |kind: ZoneKind| match kind {
        ZoneKind::Own(_) => {
            let named = level.names.kinds.iter().find(|known| **known == kind);
            named.map_or("zone", ZoneKind::word)
        }
        _ => COMMON.iter().find(|known| **known == kind).map_or("zone", ZoneKind::word),
    };
    let entry = |kind: ZoneKind| {
        let is_gate = gates::are_gates(level, kind);
        let sample = move |sheet: &mut Sheet<'_>, area: &Area| {
            let middle = (area.left + area.right) / 2.0;
            let (top, bottom) = (area.top - 1.5, area.bottom + 1.5);
            let area = Area { left: middle - 8.0, right: middle + 8.0, top, bottom };
            if is_gate { gates::draw_bars(sheet, &area) } else { draw_mark(sheet, &area, kind) }
        };
        LegendEntry { words: words(kind), sample: Box::new(sample) }
    };
    kinds_of(level).into_iter().map(entry).collect()
}
