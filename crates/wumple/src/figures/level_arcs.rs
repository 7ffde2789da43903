use super::Figure;
use super::frame::Frame;
use super::labels;
use super::layout::{Layout, Page};
use super::level::{draw_map, finish_map, labels_over, tile_entries};
use super::sheet::{Area, INK, LegendEntry, Marker, Point, Series, Sheet, Words, line_sample, series, stroke};
use crate::analysis::LevelArc;
use crate::files::Level;
use wumple_core::{DVec2, Hitbox};

/// Draws jumps from a place over their level, each until the level stops it.
pub fn level_arcs_figure(level: &Level, arcs: &[LevelArc], page: &Page) -> Figure {
    let names: Vec<&str> = names(arcs);
    let title = format!("{}: how {} can jump from here", level.name, names.join(", "));
    let caption = "full and tapped jumps at top speed to either side, full ones straight up, and with one in the air where there is one";
    let places = arcs.iter().flat_map(|arc| &arc.places);
    let corner = |of: fn(DVec2, DVec2) -> DVec2| places.clone().copied().reduce(of);
    let seen = corner(DVec2::min).zip(corner(DVec2::max));
    let seen = seen.map(|(low, high)| Hitbox { left: low.x, right: high.x, top: low.y, bottom: high.y });
    let layout = Layout::new(level, page, seen);
    Sheet::page_of(layout.size, &Words { title: &title, caption }, |sheet| {
        for frame in &layout.frames {
            draw_map(sheet, frame, level);
            finish_map(sheet, frame, level);
            draw_arcs(sheet, frame, level, arcs, &names);
        }
        let mut entries: Vec<LegendEntry<'_>> = names
            .iter()
            .enumerate()
            .map(|(index, name)| {
                let (colour, dash, _) = series(index);
                LegendEntry { words: name, sample: line_sample(stroke(colour, 2.2).dashed(dash)) }
            })
            .collect();
        entries.extend(tile_entries(level));
        layout.finish(sheet, level, &entries);
    })
}

fn draw_arcs(sheet: &mut Sheet<'_>, frame: &Frame, level: &Level, arcs: &[LevelArc], names: &[&str]) {
    let path = |arc: &LevelArc| -> Vec<Point> { arc.places.iter().map(|place| frame.at(place.x, place.y)).collect() };
    for arc in arcs {
        let (colour, dash, _) = series_of(arc, names);
        let width = if arc.jump.starts_with("full") { 2.2 } else { 1.2 };
        for part in frame.clip_path(&path(arc)) {
            sheet.line(&part, stroke(colour, width).dashed(dash));
        }
    }
    let mut labels = labels_over(frame, level, arcs.iter().flat_map(&path).collect());
    for arc in arcs.iter().filter(|arc| arc.end == "lands" && !arc.jump.ends_with("up")) {
        let Some(point) = path(arc).last().copied().filter(|point| frame.area.contains(*point)) else { continue };
        sheet.marker(point, Marker::Disc, 3.6, INK);
        labels.keep_free(Area { left: point.0, right: point.0, top: point.1, bottom: point.1 }.grown(4.0));
        let words = [format!("{}: {}, {}", arc.jump, arc.end_column, arc.end_row)];
        if let Some(placed) = labels.place(point, &words) {
            labels::draw(sheet, point, &placed, &words);
        }
    }
}

fn names(arcs: &[LevelArc]) -> Vec<&str> {
    let mut names: Vec<&str> = arcs.iter().map(|arc| arc.tuning.as_str()).collect();
    names.dedup();
    names
}

fn series_of(arc: &LevelArc, names: &[&str]) -> Series {
    series(names.iter().position(|name| *name == arc.tuning).unwrap_or(0))
}
