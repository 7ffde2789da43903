use serde::{Serialize, Serializer};

use crate::files::TuningFile;
use wumple_core::{Body, Buttons, DVec2, Edge, Edges, Grid, Piece, TickReport, Tuning, World};

/// The arcs of several tunings, side by side. Serializes as `wumple-arcs 1`.
#[derive(Clone, Debug, PartialEq, Serialize)]
pub struct ArcsReport {
    /// `wumple-arcs 1`.
    pub format: &'static str,
    /// One for each tuning, in the order given.
    pub tunings: Vec<TuningArcs>,
}

/// The arcs of one tuning.
#[derive(Clone, Debug, PartialEq, Serialize)]
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
    /// The arcs; none if the character cannot jump.
    pub arcs: Vec<JumpArc>,
}

/// Which jump an arc is of.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, Serialize)]
#[serde(rename_all = "kebab-case")]
pub enum ArcKind {
    /// From standing, the button held all the way.
    Full,
    /// The same at top speed, the direction held all the way.
    Running,
}

impl ArcKind {
    /// The word used in tables and JSON.
    pub fn name(self) -> &'static str {
        match self {
            ArcKind::Full => "full",
            ArcKind::Running => "running",
        }
    }
}

/// One jump from flat ground back to flat ground, measured.
///
/// Heights are positive upward, from the ground left. Under `exact` the apex, the air time, the reach and
/// the landing speed are those of the motion itself; `apex_tick` and `air_ticks` are counted in ticks.
#[derive(Clone, Debug, PartialEq, Serialize)]
pub struct JumpArc {
    /// Which jump.
    #[serde(serialize_with = "kind_name")]
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
    /// Where the controller is after each tick, the start of the jump first.
    #[serde(skip)]
    pub points: Vec<ArcPoint>,
}

fn kind_name<S: Serializer>(kind: &ArcKind, serializer: S) -> Result<S::Ok, S::Error> {
    serializer.serialize_str(kind.name())
}

/// A place on an arc.
#[derive(Clone, Copy, Debug, PartialEq, Serialize)]
pub struct ArcPoint {
    /// Ticks since the start of the take-off tick.
    pub tick: u64,
    /// The same in seconds.
    pub time_s: f64,
    /// Along the ground from the take-off, px.
    pub x_px: f64,
    /// Above the ground, px.
    pub height_px: f64,
    /// The upward speed, px/s.
    pub upward_speed_px_s: f64,
}

/// An arc as a row of CSV: the fields of [`JumpArc`] after the tuning's name.
#[derive(Serialize)]
struct ArcRow<'a> {
    tuning: &'a str,
    kind: &'static str,
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
}

impl ArcsReport {
    /// The arcs as CSV, a row each, with a head line.
    pub fn to_csv(&self) -> String {
        let mut writer = csv::Writer::from_writer(Vec::new());
        for tuning in &self.tunings {
            for arc in &tuning.arcs {
                let row = ArcRow {
                    tuning: &tuning.name,
                    kind: arc.kind.name(),
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
                };
                writer.serialize(row).expect("a row has only plain fields");
            }
        }
        String::from_utf8(writer.into_inner().expect("writing to memory")).expect("CSV of UTF-8 fields")
    }
}

/// Measures the jumps of several tunings.
pub fn arcs<'a>(files: impl IntoIterator<Item = &'a TuningFile>) -> ArcsReport {
    ArcsReport { format: "wumple-arcs 1", tunings: files.into_iter().map(arcs_of).collect() }
}

fn arcs_of(file: &TuningFile) -> TuningArcs {
    let tuning = &file.tuning;
    let jump = |speed: f64| {
        [(ArcKind::Full, 0.0), (ArcKind::Running, tuning.run().top_speed)]
            .map(|(kind, run_speed)| measure(kind, tuning, file.scale.tile, speed, run_speed))
            .into()
    };
    TuningArcs {
        name: file.name.clone(),
        tile_px: file.scale.tile,
        rate_hz: tuning.rate(),
        scheme: "exact",
        body: *tuning.body(),
        arcs: tuning.jump_speed().map(jump).unwrap_or_default(),
    }
}

/// The motion of a jump as it is between the ticks: its pieces up to the apex and down to the ground.
struct Flight {
    apex_height: f64,
    apex_time: f64,
    air_time: f64,
    landing_speed: f64,
}

