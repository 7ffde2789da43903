//! What a tick decided, and what it refused, with the reason: told to whoever listens.

use core::fmt;

use glam::DVec2;

use super::event::at_most_three_decimals;
use super::{CharacterId, JumpedFrom, Piece};
use crate::input::Direction;

/// Hears of every decision as it is taken. All methods do nothing unless written.
///
/// [`World::tick`](super::World::tick) has no listener, and works nothing out for one.
///
/// ```
/// use wumple_core::{Buttons, CharacterId, DVec2, Decision, Edges, Grid, Listener, Tuning, TuningNumbers, World};
///
/// #[derive(Default)]
/// struct Log(Vec<String>);
///
/// impl Listener for Log {
///     fn decided(&mut self, _: CharacterId, tick: u64, decision: &Decision) {
///         self.0.push(format!("{tick}: {decision}"));
///     }
/// }
/// # let map = Grid::from_rows(&["......", "......", "######"], 16.0, Edges::default())?;
/// # let mut world = World::new(map);
/// # let tuning = Tuning::check(&TuningNumbers::new(10.0, 22.0, 120.0).with_jump(54.0, 0.35))?;
/// # world.add_character(tuning, DVec2::new(24.0, 32.0))?;
/// let mut log = Log::default();
/// world.tick_told(&[Buttons { jump: true, ..Buttons::NONE }], &mut log);
/// assert_eq!(log.0, ["1: jump pressed in tick 1: used, from the ground"]);
/// # Ok::<(), Box<dyn core::error::Error>>(())
/// ```
pub trait Listener {
    /// Whether anyone listens. Where it is false, no reason is worked out.
    #[inline]
    fn listens(&self) -> bool {
        true
    }

    /// A character decided something in this tick.
    fn decided(&mut self, character: CharacterId, tick: u64, decision: &Decision) {
        let _ = (character, tick, decision);
    }
}

/// Nobody listens.
#[derive(Clone, Copy, Debug, Default)]
pub struct NoListener;

impl Listener for NoListener {
    #[inline]
    fn listens(&self) -> bool {
        false
    }
}

impl<L: Listener + ?Sized> Listener for &mut L {
    #[inline]
    fn listens(&self) -> bool {
        (**self).listens()
    }
    fn decided(&mut self, character: CharacterId, tick: u64, decision: &Decision) {
        (**self).decided(character, tick, decision);
    }
}

