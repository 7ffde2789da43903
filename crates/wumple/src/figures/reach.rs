use super::Figure;
use super::frame::Frame;
use super::labels::{self, wrapped};
use super::layout::{Layout, Page};
use super::level::{draw_map, finish_map, labels_over, tile_entries};
use super::platforms::area_of;
use super::run::is_marked_here;
use super::sheet::{
    Area, CELADON, COBALT, Dash, LegendEntry, Marker, OCHRE, Point, Sheet, Stroke, TERRACOTTA, Words, line_sample,
    stroke,
};
use crate::analysis::{Reach, ReachAnswer, ReachReport};
use crate::files::{Level, TuningFile};
use crate::units::short;
use wumple_core::Hitbox;

/// Draws what of a level can be reached: each place to stand on and each thing to be come to by its answer, the ways to those that are
/// reached, and beside what is not the reason, or that no way was found.
#[must_use]
pub fn reach_figure(level: &Level, tuning: &TuningFile, report: &ReachReport, page: &Page) -> Figure {
    let title = format!("{}: what {} can reach", report.level, report.tuning);
    let layout = Layout::new(level, page, seen_of(report));
    let [x, y] = report.from_px;
    let caption = format!(
        "from ({}, {}) px; {} ticks tried; {} Hz, scheme {}; thin lines are the ways of the feet",
        short(x),
        short(y),
        report.ticks_tried,
        short(report.rate_hz),
        tuning.tuning.scheme().name(),
    );
    Sheet::page_of(layout.size, &Words { title: &title, caption: &caption }, |sheet| {
        for frame in &layout.frames {
            draw_map(sheet, frame, level);
            report.targets.iter().for_each(|of| draw_way(sheet, frame, of));
            finish_map(sheet, frame, level);
            report.targets.iter().for_each(|of| draw_target(sheet, frame, of));
            draw_reasons(sheet, frame, level, report);
        }
        let answers = |answer: fn(&ReachAnswer) -> bool| report.targets.iter().find(|of| answer(&of.answer));
        let shown = [
            ("reached", answers(|answer| matches!(answer, ReachAnswer::Reached { .. }))),
            ("out of reach", answers(|answer| matches!(answer, ReachAnswer::OutOfReach { .. }))),
            ("not found", answers(|answer| matches!(answer, ReachAnswer::NotFound))),
        ];
        let entry =
            |(words, of): (&'static str, Option<&Reach>)| Some(LegendEntry { words, sample: line_sample(mark(of?)) });
        let mut entries: Vec<LegendEntry<'_>> = shown.into_iter().filter_map(entry).collect();
        if answers(|answer| matches!(answer, ReachAnswer::Reached { .. })).is_some() {
            entries.push(LegendEntry { words: "a way", sample: line_sample(way_stroke()) });
        }
        entries.extend(tile_entries(level));
        layout.finish(sheet, level, &entries);
    })
}

/// All that is asked after.
fn seen_of(report: &ReachReport) -> Option<Hitbox> {
    let boxes = report.targets.iter().map(|of| {
        let [left, top, right, bottom] = of.place_px;
        Hitbox { left, top, right, bottom }
    });
    boxes.reduce(|one, other| one.around(&other))
}

/// The colour and the line both say which answer it is.
fn mark(of: &Reach) -> Stroke {
    match of.answer {
        ReachAnswer::Reached { .. } => stroke(CELADON, 4.0),
        ReachAnswer::OutOfReach { .. } => stroke(TERRACOTTA, 4.0).dashed(Dash::Short),
        ReachAnswer::NotFound => stroke(OCHRE, 4.0).dashed(Dash::Dots),
    }
}

fn way_stroke() -> Stroke {
    stroke(COBALT, 1.0).faint(0.45)
}

fn draw_way(sheet: &mut Sheet<'_>, frame: &Frame, of: &Reach) {
    let ReachAnswer::Reached { path, .. } = &of.answer else { return };
    let points: Vec<Point> = path.iter().map(|feet| frame.at(feet.x, feet.y)).collect();
    for part in frame.clip_path(&points) {
        sheet.line(&part, way_stroke());
    }
}

/// A line along the top that is asked after, or one around the thing.
fn draw_target(sheet: &mut Sheet<'_>, frame: &Frame, of: &Reach) {
    let [left, top, right, bottom] = of.place_px;
    if top < bottom {
        if let Some(area) = area_of(frame, &Hitbox { left, top, right, bottom }) {
            sheet.outline(&area, Stroke { width: 1.6, ..mark(of) });
        }
        return;
    }
    for part in frame.clip_path(&[frame.at(left, top), frame.at(right, top)]) {
        sheet.line(&part, mark(of));
    }
}

/// Beside what is not reached why not, and the first change that would do.
fn draw_reasons(sheet: &mut Sheet<'_>, frame: &Frame, level: &Level, report: &ReachReport) {
    let at = |of: &Reach| {
        let [left, top, right, _] = of.place_px;
        frame.at(f64::midpoint(left, right), top)
    };
    let reasons: Vec<(Point, Vec<String>)> = report
        .targets
        .iter()
        .filter(|of| is_marked_here(level, frame, at(of)))
        .filter_map(|of| Some((frame.held(at(of)), words_of(of)?)))
        .collect();
    let paths = report.targets.iter().filter_map(|of| match &of.answer {
        ReachAnswer::Reached { path, .. } => Some(path),
        _ => None,
    });
    let points = paths.flatten().step_by(4).map(|feet| frame.at(feet.x, feet.y));
    let mut labels = labels_over(frame, level, points.collect());
    labels.expect(reasons.len());
    for (point, _) in &reasons {
        labels.keep_free(Area { left: point.0, right: point.0, top: point.1, bottom: point.1 }.grown(4.0));
    }
    for (point, words) in &reasons {
        if let Some(placed) = labels.place(*point, words) {
            labels::draw(sheet, *point, &placed, words);
        }
    }
    let [x, y] = report.from_px;
    let start = frame.at(x, y);
    if is_marked_here(level, frame, start) {
        sheet.marker(frame.held(start), Marker::Disc, 4.5, COBALT);
    }
}

/// No line of a reason is longer, letters.
const LETTERS: usize = 46;

fn words_of(of: &Reach) -> Option<Vec<String>> {
    let mut lines = match &of.answer {
        ReachAnswer::Reached { .. } => return None,
        ReachAnswer::OutOfReach { why } => wrapped(&format!("{}: {why}", of.target), LETTERS),
        ReachAnswer::NotFound => vec![format!("{}: not found", of.target)],
    };
    lines.extend(of.changes.first().map(|change| format!("reached with {change}")));
    Some(lines)
}
