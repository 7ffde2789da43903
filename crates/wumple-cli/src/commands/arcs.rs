use std::path::{Path, PathBuf};

use clap::Args;
use serde::Serialize;
use wumple::analysis::{
    ArcKind, ArcsReport, FlightMeasures, FourWayMeasures, JumpArc, LevelArc, TuningArcs, WalkMeasures, level_arcs,
};
use wumple::figures::{arcs_figure, flight_figure, level_arcs_figure, time_figure};
use wumple::units::short;
use wumple::{Level, TuningFile};

use crate::failure::Failure;
use crate::files::{Files, Maps, Meant};
use crate::options::{self, Format, PageOptions};
use crate::output;
use crate::pictures::Pictures;
use crate::say::say;
use crate::table;
use crate::watch::{Fact, Outcome, Watch};

/// Measures the jumps of a tuning: height, reach and time, in tiles and px
///
/// Prints a row for each jump: `tap` and `full` from standing, `running` at top speed, `air` with an air
/// jump at the moment that takes it highest, `ledge` off an edge at top speed, jumping in the last tick that
/// coyote time admits. Several tunings are put side by side, with a table of what differs.
#[derive(Args)]
#[command(after_help = "Examples, on what `wumple demo` writes:\n  \
    wumple arcs wumple-demo/dab.tuning.toml --figure arcs.svg --time-figure time.svg\n  \
    wumple arcs wumple-demo/dab.tuning.toml --level wumple-demo/throwing-room.level.toml \\\n      \
    --at 8,14 --figure there.svg")]
pub(crate) struct Arcs {
    /// Tuning files (*.tuning.toml) [default: the project's]
    #[arg(value_name = "TUNING")]
    tunings: Vec<PathBuf>,
    /// Draw the arcs into this file (.svg or .png); of those that fly and do not jump, heights over time
    #[arg(long, value_name = "FILE", value_parser = options::figure_path)]
    figure: Option<PathBuf>,
    #[command(flatten)]
    pictures: Pictures,
    /// Draw height and vertical speed against time into this file (.svg or .png)
    #[arg(long, value_name = "FILE", value_parser = options::figure_path, conflicts_with = "level")]
    time_figure: Option<PathBuf>,
    /// Write every tick of every arc to this file (.csv, or .jsonl for JSON Lines)
    #[arg(long, value_name = "FILE", value_parser = options::trace_path, conflicts_with = "level")]
    points: Option<PathBuf>,
    /// Start the arcs in this level (*.level.toml), where the level stops them; with --at
    #[arg(long, value_name = "FILE", requires = "at")]
    level: Option<PathBuf>,
    #[command(flatten)]
    maps: Maps,
    #[command(flatten)]
    page: PageOptions,
    /// The tile that the feet stand in, at the middle of its bottom edge
    #[arg(long, value_name = "COLUMN,ROW", value_parser = options::place, requires = "level")]
    at: Option<(u32, u32)>,
    /// How to print the numbers
    #[arg(long, value_enum, default_value_t)]
    format: Format,
    #[command(flatten)]
    watch: Watch,
}

/// The arcs in a level as JSON.
#[derive(Serialize)]
struct LevelReport<'a> {
    format: &'static str,
    level: &'a str,
    arcs: &'a [LevelArc],
}

impl Arcs {
    pub(crate) fn execute(&self) -> Result<(), Failure> {
        self.watch.run(|files, prints| self.once(files, prints), &self.maps, &self.pictures, self.format)
    }

