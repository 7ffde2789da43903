//! The motion of a platform-game character: one tick at a time, deterministic to the bit.
//!
//! A [`World`] holds a terrain and the characters in it. Each call of [`World::tick`] takes the
//! buttons held and moves everything on by one tick of fixed length; what happened is said in a
//! [`TickReport`]. There is no clock, no file, no printing and no random number in this crate.
//!
//! # Conventions
//!
//! | what | rule |
//! | --- | --- |
//! | axes | x to the right, y **down**, origin at the map's top-left corner |
//! | units | pixels and seconds, `f64`; speeds in px/s |
//! | a character's place | its *feet*: the middle of the hitbox's bottom edge |
//! | hitbox | `[x - w/2, x + w/2) x [y - h, y)`, the same in every pose |
//! | heights and upward speeds in a [`Tuning`] | positive upward |
//! | touching | edges that only touch do not overlap; resting feet equal the surface to the bit |
//! | ticks | numbered from 1; row 0 is the start |
//!
//! The rules of a tick, with the equations, are in `docs/model.md` of the repository.
//!
//! Frames of any length are divided into ticks by a [`TickPacer`], and a [`ButtonLatch`] keeps what was pressed
//! between them. The features `serde` and `mint` are off unless asked for.
//!
//! # Example
//!
//! ```
//! use wumple_core::{Buttons, DVec2, Edges, Grid, State, Tuning, TuningNumbers, World};
//!
//! let map = Grid::from_rows(&["......", "......", "######"], 16.0, Edges::default())?;
//! let tuning = Tuning::check(&TuningNumbers::new(10.0, 22.0, 120.0).with_jump(54.0, 0.35))?;
//!
//! let mut world = World::new(map);
//! let dab = world.add_character(tuning, DVec2::new(24.0, 32.0))?;
//! assert_eq!(world.report(dab).state, State::Stand);
//!
//! world.tick(&[Buttons { jump: true, ..Buttons::NONE }]);
//! assert_eq!(world.report(dab).state, State::Rise);
//! # Ok::<(), Box<dyn core::error::Error>>(())
//! ```

#![no_std]
// Printing is the program's business alone; the libraries return values. (Their examples may print.)
#![warn(clippy::print_stdout, clippy::print_stderr)]

extern crate alloc;

mod collide;
mod input;
mod integrate;
mod nearby;
mod platforms;
mod space;
mod states;
mod terrain;
mod tick;
mod tuning;

pub use glam::DVec2;

pub use collide::{Swept, slow, sweep_x, sweep_y};
pub use input::{Button, ButtonLatch, Buttons, Direction, TickPacer};
pub use integrate::{Gravity, Moved, Phases, Piece, RunRate, RunRates, Scheme};
pub use nearby::Support;
pub use platforms::{
    CrumbleNumbers, Crumbling, Ease, Ends, MoverId, Pace, PlatformError, PlatformNumbers, PlatformProblem,
    PlatformReport, PlatformSurface, Platforms, Route, Starts,
};
pub use space::{Body, GridLines, Hitbox};
pub use states::Flight;
pub use terrain::{
    Block, Bounce, Edge, Edges, Features, Grid, GridError, Material, Ramp, Side, Surface, Terrain, TileProperties,
    Zone, Zones,
};
pub use tick::{
    About, AboutKind, Character, CharacterId, Contacts, Decision, Event, Forgotten, HoldRefusal, JumpRefusal,
    JumpedFrom, LIMIT_PLACE, LadderRefusal, LetGo, Listener, NoListener, NoWallJump, Prop, PropId, Saved, StartError,
    State, TickReport, Violation, World,
};
pub use tuning::{
    Acceleration, AirNumbers, BodyNumbers, Bounds, Choice, DropRule, FallNumbers, Hang, HoldNumbers, HoldWhen, Jump,
    JumpNumbers, JumpShape, Key, KeyDefault, KeyKind, LIMIT_ACCELERATION, LIMIT_LENGTH, LIMIT_SPEED, LadderNumbers,
    Pixels, Problem, Release, RiseRules, RunNumbers, ShapeError, SlideNumbers, SlideWhen, Slot, TakeOff, TakenAlong,
    Tuning, TuningError, TuningErrors, TuningNumbers, WallJump, WallJumpNumbers, WallNumbers, WallRules, keys,
    round_length,
};
