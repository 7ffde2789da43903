use super::Figure;
use super::arcs::loop_of;
use super::panel::Panel;
use super::sheet::{
    Align, Area, COBALT, LegendEntry, OCHRE, Point, Series, Sheet, TERRACOTTA, Words, legend, line_sample, series,
    stroke,
};
use crate::analysis::{ArcKind, ArcPoint, ArcsReport, JumpArc, TuningArcs};

const LEFT: f64 = 84.0;
const RIGHT: f64 = 1196.0;

/// Draws the full jump of each tuning against time: height above, vertical speed beneath, with the phases
/// of the first tuning's jump (rise, hang, fall) marked.
pub fn time_figure(report: &ArcsReport) -> Figure {
    let names: Vec<&str> = report.tunings.iter().map(|tuning| tuning.name.as_str()).collect();
    let title = format!("Full jump over time: {}", names.join(", "));
    let captions: Vec<String> = report.tunings.iter().map(loop_of).collect();
    let first = names.first().copied().unwrap_or_default();
    let caption = format!("{}; phases are those of {first}; a dot each tick", captions.join("; "));
    Sheet::page(&Words { title: &title, caption: &caption }, |sheet| draw(sheet, report))
}

fn draw(sheet: &mut Sheet<'_>, report: &ArcsReport) {
    let jumps: Vec<(&TuningArcs, &JumpArc)> =
        report.tunings.iter().filter_map(|tuning| Some((tuning, tuning.arc(ArcKind::Full)?))).collect();
    let Some((first, jump)) = jumps.first() else { return };
    let most = |value: fn(&JumpArc) -> f64| jumps.iter().map(|(_, arc)| value(arc)).fold(0.0, f64::max);
    let x = (0.0, most(|arc| arc.air_time_s) * 1.04);
    let height = most(|arc| arc.apex_height_px);
    let (up, down) = (most(|arc| arc.take_off_speed_px_s), most(|arc| arc.landing_speed_px_s));
    let heights =
        Panel { area: Area { left: LEFT, right: RIGHT, top: 104.0, bottom: 420.0 }, x, y: (0.0, height * 1.12) };
    let speeds =
        Panel { area: Area { left: LEFT, right: RIGHT, top: 446.0, bottom: 716.0 }, x, y: (-down * 1.12, up * 1.12) };
    for panel in [&heights, &speeds] {
        draw_phases(sheet, panel, first, jump, panel.area.top == heights.area.top);
    }
    heights.times(sheet, None);
    speeds.times(sheet, Some("seconds from the start of the take-off tick"));
    heights.ticks(sheet, first.rate_hz, "tick");
    heights.levels(sheet, first.tile_px, ("height, tiles", "px"));
    speeds.levels(sheet, first.tile_px, ("upward speed, tiles/s", "px/s"));
    let zero = speeds.at(0.0, 0.0).1;
    sheet.line(&[(LEFT, zero), (RIGHT, zero)], stroke(super::sheet::INK, 1.0));
    for (index, (_, arc)) in jumps.iter().enumerate() {
        let series = series(index);
        draw_line(sheet, &heights, arc, series, 0.0, |point| point.height_px);
        draw_line(sheet, &speeds, arc, series, -arc.landing_speed_px_s, |point| point.upward_speed_px_s);
    }
    let mut entries: Vec<LegendEntry<'_>> = Vec::new();
    if jumps.len() > 1 {
        entries.extend(jumps.iter().enumerate().map(|(index, (tuning, _))| {
            let (colour, dash, _) = series(index);
            LegendEntry { words: &tuning.name, sample: line_sample(stroke(colour, 2.2).dashed(dash)) }
        }));
    }
    legend(sheet, RIGHT, 62.0, &entries);
}

fn draw_line(
    sheet: &mut Sheet<'_>,
    panel: &Panel,
    arc: &JumpArc,
    (colour, dash, marker): Series,
    at_landing: f64,
    value: impl Fn(&ArcPoint) -> f64,
) {
    let until = |point: &&ArcPoint| point.tick < arc.air_ticks;
    let points: Vec<Point> =
        arc.points.iter().take_while(until).map(|point| panel.at(point.time_s, value(point))).collect();
    let landing = panel.at(arc.air_time_s, at_landing);
    let line: Vec<Point> = points.iter().copied().chain([landing]).collect();
    sheet.line(&line, stroke(colour, 2.2).dashed(dash));
    for point in &points {
        sheet.marker(*point, marker, 2.4, colour);
    }
}

/// The bands of rise, hang and fall, named in the upper panel.
fn draw_phases(sheet: &mut Sheet<'_>, panel: &Panel, tuning: &TuningArcs, arc: &JumpArc, named: bool) {
    let hang = tuning.hang_speed_px_s;
    let (begin, end) = (time_of_speed(arc, hang), time_of_speed(arc, -hang));
    let mut phases = vec![(0.0, begin, "rise", COBALT), (end, arc.air_time_s, "fall", TERRACOTTA)];
    if hang > 0.0 {
        phases.push((begin, end, "hang", OCHRE));
    }
    for (from, to, name, colour) in phases {
        let (left, right) = (panel.at(from, 0.0).0, panel.at(to, 0.0).0);
        let band = Area { left, right, top: panel.area.top, bottom: panel.area.bottom };
        sheet.fill_area(&band, colour, 0.08);
        if named {
            sheet.text(((left + right) / 2.0, panel.area.top + 16.0), 12.0, Align::Middle, name);
        }
    }
}

/// When the upward speed falls to a value, between two ticks if need be; the landing if it never does.
fn time_of_speed(arc: &JumpArc, speed: f64) -> f64 {
    let pairs = arc.points.windows(2).find(|pair| pair[1].upward_speed_px_s <= speed);
    let Some([before, after]) = pairs else { return arc.air_time_s };
    let fallen = before.upward_speed_px_s - after.upward_speed_px_s;
    let share = if fallen > 0.0 { (before.upward_speed_px_s - speed) / fallen } else { 1.0 };
    (before.time_s + share.clamp(0.0, 1.0) * (after.time_s - before.time_s)).min(arc.air_time_s)
}
