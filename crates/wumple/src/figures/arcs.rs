use super::Figure;
use super::frame::{Frame, Vertical};
use super::labels::{self, Labels};
use super::sheet::{
    Area, Dash, INK, LegendEntry, Marker, Point, SMOKE, Sheet, Words, legend, line_sample, series, stroke, text_width,
};
use crate::analysis::{ArcKind, ArcsReport, JumpArc, TuningArcs};
use crate::units::short;

/// The part of the page that data gets.
const AREA: Area = Area { left: 76.0, top: 96.0, right: 1204.0, bottom: 722.0 };

/// Draws the arcs of one or several tunings: height over distance, at one
/// scale, the running jump with the band down to the tap, and the standing jump as the line above the take-off.
#[must_use]
pub fn arcs_figure(report: &ArcsReport) -> Figure {
    let names: Vec<&str> = report.tunings.iter().map(|tuning| tuning.name.as_str()).collect();
    let title = format!("Jump arcs of {}", names.join(", "));
    let caption = caption_of(report);
    Sheet::page(&Words { title: &title, caption: &caption }, |sheet| draw(sheet, report))
}

/// Rate and scheme of each tuning, and what the drawing means; hitboxes only where there is room.
fn caption_of(report: &ArcsReport) -> String {
    let loops: Vec<String> = report.tunings.iter().map(loop_of).collect();
    let every = dot_every(report);
    let shades = report.tunings.iter().any(|tuning| hop_below(tuning).is_some());
    let shaded = if shades { "; shaded: what letting go earlier gives" } else { "" };
    let drawn = format!("; a dot every {every} ticks{shaded}");
    let hitboxes = report.tunings.iter().map(|tuning| (short(tuning.body.width), short(tuning.body.height)));
    let mut hitboxes: Vec<String> = hitboxes.map(|(width, height)| format!("{width} x {height} px")).collect();
    hitboxes.dedup();
    let long = format!("{}; hitbox {}{drawn}", loops.join("; "), hitboxes.join(", "));
    if text_width(&long, 12.0) < 1232.0 { long } else { loops.join("; ") + &drawn }
}

/// Rate, scheme and tile of a tuning.
pub(super) fn loop_of(tuning: &TuningArcs) -> String {
    let (rate, tile) = (short(tuning.rate_hz), short(tuning.tile_px));
    format!("{}: {rate} Hz, scheme {}, a tile is {tile} px", tuning.name, tuning.scheme)
}

/// At most two dozen dots to a jump, at a round number of ticks, the same for all.
fn dot_every(report: &ArcsReport) -> u64 {
    let running = report.tunings.iter().filter_map(|tuning| tuning.arc(ArcKind::Running));
    let ticks = running.map(|arc| arc.air_ticks).max().unwrap_or(1);
    [1, 2, 5, 10, 20, 50, 100, 200, 500].into_iter().find(|every| ticks / every <= 24).unwrap_or(1000)
}

fn draw(sheet: &mut Sheet<'_>, report: &ArcsReport) {
    let arcs = || report.tunings.iter().flat_map(|tuning| &tuning.arcs);
    let tile = report.tunings.first().map_or(16.0, |tuning| tuning.tile_px);
    let reach = arcs().map(|arc| arc.reach_px).fold(tile, f64::max);
    let body = report.tunings.iter().map(|tuning| tuning.body.height).fold(0.0, f64::max);
    let highest =
        |kind: ArcKind| arcs().filter(|arc| arc.kind == kind).map(|arc| arc.apex_height_px).fold(0.0, f64::max);
    let apex = (highest(ArcKind::Running) + body).max(highest(ArcKind::Air));
    let frame = Frame::fit(AREA, (-tile, reach + tile), (-0.6 * tile, apex + 0.5 * tile), Vertical::Heights, true);

    frame.grid(sheet, tile);
    if let Some(ground) = frame.cut((-1e6, 1e6), (-1e6, 0.0)) {
        sheet.fill_area(&ground, SMOKE, 0.35);
        sheet.line(&[(ground.left, ground.top), (ground.right, ground.top)], stroke(INK, 1.2));
    }
    let mut boxes: Vec<Area> = report.tunings.iter().flat_map(|tuning| hitboxes(&frame, tuning)).collect();
    boxes.sort_by(|a, b| a.left.total_cmp(&b.left).then(a.top.total_cmp(&b.top)));
    boxes.dedup_by(|a, b| {
        (a.left - b.left).abs() < 0.5 && (a.top - b.top).abs() < 0.5 && (a.right - b.right).abs() < 0.5
    });
    for area in &boxes {
        sheet.fill_area(area, SMOKE, 0.12);
        sheet.outline(area, stroke(SMOKE, 1.0).faint(0.7));
    }
    for (index, tuning) in report.tunings.iter().enumerate() {
        draw_arcs(sheet, &frame, tuning, index, dot_every(report));
    }
    draw_labels(sheet, &frame, report);
    frame.sides(sheet, tile, ("tiles from the take-off", "height of the feet, tiles"));
    let entries: Vec<LegendEntry<'_>> = report
        .tunings
        .iter()
        .enumerate()
        .map(|(index, tuning)| {
            let (colour, dash, _) = series(index);
            LegendEntry { words: &tuning.name, sample: line_sample(stroke(colour, 2.2).dashed(dash)) }
        })
        .collect();
    legend(sheet, AREA.right, 62.0, &entries);
}

