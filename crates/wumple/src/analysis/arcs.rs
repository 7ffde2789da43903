use serde::{Serialize, Serializer};
use wumple_core::{Body, Tuning};

use super::flight_arcs::{FlightMeasures, flight_measures};
use super::four_way_arcs::{FourWayMeasures, four_way_measures};
use super::jump_flight::{ArcPoint, End, Flown, Script, measure_flight};
use crate::files::TuningFile;

/// The arcs of several tunings, side by side. Serializes as `wumple-arcs 1`.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[non_exhaustive]
pub struct ArcsReport {
    /// `wumple-arcs 1`.
    pub format: &'static str,
    /// One for each tuning, in the order given.
    pub tunings: Vec<TuningArcs>,
}

/// The arcs of one tuning.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[non_exhaustive]
pub struct TuningArcs {
    /// The tuning's name.
    pub name: String,
    /// The side of a tile, px.
    pub tile_px: f64,
    /// Ticks a second.
    pub rate_hz: f64,
    /// The scheme of integration.
    pub scheme: &'static str,
    /// The hitbox.
    #[serde(skip)]
    pub body: Body,
    /// The upward speed below which the hang begins, px/s; 0 without one.
    #[serde(skip)]
    pub hang_speed_px_s: f64,
    /// The arcs; none if the character cannot jump.
    pub arcs: Vec<JumpArc>,
    /// What its flight does, if it flies.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub flight: Option<FlightMeasures>,
    /// What its walk does, if it is seen from above.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub four_way: Option<FourWayMeasures>,
}

impl TuningArcs {
    /// Whether there is nothing to say of it: no jump, no flight, no walk seen from above.
    #[must_use]
    pub fn is_empty(&self) -> bool {
        self.arcs.is_empty() && self.flight.is_none() && self.four_way.is_none()
    }

    /// The arc of a kind that there is one of at most.
    #[must_use]
    pub fn arc(&self, kind: ArcKind) -> Option<&JumpArc> {
        self.arcs.iter().find(|arc| arc.kind == kind)
    }
}

/// Which jump an arc is of.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
#[non_exhaustive]
pub enum ArcKind {
    /// From standing, the button held in the take-off tick only.
    Tap,
    /// From standing, the button let go on the way up: one arc for each hold that makes a difference, of
    /// 240 at most.
    PartHeld,
    /// From standing, the button held all the way up.
    Full,
    /// The same at top speed, the direction held all the way.
    Running,
    /// From standing, with an air jump at the moment that takes it highest.
    Air,
    /// Off an edge at top speed, jumping in the last tick that coyote time admits; measured from the edge. None if that
    /// is so late that the jump does not get up to the edge again.
    Ledge,
    /// Off a wall, the button held all the way up, steering away; measured from the wall. Its reach is
    /// interpolated between two ticks.
    Wall,
}

impl ArcKind {
    /// The word used in tables and JSON.
    #[must_use]
    pub fn name(self) -> &'static str {
        match self {
            ArcKind::Tap => "tap",
            ArcKind::PartHeld => "part-held",
            ArcKind::Full => "full",
            ArcKind::Running => "running",
            ArcKind::Air => "air",
            ArcKind::Ledge => "ledge",
            ArcKind::Wall => "wall",
        }
    }
}

impl Serialize for ArcKind {
    fn serialize<S: Serializer>(&self, serializer: S) -> Result<S::Ok, S::Error> {
        serializer.serialize_str(self.name())
    }
}