/// Something decided, or refused, with the reason. Displayed as a line of a log.
#[derive(Clone, Copy, Debug, PartialEq)]
#[non_exhaustive]
pub enum Decision {
    /// A jump began.
    Jumped {
        /// What it was taken off.
        from: JumpedFrom,
        /// The tick in which its button was pressed; `None` for one held down that repeats.
        pressed: Option<u64>,
        /// How many ticks ago the ground or the wall was lost, if coyote time admitted it.
        lost_ago: Option<u64>,
    },
    /// A press of jump found no jump.
    JumpRefused(JumpRefusal),
    /// A press of jump that was kept is forgotten.
    PressForgotten {
        /// The tick in which it was pressed.
        pressed: u64,
        /// Why.
        because: Forgotten,
    },
    /// The jump button was let go during a rise.
    Released {
        /// The upward speed before, px/s.
        before: f64,
        /// The upward speed after, px/s.
        after: f64,
    },
    /// A ladder was taken.
    TookLadder {
        /// How far the feet were from its middle, px.
        off_centre: f64,
    },
    /// Up or down was held at a ladder that was not taken.
    LadderRefused(LadderRefusal),
    /// A wall's hold was taken.
    TookWall(Direction),
    /// A wall was there to hold on to, but was not taken.
    HoldRefused(HoldRefusal),
    /// A climb up was stopped at the head: by this, if it is still there.
    ClimbStopped(Option<Piece>),
    /// A ladder or a wall was let go.
    LetGo(LetGo),
    /// The game pushes or drifts the body in this tick.
    ActedOn {
        /// The acceleration beside gravity, px/s^2, y down.
        push: DVec2,
        /// The speed at which it is carried, px/s, y down.
        drift: DVec2,
    },
    /// A slide down a wall began.
    Slides {
        /// On which side the wall is.
        side: Direction,
        /// The downward speed before, px/s.
        before: f64,
        /// No slide is faster, px/s.
        top_speed: f64,
    },
    /// A wall is touched while falling, but not slid down along: it is not pushed.
    SlideRefused(Direction),
    /// A one-way top was dropped through.
    Dropped,
    /// A drop was asked for, but something solid supports too.
    DropRefused,
    /// A step was walked up.
    SteppedUp {
        /// How high it is, px.
        by: f64,
    },
    /// A step was too high to be walked up, or there is no room on it.
    StepRefused {
        /// How high it is, px.
        by: f64,
        /// How high it may be, px.
        most: f64,
    },
    /// A fall beside a ledge was lifted onto it.
    Lifted {
        /// How far, px.
        by: f64,
    },
    /// A fall beside a ledge was too low to be lifted onto it, or there is no room on it.
    LiftRefused {
        /// How far below its top the feet are, px.
        by: f64,
        /// How far they may be, px.
        most: f64,
    },
    /// A rise was moved sideways, past a corner.
    Nudged {
        /// How far, px, positive to the right.
        by: f64,
    },
    /// A rise was stopped; no way past a corner is short enough, or the shortest is not free.
    NudgeRefused {
        /// The longest way allowed, px.
        most: f64,
    },
    /// The body was set down to follow the ground.
    SetDown {
        /// How far, px.
        by: f64,
    },
    /// The ground went down too far to be followed.
    SetDownRefused {
        /// How far it is down to the next top, px.
        by: f64,
    },
    /// A wall took a speed that is remembered.
    BumpRemembered {
        /// The speed, px/s.
        speed: f64,
        /// For how many ticks.
        ticks: u64,
    },
    /// A remembered speed was given back.
    BumpGivenBack {
        /// The speed, px/s.
        speed: f64,
    },
    /// A platform came up faster than the body rose.
    Caught {
        /// The upward speed that it ended, px/s.
        rise: f64,
    },
    /// The speed of the platform that was left is added to the body's own.
    TookAlong {
        /// Along x, px/s, positive to the right.
        right: f64,
        /// Upward, px/s.
        up: f64,
    },
    /// Terrain refuses a platform's push: nothing is decided until the body is clear of it.
    Crushed,
    /// The terrain became solid where the body is: nothing is decided until the body is clear of it.
    CrushedByTerrain,
    /// What is stood on begins to crumble.
    Crumbles,
    /// A press of jump was a flap.
    Flapped {
        /// The upward speed before it, px/s.
        before: f64,
        /// And after it, px/s.
        after: f64,
    },
    /// Jump is held, and its thrust begins to act.
    Thrusts {
        /// The upward acceleration, px/s^2.
        lift: f64,
        /// The gravity that works against it, px/s^2.
        gravity: f64,
    },
    /// A direction is held, but it steers in the air only while jump is held.
    NotSteered,
    /// Seen from above, a corner stopped it: it went along the face towards the free way.
    SlidAroundCorner {
        /// How far, px.
        by: f64,
    },
    /// What was landed on throws the body up, because its tuning jumps on every landing.
    JumpedOnLanding,
    /// Running by itself, it was stopped by a face: from the next tick on this direction counts as held.
    Turned {
        /// The new one.
        to: Direction,
    },
    /// The way back to the wall just jumped off is held, and counts as none.
    SteerLocked {
        /// The last tick in which it does.
        until: u64,
    },
}

/// Why a press of jump found no jump. What is said is all that stood in the way.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
#[non_exhaustive]
pub struct JumpRefusal {
    /// The tuning has no jump at all.
    pub no_jump: bool,
    /// It flaps, but not from the ground.
    pub flaps_in_air_only: bool,
    /// The body holds on to a wall, and there is no jump off it.
    pub holding: bool,
    /// For how many ticks the body has been without ground that it walked off, and the coyote time in
    /// ticks. `None` if it left the ground otherwise.
    pub in_air_for: Option<(u64, u64)>,
    /// Whether walls can be jumped off, and why this cannot.
    pub wall: Option<NoWallJump>,
    /// Whether there are air jumps in the tuning, but none is left.
    pub air_jumps_spent: bool,
    /// An air jump is left, but the ground is near.
    pub waits_for_ground: bool,
    /// The last tick in which the press can still be used; `None` if it is not kept.
    pub kept_until: Option<u64>,
}

