use super::Figure;
use super::panel::Panel;
use super::sheet::{
    Align, Area, CELADON, COBALT, Colour, INK, LegendEntry, Marker, Point, SMOKE, Sheet, TERRACOTTA, Words, legend,
    line_sample, stroke,
};
use crate::analysis::{VaryAxis, VaryCell, VaryReport};
use crate::units::short;

const RIGHT: f64 = 1204.0;

/// Draws what came of many tunings: a curve over one number, or over two a map of colours; with the tuning as it is, and where what passes ends.
#[must_use]
pub fn vary_figure(report: &VaryReport) -> Figure {
    let keys: Vec<&str> = report.axes.iter().map(|axis| axis.key).collect();
    let title = format!("{}: {} over {}", report.tuning, report.measure, keys.join(" and "));
    let passing = report.cells.iter().filter(|cell| cell.passes == Some(true)).count();
    let asked = report.cells.iter().any(|cell| cell.passes.is_some());
    let now = report.now.map_or_else(|| "none".to_owned(), |now| format!("{} {}", short(now), report.unit));
    let caption = format!(
        "{} tunings{}; as it is: {}",
        report.cells.len(),
        if asked { format!(", {passing} of them pass") } else { String::new() },
        now.trim_end()
    );
    Sheet::page(&Words { title: &title, caption: &caption }, |sheet| {
        let mut entries = match &report.axes[..] {
            [only] => draw_curve(sheet, report, only),
            [across, up, ..] => draw_map(sheet, report, across, up),
            [] => Vec::new(),
        };
        if asked {
            entries.push(LegendEntry { words: "where what passes ends", sample: line_sample(edge()) });
        }
        entries.push(LegendEntry {
            words: "as it is",
            sample: Box::new(|sheet, area| {
                sheet.marker(
                    ((area.left + area.right) / 2.0, (area.top + area.bottom) / 2.0),
                    Marker::Cross,
                    5.0,
                    TERRACOTTA,
                );
            }),
        });
        legend(sheet, RIGHT, 62.0, &entries);
    })
}

fn edge() -> super::sheet::Stroke {
    stroke(TERRACOTTA, 2.4)
}

/// A name with its unit: `jump.height, tiles`.
fn named(name: &str, unit: &str) -> String {
    if unit.is_empty() { name.to_owned() } else { format!("{name}, {unit}") }
}

/// From half a step before the first value to half a step after the last.
fn span(axis: &VaryAxis) -> (f64, f64) {
    let (first, last) = (axis.values[0], axis.values[axis.values.len() - 1]);
    let half = (last - first) / (axis.values.len() - 1) as f64 / 2.0;
    (first - half, last + half)
}

/// The least and the greatest number; a little apart where they are one.
fn extent(cells: &[VaryCell], now: Option<f64>) -> (f64, f64) {
    let values = cells.iter().filter_map(|cell| cell.value).chain(now).filter(|value| value.is_finite());
    let (low, high) =
        values.fold((f64::INFINITY, f64::NEG_INFINITY), |(low, high), value| (low.min(value), high.max(value)));
    match high - low {
        apart if apart > 0.0 => (low, high),
        _ if low.is_finite() => (low - 0.5, high + 0.5),
        _ => (0.0, 1.0),
    }
}

fn draw_curve<'a>(sheet: &mut Sheet<'_>, report: &VaryReport, axis: &VaryAxis) -> Vec<LegendEntry<'a>> {
    let (low, high) = extent(&report.cells, report.now);
    let margin = (high - low) * 0.06;
    let area = Area { left: 92.0, right: RIGHT, top: 104.0, bottom: 716.0 };
    let panel =
        Panel { area, x: (axis.values[0], axis.values[axis.values.len() - 1]), y: (low - margin, high + margin) };
    // Each value stands for what is nearer to it than to others.
    let across = |x: f64| panel.at(x.clamp(panel.x.0, panel.x.1), panel.y.0).0;
    let half = (panel.x.1 - panel.x.0) / (axis.values.len() - 1) as f64 / 2.0;
    let passes = |cell: &VaryCell| cell.passes == Some(true);
    for cell in report.cells.iter().filter(|cell| passes(cell)) {
        let (left, right) = (across(cell.at[0] - half), across(cell.at[0] + half));
        sheet.fill_area(&Area { left, right, ..area }, CELADON, 0.14);
    }
    for pair in report.cells.windows(2).filter(|pair| passes(&pair[0]) != passes(&pair[1])) {
        let x = across(f64::midpoint(pair[0].at[0], pair[1].at[0]));
        sheet.line(&[(x, area.top), (x, area.bottom)], edge());
    }
    panel.times(sheet, Some(&named(axis.key, axis.unit)));
    panel.values(sheet, &named(&report.measure, report.unit));
    // What has no value breaks the line.
    for stretch in report.cells.split(|cell| cell.value.is_none()) {
        let points: Vec<Point> = stretch.iter().map(|cell| panel.at(cell.at[0], cell.value.unwrap_or(low))).collect();
        sheet.line(&points, stroke(COBALT, 2.2));
        if report.cells.len() <= 60 {
            points.iter().for_each(|point| sheet.marker(*point, Marker::Disc, 2.6, COBALT));
        }
    }
    if let (Some(at), Some(value)) = (axis.now.filter(|at| (panel.x.0..=panel.x.1).contains(at)), report.now) {
        sheet.marker(panel.at(at, value), Marker::Cross, 7.0, TERRACOTTA);
    }
    vec![LegendEntry { words: "measured", sample: line_sample(stroke(COBALT, 2.2)) }]
}

