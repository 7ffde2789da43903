use super::Figure;
use super::frame::Frame;
use super::gates::are_gates;
use super::groups;
use super::labels::{self, Labels};
use super::layout::{Layout, Page};
use super::level::{draw_map, finish_map, labels_over, tile_entries};
use super::platforms::{area_of, carried_entry, draw_moment};
use super::sheet::{
    Area, CELADON, COBALT, Colour, Dash, INK, LegendEntry, Marker, OCHRE, PLUM, Point, SMOKE, Sample, Sheet, Stroke,
    TERRACOTTA, Words, line_sample, stroke, text_width,
};
use crate::files::{Level, TuningFile};
use crate::trace::{Trace, ViewRow};
use crate::units::short;
use crate::why::Press;
use wumple_core::{Body, DVec2, Event, Hitbox, RoundEvent, State, Terrain, ZoneKind};

/// Draws a run over its level: the path of the feet coloured by state, the hitbox faintly at intervals,
/// the events as labelled markers, and as crosses the presses of jump that led to nothing, if they are known (from a
/// [`WhyLog`](crate::why::WhyLog)). Of a large level it shows the part that the run went through.
#[must_use]
pub fn run_figure(level: &Level, tuning: &TuningFile, trace: &Trace, presses: &[Press], page: &Page) -> Figure {
    let title = format!("{}: the path of {}", level.name, tuning.name);
    let every = hitbox_every(trace);
    let last = trace.rows.last().map_or(0, |row| row.tick);
    let caption = format!(
        "{last} ticks, {} s; {} Hz, scheme {}; the hitbox ({} x {} px) is drawn every {every} ticks; numbers at events are ticks{}{}",
        short(last as f64 / trace.rate),
        short(trace.rate),
        tuning.tuning.scheme().name(),
        short(tuning.tuning.body().width),
        short(tuning.tuning.body().height),
        if trace.shown.is_empty() { "" } else { ", names poses" },
        groups::in_words(level),
    );
    let layout = Layout::new(level, page, seen_of(tuning.tuning.body(), trace));
    Sheet::page_of(layout.size, &Words { title: &title, caption: &caption }, |sheet| {
        for frame in &layout.frames {
            draw_map(sheet, frame, level);
            draw_views(sheet, frame, level, trace);
            draw_hitboxes(sheet, frame, tuning, trace, every);
            draw_path_of(sheet, frame, trace, trace.rows.iter().map(|row| row.feet).enumerate());
            finish_map(sheet, frame, level);
            draw_events(sheet, frame, level, trace, presses);
        }
        let mut entries = state_entries(trace, &Vec::from_iter(1..trace.rows.len()));
        if trace.rows.iter().any(|row| row.support.mover().is_some()) {
            entries.push(carried_entry());
        }
        if lost(presses).next().is_some() {
            entries.push(LegendEntry { words: "press refused", sample: refused_sample() });
        }
        if trace.rounds.last().is_some_and(|last| last.attempt > 1) {
            entries.push(LegendEntry {
                words: "an earlier attempt",
                sample: line_sample(stroke(INK, 2.2).faint(EARLIER)),
            });
        }
        entries.extend(round_entries(trace));
        if !trace.views.is_empty() {
            entries.push(LegendEntry { words: "view", sample: line_sample(view_stroke()) });
        }
        entries.extend(tile_entries(level));
        layout.finish(sheet, level, &entries);
    })
}

/// So many views of a run are drawn at most, the first and the last among them.
const MOST_VIEWS: usize = 4;

fn view_stroke() -> Stroke {
    stroke(PLUM, 1.2).dashed(Dash::Long)
}

/// The frame of what is seen, at equal times, and the way of its middle.
fn draw_views(sheet: &mut Sheet<'_>, frame: &Frame, level: &Level, trace: &Trace) {
    let (Some(camera), Some(last)) = (&level.camera, trace.views.len().checked_sub(1)) else { return };
    let mut drawn = None;
    for at in 0..MOST_VIEWS {
        let corner = trace.views[last * at / (MOST_VIEWS - 1)].corner;
        if drawn == Some(corner) {
            continue;
        }
        drawn = Some(corner);
        if let Some(area) = area_of(frame, &Hitbox::at(corner, camera.view)) {
            sheet.outline(&area, view_stroke());
        }
    }
    let middle = |view: &ViewRow| frame.at(view.corner.x + camera.view.x * 0.5, view.corner.y + camera.view.y * 0.5);
    let way: Vec<Point> = trace.views.iter().map(middle).collect();
    for part in frame.clip_path(&way) {
        sheet.line(&part, stroke(PLUM, 1.0).faint(0.7));
    }
}

/// How faint the path of an earlier attempt is.
const EARLIER: f64 = 0.35;