/// Why there was no jump off a wall.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
#[non_exhaustive]
pub enum NoWallJump {
    /// None is within the probe, nor was within the coyote time.
    NoWall,
    /// It is the one jumped off last.
    SameWall,
}

/// Why a press of jump is no longer kept.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
#[non_exhaustive]
pub enum Forgotten {
    /// The buffer time is over.
    Late,
    /// A ladder was taken.
    TookLadder,
    /// A wall's hold was taken.
    TookWall,
    /// A one-way top was dropped through.
    Dropped,
}

/// Why a ladder was not taken though up or down is held.
#[derive(Clone, Copy, Debug, PartialEq)]
#[non_exhaustive]
pub enum LadderRefusal {
    /// Its middle is further away than the probe.
    OffCentre {
        /// How far, px.
        by: f64,
        /// The probe, px.
        probe: f64,
    },
    /// It was jumped off, and neither up nor down has been pressed afresh.
    NotPressedAfresh,
    /// Down is held, but something solid supports.
    SolidBelow,
}

/// Why a wall was not held on to.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
#[non_exhaustive]
pub enum HoldRefusal {
    /// The direction away from it is held.
    AwayHeld,
    /// The body rises.
    Rising,
    /// It stands, and holds are not taken from the ground.
    OnGround,
    /// It was let go, and has neither been out of the probe since nor grab pressed afresh.
    NotPressedAfresh,
    /// The wall does not go past the body's middle.
    BesideMiddle,
}

/// Why a ladder or a wall was let go.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
#[non_exhaustive]
pub enum LetGo {
    /// The direction away from the wall is held.
    AwayHeld,
    /// Grab is no longer held.
    GrabReleased,
    /// It ended, or is no longer beside the body.
    Ended,
    /// The feet came to a floor.
    Floor,
    /// Something stopped a climb on its way over the wall's top.
    WayOverStopped,
}

impl Decision {
    /// The same where ticks are counted from so many before: for a run whose world went back in time.
    #[must_use]
    pub fn later_by(self, ticks: u64) -> Decision {
        match self {
            Decision::Jumped { from, pressed: Some(pressed), lost_ago } => {
                Decision::Jumped { from, pressed: Some(pressed + ticks), lost_ago }
            }
            Decision::JumpRefused(refusal) => Decision::JumpRefused(JumpRefusal {
                kept_until: refusal.kept_until.map(|until| until + ticks),
                ..refusal
            }),
            Decision::PressForgotten { pressed, because } => {
                Decision::PressForgotten { pressed: pressed + ticks, because }
            }
            Decision::SteerLocked { until } => Decision::SteerLocked { until: until + ticks },
            other => other,
        }
    }
}

