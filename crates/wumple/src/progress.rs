//! How far a player has come, to be stored.

use wumple_core::{CharacterId, Round, Terrain, World, ZoneId, ZoneKind, ZoneOf};

use crate::files::Level;

/// How far a player has come in a level: data, to be stored as the game likes. Everything in it is words and numbers, so that it
/// outlives a change of the level as far as it can.
///
/// ```
/// use wumple::{Buttons, Level, Progress, TuningFile};
///
/// # let text = "[round]\nlives = 3\n[map]\nrows = '''\n@.*.+.\n######\n'''\n";
/// # let dab = TuningFile::parse("dab", wumple::demo::DAB)?;
/// let level = Level::parse("store.level.toml", text)?;
/// let (mut world, id) = level.world(&dab.tuning)?;
/// let mut round = level.start_round(&world, id).ok_or("it has a [round]")?;
/// while round.checkpoint().is_none() {
///     world.tick(&[Buttons { right: true, ..Buttons::NONE }]);
///     round.play(&mut world, id);
/// }
/// let kept = serde_json::to_string(&Progress::of(&level, &round))?;
/// assert_eq!(kept, r#"{"level":"store","checkpoint":"checkpoint@4,0","picked":["pickup@2,0"],"lives":3}"#);
///
/// // Another day.
/// let progress: Progress = serde_json::from_str(&kept)?;
/// let (mut world, id) = level.world(&dab.tuning)?;
/// let mut round = level.start_round(&world, id).ok_or("it has a [round]")?;
/// progress.resume(&level, &mut round, &mut world, id);
/// assert_eq!((round.picked(), world.report(id).feet.x), (1, 72.0));
/// # Ok::<(), Box<dyn std::error::Error>>(())
/// ```
#[derive(Clone, Debug, Default, PartialEq, Eq)]
#[cfg_attr(
    any(feature = "serde", feature = "instruments"),
    derive(serde::Serialize, serde::Deserialize),
    serde(default)
)]
pub struct Progress {
    /// The name of the level.
    pub level: String,
    /// The checkpoint that was reached last, in the words of a trace: `checkpoint@12,8`.
    pub checkpoint: Option<String>,
    /// What was taken, in the words of a trace.
    pub picked: Vec<String>,
    /// How many lives are left, if they are counted.
    pub lives: Option<u32>,
}

impl Progress {
    /// How far a round of a level has come.
    #[must_use]
    pub fn of(level: &Level, round: &Round) -> Progress {
        let words = |zone: ZoneId| level.names.zone(zone);
        Progress {
            level: level.name.clone(),
            checkpoint: round.checkpoint().map(words),
            picked: round.taken().iter().copied().map(words).collect(),
            lives: round.lives(),
        }
    }

    /// Goes on from there, in a world and a round of the level that have just begun. What the level has no longer is left out.
    pub fn resume<T: Terrain>(&self, level: &Level, round: &mut Round, world: &mut World<T>, id: CharacterId) {
        let taken: Vec<ZoneId> = self.picked.iter().filter_map(|words| level.find_zone(words)).collect();
        let checkpoint = self.checkpoint.as_deref().and_then(|words| level.find_zone(words));
        round.resume(world, id, &taken, checkpoint, self.lives);
    }
}

impl Level {
    /// The zone that words of a trace tell of, if the level has it: `pickup@12,8`, `goal:kiln-door`.
    #[must_use]
    pub fn find_zone(&self, words: &str) -> Option<ZoneId> {
        let zone = self.names.find_zone(words)?;
        let of_kind = |kind: Option<ZoneKind>| (kind == Some(zone.kind)).then_some(zone);
        match zone.of {
            ZoneOf::Tile { column, row } => of_kind(
                self.grid.has_tile(column, row).then(|| self.grid.tile(column, row).zone.map(|of| of.kind)).flatten(),
            ),
            ZoneOf::Block(at) => of_kind(self.grid.blocks().get(at)?.zone.map(|of| of.kind)),
            ZoneOf::Platform(at) => of_kind(self.platforms.get(at)?.zone.map(|of| of.kind)),
            ZoneOf::Prop(at) => of_kind(self.props.get(at)?.zone.map(|of| of.kind)),
            ZoneOf::Drawn(at) => of_kind(Some(self.grid.zones().get(at)?.zone.kind)),
            ZoneOf::Ramp(at) => of_kind(self.grid.zones().iter().find(|of| of.ramp == Some(at)).map(|of| of.zone.kind)),
            _ => None,
        }
    }
}
