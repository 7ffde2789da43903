use super::Figure;
use super::button_bars::{BAR, ButtonBars, STRIP};
use super::panel::Panel;
use super::run::{lost, refused_sample, state_entries, state_stroke};
use super::sheet::{
    Align, Area, COBALT, Colour, Dash, INK, LegendEntry, Marker, PLUM, Point, Sheet, TERRACOTTA, Words, legend,
    line_sample, stroke,
};
use crate::files::{Level, Timeline, TuningFile};
use crate::trace::Trace;
use crate::units::short;
use crate::why::Press;
use wumple_core::{Event, RoundEvent, State, TickReport};

const LEFT: f64 = 92.0;
const RIGHT: f64 = 1190.0;
/// Draws a run against time: the height of the feet, both speeds, the state, and the buttons as bars
/// beneath. Heights are above the lowest place of the run; upward speeds are positive.
///
/// Presses of jump that led to nothing are crosses on top, if they are known (from a [`WhyLog`](crate::why::WhyLog)).
#[must_use]
pub fn run_time_figure(
    level: &Level,
    tuning: &TuningFile,
    trace: &Trace,
    timeline: &Timeline,
    presses: &[Press],
) -> Figure {
    let title = format!("{} over time: {}", level.name, tuning.name);
    let last = trace.rows.last().map_or(0, |row| row.tick);
    let caption = format!(
        "{last} ticks; {} Hz, scheme {}; height of the feet above the lowest place of the run; jumps at the strokes \
         on top",
        short(trace.rate),
        tuning.tuning.scheme().name()
    );
    Sheet::page(&Words { title: &title, caption: &caption }, |sheet| draw(sheet, tuning, trace, timeline, presses))
}

fn draw(sheet: &mut Sheet<'_>, tuning: &TuningFile, trace: &Trace, timeline: &Timeline, presses: &[Press]) {
    let rate = trace.rate;
    let x = (0.0, (trace.rows.len() as f64 - 1.0).max(1.0) / rate);
    let bars = ButtonBars::new(timeline, trace.rows.len() as u64 - 1);
    let named = named_strips(trace);
    let top = 716.0 - named.len() as f64 * STRIP - bars.height();
    let strips = Area { left: LEFT, right: RIGHT, top, bottom: 716.0 };
    let half = (strips.top - 104.0 - 52.0) / 2.0;
    let feet = |of: fn(f64, f64) -> f64, from: f64| trace.rows.iter().map(|row| row.feet.y).fold(from, of);
    let (highest, lowest) = (feet(f64::min, f64::INFINITY), feet(f64::max, f64::NEG_INFINITY));
    let tile = tuning.scale.tile;
    let tall = (lowest - highest).max(tile);
    let fastest = trace.rows.iter().map(|row| row.velocity.abs().max_element()).fold(tile, f64::max);
    let heights =
        Panel { area: Area { left: LEFT, right: RIGHT, top: 104.0, bottom: 104.0 + half }, x, y: (0.0, tall * 1.12) };
    let speeds = Panel {
        area: Area { left: LEFT, right: RIGHT, top: 130.0 + half, bottom: 130.0 + 2.0 * half },
        x,
        y: (-fastest * 1.1, fastest * 1.1),
    };
    heights.times(sheet, None);
    speeds.times(sheet, None);
    heights.ticks(sheet, rate, "tick");
    heights.levels(sheet, tile, ("height, tiles", "px"));
    speeds.levels(sheet, tile, ("speed, tiles/s", "px/s"));
    let zero = speeds.at(0.0, 0.0).1;
    sheet.line(&[(LEFT, zero), (RIGHT, zero)], stroke(INK, 1.0));

    let time = |row: &wumple_core::TickReport| row.tick as f64 / rate;
    draw_heights(sheet, &heights, trace, lowest);
    let series = |value: fn(&wumple_core::TickReport) -> f64| -> Vec<Point> {
        trace.rows.iter().map(|row| speeds.at(time(row), value(row))).collect()
    };
    let (along, upward) = (stroke(COBALT, 2.0), stroke(TERRACOTTA, 2.0).dashed(Dash::Long));
    sheet.line(&series(|row| row.velocity.x), along);
    sheet.line(&series(|row| -row.velocity.y), upward);
    for row in trace.rows.iter().filter(|row| row.events.iter().any(|event| matches!(event, Event::Jumped(_)))) {
        let x = heights.at(time(row), 0.0).0;
        sheet.line(&[(x, heights.area.top), (x, heights.area.top + 9.0)], stroke(PLUM, 2.2));
    }
    for (at, row) in trace.rows.iter().enumerate() {
        if trace.round_events(at).iter().any(|event| matches!(event, RoundEvent::Hurt { .. } | RoundEvent::Defeated(_)))
        {
            let x = heights.at(time(row), 0.0).0;
            sheet.marker((x, heights.area.bottom - 6.0), Marker::Triangle, 4.0, TERRACOTTA);
        }
    }
    for press in lost(presses) {
        let x = heights.at(press.pressed_tick as f64 / rate, 0.0).0;
        sheet.marker((x, heights.area.top + 6.0), Marker::Cross, 3.6, TERRACOTTA);
    }
    Panel { area: strips, x, y: (0.0, 1.0) }.times(sheet, Some("seconds"));
    let at = |row: f64| heights.at(row / rate, 0.0).0;
    draw_named_strips(sheet, &named, strips.top, at);
    bars.draw(sheet, (LEFT, RIGHT, strips.top + named.len() as f64 * STRIP), at);

    let mut entries = vec![
        LegendEntry { words: "sideways speed", sample: line_sample(along) },
        LegendEntry { words: "upward speed", sample: line_sample(upward) },
    ];
    let is_hurt = |event: &RoundEvent| matches!(event, RoundEvent::Hurt { .. } | RoundEvent::Defeated(_));
    if trace.rounds.iter().any(|round| round.events.iter().any(is_hurt)) {
        let sample = |sheet: &mut Sheet<'_>, area: &Area| {
            let middle = ((area.left + area.right) / 2.0, (area.top + area.bottom) / 2.0);
            sheet.marker(middle, Marker::Triangle, 4.0, TERRACOTTA);
        };
        entries.push(LegendEntry { words: "hurt or defeated", sample: Box::new(sample) });
    }
    if lost(presses).next().is_some() {
        entries.push(LegendEntry { words: "press refused", sample: refused_sample() });
    }
    entries.extend(state_entries(trace, &Vec::from_iter(1..trace.rows.len())));
    legend(sheet, RIGHT, 62.0, &entries);
}

