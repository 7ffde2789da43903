//! Platforms with their routes, and props, drawn on a level.

use super::frame::{Frame, between};
use super::sheet::{
    Align, Area, COBALT, Dash, INK, LegendEntry, OCHRE, PLUM, Point, SMOKE, Sample, Sheet, Stroke, line_sample, stroke,
    text_width,
};
use super::surfaces::{draw_material, draw_shelf};
use crate::files::{Level, LevelProp};
use wumple_core::advanced::Route;
use wumple_core::numbers::PlatformSurface;
use wumple_core::{DVec2, Hitbox, PlatformNumbers, Platforms};

/// Ticks a second at which routes are looked at: fine enough to place outlines.
const RATE: f64 = 1000.0;
/// Of more platforms than this the routes are drawn as plain lines.
const MOST_ROUTES: usize = 300;
/// No route has more outlines.
const MOST_OUTLINES: u32 = 12;

fn route_stroke() -> Stroke {
    stroke(COBALT, 1.3).dashed(Dash::Long)
}

/// The outline of a platform where it comes along.
fn on_its_way() -> Stroke {
    stroke(COBALT, 0.9).faint(0.45)
}

/// The outline of what carries somebody, where it is at that moment.
fn as_it_carries() -> Stroke {
    stroke(PLUM, 1.0).faint(0.55)
}

/// What the legend says of the outlines of what carries somebody.
pub(super) fn carried_entry() -> LegendEntry<'static> {
    LegendEntry { words: "as it carries", sample: box_sample(as_it_carries()) }
}

/// A sample of an outline.
fn box_sample<'a>(stroke: Stroke) -> Sample<'a> {
    Box::new(move |sheet, area| sheet.outline(&area.grown(-1.0), stroke))
}

/// The routes, with faint outlines of the platforms along them, and the platforms where they begin.
pub(super) fn draw(sheet: &mut Sheet<'_>, frame: &Frame, level: &Level) {
    let Ok(platforms) = Platforms::new(&level.platforms, RATE) else { return };
    let is_crowd = level.platforms.len() > MOST_ROUTES;
    for (index, numbers) in level.platforms.iter().enumerate() {
        draw_route(sheet, frame, platforms.route(index), numbers.size, is_crowd);
    }
    for (index, (numbers, name)) in level.platforms.iter().zip(&level.names.platforms).enumerate() {
        let corner = platforms.route(index).places()[0];
        draw_platform(sheet, frame, &Hitbox::at(corner, numbers.size), numbers);
        write_name(sheet, frame, &Hitbox::at(corner, numbers.size), name);
    }
    for (prop, name) in level.props.iter().zip(&level.names.props) {
        draw_prop(sheet, frame, prop, name);
    }
}

/// A box on the page, cut at the frame.
pub(super) fn area_of(frame: &Frame, place: &Hitbox) -> Option<Area> {
    frame.cut((place.left, place.right), (place.top, place.bottom))
}

/// The way of the platform's middle, a dot at each place of the route, and its outline at equal times.
fn draw_route(sheet: &mut Sheet<'_>, frame: &Frame, route: &Route, size: DVec2, is_crowd: bool) {
    let places = route.places();
    if places.len() < 2 {
        return;
    }
    let middle = |corner: DVec2| {
        let middle = corner + size * 0.5;
        frame.at(middle.x, middle.y)
    };
    if is_crowd {
        let way: Vec<Point> = route.line().into_iter().map(middle).collect();
        return frame.clip_path(&way).iter().for_each(|part| sheet.line(part, stroke(COBALT, 0.8).faint(0.6)));
    }
    let length: f64 = places.windows(2).map(|leg| (leg[1] - leg[0]).length()).sum();
    let outlines = ((length / size.max_element().max(1.0)).ceil() as u32).clamp(1, MOST_OUTLINES);
    for outline in 1..=outlines {
        let ticks = route.seconds() * RATE * f64::from(outline) / f64::from(outlines);
        let corner = if outline == outlines { places[places.len() - 1] } else { route.place(ticks.round() as u64) };
        if let Some(area) = area_of(frame, &Hitbox::at(corner, size)) {
            sheet.outline(&area, on_its_way());
        }
    }
    let way: Vec<Point> = route.line().into_iter().map(middle).collect();
    for part in frame.clip_path(&way) {
        sheet.line(&part, route_stroke());
    }
    for point in places.iter().map(|corner| middle(*corner)).filter(|point| frame.area.contains(*point)) {
        sheet.marker(point, super::sheet::Marker::Disc, 2.2, COBALT);
    }
}

/// A platform: filled if it is solid, a shelf if it is one-way; with a broken outline if it crumbles.
fn draw_platform(sheet: &mut Sheet<'_>, frame: &Frame, at: &Hitbox, numbers: &PlatformNumbers) {
    let Some(area) = area_of(frame, at) else { return };
    let top = [frame.at(at.left, at.top), frame.at(at.right, at.top)];
    draw_body(sheet, &area, numbers.surface, numbers.crumble.is_some());
    draw_material(sheet, &top, &numbers.material);
}