/// Longer than any jump that stays within coordinates.
const LONG: f64 = 1e7;

fn flight(tuning: &Tuning, take_off_speed: f64) -> Flight {
    let mut pieces = Vec::new();
    tuning.gravity().pieces(-take_off_speed, LONG, 0.0, |piece| pieces.push(piece));
    let (mut time, mut height) = (0.0, 0.0);
    let mut flight = Flight { apex_height: 0.0, apex_time: 0.0, air_time: 0.0, landing_speed: 0.0 };
    for piece in pieces {
        if piece.speed >= 0.0
            && let Some(seconds) = time_to_go(&piece, height)
        {
            flight.air_time = time + seconds;
            flight.landing_speed = piece.speed + piece.acceleration * seconds;
            return flight;
        }
        time += piece.seconds;
        height -= piece.way();
        if piece.speed < 0.0 {
            (flight.apex_height, flight.apex_time) = (height, time);
        }
    }
    flight
}

/// When within a piece that goes down from `height` the ground is reached: the root of
/// `v*t + a*t*t/2 = height`, in the form that loses no digits.
fn time_to_go(piece: &Piece, height: f64) -> Option<f64> {
    if piece.way() < height {
        return None;
    }
    let speed_there = (piece.speed * piece.speed + 2.0 * piece.acceleration * height).sqrt();
    let sum = piece.speed + speed_there;
    Some(if sum > 0.0 { 2.0 * height / sum } else { 0.0 })
}

fn measure(kind: ArcKind, tuning: &Tuning, tile: f64, take_off_speed: f64, run_speed: f64) -> JumpArc {
    let flight = flight(tuning, take_off_speed);
    let points = ticked(kind, tuning, run_speed);
    let apex_tick = points.iter().skip(1).find(|point| point.upward_speed_px_s <= 0.0).map_or(0, |point| point.tick);
    let air_ticks = points.last().map_or(0, |point| point.tick);
    let reach = run_speed * flight.air_time;
    JumpArc {
        kind,
        held_ticks: apex_tick,
        apex_height_px: flight.apex_height,
        apex_height_tiles: flight.apex_height / tile,
        apex_time_s: flight.apex_time,
        apex_tick,
        air_time_s: flight.air_time,
        air_ticks,
        reach_px: reach,
        reach_tiles: reach / tile,
        landing_speed_px_s: flight.landing_speed,
        points,
    }
}

/// No jump is followed for longer than this, ticks.
const MOST_TICKS: u64 = 1_000_000;

/// The jump as the controller does it, tick by tick, over a floor without end.
fn ticked(kind: ArcKind, tuning: &Tuning, run_speed: f64) -> Vec<ArcPoint> {
    let edges = Edges { left: Edge::Open, right: Edge::Open, top: Edge::Open, bottom: Edge::Solid };
    let floor = Grid::from_rows(&["."], 16.0, edges).expect("one empty tile");
    let mut world = World::new(floor);
    let dab = world.add_character(tuning.clone(), DVec2::new(0.0, 16.0)).expect("above an endless floor");
    let running = Buttons { right: kind == ArcKind::Running, ..Buttons::NONE };
    // Up to speed first; a character that gets there too slowly jumps at the speed it has.
    let most = (10.0 * tuning.rate()) as u64;
    while kind == ArcKind::Running && world.report(dab).velocity.x < run_speed && world.ticks() < most {
        world.tick(&[running]);
    }
    let start = world.report(dab).clone();
    let point = |report: &TickReport| ArcPoint {
        tick: report.tick - start.tick,
        time_s: (report.tick - start.tick) as f64 / tuning.rate(),
        x_px: report.feet.x - start.feet.x,
        height_px: start.feet.y - report.feet.y,
        upward_speed_px_s: -report.velocity.y,
    };
    let mut points = vec![ArcPoint { upward_speed_px_s: tuning.jump_speed().unwrap_or(0.0), ..point(&start) }];
    for _ in 0..MOST_TICKS {
        world.tick(&[Buttons { jump: true, ..running }]);
        let report = world.report(dab);
        points.push(point(report));
        if report.contacts.below || world.character(dab).has_ended() {
            break;
        }
    }
    points
}
