use super::Figure;
use super::button_bars::ButtonBars;
use super::frame::Frame;
use super::labels;
use super::layout::{Layout, Page};
use super::level::{draw_map, finish_map, labels_over, tile_entries};
use super::panel::Panel;
use super::platforms::area_of;
use super::run::{is_marked_here, seen_of};
use super::sheet::{
    Area, Colour, Dash, INK, LegendEntry, Marker, PLUM, Point, Series, Sheet, Words, legend, line_sample, series,
    stroke,
};
use crate::analysis::{ComparedRun, Comparison};
use crate::files::{Level, Timeline};
use crate::units::short;
use wumple_core::{Body, TickReport};

const LEFT: f64 = 92.0;
const RIGHT: f64 = 1190.0;

/// Draws runs over one level: the path of each in its own line, their hitboxes (of a trace: a mark at the
/// feet) at the same moments, where they first are apart, and where each ends.
#[must_use]
pub fn compare_figure(level: &Level, runs: &[ComparedRun], comparison: &Comparison, page: &Page) -> Figure {
    let every = every_seconds(runs);
    let title = format!("{}: {}", level.name, names_of(runs));
    let caption = format!("{}; the hitboxes of all at the same moments, every {} s", rates_of(runs), short(every));
    let seen = runs.iter().filter_map(|run| seen_of(&run.body.unwrap_or(POINT), &run.trace));
    let layout = Layout::new(level, page, seen.reduce(|one, other| one.around(&other)));
    Sheet::page_of(layout.size, &Words { title: &title, caption: &caption }, |sheet| {
        for frame in &layout.frames {
            draw_map(sheet, frame, level);
            for (index, run) in runs.iter().enumerate() {
                draw_moments(sheet, frame, run, series(index), every);
            }
            for (index, run) in runs.iter().enumerate() {
                let (colour, dash, _) = series(index);
                let path: Vec<Point> = run.trace.rows.iter().map(|row| frame.at(row.feet.x, row.feet.y)).collect();
                for part in frame.clip_path(&path) {
                    sheet.line(&part, stroke(colour, 2.2).dashed(dash));
                }
            }
            finish_map(sheet, frame, level);
            draw_labels(sheet, frame, level, runs, comparison);
        }
        let mut entries = series_entries(runs);
        entries.extend(tile_entries(level));
        layout.finish(sheet, level, &entries);
    })
}

/// A run whose hitbox is not known is where its feet are.
const POINT: Body = Body { width: 0.0, height: 0.0 };

/// Twenty moments at most, at a round number of ticks of the first run.
fn every_seconds(runs: &[ComparedRun]) -> f64 {
    let longest = longest_seconds(runs);
    let rate = runs.first().map_or(60.0, |run| run.trace.rate);
    let ticks = [5.0, 10.0, 20.0, 30.0, 60.0, 120.0, 300.0, 600.0, 1200.0];
    ticks.into_iter().map(|ticks| ticks / rate).find(|every| longest / every <= 20.0).unwrap_or(longest / 20.0)
}

fn longest_seconds(runs: &[ComparedRun]) -> f64 {
    runs.iter().map(|run| (run.trace.rows.len() - 1) as f64 / run.trace.rate).fold(0.0, f64::max)
}

fn draw_moments(sheet: &mut Sheet<'_>, frame: &Frame, run: &ComparedRun, (colour, _, marker): Series, every: f64) {
    let mut last = None;
    let rows =
        (0..).map_while(|moment| run.trace.rows.get((f64::from(moment) * every * run.trace.rate).round() as usize));
    for row in rows {
        if last == Some(row.feet) {
            continue;
        }
        last = Some(row.feet);
        let point = frame.at(row.feet.x, row.feet.y);
        match &run.body {
            Some(body) => {
                if let Some(area) = area_of(frame, &body.hitbox_at(row.feet)) {
                    sheet.fill_area(&area, colour, 0.06);
                    sheet.outline(&area, stroke(colour, 0.9).faint(0.7));
                }
            }
            None if frame.area.contains(point) => sheet.marker(point, marker, 4.0, colour),
            None => {}
        }
    }
}

/// Where the runs part, and how each ends.
fn draw_labels(sheet: &mut Sheet<'_>, frame: &Frame, level: &Level, runs: &[ComparedRun], comparison: &Comparison) {
    let path = runs.iter().flat_map(|run| run.trace.rows.iter().map(|row| frame.at(row.feet.x, row.feet.y)));
    let mut labels = labels_over(frame, level, path.collect());
    let mut marked: Vec<(Point, Vec<String>, Colour)> = Vec::new();
    if let Some(apart) = &comparison.apart
        && let Some(first) = apart.runs.iter().flatten().next()
    {
        marked.push((frame.at(first.x_px, first.y_px), vec![format!("apart from {} s", short(apart.time_s))], PLUM));
    }
    for (index, numbers) in comparison.runs.iter().enumerate() {
        let words = format!("{}: {} in tick {}", numbers.name, numbers.end, numbers.end_tick);
        marked.push((frame.at(numbers.end_x_px, numbers.end_y_px), vec![words], series(index).0));
    }
    marked.retain(|(point, ..)| is_marked_here(level, frame, *point));
    for (point, ..) in &mut marked {
        *point = frame.held(*point);
        labels.keep_free(Area { left: point.0, right: point.0, top: point.1, bottom: point.1 }.grown(4.0));
    }
    for (point, words, _) in &marked {
        if let Some(area) = labels.place(*point, words) {
            labels::draw(sheet, *point, &area, words);
        }
    }
    for (point, _, colour) in &marked {
        sheet.marker(*point, Marker::Disc, 3.6, *colour);
    }
}