impl fmt::Display for Decision {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        let px = at_most_three_decimals;
        match self {
            Decision::Jumped { from, pressed, lost_ago } => write_jump(f, *from, *pressed, *lost_ago),
            Decision::JumpRefused(refusal) => refusal.fmt(f),
            Decision::PressForgotten { pressed, because } => {
                write!(f, "jump pressed in tick {pressed}: forgotten, ")?;
                f.write_str(match because {
                    Forgotten::Late => "the buffer time is over",
                    Forgotten::TookLadder => "a ladder was taken",
                    Forgotten::TookWall => "a wall's hold was taken",
                    Forgotten::Dropped => "dropped through instead",
                })
            }
            Decision::Released { before, after } if before == after => write!(f, "jump let go: nothing is changed"),
            Decision::Released { before, after } => {
                write!(f, "jump let go: upward speed {} becomes {} px/s", px(*before), px(*after))
            }
            Decision::TookLadder { off_centre } => write!(f, "ladder taken, {} px from its middle", px(*off_centre)),
            Decision::LadderRefused(refusal) => match refusal {
                LadderRefusal::OffCentre { by, probe } => {
                    write!(f, "ladder refused: its middle is {} px away, ladder.probe is {} px", px(*by), px(*probe))
                }
                LadderRefusal::NotPressedAfresh => {
                    f.write_str("ladder refused: jumped off it, and neither up nor down pressed afresh")
                }
                LadderRefusal::SolidBelow => f.write_str("ladder refused: something solid supports"),
            },
            Decision::TookWall(side) => write!(f, "wall held on the {}", side.name()),
            Decision::HoldRefused(refusal) => f.write_str(match refusal {
                HoldRefusal::AwayHeld => "hold refused: the direction away is held",
                HoldRefusal::Rising => "hold refused: still rising, and wall.hold.while_rising is false",
                HoldRefusal::OnGround => "hold refused: standing, and wall.hold.from_ground is false",
                HoldRefusal::NotPressedAfresh => "hold refused: let go before, and grab not pressed afresh",
                HoldRefusal::BesideMiddle => "hold refused: the wall does not go past the body's middle",
            }),
            Decision::ClimbStopped(Some(piece)) => write!(f, "climb stopped: {piece} is above the head"),
            Decision::ClimbStopped(None) => f.write_str("climb stopped: something is above the head"),
            Decision::LetGo(why) => f.write_str(match why {
                LetGo::AwayHeld => "let go: the direction away is held",
                LetGo::GrabReleased => "let go: grab is no longer held",
                LetGo::Ended => "let go: nothing to hold on to any more",
                LetGo::Floor => "let go: the feet came to a floor",
                LetGo::WayOverStopped => "let go: the way over the wall's top is not free",
            }),
            Decision::Slides { side, before, top_speed } if before > top_speed => {
                let (before, top) = (px(*before), px(*top_speed));
                write!(f, "slides down the {} wall: fall cut from {before} to {top} px/s", side.name())
            }
            Decision::Slides { side, top_speed, .. } => {
                write!(f, "slides down the {} wall, no faster than {} px/s", side.name(), px(*top_speed))
            }
            Decision::SlideRefused(side) => write!(f, "no slide: the {} wall is touched, not pushed", side.name()),
            Decision::Dropped => f.write_str("dropped through"),
            Decision::DropRefused => f.write_str("drop refused: something solid supports too"),
            Decision::SteppedUp { by } => write!(f, "walked up a step of {} px", px(*by)),
            Decision::StepRefused { by, most } => {
                write!(f, "step of {} px refused: body.step_height is {} px, or no room on it", px(*by), px(*most))
            }
            Decision::Lifted { by } => write!(f, "lifted {} px onto the ledge", px(*by)),
            Decision::LiftRefused { by, most } => {
                write!(
                    f,
                    "lift refused: {} px below the ledge, body.ledge_lift is {} px, or no room",
                    px(*by),
                    px(*most)
                )
            }
            Decision::Nudged { by } => write!(f, "nudged {} px past a corner", px(*by)),
            Decision::NudgeRefused { most } => {
                write!(f, "head stopped: no free way past it within body.corner_nudge, {} px", px(*most))
            }
            Decision::SetDown { by } => write!(f, "set down {} px, following the ground", px(*by)),
            Decision::SetDownRefused { by } => write!(f, "not set down: the next top is {} px below", px(*by)),
            Decision::BumpRemembered { speed, ticks } => {
                write!(f, "the wall took {} px/s: remembered for {}", px(speed.abs()), Ticks(*ticks))
            }
            Decision::BumpGivenBack { speed } => write!(f, "past the wall: {} px/s given back", px(speed.abs())),
            Decision::Caught { rise } => write!(f, "caught by a faster platform: a rise of {} px/s ends", px(*rise)),
            Decision::TookAlong { right, up } if *up == 0.0 => {
                write!(f, "left a platform: its {} px/s sideways taken along", px(*right))
            }
            Decision::TookAlong { right, up } => {
                write!(f, "left a platform: its {} px/s sideways and {} px/s upward taken along", px(*right), px(*up))
            }
            Decision::ActedOn { push, drift } => {
                let two = |of: &DVec2| (px(of.x), px(-of.y));
                let ((push_x, push_y), (drift_x, drift_y)) = (two(push), two(drift));
                match (*push != DVec2::ZERO, *drift != DVec2::ZERO) {
                    (true, false) => write!(f, "the game pushes it at ({push_x}, {push_y}) px/s^2"),
                    (false, _) => write!(f, "the game drifts it at ({drift_x}, {drift_y}) px/s"),
                    (true, true) => {
                        write!(
                            f,
                            "the game pushes it at ({push_x}, {push_y}) px/s^2, and drifts it at ({drift_x}, {drift_y}) px/s"
                        )
                    }
                }
            }
            Decision::CrushedByTerrain => {
                f.write_str("crushed: the terrain became solid here, nothing is done until clear")
            }
            Decision::Crushed => f.write_str("crushed: terrain refuses the push, nothing is done until clear"),
            Decision::Crumbles => f.write_str("what is stood on begins to crumble"),
            Decision::Flapped { before, after } => {
                write!(f, "jump pressed: a flap, upward speed {} becomes {} px/s", px(*before), px(*after))
            }
            Decision::Thrusts { lift, gravity } => {
                write!(f, "jump held: a thrust of {} px/s^2 against gravity of {}", px(*lift), px(*gravity))
            }
            Decision::NotSteered => f.write_str("not steered: jump is up, and flight.steer is \"while-held\""),
            Decision::SlidAroundCorner { by } => write!(f, "slid {} px around a corner", px(*by)),
            Decision::JumpedOnLanding => f.write_str("jumped at once: jump.on_landing is \"jump\""),
            Decision::Turned { to } => write!(f, "stopped by a face: runs to the {} from now on", to.name()),
            Decision::SteerLocked { until } => {
                write!(f, "the way back to the wall counts as none until tick {until}")
            }
        }
    }
}