fn draw_body(sheet: &mut Sheet<'_>, area: &Area, surface: PlatformSurface, crumbles: bool) {
    let outline = if crumbles { stroke(INK, 1.6).dashed(Dash::Short) } else { stroke(INK, 1.4) };
    match surface {
        PlatformSurface::Solid => {
            sheet.fill_area(area, COBALT, 0.3);
            sheet.outline(area, outline);
        }
        PlatformSurface::OneWay => {
            sheet.fill_area(area, COBALT, 0.12);
            sheet.outline(area, if crumbles { outline } else { stroke(SMOKE, 0.9) });
            draw_shelf(sheet, &[(area.left, area.top), (area.right, area.top)]);
        }
    }
}

/// A prop, with its name in it if there is room: under it is what it stands on, and over it who stands on it.
fn draw_prop(sheet: &mut Sheet<'_>, frame: &Frame, prop: &LevelProp, name: &str) {
    let Some(area) = area_of(frame, &Hitbox::at(prop.corner, prop.size)) else { return };
    let fits = has_name(name) && text_width(name, 11.0) + 2.0 < area.width() && area.height() > 14.0;
    draw_crate(sheet, &area, !fits);
    if fits {
        let middle = ((area.left + area.right) / 2.0, (area.top + area.bottom) / 2.0 + 4.0);
        sheet.text(middle, 11.0, Align::Middle, name);
    }
}

/// A crate: filled, with a cross unless something is written in it.
fn draw_crate(sheet: &mut Sheet<'_>, area: &Area, crossed: bool) {
    sheet.fill_area(area, OCHRE, 0.3);
    if crossed {
        sheet.line(&[(area.left, area.top), (area.right, area.bottom)], stroke(OCHRE, 1.0));
        sheet.line(&[(area.left, area.bottom), (area.right, area.top)], stroke(OCHRE, 1.0));
    }
    sheet.outline(area, stroke(INK, 1.3));
}

/// Whether it is a name, not a mere number.
fn has_name(name: &str) -> bool {
    name.chars().any(|letter| !letter.is_ascii_digit())
}

/// A name of its own, under the thing it names.
pub(super) fn write_name(sheet: &mut Sheet<'_>, frame: &Frame, at: &Hitbox, name: &str) {
    let Some(area) = area_of(frame, at).filter(|_| has_name(name)) else {
        return;
    };
    let half = text_width(name, 11.0) / 2.0;
    let (low, high) = (frame.area.left + half + 4.0, frame.area.right - half - 4.0);
    let middle = between((area.left + area.right) / 2.0, low, high);
    let base = if area.bottom + 14.0 < frame.area.bottom { area.bottom + 12.0 } else { area.top - 5.0 };
    sheet.text((middle, base), 11.0, Align::Middle, name);
}

/// Where platforms, props and their names are drawn: no label should hide them.
pub(super) fn kept_free(frame: &Frame, level: &Level) -> Vec<Area> {
    let platforms = level.platforms.iter().map(|numbers| Hitbox::at(numbers.route[0], numbers.size));
    let props = level.props.iter().map(|prop| Hitbox::at(prop.corner, prop.size));
    let with_name = |area: Area| Area { bottom: area.bottom + 14.0, ..area };
    platforms.chain(props).filter_map(|at| area_of(frame, &at)).map(with_name).collect()
}

/// The outline of a platform that carries somebody, at one moment.
pub(super) fn draw_moment(sheet: &mut Sheet<'_>, frame: &Frame, at: &Hitbox) {
    if let Some(area) = area_of(frame, at) {
        sheet.outline(&area, as_it_carries());
    }
}

/// What the legend says of the platforms and props that this level has.
pub(super) fn entries(level: &Level) -> Vec<LegendEntry<'static>> {
    type Draw = fn(&mut Sheet<'_>, &Area);
    let any = |is: fn(&PlatformNumbers) -> bool| level.platforms.iter().any(is);
    let rows: [(bool, &'static str, Draw); 4] = [
        (any(|platform| platform.surface == PlatformSurface::Solid), "platform", |sheet, area| {
            draw_body(sheet, area, PlatformSurface::Solid, false);
        }),
        (any(|platform| platform.surface == PlatformSurface::OneWay), "one-way platform", |sheet, area| {
            draw_body(sheet, area, PlatformSurface::OneWay, false);
        }),
        (any(|platform| platform.crumble.is_some()), "crumbles", |sheet, area| {
            draw_body(sheet, area, PlatformSurface::Solid, true);
        }),
        (!level.props.is_empty(), "prop", |sheet, area| {
            let middle = (area.left + area.right) / 2.0;
            draw_crate(sheet, &Area { left: middle - 7.0, right: middle + 7.0, ..*area }, true);
        }),
    ];
    let present = rows.into_iter().filter(|(present, ..)| *present);
    let mut entries: Vec<LegendEntry<'static>> =
        present.map(|(_, words, draw)| LegendEntry { words, sample: Box::new(draw) }).collect();
    if any(|platform| platform.route.len() > 1) {
        entries.push(LegendEntry { words: "route", sample: line_sample(route_stroke()) });
        entries.push(LegendEntry { words: "on its way", sample: box_sample(on_its_way()) });
    }
    entries
}
