//! What is found out too late, found before a run: typed findings about levels, tunings and the way from level to level.

use std::fmt;
use std::path::Path;

use serde::Serialize;

use crate::files::{Diagnostic, Level, TrialFile, TuningFile};

mod ladders;
mod level;
mod links;
mod passages;
mod platforms;
mod poses;
mod reach;
mod tuning;
mod view;
mod walls;

pub(super) use level::zones_of;

/// What kind of thing was found.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, PartialOrd, Ord, Serialize)]
#[serde(rename_all = "kebab-case")]
#[non_exhaustive]
pub enum FindingKind {
    /// The next level is not there, wrong, or leads back; or another file that is named is not there.
    BrokenLink,
    /// The character starts in something that hurts.
    SpawnInHazard,
    /// Nothing is beneath the spawn.
    SpawnOverNothing,
    /// Whoever falls off falls for ever.
    OpenEdge,
    /// A level with a round has no goal.
    NoGoal,
    /// No goal can ever be open.
    GoalClosedForEver,
    /// A zone lies where nobody can be.
    ZoneNeverFelt,
    /// Whoever starts again at a checkpoint is hurt at once.
    CheckpointOverHazard,
    /// A ladder ends further below its ledge than a jump.
    LadderTooShort,
    /// Something is over the way up a ladder.
    LadderBlocked,
    /// One wall can be climbed without end by jumping off it.
    WallClimbedForEver,
    /// What never comes back is the only way.
    SlabNeverBack,
    /// Whoever springs by bounces alone stays where a top does not bounce.
    DeadTop,
    /// A platform's way leads through something solid.
    RouteThroughSolid,
    /// A platform's way leads out of the map.
    RouteOutsideMap,
    /// Something lies where nobody will meet it, or is odd about the level's file.
    OddLevel,
    /// What is to be fetched lies where the hitbox does not fit.
    TightPassage,
    /// What is to be fetched can be come to by nobody.
    OutOfReach,
    /// The picture does not fit the hitbox.
    PictureOff,
    /// For something that the character does, no pose is to be shown.
    StateWithoutPose,
    /// The pictures of a pose for going follow by the second, however fast it goes.
    FeetSlide,
    /// A pose is shown for one tick.
    PoseFlashes,
    /// Somebody, or something to be fetched, is where the camera does not see it.
    OutOfView,
    /// A number looks like one of another unit.
    OtherUnit,
}

impl FindingKind {
    /// Its word: `ladder-too-short`.
    #[must_use]
    pub fn word(self) -> &'static str {
        match self {
            FindingKind::BrokenLink => "broken-link",
            FindingKind::SpawnInHazard => "spawn-in-hazard",
            FindingKind::SpawnOverNothing => "spawn-over-nothing",
            FindingKind::OpenEdge => "open-edge",
            FindingKind::NoGoal => "no-goal",
            FindingKind::GoalClosedForEver => "goal-closed-for-ever",
            FindingKind::ZoneNeverFelt => "zone-never-felt",
            FindingKind::CheckpointOverHazard => "checkpoint-over-hazard",
            FindingKind::LadderTooShort => "ladder-too-short",
            FindingKind::LadderBlocked => "ladder-blocked",
            FindingKind::WallClimbedForEver => "wall-climbed-for-ever",
            FindingKind::SlabNeverBack => "slab-never-back",
            FindingKind::DeadTop => "dead-top",
            FindingKind::RouteThroughSolid => "route-through-solid",
            FindingKind::RouteOutsideMap => "route-outside-map",
            FindingKind::OddLevel => "odd-level",
            FindingKind::TightPassage => "tight-passage",
            FindingKind::OutOfReach => "out-of-reach",
            FindingKind::PictureOff => "picture-off",
            FindingKind::StateWithoutPose => "state-without-pose",
            FindingKind::FeetSlide => "feet-slide",
            FindingKind::PoseFlashes => "pose-flashes",
            FindingKind::OutOfView => "out-of-view",
            FindingKind::OtherUnit => "other-unit",
        }
    }
}

/// Something found before a run. Displayed in three lines: where and what, what it leads to, what would be right.
#[derive(Clone, Debug, PartialEq, Eq)]
#[non_exhaustive]
pub struct Finding {
    /// What kind of thing it is.
    pub kind: FindingKind,
    /// Where it is in a file; the message says what is there.
    pub place: Diagnostic,
    /// What it leads to.
    pub leads_to: String,
    /// What would be right.
    pub remedy: String,
}