/// The height of the feet, each stretch in the line of its state.
fn draw_heights(sheet: &mut Sheet<'_>, panel: &Panel, trace: &Trace, lowest: f64) {
    for (state, first, last) in stretches(trace) {
        // Nothing leads from one attempt to the next.
        let from =
            first.checked_sub(1).filter(|before| trace.attempt(*before) == trace.attempt(first)).unwrap_or(first);
        let points: Vec<Point> = trace.rows[from..=last]
            .iter()
            .map(|row| panel.at(row.tick as f64 / trace.rate, lowest - row.feet.y))
            .collect();
        sheet.line(&points, state_stroke(state));
    }
}

/// Rows of one state in a row: the state, the first and the last.
fn stretches(trace: &Trace) -> Vec<(State, usize, usize)> {
    let of_attempts = stretches_of(trace, |row| Some((row.state, trace.attempt(row.tick as usize))));
    of_attempts.into_iter().map(|((state, _), first, last)| (state, first, last)).collect()
}

fn stretches_of<V: PartialEq>(trace: &Trace, of: impl Fn(&TickReport) -> Option<V>) -> Vec<(V, usize, usize)> {
    let mut stretches: Vec<(V, usize, usize)> = Vec::new();
    for (index, row) in trace.rows.iter().enumerate().skip(1) {
        let Some(value) = of(row) else { continue };
        match stretches.last_mut().filter(|(before, _, last)| *before == value && last + 1 == index) {
            Some(stretch) => stretch.2 = index,
            None => stretches.push((value, index, index)),
        }
    }
    stretches
}

/// A strip of bars with words in them.
struct NamedStrip {
    label: &'static str,
    bars: Vec<NamedBar>,
}

struct NamedBar {
    words: String,
    colour: Colour,
    first: usize,
    last: usize,
}

/// The states, the platforms and props ridden, the attempts, the poses and their pictures: those that there are.
fn named_strips(trace: &Trace) -> Vec<NamedStrip> {
    let attempt_of = |row: &TickReport| trace.attempt(row.tick as usize);
    let shown = |row: &TickReport| trace.shown.get(row.tick as usize).filter(|shown| !shown.pose.is_empty());
    // A pose that goes on over a restart begins anew.
    let pose = |row: &TickReport| Some((&shown(row)?.pose, attempt_of(row)));
    let clip = |row: &TickReport| Some((pose(row)?, shown(row)?.picture));
    let many_attempts = trace.rounds.last().is_some_and(|last| last.attempt > 1);
    let strips = [
        named_strip(
            trace,
            "state",
            |row| Some((row.state, attempt_of(row))),
            |(state, _)| (state_stroke(*state).colour, state.name().to_owned()),
        ),
        named_strip(trace, "rides", |row| row.support.mover(), |mover| (PLUM, trace.names.mover(*mover))),
        named_strip(
            trace,
            "attempt",
            |row| many_attempts.then(|| attempt_of(row)),
            |attempt| (COBALT, attempt.to_string()),
        ),
        named_strip(trace, "pose", pose, |(pose, _)| (COBALT, (*pose).clone())),
        named_strip(trace, "picture", clip, |(_, picture)| {
            (if picture % 2 == 0 { COBALT } else { TERRACOTTA }, picture.to_string())
        }),
    ];
    strips.into_iter().filter(|strip| !strip.bars.is_empty()).collect()
}

/// A bar for each stretch of rows of which the same is told.
fn named_strip<V: PartialEq>(
    trace: &Trace,
    label: &'static str,
    of: impl Fn(&TickReport) -> Option<V>,
    drawn: impl Fn(&V) -> (Colour, String),
) -> NamedStrip {
    let bar = |(value, first, last)| {
        let (colour, words) = drawn(&value);
        NamedBar { words, colour, first, last }
    };
    NamedStrip { label, bars: stretches_of(trace, of).into_iter().map(bar).collect() }
}

/// Draws strips beneath each other; `at` is where the end of a row is.
fn draw_named_strips(sheet: &mut Sheet<'_>, strips: &[NamedStrip], top: f64, at: impl Fn(f64) -> f64) {
    for (index, strip) in strips.iter().enumerate() {
        let top = top + index as f64 * STRIP;
        let bottom = top + BAR;
        sheet.text((LEFT - 9.0, bottom - 3.0), 11.0, Align::Right, strip.label);
        for NamedBar { words, colour, first, last } in &strip.bars {
            let area = Area { left: at(*first as f64 - 1.0), right: at(*last as f64), top, bottom };
            sheet.fill_area(&area, *colour, 0.3);
            sheet.outline(&area, stroke(*colour, 0.8));
            if super::sheet::text_width(words, 10.0) + 6.0 < area.width() {
                sheet.text(((area.left + area.right) / 2.0, bottom - 3.5), 10.0, Align::Middle, words);
            }
        }
    }
}
