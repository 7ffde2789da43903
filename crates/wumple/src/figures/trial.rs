use std::path::Path;

use super::Figure;
use super::frame::Frame;
use super::labels::{self, wrapped};
use super::layout::{Layout, Page};
use super::level::{draw_map, finish_map, labels_over, tile_entries};
use super::platforms::area_of;
use super::run::{draw_hitbox, draw_path_of, is_marked_here, seen_of, state_entries};
use super::sheet::{Area, Dash, Marker, Point, Sheet, TERRACOTTA, Words, stroke};
use crate::analysis::{TrialCheck, TrialFailure, TrialOutcome};
use crate::files::write_whole;
use crate::units::short;

/// Draws the run of a trial over its level, by state, with each failure where the character was then, and
/// the places at which it was expected instead.
#[must_use]
pub fn trial_figure(outcome: &TrialOutcome) -> Figure {
    let failed = outcome.failures().count();
    let all = outcome.checks.len();
    let title = format!("{}: {failed} of {all} expectations not met", outcome.name);
    let (tuning, trace) = (&outcome.tuning, &outcome.trace);
    let caption = format!(
        "{}; {} with {}; {} ticks; {} Hz, scheme {}; circles are where the feet were expected",
        outcome.file,
        outcome.level.name,
        tuning.name,
        outcome.ticks,
        short(trace.rate),
        tuning.tuning.scheme().name(),
    );
    let layout = Layout::new(&outcome.level, &Page::default(), seen_of(tuning.tuning.body(), trace));
    Sheet::page_of(layout.size, &Words { title: &title, caption: &caption }, |sheet| {
        for frame in &layout.frames {
            draw_map(sheet, frame, &outcome.level);
            for (_, failure) in outcome.failures() {
                let row = &trace.rows[failure.tick as usize];
                if let Some(area) = area_of(frame, &tuning.tuning.body().hitbox_at(row.feet)) {
                    draw_hitbox(sheet, &area);
                }
            }
            draw_path_of(sheet, frame, trace, trace.rows.iter().map(|row| row.feet).enumerate());
            finish_map(sheet, frame, &outcome.level);
            draw_failures(sheet, frame, outcome);
        }
        let mut entries = state_entries(trace, &Vec::from_iter(1..trace.rows.len()));
        entries.extend(tile_entries(&outcome.level));
        layout.finish(sheet, &outcome.level, &entries);
    })
}

fn draw_failures(sheet: &mut Sheet<'_>, frame: &Frame, outcome: &TrialOutcome) {
    let at = |feet: wumple_core::DVec2| frame.at(feet.x, feet.y);
    let path = outcome.trace.rows.iter().map(|row| at(row.feet));
    let mut labels = labels_over(frame, &outcome.level, path.collect());
    // Failures at one place share a label.
    let mut marks: Vec<(Point, Vec<String>)> = Vec::new();
    for (check, failure) in outcome.failures() {
        let point = at(outcome.trace.rows[failure.tick as usize].feet);
        if !is_marked_here(&outcome.level, frame, point) {
            continue;
        }
        let point = frame.held(point);
        if let Some((place, within)) = check.place {
            let radius = draw_expected_place(sheet, frame, (at(place), point), within);
            labels.keep_free(around(at(place), radius));
        }
        let words = words_of(check, failure);
        match marks.iter_mut().find(|(known, _)| *known == point) {
            Some((_, lines)) => lines.extend(words),
            None => marks.push((point, words)),
        }
    }
    marks.iter().for_each(|(point, _)| labels.keep_free(around(*point, 6.0)));
    for (point, words) in &marks {
        if let Some(placed) = labels.place(*point, words) {
            labels::draw(sheet, *point, &placed, words);
        }
        sheet.marker(*point, Marker::Cross, 5.0, TERRACOTTA);
    }
}

fn around(point: Point, by: f64) -> Area {
    Area { left: point.0, right: point.0, top: point.1, bottom: point.1 }.grown(by)
}

/// A circle around the place, as wide as it may be missed, and the way to where the feet came; says how wide
/// the circle is.
fn draw_expected_place(sheet: &mut Sheet<'_>, frame: &Frame, (expected, found): (Point, Point), within: f64) -> f64 {
    let radius = (frame.at(within, 0.0).0 - frame.at(0.0, 0.0).0).max(5.0);
    let turn = |step: u32| {
        let (sin, cos) = (f64::from(step) * std::f64::consts::TAU / 36.0).sin_cos();
        (expected.0 + radius * cos, expected.1 + radius * sin)
    };
    let circle: Vec<Point> = (0..=36).map(turn).collect();
    for part in frame.clip_path(&circle) {
        sheet.line(&part, stroke(TERRACOTTA, 1.6));
    }
    for part in frame.clip_path(&[expected, found]) {
        sheet.line(&part, stroke(TERRACOTTA, 1.0).dashed(Dash::Dots));
    }
    radius
}

/// Whole sentences, in lines that fit beside one another.
fn words_of(check: &TrialCheck, failure: &TrialFailure) -> Vec<String> {
    let lines = |what: &str, words: &str| wrapped(&format!("{what} {words}"), 64);
    let instead = lines("instead", &failure.instead).into_iter().map(|line| format!("  {line}"));
    lines("expected", &check.expected).into_iter().chain(instead).collect()
}

impl TrialOutcome {
    /// Draws the run with its failures into `FOLDER/NAME.svg`, if there are any; the outcome then says
    /// where, when it is displayed, or why it could not be drawn.
    pub fn draw_failures(&mut self, folder: &Path) {
        if self.passed() {
            return;
        }
        let file = Path::new(&self.file).file_name().unwrap_or_default().to_string_lossy();
        let path = folder.join(format!("{}.svg", file.trim_end_matches(".toml")));
        match write_whole(&path, trial_figure(self).svg().as_bytes(), true) {
            Ok(()) => self.figure = Some(path),
            Err(error) => self.figure_error = Some(error.to_string()),
        }
    }
}