/// How what happened to the round is marked, if it is: its word in the legend, its marker.
fn mark_of(event: &RoundEvent) -> Option<(&'static str, Marker, Colour)> {
    match event {
        RoundEvent::Hurt { .. } => Some(("hurt", Marker::Triangle, TERRACOTTA)),
        RoundEvent::Defeated(_) => Some(("defeated", Marker::Square, TERRACOTTA)),
        RoundEvent::Restarted(_) => Some(("started again", Marker::Square, COBALT)),
        _ => None,
    }
}

/// What the legend says of the marks of a round.
fn round_entries(trace: &Trace) -> Vec<LegendEntry<'static>> {
    let mut marks: Vec<(&'static str, Marker, Colour)> = Vec::new();
    for mark in trace.rounds.iter().flat_map(|round| &round.events).filter_map(mark_of) {
        if !marks.iter().any(|(words, ..)| *words == mark.0) {
            marks.push(mark);
        }
    }
    let entry = |(words, marker, colour): (&'static str, Marker, Colour)| LegendEntry {
        words,
        sample: Box::new(move |sheet: &mut Sheet<'_>, area: &Area| {
            let middle = ((area.left + area.right) / 2.0, (area.top + area.bottom) / 2.0);
            sheet.marker(middle, marker, 4.0, colour);
        }),
    };
    marks.into_iter().map(entry).collect()
}

/// The presses of jump that led to nothing.
pub(super) fn lost(presses: &[Press]) -> impl Iterator<Item = &Press> {
    presses.iter().filter(|press| press.led_to == "nothing")
}

pub(super) fn refused_sample<'a>() -> Sample<'a> {
    Box::new(|sheet, area| {
        let middle = ((area.left + area.right) / 2.0, (area.top + area.bottom) / 2.0);
        sheet.marker(middle, Marker::Cross, 4.0, TERRACOTTA);
    })
}

/// What a run comes through, hitbox and all; nothing of a trace without rows.
pub(super) fn seen_of(body: &Body, trace: &Trace) -> Option<Hitbox> {
    trace.rows.iter().map(|row| body.hitbox_at(row.feet)).reduce(|one, other| one.around(&other))
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
        if let Some(ride) = ride.filter(|ride| row.support.mover() == Some(ride.mover)) {
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
        State::Fly => stroke(CELADON, 2.6).dashed(Dash::LongShort),
        State::WallSlide => stroke(OCHRE, 2.8).dashed(Dash::LongShort),
        State::WallHold => stroke(OCHRE, 3.4),
        State::Ladder => stroke(PLUM, 3.0).dashed(Dash::Dots),
        // The test below fails for a state that comes here.
        _ => stroke(SMOKE, 1.0),
    }
}

/// A path through some rows of a trace, each with its place, by state.
pub(super) fn draw_path_of(
    sheet: &mut Sheet<'_>,
    frame: &Frame,
    trace: &Trace,
    places: impl Iterator<Item = (usize, DVec2)>,
) {
    let places: Vec<(State, u32, Point)> =
        places.map(|(row, place)| (trace.rows[row].state, trace.attempt(row), frame.at(place.x, place.y))).collect();
    let last_attempt = places.last().map_or(1, |(_, attempt, _)| *attempt);
    let mut first = 0;
    for index in 1..places.len() {
        let (state, attempt, _) = places[index];
        if places[index - 1].1 != attempt {
            // Nothing leads from one attempt to the next.
            first = index;
        }
        // A row's state governed the way that led to it.
        let ends = places.get(index + 1).is_none_or(|next| (next.0, next.1) != (state, attempt));
        if ends {
            let points: Vec<Point> = places[first..=index].iter().map(|(.., point)| *point).collect();
            let line = state_stroke(state);
            let line = if attempt < last_attempt { line.faint(EARLIER) } else { line };
            for part in frame.clip_path(&points) {
                sheet.line(&part, line);
            }
            first = index;
        }
    }
}

fn draw_events(sheet: &mut Sheet<'_>, frame: &Frame, level: &Level, trace: &Trace, presses: &[Press]) {
    let path: Vec<Point> = trace.rows.iter().map(|row| frame.at(row.feet.x, row.feet.y)).collect();
    let mut labels = labels_over(frame, level, path.clone());
    let shown = shows_defeat(trace);
    let eventful: Vec<(Point, Vec<String>)> = path
        .iter()
        .enumerate()
        .filter(|(at, _)| !shown[*at])
        .filter(|(_, point)| is_marked_here(level, frame, **point))
        .map(|(at, point)| (frame.held(*point), marked_words(level, trace, at)))
        .filter(|(_, words)| !words.is_empty())
        .collect();
    let refused: Vec<(Point, Vec<String>)> = lost(presses)
        .filter_map(|press| Some((press, path.get(press.pressed_tick as usize)?)))
        .filter(|(_, point)| is_marked_here(level, frame, **point))
        .map(|(press, point)| (frame.held(*point), vec![format!("{} press refused", press.pressed_tick)]))
        .collect();
    for (point, _) in eventful.iter().chain(&refused) {
        labels.keep_free(Area { left: point.0, right: point.0, top: point.1, bottom: point.1 }.grown(4.0));
    }
    labels.expect(eventful.len() + refused.len());
    for (point, words) in eventful.iter().chain(&refused) {
        if let Some(placed) = labels.place(*point, words) {
            labels::draw(sheet, *point, &placed, words);
        }
    }
    draw_pose_names(sheet, frame, &mut labels, trace, &path);
    for (point, _) in &eventful {
        sheet.marker(*point, Marker::Disc, 3.4, PLUM);
    }
    for (at, point) in path.iter().enumerate().filter(|(_, point)| is_marked_here(level, frame, **point)) {
        for (_, marker, colour) in trace.round_events(at).iter().filter_map(mark_of) {
            sheet.marker(frame.held(*point), marker, 5.0, colour);
        }
    }
    for (point, _) in &refused {
        sheet.marker(*point, Marker::Cross, 4.0, TERRACOTTA);
    }
}