/// One jump from flat ground back to its height, measured.
///
/// Heights are positive upward, from the ground left. Under `exact` the apex, the times, the reach and the
/// speeds are those of the motion itself, and only `apex_tick` and `air_ticks` are counted in ticks; in the
/// stepped schemes all are those of the ends of ticks.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[non_exhaustive]
pub struct JumpArc {
    /// Which jump.
    pub kind: ArcKind,
    /// For how many ticks the button is held, the take-off tick being the first.
    pub held_ticks: u64,
    /// The greatest height, px.
    pub apex_height_px: f64,
    /// The same in tiles.
    pub apex_height_tiles: f64,
    /// When it is reached, s from the start of the take-off tick.
    pub apex_time_s: f64,
    /// The first tick that ends with no upward speed, the take-off tick being 1.
    pub apex_tick: u64,
    /// From the start of the take-off tick to the landing, s.
    pub air_time_s: f64,
    /// The tick that ends on the ground, the take-off tick being 1.
    pub air_ticks: u64,
    /// How far it goes along the ground, px.
    pub reach_px: f64,
    /// The same in tiles.
    pub reach_tiles: f64,
    /// The downward speed at the landing, px/s.
    pub landing_speed_px_s: f64,
    /// The upward speed at take-off, px/s.
    pub take_off_speed_px_s: f64,
    /// The share of the air time spent in the top quarter of the height: how floaty it is.
    pub top_quarter_share: f64,
    /// The reach at the levels two and one tiles above and below the ground left; none where the arc does
    /// not come down to them.
    pub reach_at_levels: Vec<LevelReach>,
    /// Where the controller is after each tick, the start of the jump first, to two tiles below.
    #[serde(skip)]
    pub points: Vec<ArcPoint>,
}

/// How far an arc goes before it comes down to a level.
#[derive(Clone, Copy, Debug, PartialEq, Serialize)]
#[non_exhaustive]
pub struct LevelReach {
    /// Above the ground left, tiles.
    pub level_tiles: i32,
    /// Along the ground, px.
    pub reach_px: f64,
    /// The same in tiles.
    pub reach_tiles: f64,
}

/// The levels asked for, tiles above the ground left.
const LEVELS: [i32; 4] = [2, 1, -1, -2];

/// Measures the jumps of several tunings.
///
/// ```
/// use wumple::analysis::ArcKind;
/// use wumple::{TuningFile, arcs, demo};
///
/// let dab = TuningFile::parse("dab", demo::DAB)?;
/// let report = arcs([&dab]);
/// let full = report.tunings[0].arc(ArcKind::Full).expect("Dab jumps");
/// assert!((full.apex_height_tiles - 3.4).abs() < 0.01);
/// # Ok::<(), Box<dyn std::error::Error>>(())
/// ```
pub fn arcs<'a>(files: impl IntoIterator<Item = &'a TuningFile>) -> ArcsReport {
    ArcsReport { format: "wumple-arcs 1", tunings: files.into_iter().map(arcs_of).collect() }
}

fn arcs_of(file: &TuningFile) -> TuningArcs {
    let tuning = &file.tuning;
    TuningArcs {
        name: file.name.clone(),
        tile_px: file.scale.tile,
        rate_hz: tuning.rate(),
        scheme: tuning.scheme().name(),
        body: *tuning.body(),
        hang_speed_px_s: tuning.gravity().hang_speed,
        flight: flight_measures(tuning, file.scale.tile),
        four_way: four_way_measures(tuning),
        arcs: if tuning.jump().is_some() { all_arcs(tuning, file.scale.tile) } else { Vec::new() },
    }
}

fn all_arcs(tuning: &Tuning, tile: f64) -> Vec<JumpArc> {
    let measure = |kind, script: &Script| measure(kind, tuning, tile, script);
    let rise = rise_ticks(tuning);
    let full = measure(ArcKind::Full, &Script::standing(rise));
    let flight = full.as_ref().map_or(0, |full| full.points.len() as u64);
    let mut arcs: Vec<JumpArc> = measure(ArcKind::Tap, &Script::standing(1)).into_iter().collect();
    for held in (2..rise).step_by(stride(rise, flight)) {
        let arc = measure(ArcKind::PartHeld, &Script::standing(held));
        let is_new = |arc: &JumpArc| arcs.last().into_iter().chain(&full).all(|other| differs(arc, other));
        arcs.extend(arc.filter(is_new));
    }
    arcs.extend(full);
    let run_speed = tuning.run().top_speed;
    let running = Script { run_speed, ..Script::standing(rise) };
    if run_speed > 0.0 {
        arcs.extend(measure(ArcKind::Running, &running));
    }
    if tuning.air_jumps() > 0 {
        arcs.extend(measure(ArcKind::Air, &highest_air_script(tuning, rise)));
    }
    if run_speed > 0.0 {
        arcs.extend(measure(ArcKind::Ledge, &Script { off_edge: true, ..running }));
    }
    if tuning.wall().jump.is_some() {
        arcs.extend(measure(ArcKind::Wall, &Script { off_wall: true, ..Script::standing(u64::MAX) }));
    }
    arcs
}