/// The colour of a share from 0 to 1: light to dark.
fn colour_of(share: f64) -> Colour {
    const LIGHT: [f64; 3] = [236.0, 240.0, 228.0];
    const MIDDLE: [f64; 3] = [99.0, 160.0, 150.0];
    const DARK: [f64; 3] = [33.0, 52.0, 110.0];
    let (from, to, share) = if share < 0.5 { (LIGHT, MIDDLE, share * 2.0) } else { (MIDDLE, DARK, share * 2.0 - 1.0) };
    let [red, green, blue] = [0, 1, 2].map(|part| (from[part] + (to[part] - from[part]) * share).round() as u8);
    plotters::style::RGBColor(red, green, blue)
}

fn draw_map<'a>(sheet: &mut Sheet<'_>, report: &VaryReport, across: &VaryAxis, up: &VaryAxis) -> Vec<LegendEntry<'a>> {
    let (low, high) = extent(&report.cells, None);
    let area = Area { left: 92.0, right: RIGHT - 110.0, top: 104.0, bottom: 716.0 };
    let panel = Panel { area, x: span(across), y: span(up) };
    let (columns, rows) = (across.values.len(), up.values.len());
    let edge_x = |column: usize| area.left + area.width() * column as f64 / columns as f64;
    let edge_y = |row: usize| area.bottom - area.height() * row as f64 / rows as f64;
    let cell = |column: usize, row: usize| &report.cells[column * rows + row];
    for (column, row) in (0..columns).flat_map(|column| (0..rows).map(move |row| (column, row))) {
        let place = Area { left: edge_x(column), right: edge_x(column + 1), top: edge_y(row + 1), bottom: edge_y(row) };
        match cell(column, row).value {
            Some(value) => sheet.fill_area(&place, colour_of(((value - low) / (high - low)).clamp(0.0, 1.0)), 1.0),
            None => sheet.fill_area(&place, SMOKE, 0.25),
        }
    }
    let passes = |column: usize, row: usize| cell(column, row).passes == Some(true);
    for (column, row) in (0..columns).flat_map(|column| (0..rows).map(move |row| (column, row))) {
        if column + 1 < columns && passes(column, row) != passes(column + 1, row) {
            sheet.line(&[(edge_x(column + 1), edge_y(row)), (edge_x(column + 1), edge_y(row + 1))], edge());
        }
        if row + 1 < rows && passes(column, row) != passes(column, row + 1) {
            sheet.line(&[(edge_x(column), edge_y(row + 1)), (edge_x(column + 1), edge_y(row + 1))], edge());
        }
    }
    panel.times(sheet, Some(&named(across.key, across.unit)));
    panel.values(sheet, &named(up.key, up.unit));
    let is_inside = |at: f64, (low, high): (f64, f64)| (low..=high).contains(&at);
    if let (Some(x), Some(y)) = (across.now, up.now)
        && is_inside(x, panel.x)
        && is_inside(y, panel.y)
    {
        sheet.marker(panel.at(x, y), Marker::Cross, 7.0, TERRACOTTA);
    }
    draw_scale(sheet, report, (low, high));
    if report.cells.iter().all(|cell| cell.value.is_some()) {
        return Vec::new();
    }
    vec![LegendEntry {
        words: "no number, or not found",
        sample: Box::new(|sheet, area| sheet.fill_area(area, SMOKE, 0.25)),
    }]
}

/// Which colour is which number, at the right.
fn draw_scale(sheet: &mut Sheet<'_>, report: &VaryReport, (low, high): (f64, f64)) {
    const PARTS: usize = 40;
    let bar = Area { left: RIGHT - 74.0, right: RIGHT - 52.0, top: 104.0, bottom: 716.0 };
    let at = |share: f64| bar.bottom - bar.height() * share;
    for part in 0..PARTS {
        let (from, to) = (part as f64 / PARTS as f64, (part + 1) as f64 / PARTS as f64);
        let place = Area { top: at(to), bottom: at(from), ..bar };
        sheet.fill_area(&place, colour_of(f64::midpoint(from, to)), 1.0);
    }
    sheet.outline(&bar, stroke(INK, 1.0));
    for share in [0.0, 0.25, 0.5, 0.75, 1.0] {
        sheet.text((bar.right + 6.0, at(share) + 4.0), 11.0, Align::Left, &short(low + (high - low) * share));
    }
    sheet.text((RIGHT, 94.0), 11.0, Align::Right, &named(&report.measure, report.unit));
}