    fn once(&self, files: &Files, prints: bool) -> Result<Outcome, Failure> {
        let meant =
            if self.tunings.is_empty() { vec![files.needed(None, Meant::Tuning)?] } else { self.tunings.clone() };
        let tunings = meant.iter().map(|path| files.tuning(path)).collect::<Result<Vec<_>, _>>()?;
        if let (Some(level), Some(at)) = (&self.level, self.at) {
            return self.in_level(files, &files.level(level)?, at, &tunings, prints);
        }
        let report = wumple::arcs(&tunings);
        for tuning in report.tunings.iter().filter(|tuning| tuning.is_empty()) {
            say(format_args!("{} has no [jump]: there are no arcs", tuning.name));
        }
        for tuning in &tunings {
            wumple::analysis::rounding_of(tuning).iter().for_each(|words| say(format_args!("note: {words}")));
        }
        match self.format {
            _ if !prints => {}
            Format::Table => output::print(&tables(&report))?,
            Format::Json => output::print_json(&report)?,
            Format::Csv => output::print(&report.to_csv())?,
        }
        if let Some(path) = &self.points {
            self.write_points(files, path, &report)?;
        }
        files.figure(self.figure.as_deref(), || {
            let jumps = report.tunings.iter().any(|tuning| !tuning.arcs.is_empty());
            flight_figure(&report).filter(|_| !jumps).unwrap_or_else(|| arcs_figure(&report))
        })?;
        if let Some(path) = &self.time_figure {
            files.write_figure(path, &time_figure(&report))?;
        }
        Ok(Outcome::of(facts(&report)))
    }

    fn write_points(&self, files: &Files, path: &Path, report: &ArcsReport) -> Result<(), Failure> {
        let lines = path.extension().is_some_and(|ending| ending == "jsonl");
        let contents = if lines { report.points_to_json_lines() } else { report.points_to_csv() };
        files.write_and_say("points", path, contents.as_bytes())
    }

    fn in_level(
        &self,
        files: &Files,
        level: &Level,
        at: (u32, u32),
        tunings: &[TuningFile],
        prints: bool,
    ) -> Result<Outcome, Failure> {
        let mut arcs = Vec::new();
        for tuning in tunings {
            let found = level_arcs(level, tuning, at).map_err(|why| Failure::Usage(format!("--at: {why}")))?;
            arcs.extend(found);
        }
        match self.format {
            _ if !prints => {}
            Format::Table => output::print(&level_table(&arcs))?,
            Format::Json => {
                output::print_json(&LevelReport { format: "wumple-level-arcs 1", level: &level.name, arcs: &arcs })?
            }
            Format::Csv => output::print(&wumple::analysis::level_arcs_to_csv(&arcs))?,
        }
        files.figure(self.figure.as_deref(), || level_arcs_figure(level, &arcs, &self.page.page()))?;
        Ok(Outcome::of(arcs.iter().flat_map(level_facts).collect()))
    }
}

/// What it is, its unit, and how it is got.
type ArcNumber = (&'static str, &'static str, fn(&JumpArc) -> f64);

/// The numbers of the jumps that are held against each other: of several tunings, and of one after it was saved.
const COMPARED: [ArcNumber; 6] = [
    ("height", "tiles", |arc| arc.apex_height_tiles),
    ("apex", "s", |arc| arc.apex_time_s),
    ("air time", "s", |arc| arc.air_time_s),
    ("reach", "tiles", |arc| arc.reach_tiles),
    ("landing", "px/s", |arc| arc.landing_speed_px_s),
    ("top quarter", "share", |arc| arc.top_quarter_share),
];

/// The numbers of each jump.
fn facts(report: &ArcsReport) -> Vec<Fact> {
    let several = report.tunings.len() > 1;
    let of_tuning = |tuning: &TuningArcs| {
        let name = if several { format!("{}, ", tuning.name) } else { String::new() };
        let arcs = tuning.arcs.iter().filter(|arc| arc.kind != ArcKind::PartHeld);
        let of_arc = |arc: &JumpArc| {
            let name = format!("{name}{}", arc.kind.name());
            COMPARED.map(|(what, unit, value)| Fact::new(format!("{name} {what}"), short(value(arc)), unit))
        };
        arcs.flat_map(of_arc).collect::<Vec<Fact>>()
    };
    report.tunings.iter().flat_map(of_tuning).collect()
}

/// The same of an arc in a level.
fn level_facts(arc: &LevelArc) -> [Fact; 3] {
    let what = |what: &str| format!("{}, {} {what}", arc.tuning, arc.jump);
    [
        Fact::new(what("height"), short(arc.apex_height_tiles), "tiles"),
        Fact::new(what("ends"), format!("{} at {},{}", arc.end, arc.end_column, arc.end_row), ""),
        Fact::new(what("takes"), short(arc.time_s), "s"),
    ]
}

