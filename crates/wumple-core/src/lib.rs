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

mod bytes;
pub mod camera;
mod collide;
mod groups;
mod input;
mod integrate;
mod nearby;
mod platforms;
mod presence;
mod round;
mod space;
mod states;
mod terrain;
mod tick;
mod tuning;
mod word;

pub use glam::DVec2;

pub use groups::{Group, MeetingError, Meetings};
pub use input::{Button, ButtonLatch, Buttons, Direction, Facing, StickCurve, TickPacer};
pub use nearby::Support;
pub use platforms::{MoverId, PlatformError, PlatformNumbers, PlatformReport, Platforms};
pub use round::{Round, RoundEvent, RoundNumbers, RoundRules, SavedRound};
pub use space::{Body, GridLines, Hitbox};
pub use terrain::{
    Block, DrawnZone, Edge, Edges, Felt, Grid, GridError, Margin, Material, Ramp, Side, Surface, Terrain,
    TileProperties, Zone, ZoneId, ZoneKind, ZoneOf,
};
pub use tick::{
    BodyId, Character, CharacterId, Contacts, Decision, Event, JumpedFrom, Launch, LimitError, Listener, Met,
    NoListener, Piece, Probe, Prop, PropId, Saved, SavedError, StartError, State, Things, TickReport, Touched, World,
};
pub use tuning::{Tuning, TuningErrors, TuningNumbers};

/// The numbers of tunings and platforms, section by section, and the keys that they have in files.
pub mod numbers {
    pub use crate::integrate::Scheme;
    pub use crate::platforms::{
        Bend, CrumbleNumbers, Ease, EaseOver, Ends, Pace, PlatformProblem, PlatformSurface, Starts,
    };
    pub use crate::terrain::{Bounce, LIMIT_MARGIN, OwnKind};
    pub use crate::tuning::{
        Acceleration, AirNumbers, AtWall, BodyNumbers, Bounds, Choice, Diagonal, DropRule, FallNumbers, FeelNumbers,
        FlightBy, FlightNumbers, FourWayNumbers, Hang, HoldNumbers, HoldWhen, JumpNumbers, JumpShape, Key, KeyDefault,
        KeyKind, LIMIT_ACCELERATION, LIMIT_LENGTH, LIMIT_SPEED, LadderNumbers, OnLanding, Pixels, Problem, Release,
        RunNumbers, SlideNumbers, SlideWhen, Slot, Steady, SteerWhen, TakenAlong, TuningError, WallJumpNumbers,
        WallNumbers, keys, round_length,
    };
}

/// Why something was decided, or refused: what a [`Decision`] says.
pub mod why {
    pub use crate::tick::{Forgotten, HoldRefusal, JumpRefusal, LadderRefusal, LetGo, NoWallJump};
}

/// What the zones of a level say for a [`Round`], what follows from a tick, and what its events are about.
pub mod rounds {
    pub use crate::round::{
        AfterDefeat, DefeatCause, DefeatMotion, Follows, Item, Lack, Need, Next, RestartAt, RoundError, ZoneRule,
    };
}

/// What instruments need and games hardly do: what a checked tuning comes to, the motion of a jump stretch by stretch,
/// what a terrain says of itself, and the sweep in tiny steps that the fast ones are tested against.
pub mod advanced {
    pub use crate::collide::{Swept, slow};
    pub use crate::integrate::{Gravity, Moved, Phases, RunRate, RunRates, Stretch};
    pub use crate::platforms::{Crumbling, Route};
    pub use crate::states::Flight;
    pub use crate::terrain::Features;
    pub use crate::tick::{About, AboutKind, LIMIT_PLACE, Violation};
    pub use crate::tuning::{FourWayRules, Jump, RiseRules, ShapeError, TakeOff, WallJump, WallRules};
}
