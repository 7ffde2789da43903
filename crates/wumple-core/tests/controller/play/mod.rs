//! Playing a short script in a small room drawn in letters.
#![allow(dead_code, reason = "every test file uses a part of it")]

use wumple_core::numbers::{
    HoldNumbers, HoldWhen, LadderNumbers, SlideNumbers, SlideWhen, WallJumpNumbers, WallNumbers,
};
use wumple_core::{
    Buttons, CharacterId, DVec2, Decision, Edges, Grid, Listener, NoListener, PlatformNumbers, Platforms, TickReport,
    Tuning, TuningNumbers, World,
};

/// Dab: 10 x 22 px, 120 px/s at once, a jump of 54 px in 0.35 s, at 60 Hz.
pub(crate) fn dab() -> TuningNumbers {
    TuningNumbers::new(10.0, 22.0, 120.0).with_jump(54.0, 0.35)
}

/// Dab on walls: a slide when pushed, a jump, and a hold if asked.
pub(crate) fn climber(hold: Option<HoldNumbers>) -> TuningNumbers {
    let slide = Some(SlideNumbers { when: SlideWhen::Pushed, top_speed: 40.0 });
    let jump = Some(WallJumpNumbers { height: 40.0, push_speed: 110.0, steer_lock: 0.1, same_wall: true });
    TuningNumbers { wall: Some(WallNumbers { coyote_time: 0.05, slide, jump, hold }), ..dab() }
}

pub(crate) const GRAB: HoldNumbers = HoldNumbers {
    when: HoldWhen::GrabHeld,
    up_speed: 60.0,
    down_speed: 90.0,
    from_ground: false,
    while_rising: false,
    spends_air_jumps: false,
    climb_over: false,
};

/// Dab on ladders.
pub(crate) fn ladder_climber() -> TuningNumbers {
    let ladder = LadderNumbers {
        probe: 5.0,
        up_speed: 60.0,
        down_speed: 90.0,
        side_speed: 40.0,
        centre: false,
        up_is_jump: false,
    };
    TuningNumbers { ladder: Some(ladder), ..dab() }
}

#[derive(Default)]
struct Log(Vec<String>);

impl Listener for Log {
    fn decided(&mut self, _: CharacterId, tick: u64, decision: &Decision) {
        self.0.push(format!("{tick} {decision}"));
    }
}

/// A room with one character in it, and all that has happened.
pub(crate) struct Play {
    pub(crate) world: World<Grid>,
    pub(crate) id: CharacterId,
    /// `tick event`, in order.
    pub(crate) events: Vec<String>,
    pub(crate) rows: Vec<TickReport>,
}

impl Play {
    /// Tiles of 16 px; the feet start at this place, px.
    pub(crate) fn new(rows: &[&str], numbers: &TuningNumbers, x: f64, y: f64) -> Play {
        Play::in_room(Grid::from_rows(rows, 16.0, Edges::default()).unwrap(), numbers, x, y)
    }

    pub(crate) fn in_room(grid: Grid, numbers: &TuningNumbers, x: f64, y: f64) -> Play {
        Play::among(grid, &[], numbers, x, y)
    }

    /// The same with platforms.
    pub(crate) fn on(platforms: &[PlatformNumbers], rows: &[&str], numbers: &TuningNumbers, x: f64, y: f64) -> Play {
        Play::among(Grid::from_rows(rows, 16.0, Edges::default()).unwrap(), platforms, numbers, x, y)
    }

    fn among(grid: Grid, platforms: &[PlatformNumbers], numbers: &TuningNumbers, x: f64, y: f64) -> Play {
        let mut world = World::with_platforms(grid, Platforms::new(platforms, numbers.rate).unwrap());
        let id = world.add_character(Tuning::check(numbers).unwrap(), DVec2::new(x, y)).unwrap();
        let rows = vec![world.report(id).clone()];
        Play { world, id, events: Vec::new(), rows }
    }

    /// The reasons of all decisions of a script, `tick reason`, in order.
    pub(crate) fn why(&mut self, script: &str) -> Vec<String> {
        let mut log = Log::default();
        self.play_told(script, &mut log);
        log.0
    }

    /// Plays a script: `"R30 RJ5 -20"` holds right for 30 ticks, right and jump for 5, nothing for 20. The
    /// letters are Left, Right, Up, Down, Jump, Grab. Returns the events of these ticks.
    pub(crate) fn play(&mut self, script: &str) -> Vec<String> {
        self.play_told(script, &mut NoListener)
    }

    fn play_told<L: Listener>(&mut self, script: &str, listener: &mut L) -> Vec<String> {
        let before = self.events.len();
        for part in script.split_whitespace() {
            let (letters, ticks) = part.split_at(part.find(|letter: char| letter.is_ascii_digit()).unwrap());
            let mut held = Buttons::NONE;
            for letter in letters.chars() {
                match letter {
                    'L' => held.left = true,
                    'R' => held.right = true,
                    'U' => held.up = true,
                    'D' => held.down = true,
                    'J' => held.jump = true,
                    'G' => held.grab = true,
                    _ => {}
                }
            }
            for _ in 0..ticks.parse::<u32>().unwrap() {
                self.world.tick_told(&[held], listener);
                let report = self.world.report(self.id).clone();
                self.events.extend(report.events.iter().map(|event| format!("{} {event}", report.tick)));
                self.rows.push(report);
            }
        }
        self.events[before..].to_vec()
    }

    pub(crate) fn now(&self) -> &TickReport {
        self.rows.last().unwrap()
    }

    pub(crate) fn feet(&self) -> (f64, f64) {
        (self.now().feet.x, self.now().feet.y)
    }

    pub(crate) fn state(&self) -> &'static str {
        self.now().state.name()
    }
}
