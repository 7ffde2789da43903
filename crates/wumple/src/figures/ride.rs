use super::Figure;
use super::frame::{Frame, Vertical};
use super::level::draw_tiles;
use super::platforms::draw_moment;
use super::run::{draw_hitbox, draw_path_of, state_entries};
use super::sheet::{Align, Area, COBALT, INK, LegendEntry, PLUM, Sheet, Words, legend, line_sample, stroke};
use crate::files::{Level, TuningFile};
use crate::trace::{Ride, Trace};
use crate::units::short;
use wumple_core::{DVec2, MoverId, Support, Terrain};

/// The part of the page that the way through the level gets, and that of the way as the platform sees it.
const IN_LEVEL: Area = Area { left: 70.0, top: 128.0, right: 632.0, bottom: 722.0 };
const ON_PLATFORM: Area = Area { left: 748.0, top: 128.0, right: 1204.0, bottom: 722.0 };
/// How often the platform is outlined.
const MOMENTS: usize = 24;

/// Draws a rider's path twice: in the level, with outlines of what it rides on, and as seen from that, which
/// stands still there: while it is ridden, and while the rider is in the air after it.
///
/// `None` if the trace never rides on it.
#[must_use]
pub fn ride_figure(level: &Level, tuning: &TuningFile, trace: &Trace, mover: MoverId) -> Option<Figure> {
    let rides = rides_on(trace, mover);
    let (first, last) = (rides.first()?.0, rides.last()?.0);
    let name = trace.names.mover(mover);
    let title = format!("{}: {} on {name}", level.name, tuning.name);
    let caption = format!(
        "ticks {first} to {last}, {} Hz; left: the path in the level, {name} outlined; right: the same as {name} sees it, \
         the hitbox every tenth of a second",
        short(trace.rate)
    );
    Some(Sheet::page(&Words { title: &title, caption: &caption }, |sheet| {
        draw_in_level(sheet, level, trace, &rides);
        draw_on_platform(sheet, level, tuning, trace, &rides);
        let rows: Vec<usize> = rides.iter().map(|(row, _)| *row).collect();
        let mut entries = state_entries(trace, &rows);
        entries.push(LegendEntry { words: "platform", sample: line_sample(stroke(PLUM, 1.8)) });
        legend(sheet, 1204.0, 64.0, &entries);
    }))
}

/// The rows in which a rider is on something, or in the air after it, until it is held by something else.
fn rides_on(trace: &Trace, mover: MoverId) -> Vec<(usize, Ride)> {
    let mut rides = Vec::new();
    let mut is_off = true;
    for (row, (report, ride)) in trace.rows.iter().zip(&trace.rides).enumerate() {
        match report.support.mover() {
            Some(under) => is_off = under != mover,
            None if report.support != Support::None => is_off = true,
            None => {}
        }
        rides.extend(ride.filter(|ride| !is_off && ride.mover == mover).map(|ride| (row, ride)));
    }
    rides
}

/// Rows that follow one another, so that no line is drawn over what is left out.
fn stretches(rides: &[(usize, Ride)]) -> impl Iterator<Item = &[(usize, Ride)]> {
    rides.chunk_by(|one, next| next.0 == one.0 + 1)
}

fn draw_in_level(sheet: &mut Sheet<'_>, level: &Level, trace: &Trace, rides: &[(usize, Ride)]) {
    let tile = level.grid.grid_lines().spacing();
    let (mut x, mut y) = ((f64::INFINITY, f64::NEG_INFINITY), (f64::INFINITY, f64::NEG_INFINITY));
    for (row, ride) in rides {
        let feet = trace.rows[*row].feet;
        x = (x.0.min(ride.place.left).min(feet.x), x.1.max(ride.place.right).max(feet.x));
        y = (y.0.min(ride.place.top).min(feet.y), y.1.max(ride.place.bottom).max(feet.y));
    }
    // Whole tiles.
    let whole = |(from, to): (f64, f64)| (((from / tile).floor() - 1.0) * tile, ((to / tile).ceil() + 1.0) * tile);
    let frame = Frame::fit(IN_LEVEL, whole(x), whole((y.0 - tile, y.1)), Vertical::Map, false);
    frame.grid(sheet, tile);
    draw_tiles(sheet, &frame, level);
    for (_, ride) in rides.iter().step_by((rides.len() / MOMENTS).max(1)) {
        draw_moment(sheet, &frame, &ride.place);
    }
    for stretch in stretches(rides) {
        draw_path_of(sheet, &frame, trace, stretch.iter().map(|(row, _)| (*row, trace.rows[*row].feet)));
    }
    frame.sides(sheet, tile, ("columns", "rows"));
}

fn draw_on_platform(sheet: &mut Sheet<'_>, level: &Level, tuning: &TuningFile, trace: &Trace, rides: &[(usize, Ride)]) {
    let (tile, body) = (level.grid.grid_lines().spacing(), tuning.tuning.body());
    // Heights over its top, positive upward.
    let relative = |row: usize, ride: &Ride| {
        let feet = trace.rows[row].feet;
        DVec2::new(feet.x - ride.place.left, ride.place.top - feet.y)
    };
    let place = rides[0].1.place;
    let size = DVec2::new(place.right - place.left, place.bottom - place.top);
    let (mut x, mut y) = ((-0.5 * tile, size.x + 0.5 * tile), (-size.y - 0.5 * tile, body.height));
    for (row, ride) in rides {
        let feet = relative(*row, ride);
        x = (x.0.min(feet.x - body.width), x.1.max(feet.x + body.width));
        y = (y.0.min(feet.y), y.1.max(feet.y + body.height));
    }
    let frame = Frame::fit(ON_PLATFORM, x, (y.0 - 0.5 * tile, y.1 + 0.5 * tile), Vertical::Heights, true);
    frame.grid(sheet, tile);
    if let Some(area) = frame.cut((0.0, size.x), (-size.y, 0.0)) {
        sheet.fill_area(&area, COBALT, 0.25);
        sheet.outline(&area, stroke(INK, 1.6));
    }
    let every = (trace.rate / 10.0).round().max(1.0) as usize;
    let mut last = None;
    for (row, ride) in rides.iter().step_by(every) {
        let feet = relative(*row, ride);
        if last != Some(feet) {
            let half = body.half_width();
            let area = frame.cut((feet.x - half, feet.x + half), (feet.y, feet.y + body.height));
            area.into_iter().for_each(|area| draw_hitbox(sheet, &area));
        }
        last = Some(feet);
    }
    for stretch in stretches(rides) {
        draw_path_of(sheet, &frame, trace, stretch.iter().map(|(row, ride)| (*row, relative(*row, ride))));
    }
    frame.sides(sheet, tile, ("tiles from its left end", "tiles above its top"));
    let left = (frame.area.left, frame.area.top - 26.0);
    sheet.text((left.0, left.1), 12.0, Align::Left, "as the platform sees it");
    sheet.text((IN_LEVEL.left, left.1), 12.0, Align::Left, "in the level");
}
