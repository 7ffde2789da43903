use super::Figure;
use super::arcs::loop_of;
use super::panel::Panel;
use super::sheet::{Area, INK, LegendEntry, Point, Sheet, Words, legend, line_sample, series, stroke};
use crate::analysis::{ArcsReport, FlightCourse, TuningArcs};

const LEFT: f64 = 92.0;
const RIGHT: f64 = 1190.0;

/// Draws what flights do against time, from rest in the air: each number of presses a second in its own line, or a thrust that is
/// held for so long and let go. `None` where nobody flies.
#[must_use]
pub fn flight_figure(report: &ArcsReport) -> Option<Figure> {
    let courses: Vec<(&TuningArcs, FlightCourse<'_>)> = report
        .tunings
        .iter()
        .flat_map(|tuning| tuning.flight.iter().flat_map(|flight| flight.courses()).map(move |course| (tuning, course)))
        .collect();
    let (first, _) = courses.first()?;
    let of_one = courses.iter().all(|(tuning, _)| tuning.name == first.name);
    let mut names: Vec<&str> = courses.iter().map(|(tuning, _)| tuning.name.as_str()).collect();
    names.dedup();
    let title = format!("Flight from rest: {}", names.join(", "));
    let mut loops: Vec<String> = courses.iter().map(|(tuning, _)| loop_of(tuning)).collect();
    loops.dedup();
    let labels: Vec<String> = courses
        .iter()
        .map(
            |(tuning, course)| if of_one { course.words.clone() } else { format!("{}, {}", tuning.name, course.words) },
        )
        .collect();
    Some(Sheet::page(&Words { title: &title, caption: &loops.join("; ") }, |sheet| {
        draw(sheet, &courses);
        let entry = |(index, words): (usize, &'_ String)| {
            let (colour, dash, _) = series(index);
            (words.clone(), stroke(colour, 2.2).dashed(dash))
        };
        let entries: Vec<_> = labels.iter().enumerate().map(entry).collect();
        let entries: Vec<LegendEntry<'_>> =
            entries.iter().map(|(words, line)| LegendEntry { words, sample: line_sample(*line) }).collect();
        legend(sheet, RIGHT, 62.0, &entries);
    }))
}

fn draw(sheet: &mut Sheet<'_>, courses: &[(&TuningArcs, FlightCourse<'_>)]) {
    let (first, _) = courses[0];
    let seconds =
        |tuning: &TuningArcs, course: &FlightCourse<'_>| (course.heights_px.len() - 1) as f64 / tuning.rate_hz;
    let longest = courses.iter().map(|(tuning, course)| seconds(tuning, course)).fold(0.1, f64::max);
    let heights = courses.iter().flat_map(|(_, course)| course.heights_px);
    let (low, high) =
        heights.fold((0.0, first.tile_px), |(low, high): (f64, f64), height| (low.min(*height), high.max(*height)));
    let area = Area { left: LEFT, right: RIGHT, top: 104.0, bottom: 716.0 };
    let margin = (high - low) * 0.06;
    let panel = Panel { area, x: (0.0, longest), y: (low - margin, high + margin) };
    panel.times(sheet, Some("seconds"));
    panel.ticks(sheet, first.rate_hz, "tick");
    panel.levels(sheet, first.tile_px, ("height, tiles", "px"));
    let zero = panel.at(0.0, 0.0).1;
    sheet.line(&[(LEFT, zero), (RIGHT, zero)], stroke(INK, 1.0));
    for (index, (tuning, course)) in courses.iter().enumerate() {
        let (colour, dash, _) = series(index);
        let at = |(tick, height): (usize, &f64)| panel.at(tick as f64 / tuning.rate_hz, *height);
        let points: Vec<Point> = course.heights_px.iter().enumerate().map(at).collect();
        sheet.line(&points, stroke(colour, 2.2).dashed(dash));
    }
}
