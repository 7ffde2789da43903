//! Numbers from wishes: the jump that is so high, so quick, so far.

mod error;
mod moves;
mod solve;
pub(super) mod write;

use serde::Serialize;
use wumple_core::numbers::{Acceleration, FallNumbers, RunNumbers, Scheme};
use wumple_core::{Tuning, TuningNumbers};

use super::arcs::JumpArc;
use crate::files::TuningFile;
use crate::units::{Quantity, Scale};
use solve::Base;
use write::{new_text, text_with};

pub use error::FitError;
pub use moves::{FlapFit, FlapWishes, MoveFitError, WalkFit, WalkWishes, fit_flaps, fit_walk};
pub use solve::rounding_of;

/// What is wished for. What is not given is decided by the rest, or kept of the tuning that is changed.
///
/// Bare numbers are px, seconds and px/s.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Wishes {
    /// How high a full jump is: a length from 1/1024 px on.
    pub height: Option<Quantity>,
    /// How long it takes to its apex: a time of at most a minute.
    pub time_to_apex: Option<Quantity>,
    /// How far a full jump at top speed goes over level ground: a length.
    pub gap: Option<Quantity>,
    /// The run's top speed.
    pub top_speed: Option<Quantity>,
    /// How high the smallest hop is: a length, at most the height.
    pub tap_height: Option<Quantity>,
    /// How much greater the gravity of the fall is than that of the rise: above 0, at most a million.
    pub fall_ratio: Option<f64>,
}

/// The loop that the numbers are for.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct GameLoop {
    /// Ticks a second, 1 to 10,000.
    pub rate: f64,
    /// How it integrates.
    pub scheme: Scheme,
    /// What `tile` and `frame` mean.
    pub scale: Scale,
}

/// A speed in the units that loops are written in.
#[derive(Clone, Copy, Debug, PartialEq, Serialize)]
#[non_exhaustive]
pub struct SpeedUnits {
    /// px/s.
    pub px_s: f64,
    /// px a frame.
    pub px_frame: f64,
    /// Tiles a second.
    pub tiles_s: f64,
}

/// An acceleration in the units that loops are written in.
#[derive(Clone, Copy, Debug, PartialEq, Serialize)]
#[non_exhaustive]
pub struct AccelerationUnits {
    /// px/s^2.
    pub px_s2: f64,
    /// px a frame, a frame.
    pub px_frame2: f64,
    /// Tiles a second, a second.
    pub tiles_s2: f64,
}

impl SpeedUnits {
    fn new(px_s: f64, scale: &Scale) -> SpeedUnits {
        SpeedUnits { px_s, px_frame: px_s / scale.frames_per_second, tiles_s: px_s / scale.tile }
    }

    /// With upward negative, as a loop with y down needs it.
    #[must_use]
    pub fn reversed(self) -> SpeedUnits {
        SpeedUnits { px_s: -self.px_s, px_frame: -self.px_frame, tiles_s: -self.tiles_s }
    }
}

impl AccelerationUnits {
    fn new(px_s2: f64, scale: &Scale) -> AccelerationUnits {
        let frames = scale.frames_per_second;
        AccelerationUnits { px_s2, px_frame2: px_s2 / (frames * frames), tiles_s2: px_s2 / scale.tile }
    }

    /// With upward negative, as a loop with y down needs it.
    #[must_use]
    pub fn reversed(self) -> AccelerationUnits {
        AccelerationUnits { px_s2: -self.px_s2, px_frame2: -self.px_frame2, tiles_s2: -self.tiles_s2 }
    }
}

/// The numbers that meet the wishes, and what they do: measured from the tuning as it would be written.
/// Serializes as `wumple-fit 1`.
///
/// `speed` is upward and positive; gravities are given by their size.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[non_exhaustive]
pub struct Fit {
    /// `wumple-fit 1`.
    pub format: &'static str,
    /// Ticks a second.
    pub rate_hz: f64,
    /// The scheme of integration.
    pub scheme: &'static str,
    /// The side of a tile, px.
    pub tile_px: f64,
    /// At take-off.
    pub speed: SpeedUnits,
    /// While rising.
    pub rise_gravity: AccelerationUnits,
    /// While falling.
    pub fall_gravity: AccelerationUnits,
    /// The run's top speed, if the wishes decide it or the tuning that is changed has one.
    pub top_speed: Option<SpeedUnits>,
    /// The full jump that comes of it; the running one if a top speed is known.
    pub predicted: JumpArc,
    /// How high a jump gets whose button is held for one tick, px, if a smallest hop was wished for.
    pub tap_height_px: Option<f64>,
    /// Which wish decides what, and what is kept, in words.
    pub decided: Vec<String>,
    /// What the rate rounds and what gives way, in words.
    pub warnings: Vec<String>,
    #[serde(skip)]
    pub(super) tuning: Tuning,
    #[serde(skip)]
    pub(super) text: String,
}

