//! How speeds and places follow from accelerations: the ways a game's loop may integrate.

pub(crate) mod exact;

pub use exact::Piece;

/// One axis over one tick.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Moved {
    /// The speed at the end, px/s.
    pub speed: f64,
    /// How far it would carry the body, px.
    pub by: f64,
}

impl Moved {
    /// Neither speed nor way.
    pub const STILL: Moved = Moved { speed: 0.0, by: 0.0 };
}

/// The pull on a body in the air, by the phase it is in. Speeds here are downward, as the axes are.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Gravity {
    /// While the speed is upward, px/s^2.
    pub rise: f64,
    /// From rest on downward, px/s^2.
    pub fall: f64,
    /// No fall is faster, px/s.
    pub top_speed: f64,
}

impl Gravity {
    /// The same gravity up and down.
    pub fn new(gravity: f64, top_speed: f64) -> Gravity {
        Gravity { rise: gravity, fall: gravity, top_speed }
    }

    /// The acceleration at a downward speed, and the speed at which it changes, if ever.
    #[inline]
    pub(crate) fn phase(&self, speed: f64) -> (f64, Option<f64>) {
        if speed < 0.0 {
            (self.rise, Some(0.0))
        } else if speed < self.top_speed {
            (self.fall, Some(self.top_speed))
        } else {
            (0.0, None)
        }
    }
}