/// Draws runs on one axis of time: height of the feet, sideways and upward speed, each run in its own
/// line; the buttons as bars beneath, if they are known (those of the first run's rate).
#[must_use]
pub fn compare_time_figure(
    runs: &[ComparedRun],
    comparison: &Comparison,
    buttons: Option<&Timeline>,
    tile: f64,
) -> Figure {
    let title = format!("Over time: {}", names_of(runs));
    let caption = format!("{}; heights are above the lowest place of all", rates_of(runs));
    Sheet::page(&Words { title: &title, caption: &caption }, |sheet| {
        draw_over_time(sheet, runs, comparison, buttons, tile);
        legend(sheet, RIGHT, 62.0, &series_entries(runs));
    })
}

fn draw_over_time(
    sheet: &mut Sheet<'_>,
    runs: &[ComparedRun],
    comparison: &Comparison,
    buttons: Option<&Timeline>,
    tile: f64,
) {
    let Some(first) = runs.first() else { return };
    let seconds = longest_seconds(runs);
    let x = (0.0, seconds.max(1.0 / first.trace.rate));
    let nothing = Timeline::default();
    let bars = ButtonBars::new(buttons.unwrap_or(&nothing), (seconds * first.trace.rate).round() as u64);
    let bottom = 716.0 - bars.height();
    let gap = 24.0;
    let high = (bottom - 12.0 - 104.0 - 2.0 * gap) / 3.0;
    let rows = || runs.iter().flat_map(|run| &run.trace.rows);
    let lowest = rows().map(|row| row.feet.y).fold(f64::NEG_INFINITY, f64::max);
    let tallest = rows().map(|row| lowest - row.feet.y).fold(tile, f64::max);
    let range = |value: fn(&TickReport) -> f64| {
        let (low, high) = rows().map(value).fold((0.0, tile), |(low, high), v| (v.min(low), v.max(high)));
        (low * 1.1, high * 1.1)
    };
    type Quantity = (&'static str, &'static str, (f64, f64), fn(&TickReport) -> f64);
    let quantities: [Quantity; 3] = [
        ("height, tiles", "px", (0.0, tallest * 1.12), |row| -row.feet.y),
        ("sideways, tiles/s", "px/s", range(|row| row.velocity.x), |row| row.velocity.x),
        ("upward, tiles/s", "px/s", range(|row| -row.velocity.y), |row| -row.velocity.y),
    ];
    for (index, (name, unit, y, value)) in quantities.into_iter().enumerate() {
        let top = 104.0 + index as f64 * (high + gap);
        let panel = Panel { area: Area { left: LEFT, right: RIGHT, top, bottom: top + high }, x, y };
        panel.times(sheet, None);
        if index == 0 {
            panel.ticks(sheet, first.trace.rate, "tick");
        }
        panel.levels(sheet, tile, (name, unit));
        if index > 0 {
            let zero = panel.at(0.0, 0.0).1;
            sheet.line(&[(LEFT, zero), (RIGHT, zero)], stroke(INK, 1.0));
        }
        if let Some(apart) = &comparison.apart {
            let x = panel.at(apart.time_s, 0.0).0;
            sheet.line(&[(x, panel.area.top), (x, panel.area.bottom)], stroke(PLUM, 1.2).dashed(Dash::Short));
        }
        let base = if index == 0 { lowest } else { 0.0 };
        for (index, run) in runs.iter().enumerate() {
            let (colour, dash, _) = series(index);
            let at = |row: &TickReport| panel.at(row.tick as f64 / run.trace.rate, base + value(row));
            let points: Vec<Point> = run.trace.rows.iter().map(at).collect();
            sheet.line(&points, stroke(colour, 2.0).dashed(dash));
        }
    }
    let strips = Panel { area: Area { left: LEFT, right: RIGHT, top: bottom, bottom: 716.0 }, x, y: (0.0, 1.0) };
    strips.times(sheet, Some("seconds; the upright stroke is where they first are apart"));
    bars.draw(sheet, (LEFT, RIGHT, bottom), |tick| strips.at(tick / first.trace.rate, 0.0).0);
}

fn names_of(runs: &[ComparedRun]) -> String {
    runs.iter().map(|run| run.name.as_str()).collect::<Vec<_>>().join(", ")
}

fn rates_of(runs: &[ComparedRun]) -> String {
    let mut rates: Vec<String> = runs.iter().map(|run| format!("{} Hz", short(run.trace.rate))).collect();
    rates.dedup();
    rates.join(", ")
}

fn series_entries(runs: &[ComparedRun]) -> Vec<LegendEntry<'_>> {
    runs.iter()
        .enumerate()
        .map(|(index, run)| {
            let (colour, dash, _) = series(index);
            LegendEntry { words: &run.name, sample: line_sample(stroke(colour, 2.2).dashed(dash)) }
        })
        .collect()
}