/// The running jump with its dots, the band between it and the tap, and straight up the standing jump,
/// with the air jump above it; the jump off a wall that stands at the take-off.
fn draw_arcs(sheet: &mut Sheet<'_>, frame: &Frame, tuning: &TuningArcs, index: usize, dot_every: u64) {
    let (colour, dash, marker) = series(index);
    let Some(running) = tuning.arc(ArcKind::Running) else { return };
    let run = curve(frame, running, 0.0);
    if let Some(tap) = hop_below(tuning) {
        let hop = curve(frame, tap, run_speed(running));
        let band: Vec<Point> = run.iter().chain(hop.iter().rev()).copied().collect();
        sheet.fill(&band, colour, 0.10);
        sheet.line(&hop, stroke(colour, 1.3).dashed(Dash::Short));
    }
    sheet.line(&run, stroke(colour, 2.2).dashed(dash));
    for point in run[..run.len() - 1].iter().step_by(dot_every as usize) {
        sheet.marker(*point, marker, 2.8, colour);
    }
    if let Some(wall) = tuning.arc(ArcKind::Wall) {
        sheet.line(&curve(frame, wall, 0.0), stroke(colour, 1.3).dashed(Dash::LongShort));
    }
    // Straight up, those of several beside one another, each with its own end.
    let beside = |height: f64| {
        let (x, y) = frame.at(0.0, height);
        (x - BESIDE * index as f64, y)
    };
    if let Some(full) = tuning.arc(ArcKind::Full) {
        let top = beside(full.apex_height_px);
        sheet.line(&[beside(0.0), top], stroke(colour, 1.6));
        sheet.line(&[(top.0 - 2.5, top.1), (top.0 + 2.5, top.1)], stroke(colour, 1.6));
        if let Some(air) = tuning.arc(ArcKind::Air) {
            sheet.line(&[top, beside(air.apex_height_px)], stroke(colour, 1.3).dashed(Dash::Dots));
        }
    }
}

/// So far apart stand the jumps straight up of several tunings, px of the page.
const BESIDE: f64 = 6.0;

/// The tap, where letting go changes anything.
fn hop_below(tuning: &TuningArcs) -> Option<&JumpArc> {
    let full = tuning.arc(ArcKind::Full)?;
    tuning.arc(ArcKind::Tap).filter(|tap| tap.apex_height_px < full.apex_height_px - 1e-9)
}

fn run_speed(running: &JumpArc) -> f64 {
    if running.air_time_s > 0.0 { running.reach_px / running.air_time_s } else { 0.0 }
}

/// An arc from its take-off to its landing; a standing one as it would be at a speed. The last tick ends
/// beyond the landing, which lies between two ticks.
fn curve(frame: &Frame, arc: &JumpArc, speed: f64) -> Vec<Point> {
    let before = arc.points.iter().take_while(|point| point.tick < arc.air_ticks);
    let mut points: Vec<Point> =
        before.map(|point| frame.at(point.x_px + speed * point.time_s, point.height_px)).collect();
    points.push(frame.at(arc.reach_px + speed * arc.air_time_s, 0.0));
    points
}

/// The hitbox at the take-off, the apex and the landing of the running jump.
fn hitboxes(frame: &Frame, tuning: &TuningArcs) -> Vec<Area> {
    let Some(arc) = tuning.arcs.iter().find(|arc| arc.kind == ArcKind::Running) else { return Vec::new() };
    let half = tuning.body.half_width();
    let places = [(0.0, 0.0), apex_place(arc), (arc.reach_px, 0.0)];
    places.into_iter().filter_map(|(x, y)| frame.cut((x - half, x + half), (y, y + tuning.body.height))).collect()
}

