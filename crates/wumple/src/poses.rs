//! Which picture of a character is shown in a tick: rows of a tuning file, and the clock of their clips.
//!
//! Pictures follow from what a tick reports, and change nothing in the motion.

use wumple_core::{DVec2, Facing, Round, State, TickReport};

/// A row of `[[pose]]`: when it is shown, and how its pictures follow each other.
#[derive(Clone, Debug, PartialEq)]
#[non_exhaustive]
pub struct Pose {
    /// What it is called: one word, or words joined by hyphens.
    pub name: String,
    /// When it is shown.
    pub when: PoseWhen,
    /// How many pictures its clip has, from 1.
    pub pictures: u32,
    /// How they follow each other.
    pub advance: Advance,
}

/// How the pictures of a clip follow each other, over and over.
#[derive(Clone, Copy, Debug, PartialEq)]
#[non_exhaustive]
pub enum Advance {
    /// There is one, or the first is shown all the time.
    Still,
    /// So many a second, above 0.
    Pace(f64),
    /// One after so many px gone at its own speed, above 0: so feet do not slide, however fast it runs and whatever
    /// carries it.
    Stride(f64),
}

/// When a pose is shown: all that is asked for must be so; of what is not asked for nothing matters.
#[derive(Clone, Debug, Default, PartialEq)]
#[non_exhaustive]
pub struct PoseWhen {
    /// In one of these states; empty: in any.
    pub states: Vec<State>,
    /// It looks one of these ways; empty: any. Up and down only who is seen from above.
    pub facings: Vec<Facing>,
    /// Whether something holds it up.
    pub support: Option<bool>,
    /// Whether it came to another place in the tick, by whatever moved it.
    pub moved: Option<bool>,
    /// Whether it has an upward speed.
    pub rising: Option<bool>,
    /// Whether it was hurt and is spared still.
    pub hurt: Option<bool>,
    /// Whether its defeat is being shown.
    pub defeated: Option<bool>,
}

/// What became of a character in a round, for its picture. Without a round, neither.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub struct Harm {
    /// It was hurt and is spared still.
    pub hurt: bool,
    /// Its defeat is being shown.
    pub defeated: bool,
}

impl Harm {
    /// What became of the character of this round by now.
    #[must_use]
    pub fn of(round: &Round) -> Harm {
        let defeated = round.is_defeated();
        Harm { hurt: !defeated && round.is_spared(), defeated }
    }
}

impl PoseWhen {
    /// Whether it is so in a tick.
    #[must_use]
    pub fn holds(&self, report: &TickReport, harm: Harm) -> bool {
        self.holds_in(&Situation {
            state: report.state,
            facing: report.facing,
            support: report.contacts.below,
            moved: report.moved() != DVec2::ZERO,
            rising: report.velocity.y < 0.0,
            harm,
        })
    }

    pub(crate) fn holds_in(&self, found: &Situation) -> bool {
        let is = |asked: Option<bool>, found: bool| asked.is_none_or(|asked| asked == found);
        (self.states.is_empty() || self.states.contains(&found.state))
            && (self.facings.is_empty() || self.facings.contains(&found.facing))
            && is(self.support, found.support)
            && is(self.moved, found.moved)
            && is(self.rising, found.rising)
            && is(self.hurt, found.harm.hurt)
            && is(self.defeated, found.harm.defeated)
    }
}

/// What poses look at.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(crate) struct Situation {
    pub(crate) state: State,
    pub(crate) facing: Facing,
    pub(crate) support: bool,
    pub(crate) moved: bool,
    pub(crate) rising: bool,
    pub(crate) harm: Harm,
}

/// The picture of a tick.
#[derive(Clone, Copy, Debug, PartialEq)]
#[non_exhaustive]
pub struct Shown<'a> {
    /// The pose.
    pub pose: &'a Pose,
    /// Which of its pictures, from 0.
    pub picture: u32,
    /// Whether it is turned to the left.
    pub flip: bool,
}

/// The clock of a character's clips: asked once a tick, in order.
///
/// ```
/// use wumple::poses::{Harm, PoseClock};
/// use wumple::{Buttons, Level, TuningFile};
///
/// let text = "[body]\nwidth = 10\nheight = 14\n[run]\ntop_speed = 120\n[fall]\ngravity = 900\n\
///             [[pose]]\nname = \"run\"\nwhen = { state = \"run\" }\npictures = 4\nstride = 8\n\
///             [[pose]]\nname = \"idle\"\n";
/// let dab = TuningFile::parse("dab", text)?;
/// let level = Level::parse("room", "[map]\nrows = '''\n@.....\n######\n'''\n")?;
/// let (mut world, id) = level.world(&dab.tuning)?;
/// let mut clock = PoseClock::default();
/// let mut shown = Vec::new();
/// for tick in 0..8 {
///     world.tick(&[Buttons { right: tick >= 2, ..Buttons::NONE }]);
///     let now = clock.show(&dab.poses, world.report(id), Harm::default(), 60.0).unwrap();
///     shown.push((now.pose.name.as_str(), now.picture));
/// }
/// // Two px a tick: after four ticks the next picture.
/// assert_eq!(shown[1..7], [("idle", 0), ("run", 0), ("run", 0), ("run", 0), ("run", 0), ("run", 1)]);
/// # Ok::<(), Box<dyn std::error::Error>>(())
/// ```
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub struct PoseClock {
    /// Which pose it was, by its place.
    pose: Option<usize>,
    /// For how many ticks.
    ticks: u64,
    /// How far it went meanwhile at its own speed, px.
    way: f64,
    flip: bool,
}

impl PoseClock {
    /// Whether the character is turned to the left: by the last tick in which it looked to a side.
    #[must_use]
    pub fn flip(&self) -> bool {
        self.flip
    }

    /// The picture of a tick: of the first pose that is to be shown; none if there is no such one. `rate`: ticks a second.
    pub fn show<'a>(&mut self, poses: &'a [Pose], report: &TickReport, harm: Harm, rate: f64) -> Option<Shown<'a>> {
        // Looking up or down, it stays turned as it was.
        match report.facing {
            Facing::Left => self.flip = true,
            Facing::Right => self.flip = false,
            _ => {}
        }
        let found = poses.iter().position(|pose| pose.when.holds(report, harm));
        if found == self.pose && found.is_some() {
            self.ticks += 1;
            self.way += report.velocity.length() / rate;
        } else {
            (self.pose, self.ticks, self.way) = (found, 0, 0.0);
        }
        let pose = &poses[found?];
        let passed = match pose.advance {
            Advance::Still => 0.0,
            // A hair more, so that rounding decides nothing.
            Advance::Pace(pace) => self.ticks as f64 * pace / rate + 1e-9,
            Advance::Stride(stride) => self.way / stride + 1e-9,
        };
        let picture = (passed as u64 % u64::from(pose.pictures.max(1))) as u32;
        Some(Shown { pose, picture, flip: self.flip })
    }
}