/// All tables of a report: the jumps, what holding longer buys, how far at other levels, what differs.
pub(crate) fn tables(report: &ArcsReport) -> String {
    let mut text = String::new();
    for tuning in report.tunings.iter().filter(|tuning| !tuning.is_empty()) {
        let (name, scheme) = (&tuning.name, tuning.scheme);
        let (rate, tile) = (short(tuning.rate_hz), short(tuning.tile_px));
        text += &format!("{name}: {scheme} at {rate} Hz, a tile is {tile} px\n");
        if !tuning.arcs.is_empty() {
            text += &jumps(tuning);
            text += &holds(tuning);
            text += &levels(tuning);
        }
        text += &tuning.four_way.as_ref().map_or_else(String::new, |walk| four_ways(walk, tuning.tile_px));
        text += &tuning.flight.as_ref().map_or_else(String::new, |flight| self::flight(flight, tuning.tile_px));
        text += "\n";
    }
    if report.tunings.len() > 1 {
        text += &differences(report);
    }
    text.trim_end().to_owned() + "\n"
}

fn jumps(tuning: &TuningArcs) -> String {
    let head = [
        "jump",
        "height tiles",
        "height px",
        "apex s",
        "apex tick",
        "air s",
        "air ticks",
        "reach tiles",
        "reach px",
        "off px/s",
        "on px/s",
        "top quarter",
    ];
    let arcs = tuning.arcs.iter().filter(|arc| arc.kind != ArcKind::PartHeld);
    table::table(
        &head,
        arcs.map(|arc| {
            vec![
                arc.kind.name().to_owned(),
                short(arc.apex_height_tiles),
                short(arc.apex_height_px),
                short(arc.apex_time_s),
                arc.apex_tick.to_string(),
                short(arc.air_time_s),
                arc.air_ticks.to_string(),
                short(arc.reach_tiles),
                short(arc.reach_px),
                short(arc.take_off_speed_px_s),
                short(arc.landing_speed_px_s),
                format!("{:.0} %", arc.top_quarter_share * 100.0),
            ]
        }),
    )
}

/// What walking four ways does.
pub(super) fn four_ways(walk: &FourWayMeasures, tile: f64) -> String {
    let head = ["walking", "tiles/s", "to top s", "tiles", "px", "to rest s", "tiles", "px"];
    let or_never = |number: Option<f64>| number.map_or("-".to_owned(), short);
    let row = |name: &str, walk: &WalkMeasures| {
        let ways = |seconds, way: Option<f64>| [or_never(seconds), or_never(way.map(|px| px / tile)), or_never(way)];
        let (top, rest) = (ways(walk.to_top_speed_s, walk.to_top_speed_px), ways(walk.to_rest_s, walk.to_rest_px));
        [name.to_owned(), short(walk.speed_px_s / tile)].into_iter().chain(top).chain(rest).collect()
    };
    table::table(&head, [row("straight", &walk.straight), row("diagonal", &walk.diagonal)])
}

/// What a flight does.
pub(super) fn flight(flight: &FlightMeasures, tile: f64) -> String {
    let per_tile = |px: f64| short(px / tile);
    match flight {
        FlightMeasures::Flaps { apex_height_px, apex_height_tiles, apex_time_s, presses_to_hold, climbs } => {
            let head = ["presses a second", "tiles in 1 s", "px", "then tiles/s", "px/s"];
            let rows = climbs.iter().map(|climb| {
                let (tiles, px) = match climb.in_the_end_px_s {
                    Some(speed) => (per_tile(speed), short(speed)),
                    None => ("faster and faster".to_owned(), String::new()),
                };
                let first = (short(climb.first_second_tiles), short(climb.first_second_px));
                vec![short(climb.presses_per_second), first.0, first.1, tiles, px]
            });
            let (tiles, px, seconds) = (short(*apex_height_tiles), short(*apex_height_px), short(*apex_time_s));
            format!(
                "\none flap: {tiles} tiles ({px} px) high after {seconds} s; {} presses a second hold the height\n{}",
                short(*presses_to_hold),
                table::table(&head, rows)
            )
        }
        FlightMeasures::Thrust { beside_gravity_px_s2, first_second_px, speed_px_s, stops_fall_s, .. } => {
            let stops = match stops_fall_s {
                Some(seconds) => format!("a fall of 1 s is stopped in {} s", short(*seconds)),
                None => "a fall of 1 s is not stopped".to_owned(),
            };
            format!(
                "\nthrust: {} tiles/s^2 ({} px/s^2) are left of it against gravity\nheld for 1 s from rest: {} tiles ({} px) up, \
                 at {} tiles/s ({} px/s); {stops}\n",
                per_tile(*beside_gravity_px_s2),
                short(*beside_gravity_px_s2),
                per_tile(*first_second_px),
                short(*first_second_px),
                per_tile(*speed_px_s),
                short(*speed_px_s),
            )
        }
        _ => String::new(),
    }
}