/// Writes the name of each pose beside the middle of the way on which it is shown, where that is long enough and there is room.
fn draw_pose_names(sheet: &mut Sheet<'_>, frame: &Frame, labels: &mut Labels, trace: &Trace, path: &[Point]) {
    labels.stay_near();
    let rows = Vec::from_iter(0..trace.shown.len());
    let goes_on = |one: &usize, next: &usize| {
        trace.shown[*one].pose == trace.shown[*next].pose && trace.attempt(*one) == trace.attempt(*next)
    };
    for stretch in rows.chunk_by(goes_on) {
        let way = &path[stretch[0]..stretch[0] + stretch.len()];
        let words = [trace.shown[stretch[0]].pose.clone()];
        let length: f64 = way.windows(2).map(|two| (two[1].0 - two[0].0).hypot(two[1].1 - two[0].1)).sum();
        let middle = way[way.len() / 2];
        if words[0].is_empty() || length < text_width(&words[0], 12.0) + 12.0 || !frame.area.contains(middle) {
            continue;
        }
        if let Some(placed) = labels.place(middle, &words) {
            labels::draw(sheet, middle, &placed, &words);
        }
    }
}

/// Whether in a row a defeat was only shown: what the body does then is of no interest.
fn shows_defeat(trace: &Trace) -> Vec<bool> {
    let mut shows = false;
    let mut is = |at: usize| {
        let events = trace.round_events(at);
        let shown = shows && events.is_empty();
        shows = events.iter().fold(shows, |shows, event| match event {
            RoundEvent::Defeated(_) => true,
            RoundEvent::Restarted(_) => false,
            _ => shows,
        });
        shown
    };
    (0..trace.rows.len()).map(&mut is).collect()
}

/// What is written beside the path at a row: its events with the tick.
fn marked_words(level: &Level, trace: &Trace, at: usize) -> Vec<String> {
    let round_events = trace.round_events(at);
    let is_marked = |event: &&Event| match event {
        // Steps are seen on the path, and would take the place of what is not.
        Event::SteppedUp | Event::SteppedDown => false,
        Event::Entered(zone) | Event::Left(zone) if !trace.rounds.is_empty() => {
            // Of these the round says what came of it.
            let is_own = matches!(zone.kind, ZoneKind::Own(_)) && !are_gates(level, zone.kind);
            is_own && !round_events.contains(&RoundEvent::Took(*zone))
        }
        _ => true,
    };
    let row = &trace.rows[at];
    let of_motion = row.events.iter().filter(is_marked).map(|event| words_for(event, trace));
    let of_view = trace.view_events(at).iter().map(ToString::to_string);
    let of_round = round_events.iter().map(|event| trace.names.round_event(event));
    of_motion.chain(of_view).chain(of_round).map(|words| format!("{} {words}", row.tick)).collect()
}

/// Whether something at a point is marked in this frame. What happens outside the map is marked where the path leaves
/// it; what another frame shows is marked there.
pub(super) fn is_marked_here(level: &Level, frame: &Frame, point: Point) -> bool {
    frame.area.grown(12.0).contains(point) || !in_map(level, frame, point)
}

/// Whether a point of the page, in the coordinates of a frame, is within the level.
fn in_map(level: &Level, frame: &Frame, point: Point) -> bool {
    let (from, to) = (frame.at(0.0, 0.0), frame.at(level.grid.width(), level.grid.height()));
    Area { left: from.0, top: from.1, right: to.0, bottom: to.1 }.contains(point)
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

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn every_state_has_a_line_of_its_own() {
        let drawn = State::ALL.map(|state| format!("{:?}", state_stroke(state)));
        for (index, line) in drawn.iter().enumerate() {
            assert!(!drawn[..index].contains(line), "{} is drawn as another state", State::ALL[index]);
            assert_ne!(*line, format!("{:?}", stroke(SMOKE, 1.0)), "{} has no line", State::ALL[index]);
        }
    }
}
