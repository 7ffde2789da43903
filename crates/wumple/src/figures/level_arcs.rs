use super::Figure;
use super::labels::{self, Labels};
use super::level::{draw_map, finish_map, tile_entries};
use super::paper::{Area, INK, LegendEntry, Marker, Point, SERIES, Sheet, Words, legend, line_sample, stroke};
use crate::analysis::LevelArc;
use crate::files::Level;

/// Draws jumps from a place over their level, each until the level stops it.
pub fn level_arcs_figure(level: &Level, arcs: &[LevelArc]) -> Figure {
    let names: Vec<&str> = names(arcs);
    let title = format!("{}: how {} can jump from here", level.name, names.join(", "));
    let caption = "full and tapped jumps at top speed to either side, and a full jump straight up";
    Sheet::page(&Words { title: &title, caption }, |sheet| {
        let frame = draw_map(sheet, level);
        finish_map(sheet, &frame, level);
        let path = |arc: &LevelArc| -> Vec<Point> {
            let visible = arc.places.iter().map(|place| frame.at(place.x, place.y));
            visible.take_while(|point| frame.area.grown(1.0).contains(*point)).collect()
        };
        for arc in arcs {
            let (colour, dash, _) = series_of(arc, &names);
            let width = if arc.jump.starts_with("full") { 2.2 } else { 1.2 };
            sheet.line(&path(arc), stroke(colour, width).dashed(dash));
        }
        let data = arcs.iter().flat_map(&path).collect();
        let mut labels = Labels::new(frame.area.grown(-3.0), data);
        for arc in arcs.iter().filter(|arc| arc.end == "lands" && arc.jump != "full up") {
            let Some(point) = path(arc).last().copied() else { continue };
            sheet.marker(point, Marker::Disc, 3.6, INK);
            labels.keep_free(Area { left: point.0, right: point.0, top: point.1, bottom: point.1 }.grown(4.0));
            let words = [format!("{}: {}, {}", arc.jump, arc.end_column, arc.end_row)];
            if let Some(area) = labels.place(point, &words) {
                labels::draw(sheet, point, &area, &words);
            }
        }
        let mut entries: Vec<LegendEntry<'_>> = names
            .iter()
            .zip(SERIES.iter().cycle())
            .map(|(name, series)| LegendEntry {
                words: name,
                sample: line_sample(stroke(series.0, 2.2).dashed(series.1)),
            })
            .collect();
        entries.extend(tile_entries(level));
        legend(sheet, 1204.0, 64.0, &entries);
    })
}

fn names(arcs: &[LevelArc]) -> Vec<&str> {
    let mut names: Vec<&str> = arcs.iter().map(|arc| arc.tuning.as_str()).collect();
    names.dedup();
    names
}

fn series_of(arc: &LevelArc, names: &[&str]) -> (super::paper::Colour, super::paper::Dash, Marker) {
    let index = names.iter().position(|name| *name == arc.tuning).unwrap_or(0);
    SERIES[index % SERIES.len()]
}