fn write_jump(
    f: &mut fmt::Formatter<'_>,
    from: JumpedFrom,
    pressed: Option<u64>,
    lost_ago: Option<u64>,
) -> fmt::Result {
    match pressed {
        Some(pressed) => write!(f, "jump pressed in tick {pressed}: used, ")?,
        None => f.write_str("jump held: used again, ")?,
    }
    match (from, lost_ago) {
        (JumpedFrom::Ground, None) => f.write_str("from the ground"),
        (JumpedFrom::Ground, Some(ago)) => write!(f, "from the ground lost {} ago", Ticks(ago)),
        (JumpedFrom::Wall, None) => f.write_str("off the wall"),
        (JumpedFrom::Wall, Some(ago)) => write!(f, "off the wall lost {} ago", Ticks(ago)),
        (JumpedFrom::Ladder, _) => f.write_str("off the ladder"),
        (JumpedFrom::Air, _) => f.write_str("in the air"),
    }
}

impl fmt::Display for JumpRefusal {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.write_str("jump refused: ")?;
        let mut reasons = 0;
        let mut separate = |f: &mut fmt::Formatter<'_>| {
            reasons += 1;
            f.write_str(if reasons > 1 { "; " } else { "" })
        };
        if self.no_jump {
            separate(f)?;
            f.write_str("the tuning has no [jump]")?;
        }
        if self.flaps_in_air_only {
            separate(f)?;
            f.write_str("flight.from_ground is false")?;
        }
        if let Some((ticks, coyote)) = self.in_air_for {
            separate(f)?;
            write!(f, "in the air for {}, coyote time is {coyote}", Ticks(ticks))?;
        } else if self.holding {
            separate(f)?;
            f.write_str("holding on to a wall that cannot be jumped off")?;
        } else if !self.no_jump {
            separate(f)?;
            f.write_str("in the air")?;
        }
        if let Some(wall) = self.wall {
            separate(f)?;
            f.write_str(match wall {
                NoWallJump::NoWall => "no wall touched",
                NoWallJump::SameWall => "the same wall as before",
            })?;
        }
        if self.air_jumps_spent {
            separate(f)?;
            f.write_str("no air jump left")?;
        }
        if self.waits_for_ground {
            separate(f)?;
            f.write_str("the ground is near, an air jump is saved")?;
        }
        match self.kept_until {
            Some(tick) => write!(f, "; kept until tick {tick}"),
            None => f.write_str("; not kept"),
        }
    }
}

/// A number of ticks with its word.
struct Ticks(u64);

impl fmt::Display for Ticks {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        write!(f, "{} {}", self.0, if self.0 == 1 { "tick" } else { "ticks" })
    }
}
