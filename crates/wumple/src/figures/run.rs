use super::Figure;
use super::frame::Frame;
use super::labels::{self, Labels};
use super::level::{draw_map, finish_map, kept_free, tile_entries};
use super::paper::{
    Area, CELADON, COBALT, Dash, INK, LegendEntry, Marker, OCHRE, PLUM, Point, SMOKE, Sheet, Stroke, TERRACOTTA, Words,
    legend, line_sample, stroke,
};
use super::platforms::{area_of, draw_moment};
use crate::files::{Level, TuningFile};
use crate::quantity::short;
use crate::trace::Trace;
use wumple_core::{DVec2, Event, State};

/// Draws a run over its level: the path of the feet coloured by state, the hitbox faintly at intervals,
/// the events as labelled markers.
pub fn run_figure(level: &Level, tuning: &TuningFile, trace: &Trace) -> Figure {
    let title = format!("{}: the path of {}", level.name, tuning.name);
    let every = hitbox_every(trace);
    let last = trace.rows.last().map_or(0, |row| row.tick);
    let caption = format!(
        "{last} ticks, {} s; {} Hz, scheme {}; the hitbox ({} x {} px) is drawn every {every} ticks; numbers at events are ticks",
        short(last as f64 / trace.rate),
        short(trace.rate),
        tuning.tuning.scheme().name(),
        short(tuning.tuning.body().width),
        short(tuning.tuning.body().height),
    );
    Sheet::page(&Words { title: &title, caption: &caption }, |sheet| {
        let frame = draw_map(sheet, level);
        draw_hitboxes(sheet, &frame, tuning, trace, every);
        draw_path_of(sheet, &frame, trace, trace.rows.iter().map(|row| row.feet).enumerate());
        finish_map(sheet, &frame, level);
        draw_events(sheet, &frame, trace, kept_free(&frame, level));
        let mut entries = state_entries(trace, &Vec::from_iter(1..trace.rows.len()));
        entries.extend(tile_entries(level));
        legend(sheet, 1204.0, 64.0, &entries);
    })
}

/// Thirty hitboxes at most, at a round number of ticks.
fn hitbox_every(trace: &Trace) -> usize {
    let ticks = trace.rows.len();
    [5, 10, 20, 50, 100, 200, 500, 1000].into_iter().find(|every| ticks / every <= 30).unwrap_or(5000)
}

fn draw_hitboxes(sheet: &mut Sheet<'_>, frame: &Frame, tuning: &TuningFile, trace: &Trace, every: usize) {
    let mut last = None;
    for (row, ride) in trace.rows.iter().zip(&trace.rides).step_by(every) {
        if last == Some(row.feet) {
            continue;
        }
        last = Some(row.feet);
        if let Some(area) = area_of(frame, &tuning.tuning.body().hitbox_at(row.feet)) {
            draw_hitbox(sheet, &area);
        }
        // What carries it, where it is at that moment.
        if let Some(ride) = ride.filter(|ride| row.support.carrier() == Some(ride.carrier)) {
            draw_moment(sheet, frame, &ride.place);
        }
    }
}

pub(super) fn draw_hitbox(sheet: &mut Sheet<'_>, area: &Area) {
    sheet.fill_area(area, SMOKE, 0.08);
    sheet.outline(area, stroke(SMOKE, 0.9).faint(0.6));
}

/// How the path is drawn in a state: the colour and the line both say which.
pub(super) fn state_stroke(state: State) -> Stroke {
    match state {
        State::Stand => stroke(INK, 2.4),
        State::Run => stroke(CELADON, 2.6),
        State::Rise => stroke(COBALT, 2.2).dashed(Dash::Long),
        State::Fall => stroke(TERRACOTTA, 2.2).dashed(Dash::Short),
        State::WallSlide => stroke(OCHRE, 2.8).dashed(Dash::LongShort),
        State::WallHold => stroke(OCHRE, 3.4),
        State::Ladder => stroke(PLUM, 3.0).dashed(Dash::Dots),
    }
}

/// A path through some rows of a trace, each with its place, by state.
pub(super) fn draw_path_of(
    sheet: &mut Sheet<'_>,
    frame: &Frame,
    trace: &Trace,
    places: impl Iterator<Item = (usize, DVec2)>,
) {
    let places: Vec<(State, Point)> =
        places.map(|(row, place)| (trace.rows[row].state, frame.at(place.x, place.y))).collect();
    let mut first = 0;
    for index in 1..places.len() {
        let state = places[index].0;
        // A row's state governed the way that led to it.
        let ends = places.get(index + 1).is_none_or(|next| next.0 != state);
        if ends {
            let points: Vec<Point> = places[first..=index].iter().map(|(_, point)| *point).collect();
            for part in frame.clip_path(&points) {
                sheet.line(&part, state_stroke(state));
            }
            first = index;
        }
    }
}

fn draw_events(sheet: &mut Sheet<'_>, frame: &Frame, trace: &Trace, free: Vec<Area>) {
    let visible = |point: &Point| frame.area.contains(*point);
    let path: Vec<Point> = trace.rows.iter().map(|row| frame.at(row.feet.x, row.feet.y)).collect();
    let mut labels = Labels::new(frame.area.grown(-3.0), path.iter().copied().filter(visible).collect());
    free.into_iter().for_each(|area| labels.keep_free(area));
    let eventful: Vec<(Point, Vec<String>)> = trace
        .rows
        .iter()
        .zip(&path)
        .filter(|(row, _)| !row.events.is_empty())
        .map(|(row, point)| {
            let words = row.events.iter().map(|event| format!("{} {}", row.tick, words_for(event, trace)));
            // What happens outside the map is marked where the path leaves it.
            let held = |value: f64, low: f64, high: f64| value.clamp(low + 6.0, high - 6.0);
            let Area { left, right, top, bottom } = frame.area;
            ((held(point.0, left, right), held(point.1, top, bottom)), words.collect())
        })
        .collect();
    for (point, _) in &eventful {
        labels.keep_free(Area { left: point.0, right: point.0, top: point.1, bottom: point.1 }.grown(4.0));
    }
    for (point, words) in &eventful {
        if let Some(area) = labels.place(*point, words) {
            labels::draw(sheet, *point, &area, words);
        }
    }
    for (point, _) in &eventful {
        sheet.marker(*point, Marker::Disc, 3.4, PLUM);
    }
}

/// An event in a few words: speeds as whole numbers.
fn words_for(event: &Event, trace: &Trace) -> String {
    match event {
        Event::Landed { speed } => format!("landed, {speed:.0} px/s"),
        other => trace.names.event(other),
    }
}

/// What the legend says of the states in some rows of a trace.
pub(super) fn state_entries(trace: &Trace, rows: &[usize]) -> Vec<LegendEntry<'static>> {
    State::ALL
        .into_iter()
        .filter(|state| rows.iter().any(|row| trace.rows[*row].state == *state))
        .map(|state| LegendEntry { words: state.name(), sample: line_sample(state_stroke(state)) })
        .collect()
}