fn apex_place(arc: &JumpArc) -> (f64, f64) {
    let share = if arc.air_time_s > 0.0 { arc.apex_time_s / arc.air_time_s } else { 0.0 };
    (arc.reach_px * share, arc.apex_height_px)
}

/// Labels at apexes and landings; the same words at the same place are said once.
fn draw_labels(sheet: &mut Sheet<'_>, frame: &Frame, report: &ArcsReport) {
    let arcs = report.tunings.iter().flat_map(|tuning| &tuning.arcs);
    let curves = arcs.filter(|arc| matches!(arc.kind, ArcKind::Running | ArcKind::Wall));
    let curves = curves.flat_map(|arc| curve(frame, arc, 0.0));
    let taps =
        report.tunings.iter().filter_map(|tuning| Some((tuning.arc(ArcKind::Tap)?, tuning.arc(ArcKind::Running)?)));
    let data = curves.chain(taps.flat_map(|(tap, running)| curve(frame, tap, run_speed(running)))).collect();
    let mut labels = Labels::new(frame.area.grown(-3.0), data);
    let ground = frame.at(0.0, 0.0).1;
    labels.avoid(&Area { top: ground - 1.0, bottom: ground + 1.0, ..frame.area }, 4.0);
    for area in report.tunings.iter().flat_map(|tuning| hitboxes(frame, tuning)) {
        labels.avoid(&area, 0.2);
    }
    let mut said: Vec<(Point, Vec<String>, Vec<&str>)> = Vec::new();
    for (index, tuning) in report.tunings.iter().enumerate() {
        for arc in &tuning.arcs {
            for (mut point, words) in marks(frame, tuning, arc) {
                if arc.kind == ArcKind::Air {
                    point.0 -= BESIDE * index as f64;
                }
                match said.iter_mut().find(|(_, other, _)| *other == words) {
                    Some((_, _, names)) => names.push(&tuning.name),
                    None => said.push((point, words, vec![&tuning.name])),
                }
            }
        }
    }
    let several = report.tunings.len() > 1;
    for (point, mut words, mut names) in said {
        names.dedup();
        if several {
            words.insert(0, names.join(", "));
        }
        labels.keep_free(Area { left: point.0, top: point.1, right: point.0, bottom: point.1 }.grown(5.0));
        sheet.marker(point, Marker::Disc, 4.2, INK);
        if let Some(placed) = labels.place(point, &words) {
            labels::draw(sheet, point, &placed, &words);
        }
    }
}

fn marks(frame: &Frame, tuning: &TuningArcs, arc: &JumpArc) -> Vec<(Point, Vec<String>)> {
    let length = |what: &str, px: f64| format!("{what}{} tiles ({} px)", short(px / tuning.tile_px), short(px));
    let time = |seconds: f64, tick: u64| format!("{} s, tick {tick}", short(seconds));
    let (x, y) = apex_place(arc);
    let apex = (frame.at(x, y), vec![length("apex ", arc.apex_height_px), time(arc.apex_time_s, arc.apex_tick)]);
    match arc.kind {
        ArcKind::Running => {}
        ArcKind::Tap if hop_below(tuning).is_none() => return Vec::new(),
        ArcKind::Tap => {
            let running = tuning.arc(ArcKind::Running);
            let at = running.map_or(0.0, |running| run_speed(running) * arc.apex_time_s);
            return vec![(frame.at(at, y), vec![length("tap ", arc.apex_height_px)])];
        }
        ArcKind::Air => return vec![(apex.0, vec![length("with an air jump ", arc.apex_height_px)])],
        ArcKind::Wall => {
            let there = arc.points.iter().find(|point| point.tick == arc.apex_tick).map_or(0.0, |point| point.x_px);
            return vec![(frame.at(there, y), vec![length("off a wall ", arc.apex_height_px)])];
        }
        _ => return Vec::new(),
    }
    let speed = format!("at {} px/s", short(arc.landing_speed_px_s));
    let landing = vec![length("reach ", arc.reach_px), time(arc.air_time_s, arc.air_ticks), speed];
    vec![apex, (frame.at(arc.reach_px, 0.0), landing)]
}