/// What holding longer buys: heights by the ticks for which the button is held.
fn holds(tuning: &TuningArcs) -> String {
    let held = |arc: &&JumpArc| arc.kind == ArcKind::PartHeld;
    let heights: Vec<String> = tuning
        .arcs
        .iter()
        .filter(held)
        .map(|arc| format!("{} ticks {}", arc.held_ticks, short(arc.apex_height_tiles)))
        .collect();
    if heights.is_empty() {
        return String::new();
    }
    let lines: Vec<String> = heights.chunks(6).map(|line| line.join(", ")).collect();
    format!("\nheld for {} tiles\n", lines.join(",\n         "))
}

/// How far the jumps at top speed go at levels above and below.
fn levels(tuning: &TuningArcs) -> String {
    let reaching: Vec<&JumpArc> = tuning.arcs.iter().filter(|arc| !arc.reach_at_levels.is_empty()).collect();
    if reaching.is_empty() {
        return String::new();
    }
    let head = ["reach in tiles", "2 up", "1 up", "level", "1 down", "2 down"];
    let at = |arc: &JumpArc, level: i32| {
        let found = arc.reach_at_levels.iter().find(|reach| reach.level_tiles == level);
        found.map_or(String::from("-"), |reach| short(reach.reach_tiles))
    };
    let rows = reaching.iter().map(|arc| {
        let level = short(arc.reach_tiles);
        vec![arc.kind.name().to_owned(), at(arc, 2), at(arc, 1), level, at(arc, -1), at(arc, -2)]
    });
    String::from("\n") + &table::table(&head, rows)
}

/// What differs between the tunings: the last column is the last tuning less the first.
fn differences(report: &ArcsReport) -> String {
    let names: Vec<&str> = report.tunings.iter().map(|tuning| tuning.name.as_str()).collect();
    let head = [&["what differs", ""][..], &names, &["change"]].concat();
    let mut rows = Vec::new();
    for kind in [ArcKind::Tap, ArcKind::Full, ArcKind::Running, ArcKind::Air, ArcKind::Ledge] {
        let arcs: Vec<Option<&JumpArc>> = report.tunings.iter().map(|tuning| tuning.arc(kind)).collect();
        for (what, unit, value) in COMPARED {
            let values: Vec<Option<f64>> = arcs.iter().map(|arc| arc.map(value)).collect();
            if values.iter().all(|value| value.map(short) == values[0].map(short)) {
                continue;
            }
            let change = match (values[0], values[values.len() - 1]) {
                (Some(first), Some(last)) => short(last - first),
                _ => String::from("-"),
            };
            let cells = values.iter().map(|value| value.map_or(String::from("-"), short));
            rows.push(
                [kind.name().to_owned(), format!("{what}, {unit}")].into_iter().chain(cells).chain([change]).collect(),
            );
        }
    }
    if rows.is_empty() {
        return String::from("nothing differs\n");
    }
    table::table(&head, rows)
}

fn level_table(arcs: &[LevelArc]) -> String {
    let head = ["tuning", "jump", "height tiles", "height px", "ends", "on", "column", "row", "after s", "what met it"];
    table::table(
        &head,
        arcs.iter().map(|arc| {
            vec![
                arc.tuning.clone(),
                arc.jump.to_owned(),
                short(arc.apex_height_tiles),
                short(arc.apex_height_px),
                arc.end.to_owned(),
                if arc.on == "none" { String::new() } else { arc.on.clone() },
                arc.end_column.to_string(),
                arc.end_row.to_string(),
                short(arc.time_s),
                arc.met.join(", "),
            ]
        }),
    )
}