/// For how many ticks the button can make a difference to a full jump: up to its apex.
fn rise_ticks(tuning: &Tuning) -> u64 {
    measure_flight(tuning, &Script::standing(u64::MAX), End::Apex).map_or(1, |flown| flown.apex().2.max(1))
}

/// One arc of a tuning that jumps, without the others: the full or the running one.
pub(super) fn held_arc(file: &TuningFile, kind: ArcKind) -> Option<JumpArc> {
    let run_speed = if kind == ArcKind::Running { file.tuning.run().top_speed } else { 0.0 };
    let script = Script { run_speed, ..Script::standing(rise_ticks(&file.tuning)) };
    measure(kind, &file.tuning, file.scale.tile, &script)
}

fn apex_height(tuning: &Tuning, script: &Script) -> f64 {
    measure_flight(tuning, script, End::Apex).map_or(0.0, |flown| flown.apex().0)
}

/// How high a jump gets whose button is held in the take-off tick only, px.
pub(super) fn tap_height(tuning: &Tuning) -> f64 {
    apex_height(tuning, &Script::standing(1))
}

/// No more holds (or presses in the air) than this are tried one by one: at rates of thousands of ticks a
/// second neighbours can hardly be told apart.
const MOST_TRIED: u64 = 240;

/// How many ticks lie between two of so many that are tried, each a flight of so many ticks: fewer are for long
/// flights, so that time and room stay bounded.
fn stride(ticks: u64, flight: u64) -> usize {
    let tried = (2_000_000 / flight.max(1)).clamp(8, MOST_TRIED);
    ticks.div_ceil(tried).max(1) as usize
}

/// Whether two holds make jumps that can be told apart.
fn differs(one: &JumpArc, other: &JumpArc) -> bool {
    let apart = |a: f64, b: f64| (a - b).abs() > 1e-9 * (1.0 + a.abs());
    apart(one.apex_height_px, other.apex_height_px) || apart(one.air_time_s, other.air_time_s)
}

/// The press in the air that takes the jump highest. The button must be let go for a tick before it.
fn highest_air_script(tuning: &Tuning, rise: u64) -> Script {
    let script = |press: u64| Script {
        held_ticks: press.saturating_sub(2).clamp(1, rise),
        air_press: Some(press),
        ..Script::standing(1)
    };
    let height = |script: &Script| apex_height(tuning, script);
    let flown = measure_flight(tuning, &Script::standing(rise), End::Below(0.0));
    let landing = flown.map_or(0, |flown| flown.points.len()) as u64;
    let highest_of = |presses: &mut dyn Iterator<Item = u64>| {
        let mut best = (3, height(&script(3)));
        for press in presses {
            let height = height(&script(press));
            if height > best.1 + 1e-9 {
                best = (press, height);
            }
        }
        best.0
    };
    let stride = stride(landing, landing);
    let near = highest_of(&mut (4..landing.max(4)).step_by(stride));
    if stride == 1 {
        return script(near);
    }
    let around = stride as u64;
    let finer = stride.div_ceil(8);
    script(highest_of(&mut (near.saturating_sub(around).max(4)..near + around).step_by(finer)))
}

/// For how many ticks the button of the highest jump with one in the air is held first, and in which tick it is
/// pressed again, the take-off tick being 1.
pub(super) fn highest_air_jump(tuning: &Tuning) -> (u64, u64) {
    let script = highest_air_script(tuning, rise_ticks(tuning));
    (script.held_ticks, script.air_press.unwrap_or(u64::MAX))
}