impl Finding {
    fn new(kind: FindingKind, place: Diagnostic, [what, leads_to, remedy]: [String; 3]) -> Finding {
        Finding { kind, place: place.with_message(what), leads_to, remedy }
    }

    /// Its columns, as they are written in JSON and CSV.
    #[must_use]
    pub fn columns(&self) -> FindingColumns<'_> {
        FindingColumns {
            kind: self.kind.word(),
            file: self.place.file(),
            line: self.place.line(),
            column: self.place.column(),
            what: self.place.message(),
            leads_to: &self.leads_to,
            remedy: &self.remedy,
        }
    }
}

impl fmt::Display for Finding {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        let FindingColumns { kind, file, line, column, what, leads_to, remedy } = self.columns();
        write!(f, "{file}:{line}:{column}: {kind}: {what}\n    leads to: {leads_to}\n    right: {remedy}")
    }
}

/// A finding as a row.
#[derive(Clone, Debug, PartialEq, Eq, Serialize)]
#[non_exhaustive]
pub struct FindingColumns<'a> {
    /// What kind of thing it is: `ladder-too-short`.
    pub kind: &'a str,
    /// The file.
    pub file: &'a str,
    /// The line, from 1.
    pub line: usize,
    /// The column, from 1.
    pub column: usize,
    /// What is there.
    pub what: &'a str,
    /// What it leads to.
    pub leads_to: &'a str,
    /// What would be right.
    pub remedy: &'a str,
}

/// What is wrong with a level, though it can be read. With a tuning it is looked at as that character meets it: ladders, slabs,
/// passages, what a checkpoint stands over, what it cannot come to.
///
/// ```
/// use wumple::analysis::{FindingKind, check_level};
/// # let text = "[round]\n[map]\nrows = '''\n@..\n###\n'''\n";
/// let level = wumple::Level::parse("kiln", text)?;
/// let found = check_level(&level, None);
/// assert_eq!(found[0].kind, FindingKind::NoGoal);
/// # Ok::<(), Box<dyn std::error::Error>>(())
/// ```
#[must_use]
pub fn check_level(level: &Level, tuning: Option<&TuningFile>) -> Vec<Finding> {
    let mut found = Vec::new();
    let from_above = tuning.is_some_and(|tuning| tuning.tuning.four_way().is_some());
    level::check(level, from_above, &mut found);
    platforms::check_routes(level, &mut found);
    if let Some(tuning) = tuning {
        level::check_with(level, tuning, &mut found);
        ladders::check(level, tuning, &mut found);
        platforms::check_with(level, tuning, &mut found);
        passages::check(level, tuning, &mut found);
        reach::check(level, tuning, &mut found);
        view::check(level, tuning, &mut found);
    }
    found
}

/// What is seen to be wrong when a trial runs, whatever it expects: who leaves the view, a pose that is shown for one tick. Its level and
/// its tuning are looked at by [`check_level`] and [`check_tuning`].
///
/// # Errors
///
/// If the character does not fit at the level's spawn.
pub fn check_run(trial: &TrialFile) -> Result<Vec<Finding>, Diagnostic> {
    let mut found = Vec::new();
    let mut trace = crate::run(&trial.level, &trial.tuning.tuning, &trial.timeline, trial.ticks)?;
    trace.show(&trial.tuning.poses);
    poses::check_run(trial, &trace, &mut found);
    view::check_run(trial, &trace, &mut found);
    Ok(found)
}

/// What is wrong with a tuning, though it can be read: numbers that look like another unit, a picture that does not fit, a wall that is
/// climbed without end.
#[must_use]
pub fn check_tuning(tuning: &TuningFile) -> Vec<Finding> {
    let mut found = Vec::new();
    tuning::check(tuning, &mut found);
    walls::check(tuning, &mut found);
    found
}

/// What is wrong with the way from a level to the next ones: each is read. `file` is the level's own.
#[must_use]
pub fn check_links(level: &Level, file: &Path) -> Vec<Finding> {
    links::check_next(level, file, Level::read).into_iter().collect()
}

/// The same where the maps of levels may be anywhere in the folder `maps`.
#[must_use]
pub fn check_links_within(level: &Level, file: &Path, maps: &Path) -> Vec<Finding> {
    links::check_next(level, file, |path| Level::read_within(path, maps)).into_iter().collect()
}

/// The files that a level or a trial names (its map; level, tuning and buttons) and that are not there: why it cannot be read.
#[must_use]
pub fn check_named_files(path: &Path) -> Vec<Finding> {
    links::check_named(path)
}
