use super::Figure;
use super::panel::Panel;
use super::sheet::{
    Area, COBALT, LegendEntry, Marker, SMOKE, Sheet, Stroke, TERRACOTTA, Words, legend, line_sample, stroke,
};
use crate::analysis::MatchReport;
use crate::files::{RecordedRow, Recording};

const LEFT: f64 = 92.0;
const RIGHT: f64 = 1204.0;
/// The two panels: heights above, ways below.
const UPPER: Area = Area { left: LEFT, right: RIGHT, top: 104.0, bottom: 388.0 };
const LOWER: Area = Area { left: LEFT, right: RIGHT, top: 432.0, bottom: 716.0 };
/// More rows than these are drawn as a line: points would cover each other.
const MOST_POINTS: usize = 700;

/// Draws a recording over time, its heights and its ways, and over it the controller's own motion with the numbers found.
#[must_use]
pub fn match_figure(recording: &Recording, report: &MatchReport) -> Figure {
    let shown = |key: &str, name: &str| {
        let number = report.number(key)?;
        let value = number.value / report.tile_px;
        Some(format!("{name} {value:.2} {}", number.unit.replace("px", "tiles")))
    };
    let told: Vec<String> =
        [shown("jump.height", "a jump of"), shown("run.top_speed", "a run of")].into_iter().flatten().collect();
    let caption = format!(
        "{} rows; {} of its flights and runs follow the numbers{}{}",
        report.rows,
        report.pieces.len(),
        if told.is_empty() { "" } else { ": " },
        told.join(", ")
    );
    let title = format!("{}: the recording, and the tuning found from it", report.recording);
    Sheet::page(&Words { title: &title, caption: &caption }, |sheet| {
        draw(sheet, recording, report, (UPPER, "height, tiles", true), None);
        draw(sheet, recording, report, (LOWER, "to the right, tiles", false), Some("time, s"));
        let entries = vec![
            LegendEntry {
                words: "the recording",
                sample: match is_long(recording) {
                    true => line_sample(recorded()),
                    false => Box::new(|sheet, area| {
                        let middle = ((area.left + area.right) / 2.0, (area.top + area.bottom) / 2.0);
                        sheet.marker(middle, Marker::Disc, 2.2, SMOKE);
                    }),
                },
            },
            LegendEntry { words: "jumps and falls as found", sample: line_sample(upright()) },
            LegendEntry { words: "run-ups, stops and turns as found", sample: line_sample(along()) },
        ];
        legend(sheet, RIGHT, 62.0, &entries);
    })
}

/// Whether its rows are drawn as a line.
fn is_long(recording: &Recording) -> bool {
    recording.rows.len() > MOST_POINTS
}

fn recorded() -> Stroke {
    stroke(SMOKE, 3.4).faint(0.55)
}

fn upright() -> Stroke {
    stroke(TERRACOTTA, 2.4)
}

fn along() -> Stroke {
    stroke(COBALT, 2.4)
}

fn draw(
    sheet: &mut Sheet<'_>,
    recording: &Recording,
    report: &MatchReport,
    (area, name, is_upright): (Area, &str, bool),
    times: Option<&str>,
) {
    let (rate, tile) = (report.rate_hz, report.tile_px);
    let place = |row: &RecordedRow| if is_upright { row.y } else { row.x };
    let places = recording.rows.iter().map(place);
    let (low, high) =
        places.fold((f64::INFINITY, f64::NEG_INFINITY), |(low, high), place| (low.min(place), high.max(place)));
    let margin = ((high - low) * 0.06).max(0.25 * tile);
    let (first, last) = (recording.rows[0].tick, recording.rows[recording.rows.len() - 1].tick);
    let y = ((low - margin) / tile, (high + margin) / tile);
    let panel = Panel { area, x: (first as f64 / rate, last as f64 / rate), y };
    panel.times(sheet, times);
    panel.values(sheet, name);
    let at = |tick: i64, place: f64| panel.at(tick as f64 / rate, place / tile);
    let points: Vec<_> = recording.rows.iter().map(|row| at(row.tick, place(row))).collect();
    if is_long(recording) {
        sheet.line(&points, recorded());
    } else {
        points.iter().for_each(|point| sheet.marker(*point, Marker::Disc, 2.2, SMOKE));
    }
    for piece in report.pieces.iter().filter(|piece| piece.is_upright == is_upright) {
        let points: Vec<_> = piece.replay.iter().map(|(tick, place)| at(*tick, *place)).collect();
        sheet.line(&points, if is_upright { upright() } else { along() });
    }
}