/// Flies one jump and takes its numbers; none of one that is not seen to come back to the level it left: a late jump
/// from an edge that does not get up to it again, or one that goes beyond where coordinates end.
fn measure(kind: ArcKind, tuning: &Tuning, tile: f64, script: &Script) -> Option<JumpArc> {
    let flown = measure_flight(tuning, script, End::Below(2.0 * tile))?;
    let (apex_height, apex_time, apex_tick) = flown.apex();
    let landing = flown.down_to(0.0)?;
    Some(JumpArc {
        kind,
        held_ticks: script.held_ticks.min(apex_tick.max(1)),
        apex_height_px: apex_height,
        apex_height_tiles: apex_height / tile,
        apex_time_s: apex_time,
        apex_tick,
        air_time_s: landing.time,
        air_ticks: landing.tick,
        reach_px: landing.x,
        reach_tiles: landing.x / tile,
        landing_speed_px_s: landing.speed,
        take_off_speed_px_s: flown.points[0].upward_speed_px_s,
        top_quarter_share: flown.top_quarter_share(&landing),
        reach_at_levels: levels(&flown, tile, script.run_speed),
        points: flown.points,
    })
}

fn levels(flown: &Flown, tile: f64, run_speed: f64) -> Vec<LevelReach> {
    if run_speed == 0.0 {
        return Vec::new();
    }
    let reach = |level: i32| {
        let crossing = flown.down_to(f64::from(level) * tile)?;
        Some(LevelReach { level_tiles: level, reach_px: crossing.x, reach_tiles: crossing.x / tile })
    };
    LEVELS.into_iter().filter_map(reach).collect()
}

/// An arc as a row of CSV: the fields of [`JumpArc`] after the tuning's name.
#[derive(Serialize)]
struct ArcRow<'a> {
    tuning: &'a str,
    kind: ArcKind,
    held_ticks: u64,
    apex_height_px: f64,
    apex_height_tiles: f64,
    apex_time_s: f64,
    apex_tick: u64,
    air_time_s: f64,
    air_ticks: u64,
    reach_px: f64,
    reach_tiles: f64,
    landing_speed_px_s: f64,
    take_off_speed_px_s: f64,
    top_quarter_share: f64,
}

/// A point as a row of CSV or an object of JSON Lines.
#[derive(Serialize)]
struct PointRow<'a> {
    tuning: &'a str,
    kind: ArcKind,
    held_ticks: u64,
    tick: u64,
    time_s: f64,
    x_px: f64,
    height_px: f64,
    upward_speed_px_s: f64,
}

impl ArcsReport {
    fn arcs(&self) -> impl Iterator<Item = (&TuningArcs, &JumpArc)> {
        self.tunings.iter().flat_map(|tuning| tuning.arcs.iter().map(move |arc| (tuning, arc)))
    }

    fn points(&self) -> impl Iterator<Item = PointRow<'_>> {
        self.arcs().flat_map(|(tuning, arc)| {
            arc.points.iter().map(move |point| PointRow {
                tuning: &tuning.name,
                kind: arc.kind,
                held_ticks: arc.held_ticks,
                tick: point.tick,
                time_s: point.time_s,
                x_px: point.x_px,
                height_px: point.height_px,
                upward_speed_px_s: point.upward_speed_px_s,
            })
        })
    }

    /// The arcs as CSV, a row each, with a head line.
    #[must_use]
    pub fn to_csv(&self) -> String {
        crate::trace::csv_of(self.arcs().map(|(tuning, arc)| ArcRow {
            tuning: &tuning.name,
            kind: arc.kind,
            held_ticks: arc.held_ticks,
            apex_height_px: arc.apex_height_px,
            apex_height_tiles: arc.apex_height_tiles,
            apex_time_s: arc.apex_time_s,
            apex_tick: arc.apex_tick,
            air_time_s: arc.air_time_s,
            air_ticks: arc.air_ticks,
            reach_px: arc.reach_px,
            reach_tiles: arc.reach_tiles,
            landing_speed_px_s: arc.landing_speed_px_s,
            take_off_speed_px_s: arc.take_off_speed_px_s,
            top_quarter_share: arc.top_quarter_share,
        }))
    }

    /// The points of all arcs as CSV, a row for each tick, with a head line.
    #[must_use]
    pub fn points_to_csv(&self) -> String {
        crate::trace::csv_of(self.points())
    }

    /// The same as JSON Lines.
    #[must_use]
    pub fn points_to_json_lines(&self) -> String {
        crate::trace::json_lines_of(self.points())
    }
}