/// Finds the numbers that meet the wishes in a loop: of a jump with one gravity up and one down, and no more.
///
/// ```
/// use wumple::{GameLoop, Wishes, fit};
/// use wumple::numbers::Scheme;
/// use wumple::units::{Quantity, Scale};
///
/// let looped = GameLoop { rate: 60.0, scheme: Scheme::Exact, scale: Scale { tile: 16.0, frames_per_second: 60.0 } };
/// let wishes = Wishes {
///     height: Some(Quantity::parse("3 tiles")?),
///     time_to_apex: Some(Quantity::parse("0.4 s")?),
///     ..Wishes::default()
/// };
/// let found = fit(&wishes, &looped)?;
/// assert_eq!(found.speed.px_s, 240.0);
///
/// // The jump and its fall, for numbers that a game keeps in its code:
/// let found = found.tuning().numbers();
/// let mine = wumple::TuningNumbers::new(10.0, 22.0, 120.0);
/// let mine = wumple::TuningNumbers { jump: found.jump.clone(), fall: found.fall.clone(), ..mine };
/// assert_eq!(wumple::Tuning::check(&mine)?.jump().unwrap().speed, 240.0);
/// # Ok::<(), Box<dyn std::error::Error>>(())
/// ```
///
/// # Errors
///
/// If the wishes do not decide a height and a time, contradict one another, or ask for more than can be.
pub fn fit(wishes: &Wishes, looped: &GameLoop) -> Result<Fit, FitError> {
    let plain = TuningNumbers::new(1.0, 1.0, 0.0);
    let numbers = TuningNumbers {
        rate: looped.rate,
        scheme: looped.scheme,
        run: RunNumbers { acceleration: Acceleration::Instant, ..plain.run },
        fall: FallNumbers::default(),
        ..plain
    };
    let base = Base { numbers, scale: looped.scale, kept: None };
    let solved = base.solve(wishes)?;
    let text = new_text(&solved, looped);
    base.measured(solved, "fit", text)
}

/// Finds the numbers that meet the wishes in a tuning file, and changes just those in its text: what else it says
/// of the jump and the fall (gravity ratio, top fall speed, hang, release) enters the solution.
///
/// A height or time that is not wished for is the file's; so is the top speed.
///
/// # Errors
///
/// If the text is no right tuning; like [`fit`], with what the file keeps.
pub fn fit_into(wishes: &Wishes, name: &str, text: &str) -> Result<Fit, FitError> {
    let file = TuningFile::parse(name, text).map_err(FitError::Wrong)?;
    let base = Base { numbers: file.tuning.numbers().clone(), scale: file.scale, kept: Some(&file) };
    let solved = base.solve(wishes)?;
    let looped = GameLoop { rate: file.tuning.rate(), scheme: file.tuning.scheme(), scale: file.scale };
    let text = text_with(&solved, text, &looped);
    base.measured(solved, name, text)
}

impl Fit {
    /// The tuning that [`tuning_text`](Fit::tuning_text) says, for a game that runs: of [`fit_into`], all of the
    /// character's, for [`World::retune`](wumple_core::World::retune); of [`fit`], the jump, the fall and the top
    /// speed, to be taken over into numbers of one's own.
    #[must_use]
    pub fn tuning(&self) -> &Tuning {
        &self.tuning
    }

    /// The text of a tuning file with the numbers found: of the one that was changed, comments and all else as it
    /// was, or a whole new one, with a hitbox of ten sixteenths of a tile by 22, to be changed from there.
    #[must_use]
    pub fn tuning_text(&self) -> &str {
        &self.text
    }
}
